"""Lettering of points, kept off lines and off other lettering; with a leader where there is no room close by."""

from __future__ import annotations

import math
import re
from collections.abc import Iterable
from functools import lru_cache
from typing import TypeAlias

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Box, Mark
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.wording import lettered
from wisecompass.folio.cells import Cells
from wisecompass.folio.paper import text_width

HEIGHT = 3.5
"""Height of the capitals of a point's letter, mm."""

OVERLAP, OVER_POINT, OUTSIDE = 200.0, 8.0, 60.0
"""How bad it is to cover other lettering, to cover a point, or to leave the room."""

_DIRECTIONS = ((1, 1), (-1, 1), (1, -1), (-1, -1), (0, 1), (0, -1), (1, 0), (-1, 0))
_RINGS = ((0.9, 0.0), (2.2, 0.9), (4.5, 2.6), (7.5, 4.2), (11.0, 6.0), (15.0, 8.5), (20.0, 11.0))
"""(distance of the letter from its point, penalty)."""

LEADER_ABOVE = 4.0
"""Rings farther out than this get a leader, mm."""

HANGING = {**dict.fromkeys("₀₁₂₃₄₅₆₇₈₉", 0.45), **dict.fromkeys("gjpqy", 0.27)}
"""How far signs of the drafting face hang below the base line, as a share of its capitals."""

APART = 0.9
"""White between two letters side by side, mm, so that 4 and 5 are not read as 45."""

MOST_LETTERED = 60
"""More letters than this nobody reads: of long rows of numbered points only some are lettered, as on a scale."""

CROWDED, ROW = 4.4, 8
"""Of a row of more than so many numbers that stand closer than this, mm, only some are lettered too, with its last."""

_NUMBERED = re.compile(r"(.*?)(\d+)([′″]?)")

Named: TypeAlias = marks.Dot | marks.Letter

_Taken: TypeAlias = tuple[float, float, float, float, float]
"""A box, and how bad it is to letter over it."""

Places: TypeAlias = dict[tuple[str, str], tuple[Box, bool]]
"""By block and name of a point: the box of its letter, seen from the point, and whether it has a leader."""


def find_places(
    page: list[Mark],
    room: Box,
    size: float = 1.0,
    dots: list[Named] | None = None,
    lines: Cells | None = None,
) -> Places:
    """Where the letters of all named points stand best; ``size`` enlarges them. ``dots`` are those of ``to_letter``, and
    ``lines`` those of the page, where they are at hand."""
    dots = to_letter(page, size) if dots is None else dots
    lines = Cells(page, size) if lines is None else lines
    taken = [(*text_box(mark), OVERLAP) for mark in page if isinstance(mark, marks.Text)]
    free = 0.7 * size
    taken += [(dot.x - free, dot.y - free, dot.x + free, dot.y + free, OVER_POINT) for dot in dots]
    boxes: list[tuple[Box, bool]] = []
    for dot in dots:
        boxes.append(_best_place(dot, lines, [*taken, *_white(boxes, size)], room, size))
    for i, dot in enumerate(dots):  # who came first could not know who would come after
        others = _white([*boxes[:i], *boxes[i + 1 :]], size)
        if any(_overlap(boxes[i][0], other[:4]) for other in others):
            boxes[i] = _best_place(dot, lines, [*taken, *others], room, size)
    return {
        (dot.block, dot.name): ((box[0] - dot.x, box[1] - dot.y, box[2] - dot.x, box[3] - dot.y), leader)
        for dot, (box, leader) in zip(dots, boxes, strict=True)
    }


def _beside(dot: Named, place: Box) -> Box:
    """A box seen from a point, on the page."""
    left, low, right, high = place
    return dot.x + left, dot.y + low, dot.x + right, dot.y + high


def _white(boxes: list[tuple[Box, bool]], size: float) -> list[_Taken]:
    """Letters with the white that they keep to each other."""
    return [(box[0] - APART * size, box[1], box[2] + APART * size, box[3], OVERLAP) for box, _ in boxes]


def _overlap(one: Box, other: Box) -> bool:
    return one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]


def lettered_at(dots: list[Named], places: Places, size: float = 1.0) -> list[Mark]:
    """The letters as text marks with their leaders, at places found before; points without a place have none."""
    result: list[Mark] = []
    for dot in dots:
        if (dot.block, dot.name) in places:
            place, leader = places[dot.block, dot.name]
            result += _drawn(dot, _beside(dot, place), leader, size)
    return result


def _best_place(dot: Named, lines: Cells, taken: list[_Taken], room: Box, size: float) -> tuple[Box, bool]:
    """The box of least harm. Places are tried in order of their own penalty, so the first harmless one is the best."""
    height = HEIGHT * size + _descent(dot.name, size)
    width = text_width(lettered(dot.name), HEIGHT * size)
    reach = _RINGS[-1][0] * 1.2 * size + width
    close = [
        b for b in taken if b[0] < dot.x + reach and b[2] > dot.x - reach and b[1] < dot.y + reach and b[3] > dot.y - reach
    ]
    directions: Iterable[tuple[int, int]] = _DIRECTIONS
    if isinstance(dot, marks.Letter):
        u, v = dot.toward
        directions = sorted(_DIRECTIONS, key=lambda way: -(way[0] * u + way[1] * v) / math.hypot(*way))
    best: tuple[float, Box, bool] | None = None
    for distance, penalty in _RINGS:
        for order, (sx, sy) in enumerate(directions):
            score = penalty + 0.05 * order
            if best is not None and score >= best[0]:
                return best[1], best[2]
            away = distance * size * (0.8 if sx and sy else 1.15)
            left = dot.x + (away if sx > 0 else -away - width if sx < 0 else -width / 2)
            low = dot.y + (away if sy > 0 else -away - height if sy < 0 else -height / 2)
            box = (left, low, left + width, low + height)
            allowed = best[0] - score if best is not None else math.inf
            score += _harm(box, lines, close, room, allowed)
            if best is None or score < best[0]:
                best = (score, box, distance > LEADER_ABOVE)
    assert best is not None
    return best[1], best[2]


def _descent(name: str, size: float) -> float:
    """How far the lowered numbers or the tails of a name hang below its base line."""
    return hanging(lettered(name)) * HEIGHT * size


@lru_cache(maxsize=4096)
def hanging(text: str) -> float:
    """How far a text hangs below its base line, as a share of its height."""
    return max((HANGING.get(c, 0.0) for c in text), default=0.0)


def _harm(box: Box, lines: Cells, close: list[_Taken], room: Box, allowed: float) -> float:
    """What a letter in this box covers, weighted; counting lines stops when it is no longer ``allowed``."""
    left, low, right, high = box
    harm = 0.0
    if left < room[0] or low < room[1] or right > room[2] or high > room[3]:
        harm = OUTSIDE
    for other in close:
        if left < other[2] and other[0] < right and low < other[3] and other[1] < high:
            harm += other[4]
    return harm + lines.harm(box, allowed - harm)


def to_letter(page: Iterable[Mark], size: float = 1.0) -> list[Named]:
    """Named points and letters, each place and name once; of very many, or of a crowded row, only every second, third …
    number, as on a scale."""
    seen: dict[tuple[str, int, int], Named] = {}
    rows: dict[tuple[str, str, str], list[tuple[int, Named]]] = {}
    for mark in page:
        if isinstance(mark, marks.Letter) or (isinstance(mark, marks.Dot) and mark.name and mark.shown):
            name = lettered(mark.name)
            key = (name, round(mark.x * 10), round(mark.y * 10))
            if " " not in name and key not in seen:
                seen[key] = mark
                numbered = _NUMBERED.fullmatch(mark.name)
                if numbered is not None:
                    before, number, after = numbered.groups()
                    rows.setdefault((mark.block, before, after), []).append((int(number), mark))
    least = max(1, math.ceil(len(seen) / MOST_LETTERED))
    left_out = {id(mark) for row in rows.values() for mark in _between(row, least, size)}
    return [mark for mark in seen.values() if id(mark) not in left_out]


def _between(row: list[tuple[int, Named]], least: int, size: float) -> list[Named]:
    """Of a row of numbered points those between the lettered ones; every ``least``-th is lettered at most."""
    row = sorted(row, key=lambda one: one[0])
    every = least
    if len(row) > ROW:
        gaps = sorted(math.dist((a.x, a.y), (b.x, b.y)) for (_, a), (_, b) in zip(row, row[1:], strict=False))
        every = max(least, math.ceil(CROWDED * size / max(gaps[len(gaps) // 2], 0.5)))
    return [mark for number, mark in row[: -1 if every > least else None] if number % every]


def text_box(text: marks.Text) -> Box:
    """The upright box of a text with what hangs below its base line; about a turned one large enough for any slope."""
    width = text_width(text.text, text.height)
    left = text.x - {"left": 0.0, "centre": width / 2, "right": width}[text.anchor]
    if text.angle:
        reach = max(width, text.height) / 2
        middle = left + width / 2
        return (middle - reach, text.y - reach, middle + reach, text.y + reach)
    return (left, text.y - hanging(text.text) * text.height, left + width, text.y + text.height)


def _drawn(dot: Named, box: Box, leader: bool, size: float) -> list[Mark]:
    left, low, right, high = box
    text = marks.Text(
        x=left,
        y=low + _descent(dot.name, size),
        text=lettered(dot.name),
        height=HEIGHT * size,
        pen=Pen.LETTERING,
        step=dot.step,
        name=dot.name,
    )
    if not leader:
        return [text]
    to_x, to_y = min(max(dot.x, left), right), min(max(dot.y, low), high)
    line = marks.Segment(x1=dot.x, y1=dot.y, x2=to_x, y2=to_y, pen=Pen.DIMENSION, step=dot.step)
    return [line, text]
