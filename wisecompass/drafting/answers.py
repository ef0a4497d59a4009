"""Findings fit to be shown: exact enclosures, and bounds about the numbers as they are printed."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import TYPE_CHECKING, cast

from wisecompass.arithmetic import Number
from wisecompass.arithmetic.undecided import Undecided
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import POWERS, measured

if TYPE_CHECKING:
    from flint import arb

PROVED_TO = 1e-18
"""A certificate is accepted when every bound is below this share of (1 + value); else precision is doubled."""


@dataclass(frozen=True)
class Ball:
    """An enclosure as exact fractions: the truth is no further than ``radius`` from ``middle``."""

    middle: Fraction
    radius: Fraction

    @property
    def value(self) -> float:
        """The double nearest to the middle; zero where only the ball can tell it from a hair's breadth."""
        return 0.0 if self.holds_zero and abs(self.middle) + self.radius < PROVED_TO else float(self.middle)

    @property
    def holds_zero(self) -> bool:
        return abs(self.middle) <= self.radius

    def bound_about(self, shown: float | Fraction) -> Fraction:
        """How far the truth can be from a number that is shown for it."""
        return abs(Fraction(shown) - self.middle) + self.radius

    def text(self) -> tuple[str, str]:
        """Middle and radius as decimals that enclose what the fractions do."""
        digits = 30 if not self.radius else max(0, 2 - _decimal_exponent(self.radius))
        rounded = round(self.middle * 10**digits)
        off = abs(Fraction(rounded, 10**digits) - self.middle)
        sign, whole = "-" if rounded < 0 else "", f"{abs(rounded):0{digits + 1}d}"
        middle = f"{sign}{whole[: len(whole) - digits]}.{whole[len(whole) - digits :]}" if digits else f"{sign}{whole}"
        return middle, bound_text(self.radius + off, 3)


def bound_text(bound: Fraction, digits: int = 2) -> str:
    """A bound with so many digits, rounded up so that it still bounds: ``4.7e-7``; ``0`` for none."""
    if bound == 0:
        return "0"
    exponent = _decimal_exponent(bound)
    mantissa = math.ceil(bound * Fraction(10) ** (digits - 1 - exponent))
    if mantissa == 10**digits:
        mantissa, exponent = mantissa // 10, exponent + 1
    text = str(mantissa)
    return f"{text[0]}{'.' if digits > 1 else ''}{text[1:]}e{exponent}"


def _decimal_exponent(x: Fraction) -> int:
    """The power of ten of the first digit of a number above zero."""
    guess = (x.numerator.bit_length() - x.denominator.bit_length()) * 30103 // 100000
    while Fraction(10) ** guess > x:
        guess -= 1
    while Fraction(10) ** (guess + 1) <= x:
        guess += 1
    return guess


@dataclass(frozen=True)
class Answer:
    """A finding fit to be shown. ``value`` is the double nearest to the middle of its ball (a list of them for a point or a
    list), ``bound`` the radius of a ball about that double which holds the truth, ``balls`` the enclosures themselves."""

    name: str
    kind: Kind
    value: float | str | bool | int | list[float] | None
    bound: float = 0.0
    proved: bool = True
    closed_form: str | None = None
    balls: tuple[Ball, ...] = ()

    def bound_as_shown(self, shown: Sequence[float | Fraction]) -> Fraction:
        """The bound about the numbers as they are printed: their rounding is in it."""
        return max((ball.bound_about(each) for ball, each in zip(self.balls, shown, strict=True)), default=Fraction(0))


def ball_of(value: Number) -> Ball:
    """The enclosure of a number: a float encloses itself.

    Raises:
        Undecided: the ball is not finite.
    """
    if isinstance(value, float):
        return Ball(Fraction(value), Fraction(0))
    ball = cast("arb", value)
    if not ball.is_finite():
        raise Undecided("a figure has no finite enclosure")
    from wisecompass.arithmetic.ball import middle, radius

    return Ball(middle(ball), radius(ball))


def ball_values(value: Number) -> tuple[float, float]:
    """(double nearest to the middle, radius of a ball about that double, rounded up); a float has radius 0."""
    ball = ball_of(value)
    return float(ball.middle), rounded_up(ball.bound_about(float(ball.middle)))


def rounded_up(bound: Fraction) -> float:
    """The least double that is not below a bound."""
    near = float(bound)
    return near if Fraction(near) >= bound else math.nextafter(near, math.inf)


def printed(answer: Answer, units: Units, decimals: int) -> tuple[list[str], Fraction]:
    """The numbers of a finding as they are printed in ``units``, and the bound about what is printed, in those units."""
    unit = answer.kind.unit
    factor = Fraction(str(units.millimetres)) ** POWERS.get(unit, 0)
    texts = [measured(ball.value, unit, units, decimals) for ball in answer.balls]
    numbers = [text.removesuffix("°").split(" ")[0] for text in texts]
    bound = answer.bound_as_shown([Fraction(number.replace("−", "-")) * factor for number in numbers])
    return texts, bound / factor


def unproved(name: str, kind: Kind, value: float | str | bool | int | list[float] | None) -> Answer:
    """A finding in floats, before its proof is there."""
    numbers = value if isinstance(value, list) else [value] if isinstance(value, float) else []
    balls = tuple(Ball(Fraction(each), Fraction(0)) for each in numbers if math.isfinite(each))
    return Answer(name, kind, value, proved=False, balls=balls if len(balls) == len(numbers) else ())
