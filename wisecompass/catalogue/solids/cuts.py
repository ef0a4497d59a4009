"""A standing solid cut by a plane square to VP: which edges, generators and rims it cuts, decided once.

In the solid's own frame the plane is z = c + x tan θ: it rises to the right. What lies under it is kept.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any, TypeAlias

from wisecompass.arithmetic import PLAIN, Number, cos_deg, root, roughly, sin_deg
from wisecompass.catalogue.solids.body import APEX, MIDDLE, Solid, begin, lettered_points, radii
from wisecompass.catalogue.solids.edges import edges_of
from wisecompass.drafting.givens import angle, at_most, choice, length
from wisecompass.drafting.problem import Condition
from wisecompass.geometry.space import Point3

Loop: TypeAlias = tuple[str, ...]
"""Letters of a face's corners in their order."""

On: TypeAlias = tuple[str, ...]
"""What a cut point lies on: an edge or generator by its ends, a rim and one of its two places, or the corner that it is."""

RIMS = {"base": ("X1", "X2"), "end": ("Z1", "Z2")}
"""Places where the plane cuts a rim, the one nearer to the drafter first, before they are numbered."""


@dataclass(frozen=True)
class Cut(Solid):
    kind: str = choice("kind", "prism", "pyramid", "frustum", "cylinder", "cone", "cone-frustum", default="pyramid")
    base: Number = length("side of the base, or its diameter", "26")
    height: Number = length("height along the axis", "72")
    plane_angle: Number = angle("inclination of the plane to HP", "30", "0", "89")
    plane_height: Number = length("height at which the plane cuts the axis", "41")


def over(p: Point3, g: Cut) -> Number:
    """How far a point of the own frame lies over the plane, mm; below it negative."""
    return (p.above - g.plane_height) * cos_deg(g.plane_angle) - p.x * sin_deg(g.plane_angle)


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
    """Which edges are cut and in which order the section goes round, anticlockwise as seen from above, from its lowest point
    on."""
    letters = [name for name in lettered_points(g, begin(g)) if name not in (MIDDLE, "L")]

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
    places = {key: place(h, edge) for key, edge in spots.items()}
    order = _round(places)
    names: dict[str, On] = {}
    for key in order:
        edge = spots[key]
        names[edge[0] if len(edge) == 1 else str(sum(len(e) == 2 for e in names.values()) + 1)] = edge
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
    points = lettered_points(g, begin(g))
    if len(edge) == 1:
        return points[edge[0]]
    if edge[0] in RIMS:
        return _on_rim(g, edge[0], edge[1])
    a, b = (points[name] for name in edge)
    low, high = over(a, g), over(b, g)
    return a + (b - a).scaled(low / (low - high))


def _on_rim(g: Cut, row: str, name: str) -> Point3:
    level = g.height * 0 if row == "base" else g.height + 0
    radius = radii(g)[0 if row == "base" else 1]
    x = (level - g.plane_height) * cos_deg(g.plane_angle) / sin_deg(g.plane_angle)
    front = root(radius * radius - x * x)
    return Point3(x, front if name == RIMS[row][0] else -front, level)


def _round(places: dict[str, Point3]) -> list[str]:
    """The points in their order, anticlockwise as seen from above, from the one farthest to the left, of two the nearer."""
    xs = {key: (roughly(p.x), -roughly(p.front)) for key, p in places.items()}
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


CONDITIONS = (
    Condition(
        "the plane cuts the axis",
        lambda g: g.height - g.plane_height,
        "a plane that cuts the axis {plane_height} above the base misses a solid {height} high",
        ("plane_height", "height"),
        lambda g: {"plane_height": at_most(g.height * 999 / 1000)},
        strict=True,
    ),
    Condition(
        "the larger end below",
        lambda g: g.base - g.top if g.kind == "cone-frustum" else g.height,
        "a cone-frustum that is cut stands on its larger end: {top} across is more than {base}",
        ("top", "base"),
        lambda g: {"top": at_most(g.base * 99 / 100)},
        strict=True,
    ),
)
