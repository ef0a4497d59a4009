"""Involute of a regular polygon: arcs about its corners, each one side longer than the one before."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, sin_deg
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Chosen, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass(frozen=True)
class SidesAndSide(Givens):
    sides: int = givens.count("number of sides", "6", 3, 16)
    side: Number = givens.length("side", "14")
    turned: Number = givens.angle("angle unwound for the tangent", "200", least="0.01", most="359.99")


def _arc(g: SidesAndSide) -> int:
    """The number of the arc that the chosen point lies on."""
    reached = g.decide_all(lambda h: [360 * k - h.turned * h.sides for k in range(1, h.sides + 1)])
    return 1 + next(k for k, sign in enumerate(reached) if sign >= 0)


def truth(g: SidesAndSide, number: Make) -> Truth:
    """Corner k + 1 lies one side on in the direction of k turns; the string's end one swung length back from there."""
    turn = number(360) / g.sides
    at = Point(number(0), number(0))
    points = {"P1": at, "E0": at}
    for k in range(g.sides):
        way = turn * k
        at = at.moved(g.side * cos_deg(way), g.side * sin_deg(way))
        if k + 2 <= g.sides:
            points[f"P{k + 2}"] = at
        length, back = g.side * (k + 1), turn * (k + 1)
        points[f"E{k + 1}"] = at.moved(-length * cos_deg(back), -length * sin_deg(back))
        if k + 1 == _arc(g):
            points["P"] = at.moved(-length * cos_deg(g.turned), -length * sin_deg(g.turned))
    return Truth(points=points, findings={"string_length": g.side * g.sides, "curvature_radius": g.side * _arc(g)})


@method("swung corners", Exactness.EXACT)
def swung_corners(b: Board, g: SidesAndSide) -> None:
    n = g.sides
    first = b.point("P1", b.number(0), b.number(0), why="the first corner")
    edge = b.level_line(first, "side 1")
    corners = [first, b.lay_off(edge, first, g.side, "P2", why="the side")]
    for k in range(3, n + 1):
        edge = b.protract(edge, corners[-1], b.turn(1, n), f"side {k - 1}", why="the exterior angle")
        corners.append(b.lay_off(edge, corners[-1], g.side, f"P{k}", why="the side"))
    b.line_in(*zip(corners, [*corners[1:], first], strict=True), why="the polygon")
    b.mark_point(first.named("E0"), shown=False)
    end, length, kept = first.named("E0"), g.side + 0, b.slips(one_radius.name)
    b.caution("Each arc is swung about the next corner, and its radius grows by one side.")
    ends = [end]
    for k in range(1, n + 1):
        centre, following = corners[k % n], corners[(k + 1) % n]
        side = b.line(following, centre, f"side from P{(k + 1) % n + 1} drawn on", why="to where the arc ends")
        swung = b.arc(centre, span(first, corners[1]) if kept else span(centre, end), why="to the side drawn on")
        b.touch(swung, end)
        start = end
        end = b.meet(swung, side, plane.beyond(side), f"E{k}")
        b.line_in_arc(centre, start, end, f"arc {k}")
        ends.append(end)
        if k == _arc(g):
            chosen = (centre, start, swung)
        length = plane.distance(centre, end)
    b.find("string_length", length)
    with b.wish("tangent and normal"):
        _tangent(b, g, *chosen)
    b.dimension(first, corners[1], offset=-9)
    closing = Line.through(corners[1], first)
    b.check("the string is as long as all sides", plane.distance(corners[0], ends[-1]) - g.side * n)
    b.check("the last end lies on the first side drawn back", plane.distance_to_line(ends[-1], closing))


def _tangent(b: Board, g: SidesAndSide, centre: Point, start: Point, swung: Circle) -> None:
    """The string is the normal; the corner that it has just left is the centre of curvature."""
    beyond = g.turned - b.turn(_arc(g) - 1, g.sides)
    base = Line.through(centre, start, f"{centre.name}{start.name}")
    string = b.protract(base, centre, beyond, "string", why="what the string has turned about this corner")
    at = b.meet(string, swung, plane.beyond(string), "P")
    tangent = b.square(string, at, "tangent", why="square to the string, which is the normal")
    b.line_in((at, centre), why="the normal")
    b.line_in_both_ways(at, tangent, g.side)
    b.find("curvature_radius", plane.distance(at, centre))


@slip("the compass kept at one side for every arc")
def one_radius(g: SidesAndSide, number: Make) -> dict[str, Number]:
    return {"string_length": g.side + 0}


PROBLEM = Problem(
    id="loci/involute-polygon",
    title="Involute of a polygon",
    brief=(
        "Unwind a string once from a regular polygon of {sides} sides of {side}; draw tangent and normal where {turned} are "
        "unwound."
    ),
    givens=SidesAndSide,
    truth=truth,
    methods=(swung_corners,),
    findings={"string_length": Kind.LENGTH, "curvature_radius": Kind.LENGTH},
    source="Arcs about the corners with radii of one, two, three … sides.",
    slips=(one_radius,),
    chosen=Chosen("turned"),
)
