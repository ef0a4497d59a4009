"""What each method is worth for the givens at hand, in a few words, and which is the best."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any

from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.givens import Typed
from wisecompass.drafting.hand import Hand, Unsteadiness
from wisecompass.drafting.problem import Exactness, Method, Problem
from wisecompass.drafting.solve import construct
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.wording import number_text
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3

if TYPE_CHECKING:
    from wisecompass.drafting.board import Board
    from wisecompass.drafting.problem import Truth
    from wisecompass.judgement.hands import OnPaper

JUDGES = 600
"""Simulated hands that a method is judged by: their mean miss is known to some four parts in a hundred."""

ALIKE = 1.12
"""Misses within this ratio are alike; then the method of fewer steps is the better."""

OWN_ERRORS = ("closing_error", "worst_gap")
"""Findings by which an approximate method misses with a perfect hand."""


@dataclass(frozen=True)
class Worth:
    """A method beside its worth. ``serves`` is False when it cannot draw these givens; ``words`` then say why.

    ``miss`` is how far its worst point strays, in mm, for an ordinary careful hand: the root mean square over many. None
    where it was not judged. ``faired`` is how far a hand fairs a plotted curve from the true one, in mm. ``best`` marks
    the first of several.
    """

    method: Method
    words: str
    serves: bool
    miss: float | None = None
    faired: float = 0.0
    best: bool = False
    steps: int = 0
    tools: tuple[str, ...] = ()
    """The instruments that it takes, in the order in which they are taken up."""

    @property
    def sentence(self) -> str:
        """Words, the reach of a hand, and why the best is the best."""
        hand = "" if self.miss is None else f", ±{number_text(self.miss, decimals(self.miss))} mm by hand"
        return f"best here: {self.words}{hand}" if self.best else f"{self.words}{hand}"


def decimals(miss: float) -> int:
    """So many that a miss keeps a figure of its own."""
    return 1 if miss >= 0.1 else 2 if miss >= 0.01 else 4


def worths(problem: Problem, typed: Typed) -> list[Worth]:
    """The worth of every method of a problem, in the problem's order."""
    return [worth(problem, typed, method) for method in problem.methods]


def judged(problem: Problem, typed: Typed) -> list[Worth]:
    """The worths with the best first: the least miss by an ordinary hand, with the method's own error and its fairing, and
    of those that are alike the fewest steps; methods that do not serve come last. One alone is not judged."""
    from wisecompass.judgement.hands import OnPaper

    return ranked([judge(OnPaper(problem, typed, method)) for method in problem.methods])


def judge(sheet: OnPaper, hand: Hand | None = None) -> Worth:
    """The worth of the method that a sheet is drawn by, with its fairing and, where others serve too, what many such hands
    miss by; an ordinary hand where none is given."""
    problem, typed = sheet.problem, sheet.typed
    one = _faired(problem, typed, worth(problem, typed, sheet.method))
    others = any(problem.serves(other, typed) is None for other in problem.methods if other is not sheet.method)
    return _tried(sheet, hand or Hand(), one) if one.serves and others else one


def ranked(found: Sequence[Worth]) -> list[Worth]:
    """Methods that were judged in the order of their worth, see ``judged``."""
    serving, rest = [one for one in found if one.serves], [one for one in found if not one.serves]
    if len(serving) > 1:
        least = min(one.miss or 0.0 for one in serving)
        serving.sort(
            key=lambda one: (one.steps, 0.0) if (one.miss or 0.0) <= ALIKE * least else (1_000_000, one.miss or 0.0)
        )
        serving[0] = replace(serving[0], best=True)
    return [*serving, *rest]


def serving(problem: Problem, typed: Typed, method: Method) -> Worth:
    """Whether a method serves, before it is judged."""
    reason = problem.serves(method, typed)
    return Worth(method, "" if reason is None else f"only for {reason.condition}", reason is None)


def worth(problem: Problem, typed: Typed, method: Method) -> Worth:
    """The worth of one method: exact, so many exact points, or what it misses by in millimetres."""
    first = serving(problem, typed, method)
    if not first.serves:
        return first
    if method.exactness is Exactness.EXACT:
        return Worth(method, "exact", True)
    board = construct(problem, typed, method, PLAIN)
    if method.exactness is Exactness.EXACT_POINTS:
        return Worth(method, f"{len(board.plotted)} exact points", True)
    measured = {name: float(value) for name, value in board.findings.items() if isinstance(value, float)}
    words = method.worth(measured) if method.worth else "approximate"
    return Worth(method, words, True)


def _faired(problem: Problem, typed: Typed, one: Worth) -> Worth:
    """A worth that also says how near a hand fairs the curve through the points alone."""
    if not one.serves or one.method.exactness is not Exactness.EXACT_POINTS:
        return one
    from wisecompass.judgement.fairing import greatest_gap  # needs SciPy, which is slow to load

    board = construct(problem, typed, one.method, PLAIN)
    gap = greatest_gap(board.faired, board.finished_marks(), problem.find_truth(typed, PLAIN))
    if gap is None:
        return one
    return replace(one, faired=gap.value, words=f"{one.words}, faired within {gap_text(gap.value)}")


def gap_text(gap: float) -> str:
    """A gap between curves, with its unit."""
    return f"{number_text(gap, 2 if gap >= 0.1 else 3)} mm"


def _tried(sheet: OnPaper, hand: Hand, one: Worth) -> Worth:
    """A worth with its miss: the worst point of many hands, and what the method misses by itself."""
    import numpy as np

    board = sheet.by(Unsteadiness(hand.on_paper(sheet.scale), JUDGES, seed=1))
    truth = sheet.problem.find_truth(sheet.typed, PLAIN)
    with np.errstate(invalid="ignore"):
        strays = [float(np.sqrt(np.nanmean(np.broadcast_to(squared, JUDGES)))) for squared in _strays(board, truth)]
    own = [abs(_mean(board.findings[name])) for name in OWN_ERRORS if board.findings.get(name) is not None]
    approximate = one.method.exactness is Exactness.APPROXIMATE
    miss = max([one.faired, *strays, *(own if approximate else [])])
    steps = sheet.steps
    tools = dict.fromkeys(step.instrument.value for step in steps if step.instrument is not Instrument.REASON)
    return replace(one, miss=miss, steps=len(steps), tools=tuple(tools))


def _strays(board: Board, truth: Truth) -> Iterator[Any]:
    """Squared distance of every point from where it should be, hand by hand; of a plotted one from the curve."""
    for name, drawn in board.points.items():
        true = truth.points.get(board.from_zero.get(name, name))
        if isinstance(drawn, Point) and isinstance(true, Point):
            yield _square(drawn.x - true.x) + _square(drawn.y - true.y)
        elif isinstance(drawn, Point3) and isinstance(true, Point3):
            yield _square(drawn.x - true.x) + _square(drawn.front - true.front) + _square(drawn.above - true.above)
        elif isinstance(drawn, Point) and name in board.plotted and truth.on_curve is not None:
            yield _square(truth.on_curve(drawn))


def _square(value: Any) -> Any:
    return value * value


def _mean(value: Any) -> float:
    import numpy as np

    return float(np.nanmean(value))
