"""The arithmetics themselves: each turns an exact number into a number of its own kind."""

from __future__ import annotations

from abc import ABC, abstractmethod
from contextlib import AbstractContextManager, nullcontext
from fractions import Fraction
from typing import TYPE_CHECKING, Any, cast

if TYPE_CHECKING:
    from wisecompass.arithmetic.number import Number


class Arithmetic(ABC):
    """A number system. ``name`` is one of plain, ball, hand, exact."""

    name: str

    @abstractmethod
    def number(self, value: int | Fraction) -> Number:
        """The number of this arithmetic that stands for ``value``."""

    def quietly(self) -> AbstractContextManager[Any]:
        """Reckon without being warned of what has no value."""
        return nullcontext()


class _Plain(Arithmetic):
    name = "plain"

    def number(self, value: int | Fraction) -> Number:
        return float(value)


class _Ball(Arithmetic):
    name = "ball"

    def number(self, value: int | Fraction) -> Number:
        from wisecompass.arithmetic import ball  # which sets the precision before the first ball is made

        return cast("Number", ball.number(value))


class _Exact(Arithmetic):
    """Fractions: only ``+ - * /`` and comparisons, for conditions on rational givens."""

    name = "exact"

    def number(self, value: int | Fraction) -> Number:
        return cast("Number", Fraction(value))


class _Rational(Arithmetic):
    """The same with python-flint's fractions, which are ten times as quick; they need the library to be there."""

    name = "rational"

    def number(self, value: int | Fraction) -> Number:
        from flint import fmpq

        return cast("Number", fmpq(value) if isinstance(value, int) else fmpq(value.numerator, value.denominator))


class _Hands(Arithmetic):
    """Arrays of simulated hands. What is the same in every hand is a float, until a hand strays from it."""

    name = "hand"

    def number(self, value: int | Fraction) -> Number:
        return float(value)

    def quietly(self) -> AbstractContextManager[Any]:
        import numpy as np

        return np.errstate(all="ignore")


PLAIN: Arithmetic = _Plain()
HAND: Arithmetic = _Hands()
BALL: Arithmetic = _Ball()
EXACT: Arithmetic = _Exact()
RATIONAL: Arithmetic = _Rational()
