"""What the problems of planes in space share: how a face stands, its level and frontal lines, its edge view and its true
shape, and where a line pierces it.

Everything on the sheet is made of a few operations of descriptive geometry (Monge): a level line of a plane shows its true
length in plan; a view along it shows the plane on edge; a view square to the edge shows its true shape.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Any, TypeAlias

from wisecompass.arithmetic import Number, roughly
from wisecompass.catalogue.space.lines import slope
from wisecompass.drafting import givens
from wisecompass.drafting.auxiliary import auxiliary
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Condition
from wisecompass.drafting.view import View
from wisecompass.drafting.views import Views
from wisecompass.drafting.wording import number_text
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3, cross, dot

Triple: TypeAlias = tuple[Number, Number, Number]
Names: TypeAlias = tuple[str, str, str]

MODEL = "Figures of planes and lines are geometry; roofs, ties and shells answer to local codes and a licensed engineer."


@dataclass(frozen=True)
class PlaneGiven(Givens):
    """Three points of a plane; what is held against it follows."""

    A: Triple = givens.space_point("point A of the plane", "10, 12, 16")
    B: Triple = givens.space_point("point B of the plane", "45, 40, 57")
    C: Triple = givens.space_point("point C of the plane", "102, 15, 24")


def at(place: Triple) -> Point3:
    """A given point as a vector."""
    return Point3(place[0] + 0, place[1] + 0, place[2] + 0)


def given(g: Any, name: str) -> Point3:
    """The given point of that name."""
    return at(getattr(g, name))


def normal(g: Any, names: Sequence[str]) -> Point3:
    """A vector square to the plane of three given points."""
    a, b, c = (given(g, name) for name in names)
    return cross(b - a, c - a)


@dataclass(frozen=True)
class Face:
    """A triangle of given points, and how it stands: the signs of its normal along XY, away from VP and upwards."""

    names: Names
    along: int
    away: int
    up: int

    @property
    def edge_in_front(self) -> bool:
        """The front view shows it on edge."""
        return self.away == 0

    @property
    def edge_in_top(self) -> bool:
        """The top view shows it on edge."""
        return self.up == 0

    @property
    def level(self) -> bool:
        """It is parallel with HP."""
        return not (self.along or self.away)

    @property
    def frontal(self) -> bool:
        """It is parallel with VP."""
        return not (self.along or self.up)


def face(g: Givens, names: Names) -> Face:
    def components(h: Any) -> Triple:
        n = normal(h, names)
        return n.x, n.front, n.above

    return Face(names, *g.decide_all(components))


# ---------------------------------------------------------------------------------------------------------- conditions
def typed_point(place: Sequence[Any]) -> str:
    """A point as it would be typed."""
    return ", ".join(number_text(float(value), 3).replace("−", "-") for value in place)


def moved_along(start: Point3, guide: Point3, choose: Callable[[list[float]], float] = max) -> str:
    """A point moved by 10 mm along the axis in which a direction is longest (``min``: shortest), as typed: the offer for
    a point that must leave a plane or a line."""
    parts = [abs(float(part)) for part in (guide.x, guide.front, guide.above)]
    place = [start.x, start.front, start.above]
    axis = parts.index(choose(parts))
    place[axis] = place[axis] + 10
    return typed_point(place)


def a_triangle(names: Names) -> Condition:
    """Three points that make a triangle."""
    a, b, c = names

    def area(g: Any) -> Number:
        n = normal(g, names)
        return dot(n, n)

    def nearest(g: Any) -> dict[str, str]:
        """The third point moved out of the line of the other two; the second too where it is the first."""
        first, second = given(g, a), given(g, b)
        d = second - first
        moved = {}
        if dot(d, d) == 0:
            second = first + Point3(first.x * 0 + 10, first.x * 0, first.x * 0)
            moved[b] = typed_point((second.x, second.front, second.above))
            d = second - first
        return {**moved, c: moved_along(given(g, c), d, min)}

    return Condition(
        f"{a}, {b} and {c} not in one line",
        area,
        f"{a} {{{a}}}, {b} {{{b}}} and {c} {{{c}}} lie in one line and make no triangle",
        names,
        nearest,
        strict=True,
    )


def two_points(a: str, b: str) -> Condition:
    """Two ends that are not the same point."""

    def apart(g: Any) -> Number:
        d = given(g, b) - given(g, a)
        return dot(d, d)

    def nearest(g: Any) -> dict[str, str]:
        place = given(g, a)
        return {b: typed_point((place.x + 10, place.front, place.above))}

    return Condition(
        f"{a} and {b} apart", apart, f"{a} and {b} are both {{{a}}}: a line needs two points", (b, a), nearest, strict=True
    )


# ------------------------------------------------------------------------------------------------------------- drawing
def views_for(b: Board, g: Any, names: Sequence[str]) -> Views:
    """The views with all given points set out, each place once; who shares a place shares its image."""
    points = {name: [roughly(value) for value in getattr(g, name)] for name in names}
    fronts, heights = [p[1] for p in points.values()], [p[2] for p in points.values()]
    xs = [p[0] for p in points.values()]
    spread = max(max(xs) - min(xs), max(fronts) - min(fronts), max(heights) - min(heights), 1.0)
    gap = max(0.0, *fronts) + max(0.0, *heights) + spread * 0.35
    views = Views.on(b, b.number(round(gap) + 1))
    set_out: dict[tuple[float, ...], str] = {}
    for name in names:
        twin = set_out.setdefault(tuple(points[name]), name)
        if twin == name:
            views.set_out(name, *(value + 0 for value in getattr(g, name)))
        else:
            for view in (views.front_view, views.top_view):
                view.images[name] = view.images[twin]
            views.know(name)
    views.letter_fold()
    return views


def distinct(views: Views, names: Sequence[str]) -> list[str]:
    """Names without those that share another's place."""
    found: dict[int, str] = {}
    for name in names:
        found.setdefault(id(views.front_view.images[name]), name)
    return list(found.values())


def outline(views: Views, view: View, *faces: Names) -> None:
    """Draw the edges of faces, each once, finely: what is seen and what is hidden comes at the end."""
    done: set[frozenset[int]] = set()
    for names in faces:
        for p, q in combinations(names, 2):
            key = frozenset((id(view.images[p]), id(view.images[q])))
            if key not in done:
                done.add(key)
                views.line_of(view, p, q)


def start_faces(b: Board, views: Views, *faces: Names) -> None:
    """Join the corners of faces in both views."""
    b.step_reason("Join the corners of each face in both views, lightly")
    b.caution("Points of different faces are not joined.")
    for view in (views.front_view, views.top_view):
        outline(views, view, *faces)


def farthest(view: View, names: Sequence[str]) -> tuple[str, str]:
    """The two of these points that a view shows farthest apart."""
    return max(combinations(names, 2), key=lambda pair: apart(view, *pair))


def apart(view: View, p: str, q: str) -> float:
    a, b = view.images[p], view.images[q]
    return (roughly(a.x) - roughly(b.x)) ** 2 + (roughly(a.y) - roughly(b.y)) ** 2


def level_line(views: Views, names: Names, view: View, other: View, name: str) -> Line:
    """A line of the plane that one view shows along its fold, drawn in the other view, where it has its true length: an
    edge that runs so already, else one through a corner, found where it meets the opposite edge."""
    return level_through(views, names, view, other, name)[0]


def level_through(views: Views, names: Names, view: View, other: View, name: str) -> tuple[Line, str, Line | None]:
    """The same with a corner that it goes through, and the line of the first view if one is drawn there."""
    fold = view.away[other]
    away = {n: roughly(plane.distance_to_line(view.images[n], fold)) for n in names}
    size = max(abs(x - y) for x in away.values() for y in away.values()) or 1.0
    for p, q in combinations(names, 2):
        if abs(away[p] - away[q]) < 1e-9 * size:
            kind = "level" if view is views.front_view else "frontal"
            views.board.step_reason(f"{p}{q} is {kind} as it is: the {other.title} shows its true length")
            return views.join(other, p, q), p, None
    corner, p, q = _best_corner(view, other, names, away)
    drawn = views.level(view, other, corner, why=f"a line of the plane, up to {p}{q}")
    views.mark(view, name, drawn, views.line_of(view, p, q))
    views.project(name, view, other, views.line_of(other, p, q))
    return views.join(other, corner, name, why="in its true length"), corner, drawn


def _best_corner(view: View, other: View, names: Names, away: dict[str, float]) -> tuple[str, str, str]:
    """The corner whose line meets the opposite edge within it, and gives the longest; an edge along the projectors is of
    no use."""
    across = view.away[other]
    along = (roughly(across.dx), roughly(across.dy))

    def score(corner: str) -> tuple[float, float]:
        p, q = (n for n in names if n != corner)
        a, b = other.images[p], other.images[q]
        run = (roughly(b.x) - roughly(a.x)) * along[0] + (roughly(b.y) - roughly(a.y)) * along[1]
        if abs(run) < 1e-9 * (abs(away[p] - away[q]) + 1):
            return (-2.0, 0.0)
        share = (away[corner] - away[p]) / (away[q] - away[p])
        return (0.0 if 0 <= share <= 1 else -1.0, abs(run))

    corner = max(names, key=score)
    p, q = (n for n in names if n != corner)
    return corner, p, q


def edge_view(views: Views, one: Face, names: Sequence[str]) -> View:
    """A view that shows the plane on edge: front or top view where it does, else one along a level line."""
    b = views.board
    if one.edge_in_front or one.edge_in_top:
        view = views.front_view if one.edge_in_front else views.top_view
        b.step_reason(f"The {view.title} shows the plane on edge already: one auxiliary view less")
        return view
    level = level_line(views, one.names, views.front_view, views.top_view, "M")
    why = "square to the level line, to see the plane on edge"
    view = auxiliary(views, views.top_view, level, names, square=True, before=views.front_view, why=why)
    check_straight(views, view, one.names)
    views.edges(view, "".join(farthest(view, one.names)), why="the plane on edge")
    return view


def check_straight(views: Views, view: View, names: Names) -> None:
    """An edge view that does not come out straight is a sign of drawing error."""
    p, q = farthest(view, names)
    (third,) = (n for n in names if n not in (p, q))
    off = plane.distance_to_line(view.images[third], view.line(p, q))
    views.board.check(f"the edge view of {''.join(names)} comes out straight", off)


def true_shape(views: Views, one: Face, edge: View, names: Sequence[str]) -> View:
    """The view square to the plane, off a view that shows it on edge."""
    b = views.board
    if one.level or one.frontal:
        view = views.top_view if one.level else views.front_view
        b.step_reason(f"The {view.title} shows the true shape already")
        return view
    p, q = farthest(edge, one.names)
    line = edge.line(p, q)
    return auxiliary(views, edge, line, names, why="along the edge view, for the true shape")


def tilt_to_hp(views: Views, one: Face, edge: View) -> Number:
    """The angle of the plane with HP, where a view shows it on edge."""
    if edge is views.top_view:
        return views.board.number(90)
    p, q = farthest(edge, one.names)
    level = views.ground if edge is views.front_view else edge.away[views.top_view]
    return slope(level, edge.images[p], edge.images[q])


def tilt_to_vp(views: Views, one: Face) -> Number:
    """The angle of the plane with VP, by a view of its own where neither shows it on edge."""
    b = views.board
    if one.edge_in_top:
        p, q = farthest(views.top_view, one.names)
        return slope(views.wall, views.top_view.images[p], views.top_view.images[q])
    if one.edge_in_front:
        return b.number(90)
    frontal = level_line(views, one.names, views.top_view, views.front_view, "N")
    why = "square to the frontal line, for the angle with VP"
    view = auxiliary(views, views.front_view, frontal, one.names, square=True, before=views.top_view, why=why)
    views.edges(view, "".join(farthest(view, one.names)), why="the plane on edge")
    p, q = farthest(view, one.names)
    return slope(view.away[views.front_view], view.images[p], view.images[q])


def place(point: Point) -> tuple[float, float]:
    """Where a point of the sheet lies, roughly."""
    return roughly(point.x), roughly(point.y)
