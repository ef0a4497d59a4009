"""Circle about a triangle: its centre on the perpendicular bisectors of two sides (Euclid IV.5)."""

from __future__ import annotations

from wisecompass.arithmetic import Number, sin_deg
from wisecompass.catalogue.triangles.corners import (
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
from wisecompass.geometry.plane import Point


def truth(g: ThreeSides, number: Make) -> Truth:
    findings = from_sides(g.right, g.left, g.base)
    squares = g.left * g.left + g.right * g.right - g.base * g.base
    points = corners_of(g.right, g.left, g.base)
    points["O"] = Point(g.base / 2, g.base * squares / (8 * findings["area"]))  # half the base by cot C
    return Truth(points=points, findings=findings)


@method("perpendicular bisectors", Exactness.EXACT)
def perpendicular_bisectors(b: Board, g: ThreeSides) -> None:
    left, right, top = by_two_arcs(b, g)
    line_in_triangle(b, left, right, top)
    first = b.bisector(left, right, "bisector of AB", why="of the base")
    second = b.bisector(left, top, "bisector of AC", why="of the left side")
    b.caution("Bisectors of the sides, not of the angles: those give the inscribed circle.")
    if b.slips(of_the_angles.name):
        first, second = b.bisect(left, right, top, "bisector of A"), b.bisect(right, left, top, "bisector of B", ("3", "4"))
    centre = b.meet(first, second, name="O")
    circle = b.circle_through(centre, left, name="circumscribed circle")
    b.line_in_arc(centre, left, left, circle.name)
    measure(b, left, right, top)
    b.find("circumradius", plane.distance(centre, left))
    b.check("the circle goes through B", plane.distance(centre, right) - plane.distance(centre, left))
    b.check("the circle goes through C", plane.distance(centre, top) - plane.distance(centre, left))


@slip("bisectors of the angles taken for those of the sides, the compass opened to A")
def of_the_angles(g: ThreeSides, number: Make) -> dict[str, Number]:
    whole = from_sides(g.right, g.left, g.base)
    return {"circumradius": whole["inradius"] / sin_deg(whole["angle_a"] / 2)}


PROBLEM = Problem(
    id="triangles/circumscribed-circle",
    title="Circumscribed circle",
    brief="Draw the circle about the triangle on a base of {base} with a left side of {left} and a right side of {right}.",
    givens=ThreeSides,
    truth=truth,
    methods=(perpendicular_bisectors,),
    findings=MEASURES,
    source="Euclid IV.5; radius = product of the sides / four times the area.",
    conditions=must_close("base", "left", "right"),
    slips=(of_the_angles,),
)
