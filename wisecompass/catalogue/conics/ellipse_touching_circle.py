"""Circle that touches an ellipse at a given point: its centre lies on the normal there, one radius away."""

from __future__ import annotations

import math
from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, root, sin_deg
from wisecompass.catalogue.conics.on_ellipse import (
    PointOfEllipse,
    minor_not_above,
    normal_at,
    outward,
    place,
    point_at,
    set_out,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import SHORTEST, at_most
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class TouchingCircle(PointOfEllipse):
    radius: Number = givens.length("radius of the circle", "21")
    contact: str = givens.choice("contact", "outside", "inside")


def _room(g: TouchingCircle) -> Number:
    """By how much an inside circle is smaller than the largest that stays inside: the one whose centre lies on the major
    axis, b/a·√(a²sin²t + b²cos²t). The circle of curvature is as small at the ends of the major axis, elsewhere larger."""
    return _largest(g) - g.radius if g.contact == "inside" else g.radius + 0


def _largest(g: TouchingCircle) -> Number:
    """The normal from the point to the major axis."""
    a, b = g.major / 2, g.minor / 2
    x, y = a * sin_deg(g.position), b * cos_deg(g.position)
    return b / a * root(x * x + y * y)


def truth(g: TouchingCircle, number: Make) -> Truth:
    at, (x, y) = place(g), outward(g)
    way = 1 if g.contact == "outside" else -1
    centre = Point(at.x + x * g.radius * way, at.y + y * g.radius * way)
    zero = number(0)
    return Truth(
        points={"O": Point(zero, zero), "P": at, "C": centre},
        findings={"centre_x": centre.x, "centre_y": centre.y},
    )


@method("normal", Exactness.EXACT)
def normal(b: Board, g: TouchingCircle) -> None:
    drawn = set_out(b, g)
    at, _ = point_at(b, g, drawn)
    inward = normal_at(b, g, drawn, at)
    if b.slips(on_the_ray.name):
        inward = b.line(at, drawn.centre, "ray")
    b.caution("The centre lies on the normal of the ellipse; the ray from its centre misses it.")
    centre = b.lay_off(inward, at, g.radius, "C", back=g.contact == "outside", why="the radius, along the normal")
    b.line_in_arc(centre, at, at, "touching circle")
    b.dimension_radius(centre, at)
    b.find("centre_x", centre.x - drawn.centre.x)
    b.find("centre_y", centre.y - drawn.centre.y)
    b.check("the centre is one radius from the point", plane.distance(centre, at) - g.radius)
    x, y = outward(g)
    b.check("the centre lies on the normal", plane.distance_to_line(centre, Line(at, x, y)))


@slip("the radius laid off on the ray from the centre instead of on the normal")
def on_the_ray(g: TouchingCircle, number: Make) -> dict[str, Number]:
    at = place(g)
    ray = Line(at, at.x, at.y)
    centre = ray.point_at(g.radius if g.contact == "outside" else -g.radius)
    return {"centre_x": centre.x, "centre_y": centre.y}


PROBLEM = Problem(
    id="conics/ellipse-touching-circle",
    title="Circle touching an ellipse",
    brief=(
        "A circle of radius {radius} touches an ellipse of axes {major} and {minor} from {contact} at the auxiliary "
        "angle {position}. Draw it."
    ),
    givens=TouchingCircle,
    truth=truth,
    methods=(normal,),
    findings={"centre_x": Kind.LENGTH, "centre_y": Kind.LENGTH},
    source="The normal halves the angle of the focal rays (Apollonius III.48); the normal to the major axis as the limit.",
    conditions=(
        minor_not_above(),
        Condition(
            "an inside circle that stays inside",
            _room,
            "from inside a circle of radius {radius} does not fit into the ellipse at {position} and would cross it",
            ("radius", "position", "minor"),
            lambda g: {"radius": at_most(_limit(g), 6)} if _limit(g) >= SHORTEST else {"contact": "outside"},
        ),
    ),
    slips=(on_the_ray,),
)


def _limit(g: TouchingCircle) -> float:
    a, b, t = float(g.major) / 2, float(g.minor) / 2, math.radians(float(g.position))
    return b / a * math.hypot(a * math.sin(t), b * math.cos(t))
