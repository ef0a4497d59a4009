"""Gauss's law for several figures that hang together."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from scipy.linalg.lapack import dpotrf, dtrtrs
from scipy.special import gammaincc, ndtr

from wisecompass.judgement.hands import Floats


def log_sum(logs: Floats) -> float:
    """Logarithm of the sum of what has these logarithms."""
    most = float(logs.max(initial=-np.inf))
    return most + float(np.log(np.exp(logs - most).sum())) if np.isfinite(most) else most


def lowered(covariance: Floats) -> Floats | None:
    """The lower triangle whose square a covariance is; None where it is none."""
    if not np.isfinite(covariance).all():
        return None
    low, failed = dpotrf(covariance, lower=1)
    return None if failed else np.asarray(low)


def whitened(low: Floats, off: Floats) -> Floats:
    """What is off, one column or several, in standard deviations that do not hang together."""
    return np.asarray(dtrtrs(low, off, lower=1)[0])


class Normal(NamedTuple):
    """The logarithm of the density of Gauss's law, the square of what is off in standard deviations, and how rarely it
    strays so far or farther: all of it together, and the one that strays farthest."""

    log: float
    square: float
    rarely: float
    rarely_one: float


NEVER = Normal(-np.inf, np.inf, 0.0, 0.0)


def normal(off: Floats, covariance: Floats) -> Normal:
    low = lowered(covariance) if np.isfinite(off).all() else None
    if low is None:
        return NEVER
    white = whitened(low, off)
    one = len(white) * float(2 * ndtr(-np.abs(white).max(initial=0.0)))
    square = float(white @ white)
    return Normal(log_of(low, white), square, rarely(len(white), square), min(1.0, one))


def log_of(low: Floats, white: Floats) -> float:
    return float(-0.5 * white @ white - np.log(np.diagonal(low)).sum() - 0.5 * len(white) * np.log(2 * np.pi))


def rarely(figures: int, square: float) -> float:
    """How rarely so many figures stray so far together or farther, by chance."""
    return float(gammaincc(figures / 2, max(0.0, square) / 2))
