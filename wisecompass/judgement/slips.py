"""The mistakes that belong to a sheet: every fork of its construction drawn by the same hands, with its figures and strays.

A mistake that has words of its own in the catalogue, with what its drawing measures, lends them to the fork that measures
the same."""

from __future__ import annotations

import math
import re
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.hand import Hand
from wisecompass.drafting.recorder import Detail
from wisecompass.judgement.hands import ORDINARY, Floats, OnPaper, Strays, figures, probe_freely

SHOWS = 1e-6
"""A mistake shows in a figure that it moves by more, mm or degrees."""

SAME = 1e-6
"""Figures that differ by less of their size are the same mistake."""


@dataclass(frozen=True)
class Mistake:
    """A mistake at a ``step`` as it is told, with the strays of its drawing. ``fork`` is its place among the forks."""

    words: str
    step: int
    strays: Strays
    fork: int


def mistakes(sheet: OnPaper, honest: Strays, hand: Hand = ORDINARY, unasked: Collection[str] = ()) -> list[Mistake]:
    """All mistakes whose drawing differs in something that can be measured; those that come to the same are one, and of what
    repeats in a step the first. Findings that are ``unasked`` are not drawn."""
    return [each for each in looked_for(sheet, honest, hand, unasked) if each is not None]


def looked_for(sheet: OnPaper, honest: Strays, hand: Hand, unasked: Collection[str]) -> Iterator[Mistake | None]:
    """The same one by one, as each is drawn; None for what comes to nothing."""
    found: list[Mistake] = []
    told, seen = _told(sheet), set[tuple[int, str]]()
    most = min(MOST, max(FEWEST, WORK // (1 + len(honest.draws)) ** 2))
    forks = enumerate(replace(sheet, taken=-1).by(None).forks)
    asked = np.array([name not in unasked for name in honest.names])
    names = [name for name in honest.names if name not in unasked]

    def is_new(steady: Floats | None) -> bool:
        if steady is None or not _is_whole(names, steady[asked], sheet.scale):
            return False
        return all(_differs(each[asked], steady[asked]) for each in [honest.steady, *(one.strays.steady for one in found)])

    for place, fork in sorted(forks, key=lambda each: each[1].words not in told):
        kind = sheet.told_step(fork.step), _NAMED.sub("", fork.words)
        if kind in seen or len(found) == most:
            continue
        seen.add(kind)
        wrong, strays = replace(sheet, taken=place), None
        seldom = len(seen) > TRIED_FIRST and SELDOM * len(found) < len(seen)
        if not seldom or is_new(_steady(wrong, honest)):
            strays = _drawn(wrong, hand, honest, unasked)
        if strays is not None and is_new(strays.steady):
            found.append(Mistake(_lent(told, strays) or fork.words, kind[0], strays, place))
            yield found[-1]
        else:
            yield None


class Search:
    """Looks for the mistakes of a sheet when there is time."""

    def __init__(self, sheet: OnPaper, honest: Strays, hand: Hand, unasked: Collection[str]) -> None:
        self._begin = partial(looked_for, sheet, honest, hand, unasked)
        self._found: list[Mistake] = []
        self._rest = self._begin()

    def go_on(self) -> bool:
        """Draw one more; whether there may be others. Who is let go in the middle begins anew."""
        try:
            each = next(self._rest)
        except StopIteration:
            return False
        except BaseException:
            self._found, self._rest = [], self._begin()
            raise
        if each is not None:
            self._found.append(each)
        return True

    @property
    def found(self) -> tuple[Mistake, ...]:
        """All of them; it waits for those that have not been drawn."""
        while self.go_on():
            pass
        return tuple(self._found)


TRIED_FIRST, SELDOM = 4, 2
"""Where after so many mistakes fewer than one in so many comes to anything, each is drawn by a steady hand alone before it
is by others."""


def _steady(sheet: OnPaper, honest: Strays) -> Floats | None:
    """The figures of a steady hand's drawing with a mistake, if it can be drawn at all."""
    try:
        drawn = dict(figures(sheet.by(None, Detail.RESULT)))
    except _STOPS:
        return None
    return np.array([float(drawn.get(name, np.nan)) for name in honest.names])


_STOPS = (WiseCompassError, ArithmeticError, ValueError, KeyError, IndexError)
"""What may become of a drawing that is wrong."""


MOST, FEWEST = 24, 6
"""So many mistakes of a sheet are weighed at most, and of one with very many strays at least."""

WORK = 2_000_000
"""So many squared strays are worth waiting for: drawing a mistake takes as long as there are strays in it, twice over."""

_NAMED = re.compile(r"(for|round) .+$")


def _drawn(sheet: OnPaper, hand: Hand, honest: Strays, unasked: Collection[str]) -> Strays | None:
    """The strays of a drawing with a mistake, if it can be drawn at all: of the figures of the ``honest`` one alone."""
    names = honest.names
    try:
        with np.errstate(all="ignore"):
            strays = probe_freely(sheet, hand, len(honest.draws), FREE, unasked)
    except _STOPS:
        return None
    strays = replace(strays, moves=_as_seen(strays), tried=None)
    if strays.names == names:
        return strays
    at = {name: row for row, name in enumerate(strays.names)}
    rows = [at.get(name, -1) for name in names]
    missing = np.array([row < 0 for row in rows])
    steady, moves = strays.steady[rows], strays.moves[rows]
    steady[missing], moves[missing] = np.nan, 0.0
    return Strays(names, strays.draws, steady, moves)


FREE = 48
"""So many hands draw each mistake as they will."""

UNLIKE, KINKED = 1.4, 30.0
"""Where they stray by more times than their strays added up, that is no chance; by so many, that a little too much does to a
figure what a little too little does."""


def _as_seen(strays: Strays) -> Floats:
    """What each stray does to figures, so that they add up to as much as free hands stray. Of a figure with a kink each
    stray is told to do alike."""
    assert strays.tried is not None
    added = np.sqrt(np.sum(strays.moves**2, axis=1))
    known = np.isfinite(strays.tried).sum(axis=1) > FREE // 2
    seen = added.copy()
    seen[known] = np.nanstd(strays.tried[known], axis=1)
    kinked = known & (seen > np.maximum(KINKED * added, SHOWS))
    swell = np.where(known & (seen > UNLIKE * added) & ~kinked, seen / np.where(added > 0, added, 1.0), 1.0)
    moves = strays.moves * swell[:, None]
    moves[kinked] = seen[kinked, None] / math.sqrt(max(1, len(strays.draws)))
    return np.asarray(moves)


def _is_whole(names: Sequence[str], steady: Floats, scale: float) -> bool:
    """Whether a drawing has all its findings, on a paper that somebody might have: one that has not comes to a stop, and
    nobody measures it."""
    known = steady[[n for n, name in enumerate(names) if "." not in name]]
    places = [n for n, name in enumerate(names) if name.endswith((".x", ".y"))]
    with np.errstate(all="ignore"):
        far = np.abs(steady[places]) * scale > FARTHEST
    return bool(np.isfinite(known).all() and not far.any())


FARTHEST = 10_000.0
"""No letter of a drawing lies farther off, mm of paper."""


def _differs(one: Floats, other: Floats) -> bool:
    """Whether two drawings differ in something; a figure that cannot be drawn differs from one that can."""
    missing = np.isnan(one) != np.isnan(other)
    with np.errstate(all="ignore"):
        off = np.abs(one - other) / (1 + np.abs(other))
    return bool(missing.any() or np.nanmax(off, initial=0.0) > SHOWS)


def _told(sheet: OnPaper) -> dict[str, dict[str, float]]:
    """The mistakes that have words in the catalogue, with what their drawing measures."""
    return sheet.problem.slip_figures(sheet.typed)


def _lent(told: dict[str, dict[str, float]], strays: Strays) -> str:
    """The words of the mistake in the catalogue whose figures a drawing has."""
    for words, measured in told.items():
        at = strays.rows([*measured])
        rows = [(strays.steady[row], value) for row, value in zip(at, measured.values(), strict=True) if row >= 0]
        rows = [(drawn, value) for drawn, value in rows if math.isfinite(drawn)]  # but for what is not asked
        if rows and all(abs(drawn - value) <= SAME * (1 + abs(value)) for drawn, value in rows):
            return words
    return ""
