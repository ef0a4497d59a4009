"""Tangent, normal and centre of curvature of what a rolling circle draws.

At each instant the circle turns about K, where it touches what it rolls on (Descartes): the normal passes through K. The
centre of curvature S is found by Savary's construction: square to the normal at K to the radius of the traced point, in M;
from M to the centre of the base circle, or square to the base where that is a line; this meets the normal in S. Where
radius and normal are one line, the same relation 1/KP - 1/KS = 1/KC - 1/KO is carried over to slanting lines.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, TypeAlias

from wisecompass.arithmetic import Number, cos_deg, sin_deg, sqrt
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.setting import bare
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point

Velocity: TypeAlias = Callable[[Any], tuple[Number, Number]]
"""From the givens to the direction (dx, dy) in which the traced point moves at the chosen position."""


@dataclass(frozen=True)
class Position:
    """A rolling circle that has turned so far: radius, tracing radius, angle turned (degrees), and 1/KC - 1/KO of the
    centres, which is 1/radius on a line."""

    radius: Number
    arm: Number
    turned: Number
    bend: Number


@dataclass(frozen=True)
class Instant:
    """A position as drawn. ``along`` is the common tangent at the contact; ``sense`` 1 where it points the way the circle
    rolls; ``handed`` 1 where that way and the way from the contact to the centre are anticlockwise. ``fixed`` is the centre
    of the base circle, None on a line."""

    contact: Point
    centre: Point
    at: Point
    along: Line
    sense: int
    handed: int
    fixed: Point | None


def findings(g: Givens, velocity: Velocity, cross: Number, speed: Number, straight: bool) -> dict[str, Any]:
    """Closed form: the angle of the tangent with the level, from the ``velocity`` on the drawing, and the radius of
    curvature speed³ / |velocity x acceleration|, none at an inflection."""
    radius = None if straight else speed * speed * speed / sqrt(cross * cross)
    return {"tangent_angle": g.line_angle(velocity, *velocity(g)), "curvature_radius": radius}


def draw_tangent(b: Board, g: Givens, position_of: Callable[[Any], Position], i: Instant, velocity: Velocity) -> None:
    """Normal, tangent and centre of curvature at a chosen position."""
    with b.wish("tangent and normal"):
        _tangent_and_normal(b, g, position_of, i, velocity)


def _tangent_and_normal(b: Board, g: Givens, position_of: Callable[[Any], Position], i: Instant, velocity: Velocity) -> None:
    p = position_of(g)
    normal = b.line(i.at, i.contact, "normal", why="the circle turns about K at this instant")
    b.caution("The normal goes to where the circles touch, not to the centre of one.")
    tangent = b.square(normal, i.at, "tangent")
    b.line_in((i.at, i.contact), why="the normal")
    b.line_in_both_ways(i.at, tangent, p.radius)
    b.find("tangent_angle", g.line_angle(velocity, tangent.dx, tangent.dy))
    with b.wish("centre of curvature"):
        with b.may_be_far():
            centre = _centre_of_curvature(b, g, position_of, i, normal)
        b.find("curvature_radius", None if centre is None else plane.distance(i.at, centre))


def _centre_of_curvature(
    b: Board, g: Givens, position_of: Callable[[Any], Position], i: Instant, normal: Line
) -> Point | None:
    def nowhere(h: Any) -> Number:
        p = position_of(h)
        away = p.radius * p.radius + p.arm * p.arm - 2 * p.radius * p.arm * cos_deg(p.turned)
        return p.radius - p.arm * cos_deg(p.turned) - p.bend * away

    def right_angled(h: Any) -> Number:
        p = position_of(h)
        return p.arm - p.radius * cos_deg(p.turned)

    if g.decide(nowhere) == 0:
        b.caution("The curve is straight at this point: it has no centre of curvature here.")
        return None
    if g.decide(lambda h: sin_deg(position_of(h).turned)) == 0:
        return _on_one_line(b, position_of(g), i, normal)
    radius = Line.through(i.at, i.centre, "radius at P")
    if g.decide(right_angled) == 0:
        assert i.fixed is not None  # on a line this is an inflection
        carried = b.parallel(radius, i.fixed, "parallel to the radius", why="square to the normal, as the radius is")
    else:
        crossing = b.meet(b.square(normal, i.contact, "square at K"), radius, name="M")
        carried = _carried(b, i, crossing)
    return b.meet(carried, normal, name="S")


def _carried(b: Board, i: Instant, crossing: Point) -> Line:
    """From a point to the centre of what the circle rolls on; that of a line is endlessly far."""
    if i.fixed is None:
        return b.square(i.along, crossing, f"square from {crossing.name}", why="to the base; it meets the normal in S")
    return b.line(i.fixed, crossing, f"O{crossing.name}", why="it meets the normal in S, the centre of curvature")


def _on_one_line(b: Board, p: Position, i: Instant, normal: Line) -> Point:
    """K, the centres, P and S on one line: from A to a slanting line through K, and back from B, takes C to O and P to S."""
    aside = b.lay_off(
        i.along, i.contact, b.any_opening(bare(p.radius)), "A", why="any length: radius and normal are one line here"
    )
    turn = b.degrees(60 * i.handed * i.sense)
    slant = b.protract(i.along, i.contact, turn, "slanting line", why="any slant through K")
    first = b.meet(b.line(aside, i.centre, "AC"), slant, name="M")
    back = b.meet(_carried(b, i, first), i.along, name="B")
    second = b.meet(b.line(aside, i.at, "AP"), slant, name="N")
    return b.meet(b.line(back, second, "BN", why="what takes C to O takes P to S"), normal, name="S")
