"""The process beside the desk: proofs, closed forms, judgement, measures, offers and exports are made here, so that nobody
who types waits for them and the precision of balls is nobody else's.

It reads requests from its standard input and writes replies to its standard output, both as pickles behind their length;
nobody but the desk that started it speaks with it. Of requests about a figure only the newest is worked on: one that has
become stale is let go between two steps of its drawing. When its input ends it ends.
"""

from __future__ import annotations

import gc
import os
import pickle
import queue
import struct
import sys
import threading
from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass, replace
from pathlib import Path
from typing import TYPE_CHECKING, Any, BinaryIO, cast

from wisecompass.catalogue import problem
from wisecompass.drafting.answers import Answer, ball_of
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.problem import Method, Problem
from wisecompass.drafting.solve import Certificate
from wisecompass.drafting.wanted import LetGo, heed, while_wanted
from wisecompass.folio.document import Figure, Folio, Settings
from wisecompass.folio.links import read_figure, sources
from wisecompass.folio.print import conventions_of
from wisecompass.folio.register import Place

if TYPE_CHECKING:
    from fractions import Fraction

    from wisecompass.drafting.hand import Hand
    from wisecompass.drafting.marks import Mark
    from wisecompass.folio.practice import Question
    from wisecompass.judgement.habits import Stray
    from wisecompass.judgement.hands import OnPaper
    from wisecompass.judgement.helps import Help
    from wisecompass.judgement.next_step import Choice
    from wisecompass.judgement.prepared import Prepared, Reading
    from wisecompass.judgement.sensitivity import Carried, Slope
    from wisecompass.judgement.verdict import Verdict
    from wisecompass.judgement.wishes import Turned

LENGTH = struct.Struct(">Q")


@dataclass(frozen=True)
class Task:
    """All that the proof and the judgement of a figure hang on."""

    folio: Folio
    """The figure's sheet under the head of the whole, and another sheet with the figures that those on it hang on."""
    place: Place = (0, 0)

    @classmethod
    def of(cls, folio: Folio, place: Place, figure: Figure | None = None) -> Task:
        """The figure at a place, or another in its stead."""
        sheet = folio.sheets[place[0]]
        f = place[1]
        asked = (*sheet.figures[:f], figure or sheet.figures[f], *sheet.figures[f + 1 :])
        here = {each.name for each in asked}
        others = {each.name: each for one in asked for each in sources(folio, one) if each.name not in here}
        mine = replace(sheet, figures=asked)
        sheets = (mine, replace(sheet, figures=tuple(others.values()))) if others else (mine,)
        return cls(replace(folio, sheets=sheets, logbook=(), readings={}), (0, f))

    @property
    def figure(self) -> Figure:
        return self.folio.sheets[0].figures[self.place[1]]

    @property
    def settings(self) -> Settings:
        return self.folio.conventions


@dataclass(frozen=True)
class Judged:
    """A worth without its method, which cannot travel: by the method's name."""

    method: str
    words: str
    serves: bool
    miss: float | None
    faired: float
    steps: int
    tools: tuple[str, ...]


@dataclass(frozen=True)
class Request:
    """``kind`` is figure, lettering, offer, export or one of ``ASKED``. ``number`` grows; of figures only the largest
    counts."""

    number: int
    kind: str
    body: Any


@dataclass(frozen=True)
class Reply:
    """``kind`` is proof, advice, closed, reaches, worth, lettered, refused, progress, exported, failed or what was asked;
    ``last`` ends a request."""

    number: int
    kind: str
    body: Any
    last: bool = False


# -------------------------------------------------------------------------------------------------------- what is made
def about_figure(task: Task) -> Iterator[tuple[str, Any]]:
    """Proof, advice on scale and paper, closed forms, and each method judged, in that order."""
    from wisecompass.folio.print import drawn, scale_of
    from wisecompass.folio.scales import read_scale
    from wisecompass.judgement.hands import reaches
    from wisecompass.judgement.worth import judge

    found, _ = _problem_and_method(task)
    yield "proof", prove(task, closed_forms=False)
    drawing, fixed = drawn(task.folio, task.figure), read_scale(task.figure.scale)
    yield "advice", _advice(task, drawing, fixed)
    yield "closed", prove(task, closed_forms=True)
    scale = float(fixed or scale_of(task.folio, drawing, task.place))
    yield "reaches", reaches(on_paper(task, scale), hand_of(task))
    for each in found.methods:
        one = judge(replace(on_paper(task, scale), method=each, wider={}), hand_of(task))
        yield "worth", Judged(each.name, one.words, one.serves, one.miss, one.faired, one.steps, one.tools)


def on_paper(task: Task, scale: float | None = None) -> OnPaper:
    """A figure as it is drawn on its sheet; the ``scale`` is found where it is not known."""
    from wisecompass.folio.print import drawn, scale_of
    from wisecompass.folio.scales import read_scale
    from wisecompass.judgement.hands import OnPaper

    found, method = _problem_and_method(task)
    typed = read_figure(task.folio, task.figure, offers=False)
    if scale is None:
        scale = float(read_scale(task.figure.scale) or scale_of(task.folio, drawn(task.folio, task.figure), task.place))
    schools = conventions_of(task.folio, task.figure)
    return OnPaper(found, typed, method, scale, schools, task.figure.solution, task.figure.places)


def hand_of(task: Task) -> Hand:
    """The hand that the folio says draws; an ordinary one where that cannot be read."""
    from wisecompass.judgement.hands import ORDINARY, read_hand

    try:
        return read_hand(task.settings.hand)
    except WiseCompassError:
        return ORDINARY


def helped(task: Task, finding: str) -> list[Help]:
    """What would bring the hand nearer to an answer."""
    from wisecompass.judgement.helps import helps

    sheet = on_paper(task)
    return helps(sheet, finding, hand_of(task), _next_scale(sheet.scale))


def _next_scale(scale: float) -> float | None:
    """The next larger scale of ISO 5455."""
    from wisecompass.folio.scales import SCALES

    return next((float(each) for each in sorted(SCALES) if each > scale * 1.001), None)


def depends(task: Task, tolerances: dict[str, Fraction]) -> tuple[dict[str, dict[str, Slope]], dict[str, Carried]]:
    """Slopes by finding and given, and what tolerances leave of each finding."""
    from wisecompass.judgement.sensitivity import carried, sensitivities

    found, _ = _problem_and_method(task)
    typed = read_figure(task.folio, task.figure, offers=False)
    return sensitivities(found, typed), carried(found, typed, tolerances) if tolerances else {}


def turned(task: Task, given: str, finding: str, wish: Fraction, limits: tuple[Fraction, Fraction] | None) -> Turned:
    """What a given must be for an answer to be what is wished."""
    from wisecompass.judgement.turned import turn

    found, _ = _problem_and_method(task)
    return turn(found, read_figure(task.folio, task.figure, offers=False), given, finding, wish, limits)


def lettered(task: Task) -> Any:
    """Where letters and names stand best on the sheet of a figure."""
    from wisecompass.folio.print import page_of

    return page_of(task.folio, task.place).lettering


def prove(task: Task, closed_forms: bool) -> Certificate:
    """The certificate of a figure."""
    from wisecompass.drafting.solve import certify

    found, method = _problem_and_method(task)
    typed = read_figure(task.folio, task.figure, offers=False)
    return certify(found, typed, method, conventions_of(task.folio, task.figure), task.figure.solution, closed_forms)


def _advice(task: Task, drawing: Any, scale: Any) -> str:
    from wisecompass.folio.fit import advice, advice_beside_others

    if len(task.folio.sheets[0].figures) > 1:
        return advice_beside_others(task.folio, task.place)
    return advice(drawing, task.folio.sheets[0].as_paper(), task.settings.as_conventions(), scale)


def _problem_and_method(task: Task) -> tuple[Problem, Method]:
    found = problem(task.figure.problem)
    return found, found.method(task.figure.method)


def measured(task: Task, first: str, second: str) -> tuple[Answer, float | None]:
    """The distance of two points of the construction, with its closed form, and the direction from one to the other; None
    where they are one point."""
    from wisecompass.arithmetic import BALL, Number
    from wisecompass.arithmetic.certified import with_enough_bits
    from wisecompass.drafting.solve import CLOSED_FORM_BITS, answer_of, construct
    from wisecompass.drafting.step import Kind
    from wisecompass.geometry.plane import Point, direction, distance

    found, method = _problem_and_method(task)
    typed = read_figure(task.folio, task.figure, offers=False)

    def run() -> tuple[Number, Number]:
        board = construct(
            found, typed, method, BALL, conventions=conventions_of(task.folio, task.figure), solution=task.figure.solution
        )
        a, b = (cast("Point", board.points[name]) for name in (first, second))
        return distance(a, b), direction(a, b)

    length, way = with_enough_bits(run, lambda _: True, CLOSED_FORM_BITS)
    answer = answer_of("distance", Kind.LENGTH, length, closed_forms=True)
    return answer, None if ball_of(length).holds_zero else float(way)


def refused(task: Task) -> WiseCompassError | None:
    """Why givens admit no figure, with the nearest that do."""
    try:
        read_figure(task.folio, task.figure)
    except WiseCompassError as reason:
        return reason
    return None


def exported(kind: str, path: Path, folio: Folio, place: Place, tell: Callable[[str], None] = lambda _: None) -> str:
    """Write a file of a kind: pdf, svg, dxf, csv, points or folio-pdf. Returns what was done.

    Raises:
        WiseCompassError: the figure does not work, or the place cannot be written.
    """
    from wisecompass.exchange.export import made
    from wisecompass.folio import files

    files.write(path, made(kind, folio, place, tell))
    return f"wrote {path.name}"


@dataclass(frozen=True)
class Measurable:
    """A figure that can be read off a sheet, and its unit."""

    name: str
    unit: str


@dataclass(frozen=True)
class Marked:
    """A verdict, with what passes the tolerance and the units of what was measured."""

    verdict: Verdict
    passes: dict[str, bool]
    units: dict[str, str]
    strays: tuple[Stray, ...] = ()
    """What an honest drawing says of the hand, for the logbook."""


_PREPARED: list[tuple[Task, Prepared]] = []
"""What verdicts hang on, for the figures asked about last."""

PREPARED_KEPT = 4


def prepared_for(task: Task) -> Prepared:
    """What verdicts on a figure hang on; remembered."""
    from wisecompass.judgement.prepared import prepare

    for known, prepared in _PREPARED:
        if known == task:
            return prepared
    prepared = prepare(on_paper(task), hand_of(task))
    _PREPARED.append((task, prepared))
    del _PREPARED[:-PREPARED_KEPT]
    return prepared


def measurable(task: Task) -> list[Measurable]:
    """What can be read off a sheet."""
    from wisecompass.judgement.marking import kind_of_figure
    from wisecompass.judgement.prepared import can_be_measured

    prepared = prepared_for(task)
    return [Measurable(name, kind_of_figure(prepared, name).unit) for name in can_be_measured(prepared)]


def judged(
    task: Task, typed: dict[str, str], tolerance: str, unit: str, clicked: dict[str, Reading] | None = None
) -> Marked:
    """The verdict on what was typed, and on the letters that were clicked on a photograph."""
    from wisecompass.judgement.habits import strays_of
    from wisecompass.judgement.marking import kind_of_figure, passes, read_tolerance, readings
    from wisecompass.judgement.verdict import judge

    prepared = prepared_for(task)
    verdict = judge(prepared, readings(prepared, typed, unit) | (clicked or {}))
    allowed = read_tolerance(tolerance)
    kept = {name: passes(prepared, name, one, allowed) for name, one in verdict.measured.items()}
    units = {name: kind_of_figure(prepared, name).unit for name in verdict.measured}
    told = readings(prepared, typed, unit)
    strays = tuple(strays_of(prepared, told)) if verdict.kind in ("within", "cannot tell") else ()
    return Marked(verdict, kept, units, strays)


def instead(task: Task, fork: int) -> list[Mark]:
    """What is lined in where a mistake is made, in its blocks."""
    from wisecompass.drafting.pens import Pen
    from wisecompass.exchange.leaves import ready

    board = replace(on_paper(task), taken=fork).by(None)
    heavy = {Pen.OUTLINE, Pen.CUT, Pen.FOLD, Pen.HIDDEN, Pen.GIVEN}
    return [ready(mark) for mark in board.finished_marks() if mark.pen in heavy]


def next_step(task: Task, step: int, hide: bool, seed: int) -> list[Choice]:
    """What may come next, the right step and two others."""
    from wisecompass.judgement.next_step import choices

    return choices(on_paper(task), step, hide, seed)


def another(task: Task, seed: int, level: int) -> Question:
    """The same problem with other numbers that fit the sheet."""
    from wisecompass.folio.practice import questions

    sheet = task.folio.sheets[task.place[0]]
    return next(questions([task.figure.problem], 1, seed, level, sheet.as_paper()))


def another_sheet(task: Task, seed: int, level: int) -> dict[int, Question]:
    """The same sheet with other numbers."""
    from wisecompass.folio import practice

    return practice.another_sheet(task.folio, task.place[0], seed, level)


ASKED: dict[str, Callable[..., Any]] = {
    "measure": measured,
    "helps": helped,
    "depends": depends,
    "turn": turned,
    "measurable": measurable,
    "judge": judged,
    "instead": instead,
    "next step": next_step,
    "another": another,
    "another sheet": another_sheet,
}
"""What is asked for by name and answered in one piece."""


# ------------------------------------------------------------------------------------------------------------ messages
def send(stream: BinaryIO, message: object) -> None:
    """One message, whole."""
    stream.write(packed(message))
    stream.flush()


def packed(message: object) -> bytes:
    data = pickle.dumps(message, pickle.HIGHEST_PROTOCOL)
    return LENGTH.pack(len(data)) + data


class Unpacker:
    """Messages out of bytes as they come."""

    def __init__(self) -> None:
        self._bytes = bytearray()

    def feed(self, data: bytes) -> Iterator[Any]:
        self._bytes += data
        while len(self._bytes) >= LENGTH.size:
            (length,) = LENGTH.unpack_from(self._bytes)
            if len(self._bytes) < LENGTH.size + length:
                return
            message = bytes(self._bytes[LENGTH.size : LENGTH.size + length])
            del self._bytes[: LENGTH.size + length]
            yield pickle.loads(message)


REST = 0.25
"""Seconds after a proof in which another figure may be asked about, before more is said of this one."""


class Service:
    """Requests in, replies out."""

    def __init__(self, requests: BinaryIO, replies: BinaryIO) -> None:
        self._in, self._out = requests, replies
        self._waiting: queue.Queue[Request | None] = queue.Queue()
        self._come = threading.Event()
        self._newest = 0

    def run(self) -> None:
        """Work until nobody asks any more."""
        threading.Thread(target=self._listen, daemon=True).start()
        gc.freeze()  # what is loaded by now stays
        gc.set_threshold(50_000, 20, 100)
        while (request := self._waiting.get()) is not None:
            self._answer(request)

    def _listen(self) -> None:
        unpacker = Unpacker()
        while data := self._in.read1(1 << 16):  # type: ignore[attr-defined]
            for request in unpacker.feed(data):
                if request.kind == "figure":
                    self._newest = request.number
                self._waiting.put(request)
                self._come.set()
        self._waiting.put(None)
        self._come.set()

    def _answer(self, request: Request) -> None:
        try:
            with while_wanted():
                self.work(request)
        except WiseCompassError as reason:
            self.say(request, "failed", str(reason), last=True)
        except Exception as reason:
            self.say(request, "failed", f"it did not work: {type(reason).__name__}: {reason}"[:200], last=True)

    def work(self, request: Request) -> None:
        """Answer one request."""
        if request.kind == "figure":
            with suppress(LetGo), while_wanted(lambda: request.number == self._newest):
                heed()
                for kind, body in about_figure(request.body):
                    heed()
                    self.say(request, kind, body)
                    self._serve_others(request, REST if kind == "proof" else 0.0)
                    heed()
            self.say(request, "done", None, last=True)
        elif request.kind == "lettering":
            self.say(request, "lettered", lettered(request.body), last=True)
        elif request.kind == "offer":
            self.say(request, "refused", refused(request.body), last=True)
        elif request.kind in ASKED:
            self.say(request, request.kind, ASKED[request.kind](*request.body), last=True)
            if request.kind == "measurable":
                self._look_for_mistakes(*request.body)
        else:
            kind, path, folio, place = request.body
            done = exported(kind, path, folio, place, lambda text: self.say(request, "progress", text))
            self.say(request, "exported", done, last=True)

    def _look_for_mistakes(self, task: Task) -> None:
        """While nobody asks for anything: who knows what can be measured will have it judged."""
        search = prepared_for(task).search
        while self._waiting.empty() and search.go_on():
            pass

    def _serve_others(self, request: Request, rest: float) -> None:
        """Answer what has come meanwhile, or comes within so many seconds; another figure makes an end of this one. Who
        types on waits for the next proof, not for what is to be said of the last figure besides."""
        if rest and self._waiting.empty():
            self._come.clear()
            if self._waiting.empty():
                self._come.wait(rest)
        while request.number == self._newest and not self._waiting.empty():
            other = self._waiting.get()
            if other is None:
                self._waiting.put(None)
                return
            self._answer(other)

    def say(self, request: Request, kind: str, body: Any, last: bool = False) -> None:
        send(self._out, Reply(request.number, kind, body, last))


def main() -> None:
    serve(Service)


def serve(service: type[Service]) -> None:
    """Answer what comes in at the standard input until it ends."""
    out = os.fdopen(os.dup(1), "wb", buffering=0)
    os.dup2(2, 1)  # whatever a library prints must not come between the messages
    service(sys.stdin.buffer, cast("BinaryIO", out)).run()
