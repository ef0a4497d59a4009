"""Octagon in a square, by its half diagonals: each corner of the square gives two corners of the octagon."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, sqrt
from wisecompass.catalogue.polygons.regular import MEASURES, measure, of_circumradius
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import bare, span
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class OneSquare(Givens):
    square: Number = length("side of the square", "118")


def _side(g: OneSquare, number: Make) -> Number:
    return g.square * (sqrt(number(2)) - 1)


def truth(g: OneSquare, number: Make) -> Truth:
    """The corners lie on the sides of the square, (s - side) / 2 from its corners."""
    zero, s, cut = number(0), g.square + 0, (g.square - _side(g, number)) / 2
    places = ((cut, zero), (s - cut, zero), (s, cut), (s, s - cut), (s - cut, s), (cut, s), (zero, s - cut), (zero, cut))
    points = {f"P{k}": Point(x, y) for k, (x, y) in enumerate(places, 1)}
    points |= {"A": Point(zero, zero), "B": Point(s, zero), "C": Point(s, s), "D": Point(zero, s), "O": Point(s / 2, s / 2)}
    diagonal = sqrt(s * s + (s - 2 * cut) * (s - 2 * cut))
    return Truth(points=points, findings=of_circumradius(8, diagonal / 2, number))


@method("half diagonals", Exactness.EXACT)
def half_diagonals(b: Board, g: OneSquare) -> None:
    a = b.point("A", b.number(0), b.number(0), why="a corner of the square")
    low, left = b.level_line(a, "lower side", pen=Pen.GIVEN), b.upright_line(a, "left side", pen=Pen.GIVEN)
    right_end = b.lay_off(low, a, g.square, "B", why="the side of the square")
    d = b.lay_off(left, a, g.square, "D", why="the side of the square")
    high, right = b.level_line(d, "upper side", pen=Pen.GIVEN), b.upright_line(right_end, "right side", pen=Pen.GIVEN)
    c = b.meet(high, right, name="C")
    centre = b.meet(b.line(a, c, "diagonal AC"), b.line(right_end, d, "diagonal BD"), name="O")
    b.caution("Half the diagonal, not half the side: with half the side the arcs meet in the middles.")
    opening = b.unless(thirds.name, span(a, centre), lambda: bare(g.square) * 2 / 3)
    corners: dict[int, Point] = {}
    for corner, along, across in (
        (a, (low, right_end, 2), (left, d, 7)),
        (right_end, (low, a, 1), (right, c, 4)),
        (c, (high, d, 6), (right, right_end, 3)),
        (d, (high, c, 5), (left, a, 8)),
    ):
        swung = b.arc(corner, opening, why="across both sides")
        for side, towards, k in (along, across):
            corners[k] = b.meet(swung, side, plane.nearest(towards), f"P{k}")
    drawn = [corners[k] for k in range(1, 9)]
    measure(b, drawn, centre, _side(g, b.number))
    b.check("the cut corners are as long as the sides left", plane.distance(drawn[1], drawn[2]) - plane.distance(*drawn[:2]))
    off = plane.distance_to_line(centre, Line.through(drawn[0], drawn[4]))
    b.check("opposite corners lie on one line through the centre", off)


@slip("the sides of the square cut into three instead of by half the diagonal")
def thirds(g: OneSquare, number: Make) -> dict[str, Number]:
    return {"side": g.square / 3}


PROBLEM = Problem(
    id="polygons/octagon-in-square",
    title="Octagon in a square",
    brief="Draw the regular octagon that fits a square of side {square}.",
    givens=OneSquare,
    truth=truth,
    methods=(half_diagonals,),
    findings=MEASURES,
    source="The half diagonal cuts the side in the ratio of 1 to √2.",
    slips=(thirds,),
)
