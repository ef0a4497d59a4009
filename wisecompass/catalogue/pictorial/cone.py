"""Cone in isometric, standing on the floor: its base, the upright of its axis, and the contours that touch the base.

With the half axes a and b of the base's ellipse and the height h as drawn the contours touch b² / h above the middle, at
± a √(1 − b² / h²) beside it; a cone no higher than b has none. They are found as tangents of the circle that the ellipse
becomes when all uprights are stretched by a / b = √3: its apex lies where a line at 60°, from as far beside the middle as
the cone is high, meets the axis.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from wisecompass.arithmetic import PLAIN, Number, absolute, atan2_deg, hypot, pi_times, root, roughly, sqrt
from wisecompass.catalogue.pictorial.iso import (
    FRONT,
    RIGHT,
    axes_at,
    scales,
    seen_from_the_corner,
    shrunk,
    sizes,
)
from wisecompass.catalogue.pictorial.iso_round import (
    FourArcs,
    Rhombus,
    all_by_ordinates,
    flat_circle,
    four_arcs,
    off_the_ellipse,
    reach_of_four,
    rhombus,
    semi_axes,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_least, choice, count, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.setting import Settable, bare, span
from wisecompass.drafting.step import Instrument, Kind
from wisecompass.drafting.wording import number_text
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Pair, Parametric
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3


@dataclass(frozen=True)
class Cone(Givens):
    diameter: Number = length("diameter", "58")
    height: Number = length("height", "63")
    scale: str = scales()
    divisions: int = count("number of divisions", "12", 8, 48)
    hidden_edges: str = choice("hidden edges", "dashed", "left out")

    @property
    def contours(self) -> int:
        """How many straight contours there are: none where the apex is seen before the base."""
        return 2 if self.decide(lambda h: h.height * h.height * 8 - h.diameter * h.diameter) > 0 else 0


def truth(g: Cone, number: Make) -> Truth:
    place, shrink = seen_from_the_corner(g, number), shrunk(g, number)
    zero = number(0)
    points: dict[str, Point | Point3] = {"C": place(zero, zero, zero), "O": place(zero, zero, g.height)}
    (a, b), h = semi_axes(g.diameter * shrink), g.height * shrink
    angle: Number | None = None
    if g.contours:
        beside, above = a * root((h - b) * (h + b)) / h, b * b / h
        points |= {"T1": Point(beside, above), "T2": Point(-beside, above)}
        angle = atan2_deg(a, root((h - b) * (h + b))) * 2
    radius, centre = g.diameter / 2, Point(zero, zero)
    findings: dict[str, Value] = {
        "contours": g.contours,
        "contour_angle": angle,
        "slant_length": hypot(radius, g.height),
        "volume": pi_times(radius * radius) * g.height / 3,
    }
    return Truth(points=points, findings=findings, on_curve=lambda p: off_the_ellipse(p, centre, g.diameter * shrink, "top"))


def _begin(b: Board, g: Cone, diameter: Settable, height: Settable) -> tuple[Rhombus, Point, Line]:
    """The base's centre lines and light square on the floor, and the apex over its middle."""
    centre = b.point("C", b.number(0), b.number(0), why="the middle of the base, on the floor")
    with b.gathered("set square", Instrument.SET_SQUARE, "Both centre lines of the base, and the axis upright"):
        ways = axes_at(b, centre)
    r = rhombus(b, "top", centre, diameter, (ways[FRONT], ways[RIGHT]))
    apex = b.lay_off(ways["up"], centre, height, "O", why="the height")
    b.plot(*r.middles.values())
    return r, apex, ways["up"]


def _finish(b: Board, g: Cone, r: Rhombus, apex: Point, touch: tuple[Point, Point] | None, gap: Number) -> None:
    grow = b.number(1) if g.scale == "natural" else sqrt(b.number(3)) / sqrt(b.number(2))
    radius = plane.distance(r.middles[1, 0], r.middles[-1, 0]) * grow / 2
    height = plane.distance(r.centre, apex) * grow
    b.find("contours", g.contours)
    b.find("slant_length", hypot(radius, height))
    b.find("volume", pi_times(radius * radius) * height / 3)
    b.find("worst_gap", gap)
    b.misread(diameter_for_radius.name, lambda: {"slant_length": hypot(radius * 2, height)})
    b.misread(height_for_slant.name, lambda: {"slant_length": height})
    angle = None
    if touch is not None:
        sides = [(p.x - apex.x, apex.y - p.y) for p in touch]
        angle = atan2_deg(sides[0][0], sides[0][1]) - atan2_deg(sides[1][0], sides[1][1])
        b.check("both contours are equally long", plane.distance(apex, touch[0]) - plane.distance(apex, touch[1]))
    else:
        b.step_reason("The cone is too flat for contours: its apex is seen before the base, of which all the rim is seen")
        b.mark_point(apex)
    b.find("contour_angle", angle)
    if touch is not None:
        wide, tall = semi_axes(radius * 2 / grow)[0], plane.distance(r.centre, apex)
        b.misread(to_the_ends.name, lambda: {"contour_angle": atan2_deg(wide, tall) * 2})
    b.dimension(r.corners[-1, -1], r.corners[1, -1], offset=9, true=g.diameter)
    b.dimension(
        r.centre, apex, offset=9, clear=semi_axes(plane.distance(r.middles[1, 0], r.middles[-1, 0]))[0], true=g.height
    )


# ------------------------------------------------------------------------------------------------------- by four centres
def _on_the_ends(g: Cone) -> int:
    """1 where the contours touch the small arcs, -1 where they touch the large one behind: as the apex lies over or under
    the blunt corner there."""
    return g.decide(lambda h: h.height * 2 - h.diameter)


def _reached(g: Cone) -> Number:
    """How far the cone is higher than its four arcs reach up behind: R − d / 2."""
    spare: Number = g.height - g.diameter * (sqrt(g.diameter * 0 + 3) - 1) / 2
    return spare if g.contours else absolute(g.height)


def _worth(found: Mapping[str, float]) -> str:
    return f"worst gap of the base {number_text(found['worst_gap'])} mm"


@method(
    "crate and four centres",
    Exactness.APPROXIMATE,
    Condition(
        "a cone that rises over its four arcs",
        _reached,
        "a cone {height} high on Ø {diameter} rises over the true base but not over its four arcs, which reach higher",
        ("height",),
        lambda g: {"height": at_least(g.bound_in(PLAIN).diameter * 0.3661, above=True)},
        strict=True,
    ),
    worth=_worth,
)
def four_centres(b: Board, g: Cone) -> None:
    diameter, height = sizes(b, g, diameter=g.diameter, height=g.height)
    r, apex, _ = _begin(b, g, diameter, height)
    arcs = four_arcs(r)
    touch = _touching(b, g, arcs, apex) if g.contours else None
    _line_in_base(b, g, arcs, touch)
    if touch is not None:
        b.line_in((apex, touch[0]), (apex, touch[1]), why="the contours touch the base")
    _finish(b, g, r, apex, touch, reach_of_four(arcs)[2])


def _touching(b: Board, g: Cone, arcs: FourArcs, apex: Point) -> tuple[Point, Point]:
    """Where the contours touch: on the circle over the distance from the apex to the arc's centre (Thales)."""
    r = arcs.of
    b.caution("The contours TOUCH the base: drawn to the ends of the long axis they cut it.")
    place = _on_the_ends(g)
    if place == 0:
        return (r.middles[0, 1], r.middles[1, 0])
    found = []
    if place > 0:
        for k, at in enumerate(((-1, 1), (1, -1)), 1):  # the right end first
            centre = arcs.small[at]
            with b.gathered(
                "arc", Instrument.COMPASS, "Where the contour touches the small arc: the circle over apex and centre"
            ):
                middle = b.divide(apex, centre, 2, [f"H{k}"])[0]
                thales = b.arc(middle, span(middle, apex), name=f"circle over {apex.name}{centre.name}")
                ring = b.arc(centre, arcs.small_opening, name=f"small arc about {centre.name}")
                found.append(b.meet(thales, ring, plane.farthest(r.centre), f"T{k}"))
        return found[0], found[1]
    centre = arcs.large[-1, -1]
    with b.gathered(
        "arc", Instrument.COMPASS, "Where the contours touch the large arc behind: the circle over apex and centre"
    ):
        middle = b.divide(apex, centre, 2, ["H1"])[0]
        thales = b.arc(middle, span(middle, apex), name=f"circle over {apex.name}{centre.name}")
        ring = b.arc(centre, arcs.opening, name="large arc behind")
        return b.both(thales, ring, ("T1", "T2"), plane.rightmost)


def _line_in_base(b: Board, g: Cone, arcs: FourArcs, touch: tuple[Point, Point] | None) -> None:
    """The base: what is seen of it before the contours, and what is behind, dashed where it is wanted. The right half first,
    then the left one, from before to behind."""
    place = _on_the_ends(g)
    dashed = g.hidden_edges == "dashed"
    before, behind = arcs.large[1, 1], arcs.large[-1, -1]
    b.line_in_arc(before, *arcs.ends((1, 1)), name="base, before")
    for at, side in (((-1, 1), 0), ((1, -1), 1)):
        start, end = arcs.ends(at)
        centre = arcs.small[at]
        if touch is None or place <= 0:
            b.line_in_arc(centre, start, end, name=f"base, end {side + 1}")
            continue
        split = touch[side]
        pieces = ((start, split), (split, end)) if side == 0 else ((split, end), (start, split))
        b.line_in_arc(centre, *pieces[0], name=f"base, end {side + 1}")
        if dashed:
            b.line_in_arc(centre, *pieces[1], name=f"behind, end {side + 1}", pen=Pen.HIDDEN)
    start, end = arcs.ends((-1, -1))
    if touch is None:
        b.line_in_arc(behind, start, end, name="base, behind")
    elif place >= 0:
        if dashed:
            b.line_in_arc(behind, start, end, name="behind", pen=Pen.HIDDEN)
    else:
        b.line_in_arc(behind, start, touch[0], name="base, behind on the right")
        b.line_in_arc(behind, touch[1], end, name="base, behind on the left")
        if dashed:
            b.line_in_arc(behind, touch[0], touch[1], name="behind", pen=Pen.HIDDEN)


# ----------------------------------------------------------------------------------------------------------- by ordinates
@method("ordinates", Exactness.EXACT_POINTS)
def ordinates(b: Board, g: Cone) -> None:
    diameter, height = sizes(b, g, diameter=g.diameter, height=g.height)
    flat = flat_circle(b, diameter, g.divisions)
    r, apex, axis = _begin(b, g, diameter, height)
    ends, carried = all_by_ordinates(r, flat)
    touch = _touch_points(b, r, apex, axis, ends[-1, 1], height) if g.contours else None
    through = [each.point for each in carried]
    b.plot(*through)
    a, c = (float(roughly(bare(each))) for each in semi_axes(bare(diameter)))
    x, y = roughly(r.centre.x), roughly(r.centre.y)
    dashed, tall = g.hidden_edges == "dashed", float(roughly(bare(height)))

    def curve() -> list[tuple[Parametric, Pen]]:
        if touch is None:
            return [(_ellipse(x, y, a, c, 0.0, math.tau), Pen.OUTLINE)]
        first = math.asin(c / tall)
        seen = (_ellipse(x, y, a, c, math.pi - first, math.tau + first), Pen.OUTLINE)
        return [seen, (_ellipse(x, y, a, c, first, math.pi - first), Pen.HIDDEN if dashed else Pen.CONSTRUCTION)]

    b.fair_curve(
        curve, through, "base", closed=True, why="the base, dashed where the cone hides it" if touch else "the base"
    )
    if touch is not None:
        b.line_in((apex, touch[0]), (apex, touch[1]), why="the contours touch the base")
    _finish(b, g, r, apex, touch, bare(diameter) * 0)


def _ellipse(x: float, y: float, a: float, c: float, start: float, end: float) -> Parametric:
    def place(t: float) -> Pair:
        return x + a * math.cos(t), y + c * math.sin(t)

    def velocity(t: float) -> Pair:
        return -a * math.sin(t), c * math.cos(t)

    return Parametric(place, velocity, start, end, 8)


def _touch_points(b: Board, r: Rhombus, apex: Point, axis: Line, end: Point, height: Settable) -> tuple[Point, Point]:
    """Tangents of the base drawn out to a circle: all uprights stretched by √3, which a set square of 60° does."""
    b.caution("The contours TOUCH the base: drawn to the ends of the long axis they cut it.")
    centre = r.centre
    level = b.level_line(centre, "long axis")
    with b.gathered("arc", Instrument.COMPASS, "The circle on the long axis, and the apex stretched as it is"):
        ring = b.arc(centre, span(centre, end), name="circle on the long axis")
        beside = b.lay_off(level, centre, height, "V1", back=True)
        stretched = b.meet(b.set_square_line(beside, 60, "line at 60°"), axis, name="V2")
    with b.gathered(
        "arc", Instrument.COMPASS, "Where lines from there touch the circle: the circle over both middles (Thales)"
    ):
        middle = b.divide(stretched, centre, 2, ["V3"])[0]
        thales = b.arc(middle, span(middle, stretched), name="circle over V₂C")
        right, left = b.both(thales, ring, ("V4", "V5"), plane.rightmost)
    found = []
    with b.gathered(
        "join", Instrument.STRAIGHTEDGE, "The contours meet the long axis where those lines do; the touch lies under"
    ):
        for k, touch in enumerate((right, left), 1):
            on_axis = b.meet(b.line(stretched, touch), level, name=f"V{5 + k}")
            contour = b.line(apex, on_axis)
            found.append(b.meet(b.upright_line(touch, f"upright of {touch.name}"), contour, name=f"T{k}"))
    return found[0], found[1]


@slip("the contours drawn to the ends of the long axis")
def to_the_ends(g: Cone, number: Make) -> dict[str, Number]:
    shrink = shrunk(g, number)
    return {"contour_angle": atan2_deg(semi_axes(g.diameter * shrink)[0], g.height * shrink) * 2}


@slip("the diameter taken for the radius")
def diameter_for_radius(g: Cone, number: Make) -> dict[str, Number]:
    return {"slant_length": hypot(g.diameter, g.height)}


@slip("the height laid off as the slant length")
def height_for_slant(g: Cone, number: Make) -> dict[str, Number]:
    return {"slant_length": g.height + number(0)}


PROBLEM = Problem(
    id="pictorial/cone",
    title="Cone in isometric",
    brief=(
        "Draw in isometric, at {scale} scale, a cone Ø {diameter} and {height} high on the floor; by ordinates in "
        "{divisions} parts. Hidden edges {hidden_edges}."
    ),
    givens=Cone,
    truth=truth,
    methods=(four_centres, ordinates),
    findings={
        "contours": Kind.COUNT,
        "contour_angle": Kind.ANGLE,
        "slant_length": Kind.LENGTH,
        "volume": Kind.VOLUME,
        "worst_gap": Kind.LENGTH,
    },
    source="Tangents of an ellipse as those of a circle under an affine stretch; Thales' theorem.",
    slips=(to_the_ends, diameter_for_radius, height_for_slant),
)
