"""Conic of focus, directrix and eccentricity: the eccentricity scale gives for every distance from the directrix the one
from the focus; the tangent at a point meets the directrix square off its focal ray."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import Number, root, sqrt
from wisecompass.catalogue.conics.curvature import centre_of_curvature
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Chosen, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Oval, Parametric
from wisecompass.geometry.plane import Line, Point

FARTHEST = 6
"""An ellipse is drawn whole up to so many focus distances from the directrix; a longer one, and the open curves, to there
beyond the vertex."""


@dataclass(frozen=True)
class FocusAndDirectrix(Givens):
    focus_distance: Number = givens.length("distance of the focus from the directrix", "33")
    eccentricity: Number = givens.ratio("eccentricity", "1.4", Fraction(1, 100), Fraction(100))
    divisions: int = givens.count("number of divisions", "8", 5, 48)
    chosen: int = givens.count("point for the tangent", "5", 1, 48)


def _vertex_x(g: FocusAndDirectrix) -> Number:
    return g.focus_distance / (1 + g.eccentricity)


def _below_one(g: FocusAndDirectrix) -> int:
    """1 for an ellipse, 0 for a parabola, -1 for a hyperbola."""
    return g.decide(lambda h: 1 - h.eccentricity)


def _whole(g: FocusAndDirectrix) -> bool:
    """Whether the far vertex of an ellipse is near enough to be drawn."""
    return _below_one(g) > 0 and g.decide(lambda h: FARTHEST * (1 - h.eccentricity) - 1) > 0


def _last_x(g: FocusAndDirectrix) -> Number:
    """Distance from the directrix where the divisions end."""
    if _whole(g):
        return g.focus_distance / (1 - g.eccentricity)
    return _vertex_x(g) + g.focus_distance * (FARTHEST - 1) / 3


def _at(g: FocusAndDirectrix, k: int) -> Number:
    start = _vertex_x(g)
    return start + (_last_x(g) - start) * k / g.divisions


def _chosen(g: FocusAndDirectrix) -> int:
    """The point for the tangent; beyond the last it is the last."""
    return min(g.chosen, g.divisions)


def _at_far_vertex(g: FocusAndDirectrix) -> bool:
    """Whether the chosen point is the far vertex of an ellipse that is drawn whole."""
    return _whole(g) and g.chosen >= g.divisions


def _place(g: FocusAndDirectrix) -> tuple[Number, Number]:
    """The chosen point; the far vertex of a whole ellipse lies on the axis."""
    x, d = _at(g, _chosen(g)), g.focus_distance
    ray = g.eccentricity * x
    return x, x - x if _at_far_vertex(g) else root((ray - (x - d)) * (ray + (x - d)))


def _slope(g: FocusAndDirectrix) -> tuple[Number, Number]:
    """The direction of the tangent, square to the gradient of (x - d)² + y² - (e·x)²."""
    (x, y), d, e = _place(g), g.focus_distance, g.eccentricity
    return y, e * e * x - (x - d)


def truth(g: FocusAndDirectrix, number: Make) -> Truth:
    zero, d, e = number(0), g.focus_distance, g.eccentricity
    sign = _below_one(g)

    def off_curve(at: Point) -> Number:
        ray = sqrt((at.x - d) * (at.x - d) + at.y * at.y)
        gx, gy = (at.x - d) / ray - e, at.y / ray
        return (ray - e * at.x) / sqrt(gx * gx + gy * gy)

    x, y = _place(g)
    vertex = _vertex_x(g)
    squared = y * y + (e * e * x - (x - d)) * (e * e * x - (x - d))  # (normal length)², from the subnormal
    return Truth(
        points={"D": Point(zero, zero), "F": Point(d + 0, zero), "V": Point(vertex, zero), f"P{_chosen(g)}": Point(x, y)},
        findings={
            "vertex_distance": d - vertex,
            "semi_major": None if sign == 0 else e * d / ((1 - e) * (1 + e) * sign),
            "kind": {1: "ellipse", 0: "parabola", -1: "hyperbola"}[sign],
            "tangent_angle": g.line_angle(_slope, *_slope(g)),
            "curvature_radius": squared * sqrt(squared) / (e * d * e * d),
        },
        on_curve=off_curve,
    )


@method("eccentricity scale", Exactness.EXACT_POINTS)
def eccentricity_scale(b: Board, g: FocusAndDirectrix) -> None:
    d = g.focus_distance
    start = b.point("D", b.number(0), b.number(0), why="on the directrix")
    directrix = b.upright_line(start, "directrix", pen=Pen.GIVEN)
    axis = b.level_line(start, "axis", pen=Pen.CENTRE)
    focus = b.lay_off(axis, start, d, "F", why="the distance of the focus")
    vertex, far = _vertices(b, g, axis, directrix, (start, focus))
    side = b.square(axis, vertex, "upright at V")
    corner = b.lay_off(side, vertex, span(vertex, focus), "E", why="V–F, set up at V")
    scale = b.line(start, corner, "eccentricity scale")
    b.caution("The upright's height to this line is the focal distance of both points on that upright.")
    b.plot(vertex)
    upper, lower = [], []
    places = b.divide(vertex, far, g.divisions, [str(k) for k in range(1, g.divisions)]) if far is not None else []
    if far is None:
        reach = g.focus_distance * (FARTHEST - 1) / 3
        end = b.lay_off(axis, vertex, reach, str(g.divisions), why="so far the curve is drawn")
        places = [*b.divide(vertex, end, g.divisions, [str(k) for k in range(1, g.divisions)]), end]
    uprights, heights = [], []
    for k, place in enumerate(places, 1):
        uprights.append(b.parallel(directrix, place, f"upright {k}"))
        heights.append(b.meet(uprights[-1], scale))
    for k, (place, upright, height) in enumerate(zip(places, uprights, heights, strict=True), 1):
        swung = b.arc(focus, span(place, height), why="across its upright")
        high, low = b.both(swung, upright, (f"P{k}", f"Q{k}"), plane.upper)
        upper.append(high)
        lower.append(low)
    whole = [*reversed(upper), vertex, *lower]
    if _whole(g):
        assert far is not None
        whole = [far, *whole]
        b.plot(far)
    b.plot(*whole)
    b.fair_curve(lambda: _curve(g), whole, "conic", closed=_whole(g))
    b.dimension(start, focus, offset=-9)
    with b.wish("tangent and normal"):
        if far is not None and _at_far_vertex(g):
            _tangent_at_vertex(b, g, (axis, scale), focus, far)
        else:
            _tangent(b, g, (directrix, axis), focus, upper[_chosen(g) - 1])
    _measure(b, g, start, focus, vertex, axis)


def _vertices(
    b: Board, g: FocusAndDirectrix, axis: Line, directrix: Line, ends: tuple[Point, Point]
) -> tuple[Point, Point | None]:
    """D–F divided as 1 to the eccentricity, between its ends and, for a whole ellipse, beyond: by a unit set up at D and the
    eccentricity times as much at F, to the other side and to the same."""
    start, focus = ends
    steep = _below_one(g) < 0
    unit = g.focus_distance / (2 * g.eccentricity) if steep else g.focus_distance / 2
    upright = b.square(axis, focus, "upright at F")
    one = b.lay_off(directrix, start, unit, "U", why="any unit, at the directrix")
    below = b.lay_off(upright, focus, unit * g.eccentricity, "W", back=True, why="the unit times the eccentricity, below F")
    vertex = b.meet(b.line(one, below), axis, name="V")
    if not _whole(g):
        return vertex, None
    above = b.lay_off(upright, focus, unit * g.eccentricity, "W′", why="the same above F, for the far vertex")
    return vertex, b.meet(b.line(one, above), axis, name=f"P{g.divisions}")


def _tangent(b: Board, g: FocusAndDirectrix, lines: tuple[Line, Line], focus: Point, at: Point) -> None:
    """The perpendicular to the focal ray at the focus meets the directrix on the tangent; in the latus rectum's end the
    ray is upright and the perpendicular is the axis."""
    ray = b.line(focus, at, "focal ray")
    directrix, axis = lines
    end = b.meet(b.square(ray, focus, "square at F"), directrix, name="T")
    tangent = b.line(end, at, "tangent", why="the tangent meets the directrix square off the focal ray")
    normal = b.square(tangent, at, "normal")
    centre = centre_of_curvature(b, at, normal, axis, ray, "S")
    with b.may_be_far():
        b.line_in((end, at), (at, centre), why="tangent and normal, to the centre of curvature")
    b.find("tangent_angle", g.line_angle(_slope, at.x - end.x, at.y - end.y))
    b.check(
        "the chosen point is from focus and directrix in the ratio of the eccentricity",
        plane.distance(at, focus) - plane.distance_to_line(at, directrix) * -g.eccentricity,
    )


def _tangent_at_vertex(b: Board, g: FocusAndDirectrix, lines: tuple[Line, Line], focus: Point, at: Point) -> None:
    """At a vertex the tangent is square to the axis, and the centre of curvature half the latus rectum from it."""
    axis, scale = lines
    tangent = b.square(axis, at, "tangent", why="square to the axis at a vertex")
    half = b.meet(b.square(axis, focus, "latus rectum"), scale, name="L")
    centre = b.lay_off(axis, at, span(focus, half), "S", back=True, why="F–L, half the latus rectum")
    b.line_in_both_ways(at, tangent, g.focus_distance / 2)
    b.line_in((at, centre))
    b.find("tangent_angle", g.line_angle(_slope, tangent.dx, tangent.dy))
    b.find("curvature_radius", plane.distance(at, centre))
    b.check(
        "the far vertex is from focus and directrix in the ratio of the eccentricity",
        plane.distance(at, focus) - at.x * g.eccentricity,
    )


def _measure(b: Board, g: FocusAndDirectrix, start: Point, focus: Point, vertex: Point, axis: Line) -> None:
    sign = _below_one(g)
    b.find("vertex_distance", plane.distance(vertex, focus))
    if b.slips(inverted.name):
        b.find("vertex_distance", plane.distance(start, vertex))
    b.check(
        "the vertex is from focus and directrix in the ratio of the eccentricity",
        plane.distance(vertex, focus) - plane.distance(start, vertex) * g.eccentricity,
    )
    b.find("kind", {1: "ellipse", 0: "parabola", -1: "hyperbola"}[sign])
    if sign == 0:
        b.find("semi_major", None)
        return
    near, away = plane.distance(start, vertex), plane.distance(vertex, focus)
    b.find("semi_major", away * near / ((near - away) * sign))


def _curve(g: FocusAndDirectrix) -> Parametric | Oval:
    """About the focus: ray = e·d / (1 - e·cos angle); a whole ellipse by its axes."""
    d, e = float(g.focus_distance), float(g.eccentricity)
    if _whole(g):
        long = e * d / (1 - e * e)
        return Oval(d + e * long, 0.0, long, long * math.sqrt(1 - e * e))
    edge = 0.0
    if not _whole(g):
        last = float(_last_x(g))
        edge = math.acos(max(-1.0, min(1.0, (last - d) / (e * last))))

    def place(t: float) -> tuple[float, float]:
        ray = e * d / (1 - e * math.cos(t))
        return d + ray * math.cos(t), ray * math.sin(t)

    def velocity(t: float) -> tuple[float, float]:
        low = 1 - e * math.cos(t)
        return -e * d * math.sin(t) / (low * low), e * d * (math.cos(t) - e) / (low * low)

    return Parametric(place, velocity, edge, 2 * math.pi - edge)


@slip("the eccentricity laid off the wrong way: distance from the directrix over that from the focus")
def inverted(g: FocusAndDirectrix, number: Make) -> dict[str, Number]:
    return {"vertex_distance": g.focus_distance / (1 + g.eccentricity)}


PROBLEM = Problem(
    id="conics/focus-directrix",
    title="Conic of focus and directrix",
    brief=(
        "A focus lies {focus_distance} from its directrix. Draw the conic of eccentricity {eccentricity} in {divisions} "
        "divisions, with tangent and normal at point {chosen}."
    ),
    givens=FocusAndDirectrix,
    truth=truth,
    methods=(eccentricity_scale,),
    findings={
        "vertex_distance": Kind.LENGTH,
        "semi_major": Kind.LENGTH,
        "kind": Kind.CHOICE,
        "tangent_angle": Kind.ANGLE,
        "curvature_radius": Kind.LENGTH,
    },
    source="Pappus VII.238; the tangent by the focal ray and the directrix.",
    slips=(inverted,),
    chosen=Chosen("chosen", "P{}", lambda g: g.focus_distance * 0 + g.divisions),
)
