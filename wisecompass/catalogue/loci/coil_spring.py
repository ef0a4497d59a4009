"""Coil spring of round wire: the helix of its middle line with a wire circle at each point; the outlines are the parallel
curves at half the wire, for a tube is the envelope of its spheres."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import Number, atan2_deg, cos_deg, pi_times, sin_deg
from wisecompass.arithmetic.certified import bisected, enclosed_root
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
    last,
    length_of_turns,
    levels,
    seen_and_hidden,
    sense,
    show_in_space,
    tangent,
    views,
    wind,
)
from wisecompass.drafting import givens, marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import SHORTEST, Givens, at_least, at_most
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Chosen, Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.drafting.step import Instrument, Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class _Coil(Givens):
    mean_diameter: Number = givens.length("mean diameter", "48")
    wire: Number = givens.length("wire diameter", "6")
    lead: Number = givens.length("lead", "18")


@dataclass(frozen=True)
class Spring(Wound, _Coil):
    turns: Number = givens.ratio("turns", "2", Fraction(1, 24), Fraction(12))


def truth(g: Spring, number: Make) -> Truth:
    zero, height = number(0), g.lead * g.turns
    touching, figures = tangent(g, g.mean_diameter / 2, height)
    return Truth(
        points={"O": Point(zero, zero), **elevation(g, lambda k: g.mean_diameter / 2, height), **touching},
        findings={
            "wire_length": length_of_turns(g.mean_diameter, g.lead, g.turns),
            "helix_angle": atan2_deg(g.lead, pi_times(g.mean_diameter)),
            **figures,
        },
    )


@method("helix and wire circles", Exactness.EXACT_POINTS)
def helix_and_wire_circles(b: Board, g: Spring) -> None:
    radius, height = g.mean_diameter / 2, g.lead * g.turns
    with b.block("views"):
        axis, foot, top, middle = views(b, radius + g.wire / 2, height)
        circle = b.arc(middle, radius, whole=True, name="end view", why="half the mean diameter", pen=Pen.CENTRE)
        ends = end_view(b, g, circle)
        heights = levels(b, g, foot, top)
        begun = len(b.steps)
        wound = wind(b, g, axis, heights, ends)
        plotted = wound.points
        for at in plotted:
            b.arc(at, g.wire / 2, whole=True, why="half the wire")
        b.caution("The outlines touch the wire circles; they are not helices moved sideways.")
        b.fair_curve(lambda: _parallel(g, 0.0, Pen.CENTRE), plotted, "middle line")
        show_in_space(b, g, (radius, radius), height, begun)
        text = "French curve along the wire circles: line in both outlines"
        b.step("say", Instrument.CURVE, makes=["outlines"], text=text)
        if b.drawing:
            for away in (float(g.wire) / 2, -float(g.wire) / 2):
                for part, pen in _parallel(g, away):
                    b.put(marks.Curve, of=part, pen=pen, name="outline")
        draw_tangent(b, g, radius, (axis, middle), ends, wound)
        b.dimension(foot, top, offset=9, clear=radius)
    b.check("the middle line ends at the height of all turns", plotted[-1].y - foot.y - height)
    with b.wish("development"):
        girth = b.unless(outer_wound.name, reckoned_pi(g.mean_diameter), lambda: reckoned_pi(g.mean_diameter + g.wire))
        start, end, high, bend = develop(b, girth, g.lead + 0, "one turn", radius)
        with b.wish("centre of curvature"), b.block("views"):
            draw_centre(b, axis, middle, ends[chosen(g) % g.divisions], wound.levels[chosen(g)], bend)
        b.find("wire_length", plane.distance(start, high) * g.turns)
        b.find("helix_angle", plane.angle_at(start, end, high))
        b.check("the development rises as it should", plane.distance(end, high) - g.lead)


def _parallel(g: Spring, away: float, all_in: Pen | None = None) -> list[tuple[Parametric, Pen]]:
    """The curve parallel to the middle line: p + d·n, whose velocity is v·(1 - d·curvature)."""
    radius, rise = float(g.mean_diameter) / 2, float(g.lead) / (2 * math.pi)

    start, way = math.radians(float(g.start_angle)), sense(g)

    def place(t: float) -> tuple[float, float]:
        vx = -radius * way * math.sin(start + way * t)
        size = math.hypot(vx, rise)
        return radius * math.cos(start + way * t) - away * rise / size, rise * t + away * vx / size

    def velocity(t: float) -> tuple[float, float]:
        vx, ax = -radius * way * math.sin(start + way * t), -radius * math.cos(start + way * t)
        size = math.hypot(vx, rise)
        share = 1 - away * (-rise * ax) / (size * size * size)
        return vx * share, rise * share

    return [(part, all_in or pen) for part, pen in seen_and_hidden(g, place, velocity)]


@slip("the outer diameter wound instead of the mean one")
def outer_wound(g: Spring, number: Make) -> dict[str, Number]:
    outer = g.mean_diameter + g.wire
    return {"wire_length": length_of_turns(outer, g.lead, g.turns), "helix_angle": atan2_deg(g.lead, pi_times(outer))}


PLACES = 400
"""So many places of the second half of a turn are looked at for the one nearest to where the turn began."""


def _next_turn(g: Spring) -> Number:
    """The squared least distance of the middle line from its next turn, which is less than the lead: of
    D²(1 - cos 2πu)/2 + lead²u², u the share of a turn between two places, the minimum beyond half a turn. A steep spring
    only moves away from itself; one that ends before that place is nearest at its ends."""
    diameter, lead, turns = (float(each) for each in (g.mean_diameter, g.lead, g.turns))

    def slope(u: float) -> float:
        return math.pi * diameter * diameter * math.sin(2 * math.pi * u) + 2 * lead * lead * u

    places = [0.5 + k / (2 * PLACES) for k in range(PLACES + 1)]
    nearing = [u for u in places if slope(u) < 0]
    if not nearing or turns <= nearing[0]:
        return g.mean_diameter * g.mean_diameter + g.lead * g.lead  # farther than any wire that bends round the axis
    near = bisected(slope, nearing[-1], nearing[-1] + 0.5 / PLACES)
    if turns < near:
        share = g.turns + 0
    else:
        share = enclosed_root(
            near,
            lambda u: pi_times(g.mean_diameter * g.mean_diameter * sin_deg(360 * u)) + 2 * g.lead * g.lead * u,
            lambda u: 2 * pi_times(pi_times(g.mean_diameter * g.mean_diameter * cos_deg(360 * u))) + 2 * g.lead * g.lead,
        )
    return g.mean_diameter * g.mean_diameter * (1 - cos_deg(360 * share)) / 2 + g.lead * g.lead * share * share


def _thinner(g: Spring, limit: Number) -> dict[str, str]:
    """Half of what there is room for; where no wire is as thin as that, also a wider spring."""
    if float(limit) >= 2 * float(SHORTEST):
        return {"wire": at_most(float(limit) / 2, 6)}
    return {"wire": at_least(SHORTEST), "lead": at_least(4 * SHORTEST), "mean_diameter": at_least(4 * SHORTEST)}


PROBLEM = Problem(
    id="loci/coil-spring",
    title="Coil spring",
    brief=(
        "Draw a coil spring, {hand} hand, of mean diameter {mean_diameter}, wire {wire} and lead {lead}, in {divisions} "
        "divisions of a turn beginning at {start_angle}; number of turns {turns}. Draw the tangent of its middle line at "
        "division {chosen}."
    ),
    givens=Spring,
    truth=truth,
    methods=(helix_and_wire_circles,),
    findings={
        "wire_length": Kind.LENGTH,
        "helix_angle": Kind.ANGLE,
        "tangent_angle": Kind.ANGLE,
        "curvature_radius": Kind.LENGTH,
    },
    source="A tube is the envelope of its spheres; the middle line is a helix.",
    conditions=(
        Condition(
            "coils that do not lie in each other",
            lambda g: _next_turn(g) - g.wire * g.wire,
            "a wire of {wire} does not fit between turns of lead {lead}, which are nearer to each other than that, "
            "being slanted",
            ("wire", "lead"),
            lambda g: _thinner(g, g.lead),
        ),
        Condition(
            "a wire that bends round the axis",
            lambda g: g.mean_diameter - g.wire,
            "a wire of {wire} does not leave room inside a mean diameter of {mean_diameter}",
            ("wire", "mean_diameter"),
            lambda g: _thinner(g, g.mean_diameter),
            strict=True,
        ),
        *conditions(),
    ),
    slips=(outer_wound,),
    cautions=("What a spring carries is for a qualified person to design; this is its geometry.",),
    beforehand=counts,
    chosen=Chosen("chosen", "P{}", last, "views"),
)
