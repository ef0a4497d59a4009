"""Hypotrochoid: a point carried by a circle that rolls inside a base circle."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute
from wisecompass.catalogue.loci.rolling import (
    INSIDE,
    BaseAndRolling,
    CircleRolling,
    circle_points,
    draw_rolled,
    must_roll,
    not_far_round,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind


@dataclass(frozen=True)
class TracingOnCircle(BaseAndRolling):
    tracing_radius: Number = givens.length("tracing radius", "8")


def _rolling(g: TracingOnCircle) -> CircleRolling:
    return CircleRolling(g.base_diameter / 2, g.rolling_diameter / 2, g.tracing_radius, INSIDE, g.divisions)


def truth(g: TracingOnCircle, number: Make) -> Truth:
    rolling = _rolling(g)
    return Truth(points=circle_points(rolling, number), findings={"sector_angle": rolling.sector})


@method("rolled circle", Exactness.EXACT_POINTS)
def rolled_circle(b: Board, g: TracingOnCircle) -> None:
    draw_rolled(b, _rolling(g), "hypotrochoid")


@slip("the rolled girth stepped off on the path of the centre instead of on the base circle")
def on_the_path(g: TracingOnCircle, number: Make) -> dict[str, Number]:
    rolling = _rolling(g)
    return {"sector_angle": rolling.sector * rolling.base / absolute(rolling.path)}


PROBLEM = Problem(
    id="loci/hypotrochoid",
    title="Hypotrochoid",
    brief=(
        "Roll a circle of diameter {rolling_diameter} once inside a base circle of diameter {base_diameter}, in {divisions} "
        "divisions. Trace the point {tracing_radius} from its centre."
    ),
    givens=TracingOnCircle,
    truth=truth,
    methods=(rolled_circle,),
    findings={"sector_angle": Kind.ANGLE},
    source="Roulettes: equal arcs roll off on both circles.",
    conditions=(
        must_roll(),
        not_far_round(3),
    ),
    slips=(on_the_path,),
)
