"""Shortest distance of two lines that pass each other, and the angle between them.

Method: a plane through one line parallel with the other; a view that shows it on edge shows both lines parallel and the
distance between them; a view square to that shows both in their true lengths, crossing where the shortest line is a point.
Truth: |(C - A)·n| / |n| with n = (B - A) x (D - C).
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, atan2_deg, hypot, roughly
from wisecompass.catalogue.space.planes import (
    MODEL,
    Face,
    Triple,
    edge_view,
    farthest,
    given,
    moved_along,
    true_shape,
    two_points,
    views_for,
)
from wisecompass.drafting import givens
from wisecompass.drafting.auxiliary import auxiliary, carry_back
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.drafting.view import View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line
from wisecompass.geometry.space import Point3, cross, dot, norm


@dataclass(frozen=True)
class TwoLines(Givens):
    A: Triple = givens.space_point("end A of the first line", "8, 12, 40")
    B: Triple = givens.space_point("end B of the first line", "74, 48, 16")
    C: Triple = givens.space_point("end C of the second line", "22, 50, 34")
    D: Triple = givens.space_point("end D of the second line", "66, 6, 62")


NAMES = ("A", "B", "C", "D")
LINES = (("A", "B"), ("C", "D"))


def _directions(g: TwoLines) -> tuple[Point3, Point3]:
    return given(g, "B") - given(g, "A"), given(g, "D") - given(g, "C")


def _square(g: TwoLines) -> Point3:
    """A vector square to both lines."""
    return cross(*_directions(g))


def _parts(g: TwoLines) -> tuple[Number, Number, Number]:
    n = _square(g)
    return n.x, n.front, n.above


def _gap(g: TwoLines) -> Number:
    """Not zero where the lines miss each other: the volume that both directions and the way across span."""
    return dot(_square(g), given(g, "C") - given(g, "A"))


def truth(g: TwoLines, number: Make) -> Truth:
    u, v = _directions(g)
    n, a, c = cross(u, v), given(g, "A"), given(g, "C")
    size, across = dot(n, n), c - a
    gap = absolute(dot(n, across))
    first = a + u.scaled(dot(n, cross(across, v)) / size)
    second = c + v.scaled(dot(n, cross(across, u)) / size)
    along, away, _ = g.decide_all(_parts)
    findings: dict[str, Value] = {
        "shortest_distance": gap / norm(n),
        "angle_between": atan2_deg(norm(n), absolute(dot(u, v))),
        "foot_1": first,
        "foot_2": second,
        "horizontal_distance": gap / hypot(n.x, n.front) if along or away else None if g.decide(_gap) else number(0),
    }
    points = {name: given(g, name) for name in NAMES}
    return Truth(points={**points, "G": first, "H": second}, findings=findings)


@method("auxiliary with parallel lines, then point view", Exactness.EXACT)
def parallel_lines_then_point_view(b: Board, g: TwoLines) -> None:
    views = views_for(b, g, NAMES)
    for view in views.all[:2]:
        views.edges(view, "AB", "CD", why=f"the {view.title}")
    b.caution("Where the views cross the lines need not: they meet only if both crossings stand on one projector.")
    both = _parallel_view(b, g, views)
    _measure_between(b, g, views, both)
    along = max(LINES, key=lambda ends: _length(both, ends))
    why = "along the parallel lines, where the shortest line is a point"
    last = auxiliary(views, both, both.line(*along), NAMES, why=why)
    views.edges(last, "AB", "CD", why="both lines in their true lengths")
    _feet(b, views, both, last)
    one, two = (last.line(*ends) for ends in LINES)
    b.find("angle_between", _acute(one, two))
    _shortest_found(b, g, views, both)


@method("plane through one parallel to the other", Exactness.EXACT)
def plane_through_one(b: Board, g: TwoLines) -> None:
    """AB and a parallel to CD through A make a plane: on edge it shows how far CD keeps from it, in its true shape where AB
    and CD come nearest."""
    views = views_for(b, g, NAMES)
    for view in views.all[:2]:
        views.edges(view, "AB", "CD", why=f"the {view.title}")
    _parallel_through_a(b, g, views)
    one, names = Face(("A", "B", "E"), *g.decide_all(_parts)), (*NAMES, "E")
    edge = edge_view(views, one, names)
    b.caution("CD must come out parallel with the plane; if it does not, a point has strayed.")
    views.edges(edge, "CD", why="the other line, parallel with the plane")
    on_edge = edge.line(*farthest(edge, one.names))
    ends = [plane.distance_to_line(edge.images[name], on_edge) for name in LINES[1]]
    b.check("C and D are equally far from the plane", ends[0] - ends[1])
    _measure_between(b, g, views, edge, ("K", "L"))
    shape = true_shape(views, one, edge, names)
    if shape not in views.all[:2]:
        views.edges(shape, "AB", "CD", why="both lines in their true lengths")
    _feet(b, views, edge, shape)
    b.find("angle_between", _acute(*(shape.line(*line) for line in LINES)))
    _shortest_found(b, g, views, edge)


def _parallel_through_a(b: Board, g: TwoLines, views: Views) -> None:
    """AE parallel with CD and as long, in both views."""
    shown = g.decide_all(_flat_squares)[1], g.decide_all(_upright_squares)[1]
    for view, seen in ((views.top_view, shown[0]), (views.front_view, shown[1])):
        if not seen:
            views.same(view, "E", "A")
            continue
        start, line = view.images["A"], views.line_of(view, "C", "D")
        run = b.parallel(line, start, f"parallel through {start.name}", why="with AB it makes a plane parallel with CD")
        length = span(view.images["C"], view.images["D"])
        view.images["E"] = b.lay_off(run, start, length, view.label("E"), why="as long as CD in this view")
    views.know("E")


def _upright_squares(g: TwoLines) -> list[Number]:
    """The squared lengths of both lines in the front view."""
    return [d.x * d.x + d.above * d.above for d in _directions(g)]


def _shortest_found(b: Board, g: TwoLines, views: Views, both: View) -> None:
    """The feet in space, and the shortest line in every view but the last."""
    first, second = views.know("G"), views.know("H")
    low = views.top_view
    b.misread(angle_in_plan.name, lambda: {"angle_between": _acute(*(low.line(*ends) for ends in LINES))})
    apart = [norm(views.know(q) - views.know(p)) for p in LINES[0] for q in LINES[1]]
    b.misread(nearest_ends.name, lambda: {"shortest_distance": min(apart, key=roughly)})
    b.find("foot_1", first)
    b.find("foot_2", second)
    for view in (*views.all[:2], both):
        if view in views.all[:2] or view in views.references:
            views.edges(view, "GH", why=f"the shortest line in the {view.title}")
    b.check("the shortest line is square to AB", dot(second - first, _directions(g)[0]), "mm²")
    b.check("the shortest line is square to CD", dot(second - first, _directions(g)[1]), "mm²")


def _parallel_view(b: Board, g: TwoLines, views: Views) -> View:
    """A view in which both lines are parallel: along a level line of the plane through one that is parallel with the
    other; front or top view where that plane is on edge in it already."""
    _, away, up = g.decide_all(_parts)
    if away == 0 or up == 0:
        view = views.front_view if away == 0 else views.top_view
        b.step_reason(f"In the {view.title} both lines run parallel already: one auxiliary view less")
        return view
    level = _level_direction(b, g, views)
    why = "square to the level line: both lines come out parallel"
    view = auxiliary(views, views.top_view, level, NAMES, square=True, before=views.front_view, why=why)
    views.edges(view, "AB", "CD", why="both lines, parallel")
    b.caution("If they do not come out parallel a point has strayed.")
    one, two = (view.line(*ends) for ends in LINES)
    b.check("both lines run parallel in the auxiliary view", one.dx * two.dy - one.dy * two.dx, "mm²")
    return view


def _level_direction(b: Board, g: TwoLines, views: Views) -> Line:
    """A level line of the plane, in plan."""
    up, low = views.front_view, views.top_view
    rises = g.decide_all(lambda h: (h.B[2] - h.A[2], h.D[2] - h.C[2]))
    for rise, (p, q) in zip(rises, LINES, strict=True):
        if rise == 0:
            b.step_reason(f"{p}{q} is level itself: no plane is needed")
            return low.line(p, q)
    runs = [abs(roughly(low.images[q].x) - roughly(low.images[p].x)) for p, q in LINES]
    moved, (start, end) = (LINES[0], LINES[1]) if runs[0] >= runs[1] else (LINES[1], LINES[0])
    why = f"with {start}{end} it makes a plane parallel with {''.join(moved)}"
    shifted = {
        view: b.parallel(views.line_of(view, *moved), view.images[start], f"parallel through {view.images[start].name}", why)
        for view in (up, low)
    }
    level = views.level(up, low, end, why="a line of that plane, up to the parallel")
    views.mark(up, "M", level, shifted[up])
    views.project("M", up, low, shifted[low])
    return views.join(low, end, "M", why="in its true length")


def _measure_between(b: Board, g: TwoLines, views: Views, both: View, names: tuple[str, str] = ("E", "F")) -> None:
    """The shortest distance between the parallels, and the shortest level one where there is one, to ends of these
    ``names``."""
    base, other = sorted(LINES, key=lambda ends: -_length(both, ends))
    line = views.line_of(both, *base)
    point = both.images[other[0]]
    foot = b.square_from(line, point, both.label(names[0]), why="the shortest distance, in its true length")
    b.find("shortest_distance", plane.distance(point, foot))
    b.dimension(point, foot, offset=7)
    along, away, _ = g.decide_all(_parts)
    b.find("horizontal_distance", None)
    if not along and not away:
        if g.decide(_gap):
            b.caution("Both lines are level at different heights: no level line joins them.")
        else:
            b.find("horizontal_distance", plane.distance(point, foot))
        return
    if both is views.top_view:
        b.find("horizontal_distance", plane.distance(point, foot))
        return
    level = views.ground if both is views.front_view else both.away[views.top_view]
    why = "parallel with the fold line, for the shortest level distance"
    run = b.parallel(level, point, f"level through {point.name}", why=why)
    end = b.meet(run, line, name=both.label(names[1]))
    b.find("horizontal_distance", plane.distance(point, end))


def _feet(b: Board, views: Views, both: View, last: View) -> None:
    """The crossing in the last view is both feet; they are carried back over the views."""
    one, two = (views.line_of(last, *ends) for ends in LINES)
    views.mark(last, "G", one, two)
    views.same(last, "H", "G")
    for name, ends in zip(("G", "H"), LINES, strict=True):
        if _length(both, ends) < 1e-9 * max(_length(both, e) for e in LINES):
            views.same(both, name, ends[0])
        else:
            views.project(name, last, both, views.line_of(both, *ends))
        if last in views.references:
            carry_back(views, name, last)
        if both in views.references:
            carry_back(views, name, both)


def _length(view: View, ends: tuple[str, str]) -> float:
    return roughly(plane.distance(view.images[ends[0]], view.images[ends[1]]))


def _acute(one: Line, two: Line) -> Number:
    """The acute angle of two lines of a view."""
    turn, along = one.dx * two.dy - one.dy * two.dx, one.dx * two.dx + one.dy * two.dy
    return atan2_deg(absolute(turn), absolute(along))


@slip("the angle of the lines measured in the top view")
def angle_in_plan(g: TwoLines, number: Make) -> dict[str, Number]:
    u, v = _directions(g)
    if not all(g.decide_all(_flat_squares)):
        return {}
    turn, along = u.x * v.front - u.front * v.x, u.x * v.x + u.front * v.front
    return {"angle_between": atan2_deg(absolute(turn), absolute(along))}


def _flat_squares(g: TwoLines) -> list[Number]:
    """The squared lengths of both lines in the top view."""
    return [d.x * d.x + d.front * d.front for d in _directions(g)]


@slip("the gap between the nearest ends taken for the shortest distance")
def nearest_ends(g: TwoLines, number: Make) -> dict[str, Number]:
    pairs = [(p, q) for p in "AB" for q in "CD"]
    apart = [norm(given(g, q) - given(g, p)) for p, q in pairs]
    return {"shortest_distance": min(apart, key=float)}


def _turned(g: TwoLines) -> dict[str, str]:
    """D put beside C, off the direction of the first line."""
    return {"D": moved_along(given(g, "C"), _directions(g)[0], min)}


PROBLEM = Problem(
    id="space/skew-lines",
    title="Shortest distance of two lines",
    brief=(
        "One line runs from A {A} to B {B}, another from C {C} to D {D}. Find their shortest distance, its feet, and the "
        "angle between them."
    ),
    givens=TwoLines,
    truth=truth,
    methods=(parallel_lines_then_point_view, plane_through_one),
    findings={
        "shortest_distance": Kind.LENGTH,
        "angle_between": Kind.ANGLE,
        "foot_1": Kind.POINT,
        "foot_2": Kind.POINT,
        "horizontal_distance": Kind.LENGTH,
    },
    source="Monge, Géométrie descriptive: the common perpendicular; vectors for the truth.",
    conditions=(
        two_points("A", "B"),
        two_points("C", "D"),
        Condition(
            "lines not parallel",
            lambda g: dot(_square(g), _square(g)),
            "AB and CD are parallel: they are equally far apart everywhere, and no one place is the shortest",
            ("D",),
            _turned,
            strict=True,
        ),
    ),
    slips=(angle_in_plan, nearest_ends),
    cautions=(MODEL,),
)
