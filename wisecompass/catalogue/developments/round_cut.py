"""A cut cylinder or cone and its pattern: generators numbered round the base, its views, what its patterns report."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from wisecompass.arithmetic import Number, elliptic_e, pi_times, root, roughly
from wisecompass.catalogue.developments.flat_cut import Neutral, plan_of, rises
from wisecompass.catalogue.developments.pattern import Net, Strip, show_net
from wisecompass.catalogue.developments.sheet import lap_fits, roughly_zero
from wisecompass.catalogue.solids.body import APEX, MIDDLE, lateral_area
from wisecompass.catalogue.solids.cut_conics import conic, findings
from wisecompass.catalogue.solids.cut_lining import line_in_round, show_in_space
from wisecompass.catalogue.solids.cut_views import Drawn, draw_cut, true_shape
from wisecompass.catalogue.solids.cuts import Cut
from wisecompass.catalogue.solids.positions import know, stand
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Value
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import panels, plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Point

FINDINGS = {
    "girth": Kind.LENGTH,
    "longest": Kind.LENGTH,
    "shortest": Kind.LENGTH,
    "lateral_area": Kind.AREA,
    "area": Kind.AREA,
    "perimeter": Kind.LENGTH,
    "seam_length": Kind.LENGTH,
    "generator_lengths": Kind.LENGTH,
    "refold_gap": Kind.LENGTH,
}


class Round(Neutral):
    """A cylinder or cone on the neutral line, with as many generators as its base has divisions. Generator 1 lies to the
    right, the others follow anticlockwise as seen from above."""

    @property
    def corners(self) -> int:
        found: int = self.divisions
        return found

    @cached_property
    def base_letters(self) -> Sequence[str]:
        return tuple(str(k) for k in range(1, self.corners + 1))

    @cached_property
    def end_letters(self) -> Sequence[str]:
        return APEX if self.is_pointed else tuple(f"T{k}" for k in range(1, self.corners + 1))

    @property
    def turned(self) -> Number:
        return roughly_zero(self)

    @property
    def sides(self) -> int:
        return self.corners

    def cut_name(self, edge: tuple[str, ...], number: int) -> str:
        return f"P{edge[0]}"


def views(b: Board, g: Round) -> Drawn:
    """Front and top view of what is left."""
    cut: Cut = g
    if g.is_whole:
        sheet, one = stand(b, cut)
        know(sheet, one)
        d = Drawn(sheet, one, plan_of(g), sheet.axis)
    else:
        d = draw_cut(b, cut, minor=False)
    show_in_space(d)
    line_in_round(d)
    d.sheet.views.letter_fold()
    return d


def true_findings(g: Round, heights: list[Number]) -> dict[str, Value]:
    """What is asked for of every one: areas and the length of the cut by the conic that the plane makes; ``heights`` are the
    lengths of the generators. Generators lie symmetrically, so the first is the longest and the one across the shortest."""
    girth = pi_times(g.base)
    order = g.given.round_from_seam(g.corners)
    rim, lateral, ends = girth * 0, None, girth * 0
    base = pi_times(g.base * g.base) / 4
    if g.is_whole:
        lateral = lateral_area(g, pi_times)
        rim = girth if g.is_straight else rim
        top = base if g.is_straight else base * 0
    else:
        cut: Any = findings(conic(g, plan_of(g)))
        rim, top = cut["section_perimeter"], cut["section_area"]
        lateral = cut["surface_below"] - base
    outline = girth + rim
    if g.ends != "none":
        ends, outline = ends + base, outline + girth
    if g.ends == "both":
        ends, outline = ends + top, outline + rim
    seam = heights[g.seam - 1]
    return {
        "girth": girth,
        "longest": heights[0],
        "shortest": heights[g.corners // 2],
        "lateral_area": lateral,
        "area": lateral + ends,
        "perimeter": outline + seam * 2,
        "seam_length": seam,
        "generator_lengths": tuple(heights[k] for k in order[:-1]),
    }


@dataclass(frozen=True)
class Cutting:
    """The curve of the cut as measured: its axes, and how it is inclined."""

    long: Number
    wide: Number
    cosine: Number

    @property
    def length(self) -> Number:
        """Length of the ellipse, mm."""
        return self.long * 2 * elliptic_e(1 - self.wide * self.wide / (self.long * self.long))

    @property
    def area(self) -> Number:
        return pi_times(self.long * self.wide) / 4


def measured_cut(d: Drawn, g: Round) -> Cutting | None:
    """The ellipse by the front view, which shows its long axis, and by one pair of its points in the top view, which shows
    how wide it is there."""
    if g.is_whole:
        return None
    up, low = d.one.up.images, d.one.low.images
    ends = up["P1"], up[f"P{g.corners // 2 + 1}"]
    long = plane.distance(*ends)
    cosine = (ends[0].x - ends[1].x) / long
    share = (up["P2"].x * 2 - ends[0].x - ends[1].x) / (ends[0].x - ends[1].x)
    wide = plane.distance(low["P2"], low[f"P{g.corners}"]) / root(1 - share * share)
    return Cutting(long, wide, cosine)


def lay_ends(d: Drawn, g: Round) -> None:
    """The ends that are wanted: the base as a circle apart, the cut end where the auxiliary view shows its true shape."""
    b, low = d.sheet.b, d.one.low.images
    if g.ends == "none":
        return
    with b.block("base"):
        middle = b.point("K/1", b.number(0), b.number(0), why="the base, apart")
        along = b.level_line(middle, "diameter of the base")
        rim = b.lay_off(along, middle, span(low[MIDDLE], low["1"]), "1/1", why="half the diameter")
        b.line_in_arc(middle, rim, rim, name="base", why="the base", pen=Pen.CUT)
    if g.ends == "both" and g.is_straight and g.is_whole:
        b.step_reason("The other end is as large as the base: cut a second disc")
    elif g.ends == "both" and not g.is_whole:
        shape = true_shape(d)
        names = list(d.plan.section)
        b.fair_curve(_ellipse(d, g, shape.images), [shape.images[n] for n in names], "cut end", closed=True, why="to be cut")


def _ellipse(d: Drawn, g: Round, images: dict[str, Point]) -> Callable[[], list[tuple[Parametric, Pen]]]:
    """The true ellipse of the cut end, through the ends of its long axis."""

    def curve() -> list[tuple[Parametric, Pen]]:
        cut = measured_cut(d, g)
        assert cut is not None
        p, q = images["P1"], images[f"P{g.corners // 2 + 1}"]
        cx, cy = (float(p.x) + float(q.x)) / 2, (float(p.y) + float(q.y)) / 2
        ux, uy = (float(p.x) - float(q.x)) / 2, (float(p.y) - float(q.y)) / 2
        share = float(cut.wide) / float(cut.long)

        def place(t: float) -> tuple[float, float]:
            c, s = math.cos(t), math.sin(t) * share
            return cx + ux * c - uy * s, cy + uy * c + ux * s

        def velocity(t: float) -> tuple[float, float]:
            c, s = -math.sin(t), math.cos(t) * share
            return ux * c - uy * s, uy * c + ux * s

        return [(Parametric(place, velocity, 0.0, math.tau), Pen.CUT)]

    return curve


def measure(d: Drawn, g: Round, strip: Strip, girth: Number, lateral: Number) -> None:
    """What is measured on the pattern of every one."""
    b, cut = d.sheet.b, measured_cut(d, g)
    lengths = tuple(plane.distance(p, q) for p, q in zip(strip.lows, strip.highs, strict=True))[:-1]
    order = g.given.round_from_seam(g.corners)
    by_number = dict(zip(order, lengths, strict=False))
    base = girth * girth / pi_times(girth * 0 + 4)
    rim = cut.length if cut is not None else girth if g.is_straight else girth * 0
    top = cut.area if cut is not None else base if g.is_straight else base * 0
    ends = {"none": base * 0, "base": base, "both": base + top}[g.ends]
    more = {"none": base * 0, "base": girth, "both": girth + rim}[g.ends]
    b.find("girth", girth)
    b.find("longest", by_number[0])
    b.find("shortest", by_number[g.corners // 2])
    b.find("lateral_area", lateral)
    b.find("area", lateral + ends)
    b.find("perimeter", girth + rim + lengths[0] * 2 + more)
    b.find("seam_length", lengths[0])
    b.find("generator_lengths", lengths)


def show_folding(d: Drawn, strip: Strip, begun: int) -> None:
    """The pattern rolled up at the desk, generator by generator."""
    net = Net(panels.strip(strip.names), strip.flat, strip.on_body)
    show_net(d.sheet.b, net, begun, (d.one.up.images, d.one.low.images))


def even_divisions(size: str = "diameter") -> Condition:
    """``size`` is any of the given lengths."""
    return Condition(
        "an even number of divisions",
        lambda g: getattr(g, size) * 0 - g.divisions % 2,
        "{divisions} divisions are not even: generators lie in pairs across from each other",
        ("divisions",),
        lambda g: {"divisions": str(g.divisions + 1)},
    )


def rim_laps(body: Callable[[Any], Round]) -> Condition:
    """A lap round the base goes from generator to generator."""
    return lap_fits("a division of the rim", lambda g: pi_times(body(g).base) / g.divisions, "lower")


def rim_of_cut(body: Callable[[Any], Round]) -> Condition:
    """Round the cut of a cone its divisions are shorter, the shortest where it is highest."""

    def division(g: Any) -> Number:
        solid = body(g)
        share = 1 if solid.is_whole else (solid.height - max(rises(solid), key=roughly)) / solid.height
        return pi_times(solid.base) * share / solid.corners

    return lap_fits("a division of the cut", division, "upper")
