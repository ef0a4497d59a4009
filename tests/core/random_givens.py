"""Random feasible givens for any problem, drawn from the limits that its givens declare."""

from __future__ import annotations

import random
from dataclasses import replace
from fractions import Fraction

from tests.core import random_bodies
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.errors import BadGiven, Infeasible
from wisecompass.drafting.givens import Form, Given, Typed
from wisecompass.drafting.problem import Method, Problem
from wisecompass.drafting.solve import construct

USUAL_LENGTHS = (1.0, 400.0)
USUAL = {"seam": 4.0, "lap": 4.0, "thickness": 3.0, "divisions": 26.0}
"""Numbers of sheet work that are small beside all others: mostly no more than these."""
MOST_TRIES = 40

OFFERED = 0.25
"""So often, where a limit is broken, the nearest that works is taken instead of other givens; looking for it takes time."""


def random_text(item: Given, rng: random.Random) -> str:
    """A value inside the given's own limits, as a drafter might type it."""
    if item.form is Form.CHOICE:
        return rng.choice(item.choices)
    if item.form is Form.PARTS:
        return random_bodies.text(rng)
    if item.form.each is not item.form:
        count = rng.randint(item.fewest, min(item.longest, 9))
        one = replace(item, form=item.form.each)
        return ", ".join(random_text(one, rng) for _ in range(count))
    least = float(item.least) if item.least is not None else -400.0
    most = float(item.most) if item.most is not None else 400.0
    if item.name in USUAL and rng.random() < 0.8:
        most = min(most, USUAL[item.name])
    if item.form is Form.COUNT:
        return str(rng.randint(int(least), max(int(least), min(int(most), 30))))
    if item.form is Form.LENGTH:
        least, most = USUAL_LENGTHS
    elif item.form is Form.OFFSET:
        least, most = max(least, -60.0), min(most, 60.0)
    value = Fraction(round(rng.uniform(least, most), rng.choice((0, 1, 2, 3)))).limit_denominator(1000)
    if item.least is not None:
        value = max(value, item.least)
    if item.most is not None:
        value = min(value, item.most)
    return f"{value.numerator}/{value.denominator}" if rng.random() < 0.3 else f"{float(value):.6f}"


def feasible(problem: Problem, method: Method, rng: random.Random, offered: float = OFFERED) -> Typed:
    """Givens that the problem and the method accept; where a limit is broken the nearest that works is taken ``offered`` so
    often, which tries those offers as well."""
    for tries in range(MOST_TRIES):
        offers = tries > MOST_TRIES // 4 or rng.random() < offered
        raw = {item.name: random_text(item, rng) for item in problem.given_list}
        for _ in range(8):
            try:
                typed = problem.read(raw, offers=offers)
                problem.require(method.only, typed, offers=offers)
                if any(item.form is Form.PARTS for item in problem.given_list):
                    construct(problem, typed, method, PLAIN)  # some bodies turn out to have places that nothing leads to
            except Infeasible as reason:
                if not reason.offer:
                    break
                raw |= reason.offer
            except BadGiven:
                break
            else:
                return typed
    raise AssertionError(f"no feasible givens found for {problem.id}, {method.name}")
