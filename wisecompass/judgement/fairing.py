"""What a hand fairs through plotted points, and how far that is from the true curve."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import CubicSpline
from scipy.spatial import KDTree

from wisecompass.drafting.marks import Curve, Ellipse, sampled
from wisecompass.drafting.recorder import Faired
from wisecompass.geometry.plane import Point

if TYPE_CHECKING:
    from wisecompass.drafting.marks import Mark
    from wisecompass.drafting.problem import Truth

BETWEEN = 16
"""Places between two plotted points at which the faired curve is held against the true one."""

CLOSE = 200
"""Places on each piece of a drawn curve that a gap is measured to, where there is no equation of the curve."""


@dataclass(frozen=True)
class Gap:
    """The greatest distance of a faired curve from the true one, in mm, and where it is in its block."""

    value: float
    x: float
    y: float
    block: str


def greatest_gap(curves: Sequence[Faired], marks: Sequence[Mark], truth: Truth) -> Gap | None:
    """Where curves faired through the plotted points stray most from the true ones; None without any. ``truth`` and
    ``marks`` are those of the same figure in floats."""
    worst: Gap | None = None
    drawn: dict[str, KDTree | None] = {}
    for curve in curves:
        places = faired(curve)
        if truth.on_curve is not None:  # by its equation, else by the curve that is drawn
            gaps = np.array([abs(float(truth.on_curve(Point(float(x), float(y))))) for x, y in places])
        else:
            if curve.block not in drawn:
                drawn[curve.block] = _drawn(marks, curve.block)
            tree = drawn[curve.block]
            if tree is None:
                continue
            gaps = tree.query(places)[0]
        gaps = np.where(np.isfinite(gaps), gaps, -1.0)
        most = int(np.argmax(gaps))
        if gaps[most] >= 0 and (worst is None or gaps[most] > worst.value):
            worst = Gap(float(gaps[most]), float(places[most, 0]), float(places[most, 1]), curve.block)
    return worst


def _drawn(marks: Sequence[Mark], block: str) -> KDTree | None:
    """Places close together along the true curves that are drawn in a block."""
    here = [mark for mark in marks if mark.block == block]
    pieces = [piece for mark in here if isinstance(mark, Curve) for piece in mark.pieces()]
    ellipses = [spot for mark in here if isinstance(mark, Ellipse) for spot in sampled(mark, 20 * CLOSE)]
    if not pieces and not ellipses:
        return None
    s = np.linspace(0.0, 1.0, CLOSE + 1)
    shares = np.stack([(1 - s) ** 3, 3 * (1 - s) ** 2 * s, 3 * (1 - s) * s**2, s**3])  # Bernstein's polynomials
    curved = np.einsum("ks,nkx->nsx", shares, np.array(pieces, float).reshape(-1, 4, 2)).reshape(-1, 2)
    return KDTree(np.vstack([curved, np.array(ellipses, float).reshape(-1, 2)]))


def in_order(points: Sequence[Point]) -> list[Point]:
    """The points of a closed curve in their order about its middle."""
    x, y = (sum(float(v) for v in values) / len(points) for values in zip(*((p.x, p.y) for p in points), strict=True))
    return sorted(points, key=lambda p: math.atan2(float(p.y) - y, float(p.x) - x))


def faired(curve: Faired) -> NDArray[np.float64]:
    """Places along the spline that a flexible curve takes through the points: cubic over the chords, free at its ends."""
    closed = curve.closed
    points = in_order(curve.points) if closed else curve.points
    knots = np.array([(float(p.x), float(p.y)) for p in points])
    if closed:
        knots = np.vstack([knots, knots[:1]])
    chords = np.hypot(*np.diff(knots, axis=0).T)
    kept = np.concatenate([[True], chords > 1e-9])
    knots, along = knots[kept], np.concatenate([[0.0], np.cumsum(chords)])[kept]
    spline = CubicSpline(along, knots, bc_type="periodic" if closed else "natural")
    places: NDArray[np.float64] = spline(
        np.interp(np.linspace(0, len(along) - 1, BETWEEN * (len(along) - 1) + 1), range(len(along)), along)
    )
    return places
