"""The circles that touch three circles, in closed form (Apollonius' problem in Lie's signed radii).

Circle 1 is shrunk to its centre, the origin, and each other circle i grows or shrinks with it: its signed radius becomes
ρi = σi·ri - r1, where σi is 1 for contact like that of circle 1 and -1 for the other kind. A wanted circle of centre
(X, Y) and signed radius R through the origin then has X² + Y² = R² and 2xi·X + 2yi·Y + 2ρi·R = xi² + yi² - ρi²: a line
in space that meets a cone, at most twice for each of the four choices of signs.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from typing import Any, TypeAlias, cast

from wisecompass.arithmetic import Number, root
from wisecompass.drafting import givens
from wisecompass.drafting.givens import Givens, Typed, bind_rational, givens_of
from wisecompass.geometry.plane import Point

Triple: TypeAlias = tuple[Any, Any, Any]

SIGNS = ((1, 1), (1, -1), (-1, 1), (-1, -1))

ROUGH_DIGITS = 40
"""Digits of a rough place: enough to tell two crossings apart that are not the same."""


@dataclass(frozen=True)
class ThreeCircles(Givens):
    radius_1: Number = givens.length("radius of circle 1", "22")
    radius_2: Number = givens.length("radius of circle 2", "14")
    radius_3: Number = givens.length("radius of circle 3", "18")
    centre_2: tuple[Number, Number] = givens.point("centre of circle 2", "76, 12")
    centre_3: tuple[Number, Number] = givens.point("centre of circle 3", "30, 64")

    @property
    def radii(self) -> Triple:
        return self.radius_1, self.radius_2, self.radius_3

    @property
    def centres(self) -> tuple[Point, Point, Point]:
        """Of the three circles; circle 1 stands at the origin."""
        zero = self.radius_1 - self.radius_1
        (x2, y2), (x3, y3) = self.centre_2, self.centre_3
        return Point(zero, zero), Point(x2 + 0, y2 + 0), Point(x3 + 0, y3 + 0)


@dataclass(frozen=True)
class Found:
    """One solution, told from the others: the signs of circles 2 and 3, and the root of the quadratic (1, -1; 0 for a
    double one, None where the quadratic is linear). ``inside`` says with which circles it has contact inside; ``x``,
    ``y`` roughly where its centre is."""

    signs: tuple[int, int]
    root: int | None
    inside: tuple[bool, bool, bool]
    x: Fraction
    y: Fraction


@dataclass(frozen=True)
class Meeting:
    """Where line and cone may meet: the line's point and direction, and the quadratic a·t² + 2b·t + c."""

    at: Triple
    way: Triple
    a: Any
    b: Any
    c: Any

    def place(self, root: int | None, rooted: Any) -> Triple:
        """(X, Y, R) at a root, ``rooted`` being √(b² - ac)."""
        t = -self.c / (2 * self.b) if root is None else (rooted * root - self.b) / self.a
        return cast("Triple", tuple(p + t * q for p, q in zip(self.at, self.way, strict=True)))


def shrunk(g: ThreeCircles, signs: tuple[int, int]) -> tuple[Number, Number]:
    """Signed radii of circles 2 and 3 when circle 1 is shrunk to a point."""
    return g.radius_2 * signs[0] - g.radius_1, g.radius_3 * signs[1] - g.radius_1


def meeting(g: ThreeCircles, signs: tuple[int, int]) -> Meeting | None:
    """Line and cone for one choice of signs; None where there is no such line."""
    planes = []
    for (x, y), rho in zip((g.centre_2, g.centre_3), shrunk(g, signs), strict=True):
        planes.append(((2 * x, 2 * y, 2 * rho), x * x + y * y - rho * rho))
    (n2, k2), (n3, k3) = planes
    way = _cross(n2, n3)
    size = _dot(way, way)
    if isinstance(size, Fraction) and size == 0:
        return None
    left, right = _cross(n3, way), _cross(way, n2)
    at = cast("Triple", tuple((k2 * p + k3 * q) / size for p, q in zip(left, right, strict=True)))
    return Meeting(at, way, _cone(way, way), _cone(at, way), _cone(at, at))


def _cross(p: Triple, q: Triple) -> Triple:
    return p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]


def _dot(p: Triple, q: Triple) -> Any:
    return p[0] * q[0] + p[1] * q[1] + p[2] * q[2]


def _cone(p: Triple, q: Triple) -> Any:
    return p[0] * q[0] + p[1] * q[1] - p[2] * q[2]


def place(g: ThreeCircles, found: Found) -> Triple:
    """(X, Y, R) of a solution in the arithmetic of the givens."""
    where = _of(g, found.signs)
    rooted = root(where.b * where.b - where.a * where.c) if found.root else where.a - where.a
    return where.place(found.root, rooted)


def _of(g: ThreeCircles, signs: tuple[int, int]) -> Meeting:
    where = meeting(g, signs)
    assert where is not None
    return where


def solutions(g: ThreeCircles) -> tuple[Found, ...]:
    """All solutions, those with least contact inside first. Decided on the givens as typed, and remembered."""
    typed: Typed = g.__dict__["_typed"]
    return _solutions(tuple(typed.items()))


def with_given(g: ThreeCircles, name: str, text: str) -> tuple[Found, ...]:
    """The solutions with one given changed.

    Raises:
        BadGiven: the value is outside its limits.
    """
    item = next(item for item in givens_of(ThreeCircles) if item.name == name)
    return _solutions(tuple({**g.__dict__["_typed"], name: item.read(text)}.items()))


@lru_cache(maxsize=64)
def _solutions(typed: tuple[tuple[str, Any], ...]) -> tuple[Found, ...]:
    g = cast("ThreeCircles", bind_rational(ThreeCircles, dict(typed)))
    object.__setattr__(g, "_typed", dict(typed))
    found = [one for signs in SIGNS for one in _of_signs(g, signs)]
    return tuple(sorted(found, key=lambda one: (sum(one.inside), one.inside)))


def _of_signs(g: ThreeCircles, signs: tuple[int, int]) -> Iterator[Found]:
    if meeting(g, signs) is None or g.decide(lambda h: _dot(_of(h, signs).way, _of(h, signs).way)) == 0:
        return
    roots: tuple[int | None, ...]
    if g.decide(lambda h: _of(h, signs).a) == 0:
        roots = (None,) if g.decide(lambda h: _of(h, signs).b) else ()
    else:
        spread = g.decide(lambda h: _of(h, signs).b * _of(h, signs).b - _of(h, signs).a * _of(h, signs).c)
        roots = () if spread < 0 else (0,) if spread == 0 else (1, -1)
    for one in roots:
        kept = _kept(g, signs, one)
        if kept is not None:
            yield kept


def _kept(g: ThreeCircles, signs: tuple[int, int], which: int | None) -> Found | None:
    """The solution at a root, unless it is a point or lies on one of the given circles."""
    bare = Found(signs, which, (False, False, False), Fraction(0), Fraction(0))

    def gap(h: ThreeCircles, i: int) -> Number:
        """Signed radius, and signed distance from each given centre."""
        big: Number = place(h, bare)[2]
        return big + (-h.radius_1, big - big, *shrunk(h, signs))[i]

    sides = [g.decide(lambda h, i=i: gap(h, i)) for i in range(4)]  # type: ignore[misc]
    if 0 in sides:
        return None
    inside = tuple(sign * sides[0] < 0 for sign in (1, *signs))
    where = _of(g, signs)
    rooted = _rough_root(where.b * where.b - where.a * where.c) if which else Fraction(0)
    x, y, _ = where.place(which, rooted)
    return Found(signs, which, cast("tuple[bool, bool, bool]", inside), _short(x), _short(y))


def _rough_root(squared: Fraction) -> Fraction:
    scale = 10**ROUGH_DIGITS
    return Fraction(math.isqrt(max(0, math.floor(squared * scale * scale))), scale)


def _short(value: Fraction) -> Fraction:
    scale = 10**ROUGH_DIGITS
    return Fraction(round(value * scale), scale)
