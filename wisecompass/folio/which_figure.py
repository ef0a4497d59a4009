"""Which of several figures that fit is meant, in words that hold on paper before anything is drawn."""

from __future__ import annotations

from collections.abc import Sequence
from math import hypot
from statistics import fmean
from typing import NamedTuple

from wisecompass.drafting.marks import Mark, sampled
from wisecompass.drafting.pens import Pen

COUNTS = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight")

PLACES = ("", "second", "third", "fourth", "fifth", "sixth", "seventh")
"""How a place is counted between the ends, of at most eight figures."""

APART = 0.002
"""Figures whose places or sizes differ by less than this share of the whole are not told apart by it."""


class _Order(NamedTuple):
    """A way in which figures can be ordered, with the words for the last and the first of two and of more."""

    of_two: tuple[str, str]
    of_more: tuple[str, str]
    counted: str


ORDERS = (
    _Order(("upper", "lower"), ("highest", "lowest"), "from the top"),
    _Order(("right-hand", "left-hand"), ("farthest to the right", "farthest to the left"), "from the right"),
    _Order(("larger", "smaller"), ("largest", "smallest"), "in size, from the largest,"),
)


def which_figure(own: int, figures: Sequence[Sequence[Mark]]) -> str:
    """The figure ``own`` of all that fit, each as its marks, by what tells it best from the others: "the upper of the two",
    "the second from the right of the four". Nothing where there is one only, or nothing tells it."""
    if len(figures) < 2:
        return ""
    measured = [_measures(_points(marks)) for marks in figures]
    whole = max(size for *_, size in measured)
    best: tuple[bool, float, str] | None = None
    for order, values in zip(ORDERS, zip(*measured, strict=True), strict=True):
        others = [value for n, value in enumerate(values) if n != own]
        gap = min(abs(values[own] - value) for value in others)
        if gap < APART * whole:
            continue
        above = sum(value > values[own] for value in others)
        at_an_end = above in (0, len(others))
        told = (at_an_end, gap, _words(order, above, len(figures)))
        best = told if best is None or told[:2] > best[:2] else best
    return best[2] if best is not None else ""


def _words(order: _Order, above: int, count: int) -> str:
    end = 0 if above == 0 else 1 if above == count - 1 else None
    if end is None:
        return f"the {PLACES[above]} {order.counted} of the {COUNTS[count]}"
    return f"the {(order.of_two if count == 2 else order.of_more)[end]} of the {COUNTS[count]}"


def _measures(points: Sequence[tuple[float, float]]) -> tuple[float, float, float]:
    """How high, how far right, how large: the middle of what is drawn, and the box round it."""
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return fmean(ys), fmean(xs), hypot(max(xs) - min(xs), max(ys) - min(ys))


def _points(marks: Sequence[Mark]) -> list[tuple[float, float]]:
    """Points of what is lined in; of everything where nothing is."""
    lined = [point for mark in marks if mark.pen is Pen.OUTLINE for point in sampled(mark)]
    return lined or [point for mark in marks for point in sampled(mark)] or [(0.0, 0.0)]
