"""The drawn lines of a page sorted into square cells, so that lettering is tried only against what is near it."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import TypeAlias

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Box, Mark, sampled
from wisecompass.drafting.pens import Pen

WEIGHTS = {Pen.OUTLINE: 6.0, Pen.CUT: 6.0, Pen.LETTERING: 12.0, Pen.GIVEN: 4.0, Pen.DIMENSION: 4.0, Pen.FOLD: 3.0}
"""How bad it is for lettering to lie on a line of that pen; ``THIN_WEIGHT`` for others."""

THIN_WEIGHT = 3.0

CELL = 8.0
"""Side of a cell, mm on A4: a little more than a letter."""

CLEAR = 0.35
"""White that lettering keeps to each line, mm on A4."""

Segment: TypeAlias = tuple[float, float, float, float, float]
"""x1, y1, x2, y2 and how bad it is to letter over it."""


class Cells:
    """The lines of a page whose lettering is ``size`` times that of A4, in cells."""

    def __init__(self, page: Iterable[Mark], size: float = 1.0) -> None:
        self._side, self.clear = CELL * size, CLEAR * size
        self._cells: dict[tuple[int, int], list[Segment]] = {}
        self._found: dict[tuple[int, int, int, int], list[Segment]] = {}
        self.add(page)

    def add(self, page: Iterable[Mark]) -> None:
        """Sort in the lines of more marks."""
        self._found.clear()
        for mark in page:
            if isinstance(mark, marks.Area | marks.Dot | marks.Text | marks.Gap):
                continue
            weight = WEIGHTS.get(mark.pen, THIN_WEIGHT)
            points = sampled(mark, 24)
            for (x1, y1), (x2, y2) in zip(points, points[1:], strict=False):
                self._sort_in((x1, y1, x2, y2, weight))

    def with_more(self, page: Iterable[Mark]) -> Cells:
        """These cells with the lines of more marks."""
        more = Cells([])
        more._side, more.clear = self._side, self.clear
        more._cells = {at: list(held) for at, held in self._cells.items()}
        more.add(page)
        return more

    def _sort_in(self, segment: Segment) -> None:
        """Into every cell of its box; a long slanting line is cut up so that it does not fill its whole box."""
        x1, y1, x2, y2, weight = segment
        across, upright = abs(x2 - x1) / self._side, abs(y2 - y1) / self._side
        pieces = int(min(across, upright)) + 1
        if pieces > 1:
            for i in range(pieces):
                a, b = i / pieces, (i + 1) / pieces
                self._sort_in_cells((x1 + (x2 - x1) * a, y1 + (y2 - y1) * a, x1 + (x2 - x1) * b, y1 + (y2 - y1) * b, weight))
        else:
            self._sort_in_cells(segment)

    def _sort_in_cells(self, segment: Segment) -> None:
        x1, y1, x2, y2, _ = segment
        side = self._side
        columns = range(int(min(x1, x2) // side), int(max(x1, x2) // side) + 1)
        rows = range(int(min(y1, y2) // side), int(max(y1, y2) // side) + 1)
        for column in columns:
            for row in rows:
                self._cells.setdefault((column, row), []).append(segment)

    def near(self, box: Box) -> list[Segment]:
        """The segments of all cells that a box touches, each once; remembered, for many boxes are tried in few cells."""
        left, low, right, high = (int(value // self._side) for value in box)
        if (left, low, right, high) not in self._found:
            cells = [(column, row) for column in range(left, right + 1) for row in range(low, high + 1)]
            met = dict.fromkeys(segment for cell in cells for segment in self._cells.get(cell, ()))
            self._found[left, low, right, high] = list(met)
        return self._found[left, low, right, high]

    def harm(self, box: Box, allowed: float = math.inf) -> float:
        """How bad it is to letter in a box: the weights of the lines that enter it or come closer than ``clear``. Counting
        stops when it is no longer ``allowed``."""
        harm, clear = 0.0, self.clear
        left, low, right, high = box[0] - clear, box[1] - clear, box[2] + clear, box[3] + clear
        x, y, half_width, half_height = (left + right) / 2, (low + high) / 2, (right - left) / 2, (high - low) / 2
        for x1, y1, x2, y2, weight in self.near((left, low, right, high)):
            if (
                (x1 < left and x2 < left)
                or (x1 > right and x2 > right)
                or (y1 < low and y2 < low)
                or (y1 > high and y2 > high)
            ):
                continue
            dx, dy = x2 - x1, y2 - y1
            if abs(dx * (y - y1) - dy * (x - x1)) < abs(dx) * half_height + abs(dy) * half_width:
                harm += weight  # the line's direction separates it from the box no more than the sides do
                if harm >= allowed:
                    break
        return harm

    def harm_turned(
        self,
        x: float,
        y: float,
        angle: float,
        width: float,
        height: float,
        allowed: float = math.inf,
        heaviest: float = math.inf,
    ) -> float:
        """The same for a box about (x, y) that is turned by an angle in degrees; infinite where a line comes in that is
        heavier than ``heaviest``."""
        c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
        w, h = width / 2 + self.clear, height / 2 + self.clear
        across, upright = abs(c) * w + abs(s) * h, abs(s) * w + abs(c) * h
        harm = 0.0
        for x1, y1, x2, y2, weight in self.near((x - across, y - upright, x + across, y + upright)):
            u1, v1 = (x1 - x) * c + (y1 - y) * s, (y1 - y) * c - (x1 - x) * s
            u2, v2 = (x2 - x) * c + (y2 - y) * s, (y2 - y) * c - (x2 - x) * s
            if max(u1, u2) < -w or min(u1, u2) > w or max(v1, v2) < -h or min(v1, v2) > h:
                continue
            if abs(u1 * v2 - v1 * u2) < abs(u2 - u1) * h + abs(v2 - v1) * w:
                harm += weight if weight <= heaviest else math.inf
                if harm > allowed:
                    break
        return harm
