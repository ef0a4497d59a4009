"""Strays that are far too great, each as it is drawn: what a step that goes wrong does to every figure. By millimetres a
drawing does not go on as by the hundredth part of one: circles meet elsewhere, and what is stepped off adds up.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from scipy.special import ndtr

from wisecompass.drafting.errors import BadGiven, WiseCompassError
from wisecompass.drafting.hand import GoingWrong, Hand
from wisecompass.judgement.hands import Floats, OnPaper, Strays, figures

GROSS = (0.7, 1.5, 3.0, 6.0)
"""How far a step goes wrong that does, mm of paper, or degrees of a protractor."""

PLACES = (-9.0, -5.5, -3.2, -1.8, -0.9, 0.9, 1.8, 3.2, 5.5, 9.0)
"""By so much each stray is drawn too far, mm of paper or degrees; what lies between is told from these."""

MOST = 120
"""Of a drawing with more strays they are taken to do as much as they begin to."""


@dataclass(frozen=True)
class Wrong:
    """The figures where a stray is far too great: by name, (strays, places), and 0 mm among the places."""

    names: tuple[str, ...]
    values: Floats
    """(figures, strays, places)"""

    def table(self, names: Sequence[str]) -> Floats:
        """The same of some figures, or distances ``A-B`` of two letters.

        Raises:
            BadGiven: no such figure.
        """
        rows = [self._rows.get(name, -1) for name in names]
        found = self.values[rows]
        for n in (n for n, row in enumerate(rows) if row < 0):
            found[n] = self._between(names[n])
        return np.asarray(found)

    @cached_property
    def _rows(self) -> dict[str, int]:
        return {name: n for n, name in enumerate(self.names)}

    def _between(self, name: str) -> Floats:
        for mark in "–-":
            first, _, second = name.partition(mark)
            if {f"{first}.x", f"{second}.x"} <= set(self.names):
                ax, ay, bx, by = self.values[[self._rows[f"{letter}.{axis}"] for letter in (first, second) for axis in "xy"]]
                return np.asarray(np.hypot(bx - ax, by - ay))
        raise BadGiven(name, f"“{name}” is not known of this sheet")


STEADY = len(PLACES) // 2
ALL_PLACES = (*PLACES[:STEADY], 0.0, *PLACES[STEADY:])
"""The same with that of a steady hand."""

_EDGES = np.array([-np.inf, *((a + b) / 2 for a, b in zip(ALL_PLACES, ALL_PLACES[1:], strict=False)), np.inf])

CHANCES = np.mean([np.diff(ndtr(_EDGES / size)) for size in GROSS], axis=0)
"""How likely it is that a stray that goes wrong lies about each place."""

WIDTHS = np.gradient(np.array(ALL_PLACES)) / 2
"""How widely it does, as a standard deviation."""


def going_wrong(sheet: OnPaper, hand: Hand, honest: Strays) -> Wrong | None:
    """Every stray of a drawing far too great, all at once; None where there are too many, or where that cannot be drawn."""
    count = len(honest.draws)
    if not 0 < count <= MOST:
        return None
    hands = GoingWrong(hand.on_paper(sheet.scale), count, [by / sheet.scale for by in PLACES], PLACES)
    try:
        with np.errstate(all="ignore"):
            drawn = dict(figures(sheet.by(hands)))
            rows = [np.broadcast_to(np.asarray(drawn[name], dtype=float), hands.count) for name in honest.names]
    except (WiseCompassError, ArithmeticError, ValueError, KeyError):
        return None
    values = np.array(rows)
    shaped = values[:, 1:].reshape(len(rows), count, len(PLACES))
    steady = np.broadcast_to(values[:, :1, None], (len(rows), count, 1))
    return Wrong(honest.names, np.concatenate([shaped[..., :STEADY], steady, shaped[..., STEADY:]], axis=2))
