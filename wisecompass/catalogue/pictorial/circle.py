"""Circle in a face of an isometric, by four centres, by ordinates, or by the diagonal rule.

Truth: the ellipse of a circle has the axes d √(3/2) and d √(1/2) in natural scale, d and d / √3 in the isometric one.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import cast

from wisecompass.arithmetic import Number, sqrt
from wisecompass.catalogue.pictorial.iso import ANGLES, FACES, scales, seen_from_the_corner, shrunk, sizes
from wisecompass.catalogue.pictorial.iso_round import (
    Rhombus,
    all_by_ordinates,
    eight_points,
    fair_through,
    flat_circle,
    four_arcs,
    line_in_four,
    measured,
    off_the_ellipse,
    reach_of_four,
    rhombus,
    semi_axes,
    true_ellipse,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, choice, count, length, ratio
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Settable, bare
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import number_text
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3


@dataclass(frozen=True)
class Circle(Givens):
    diameter: Number = length("diameter", "54")
    face: str = choice("face", *FACES)
    scale: str = scales()
    divisions: int = count("number of divisions", "12", 8, 48)
    share: Number = ratio("share of the half diagonal", "2/3", Fraction(1, 2), Fraction(9, 10))
    true_ellipse: str = choice("true ellipse", "over it", "left out")


def truth(g: Circle, number: Make) -> Truth:
    place, drawn = seen_from_the_corner(g, number), g.diameter * shrunk(g, number)
    zero, half = number(0), g.diameter / 2
    ways = {"front": (1, 0, 0), "right": (0, 1, 0), "up": (0, 0, 1)}
    points: dict[str, Point | Point3] = {"C": place(zero, zero, zero)}
    for (name, back), way in zip((("M", "N"), ("P", "Q")), FACES[g.face], strict=True):
        for letter, sign in ((name, 1), (back, -1)):
            f, r, u = (half * k * sign for k in ways[way])
            points[letter] = place(f, r, u)
    long, short = semi_axes(drawn)
    centre = Point(zero, zero)
    return Truth(
        points=points,
        findings={"long_axis": long * 2, "short_axis": short * 2},
        on_curve=lambda p: off_the_ellipse(p, centre, drawn, g.face),
    )


def _begin(b: Board, g: Circle) -> Rhombus:
    (size,) = sizes(b, g, diameter=g.diameter)
    return _face(b, g, _radius_or_whole(b, size))


def _radius_or_whole(b: Board, size: Settable) -> Settable:
    """The diameter to set, twice as long where the radius was to be."""
    return cast("Settable", b.unless(diameter_for_radius.name, size, lambda: bare(size) * 2))


def _face(b: Board, g: Circle, size: Settable) -> Rhombus:
    centre = b.point("C", b.number(0), b.number(0), why="the centre, in the face")
    lines: list[Line] = []
    for way in FACES[g.face]:
        name = "upright centre line" if way == "up" else f"centre line along the {way}"
        lines.append(b.upright_line(centre, name) if way == "up" else b.set_square_line(centre, ANGLES[way], name))
    found = rhombus(b, g.face, centre, size, (lines[0], lines[1]))
    b.caution("Half the diameter is laid off along the axes of the face, not along the diagonals of the rhombus.")
    middles = found.middles
    gap = plane.distance(middles[1, 0], middles[0, 1]) - plane.distance(middles[-1, 0], middles[0, -1])
    b.check("opposite middles are as far apart on either side", gap)
    b.plot(*middles.values())
    return found


def _finish(b: Board, g: Circle, r: Rhombus, long: Number, short: Number, gap: Number) -> None:
    if g.true_ellipse == "over it":
        true_ellipse(b, r.centre, bare(r.size), g.face)
    b.dimension(r.corners[-1, -1], r.corners[1, -1], offset=-9 if g.face == "right" else 9, true=g.diameter)
    true_long, true_short = (each * 2 for each in semi_axes(plane.distance(r.middles[1, 0], r.middles[-1, 0])))
    b.find("long_axis", true_long)
    b.find("short_axis", true_short)
    b.find("long_axis_drawn", long)
    b.find("short_axis_drawn", short)
    b.find("worst_gap", gap)


def _worth(found: Mapping[str, float]) -> str:
    short = found["long_axis"] - found["long_axis_drawn"]
    far = f"worst gap {number_text(found['worst_gap'])} mm"
    return f"{number_text(abs(short))} mm too {'short' if short > 0 else 'long'} along the long axis, {far}"


@method("four centres", Exactness.APPROXIMATE, worth=_worth)
def four_centres(b: Board, g: Circle) -> None:
    r = _begin(b, g)
    arcs = four_arcs(r)
    line_in_four(arcs, "circle")
    long, short, gap = reach_of_four(arcs)
    for at in (*r.blunt, *r.sharp):
        start, end = arcs.ends(at)
        centre = arcs.large.get(at) or arcs.small[at]
        b.check(
            f"the arc about {centre.name} ends in two middles", plane.distance(centre, start) - plane.distance(centre, end)
        )
    b.find("radius_end", bare(arcs.small_opening))
    b.find("radius_side", bare(arcs.opening))
    _finish(b, g, r, long, short, gap)


@method("ordinates", Exactness.EXACT_POINTS)
def ordinates(b: Board, g: Circle) -> None:
    size = _radius_or_whole(b, sizes(b, g, diameter=g.diameter)[0])
    flat = flat_circle(b, size, g.divisions)
    r = _face(b, g, size)
    through = [each.point for each in all_by_ordinates(r, flat)[1]]
    b.plot(*through)
    long, short = semi_axes(plane.distance(r.middles[1, 0], r.middles[-1, 0]))
    from wisecompass.catalogue.pictorial.iso_round import LONG_WAY

    b.fair_ellipse(
        r.centre, long, short, LONG_WAY[g.face], through, why="one smooth curve that touches the rhombus in its middles"
    )
    _finish(b, g, r, long * 2, short * 2, long * 0)


@method("diagonal rule", Exactness.APPROXIMATE, worth=_worth)
def diagonal_rule(b: Board, g: Circle) -> None:
    """On each half diagonal a point at a share from the centre; eight points with the middles; flat first, then in the
    face."""
    size, share = sizes(b, g, diameter=g.diameter, share=g.diameter * g.share / 2)
    size = _radius_or_whole(b, size)
    with b.block("flat circle"):
        middle = b.point("O0", b.number(0), b.number(0), why="the centre of the circle drawn flat")
        level, upright = b.level_line(middle, "level centre line"), b.upright_line(middle, "upright centre line")
        flat = rhombus(b, "flat", middle, size, (level, upright), "′")
        fair_through(flat, eight_points(flat, share)[1], "flat circle")
    r = _face(b, g, size)
    points, through = eight_points(r, share)
    fair_through(r, through, "circle")
    ends = [plane.distance(points[0], points[2]), plane.distance(points[1], points[3])]
    long, short = (ends[0], ends[1]) if g.face != "top" else (ends[1], ends[0])
    if b.slips(along_the_diagonals.name):
        long = short = bare(size) + 0
    gap = measured(r, long, short)
    _finish(b, g, r, long, short, gap)


@slip("the large arcs centred on the sharp corners of the rhombus")
def sharp_corners(g: Circle, number: Make) -> dict[str, Number]:
    """From a sharp corner an opposite middle is √7/2 of the side away."""
    return {"radius_side": g.diameter * shrunk(g, number) * sqrt(number(7)) / 2}


@slip("the diameter taken for the radius")
def diameter_for_radius(g: Circle, number: Make) -> dict[str, Number]:
    long, short = semi_axes(g.diameter * shrunk(g, number) * 2)
    return {"long_axis": long * 2, "short_axis": short * 2}


@slip("half the diameter laid off along the diagonals of the rhombus")
def along_the_diagonals(g: Circle, number: Make) -> dict[str, Number]:
    drawn = g.diameter * shrunk(g, number)
    return {"long_axis_drawn": drawn, "short_axis_drawn": drawn}


BRIEF = (
    "Draw in isometric, at {scale} scale, a circle Ø {diameter} in the {face} face; by ordinates in {divisions} parts, "
    "by the diagonal rule at {share} of the half diagonal, the true ellipse {true_ellipse}."
)


PROBLEM = Problem(
    id="pictorial/circle",
    title="Circle in isometric",
    brief=BRIEF,
    givens=Circle,
    truth=truth,
    methods=(four_centres, ordinates, diagonal_rule),
    findings={
        "long_axis": Kind.LENGTH,
        "short_axis": Kind.LENGTH,
        "long_axis_drawn": Kind.LENGTH,
        "short_axis_drawn": Kind.LENGTH,
        "radius_end": Kind.LENGTH,
        "radius_side": Kind.LENGTH,
        "worst_gap": Kind.LENGTH,
    },
    source="Affine image of a circle along conjugate diameters of 120°; four arcs on its rhombus.",
    slips=(sharp_corners, diameter_for_radius, along_the_diagonals),
)
