"""The views of a body made of parts, each by projectors, with its sizes, what is read off them and what must agree."""

from __future__ import annotations

import math
from contextlib import suppress
from typing import Any

from wisecompass.arithmetic import absolute, roughly
from wisecompass.catalogue.solids.crate_lining import LinedIn
from wisecompass.catalogue.solids.crate_parts import Place
from wisecompass.catalogue.solids.crate_plan import back, shown
from wisecompass.drafting.crating import Spot, Viewed
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Point

FIRST_SIZE, NEXT_SIZE, MOST_STEPS = 9.0, 8.0, 8
"""How far the first size stands off the view and each further one off that, mm on paper, and how many steps are
dimensioned."""


DEPTH_FOR_LENGTH = "depths laid off along the length"
HEIGHT_FOR_DEPTH = "heights taken from the top view: depths laid off upwards"
"""Mistakes that are read off the views."""


LEADERS = (45.0, 20.0, 70.0, 135.0, 160.0, 110.0)
"""Directions of the leaders of circles about one centre, degrees, so that none lies on another."""


class Crate(LinedIn):
    """The whole sheet."""

    # ------------------------------------------------------------------------------------------------------- measuring
    def measure(self) -> None:
        """The body's sizes, and its corners, each read off two views."""
        b, sheet = self.b, self.sheet
        front, top = sheet.views["front view"], sheet.views["top view"]
        for name, axis in (("length", 0), ("depth", 1), ("height", 2)):
            low, high = (self._end(axis, end) for end in self._reaches()[axis])
            if low is not None and high is not None:
                b.find(name, high - low)
        sizes = b.findings
        b.misread(HEIGHT_FOR_DEPTH, lambda: {"height": sizes["depth"], "depth": sizes["height"]})
        b.misread(DEPTH_FOR_LENGTH, lambda: {"length": sizes["depth"], "depth": sizes["length"]})
        b.find("parts", len(self.parts))
        wall = self._read(top, sheet.at(top, 1, self.away(back(self.parts), 1)).at, 1)
        for name, corner in self.plan.named.items():
            place = self.plan.place(corner)
            try:
                x, z = (self._read(front, self._found(front, place), axis) for axis in (0, 2))
                y = self._read(top, self._found(top, place), 1)
            except LookupError:
                if not self._ends_a_curve(corner):
                    raise
                continue  # the curve is plotted, and cut off there: no line leads to it
            b.space_point(name, x, wall - y, z)
        self.show_in_space()
        self._check()

    def _ends_a_curve(self, corner: int) -> bool:
        """Whether a curved edge ends in a corner."""
        return any(corner in edge.ends and not edge.smooth and not edge.curve.is_straight for edge in self.plan.body.edges)

    # ------------------------------------------------------------------------------------------------------ dimensions
    def dimension(self) -> None:
        """Sizes on what is seen, each once: the length and its steps over the front view, the height at its left, the
        depth at the left of the top view; the whole outermost (ISO 129-1)."""
        if not self.b.drawing:
            return
        sheet = self.sheet
        front, top = sheet.views["front view"], sheet.views["top view"]
        over = max(sheet.members(front, 0), key=lambda view: roughly(view.origin.y))
        beside = min(sheet.members(front, 2), key=lambda view: roughly(view.origin.x))
        for seen, view, axis in ((front, over, 0), (front, beside, 2), (top, top, 1)):
            low, high = self._reaches()[axis]
            steps = [at for at in self._steps(seen, axis) if low + sheet.near < at < high - sheet.near]
            kept = steps if len(steps) <= MOST_STEPS else steps[:MOST_STEPS]
            for k, at in enumerate([*kept, high]):
                self._size(view, axis, (low, at), FIRST_SIZE + NEXT_SIZE * k)
        for view in (front, top, sheet.views["left side view"]):
            self._rounds(view)

    def _rounds(self, view: Viewed) -> None:
        """The diameter of every whole circle of a view, the radius of what is only an arc of it."""
        near = self.sheet.near
        about: dict[Spot, int] = {}
        for drawn in view.drawn:
            if not isinstance(drawn.shape, Circle):
                continue
            runs = [run for run in shown(self.floats, view.frame) if not run.edge.curve.is_straight]
            spots = [(run, self._spots(view, run, 3)) for run in runs]
            there = [run for run, places in spots if all(drawn.holds(spot, near) for spot in places)]
            if there:
                c, r = drawn.shape.centre, float(drawn.shape.radius)
                whole = any(run.closes for run in there)
                way = math.radians(LEADERS[about.get(drawn.at, 0) % len(LEADERS)])
                about[drawn.at] = about.get(drawn.at, 0) + 1
                on = Point(float(c.x) + r * math.cos(way), float(c.y) + r * math.sin(way))
                self.b.dimension_radius(c, on, across=whole)

    def _steps(self, view: Viewed, axis: int) -> list[float]:
        """Where along an axis a view shows a seen edge square to it, or a centre."""
        near, frame = self.sheet.near, view.frame
        across = frame.right[0] == axis
        way = frame.right[1] if across else frame.up[1]
        k = 0 if across else 1
        found = {}
        for run in shown(self.floats, frame):
            ends = self._straight(view, run) if run.seen else None
            if ends and abs(ends[0][k] - ends[1][k]) < near:
                found[round(ends[0][k] / near / 4)] = ends[0][k] * way
        for drawn in view.drawn:
            if drawn.radius:
                found[round(drawn.at[k] / near / 4)] = drawn.at[k] * way
        return sorted(found.values())

    def _size(self, view: Viewed, axis: int, ends: tuple[float, float], offset: float) -> None:
        """One size, measured from the low end."""
        reach, frame = self._reaches(), view.frame
        x, y = roughly(view.origin.x), roughly(view.origin.y)
        across = frame.right[0] == axis
        other, way = frame.up if across else frame.right
        edge = reach[other][way > 0] if across else reach[other][way < 0]  # its upper edge, or its left one
        found = []
        for end in ends:
            place = [0.0, 0.0, 0.0]
            place[axis], place[other] = end, edge
            u, v = frame.spot(place)
            found.append(Point(x + u, y + v))
        self.b.dimension(found[0], found[1], offset=offset)

    def _check(self) -> None:
        """Two routes to one thing: the depth in two views, the top of a circle on the level that touches it."""
        b, sheet = self.b, self.sheet
        top, side = sheet.views["top view"], sheet.views["left side view"]
        far = self._reaches()[1][1]
        with suppress(KeyError):
            depths = [self._read(view, sheet.at_known(view, 1, far).at, 1) for view in (top, side)]
            b.check("the top view is as deep as the side view", depths[0] - depths[1])
        for view in sheet.views.values():
            for drawn in view.drawn:
                if isinstance(drawn.shape, Circle):
                    for axis, way in ((view.frame.right[0], view.frame.right[1]), (view.frame.up[0], view.frame.up[1])):
                        k = 0 if axis == view.frame.right[0] else 1
                        with suppress(KeyError):
                            line = sheet.at_known(view, axis, drawn.at[k] * way + drawn.radius)
                            gap = absolute(plane.distance_to_line(drawn.shape.centre, line)) - drawn.shape.radius
                            b.check(f"the {line.name} touches the circle of the {view.frame.title}", gap)

    def _found(self, view: Viewed, place: Place) -> Point:
        """The image of a corner, read where lines of the view cross; brought over first where none do."""
        pair = self.sheet.pair(view, view.frame.spot(place))
        if pair is not None:
            return self.sheet.crossing(view, *pair, view.frame.spot(place))
        with self.b.gathered("mark", Instrument.PENCIL, "A corner, to read it off"):
            return self._placed(view, place)

    def _end(self, axis: int, at: float) -> Any:
        """How far one end of the body lies from the low corner, as it is drawn in the first view that has a line there."""
        for view in self.sheet.views.values():
            if axis in view.bases:
                with suppress(KeyError):
                    return self._read(view, self.sheet.at_known(view, axis, at).at, axis)
        return None

    def _read(self, view: Viewed, point: Point, axis: int) -> Any:
        """How far a place of a view lies from the low corner along an axis."""
        (across, way), (_, up) = view.frame.right, view.frame.up
        return (point.x - view.origin.x) * way if across == axis else (point.y - view.origin.y) * up
