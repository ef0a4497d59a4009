"""Distance of a point from the plane of three others, and the foot of the perpendicular.

Method: a view that shows the plane on edge shows the distance; the perpendicular is in its true length there, so in the
view beside it runs along the fold. Truth: n·(P - A) / |n|.
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute
from wisecompass.catalogue.space.planes import (
    MODEL,
    PlaneGiven,
    Triple,
    a_triangle,
    edge_view,
    face,
    farthest,
    given,
    normal,
    start_faces,
    views_for,
)
from wisecompass.drafting import givens
from wisecompass.drafting.auxiliary import carry_back
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.space import Point3, dot, norm


@dataclass(frozen=True)
class PlaneAndPoint(PlaneGiven):
    P: Triple = givens.space_point("point P", "78, 18, 59")


NAMES = ("A", "B", "C")
ALL = (*NAMES, "P")


def _foot(g: PlaneAndPoint) -> tuple[Number, Point3]:
    """How far P is from the plane, and its foot there."""
    n, p = normal(g, NAMES), given(g, "P")
    share = dot(n, p - given(g, "A")) / dot(n, n)
    return absolute(share) * norm(n), p - n.scaled(share)


def truth(g: PlaneAndPoint, number: Make) -> Truth:
    apart, foot = _foot(g)
    points = {name: given(g, name) for name in ALL}
    return Truth(points={**points, "Q": foot}, findings={"distance": apart, "foot": foot})


@method("edge view", Exactness.EXACT)
def by_edge_view(b: Board, g: PlaneAndPoint) -> None:
    views = views_for(b, g, ALL)
    start_faces(b, views, NAMES)
    edge = edge_view(views, face(g, NAMES), ALL)
    ends = farthest(edge, NAMES)
    line = views.line_of(edge, *ends)
    seen = edge.images["P"]
    label = edge.label("Q")
    edge.images["Q"] = b.square_from(line, seen, label, why="the distance in its true length")
    b.caution("Only in the edge view is the perpendicular square to the plane's line; in the other views it is not.")
    beside = edge.before
    assert beside is not None
    along = views.level(beside, edge, "P", why="in its true length there, the perpendicular runs along the fold here")
    views.project("Q", edge, beside, along)
    if edge in views.references:
        carry_back(views, "Q", edge)
    foot = views.know("Q")
    b.find("foot", foot)
    point = views.know("P")
    away = foot - point
    size = plane.distance(seen, edge.images["Q"])
    b.check("the foot is as far from P in space as in the edge view", dot(away, away) - size * size, "mm²")
    b.find("distance", plane.distance(seen, edge.images["Q"]))
    up = views.front_view
    seen_there = plane.distance_to_line(up.images["P"], up.line("A", "C"))
    b.misread(in_front_view.name, lambda: {"distance": absolute(seen_there)})
    b.dimension(seen, edge.images["Q"], offset=-7)
    for view in views.all[:2]:
        views.edges(view, "AB", "BC", "CA", "PQ", why=f"the {view.title}")
    views.edges(edge, "PQ", why="the distance")


@slip("the perpendicular dropped in the front view on AC instead of in the edge view on the plane")
def in_front_view(g: PlaneAndPoint, number: Make) -> dict[str, Number]:
    a, c, p = given(g, "A"), given(g, "C"), given(g, "P")
    dx, dz = c.x - a.x, c.above - a.above
    if g.decide(lambda h: (h.C[0] - h.A[0]) * (h.C[0] - h.A[0]) + (h.C[2] - h.A[2]) * (h.C[2] - h.A[2])) == 0:
        return {}
    return {"distance": absolute(dx * (p.above - a.above) - dz * (p.x - a.x)) / norm(Point3(dx, dx * 0, dz))}


PROBLEM = Problem(
    id="space/point-to-plane",
    title="Distance of a point from a plane",
    brief="A plane goes through A {A}, B {B} and C {C}. Find the distance of P {P} from it, and the foot.",
    givens=PlaneAndPoint,
    truth=truth,
    methods=(by_edge_view,),
    findings={"distance": Kind.LENGTH, "foot": Kind.POINT},
    source="Monge, Géométrie descriptive; Hesse's normal form for the truth.",
    conditions=(a_triangle(NAMES),),
    slips=(in_front_view,),
    cautions=(MODEL,),
)
