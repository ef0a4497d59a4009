"""Names of lines and arcs that a later step speaks of, and of points whose names are words, where there is room for them:
along a line, or in line with it behind its end.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Iterator, Sequence
from typing import TypeAlias

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Box, Mark
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.step import Step
from wisecompass.drafting.wording import lettered, spoken
from wisecompass.folio.cells import Cells
from wisecompass.folio.labels import text_box
from wisecompass.folio.paper import text_width

HEIGHT = 2.5
"""Capitals of a line's name, mm on A4."""

OFF = 1.0
"""White between a name and its line, mm on A4."""

WIDE = 1.12
"""Letters on a screen run so many times as wide as in print."""

SHARES = (0.86, 0.14, 0.72, 0.28, 0.5, 0.94, 0.06, 0.8, 0.2, 0.65, 0.35)
"""Where along its line a name is tried, first near the ends."""

PLACES: tuple[tuple[float, int], ...] = (
    *((share, side) for share in SHARES for side in (1, -1)),
    (1.0, 0),
    (0.0, 0),
)
"""(share of the line, side): beside it, then in line with it behind its end or before its beginning."""

ABOUT = ((1, 1), (-1, 1), (1, -1), (-1, -1))
"""Where about a point its name is tried."""

PLAIN = ("arc about", "circle about", "crossing ", "perpendicular from", "projector of", "strip")
"""Names that say themselves which line is meant."""

_WORD = re.compile(r"[a-z]{3}")

Where: TypeAlias = dict[tuple[str, str], tuple[float, int]]
"""By block and name of a line: at which share of it, and on which side its name stands; of a point the way from it."""

_Named: TypeAlias = marks.Segment | marks.Arc | marks.Dot


def spoken_of_later(steps: Sequence[Step]) -> set[str]:
    """The names in words that a step speaks of after the one that makes what they name."""
    made: dict[str, int] = {}
    found: set[str] = set()
    for step in steps:
        for act in step.told:
            found |= {name for name in act.basis if made.get(name, step.n) < step.n}
        made |= {name: step.n for act in step.acts for name in act.makes}
    return {name for name in found if in_words(name)}


def in_words(name: str) -> bool:
    """Whether a name is in words that do not say themselves which line is meant."""
    return bool(_WORD.search(name)) and not name.startswith(PLAIN)


def find_where(page: Sequence[Mark], names: set[str], lines: Cells, room: Box, size: float) -> Where:
    """Where the names of lines stand clear of everything on the page; those that nowhere do are left out."""
    taken = [text_box(mark) for mark in page if isinstance(mark, marks.Text)]
    reach = 1.0 * size
    taken += [
        (mark.x - reach, mark.y - reach, mark.x + reach, mark.y + reach)
        for mark in page
        if isinstance(mark, marks.Dot) and mark.shown
    ]
    found: Where = {}
    for mark in _of(page, names):
        width, height = _width(mark, size), HEIGHT * size
        for place in _places(mark):
            x, y, angle = _middle(mark, place, width, size)
            around = _around(x, y, angle, width, height)
            if not _within(around, room) or lines.harm_turned(x, y, angle, width, height, 0.0):
                continue
            near = [box for box in taken if _overlap(box, around)]
            spots = list(_squares(x, y, angle, width, height))
            if not any(_overlap(spot, box) for spot in spots for box in near):
                found[mark.block, mark.name] = place
                taken += spots
                break
    return found


def _width(mark: _Named, size: float) -> float:
    """How wide a name runs, on a screen too, where letters are rounded to its dots."""
    return WIDE * text_width(spoken(mark.name), HEIGHT * size)


def _places(mark: _Named) -> Sequence[tuple[float, int]]:
    if isinstance(mark, marks.Dot):
        return ABOUT
    return PLACES if isinstance(mark, marks.Segment) else PLACES[:-2]


def written(page: Iterable[Mark], where: Where, size: float) -> list[Mark]:
    """The names as text marks at places found before."""
    found: list[Mark] = []
    for mark in _of(page, {name for _, name in where}):
        if (mark.block, mark.name) in where:
            x, y, angle = _middle(mark, where[mark.block, mark.name], _width(mark, size), size)
            down = math.radians(angle - 90)
            drop = HEIGHT * size / 2
            found.append(
                marks.Text(
                    x=x + drop * math.cos(down),
                    y=y + drop * math.sin(down),
                    text=spoken(mark.name),
                    height=HEIGHT * size,
                    anchor="centre",
                    angle=angle,
                    pen=Pen.LETTERING,
                    step=mark.step,
                    name=mark.name,
                    block=mark.block,
                    solution=mark.solution,
                )
            )
    return found


def _of(page: Iterable[Mark], names: set[str]) -> Iterator[_Named]:
    """The lines, arcs and points of these names, each once."""
    seen: set[tuple[str, str]] = set()
    for mark in page:
        if mark.name not in names or (mark.block, mark.name) in seen:
            continue
        if isinstance(mark, marks.Segment | marks.Arc) or (isinstance(mark, marks.Dot) and " " in lettered(mark.name)):
            seen.add((mark.block, mark.name))
            yield mark


def _middle(mark: _Named, place: tuple[float, int], width: float, size: float) -> tuple[float, float, float]:
    """The middle of a name ``width`` wide at its line, and its slope in degrees, so that it is read from below or from the
    right."""
    share, side = place
    away = (HEIGHT / 2 + OFF) * size
    if isinstance(mark, marks.Dot):
        return mark.x + share * (width / 2 + OFF * size), mark.y + side * away, 0.0
    if isinstance(mark, marks.Segment):
        dx, dy = mark.x2 - mark.x1, mark.y2 - mark.y1
        length = math.hypot(dx, dy) or 1.0
        beyond = (width / 2 + OFF * size) / length * (2 * share - 1) if side == 0 else 0.0
        x, y = mark.x1 + dx * (share + beyond), mark.y1 + dy * (share + beyond)
        angle = math.degrees(math.atan2(dy, dx))
    else:
        x, y = mark.end(share)
        angle = math.degrees(math.atan2(y - mark.cy, x - mark.cx)) - 90
    angle = (angle + 90) % 180 - 90
    if angle < -89.9:
        angle += 180
    up = math.radians(angle + 90)
    return x + side * away * math.cos(up), y + side * away * math.sin(up), angle


def _around(x: float, y: float, angle: float, width: float, height: float) -> Box:
    """The upright box about a turned one."""
    c, s = abs(math.cos(math.radians(angle))), abs(math.sin(math.radians(angle)))
    across, up = (width * c + height * s) / 2, (width * s + height * c) / 2
    return x - across, y - up, x + across, y + up


def _squares(x: float, y: float, angle: float, width: float, height: float) -> Iterator[Box]:
    """Upright boxes that cover a turned one."""
    count = max(1, math.ceil(width / height))
    c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    reach = height * (abs(c) + abs(s)) / 2
    for k in range(count):
        along = width * ((k + 0.5) / count - 0.5)
        yield x + along * c - reach, y + along * s - reach, x + along * c + reach, y + along * s + reach


def _within(box: Box, room: Box) -> bool:
    return box[0] >= room[0] and box[1] >= room[1] and box[2] <= room[2] and box[3] <= room[3]


def _overlap(one: Box, other: Box) -> bool:
    return one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]
