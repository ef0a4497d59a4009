"""The least rectangle that holds a figure, in floats: one of its sides lies along a side of the figure's convex hull."""

from __future__ import annotations

import math
from collections.abc import Iterable

Pair = tuple[float, float]


def hull(places: Iterable[Pair]) -> list[Pair]:
    """The corners of the convex hull, anticlockwise (Andrew's monotone chain)."""
    ordered = sorted(set(places))
    if len(ordered) < 3:
        return ordered

    def half(row: Iterable[Pair]) -> list[Pair]:
        found: list[Pair] = []
        for p in row:
            while len(found) > 1 and _turn(found[-2], found[-1], p) <= 0:
                found.pop()
            found.append(p)
        return found[:-1]

    return half(ordered) + half(reversed(ordered))


def _turn(a: Pair, b: Pair, c: Pair) -> float:
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])


def least_box(places: Iterable[Pair]) -> Pair:
    """Length and width of the rectangle of least area that holds all places, the longer first."""
    corners = hull(places)
    best = (math.inf, 0.0, 0.0)
    for (x1, y1), (x2, y2) in zip(corners, [*corners[1:], *corners[:1]], strict=True):
        size = math.hypot(x2 - x1, y2 - y1)
        if size:
            ux, uy = (x2 - x1) / size, (y2 - y1) / size
            along = [x * ux + y * uy for x, y in corners]
            across = [y * ux - x * uy for x, y in corners]
            long, wide = max(along) - min(along), max(across) - min(across)
            best = min(best, (long * wide, long, wide))
    return max(best[1:]), min(best[1:])
