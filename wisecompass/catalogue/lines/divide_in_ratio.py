"""Dividing a line in a given ratio with a slant line and one parallel (Euclid VI.10)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute
from wisecompass.catalogue.lines.rulings import base_with_ends, slant
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class LengthAndRatio(Givens):
    length: Number = givens.length("length", "118")
    first: Number = givens.length("first share", "31")
    second: Number = givens.length("second share", "46")


def truth(g: LengthAndRatio, number: Make) -> Truth:
    zero = number(0)
    first = g.length * g.first / (g.first + g.second)
    return Truth(
        points={"A": Point(zero, zero), "B": Point(g.length, zero), "D": Point(first, zero)},
        findings={"first_part": first, "second_part": g.length - first},
    )


@method("slant line and parallels", Exactness.EXACT)
def slant_line_and_parallels(b: Board, g: LengthAndRatio) -> None:
    a, end, base = base_with_ends(b, g.length)
    sloping = slant(b, a)
    share = b.lay_off(sloping, a, g.first, "1", why="the first share")
    begin = b.unless(second_from_the_start.name, share, lambda: a)
    whole = b.lay_off(sloping, begin, g.second, "2", why="the second share, beginning where the first ends")
    b.caution("Join the end of both shares to the end of the line, and draw the parallel through the division.")
    closing = b.line(whole, end, "closing line")
    found = b.meet(b.parallel(closing, share, "parallel"), base, name="D")
    b.line_in((a, end))
    b.dimension(found, a, offset=10)
    b.dimension(end, found, offset=10)
    b.find("first_part", plane.distance(a, found))
    b.find("second_part", plane.distance(found, end))
    b.check("both parts together are the line", plane.distance(a, found) + plane.distance(found, end) - g.length)
    b.check(
        "the parts are in the ratio of the shares",
        plane.distance(a, found) * g.second - plane.distance(found, end) * g.first,
    )


@slip("the second share measured from the start instead of from the end of the first")
def second_from_the_start(g: LengthAndRatio, number: Make) -> dict[str, Number]:
    first = g.length * g.first / g.second
    return {"first_part": first, "second_part": absolute(g.length - first)}


PROBLEM = Problem(
    id="lines/divide-in-ratio",
    title="Line divided in a ratio",
    brief="Divide a line {length} long in the ratio of {first} to {second}.",
    givens=LengthAndRatio,
    truth=truth,
    methods=(slant_line_and_parallels,),
    findings={"first_part": Kind.LENGTH, "second_part": Kind.LENGTH},
    source="Euclid VI.10.",
    slips=(second_from_the_start,),
)
