"""What a triangle hides of an edge, in one view. Floats: it settles only which pen an edge is drawn with.

A place is (x, y, nearness): where it lies in the view, and how near to the eye it is, read in the neighbouring view.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TypeAlias

Place: TypeAlias = tuple[float, float, float]
Part: TypeAlias = tuple[float, float, bool]
"""From and to, as shares of the edge, and whether it is seen."""

TINY = 1e-9
"""Shares of an edge that are no part of it, and depths that are no depth, relative to the figure's size."""


def seen_parts(start: Place, end: Place, faces: Sequence[Sequence[Place]]) -> list[Part]:
    """The edge cut where triangles begin or cease to cover it, each part with whether it is seen; like parts joined."""
    size = max(abs(value) for place in (start, end, *(p for face in faces for p in face)) for value in place) or 1.0
    cuts = {0.0, 1.0}
    for face in faces:
        for a, b in zip(face, (*face[1:], face[0]), strict=True):
            share = _crossing(start, end, a, b)
            if share is not None:
                cuts.add(share)
        share = _pierced(start, end, face, size)
        if share is not None:
            cuts.add(share)
    ordered = sorted(cuts)
    parts: list[Part] = []
    for low, high in zip(ordered, ordered[1:], strict=False):
        if high - low < TINY:
            continue
        middle = _between(start, end, (low + high) / 2)
        seen = not any(_covers(face, middle, size) for face in faces)
        if parts and parts[-1][2] == seen:
            parts[-1] = (parts[-1][0], high, seen)
        else:
            parts.append((low, high, seen))
    return parts


def _between(start: Place, end: Place, share: float) -> Place:
    x, y, near = (a + (b - a) * share for a, b in zip(start, end, strict=True))
    return x, y, near


def _cross(a: Place, b: Place, p: Place) -> float:
    return (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])


def _crossing(start: Place, end: Place, a: Place, b: Place) -> float | None:
    """The share of start–end at which it crosses a–b in the view."""
    one, other = _cross(a, b, start), _cross(a, b, end)
    if one * other >= 0.0 or _cross(start, end, a) * _cross(start, end, b) > 0.0:
        return None
    return one / (one - other)


def _depth(face: Sequence[Place], x: float, y: float, size: float) -> float | None:
    """How near the plane of a face is at a place of the view; None where it is seen on edge."""
    a, b, c = face
    area = _cross(a, b, c)
    if abs(area) < TINY * size * size:
        return None
    u = ((b[1] - c[1]) * (x - c[0]) + (c[0] - b[0]) * (y - c[1])) / area
    v = ((c[1] - a[1]) * (x - c[0]) + (a[0] - c[0]) * (y - c[1])) / area
    return a[2] * u + b[2] * v + c[2] * (1 - u - v)


def _pierced(start: Place, end: Place, face: Sequence[Place], size: float) -> float | None:
    """The share at which the edge goes through the plane of a face."""
    depths = [_depth(face, p[0], p[1], size) for p in (start, end)]
    if depths[0] is None or depths[1] is None:
        return None
    one, other = start[2] - depths[0], end[2] - depths[1]
    return one / (one - other) if one * other < 0.0 else None


def _covers(face: Sequence[Place], p: Place, size: float) -> bool:
    """Whether a face lies before a place."""
    depth = _depth(face, p[0], p[1], size)
    if depth is None or depth <= p[2] + TINY * size:
        return False
    sides = [_cross(a, b, p) for a, b in zip(face, (*face[1:], face[0]), strict=True)]
    return all(side > 0.0 for side in sides) or all(side < 0.0 for side in sides)
