"""Parallel to a line at a distance, by swung arcs or by two squares."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, root
from wisecompass.catalogue.lines.rulings import base_with_ends
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, length
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class OneDistance(Givens):
    distance: Number = length("distance", "31")


def truth(g: OneDistance, number: Make) -> Truth:
    zero = number(0)
    return Truth(
        points={
            "A": Point(zero, zero),
            "B": Point(g.distance * 3, zero),
            "P": Point(zero, g.distance + 0),
            "Q": Point(g.distance * 3, g.distance + 0),
        },
        findings={"distance": g.distance + 0},
    )


def _finish(b: Board, a: Point, end: Point, base: Line, p: Point, q: Point) -> None:
    b.line_in((a, end), (p, q))
    b.dimension(a, p, offset=9)
    b.find("distance", plane.distance_to_line(p, base))
    b.check("both ends of the parallel are equally far away", plane.distance(end, q) - plane.distance(a, p))
    b.check("the diagonals of the strip are equal", plane.distance(a, q) - plane.distance(end, p))


@method("swung arcs", Exactness.EXACT)
def swung_arcs(b: Board, g: OneDistance) -> None:
    a, end, base = base_with_ends(b, g.distance * 3)
    arcs = [b.arc(place, g.distance, why="above the line") for place in (a, end)]
    b.caution("The parallel touches the arcs; it does not go through their crossings with anything.")
    upper = b.parallel_touching(base, arcs, "left", "parallel")
    p = b.meet(b.square(base, a, "upright at A"), upper, name="P")
    q = b.meet(b.square(base, end, "upright at B"), upper, name="Q")
    _finish(b, a, end, base, p, q)


@method("two squares", Exactness.EXACT)
def two_squares(b: Board, g: OneDistance) -> None:
    a, end, base = base_with_ends(b, g.distance * 3)
    ends, leans = [], b.slips(aslant.name)
    for foot, name in ((a, "P"), (end, "Q")):
        upright = b.square(base, foot, f"upright at {foot.name}")
        if leans:
            side = b.number("0.1")
            upright = Line(foot, base.dx * side + upright.dx * root(1 - side * side), upright.dy * root(1 - side * side))
        ends.append(b.lay_off(upright, foot, g.distance, name, why="the distance, square to the line"))
    b.caution("Measure square to the line; a distance measured aslant comes out too small.")
    b.line(ends[0], ends[1], "parallel")
    _finish(b, a, end, base, ends[0], ends[1])


@slip("the distance measured aslant, by a tenth of it to the side")
def aslant(g: OneDistance, number: Make) -> dict[str, Number]:
    side = g.distance / 10
    return {"distance": root(g.distance * g.distance - side * side)}


PROBLEM = Problem(
    id="lines/parallel-at-distance",
    title="Parallel at a distance",
    brief="Draw a parallel to a line at a distance of {distance}.",
    givens=OneDistance,
    truth=truth,
    methods=(swung_arcs, two_squares),
    findings={"distance": Kind.LENGTH},
    source="Euclid I.28 and I.34: equal perpendiculars between parallels.",
    slips=(aslant,),
)
