"""A question turned round, and what came of it: the values of a given with which an answer is what is wished."""

from __future__ import annotations

from dataclasses import dataclass, field
from fractions import Fraction

from flint import arb

from wisecompass.drafting.answers import Ball
from wisecompass.drafting.tracing import Numeric

NARROW = Fraction(1, 10**12)
"""No value is told that is known less well than this, in its unit."""

HIT = arb(NARROW.numerator) / NARROW.denominator
"""What does not change with the given, or changes by leaps, is what is wished when it misses it by no more."""


@dataclass(frozen=True)
class Value:
    """A value of the given that brings the wish about, a proved ball; ``touching`` where the finding just reaches it."""

    ball: Ball
    touching: bool = False


@dataclass
class Turned:
    """What came of a question: values in order, intervals all of which serve, what could not be settled, the range of the
    finding within the limits, and, where no value serves, the nearest (the given and what the finding then is)."""

    given: Numeric
    finding: str
    wish: Fraction
    limits: tuple[Fraction, Fraction]
    values: list[Value] = field(default_factory=list)
    intervals: list[tuple[Fraction, Fraction]] = field(default_factory=list)
    unsettled: list[tuple[Fraction, Fraction]] = field(default_factory=list)
    range: tuple[float, float] | None = None
    nearest: tuple[float, float] | None = None
    searched: bool = False
    """Whether values were only sought, for the reckoning cannot be followed: there may be others."""

    @property
    def complete(self) -> bool:
        """Whether there is no other value within the limits."""
        return not self.unsettled and not self.searched
