"""Hypocycloid: a point on the rim of a circle that rolls inside a base circle."""

from __future__ import annotations

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
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind


def _rolling(g: BaseAndRolling) -> CircleRolling:
    return CircleRolling(g.base_diameter / 2, g.rolling_diameter / 2, g.rolling_diameter / 2, INSIDE, g.divisions)


def truth(g: BaseAndRolling, number: Make) -> Truth:
    rolling = _rolling(g)
    return Truth(
        points=circle_points(rolling, number),
        findings={"sector_angle": rolling.sector, "arc_length": 8 * rolling.radius * absolute(rolling.path) / rolling.base},
    )


@method("rolled circle", Exactness.EXACT_POINTS)
def rolled_circle(b: Board, g: BaseAndRolling) -> None:
    draw_rolled(b, _rolling(g), "hypocycloid")


@slip("the rolled girth stepped off on the path of the centre instead of on the base circle")
def on_the_path(g: BaseAndRolling, number: Make) -> dict[str, Number]:
    rolling = _rolling(g)
    return {"sector_angle": rolling.sector * rolling.base / absolute(rolling.path)}


PROBLEM = Problem(
    id="loci/hypocycloid",
    title="Hypocycloid",
    brief=(
        "Roll a circle of diameter {rolling_diameter} once inside a base circle of diameter {base_diameter}, in {divisions} "
        "divisions."
    ),
    givens=BaseAndRolling,
    truth=truth,
    methods=(rolled_circle,),
    findings={"sector_angle": Kind.ANGLE, "arc_length": Kind.LENGTH},
    source="Arc of 8R(B - R)/B (Newton, Principia I.49).",
    conditions=(
        must_roll(),
        not_far_round(3),
    ),
    slips=(on_the_path,),
)
