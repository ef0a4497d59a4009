"""Deciding a sign for certain: exactly on rational numbers, else in balls of rising precision."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from typing import TypeVar

from wisecompass.arithmetic.number import Number, sign_of
from wisecompass.arithmetic.systems import BALL, EXACT, Arithmetic
from wisecompass.arithmetic.undecided import Undecided

MOST_BITS = 2560
"""Two numbers that agree to 770 digits and were typed by hand are the same number."""

T = TypeVar("T")


def decide_sign(value: Callable[[Arithmetic], Number]) -> int:
    """-1, 0 or 1: the sign of ``value`` evaluated exactly if it is rational, else in balls until it is certain.

    A value that still cannot be told from zero at ``MOST_BITS`` is zero.
    """
    try:
        exact = value(EXACT)
    except TypeError:
        exact = None
    if isinstance(exact, Fraction | int):
        return (exact > 0) - (exact < 0)
    from wisecompass.arithmetic import ball

    bits = ball.WORKING_BITS
    while bits <= MOST_BITS:
        with ball.precision(bits):
            found = value(BALL)
            sign = (found > 0) - (found < 0) if isinstance(found, int) else sign_of(found)
        if sign or isinstance(found, int):
            return sign
        bits *= 2
    return 0


def with_enough_bits(run: Callable[[], T], accept: Callable[[T], bool], bits: int | None = None) -> T:
    """``run`` in balls, again at twice the precision until no comparison is undecided and ``accept`` holds.

    Raises:
        Undecided: not even ``MOST_BITS`` were enough.
    """
    from wisecompass.arithmetic import ball

    bits = bits or ball.WORKING_BITS
    while True:
        try:
            with ball.precision(bits):
                result = run()
            if accept(result) or bits * 2 > MOST_BITS:
                return result
        except Undecided:
            if bits * 2 > MOST_BITS:
                raise
        bits *= 2
