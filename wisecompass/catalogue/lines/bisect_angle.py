"""Halving an angle by equal arcs (Euclid I.9)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number
from wisecompass.catalogue.lines.rulings import angle_with_arc
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, angle
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point

OPENING = 48
"""The compass opening for the first arc, mm: any that suits the sheet."""


@dataclass(frozen=True)
class OneAngle(Givens):
    angle: Number = angle("angle", "53", limit_words="it must lie above 0° and below 180°")


def truth(g: OneAngle, number: Make) -> Truth:
    return Truth(points={"V": Point(number(0), number(0))}, findings={"half_angle": g.angle / 2})


@method("equal arcs", Exactness.EXACT)
def equal_arcs(b: Board, g: OneAngle) -> None:
    drawn = angle_with_arc(b, g.angle, OPENING)
    vertex, p, q = drawn.vertex, drawn.p, drawn.q
    b.caution("The two arcs that follow need one opening; the first arc may have another.")
    near, far = (b.arc(place, drawn.opening, why="inside the angle") for place in (p, q))
    r = b.meet(near, far, plane.farthest(vertex), "R")
    b.line(vertex, r, "bisector")
    b.line_in((vertex, p), (vertex, q))
    b.dimension_angle(vertex, p, r, radius=20)
    b.find("half_angle", plane.angle_at(vertex, p, r))
    b.check("both halves are equal", plane.angle_at(vertex, p, r) - plane.angle_at(vertex, r, q), "°")
    b.check(
        "R is equally far from both arms",
        plane.distance_to_line(r, drawn.base) + plane.distance_to_line(r, drawn.arm),
    )


@slip("protractor read on the other scale")
def other_scale(g: OneAngle, number: Make) -> dict[str, Number]:
    return {"half_angle": (180 - g.angle) / 2}


PROBLEM = Problem(
    id="lines/bisect-angle",
    title="Angle halved",
    brief="Halve an angle of {angle}.",
    givens=OneAngle,
    truth=truth,
    methods=(equal_arcs,),
    findings={"half_angle": Kind.ANGLE},
    source="Euclid I.9.",
    slips=(other_scale,),
)
