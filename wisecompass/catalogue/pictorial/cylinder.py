"""Cylinder in isometric, its axis upright or along one of the level axes.

The two straight contours touch both rims in the ends of their long axes. Truth: the ellipse of a circle has the axes
d √(3/2) and d √(1/2) in natural scale; its perimeter by the complete elliptic integral.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from wisecompass.arithmetic import Number, elliptic_e, pi_times, roughly, sqrt
from wisecompass.catalogue.pictorial.far_rim import ahead, half_by_points, half_rim, moved, opposite, sharp_ends
from wisecompass.catalogue.pictorial.iso import (
    FACES,
    FRONT,
    FULL_LENGTHS,
    RIGHT,
    UP,
    Crate,
    crate_from_below,
    scales,
    seen_from_the_corner,
    shrunk,
    sizes,
)
from wisecompass.catalogue.pictorial.iso_round import (
    LONG_WAY,
    SQUARE_TO,
    Rhombus,
    Signs,
    all_by_ordinates,
    flat_circle,
    four_arcs,
    line_in_four,
    off_the_ellipse,
    reach_of_four,
    rhombus_in_crate,
    semi_axes,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, choice, count, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Settable
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import number_text
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3

NEAR_FACE = {"up": "top", "left": "right", "right": "left"}
"""The face in which the near rim lies, by the way the axis runs: one that runs to the left leaves the right face."""


@dataclass(frozen=True)
class Cylinder(Givens):
    diameter: Number = length("diameter", "46")
    height: Number = length("length along the axis", "68")
    axis: str = choice("axis", "up", "left", "right")
    scale: str = scales()
    divisions: int = count("number of divisions", "12", 8, 48)
    hidden_edges: str = choice("hidden edges", "left out", "dashed")

    @property
    def face(self) -> str:
        return NEAR_FACE[self.axis]

    @property
    def reach(self) -> dict[str, Number]:
        """The crate's sizes along the three axes, mm."""
        return {**dict.fromkeys(FACES[self.face], self.diameter), SQUARE_TO[self.face]: self.height}


def _centre(g: Cylinder, number: Make, *, far: bool = False) -> Point:
    """Where the middle of the near rim is drawn, or of the far one."""
    place, reach = seen_from_the_corner(g, number), g.reach
    at = dict.fromkeys(reach, number(0)) | {way: reach[way] / 2 for way in FACES[g.face]}
    if (g.face == "top") != far:
        at[SQUARE_TO[g.face]] = reach[SQUARE_TO[g.face]]
    return place(at[FRONT], at[RIGHT], at[UP])


def truth(g: Cylinder, number: Make) -> Truth:
    place, shrink, reach = seen_from_the_corner(g, number), shrunk(g, number), g.reach
    corners = {"A": (0, 0, 0), "B": (0, 1, 0), "D": (1, 0, 0), "E": (0, 0, 1), "G": (1, 1, 1)}
    points: dict[str, Point | Point3] = {
        name: place(reach[FRONT] * f, reach[RIGHT] * r, reach[UP] * u) for name, (f, r, u) in corners.items()
    }
    drawn, centre = g.diameter * shrink, _centre(g, number)
    points["C0"] = centre
    long, short = semi_axes(drawn)
    radius = g.diameter / 2
    other = _centre(g, number, far=True)

    def off_a_rim(p: Point) -> Number:
        """From the rim that is nearer."""
        near, far = (off_the_ellipse(p, middle, drawn, g.face) for middle in (centre, other))
        return near if abs(roughly(near)) <= abs(roughly(far)) else far

    return Truth(
        points=points,
        findings={
            "long_axis": long * 2,
            "short_axis": short * 2,
            "outline_length": 4 * long * elliptic_e(number(2) / 3) + g.height * shrink * 2,
            "volume": pi_times(radius * radius) * g.height,
            "surface_area": pi_times(radius) * 2 * (radius + g.height),
        },
        on_curve=off_a_rim,
    )


def _begin(b: Board, g: Cylinder, diameter: Settable, height: Settable) -> tuple[Crate, Rhombus]:
    reach: dict[str, Settable] = {**dict.fromkeys(FACES[g.face], diameter), SQUARE_TO[g.face]: height}
    begin = b.point("A", b.number(0), b.number(0), why="the nearest lower corner of the crate")
    crate = crate_from_below(b, begin, reach[FRONT], reach[RIGHT], reach[UP], short=True)
    r = rhombus_in_crate(b, g.face, crate, diameter)
    b.plot(*r.middles.values())
    return crate, r


def _contours(
    b: Board, g: Cylinder, crate: Crate, r: Rhombus, ends: Mapping[Signs, Point], height: Settable
) -> dict[Signs, Point]:
    """Both straight contours, from the ends of the near long axis along the axis."""
    third = crate.axes[SQUARE_TO[g.face]]
    far = {at: moved(b, ends[at], third, height, f"{ends[at].name}f", back=g.face == "top") for at in r.sharp}
    b.caution(
        "The contours leave the ends of the LONG axis, where they touch the rims; not the middles of the crate's edges."
    )
    b.line_in(*((ends[at], far[at]) for at in r.sharp), why="the contours touch both rims")
    first, second = r.sharp
    gap = plane.distance(ends[first], ends[second]) - plane.distance(far[first], far[second])
    b.check("both rims are equally wide between the contours", gap)
    return far


def _finish(b: Board, g: Cylinder, crate: Crate, r: Rhombus, long: Number, short: Number, gap: Number) -> None:
    at = crate.at
    grow = b.number(1) if g.scale == "natural" else sqrt(b.number(3)) / sqrt(b.number(2))
    edges = {
        FRONT: plane.distance(at["A"], at["D"]),
        RIGHT: plane.distance(at["A"], at["B"]),
        UP: plane.distance(at["A"], at["E"]),
    }
    drawn = plane.distance(r.middles[1, 0], r.middles[-1, 0])
    tall = edges[SQUARE_TO[g.face]]
    true_long, true_short = semi_axes(drawn)
    radius, height = drawn * grow / 2, tall * grow
    b.find("long_axis", true_long * 2)
    b.find("short_axis", true_short * 2)
    b.find("long_axis_drawn", long)
    b.find("short_axis_drawn", short)
    b.find("worst_gap", gap)
    share = 1 - true_short * true_short / (true_long * true_long)
    b.find("outline_length", 4 * true_long * elliptic_e(share) + tall * 2)
    b.find("volume", pi_times(radius * radius) * height)
    b.misread(diameter_for_radius.name, lambda: {"volume": pi_times(radius * radius) * 4 * height})
    b.misread(from_the_middles.name, lambda: {"long_axis": drawn * sqrt(b.number(3)) / 2})
    b.find("surface_area", pi_times(radius) * 2 * (radius + height))
    b.dimension(at["B"], at["A"], offset=9, true=g.reach[RIGHT])
    b.dimension(at["A"], at["D"], offset=9, true=g.reach[FRONT])
    b.dimension(at["D"], at["H"], offset=9, true=g.reach[UP])


def _worth(found: Mapping[str, float]) -> str:
    short = found["long_axis"] - found["long_axis_drawn"]
    return f"rims {number_text(short)} mm too narrow, worst gap {number_text(found['worst_gap'])} mm"


@method("crate and four centres", Exactness.APPROXIMATE, worth=_worth)
def four_centres(b: Board, g: Cylinder) -> None:
    diameter, height = sizes(b, g, diameter=g.diameter, height=g.height)
    crate, r = _begin(b, g, diameter, height)
    arcs = four_arcs(r)
    line_in_four(arcs, "near rim")
    ends = sharp_ends(b, arcs)
    far = _contours(b, g, crate, r, ends, height)
    third, down = crate.axes[SQUARE_TO[g.face]], g.face == "top"
    half_rim(b, arcs, far, third, height, ahead(g.face), "1", back=down, pen=Pen.OUTLINE)
    if g.hidden_edges == "dashed":
        half_rim(b, arcs, far, third, height, opposite(ahead(g.face)), "2", back=down, pen=Pen.HIDDEN)
    _finish(b, g, crate, r, *reach_of_four(arcs))


@method("ordinates", Exactness.EXACT_POINTS)
def ordinates(b: Board, g: Cylinder) -> None:
    diameter, height = sizes(b, g, diameter=g.diameter, height=g.height)
    flat = flat_circle(b, diameter, g.divisions)
    crate, r = _begin(b, g, diameter, height)
    ends, carried = all_by_ordinates(r, flat)
    through = [each.point for each in carried]
    b.plot(*through)
    long, short = semi_axes(plane.distance(r.middles[1, 0], r.middles[-1, 0]))
    b.fair_ellipse(r.centre, long, short, LONG_WAY[g.face], through, why="the near rim")
    far = {ends[at].name: place for at, place in _contours(b, g, crate, r, ends, height).items()}
    third, down = crate.axes[SQUARE_TO[g.face]], g.face == "top"
    half_by_points(b, r, carried, far, third, height, 1, back=down, pen=Pen.OUTLINE)
    if g.hidden_edges == "dashed":
        half_by_points(b, r, carried, far, third, height, -1, back=down, pen=Pen.HIDDEN)
    _finish(b, g, crate, r, long * 2, short * 2, long * 0)


@slip("the contours drawn from the middles of the crate's edges, so that they cut the rims")
def from_the_middles(g: Cylinder, number: Make) -> dict[str, Number]:
    """Opposite middles stand half a short axis apart, and half the rhombus across the axis: d √3 / 2."""
    return {"long_axis": g.diameter * shrunk(g, number) * sqrt(number(3)) / 2}


@slip("the diameter taken for the radius")
def diameter_for_radius(g: Cylinder, number: Make) -> dict[str, Number]:
    return {"volume": pi_times(g.diameter * g.diameter) * g.height}


@slip(FULL_LENGTHS)
def scale_forgotten(g: Cylinder, number: Make) -> dict[str, Number]:
    if g.scale == "natural":
        raise ValueError("full lengths are asked for")
    return {"long_axis": semi_axes(g.diameter)[0] * 2}


PROBLEM = Problem(
    id="pictorial/cylinder",
    title="Cylinder in isometric",
    brief=(
        "Draw in isometric, at {scale} scale, a cylinder Ø {diameter} and {height} long, its axis {axis}; by ordinates in "
        "{divisions} parts. Hidden edges {hidden_edges}."
    ),
    givens=Cylinder,
    truth=truth,
    methods=(four_centres, ordinates),
    findings={
        "outline_length": Kind.LENGTH,
        "long_axis": Kind.LENGTH,
        "short_axis": Kind.LENGTH,
        "long_axis_drawn": Kind.LENGTH,
        "short_axis_drawn": Kind.LENGTH,
        "volume": Kind.VOLUME,
        "surface_area": Kind.AREA,
        "worst_gap": Kind.LENGTH,
    },
    source="Affine image of a circle along conjugate diameters of 120°; perimeter 4a·E(e²), DLMF 19.9.9.",
    slips=(from_the_middles, diameter_for_radius, scale_forgotten),
)
