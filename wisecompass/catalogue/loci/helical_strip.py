"""Helical strip between two helices of one lead, each with its own development; what lies behind the axis is dashed."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, atan2_deg, pi_times
from wisecompass.catalogue.loci.winding import (
    develop,
    elevation,
    end_view,
    hand,
    helix_place,
    length_of_turns,
    levels,
    seen_and_hidden,
    turns,
    views,
    whole_divisions,
    wind,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import SHORTEST, Givens, at_least, at_most
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class Strip(Givens):
    outer_diameter: Number = givens.length("outer diameter", "76")
    inner_diameter: Number = givens.length("inner diameter", "34")
    lead: Number = givens.length("lead", "88")
    turns: Number = turns("1")
    hand: str = hand()
    divisions: int = givens.count("divisions of a turn", "12", 8, 24)


def _girth(g: Strip, diameter: Number) -> Number:
    return pi_times(diameter * g.turns)


def truth(g: Strip, number: Make) -> Truth:
    zero, height = number(0), g.lead * g.turns
    points = {"O": Point(zero, zero)}
    points |= elevation(g, lambda k: g.outer_diameter / 2, height)
    points |= elevation(g, lambda k: g.inner_diameter / 2, height, "Q")
    return Truth(
        points=points,
        findings={
            "outer_length": length_of_turns(g.outer_diameter, g.lead, g.turns),
            "inner_length": length_of_turns(g.inner_diameter, g.lead, g.turns),
            "outer_angle": atan2_deg(g.lead, pi_times(g.outer_diameter)),
            "inner_angle": atan2_deg(g.lead, pi_times(g.inner_diameter)),
        },
    )


@method("two helices", Exactness.EXACT_POINTS)
def two_helices(b: Board, g: Strip) -> None:
    height = g.lead * g.turns
    with b.block("views"):
        axis, foot, top, middle = views(b, g.outer_diameter / 2, height)
        heights = levels(b, g, foot, top)
        wound = {}
        for prefix, name, diameter in (("P", "outer", g.outer_diameter), ("Q", "inner", g.inner_diameter)):
            radius = diameter / 2
            circle = b.arc(middle, radius, whole=True, name=f"{name} end view", why="half the diameter", pen=Pen.GIVEN)
            wound[prefix] = wind(b, g, axis, foot, heights, end_view(b, g, circle, "d" if prefix == "P" else "e "), prefix)
            place, velocity = helix_place(float(radius), float(g.lead)) if b.drawing else (None, None)
            b.fair_curve(
                lambda place=place, velocity=velocity: seen_and_hidden(g, place, velocity),  # type: ignore[misc]
                wound[prefix],
                f"{name} helix",
            )
        b.caution("Both helices rise alike: like numbers lie on one level.")
        b.line_in(*zip(wound["Q"][:: len(wound["Q"]) - 1], wound["P"][:: len(wound["P"]) - 1], strict=True), why="the ends")
        b.dimension(foot, top, offset=9, clear=g.outer_diameter / 2)
    for name, diameter in (("outer", g.outer_diameter), ("inner", g.inner_diameter)):
        start, end, high = develop(b, _girth(g, diameter), height, name)
        b.find(f"{name}_length", plane.distance(start, high))
        b.find(f"{name}_angle", plane.angle_at(start, end, high))
    b.check("both helices end on one level", wound["P"][-1].y - wound["Q"][-1].y)


@slip("the inner helix given the angle of the outer one")
def same_angle(g: Strip, number: Make) -> dict[str, Number]:
    return {"inner_angle": atan2_deg(g.lead, pi_times(g.outer_diameter))}


def _nearest(g: Strip) -> dict[str, str]:
    """Half the outer diameter inside; about the thinnest pole a wider strip."""
    if float(g.outer_diameter) >= 2 * float(SHORTEST):
        return {"inner_diameter": at_most(g.outer_diameter / 2, 6)}
    return {"inner_diameter": at_least(SHORTEST), "outer_diameter": at_least(2 * SHORTEST)}


PROBLEM = Problem(
    id="loci/helical-strip",
    title="Helical strip",
    brief=(
        "Draw a helical strip, {hand} hand, between diameters {outer_diameter} and {inner_diameter}, of lead {lead}, "
        "{turns} turns, in {divisions} divisions of a turn."
    ),
    givens=Strip,
    truth=truth,
    methods=(two_helices,),
    findings={
        "outer_length": Kind.LENGTH,
        "inner_length": Kind.LENGTH,
        "outer_angle": Kind.ANGLE,
        "inner_angle": Kind.ANGLE,
    },
    source="Two helices of one lead, each unrolled for itself.",
    conditions=(
        Condition(
            "an inner diameter below the outer",
            lambda g: g.outer_diameter - g.inner_diameter,
            "an inner diameter of {inner_diameter} leaves no strip within an outer one of {outer_diameter}",
            ("inner_diameter", "outer_diameter"),
            _nearest,
            strict=True,
        ),
        whole_divisions(),
    ),
    slips=(same_angle,),
    cautions=("A dimension from this sheet is geometry; stairs answer to local codes and a licensed engineer.",),
)
