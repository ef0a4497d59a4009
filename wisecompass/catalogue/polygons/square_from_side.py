"""Square on a given side (Euclid I.46), its corner raised by four equal arcs or by set square."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, sqrt
from wisecompass.catalogue.polygons.regular import MEASURES, check_closes, measure, of_circumradius, ring
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class OneSide(Givens):
    side: Number = length("side", "47")


def truth(g: OneSide, number: Make) -> Truth:
    radius = g.side / sqrt(number(2))
    findings = of_circumradius(4, radius, number)
    centre = Point(g.side / 2, g.side / 2)
    return Truth(
        points=ring(4, centre, radius, number(225)), findings={**findings, "side": g.side + 0, "diagonal": radius * 2}
    )


def _base(b: Board, g: OneSide) -> tuple[Point, Point, Line]:
    first = b.point("P1", b.number(0), b.number(0), why="the left end of the side")
    base = b.level_line(first, "base", pen=Pen.GIVEN)
    return first, b.lay_off(base, first, g.side, "P2", why="the given side"), base


def _finish(b: Board, g: OneSide, corners: list[Point]) -> None:
    first, second, third, fourth = corners
    rising, falling = b.line(first, third, "diagonal 1"), b.line(second, fourth, "diagonal 2")
    b.caution("Equal diagonals are the test of a square: equal sides alone make a rhombus.")
    centre = b.meet(rising, falling, name="O")
    measure(b, corners, centre, g.side, 2)
    b.find("diagonal", plane.distance(first, third))
    check_closes(b, corners, g.side, 2)
    b.check("both diagonals are equal", plane.distance(first, third) - plane.distance(second, fourth))


@method("four equal arcs", Exactness.EXACT)
def four_equal_arcs(b: Board, g: OneSide) -> None:
    first, second, _ = _base(b, g)
    swung = b.arc(first, g.side, name="arc 1", why="from the base round to above P1")
    b.touch(swung, second)
    sixty = b.meet(b.arc(second, g.side, name="arc 2", why="the same opening"), swung, plane.upper, "1")
    high = b.arc(sixty, g.side, name="arc 3", why="the same opening")
    twice = b.meet(high, swung, plane.leftmost, "2")
    crossing = b.meet(b.arc(twice, g.side, name="arc 4", why="the same opening, to the third arc"), high, plane.upper, "3")
    b.caution("All four arcs need one opening, or the upright leans.")
    upright = b.line(first, crossing, "upright at P1")
    fourth = b.meet(swung, upright, plane.upper, "P4")
    across = b.arc(fourth, g.side, why="the side, to the right")
    up = b.arc(second, g.side, why="the side, upwards")
    _finish(b, g, [first, second, b.meet(across, up, plane.farthest(first), "P3"), fourth])


@method("set square", Exactness.EXACT)
def set_square(b: Board, g: OneSide) -> None:
    first, second, base = _base(b, g)
    left = b.upright_line(first, "upright at P1")
    fourth = b.lay_off(left, first, g.side, "P4", why="the side")
    right = b.upright_line(second, "upright at P2")
    third = b.meet(b.parallel(base, fourth, "level at P4"), right, name="P3")
    if b.slips(along_the_diagonal.name):
        third = b.lay_off(b.set_square_line(first, 45, "diagonal"), first, g.side, "P3")
        second, fourth = b.square_from(base, third, "P2"), b.square_from(left, third, "P4")
    _finish(b, g, [first, second, third, fourth])


@slip("the side laid off along the diagonal")
def along_the_diagonal(g: OneSide, number: Make) -> dict[str, Number]:
    return {"diagonal": g.side + 0, "side": g.side / sqrt(number(2))}


PROBLEM = Problem(
    id="polygons/square-from-side",
    title="Square on a side",
    brief="Draw a square on a side of {side}.",
    givens=OneSide,
    truth=truth,
    methods=(four_equal_arcs, set_square),
    findings={**MEASURES, "diagonal": Kind.LENGTH},
    source="Euclid I.46; sixty and thirty degrees by the radius (Euclid I.1, I.9).",
    slips=(along_the_diagonal,),
)
