"""How a solid lies: tilted about what it rests on, its other end to the right, then turned about the upright through the
middle of its base, its other end to the front.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, asin_deg, cos_deg, root, sin_deg
from wisecompass.catalogue.solids.body import SolidGivens, apothems, begin, lettered_points, radii, slant_height
from wisecompass.drafting.givens import angle, at_least, at_most, choice
from wisecompass.drafting.problem import Condition
from wisecompass.geometry.space import Point3

RESTS = ("base", "edge", "corner", "face", "generator")
TILTED = ("edge", "corner")
"""What it rests on where its axis may lie at any inclination to HP."""


@dataclass(frozen=True)
class Lying(SolidGivens):
    rests_on: str = choice("part that it rests on", *RESTS, default="edge")
    axis_to_hp: Number = angle("inclination of the axis to HP", "35", "0", "90")
    axis_to_vp: Number = angle("inclination of the axis to VP", "30", "0", "90")
    counted: str = choice("which inclination to VP is meant", "true", "apparent")

    @property
    def support(self) -> str:
        return self.rests_on


def foot(g: Lying) -> Number:
    """How far from the axis the line or point lies that it is tilted about."""
    return (radii if g.rests_on == "corner" else apothems)(g)[0]


def tilt(g: Lying) -> tuple[Number, Number]:
    """Cosine and sine of the angle by which it is tilted to the right."""
    one = g.height * 0 + 1
    if g.stands:
        return one, one * 0
    if g.rests_on in TILTED:
        return sin_deg(g.axis_to_hp), cos_deg(g.axis_to_hp)
    if g.is_straight:
        return one * 0, one
    first, second = apothems(g)
    return (second - first) / slant_height(g), g.height / slant_height(g)


def swing(g: Lying) -> tuple[Number, Number]:
    """Cosine and sine of the angle by which it is turned to the front: the top view of the axis with XY."""
    one = g.height * 0 + 1
    if g.stands:
        return one, one * 0
    if g.counted == "apparent":
        return cos_deg(g.axis_to_vp), sin_deg(g.axis_to_vp)
    sine = sin_deg(g.axis_to_vp) / tilt(g)[1]
    upright = g.decide(lean) == 0
    return (one * 0, one) if upright else (root(1 - sine * sine), sine)


def lean(h: Lying) -> Number:
    """Above zero where an axis of this true inclination to VP can lie at that to HP; zero where it lies square to XY."""
    if h.rests_on in TILTED:
        return 90 - h.axis_to_hp - h.axis_to_vp
    return tilt(h)[1] - sin_deg(h.axis_to_vp)


@dataclass(frozen=True)
class Lay:
    """How far a solid is tilted and turned, about what, and how far it stands before VP: cosines and sines, mm."""

    tilt: tuple[Number, Number]
    foot: Number
    swing: tuple[Number, Number]
    room: Number

    def placed(self, p: Point3, to: int) -> Point3:
        """A point of the own frame in position 1 (standing), 2 (tilted) or 3 (turned as well): x from the middle of the base
        as it lies there, front from VP, above HP."""
        x, front, above = p.x, p.front, p.above
        if to > 1:
            (c, s), e = self.tilt, self.foot
            x, above = (x - e) * c + above * s + e * c, (e - x) * s + above * c
        if to > 2:
            c, s = self.swing
            x, front = x * c - front * s, x * s + front * c
        return Point3(x, front + self.room, above, p.name)

    def turned(self, n: Point3, to: int) -> Point3:
        """A direction of the own frame in a position."""
        x, front, above = n.x, n.front, n.above
        if to > 1:
            c, s = self.tilt
            x, above = x * c + above * s, above * c - x * s
        if to > 2:
            c, s = self.swing
            x, front = x * c - front * s, x * s + front * c
        return Point3(x, front, above)


def lay(g: Lying) -> Lay:
    """How a solid lies, in the arithmetic of its givens."""
    return Lay(tilt(g), foot(g), swing(g), g.room)


def in_position(g: Lying, to: int) -> dict[str, Point3]:
    """Where everything that has a letter lies in a position."""
    how = lay(g)
    return {name: how.placed(p, to) for name, p in lettered_points(g, begin(g)).items()}


# ----------------------------------------------------------------------------------------------------------- conditions
def _fits(h: Lying) -> int:
    allowed = ("base", "edge", "generator") if h.is_round else ("base", "edge", "corner", "face")
    return 0 if h.rests_on in allowed else -1


def _overhang(h: Lying) -> Number:
    """How high the lowest point of the other end lies, times something."""
    if h.rests_on not in TILTED:
        return h.height
    ways = radii if h.rests_on == "corner" else apothems
    first, second = ways(h)
    return h.height * sin_deg(h.axis_to_hp) - (second - first) * cos_deg(h.axis_to_hp)


def _lowest(g: Any) -> dict[str, str]:
    """The least inclination at which the other end just touches HP."""
    return {"axis_to_hp": at_least(89.999, 3)}


CONDITIONS = (
    Condition(
        "it can rest on that",
        _fits,
        "a {kind} cannot rest on its {rests_on}",
        ("rests_on", "kind"),
        lambda g: {"rests_on": "edge"},
    ),
    Condition(
        "the other end above HP",
        _overhang,
        "on its {rests_on}, its axis at {axis_to_hp} to HP, the other end {top} across would lie below HP",
        ("axis_to_hp", "top"),
        _lowest,
    ),
    Condition(
        "the axis not upright",
        lambda h: 90 - h.axis_to_hp if h.rests_on in TILTED else h.height,
        "with its axis at {axis_to_hp} to HP it stands on its base, not on its {rests_on}",
        ("rests_on", "axis_to_hp"),
        lambda g: {"rests_on": "base"},
        strict=True,
    ),
    Condition(
        "inclinations together at most 90°",
        lambda h: lean(h) if not h.stands and h.counted == "true" else h.height,
        "an axis at this inclination to HP cannot be inclined at {axis_to_vp} to VP: the two together may not pass 90°",
        ("axis_to_vp", "axis_to_hp"),
        lambda g: {"axis_to_vp": at_most(90 - g.axis_to_hp, 3) if g.rests_on in TILTED else _flattest(g)},
    ),
)


def _flattest(g: Any) -> str:
    """The inclination to VP of an axis that lies square to XY on its face or generator."""
    return at_most(asin_deg(tilt(g.bound_in(PLAIN))[1]))
