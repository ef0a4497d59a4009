"""The parts of a body set out in all views: the views themselves, then part after part the lines that it lies between."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import TYPE_CHECKING, Any, TypeAlias

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.solids.crate_plan import SIX, THREE, Plan, in_floats, origin, plan_of
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Projection
from wisecompass.drafting.crating import BOTTOM, FRONT, LEFT, REAR, RIGHT, TOP, Drawn, Frame, Sheet, Spot, Viewed
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import Settable, bare
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.parts import RISING, Part, bounds
from wisecompass.geometry.plane import Circle, Line, Point

if TYPE_CHECKING:
    from wisecompass.geometry.sight import Run

BETWEEN = 0.45
"""White between two views, as a share of the body's size."""

Place: TypeAlias = Sequence[float]
"""A place in space from the low corner."""


Ends: TypeAlias = "tuple[Spot, Spot, Place, Place] | tuple[()] | None"
"""The ends of a piece that is straight in a view, there and in space; nothing of a point; None of a curve."""


def away_of(frame: Frame, reaches: Sequence[tuple[float, float]], first: bool) -> tuple[float, float]:
    """How far to the right of the low corner of the front view, and how far above it, that of another view lies, in whole
    mm: clear of what lies between; in first angle projection, or else in third."""
    if frame is FRONT:
        return 0.0, 0.0
    (left, wide), (near, deep), (foot, high) = reaches
    white = BETWEEN * max(wide, deep, high) ** 0.5 * max(deep - near, high - foot) ** 0.5
    away = {
        TOP: foot - white - deep if first else high + white - near,
        BOTTOM: high + white + deep if first else foot - white + near,
        LEFT: wide + white + deep if first else left - white + near,
        RIGHT: left - white - deep if first else wide + white - near,
        REAR: 2 * wide + 2 * white + deep - near,
    }[frame]
    away = math.copysign(max(1, round(abs(away))), away)
    return (0.0, away) if frame in (TOP, BOTTOM) else (away, 0.0)


class SetOut:
    """The views of a body with its parts."""

    LETTERS: tuple[str, ...] = ("A", "B", "C", "D", "E", "F")
    """Of the low corner, in each view."""

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

    def _from_low(self, place: Any) -> list[float]:
        (x, y, z), (a, b, c) = place, self.plan.low
        return [float(x) - a, float(y) - b, float(z) - c]

    def _spots(self, view: Viewed, run: Run, chords: int) -> list[Spot]:
        """Where places along a piece lie in a view."""
        return [view.frame.spot(self._from_low(place)) for place in run.places(chords).tolist()]

    # ------------------------------------------------------------------------------------------------------ the views
    def lay_out(self) -> None:
        """The low corner in every view, and the lines through it along which the view is measured."""
        b = self.b
        first = b.conventions.projection is Projection.FIRST
        a = b.point(self.LETTERS[0], b.number(0), b.number(0), why="the lowest left front corner, in the front view")
        ground = b.level_line(a, "level at 0", why="the foot of everything")
        upright = b.upright_line(a, "upright at 0", why="the left end")
        front = Viewed(FRONT, a, {0: ground, 2: upright})
        self.sheet.views["front view"] = front
        self.sheet.know(front, 0, 0.0, upright)
        self.sheet.know(front, 2, 0.0, ground)
        for letter, frame in zip(self.LETTERS[1:], self.frames[1:], strict=False):
            self._begin(frame, letter, first)

    def _begin(self, frame: Frame, letter: str, first: bool) -> None:
        """The low corner in another view: under the front view or beside it, clear of what lies between."""
        b, front = self.b, self.sheet.views["front view"]
        over = frame in (TOP, BOTTOM)
        away = sum(away_of(frame, self._reaches(), first))
        line = front.bases[2] if over else front.bases[0]
        opening = b.any_opening(b.number(round(abs(away))))
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
            what = f"Part {n}, {'taken away: a' if part.taken else 'a'} {part.kind}"
            with self.b.gathered("part", Instrument.SCALE, what):
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
        for place in (centre - part.sizes[0] / 2, centre + part.sizes[0] / 2):
            self.sheet.at(view, other, place)
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
        self._join(view, foot, top, "slope")

    def _cone(self, view: Viewed, part: Part, other: int) -> None:
        apex = [float(c) for c in part.at]
        apex[part.axis] += float(part.length)
        for sign in (-1.0, 1.0):
            rim = [float(c) for c in part.at]
            rim[other] += sign * float(part.sizes[0]) / 2
            self._join(view, rim, apex, "contour")

    def _join(self, view: Viewed, start: Sequence[Any], end: Sequence[Any], name: str) -> Line:
        """The line through two places of a view."""
        sheet, first, last = self.sheet, self._from_low(start), self._from_low(end)
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
        spot = frame.spot(self._from_low(floats.at))
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
        places = [self._from_low(place) for place in corners(floats)[:n]]
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
