"""Triangle of its perimeter and base angles: half angles on the perimeter give the apex, for the two triangles at the
sides are isosceles."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, sin_deg
from wisecompass.catalogue.triangles.corners import (
    MEASURES,
    angles_leave_room,
    corner_angle,
    from_top,
    line_in_triangle,
    measure,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class PerimeterAndAngles(Givens):
    perimeter: Number = givens.length("perimeter", "184")
    left_angle: Number = corner_angle("left angle", "52")
    right_angle: Number = corner_angle("right angle", "67")


def truth(g: PerimeterAndAngles, number: Make) -> Truth:
    third = sin_deg(g.left_angle + g.right_angle)
    share = g.perimeter / (sin_deg(g.left_angle) + sin_deg(g.right_angle) + third)
    a, b, c = share * sin_deg(g.left_angle), share * sin_deg(g.right_angle), share * third
    zero = number(0)
    altitude = b * sin_deg(g.left_angle)
    along = g.perimeter * sin_deg(g.right_angle / 2) * sin_deg(90 - g.left_angle / 2)
    top = Point(along / sin_deg((g.left_angle + g.right_angle) / 2), altitude)
    return Truth(
        points={
            "P": Point(zero, zero),
            "Q": Point(g.perimeter + 0, zero),
            "A": Point(b, zero),
            "B": Point(b + c, zero),
            "C": top,
        },
        findings=from_top(a, b, c, b * cos_deg(g.left_angle), altitude),
    )


@method("halved angles", Exactness.EXACT)
def halved_angles(b: Board, g: PerimeterAndAngles) -> None:
    start = b.point("P", b.number(0), b.number(0), why="the beginning of the perimeter")
    base = b.level_line(start, "perimeter", pen=Pen.GIVEN)
    end = b.lay_off(base, start, g.perimeter, "Q", why="all three sides in one line")
    parts = b.unless(whole_angles.name, 2, lambda: 1)
    first = b.protract(base, start, g.left_angle / parts, "ray of P", why="half of the left angle")
    second = b.protract(base, end, 180 - g.right_angle / parts, "ray of Q", why="half of the right angle")
    b.caution("Half of each angle: the whole ones belong to the triangle that is to be found.")
    top = b.meet(first, second, name="C")
    left = b.meet(b.bisector(start, top, "bisector of PC", why="AP and AC are equal"), base, name="A")
    right = b.meet(b.bisector(end, top, "bisector of QC", why="BQ and BC are equal"), base, name="B")
    line_in_triangle(b, left, right, top)
    b.dimension_angle(left, right, top)
    b.dimension_angle(right, top, left)
    measure(b, left, right, top)
    b.check("the left angle is the given one", plane.angle_at(left, right, top) - g.left_angle, "°")
    b.check("the right angle is the given one", plane.angle_at(right, left, top) - g.right_angle, "°")
    around = plane.distance(left, right) + plane.distance(right, top) + plane.distance(top, left)
    b.check("the sides together are the perimeter", around - g.perimeter)


@slip("the whole angles laid at the ends of the perimeter instead of their halves")
def whole_angles(g: PerimeterAndAngles, number: Make) -> dict[str, Number]:
    """Where both together pass 90° the corners change places, and the angles are the others beside them."""
    passed = g.decide(lambda h: h.left_angle + h.right_angle - 90) > 0
    doubled = {"angle_a": 2 * g.left_angle, "angle_b": 2 * g.right_angle}
    return {name: 180 - value if passed else value for name, value in doubled.items()}


PROBLEM = Problem(
    id="triangles/perimeter-base-angles",
    title="Triangle of perimeter and base angles",
    brief="Draw a triangle with a perimeter of {perimeter} and {left_angle} and {right_angle} at the ends of its base.",
    givens=PerimeterAndAngles,
    truth=truth,
    methods=(halved_angles,),
    findings=MEASURES,
    source="Exterior angle of an isosceles triangle (Euclid I.5 and I.32); the law of sines.",
    conditions=(angles_leave_room("left_angle", "right_angle"),),
    slips=(whole_angles,),
)
