"""A body of parts in a picture: each part light along the axes, then what is seen of the whole, heavy."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from contextlib import suppress
from fractions import Fraction
from itertools import product
from typing import TYPE_CHECKING

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.pictorial.crate_beside import Beside, Spots
from wisecompass.catalogue.pictorial.crate_flats import Flats
from wisecompass.catalogue.pictorial.projections import (
    CABINET,
    ISOMETRIC,
    ONE_POINT,
    TWO_POINT,
    axes_of,
)
from wisecompass.catalogue.solids.crate_plan import shown
from wisecompass.drafting.crating import Drawn, Spot, Viewed, chosen
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.picturing import Distance, SeenAsPoint, Vanishing, image_distance
from wisecompass.drafting.setting import Settable, bare, span
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.parts import RISING, Part, bounds, plane_of
from wisecompass.geometry.plane import Circle, Point
from wisecompass.geometry.surfaces import Cone, Pipe

if TYPE_CHECKING:
    from wisecompass.geometry.edges import Edge
    from wisecompass.geometry.sight import Run

STEP = 30
"""Degrees between the points that a rim is plotted by."""

FEWEST = 3
"""With fewer points a curve is plotted more closely."""


class Picture(Flats):
    """The whole sheet."""

    # ---------------------------------------------------------------------------------------------------- set out
    def set_out(self) -> Viewed:
        """The base and the axes."""
        b = self.b
        origin_point = b.point("A", b.number(0), b.number(0), why="the corner that the picture begins from")
        axes = axes_of(b, self.g, origin_point, self.rays)
        axes.scaled = self._scaled
        self.sheet.axes = axes
        view = Viewed(self.frame, origin_point, {})  # type: ignore[arg-type]
        self.sheet.views["picture"] = view
        for axis, line in enumerate(axes.lines):
            start = list(self.sheet.base)
            onward = list(start)
            onward[axis] += self.sheet.size * axes.ways[axis]
            self.sheet.know_line(view, line, view.frame.spot(start), view.frame.spot(onward))
        return view

    def _scaled(self, axis: int, length: Settable) -> Settable:
        if self.g.projection == CABINET and axis == 1:
            return length / 2
        return self._reduced.get(round(roughly(bare(length)), 9), length)

    def draw_parts(self) -> None:
        """Every part light, one after the other."""
        view = self.sheet.views["picture"]
        for n, floats in enumerate(self.floats, 1):
            what = f"Part {n}, {'taken away: a' if floats.taken else 'a'} {floats.kind}, light"
            with self.b.gathered("part", Instrument.SCALE, what):
                self._part(view, floats)
        self._two_routes(view)

    def _part(self, view: Viewed, part: Part) -> None:
        sheet = self.sheet
        low, high = (self._from_low(end) for end in bounds(part))
        if part.kind in ("box", "wedge"):
            for pick in product((0, 1), repeat=3):
                place = [(low, high)[k][axis] for axis, k in enumerate(pick)]
                sheet.place(view, place)
            for axis in range(3):
                i, j = (k for k in range(3) if k != axis)
                for first, second in product((low, high), repeat=2):
                    place = list(low)
                    place[i], place[j] = first[i], second[j]
                    sheet.run(view, axis, place)
            if part.kind == "wedge":
                self._slopes(view, part, low, high)
        elif part.kind == "prism":
            self._prism(view, part)
        elif part.axis == self.frame.eye_axis:
            self._facing_circles(view, part)
        else:
            centre = self._from_low(part.at)
            sheet.run(view, part.axis, centre)
            for axis in plane_of(part.axis):
                sheet.run(view, axis, centre)

    def _slopes(self, view: Viewed, part: Part, low: Sequence[float], high: Sequence[float]) -> None:
        """The slanting edges of a wedge, joined from foot to top."""
        axis, way = RISING[part.way]
        across = 1 - axis
        for side in (low, high):
            foot, top = list(low), list(high)
            foot[axis], top[axis] = (low[axis], high[axis]) if way > 0 else (high[axis], low[axis])
            foot[across] = top[across] = side[across]
            self._joined(view, foot, top)

    def look_up(self, places: Spots) -> None:
        """Take from the views beside it what the picture cannot find."""
        if places:
            self.b.bare_crossings = True
            Beside(self).learn(places)
            self.reduce_all()

    def _placed(self, view: Viewed, at: Sequence[float]) -> Point:
        """The image of a place; where only missing places are looked for, of any place."""
        try:
            return self.sheet.place(view, at)
        except SeenAsPoint:
            raise
        except LookupError:
            if self.missing is None:
                raise
        self.missing.append((at[0], at[1], at[2]))
        for axis, base in enumerate(self.sheet.base):
            if not self.sheet.is_known(axis, at[axis]):
                away = self.b.number(Fraction(abs(at[axis] - base)))
                self.sheet.know_distance(axis, at[axis], Distance(away, against=at[axis] < base))
        return self.sheet.place(view, at)

    def _joined(self, view: Viewed, first: Sequence[float], last: Sequence[float], *, must: bool = True) -> None:
        """The straight line through two places of the picture, unless it is there; not ``must``: if both are found."""
        if not self._is_drawn(view, first, last):
            found = self._placed if must else self.sheet.place
            start, end = found(view, first), found(view, last)
            line = self.b.joined(start, end, f"line {start.name} – {end.name}")
            self.sheet.know_line(view, line, view.frame.spot(first), view.frame.spot(last))

    def _prism(self, view: Viewed, part: Part) -> None:
        from wisecompass.geometry.parts import corners

        places = [self._from_low(place) for place in corners(part)]
        n = part.sides
        for row in (places[:n], places[n:]):
            for k in range(n):
                self._joined(view, row[k - 1], row[k])
        for place in places[:n]:
            self.sheet.run(view, part.axis, place)

    def _facing_circles(self, view: Viewed, part: Part) -> None:
        """Both rims of a round part that faces the picture plane: there circles are circles."""
        i, _ = plane_of(part.axis)
        ends = [self._from_low(part.at)]
        if part.kind == "cylinder":
            ends.append([c + (float(part.length) if axis == part.axis else 0.0) for axis, c in enumerate(ends[0])])
        for end in ends:
            rim = list(end)
            rim[i] += float(part.sizes[0]) / 2
            self._circle_at(view, end, rim)

    def _sections_of_rounds(self, view: Viewed) -> None:
        """Circles of round parts that face the picture where other faces cut them."""
        from wisecompass.geometry.curves_in_space import Wound

        wanted = []
        for edge in self.plan.body.edges:
            curve = edge.curve
            if not isinstance(curve, Wound) or edge.smooth or curve.on.axis != self.frame.eye_axis:
                continue
            axis, levels = curve.on.axis, edge.places(8)[:, curve.on.axis]
            if float(levels.max() - levels.min()) < self.sheet.near:
                end, apex = self._from_low(curve.on.centre), float(curve.on.centre[axis])
                end[axis] = float(levels[0]) - self.plan.low[axis]
                rim = list(end)
                radius = curve.on.radius if isinstance(curve.on, Pipe) else curve.on.slope * abs(float(levels[0]) - apex)
                rim[plane_of(axis)[0]] += float(radius)
                wanted.append((end, rim))
        wanted = [(end, rim) for end, rim in wanted if not self._has_circle(view, end, rim)]
        if wanted:
            with self.b.gathered("arc", Instrument.COMPASS, "Circles in which faces cut round parts"):
                for end, rim in wanted:
                    self._circle_at(view, end, rim)

    def _has_circle(self, view: Viewed, end: Sequence[float], rim: Sequence[float]) -> bool:
        near, spot, radius = self.sheet.near, view.frame.spot(end), image_distance(view, end, rim)
        return any(d.radius and d.holds_centre(spot, near) and abs(d.radius - radius) < near for d in view.drawn)

    def _circle_at(self, view: Viewed, end: Sequence[float], rim: Sequence[float]) -> None:
        if self._has_circle(view, end, rim):
            return
        spot, radius = view.frame.spot(end), image_distance(view, end, rim)
        centre, on = self._placed(view, end), self._placed(view, rim)
        view.drawn.append(Drawn(self.b.circle_through(centre, on), spot, radius=radius))

    # ------------------------------------------------------------------------------------------------------- lining in
    def line_in(self) -> None:
        """What is seen, heavy; then what is hidden, if that is wanted."""
        view = self.sheet.views["picture"]
        pieces = [run for run in shown(self.floats, self.frame) if run.seen or self.dashed]
        self._sections_of_rounds(view)
        straight, round_ones, plotted = self._sorted(view, pieces)
        self._draw_contours(view, pieces)
        self._slope_lines(view, pieces)
        self._along_axes(view, pieces)
        self._rule_lines(view, pieces)
        self._plot_all(view, plotted)
        for pen in (Pen.OUTLINE, *((Pen.HIDDEN,) if self.dashed else ())):
            if straight[pen].found:
                self._line_in(view, straight[pen], pen)
            self._arcs(view, [run for run in round_ones if run.seen == (pen is Pen.OUTLINE)], pen)

    def _draw_contours(self, view: Viewed, pieces: Sequence[Run]) -> None:
        """Straight contours of round parts: along the axis through the place where they touch a rim."""
        wanted = [run for run in pieces if run.contour and self._straight(view, run)]
        if not wanted:
            return
        with self.b.gathered("parallel", Instrument.SET_SQUARE, "Contours: through the places where they touch the rims"):
            for run in wanted:
                self._contour(view, run)

    def _contour(self, view: Viewed, run: Run) -> None:
        on = self.plan.body.model.surfaces[run.edge.surfaces[0]]
        ends = [self._from_low(place) for place in run.edge.places(1)]
        if isinstance(on, Cone):
            self._cone_contour(view, on, ends)
        elif isinstance(on, Pipe) and on.axis != self.frame.eye_axis:
            self.sheet.run(view, on.axis, ends[0])
        else:
            self._facing_contour(view, 1, ends)

    def _cone_contour(self, view: Viewed, on: Cone, ends: Sequence[Sequence[float]]) -> None:
        """From the apex to where it touches the rim."""
        apex = self._from_low(on.centre)
        rim = max(ends, key=lambda end: math.dist(end, apex))
        base = self._from_low(self._part_of(on).at)[on.axis]
        share = (base - apex[on.axis]) / (rim[on.axis] - apex[on.axis])  # it touches the base, though that be cut away
        rim = [a + (c - a) * share for a, c in zip(apex, rim, strict=True)]
        if on.axis != self.frame.eye_axis:
            self._joined(view, apex, rim)
            return
        if self._is_drawn(view, apex, rim):
            return
        drawn = next(d for d in view.drawn if d.radius and d.holds(view.frame.spot(rim), self.sheet.near))
        point = self.sheet.place(view, apex)
        touch = self._touching(view, drawn, self._over(drawn, point), view.frame.spot(rim))
        line = self.b.joined(point, touch, f"contour from {point.name}")
        self.sheet.know_line(view, line, view.frame.spot(apex), view.frame.spot(rim))

    def _facing_contour(self, view: Viewed, axis: int, ends: Sequence[Sequence[float]]) -> None:
        """Of a cylinder whose rims are seen as circles."""
        near = self.sheet.near
        spots = [view.frame.spot(end) for end in ends]
        spot, rim = next((spot, d) for spot in spots for d in view.drawn if d.radius and d.holds(spot, near))
        other = next(each for each in spots if math.dist(each, spot) > near)
        if any(d.is_straight and d.holds(other, near) for d in self.sheet.through(view, spot)):
            return
        touch = self._touching(view, rim, self._to_touch(rim), spot)
        assert self.sheet.axes is not None
        self.sheet.know_line(view, self.sheet.axes.through(axis, touch, "contour"), spot, other)

    def _touching(self, view: Viewed, rim: Drawn, cut: Drawn, spot: Spot) -> Point:
        assert view and not isinstance(rim.shape, str) and not isinstance(cut.shape, str)
        return self.b.meet(rim.shape, cut.shape, chosen(rim, cut, spot), self.b.crossing())

    def _to_touch(self, rim: Drawn) -> Drawn:
        """What cuts a circle where a contour touches it: the diameter square to the receding axis, or the circle over the
        middle and the vanishing point (Thales)."""
        b, axes, circle = self.b, self.sheet.axes, rim.shape
        assert isinstance(circle, Circle) and axes is not None
        if not isinstance(axes, Vanishing):
            depth = axes.lines[1]
            square = b.square(depth, circle.centre, b.unique(f"square to the depth at {circle.centre.name}"))
            return Drawn(square, rim.at, (-roughly(depth.dy), roughly(depth.dx)))
        return self._over(rim, axes.to[1][0])

    def _over(self, rim: Drawn, place: Point) -> Drawn:
        """The circle over the middle of a rim and a place: it cuts the rim where lines from that place touch it (Thales)."""
        b, axes, circle = self.b, self.sheet.axes, rim.shape
        assert isinstance(circle, Circle) and axes is not None
        middle = b.divide(circle.centre, place, 2, [b.unique(f"middle for {circle.centre.name}")])[0]
        over = b.arc(middle, span(middle, place), name=b.unique(f"circle over {circle.centre.name}"))
        at = roughly(middle.x) - roughly(axes.base.x), roughly(middle.y) - roughly(axes.base.y)
        return Drawn(over, at, radius=math.dist(at, rim.at))

    def _slope_lines(self, view: Viewed, pieces: Sequence[Run]) -> None:
        """Where a slope is cut square to its wedge's triangle: the line from its foot to its top there."""
        cuts: list[tuple[list[float], list[float]]] = []
        for run in pieces:
            if run.contour or not run.edge.curve.is_straight:
                continue
            for place in run.edge.places(1):
                cuts += self._sections(self._from_low(place))
        cuts = [(foot, top) for foot, top in cuts if not self._is_drawn(view, foot, top)]
        if cuts:
            with self.b.gathered("join", Instrument.STRAIGHTEDGE, "Slopes where other faces cut them, from foot to top"):
                for foot, top in cuts:
                    with suppress(LookupError):
                        self._joined(view, foot, top, must=False)

    def _along_axes(self, view: Viewed, pieces: Sequence[Run]) -> None:
        """Edges along an axis that no part brings: through that one of their ends to which something leads."""
        missing = []
        for run in pieces:
            if run.contour or not run.edge.curve.is_straight:
                continue
            first, last = (self._from_low(end) for end in run.edge.places(1))
            along = [k for k in range(3) if abs(first[k] - last[k]) > self.sheet.near]
            if len(along) == 1 and not self._is_drawn(view, first, last):
                missing.append((along[0], first, last))
        if missing:
            with self.b.gathered("parallel", Instrument.SET_SQUARE, "Edges along an axis that no part brings"):
                for _ in range(2):  # one may lead to another
                    for axis, first, last in missing:
                        if not self._is_drawn(view, first, last):
                            self._through_an_end(view, axis, first, last)

    def _through_an_end(self, view: Viewed, axis: int, first: Sequence[float], last: Sequence[float]) -> None:
        assert self.sheet.axes is not None
        for start, end in ((first, last), (last, first)):
            with suppress(LookupError):
                point = self.sheet.place(view, start)
                line = self.sheet.axes.through(axis, point, f"edge through {point.name}")
                self.sheet.know_line(view, line, view.frame.spot(start), view.frame.spot(end))
                return

    def _is_drawn(self, view: Viewed, first: Sequence[float], last: Sequence[float]) -> bool:
        """Whether the straight line through two places is there, or they are seen in one place."""
        near, one, other = self.sheet.near, view.frame.spot(first), view.frame.spot(last)
        if math.dist(one, other) < near:
            return True
        return any(d.is_straight and d.holds(other, near) for d in self.sheet.through(view, one))

    def _sections(self, place: Sequence[float]) -> Iterator[tuple[list[float], list[float]]]:
        """For a place on slopes of wedges: the foot and the top of each slope in the plane through it."""
        near = self.sheet.near
        for part in self.floats:
            if part.kind != "wedge":
                continue
            axis, way = RISING[part.way]
            low, high = (self._from_low(end) for end in bounds(part))
            run, rise = high[axis] - low[axis], high[2] - low[2]
            share = (place[axis] - low[axis]) / run if way > 0 else (high[axis] - place[axis]) / run
            level = low[2] + share * rise
            if abs(place[2] - level) > near or not -1e-9 <= share <= 1 + 1e-9:
                continue
            foot, top = list(low), list(high)
            foot[axis], top[axis] = (low[axis], high[axis]) if way > 0 else (high[axis], low[axis])
            foot[1 - axis] = top[1 - axis] = place[1 - axis]
            if self.sheet.is_known(1 - axis, place[1 - axis]):
                yield foot, top

    # ------------------------------------------------------------------------------------------------------ plotted rims
    def _points(self, view: Viewed, edge: Edge) -> list[Point]:
        """Points of a curve: its ends, if something leads there, and those at the set squares' steps; of a short one at half
        of these, and one more beyond each end, which only guides it.

        Raises:
            LookupError: there are not enough to draw it by.
        """
        found: list[Point] = []
        for step in (STEP, STEP / 2):
            found = self._points_by(view, edge, step, beyond=step < STEP)
            known = found if self.missing is None else self._inner(edge, step)  # what is missing may be an end that stays so
            if min(len(found), len(known)) >= FEWEST:
                break
        if len(found) < 2:
            raise LookupError("a curve to which nothing leads")
        return found

    @staticmethod
    def _inner(edge: Edge, step: float) -> list[float]:
        """The angles of a curve at the set squares' steps between its ends."""
        first, last = math.degrees(edge.low) / step, math.degrees(edge.high) / step
        return [math.radians(step * k) for k in range(math.ceil(first + 1e-6), math.floor(last - 1e-6) + 1)]

    def _points_by(self, view: Viewed, edge: Edge, step: float, *, beyond: bool) -> list[Point]:
        low, high = edge.low, edge.high
        first, last = math.degrees(low) / step, math.degrees(high) / step
        inner = self._inner(edge, step)
        ends = [] if edge.closes else [low, high]
        if beyond and not edge.closes:
            ends += [math.radians(step * k) for k in (math.ceil(first + 1e-6) - 1, math.floor(last - 1e-6) + 1)]
        found = []
        for t in sorted({*inner, *ends}):
            place = edge.curve.place(t)
            if t in ends:  # to which perhaps nothing leads: the curve is cut off where it meets what ends it
                with suppress(LookupError):
                    if self._is_near(place):
                        found.append(self._placed(view, self._from_low(place)))
            else:
                found.append(self._placed(view, self._from_low(place)))
        return found

    # ------------------------------------------------------------------------------------------------------- measuring
    def measure(self) -> None:
        """The crate's edges as they are drawn, the vanishing points, and every corner that has been found."""
        self.show_in_space()
        b, view = self.b, self.sheet.views["picture"]
        reach = [(first - low, last - low) for (first, last), low in zip(self.plan.reach, self.plan.low, strict=True)]
        for name, axis in (("length_drawn", 0), ("depth_drawn", 1), ("height_drawn", 2)):
            ends = [list(self.sheet.base), list(self.sheet.base)]
            ends[0][axis], ends[1][axis] = reach[axis]
            with suppress(LookupError):
                first, last = (self._placed(view, end) for end in ends)
                b.find(name, plane.distance(first, last))
        if self.g.projection == TWO_POINT:
            middle = b.points["V"]
            for name, point in (("vanishing_left", b.points["VL"]), ("vanishing_right", b.points["VR"])):
                b.find(name, plane.distance(middle, point))  # type: ignore[arg-type]
        for name, corner in self.plan.named.items():
            spot = view.frame.spot(self.plan.place(corner))
            known = view.points.get(view.key(spot, self.sheet.near))
            if known is not None:
                b.points[name] = known.named(name)  # a place that is there: no letter of its own

    def dimension(self) -> None:
        """The sizes of the whole along its axes, where these are true or told as they are (ISO 129-1, ISO 5456-3)."""
        if not self.b.drawing or self.g.projection in (ONE_POINT, TWO_POINT):
            return
        view = self.sheet.views["picture"]
        x0, y0 = roughly(view.origin.x), roughly(view.origin.y)
        (left, right), (near, far), (low, high) = (
            (first - low, last - low) for (first, last), low in zip(self.plan.reach, self.plan.low, strict=True)
        )
        isometric, back_left = self.g.projection == ISOMETRIC, self.g.recedes == "up left"
        beside = right if isometric or not back_left else left
        edges = (
            ((right, near, low), (left, near, low), right - left, 9.0),
            ((beside, near, low), (beside, far, low), far - near, 9.0 if back_left and not isometric else -9.0),
            ((left, near, low), (left, near, high), high - low, 9.0)
            if not (back_left and not isometric)
            else ((right, near, low), (right, near, high), high - low, -9.0),
        )
        for start, end, size, offset in edges:
            ends = []
            for place in (start, end):
                x, y = view.frame.spot(place)
                ends.append(Point(x0 + x, y0 + y))
            self.b.dimension(ends[0], ends[1], offset=offset, true=size)

    def _two_routes(self, view: Viewed) -> None:
        """Two routes to the far top corner of the crate: up and back, or along."""
        sheet = self.sheet
        reach = [(first - low, last - low) for (first, last), low in zip(self.plan.reach, self.plan.low, strict=True)]
        far = [reach[0][0] if self.g.projection == ISOMETRIC else reach[0][1], reach[1][1], reach[2][1]]
        with suppress(LookupError):
            if all(sheet.is_known(axis, far[axis]) for axis in range(3)):
                with self.b.gathered("parallel", Instrument.SET_SQUARE, "The far top corner of the whole, by two routes"):
                    there = sheet.place(view, far)
                    along = sheet.run(view, 0, far)
                    foot = sheet.place(view, [far[0], far[1], 0.0])
                    top = sheet.place(view, [*self.sheet.base[:2], far[2]])
                self.b.check("two routes to the far top corner meet", plane.distance_to_line(there, along))
                near, high = plane.distance(view.origin, top), plane.distance(foot, there)
                if self.g.projection in (ONE_POINT, TWO_POINT):  # heights shrink as their feet come nearer to the horizon
                    eye = bare(self.g.eye_height)
                    near = near * (eye - (foot.y - view.origin.y)) / eye
                self.b.check("the far upright is as high as it must be", high - near)
