"""Two pipes that meet: the main one upright, the branch at an angle, parallel to VP.

From the foot of the common perpendicular let x run to the right, y to the front from the main axis and z up. A point of the
branch stands at ψ on its rim, counted from the front up: y = e + r cos ψ; on the main pipe x = ±√(R² − y²), and along the
branch's generator z sin θ = x cos θ + r sin ψ.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import (
    PLAIN,
    Number,
    cos_deg,
    pi_times,
    root,
    roughly,
    sign_of,
    sin_deg,
)
from wisecompass.arithmetic.certified import bisected, enclosed_root
from wisecompass.drafting.givens import Givens, angle, at_most, choice, length, offset
from wisecompass.drafting.problem import Condition
from wisecompass.geometry.space import Point3

DIVISIONS = 12
"""Generators of the branch."""

SAMPLED = 1440
"""Places round the curve between which its highest one is looked for."""


@dataclass(frozen=True)
class Pipes(Givens):
    main_diameter: Number = length("diameter of the main pipe", "58")
    branch_diameter: Number = length("diameter of the branch", "38")
    angle: Number = angle("angle between the axes", "60", "10", "90")
    offset: Number = offset("offset of the axes, to the front", "5", least=Fraction(0))
    reach: str = choice("reach of the branch", "one side", "through")

    @property
    def through(self) -> bool:
        return self.reach == "through"

    @property
    def room(self) -> Number:
        """How far the main axis is in front of VP, mm."""
        return self.main_diameter * 3 / 4


@dataclass(frozen=True)
class Plain:
    """Radii, offset and the cosine and sine of the angle in floats."""

    big: float
    small: float
    offset: float
    c: float
    s: float

    def spot(self, turn: float, side: int) -> tuple[float, float]:
        """x and z of the curve at an angle in radians."""
        y = self.offset + self.small * math.cos(turn)
        x = side * math.sqrt(max(0.0, self.big**2 - y * y))
        return x, (x * self.c + self.small * math.sin(turn)) / self.s


def plainly(g: Pipes) -> Plain:
    h = g.bound_in(PLAIN)
    turn = math.radians(float(h.angle))
    return Plain(float(h.main_diameter) / 2, float(h.branch_diameter) / 2, float(h.offset), math.cos(turn), math.sin(turn))


def over(g: Pipes) -> int:
    """1 where a part of the branch passes before the main pipe, 0 where it just reaches its side, -1 where it is within."""
    return g.decide(lambda h: 2 * h.offset + h.branch_diameter - h.main_diameter)


def before(g: Pipes) -> bool:
    """Whether the axis of the branch passes before the main pipe."""
    return g.decide(lambda h: 2 * h.offset - h.main_diameter) > 0


def depth(g: Pipes, turn: Number) -> Number:
    """y of the branch's generator at an angle in degrees."""
    return g.offset + g.branch_diameter * cos_deg(turn) / 2


def at(g: Pipes, turn: Number, side: int = 1) -> Point3:
    """The point of the curve on a generator of the branch, on the right (1) or the left (-1) of the main axis."""
    y, big = depth(g, turn), g.main_diameter / 2
    x = root(big * big - y * y) * side
    return Point3(x, g.room + y, height(g, x, turn))


def height(g: Pipes, x: Number, turn: Number) -> Number:
    return (x * cos_deg(g.angle) + g.branch_diameter * sin_deg(turn) / 2) / sin_deg(g.angle)


def meets(g: Pipes, k: int) -> int:
    """1 where the branch's k-th generator meets the main pipe, 0 where it touches it, -1 where it passes before it."""

    def margin(h: Any) -> Number:
        y = depth(h, (h.main_diameter * 0 + 360) * k / DIVISIONS)
        room: Number = h.main_diameter - 2 * (y if sign_of(y) > 0 else -y)
        return room

    return g.decide(margin)


def highest(g: Pipes) -> tuple[Number, Number]:
    """The highest and the lowest place of all curves. What lies to the left is what lies to the right, turned half round."""
    if g.decide(lambda h: 90 - h.angle) == 0 and before(g):
        r, past = g.branch_diameter / 2, g.offset - g.main_diameter / 2
        top = root(r * r - past * past)  # at the front of the main pipe
        low = -top
    elif g.decide(lambda h: h.offset) == 0 or g.decide(lambda h: 90 - h.angle) == 0:
        turn = g.main_diameter * 0 + 90
        top, low = at(g, turn).above, at(g, -turn).above
    elif g.through:  # the one that is farther from the crossing lies to the right; the other one is it, turned half round
        top = low = _extreme(g, max((1, -1), key=lambda way: _farthest(plainly(g), way)[0]))
        low = -low
    else:
        top, low = _extreme(g, 1), -_extreme(g, -1)
    if not g.through:
        return top, low
    upper = max((top, -low), key=roughly)
    return upper, -upper


def _farthest(plain: Plain, way: int) -> tuple[float, float]:
    """The greatest height of sampled places to the right, or the greatest depth, times the sine of the angle; and where."""

    def value(turn: float) -> float:
        y = plain.offset + plain.small * math.cos(turn)
        x = math.sqrt(max(0.0, plain.big**2 - y * y))
        return way * (x * plain.c + plain.small * math.sin(turn))

    places = [math.tau * k / SAMPLED for k in range(SAMPLED)]
    best = max((t for t in places if plain.offset + plain.small * math.cos(t) < plain.big), key=value)
    return value(best), best


def _extreme(g: Pipes, way: int) -> Number:
    """The greatest height to the right of the main axis (-1: the greatest depth), where the curve runs level."""
    plain = plainly(g)
    most, best = _farthest(plain, way)
    if over(g) == 0 and most <= 0:
        return g.main_diameter * 0  # where the curve turns back at the side of the main pipe

    def rising(turn: float) -> float:
        y = plain.offset + plain.small * math.cos(turn)
        return way * (-plain.c * y * math.sin(turn) - math.sqrt(max(0.0, plain.big**2 - y * y)) * math.cos(turn))

    near = math.degrees(bisected(rising, best - math.tau / SAMPLED, best + math.tau / SAMPLED))
    if isinstance(g.main_diameter, float):
        return at(g, near).above * way
    r, big, c = g.branch_diameter / 2, g.main_diameter / 2, cos_deg(g.angle)

    def level(t: Number) -> Number:
        y = depth(g, t)
        return root(big * big - y * y) * cos_deg(t) + c * y * sin_deg(t)

    def steep(t: Number) -> Number:
        y = depth(g, t)
        x, fall = root(big * big - y * y), -r * sin_deg(t)
        turned = -y * fall / x * cos_deg(t) - x * sin_deg(t) + c * (fall * sin_deg(t) + y * cos_deg(t))
        return turned / _degrees(g)

    return at(g, enclosed_root(near, level, steep)).above * way


def _degrees(g: Pipes) -> Number:
    """Degrees in a radian."""
    return 180 / pi_times(g.main_diameter * 0 + 1)


CONDITIONS = (
    Condition(
        "the branch not wider than the main pipe",
        lambda g: g.main_diameter - g.branch_diameter,
        "a branch {branch_diameter} across is wider than the main pipe of {main_diameter}: take the wider one for main",
        ("branch_diameter", "main_diameter"),
        lambda g: {"branch_diameter": at_most(g.main_diameter, 6)},
    ),
    Condition(
        "a branch on one side within the main pipe",
        lambda g: g.main_diameter - g.branch_diameter - 2 * g.offset if g.reach == "one side" else g.main_diameter,
        "a branch {branch_diameter} across, {offset} off the axis, passes beside a main pipe {main_diameter} across: "
        "let it run through",
        ("offset", "branch_diameter", "reach"),
        lambda g: {"offset": at_most((g.main_diameter - g.branch_diameter) / 2, 6)},
    ),
    Condition(
        "the pipes meet",
        lambda g: g.main_diameter + g.branch_diameter - 2 * g.offset,
        "axes {offset} apart: the pipes miss each other, or just touch",
        ("offset", "main_diameter", "branch_diameter"),
        lambda g: {"offset": at_most((g.main_diameter + g.branch_diameter) * 49 / 100, 6)},
        strict=True,
    ),
)
