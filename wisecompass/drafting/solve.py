"""Running a problem: a drawing in floats, a certificate in balls, a batch of hands."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, cast

from wisecompass.arithmetic import BALL, PLAIN, Arithmetic, Number, absolute, hands, larger
from wisecompass.arithmetic.certified import with_enough_bits
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.givens import Typed, bind
from wisecompass.drafting.hand import Hand, Unsteadiness
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.problem import Exactness, Method, Problem, Truth
from wisecompass.drafting.recorder import Detail, Faired
from wisecompass.drafting.step import Kind, Step
from wisecompass.drafting.view import InSpace, Placed, Triple
from wisecompass.geometry.plane import Point, distance
from wisecompass.geometry.space import Point3, distance3

if TYPE_CHECKING:
    from flint import arb

PROVED_TO = 1e-18
"""A certificate is accepted when every bound is below this share of (1 + value); else precision is doubled."""

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


@dataclass(frozen=True)
class Answer:
    """A finding fit to be shown: the double nearest to the ball's middle, and the ball's radius as its bound."""

    name: str
    kind: Kind
    value: float | str | bool | int | list[float] | None
    bound: float = 0.0
    proved: bool = True
    closed_form: str | None = None


@dataclass(frozen=True)
class CheckResult:
    """A check evaluated in balls; it holds when the residual's ball holds zero."""

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
    steps: list[Step]
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
) -> Board:
    """Run a method in any arithmetic. ``places`` says where somebody has dragged the auxiliary views to.

    Raises:
        Infeasible: the method does not serve these givens.
    """
    problem.require(method.only, typed)
    board = Board(arithmetic, conventions, unsteadiness, solution, detail, places)
    method.construct(board, bind(problem.givens, typed, arithmetic))
    return board


def draw(
    problem: Problem,
    typed: Typed,
    method: Method,
    conventions: Conventions | None = None,
    solution: int = 1,
    detail: Detail = Detail.WHOLE,
    places: Mapping[str, float] | None = None,
) -> Drawing:
    """The construction in floats, with its marks in as much ``detail`` as is wanted.

    Raises:
        BadGiven: there are not so many solutions. Infeasible: see ``construct``.
    """
    board = construct(
        problem, typed, method, PLAIN, conventions=conventions, solution=solution, detail=detail, places=places
    )
    _require_solution(solution, board.solutions)
    findings = {name: plain_value(value) for name, value in board.findings.items()}
    known = {name: (_coordinates_of(board.solid_point(name)), step) for name, step in board.known.items()}
    return Drawing(
        problem,
        method,
        typed,
        board.finished_marks(),
        board.steps,
        findings,
        board.solutions,
        board.rotations,
        board.faired,
        board.placed,
        board.beams,
        known,
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

    def run() -> tuple[Truth, Board]:
        truth = problem.find_truth(typed, BALL)
        return truth, construct(problem, typed, method, BALL, conventions=conventions, solution=solution)

    def tight(result: tuple[Truth, Board]) -> bool:
        return all(_is_tight(v) for found in result for value in found.findings.values() for v in _numbers(value))

    truth, board = with_enough_bits(run, tight, CLOSED_FORM_BITS if closed_forms else None)
    _require_solution(solution, board.solutions)
    merged = {**board.findings, **truth.findings}
    names = [name for name in problem.findings if name in merged]
    return Certificate(
        answers=[_answer(problem, name, merged[name], closed_forms) for name in names],
        points={name: _coordinates(point) for name, point in board.points.items()},
        solutions=board.solutions,
        steps=[replace(step, setting=_middle_or_none(step.setting)) for step in board.steps],
        checks=[_check(check.text, check.residual, check.unit) for check in board.checks],
        deviation=deviation(method, truth, board),
    )


def deviation(method: Method, truth: Truth, board: Board) -> Deviation:
    """The greatest distance of a method's points from the true ones, and of its plotted points from the true curve."""
    worst: Number | None = None
    where = ""
    for name, found in board.points.items():
        gap = _gap(truth, board.from_zero.get(name, name), found, name in board.plotted)
        if gap is None:
            continue
        if worst is None or float(gap) > float(worst):
            where = name
        worst = gap if worst is None else larger(worst, gap)
    for name in ("worst_gap", "closing_error"):
        gap = cast("Number | None", board.findings.get(name))
        if gap is not None and method.exactness is Exactness.APPROXIMATE:
            gap = absolute(gap)
            if worst is None or float(gap) > float(worst):
                where = name.replace("_", " ")
            worst = gap if worst is None else larger(worst, gap)
    if worst is None:
        return Deviation(0.0, "")
    middle, bound = ball_values(worst)
    return Deviation(0.0 if middle <= bound or middle < PROVED_TO else middle, where)


def simulate(
    problem: Problem, typed: Typed, method: Method, hand: Hand, count: int, seed: int = 1, only_step: int | None = None
) -> Board:
    """The construction by ``count`` simulated hands at once; findings and points are arrays of that length."""
    unsteadiness = Unsteadiness(hand, count, seed, only_step)
    return construct(problem, typed, method, hands(count), unsteadiness=unsteadiness)


def ball_values(value: Number) -> tuple[float, float]:
    """(double nearest to the middle, radius rounded up) of a ball; a float has radius 0."""
    if isinstance(value, float):
        return value, 0.0
    ball = cast("arb", value)
    return float(ball.mid()), float(ball.rad())


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


def _answer(problem: Problem, name: str, value: object, closed_forms: bool) -> Answer:
    kind = problem.findings[name]
    if value is None or isinstance(value, str | bool | int):
        return Answer(name, kind, value)
    if isinstance(value, Point3 | tuple):
        pairs = [ball_values(cast("Number", each)) for each in _numbers(value)]
        shown = [0.0 if abs(middle) <= bound else middle for middle, bound in pairs]
        return Answer(name, kind, shown, max(bound for _, bound in pairs), name not in problem.numerical)
    closed = None
    if closed_forms:
        from wisecompass.arithmetic import closed_form

        closed = closed_form.recognise(cast("arb", value))
        if closed is not None and closed.lstrip("-").isdigit():
            closed = None
    middle, bound = ball_values(cast("Number", value))
    if abs(middle) <= bound < PROVED_TO:
        middle, bound = 0.0, abs(middle) + bound  # a zero that only its ball can tell from a hair's breadth
    return Answer(name, kind, middle, bound, name not in problem.numerical, closed)


def _check(text: str, residual: Number, unit: str) -> CheckResult:
    middle, bound = ball_values(residual)
    holds = bool(cast("arb", residual).contains(0)) and bound < PROVED_TO
    return CheckResult(text, 0.0 if holds else middle, bound, unit, holds)


def _coordinates(point: Point | Point3) -> list[float]:
    numbers = (point.x, point.y) if isinstance(point, Point) else (point.x, point.front, point.above)
    return [0.0 if middle == 0 or abs(middle) < bound else middle for middle, bound in map(ball_values, numbers)]


def _middle_or_none(value: Number | None) -> float | None:
    return None if value is None else ball_values(value)[0]


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
