"""True shape of a triangle given by its corners, and its inclinations.

Method: a level line of its plane, a view along it that shows the plane on edge, a view square to the edge. Truth: vectors.
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, atan2_deg, hypot, root, roughly
from wisecompass.catalogue.space.planes import (
    MODEL,
    Triple,
    a_triangle,
    edge_view,
    face,
    given,
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
from wisecompass.drafting.step import Kind
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
    corners = [shape.images[name] for name in NAMES]
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
    b.find("inclination_vp", tilt_to_vp(views, one))


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
    methods=(two_auxiliary_views,),
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
