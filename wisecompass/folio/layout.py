"""Placing a figure's blocks on the paper: the arrangement that allows the largest drawing scale."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import product

from wisecompass.drafting.marks import Area, Box, Break, Dot, LinearDimension, Mark, Placement, reach, sampled
from wisecompass.folio.dimensions import break_reach
from wisecompass.folio.scales import SCALES

MARGIN = 7.0
"""Room round every block for its letters, in mm of paper; dimensions take theirs on top."""

BESIDE_DIMENSION = 5.0
"""Room for the text of a dimension outside its line, in mm of paper."""

TINY = 1e-12
"""Stands for the width or height of a block that has none, mm."""

LARGEST_ARRANGED = 4
"""More blocks than this are laid in one row or column without trying every grouping."""


@dataclass(frozen=True)
class Arrangement:
    """The scale and where each block lies."""

    scale: Fraction
    placements: dict[str, Placement]


@dataclass(frozen=True)
class Extent:
    """What a block covers: a box that grows with the scale, and dimensions that stand off it by mm of paper."""

    box: Box
    dimensions: tuple[tuple[float, float, float, float], ...] = ()
    """(x, y) in mm of the figure and (dx, dy) in mm of paper."""

    def at(self, scale: float, size: float) -> Box:
        """The box on paper, with room for letters and dimensions, which are ``size`` times those on A4."""
        margin, beside = MARGIN * size, BESIDE_DIMENSION * size
        left, low, right, high = (value * scale for value in self.box)
        left, low, right, high = left - margin, low - margin, right + margin, high + margin
        for x, y, dx, dy in self.dimensions:
            px, py = x * scale + dx * size, y * scale + dy * size
            left, right = min(left, px - beside), max(right, px + beside)
            low, high = min(low, py - beside), max(high, py + beside)
        return left, low, right, high


def block_extents(drawn: list[Mark], rotations: Mapping[str, float]) -> dict[str, Extent]:
    """The extent of each block, turned as it will be drawn."""
    points: dict[str, list[tuple[float, float]]] = {}
    standing_off: dict[str, list[tuple[float, float, float, float]]] = {}
    for mark in drawn:
        if isinstance(mark, Area) or (isinstance(mark, Dot) and not mark.shown):
            continue  # a tint lies on what is drawn anyway, and a point that is not shown needs no room
        turn = Placement(angle=rotations.get(mark.block, 0.0))
        pairs = [turn.at(*pair) for pair in sampled(mark)] if turn.angle else reach(mark)
        points.setdefault(mark.block, []).extend(pairs)
        if isinstance(mark, Break):
            (x, y), reach_of = pairs[0], break_reach(replace(mark, angle=mark.angle + turn.angle))
            standing_off.setdefault(mark.block, []).extend((x, y, dx, dy) for dx, dy in reach_of)
        if isinstance(mark, LinearDimension):
            (x1, y1), (x2, y2) = pairs
            length = math.hypot(x2 - x1, y2 - y1) or 1.0
            nx, ny = -(y2 - y1) / length, (x2 - x1) / length
            side = math.copysign(mark.clear, mark.offset)
            standing_off.setdefault(mark.block, []).extend(
                (x + nx * side, y + ny * side, nx * mark.offset, ny * mark.offset) for x, y in pairs
            )
    extents = {}
    for block, pairs in points.items():
        xs, ys = [x for x, _ in pairs], [y for _, y in pairs]
        box = (min(xs), min(ys), max(xs), max(ys))
        extents[block] = Extent(box, tuple(standing_off.get(block, ())))
    return extents


def arrange(
    marks: list[Mark],
    rotations: Mapping[str, float],
    room: Box,
    fixed: Fraction | None = None,
    size: float = 1.0,
    scales: Sequence[Fraction] = SCALES,
) -> Arrangement:
    """Place all blocks in ``room`` (left, bottom, right, top in mm of paper) at the largest scale that fits.

    With ``fixed`` that scale is kept even if the figure runs over. ``size`` is that of the lettering
    against A4; ``scales`` are those to choose from, largest first.
    """
    extents = block_extents(marks, rotations)
    order = list(extents)
    width, height = room[2] - room[0], room[3] - room[1]
    groupings = _groupings(order)
    bare = [(box[2] - box[0], box[3] - box[1]) for box in (extent.box for extent in extents.values())]
    most = min((min(width / (w or TINY), height / (h or TINY)) for w, h in bare), default=math.inf)
    for scale in (fixed,) if fixed else (scale for scale in scales if float(scale) <= most):
        boxes = {block: extent.at(float(scale), size) for block, extent in extents.items()}
        if not fixed and any(box[2] - box[0] > width or box[3] - box[1] > height for box in boxes.values()):
            continue
        if not fixed and sum((box[2] - box[0]) * (box[3] - box[1]) for box in boxes.values()) > width * height:
            continue
        best = None
        for groups, rows in groupings:
            total = _total(groups, rows, boxes)
            if (fixed or (total[0] <= width and total[1] <= height)) and (best is None or _slack(total) < best[0]):
                best = (_slack(total), groups, rows)
        if best is not None:
            return Arrangement(scale, _place(best[1], best[2], boxes, float(scale), rotations, room))
    boxes = {block: extent.at(float(SCALES[-1]), size) for block, extent in extents.items()}
    return Arrangement(SCALES[-1], _place([order], True, boxes, float(SCALES[-1]), rotations, room))


def shapes(extents: Mapping[str, Extent], scale: Fraction, size: float) -> list[tuple[float, float]]:
    """The (width, height) on paper that the blocks take at a scale, in every grouping that none betters both ways."""
    boxes = {block: extent.at(float(scale), size) for block, extent in extents.items()}
    found: set[tuple[float, float]] = set()
    for groups, rows in _groupings(list(extents)):
        found.add(_total(groups, rows, boxes))
    least: list[tuple[float, float]] = []
    for width, height in sorted(found):
        if not least or height < least[-1][1]:
            least.append((width, height))
    return least


def _total(groups: list[list[str]], rows: bool, boxes: Mapping[str, Box]) -> tuple[float, float]:
    """The width and height of all groups together."""
    sizes = [_group_size(group, boxes, rows) for group in groups]
    if rows:
        return max(w for w, _ in sizes), sum(h for _, h in sizes)
    return sum(w for w, _ in sizes), max(h for _, h in sizes)


def _slack(total: tuple[float, float]) -> float:
    return total[0] * total[1]


def _groupings(order: list[str]) -> list[tuple[list[list[str]], bool]]:
    """Ways to put blocks into up to two rows or columns, keeping their order inside each."""
    if len(order) > LARGEST_ARRANGED or len(order) == 1:
        return [([order], False), ([order], True)]
    found = []
    for choice in product((0, 1), repeat=len(order) - 1):
        groups: list[list[str]] = [[order[0]], []]
        for block, which in zip(order[1:], choice, strict=True):
            groups[which].append(block)
        kept = [group for group in groups if group]
        found += [(kept, False), (kept, True)]
    return found


def _block_size(box: Box) -> tuple[float, float]:
    return box[2] - box[0], box[3] - box[1]


def _group_size(group: list[str], boxes: Mapping[str, Box], rows: bool) -> tuple[float, float]:
    """Size of a group: a row lays its blocks side by side, a column stacks them."""
    sizes = [_block_size(boxes[block]) for block in group]
    if rows:
        return sum(w for w, _ in sizes), max(h for _, h in sizes)
    return max(w for w, _ in sizes), sum(h for _, h in sizes)


def _place(
    groups: list[list[str]],
    rows: bool,
    boxes: Mapping[str, Box],
    scale: float,
    rotations: Mapping[str, float],
    room: Box,
) -> dict[str, Placement]:
    """Spread groups over the room, and the blocks of each over its strip, with equal gaps."""
    sizes = [_group_size(group, boxes, rows) for group in groups]
    axis = 1 if rows else 0
    spare = (room[3] - room[1] if rows else room[2] - room[0]) - sum(size[axis] for size in sizes)
    gap = spare / (len(groups) + 1)
    placements: dict[str, Placement] = {}
    at = (room[3] if rows else room[0]) + (-gap if rows else gap)
    for group, size in zip(groups, sizes, strict=True):
        inner = [_block_size(boxes[block]) for block in group]
        length = (room[2] - room[0]) if rows else (room[3] - room[1])
        inner_gap = (length - sum(s[1 - axis] for s in inner)) / (len(group) + 1)
        run = room[0] + inner_gap if rows else room[3] - inner_gap
        for block, (w, h) in zip(group, inner, strict=True):
            middle = (run + w / 2, at - size[1] / 2) if rows else (at + size[0] / 2, run - h / 2)
            placements[block] = _centred(boxes[block], scale, rotations.get(block, 0.0), middle)
            run += (w if rows else -h) + (inner_gap if rows else -inner_gap)
        at += -(size[1] + gap) if rows else size[0] + gap
    return placements


def _centred(box: Box, scale: float, angle: float, middle: tuple[float, float]) -> Placement:
    return Placement(scale, middle[0] - (box[0] + box[2]) / 2, middle[1] - (box[1] + box[3]) / 2, angle)
