"""Mean proportional of two lengths, by a semicircle (Euclid VI.13)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, sqrt
from wisecompass.catalogue.lines.rulings import base_with_ends
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, length
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class TwoLengths(Givens):
    first: Number = length("first length", "71")
    second: Number = length("second length", "43")


def truth(g: TwoLengths, number: Make) -> Truth:
    zero, mean = number(0), sqrt(g.first * g.second)
    return Truth(
        points={
            "A": Point(zero, zero),
            "B": Point(g.first, zero),
            "D": Point(g.first + g.second, zero),
            "E": Point(g.first, mean),
        },
        findings={"mean": mean},
    )


@method("semicircle", Exactness.EXACT)
def semicircle(b: Board, g: TwoLengths) -> None:
    a, division, base = base_with_ends(b, g.first)
    end = b.lay_off(base, division, g.second, "D", why="the second length, beyond the first")
    b.caution("The diameter is the sum of both lengths; the upright stands where they meet, not in the middle.")
    axis = b.bisector(a, end, "centre line", why="for the middle of the sum")
    middle = b.meet(axis, base, name="M")
    arch = b.arc(middle, span(middle, a), why="above the line")
    b.touch(arch, a)
    b.touch(arch, end)
    upright = b.square(base, division, "upright at B")
    top = b.meet(upright, arch, plane.upper, "E")
    if b.slips(half_sum.name):
        top = b.lay_off(upright, division, span(middle, a), "E")
    b.line_in((division, top))
    b.dimension(top, division, offset=9)
    b.dimension(division, a, offset=10)
    b.dimension(end, division, offset=10)
    b.find("mean", plane.distance(division, top))
    mean = plane.distance(division, top)
    products = mean * mean - plane.distance(a, division) * plane.distance(division, end)
    b.check("its square is the product of both lengths", products, "mm²")
    b.check("the angle at E is square", plane.angle_at(top, a, end) - 90, "°")


@slip("the half sum taken for the mean proportional")
def half_sum(g: TwoLengths, number: Make) -> dict[str, Number]:
    return {"mean": (g.first + g.second) / 2}


PROBLEM = Problem(
    id="lines/mean-proportional",
    title="Mean proportional",
    brief="Find the mean proportional of {first} and {second}.",
    givens=TwoLengths,
    truth=truth,
    methods=(semicircle,),
    findings={"mean": Kind.LENGTH},
    source="Euclid VI.13: the altitude on the diameter.",
    slips=(half_sum,),
)
