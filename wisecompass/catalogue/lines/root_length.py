"""The root of a number as a length, three ways: √n² = ((n + 1)/2)² - ((n - 1)/2)², the mean of n and 1, and the spiral
of right triangles with one side 1 (Theodorus)."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import Number, absolute, sqrt
from wisecompass.catalogue.lines.rulings import at_most_number, multiple_of
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, length, ratio
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class RootAndUnit(Givens):
    radicand: Number = ratio("number under the root", "7", Fraction(1, 100), Fraction(10_000))
    unit: Number = length("length of one", "24")


def truth(g: RootAndUnit, number: Make) -> Truth:
    zero, wanted = number(0), sqrt(g.radicand) * g.unit
    return Truth(points={"O": Point(zero, zero), "R": Point(zero, wanted)}, findings={"length": wanted})


def _finish(b: Board, g: RootAndUnit, start: Point, end: Point) -> None:
    if b.slips(halved.name):
        end = b.lay_off(b.upright_line(start, "upright at O"), start, g.radicand * g.unit / 2, "R")
    b.line_in((start, end))
    b.dimension(start, end, offset=9)
    wanted = plane.distance(start, end)
    b.find("length", wanted)
    b.check("R stands square over O", end.x - start.x)
    b.check("its square is the number, in squares of one", wanted * wanted / (g.unit * g.unit) - g.radicand, "")


@method("half sum and half difference", Exactness.EXACT)
def half_sum_and_half_difference(b: Board, g: RootAndUnit) -> None:
    start = b.point("O", b.number(0), b.number(0), why="the foot")
    base = b.level_line(start, "base", pen=Pen.GIVEN)
    upright = b.upright_line(start, "upright")
    half_sum, half_difference = (g.radicand + 1) * g.unit / 2, absolute(g.radicand - 1) * g.unit / 2
    end = b.lay_off(base, start, half_difference, "D", why="half of the number less one, in lengths of one")
    b.caution("Half the sum is the compass, half the difference the base: changed over, the arc misses the upright.")
    swung = b.arc(end, half_sum, why="half of the number and one, to the upright")
    _finish(b, g, start, b.meet(swung, upright, plane.upper, "R"))


@method("mean of n and 1", Exactness.EXACT)
def mean_of_n_and_1(b: Board, g: RootAndUnit) -> None:
    start = b.point("O", b.number(0), b.number(0), why="where both lengths meet")
    base = b.level_line(start, "base", pen=Pen.GIVEN)
    right = b.lay_off(base, start, g.unit, "1", why="the length of one")
    left = b.lay_off(base, start, g.radicand * g.unit, "N", back=True, why="the number in lengths of one")
    axis = b.bisector(left, right, "centre line", why="for the middle of both together")
    middle = b.meet(axis, base, name="M")
    arch = b.arc(middle, span(middle, right), why="above the line")
    b.touch(arch, left)
    b.touch(arch, right)
    upright = b.square(base, start, "upright at O")
    _finish(b, g, start, b.meet(upright, arch, plane.upper, "R"))


@method(
    "stacked right triangles",
    Exactness.EXACT,
    multiple_of(
        "whole numbers",
        "radicand",
        2,
        1,
        "stacked triangles give roots of whole numbers and {radicand} is not one",
    ),
    at_most_number("numbers up to 50", "radicand", 50, "stacked triangles are kept to 50 and {radicand} is more"),
)
def stacked_right_triangles(b: Board, g: RootAndUnit) -> None:
    start = b.point("O", b.number(0), b.number(0), why="the centre of the stack")
    base = b.level_line(start, "base", pen=Pen.GIVEN)
    upright = b.upright_line(start, "upright")
    tip = b.lay_off(base, start, g.unit, "1", why="the length of one")
    k = 1
    ray = base
    while _more_than(g, k):
        k += 1
        across = b.square(ray, tip, f"square {k}")
        tip = b.lay_off(across, tip, g.unit, str(k), why=f"one more: its distance from O is the root of {k}")
        ray = b.joined(start, tip, f"root {k}")
    b.caution("Each new side of one stands square on the last long side, not on the base.")
    turned = b.arc(start, span(start, tip), why="to the upright")
    b.touch(turned, tip)
    _finish(b, g, start, b.meet(turned, upright, plane.upper, "R"))


def _more_than(g: RootAndUnit, whole: int) -> bool:
    return g.decide(lambda h: h.radicand - whole) > 0


@slip("the number itself halved instead of its root taken")
def halved(g: RootAndUnit, number: Make) -> dict[str, Number]:
    return {"length": g.radicand * g.unit / 2}


PROBLEM = Problem(
    id="lines/root-length",
    title="Root as a length",
    brief="Draw the root of {radicand} as a length, {unit} being one.",
    givens=RootAndUnit,
    truth=truth,
    methods=(half_sum_and_half_difference, mean_of_n_and_1, stacked_right_triangles),
    findings={"length": Kind.LENGTH},
    source="Euclid II.5 and VI.13; the spiral of Theodorus.",
    slips=(halved,),
)
