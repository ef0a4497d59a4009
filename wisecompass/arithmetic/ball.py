"""Balls: midpoint and proved radius (python-flint's ``arb``).

The library keeps one precision for the whole process. ``precision`` is the only door to it: whoever is inside has it to
himself, other threads wait, and everybody leaves it as it was. What is reckoned outside has ``WORKING_BITS``.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from fractions import Fraction
from threading import RLock
from typing import Any

from flint import acb, arb, ctx, fmpq

from wisecompass.arithmetic.undecided import Undecided

WORKING_BITS = 160
"""Precision of an ordinary certified run: some 48 digits, of which a construction loses a few."""

ctx.prec = WORKING_BITS

_DOOR = RLock()


@contextmanager
def precision(bits: int = WORKING_BITS) -> Iterator[None]:
    """Run the body with balls of ``bits`` binary digits, alone of all threads."""
    with _DOOR:
        before = ctx.prec
        ctx.prec = bits
        try:
            yield
        finally:
            ctx.prec = before


@contextmanager
def terms(count: int) -> Iterator[None]:
    """Run the body with power series of so many terms, alone of all threads."""
    with _DOOR:
        before = ctx.cap
        ctx.cap = count
        try:
            yield
        finally:
            ctx.cap = before


def bits() -> int:
    """The precision in force."""
    return int(ctx.prec)


def number(value: int | Fraction) -> arb:
    """The ball about an exact number, at the precision in force."""
    return arb(value) if isinstance(value, int) else arb(fmpq(value.numerator, value.denominator))


def about(middle: Fraction, radius: Fraction) -> arb:
    """The ball of a middle and a radius."""
    return arb(number(middle), number(radius))


def sqrt(x: arb) -> arb:
    return x.sqrt()


def root(x: arb) -> arb:
    if x > 0:
        return x.sqrt()
    if not x >= 0 and not x.contains(0):
        return arb.nan()
    high = x.upper().sqrt().upper() / 2
    return arb(high, high)


def sin_deg(angle: arb) -> arb:
    return (angle / 180).sin_pi()


def cos_deg(angle: arb) -> arb:
    return (angle / 180).cos_pi()


def asin_deg(x: arb) -> arb:
    return x.asin() * 180 / arb.pi()


def acos_deg(x: arb) -> arb:
    return x.acos() * 180 / arb.pi()


def atan2_deg(y: arb, x: arb) -> arb:
    return arb.atan2(y, x) * 180 / arb.pi()


def log(x: arb) -> arb:
    return x.log()


def pi_times(x: arb) -> arb:
    return arb.pi() * x


def elliptic_e(m: arb) -> arb:
    return acb(m).elliptic_e().real


def focal_arc(eccentricity: arb, first: arb, last: arb) -> arb:
    """Enclosed from middle to middle of the two directions; what their balls may add, by the speed there."""
    e, one = acb(eccentricity), acb(1)

    def speed(turn: acb, analytic: bool) -> acb:
        below = one + e * turn.cos()
        return (2 * below - one + e * e).sqrt(analytic=analytic) / (below * below)

    ends = [angle * arb.pi() / 180 for angle in (first, last)]
    middles = [end.mid() for end in ends]
    whole = acb.integral(speed, acb(middles[0]), acb(middles[1])).real
    added = [speed(acb(end), False).real * (end - middle) for end, middle in zip(ends, middles, strict=True)]
    return whole + added[1] - added[0]


def turning_integral(value: Callable[..., Any], first: arb, last: arb) -> arb:
    """Enclosed from middle to middle of the two directions; what their balls may add, by the value there."""

    def speed(turn: acb, analytic: bool) -> acb:
        found = value(turn.cos(), turn.sin(), lambda x: acb(x).sqrt(analytic=analytic))
        return found if isinstance(found, acb) else acb(found)

    ends = [angle * arb.pi() / 180 for angle in (first, last)]
    middles = [end.mid() for end in ends]
    fine = arb(2) ** -FINE
    ends_at = acb(middles[0]), acb(middles[1])
    whole = acb.integral(speed, *ends_at, rel_tol=fine, abs_tol=fine, eval_limit=MOST_PLACES).real
    added = [speed(acb(end), False).real * (end - middle) for end, middle in zip(ends, middles, strict=True)]
    return whole + added[1] - added[0]


FINE = 88
"""To so many binary digits an integral is sought: some more than an answer must have to be proved."""

MOST_PLACES = 40_000
"""So many places of a value are looked at for its integral: one that is not smooth would take them without end."""


def larger(x: arb, y: arb) -> arb:
    if x >= y:
        return x
    if y >= x:
        return y
    return x.union(y)


def pick(score_first: arb, score_second: arb, first: arb, second: arb) -> arb:
    if score_first <= score_second:
        return first
    if score_second < score_first:
        return second
    if first.overlaps(second):
        return first.union(second)
    raise Undecided("two crossings score alike at this precision")


def roughly(x: arb) -> float:
    return float(x.mid())


def sign_of(x: arb) -> int:
    return int(x > 0) - int(x < 0)


def is_zero(x: arb) -> bool:
    return bool(x.is_zero())


def middle(x: arb) -> Fraction:
    """The middle of a ball, exactly."""
    return _fraction(x.mid())


def radius(x: arb) -> Fraction:
    """The radius of a ball, exactly."""
    return _fraction(x.rad())


def _fraction(x: arb) -> Fraction:
    mantissa, exponent = x.man_exp()
    return Fraction(int(mantissa)) * Fraction(2) ** int(exponent)
