"""What the problems of a circle that rolls along a line share: its positions, and the point that it carries.

The point is at (Rt - d sin t, R - d cos t), R being the rolling radius and d that of the tracing point; mirrored where the
circle rolls to the left.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, pi_times, sin_deg, sqrt
from wisecompass.catalogue.loci.instant_centre import Instant, Position, draw_tangent, findings
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Make
from wisecompass.drafting.setting import Settable
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass(frozen=True)
class OnLine(Givens):
    rolling_diameter: Number = givens.length("rolling diameter", "27")


@dataclass(frozen=True)
class RollingOnLine(OnLine):
    turns: int = givens.count("turns", "1", 1, 4)
    divisions: int = givens.count("number of divisions", "12", 4, 72)
    direction: str = givens.choice("direction", "right", "left")
    turned: Number = givens.angle("angle turned", "100", least="0.01", most="359.99")


def way(g: RollingOnLine) -> int:
    """1 to the right, -1 to the left."""
    return 1 if g.direction == "right" else -1


def position(g: RollingOnLine, arm: Number) -> Position:
    radius = g.rolling_diameter / 2
    return Position(radius, arm, g.turned, 1 / radius)


# --------------------------------------------------------------------------------------------------------- closed form
def points(g: RollingOnLine, arm: Number, number: Make) -> dict[str, Point]:
    """The plotted points by name, the first over the beginning of the base; K and P of the chosen position."""
    radius = g.rolling_diameter / 2

    def at(angle: Number) -> Point:
        along = pi_times(radius * angle / 180)
        return Point((along - arm * sin_deg(angle)) * way(g), radius - arm * cos_deg(angle))

    found = {f"P{k}": at(number(360) * k / g.divisions) for k in range(g.turns * g.divisions + 1)}
    found["K"] = Point(pi_times(radius * g.turned / 180) * way(g), number(0))
    return {**found, "P": at(g.turned + 0)}


def tangent_findings(g: RollingOnLine, arm: Number) -> dict[str, Number | None]:
    """Tangent angle on the drawing, and radius of curvature, from the derivatives."""
    radius = g.rolling_diameter / 2
    cross = arm * (radius * cos_deg(g.turned) - arm)
    straight = g.decide(lambda h: h.rolling_diameter * cos_deg(h.turned) - 2 * _arm(h)) == 0
    along, up = velocity(g)
    return findings(g, velocity, cross, sqrt(along * along + up * up), straight)


def velocity(g: RollingOnLine) -> tuple[Number, Number]:
    """How the traced point moves for each radian that the circle turns."""
    radius, arm = g.rolling_diameter / 2, _arm(g)
    return (radius - arm * cos_deg(g.turned)) * way(g), arm * sin_deg(g.turned)


def _arm(g: RollingOnLine) -> Number:
    return getattr(g, "tracing_radius", g.rolling_diameter / 2)


# -------------------------------------------------------------------------------------------------------------- drawing
@dataclass(frozen=True)
class Rolled:
    """The positions of a circle that has rolled along a line; ``first`` is its centre and ``foot`` the radius there."""

    base: Line
    start: Point
    first: Point
    end: Point
    plotted: list[Point]


@dataclass(frozen=True)
class _SetOut:
    """The rolling circle in its first position with its divisions, and the base and path of the centre with as many."""

    base: Line
    upright: Line
    start: Point
    first: Point
    marks: list[Point]
    contacts: list[Point]
    centres: Line


def _set_out(b: Board, g: RollingOnLine) -> _SetOut:
    """The base of so many girths divided, and the circle in its first position divided likewise."""
    radius, back = g.rolling_diameter / 2, g.direction == "left"
    start = b.point(b.numbered("", 0), b.number(0), b.number(0), why="where the circle first touches the base")
    base = b.level_line(start, "base", pen=Pen.GIVEN)
    upright = b.upright_line(start, "first radius")
    first = b.lay_off(upright, start, radius, b.numbered("C", 0), why="half the rolling diameter")
    circle = b.arc(first, radius, whole=True, name="rolling circle")
    marks = b.divide_circle(circle, g.divisions, 270, "d", why="beginning where it touches", clockwise=back)
    count = g.turns * g.divisions
    girth = _girth(b, g, count)
    end = b.lay_off(base, start, girth, b.numbered("", count), back=back, why="the girth, once for each turn")
    b.caution(f"Spaces are counted, not marks: {count} spaces have {count + 1} marks.")
    names = [b.numbered("", k) for k in range(1, count)]
    contacts = [*b.divide(start, end, count, names, why="as many to a turn as the circle"), end]
    centres = b.parallel(base, first, "path of the centre", pen=Pen.CENTRE)
    return _SetOut(base, upright, start, first, marks, contacts, centres)


THREE_DIAMETERS = "three diameters taken for the girth of each turn"
THIRTEEN = "thirteen for twelve: one mark too many counted as a space"
OF_THE_TRACER = "the base divided by the tracing circle's girth instead of the rolling one's"
"""Mistakes at the base."""


def _girth(b: Board, g: RollingOnLine, count: int) -> Settable:
    """What rolls off on the base."""
    girth: Settable = reckoned_pi(g.rolling_diameter * g.turns)
    if b.slips(THREE_DIAMETERS):
        girth = g.rolling_diameter * g.turns * 3
    if b.slips(THIRTEEN):
        girth = girth * (count + 1) / count
    arm = getattr(g, "tracing_radius", None)
    if arm is not None and b.slips(OF_THE_TRACER):
        girth = reckoned_pi(arm * 2 * g.turns)
    return girth


def _positions(b: Board, s: _SetOut) -> list[Point]:
    """The centre over each contact."""
    found = []
    for k, contact in enumerate(s.contacts, 1):
        upright = b.parallel(s.upright, contact, f"upright {b.nth(k)}")
        found.append(b.meet(upright, s.centres, name=b.numbered("C", k)))
    return found


def _rolled_to(b: Board, g: RollingOnLine, centre: Point, contact: Point) -> Circle:
    """The rolling circle in a position."""
    circle = b.arc(centre, g.rolling_diameter / 2, why="the rolling circle in this position")
    b.touch(circle, contact)
    return circle


def roll(b: Board, g: RollingOnLine, arm: Number) -> Rolled:
    """The circle in each position, and the tracing point on its radius turned back."""
    s = _set_out(b, g)
    plotted = [b.lay_off(s.upright, s.first, arm, b.numbered("P", 0), back=True, why="the tracing point")]
    centres = _positions(b, s)
    circles = [_rolled_to(b, g, centre, contact) for centre, contact in zip(centres, s.contacts, strict=True)]
    rays = []
    for k, centre in enumerate(centres, 1):
        turned = Line.through(s.first, s.marks[-k % g.divisions], f"radius {b.nth(k)}")
        why = "turned back by as many divisions"
        rays.append(b.parallel(turned, centre, f"radius in position {b.nth(k)}", why=why))
    for k, (ray, centre, circle) in enumerate(zip(rays, centres, circles, strict=True), 1):
        plotted.append(b.lay_off(ray, centre, arm, b.numbered("P", k), why="the tracing radius"))
        b.touch(circle, plotted[-1])
    b.plot(*plotted)
    return Rolled(s.base, s.start, s.first, s.contacts[-1], plotted)


def roll_by_levels(b: Board, g: RollingOnLine) -> Rolled:
    """The rim's point stands in each position as high as its division stands in the first: where the level of the division
    meets the circle, behind the centre in the first half of a turn, before it in the second."""
    s, n = _set_out(b, g), g.divisions
    plotted = [b.touched(Circle(s.first, g.rolling_diameter / 2, "rolling circle"), s.base, b.numbered("P", 0))]
    levels = {
        k: b.parallel(s.base, s.marks[k], f"level {b.nth(k)}", why="for both divisions at its height")
        for k in range(1, n // 2 + 1)
    }
    behind, before = (plane.leftmost, plane.rightmost) if way(g) > 0 else (plane.rightmost, plane.leftmost)
    for k, (centre, contact) in enumerate(zip(_positions(b, s), s.contacts, strict=True), 1):
        rolled = _rolled_to(b, g, centre, contact)
        name, gone = b.numbered("P", k), k % n
        if gone == 0 or 2 * gone == n:
            plotted.append(b.touched(rolled, levels[gone] if gone else s.base, name))
        else:
            level = levels[min(gone, n - gone)]
            plotted.append(b.meet(rolled, level, behind if 2 * gone < n else before, name))
        if k == 1:
            b.caution("Each level crosses the circle twice: behind the centre while the point rises, before it as it falls.")
    b.plot(*plotted)
    return Rolled(s.base, s.start, s.first, s.contacts[-1], plotted)


def draw_at_chosen(b: Board, g: RollingOnLine, rolled: Rolled, arm: Number) -> None:
    """The circle in the chosen position, with tangent, normal and centre of curvature there."""
    radius, back = g.rolling_diameter / 2, g.direction == "left"
    run = reckoned_pi(g.rolling_diameter * g.turned / 360)
    contact = b.lay_off(rolled.base, rolled.start, run, "K", back=back, why="the arc that has rolled off")
    upright = b.upright_line(contact, "upright at K")
    centre = b.lay_off(upright, contact, radius, "C", why="the centre in this position")
    ray = b.protract(upright, centre, 180 - g.turned * way(g), "radius at P", why="the angle turned, from the contact back")
    at = b.lay_off(ray, centre, arm, "P", why="the point for the tangent")
    instant = Instant(contact, centre, at, rolled.base, way(g), way(g), None)
    draw_tangent(b, g, lambda h: position(h, _arm(h)), instant, velocity)


def curve(g: RollingOnLine, arm: float) -> Parametric:
    """The curve from the first to the last position."""
    radius, side = float(g.rolling_diameter) / 2, way(g)
    return Parametric(
        lambda t: ((radius * t - arm * math.sin(t)) * side, radius - arm * math.cos(t)),
        lambda t: ((radius - arm * math.cos(t)) * side, arm * math.sin(t)),
        0.0,
        2 * math.pi * g.turns,
        4 * g.turns,
    )


def line_in_rolled(b: Board, g: RollingOnLine, rolled: Rolled, arm: Number, name: str) -> None:
    """The curve, the base's dimension and length, and what is drawn at the chosen point."""
    b.fair_curve(lambda: curve(g, float(arm)), rolled.plotted, name)
    b.dimension(rolled.start, rolled.end, offset=-9 * way(g))
    b.find("base_length", plane.distance(rolled.start, rolled.end))
    draw_at_chosen(b, g, rolled, arm)


def counts_on_line(g: RollingOnLine) -> str:
    """What is counted before the first step."""
    return f"{g.turns * g.divisions} spaces on the line, {g.divisions} of the circle."
