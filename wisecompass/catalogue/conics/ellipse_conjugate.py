"""Ellipse on two conjugate diameters: its points by the divided parallelogram, its axes by Rytz's construction."""

from __future__ import annotations

from dataclasses import asdict, dataclass

from wisecompass.arithmetic import Number, absolute, atan2_deg, cos_deg, hypot, pick, root, sin_deg, sqrt
from wisecompass.catalogue.conics.in_box import Box, in_box
from wisecompass.drafting import givens, marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Oval
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class Conjugates(Givens):
    first: Number = givens.length("first diameter", "152")
    second: Number = givens.length("second diameter", "96")
    angle: Number = givens.angle("angle between them", "63", limit_words="it must lie above 0° and below 180°")
    divisions: int = givens.count("divisions of a half diameter", "4", 3, 12)


def _halves(g: Conjugates) -> tuple[Number, Number]:
    """Half axes, from a² + b² = p² + q² and ab = pq sin(angle) (Apollonius VII.12 and VII.31)."""
    p, q = g.first / 2, g.second / 2
    squares, product = p * p + q * q, 2 * p * q * sin_deg(g.angle)
    total, less = root(squares + product), root(squares - product)
    return (total + less) / 2, (total - less) / 2


def _square(g: Conjugates) -> bool:
    return g.decide(lambda h: h.angle - 90) == 0


def _round(g: Conjugates) -> bool:
    return _square(g) and g.decide(lambda h: h.first - h.second) == 0


def _turned(g: Conjugates) -> Number:
    """Direction of the major axis from the first diameter, 0° to below 180°."""
    p2, q2 = g.first * g.first, g.second * g.second
    twice = atan2_deg(q2 * sin_deg(2 * g.angle), p2 + q2 * cos_deg(2 * g.angle))
    return twice / 2 + 180 if g.decide(lambda h: h.angle - 90) > 0 else twice / 2


def truth(g: Conjugates, number: Make) -> Truth:
    zero = number(0)
    p, q = g.first / 2, g.second / 2
    slant, rise = cos_deg(g.angle), sin_deg(g.angle)
    a, b = _halves(g)
    round_one = _round(g)
    turned = None if round_one else _turned(g)
    points = {
        "O": Point(zero, zero),
        "A": Point(-p, zero),
        "B": Point(p, zero),
        "D": Point(-q * slant, -q * rise),
        "E": Point(q * slant, q * rise),
    }
    if turned is not None:
        points["M1"] = Point(a * cos_deg(turned), a * sin_deg(turned))

    def off_curve(at: Point) -> Number:
        """To first order, from u² + v² = 1 in the oblique coordinates of the half diameters."""
        v = at.y / (q * rise)
        u = (at.x - q * v * slant) / p
        value = u * u + v * v - 1
        gx, gy = 2 * u / p, 2 * (v / (q * rise) - u * slant / (p * rise))
        return value / sqrt(gx * gx + gy * gy)

    return Truth(points=points, findings={"major": 2 * a, "minor": 2 * b, "axis_angle": turned}, on_curve=off_curve)


def _set_out(b: Board, g: Conjugates) -> tuple[Point, Line, Line, dict[str, Point]]:
    centre = b.point("O", b.number(0), b.number(0), why="the centre")
    first = b.level_line(centre, "first diameter", pen=Pen.CENTRE)
    second = b.protract(first, centre, g.angle, "second diameter")
    p, q = g.first / 2, g.second / 2
    ends = {
        "B": b.lay_off(first, centre, p, "B", why="half the first diameter"),
        "A": b.lay_off(first, centre, p, "A", back=True, why="half the first diameter"),
        "E": b.lay_off(second, centre, q, "E", why="half the second diameter"),
        "D": b.lay_off(second, centre, q, "D", back=True, why="half the second diameter"),
    }
    return centre, first, second, ends


def _curve(g: Conjugates) -> Oval:
    long, short = (float(half) for half in _halves(g))
    return Oval(0.0, 0.0, long, short, 0.0 if _round(g) else float(_turned(g)))


@method("parallelogram", Exactness.EXACT_POINTS)
def parallelogram(b: Board, g: Conjugates) -> None:
    centre, first, second, ends = _set_out(b, g)
    b.plot(*ends.values())
    box = Box(centre, first, second, *(ends[name] for name in "BAED"))
    plotted = [*ends.values(), *in_box(b, box, g.divisions, ("R", "S", "U", "T"))]
    b.plot(*plotted)
    b.fair_curve(lambda: _curve(g), plotted, "ellipse", closed=True)
    b.dimension_angle(centre, ends["B"], ends["E"])
    for p in (plotted[4], plotted[-1]):
        b.check(f"{p.name} is on the ellipse", _off_ellipse(centre, ends["B"], ends["E"], p), "")
    _measure(b, g, centre, ends["B"], ends["E"])


def _taken_for_axes(b: Board, g: Conjugates, centre: Point, first: Point, second: Point) -> None:
    """The diameters measured for the axes, by mistake."""
    if b.slips(taken_for_axes.name):
        measured = plane.distance(centre, first) * 2, plane.distance(centre, second) * 2
        level = g.decide(lambda h: h.first - h.second) >= 0
        for name, value in zip(("major", "minor") if level else ("minor", "major"), measured, strict=True):
            b.find(name, value)


def _measure(b: Board, g: Conjugates, centre: Point, first: Point, second: Point) -> None:
    """The axes from the half diameters as drawn: one of them turned by a right angle, the ends are as far apart as half the
    axes together, and turned the other way by their difference (Chasles)."""
    (px, py), (qx, qy) = ((end.x - centre.x, end.y - centre.y) for end in (first, second))
    total, less = hypot(px + qy, py - qx), hypot(px - qy, py + qx)
    b.find("major", total + less)
    b.find("minor", absolute(total - less))
    _taken_for_axes(b, g, centre, first, second)
    if _round(g):
        b.find("axis_angle", None)
        return
    twice = atan2_deg(2 * (px * py + qx * qy), px * px + qx * qx - py * py - qy * qy)
    b.find("axis_angle", twice / 2 + 180 if g.decide(lambda h: h.angle - 90) > 0 else twice / 2)


def _off_ellipse(centre: Point, first: Point, second: Point, p: Point) -> Number:
    """(share along one half diameter)² + (share along the other)² - 1 of a point, from areas."""
    to_first, to_second = Line.through(centre, first), Line.through(centre, second)
    whole = plane.side_of(second, to_first)
    one, other = plane.side_of(p, to_second) / whole, plane.side_of(p, to_first) / whole
    return one * one + other * other - 1


@method("rotated half-diameter", Exactness.EXACT)
def rotated_half_diameter(b: Board, g: Conjugates) -> None:
    centre, first, _, ends = _set_out(b, g)
    if _square(g):
        long, short = _as_they_are(b, g, centre, ends)
    else:
        turned = b.square(first, centre, "square at O", why="to turn the first half diameter by a right angle")
        swung = b.arc(centre, span(centre, ends["B"]), why="from the first diameter to the square")
        b.touch(swung, ends["B"])
        rotated = b.meet(swung, turned, plane.beyond(turned), "B′")
        chord = b.line(rotated, ends["E"], "chord")
        middle = b.meet(b.bisector(rotated, ends["E"], "bisector", why="for the middle of the chord"), chord, name="S")
        b.caution("The circle about the middle passes through O, not through the ends of the chord.")
        circle = b.circle_through(middle, centre, name="circle about S")
        near = b.meet(circle, chord, plane.nearest(ends["E"]), "L")
        far = b.meet(circle, chord, plane.farthest(ends["E"]), "R")
        axis, across = b.line(centre, near, "major axis"), b.line(centre, far, "minor axis")
        long, short = span(ends["E"], far), span(ends["E"], near)
        round_long = b.arc(centre, long, why="half the major axis")
        m1, m2 = b.both(round_long, axis, ("M1", "M2"), plane.upper)
        round_short = b.arc(centre, short, why="half the minor axis")
        n1, n2 = b.both(round_short, across, ("N1", "N2"), plane.upper)
        b.line_in((m1, m2), (n1, n2), why="the axes")
        b.find("axis_angle", plane.direction(centre, m1))
        b.check("the axes are square to each other", plane.angle_at(centre, m1, n1) - 90, "°")
    b.find("major", 2 * long)
    b.find("minor", 2 * short)
    _taken_for_axes(b, g, centre, ends["B"], ends["E"])
    if b.drawing:
        b.put(marks.Ellipse, **asdict(_curve(g)), pen=Pen.OUTLINE, name="ellipse")
    b.check(
        "the squares of the half axes add up like those of the half diameters",
        long * long + short * short - (g.first * g.first + g.second * g.second) / 4,
        "mm²",
    )


def _as_they_are(b: Board, g: Conjugates, centre: Point, ends: dict[str, Point]) -> tuple[Number, Number]:
    """Diameters that are square to each other are the axes."""
    first, second = plane.distance(centre, ends["B"]), plane.distance(centre, ends["E"])
    b.line_in((ends["A"], ends["B"]), (ends["D"], ends["E"]), why="square to each other, they are the axes")
    level = g.decide(lambda h: h.first - h.second) >= 0
    if _round(g):
        b.find("axis_angle", None)
    else:
        end = ends["B"] if level else ends["E"]
        b.mark_point(end.named("M1"), shown=False)
        b.find("axis_angle", plane.direction(centre, end))
    return (first, second) if level else (second, first)


@slip("the diameters taken for the axes")
def taken_for_axes(g: Conjugates, number: Make) -> dict[str, Number]:
    return {
        "major": pick(g.second, g.first, g.first + 0, g.second + 0),
        "minor": pick(g.first, g.second, g.first + 0, g.second + 0),
    }


PROBLEM = Problem(
    id="conics/ellipse-conjugate",
    title="Ellipse on conjugate diameters",
    brief=(
        "Draw an ellipse on conjugate diameters of {first} and {second} crossing at {angle}, with {divisions} divisions of "
        "a half diameter."
    ),
    givens=Conjugates,
    truth=truth,
    methods=(parallelogram, rotated_half_diameter),
    findings={"major": Kind.LENGTH, "minor": Kind.LENGTH, "axis_angle": Kind.ANGLE},
    source="Apollonius VII.12 and VII.31; projective pencils (Steiner); Rytz's construction.",
    slips=(taken_for_axes,),
)
