"""Tangent and normal of the spiral of Archimedes: the normal passes at the constant of the curve beside the pole, square to
the radius."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, atan2_deg, cos_deg, pi_times, sin_deg, sqrt
from wisecompass.catalogue.loci.spiral import GROWS, Spiral, constant, curve, gap, way
from wisecompass.drafting import givens, marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import at_most
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Instrument, Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class SpiralPoint(Spiral):
    turned: Number = givens.angle("angle turned from the start", "250", least="0.01", most="4320", limit_words="")


def _radius(g: SpiralPoint) -> Number:
    return g.inner_diameter / 2 + gap(g) * g.turned / (360 * g.turns)


def truth(g: SpiralPoint, number: Make) -> Truth:
    radius, growth, zero = _radius(g), constant(g), number(0)
    angle = g.start_angle + g.turned * way(g)
    x, y = cos_deg(angle), sin_deg(angle)
    squared = radius * radius + growth * growth
    return Truth(
        points={
            "O": Point(zero, zero),
            "P": Point(radius * x, radius * y),
            "N": Point(-growth * y * way(g), growth * x * way(g)),
        },
        findings={
            "radius": radius,
            "constant": growth,
            "tangent_angle_to_radius": atan2_deg(radius, growth),
            "curvature_radius": squared * sqrt(squared) / (squared + growth * growth),
        },
    )


@method("constant of the curve", Exactness.EXACT)
def constant_of_the_curve(b: Board, g: SpiralPoint) -> None:
    centre = b.point("O", b.number(0), b.number(0), why="the pole")
    level = b.level_line(centre, "level axis", pen=Pen.CENTRE)
    b.step("say", Instrument.CURVE, makes=["spiral"], words={"text": "Draw the spiral by its divided gap"})
    if b.drawing:
        b.put(marks.Curve, of=curve(g), pen=Pen.GIVEN, name="spiral")
    ray = b.protract(level, centre, g.start_angle + g.turned * way(g), "radius", why="start and angle turned together")
    at = b.lay_off(ray, centre, _radius(g), "P", why="inner radius and its growth as far as here")
    growth = gap(g) / pi_times(2 * g.turns)
    across = b.square(ray, centre, "square at O")
    beside = b.lay_off(across, centre, growth, "N", back=way(g) < 0, why="the gap by the angle of all turns in radians")
    b.caution("The constant goes to the side to which the spiral turns; to the other side it gives another curve's normal.")
    normal = b.line(at, beside, "normal")
    tangent = b.square(normal, at, "tangent")
    reach = g.outer_diameter / 4
    b.line_in((at, beside), (tangent.point_at(-reach, "t1"), tangent.point_at(reach, "t2")), why="normal and tangent")
    b.find("radius", plane.distance(centre, at))
    b.find("constant", plane.distance(centre, beside))
    forward = tangent.point_at(reach if way(g) < 0 else -reach)
    outward = Line.through(centre, at).point_at(plane.distance(centre, at) + reach)
    b.find("tangent_angle_to_radius", plane.angle_at(at, outward, forward))
    b.check("N is square to the radius", plane.angle_at(centre, at, beside) - 90, "°")


@slip("the constant laid off to the wrong side of the radius")
def wrong_side(g: SpiralPoint, number: Make) -> dict[str, Number]:
    return {"tangent_angle_to_radius": 180 - atan2_deg(_radius(g), constant(g))}


PROBLEM = Problem(
    id="loci/archimedean-tangent-normal",
    title="Tangent of a spiral of Archimedes",
    brief=(
        "A spiral of {turns} turns, {direction}, grows from an inner diameter of {inner_diameter} to an outer diameter of "
        "{outer_diameter}, beginning at {start_angle}; the circle has {divisions} divisions. Draw tangent and normal where "
        "it has turned {turned}."
    ),
    givens=SpiralPoint,
    truth=truth,
    methods=(constant_of_the_curve,),
    findings={
        "radius": Kind.LENGTH,
        "constant": Kind.LENGTH,
        "tangent_angle_to_radius": Kind.ANGLE,
        "curvature_radius": Kind.LENGTH,
    },
    source="The polar subnormal of r = r0 + c·angle is the constant c.",
    conditions=(
        GROWS,
        Condition(
            "a point of the spiral",
            lambda g: 360 * g.turns - g.turned,
            "a spiral of {turns} turns does not turn as far as {turned}",
            ("turned", "turns"),
            lambda g: {"turned": at_most(360 * g.turns, 6)},
        ),
    ),
    slips=(wrong_side,),
)
