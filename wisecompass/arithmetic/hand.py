"""Arrays: one element for each simulated hand. A hand whose arc misses its line yields NaN and goes on."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

Hands = NDArray[np.float64]


def sqrt(x: Hands) -> Hands:
    with np.errstate(invalid="ignore"):
        return np.sqrt(x)


def root(x: Hands) -> Hands:
    return sqrt(x)


def sin_deg(angle: Hands) -> Hands:
    return np.sin(np.deg2rad(angle))


def cos_deg(angle: Hands) -> Hands:
    return np.cos(np.deg2rad(angle))


def asin_deg(x: Hands) -> Hands:
    with np.errstate(invalid="ignore"):
        return np.rad2deg(np.arcsin(x))


def acos_deg(x: Hands) -> Hands:
    with np.errstate(invalid="ignore"):
        return np.rad2deg(np.arccos(x))


def atan2_deg(y: Hands, x: Hands) -> Hands:
    return np.rad2deg(np.arctan2(y, x))


def log(x: Hands) -> Hands:
    return np.log(x)


def pi_times(x: Hands) -> Hands:
    return np.pi * x


def elliptic_e(m: Hands) -> Hands:
    from scipy.special import ellipe

    return np.asarray(ellipe(m))


def larger(x: Hands, y: Hands) -> Hands:
    return np.maximum(x, y)


def pick(score_first: Hands, score_second: Hands, first: Hands, second: Hands) -> Hands:
    return np.where(score_first <= score_second, first, second)


def roughly(x: Hands) -> float:
    """The middle hand's number, of two middle ones the larger; NaN where no hand has one."""
    known = x[~np.isnan(x)]
    return float(np.partition(known, known.size // 2)[known.size // 2]) if known.size else math.nan


def sign_of(x: Hands) -> int:
    middle = roughly(x)
    return (middle > 0) - (middle < 0)


def is_zero(x: Hands) -> bool:
    return not x.any()
