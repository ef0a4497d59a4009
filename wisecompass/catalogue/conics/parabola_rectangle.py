"""Parabola in a rectangle: by divided sides, by its tangents, or by offsets that grow with the square; and its focus by the
subnormal, which is twice the focal length everywhere."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import Number, absolute, sqrt
from wisecompass.catalogue.conics.curvature import centre_of_curvature
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Chosen, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Setting, span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class BaseAndHeight(Givens):
    base: Number = givens.length("base", "134")
    height: Number = givens.length("height", "47")
    divisions: int = givens.count("divisions of half the base", "6", 4, 24)
    chosen: Number = givens.ratio("share of half the base", "0.6", Fraction(-1), Fraction(1))


def _slope(g: BaseAndHeight) -> tuple[Number, Number]:
    """The direction of the tangent at the chosen point: twice the height over half the base, by the chosen share."""
    return g.base / 2, -2 * g.height * g.chosen


def truth(g: BaseAndHeight, number: Make) -> Truth:
    zero, half = number(0), g.base / 2
    focal = half * half / (4 * g.height)
    x = half * g.chosen
    slope = x / (2 * focal)

    def off_curve(at: Point) -> Number:
        value = at.y - g.height + at.x * at.x / (4 * focal)
        slope = at.x / (2 * focal)
        return value / sqrt(1 + slope * slope)

    return Truth(
        points={
            "M": Point(zero, zero),
            "A": Point(-half, zero),
            "B": Point(half, zero),
            "V": Point(zero, g.height + 0),
            "F": Point(zero, g.height - focal),
            "H": Point(zero, -2 * focal),
            "Q": Point(x, g.height - x * x / (4 * focal)),
        },
        findings={
            "focal_length": focal,
            "directrix_distance": focal + 0,
            "tangent_angle": g.line_angle(_slope, *_slope(g)),
            "curvature_radius": 2 * focal * (1 + slope * slope) * sqrt(1 + slope * slope),
        },
        on_curve=off_curve,
    )


@dataclass(frozen=True)
class _SetOut:
    middle: Point
    base: Line
    axis: Line
    left: Point
    right: Point
    vertex: Point


def _set_out(b: Board, g: BaseAndHeight) -> _SetOut:
    middle = b.point("M", b.number(0), b.number(0), why="the middle of the base")
    base = b.level_line(middle, "base", pen=Pen.GIVEN)
    axis = b.upright_line(middle, "axis", pen=Pen.CENTRE)
    right = b.lay_off(base, middle, g.base / 2, "B", why="half the base")
    left = b.lay_off(base, middle, g.base / 2, "A", back=True, why="half the base")
    vertex = b.lay_off(axis, middle, g.height, "V", why="the height")
    b.plot(left, right, vertex)
    return _SetOut(middle, base, axis, left, right, vertex)


def _finish(b: Board, g: BaseAndHeight, at: _SetOut, plotted: list[Point], focus: Point | None = None) -> None:
    """``plotted`` from A to B. The tangent at B passes as far over the vertex as the base lies below it; the focus, if it is
    not there yet, is half the subnormal from the vertex."""
    b.plot(*plotted)
    half, height = float(b.arithmetic.number(0) + g.base / 2) if b.drawing else 0.0, float(g.height) if b.drawing else 0.0
    b.fair_curve(
        lambda: Parametric(
            lambda x: (x, height * (1 - x * x / (half * half))),
            lambda x: (1.0, -2 * height * x / (half * half)),
            -half,
            half,
        ),
        [at.left, *plotted, at.right],
        "parabola",
    )
    top = b.lay_off(at.axis, at.vertex, g.height, "T", why="the height again, for the tangent at B")
    tangent = b.line(top, at.right, "tangent at B")
    foot = b.meet(b.square(tangent, at.right, "normal at B"), at.axis, name="H")
    subnormal = span(at.middle, foot)
    if focus is None:
        focus = b.lay_off(at.axis, at.vertex, subnormal / 2, "F", back=True, why="half the subnormal M–H")
    else:
        b.check("the subnormal is twice the focal length", subnormal.number - 2 * plane.distance(at.vertex, focus))
    _chosen(b, g, at, subnormal)
    b.dimension(at.left, at.right, offset=-9)
    b.dimension(at.middle, at.vertex, offset=9, clear=g.base / 2)
    b.find("focal_length", plane.distance(at.vertex, focus))

    b.find("directrix_distance", subnormal / 2)
    b.check("B is as far from the focus as from the directrix", plane.distance(at.right, focus) - g.height - subnormal / 2)
    first = f"{plotted[0].name} is as far from the focus as from the directrix"
    b.check(first, _focal_gap(plotted[0], focus, at.vertex, subnormal / 2))


def _chosen(b: Board, g: BaseAndHeight, at: _SetOut, subnormal: Setting) -> None:
    """The point at the chosen distance by the diagonal, its tangent by the subtangent, and the centre of curvature."""
    with b.wish("tangent and normal"):
        _tangent_at(b, g, at, subnormal)


def _tangent_at(b: Board, g: BaseAndHeight, at: _SetOut, subnormal: Setting) -> None:
    side = g.decide(lambda h: h.chosen)
    if side == 0:
        place = b.mark_point(at.vertex.named("Q"))
        tangent = b.parallel(at.base, place, "tangent", why="level at the vertex")
        centre = b.lay_off(at.axis, at.vertex, subnormal, "S", back=True, why="the subnormal: the centre of curvature")
        b.find("curvature_radius", plane.distance(place, centre))
        b.find("tangent_angle", g.line_angle(_slope, tangent.dx, tangent.dy))
        return
    foot = b.lay_off(at.base, at.middle, absolute(g.base / 2 * g.chosen), "q", back=side < 0, why="the chosen share")
    upright = b.parallel(at.axis, foot, "upright at q")
    end = at.right if side > 0 else at.left
    on_diagonal = b.meet(upright, b.line(at.vertex, end), name="q′")
    rim = b.parallel(at.axis, end, f"side at {end.name}")
    on_side = b.meet(b.parallel(at.base, on_diagonal, "level of q′"), rim, name="q″")
    place = b.meet(b.line(at.vertex, on_side), upright, name="Q")
    low = b.meet(b.parallel(at.base, place, "level of Q"), at.axis)
    top = b.lay_off(at.axis, at.vertex, span(low, at.vertex), "J", why="as far over the vertex as Q lies below it")
    tangent = b.line(top, place, "tangent at Q")
    normal = b.square(tangent, place, "normal at Q")
    centre = centre_of_curvature(b, place, normal, at.axis, b.parallel(at.axis, place, "diameter"), "S")
    with b.may_be_far():
        b.line_in((top, place), (place, centre), why="tangent and normal, to the centre of curvature")
    b.find("tangent_angle", g.line_angle(_slope, tangent.dx, tangent.dy))


def _focal_gap(p: Point, focus: Point, vertex: Point, focal: Number) -> Number:
    return plane.distance(p, focus) - (vertex.y + focal - p.y)


@method("rectangle", Exactness.EXACT_POINTS)
def rectangle(b: Board, g: BaseAndHeight) -> None:
    at, n = _set_out(b, g), g.divisions
    rim = b.parallel(at.base, at.vertex, "upper side")
    found: dict[str, list[Point]] = {}
    for end, start in ((at.right, n), (at.left, 1)):
        side = b.parallel(at.axis, end, f"side at {end.name}")
        corner = b.meet(side, rim, name="R" if end is at.right else "L")
        outwards = [str(k) for k in range(start, start + n - 1)]
        on_base = b.divide(at.middle, end, n, outwards, why="numbered from the middle")
        on_side = b.divide(corner, end, n, [f"{name}′" for name in outwards], why="numbered from the corner")
        uprights = [b.parallel(at.axis, low, f"upright {low.name}") for low in on_base]
        found[end.name] = [
            b.meet(upright, b.line(at.vertex, aside), name=f"P{low.name}")
            for low, upright, aside in zip(on_base, uprights, on_side, strict=True)
        ]
    b.caution("Only the side is joined to the vertex; the base goes up upright.")
    _finish(b, g, at, [*reversed(found["A"]), at.vertex, *found["B"]])


@method("tangents", Exactness.EXACT_POINTS)
def tangents(b: Board, g: BaseAndHeight) -> None:
    at, n = _set_out(b, g), 2 * g.divisions
    top = b.lay_off(at.axis, at.middle, g.height * 2, "W", why="twice the height: both end tangents pass there")
    names = [str(k) for k in range(1, n)]
    left = b.divide(at.left, top, n, names, why="numbered upwards from A")
    right = b.divide(top, at.right, n, [f"{k}′" for k in names], why="numbered downwards from the top")
    low = b.divide(at.left, at.right, n, [f"{k}″" for k in names], why="numbered from A")
    b.caution("Numbers run up one side and down the other: like numbers are joined.")
    touching = [b.line(one, other, f"tangent {k}") for k, (one, other) in enumerate(zip(left, right, strict=True), 1)]
    why = "to where the tangent touches"
    uprights = [b.parallel(at.axis, place, f"upright {k}", why=why) for k, place in enumerate(low, 1)]
    plotted = b.mark_crossings(zip(touching, uprights, [f"P{k}" for k in range(1, n)], strict=True))
    _finish(b, g, at, plotted)


@method("offsets", Exactness.EXACT_POINTS)
def offsets(b: Board, g: BaseAndHeight) -> None:
    at, n, even = _set_out(b, g), g.divisions, b.slips(evenly.name)
    rim = b.parallel(at.base, at.vertex, "tangent at the vertex")
    found: dict[str, list[Point]] = {}
    for end, start, back in ((at.right, n, False), (at.left, 1, True)):
        parts, places = range(1, n), []
        for k in parts:
            why = f"{k} of {n} parts of half the base"
            places.append(b.lay_off(rim, at.vertex, g.base * k / (2 * n), str(start + k - 1), back=back, why=why))
        uprights = [b.parallel(at.axis, place, f"upright {place.name}") for place in places]
        found[end.name] = [
            b.lay_off(
                down,
                place,
                g.height * (k * (n if even else k)) / (n * n),
                f"P{place.name}",
                back=True,
                why=f"{k * k} of {n * n} parts",
            )
            for k, down, place in zip(parts, uprights, places, strict=True)
        ]
    b.caution("Offsets grow with the square: 1, 4, 9 … not 1, 2, 3.")
    _finish(b, g, at, [*reversed(found["A"]), at.vertex, *found["B"]])
    if even:
        first = found["B"][0]
        away, down = plane.distance_to_line(first, at.axis), plane.distance_to_line(first, rim)
        b.find("focal_length", away * away / (4 * absolute(down)))


@method("focus arcs", Exactness.EXACT_POINTS)
def focus_arcs(b: Board, g: BaseAndHeight) -> None:
    """The tangent at B halves VR on the tangent at the vertex; square to it there stands the line to the focus."""
    at, n = _set_out(b, g), g.divisions
    rim = b.parallel(at.base, at.vertex, "tangent at the vertex")
    side = b.parallel(at.axis, at.right, "side at B")
    corner = b.meet(side, rim, name="R")
    half = b.divide(at.vertex, corner, 2, ["G"], why="the tangent at B passes here")[0]
    focus = b.meet(b.square(b.line(half, at.right), half, "square at G"), at.axis, name="F")
    b.caution("The square stands on the tangent at B, not on the diagonal.")
    over = b.lay_off(at.axis, at.vertex, span(at.vertex, focus), "D", why="the directrix is as far over the vertex")
    names = [str(k) for k in range(1, n)]
    found: dict[str, list[Point]] = {"left": [], "right": []}
    marks = b.divide(at.vertex, at.middle, n, names, why="numbered from the vertex")
    levels = [b.parallel(at.base, mark, f"level {mark.name}") for mark in marks]
    for mark, level in zip(marks, levels, strict=True):
        arc = b.arc(focus, span(over, mark), why="as far from the focus as the level from the directrix")
        pair = b.both(arc, level, (f"P{mark.name}", f"P{mark.name}′"), plane.rightmost)
        found["right"].append(pair[0])
        found["left"].append(pair[1])
    _finish(b, g, at, [*reversed(found["left"]), at.vertex, *found["right"]], focus)


@slip("offsets that grow evenly instead of with the square: the focus of the parabola through their first points")
def evenly(g: BaseAndHeight, number: Make) -> dict[str, Number]:
    x = g.base / (2 * g.divisions)
    return {"focal_length": x * x / (4 * (g.height / g.divisions))}


PROBLEM = Problem(
    id="conics/parabola-rectangle",
    title="Parabola in a rectangle",
    brief=(
        "Draw a parabola on a base of {base} and a height of {height}, with {divisions} divisions of half the "
        "base, and its tangent and normal at {chosen} of half the base."
    ),
    givens=BaseAndHeight,
    truth=truth,
    methods=(rectangle, tangents, offsets, focus_arcs),
    findings={
        "focal_length": Kind.LENGTH,
        "directrix_distance": Kind.LENGTH,
        "tangent_angle": Kind.ANGLE,
        "curvature_radius": Kind.LENGTH,
    },
    source="Apollonius I.11 and I.35 (subtangent); the constant subnormal.",
    slips=(evenly,),
    chosen=Chosen("chosen", "Q"),
)
