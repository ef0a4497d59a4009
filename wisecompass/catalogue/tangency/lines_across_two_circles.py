"""Common tangents that cross between two circles, as a crossed belt runs: by the circle of the sum of the radii."""

from __future__ import annotations

from wisecompass.arithmetic import Number
from wisecompass.catalogue.tangency.common_tangents import (
    FINDINGS,
    SUBTRACTED,
    TwoCircles,
    draw_tangents,
    truth_of,
    with_wrong_helper,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import LONGEST, at_least, at_most
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip


def truth(g: TwoCircles, number: Make) -> Truth:
    return truth_of(g, number(0), across=True)


@method("sum circle", Exactness.EXACT)
def sum_circle(b: Board, g: TwoCircles) -> None:
    draw_tangents(b, g, across=True)


@slip(SUBTRACTED)
def subtracted(g: TwoCircles, number: Make) -> dict[str, Number]:
    return {"tangent_length": with_wrong_helper(g, across=True)}


def _nearest(g: TwoCircles) -> dict[str, str]:
    total = g.radius_1 + g.radius_2
    if float(total) <= LONGEST:
        return {"distance": at_least(total)}
    return {"distance": at_most(LONGEST), "radius_1": at_most(LONGEST / 2), "radius_2": at_most(LONGEST / 2)}


PROBLEM = Problem(
    id="tangency/lines-across-two-circles",
    title="Tangents across two circles",
    brief="Draw the tangents that cross between circles of radius {radius_1} and {radius_2}, centres {distance} apart.",
    givens=TwoCircles,
    truth=truth,
    methods=(sum_circle,),
    findings=FINDINGS,
    source="Euclid III.17 on the circle of the sum of the radii.",
    conditions=(
        Condition(
            "circles that do not overlap",
            lambda g: g.distance - g.radius_1 - g.radius_2,
            "with centres {distance} apart circles of radius {radius_1} and {radius_2} overlap: no tangent passes between",
            ("distance", "radius_1", "radius_2"),
            _nearest,
        ),
    ),
    slips=(subtracted,),
)
