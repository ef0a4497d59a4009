"""Arc that blends two straight edges.  The centre lies on both parallels to the edges at the radius (Euclid III.18)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, pi_times, sin_deg, tan_deg
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, angle, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import bare
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class EdgesAndRadius(Givens):
    angle: Number = angle("angle between the edges", "72", limit_words="it must lie above 0° and below 180°")
    radius: Number = length("blend radius", "18.5")


def truth(g: EdgesAndRadius, number: Make) -> Truth:
    setback = g.radius / tan_deg(g.angle / 2)
    reach = g.radius / sin_deg(g.angle / 2)
    zero = number(0)
    return Truth(
        points={
            "V": Point(zero, zero),
            "C": Point(reach * cos_deg(g.angle / 2), reach * sin_deg(g.angle / 2)),
            "T1": Point(setback, zero),
            "T2": Point(setback * cos_deg(g.angle), setback * sin_deg(g.angle)),
        },
        findings={
            "setback": setback,
            "centre_distance": reach,
            "arc_angle": 180 - g.angle,
            "arc_length": pi_times(g.radius * (180 - g.angle) / 180),
        },
    )


def _edges(b: Board, g: EdgesAndRadius) -> tuple[Point, Line, Line]:
    corner = b.point("V", b.number(0), b.number(0), why="the corner of the two edges")
    first = b.level_line(corner, "edge 1", pen=Pen.GIVEN)
    second = b.protract(first, corner, g.angle, "edge 2")
    return corner, first, second


def _finish(b: Board, g: EdgesAndRadius, edges: tuple[Line, Line], centre: Point, touches: tuple[Point, Point]) -> None:
    corner, (t1, t2) = edges[0].at, touches
    b.line_in_arc(centre, t2, t1, "blend arc")
    b.dimension_radius(centre, plane.Circle(centre, g.radius).point_at(plane.direction(centre, corner)))
    for touch, edge in zip(touches, edges, strict=True):
        b.line_in_along(touch, edge, plane.distance(corner, touch) * 3 / 5)
    b.dimension_angle(corner, t1, t2)
    b.dimension(t1, corner)
    b.find("setback", plane.distance(corner, t1))
    b.find("centre_distance", plane.distance(corner, centre))
    arc_angle = plane.angle_at(centre, t1, t2)
    b.find("arc_angle", arc_angle)
    b.find("arc_length", pi_times(plane.distance(centre, t1) * arc_angle / 180))
    b.check("both tangent points are equally far from the corner", plane.distance(corner, t2) - plane.distance(corner, t1))
    b.check("the centre is one radius from edge 1", plane.distance(centre, t1) - g.radius)
    b.check("the centre is one radius from edge 2", plane.distance(centre, t2) - g.radius)
    b.check("the radius to T2 is square to edge 2", plane.angle_at(t2, centre, corner) - 90, "°")


def _square_to_the_edges(
    b: Board, g: EdgesAndRadius, edges: tuple[Line, Line], parallels: list[Line]
) -> tuple[Point, Point, Point]:
    """Centre and tangent points of two parallels to the edges."""
    first, second = edges
    if b.slips(radius_along_the_edge.name):
        t1, t2 = (b.lay_off(edge, first.at, g.radius, name) for edge, name in ((first, "T1"), (second, "T2")))
        return b.meet(b.arc(t1, g.radius), b.arc(t2, g.radius), plane.farthest(first.at), "C"), t1, t2
    centre = b.meet(parallels[0], parallels[1], name="C")
    t1 = b.square_from(first, centre, "T1", why="for the tangent point")
    return centre, t1, b.square_from(second, centre, "T2", why="for the tangent point")


@method("swung arcs", Exactness.EXACT)
def swung_arcs(b: Board, g: EdgesAndRadius) -> None:
    corner, first, second = _edges(b, g)
    opening, places = b.any_opening(bare(g.radius)), []
    for edge, n in ((first, 1), (second, 2)):
        near = b.lay_off(edge, corner, opening, f"E{n}", why="any place on the edge will do")
        places += [near, b.lay_off(edge, near, opening, f"F{n}", why="another, for a long base")]
    radius = b.unless(diameter_for_radius.name, g.radius, lambda: bare(g.radius) * 2)
    arcs = [b.arc(place, radius, why="on the inside") for place in places]
    parallels = [
        b.parallel_touching(first, arcs[:2], "left", "parallel 1"),
        b.parallel_touching(second, arcs[2:], "right", "parallel 2"),
    ]
    b.caution("Keep the compass at the radius until both parallels are drawn: a setting lost is seldom found again.")
    centre, t1, t2 = _square_to_the_edges(b, g, (first, second), parallels)
    b.caution("Line the arc in first and the edges up to it: a tangent point that shows is a kink.")
    _finish(b, g, (first, second), centre, (t1, t2))


@method("perpendicular offsets", Exactness.EXACT)
def perpendicular_offsets(b: Board, g: EdgesAndRadius) -> None:
    corner, first, second = _edges(b, g)
    parallels, radius = [], b.unless(diameter_for_radius.name, g.radius, lambda: bare(g.radius) * 2)
    for edge, turned, n in ((first, False, 1), (second, True, 2)):
        place = b.lay_off(edge, corner, b.any_opening(bare(g.radius)), f"E{n}", why="any place on the edge will do")
        upright = b.square(edge, place, f"square {n}")
        measured = b.lay_off(upright, place, radius, f"Q{n}", back=turned, why="on the inside")
        parallels.append(b.parallel(edge, measured, f"parallel {n}"))
    centre, t1, t2 = _square_to_the_edges(b, g, (first, second), parallels)
    _finish(b, g, (first, second), centre, (t1, t2))


def _corner_rule(margin_sign: int) -> Condition:
    return Condition(
        "a right angle",
        lambda g: (g.angle - 90) * margin_sign,
        "corner arcs serve an angle of exactly 90° and this one is {angle}",
        ("angle",),
        lambda g: {"angle": "90"},
    )


@method("corner arcs", Exactness.EXACT, _corner_rule(1), _corner_rule(-1))
def corner_arcs(b: Board, g: EdgesAndRadius) -> None:
    corner, first, second = _edges(b, g)
    radius = b.unless(diameter_for_radius.name, g.radius, lambda: bare(g.radius) * 2)
    swung = b.arc(corner, radius, why="across both edges")
    t1 = b.meet(swung, first, plane.beyond(first), "T1")
    t2 = b.meet(swung, second, plane.beyond(second), "T2")
    b.caution("This short cut holds at a right angle only; at any other the arc misses both edges.")
    from_first = b.arc(t1, radius, why="inside the corner")
    from_second = b.arc(t2, radius, why="inside the corner")
    centre = b.meet(from_first, from_second, plane.farthest(corner), "C")
    _finish(b, g, (first, second), centre, (t1, t2))


@slip("corner arcs used at another angle: the tangent points measured off at the radius")
def radius_along_the_edge(g: EdgesAndRadius, number: Make) -> dict[str, Number]:
    return {"setback": g.radius, "centre_distance": 2 * g.radius * cos_deg(g.angle / 2)}


@slip("the arc swung to the diameter: the radius read as the whole width")
def diameter_for_radius(g: EdgesAndRadius, number: Make) -> dict[str, Number]:
    doubled = g.radius * 2
    return {"setback": doubled / tan_deg(g.angle / 2), "centre_distance": doubled / sin_deg(g.angle / 2)}


PROBLEM = Problem(
    id="tangency/arc-two-lines",
    title="Arc blending two edges",
    brief="Two straight edges meet at {angle}. Blend them with an arc of radius {radius}.",
    givens=EdgesAndRadius,
    truth=truth,
    methods=(swung_arcs, perpendicular_offsets, corner_arcs),
    findings={
        "setback": Kind.LENGTH,
        "centre_distance": Kind.LENGTH,
        "arc_angle": Kind.ANGLE,
        "arc_length": Kind.LENGTH,
    },
    source="The centre lies on both parallels at the radius; its perpendiculars end at the tangent points (Euclid III.18).",
    slips=(radius_along_the_edge, diameter_for_radius),
    cautions=("A compass point is sharp: close it when it is not in the hand.",),
)
