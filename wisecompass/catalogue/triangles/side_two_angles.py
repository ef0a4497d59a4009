"""Triangle of its base and the angles at both ends (Euclid I.26)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, sin_deg
from wisecompass.catalogue.triangles.corners import (
    MEASURES,
    angles_leave_room,
    corner_angle,
    corners_of,
    from_sides,
    from_top,
    line_in_triangle,
    measure,
    set_base,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.geometry import plane


@dataclass(frozen=True)
class BaseAndAngles(Givens):
    base: Number = givens.length("base", "82")
    left_angle: Number = corner_angle("left angle", "38")
    right_angle: Number = corner_angle("right angle", "61")


def _sides(g: BaseAndAngles, left: Number, right: Number) -> tuple[Number, Number, Number]:
    """The law of sines."""
    share = g.base / sin_deg(left + right)
    return share * sin_deg(left), share * sin_deg(right), g.base


def truth(g: BaseAndAngles, number: Make) -> Truth:
    sides = _sides(g, g.left_angle, g.right_angle)
    along, height = sides[1] * cos_deg(g.left_angle), sides[1] * sin_deg(g.left_angle)
    return Truth(points=corners_of(*sides), findings=from_top(*sides, along, height))


@method("two rays", Exactness.EXACT)
def two_rays(b: Board, g: BaseAndAngles) -> None:
    left, right, base = set_base(b, g.base)
    one, other = (g.right_angle, g.left_angle) if b.slips(changed_over.name) else (g.left_angle, g.right_angle)
    first = b.protract(base, left, one, "left ray")
    second = b.protract(base, right, 180 - other, "right ray", why="the supplement of the right angle")
    b.caution("At the right end the protractor is read from the base, on its other scale.")
    top = b.meet(first, second, name="C")
    line_in_triangle(b, left, right, top)
    b.dimension_angle(left, right, top)
    b.dimension_angle(right, top, left)
    measure(b, left, right, top)
    b.check("the right angle drawn is the given one", plane.angle_at(right, left, top) - g.right_angle, "°")
    b.check("the left angle drawn is the given one", plane.angle_at(left, right, top) - g.left_angle, "°")


@slip("angles changed over: each set at the other end")
def changed_over(g: BaseAndAngles, number: Make) -> dict[str, Number]:
    drawn = from_sides(*_sides(g, g.right_angle, g.left_angle))
    return {name: drawn[name] for name in ("side_a", "side_b", "angle_a", "angle_b")}


PROBLEM = Problem(
    id="triangles/side-two-angles",
    title="Triangle of a side and two angles",
    brief="Draw a triangle on a base of {base} with {left_angle} at its left end and {right_angle} at its right end.",
    givens=BaseAndAngles,
    truth=truth,
    methods=(two_rays,),
    findings=MEASURES,
    source="Euclid I.26; the law of sines.",
    conditions=(angles_leave_room("left_angle", "right_angle"),),
    slips=(changed_over,),
)
