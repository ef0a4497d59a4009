"""The circles that touch three circles, in closed form (Apollonius' problem in Lie's signed radii).

Circle 1 is shrunk to its centre, the origin, and each other circle i grows or shrinks with it: its signed radius becomes
ρi = σi·ri - r1, where σi is 1 for contact like that of circle 1 and -1 for the other kind. A wanted circle of centre
(X, Y) and signed radius R through the origin then has X² + Y² = R² and 2xi·X + 2yi·Y + 2ρi·R = xi² + yi² - ρi²: a line
in space that meets a cone, at most twice for each of the four choices of signs.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from typing import Any, TypeAlias, cast

from wisecompass.arithmetic import BALL, Number, absolute, root
from wisecompass.drafting import givens
from wisecompass.drafting.givens import Givens, Typed, bind_rational, givens_of
from wisecompass.geometry.plane import Point

Triple: TypeAlias = tuple[Any, Any, Any]

SIGNS = ((1, 1), (1, -1), (-1, 1), (-1, -1))


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
    double one, None where the quadratic is linear)."""

    signs: tuple[int, int]
    root: int | None


@dataclass(frozen=True)
class Layout:
    """How one solution lies: all that is decided once, on the givens as typed.

    ``inside``: with which circles it has contact inside. ``ways``: whether each touch point lies towards its centre (1)
    or away from it (-1). For circles 2 and 3, ``offset``: the signs of their radii when circle 1 is shrunk; ``power``: of
    the power of the origin against the shrunk circles; ``same_centre``: 0 where they stand at the origin.
    ``larger``: the sign of image 2's radius less that of image 3. ``x``, ``y``: roughly where the centre is.
    """

    found: Found
    inside: tuple[bool, ...]
    ways: tuple[int, ...]
    offset: tuple[int, ...]
    power: tuple[int, ...]
    same_centre: tuple[int, ...]
    larger: int
    x: Fraction
    y: Fraction


@dataclass(frozen=True)
class Meeting:
    """Where line and cone may meet: the line's direction, a point of it times ``size``, and a·t² + 2b·t + c with t times
    ``size``. No line where ``size`` is zero."""

    at: Triple
    way: Triple
    size: Any
    a: Any
    b: Any
    c: Any

    @property
    def spread(self) -> Any:
        """A quarter of the discriminant."""
        return self.b * self.b - self.a * self.c

    def place(self, which: int | None) -> Triple:
        """(X, Y, R) at a root."""
        if which is None:
            t = -self.c / (2 * self.b)
        elif which == 0:
            t = -self.b / self.a
        else:
            t = (root(self.spread) * which - self.b) / self.a
        return cast("Triple", tuple((p + t * q) / self.size for p, q in zip(self.at, self.way, strict=True)))


def shrunk(g: ThreeCircles, signs: tuple[int, int]) -> tuple[Number, Number]:
    """Signed radii of circles 2 and 3 when circle 1 is shrunk to a point."""
    return g.radius_2 * signs[0] - g.radius_1, g.radius_3 * signs[1] - g.radius_1


def meeting(g: ThreeCircles, signs: tuple[int, int]) -> Meeting:
    """Line and cone for one choice of signs."""
    planes = []
    for (x, y), rho in zip((g.centre_2, g.centre_3), shrunk(g, signs), strict=True):
        planes.append(((2 * x, 2 * y, 2 * rho), x * x + y * y - rho * rho))
    (n2, k2), (n3, k3) = planes
    way = _cross(n2, n3)
    left, right = _cross(n3, way), _cross(way, n2)
    at = cast("Triple", tuple(k2 * p + k3 * q for p, q in zip(left, right, strict=True)))
    return Meeting(at, way, _dot(way, way), _cone(way, way), _cone(at, way), _cone(at, at))


def _cross(p: Triple, q: Triple) -> Triple:
    return p[1] * q[2] - p[2] * q[1], p[2] * q[0] - p[0] * q[2], p[0] * q[1] - p[1] * q[0]


def _dot(p: Triple, q: Triple) -> Any:
    return p[0] * q[0] + p[1] * q[1] + p[2] * q[2]


def _cone(p: Triple, q: Triple) -> Any:
    return p[0] * q[0] + p[1] * q[1] - p[2] * q[2]


def place(g: ThreeCircles, found: Found) -> Triple:
    """(X, Y, R) of a solution in the arithmetic of the givens."""
    return meeting(g, found.signs).place(found.root)


def powers(g: ThreeCircles, found: Found) -> tuple[Number, Number]:
    """The power of the origin against shrunk circles 2 and 3: square of the distance less square of the radius."""
    second, third = shrunk(g, found.signs)
    return squared(g.centre_2) - second * second, squared(g.centre_3) - third * third


def squared(place: tuple[Number, Number]) -> Number:
    """Square of the distance from the origin."""
    return place[0] * place[0] + place[1] * place[1]


def solutions(g: ThreeCircles) -> tuple[Layout, ...]:
    """All solutions, those with least contact inside first. Decided on the givens as typed, and remembered."""
    if g.on_tape:
        return _sorted(g)
    typed: Typed = g.__dict__["_typed"]
    return _solutions(tuple(typed.items()))


def with_given(g: ThreeCircles, name: str, text: str) -> tuple[Layout, ...]:
    """The solutions with one given changed.

    Raises:
        BadGiven: the value is outside its limits.
    """
    item = next(item for item in givens_of(ThreeCircles) if item.name == name)
    return _solutions(tuple({**g.__dict__["_typed"], name: item.read(text)}.items()))


@lru_cache(maxsize=64)
def _solutions(typed: tuple[tuple[str, Any], ...]) -> tuple[Layout, ...]:
    g = cast("ThreeCircles", bind_rational(ThreeCircles, dict(typed)))
    object.__setattr__(g, "_typed", dict(typed))
    return _sorted(g)


def _sorted(g: ThreeCircles) -> tuple[Layout, ...]:
    laid = [one for signs in SIGNS for found in _of_signs(g, signs) for one in _laid(g, found)]
    return tuple(sorted(laid, key=lambda one: (sum(one.inside), one.inside)))


def _of_signs(g: ThreeCircles, signs: tuple[int, int]) -> list[Found]:
    """The roots for one choice of signs."""

    def terms(h: ThreeCircles) -> tuple[Any, ...]:
        where = meeting(h, signs)
        return where.size, where.a, where.b, where.spread

    there, bend, slope, spread = g.decide_all(terms)
    if bend == 0:
        return [Found(signs, None)] if there and slope else []
    return [Found(signs, one) for one in (() if spread < 0 else (0,) if spread == 0 else (1, -1))]


def _laid(g: ThreeCircles, found: Found) -> Iterator[Layout]:
    """The layout at a root; none if it is a point or lies on one of the given circles."""
    from wisecompass.arithmetic import ball

    def gaps(h: ThreeCircles) -> tuple[Number, ...]:
        """Signed radius, signed distance from each given centre, and each given radius less that of the solution."""
        big: Number = place(h, found)[2]
        radius = big - h.radius_1
        return radius, big, *(big + rho for rho in shrunk(h, found.signs)), *(given - absolute(radius) for given in h.radii)

    def images(h: ThreeCircles) -> tuple[Number, ...]:
        second, third = shrunk(h, found.signs)
        power_2, power_3 = powers(h, found)
        larger = absolute(second) * absolute(power_3) - absolute(third) * absolute(power_2)
        return second, third, power_2, power_3, squared(h.centre_2), squared(h.centre_3), larger

    signs = g.decide_all(gaps, rational=found.root in (0, None))
    if 0 in signs[:4]:
        return
    inside = tuple(sign * signs[0] < 0 for sign in (1, *found.signs))
    ways = tuple(way if held else 1 for way, held in zip(signs[4:], inside, strict=True))
    parts = g.decide_all(images)
    x, y, _ = (ball.middle(value) for value in place(g.bound_in(BALL), found))
    yield Layout(found, inside, ways, parts[:2], parts[2:4], parts[4:6], parts[6], x, y)
