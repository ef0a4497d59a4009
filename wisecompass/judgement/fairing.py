"""What a hand fairs through plotted points, and how far that is from the true curve."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import CubicSpline
from scipy.spatial import KDTree

from wisecompass.drafting.marks import Curve
from wisecompass.geometry.curves import at
from wisecompass.geometry.plane import Point

if TYPE_CHECKING:
    from wisecompass.drafting.board import Board
    from wisecompass.drafting.problem import Truth

BETWEEN = 16
"""Places between two plotted points at which the faired curve is held against the true one."""

CLOSE = 200
"""Places on each piece of a drawn curve that a gap is measured to, where there is no equation of the curve."""


def greatest_gap(board: Board, truth: Truth) -> float | None:
    """The greatest distance, in mm, of curves faired through the plotted points from the true curve; None without any."""
    if not board.faired:
        return None
    gaps = [0.0]
    true = drawn(board)
    for points, closed in board.faired:
        places = faired(in_order(points) if closed else points, closed)
        if truth.on_curve is not None:
            gaps += [abs(float(truth.on_curve(Point(float(x), float(y))))) for x, y in places]
        elif true is not None:
            gaps += list(true.query(places)[0])
    return max(gap for gap in gaps if math.isfinite(gap))


def drawn(board: Board) -> KDTree | None:
    """Places close together along the true curves that the board has drawn."""
    pieces = [piece for mark in board.finished_marks() if isinstance(mark, Curve) for piece in mark.pieces]
    return KDTree([at(piece, share / CLOSE) for piece in pieces for share in range(CLOSE + 1)]) if pieces else None


def in_order(points: Sequence[Point]) -> list[Point]:
    """The points of a closed curve in their order about its middle."""
    x, y = (sum(float(v) for v in values) / len(points) for values in zip(*((p.x, p.y) for p in points), strict=True))
    return sorted(points, key=lambda p: math.atan2(float(p.y) - y, float(p.x) - x))


def faired(points: Sequence[Point], closed: bool) -> NDArray[np.float64]:
    """Places along the spline that a flexible curve takes through the points: cubic over the chords, free at its ends."""
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
