"""Recognising a closed form in a ball of several hundred bits: ``65√5 / 2`` beside 72.6722.

A relation with small whole coefficients between 1, x and x² (or the same for x², or for x/π) is looked for by
lattice reduction (Lenstra, Lenstra and Lovász). With ``BITS`` bits and coefficients below ``LARGEST`` a chance
relation is less likely than 2⁻²⁰⁰; the relation found must also hold inside the ball.
"""

from __future__ import annotations

from fractions import Fraction
from math import gcd, isqrt

from flint import arb, fmpq, fmpz, fmpz_mat

from wisecompass.arithmetic.ball import precision

BITS = 360
LARGEST = 10**9


def recognise(x: arb) -> str | None:
    """The closed form of ``x`` as text, or None. ``x`` should carry some ``BITS`` bits.

    >>> with precision(BITS):
    ...     print(recognise(arb(5).sqrt() * 65 / 2))
    65√5 / 2
    """
    with precision(BITS + 40):
        return _recognised(x)


def _recognised(x: arb) -> str | None:
    if not x.is_finite() or x.rad() > arb(2) ** (40 - BITS) * (1 + abs(x)).mid():
        return None
    simple = _quadratic(x)
    if simple is not None:
        return _written(*simple)
    times_pi = _quadratic(x / arb.pi())
    if times_pi is not None and times_pi[1] == 0:
        return _times_pi(times_pi[0])
    squared = _quadratic(x * x)
    if squared is not None and x > 0:
        return f"√({_written(*squared)})"
    return None


def _relation(powers: list[arb]) -> list[int] | None:
    """Whole numbers, not all zero and not large, whose combination of ``powers`` is zero inside the balls."""
    scale = arb(2) ** (BITS - 60)
    rows = []
    for index, power in enumerate(powers):
        whole = (power * scale).mid().floor().unique_fmpz()
        if whole is None:
            return None
        rows.append([fmpz(int(index == column)) for column in range(len(powers))] + [whole])
    shortest = fmpz_mat(rows).lll()
    found = [int(shortest[0, column]) for column in range(len(powers))]
    if max(abs(value) for value in found) > LARGEST:
        return None
    total = sum((power * value for power, value in zip(powers, found, strict=True)), arb(0))
    return found if total.contains(0) else None


def _quadratic(x: arb) -> tuple[Fraction, Fraction, int] | None:
    """(p, q, n) with x = p + q√n, n squarefree or 1; q = 0 for a rational."""
    linear = _relation([arb(1), x])
    if linear is not None and linear[1]:
        return Fraction(-linear[0], linear[1]), Fraction(0), 1
    found = _relation([arb(1), x, x * x])
    if found is None or not found[2]:
        return None
    c, b, a = found
    square, radicand = _squarefree(b * b - 4 * a * c)
    if radicand <= 0:
        return None
    centre, spread = Fraction(-b, 2 * a), Fraction(square, abs(2 * a))
    if not x > arb(fmpq(centre.numerator, centre.denominator)):
        spread = -spread
    return centre, spread, radicand


def _squarefree(n: int) -> tuple[int, int]:
    """n = square² · rest, found by trial division up to a thousand; a perfect square is found at any size."""
    if n <= 0:
        return 1, n
    if isqrt(n) ** 2 == n:
        return isqrt(n), 1
    square, rest = 1, n
    for prime in range(2, 1000):
        while rest % (prime * prime) == 0:
            rest //= prime * prime
            square *= prime
    if isqrt(rest) ** 2 == rest:
        return square * isqrt(rest), 1
    return square, rest


def _written(p: Fraction, q: Fraction, n: int) -> str:
    if n == 1 or q == 0:
        whole = p + q
        return str(whole.numerator) if whole.denominator == 1 else f"{whole.numerator}/{whole.denominator}"
    bottom = p.denominator * q.denominator // gcd(p.denominator, q.denominator)
    top_p, top_q = int(p * bottom), int(q * bottom)
    surd = f"{'' if abs(top_q) == 1 else abs(top_q)}√{n}"
    if top_p == 0:
        top = surd if top_q > 0 else f"-{surd}"
        return top if bottom == 1 else f"{top} / {bottom}"
    top = f"{top_p} {'+' if top_q > 0 else '-'} {surd}"
    return top if bottom == 1 else f"({top}) / {bottom}"


def _times_pi(q: Fraction) -> str:
    top = f"{'' if q.numerator == 1 else q.numerator}π"
    return top if q.denominator == 1 else f"{top} / {q.denominator}"
