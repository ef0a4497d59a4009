"""The bisector of two edges whose corner is off the sheet, by parallels inside them or by bisectors at a transversal."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, atan2_deg, larger
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_least, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class TwoEdges(Givens):
    opening_left: Number = length("distance of the edges at the left end", "62")
    opening_right: Number = length("distance of the edges at the right end", "38")
    length: Number = length("length of the lower edge", "104")


@dataclass(frozen=True)
class _Edges:
    """The lower edge from A to B, the upper one from D over A to C over B."""

    a: Point
    b: Point
    c: Point
    d: Point
    lower: Line
    upper: Line


def truth(g: TwoEdges, number: Make) -> Truth:
    zero = number(0)
    points = {
        "A": Point(zero, zero),
        "B": Point(g.length + 0, zero),
        "C": Point(g.length + 0, g.opening_right + 0),
        "D": Point(zero, g.opening_left + 0),
    }
    return Truth(points=points, findings={"half_angle": atan2_deg(absolute(g.opening_left - g.opening_right), g.length) / 2})


def _edges(b: Board, g: TwoEdges) -> _Edges:
    a = b.point("A", b.number(0), b.number(0), why="the left end of the lower edge")
    lower = b.level_line(a, "lower edge", pen=Pen.GIVEN)
    end = b.lay_off(lower, a, g.length, "B", why="the right end")
    d = b.lay_off(b.upright_line(a, "upright at A"), a, g.opening_left, "D", why="the opening at the left")
    c = b.lay_off(b.upright_line(end, "upright at B"), end, g.opening_right, "C", why="the opening at the right")
    return _Edges(a, end, c, d, lower, b.line(d, c, "upper edge", pen=Pen.GIVEN))


def _finish(b: Board, e: _Edges, bisector: Line, through: Point) -> None:
    if b.slips(middles_joined.name):
        through, far = plane.midpoint(e.a, e.d), plane.midpoint(e.b, e.c)
        bisector = b.line(through, far, "bisector")
    b.line_in((e.a, e.b), (e.d, e.c))
    for back in (False, True):
        b.line_in_along(through, bisector, plane.distance(e.a, e.b) / 3, back=back)
    rises = atan2_deg(absolute(bisector.dy), absolute(bisector.dx))
    b.find("half_angle", rises)
    away = plane.distance_to_line(through, e.lower), plane.distance_to_line(through, e.upper)
    b.check("a point of the bisector is equally far from both edges", away[0] + away[1])


@method("parallels inside", Exactness.EXACT)
def parallels_inside(b: Board, g: TwoEdges) -> None:
    e = _edges(b, g)
    narrow_left = g.decide(lambda h: h.opening_right - h.opening_left) > 0
    wide = b.any_opening(larger(g.opening_left, g.opening_right) * 5 / 11)
    low_end, high_end = (e.b, e.c) if narrow_left else (e.a, e.d)
    on_lower = b.square(e.lower, low_end, "square on the lower edge")
    low = b.lay_off(on_lower, low_end, wide, "E", why="inwards, any distance that lets the parallels cross on the sheet")
    on_upper = b.square(e.upper, high_end, "square on the upper edge")
    high = b.lay_off(on_upper, high_end, wide, "F", back=True, why="inwards, the same distance")
    b.caution("Both parallels keep the same distance from their edges, measured square to them.")
    first = b.parallel(e.lower, low, "lower parallel")
    second = b.parallel(e.upper, high, "upper parallel")
    corner = b.meet(first, second, name="W")
    swung = b.arc(corner, b.any_opening(plane.distance(e.a, e.b) / 3), why="across both parallels")
    one, other = (b.meet(swung, line, plane.beyond(line), str(k)) for k, line in enumerate((first, second), 1))
    opening = b.any_opening(plane.distance(one, other), more_than=span(one, other) / 2)
    ahead = b.meet(b.arc(one, opening), b.arc(other, opening), plane.farthest(corner))
    bisector = b.line(corner, ahead, "bisector")
    _finish(b, e, bisector, corner)
    b.check("the bisector halves the angle of the parallels", _halves(bisector, first, second))


def _halves(bisector: Line, first: Line, second: Line) -> Number:
    """The angles of the bisector with two lines, one less the other, degrees."""

    def away(line: Line) -> Number:
        turn, along = bisector.dx * line.dy - bisector.dy * line.dx, bisector.dx * line.dx + bisector.dy * line.dy
        return atan2_deg(absolute(turn), absolute(along))

    return away(first) - away(second)


@method("transversal bisectors", Exactness.EXACT)
def transversal_bisectors(b: Board, g: TwoEdges) -> None:
    e = _edges(b, g)
    b.line(e.a, e.d, "transversal", why="across both edges, anywhere")
    first = b.bisect(e.a, e.b, e.d, "bisector at A", ("1", "2"))
    second = b.bisect(e.d, e.a, e.c, "bisector at D", ("3", "4"))
    b.caution("The two bisectors of the transversal's angles meet on the line wanted, and so do their perpendiculars.")
    inside = b.meet(first, second, name="I")
    outside = b.meet(b.square(first, e.a, "outer bisector at A"), b.square(second, e.d, "outer bisector at D"), name="J")
    bisector = b.line(outside, inside, "bisector")
    _finish(b, e, bisector, inside)
    b.check(
        "J is equally far from both edges",
        plane.distance_to_line(outside, e.lower) + plane.distance_to_line(outside, e.upper),
    )


@slip("the middles of both openings joined instead")
def middles_joined(g: TwoEdges, number: Make) -> dict[str, Number]:
    return {"half_angle": atan2_deg(absolute(g.opening_left - g.opening_right) / 2, g.length)}


PROBLEM = Problem(
    id="lines/bisect-angle-without-vertex",
    title="Angle halved whose corner is off the sheet",
    brief=(
        "Two edges run together beyond the sheet: the lower is {length} long, and square over its ends the upper is "
        "{opening_left} away at the left and {opening_right} at the right. Draw the line half way between them."
    ),
    givens=TwoEdges,
    truth=truth,
    methods=(parallels_inside, transversal_bisectors),
    findings={"half_angle": Kind.ANGLE},
    source="Equal distances from both edges; the centres of the circles that touch three lines.",
    conditions=(
        Condition(
            "edges that run together",
            lambda g: absolute(g.opening_left - g.opening_right),
            "edges {opening_left} apart at the left and {opening_right} at the right are parallel and have no corner",
            ("opening_right", "opening_left"),
            lambda g: {"opening_right": at_least(g.opening_left, above=True)},
            strict=True,
        ),
    ),
    slips=(middles_joined,),
)
