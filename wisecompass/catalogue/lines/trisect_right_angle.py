"""A right angle cut into three by steps of the radius: sixty degrees from either arm."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, atan2_deg
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Point


@dataclass(frozen=True)
class OneRadius(Givens):
    radius: Number = length("radius", "57")


def truth(g: OneRadius, number: Make) -> Truth:
    zero, third = number(0), number(30)
    vertex = Point(zero, zero)
    points = {"V": vertex, "P": Point(g.radius + 0, zero), "Q": Point(zero, g.radius + 0)}
    points |= {name: Circle(vertex, g.radius).point_at(third * k) for name, k in (("R", 1), ("S", 2))}
    return Truth(points=points, findings={"third": third})


@method("radius steps", Exactness.EXACT)
def radius_steps(b: Board, g: OneRadius) -> None:
    vertex = b.point("V", b.number(0), b.number(0), why="the corner")
    base, upright = b.level_line(vertex, "base", pen=Pen.GIVEN), b.upright_line(vertex, "upright", pen=Pen.GIVEN)
    swung = b.arc(vertex, g.radius, why="across both arms, kept to the end")
    p, q = b.meet(swung, base, plane.beyond(base), "P"), b.meet(swung, upright, plane.beyond(upright), "Q")
    b.caution("The same opening three times: the radius steps off sixty degrees from either arm, and leaves thirty.")
    s = b.meet(b.arc(p, g.radius, why="across the arc"), swung, plane.upper, "S")
    r = b.meet(b.arc(q, g.radius, why="across the arc"), swung, plane.rightmost, "R")
    if b.slips(chord_in_three.name):
        r, s = b.divide(p, q, 3, ["R", "S"])
    b.line_in((vertex, p), (vertex, r), (vertex, s), (vertex, q))
    b.dimension_angle(vertex, p, r, radius=20)
    b.find("third", plane.angle_at(vertex, p, r))
    b.check("the first and the second third are equal", plane.angle_at(vertex, p, r) - plane.angle_at(vertex, r, s), "°")
    b.check("the second and the last third are equal", plane.angle_at(vertex, r, s) - plane.angle_at(vertex, s, q), "°")


@slip("the chord of the right angle cut into three instead of its arc")
def chord_in_three(g: OneRadius, number: Make) -> dict[str, Number]:
    """The first part of the chord is seen from the corner under the angle whose tangent is 1/2."""
    return {"third": atan2_deg(number(1), number(2))}


PROBLEM = Problem(
    id="lines/trisect-right-angle",
    title="Right angle in three",
    brief="Cut a right angle into three equal parts, with an arc of radius {radius}.",
    givens=OneRadius,
    truth=truth,
    methods=(radius_steps,),
    findings={"third": Kind.ANGLE},
    source="Euclid IV.15: the radius is the chord of sixty degrees.",
    slips=(chord_in_three,),
)
