"""What is about a place of a curve: the surfaces through it cut the plane square to it into sectors, each inside the body or
outside."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from wisecompass.geometry.curves_in_space import Array, Curve
from wisecompass.geometry.model import Model, Pair, Triple
from wisecompass.geometry.surfaces import across

TOUCHING = 0.1
"""The share of one place within which a surface runs through a place."""

SMOOTH = 1e-9
"""The sine of the angle below which two surfaces that touch go on into each other."""


@dataclass(frozen=True)
class Around:
    """A place of a curve in which a ``pair`` of surfaces meets, and the value of every surface near it there."""

    curve: Curve
    pair: tuple[int, ...]
    t: float
    place: Array
    heights: dict[int, float]


@dataclass(frozen=True)
class Section:
    """The plane through a place of a curve, square to it: two directions in it, the halves of the surfaces in their order
    (how they turn from the first direction to the second, their bend, their number), and whether what follows each half is
    inside the body."""

    first: Triple
    second: Triple
    branches: list[tuple[float, float, int]]
    inside: list[bool]
    slopes: dict[int, Pair]
    through: tuple[int, ...]
    at: float = 0.0
    """The place, in the curve's measure."""

    def turned(self, axis: int, angle: float) -> Section:
        """The same further round a circle about an axis, where all faces are round about that."""
        u, v = across(axis)
        c, s = math.cos(angle), math.sin(angle)
        first, second = list(self.first), list(self.second)
        for way in (first, second):
            way[u], way[v] = c * way[u] - s * way[v], s * way[u] + c * way[v]
        return replace(self, first=first, second=second, at=self.at + angle)


@dataclass(frozen=True)
class Side:
    """A face of the body beside an edge: its surface, whether the body's outward normal goes ``along`` the surface's
    gradient, and whether the face lies to the left of the edge's way, seen from outside."""

    surface: int
    along: bool
    left: bool


def faces_of(section: Section, contour: bool) -> tuple[tuple[Side, ...], bool] | None:
    """The faces of the body that begin at a curve, and whether one goes on into the other; None where none begins or where
    one goes on."""
    branches, inside, flat = section.branches, section.inside, section.slopes
    changes = [(branches[n], inside[n]) for n in range(len(branches)) if inside[n - 1] != inside[n]]
    if not changes:
        return None
    sides = []
    for (angle, _, k), after in changes:
        gx, gy = flat[k]
        u = (math.cos(angle), math.sin(angle))
        outward = (u[1], -u[0]) if after else (-u[1], u[0])  # away from the side that is inside
        along = gx * outward[0] + gy * outward[1] > 0
        # seen from outside with the tangent ahead, the left is outward x tangent; first, second, tangent turn to the right
        left = outward[1] * u[0] - outward[0] * u[1] > 0
        sides.append(Side(k, along, left))
    smooth = False
    if len(changes) == 2:
        (one, *_), (other, *_) = changes
        turn = abs((one[0] - other[0]) % (2 * math.pi) - math.pi)
        smooth = turn < SMOOTH * 100
    if smooth and sides[0].surface == sides[1].surface and not contour:
        return None
    if contour and not smooth:
        return None
    return tuple(sides), smooth


def section_at(model: Model, at: Around, near: Sequence[int]) -> Section | None:
    """The section about a place of a curve; None where no part reaches it."""
    if not math.isfinite(at.place[0] + at.place[1] + at.place[2]):
        return None
    here, tiny = at.place.tolist(), model.near * TOUCHING
    touching = {k for k, height in at.heights.items() if abs(height) <= tiny or k in at.pair}
    about: list[tuple[int, list[tuple[int, float]]]] = []
    for p in near:
        active = []
        for k, way in model.walls[p]:
            if k in touching:
                active.append((k, way))
            elif at.heights[k] * way > 0:
                break
        else:
            about.append((p, active))
    if not any(active for _, active in about):
        return None
    through = sorted(touching)
    tangent = at.curve.tangent(at.t).tolist()
    if not any(tangent):
        return None  # two cones that share only their apex
    slopes = {k: [2 * q * c + b for q, c, b in zip(model.squares[k], here, model.linears[k], strict=True)] for k in through}
    told = [(model.parts[p].taken, active) for p, active in about]
    return section_square_to(tangent, slopes, {k: model.squares[k] for k in through}, told)


def section_square_to(
    tangent: Triple,
    slopes: dict[int, Triple],
    squares: dict[int, Triple],
    about: Sequence[tuple[bool, Sequence[tuple[int, float]]]],
) -> Section:
    """The section square to a way of surfaces with these slopes and squares; ``about`` tells of every part that reaches
    there whether it is taken away and which of the surfaces bound it there."""
    first, second = _square_to(tangent)
    flat: dict[int, Pair] = {}
    for k, slope in slopes.items():
        across_it = dot(slope, first), dot(slope, second)
        if math.hypot(*across_it) > 1e-9 * max(1.0, math.hypot(*slope)):
            flat[k] = across_it
    branches = _branches(squares, flat, first, second)
    inside = [_is_inside(squares, about, flat, sector, first, second) for sector in _sectors(branches)]
    return Section(first, second, branches, inside, flat, tuple(slopes))


def _square_to(way: Triple) -> tuple[Triple, Triple]:
    """Two directions square to a direction and to each other; the three turn to the right."""
    x, y, z = way
    if abs(x) <= min(abs(y), abs(z)):
        first = [0.0, z, -y]
    elif abs(y) <= abs(z):
        first = [-z, 0.0, x]
    else:
        first = [y, -x, 0.0]
    size = math.hypot(*first)
    a, b, c = (each / size for each in first)
    return [a, b, c], [y * c - z * b, z * a - x * c, x * b - y * a]


def dot(one: Sequence[float], other: Sequence[float]) -> float:
    """Of two directions in floats."""
    return one[0] * other[0] + one[1] * other[1] + one[2] * other[2]


def _curving(squares: Triple, u: Pair, first: Triple, second: Triple) -> float:
    """Half the second derivative of a surface's value along a direction of the section."""
    found = 0.0
    for q, a, b in zip(squares, first, second, strict=True):
        found += q * (u[0] * a + u[1] * b) ** 2
    return found


def _branches(
    squares: dict[int, Triple], flat: dict[int, Pair], first: Triple, second: Triple
) -> list[tuple[float, float, int]]:
    """Both halves of every surface in the section square to the curve: direction, bend to the left, and number, in order."""
    found = []
    for k, (gx, gy) in flat.items():
        size = math.hypot(gx, gy)
        for ux, uy in ((-gy / size, gx / size), (gy / size, -gx / size)):
            toward = gx * -uy + gy * ux  # the slope to the left of u
            found.append((math.atan2(uy, ux), -_curving(squares[k], (ux, uy), first, second) / toward, k))
    angles = sorted(found)
    merged: list[tuple[float, float, int]] = []
    group: list[tuple[float, float, int]] = []
    for each in angles:
        if group and each[0] - group[0][0] > SMOOTH:
            merged += sorted(group, key=lambda b: b[1])
            group = []
        group.append(each)
    if merged and group and group[0][0] - merged[0][0] > 2 * math.pi - SMOOTH:
        head = [b for b in merged if b[0] - merged[0][0] < SMOOTH]
        rest = merged[len(head) :]
        return sorted([*group, *head], key=lambda b: b[1]) + rest
    return merged + sorted(group, key=lambda b: b[1])


def _sectors(branches: Sequence[tuple[float, float, int]]) -> list[tuple[float, float, float]]:
    """Between each branch and the next: the direction of its middle, the bend there, and how wide it is."""
    found = []
    for n, (angle, bend, _) in enumerate(branches):
        following, next_bend, _ = branches[(n + 1) % len(branches)]
        wide = (following - angle) % (2 * math.pi)
        if len(branches) > 1 and (wide < SMOOTH or wide > 2 * math.pi - SMOOTH):
            found.append((angle, (bend + next_bend) / 2, 0.0))
        else:
            found.append((angle + wide / 2, 0.0, wide))
    return found


def _is_inside(
    squares: dict[int, Triple],
    about: Sequence[tuple[bool, Sequence[tuple[int, float]]]],
    flat: dict[int, Pair],
    sector: tuple[float, float, float],
    first: Triple,
    second: Triple,
) -> bool:
    """Whether the middle of a sector lies inside the body."""
    angle, bend, wide = sector
    ux, uy = math.cos(angle), math.sin(angle)
    signs: dict[int, float] = {}
    for k, (gx, gy) in flat.items():
        rise = gx * ux + gy * uy
        if wide == 0.0 and abs(rise) < 10 * SMOOTH * math.hypot(gx, gy):
            rise = _curving(squares[k], (ux, uy), first, second) + bend * (gx * -uy + gy * ux)
        signs[k] = rise
    is_in = False
    for taken, active in about:
        if all(signs.get(k, -way) * way < 0 for k, way in active):
            is_in = not taken
    return is_in
