"""How far an ordinary hand's drawing strays, and which step is to blame."""

from __future__ import annotations

from dataclasses import dataclass
from typing import cast

import numpy as np
from numpy.typing import NDArray

from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.givens import Typed
from wisecompass.drafting.hand import Hand
from wisecompass.drafting.likewise import folded
from wisecompass.drafting.problem import Method, Problem
from wisecompass.drafting.solve import construct, simulate


@dataclass(frozen=True)
class Budget:
    """Spread of one finding over many hands: mean, standard deviation, hands that failed, and the share of the
    variance that each step alone accounts for (largest first)."""

    finding: str
    mean: float
    spread: float
    failed: int
    blame: list[tuple[int, float]]


def spreads(
    problem: Problem, typed: Typed, method: Method, hand: Hand, count: int = 10_000, seed: int = 1
) -> dict[str, Budget]:
    """Mean and spread of every measured finding, without blame."""
    board = simulate(problem, typed, method, hand, count, seed)
    found = {}
    for name, value in board.findings.items():
        if isinstance(value, np.ndarray):
            found[name] = _budget(name, value, [])
    return found


def budget(
    problem: Problem, typed: Typed, method: Method, finding: str, hand: Hand, count: int = 2_000, seed: int = 1
) -> Budget:
    """The error budget of one finding: a run with all steps unsteady, and one for each step with only that one."""
    board = simulate(problem, typed, method, hand, count, seed)
    whole = cast("NDArray[np.float64]", board.findings[finding])
    variances = []
    for step in folded(construct(problem, typed, method, PLAIN).steps):
        alone = simulate(problem, typed, method, hand, count, seed, only=step.covers)
        values = cast("NDArray[np.float64]", alone.findings[finding])
        variances.append((step.n, float(np.nanvar(values))))
    total = sum(variance for _, variance in variances) or 1.0
    blame = sorted(((n, variance / total) for n, variance in variances if variance > 0), key=lambda pair: -pair[1])
    return _budget(finding, whole, blame)


def _budget(name: str, values: NDArray[np.float64], blame: list[tuple[int, float]]) -> Budget:
    return Budget(name, float(np.nanmean(values)), float(np.nanstd(values)), int(np.isnan(values).sum()), blame)
