"""Places of cones in the views of a body: by the generator through them, by the circle at their level, and where an edge, or
a generator of another cone, goes through a cone."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from contextlib import suppress
from typing import TYPE_CHECKING, TypeAlias

from wisecompass.catalogue.solids.crate_parts import SetOut
from wisecompass.drafting.crating import Drawn, Viewed
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.surfaces import Cone, Flat, Pipe, across

if TYPE_CHECKING:
    from wisecompass.geometry.parts import Part

Through: TypeAlias = tuple[Sequence[float], Sequence[Sequence[float]]]
"""The direction of a straight line, and what is known of its ends."""

APART = 0.01
"""Feet of two lines are farther apart than this share of the body's size, else the line through them strays."""

LEVEL = 1e-9
"""A direction is level where it rises by less than this share."""


class Pierced(SetOut):
    """The same with places on cones."""

    def _placed(self, view: Viewed, at: Sequence[float]) -> Point:
        """The image of a place, measured from the low corner; of one on a cone by the generator through it or by the
        circle at its level, where nothing else leads there.

        Raises:
            LookupError: nothing does.
        """
        with suppress(LookupError):
            return self.sheet.place(view, at)
        for cone in self._cones_at(at):
            with suppress(LookupError):
                if self._generator_through(cone, at) or self._level_circle(cone, at) or self._pierced(cone, at):
                    break
        return self.sheet.place(view, at)

    def _exactly_placed(self, view: Viewed, at: Sequence[float]) -> Point:
        """The same of a place that is known to many digits: no line is taken that only passes near by chance.

        Raises:
            LookupError: nothing leads there.
        """
        with suppress(LookupError), self.sheet.exactly():
            return self._placed(view, at)
        return self._placed(view, at)

    def _cones_at(self, at: Sequence[float]) -> Iterator[Cone]:
        """The cones that a place lies on, but for their apexes."""
        for on in self.plan.body.model.surfaces:
            if isinstance(on, Cone):
                away = [c - a for c, a in zip(at, self._from_low(on.centre), strict=True)]
                u, v = across(on.axis)
                radius = math.hypot(away[u], away[v])
                if radius > self.sheet.near and abs(radius - float(on.slope) * abs(away[on.axis])) < self.sheet.near:
                    yield on

    def _generator_through(self, cone: Cone, at: Sequence[float]) -> bool:
        """The generator through a place of a cone in every view, from one that shows the place; whether one does."""
        sheet = self.sheet
        apex, rim = self._from_low(cone.centre), self._on_the_rim(cone, at)
        for view in sheet.views.values():
            spot, over = view.frame.spot(at), view.frame.spot(apex)
            if math.dist(spot, over) < sheet.near or (point := sheet.mark(view, spot)) is None:
                continue
            if not self._is_along(view, apex, at):
                line = self.b.joined(sheet.place(view, apex), point, f"generator through {point.name}")
                self._know(view, line, over, spot)
            if sheet.mark(view, view.frame.spot(rim)) is None:
                continue
            for other in sheet.views.values():
                if other.frame.eye_axis == cone.axis:
                    sheet.place(other, rim)
            self._draw_generator(apex, rim)
            return True
        return False

    def _draw_generator(self, apex: Sequence[float], rim: Sequence[float]) -> None:
        """One generator of a cone in every view, from its apex to a place of its rim."""
        for view in self.sheet.views.values():
            over, spot = map(view.frame.spot, (apex, rim))
            if math.dist(over, spot) > self.sheet.near and not self._is_along(view, apex, rim):
                one, two = self.sheet.place(view, apex), self.sheet.place(view, rim)
                self._know(view, self.b.joined(one, two, f"generator through {two.name}"), over, spot)

    def _is_along(self, view: Viewed, first: Sequence[float], last: Sequence[float]) -> bool:
        """Whether the straight line through two places is there in a view."""
        start, end = map(view.frame.spot, (first, last))
        return any(d.is_straight and d.holds(end, self.sheet.near) for d in self.sheet.through(view, start))

    def _base_of(self, cone: Cone) -> float:
        """How far along its axis the base of a cone lies, from the low corner."""
        return float(self._part_of(cone).at[cone.axis]) - self.plan.low[cone.axis]

    def _on_the_rim(self, cone: Cone, at: Sequence[float]) -> list[float]:
        """Where the generator through a place of a cone cuts the rim of its base."""
        apex, base = self._from_low(cone.centre), self._base_of(cone)
        share = (base - apex[cone.axis]) / (at[cone.axis] - apex[cone.axis])
        return [a + (c - a) * share for a, c in zip(apex, at, strict=True)]

    def _part_of(self, cone: Cone) -> Part:
        """The part that a cone's surface belongs to."""
        model = self.plan.body.model
        number = next(k for k, surface in enumerate(model.surfaces) if surface is cone)
        return next(part for part, walls in zip(self.floats, model.walls, strict=True) if any(k == number for k, _ in walls))

    # ------------------------------------------------------------------------------------------ where an edge goes through
    def _ways_through(self, at: Sequence[float], cone: Cone) -> list[Through]:
        """The directions of the straight lines in which other surfaces than a cone meet in a place: of two planes, of a pipe
        and a plane along it; one within a plane square to the cone's axis; and those of generators of other cones, with
        their ends."""
        flats: list[list[float]] = []
        pipes: list[int] = []
        place = self._from_zero(at)
        for on in self.plan.body.model.surfaces:
            if isinstance(on, Flat):
                size = math.hypot(*map(float, on.normal))
                normal = [float(c) / size for c in on.normal]
                if abs(sum(n * c for n, c in zip(normal, place, strict=True)) - float(on.offset) / size) < self.sheet.near:
                    flats.append(normal)
            elif isinstance(on, Pipe):
                u, v = across(on.axis)
                away = math.hypot(place[u] - float(on.centre[u]), place[v] - float(on.centre[v]))
                if abs(away - float(on.radius)) < self.sheet.near:
                    pipes.append(on.axis)
        ways = [_square_to(one, other) for n, one in enumerate(flats) for other in flats[n + 1 :]]
        ways += [_along(across(cone.axis)[0]) for normal in flats if abs(normal[cone.axis]) > 1 - LEVEL]
        ways += [_along(axis) for axis in pipes for normal in flats if abs(normal[axis]) < LEVEL]
        found: list[Through] = [(_unit(way), ()) for way in ways if math.hypot(*way) > LEVEL]
        for other_cone in self._cones_at(at):
            if other_cone is not cone:
                apex = self._from_low(other_cone.centre)
                way = [c - a for c, a in zip(at, apex, strict=True)]
                found.append((_unit(way), (self._on_the_rim(other_cone, at), apex)))
        return found

    def _level_circle(self, cone: Cone, at: Sequence[float]) -> bool:
        """The circle of a cone at the level of a place, where an edge runs through it at that level; whether one does."""
        if not any(abs(way[cone.axis]) < LEVEL for way, _ in self._ways_through(at, cone)):
            return False
        view = self._end_view(cone)
        apex, (across_axis, way) = self._from_low(cone.centre), view.frame.right
        u, v = across(cone.axis)
        radius = math.hypot(at[u] - apex[u], at[v] - apex[v])
        centre = view.frame.spot(apex)
        if any(d.radius and d.holds(view.frame.spot(at), self.sheet.near) and d.at == centre for d in view.drawn):
            return False
        start = [*apex]
        start[across_axis], start[cone.axis] = apex[across_axis] + radius * way, at[cone.axis]
        on, middle = self.sheet.place(view, start), self.sheet.mark(view, centre)
        assert middle is not None
        view.drawn.append(Drawn(self.b.circle_through(middle, on), centre, radius=radius))
        self.sheet.place(view, at)
        return True

    def _pierced(self, cone: Cone, at: Sequence[float]) -> bool:
        """Where a sloping edge goes through a cone: the plane through it and the apex cuts the base in a straight line,
        through the feet of two lines of that plane; that line cuts the rim, and the generator from there the edge. Whether
        one does."""
        apex, view = self._from_low(cone.centre), self._end_view(cone)
        for way, ends in self._ways_through(at, cone):
            feet = [(foot, draw) for foot, draw in self._feet(cone, at, way, ends) if self._is_near(self._from_zero(foot))]
            first = next(iter(feet), None)
            apart = APART * self.sheet.size
            second = next(
                (f for f in feet[1:] if math.dist(view.frame.spot(f[0]), view.frame.spot(feet[0][0])) > apart), None
            )
            if first is None or second is None:
                continue
            for _, draw in (first, second):
                for each in self.sheet.views.values():
                    draw(each)
            spots = [view.frame.spot(foot) for foot, _ in (first, second)]
            one, other = (self.sheet.place(view, foot) for foot, _ in (first, second))
            self._know(view, self.b.joined(one, other, f"line {one.name} – {other.name}"), *spots)
            rim = self._on_the_rim(cone, at)
            for each in self.sheet.views.values():
                self.sheet.place(each, rim)
            self._draw_generator(apex, rim)
            return True
        return False

    def _end_view(self, cone: Cone) -> Viewed:
        """The view along the axis of a cone."""
        return next(v for v in self.sheet.views.values() if v.frame.eye_axis == cone.axis)

    def _from_zero(self, place: Sequence[float]) -> list[float]:
        return [c + low for c, low in zip(place, self.plan.low, strict=True)]

    def _feet(
        self, cone: Cone, at: Sequence[float], way: Sequence[float], ends: Sequence[Sequence[float]]
    ) -> Iterator[tuple[list[float], Callable[[Viewed], None]]]:
        """Where lines of the plane through the apex of a cone and a line through ``at`` cut the plane of the base, with what
        draws each in a view: that line itself, its parallel through the apex, and lines from the apex through its ends."""
        apex, base, axis = self._from_low(cone.centre), self._base_of(cone), cone.axis

        def foot(start: Sequence[float], along: Sequence[float]) -> list[float]:
            return [c + w * (base - start[axis]) / along[axis] for c, w in zip(start, along, strict=True)]

        if abs(way[axis]) > LEVEL:
            here, beyond = list(at), [c + w * self.sheet.size for c, w in zip(at, way, strict=True)]
            yield foot(at, way), lambda _: None
            yield foot(apex, way), lambda view: self._parallel_through(view, apex, here, beyond)
        for end in ends:
            if abs(end[axis] - apex[axis]) > LEVEL * self.sheet.size:
                there = foot(apex, [e - c for e, c in zip(end, apex, strict=True)])
                yield there, lambda view, end=end: self._line_from(view, apex, end)  # type: ignore[misc]

    def _line_from(self, view: Viewed, apex: Sequence[float], end: Sequence[float]) -> None:
        """The line from an apex through a place, in a view."""
        over, spot = map(view.frame.spot, (apex, end))
        if math.dist(over, spot) > self.sheet.near and not self._is_along(view, apex, end):
            one, two = self.sheet.place(view, apex), self.sheet.place(view, end)
            self._know(view, self.b.joined(one, two, f"line {one.name} – {two.name}"), over, spot)

    def _parallel_through(self, view: Viewed, apex: Sequence[float], at: Sequence[float], beyond: Sequence[float]) -> None:
        """The parallel through the apex to an edge, where a view shows the edge as a line that is there."""
        here, there, over = map(view.frame.spot, (at, beyond, apex))
        if math.dist(here, there) < self.sheet.near:
            return
        along = (d for d in self.sheet.through(view, here) if d.is_straight and d.holds(there, self.sheet.near))
        line = next((d.shape for d in along if isinstance(d.shape, Line)), None)
        end = (over[0] + there[0] - here[0], over[1] + there[1] - here[1])
        if line is None or any(d.is_straight and d.holds(end, self.sheet.near) for d in self.sheet.through(view, over)):
            return
        point: Point = self.sheet.place(view, apex)
        self._know(view, self.b.parallel(line, point, f"parallel through {point.name}"), over, end)

    def _is_near(self, place: Sequence[float]) -> bool:
        """Whether a place lies on the paper: a generator may run beside what cuts the cone."""
        reach = zip(place, self.plan.reach, strict=True)
        return all(low - self.sheet.size <= c <= high + self.sheet.size for c, (low, high) in reach)


def _square_to(one: Sequence[float], other: Sequence[float]) -> list[float]:
    (a, b, c), (x, y, z) = one, other
    return [b * z - c * y, c * x - a * z, a * y - b * x]


def _along(axis: int) -> list[float]:
    return [float(k == axis) for k in range(3)]


def _unit(way: Sequence[float]) -> list[float]:
    size = math.hypot(*way)
    return [c / size for c in way]
