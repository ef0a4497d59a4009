"""Lining in two faces that meet: what lies before stays solid, what lies behind is dashed."""

from __future__ import annotations

from itertools import combinations

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.space.meeting import Meeting
from wisecompass.catalogue.space.planes import place
from wisecompass.catalogue.space.two_faces import ALL, FIRST, SECOND
from wisecompass.drafting.conventions import Projection
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.view import View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point
from wisecompass.geometry.visibility import Part, Place, seen_parts


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
