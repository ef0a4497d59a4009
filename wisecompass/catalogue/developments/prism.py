"""A prism cut across, laid out by parallel lines: its edges stand square on the line that its sides are stepped off along,
each as long as the front view shows it.

Truth: the height of the plane at each corner, which lies on a circle; areas as strips between two edges.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from wisecompass.arithmetic import Number, hypot, tan_deg
from wisecompass.catalogue.developments.flat_cut import (
    FINDINGS,
    SHEET_WORDS,
    SheetCut,
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
from wisecompass.catalogue.developments.rims import greatest, least
from wisecompass.catalogue.developments.sheet import CAUTIONS, lap_fits, neutral_line, thin_enough
from wisecompass.catalogue.solids.cuts import Cut
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import angle, choice, count, length
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Setting, bare, reckoned, span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class _Sizes(Cut):
    sides: int = count("sides", "6", 3, 10)
    side: Number = length("side of the base", "22")
    height: Number = length("height", "84")
    cut: str = choice("cut or whole", "cut", "left whole")
    cut_angle: Number = angle("inclination of the cut to HP", "28", "0", "85")
    cut_height: Number = length("height at which the cut meets the axis", "52")
    turned: Number = angle("turn of the base about the axis", "0", "-180", "180")


@dataclass(frozen=True)
class Prism(SheetCut, _Sizes):
    """A prism of sheet; its sizes are inside sizes."""

    @property
    def kind(self) -> str:
        return "prism"

    @property
    def base(self) -> Any:
        """The side on the neutral line, half the thickness outside: t · tan (180°/n) longer."""
        if not self.has_thickness:
            return self.side
        number = bare(self.side) + bare(self.thickness) * tan_deg((bare(self.side) * 0 + 180) / self.sides)
        if type(self.side) is not Setting:
            return number
        return reckoned(number, ("+", "side", ("*", "thickness", ("tan", ("/", 180, self.sides)))))


def truth(g: Prism, number: Make) -> Truth:
    p = plan_of(g)
    uppers, heights = upper_ends(g, p), rises(g)
    lines = stations(g, uppers)
    order = g.round_from_seam(g.sides)
    points: dict[str, Any] = dict(true_points(g))
    for k, (low, high) in enumerate(flat_names(lines)):
        points[low] = Point(g.base * k, number(0), low)
        points[high] = Point(g.base * k, heights[order[k]], high)
    lateral = sum((g.base * (heights[i] + heights[j]) / 2 for i, j in pairwise(order)), number(0))
    sloped = sum((hypot(g.base, heights[j] - heights[i]) for i, j in pairwise(order)), number(0))
    extra, area, outline = true_ends(g, lines, points)
    return Truth(
        points=points | extra,
        findings={
            "longest_edge": greatest(heights),
            "shortest_edge": least(heights),
            "lateral_area": lateral,
            "area": lateral + area,
            "girth": g.base * g.sides,
            "seam_length": heights[g.seam - 1],
            "edge_lengths": tuple(heights[k] for k in order[:-1]),
            "perimeter": g.base * g.sides + sloped + heights[g.seam - 1] * 2 + outline,
        },
    )


@method("parallel lines", Exactness.EXACT)
def parallel_lines(b: Board, g: Prism) -> None:
    d = views(b, g)
    lines = stations(g, upper_ends(g, d.plan))
    names = flat_names(lines)
    begun, up, low = len(b.steps), d.one.up.images, d.one.low.images
    with b.block("pattern"):
        start = b.point(names[0][0], b.number(0), b.number(0), why="the seam begins the pattern")
        along = b.level_line(start, "stretch-out line")
        side = span(low[lines[0][0]], low[lines[1][0]])
        feet = [
            start,
            *b.step_along(along, start, side, [name for name, _ in names[1:]], why="the sides, true in the top view"),
        ]
        edges = [b.upright_line(foot, f"edge at {foot.name}") for foot in feet]
        tops, taken = [], b.unless(one_edge_on.name, lines, lambda: [*lines[1:], lines[1]])
        for edge, foot, (bottom, top), (_, name) in zip(edges, feet, taken, names, strict=True):
            tops.append(b.lay_off(edge, foot, span(up[bottom], up[top]), name, why="true in the front view"))
        b.caution("Heights are taken edge by edge from the front view: there they are true.")
        strip = Strip(lines, feet, tops, {name: b.solid_point(name) for each in lines for name in each})
        lengths = [plane.distance(up[low_end], up[top]) for low_end, top in sorted(lines[:-1])]
        say_seam(b, g, lengths, "edge")
    net = with_ends(d, g, strip)
    with b.block("pattern"):
        finish(b, g, strip, net)
    measure(b, strip, net, begun, (d.one.up.images, d.one.low.images))
    b.find("longest_edge", greatest(lengths))
    b.find("shortest_edge", least(lengths))
    b.find("girth", plane.distance(feet[0], feet[-1]))
    b.misread(side_left_out.name, lambda: {"girth": plane.distance(feet[0], feet[-2])})


@slip("generators taken from the top view's side: the seam forgotten and one side left out")
def side_left_out(g: Prism, number: Make) -> dict[str, Number]:
    return {"girth": g.base * (g.sides - 1)}


@slip("cut heights numbered one edge on")
def one_edge_on(g: Prism, number: Make) -> dict[str, Number]:
    return {"seam_length": rises(g)[g.seam % g.sides]}


BODY = "a prism of {sides} sides of {side}, {height} high, turned {turned} about its axis"

PROBLEM = Problem(
    id="developments/prism",
    title="Prism laid out flat",
    brief=BODY.join(("Lay out flat ", f", {{cut}} at {{cut_angle}} to HP, {{cut_height}} up the axis; {SHEET_WORDS}")),
    worded=worded(BODY),
    givens=Prism,
    truth=truth,
    methods=(parallel_lines,),
    findings={"longest_edge": Kind.LENGTH, "shortest_edge": Kind.LENGTH, "girth": Kind.LENGTH} | FINDINGS,
    source="Parallel lines: edges square on the stretched-out girth (Monge, Géométrie descriptive).",
    conditions=(
        *conditions("edge"),
        lap_fits("the side", lambda g: g.side, "lower", "upper"),
        thin_enough("side", rolled=False),
    ),
    slips=(side_left_out, one_edge_on),
    cautions=CAUTIONS,
    beforehand=neutral_line,
)
