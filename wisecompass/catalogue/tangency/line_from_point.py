"""Tangents from a point to a circle: the touch points lie on the semicircle over the distance (Euclid III.17, III.31)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, acos_deg, asin_deg, atan2_deg, root
from wisecompass.catalogue.tangency.touching import given_circle, level_start, solution_name
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_least, length
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass(frozen=True)
class CircleAndPoint(Givens):
    radius: Number = length("radius of the circle", "26")
    distance: Number = length("distance of the point from the centre", "74")


def _on_circle(g: CircleAndPoint) -> bool:
    return g.decide(lambda h: h.distance - h.radius) == 0


def truth(g: CircleAndPoint, number: Make) -> Truth:
    zero = number(0)
    points = {"O": Point(zero, zero), "P": Point(g.distance + 0, zero)}
    if _on_circle(g):
        findings = {"tangent_length": zero, "angle_between": number(180)}
        return Truth(points={**points, "T1": points["P"]}, findings=findings)
    circle, turn = Circle(points["O"], g.radius), acos_deg(g.radius / g.distance)
    points |= {"T1": circle.point_at(turn), "T1_2": circle.point_at(-turn)}
    length = root((g.distance - g.radius) * (g.distance + g.radius))
    findings = {"tangent_length": length, "angle_between": 2 * asin_deg(g.radius / g.distance)}
    return Truth(points=points, findings=findings, solutions=2)


@method("semicircle on the distance", Exactness.EXACT)
def semicircle_on_the_distance(b: Board, g: CircleAndPoint) -> None:
    centre, axis = level_start(b, "O", "the centre of the circle", "centre line")
    circle = given_circle(b, centre, g.radius, "circle")
    outer = b.lay_off(axis, centre, g.distance, "P", why="the point")
    if _on_circle(g):
        _at_the_point(b, g, centre, outer, axis)
    else:
        _from_outside(b, g, circle, outer, axis)


def _from_outside(b: Board, g: CircleAndPoint, circle: Circle, outer: Point, axis: Line) -> None:
    centre = circle.centre
    middle = b.meet(b.bisector(centre, outer, "bisector", why="for the middle of the distance"), axis, name="M")
    helper = b.arc(middle, span(middle, centre), why="through both its ends, across the circle")
    b.touch(helper, centre)
    b.touch(helper, outer)
    b.caution("The angle at the touch point is a right one only on this circle: a tangent laid by eye touches elsewhere.")
    touches = b.both(helper, circle, ("T1", "T1_2"), plane.upper)
    if b.slips(above_the_centre.name):
        touches = b.both(b.upright_line(centre, "upright at O"), circle, ("T1", "T1_2"), plane.upper)
    for number, touch in enumerate(touches, 1):
        with b.for_solution(number):
            b.line(centre, touch, f"radius to {solution_name('T1', number)}", why="it must stand square to the tangent")
            b.line_in((outer, touch))
            b.dimension(outer, touch, offset=9 if number == 2 else -9)
        b.check(f"the radius to {touch.name} is square to the tangent", plane.angle_at(touch, centre, outer) - 90, "°")
        b.check(f"{touch.name} lies on the circle", plane.distance(centre, touch) - g.radius)
    b.find("tangent_length", plane.distance(outer, touches[0]))
    b.find("angle_between", plane.angle_at(outer, *touches))


def _at_the_point(b: Board, g: CircleAndPoint, centre: Point, outer: Point, axis: Line) -> None:
    """The point lies on the circle: the one tangent there is square to its radius."""
    tangent = b.square(axis, outer, "tangent", why="the point lies on the circle")
    high = b.lay_off(tangent, outer, g.radius, "1", why="any length, to both sides")
    low = b.lay_off(tangent, outer, g.radius, "2", back=True, why="any length, to both sides")
    b.mark_point(outer.named("T1"), shown=False)
    b.line_in((high, low))
    b.find("tangent_length", plane.distance(outer, outer))
    b.find("angle_between", plane.angle_at(outer, high, centre) + plane.angle_at(outer, centre, low))
    b.check("the radius is square to the tangent", plane.angle_at(outer, centre, high) - 90, "°")


@slip("touch point taken straight above the centre")
def above_the_centre(g: CircleAndPoint, number: Make) -> dict[str, Number]:
    length = root(g.distance * g.distance + g.radius * g.radius)
    return {"tangent_length": length, "angle_between": 2 * atan2_deg(g.radius, g.distance)}


PROBLEM = Problem(
    id="tangency/line-from-point",
    title="Tangents from a point",
    brief="Draw the tangents to a circle of radius {radius} from a point {distance} from its centre.",
    givens=CircleAndPoint,
    truth=truth,
    methods=(semicircle_on_the_distance,),
    findings={"tangent_length": Kind.LENGTH, "angle_between": Kind.ANGLE},
    source="Euclid III.17 and III.31.",
    conditions=(
        Condition(
            "a point outside the circle",
            lambda g: g.distance - g.radius,
            "a point {distance} from the centre lies inside the circle of radius {radius}, where no tangent passes",
            ("distance", "radius"),
            lambda g: {"distance": at_least(g.radius)},
        ),
    ),
    slips=(above_the_centre,),
)
