"""Block with polygon ends and a bore, in isometric: the polygon drawn flat in its crate, carried into a face of the picture.

Truth: corners by the polygon's angles, then projected along the body diagonal of a cube. The far rim of the bore shows while
the thickness is less than the short axis of the near one: t √2 < d.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, cos_deg, roughly, sin_deg, sqrt
from wisecompass.catalogue.pictorial.far_rim import hole_by_points, moved, through_a_hole
from wisecompass.catalogue.pictorial.flat_polygon import Flat, columns, corners_of, draw_flat, levels
from wisecompass.catalogue.pictorial.iso import (
    FACES,
    FRONT,
    RIGHT,
    UP,
    Crate,
    crate_from_above,
    crate_from_below,
    scales,
    seen_from_the_corner,
    sizes,
)
from wisecompass.catalogue.pictorial.iso_round import (
    LONG_WAY,
    SQUARE_TO,
    all_by_ordinates,
    flat_circle,
    four_arcs,
    line_in_four,
    rhombus,
    semi_axes,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_most, choice, count, length, offset
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.setting import Settable, span
from wisecompass.drafting.step import Instrument, Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3

EDGES = {"left": ("A", "AD", "AE", "EH", "DH"), "right": ("A", "AB", "AE", "EF", "BF"), "top": ("E", "EH", "EF", "FG", "HG")}
"""For each face the corner that it is measured from, its foot, its side, and the edges opposite to these."""

EYE = {FRONT: -1, RIGHT: -1, UP: 1}
"""Along which axes the eye lies: before the nearest corner, and above."""

DIVISIONS = 12


@dataclass(frozen=True)
class Block(Givens):
    sides: int = count("sides", "6", 3, 12)
    side: Number = length("side", "36")
    thickness: Number = length("thickness", "24")
    bore: Number = offset("diameter of the bore (0: none)", "42", Fraction(0))
    face: str = choice("face of the polygon", "left", "right", "top")
    start: str = choice("start", "crow's foot", "Y")
    bore_by: str = choice("bore by", "four centres", "ordinates")
    scale: str = scales()
    hidden_edges: str = choice("hidden edges", "left out", "dashed")

    @property
    def apothem(self) -> Number:
        half = (self.side * 0 + 180) / self.sides
        return self.side * cos_deg(half) / (2 * sin_deg(half))

    @property
    def is_bored(self) -> bool:
        return self.decide(lambda h: h.bore) > 0


def _extent(g: Block) -> tuple[Number, Number, Number]:
    """Width and height of the polygon's crate, and how high its middle lies in it, mm."""
    places = corners_of(g.sides, g.side)
    at_column, at_level = columns(g.sides), levels(g.sides)
    right = places[at_column.index(max(at_column))][0]
    low, high = places[0][1], places[at_level.index(max(at_level))][1]
    return right * 2, high - low, -low


def truth(g: Block, number: Make) -> Truth:
    place, (wide, high, middle) = seen_from_the_corner(g, number), _extent(g)
    points: dict[str, Point | Point3] = {}
    first, second = FACES[g.face]
    rise = g.thickness if g.face == "top" else number(0)
    for row, deep in (("P", number(0)), ("Q", g.thickness)):
        for k, (x, y) in enumerate(corners_of(g.sides, g.side), 1):
            at = {FRONT: number(0), RIGHT: number(0), UP: rise}
            at[first], at[second] = wide / 2 + x, middle + y
            third = SQUARE_TO[g.face]
            at[third] = at[third] - deep if third == UP else deep
            points[f"{row}{k}"] = place(at[FRONT], at[RIGHT], at[UP])
    radius = g.side / (2 * sin_deg((number(180)) / g.sides))
    even = g.sides % 2 == 0
    seen = _far_rim_seen(g)
    findings: dict[str, Value] = {
        "across_flats": g.apothem * 2 if even else None,
        "across_corners": radius * 2 if even else None,
        "crate_width": wide,
        "crate_height": high,
        "far_rim_visible": seen,
        "far_rim_gap": g.bore - g.thickness * sqrt(number(2)) if seen else None,
    }
    return Truth(points=points, findings=findings)


def _far_rim_seen(g: Block) -> bool:
    return g.decide(lambda h: h.bore - h.thickness * sqrt(h.thickness * 0 + 2)) > 0


ON_THE_LONG_AXIS = "the thickness laid off along the long axis of the face instead of along its own"
"""A mistake that shows in the far corners alone."""


class _Drawn:
    """The sheet of a block so far."""

    def __init__(self, b: Board, g: Block) -> None:
        self.b, self.g = b, g
        self.bored = g.is_bored
        named = {"side": g.side, "thickness": g.thickness} | ({"bore": g.bore} if self.bored else {})
        self.side, self.thickness, *rest = sizes(b, g, **named)
        self.bore: Settable | None = rest[0] if rest else None
        self.flat: Flat = draw_flat(b, g.sides, self.side, self.thickness, self.bore)
        self.circle = None
        if self.bore is not None and g.bore_by == "ordinates":
            self.circle = flat_circle(b, self.bore, DIVISIONS)
        self.crate = self._crate()
        corner, foot, side, top, far = EDGES[g.face]
        self.corner = self.crate.at[corner]
        self.foot, self.wall, self.top, self.far = (self.crate.edges[name] for name in (foot, side, top, far))
        self.third = self.crate.axes[SQUARE_TO[g.face]]
        self.near: list[Point] = []

    def _crate(self) -> Crate:
        b, g = self.b, self.g
        reach: dict[str, Settable] = {SQUARE_TO[g.face]: self.thickness}
        reach |= dict(zip(FACES[g.face], (self.flat.width, self.flat.height), strict=True))
        if g.start == "Y":
            begin = b.point("E", b.number(0), reach[UP], why="the nearest upper corner")
            return crate_from_above(b, begin, reach[FRONT], reach[RIGHT], reach[UP], short=True)
        begin = b.point("A", b.number(0), b.number(0), why="the nearest lower corner")
        return crate_from_below(b, begin, reach[FRONT], reach[RIGHT], reach[UP], short=True)

    # ---------------------------------------------------------------------------------------------------- the polygon
    def centre_lines(self) -> tuple[Line, Line, Point]:
        """Both centre lines of the face, along its foot and along its side, and where they cross."""
        b, flat = self.b, self.flat
        with b.gathered("parallel", Instrument.DIVIDERS, "Both centre lines of the face"):
            low = b.lay_off(self.foot, self.corner, span(flat.origin, flat.middle_foot), "M0", why="half the width")
            beside = b.lay_off(self.wall, self.corner, span(flat.origin, flat.middle_side), "N0", why="the middle's height")
            up, along = b.parallel(self.wall, low, "centre line across"), b.parallel(self.foot, beside, "centre line along")
            centre = b.meet(along, up, name="C0")
        return along, up, centre

    def from_sides(self) -> None:
        """Every corner from the crate's foot and side."""
        b, flat = self.b, self.flat
        uprights, across = [self.wall], [self.foot]
        with b.gathered("lay off", Instrument.DIVIDERS, "The places of the corners, as in the flat crate"):
            for k, foot in enumerate(flat.feet[1:-1], 1):
                at = b.lay_off(self.foot, self.corner, span(flat.origin, foot), f"U{k}")
                uprights.append(b.parallel(self.wall, at, f"upright at {at.name}"))
            for k, side in enumerate(flat.sides[1:-1], 1):
                at = b.lay_off(self.wall, self.corner, span(flat.origin, side), f"V{k}")
                across.append(b.parallel(self.foot, at, f"level at {at.name}"))
        self._cross([*uprights, self.far], [*across, self.top])

    def from_centre(self, along: Line, up: Line, centre: Point) -> None:
        """Every corner from both centre lines of the face."""
        flat = self.flat
        with self.b.gathered("lay off", Instrument.DIVIDERS, "The places of the corners, from both centre lines"):
            uprights_between = self._both_ways(along, centre, flat.feet, flat.middle_foot, up, self.wall, "U")
            rows = self._both_ways(up, centre, flat.sides, flat.middle_side, along, self.foot, "V")
        uprights, across = [self.wall, *uprights_between, self.far], [self.foot, *rows, self.top]
        self._cross(uprights, across)

    def _both_ways(
        self, line: Line, centre: Point, marks: list[Point], middle: Point, through: Line, like: Line, name: str
    ) -> list[Line]:
        b, found = self.b, []
        x, y = roughly(middle.x), roughly(middle.y)
        for k, mark in enumerate(marks[1:-1], 1):
            away = (roughly(mark.x) - x) + (roughly(mark.y) - y)
            if abs(away) < 1e-9 * roughly(self.g.side):
                found.append(through)
                continue
            at = b.lay_off(line, centre, span(middle, mark), f"{name}{k}", back=away < 0)
            found.append(b.parallel(like, at, f"{'upright' if name == 'U' else 'level'} at {at.name}"))
        return found

    def _cross(self, uprights: list[Line], across: list[Line]) -> None:
        g, b = self.g, self.b
        b.pencil()
        for k, (column, level) in enumerate(zip(columns(g.sides), levels(g.sides), strict=True), 1):
            self.near.append(b.meet(uprights[column], across[level], name=f"P{k}"))

    # ------------------------------------------------------------------------------------------------------ the block
    def seen_sides(self) -> list[int]:
        """For each side of the polygon 1 where its face of the block is seen, 0 on edge, -1 hidden."""
        g = self.g
        first, second = (EYE[way] for way in FACES[g.face])

        def facing(h: Any) -> list[Number]:
            half = (h.side * 0 + 180) / h.sides
            ways = [half * 2 * (k + 1) - 90 for k in range(h.sides)]
            return [cos_deg(way) * first + sin_deg(way) * second for way in ways]

        return list(g.decide_all(facing, rational=False))

    def block(self) -> None:
        b, g, n, down = self.b, self.g, self.g.sides, self.g.face == "top"
        seen = self.seen_sides()
        shown = [k for k in range(n) if seen[k] > 0 or seen[k - 1] > 0]
        wanted = range(n) if g.hidden_edges == "dashed" else shown
        third = b.unless(ON_THE_LONG_AXIS, self.third, self._long_axis)
        far = {k: moved(b, self.near[k], third, self.thickness, f"Q{k + 1}", back=down) for k in wanted}
        b.caution("The thickness is laid off along its own axis, never square to the drawn edge.")
        b.line_in(*((self.near[k], self.near[(k + 1) % n]) for k in range(n)), why="the near face")
        b.line_in(*((self.near[k], far[k]) for k in shown), why="the edges that run back")
        b.line_in(*((far[k], far[(k + 1) % n]) for k in range(n) if seen[k] > 0), why="they come parallel to the near ones")
        if g.hidden_edges == "dashed":
            behind = [(self.near[k], far[k]) for k in range(n) if k not in shown]
            behind += [(far[k], far[(k + 1) % n]) for k in range(n) if seen[k] < 0]
            if behind:
                b.line_in(*behind, pen=Pen.HIDDEN, why="what is behind")
        for k in range(n):
            if seen[k] > 0:
                other = (k + 1) % n
                gap = plane.distance(self.near[k], self.near[other]) - plane.distance(far[k], far[other])
                b.check(f"the edges from {self.near[k].name} and from {far[k].name} are equally long", gap)
        self.back = far

    def _long_axis(self) -> Line:
        """Through the first corner, along the long diagonal of the face's rhombus."""
        at, way = self.near[0], self.b.number(LONG_WAY[self.g.face])
        return Line(at, cos_deg(way), sin_deg(way), "long axis")

    def hole(self, along: Line, up: Line, centre: Point) -> None:
        b, g = self.b, self.g
        assert self.bore is not None
        r = rhombus(b, g.face, centre, self.bore, (along, up))
        visible, down = _far_rim_seen(g), g.face == "top"
        if self.circle is not None:
            carried = all_by_ordinates(r, self.circle, "W")[1]
            through = [each.point for each in carried]
            long, short = semi_axes(plane.distance(r.middles[1, 0], r.middles[-1, 0]))
            b.fair_ellipse(centre, long, short, LONG_WAY[g.face], through, why="the near rim")
            if visible:
                h = g.bound_in(PLAIN)
                hole_by_points(b, r, carried, self.third, self.thickness, float(h.thickness / h.bore), back=down)
        else:
            arcs = four_arcs(r)
            line_in_four(arcs, "near rim")
            if visible:
                deep = g.decide(lambda h: h.thickness * 2 - h.bore)
                through_a_hole(b, arcs, self.third, self.thickness, deep, back=down)
        if not visible:
            b.step_reason("The far rim does not show: the block is thicker than the opening is wide along its short axis")
        self.opening = plane.distance(r.middles[1, 0], r.middles[-1, 0])


def _measure(d: _Drawn) -> None:
    b, g, flat = d.b, d.g, d.flat
    grow = b.number(1) if g.scale == "natural" else sqrt(b.number(3)) / sqrt(b.number(2))
    even = g.sides % 2 == 0
    wide = plane.distance(flat.origin, flat.far_foot) * grow
    high = plane.distance(flat.origin, flat.far_side) * grow
    b.find("across_flats", high if even else None)
    b.find("across_corners", plane.distance(flat.corners[0], flat.corners[g.sides // 2]) * grow if even else None)
    b.find("crate_width", wide)
    b.find("crate_height", high)
    visible = _far_rim_seen(g)
    b.find("far_rim_visible", visible)
    if visible:
        k = next(iter(d.back))
        deep = plane.distance(d.near[k], d.back[k]) * sqrt(b.number(2))
        b.find("far_rim_gap", (d.opening - deep) * grow)
        b.misread(wrong_axis.name, lambda: {"far_rim_gap": b.number(0)})
        b.misread(diameter_for_radius.name, lambda: {"far_rim_gap": (d.opening * 2 - deep) * grow})
    else:
        b.find("far_rim_gap", None)
    side = plane.distance(flat.corners[0], flat.corners[1]) * grow
    b.misread(along_a_slope.name, lambda: {"crate_width": wide + side * 2 - (wide - side)})
    place = d.crate.at
    b.dimension(place["B"], place["A"], offset=9, true=_reach(g)[RIGHT])
    b.dimension(place["A"], place["D"], offset=9, true=_reach(g)[FRONT])
    b.dimension(place["D"], place["H"], offset=9, true=_reach(g)[UP])


def _reach(g: Block) -> dict[str, Number]:
    wide, high, _ = _extent(g)
    return {SQUARE_TO[g.face]: g.thickness} | dict(zip(FACES[g.face], (wide, high), strict=True))


@method("crate measured from its sides", Exactness.EXACT)
def from_its_sides(b: Board, g: Block) -> None:
    d = _Drawn(b, g)
    d.from_sides()
    d.block()
    if d.bored:
        d.hole(*d.centre_lines())
    _measure(d)


@method("crate measured from its centre", Exactness.EXACT)
def from_its_centre(b: Board, g: Block) -> None:
    d = _Drawn(b, g)
    along, up, centre = d.centre_lines()
    d.from_centre(along, up, centre)
    d.block()
    if d.bored:
        d.hole(along, up, centre)
    _measure(d)


@slip("the far rim forgotten, or moved along the wrong axis, so that it never shows")
def wrong_axis(g: Block, number: Make) -> dict[str, Number]:
    if not _far_rim_seen(g):
        raise ValueError("nothing shows anyway")
    return {"far_rim_gap": number(0)}


@slip("the inset of a corner measured along a slope")
def along_a_slope(g: Block, number: Make) -> dict[str, Number]:
    wide, _, _ = _extent(g)
    inset = (wide - g.side) / 2
    return {"crate_width": wide + 2 * (g.side - inset)}


@slip("the diameter of the bore taken for its radius")
def diameter_for_radius(g: Block, number: Make) -> dict[str, Number]:
    if not _far_rim_seen(g):
        raise ValueError("no far rim shows")
    return {"far_rim_gap": g.bore * 2 - g.thickness * sqrt(number(2))}


def worded(words: Mapping[str, str]) -> str:
    return (
        "Draw in isometric, at {scale} scale, a block {thickness} thick with ends of {sides} sides of {side} in its {face} "
        "face, bored Ø {bore}, the bore by {bore_by}, from a {start}. Hidden edges {hidden_edges}."
    )


PROBLEM = Problem(
    id="pictorial/polygon-block",
    title="Polygon block in isometric",
    brief=worded({}),
    givens=Block,
    truth=truth,
    methods=(from_its_sides, from_its_centre),
    findings={
        "across_flats": Kind.LENGTH,
        "across_corners": Kind.LENGTH,
        "crate_width": Kind.LENGTH,
        "crate_height": Kind.LENGTH,
        "far_rim_visible": Kind.CHOICE,
        "far_rim_gap": Kind.LENGTH,
    },
    conditions=(
        Condition(
            "a bore within the sides",
            lambda g: g.apothem * 2 - g.bore,
            "a bore Ø {bore} cuts the sides of {sides} sides of {side}",
            ("bore", "side"),
            lambda g: {"bore": at_most(g.bound_in(PLAIN).apothem * 2 * 0.999)},
            strict=True,
        ),
    ),
    source="Polygon by its central angle; parallel projection along the body diagonal of a cube; four arcs on the rhombus.",
    slips=(wrong_axis, along_a_slope, diameter_for_radius),
)
