"""Curves of the views of a body that are neither straight nor round there: plotted by points on generators of the round part
that they lie on, then faired."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from contextlib import suppress
from functools import cached_property
from typing import TYPE_CHECKING, Any, cast

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.solids.crate_parts import SetOut
from wisecompass.drafting.crating import Drawn, Spot, Viewed
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Circle, Line, Point
from wisecompass.geometry.surfaces import across

if TYPE_CHECKING:
    from wisecompass.geometry.curves_in_space import Wound
    from wisecompass.geometry.edges import Edge
    from wisecompass.geometry.parts import Part
    from wisecompass.geometry.sight import Run
    from wisecompass.geometry.surfaces import Cone

STEP = 15
"""The set squares' step: a curve is plotted at so many degrees about its round part."""


def as_array(t: float) -> Any:
    import numpy as np

    return np.array(t)


class Plotted(SetOut):
    """The same with curves by their points."""

    def _plot_all(self, view: Viewed, plotted: Sequence[Run]) -> None:
        """The curves of a view: all their points, then all of them faired."""
        edges = {id(run.edge): run.edge for run in plotted}.values()
        if not edges:
            return
        with self.b.gathered("mark", Instrument.PENCIL, f"Points of curves in the {view.frame.title}"):
            points = [self._points(view, edge) for edge in edges]
        with self.b.gathered("fair curve", Instrument.CURVE, f"The {view.frame.title}"):
            for edge, several in zip(edges, points, strict=True):
                self._fair(view, edge, several, [run for run in plotted if run.edge is edge])

    def _points(self, view: Viewed, edge: Edge) -> list[Point]:
        """Points of a curve: its ends, and those at the set squares' steps about its pipe, or its cone."""
        cone = self._cone_under(edge)
        if cone is not None:
            return self._points_on_cone(view, edge, cone)
        low, high = edge.low, edge.high
        steps = range(math.ceil(math.degrees(low) / STEP + 1e-6), math.floor(math.degrees(high) / STEP - 1e-6) + 1)
        inner: list[tuple[float, int | None]] = [(math.radians(STEP * k), k) for k in steps]
        ordered = inner if edge.closes else [(low, None), *inner, (high, None)]
        return [self._on_curve(view, edge, t, k) for t, k in ordered]

    def _fair(self, view: Viewed, edge: Edge, points: Sequence[Point], several: Sequence[Run]) -> None:
        """A curve through its points, seen and hidden."""
        b, frame = self.b, view.frame
        curve, low, high = edge.curve, edge.low, edge.high
        x0, y0 = roughly(view.origin.x), roughly(view.origin.y)

        def spot(t: float) -> Spot:
            return frame.spot(self._from_low(curve.at(as_array(t))))

        def place(t: float) -> Spot:
            x, y = spot(t)
            return x0 + x, y0 + y

        def velocity(t: float) -> Spot:
            step = 1e-6 * (high - low)
            (a, c), (d, e) = place(t - step), place(t + step)
            return (d - a) / (2 * step), (e - c) / (2 * step)

        parts = [
            (Parametric(place, velocity, run.low, run.high), Pen.OUTLINE if run.seen else Pen.HIDDEN) for run in several
        ]
        name = b.unique("curve")
        b.fair_curve(lambda: list(parts), points, name, closed=edge.closes)
        chords = [spot(low + (high - low) * k / 64) for k in range(65)]
        view.drawn.append(Drawn(name, chords[0], chords=chords))

    def _on_curve(self, view: Viewed, edge: Edge, t: float, k: int | None) -> Point:
        """A point of a curve on a pipe: an end of it, or where it is told by so many steps about the pipe's axis."""
        sheet, curve = self.sheet, cast("Wound", edge.curve)
        at = self._from_low(curve.at(as_array(t)))
        if k is not None:
            self._on_the_circle(curve.on, at, k)
            for other in sheet.views.values():
                if other is not view and other.frame.eye_axis != curve.on.axis:
                    with suppress(LookupError):
                        sheet.place(other, at)
        return self._placed(view, at)

    def _on_the_circle(self, pipe: Any, at: Sequence[float], k: int) -> None:
        """Mark a point on the circle that a pipe is seen as, so many steps round from where its measure begins."""
        sheet, b = self.sheet, self.b
        view = next(v for v in sheet.views.values() if v.frame.eye_axis == pipe.axis)
        frame = view.frame
        spot = frame.spot(at)
        if sheet.mark(view, spot) is not None:
            return
        middle = frame.spot(self._from_low(pipe.centre))  # of a cone its apex, which lies over it
        circle = next(d for d in view.drawn if d.radius and d.holds(spot, sheet.near) and d.holds_centre(middle, sheet.near))
        ring = circle.shape
        assert isinstance(ring, Circle)
        centre = ring.centre
        level = sheet.at_known(view, frame.up[0], middle[1] * frame.up[1])
        turn = math.degrees(math.atan2(spot[1] - middle[1], spot[0] - middle[0])) / STEP
        base = Line(centre, b.number(1), b.number(0), level.name)
        ray = b.protract(base, centre, b.turn(round(turn), round(360 / STEP)), f"ray from {centre.name}")
        view.points[view.key(spot, sheet.near)] = b.meet(ring, ray, plane.beyond(ray))

    # ------------------------------------------------------------------------------------------------------- on cones
    def _placed(self, view: Viewed, at: Sequence[float]) -> Point:
        """The image of a place, measured from the low corner; of one on a cone by the generator through it, where nothing
        else leads there.

        Raises:
            LookupError: nothing does.
        """
        with suppress(LookupError):
            return self.sheet.place(view, at)
        for cone in self._cones_at(at):
            if self._generator_through(cone, at):
                break
        return self.sheet.place(view, at)

    def _cones_at(self, at: Sequence[float]) -> Iterator[Cone]:
        """The cones that a place lies on, but for their apexes."""
        from wisecompass.geometry.surfaces import Cone

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
        apex, part = self._from_low(cone.centre), self._part_of(cone)
        base = float(part.at[cone.axis]) - self.plan.low[cone.axis]
        share = (base - apex[cone.axis]) / (at[cone.axis] - apex[cone.axis])
        rim = [a + (c - a) * share for a, c in zip(apex, at, strict=True)]
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

    def _cone_under(self, edge: Edge) -> Cone | None:
        """The cone that a curve lies on, if it lies on one."""
        from wisecompass.geometry.surfaces import Cone

        return next((on for k in edge.surfaces if isinstance(on := self.plan.body.model.surfaces[k], Cone)), None)

    def _points_on_cone(self, view: Viewed, edge: Edge, cone: Cone) -> list[Point]:
        """Points of a curve on generators of a cone: each is drawn in every view, and where one shows what cuts the cone on
        edge, the point lies on it there. An end to which nothing leads lies between two generators: the curve is cut off
        where it meets the line that ends it.

        Raises:
            LookupError: there are not enough to draw it by.
        """
        inner = self._on_generators(edge, cone)
        ends = [] if edge.closes else [t for t in (edge.low, edge.high) if self._leads_to(view, edge.curve.place(t))]
        found: list[Point] = []
        for t, k in sorted([*inner, *((t, None) for t in ends)], key=lambda each: each[0]):
            at = self._from_low(edge.curve.place(t))
            if k is not None:
                self._generator(cone, k)
                for other in self.sheet.views.values():
                    if other is not view:
                        with suppress(LookupError):
                            self.sheet.place(other, at)
            if edge.closes or edge.low <= t <= edge.high:
                found.append(self._placed(view, at))
            else:  # what lies beyond an end only guides the curve
                with suppress(LookupError):
                    found.append(self.sheet.place(view, at))
        if len(found) < 2:
            raise LookupError("a curve to which nothing leads")
        return found

    def _leads_to(self, view: Viewed, place: Sequence[float]) -> bool:
        with suppress(LookupError):
            self._placed(view, self._from_low(place))
            return True
        return False

    def _on_generators(self, edge: Edge, cone: Cone) -> list[tuple[float, int]]:
        """Where generators at the set squares' steps meet a curve, in its own measure, with their number; one more beyond
        each of its ends."""
        curve = cast("Wound", edge.curve)
        low, high, turn = edge.low, edge.high, round(360 / STEP)
        if curve.on is cone:
            first, last = math.degrees(low) / STEP, math.degrees(high) / STEP
            if edge.closes:
                return [(math.radians(STEP * k), k) for k in range(math.ceil(first - 1e-6), math.floor(last - 1e-6) + 1)]
            steps = range(math.floor(first - 1e-6), math.ceil(last + 1e-6) + 1)
            there = [(math.radians(STEP * k), k % turn) for k in steps]
            return [(t, k) for t, k in there if self._is_near(curve.place(t))]
        found = []
        u, v = across(curve.on.axis)
        for k in range(turn):
            for at in self._met(cone, k, curve):
                angle = math.atan2(at[v] - float(curve.on.centre[v]), at[u] - float(curve.on.centre[u]))
                t = low + (angle - low) % math.tau
                if t < high and math.dist(curve.place(t), at) < self.sheet.near * 100:
                    found.append((t, k))
        return found

    def _is_near(self, place: Sequence[float]) -> bool:
        """Whether a place lies on the paper: a generator may run beside what cuts the cone."""
        reach = zip(place, self.plan.reach, strict=True)
        return all(low - self.sheet.size <= c <= high + self.sheet.size for c, (low, high) in reach)

    def _met(self, cone: Cone, k: int, curve: Wound) -> list[tuple[float, ...]]:
        """Where a generator of a cone meets the round surface that a curve is told on."""
        from wisecompass.geometry.curves_in_space import table
        from wisecompass.geometry.meeting import generator

        line = generator(cone, math.radians(STEP * k))
        row = table([curve.on])
        return [
            line.place(t) for t, _ in line.crossings(row, -FAR * self.sheet.size, FAR * self.sheet.size, self.sheet.size)
        ]

    def _generator(self, cone: Cone, k: int) -> None:
        """One generator of a cone in every view: from the apex to where the ray at its angle cuts the base."""
        key = id(cone), k
        if key in self._generators:
            return
        self._generators.add(key)
        part = self._part_of(cone)
        u, v = across(cone.axis)
        rim, apex = [float(c) for c in part.at], [float(c) for c in cone.centre]
        for axis, share in ((u, math.cos(math.radians(STEP * k))), (v, math.sin(math.radians(STEP * k)))):
            rim[axis] -= float(part.sizes[0]) / 2 * share  # it is told from the apex on, the base lies before that
        self._on_the_circle(cone, self._from_low(rim), k)
        self._draw_generator(self._from_low(apex), self._from_low(rim))

    def _part_of(self, cone: Cone) -> Part:
        """The part that a cone's surface belongs to."""
        model = self.plan.body.model
        number = next(k for k, surface in enumerate(model.surfaces) if surface is cone)
        return next(part for part, walls in zip(self.floats, model.walls, strict=True) if any(k == number for k, _ in walls))

    @cached_property
    def _generators(self) -> set[tuple[int, int]]:
        return set()


FAR = 4.0
"""So many times the body's size a generator is followed."""
