"""Pictures of a body made of parts: a lattice of lines along its three axes, on which every place is found by two of them.

Lengths are laid off along the axes from one corner: full, reduced or halved in parallel projections, by measuring points in
perspective. A place in the air is carried there by lines along the axes, as a drafter does it with a sliding set square or
with lines to the vanishing points.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import TYPE_CHECKING

from wisecompass.arithmetic import roughly
from wisecompass.drafting.board import Board
from wisecompass.drafting.crating import Drawn, Sheet, Spot, Steps, Viewed
from wisecompass.drafting.setting import Settable, bare, negative, positive
from wisecompass.drafting.wording import number_text
from wisecompass.geometry.plane import Line, Point

if TYPE_CHECKING:
    from wisecompass.geometry.images import Sight

RUNS = ("length", "depth", "upright")
"""What lines along the three axes are called."""

TOWARDS = ("right", "back", "up")

IN_LINE = 1e-6
"""Sine of the angle under which two ways in the picture are one."""
"""Where a place lies from the low corner, along each."""


@dataclass(frozen=True)
class PictureFrame:
    """How a picture looks at the body: ``base`` is the corner that it begins from and ``low`` the body's low corner, both in
    the body's own places; ``eye_axis`` the axis whose circles are seen as circles, -1 where none is."""

    title: str
    sight: Sight
    base: tuple[float, float, float]
    low: tuple[float, float, float]
    eye_axis: int = -1
    right: tuple[int, int] = (0, 1)
    up: tuple[int, int] = (2, 1)

    def spot(self, place: Sequence[float]) -> Spot:
        """Where a place, measured from the low corner, lies from the image of the base."""
        (p, q, r), (a, b, c) = place, self.low
        x, y = self.sight.spot((p + a, q + b, r + c))
        x0, y0 = self._base_spot
        return x - x0, y - y0

    @cached_property
    def _base_spot(self) -> Spot:
        return self.sight.spot(self.base)


class SeenAsPoint(LookupError):
    """A line that leads straight to the eye."""


@dataclass(frozen=True)
class Distance:
    """How far a place lies from the base along an axis, as it is set: a length, and another from its end."""

    first: Settable
    more: Settable | None = None
    back: bool = False
    """Whether the other is laid off against the axis."""
    against: bool = False
    """Whether the first is."""


Scaled = Callable[[int, Settable], Settable]
"""A length along an axis as it is set on the drawing."""


class Axes:
    """The three lines through the base, each with the way in which its coordinate grows: along it (1) or against it."""

    def __init__(self, b: Board, base: Point, lines: Sequence[Line], ways: Sequence[int], scaled: Scaled) -> None:
        self.b, self.base, self.lines, self.ways, self.scaled = b, base, list(lines), list(ways), scaled
        self._marks: dict[tuple[int, str, float], Point] = {}

    def mark(self, axis: int, distance: Distance, at: float) -> Point:
        """A place on an axis."""
        return self._laid(axis, self.lines[axis], distance, at)

    def _laid(self, axis: int, line: Line, distance: Distance, at: float, way: int = 0) -> Point:
        """The lengths of a distance laid off along a line through the base."""
        b, found, way = self.b, self.base, way or self.ways[axis]
        both = ((distance.first, distance.against, distance.more is None), (distance.more, distance.back, True))
        for length, against, last in both:
            if length is None or roughly(bare(length)) == 0:
                continue
            key = (axis, line.name, round(roughly(bare(length)), 9)) if length is distance.first else None
            if key is not None and key in self._marks:
                found = self._marks[key]
                continue
            back = (negative(length) != against) != (way < 0)
            name = b.unique(f"tick {number_text(at if last else abs(roughly(bare(length))))}")
            found = b.lay_off(line, found, self.scaled(axis, positive(length)), name, back=back)
            if key is not None:
                self._marks[key] = found
        return found

    def through(self, axis: int, point: Point, name: str) -> Line:
        """The line along an axis through a place."""
        return self.b.parallel(self.lines[axis], point, name)


class Vanishing(Axes):
    """The same in perspective: lines along some axes run to a vanishing point each, and lengths along these are cut off by
    lines from the ground line to a measuring point. ``to`` has both points and the way in which lengths are laid off on the
    ground line, by axis."""

    def __init__(
        self,
        b: Board,
        base: Point,
        lines: Sequence[Line],
        ways: Sequence[int],
        ground: Line,
        to: dict[int, tuple[Point, Point, int]],
    ) -> None:
        super().__init__(b, base, lines, ways, lambda _, length: length)
        self.ground, self.to = ground, to

    def mark(self, axis: int, distance: Distance, at: float) -> Point:
        if axis not in self.to:
            return super().mark(axis, distance, at)
        _, measuring, way = self.to[axis]
        on_ground = self._laid(axis, self.ground, distance, at, way)
        if on_ground is self.base:
            return self.base
        with self.b.may_be_far():
            line = self.b.joined(on_ground, measuring, f"measuring line of {on_ground.name}")
        return self.b.meet(line, self.lines[axis], name=self.b.unique(f"tick {number_text(at)} of the {RUNS[axis]}"))

    def through(self, axis: int, point: Point, name: str) -> Line:
        if axis not in self.to:
            return super().through(axis, point, name)
        with self.b.may_be_far():
            return self.b.joined(point, self.to[axis][0], name)


@dataclass
class PictureSheet(Sheet):
    """The one view of a picture with its lattice."""

    axes: Axes | None = None
    base: tuple[float, float, float] = (0.0, 0.0, 0.0)
    """The base, from the low corner."""
    distances: dict[tuple[int, int], Distance] = field(default_factory=dict)
    """Distances along the axes that are known, by the place on the axis."""
    _places: Steps = field(default_factory=Steps)
    _ticks: dict[tuple[int, int], Point] = field(default_factory=dict)
    _runs: dict[tuple[int, int, int], Line] = field(default_factory=dict)

    def know_distance(self, axis: int, at: float, distance: Distance) -> None:
        self.distances.setdefault((axis, self._step(at)), distance)

    def distance(self, axis: int, at: float) -> Distance | None:
        """The distance of a place along an axis, if it is known."""
        if abs(at - self.base[axis]) < self.near:
            return Distance(0.0)
        return self.distances.get((axis, self._step(at)))

    def is_known(self, axis: int, at: float) -> bool:
        return abs(at - self.base[axis]) < self.near or (axis, self._step(at)) in self.distances

    def _step(self, at: float) -> int:
        return self._places.of(at, 2 * self.near)

    # ------------------------------------------------------------------------------------------------------- the lattice
    def run(self, view: Viewed, axis: int, at: Sequence[float]) -> Line:
        """The line along an axis through a place.

        Raises:
            LookupError: nothing leads there.
        """
        i, j = (k for k in range(3) if k != axis)
        key = (axis, self._step(at[i]), self._step(at[j]))
        if key in self._runs:
            return self._runs[key]
        start = list(at)
        start[axis] = self.base[axis]
        return self._run_from(view, axis, start, key)

    def _run_from(self, view: Viewed, axis: int, start: Sequence[float], key: tuple[int, int, int]) -> Line:
        """The line along an axis, drawn from one of its places."""
        assert self.axes is not None
        i, j = (k for k in range(3) if k != axis)
        onward = list(start)
        onward[axis] += self.size
        if image_distance(view, start, onward) < self.near:
            raise SeenAsPoint(f"axis {axis} from {tuple(start)}")
        point = self.place(view, start)
        if point is view.origin:
            line = self.axes.lines[axis]
        else:
            away = [f"{number_text(start[k])} {TOWARDS[k]}" for k in (i, j) if abs(start[k]) > self.near]
            name = f"{RUNS[axis]} at {' '.join(away) or 'the low corner'}"
            line = self.axes.through(axis, point, name)
        self._runs[key] = line
        self.know_line(view, line, view.frame.spot(start), view.frame.spot(onward))
        return line

    def know_line(self, view: Viewed, line: Line, start: Spot, end: Spot) -> None:
        """A straight line of the picture, through two of its places."""
        dx, dy = end[0] - start[0], end[1] - start[1]
        size = (dx * dx + dy * dy) ** 0.5
        view.drawn.append(Drawn(line, start, (dx / size, dy / size)))

    def place(self, view: Viewed, at: Sequence[float]) -> Point:
        """The image of a place, measured from the low corner: where lines that are there cross, else carried along the axes.

        Raises:
            LookupError: a distance of it is not known.
        """
        spot = view.frame.spot(at)
        known = view.points.get(view.key(spot, self.near))
        if known is not None:
            return known
        off = [k for k in range(3) if abs(at[k] - self.base[k]) > self.near]
        found = view.origin if not off else self._tick(view, off[0], at) if len(off) == 1 else self._crossed(view, off, at)
        view.points[view.key(spot, self.near)] = found
        return found

    def _tick(self, view: Viewed, axis: int, at: Sequence[float]) -> Point:
        key = (axis, self._step(at[axis]))
        if key not in self._ticks:
            assert self.axes is not None
            distance = self.distances.get(key)
            if distance is None:
                crossed = self.mark(view, view.frame.spot(at))
                if crossed is None:
                    raise LookupError(f"{at[axis]} along axis {axis} is not known")
                return crossed
            self._ticks[key] = self.axes.mark(axis, distance, at[axis])
        return self._ticks[key]

    def _crossed(self, view: Viewed, off: Sequence[int], at: Sequence[float]) -> Point:
        """A place off the axes: where two lines along axes cross; of three distances upwards first, then back."""
        unknown = [k for k in off if not self.is_known(k, at[k])]
        if unknown:
            crossed = self.mark(view, view.frame.spot(at))
            if crossed is None and len(unknown) == 1:  # along that axis, to whatever crosses it there
                self.run(view, unknown[0], at)
                crossed = self.mark(view, view.frame.spot(at))
            if crossed is None:
                raise LookupError(f"nothing leads to {tuple(at)}")
            return crossed
        pairs = [(2, 1), (2, 0), (1, 0)] if len(off) == 3 else [(off[1], off[0])]
        apart = [pair for pair in pairs if not self._in_line(view, pair, at)]
        if apart:
            one, other = (self.run(view, axis, at) for axis in apart[0])
        else:
            one, other = self._from_beside(view, off, at)
        return self.b.meet(one, other, name=self.b.crossing())

    def _from_beside(self, view: Viewed, off: Sequence[int], at: Sequence[float]) -> tuple[Line, Line]:
        """Two lines to a place of the base's own plane that is seen from its edge: one across from a place beside the plane,
        and one within it."""
        (axis,) = (k for k in range(3) if k not in off)
        i, j = (k for k in range(3) if k != axis)
        key = (axis, self._step(at[i]), self._step(at[j]))
        for k, n in self.distances:
            beside = list(at)
            beside[axis] = self._places.place(n)
            if k == axis and not self._in_line(view, (i, j), beside):
                across = self._runs.get(key) or self._run_from(view, axis, beside, key)
                within = next(each for each in off if not self._in_line(view, (axis, each), at))
                return across, self.run(view, within, at)
        raise LookupError(f"what leads to {tuple(at)} is seen as one line")

    def _in_line(self, view: Viewed, pair: tuple[int, int], at: Sequence[float]) -> bool:
        """Whether two axes look like one line at a place: their plane is seen from its edge."""
        here = view.frame.spot(at)
        ways = []
        for axis in pair:
            there = list(at)
            there[axis] = self.base[axis] if abs(at[axis] - self.base[axis]) > self.near else at[axis] + self.size
            x, y = view.frame.spot(there)
            ways.append((x - here[0], y - here[1]))
        (ax, ay), (bx, by) = ways
        return bool(abs(ax * by - ay * bx) <= IN_LINE * math.hypot(ax, ay) * math.hypot(bx, by))


def image_distance(view: Viewed, first: Sequence[float], last: Sequence[float]) -> float:
    """How far apart two places are in the picture, roughly."""
    (x1, y1), (x2, y2) = view.frame.spot(first), view.frame.spot(last)
    return float(((x2 - x1) ** 2 + (y2 - y1) ** 2) ** 0.5)
