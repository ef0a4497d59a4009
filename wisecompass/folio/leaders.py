"""Leaders: thin lines from a line of the figure to its name, which lies clear of everything (ISO 128-22)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple, TypeAlias

import numpy as np
from numpy.typing import NDArray

from wisecompass.drafting.marks import Box
from wisecompass.folio.cells import Cells

Floats: TypeAlias = NDArray[np.float64]
Flags: TypeAlias = NDArray[np.bool_]
Whole: TypeAlias = NDArray[np.intp]

LENGTHS = (6.0, 9.0, 13.0, 18.0, 24.0, 31.0, 39.0, 48.0, 58.0, 72.0, 88.0, 106.0, 128.0, 154.0, 184.0)
"""Lengths that are tried, mm on A4."""

WAYS = (60, 120, -60, -120, 45, 135, -45, -135, 30, 150, -30, -150, 75, 105, -75, -105)
"""Directions that are tried, degrees; none level or upright, like so many lines of a figure."""


class Search(NamedTuple):
    """A search for a leader: its directions, the sine of the least angle between it and its line, and what another leader
    or a marked point that it crosses counts, as many times its own width, how much of it may at least lie under what lies
    where it begins, and the white above and below the name, both mm on A4."""

    ways: Sequence[int]
    steep: float
    crossed: float
    free: float
    around: float


MORE, MOST = tuple(range(-178, 180, 4)), tuple(range(-179, 180, 2))
"""More directions, degrees."""

SEARCHES = (
    Search(WAYS, 0.4, math.inf, 0.0, 0.8),
    Search(MORE, 0.25, math.inf, 0.0, 0.8),
    Search(MORE, 0.1, 100.0, 4.0, 0.8),
    Search(MOST, 0.02, 100.0, 6.0, 0.3),
)
"""One after the other, until there is a place: the last two cross another leader or
a marked point rather than leave a line without its name."""

CELL = 0.5
"""Side of a cell, mm on A4."""

CROSSED = 4.0
"""What a leader crosses counts so many times its own width."""

FREE = 0.8
"""So much of a leader, mm on A4, may lie under what lies on its line where it begins."""

Spot: TypeAlias = tuple[float, float, float, float]
"""A place on a line: its share, x, y, and the slope there in degrees."""


class Leader(NamedTuple):
    """A leader from a share of its line, so far across and up, with the box of the name at its end."""

    share: float
    across: float
    up: float
    box: Box


class Field:
    """What leaders and their names keep clear of on a page, in square cells: its lines, letters and points, and, as they
    come, names and leaders."""

    def __init__(self, lines: Cells, room: Box, taken: Sequence[Box], dots: Sequence[Box], size: float) -> None:
        self._cell, self._room = CELL * size, room
        self._shape = math.ceil((room[2] - room[0]) / self._cell) + 2, math.ceil((room[3] - room[1]) / self._cell) + 2
        self._inked = np.zeros(self._shape, dtype=bool)
        self._taken = np.zeros(self._shape, dtype=bool)
        self._avoided = np.zeros(self._shape, dtype=bool)
        segments = np.array(lines.near(room)).reshape(-1, 5)
        columns, rows = _along(segments[:, :4].T, self._cell / 2)
        self._inked[self._at(columns, 0), self._at(rows, 1)] = True
        for held, boxes in ((self._taken, taken), (self._avoided, dots)):
            for box in boxes:
                self._hold(held, box)
        self._count()

    def _at(self, values: Floats, way: int) -> Whole:
        """The columns (0) or rows (1) of places, those outside the room at its edge."""
        found: Whole = np.clip((values - self._room[way]) / self._cell + 1, 0, self._shape[way] - 1).astype(np.intp)
        return found

    def _hold(self, held: Flags, box: Box) -> None:
        (left, right), (low, high) = (self._at(np.array(box[way::2]), way) for way in (0, 1))
        held[left : right + 1, low : high + 1] = True

    def _count(self) -> None:
        """Sums from the corner on, so that a box is looked up by its four corners."""
        full = np.zeros((self._shape[0] + 1, self._shape[1] + 1), dtype=np.int32)
        full[1:, 1:] = np.cumsum(np.cumsum(self._inked | self._taken | self._avoided, axis=0), axis=1)
        self._sums = full

    def find(
        self, spots: Sequence[Spot], text: tuple[float, float], white: float, size: float, free: float
    ) -> Leader | None:
        """The nearest clear place for a level text of a width and height, ``white`` from the end of a leader that crosses
        no lettering and few lines, but for what lies within ``free`` mm of its beginning."""
        found = (self._find(search, spots, text, white, size, free) for search in SEARCHES)
        best = next((leader for leader in found if leader is not None), None)
        if best is not None:
            self._hold(self._taken, best.box)
            x, y = next((x, y) for share, x, y, _ in spots if share == best.share)
            columns, rows = _along(np.array([[x], [y], [x + best.across], [y + best.up]]), self._cell / 2)
            self._avoided[self._at(columns, 0), self._at(rows, 1)] = True
            self._count()
        return best

    def _find(
        self, search: Search, spots: Sequence[Spot], text: tuple[float, float], white: float, size: float, free: float
    ) -> Leader | None:
        width, height = text
        share, x, y, slope, turn = (column.ravel() for column in _each(np.array(spots), search.ways))
        rays = np.stack([share, x, y, np.cos(turn), np.sin(turn), np.zeros(len(x))])
        rays = rays[:, np.abs(np.sin(turn - np.radians(slope))) >= search.steep]
        so_far = max(free, FREE * size, search.free * size)
        best, least = None, np.inf
        for length in (size * value for value in LENGTHS):
            if length >= least or not rays.size:
                break
            if length > so_far:
                rays[5] += self._crossed(rays, so_far, length, search.crossed)
                rays, so_far = rays[:, np.isfinite(rays[5])], length
            share, x, y, across, up, crossed = rays
            middle = x + length * across + np.sign(across) * (width / 2 + white), y + length * up
            reach = height / 2 + search.around * size
            box = np.stack([middle[0] - width / 2, middle[1] - reach, middle[0] + width / 2, middle[1] + reach])
            cost = np.where(self._clear(box), length + crossed, np.inf)
            i = int(np.argmin(cost)) if len(cost) else 0
            if len(cost) and cost[i] < least:
                least = float(cost[i])
                left, low, right, high = (float(value) for value in box[:, i])
                best = Leader(float(share[i]), float(length * across[i]), float(length * up[i]), (left, low, right, high))
        return best

    def _clear(self, box: Floats) -> Flags:
        """Which boxes lie within the room and free of all lines and of all that is taken."""
        left, low, right, high = self._room
        within: Flags = (box[0] >= left) & (box[1] >= low) & (box[2] <= right) & (box[3] <= high)
        (x1, x2), (y1, y2) = ((self._at(box[way], way), self._at(box[way + 2], way) + 1) for way in (0, 1))
        held = self._sums[x2, y2] - self._sums[x1, y2] - self._sums[x2, y1] + self._sums[x1, y1]
        clear: Flags = within & (held == 0)
        return clear

    def _crossed(self, rays: Floats, start: float, end: float, others: float) -> Floats:
        """What the lines, points and other leaders count that rays cross between two distances; infinite where one runs
        through lettering."""
        away = np.linspace(start, end, math.ceil((end - start) / self._cell) + 1)[:, None]
        columns, rows = self._at(rays[1] + rays[3] * away, 0), self._at(rays[2] + rays[4] * away, 1)
        cost: Floats = CROSSED * self._cell * self._inked[columns, rows].sum(axis=0)
        met = self._avoided[columns, rows].sum(axis=0)
        cost[met > 0] += others * self._cell * met[met > 0]
        cost[self._taken[columns, rows].any(axis=0)] = np.inf
        return cost


def _along(pieces: Floats, step: float) -> tuple[Floats, Floats]:
    """Places along straight pieces (4 × n), at most ``step`` apart."""
    counts = np.ceil(np.hypot(pieces[2] - pieces[0], pieces[3] - pieces[1]) / step).astype(np.intp) + 1
    x1, y1, x2, y2, several = np.repeat(np.vstack([pieces, counts]), counts, axis=1)
    shares = (np.arange(len(several)) - np.repeat(np.cumsum(counts) - counts, counts)) / np.maximum(several - 1, 1)
    return x1 + (x2 - x1) * shares, y1 + (y2 - y1) * shares


def _each(spots: Floats, ways: Sequence[int]) -> tuple[Floats, ...]:
    """Every spot with every way, in radians."""
    turns = np.radians(np.array(ways, dtype=float))
    return (
        *(np.repeat(spots[:, k, None], len(turns), axis=1) for k in range(4)),
        np.repeat(turns[None, :], len(spots), axis=0),
    )
