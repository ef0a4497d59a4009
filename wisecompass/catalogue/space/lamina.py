"""True shape of a triangle given by its corners, and its inclinations.

Methods: a level line of its plane, a view along it that shows the plane on edge, a view square to the edge; or the plane
turned about a level line until it lies level. Truth: vectors.
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, atan2_deg, hypot, root, roughly
from wisecompass.catalogue.space.lines import slope
from wisecompass.catalogue.space.planes import (
    MODEL,
    Face,
    Triple,
    a_triangle,
    edge_view,
    face,
    farthest,
    given,
    level_through,
    normal,
    start_faces,
    tilt_to_hp,
    tilt_to_vp,
    true_shape,
    views_for,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.space import Point3, distance3, dot, norm


@dataclass(frozen=True)
class Lamina(Givens):
    A: Triple = givens.space_point("corner A", "10, 12, 16")
    B: Triple = givens.space_point("corner B", "45, 40, 57")
    C: Triple = givens.space_point("corner C", "102, 15, 24")


NAMES = ("A", "B", "C")


def _sides(g: Lamina) -> tuple[Number, Number, Number]:
    a, b, c = (given(g, name) for name in NAMES)
    return distance3(b, c), distance3(c, a), distance3(a, b)


def plane_tilts(n: Point3) -> dict[str, Number]:
    """Inclinations of the plane with this normal: to HP as the normal is to the upright, to VP as it is to the front."""
    return {
        "inclination_hp": atan2_deg(hypot(n.x, n.front), absolute(n.above)),
        "inclination_vp": atan2_deg(hypot(n.x, n.above), absolute(n.front)),
    }


def truth(g: Lamina, number: Make) -> Truth:
    sides, n = _sides(g), normal(g, NAMES)
    corners = {name: given(g, name) for name in NAMES}
    findings: dict[str, Value] = {f"side_{letter}": side for letter, side in zip("abc", sides, strict=True)}
    for letter, p, q, r in (("a", "A", "B", "C"), ("b", "B", "C", "A"), ("c", "C", "A", "B")):
        one, other = corners[q] - corners[p], corners[r] - corners[p]
        findings[f"angle_{letter}"] = atan2_deg(norm(n), dot(one, other))
    findings["area"] = norm(n) / 2
    return Truth(points=dict(corners), findings={**findings, **plane_tilts(n)})


@method("horizontal line and two auxiliary views", Exactness.EXACT)
def two_auxiliary_views(b: Board, g: Lamina) -> None:
    views = views_for(b, g, NAMES)
    one = face(g, NAMES)
    start_faces(b, views, NAMES)
    edge = edge_view(views, one, NAMES)
    b.find("inclination_hp", tilt_to_hp(views, one, edge))
    shape = true_shape(views, one, edge, NAMES)
    b.caution("Distances are carried from the view before last; from the wrong view the shape comes out skew.")
    for view in views.all[:2]:
        views.edges(view, "AB", "BC", "CA", why=f"the {view.title}")
    if shape not in views.all[:2]:
        views.edges(shape, "AB", "BC", "CA", why="the true shape")
    _measure(b, views, b.unless(plan_taken.name, [shape.images[name] for name in NAMES], lambda: _plan(views)))
    b.find("inclination_vp", tilt_to_vp(views, one))


@method("rabatment about a level line", Exactness.EXACT)
def rabatment(b: Board, g: Lamina) -> None:
    """The plane is turned about one of its level lines until it lies level: in plan every corner moves square to that line,
    to its true distance from it, which is the slope of a right triangle of its distance in plan and its height."""
    views, one = views_for(b, g, NAMES), face(g, NAMES)
    start_faces(b, views, NAMES)
    low = views.top_view
    if one.level:
        b.step_reason("The top view shows the true shape already: there is nothing to turn")
        corners = [low.images[name] for name in NAMES]
        b.find("inclination_hp", b.number(0))
    else:
        corners = _turned_level(b, g, views, one)
    for view in views.all[:2]:
        views.edges(view, "AB", "BC", "CA", why=f"the {view.title}")
    if not one.level:
        b.line_in(*zip(corners, (*corners[1:], corners[0]), strict=True), why="the true shape")
    _measure(b, views, b.unless(plan_taken.name, corners, lambda: _plan(views)))
    b.find("inclination_vp", tilt_to_vp(views, one))


def _turned_level(b: Board, g: Lamina, views: Views, one: Face) -> list[plane.Point]:
    """The corners turned about the level line, and the inclination to HP in the triangle of the farthest."""
    up, low = views.front_view, views.top_view
    if one.edge_in_top:
        b.step_reason("The top view shows the plane on edge: every level line of it runs along there")
        axis, fixed, level = views.line_of(low, *farthest(low, NAMES)), "A", None
    else:
        axis, fixed, level = level_through(views, NAMES, up, low, "M")
    rises = g.decide_all(lambda h: [given(h, name).above - given(h, fixed).above for name in NAMES])
    if level is None:
        level = views.level(up, low, fixed, why="to measure heights from")
    corners, slopes = [], []
    for name, rise in zip(NAMES, rises, strict=True):
        at = low.images[name]
        if rise == 0:
            corners.append(at)
            continue
        high = span(up.images[name], level)
        across = b.square(axis, at, f"path of {at.name}", why="in plan the corner moves square to the axis")
        if one.edge_in_top:
            corners.append(b.lay_off(across, at, high, low.label(f"{name}0"), back=rise < 0, why="its height over the axis"))
            slopes.append(b.number(90))
            continue
        foot = b.meet(across, axis, name="pqr"[NAMES.index(name)])
        aside = b.lay_off(
            b.parallel(axis, at, f"parallel through {at.name}"), at, high, "uvw"[NAMES.index(name)], why="its height"
        )
        b.caution("The slope of the triangle is laid off, not its distance in plan nor its height.")
        true = span(foot, aside)
        way = plane.Line.through(foot, at, across.name)
        corners.append(b.lay_off(way, foot, true, low.label(f"{name}0"), why="its true distance from the axis"))
        slopes.append(plane.angle_at(foot, at, aside))
    b.find("inclination_hp", slopes[0])
    if len(slopes) > 1:
        b.check("the triangles of both corners are equally steep", slopes[0] - slopes[1], "°")
    return corners


def _plan(views: Views) -> list[plane.Point]:
    return [views.top_view.images[name] for name in NAMES]


def _measure(b: Board, views: Views, corners: list[plane.Point]) -> None:
    """Sides, angles and area of the true shape."""
    up = views.front_view.images
    b.misread(edge_slope.name, lambda: {"inclination_hp": slope(views.ground, up["A"], up["B"])})
    for letter, p, q, r in (("a", 0, 1, 2), ("b", 1, 2, 0), ("c", 2, 0, 1)):
        b.find(f"side_{letter}", plane.distance(corners[q], corners[r]))
        b.find(f"angle_{letter}", plane.angle_at(corners[p], corners[q], corners[r]))
        b.dimension(corners[q], corners[r], offset=_outward(corners[p], corners[q], corners[r]))
    b.find("area", absolute(plane.polygon_area(corners)))
    low = views.top_view.images
    rise = views.above(views.front_view.images["B"]) - views.above(views.front_view.images["A"])
    flat = plane.distance(low["A"], low["B"])
    b.check(
        "side AB agrees with the right triangle of its plan and its rise",
        root(flat * flat + rise * rise) - plane.distance(corners[0], corners[1]),
    )


def _outward(p: plane.Point, q: plane.Point, r: plane.Point) -> float:
    """The side of q–r away from p, for a dimension."""
    return -8.0 if roughly(plane.side_of(p, plane.Line.through(q, r))) > 0 else 8.0


@slip("the lengths of the top view taken for the true ones")
def plan_taken(g: Lamina, number: Make) -> dict[str, Number]:
    a, b, c = (given(g, name) for name in NAMES)
    sides = [hypot(q.x - p.x, q.front - p.front) for p, q in ((b, c), (c, a), (a, b))]
    return {"side_a": sides[0], "side_b": sides[1], "side_c": sides[2], "area": absolute(normal(g, NAMES).above) / 2}


@slip("the slope of AB in the front view taken for the inclination of the plane")
def edge_slope(g: Lamina, number: Make) -> dict[str, Number]:
    d = given(g, "B") - given(g, "A")
    return {"inclination_hp": atan2_deg(absolute(d.above), absolute(d.x)) if _shows(g) else number(0)}


def _shows(g: Lamina) -> bool:
    """Whether the front view of AB is more than a point."""
    return bool(g.decide(lambda h: (h.B[0] - h.A[0]) * (h.B[0] - h.A[0]) + (h.B[2] - h.A[2]) * (h.B[2] - h.A[2])))


PROBLEM = Problem(
    id="space/lamina",
    title="True shape of a triangle",
    brief="A triangle has its corners at A {A}, B {B} and C {C}. Find its true shape and its inclinations.",
    givens=Lamina,
    truth=truth,
    methods=(two_auxiliary_views, rabatment),
    findings={
        **{f"side_{letter}": Kind.LENGTH for letter in "abc"},
        **{f"angle_{letter}": Kind.ANGLE for letter in "abc"},
        "area": Kind.AREA,
        "inclination_hp": Kind.ANGLE,
        "inclination_vp": Kind.ANGLE,
    },
    source="Monge, Géométrie descriptive: change of the planes of projection; vectors for the truth.",
    conditions=(a_triangle(NAMES),),
    slips=(plan_taken, edge_slope),
    cautions=(MODEL,),
)
