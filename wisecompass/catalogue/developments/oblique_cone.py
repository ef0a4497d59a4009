"""An oblique cone, whole or cut level, laid out by triangulation: generators true from a diagram, between them the base by
its chords or by shares of the girth.

Truth: the surface itself unrolled; the angle between two generators is an integral along the base between them.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from typing import Any

from wisecompass.arithmetic import (
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
from wisecompass.catalogue.developments.flat_cut import SHEET_WORDS
from wisecompass.catalogue.developments.pattern import Net, Station, Strip, finish, flat_names, fold, say_seam
from wisecompass.catalogue.developments.rims import (
    discs,
    girth_closes,
    greatest,
    least,
    level_circle,
    numbered,
    places,
    sagging,
    say_divisions,
)
from wisecompass.catalogue.developments.round_cut import FINDINGS, even_divisions
from wisecompass.catalogue.developments.sheet import CAUTIONS, Sheet, lap_fits, neutral_line, seam_is_there, thin_enough
from wisecompass.catalogue.developments.transition import faired
from wisecompass.catalogue.developments.triangles import Diagram, lay_out
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_most, count, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Setting, bare, span
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.drafting.step import Kind
from wisecompass.drafting.views import Views
from wisecompass.geometry import panels, plane
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3, distance3

APEX = "S"


@dataclass(frozen=True)
class _Sizes(Givens):
    diameter: Number = length("diameter of the base", "72")
    height: Number = length("height of the apex", "66")
    offset: Number = givens.offset("offset of the apex to the right", "31")
    top_height: Number = givens.offset("height of the level cut, 0 if it is whole", "0", least=Fraction(0))
    divisions: int = count("divisions", "12", 4, 48)


@dataclass(frozen=True)
class ObliqueCone(Sheet, _Sizes):
    """An oblique cone of sheet; its rims lie on the neutral line, in their own planes."""

    @property
    def base(self) -> Any:
        return self.diameter + self.thickness if self.has_thickness else self.diameter

    @property
    def is_whole(self) -> bool:
        return is_zero(bare(self.top_height))

    @property
    def room(self) -> Any:
        return self.base * 3 / 4

    @property
    def names(self) -> list[str]:
        return numbered("", self.divisions)

    @property
    def stations(self) -> list[Station]:
        """Generators to the apex, from the seam round to the seam."""
        return [(self.names[k], APEX) for k in self.round_from_seam(self.divisions)]

    @property
    def share_left(self) -> Any:
        """Which share of a generator is cut off at the apex."""
        return (self.height - self.top_height) / self.height


def _from_apex(g: ObliqueCone) -> Callable[[Any, Any], tuple[Any, Any, Any]]:
    """A point of the base seen from the apex, by the cosine and sine of its direction."""
    radius, away, high = g.base / 2, g.offset, g.height

    def at(c: Any, s: Any) -> tuple[Any, Any, Any]:
        return radius * c - away, -radius * s, -high

    return at


def _opening(g: ObliqueCone, first: Number, last: Number) -> Number:
    """The angle at the apex between two generators in the flat, degrees: |P × P′| / |P|² integrated along the base."""
    radius, at = g.base / 2, _from_apex(g)

    def grown(c: Any, s: Any, root: Callable[[Any], Any]) -> Any:
        x, y, z = at(c, s)
        out = x * c - y * s
        return root(out * out + z * z) * radius / (x * x + y * y + z * z)

    return turning_integral(grown, first, last) * 180 / pi_times(radius * 0 + 1)


def _surface(g: ObliqueCone) -> Number:
    """Area of the whole surface, mm²: ½ |P × P′| integrated round the base."""
    radius, at = g.base / 2, _from_apex(g)

    def grown(c: Any, s: Any, root: Callable[[Any], Any]) -> Any:
        x, y, z = at(c, s)
        out = x * c - y * s
        return root(out * out + z * z) * radius

    zero = radius * 0
    return turning_integral(grown, zero, zero + 360) / 2


def truth(g: ObliqueCone, number: Make) -> Truth:
    zero, n = number(0), g.divisions
    centre = Point3(zero, g.room, zero, "K")
    apex = Point3(zero + g.offset, g.room, zero + g.height, APEX)
    points: dict[str, Point | Point3] = {"K": centre, APEX: apex}
    base = places(centre, g.base / 2, g.names)
    whole = [distance3(apex, base[name]) for name in g.names]
    share = zero if g.is_whole else g.share_left
    cut = {f"P{name}": apex + (p - apex).scaled(share) for name, p in base.items()}
    points |= base | ({} if g.is_whole else cut)
    order, way = g.round_from_seam(n), zero
    openings = [_opening(g, number(360) * k / n, number(360) * (k + 1) / n) for k in range((n + 1) // 2)]
    openings += reversed(openings)
    names = flat_names(drawn_stations(g))
    top = Point(zero, whole[order[0]], f"{APEX}/flat")
    if g.is_whole:
        points[f"{APEX}/flat"] = top
    for k, (low, high) in enumerate(names):
        length = whole[order[k]]
        c, s = cos_deg(way - 90), sin_deg(way - 90)
        points[low] = Point(length * c, top.y + length * s)
        if not g.is_whole:
            points[high] = Point(length * share * c, top.y + length * share * s)
        if k < n:
            way = way + openings[order[k + 1] if g.inside == "up" else order[k]]
    lengths = [each * (1 - share) for each in whole]
    girth, area = pi_times(g.base), _surface(g) * (1 - share * share)
    disc = pi_times(g.base * g.base) / 4
    ends = {"none": zero, "base": disc, "both": disc * (1 + share * share)}[g.ends]
    more = {"none": zero, "base": girth, "both": girth * (1 + share)}[g.ends]
    seam = lengths[g.seam - 1]
    return Truth(
        points=points,
        findings={
            "girth": girth,
            "longest": greatest([lengths[0], lengths[n // 2]]),
            "shortest": least([lengths[0], lengths[n // 2]]),
            "lateral_area": area,
            "area": area + ends,
            "perimeter": girth * (1 + share) + seam * 2 + more,
            "seam_length": seam,
            "generator_lengths": tuple(lengths[k] for k in order[:-1]),
            "worst_gap": _worst_gap(g, base, apex, centre),
        },
    )


def drawn_stations(g: ObliqueCone) -> list[Station]:
    """What is left of the generators, from the seam round to the seam."""
    return [(low, APEX if g.is_whole else f"P{low}") for low, _ in g.stations]


def _worst_gap(g: ObliqueCone, base: Mapping[str, Point3], apex: Point3, centre: Point3) -> Number:
    """How far the cone stands off the flat facets at most, mm: in the middle of an arc of its base."""
    names = g.names
    gaps = []
    for k in range(g.divisions // 2):  # what lies behind is as what lies in front
        first, second = names[k], names[k + 1]
        gaps.append(sagging([base[first], base[second], apex], centre, first, second, base))
    return greatest(gaps)


def _construct(b: Board, g: ObliqueCone, *, by_chords: bool) -> None:
    views = Views.on(b, b.number(round(roughly(bare(g.room)) + roughly(bare(g.base)) + roughly(bare(g.height)) * 1.1)))
    up, low = views.front_view, views.top_view
    views.set_out("K", b.number(0), g.room, b.number(0))
    level_circle(b, views, "K", g.base, g.names, "base")
    views.set_out(APEX, g.offset, g.room, g.height)
    for name in g.names:
        views.know(name)
    if not g.is_whole:
        _cut(b, g, views)
    _line_in_views(b, g, views)
    diagram = Diagram(b, low.images, lambda _: span(up.images[APEX], views.ground), lambda line: _mirrored(g, line))
    diagram.find(g.stations, lambda high: high)
    downs = {} if g.is_whole else _downs(b, g, views, diagram)
    begun = len(b.steps)
    with b.block("pattern"):
        step = reckoned_pi(g.base) / g.divisions
        lows, tips = lay_out(
            b, g.stations, diagram.__getitem__, lambda p, q: span(low.images[p], low.images[q]) if by_chords else step
        )
        if by_chords:
            say_divisions(b, g.base, g.divisions)
        stations, highs = drawn_stations(g), tips
        if not g.is_whole:
            names = flat_names(stations)
            highs = []
            for (name, _), foot, (_, flat) in zip(g.stations, lows, names, strict=True):
                ray = b.line(tips[0], foot)
                highs.append(b.lay_off(ray, tips[0], downs[_mirrored(g, (name, APEX))], flat, why="its length to the cut"))
        body = {name: b.solid_point(name) for each in stations for name in each}
        strip = Strip(stations, lows, highs, body, faired(b), None if g.is_whole else faired(b))
        lengths = [plane.distance(p, q) for p, q in zip(lows, highs, strict=True)][:-1]
        by_number = [lengths[g.round_from_seam(g.divisions).index(k)] for k in range(g.divisions)]
        say_seam(b, g, by_number, "generator")
        finish(b, g, strip)
    rims = [("K", "1")] if g.is_whole else [("K", "1"), ("Q", "P1")]
    discs(b, views, rims[: {"none": 0, "base": 1, "both": 2}[g.ends]])
    _measure(b, g, views, strip, by_number, begun)


def _cut(b: Board, g: ObliqueCone, views: Views) -> None:
    """The level cut: on every generator in the front view, and from there down."""
    up, low = views.front_view, views.top_view
    views.set_out("Q", g.offset * g.top_height / g.height, g.room, g.top_height)
    level = b.level_line(up.images["Q"], "level of the cut")
    n = g.divisions
    pairs = [(k, (n - k) % n) for k in range(n // 2 + 1)]
    fronts = {k: b.line(up.images[g.names[k]], up.images[APEX]) for k, _ in pairs}
    for k, twin in pairs:
        name = f"P{g.names[k]}"
        b.pencil()
        up.images[name] = b.meet(fronts[k], level, name=up.label(name))
        if twin != k:
            other = f"P{g.names[twin]}"
            up.images[other] = b.mark_point(up.images[name].named(up.label(other)))
    ways = [b.line(low.images[name], low.images[APEX]) for name in g.names]
    for name, way in zip(g.names, ways, strict=True):
        views.project(f"P{name}", up, low, way)
        views.know(f"P{name}")


def _mirrored(g: ObliqueCone, line: Station) -> Station:
    """Of two generators that lie alike on both sides of the axis the one behind."""
    k = g.names.index(line[0])
    return g.names[min(k, (g.divisions - k) % g.divisions)], line[1]


def _downs(b: Board, g: ObliqueCone, views: Views, diagram: Diagram) -> dict[Station, Setting]:
    """The true length from the apex down to the cut on every generator: the diagram cut at the same height."""
    found: dict[Station, Setting] = {}
    assert diagram.upright is not None
    with b.block("true lengths"):
        origin, top = diagram.upright.at, diagram.heights[APEX]
        up = views.front_view
        at = b.lay_off(diagram.upright, origin, span(up.images["Q"], views.ground), "Y2", why="the height of the cut")
        level = b.level_line(at, "level of the cut in the diagram")
        for line, slope in diagram.slopes.items():
            b.pencil()
            found[line] = span(top, b.meet(level, slope, name=f"{line[0]}P/down"))
    return found


def _line_in_views(b: Board, g: ObliqueCone, views: Views) -> None:
    """What is left: base, outermost generators and cut in the front view; both rims and the outline in the top view."""
    up, low, n = views.front_view.images, views.top_view.images, g.divisions
    right, left = g.names[0], g.names[n // 2]
    ends = {name: APEX if g.is_whole else f"P{name}" for name in g.names}
    edges = [(up[right], up[left]), (up[right], up[ends[right]]), (up[left], up[ends[left]])]
    if not g.is_whole:
        edges.append((up[ends[right]], up[ends[left]]))
    b.line_in(*edges, why="the front view")
    b.line_in_arc(low["K"], low[right], low[right], name="rim of the base")
    if not g.is_whole:
        b.line_in_arc(low["Q"], low[ends[right]], low[ends[right]], name="rim of the cut")
    b.line_in(
        *((low[name], low[ends[name]]) for name in g.names), pen=Pen.CONSTRUCTION, why="the generators in the top view"
    )
    views.reach(*low.values())
    for k, name in enumerate(g.names):
        after = g.names[(k + 1) % n]
        b.in_space(name, after)
        b.in_space(name, ends[name])
        if not g.is_whole:
            b.in_space(ends[name], ends[after])


def _measure(b: Board, g: ObliqueCone, views: Views, strip: Strip, by_number: list[Number], begun: int) -> None:
    n, low = g.divisions, views.top_view.images
    rims = [sum((plane.distance(p, q) for p, q in pairwise(row)), b.number(0)) for row in (strip.lows, strip.highs)]
    across = plane.distance(low["K"], low["1"]) * 2
    share = b.number(0) if g.is_whole else plane.distance(low["Q"], low["P1"]) * 2 / across
    disc = pi_times(across * across) / 4
    ends = {"none": b.number(0), "base": disc, "both": disc * (1 + share * share)}[g.ends]
    more = {"none": b.number(0), "base": rims[0], "both": rims[0] + rims[1]}[g.ends]

    lateral = absolute(plane.polygon_area(strip.outline))
    b.find("girth", rims[0])
    b.find("longest", greatest([by_number[0], by_number[n // 2]]))
    b.find("shortest", least([by_number[0], by_number[n // 2]]))
    left = [plane.distance(low[name], low[APEX]) * (1 - share) for name in ("1", str(n // 2 + 1))]
    b.misread(height_forgotten.name, lambda: {"longest": greatest(left), "shortest": least(left)})
    b.misread(right_cone.name, lambda: {"shortest": greatest([by_number[0], by_number[n // 2]])})
    b.find("lateral_area", lateral)
    b.find("area", lateral + ends)
    seam = plane.distance(strip.lows[0], strip.highs[0])
    b.find("perimeter", rims[0] + rims[1] + seam * 2 + more)
    b.find("seam_length", seam)
    b.find("generator_lengths", tuple(plane.distance(p, q) for p, q in zip(strip.lows, strip.highs, strict=True))[:-1])
    space = {name: b.solid_point(name) for name in (*g.names, APEX, "K")}
    b.find("worst_gap", _worst_gap(g, space, space[APEX], space["K"]))
    b.check("generators on both sides of the axis are equally long", by_number[1] - by_number[n - 1])
    fold(b, Net(panels.strip(strip.names), strip.flat, strip.on_body), begun, (views.front_view.images, low))


def _worth(found: Mapping[str, float]) -> str:
    return (
        f"the cone stands off the facets by up to {found['worst_gap']:.3f} mm; its girth comes out {found['girth']:.2f} mm; "
        f"folded the pattern misses by up to {found['refold_gap']:.3f} mm"
    )


@method("triangulation", Exactness.APPROXIMATE, worth=_worth)
def triangulation(b: Board, g: ObliqueCone) -> None:
    _construct(b, g, by_chords=True)


def _neighbours(g: ObliqueCone) -> list[tuple[Number, Number]]:
    """The lengths of every two generators that follow each other; what lies behind is as what lies in front."""
    at, zero = _from_apex(g), g.height * 0
    ways = [(zero + 360) * k / g.divisions for k in range(g.divisions // 2 + 1)]
    lengths = [hypot(hypot(x, y), z) for x, y, z in (at(cos_deg(way), sin_deg(way)) for way in ways)]
    return list(pairwise(lengths))


@method(
    "triangulation with the girth divided",
    Exactness.APPROXIMATE,
    girth_closes(lambda g: g.base, _neighbours),
    worth=_worth,
)
def girth_divided(b: Board, g: ObliqueCone) -> None:
    """Each step along the base is a share of the girth, reckoned, instead of a chord."""
    _construct(b, g, by_chords=False)


@slip("generators taken from the top view, the height forgotten")
def height_forgotten(g: ObliqueCone, number: Make) -> dict[str, Number]:
    left = number(1) if g.is_whole else g.top_height / g.height
    ends = absolute(g.base / 2 + g.offset) * left, absolute(g.base / 2 - g.offset) * left
    return {"longest": greatest(ends), "shortest": least(ends)}


@slip("unrolled as a right cone with the longest generator")
def right_cone(g: ObliqueCone, number: Make) -> dict[str, Number]:
    left = number(1) if g.is_whole else g.top_height / g.height
    longest = greatest([hypot(g.base / 2 + g.offset, g.height), hypot(g.base / 2 - g.offset, g.height)]) * left
    return {"shortest": longest}


PROBLEM = Problem(
    id="developments/oblique-cone",
    title="Oblique cone laid out flat",
    brief=(
        "Lay out flat an oblique cone {diameter} across at its base, its apex {height} high and {offset} to the right, cut "
        f"level {{top_height}} up, by {{divisions}} generators; {SHEET_WORDS}"
    ),
    givens=ObliqueCone,
    truth=truth,
    methods=(triangulation, girth_divided),
    findings=FINDINGS | {"worst_gap": Kind.LENGTH},
    source="Triangulation; the surface by the integral of |P × P′| / |P|² round the base.",
    conditions=(
        even_divisions(),
        seam_is_there("generator", lambda g: g.divisions),
        thin_enough("diameter"),
        Condition(
            "the cut below the apex",
            lambda g: g.height - g.top_height,
            "a level cut {top_height} up passes over the apex, which is {height} high",
            ("top_height", "height"),
            lambda g: {"top_height": at_most(g.height * 999 / 1000)},
            strict=True,
        ),
        lap_fits("a division of the rim", lambda g: pi_times(g.base) / g.divisions, "lower"),
        lap_fits(
            "a division of the cut",
            lambda g: pi_times(g.base) * (1 if g.is_whole else g.share_left) / g.divisions,
            "upper",
        ),
        lap_fits("the height left", lambda g: g.height if g.is_whole else g.top_height + 0, "seam"),
    ),
    slips=(height_forgotten, right_cone),
    cautions=CAUTIONS,
    beforehand=neutral_line,
)
