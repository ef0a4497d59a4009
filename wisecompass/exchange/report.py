"""The JSON report of a solved problem: a contract that other programs read."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from fractions import Fraction
from typing import Any

from wisecompass.drafting.answer_words import answer_words
from wisecompass.drafting.answers import Answer, bound_text
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.givens import Typed, plain_values
from wisecompass.drafting.problem import Method, Problem
from wisecompass.drafting.reasons import Reasons
from wisecompass.drafting.reckoning import reckoned_words, reckoning
from wisecompass.drafting.sentences import sentence
from wisecompass.drafting.solve import Certificate, steps_told
from wisecompass.drafting.step import Step

PLAIN_WORDS = Conventions()
"""The words in which the catalogue is written."""


def report(
    problem: Problem,
    method: Method,
    typed: Typed,
    certificate: Certificate,
    conventions: Conventions = PLAIN_WORDS,
    steps: Sequence[Step] | None = None,
) -> dict[str, Any]:
    """Findings, points, steps, checks, deviation and cautions as plain JSON values."""
    steps = steps_told(problem, typed, method, conventions) if steps is None else steps
    by_step = [text for step in steps for text in step.cautions]
    return {
        "problem": problem.id,
        "method": method.name,
        "exactness": method.exactness.value,
        "givens": plain_values(typed),
        "brief": conventions.worded(problem.spoken(typed)),
        "beforehand": problem.reckoned(typed),
        "reckoning": [asdict(one) for one in reckoning(steps)],
        "findings": {answer.name: _finding(answer) for answer in certificate.answers},
        "points": certificate.points,
        "solutions": certificate.solutions,
        "steps": [
            {
                "n": step.n,
                "instrument": step.instrument.value,
                "setting": None if step.setting is None else float(step.setting),
                "unit": None if step.setting is None else step.unit,
                "text": conventions.worded(sentence(step, conventions.units)),
                "makes": [*step.makes, *(point for point, _, _ in step.crossings if point not in step.makes)],
                "why": [conventions.worded(text) for text in Reasons(step, conventions.units).sentences()],
                "acts": [act.as_json() for act in step.acts],
            }
            for step in steps
        ],
        "checks": [
            {"text": check.text, "residual": check.residual, "bound": check.bound, "holds": check.holds}
            for check in certificate.checks
        ],
        "deviation": {
            "worst": certificate.deviation.worst,
            "unit": "mm",
            "where": certificate.deviation.where,
        },
        "slips": problem.slip_figures(typed),
        "cautions": [conventions.worded(text) for text in (*problem.cautions, *by_step)],
    }


def _finding(answer: Answer) -> dict[str, Any]:
    return {
        "value": answer.value,
        "unit": answer.kind.unit,
        "bound": answer.bound,
        "ball": None
        if not answer.balls
        else list(answer.balls[0].text())
        if len(answer.balls) == 1
        else [list(each.text()) for each in answer.balls],
        "proved": answer.proved,
        "closed_form": answer.closed_form,
    }


def in_words(
    problem: Problem,
    method: Method,
    typed: Typed,
    certificate: Certificate,
    conventions: Conventions = PLAIN_WORDS,
    steps: Sequence[Step] | None = None,
    *,
    why: bool = False,
) -> str:
    """The same for a reader: brief, findings, steps (with what each rests on, if ``why`` is asked) and checks as text."""
    steps = steps_told(problem, typed, method, conventions) if steps is None else steps
    said = [conventions.worded(problem.spoken(typed))]
    said += filter(None, (problem.reckoned(typed), reckoned_words(steps, conventions.units)))
    lines = [*said, f"Method: {method.name} ({method.exactness.value})", ""]
    lines += [_line(answer, conventions) for answer in certificate.answers]
    lines.append("")
    for step in steps:
        lines.append(f"{step.n:3}. {conventions.worded(sentence(step, conventions.units))}")
        lines += [f"       {conventions.worded(text)}" for text in Reasons(step, conventions.units).sentences() if why]
    lines.append("")
    lines += [f"  {'holds' if check.holds else 'FAILS'}: {conventions.worded(check.text)}" for check in certificate.checks]
    worst = certificate.deviation
    if worst.worst:
        lines.append(f"  strays {worst.worst:.4f} mm from the truth, at {worst.where}")
    lines.append("")
    from wisecompass.judgement.worth import judged  # simulated hands need NumPy, the JSON report does not

    methods = judged(problem, typed)
    if len(methods) > 1:
        lines += [f"  {one.method.name}: {one.sentence}" for one in methods]
        lines.append("")
    for name, figures in problem.slip_figures(typed).items():
        measured = ", ".join(f"{conventions.worded(answer_words(n))} {value:.4f}" for n, value in figures.items())
        lines.append(f"  slip: {conventions.worded(name)}; then {measured}")
    return "\n".join(lines)


DECIMALS = 6
"""Of a figure printed in words."""


def _line(answer: Answer, conventions: Conventions) -> str:
    """A finding in words: the printed value, plus or minus the printed bound, holds the truth."""
    name = conventions.worded(answer_words(answer.name))
    if not answer.balls:
        return f"  {name:34} {answer.value!s:>16}"
    printed = [f"{each:.{DECIMALS}f}" for each in (ball.value for ball in answer.balls)]
    bound = bound_text(answer.bound_as_shown([Fraction(each) for each in printed]))
    value = printed[0] if isinstance(answer.value, float) else f"({', '.join(printed)})"
    closed = f"  = {answer.closed_form}" if answer.closed_form else ""
    word = "proved" if answer.proved else "numerical"
    return f"  {name:34} {value:>16} {answer.kind.unit:4}  ± {bound} {word}{closed}"
