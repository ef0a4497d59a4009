"""Questions turned round as they are asked and answered in words."""

from __future__ import annotations

from fractions import Fraction

from wisecompass.arithmetic import BALL, ball
from wisecompass.arithmetic.expression import LENGTH_UNITS, Unreadable, quoted, read
from wisecompass.drafting.answer_words import answer_words
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.step import Kind
from wisecompass.drafting.tracing import Numeric, kind_of
from wisecompass.drafting.wording import measured
from wisecompass.judgement.wishes import Turned

DECIMALS = 3
"""Of values that are told in a sentence."""

LARGEST = Fraction(10) ** 15
"""No answer is wished larger than this."""


def read_number(text: str, what: str, kind: Kind, unit: str = "mm") -> Fraction:
    """What was typed for an answer: a number, a sum, a length with its unit.

    Raises:
        BadGiven: it is none, or no such kind of number.
    """
    try:
        found = read(text, unit if kind is Kind.LENGTH else None)
    except Unreadable as reason:
        raise BadGiven("want", f"{what}: {reason}") from None
    if found.unit in LENGTH_UNITS and kind is not Kind.LENGTH:
        raise BadGiven("want", f"{what} “{quoted(text)}” is a length; it must be {_kind_words(kind)}")
    if found.unit in ("°", "deg") and kind is not Kind.ANGLE:
        raise BadGiven("want", f"{what} “{quoted(text)}” is an angle; it must be {_kind_words(kind)}")
    exact = found.fraction()
    value = ball.middle(found.evaluate(BALL)) if exact is None else exact  # type: ignore[arg-type]
    if abs(value) > LARGEST:
        raise BadGiven("want", f"{what} “{quoted(text)}” is beyond all paper; the largest that can be asked for is 1e15")
    return value


def _kind_words(kind: Kind) -> str:
    words = {Kind.LENGTH: "a length", Kind.ANGLE: "an angle", Kind.AREA: "an area", Kind.COUNT: "a whole number"}
    return words.get(kind, "a plain number")


def finding_words(name: str) -> str:
    """A finding, or one number of it (``feet:2``), as it is said."""
    whole, _, place = name.partition(":")
    return f"{answer_words(whole)}, number {place}" if place else answer_words(whole)


def said(asked: Turned, problem: Problem, units: Units = Units.MM) -> str:
    """What came of a question, in one sentence.

    >>> said(turn(problem, typed, "radius", "setback", Fraction(30)), problem)
    'setback 30 mm: blend radius 21.796 mm; there is no other from 0.001 to 148 mm'
    """
    kind = kind_of(problem, asked.finding)

    def answer(value: float) -> str:
        return measured(value, kind.unit, units, DECIMALS)

    def given(value: float | Fraction) -> str:
        return _given(asked.given, value, units)

    low, high = (given(end) for end in asked.limits)
    within = f"from {low} to {high}"
    told = []
    if asked.values:
        each = [given(one.ball.middle) + (" (it only just reaches it)" if one.touching else "") for one in asked.values]
        many = "" if len(each) == 1 else f"{len(each)} values: "
        told.append(f"{many}{asked.given.words} {_listed(each)}")
    told += [f"any {asked.given.words} from {given(one)} to {given(other)}" for one, other in asked.intervals]
    if not told:
        told.append(_none(asked, answer, given, within))
    elif asked.complete:
        told.append(f"there is no other {within}")
    told += [f"not settled {_between(given(one), given(other))}" for one, other in asked.unsettled[:3]]
    if len(asked.unsettled) > 3:
        told.append(f"and at {len(asked.unsettled) - 3} more places")
    if asked.searched:
        told.append(f"found by trial {within}: there may be others")
    return f"{finding_words(asked.finding)} {answer(float(asked.wish))}: {'; '.join(told)}"


def _given(which: Numeric, value: float | Fraction, units: Units) -> str:
    return measured(float(value), which.unit, units, DECIMALS)


def _between(low: str, high: str) -> str:
    return f"at {low}" if low == high else f"between {low} and {high}"


def _listed(texts: list[str]) -> str:
    return texts[0] if len(texts) == 1 else f"{', '.join(texts[:-1])} and {texts[-1]}"


def _none(asked: Turned, answer: object, given: object, within: str) -> str:
    """That no value serves, and the nearest that can be had."""
    assert callable(answer)
    assert callable(given)
    none = f"no {asked.given.words} {within} brings it about" if not asked.unsettled else "no value was found"
    if asked.nearest is None:
        return none
    at, value = asked.nearest
    wish = float(asked.wish)
    low, high = asked.range or (value, value)
    word = "at most" if wish > high else "at least" if wish < low else "the nearest is"
    return f"{none}: {word} {answer(value)}, at {given(at)}"
