"""Floats: for drawing and dragging."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

# A squared length this far below zero, relative to nothing larger than a sheet in mm², is rounding noise of a
# drawing: an arc that just touches its line. What is decided for good is decided in balls or on exact givens.
TOUCHING = 1e-7


def sqrt(x: float) -> float:
    return math.sqrt(x) if x >= 0 else math.nan


def root(x: float) -> float:
    if x >= 0:
        return math.sqrt(x)
    return 0.0 if x > -TOUCHING else math.nan


def sin_deg(angle: float) -> float:
    return cos_deg(90.0 - angle)


def cos_deg(angle: float) -> float:
    turn = math.fmod(angle, 360.0)
    quarter = math.fmod(turn, 90.0)
    if quarter == 0.0:
        return (1.0, 0.0, -1.0, 0.0)[int(turn // 90) % 4]
    return math.cos(math.radians(turn))


def asin_deg(x: float) -> float:
    return math.degrees(math.asin(x)) if abs(x) <= 1 else math.nan


def acos_deg(x: float) -> float:
    return math.degrees(math.acos(x)) if abs(x) <= 1 else math.nan


def atan2_deg(y: float, x: float) -> float:
    return math.degrees(math.atan2(y, x))


def log(x: float) -> float:
    return math.log(x)


def pi_times(x: float) -> float:
    return math.pi * x


def elliptic_e(m: float) -> float:
    """E(m) by the arithmetic-geometric mean (DLMF 19.8.6)."""
    if m == 1.0:
        return 1.0
    a, g, c_squared, weight, total = 1.0, math.sqrt(1.0 - m), m, 0.5, 0.5 * m
    while c_squared > 1e-32:
        a, g, c_squared = (a + g) / 2, math.sqrt(a * g), ((a - g) / 2) ** 2
        weight *= 2
        total += weight * c_squared
    return math.pi / (2 * a) * (1 - total)


def focal_arc(eccentricity: float, first: float, last: float) -> float:
    import numpy as np

    from wisecompass.arithmetic import hand

    return float(hand.focal_arc(np.array([eccentricity]), np.array([first]), np.array([last]))[0])


def turning_integral(value: Callable[..., Any], first: float, last: float) -> Any:
    """By Gauss's rule in equal pieces; the value may hold numbers of hands, whose number it then is."""
    from wisecompass.arithmetic import hand

    found = hand.turning_integral(value, first, last)
    return float(found[0]) if found.size == 1 else found


def larger(x: float, y: float) -> float:
    return max(x, y)


def pick(score_first: float, score_second: float, first: float, second: float) -> float:
    return first if score_first <= score_second else second


def roughly(x: float) -> float:
    return x


def sign_of(x: float) -> int:
    return (x > 0) - (x < 0)


def is_zero(x: float) -> bool:
    return x == 0.0
