"""Triangle of two sides and the angle opposite one of them: none, one or two, by how the arc meets the ray."""

from __future__ import annotations

import math
from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, root, sin_deg
from wisecompass.catalogue.triangles.corners import (
    LEAST_GAP,
    SECOND_MEASURES,
    corner_angle,
    corners_of,
    from_top,
    line_in_triangle,
    measure,
    set_base,
    third_side,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import LONGEST, Givens, at_least, at_most
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class AngleOpposite(Givens):
    base: Number = givens.length("base", "74")
    left_angle: Number = corner_angle("left angle", "36")
    right: Number = givens.length("right side", "52")


def _reach(g: AngleOpposite) -> int:
    """The sign of the arc's radius less the distance of B from the ray."""
    return g.decide(lambda h: h.right - h.base * sin_deg(h.left_angle))


def _solutions(g: AngleOpposite) -> int:
    acute = g.decide(lambda h: 90 - h.left_angle) > 0
    return 2 if acute and _reach(g) > 0 and g.decide(lambda h: h.base - h.right) > 0 else 1


def _far_and_near(g: AngleOpposite) -> list[Number]:
    """Side b of each solution, the longer first: the roots of b² - 2bc·cos A + c² - a² = 0."""
    middle, drop = g.base * cos_deg(g.left_angle), g.base * sin_deg(g.left_angle)
    if _reach(g) == 0:
        return [middle]
    half = root(g.right * g.right - drop * drop)
    return [middle + half, middle - half][: _solutions(g)]


def truth(g: AngleOpposite, number: Make) -> Truth:
    points: dict[str, Point] = {}
    findings: dict[str, Number] = {}
    for side, suffix in zip(_far_and_near(g), ("", "_2"), strict=False):
        along, height = side * cos_deg(g.left_angle), side * sin_deg(g.left_angle)
        findings |= from_top(g.right, side, g.base, along, height, suffix)
        points |= corners_of(g.right, side, g.base, suffix)
    return Truth(points=points, findings=findings, solutions=_solutions(g))


@method("ray and arc", Exactness.EXACT)
def ray_and_arc(b: Board, g: AngleOpposite) -> None:
    left, right, base = set_base(b, g.base)
    ray = b.protract(base, left, g.left_angle, "ray")
    if _reach(g) == 0:
        tops = [b.square_from(ray, right, "C", why="for here the arc just touches the ray")]
    else:
        centre = b.unless(from_the_left.name, right, lambda: left)
        swung = b.arc(centre, g.right, why="the right side, across the ray")
        b.caution("The arc may meet the ray twice: both triangles fit the givens.")
        tops = [b.meet(swung, ray, plane.beyond(ray), "C")]
        if _solutions(g) == 2:
            tops.append(b.meet(swung, ray, plane.nearest(left), "C_2"))
    for number, top in enumerate(tops, 1):
        with b.for_solution(number):
            line_in_triangle(b, left, right, top)
            measure(b, left, right, top, "" if number == 1 else "_2")
        b.check(f"BC of solution {number} is as long as the right side", plane.distance(right, top) - g.right)
    b.dimension_angle(left, right, tops[0])


@slip("arc swung from the left end instead of the right one")
def from_the_left(g: AngleOpposite, number: Make) -> dict[str, Number]:
    return {"side_b": g.right + 0, "side_a": third_side(g.base, g.right, cos_deg(g.left_angle))}


def _drop(g: AngleOpposite) -> float:
    return float(g.base) * math.sin(math.radians(float(g.left_angle)))


def _longer(g: AngleOpposite) -> dict[str, str]:
    """A longer right side; at the longest base that can be set, also a shorter base."""
    room = LONGEST - LEAST_GAP
    if float(g.base) > room:
        return {"base": at_most(room), "right": at_least(room, above=True)}
    return {"right": at_least(g.base, above=True)}


PROBLEM = Problem(
    id="triangles/two-sides-angle-opposite",
    title="Triangle, two sides and opposite angle",
    brief="Draw a triangle on a base of {base} with {left_angle} at its left end and a right side of {right}.",
    givens=AngleOpposite,
    truth=truth,
    methods=(ray_and_arc,),
    findings=SECOND_MEASURES,
    source="The ambiguous case of Euclid's I.4; the quadratic of the law of cosines.",
    conditions=(
        Condition(
            "an arc that reaches the ray",
            lambda g: g.right - g.base * sin_deg(g.left_angle),
            "a right side of {right} does not reach the ray at {left_angle} from B, {base} away",
            ("right", "base", "left_angle"),
            lambda g: {"right": at_least(_drop(g))},
        ),
        Condition(
            "a right side longer than the base",
            lambda g: g.right - g.base if g.left_angle >= 90 else g.right / g.right,
            "at {left_angle} a right side of {right} meets the ray only behind A, for it is not longer than the base {base}",
            ("right", "base", "left_angle"),
            _longer,
            strict=True,
        ),
    ),
    slips=(from_the_left,),
)
