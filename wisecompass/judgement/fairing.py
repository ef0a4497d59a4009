"""What a hand fairs through plotted points, and how far that is from the true curve."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import CubicSpline
from scipy.spatial import KDTree

from wisecompass.drafting.marks import Curve, Ellipse, sampled
from wisecompass.drafting.recorder import Faired
from wisecompass.geometry.curves import at
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
    for curve in curves:
        away = _away(truth, _drawn(marks, curve.block))
        if away is None:
            continue
        for x, y in faired(curve):
            gap = away(float(x), float(y))
            if math.isfinite(gap) and (worst is None or gap > worst.value):
                worst = Gap(gap, float(x), float(y), curve.block)
    return worst


def _away(truth: Truth, drawn: KDTree | None) -> Callable[[float, float], float] | None:
    """How far a place is from the true curve: by its equation, else by the curve that is drawn."""
    on_curve = truth.on_curve
    if on_curve is not None:
        return lambda x, y: abs(float(on_curve(Point(x, y))))
    return None if drawn is None else lambda x, y: float(drawn.query((x, y))[0])


def _drawn(marks: Sequence[Mark], block: str) -> KDTree | None:
    """Places close together along the true curves that are drawn in a block."""
    here = [mark for mark in marks if mark.block == block]
    pieces = [piece for mark in here if isinstance(mark, Curve) for piece in mark.pieces()]
    places = [at(piece, share / CLOSE) for piece in pieces for share in range(CLOSE + 1)]
    places += [spot for mark in here if isinstance(mark, Ellipse) for spot in sampled(mark, 20 * CLOSE)]
    return KDTree(places) if places else None


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
