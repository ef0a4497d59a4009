"""Lining in a round solid that an upright plane cuts, and measuring what is asked for on its views."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from itertools import pairwise

from wisecompass.arithmetic import (
    PLAIN,
    Number,
    absolute,
    acos_deg,
    hypot,
    log,
    pi_times,
    root,
    roughly,
)
from wisecompass.catalogue.solids.body import END_MIDDLE, MIDDLE, radii
from wisecompass.catalogue.solids.cut_lining import base_pen, showing
from wisecompass.catalogue.solids.cut_views import Drawn
from wisecompass.catalogue.solids.edges import Pair, edges_of
from wisecompass.catalogue.solids.upright_cut import LEFT, RIGHT, VERTEX, Upright, branch, kind_of, spot
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.view import View
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Pair as Spot
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Point

SAMPLED = 96
"""Straight pieces by which a hatching follows a curve."""


def line_in_upright(d: Drawn, p: Upright, shape: View, side: View) -> None:
    """Line in front, top and side view of what is left and the true shape, and hatch the section."""
    b, up = d.sheet.b, d.one.up
    for a, c in edges_of(d.sheet.g):
        b.in_space(a, c, Pen.CONSTRUCTION)
    for a, c in edges_of(d.sheet.g):
        if p.signs[a] <= 0 and p.signs[c] <= 0:
            b.in_space(a, c)
    for a, c in pairwise([*p.section, p.section[0]]):
        b.in_space(a, c)
    sectional = showing(d, side)
    b.line_in(*_outlines(d, p, up, (0, 4), sectional is up), why="the front view of what is left")
    _from_above(d, p)
    b.line_in(*_outlines(d, p, side, (2, 6), sectional is side), why="the side view of what is left")
    if p.straight:
        hidden = _hidden_sides(d, p, side) if sectional is not side else []
        if hidden:
            b.line_in(*hidden, pen=Pen.HIDDEN, why="the sides of the section that are turned away, dashed and thin")
    else:
        _curves(d, p, shape, side)
    b.line_in(*_ends(p, shape), why="the true shape")
    b.caution("Join the points in their order round the section; skipped or crossed, the shape is another.")
    for view, why in ((sectional, f"the section in the {sectional.title}"), (shape, "the true shape")):
        b.hatch([view.images[name] for name in p.section], _outline(d, p, view), why=why)


def _flat_ends(d: Drawn, p: Upright) -> list[tuple[str, Sequence[str], str]]:
    """What is left of base and other end: the row, its letters and its middle."""
    g = d.sheet.g
    found = [("base", g.base_letters, MIDDLE), ("end", g.end_letters, END_MIDDLE)]
    if g.is_pointed:
        del found[1]
    return [each for each in found if each[0] in p.rows or not p.behind_axis]


def _outlines(d: Drawn, p: Upright, view: View, bounding: tuple[int, int], as_face: bool) -> list[Pair]:
    """Straight outlines of a view: base and other end on edge, the generators that bound it, and the straight sides of the
    section."""
    g, images, found = d.sheet.g, view.images, list[Pair]()
    for row, letters, _ in _flat_ends(d, p):
        names = [letters[k] for k in bounding if p.signs[letters[k]] <= 0]
        if row in p.rows:
            names += [p.name_on(row, LEFT), p.name_on(row, RIGHT)]
        order = sorted(names, key=lambda name: _across(d, view, images[name]))
        found.append((images[order[0]], images[order[-1]]))
    for k in bounding:
        low, high = g.base_letters[k], d.upper(g.base_letters[k])
        ends = [name for name in (low, p.generators.get(low), high) if name and p.signs.get(name, 0) <= 0]
        if len(ends) > 1:
            found.append((images[ends[0]], images[ends[-1]]))
    if p.straight:
        seen = (
            _sides(p) if as_face else [pair for pair in _sides(p) if view is not d.one.up and not _turned_away(d, p, pair)]
        )
        found += [(images[a], images[c]) for a, c in seen]
    if not as_face and (view is d.one.up or _edgewise(d)):
        found.append((images[p.name_on(p.rows[0], LEFT)], images[_narrow_name(p)]))
    return [pair for pair in found if plane_apart(pair)]


def plane_apart(pair: Pair) -> bool:
    """Whether two images are two places."""
    a, c = pair
    return abs(roughly(a.x) - roughly(c.x)) + abs(roughly(a.y) - roughly(c.y)) > 1e-9


def _edgewise(d: Drawn) -> bool:
    """Whether the plane is parallel to VP, so that the side view shows it on edge."""
    return abs(roughly(d.trace.dy)) < 1e-9 * abs(roughly(d.trace.dx))


def _across(d: Drawn, view: View, q: Point) -> float:
    """How far a place lies to one side of a view."""
    return roughly(q.x if view is d.one.up else plane.distance_to_line(q, view.away[d.one.up]))


def _narrow_name(p: Upright) -> str:
    """A point of the section farthest from the wider end."""
    if p.branches:
        return p.name_on(p.rows[1], LEFT)
    return VERTEX if VERTEX in p.cut else next((n for n, on in p.cut.items() if on[0] in ("apex", "end")), p.section[-1])


def _sides(p: Upright) -> list[tuple[str, str]]:
    """The straight sides of a section, from base to top, left and right."""
    return [(p.name_on("base", way), _over(p, way)) for way in (LEFT, RIGHT)]


def _over(p: Upright, way: str) -> str:
    return p.name_on("end", way) if p.end_cut else next(n for n, on in p.cut.items() if on[0] == "apex")


def _turned_away(d: Drawn, p: Upright, pair: tuple[str, str]) -> bool:
    """Whether a side of the section is hidden from the left: it lies on the far side of the solid."""
    x = roughly(d.one.low.images[pair[0]].x) - roughly(d.one.low.images[MIDDLE].x)
    return x > 1e-9 * roughly(d.sheet.g.base)


def _hidden_sides(d: Drawn, p: Upright, side: View) -> list[Pair]:
    if _edgewise(d):
        return []
    middle = roughly(d.one.low.images[MIDDLE].y)
    found = []
    for a, c in _sides(p):
        bounds_the_view = abs(roughly(d.one.low.images[a].y) - middle) >= roughly(radii(d.sheet.g)[0]) * (1 - 1e-9)
        if _turned_away(d, p, (a, c)) and not bounds_the_view:
            found.append((side.images[a], side.images[c]))
    return found


def _from_above(d: Drawn, p: Upright) -> None:
    """The top view: what is left of the rims, and the plane on edge."""
    b, low = d.sheet.b, d.one.low.images
    for row, letters, middle in _flat_ends(d, p):
        if row == "end" and d.sheet.g.is_straight:
            continue
        cut = row in p.rows
        ends = (low[p.name_on(row, RIGHT)], low[p.name_on(row, LEFT)]) if cut else (low[letters[0]],) * 2
        pen = base_pen(d) if row == "base" else Pen.OUTLINE
        b.line_in_arc(low[middle], *ends, name=f"rim about {low[middle].name}", pen=pen)
    b.line_in((low[p.name_on(p.rows[0], LEFT)], low[p.name_on(p.rows[0], RIGHT)]), why="the plane on edge")


def _ends(p: Upright, view: View) -> list[Pair]:
    """The straight sides of the true shape."""
    pairs = [(p.name_on(row, LEFT), p.name_on(row, RIGHT)) for row in p.rows]
    if p.straight:
        pairs += _sides(p)
    return [(view.images[a], view.images[c]) for a, c in pairs]


# --------------------------------------------------------------------------------------------------------------- curves
def _curves(d: Drawn, p: Upright, shape: View, side: View) -> None:
    """The hyperbola, or both its branches, in every view that does not show it on edge."""
    b = d.sheet.b
    for view in (d.one.up, side, shape):
        if (view is d.one.up and showing(d, side) is side) or (view is side and _edgewise(d)):
            continue
        for names, start, end in _branches(d, p):
            title = f"section in the {view.title}" + (f" {names[0]}" if p.branches else "")
            through = [view.images[name] for name in names]
            b.fair_curve(_drawn(d, p, view, start, end, view is side), through, title, why="in their order")


def _branches(d: Drawn, p: Upright) -> list[tuple[list[str], float, float]]:
    """The names on each branch in their order, and between which places it runs."""
    h = d.sheet.g.bound_in(PLAIN)
    names = p.curve
    base = float(spot(h, (p.rows[0], RIGHT))[0])
    if not p.branches:
        return [(names, base, -base)]
    end = float(spot(h, (p.rows[1], RIGHT))[0])
    first, second = (names.index(p.name_on(p.rows[1], side)) for side in (RIGHT, LEFT))
    return [(names[: first + 1], base, end), (names[second:], -end, -base)]


def _level(d: Drawn) -> Callable[[float], float]:
    """The level of the hyperbola at a place."""
    h = d.sheet.g.bound_in(PLAIN)
    first, second = (float(r) for r in radii(h))
    away, height = float(h.plane_front), float(h.height)
    return lambda u: height * (first - math.hypot(u, away)) / (first - second)


def _map(d: Drawn, p: Upright, view: View) -> Callable[[float, float], Spot]:
    """Where a view shows a place of the plane, from three points of the section that it shows."""
    h = d.sheet.g.bound_in(PLAIN)
    names = [p.name_on(p.rows[0], LEFT), p.name_on(p.rows[0], RIGHT), _narrow_name(p)]
    flat = [tuple(float(c) for c in spot(h, p.cut[name])) for name in names]
    spots = [(roughly(view.images[name].x), roughly(view.images[name].y)) for name in names]
    (u0, z0), (u1, _), (u2, z2) = flat
    (ax, ay), (bx, by), (cx, cy) = spots

    def where(u: float, z: float) -> Spot:
        t = (z - z0) / (z2 - z0)
        s = (u - u0 - t * (u2 - u0)) / (u1 - u0)
        return ax + (bx - ax) * s + (cx - ax) * t, ay + (by - ay) * s + (cy - ay) * t

    return where


def _drawn(
    d: Drawn, p: Upright, view: View, start: float, end: float, aside: bool
) -> Callable[[], list[tuple[Parametric, Pen]]]:
    """A branch as a view shows it; from the left what lies on the far side of the axis is hidden."""

    def curve() -> list[tuple[Parametric, Pen]]:
        where, level = _map(d, p, view), _level(d)
        h = d.sheet.g.bound_in(PLAIN)
        away = float(h.plane_front)

        def place(t: float) -> Spot:
            return where(t, level(t))

        def velocity(t: float) -> Spot:
            (x1, y1), (x2, y2) = place(t - TINY), place(t + TINY)
            return (x2 - x1) / (2 * TINY), (y2 - y1) / (2 * TINY)

        angle = math.radians(float(h.plane_angle))
        turn = -away * math.tan(angle) if abs(math.cos(angle)) > 1e-12 else math.copysign(math.inf, -away)
        if not aside or not end < turn < start:
            far = aside and (start + end) / 2 > turn
            return [(Parametric(place, velocity, start, end, 8), Pen.HIDDEN if far else Pen.OUTLINE)]
        return [
            (Parametric(place, velocity, start, turn, 8), Pen.HIDDEN),
            (Parametric(place, velocity, turn, end, 8), Pen.OUTLINE),
        ]

    return curve


TINY = 1e-5
"""mm between which a velocity is read off."""


def _outline(d: Drawn, p: Upright, view: View) -> Callable[[], Sequence[Spot]]:
    """The section's outline as corners near enough for hatching."""

    def outline() -> Sequence[Spot]:
        if p.straight:
            return [(roughly(view.images[name].x), roughly(view.images[name].y)) for name in p.section]
        where, level = _map(d, p, view), _level(d)
        places = [start + (end - start) * k / SAMPLED for _, start, end in _branches(d, p) for k in range(SAMPLED + 1)]
        return [where(u, level(u)) for u in places]

    return outline


# ------------------------------------------------------------------------------------------------------------ measuring
def measure_upright(d: Drawn, p: Upright, shape: View) -> None:
    """Everything that is asked for: half widths in the true shape, radii in the top view, the height in the front view."""
    b, g, low, up = d.sheet.b, d.sheet.g, d.one.low.images, d.one.up.images
    outer = plane.distance(low[MIDDLE], low["A"])
    inner = outer if g.is_straight else outer * 0 if g.is_pointed else plane.distance(low[MIDDLE], low[g.end_letters[0]])
    if d.sheet.g.widens:
        outer, inner = inner, outer
    height = up[d.sheet.top].y - up[MIDDLE].y
    away = plane.distance_to_line(low[MIDDLE], d.trace)
    base, end = (*(_apart(p, shape, row) / 2 for row in p.rows), outer * 0)[:2]
    b.check(
        "half the width at the wider end is what circle and distance of the plane leave",
        base - root(outer * outer - away * away),
    )
    front, zero = _beyond(outer, away), outer * 0
    over = _beyond(inner, away) if p.branches else pi_times(inner * inner) if p.behind_axis else zero
    found: dict[str, Number | None] = {"eccentricity": None, "focus_distance": None, "major": None, "minor": None}
    if p.straight:
        area = (base + end) * height
        perimeter = 2 * (base + end + hypot(base - end, height))
    else:
        slope, size = (outer - inner) / height, absolute(away)
        low_part, high_part = _under(outer, base, size), _under(inner, end, size) if p.branches else zero
        area = (low_part - high_part) / slope
        eccentricity = hypot(slope, zero + 1)
        found |= {"eccentricity": eccentricity, "focus_distance": size * slope / (eccentricity + 1)}
        perimeter = 2 * (base + end) + 2 * branch(base, size, slope, end)
    discs = pi_times(outer * outer), pi_times(inner * inner)
    if g.is_straight:
        before, side = front * height, 2 * outer * height * pi_times(180 - acos_deg(away / outer)) / 180
    else:
        tip = outer * height / (outer - inner)
        before = (tip * front - (tip - height) * over - away * area) / 3
        side = (discs[0] - front - discs[1] + over) * hypot(outer - inner, height) / (outer - inner)
    b.find("section_area", area)
    b.find("section_perimeter", perimeter)
    b.find("section_kind", kind_of(g, p))
    for name, value in found.items():
        b.find(name, value)
    b.find("volume_before", before)
    b.find("volume_behind", height * (discs[0] + discs[1] + root(discs[0] * discs[1])) / 3 - before)
    b.find("surface_behind", side + discs[0] - front + discs[1] - over)


def _apart(p: Upright, shape: View, row: str) -> Number:
    """The width of the true shape at a rim."""
    return plane.distance(shape.images[p.name_on(row, LEFT)], shape.images[p.name_on(row, RIGHT)])


def _beyond(radius: Number, away: Number) -> Number:
    """Area of a circle in front of a chord, mm²."""
    return radius * radius * pi_times(acos_deg(away / radius)) / 180 - away * root(absolute(radius * radius - away * away))


def _under(radius: Number, half: Number, away: Number) -> Number:
    return radius * half - away * away * log((radius + half) / away)
