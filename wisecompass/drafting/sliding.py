"""Sliding the chosen point of a curve: how far its given goes, and the value whose point lies nearest to a place."""

from __future__ import annotations

import math
from fractions import Fraction

from wisecompass.arithmetic import PLAIN
from wisecompass.arithmetic.expression import of
from wisecompass.drafting.givens import Form, Given, Typed, bind
from wisecompass.drafting.problem import Chosen, Problem
from wisecompass.drafting.wording import number_text
from wisecompass.geometry.plane import Point

COARSE, FINE = 48, 18
"""Places tried along the whole curve, and how often the best stretch is then narrowed."""

GOLDEN = (math.sqrt(5) - 1) / 2


def given_of(problem: Problem, chosen: Chosen) -> Given:
    """The given that chooses the point."""
    return next(item for item in problem.given_list if item.name == chosen.given)


def reach(problem: Problem, chosen: Chosen, typed: Typed) -> tuple[float, float]:
    """The least and the greatest value of the given that these givens allow."""
    item = given_of(problem, chosen)
    least, most = float(item.least or 0), float(item.most or 0)
    if chosen.last is not None:
        most = min(most, float(chosen.last(bind(problem.givens, typed, PLAIN))))
    return least, max(least, most)


def as_typed(item: Given, value: float, least: float, most: float) -> str:
    """A value as it would be typed: whole numbers, tenths of a degree, hundredths, never past the ends."""
    decimals = {Form.COUNT: 0, Form.ANGLE: 1}.get(item.form, 2)
    within = min(max(value, least), most)
    text = number_text(within, decimals).replace("−", "-")
    return text if least <= float(text) <= most else number_text(within, 6).replace("−", "-")


def nearest(problem: Problem, chosen: Chosen, typed: Typed, x: float, y: float) -> str:
    """The value, as it would be typed, whose point lies nearest to (x, y) of the point's block."""
    item = given_of(problem, chosen)
    least, most = reach(problem, chosen, typed)

    def away(value: float) -> float:
        exact = Fraction(round(value)) if item.form is Form.COUNT else Fraction(value)
        truth = problem.find_truth({**typed, item.name: of(exact)}, PLAIN)
        point = truth.points[chosen.point.format(round(value))]
        assert isinstance(point, Point)
        return math.hypot(float(point.x) - x, float(point.y) - y)

    if item.form is Form.COUNT:
        return str(min(range(round(least), round(most) + 1), key=away))
    step = (most - least) / COARSE
    best = min((least + step * k for k in range(COARSE + 1)), key=away)
    low, high = max(least, best - step), min(most, best + step)
    for _ in range(FINE):
        one, other = high - GOLDEN * (high - low), low + GOLDEN * (high - low)
        if away(one) < away(other):
            high = other
        else:
            low = one
    return as_typed(item, (low + high) / 2, least, most)
