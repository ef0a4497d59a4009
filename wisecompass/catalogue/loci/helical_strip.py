"""Helical strip between two helices of one lead, each with its own development; what lies behind the axis is dashed."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import Number, atan2_deg, pi_times
from wisecompass.catalogue.loci.winding import (
    Windings,
    Wound,
    across_levels,
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
    show_in_space,
    tangent,
    views,
    wind,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import SHORTEST, Givens, at_least, at_most
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Chosen, Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class _Ring(Givens):
    outer_diameter: Number = givens.length("outer diameter", "76")
    inner_diameter: Number = givens.length("inner diameter", "34")
    lead: Number = givens.length("lead", "88")


@dataclass(frozen=True)
class Strip(Wound, _Ring):
    turns: Number = givens.ratio("turns", "1", Fraction(1, 24), Fraction(12))


def _girth(g: Strip, diameter: Number) -> Number:
    girth: Number = reckoned_pi(diameter * g.turns)
    return girth


def truth(g: Strip, number: Make) -> Truth:
    zero, height = number(0), g.lead * g.turns
    points = {"O": Point(zero, zero)}
    points |= elevation(g, lambda k: g.outer_diameter / 2, height)
    points |= elevation(g, lambda k: g.inner_diameter / 2, height, "Q")
    touching, figures = tangent(g, g.outer_diameter / 2, height)
    return Truth(
        points=points | touching,
        findings={
            "outer_length": length_of_turns(g.outer_diameter, g.lead, g.turns),
            "inner_length": length_of_turns(g.inner_diameter, g.lead, g.turns),
            "outer_angle": atan2_deg(g.lead, pi_times(g.outer_diameter)),
            "inner_angle": atan2_deg(g.lead, pi_times(g.inner_diameter)),
            **figures,
        },
    )


@method("two helices", Exactness.EXACT_POINTS)
def two_helices(b: Board, g: Strip) -> None:
    height = g.lead * g.turns
    with b.block("views"):
        axis, foot, top, middle = views(b, g.outer_diameter / 2, height)
        heights = levels(b, g, foot, top)
        across = across_levels(b, heights)
        wound: dict[str, list[Point]] = {}
        windings: dict[str, Windings] = {}
        ends: dict[str, list[Point]] = {}
        for prefix, name, diameter in (("P", "outer", g.outer_diameter), ("Q", "inner", g.inner_diameter)):
            radius = diameter / 2
            circle = b.arc(middle, radius, whole=True, name=f"{name} end view", why="half the diameter", pen=Pen.GIVEN)
            ends[prefix] = end_view(b, g, circle, "d" if prefix == "P" else "e ")
            begun = len(b.steps)
            windings[prefix] = wind(b, g, axis, heights, ends[prefix], prefix, across)
            wound[prefix] = windings[prefix].points
            fair_helix(b, g, diameter, g.lead, wound[prefix], f"{name} helix")
            show_in_space(b, g, (radius, radius), height, begun)
        b.caution("Both helices rise alike: like numbers lie on one level.")
        b.line_in(*zip(wound["Q"][:: len(wound["Q"]) - 1], wound["P"][:: len(wound["P"]) - 1], strict=True), why="the ends")
        draw_tangent(b, g, g.outer_diameter / 2, (axis, middle), ends["P"], windings["P"])
        b.dimension(foot, top, offset=9, clear=g.outer_diameter / 2)
    with b.wish("development"):
        for name, diameter in (("outer", g.outer_diameter), ("inner", g.inner_diameter)):
            outer = name == "outer"
            start, end, high, bend = develop(
                b,
                _girth(g, diameter),
                height,
                name,
                diameter / 2 if outer else None,
                ("D", "E", "F") if outer else ("G", "H", "J"),
            )
            if outer:
                with b.wish("centre of curvature"), b.block("views"):
                    draw_centre(b, axis, middle, ends["P"][chosen(g) % g.divisions], across[chosen(g)], bend)
            b.find(f"{name}_length", plane.distance(start, high))
            b.find(f"{name}_angle", plane.angle_at(start, end, high))
        b.misread(same_angle.name, lambda: {"inner_angle": b.findings["outer_angle"]})
    b.check("both helices end at the height of all turns", wound["P"][-1].y - foot.y - height)
    out, inwards = wound["P"][0].x - foot.x, wound["Q"][0].x - foot.x
    b.check("both helices begin on one ray", out * g.inner_diameter - inwards * g.outer_diameter, "mm²")


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
        "Draw a helical strip, {hand} hand, between diameters {outer_diameter} and {inner_diameter}, of lead {lead}, in "
        "{divisions} divisions of a turn beginning at {start_angle}; number of turns {turns}. Draw the tangent of its outer "
        "edge at division {chosen}."
    ),
    givens=Strip,
    truth=truth,
    methods=(two_helices,),
    findings={
        "outer_length": Kind.LENGTH,
        "inner_length": Kind.LENGTH,
        "outer_angle": Kind.ANGLE,
        "inner_angle": Kind.ANGLE,
        "tangent_angle": Kind.ANGLE,
        "curvature_radius": Kind.LENGTH,
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
        *conditions(),
    ),
    slips=(same_angle,),
    cautions=("A dimension from this sheet is geometry; stairs answer to local codes and a licensed engineer.",),
    beforehand=counts,
    chosen=Chosen("chosen", "P{}", last, "views"),
)
