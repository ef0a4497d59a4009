"""Tangent and normal of the spiral of Archimedes: the normal passes at the constant of the curve beside the pole, square to
the radius."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, atan2_deg, cos_deg, sin_deg, sqrt
from wisecompass.catalogue.loci.spiral import GROWS, Spiral, constant, counts, curve, gap, way
from wisecompass.drafting import givens, marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import at_most
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Chosen, Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Setting, pi_times, span
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
    grown, growth = _growth_diagram(b, g)
    with b.block("spiral"):
        _on_the_spiral(b, g, grown, growth)


def _on_the_spiral(b: Board, g: SpiralPoint, grown: Number, growth: Number) -> None:
    centre = b.point("O", b.number(0), b.number(0), why="the pole")
    level = b.level_line(centre, "level axis", pen=Pen.CENTRE)
    b.step("say", Instrument.CURVE, makes=["spiral"], text="Draw the spiral by its divided gap")
    if b.drawing:
        b.put(marks.Curve, of=curve(g), pen=Pen.GIVEN, name="spiral")
    ray = b.protract(level, centre, g.start_angle + g.turned * way(g), "radius", why="start and angle turned together")
    begin = centre
    if g.decide(lambda h: h.inner_diameter) > 0:
        begin = b.lay_off(ray, centre, g.inner_diameter / 2, "B", why="the inner radius")
    at = b.lay_off(ray, begin, grown, "P", why="and the growth from the diagram")
    across = b.square(ray, centre, "square at O")
    back = (way(g) < 0) != b.slips(wrong_side.name)
    beside = b.lay_off(across, centre, growth, "N", back=back, why="the constant from the diagram")
    b.caution("The constant goes to the side to which the spiral turns; to the other side it gives another curve's normal.")
    normal = b.line(at, beside, "normal")
    tangent = b.square(normal, at, "tangent")
    reach = g.outer_diameter / 4
    b.line_in((at, beside), why="the normal")
    b.line_in_both_ways(at, tangent, reach)
    b.find("radius", plane.distance(centre, at))
    b.find("constant", plane.distance(centre, beside))
    forward = tangent.point_at(reach if way(g) < 0 else -reach)
    outward = Line.through(centre, at).point_at(plane.distance(centre, at) + reach)
    b.find("tangent_angle_to_radius", plane.angle_at(at, outward, forward))
    centre_of_curvature = _centre_of_curvature(b, normal, ray, centre, (at, beside))
    b.find("curvature_radius", plane.distance(at, centre_of_curvature))
    share = gap(g) * g.turned / (360 * g.turns)
    b.check("the radius has grown in the share of the angle", plane.distance(centre, at) - g.inner_diameter / 2 - share)
    b.check("the constant is the growth of one radian", plane.distance(centre, beside) - constant(g))


def _growth_diagram(b: Board, g: SpiralPoint) -> tuple[Setting, Setting]:
    """The angle turned laid off along a line, the growth of the radius upwards: a straight slope. It gives the growth at
    the chosen angle, and at one radian the constant of the curve."""
    with b.block("growth"):
        start = b.point("X", b.number(0), b.number(0), why="the beginning of the growth diagram")
        base = b.level_line(start, "angle turned")
        whole = g.outer_diameter + 0
        end = b.lay_off(base, start, whole, "Z", why="any length, for the angle of all turns")
        high = b.lay_off(b.upright_line(end, "gap"), end, gap(g), "Y", why="the gap that the radius grows through")
        slope = b.line(start, high, "growth")
        heights = []
        for name, top, share, why in (
            ("U", "U1", whole * g.turned / (360 * g.turns), "the angle turned, on the same scale"),
            ("V", "V1", whole / pi_times(2 * g.turns), "57.3°, one radian"),
        ):
            foot = b.lay_off(base, start, share, name, why=why)
            heights.append(span(foot, b.meet(b.upright_line(foot, f"upright at {name}"), slope, name=top)))
    return heights[0], heights[1]


def _centre_of_curvature(b: Board, normal: Line, ray: Line, centre: Point, ends: tuple[Point, Point]) -> Point:
    """PS = PN² / (PN + NH), H below the pole on the normal: as a fourth proportional on the radius."""
    at, beside = ends
    below = b.meet(b.square(normal, centre, "square from O"), normal, name="H")
    far = b.lay_off(normal, beside, span(beside, below), "G", why="N–H, beyond N")
    inward = Line.through(at, centre, "PO")
    reach = span(at, beside)
    swung = b.arc(at, reach, why="across the radius")
    mark = b.meet(swung, inward, plane.beyond(inward), "N1")
    b.extend(ray, mark)
    joined = b.line(far, mark, "G to the radius")
    found = b.meet(b.parallel(joined, beside, "parallel through N"), inward, name="S1")
    back = b.arc(at, span(at, found), why="back to the normal")
    b.touch(back, found)
    return b.meet(back, normal, plane.nearest(beside), "S")


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
        "constant": Kind.LENGTH_PER_RADIAN,
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
    beforehand=counts,
    chosen=Chosen("turned", last=lambda g: 360 * g.turns, block="spiral"),
)
