"""A single solid: prism, pyramid, cylinder, cone and their frusta, in its own frame, where it stands on its base about the
upright axis through (0, 0). Directions in the base are degrees from the right, anticlockwise as seen from above.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

from wisecompass.arithmetic import Number, cos_deg, hypot, root, roughly, sin_deg
from wisecompass.drafting.givens import Givens, angle, choice, count, length
from wisecompass.geometry.space import Point3

FLAT, ROUND = ("prism", "pyramid", "frustum"), ("cylinder", "cone", "cone-frustum")
BASE, END, APEX = "ABCDEFGHIJ", "MNPQRSTUVW", "O"
"""Letters of the corners of base and other end, in order anticlockwise as seen from above, and of the apex."""

MIDDLE, END_MIDDLE = "K", "L"
"""Letters of the middles of base and other end."""

GENERATORS = 8
"""Generators by which a round solid is drawn."""


class Solid(Givens):
    """What a single solid is, and what follows from its sizes; a problem's own givens say it in that problem's words."""

    if TYPE_CHECKING:

        @property
        def kind(self) -> str: ...
        @property
        def sides(self) -> int: ...
        @property
        def base(self) -> Number: ...
        @property
        def top(self) -> Number: ...
        @property
        def height(self) -> Number: ...
        @property
        def turned(self) -> Number: ...

    @property
    def support(self) -> str:
        """What it rests on."""
        return "base"

    @property
    def stands(self) -> bool:
        return self.support == "base"

    @property
    def room(self) -> Number:
        """How far the middle of the base is in front of VP, mm: enough for every position."""
        reach = self.base + self.top if self.is_frustum else self.base
        return reach * 3 / 4 if self.is_round else reach * self.sides / 4

    @property
    def is_round(self) -> bool:
        return self.kind in ROUND

    @property
    def is_pointed(self) -> bool:
        return self.kind in ("pyramid", "cone")

    @property
    def is_straight(self) -> bool:
        """Whether both ends are alike."""
        return self.kind in ("prism", "cylinder")

    @property
    def is_frustum(self) -> bool:
        return self.kind in ("frustum", "cone-frustum")

    @cached_property
    def widens(self) -> bool:
        """Whether a round one is wider at its other end than at its base: from above its base is hidden."""
        return self.kind == "cone-frustum" and self.decide(lambda h: h.base - h.top) < 0

    @property
    def corners(self) -> int:
        """Corners of the base, or points that its rim is drawn by."""
        return GENERATORS if self.is_round else self.sides

    @property
    def base_letters(self) -> Sequence[str]:
        return BASE[: self.corners]

    @property
    def end_letters(self) -> Sequence[str]:
        """Of the corners of the other end; the apex where it has none."""
        return APEX if self.is_pointed else END[: self.corners]


@dataclass(frozen=True)
class SolidGivens(Solid):
    """Any single solid."""

    kind: str = choice("kind", *FLAT, *ROUND)
    sides: int = count("sides", "6", 3, len(BASE))
    base: Number = length("side of the base, or its diameter", "21")
    top: Number = length("side of the other end, or its diameter", "12")
    height: Number = length("height along the axis", "58")

    turned: Number = angle("turn of the base about the axis", "0", "-180", "180")


# ------------------------------------------------------------------------------------------------------------ own frame
def begin(g: Solid) -> Number:
    """Direction of the first corner: a side lies to the right, square to VP; or a corner; or, standing, a side in front."""
    half = half_turn(g)
    if g.is_round or g.support == "corner":
        return half * 0
    return (g.turned - 90 if g.stands else half * 0) - half


def half_turn(g: Solid) -> Number:
    """Half the angle that a side of the base spans at its middle, degrees, in the arithmetic of the givens."""
    return (g.height * 0 + 180) / g.corners


def radii(g: Solid) -> tuple[Number, Number]:
    """Radius of the base's circle through its corners, and that of the other end, mm."""
    end = g.base if g.is_straight else g.top if g.is_frustum else g.base * 0
    if g.is_round:
        return g.base / 2, end / 2
    share = 2 * sin_deg(half_turn(g))
    return g.base / share, end / share


def apothems(g: Solid) -> tuple[Number, Number]:
    """How far the sides of base and other end lie from the axis, mm; of a round solid its radii."""
    near = g.height * 0 + 1 if g.is_round else cos_deg(half_turn(g))
    first, second = radii(g)
    return first * near, second * near


def lettered_points(g: Solid, begin: Number) -> dict[str, Point3]:
    """Corners, middles and apex in the solid's own frame; the first corner in the direction ``begin``."""
    outer, inner = radii(g)
    zero, half = g.height * 0, half_turn(g)
    found = {MIDDLE: Point3(zero, zero, zero), (APEX if g.is_pointed else END_MIDDLE): Point3(zero, zero, zero + g.height)}
    for k in range(g.corners):
        way = begin + 2 * k * half
        c, s = cos_deg(way), -sin_deg(way)
        found[g.base_letters[k]] = Point3(outer * c, outer * s, zero)
        if not g.is_pointed:
            found[g.end_letters[k]] = Point3(inner * c, inner * s, zero + g.height)
    return found


def own_place(g: Solid, letter: str) -> Point3:
    """One corner in the solid's own frame, without all others."""
    zero = g.height * 0
    if letter in (MIDDLE, APEX, END_MIDDLE):
        return Point3(zero, zero, zero if letter == MIDDLE else zero + g.height)
    letters, radius, above = g.base_letters, radii(g)[0], zero
    if letter not in letters:
        letters, radius, above = g.end_letters, radii(g)[1], zero + g.height
    way = begin(g) + 2 * letters.index(letter) * half_turn(g)
    return Point3(radius * cos_deg(way), radius * -sin_deg(way), above)


def side_normals(g: Solid, begin: Number) -> list[Point3]:
    """Outward normals of the side faces, from that over A and B round."""
    first, second = apothems(g)
    half, rise = half_turn(g), first - second
    ways = [begin + (2 * k + 1) * half for k in range(g.sides)]
    return [Point3(g.height * cos_deg(w), -g.height * sin_deg(w), rise) for w in ways]


def volume(g: Solid, disc: Callable[[Number], Number]) -> Number:
    """mm³; ``disc`` is the area of a circle of a radius (Heron's rule for frusta: mean of both ends and their mean
    proportional)."""
    first, second = ends(g, disc)
    return g.height * (first + second + root(first * second)) / 3


def ends(g: Solid, disc: Callable[[Number], Number]) -> tuple[Number, Number]:
    """Areas of base and other end, mm²."""
    first, second = radii(g)
    if g.is_round:
        return disc(first), disc(second)
    share = sin_deg(2 * half_turn(g)) * g.sides / 2
    return first * first * share, second * second * share


def slant_height(g: Solid) -> Number:
    """Length of a side face along its middle, or of a generator, mm."""
    first, second = apothems(g)
    return hypot(first - second, g.height)


def lateral_area(g: Solid, disc: Callable[[Number], Number]) -> Number:
    """Area of all side faces, or of the round side, mm²."""
    first, second = radii(g)
    if g.is_round:
        return disc(g.height * 0 + 1) * (first + second) * slant_height(g)
    girths = (first + second) * sin_deg(half_turn(g)) * 2
    return girths * slant_height(g) * g.sides / 2


# ------------------------------------------------------------------------------------------------------------ stations
def stations(g: Solid) -> list[tuple[int, ...]]:
    """Corners of the base that the front view shows in one place, from the right to the left; of two the first lies nearer
    to the drafter."""
    n = g.corners
    if g.stands and not g.is_round:
        groups = _of_a_standing_one(g)
    elif g.is_round or g.support == "corner":
        groups = [(0,), *((n - k, k) for k in range(1, (n + 1) // 2)), *(((n // 2),) for _ in range(1 - n % 2))]
    else:
        groups = [(-k % n, k + 1) for k in range(n // 2)] + [(n // 2 + 1,)] * (n % 2)
    return [tuple(group) for group in groups]


def _of_a_standing_one(g: Solid) -> list[tuple[int, ...]]:
    """The same of a base that is turned anyhow."""
    left = list(range(g.sides))
    groups: list[tuple[int, ...]] = []
    while left:
        i = left.pop(0)
        twin = next((j for j in left if _mirrored(g, i, j)), None)
        if twin is None:
            groups.append((i,))
        else:
            left.remove(twin)
            groups.append((i, twin))
    ways = [roughly(cos_deg(_way(g, group[0]))) for group in groups]
    near = [tuple(sorted(group, key=lambda k: roughly(sin_deg(_way(g, k))))) for group in groups]
    return [near[i] for i in sorted(range(len(groups)), key=lambda i: -ways[i])]


def _way(g: Solid, k: int) -> Number:
    return begin(g) + 2 * k * half_turn(g)


def _mirrored(g: Solid, i: int, j: int) -> bool:
    """Whether two corners stand as far to the right: their directions are opposite, but for whole turns."""
    nearest = round((roughly(_way(g, i)) + roughly(_way(g, j))) / 360)
    return g.decide(lambda h: _way(h, i) + _way(h, j) - 360 * nearest) == 0
