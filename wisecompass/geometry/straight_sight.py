"""Sight past flat parts, all rays of a view at once in arrays: the same as ``sight`` tells one by one."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from wisecompass.geometry.curves_in_space import Array
from wisecompass.geometry.model import Model
from wisecompass.geometry.straight_edges import Bools

LEVEL = 1e-12
"""How little a plane's value may change along a ray that lies in it or runs beside it."""


@dataclass(frozen=True)
class Rays:
    """Ways from places to the eye, ``reach`` away, a little ``aside`` of each; (rays, 3)."""

    places: Array
    ways: Array
    aside: Array
    reach: Array


def blocked(model: Model, rays: Rays, before: Bools) -> Bools:
    """Whether the body stands between each place and the eye, seen infinitely near beside it; ``before`` tells which parts
    may stand there, (rays, parts), all of them flat."""
    low, high = _spans(model, rays, before)
    tiny = model.near * 10
    there = (low < high) & (high > tiny) & (low < rays.reach[:, None])
    low, high = np.maximum(low, 0.0), np.minimum(high, rays.reach[:, None])
    most = int(there.sum(axis=1).max(initial=0))
    if not most:
        return np.zeros(len(there), dtype=bool)
    order = np.argsort(~there, axis=1, kind="stable")[:, :most]  # the parts that count, in their order
    rows = np.arange(len(there))[:, None]
    there, low, high = there[rows, order], low[rows, order], high[rows, order]
    added = ~np.array([part.taken for part in model.parts])[order]
    ends = np.sort(np.concatenate([np.zeros((len(low), 1)), np.where(there, low, 0.0), np.where(there, high, 0.0)], axis=1))
    begin, end = ends[:, :-1], ends[:, 1:]
    with np.errstate(invalid="ignore"):
        wide = (end - begin >= tiny) & np.isfinite(begin)
    middle = np.where(np.isfinite(end), (begin + end) / 2, begin + 1.0)
    solid = np.zeros(middle.shape, dtype=bool)
    for k in range(most):
        holds = there[:, k, None] & (low[:, k, None] < middle) & (middle < high[:, k, None])
        solid = np.where(holds, added[:, k, None], solid)
    found: Bools = (solid & wide).any(axis=1)
    return found


def _spans(model: Model, rays: Rays, before: Bools) -> tuple[Array, Array]:
    """Where each ray runs within each part that may stand before it, (rays, parts); the end before the beginning where it
    does not."""
    low, high = np.full(before.shape, np.inf), np.full(before.shape, -np.inf)
    for p, several in enumerate(model.walls):
        rows = np.flatnonzero(before[:, p])
        if not len(rows):
            continue
        k = [surface for surface, _ in several]
        way = np.array([side for _, side in several])
        normals, places = model.rows[k, 3:6].T, rays.places[rows]
        slopes, heights = rays.ways[rows] @ normals, places @ normals + model.rows[k, 6]
        crossed = np.abs(slopes) > LEVEL
        with np.errstate(divide="ignore", invalid="ignore"):
            at = -heights / slopes
        beside = np.where(np.abs(heights) > model.near, heights, rays.aside[rows] @ normals) * way < 0
        ahead = slopes * way > 0  # out of the part through this plane
        low[rows, p] = np.where(crossed, np.where(ahead, -np.inf, at), np.where(beside, -np.inf, np.inf)).max(axis=1)
        high[rows, p] = np.where(crossed, np.where(ahead, at, np.inf), np.where(beside, np.inf, -np.inf)).min(axis=1)
    return low, high
