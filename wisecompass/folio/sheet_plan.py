"""The planner of a sheet: which part of it each figure has, so that every one is as large as the others allow.

Figures keep their order, in rows or in columns. First the largest scale at which all of them fit is looked for; unless the
sheet has one scale for all, figures then grow one by one as long as all still fit. What was
dragged stays where it is, and the others take the largest part that is left.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import product
from typing import TypeAlias

from wisecompass.drafting.marks import Box
from wisecompass.drafting.solve import Drawing
from wisecompass.folio.layout import Extent, block_extents, shapes
from wisecompass.folio.page import EASE, Caption, caption_height

Size: TypeAlias = tuple[float, float]

MOST_TRIED, MOST_PLANNED = 6, 12
"""Up to so many figures every way into rows and columns is tried; up to so many rows are filled one by one, beyond that all
parts are alike."""

NARROWEST = 46.0
"""The least width of a figure's part, that its caption can be read, mm on A4."""

ROUNDING = 1e-6
"""What sums in floats may come to, mm."""

SMALLEST_PART = 25.0
"""A part that is left has at least this width and height, mm."""


@dataclass(frozen=True)
class Wanted:
    """What a figure asks for: its blocks, its caption, and a scale of its own where it has one."""

    extents: dict[str, Extent]
    caption: Caption
    fixed: Fraction | None
    size: float

    @classmethod
    def of(cls, drawing: Drawing | None, caption: Caption, fixed: Fraction | None, size: float) -> Wanted:
        """Of a drawing; of none where the figure cannot be drawn."""
        extents = {} if drawing is None else block_extents(drawing.marks, drawing.rotations)
        return cls(extents, caption, fixed, size)

    def shapes(self, scale: Fraction) -> list[Size]:
        """The sizes that it may have at a scale, its caption over it, narrow ones first."""
        found = []
        for w, h in shapes(self.extents, self.fixed or scale, self.size) if self.extents else [(0.0, 0.0)]:
            width = max(w + 2 * EASE * self.size, NARROWEST * self.size)
            found.append((width, h + EASE * self.size + caption_height(self.caption, width, self.size) + ROUNDING))
        return found


Rows: TypeAlias = tuple[tuple[int, ...], ...]


def parts(wanted: Sequence[Wanted], room: Box, scales: Sequence[Fraction], one_scale: bool) -> tuple[list[Box], bool]:
    """The part of ``room`` that each figure has, in their order, and whether all of them fit."""
    count = len(wanted)
    size = (room[2] - room[0], room[3] - room[1])
    if count > MOST_PLANNED:
        return alike(count, room), True
    remembered: dict[tuple[int, Fraction], list[Size]] = {}

    def sizes_of(n: int, scale: Fraction) -> list[Size]:
        if (n, scale) not in remembered:
            remembered[n, scale] = wanted[n].shapes(scale)
        return remembered[n, scale]

    def sizes(which: Sequence[Fraction]) -> list[list[Size]]:
        return [sizes_of(n, scale) for n, scale in enumerate(which)]

    def area(n: int, scale: Fraction) -> float:
        return min(w * h for w, h in sizes_of(n, scale))

    base = next((scale for scale in scales if _best(sizes([scale] * count), size) is not None), None)
    if base is None:
        return alike(count, room), False
    chosen = [base] * count
    if not one_scale:
        _grow(chosen, scales, lambda trial: _best(sizes(trial), size) is not None, area)
    best = _best(sizes(chosen), size)
    assert best is not None
    return _spread(best, room), True


def _grow(
    chosen: list[Fraction],
    scales: Sequence[Fraction],
    fits: Callable[[Sequence[Fraction]], bool],
    area: Callable[[int, Fraction], float],
) -> None:
    """Let figures grow one by one while all still fit: first to full size, those at the smallest scale before others; then
    on, the smallest on paper first."""
    done: set[int] = set()
    while len(done) < len(chosen):
        left = (k for k in range(len(chosen)) if k not in done)
        n = min(left, key=lambda k: (min(chosen[k], Fraction(1)), area(k, chosen[k])))
        larger = [scale for scale in scales if scale > chosen[n]]
        trial = [*chosen[:n], larger[-1], *chosen[n + 1 :]] if larger else []
        if trial and fits(trial):
            chosen[:] = trial
        else:
            done.add(n)


@dataclass(frozen=True)
class Laid:
    """Figures in rows (or columns), each row with its height (its width) and each figure with its width (its height)."""

    groups: Rows
    upright: bool
    across: tuple[float, ...]
    along: tuple[tuple[float, ...], ...]


def _best(sizes: Sequence[Sequence[Size]], room: Size) -> Laid | None:
    """The way into rows or columns that leaves most of the paper free, or none that fits."""
    found: Laid | None = None
    least = 0.0
    for groups in _ways(sizes, room):
        for upright in (False, True):
            laid = _laid(groups, upright, sizes, room)
            if laid is not None:
                taken = sum(laid.across) / room[0 if upright else 1] + max(map(sum, laid.along)) / room[1 if upright else 0]
                if found is None or taken < least - 1e-9:
                    found, least = laid, taken
    return found


def _ways(sizes: Sequence[Sequence[Size]], room: Size) -> Iterator[Rows]:
    """Ways to part the figures into groups, their order kept."""
    count = len(sizes)
    if count <= MOST_TRIED:
        for cuts in product((False, True), repeat=count - 1):
            groups: list[list[int]] = [[0]]
            for n, cut in enumerate(cuts, 1):
                if cut:
                    groups.append([])
                groups[-1].append(n)
            yield tuple(map(tuple, groups))
        return
    rows: list[list[int]] = [[]]
    taken = 0.0
    for n, each in enumerate(sizes):
        width = each[0][0]
        if rows[-1] and taken + width > room[0]:
            rows.append([])
            taken = 0.0
        rows[-1].append(n)
        taken += width
    yield tuple(map(tuple, rows))


def _laid(groups: Rows, upright: bool, sizes: Sequence[Sequence[Size]], room: Size) -> Laid | None:
    """The groups as rows, or upright as columns, each as low (as narrow) as its figures allow."""
    axis = 1 if upright else 0  # along which the figures of a group follow each other
    across: list[float] = []
    along: list[tuple[float, ...]] = []
    for group in groups:
        found = _group(group, axis, sizes, room[axis])
        if found is None:
            return None
        across.append(found[0])
        along.append(found[1])
    return Laid(groups, upright, tuple(across), tuple(along)) if sum(across) <= room[1 - axis] else None


def _group(
    group: Sequence[int], axis: int, sizes: Sequence[Sequence[Size]], most: float
) -> tuple[float, tuple[float, ...]] | None:
    """The least height of a row that its figures fit into, and their widths there (or a column's, the other way about)."""
    for limit in sorted({size[1 - axis] for n in group for size in sizes[n]}):
        least = [min((size[axis] for size in sizes[n] if size[1 - axis] <= limit), default=None) for n in group]
        known = [each for each in least if each is not None]
        if len(known) == len(least) and sum(known) <= most:
            return limit, tuple(known)
    return None


def _spread(laid: Laid, room: Box) -> list[Box]:
    """The parts, what is left over shared among them."""
    left, low, right, high = room
    found: dict[int, Box] = {}
    whole = (high - low, right - left) if not laid.upright else (right - left, high - low)
    more = (whole[0] - sum(laid.across)) / len(laid.across)
    at = high if not laid.upright else left
    for group, thick, lengths in zip(laid.groups, laid.across, laid.along, strict=True):
        share = (whole[1] - sum(lengths)) / len(lengths)
        run = left if not laid.upright else high
        for n, length in zip(group, lengths, strict=True):
            if not laid.upright:
                found[n] = (run, at - thick - more, run + length + share, at)
                run += length + share
            else:
                found[n] = (at, run - length - share, at + thick + more, run)
                run -= length + share
        at += (thick + more) * (1 if laid.upright else -1)
    return [found[n] for n in range(len(found))]


def alike(count: int, room: Box) -> list[Box]:
    """Parts of one size."""
    left, low, right, high = room
    columns = max(1, round((count * (right - left) / max(high - low, 1.0)) ** 0.5))
    rows = -(-count // columns)
    w, h = (right - left) / columns, (high - low) / rows
    places = ((n % columns, n // columns) for n in range(count))
    return [(left + c * w, high - (r + 1) * h, left + (c + 1) * w, high - r * h) for c, r in places]


def largest_free(room: Box, taken: Sequence[Box]) -> Box:
    """The largest part of a room that no box reaches into; the whole where nothing worth it is left."""
    xs = sorted({room[0], room[2], *(x for box in taken for x in (box[0], box[2]) if room[0] < x < room[2])})
    ys = sorted({room[1], room[3], *(y for box in taken for y in (box[1], box[3]) if room[1] < y < room[3])})
    best, area = room, 0.0
    for i, x0 in enumerate(xs):
        for x1 in xs[i + 1 :]:
            if x1 - x0 < SMALLEST_PART:
                continue
            blocking = [box for box in taken if box[0] < x1 - 1e-6 and box[2] > x0 + 1e-6]
            for j, y0 in enumerate(ys):
                for y1 in ys[j + 1 :]:
                    if y1 - y0 < SMALLEST_PART or (x1 - x0) * (y1 - y0) <= area:
                        continue
                    if not any(box[1] < y1 - 1e-6 and box[3] > y0 + 1e-6 for box in blocking):
                        best, area = (x0, y0, x1, y1), (x1 - x0) * (y1 - y0)
    return best
