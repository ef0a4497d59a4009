"""Perpendicular at a point of a line, by equal arcs (Euclid I.11)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, atan2_deg, sqrt
from wisecompass.catalogue.lines.rulings import base_with_ends, wider
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_most
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class LineAndPlace(Givens):
    length: Number = givens.length("length", "118")
    offset: Number = givens.length("distance of the point from the left end", "44")


def truth(g: LineAndPlace, number: Make) -> Truth:
    zero = number(0)
    points = {"A": Point(zero, zero), "B": Point(g.length, zero), "P": Point(g.offset + 0, zero)}
    return Truth(points=points, findings={"angle": number(90)})


@method("equal arcs", Exactness.EXACT)
def equal_arcs(b: Board, g: LineAndPlace) -> None:
    a, end, base = base_with_ends(b, g.length)
    place = b.lay_off(base, a, g.offset, "P", why="the point")
    both = b.arc(place, b.any_opening(plane.distance(a, place) / 2), why="to both sides along the line, any opening")
    right, left = b.both(both, base, ("2", "1"), plane.rightmost)
    b.caution("Open the compass wider for the second pair of arcs, and keep it for both: else they cross aside of P.")
    opening = b.any_opening(plane.distance(left, right) * 3 / 4, more_than=span(left, right) / 2)
    first = b.arc(left, opening, why="above the line")
    second = b.arc(right, b.unless(two_openings.name, opening, lambda: wider(opening)), why="above the line")
    top = b.meet(first, second, plane.upper, "C")
    b.line(place, top, "perpendicular")
    b.line_in((a, end), (place, top))
    b.dimension(place, a, offset=10)
    b.find("angle", plane.angle_at(place, a, top))
    b.check("the perpendicular is square to the line", plane.angle_at(place, a, top) - 90, "°")
    b.check("C is equally far from both marks", plane.distance(left, top) - plane.distance(right, top))


@slip("two openings above the line: the second a tenth wider, the first three quarters of what lies between the marks")
def two_openings(g: LineAndPlace, number: Make) -> dict[str, Number]:
    """With half the marks' distance 1 the arcs have radii 3/2 and 33/20 about -1 and 1: they cross at x = (r² - R²) / 4."""
    first, second = number(3) / 2, number(33) / 20
    along = (first * first - second * second) / 4
    up = sqrt(first * first - (along + 1) * (along + 1))
    return {"angle": atan2_deg(up, -along)}


PROBLEM = Problem(
    id="lines/square-at-point",
    title="Perpendicular at a point of a line",
    brief="Raise a perpendicular on a line {length} long, {offset} from its left end.",
    givens=LineAndPlace,
    truth=truth,
    methods=(equal_arcs,),
    findings={"angle": Kind.ANGLE},
    source="Euclid I.11.",
    conditions=(
        Condition(
            "a point of the line",
            lambda g: g.length - g.offset,
            "a point {offset} from the left end does not lie on a line {length} long",
            ("offset", "length"),
            lambda g: {"offset": at_most(g.length)},
        ),
    ),
    slips=(two_openings,),
)
