"""What a board remembers: steps, named points, findings, checks and, in a plain run, the marks.

Lines and arcs are drafted before anybody knows how long they must be. The recorder keeps each with the points that
turn out to lie on it, and gives it its length when the figure is finished: as far as it was used and a little over.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from enum import Enum
from fractions import Fraction
from typing import Any, cast

from wisecompass.arithmetic import HAND, PLAIN, Arithmetic, Number
from wisecompass.drafting import breaking, marks
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.forks import Fork
from wisecompass.drafting.hand import Unsteadiness
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.motion import Folding, Motion, Turn
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.record import Book, Note, Record
from wisecompass.drafting.setting import Settable, Setting, bare
from wisecompass.drafting.step import Check, Instrument, Step
from wisecompass.drafting.view import Belonging, InSpace, Placed, Triple
from wisecompass.drafting.wanted import heed
from wisecompass.drafting.wording import lowered
from wisecompass.geometry.panels import Panel
from wisecompass.geometry.plane import Circle, Line, Point, Selector
from wisecompass.geometry.space import Point3

OVERSHOOT = 0.014
"""How far a construction line runs past its last point, as a share of the figure's size."""


ASKED = "+"
"""Before the name of a wish that is left out unless it is asked for."""


class _Nowhere(list[Any]):
    """Where a step that is only counted puts what it makes."""

    def append(self, _: Any) -> None:
        """Forget it."""

    def extend(self, _: Any) -> None:
        """Forget them."""


_COUNTED = {tool: Step(0, "count", tool, makes=_Nowhere(), crossings=_Nowhere(), cautions=_Nowhere()) for tool in Instrument}
"""The steps of a drawing that nobody reads: they are counted, and have their instrument."""


@dataclass(slots=True)
class _Draft:
    """A line or arc whose drawn extent is not known yet."""

    shape: Line | Circle
    pen: Pen
    step: int
    block: str
    solution: int
    whole: bool
    overshoot: bool
    touched: list[Point] = field(default_factory=list)
    far: list[Point] = field(default_factory=list)
    """Points that it runs to, but only as far as there is room."""


@dataclass(frozen=True)
class Faired:
    """Points that a curve is faired through, in their order; if it closes, in any order about its middle."""

    points: tuple[Point, ...]
    closed: bool
    block: str


class Detail(Enum):
    """How much of a plain run is drawn: only what is lined in, that and the points, all lines too; and all with its acts."""

    RESULT = 0
    POINTS = 1
    LINES = 2
    WHOLE = 3


class Recorder:
    """The memory of a board, in one arithmetic."""

    def __init__(
        self,
        arithmetic: Arithmetic,
        conventions: Conventions | None = None,
        unsteadiness: Unsteadiness | None = None,
        solution: int = 1,
        detail: Detail = Detail.WHOLE,
        places: Mapping[str, float] | None = None,
        in_full: bool = False,
        wider: Mapping[int, float] | None = None,
        taken: int | None = None,
    ) -> None:
        self.arithmetic = arithmetic
        self.conventions = conventions or Conventions()
        self.drawing = arithmetic is PLAIN
        self._constructing = self.drawing and detail is not Detail.RESULT
        self._ruling = detail in (Detail.LINES, Detail.WHOLE)
        self.book = Book() if self.drawing and detail is Detail.WHOLE else None
        self.lean = arithmetic is HAND or (self.drawing and self.book is None and unsteadiness is None)
        """A drawing whose steps nobody reads: they are only counted. Nor are its checks read, but those of hands."""
        self.bare_crossings = False
        """Whether places without a letter are only where lines cross: so many dots would hide the figure."""
        self.forks: list[Fork] = []
        self.taken = taken
        """Which fork is taken by mistake, by its place; -1 for none while they are listed, None where nobody looks."""
        self.opened: list[Setting] = []
        """The openings that may be any, in the order in which they were chosen."""
        self.wider = wider or {}
        """How many times as wide some of them are taken, by their place in that order."""
        self._openings: set[int] = set()
        """Openings that may be any and have been used: the dividers still keep them."""
        self._names: dict[str, int] = {}
        self._crossings = 0
        self.places = places or {}
        self.wishes: list[str] = []
        """What may be left out of the construction."""
        self.placed: list[Placed] = []
        self.beams: list[InSpace] = []
        self.motions: list[Motion] = []
        self.belongings: list[Belonging] = []
        self.known: dict[str, int] = {}
        self.wanted_solution = solution
        self.in_full = in_full
        """Whether divisions are unfolded into the steps that they stand for."""
        self.dots: Number | None = None
        """How far the dots of the paper are apart, where lengths are counted on them, mm."""
        self.steps: list[Step] = []
        self._gathering, self._acts = False, 0
        self.points: dict[str, Point | Point3] = {}
        self.findings: dict[str, Number | Point3 | tuple[Number, ...] | str | bool | int | None] = {}
        self.checks: list[Check] = []
        self.plotted: set[str] = set()
        self.from_zero: dict[str, str] = {}
        self.faired: list[Faired] = []
        self.solutions = 1
        self._begun: set[str] = set()
        """Parts that have their first point."""
        self.rotations: dict[str, float] = {}
        self._marks: list[Mark | _Draft] = []
        self._drafts: dict[int, _Draft] = {}
        self._far: list[range] = []
        self._may_be_far = False
        self._unsteadiness = unsteadiness
        self._told_at = 0
        """The step that what is drawn now is told with, where that is not the last."""
        self._block = ""
        self._solution = 0

    # ------------------------------------------------------------------------------------------------- numbers
    def number(self, value: int | Fraction | str) -> Number:
        """An exact constant in the board's arithmetic: ``number("2.5")`` is 5/2."""
        return self.arithmetic.number(value if isinstance(value, int) else Fraction(value))

    def _stray(self, value: Settable, part: str) -> Number:
        if type(value) is Setting:
            value = value.number
        if self._unsteadiness is None:
            return cast("Number", value)
        return self._unsteadiness.stray(value, part, self._told_at or len(self.steps))

    def strayed(self, value: Settable, part: str) -> Number:
        """A setting as a hand makes it, for operations that live outside the board."""
        return self._stray(value, part)

    def _stray_point(self, point: Point, part: str) -> Point:
        if self._unsteadiness is None:
            return point
        return self._unsteadiness.stray_point(point, part, self._told_at or len(self.steps))

    def slips(self, words: str) -> bool:
        """Whether a mistake is made here that is said in ``words``."""
        if self.taken is None or not words:
            return False
        self.forks.append(Fork(words, self._told_at or len(self.steps)))
        return len(self.forks) - 1 == self.taken

    def unless(self, words: str, right: Any, wrong: Callable[[], Any]) -> Any:
        """What is ``right``, unless a mistake of this method's own is made that is said in ``words``."""
        return wrong() if self.slips(words) else right

    def misread(self, words: str, read: Callable[[], Mapping[str, Any]]) -> None:
        """What is drawn is right, but by a mistake that is said in ``words`` other figures are ``read`` off it."""
        if self.slips(words):
            self.findings.update(read())

    def nth(self, k: int) -> str:
        """The number of the k-th division (k from 0), counted from 0 or from 1 as the conventions say."""
        return str(k + self.conventions.first_number)

    def numbered(self, prefix: str, k: int) -> str:
        """The name of the k-th division's point; what it is called from 0 is kept in ``from_zero``."""
        name = f"{prefix}{self.nth(k)}"
        self.from_zero[name] = f"{prefix}{k}"
        return name

    # -------------------------------------------------------------------------------------------------- places
    @property
    def block_name(self) -> str:
        """The block that is drawn in."""
        return self._block

    @contextmanager
    def block(self, name: str) -> Iterator[None]:
        """Draw the body in a block of its own, which the layout places on the paper."""
        before, self._block = self._block, name
        try:
            yield
        finally:
            self._block = before

    @contextmanager
    def may_be_far(self) -> Iterator[None]:
        """What the body draws may lie far off. Lines to there are then broken off near the rest of the figure."""
        first, before, self._may_be_far = len(self._marks), self._may_be_far, True
        try:
            yield
        finally:
            self._may_be_far = before
            self._far.append(range(first, len(self._marks)))

    @contextmanager
    def for_solution(self, number: int) -> Iterator[None]:
        """What the body lines in belongs to solution ``number``; it is lined in heavily if that one is wanted."""
        before, self._solution = self._solution, number
        self.solutions = max(self.solutions, number)
        try:
            yield
        finally:
            self._solution = before

    @contextmanager
    def likewise(self, number: int) -> Iterator[None]:
        """A whole construction that is done once for every solution: the wanted one is shown step by step, each other
        is one step that leaves only its outline."""
        if number == self.wanted_solution:
            with self.for_solution(number):
                yield
            return
        first, first_mark, drawing = len(self.steps), len(self._marks), self._constructing
        noted = 0 if self.book is None else len(self.book.notes)
        self._constructing, self._told_at = False, first + 1
        try:
            with self.for_solution(number):
                yield
        finally:
            self._constructing, self._told_at = drawing, 0
        makes = [name for step in self.steps[first:] for name in step.makes]
        told = self.wanted_solution, number
        step = Step(first + 1, "other solution", Instrument.REASON, solutions=told, makes=makes, book=self.book)
        self.steps[first:] = [step]
        if self.book is not None:
            notes = self.book.notes[noted:]
            self.book.notes[noted:] = [n.at_step(first + 1) if type(n) is Note else n for n in notes]
        self._marks[first_mark:] = [replace(mark, step=first + 1) for mark in self._marks[first_mark:]]

    @contextmanager
    def wish(self, name: str, *, usual: bool = True) -> Iterator[None]:
        """What the body draws is a wish: where the drafter leaves it out it is worked out and nothing of it stays. What the
        rest of the construction needs must not be made within. What is not ``usual`` is left out unless it is asked for."""
        name = name if usual else f"{ASKED}{name}"
        if name not in self.wishes:
            self.wishes.append(name)
        if (name in self.conventions.left_out) is not usual:
            yield
            return
        lists: list[list[Any]] = [
            self.steps,
            self.checks,
            self._marks,
            self.faired,
            self.placed,
            self.beams,
            self.motions,
            self.belongings,
        ]
        lists += [] if self.book is None else [self.book.notes]
        lengths = [len(each) for each in lists]
        kept: list[dict[Any, Any]] = [self.points, self.findings, self.known, self.from_zero, self._names, self._drafts]
        before = [dict(each) for each in kept]
        sets: list[tuple[set[Any], set[Any]]] = [(e, set(e)) for e in (self.plotted, self._openings, self._begun)]
        drafts = [(draft, len(draft.touched), len(draft.far)) for draft in self._drafts.values()]
        crossings, far = self._crossings, len(self._far)
        doings = self._unsteadiness, self.taken
        self._unsteadiness = self.taken = None  # what is not drawn neither strays nor is mistaken
        yield
        self._unsteadiness, self.taken = doings
        for each, length in zip(lists, lengths, strict=True):
            del each[length:]
        for held, was in zip(kept, before, strict=True):
            held.clear()
            held.update(was)
        for some, had in sets:
            some.intersection_update(had)
        for draft, touched, loose in drafts:
            del draft.touched[touched:], draft.far[loose:]
        self._crossings = crossings
        del self._far[far:]

    # ---------------------------------------------------------------------------------------------------- acts
    def note(
        self,
        do: str,
        on: Sequence[Any] = (),
        makes: Sequence[str] = (),
        *,
        setting: Settable | None = None,
        which: Selector | None = None,
        go: int = 0,
        why: str = "",
        more: Mapping[str, Any] | None = None,
    ) -> None:
        """Note for the record what is done, within the current step; see ``record.Note``."""
        self._acts += 1
        if self.book is not None:
            step, part, solution = len(self.steps), self._block, self._solution
            said = (do, on, makes, step, part, solution, setting, which, go, why, more)
            self.book.notes.append(tuple.__new__(Note, said))  # a third of the time that Note(...) takes

    def steps_by_letter(self) -> dict[str, int]:
        """The step that makes a letter, of every one so far."""
        notes = () if self.book is None else self.book.notes
        return {name: note.step for note in notes if type(note) is Note for name in note.makes}

    @property
    def record(self) -> Record:
        """The record of a finished whole run."""
        assert self.book is not None, "only a whole run in floats is recorded"
        return self.book.record

    def unique(self, name: str) -> str:
        """A name that nothing bears yet: ``arc about P, no. 2``."""
        if self.book is None:
            return name
        names = self._names
        if name not in names:
            names[name] = 1
            return name
        while True:
            names[name] += 1
            found = f"{name}, no. {names[name]}"
            if found not in names:
                names[found] = 1
                return found

    def crossing(self) -> str:
        """A name for a crossing that is used but not worth a letter."""
        self._crossings += 1
        return f"crossing {self._crossings}"

    # --------------------------------------------------------------------------------------------------- steps
    def step(self, verb: str, instrument: Instrument, **details: Any) -> None:
        """Begin the next step; within a step that takes several operations only what it makes is added to that."""
        heed()
        if self._gathering:
            if self.lean:
                self._acts += 1
            else:
                self.steps[-1].makes.extend(details.get("makes", ()))
            return
        if self.lean:
            self.steps.append(_COUNTED[instrument])
        else:
            self.steps.append(Step(len(self.steps) + 1, verb, instrument, book=self.book, **details))

    @contextmanager
    def gathered(self, verb: str, instrument: Instrument, text: str = "") -> Iterator[None]:
        """One step that takes all operations within: what a drafter does in one go, such as a part in all its views; it is
        told by a ``text`` of its own and then by its acts. Where all is there already it is none."""
        self.step(verb, instrument, text=text)
        self._gathering, acts = True, self._acts
        try:
            yield
        finally:
            self._gathering = False
            if self._acts == acts:
                self.steps.pop()

    def step_reason(self, text: str, makes: Sequence[str] = ()) -> None:
        """A step that is thought, not drawn."""
        self.step("say", Instrument.REASON, text=text, makes=list(makes))

    def say(self, text: str) -> None:
        """What the current step does, where its acts are not told one by one."""
        if not self.lean:
            self.steps[-1].text = text

    def caution(self, text: str) -> None:
        """Warn at the current step."""
        if not self.lean:
            self.steps[-1].cautions.append(lowered(text))

    def find(self, name: str, value: Number | Point3 | tuple[Number, ...] | str | bool | int | None) -> None:
        """Report a finding measured on the drawing."""
        self.findings[name] = bare(value)

    def find_if_asked(self, name: str, value: Callable[[], Number]) -> None:
        """Report a finding that takes long, unless the hands that draw are not asked for it."""
        if self._unsteadiness is None or name not in self._unsteadiness.unasked:
            self.find(name, value())

    def measured(self, name: str) -> Number:
        """A finding that is a number."""
        return cast("Number", self.findings[name])

    def check(self, text: str, residual: Number, unit: str = "mm") -> None:
        """State an identity of the figure whose ``residual`` must be zero."""
        if not (self.lean and self.drawing):
            self.checks.append(Check(lowered(text), bare(residual), unit))

    def plane_point(self, name: str) -> Point:
        """A named point of the sheet. Raises KeyError where there is none."""
        point = self.points[name]
        if not isinstance(point, Point):
            raise KeyError(f"{name} is a point in space")
        return point

    def solid_point(self, name: str) -> Point3:
        """A named point in space. Raises KeyError where there is none."""
        point = self.points[name]
        if not isinstance(point, Point3):
            raise KeyError(f"{name} is a point of the sheet")
        return point

    def plot(self, *points: Point) -> None:
        """These points are meant to lie on the problem's curve."""
        self.plotted.update(point.name for point in points)

    def space_point(self, name: str, x: Number, front: Number, above: Number) -> Point3:
        """Read off a point in space from its views."""
        point = Point3(x, front, above, name)
        self.points[name] = point
        if self._solution in (0, self.wanted_solution):
            self.known.setdefault(name, len(self.steps))
        return point

    def in_space(self, a: str, b: str, pen: Pen = Pen.OUTLINE) -> None:
        """Show the edge between two points of the figure in the picture in space, from this step on."""
        if self.drawing and self._solution in (0, self.wanted_solution):
            self.beams.append(InSpace(a, b, pen, len(self.steps)))

    def in_space_along(self, places: Sequence[Triple], pen: Pen = Pen.OUTLINE) -> None:
        """Show an edge through these places in the picture in space, from this step on."""
        if self.drawing and self._solution in (0, self.wanted_solution):
            self.beams.append(InSpace("", "", pen, len(self.steps), tuple(places)))

    def moves(self, first: int, last: int, words: str, *turns: Turn) -> None:
        """In the steps after ``first`` up to ``last`` the figure is turned in space; for the picture there."""
        if self.drawing and first < last and self._solution in (0, self.wanted_solution):
            self.motions.append(Motion(first + 1, last, turns, words))

    def walks(self, first: int, last: int, words: str, path: Sequence[Triple], axis: Sequence[Triple]) -> None:
        """In the steps after ``first`` up to ``last`` a point turns and walks along a path; for the picture in space."""
        if self.drawing and first < last and self._solution in (0, self.wanted_solution):
            self.motions.append(Motion(first + 1, last, (), words, tuple(path), tuple(axis)))

    def folds(self, first: int, net: Sequence[Panel], body: Mapping[str, Point3]) -> None:
        """In the steps after ``first`` a pattern is laid out; the picture in space folds it."""
        if self.drawing and self._solution in (0, self.wanted_solution):
            folding = Folding.of(net, body)
            self.motions.append(Motion(first + 1, len(self.steps), (), "the pattern is folded", folding=folding))

    # --------------------------------------------------------------------------------------------------- marks
    def drawn_with(self, pen: Pen) -> list[Mark]:
        """What a pen has drawn so far in the block that is drawn in."""
        return [m for m in self._marks if isinstance(m, Mark) and m.pen is pen and m.block == self._block]

    def mark_point(self, point: Point, *, shown: bool = True, pen: Pen = Pen.CONSTRUCTION) -> Point:
        """Put a named point on the sheet."""
        if point.name:
            self.points[point.name] = point
            if self.book is not None:
                self._names.setdefault(point.name, 1)
                self.book.notes.append(point)
        if self._constructing:
            solution = self._solution
            self._marks.append(
                marks.Dot(
                    x=float(point.x),
                    y=float(point.y),
                    shown=shown and solution in (0, self.wanted_solution) and not self._is_bare(point.name),
                    name=point.name,
                    pen=pen,
                    step=len(self.steps),
                    block=self._block,
                    solution=solution,
                )
            )
        return point

    def _is_bare(self, name: str) -> bool:
        return self.bare_crossings and name.startswith(breaking.UNLETTERED)

    def put(self, kind: type[Mark], **fields: Any) -> None:
        """Add a finished mark to the current step, block and solution."""
        self._marks.append(kind(step=len(self.steps), block=self._block, solution=self._solution, **fields))

    def draft(
        self,
        shape: Line | Circle,
        *touched: Point,
        pen: Pen = Pen.CONSTRUCTION,
        whole: bool = False,
        overshoot: bool = True,
    ) -> None:
        """Put a line or arc on the sheet, as long as it will turn out to be needed."""
        if not (self._constructing and self._ruling):
            return
        whole = whole or (self.conventions.whole_circles and isinstance(shape, Circle))
        draft = _Draft(shape, pen, len(self.steps), self._block, self._solution, whole, overshoot)
        (draft.far if self._may_be_far else draft.touched).extend(touched)
        self._marks.append(draft)
        self._drafts[id(shape)] = draft

    def touch(self, shape: Line | Circle, point: Point) -> None:
        """The drawing of ``shape`` must reach ``point``."""
        if self._constructing and id(shape) in self._drafts:
            draft = self._drafts[id(shape)]
            (draft.far if self._may_be_far else draft.touched).append(point)

    def finished_marks(self) -> list[Mark]:
        """All marks, each construction line cut to the length that was used."""
        far = {index for indices in self._far for index in indices}
        if not far and not self._drafts:
            return cast("list[Mark]", self._marks)  # nothing waits for its length
        reached = self._reached(far)
        sizes = {block: _diagonal(pairs) for block, pairs in reached.items()}
        if not far:
            over = {block: OVERSHOOT * size for block, size in sizes.items()}
            return [
                _cut(mark, over.get(mark.block, 0.0) if mark.overshoot else 0.0) if isinstance(mark, _Draft) else mark
                for mark in self._marks
            ]
        boxes = {block: breaking.limits(pairs) for block, pairs in reached.items()}
        finished: list[Mark] = []
        for index, mark in enumerate(self._marks):
            size = OVERSHOOT * sizes.get(mark.block, 0.0)
            whole = _cut(mark, size if mark.overshoot else 0.0) if isinstance(mark, _Draft) else mark
            box = boxes.get(mark.block)
            loose = index in far or (isinstance(mark, _Draft) and mark.far)
            finished += [whole] if box is None or not loose else self._broken(mark, whole, box)
        return breaking.said_once(finished)

    def _reached(self, far: set[int]) -> dict[str, list[tuple[float, float]]]:
        """What each block covers, apart from what may be far."""
        reached: dict[str, list[tuple[float, float]]] = {}
        pairs, block = reached.setdefault(self._block, []), self._block
        for index, mark in enumerate(self._marks):
            if index in far:
                continue
            if mark.block != block:
                block = mark.block
                pairs = reached.setdefault(block, [])
            if type(mark) is marks.Dot:
                pairs.append((mark.x, mark.y))
            else:
                pairs.extend(_reach(mark) if isinstance(mark, _Draft) else marks.reach(mark))
        return {block: pairs for block, pairs in reached.items() if pairs}

    def _broken(self, mark: Mark | _Draft, whole: Mark, box: marks.Box) -> list[Mark]:
        """What is left near the figure of a mark that may be far."""
        if isinstance(whole, marks.Segment):
            if isinstance(mark, _Draft):
                near, far = _spots(mark.touched + mark.far), _spots(mark.far)
            else:
                near = far = [self._spot_at(whole.x1, whole.y1), self._spot_at(whole.x2, whole.y2)]
            return breaking.broken(whole, box, near, far, self._lettered(mark.block))
        return [whole] if all(breaking.within(box, x, y) for x, y in marks.reach(whole)) else []

    def _lettered(self, block: str) -> list[breaking.Spot]:
        """The places of a block that bear a letter."""
        dots = (mark for mark in self._marks if type(mark) is marks.Dot and mark.block == block and mark.name and mark.shown)
        return [breaking.Spot(d.x, d.y, d.name) for d in dots if not d.name.startswith(breaking.UNLETTERED)]

    def _spot_at(self, x: float, y: float) -> breaking.Spot:
        """The named point of the sheet at a place."""
        named = (p for p in self.points.values() if isinstance(p, Point) and float(p.x) == x and float(p.y) == y)
        return breaking.Spot(x, y, next((p.name for p in named), ""))


def _diagonal(pairs: Sequence[tuple[float, float]]) -> float:
    """How large a block is: the diagonal of its box."""
    xs, ys = zip(*pairs, strict=True) if pairs else ((0.0,), (0.0,))
    return math.hypot(max(xs) - min(xs), max(ys) - min(ys))


def _spots(points: Sequence[Point]) -> list[breaking.Spot]:
    return [breaking.Spot(float(p.x), float(p.y), p.name) for p in points]


def _reach(draft: _Draft) -> Sequence[tuple[float, float]]:
    reach = [(float(point.x), float(point.y)) for point in draft.touched]
    if isinstance(draft.shape, Circle) and (draft.whole or not (reach or draft.far)):
        cx, cy, r = float(draft.shape.centre.x), float(draft.shape.centre.y), float(draft.shape.radius)
        reach += [(cx - r, cy - r), (cx + r, cy + r)]
    return reach


def _cut(draft: _Draft, overshoot: float) -> Mark:
    """The finished mark of a draft."""
    shape = draft.shape
    if isinstance(shape, Circle):
        return _cut_arc(draft, shape, overshoot)
    at_x, at_y, dx, dy = float(shape.at.x), float(shape.at.y), float(shape.dx), float(shape.dy)
    length = math.hypot(dx, dy) or 1.0
    dx, dy = dx / length, dy / length
    touched = draft.touched + draft.far if draft.far else draft.touched
    along = [(float(p.x) - at_x) * dx + (float(p.y) - at_y) * dy for p in touched] or [0.0, length]
    low, high = min(along) - overshoot, max(along) + overshoot
    return marks.Segment(
        x1=at_x + dx * low,
        y1=at_y + dy * low,
        x2=at_x + dx * high,
        y2=at_y + dy * high,
        pen=draft.pen,
        step=draft.step,
        name=shape.name,
        block=draft.block,
        solution=draft.solution,
    )


def _cut_arc(draft: _Draft, circle: Circle, overshoot: float) -> Mark:
    cx, cy, radius = float(circle.centre.x), float(circle.centre.y), float(circle.radius)
    start, sweep = 0.0, 360.0
    touched = draft.touched + draft.far
    if touched and not draft.whole and radius > 0:
        angles = sorted(math.degrees(math.atan2(float(p.y) - cy, float(p.x) - cx)) % 360 for p in touched)
        gaps = [(angles[(i + 1) % len(angles)] - angle) % 360 or 360.0 for i, angle in enumerate(angles)]
        widest = max(range(len(gaps)), key=gaps.__getitem__)
        over = math.degrees(2 * overshoot / radius) if radius > overshoot else 30.0
        start = angles[(widest + 1) % len(angles)] - over
        sweep = min(360.0, 360.0 - gaps[widest] + 2 * over)
    return marks.Arc(
        cx=cx,
        cy=cy,
        radius=radius,
        start=start,
        sweep=sweep,
        pen=draft.pen,
        step=draft.step,
        name=circle.name,
        block=draft.block,
        solution=draft.solution,
    )
