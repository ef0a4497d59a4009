"""Helix in its two views, with its development: the right triangle whose slope is the helix angle."""

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
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class Winding(Givens):
    diameter: Number = givens.length("diameter", "68")
    lead: Number = givens.length("lead", "88")
    turns: Number = turns("3/2")
    hand: str = hand()
    divisions: int = givens.count("divisions of a turn", "12", 8, 24)


def truth(g: Winding, number: Make) -> Truth:
    zero, radius, height = number(0), g.diameter / 2, g.lead * g.turns
    girth = pi_times(g.diameter * g.turns)
    return Truth(
        points={
            "O": Point(zero, zero),
            **elevation(g, lambda k: radius, height),
            "D": Point(zero, zero),
            "E": Point(girth, zero),
            "F": Point(girth, height),
        },
        findings={
            "helix_angle": atan2_deg(g.lead, pi_times(g.diameter)),
            "length_per_turn": length_of_turns(g.diameter, g.lead, number(1)),
            "length": length_of_turns(g.diameter, g.lead, g.turns),
            "height": height,
        },
    )


@method("end view and projected divisions", Exactness.EXACT_POINTS)
def projected_divisions(b: Board, g: Winding) -> None:
    radius, height = g.diameter / 2, g.lead * g.turns
    with b.block("views"):
        axis, foot, top, middle = views(b, radius, height)
        circle = b.arc(middle, radius, whole=True, name="end view", why="half the diameter", pen=Pen.GIVEN)
        ends = end_view(b, g, circle)
        plotted = wind(b, g, axis, foot, levels(b, g, foot, top), ends)
        b.caution(f"A {g.hand}-hand helix: seen from above it rises {'anti' if g.hand == 'right' else ''}clockwise.")
        place, velocity = helix_place(float(radius), float(g.lead)) if b.drawing else (None, None)
        b.fair_curve(lambda: seen_and_hidden(g, place, velocity), plotted, "helix")  # type: ignore[arg-type]
        b.dimension(foot, top, offset=9, clear=radius)
    start, end, high = develop(b, pi_times(g.diameter * g.turns), height)
    b.find("helix_angle", plane.angle_at(start, end, high))
    b.find("length", plane.distance(start, high))
    b.find("height", plane.distance(foot, top))
    b.check("the helix ends at the height of all turns", plotted[-1].y - foot.y - height)


@slip("three diameters taken for the girth in the development")
def three_diameters(g: Winding, number: Make) -> dict[str, Number]:
    return {"helix_angle": atan2_deg(g.lead, 3 * g.diameter)}


@slip("one division too many: thirteen marks for twelve spaces")
def one_too_many(g: Winding, number: Make) -> dict[str, Number]:
    return {"height": g.lead * g.turns * g.divisions / (g.divisions + 1)}


PROBLEM = Problem(
    id="loci/helix",
    title="Helix in two views",
    brief=(
        "Draw a helix, {hand} hand, of diameter {diameter} and lead {lead}, {turns} turns, in {divisions} divisions of a "
        "turn. Unroll it."
    ),
    givens=Winding,
    truth=truth,
    methods=(projected_divisions,),
    findings={
        "helix_angle": Kind.ANGLE,
        "length_per_turn": Kind.LENGTH,
        "length": Kind.LENGTH,
        "height": Kind.LENGTH,
    },
    source="The mantle unrolled: the helix is the slope of a right triangle on girth and lead.",
    conditions=(whole_divisions(),),
    slips=(three_diameters, one_too_many),
    cautions=("A dimension from this sheet is geometry; stairs answer to local codes and a licensed engineer.",),
)
