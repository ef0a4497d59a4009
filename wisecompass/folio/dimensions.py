"""Dimension marks turned into lines, arrows and lettering on paper (ISO 129-1: text above the line, readable from
below or from the right)."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.wording import spoken
from wisecompass.folio.paper import text_width

HEIGHT = 3.5
ARROW = 3.0
GAP = 1.0

ZIGZAG = ((0.0, 0.0), (0.9, 1.9), (2.3, -1.9), (3.2, 0.0), (5.5, 0.0))
BREAK_WORDS = 7.0
"""The sign of a break along and across its line, and how far beyond its beginning the words stand, mm."""

SLANT = 0.35
"""A broken line whose direction has a smaller cosine counts as upright: its words stand over or under its end."""


def expanded(mark: Mark, size: float = 1.0) -> list[Mark]:
    """The lines and lettering of a dimension that already lies on paper; other marks unchanged.

    ``size`` enlarges lettering and arrows on a sheet larger than A4.
    """
    drawn = _EXPANDED.get(type(mark))
    return [mark] if drawn is None else drawn(mark, size)


def break_reach(mark: marks.Break) -> list[tuple[float, float]]:
    """How far a break and its words stand off the line's end, in mm of paper on A4: corners to find room for."""
    c, s = math.cos(math.radians(mark.angle)), math.sin(math.radians(mark.angle))
    width = text_width(mark.text, HEIGHT) if mark.text else 0.0
    x, y = c * BREAK_WORDS, s * BREAK_WORDS
    if abs(c) < SLANT:
        return [(x - width / 2, y), (x + width / 2, y + math.copysign(HEIGHT, s))]
    return [(x, y), (x + math.copysign(width, c), y)]


def _break(mark: marks.Break, size: float) -> list[Mark]:
    """A zigzag at a line's end (ISO 128-2), a little more of the line, and the words beyond."""
    c, s = math.cos(math.radians(mark.angle)), math.sin(math.radians(mark.angle))
    spots = [(mark.x + (c * u - s * v) * size, mark.y + (s * u + c * v) * size) for u, v in ZIGZAG]
    drawn: list[Mark] = [
        marks.Segment(x1=x1, y1=y1, x2=x2, y2=y2, pen=mark.pen, step=mark.step, block=mark.block, solution=mark.solution)
        for (x1, y1), (x2, y2) in zip(spots, spots[1:], strict=False)
    ]
    if mark.text:
        x, y = mark.x + c * BREAK_WORDS * size, mark.y + s * BREAK_WORDS * size
        upright = abs(c) < SLANT
        anchor = "centre" if upright else "left" if c > 0 else "right"
        low = (0.0 if s > 0 else HEIGHT) if upright else HEIGHT / 2
        words = marks.Text(x=x, y=y - low * size, text=spoken(mark.text), height=HEIGHT * size, anchor=anchor)
        drawn.append(replace(words, pen=Pen.LETTERING, step=mark.step, block=mark.block))
    return drawn


def _segment(mark: Mark, x1: float, y1: float, x2: float, y2: float) -> Mark:
    return marks.Segment(x1=x1, y1=y1, x2=x2, y2=y2, pen=Pen.DIMENSION, step=mark.step, block=mark.block)


def _arrow(mark: Mark, x: float, y: float, ux: float, uy: float, length: float) -> list[Mark]:
    """An open arrow at (x, y) pointing along the unit vector (ux, uy)."""
    wings = []
    for side in (-1, 1):
        turn = math.radians(180 + side * 11)
        wx, wy = ux * math.cos(turn) - uy * math.sin(turn), ux * math.sin(turn) + uy * math.cos(turn)
        wings.append(_segment(mark, x, y, x + wx * length, y + wy * length))
    return wings


def _lettering(mark: Mark, x: float, y: float, text: str, height: float, angle: float = 0.0) -> Mark:
    return marks.Text(
        x=x, y=y, text=text, height=height, anchor="centre", angle=angle, pen=Pen.LETTERING, step=mark.step, block=mark.block
    )


def _readable(angle: float) -> float:
    """The direction of text along a line so that it reads from below or from the right."""
    turned = (angle + 90) % 180 - 90
    return 90.0 if turned <= -89.9 else turned


def _linear(mark: marks.LinearDimension, size: float) -> list[Mark]:
    height, arrow, gap = HEIGHT * size, ARROW * size, GAP * size
    dx, dy = mark.x2 - mark.x1, mark.y2 - mark.y1
    length = math.hypot(dx, dy)
    if length == 0:
        return []
    ux, uy = dx / length, dy / length
    nx, ny = -uy * math.copysign(1, mark.offset), ux * math.copysign(1, mark.offset)
    away = abs(mark.offset) * size + mark.clear
    drawn: list[Mark] = []
    for x, y in ((mark.x1, mark.y1), (mark.x2, mark.y2)):
        drawn.append(
            _segment(
                mark, x + nx * 1.2 * size, y + ny * 1.2 * size, x + nx * (away + 1.5 * size), y + ny * (away + 1.5 * size)
            )
        )
    ax, ay = mark.x1 + nx * away, mark.y1 + ny * away
    bx, by = mark.x2 + nx * away, mark.y2 + ny * away
    drawn.append(_segment(mark, ax, ay, bx, by))
    inward = 1.0 if length > 3 * arrow else -1.0
    drawn += _arrow(mark, ax, ay, -ux * inward, -uy * inward, arrow) + _arrow(mark, bx, by, ux * inward, uy * inward, arrow)
    angle = _readable(math.degrees(math.atan2(dy, dx)))
    lift_x, lift_y = -math.sin(math.radians(angle)), math.cos(math.radians(angle))
    tx, ty = ax + (bx - ax) * mark.text_at, ay + (by - ay) * mark.text_at
    drawn.append(_lettering(mark, tx + lift_x * gap, ty + lift_y * gap, mark.text, height, angle))
    return drawn


def _radius(mark: marks.RadiusDimension, size: float) -> list[Mark]:
    height, arrow, gap = HEIGHT * size, ARROW * size, GAP * size
    dx, dy = mark.x - mark.cx, mark.y - mark.cy
    length = math.hypot(dx, dy)
    if length == 0:
        return []
    ux, uy = dx / length, dy / length
    width = text_width(mark.text, height)
    inside = length > width + 8.0 * size
    reach = length if inside else length + width + 5.0 * size
    middle = (length - arrow) / 2 if inside else length + 3.0 * size + width / 2
    angle = _readable(math.degrees(math.atan2(dy, dx)))
    lift_x, lift_y = -math.sin(math.radians(angle)), math.cos(math.radians(angle))
    turn = 1.0 if inside else -1.0
    return [
        _segment(mark, mark.cx, mark.cy, mark.cx + ux * reach, mark.cy + uy * reach),
        *_arrow(mark, mark.x, mark.y, ux * turn, uy * turn, arrow),
        _lettering(
            mark, mark.cx + ux * middle + lift_x * gap, mark.cy + uy * middle + lift_y * gap, mark.text, height, angle
        ),
    ]


def _angle(mark: marks.AngleDimension, size: float) -> list[Mark]:
    height, arrow = HEIGHT * size, ARROW * size
    if mark.sweep <= 0:
        return []
    radius = mark.radius * size
    arc = marks.Arc(
        cx=mark.x, cy=mark.y, radius=radius, start=mark.start, sweep=mark.sweep, pen=Pen.DIMENSION, step=mark.step
    )
    drawn: list[Mark] = [arc]
    if math.radians(mark.sweep) * radius > 3 * arrow:
        for share, turn in ((0.0, -1.0), (1.0, 1.0)):
            x, y = arc.end(share)
            along = math.radians(mark.start + mark.sweep * share)
            drawn += _arrow(mark, x, y, -math.sin(along) * turn, math.cos(along) * turn, arrow)
    middle = math.radians(mark.start + mark.sweep / 2)
    reach = (
        radius + 1.2 * size + abs(math.cos(middle)) * text_width(mark.text, height) / 2 + abs(math.sin(middle)) * height / 2
    )
    x, y = mark.x + reach * math.cos(middle), mark.y + reach * math.sin(middle)
    drawn.append(_lettering(mark, x, y - height / 2, mark.text, height))
    return drawn


def _text(mark: marks.Text, size: float) -> list[Mark]:
    return [mark if size == 1.0 else replace(mark, height=mark.height * size)]


_EXPANDED: dict[type[Mark], Callable[[Any, float], list[Mark]]] = {
    marks.LinearDimension: _linear,
    marks.RadiusDimension: _radius,
    marks.AngleDimension: _angle,
    marks.Break: _break,
    marks.Text: _text,
}
