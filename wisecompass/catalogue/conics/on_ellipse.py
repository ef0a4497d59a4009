"""What the problems at a point of an ellipse share: the ellipse on its axes, a point of it by its auxiliary angle, and
the normal there."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, atan2_deg, cos_deg, root, sin_deg, sqrt
from wisecompass.drafting import givens, marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_most
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass(frozen=True)
class PointOfEllipse(Givens):
    major: Number = givens.length("major axis", "168")
    minor: Number = givens.length("minor axis", "104")
    position: Number = givens.angle(
        "auxiliary angle", "50", least="0", most="360", limit_words="it must lie from 0° to 360°"
    )


def minor_not_above() -> Condition:
    """The minor axis is not the longer one."""
    return Condition(
        "minor not above major",
        lambda g: g.major - g.minor,
        "the minor axis {minor} is longer than the major axis {major}",
        ("minor", "major"),
        lambda g: {"minor": at_most(g.major)},
    )


# --------------------------------------------------------------------------------------------------------- closed form
def focal(g: PointOfEllipse) -> Number:
    """Distance of a focus from the centre."""
    return root((g.major - g.minor) * (g.major + g.minor)) / 2


def place(g: PointOfEllipse) -> Point:
    """(a cos t, b sin t)."""
    return Point(g.major / 2 * cos_deg(g.position), g.minor / 2 * sin_deg(g.position))


def outward(g: PointOfEllipse) -> tuple[Number, Number]:
    """Direction of the outward normal (b cos t, a sin t), of unit length."""
    x, y = g.minor * cos_deg(g.position), g.major * sin_deg(g.position)
    size = sqrt(x * x + y * y)
    return x / size, y / size


def curvature_radius(g: PointOfEllipse) -> Number:
    """(a² sin² t + b² cos² t)^(3/2) / (ab)."""
    a, b = g.major / 2, g.minor / 2
    x, y = a * sin_deg(g.position), b * cos_deg(g.position)
    squared = x * x + y * y
    return squared * sqrt(squared) / (a * b)


def signs(g: PointOfEllipse) -> tuple[int, int]:
    """Signs of the cosine and the sine of the auxiliary angle."""
    return g.decide(lambda h: cos_deg(h.position)), g.decide(lambda h: sin_deg(h.position))


def undirected(dx: Number, dy: Number, upward: int, rightward: int) -> Number:
    """The angle of a line with the x axis, from 0° to below 180°, given the signs of its direction."""
    if upward > 0 or (upward == 0 and rightward > 0):
        return atan2_deg(dy, dx)
    return atan2_deg(-dy, -dx)


# -------------------------------------------------------------------------------------------------------------- drawing
@dataclass(frozen=True)
class EllipseDrawn:
    centre: Point
    axis: Line
    upright: Line
    large: Circle
    small: Circle
    first_focus: Point
    second_focus: Point


WRONG_FOCI = "foci swung with half the minor axis from an end of the major one"
"""A mistake at setting out the ellipse."""


def set_out(b: Board, g: PointOfEllipse) -> EllipseDrawn:
    """The ellipse, its axes, its foci and its two circles."""
    centre = b.point("O", b.number(0), b.number(0), why="the centre")
    axis = b.level_line(centre, "major axis", pen=Pen.CENTRE)
    upright = b.upright_line(centre, "minor axis", pen=Pen.CENTRE)
    large = b.arc(centre, g.major / 2, name="large circle", whole=True, why="on the major axis")
    small = b.arc(centre, g.minor / 2, name="small circle", whole=True, why="on the minor axis")
    b.meet(axis, large, plane.rightmost, "B")
    b.meet(axis, large, plane.leftmost, "A")
    top = b.meet(upright, small, plane.upper, "E")
    b.step("say", Instrument.CURVE, makes=["ellipse"], text="Draw the ellipse on its axes, by any way")
    if b.drawing:
        half = float(g.major) / 2, float(g.minor) / 2
        middle = {"cx": float(centre.x), "cy": float(centre.y)}
        b.put(marks.Ellipse, semi_major=half[0], semi_minor=half[1], pen=Pen.GIVEN, name="ellipse", **middle)
    if g.decide(lambda h: h.major - h.minor) == 0:
        return EllipseDrawn(centre, axis, upright, large, small, centre.named("O"), centre.named("O"))
    swung = b.arc(top, g.major / 2, why="across the major axis, for the foci")
    b.caution("Half the major axis, from an end of the minor axis: the halves are easily mixed up.")
    right = b.meet(swung, axis, plane.rightmost, "F2")
    left = b.meet(swung, axis, plane.leftmost, "F1")
    if b.slips(WRONG_FOCI):
        ends = (b.plane_point("B"), "F2"), (b.plane_point("A"), "F1")
        right, left = (b.meet(b.arc(end, g.minor / 2), axis, plane.nearest(centre), name) for end, name in ends)
    return EllipseDrawn(centre, axis, upright, large, small, left, right)


def point_at(b: Board, g: PointOfEllipse, drawn: EllipseDrawn) -> tuple[Point, Point]:
    """P on the ellipse and Q above or below it on the large circle, by the two circles."""
    ray = b.protract(drawn.axis, drawn.centre, g.position, "ray", why="the auxiliary angle of the point")
    outer = b.meet(ray, drawn.large, plane.beyond(ray), "Q")
    inner = b.meet(ray, drawn.small, plane.beyond(ray), "R")
    first = b.parallel(drawn.upright, outer, "crossing line", why="from the large circle")
    second = b.parallel(drawn.axis, inner, "running line", why="from the small circle")
    return b.meet(first, second, name="P"), outer


def normal_at(b: Board, g: PointOfEllipse, drawn: EllipseDrawn, at: Point) -> Line:
    """The normal, from the point inwards: it halves the angle of the focal rays."""
    sine = signs(g)[1]
    if sine == 0 or g.decide(lambda h: h.major - h.minor) == 0:
        return b.line(at, drawn.centre, "normal", why="here it passes through the centre")
    for focus in (drawn.first_focus, drawn.second_focus):
        b.line(at, focus, f"focal ray to {focus.name}")
    return b.bisect(at, drawn.first_focus, drawn.second_focus, "normal", ("m", "n"))
