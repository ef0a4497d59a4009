"""What the problems of tangency share: contact outside and inside, the touch point on the line of centres, and the
centres where two loci cross, twice, or once where they just touch."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from wisecompass.arithmetic import Number, absolute, sign_of
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_least, at_most
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point

OUTSIDE, INSIDE = "outside", "inside"


def contact(words: str) -> Any:
    """Whether the arc touches a circle from outside, or one lies inside the other."""
    return givens.choice(words, OUTSIDE, INSIDE)


# --------------------------------------------------------------------------------------------------------- closed form
def apart(kind: str, radius: Number, other: Number) -> Number:
    """Distance of the centres of two circles that touch: the sum of their radii, or the difference."""
    return radius + other if kind == OUTSIDE else absolute(radius - other)


def crossing_of_loci(distance: Number, first: Number, second: Number) -> tuple[Number, Number]:
    """(x, y²) of the points at ``first`` mm from the origin and ``second`` mm from (distance, 0)."""
    x = (distance * distance + first * first - second * second) / (2 * distance)
    return x, first * first - x * x


def touch_on(centre: Point, radius: Number, other: Point, way: int) -> Point:
    """The point of a circle on its line of centres, towards (``way`` 1) or away from (-1) the ``other`` centre."""
    share = radius / plane.distance(centre, other) * way
    return Point(centre.x + (other.x - centre.x) * share, centre.y + (other.y - centre.y) * share)


def towards(g: Givens, kind: Callable[[Any], str], radius: Callable[[Any], Number], arc: Callable[[Any], Number]) -> int:
    """1 if the touch point lies towards the arc's centre, seen from the circle's; -1 where the arc holds the circle."""
    return -1 if kind(g) == INSIDE and g.decide(lambda h: arc(h) - radius(h)) > 0 else 1


# ----------------------------------------------------------------------------------------------------------- conditions
def must_differ(name: str, one: str, other: str, sentence: str) -> Condition:
    """Contact inside needs two different radii. ``name`` is the given that holds the contact."""

    def margin(g: Any) -> Number:
        apart: Number = absolute(getattr(g, one) - getattr(g, other))
        return apart if getattr(g, name) == INSIDE else apart + 1

    def nearest(g: Any) -> dict[str, str]:
        radius = getattr(g, one)
        longer = float(radius) < float(givens.LONGEST)
        return {other: at_least(radius, above=True) if longer else at_most(radius / 2)}

    return Condition("two different radii", margin, sentence, (one, other), nearest, strict=True)


def clipped(value: Number, least: Number, most: Number) -> str:
    """The value nearest to one inside a range, as it would be typed."""
    if float(value) < float(least):
        return at_least(least)
    return at_most(most if float(value) > float(most) else value)


# -------------------------------------------------------------------------------------------------------------- drawing
def given_circle(b: Board, centre: Point, radius: Number, name: str) -> Circle:
    """A circle of the brief."""
    return b.arc(centre, radius, whole=True, name=name, pen=Pen.GIVEN, why="a given circle")


def level_start(b: Board, name: str, why: str, line: str) -> tuple[Point, Line]:
    """The first point of the figure with a level line through it."""
    start = b.point(name, b.number(0), b.number(0), why=why)
    return start, b.level_line(start, line, pen=Pen.CENTRE if line == "centre line" else Pen.GIVEN)


def line_in_blend(b: Board, centre: Point, first: Point, second: Point, why: str = "") -> None:
    """Line in the shorter arc between two touch points."""
    ends = (first, second) if sign_of(plane.turn_at(centre, first, second)) >= 0 else (second, first)
    b.line_in_arc(centre, *ends, "arc", why)


def mark_touch(b: Board, given: Circle, centre: Point, way: int, name: str) -> Point:
    """The touch point on a given circle, where the line of centres meets it."""
    joined = b.line(given.centre, centre, f"line of centres to {name}", why="the touch point lies on it")
    chosen = plane.nearest(centre) if way > 0 else plane.farthest(centre)
    return b.meet(joined, given, chosen, name)


def solution_name(name: str, number: int) -> str:
    """``T1`` for the first solution, ``T1_2`` for the second."""
    return name if number == 1 else f"{name}_{number}"
