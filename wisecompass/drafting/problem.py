"""A problem: the brief, its givens, an independent truth, the drafter's methods, and the slips that people make."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction
from typing import Any, TypeAlias

from wisecompass.arithmetic import PLAIN, Arithmetic, Number
from wisecompass.arithmetic.expression import one_line
from wisecompass.drafting.board import Board
from wisecompass.drafting.errors import Infeasible, Unknown
from wisecompass.drafting.givens import Given, Givens, Raw, Typed, bind, bind_rational, givens_of, read_given, shown
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import number_text
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3

Value: TypeAlias = Number | Point3 | tuple[Number, ...] | str | bool | int | None
Make: TypeAlias = Callable[[int | str], Number]
"""Turns an exact constant into a number of the arithmetic that a truth runs in."""


class Exactness(StrEnum):
    """What a method can reach with a perfect hand."""

    EXACT = "exact"
    EXACT_POINTS = "exact points"
    APPROXIMATE = "approximate"


@dataclass
class Truth:
    """The closed-form answer: points and findings by name; ``on_curve`` is the signed distance from the true curve,
    to first order, of a point that a method plotted."""

    points: Mapping[str, Point | Point3] = field(default_factory=dict)
    findings: Mapping[str, Value] = field(default_factory=dict)
    on_curve: Callable[[Point], Number] | None = None
    solutions: int = 1


@dataclass(frozen=True)
class Condition:
    """A limit that couples givens: ``margin`` must not be negative (must be above zero if ``strict``).

    ``sentence`` may use ``{given}`` for any given. ``nearest`` gets the givens as fractions and returns the values to
    change, as typed text, rounded to the safe side.
    """

    name: str
    margin: Callable[[Any], Number]
    sentence: str
    givens: tuple[str, ...]
    nearest: Callable[[Any], dict[str, str]]
    strict: bool = False

    def broken_by(self, g: Givens) -> bool:
        sign = g.decide(self.margin)
        return sign < 0 or (self.strict and sign == 0)


@dataclass(frozen=True)
class Method:
    """A drafter's construction. ``only`` says for which givens it serves, as conditions."""

    name: str
    exactness: Exactness
    construct: Callable[[Board, Any], None]
    only: tuple[Condition, ...] = ()
    worth: Callable[[Mapping[str, float]], str] | None = None
    """What an approximate method is worth, from its measured findings."""


@dataclass(frozen=True)
class Slip:
    """A mistake that people make: ``measure`` returns what its drawing would measure, by finding."""

    name: str
    measure: Callable[[Any, Make], dict[str, Number]]


@dataclass(frozen=True)
class Chosen:
    """A given that chooses a point on the curve, so that it can be slid along: its name, and what the point is called.

    ``point`` may hold ``{}`` for the value of a counted given. ``last`` says how far it goes, where that hangs on others.
    """

    given: str
    point: str = "P"
    last: Callable[[Any], Number] | None = None
    block: str = ""


@dataclass(frozen=True)
class Problem:
    """One problem of the catalogue."""

    id: str
    title: str
    brief: str
    givens: type[Givens]
    truth: Callable[[Any, Make], Truth]
    methods: tuple[Method, ...]
    findings: dict[str, Kind]
    source: str
    conditions: tuple[Condition, ...] = ()
    slips: tuple[Slip, ...] = ()
    cautions: tuple[str, ...] = ()
    numerical: frozenset[str] = frozenset()
    """Findings that are only numerical, not proved."""
    beforehand: Callable[[Any], str] | None = None
    """What the drafter counts or reckons before the first step, as one sentence."""
    chosen: Chosen | None = None

    @property
    def family(self) -> str:
        return self.id.split("/")[0]

    @property
    def given_list(self) -> tuple[Given, ...]:
        return givens_of(self.givens)

    def method(self, name: str | None) -> Method:
        """The method of that name; the first when None.

        Raises:
            Unknown: no such method.
        """
        if name is None:
            return self.methods[0]
        for method in self.methods:
            if method.name == name:
                return method
        names = ", ".join(method.name for method in self.methods)
        raise Unknown(f"“{one_line(name)[:60]}” is no method of {self.id}; it has {names}")

    def read(self, raw: Mapping[str, Raw], unit: str | None = None) -> Typed:
        """Givens as typed, defaults filled in, limits and conditions checked. A length without a unit is in ``unit``.

        Raises:
            Unknown: a name that is no given. BadGiven, Infeasible: see ``errors``.
        """
        names = [item.name for item in self.given_list]
        for name in raw:
            if name not in names:
                raise Unknown(f"“{one_line(name)[:60]}” is no given of {self.id}; it has {', '.join(names)}")
        typed = {
            item.name: read_given(item, raw[item.name], unit) if item.name in raw else read_given(item, item.default, None)
            for item in self.given_list
        }
        self.require(self.conditions, typed)
        return typed

    def require(self, conditions: tuple[Condition, ...], typed: Typed) -> None:
        """Raise ``Infeasible`` for the first condition that the givens break."""
        g = bind(self.givens, typed, PLAIN)
        for condition in conditions:
            if condition.broken_by(g):
                words = {item.name: shown(item, typed[item.name]) for item in self.given_list}
                nearest = condition.nearest(bind_rational(self.givens, typed))
                sentence = condition.sentence.format(**words)
                if nearest:
                    said = {item.name: item for item in self.given_list}
                    offers = ", ".join(f"{said[n].words} {shown(said[n], said[n].read(v))}" for n, v in nearest.items())
                    sentence += f"; the nearest that works is {offers}"
                raise Infeasible(condition.name, sentence, condition.givens, nearest)

    def serves(self, method: Method, typed: Typed) -> Infeasible | None:
        """Why a method does not serve these givens, or None if it does."""
        try:
            self.require(method.only, typed)
        except Infeasible as reason:
            return reason
        return None

    def spoken(self, typed: Typed) -> str:
        """The brief as a plain sentence."""
        return self.brief.format(**{item.name: shown(item, typed[item.name]) for item in self.given_list})

    def reckoned(self, typed: Typed) -> str:
        """What is counted or reckoned before the first step; empty where nothing is. It also says where a chosen point
        lies beyond the end of the curve."""
        g = bind(self.givens, typed, PLAIN)
        said = [] if self.beforehand is None else [self.beforehand(g)]
        if self.chosen is not None and self.chosen.last is not None:
            last = float(self.chosen.last(g))
            if float(getattr(g, self.chosen.given)) > last:
                said.append(f"The curve ends at {number_text(last)}: the tangent is drawn there.")
        return " ".join(said)

    def slip_figures(self, typed: Typed) -> dict[str, dict[str, float]]:
        """What the drawing of each mistake would measure, by slip and finding."""
        g = bind(self.givens, typed, PLAIN)
        make = _maker(PLAIN)
        return {s.name: {n: float(v) for n, v in s.measure(g, make).items()} for s in self.slips}

    def find_truth(self, typed: Typed, arithmetic: Arithmetic) -> Truth:
        """The truth in ``arithmetic`` (plain or ball)."""
        return self.truth(bind(self.givens, typed, arithmetic), _maker(arithmetic))


def _maker(arithmetic: Arithmetic) -> Make:
    return lambda value: arithmetic.number(Fraction(value))


def method(
    name: str,
    exactness: Exactness,
    *only: Condition,
    worth: Callable[[Mapping[str, float]], str] | None = None,
) -> Callable[[Callable[[Board, Any], None]], Method]:
    """Decorator that makes a ``Method`` of a construction."""

    def wrap(construct: Callable[[Board, Any], None]) -> Method:
        return Method(name, exactness, construct, only, worth)

    return wrap


def slip(name: str) -> Callable[[Callable[[Any, Make], dict[str, Number]]], Slip]:
    """Decorator that makes a ``Slip`` of a function that computes what the mistaken drawing would measure."""

    def wrap(measure: Callable[[Any, Make], dict[str, Number]]) -> Slip:
        return Slip(name, measure)

    return wrap
