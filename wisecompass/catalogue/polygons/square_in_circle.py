"""Square in a given circle: on two diameters square to each other (Euclid IV.6)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, sqrt
from wisecompass.catalogue.polygons.regular import MEASURES, check_closes, measure, of_circumradius, ring
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, length
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass(frozen=True)
class OneDiameter(Givens):
    diameter: Number = length("diameter", "73")


def truth(g: OneDiameter, number: Make) -> Truth:
    zero, radius = number(0), g.diameter / 2
    points = ring(4, Point(zero, zero), radius, zero)
    findings = of_circumradius(4, radius, number)
    return Truth(points=points, findings={**findings, "diagonal": g.diameter + 0})


def _set_out(b: Board, g: OneDiameter) -> tuple[Point, Circle, Point, Point]:
    """The circle and its level diameter."""
    centre = b.point("O", b.number(0), b.number(0), why="the centre")
    circle = b.arc(centre, g.diameter / 2, whole=True, name="circle", why="half the diameter")
    level = b.level_line(centre, "level diameter")
    right, left = b.both(circle, level, ("P1", "P3"), plane.rightmost)
    return centre, circle, right, left


def _finish(b: Board, g: OneDiameter, centre: Point, circle: Circle, upright: Line, ends: tuple[Point, Point]) -> None:
    right, left = ends
    top, low = b.both(circle, upright, ("P2", "P4"), plane.upper)
    if b.slips(radius_for_side.name):
        top = b.meet(b.arc(right, span(centre, right)), circle, plane.upper, "P2")
    corners = [right, top, left, low]
    side = plane.distance(right, top)
    measure(b, corners, centre, g.diameter / sqrt(b.number(2)))
    b.find("diagonal", plane.distance(right, left))
    check_closes(b, corners, side)
    b.check("the upright diameter is square to the level one", plane.angle_at(centre, right, top) - 90, "°")


@method("crossing diameters", Exactness.EXACT)
def crossing_diameters(b: Board, g: OneDiameter) -> None:
    centre, circle, right, left = _set_out(b, g)
    upright = b.bisector(left, right, "upright diameter", why="the second diameter is its bisector")
    b.caution("The bisector must go through the centre: if it does not, the opening has slipped.")
    _finish(b, g, centre, circle, upright, (right, left))


@method("six steps and a rectangle", Exactness.EXACT)
def six_steps_and_a_rectangle(b: Board, g: OneDiameter) -> None:
    centre, circle, right, left = _set_out(b, g)
    one, two = b.step_off(circle, right, g.diameter / 2, ["1", "2"], why="the radius, from the right")
    four, five = b.step_off(circle, left, g.diameter / 2, ["4", "5"], why="the radius, from the left")
    b.caution("The third step from the right must come to the left end, or the opening is not the radius.")
    b.line(two, one, "top of the rectangle")
    b.line(four, five, "foot of the rectangle")
    b.line(two, four, "left edge")
    edge = b.line(five, one, "right edge")
    upright = b.parallel(edge, centre, "upright diameter", why="along the rectangle's edge")
    _finish(b, g, centre, circle, upright, (right, left))


@slip("the radius stepped off for the side")
def radius_for_side(g: OneDiameter, number: Make) -> dict[str, Number]:
    return {"side": g.diameter / 2}


PROBLEM = Problem(
    id="polygons/square-in-circle",
    title="Square in a circle",
    brief="Draw the largest square in a circle of diameter {diameter}.",
    givens=OneDiameter,
    truth=truth,
    methods=(crossing_diameters, six_steps_and_a_rectangle),
    findings={**MEASURES, "diagonal": Kind.LENGTH},
    source="Euclid IV.6 and IV.15.",
    slips=(radius_for_side,),
)
