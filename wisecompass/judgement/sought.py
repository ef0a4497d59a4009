"""Questions turned round by trial: whole numbers, each of which is tried, and where the reckoning leaves the tape."""

from __future__ import annotations

import math
import time
from fractions import Fraction
from typing import Any

from flint import arb

from wisecompass.arithmetic import BALL, PLAIN, ball
from wisecompass.drafting.answers import Ball
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.givens import Typed
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.tracing import trace, with_number
from wisecompass.geometry.space import Point3
from wisecompass.judgement.wishes import HIT, NARROW, Turned, Value


def _at(problem: Problem, typed: Typed, asked: Turned, value: Fraction) -> Any:
    """The finding at a value of the given: a ball, a whole number, or None where there is no figure."""
    changed = with_number(typed, asked.given, value)
    if problem.first_broken(problem.conditions, changed) is not None:
        return None
    try:
        here = trace(problem, changed)
    except (WiseCompassError, ArithmeticError, ValueError, TypeError):
        return None
    found = here.findings.get(asked.finding)
    word = here.words.get(asked.finding)
    return found.value if found is not None else arb(word) if isinstance(word, float) else word


def _roughly_at(problem: Problem, typed: Typed, asked: Turned, value: Fraction) -> float | None:
    """The same in floats."""
    changed = with_number(typed, asked.given, value)
    if problem.first_broken(problem.conditions, changed) is not None:
        return None
    try:
        found: Any = problem.find_truth(changed, PLAIN).findings.get(asked.finding.split(":")[0])
    except (WiseCompassError, ArithmeticError, ValueError, TypeError):
        return None
    several = (found.x, found.front, found.above) if isinstance(found, Point3) else found
    if isinstance(several, tuple):
        place = int(asked.finding.partition(":")[2] or 1)
        found = several[place - 1] if place <= len(several) else None
    return float(found) if isinstance(found, int | float) and not isinstance(found, bool) else None


NEAR = 1e-7
"""A float that is so near to what is wished, as a share, is looked at with many digits."""


def _try_each(
    problem: Problem, typed: Typed, asked: Turned, values: list[Fraction], until: float = math.inf
) -> list[tuple[Fraction, float]]:
    """Take those of a list of values that bring the wish about, as far as there is time; what the finding is at each."""
    wish, seen = ball.number(asked.wish), []
    for value in values:
        if time.monotonic() > until:
            break
        found = _roughly_at(problem, typed, asked, value)
        if found is None:
            continue
        if abs(found - float(asked.wish)) <= NEAR * (1 + abs(found)):
            exact = _at(problem, typed, asked, value)
            if exact is not None and (exact == asked.wish if isinstance(exact, int) else abs(exact - wish) <= HIT):
                asked.values.append(Value(Ball(value, Fraction(0))))
        seen.append((value, found))
    if seen:
        asked.range = min(f for _, f in seen), max(f for _, f in seen)
        if not asked.values:
            near = min(seen, key=lambda pair: abs(pair[1] - float(asked.wish)))
            asked.nearest = float(near[0]), near[1]
    return seen


MOST_COUNTED = 400
"""So many whole numbers are tried."""


def counted(problem: Problem, typed: Typed, asked: Turned, numbers: range) -> Turned:
    """Every whole number."""
    tried = numbers[:MOST_COUNTED]
    _try_each(problem, typed, asked, [Fraction(n) for n in tried])
    if len(numbers) > len(tried):
        asked.unsettled.append((Fraction(tried[-1] + 1), Fraction(numbers[-1])))
    return asked


PLACES, FEWEST, STRIDE = 240, 40, 8
"""So many places are looked at where the reckoning cannot be followed; fewer where each takes long, but so many. Each so
manieth is looked at first."""


def sought(problem: Problem, typed: Typed, asked: Turned, seconds: float) -> Turned:
    """By trial where the reckoning leaves the tape: on the lattice of divisions if the given has one, and between places at
    which the finding lies to either side of the wish."""
    asked.searched = True
    low, high = asked.limits
    begun = time.monotonic()
    _roughly_at(problem, typed, asked, low + (high - low) / 3)
    each = max(time.monotonic() - begun, 1e-6)
    count = min(PLACES, max(FEWEST, int(seconds / 2 / each)))
    places = {low + (high - low) * k / count for k in range(count + 1)}
    divisions = typed.get("divisions")
    parts = int(float(divisions.evaluate(BALL))) if hasattr(divisions, "evaluate") else 2  # type: ignore[union-attr]
    if (high - low) * parts <= MOST_COUNTED:
        places |= {Fraction(k, parts) for k in range(-int(-low * parts // 1), int(high * parts // 1) + 1)}
    spread = [place for k in range(STRIDE) for place in sorted(places)[k::STRIDE]]  # all over the limits, if time runs out
    seen = sorted(_try_each(problem, typed, asked, spread, begun + seconds))
    wish = float(asked.wish)
    for (a, fa), (b, fb) in zip(seen, seen[1:], strict=False):
        if (fa - wish) * (fb - wish) < 0:
            _close_in(problem, typed, asked, a, b, fa < wish)
    asked.values.sort(key=lambda value: value.ball.middle)
    if asked.values:
        asked.nearest = None
    return asked


def _close_in(problem: Problem, typed: Typed, asked: Turned, a: Fraction, b: Fraction, rising: bool) -> None:
    """The value between two places: nearly by the slope of floats, then by halving; where the finding leaps between them
    there is none."""
    wish = ball.number(asked.wish)

    def below(at: Fraction) -> bool | None:
        """Whether the finding lies below the wish; None where there is none, or it cannot be told from the wish."""
        found = _at(problem, typed, asked, at)
        off = None if found is None or isinstance(found, int) else found - wish
        return None if off is None or off.contains(0) else bool(off < 0)

    near = _rough_root(problem, typed, asked, a, b)
    for away in (NARROW / 3, Fraction(1, 10**9)):
        if near is None:
            break
        low, high = max(a, near - away), min(b, near + away)
        if below(low) is rising and below(high) is (not rising):
            a, b = low, high
            break
    for _ in range(60):
        if b - a < NARROW:
            break
        middle = (a + b) / 2
        found = below(middle)
        if found is None:
            break
        a, b = (middle, b) if found is rising else (a, middle)
    ends = [_at(problem, typed, asked, end) for end in (a, b)]
    if any(end is None or isinstance(end, int) for end in ends) or float(abs(ends[0] - ends[1]).mid()) > 1e-9:
        return
    asked.values.append(Value(Ball((a + b) / 2, (b - a) / 2)))


def _rough_root(problem: Problem, typed: Typed, asked: Turned, a: Fraction, b: Fraction) -> Fraction | None:
    """The value between two places in floats (Brent); None where the finding is not there all the way."""
    from scipy.optimize import brentq

    def off(at: float) -> float:
        found = _roughly_at(problem, typed, asked, Fraction(at))
        if found is None:
            raise ArithmeticError
        return found - float(asked.wish)

    try:
        return Fraction(float(brentq(off, float(a), float(b), xtol=1e-13, rtol=1e-15, maxiter=60)))
    except (ArithmeticError, ValueError, RuntimeError):
        return None
