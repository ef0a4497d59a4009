"""Regular polygon about a given circle: tangents at its equal divisions (Euclid IV.7 and IV.12)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg
from wisecompass.catalogue.polygons.regular import MEASURES, check_closes, measure, of_circumradius, ring
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, count, length
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass(frozen=True)
class SidesAndFlats(Givens):
    sides: int = count("number of sides", "8", 3, 24)
    across_flats: Number = length("diameter of the circle", "118")


def _radius(sides: int, g: SidesAndFlats, number: Make) -> Number:
    return g.across_flats / (2 * cos_deg(number(180) / sides))


def truth(g: SidesAndFlats, number: Make) -> Truth:
    zero = number(0)
    radius = _radius(g.sides, g, number)
    points = ring(g.sides, Point(zero, zero), radius, 270 - number(180) / g.sides)
    touches = ring(g.sides, Point(zero, zero), g.across_flats / 2, number(270))
    points |= {name.replace("P", "T"): point for name, point in touches.items()}
    return Truth(points=points, findings=of_circumradius(g.sides, radius, number))


@method("tangents at the divisions", Exactness.EXACT)
def tangents_at_the_divisions(b: Board, g: SidesAndFlats) -> None:
    n = g.sides
    centre = b.point("O", b.number(0), b.number(0), why="the centre")
    circle = b.arc(centre, g.across_flats / 2, whole=True, name="circle", why="half the diameter")
    axis = b.upright_line(centre, "upright axis")
    touches = [b.meet(axis, circle, plane.lower, "T1")]
    turn = b.turn(1, n)
    ray = b.protract(axis, centre, turn - 180, "ray", why="one division on from the lowest point")
    second = b.meet(ray, circle, plane.beyond(ray), "T2")
    touches += [second]
    names = [f"T{k}" for k in range(3, n + 1)]
    touches += b.step_off(circle, second, span(touches[0], second), names, why="the divisions carried round")
    b.caution("The corners lie outside the circle: a tangent point is the middle of its side.")
    tangents = []
    for k, touch in enumerate(touches, 1):
        radius = Line.through(centre, touch, f"radius {k}")
        tangents.append(b.square(radius, touch, f"tangent {k}"))
    corners = [b.meet(tangents[k - 1], tangents[k], name=f"P{k + 1}") for k in range(n)]
    if b.slips(inside.name):
        corners = [touch.named(f"P{k}") for k, touch in enumerate(touches, 1)]
    side = plane.distance(corners[0], corners[1])
    measure(b, corners, centre, side)
    b.dimension(touches[0], circle_top(circle), offset=9, clear=plane.distance(centre, corners[0]))
    check_closes(b, corners, side)
    b.check("a tangent point halves its side", plane.distance(corners[0], touches[0]) * 2 - side)


def circle_top(circle: Circle) -> Point:
    """The highest point of a circle."""
    return circle.centre.moved(circle.radius - circle.radius, circle.radius)


@slip("corners set on the circle instead of outside it")
def inside(g: SidesAndFlats, number: Make) -> dict[str, Number]:
    drawn = of_circumradius(g.sides, g.across_flats / 2, number)
    return {name: drawn[name] for name in ("side", "apothem", "across_flats", "area")}


PROBLEM = Problem(
    id="polygons/regular-about-circle",
    title="Regular polygon about a circle",
    brief="Draw a regular polygon of {sides} sides about a circle of diameter {across_flats}.",
    givens=SidesAndFlats,
    truth=truth,
    methods=(tangents_at_the_divisions,),
    findings=MEASURES,
    source="Euclid IV.7 and IV.12.",
    slips=(inside,),
)
