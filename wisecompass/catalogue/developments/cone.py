"""A cone cut across, laid out by radial lines: the sector is reckoned from slant and base and then divided, every cut point
lies as far down its generator as the true generator shows it. Its points are exact; between them the rim is faired.

Truth: the sector by 360° · r / l; cut points as distances in space; areas by the conic that the plane makes.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, atan2_deg, cos_deg, hypot, pi_times, root, sin_deg
from wisecompass.catalogue.developments.flat_cut import (
    SHEET_WORDS,
    conditions,
    plan_of,
    rises,
    stations,
    true_points,
    upper_ends,
    worded,
)
from wisecompass.catalogue.developments.pattern import Fair, Strip, finish, flat_names, rolled_gap, say_seam
from wisecompass.catalogue.developments.radial import grown, true_edge
from wisecompass.catalogue.developments.round_cut import (
    FINDINGS,
    Round,
    even_divisions,
    lay_ends,
    measure,
    measured_cut,
    rim_laps,
    rim_of_cut,
    show_folding,
    true_findings,
    views,
)
from wisecompass.catalogue.developments.sheet import CAUTIONS, Sheet, neutral_line, thin_enough
from wisecompass.catalogue.solids.body import APEX, MIDDLE, begin, half_turn
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, angle, choice, count, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Setting, bare, reckoned, tree_of
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3, distance3


@dataclass(frozen=True)
class _Sizes(Givens):
    diameter: Number = length("diameter of the base", "84")
    height: Number = length("height of the whole cone", "77")
    cut: str = choice("cut or whole", "cut", "left whole")
    cut_angle: Number = angle("inclination of the cut to HP", "35", "0", "85")
    cut_height: Number = length("height at which the cut meets the axis", "30")
    divisions: int = count("divisions", "12", 4, 48)


@dataclass(frozen=True)
class Cone(Sheet, _Sizes):
    """A cone of sheet; its sizes are inside sizes."""


class Body(Round):
    """The cone on the neutral line: its side lies half the thickness outside, which makes it a larger one of the same shape
    on the same base."""

    @property
    def kind(self) -> str:
        return "cone"

    @cached_property
    def base(self) -> Any:
        return self._grown("diameter")

    @cached_property
    def height(self) -> Any:
        return self._grown("height")

    def _grown(self, name: str) -> Any:
        return grown(self.given, name, bare(self.given.diameter) / 2, ("/", "diameter", 2))


def sector(g: Body) -> Any:
    """The angle of the pattern at the apex, degrees: 360 · r / √(r² + h²)."""
    radius, high = bare(g.base) / 2, bare(g.height)
    number = radius * 360 / hypot(radius, high)
    if type(g.base) is not Setting:
        return number
    foot, tall = ("/", tree_of(g.base), 2), tree_of(g.height)
    slope = ("sqrt", ("+", ("*", foot, foot), ("*", tall, tall)))
    return reckoned(number, ("/", ("*", 360, foot), slope))


def truth(given: Cone, number: Make) -> Truth:
    g = Body(given)
    points, uppers = true_points(g), upper_ends(g, plan_of(g))
    slant = hypot(g.base / 2, g.height)
    whole = g.base * 180 / slant
    down = [distance3(points[APEX], points[name]) for name in uppers]
    order = given.round_from_seam(g.corners)
    flat: dict[str, Point | Point3] = {f"{APEX}/flat": Point(number(0), number(0))}
    for k, (low, high) in enumerate(flat_names(stations(g, uppers))):
        way = whole * k / g.corners - 90
        flat[low] = Point(slant * cos_deg(way), slant * sin_deg(way))
        if not g.is_whole:
            flat[high] = Point(down[order[k]] * cos_deg(way), down[order[k]] * sin_deg(way))
    more = {"slant_length": slant, "sector_angle": whole}
    return Truth(points=points | flat, findings=more | true_findings(g, [slant - each for each in down]))


@method("radial lines", Exactness.EXACT_POINTS)
def radial_lines(b: Board, given: Cone) -> None:
    g = Body(given)
    d = views(b, g)
    uppers = upper_ends(g, d.plan)
    lines = stations(g, uppers)
    names = flat_names(lines)
    edge = true_edge(d, g, uppers, "1")
    begun = len(b.steps)
    with b.block("pattern"):
        apex = b.point(f"{APEX}/flat", b.number(0), b.number(0), why="the apex begins the pattern")
        seam = b.upright_line(apex, "seam")
        start = b.lay_off(seam, apex, edge.length, names[0][0], back=True, why="the true generator")
        arc = b.arc(apex, edge.length, name="arc of the base", why="all generators are alike")
        down = plane.Line.through(apex, start)
        whole = sector(g)
        rays, feet = [seam], [start]
        for k in range(1, g.corners + 1):
            share = whole * k / g.corners
            ray = b.protract(down, apex, share, f"generator {names[k][0]}", why="a share of the sector, reckoned")
            b.pencil()
            rays.append(ray)
            feet.append(b.meet(arc, ray, plane.beyond(ray), names[k][0]))
        b.caution("Reckon the sector and then divide it: chords stepped off along the arc come out short.")
        tops = [apex] * len(feet)
        if not g.is_whole:
            tops = [
                b.lay_off(ray, apex, edge.down_to(top), name, back=k == 0, why="as far down the true generator")
                for k, (ray, (_, top), (_, name)) in enumerate(zip(rays, lines, names, strict=True))
            ]
        b.plot(*(feet if g.is_whole else tops))
        body = {name: b.solid_point(name) for each in lines for name in each}
        strip = Strip(lines, feet, tops, body, _arc(b, apex), None if g.is_whole else _faired(b, g))
        lengths = [plane.distance(p, q) for p, q in zip(feet, tops, strict=True)][:-1]
        say_seam(b, given, [lengths[given.round_from_seam(g.corners).index(k)] for k in range(g.corners)], "generator")
        finish(b, given, strip)
    lay_ends(d, g)
    slant = plane.distance(apex, start)
    turned = [plane.turn_at(apex, p, q) for p, q in zip(feet, feet[1:], strict=False)]
    angle_found = sum(turned[1:], turned[0])
    girth = pi_times(slant * angle_found) / 180
    cut = measured_cut(d, g)
    off = girth * 0 if cut is None else cut.area * cut.cosine
    radius = girth / pi_times(b.number(2))
    measure(d, g, strip, girth, (pi_times(radius * radius) - off) * slant / radius)
    low = d.one.low.images
    b.check(
        "the arc of the pattern is as long as the circle of the base",
        girth - pi_times(plane.distance(low[MIDDLE], low["1"])) * 2,
    )
    b.find("slant_length", slant)
    b.find("sector_angle", angle_found)
    up, wide = d.one.up.images, plane.distance(low[MIDDLE], low["1"])
    tall = up[d.sheet.top].y - up[MIDDLE].y
    b.misread(tip_angle.name, lambda: {"sector_angle": atan2_deg(wide, tall) * 2})
    b.misread(height_for_slant.name, lambda: {"slant_length": tall, "sector_angle": wide * 360 / tall})
    b.misread(as_seen.name, lambda: {"seam_length": plane.distance(*(up[name] for name in lines[0]))})
    b.find_if_asked("refold_gap", lambda: rolled_gap(strip, _roll(b, g, apex, feet)))
    show_folding(d, strip, begun)


def _roll(b: Board, g: Body, apex: Point, feet: Sequence[Point]) -> Callable[[int, Point], Point3]:
    """Rolled up the sector closes about the axis: a direction in it is turned by so much more as the whole is more than the
    sector; what is so far from the apex lies so far out as the sector is a share of the whole."""
    tip = b.solid_point(APEX)
    ways = [b.number(0)]
    for p, q in pairwise(feet):
        ways.append(ways[-1] + plane.turn_at(apex, p, q))
    share = ways[-1] / 360
    first = b.number(360) * (g.seam - 1) / g.corners
    way = -1 if g.inside == "up" else 1

    def roll(k: int, p: Point) -> Point3:
        if p is apex:
            return tip
        foot, along = feet[k], plane.distance(apex, p)
        fx, fy, px, py = foot.x - apex.x, foot.y - apex.y, p.x - apex.x, p.y - apex.y
        turned = first + (ways[k] + atan2_deg(fx * py - fy * px, fx * px + fy * py)) * way / share
        out = along * share
        fall = root(along * along - out * out)
        return Point3(tip.x + out * cos_deg(turned), tip.front - out * sin_deg(turned), tip.above - fall)

    return roll


def _arc(b: Board, apex: Point) -> Fair:
    """The rim of the base."""

    def fair(through: Sequence[Point], title: str, pen: Pen) -> None:
        b.line_in_arc(apex, through[0], through[-1], name=title, why="the rim of the base", pen=pen)

    return fair


def _faired(b: Board, g: Body) -> Fair:
    """The rim of the cut: so far down from the apex as the plane cuts the generator in each direction."""

    def fair(through: Sequence[Point], title: str, pen: Pen) -> None:
        def curve() -> list[tuple[Parametric, Pen]]:
            h = g.bound_in(PLAIN)
            radius, high, level = float(h.base) / 2, float(h.height), float(h.cut_height)
            slant, slope = math.hypot(radius, high), math.tan(math.radians(float(h.cut_angle)))
            first, way = math.tau * (h.seam - 1) / h.corners, -1 if h.inside == "up" else 1
            share = radius / slant

            def place(t: float) -> tuple[float, float]:
                across = radius * slope * math.cos(first + way * t / share)
                down = slant * (1 - (level + across) / (high + across))
                return down * math.sin(t), -down * math.cos(t)

            def velocity(t: float) -> tuple[float, float]:
                (x1, y1), (x2, y2) = place(t - TINY), place(t + TINY)
                return (x2 - x1) / (2 * TINY), (y2 - y1) / (2 * TINY)

            return [(Parametric(place, velocity, 0.0, math.tau * share, 8), pen)]

        b.fair_curve(curve, through, title, why="through the cut points")

    return fair


TINY = 1e-5
"""Radians between which a velocity is read off."""


@slip("the sector taken for the angle at the cone's tip as the front view shows it")
def tip_angle(g: Cone, number: Make) -> dict[str, Number]:
    return {"sector_angle": 2 * atan2_deg(g.diameter / 2, g.height)}


@slip("the height taken for the slant")
def height_for_slant(g: Cone, number: Make) -> dict[str, Number]:
    body = Body(g)
    return {"slant_length": bare(body.height), "sector_angle": bare(body.base) * 180 / bare(body.height)}


@slip("cut points taken from the front view along their own generators, where they are too short")
def as_seen(g: Cone, number: Make) -> dict[str, Number]:
    """The view shows the height, and what the generator runs to the side."""
    body = Body(g)
    run = g.diameter / 2 * cos_deg(begin(body) + 2 * (g.seam - 1) * half_turn(body)) / g.height
    return {"seam_length": rises(body)[g.seam - 1] * hypot(number(1), run)}


BODY = "a cone {diameter} across and {height} high by {divisions} generators"

PROBLEM = Problem(
    id="developments/cone",
    title="Cone laid out flat",
    brief=f"Lay out flat {BODY}, {{cut}} at {{cut_angle}} to HP, {{cut_height}} up the axis; {SHEET_WORDS}",
    worded=worded(BODY),
    givens=Cone,
    truth=truth,
    methods=(radial_lines,),
    findings={"slant_length": Kind.LENGTH, "sector_angle": Kind.ANGLE} | FINDINGS,
    source="Radial lines: a sector of the slant as radius, 360° · r / l wide.",
    conditions=(
        even_divisions(),
        *conditions("generator", Body, strictly=True),
        rim_laps(Body),
        rim_of_cut(Body),
        thin_enough("diameter"),
    ),
    slips=(tip_angle, height_for_slant, as_seen),
    cautions=CAUTIONS,
    beforehand=neutral_line,
)
