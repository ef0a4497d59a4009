"""What was measured, against the drawings of mistakes."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from scipy.special import ndtr

from wisecompass.judgement.hands import Floats
from wisecompass.judgement.measured import Honest, added_up, outward, spread_by
from wisecompass.judgement.normal import NEVER, Normal, normal, rarely, whitened
from wisecompass.judgement.prepared import table_of
from wisecompass.judgement.slips import Mistake

LONG = 4.0
"""A figure of a wrong drawing that strays for itself does so by so many times its variance."""

NEAREST = 5
"""Of very many figures only so many mistakes are weighed: those whose drawings come nearest."""


class Drawn(NamedTuple):
    """A mistake with what its drawing measures: not a number where that has it not."""

    mistake: Mistake
    values: Floats

    def shows(self, mean: Floats) -> bool:
        """Whether it moves anything of what was measured, and all of that is known of it."""
        there = np.isfinite(self.values)
        return bool(there.any() and (np.abs(self.values - mean)[there] > 1e-6).any())


def alike_together(known: Sequence[Drawn]) -> list[list[Drawn]]:
    """Mistakes together that come to the same in all that was measured."""
    found: list[list[Drawn]] = []
    firsts = np.zeros((0, len(known[0].values) if known else 0))
    for each in known:
        near = np.abs(each.values - firsts) <= 1e-6 + 1e-6 * np.abs(each.values)
        twins = np.flatnonzero((near | (np.isnan(each.values) & np.isnan(firsts))).all(axis=1))
        if twins.size:
            found[twins[0]].append(each)
        else:
            found.append([each])
            firsts = np.concatenate([firsts, each.values[None]])
    return found


def nearest(groups: Sequence[list[Drawn]], of: Honest) -> list[list[Drawn]]:
    """The mistakes whose drawings come nearest to what was measured, as honest hands stray."""
    rather = next((each for each in of.told[len(of.told) // 2 :] if each is not None), None)
    if len(groups) <= NEAREST or rather is None:
        return list(groups)
    steady = np.array([each[0].values for each in groups])
    away = whitened(rather.low, np.where(np.isfinite(steady), of.values - steady, 0.0).T)
    return [groups[n] for n in np.argsort(np.sum(away * away, axis=0))[:NEAREST]]


class Wrong:
    """A mistake's drawing, against what was measured, by hands of every size; figures that nobody knows of it may be
    anything."""

    def __init__(self, drawn: Drawn, of: Honest) -> None:
        values, moves = table_of(drawn.mistake.strays, of.names, of.rows)
        unknown = ~(np.isfinite(values) & np.isfinite(moves).all(axis=1))
        self._of = of
        self._known: dict[int, Normal] = {}
        self._off = np.where(unknown, 0.0, of.values - np.where(unknown, 0.0, values))
        self._added = of.added if unknown.any() else added_up(moves, of.sizes[0].apart)
        self._anything = np.where(unknown, ANYTHING**2, 0.0)

    def by(self, n: int) -> Normal:
        """By hands of the so manieth size."""
        if n not in self._known:
            spread = spread_by(self._added, self._of.sizes[n]) + self._of.noise
            spread[np.diag_indices_from(spread)] += self._anything
            self._known[n] = normal(self._off, spread)
        return self._known[n]

    def by_sizes(self, chances: Floats, *, every: bool) -> list[Normal]:
        """By hands of each size, which are so likely: ``every`` one, or those that count."""
        outward(len(chances), lambda n: float(chances[n]) + self.by(n).log, every=every)
        return [self._known.get(n, NEVER) for n in range(len(chances))]

    def each_alone(self) -> list[Normal]:
        """The same where each figure strays for itself; the sheet lies as it will (Woodbury)."""
        of, off, free = self._of, self._off, self._of.free
        own = np.diagonal(self._added) * np.array([each.swell * each.size for each in of.sizes]) ** 2
        own += np.array([np.diagonal(each.more) for each in of.sizes])
        variances = LONG * (own + self._anything) + of.reads**2
        scaled = free / variances[..., None]
        shared = np.eye(free.shape[1]) + free.T @ scaled
        there = np.linalg.solve(shared, (off @ scaled)[..., None])[..., 0]
        left = off - there @ free.T
        squares = np.sum(left * off / variances, axis=1)
        spreads = np.log(variances).sum(axis=1) + np.linalg.slogdet(shared)[1]
        logs = -0.5 * (squares + spreads + len(off) * np.log(2 * np.pi))
        farthest = np.max(np.abs(left) / np.sqrt(variances), axis=1)
        ones = np.minimum(1.0, len(off) * 2 * ndtr(-farthest))
        each = zip(logs.tolist(), squares.tolist(), ones.tolist(), strict=True)
        return [Normal(log, square, rarely(len(off), square), one) for log, square, one in each]


ANYTHING = 100.0
"""How widely a figure strays of which nothing is known, mm or degrees."""
