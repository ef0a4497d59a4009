"""Two circles in space and the planes that touch both: what lies between these planes is bounded by the surface that unrolls
from one circle to the other. Floats only.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

Triple: TypeAlias = tuple[float, float, float]
Circle: TypeAlias = tuple[Triple, Triple, Triple, float]
"""Middle, two directions square to each other in its plane, and radius in mm."""

Array: TypeAlias = NDArray[np.float64]

PLANES = 360
"""Planes round both circles, of which the nearest to a place is taken."""

DEEPEST, BETWEEN = 24, 33
"""For so many of the places that lie deepest so many planes are tried about the nearest one."""

GRID = 4
"""Parts into which the sides of a triangle are divided to look for the place that lies deepest."""

HALVINGS = 44


def touching_planes(lower: Circle, upper: Circle, ways: Array) -> tuple[Array, Array]:
    """Unit normals and offsets of planes that touch both circles with both on one side, at these directions (radians) of the
    lower one. At a point of it the plane is tilted about the tangent until it touches the upper one as well."""
    count = len(ways)
    middle, e1, e2, radius = (np.array(part, dtype=float) for part in lower)
    out = np.outer(np.cos(ways), e1) + np.outer(np.sin(ways), e2)
    axis = np.cross(e1, e2)
    axis *= math.copysign(1.0, float(axis @ (np.array(upper[0]) - middle)))

    def above(tilt: Array) -> tuple[Array, Array, Array]:
        normals = np.cos(tilt)[:, None] * out + np.sin(tilt)[:, None] * axis
        own = normals @ middle + float(radius) * np.cos(tilt)
        return normals, own, support(upper, normals) - own

    low, high = np.full(count, -math.pi / 2 + 1e-9), np.full(count, math.pi / 2 - 1e-9)
    for _ in range(HALVINGS):
        between = (low + high) / 2
        beyond = above(between)[2] > 0
        low, high = np.where(beyond, low, between), np.where(beyond, between, high)
    normals, own, _ = above((low + high) / 2)
    return normals, own


def support(circle: Circle, normals: Array) -> Array:
    """How far a circle reaches along each direction."""
    middle, e1, e2, radius = (np.array(part, dtype=float) for part in circle)
    reach: Array = normals @ middle + float(radius) * np.hypot(normals @ e1, normals @ e2)
    return reach


def farthest_within(lower: Circle, upper: Circle, triangles: Sequence[Sequence[Triple]]) -> float:
    """How far a place of the triangles lies within the surface at most, mm: the distance to the nearest of the planes."""
    shares = [(i / GRID, j / GRID) for i in range(GRID + 1) for j in range(GRID + 1 - i)]
    weights = np.array([(1 - i - j, i, j) for i, j in shares])
    spots = (weights @ np.array(triangles, dtype=float)).reshape(-1, 3)
    ways = np.linspace(0.0, math.tau, PLANES, endpoint=False)
    depth, nearest = _depth(spots, *touching_planes(lower, upper, ways))
    found = 0.0
    for k in np.argsort(depth)[-DEEPEST:]:
        about = ways[nearest[k]] + np.linspace(-1.0, 1.0, BETWEEN) * math.tau / PLANES
        found = max(found, float(_depth(spots[k : k + 1], *touching_planes(lower, upper, about))[0][0]))
    return found


def _depth(spots: Array, normals: Array, offsets: Array) -> tuple[Array, NDArray[np.intp]]:
    """How far places lie within the nearest plane, and which that is."""
    away = offsets[None, :] - spots @ normals.T
    return away.min(axis=1), away.argmin(axis=1)
