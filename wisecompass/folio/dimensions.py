"""Dimension marks turned into lines, arrows and lettering on paper (ISO 129-1: text above the line, readable from
below or from the right)."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.wording import spoken
from wisecompass.folio.cells import Cells
from wisecompass.folio.paper import text_width

HEIGHT = 3.5
ARROW = 3.0
GAP = 1.0

SHARES = (0.5, 0.42, 0.58, 0.34, 0.66, 0.26, 0.74, 0.18, 0.82)
"""Where along its line the text of a dimension is tried."""

FOR_LETTERS = 4.5
"""How near a lettered point the text of a dimension takes the room of its letter, mm."""

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


HATCHED = 2.5
"""How far the lines of a hatching are apart on A4, mm; in a small section less, down to ``CLOSEST``."""

CLOSEST = 1.0


def _hatch(mark: marks.Hatch, size: float) -> list[Mark]:
    """Lines at 45° within the corners, some eight of them in a small section (ISO 128-50)."""
    corners = [(math.sqrt(0.5) * (x + y), math.sqrt(0.5) * (y - x)) for x, y in mark.corners]
    low, high = min(v for _, v in corners), max(v for _, v in corners)
    apart = size * min(HATCHED, max(CLOSEST, (high - low) / size / 8))
    found: list[Mark] = []
    for k in range(math.floor(low / apart) + 1, math.ceil(high / apart)):
        level = k * apart
        crossed = sorted(
            u1 + (u2 - u1) * (level - v1) / (v2 - v1)
            for (u1, v1), (u2, v2) in zip(corners, [*corners[1:], corners[0]], strict=True)
            if (v1 < level) != (v2 < level)
        )
        for start, end in zip(crossed[::2], crossed[1::2], strict=True):
            ends = [(math.sqrt(0.5) * (u - level), math.sqrt(0.5) * (u + level)) for u in (start, end)]
            found.append(_segment(mark, *ends[0], *ends[1]))
    return found


def _break(mark: marks.Break, size: float) -> list[Mark]:
    """A zigzag at a line's end (ISO 128-2), a little more of the line, and the words beyond."""
    c, s = math.cos(math.radians(mark.angle)), math.sin(math.radians(mark.angle))
    spots = [(mark.x + (c * u - s * v) * size, mark.y + (s * u + c * v) * size) for u, v in ZIGZAG]
    drawn: list[Mark] = [
        marks.Segment(x1=x1, y1=y1, x2=x2, y2=y2, pen=mark.pen, step=mark.step, block=mark.block, solution=mark.solution)
        for (x1, y1), (x2, y2) in zip(spots, spots[1:], strict=False)
    ]
    if mark.text:
        x, y, anchor = _words_at(mark, size)
        words = marks.Text(x=x, y=y, text=spoken(mark.text), height=HEIGHT * size, anchor=anchor)
        drawn.append(replace(words, pen=Pen.LETTERING, step=mark.step, block=mark.block))
    return drawn


def _words_at(mark: marks.Break, size: float) -> tuple[float, float, str]:
    """Where the words of a break stand, the foot of their first letter or of their middle, and which of them it is."""
    c, s = math.cos(math.radians(mark.angle)), math.sin(math.radians(mark.angle))
    x, y = mark.x + c * BREAK_WORDS * size, mark.y + s * BREAK_WORDS * size
    upright = abs(c) < SLANT
    low = (0.0 if s > 0 else HEIGHT) if upright else HEIGHT / 2
    farther = mark.row * ROW * HEIGHT * size * (1 if upright and s > 0 else -1)
    return x, y - low * size + farther, "centre" if upright else "left" if c > 0 else "right"


ROW = 1.5
"""From one line of words at a break to the next, in their heights."""


def stacked(on_paper: Sequence[Mark], size: float) -> list[Mark]:
    """The marks of a page, the words of breaks that would lie on each other in rows."""
    taken: list[tuple[float, float, float, float]] = []
    found: list[Mark] = []
    for mark in on_paper:
        if isinstance(mark, marks.Break) and mark.text:
            for row in range(len(taken) + 1):
                mark = replace(mark, row=row)
                x, y, anchor = _words_at(mark, size)
                wide = text_width(spoken(mark.text), HEIGHT * size)
                left = x - {"left": 0.0, "centre": wide / 2, "right": wide}[anchor]
                box = left, y, left + wide, y + HEIGHT * size
                if not any(
                    box[0] < right_of and left_of < box[2] and box[1] < high and low < box[3]
                    for left_of, low, right_of, high in taken
                ):
                    break
            taken.append(box)
        found.append(mark)
    return found


def _segment(mark: Mark, x1: float, y1: float, x2: float, y2: float) -> Mark:
    return marks.Segment(x1=x1, y1=y1, x2=x2, y2=y2, pen=Pen.DIMENSION, step=mark.step, block=mark.block)


def open_arrow(mark: Mark, x: float, y: float, ux: float, uy: float, length: float) -> list[Mark]:
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


@dataclass(frozen=True)
class _Ruled:
    """Where the line of a linear dimension runs on paper: from (ax, ay) to (bx, by), (nx, ny) away from the figure and
    ``away`` mm from what is measured; ``angle`` is that of its text."""

    ax: float
    ay: float
    bx: float
    by: float
    nx: float
    ny: float
    away: float
    length: float
    angle: float

    def text_at(self, share: float, lift: float) -> tuple[float, float]:
        """The place at a share of the line, so many mm over it as the text is read."""
        turn = math.radians(self.angle)
        x, y = self.ax + (self.bx - self.ax) * share, self.ay + (self.by - self.ay) * share
        return x - math.sin(turn) * lift, y + math.cos(turn) * lift


def _ruled(mark: marks.LinearDimension, size: float) -> _Ruled | None:
    dx, dy = mark.x2 - mark.x1, mark.y2 - mark.y1
    length = math.hypot(dx, dy)
    if length == 0:
        return None
    nx, ny = -dy / length * math.copysign(1, mark.offset), dx / length * math.copysign(1, mark.offset)
    away = abs(mark.offset) * size + mark.clear
    angle = _readable(math.degrees(math.atan2(dy, dx)))
    ends = mark.x1 + nx * away, mark.y1 + ny * away, mark.x2 + nx * away, mark.y2 + ny * away
    return _Ruled(*ends, nx, ny, away, length, angle)


def free_share(
    mark: marks.LinearDimension, lines: Cells, lettered: Sequence[marks.Dot | marks.Letter] = (), size: float = 1.0
) -> float:
    """Where along its line the text of a dimension is crossed by the fewest lines and leaves the letters of points their
    room: of places that are alike the nearest to where it is wanted."""
    ruled = _ruled(mark, size)
    if ruled is None:
        return mark.text_at
    height = HEIGHT * size
    width = text_width(mark.text, height)
    reach = 0.5 - (width / 2 + ARROW * size) / ruled.length
    shares = sorted((share for share in SHARES if abs(share - 0.5) <= reach), key=lambda share: abs(share - mark.text_at))

    c, s = math.cos(math.radians(ruled.angle)), math.sin(math.radians(ruled.angle))

    def harm(share: float) -> float:
        x, y = ruled.text_at(share, GAP * size + height / 2)
        seen = (((dot.x - x) * c + (dot.y - y) * s, (dot.y - y) * c - (dot.x - x) * s) for dot in lettered)
        close = sum(abs(u) < width / 2 + FOR_LETTERS * size and abs(v) < height / 2 + FOR_LETTERS * size for u, v in seen)
        return lines.harm_turned(x, y, ruled.angle, width, height) + close

    return min((mark.text_at, *shares), key=harm)


def interruptions(pieces: Sequence[Mark], lines: Cells, size: float = 1.0) -> list[Mark]:
    """White under every value of a dimension that a line would strike."""
    found: list[Mark] = []
    for mark in pieces:
        if isinstance(mark, marks.Text):
            turn, width = math.radians(mark.angle), text_width(mark.text, mark.height)
            x, y = mark.x - math.sin(turn) * mark.height / 2, mark.y + math.cos(turn) * mark.height / 2
            if lines.harm_turned(x, y, mark.angle, width, mark.height):
                room = 2 * lines.clear
                sizes: dict[str, Any] = {"width": width + room, "height": mark.height + room, "angle": mark.angle}
                found.append(marks.Gap(x=x, y=y, pen=mark.pen, step=mark.step, block=mark.block, **sizes))
    return found


def _linear(mark: marks.LinearDimension, size: float) -> list[Mark]:
    ruled = _ruled(mark, size)
    if ruled is None:
        return []
    height, arrow = HEIGHT * size, ARROW * size
    drawn: list[Mark] = []
    for x, y in ((mark.x1, mark.y1), (mark.x2, mark.y2)):
        near, far = 1.2 * size, ruled.away + 1.5 * size
        ends = x + ruled.nx * near, y + ruled.ny * near, x + ruled.nx * far, y + ruled.ny * far
        drawn.append(_segment(mark, *ends))
    drawn.append(_segment(mark, ruled.ax, ruled.ay, ruled.bx, ruled.by))
    inward = 1.0 if ruled.length > 3 * arrow else -1.0
    ux, uy = (mark.x2 - mark.x1) / ruled.length * inward, (mark.y2 - mark.y1) / ruled.length * inward
    drawn += open_arrow(mark, ruled.ax, ruled.ay, -ux, -uy, arrow) + open_arrow(mark, ruled.bx, ruled.by, ux, uy, arrow)
    drawn.append(_lettering(mark, *ruled.text_at(mark.text_at, GAP * size), mark.text, height, ruled.angle))
    return drawn


def _radius(mark: marks.RadiusDimension, size: float) -> list[Mark]:
    height, arrow, gap = HEIGHT * size, ARROW * size, GAP * size
    dx, dy = mark.x - mark.cx, mark.y - mark.cy
    if mark.across:
        mark, dx, dy = replace(mark, cx=mark.cx - dx, cy=mark.cy - dy), 2 * dx, 2 * dy
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
        *open_arrow(mark, mark.x, mark.y, ux * turn, uy * turn, arrow),
        *(open_arrow(mark, mark.cx, mark.cy, -ux * turn, -uy * turn, arrow) if mark.across else ()),
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
            drawn += open_arrow(mark, x, y, -math.sin(along) * turn, math.cos(along) * turn, arrow)
    width, white = text_width(mark.text, height), 1.2 * size
    middle = math.radians(mark.start + mark.sweep / 2)
    reach = radius + white + abs(math.cos(middle)) * width / 2 + abs(math.sin(middle)) * height / 2
    if mark.sweep < 90 and math.radians(mark.sweep) * reach < height + 2 * white:
        x, y = _beside_arm(mark, reach, width, height, white)
    else:
        x, y = mark.x + reach * math.cos(middle), mark.y + reach * math.sin(middle)
    drawn.append(_lettering(mark, x, y - height / 2, mark.text, height))
    return drawn


def _beside_arm(mark: marks.AngleDimension, reach: float, width: float, height: float, white: float) -> tuple[float, float]:
    """The middle of a text that has no room within an acute angle: just outside its second arm."""
    arm = math.radians(mark.start + mark.sweep)
    c, s = math.cos(arm), math.sin(arm)
    away = white + abs(c) * height / 2 + abs(s) * width / 2
    return mark.x + reach * c - s * away, mark.y + reach * s + c * away


def _text(mark: marks.Text, size: float) -> list[Mark]:
    return [mark if size == 1.0 else replace(mark, height=mark.height * size)]


_EXPANDED: dict[type[Mark], Callable[[Any, float], list[Mark]]] = {
    marks.LinearDimension: _linear,
    marks.RadiusDimension: _radius,
    marks.AngleDimension: _angle,
    marks.Hatch: _hatch,
    marks.Break: _break,
    marks.Text: _text,
}
