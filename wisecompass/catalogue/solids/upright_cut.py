"""A standing round solid cut by an upright plane: the rims, generators and levels that it cuts, and what comes of it in
closed form.

With r the radius of the solid at a level and d the distance of the plane from its axis, half the width there is √(r² − d²):
two uprights in a cylinder, two generators through the axis of a cone, else a hyperbola. Volumes by cones from the tip,
areas of the round side by their top view, where every piece of it is seen in one proportion.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from wisecompass.arithmetic import (
    PLAIN,
    Number,
    absolute,
    acos_deg,
    atan2_deg,
    cos_deg,
    hypot,
    log,
    pi_times,
    root,
    roughly,
    sin_deg,
    turning_integral,
)
from wisecompass.catalogue.solids.body import APEX, MIDDLE, begin, lettered_points, radii, slant_height
from wisecompass.catalogue.solids.cuts import Cut, Loop, On, Plan, over
from wisecompass.drafting.problem import Value
from wisecompass.geometry.space import Point3

LEVELS = 4
"""Parts into which the height of the curve is cut by level sections."""

VERTEX = "V"
LEFT, RIGHT = "left", "right"


@dataclass
class Upright(Plan):
    """What an upright plane does to a round solid; a point of the section lies on a rim or level and on which side, or on a
    generator."""

    rows: Loop = ("base",)
    """The rims that the plane cuts, ``base`` and ``end``: the wider one first."""
    straight: bool = False
    """Whether the section has straight sides."""
    behind_axis: bool = False
    generators: dict[str, str] = field(default_factory=dict)
    """The cut points on the generators that bound the views, by the letter of these at the base."""

    def name_on(self, row: str, side: str) -> str:
        """The point on a rim or level."""
        return next(name for name, on in self.cut.items() if on == (row, side))

    @property
    def branches(self) -> bool:
        """Whether both rims are cut."""
        return len(self.rows) > 1

    @property
    def curve(self) -> list[str]:
        """The names from the right end of the wider rim by way of the vertex to its left end."""
        names = list(self.cut)
        return [*names[1:], names[0]] if self.rows[0] == "base" else names[::-1]


def upright_plan(g: Cut) -> Upright:
    """Everything that is settled once."""
    letters = [name for name in lettered_points(g, begin(g)) if name not in (MIDDLE, "L")]
    ends, narrow = {"base": g.base_letters, "end": g.end_letters}, 0 if g.widens else 1

    def heights(h: Cut) -> list[Number]:
        points = lettered_points(h, begin(h))
        return [*(over(points[name], h) for name in letters), h.plane_front, radii(h)[narrow] - absolute(h.plane_front)]

    *signs, off_axis, margin = g.decide_all(heights, rational=False)
    wide, other = ("base", "end") if narrow else ("end", "base")
    rows = (wide, other) if margin > 0 else (wide,)
    found = Upright(dict(zip(letters, signs, strict=True)), {}, "base" in rows, "end" in rows, rows=rows)
    found.straight, found.behind_axis = g.is_straight or not off_axis, off_axis < 0
    h = g.bound_in(PLAIN)
    spots: dict[str, On] = {}
    for row in rows:
        for side in (LEFT, RIGHT):
            letter = next((n for n in ends[row] if found.signs[n] == 0 and (roughly(_u(h, n)) > 0) == (side == RIGHT)), "")
            spots[letter or f"{row} {side}"] = (row, side)
    if found.straight:
        if g.is_pointed:
            spots[APEX] = ("apex", "")
    else:
        if not found.branches:
            spots[VERTEX] = ("vertex", "")
        for letter in g.base_letters[::2]:
            upper = APEX if g.is_pointed else g.end_letters[g.base_letters.index(letter)]
            if found.signs[letter] * found.signs[upper] < 0:
                if _at_vertex(h, letter) and not found.branches:
                    found.generators[letter] = VERTEX
                else:
                    spots[f"on {letter}"] = (letter, upper)
        taken = [roughly(spot(h, on)[0]) for on in spots.values()]
        for k in range(1, LEVELS):
            for side in (LEFT, RIGHT):
                if min(abs(roughly(spot(h, (f"level {k}", side))[0]) - u) for u in taken) > 1e-6 * roughly(h.base):
                    spots[f"level {k} {side}"] = (f"level {k}", side)
    start = next(iter(spots))  # the left end of the wider rim
    order = sorted((key for key in spots if key != start), key=lambda key: _turn(h, spots[key], wide))
    numbered = 0
    for key in (start, *order):
        name = key
        if len(key) > 1:
            numbered += 1
            name = str(numbered)
        found.cut[name] = spots[key]
        if key.startswith("on "):
            found.generators[key[-1]] = name
    return found


def _u(g: Cut, letter: str) -> Number:
    p = lettered_points(g, begin(g))[letter]
    return p.x * cos_deg(g.plane_angle) - p.front * sin_deg(g.plane_angle)


def _at_vertex(g: Cut, letter: str) -> bool:
    return abs(roughly(_u(g, letter))) < 1e-9 * roughly(g.base)


def _turn(g: Cut, on: On, wide: str) -> tuple[float, float]:
    """By what the points come in their order: from the right end of the base on leftwards, or from the left end of a wider
    top on rightwards."""
    at = roughly(spot(g, on)[0])
    if wide == "end":
        return 0.0, at
    return (0.0, 0.0) if on == ("base", RIGHT) else (1.0, -at)


def ends_of(g: Cut) -> tuple[Number, Number]:
    """The radii of a round solid, the wider one first."""
    first, second = radii(g)
    return (second, first) if g.widens else (first, second)


def top_of(g: Cut) -> Number:
    """The level where the section ends towards the narrower end, mm over the base: of its vertex, or that end's own."""
    first, second = radii(g)
    away = absolute(g.plane_front)
    if g.is_straight or roughly(ends_of(g)[1]) > roughly(away):
        return g.height * (0 if g.widens else 1)
    return g.height * (first - away) / (first - second)


def spot(g: Cut, on: On) -> tuple[Number, Number]:
    """A point of the section within the plane: to the right of the foot of the axis, and over the base, mm."""
    first, second = radii(g)
    zero = g.height * 0
    if on[0] in ("vertex", "apex"):
        return zero, top_of(g)
    if on[0] == "base":
        return _sided(_half(g, first), on[1]), zero
    if on[0] == "end":
        return _sided(_half(g, second), on[1]), g.height + 0
    if on[0].startswith("level"):
        wide = g.height * (1 if g.widens else 0)
        z = wide + (top_of(g) - wide) * int(on[0][-1]) / LEVELS
        return _sided(_half(g, first + (second - first) * z / g.height), on[1]), z
    points = lettered_points(g, begin(g))
    a, b = points[on[0]], points[on[1]]
    low, high = over(a, g), over(b, g)
    p = a + (b - a).scaled(low / (low - high))
    return p.x * cos_deg(g.plane_angle) - p.front * sin_deg(g.plane_angle), p.above


def _half(g: Cut, radius: Number) -> Number:
    return root((radius - g.plane_front) * (radius + g.plane_front))


def _sided(u: Number, side: str) -> Number:
    return u if side == RIGHT else -u


def upright_place(g: Cut, on: On) -> Point3:
    """The same in the solid's own frame."""
    u, z = spot(g, on)
    c, s = cos_deg(g.plane_angle), sin_deg(g.plane_angle)
    return Point3(g.plane_front * s + u * c, g.plane_front * c - u * s, z)


# ------------------------------------------------------------------------------------------------------------- findings
def kind_of(g: Cut, p: Upright) -> str:
    """``hyperbola``, ``triangle`` through the apex, ``quadrilateral``."""
    if p.straight:
        return "triangle" if g.is_pointed else "quadrilateral"
    return f"hyperbola cut by the {'base' if g.widens else 'top'}" if p.branches else "hyperbola"


def upright_findings(g: Cut, p: Upright) -> dict[str, Value]:
    first, second = ends_of(g)
    away = absolute(g.plane_front)
    base, zero = _half(g, first), g.height * 0
    end = _half(g, second) if p.branches else zero
    found: dict[str, Value] = {"eccentricity": None, "focus_distance": None, "major": None, "minor": None}
    if p.straight:
        area = (base + end) * g.height
        perimeter = 2 * (base + end) + 2 * hypot(base - end, g.height)
    else:
        slope = (first - second) / g.height
        area = (_under(first, base, away) - (_under(second, end, away) if p.branches else zero)) / slope
        eccentricity = root(1 + slope * slope)
        found |= {"eccentricity": eccentricity, "focus_distance": away * slope / (eccentricity + 1)}
        perimeter = 2 * (base + end) + 2 * branch(base, away, slope, end)
    front, over_front = _segment(first, g.plane_front), (_segment(second, g.plane_front) if second_in(g, p) else zero)
    discs = pi_times(first * first), pi_times(second * second)
    if g.is_straight:
        before = front * g.height
        side = 2 * first * g.height * _radians(180 - acos_deg(g.plane_front / first))
    else:
        tip = first * g.height / (first - second)
        before = (tip * front - (tip - g.height) * over_front - g.plane_front * area) / 3
        side = (discs[0] - front - discs[1] + over_front) * slant_height(g) / (first - second)
    whole = g.height * (first * first + first * second + second * second)
    return {
        "section_area": area,
        "section_perimeter": perimeter,
        "section_kind": kind_of(g, p),
        **found,
        "volume_behind": pi_times(whole) / 3 - before,
        "volume_before": before,
        "surface_behind": side + discs[0] - front + discs[1] - over_front,
    }


def second_in(g: Cut, p: Upright) -> bool:
    """Whether some of the narrower end is taken away: its part in front, or with a plane far behind the axis all of it."""
    return p.branches or (p.behind_axis and not g.is_pointed)


def _under(radius: Number, half: Number, away: Number) -> Number:
    """2 ∫ √(r² − d²) dr from d to a radius."""
    return radius * half - away * away * log((radius + half) / away)


def branch(half: Number, away: Number, slope: Number, inner: Number) -> Number:
    """Length of the hyperbola from the half width ``inner`` to ``half``: with u = d tan θ its level is (R - d / cos θ) /
    slope, so that it runs d / cos² θ · √(1 + sin² θ / slope²) for each radian."""

    def speed(cosine: Any, sine: Any, square_root: Any) -> Any:
        return square_root(1 + (sine / slope) * (sine / slope)) * away / (cosine * cosine)

    return turning_integral(speed, atan2_deg(inner, away), atan2_deg(half, away))


def _segment(radius: Number, away: Number) -> Number:
    """Area of a circle in front of a chord so far from its middle; all of it behind the circle."""
    if roughly(away) <= -roughly(radius):
        return pi_times(radius * radius)
    return radius * radius * _radians(acos_deg(away / radius)) - away * root((radius - away) * (radius + away))


def _radians(degrees: Number) -> Number:
    return pi_times(degrees) / 180
