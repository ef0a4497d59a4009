"""Settings: what an instrument is set to, and where that comes from.

A drafter sets compass, dividers, protractor or scale by the numbers that are given, by a length that is on the sheet
already, by any opening that serves, or by a division of a whole turn. A setting is a number of the board's arithmetic
that knows which of these it is; reckoning with settings and whole numbers keeps that knowledge, reckoning with
anything else loses it, and what is left is a bare number, which the record calls ``unsaid``."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from typing import Any, TypeAlias, cast

from wisecompass.arithmetic import Number, absolute, roughly
from wisecompass.arithmetic import pi_times as times_pi
from wisecompass.arithmetic.number import is_zero
from wisecompass.drafting.sums import Tree, said, written
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point

GIVEN, SPAN, ANY, TURN, SQUARE, RECKONED = "given", "span", "any", "turn", "square", "reckoned"
SUMS = (GIVEN, TURN, SQUARE, RECKONED)
"""Origins whose settings can be added to each other."""


class Setting:
    """A number that knows where it comes from. ``tree`` is the sum of a given, turn or reckoned setting, and the two ends of
    a span; ``times`` how often a span is taken. Of an ``any`` opening ``limits`` says what it must be more and less than."""

    __slots__ = ("limits", "number", "origin", "times", "tree")
    __array_ufunc__ = None  # arrays leave reckoning with settings to the settings

    def __init__(
        self,
        number: Number,
        origin: str,
        tree: Any = None,
        times: Fraction | int = 1,
        limits: tuple[Settable | None, Settable | None] = (None, None),
    ) -> None:
        self.number, self.origin, self.tree, self.times, self.limits = number, origin, tree, times, limits

    # ------------------------------------------------------------------------------------------------- reckoning
    def _with(self, operator: str, other: Any, found: Number, *, turned: bool = False) -> Any:
        """The setting of a sum, or the bare number where its parts do not go together."""
        kind, origin = type(other), self.origin
        if kind is int or kind is Fraction:
            if origin in SUMS:
                return Setting(found, origin, (operator, other, self.tree) if turned else (operator, self.tree, other))
            if origin == SPAN and operator in "*/" and not (turned and operator == "/"):
                times = self.times * Fraction(other) if operator == "*" else Fraction(self.times) / other
                return Setting(found, SPAN, self.tree, times)
            return found
        if kind is Setting and origin in SUMS and other.origin in SUMS:
            if origin != other.origin:
                both = {origin, other.origin}
                origin = RECKONED if RECKONED in both else TURN if both == {TURN, SQUARE} else GIVEN
            return Setting(found, origin, (operator, self.tree, other.tree))
        return found

    def __add__(self, other: Any) -> Any:
        if type(other) is int and other == 0:
            return self
        return self._with("+", other, self.number + (other.number if type(other) is Setting else other))

    def __radd__(self, other: Any) -> Any:
        return self._with("+", other, other + self.number, turned=True)

    def __sub__(self, other: Any) -> Any:
        if type(other) is int and other == 0:
            return self
        return self._with("-", other, self.number - (other.number if type(other) is Setting else other))

    def __rsub__(self, other: Any) -> Any:
        return self._with("-", other, other - self.number, turned=True)

    def __mul__(self, other: Any) -> Any:
        if type(other) is int and other == 1:
            return self
        return self._with("*", other, _times(self.number, other.number if type(other) is Setting else other))

    def __rmul__(self, other: Any) -> Any:
        if type(other) is int and other == 1:
            return self
        return self._with("*", other, _times(self.number, other), turned=True)

    def __truediv__(self, other: Any) -> Any:
        return self._with("/", other, self.number / (other.number if type(other) is Setting else other))

    def __rtruediv__(self, other: Any) -> Any:
        return self._with("/", other, other / self.number, turned=True)

    def __neg__(self) -> Any:
        return Setting(-self.number, self.origin, ("neg", self.tree)) if self.origin in SUMS else -self.number

    def __abs__(self) -> Any:
        return Setting(absolute(self.number), self.origin, ("abs", self.tree)) if self.origin in SUMS else abs(self.number)

    def __float__(self) -> float:
        return float(self.number)

    def __repr__(self) -> str:
        return f"Setting({self.number!r}, {self.origin!r}, {self.tree!r})"


def _times(number: Number, other: Any) -> Number:
    """A product; a fraction counts in every arithmetic."""
    if type(other) is Fraction:
        return number * other.numerator / other.denominator
    product: Number = number * other
    return product


Settable: TypeAlias = "Number | Setting"
"""What an operation of the board is set to; a bare number leaves its origin unsaid."""


def bare(value: Any) -> Any:
    """The number of a setting; anything else unchanged."""
    return value.number if type(value) is Setting else value


def given(name: str, number: Number, index: int | None = None, text: str = "") -> Setting:
    """A given, or number ``index`` of one that is a list; with its ``text`` where that says more than its place there."""
    item = ("item", name, index, text) if text else ("item", name, index)
    return Setting(number, GIVEN, name if index is None else item)


def span(a: Point, b: Point | Line) -> Setting:
    """The distance of two lettered points, or of a point from a line, taken from the drawing with compass or dividers."""
    number = plane.distance(a, b) if isinstance(b, Point) else absolute(plane.distance_to_line(a, b))
    return Setting(number, SPAN, (a, b))


def anything(about: Number, *, more_than: Settable | None = None, less_than: Settable | None = None) -> Setting:
    """Any opening that serves, ``about`` so large; what it must be more and less than, if that matters."""
    return Setting(about, ANY, None, 1, (more_than, less_than))


def tree_of(value: Settable) -> Any:
    """The sum of a given; of a bare number, as methods have where nothing is recorded, its name is unsaid."""
    return value.tree if type(value) is Setting else "unsaid"


def reckoned(number: Number, tree: Tree) -> Setting:
    """What is reckoned beforehand and written down as a sum of givens with roots, squares, π, sines and cosines."""
    return Setting(number, RECKONED, tree)


def pi_times(value: Any) -> Any:
    """π times a setting, reckoned beforehand; of a bare number the number."""
    if type(value) is Setting and value.origin in SUMS:
        return Setting(times_pi(value.number), RECKONED, ("*", "pi", value.tree))
    return times_pi(bare(value))


def negative(value: Settable) -> bool:
    """Whether a setting is below zero, roughly: the act is then turned round and its size set."""
    return roughly(bare(value)) < 0


def positive(value: Settable) -> Settable:
    """A setting without its sign: what is negative is laid off the other way."""
    if not negative(value):
        return value
    return cast("Settable", -value)


def reading(angle: Settable) -> tuple[Settable, int, int]:
    """An angle as it is read from the nearest arm: its size, below 180°; 1 for anticlockwise; 1 from the line's way and -1
    from its opposite. What is 180° less something is that something from the other arm, the other way round; and so a part
    of a turn that is blunt is read sharp."""
    size, turn, arm = positive(angle), -1 if negative(angle) else 1, 1
    known = type(size) is Setting and size.origin in (TURN, SQUARE)
    if roughly(bare(size)) > 180:
        size, turn = _less(360, size) if known else 360 - size, -turn
    if type(size) is Setting and type(size.tree) is tuple and size.tree[:2] == ("-", 180):
        size, turn, arm = Setting(180 - size.number, size.origin, size.tree[2]), -turn, -1
    elif known and roughly(bare(size)) > 90:
        size, turn, arm = _less(180, size), -turn, -1
    return size, turn, arm


def _less(whole: int, part: Any) -> Setting:
    """What is left of a whole or half turn, known as the part is."""
    return Setting(whole - part.number, part.origin, ("-", whole, part.tree))


def as_json(setting: Settable, ref: Callable[[Any], Any]) -> dict[str, Any]:
    """A setting as the record has it. ``ref`` gives the record's names of points and lines; ``kept`` openings are
    told by the act that first made them."""
    if type(setting) is not Setting:
        return {"from": GIVEN, "sum": "0"} if is_zero(cast("Number", setting)) else {"from": "unsaid"}
    if setting.origin == SPAN:
        found: dict[str, Any] = {"from": SPAN, "of": [ref(each) for each in setting.tree]}
        if setting.times != 1:
            found["times"] = str(setting.times)
        return found
    if setting.origin == ANY:
        found = {"from": ANY, "about": roughly(setting.number)}
        for key, limit in zip(("more than", "less than"), setting.limits, strict=True):
            if limit is not None:
                found[key] = as_json(limit, ref)
        return found
    found = {"from": setting.origin, "sum": said(setting.tree)}
    if typed := written(setting.tree):
        found["written"] = typed
    return found
