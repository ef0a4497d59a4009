"""Two triangles in space: their common line, and the part of it that lies within both. Decided once, on the givens.

The line in which the planes meet leaves a triangle at corners that lie on the other plane, and at edges whose ends lie on
different sides of it. What both triangles have of it is where the two stretches overlap.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, TypeAlias

from wisecompass.arithmetic import Number
from wisecompass.catalogue.space.planes import Names, given, normal
from wisecompass.drafting.givens import Givens
from wisecompass.geometry.space import Point3, cross, dot

FIRST: Names = ("A", "B", "C")
SECOND: Names = ("D", "E", "F")
ALL = (*FIRST, *SECOND)

Spot: TypeAlias = tuple[str, ...]
"""Where the common line leaves a triangle: a corner, or the two ends of an edge."""


def line_direction(g: Any) -> Point3:
    return cross(normal(g, FIRST), normal(g, SECOND))


def side(g: Any, name: str) -> Number:
    """On which side of the other face's plane a corner lies."""
    other = SECOND if name in FIRST else FIRST
    return dot(normal(g, other), given(g, name) - given(g, other[0]))


def sides_of(g: Any) -> list[Number]:
    """The same for all six corners."""
    n, m = normal(g, FIRST), normal(g, SECOND)
    first = [dot(m, given(g, name) - given(g, SECOND[0])) for name in FIRST]
    return [*first, *(dot(n, given(g, name) - given(g, FIRST[0])) for name in SECOND)]


def place_of(g: Any, spot: Spot) -> Point3:
    """A corner, or where the line crosses an edge."""
    if len(spot) == 1:
        return given(g, spot[0])
    p, q = spot
    one, other = side(g, p), side(g, q)
    share = one / (one - other)
    start = given(g, p)
    return start + (given(g, q) - start).scaled(share)


def any_place(g: Any) -> Point3:
    """Any point of the common line: that of both planes nearest to the origin of the normals' plane."""
    n, m = normal(g, FIRST), normal(g, SECOND)
    u = cross(n, m)
    p, q = dot(n, given(g, FIRST[0])), dot(m, given(g, SECOND[0]))
    return (cross(m, u).scaled(p) + cross(u, n).scaled(q)).scaled(1 / dot(u, u))


@dataclass(frozen=True)
class Common:
    """How two faces meet. ``shared`` are pairs of corners in the same place. ``start`` and ``end`` bound the part within
    both, the left one first; None where no part is."""

    shared: tuple[tuple[str, str], ...]
    start: Spot | None
    end: Spot | None
    level: bool
    """The line is parallel with HP."""
    frontal: bool
    """The line is parallel with VP."""
    upright: bool
    along_fold: bool

    @property
    def extended(self) -> bool:
        """Whether the faces must be extended to meet."""
        return self.start is None

    @property
    def is_a_point(self) -> bool:
        """The faces only touch."""
        return self.start is not None and self.start == self.end


def common(g: Givens) -> Common:
    """How the faces meet."""
    u = g.decide_all(lambda h: _parts(line_direction(h)))
    pairs = tuple((p, q) for p in FIRST for q in SECOND)
    apart = g.decide_all(lambda h: [_squared(given(h, q) - given(h, p)) for p, q in pairs])
    shared = tuple(pair for pair, sign in zip(pairs, apart, strict=True) if sign == 0)
    found = stretches(g)
    start = end = None
    if len(found) > 1:
        (one_low, one_high), (two_low, two_high) = found
        start = two_low if _before(g, one_low, two_low) < 0 else one_low
        end = two_high if _before(g, two_high, one_high) < 0 else one_high
        order = _before(g, start, end)
        if order > 0:
            start = end = None
        elif order == 0:
            end = start
    along, away, up = u
    flat = not up
    return Common(shared, start, end, flat, not away, not (along or away), flat and not away)


def stretches(g: Givens) -> list[tuple[Spot, Spot]]:
    """The part of the line that each face has; faces that lie on one side of the other's plane have none."""
    sides = dict(zip(ALL, g.decide_all(sides_of), strict=True))
    found = (_stretch(g, names, sides) for names in (FIRST, SECOND))
    return [stretch for stretch in found if stretch is not None]


def _parts(v: Point3) -> tuple[Number, Number, Number]:
    return v.x, v.front, v.above


def _squared(v: Point3) -> Number:
    return dot(v, v)


def _stretch(g: Givens, names: Names, sides: dict[str, int]) -> tuple[Spot, Spot] | None:
    """The ends of a triangle's part of the line, the left one first."""
    spots: list[Spot] = [(name,) for name in names if sides[name] == 0]
    for p, q in ((names[0], names[1]), (names[1], names[2]), (names[2], names[0])):
        if sides[p] * sides[q] < 0:
            spots.append((p, q))
    if not spots:
        return None
    if len(spots) == 1:
        return spots[0], spots[0]
    one, other = spots[0], spots[1]
    return (one, other) if _before(g, one, other) <= 0 else (other, one)


def _before(g: Givens, one: Spot, other: Spot) -> int:
    """Negative where one place of the line comes before another: from left to right, else from the wall, else upwards."""
    if one == other:
        return 0

    def steps(h: Any) -> tuple[Number, ...]:
        return _parts(place_of(h, one) - place_of(h, other))

    return next((sign for sign in g.decide_all(steps) if sign), 0)
