"""Leaders: thin lines from a line of the figure to its name, which lies clear of everything (ISO 128-22)."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple, TypeAlias

import numpy as np
from numpy.typing import NDArray

from wisecompass.drafting.marks import Box
from wisecompass.folio.cells import THIN_WEIGHT, Cells

Floats: TypeAlias = NDArray[np.float64]
Flags: TypeAlias = NDArray[np.bool_]

LENGTHS = (6.0, 9.0, 13.0, 18.0, 24.0, 31.0, 39.0, 48.0, 58.0)
"""Lengths that are tried, mm on A4."""

WAYS = (60, 120, -60, -120, 45, 135, -45, -135, 30, 150, -30, -150, 75, 105, -75, -105)
"""Directions that are tried, degrees; none level or upright, like so many lines of a figure."""

STEEP = 0.4
"""Sine of the least angle between a leader and its line."""

CROSSED = 2.5
"""A thin line that a leader crosses counts like so many mm of its length."""

FREE = 0.03
"""So much of a leader, at its line, may lie across other lines that start there."""

Spot: TypeAlias = tuple[float, float, float, float]
"""A place on a line: its share, x, y, and the slope there in degrees."""


class Leader(NamedTuple):
    """A leader from a share of its line, so far across and up, with the box of the name at its end."""

    share: float
    across: float
    up: float
    box: Box


class Field:
    """What leaders and their names keep clear of on a page: its lines and, as they come, letters, names and leaders."""

    def __init__(self, lines: Cells, room: Box, taken: list[Box]) -> None:
        self.room, self.taken, self._clear = room, taken, lines.clear
        self._segments = np.array(lines.near(room)).reshape(-1, 5)
        self._ruled: list[tuple[float, float, float, float]] = []

    def find(self, spots: Sequence[Spot], text: tuple[float, float], white: float, size: float) -> Leader | None:
        """The nearest clear place for a level text of a width and height, ``white`` from the end of a leader that crosses
        no lettering, no other leader and few lines."""
        width, height = text
        share, x, y, slope, turn = (column.ravel() for column in _each(np.array(spots)))
        steep = np.abs(np.sin(turn - np.radians(slope))) >= STEEP
        share, x, y, turn = share[steep], x[steep], y[steep], turn[steep]
        best, least = None, np.inf
        for length in (size * value for value in LENGTHS):
            if length >= least:
                break
            across, up = length * np.cos(turn), length * np.sin(turn)
            middle = x + across + np.sign(across) * (width / 2 + white), y + up
            box = np.stack([middle[0] - width / 2, middle[1] - height / 2, middle[0] + width / 2, middle[1] + height / 2])
            leader = np.stack([x + FREE * across, y + FREE * up, x + across, y + up])
            clear = self._clear_boxes(box)
            clear[clear] = self._clear_leaders(leader[:, clear])
            crossed = np.zeros(len(clear))
            crossed[clear] = _crossings(leader[:, clear], self._segments.T[:4]) @ (self._segments[:, 4] / THIN_WEIGHT)
            cost = np.where(clear, length + CROSSED * size * crossed, np.inf)
            i = int(np.argmin(cost)) if len(cost) else 0
            if len(cost) and cost[i] < least:
                least = float(cost[i])
                left, low, right, high = (float(value) for value in box[:, i])
                best = Leader(float(share[i]), float(across[i]), float(up[i]), (left, low, right, high))
                ends = float(x[i]), float(y[i]), float(x[i] + across[i]), float(y[i] + up[i])
        if best is not None:
            self.taken.append(best.box)
            self._ruled.append(ends)
        return best

    def _clear_boxes(self, box: Floats) -> Flags:
        """Which boxes lie within the room and free of all that is taken, of all lines and of all leaders."""
        left, low, right, high = self.room
        clear: Flags = (box[0] >= left) & (box[1] >= low) & (box[2] <= right) & (box[3] <= high)
        taken = np.array(self.taken).reshape(-1, 4).T
        grown = box + np.array([-1, -1, 1, 1])[:, None] * self._clear
        clear[clear] = ~_overlaps(grown[:, clear], taken).any(axis=1)
        for pieces in (self._segments[:, :4], np.array(self._ruled).reshape(-1, 4)):
            clear[clear] = ~_enters(pieces.T, grown[:, clear]).any(axis=0)
        return clear

    def _clear_leaders(self, leader: Floats) -> Flags:
        """Which leaders run through no lettering and across no other leader."""
        taken = np.array(self.taken).reshape(-1, 4).T
        ruled = np.array(self._ruled).reshape(-1, 4).T
        met: Flags = np.any(_enters(leader, taken), axis=1) | np.any(_crossings(leader, ruled), axis=1)
        return np.logical_not(met)


def _each(spots: Floats) -> tuple[Floats, ...]:
    """Every spot with every way, in radians."""
    ways = np.radians(np.array(WAYS, dtype=float))
    return (
        *(np.repeat(spots[:, k, None], len(ways), axis=1) for k in range(4)),
        np.repeat(ways[None, :], len(spots), axis=0),
    )


def _overlaps(one: Floats, other: Floats) -> Flags:
    """Which boxes of one row (4 × n) overlap which of another (4 × m): n × m."""
    a, b = one[:, :, None], other[:, None, :]
    flags: Flags = (a[0] < b[2]) & (b[0] < a[2]) & (a[1] < b[3]) & (b[1] < a[3])
    return flags


def _enters(pieces: Floats, boxes: Floats) -> Flags:
    """Which straight pieces (4 × n) enter which boxes (4 × m): n × m; by separating directions."""
    p, b = pieces[:, :, None], boxes[:, None, :]
    dx, dy = p[2] - p[0], p[3] - p[1]
    x, y, wide, tall = (b[0] + b[2]) / 2, (b[1] + b[3]) / 2, (b[2] - b[0]) / 2, (b[3] - b[1]) / 2
    beside = np.abs((p[0] + p[2]) / 2 - x) < wide + np.abs(dx) / 2
    level = np.abs((p[1] + p[3]) / 2 - y) < tall + np.abs(dy) / 2
    flags: Flags = beside & level & (np.abs(dx * (y - p[1]) - dy * (x - p[0])) < np.abs(dx) * tall + np.abs(dy) * wide)
    return flags


def _crossings(one: Floats, other: Floats) -> Flags:
    """Which straight pieces (4 × n) cross which others (4 × m): n × m."""
    p, q = one[:, :, None], other[:, None, :]

    def side(a: Floats, x: Floats, y: Floats) -> Floats:
        found: Floats = (a[2] - a[0]) * (y - a[1]) - (a[3] - a[1]) * (x - a[0])
        return found

    flags: Flags = (side(p, q[0], q[1]) * side(p, q[2], q[3]) < 0) & (side(q, p[0], p[1]) * side(q, p[2], p[3]) < 0)
    return flags
