"""Helix in its two views, with its development: the right triangle whose slope is the helix angle."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, atan2_deg, pi_times, sin_deg
from wisecompass.catalogue.loci.winding import (
    Wound,
    chosen,
    conditions,
    counts,
    develop,
    draw_centre,
    draw_tangent,
    elevation,
    end_view,
    fair_helix,
    last,
    length_of_turns,
    levels,
    sense,
    show_in_space,
    spaces,
    tangent,
    turned,
    views,
    wind,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Chosen, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class _Cylinder(Givens):
    diameter: Number = givens.length("diameter", "68")
    lead: Number = givens.length("lead", "88")


@dataclass(frozen=True)
class Winding(Wound, _Cylinder):
    """Windings about a cylinder."""


def truth(g: Winding, number: Make) -> Truth:
    zero, radius, height = number(0), g.diameter / 2, g.lead * g.turns
    girth = pi_times(g.diameter * g.turns)
    touching, figures = tangent(g, radius, height)
    return Truth(
        points={
            "O": Point(zero, zero),
            **elevation(g, lambda k: radius, height),
            "D": Point(zero, zero),
            "E": Point(girth, zero),
            "F": Point(girth, height),
            **touching,
        },
        findings={
            "helix_angle": atan2_deg(g.lead, pi_times(g.diameter)),
            "length_per_turn": length_of_turns(g.diameter, g.lead, number(1)),
            "length": length_of_turns(g.diameter, g.lead, g.turns),
            "height": height,
            **figures,
        },
    )


@method("end view and projected divisions", Exactness.EXACT_POINTS)
def projected_divisions(b: Board, g: Winding) -> None:
    if b.slips(other_hand.name):
        g = g.otherwise(hand="left" if g.hand == "right" else "right")
    radius, height = g.diameter / 2, g.lead * g.turns
    with b.block("views"):
        axis, foot, top, middle = views(b, radius, height)
        circle = b.arc(middle, radius, whole=True, name="end view", why="half the diameter", pen=Pen.GIVEN)
        ends = end_view(b, g, circle)
        heights = levels(b, g, foot, top)
        if b.slips(one_too_many.name):
            names = [f"h {b.nth(k)}" for k in range(1, spaces(g) + 1)]
            heights = [foot, *b.divide(foot, top, spaces(g) + 1, names)]
        begun = len(b.steps)
        wound = wind(b, g, axis, heights, ends)
        b.caution(f"A {g.hand}-hand helix: seen from above it rises {'anti' if g.hand == 'right' else ''}clockwise.")
        fair_helix(b, g, g.diameter, g.lead, wound.points)
        show_in_space(b, g, (radius, radius), height, begun)
        draw_tangent(b, g, radius, (axis, middle), ends, wound)
        b.dimension(foot, top, offset=9, clear=radius)
    b.find("height", plane.distance(foot, heights[-1]))
    b.check("the helix ends at the height of all turns", wound.points[-1].y - foot.y - height)
    with b.wish("development"):
        turns = g.turns
        if g.decide(lambda h: h.turns - 1) > 0 and b.slips(zero_for_the_last.name):
            turns = turns - 1
            height = g.lead * turns
            b.find("height", height)
        girth = b.unless(three_diameters.name, reckoned_pi(g.diameter * turns), lambda: g.diameter * turns * 3)
        start, end, high, bend = develop(b, girth, height, radius=radius)
        with b.wish("centre of curvature"), b.block("views"):
            draw_centre(b, axis, middle, ends[chosen(g) % g.divisions], wound.levels[chosen(g)], bend)
        b.find("helix_angle", plane.angle_at(start, end, high))
        b.find("length", plane.distance(start, high))
        b.find("length_per_turn", plane.distance(start, high) / g.turns)
        b.check("the development rises as it should", plane.distance(end, high) - plane.distance(foot, top))


@slip("three diameters taken for the girth in the development")
def three_diameters(g: Winding, number: Make) -> dict[str, Number]:
    return {"helix_angle": atan2_deg(g.lead, 3 * g.diameter)}


@slip("the height divided into one space too many: marks counted for spaces")
def one_too_many(g: Winding, number: Make) -> dict[str, Number]:
    return {"height": g.lead * g.turns * spaces(g) / (spaces(g) + 1)}


@slip("wound left hand for right, or right for left")
def other_hand(g: Winding, number: Make) -> dict[str, Number]:
    """The elevation of both hands from the right is one line, seen and hidden changed over: in the end view the chosen
    division lies on the other side of the start."""
    mirrored = 2 * g.start_angle - turned(g, chosen(g))
    slope = atan2_deg(g.lead, pi_times(g.diameter) * sin_deg(mirrored) * sense(g))
    return {"tangent_angle": slope}


@slip("the last division numbered 0 again: a whole turn left out of the height")
def zero_for_the_last(g: Winding, number: Make) -> dict[str, Number]:
    if g.decide(lambda h: h.turns - 1) <= 0:
        return {}
    return {"height": g.lead * (g.turns - 1), "length": length_of_turns(g.diameter, g.lead, g.turns - 1)}


PROBLEM = Problem(
    id="loci/helix",
    title="Helix in two views",
    brief=(
        "Draw a helix, {hand} hand, of diameter {diameter} and lead {lead}, in {divisions} divisions of a turn beginning at "
        "{start_angle}; number of turns {turns}. Unroll it, and draw its tangent at division {chosen}."
    ),
    givens=Winding,
    truth=truth,
    methods=(projected_divisions,),
    findings={
        "helix_angle": Kind.ANGLE,
        "length_per_turn": Kind.LENGTH,
        "length": Kind.LENGTH,
        "height": Kind.LENGTH,
        "tangent_angle": Kind.ANGLE,
        "curvature_radius": Kind.LENGTH,
    },
    source="The mantle unrolled: the helix is the slope of a right triangle on girth and lead.",
    conditions=conditions(),
    slips=(three_diameters, one_too_many, other_hand, zero_for_the_last),
    cautions=("A dimension from this sheet is geometry; stairs answer to local codes and a licensed engineer.",),
    beforehand=counts,
    chosen=Chosen("chosen", "P{}", last, "views"),
)
