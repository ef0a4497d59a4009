"""Conical helix in its two views: the radius at each level is taken from the cone's side to the end view."""

from __future__ import annotations

import math
from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import Number, atan2_deg, cos_deg, hypot, log, pi_times, root, sin_deg
from wisecompass.catalogue.loci.winding import (
    Wound,
    begun,
    chosen,
    conditions,
    counts,
    elevation,
    end_view,
    finish_tangent,
    last,
    levels,
    seen_and_hidden,
    sense,
    show_in_space,
    spaces,
    turned,
    views,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Chosen, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class _Cone(Givens):
    base_diameter: Number = givens.length("base diameter", "84")
    height: Number = givens.length("height", "77")
    turns: Number = givens.ratio("turns", "2", Fraction(1, 24), Fraction(12))
    divisions: int = givens.count("divisions of a turn", "12", 4, 72)


@dataclass(frozen=True)
class OnCone(Wound, _Cone):
    """Windings about a cone."""

    turns: Number = givens.ratio("turns", "2", Fraction(1, 24), Fraction(12))


def _length(radius: Number, height: Number, turns: Number) -> Number:
    """∫√(s² + w²u²) du from 0 to 1, s the cone's side and w = 2π·turns·radius: the closed form with arsinh."""
    side = root(radius * radius + height * height)
    wound = pi_times(2 * turns * radius)
    whole = root(side * side + wound * wound)
    return (whole + side * side / wound * log((wound + whole) / side)) / 2


def truth(g: OnCone, number: Make) -> Truth:
    zero, radius, count = number(0), g.base_diameter / 2, spaces(g)
    points = elevation(g, lambda k: radius * (count - k) / count, g.height + 0)
    touching = {**_trace(g), "C": _centre(g)}
    return Truth(
        points={"O": Point(zero, zero), **points, **touching},
        findings={"length": _length(radius, g.height, g.turns), **_tangent(g)},
    )


def _trace(g: OnCone) -> dict[str, Point]:
    """Where the tangent meets the level where its turn begins: out along the ray as far as the cone reaches there, and back
    by the arc turned at the point's radius."""
    out, angle = _reach(g, begun(g)), turned(g, chosen(g))
    arc = pi_times(2 * _reach(g, chosen(g)) * (chosen(g) - begun(g)) / g.divisions)
    x = out * cos_deg(angle) + arc * sense(g) * sin_deg(angle)
    return {"T": Point(x, g.height * begun(g) / spaces(g))}


def _reach(g: OnCone, k: int) -> Number:
    """Radius at a division."""
    count = spaces(g)
    return g.base_diameter * (count - k) / (2 * count)


def _in_a_radian(g: OnCone) -> tuple[Number, Number]:
    """What the radius loses and the height gains while the curve turns through a radian."""
    return g.base_diameter / reckoned_pi(4 * g.turns), g.height / reckoned_pi(2 * g.turns)


def _centre(g: OnCone) -> Point:
    """The centre of curvature in the elevation: P + |v|² n / |n|², where n is what of the acceleration is square to v."""
    r, angle, (a, c) = _reach(g, chosen(g)), turned(g, chosen(g)), _in_a_radian(g)
    speed = a * a + r * r + c * c
    size = r * r + 4 * a * a - a * a * r * r / speed
    out, round_ = -(speed * r + a * a * r) / size, (a * r * r - 2 * a * speed) / size
    x = (r + out) * cos_deg(angle) - round_ * sense(g) * sin_deg(angle)
    return Point(x, g.height * chosen(g) / spaces(g) + a * r * c / size)


def _tangent(g: OnCone) -> dict[str, Number]:
    """Angle of the tangent in the elevation, and |v|³ / |v x a| with v = (-a, r, c) and a = (-r, -2a, 0) radially, round
    and upwards; a and c are what radius and height change by in a radian."""
    reach, count = _reach(g, chosen(g)), spaces(g)
    a, c = _in_a_radian(g)
    speed = root(a * a + reach * reach + c * c)
    x, y, z = 2 * a * c, c * reach, 2 * a * a + reach * reach
    slope = atan2_deg(g.height * (chosen(g) - begun(g)) / count, reach * cos_deg(turned(g, chosen(g))) - _trace(g)["T"].x)
    return {"tangent_angle": slope, "curvature_radius": speed * speed * speed / root(x * x + y * y + z * z)}


@method("end view and projected divisions", Exactness.EXACT_POINTS)
def projected_divisions(b: Board, g: OnCone) -> None:
    radius = g.base_diameter / 2
    axis, foot, top, middle = views(b, radius, g.height + 0)
    base = b.level_line(foot, "base")
    right, left = b.both(b.arc(foot, radius, why="half the base diameter"), base, ("B", "A"), plane.rightmost)
    b.line_in((left, right), (left, top), (right, top), why="the cone")
    side = Line.through(right, top)
    circle = b.arc(middle, radius, whole=True, name="end view", why="the base", pen=Pen.GIVEN)
    marks = end_view(b, g, circle)
    rays = [b.line(middle, mark, f"ray {b.nth(k)}") for k, mark in enumerate(marks)]
    heights = levels(b, g, foot, top)
    end = b.mark_point(top.named(b.numbered("P", spaces(g))))
    across, reaches, swung, below = [], [], [], []
    kept = b.slips(kept_radius.name)
    wound_from = len(b.steps)
    for k, height in enumerate(heights[:-1]):
        across.append(b.parallel(base, height, f"level {b.nth(k)}"))
        reach = span(height, b.meet(across[-1], side))
        reaches.append(span(foot, right) if kept else reach)
    for k, reach in enumerate(reaches):
        at = k % g.divisions
        swung.append(b.arc(middle, reach, why=f"the radius at level {b.nth(k)}, across the ray"))
        below.append(b.meet(swung[-1], rays[at], plane.nearest(marks[at]), f"p {b.nth(k)}"))
        if k in (1, 2):
            b.caution("The radius is taken at the level in hand: it shrinks with every division.")
    projectors = [b.parallel(axis, seen, f"projector {b.nth(k)}") for k, seen in enumerate(below)]
    names = [b.numbered("P", k) for k in range(spaces(g))]
    plotted = [*b.mark_crossings(zip(projectors, across, names, strict=True)), end]
    b.plot(*plotted)
    b.fair_curve(lambda: _parts(g), plotted, "conical helix")
    show_in_space(b, g, (radius, radius * 0), g.height, wound_from)
    below.append(middle)
    with b.wish("tangent"):
        at = chosen(g) % g.divisions
        ray = rays[at]
        b.pencil(why="on the arc of the level where the turn begins")
        square = b.square(ray, b.meet(ray, swung[begun(g)], plane.nearest(marks[at]), "e"), "square at e")
        count = spaces(g)
        arc = reckoned_pi(g.base_diameter * (count - chosen(g)) * (chosen(g) - begun(g)) / (count * g.divisions))
        trace = b.lay_off(
            square, square.at, arc, "t", back=g.hand == "right", why="the arc turned, at the radius of the point"
        )
        b.caution("The trace of the tangent lies beside the rim, by the arc at the radius of the point.")
        finish_tangent(b, axis, across[begun(g)], trace, plotted[chosen(g)])
        with b.wish("centre of curvature"), b.may_be_far():
            _draw_centre(b, g, axis, ray, below[chosen(g)], trace, heights, across)
    b.dimension(foot, top, offset=9, clear=radius)
    b.dimension(left, right, offset=-9)
    b.find("length", _length(plane.distance(foot, right), plane.distance(foot, top), g.turns))
    if kept:
        b.find("length", hypot(pi_times(plane.distance(foot, right) * 2 * g.turns), plane.distance(foot, top)))
    b.check("the helix begins on the rim of the base", plane.distance(middle, below[0]) - radius)
    quarter = spaces(g) // 2
    b.check(
        f"P{b.nth(quarter)} is as far from the axis as the cone is wide at its level",
        plane.distance(middle, below[quarter]) - _reach(g, quarter),
    )


def _draw_centre(
    b: Board, g: OnCone, axis: Line, ray: Line, p: Point, trace: Point, heights: list[Point], levels: list[Line]
) -> None:
    """The centre of curvature. The normal planes of the curve turn about a line, its axis of curvature. In the end view that
    is square to the way the curve bends, and farther off as the square of its speed; seen along that way it is square to
    the tangent, and the centre lies where it crosses the tangent's view (Monge)."""
    shrinks, rises = _in_a_radian(g)
    back, here = g.hand == "right", heights[chosen(g)]
    reckoned_off = b.square(ray, ray.at, "square at M")
    why = "what the radius loses in a radian, back against the turn; the curve bends towards i"
    n, i = b.step_along(reckoned_off, ray.at, shrinks, ["n", "i"], back=back, why=why)
    normal = b.line(p, n, "normal in the end view", why="as on the spiral of Archimedes")
    w = b.lay_off(b.square(normal, n, "square at n"), n, rises, "w", why="what the height gains in a radian")
    bend, speed = span(p, i), span(p, w)
    way = b.line(p, i, "way of the bend")
    v = b.lay_off(b.square(way, p, "square at p"), p, speed, "v", why="as far as w")
    j = b.lay_off(way, p, bend, "j", back=True, why="as far as i, the other way")
    f = b.meet(b.square(Line.through(j, v), v, "square at v", why="the height of a right triangle"), way, name="f")
    fold = b.square(way, f, "axis of curvature", why="in the end view")
    h = b.meet(normal, fold, name="h")
    projector = b.square(fold, trace, "projector of t″", why="a view along the way of the bend")
    drop = span(heights[begun(g)], here)
    low = b.lay_off(
        projector, b.meet(projector, fold, name="foot of t"), drop, "t″", why="as far below the point as the trace lies"
    )
    seen = b.line(f, low, "tangent seen along the bend")
    over = b.square_from(seen, h, "c″", why="there the axis of curvature is square to the tangent")
    c = b.square_from(fold, over, "c", why="the centre of curvature in the end view")
    lift = span(over, c)
    level = levels[chosen(g)] if chosen(g) < len(levels) else b.level_line(here, "level of the point")
    raised = b.parallel(axis, c, "projector of c")
    beside = b.meet(raised, level, name="q")
    b.lay_off(raised, beside, lift, "C", why="as high above the point as c″ lies beyond the axis of curvature")
    tip = b.lay_off(fold, c, span(p, c), "c0", why="from c″ it lies as far as P from C in truth")
    b.find("curvature_radius", plane.distance(over, tip))


def _parts(g: OnCone) -> list[tuple[Parametric, Pen]]:
    radius, height, end = float(g.base_diameter) / 2, float(g.height), 2 * math.pi * float(g.turns)
    start, way = math.radians(float(g.start_angle)), sense(g)

    def place(t: float) -> tuple[float, float]:
        return radius * (1 - t / end) * math.cos(start + way * t), height * t / end

    def velocity(t: float) -> tuple[float, float]:
        angle = start + way * t
        return -radius * (1 - t / end) * way * math.sin(angle) - radius / end * math.cos(angle), height / end

    return seen_and_hidden(g, place, velocity)


@slip("the base radius kept at every level: a helix on a cylinder")
def kept_radius(g: OnCone, number: Make) -> dict[str, Number]:
    girth = pi_times(g.base_diameter * g.turns)
    return {"length": root(girth * girth + g.height * g.height)}


PROBLEM = Problem(
    id="loci/conical-helix",
    title="Conical helix",
    brief=(
        "Draw a helix, {hand} hand, on a cone of base diameter {base_diameter} and height {height}, in {divisions} "
        "divisions of a turn beginning at {start_angle}; number of turns {turns}. Draw its tangent at division {chosen}."
    ),
    givens=OnCone,
    truth=truth,
    methods=(projected_divisions,),
    findings={"length": Kind.LENGTH, "tangent_angle": Kind.ANGLE, "curvature_radius": Kind.LENGTH},
    source="Pappus IV; length in closed form.",
    conditions=conditions(),
    slips=(kept_radius,),
    beforehand=counts,
    chosen=Chosen("chosen", "P{}", last),
)
