"""Cycloid of a point on a rolling circle, with its tangent and normal by the instant centre (Roberval, Descartes)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, atan2_deg, cos_deg, pi_times, sin_deg
from wisecompass.catalogue.loci.rolling import LineRolled, line_curve, line_points, roll_on_line
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class RollingOnLine(Givens):
    rolling_diameter: Number = givens.length("rolling diameter", "27")
    turns: int = givens.count("turns", "1", 1, 4)
    divisions: int = givens.count("number of divisions", "12", 8, 24)
    turned: Number = givens.angle("angle turned", "100", least="0.01", most="359.99")


def truth(g: RollingOnLine, number: Make) -> Truth:
    radius, zero = g.rolling_diameter / 2, number(0)
    contact = Point(pi_times(radius * g.turned / 180), zero)
    at = Point(contact.x - radius * sin_deg(g.turned), radius - radius * cos_deg(g.turned))
    normal = 2 * radius * sin_deg(g.turned / 2)
    points = line_points(g.turns, g.divisions, radius, radius, number)
    return Truth(
        points={**points, "K": contact, "P": at},
        findings={
            "base_length": pi_times(g.rolling_diameter * g.turns),
            "arc_length": 4 * g.rolling_diameter * g.turns,
            "area": pi_times(3 * radius * radius * g.turns),
            "tangent_angle": 90 - g.turned / 2,
            "curvature_radius": 2 * normal,
        },
    )


@method("rolled circle", Exactness.EXACT_POINTS)
def rolled_circle(b: Board, g: RollingOnLine) -> None:
    radius = g.rolling_diameter / 2
    rolled = roll_on_line(b, g.turns, g.divisions, radius, radius)
    b.fair_curve(lambda: line_curve(g.turns, float(radius), float(radius)), rolled.plotted, "cycloid")
    b.dimension(rolled.start, rolled.end, offset=-9)
    _tangent(b, g, rolled, radius)
    b.find("base_length", plane.distance(rolled.start, rolled.end))
    half = rolled.plotted[g.divisions // 2]
    if g.divisions % 2 == 0:
        b.check("half way the point stands one diameter over the base", half.y - rolled.start.y - g.rolling_diameter)
    b.check("after each turn the point is on the base again", rolled.plotted[g.divisions].y - rolled.start.y)


def _tangent(b: Board, g: RollingOnLine, rolled: LineRolled, radius: Number) -> None:
    """The circle turns about the point where it touches: the normal passes through it, and the centre of curvature lies
    as far below it as the point above."""
    contact = b.lay_off(rolled.base, rolled.start, pi_times(radius * g.turned / 180), "K", why="the arc that has rolled off")
    upright = b.upright_line(contact, "upright at K")
    centre = b.lay_off(upright, contact, radius, "C", why="the centre in this position")
    arm = b.protract(upright, centre, 180 - g.turned, "radius at P", why="the angle turned, from the contact back")
    at = b.lay_off(arm, centre, radius, "P", why="the point for the tangent")
    normal = b.line(at, contact, "normal", why="the circle turns about K at this instant")
    b.caution("The normal goes to where the circle touches the base, not to its centre.")
    tangent = b.square(normal, at, "tangent")
    bend = b.lay_off(normal, contact, plane.distance(at, contact), "S", why="as far again: the centre of curvature")
    b.line_in((at, contact), (tangent.point_at(-radius, "t1"), tangent.point_at(radius, "t2")), why="normal and tangent")
    b.find("tangent_angle", atan2_deg(tangent.dy, tangent.dx))
    b.find("curvature_radius", plane.distance(at, bend))


@slip("three diameters taken for the girth of each turn")
def three_diameters(g: RollingOnLine, number: Make) -> dict[str, Number]:
    return {"base_length": 3 * g.rolling_diameter * g.turns}


@slip("thirteen for twelve: one mark too many counted as a space")
def one_too_many(g: RollingOnLine, number: Make) -> dict[str, Number]:
    return {"base_length": pi_times(g.rolling_diameter * g.turns) * (g.divisions * g.turns + 1) / (g.divisions * g.turns)}


PROBLEM = Problem(
    id="loci/cycloid",
    title="Cycloid",
    brief=(
        "Roll a circle of diameter {rolling_diameter} for {turns} turns along a line, in {divisions} divisions of a turn, "
        "with tangent and normal where it has turned {turned}."
    ),
    givens=RollingOnLine,
    truth=truth,
    methods=(rolled_circle,),
    findings={
        "base_length": Kind.LENGTH,
        "arc_length": Kind.LENGTH,
        "area": Kind.AREA,
        "tangent_angle": Kind.ANGLE,
        "curvature_radius": Kind.LENGTH,
    },
    source="Arc of four diameters (Wren), area of three circles (Roberval), curvature by the instant centre (Huygens).",
    slips=(three_diameters, one_too_many),
)
