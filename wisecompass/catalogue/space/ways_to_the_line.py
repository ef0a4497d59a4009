"""Two ways to points of the common line of two faces: cutting both with planes, or following edges to where they pierce."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Any

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.space.cutting import crossed, cut_of, fold_between, outside, pierce
from wisecompass.catalogue.space.meeting import TINY, Meeting, Way, floats, length, run
from wisecompass.catalogue.space.planes import Names, given
from wisecompass.catalogue.space.two_faces import ALL, FIRST, SECOND, any_place, line_direction, side
from wisecompass.drafting.view import Triple, View
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line


def _by_cuts(m: Meeting) -> None:
    """Level planes cut both faces in level lines, which meet on the common line; where that is level itself, planes
    parallel with VP do."""
    b, views = m.views.board, m.views
    family = _family(m)
    if family is None:
        b.step_reason("No two cutting planes serve here, so the edges are followed to where they pierce")
        _by_piercing(m)
        return
    drawn, met = family
    if drawn is m.top:
        why = (
            "The common line is level: level cuts would never meet" if m.how.level else "No level plane cuts both faces well"
        )
        b.step_reason(f"{why}, so the faces are cut with planes parallel to that of the {met.title}")
    else:
        b.step_reason("Cut both faces with level planes: each cut is a level line of its face")
    levels = _levels(m, drawn, met)
    named = [("K", "L", "M", "N", "I"), ("P", "Q", "R", "U", "J")]
    if m.how.shared:
        corner = m.how.shared[0][0]
        b.step_reason(f"The faces share {corner}: it is one point of the common line")
        views.alias("I", corner)
        named, levels = named[1:], levels[:1]
    for corner, marks in zip(levels, named, strict=True):
        level = views.level(drawn, met, corner, why="the cutting plane on edge")
        cuts = []
        for names, (one, two) in ((FIRST, marks[:2]), (SECOND, marks[2:4])):
            cuts.append(cut_of(views, drawn, met, names, level, (one, two)))
        b.caution("Cuts that cross only beyond the faces still give a point of the common line: extend them.")
        views.mark(met, marks[4], *cuts)
        views.project(marks[4], met, drawn, level)
    m.lines = {view: views.join(view, "I", "J", why="the common line") for view in m.pair}


def _family(m: Meeting) -> tuple[View, View] | None:
    """The view in which cutting planes are on edge and the one in which their cuts meet: level planes if they serve, else
    planes parallel with that of the other view."""
    if not m.how.level and _enough(m, m.other, m.top):
        return m.other, m.top
    fx, fy = fold_between(m.top, m.other)
    u = line_direction(m.flat)
    right, up = m.top.right, m.top.up
    dx = sum(a * b for a, b in zip(floats(u), right, strict=True))
    dy = sum(a * b for a, b in zip(floats(u), up, strict=True))
    crosses = abs(dx * fy - dy * fx) > TINY * math.hypot(fx, fy) * math.hypot(dx, dy)
    return (m.top, m.other) if crosses and _enough(m, m.top, m.other) else None


def _enough(m: Meeting, drawn: View, met: View) -> bool:
    """Whether there are levels enough for the points that are needed."""
    serving, away = _serving(m, drawn, met)
    heights = sorted(away[name] for name in serving)
    return bool(heights) and (bool(m.how.shared) or heights[-1] - heights[0] > TINY)


def _serving(m: Meeting, drawn: View, met: View) -> tuple[dict[str, list[tuple[str, str]]], dict[str, float]]:
    """Corners whose level cuts both faces, with the edges that it crosses, none at the level of a shared corner; and how
    high each corner is."""
    key = (id(drawn), id(met))
    if key not in m.served:
        m.served[key] = _looked_for(m, drawn, met)
    return m.served[key]


def _looked_for(m: Meeting, drawn: View, met: View) -> tuple[dict[str, list[tuple[str, str]]], dict[str, float]]:
    fold, along = drawn.away[met], fold_between(drawn, met)
    away = {name: roughly(plane.distance_to_line(drawn.images[name], fold)) for name in ALL}
    size = max(away.values()) - min(away.values()) or 1.0
    known = [away[m.how.shared[0][0]]] if m.how.shared else []
    serving = {}
    for corner in ALL:
        if all(abs(away[corner] - height) > TINY * size for height in known):
            cut = Line(drawn.images[corner], fold.dx, fold.dy)
            edges = [crossed(drawn, along, names, cut) for names in (FIRST, SECOND)]
            if all(edges):
                serving[corner] = [*edges[0], *edges[1]]
    return serving, away


def _cuts_serve(m: Meeting) -> bool:
    return _family(m) is not None or _piercing_serves(m)


def _levels(m: Meeting, drawn: View, met: View) -> list[str]:
    """Corners through which the cutting planes go: within both faces if possible, and far apart."""
    fold = drawn.away[met]
    serving, _ = _serving(m, drawn, met)
    spots = {name: _place_at(m, drawn, fold, name) for name in serving}
    middle = _middle(m.flat)
    reach = max(math.dist(floats(given(m.flat, name)), middle) for name in ALL)

    def good(name: str) -> float:
        """Less by how far outside its edges the level cuts the faces, and how far outside the figure the cuts meet."""
        cut = Line(drawn.images[name], fold.dx, fold.dy)
        beyond = sum(outside(drawn, cut, edge) for edge in serving[name])
        return -beyond - 3 * max(0.0, math.dist(spots[name], middle) / reach - 1.0)

    goods = {name: good(name) for name in serving}
    if m.how.shared:
        return [max(serving, key=goods.__getitem__)]

    def worth(two: Sequence[str]) -> tuple[bool, float]:
        apart = math.dist(spots[two[0]], spots[two[1]])
        return apart > 0.05 * reach, goods[two[0]] + goods[two[1]] + apart / reach

    pairs = [list(two) for two in combinations(serving, 2)]
    return max(pairs, key=worth)


def _middle(flat: Any) -> Triple:
    """The middle of all corners."""
    corners = [floats(given(flat, name)) for name in ALL]
    x, front, above = (sum(values) / len(ALL) for values in zip(*corners, strict=True))
    return x, front, above


def _place_at(m: Meeting, view: View, fold: Line, corner: str) -> Triple:
    """Where the common line comes to the level of a corner, for planning."""
    start, u = floats(any_place(m.flat)), floats(line_direction(m.flat))
    axis = view.space(-roughly(fold.dy), roughly(fold.dx))
    at = floats(given(m.flat, corner))
    pace = sum(a * b for a, b in zip(axis, u, strict=True))
    share = sum(a * (p - q) for a, p, q in zip(axis, at, start, strict=True)) / pace if pace else math.inf
    x, front, above = (p + q * share for p, q in zip(start, u, strict=True))
    return x, front, above


def _by_piercing(m: Meeting) -> None:
    """Edges of one face go through the other at two points of the common line."""
    b, views = m.views.board, m.views
    b.step_reason("Find where edges of one face pierce the other: two such points give the common line")
    named = [(("K", "L"), "I"), (("M", "N"), "J")]
    edges = _piercing_edges(m)
    if m.how.shared:
        corner = m.how.shared[0][0]
        b.step_reason(f"The faces share {corner}: it is one point of the common line")
        views.alias("I", corner)
        named = named[1:]
    for one, (marks, found) in zip(edges, named, strict=True):
        pierce(views, m.pair, one.names, one.edge, (*marks, found))
    m.lines = {view: views.join(view, "I", "J", why="the common line") for view in m.pair}


@dataclass(frozen=True)
class _Piercing:
    """An edge, the face that it pierces, how far outside its ends, and where."""

    edge: tuple[str, str]
    names: Names
    outside: float
    spot: Triple


def _piercings(m: Meeting) -> list[_Piercing]:
    """The edges of either face whose piercing can be found in these two views; none at a shared corner."""
    along = fold_between(m.top, m.other)
    known = [floats(given(m.flat, m.how.shared[0][0]))] if m.how.shared else []
    found: list[_Piercing] = []
    for names, rest in ((FIRST, SECOND), (SECOND, FIRST)):
        for p, q in combinations(rest, 2):
            one, other = float(side(m.flat, p)), float(side(m.flat, q))
            if abs(one - other) <= TINY * (abs(one) + abs(other)) or length(m.top, p, q) < TINY:
                continue
            if run(m.top, (p, q), along) < TINY or not crossed(m.top, along, names, m.top.line(p, q)):
                continue
            share = one / (one - other)
            start = given(m.flat, p)
            spot = floats(start + (given(m.flat, q) - start).scaled(share))
            if all(math.dist(spot, corner) > 1e-6 for corner in known):
                found.append(_Piercing((p, q), names, max(0.0, -share, share - 1.0), spot))
    return found


def _piercing_serves(m: Meeting) -> bool:
    spots = [found.spot for found in _piercings(m)]
    return bool(spots) if m.how.shared else any(math.dist(p, q) > 1e-6 for p, q in combinations(spots, 2))


def _piercing_edges(m: Meeting) -> list[_Piercing]:
    """One or two of them: inside both faces if possible, and far apart."""
    found = _piercings(m)
    if m.how.shared:
        return [min(found, key=lambda one: one.outside)]

    def worth(two: Sequence[_Piercing]) -> tuple[bool, float, float]:
        apart = math.dist(two[0].spot, two[1].spot)
        return apart > 1e-6, -(two[0].outside + two[1].outside), apart

    return max([list(two) for two in combinations(found, 2)], key=worth)


BY_CUTS, BY_PIERCING = Way(_by_cuts, _cuts_serve), Way(_by_piercing, _piercing_serves)
