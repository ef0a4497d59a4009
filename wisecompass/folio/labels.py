"""Lettering of points, kept off lines and off other lettering; with a leader where there is no room close by."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Box, Mark, sampled
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.wording import lettered
from wisecompass.folio.paper import text_width

HEIGHT = 3.5
"""Height of the capitals of a point's letter, mm."""

_WEIGHTS = {Pen.OUTLINE: 6.0, Pen.CUT: 6.0, Pen.LETTERING: 12.0, Pen.GIVEN: 4.0, Pen.DIMENSION: 4.0, Pen.FOLD: 3.0}
"""How bad it is for a letter to lie on a line of that pen; ``THIN_WEIGHT`` for others."""

_DIRECTIONS = [(1, 1), (-1, 1), (1, -1), (-1, -1), (0, 1), (0, -1), (1, 0), (-1, 0)]
_RINGS = ((0.9, 0.0), (2.2, 0.9), (4.5, 2.6), (7.5, 4.2))
"""(distance of the letter from its point, penalty); from the third ring on a leader is drawn."""

LEADER_FROM, LEADER_ABOVE = 2, 4.0
"""Rings from which on, and distances above which, a leader is drawn."""

REACH = 16.0
"""No candidate box reaches farther than this from its point, mm."""

GOOD_ENOUGH = 3.5
"""A score below this clears all outlines: no need to try places that want a leader."""

OVERLAP, OUTSIDE = 8.0, 50.0
"""How bad it is to cover other lettering, or to leave the room."""

THIN_WEIGHT = 2.0
"""How bad it is to letter over a construction line."""


Boxes: TypeAlias = NDArray[np.float64]
"""Rows of left, bottom, right, top."""


@dataclass(frozen=True, slots=True)
class _Candidate:
    box: Box
    penalty: float
    leader: bool


def lettering(page: list[Mark], room: Box) -> list[Mark]:
    """The letters of all named points on a page, as text marks, with their leaders."""
    dots = _to_letter(page)
    if not dots:
        return []
    field = _Obstacles(page)
    texts = [_text_box(mark) for mark in page if isinstance(mark, marks.Text)]
    taken = np.array(texts + [(dot.x - 0.7, dot.y - 0.7, dot.x + 0.7, dot.y + 0.7) for dot in dots])
    result: list[Mark] = []
    for dot, near in zip(dots, field.near(dots), strict=True):
        best, best_score = None, 0.0
        for rings in (_RINGS[:LEADER_FROM], _RINGS[LEADER_FROM:]):
            if best is not None and best_score < GOOD_ENOUGH:
                break
            options = _candidates(dot, rings)
            boxes = np.array([option.box for option in options])
            scores = field.crossed(boxes, near) + OVERLAP * _overlaps(boxes, taken) + OUTSIDE * _outside(boxes, room)
            for option, bad in zip(options, scores.tolist(), strict=True):
                score = option.penalty + bad
                if best is None or score < best_score:
                    best, best_score = option, score
        assert best is not None
        taken = np.vstack((taken, best.box))
        result += _drawn(dot, best)
    return result


def _to_letter(page: list[Mark]) -> list[marks.Dot]:
    """Named points, each place and name once."""
    seen: dict[tuple[str, int, int], marks.Dot] = {}
    for mark in page:
        if isinstance(mark, marks.Dot) and mark.name and mark.shown and " " not in lettered(mark.name):
            seen.setdefault((lettered(mark.name), round(mark.x * 10), round(mark.y * 10)), mark)
    return list(seen.values())


class _Obstacles:
    """The drawn lines of a page as short segments, with how bad it is to letter over each."""

    def __init__(self, page: list[Mark]) -> None:
        rows: list[tuple[float, float, float, float]] = []
        weights: list[float] = []
        for mark in page:
            if isinstance(mark, marks.Area | marks.Dot | marks.Text):
                continue
            points = sampled(mark, 36)
            weight = _WEIGHTS.get(mark.pen, THIN_WEIGHT)
            for (x1, y1), (x2, y2) in zip(points, points[1:], strict=False):
                rows.append((x1, y1, x2, y2))
                weights.append(weight)
        self._segments = np.array(rows or [(0.0, 0.0, 0.0, 0.0)])
        self._weights = np.array(weights or [0.0])

    def near(self, dots: list[marks.Dot]) -> list[NDArray[np.intp]]:
        """For each point the indices of the segments that any of its candidate boxes could touch."""
        s, at = self._segments, np.array([(dot.x, dot.y) for dot in dots])
        low_x, high_x = np.minimum(s[:, 0], s[:, 2]) - REACH, np.maximum(s[:, 0], s[:, 2]) + REACH
        low_y, high_y = np.minimum(s[:, 1], s[:, 3]) - REACH, np.maximum(s[:, 1], s[:, 3]) + REACH
        x, y = at[:, 0, None], at[:, 1, None]
        close = (x > low_x) & (x < high_x) & (y > low_y) & (y < high_y)
        return [np.flatnonzero(row) for row in close]

    def crossed(self, box: Boxes, near: NDArray[np.intp]) -> NDArray[np.float64]:
        """For each box the weights of the segments that enter it, by the slab test of Kay and Kajiya."""
        segments = self._segments[near]
        pad = 0.35
        x1, y1 = segments[None, :, 0], segments[None, :, 1]
        dx, dy = segments[None, :, 2] - x1, segments[None, :, 3] - y1
        dx, dy = np.where(dx == 0, 1e-12, dx), np.where(dy == 0, 1e-12, dy)
        a, b = (box[:, 0, None] - pad - x1) / dx, (box[:, 2, None] + pad - x1) / dx
        c, d = (box[:, 1, None] - pad - y1) / dy, (box[:, 3, None] + pad - y1) / dy
        enter = np.maximum(np.maximum(np.minimum(a, b), np.minimum(c, d)), 0.0)
        leave = np.minimum(np.minimum(np.maximum(a, b), np.maximum(c, d)), 1.0)
        total: NDArray[np.float64] = (enter < leave) @ self._weights[near]
        return total


def _candidates(dot: marks.Dot, rings: tuple[tuple[float, float], ...]) -> list[_Candidate]:
    """The boxes a letter may take round its point, on rings of (distance, penalty)."""
    width, height = text_width(lettered(dot.name), HEIGHT), HEIGHT
    found = []
    for distance, penalty in rings:
        for order, (sx, sy) in enumerate(_DIRECTIONS):
            reach = distance * (0.8 if sx and sy else 1.15)
            left = dot.x + (reach if sx > 0 else -reach - width if sx < 0 else -width / 2)
            low = dot.y + (reach if sy > 0 else -reach - height if sy < 0 else -height / 2)
            box = (left, low, left + width, low + height)
            found.append(_Candidate(box, penalty + 0.05 * order, distance > LEADER_ABOVE))
    return found


def _overlaps(boxes: Boxes, taken: Boxes) -> NDArray[np.intp]:
    """How many of the boxes that are taken each box overlaps."""
    across = (boxes[:, None, 0] < taken[None, :, 2]) & (taken[None, :, 0] < boxes[:, None, 2])
    upright = (boxes[:, None, 1] < taken[None, :, 3]) & (taken[None, :, 1] < boxes[:, None, 3])
    count: NDArray[np.intp] = np.count_nonzero(across & upright, axis=1)
    return count


def _outside(boxes: Boxes, room: Box) -> NDArray[np.bool_]:
    """Whether each box leaves the room."""
    low = (boxes[:, 0] < room[0]) | (boxes[:, 1] < room[1])
    return np.asarray(low | (boxes[:, 2] > room[2]) | (boxes[:, 3] > room[3]))


def _text_box(text: marks.Text) -> Box:
    width = text_width(text.text, text.height)
    left = text.x - {"left": 0.0, "centre": width / 2, "right": width}[text.anchor]
    if text.angle:
        reach = max(width, text.height) / 2
        middle = left + width / 2
        return (middle - reach, text.y - reach, middle + reach, text.y + reach)
    return (left, text.y, left + width, text.y + text.height)


def _drawn(dot: marks.Dot, chosen: _Candidate) -> list[Mark]:
    left, low, right, high = chosen.box
    text = marks.Text(x=left, y=low, text=lettered(dot.name), height=HEIGHT, pen=Pen.LETTERING, step=dot.step, name=dot.name)
    if not chosen.leader:
        return [text]
    to_x, to_y = min(max(dot.x, left), right), min(max(dot.y, low), high)
    leader = marks.Segment(x1=dot.x, y1=dot.y, x2=to_x, y2=to_y, pen=Pen.DIMENSION, step=dot.step)
    return [leader, text]
