"""Lining in the views of a body: straight pieces along the lines that are there, arcs, and plotted curves."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from contextlib import suppress
from fractions import Fraction
from functools import cached_property
from itertools import pairwise
from typing import TYPE_CHECKING

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.solids.crate_curves import Plotted
from wisecompass.catalogue.solids.crate_parts import Ends, Place
from wisecompass.catalogue.solids.crate_plan import back, is_met_by_lines, shown
from wisecompass.drafting.crating import Drawn, Spot, Viewed
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.view import Belonging
from wisecompass.geometry.plane import Circle, Line, Point

if TYPE_CHECKING:
    from wisecompass.geometry.edges import Edge
    from wisecompass.geometry.sight import Run


MANTLE = 4
"""So many generators show in the picture in space how a round face runs."""

CHORDS = 24
"""Chords by which the picture in space follows a curved edge."""


class Stretches:
    """Straight pieces of a view, put together where they go on or lie on each other."""

    def __init__(self, near: float) -> None:
        self.near = near
        self.found: dict[tuple[int, ...], list[tuple[float, float, tuple[Spot, Place], tuple[Spot, Place]]]] = {}

    def add(self, first: Spot, last: Spot, start: Place, end: Place) -> None:
        dx, dy = last[0] - first[0], last[1] - first[1]
        if ((dx, dy) < (0.0, 0.0) and abs(dx) > self.near) or (abs(dx) <= self.near and dy < 0):
            first, last, start, end, dx, dy = last, first, end, start, -dx, -dy
        size = math.hypot(dx, dy)
        ux, uy = dx / size, dy / size
        key = tuple(round(c) for c in (ux * 1e6, uy * 1e6, (first[0] * uy - first[1] * ux) / self.near / 8))
        low, high = first[0] * ux + first[1] * uy, last[0] * ux + last[1] * uy
        self.found.setdefault(key, []).append((low, high, (first, start), (last, end)))

    def joined(self) -> list[tuple[tuple[Spot, Place], tuple[Spot, Place]]]:
        """The stretches of every line, each from one of its ends to the other."""
        done = []
        for several in self.found.values():
            runs: list[tuple[float, float, tuple[Spot, Place], tuple[Spot, Place]]] = []
            for low, high, first, last in sorted(several, key=lambda each: each[:2]):
                if runs and low <= runs[-1][1] + self.near:
                    if high > runs[-1][1]:
                        runs[-1] = runs[-1][0], high, runs[-1][2], last
                else:
                    runs.append((low, high, first, last))
            done += [(first, last) for _, _, first, last in runs]
        return done


def _in_a_line(spots: Sequence[Spot]) -> bool:
    """Whether spots lie in a straight line: a curve that is seen on edge does, one that is only short does not."""
    x1, y1 = spots[0]
    x2, y2 = max(spots, key=lambda spot: math.dist(spot, spots[0]))
    size = math.hypot(x2 - x1, y2 - y1)
    bent = max(abs((x - x1) * (y2 - y1) - (y - y1) * (x2 - x1)) for x, y in spots)
    return bent <= BENT * size * size


BENT = 1e-6
"""The share of its length by which a curve that is seen on edge may seem bent."""


class LinedIn(Plotted):
    """The same with what is seen and what is hidden."""

    # -------------------------------------------------------------------------------------------------------- in space
    def show_in_space(self) -> None:
        """The edges in the picture in space, in floats: all of them, for a body is one thing; and which images on the sheet
        are one edge's, and which parts it is of."""
        b = self.b
        if not b.drawing:
            return
        wall, (low_x, _, low_z) = float(back(self.floats)), self.plan.low
        origins = [(view.frame, roughly(view.origin.x), roughly(view.origin.y)) for view in self.sheet.views.values()]
        for edge in self.plan.body.edges:
            if edge.smooth:
                continue
            places = edge.places(CHORDS).tolist()
            from_low = [self._from_low(place) for place in places]
            images = []
            for frame, x0, y0 in origins:
                spots = map(frame.spot, from_low)
                images.append((b.block_name, tuple((x0 + x, y0 + y) for x, y in spots)))
            way = tuple((x - low_x, wall - y, z - low_z) for x, y, z in places)
            b.in_space_along(way)
            b.belongings.append(Belonging(self._parts_of(edge), tuple(images), way))
        for x, y, z, u, v, w in self._mantles():
            b.in_space_along(((x - low_x, wall - y, z - low_z), (u - low_x, wall - v, w - low_z)), Pen.CONSTRUCTION)

    def _mantles(self) -> Iterator[list[float]]:
        """Lines that show how round faces run: where some of their generators lie on the body."""
        from wisecompass.geometry.edges import generator_on
        from wisecompass.geometry.surfaces import Flat

        body = self.plan.body
        for k, surface in enumerate(body.model.surfaces):
            if not isinstance(surface, Flat):
                for n in range(MANTLE):
                    for piece in generator_on(body, k, math.tau * (n + 0.5) / MANTLE):
                        yield piece.places(1).ravel().tolist()

    def _parts_of(self, edge: Edge) -> tuple[int, ...]:
        """The numbers of the parts on whose surfaces an edge lies, from 1."""
        import numpy as np

        model, middle = self.plan.body.model, edge.curve.place(edge.middle)
        at = np.array(middle)
        reached = ((model.lows - model.near <= at) & (at <= model.highs + model.near)).all(axis=1)
        return tuple(n + 1 for n in np.flatnonzero(reached).tolist() if any(k in edge.surfaces for k, _ in model.walls[n]))

    # ------------------------------------------------------------------------------------------------------- lining in
    def enclose(self) -> None:
        """The crate that just holds the body, thin and broken in every view, along the lines that are there."""
        why = "the crate that just holds the body"
        with self.b.gathered("draw edges", Instrument.STRAIGHTEDGE):
            for view in self.sheet.views.values():
                (across, _), (up, _) = view.frame.right, view.frame.up
                (left, right), (low, high) = (self._reaches()[axis] for axis in (across, up))
                corners = []
                for x, y in ((left, low), (right, low), (right, high), (left, high)):
                    place = [0.0, 0.0, 0.0]
                    place[across], place[up] = x, y
                    corners.append((view.frame.spot(place), place))
                for first, last in pairwise([*corners, corners[0]]):
                    if self._is_line(view, first[0], last[0]):
                        self._ink(view, first, last, Pen.CRATE, why)

    def line_in(self) -> None:
        """What is seen in every view, then what is hidden."""
        for view in self.sheet.views.values():
            pieces = shown(self.floats, view.frame)
            self._cut_cones(view, pieces)
            straight, round_ones, plotted = self._sorted(view, pieces)
            self._rule_lines(view, pieces)
            self._plot_all(view, plotted)
            for pen in (Pen.OUTLINE, Pen.HIDDEN):
                if straight[pen].found:
                    self._line_in(view, straight[pen], pen)
                self._arcs(view, [run for run in round_ones if run.seen == (pen is Pen.OUTLINE)], pen)

    def _cut_cones(self, view: Viewed, pieces: Sequence[Run]) -> None:
        """Circles on which cones are cut square to their axes, where they are seen as such: through a point of the
        contour."""
        from wisecompass.geometry.surfaces import Cone

        sheet, frame = self.sheet, view.frame
        wanted: dict[tuple[float, ...], tuple[Spot, list[float]]] = {}
        for run in pieces:
            cones = [self.plan.body.model.surfaces[k] for k in run.edge.surfaces]
            cone = next((each for each in cones if isinstance(each, Cone) and each.axis == frame.eye_axis), None)
            spots = self._spots(view, run, 8)
            if cone is None or run.edge.curve.is_straight or self._circle(view, spots) is not None:
                continue
            middle = self._from_low(cone.centre)
            centre = frame.spot(middle)
            radius = math.dist(centre, spots[0])
            if all(abs(math.dist(centre, spot) - radius) < sheet.near for spot in spots):
                at = list(self._from_low(run.places(1)[0]))
                across, way = frame.right
                at[across], at[frame.up[0]] = middle[across] + radius * way, middle[frame.up[0]]
                wanted[tuple(round(c, 6) for c in (*centre, radius))] = centre, at
        if wanted:
            with self.b.gathered("arc", Instrument.COMPASS, f"Where cones are cut, in the {frame.title}"):
                for centre, at in wanted.values():
                    on, middle_point = sheet.place(view, at), sheet.mark(view, centre)
                    assert middle_point is not None
                    circle = self.b.circle_through(middle_point, on)
                    view.drawn.append(Drawn(circle, centre, radius=math.dist(centre, frame.spot(at))))

    def _sorted(self, view: Viewed, pieces: Sequence[Run]) -> tuple[dict[Pen, Stretches], list[Run], list[Run]]:
        """What is straight in a view, by its pen, what is an arc, and what must be plotted."""
        straight = {pen: Stretches(self.sheet.near) for pen in (Pen.OUTLINE, Pen.HIDDEN)}
        arcs: list[Run] = []
        seen: set[tuple[int, bool]] = set()
        plotted: list[Run] = []
        for run in pieces:
            ends = self._straight(view, run)
            if ends is None:
                spots = self._spots(view, run, 8)
                circle = self._circle(view, spots)
                whole = (id(circle), True) if run.closes else (id(run), False)
                if circle is None:
                    plotted.append(run)
                elif whole not in seen:  # of two rims that are seen as one circle only the seen one is drawn
                    seen.add(whole)
                    arcs.append(run)
            elif ends:
                straight[Pen.OUTLINE if run.seen else Pen.HIDDEN].add(*ends)
        return straight, arcs, plotted

    def _circle(self, view: Viewed, spots: Sequence[Spot]) -> Drawn | None:
        """The circle of a view on which places lie."""
        near = self.sheet.near
        return next((d for d in view.drawn if d.radius and all(d.holds(spot, near) for spot in spots)), None)

    def _rule_lines(self, view: Viewed, pieces: Sequence[Run]) -> None:
        """Draw the lines on which straight pieces lie that no part has brought: through the ends of their edges."""
        frame, missing = view.frame, []
        for run in pieces:
            straight = self._straight(view, run)
            if not straight:
                continue
            first, last, *ends = straight
            if self._runs_straight(view, run.edge):  # its corners are sooner found than where another passes before it
                ends = [self._from_low(run.edge.curve.place(t)) for t in (run.edge.low, run.edge.high)]
                first, last = (frame.spot(end) for end in ends)
            if not self._is_line(view, first, last):
                missing.append((first, last, ends))
        if missing:
            with self.b.gathered("join", Instrument.STRAIGHTEDGE, f"Edges of the {frame.title} that no part brings"):
                for first, last, ends in missing:
                    if self._is_line(view, first, last):
                        continue
                    one, other = self._placed(view, ends[0]), self._placed(view, ends[1])
                    self._know(view, self.b.joined(one, other, f"line {one.name} – {other.name}"), first, last)

    def _line_in(self, view: Viewed, lines: Stretches, pen: Pen) -> None:
        b, seen = self.b, pen is Pen.OUTLINE
        why = f"the {view.frame.title}" if seen else f"what is hidden in the {view.frame.title}, dashed and thin"
        with b.gathered("line in" if seen else "draw edges", Instrument.STRAIGHTEDGE):
            for first, last in lines.joined():
                self._ink(view, first, last, pen, why)
        if not seen:
            b.caution("Hidden edges are thin: drawn heavy they would be taken for edges before.")

    @cached_property
    def _straight_ends(self) -> dict[tuple[str, int], tuple[Run, Ends]]:
        return {}

    def _straight(self, view: Viewed, run: Run) -> Ends:
        """The ends of a piece that is straight in the view; remembered, for it is asked for again and again."""
        key = view.frame.title, id(run)
        if key not in self._straight_ends:
            self._straight_ends[key] = run, self._ends_of(view, run)  # with the piece, so that no other is taken for it
        return self._straight_ends[key][1]

    def _ends_of(self, view: Viewed, run: Run) -> Ends:
        near, frame, straight = self.sheet.near, view.frame, run.edge.curve.is_straight
        places = [self._from_low(place) for place in run.places(1 if straight else 8).tolist()]
        spots = [frame.spot(place) for place in places]
        (x1, y1), (x2, y2) = spots[0], spots[-1]
        size = math.hypot(x2 - x1, y2 - y1)
        if straight and size < near:
            return ()
        if not straight:
            if size < near or not _in_a_line(self._spots_along(view, run.edge)):
                return None
            if not self._is_line(view, spots[0], spots[-1]) and not self._is_met(run):
                return None
        return spots[0], spots[-1], places[0], places[-1]

    def _spots_along(self, view: Viewed, edge: Edge) -> list[Spot]:
        return [view.frame.spot(self._from_low(place)) for place in edge.places(8).tolist()]

    def _runs_straight(self, view: Viewed, edge: Edge) -> bool:
        """Whether an edge is straight, or seen so from one of its ends to the other."""
        if edge.curve.is_straight or edge.closes:
            return edge.curve.is_straight
        spots = self._spots_along(view, edge)
        across = math.dist(spots[0], spots[-1])
        return _in_a_line(spots) and across > max(math.dist(spots[0], spot) for spot in spots[:-1])

    def _is_line(self, view: Viewed, first: Spot, last: Spot) -> bool:
        """Whether the straight line through two spots is there."""
        return any(d.is_straight and d.holds(last, self.sheet.near) for d in self.sheet.through(view, first))

    def _is_met(self, run: Run) -> bool:
        """Whether straight lines and circles lead to both ends of a piece's edge."""
        return all(end < 0 or is_met_by_lines(self.plan.body, end) for end in run.edge.ends)

    def _ink(self, view: Viewed, first: tuple[Spot, Place], last: tuple[Spot, Place], pen: Pen, why: str) -> None:
        """Line in a straight piece: along a line that is there, from where one crosses it to where another does."""
        sheet, b = self.sheet, self.b
        along = [d for d in sheet.through(view, first[0]) if d.is_straight and d.holds(last[0], sheet.near)]
        on, points = along[0], []
        ends: list[Drawn | str | None] = []
        assert isinstance(on.shape, Line)
        for spot, place in (first, last):
            across = self._across(view, on, spot)
            if across is None:
                with suppress(LookupError):
                    sheet.place(view, place)
                across = self._across(view, on, spot)
            curve = None if across else self._curve_at(view, spot)
            if across is not None and not across.radius:
                points.append(sheet.crossing(view, on, across, spot))
            elif curve is not None:
                points.append(curve[0])
            else:
                points.append(self._placed(view, place))
            ends.append(across or (None if curve is None else curve[1]))
        marked = [end is None or (isinstance(end, Drawn) and bool(end.radius)) for end in ends]
        if any(marked) and not any(isinstance(end, str) for end in ends):
            named = [self._placed(view, place) for _, place in (first, last)]
            b.edge(named[0], named[1], pen, why=why)
            return
        one, other = (
            end if isinstance(end, str) else point if end is None or isinstance(end.shape, Circle) else end.shape
            for end, point in zip(ends, points, strict=True)
        )
        b.line_in_between(on.shape, (one, other), (points[0], points[1]), pen, why)
        for point in points:
            b.touch(on.shape, point)

    def _across(self, view: Viewed, on: Drawn, spot: Spot) -> Drawn | None:
        """What crosses a straight line at a spot: another where there is one, else a circle."""
        found = (d for d in self.sheet.through(view, spot) if not d.runs_with(on) and d is not on)
        return next(found, None)

    def _arcs(self, view: Viewed, several: Sequence[Run], pen: Pen) -> None:
        """Line in the pieces that are arcs in a view."""
        if several:
            dashed = "" if pen is Pen.OUTLINE else ", what is hidden, dashed and thin"
            with self.b.gathered("line in arc", Instrument.COMPASS, f"The {view.frame.title}{dashed}"):
                for run in several:
                    self._arc(view, run, pen)

    def _arc(self, view: Viewed, run: Run, pen: Pen) -> None:
        """Line in one of them."""
        sheet, b = self.sheet, self.b
        spots = self._spots(view, run, 8)
        drawn = self._circle(view, spots)
        assert drawn is not None
        circle = drawn.shape
        assert isinstance(circle, Circle)
        if run.closes:
            start = sheet.mark(view, (drawn.at[0] + drawn.radius, drawn.at[1]))
            assert start is not None
            b.line_in_arc(circle.centre, start, start, pen=pen)
            return
        ends = [self._arc_end(view, self._from_low(run.places(8)[k])) for k in (0, -1)]
        (cx, cy), (x1, y1), (x2, y2) = drawn.at, spots[0], spots[1]
        if (x1 - cx) * (y2 - cy) - (y1 - cy) * (x2 - cx) < 0:
            ends.reverse()
        (start, first), (end, last) = ends
        b.line_in_arc(circle.centre, start, end, pen=pen, curves=(first, last))

    def _arc_end(self, view: Viewed, at: Sequence[float]) -> tuple[Point, str]:
        """Where an arc ends; to which no line leads, on a plotted curve, with its name."""
        try:
            return self._placed(view, at), ""
        except LookupError:
            curve = self._curve_at(view, view.frame.spot(at))
            if curve is None:
                raise
            return curve

    def _curve_at(self, view: Viewed, spot: Spot) -> tuple[Point, str] | None:
        """A place of a view on a plotted curve, with the curve's name."""
        drawn = next((d for d in view.drawn if d.chords and d.holds(spot, self.sheet.near)), None)
        if drawn is None:
            return None
        x, y = roughly(view.origin.x) + spot[0], roughly(view.origin.y) + spot[1]
        return Point(self.b.number(Fraction(x)), self.b.number(Fraction(y))), str(drawn.shape)
