"""An angle of so many times 7½° by compass alone: sixty by the radius, then halving (Euclid I.1 and I.9)."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import Number
from wisecompass.catalogue.lines.rulings import multiple_of
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, angle
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Settable
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point

OPENING = 56
"""Compass opening, mm: any that suits the sheet."""


@dataclass(frozen=True)
class OneAngle(Givens):
    angle: Number = angle("angle", "52.5", "7.5", "172.5")


def truth(g: OneAngle, number: Make) -> Truth:
    return Truth(points={"V": Point(number(0), number(0))}, findings={"angle": g.angle + 0})


@method("sixty and bisect", Exactness.EXACT)
def sixty_and_bisect(b: Board, g: OneAngle) -> None:
    vertex = b.point("V", b.number(0), b.number(0), why="the vertex")
    base = b.level_line(vertex, "base", pen=Pen.GIVEN)
    opening = b.any_opening(OPENING)
    circle = b.arc(vertex, opening, name="arc about V", why="kept to the end")
    start = b.meet(circle, base, plane.beyond(base), "0")
    low, high, below, above = _sixty(b, g, circle, start, opening)
    while True:
        middle = (low + high) / 2
        at_middle = _against(g, middle)
        if _against(g, low) == 0 or _against(g, high) == 0:
            break
        halved = _halved(b, vertex, circle, below, above, opening, "E" if at_middle == 0 else f"{float(middle):g}")
        if at_middle < 0:
            high, above = middle, halved
        else:
            low, below = middle, halved
    found = below if _against(g, low) == 0 else above
    if b.slips(once_too_often.name):
        found = b.pricked(circle.point_at(plane.angle_at(vertex, start, found) / 2))
    found = b.mark_point(found.named("E"))
    b.line_in((vertex, start), (vertex, found))
    b.dimension_angle(vertex, start, found, radius=18)
    b.find("angle", plane.angle_at(vertex, start, found))
    b.check("E is as far from the vertex as the first mark", plane.distance(vertex, found) - plane.distance(vertex, start))
    b.check("the angle is the one asked for", plane.angle_at(vertex, start, found) - g.angle, "°")


def _against(g: OneAngle, degrees: Fraction) -> int:
    """The sign of the angle less so many degrees, decided on the given as typed."""
    top, bottom = degrees.numerator, degrees.denominator
    return g.decide(lambda h: h.angle * bottom - top)


def _sixty(
    b: Board, g: OneAngle, circle: Circle, start: Point, opening: Settable
) -> tuple[Fraction, Fraction, Point, Point]:
    """Step the radius round until the angle lies between two marks."""
    low, below = Fraction(0), start
    while True:
        high = low + 60
        swung = b.arc(below, opening, why="the same opening: sixty degrees")
        back = Line.through(circle.centre, below)
        above = b.meet(swung, circle, plane.left_of(back), f"{float(high):g}")
        if _against(g, high) <= 0:
            return low, high, below, above
        low, below = high, above


def _halved(b: Board, vertex: Point, circle: Circle, below: Point, above: Point, opening: Settable, name: str) -> Point:
    """Halve the angle between two marks by equal arcs from both, and mark the middle on the arc."""
    first, second = b.arc(below, opening, why="outside the arc"), b.arc(above, opening, why="outside the arc")
    outside = b.meet(first, second, plane.farthest(vertex))
    b.step_crossing(first, second)
    halving = b.joined(vertex, outside, f"bisector to {name}")
    return b.meet(halving, circle, plane.beyond(halving), name)


@slip("halved once too often")
def once_too_often(g: OneAngle, number: Make) -> dict[str, Number]:
    return {"angle": g.angle / 2}


PROBLEM = Problem(
    id="lines/compass-angle",
    title="Angle by compass",
    brief="Set out an angle of {angle} with compass and straightedge.",
    givens=OneAngle,
    truth=truth,
    methods=(sixty_and_bisect,),
    findings={"angle": Kind.ANGLE},
    source="Euclid I.1 (sixty degrees) and I.9 (halving).",
    conditions=(
        multiple_of("multiples of 7.5°", "angle", 15, 1, "compass alone gives multiples of 7.5° and {angle} is not one"),
    ),
    slips=(once_too_often,),
)
