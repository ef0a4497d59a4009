"""From a circle to another over it that may be tilted, laid out by triangulation: generators between points of the same
number, and a diagonal in each four-sided facet.

Truth: the triangles of the same points in space, each turned into the sheet. Between parallel circles the facets are flat
and the generators lie on the surface; over a tilted one the surface that unrolls touches other points. How far the triangles
lie from it is found numerically.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, absolute, cos_deg, hypot, pi_times, roughly, sin_deg
from wisecompass.catalogue.developments.pattern import Station, Strip, finish, say_seam
from wisecompass.catalogue.developments.rims import discs, greatest, level_circle, numbered, places, say_divisions
from wisecompass.catalogue.developments.round_cut import even_divisions
from wisecompass.catalogue.developments.sheet import CAUTIONS, Sheet, lap_fits, neutral_line, seam_is_there, thin_enough
from wisecompass.catalogue.developments.transition import FINDINGS, disc, ends_of, faired, figures, measure, show, worth
from wisecompass.catalogue.developments.triangles import Diagram, area_of, lay_out, lines_between, true_flat
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, angle, at_least, count, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import bare, span
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Oval
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3, distance3


@dataclass(frozen=True)
class _Sizes(Givens):
    bottom_diameter: Number = length("diameter below", "68")
    top_diameter: Number = length("diameter above", "44")
    offset: Number = givens.offset("offset of the upper circle to the right", "22")
    tilt: Number = angle("tilt of the upper circle, its right side up", "0", "-60", "60")
    height: Number = length("height of its middle", "60")
    divisions: int = count("divisions", "12", 4, 48)


@dataclass(frozen=True)
class RoundToRound(Sheet, _Sizes):
    """A boot of sheet; its rims lie on the neutral line, in their own planes."""

    def grown(self, name: str) -> Any:
        size = getattr(self, name)
        return size + self.thickness if self.has_thickness else size

    @property
    def room(self) -> Any:
        return (self.bottom_diameter + self.top_diameter) / 2 + self.thickness

    @property
    def lower(self) -> list[str]:
        return numbered("", self.divisions)

    @property
    def upper(self) -> list[str]:
        return numbered("P", self.divisions)

    @property
    def stations(self) -> list[Station]:
        return [(self.lower[k], self.upper[k]) for k in self.round_from_seam(self.divisions)]

    @property
    def is_tilted(self) -> bool:
        return self.decide(lambda h: h.tilt) != 0


def _space(g: RoundToRound) -> dict[str, Point3]:
    """Both circles and their middles, in front of VP."""
    zero = g.height * 0
    found = {
        "K": Point3(zero, g.room, zero, "K"),
        "Q": Point3(zero + g.offset, g.room, zero + g.height, "Q"),
    }
    found |= places(found["K"], g.grown("bottom_diameter") / 2, g.lower)
    radius, c, s = g.grown("top_diameter") / 2, cos_deg(g.tilt), sin_deg(g.tilt)
    for k, name in enumerate(g.upper):
        way = (zero + 360) * k / g.divisions
        out = radius * cos_deg(way)
        found[name] = Point3(g.offset + out * c, g.room - radius * sin_deg(way), g.height + out * s, name)
    return found


def truth(g: RoundToRound, number: Make) -> Truth:
    space, stations = _space(g), g.stations
    flat = true_flat(stations, space, number(0))
    lengths = [distance3(space[low], space[high]) for low, high in stations[:-1]]
    low, high = (disc(g.grown(name)) for name in ("bottom_diameter", "top_diameter"))
    ends, more = ends_of(g.ends, low, high)
    n = g.divisions
    outline = (g.grown("bottom_diameter") + g.grown("top_diameter")) * sin_deg(number(180) / n) * n
    points: dict[str, Point | Point3] = {**space, **flat}
    found = figures(lengths, area_of(stations, space), ends, outline + more)
    return Truth(points=points, findings=found | {"worst_gap": _worst_gap(g, number)})


def _worst_gap(g: RoundToRound, number: Make) -> Number:
    """How far the triangles lie within the surface that unrolls, at most, mm; in floats."""
    h = g.bound_in(PLAIN)
    sizes = tuple(float(h.grown(name)) for name in ("bottom_diameter", "top_diameter"))
    return number(repr(_gap_of(*sizes, float(h.offset), float(h.tilt), float(h.height), h.divisions)))


@lru_cache(maxsize=64)
def _gap_of(below: float, above: float, offset: float, tilt: float, height: float, count: int) -> float:
    """The same by the sizes on the neutral line; the seam and which side lies up make no difference."""
    from wisecompass.geometry.tangent_planes import farthest_within

    turn = math.radians(tilt)
    c, s = math.cos(turn), math.sin(turn)
    lower = ((0.0, 0.0, 0.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), below / 2)
    upper = ((offset, 0.0, height), (c, 0.0, s), (0.0, 1.0, 0.0), above / 2)
    rims = [
        [tuple(m + r * (math.cos(w) * a + math.sin(w) * e) for m, a, e in zip(*circle, strict=True)) for w in _ways(count)]
        for *circle, r in (lower, upper)
    ]
    loops = []
    for k in range(count):
        after = (k + 1) % count
        loops.append([rims[0][k], rims[0][after], rims[1][k]])
        loops.append([rims[0][after], rims[1][after], rims[1][k]])
    return farthest_within(lower, upper, loops)


def _ways(count: int) -> list[float]:
    return [math.tau * k / count for k in range(count)]


@method("triangulation", Exactness.APPROXIMATE, worth=worth)
def triangulation(b: Board, g: RoundToRound) -> None:
    tall = roughly(bare(g.room)) * 2 + roughly(bare(g.height)) * 1.2 + roughly(bare(g.top_diameter))
    views = Views.on(b, b.number(round(tall) + 1))
    up, low = views.front_view.images, views.top_view.images
    views.set_out("K", b.number(0), g.room, b.number(0))
    level_circle(b, views, "K", g.grown("bottom_diameter"), g.lower, "base")
    views.set_out("Q", g.offset, g.room, g.height)
    turned = _upper_circle(b, g, views)
    b.caution("Number both circles the same way round and from the same side, or the body comes out twisted.")
    for name in (*g.lower, *g.upper):
        views.know(name)
    stations = g.stations
    _line_in_views(b, g, views)
    lines = lines_between(stations)
    diagram = Diagram(b, low, lambda high: span(up[high], views.ground), _alike(g, lines))
    diagram.find(lines, _level(g), stations)
    begun = len(b.steps)

    def rim(p: str, q: str) -> Any:
        return span(low[p], low[q]) if p in g.lower else span(turned[p], turned[q])

    with b.block("pattern"):
        lows, highs = lay_out(b, stations, diagram.__getitem__, rim)
        say_divisions(b, g.grown("bottom_diameter"), g.divisions)
        body = {name: b.solid_point(name) for each in stations for name in each}
        strip = Strip(stations, lows, highs, body, faired(b), faired(b))
        lengths = [plane.distance(p, q) for p, q in zip(lows, highs, strict=True)][:-1]
        order = g.round_from_seam(g.divisions)
        say_seam(b, g, [lengths[order.index(k)] for k in range(g.divisions)], "generator")
        finish(b, g, strip)
    discs(b, views, [] if g.ends == "none" else [("K", g.lower[0])])
    if g.ends == "both":
        _upper_disc(b, g, turned)
    wide = [plane.distance(low["K"], low[g.lower[0]]) * 2, plane.distance(turned["Q"], turned[g.upper[0]]) * 2]
    measure(b, strip, *ends_of(g.ends, disc(wide[0]), disc(wide[1])), begun, views)
    b.find("worst_gap", _worst_gap(g, b.number))
    flat = [plane.distance(low[p], low[q]) for p, q in stations[:-1]]
    b.misread(height_forgotten.name, lambda: {"longest": greatest(flat)})
    (one, _), (_, other) = stations[:2]
    across = distance3(b.solid_point(one), b.solid_point(other))
    b.misread(other_diagonal.name, lambda: {"seam_length": across})
    n = g.divisions
    by_number = [lengths[order.index(k)] for k in range(n)]
    b.check("generators on both sides of the axis are equally long", by_number[1] - by_number[n - 1])


def _upper_circle(b: Board, g: RoundToRound, views: Views) -> dict[str, Point]:
    """The upper circle: seen on edge in the front view and turned into the sheet there, divided, and carried back; from
    there down to the top view, as far before and behind the axis as the turned circle shows. Level it is true there."""
    up, low, n = views.front_view, views.top_view, g.divisions
    if not g.is_tilted:
        level_circle(b, views, "Q", g.grown("top_diameter"), g.upper, "upper end")
        return {name: low.images[name] for name in (*g.upper, "Q")}
    middle = up.images["Q"]
    level = b.level_line(middle, "level of the upper end")
    edge = b.protract(level, middle, g.tilt, "upper end on edge", why="its tilt")
    circle = b.arc(middle, g.grown("top_diameter") / 2, name="upper end turned", whole=True, why="turned into the sheet")
    marks = b.divide_circle(circle, n, g.tilt, numbered("d", n), why="from its right end on")
    axis = b.level_line(low.images["Q"], "axis from above")
    half = n // 2
    for k in range(half + 1):
        name, twin = g.upper[k], g.upper[(n - k) % n]
        if k in (0, half):
            up.images[name] = b.mark_point(marks[k].named(up.label(name)))
        else:
            up.images[name] = b.square_from(edge, marks[k], up.label(name), why="carried back onto the edge")
            up.images[twin] = b.mark_point(up.images[name].named(up.label(twin)))
    for k in range(half + 1):
        name, twin = g.upper[k], g.upper[(n - k) % n]
        if k in (0, half):
            views.project(name, up, low, axis)
            continue
        foot = views.projected(up.images[name], (up, low), axis, f"foot of {low.label(name)}")
        upright = b.upright_line(foot, f"projector of {up.label(name)}", pen=Pen.PROJECTOR)
        away = span(marks[k], edge)
        low.images[name] = b.lay_off(upright, foot, away, low.label(name), why="as far behind as the turned circle shows")
        low.images[twin] = b.lay_off(upright, foot, away, low.label(twin), back=True, why="and as far before")
    return {name: marks[k] for k, name in enumerate(g.upper)} | {"Q": middle}


def _level(g: RoundToRound) -> Any:
    """Upper points that stand as high as each other."""
    n = g.divisions

    def level(high: str) -> str:
        if not g.is_tilted:
            return "upper end"
        k = g.upper.index(high)
        return g.upper[min(k, (n - k) % n)]

    return level


def _alike(g: RoundToRound, lines: list[Station]) -> Any:
    """What lies behind is as what lies in front."""
    n = g.divisions
    there = set(lines)

    def first(line: Station) -> Station:
        mirrored = tuple(row[(n - row.index(name)) % n] for row, name in ((g.lower, line[0]), (g.upper, line[1])))
        other = (mirrored[0], mirrored[1])
        both = [each for each in (line, other) if each in there]
        return min(both, key=lambda each: (g.lower.index(each[0]), g.upper.index(each[1])))

    return first


def _line_in_views(b: Board, g: RoundToRound, views: Views) -> None:
    up, low, half = views.front_view.images, views.top_view.images, g.divisions // 2
    edges = [
        (up[g.lower[0]], up[g.lower[half]]),
        (up[g.upper[0]], up[g.upper[half]]),
        (up[g.lower[0]], up[g.upper[0]]),
        (up[g.lower[half]], up[g.upper[half]]),
    ]
    b.line_in(*edges, why="the front view")
    b.line_in_arc(low["K"], low[g.lower[0]], low[g.lower[0]], name="lower rim from above")
    lines = [(low[p], low[q]) for p, q in zip(g.lower, g.upper, strict=True)]
    b.line_in(*lines, pen=Pen.CONSTRUCTION, why="the generators from above")
    if g.is_tilted:
        wide, tilt = roughly(bare(g.grown("top_diameter"))) / 2, math.radians(roughly(bare(g.tilt)))
        middle = low["Q"]
        through = [low[name] for name in g.upper]
        oval = Oval(roughly(middle.x), roughly(middle.y), wide, wide * math.cos(tilt), 90.0)
        b.fair_curve(lambda: oval, through, "upper rim from above", closed=True)
    else:
        b.line_in_arc(low["Q"], low[g.upper[0]], low[g.upper[0]], name="upper rim from above")
    views.reach(*low.values())
    show(b, g.lower, g.upper, list(zip(g.lower, g.upper, strict=True)))


def _upper_disc(b: Board, g: RoundToRound, turned: Mapping[str, Point]) -> None:
    with b.block("end 2"):
        centre = b.point("Q/1", b.number(0), b.number(0), why="the upper end, apart")
        along = b.level_line(centre, "diameter of end 2")
        rim = b.lay_off(along, centre, span(turned["Q"], turned[g.upper[0]]), "P1/1", why="half the diameter")
        b.line_in_arc(centre, rim, rim, name="end 2", why="an end", pen=Pen.CUT)


@slip("lengths taken from the top view, the height forgotten")
def height_forgotten(g: RoundToRound, number: Make) -> dict[str, Number]:
    space = _space(g)
    lines = [(space[low], space[high]) for low, high in g.stations[:-1]]
    return {"longest": max((hypot(q.x - p.x, q.front - p.front) for p, q in lines), key=roughly)}


@slip("a diagonal of the other way taken: a triangle flipped")
def other_diagonal(g: RoundToRound, number: Make) -> dict[str, Number]:
    """The generator beside it comes out as long as the diagonal."""
    space = _space(g)
    (low, _), (_, high) = g.stations[:2]
    return {"seam_length": distance3(space[low], space[high])}


def _dip(g: RoundToRound) -> Number:
    """How far the tilted circle reaches down below its middle, mm."""
    found: Number = g.grown("top_diameter") / 2 * absolute(sin_deg(g.tilt))
    return found


PROBLEM = Problem(
    id="developments/round-to-round",
    title="Circle to circle laid out flat",
    brief=(
        "Lay out flat a boot from a circle {bottom_diameter} across to one {top_diameter} across, its middle {height} up "
        "and {offset} to the right, tilted {tilt}, by {divisions} divisions; seam at generator {seam}, lap {lap} on "
        "{lap_on}, sheet {thickness} thick, ends laid out {ends}, inside {inside}."
    ),
    givens=RoundToRound,
    truth=truth,
    methods=(triangulation,),
    findings=FINDINGS,
    numerical=frozenset({"worst_gap"}),
    source="Triangulation; the surface that unrolls by the planes that touch both circles.",
    conditions=(
        even_divisions("bottom_diameter"),
        seam_is_there("generator", lambda g: g.divisions),
        thin_enough("bottom_diameter"),
        thin_enough("top_diameter"),
        Condition(
            "the upper end over the lower",
            lambda g: g.height * 49 / 50 - _dip(g),
            "a circle {top_diameter} across, tilted {tilt}, reaches down to the lower one: its middle is only {height} up",
            ("height", "tilt", "top_diameter"),
            lambda g: {"height": at_least(Fraction(roughly(_dip(g.bound_in(PLAIN)))) * 50 / 49, above=True)},
        ),
        lap_fits("a division of the lower rim", lambda g: pi_times(g.bottom_diameter) / g.divisions, "lower"),
        lap_fits("a division of the upper rim", lambda g: pi_times(g.top_diameter) / g.divisions, "upper"),
        lap_fits("the height", lambda g: g.height - _dip(g), "seam"),
    ),
    slips=(height_forgotten, other_diagonal),
    cautions=CAUTIONS,
    beforehand=neutral_line,
)
