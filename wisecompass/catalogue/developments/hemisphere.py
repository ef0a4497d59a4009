"""A hemisphere laid out by gores or by zones: it cannot be unrolled, so both say how far they stay off the sphere.

A gore is a strip along a meridian, as wide at every level as its share of the girth there; bent along the meridian its edges
stand off the sphere. A zone is a part of a cone through two level circles; the sphere bulges over it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from typing import Any

from wisecompass.arithmetic import (
    PLAIN,
    Number,
    absolute,
    cos_deg,
    hypot,
    is_zero,
    pi_times,
    roughly,
    sin_deg,
    turning_integral,
)
from wisecompass.catalogue.developments.pattern import Rung, draw_laps, show_pieces
from wisecompass.catalogue.developments.sheet import CAUTIONS, lap_fits, neutral_line, thin_enough
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, choice, count, length, offset
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.setting import bare, reckoned, span
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.drafting.step import Kind
from wisecompass.drafting.view import Triple
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Line, Point

MOST_ZONES = 6
"""More zones have their apexes too far off."""


@dataclass(frozen=True)
class Hemisphere(Givens):
    diameter: Number = length("diameter", "104")
    by: str = choice("laid out by", "gores", "zones")
    parts: int = count("gores or zones", "6", 3, 48)
    divisions: int = count("divisions of the meridian", "6", 3, 12)
    lap: Number = offset("lap", "0", least=Fraction(0))
    thickness: Number = offset("sheet thickness", "0", least=Fraction(0))
    inside: str = choice("inside of the sheet", "down", "up")

    @property
    def across(self) -> Any:
        return self.diameter if is_zero(bare(self.thickness)) else self.diameter + self.thickness

    @property
    def is_gored(self) -> bool:
        return self.by == "gores"


def _way(g: Hemisphere, k: int, of: int) -> Number:
    """How high the k-th of so many divisions stands over the equator, degrees."""
    return (g.diameter * 0 + 90) * k / of


def truth(g: Hemisphere, number: Make) -> Truth:
    radius, zero = g.across / 2, number(0)
    shared: dict[str, Value] = {"lateral_area": pi_times(radius * radius) * 2}
    points = {"O": Point(zero, zero)}
    if g.is_gored:
        found, more = _true_gore(g, radius, zero)
    else:
        found, more = _true_zones(g, radius, zero)
    return Truth(points=points | more, findings=shared | found)


def _true_gore(g: Hemisphere, radius: Number, zero: Number) -> tuple[dict[str, Value], dict[str, Point]]:
    n, m = g.parts, g.divisions
    long, half = pi_times(radius) / 2, pi_times(radius) / n
    points = {"M0": Point(zero, zero), f"M{m}": Point(zero, long)}
    for k in range(m):
        wide, y = half * cos_deg(_way(g, k, m)), long * k / m
        points |= {f"L{k}": Point(-wide, y), f"R{k}": Point(wide, y)}
    slope = half / radius

    def grown(c: Any, s: Any, root: Any) -> Any:
        return root(1 + slope * slope * s * s) * radius

    edge = turning_integral(grown, zero, zero + 90)
    return {
        "gore_length": long,
        "gore_width": half * 2,
        "slant_lengths": None,
        "sector_angles": None,
        "area": pi_times(radius * radius) * 2,
        "perimeter": (edge + half) * 2 * n,
        "worst_gap": hypot(radius, half) - radius,
    }, points


def _true_zones(g: Hemisphere, radius: Number, zero: Number) -> tuple[dict[str, Value], dict[str, Point]]:
    m = g.parts
    step = _way(g, 1, 2 * m)
    slant = radius * sin_deg(step) * 2
    points = {"A/flat": Point(zero, zero)}
    angles, area, edges = [], zero, zero
    for k in range(m):
        middle = _way(g, 2 * k + 1, 2 * m)
        share = sin_deg(middle)
        low, high = radius * cos_deg(_way(g, k, m)), radius * cos_deg(_way(g, k + 1, m))
        angles.append(share * 360)
        area = area + pi_times((low + high) * slant)
        edges = edges + pi_times(low + high) * 2 + slant * 2
        for letter, out in (("B", low), ("C", high)):
            if letter == "C" and k == m - 1:
                continue
            far, way = out / share, share * 360 - 90
            points[f"{letter}{k + 1}/flat"] = Point(zero, -far)
            points[f"{letter}{k + 1}/flat end"] = Point(far * cos_deg(way), far * sin_deg(way))
    return {
        "gore_length": None,
        "gore_width": None,
        "slant_lengths": tuple([slant] * m),
        "sector_angles": tuple(angles),
        "area": area,
        "perimeter": edges,
        "worst_gap": radius * (1 - cos_deg(step)),
    }, points


# ------------------------------------------------------------------------------------------------------------------ gores
def _elevation(b: Board, g: Hemisphere, parts: int) -> tuple[Point, Line, Line, list[Point]]:
    """A quarter of the elevation: centre, base, axis, and the divisions of the meridian from the equator to the pole."""
    centre = b.point("O", b.number(0), b.number(0), why="the middle of the base")
    base = b.level_line(centre, "base")
    axis = b.upright_line(centre, "axis")
    circle = b.arc(centre, g.across / 2, name="meridian", why="half the diameter")
    b.pencil()
    points = [b.meet(circle, base, plane.beyond(base), "E0")]
    for k in range(1, parts):
        ray = b.protract(base, centre, b.turn(k, 4 * parts), f"ray {k}", why="a share of the right angle")
        b.pencil()
        points.append(b.meet(circle, ray, plane.beyond(ray), f"E{k}"))
    b.pencil()
    points.append(b.meet(circle, axis, plane.beyond(axis), f"E{parts}"))
    return centre, base, axis, points


def _only(by: str) -> Condition:
    return Condition(
        f"a hemisphere laid out by {by}",
        lambda g: g.diameter * 0 + (1 if g.by == by else -1),
        f"this method lays out by {by}",
        ("by",),
        lambda g: {"by": by},
    )


def _gore_worth(found: Mapping[str, float]) -> str:
    return f"bent along its meridian a gore's edges stand {found['worst_gap']:.3f} mm off the sphere"


@method("gores", Exactness.APPROXIMATE, _only("gores"), worth=_gore_worth, pieces="parts")
def gores(b: Board, g: Hemisphere) -> None:
    n, m = g.parts, g.divisions
    with b.block("views"):
        centre, base, _, points = _elevation(b, g, m)
        half = reckoned_pi(g.across) / (2 * n)
        half = b.unless(chord_for_width.name, half, lambda: bare(g.across) * sin_deg(b.number(180) / n) / 2)
        side = b.upright_line(points[0], "edge of half a gore")
        corner = b.lay_off(side, points[0], half, "H0", back=True, why="half the share of the girth, reckoned")
        slope = b.line(centre, corner, "half a gore from above")
        b.caution("The width is a share of the girth, not the chord or the tangent of the sector.")
        widths = [span(points[0], corner)]
        for k in range(1, m):
            line = b.upright_line(points[k], f"projector of E{k}")
            b.pencil()
            foot, at = b.meet(line, base, name=f"F{k}"), b.meet(line, slope, name=f"H{k}")
            widths.append(span(foot, at))
        b.line_in((centre, points[0]), (centre, points[-1]), why="axis and base")
        b.line_in_arc(centre, points[0], points[-1], name="meridian of the sphere")
    begun = len(b.steps)
    with b.block("pattern"):
        start = b.point("M0", b.number(0), b.number(0), why="the middle of the gore's base")
        middle = b.upright_line(start, "middle of the gore")
        quarter = b.unless(radius_for_meridian.name, reckoned_pi(g.across) / 4, lambda: span(centre, points[0]))
        pole = b.lay_off(middle, start, quarter, f"M{m}", why="a quarter of the girth, reckoned")
        marks = [start, *b.divide(start, pole, m, [f"M{k}" for k in range(1, m)], why="as the meridian")]
        levels = [b.level_line(mark, f"level {mark.name}") for mark in marks]
        sides: dict[str, list[Point]] = {}
        for letter, back in (("R", False), ("L", True)):
            sides[letter] = [
                b.lay_off(level, mark, wide, f"{letter}{k}", back=back, why="half the width there")
                for k, (level, mark, wide) in enumerate(zip(levels, marks, widths, strict=True))
            ]
        left, right = sides["L"], sides["R"]
        b.line_in((left[0], right[0]), pen=Pen.CUT, why="the base of the gore")
        for letter, row, way in (("R", right, 1), ("L", left, -1)):
            pen = Pen.FOLD if letter == "R" and roughly(bare(g.lap)) else Pen.CUT
            b.fair_curve(_edge(g, way, pen), [*row, pole], f"edge {letter}", why="to the pole")
        if roughly(bare(g.lap)):
            draw_laps(b, g.lap, list(pairwise([*right, pole])))
        b.caution(f"Cut {n} of them; cut edges are sharp and burred: wear gloves and deburr.")
    wide, long = plane.distance(left[0], right[0]), plane.distance(start, pole)
    radius = plane.distance(centre, points[0])
    b.find("gore_length", long)
    b.find("gore_width", wide)
    b.find("slant_lengths", None)
    b.find("sector_angles", None)
    b.find("lateral_area", pi_times(radius * radius) * 2)
    b.find("area", long * wide * 2 * n / pi_times(b.number(1)))
    b.find("worst_gap", hypot(radius, wide / 2) - radius)
    b.check("the gores together are as wide as the girth", wide * n - pi_times(radius) * 2)
    one, other = plane.distance(left[1], marks[1]), plane.distance(right[1], marks[1])
    b.check("the gore is as wide on both sides of its middle", one - other)
    show_pieces(b, _gores(g), begun)


def _gores(g: Hemisphere) -> list[list[Rung]]:
    """All gores bent along their meridians, level by level, for the eye."""
    radius, n, m = float(g.bound_in(PLAIN).across) / 2, g.parts, g.divisions
    found = []
    for k in range(n):
        way, rungs = math.tau * k / n, []
        for level in range(m + 1):
            up = math.pi / 2 * level / m
            out, half = radius * math.cos(up), math.pi * radius / n * math.cos(up) if level < m else 0.0
            ends = [
                (
                    out * math.cos(way) - side * math.sin(way),
                    radius * 2 - out * math.sin(way) - side * math.cos(way),
                    radius * math.sin(up),
                )
                for side in (half, -half)
            ]
            rungs.append((ends[0], ends[1]))
        found.append(rungs)
    return found


def _edge(g: Hemisphere, way: int, pen: Pen) -> Any:
    """The edge of a gore: a cosine over the meridian."""

    def curve() -> list[tuple[Parametric, Pen]]:
        radius = float(g.bound_in(PLAIN).across) / 2
        half = math.pi * radius / g.parts * way
        return [
            (
                Parametric(
                    lambda t: (half * math.cos(t), radius * t), lambda t: (-half * math.sin(t), radius), 0.0, math.pi / 2
                ),
                pen,
            )
        ]

    return curve


# ------------------------------------------------------------------------------------------------------------------ zones
def _zone_worth(found: Mapping[str, float]) -> str:
    return f"the sphere bulges {found['worst_gap']:.3f} mm over the cones"


@method("zones", Exactness.APPROXIMATE, _only("zones"), worth=_zone_worth)
def zones(b: Board, g: Hemisphere) -> None:
    m = g.parts
    with b.block("views"):
        centre, _, axis, points = _elevation(b, g, m)
        tips = []
        for k in range(m - 1):
            chord = b.line(points[k], points[k + 1], f"chord {k + 1}", why="the cone through both level circles")
            b.pencil()
            tips.append(b.meet(chord, axis, name=f"T{k + 1}"))
        tips.append(points[-1])
        b.line_in((centre, points[0]), (centre, points[-1]), *pairwise(points), why="the cones, from circle to circle")
        b.line_in_arc(centre, points[0], points[-1], name="meridian of the sphere")
    begun = len(b.steps)
    with b.block("pattern"):
        slants, angles, area = _rings(b, g, tips, points)
    b.caution("Each zone is a ring of its own; the seams are set apart from zone to zone.")
    radius = plane.distance(centre, points[0])
    chord_middle = plane.midpoint(points[0], points[1])
    b.find("gore_length", None)
    b.find("gore_width", None)
    b.find("slant_lengths", tuple(slants))
    b.find("sector_angles", tuple(angles))
    b.find("lateral_area", pi_times(radius * radius) * 2)
    b.find("area", area)
    b.find("worst_gap", radius - plane.distance(centre, chord_middle))
    reaches = [absolute(plane.distance_to_line(point, axis)) for point in points]
    belts = [pi_times(low + high) * pi_times(radius) / (2 * m) for low, high in pairwise(reaches)]
    b.misread(arc_for_chord.name, lambda: {"area": sum(belts[1:], belts[0])})
    out = [plane.distance_to_line(p, axis) for p in points[:2]]
    far = plane.distance(tips[0], points[0])
    b.check("the outer arc of the first zone is as long as the equator", far * angles[0] - absolute(out[0]) * 360)
    b.check("all zones are equally wide", slants[-1] - slants[0])
    show_pieces(b, _zones(g), begun)


ROUND = 24
"""Lines by which a zone is shown in space."""


def _zones(g: Hemisphere) -> list[list[Rung]]:
    """All zones rolled up, for the eye."""
    radius = float(g.bound_in(PLAIN).across) / 2

    def place(level: int, k: int) -> Triple:
        up, way = math.pi / 2 * level / g.parts, math.tau * k / ROUND
        out = radius * math.cos(up) if level < g.parts else 0.0
        return out * math.cos(way), radius * 2 - out * math.sin(way), radius * math.sin(up)

    return [[(place(level, k % ROUND), place(level + 1, k % ROUND)) for k in range(ROUND + 1)] for level in range(g.parts)]


def _rings(b: Board, g: Hemisphere, tips: list[Point], points: list[Point]) -> tuple[list[Number], list[Number], Number]:
    """All rings about one centre, each within the one before: their widths, angles and area."""
    m = g.parts
    apex = b.point("A/flat", b.number(0), b.number(0), why="one centre serves for all rings")
    down = b.upright_line(apex, "first edges")
    rows: list[list[Point]] = []
    for letter, part in (("B", 0), ("C", 1)):
        sizes = [span(tip, points[k + part]) for k, tip in enumerate(tips)][: m - part]
        rows.append(
            [
                b.lay_off(down, apex, size, f"{letter}{k}/flat", back=True, why="from the elevation")
                for k, size in enumerate(sizes, 1)
            ]
        )
    start = Line.through(apex, rows[0][0])
    rays = []
    for k in range(m):
        slope = reckoned(sin_deg(_way(g, 2 * k + 1, 2 * m)) * 360, ("*", 360, ("sin", ("/", 90 * (2 * k + 1), 2 * m))))
        rays.append(b.protract(start, apex, slope, f"edge {k + 1}", why="360° times the sine of the zone's slope, reckoned"))
    ends: list[list[Point]] = []
    for letter, row in zip("BC", rows, strict=True):
        found = []
        for k, (p, ray) in enumerate(zip(row, rays, strict=False), 1):
            arc = b.arc(apex, span(apex, p), name=f"arc {letter}{k}")
            b.pencil()
            found.append(b.meet(arc, ray, plane.beyond(ray), f"{letter}{k}/flat end"))
        ends.append(found)
    for row, row_ends in zip(rows, ends, strict=True):
        for p, q in zip(row, row_ends, strict=True):
            b.line_in_arc(apex, p, q, name=f"rim {p.name}", pen=Pen.CUT)
    edges = [(p, q) for pair in (rows, ends) for p, q in zip(pair[0], [*pair[1], apex], strict=True)]
    b.line_in(*edges, pen=Pen.CUT, why="the edges of the seams")
    slants = [plane.distance(p, q) for p, q in edges[:m]]
    angles = [plane.sweep_at(apex, p, q) for p, q in zip(rows[0], ends[0], strict=True)]
    area = b.number(0)
    for k, turned in enumerate(angles):
        out = plane.distance(apex, rows[0][k])
        within = plane.distance(apex, rows[1][k]) if k < m - 1 else out * 0
        area = area + pi_times((out * out - within * within) * turned) / 360
    return slants, angles, area


@slip("the radius taken for the length of the quarter meridian")
def radius_for_meridian(g: Hemisphere, number: Make) -> dict[str, Number]:
    return {"gore_length": bare(g.across) / 2} if g.is_gored else {}


@slip("the chord of the sector taken for the gore's width")
def chord_for_width(g: Hemisphere, number: Make) -> dict[str, Number]:
    return {"gore_width": bare(g.across) * sin_deg(number(180) / g.parts)} if g.is_gored else {}


@slip("the tangent's arc taken for the chord between two circles")
def arc_for_chord(g: Hemisphere, number: Make) -> dict[str, Number]:
    if g.is_gored:
        return {}
    slant = pi_times(bare(g.across)) / 4 / g.parts
    out = [bare(g.across) / 2 * cos_deg(_way(g, k, g.parts)) for k in range(g.parts + 1)]
    return {"area": sum((pi_times((low + high) * slant) for low, high in pairwise(out)), number(0))}


PROBLEM = Problem(
    id="developments/hemisphere",
    title="Hemisphere laid out flat",
    brief=(
        "Lay out flat a hemisphere {diameter} across by {parts} {by}, the meridian in {divisions} divisions; lap {lap}, "
        "sheet {thickness} thick, inside {inside}."
    ),
    givens=Hemisphere,
    truth=truth,
    methods=(gores, zones),
    findings={
        "gore_length": Kind.LENGTH,
        "gore_width": Kind.LENGTH,
        "slant_lengths": Kind.LENGTH,
        "sector_angles": Kind.ANGLE,
        "lateral_area": Kind.AREA,
        "area": Kind.AREA,
        "perimeter": Kind.LENGTH,
        "worst_gap": Kind.LENGTH,
    },
    reckoned_only=frozenset({"perimeter"}),
    source="Gores by shares of the girth at every level; zones as cones through two circles.",
    conditions=(
        thin_enough("diameter"),
        Condition(
            "zones that can be drawn",
            lambda g: g.diameter * 0 + (1 if g.is_gored else MOST_ZONES - g.parts),
            f"{{parts}} zones have their apexes too far off: {MOST_ZONES} are the most",
            ("parts",),
            lambda g: {"parts": str(MOST_ZONES)},
        ),
        lap_fits(
            "a division of the meridian", lambda g: pi_times(g.diameter) / 4 / (g.divisions if g.is_gored else g.parts)
        ),
    ),
    slips=(radius_for_meridian, chord_for_width, arc_for_chord),
    cautions=CAUTIONS,
    beforehand=neutral_line,
)
