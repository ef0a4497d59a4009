"""Right triangle of its hypotenuse and one leg, in the semicircle (Thales; Euclid III.31)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, root
from wisecompass.catalogue.triangles.corners import (
    LEAST_GAP,
    MEASURES,
    corners_of,
    from_sides,
    from_top,
    line_in_triangle,
    measure,
    set_base,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_most
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.geometry import plane


@dataclass(frozen=True)
class HypotenuseAndLeg(Givens):
    hypotenuse: Number = givens.length("hypotenuse", "79", least=2 * LEAST_GAP)
    leg: Number = givens.length("leg", "46")


def truth(g: HypotenuseAndLeg, number: Make) -> Truth:
    sides = (root(g.hypotenuse * g.hypotenuse - g.leg * g.leg), g.leg, g.hypotenuse)
    points = corners_of(*sides)
    points["M"] = plane.Point(g.hypotenuse / 2, number(0))
    along, height = g.leg * g.leg / g.hypotenuse, sides[0] * g.leg / g.hypotenuse
    return Truth(points=points, findings={**from_top(*sides, along, height), "angle_c": number(90)})


@method("semicircle", Exactness.EXACT)
def semicircle(b: Board, g: HypotenuseAndLeg) -> None:
    left, right, base = set_base(b, g.hypotenuse)
    middle = b.meet(b.bisector(left, right, "centre line", why="for the middle of the hypotenuse"), base, name="M")
    arch = b.arc(middle, span(middle, left), why="through both ends: the right angle stands on it")
    b.touch(arch, left)
    b.touch(arch, right)
    swung = b.arc(left, g.leg, why="the leg, across the semicircle")
    b.caution("The hypotenuse is the whole diameter: opened to its full length the circle is twice too large.")
    top = b.meet(swung, arch, plane.upper, "C")
    if b.slips(square_at_the_end.name):
        top = b.lay_off(b.square(base, left, "upright at A"), left, g.leg, "C")
    line_in_triangle(b, left, right, top)
    measure(b, left, right, top)
    b.check("the angle at C is a right one", plane.angle_at(top, left, right) - 90, "°")
    b.check("AC is as long as the leg", plane.distance(left, top) - g.leg)


@slip("the leg set up square at the end of the hypotenuse")
def square_at_the_end(g: HypotenuseAndLeg, number: Make) -> dict[str, Number]:
    drawn = from_sides(root(g.hypotenuse * g.hypotenuse + g.leg * g.leg), g.leg, g.hypotenuse)
    return {name: drawn[name] for name in ("side_a", "angle_b", "angle_c")} | {"angle_a": number(90)}


PROBLEM = Problem(
    id="triangles/hypotenuse-leg",
    title="Right triangle of hypotenuse and leg",
    brief="Draw a right triangle with a hypotenuse of {hypotenuse} and a leg of {leg}.",
    givens=HypotenuseAndLeg,
    truth=truth,
    methods=(semicircle,),
    findings=MEASURES,
    source="Thales' theorem (Euclid III.31); Pythagoras.",
    conditions=(
        Condition(
            "a leg shorter than the hypotenuse",
            lambda g: g.hypotenuse - g.leg,
            "a leg of {leg} is not shorter than the hypotenuse of {hypotenuse}",
            ("leg", "hypotenuse"),
            lambda g: {"leg": at_most(g.hypotenuse - LEAST_GAP)},
            strict=True,
        ),
    ),
    slips=(square_at_the_end,),
)
