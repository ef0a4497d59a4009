"""How two faces are made to meet on the sheet: the views that serve, their common line in them, and its ends."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from itertools import combinations
from typing import Any

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.space.cutting import crossed, cut_of, fold_between
from wisecompass.catalogue.space.planes import Names, farthest, given, place
from wisecompass.catalogue.space.two_faces import ALL, FIRST, SECOND, Common, Spot, line_direction
from wisecompass.drafting.auxiliary import auxiliary, carry_back
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.view import Triple, View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Pair
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3

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
    served: dict[tuple[int, int], tuple[dict[str, list[tuple[str, str]]], dict[str, float]]] = field(default_factory=dict)
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
    return [pair for pair in (*own, *across) if length(top, *pair) > TINY]


def floats(at: Point3) -> Triple:
    return float(at.x), float(at.front), float(at.above)


def length(view: View, p: str, q: str) -> float:
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
        return all(run(top, spot, fold) > TINY for spot in edges)
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
        x, front, above = floats(given(flat, name))
        along, across = x * ux - front * uy, -x * uy - front * ux
        top.images[name], other.images[name] = Point(along, across, name), Point(along, above, name)
    here = Point(0.0, 0.0)
    top.away[other], other.away[top] = Line(here, 1.0, 0.0), Line(here, 1.0, 0.0)
    trial = Meeting(views, top, other, flat, how)
    return _edge_seen(trial) is not None or way.serves(trial)


def run(top: View, spot: Spot, fold: Pair) -> float:
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
