"""Lining in a cut solid: what is left heavy, what is taken away thin, the section hatched."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from itertools import pairwise
from typing import Any, TypeAlias

from wisecompass.arithmetic import PLAIN, Number, roughly
from wisecompass.catalogue.solids.body import END_MIDDLE, MIDDLE, begin, side_normals
from wisecompass.catalogue.solids.cut_conics import conic
from wisecompass.catalogue.solids.cut_views import Drawn
from wisecompass.catalogue.solids.cuts import RIMS, place
from wisecompass.catalogue.solids.edges import Edge, Pair, Sight, edges_of, shown
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.view import View
from wisecompass.geometry.curves import Pair as Spot
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3

Map: TypeAlias = Callable[[Point3], Spot]
"""Where a view shows a point of the solid's own frame, in floats."""

SAMPLED = 96
"""Straight pieces by which a hatching follows a curve."""


def line_in(d: Drawn, shape: View, side: View) -> None:
    """Line in front, top and side view of what is left and the true shape, and hatch the section."""
    b = d.sheet.b
    show_in_space(d)
    sectional = showing(d, side)
    section = [sectional.images[name] for name in d.plan.section]
    true = [shape.images[name] for name in d.plan.section]
    if d.sheet.g.is_round:
        _round(d, shape, side)
        b.hatch(section, _outline(d, _from_above(d)), why="the section, seen from above")
        b.hatch(true, _outline(d, _fitted(d, shape)), why="the true shape")
        return
    line_in_flat(d, ((Sight.FRONT, d.one.up), (Sight.TOP, d.one.low), (Sight.LEFT, side)))
    b.hatch(section, why=f"the section in the {sectional.title}")
    b.line_in(*pairwise([*true, true[0]]), why="the true shape")
    b.caution("Join the points in their order round the section; skipped or crossed, the shape is another.")
    b.hatch(true, why="the true shape")


def show_in_space(d: Drawn) -> None:
    """What is left and what is taken away, in the picture in space."""
    b = d.sheet.b
    for a, c in edges_of(d.sheet.g):
        b.in_space(a, c, Pen.CONSTRUCTION)
    for face in d.plan.faces.values():
        for a, c in pairwise([*face, face[0]]):
            b.in_space(a, c)
    for a, c in pairwise([*d.plan.section, *d.plan.section[:1]]):
        b.in_space(a, c)


def line_in_flat(d: Drawn, views: Sequence[tuple[Sight, View]]) -> None:
    """Line in some views of a solid with flat faces: what is left, its hidden edges, and thin what is taken away."""
    b, low = d.sheet.b, d.one.low
    hidden: list[Pair] = []
    for sight, view in views:
        edges = shown([(view, _edges_left(d, sight))])
        b.line_in(*edges.seen, why=f"the {sight.title} of what is left")
        hidden += edges.hidden
    if hidden:
        b.line_in(*hidden, pen=Pen.HIDDEN, why="the edges behind, dashed and thin")
    thin = shown([(view, dict.fromkeys(_taken_away(d), True)) for view in (d.one.up, low)]).seen
    if thin:
        b.line_in(*thin, pen=Pen.CONSTRUCTION, why="what is taken away stays thin")


def line_in_round(d: Drawn) -> None:
    """Line in front and top view of a round solid whose plane leaves it by its round side only."""
    b, g, low = d.sheet.b, d.sheet.g, d.one.low.images
    b.line_in(*_silhouette(d, d.one.up.images, (0, g.corners // 2), {}), why="the front view of what is left")
    rim = low[g.base_letters[0]]
    b.line_in_arc(low[MIDDLE], rim, rim, name=f"rim about {low[MIDDLE].name}", pen=base_pen(d))
    if not g.is_straight and d.plan.section:
        names = list(d.plan.section)
        through = [low[name] for name in names] + list(d.minor or ())
        curve = _curve(d, _from_above(d), 0.0, math.tau)
        b.fair_curve(curve, through, "section in the top view", closed=True, why="in the order of the generators")


def showing(d: Drawn, side: View) -> View:
    """The view that shows the section as a face: from above, of an upright plane from in front, or from the side where the
    plane is square to VP as well."""
    if not d.sheet.g.is_upright:
        return d.one.low
    on_edge = abs(roughly(d.trace.dx)) < 1e-9 * abs(roughly(d.trace.dy))
    return side if on_edge else d.one.up


def _edges_left(d: Drawn, sight: Sight) -> dict[Edge, bool]:
    """The edges of what is left, and whether a face that is seen meets in them."""
    g, p = d.sheet.g, d.plan

    def facing(h: Any) -> Sequence[Number]:
        zero = h.height * 0
        down, up = Point3(zero, zero, zero - 1), Point3(zero, zero, zero + 1)
        return [sight.facing(way) for way in (down, up, h.across_plane, *side_normals(h, begin(h)))]

    signs = g.decide_all(facing, rational=False)
    names = ["base", "end", "section", *(f"side {k}" for k in range(g.sides))]
    seen = {name for name, sign in zip(names, signs, strict=True) if sign > 0}
    found: dict[Edge, bool] = {}
    for face, loop in p.faces.items():
        for a, c in pairwise([*loop, loop[0]]):
            key = (a, c) if (a, c) in found or (c, a) not in found else (c, a)
            found[key] = found.get(key, False) or face in seen
    return found


def _taken_away(d: Drawn) -> list[Edge]:
    """The edges above the plane; of those that it cuts only the lines that are there already."""
    signs = d.plan.signs
    return [(a, c) for a, c in edges_of(d.sheet.g) if min(signs[a], signs[c]) >= 0 and max(signs[a], signs[c]) > 0]


# ------------------------------------------------------------------------------------------------------------------ round
def _round(d: Drawn, shape: View, side: View) -> None:
    b, g, p, up, low = d.sheet.b, d.sheet.g, d.plan, d.one.up.images, d.one.low.images
    rims = {edge[1]: name for name, edge in p.cut.items() if edge[0] in RIMS}
    b.line_in(*_silhouette(d, up, (0, 4), rims), why="the front view of what is left")
    for (middle, row, rim), whole in zip(
        ((MIDDLE, g.base_letters, "base"), (END_MIDDLE, g.end_letters, "end")), (not p.base_cut, False), strict=True
    ):
        cut = p.base_cut if rim == "base" else p.end_cut
        if not (whole or cut) or (rim == "end" and g.is_straight):
            continue
        first, last = (low[row[0]],) * 2 if whole else (low[rims[RIMS[rim][0]]], low[rims[RIMS[rim][1]]])
        pen = base_pen(d) if rim == "base" else Pen.OUTLINE
        b.line_in_arc(low[middle], first, last, name=f"rim about {low[middle].name}", pen=pen)
    chords = [(low[rims[names[0]]], low[rims[names[1]]]) for names in RIMS.values() if names[0] in rims]
    if chords:
        b.line_in(*chords, why="where the plane leaves through a flat end")
    b.line_in(*_silhouette(d, side.images, (2, 6), rims), why="the side view of what is left")
    more = list(d.minor or ())
    for view, where, extra in (
        (d.one.low, _from_above(d), more),
        (side, _fitted(d, side), []),
        (shape, _fitted(d, shape), []),
    ):
        for names, start, end in _arcs(d):
            through = [view.images[name] for name in names] + extra
            title = f"section in the {view.title}" + (f" {names[0]}" if len(_arcs(d)) > 1 else "")
            closed = not (p.base_cut or p.end_cut)
            b.fair_curve(_curve(d, where, start, end), through, title, closed=closed, why="in the order of the generators")
    if chords:
        ends = [(shape.images[rims[names[0]]], shape.images[rims[names[1]]]) for names in RIMS.values() if names[0] in rims]
        b.line_in(*ends, why="the true shape")


def base_pen(d: Drawn) -> Pen:
    """The pen of what is seen of the base from above: one that is wider at its other end hides it."""
    return Pen.HIDDEN if d.sheet.g.widens else Pen.OUTLINE


def _silhouette(d: Drawn, images: dict[str, Point], generators: tuple[int, int], rims: dict[str, str]) -> list[Pair]:
    """Straight outlines of a view: the two generators that bound it as far as they are left, base and end, and in the front
    view the plane."""
    g, p, found = d.sheet.g, d.plan, []
    cut = {edge[0]: name for name, edge in p.cut.items() if len(edge) == 2 and edge[0] in g.base_letters}
    feet = []
    for k in generators:
        letter = g.base_letters[k]
        if p.signs[letter] <= 0:
            feet.append(images[letter])
            found.append((images[letter], images[cut.get(letter, d.upper(letter) if p.signs[letter] < 0 else letter)]))
    front = generators[0] == 0
    if front and "X1" in rims:
        feet.append(images[rims["X1"]])
    found += list(pairwise(feet))
    if "Z1" in rims:
        found.append((images[rims["Z1"]], images[d.upper("A")] if front else images[rims["Z2"]]))
    if front and not p.section:
        right, left = (images[d.upper(g.base_letters[k])] for k in generators)
        found.append((right, left))
    elif front:
        ends = sorted(p.section, key=lambda name: roughly(images[name].x))
        found.append((images[ends[0]], images[ends[-1]]))
    return [pair for pair in found if pair[0] is not pair[1]]


def _arcs(d: Drawn) -> list[tuple[list[str], float, float]]:
    """The arcs of the curve: the names on each in their order, and between which directions from the axis it runs."""
    p, section = d.plan, list(d.plan.section)
    h = d.sheet.g.bound_in(PLAIN)
    far = {edge[1]: name for name, edge in p.cut.items() if edge[0] in RIMS}
    turn = {key: _direction(place(h, p.cut[name])) for key, name in far.items()}
    if not far:
        return [(section, 0.0, math.tau)]
    if p.base_cut and p.end_cut:
        first, second = section.index(far["Z1"]), section.index(far["Z2"])
        ahead, behind = section[: first + 1], section[second:]
        return [(ahead, turn["X1"], turn["Z1"]), (behind, turn["Z2"], turn["X2"])]
    if p.base_cut:
        return [(section, turn["X1"], turn["X2"])]
    at = section.index(far["Z2"])
    return [(section[at:] + section[:at], turn["Z2"] % math.tau, turn["Z1"] % math.tau)]


def _direction(p: Point3) -> float:
    return math.atan2(-roughly(p.front), roughly(p.x))


def _curve(d: Drawn, where: Map, start: float, end: float) -> Callable[[], list[tuple[Parametric, Pen]]]:
    """The curve between two directions from the axis, as a view shows it."""

    def curve() -> list[tuple[Parametric, Pen]]:
        at = _point(d)

        def place(t: float) -> Spot:
            return where(at(t))

        def velocity(t: float) -> Spot:
            (x1, y1), (x2, y2) = where(at(t - TINY)), where(at(t + TINY))
            return (x2 - x1) / (2 * TINY), (y2 - y1) / (2 * TINY)

        return [(Parametric(place, velocity, start, end, 8), Pen.OUTLINE)]

    return curve


TINY = 1e-5
"""Radians between which a velocity is read off."""


def _point(d: Drawn) -> Callable[[float], Point3]:
    """The point of the curve in a direction from the axis, anticlockwise as seen from above, in radians."""
    h = d.sheet.g.bound_in(PLAIN)
    k = conic(h, d.plan)
    radius, c, q = float(k.at_axis), float(k.c), float(-k.q if k.mirrored else k.q)
    rise, level = float(k.s) / c, float(h.plane_height)

    def at(t: float) -> Point3:
        rho = radius * c / (c + q * math.cos(t))
        x = rho * math.cos(t)
        return Point3(x, -rho * math.sin(t), level + x * rise)

    return at


def _from_above(d: Drawn) -> Map:
    k = d.one.low.images[MIDDLE]
    x, y = roughly(k.x), roughly(k.y)
    return lambda p: (x + float(p.x), y - float(p.front))


def _fitted(d: Drawn, view: View) -> Map:
    """A view's map, from three points of the section that it shows: the plane is seen in it as an affine picture."""
    h = d.sheet.g.bound_in(PLAIN)
    names = list(d.plan.section)
    flat = {name: place(h, d.plan.cut[name]) for name in names}
    spots = {name: (float(flat[name].x), float(flat[name].front)) for name in names}
    a = names[0]
    u = max(names, key=lambda n: math.dist(spots[n], spots[a]))

    def spread(n: str) -> float:
        (x0, y0), (x1, y1), (x2, y2) = spots[a], spots[u], spots[n]
        return abs((x1 - x0) * (y2 - y0) - (y1 - y0) * (x2 - x0))

    v = max(names, key=spread)
    (x0, y0), (x1, y1), (x2, y2) = spots[a], spots[u], spots[v]
    shown = [(roughly(view.images[n].x), roughly(view.images[n].y)) for n in (a, u, v)]
    size = (x1 - x0) * (y2 - y0) - (y1 - y0) * (x2 - x0)

    def where(p: Point3) -> Spot:
        x, y = float(p.x) - x0, float(p.front) - y0
        s, t = (x * (y2 - y0) - y * (x2 - x0)) / size, (y * (x1 - x0) - x * (y1 - y0)) / size
        (ax, ay), (bx, by), (cx, cy) = shown
        return ax + (bx - ax) * s + (cx - ax) * t, ay + (by - ay) * s + (cy - ay) * t

    return where


def _outline(d: Drawn, where: Map) -> Callable[[], list[Spot]]:
    """The section's outline as corners near enough for hatching."""

    def outline() -> list[Spot]:
        at = _point(d)
        return [where(at(start + (end - start) * k / SAMPLED)) for _, start, end in _arcs(d) for k in range(SAMPLED + 1)]

    return outline
