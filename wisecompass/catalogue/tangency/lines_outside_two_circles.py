"""Outside common tangents of two circles, as an open belt runs: by the circle of the difference of the radii."""

from __future__ import annotations

from wisecompass.arithmetic import Number, absolute
from wisecompass.catalogue.tangency.common_tangents import (
    ADDED,
    FINDINGS,
    TwoCircles,
    draw_tangents,
    truth_of,
    with_wrong_helper,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import at_least
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip


def truth(g: TwoCircles, number: Make) -> Truth:
    return truth_of(g, number(0), across=False)


@method("difference circle", Exactness.EXACT)
def difference_circle(b: Board, g: TwoCircles) -> None:
    draw_tangents(b, g, across=False)


@slip(ADDED)
def added(g: TwoCircles, number: Make) -> dict[str, Number]:
    return {"tangent_length": with_wrong_helper(g, across=False)}


PROBLEM = Problem(
    id="tangency/lines-outside-two-circles",
    title="Outside tangents of two circles",
    brief="Draw the outside tangents of circles of radius {radius_1} and {radius_2} whose centres are {distance} apart.",
    givens=TwoCircles,
    truth=truth,
    methods=(difference_circle,),
    findings=FINDINGS,
    source="Euclid III.17 on the circle of the difference of the radii.",
    conditions=(
        Condition(
            "no circle inside the other",
            lambda g: g.distance - absolute(g.radius_1 - g.radius_2),
            "with centres {distance} apart one of the circles of radius {radius_1} and {radius_2} lies inside the other",
            ("distance", "radius_1", "radius_2"),
            lambda g: {"distance": at_least(abs(g.radius_1 - g.radius_2))},
        ),
    ),
    slips=(added,),
)
