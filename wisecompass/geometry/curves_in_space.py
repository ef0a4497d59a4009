"""Curves in which two surfaces of a body meet, in floats: straight lines, and curves told by the generators of a round
surface.

A generator of a round surface meets the other surface at most twice; the curve is told by the angle of the generator and by
which of the two it is. Circles, ellipses, hyperbolas and the curves of two pipes are all of this one form.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from wisecompass.geometry.roots import PARALLEL, bisect, extreme, roots
from wisecompass.geometry.surfaces import Cone, Flat, Pipe, Round, Surface, across

Array: TypeAlias = NDArray[np.float64]

TURN = 2 * math.pi
ONE_ANGLE = 1e-7
"""Angles about a round surface, in radians, that are nearer are one."""

FINER, FINEST = 4, 24
"""How often a short stretch is looked at again, and how often a long step is halved."""

SAMPLES = 96
"""Generators at which a curve is looked at between its ends."""


def table(several: list[Surface]) -> Array:
    """The coefficients of surfaces, a row each, so scaled that their values near them are distances."""
    rows = np.array([s.coefficients() for s in several], dtype=float).reshape(-1, 7)
    for row, one in zip(rows, several, strict=True):
        row /= math.sqrt(float(row[3:6] @ row[3:6])) if isinstance(one, Flat) else _size(one)
    return rows


def _size(one: Round) -> float:
    return 2 * float(one.radius) if isinstance(one, Pipe) else 2 * float(one.slope) * max(1.0, abs(float(one.slope)))


def cross(one: Array, other: Array) -> Array:
    """The vector product of two vectors; NumPy's own takes ten times as long for one pair."""
    (a, b, c), (x, y, z) = one.tolist(), other.tolist()
    return np.array([b * z - c * y, c * x - a * z, a * y - b * x])


def values(rows: Array, places: Array) -> Array:
    """The value of each surface at each place, (places, surfaces)."""
    return (places * places) @ rows[:, :3].T + places @ rows[:, 3:6].T + rows[:, 6]


def gradients(rows: Array, place: Array) -> Array:
    """The gradient of each surface at a place, (surfaces, 3)."""
    return 2 * rows[:, :3] * place + rows[:, 3:6]


@dataclass(frozen=True)
class Straight:
    """A straight line: a place, and a direction of length 1."""

    start: Array
    way: Array
    is_straight = True
    closes = False

    def at(self, t: Array) -> Array:
        return self.start + np.asarray(t)[..., None] * self.way

    def place(self, t: float) -> tuple[float, float, float]:
        """One place, in plain Python."""
        (x, y, z), (dx, dy, dz) = self._plain
        return x + t * dx, y + t * dy, z + t * dz

    @cached_property
    def _plain(self) -> tuple[list[float], list[float]]:
        return self.start.tolist(), self.way.tolist()

    def tangent(self, t: float) -> Array:
        return self.way

    def crossings(self, rows: Array, low: float, high: float, size: float) -> list[tuple[float, int]]:
        """Where it meets surfaces between two of its places, each with the number of the surface."""
        a = (self.way * self.way) @ rows[:, :3].T
        b = 2 * (self.start * self.way) @ rows[:, :3].T + self.way @ rows[:, 3:6].T
        c = values(rows, self.start[None, :])[0]
        found: list[tuple[float, int]] = []
        for k, (p, q, r) in enumerate(zip(a.tolist(), b.tolist(), c.tolist(), strict=True)):
            found += [(t, k) for t in roots(p, q, r) if low < t < high]
        return found


BARELY = 1e-11
"""The share of its terms below which the discriminant of a generator counts as zero: it touches the other surface."""


@dataclass(frozen=True)
class Wound:
    """A curve on a round surface: ``on`` it, where its generators meet the surface of these ``other`` coefficients, the
    first or the second time."""

    on: Round
    other: Array
    second: bool
    breaks: tuple[float, ...] = ()
    """Angles at which it crosses another of its kind."""

    is_straight = False

    def _generators(self, angles: Array) -> tuple[Array, Array]:
        """Where each generator begins, and its direction."""
        u, v = across(self.on.axis)
        starts, ways = np.empty((*angles.shape, 3)), np.zeros((*angles.shape, 3))
        starts[...] = self._centre
        ways[..., self.on.axis] = 1.0
        c, s = np.cos(angles), np.sin(angles)
        if isinstance(self.on, Pipe):
            starts[..., u] += self._grows * c
            starts[..., v] += self._grows * s
        else:
            ways[..., u], ways[..., v] = self._grows * c, self._grows * s
        return starts, ways

    def _terms(self, angles: Array) -> tuple[Array, Array, Array, Array, Array]:
        starts, ways = self._generators(angles)
        square, linear = self.other[:3], self.other[3:6]
        a = (ways * ways) @ square
        b = 2 * (starts * ways) @ square + ways @ linear
        c = (starts * starts) @ square + starts @ linear + self.other[6]
        return starts, ways, a, b, c

    def inside(self, angles: Array) -> Array:
        """The discriminant: the generator meets the other surface where it is not below zero."""
        _, _, a, b, c = self._terms(angles)
        return b * b - 4 * a * c

    def at(self, angles: Array) -> Array:
        """Places; NaN where the generator misses."""
        angles = np.asarray(angles, dtype=float)
        if not self._curved:
            return self._on_a_plane(angles)
        starts, ways, a, b, c = self._terms(angles)
        with np.errstate(invalid="ignore", divide="ignore"):
            inside = b * b - 4 * a * c
            sizes = (
                (starts * starts) @ np.abs(self.other[:3]) + np.abs(starts) @ np.abs(self.other[3:6]) + abs(self.other[6])
            )
            terms = b * b + np.abs(a) * sizes
            root = np.sqrt(np.where(np.abs(inside) < BARELY * terms, 0.0, inside))
            half = -(b + np.where(b < 0, -root, root)) / 2
            flat = np.abs(a) < PARALLEL
            far, near = half / np.where(flat, 1.0, a), np.where(half == 0.0, 0.0, c / np.where(half == 0.0, 1.0, half))
            one, two = (
                np.where(b < 0, far, near),
                np.where(b < 0, near, far),
            )  # so that each goes on where b changes its sign
            along = np.where(flat, -c / np.where(b == 0.0, np.nan, b), one if self.second else two)
            if self.second:
                along = np.where(flat, np.nan, along)
        return starts + along[..., None] * ways

    def _on_a_plane(self, angles: Array) -> Array:
        """The same where the other surface is a plane, which each generator meets once."""
        starts, ways = self._generators(angles)
        linear = self.other[3:6]
        slope = ways @ linear
        if self.second:
            return np.full_like(starts, np.nan)
        with np.errstate(divide="ignore"):
            along = -(starts @ linear + self.other[6]) / np.where(slope == 0.0, np.nan, slope)
        found: Array = starts + along[..., None] * ways
        return found

    def place(self, angle: float) -> tuple[float, float, float]:
        """One place; NaN where the generator misses. Plain Python, for it is asked for again and again."""
        on, (q0, q1, q2, b0, b1, b2, rest) = self.on, self._row
        c, s = math.cos(angle), math.sin(angle)
        u, v = across(on.axis)
        p, d = list(self._centre), [0.0, 0.0, 0.0]
        d[on.axis] = 1.0
        if isinstance(on, Pipe):
            p[u] += self._grows * c
            p[v] += self._grows * s
        else:
            d[u], d[v] = self._grows * c, self._grows * s
        b = b0 * d[0] + b1 * d[1] + b2 * d[2]
        value = b0 * p[0] + b1 * p[1] + b2 * p[2] + rest
        if not self._curved:
            along = -value / b if b else math.nan
        else:
            a = q0 * d[0] * d[0] + q1 * d[1] * d[1] + q2 * d[2] * d[2]
            b += 2 * (q0 * p[0] * d[0] + q1 * p[1] * d[1] + q2 * p[2] * d[2])
            value += q0 * p[0] * p[0] + q1 * p[1] * p[1] + q2 * p[2] * p[2]
            along = self._root(a, b, value)
        return p[0] + along * d[0], p[1] + along * d[1], p[2] + along * d[2]

    def _root(self, a: float, b: float, c: float) -> float:
        if abs(a) < PARALLEL:
            return -c / b if b and not self.second else math.nan
        inside = b * b - 4 * a * c
        root = math.sqrt(max(inside, 0.0))
        if (b < 0) != self.second:
            half = -(b + (-root if b < 0 else root)) / 2
            return c / half if half else 0.0
        return (-b + root if self.second else -b - root) / (2 * a)

    @cached_property
    def _row(self) -> tuple[float, ...]:
        return tuple(self.other.tolist())

    @cached_property
    def _centre(self) -> list[float]:
        return [float(c) for c in self.on.centre]

    @cached_property
    def _grows(self) -> float:
        return float(self.on.radius if isinstance(self.on, Pipe) else self.on.slope)

    @cached_property
    def _curved(self) -> bool:
        return any(self._row[:3])

    @cached_property
    def is_level(self) -> bool:
        """Whether a plane square to the axis cuts it: a circle."""
        u, v = across(self.on.axis)
        return not self._curved and not self._row[3 + u] and not self._row[3 + v]

    @property
    def is_ellipse(self) -> bool:
        """Whether its places are those of an ellipse, each at its angle from the middle: not so of a cone cut at a slant."""
        return not self._curved and (isinstance(self.on, Pipe) or self.is_level)

    def within(self, boxes: Sequence[tuple[Sequence[float], Sequence[float]]]) -> list[tuple[float, float]]:
        """The stretches of it that may lie within one of several boxes: whole ones, or cut between generators."""
        found: list[tuple[float, float]] = []
        for low, high in self.stretches():
            angles, there = self._seen_within(low, high, boxes)
            if there.all():
                found.append((low, high))
                continue
            if (low, high) == (0.0, TURN):  # begin outside, so that nothing is cut in two
                low = float(angles[int(np.flatnonzero(~there)[0])])
                high = low + TURN
            found += self._narrowed(low, high, boxes, FINER)
        return found

    def _narrowed(
        self, low: float, high: float, boxes: Sequence[tuple[Sequence[float], Sequence[float]]], turns: int
    ) -> list[tuple[float, float]]:
        """The stretches between two angles that may lie within a box; short ones are looked at again more closely."""
        angles, there = self._seen_within(low, high, boxes)
        runs = np.flatnonzero(np.diff(np.concatenate([[False], there, [False]]).astype(int))).reshape(-1, 2)
        found: list[tuple[float, float]] = []
        for first, last in runs.tolist():
            start, end = float(angles[max(first - 1, 0)]), float(angles[min(last, SAMPLES)])
            if found and found[-1][1] > start:
                found[-1] = found[-1][0], end
            else:
                found.append((start, end))
        if not turns or high - low < 1e3 * ONE_ANGLE:
            return found
        short = (high - low) / 6
        closer = [[each] if each[1] - each[0] > short else self._narrowed(*each, boxes, turns - 1) for each in found]
        return [each for several in closer for each in several]

    def _seen_within(
        self, low: float, high: float, boxes: Sequence[tuple[Sequence[float], Sequence[float]]]
    ) -> tuple[Array, NDArray[np.bool_]]:
        """Angles between two, and whether the curve may be within a box between there and the next."""
        angles = np.linspace(low, high, SAMPLES + 1)
        inner = angles.copy()
        inner[0], inner[-1] = low + 1e-9 * (high - low), high - 1e-9 * (high - low)
        places = self.at(inner)
        there = np.zeros(len(angles), dtype=bool)
        with np.errstate(invalid="ignore"):
            steps = np.abs(np.diff(places, axis=0))
            reach = np.zeros_like(places)
            reach[1:] = steps
            reach[:-1] = np.fmax(reach[:-1], steps)
            for least, most in boxes:
                there |= ((places + reach >= least) & (places - reach <= most)).all(axis=1)
        return angles, there

    def tangent(self, angle: float) -> Array:
        """Its direction at a place, of length 1, the way the angle grows."""
        x, y, z = self._place_or_touch(angle)
        (a, b, c, d, e, f, _), (g, h, i, j, k, m, _) = self._own, self._row
        one, other = (2 * a * x + d, 2 * b * y + e, 2 * c * z + f), (2 * g * x + j, 2 * h * y + k, 2 * i * z + m)
        way = (
            one[1] * other[2] - one[2] * other[1],
            one[2] * other[0] - one[0] * other[2],
            one[0] * other[1] - one[1] * other[0],
        )
        size = math.hypot(*way)
        if size < 1e-12:
            h = 1e-6
            before, after = self._place_or_touch(angle - h), self._place_or_touch(angle + h)
            way = (after[0] - before[0], after[1] - before[1], after[2] - before[2])
            size = math.hypot(*way) or 1.0
        u, v = across(self.on.axis)
        turning = way[v] * math.cos(angle) - way[u] * math.sin(angle)
        if isinstance(self.on, Cone) and (x, y, z)[self.on.axis] < self._centre[self.on.axis]:
            turning = -turning
        return np.array(way) / (size if turning >= 0 else -size)

    def _place_or_touch(self, angle: float) -> tuple[float, float, float]:
        """One place, where the generator only touches too."""
        found = self.place(angle)
        if math.isfinite(found[0] + found[1] + found[2]):
            return found
        x, y, z = self.at(np.array(angle)).tolist()
        return x, y, z

    @cached_property
    def _own(self) -> tuple[float, ...]:
        """The coefficients of the surface that it is on."""
        return tuple(float(c) for c in self.on.coefficients())

    def stretches(self) -> list[tuple[float, float]]:
        """Angles between which the generators meet the other surface; a whole turn where all do."""
        if self.is_ellipse:
            return [(0.0, TURN)]
        angles = np.linspace(0.0, TURN, SAMPLES + 1)
        inside = self.inside(angles)
        tiny = 1e-12 * float(np.abs(inside).max() or 1.0)
        there = inside >= -tiny
        if there.all():
            return [(0.0, TURN)]
        f = lambda t: float(self.inside(np.array(t)))  # noqa: E731
        ends = [(bisect(f, angles[k], angles[k + 1]), bool(there[k + 1])) for k in np.flatnonzero(there[1:] != there[:-1])]
        for k in _dips(inside):
            low, high = angles[k - 1], angles[k + 1]
            at, best = extreme(f, low, high, bool(inside[k] < 0))
            if best * inside[k] < 0:
                pair = [(bisect(f, low, at), inside[k] < 0), (bisect(f, at, high), inside[k] > 0)]
                ends += [(t, bool(begins)) for t, begins in pair]
        ends.sort()
        if not ends:
            return []
        begins = [t for t, starts in ends if starts]
        stops = [t for t, starts in ends if not starts]
        if stops[0] < begins[0]:
            stops = [*stops[1:], stops[0] + TURN]
        return [(low, high) for low, high in zip(begins, stops, strict=True) if high - low > ONE_ANGLE]

    def crossings(self, rows: Array, low: float, high: float, size: float) -> list[tuple[float, int]]:
        """Where it meets surfaces between two of its angles, each with the number of the surface: also where it only touches
        one. A part of it that is longer than a share of the body's ``size`` is looked at more closely."""
        found: list[tuple[float, int]] = []
        by_hand = list(range(len(rows)))
        if self.is_ellipse:
            flat = ~(rows[:, :3] != 0).any(axis=1)
            by_hand = np.flatnonzero(~flat).tolist()
            for k in np.flatnonzero(flat).tolist():
                found += [(t, k) for t in self._through_a_plane(rows[k], low)]
        inner, places = self.sampled(low, high, size) if by_hand else (np.zeros(0), np.zeros((0, 3)))
        heights = values(rows, places)
        for k in by_hand:
            f = self._height_over(rows[k].tolist())
            h = heights[:, k]
            if np.nanmax(np.abs(h)) < 1e-9:
                continue
            touches = np.flatnonzero((np.abs(h[1:-1]) < ONE_TOUCH) & (h[:-2] * h[2:] > 0)) + 1
            h[touches] = 0.0
            with np.errstate(invalid="ignore"):
                for m in np.flatnonzero(h[1:] * h[:-1] < 0).tolist():
                    found.append((bisect(f, inner[m], inner[m + 1]), k))
                found += [(float(inner[m]), k) for m in np.flatnonzero(h == 0.0).tolist()]
            for m in _dips(h):
                at, best = extreme(f, inner[m - 1], inner[m + 1], bool(h[m] < 0))
                if best * h[m] < 0 and abs(best) > ONE_TOUCH:
                    found += [(bisect(f, inner[m - 1], at), k), (bisect(f, at, inner[m + 1]), k)]
                elif abs(best) < TOUCH:
                    found.append((at, k))
        found += [(t + turn, -1) for t in self.breaks for turn in (-TURN, 0.0, TURN)]
        return [(t, k) for t, k in found if low < t < high]

    def _through_a_plane(self, row: Array, low: float) -> list[float]:
        """Where an ellipse goes through a plane, or touches it, in the turn from ``low`` on: where its height over that,
        a cos + b sin + c, is zero."""
        start, up, back = values(row[None], self._quarters)[:, 0].tolist()
        a, c = (start - back) / 2, (start + back) / 2
        b = up - c
        most = math.hypot(a, b)
        over = abs(c) - most
        if most + abs(c) < 1e-9 or over > TOUCH or most < 1e-9:
            return []
        nearest = math.atan2(b, a) + (math.pi if c > 0 else 0.0)
        half = math.acos(abs(c) / most) if over < -ONE_TOUCH else 0.0
        turns = [nearest + half, nearest - half] if half else [nearest]
        return [low + (t - low) % TURN for t in turns]

    @cached_property
    def _quarters(self) -> Array:
        """Places at the first three quarters of a turn."""
        return self.at(np.array([0.0, TURN / 4, TURN / 2]))

    def sampled(self, low: float, high: float, size: float) -> tuple[Array, Array]:
        """Angles between two, and the places there."""
        inner = np.linspace(low, high, SAMPLES + 1)
        inner[0], inner[-1] = low + 1e-9 * (high - low), high - 1e-9 * (high - low)
        places = self.at(inner)
        for _ in range(FINEST):
            with np.errstate(invalid="ignore"):
                steps = np.abs(np.diff(places, axis=0)).max(axis=1)
                near = np.abs(places - self._centre).max(axis=1) < 4 * size
                wide = np.flatnonzero((steps > size / 16) & (near[1:] | near[:-1]))
            if not len(wide):
                break
            inner = np.insert(inner, wide + 1, (inner[wide] + inner[wide + 1]) / 2)
            places = self.at(inner)
        return inner, places

    def _height_over(self, row: list[float]) -> Callable[[float], float]:
        """The value of a surface at an angle."""
        q0, q1, q2, b0, b1, b2, rest = row

        def height(angle: float) -> float:
            x, y, z = self.place(angle)
            return (q0 * x + b0) * x + (q1 * y + b1) * y + (q2 * z + b2) * z + rest

        return height

    @cached_property
    def closes(self) -> bool:
        return self.stretches() == [(0.0, TURN)]


ONE_TOUCH = 1e-8
"""A distance, mm: where a curve passes a surface by less, it touches it in one place instead of crossing it twice."""

TOUCH = 1e-6
"""A distance, mm, at which a curve is cut where it seems to touch a surface: a cut too many does no harm."""


def _dips(h: Array) -> Iterator[int]:
    """Samples that are nearer to zero than both beside them, which have the same sign."""
    size = np.abs(h)
    with np.errstate(invalid="ignore"):
        near = (size[1:-1] <= size[:-2]) & (size[1:-1] <= size[2:]) & (h[1:-1] * h[:-2] > 0) & (h[1:-1] * h[2:] > 0)
        # a parabola through the three that stays well clear of zero needs no second look
        bend = size[:-2] + size[2:] - 2 * size[1:-1]
        near &= size[1:-1] <= bend * 2 + TOUCH
    yield from (int(k) + 1 for k in np.flatnonzero(near))


Curve: TypeAlias = "Straight | Wound"
