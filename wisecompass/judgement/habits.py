"""What a hand's measured work says of it: which instrument strays more than it should, and what to practise when."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import TypeAlias

import numpy as np

from wisecompass.judgement.hands import ORDINARY
from wisecompass.judgement.prepared import Prepared, Reading, read_spread, rows_of

PARTS = ("needle", "compass", "straightedge", "protractor", "scale")
"""Whose strays are told apart."""

AS_EXPECTED = 6.0
"""A hand is taken to be as it was told until about so many figures say otherwise."""

WEAK, ENOUGH = 1.35, 8
"""An instrument that strays so many times more than it should, by so many figures, is a weakness."""

FAR = 36.0
"""A figure that is farther off than six standard deviations was misdrawn and says nothing of the hand."""


@dataclass(frozen=True)
class Stray:
    """By how much one figure was off, squared, what of that reading it may make, and the shares of the instruments where
    each strays as an ordinary hand's: all squared, in the unit of the figure."""

    off: float
    read: float
    parts: Mapping[str, float]

    @property
    def expected(self) -> float:
        return self.read + sum(self.parts.values())


def strays_of(prepared: Prepared, readings: Mapping[str, Reading]) -> list[Stray]:
    """What measured figures of a sheet say of each instrument."""
    found = []
    for name, reading in readings.items():
        if prepared.is_wild(name):
            continue
        true, moves = rows_of(prepared.honest, name)
        read = read_spread(prepared, name, true) if reading.spread is None else reading.spread
        parts = dict.fromkeys(PARTS, 0.0)
        for draw, move in zip(prepared.honest.draws, moves, strict=True):
            told = getattr(prepared.hand, draw.part)
            as_ordinary = getattr(ORDINARY, draw.part) / told if told else 0.0
            parts[draw.part] += float(move * move) * as_ordinary**2
        found.append(Stray((reading.value - true) ** 2, read * read, parts))
    return found


@dataclass(frozen=True)
class Habit:
    """How many times more than it should an instrument strays, judged by so many figures that it had a share in."""

    part: str
    times: float
    figures: int

    @property
    def is_weak(self) -> bool:
        return self.times >= WEAK and self.figures >= ENOUGH


def habits(strays: Sequence[Stray]) -> list[Habit]:
    """The instruments, the weakest first: the squares of their strays that explain best what was off, none below nothing,
    each taken to be as it should be as long as little is known (least squares, weighted by what was expected)."""
    from scipy.optimize import nnls

    known = [each for each in strays if each.expected > 0 and each.off < FAR * each.expected]
    rows, wanted = [], []
    for each in known:
        weight = 1 / each.expected
        rows.append([each.parts[part] * weight for part in PARTS])
        wanted.append((each.off - each.read) * weight)
    for k in range(len(PARTS)):
        rows.append([np.sqrt(AS_EXPECTED) if j == k else 0.0 for j in range(len(PARTS))])
        wanted.append(np.sqrt(AS_EXPECTED))
    squares, _ = nnls(np.array(rows), np.array(wanted))
    shared = [sum(each.parts[part] > 0.1 * each.expected for each in known) for part in PARTS]
    found = [Habit(part, float(np.sqrt(size)), n) for part, size, n in zip(PARTS, squares, shared, strict=True)]
    return sorted(found, key=lambda each: -each.times)


LEARNED = 4
"""An instrument is believed to be otherwise than an ordinary hand's from so many figures on that it had a share in."""


def learned_hand(found: Sequence[Habit]) -> str:
    """The hand that habits make, as it is typed, or nothing where too little is known of any instrument."""
    known = [habit for habit in found if habit.figures >= LEARNED]
    sizes = {habit.part: getattr(ORDINARY, habit.part) * habit.times for habit in known}
    return ", ".join(f"{part}={sizes[part]:.2g}" for part in PARTS if part in sizes)


# --------------------------------------------------------------------------------------------------------- what is due
Card: TypeAlias = str
"""How well a problem is remembered, as text."""

RATINGS = ("again", "hard", "good", "easy")


def rated(verdict: str, uncovered: int) -> str:
    """How a piece of work went: by its verdict and how much had to be uncovered."""
    if verdict in ("slip", "step"):
        return "again"
    if verdict == "cannot tell" or uncovered > 3:
        return "hard"
    return "good" if uncovered or verdict != "within" else "easy"


def remembered(card: Card | None, rating: str, when: datetime) -> tuple[Card, datetime]:
    """The card after another piece of work, and when the problem is due again (by the spacing of FSRS)."""
    import fsrs

    scheduler = fsrs.Scheduler(enable_fuzzing=False)
    kept = fsrs.Card.from_json(card) if card else fsrs.Card(card_id=1)
    fresh, _ = scheduler.review_card(kept, fsrs.Rating(RATINGS.index(rating) + 1), when.astimezone(UTC))
    return fresh.to_json(), fresh.due
