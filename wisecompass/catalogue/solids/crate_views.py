"""The views of a body made of parts, each by projectors: part after part in all views, then what is seen, then what is
hidden."""

from __future__ import annotations

import math
from collections.abc import Sequence
from contextlib import suppress
from fractions import Fraction
from itertools import pairwise
from typing import TYPE_CHECKING, Any, TypeAlias, cast

from wisecompass.arithmetic import absolute, roughly
from wisecompass.catalogue.solids.crate_plan import SIX, THREE, Plan, back, in_floats, origin, plan_of, shown
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Projection
from wisecompass.drafting.crating import BOTTOM, FRONT, LEFT, REAR, RIGHT, TOP, Drawn, Frame, Sheet, Spot, Viewed
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import Settable, bare
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.parts import RISING, Part, bounds
from wisecompass.geometry.plane import Circle, Line, Point

if TYPE_CHECKING:
    from wisecompass.geometry.curves_in_space import Wound
    from wisecompass.geometry.edges import Edge
    from wisecompass.geometry.sight import Run

BETWEEN = 0.45
"""White between two views, as a share of the body's size."""

STEP = 15
"""The set squares' step: a curve that is neither straight nor round in a view is plotted at so many degrees about its
pipe."""


def as_array(t: float) -> Any:
    import numpy as np

    return np.array(t)


Place: TypeAlias = Sequence[float]
"""A place in space from the low corner."""


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


FIRST_SIZE, NEXT_SIZE, MOST_STEPS = 9.0, 8.0, 4
"""How far the first size stands off the view and each further one off that, mm on paper, and how many steps are
dimensioned."""


class Crate:
    """The sheet as it is drawn."""

    def __init__(self, b: Board, g: Any) -> None:
        self.b, self.parts = b, g.parts
        self.floats = in_floats(g.parts)
        self.plan: Plan = plan_of(self.floats)
        self.low: list[Settable] = [origin(g.parts, axis) for axis in range(3)]
        self.sheet = Sheet(b, self.plan.body.model.size)
        self.frames = SIX if g.views == "six" else THREE

    def away(self, place: Any, axis: int) -> Any:
        """How far a place is from the low corner along an axis."""
        return place if roughly(bare(self.low[axis])) == 0 else place - self.low[axis]

    # ------------------------------------------------------------------------------------------------------ the views
    def lay_out(self) -> None:
        """The low corner in every view, and the lines through it along which the view is measured."""
        b = self.b
        first = b.conventions.projection is Projection.FIRST
        a = b.point("A", b.number(0), b.number(0), why="the lowest left front corner, in the front view")
        ground = b.level_line(a, "level at 0", why="the foot of everything")
        upright = b.upright_line(a, "upright at 0", why="the left end")
        front = Viewed(FRONT, a, {0: ground, 2: upright})
        self.sheet.views["front view"] = front
        self.sheet.know(front, 0, 0.0, upright)
        self.sheet.know(front, 2, 0.0, ground)
        for letter, frame in zip("BCDEF", self.frames[1:], strict=False):
            self._begin(frame, letter, first)

    def _begin(self, frame: Frame, letter: str, first: bool) -> None:
        """The low corner in another view: under the front view or beside it, clear of what lies between."""
        b, front = self.b, self.sheet.views["front view"]
        (left, wide), (near, deep), (foot, high) = self._reaches()
        white = BETWEEN * max(wide, deep, high) ** 0.5 * max(deep - near, high - foot) ** 0.5
        away = {
            TOP: foot - white - deep if first else high + white - near,
            BOTTOM: high + white + deep if first else foot - white + near,
            LEFT: wide + white + deep if first else left - white + near,
            RIGHT: left - white - deep if first else wide + white - near,
            REAR: 2 * wide + 2 * white + deep - near,
        }[frame]
        over = frame in (TOP, BOTTOM)
        line = front.bases[2] if over else front.bases[0]
        opening = b.any_opening(b.number(max(1, round(abs(away)))))
        why = f"for the {frame.title}, where there is room"
        origin = b.lay_off(line, front.origin, opening, letter, back=away < 0, why=why)
        name = f"depth at 0, {frame.title}" if frame is not REAR else "upright at 0, rear view"
        base = (b.level_line if over else b.upright_line)(origin, name, why="the front face" if frame is not REAR else "")
        own = next(axis for axis in (frame.right[0], frame.up[0]) if axis != (0 if over else 2))
        bases = {0: base, 1: front.bases[2]} if over else {own: front.bases[0], 2: base}
        view = Viewed(frame, origin, bases)
        self.sheet.views[frame.title] = view
        for shared in self.sheet.members(view, 0 if over else 2)[1:2]:
            view.drawn += [d for d in shared.drawn if (d.way[0] == 0.0) == over]
        self.sheet.know(view, own, 0.0, base)

    def _reaches(self) -> list[tuple[float, float]]:
        """How far the body reaches along each axis, from the low corner."""
        return [(first - low, last - low) for (first, last), low in zip(self.plan.reach, self.plan.low, strict=True)]

    # ------------------------------------------------------------------------------------------------------ the parts
    def draw_parts(self) -> None:
        for n, (part, floats) in enumerate(zip(self.parts, self.floats, strict=True), 1):
            what = f"{'take away ' if part.taken else ''}the {part.kind}, line {n}"
            with self.b.gathered("part", Instrument.SCALE, why=what):
                for view in self.sheet.views.values():
                    self._draw(view, part, floats)

    def _draw(self, view: Viewed, part: Any, floats: Part) -> None:
        """A part in a view: the lines on which its ends and sides lie."""
        if floats.kind in ("box", "wedge"):
            for axis in (view.frame.right[0], view.frame.up[0]):
                self._ends(view, part, axis)
            if floats.kind == "wedge" and view.frame.eye_axis == floats.axis:
                self._slope(view, floats)
            return
        if view.frame.eye_axis == floats.axis:
            self._end_on(view, part, floats)
            return
        self._ends(view, part, floats.axis)
        other = next(a for a in (view.frame.right[0], view.frame.up[0]) if a != floats.axis)
        if floats.kind == "prism":
            return  # its corners are brought over when they are known
        centre = self.away(part.at[other], other)
        self.sheet.at(view, other, centre, Pen.CENTRE)
        for sign in (-1, 1):
            self.sheet.at(view, other, centre + part.sizes[0] / 2 * sign if sign > 0 else centre - part.sizes[0] / 2)
        if floats.kind == "cone":
            self._cone(view, floats, other)

    def _ends(self, view: Viewed, part: Any, axis: int) -> None:
        start = part.at[axis]
        length = part.sizes[axis] if part.kind in ("box", "wedge") else part.length
        for place in (start, start + length):
            self.sheet.at(view, axis, self.away(place, axis))

    def _slope(self, view: Viewed, part: Part) -> None:
        """The slope of a wedge where it is seen on edge: from its foot to its top."""
        axis, way = RISING[part.way]
        low, high = bounds(part)
        foot, top = list(low), list(high)
        foot[axis], top[axis] = (low[axis], high[axis]) if way > 0 else (high[axis], low[axis])
        self._join(view, [float(c) for c in foot], [float(c) for c in top], "slope")

    def _cone(self, view: Viewed, part: Part, other: int) -> None:
        apex = [float(c) for c in part.at]
        apex[part.axis] += float(part.length)
        for sign in (-1.0, 1.0):
            rim = [float(c) for c in part.at]
            rim[other] += sign * float(part.sizes[0]) / 2
            self._join(view, rim, apex, "contour")

    def _join(self, view: Viewed, start: Sequence[float], end: Sequence[float], name: str) -> Line:
        """The line through two places of a view."""
        sheet, low = self.sheet, self.plan.low
        first, last = ([c - base for c, base in zip(place, low, strict=True)] for place in (start, end))
        one, other = sheet.place(view, first), sheet.place(view, last)
        line = self.b.joined(one, other, name)
        self._know(view, line, view.frame.spot(first), view.frame.spot(last))
        return line

    def _know(self, view: Viewed, line: Line, start: Spot, end: Spot) -> None:
        dx, dy = end[0] - start[0], end[1] - start[1]
        size = (dx * dx + dy * dy) ** 0.5
        view.drawn.append(Drawn(line, start, (dx / size, dy / size)))

    def _end_on(self, view: Viewed, part: Any, floats: Part) -> None:
        """A round part or a prism seen along its axis."""
        b, sheet, frame = self.b, self.sheet, view.frame
        lines = [sheet.at(view, axis, self.away(part.at[axis], axis), Pen.CENTRE) for axis in (frame.right[0], frame.up[0])]
        place = [float(c) - low for c, low in zip(floats.at, self.plan.low, strict=True)]
        spot = frame.spot(place)
        if any(d.radius and d.at == spot and floats.is_round and d.radius == floats.sizes[0] / 2 for d in view.drawn):
            return
        centre = sheet.mark(view, spot)
        assert centre is not None
        if floats.is_round:
            circle = b.arc(centre, part.sizes[0] / 2, name=f"circle about {centre.name}", whole=True)
            view.drawn.append(Drawn(circle, spot, radius=float(floats.sizes[0]) / 2))
            return
        self._polygon(view, part, floats, centre, (lines[0], lines[1]))

    def _polygon(self, view: Viewed, part: Any, floats: Part, centre: Point, axes: tuple[Line, Line]) -> None:
        """The polygon of a prism on its side: half a side from the upright through the middle, on the ray to the corner;
        stepped round."""
        from wisecompass.geometry.parts import corners

        b, frame, n = self.b, view.frame, floats.sides
        upright, level = axes
        way = frame.up[1]
        down = Line(centre, upright.dx * -way, upright.dy * -way, upright.name)
        ray = b.protract(down, centre, b.turn(1, 2 * n), f"ray from {centre.name}", why="half the angle of a side")
        tick = self.sheet.tick(level, centre, part.sizes[0] / 2, way, "tick half a side")
        side = b.parallel(upright, tick, f"parallel for {centre.name}")
        corner = b.meet(side, ray)
        ring = b.circle_through(centre, corner, name=f"circle about {centre.name}")
        names = [b.crossing() for _ in range(n - 1)]
        found = [corner, *self._stepped(ring, corner, part.sizes[0], names)]
        places = [[float(c) - low for c, low in zip(place, self.plan.low, strict=True)] for place in corners(floats)[:n]]
        spots = [frame.spot(place) for place in places]
        here = [self._nearest(point, spots, view) for point in found]
        for (p, s), (q, t) in pairwise([*zip(found, here, strict=True), (found[0], here[0])]):
            self._know(view, b.joined(p, q, f"side {p.name} – {q.name}"), spots[s], spots[t])
        for p, s in zip(found, here, strict=True):
            view.points[view.key(spots[s], self.sheet.near)] = p
            for axis in (frame.right[0], frame.up[0]):
                for other in self.sheet.views.values():
                    if axis in other.bases and other.frame.eye_axis != floats.axis:
                        self.sheet.carried(other, axis, places[s][axis], view, p)

    def _stepped(self, ring: Circle, start: Point, side: Settable, names: list[str]) -> list[Point]:
        """The side stepped off round a circle, without letters."""
        b = self.b
        b.step("step off", Instrument.DIVIDERS)
        b.note("step off", (ring, start), names, setting=side, go=1)
        found, here = [], start
        for name in names:
            swung = Circle(here, b.strayed(side, "compass"))
            ahead = Line(ring.centre, here.x - ring.centre.x, here.y - ring.centre.y)
            here = plane.meet(ring, swung, plane.left_of(ahead), name)
            b.touch(ring, here)
            if b.book is not None:
                b.book.notes.append(here)
            found.append(here)
        return found

    def _nearest(self, point: Point, spots: Sequence[Spot], view: Viewed) -> int:
        x, y = roughly(point.x) - roughly(view.origin.x), roughly(point.y) - roughly(view.origin.y)
        return min(range(len(spots)), key=lambda k: (spots[k][0] - x) ** 2 + (spots[k][1] - y) ** 2)

    # ------------------------------------------------------------------------------------------------------- measuring
    def measure(self) -> None:
        """The body's sizes, and its corners, each read off two views."""
        b, sheet = self.b, self.sheet
        front, top = sheet.views["front view"], sheet.views["top view"]
        for name, axis in (("length", 0), ("depth", 1), ("height", 2)):
            low, high = (self._end(axis, end) for end in self._reaches()[axis])
            if low is not None and high is not None:
                b.find(name, high - low)
        b.find("parts", len(self.parts))
        wall = self._read(top, sheet.at(top, 1, self.away(back(self.parts), 1)).at, 1)
        for name, corner in self.plan.named.items():
            place = self.plan.place(corner)
            x, z = (self._read(front, self._found(front, place), axis) for axis in (0, 2))
            y = self._read(top, self._found(top, place), 1)
            b.space_point(name, x, wall - y, z)
        self._show_in_space()
        self._check()

    def _show_in_space(self) -> None:
        """The edges in the picture in space, in floats: all of them, for a body is one thing."""
        if not self.b.drawing:
            return
        wall = float(back(self.floats))
        for edge in self.plan.body.edges:
            if not edge.smooth:
                x, y, z = self.plan.low[0], wall, self.plan.low[2]
                places = edge.places(24)
                self.b.in_space_along([(float(p[0]) - x, y - float(p[1]), float(p[2]) - z) for p in places])

    # ------------------------------------------------------------------------------------------------------ dimensions
    def dimension(self) -> None:
        """Sizes on what is seen, each once: the length and its steps over the front view, the height at its left, the
        depth at the left of the top view; the whole outermost (ISO 129-1)."""
        if not self.b.drawing:
            return
        sheet = self.sheet
        front, top = sheet.views["front view"], sheet.views["top view"]
        for view, axis in ((front, 0), (front, 2), (top, 1)):
            low, high = self._reaches()[axis]
            steps = [at for at in self._steps(view, axis) if low + sheet.near < at < high - sheet.near]
            kept = steps if len(steps) <= MOST_STEPS else steps[:MOST_STEPS]
            for k, at in enumerate([*kept, high]):
                self._size(view, axis, (low, at), FIRST_SIZE + NEXT_SIZE * k)
        for drawn in front.drawn:
            if isinstance(drawn.shape, Circle):
                c, r = drawn.shape.centre, float(drawn.shape.radius)
                self.b.dimension_radius(c, Point(float(c.x) + 0.707 * r, float(c.y) + 0.707 * r))

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
        edge = reach[frame.up[0]][1] if across else reach[frame.right[0]][0]
        found = []
        for end in ends:
            place = [0.0, 0.0, 0.0]
            place[axis], place[frame.up[0] if across else frame.right[0]] = end, edge
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
        with self.b.gathered("mark", Instrument.PENCIL, why="to read it off"):
            return self.sheet.place(view, place)

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

    # ------------------------------------------------------------------------------------------------------- lining in
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
            spots = [frame.spot(self._from_low(place)) for place in run.places(8)]
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
            with self.b.gathered("arc", Instrument.COMPASS, why=f"where cones are cut, in the {frame.title}"):
                for centre, at in wanted.values():
                    on, middle_point = sheet.place(view, at), sheet.mark(view, centre)
                    assert middle_point is not None
                    circle = self.b.circle_through(middle_point, on)
                    view.drawn.append(Drawn(circle, centre, radius=math.dist(centre, frame.spot(at))))

    def _sorted(self, view: Viewed, pieces: Sequence[Run]) -> tuple[dict[Pen, Stretches], list[Run], list[Run]]:
        """What is straight in a view, by its pen, what is an arc, and what must be plotted."""
        straight = {pen: Stretches(self.sheet.near) for pen in (Pen.OUTLINE, Pen.HIDDEN)}
        arcs: list[Run] = []
        plotted: list[Run] = []
        for run in pieces:
            ends = self._straight(view, run)
            if ends is None:
                spots = [view.frame.spot(self._from_low(place)) for place in run.places(8)]
                (arcs if self._circle(view, spots) is not None else plotted).append(run)
            elif ends:
                straight[Pen.OUTLINE if run.seen else Pen.HIDDEN].add(*ends)
        return straight, arcs, plotted

    def _circle(self, view: Viewed, spots: Sequence[Spot]) -> Drawn | None:
        """The circle of a view on which places lie."""
        near = self.sheet.near
        return next((d for d in view.drawn if d.radius and all(d.holds(spot, near) for spot in spots)), None)

    def _rule_lines(self, view: Viewed, pieces: Sequence[Run]) -> None:
        """Draw the lines on which straight pieces lie that no part has brought: through the ends of their edges."""
        near, frame = self.sheet.near, view.frame
        missing = []
        for run in pieces:
            if not run.edge.curve.is_straight:
                continue
            ends = [self._from_low(place) for place in run.edge.places(1)]
            first, last = (frame.spot(end) for end in ends)
            if math.hypot(last[0] - first[0], last[1] - first[1]) < near:
                continue
            if not any(d.is_straight and d.holds(last, near) for d in self.sheet.through(view, first)):
                missing.append((first, last, ends))
        if missing:
            with self.b.gathered("join", Instrument.STRAIGHTEDGE, why=f"edges of the {frame.title} that no part brings"):
                for first, last, ends in missing:
                    if any(d.is_straight and d.holds(last, near) for d in self.sheet.through(view, first)):
                        continue
                    one, other = self.sheet.place(view, ends[0]), self.sheet.place(view, ends[1])
                    self._know(view, self.b.joined(one, other, f"line {one.name} – {other.name}"), first, last)

    def _line_in(self, view: Viewed, lines: Stretches, pen: Pen) -> None:
        b, seen = self.b, pen is Pen.OUTLINE
        why = f"the {view.frame.title}" if seen else f"what is hidden in the {view.frame.title}, dashed and thin"
        with b.gathered("line in" if seen else "draw edges", Instrument.STRAIGHTEDGE, why=why):
            for first, last in lines.joined():
                self._ink(view, first, last, pen, why)
        if not seen:
            b.caution("Hidden edges are thin: drawn heavy they would be taken for edges before.")

    def _from_low(self, place: Any) -> list[float]:
        return [float(c) - low for c, low in zip(place, self.plan.low, strict=True)]

    def _straight(self, view: Viewed, run: Run) -> tuple[Spot, Spot, Place, Place] | tuple[()] | None:
        """The ends of a piece that is straight in the view, there and in space; nothing of a point; None of a curve."""
        near, frame = self.sheet.near, view.frame
        places = [self._from_low(place) for place in run.places(8)]
        spots = [frame.spot(place) for place in places]
        (x1, y1), (x2, y2) = spots[0], spots[-1]
        size = math.hypot(x2 - x1, y2 - y1)
        if run.edge.curve.is_straight and size < near:
            return ()
        bent = max(abs((x - x1) * (y2 - y1) - (y - y1) * (x2 - x1)) for x, y in spots)
        if not run.edge.curve.is_straight and (size < near or bent / size > near):
            return None
        return spots[0], spots[-1], places[0], places[-1]

    def _ink(self, view: Viewed, first: tuple[Spot, Place], last: tuple[Spot, Place], pen: Pen, why: str) -> None:
        """Line in a straight piece: along a line that is there, from where one crosses it to where another does."""
        sheet, b = self.sheet, self.b
        along = [d for d in sheet.through(view, first[0]) if d.is_straight and d.holds(last[0], sheet.near)]
        on, ends, points = along[0], [], []
        assert isinstance(on.shape, Line)
        for spot, place in (first, last):
            across = self._across(view, on, spot)
            if across is None:
                with suppress(LookupError):
                    sheet.place(view, place)
                across = self._across(view, on, spot)
            curve = None if across else next((d for d in view.drawn if d.chords and d.holds(spot, sheet.near)), None)
            if across is not None and not across.radius:
                points.append(sheet.crossing(view, on, across, spot))
            elif curve is not None:
                x, y = roughly(view.origin.x) + spot[0], roughly(view.origin.y) + spot[1]
                points.append(Point(b.number(Fraction(x)), b.number(Fraction(y))))
            else:
                points.append(sheet.place(view, place))
            ends.append(across or curve)
        if any(end is None or end.radius for end in ends):
            named = [sheet.place(view, place) for _, place in (first, last)]
            b.edge(named[0], named[1], pen, why=why)
            return
        one, other = (end.shape for end in ends if end is not None)
        assert not isinstance(one, Circle) and not isinstance(other, Circle)
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
            dashed = "" if pen is Pen.OUTLINE else ", dashed and thin"
            with self.b.gathered("line in arc", Instrument.COMPASS, why=f"the {view.frame.title}{dashed}"):
                for run in several:
                    self._arc(view, run, pen)

    def _arc(self, view: Viewed, run: Run, pen: Pen) -> None:
        """Line in one of them."""
        sheet, frame, b = self.sheet, view.frame, self.b
        spots = [frame.spot(self._from_low(place)) for place in run.places(8)]
        drawn = self._circle(view, spots)
        assert drawn is not None
        circle = drawn.shape
        assert isinstance(circle, Circle)
        if run.closes:
            start = sheet.mark(view, (drawn.at[0] + drawn.radius, drawn.at[1]))
            assert start is not None
            b.line_in_arc(circle.centre, start, start, pen=pen)
            return
        ends = [sheet.place(view, self._from_low(run.places(8)[k])) for k in (0, -1)]
        (cx, cy), (x1, y1), (x2, y2) = drawn.at, spots[0], spots[1]
        if (x1 - cx) * (y2 - cy) - (y1 - cy) * (x2 - cx) < 0:
            ends.reverse()
        b.line_in_arc(circle.centre, ends[0], ends[1], pen=pen)

    def _plot_all(self, view: Viewed, plotted: Sequence[Run]) -> None:
        """The curves of a view: all their points, then all of them faired."""
        edges = {id(run.edge): run.edge for run in plotted}.values()
        if not edges:
            return
        why = f"points of curves in the {view.frame.title}"
        with self.b.gathered("mark", Instrument.PENCIL, why=why):
            points = [self._points(view, edge) for edge in edges]
        with self.b.gathered("fair curve", Instrument.CURVE, why=f"the {view.frame.title}"):
            for edge, several in zip(edges, points, strict=True):
                self._fair(view, edge, several, [run for run in plotted if run.edge is edge])

    def _points(self, view: Viewed, edge: Edge) -> list[Point]:
        """Points of a curve: its ends, and those at the set squares' steps about its pipe."""
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
        return sheet.place(view, at)

    def _on_the_circle(self, pipe: Any, at: Sequence[float], k: int) -> None:
        """Mark a point on the circle that a pipe is seen as, so many steps round from where its measure begins."""
        sheet, b = self.sheet, self.b
        view = next(v for v in sheet.views.values() if v.frame.eye_axis == pipe.axis)
        frame = view.frame
        spot = frame.spot(at)
        if sheet.mark(view, spot) is not None:
            return
        middle = frame.spot(self._from_low(pipe.centre))
        circle = next(d for d in view.drawn if d.radius and d.holds(spot, sheet.near) and d.holds_centre(middle, sheet.near))
        ring = circle.shape
        assert isinstance(ring, Circle)
        centre = ring.centre
        level = sheet.at_known(view, frame.up[0], middle[1] * frame.up[1])
        turn = math.degrees(math.atan2(spot[1] - middle[1], spot[0] - middle[0])) / STEP
        base = Line(centre, b.number(1), b.number(0), level.name)
        ray = b.protract(base, centre, b.turn(round(turn), round(360 / STEP)), f"ray from {centre.name}")
        view.points[view.key(spot, sheet.near)] = b.meet(ring, ray, plane.beyond(ray))
