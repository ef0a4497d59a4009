"""Ogee between two parallel lines: two arcs that turn into each other on the chord between the ends."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import Number, atan2_deg
from wisecompass.catalogue.tangency.touching import level_start
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class Ogee(Givens):
    span: Number = givens.length("span", "64")
    rise: Number = givens.length("rise", "28")
    split: Number = givens.ratio("share of the first arc", "1/2", Fraction(1, 100), Fraction(99, 100))


def truth(g: Ogee, number: Make) -> Truth:
    """An arc that leaves a line with chord c at the angle of the chord has the radius c / (2 sin angle)."""
    zero, squared = number(0), g.span * g.span + g.rise * g.rise
    first = g.split * squared / (2 * g.rise)
    second = (1 - g.split) * squared / (2 * g.rise)
    return Truth(
        points={
            "A": Point(zero, zero),
            "B": Point(g.span + 0, g.rise + 0),
            "E": Point(g.span * g.split, g.rise * g.split),
            "C1": Point(zero, first),
            "C2": Point(g.span + 0, g.rise - second),
        },
        findings={"radius_1": first, "radius_2": second, "arc_angle": 2 * atan2_deg(g.rise, g.span)},
    )


@method("chord and bisectors", Exactness.EXACT)
def chord_and_bisectors(b: Board, g: Ogee) -> None:
    start, low = level_start(b, "A", "where the ogee leaves the lower line", "lower line")
    foot = b.lay_off(low, start, g.span, "D", why="the span")
    upright = b.upright_line(foot, "upright at B")
    end = b.lay_off(upright, foot, g.rise, "B", why="the rise")
    high = b.parallel(low, end, "upper line", pen=Pen.GIVEN)
    b.extend(high, end.moved(g.span / 4, g.span - g.span))
    chord = b.line(start, end, "chord")
    share = b.lay_off(low, start, g.span * g.split, "F", why="the share of the first arc")
    rising = b.upright_line(share, "upright at F", why="it cuts span and chord in the same ratio")
    turning = b.meet(rising, chord, name="E")
    b.caution("The arcs turn on the chord: anywhere else they meet with a kink.")
    left = b.upright_line(start, "upright at A")
    first = b.meet(b.bisector(start, turning, "bisector of AE", why="the first half of the chord"), left, name="C1")
    second = b.meet(b.bisector(turning, end, "bisector of EB", why="the second half of the chord"), upright, name="C2")
    if b.slips(whole_chord.name):
        halving = b.bisector(start, end, "bisector of AB")
        first, second = b.meet(halving, left, name="C1"), b.meet(halving, upright, name="C2")
    b.line(first, second, "line of centres", why="it must go through E")
    b.line_in_arc(first, start, turning, "arc 1")
    b.line_in_arc(second, end, turning, "arc 2")
    b.dimension_radius(first, start)
    b.dimension_radius(second, end)
    b.find("radius_1", plane.distance(first, start))
    b.find("radius_2", plane.distance(second, end))
    b.find("arc_angle", plane.angle_at(first, start, turning))
    b.check("both centres and E lie on one line", plane.distance_to_line(turning, plane.Line.through(first, second)))
    b.check(
        "both arcs turn through the same angle",
        plane.angle_at(second, end, turning) - plane.angle_at(first, start, turning),
        "°",
    )


@slip("the bisector of the whole chord taken for each arc")
def whole_chord(g: Ogee, number: Make) -> dict[str, Number]:
    radius = (g.span * g.span + g.rise * g.rise) / (2 * g.rise)
    return {"radius_1": radius, "radius_2": radius}


PROBLEM = Problem(
    id="tangency/ogee-parallel-lines",
    title="Ogee between parallel lines",
    brief="Join two parallel lines by an ogee of span {span} and rise {rise}, the first arc taking {split} of it.",
    givens=Ogee,
    truth=truth,
    methods=(chord_and_bisectors,),
    findings={"radius_1": Kind.LENGTH, "radius_2": Kind.LENGTH, "arc_angle": Kind.ANGLE},
    source="Euclid III.32: the angle between chord and tangent; two arcs with one tangent where they meet.",
    slips=(whole_chord,),
)
