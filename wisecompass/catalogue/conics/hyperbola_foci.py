"""Hyperbola of its vertices and foci: the focal distances of every point differ by the distance of the vertices."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import partial

from wisecompass.arithmetic import Number, atan2_deg, root, sqrt
from wisecompass.catalogue.conics.curvature import centre_of_curvature
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_most
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Chosen, Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class VerticesAndFoci(Givens):
    vertices: Number = givens.length("distance of the vertices", "44")
    foci: Number = givens.length("distance of the foci", "62")
    divisions: int = givens.count("number of steps", "5", 3, 24)
    chosen: int = givens.count("step for the tangent", "3", 1, 24)


def _across(g: VerticesAndFoci) -> Number:
    """Half the conjugate axis."""
    return root((g.foci - g.vertices) * (g.foci + g.vertices)) / 2


def _chosen(g: VerticesAndFoci) -> int:
    """The step for the tangent; beyond the last it is the last."""
    return min(g.chosen, g.divisions)


def _reach(g: VerticesAndFoci) -> Number:
    """The step on the axis; the focal rays of its point are this more and less half the vertices' distance."""
    return g.foci / 2 + g.foci / 8 * _chosen(g)


def _place(g: VerticesAndFoci) -> tuple[Number, Number]:
    a = g.vertices / 2
    x = a * _reach(g) / (g.foci / 2)
    return x, _across(g) / a * root((x - a) * (x + a))


def _slope(g: VerticesAndFoci) -> tuple[Number, Number]:
    """The direction of the tangent at the chosen point, square to the gradient."""
    (x, y), a, b = _place(g), g.vertices / 2, _across(g)
    return a * a * y, b * b * x


def truth(g: VerticesAndFoci, number: Make) -> Truth:
    zero, a, b, c = number(0), g.vertices / 2, _across(g), g.foci / 2

    def off_curve(at: Point) -> Number:
        value = at.x * at.x / (a * a) - at.y * at.y / (b * b) - 1
        return value / (2 * sqrt(at.x * at.x / (a * a * a * a) + at.y * at.y / (b * b * b * b)))

    reach, (x, y) = _reach(g), _place(g)
    product = (reach + a) * (reach - a)
    return Truth(
        points={
            "O": Point(zero, zero),
            f"P{_chosen(g)}": Point(x, y),
            "A": Point(-a, zero),
            "B": Point(a, zero),
            "F1": Point(-c, zero),
            "F2": Point(c, zero),
        },
        findings={
            "eccentricity": c / a,
            "asymptote_angle": atan2_deg(b, a),
            "tangent_angle": g.line_angle(_slope, *_slope(g)),
            "curvature_radius": product * sqrt(product) / (a * b),
        },
        on_curve=off_curve,
    )


@method("foci arcs", Exactness.EXACT_POINTS)
def foci_arcs(b: Board, g: VerticesAndFoci) -> None:
    centre = b.point("O", b.number(0), b.number(0), why="the centre")
    axis = b.level_line(centre, "axis", pen=Pen.CENTRE)
    upright = b.upright_line(centre, "conjugate axis", pen=Pen.CENTRE)
    a, c = g.vertices / 2, g.foci / 2
    right = b.lay_off(axis, centre, a, "B", why="half the distance of the vertices")
    left = b.lay_off(axis, centre, a, "A", back=True, why="half the distance of the vertices")
    second = b.lay_off(axis, centre, c, "F2", why="half the distance of the foci")
    first = b.lay_off(axis, centre, c, "F1", back=True, why="half the distance of the foci")
    steps = b.step_along(
        axis, second, g.foci / 8, [str(k) for k in range(1, g.divisions + 1)], why="equal steps, beyond the focus"
    )
    branches: dict[str, list[Point]] = {}
    for near, far, letter in ((second, first, "P"), (first, second, "Q")):
        upper, lower = [], []
        for mark in steps:
            long = b.arc(far, span(left, mark), why="above and below")
            short = b.arc(near, span(right, mark), why="across the longer arc")
            pair = b.both(long, short, (f"{letter}{mark.name}", f"{letter}{mark.name}′"), plane.left_of(axis))
            upper.append(pair[0])
            lower.append(pair[1])
        branches[letter] = [*reversed(upper), right if letter == "P" else left, *lower]
    b.caution("The longer radius from the far focus, the shorter from the near one: changed over gives the other branch.")
    for letter, points in branches.items():
        b.plot(*points)
        b.fair_curve(partial(_branch, g, letter, steps), points, f"branch {letter}")
    _asymptotes(b, g, axis, upright, right, (centre, first, second))
    b.find("eccentricity", plane.distance(centre, second) / plane.distance(centre, right))
    b.dimension(left, right, offset=-9)
    top = branches["P"][0]
    with b.wish("tangent and normal"):
        _tangent(b, g, axis, branches["P"][g.divisions - _chosen(g)], (first, second))
    low = branches["Q"][-1]
    b.check(
        "so do those of the last point of the other branch",
        plane.distance(low, second) - plane.distance(low, first) - g.vertices,
    )
    b.check(
        "the focal distances of the last point differ by the distance of the vertices",
        plane.distance(top, first) - plane.distance(top, second) - g.vertices,
    )


def _tangent(b: Board, g: VerticesAndFoci, axis: Line, at: Point, foci: tuple[Point, Point]) -> None:
    """The tangent halves the angle of the focal rays; the normal is square to it."""
    rays = [b.line(at, focus, f"focal ray to {focus.name}") for focus in foci]
    tangent = b.bisect(at, *foci, "tangent", ("m", "n"))
    b.caution("Here the tangent halves the angle between the focal rays; on an ellipse the normal does.")
    normal = b.square(tangent, at, "normal")
    centre = centre_of_curvature(b, at, normal, axis, rays[1], "S")
    with b.may_be_far():
        end = b.meet(tangent, axis, name="T")
    with b.may_be_far():
        b.line_in((end, at), (at, centre), why="tangent and normal, to the centre of curvature")
    b.find("tangent_angle", g.line_angle(_slope, at.x - end.x, at.y - end.y))


def _asymptotes(b: Board, g: VerticesAndFoci, axis: Line, upright: Line, vertex: Point, middle: tuple[Point, ...]) -> None:
    """The perpendicular at a vertex meets the circle on the foci where the asymptotes do."""
    centre = middle[0]
    circle = b.arc(centre, g.foci / 2, why="the circle on the foci")
    upward = b.square(axis, vertex, "square at B")
    high, low = b.both(upward, circle, ("G", "H"), plane.upper)
    if b.slips(set_up.name):
        high = b.lay_off(b.upright_line(vertex, "upright at B"), vertex, g.foci / 2, "G")
    for corner in (high, low):
        b.line(centre, corner, f"asymptote through {corner.name}")
    b.find("asymptote_angle", plane.angle_at(centre, vertex, high))


def _branch(g: VerticesAndFoci, letter: str, steps: list[Point]) -> Parametric:
    """(a cosh u, b sinh u) as far as the last plotted points."""
    a, c = float(g.vertices) / 2, float(g.foci) / 2
    b = math.sqrt(c * c - a * a)
    far = math.acosh(max(1.0, (a + float(steps[-1].x)) * a / c / a))  # r = (c/a)x + a to the far focus
    way = 1.0 if letter == "P" else -1.0
    return Parametric(
        lambda u: (way * a * math.cosh(u), b * math.sinh(u)),
        lambda u: (way * a * math.sinh(u), b * math.cosh(u)),
        -far,
        far,
    )


@slip("half the distance of the foci set up at the vertex instead of swung from the centre")
def set_up(g: VerticesAndFoci, number: Make) -> dict[str, Number]:
    return {"asymptote_angle": atan2_deg(g.foci, g.vertices)}


PROBLEM = Problem(
    id="conics/hyperbola-foci",
    title="Hyperbola of vertices and foci",
    brief=(
        "Draw a hyperbola with vertices {vertices} apart and foci {foci} apart, in {divisions} steps beyond the focus, with "
        "tangent and normal at step {chosen}."
    ),
    givens=VerticesAndFoci,
    truth=truth,
    methods=(foci_arcs,),
    findings={
        "eccentricity": Kind.RATIO,
        "asymptote_angle": Kind.ANGLE,
        "tangent_angle": Kind.ANGLE,
        "curvature_radius": Kind.LENGTH,
    },
    source="Apollonius III.51; the asymptotes through the circle on the foci.",
    conditions=(
        Condition(
            "foci beyond the vertices",
            lambda g: g.foci - g.vertices,
            "foci {foci} apart do not lie beyond vertices {vertices} apart",
            ("vertices", "foci"),
            lambda g: (
                {"vertices": at_most(g.foci * 9 / 10), "foci": at_most(g.foci)}
                if g.foci > 1
                else {"foci": "62", "vertices": "44"}
            ),
            strict=True,
        ),
    ),
    chosen=Chosen("chosen", "P{}", lambda g: g.vertices * 0 + g.divisions),
    slips=(set_up,),
)
