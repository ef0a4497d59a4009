"""Rectangular hyperbola between its asymptotes through a given point: radial lines keep the product of both distances."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import Number, sqrt
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Chosen, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class PointBetween(Givens):
    point_x: Number = givens.length("distance from the upright asymptote", "34")
    point_y: Number = givens.length("height over the level asymptote", "26")
    divisions: int = givens.count("points on either side", "5", 4, 24)
    chosen: Number = givens.ratio("times the distance", "1.3", Fraction("0.34"), Fraction(3))


def _slope(g: PointBetween) -> tuple[Number, Number]:
    """The direction of the tangent at the chosen point: x·y stays the same."""
    return g.point_x * g.chosen, -g.point_y / g.chosen


def truth(g: PointBetween, number: Make) -> Truth:
    zero, constant = number(0), g.point_x * g.point_y
    x, y = g.point_x * g.chosen, g.point_y / g.chosen
    squared = x * x + y * y

    def off_curve(at: Point) -> Number:
        return (at.x * at.y - constant) / sqrt(at.x * at.x + at.y * at.y)

    return Truth(
        points={
            "O": Point(zero, zero),
            "P": Point(g.point_x + 0, g.point_y + 0),
            "V": Point(sqrt(constant), sqrt(constant)),
            "Q": Point(x, y),
        },
        findings={
            "constant": constant,
            "vertex_distance": sqrt(2 * constant),
            "tangent_angle": g.line_angle(_slope, x, -y),
            "curvature_radius": squared * sqrt(squared) / (2 * constant),
        },
        on_curve=off_curve,
    )


@method("radial lines", Exactness.EXACT_POINTS)
def radial_lines(b: Board, g: PointBetween) -> None:
    centre = b.point("O", b.number(0), b.number(0), why="where the asymptotes cross")
    level = b.level_line(centre, "level asymptote", pen=Pen.GIVEN)
    upright = b.upright_line(centre, "upright asymptote", pen=Pen.GIVEN)
    at = b.point("P", g.point_x + 0, g.point_y + 0, why="the given point")
    along, up = b.parallel(level, at, "level of P"), b.parallel(upright, at, "upright of P")
    n = g.divisions
    right = [str(k) for k in range(1, n + 1)]
    high = [str(k) for k in range(n + 1, 2 * n + 1)]
    on_level = b.step_along(along, at, b.any_opening(g.point_x / 2), right, why="any step")
    on_upright = b.step_along(up, at, b.any_opening(g.point_y / 2), high, why="any step")
    cuts = []
    for marks, own in ((on_level, up), (on_upright, along)):
        rays = [b.line(centre, mark, f"ray {mark.name}") for mark in marks]
        names = [f"{mark.name}′" for mark in marks]
        cuts.append(b.mark_crossings((ray, own, name) for ray, name in zip(rays, names, strict=True)))
    levels = [b.parallel(level, at, f"level {at.name}") for at in (*cuts[0], *on_upright)]
    uprights = [b.parallel(upright, at, f"upright {at.name}") for at in (*on_level, *cuts[1])]
    names = [f"P{mark.name}" for mark in (*on_level, *on_upright)]
    met = b.mark_crossings(zip(levels, uprights, names, strict=True))
    found, above = met[:n], met[n:]
    b.caution("The ray's two ends make the corner of a rectangle: upright from one, level from the other.")
    plotted = [*reversed(above), at, *found]
    b.plot(*plotted)
    b.fair_curve(lambda: _curve(g, plotted), plotted, "hyperbola")
    vertex = _vertex(b, g, centre, level, at)
    with b.wish("tangent and normal"):
        _tangent(b, g, (centre, level, upright), (along, up))
    b.find("constant", (at.x - centre.x) * (at.y - centre.y))
    b.find("vertex_distance", plane.distance(centre, vertex))
    top = above[-1]
    b.check("so does the highest", (top.x - centre.x) * (top.y - centre.y) - g.point_x * g.point_y, "mm²")
    last = found[-1]
    b.check("the last point keeps the product", (last.x - centre.x) * (last.y - centre.y) - g.point_x * g.point_y, "mm²")


def _tangent(b: Board, g: PointBetween, axes: tuple[Point, Line, Line], given: tuple[Line, Line]) -> None:
    """The tangent cuts the asymptote at twice the distance; the chord of the normal is twice the radius of curvature, which
    lies to the other side (its part beyond one asymptote equals that before the other)."""
    centre, level, upright = axes
    along, up = given
    foot = b.lay_off(level, centre, g.point_x * g.chosen, "q", why="the chosen distance")
    own = b.parallel(upright, foot, "upright at q")
    ray = b.line(centre, b.meet(own, along, name="q′"), "ray of q′")
    place = b.meet(b.parallel(level, b.meet(ray, up, name="q″"), "level of q″"), own, name="Q")
    end = b.lay_off(level, foot, span(centre, foot), "T", why="the same again: there the tangent ends")
    tangent = b.line(place, end, "tangent")
    normal = b.square(tangent, place, "normal")
    low, high = b.meet(normal, level, name="X"), b.meet(normal, upright, name="Y")
    inward = Line.through(place, low, "normal")
    b.caution("What the normal measures from Q to one asymptote, it measures from the other to its second crossing.")
    far = b.lay_off(inward, low, span(place, high), "Z", why="Q–Y, from X on: the second crossing")
    half = span(place, far) / 2
    bend = b.lay_off(inward, place, half, "S", back=True, why="half the chord, to the other side: the centre of curvature")
    with b.may_be_far():
        b.line_in((place, end), (place, bend), why="tangent and normal")
    b.find("tangent_angle", g.line_angle(_slope, tangent.dx, tangent.dy))
    b.find("curvature_radius", plane.distance(place, bend))


def _vertex(b: Board, g: PointBetween, centre: Point, level: Line, at: Point) -> Point:
    """The mean proportional of both distances is the vertex's distance from either asymptote."""
    side = b.lay_off(level, centre, g.point_x, "1a", why="the first distance")
    other = b.lay_off(level, centre, g.point_y, "1b", back=True, why="the second, to the other side")
    middle = b.meet(b.bisector(other, side, "bisector", why="for the semicircle over both"), level, name="M")
    arch = b.arc(middle, span(middle, side), why="over both distances")
    b.touch(arch, other)
    rising = b.square(level, centre, "upright at O")
    mean = b.meet(arch, rising, plane.upper, "G")
    if b.slips(half_sum.name):
        mean = b.lay_off(rising, centre, span(middle, side), "G")
    diagonal = b.set_square_line(centre, 45, "axis", why="the axis of the hyperbola")
    return b.meet(b.parallel(level, mean, "level of G"), diagonal, name="V")


def _curve(g: PointBetween, plotted: list[Point]) -> Parametric:
    constant = float(g.point_x) * float(g.point_y)
    return Parametric(
        lambda x: (x, constant / x), lambda x: (1.0, -constant / (x * x)), float(plotted[0].x), float(plotted[-1].x)
    )


@slip("half the sum of both distances taken for their mean proportional")
def half_sum(g: PointBetween, number: Make) -> dict[str, Number]:
    return {"vertex_distance": (g.point_x + g.point_y) / sqrt(number(2))}


PROBLEM = Problem(
    id="conics/hyperbola-rectangular",
    title="Rectangular hyperbola",
    brief=(
        "Draw the rectangular hyperbola through a point {point_x} from one asymptote and {point_y} from the other, with "
        "{divisions} points on either side, and its tangent and normal at {chosen} times the first distance."
    ),
    givens=PointBetween,
    truth=truth,
    methods=(radial_lines,),
    findings={
        "constant": Kind.AREA,
        "vertex_distance": Kind.LENGTH,
        "tangent_angle": Kind.ANGLE,
        "curvature_radius": Kind.LENGTH,
    },
    source="Apollonius II.12; Euclid VI.13 for the vertex.",
    slips=(half_sum,),
    chosen=Chosen("chosen", "Q"),
)
