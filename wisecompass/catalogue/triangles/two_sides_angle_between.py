"""Triangle of two sides and the angle between them (Euclid I.4)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, sin_deg
from wisecompass.catalogue.triangles.corners import (
    MEASURES,
    corner_angle,
    corners_of,
    from_sides,
    from_top,
    line_in_triangle,
    measure,
    set_base,
    third_side,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.geometry import plane


@dataclass(frozen=True)
class TwoSides(Givens):
    base: Number = givens.length("base", "66")
    side: Number = givens.length("other side", "49")
    angle: Number = corner_angle("angle between them", "53")
    at: str = givens.choice("end of the angle", "left", "right")


def _sides(g: TwoSides, cosine: Number) -> tuple[Number, Number, Number]:
    opposite = third_side(g.base, g.side, cosine)
    return (opposite, g.side, g.base) if g.at == "left" else (g.side, opposite, g.base)


def truth(g: TwoSides, number: Make) -> Truth:
    sides = _sides(g, cos_deg(g.angle))
    along, height = g.side * cos_deg(g.angle), g.side * sin_deg(g.angle)
    findings = from_top(*sides, along if g.at == "left" else g.base - along, height)
    return Truth(points=corners_of(*sides), findings=findings)


@method("protractor and arc", Exactness.EXACT)
def protractor_and_arc(b: Board, g: TwoSides) -> None:
    left, right, base = set_base(b, g.base)
    at_left = (g.at == "left") != b.slips(wrong_end.name)
    vertex, turned = (left, g.angle) if at_left else (right, 180 - g.angle)
    ray = b.protract(base, vertex, turned, "ray", why=f"{g.at} end; {'from' if g.at == 'left' else 'against'} the base")
    b.caution("Read the scale that begins at 0 along the base: the other one gives the supplement.")
    swung = b.arc(vertex, g.side, why="the other side, across the ray")
    top = b.meet(swung, ray, plane.beyond(ray), "C")
    line_in_triangle(b, left, right, top)
    b.dimension_angle(vertex, *((right, top) if g.at == "left" else (top, left)))
    measure(b, left, right, top)
    b.check(
        "the angle drawn is the given one", plane.angle_at(vertex, left if g.at == "right" else right, top) - g.angle, "°"
    )
    b.check("the side drawn is the given one", plane.distance(vertex, top) - g.side)


@slip("protractor read on the other scale")
def other_scale(g: TwoSides, number: Make) -> dict[str, Number]:
    drawn = from_sides(*_sides(g, -cos_deg(g.angle)))
    return {name: drawn[name] for name in ("side_a", "side_b", "angle_a", "angle_b", "angle_c")}


@slip("angle set at the wrong end of the base")
def wrong_end(g: TwoSides, number: Make) -> dict[str, Number]:
    a, b, c = _sides(g, cos_deg(g.angle))
    drawn = from_sides(b, a, c)
    return {name: drawn[name] for name in ("side_a", "side_b", "angle_a", "angle_b")}


PROBLEM = Problem(
    id="triangles/two-sides-angle-between",
    title="Triangle, two sides and their angle",
    brief="Draw a triangle on a base of {base} with a side of {side} at {angle} to it from its {at} end.",
    givens=TwoSides,
    truth=truth,
    methods=(protractor_and_arc,),
    findings=MEASURES,
    source="Euclid I.4; the law of cosines (Euclid II.12 and II.13).",
    slips=(other_scale, wrong_end),
)
