"""Deciding a sign for certain: exactly on rational numbers, else in balls of rising precision."""

from __future__ import annotations

import sys
from collections.abc import Callable, Sequence
from fractions import Fraction
from typing import TYPE_CHECKING, TypeVar, cast

from wisecompass.arithmetic.number import Number, sign_of
from wisecompass.arithmetic.systems import BALL, EXACT, RATIONAL, Arithmetic
from wisecompass.arithmetic.undecided import Undecided

MOST_BITS = 2560
"""Two numbers that agree to 770 digits and were typed by hand are the same number."""

if TYPE_CHECKING:
    pass

T = TypeVar("T")


def decide_sign(value: Callable[[Arithmetic], Number]) -> int:
    """-1, 0 or 1: the sign of ``value`` evaluated exactly if it is rational, else in balls until it is certain.

    A value that still cannot be told from zero at ``MOST_BITS`` is zero.
    """
    return decide_signs(lambda arithmetic: (value(arithmetic),))[0]


def decide_signs(values: Callable[[Arithmetic], Sequence[Number]], *, rational: bool = True) -> tuple[int, ...]:
    """The signs of several values that are evaluated together; without ``rational`` exact numbers are not tried."""
    quick = "flint" in sys.modules
    try:
        exact = values(RATIONAL if quick else EXACT) if rational else ()
    except TypeError:
        exact = ()
    if exact and all(isinstance(value, Fraction | int) or type(value).__name__ == "fmpq" for value in exact):
        return tuple((value > 0) - (value < 0) for value in cast("Sequence[Fraction]", exact))
    from wisecompass.arithmetic import ball

    bits = ball.WORKING_BITS
    while True:
        with ball.precision(bits):
            found = values(BALL)
            signs = tuple((v > 0) - (v < 0) if isinstance(v, int) else sign_of(v) for v in found)
        bits *= 4  # what is not told apart at once is mostly zero
        if bits > MOST_BITS or all(sign or isinstance(v, int) for sign, v in zip(signs, found, strict=True)):
            return signs


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


def bisected(f: Callable[[float], float], low: float, high: float) -> float:
    """A root in floats between two places where ``f`` has different signs, below zero at ``low``."""
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if f(middle) < 0 else (low, middle)
    return low


def enclosed_root(near: float, f: Callable[[Number], Number], slope: Callable[[Number], Number]) -> Number:
    """A ball that holds a root of ``f`` near a float, by Newton's method on balls: what a step maps into itself holds one
    (Krawczyk). ``f`` takes balls; exact numbers raise TypeError like every irrational function.

    Raises:
        Undecided: no ball about the float maps into itself.
    """
    from wisecompass.arithmetic import ball, tape

    found = ball.about(Fraction(near), Fraction(1, 2**30))
    on_tape = None
    for turn in range(24):
        middle = ball.number(ball.middle(found))
        here = f(cast("Number", middle))
        on_tape = here if isinstance(here, tape.Traced) else None
        step = middle - tape.untaped(here) / tape.untaped(slope(cast("Number", found)))
        if not found.contains(step):
            if turn == 0:
                raise Undecided("a root has no enclosure")
            break
        if ball.radius(step) * 2 > ball.radius(found):
            found = step
            break
        found = step
    if on_tape is None:
        return cast("Number", found)
    at = cast("Number", ball.number(ball.middle(found)))
    return cast("Number", tape.implicit(on_tape.tape, found, f(at), slope(at)))
