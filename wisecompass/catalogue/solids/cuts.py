"""A standing solid cut by a plane square to VP or to HP: which edges, generators and rims it cuts, decided once.

In the solid's own frame a plane square to VP is z = c + x tan θ: it rises to the right, and what lies under it is kept. One
square to HP runs back to the right, and what lies behind it is kept.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any, TypeAlias

from wisecompass.arithmetic import PLAIN, Number, cos_deg, root, roughly, sin_deg
from wisecompass.catalogue.solids.body import (
    APEX,
    END_MIDDLE,
    MIDDLE,
    Solid,
    SolidGivens,
    begin,
    lettered_points,
    own_place,
    radii,
)
from wisecompass.catalogue.solids.edges import edges_of
from wisecompass.drafting.givens import angle, at_least, at_most, choice, length, offset
from wisecompass.drafting.problem import Condition
from wisecompass.geometry.space import Point3, dot

Loop: TypeAlias = tuple[str, ...]
"""Letters of a face's corners in their order."""

On: TypeAlias = tuple[str, ...]
"""What a cut point lies on: an edge or generator by its ends, a rim and one of its two places, or the corner that it is."""

RIMS = {"base": ("X1", "X2"), "end": ("Z1", "Z2")}
"""Places where the plane cuts a rim, the one nearer to the drafter first, before they are numbered."""


class Cut(Solid):
    """A solid and the plane that cuts it; a problem's own givens say it in that problem's words."""

    if TYPE_CHECKING:

        @property
        def plane(self) -> str: ...
        @property
        def plane_angle(self) -> Number: ...
        @property
        def plane_height(self) -> Number: ...
        @property
        def plane_front(self) -> Number: ...

    @property
    def is_upright(self) -> bool:
        """Whether the plane is square to HP."""
        return self.plane == "square to HP"

    @property
    def across_plane(self) -> Point3:
        """The direction out of what is kept, square to the plane."""
        c, s = cos_deg(self.plane_angle), sin_deg(self.plane_angle)
        return Point3(s, c, c * 0) if self.is_upright else Point3(-s, c * 0, c)

    def cut_name(self, edge: On, number: int) -> str:
        """What the cut point on an edge or generator is called, the so manieth of the section."""
        return str(number)

    def told(self, part: str, left: bool) -> str:
        """The finding for what is ``left`` or for what is taken away: ``volume_below``, of an upright plane
        ``volume_behind``."""
        words = ("behind", "before") if self.is_upright else ("below", "above")
        return f"{part}_{words[0 if left else 1]}"


@dataclass(frozen=True)
class CutGivens(Cut, SolidGivens):
    """A solid of any kind, and the plane."""

    kind: str = choice("kind", "prism", "pyramid", "frustum", "cylinder", "cone", "cone-frustum", default="pyramid")
    base: Number = length("side of the base, or its diameter", "26")
    height: Number = length("height along the axis", "72")
    plane: str = choice("plane", "square to VP", "square to HP")
    plane_angle: Number = angle("inclination of the plane to HP, of one square to HP that to VP", "30", "0", "90")
    plane_height: Number = length("height at which a plane square to VP cuts the axis", "41")
    plane_front: Number = offset("how far in front of the axis a plane square to HP passes", "6")


SIDES = ("volume_below", "volume_above", "surface_below", "volume_behind", "volume_before", "surface_behind")
"""What is found of both parts, of planes square to VP and of upright ones."""


def over(p: Point3, g: Cut) -> Number:
    """How far a point of the own frame lies over the plane, or in front of an upright one, mm; else negative."""
    away = dot(p, g.across_plane)
    return away - (g.plane_front if g.is_upright else g.plane_height * cos_deg(g.plane_angle))


def along(p: Point3, g: Cut) -> tuple[Number, Number]:
    """A point of the section as the plane is seen from outside, roughly: to the right, and up or back."""
    if g.is_upright:
        return p.x * cos_deg(g.plane_angle) - p.front * sin_deg(g.plane_angle), p.above
    return p.x, -p.front


@dataclass
class Plan:
    """What the plane does to a solid. ``cut`` has the points of the section in their order, each with the edge or generator
    that it lies on, or with the one corner that it is; ``signs`` says of every letter whether it is taken away."""

    signs: dict[str, int]
    cut: dict[str, On]
    base_cut: bool = False
    end_cut: bool = False
    faces: dict[str, Loop] = field(default_factory=dict)
    """What is left of every flat face, by its name: base, end, side 0 and so on, and the section."""

    @property
    def section(self) -> Loop:
        return tuple(self.cut)


def plan(g: Cut) -> Plan:
    """Which edges are cut and in which order the section goes round, anticlockwise as seen from outside, from its left end
    on."""
    letters = tuple(name for name in lettered_points(g, begin(g)) if name not in (MIDDLE, "L"))

    def heights(h: Any) -> Sequence[Number]:
        points = lettered_points(h, begin(h))
        return [over(points[name], h) for name in letters]

    signs = dict(zip(letters, g.decide_all(heights, rational=False), strict=True))
    edges = edges_of(g)
    if g.is_round:  # its generators only; the rims are no edges
        edges = [(a, b) for a, b in edges if a in g.base_letters and b not in g.base_letters]
    spots: dict[str, On] = {a + b: (a, b) for a, b in edges if signs[a] * signs[b] < 0}
    spots |= {name: (name,) for name, sign in signs.items() if sign == 0}
    base_cut, end_cut = _rims_cut(g) if g.is_round else (False, False)
    for cut, row in ((base_cut, "base"), (end_cut, "end")):
        if cut:
            spots |= {name: (row, name) for name in RIMS[row]}
    h = g.bound_in(PLAIN)
    order = _round({key: along(place(h, edge), h) for key, edge in spots.items()})
    names: dict[str, On] = {}
    for key in order:
        edge = spots[key]
        names[edge[0] if len(edge) == 1 else g.cut_name(edge, sum(len(e) == 2 for e in names.values()) + 1)] = edge
    found = Plan(signs, names, base_cut, end_cut)
    if not g.is_round:
        found.faces = _kept(g, found)
    return found


def _rims_cut(g: Cut) -> tuple[bool, bool]:
    """Whether the plane cuts the rim of the base and that of the other end."""

    def margins(h: Any) -> Sequence[Number]:
        first, second = radii(h)
        c, s = cos_deg(h.plane_angle), sin_deg(h.plane_angle)
        return first * s - h.plane_height * c, second * s - (h.height - h.plane_height) * c

    base, end = g.decide_all(margins, rational=False)
    return base > 0, end > 0 and not g.is_pointed


def place(g: Cut, edge: On) -> Point3:
    """Where the plane cuts an edge or generator, or a rim; a corner that lies in it itself."""
    if len(edge) == 1:
        return own_place(g, edge[0])
    if edge[0] in RIMS:
        return _on_rim(g, edge[0], edge[1])
    a, b = (own_place(g, name) for name in edge)
    low, high = over(a, g), over(b, g)
    return a + (b - a).scaled(low / (low - high))


def _on_rim(g: Cut, row: str, name: str) -> Point3:
    level = g.height * 0 if row == "base" else g.height + 0
    radius = radii(g)[0 if row == "base" else 1]
    x = (level - g.plane_height) * cos_deg(g.plane_angle) / sin_deg(g.plane_angle)
    front = root(radius * radius - x * x)
    return Point3(x, front if name == RIMS[row][0] else -front, level)


def _round(places: dict[str, tuple[Number, Number]]) -> list[str]:
    """The points in their order, anticlockwise as the plane is seen from outside, from the one farthest to the left, of two
    the lower one."""
    xs = {key: (roughly(x), roughly(y)) for key, (x, y) in places.items()}
    cx, cy = (sum(at[k] for at in xs.values()) / len(xs) for k in (0, 1))
    order = sorted(xs, key=lambda key: math.atan2(xs[key][1] - cy, xs[key][0] - cx))
    size = max(abs(v) for at in xs.values() for v in at)
    first = min(order, key=lambda key: (round(xs[key][0] / size, 6), xs[key][1]))
    at = order.index(first)
    return order[at:] + order[:at]


def faces_of(g: Solid) -> dict[str, Loop]:
    """The flat faces of a solid, each anticlockwise as seen from outside."""
    base, end, n = g.base_letters, g.end_letters, g.corners
    found = {"base": tuple(reversed(base))}
    for k in range(n):
        upper = (APEX,) if g.is_pointed else (end[(k + 1) % n], end[k])
        found[f"side {k}"] = (base[k], base[(k + 1) % n], *upper)
    if not g.is_pointed:
        found["end"] = tuple(end)
    return found


def _kept(g: Cut, p: Plan) -> dict[str, Loop]:
    """Every face as far as it lies under the plane, and the section itself."""
    on = {frozenset(edge): name for name, edge in p.cut.items() if len(edge) == 2}
    found: dict[str, Loop] = {}
    for face, loop in faces_of(g).items():
        left: list[str] = []
        for a, b in zip(loop, (*loop[1:], loop[0]), strict=True):
            if p.signs[a] <= 0:
                left.append(a)
            if p.signs[a] * p.signs[b] < 0:
                left.append(on[frozenset((a, b))])
        if len(left) > 2:
            found[face] = tuple(left)
    found["section"] = p.section
    return found


def _over_the_end(g: Cut) -> Number:
    """By how much the ends of a cone frustum differ, mm²."""
    return (g.base - g.top) * (g.base - g.top) if g.kind == "cone-frustum" else g.height


def _reach(g: Cut, way: int) -> Number:
    """How far the solid reaches in front of its axis, square to an upright plane; behind it with ``way`` -1."""
    if g.is_round:
        return radii(g)[0] if roughly(radii(g)[0]) > roughly(radii(g)[1]) else radii(g)[1]
    points = [p for name, p in lettered_points(g, begin(g)).items() if name not in (MIDDLE, END_MIDDLE)]
    return max((dot(p, g.across_plane) * way for p in points), key=roughly)


def _left_in_front(g: Cut) -> Number:
    return _reach(g, 1) - g.plane_front if g.is_upright else g.height


def _left_behind(g: Cut) -> Number:
    return _reach(g, -1) + g.plane_front if g.is_upright else g.height


CONDITIONS = (
    Condition(
        "no plane square to both",
        lambda g: g.height * 0 + (1 if g.is_upright else 89 - g.plane_angle),
        "a plane square to VP at {plane_angle} to HP is all but upright: 89° is the steepest; a steeper one is drawn square "
        "to HP",
        ("plane_angle",),
        lambda g: {"plane_angle": "89"},
    ),
    Condition(
        "the plane cuts in front",
        _left_in_front,
        "a plane {plane_front} in front of the axis misses the solid",
        ("plane_front", "base"),
        lambda g: {"plane_front": at_most(_reach(g.bound_in(PLAIN), 1) * 999 / 1000)},
        strict=True,
    ),
    Condition(
        "the plane cuts behind",
        _left_behind,
        "a plane {plane_front} in front of the axis, that is behind the whole solid, leaves nothing of it",
        ("plane_front", "base"),
        lambda g: {"plane_front": at_least(_reach(g.bound_in(PLAIN), -1) * -999 / 1000)},
        strict=True,
    ),
    Condition(
        "the plane cuts the axis",
        lambda g: g.height if g.is_upright else g.height - g.plane_height,
        "a plane that cuts the axis {plane_height} above the base misses a solid {height} high",
        ("plane_height", "height"),
        lambda g: {"plane_height": at_most(g.height * 999 / 1000)},
        strict=True,
    ),
    Condition(
        "no cylinder",
        _over_the_end,
        "a cone-frustum {top} across at its other end and {base} at its base is a cylinder",
        ("top", "base"),
        lambda g: {"top": at_most(g.base * 99 / 100)},
        strict=True,
    ),
)
