"""A problem's truth on a tape: reckoned once, and then for any other givens near by, with slopes."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from typing import TYPE_CHECKING, Any, cast

from wisecompass.arithmetic import BALL, PLAIN
from wisecompass.arithmetic.expression import Expression, of
from wisecompass.arithmetic.tape import Tape, Taping, Traced
from wisecompass.drafting.givens import Form, Given, Listed, Typed, bind, bind_each
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.step import Kind
from wisecompass.geometry.space import Point3

if TYPE_CHECKING:
    from flint import arb


@dataclass(frozen=True)
class Reckoned:
    """A truth on its tape: the numbers of its findings, by name; of a list or point with the place, from 1 (``feet:2``).
    What is a whole number or a word in this case is a ``word``. The margins of the problem's conditions come with whether
    they must lie above zero, and how many guards were there before."""

    tape: Tape
    findings: dict[str, Traced]
    words: dict[str, object]
    margins: tuple[tuple[Traced, bool, int], ...]
    first: int = 0
    """How many guards belong to the conditions; what comes after belongs to the truth."""
    broken: Traced | None = None
    """The margin of a condition that these givens break: then there are no findings."""

    def loose(self, given: str) -> bool:
        """Whether something was reckoned past the tape that hangs on a given: it tells nothing of other values of it."""
        return any(self.tape.hangs_on(node, given) for node in self.tape.leaks)

    def followed(self, finding: str, *, anywhere: bool = True) -> bool:
        """Whether a finding's slopes are known: at these givens, or ``anywhere`` where the tape holds."""
        return finding in self._followed[anywhere]

    @cached_property
    def _followed(self) -> tuple[frozenset[str], frozenset[str]]:
        """Findings whose slopes are known here, and those whose slopes are known anywhere."""
        found: tuple[set[str], set[str]] = (set(), set())
        for name, value in self.findings.items():
            cone = set(self.tape.cone([value.index]))
            if not cone & self.tape.sealed:
                found[0].add(name)
                if not cone & self.tape.local:
                    found[1].add(name)
        return frozenset(found[0]), frozenset(found[1])

    @cached_property
    def slopes_known(self) -> tuple[list[str], list[int]]:
        """Findings whose slopes are known here, and all that they hang on."""
        names = [name for name in self.findings if self.followed(name, anywhere=False)]
        return names, self.tape.cone([self.findings[name].index for name in names])


def trace(problem: Problem, typed: Typed) -> Reckoned:
    """The truth of a problem, reckoned on a tape at the working precision.

    Raises:
        WiseCompassError, ArithmeticError: givens that cannot be reckoned with.
    """
    tape = Tape()
    taping = Taping(tape)
    bound = bind_each(problem.givens, typed, lambda name, value: tape.given(name, cast("arb", value.evaluate(BALL))))
    object.__setattr__(bound, "_tape", tape)
    plain = bind(problem.givens, typed, PLAIN)
    margins = []
    for condition in problem.conditions:
        margin: Any = condition.margin(bound)
        if isinstance(margin, Traced):
            margins.append((margin, condition.strict, len(tape.guards)))
            if condition.broken_by(plain):
                return Reckoned(tape, {}, {}, tuple(margins), broken=margin)
    first = len(tape.guards)
    truth = problem.truth(bound, lambda value: taping.number(Fraction(value)))
    findings: dict[str, Traced] = {}
    words: dict[str, object] = {}
    for name, value in truth.findings.items():
        several = (value.x, value.front, value.above) if isinstance(value, Point3) else value
        if isinstance(several, tuple):
            for k, each in enumerate(several, 1):
                _put(f"{name}:{k}", each, findings, words)
        else:
            _put(name, value, findings, words)
    tape.sealed |= {value.index for name, value in findings.items() if name.split(":")[0] in problem.numerical}
    return Reckoned(tape, findings, words, tuple(margins), first)


def _put(name: str, value: Any, findings: dict[str, Traced], words: dict[str, object]) -> None:
    if isinstance(value, Traced):
        findings[name] = value
    else:
        words[name] = value


@dataclass(frozen=True)
class Numeric:
    """A number among the givens: its name (with the place in a list, ``A:2``), and what kind of number it is."""

    name: str
    given: Given
    place: int | None
    value: Expression

    @property
    def form(self) -> Form:
        return self.given.form.each

    @property
    def unit(self) -> str:
        return self.given.form.unit

    @property
    def words(self) -> str:
        """As it is called in a sentence."""
        if self.place is None:
            return self.given.words
        axis = {Form.POINT: ("x", "y"), Form.SPACE_POINT: ("x", "front", "above")}.get(self.given.form)
        return f"{self.given.words}, {axis[self.place - 1] if axis else f'number {self.place}'}"


def numerics(problem: Problem, typed: Typed) -> list[Numeric]:
    """All numbers among the givens that may be others: lengths, angles, ratios, counts, each of a list and of a point."""
    found = []
    for item in problem.given_list:
        value = typed[item.name]
        if isinstance(value, Listed):
            found += [Numeric(f"{item.name}:{k}", item, k, each) for k, each in enumerate(value.items, 1)]
        elif isinstance(value, Expression):
            found.append(Numeric(item.name, item, None, value))
    return found


def with_number(typed: Typed, which: Numeric, value: Fraction) -> Typed:
    """The givens with one number changed."""
    number = of(value)
    if which.place is None:
        return {**typed, which.given.name: number}
    listed = typed[which.given.name]
    assert isinstance(listed, Listed)
    items = (*listed.items[: which.place - 1], number, *listed.items[which.place :])
    return {**typed, which.given.name: replace(listed, items=items)}


def kind_of(problem: Problem, finding: str) -> Kind:
    """What kind of number a finding is, or one of its numbers (``feet:2``)."""
    return problem.findings[finding.split(":")[0]]
