"""The flight of a screw laid out as flat rings: between two helices of one lead no surface unrolls, so a ring is taken whose
rims are as long as one turn of both helices and as far apart as these.

Truth: lengths of the helices by the mantle unrolled, the ring by two similar triangles; on circles between them the ring is
longer than the flight, the most where both lengths grow alike.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, cos_deg, hypot, log, pi_times, root, sin_deg
from wisecompass.catalogue.developments.sheet import CAUTIONS
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_most
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.setting import Setting, bare, reckoned, span
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point

QUARTER = 4
"""Lengths are drawn for so manieth a part of a turn."""


@dataclass(frozen=True)
class Flight(Givens):
    outer_diameter: Number = givens.length("outer diameter", "92")
    inner_diameter: Number = givens.length("inner diameter", "34")
    lead: Number = givens.length("lead", "76")
    turns: Number = givens.ratio("turns", "3", Fraction(1, 4), Fraction(100))


@dataclass(frozen=True)
class Lengths:
    """One turn of both helices, their distance, the lead, and the radius of the inner one."""

    outer: Number
    inner: Number
    wide: Number
    lead: Number
    near: Number

    @property
    def grows(self) -> Number:
        """How much longer a circle of the ring is for every mm farther out: less than 2 π."""
        return (self.outer - self.inner) / self.wide

    @property
    def ring(self) -> Number:
        """The ring's outer radius."""
        return self.outer / self.grows

    @property
    def angle(self) -> Number:
        return self.grows * 180 / pi_times(self.wide * 0 + 1)

    def area_of_turn(self) -> Number:
        """∫ √((2 π r)² + lead²) dr from rim to rim."""
        two_pi = pi_times(self.wide * 0 + 2)

        def part(r: Number, size: Number) -> Number:
            return r * size / 2 + self.lead * self.lead * log(two_pi * r + size) / (two_pi * 2)

        return part(self.near + self.wide, self.outer) - part(self.near, self.inner)

    def excess(self) -> Number:
        """How much longer the ring is than the flight at most, on a turn of a circle between the rims."""
        two_pi = pi_times(self.wide * 0 + 2)
        r = self.grows * self.lead / (two_pi * root(two_pi * two_pi - self.grows * self.grows))
        return self.inner + self.grows * (r - self.near) - hypot(two_pi * r, self.lead)

    def figures(self, turns: Number) -> dict[str, Value]:
        flat = (self.outer + self.inner) * self.wide / 2
        return {
            "blank_outer": self.ring * 2,
            "blank_inner": (self.ring - self.wide) * 2,
            "blank_angle": self.angle,
            "outer_length": self.outer,
            "inner_length": self.inner,
            "lateral_area": self.area_of_turn() * turns,
            "area": flat * turns,
            "perimeter": self.outer + self.inner + self.wide * 2,
            "worst_gap": self.excess(),
        }


def lengths_of(g: Flight) -> Lengths:
    outer, inner = (hypot(pi_times(d), g.lead) for d in (g.outer_diameter, g.inner_diameter))
    return Lengths(outer, inner, (g.outer_diameter - g.inner_diameter) / 2, g.lead + 0, g.inner_diameter / 2)


def truth(g: Flight, number: Make) -> Truth:
    size, zero = lengths_of(g), number(0)
    far, way = size.ring, size.angle + 180
    points = {
        "O": Point(zero, zero),
        "Z": Point(zero, zero),
        "U": Point(size.wide, zero),
        "V": Point(zero, size.outer / QUARTER),
        "W": Point(size.wide, size.inner / QUARTER),
        "C": Point(far, zero),
        "E": Point(far + far * cos_deg(way), far * sin_deg(way)),
        "F": Point(far + (far - size.wide) * cos_deg(way), (far - size.wide) * sin_deg(way)),
    }
    return Truth(points=points, findings=size.figures(g.turns))


def _worth(found: Mapping[str, float]) -> str:
    return (
        f"between its rims the ring is up to {found['worst_gap']:.2f} mm a turn longer than the flight: "
        "the sheet is stretched or pressed by that"
    )


@method("ring blank", Exactness.APPROXIMATE, worth=_worth)
def ring_blank(b: Board, g: Flight) -> None:
    with b.block("views"):
        middle = b.point("O", b.number(0), b.number(0), why="the axis, seen along it")
        rims = [
            b.arc(middle, d / 2, name=f"{word} rim", why="half the diameter", whole=True, pen=Pen.GIVEN)
            for d, word in ((g.outer_diameter, "outer"), (g.inner_diameter, "inner"))
        ]
        b.level_line(middle, "middle of the end view")
        _show(b, g)
    with b.block("true lengths"):
        foot = b.point("G", b.number(0), b.number(0), why="a quarter of a turn unrolled")
        base = b.level_line(foot, "girths")
        upright = b.upright_line(foot, "leads")
        high = b.lay_off(upright, foot, g.lead / QUARTER, "H", why="a quarter of the lead")
        slopes, girths = [], []
        for d, name in ((g.outer_diameter, "J"), (g.inner_diameter, "K")):
            end = b.lay_off(base, foot, reckoned_pi(d) / QUARTER, name, why="a quarter of the girth, reckoned")
            b.line(end, high, f"slope {name}H", why="a quarter of a turn of the helix")
            slopes.append(span(end, high))
            girths.append(plane.distance(foot, end) * QUARTER)
    with b.block("pattern"):
        start = b.point("Z", b.number(0), b.number(0), why="the ring's outer rim")
        along = b.level_line(start, "edge of the ring")
        inner = b.lay_off(along, start, (g.outer_diameter - g.inner_diameter) / 2, "U", why="as wide as the flight")
        tops = []
        for at, size, name in ((start, slopes[0], "V"), (inner, slopes[1], "W")):
            line = b.upright_line(at, f"upright at {at.name}")
            tops.append(b.lay_off(line, at, size, name, why="a quarter of the helix"))
        closing = b.line(tops[0], tops[1], "line of both lengths")
        b.pencil()
        centre = b.meet(closing, along, name="C")
        b.caution("The ring is no ring of the flight's own diameters: it is larger, and has a gap.")
        outer = b.arc(centre, span(centre, start), name="outer arc", why="as long as the outer helix")
        within = b.arc(centre, span(centre, inner), name="inner arc", why="as long as the inner helix")
        turned = _angle(g)
        ray = b.protract(Line.through(centre, start), centre, turned, "other edge", why="so far each turn goes, reckoned")
        b.pencil()
        ends = [b.meet(outer, ray, plane.beyond(ray), "E"), b.meet(within, ray, plane.beyond(ray), "F")]
        b.line_in_arc(centre, start, ends[0], name="outer rim of the ring", pen=Pen.CUT)
        b.line_in_arc(centre, inner, ends[1], name="inner rim of the ring", pen=Pen.CUT)
        b.line_in((start, inner), (ends[0], ends[1]), pen=Pen.CUT, why="the edges where one ring meets the next")
        b.caution("Cut edges are sharp and burred: wear gloves and deburr before pressing.")
    measured = Lengths(
        slopes[0].number * QUARTER,
        slopes[1].number * QUARTER,
        plane.distance(start, inner),
        plane.distance(foot, high) * QUARTER,
        rims[1].radius,
    )
    for name, value in measured.figures(bare(g.turns)).items():
        b.find(name, value)
    b.find("blank_outer", plane.distance(centre, start) * 2)
    b.find("blank_inner", plane.distance(centre, inner) * 2)
    b.find("blank_angle", plane.sweep_at(centre, start, ends[0]))
    b.misread(own_diameters.name, lambda: {"blank_outer": rims[0].radius * 2, "blank_inner": rims[1].radius * 2})
    b.misread(
        girths_for_helices.name,
        lambda: {"outer_length": girths[0], "inner_length": girths[1], "blank_angle": b.number(360)},
    )
    far = plane.distance(centre, start)
    arc = pi_times(far * plane.sweep_at(centre, start, ends[0])) / 180
    b.check("the ring's outer rim is as long as a turn of the outer helix", arc - measured.outer)
    b.check("the ring is as wide at its end as at its beginning", plane.distance(*ends) - measured.wide)


def _angle(g: Flight) -> Setting:
    """360° times the difference of the helices over that of the girths' circles."""
    number = lengths_of(_bare(g)).angle

    def helix(name: str) -> Any:
        girth = ("*", "pi", name)
        return ("sqrt", ("+", ("*", girth, girth), ("*", "lead", "lead")))

    apart = ("-", helix("outer_diameter"), helix("inner_diameter"))
    return reckoned(number, ("/", ("*", 360, apart), ("*", "pi", ("-", "outer_diameter", "inner_diameter"))))


def _bare(g: Flight) -> Flight:
    """The same givens as plain numbers of the arithmetic at hand."""
    return Flight(bare(g.outer_diameter), bare(g.inner_diameter), bare(g.lead), bare(g.turns))


def _show(b: Board, g: Flight) -> None:
    """Both helices in the picture in space, with a ray at every twelfth of a turn."""
    if not b.drawing:
        return
    h = g.bound_in(PLAIN)
    radii = [float(h.outer_diameter) / 2, float(h.inner_diameter) / 2]
    lead, count = float(h.lead), round(12 * min(float(h.turns), 3.0))
    room = radii[0] * 1.5
    rows = []
    for radius in radii:
        ways = [math.tau * k / 12 for k in range(count + 1)]
        rows.append([(radius * math.cos(w), room - radius * math.sin(w), lead * w / math.tau) for w in ways])
        b.in_space_along(rows[-1])
    for pair in zip(*rows, strict=True):
        b.in_space_along(pair)


@slip("the ring cut with the flight's own diameters")
def own_diameters(g: Flight, number: Make) -> dict[str, Number]:
    return {"blank_outer": g.outer_diameter, "blank_inner": g.inner_diameter}


@slip("the girths laid off instead of the helices")
def girths_for_helices(g: Flight, number: Make) -> dict[str, Number]:
    return {
        "outer_length": pi_times(g.outer_diameter),
        "inner_length": pi_times(g.inner_diameter),
        "blank_angle": number(360),
    }


PROBLEM = Problem(
    id="developments/twisted-strip",
    title="Screw flight laid out flat",
    brief=(
        "Lay out flat the flight of a screw, outer diameter {outer_diameter}, inner diameter {inner_diameter}, lead {lead}, "
        "{turns} turns, pressed from rings."
    ),
    givens=Flight,
    truth=truth,
    methods=(ring_blank,),
    findings={
        "blank_outer": Kind.LENGTH,
        "blank_inner": Kind.LENGTH,
        "blank_angle": Kind.ANGLE,
        "outer_length": Kind.LENGTH,
        "inner_length": Kind.LENGTH,
        "lateral_area": Kind.AREA,
        "area": Kind.AREA,
        "perimeter": Kind.LENGTH,
        "worst_gap": Kind.LENGTH,
    },
    source="A flat ring between two helices: rims as long as a turn, as far apart as the flight is wide.",
    conditions=(
        Condition(
            "a flight with some width",
            lambda g: g.outer_diameter * 99 / 100 - g.inner_diameter,
            "an inner diameter of {inner_diameter} leaves no flight within {outer_diameter}",
            ("inner_diameter", "outer_diameter"),
            lambda g: {"inner_diameter": at_most(g.outer_diameter * 99 / 100)},
        ),
        Condition(
            "a lead that a ring can be pressed to",
            lambda g: g.inner_diameter * 12 - g.lead,
            "a lead of {lead} is more than twelve times the inner diameter {inner_diameter}: no ring can be pressed to that",
            ("lead", "inner_diameter"),
            lambda g: {"lead": at_most(g.inner_diameter * 12)},
        ),
    ),
    slips=(own_diameters, girths_for_helices),
    cautions=CAUTIONS,
)
