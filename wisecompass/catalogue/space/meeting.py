"""How two faces are made to meet on the sheet: their common line in two adjacent views, its ends, and what hides what."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from itertools import combinations
from typing import Any

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.space.planes import Names, crossed, cut_of, farthest, fold_between, given, outside, pierce, place
from wisecompass.catalogue.space.two_faces import ALL, FIRST, SECOND, Common, Spot, any_place, line_direction, side
from wisecompass.drafting.auxiliary import auxiliary, carry_back
from wisecompass.drafting.conventions import Projection
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.view import Triple, View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Pair
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3
from wisecompass.geometry.visibility import Part, Place, seen_parts

TINY = 1e-9


@dataclass
class Meeting:
    """The work in hand: both views that it is done in, the givens as floats for planning, and the line found so far.

    ``lines`` holds its image in either view; ``points`` are two of its points that front and top view show too."""

    views: Views
    top: View
    other: View
    flat: Any
    how: Common
    lines: dict[View, Line] = field(default_factory=dict)
    points: tuple[str, str] = ("I", "J")
    served: dict[tuple[int, int], tuple[list[str], dict[str, float]]] = field(default_factory=dict)
    """What ``_serving`` has found for a pair of views."""

    @property
    def pair(self) -> tuple[View, View]:
        return self.top, self.other


@dataclass(frozen=True)
class Way:
    """A method's own way to the common line, and whether two views serve it."""

    draw: Callable[[Meeting], None]
    serves: Callable[[Meeting], bool]


def meeting(views: Views, flat: Any, how: Common, way: Way) -> Meeting:
    """Begin: the front view is worked in, unless lines that are needed stand square to XY or the common line runs along
    it; then an auxiliary view takes its place."""
    top = views.top_view
    other = views.front_view
    choices: list[tuple[str, str] | None] = [None, *_plan_lines(top)]
    for pair in choices:
        direction = top.line(*pair) if pair else top.away[other]
        fold = (roughly(direction.dx), roughly(direction.dy))
        if _useful(top, fold, flat, how) and _serves(views, fold, flat, how, way):
            if pair is not None:
                why = "instead of the front view, in which a face or the common line stands along the projectors"
                other = auxiliary(views, top, direction, _once(top, ALL), before=other, why=why)
                share(other, top)
            break
    return Meeting(views, top, other, flat, how)


def _once(view: View, names: Iterable[str]) -> list[str]:
    """Names without those that share another's image."""
    found: dict[int, str] = {}
    for name in names:
        found.setdefault(id(view.images[name]), name)
    return list(found.values())


def share(new: View, view: View) -> None:
    """Names that share an image in one view share it in another."""
    twins = {id(image): name for name, image in view.images.items() if name in new.images}
    for name, image in view.images.items():
        if name not in new.images and id(image) in twins:
            new.images[name] = new.images[twins[id(image)]]


def _plan_lines(top: View) -> list[tuple[str, str]]:
    """Lines of the top view along which a fold might run: edges first, then joins of corners of both faces."""
    own = [pair for names in (FIRST, SECOND) for pair in combinations(names, 2)]
    across = [(p, q) for p in FIRST for q in SECOND]
    return [pair for pair in (*own, *across) if _length(top, *pair) > TINY]


def _length(view: View, p: str, q: str) -> float:
    return math.dist(place(view.images[p]), place(view.images[q]))


def _useful(top: View, fold: Pair, flat: Any, how: Common) -> bool:
    """Whether neither a face on edge in the top view nor the common line stands along the projectors, and the line does
    not run along the fold where it is level."""
    size = math.hypot(*fold)
    for names in (FIRST, SECOND):
        if _on_edge(top, names):
            p, q = farthest(top, names)
            (x1, y1), (x2, y2) = place(top.images[p]), place(top.images[q])
            if abs((x2 - x1) * fold[0] + (y2 - y1) * fold[1]) < TINY * size * math.hypot(x2 - x1, y2 - y1):
                return False
    if how.upright:
        edges = [spot for spot in (how.start, how.end) if spot is not None and len(spot) == 2]
        return all(_run(top, spot, fold) > TINY for spot in edges)
    u = line_direction(flat)
    dx, dy = float(u.x), -float(u.front)
    length = math.hypot(dx, dy)
    along, across = abs(dx * fold[0] + dy * fold[1]), abs(dx * fold[1] - dy * fold[0])
    return along > TINY * size * length and not (how.level and across < TINY * size * length)


def _serves(views: Views, fold: Pair, flat: Any, how: Common, way: Way) -> bool:
    """Whether the top view and a view off it along this fold will do, tried on the givens as floats."""
    if len(how.shared) > 1 or how.upright:
        return True
    size = math.hypot(*fold)
    ux, uy = fold[0] / size, fold[1] / size
    top = View("", str, (ux, -uy, 0.0), (-uy, -ux, 0.0))
    other = View("", str, top.right, (0.0, 0.0, 1.0))
    for name in ALL:
        x, front, above = _floats(given(flat, name))
        along, across = x * ux - front * uy, -x * uy - front * ux
        top.images[name], other.images[name] = Point(along, across, name), Point(along, above, name)
    here = Point(0.0, 0.0)
    top.away[other], other.away[top] = Line(here, 1.0, 0.0), Line(here, 1.0, 0.0)
    trial = Meeting(views, top, other, flat, how)
    return _edge_seen(trial) is not None or way.serves(trial)


def _run(top: View, spot: Spot, fold: Pair) -> float:
    (x1, y1), (x2, y2) = (place(top.images[name]) for name in spot)
    return abs((x2 - x1) * fold[0] + (y2 - y1) * fold[1]) / (math.hypot(*fold) * (math.hypot(x2 - x1, y2 - y1) or 1.0))


def _on_edge(view: View, names: Names) -> bool:
    """Whether a view shows a face as a line."""
    (ax, ay), (bx, by), (cx, cy) = (place(view.images[name]) for name in names)
    size = max(math.dist((ax, ay), (bx, by)), math.dist((bx, by), (cx, cy)), math.dist((cx, cy), (ax, ay)))
    return abs((bx - ax) * (cy - ay) - (by - ay) * (cx - ax)) < TINY * size * size


# ------------------------------------------------------------------------------------------------------ the common line
def find_line(m: Meeting, way: Way) -> None:
    """The common line in both views: by what the faces share or show on edge, else by the method's own way."""
    b, views = m.views.board, m.views
    if len(m.how.shared) > 1:
        m.points = (m.how.shared[0][0], m.how.shared[1][0])
        b.step_reason(f"The faces share {m.points[0]} and {m.points[1]}: their common line is there already")
        m.lines = {view: views.line_of(view, *m.points) for view in m.pair}
    elif m.how.upright:
        _upright(m)
    elif (edge := _edge_seen(m)) is not None:
        _from_edge(m, *edge)
    else:
        way.draw(m)
    if m.other in views.references and not m.how.upright:
        for name in m.points:
            if name not in views.front_view.images:
                carry_back(views, name, m.other)
    for name in m.points:
        if name in views.front_view.images and name in views.top_view.images:
            views.know(name)


def _edge_seen(m: Meeting) -> tuple[View, View, Names] | None:
    """A view that shows a face on edge where the other face can be crossed, the other view, and that face."""
    for view, other in ((m.top, m.other), (m.other, m.top)):
        for names, rest in ((FIRST, SECOND), (SECOND, FIRST)):
            if _on_edge(view, names):
                line = view.line(*farthest(view, names))
                if crossed(view, fold_between(view, other), rest, line):
                    return view, other, names
    return None


def _upright(m: Meeting) -> None:
    """Both faces stand on edge in the top view: the line is the point where they cross."""
    b, views = m.views.board, m.views
    b.step_reason("The top view shows both faces on edge: the common line is upright, a point there")
    one, two = (views.line_of(m.top, *farthest(m.top, names)) for names in (FIRST, SECOND))
    views.mark(m.top, "I", one, two)
    image, fold = m.top.images["I"], m.top.away[m.other]
    b.step(
        "project", Instrument.SET_SQUARE, on=(image.name,), makes=["common line"], why="the common line in the other view"
    )
    m.lines[m.other] = b.ruled(Line(image, -fold.dy, fold.dx, "common line"), image, Pen.PROJECTOR)
    m.points = ("I", "I")


def _from_edge(m: Meeting, view: View, other: View, names: Names) -> None:
    """One view shows a face on edge, and so the common line on it: where it crosses the other face is seen at once."""
    b, views = m.views.board, m.views
    rest = SECOND if names == FIRST else FIRST
    b.step_reason(f"The {view.title} shows {''.join(names)} on edge: the common line lies on it, no cutting plane is needed")
    line = views.line_of(view, *farthest(view, names))
    m.lines[view] = line
    m.lines[other] = cut_of(views, view, other, rest, line, ("I", "J"))
    if "I" not in view.images:
        _points_along(m, view, other, rest)


def _points_along(m: Meeting, view: View, other: View, rest: Names) -> None:
    """Two points of a line that goes through a corner of the other face and runs with its opposite edge."""
    b, views = m.views.board, m.views
    corner = min(rest, key=lambda n: abs(roughly(plane.distance_to_line(view.images[n], m.lines[view]))))
    p, q = (n for n in rest if n != corner)
    views.alias("I", corner)
    reach = plane.distance(view.images[p], view.images[q])
    view.images["J"] = b.lay_off(m.lines[view], view.images[corner], reach, view.label("J"), why="any length along it")
    views.project("J", view, other, m.lines[other])


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
    dx = sum(a * b for a, b in zip(_floats(u), right, strict=True))
    dy = sum(a * b for a, b in zip(_floats(u), up, strict=True))
    crosses = abs(dx * fy - dy * fx) > TINY * math.hypot(fx, fy) * math.hypot(dx, dy)
    return (m.top, m.other) if crosses and _enough(m, m.top, m.other) else None


def _enough(m: Meeting, drawn: View, met: View) -> bool:
    """Whether there are levels enough for the points that are needed."""
    serving, away = _serving(m, drawn, met)
    heights = sorted(away[name] for name in serving)
    return bool(heights) and (bool(m.how.shared) or heights[-1] - heights[0] > TINY)


def _serving(m: Meeting, drawn: View, met: View) -> tuple[list[str], dict[str, float]]:
    """Corners whose level cuts both faces, none at the level of a shared corner, and how high each corner is."""
    key = (id(drawn), id(met))
    if key not in m.served:
        m.served[key] = _looked_for(m, drawn, met)
    return m.served[key]


def _looked_for(m: Meeting, drawn: View, met: View) -> tuple[list[str], dict[str, float]]:
    fold, along = drawn.away[met], fold_between(drawn, met)
    away = {name: roughly(plane.distance_to_line(drawn.images[name], fold)) for name in ALL}
    size = max(away.values()) - min(away.values()) or 1.0
    known = [away[m.how.shared[0][0]]] if m.how.shared else []

    def crosses(corner: str) -> bool:
        cut = Line(drawn.images[corner], fold.dx, fold.dy)
        return all(crossed(drawn, along, names, cut) for names in (FIRST, SECOND))

    serving = [n for n in ALL if all(abs(away[n] - height) > TINY * size for height in known) and crosses(n)]
    return serving, away


def _cuts_serve(m: Meeting) -> bool:
    return _family(m) is not None or _piercing_serves(m)


def _levels(m: Meeting, drawn: View, met: View) -> list[str]:
    """Corners through which the cutting planes go: within both faces if possible, and far apart."""
    fold, along = drawn.away[met], fold_between(drawn, met)
    serving, _ = _serving(m, drawn, met)
    spots = {name: _place_at(m, drawn, fold, name) for name in serving}
    middle = _middle(m.flat)
    reach = max(math.dist(_floats(given(m.flat, name)), middle) for name in ALL)

    def good(name: str) -> float:
        """Less by how far outside its edges the level cuts the faces, and how far outside the figure the cuts meet."""
        cut = Line(drawn.images[name], fold.dx, fold.dy)
        beyond = sum(outside(drawn, cut, pair) for names in (FIRST, SECOND) for pair in crossed(drawn, along, names, cut))
        return -beyond - 3 * max(0.0, math.dist(spots[name], middle) / reach - 1.0)

    goods = {name: good(name) for name in serving}
    if m.how.shared:
        return [max(serving, key=goods.__getitem__)]

    def worth(two: Sequence[str]) -> tuple[bool, float]:
        apart = math.dist(spots[two[0]], spots[two[1]])
        return apart > 0.05 * reach, goods[two[0]] + goods[two[1]] + apart / reach

    pairs = [list(two) for two in combinations(serving, 2)]
    return max(pairs, key=worth)


def _floats(at: Point3) -> Triple:
    return float(at.x), float(at.front), float(at.above)


def _middle(flat: Any) -> Triple:
    """The middle of all corners."""
    corners = [_floats(given(flat, name)) for name in ALL]
    x, front, above = (sum(values) / len(ALL) for values in zip(*corners, strict=True))
    return x, front, above


def _place_at(m: Meeting, view: View, fold: Line, corner: str) -> Triple:
    """Where the common line comes to the level of a corner, for planning."""
    start, u = _floats(any_place(m.flat)), _floats(line_direction(m.flat))
    axis = view.space(-roughly(fold.dy), roughly(fold.dx))
    at = _floats(given(m.flat, corner))
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
    known = [_floats(given(m.flat, m.how.shared[0][0]))] if m.how.shared else []
    found: list[_Piercing] = []
    for names, rest in ((FIRST, SECOND), (SECOND, FIRST)):
        for p, q in combinations(rest, 2):
            one, other = float(side(m.flat, p)), float(side(m.flat, q))
            if abs(one - other) <= TINY * (abs(one) + abs(other)) or _length(m.top, p, q) < TINY:
                continue
            if _run(m.top, (p, q), along) < TINY or not crossed(m.top, along, names, m.top.line(p, q)):
                continue
            share = one / (one - other)
            start = given(m.flat, p)
            spot = _floats(start + (given(m.flat, q) - start).scaled(share))
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


# -------------------------------------------------------------------------------------------------------------- its ends
def mark_ends(m: Meeting) -> bool:
    """Cut the common line down to the part within both faces; False where there is none."""
    b, views = m.views.board, m.views
    if m.how.start is None or m.how.end is None:
        b.step_reason("No part of the common line lies within both faces: they meet only where they are extended")
        return False
    b.step_reason("The common line ends where it leaves either face")
    b.caution("The line is not drawn beyond where both faces exist.")
    _mark_end(m, "S", m.how.start)
    if m.how.is_a_point:
        views.alias("T", "S")
    else:
        _mark_end(m, "T", m.how.end)
    return True


def _mark_end(m: Meeting, name: str, spot: Spot) -> None:
    views = m.views
    if len(spot) == 1:
        views.alias(name, spot[0])
        return
    p, q = spot
    if m.how.upright:
        views.alias_in(m.top, name, "I")
        views.project(name, m.top, m.other, views.line_of(m.other, p, q))
    else:
        view = max(m.pair, key=lambda v: _turn(v, p, q, m.lines[v]))
        rest = m.other if view is m.top else m.top
        m.views.board.step_reason(f"It leaves the face at {p}{q}")
        views.mark(view, name, m.lines[view], views.line_of(view, p, q))
        views.project(name, view, rest, m.lines[rest])
    if m.other in views.references:
        carry_back(views, name, m.other)


def _turn(view: View, p: str, q: str, line: Line) -> float:
    """The sine of the angle at which a view shows an edge crossing the line."""
    (x1, y1), (x2, y2) = place(view.images[p]), place(view.images[q])
    dx, dy = roughly(line.dx), roughly(line.dy)
    return abs((x2 - x1) * dy - (y2 - y1) * dx) / ((math.hypot(x2 - x1, y2 - y1) or 1.0) * (math.hypot(dx, dy) or 1.0))


# ----------------------------------------------------------------------------------------------------------- visibility
def line_in_faces(m: Meeting, ends: bool) -> None:
    """Line in both faces in front and top view: what lies before stays solid, what lies behind is dashed."""
    b, views = m.views.board, m.views
    for view, other in ((views.front_view, views.top_view), (views.top_view, views.front_view)):
        parts = _parts(views, view, other)
        named = [f"{a.name}{c.name}" for a, c, shown in parts if any(seen for _, _, seen in shown)]
        behind = [f"{a.name}{c.name}" for a, c, shown in parts if not all(seen for _, _, seen in shown)]
        if ends and not m.how.is_a_point:
            named.append(f"{view.images['S'].name}{view.images['T'].name}")
        for edges, pen, verb in ((named, Pen.OUTLINE, "line in"), (behind, Pen.HIDDEN, "draw edges")):
            if not edges:
                continue
            why = f"the {view.title}" if pen is Pen.OUTLINE else "where the other face lies before them"
            words = {"edges": ", ".join(edges), "pen": pen.value}
            b.step(verb, Instrument.STRAIGHTEDGE, words=words, makes=edges, why=why)
            for a, c, shown in parts:
                for low, high, seen in shown:
                    if seen == (pen is Pen.OUTLINE):
                        b.edge(_at(a, c, low), _at(a, c, high), pen, f"{a.name}{c.name}")
            if pen is Pen.OUTLINE and ends and not m.how.is_a_point:
                b.edge(view.images["S"], view.images["T"])
    for names in (FIRST, SECOND):
        for p, q in combinations(names, 2):
            b.in_space(p, q)
    if ends:
        b.in_space("S", "T")


def _parts(views: Views, view: View, other: View) -> list[tuple[Point, Point, list[Part]]]:
    """The edges of both faces in a view, each once, cut into what is seen and what is hidden."""
    nearer = 1.0 if views.board.conventions.projection is Projection.FIRST else -1.0
    fold = other.away[view]

    def spot(name: str) -> Place:
        x, y = place(view.images[name])
        return x, y, nearer * roughly(plane.distance_to_line(other.images[name], fold))

    places = {name: spot(name) for name in ALL}
    found: dict[frozenset[int], tuple[Point, Point, list[Part]]] = {}
    for names, rest in ((FIRST, SECOND), (SECOND, FIRST)):
        for p, q in combinations(names, 2):
            a, c = view.images[p], view.images[q]
            shown = seen_parts(places[p], places[q], [[places[n] for n in rest]])
            found.setdefault(frozenset((id(a), id(c))), (a, c, shown))
    return list(found.values())


def _at(a: Point, c: Point, share: float) -> Point:
    if share in (0.0, 1.0):
        return c if share else a
    return Point(a.x + (c.x - a.x) * share, a.y + (c.y - a.y) * share)
