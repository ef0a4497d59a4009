"""Conical helix in its two views: the radius at each level is taken from the cone's side to the end view."""

from __future__ import annotations

import math
from dataclasses import dataclass

from wisecompass.arithmetic import Number, log, pi_times, root
from wisecompass.catalogue.loci.winding import elevation, levels, seen_and_hidden, spaces, turns, views, whole_divisions
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class OnCone(Givens):
    base_diameter: Number = givens.length("base diameter", "84")
    height: Number = givens.length("height", "77")
    turns: Number = turns("2")
    divisions: int = givens.count("divisions of a turn", "12", 8, 24)


def _length(g: OnCone) -> Number:
    """∫√(s² + w²u²) du from 0 to 1, s the cone's side and w = 2π·turns·radius: the closed form with arsinh."""
    radius = g.base_diameter / 2
    side = root(radius * radius + g.height * g.height)
    wound = pi_times(2 * g.turns * radius)
    whole = root(side * side + wound * wound)
    return (whole + side * side / wound * log((wound + whole) / side)) / 2


def truth(g: OnCone, number: Make) -> Truth:
    zero, radius, count = number(0), g.base_diameter / 2, spaces(g)
    points = elevation(g, lambda k: radius * (count - k) / count, g.height + 0)
    return Truth(points={"O": Point(zero, zero), **points}, findings={"length": _length(g)})


@method("end view and projected divisions", Exactness.EXACT_POINTS)
def projected_divisions(b: Board, g: OnCone) -> None:
    radius, n = g.base_diameter / 2, g.divisions
    axis, foot, top, middle = views(b, radius, g.height + 0)
    base = b.level_line(foot, "base")
    right = b.lay_off(base, foot, radius, "B", why="half the base diameter")
    left = b.lay_off(base, foot, radius, "A", back=True, why="half the base diameter")
    side = b.line(right, top, "side of the cone")
    b.line_in((left, right), (left, top), (right, top), why="the cone")
    b.arc(middle, radius, whole=True, name="end view", why="the base", pen=Pen.GIVEN)
    level_axis = b.level_line(middle, "axis of the end view", pen=Pen.CENTRE)
    heights = levels(b, g, foot, top)
    plotted = [b.mark_point(right.named("P0"))]
    for k, height in enumerate(heights[1:-1], 1):
        level = b.parallel(base, height, f"level {k}")
        reach = plane.distance(height, b.meet(level, side))
        ray = b.protract(level_axis, middle, b.number(360) * k / n, f"ray {k}", why=f"{k} divisions of the end view")
        b.caution("The radius is taken at the level in hand: it shrinks with every division.")
        swung = b.arc(middle, reach, taken=f"the radius at level {k}", why="across the ray")
        seen = b.meet(swung, ray, plane.beyond(ray), f"p {k}")
        plotted.append(b.meet(b.parallel(axis, seen, f"projector {k}"), level, name=f"P{k}"))
    plotted.append(b.mark_point(top.named(f"P{spaces(g)}")))
    b.plot(*plotted)
    b.fair_curve(lambda: _parts(g), plotted, "conical helix")
    b.dimension(foot, top, offset=9, clear=radius)
    b.dimension(left, right, offset=-9)
    b.check("the last point is the tip", plane.distance(plotted[-1], top))


def _parts(g: OnCone) -> list[tuple[Parametric, Pen]]:
    radius, height, end = float(g.base_diameter) / 2, float(g.height), 2 * math.pi * float(g.turns)

    def place(t: float) -> tuple[float, float]:
        return radius * (1 - t / end) * math.cos(t), height * t / end

    def velocity(t: float) -> tuple[float, float]:
        return -radius * (1 - t / end) * math.sin(t) - radius / end * math.cos(t), height / end

    return seen_and_hidden(g, place, velocity)


@slip("the base radius kept at every level: a helix on a cylinder")
def kept_radius(g: OnCone, number: Make) -> dict[str, Number]:
    girth = pi_times(g.base_diameter * g.turns)
    return {"length": root(girth * girth + g.height * g.height)}


PROBLEM = Problem(
    id="loci/conical-helix",
    title="Conical helix",
    brief=(
        "Draw a helix of {turns} turns on a cone of base diameter {base_diameter} and height {height}, in {divisions} "
        "divisions of a turn."
    ),
    givens=OnCone,
    truth=truth,
    methods=(projected_divisions,),
    findings={"length": Kind.LENGTH},
    source="Pappus IV; length in closed form.",
    conditions=(whole_divisions(),),
    slips=(kept_radius,),
)
