"""Parallel to a line through a point, by a rhombus of arcs (Euclid I.31) or by two squares."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, hypot
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, length, offset
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class PointOverLine(Givens):
    height: Number = length("height of the point", "46")
    offset: Number = offset("distance along from A", "31")


def truth(g: PointOverLine, number: Make) -> Truth:
    zero = number(0)
    points = {"A": Point(zero, zero), "P": Point(g.offset + 0, g.height + 0)}
    return Truth(points=points, findings={"distance": g.height + 0})


def _line_and_point(b: Board, g: PointOverLine) -> tuple[Point, Line, Point]:
    start = b.point("A", b.number(0), b.number(0), why="on the line")
    base = b.level_line(start, "base", pen=Pen.GIVEN)
    return start, base, b.point("P", g.offset + 0, g.height + 0, why="the point outside the line")


def _finish(b: Board, base: Line, p: Point, q: Point, checks: tuple[Point, Point]) -> None:
    drawn = b.line(p, q, "parallel")
    b.line_in((p, q))
    b.line_in_along(checks[0], base, plane.distance(p, q), pen=Pen.OUTLINE)
    b.find("distance", plane.distance_to_line(q, base))
    b.check("P and Q are equally far from the line", plane.distance_to_line(q, base) - plane.distance_to_line(p, base))
    b.check("both lines run alike", (drawn.dx * base.dy - drawn.dy * base.dx) / hypot(drawn.dx, drawn.dy))


@method("rhombus of arcs", Exactness.EXACT)
def rhombus_of_arcs(b: Board, g: PointOverLine) -> None:
    start, base, p = _line_and_point(b, g)
    side = span(start, p)
    swung = b.arc(start, side, why="through P, down to the line")
    b.touch(swung, p)
    on_line = b.meet(swung, base, plane.beyond(base), "G")
    b.caution("All three arcs have one opening: the four corners A, P, Q and G make a rhombus.")
    from_point, from_line = b.arc(p, side, why="the same opening"), b.arc(on_line, side, why="the same opening")
    q = b.meet(from_point, from_line, plane.farthest(start), "Q")
    _finish(b, base, p, q, (start, on_line))
    b.check("the rhombus closes", plane.distance(p, q) - plane.distance(start, on_line))


@method("two squares", Exactness.EXACT)
def two_squares(b: Board, g: PointOverLine) -> None:
    start, base, p = _line_and_point(b, g)
    foot = b.square_from(base, p, "F", why="the distance of the point")
    place = b.lay_off(base, foot, b.any_opening(plane.distance(foot, p)), "G", why="anywhere along the line")
    upright = b.square(base, place, "upright at G")
    away = b.unless(aslant.name, span(foot, p), lambda: span(start, p))
    q = b.lay_off(upright, place, away, "Q", why="as far from the line as P")
    b.caution("Carry the distance square to the line, not along the way to the point.")
    _finish(b, base, p, q, (foot, place))


@slip("the distance carried aslant: from the point to the beginning of the line instead of square to it")
def aslant(g: PointOverLine, number: Make) -> dict[str, Number]:
    return {"distance": hypot(g.offset, g.height)}


PROBLEM = Problem(
    id="lines/parallel-through-point",
    title="Parallel through a point",
    brief="Draw the parallel to a line through a point {height} above it and {offset} along from its beginning.",
    givens=PointOverLine,
    truth=truth,
    methods=(rhombus_of_arcs, two_squares),
    findings={"distance": Kind.LENGTH},
    source="Euclid I.31; opposite sides of a rhombus are parallel.",
    slips=(aslant,),
)
