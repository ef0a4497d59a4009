"""The minor axis of an ellipse from its major axis and one point: by the trammel laid through the point, or by the large
circle over it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, sqrt
from wisecompass.drafting import givens, marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import LONGEST, Givens, at_least, at_most
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Setting, span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class AxisAndPoint(Givens):
    major: Number = givens.length("major axis", "168")
    point_x: Number = givens.offset("distance of the point from the minor axis", "52")
    point_y: Number = givens.length("height of the point over the major axis", "40")


def _minor(g: AxisAndPoint) -> Number:
    half = g.major / 2
    return 2 * g.point_y * half / sqrt((half - g.point_x) * (half + g.point_x))


def truth(g: AxisAndPoint, number: Make) -> Truth:
    zero, minor = number(0), _minor(g)
    return Truth(
        points={
            "O": Point(zero, zero),
            "A": Point(-g.major / 2, zero),
            "B": Point(g.major / 2, zero),
            "P": Point(g.point_x + 0, g.point_y + 0),
            "E": Point(zero, minor / 2),
        },
        findings={"minor": minor},
    )


def _set_out(b: Board, g: AxisAndPoint) -> tuple[Point, Line, Line, Point]:
    centre = b.point("O", b.number(0), b.number(0), why="the centre")
    axis = b.level_line(centre, "major axis", pen=Pen.CENTRE)
    upright = b.upright_line(centre, "minor axis", pen=Pen.CENTRE)
    b.lay_off(axis, centre, g.major / 2, "B", why="half the major axis")
    b.lay_off(axis, centre, g.major / 2, "A", back=True, why="half the major axis")
    return centre, axis, upright, b.point("P", g.point_x + 0, g.point_y + 0, why="the given point")


def _finish(b: Board, g: AxisAndPoint, centre: Point, upright: Line, half: Setting) -> None:
    end = b.lay_off(upright, centre, half, "E", why="half the minor axis")
    if b.drawing:
        middle = {"cx": float(centre.x), "cy": float(centre.y)}
        b.put(
            marks.Ellipse, semi_major=float(g.major) / 2, semi_minor=float(half), pen=Pen.OUTLINE, name="ellipse", **middle
        )
    b.dimension(centre, end, offset=9, clear=g.major / 2)
    b.find("minor", half * 2)
    a2 = g.major * g.major / 4
    b.check("E is half the minor axis from the centre", plane.distance(centre, end) - half)
    b.check(
        "the point is on the ellipse of both axes",
        g.point_x * g.point_x * half * half + g.point_y * g.point_y * a2 - a2 * half * half,
        "mm⁴",
    )


@method("trammel", Exactness.EXACT)
def trammel(b: Board, g: AxisAndPoint) -> None:
    centre, axis, upright, at = _set_out(b, g)
    swung = b.arc(at, g.major / 2, why="down across the minor axis")
    first, second = (axis, upright) if b.slips(changed_over.name) else (upright, axis)
    low = b.meet(swung, first, plane.lower if first is upright else plane.leftmost, "K")
    strip = b.line(at, low, "trammel", why="as a trammel would lie")
    b.caution("The mark on the minor axis is half the major axis from the point, and the other way about.")
    mark = b.meet(strip, second, name="L")
    b.extend(strip, mark)
    _finish(b, g, centre, upright, span(at, mark))


@method("concentric circles", Exactness.EXACT)
def concentric_circles(b: Board, g: AxisAndPoint) -> None:
    centre, axis, upright, at = _set_out(b, g)
    large = b.arc(centre, g.major / 2, name="large circle", whole=True, why="on the major axis")
    ordinate = b.parallel(upright, at, "ordinate")
    outer = b.meet(ordinate, large, plane.upper, "Q")
    ray = b.line(centre, outer, "radius")
    level = b.parallel(axis, at, "level of the point")
    b.caution("The point's level cuts the radius on the small circle, whose radius is half the minor axis.")
    inner = b.meet(level, ray, name="R")
    _finish(b, g, centre, upright, span(centre, inner))


@slip("the trammel's marks changed over: half the major axis measured to the major axis")
def changed_over(g: AxisAndPoint, number: Make) -> dict[str, Number]:
    """Half the major axis reaches from the point to the major axis, over the rise; on the same slope it is so far to the
    minor one."""
    half = g.major / 2
    level = half * half - g.point_y * g.point_y
    return {"minor": 2 * absolute(g.point_x) * half / sqrt(level)} if float(level) > 0 else {}


def _nearest(g: AxisAndPoint) -> dict[str, str]:
    """A longer major axis; at the longest that can be set, also a nearer point."""
    reach = 2 * math.hypot(float(g.point_x), float(g.point_y)) * (1 + 1e-12)
    if reach < LONGEST:
        return {"major": at_least(reach)}
    near = LONGEST / 4
    return {"major": at_most(LONGEST), "point_x": at_most(near), "point_y": at_most(min(float(near), float(g.point_y)))}


PROBLEM = Problem(
    id="conics/ellipse-axis-point",
    title="Ellipse of an axis and a point",
    brief=(
        "An ellipse of major axis {major} passes through a point {point_x} from its minor axis and {point_y} over its major "
        "axis. Find the minor axis."
    ),
    givens=AxisAndPoint,
    truth=truth,
    methods=(trammel, concentric_circles),
    findings={"minor": Kind.LENGTH},
    source="The trammel of Archimedes (Proclus); affinity of ellipse and large circle.",
    conditions=(
        Condition(
            "a point within the large circle",
            lambda g: g.major * g.major / 4 - g.point_x * g.point_x - g.point_y * g.point_y,
            "a point at {point_x} and {point_y} lies outside the circle on the major axis {major}, then the shorter one",
            ("major", "point_x", "point_y"),
            _nearest,
        ),
    ),
    slips=(changed_over,),
)
