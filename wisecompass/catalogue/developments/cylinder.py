"""A cylinder cut across, laid out by parallel lines: the girth is reckoned and then divided, each generator stands on it as
long as the front view shows it. Its points are exact; between them the rim is faired.

Truth: the height of the plane over each point of the circle; areas by the cylinder cut by a plane, the rim by its ellipse.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, cos_deg, pi_times, sin_deg
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
from wisecompass.catalogue.developments.round_cut import (
    FINDINGS,
    Round,
    even_divisions,
    lay_ends,
    measure,
    rim_laps,
    show_folding,
    true_findings,
    views,
)
from wisecompass.catalogue.developments.sheet import CAUTIONS, Sheet, neutral_line, thin_enough
from wisecompass.catalogue.solids.body import MIDDLE
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, angle, choice, count, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import bare, span
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3


@dataclass(frozen=True)
class _Sizes(Givens):
    diameter: Number = length("diameter", "48")
    height: Number = length("height", "86")
    cut: str = choice("cut or whole", "cut", "left whole")
    cut_angle: Number = angle("inclination of the cut to HP", "34", "0", "85")
    cut_height: Number = length("height at which the cut meets the axis", "49")
    divisions: int = count("divisions", "12", 4, 48)


@dataclass(frozen=True)
class Cylinder(Sheet, _Sizes):
    """A pipe of sheet; its sizes are inside sizes."""


class Body(Round):
    """The pipe on the neutral line, in the middle of the sheet."""

    @property
    def kind(self) -> str:
        return "cylinder"

    @property
    def base(self) -> Any:
        return self.given.diameter + self.given.thickness if self.given.has_thickness else self.given.diameter


def truth(given: Cylinder, number: Make) -> Truth:
    g = Body(given)
    heights, points = rises(g), true_points(g)
    order = given.round_from_seam(g.corners)
    step = pi_times(g.base) / g.corners
    flat: dict[str, Point | Point3] = {}
    for k, (low, high) in enumerate(flat_names(stations(g, upper_ends(g, plan_of(g))))):
        flat[low], flat[high] = Point(step * k, number(0)), Point(step * k, heights[order[k]])
    return Truth(points=points | flat, findings=true_findings(g, heights))


@method("parallel lines", Exactness.EXACT_POINTS)
def parallel_lines(b: Board, given: Cylinder) -> None:
    g = Body(given)
    d = views(b, g)
    lines = stations(g, upper_ends(g, d.plan))
    names, up = flat_names(lines), d.one.up.images
    begun = len(b.steps)
    with b.block("pattern"):
        start = b.point(names[0][0], b.number(0), b.number(0), why="the seam begins the pattern")
        along = b.level_line(start, "stretch-out line")
        girth = b.unless(three_diameters.name, reckoned_pi(g.base), lambda: bare(g.base) * 3)
        chord = plane.distance(*(d.one.low.images[bottom] for bottom, _ in lines[:2]))
        girth = b.unless(chords.name, girth, lambda: chord * g.corners)
        end = b.lay_off(along, start, girth, names[-1][0], why="the girth, reckoned")
        b.caution("Reckon the girth and then divide it: chords stepped off round the circle come out short.")
        between = [name for name, _ in names[1:-1]]
        feet = [start, *b.divide(start, end, g.corners, between, why="as many parts as the circle has"), end]
        generators = [b.upright_line(foot, f"generator at {foot.name}") for foot in feet]
        tops, taken = [], b.unless(one_on.name, lines, lambda: [*lines[1:], lines[1]])
        for line, foot, (bottom, top), (_, name) in zip(generators, feet, taken, names, strict=True):
            tops.append(b.lay_off(line, foot, span(up[bottom], up[top]), name, why="true in the front view"))
        b.plot(*(feet if g.is_whole else tops))
        body = {name: b.solid_point(name) for each in lines for name in each}
        fair = None if g.is_whole else _faired(b, g)
        strip = Strip(lines, feet, tops, body, None, fair, (0, 1) if g.is_whole else (0,))
        say_seam(b, given, [plane.distance(up[low], up[high]) for low, high in _numbered(lines)], "generator")
        finish(b, given, strip)
    lay_ends(d, g)
    girth = plane.distance(start, end)
    lengths = [plane.distance(p, q) for p, q in zip(feet, tops, strict=True)][:-1]
    measure(d, g, strip, girth, girth * sum(lengths[1:], lengths[0]) / g.corners)
    on_axis = d.one.up.images[d.sheet.top] if g.is_whole else d.trace.at
    middle = plane.distance(d.one.up.images[MIDDLE], on_axis)
    b.check(
        "generators across from each other are as long as twice the axis", lengths[0] + lengths[g.corners // 2] - middle * 2
    )
    b.find_if_asked("refold_gap", lambda: rolled_gap(strip, _roll(b, g, strip)))
    show_folding(d, strip, begun)


def _numbered(lines: Sequence[tuple[str, str]]) -> list[tuple[str, str]]:
    return sorted(lines[:-1], key=lambda each: int(each[0]))


def _roll(b: Board, g: Body, strip: Strip) -> Callable[[int, Point], Point3]:
    """Rolled up the pattern's length is turned about the axis, from the seam on."""
    axis = b.solid_point(MIDDLE)
    radius = plane.distance(strip.lows[0], strip.lows[-1]) / pi_times(b.number(2))
    first = b.number(360) * (g.seam - 1) / g.corners
    way = -1 if g.inside == "up" else 1

    def roll(_: int, p: Point) -> Point3:
        turned = first + p.x * way * 180 / pi_times(radius)
        return Point3(axis.x + radius * cos_deg(turned), axis.front - radius * sin_deg(turned), axis.above + p.y)

    return roll


def _faired(b: Board, g: Body) -> Fair:
    """The rim: a wave over the girth."""

    def fair(through: Sequence[Point], title: str, pen: Pen) -> None:
        def curve() -> list[tuple[Parametric, Pen]]:
            h = g.bound_in(PLAIN)
            radius, level = float(h.base) / 2, float(h.cut_height)
            slope = math.tan(math.radians(float(h.cut_angle)))
            first = math.tau * (h.seam - 1) / h.corners
            way = -1 if h.inside == "up" else 1

            def place(t: float) -> tuple[float, float]:
                return radius * t, level + radius * slope * math.cos(first + way * t)

            def velocity(t: float) -> tuple[float, float]:
                return radius, -radius * slope * math.sin(first + way * t) * way

            return [(Parametric(place, velocity, 0.0, math.tau, 8), pen)]

        b.fair_curve(curve, through, title, why="through the ends of the generators")

    return fair


@slip("three diameters taken for the girth")
def three_diameters(g: Cylinder, number: Make) -> dict[str, Number]:
    return {"girth": Body(g).base * 3}


@slip("chords stepped off round the circle instead of the girth reckoned")
def chords(g: Cylinder, number: Make) -> dict[str, Number]:
    return {"girth": Body(g).base * sin_deg(number(180) / g.divisions) * g.divisions}


@slip("generators numbered one on in the pattern")
def one_on(g: Cylinder, number: Make) -> dict[str, Number]:
    return {"seam_length": rises(Body(g))[g.seam % g.divisions]}


BODY = "a cylinder {diameter} across and {height} high by {divisions} generators"

PROBLEM = Problem(
    id="developments/cylinder",
    title="Cylinder laid out flat",
    brief=f"Lay out flat {BODY}, {{cut}} at {{cut_angle}} to HP, {{cut_height}} up the axis; {SHEET_WORDS}",
    worded=worded(BODY),
    givens=Cylinder,
    truth=truth,
    methods=(parallel_lines,),
    findings=FINDINGS,
    source="Parallel lines: generators square on the stretched-out girth; the cut is a sine wave there.",
    conditions=(even_divisions(), *conditions("generator", Body, strictly=True), rim_laps(Body), thin_enough("diameter")),
    slips=(three_diameters, chords, one_on),
    cautions=CAUTIONS,
    beforehand=neutral_line,
)
