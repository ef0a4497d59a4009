"""Running a problem: a drawing in floats, a certificate in balls, a batch of hands."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, cast

from wisecompass.arithmetic import BALL, HAND, PLAIN, Arithmetic, Number, absolute, larger
from wisecompass.arithmetic.certified import with_enough_bits
from wisecompass.arithmetic.undecided import Undecided
from wisecompass.drafting.answer_words import answer_words
from wisecompass.drafting.answers import PROVED_TO, Answer, ball_of, ball_values, rounded_up
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.errors import BadGiven, DrawAgain
from wisecompass.drafting.givens import Typed, bind, bind_settings
from wisecompass.drafting.hand import Hand, Unsteadiness
from wisecompass.drafting.likewise import folded, renumbered
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.motion import Motion
from wisecompass.drafting.problem import Exactness, Method, Problem, Truth, Value
from wisecompass.drafting.recorder import Detail, Faired
from wisecompass.drafting.step import Check, Kind, Step
from wisecompass.drafting.view import Belonging, InSpace, Placed, Triple
from wisecompass.geometry.plane import Point, distance
from wisecompass.geometry.space import Point3, distance3

if TYPE_CHECKING:
    from flint import arb

CLOSED_FORM_BITS = 420


@dataclass(repr=False)
class Drawing:
    """A construction drawn in floats."""

    problem: Problem
    method: Method
    typed: Typed
    marks: list[Mark]
    steps: list[Step]
    findings: dict[str, float | str | bool | int | list[float] | None]
    solutions: int
    rotations: Mapping[str, float]
    faired: list[Faired]
    placed: list[Placed] = field(default_factory=list)
    """Auxiliary views, which may be dragged along their projectors."""
    beams: list[InSpace] = field(default_factory=list)
    in_space: dict[str, tuple[Triple, int]] = field(default_factory=dict)
    """The points known in space: x, front, above, and the step that finds them."""
    wishes: list[str] = field(default_factory=list)
    """What of the construction may be left out."""
    motions: list[Motion] = field(default_factory=list)
    belongings: list[Belonging] = field(default_factory=list)
    """How the figure moves in space in some of the steps."""
    operations: int = 0
    """How many steps there were before what repeats was folded."""
    goes_on: bool = False
    """Whether another figure's drawing is under it."""


@dataclass(frozen=True)
class CheckResult:
    """A check evaluated in balls."""

    text: str
    residual: float
    bound: float
    unit: str
    holds: bool


@dataclass(frozen=True)
class Deviation:
    """How far a method's points stray from the truth, at worst and where."""

    worst: float
    where: str


@dataclass(repr=False)
class Certificate:
    """All that is proved about one construction of one problem."""

    answers: list[Answer]
    points: dict[str, list[float]]
    solutions: int
    checks: list[CheckResult]
    deviation: Deviation


def construct(
    problem: Problem,
    typed: Typed,
    method: Method,
    arithmetic: Arithmetic,
    *,
    conventions: Conventions | None = None,
    solution: int = 1,
    unsteadiness: Unsteadiness | None = None,
    detail: Detail = Detail.WHOLE,
    places: Mapping[str, float] | None = None,
    in_full: bool = False,
    wider: Mapping[int, float] | None = None,
    taken: int | None = None,
) -> Board:
    """Run a method in any arithmetic. ``places`` says where somebody has dragged the auxiliary views to; ``in_full`` unfolds
    divisions into their steps; ``wider`` takes openings that may be any so many times as wide, by their place in order;
    ``taken`` is the fork that is taken by mistake, -1 for none while forks are listed.

    Raises:
        Infeasible: the method does not serve these givens.
    """
    problem.require_method(method, typed)
    while True:
        board = Board(arithmetic, conventions, unsteadiness, solution, detail, places, in_full, wider, taken)
        bound = (bind if board.book is None and taken is None else bind_settings)(problem.givens, typed, arithmetic)
        with suppress(DrawAgain), arithmetic.quietly():
            method.construct(board, bound)
            return board


def draw(
    problem: Problem,
    typed: Typed,
    method: Method,
    conventions: Conventions | None = None,
    solution: int = 1,
    detail: Detail = Detail.WHOLE,
    places: Mapping[str, float] | None = None,
    one_by_one: bool = False,
    folding: Sequence[Step] = (),
    unsteadiness: Unsteadiness | None = None,
    taken: int | None = None,
) -> Drawing:
    """The construction in floats, with its marks in as much ``detail`` as is wanted; what repeats is folded into steps
    that say "likewise", and divisions are told in one step, unless all is wanted ``one_by_one``. Only a whole run knows
    what may be folded: one in less detail is numbered like the steps of an earlier one, its ``folding``, if that did as
    much. With an ``unsteadiness`` of one hand it is drawn as that hand draws it, by mistake where a fork is ``taken``.

    Raises:
        BadGiven: there are not so many solutions. Infeasible: see ``construct``.
    """
    board = construct(
        problem,
        typed,
        method,
        PLAIN,
        conventions=conventions,
        solution=solution,
        detail=detail,
        places=places,
        in_full=one_by_one,
        unsteadiness=unsteadiness,
        taken=taken,
    )
    _require_solution(solution, board.solutions)
    findings = {name: plain_value(value) for name, value in board.findings.items()}
    if folding and detail is not Detail.WHOLE and sum(len(step.covers) for step in folding) == len(board.steps):
        steps = list(folding)
    else:
        steps = folded(board.steps) if board.book is not None and not one_by_one else board.steps
    at = {n: n for n in range(len(steps) + 1)} if steps is board.steps else renumbered(steps)
    known = {name: (_coordinates_of(board.solid_point(name)), at[step]) for name, step in board.known.items()}
    drawn = board.finished_marks()
    for mark in drawn:
        mark.step = at.get(mark.step, mark.step)
    rotations = board.rotations
    if conventions is not None and conventions.turn:
        rotations = {block: rotations.get(block, 0.0) + conventions.turn for block in {mark.block for mark in drawn}}
    return Drawing(
        problem,
        method,
        typed,
        drawn,
        steps,
        findings,
        board.solutions,
        rotations,
        board.faired,
        [replace(one, step=at[one.step]) for one in board.placed],
        [replace(one, step=at[one.step]) for one in board.beams],
        known,
        board.wishes,
        [replace(one, first=at[one.first], last=at[one.last]) for one in board.motions],
        [replace(one, step=at.get(one.step, 0)) for one in board.belongings],
        len(board.steps),
    )


def _coordinates_of(point: Point3) -> Triple:
    return float(point.x), float(point.front), float(point.above)


def certify(
    problem: Problem,
    typed: Typed,
    method: Method,
    conventions: Conventions | None = None,
    solution: int = 1,
    closed_forms: bool = False,
) -> Certificate:
    """Truth and construction in balls: every figure with its bound, every check, and the deviation between the two."""
    truth, board = in_balls(problem, typed, method, conventions, solution, CLOSED_FORM_BITS if closed_forms else None)
    _require_solution(solution, board.solutions)
    merged = {**board.findings, **truth.findings}
    names = [name for name in problem.findings if name in merged]
    return Certificate(
        answers=[
            answer_of(name, problem.findings[name], merged[name], closed_forms, name not in problem.numerical)
            for name in names
        ],
        points={name: _coordinates(point) for name, point in board.points.items()},
        solutions=board.solutions,
        checks=[check_of(check) for check in board.checks],
        deviation=deviation(method, truth, board),
    )


def in_balls(
    problem: Problem,
    typed: Typed,
    method: Method,
    conventions: Conventions | None = None,
    solution: int = 1,
    bits: int | None = None,
) -> tuple[Truth, Board]:
    """Truth and construction in balls, with so many bits that every finding and check is tight."""

    def run() -> tuple[Truth, Board]:
        truth = problem.find_truth(typed, BALL)
        return truth, construct(problem, typed, method, BALL, conventions=conventions, solution=solution)

    def tight(result: tuple[Truth, Board]) -> bool:
        findings = (v for found in result for value in found.findings.values() for v in _numbers(value))
        return all(map(_is_tight, findings)) and all(_is_tight(check.residual) for check in result[1].checks)

    return with_enough_bits(run, tight, bits)


def steps_told(
    problem: Problem,
    typed: Typed,
    method: Method,
    conventions: Conventions | None = None,
    solution: int = 1,
    one_by_one: bool = False,
) -> list[Step]:
    """The steps as they are drawn in floats, with their acts, what repeats folded unless it is wanted ``one_by_one``; where
    floats are too coarse for the figure those of the construction in balls, without."""
    try:
        board = construct(problem, typed, method, PLAIN, conventions=conventions, solution=solution, in_full=one_by_one)
    except ZeroDivisionError:
        board = with_enough_bits(
            lambda: construct(problem, typed, method, BALL, conventions=conventions, solution=solution), lambda _: True
        )
        middles = ((step, None if step.setting is None else ball_values(step.setting)[0]) for step in board.steps)
        return [replace(step, setting=middle) for step, middle in middles]
    return board.steps if one_by_one else folded(board.steps)


def deviation(method: Method, truth: Truth, board: Board) -> Deviation:
    """The greatest distance of a method's points from the true ones, and of its plotted points from the true curve; of a
    method that draws the true figure also how far each finding that is measured differs from the true one."""
    worst: Number | None = None
    where = ""
    for name, found in board.points.items():
        gap = _gap(truth, board.from_zero.get(name, name), found, name in board.plotted)
        if gap is None:
            continue
        if worst is None or float(gap) > float(worst):
            where = name
        worst = gap if worst is None else larger(worst, gap)
    if method.exactness is not Exactness.APPROXIMATE:
        for name, measured in board.findings.items():
            for gap in _differences(truth.findings.get(name), measured):
                if not ball_of(gap).holds_zero and (worst is None or float(gap) > float(worst)):
                    worst, where = gap, answer_words(name)
    for name in ("worst_gap", "closing_error"):
        gap = cast("Number | None", board.findings.get(name))
        if gap is not None and method.exactness is Exactness.APPROXIMATE:
            gap = absolute(gap)
            if worst is None or float(gap) > float(worst):
                where = answer_words(name)
            worst = gap if worst is None else larger(worst, gap)
    if worst is None:
        return Deviation(0.0, "")
    ball = ball_of(worst)
    return Deviation(0.0 if ball.holds_zero or ball.middle < PROVED_TO else float(ball.middle), where)


def _differences(true: Value, measured: Value) -> list[Number]:
    """By how much a measured finding differs from the true one, number by number; nothing where they are no numbers."""
    if true is None or measured is None or isinstance(true, str | bool | int) or isinstance(measured, str | bool | int):
        return []
    pairs = zip(_numbers(true), _numbers(measured), strict=True)
    return [absolute(one - other) for one, other in pairs]  # type: ignore[operator]


def simulate(
    problem: Problem,
    typed: Typed,
    method: Method,
    hand: Hand,
    count: int,
    seed: int = 1,
    only: Collection[int] | None = None,
) -> Board:
    """The construction by ``count`` simulated hands at once, of which the first is steady; findings and points are arrays of
    that length, and floats where none of them strays."""
    unsteadiness = Unsteadiness(hand, count, seed, only)
    return construct(problem, typed, method, HAND, unsteadiness=unsteadiness)


def _gap(truth: Truth, name: str, found: Point | Point3, plotted: bool) -> Number | None:
    true = truth.points.get(name)
    if isinstance(found, Point3) and isinstance(true, Point3):
        return distance3(found, true)
    if isinstance(found, Point) and isinstance(true, Point):
        return distance(found, true)
    if plotted and truth.on_curve is not None and isinstance(found, Point):
        return absolute(truth.on_curve(found))
    return None


def _numbers(value: object) -> tuple[object, ...]:
    """A finding's numbers: three of a point, all of a list, else one."""
    if isinstance(value, tuple):
        return value
    return (value.x, value.front, value.above) if isinstance(value, Point3) else (value,)


def _is_tight(value: object) -> bool:
    if not hasattr(value, "mid"):
        return True
    ball = cast("arb", value)
    return bool(ball.is_finite()) and float(ball.rad()) <= PROVED_TO * (1 + abs(float(ball.mid())))


def answer_of(name: str, kind: Kind, value: object, closed_forms: bool = False, proved: bool = True) -> Answer:
    """A finding in balls, fit to be shown; ``proved`` only if its ball is narrow, too."""
    if value is None or isinstance(value, str | bool | int):
        return Answer(name, kind, value)
    several = isinstance(value, Point3 | tuple)
    balls = tuple(ball_of(cast("Number", each)) for each in _numbers(value))
    closed = None
    if closed_forms and not several:
        from wisecompass.arithmetic import closed_form

        closed = closed_form.recognise(cast("arb", value))
        if closed is not None and closed.lstrip("-").isdigit():
            closed = None
    values = [ball.value for ball in balls]
    bound = max(ball.bound_about(each) for ball, each in zip(balls, values, strict=True))
    proved = proved and all(_is_tight(each) for each in _numbers(value))
    return Answer(name, kind, values if several else values[0], rounded_up(bound), proved, closed, balls)


def check_of(check: Check) -> CheckResult:
    """A check holds if its residual's ball holds zero and is so narrow that it would hold nothing else."""
    try:
        ball = ball_of(check.residual)
    except Undecided:
        return CheckResult(check.text, math.nan, math.inf, check.unit, False)
    holds = ball.holds_zero and ball.radius < PROVED_TO
    return CheckResult(check.text, 0.0 if holds else float(ball.middle), rounded_up(ball.radius), check.unit, holds)


def _coordinates(point: Point | Point3) -> list[float]:
    numbers = (point.x, point.y) if isinstance(point, Point) else (point.x, point.front, point.above)
    return [ball_of(each).value for each in numbers]


def plain_value(value: object) -> float | str | bool | int | list[float] | None:
    """A finding in floats; a point or a list as its numbers."""
    if value is None or isinstance(value, str | bool | int):
        return value
    if isinstance(value, Point3 | tuple):
        return [float(cast("Number", each)) for each in _numbers(value)]
    return float(cast("Number", value))


def _require_solution(wanted: int, there: int) -> None:
    if not 1 <= wanted <= there:
        figures = "one solution" if there == 1 else f"{there} solutions"
        raise BadGiven("solution", f"solution {wanted} is not there: these givens have {figures}", str(there))
