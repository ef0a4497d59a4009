"""How answers hang on the givens: what one unit of each changes in each, and what a tolerance on the givens leaves of them.

The slopes are exact: the reckoning of the truth is run along, in balls, with its derivative. Where the figure changes its
kind at just these givens, the slopes to either side are compared, and where they differ both are told."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import cast

from flint import arb

from wisecompass.arithmetic import BALL, ball
from wisecompass.arithmetic.tape import parts_of
from wisecompass.drafting.answers import Ball, ball_of
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.givens import Form, Typed
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.tracing import Numeric, Reckoned, numerics, trace, with_number

BESIDE = Fraction(1, 10**15)
"""So far beside givens at which the figure changes its kind its slopes are taken, as a share of the given."""

ALIKE = Fraction(1, 10**9)
"""Slopes to either side that differ by less of their size are one."""


@dataclass(frozen=True)
class Slope:
    """What one unit of a given changes in a finding: a proved ball. ``below`` and ``above`` differ from it where the figure
    changes its kind at just this given: then ``value`` is None. Of a counted given it is the change by one more."""

    finding: str
    given: str
    value: Ball | None
    below: Ball | None = None
    above: Ball | None = None


def sensitivities(problem: Problem, typed: Typed) -> dict[str, dict[str, Slope]]:
    """Slopes by finding and given; what nobody can tell is left out.

    Raises:
        WiseCompassError, ArithmeticError: givens that admit no figure.
    """
    here = trace(problem, typed)
    found: dict[str, dict[str, Slope]] = {name: {} for name in here.findings}
    for which in numerics(problem, typed):
        slopes = _one_more if which.form is Form.COUNT else _slopes
        for slope in slopes(problem, typed, which, here):
            found[slope.finding][slope.given] = slope
    return found


def _one_more(problem: Problem, typed: Typed, which: Numeric, here: Reckoned) -> list[Slope]:
    """The exact change by one more, where there is such a figure."""
    number = which.value.fraction()
    assert number is not None
    if which.given.most is not None and number >= which.given.most:
        return []
    try:
        more = trace(problem, with_number(typed, which, number + 1))
    except (WiseCompassError, ArithmeticError):
        return []
    return [
        Slope(name, which.name, _ball(more.findings[name].value - value.value))
        for name, value in here.findings.items()
        if name in more.findings
    ]


def _slopes(problem: Problem, typed: Typed, which: Numeric, here: Reckoned) -> list[Slope]:
    """Slopes by a given that may be any number."""
    value = cast("arb", which.value.evaluate(BALL))
    turning = [
        guard for guard in here.tape.guards[here.first :] if guard.sign == 0 and here.tape.hangs_on(guard.node, which.name)
    ]
    plain = _along(here, which.name, value)
    if not turning:
        return [Slope(name, which.name, slope) for name, slope in plain.items()]
    sides: list[dict[str, Ball]] = []
    middle = ball.middle(value)
    for way in (-1, 1):
        beside = middle + way * BESIDE * max(abs(middle), Fraction(1))
        try:
            there = trace(problem, with_number(typed, which, beside))
        except (WiseCompassError, ArithmeticError):
            sides.append({})
            continue
        sides.append(_along(there, which.name, ball.number(beside)))
    found = []
    for name in here.findings:
        below, above = (side.get(name) for side in sides)
        one = below if above is None else above
        if below is not None and above is not None and not _alike(below, above):
            found.append(Slope(name, which.name, None, below, above))
        elif one is not None:
            found.append(Slope(name, which.name, one))
    return found


def _alike(one: Ball, other: Ball) -> bool:
    size = max(abs(one.middle), abs(other.middle), Fraction(1, 1000))
    return abs(one.middle - other.middle) <= ALIKE * size + one.radius + other.radius


def _along(here: Reckoned, given: str, value: arb) -> dict[str, Ball]:
    """The slope of every finding by a given that stands at a value."""
    names, cone = here.slopes_known
    run = here.tape.along(given, value, cone)
    found = {}
    for name in names:
        slope = parts_of(run[here.findings[name].index])[1]
        if slope.is_finite():
            found[name] = _ball(slope)
    return found


def _ball(value: arb) -> Ball:
    return ball_of(value)


@dataclass(frozen=True)
class Carried:
    """What tolerances leave of a finding: it lies between ``low`` and ``high``. ``proved`` unless the figure may change its
    kind within them; then it is what the slopes here say."""

    finding: str
    low: float
    high: float
    proved: bool


def carried(problem: Problem, typed: Typed, tolerances: Mapping[str, Fraction]) -> dict[str, Carried]:
    """Findings with every given anywhere within its tolerance, by the mean-value form over all of them at once.

    Raises:
        WiseCompassError, ArithmeticError: givens that admit no figure.
    """
    here = trace(problem, typed)
    tape = here.tape
    at = {name: tape.values[node] for name, node in tape.inputs.items()}
    wide = {
        name: ball.about(ball.middle(at[name]), ball.radius(at[name]) + size)
        for name, size in tolerances.items()
        if name in at and size > 0
    }
    names, _ = here.slopes_known
    targets = [here.findings[name].index for name in names]
    decided = [guard.node for guard in tape.guards] + [margin.index for margin, _, _ in here.margins]
    cone = tape.cone([*targets, *decided])
    spans: dict[int, arb] = {node: tape.values[node] for node in (*targets, *decided)}
    linear: dict[int, arb] = {node: arb(0) for node in targets}
    for name, box in wide.items():
        run = tape.along(name, box, cone, wide)
        point = tape.along(name, at[name], tape.cone(targets))
        for node in spans:
            spans[node] += parts_of(run[node])[1] * (box - at[name])
        for node in targets:
            linear[node] += abs(parts_of(point[node])[1]) * arb(ball.radius(box).numerator) / ball.radius(box).denominator
    holds = _signs_hold(here, spans) and not any(here.loose(name) for name in wide)
    found = {}
    for name, node in zip(names, targets, strict=True):
        span = spans[node]
        proved = holds and bool(span.is_finite()) and here.followed(name)
        if not proved:
            span = tape.values[node] + linear[node] * arb(0, 1)
        found[name] = Carried(name, float(span.lower()), float(span.upper()), proved)
    return found


def _signs_hold(here: Reckoned, spans: Mapping[int, arb]) -> bool:
    """Whether everything that was decided is decided alike anywhere in the spans."""
    guards = all(ball.sign_of(spans[guard.node]) == guard.sign != 0 for guard in here.tape.guards)
    return guards and all(bool(spans[margin.index] > 0) for margin, _, _ in here.margins)


def in_order(problem: Problem, names: Sequence[str]) -> list[str]:
    """Findings in the order of the catalogue, the numbers of a list in theirs."""
    order = list(problem.findings)
    return sorted(names, key=lambda name: (order.index(name.split(":")[0]), int(name.partition(":")[2] or 0)))
