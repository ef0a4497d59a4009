"""Fourth proportional of three lengths, by a parallel across an angle (Euclid VI.12)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, sin_deg
from wisecompass.catalogue.lines.rulings import base_with_ends, slant
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, length
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class ThreeLengths(Givens):
    first: Number = length("first length", "58")
    second: Number = length("second length", "43")
    third: Number = length("third length", "71")


def truth(g: ThreeLengths, number: Make) -> Truth:
    zero, slope = number(0), number(30)
    fourth = g.second * g.third / g.first
    return Truth(
        points={
            "O": Point(zero, zero),
            "A": Point(g.first, zero),
            "C": Point(g.third, zero),
            "B": Point(g.second * cos_deg(slope), g.second * sin_deg(slope)),
            "D": Point(fourth * cos_deg(slope), fourth * sin_deg(slope)),
        },
        findings={"fourth": fourth},
    )


@method("parallel across an angle", Exactness.EXACT)
def parallel_across_an_angle(b: Board, g: ThreeLengths) -> None:
    one, other = (g.second, g.first) if b.slips(changed_over.name) else (g.first, g.second)
    vertex, first, base = base_with_ends(b, one, ("O", "A"))
    third = b.lay_off(base, vertex, g.third, "C", why="the third length, from O too")
    sloping = slant(b, vertex)
    second = b.lay_off(sloping, vertex, other, "B", why="the second length")
    b.caution("First and third lie on one arm, the second on the other; the parallel goes through the third.")
    joining = b.line(first, second, "AB")
    carried = b.parallel(joining, third, "parallel")
    found = b.meet(carried, sloping, name="D")
    b.line_in((vertex, found))
    b.dimension(vertex, found, offset=9)
    b.find("fourth", plane.distance(vertex, found))
    b.check("A–B and C–D run alike", plane.side_of(found, Line(third, second.x - first.x, second.y - first.y)), "mm²")
    b.check(
        "the products are equal: first times fourth, second times third",
        g.first * plane.distance(vertex, found) - g.second * g.third,
    )


@slip("first and second changed over: the second laid down beside the third, the first on the slope")
def changed_over(g: ThreeLengths, number: Make) -> dict[str, Number]:
    return {"fourth": g.first * g.third / g.second}


PROBLEM = Problem(
    id="lines/fourth-proportional",
    title="Fourth proportional",
    brief="As {first} is to {second}, so is {third} to the length wanted: find it.",
    givens=ThreeLengths,
    truth=truth,
    methods=(parallel_across_an_angle,),
    findings={"fourth": Kind.LENGTH},
    source="Euclid VI.12.",
    slips=(changed_over,),
)
