"""Where a line meets a plane, and at what angle.

Method: a cutting plane through the line, on edge in the top view, cuts the face; its cut meets the line in the point. The
angle shows where the plane is on edge and the line in its true length: edge view, true shape, and a view along the line's
image there. Truth: P + t·d with t = n·(A - P) / n·d.
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, atan2_deg
from wisecompass.catalogue.space.cutting import partner, pierce
from wisecompass.catalogue.space.lines import slope
from wisecompass.catalogue.space.planes import (
    MODEL,
    Face,
    PlaneGiven,
    Triple,
    a_triangle,
    edge_view,
    face,
    farthest,
    given,
    moved_along,
    normal,
    start_faces,
    true_shape,
    two_points,
    views_for,
)
from wisecompass.drafting import givens
from wisecompass.drafting.auxiliary import auxiliary, carry_back
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.drafting.view import View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.space import Point3, cross, dot, norm


@dataclass(frozen=True)
class PlaneAndLine(PlaneGiven):
    P: Triple = givens.space_point("end P", "30, 55, 54")
    Q: Triple = givens.space_point("end Q", "70, 2, 18")


NAMES = ("A", "B", "C")
ALL = (*NAMES, "P", "Q")


def _direction(g: PlaneAndLine) -> Point3:
    return given(g, "Q") - given(g, "P")


def _met(g: PlaneAndLine) -> Point3:
    n, d, p = normal(g, NAMES), _direction(g), given(g, "P")
    return p + d.scaled(dot(n, given(g, "A") - p) / dot(n, d))


def _inside(g: PlaneAndLine) -> bool:
    """Whether the point lies in the triangle or on its rim: it is on one side of all three edges."""

    def sides(h: PlaneAndLine) -> tuple[Number, ...]:
        n, found = normal(h, NAMES), _met(h)
        corners = [given(h, name) for name in NAMES]
        return tuple(dot(n, cross(q - p, found - p)) for p, q in zip(corners, (*corners[1:], corners[0]), strict=True))

    return min(g.decide_all(sides)) >= 0


def truth(g: PlaneAndLine, number: Make) -> Truth:
    n, d, found = normal(g, NAMES), _direction(g), _met(g)
    return Truth(
        points={**{name: given(g, name) for name in ALL}, "R": found},
        findings={
            "pierce": found,
            "inside": _inside(g),
            "angle_to_plane": atan2_deg(absolute(dot(n, d)), norm(cross(n, d))),
        },
    )


def _found(b: Board, g: PlaneAndLine, views: Views) -> Point3:
    """Report where the line meets the plane, and whether that lies within the triangle."""
    found = views.know("R")
    b.find("pierce", found)
    inside = _inside(g)
    b.find("inside", inside)
    if not inside:
        b.caution("The line meets the plane outside the triangle: the face would have to be extended.")
    return found


@method("cutting plane", Exactness.EXACT)
def cutting_plane(b: Board, g: PlaneAndLine) -> None:
    views = views_for(b, g, ALL)
    start_faces(b, views, NAMES)
    for view in views.all[:2]:
        views.line_of(view, "P", "Q")
    _pierced(b, g, views)
    _found(b, g, views)
    one = face(g, NAMES)
    names = (*ALL, "R")
    for view in views.all[:2]:
        views.edges(view, "AB", "BC", "CA", why=f"the face in the {view.title}")
        views.edges(view, "PQ", why="the line")
    edge = edge_view(views, one, names)
    ends = farthest(edge, NAMES)
    b.check("the point found lies in the edge view of the plane", plane.distance_to_line(edge.images["R"], edge.line(*ends)))
    shape = true_shape(views, one, edge, names)
    _angle_there(b, g, views, shape)
    _read_on_edge(b, edge)


@method("edge view", Exactness.EXACT)
def by_edge_view(b: Board, g: PlaneAndLine) -> None:
    """Where the plane is on edge, the line's view meets it in the point."""
    views, one = views_for(b, g, ALL), face(g, NAMES)
    start_faces(b, views, NAMES)
    for view in views.all[:2]:
        views.line_of(view, "P", "Q")
    edge = edge_view(views, one, ALL)
    plane_on_edge = views.line_of(edge, *farthest(edge, NAMES))
    views.mark(edge, "R", views.join(edge, "P", "Q", why="the line, to where it meets the plane"), plane_on_edge)
    b.caution("Only in the edge view is the crossing the point itself; in the other views it would be an apparent one.")
    beside, shape = edge.before, None
    assert beside is not None
    if g.decide(lambda h: _along_the_fold(h, one)):
        views.project("R", edge, beside, views.line_of(beside, "P", "Q"))
    elif one.level or one.frontal:
        b.step_reason("Both views of PQ stand upright: a cutting plane along it takes the point over")
        _pierced(b, g, views)
    else:
        b.step_reason("PQ stands along the projectors here: the point is carried over from the true shape")
        shape = true_shape(views, one, edge, ALL)
        views.project("R", edge, shape, views.line_of(shape, "P", "Q"))
        carry_back(views, "R", shape)
    if edge in views.references:
        carry_back(views, "R", edge)
    found = _found(b, g, views)
    for view in views.all[:2]:
        views.edges(view, "AB", "BC", "CA", why=f"the face in the {view.title}")
        views.edges(view, "PQ", why="the line")
        off = plane.side_of(view.images["R"], view.line("P", "Q"))
        b.check(f"the point found lies on the line in the {view.title}", off, "mm²")
    n = normal(g, NAMES)
    b.check("the point found lies in the plane in space", dot(n, found - given(g, "A")) / norm(n))
    _angle_there(b, g, views, shape or true_shape(views, one, edge, ALL))
    _read_on_edge(b, edge)


def _read_on_edge(b: Board, edge: View) -> None:
    """The angle read by mistake where the plane is on edge but the line not in its true length."""
    on_edge = edge.line(*farthest(edge, NAMES))
    b.misread(apparent_angle.name, lambda: {"angle_to_plane": slope(on_edge, edge.images["P"], edge.images["Q"])})


def _along_the_fold(g: PlaneAndLine, one: Face) -> Number:
    """Not zero where the line runs across the projectors between the edge view and the view beside it."""
    n, d = normal(g, NAMES), _direction(g)
    return d.x + 0 if one.edge_in_front or one.edge_in_top else n.x * d.x + n.front * d.front


def _angle_there(b: Board, g: PlaneAndLine, views: Views, shape: View) -> None:
    """The angle, by way of the true shape."""
    if shape not in views.all[:2]:
        views.edges(shape, "AB", "BC", "CA", "PQ", why="the true shape, and the line")
    b.find("angle_to_plane", _angle(b, g, views, shape))


def _pierced(b: Board, g: PlaneAndLine, views: Views) -> None:
    """R in front and top view; a line square to XY, whose views both stand upright, is seen in its true length first."""
    along, away = g.decide_all(lambda h: (h.Q[0] - h.P[0], h.Q[1] - h.P[1]))
    low, other = views.top_view, views.front_view
    if face(g, NAMES).edge_in_top:
        if along == 0 and away != 0:
            why = "both views of PQ stand upright: a view along it serves instead of the front view"
            other = auxiliary(views, low, low.line("P", "Q"), ALL, before=views.front_view, why=why)
        line = views.join(low, *farthest(low, NAMES), why="the plane on edge")
        b.step_reason("The top view shows the plane on edge: PQ crosses it there, no cutting plane is needed")
        views.mark(low, "R", views.line_of(low, "P", "Q"), line)
        views.project("R", low, other, views.line_of(other, "P", "Q"))
    else:
        other = partner(views, low, NAMES, ("P", "Q"), ALL)
        pierce(views, (low, other), NAMES, ("P", "Q"), ("K", "L", "R"))
    if other in views.references:
        carry_back(views, "R", other)


def _angle(b: Board, g: PlaneAndLine, views: Views, shape: View) -> Number:
    """A view along the line's image in the true shape shows the plane on edge and the line in its true length."""
    n_along = g.decide_all(lambda h: _cross_parts(h))
    if not any(n_along):
        b.step_reason("In the true shape the line is a point: it stands square to the plane")
        return b.number(90)
    line = shape.line("P", "Q")
    why = "along the line's image, for its true length with the plane on edge"
    last = auxiliary(views, shape, line, ALL, why=why)
    views.join(last, *farthest(last, NAMES), why="the plane on edge", pen=Pen.OUTLINE)
    views.edges(last, "PQ", why="the line in its true length")
    b.caution("The angle shows only where the plane is on edge and the line in its true length at once.")
    return slope(last.away[shape], last.images["P"], last.images["Q"])


def _cross_parts(g: PlaneAndLine) -> tuple[Number, Number, Number]:
    turned = cross(normal(g, NAMES), _direction(g))
    return turned.x, turned.front, turned.above


@slip("the angle read in the edge view, where the line is not in its true length")
def apparent_angle(g: PlaneAndLine, number: Make) -> dict[str, Number]:
    """The edge view is taken along a level line, and what of the line runs along that is lost there."""
    n, d = normal(g, NAMES), _direction(g)
    flat = g.decide_all(lambda h: (normal(h, NAMES).x, normal(h, NAMES).front))
    if not any(flat):
        return {}
    turned = Point3(-n.front, n.x, n.x * 0)
    level = turned.scaled(dot(turned, d) / dot(turned, turned))
    seen = d - level
    return {"angle_to_plane": atan2_deg(absolute(dot(n, seen)), norm(cross(n, seen)))}


def _apart(g: PlaneAndLine) -> dict[str, str]:
    """Q put beside P, off the plane's direction."""
    return {"Q": moved_along(given(g, "P"), normal(g, NAMES))}


PROBLEM = Problem(
    id="space/line-meets-plane",
    title="Where a line meets a plane",
    brief="A plane goes through A {A}, B {B} and C {C}. Find where the line from P {P} to Q {Q} meets it and how steeply.",
    givens=PlaneAndLine,
    truth=truth,
    methods=(cutting_plane, by_edge_view),
    findings={"pierce": Kind.POINT, "inside": Kind.CHOICE, "angle_to_plane": Kind.ANGLE},
    source="Monge, Géométrie descriptive: auxiliary cutting planes; vectors for the truth.",
    conditions=(
        a_triangle(NAMES),
        two_points("P", "Q"),
        Condition(
            "a line not parallel with the plane",
            lambda g: absolute(dot(normal(g, NAMES), _direction(g))),
            "the line from P {P} to Q {Q} runs parallel with the plane and does not meet it in one point",
            ("Q",),
            _apart,
            strict=True,
        ),
    ),
    slips=(apparent_angle,),
    cautions=(MODEL,),
)
