"""What the problems of triangles share: the measures of a triangle, its closed form, and a triangle set out by two arcs.

The base AB is side c and level, A its left end, C above it; side a lies opposite A.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import Number, atan2_deg, root, sin_deg
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_most
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point

MEASURES: dict[str, Kind] = {
    **{f"side_{corner}": Kind.LENGTH for corner in "abc"},
    **{f"angle_{corner}": Kind.ANGLE for corner in "abc"},
    "perimeter": Kind.LENGTH,
    "area": Kind.AREA,
    "altitude": Kind.LENGTH,
    "inradius": Kind.LENGTH,
    "circumradius": Kind.LENGTH,
}
SECOND_MEASURES = {**MEASURES, **{f"{name}_2": kind for name, kind in MEASURES.items()}}
"""Of problems that may have two solutions."""

LEAST_GAP = Fraction(1, 1000)
"""By how much, in mm, an offered length stays clear of a limit that it may not reach."""

LEAST_TURN = Fraction(1, 100)
"""The same for an angle, in degrees."""


# --------------------------------------------------------------------------------------------------------- closed form
def from_sides(a: Number, b: Number, c: Number, suffix: str = "") -> dict[str, Number]:
    """All measures of the triangle of those sides, mm and degrees (Heron; law of cosines)."""
    half = (a + b + c) / 2
    area = root(half * (half - a) * (half - b) * (half - c))
    return from_top(a, b, c, (b * b + c * c - a * a) / (2 * c), 2 * area / c, suffix)


def from_top(a: Number, b: Number, c: Number, along: Number, height: Number, suffix: str = "") -> dict[str, Number]:
    """The same where it is known how far C stands along the base from A and how high over it: what is given is then not
    reckoned from sides again, which loses all digits where a triangle is nearly flat."""
    half, area = (a + b + c) / 2, c * height / 2
    found = {
        "side_a": a + 0,
        "side_b": b + 0,
        "side_c": c + 0,
        "angle_a": atan2_deg(height, along),
        "angle_b": atan2_deg(height, c - along),
        "angle_c": atan2_deg(height * c, height * height - along * (c - along)),
        "perimeter": 2 * half,
        "area": area,
        "altitude": height + 0,
        "inradius": area / half,
        "circumradius": a * b / (2 * height),
    }
    return {name + suffix: value for name, value in found.items()}


def corners_of(a: Number, b: Number, c: Number, suffix: str = "") -> dict[str, Point]:
    """A at the origin, B on the x axis, C above, by name."""
    along = (b * b + c * c - a * a) / (2 * c)
    zero = c - c
    return {"A": Point(zero, zero), "B": Point(c + 0, zero), f"C{suffix}": Point(along, root(b * b - along * along))}


def third_side(first: Number, second: Number, cosine: Number) -> Number:
    """The side opposite an angle between two sides (law of cosines)."""
    return root(first * first + second * second - 2 * first * second * cosine)


# ----------------------------------------------------------------------------------------------------------- conditions
def must_close(*names: str) -> tuple[Condition, ...]:
    """Three lengths of which any two together must be longer than the third; a flat figure is none."""

    def rule(longest: str, one: str, other: str) -> Condition:
        def spare(g: Any) -> Number:
            less: Number = getattr(g, one) + getattr(g, other) - getattr(g, longest)
            return less

        def nearest(g: Any) -> dict[str, str]:
            return {longest: at_most(getattr(g, one) + getattr(g, other) - LEAST_GAP)}

        sentence = (
            f"{one.replace('_', ' ')} {{{one}}} and {other.replace('_', ' ')} {{{other}}} together are not longer than "
            f"{longest.replace('_', ' ')} {{{longest}}}, so the triangle stays open or falls flat"
        )
        return Condition("a triangle that closes", spare, sentence, names, nearest, strict=True)

    first, second, third = names
    return (rule(first, second, third), rule(second, first, third), rule(third, first, second))


def angles_leave_room(one: str, other: str) -> Condition:
    """Two angles of a triangle, together below 180°."""
    spare: Callable[[Any], Number] = lambda g: 180 - getattr(g, one) - getattr(g, other)  # noqa: E731
    return Condition(
        "two angles together below 180°",
        spare,
        f"{{{one}}} and {{{other}}} together leave nothing of 180° for the third angle",
        (one, other),
        lambda g: {other: at_most(180 - getattr(g, one) - LEAST_TURN, 6)},
        strict=True,
    )


LARGEST_ANGLE = "179.98"
"""Two angles of a triangle, each of at least 0.01°, leave no more for the third."""


def corner_angle(words: str, default: str) -> Any:
    """A given angle of a triangle."""
    return givens.angle(words, default, most=LARGEST_ANGLE, limit_words="it must lie above 0° and below 180°")


# -------------------------------------------------------------------------------------------------------------- drawing
def set_base(b: Board, length: Number) -> tuple[Point, Point, Line]:
    """The base AB, level."""
    left = b.point("A", b.number(0), b.number(0), why="the left end of the base")
    base = b.level_line(left, "base", pen=Pen.GIVEN)
    return left, b.lay_off(base, left, length, "B", why="the given base"), base


@dataclass(frozen=True)
class ThreeSides(Givens):
    base: Number = givens.length("base", "71")
    left: Number = givens.length("left side", "58")
    right: Number = givens.length("right side", "43")


CHANGED_OVER = "arcs changed over: the left side swung from the right end"
"""A mistake at two arcs from the ends of a base."""


def by_two_arcs(b: Board, g: ThreeSides) -> tuple[Point, Point, Point]:
    """The triangle of three sides: the ends of the base and the crossing of an arc from each."""
    left, right, _ = set_base(b, g.base)
    at_left, at_right = (g.right, g.left) if b.slips(CHANGED_OVER) else (g.left, g.right)
    first = b.arc(left, at_left, why="the left side")
    second = b.arc(right, at_right, why="the right side")
    b.caution("Each length belongs to its own end: changed over, the triangle comes out mirrored.")
    return left, right, b.meet(first, second, plane.upper, "C")


def line_in_triangle(b: Board, left: Point, right: Point, top: Point) -> None:
    """The three edges and their lengths."""
    b.line_in((left, right), (right, top), (top, left))
    b.dimension(right, left, offset=9)
    b.dimension(top, right, offset=9)
    b.dimension(left, top, offset=9)


def measure(b: Board, left: Point, right: Point, top: Point, suffix: str = "") -> None:
    """Every measure, taken off the drawing."""
    sides = (plane.distance(right, top), plane.distance(left, top), plane.distance(left, right))
    angles = (plane.angle_at(left, right, top), plane.angle_at(right, top, left), plane.angle_at(top, left, right))
    area = plane.polygon_area([left, right, top])
    perimeter = sides[0] + sides[1] + sides[2]
    for corner, side, angle in zip("abc", sides, angles, strict=True):
        b.find(f"side_{corner}{suffix}", side)
        b.find(f"angle_{corner}{suffix}", angle)
    b.find(f"perimeter{suffix}", perimeter)
    b.find(f"area{suffix}", area)
    b.find(f"altitude{suffix}", plane.distance_to_line(top, Line.through(left, right)))
    b.find(f"inradius{suffix}", 2 * area / perimeter)
    b.find(f"circumradius{suffix}", sides[2] / (2 * sin_deg(angles[2])))
