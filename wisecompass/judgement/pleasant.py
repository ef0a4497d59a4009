"""Numbers that are pleasant to set: whole or half millimetres, whole degrees, small counts, in the neighbourhood of a
problem's own; and what kind of figure they make."""

from __future__ import annotations

import random
from collections.abc import Mapping
from dataclasses import dataclass, replace
from fractions import Fraction

from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.errors import BadGiven, Infeasible
from wisecompass.drafting.givens import Form, Given, Listed, Typed, split_list
from wisecompass.drafting.problem import Problem, Value
from wisecompass.judgement import bodies

LEAST_SHARE, MOST_SHARE = 0.5, 1.6
"""Lengths are so many times the problem's own."""

WHOLE_FROM = 10.0
"""Lengths from here on are whole millimetres, shorter ones halves."""

SHARP, BLUNT = 15, 165
"""Angles of a brief lie between these, degrees."""

DIVISIONS = (8, 12, 16)
"""Into so many parts circles are divided."""

HALF = Fraction(1, 2)

TWO_FACES = 6
"""So many corners have two faces in space, of which they may share some."""

SHARED = ("no corner shared", "a corner shared", "an edge shared")

USUAL = {"thickness": ("0", "0", "1", "1.5", "2"), "lap": ("0", "5", "6", "8"), "share": ("2/3",), "unit": ("5", "10")}
"""What such givens usually are where they are small."""


@dataclass(frozen=True)
class _Chance:
    """A source of pleasant numbers; lists of one question are longer or shorter alike by ``more``."""

    rng: random.Random
    more: int

    def text(self, item: Given) -> str:
        """A value of a given as it would be typed; it may be outside what other givens allow."""
        if item.form is Form.CHOICE:
            return self.rng.choice(item.choices)
        if item.form is Form.PARTS:
            return bodies.pleasant(self.rng)
        if item.name in USUAL and _number(item.default) < WHOLE_FROM:
            return self.rng.choice(USUAL[item.name])
        if item.form.each is item.form:
            return self._one(item)
        defaults = split_list(item.default)
        count = len(defaults)
        if item.form in (Form.LENGTHS, Form.ANGLES):
            count = max(item.fewest, min(item.longest, count + self.more))
        one = replace(item, form=item.form.each)
        return ", ".join(self._one(replace(one, default=defaults[k % len(defaults)]), moved=True) for k in range(count))

    def _one(self, item: Given, moved: bool = False) -> str:
        own = _number(item.default)
        if item.form is Form.COUNT:
            return str(self._count(item, own))
        if item.form is Form.ANGLE:
            return self._between(item, SHARP if own >= SHARP else 0, BLUNT if own <= BLUNT else 360, Fraction(1))
        if item.form is Form.RATIO:
            step = Fraction(1) if own == int(own) and own >= 3 else HALF if own * 2 == int(own * 2) else Fraction(1, 20)
            return self._between(item, own * LEAST_SHARE, own * MOST_SHARE, step)
        if item.form is Form.OFFSET and (moved or own == 0):
            reach = max(12.0, abs(own) * 0.45)
            return self._between(item, own - reach, own + reach, Fraction(1))
        if own == 0:  # a length that may be nothing
            return "0"
        low, high = sorted((own * LEAST_SHARE, own * MOST_SHARE))
        return self._between(item, low, high, Fraction(1) if abs(own) >= WHOLE_FROM else HALF)

    def _count(self, item: Given, own: float) -> int:
        least, most = _limits(item, own * 0.6, own * 1.6)
        if item.name == "divisions" and own in DIVISIONS:
            return self.rng.choice([n for n in DIVISIONS if n <= most + own] or [int(own)])
        return self.rng.randint(max(1, round(least)), max(1, round(least), round(most)))

    def _between(self, item: Given, low: float, high: float, step: Fraction) -> str:
        """A multiple of a step; where there is none within the limits, the given's own."""
        low, high = _limits(item, low, high)
        first, last = -(-Fraction(low) // step), Fraction(high) // step
        if last < first:
            return item.default
        value = step * self.rng.randint(int(first), int(last))
        if value == 0 and item.form is Form.LENGTH:
            return item.default
        return f"{float(value):g}"


def _limits(item: Given, low: float, high: float) -> tuple[float, float]:
    least = low if item.least is None else max(low, float(item.least))
    most = high if item.most is None else min(high, float(item.most))
    return least, most


def _number(text: str) -> float:
    from wisecompass.arithmetic.expression import read

    return float(read(text).evaluate(PLAIN))


def pleasant(problem: Problem, rng: random.Random) -> dict[str, str] | None:
    """Givens as typed that the problem accepts, or None: then others are to be tried."""
    chance = _Chance(rng, rng.choice((0, 0, -1, 1)))
    raw = {item.name: chance.text(item) for item in problem.given_list}
    _share_corners(problem, raw, rng)
    _on_dots(problem, raw)
    for _ in range(3):
        try:
            problem.read(raw, offers=False)
        except Infeasible as reason:
            offer = reason.offer or {}
            if not offer or not all(is_pleasant(text) for text in offer.values()):
                return None
            raw |= offer
        except BadGiven:
            return None
        else:
            return raw
    return None


def _share_corners(problem: Problem, raw: dict[str, str], rng: random.Random) -> None:
    """Of two faces in space the second shares a corner with the first, or two, now and then."""
    corners = [item.name for item in problem.given_list if item.form is Form.SPACE_POINT]
    if len(corners) < TWO_FACES:
        return
    for k in range(rng.choice((0, 0, 1, 2))):
        raw[corners[3 + k]] = raw[corners[k]]


def _on_dots(problem: Problem, raw: dict[str, str]) -> None:
    """On dot paper all sizes are whole dots."""
    if raw.get("paper", "plain") != "plain" and "unit" in raw:
        unit = float(raw["unit"])
        for item in problem.given_list:
            if item.form is Form.LENGTH and item.name != "unit":
                raw[item.name] = f"{max(2, round(float(raw[item.name]) / unit)) * unit:g}"


def is_pleasant(text: str) -> bool:
    """Whether every number of a given is whole, a half, or a small share such as 0.45."""
    try:
        numbers = [Fraction(piece.strip()) for piece in split_list(text)]
    except ValueError:
        return True  # a word
    return all((number * 20).denominator == 1 for number in numbers)


def kind_of(problem: Problem, typed: Typed, findings: Mapping[str, Value], solutions: int) -> str:
    """What kind of figure it is, in words: what was chosen, blunt or sharp angles, how many solutions there are, what is so
    and what there is not."""
    said = []
    for item in problem.given_list:
        value = typed[item.name]
        if isinstance(value, str):
            said.append(value)
        elif item.form is Form.ANGLE and float(item.most or 0) > 90:
            degrees = float(value.evaluate(PLAIN))  # type: ignore[union-attr]
            said.append("sharp" if degrees < 90 else "blunt" if degrees > 90 else "square")
    for name, found in findings.items():
        if found is None:
            said.append(f"no {name.replace('_', ' ')}")
        elif isinstance(found, bool):
            said.append(name.replace("_", " ") if found else f"not {name.replace('_', ' ')}")
        elif isinstance(found, str):
            said.append(found)
    if solutions > 1:
        said.append(f"{solutions} solutions")
    corners = [typed[item.name] for item in problem.given_list if item.form is Form.SPACE_POINT]
    if len(corners) >= TWO_FACES:
        places = {tuple(each.evaluate(PLAIN) for each in one.items) for one in corners if isinstance(one, Listed)}
        said.append(SHARED[min(len(corners) - len(places), 2)])
    return ", ".join(said) or "plain"
