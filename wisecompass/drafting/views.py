"""Front and top view as frames on one sheet that share the fold line, and the views that are folded off them.

A method carries distances from view to view by projectors, as on paper; it never peeks at space. In first angle the
front view stands on the fold line and the top view hangs below it. In third angle the top view is above: it hangs
from its own trace of VP, ``gap`` mm over the ground line on which the front view stands.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from wisecompass.arithmetic import Number, absolute, hypot, roughly
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Projection
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import Settable, anything, bare, span
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.view import View
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3


@dataclass
class Views:
    """The views on a board, with the lines that distances are measured from."""

    board: Board
    ground: Line
    """HP seen on edge, in the front view; in first angle also VP on edge, in the top view: the fold line."""
    wall: Line
    """VP seen on edge, in the top view."""
    front_view: View
    top_view: View
    auxiliaries: list[View] = field(default_factory=list)
    references: dict[View, tuple[View, Line]] = field(default_factory=dict)
    """For each auxiliary view the view that its distances were read in, and the datum there."""
    projectors: dict[str, Line] = field(default_factory=dict)
    """Those on which points were set out."""
    feet: dict[str, Point] = field(default_factory=dict)
    """Where such a projector meets the ground line, if that is marked."""
    _lines: dict[tuple[int, frozenset[int]], Line] = field(default_factory=dict)

    @staticmethod
    def on(board: Board, gap: Number) -> Views:
        """Draw the fold line; ``gap`` is the room that third angle needs between the views."""
        names = board.conventions
        elevation = View("front view", names.front_name, (1.0, 0.0, 0.0), (0.0, 0.0, 1.0))
        plan = View("top view", names.top_name, (1.0, 0.0, 0.0), (0.0, -1.0, 0.0))
        first = names.projection is Projection.FIRST
        one = board.number(1) if first else board.number(-1)
        here = Point(board.number(0), board.number(0))
        elevation.before, plan.before = plan, elevation
        elevation.away[plan], plan.away[elevation] = Line(here, one, one * 0), Line(here, -one, one * 0)
        ground = _fold_line(board, here, "XY", "HP and VP fold along it")
        wall = ground
        origin = here.named("0")
        if first:
            more = {"angle": "first", "origin": origin}
            board.note("views", (), ("XY", "0"), why="HP and VP fold along it", more=more)
        else:
            raised = here.moved(gap * 0, bare(gap))
            wall = _fold_line(board, raised, "wall line", "VP on edge, for the top view")
            more = {"angle": "third", "origin": origin}
            names_made, room = ("XY", "0", "wall line"), anything(bare(gap))
            board.note("views", (), names_made, setting=room, why="HP and VP fold along it", more=more)
        return Views(board, ground, wall, elevation, plan)

    @property
    def all(self) -> list[View]:
        return [self.front_view, self.top_view, *self.auxiliaries]

    # -------------------------------------------------------------------------------------------------- setting out
    def in_front_view(self, name: str, x: Number, above: Number) -> Point:
        """A point of the front view by its height above the ground line."""
        label = self.front_view.label(name)
        return self._kept(self.front_view, name, Point(bare(x), self.ground.at.y + bare(above), label))

    def in_top_view(self, name: str, x: Number, front: Number) -> Point:
        """A point of the top view by its distance in front of the wall line."""
        return self._kept(self.top_view, name, Point(bare(x), self.wall.at.y - bare(front), self.top_view.label(name)))

    def _kept(self, view: View, name: str, image: Point) -> Point:
        view.images[name] = image
        return image

    def set_out(
        self, name: str, x: Settable, front: Settable, above: Settable, into: tuple[View, View] | None = None
    ) -> None:
        """Set out a point by its coordinates: a projector, the height on it in one view and the distance in the other. With
        ``into`` it is one of an earlier position of the figure, with a front and a top view of its own."""
        b = self.board
        front_view, top_view = into or (self.front_view, self.top_view)
        up, low = front_view.label(name), top_view.label(name)
        b.step("set out", Instrument.SCALE, makes=[up, low])
        projector_name = b.unique(f"projector of {name}")
        b.note("set out in views", (), (up, low, projector_name), more={"right": x, "front": front, "above": above})
        x, front, above = bare(x), bare(front), bare(above)
        if into is None and b.slips(f"height and distance in front changed over for {name}"):
            front, above = above, front
        foot = Point(x, self.ground.at.y)
        projector = b.ruled(Line(foot, x * 0, x * 0 + 1, projector_name), foot, pen=Pen.PROJECTOR)
        b.touch(self.ground, foot)
        b.touch(self.wall, Point(x, self.wall.at.y))
        along = b.stood_off(projector, above, up)
        hang = Line(Point(projector.at.x, self.wall.at.y), projector.dx, projector.dy)
        image = b.stood_off(hang, -front, low)
        b.touch(projector, along)
        b.touch(projector, image)
        self.projectors[name] = projector
        front_view.images[name], top_view.images[name] = along, image
        if front_view is self.front_view:
            self.read(name, along, image)

    def letter_fold(self) -> None:
        """Draw the ground line, and the wall line where it is another, past all points, and letter its ends."""
        self.reach(*self.front_view.images.values(), *self.top_view.images.values())

    def reach(self, *points: Point) -> None:
        """Draw the ground line, and the wall line where it is another, past all these points, and letter its ends."""
        if not self.board.drawing:
            return
        xs = [float(point.x) for point in points]
        room = max((max(xs) - min(xs)) * 0.11, 1e-9)
        for line in (self.ground,) if self.ground == self.wall else (self.ground, self.wall):
            for x, letter, way in ((min(xs) - room, "X", -1.0), (max(xs) + room, "Y", 1.0)):
                end = Point(x, line.at.y)
                self.board.extend(line, end)
                self.board.letter(end, letter, (way, 0.0))

    # ------------------------------------------------------------------------------------------------------ reading
    def above(self, point: Point) -> Number:
        """Height above HP of a point of the front view."""
        return plane.distance_to_line(point, self.ground)

    def along(self, point: Point) -> Number:
        """How far along the ground line, from its beginning, a point of a view stands."""
        line = self.ground
        run = line.dx * (point.x - line.at.x) + line.dy * (point.y - line.at.y)
        return run / hypot(line.dx, line.dy)

    def front(self, point: Point) -> Number:
        """Distance in front of VP of a point of the top view."""
        return -plane.distance_to_line(point, self.wall)

    def read(self, name: str, front_view: Point, top_view: Point) -> Point3:
        """Report the space point that two views show."""
        return self.board.space_point(name, self.along(top_view), self.front(top_view), self.above(front_view))

    def know(self, name: str) -> Point3:
        """Report a point that both principal views have by now."""
        return self.read(name, self.front_view.images[name], self.top_view.images[name])

    # ------------------------------------------------------------------------------------------------- constructing
    def join(self, view: View, a: str, b: str, why: str = "", pen: Pen = Pen.CONSTRUCTION) -> Line:
        """Draw the line through two points of a view."""
        first, second = view.images[a], view.images[b]
        drawn = self.board.line(first, second, why=why, pen=pen)
        return self._lines.setdefault((id(view), frozenset((id(first), id(second)))), drawn)

    def line_of(self, view: View, a: str, b: str) -> Line:
        """The line of a view through two of its points, drawn within the current step if it is not there yet."""
        first, second = view.images[a], view.images[b]
        key = (id(view), frozenset((id(first), id(second))))
        if key not in self._lines:
            self._lines[key] = self.board.joined(first, second)
        return self._lines[key]

    def drawn(self, view: View, pair: str, line: Line) -> None:
        """A line that is on the sheet already runs through these two points of a view."""
        self._lines[id(view), frozenset(id(view.images[name]) for name in pair)] = line

    def same(self, view: View, name: str, as_name: str) -> None:
        """A point of the figure that this view shows where it shows another."""
        label = view.label(name)
        self.board.step_reason(f"The {view.title} shows {label} where it shows {view.images[as_name].name}", makes=[label])
        self._kept(view, name, self.board.mark_point(view.images[as_name].named(label)))

    def alias(self, name: str, of: str) -> None:
        """A point of the figure that is another: the same in every view that has it."""
        self.board.step_reason(f"{name} is {of}")
        for view in self.all:
            if of in view.images:
                view.images[name] = view.images[of]
        if of in self.front_view.images and of in self.top_view.images:
            self.know(name)

    def alias_in(self, view: View, name: str, of: str) -> None:
        """The same in one view only."""
        view.images[name] = view.images[of]

    def edges(self, view: View, *pairs: str, why: str = "", pen: Pen = Pen.OUTLINE) -> None:
        """Line in edges of a view, each named by its two points, and show them in space."""
        self.board.line_in(*((view.images[p[0]], view.images[p[1]]) for p in pairs), why=why, pen=pen)
        for pair in pairs:
            self.board.in_space(pair[0], pair[1], pen)

    def mark(self, view: View, name: str, first: Line, second: Line) -> Point:
        """Mark a point of the figure where two lines of a view cross, within the current step."""
        return self._kept(view, name, self.board.meet(first, second, name=view.label(name)))

    def level(self, view: View, other: View, name: str, why: str = "", pen: Pen = Pen.CONSTRUCTION) -> Line:
        """The line of a view through one of its points parallel with its fold to ``other``: a level line in the front
        view, one parallel with VP in the top view."""
        fold, through = view.away[other], view.images[name]
        kinds = {"front view": "level line", "top view": "frontal line"}
        label = f"parallel through {through.name}" if fold.name else f"{kinds[view.title]} of {through.name}"
        if fold.name:
            return self.board.parallel(fold, through, label, why, pen)
        return self.board.level_line(through, label, why, pen)

    def project(self, name: str, start: View, to: View, onto: Line, why: str = "") -> Point:
        """A point on a known line: the projector from one view meets the line's image in the next."""
        return self._kept(to, name, self.projected(start.images[name], (start, to), onto, to.label(name), why))

    def projected(self, image: Point, between: tuple[View, View], onto: Line, label: str, why: str = "") -> Point:
        """Where the projector of an image, from the first view to the second, meets a line there."""
        fold = between[0].away[between[1]]
        self.board.step("project", Instrument.SET_SQUARE, on=(image.name, onto.name), makes=[label], why=why)
        projector = Line(image, -fold.dy, fold.dx)
        across = fold.name or self.ground.name
        self.board.note("project", (image, onto), (label,), why=why, more={"across": across})
        ruled = self.board.ruled(projector, image, pen=Pen.PROJECTOR)
        return self.board.crossed(ruled, onto, label)

    def transfer(self, name: str, beside: View, read: tuple[View, Line], into: tuple[View, Line], why: str = "") -> Point:
        """Carry a distance over one view: read in the view before last from its datum, laid off beyond the fold on the
        projector. Each line is so turned that its view lies to the left."""
        b, (before, datum), (new, fold) = self.board, read, into
        base, seen = beside.images[name], before.images[name]
        away = plane.distance_to_line(seen, datum)
        back = roughly(away) < 0
        label = new.label(name)
        if b.lean:
            b.step("transfer", Instrument.DIVIDERS)
        else:
            on = (base.name, seen.name, fold.name, datum.name)
            b.step("transfer", Instrument.DIVIDERS, setting=absolute(away), on=on, makes=[label], why=why)
            beyond = (plane.right_of if back else plane.left_of)(fold)
            near = roughly(plane.distance_to_line(base, fold)) * roughly(away)
            more = {"side": "" if not near else "on the same side as" if near > 0 else "on the other side from"}
            b.note("transfer", (base, fold), (label,), setting=span(seen, datum), which=beyond, why=why, more=more)
        projector = b.ruled(Line(base, -fold.dy, fold.dx, f"projector of {base.name}"), base, pen=Pen.PROJECTOR)
        foot = plane.meet(projector, fold)
        b.touch(projector, foot)
        b.touch(fold, foot)
        b.mark_point(foot, shown=False)  # where the other leg of the dividers stands
        if b.slips(f"the distance taken from the view beside instead of the one before, for {label}"):
            away = absolute(plane.distance_to_line(base, fold)) * (-1 if back else 1)
        if b.slips(f"laid off on the other side of the fold line, for {label}"):
            away = -away
        image = b.stood_off(Line(foot, -fold.dy, fold.dx), away, label)
        b.touch(projector, image)
        return self._kept(new, name, image)


def _fold_line(board: Board, at: Point, name: str, why: str) -> Line:
    board.step("fold line", Instrument.T_SQUARE, makes=[name], why=why)
    return board.ruled(Line(at, board.number(1), board.number(0), name), at, pen=Pen.GIVEN)
