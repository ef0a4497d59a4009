"""Tangent and normal at a point of an ellipse: the normal halves the angle of the focal rays; the tangent meets the major
axis where that of the large circle does.  The centre of curvature follows from the normal by two perpendiculars."""

from __future__ import annotations

from wisecompass.arithmetic import Number, absolute, roughly
from wisecompass.catalogue.conics.curvature import centre_of_curvature
from wisecompass.catalogue.conics.on_ellipse import (
    WRONG_FOCI,
    EllipseDrawn,
    PointOfEllipse,
    curvature_radius,
    focal,
    minor_not_above,
    normal_at,
    outward,
    place,
    point_at,
    set_out,
    signs,
    undirected,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Chosen, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import bare
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


def truth(g: PointOfEllipse, number: Make) -> Truth:
    zero, c = number(0), focal(g)
    at, (x, y) = place(g), outward(g)
    cosine, sine = signs(g)
    radius = curvature_radius(g)
    return Truth(
        points={
            "O": Point(zero, zero),
            "P": at,
            "F1": Point(-c, zero),
            "F2": Point(c, zero),
            "C": Point(at.x - x * radius, at.y - y * radius),
        },
        findings={
            "focal_distance": c,
            "tangent_angle": undirected(-y, x, cosine, -sine),
            "normal_angle": undirected(x, y, sine, cosine),
            "focal_sum": g.major + 0,
            "curvature_radius": radius,
        },
    )


def _outer(drawn: EllipseDrawn, at: Point) -> Point:
    """The point of the large circle over or under one of the ellipse, on its side of the axis."""
    level = Line(at, drawn.upright.dx, drawn.upright.dy)
    return plane.meet(level, drawn.large, plane.nearest(at))


def _finish(b: Board, g: PointOfEllipse, drawn: EllipseDrawn, at: Point, lines: tuple[Line, Line], way: int) -> None:
    """Of the ``lines``, tangent and normal, the tangent times ``way`` points anticlockwise round the ellipse."""
    cosine, sine = signs(g)
    tangent, normal = lines
    dx, dy = tangent.dx * way, tangent.dy * way
    b.find("tangent_angle", undirected(dx, dy, cosine, -sine))
    b.find("normal_angle", undirected(dy, -dx, sine, cosine))
    if b.slips(auxiliary_for_normal.name):
        outer, centre = _outer(drawn, at), drawn.centre
        b.find("normal_angle", undirected(outer.x - centre.x, outer.y - centre.y, sine, cosine))
    to_first, to_second = (plane.distance(at, focus) for focus in (drawn.first_focus, drawn.second_focus))
    b.find("focal_distance", plane.distance(drawn.centre, drawn.second_focus))
    b.find("focal_sum", to_first + to_second)
    line = Line(at, dx, dy)
    b.line_in_both_ways(at, tangent, g.major / 4)
    outwards = roughly(normal.dx) * roughly(dy) - roughly(normal.dy) * roughly(dx) > 0
    b.line_in_along(at, normal, bare(g.major / 6), back=not outwards)
    b.check("the focal distances add up to the major axis", to_first + to_second - g.major)
    first = plane.distance_to_line(drawn.first_focus, line)
    second = plane.distance_to_line(drawn.second_focus, line)
    b.check("the tangent makes equal angles with both focal rays", first * to_second - second * to_first, "mm²")


@method("bisected focal rays", Exactness.EXACT)
def bisected_focal_rays(b: Board, g: PointOfEllipse) -> None:
    drawn = set_out(b, g)
    at, _ = point_at(b, g, drawn)
    normal = normal_at(b, g, drawn, at)
    b.caution("The normal halves the angle between the focal rays, the tangent the angle beside it.")
    tangent = b.square(normal, at, "tangent")
    with b.wish("centre of curvature"):
        if signs(g)[1]:
            centre_of_curvature(b, at, normal, drawn.axis, b.joined(at, drawn.first_focus, "focal ray"), "C")
        else:
            _at_the_end_of_the_axis(b, g, drawn, at)
    _finish(b, g, drawn, at, (tangent, normal), -1)


def _at_the_end_of_the_axis(b: Board, g: PointOfEllipse, drawn: EllipseDrawn, at: Point) -> None:
    """From the corner of the rectangle about the axes square to its diagonal: this meets the axis in the centre."""
    top = b.plane_point("E")
    upright, level = b.square(drawn.axis, at, "side of the rectangle"), b.parallel(drawn.axis, top, "upper side")
    corner = b.meet(upright, level, name="K")
    across = b.square(b.line(at, top, "PE"), corner, "square to PE", why="as far as the major axis")
    centre = b.meet(across, drawn.axis, name="C")
    b.find("curvature_radius", plane.distance(at, centre))


@method("auxiliary circle tangent", Exactness.EXACT)
def auxiliary_circle_tangent(b: Board, g: PointOfEllipse) -> None:
    drawn = set_out(b, g)
    at, outer = point_at(b, g, drawn)
    cosine, sine = signs(g)
    if cosine == 0:
        tangent, way = b.parallel(drawn.axis, at, "tangent", why="at the end of the minor axis it is level"), -sine
    elif sine == 0:
        tangent, way = b.square(drawn.axis, at, "tangent", why="at the end of the major axis it is upright"), cosine
    else:
        radius = Line.through(drawn.centre, outer, "OQ")
        end = b.meet(b.square(radius, outer, "tangent of the circle"), drawn.axis, name="T")
        b.caution("Both tangents meet the major axis in one point, T; on the minor axis they do not.")
        tangent, way = b.line(end, at, "tangent"), sine * cosine
    _finish(b, g, drawn, at, (tangent, b.square(tangent, at, "normal")), way)
    long, short = (plane.distance(drawn.centre, b.plane_point(end)) for end in "BE")
    away = plane.distance_to_line(drawn.centre, tangent)
    b.find("curvature_radius", long * long * short * short / absolute(away * away * away))


@slip(WRONG_FOCI)
def wrong_foci(g: PointOfEllipse, number: Make) -> dict[str, Number]:
    return {"focal_distance": (g.major - g.minor) / 2}


@slip("the auxiliary angle taken for the angle of the normal")
def auxiliary_for_normal(g: PointOfEllipse, number: Make) -> dict[str, Number]:
    turns = 180 if g.decide(lambda h: h.position - 180) >= 0 else 0
    return {"normal_angle": g.position - turns}


PROBLEM = Problem(
    id="conics/ellipse-tangent-normal",
    title="Tangent and normal of an ellipse",
    brief="Draw tangent and normal of an ellipse of axes {major} and {minor} at the auxiliary angle {position}.",
    givens=PointOfEllipse,
    truth=truth,
    methods=(bisected_focal_rays, auxiliary_circle_tangent),
    findings={
        "focal_distance": Kind.LENGTH,
        "tangent_angle": Kind.ANGLE,
        "normal_angle": Kind.ANGLE,
        "focal_sum": Kind.LENGTH,
        "curvature_radius": Kind.LENGTH,
    },
    source="Apollonius III.48 and III.52; the centre of curvature by two perpendiculars (Mannheim).",
    conditions=(minor_not_above(),),
    slips=(wrong_foci, auxiliary_for_normal),
    chosen=Chosen("position"),
)
