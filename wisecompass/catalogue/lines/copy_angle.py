"""Copying an angle to another vertex by carrying its chord (Euclid I.23)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, asin_deg, sin_deg
from wisecompass.catalogue.lines.rulings import angle_with_arc, wider
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, angle
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point

OPENING, APART = 48, 120
"""Compass opening and distance of the new vertex, mm: any that suit the sheet."""


@dataclass(frozen=True)
class OneAngle(Givens):
    angle: Number = angle("angle", "38", limit_words="it must lie above 0° and below 180°")


def truth(g: OneAngle, number: Make) -> Truth:
    return Truth(points={"V": Point(number(0), number(0))}, findings={"angle": g.angle + 0})


@method("chord transfer", Exactness.EXACT)
def chord_transfer(b: Board, g: OneAngle) -> None:
    drawn = angle_with_arc(b, g.angle, OPENING)
    vertex, base, p, q = drawn.vertex, drawn.base, drawn.p, drawn.q
    b.caution("The arc at the new vertex needs the same opening; only the chord is taken from the drawing.")
    new = b.lay_off(base, vertex, b.any_opening(APART), "W", why="the new vertex")
    again = b.arc(new, b.unless(wider_opening.name, drawn.opening, lambda: wider(drawn.opening)), why="the same opening")
    s = b.meet(again, base, plane.beyond(base), "S")
    carried = b.arc(s, span(p, q), why="across the new arc")
    t = b.meet(carried, again, plane.upper, "T")
    b.line_in((new, s), (new, t))
    b.dimension_angle(new, s, t, radius=20)
    b.find("angle", plane.angle_at(new, s, t))
    b.check("the chords are equal", plane.distance(s, t) - plane.distance(p, q))
    b.check("both angles are equal", plane.angle_at(new, s, t) - plane.angle_at(vertex, p, q), "°")


@slip("the chord carried with a new opening a tenth wider at the new vertex")
def wider_opening(g: OneAngle, number: Make) -> dict[str, Number]:
    return {"angle": 2 * asin_deg(sin_deg(g.angle / 2) * 10 / 11)}


PROBLEM = Problem(
    id="lines/copy-angle",
    title="Angle copied",
    brief="Copy an angle of {angle} to another vertex.",
    givens=OneAngle,
    truth=truth,
    methods=(chord_transfer,),
    findings={"angle": Kind.ANGLE},
    source="Euclid I.23.",
    slips=(wider_opening,),
)
