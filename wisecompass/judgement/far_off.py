"""What was measured, against drawings of which one stray is far too great, whichever and by however much."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from wisecompass.judgement.gross import ALL_PLACES, CHANCES, GROSS, STEADY, WIDTHS
from wisecompass.judgement.hands import Floats
from wisecompass.judgement.measured import MANY_MORE, Counts, Honest, Size, outward
from wisecompass.judgement.normal import whitened

SLOPES = np.gradient(np.eye(len(ALL_PLACES)), np.array(ALL_PLACES), axis=1)
"""What is drawn at the places that were tried goes on from each of them as this tells."""


class Weighed(NamedTuple):
    """Logarithms of chances, how far the stray went, and the square of what is off then in standard deviations: by size of
    the hand, how far it goes, and stray."""

    chances: Floats
    amounts: Floats
    squares: Floats


class Gone(NamedTuple):
    """What strays that are far too great are weighed by: which of them count, what a unit of each does to the figures as
    it begins, and how many mm of paper that is."""

    of: Honest
    used: Counts
    along: Floats
    scale: Floats


def _by_sizes(of: Honest, shape: tuple[int, ...], weigh: Callable[[Size], tuple[Floats, Floats, Floats]]) -> Weighed:
    """What is weighed by hands of one size, (how far it goes, stray), by those of every size that counts."""
    chances = np.full((len(of.told), *shape), -np.inf)
    amounts, squares = np.zeros_like(chances), np.full_like(chances, np.inf)

    def by(n: int) -> float:
        each = of.told[n]
        if each is not None:
            chances[n], amounts[n], squares[n] = weigh(each)
        return float(chances[n].max(initial=-np.inf))

    outward(len(of.told), by, every=len(of.names) <= MANY_MORE)
    return Weighed(chances, amounts, squares)


def as_they_begin(gone: Gone) -> Weighed:
    """Strays that do as much as they begin to: one more, of the variance of each gross size (Sherman and Morrison)."""
    of = gone.of
    variance = (np.array(GROSS)[:, None] / gone.scale) ** 2
    along = gone.along * of.sizes[0].apart[:, None]

    def weigh(each: Size) -> tuple[Floats, Floats, Floats]:
        way = whitened(each.low, along)
        aa, ao = np.sum(way * way, axis=0), each.white @ way
        swollen = 1 + variance * aa
        base = each.hands.prior + each.log - np.log(len(GROSS))
        fit = -0.5 * each.white @ each.white + 0.5 * variance * ao * ao / swollen
        chances = base + 0.5 * each.white @ each.white + fit - 0.5 * np.log(swollen)
        return chances, np.abs(variance * ao / swollen * gone.scale), -2 * fit

    return _by_sizes(of, variance.shape, weigh)


def as_drawn(gone: Gone) -> Weighed:
    """Strays as they are drawn where they go far: about each place that was tried a narrow one more, along the way in which
    the figures go there."""
    of, wrong = gone.of, gone.of.prepared.wrong
    assert wrong is not None
    table, apart = wrong.table(of.names)[:, gone.used], of.sizes[0].apart
    where = np.array(ALL_PLACES) / gone.scale[:, None]
    there = np.isfinite(table).all(axis=0)
    away = np.where(there, table - table[..., STEADY : STEADY + 1], 0.0) * apart[:, None, None]
    away[:, :, STEADY] = gone.along * apart[:, None]  # stands in for its way there: a steady hand goes nowhere
    count, shape = len(of.names), there.shape
    away = away.reshape(count, -1)
    variance = (WIDTHS / gone.scale[:, None]) ** 2

    def weigh(each: Size) -> tuple[Floats, Floats, Floats]:
        white = np.ascontiguousarray(whitened(each.low, away)).reshape(count, *shape)
        along = white[..., STEADY].copy()
        white[..., STEADY] = 0.0
        way = (white.reshape(-1, len(ALL_PLACES)) @ SLOPES).reshape(white.shape) * gone.scale[:, None]
        way[..., STEADY] = along
        left = each.white[:, None, None] - white
        swollen = 1 + variance * _dots(way, way)
        farther = variance * _dots(way, left) / swollen
        rest = left - way * farther  # squared itself: where a stray goes to infinity its parts cancel to anything
        square = _dots(rest, rest) + farther**2 / variance
        base = each.hands.prior + each.log + 0.5 * each.white @ each.white
        chance = base - 0.5 * square - 0.5 * np.log(swollen) + np.log(CHANCES)
        return np.where(there, chance, -np.inf).T, np.abs(where + farther).T * gone.scale, square.T

    return _by_sizes(of, shape[::-1], weigh)


def _dots(one: Floats, other: Floats) -> Floats:
    """Sums over all figures."""
    return np.asarray(np.einsum("nsp,nsp->sp", one, other))
