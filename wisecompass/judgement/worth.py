"""What each method is worth for the givens at hand, in a few words."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.givens import Typed
from wisecompass.drafting.problem import Exactness, Method, Problem
from wisecompass.drafting.solve import construct


@dataclass(frozen=True)
class Worth:
    """A method beside its worth. ``serves`` is False when it cannot draw these givens; ``words`` then say why."""

    method: Method
    words: str
    serves: bool


def worths(problem: Problem, typed: Typed) -> list[Worth]:
    """The worth of every method of a problem, in the problem's order."""
    return [worth(problem, typed, method) for method in problem.methods]


def worth(problem: Problem, typed: Typed, method: Method) -> Worth:
    """The worth of one method: exact, so many exact points, or what it misses by in millimetres."""
    reason = problem.serves(method, typed)
    if reason is not None:
        return Worth(method, f"only for {reason.condition}", False)
    if method.exactness is Exactness.EXACT:
        return Worth(method, "exact", True)
    board = construct(problem, typed, method, PLAIN)
    if method.exactness is Exactness.EXACT_POINTS:
        return Worth(method, f"{len(board.plotted)} exact points", True)
    measured = {name: float(value) for name, value in board.findings.items() if isinstance(value, float)}
    words = method.worth(measured) if method.worth else "approximate"
    return Worth(method, words, True)
