"""A problem: the brief, its givens, an independent truth, the drafter's methods, and the slips that people make."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction
from typing import TYPE_CHECKING, Any, Protocol, TypeAlias

from wisecompass.arithmetic import PLAIN, Arithmetic, Number
from wisecompass.arithmetic.expression import quoted
from wisecompass.arithmetic.linked import Links
from wisecompass.drafting.board import Board
from wisecompass.drafting.errors import BadGiven, Infeasible, Unknown
from wisecompass.drafting.givens import Given, Givens, Raw, Typed, bind, givens_of, read_given, shown
from wisecompass.drafting.offers import Search
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import number_text
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3

if TYPE_CHECKING:
    from wisecompass.drafting.conventions import Conventions
    from wisecompass.drafting.marks import Mark

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
    pieces: str = ""
    """The given that says how often its pattern is cut, where one pattern serves for several pieces."""


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


class Glance(Protocol):
    """A drawing made ready to be shown at once with other numbers."""

    def marks(self, g: Any) -> list[Mark] | None:
        """What is lined in for these givens, in mm of the figure, before anything of them is settled; None where that
        cannot be told."""


@dataclass(frozen=True)
class Kin:
    """Another problem about the same thing, into which a figure is turned by one more ``word`` of the brief at a given; the
    ``shared`` givens are carried over."""

    given: str
    word: str
    problem: str
    shared: tuple[str, ...]


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
    reckoned_only: frozenset[str] = frozenset()
    """Findings that no drawing shows and no method measures: reckoned from the givens alone, held by tests of their own."""
    beforehand: Callable[[Any], str] | None = None
    """What the drafter counts or reckons before the first step, as one sentence."""
    chosen: Chosen | None = None
    worded: Callable[[Mapping[str, str]], str] | None = None
    """The brief where words are chosen so, without the numbers that then do not count."""
    kin: tuple[Kin, ...] = ()
    glance: Callable[[Any, Conventions], Glance] | None = None
    """What can be shown at once while somebody types, of a figure that takes longer to draw: made ready for givens that
    have been drawn."""

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
        raise Unknown(f"“{quoted(name)}” is no method of {self.id}; it has {names}")

    def read(
        self, raw: Mapping[str, Raw], unit: str | None = None, *, offers: bool = True, links: Links | None = None
    ) -> Typed:
        """Givens as typed, defaults filled in, limits and conditions checked. A length without a unit is in ``unit``;
        ``links`` say what names of other figures stand for.

        Where they are refused the nearest values that work are looked for and said, unless there is no time for ``offers``.

        Raises:
            Unknown: a name that is no given. BadGiven, Infeasible: see ``errors``.
        """
        typed = self.read_numbers(raw, unit, offers=offers, links=links)
        self.require(self.conditions, typed, unit, offers=offers)
        return typed

    def read_numbers(
        self, raw: Mapping[str, Raw], unit: str | None = None, *, offers: bool = False, links: Links | None = None
    ) -> Typed:
        """The same without the problem's conditions."""
        names = [item.name for item in self.given_list]
        for name in raw:
            if name not in names:
                raise Unknown(f"“{quoted(name)}” is no given of {self.id}; it has {', '.join(names)}")
        typed: Typed = {}
        refused: list[BadGiven] = []
        for item in self.given_list:
            try:
                meant = unit if item.name in raw else None
                typed[item.name] = read_given(item, raw.get(item.name, item.default), meant, links)
            except BadGiven as reason:
                refused.append(reason)
        if refused:
            raise self._with_offer(refused, typed, unit) if offers else refused[0]
        return typed

    def _with_offer(self, refused: list[BadGiven], typed: Typed, unit: str | None) -> BadGiven:
        """The first of several refusals, with what would mend them all."""
        first = refused[0]
        search = Search(self, typed, self.conditions, {r.given: r.nearest for r in refused if r.nearest is not None})
        offer = search.found()
        return BadGiven(first.given, f"{first}{search.sentence(offer)}", first.nearest, search.said(offer, unit))

    def first_broken(self, conditions: Sequence[Condition], typed: Typed) -> Condition | None:
        """The first condition that the givens break."""
        g = bind(self.givens, typed, PLAIN)
        return next((condition for condition in conditions if condition.broken_by(g)), None)

    def require(
        self, conditions: Sequence[Condition], typed: Typed, unit: str | None = None, *, offers: bool = True
    ) -> None:
        """Raise ``Infeasible`` for the first condition that the givens break."""
        broken = self.first_broken(conditions, typed)
        if broken is None:
            return
        words = {item.name: quoted(shown(item, typed[item.name])) for item in self.given_list}
        sentence, offer = broken.sentence.format(**words), {}
        if offers:
            every = tuple(dict.fromkeys((*self.conditions, *conditions)))
            search = Search(self, typed, every, {})
            offer = search.found(broken.givens)
            sentence += search.sentence(offer)
            offer = search.said(offer, unit)
        raise Infeasible(broken.name, sentence, broken.givens, offer)

    def serves(self, method: Method, typed: Typed) -> Infeasible | None:
        """Why a method does not serve these givens, or None if it does; without an offer, for it is asked at every key."""
        try:
            self.require(method.only, typed, offers=False)
        except Infeasible as reason:
            return reason
        return None

    def require_method(self, method: Method, typed: Typed, unit: str | None = None) -> None:
        """Raise ``Infeasible``, with what would help, where a method does not serve these givens."""
        self.require(method.only, typed, unit)

    def served_by(self, method: Method, typed: Typed) -> Typed:
        """These givens, or the nearest that a method serves."""
        try:
            self.require_method(method, typed)
        except Infeasible as reason:
            changed = {
                name: read_given(item, reason.offer[name], None)
                for item in self.given_list
                if (name := item.name) in reason.offer
            }
            return {**typed, **changed}
        return typed

    def sentence(self, words: Mapping[str, str]) -> str:
        """The brief for the words that are chosen in it, which may be any others beside; for a word that is none of its
        choices, that of its default."""
        if self.worded is None:
            return self.brief
        chosen = {item.name: item for item in self.given_list if item.choices}
        known = {n: w if n not in chosen or w in chosen[n].choices else chosen[n].default for n, w in words.items()}
        return self.worded(known)

    def spoken(self, typed: Typed) -> str:
        """The brief as a plain sentence."""
        words = {name: value for name, value in typed.items() if isinstance(value, str)}
        return self.sentence(words).format(**{item.name: shown(item, typed[item.name]) for item in self.given_list})

    def reckoned(self, typed: Typed) -> str:
        """What is counted or reckoned before the first step; empty where nothing is. It also says where a chosen point
        lies beyond the end of the curve."""
        g = bind(self.givens, typed, PLAIN)
        said = [] if self.beforehand is None else [self.beforehand(g)]
        if self.chosen is not None and self.chosen.last is not None:
            last = float(self.chosen.last(g))
            if float(getattr(g, self.chosen.given)) > last:
                said.append(f"The curve ends at {number_text(last)}: the tangent is drawn there.")
        return " ".join(filter(None, said))

    def slip_figures(self, typed: Typed) -> dict[str, dict[str, float]]:
        """What the drawing of each mistake would measure, by slip and finding; a mistake that has no drawing with these
        givens is left out."""
        g = bind(self.givens, typed, PLAIN)
        make = _maker(PLAIN)
        found = {}
        for each in self.slips:
            try:
                figures = {name: float(value) for name, value in each.measure(g, make).items()}
            except (ZeroDivisionError, ValueError, OverflowError):
                continue
            if all(map(math.isfinite, figures.values())):
                found[each.name] = figures
        return found

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
    pieces: str = "",
) -> Callable[[Callable[[Board, Any], None]], Method]:
    """Decorator that makes a ``Method`` of a construction."""

    def wrap(construct: Callable[[Board, Any], None]) -> Method:
        return Method(name, exactness, construct, only, worth, pieces)

    return wrap


def slip(name: str) -> Callable[[Callable[[Any, Make], dict[str, Number]]], Slip]:
    """Decorator that makes a ``Slip`` of a function that computes what the mistaken drawing would measure."""

    def wrap(measure: Callable[[Any, Make], dict[str, Number]]) -> Slip:
        return Slip(name, measure)

    return wrap
