"""Questions to practise on: a problem with new numbers that are pleasant, fit the paper and make a figure that is fair to
draw; every kind of figure that a problem has comes up."""

from __future__ import annotations

import math
import random
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, fields, replace
from functools import cached_property, lru_cache
from typing import Any

from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN, roughly
from wisecompass.drafting.answer_words import answer_words
from wisecompass.drafting.conventions import Conventions, Units
from wisecompass.drafting.errors import BadGiven, Unknown, WiseCompassError
from wisecompass.drafting.givens import Typed
from wisecompass.drafting.marks import Dot
from wisecompass.drafting.problem import Method, Problem, Truth
from wisecompass.drafting.solve import Drawing, draw
from wisecompass.drafting.step import Kind
from wisecompass.folio.document import Figure, Folio
from wisecompass.folio.kept_questions import fits, kept
from wisecompass.folio.layout import arrange
from wisecompass.folio.links import links_in
from wisecompass.folio.page import room_of
from wisecompass.folio.paper import Paper
from wisecompass.folio.scales import SCALES
from wisecompass.folio.title_block import Title
from wisecompass.geometry.plane import Circle, Line
from wisecompass.judgement.pleasant import kind_of, pleasant

MOST_QUESTIONS = 2_000
"""So many questions are made in one go at most."""

LEVELS = {1: "all settings are shown", 2: "the method is named", 3: "the brief alone"}

LEAST_CROSSING, LEAST_APART = 15.0, 3.0
"""Lines of a fair figure cross at no less, degrees, and its letters are no nearer, mm of paper. Where a problem's own
figure has less, no worse than that is taken, of crossings only when nothing else is found soon."""

FEW, SPENT = 6, 480
"""Of so many figures the rarest kind is tried first; so many are tried in vain before it is said that there are no more."""

AT_MOST_TRUE = tuple(scale for scale in SCALES if scale <= 1)
"""The scales of a question and its answer: what is given is as long as it is wherever that fits the paper."""

SOON = 18
"""So many fair figures are looked at for one without a shallow crossing before one with it is taken."""

AS_A_WHOLE = 8
"""So many times other numbers are looked for with which figures can be drawn that hang on them."""

EASE = 0.7
"""How much worse than the problem's own figure a question may be."""


@dataclass(frozen=True)
class Question:
    """A problem with numbers: ``givens`` as typed; ``kind`` is what kind of figure it is; ``solution`` the one that is to be
    lined in."""

    problem: str
    method: str
    givens: dict[str, str]
    level: int = 1
    kind: str = ""
    solution: int = 1

    def __getstate__(self) -> dict[str, Any]:
        """Without what is remembered: functions cannot travel."""
        return {each.name: getattr(self, each.name) for each in fields(self)}

    @cached_property
    def found(self) -> Problem:
        return catalogue.problem(self.problem)

    @cached_property
    def typed(self) -> Typed:
        return self.found.read(self.givens)

    @property
    def brief(self) -> str:
        """The question in a sentence."""
        return self.found.spoken(self.typed)

    @property
    def answers(self) -> dict[str, float]:
        """The figures that are asked for, by finding."""
        truth = self.found.find_truth(self.typed, PLAIN)
        asked = asked_of(self.found, truth, self.solution)
        return {name: float(truth.findings[name]) for name in asked}  # type: ignore[arg-type]

    def figure(self, name: str, units: Units = Units.MM) -> Figure:
        """The figure of a folio that it is; in a folio of other units its numbers are told with theirs."""
        from wisecompass.folio.print import with_units

        figure = Figure(self.problem, self.method, dict(self.givens), self.solution, "fit", name=name)
        return figure if units is Units.MM else with_units(figure, "mm")

    def instead(self, figure: Figure, units: Units) -> Figure:
        """The question in the place of a figure, whose name and wishes it keeps."""
        asked = self.figure(figure.name, units)
        return replace(
            figure, method=asked.method, givens=asked.givens, solution=asked.solution, places={}, shifts={}, scale="fit"
        )


MOST_SOLUTIONS = 8

MOST_ASKED = 6
"""So many figures are asked for in a question."""


def asked_of(problem: Problem, truth: Truth, solution: int = 1) -> list[str]:
    """The findings of a solution that are asked for: numbers with a unit that a drawing shows, the first of them."""
    measured, kinds, findings = (Kind.LENGTH, Kind.ANGLE), problem.findings, truth.findings
    names = list(kinds)
    if truth.solutions > 1:
        others = {name: [each for each in _others(name) if each in kinds] for name in kinds}
        of_others = {each for every in others.values() for each in every}
        names = [name if solution == 1 else _of(name, solution, findings) for name in kinds if name not in of_others]
    numbers = [name for name in names if isinstance(findings.get(name), float)]
    shown = [name for name in numbers if kinds[name] in measured and name not in problem.reckoned_only]
    return (shown or numbers)[:MOST_ASKED]


def asked_words(question: Question, name: str) -> str:
    """What an answer of a question is called, where there is one figure and no second."""
    first = name.rpartition("_")[0]
    is_of_another = question.solution > 1 and first in question.found.findings and name in _others(first)
    return answer_words(first if is_of_another else name)


def _others(name: str) -> list[str]:
    """What a finding of the first solution may be called of others, two for each: ``side_b_2``, ``radius_a``."""
    return [f"{name}_{each}" for n in range(2, MOST_SOLUTIONS + 1) for each in (n, chr(ord("a") + n - 2))]


def _of(name: str, solution: int, findings: Any) -> str:
    """What a finding of the first solution is called of another; the same where they have it in common."""
    own = _others(name)[2 * solution - 4 : 2 * solution - 2]
    return next((each for each in own if findings.get(each) is not None), name)


def chosen(what: str) -> list[str]:
    """The ids of a problem, a family, or all.

    Raises:
        Unknown: there is no such problem or family.
    """
    if what in catalogue.FAMILIES:
        return [f"{what}/{name}" for name in catalogue.FAMILIES[what]]
    if what == "all":
        return catalogue.ids()
    if "/" not in what:
        families = ", ".join(catalogue.FAMILIES)
        raise Unknown(f"there is no family “{what[:40]}”; there are {families}, and all")
    return [catalogue.problem(what).id]


def questions(
    what: Sequence[str], count: int, seed: int, level: int = 1, paper: Paper | None = None, method: str | None = None
) -> Iterator[Question]:
    """So many questions, each problem in its turn, no two alike, and of every kind of figure in its turn; a seed gives the
    same again.

    Raises:
        BadGiven: the count or the level cannot be. Unknown: see ``chosen``. WiseCompassError: a problem has no more.
    """
    if not 1 <= count <= MOST_QUESTIONS:
        nearest = "1" if count < 1 else str(MOST_QUESTIONS)
        raise BadGiven("count", f"{count} questions cannot be made in one go: ask for 1 to {MOST_QUESTIONS}", nearest)
    if level not in LEVELS:
        raise BadGiven("level", f"there is no level {level}; there are 1, 2 and 3", "1")
    ids = [each for one in what for each in chosen(one)]
    sources = {each: Source(catalogue.problem(each), random.Random(f"{seed}/{each}"), paper, method) for each in ids}
    return (sources[ids[n % len(ids)]].next(level) for n in range(count))


def another_sheet(folio: Folio, s: int, seed: int, level: int) -> dict[int, Question]:
    """Other numbers for all figures of a sheet that hang on no other, by their places; those that hang on them follow.

    Raises:
        WiseCompassError: there are none, or none with which all figures of the sheet can be drawn.
    """
    from wisecompass.folio.print import tried

    sheet, units = folio.sheets[s], folio.conventions.units
    own = [n for n, figure in enumerate(sheet.figures) if not links_in(figure)]
    if not own:
        raise WiseCompassError("every figure of this sheet hangs on others: practise on those")
    for attempt in range(AS_A_WHOLE):
        found = {}
        for n in own:
            mark = seed * 1000 + attempt * 100 + n
            found[n] = next(questions([sheet.figures[n].problem], 1, mark, level, sheet.as_paper()))
        figures = [found[n].instead(each, units) if n in found else each for n, each in enumerate(sheet.figures)]
        others = replace(folio, sheets=(*folio.sheets[:s], replace(sheet, figures=tuple(figures)), *folio.sheets[s + 1 :]))
        if all(isinstance(tried(others, each), Drawing) for n, each in enumerate(figures) if n not in found):
            return found
    raise WiseCompassError("no other numbers were found with which all figures of this sheet can be drawn")


class Source:
    """Questions of one problem, one after the other: those that are kept of it first, then others that are looked for."""

    def __init__(
        self,
        problem: Problem,
        rng: random.Random,
        paper: Paper | None = None,
        method: str | None = None,
        *,
        keep: bool = True,
    ) -> None:
        """With ``keep`` those that were found beforehand are used; for a sheet that is smaller in some way than theirs each
        is drawn first."""
        self.problem, self.rng, self.paper = problem, rng, paper or Paper()
        self.methods = [problem.method(method)] if method else list(problem.methods)
        self.kept = kept(problem.id) if keep else []
        rng.shuffle(self.kept)
        self.given: set[tuple[str, ...]] = set()
        self.kinds: Counter[str] = Counter()
        self.shallow: set[str] = set()
        """Methods that were found to have no figure without a shallow crossing."""

    def next(self, level: int = 1) -> Question:
        """The next question: of a few figures the one of the rarest kind so far that is fair to draw."""
        while (ready := self._ready(level)) is not None:
            if tuple(ready.givens.values()) not in self.given and self._can_be_drawn(ready):
                return self._given(ready)
        spare: list[Question] = []
        for _ in range(SPENT // FEW):
            drafts = [draft for draft in (self._draft() for _ in range(FEW)) if draft is not None]
            for draft in sorted(drafts, key=lambda each: self._how_often(each.kind)):
                found, deep = self._fair(draft, level)
                if found is not None and not deep and found.method not in self.shallow:
                    spare.append(found)
                elif found is not None:
                    return self._given(found)
            if len(spare) >= SOON:
                break
        if spare:
            self.shallow |= {each.method for each in spare}
            return self._given(spare[0])
        many = f"after {len(self.given)} questions there are" if self.given else "there are"
        raise WiseCompassError(f"{many} no other pleasant numbers for {self.problem.id} that fit {self.paper.size}")

    def _ready(self, level: int) -> Question | None:
        """Of the questions that are kept the one of the rarest kind so far; it is used up."""
        names = {method.name for method in self.methods}
        left = [each for each in self.kept if each.method in names]
        if not left:
            return None
        first = min(left, key=lambda each: self._how_often(each.kind))
        self.kept.remove(first)
        givens = dict(zip((item.name for item in self.problem.given_list), first.values, strict=True))
        return Question(self.problem.id, first.method, givens, level, first.kind, first.solution)

    def _can_be_drawn(self, question: Question) -> bool:
        """Whether the problem and the method take its numbers as they are today."""
        try:
            typed = self.problem.read(question.givens, offers=False)
        except WiseCompassError:
            return False
        method = self.problem.method(question.method)
        if self.problem.first_broken(method.only, typed) is not None:
            return False
        draft = _Draft(question.givens, typed, method, question.kind, question.solution)
        return fits(self.paper) or self._fair(draft, question.level)[0] is not None

    def _given(self, question: Question) -> Question:
        self.kinds.update(question.kind.split(", "))
        self.given.add(tuple(question.givens.values()))
        return question

    def _how_often(self, kind: str) -> tuple[int, int]:
        """How often what is rarest of a kind has come up, and all of it."""
        counts = [self.kinds[word] for word in kind.split(", ")]
        return min(counts), sum(counts)

    def _draft(self) -> _Draft | None:
        """Pleasant givens that were not asked yet, with their kind."""
        raw = pleasant(self.problem, self.rng)
        if raw is None or tuple(raw.values()) in self.given:
            return None
        try:
            typed = self.problem.read(raw, offers=False)
            methods = [each for each in self.methods if self.problem.first_broken(each.only, typed) is None]
            truth = self.problem.find_truth(typed, PLAIN)
        except (WiseCompassError, ArithmeticError):
            return None
        if not methods:
            return None
        kind = kind_of(self.problem, typed, truth.findings, truth.solutions)
        return _Draft(raw, typed, self.rng.choice(methods), kind, self.rng.randint(1, max(1, min(2, truth.solutions))))

    def _fair(self, draft: _Draft, level: int) -> tuple[Question | None, bool]:
        """The question of a draft, where its figure is fair to draw, and whether it has no shallow crossing."""
        try:
            drawing = draw(self.problem, draft.typed, draft.method, solution=draft.solution)
        except (WiseCompassError, ArithmeticError):
            return None, False
        found = fairness(drawing, self.paper)
        if not found.at_least(_own_fairness(self.problem.id, draft.method.name, self.paper)):
            return None, False
        question = Question(self.problem.id, draft.method.name, draft.raw, level, draft.kind, draft.solution)
        return question, found.crossing >= LEAST_CROSSING


@dataclass(frozen=True)
class _Draft:
    """Givens that may become a question, and the solution that is wanted."""

    raw: dict[str, str]
    typed: Typed
    method: Method
    kind: str
    solution: int


@dataclass(frozen=True)
class Fairness:
    """How fair a figure is to draw: the scale at which it fits the paper, the least angle at which lines cross, degrees,
    and how near letters are to each other, mm of paper."""

    scale: float
    crossing: float
    apart: float

    def at_least(self, own: Fairness) -> bool:
        """Whether it is as good as is wanted, or not much worse than the problem's own figure."""
        return (
            self.scale >= min(1.0, own.scale)
            and self.crossing >= min(LEAST_CROSSING, own.crossing * EASE)
            and self.apart >= min(LEAST_APART, own.apart * EASE)
        )


@lru_cache(maxsize=512)
def _own_fairness(problem_id: str, method: str, paper: Paper) -> Fairness:
    problem = catalogue.problem(problem_id)
    try:
        typed = problem.served_by(problem.method(method), problem.read({}))
        return fairness(draw(problem, typed, problem.method(method)), paper)
    except WiseCompassError:
        return Fairness(0.5, LEAST_CROSSING, LEAST_APART)


def fairness(drawing: Drawing, paper: Paper) -> Fairness:
    """How fair a figure is on a paper."""
    conventions = Conventions()
    room = room_of(drawing, paper, conventions, Title())[0]
    scale = float(arrange(drawing.marks, drawing.rotations, room, None, paper.lettering, AT_MOST_TRUE).scale)
    return Fairness(scale, _least_crossing(drawing), _least_apart(drawing, scale))


def _least_crossing(drawing: Drawing) -> float:
    met = drawing.steps[0].book.met if drawing.steps and drawing.steps[0].book is not None else []
    return min((crossing_angle(*pair) for pair in met), default=90.0)


def crossing_angle(first: Line | Circle, second: Line | Circle) -> float:
    """At what angle two lines or arcs cross, degrees; where they touch or miss, 0."""
    if isinstance(first, Line) and isinstance(second, Line):
        ax, ay, bx, by = (roughly(v) for v in (first.dx, first.dy, second.dx, second.dy))
        return math.degrees(math.atan2(abs(ax * by - ay * bx), abs(ax * bx + ay * by)))
    if isinstance(first, Line) or isinstance(second, Line):
        line, circle = (first, second) if isinstance(first, Line) else (second, first)
        assert isinstance(line, Line) and isinstance(circle, Circle)
        dx, dy = roughly(line.dx), roughly(line.dy)
        x, y = roughly(circle.centre.x) - roughly(line.at.x), roughly(circle.centre.y) - roughly(line.at.y)
        away = abs(dx * y - dy * x) / (math.hypot(dx, dy) or 1.0)
        return math.degrees(math.acos(min(1.0, away / (roughly(circle.radius) or 1.0))))
    r, s = roughly(first.radius), roughly(second.radius)
    gap = math.hypot(roughly(second.centre.x) - roughly(first.centre.x), roughly(second.centre.y) - roughly(first.centre.y))
    cosine = (r * r + s * s - gap * gap) / (2 * r * s or 1.0)
    return math.degrees(math.acos(min(1.0, abs(cosine))))


def _least_apart(drawing: Drawing, scale: float) -> float:
    """How near two letters of a block are."""
    blocks: dict[str, list[tuple[float, float]]] = {}
    for mark in drawing.marks:
        if isinstance(mark, Dot) and mark.shown and mark.name:
            blocks.setdefault(mark.block, []).append((mark.x, mark.y))
    least = math.inf
    for spots in blocks.values():
        spots = sorted(set(spots))
        for k, (x, y) in enumerate(spots):
            for other in spots[k + 1 :]:
                if other[0] - x > least:
                    break
                least = min(least, math.hypot(other[0] - x, other[1] - y))
    return least * scale
