"""Tangents of an ellipse from a point outside: the focus mirrored in a tangent lies on the director circle about the other
focus, and as far from the point as the focus itself."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, acos_deg, cos_deg, root, sin_deg, sqrt
from wisecompass.catalogue.conics.on_ellipse import minor_not_above
from wisecompass.drafting import marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_least, length, offset
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Instrument, Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class EllipseAndPoint(Givens):
    major: Number = length("major axis", "118")
    minor: Number = length("minor axis", "74")
    point_x: Number = offset("distance of the point from the minor axis", "83")
    point_y: Number = offset("height of the point over the major axis", "46")


def truth(g: EllipseAndPoint, number: Make) -> Truth:
    """Flattened from a circle of radius 1: there the tangent points lie acos(1/r) to either side of the way to the point."""
    zero, a, b = number(0), g.major / 2, g.minor / 2
    x, y = g.point_x / a, g.point_y / b
    reach = sqrt(x * x + y * y)
    turn = acos_deg(1 / reach)
    c, s = cos_deg(turn), sin_deg(turn)
    points = {
        "O": Point(zero, zero),
        "P": Point(g.point_x + 0, g.point_y + 0),
        "T1": Point(a * (x * c - y * s) / reach, b * (y * c + x * s) / reach),
        "T2": Point(a * (x * c + y * s) / reach, b * (y * c - x * s) / reach),
    }
    focal = root((a - b) * (a + b))
    points |= {"F1": Point(-focal, zero), "F2": Point(focal, zero)}
    one, two = (plane.distance(points["P"], points[name]) for name in ("T1", "T2"))
    between = plane.angle_at(points["P"], points["T1"], points["T2"])
    return Truth(points=points, findings={"tangent_length_1": one, "tangent_length_2": two, "angle_between": between})


def _set_out(b: Board, g: EllipseAndPoint) -> tuple[Point, Line, Point, Point]:
    centre = b.point("O", b.number(0), b.number(0), why="the centre")
    axis = b.level_line(centre, "major axis", pen=Pen.CENTRE)
    upright = b.upright_line(centre, "minor axis", pen=Pen.CENTRE)
    b.lay_off(axis, centre, g.major / 2, "B", why="half the major axis")
    b.lay_off(axis, centre, g.major / 2, "A", back=True, why="half the major axis")
    top = b.lay_off(upright, centre, g.minor / 2, "E", why="half the minor axis")
    b.step("say", Instrument.CURVE, makes=["ellipse"], text="Draw the ellipse on its axes, by any way")
    if b.drawing:
        half = {"semi_major": float(g.major) / 2, "semi_minor": float(g.minor) / 2}
        b.put(marks.Ellipse, cx=float(centre.x), cy=float(centre.y), pen=Pen.OUTLINE, name="ellipse", **half)
    if g.decide(lambda h: h.major - h.minor) == 0:
        return centre, axis, b.mark_point(centre.named("F1")), b.mark_point(centre.named("F2"))
    swung = b.arc(top, g.major / 2, why="across the major axis, for the foci")
    b.caution("Half the major axis, from an end of the minor axis: the halves are easily mixed up.")
    right = b.meet(swung, axis, plane.rightmost, "F2")
    return centre, axis, b.meet(swung, axis, plane.leftmost, "F1"), right


@method("director circle arcs", Exactness.EXACT)
def director_circle_arcs(b: Board, g: EllipseAndPoint) -> None:
    centre, _, first, second = _set_out(b, g)
    point = b.point("P", g.point_x + 0, g.point_y + 0, why="the point outside")
    around = b.arc(point, span(point, first), why="through the first focus")
    b.touch(around, first)
    director = b.arc(second, g.major, name="director circle", why="the whole major axis about the second focus")
    b.caution("The whole major axis here, not half of it: that is how far the mirrored focus lies from the other.")
    found = []
    ahead = Line.through(second, point)
    for n, mirror in enumerate(b.both(director, around, ("Q1", "Q2"), plane.left_of(ahead)), 1):
        ray = b.line(second, mirror, f"ray to Q{n}")
        halving = b.bisector(first, mirror, f"tangent {n}", why="it goes through P")
        touch = b.meet(halving, ray, name=f"T{n}")
        b.extend(halving, point)
        b.line_in((point, touch))
        b.find(f"tangent_length_{n}", plane.distance(point, touch))
        sum_of_both = plane.distance(first, touch) + plane.distance(touch, second)
        b.check(f"the focal distances of T{n} add up to the major axis", sum_of_both - g.major)
        b.check(f"tangent {n} goes through P", plane.distance_to_line(point, halving))
        found.append(touch)
    if b.slips(of_the_large_circle.name):
        found = list(_of_the_large_circle(b, g, centre, point))
    b.find("angle_between", plane.angle_at(point, *found))
    b.dimension_angle(point, found[0], found[1], radius=16)


def _of_the_large_circle(b: Board, g: EllipseAndPoint, centre: Point, point: Point) -> tuple[Point, Point]:
    """Where tangents from the point touch the circle on the major axis."""
    large = b.arc(centre, g.major / 2, whole=True, name="large circle")
    middle = b.divide(centre, point, 2, ["M"])[0]
    return b.both(b.arc(middle, span(middle, centre)), large, ("T1", "T2"), plane.left_of(Line.through(centre, point)))


@slip("the tangents of the large circle taken for those of the ellipse")
def of_the_large_circle(g: EllipseAndPoint, number: Make) -> dict[str, Number]:
    reach = sqrt(g.point_x * g.point_x + g.point_y * g.point_y)
    if g.decide(lambda h: h.point_x * h.point_x + h.point_y * h.point_y - h.major * h.major / 4) <= 0:
        return {}
    half = g.major / 2 / reach
    return {"angle_between": 2 * (90 - acos_deg(half))}


def _outside(g: EllipseAndPoint) -> Number:
    x, y = g.point_x * g.minor, g.point_y * g.major
    return x * x + y * y - g.major * g.major * g.minor * g.minor / 4


PROBLEM = Problem(
    id="conics/ellipse-tangent-from-point",
    title="Tangents of an ellipse from a point",
    brief=(
        "An ellipse has the axes {major} and {minor}. Draw its tangents from a point {point_x} from the minor axis and "
        "{point_y} over the major axis."
    ),
    givens=EllipseAndPoint,
    truth=truth,
    methods=(director_circle_arcs,),
    findings={"tangent_length_1": Kind.LENGTH, "tangent_length_2": Kind.LENGTH, "angle_between": Kind.ANGLE},
    source="Apollonius III.48 and III.52: the focus mirrored in a tangent lies on the director circle.",
    conditions=(
        minor_not_above(),
        Condition(
            "a point outside the ellipse",
            _outside,
            "a point {point_x} and {point_y} from the axes does not lie outside an ellipse of {major} and {minor}",
            ("point_x", "point_y"),
            lambda g: {"point_x": at_least(g.major / 2, above=True)},
            strict=True,
        ),
    ),
    slips=(of_the_large_circle,),
)
