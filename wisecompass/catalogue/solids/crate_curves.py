"""Curves of the views of a body that are neither straight nor round there: plotted by points on generators of the round part
that they lie on, then faired."""

from __future__ import annotations

import math
from collections.abc import Sequence
from contextlib import suppress
from functools import cached_property
from typing import TYPE_CHECKING, Any, cast

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.solids.crate_piercing import Pierced
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
    from wisecompass.geometry.sight import Run
    from wisecompass.geometry.surfaces import Cone

FINE = 1.875
"""Steps about a round part are told in so many degrees."""

EVERY = (8, 4, 2, 1)
"""A curve is plotted at the set squares' steps of 15°; a short one at half of them, and so on."""


MISSED = 0.25
"""A curve is drawn by its points though such a share of them is not found."""


def as_array(t: float) -> Any:
    import numpy as np

    return np.array(t)


class Plotted(Pierced):
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
        """Points of a curve: its ends, and those at the set squares' steps about its pipe, or its cone; of one so short that
        none of these falls on it at half of them, and so on. An end to which nothing leads lies between two of these: the
        curve is cut off where it meets what ends it.

        Raises:
            LookupError: there are not enough to draw it by.
        """
        cone = self._cone_under(edge)
        for every in EVERY:
            found = (
                self._points_on_pipe(view, edge, every) if cone is None else self._points_on_cone(view, edge, cone, every)
            )
            if len(found) > 1:
                return found
        raise LookupError("a curve to which nothing leads")

    def _points_on_pipe(self, view: Viewed, edge: Edge, every: int) -> list[Point]:
        low, high, step = edge.low, edge.high, math.radians(FINE)
        first, last = math.ceil(low / step / every + 1e-6), math.floor(high / step / every - 1e-6)
        ordered: list[tuple[float, int | None]] = [(step * k * every, k * every) for k in range(first, last + 1)]
        if not edge.closes:
            for end, k in ((low, (first - 1) * every), (high, (last + 1) * every)):
                ordered.append((end, None) if self._leads_to(view, edge.curve.place(end)) else (step * k, k))
        found = []
        for t, number in sorted(ordered, key=lambda each: each[0]):
            if edge.closes or low <= t <= high:
                found.append(self._on_curve(view, edge, t, number))
            elif self._is_near(edge.curve.place(t)):  # what lies beyond an end only guides the curve
                with suppress(LookupError):
                    found.append(self._on_curve(view, edge, t, number))
        return found

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
        chords = [frame.spot(self._from_low(at)) for at in edge.places(64).tolist()]
        view.drawn.append(Drawn(name, chords[0], chords=chords))

    def _on_curve(self, view: Viewed, edge: Edge, t: float, k: int | None) -> Point:
        """A point of a curve on a pipe: an end of it, or where it is told by so many steps about the pipe's axis."""
        sheet, curve = self.sheet, cast("Wound", edge.curve)
        at = self._from_low(curve.at(as_array(t)))
        if k is None:
            return self._placed(view, at)
        self._on_the_circle(curve.on, at, k)
        for other in sheet.views.values():
            if other is not view and other.frame.eye_axis != curve.on.axis:
                with suppress(LookupError), sheet.exactly():
                    sheet.place(other, at)
        return self._exactly_placed(view, at)

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
        turn = math.degrees(math.atan2(spot[1] - middle[1], spot[0] - middle[0])) / FINE
        base = Line(centre, b.number(1), b.number(0), level.name)
        ray = b.protract(base, centre, b.turn(round(turn), round(360 / FINE)), f"ray from {centre.name}")
        view.points[view.key(spot, sheet.near)] = b.meet(ring, ray, plane.beyond(ray))

    # ------------------------------------------------------------------------------------------------------- on cones
    def _cone_under(self, edge: Edge) -> Cone | None:
        """The cone that a curve lies on, if it lies on one; of two that by whose generators it is told."""
        from wisecompass.geometry.surfaces import Cone

        if isinstance(on := cast("Wound", edge.curve).on, Cone):
            return on
        return next((each for k in edge.surfaces if isinstance(each := self.plan.body.model.surfaces[k], Cone)), None)

    def _points_on_cone(self, view: Viewed, edge: Edge, cone: Cone, every: int) -> list[Point]:
        """The same on generators of a cone: each is drawn in every view, and where one shows what cuts the cone on edge, the
        point lies on it there; another cone it goes through as an edge does. None where too few of them are found."""
        inner = self._on_generators(edge, cone, every)
        ends = [] if edge.closes else [t for t in (edge.low, edge.high) if self._leads_to(view, edge.curve.place(t))]
        found: list[Point] = []
        missed = 0
        for t, k in sorted([*inner, *((t, None) for t in ends)], key=lambda each: each[0]):
            at = self._from_low(edge.curve.place(t))
            if k is not None:
                self._generator(cone, k)
                for other in self.sheet.views.values():
                    if other is not view:
                        with suppress(LookupError), self.sheet.exactly():
                            self.sheet.place(other, at)
            inside = edge.closes or edge.low <= t <= edge.high
            try:
                if k is None:
                    found.append(self._placed(view, at))
                elif inside or every == EVERY[-1]:
                    found.append(self._exactly_placed(view, at))
                else:
                    found.append(self.sheet.place(view, at))
            except LookupError:
                missed += inside  # what lies beyond an end only guides the curve
        return found if missed <= MISSED * len(inner) else []

    def _leads_to(self, view: Viewed, place: Sequence[float]) -> bool:
        with suppress(LookupError):
            self._placed(view, self._from_low(place))
            return True
        return False

    def _on_generators(self, edge: Edge, cone: Cone, every: int) -> list[tuple[float, int]]:
        """Where generators at ``every`` so manieth step meet a curve, in its own measure, with their number; one more beyond
        each of its ends."""
        curve = cast("Wound", edge.curve)
        low, high, turn = edge.low, edge.high, round(360 / FINE)
        if curve.on is cone:
            step = math.radians(FINE) * every
            first, last = low / step, high / step
            if edge.closes:
                steps = range(math.ceil(first - 1e-6), math.floor(last - 1e-6) + 1)
                return [(step * k, k * every % turn) for k in steps]
            steps = range(math.floor(first - 1e-6), math.ceil(last + 1e-6) + 1)
            there = [(step * k, k * every % turn) for k in steps]
            return [(t, k) for t, k in there if self._is_near(curve.place(t))]
        found = []
        u, v = across(curve.on.axis)
        for k in range(0, turn, every):
            for at in self._met(cone, k, curve):
                angle = math.atan2(at[v] - float(curve.on.centre[v]), at[u] - float(curve.on.centre[u]))
                t = low + (angle - low) % math.tau
                if t < high and math.dist(curve.place(t), at) < self.sheet.near * 100:
                    found.append((t, k))
        return found

    def _met(self, cone: Cone, k: int, curve: Wound) -> list[tuple[float, ...]]:
        """Where a generator of a cone meets the round surface that a curve is told on."""
        from wisecompass.geometry.curves_in_space import table
        from wisecompass.geometry.meeting import generator

        line = generator(cone, math.radians(FINE * k))
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
        for axis, share in ((u, math.cos(math.radians(FINE * k))), (v, math.sin(math.radians(FINE * k)))):
            rim[axis] -= float(part.sizes[0]) / 2 * share  # it is told from the apex on, the base lies before that
        self._on_the_circle(cone, self._from_low(rim), k)
        self._draw_generator(self._from_low(apex), self._from_low(rim))

    @cached_property
    def _generators(self) -> set[tuple[int, int]]:
        return set()


FAR = 4.0
"""So many times the body's size a generator is followed."""
