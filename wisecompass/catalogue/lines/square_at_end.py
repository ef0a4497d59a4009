"""Perpendicular at the end of a line, three ways: four equal arcs, Thales' semicircle, and 3-4-5."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, acos_deg
from wisecompass.catalogue.lines.rulings import base_with_ends
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, length
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class OneLength(Givens):
    length: Number = length("length", "84")


def truth(g: OneLength, number: Make) -> Truth:
    zero = number(0)
    return Truth(points={"A": Point(zero, zero), "B": Point(g.length, zero)}, findings={"angle": number(90)})


def _finish(b: Board, ends: tuple[Point, Point], top: Point) -> None:
    a, end = ends
    b.line(end, top, "perpendicular")
    b.line_in((a, end), (end, top))
    b.find("angle", plane.angle_at(end, a, top))
    b.check("the perpendicular is square to the line", plane.angle_at(end, a, top) - 90, "°")
    sides = (plane.distance(a, end), plane.distance(end, top), plane.distance(a, top))
    b.check("the squares of both sides make that of the third", _squares(*sides), "mm²")


def _squares(one: Number, two: Number, third: Number) -> Number:
    return one * one + two * two - third * third


@method("four equal arcs", Exactness.EXACT)
def four_equal_arcs(b: Board, g: OneLength) -> None:
    a, end, base = base_with_ends(b, g.length)
    opening = b.any_opening(g.length * 2 / 5, less_than=g.length)
    around = b.arc(end, opening, why="any opening, kept to the end")
    first = b.meet(around, base, plane.nearest(a), "1")
    b.caution("Never change the compass: all five arcs have one opening.")
    second = b.meet(b.arc(first, opening, why="round the first arc"), around, plane.upper, "2")
    swung = b.arc(second, opening, why="round the first arc again, and above")
    third = b.meet(swung, around, plane.farthest(first), "3")
    top = b.meet(b.arc(third, opening, why="above"), swung, plane.farthest(end), "C")
    _finish(b, (a, end), top)


@method("semicircle", Exactness.EXACT)
def semicircle(b: Board, g: OneLength) -> None:
    a, end, base = base_with_ends(b, g.length)
    left, right = b.arc(a, g.length * 4 / 5, why="above the line"), b.arc(end, g.length * 3 / 5, why="above the line")
    centre = b.meet(left, right, plane.upper, "O")
    b.caution("Any centre above the line will do; the circle must go through the end of the line.")
    circle = b.circle_through(centre, end, why="through the end of the line")
    foot = b.meet(circle, base, plane.nearest(a), "1")
    diameter = b.line(foot, centre, "diameter")
    top = b.meet(diameter, circle, plane.beyond(diameter), "C")
    _finish(b, (a, end), top)


@method("three-four-five", Exactness.EXACT)
def three_four_five(b: Board, g: OneLength) -> None:
    a, end, base = base_with_ends(b, g.length)
    unit = g.length / 5
    foot = b.lay_off(base, end, unit * 4, "1", back=True, why="four units back from the end")
    upward = b.arc(end, unit * 3, why="three units, upwards")
    slanting = b.arc(foot, unit * 5, why="five units from the four-unit mark")
    b.caution("Three stands up, four lies down, five leans: changed over, the corner is not square.")
    top = b.meet(upward, slanting, plane.upper, "C")
    _finish(b, (a, end), top)


@slip("four and five changed over: five laid down, four leaning")
def changed_over(g: OneLength, number: Make) -> dict[str, Number]:
    return {"angle": acos_deg(number("0.6"))}  # (3² + 5² - 4²) / (2·3·5), the law of cosines


PROBLEM = Problem(
    id="lines/square-at-end",
    title="Perpendicular at an end",
    brief="Raise a perpendicular at the end of a line {length} long.",
    givens=OneLength,
    truth=truth,
    methods=(four_equal_arcs, semicircle, three_four_five),
    findings={"angle": Kind.ANGLE},
    source="Thales' theorem; Euclid I.48 for 3-4-5; steps of 60° for the four arcs.",
    slips=(changed_over,),
)
