"""Arrays: one element for each simulated hand. A hand whose arc misses its line yields NaN and goes on; whoever reckons with
them does so ``quietly`` (see ``systems``)."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from numpy.typing import NDArray

from wisecompass.arithmetic.quadrature import gauss

Hands = NDArray[np.float64]


def sqrt(x: Hands) -> Hands:
    return np.sqrt(x)


root = sqrt


def sin_deg(angle: Hands) -> Hands:
    return np.sin(np.deg2rad(angle))


def cos_deg(angle: Hands) -> Hands:
    return np.cos(np.deg2rad(angle))


def asin_deg(x: Hands) -> Hands:
    return np.rad2deg(np.arcsin(x))


def acos_deg(x: Hands) -> Hands:
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


NODES, MOST_PIECES = 12, 300
"""Nodes of the Gauss–Legendre rule in a piece of an integral, and so many pieces at most: a hand whose drawing is no figure
any more may ask for ever smaller ones."""


def focal_arc(eccentricity: Hands, first: Hands, last: Hands) -> Hands:
    """By Gauss's rule in pieces that are halved until the halves agree with the whole in every hand."""
    at, weight = gauss(NODES)
    e, begin, turn = (np.asarray(v)[..., None] for v in (eccentricity, np.radians(first), np.radians(last - first)))

    def piece(low: float, high: float) -> Hands:
        below = 1 + e * np.cos(begin + turn * (low + (high - low) * (at + 1) / 2))
        with np.errstate(all="ignore"):
            speed = np.sqrt(np.maximum(0.0, 2 * below - 1 + e * e)) / (below * below)
        return np.asarray((speed * weight * turn).sum(axis=-1) * (high - low) / 2)

    total, waiting = np.zeros(np.shape(turn)[:-1]), [(0.0, 1.0, piece(0.0, 1.0))]
    pieces = 0
    while waiting:
        pieces += 1
        low, high, whole = waiting.pop()
        middle = (low + high) / 2
        halves = piece(low, middle), piece(middle, high)
        both = halves[0] + halves[1]
        if pieces > MOST_PIECES or np.allclose(both, whole, rtol=1e-13, atol=0, equal_nan=True):
            total = total + both
        else:
            waiting += [(low, middle, halves[0]), (middle, high, halves[1])]
    return total


TURNED_PIECES = 8
"""Pieces of a turn that is integrated over."""


def turning_integral(value: Callable[..., Any], first: Hands | float, last: Hands | float) -> Hands:
    """By Gauss's rule in equal pieces; the hands are the last axis, so that the value may hold numbers of theirs."""
    at, weight = gauss(2 * NODES)
    begin, turn = np.radians(first), np.radians(last - first)
    shares = ((np.arange(TURNED_PIECES)[:, None] + (at + 1) / 2) / TURNED_PIECES).reshape(-1, 1)
    weights = np.tile(weight, TURNED_PIECES).reshape(-1, 1) / (2 * TURNED_PIECES)
    turns = begin + turn * shares
    with np.errstate(all="ignore"):
        found = value(np.cos(turns), np.sin(turns), lambda x: np.sqrt(np.maximum(x, 0.0))) + 0.0 * turns
    return np.asarray((found * weights).sum(axis=0) * turn)


def larger(x: Hands, y: Hands) -> Hands:
    return np.maximum(x, y)


def pick(score_first: Hands, score_second: Hands, first: Hands, second: Hands) -> Hands:
    return np.where(score_first <= score_second, first, second)


def roughly(x: Hands) -> float:
    """The first hand's number, which is the steady one's."""
    return float(x.item(0))


def sign_of(x: Hands) -> int:
    steady = roughly(x)
    return (steady > 0) - (steady < 0)


def is_zero(x: Hands) -> bool:
    return not x.any()
