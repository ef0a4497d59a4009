"""Involute of a circle: a string unwound from a drum stands square to its radius and is as long as the arc it has left."""

from __future__ import annotations

import math
from dataclasses import dataclass

from wisecompass.arithmetic import Number, atan2_deg, cos_deg, hypot, pi_times, sin_deg
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass(frozen=True)
class Drum(Givens):
    diameter: Number = givens.length("diameter of the drum", "38")
    turns: int = givens.count("turns", "1", 1, 4)
    divisions: int = givens.count("number of divisions", "12", 8, 24)
    turned: Number = givens.angle("angle unwound for the tangent", "200", least="0.01", most="359.99")


def _unwound(g: Drum, angle: Number) -> tuple[Point, Point]:
    """Where the string leaves the drum, and its end: R(cos t, sin t) and back along the tangent by the arc."""
    radius = g.diameter / 2
    length = pi_times(radius * angle / 180)
    x, y = cos_deg(angle), sin_deg(angle)
    off = Point(radius * x, radius * y)
    return off, Point(off.x + length * y, off.y - length * x)


def truth(g: Drum, number: Make) -> Truth:
    zero = number(0)
    points = {"O": Point(zero, zero)}
    for k in range(g.turns * g.divisions + 1):
        points[f"P{k}"] = _unwound(g, number(360) * k / g.divisions)[1]
    points["K"], points["P"] = _unwound(g, g.turned + 0)
    string = pi_times(g.diameter * g.turns)
    return Truth(
        points=points,
        findings={
            "string_length": string,
            "end_radius": hypot(string, g.diameter / 2),
            "curvature_radius": pi_times(g.diameter * g.turned / 360),
        },
    )


@method("unwound tangents", Exactness.EXACT_POINTS)
def unwound_tangents(b: Board, g: Drum) -> None:
    centre = b.point("O", b.number(0), b.number(0), why="the centre of the drum")
    level = b.level_line(centre, "first radius", pen=Pen.CENTRE)
    drum = b.arc(centre, g.diameter / 2, whole=True, name="drum", pen=Pen.GIVEN, why="half the diameter")
    marks = b.divide_circle(drum, g.divisions, 0, "", why="beginning where the string leaves")
    girth = pi_times(g.diameter)
    plotted = [b.meet(drum, level, plane.rightmost, "P0")]
    for k in range(1, g.turns * g.divisions + 1):
        plotted.append(
            _string(
                b, drum, marks[k % g.divisions], girth * k / g.divisions, f"P{k}", f"{k} of {g.divisions} parts of the girth"
            )
        )
    b.caution("The string is as long as the arc it has left, not as the chord.")
    b.plot(*plotted)
    b.fair_curve(lambda: _curve(g), plotted, "involute")
    _tangent(b, g, drum, level)
    b.find("end_radius", plane.distance(centre, plotted[-1]))
    b.find("string_length", plane.distance(plotted[0], plotted[-1]))
    last = plotted[-1]
    b.check("after whole turns the string's end is level with the drum's edge", last.x - plotted[0].x)


def _string(b: Board, drum: Circle, off: Point, length: Number, name: str, why: str) -> Point:
    """The string, tangent at a mark, laid off back to where it came from."""
    radius = Line.through(drum.centre, off, f"radius {off.name}")
    tangent = b.square(radius, off, f"tangent {off.name}")
    return b.lay_off(tangent, off, length, name, back=True, why=why)


def _tangent(b: Board, g: Drum, drum: Circle, level: Line) -> None:
    """The string is the normal, and its length the radius of curvature."""
    ray = b.protract(level, drum.centre, g.turned, "radius at K", why="the angle unwound")
    off = b.meet(ray, drum, plane.beyond(ray), "K")
    at = _string(b, drum, off, pi_times(g.diameter * g.turned / 360), "P", "the arc unwound")
    string = Line.through(at, off, "string")
    tangent = b.square(string, at, "tangent", why="square to the string, which is the normal")
    reach = g.diameter / 2
    b.line_in((at, off), (tangent.point_at(-reach, "t1"), tangent.point_at(reach, "t2")), why="normal and tangent")
    b.find("curvature_radius", plane.distance(at, off))
    turned = atan2_deg(off.y - drum.centre.y, off.x - drum.centre.x)
    b.check("the string stands square to the radius", sin_deg(turned) * string.dy + cos_deg(turned) * string.dx)


def _curve(g: Drum) -> Parametric:
    radius = float(g.diameter) / 2
    return Parametric(
        lambda t: (radius * (math.cos(t) + t * math.sin(t)), radius * (math.sin(t) - t * math.cos(t))),
        lambda t: (radius * t * math.cos(t), radius * t * math.sin(t)),
        0.0,
        2 * math.pi * g.turns,
        4 * g.turns,
    )


@slip("the chord stepped off instead of the arc")
def chord(g: Drum, number: Make) -> dict[str, Number]:
    string = g.diameter * sin_deg(number(180) / g.divisions) * g.divisions * g.turns
    return {"string_length": string, "end_radius": hypot(string, g.diameter / 2)}


PROBLEM = Problem(
    id="loci/involute-circle",
    title="Involute of a circle",
    brief=(
        "Unwind a string for {turns} turns from a drum of diameter {diameter}, in {divisions} divisions of a turn, with "
        "tangent and normal where {turned} are unwound."
    ),
    givens=Drum,
    truth=truth,
    methods=(unwound_tangents,),
    findings={"string_length": Kind.LENGTH, "end_radius": Kind.LENGTH, "curvature_radius": Kind.LENGTH},
    source="Huygens, Horologium oscillatorium III: evolute and involute.",
    slips=(chord,),
)
