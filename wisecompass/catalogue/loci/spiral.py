"""What the problems of the spiral of Archimedes share: its givens, and the curve r = r0 + c·angle."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import Number, pi_times, roughly
from wisecompass.drafting import givens
from wisecompass.drafting.givens import Givens, at_least, at_most
from wisecompass.drafting.problem import Condition
from wisecompass.drafting.setting import bare
from wisecompass.geometry.curves import Parametric


@dataclass(frozen=True)
class Spiral(Givens):
    inner_diameter: Number = givens.offset("inner diameter", "18", least=Fraction(0))
    outer_diameter: Number = givens.length("outer diameter", "96")
    turns: Number = givens.ratio("turns", "7/4", Fraction(1, 24), Fraction(12))
    direction: str = givens.choice("direction", "clockwise", "anticlockwise", default="anticlockwise")
    start_angle: Number = givens.angle("start", "90", least="0", most="360", limit_words="it must lie from 0° to 360°")
    divisions: int = givens.count("divisions of the circle", "12", 4, 72)


def way(g: Spiral) -> int:
    """1 anticlockwise, -1 clockwise."""
    return 1 if g.direction == "anticlockwise" else -1


def gap(g: Spiral) -> Number:
    """The radial room that the spiral grows through."""
    return (g.outer_diameter - g.inner_diameter) / 2


def spaces(g: Spiral) -> int:
    """Spaces of the gap: turns times divisions, a whole number by condition."""
    return max(1, round(roughly(bare(g.turns)) * g.divisions))


def counts(g: Spiral) -> str:
    """What is counted before the first step."""
    return f"{spaces(g)} spaces of the gap, {g.divisions} divisions of the circle."


def constant(g: Spiral) -> Number:
    """Growth of the radius for each radian, mm."""
    return gap(g) / pi_times(2 * g.turns)


def curve(g: Spiral) -> Parametric:
    """The whole spiral; the parameter is the angle turned, in radians."""
    start, turns, growth = math.radians(float(g.start_angle)), float(g.turns), float(constant(g))
    inner, sense = float(g.inner_diameter) / 2, way(g)

    def place(t: float) -> tuple[float, float]:
        radius, angle = inner + growth * t, start + sense * t
        return radius * math.cos(angle), radius * math.sin(angle)

    def velocity(t: float) -> tuple[float, float]:
        radius, angle = inner + growth * t, start + sense * t
        return (
            growth * math.cos(angle) - radius * sense * math.sin(angle),
            growth * math.sin(angle) + radius * sense * math.cos(angle),
        )

    return Parametric(place, velocity, 0.0, 2 * math.pi * turns, max(2, math.ceil(4 * turns)))


GROWS = Condition(
    "an outer diameter above the inner",
    lambda g: g.outer_diameter - g.inner_diameter,
    "an outer diameter of {outer_diameter} leaves no gap about an inner one of {inner_diameter}",
    ("outer_diameter", "inner_diameter"),
    lambda g: (
        {"outer_diameter": at_least(g.inner_diameter, above=True)}
        if float(g.inner_diameter) < float(givens.LONGEST)
        else {"inner_diameter": at_most(givens.LONGEST / 2), "outer_diameter": at_most(givens.LONGEST)}
    ),
    strict=True,
)


def whole_spaces() -> Condition:
    """Turns and divisions make a whole number of spaces."""

    def off(g: Any) -> Number:
        count = g.turns * g.divisions
        away: Number = count - max(1, round(float(count)))
        return -away.__abs__()

    def nearest(g: Any) -> dict[str, str]:
        count = max(1, round(float(g.turns * g.divisions)))
        return {"turns": f"{count}/{g.divisions}"}

    return Condition(
        "a whole number of spaces",
        off,
        "{turns} turns do not end on one of the {divisions} divisions",
        ("turns", "divisions"),
        nearest,
    )
