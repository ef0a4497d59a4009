"""Triangle in a circle of given radius with two given angles: a side subtends twice its angle at the centre (Euclid
III.20), and its own angle between itself and the tangent (Euclid III.32 and IV.2)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, sin_deg
from wisecompass.catalogue.triangles.corners import (
    MEASURES,
    angles_leave_room,
    corner_angle,
    from_top,
    line_in_triangle,
    measure,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass(frozen=True)
class RadiusAndAngles(Givens):
    circumradius: Number = givens.length("radius of the circle", "37")
    angle_a: Number = corner_angle("angle at A", "48")
    angle_b: Number = corner_angle("angle at B", "71")


def truth(g: RadiusAndAngles, number: Make) -> Truth:
    radius, third = g.circumradius, 180 - g.angle_a - g.angle_b
    sides = tuple(2 * radius * sin_deg(angle) for angle in (g.angle_a, g.angle_b, third))
    half, zero = sides[2] / 2, number(0)
    left = Point(-half, -radius * cos_deg(third))
    top = left.moved(sides[1] * cos_deg(g.angle_a), sides[1] * sin_deg(g.angle_a))
    return Truth(
        points={"O": Point(zero, zero), "A": left, "B": Point(half, left.y), "C": top},
        findings=from_top(sides[0], sides[1], sides[2], top.x - left.x, top.y - left.y),
    )


def _circle(b: Board, g: RadiusAndAngles) -> tuple[Point, Circle, Line]:
    """The circle, its axis, and the radius to A that will leave the base level."""
    centre = b.point("O", b.number(0), b.number(0), why="the centre of the circle")
    circle = b.arc(centre, g.circumradius, whole=True)
    axis = b.upright_line(centre, "axis")
    return centre, circle, axis


def _to_a(b: Board, g: RadiusAndAngles, centre: Point, circle: Circle, axis: Line) -> tuple[Point, Line]:
    third = 180 - g.angle_a - g.angle_b
    ray = b.protract(axis, centre, 180 - third, "radius to A", why="the third angle to the left of the axis below")
    return b.meet(ray, circle, plane.beyond(ray), "A"), ray


def _finish(b: Board, g: RadiusAndAngles, left: Point, right: Point, top: Point) -> None:
    line_in_triangle(b, left, right, top)
    measure(b, left, right, top)
    b.check("the base comes out level", right.y - left.y)
    b.check("the angle at A is the given one", plane.angle_at(left, right, top) - g.angle_a, "°")
    b.check("the angle at B is the given one", plane.angle_at(right, left, top) - g.angle_b, "°")


@method("central angles", Exactness.EXACT)
def central_angles(b: Board, g: RadiusAndAngles) -> None:
    centre, circle, axis = _circle(b, g)
    left, first = _to_a(b, g, centre, circle, axis)
    third = 180 - g.angle_a - g.angle_b
    twice = b.unless(not_doubled.name, 2, lambda: 1)
    second = b.protract(first, centre, twice * third, "radius to B", why="twice the angle at C")
    b.caution("At the centre every angle counts double.")
    right = b.meet(second, circle, plane.beyond(second), "B")
    last = b.protract(second, centre, twice * g.angle_a, "radius to C", why="twice the angle at A")
    _finish(b, g, left, right, b.meet(last, circle, plane.beyond(last), "C"))


@method("tangent and angles", Exactness.EXACT)
def tangent_and_angles(b: Board, g: RadiusAndAngles) -> None:
    centre, circle, axis = _circle(b, g)
    left, radius = _to_a(b, g, centre, circle, axis)
    tangent = b.square(radius, left, "tangent")
    third = 180 - g.angle_a - g.angle_b
    base = b.protract(tangent, left, third, "base", why="from the tangent, the angle at C stands opposite")
    b.caution("The angle between tangent and chord is that on the far side of the chord, not the one beside it.")
    right = b.meet(base, circle, plane.farthest(left), "B")
    side = b.protract(tangent, left, 180 - g.angle_b, "left side", why="the angle at B from the tangent's other end")
    _finish(b, g, left, right, b.meet(side, circle, plane.farthest(left), "C"))


@slip("angles laid at the centre without doubling them")
def not_doubled(g: RadiusAndAngles, number: Make) -> dict[str, Number]:
    sides = {"a": g.angle_a, "c": 180 - g.angle_a - g.angle_b}
    return {f"side_{name}": 2 * g.circumradius * sin_deg(angle / 2) for name, angle in sides.items()}


PROBLEM = Problem(
    id="triangles/circumradius-two-angles",
    title="Triangle in a circle of two angles",
    brief="Draw in a circle of radius {circumradius} the triangle with {angle_a} at A and {angle_b} at B.",
    givens=RadiusAndAngles,
    truth=truth,
    methods=(central_angles, tangent_and_angles),
    findings=MEASURES,
    source="Euclid III.20, III.32 and IV.2; the law of sines with the diameter.",
    conditions=(angles_leave_room("angle_a", "angle_b"),),
    slips=(not_doubled,),
)
