"""Solving a problem in a test: typed givens in, certified answers and slips out."""

from __future__ import annotations

from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.errors import Infeasible
from wisecompass.drafting.givens import bind
from wisecompass.drafting.solve import Certificate, certify


def solved(problem_id: str, method: str | None = None, **raw: object) -> Certificate:
    """The certificate of a problem, all of whose checks must hold."""
    problem = catalogue.problem(problem_id)
    typed = problem.read({k: str(v) for k, v in raw.items()})
    certificate = certify(problem, typed, problem.method(method))
    failed = [check.text for check in certificate.checks if not check.holds]
    assert not failed, failed
    return certificate


def found(certificate: Certificate) -> dict[str, float]:
    """The findings that are measures."""
    return {a.name: a.value for a in certificate.answers if isinstance(a.value, float)}


def measures(problem_id: str, method: str | None = None, **raw: object) -> dict[str, float]:
    return found(solved(problem_id, method, **raw))


def point(certificate: Certificate, name: str) -> complex:
    """A point of the sheet as a complex number."""
    x, y = certificate.points[name]
    return complex(x, y)


def slip(problem_id: str, words: str, **raw: object) -> dict[str, float]:
    """What the drawing with the mistake would measure, of the slip whose name has ``words``."""
    problem = catalogue.problem(problem_id)
    g = bind(problem.givens, problem.read({k: str(v) for k, v in raw.items()}), PLAIN)
    (mistake,) = (one for one in problem.slips if words in one.name)
    return {name: float(value) for name, value in mistake.measure(g, lambda v: float(v)).items()}


def refusal(problem_id: str, **raw: object) -> Infeasible:
    """The reason why givens admit no figure."""
    try:
        catalogue.problem(problem_id).read({k: str(v) for k, v in raw.items()})
    except Infeasible as reason:
        return reason
    raise AssertionError(f"{problem_id} takes {raw}")
