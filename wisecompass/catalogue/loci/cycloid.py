"""Cycloid of a point on a rolling circle, with its tangent and normal by the instant centre (Roberval, Descartes)."""

from __future__ import annotations

from wisecompass.arithmetic import Number, pi_times
from wisecompass.catalogue.loci.rolling_on_line import (
    THIRTEEN,
    THREE_DIAMETERS,
    Rolled,
    RollingOnLine,
    counts_on_line,
    line_in_rolled,
    points,
    roll,
    roll_by_levels,
    tangent_findings,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Chosen, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane


def truth(g: RollingOnLine, number: Make) -> Truth:
    radius = g.rolling_diameter / 2
    return Truth(
        points=points(g, radius, number),
        findings={
            "base_length": pi_times(g.rolling_diameter * g.turns),
            "arc_length": 4 * g.rolling_diameter * g.turns,
            "area": pi_times(3 * radius * radius * g.turns),
            **tangent_findings(g, radius),
        },
    )


@method("rolled circle", Exactness.EXACT_POINTS)
def rolled_circle(b: Board, g: RollingOnLine) -> None:
    _finish(b, g, roll(b, g, g.rolling_diameter / 2))


@method("levels and rolling radius", Exactness.EXACT_POINTS)
def levels_and_rolling_radius(b: Board, g: RollingOnLine) -> None:
    _finish(b, g, roll_by_levels(b, g))


def _finish(b: Board, g: RollingOnLine, rolled: Rolled) -> None:
    line_in_rolled(b, g, rolled, g.rolling_diameter / 2, "cycloid")
    half = rolled.plotted[g.divisions // 2]
    if g.divisions % 2 == 0:
        b.check("half way the point stands one diameter over the base", half.y - rolled.start.y - g.rolling_diameter)
    b.check("after each turn the point is on the base again", rolled.plotted[g.divisions].y - rolled.start.y)
    radius = plane.distance(rolled.start, rolled.first)
    b.find("arc_length", 8 * radius * g.turns)
    b.find("area", pi_times(3 * radius * radius * g.turns))


@slip(THREE_DIAMETERS)
def three_diameters(g: RollingOnLine, number: Make) -> dict[str, Number]:
    return {"base_length": 3 * g.rolling_diameter * g.turns}


@slip(THIRTEEN)
def one_too_many(g: RollingOnLine, number: Make) -> dict[str, Number]:
    return {"base_length": pi_times(g.rolling_diameter * g.turns) * (g.divisions * g.turns + 1) / (g.divisions * g.turns)}


PROBLEM = Problem(
    id="loci/cycloid",
    title="Cycloid",
    brief=(
        "Roll a circle of diameter {rolling_diameter} to the {direction} along a line, in {divisions} divisions of a turn; "
        "number of turns {turns}. Draw tangent and normal where it has turned {turned}."
    ),
    givens=RollingOnLine,
    truth=truth,
    methods=(rolled_circle, levels_and_rolling_radius),
    findings={
        "base_length": Kind.LENGTH,
        "arc_length": Kind.LENGTH,
        "area": Kind.AREA,
        "tangent_angle": Kind.ANGLE,
        "curvature_radius": Kind.LENGTH,
    },
    source="Arc of four diameters (Wren), area of three circles (Roberval), curvature by the instant centre (Huygens).",
    slips=(three_diameters, one_too_many),
    beforehand=counts_on_line,
    chosen=Chosen("turned"),
)
