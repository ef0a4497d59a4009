"""Panels of a surface laid out flat, hung on each other by hinges, and folded back into space.

Every panel is rigid. The first is laid on its place of the body; each other one hangs on two points of a panel before it and
is bent about them by the **signed** angle that the body has there. A panel that lies mirrored or flipped in the flat, or one
that is too long, ends elsewhere than the body, and the distance says so.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import reduce
from itertools import pairwise
from typing import TypeAlias

from wisecompass.arithmetic import Number, hypot, larger, roughly
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3, cross, distance3, dot, norm

Flat: TypeAlias = Mapping[str, Point]
Body: TypeAlias = Mapping[str, Point3]
Bend: TypeAlias = tuple[Number, Number]
"""Cosine and sine of a bend."""


@dataclass(frozen=True)
class Panel:
    """The names of its corners, anticlockwise in the flat, and the two of them that it hangs on by another panel, given by
    its place in the list; -1 for the first of a piece, which lies on its place of the body."""

    corners: tuple[str, ...]
    holder: int = -1
    hinge: tuple[str, str] = ("", "")


def strip(stations: Sequence[tuple[str, str]], after: int = 0) -> list[Panel]:
    """Panels between lines (low, high) that follow each other to the right, each hanging on the line that it begins with; a
    line may shrink to a point. ``after`` so many panels of other pieces."""
    found: list[Panel] = []
    for (low, high), (next_low, next_high) in pairwise(stations):
        corners = tuple(dict.fromkeys((low, next_low, next_high, high)))
        found.append(Panel(corners, after + len(found) - 1, (low, high)) if found else Panel(corners))
    return found


def triangles(stations: Sequence[tuple[str, str]]) -> list[Panel]:
    """The same, each divided by the line from its second low point to its first high one."""
    found: list[Panel] = []
    for (low, high), (next_low, next_high) in pairwise(stations):
        if next_low != low:
            found.append(Panel((low, next_low, high), len(found) - 1, (low, high) if found else ("", "")))
        if next_high != high:
            found.append(Panel((next_low, next_high, high), len(found) - 1, (next_low, high) if found else ("", "")))
    return found


@dataclass(frozen=True)
class _Frame:
    """Where the origin of the flat and its two directions lie in space."""

    origin: Point3
    right: Point3
    up: Point3

    def place(self, p: Point) -> Point3:
        return self.origin + self.right.scaled(p.x) + self.up.scaled(p.y)

    def way(self, x: Number, y: Number) -> Point3:
        return self.right.scaled(x) + self.up.scaled(y)


def _square_to(a: Point3, b: Point3) -> Point3:
    """The vector square to both, by the right hand in space: (x, front, above) is a left-handed frame."""
    return cross(b, a)


def _unit(a: Point3) -> Point3:
    return a.scaled(1 / norm(a))


def normal(loop: Sequence[Point3]) -> Point3:
    """The vector square to a flat loop, towards where it is seen anticlockwise, twice as long as its area (Newell)."""
    start = loop[0]
    found = [_square_to(a - start, b - start) for a, b in pairwise(loop[1:])]
    return reduce(lambda a, b: a + b, found)


def area(loop: Sequence[Point3]) -> Number:
    """Area of a flat loop in space, mm²."""
    return norm(normal(loop)) / 2


def bends(panels: Sequence[Panel], body: Body) -> list[Bend]:
    """How each panel is bent against its holder about the hinge, seen along it from its first point to the second; positive
    by the right hand. The first has none."""
    zero = body[panels[0].corners[0]].x * 0
    found: list[Bend] = []
    for panel in panels:
        if panel.holder < 0:
            found.append((zero + 1, zero))
            continue
        a, c = (body[name] for name in panel.hinge)
        along = _unit(c - a)
        on = _unit(_across(panels[panel.holder], panel, body, a, along)).scaled(-1)
        way = _unit(_across(panel, panel, body, a, along))
        found.append((dot(on, way), dot(way, _square_to(along, on))))
    return found


def _across(panel: Panel, hung: Panel, body: Body, a: Point3, along: Point3) -> Point3:
    """From the hinge to the corner of a panel that lies farthest from it."""
    best: Point3 | None = None
    for name in panel.corners:
        if name not in hung.hinge:
            off = body[name] - a
            off = off - along.scaled(dot(off, along))
            if best is None or roughly(dot(off, off)) > roughly(dot(best, best)):
                best = off
    assert best is not None
    return best


def folded(panels: Sequence[Panel], flat: Flat, body: Body, bent: Sequence[Bend] | None = None) -> list[dict[str, Point3]]:
    """Where the corners of every panel are in space when the flat is bent at its hinges, as the body is or as told."""
    bent = bends(panels, body) if bent is None else bent
    frames: list[_Frame] = []
    for panel, (c, s) in zip(panels, bent, strict=True):
        if panel.holder < 0:
            frames.append(_laid(panel, flat, body))
            continue
        a, e = (flat[name] for name in panel.hinge)
        size = hypot(e.x - a.x, e.y - a.y)
        dx, dy = (e.x - a.x) / size, (e.y - a.y) / size
        holder = frames[panel.holder]
        along, on = holder.way(dx, dy), holder.way(-dy, dx)
        turned = on.scaled(c) + _square_to(along, on).scaled(s)
        right, up = along.scaled(dx) + turned.scaled(-dy), along.scaled(dy) + turned.scaled(dx)
        at = holder.place(a)
        frames.append(_Frame(at - right.scaled(a.x) - up.scaled(a.y), right, up))
    return [{name: frame.place(flat[name]) for name in panel.corners} for panel, frame in zip(panels, frames, strict=True)]


def _laid(panel: Panel, flat: Flat, body: Body) -> _Frame:
    """The first panel on its place: one edge on that of the body, its upper side where the body's loop is anticlockwise."""
    first, second = panel.corners[-1], panel.corners[0]
    a, c = flat[first], flat[second]
    size = hypot(c.x - a.x, c.y - a.y)
    dx, dy = (c.x - a.x) / size, (c.y - a.y) / size
    along = _unit(body[second] - body[first])
    on = _square_to(_unit(normal([body[name] for name in panel.corners])), along)
    right, up = along.scaled(dx) + on.scaled(-dy), along.scaled(dy) + on.scaled(dx)
    return _Frame(body[first] - right.scaled(a.x) - up.scaled(a.y), right, up)


def refold_gap(panels: Sequence[Panel], flat: Flat, body: Body) -> Number:
    """Greatest distance, mm, of a corner of the folded pattern from its place on the body."""
    gaps = [distance3(p, body[name]) for places in folded(panels, flat, body) for name, p in places.items()]
    return reduce(larger, gaps)


def unrolled(panels: Sequence[Panel], body: Body, first: tuple[Point, Point]) -> dict[str, Point]:
    """The panels laid into the sheet one after the other, each corner by its share along and across the hinge (dot and cross
    product in space). The last corner and the first of a panel that hangs on none lie on the two points given, or on the way
    between them.
    """
    found: dict[str, Point] = {}
    for panel in panels:
        if panel.holder < 0:
            names = (panel.corners[-1], panel.corners[0])
            at, to = first
            axis = _unit(body[names[1]] - body[names[0]])
        else:
            names = panel.hinge
            at, to = found[names[0]], found[names[1]]
            axis = _unit(body[names[1]] - body[names[0]])
        size = hypot(to.x - at.x, to.y - at.y)
        ux, uy = (to.x - at.x) / size, (to.y - at.y) / size
        left = _lies_left(panel, names)
        for name in panel.corners:
            off = body[name] - body[names[0]]
            along, across = dot(off, axis), norm(cross(axis, off)) * (1 if left else -1)
            spot = Point(at.x + ux * along - uy * across, at.y + uy * along + ux * across, name)
            if name not in found:
                found[name] = at.named(name) if name == names[0] else spot
    return found


def _lies_left(panel: Panel, line: tuple[str, str]) -> bool:
    """Whether a panel lies to the left of one of its edges: it does where the edge runs as the corners do."""
    at = panel.corners.index(line[0])
    return panel.corners[(at + 1) % len(panel.corners)] == line[1]


def folds(panels: Sequence[Panel], body: Body) -> list[tuple[tuple[str, str], float]]:
    """At every hinge how far the sheet is bent there, in degrees: towards the eye above zero, else away from it."""
    found = []
    for panel, (c, s) in zip(panels, bends(panels, body), strict=True):
        if panel.holder < 0:
            continue
        size = math.degrees(math.atan2(roughly(s), roughly(c)))
        found.append((panel.hinge, size if _lies_left(panel, panel.hinge) else -size))
    return found


def bend_angles(panels: Sequence[Panel], body: Body) -> list[float]:
    """The bends as angles, radians."""
    return [math.atan2(roughly(s), roughly(c)) for c, s in bends(panels, body)]
