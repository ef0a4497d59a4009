"""What was measured, against honest hands of every size: by how much it is off, and how that spreads."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple, TypeAlias

import numpy as np
from numpy.typing import NDArray
from scipy.special import gammaincc

from wisecompass.judgement.hands import Floats
from wisecompass.judgement.normal import log_of, lowered, normal, whitened
from wisecompass.judgement.prepared import SIZES, OfSize, Prepared, of_sizes, rows_of

MANY_MORE = 50
"""More figures than these are very many."""


Counts: TypeAlias = NDArray[np.intp]


class Size(NamedTuple):
    """Honest hands of one size: by how much what was measured is off as they stray, in standard deviations that do not hang
    together, and the logarithm of how likely that is."""

    hands: OfSize
    low: Floats
    white: Floats
    log: float


class Honest(NamedTuple):
    """What was measured, against honest hands of every size: by how much it is off, and how that spreads."""

    prepared: Prepared
    names: Sequence[str]
    values: Floats
    mean: Floats
    moves: Floats
    noise: Floats
    """What readings and the place of the sheet add."""
    sizes: Sequence[OfSize]
    rows: Counts
    """Where these figures are among all of a drawing; -1 for distances."""
    added: Floats
    told: Sequence[Size | None]
    """Size by size; None where that cannot be told."""
    reads: Floats
    free: Floats
    """(figures, ways): what the places of letters may all have in common."""
    least_spread: float
    """The logarithm of the density of no drawing is more, however little hands stray."""

    @property
    def priors(self) -> Floats:
        return np.array([each.prior for each in self.sizes])


def against_honest(
    prepared: Prepared, names: Sequence[str], values: Floats, should: tuple[Floats, Floats], reads: Floats
) -> Honest:
    rows, (mean, moves) = prepared.honest.rows(names), should
    sizes = of_sizes(prepared, names, rows, SIZES.tolist())
    free = free_ways(prepared, names, mean)
    noise = np.diag(reads**2) + free @ free.T
    added = added_up(moves, sizes[0].apart)
    told: list[Size | None] = []
    for hands in sizes:
        off = values - mean - hands.lean
        low = lowered(spread_by(added, hands) + noise) if np.isfinite(off).all() else None
        white = None if low is None else whitened(low, off)
        told.append(None if low is None or white is None else Size(hands, low, white, log_of(low, white)))
    least = normal(np.zeros(len(names)), noise).log
    return Honest(prepared, names, values, mean, moves, noise, sizes, rows, added, told, reads, free, least)


def how_rarely(of: Honest) -> float:
    """How rarely an honest hand, whatever its size, strays as far as this or farther."""
    told = [each for each in of.told if each is not None]
    squares = np.array([each.white @ each.white for each in told])
    return float(np.exp([each.hands.prior for each in told]) @ gammaincc(len(of.names) / 2, squares / 2)) if told else 0.0


def added_up(moves: Floats, apart: Floats) -> Floats:
    """The covariance of strays; of figures that are judged each for itself their variances alone."""
    added = moves @ moves.T
    if not apart.all():
        added[(np.outer(apart, apart) + np.eye(len(apart))) <= 0] = 0.0
    return np.asarray(added)


def spread_by(added: Floats, hands: OfSize) -> Floats:
    """The covariance of figures by hands of a size; ``added`` is that of their strays."""
    swell = hands.swell * hands.size
    found = added * swell[:, None]
    found *= swell
    found += hands.more
    return np.asarray(found)


FREE_SHIFT, FREE_TURN = 60.0, 0.05
"""Where on the paper a figure was begun, mm, and how it lies there, radians, say nothing of how it was drawn."""


def free_ways(prepared: Prepared, names: Sequence[str], mean: Floats) -> Floats:
    """What the places of letters may all have in common: shift and turn of their block on the paper."""
    found = np.zeros((len(names), 3))
    known = prepared.honest.names  # a letter in space has no place of its own on the paper
    places = {name: n for n, name in enumerate(names) if name[-2:] in (".x", ".y") and f"{name[:-2]}.y" in known}
    for name, n in places.items():
        letter, axis = name.rsplit(".", 1)
        other = f"{letter}.{'y' if axis == 'x' else 'x'}"
        beside = mean[places[other]] if other in places else rows_of(prepared.honest, other)[0]
        found[n, 0 if axis == "x" else 1] = FREE_SHIFT / prepared.sheet.scale
        found[n, 2] = FREE_TURN * (-beside if axis == "x" else beside)
    return found


FADED = 12.0
"""Hands of a size by which what was measured is less likely than by the best by so much, in logarithms, and those of sizes
beyond, are not asked."""


def outward(sizes: int, how_likely: Callable[[int], float], *, every: bool) -> None:
    """Ask hands how likely they make something, size by size from the middle outward: ``every`` one, or until it fades."""
    middle = sizes // 2 - 1
    first = best = how_likely(middle)
    for way in (range(middle + 1, sizes), range(middle - 1, -1, -1)):
        last = first
        for n in way:
            if not every and last < best - FADED:
                break
            last = how_likely(n)
            best = max(best, last)
