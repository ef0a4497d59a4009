"""Views of a body made of parts, as a drafter sets them out: lines that several views share, and what lies on which of them.

A view knows every line and circle drawn in it by its place, measured from the body's lowest left front corner, so that a
corner or the end of an edge is found where two of them cross. Which two is settled in floats; the crossing is the board's
own.
"""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from itertools import pairwise
from typing import TYPE_CHECKING, TypeAlias

from wisecompass.arithmetic import roughly
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import Settable, bare, negative, positive, span
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.wording import number_text
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point, Selector

if TYPE_CHECKING:
    from wisecompass.geometry.images import Sight

Spot: TypeAlias = tuple[float, float]

PLOTTED_NEAR = 1e3
"""So many times as near a place may be to the chords of a plotted curve and still lie on it."""

CELL = 64.0
"""The width of a cell in which straight lines are looked for, in places that are one."""

PARALLEL, SHARP = 1e-7, 0.02
"""Sines of the angle below which two lines of a view are one where they meet, and below which others are looked for."""

NEAR = 1e-6
"""Places in a view that are nearer than this share of the body's size are one."""


EXACT = 1e-3
"""Lines that are nearer to a place than this share of what is one place run through it exactly."""


@dataclass(frozen=True)
class Frame:
    """How a view looks at the body: which axis runs to the right on the sheet and which up, each along it or against it, and
    from where it is seen."""

    title: str
    right: tuple[int, int]
    up: tuple[int, int]

    @property
    def sight(self) -> Sight:
        from wisecompass.geometry.images import Sight

        right, up = (tuple(float(way) if k == axis else 0.0 for k in range(3)) for axis, way in (self.right, self.up))
        (a, b, c), (x, y, z) = right, up
        return Sight((a, b, c), (x, y, z), (b * z - c * y, c * x - a * z, a * y - b * x))

    @property
    def eye_axis(self) -> int:
        """The axis along which it is seen."""
        return 3 - self.right[0] - self.up[0]

    def spot(self, place: Sequence[float]) -> Spot:
        """Where a place, measured from the low corner, lies from that corner's image."""
        return place[self.right[0]] * self.right[1], place[self.up[0]] * self.up[1]


FRONT = Frame("front view", (0, 1), (2, 1))
TOP = Frame("top view", (0, 1), (1, 1))
LEFT = Frame("left side view", (1, -1), (2, 1))
RIGHT = Frame("right side view", (1, 1), (2, 1))
BOTTOM = Frame("bottom view", (0, 1), (1, -1))
REAR = Frame("rear view", (0, -1), (2, 1))


@dataclass
class Drawn:
    """A line or circle of a view, or the name of a plotted curve: its place there as the plan knows it."""

    shape: Line | Circle | str
    at: Spot
    way: Spot = (0.0, 0.0)
    radius: float = 0.0
    chords: Sequence[Spot] = ()

    @property
    def is_straight(self) -> bool:
        return not (self.radius or self.chords)

    def holds(self, spot: Spot, near: float) -> bool:
        if self.chords:
            return any(_beside(spot, a, b) < PLOTTED_NEAR * near for a, b in pairwise(self.chords))
        dx, dy = spot[0] - self.at[0], spot[1] - self.at[1]
        if self.radius:
            return abs(math.hypot(dx, dy) - self.radius) < near
        return abs(dx * self.way[1] - dy * self.way[0]) < near

    def holds_centre(self, spot: Spot, near: float) -> bool:
        return abs(self.at[0] - spot[0]) < near and abs(self.at[1] - spot[1]) < near

    def runs_with(self, other: Drawn) -> bool:
        """Whether two straight lines are parallel."""
        return not (self.radius or other.radius) and self.turn_to(other) < PARALLEL

    def turn_to(self, other: Drawn) -> float:
        """The sine of the angle between two straight lines."""
        return abs(self.way[0] * other.way[1] - self.way[1] * other.way[0])


class Steps:
    """Numbers of places on an axis: places that differ by no more than a little have one. Rounding would part two of them
    where a step ends."""

    def __init__(self) -> None:
        self._values: list[float] = []
        self._numbers: list[int] = []

    def of(self, value: float, near: float) -> int:
        """The number of a place; a new one where none is so near."""
        at = bisect_left(self._values, value - near)
        if at == len(self._values) or self._values[at] > value + near:
            self._values.insert(at, value)
            self._numbers.insert(at, len(self._numbers))
        return self._numbers[at]

    def place(self, number: int) -> float:
        """The place of a number."""
        return self._values[self._numbers.index(number)]


class Found:
    """Where lines are looked for: straight ones by their direction and how far they are from the origin, for most lines of
    a view run along few directions; what has been drawn since somebody asked last is sorted in first."""

    def __init__(self) -> None:
        self._known = 0
        self._straight: dict[Spot, dict[int, list[int]]] = {}
        self._others: list[int] = []

    def through(self, drawn: Sequence[Drawn], spot: Spot, near: float) -> list[Drawn]:
        """Those of what is drawn that run through a spot, in their order."""
        cell = CELL * near
        while self._known < len(drawn):
            self._sort_in(self._known, drawn[self._known], near, cell)
            self._known += 1
        x, y = spot
        asked = list(self._others)
        for (wx, wy), table in self._straight.items():
            asked += table.get(math.floor((x * wy - y * wx) / cell), ())
        return [drawn[n] for n in sorted(asked) if drawn[n].holds(spot, near)]

    def _sort_in(self, n: int, one: Drawn, near: float, cell: float) -> None:
        if one.chords:
            return
        if one.radius:
            self._others.append(n)
            return
        way = round(one.way[0], 12) + 0.0, round(one.way[1], 12) + 0.0
        table = self._straight.setdefault(way, {})
        away = one.at[0] * way[1] - one.at[1] * way[0]
        for k in range(math.floor((away - 2 * near) / cell), math.floor((away + 2 * near) / cell) + 1):
            table.setdefault(k, []).append(n)


@dataclass
class Viewed:
    """A view on the sheet."""

    frame: Frame
    origin: Point
    """The image of the low corner."""
    bases: dict[int, Line]
    """For each of its two axes the line through the origin along which it is measured."""
    drawn: list[Drawn] = field(default_factory=list)
    points: dict[tuple[int, int], Point] = field(default_factory=dict)
    """Places that have been marked, by their place in steps."""
    _found: Found = field(default_factory=lambda: Found())
    _across: Steps = field(default_factory=lambda: Steps())
    _up: Steps = field(default_factory=lambda: Steps())

    def key(self, spot: Spot, near: float) -> tuple[int, int]:
        return self._across.of(spot[0], 2 * near), self._up.of(spot[1], 2 * near)

    def through(self, spot: Spot, near: float) -> list[Drawn]:
        """The lines that run through a spot, in the order in which they were drawn."""
        return self._found.through(self.drawn, spot, near)


@dataclass
class Sheet:
    """All views, and the lines that they share."""

    b: Board
    size: float
    views: dict[str, Viewed] = field(default_factory=dict)
    _lines: dict[tuple[str, int, int], Line] = field(default_factory=dict)
    _steps: dict[tuple[str, int], Steps] = field(default_factory=dict)
    _exactly: bool = False

    @property
    def near(self) -> float:
        return self.size * NEAR

    @property
    def _apart(self) -> float:
        """Places so far apart are two."""
        return 2 * self.near * (EXACT if self._exactly else 1.0)

    @contextmanager
    def exactly(self) -> Iterator[None]:
        """Within this, places are those that are known to many digits, as points of curves are, not corners."""
        before, self._exactly = self._exactly, True
        try:
            yield
        finally:
            self._exactly = before

    # ----------------------------------------------------------------------------------------------------- shared lines
    def group(self, view: Viewed, axis: int) -> str:
        """The views that a line at a place of an axis runs through: all over each other, or all beside each other."""
        if axis == 2:
            return "row"
        return "column" if axis == 0 and view.frame.right == (0, 1) else view.frame.title

    def members(self, view: Viewed, axis: int) -> list[Viewed]:
        """All views of that group, this one first."""
        group = self.group(view, axis)
        others = [v for v in self.views.values() if v is not view and axis in v.bases and self.group(v, axis) == group]
        return [view, *others]

    def _key(self, view: Viewed, axis: int, at: float) -> tuple[str, int, int]:
        group = self.group(view, axis)
        return group, axis, self._steps.setdefault((group, axis), Steps()).of(at, self._apart)

    def at(self, view: Viewed, axis: int, place: Settable, pen: Pen = Pen.CONSTRUCTION) -> Line:
        """The line of a view on which everything lies that is so far along an axis from the low corner."""
        size = roughly(bare(place))
        known = self._lines.get(self._key(view, axis, size))
        if known is not None:
            return known
        base, way = view.bases[axis], self._sign(view, axis)
        tick = self.tick(base, view.origin, place, way, f"tick {number_text(abs(size))}")
        return self._through(view, axis, tick, size, pen)

    def at_known(self, view: Viewed, axis: int, at: float) -> Line:
        """A line of a view that is there already. Raises KeyError where there is none."""
        return self._lines[self._key(view, axis, at)]

    def carried(self, view: Viewed, axis: int, place: float, start: Viewed, point: Point) -> Line:
        """The same, found from a point of another view: by a projector where both lie in one row or column, else by its
        distance from the line through that view's origin."""
        known = self._lines.get(self._key(view, axis, place))
        if known is not None:
            return known
        if self.group(start, axis) == self.group(view, axis):
            return self._through(view, axis, point, place, Pen.PROJECTOR)
        other = next(a for a in start.bases if a != axis)
        way = self._sign(view, axis) * (1 if place >= 0 else -1)
        distance = span(point, start.bases[other])
        tick = self.tick(view.bases[axis], view.origin, distance, way, f"tick {number_text(abs(place))}")
        return self._through(view, axis, tick, place, Pen.PROJECTOR)

    def _sign(self, view: Viewed, axis: int) -> int:
        return view.frame.right[1] if view.frame.right[0] == axis else view.frame.up[1]

    def tick(self, base: Line, origin: Point, length: Settable, way: int, name: str) -> Point:
        """A length laid off along a line and only ticked there."""
        b = self.b
        if negative(length):
            length, way = positive(length), -way
        name = b.unique(name)
        b.step("lay off", Instrument.SCALE, setting=bare(length), on=(origin.name, base.name))
        b.note("lay off", (base, origin), (name,), setting=length, go=way)
        strayed = b.strayed(length, "scale")
        point = base.parallel(origin).point_at(strayed if way > 0 else -strayed, name)
        b.touch(base, point)
        if b.book is not None:
            b.book.notes.append(point)
        return point

    def _through(self, view: Viewed, axis: int, point: Point, at: float, pen: Pen) -> Line:
        """The upright or level line through a point, known in all views that it runs through."""
        b, upright = self.b, view.frame.right[0] == axis
        kind = "upright" if upright else "level" if axis == 2 else "depth"
        where = "" if self.group(view, axis) in ("row", "column") else f", {view.frame.title}"
        name = f"{kind} at {number_text(at)}{where}"
        line = (b.upright_line if upright else b.level_line)(point, name, pen=pen)
        self.know(view, axis, at, line)
        return line

    def know(self, view: Viewed, axis: int, at: float, line: Line) -> None:
        """A line lies at a place of an axis in all views of a group."""
        self._lines[self._key(view, axis, at)] = line
        for each in self.members(view, axis):
            across = each.frame.right[0] == axis
            place = at * self._sign(each, axis)
            spot, way = ((place, 0.0), (0.0, 1.0)) if across else ((0.0, place), (1.0, 0.0))
            each.drawn.append(Drawn(line, spot, way))

    # ---------------------------------------------------------------------------------------------------------- places
    def through(self, view: Viewed, spot: Spot) -> list[Drawn]:
        """The lines of a view that run through a spot, upright and level ones first, then slanting ones, then circles."""
        return sorted(view.through(spot, self.near), key=lambda d: (bool(d.radius), 0.0 not in d.way))

    def pair(self, view: Viewed, spot: Spot) -> tuple[Drawn, Drawn] | None:
        """Two lines of a view that cross in a spot, at no sharp angle if there are any; sooner those that run through it
        exactly than some that pass beside it by chance."""
        found = self.through(view, spot)
        if self._exactly or len(found) > 2:
            exact = self._pair_of([drawn for drawn in found if drawn.holds(spot, self.near * EXACT)])
            if exact is not None or self._exactly:
                return exact
        return self._pair_of(found)

    def _pair_of(self, found: Sequence[Drawn]) -> tuple[Drawn, Drawn] | None:
        flat = None
        for k, one in enumerate(found):
            for other in found[k + 1 :]:
                if one.runs_with(other):
                    continue
                if one.radius or other.radius or one.turn_to(other) > SHARP:
                    return one, other
                flat = flat or (one, other)
        return flat

    def crossing(self, view: Viewed, one: Drawn, other: Drawn, spot: Spot) -> Point:
        """Where two lines of a view cross, at a spot."""
        assert not isinstance(one.shape, str) and not isinstance(other.shape, str)
        return plane.meet(one.shape, other.shape, chosen(one, other, spot))

    def mark(self, view: Viewed, spot: Spot) -> Point | None:
        """The place of a view at a spot, marked with a small cross where two of its lines cross; None where none do."""
        key = view.key(spot, self._apart / 2)
        if key not in view.points:
            pair = self.pair(view, spot)
            if pair is None:
                return None
            one, other = (d.shape for d in pair)
            assert not isinstance(one, str) and not isinstance(other, str)
            view.points[key] = self.b.meet(one, other, chosen(*pair, spot))
        return view.points[key]

    def place(self, view: Viewed, at: Sequence[float]) -> Point:
        """The image of a place, measured from the low corner: marked where lines cross, else brought over from other views.

        Raises:
            LookupError: no lines lead there.
        """
        found = self._brought(view, at, frozenset())
        if found is None:
            raise LookupError(f"no lines of the {view.frame.title} cross at {view.frame.spot(at)}")
        return found

    def _brought(self, view: Viewed, at: Sequence[float], tried: frozenset[str]) -> Point | None:
        """The same, without the views that have been tried."""
        spot = view.frame.spot(at)
        found = self.mark(view, spot)
        if found is not None:
            return found
        for axis in view.bases:
            if self._key(view, axis, at[axis]) in self._lines:
                continue
            for start in self.views.values():
                if start is view or axis not in start.bases or start.frame.title in tried:
                    continue
                point = self._brought(start, at, tried | {view.frame.title})
                if point is not None:
                    self.carried(view, axis, at[axis], start, point)
                    found = self.mark(view, spot)
                    if found is not None:
                        return found
                    break
        return None


def _beside(spot: Spot, a: Spot, b: Spot) -> float:
    """How far a spot is from a chord."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    long = dx * dx + dy * dy
    share = min(max(((spot[0] - a[0]) * dx + (spot[1] - a[1]) * dy) / long, 0.0), 1.0) if long else 0.0
    return math.hypot(a[0] + share * dx - spot[0], a[1] + share * dy - spot[1])


def chosen(one: Drawn, other: Drawn, spot: Spot) -> Selector | None:
    """The word for the crossing that lies at a spot, where a circle has two."""
    if not (one.radius or other.radius):
        return None
    round_one, line = (one, other) if one.radius else (other, one)
    dx, dy = spot[0] - round_one.at[0], spot[1] - round_one.at[1]
    if line.radius:
        ways = (line.at[0] - round_one.at[0], line.at[1] - round_one.at[1])
        sign = 1.0 if dx * -ways[1] + dy * ways[0] > 0 else -1.0
        dx, dy = -ways[1] * sign, ways[0] * sign
    else:
        sign = 1.0 if dx * line.way[0] + dy * line.way[1] >= 0 else -1.0  # both lie alike from the centre's foot on the line
        dx, dy = line.way[0] * sign, line.way[1] * sign
    if abs(dx) >= abs(dy):
        return plane.rightmost if dx > 0 else plane.leftmost
    return plane.upper if dy > 0 else plane.lower
