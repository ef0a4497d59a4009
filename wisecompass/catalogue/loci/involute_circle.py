"""Involute of a circle: a string unwound from a drum stands square to its radius and is as long as the arc it has left."""

from __future__ import annotations

import math
from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, hypot, pi_times, sin_deg
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Chosen, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass(frozen=True)
class Drum(Givens):
    diameter: Number = givens.length("diameter of the drum", "38")
    turns: int = givens.count("turns", "1", 1, 4)
    divisions: int = givens.count("number of divisions", "12", 4, 72)
    direction: str = givens.choice("direction", "clockwise", "anticlockwise", default="anticlockwise")
    start_angle: Number = givens.angle("start", "0", least="0", most="360", limit_words="it must lie from 0° to 360°")
    turned: Number = givens.angle("angle unwound for the tangent", "200", least="0.01", most="359.99")


def _way(g: Drum) -> int:
    """1 anticlockwise, -1 clockwise."""
    return 1 if g.direction == "anticlockwise" else -1


def _unwound(g: Drum, angle: Number) -> tuple[Point, Point]:
    """Where the string leaves the drum, and its end: R(cos t, sin t) and back along the tangent by the arc."""
    radius = g.diameter / 2
    length = pi_times(radius * angle / 180)
    x, y = cos_deg(g.start_angle + angle * _way(g)), sin_deg(g.start_angle + angle * _way(g))
    off = Point(radius * x, radius * y)
    return off, Point(off.x + length * y * _way(g), off.y - length * x * _way(g))


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
    level = b.level_line(centre, "level axis", pen=Pen.CENTRE)
    first = b.protract(level, centre, g.start_angle + 0, "first radius", why="where the string begins to leave")
    drum = b.arc(centre, g.diameter / 2, whole=True, name="drum", pen=Pen.GIVEN, why="half the diameter")
    why, clockwise = "beginning where the string leaves", g.direction == "clockwise"
    marks = b.divide_circle(drum, g.divisions, g.start_angle + 0, "", why=why, clockwise=clockwise)
    girth = reckoned_pi(g.diameter)
    plotted = [b.meet(drum, first, plane.beyond(first), b.numbered("P", 0))]
    tangents = [_string_line(b, drum, off) for off in marks]
    chords = b.slips(chord.name)
    for k in range(1, g.turns * g.divisions + 1):
        length, why = girth * k / g.divisions, f"{k} of {g.divisions} parts of the girth"
        if chords:
            length = plane.distance(marks[0], marks[1]) * k
        at = k % g.divisions
        plotted.append(_laid_off(b, g, tangents[at], marks[at], length, b.numbered("P", k), why))
    b.caution("The string is as long as the arc it has left, not as the chord.")
    b.plot(*plotted)
    b.fair_curve(lambda: _curve(g), plotted, "involute")
    with b.wish("tangent and normal"):
        _tangent(b, g, drum, first)
    b.find("end_radius", plane.distance(centre, plotted[-1]))
    b.find("string_length", plane.distance(plotted[0], plotted[-1]))
    edge = first.square(plotted[0])
    away = plane.distance_to_line(plotted[-1], edge)
    b.check("after whole turns the string's end is level with the edge of the drum where it began", away)


def _string_line(b: Board, drum: Circle, off: Point) -> Line:
    """The tangent at a mark, along which the string leaves the drum there."""
    return b.square(Line.through(drum.centre, off, f"radius {off.name}"), off, f"tangent {off.name}")


def _laid_off(b: Board, g: Drum, tangent: Line, off: Point, length: Number, name: str, why: str) -> Point:
    """The string laid off from where it leaves the drum, back to where it came from."""
    return b.lay_off(tangent, off, length, name, back=g.direction == "anticlockwise", why=why)


def _tangent(b: Board, g: Drum, drum: Circle, first: Line) -> None:
    """The string is the normal, and its length the radius of curvature."""
    ray = b.protract(first, drum.centre, g.turned * _way(g), "radius at K", why="the angle unwound")
    off = b.meet(ray, drum, plane.beyond(ray), "K")
    at = _laid_off(b, g, _string_line(b, drum, off), off, reckoned_pi(g.diameter * g.turned / 360), "P", "the arc unwound")
    string = Line.through(at, off, "string")
    tangent = b.square(string, at, "tangent", why="square to the string, which is the normal")
    reach = g.diameter / 2
    b.line_in((at, off), why="the normal")
    b.line_in_both_ways(at, tangent, reach)
    b.find("curvature_radius", plane.distance(at, off))
    b.check(
        "the string is as long as the arc that it has left", plane.distance(at, off) - pi_times(g.diameter * g.turned / 360)
    )


def _curve(g: Drum) -> Parametric:
    radius, start, way = float(g.diameter) / 2, math.radians(float(g.start_angle)), _way(g)

    def place(t: float) -> tuple[float, float]:
        out, run = radius * t, start + way * t
        return radius * math.cos(run) + out * way * math.sin(run), radius * math.sin(run) - out * way * math.cos(run)

    def velocity(t: float) -> tuple[float, float]:
        return radius * t * math.cos(start + way * t), radius * t * math.sin(start + way * t)

    return Parametric(place, velocity, 0.0, 2 * math.pi * g.turns, 4 * g.turns)


@slip("the chord stepped off instead of the arc")
def chord(g: Drum, number: Make) -> dict[str, Number]:
    string = g.diameter * sin_deg(number(180) / g.divisions) * g.divisions * g.turns
    return {"string_length": string, "end_radius": hypot(string, g.diameter / 2)}


PROBLEM = Problem(
    id="loci/involute-circle",
    title="Involute of a circle",
    brief=(
        "Unwind a string {direction} from a drum of diameter {diameter}, beginning at {start_angle}, in {divisions} "
        "divisions of a turn; number of turns {turns}. Draw tangent and normal where {turned} are unwound."
    ),
    givens=Drum,
    truth=truth,
    methods=(unwound_tangents,),
    findings={"string_length": Kind.LENGTH, "end_radius": Kind.LENGTH, "curvature_radius": Kind.LENGTH},
    source="Huygens, Horologium oscillatorium III: evolute and involute.",
    slips=(chord,),
    beforehand=lambda g: f"{g.turns * g.divisions} spaces of the string, {g.divisions} of the drum.",
    chosen=Chosen("turned"),
)
