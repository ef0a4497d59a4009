"""Plane curves for drawing: a curve given by its place and velocity as cubic Bézier pieces within a tolerance.

Floats only, in mm; what is proved about a curve is proved at its points, in balls, by a problem's truth.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import TypeAlias

Pair: TypeAlias = tuple[float, float]
Piece: TypeAlias = tuple[Pair, Pair, Pair, Pair]
"""The four control points of a cubic Bézier curve."""

TOLERANCE = 0.001
"""How far the pieces may stray from the curve, mm: a hundredth of the finest pen."""

DEEPEST = 24
TRIED = (0.2, 0.5, 0.8)
"""Shares of a piece at which it is held against the curve."""


@dataclass(frozen=True)
class Oval:
    """An ellipse as such, in floats: its middle, half axes in mm, and the direction of the major one in degrees."""

    cx: float
    cy: float
    semi_major: float
    semi_minor: float
    angle: float = 0.0


@dataclass(frozen=True)
class Parametric:
    """A curve (x, y) of a parameter, with its velocity (dx, dy), from ``start`` to ``end``."""

    place: Callable[[float], Pair]
    velocity: Callable[[float], Pair]
    start: float
    end: float
    least: int = 4
    """Equal parts of the parameter that it is cut into at least; cusps must fall between two of them."""
    _fitted: dict[int, tuple[Piece, ...]] = field(default_factory=dict, compare=False, repr=False)

    def pieces(self, tolerance: float = TOLERANCE) -> tuple[Piece, ...]:
        """Bézier pieces that meet with one tangent and stray by no more than ``tolerance``. They are fitted once for
        tolerances that differ by less than four times, to the finest of them."""
        octave = math.floor(math.log(tolerance / TOLERANCE, 4) + 1e-9)
        if octave not in self._fitted:
            found: list[Piece] = []
            step = (self.end - self.start) / self.least
            for k in range(self.least):
                self._fit(self.start + step * k, self.start + step * (k + 1), TOLERANCE * 4.0**octave, found, DEEPEST)
            self._fitted[octave] = tuple(found)
        return self._fitted[octave]

    def _fit(self, start: float, end: float, tolerance: float, found: list[Piece], depth: int) -> None:
        piece = self._piece(start, end)
        if depth and not self._holds(piece, start, end, tolerance):
            middle = (start + end) / 2
            self._fit(start, middle, tolerance, found, depth - 1)
            self._fit(middle, end, tolerance, found, depth - 1)
        else:
            found.append(piece)

    def _piece(self, start: float, end: float) -> Piece:
        """The cubic with the curve's places and velocities at both ends (Hermite)."""
        third = (end - start) / 3
        (x0, y0), (x3, y3) = self.place(start), self.place(end)
        (u0, v0), (u3, v3) = self.velocity(start), self.velocity(end)
        return (x0, y0), (x0 + u0 * third, y0 + v0 * third), (x3 - u3 * third, y3 - v3 * third), (x3, y3)

    def _holds(self, piece: Piece, start: float, end: float, tolerance: float) -> bool:
        return all(math.dist(at(piece, s), self.place(start + (end - start) * s)) <= tolerance for s in TRIED)


def at(piece: Piece, share: float) -> Pair:
    """The point of a piece at a share of its parameter, 0 to 1 (de Casteljau, written out)."""
    s, r = share, 1.0 - share
    a, b, c, d = r * r * r, 3 * r * r * s, 3 * r * s * s, s * s * s
    (x0, y0), (x1, y1), (x2, y2), (x3, y3) = piece
    return a * x0 + b * x1 + c * x2 + d * x3, a * y0 + b * y1 + c * y2 + d * y3


def smooth_through(points: Sequence[Pair], *, closed: bool = True) -> Parametric:
    """One smooth curve through points in their order, as a French curve would lead it; closed, or free at its ends."""
    import numpy as np
    from scipy.interpolate import CubicSpline

    spots = np.array([*points, points[0]] if closed else points)
    steps = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(spots, axis=0).T))])
    spline = CubicSpline(steps, spots, bc_type="periodic" if closed else "natural")
    begins = [float(step) for step in steps[:-1]]
    terms = [
        tuple(map(tuple, each)) for each in spline.c.transpose(1, 2, 0).tolist()
    ]  # one place at a time, in plain floats

    def place(t: float) -> Pair:
        k = max(0, bisect_right(begins, t) - 1)
        u, (x, y) = t - begins[k], terms[k]
        return ((x[0] * u + x[1]) * u + x[2]) * u + x[3], ((y[0] * u + y[1]) * u + y[2]) * u + y[3]

    def velocity(t: float) -> Pair:
        k = max(0, bisect_right(begins, t) - 1)
        u, (x, y) = t - begins[k], terms[k]
        return (3 * x[0] * u + 2 * x[1]) * u + x[2], (3 * y[0] * u + 2 * y[1]) * u + y[2]

    return Parametric(place, velocity, 0.0, float(steps[-1]), len(spots) - 1)


def led_through(points: Sequence[Pair], *, closed: bool = False) -> Parametric:
    """A curve through points in their order, each passed as its neighbours lie; if ``closed`` the first and last too, which
    are one point. Quicker than a smooth one, and as good where the points lie close."""
    count = len(points) - 1

    def velocity(t: float) -> Pair:
        k = round(t)
        before = points[k - 1] if k else points[count - 1] if closed else points[0]
        after = points[k + 1] if k < count else points[1] if closed else points[count]
        share = 1.0 if not closed and k in (0, count) else 0.5
        return (after[0] - before[0]) * share, (after[1] - before[1]) * share

    def piece(t: float) -> Piece:
        k = min(int(t), count - 1)
        (u0, v0), (u3, v3) = velocity(k), velocity(k + 1)
        (x0, y0), (x3, y3) = points[k], points[k + 1]
        return (x0, y0), (x0 + u0 / 3, y0 + v0 / 3), (x3 - u3 / 3, y3 - v3 / 3), (x3, y3)

    return Parametric(lambda t: at(piece(t), t - min(int(t), count - 1)), velocity, 0.0, float(count), count)
