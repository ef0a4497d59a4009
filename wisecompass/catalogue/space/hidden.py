"""Lining in two faces that meet: what lies before stays solid, what lies behind is dashed."""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import combinations

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.space.meeting import Meeting
from wisecompass.catalogue.space.planes import place
from wisecompass.catalogue.space.two_faces import ALL, FIRST, SECOND
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Projection
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.view import View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.visibility import Part, Place, seen_parts


def line_in_faces(m: Meeting, ends: bool) -> None:
    """Line in both faces in front and top view: what lies before stays solid, what lies behind is dashed."""
    b, views = m.views.board, m.views
    for view, other in ((views.front_view, views.top_view), (views.top_view, views.front_view)):
        parts = _parts(views, view, other)
        cuts = _Cuts(b, view, [(a, c) for a, c, _ in parts], ends and not m.how.is_a_point)
        named = [f"{a.name}{c.name}" for a, c, shown in parts if any(seen for _, _, seen in shown)]
        behind = [f"{a.name}{c.name}" for a, c, shown in parts if not all(seen for _, _, seen in shown)]
        if ends and not m.how.is_a_point:
            named.append(f"{view.images['S'].name}{view.images['T'].name}")
        for edges, pen, verb in ((named, Pen.OUTLINE, "line in"), (behind, Pen.HIDDEN, "draw edges")):
            if not edges:
                continue
            why = f"the {view.title}" if pen is Pen.OUTLINE else "where the other face lies before them"
            b.step(verb, Instrument.STRAIGHTEDGE, makes=edges, why=why)
            for a, c, shown in parts:
                for low, high, seen in shown:
                    if seen == (pen is Pen.OUTLINE):
                        start, end = (cuts.at(a, c, share) for share in (low, high))
                        b.edge(start, end, pen, f"{a.name}{c.name}")
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


@dataclass
class _Cuts:
    """Where edges of a view pass from seen to hidden: at an end of the common line or where another edge crosses them. Each
    is marked once with a small cross."""

    b: Board
    view: View
    edges: list[tuple[Point, Point]]
    ends: bool
    marked: dict[tuple[int, int, float], Point] = field(default_factory=dict)

    def at(self, a: Point, c: Point, share: float) -> Point:
        """The place at a share of an edge."""
        if share in (0.0, 1.0):
            return c if share else a
        key = (id(a), id(c), share)
        if key not in self.marked:
            self.marked[key] = self._crossing(a, c, share)
        return self.marked[key]

    def _crossing(self, a: Point, c: Point, share: float) -> Point:
        spot = Point(a.x + (c.x - a.x) * share, a.y + (c.y - a.y) * share)
        near = SAME * (abs(roughly(c.x - a.x)) + abs(roughly(c.y - a.y)))
        for name in ("S", "T") if self.ends else ():
            if roughly(plane.distance(self.view.images[name], spot)) < near:
                return self.view.images[name]
        for p, q in self.edges:
            if p is a or p is c or q is a or q is c:
                continue
            first, second = Line.through(a, c), Line.through(p, q)
            if roughly(first.dx * second.dy - first.dy * second.dx) == 0:
                continue
            found = plane.meet_lines(first, second)
            if roughly(plane.distance(found, spot)) < near:
                return self.b.meet(first, second)
        return spot


SAME = 1e-7
"""Places nearer than this share of an edge are the same."""
