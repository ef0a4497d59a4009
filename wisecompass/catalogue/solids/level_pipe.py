"""A standing cone and a level pipe that goes into it, by their numbers.

With the pipe's rim at ψ, counted from the front up, a generator lies at y = e + r cos ψ and z = a + r sin ψ; there the
cone's radius is ρ = R (1 − z / h), and x = ±√(ρ² − y²).
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import (
    Number,
    acos_deg,
    asin_deg,
    cos_deg,
    hypot,
    larger,
    sign_of,
    sin_deg,
)
from wisecompass.drafting.givens import Givens, at_most, length, offset
from wisecompass.drafting.problem import Condition

DIVISIONS = 12
FIRST = (3, 9, 0, 6)
"""Generators whose points are found first: the highest and the lowest, the nearest to the drafter and the farthest."""


@dataclass(frozen=True)
class ConeAndPipe(Givens):
    base_diameter: Number = length("diameter of the cone's base", "84")
    height: Number = length("height of the cone", "77")
    pipe_diameter: Number = length("diameter of the pipe", "26")
    pipe_height: Number = length("height of the pipe's axis", "28")
    offset: Number = offset("offset of the axes, to the front", "0", least=Fraction(0))

    @property
    def room(self) -> Number:
        """How far the cone's axis is in front of VP, mm."""
        return self.base_diameter * 3 / 4 + self.offset


def place(g: ConeAndPipe, turn: Number) -> tuple[Number, Number]:
    """y and z of a generator of the pipe."""
    r = g.pipe_diameter / 2
    return g.offset + r * cos_deg(turn), g.pipe_height + r * sin_deg(turn)


def reach(g: ConeAndPipe, z: Number) -> Number:
    """The cone's radius at a height."""
    return g.base_diameter / 2 * (1 - z / g.height)


def meets(g: ConeAndPipe, k: int) -> int:
    """1 where the k-th generator goes through the cone, 0 where it touches it, -1 where it passes it."""

    def margin(h: Any) -> Number:
        y, z = place(h, (h.height * 0 + 360) * k / DIVISIONS)
        return (reach(h, z) - y) if sign_of(y) > 0 else reach(h, z) + y

    return g.decide(margin)


def found_in_order(g: ConeAndPipe) -> list[int]:
    """The generators that meet the cone, the outermost first."""
    return [k for k in (*FIRST, *(k for k in range(DIVISIONS) if k not in FIRST)) if meets(g, k) >= 0]


def edge(h: ConeAndPipe) -> Number:
    """How far the pipe's rim stays within the cone's side, seen along the pipe, times something: above zero where all of it
    goes through, so that there are two curves."""
    lean = hypot(h.base_diameter / 2, h.height)
    return h.base_diameter / 2 * (h.height - h.pipe_height) - h.offset * h.height - h.pipe_diameter / 2 * lean


def is_through(g: ConeAndPipe) -> bool:
    """Whether every generator of the pipe goes through the cone."""
    return g.decide(edge) >= 0


def turns(g: ConeAndPipe) -> tuple[Number, Number]:
    """The directions on the pipe's rim between which it passes before the cone's side, degrees: there generators touch it.

    y = ρ reads e + r cos ψ = R − (R / h) (a + r sin ψ), so cos(ψ − δ) = distance of the axis from the side over r.
    """
    lean = hypot(g.base_diameter / 2, g.height)
    away = (g.base_diameter / 2 * (g.height - g.pipe_height) - g.offset * g.height) / lean
    tilt = asin_deg(g.base_diameter / 2 / lean)
    half = acos_deg(away / (g.pipe_diameter / 2))
    return tilt - half, tilt + half


def lies_before(g: ConeAndPipe, turn: int) -> bool:
    """Whether the pipe's rim at an angle lies before the cone's side."""

    def margin(h: Any) -> Number:
        y, z = place(h, h.height * 0 + turn)
        return reach(h, z) - y

    return g.decide(margin) < 0


def _deepest(g: ConeAndPipe) -> Number:
    """How far inside the cone the generator runs that lies deepest."""
    found: Number | None = None
    for k in range(DIVISIONS):
        y, z = place(g, (g.height * 0 + 360) * k / DIVISIONS)
        depth = reach(g, z) - y
        found = depth if found is None else larger(found, depth)
    assert found is not None
    return found


CONDITIONS = (
    Condition(
        "the pipe above the base",
        lambda g: 2 * g.pipe_height - g.pipe_diameter,
        "a pipe {pipe_diameter} across whose axis is {pipe_height} up reaches below the base",
        ("pipe_height", "pipe_diameter"),
        lambda g: {"pipe_diameter": at_most(2 * g.pipe_height, 6)},
    ),
    Condition(
        "the pipe below the apex",
        lambda g: 2 * g.height - 2 * g.pipe_height - g.pipe_diameter,
        "a pipe {pipe_diameter} across whose axis is {pipe_height} up reaches over the apex, {height} up",
        ("pipe_height", "pipe_diameter"),
        lambda g: {"pipe_diameter": at_most(2 * (g.height - g.pipe_height) * 99 / 100, 6)},
        strict=True,
    ),
    Condition(
        "the pipe no wider than the cone",
        lambda g: (
            g.base_diameter / 2 * (g.height - g.pipe_height)
            + g.offset * g.height
            - g.pipe_diameter / 2 * hypot(g.base_diameter / 2, g.height)
        ),
        "a pipe {pipe_diameter} across takes the cone in from both sides at that height",
        ("pipe_diameter", "pipe_height"),
        lambda g: {"pipe_diameter": at_most(g.pipe_diameter / 2, 6)},
        strict=True,
    ),
    Condition(
        "pipe and cone meet",
        lambda g: _deepest(g),
        "a pipe {offset} off the axis misses the cone, or takes so little of it that none of its 12 generators meets it",
        ("offset", "pipe_height"),
        lambda g: {"offset": "0"},
        strict=True,
    ),
)
