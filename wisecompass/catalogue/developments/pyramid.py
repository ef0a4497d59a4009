"""A pyramid cut across, laid out by radial lines: its sides are stepped off round the apex with the true edge as radius, and
every cut point lies as far down its edge as the true edge shows it.

Truth: edges and cut points as distances in space; the angle of a side at the apex from its three edges.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import Any

from wisecompass.arithmetic import Number, asin_deg, cos_deg, hypot, root, roughly, sin_deg, tan_deg
from wisecompass.catalogue.developments.flat_cut import (
    FINDINGS,
    SHEET_WORDS,
    Neutral,
    conditions,
    measure,
    plan_of,
    rises,
    stations,
    true_ends,
    true_points,
    upper_ends,
    views,
    with_ends,
    worded,
)
from wisecompass.catalogue.developments.pattern import Strip, finish, flat_names, say_seam
from wisecompass.catalogue.developments.radial import grown, true_edge
from wisecompass.catalogue.developments.sheet import CAUTIONS, Sheet, lap_fits, neutral_line, thin_enough
from wisecompass.catalogue.solids.body import APEX, MIDDLE
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, angle, choice, count, length
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import bare, span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import distance3


@dataclass(frozen=True)
class _Sizes(Givens):
    sides: int = count("sides", "6", 3, 10)
    side: Number = length("side of the base", "26")
    height: Number = length("height of the whole pyramid", "72")
    cut: str = choice("cut or whole", "cut", "left whole")
    cut_angle: Number = angle("inclination of the cut to HP", "30", "0", "85")
    cut_height: Number = length("height at which the cut meets the axis", "41")
    turned: Number = angle("turn of the base about the axis", "0", "-180", "180")


@dataclass(frozen=True)
class Pyramid(Sheet, _Sizes):
    """A pyramid of sheet; its sizes are inside sizes."""


class Body(Neutral):
    """The pyramid on the neutral line: all its faces lie half the thickness outside, which makes it a larger one of the same
    shape on the same base."""

    @property
    def kind(self) -> str:
        return "pyramid"

    @cached_property
    def base(self) -> Any:
        return self._grown("side")

    @cached_property
    def height(self) -> Any:
        return self._grown("height")

    def _grown(self, name: str) -> Any:
        side, sides = bare(self.given.side), self.given.sides
        near = side / (2 * tan_deg((side * 0 + 180) / sides))
        return grown(self.given, name, near, ("/", "side", ("*", 2, ("tan", ("/", 180, sides)))))


def truth(given: Pyramid, number: Make) -> Truth:
    g = Body(given)
    uppers = upper_ends(g, plan_of(g))
    lines, order, points = stations(g, uppers), g.round_from_seam(g.sides), dict(true_points(g))
    edge = distance3(points[APEX], points["A"])
    apart = 2 * asin_deg(g.base / (2 * edge))
    down = [distance3(points[APEX], points[name]) for name in uppers]
    flat: dict[str, Any] = {f"{APEX}/flat": Point(number(0), number(0))}
    for k, (low, high) in enumerate(flat_names(lines)):
        way = apart * k - 90
        flat[low] = Point(edge * cos_deg(way), edge * sin_deg(way))
        flat[high] = Point(down[order[k]] * cos_deg(way), down[order[k]] * sin_deg(way))
    lengths = [edge - each for each in down]
    shares = [edge * edge - down[i] * down[j] for i, j in pairwise(order)]
    lateral = sum((each * sin_deg(apart) / 2 for each in shares), number(0))
    upper = [distance3(points[uppers[i]], points[uppers[j]]) for i, j in pairwise(order)] if not g.is_whole else []
    extra, area, outline = true_ends(g, lines, points | flat)
    seam = lengths[g.seam - 1]
    return Truth(
        points=points | flat | extra,
        findings={
            "slant_edge": edge,
            "sector_angle": apart * g.sides,
            "lateral_area": lateral,
            "area": lateral + area,
            "seam_length": seam,
            "edge_lengths": tuple(lengths[k] for k in order[:-1]),
            "perimeter": sum(upper, g.base * g.sides) + seam * 2 + outline,
        },
    )


@method("radial lines", Exactness.EXACT)
def radial_lines(b: Board, given: Pyramid) -> None:
    g = Body(given)
    d = views(b, g)
    uppers = upper_ends(g, d.plan)
    lines = stations(g, uppers)
    names, low = flat_names(lines), d.one.low.images
    edge = true_edge(d, g, uppers, lines[0][0])
    begun = len(b.steps)
    with b.block("pattern"):
        apex = b.point(f"{APEX}/flat", b.number(0), b.number(0), why="the apex begins the pattern")
        seam = b.upright_line(apex, "seam")
        start = b.lay_off(seam, apex, edge.length, names[0][0], back=True, why="the true edge")
        arc = b.arc(apex, span(apex, start), name="arc of the base", why="all edges are alike")
        side = span(low[lines[0][0]], low[lines[1][0]])
        marks = [name for name, _ in names[1:]]
        feet = [start, *b.step_off(arc, start, side, marks, why="the sides, true in the top view")]
        b.caution("Step off the sides of the base as chords: along the arc they would come out too long.")
        rays = [Line(apex, seam.dx * -1, seam.dy * -1, seam.name), *(b.line(apex, foot) for foot in feet[1:])]
        tops = [apex] * len(feet)
        if not g.is_whole:
            tops = []
            for k, (ray, (_, top), (_, name)) in enumerate(zip(rays, lines, names, strict=True)):
                ray = seam if k == 0 else ray
                tops.append(b.lay_off(ray, apex, edge.down_to(top), name, back=k == 0, why="as far down the true edge"))
        strip = Strip(lines, feet, tops, {name: b.solid_point(name) for each in lines for name in each})
        lengths = [plane.distance(p, q) for p, q in zip(feet, tops, strict=True)][:-1]
        by_letter = dict(zip(g.round_from_seam(g.sides)[:-1], lengths, strict=True))
        say_seam(b, g, [by_letter[k] for k in range(g.sides)], "edge")
    net = with_ends(d, g, strip)
    with b.block("pattern"):
        finish(b, g, strip, net)
    measure(b, strip, net, begun, (d.one.up.images, d.one.low.images))
    b.find("slant_edge", plane.distance(apex, start))
    turned = [plane.angle_at(apex, p, q) for p, q in pairwise(feet)]
    b.find("sector_angle", sum(turned[1:], turned[0]))
    ends, up = [low[lines[k][0]] for k in (0, 1)], d.one.up.images
    slant = hypot(plane.distance(low[MIDDLE], plane.midpoint(ends[0], ends[1])), up[d.sheet.top].y - up[MIDDLE].y)
    b.misread(middle_of_a_side.name, lambda: {"slant_edge": slant})
    stepped = asin_deg(plane.distance(*ends) / (2 * slant)) * 2 * g.sides
    b.misread(slant_height_for_edge.name, lambda: {"sector_angle": stepped})


@slip("an edge taken from the front view as if every view showed it true")
def middle_of_a_side(g: Pyramid, number: Make) -> dict[str, Number]:
    """The middle of a side stands nearer to the axis than its corners: the line to it is shorter than an edge."""
    body = Body(g)
    return {"slant_edge": hypot(bare(body.base) / (2 * tan_deg(number(180) / g.sides)), bare(body.height))}


@slip("the base stepped off with the slant height as radius")
def slant_height_for_edge(g: Pyramid, number: Make) -> dict[str, Number]:
    slant = hypot(g.side / (2 * tan_deg(number(180) / g.sides)), g.height)
    return {"sector_angle": 2 * asin_deg(g.side / (2 * slant)) * g.sides}


BODY = "a pyramid of {sides} sides of {side}, {height} high, turned {turned} about its axis"


def _cut_edge(given: Pyramid) -> Number:
    """The shortest edge of the cut, mm; of a pyramid that is left whole its side."""
    g = Body(given)
    if g.is_whole:
        side: Number = g.base + 0
        return side
    half_angle = (g.base * 0 + 180) / g.sides
    edge = hypot(g.base / (2 * sin_deg(half_angle)), g.height)
    left = [(g.height - rise) / g.height * edge for rise in rises(g)]  # from the apex down to the cut
    turn = 1 - g.base * g.base / (2 * edge * edge)
    squares = [p * p + q * q - p * q * 2 * turn for p, q in pairwise([*left, left[0]])]
    return root(min(squares, key=roughly))


PROBLEM = Problem(
    id="developments/pyramid",
    title="Pyramid laid out flat",
    brief=f"Lay out flat {BODY}, {{cut}} at {{cut_angle}} to HP, {{cut_height}} up the axis; {SHEET_WORDS}",
    worded=worded(BODY),
    givens=Pyramid,
    truth=truth,
    methods=(radial_lines,),
    findings={"slant_edge": Kind.LENGTH, "sector_angle": Kind.ANGLE} | FINDINGS,
    source="Radial lines: the true edge by turning about the axis (Monge, Géométrie descriptive).",
    conditions=(
        *conditions("edge", Body, strictly=True),
        lap_fits("the side", lambda g: g.side, "lower"),
        lap_fits("an edge of the cut", _cut_edge, "upper"),
        thin_enough("side", rolled=False),
    ),
    slips=(middle_of_a_side, slant_height_for_edge),
    cautions=CAUTIONS,
    beforehand=neutral_line,
)
