"""Logarithmic spiral: each radius is the one before times the ratio, found by similar triangles between two rays."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import Number, atan2_deg, cos_deg, log, pi_times, roughly, sin_deg
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Chosen, Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Settable, bare, reckoned, span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Line, Point

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
    direction: str = givens.choice("direction", "clockwise", "anticlockwise", default="anticlockwise")
    start_angle: Number = givens.angle("start", "0", least="0", most="360", limit_words="it must lie from 0° to 360°")
    chosen: int = givens.count("step for the tangent", "4", 0, MOST_STEPS)


def _steps(g: Growth) -> int:
    return max(1, round(360 * roughly(bare(g.turns)) / roughly(bare(g.step_angle))))


def _chosen(g: Growth) -> int:
    """The step for the tangent; beyond the last it is the last."""
    return min(g.chosen, _steps(g))


def _turned(g: Growth, k: int) -> Number:
    """Direction of the k-th radius, degrees."""
    return g.start_angle + g.step_angle * (k if g.direction == "anticlockwise" else -k)


def _power(g: Growth, k: int) -> Number:
    power = g.ratio / g.ratio
    for _ in range(k):
        power = power * g.ratio
    return power


def truth(g: Growth, number: Make) -> Truth:
    zero, count = number(0), _steps(g)
    points = {"O": Point(zero, zero)}
    for k in range(count + 1):
        radius, angle = g.first_radius * _power(g, k), _turned(g, k)
        points[f"P{k}"] = Point(radius * cos_deg(angle), radius * sin_deg(angle))
    slope = atan2_deg(pi_times(g.step_angle / 180), log(g.ratio))
    return Truth(
        points=points,
        findings={
            "last_radius": g.first_radius * _power(g, count),
            "tangent_angle_to_radius": slope,
            "curvature_radius": g.first_radius * _power(g, _chosen(g)) / sin_deg(slope),
        },
    )


@method("similar triangles", Exactness.EXACT_POINTS)
def similar_triangles(b: Board, g: Growth) -> None:
    count = _steps(g)
    radii = _ratio_diagram(b, g, count)
    if b.slips(added.name):
        start, growth = bare(radii[0]), bare(radii[1]) - bare(radii[0])
        radii = [start + growth * k for k in range(count + 1)]
    with b.block("spiral"):
        centre = b.point("O", b.number(0), b.number(0), why="the pole")
        level = b.level_line(centre, "level axis", pen=Pen.CENTRE)
        first = b.protract(level, centre, g.start_angle + 0, f"ray {b.nth(0)}", why="the start")
        steps = range(1, count + 1)
        rays = [b.protract(level, centre, _turned(g, k), f"ray {b.nth(k)}", why="one step on") for k in steps]
        plotted = [b.lay_off(first, centre, g.first_radius, b.numbered("P", 0), why="the first radius")]
        for k, ray in enumerate(rays, 1):
            swung = b.arc(centre, radii[k], why="carried from the diagram, across the ray")
            plotted.append(b.meet(swung, ray, plane.beyond(ray), b.numbered("P", k)))
        b.plot(*plotted)
        b.fair_curve(lambda: _curve(g), plotted, "spiral")
        with b.wish("tangent and normal"):
            _tangent(b, g, centre, plotted[_chosen(g)])
        b.dimension(centre, plotted[0], offset=-9)
    b.find("last_radius", plane.distance(centre, plotted[-1]))
    b.check(
        "the first step multiplies the radius by the ratio", plane.distance(centre, plotted[1]) - g.first_radius * g.ratio
    )
    b.check(
        "the last radius is the first times the ratio for each step",
        plane.distance(centre, plotted[-1]) - g.first_radius * _power(g, count),
    )
    if count >= 2:
        one, two = (plane.distance(centre, plotted[k]) for k in (1, 2))
        b.check("the second radius is the mean of the first and the third", one * one - g.first_radius * two, "mm²")


def _tangent(b: Board, g: Growth, centre: Point, at: Point) -> None:
    """One angle between radius and tangent serves all points: the angle of a step in radians over the logarithm of the
    ratio. The normal ends square beside the pole, and there lies the centre of curvature."""
    radius = Line.through(centre, at, f"radius of {at.name}")
    way = 1 if g.direction == "anticlockwise" else -1
    slope = atan2_deg(pi_times(bare(g.step_angle) / 180), log(g.ratio))
    steep = ("atan", ("/", ("*", ("log", "ratio"), 180), ("*", "pi", "step_angle")))
    reading = reckoned(slope, ("-", 90, steep))
    tangent = b.protract(radius, at, reading * way, "tangent", why="the one angle of this spiral, from the radius drawn on")
    b.caution("The same angle at every point: with ratio 1 it is 90° and the spiral a circle.")
    normal = b.square(tangent, at, "normal")
    bend = b.meet(b.square(radius, centre, "square at O"), normal, name="S")
    reach = plane.distance(centre, at) / 2
    b.line_in((at, bend), why="the normal")
    b.line_in_both_ways(at, tangent, reach)
    b.find("curvature_radius", plane.distance(at, bend))
    ahead = Point(at.x + tangent.dx, at.y + tangent.dy)
    outwards = Point(2 * at.x - centre.x, 2 * at.y - centre.y)
    b.find("tangent_angle_to_radius", plane.angle_at(at, outwards, ahead))


def _ratio_diagram(b: Board, g: Growth, count: int) -> list[Settable]:
    """Two rays from X: each new radius on the upper one is swung to the lower and a parallel drawn to the first slope."""
    with b.block("ratio diagram"):
        corner = b.point("X", b.number(0), b.number(0), why="the corner of the ratio diagram")
        low = b.level_line(corner, "lower ray")
        high = b.set_square_line(corner, 30, "upper ray")
        first = b.lay_off(low, corner, g.first_radius, b.numbered("", 0), why="the first radius")
        at = b.lay_off(high, corner, g.first_radius * g.ratio, b.numbered("", 1), why="the first radius times the ratio")
        slope = b.line(first, at, "slope")
        b.caution("Every parallel begins where the last radius was swung to, not where it was found.")
        radii = [g.first_radius + 0, span(corner, at)]
        for k in range(2, count + 1):
            swung = b.arc(corner, radii[-1], why="down to the lower ray")
            b.touch(swung, at)
            place = b.meet(swung, low, plane.beyond(low), f"{b.nth(k - 1)}′")
            at = b.meet(b.parallel(slope, place, f"parallel {b.nth(k)}"), high, name=b.numbered("", k))
            radii.append(span(corner, at))
    return radii


def _curve(g: Growth) -> Parametric:
    first, growth = float(g.first_radius), math.log(float(g.ratio)) / math.radians(float(g.step_angle))

    start, way = math.radians(float(g.start_angle)), 1 if g.direction == "anticlockwise" else -1

    def place(t: float) -> tuple[float, float]:
        radius = first * math.exp(growth * t)
        return radius * math.cos(start + way * t), radius * math.sin(start + way * t)

    def velocity(t: float) -> tuple[float, float]:
        x, y = place(t)
        return growth * x - way * y, growth * y + way * x

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
        "Draw a logarithmic spiral {direction} from a first radius of {first_radius} at {start_angle}, each radius {ratio} "
        "times the one before it, {step_angle} on; number of turns {turns}. Draw its tangent at step {chosen}."
    ),
    givens=Growth,
    truth=truth,
    methods=(similar_triangles,),
    findings={
        "last_radius": Kind.LENGTH,
        "tangent_angle_to_radius": Kind.ANGLE,
        "curvature_radius": Kind.LENGTH,
    },
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
    beforehand=lambda g: f"{_steps(g)} steps of the diagram and of the rays.",
    chosen=Chosen("chosen", "P{}", lambda g: g.turns * 0 + _steps(g), "spiral"),
)
