"""Trochoid of a point within or beyond the rim of a circle that rolls along a line."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, pi_times
from wisecompass.catalogue.loci.rolling_on_line import (
    OF_THE_TRACER,
    OnLine,
    RollingOnLine,
    counts_on_line,
    line_in_rolled,
    points,
    roll,
    tangent_findings,
    way,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Chosen, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind


@dataclass(frozen=True)
class _Tracing(OnLine):
    tracing_radius: Number = givens.length("tracing radius", "13")


@dataclass(frozen=True)
class TracingOnLine(RollingOnLine, _Tracing):
    """The tracing radius stands after the rolling diameter."""

    rolling_diameter: Number = givens.length("rolling diameter", "40")


def _kind(g: TracingOnLine) -> str:
    return {1: "curtate", 0: "cycloid", -1: "prolate"}[g.decide(lambda h: h.rolling_diameter - 2 * h.tracing_radius)]


def truth(g: TracingOnLine, number: Make) -> Truth:
    return Truth(
        points=points(g, g.tracing_radius + 0, number),
        findings={
            "base_length": pi_times(g.rolling_diameter * g.turns),
            "kind": _kind(g),
            **tangent_findings(g, g.tracing_radius + 0),
        },
    )


@method("rolled circle", Exactness.EXACT_POINTS)
def rolled_circle(b: Board, g: TracingOnLine) -> None:
    rolled = roll(b, g, g.tracing_radius + 0)
    line_in_rolled(b, g, rolled, g.tracing_radius + 0, "trochoid")
    b.find("kind", _kind(g))
    step = rolled.plotted[g.divisions].x - rolled.plotted[0].x
    level = rolled.plotted[g.divisions].y - rolled.plotted[0].y
    b.check("after each turn the point is as high again", level)
    b.check("after each turn the point has gone one girth", step * way(g) - pi_times(g.rolling_diameter))


@slip(OF_THE_TRACER)
def wrong_girth(g: TracingOnLine, number: Make) -> dict[str, Number]:
    return {"base_length": pi_times(2 * g.tracing_radius * g.turns)}


PROBLEM = Problem(
    id="loci/trochoid",
    title="Trochoid",
    brief=(
        "Roll a circle of diameter {rolling_diameter} to the {direction} along a line, in {divisions} divisions of a turn; "
        "number of turns {turns}. Trace the point {tracing_radius} from its centre, with tangent and normal where it has "
        "turned {turned}."
    ),
    givens=TracingOnLine,
    truth=truth,
    methods=(rolled_circle,),
    findings={
        "base_length": Kind.LENGTH,
        "kind": Kind.CHOICE,
        "tangent_angle": Kind.ANGLE,
        "curvature_radius": Kind.LENGTH,
    },
    source="Roulettes: the rolled arc is as long as the base.",
    slips=(wrong_girth,),
    beforehand=counts_on_line,
    chosen=Chosen("turned"),
)
