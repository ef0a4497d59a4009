"""The board: a drafter's operations. Each yields geometry and, in the same breath, records how it is done by hand.

A construction asks for nothing that a compass, dividers, straightedge, T-square, set squares, protractor and scale
cannot do. Lengths are mm, angles degrees. What an instrument is set to is a ``Setting``, which knows where it comes
from. In a hand run every operation strays as that hand does."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

from wisecompass.arithmetic import Number, cos_deg, roughly, sin_deg
from wisecompass.drafting import dividing
from wisecompass.drafting.forks import TWO_OPENINGS, is_given, other_scale, whole_for_half
from wisecompass.drafting.lining import Lining
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.record import by_set_square
from wisecompass.drafting.setting import ANY, SPAN, SQUARE, TURN, Settable, Setting, anything, bare, reading, span
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.wording import joint
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point, Selector

FINEST = 10**8
"""Into so many parts of a millimetre an opening that may be any is rounded at most."""


class Board(Lining):
    """Construction with instruments; see ``Lining`` for lining in and ``Recorder`` for what is remembered."""

    # -------------------------------------------------------------------------------------------------- settings
    def any_opening(
        self, about: Number | int, more_than: Settable | None = None, less_than: Settable | None = None
    ) -> Setting:
        """Any opening that serves, about so large: a handy one, in whole or half millimetres if the figure is not tiny."""
        size = float(about) if isinstance(about, int) else roughly(bare(about))
        size *= self.wider.get(len(self.opened), 1.0)
        least = 0.0 if more_than is None else roughly(bare(more_than))
        most = math.inf if less_than is None else roughly(bare(less_than))
        parts = 2
        while parts < FINEST and (size * parts < 20 or not least < round(size * parts) / parts < most):
            parts *= 10
        opening = anything(self.number(round(size * parts)) / parts, more_than=more_than, less_than=less_than)
        self.opened.append(opening)
        return opening

    def turn(self, k: int, n: int) -> Setting:
        """So many parts ``k`` of a whole turn cut into ``n``, in degrees."""
        return Setting(self.number(360) * k / n, TURN, ("/", ("*", 360, k), n))

    def degrees(self, angle: int) -> Setting:
        """The angle that a set square or a straight line gives: 30, 45, 60, 90, 180 and so on."""
        return Setting(self.number(angle), SQUARE, angle)

    # ----------------------------------------------------------------------------------------------- setting out
    def point(self, name: str, x: Settable, y: Settable, why: str = "") -> Point:
        """Set out a point of the givens: the first of a part where there is room, others from it."""
        self.step("point", Instrument.PENCIL, makes=[name], why=why)
        first = self._block not in self._begun
        self._begun.add(self._block)
        return self._put(name, (x, y), (x, y), first, "", why)

    def set_off(self, name: str, at: tuple[Settable, Settable], away: tuple[Settable, Settable], why: str = "") -> Point:
        """Set out a point of a view ``at`` a place that lies ``away`` (to the right, up) from the first of its kind, which
        is put where there is room."""
        self.step("point", Instrument.PENCIL, makes=[name], why=why)
        first = roughly(bare(away[0])) == 0 and roughly(bare(away[1])) == 0
        return self._put(name, at, away, first, ", set off", why)

    def _put(
        self,
        name: str,
        at: tuple[Settable, Settable],
        place: tuple[Settable, Settable],
        first: bool,
        kind: str,
        why: str,
    ) -> Point:
        x, y = (bare(value) if first else self._stray(value, "scale") for value in at)
        point = Point(x, y, name)
        self.note("point", (), (name,), why=why, more={"point": point, "place": place, "kind": kind})
        return self.mark_point(point)

    def level_line(self, through: Point, name: str, why: str = "", pen: Pen = Pen.CONSTRUCTION) -> Line:
        """A level line through a point, along the T-square."""
        name = self.unique(name)
        self.step("level", Instrument.T_SQUARE, on=(through.name,), makes=[name], why=why)
        self.note("level", (through,), (name,), why=why)
        return self._rule(Line(through, self.number(1), self.number(0), name), through, pen=pen)

    def upright_line(self, through: Point, name: str, why: str = "", pen: Pen = Pen.CONSTRUCTION) -> Line:
        """An upright through a point, along a set square standing on the T-square."""
        name = self.unique(name)
        self.step("upright", self._guide, on=(through.name,), makes=[name], why=why, base_angle=90.0)
        self.note("upright", (through,), (name,), why=why, more=self._along_dots)
        return self._rule(Line(through, self.number(0), self.number(1), name), through, pen=pen)

    def set_square_line(self, through: Point, angle: int, name: str, why: str = "") -> Line:
        """A line at an angle that a set square gives (30, 45, 60, and their supplements), through a point."""
        name = self.unique(name)
        self.step("set square", self._guide, on=(through.name,), makes=[name], why=why)
        turn = self.number(angle)
        self.note("slant", (through,), (name,), why=why, more={"angle": angle, **(self._along_dots or {})})
        return self._rule(Line(through, cos_deg(turn), sin_deg(turn), name), through)

    def lay_off(self, line: Line, start: Point, length: Settable, name: str, *, back: bool = False, why: str = "") -> Point:
        """Measure ``length`` from a point of a line along it (``back``: against its direction)."""
        if self.lean:
            self.step("lay off", Instrument.SCALE, makes=[name])
        else:
            more, on = self._counted(length), (start.name, line.name)
            if more is None:
                self.step("lay off", self._measuring(length), setting=bare(length), on=on, makes=[name], why=why)
            else:
                count, unit = self.number(more["dots"]), " dot" if more["dots"] == 1 else " dots"
                self.step("lay off", Instrument.PENCIL, setting=count, unit=unit, on=on, makes=[name], why=why)
            self.note("lay off", (line, start), (name,), setting=length, go=-1 if back else 1, why=why, more=more)
        if self.taken is not None:
            words, times = whole_for_half(length)
            if self.slips(f"{words}, for {name}" if words else ""):
                length = bare(length) * times
            if self.slips(f"{name} laid off to the other side" if is_given(length) else ""):
                back = not back
        length = self._stray(length, "scale")
        along = line.parallel(start)
        return self._marked(along.point_at(-length if back else length, name), line)

    def _counted(self, length: Settable) -> dict[str, int] | None:
        """How many dots of dot paper a length is, where the figure is drawn on such."""
        return None if self.dots is None else {"dots": round(roughly(bare(length)) / roughly(bare(self.dots)))}

    def _measuring(self, length: Settable) -> Instrument:
        """What a length is laid off with: dividers carry one from the drawing, or keep an opening that was used before."""
        if type(length) is not Setting or length.origin not in (SPAN, ANY):
            return Instrument.SCALE
        first = length.origin == ANY and id(length) not in self._openings
        self._keep_opening(length)
        return Instrument.SCALE if first else Instrument.DIVIDERS

    def _keep_opening(self, length: Settable) -> None:
        if type(length) is Setting and length.origin == ANY:
            self._openings.add(id(length))

    def carried(self, line: Line, length: Settable, name: str, *, back: bool = False) -> Point:
        """A length carried by dividers from elsewhere to a line's beginning, within the current step."""
        self.note("lay off", (line, line.at), (name,), setting=length, go=-1 if back else 1)
        length = self._stray(length, "scale")
        return self._marked(line.point_at(-length if back else length, name), line)

    # ------------------------------------------------------------------------------------------------- protractor
    def protract(self, base: Line, vertex: Point, angle: Settable, name: str, why: str = "") -> Line:
        """The ray from ``vertex`` at ``angle`` degrees anticlockwise from the direction of ``base``."""
        drawn = bare(angle)
        if self.lean:
            self.step("protract", Instrument.PROTRACTOR, makes=[name])
        else:
            name = self.unique(name)
            squares = by_set_square(base, angle)
            tool, size = Instrument.SET_SQUARE if squares else Instrument.PROTRACTOR, bare(reading(angle)[0])
            self.step(
                "protract",
                Instrument.STRAIGHTEDGE if roughly(size) == 0 else tool,
                setting=size,
                unit="°",
                on=(vertex.name, base.name),
                makes=[name],
                why=why,
                base_angle=_way(base),
            )
            self.note("protract", (base, vertex), (name,), setting=angle, why=why)
        if (self.taken is not None or self._unsteadiness is not None) and not by_set_square(base, angle):
            if self.slips(other_scale(angle)):
                drawn = (180 if roughly(drawn) > 0 else -180) - drawn
            drawn = self._stray(drawn, "protractor")
        c, s = cos_deg(drawn), sin_deg(drawn)
        ray = Line(vertex, base.dx * c - base.dy * s, base.dx * s + base.dy * c, name)
        return self._rule(ray, vertex)

    # ---------------------------------------------------------------------------------------------------- compass
    def arc(
        self,
        centre: Point,
        radius: Settable,
        *,
        name: str = "",
        why: str = "",
        whole: bool = False,
        pen: Pen = Pen.CONSTRUCTION,
    ) -> Circle:
        """Swing an arc."""
        name = name or f"{'circle' if whole else 'arc'} about {centre.name}"
        if self.lean:
            self.step("arc", Instrument.COMPASS, makes=[name])
        else:
            name = self.unique(name)
            self._keep_opening(radius)
            self.step("arc", Instrument.COMPASS, setting=bare(radius), on=(centre.name,), makes=[name], why=why)
            self.note("circle" if whole else "arc", (centre,), (name,), setting=radius, why=why)
        words, times = whole_for_half(radius) if self.taken is not None else ("", 1)
        if self.slips(words):
            radius = bare(radius) * times
        circle = Circle(self._stray_point(centre, "needle"), self._stray(radius, "compass"), name)
        self.draft(circle, whole=whole, pen=pen)
        return circle

    def circle_through(self, centre: Point, through: Point, *, name: str = "", why: str = "") -> Circle:
        """A whole circle about a centre through a point of the drawing."""
        opening = span(centre, through)
        return self.arc(centre, opening, name=name, why=why, whole=True)

    def step_off(self, circle: Circle, start: Point, chord: Settable, names: list[str], why: str = "") -> list[Point]:
        """Step a chord off round a circle anticlockwise, marking each; the errors add up as they do on paper."""
        on = (circle.name, start.name)
        self.step("step off", Instrument.DIVIDERS, setting=bare(chord), on=on, why=why)
        self.steps[-1].makes.extend(names)
        self.note("step off", (circle, start), names, setting=chord, go=1, why=why)
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

    def step_along(
        self, line: Line, start: Point, step: Settable, names: list[str], why: str = "", *, back: bool = False
    ) -> list[Point]:
        """Step an equal length off along a line, marking each; the errors add up as they do on paper."""
        on = (start.name, line.name)
        self._keep_opening(step)
        self.step("step along", Instrument.DIVIDERS, setting=bare(step), on=on, why=why)
        self.steps[-1].makes.extend(names)
        sign = -1 if back else 1
        self.note("step along", (line, start), names, setting=step, go=sign, why=why)
        found = []
        here = start
        for name in names:
            here = line.parallel(here).point_at(self._stray(step, "compass") * sign, name)
            found.append(self._marked(here, line))
        return found

    def divide_circle(
        self,
        circle: Circle,
        parts: int,
        start_angle: Settable | int,
        prefix: str | Sequence[str],
        why: str = "",
        *,
        clockwise: bool = False,
    ) -> list[Point]:
        """Divide a circle into equal parts, numbered from ``start_angle`` and anticlockwise or ``clockwise``; ``prefix`` is
        what stands before the numbers, or all names."""
        names = [self.numbered(prefix, index) for index in range(parts)] if isinstance(prefix, str) else list(prefix)
        if self.in_full:
            return dividing.round_by_rays(self, circle, start_angle, names, clockwise=clockwise)
        self.step("divide circle", Instrument.DIVIDERS, on=(circle.name,), why=why)
        begin = self.degrees(start_angle) if isinstance(start_angle, int) else start_angle
        more = {"parts": parts, "begin": begin}
        self.note("divide round", (circle,), names, go=-1 if clockwise else 1, why=why, more=more)
        if self.slips(f"counted {'anticlockwise' if clockwise else 'clockwise'} round {circle.name}"):
            clockwise = not clockwise
        if self.slips(f"divided into {parts + 1} parts instead of {parts}, marks counted instead of spaces"):
            parts += 1
        points = []
        for index, name in enumerate(names):
            share = self.number(360) * index / parts
            angle = bare(start_angle) + (-share if clockwise else share)
            exact = circle.point_at(angle, name)
            points.append(self._marked(self._stray_point(exact, "needle"), circle))
        self.steps[-1].makes.extend(point.name for point in points)
        return points

    # ----------------------------------------------------------------------------------- straightedge, set squares
    def line(self, a: Point, b: Point, name: str = "", *, why: str = "", pen: Pen = Pen.CONSTRUCTION) -> Line:
        """A straight line through two points of the drawing."""
        self.step("join", Instrument.STRAIGHTEDGE, on=(a.name, b.name), makes=[name or joint(a.name, b.name)], why=why)
        return self.joined(a, b, name, pen, why)

    def joined(self, a: Point, b: Point, name: str = "", pen: Pen = Pen.CONSTRUCTION, why: str = "") -> Line:
        """The same within a step that has begun."""
        name = self.unique(name or joint(a.name, b.name))
        self.note("join", (a, b), (name,), why=why)
        start, end = self._stray_point(a, "straightedge"), self._stray_point(b, "straightedge")
        ruled = Line.through(start, end, name)
        self.draft(ruled, a, b, pen=pen)
        return ruled

    def parallel(self, line: Line, through: Point, name: str, why: str = "", pen: Pen = Pen.CONSTRUCTION) -> Line:
        """The parallel through a point, by sliding a set square along a straightedge."""
        name = self._set_square("parallel", line, through, name, why)
        return self._rule(line.parallel(through, name), through, pen=pen)

    def parallel_touching(self, line: Line, arcs: list[Circle], side: str, name: str, why: str = "") -> Line:
        """The parallel that just touches arcs of one radius swung from the line, on its left or right."""
        name = self.unique(name)
        on = (line.name, *(arc.name for arc in arcs))
        self.step("touching", Instrument.SET_SQUARE, on=on, makes=[name], why=why, base_angle=_way(line))
        which = (plane.right_of if side == "right" else plane.left_of)(line)
        self.note("parallel touching", (line, *arcs), (name,), which=which, why=why)
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
        name = self._set_square("square", line, through, name, why)
        return self._rule(line.square(through, name), through)

    def _set_square(self, verb: str, line: Line, through: Point, name: str, why: str) -> str:
        """Lay a set square along a line or on it and slide it to a point; the name that the ruled line then has."""
        if self.lean:
            self.step(verb, Instrument.SET_SQUARE, makes=[name])
            return name
        name, on = self.unique(name), (line.name, through.name)
        self.step(verb, self._guide, on=on, makes=[name], why=why, base_angle=_way(line))
        self.note(verb, (line, through), (name,), why=why, more=self._along_dots)
        return name

    @property
    def _guide(self) -> Instrument:
        """What a line along an axis is drawn with: on dot paper the dots guide the straightedge."""
        return Instrument.SET_SQUARE if self.dots is None else Instrument.STRAIGHTEDGE

    @property
    def _along_dots(self) -> dict[str, int] | None:
        return None if self.dots is None else {"dots": 1}

    def square_from(self, line: Line, point: Point, name: str, why: str = "") -> Point:
        """Drop the perpendicular from a point on a line; the foot is named."""
        across = self.square(line, point, f"perpendicular from {point.name}", why)
        return self.meet(across, line, name=name)

    def bisector(self, a: Point, b: Point, name: str, why: str = "", opening: Settable | None = None) -> Line:
        """The perpendicular bisector of a–b by equal arcs from both ends."""
        if opening is None:
            opening = self.any_opening(plane.distance(a, b) * 2 / 3, more_than=span(a, b) / 2)
        first = self.arc(a, opening, why=why)
        second = self.arc(b, self.unless(TWO_OPENINGS, opening, lambda: bare(opening) * 11 / 10))
        return self.join_crossings(first, second, name)

    def join_crossings(self, first: Circle, second: Circle, name: str, why: str = "") -> Line:
        """The straight line through both crossings of two arcs."""
        name = self.unique(name)
        high, low = plane.crossings(first, second)
        for crossing in (high, low):
            self.touch(first, crossing)
            self.touch(second, crossing)
        self.step("crossings", Instrument.STRAIGHTEDGE, on=(first.name, second.name), makes=[name], why=why)
        self.note("join crossings", (first, second), (name,), why=why, more={"crossings": (high, low)})
        start, end = self._stray_point(low, "straightedge"), self._stray_point(high, "straightedge")
        ruled = Line.through(start, end, name)
        self.draft(ruled, low, high)
        return ruled

    def bisect(self, vertex: Point, a: Point, b: Point, name: str, marks: tuple[str, str] = ("1", "2")) -> Line:
        """The bisector of the angle a-vertex-b by equal arcs from two marks on its arms (Euclid I.9)."""
        opening = self.any_opening(plane.distance(vertex, a) * 2 / 5)
        swung = self.arc(vertex, opening, why="across both arms, any opening")
        one, other = (
            self.meet(swung, Line.through(vertex, arm), plane.nearest(arm), self.unique(mark))
            for arm, mark in zip((a, b), marks, strict=True)
        )
        first = self.arc(one, opening, why="inside the angle")
        second = self.arc(other, opening)
        inside = self.meet(first, second, plane.farthest(vertex))
        self.step("crossings", Instrument.STRAIGHTEDGE, on=(first.name, second.name), makes=[name])
        return self.joined(vertex, inside, name)

    def step_crossing(self, first: Circle, second: Circle) -> None:
        """Begin the step that joins the crossing of two arcs to something."""
        self.step("through crossing", Instrument.STRAIGHTEDGE, on=(first.name, second.name))

    def pencil(self, why: str = "") -> None:
        """Begin a step in which crossings of what is there already are marked."""
        self.step("mark", Instrument.PENCIL, why=why)

    def mark_crossings(
        self, crossed: Iterable[tuple[Line | Circle, Line | Circle, str]], which: Selector | None = None, why: str = ""
    ) -> list[Point]:
        """Mark crossings of what is there already, one after the other; each comes with its name."""
        found = []
        for first, second, name in crossed:
            self.pencil(why)
            found.append(self.meet(first, second, which, name))
        return found

    def step_through(self, line: Line, circle: Circle) -> None:
        """Begin the step that marks where an arc just touches something, on a line that is there."""
        self.step("touch point", Instrument.PENCIL, on=(circle.name, line.name))

    def divide(self, a: Point, b: Point, parts: int, names: list[str], why: str = "") -> list[Point]:
        """The points that divide a–b into equal parts, both ends left out; see ``dividing``."""
        if self.in_full:
            if parts == 2:
                return dividing.halve(self, a, b, names[0])
            return dividing.by_slant_line(self, a, b, parts, names)
        self.step("divide", Instrument.DIVIDERS, on=(a.name, b.name), makes=list(names), why=why)
        self.note("divide", (a, b), names, why=why, more={"parts": parts})
        if self.slips(f"divided into {parts + 1} parts instead of {parts}, marks counted instead of spaces"):
            parts += 1
        exact = [plane.between(a, b, index + 1, parts, name) for index, name in enumerate(names)]
        return [self.mark_point(self._stray_point(point, "needle")) for point in exact]

    # -------------------------------------------------------------------------------------------------- crossings
    def meet(
        self, first: Line | Circle, second: Line | Circle, which: Selector | None = None, name: str = "", shown: bool = True
    ) -> Point:
        """Mark a crossing, within the current step. One without a name is told as a small cross."""
        point = plane.meet(first, second, which, name)
        words = f"the other crossing taken for {name}" if name else "the other crossing taken"
        if which is not None and self.slips(words):
            one, other = plane.crossings(first, second)
            point = Point(one.x + other.x - point.x, one.y + other.y - point.y, name)
        self.touch(first, point)
        self.touch(second, point)
        if self.book is not None:
            if not name:
                point = point.named(self.crossing())
            two = isinstance(first, Circle) or isinstance(second, Circle)
            self.note("meet", (first, second), (point.name,), which=which if two else None)
            if not name:
                self.book.notes.append(point)
        if name:
            self.steps[-1].crossings.append((name, first.name, second.name))
            self.mark_point(point, shown=shown)
        return point

    def touched(self, arc: Circle, line: Line, name: str) -> Point:
        """Mark where an arc just touches a line, within the current step."""
        self.note("touch", (arc, line), (name,))
        point = plane.foot(arc.centre, line, name)
        self.touch(arc, point)
        self.touch(line, point)
        self.steps[-1].crossings.append((name, arc.name, line.name))
        return self.mark_point(point)

    def both(
        self, first: Line | Circle, second: Line | Circle, names: tuple[str, str], which: Selector
    ) -> tuple[Point, Point]:
        """Mark both crossings of two arcs, the one that ``which`` chooses first."""
        self.note("meet", (first, second), names, which=which)
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

    def stood_off(self, line: Line, length: Number, name: str) -> Point:
        """A length laid off from a line's beginning as part of an act that tells it."""
        return self._marked(line.point_at(self._stray(length, "scale"), name), line)

    def crossed(self, first: Line, second: Line, name: str) -> Point:
        """A crossing of two lines marked as part of an act that tells it."""
        point = plane.meet(first, second, None, name)
        self.touch(first, point)
        self.touch(second, point)
        self.steps[-1].crossings.append((name, first.name, second.name))
        return self.mark_point(point)

    def extend(self, line: Line, point: Point) -> None:
        """Draw a line on until it reaches a point."""
        self.touch(line, point)


def _way(line: Line) -> float:
    """Direction of a line in plain degrees, for laying an instrument; 0 in the other arithmetics."""
    if isinstance(line.dx, float):
        return math.degrees(math.atan2(line.dy, line.dx))
    return 0.0
