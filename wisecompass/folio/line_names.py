"""Names of lines and arcs that a later step speaks of, and of points whose names are words, where there is room for them:
along a line, in line with it behind its end, or at the end of a leader.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterable, Iterator, Sequence
from typing import Any, NamedTuple, TypeAlias

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Box, Mark
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.step import Step
from wisecompass.drafting.wording import lettered, spoken
from wisecompass.folio.cells import THIN_WEIGHT, WEIGHTS, Cells
from wisecompass.folio.dimensions import open_arrow
from wisecompass.folio.labels import Named, Places, find_places, hanging, lettered_at, text_box
from wisecompass.folio.paper import text_width

HEIGHT = 2.5
"""Capitals of a line's name, mm on A4."""

OFF = 1.0
"""White between a name and its line, mm on A4."""

STRUCK = 3
"""So many construction lines at most are interrupted under a name that has no room of its own."""

TRIES = 3
"""So many times at most letters are placed anew to make room for names."""

WIDE = 1.12
"""Letters on a screen run so many times as wide as in print."""

SHARES = (0.86, 0.14, 0.72, 0.28, 0.5, 0.94, 0.06, 0.8, 0.2, 0.65, 0.35, 0.9, 0.1, 0.76, 0.24, 0.58, 0.42, 0.97, 0.03)
"""Where along its line a name is tried, first near the ends."""


class Place(NamedTuple):
    """Where a name stands: at a share of its line, on which side (0: in line with it, behind its end or before its
    beginning), or at the end of a leader, so far across and up from the line; of a point the way from it."""

    share: float
    side: int
    across: float = 0.0
    up: float = 0.0

    @property
    def led(self) -> bool:
        """Whether a leader goes to it."""
        return bool(self.across or self.up)


PLACES = (*(Place(share, side) for share in SHARES for side in (1, -1)), Place(1.0, 0), Place(0.0, 0))
"""Where a name is tried beside its line, then in line with it."""

ABOUT = (Place(1, 1), Place(-1, 1), Place(1, -1), Place(-1, -1))
"""Where about a point its name is tried."""

LEADER_ARROW = 1.8
"""Length of a leader's arrow, mm on A4."""

LED_FROM = 11
"""At so many shares of its line a leader is tried."""

DOT_FREE = 2.0
"""So much of a leader to a point, mm on A4, may lie under what lies on that point."""

PLAIN = (
    *("arc about", "circle about", "crossing ", "perpendicular from", "projector of", "strip"),
    *("tick ", "upright at", "level at", "depth at", "side crossing", "line crossing", "ray from", "parallel for"),
    "generator through",
)
"""Names that say themselves which line is meant."""

_WORD = re.compile(r"[a-z]{3}")

Where: TypeAlias = dict[tuple[str, str], Place]
"""Places of names by block and name of what they name."""

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
    return bool(_WORD.search(lettered(name))) and not name.startswith(PLAIN)


def find_where(page: Sequence[Mark], names: set[str], lines: Cells, room: Box, size: float) -> Where:
    """Where the names of lines stand clear of everything on the page, or of all but a few thin lines, which are then
    interrupted; those that nowhere do are left out."""
    taken = [text_box(mark) for mark in page if isinstance(mark, marks.Text)]
    reach = 1.0 * size
    dots = [
        (mark.x - reach, mark.y - reach, mark.x + reach, mark.y + reach)
        for mark in page
        if isinstance(mark, marks.Dot) and mark.shown
    ]
    taken += dots
    found: Where = {}
    for most in (0.0, STRUCK * THIN_WEIGHT):
        for mark in _of(page, names):
            if (mark.block, mark.name) not in found:
                best = _best(mark, _places(mark), lines, taken, room, size, most)
                if best is not None:
                    found[mark.block, mark.name], spots = best
                    taken += spots
    left = [mark for mark in _of(page, names) if (mark.block, mark.name) not in found]
    if left:
        from wisecompass.folio.leaders import Field

        field = Field(lines, room, [box for box in taken if box not in dots], dots, size)
        for mark in sorted(left, key=lambda mark: not isinstance(mark, marks.Dot)):  # a point has but one place to begin
            spots = [(share, *_touched(mark, share)) for share in SHARES[:LED_FROM]]
            free = 0.0
            if isinstance(mark, marks.Dot):
                spots, free = [(0.0, mark.x, mark.y, 0.0), (0.0, mark.x, mark.y, 90.0)], DOT_FREE * size
            width, height = _width(mark, size), _height(mark, size)
            led = field.find(spots, (width, height), OFF * size, size, free)
            if led is not None:
                found[mark.block, mark.name] = Place(led.share, 0, led.across, led.up)
    return found


def lettered_and_named(
    page: Sequence[Mark], dots: list[Named], names: set[str], lines: Cells, room: Box, size: float
) -> tuple[Places, Where, Cells]:
    """Where letters and the names of lines stand, and the lines of the page with the leaders of letters. Where letters leave
    no room for a name, they give way to it."""
    held: Where = {}
    for _ in range(TRIES):
        first = written(page, held, size)
        bare = lines.with_more(first)
        places = find_places([*page, *first], room, size, dots, bare)
        letters = lettered_at(dots, places, size)
        more = bare.with_more(letters)
        left = names - {name for _, name in held}
        found = held | find_where([*page, *first, *letters], left, more, room, size)
        left -= {name for _, name in found}
        if not left:
            break
        held |= find_where([*page, *first], left, bare, room, size)
    return places, found, more


def _best(
    mark: _Named, places: Sequence[Place], lines: Cells, taken: Sequence[Box], room: Box, size: float, most: float
) -> tuple[Place, list[Box]] | None:
    """The place beside a line that interrupts the fewest lines, none heavier than those of givens, and what it takes."""
    width, height = _width(mark, size), _height(mark, size)
    best, least = None, math.inf
    for place in places:
        x, y, angle = _middle(mark, place, width, size)
        around = _around(x, y, angle, width, height)
        if not _within(around, room):
            continue
        harm = lines.harm_turned(x, y, angle, width, height, most, WEIGHTS[Pen.GIVEN])
        if harm > most or harm >= least:
            continue
        near = [box for box in taken if _overlap(box, around)]
        spots = list(_squares(x, y, angle, width, height))
        if not any(_overlap(spot, box) for spot in spots for box in near):
            best, least = (place, spots), harm
            if harm == 0.0:
                break
    return best


def _width(mark: _Named, size: float) -> float:
    """How wide a name runs, on a screen too, where letters are rounded to its dots."""
    return WIDE * text_width(spoken(mark.name), HEIGHT * size)


def _height(mark: _Named, size: float) -> float:
    """How high a name is, with what hangs below its base line."""
    return (1 + hanging(spoken(mark.name))) * HEIGHT * size


def _places(mark: _Named) -> Sequence[Place]:
    if isinstance(mark, marks.Dot):
        return ABOUT
    return PLACES if isinstance(mark, marks.Segment) else PLACES[:-2]


def written(page: Iterable[Mark], where: Where, size: float) -> list[Mark]:
    """The names as text marks at places found before, with the leaders to them."""
    found: list[Mark] = []
    for mark in _of(page, {name for _, name in where}):
        place = where.get((mark.block, mark.name))
        if place is None:
            continue
        x, y, angle = _middle(mark, place, _width(mark, size), size)
        down, drop = math.radians(angle - 90), HEIGHT * size - _height(mark, size) / 2
        shared: dict[str, Any] = {"step": mark.step, "block": mark.block, "solution": mark.solution}
        at: dict[str, Any] = {"x": x + drop * math.cos(down), "y": y + drop * math.sin(down), "angle": angle}
        lettering: dict[str, Any] = {"text": spoken(mark.name), "height": HEIGHT * size, "anchor": "centre"}
        found.append(marks.Text(**at, **lettering, name=mark.name, pen=Pen.LETTERING, **shared))
        if place.led:
            x, y, _ = _touched(mark, place.share)
            found.append(marks.Segment(x1=x, y1=y, x2=x + place.across, y2=y + place.up, pen=Pen.DIMENSION, **shared))
            length = math.hypot(place.across, place.up)
            found += open_arrow(mark, x, y, -place.across / length, -place.up / length, LEADER_ARROW * size)
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


def _touched(mark: _Named, share: float) -> tuple[float, float, float]:
    """The place at a share of a line and its slope there, in degrees; of a point the point itself."""
    if isinstance(mark, marks.Dot):
        return mark.x, mark.y, 0.0
    if isinstance(mark, marks.Segment):
        dx, dy = mark.x2 - mark.x1, mark.y2 - mark.y1
        return mark.x1 + dx * share, mark.y1 + dy * share, math.degrees(math.atan2(dy, dx))
    x, y = mark.end(share)
    return x, y, math.degrees(math.atan2(y - mark.cy, x - mark.cx)) - 90


def _middle(mark: _Named, place: Place, width: float, size: float) -> tuple[float, float, float]:
    """The middle of a name ``width`` wide at its place, and its slope in degrees, so that it is read from below or from the
    right."""
    away = _height(mark, size) / 2 + OFF * size
    share, side = place.share, place.side
    x, y, angle = _touched(mark, share)
    if place.led:
        aside = width / 2 + OFF * size
        return x + place.across + math.copysign(aside, place.across), y + place.up, 0.0
    if isinstance(mark, marks.Dot):
        return x + share * (width / 2 + OFF * size), y + side * away, 0.0
    if side == 0:
        beyond, along = (width / 2 + OFF * size) * (2 * share - 1), math.radians(angle)
        x, y = x + beyond * math.cos(along), y + beyond * math.sin(along)
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
