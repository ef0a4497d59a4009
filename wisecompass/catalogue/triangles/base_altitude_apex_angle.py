"""Triangle of base, altitude and apex angle: the apex lies on the arc of equal angles over the base (Euclid III.33) and
on the parallel at the altitude. The arc's centre is found by the tangent, or by the angles at the base of the triangle that
it makes with the base (Euclid III.20)."""

from __future__ import annotations

import math
from dataclasses import dataclass

from wisecompass.arithmetic import Number, asin_deg, root, sin_deg, tan_deg
from wisecompass.catalogue.triangles.corners import (
    SECOND_MEASURES,
    corner_angle,
    from_top,
    line_in_triangle,
    measure,
    set_base,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import SHORTEST, Givens, at_least, at_most
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class BaseAltitudeApex(Givens):
    base: Number = givens.length("base", "78")
    altitude: Number = givens.length("altitude", "46")
    apex_angle: Number = corner_angle("apex angle", "62")


def _spare(g: BaseAltitudeApex) -> Number:
    """By how much the arc of equal angles rises over the altitude, times twice the tangent of half the angle."""
    return g.base - 2 * g.altitude * tan_deg(g.apex_angle / 2)


def _tops(g: BaseAltitudeApex) -> int:
    return 1 if g.decide(_spare) == 0 else 2


def truth(g: BaseAltitudeApex, number: Make) -> Truth:
    """cot A + cot B = c/h and cot A · cot B = 1 - (c/h)·cot C, so cot A and cot B are the roots of a quadratic."""
    ratio = g.base / g.altitude
    product = 1 - ratio / tan_deg(g.apex_angle) if g.decide(lambda h: h.apex_angle - 90) else number(1)
    off = root(ratio * ratio / 4 - product) if _tops(g) == 2 else number(0)
    zero = number(0)
    points = {"A": Point(zero, zero), "B": Point(g.base + 0, zero)}
    findings: dict[str, Number] = {}
    for sign, suffix in ((1, ""), (-1, "_2"))[: _tops(g)]:
        along = g.altitude * (ratio / 2 + off * sign)
        points[f"C{suffix}"] = Point(along, g.altitude + 0)
        left = root(along * along + g.altitude * g.altitude)
        right = root((g.base - along) * (g.base - along) + g.altitude * g.altitude)
        findings |= from_top(right, left, g.base, along, g.altitude, suffix)
    return Truth(points=points, findings=findings, solutions=_tops(g))


@method("arc of equal angles", Exactness.EXACT)
def arc_of_equal_angles(b: Board, g: BaseAltitudeApex) -> None:
    left, right, base = set_base(b, g.base)
    axis = b.bisector(left, right, "centre line", why="the centre lies on it")
    tangent = b.protract(base, left, -g.apex_angle, "tangent", why="the apex angle, below the base")
    b.caution("The tangent goes to the other side of the base than the apex.")
    centre = b.meet(b.square(tangent, left, "square at A"), axis, name="O")
    _tops_on_the_locus(b, g, (left, right, base), centre, axis)


@method("centre angles", Exactness.EXACT)
def centre_angles(b: Board, g: BaseAltitudeApex) -> None:
    """The base subtends twice the apex angle at the centre, so at each end of the base the radius leans 90° less it."""
    left, right, base = set_base(b, g.base)
    lean = 90 - g.apex_angle
    if g.decide(lambda h: 90 - h.apex_angle) == 0:
        b.caution("An apex angle of 90° puts the centre into the middle of the base.")
        axis = b.bisector(left, right, "centre line", why="the centre lies on it")
        centre = b.meet(axis, base, name="O")
    else:
        first = b.protract(base, left, lean, "radius to A", why="90° less the apex angle; below the base if it is blunt")
        last = b.protract(base, right, 180 - lean, "radius to B", why="the same at the other end")
        b.caution("Twice the apex angle stands at the centre; these two angles are what is left of 180°, halved.")
        centre = b.meet(first, last, name="O")
        axis = b.square(base, centre, "centre line") if _tops(g) == 1 else first
    _tops_on_the_locus(b, g, (left, right, base), centre, axis)
    b.check("the centre is as far from A as from B", plane.distance(centre, left) - plane.distance(centre, right))


def _tops_on_the_locus(
    b: Board, g: BaseAltitudeApex, base_ends: tuple[Point, Point, Line], centre: Point, axis: Line
) -> None:
    """The arc of equal angles about its centre, and where the level at the altitude meets it; where it just touches, that
    is on the ``axis`` of the base."""
    left, right, base = base_ends
    locus = b.arc(centre, span(centre, left), why="the arc of equal angles over the base")
    b.touch(locus, left)
    b.touch(locus, right)
    foot = b.lay_off(b.square(base, left, "upright at A"), left, g.altitude, "D", why="the altitude")
    level = b.parallel(base, foot, "level at the altitude")
    if _tops(g) == 1:
        tops = [b.meet(level, axis, name="C")]
    else:
        tops = [b.meet(locus, level, plane.rightmost, "C"), b.meet(locus, level, plane.leftmost, "C_2")]
    if b.slips(swung.name):
        tops[0] = b.meet(b.arc(left, g.altitude, why="to the arc"), locus, plane.upper, "C")
    for number, top in enumerate(tops, 1):
        with b.for_solution(number):
            line_in_triangle(b, left, right, top)
            measure(b, left, right, top, "" if number == 1 else "_2")
        b.check(
            f"the apex angle of solution {number} is the given one", plane.angle_at(top, left, right) - g.apex_angle, "°"
        )


@slip("the altitude swung from A to the arc instead of drawn as a level")
def swung(g: BaseAltitudeApex, number: Make) -> dict[str, Number]:
    at_b = asin_deg(g.altitude * sin_deg(g.apex_angle) / g.base)
    return {"side_b": g.altitude + 0, "altitude": g.altitude * sin_deg(180 - g.apex_angle - at_b)}


def _nearest(g: BaseAltitudeApex) -> dict[str, str]:
    """A lower altitude; over a base too short for any, also a longer base."""
    cot = 1 / math.tan(math.radians(float(g.apex_angle) / 2))
    highest = float(g.base) / 2 * cot
    if highest >= SHORTEST:
        return {"altitude": at_most(highest, 6)}
    return {"altitude": at_least(SHORTEST), "base": at_least(2 * float(SHORTEST) / cot)}


PROBLEM = Problem(
    id="triangles/base-altitude-apex-angle",
    title="Triangle of base, altitude and apex angle",
    brief="Draw a triangle on a base of {base} with an altitude of {altitude} and {apex_angle} at its apex.",
    givens=BaseAltitudeApex,
    truth=truth,
    methods=(arc_of_equal_angles, centre_angles),
    findings=SECOND_MEASURES,
    source="Euclid III.33; the cotangents of the base angles as roots of a quadratic.",
    conditions=(
        Condition(
            "an altitude that the arc reaches",
            _spare,
            "over a base of {base} an apex angle of {apex_angle} leaves no room for an altitude of {altitude}",
            ("altitude", "base", "apex_angle"),
            _nearest,
        ),
    ),
    slips=(swung,),
)
