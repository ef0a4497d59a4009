"""Logarithmic spiral: each radius is the one before times the ratio, found by similar triangles between two rays."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, atan2_deg, cos_deg, log, pi_times, sin_deg
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Point

MOST_STEPS = 72
"""Each radius is found from the one before: more steps than these nobody's diagram would stand."""

LARGEST_GROWTH = 1000
"""The last radius is at most so many times the first, or the first the last."""


@dataclass(frozen=True)
class Growth(Givens):
    first_radius: Number = givens.length("first radius", "22")
    ratio: Number = givens.ratio("ratio of radii", "1.21", Fraction(1, 5), Fraction(5))
    step_angle: Number = givens.angle("angle of a step", "30", least="5", most="90")
    turns: Number = givens.ratio("turns", "1", Fraction(1, 4), Fraction(6))


def _steps(g: Growth) -> int:
    plain = g.bound_in(PLAIN)
    return max(1, round(360 * float(plain.turns) / float(plain.step_angle)))


def _power(g: Growth, k: int) -> Number:
    power = g.ratio / g.ratio
    for _ in range(k):
        power = power * g.ratio
    return power


def truth(g: Growth, number: Make) -> Truth:
    zero, count = number(0), _steps(g)
    points = {"O": Point(zero, zero)}
    for k in range(count + 1):
        radius, angle = g.first_radius * _power(g, k), g.step_angle * k
        points[f"P{k}"] = Point(radius * cos_deg(angle), radius * sin_deg(angle))
    return Truth(
        points=points,
        findings={
            "last_radius": g.first_radius * _power(g, count),
            "tangent_angle_to_radius": atan2_deg(pi_times(g.step_angle / 180), log(g.ratio)),
        },
    )


@method("similar triangles", Exactness.EXACT_POINTS)
def similar_triangles(b: Board, g: Growth) -> None:
    count = _steps(g)
    radii = _ratio_diagram(b, g, count)
    with b.block("spiral"):
        centre = b.point("O", b.number(0), b.number(0), why="the pole")
        level = b.level_line(centre, "first ray", pen=Pen.CENTRE)
        plotted = [b.lay_off(level, centre, g.first_radius, "P0", why="the first radius")]
        for k in range(1, count + 1):
            ray = b.protract(level, centre, g.step_angle * k, f"ray {k}", why="one step on")
            swung = b.arc(centre, radii[k], taken=f"X–{k} of the diagram", why="across the ray")
            plotted.append(b.meet(swung, ray, plane.beyond(ray), f"P{k}"))
        b.plot(*plotted)
        b.fair_curve(lambda: _curve(g), plotted, "spiral")
        b.dimension(centre, plotted[0], offset=-9)
    b.find("last_radius", plane.distance(centre, plotted[-1]))
    if count >= 2:
        one, two = (plane.distance(centre, plotted[k]) for k in (1, 2))
        b.check("the second radius is the mean of the first and the third", one * one - g.first_radius * two, "mm²")


def _ratio_diagram(b: Board, g: Growth, count: int) -> list[Number]:
    """Two rays from X: each new radius on the upper one is swung to the lower and a parallel drawn to the first slope."""
    with b.block("ratio diagram"):
        corner = b.point("X", b.number(0), b.number(0), why="the corner of the ratio diagram")
        low = b.level_line(corner, "lower ray")
        high = b.set_square_line(corner, 30, "upper ray")
        first = b.lay_off(low, corner, g.first_radius, "0", why="the first radius")
        at = b.lay_off(high, corner, g.first_radius * g.ratio, "1", why="the first radius times the ratio")
        slope = b.line(first, at, "slope")
        b.caution("Every parallel begins where the last radius was swung to, not where it was found.")
        radii = [g.first_radius + 0, plane.distance(corner, at)]
        for k in range(2, count + 1):
            swung = b.arc(corner, radii[-1], taken=f"X–{k - 1}", why="down to the lower ray")
            b.touch(swung, at)
            place = b.meet(swung, low, plane.beyond(low), f"{k - 1}′")
            at = b.meet(b.parallel(slope, place, f"parallel {k}"), high, name=str(k))
            radii.append(plane.distance(corner, at))
    return radii


def _curve(g: Growth) -> Parametric:
    first, growth = float(g.first_radius), math.log(float(g.ratio)) / math.radians(float(g.step_angle))

    def place(t: float) -> tuple[float, float]:
        radius = first * math.exp(growth * t)
        return radius * math.cos(t), radius * math.sin(t)

    def velocity(t: float) -> tuple[float, float]:
        x, y = place(t)
        return growth * x - y, growth * y + x

    end = math.radians(float(g.step_angle)) * _steps(g)
    return Parametric(place, velocity, 0.0, end, max(2, math.ceil(2 * end / math.pi)))


@slip("the growth of the first step added each time instead of multiplied")
def added(g: Growth, number: Make) -> dict[str, Number]:
    return {"last_radius": g.first_radius * (1 + (g.ratio - 1) * _steps(g))}


def _whole(g: Any) -> Number:
    count = max(1, round(float(360 * g.turns / g.step_angle)))
    away: Number = 360 * g.turns - g.step_angle * count
    return -away.__abs__()


def _limits(g: Growth) -> float:
    """Logarithm of the greatest growth, less that of these givens."""
    return math.log(LARGEST_GROWTH) - abs(math.log(float(g.ratio))) * 360 * float(g.turns) / float(g.step_angle)


PROBLEM = Problem(
    id="loci/logarithmic-spiral",
    title="Logarithmic spiral",
    brief=(
        "Draw a logarithmic spiral of {turns} turns from a first radius of {first_radius}, each radius {ratio} times the "
        "one before it, {step_angle} on."
    ),
    givens=Growth,
    truth=truth,
    methods=(similar_triangles,),
    findings={"last_radius": Kind.LENGTH, "tangent_angle_to_radius": Kind.ANGLE},
    source="Descartes to Mersenne, 1638: equal angles give proportional radii; Euclid VI.2.",
    conditions=(
        Condition(
            "a whole number of steps",
            _whole,
            "{turns} turns are not a whole number of steps of {step_angle}",
            ("turns", "step_angle"),
            lambda g: {"turns": str(Fraction(max(1, round(360 * g.turns / g.step_angle))) * Fraction(g.step_angle) / 360)},
        ),
        Condition(
            "no more steps than a drafter takes",
            lambda g: MOST_STEPS * g.step_angle - 360 * g.turns,
            f"{{turns}} turns in steps of {{step_angle}} are more than {MOST_STEPS} steps",
            ("turns", "step_angle"),
            lambda g: {"turns": str(Fraction(MOST_STEPS) * Fraction(g.step_angle) / 360)},
        ),
        Condition(
            "growth that a sheet can hold",
            lambda g: int(_limits(g) >= 0) - 1,
            "a ratio of {ratio} over {turns} turns grows or shrinks more than a thousandfold",
            ("ratio", "turns"),
            lambda g: {"ratio": "1"},
        ),
    ),
    slips=(added,),
)
