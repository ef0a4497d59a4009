"""Triangle of three given sides by two arcs (Euclid I.22)."""

from __future__ import annotations

from wisecompass.arithmetic import Number
from wisecompass.catalogue.triangles.corners import (
    CHANGED_OVER,
    MEASURES,
    ThreeSides,
    by_two_arcs,
    corners_of,
    from_sides,
    line_in_triangle,
    measure,
    must_close,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.geometry import plane


def truth(g: ThreeSides, number: Make) -> Truth:
    return Truth(points=corners_of(g.right, g.left, g.base), findings=from_sides(g.right, g.left, g.base))


@method("two arcs", Exactness.EXACT)
def two_arcs(b: Board, g: ThreeSides) -> None:
    left, right, top = by_two_arcs(b, g)
    line_in_triangle(b, left, right, top)
    measure(b, left, right, top)
    b.check("AC is as long as the left side", plane.distance(left, top) - g.left)
    b.check("BC is as long as the right side", plane.distance(right, top) - g.right)


@slip(CHANGED_OVER)
def changed_over(g: ThreeSides, number: Make) -> dict[str, Number]:
    drawn = from_sides(g.left, g.right, g.base)
    return {name: drawn[name] for name in ("angle_a", "angle_b", "side_a", "side_b")}


PROBLEM = Problem(
    id="triangles/three-sides",
    title="Triangle of three sides",
    brief="Draw a triangle on a base of {base} with a left side of {left} and a right side of {right}.",
    givens=ThreeSides,
    truth=truth,
    methods=(two_arcs,),
    findings=MEASURES,
    source="Euclid I.22; Heron's formula and the law of cosines.",
    conditions=must_close("base", "left", "right"),
    slips=(changed_over,),
)
