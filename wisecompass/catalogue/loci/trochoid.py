"""Trochoid of a point within or beyond the rim of a circle that rolls along a line."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, pi_times
from wisecompass.catalogue.loci.rolling import line_curve, line_points, roll_on_line
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane


@dataclass(frozen=True)
class TracingOnLine(Givens):
    rolling_diameter: Number = givens.length("rolling diameter", "40")
    tracing_radius: Number = givens.length("tracing radius", "13")
    turns: int = givens.count("turns", "1", 1, 4)
    divisions: int = givens.count("number of divisions", "12", 8, 24)


def _kind(g: TracingOnLine) -> str:
    return {1: "curtate", 0: "cycloid", -1: "prolate"}[g.decide(lambda h: h.rolling_diameter - 2 * h.tracing_radius)]


def truth(g: TracingOnLine, number: Make) -> Truth:
    points = line_points(g.turns, g.divisions, g.rolling_diameter / 2, g.tracing_radius, number)
    return Truth(points=points, findings={"base_length": pi_times(g.rolling_diameter * g.turns), "kind": _kind(g)})


@method("rolled circle", Exactness.EXACT_POINTS)
def rolled_circle(b: Board, g: TracingOnLine) -> None:
    radius = g.rolling_diameter / 2
    rolled = roll_on_line(b, g.turns, g.divisions, radius, g.tracing_radius)
    b.fair_curve(lambda: line_curve(g.turns, float(radius), float(g.tracing_radius)), rolled.plotted, "trochoid")
    b.dimension(rolled.start, rolled.end, offset=-9)
    b.find("base_length", plane.distance(rolled.start, rolled.end))
    b.find("kind", _kind(g))
    step = rolled.plotted[g.divisions].x - rolled.plotted[0].x
    b.check("after each turn the point has gone one girth", step - pi_times(g.rolling_diameter))


@slip("the base divided by the tracing circle's girth instead of the rolling one's")
def wrong_girth(g: TracingOnLine, number: Make) -> dict[str, Number]:
    return {"base_length": pi_times(2 * g.tracing_radius * g.turns)}


PROBLEM = Problem(
    id="loci/trochoid",
    title="Trochoid",
    brief=(
        "Roll a circle of diameter {rolling_diameter} for {turns} turns along a line, in {divisions} divisions of a turn. "
        "Trace the point {tracing_radius} from its centre."
    ),
    givens=TracingOnLine,
    truth=truth,
    methods=(rolled_circle,),
    findings={"base_length": Kind.LENGTH, "kind": Kind.CHOICE},
    source="Roulettes: the rolled arc is as long as the base.",
    slips=(wrong_girth,),
)
