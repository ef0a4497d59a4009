"""Regular polygon in a given circle: by its central angle, by compass alone where that can be done, and by the workshop
rule that divides the diameter."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number
from wisecompass.catalogue.polygons.regular import (
    MEASURES,
    check_closes,
    closing_words,
    measure,
    of_circumradius,
    only_for,
    ring,
    step_round,
    warn_of_opening,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, count, length
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point

EXACT_DIVISIONS = (3, 4, 6)
"""The numbers of sides for which the divided diameter is exact."""


@dataclass(frozen=True)
class SidesAndDiameter(Givens):
    sides: int = count("number of sides", "7", 3, 24)
    diameter: Number = length("diameter", "120")


def truth(g: SidesAndDiameter, number: Make) -> Truth:
    zero, radius = number(0), g.diameter / 2
    corners = ring(g.sides, Point(zero, zero), radius, number(90))
    return Truth(points=corners, findings=of_circumradius(g.sides, radius, number))


@dataclass(frozen=True)
class _SetOut:
    centre: Point
    circle: Circle
    axis: Line
    top: Point


def _set_out(b: Board, g: SidesAndDiameter) -> _SetOut:
    centre = b.point("O", b.number(0), b.number(0), why="the centre")
    circle = b.arc(centre, g.diameter / 2, whole=True, name="circle", why="half the diameter")
    axis = b.upright_line(centre, "upright axis")
    return _SetOut(centre, circle, axis, b.meet(axis, circle, plane.upper, "P1"))


def _true_side(b: Board, g: SidesAndDiameter) -> Number:
    """The side that ``closing_error`` is told against."""
    return of_circumradius(g.sides, g.diameter / 2, b.number)["side"]


def _carry_round(b: Board, g: SidesAndDiameter, at: _SetOut, second: Point, *, exact: bool = True) -> None:
    side = span(at.top, second)
    corners = step_round(b, at.circle, side, [at.top, second], g.sides)
    measure(b, corners, at.centre, _true_side(b, g))
    if exact:
        check_closes(b, corners, side)
    else:
        warn_of_opening(b, corners)


def _line_in(b: Board, g: SidesAndDiameter, at: _SetOut, corners: list[Point]) -> None:
    """Corners that were each found for themselves."""
    measure(b, corners, at.centre, _true_side(b, g))
    check_closes(b, corners, plane.distance(corners[0], corners[1]))


@method("central angle", Exactness.EXACT)
def central_angle(b: Board, g: SidesAndDiameter) -> None:
    at = _set_out(b, g)
    parts = b.unless(one_part_more.name, g.sides, lambda: g.sides + 1)
    ray = b.protract(at.axis, at.centre, b.turn(1, parts), "ray", why="360° by the number of sides")
    b.caution("It is the angle at the centre that is set; the angle of the polygon is its supplement.")
    _carry_round(b, g, at, b.meet(ray, at.circle, plane.beyond(ray), "P2"))


@method("diameter division", Exactness.APPROXIMATE, worth=closing_words)
def diameter_division(b: Board, g: SidesAndDiameter) -> None:
    at = _set_out(b, g)
    low = b.meet(at.axis, at.circle, plane.lower, "0")
    names = [str(k) for k in range(g.sides - 1, 0, -1)]
    marks = b.divide(low, at.top, g.sides, names, why="as many as the polygon has sides, counted from P1")
    high = b.arc(at.top, g.diameter, why="to the right")
    deep = b.arc(low, g.diameter, why="to the right")
    apex = b.meet(high, deep, plane.rightmost, "A")
    second = marks[g.sides - 3]  # named 2
    ruled = b.line(apex, second, "line through 2", why="and on to the circle beyond")
    b.caution("Always the second division, whatever the number of sides.")
    found = b.meet(ruled, at.circle, plane.leftmost, "P2")
    _carry_round(b, g, at, found, exact=g.sides in EXACT_DIVISIONS)


@method("golden pentagon", Exactness.EXACT, only_for("golden pentagon", 5))
def golden_pentagon(b: Board, g: SidesAndDiameter) -> None:
    at = _set_out(b, g)
    level = b.level_line(at.centre, "level axis")
    right = b.meet(level, at.circle, plane.rightmost, "R")
    middle = b.meet(b.bisector(at.centre, right, "bisector", why="for the middle of the radius"), level, name="M")
    swung = b.arc(middle, span(middle, at.top), why="down to the level axis")
    end = b.meet(swung, level, plane.leftmost, "K")
    side = b.arc(at.top, span(at.top, end), why="the side of the pentagon")
    b.caution("P1–K is the side; O–K would be that of the ten-sided figure.")
    _carry_round(b, g, at, b.meet(side, at.circle, plane.leftmost, "P2"))


@method("radius steps", Exactness.EXACT, only_for("radius steps", 3, 6, 12))
def radius_steps(b: Board, g: SidesAndDiameter) -> None:
    at = _set_out(b, g)
    radius = g.diameter / 2
    if g.sides == 12:
        corners = _twelve(b, at, radius)
    else:
        names = [f"P{k}" for k in range(2, 7)] if g.sides == 6 else ["1", "P2", "2", "P3", "3"]
        stepped = b.step_off(at.circle, at.top, radius, names, why="the radius goes six times")
        b.caution("The sixth step must come back to the first mark.")
        corners = [at.top, *stepped] if g.sides == 6 else [at.top, stepped[1], stepped[3]]
    _line_in(b, g, at, corners)


def _twelve(b: Board, at: _SetOut, radius: Number) -> list[Point]:
    """The radius swung from the four ends of two diameters."""
    level = b.level_line(at.centre, "level axis")
    left = b.meet(level, at.circle, plane.leftmost, "P4")
    low = b.meet(at.axis, at.circle, plane.lower, "P7")
    right = b.meet(level, at.circle, plane.rightmost, "P10")
    corners = {1: at.top, 4: left, 7: low, 10: right}
    for k, end in list(corners.items()):
        swung = b.arc(end, radius, why="the radius, across the circle twice")
        after, before = (k + 1) % 12 + 1, (k - 3) % 12 + 1
        ahead = Line.through(at.centre, end)
        ends = (f"P{after}", f"P{before}")
        corners[after], corners[before] = b.both(swung, at.circle, ends, plane.left_of(ahead))
    return [corners[k] for k in range(1, 13)]


@method("bisected quarters", Exactness.EXACT, only_for("bisected quarters", 4, 8, 16))
def bisected_quarters(b: Board, g: SidesAndDiameter) -> None:
    n = g.sides
    at = _set_out(b, g)
    level = b.level_line(at.centre, "level axis")
    corners = {0: at.top}
    corners[n // 4] = b.meet(level, at.circle, plane.leftmost, f"P{n // 4 + 1}")
    corners[n // 2] = b.meet(at.axis, at.circle, plane.lower, f"P{n // 2 + 1}")
    corners[3 * n // 4] = b.meet(level, at.circle, plane.rightmost, f"P{3 * n // 4 + 1}")
    arc = n // 4
    while arc > 1:
        for start in range(0, n // 2, arc):
            half = start + arc // 2
            marks = (f"{half}a", f"{half}b")
            name = f"bisector {half}"
            halving = b.bisect(at.centre, corners[start], corners[start + arc], name, marks)
            corners[half] = b.meet(halving, at.circle, plane.beyond(halving), f"P{half + 1}")
            opposite = half + n // 2
            corners[opposite] = b.meet(halving, at.circle, plane.other_than(corners[half]), f"P{opposite + 1}")
        arc //= 2
    b.caution("Every bisector is drawn right across: it gives two corners at once.")
    _line_in(b, g, at, [corners[k] for k in range(n)])


@slip("divided into one part more: marks counted as spaces")
def one_part_more(g: SidesAndDiameter, number: Make) -> dict[str, Number]:
    drawn = of_circumradius(g.sides + 1, g.diameter / 2, number)
    return {name: drawn[name] for name in ("side", "central_angle", "interior_angle")}


@slip("compass opened to the diameter instead of the radius")
def whole_diameter(g: SidesAndDiameter, number: Make) -> dict[str, Number]:
    drawn = of_circumradius(g.sides, g.diameter, number)
    return {name: drawn[name] for name in ("side", "circumradius", "apothem", "across_flats")}


PROBLEM = Problem(
    id="polygons/regular-in-circle",
    title="Regular polygon in a circle",
    brief="Draw a regular polygon of {sides} sides in a circle of diameter {diameter}.",
    givens=SidesAndDiameter,
    truth=truth,
    methods=(central_angle, diameter_division, golden_pentagon, radius_steps, bisected_quarters),
    findings=MEASURES,
    source="Euclid IV.6, IV.11, IV.15; the workshop rule of the divided diameter and its equilateral triangle.",
    slips=(one_part_more, whole_diameter),
)
