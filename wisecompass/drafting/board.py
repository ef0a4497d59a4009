"""The board: a drafter's operations. Each yields geometry and, in the same breath, records how it is done by hand.

A construction asks for nothing that a compass, dividers, straightedge, T-square, set squares, protractor and scale
cannot do. Lengths are mm, angles degrees. In a hand run every operation strays as that hand does.
"""

from __future__ import annotations

import math

from wisecompass.arithmetic import Number, absolute, cos_deg, sin_deg
from wisecompass.drafting.lining import Lining
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point, Selector


class Board(Lining):
    """Construction with instruments; see ``Lining`` for lining in and ``Recorder`` for what is remembered."""

    # ----------------------------------------------------------------------------------------------- setting out
    def point(self, name: str, x: Number, y: Number, why: str = "") -> Point:
        """Set out a point of the givens."""
        self.step("point", Instrument.PENCIL, makes=[name], why=why)
        return self.mark_point(Point(x, y, name))

    def level_line(self, through: Point, name: str, why: str = "", pen: Pen = Pen.CONSTRUCTION) -> Line:
        """A level line through a point, along the T-square."""
        self.step("level", Instrument.T_SQUARE, on=(through.name,), makes=[name], why=why)
        return self._rule(Line(through, self.number(1), self.number(0), name), through, pen=pen)

    def upright_line(self, through: Point, name: str, why: str = "", pen: Pen = Pen.CONSTRUCTION) -> Line:
        """An upright through a point, along a set square standing on the T-square."""
        self.step("upright", Instrument.SET_SQUARE, on=(through.name,), makes=[name], why=why, base_angle=90.0)
        return self._rule(Line(through, self.number(0), self.number(1), name), through, pen=pen)

    def set_square_line(self, through: Point, angle: int, name: str, why: str = "") -> Line:
        """A line at an angle that a set square gives (30, 45, 60, and their supplements), through a point."""
        details = {"angle": str(angle if angle <= 90 else 180 - angle), "hand": "right" if angle < 90 else "left"}
        self.step("set square", Instrument.SET_SQUARE, on=(through.name,), makes=[name], why=why, words=details)
        turn = self.number(angle)
        return self._rule(Line(through, cos_deg(turn), sin_deg(turn), name), through)

    def lay_off(self, line: Line, start: Point, length: Number, name: str, *, back: bool = False, why: str = "") -> Point:
        """Measure ``length`` from a point of a line along it (``back``: against its direction)."""
        self.step("lay off", Instrument.SCALE, setting=length, on=(start.name, line.name), makes=[name], why=why)
        length = self._stray(length, "scale")
        along = line.parallel(start)
        return self._marked(along.point_at(-length if back else length, name), line)

    def carried(self, line: Line, length: Number, name: str, *, back: bool = False) -> Point:
        """A length carried by dividers from elsewhere to a line's beginning, within the current step."""
        length = self._stray(length, "scale")
        return self._marked(line.point_at(-length if back else length, name), line)

    # ------------------------------------------------------------------------------------------------- protractor
    def protract(self, base: Line, vertex: Point, angle: Number, name: str, why: str = "") -> Line:
        """The ray from ``vertex`` at ``angle`` degrees anticlockwise from the direction of ``base``."""
        self.step(
            "protract",
            Instrument.PROTRACTOR,
            setting=absolute(angle),
            unit="°",
            on=(vertex.name, base.name),
            makes=[name],
            why=why,
            base_angle=_way(base),
        )
        angle = self._stray(angle, "protractor")
        c, s = cos_deg(angle), sin_deg(angle)
        ray = Line(vertex, base.dx * c - base.dy * s, base.dx * s + base.dy * c, name)
        return self._rule(ray, vertex)

    # ---------------------------------------------------------------------------------------------------- compass
    def arc(
        self,
        centre: Point,
        radius: Number,
        *,
        name: str = "",
        taken: str = "",
        why: str = "",
        whole: bool = False,
        pen: Pen = Pen.CONSTRUCTION,
    ) -> Circle:
        """Swing an arc. ``taken`` names the span of the drawing to which the compass is opened, if not a given."""
        name = name or f"{'circle' if whole else 'arc'} about {centre.name}"
        words = {"taken": taken, "shape": "circle" if whole else "arc"}
        self.step("arc", Instrument.COMPASS, setting=radius, on=(centre.name,), makes=[name], why=why, words=words)
        circle = Circle(self._stray_point(centre, "needle"), self._stray(radius, "compass"), name)
        self.draft(circle, whole=whole, pen=pen)
        return circle

    def circle_through(self, centre: Point, through: Point, *, name: str = "", why: str = "") -> Circle:
        """A whole circle about a centre through a point of the drawing."""
        radius = plane.distance(centre, through)
        return self.arc(centre, radius, name=name, taken=f"{centre.name}–{through.name}", why=why, whole=True)

    def step_off(self, circle: Circle, start: Point, chord: Number, names: list[str], why: str = "") -> list[Point]:
        """Step a chord off round a circle anticlockwise, marking each; the errors add up as they do on paper."""
        words = {"count": str(len(names)), "from": start.name}
        self.step("step off", Instrument.DIVIDERS, setting=chord, on=(circle.name, start.name), words=words, why=why)
        self.steps[-1].makes.extend(names)
        found = []
        here = start
        for name in names:
            swung = Circle(self._stray_point(here, "needle"), self._stray(chord, "compass"))
            ahead = Line(circle.centre, here.x - circle.centre.x, here.y - circle.centre.y)
            here = plane.meet(circle, swung, plane.left_of(ahead), name)
            self.draft(swung, here, overshoot=True)
            self.touch(circle, here)
            found.append(self.mark_point(here))
        return found

    def step_along(self, line: Line, start: Point, step: Number, names: list[str], why: str = "") -> list[Point]:
        """Step an equal length off along a line, marking each; the errors add up as they do on paper."""
        words = {"count": str(len(names)), "from": start.name}
        self.step("step along", Instrument.DIVIDERS, setting=step, on=(start.name, line.name), words=words, why=why)
        self.steps[-1].makes.extend(names)
        found = []
        here = start
        for name in names:
            here = line.parallel(here).point_at(self._stray(step, "compass"), name)
            found.append(self._marked(here, line))
        return found

    def divide_circle(
        self,
        circle: Circle,
        parts: int,
        start_angle: Number | int,
        prefix: str,
        why: str = "",
        *,
        clockwise: bool = False,
    ) -> list[Point]:
        """Divide a circle into equal parts, numbered from ``start_angle`` and anticlockwise or ``clockwise``."""
        self.step("divide circle", Instrument.DIVIDERS, on=(circle.name,), words={"parts": str(parts)}, why=why)
        points = []
        for index in range(parts):
            share = self.number(360) * index / parts
            angle = start_angle + (-share if clockwise else share)
            exact = circle.point_at(angle, self.numbered(prefix, index))
            points.append(self._marked(self._stray_point(exact, "needle"), circle))
        self.steps[-1].makes.extend(point.name for point in points)
        return points

    # ----------------------------------------------------------------------------------- straightedge, set squares
    def line(self, a: Point, b: Point, name: str = "", *, why: str = "", pen: Pen = Pen.CONSTRUCTION) -> Line:
        """A straight line through two points of the drawing."""
        self.step("join", Instrument.STRAIGHTEDGE, on=(a.name, b.name), makes=[name or _joint(a, b)], why=why)
        return self.joined(a, b, name, pen=pen)

    def joined(self, a: Point, b: Point, name: str = "", pen: Pen = Pen.CONSTRUCTION) -> Line:
        """The same within a step that has begun."""
        start, end = self._stray_point(a, "straightedge"), self._stray_point(b, "straightedge")
        ruled = Line.through(start, end, name or _joint(a, b))
        self.draft(ruled, a, b, pen=pen)
        return ruled

    def parallel(self, line: Line, through: Point, name: str, why: str = "", pen: Pen = Pen.CONSTRUCTION) -> Line:
        """The parallel through a point, by sliding a set square along a straightedge."""
        self.step(
            "parallel", Instrument.SET_SQUARE, on=(line.name, through.name), makes=[name], why=why, base_angle=_way(line)
        )
        return self._rule(line.parallel(through, name), through, pen=pen)

    def parallel_touching(self, line: Line, arcs: list[Circle], side: str, name: str, why: str = "") -> Line:
        """The parallel that just touches arcs of one radius swung from the line, on its left or right."""
        on = (line.name, *(arc.name for arc in arcs))
        self.step("touching", Instrument.SET_SQUARE, on=on, makes=[name], why=why, base_angle=_way(line))
        touches = []
        for arc in arcs:
            across = line.square(arc.centre)
            touches.append(across.point_at(-arc.radius if side == "right" else arc.radius))
            self.touch(arc, touches[-1])
        if len(touches) == 1:
            return self._rule(line.parallel(touches[0], name), touches[0])
        start, end = (self._stray_point(touch, "straightedge") for touch in (touches[0], touches[-1]))
        ruled = Line.through(start, end, name)
        self.draft(ruled, *touches)
        return ruled

    def square(self, line: Line, through: Point, name: str, why: str = "") -> Line:
        """The perpendicular to a line through a point, by set square."""
        self.step(
            "square", Instrument.SET_SQUARE, on=(line.name, through.name), makes=[name], why=why, base_angle=_way(line)
        )
        return self._rule(line.square(through, name), through)

    def square_from(self, line: Line, point: Point, name: str, why: str = "") -> Point:
        """Drop the perpendicular from a point on a line; the foot is named."""
        across = self.square(line, point, f"square from {point.name}", why)
        return self.meet(across, line, name=name)

    def bisector(self, a: Point, b: Point, name: str, why: str = "") -> Line:
        """The perpendicular bisector of a–b by equal arcs from both ends."""
        opening = plane.distance(a, b) * 2 / 3
        span = f"more than half of {a.name}{b.name}"
        first = self.arc(a, opening, taken=span, why=why)
        second = self.arc(b, opening, taken="the same opening")
        high, low = plane.crossings(first, second)
        for crossing in (high, low):
            self.touch(first, crossing)
            self.touch(second, crossing)
        words = {"through": "both crossings"}
        self.step("crossings", Instrument.STRAIGHTEDGE, on=(first.name, second.name), makes=[name], words=words)
        start, end = self._stray_point(low, "straightedge"), self._stray_point(high, "straightedge")
        ruled = Line.through(start, end, name)
        self.draft(ruled, low, high)
        return ruled

    def bisect(self, vertex: Point, a: Point, b: Point, name: str, marks: tuple[str, str] = ("1", "2")) -> Line:
        """The bisector of the angle a-vertex-b by equal arcs from two marks on its arms (Euclid I.9)."""
        opening = plane.distance(vertex, a) * 2 / 5
        swung = self.arc(vertex, opening, why="across both arms, any opening")
        one, other = (
            self.meet(swung, Line.through(vertex, arm), plane.nearest(arm), mark)
            for arm, mark in zip((a, b), marks, strict=True)
        )
        first = self.arc(one, opening, why="inside the angle")
        second = self.arc(other, opening, why="the same opening")
        inside = self.meet(first, second, plane.farthest(vertex))
        words = {"through": f"{vertex.name} and the crossing"}
        self.step("crossings", Instrument.STRAIGHTEDGE, on=(first.name, second.name), makes=[name], words=words)
        return self.joined(vertex, inside, name)

    def step_crossing(self, first: Circle, second: Circle) -> None:
        """Begin the step that joins the crossing of two arcs to something."""
        self.step("through crossing", Instrument.STRAIGHTEDGE, on=(first.name, second.name))

    def step_through(self, line: Line, circle: Circle) -> None:
        """Begin the step that marks where an arc just touches something, on a line that is there."""
        self.step("touch point", Instrument.PENCIL, on=(circle.name, line.name))

    def divide(self, a: Point, b: Point, parts: int, names: list[str], why: str = "") -> list[Point]:
        """The points that divide a–b into equal parts, both ends left out."""
        self.step(
            "divide", Instrument.DIVIDERS, on=(a.name, b.name), words={"parts": str(parts)}, makes=list(names), why=why
        )
        exact = [plane.between(a, b, index + 1, parts, name) for index, name in enumerate(names)]
        return [self.mark_point(self._stray_point(point, "needle")) for point in exact]

    # -------------------------------------------------------------------------------------------------- crossings
    def meet(
        self, first: Line | Circle, second: Line | Circle, which: Selector | None = None, name: str = "", shown: bool = True
    ) -> Point:
        """Mark a crossing, within the current step."""
        point = plane.meet(first, second, which, name)
        self.touch(first, point)
        self.touch(second, point)
        if name:
            self.steps[-1].crossings.append((name, first.name, second.name))
            self.mark_point(point, shown=shown)
        return point

    def both(
        self, first: Line | Circle, second: Line | Circle, names: tuple[str, str], which: Selector
    ) -> tuple[Point, Point]:
        """Mark both crossings of two arcs, the one that ``which`` chooses first."""
        one, other = plane.crossings(first, second)
        chosen = which(one, other)
        rest = Point(one.x + other.x - chosen.x, one.y + other.y - chosen.y, names[1])
        for point in (chosen.named(names[0]), rest):
            self.touch(first, point)
            self.touch(second, point)
            self.steps[-1].crossings.append((point.name, first.name, second.name))
            self.mark_point(point)
        return chosen.named(names[0]), rest

    # ------------------------------------------------------------------------------------------------------ inner
    def _rule(self, line: Line, through: Point, pen: Pen = Pen.CONSTRUCTION) -> Line:
        """Rule a line whose direction comes from an instrument: only its place strays."""
        placed = Line(self._stray_point(through, "straightedge"), line.dx, line.dy, line.name)
        self.draft(placed, through, pen=pen)
        return placed

    def ruled(self, line: Line, through: Point, pen: Pen = Pen.CONSTRUCTION) -> Line:
        """Rule a line along an instrument that lies there, within the current step."""
        return self._rule(line, through, pen)

    def _marked(self, point: Point, on: Line | Circle) -> Point:
        self.touch(on, point)
        return self.mark_point(point)

    def pricked(self, point: Point) -> Point:
        """Prick a point off something that lies on the sheet, such as a trammel."""
        return self.mark_point(self._stray_point(point, "needle"))

    def extend(self, line: Line, point: Point) -> None:
        """Draw a line on until it reaches a point."""
        self.touch(line, point)


def _joint(a: Point, b: Point) -> str:
    """The name of a line through two points."""
    return f"{a.name}{b.name}" if b.name[:1].isalpha() else f"{a.name}–{b.name}"


def _way(line: Line) -> float:
    """Direction of a line in plain degrees, for laying an instrument; 0 in the other arithmetics."""
    if isinstance(line.dx, float):
        return math.degrees(math.atan2(line.dy, line.dx))
    return 0.0
