"""Hyperbola of its vertices and a point, in the rectangle of vertex and point: pencils of lines from both vertices."""

from __future__ import annotations

import math
from dataclasses import dataclass

from wisecompass.arithmetic import Number, atan2_deg, root, sqrt
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_least, at_most, count, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class VerticesAndPoint(Givens):
    vertices: Number = length("distance of the vertices", "44")
    point_x: Number = length("distance of the point from the conjugate axis", "63")
    point_y: Number = length("height of the point over the axis", "48")
    divisions: int = count("number of divisions", "5", 2, 24)


def _half_conjugate(g: VerticesAndPoint) -> Number:
    """b of x²/a² - y²/b² = 1 through the point."""
    a = g.vertices / 2
    return a * g.point_y / root((g.point_x - a) * (g.point_x + a))


def truth(g: VerticesAndPoint, number: Make) -> Truth:
    zero, a, b = number(0), g.vertices / 2, _half_conjugate(g)

    def off_curve(at: Point) -> Number:
        value = at.x * at.x / (a * a) - at.y * at.y / (b * b) - 1
        return value / (2 * sqrt(at.x * at.x / (a * a * a * a) + at.y * at.y / (b * b * b * b)))

    points = {"O": Point(zero, zero), "A": Point(-a, zero), "B": Point(a, zero), "P": Point(g.point_x + 0, g.point_y + 0)}
    findings = {"eccentricity": sqrt(a * a + b * b) / a, "asymptote_angle": atan2_deg(b, a)}
    return Truth(points=points, findings=findings, on_curve=off_curve)


@method("rectangle", Exactness.EXACT_POINTS)
def rectangle(b: Board, g: VerticesAndPoint) -> None:
    centre = b.point("O", b.number(0), b.number(0), why="the centre")
    axis = b.level_line(centre, "axis", pen=Pen.CENTRE)
    near = b.lay_off(axis, centre, g.vertices / 2, "B", why="half the distance of the vertices")
    far = b.lay_off(axis, centre, g.vertices / 2, "A", back=True, why="half the distance of the vertices")
    foot = b.lay_off(axis, centre, g.point_x, "M", why="under the point")
    ordinate = b.square(axis, foot, "ordinate")
    point = b.lay_off(ordinate, foot, g.point_y, "P", why="the point")
    mirrored = b.lay_off(ordinate, foot, g.point_y, "Q", back=True, why="as far below the axis")
    upright = b.square(axis, near, "upright at B")
    branches = []
    for end, letter, tag in ((point, "P", ""), (mirrored, "Q", "′")):
        rim = b.parallel(axis, end, f"side through {letter}")
        corner = b.meet(upright, rim, name=f"N{tag}")
        branches.append(_half_branch(b, g, (near, far), (foot, end, corner), letter, tag))
    b.caution("Like numbers belong together: the ordinate is joined to the far vertex, the side to the near one.")
    plotted = [point, *reversed(branches[0]), near, *branches[1], mirrored]
    b.plot(*plotted)
    b.fair_curve(lambda: _branch(g), plotted, "hyperbola")
    _asymptote(b, g, (centre, near, foot), (axis, upright), point)
    b.dimension(far, near, offset=-9)
    ends = plane.distance(far, point), plane.distance(far, mirrored)
    b.check("both ends are equally far from the far vertex", ends[0] - ends[1])


def _half_branch(
    b: Board,
    g: VerticesAndPoint,
    vertices: tuple[Point, Point],
    corners: tuple[Point, Point, Point],
    letter: str,
    tag: str,
) -> list[Point]:
    """The points of a half branch, from the vertex on."""
    (near, far), (foot, end, corner) = vertices, corners
    names = [str(k) for k in range(1, g.divisions)]
    on_ordinate = b.divide(foot, end, g.divisions, [f"{k}{tag}" for k in names], why="numbered from the axis")
    on_side = b.divide(corner, end, g.divisions, [f"{k}{tag}″" for k in names], why="numbered from the upright at B")
    return [
        b.meet(b.line(far, low), b.line(near, high), name=f"{letter}{k}")
        for k, low, high in zip(names, on_ordinate, on_side, strict=True)
    ]


def _asymptote(
    b: Board, g: VerticesAndPoint, places: tuple[Point, Point, Point], lines: tuple[Line, Line], point: Point
) -> None:
    """The tangent from M to the circle on the vertices is as long as the abscissa at which an asymptote is as high as P: it
    rises by P's height over that length. Over the vertex it is as far from the centre as the foci."""
    (centre, near, foot), (axis, upright) = places, lines
    circle = b.circle_through(centre, near, name="circle on the vertices")
    middle = b.meet(b.bisector(centre, foot, "bisector of OM"), axis, name="H")
    arch = b.arc(middle, span(middle, foot), why="through O and M, across the circle")
    touch = b.meet(arch, circle, plane.upper, "T")
    reach = b.lay_off(axis, centre, span(foot, touch), "D", why="the tangent from M")
    height = b.meet(b.square(axis, reach, "upright at D"), b.parallel(axis, point, "level of P"), name="K")
    asymptote = b.line(centre, b.unless(to_the_point.name, height, lambda: point), "asymptote", pen=Pen.CENTRE)
    corner = b.meet(asymptote, upright, name="G")
    b.find("asymptote_angle", plane.angle_at(centre, near, corner))
    b.find("eccentricity", plane.distance(centre, corner) / plane.distance(centre, near))
    b.check("the tangent from M is square to its radius", plane.angle_at(touch, centre, foot) - 90, "°")


def _branch(g: VerticesAndPoint) -> Parametric:
    """(a cosh u, b sinh u) as far as the point."""
    a, x = float(g.vertices) / 2, float(g.point_x)
    high = a * float(g.point_y) / math.sqrt(x * x - a * a)
    far = math.acosh(x / a)
    return Parametric(
        lambda u: (a * math.cosh(u), high * math.sinh(u)), lambda u: (a * math.sinh(u), high * math.cosh(u)), -far, far
    )


@slip("the line from the centre to the point taken for the asymptote")
def to_the_point(g: VerticesAndPoint, number: Make) -> dict[str, Number]:
    """Its height over its abscissa."""
    return {"asymptote_angle": atan2_deg(g.point_y, g.point_x)}


def _farther(g: VerticesAndPoint) -> dict[str, str]:
    """A point farther out; at the widest that can be set nearer vertices too."""
    if float(g.vertices) < 2 * 99_999:
        return {"point_x": at_least(g.vertices / 2, above=True)}
    return {"vertices": at_most(g.vertices / 2)}


PROBLEM = Problem(
    id="conics/hyperbola-vertex-point",
    title="Hyperbola of vertices and a point",
    brief=(
        "Draw the hyperbola with vertices {vertices} apart through a point {point_x} from its conjugate axis and {point_y} "
        "over its axis, with {divisions} divisions."
    ),
    givens=VerticesAndPoint,
    truth=truth,
    methods=(rectangle,),
    findings={"eccentricity": Kind.RATIO, "asymptote_angle": Kind.ANGLE},
    source="Projective pencils (Steiner); Apollonius II.1 for the asymptotes.",
    conditions=(
        Condition(
            "a point beyond the vertex",
            lambda g: g.point_x - g.vertices / 2,
            "a point {point_x} from the conjugate axis does not lie beyond the vertices, {vertices} apart",
            ("point_x", "vertices"),
            _farther,
            strict=True,
        ),
    ),
    slips=(to_the_point,),
)
