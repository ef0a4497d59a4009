"""Breaking off what runs far off: a line to a point outside is cut near the figure, with a break and the point's distance.

A figure whose centre of curvature or trace lies ten times as far away as the figure is large would else shrink to a tenth.
The point keeps its exact place everywhere but on paper.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Box, Mark
from wisecompass.drafting.wording import number_text
from wisecompass.geometry.curves import Pair

UNLETTERED = ("crossing ", "tick ")
"""How names begin of places that bear no letter."""

ROOM = 0.35
"""How far beyond the figure a point that may be far is still drawn, as a share of the figure's size."""


@dataclass(frozen=True)
class Spot:
    """A point on a line that may be far off."""

    x: float
    y: float
    name: str


def limits(reached: Sequence[Pair]) -> Box | None:
    """The box in which all is drawn; None where there is nothing but what may be far."""
    if not reached:
        return None
    xs, ys = zip(*reached, strict=True)
    room = ROOM * math.hypot(max(xs) - min(xs), max(ys) - min(ys))
    return min(xs) - room, min(ys) - room, max(xs) + room, max(ys) + room


def within(box: Box, x: float, y: float) -> bool:
    return box[0] <= x <= box[2] and box[1] <= y <= box[3]


def shares_inside(box: Box, start: Pair, end: Pair) -> tuple[float, float] | None:
    """Between which shares of the way from ``start`` to ``end`` it runs in the box; None where nowhere (Liang–Barsky)."""
    low, high = 0.0, 1.0
    for axis in (0, 1):
        along = end[axis] - start[axis]
        for bound, sign in ((box[axis], -1.0), (box[axis + 2], 1.0)):
            room, pace = sign * (bound - start[axis]), sign * along
            if pace == 0.0:
                if room < 0.0:
                    return None
            elif pace > 0.0:
                high = min(high, room / pace)
            else:
                low = max(low, room / pace)
    return (low, high) if low < high else None


def broken(
    mark: marks.Segment, box: Box, near: Iterable[Spot], far: Iterable[Spot], lettered: Iterable[Spot] = ()
) -> list[Mark]:
    """A segment cut where it leaves the box, with a break there that names the ``far`` point that it runs to and its
    distance from the nearest letter on it, or of all that are ``lettered``; nothing where all of it is outside."""
    start, end = (mark.x1, mark.y1), (mark.x2, mark.y2)
    inside = shares_inside(box, start, end)
    if inside is None:
        return []
    low, high = inside
    if (low, high) == (0.0, 1.0):
        return [mark]
    dx, dy = end[0] - start[0], end[1] - start[1]
    ends = [(start[0] + dx * share, start[1] + dy * share) for share in inside]
    cut = replace(mark, x1=ends[0][0], y1=ends[0][1], x2=ends[1][0], y2=ends[1][1])
    found: list[Mark] = [cut]
    for is_cut, (x, y), way in ((low > 0.0, ends[0], -1.0), (high < 1.0, ends[1], 1.0)):
        if is_cut:
            angle = math.degrees(math.atan2(dy * way, dx * way))
            beyond = [s for s in far if not within(box, s.x, s.y) and ((s.x - x) * dx + (s.y - y) * dy) * way > 0]
            text = _words(beyond, *([s for s in each if within(box, s.x, s.y)] for each in (near, lettered)))
            sign = marks.Break(x=x, y=y, angle=angle, text=text, pen=mark.pen)
            found.append(replace(sign, step=mark.step, block=mark.block, solution=mark.solution))
    return found


def said_once(finished: list[Mark]) -> list[Mark]:
    """Of several lines that are broken off on their way to the same far point only the last says so; of breaks at the
    same place only the last is drawn."""
    kept: list[Mark] = []
    said: set[tuple[str, str]] = set()
    places: set[tuple[str, float, float]] = set()
    for mark in reversed(finished):
        if isinstance(mark, marks.Break):
            place = (mark.block, round(mark.x, 6), round(mark.y, 6))
            if place in places:
                continue
            places.add(place)
            to = (mark.block, mark.text.partition(" ")[0])
            mark = replace(mark, text="") if to in said else mark
            said.add(to)
        kept.append(mark)
    return kept[::-1]


def _words(beyond: list[Spot], near: list[Spot], lettered: list[Spot]) -> str:
    """The name of the far point, and how far it is from the nearest that is drawn."""
    named = [spot for spot in beyond if spot.name]
    if not named:
        return ""
    spot = named[0]
    others = [other for other in near if other.name and other.name != spot.name and not other.name.startswith(UNLETTERED)]
    others = others or [other for other in lettered if other.name != spot.name]
    if not others:
        return spot.name
    other = min(others, key=lambda o: math.hypot(o.x - spot.x, o.y - spot.y))
    return f"{spot.name} {number_text(math.hypot(other.x - spot.x, other.y - spot.y))} from {other.name}"
