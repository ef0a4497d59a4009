"""Roots and extremes of functions of one number, in floats."""

from __future__ import annotations

import math
from collections.abc import Callable

PARALLEL = 1e-12
"""The sine of the angle below which two directions are one."""


def roots(a: float, b: float, c: float) -> list[float]:
    """Real roots of a t² + b t + c, without loss where one is far away; two that are all but one count as one."""
    if abs(a) < PARALLEL:
        return [-c / b] if abs(b) > PARALLEL else []
    inside = b * b - 4 * a * c
    if inside < 0.0:
        return [-b / (2 * a)] if inside > -TANGENT * max(b * b, abs(a * c)) else []
    if inside < TANGENT * max(b * b, abs(a * c)):
        return [-b / (2 * a)]
    half = -(b + math.copysign(math.sqrt(inside), b)) / 2
    return [half / a, c / half] if half else [0.0]


TANGENT = 1e-13
"""The share of its terms below which a discriminant is zero."""


def bisect(f: Callable[[float], float], low: float, high: float) -> float:
    """A root between two places where ``f`` has different signs: by false position, each end's height halved where it stays
    (the Illinois rule), by halves where that is slow."""
    at_low, at_high = f(low), f(high)
    side = 0
    for turn in range(200):
        if at_low == 0.0 or at_high == at_low:
            return low
        middle = (low + high) / 2 if turn % 4 == 3 else (low * at_high - high * at_low) / (at_high - at_low)
        if not low < middle < high:
            middle = (low + high) / 2
        at_middle = f(middle)
        if at_middle == 0.0 or high - low < 4e-16 * max(abs(low), abs(high), 1.0):
            return middle
        if at_low * at_middle < 0:
            high, at_high = middle, at_middle
            at_low, side = (at_low / 2, -1) if side == -1 else (at_low, -1)
        else:
            low, at_low = middle, at_middle
            at_high, side = (at_high / 2, 1) if side == 1 else (at_high, 1)
        if abs(at_middle) < 1e-15:
            return middle
    return (low + high) / 2


def extreme(f: Callable[[float], float], low: float, high: float, highest: bool) -> tuple[float, float]:
    """Where ``f`` is least between two places, or greatest, and how much it is there, by the golden section."""
    share = (math.sqrt(5) - 1) / 2
    sign = -1.0 if highest else 1.0
    a, b = high - share * (high - low), low + share * (high - low)
    fa, fb = sign * f(a), sign * f(b)
    for _ in range(44):
        if fa < fb:
            high, b, fb = b, a, fa
            a = high - share * (high - low)
            fa = sign * f(a)
        else:
            low, a, fa = a, b, fb
            b = low + share * (high - low)
            fb = sign * f(b)
    return (low + high) / 2, sign * min(fa, fb)
