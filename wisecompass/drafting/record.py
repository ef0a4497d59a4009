"""The construction record: the acts of a sheet, in the order in which they are done.

An act names what it does, what it stands on, its setting, which crossing or side is meant, and what it makes; with the
givens, paper and instruments it suffices to redraw every letter (``docs/construction-record.md``). While a method runs
the board only keeps notes, in terms of points and lines; the record is made of them when somebody asks for it. It knows
points and lines by the names that earlier acts gave them, and gives each line the way that a word on paper can tell,
however the code has turned it.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, NamedTuple, TypeAlias

from wisecompass.arithmetic import roughly
from wisecompass.drafting.setting import ANY, SQUARE, Settable, Setting, as_json, bare, negative, positive, reading
from wisecompass.geometry.plane import Circle, Line, Point, Selector

Ref: TypeAlias = "str | tuple[str, str]"
"""A name that an earlier act made; a line that may be undrawn as the two letters that it runs through."""

ALIKE = 1e-7
"""The sine of the angle up to which two lines count as one."""

SET_SQUARES = 15
"""The step of the angles that set squares give, alone and put together, degrees."""

UNSAID = "?"
"""Stands for a point or line that no earlier act made."""

WAYS = {1: "along", -1: "back"}
TURNS = {1: "anticlockwise", -1: "clockwise"}
_OPPOSITE = {"left of": "right of", "right of": "left of", "along": "back along", "back along": "along"}


class Note(NamedTuple):
    """What the board keeps of an act: points, lines and arcs as the code has them. ``go`` is 1 along a line and -1 back;
    ``more`` is what only this kind of act has, and what its line's way is found from. A tuple, for a run makes hundreds."""

    do: str
    on: Sequence[Any]
    makes: Sequence[str]
    step: int
    part: str
    solution: int
    setting: Settable | None = None
    which: Selector | None = None
    go: int = 0
    why: str = ""
    more: Mapping[str, Any] | None = None

    def at_step(self, step: int) -> Note:
        """The same within another step."""
        return tuple.__new__(Note, (*self[:3], step, *self[4:]))


@dataclass(slots=True)
class Act:
    """One act. ``which`` is the word for the crossing or side with what it is seen from; ``way`` is along or back on the
    line laid off on, ``turn`` the sense of a turn; ``more`` holds what only this kind of act has."""

    n: int
    step: int
    do: str
    on: tuple[Ref, ...] = ()
    value: float | None = None
    """What the instrument is set to, mm or degrees, for reading."""
    set_to: dict[str, Any] | None = None
    """The setting as the record has it."""
    which: tuple[str, tuple[Ref, ...]] | None = None
    way: str = ""
    turn: str = ""
    makes: tuple[str, ...] = ()
    part: str = ""
    solution: int = 0
    more: dict[str, Any] = field(default_factory=dict)
    why: str = ""
    seen: tuple[float, float] | None = None
    """Which way on the sheet it goes, or the way of the line that its side is seen from: for the sentence."""
    sense: tuple[Any, ...] = ()
    """How the way of its line is told without the sheet's directions: ``from`` a point, as a ray runs; a ``pair``, from one
    letter to another; ``as`` a pair, which it is parallel with; ``square`` to a line that has a sense, to its left."""
    words: str = ""
    """The sum that it is set to with the names of list items in words."""

    @property
    def basis(self) -> set[str]:
        """The names that it stands on: what it is done on, what it is set to, and what its side is seen from."""
        refs: list[Any] = [*self.on, *(self.which[1] if self.which is not None else ())]
        if self.set_to is not None and self.set_to["from"] == "span":
            refs += self.set_to["of"]
        return {name for ref in refs for name in (ref if isinstance(ref, tuple) else (ref,))}

    def as_json(self) -> dict[str, Any]:
        """The act as ``solve --json`` gives it; ``value`` is only for reading."""
        found: dict[str, Any] = {"n": self.n, "do": self.do}
        if self.on:
            found["on"] = [list(each) if isinstance(each, tuple) else each for each in self.on]
        if self.set_to is not None:
            found["setting"] = {**self.set_to, "value": self.value}
        if self.which is not None:
            word, of = self.which
            found["which"] = {"side": word}
            if of:
                found["which"]["of"] = [list(each) if isinstance(each, tuple) else each for each in of]
        for key, value in (("way", self.way), ("turn", self.turn)):
            if value:
                found[key] = value
        if self.makes:
            found["makes"] = list(self.makes)
        if self.part:
            found["part"] = self.part
        if self.solution:
            found["solution"] = self.solution
        return {**found, **self.more}


@dataclass(slots=True)
class Ruled:
    """The way of a line on the sheet."""

    dx: float
    dy: float


def by_set_square(base: Line, angle: Settable) -> bool:
    """Whether set squares on the T-square give the angle: a multiple of 15° from a level line or an upright."""
    turns = roughly(bare(angle)) / SET_SQUARES
    return abs(turns - round(turns)) < ALIKE and 0.0 in (roughly(base.dx), roughly(base.dy))


class Book:
    """The notes of a run, and the record that is made of them when it is asked for."""

    def __init__(self) -> None:
        self.notes: list[Note | Point] = []
        """Acts, and between them the letters that were put on the sheet."""
        self._record: Record | None = None
        self._met: list[Sequence[Any]] = []

    @property
    def record(self) -> Record:
        """The record of the finished run."""
        if self._record is None:
            self._met = self.met
            self._record = Record(self.notes)
            self.notes = []
        return self._record

    @property
    def met(self) -> list[Sequence[Any]]:
        """The two lines or arcs of every crossing that was marked; of a run in this process alone."""
        if self._record is not None:
            return self._met
        return [note.on for note in self.notes if type(note) is Note and note.do == "meet" and len(note.on) == 2]

    def of_step(self, n: int) -> list[Act]:
        return self.record.by_step.get(n, [])

    def __getstate__(self) -> dict[str, Any]:
        return {"notes": [], "_record": _Kept(self.record.by_step)}


class _Kept:
    """What is left of a record that travels to another process: its acts."""

    def __init__(self, by_step: dict[int, list[Act]]) -> None:
        self.by_step = by_step


class Record:
    """The acts, and what they have made."""

    def __init__(self, notes: Sequence[Note | Point]) -> None:
        self.acts: list[Act] = []
        self.by_step: dict[int, list[Act]] = {}
        self.letters: dict[str, Point] = {}
        self._lines: dict[str, Ruled] = {}
        self._others: set[str] = set()
        """Names of arcs, curves and strips."""
        self._made: set[str] = set()
        self._firsts: dict[str, tuple[Point, Sequence[Settable]]] = {}
        """The first point of each part, from which others are set out, with its place."""
        self._senses: dict[str, tuple[Any, ...]] = {}
        """How the ways of lines are told, of those that have such words."""
        self._through: dict[str, dict[str, None]] = {}
        """The lines that are known to run through a letter, in their order."""
        self._opened: dict[int, tuple[Setting, str]] = {}
        self._last: Note | None = None
        for note in notes:
            if isinstance(note, Note):
                self._last = note
                enter = _ENTRIES.get(note.do)
                if enter is None:
                    self._plainly(note)
                else:
                    enter(self, note)
            else:
                self._lettered(note)

    # ------------------------------------------------------------------------------------------------------- names
    def ref(self, thing: Any) -> Ref:
        """The name of a point, line or arc that an earlier act made."""
        if isinstance(thing, str):
            return thing
        if isinstance(thing, Point):
            return thing.name if thing.name in self.letters else UNSAID
        if isinstance(thing, Circle):
            return thing.name if thing.name in self._others else UNSAID
        known = self._lines.get(thing.name)
        if known is not None and self._runs_with(thing, known):
            return str(thing.name)
        if thing.via is not None and thing.at.name in self.letters and thing.via.name in self.letters:
            return self._drawn(thing.at.name, thing.via.name) or (thing.at.name, thing.via.name)
        return UNSAID

    def _runs_with(self, line: Line, known: Ruled) -> bool:
        """Whether a line of the code may be the one of that name on the sheet: another may have borrowed its name."""
        dx, dy = roughly(line.dx), roughly(line.dy)
        return abs(dx * known.dy - dy * known.dx) <= ALIKE * math.hypot(dx, dy) * math.hypot(known.dx, known.dy)

    def _drawn(self, a: str, b: str) -> str | None:
        """The line on the sheet that runs through two letters, if there is one."""
        through_b = self._through.get(b, {})
        return next((line for line in self._through.get(a, {}) if line in through_b), None)

    def _lies_on(self, letters: Sequence[str], lines: Sequence[Ref]) -> None:
        """Know that letters lie on lines."""
        for line in lines:
            if isinstance(line, str) and line in self._lines:
                for letter in letters:
                    self._through.setdefault(letter, {})[line] = None

    def _sense(self, line: Line) -> int:
        """1 where the code's line runs the record's way, -1 where it runs against it."""
        known = self._lines.get(str(self.ref(line)))
        if known is None:
            return 1
        return 1 if roughly(line.dx) * known.dx + roughly(line.dy) * known.dy >= 0 else -1

    def _way(self, line: Line) -> tuple[float, float]:
        """The record's way of a line."""
        known = self._lines.get(str(self.ref(line)))
        return (roughly(line.dx), roughly(line.dy)) if known is None else (known.dx, known.dy)

    def _lettered(self, point: Point) -> None:
        """A letter is on the sheet. One that no act has made is another's as well, or is unsaid."""
        if point is self.letters.get(point.name):
            return
        if point.name not in self._made and self._last is not None:
            x, y = roughly(point.x), roughly(point.y)
            same = [p for p in self.letters.values() if roughly(p.x) == x and roughly(p.y) == y]
            near = self._last
            do, on = ("also", same[-1:]) if same else ("unsaid", [])
            self._plainly(Note(do, on, [point.name], near.step, near.part, near.solution))
        self.letters[point.name] = point

    # ------------------------------------------------------------------------------------------------------ lines
    def _rule(self, act: Act, dx: float, dy: float, sense: tuple[Any, ...] = ()) -> None:
        """The line that an act makes, and its way."""
        name = act.makes[0]
        self._lines[name] = Ruled(dx, dy)
        if sense:
            self._senses[name] = sense
        for each in act.on:
            if each in self.letters:
                self._through.setdefault(str(each), {})[name] = None

    def _sense_of(self, line: Ref) -> tuple[Any, ...]:
        """How the way of a line is told."""
        return ("pair", *line) if isinstance(line, tuple) else self._senses.get(line, ())

    # ------------------------------------------------------------------------------------------------------- acts
    def _which(self, selector: Selector | None) -> tuple[str, tuple[Ref, ...]] | None:
        """A selector in words, turned about where the code's line runs against the record's way."""
        if selector is None:
            return None
        word, of = selector.word, selector.of
        refs = tuple(self.ref(each) for each in of)
        if of and isinstance(of[0], Line) and self._sense(of[0]) < 0:
            word = _OPPOSITE[word]
        return word, refs

    def _seen_by(self, selector: Selector | None) -> tuple[float, float] | None:
        """The way on the sheet of the line that a side is seen from, or in which one goes along it."""
        if selector is None or not selector.of or not isinstance(selector.of[0], Line):
            return None
        line = selector.of[0]
        if selector.word.endswith("along"):
            sign = 1 if selector.word == "along" else -1
            return roughly(line.dx) * sign, roughly(line.dy) * sign
        return self._way(line)

    def _set_to(self, value: Settable | None, makes: Sequence[str] = ()) -> dict[str, Any] | None:
        """A setting as the record has it; an opening used again is told as kept."""
        if value is None:
            return None
        if type(value) is Setting and value.origin == ANY:
            if id(value) in self._opened:
                return {"from": "kept", "of": self._opened[id(value)][1]}
            self._opened[id(value)] = (value, makes[0] if makes else "")
        return as_json(value, self.ref)

    def _told(self, value: Settable) -> dict[str, Any]:
        """A signed setting that is a field of its own, with its value."""
        return {**(self._set_to(value) or {}), "value": roughly(bare(value))}

    def _plainly(self, note: Note, **changes: Any) -> Act:
        """An act as it was noted. ``changes`` are what its kind knows better."""
        setting = changes.pop("setting", note.setting)
        which = self._which(note.which)
        details: dict[str, Any] = {
            "on": tuple([self.ref(each) for each in note.on]),
            "makes": tuple(note.makes),
            "more": dict(note.more or {}),
            "which": which,
            "set_to": self._set_to(setting, note.makes),
            "value": None if setting is None else abs(roughly(bare(setting))),
            **changes,
        }
        if note.which is not None and which is not None:
            details["seen"] = self._seen_by(note.which)
            details["sense"] = self._sense_of(which[1][0]) if which[1] and isinstance(note.which.of[0], Line) else ()
        act = Act(
            n=len(self.acts) + 1,
            step=note.step,
            do=note.do,
            part=note.part,
            solution=note.solution,
            why=note.why,
            **details,
        )
        self._made.update(act.makes)
        self.acts.append(act)
        self.by_step.setdefault(note.step, []).append(act)
        return act

    def _level(self, note: Note) -> None:
        self._rule(self._plainly(note), *((1.0, 0.0) if note.do == "level" else (0.0, 1.0)))

    def _slant(self, note: Note) -> None:
        angle = int((note.more or {})["angle"])
        sharp, hand = (angle, "right") if angle < 90 else (180 - angle, "left")
        setting = Setting(float(sharp), SQUARE, sharp)
        slope = math.radians(angle)
        dots = {"dots": 1} if "dots" in (note.more or {}) else {}
        act = self._plainly(note, setting=setting, more={"rising": hand, **dots})
        self._rule(act, math.cos(slope), math.sin(slope))

    def _join(self, note: Note) -> None:
        a, b = note.on
        sense = ("pair", a.name, b.name)
        self._rule(self._plainly(note), roughly(b.x) - roughly(a.x), roughly(b.y) - roughly(a.y), sense)

    def _join_crossings(self, note: Note) -> None:
        high, low = (note.more or {})["crossings"]
        way = roughly(high.x) - roughly(low.x), roughly(high.y) - roughly(low.y)
        self._rule(self._plainly(note, more={}), *way)

    def _parallel(self, note: Note) -> None:
        line = note.on[0]
        known = self._lines[line] if isinstance(line, str) else Ruled(*self._way(line))
        act = self._plainly(note)
        kind, *letters = self._sense_of(act.on[0]) or ("",)
        self._rule(act, known.dx, known.dy, ("as", *letters) if kind in ("pair", "as") else ())

    def _square(self, note: Note) -> None:
        dx, dy = self._way(note.on[0])
        act = self._plainly(note)
        sense = self._sense_of(act.on[0])
        self._rule(act, -dy, dx, ("square", act.on[0], sense[1]) if sense and sense[0] in ("from", "pair") else ())

    def _fold(self, note: Note) -> None:
        more = dict(note.more or {})
        dx, dy = more.pop("along")
        self._rule(self._plainly(note, more=more), dx, dy)

    def _protract(self, note: Note) -> None:
        base, setting = note.on[0], note.setting
        assert setting is not None
        drawn, (size, sign, arm) = roughly(bare(setting)), reading(setting)
        way = "back" if self._sense(base) * arm < 0 else ""
        dx, dy = roughly(base.dx), roughly(base.dy)
        more = {"tool": "set square"} if by_set_square(base, setting) else {}
        act = self._plainly(note, setting=size, turn=TURNS[sign], way=way, seen=(dx * arm, dy * arm), more=more)
        act.sense = self._sense_of(act.on[0])
        slope = math.atan2(dy, dx) + math.radians(drawn)
        self._rule(act, math.cos(slope), math.sin(slope), ("from", note.on[1].name))

    def _along(self, note: Note) -> None:
        """What is laid off along a line."""
        line, setting = note.on[0], note.setting
        assert setting is not None
        go = note.go * (-1 if negative(setting) else 1)
        way, seen = WAYS[self._sense(line) * go], (roughly(line.dx) * go, roughly(line.dy) * go)
        act = self._plainly(note, setting=positive(setting), way=way, seen=seen)
        act.sense = self._sense_of(act.on[0])
        self._lies_on(act.makes, act.on[:1])

    def _meet(self, note: Note) -> None:
        act = self._plainly(note)
        self._lies_on(act.makes, act.on)

    def _swing(self, note: Note) -> None:
        assert note.setting is not None
        self._others.update(self._plainly(note, setting=positive(note.setting)).makes)

    def _curve(self, note: Note) -> None:
        self._others.update(self._plainly(note).makes)

    def _turned(self, note: Note) -> None:
        self._plainly(note, turn=TURNS[note.go])

    def _divide_round(self, note: Note) -> None:
        more = dict(note.more or {})
        begin = self._told(more.pop("begin"))
        self._plainly(note, turn=TURNS[note.go], more={**more, "begin": begin})

    def _point(self, note: Note) -> None:
        """The first point of a part goes where there is room, others are set out from it."""
        more = note.more or {}
        point, place, key = more["point"], more["place"], note.part + more["kind"]
        first = self._firsts.get(key)
        if first is None:
            self._firsts[key] = (point, place)
            self._plainly(Note("place", (), note.makes, note.step, note.part, note.solution, why=note.why))
            return
        steps = {}
        for name, value, zero in zip(("right", "up"), place, first[1], strict=True):
            away: Settable = value if roughly(bare(zero)) == 0 else value - zero
            if roughly(bare(away)) != 0:
                steps[name] = self._told(away)
        out = Note("set out", (first[0],), note.makes, note.step, note.part, note.solution, why=note.why, more=steps)
        self._plainly(out)

    def _views(self, note: Note) -> None:
        more = dict(note.more or {})
        origin = more.pop("origin")
        self._plainly(note, more=more)
        self.letters["0"] = origin
        for name in ("XY", "wall line"):
            self._lines[name] = Ruled(1.0, 0.0)

    def _set_out_in_views(self, note: Note) -> None:
        more = {name: self._told(value) for name, value in (note.more or {}).items()}
        act = self._plainly(note, more=more)
        up, low, projector = act.makes
        self._lines[projector] = Ruled(0.0, 1.0)
        self._lies_on((up, low), (projector,))

    def _strip(self, note: Note) -> None:
        more = dict(note.more or {})
        marks = {name: self._told(more.pop(name)) for name in ("first", "second")}
        self._others.update(self._plainly(note, more={**more, **marks}).makes)

    def _line_in(self, note: Note) -> None:
        """Ink, from point to point or along a line outwards."""
        if not note.go:
            self._plainly(note)
            return
        line = note.on[1]
        seen = roughly(line.dx) * note.go, roughly(line.dy) * note.go
        act = self._plainly(note, way=WAYS[self._sense(line) * note.go], seen=seen)
        act.sense = self._sense_of(act.on[1])

    def _line_in_between(self, note: Note) -> None:
        """Ink along a line, from where one crosses it to where another does."""
        self._plainly(note)


_ENTRIES: dict[str, Callable[[Record, Note], Any]] = {
    "point": Record._point,
    "level": Record._level,
    "upright": Record._level,
    "slant": Record._slant,
    "join": Record._join,
    "join crossings": Record._join_crossings,
    "parallel": Record._parallel,
    "parallel touching": Record._parallel,
    "square": Record._square,
    "protract": Record._protract,
    "arc": Record._swing,
    "circle": Record._swing,
    "lay off": Record._along,
    "step along": Record._along,
    "step off": Record._turned,
    "divide round": Record._divide_round,
    "meet": Record._meet,
    "touch": Record._meet,
    "strip": Record._strip,
    "fair": Record._curve,
    "views": Record._views,
    "set out in views": Record._set_out_in_views,
    "fold": Record._fold,
    "line in": Record._line_in,
    "line in between": Record._line_in_between,
}
