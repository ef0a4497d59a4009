"""Parts of a body: box, wedge, cylinder, cone and prism, each convex, as the surfaces that bound it.

A part is added to what was before it or taken away from it. Places are (x, y, z): to the right, backwards, upwards; mm.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, sin_deg
from wisecompass.geometry.surfaces import Cone, Flat, Pipe, Spot, Surface, across

ALONG = {"right": 0, "back": 1, "up": 2}
"""The words for the axis of a round part or a prism."""

RISING = {"left": (0, -1), "right": (0, 1), "front": (1, -1), "back": (1, 1)}
"""The words for the way in which a wedge rises: the axis, and whether along it or against it."""

SIZES = {
    "box": ("length", "depth", "height"),
    "wedge": ("length", "depth", "height"),
    "cylinder": ("diameter", "length"),
    "cone": ("diameter", "length"),
    "prism": ("sides", "side", "length"),
}
"""What the numbers of each kind are, in their order, before those of its place."""


@dataclass(frozen=True)
class Part:
    """One part: its ``kind``, the ``sizes`` as listed in ``SIZES``, the place it is ``at`` (lowest left front corner, or the
    centre of its first end), the word of its ``way``, and whether it is ``taken`` away. Of a prism ``sides`` is its
    count."""

    kind: str
    sizes: tuple[Number, ...]
    at: Spot
    way: str = ""
    taken: bool = False
    sides: int = 0

    @property
    def is_round(self) -> bool:
        return self.kind in ("cylinder", "cone")

    @property
    def axis(self) -> int:
        """The axis of a round part or a prism; of a wedge that square to its two triangles."""
        if self.kind == "wedge":
            return 1 - RISING[self.way][0]
        return ALONG.get(self.way, 2)

    @property
    def length(self) -> Number:
        """Along the axis, mm."""
        return self.sizes[self.axis] if self.kind in ("box", "wedge") else self.sizes[-1]


def surfaces(part: Part) -> list[Surface]:
    """The surfaces that bound a part; of a cone also the plane through its apex, so that only one of its halves counts."""
    if part.kind in ("box", "wedge"):
        found = _six(part)
        return found if part.kind == "box" else _halved(part, found)
    axis = part.axis
    start, end = part.at[axis], part.at[axis] + part.length
    ends: list[Surface] = [_square(axis, -1, start), _square(axis, 1, end)]
    if part.kind == "cylinder":
        return [*ends, Pipe(axis, part.at, part.sizes[0] / 2)]
    if part.kind == "cone":
        apex = _moved(part.at, axis, part.length)
        return [*ends, Cone(axis, apex, part.sizes[0] / (2 * part.length))]
    return [*ends, *(Flat(normal, _dot(normal, part.at) + near) for normal, near in _sides(part))]


def bounds(part: Part) -> tuple[Spot, Spot]:
    """The least and the greatest x, y and z that a part may reach."""
    if part.kind in ("box", "wedge"):
        x, y, z = part.at
        dx, dy, dz = part.sizes
        return part.at, (x + dx, y + dy, z + dz)
    reach = part.sizes[0] / 2 if part.is_round else circumradius(part)
    low, high = list(part.at), list(part.at)
    for i in across(part.axis):
        low[i], high[i] = low[i] - reach, high[i] + reach
    high[part.axis] = high[part.axis] + part.length
    return (low[0], low[1], low[2]), (high[0], high[1], high[2])


def circumradius(part: Part) -> Number:
    """Of the polygon of a prism, mm."""
    return part.sizes[0] / (2 * sin_deg(half_turn(part)))


def half_turn(part: Part) -> Number:
    """Half the angle that a side of a prism spans at its middle, degrees."""
    return (part.length * 0 + 180) / part.sides


def corner_ways(part: Part) -> list[Number]:
    """Directions of the corners of a prism from its axis, degrees from the first of ``plane_of(axis)`` towards the second,
    the first side level below the axis: in front where the prism stands."""
    half = half_turn(part)
    return [half * (2 * k - 1) - 90 for k in range(part.sides)]


def plane_of(axis: int) -> tuple[int, int]:
    """The two directions in which the end of a part is seen, right and up: from the front, from above, from the left."""
    return {0: (1, 2), 1: (0, 2), 2: (0, 1)}[axis]


def corners(part: Part) -> list[Spot]:
    """Corners of both ends of a prism, first end first."""
    i, j = plane_of(part.axis)
    radius = circumradius(part)
    found = []
    for along in (part.length * 0, part.length):
        for way in corner_ways(part):
            at = list(_moved(part.at, part.axis, along))
            at[i], at[j] = at[i] + radius * cos_deg(way), at[j] + radius * sin_deg(way)
            found.append((at[0], at[1], at[2]))
    return found


def _sides(part: Part) -> list[tuple[Spot, Number]]:
    """Outward normals of the sides of a prism, and how far they are from its axis."""
    i, j = plane_of(part.axis)
    half, zero = half_turn(part), part.length * 0
    near = part.sizes[0] * cos_deg(half) / (2 * sin_deg(half))
    found = []
    for k in range(part.sides):
        way = half * (2 * k) - 90
        normal = [zero, zero, zero]
        normal[i], normal[j] = cos_deg(way), sin_deg(way)
        found.append(((normal[0], normal[1], normal[2]), near))
    return found


def _six(part: Part) -> list[Surface]:
    found: list[Surface] = []
    for axis in range(3):
        found += [_square(axis, -1, part.at[axis]), _square(axis, 1, part.at[axis] + part.sizes[axis])]
    return found


def _halved(part: Part, six: Sequence[Surface]) -> list[Surface]:
    """A wedge: the low end and the top of its box give way to the slope between them."""
    axis, way = RISING[part.way]
    run, rise = part.sizes[axis], part.sizes[2]
    foot = part.at[axis] if way > 0 else part.at[axis] + run
    zero = run * 0
    normal = [zero, zero, run]
    normal[axis] = -rise if way > 0 else rise
    at = list(part.at)
    at[axis] = foot
    slope = Flat((normal[0], normal[1], normal[2]), _dot((normal[0], normal[1], normal[2]), (at[0], at[1], at[2])))
    low = 2 * axis + (0 if way > 0 else 1)
    return [*(s for k, s in enumerate(six) if k not in (low, 5)), slope]


def _square(axis: int, way: int, at: Number) -> Flat:
    """The plane square to an axis at a place on it, facing along it or against it."""
    normal = [at * 0] * 3
    normal[axis] = normal[axis] + way
    return Flat((normal[0], normal[1], normal[2]), at * way)


def _moved(at: Spot, axis: int, by: Number) -> Spot:
    found = list(at)
    found[axis] = found[axis] + by
    return found[0], found[1], found[2]


def _dot(one: Spot, other: Spot) -> Number:
    return one[0] * other[0] + one[1] * other[1] + one[2] * other[2]
