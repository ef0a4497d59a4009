"""Epicycloid: a point on the rim of a circle that rolls on a base circle."""

from __future__ import annotations

from wisecompass.arithmetic import Number, absolute
from wisecompass.catalogue.loci.rolling import (
    OUTSIDE,
    BaseAndRolling,
    CircleRolling,
    circle_points,
    draw_rolled,
    not_far_round,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind


def _rolling(g: BaseAndRolling) -> CircleRolling:
    return CircleRolling(g.base_diameter / 2, g.rolling_diameter / 2, g.rolling_diameter / 2, OUTSIDE, g.divisions)


def truth(g: BaseAndRolling, number: Make) -> Truth:
    rolling = _rolling(g)
    return Truth(
        points=circle_points(rolling, number),
        findings={"sector_angle": rolling.sector, "arc_length": 8 * rolling.radius * absolute(rolling.path) / rolling.base},
    )


@method("rolled circle", Exactness.EXACT_POINTS)
def rolled_circle(b: Board, g: BaseAndRolling) -> None:
    draw_rolled(b, _rolling(g), "epicycloid")


@slip("the rolled girth stepped off on the path of the centre instead of on the base circle")
def on_the_path(g: BaseAndRolling, number: Make) -> dict[str, Number]:
    rolling = _rolling(g)
    return {"sector_angle": rolling.sector * rolling.base / absolute(rolling.path)}


PROBLEM = Problem(
    id="loci/epicycloid",
    title="Epicycloid",
    brief=(
        "Roll a circle of diameter {rolling_diameter} once on a base circle of diameter {base_diameter}, in {divisions} "
        "divisions."
    ),
    givens=BaseAndRolling,
    truth=truth,
    methods=(rolled_circle,),
    findings={"sector_angle": Kind.ANGLE, "arc_length": Kind.LENGTH},
    source="Arc of 8R(B + R)/B (Newton, Principia I.49).",
    conditions=(not_far_round(3),),
    slips=(on_the_path,),
)
