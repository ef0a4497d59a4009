"""Circle inscribed in a triangle: its centre on two bisectors, its radius square to a side (Euclid IV.4)."""

from __future__ import annotations

from wisecompass.arithmetic import Number, cos_deg, sin_deg
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
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


def truth(g: ThreeSides, number: Make) -> Truth:
    findings = from_sides(g.right, g.left, g.base)
    touch = (g.base + g.left - g.right) / 2
    points = corners_of(g.right, g.left, g.base)
    points |= {"O": Point(touch, findings["inradius"]), "T": Point(touch, number(0))}
    return Truth(points=points, findings={**findings, "touch_from_a": touch})


@method("bisectors", Exactness.EXACT)
def bisectors(b: Board, g: ThreeSides) -> None:
    left, right, top = by_two_arcs(b, g)
    line_in_triangle(b, left, right, top)
    first = b.bisect(left, right, top, "bisector of A", ("1", "2"))
    second = b.bisect(right, left, top, "bisector of B", ("3", "4"))
    centre = b.meet(first, second, name="O")
    touch = b.square_from(Line.through(left, right, "AB"), centre, "T", why="for the radius")
    if b.slips(to_the_bisector.name):
        touch = b.meet(first, Line.through(right, top, "BC"), name="T")
    b.caution("The radius is the perpendicular to a side, not the way to where a bisector meets it.")
    circle = b.circle_through(centre, touch, name="inscribed circle")
    b.line_in_arc(centre, touch, touch, circle.name)
    measure(b, left, right, top)
    b.find("inradius", plane.distance(centre, touch))
    b.find("touch_from_a", plane.distance(left, touch))
    for name, edge in (("BC", Line.through(right, top)), ("CA", Line.through(top, left))):
        b.check(f"the circle touches {name}", plane.distance_to_line(centre, edge) - plane.distance(centre, touch))


@slip("the circle opened to where the bisector of A meets the opposite side")
def to_the_bisector(g: ThreeSides, number: Make) -> dict[str, Number]:
    whole = from_sides(g.right, g.left, g.base)
    bisector = 2 * g.left * g.base * cos_deg(whole["angle_a"] / 2) / (g.left + g.base)
    return {"inradius": bisector - whole["inradius"] / sin_deg(whole["angle_a"] / 2)}


PROBLEM = Problem(
    id="triangles/inscribed-circle",
    title="Inscribed circle",
    brief="Inscribe a circle in the triangle on a base of {base} with a left side of {left} and a right side of {right}.",
    givens=ThreeSides,
    truth=truth,
    methods=(bisectors,),
    findings={**MEASURES, "touch_from_a": Kind.LENGTH},
    source="Euclid IV.4; radius = area / half the perimeter.",
    conditions=must_close("base", "left", "right"),
    slips=(to_the_bisector,),
)
