"""Everything that can be wrong with what somebody brings to the program, each with one clear sentence."""

from __future__ import annotations


class WiseCompassError(Exception):
    """The family: its text is one sentence fit to be read by a drafter."""


class BadGiven(WiseCompassError):
    """A given that is not a number, or lies outside its limits. ``given`` names it; ``nearest`` is a value that it may
    have; ``offer`` all values to change so that there is a figure, which has been tried."""

    def __init__(self, given: str, sentence: str, nearest: str | None = None, offer: dict[str, str] | None = None) -> None:
        super().__init__(sentence)
        self.given = given
        self.nearest = nearest
        self.offer = offer or {}

    def __reduce__(self) -> tuple[object, ...]:
        return BadGiven, (self.given, str(self), self.nearest, self.offer)


class Infeasible(WiseCompassError):
    """Givens that are each in order but admit no figure together.

    Attributes: ``condition`` names the limit, ``givens`` the givens it couples, ``offer`` the nearest values that
    admit a figure, as typed text by given: they have been tried.
    """

    def __init__(self, condition: str, sentence: str, givens: tuple[str, ...], offer: dict[str, str]) -> None:
        super().__init__(sentence)
        self.condition = condition
        self.givens = givens
        self.offer = offer

    def __reduce__(self) -> tuple[object, ...]:
        return Infeasible, (self.condition, str(self), self.givens, self.offer)


class Unknown(WiseCompassError):
    """A problem, method or given of a name that the catalogue does not have."""


class Undrawable(WiseCompassError):
    """Numbers that admit a figure, but one that floats are too coarse to draw."""


class BadDocument(WiseCompassError):
    """A file that cannot be read or written; the sentence names the place in the file where there is one."""


class DrawAgain(Exception):
    """While it was drawing a method has found out what it should have known from the beginning, and remembers it: it is to
    begin again."""
