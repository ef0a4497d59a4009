"""A cut solid with flat sides and its pattern: letters at the ends of its edges, its views, what its patterns report."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial, reduce
from itertools import pairwise
from typing import TYPE_CHECKING, Any

from wisecompass.arithmetic import PLAIN, Number, absolute, cos_deg, larger, roughly, smaller, tan_deg
from wisecompass.catalogue.developments.attached import add_to_body, end_names, end_panel, lay_end, loop_edges, wanted
from wisecompass.catalogue.developments.pattern import Station, Strip, around, flat_names, fold, total
from wisecompass.catalogue.developments.sheet import Sheet, lap_fits, roughly_zero, seam_is_there
from wisecompass.catalogue.solids.body import begin, half_turn, lettered_points, radii
from wisecompass.catalogue.solids.cut_lining import line_in_flat, show_in_space
from wisecompass.catalogue.solids.cut_views import Drawn, draw_cut, true_shape
from wisecompass.catalogue.solids.cuts import Cut, Plan, place, plan
from wisecompass.catalogue.solids.edges import Sight
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import at_least
from wisecompass.drafting.problem import Condition
from wisecompass.drafting.step import Kind
from wisecompass.geometry import panels, plane
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3, distance3

FINDINGS = {
    "lateral_area": Kind.AREA,
    "area": Kind.AREA,
    "perimeter": Kind.LENGTH,
    "seam_length": Kind.LENGTH,
    "edge_lengths": Kind.LENGTH,
    "refold_gap": Kind.LENGTH,
}


class SheetCut(Sheet, Cut):
    """A cut solid of sheet; the plane is square to VP."""

    if TYPE_CHECKING:

        @property
        def cut_angle(self) -> Number: ...
        @property
        def cut_height(self) -> Number: ...

    @property
    def plane(self) -> str:
        return "square to VP"

    @property
    def plane_angle(self) -> Number:
        return self.cut_angle

    @property
    def plane_height(self) -> Number:
        return self.cut_height


def upper_ends(g: SheetCut, p: Plan) -> list[str]:
    """The letter at the upper end of every edge, from that at the first corner of the base: its cut point, or its own end
    where the plane just reaches it."""
    cuts = {edge[0]: name for name, edge in p.cut.items() if len(edge) == 2 and edge[1] not in g.base_letters}
    return [cuts.get(low, high) for low, high in zip(g.base_letters, g.end_letters, strict=True)]


def stations(g: SheetCut, uppers: list[str]) -> list[Station]:
    """The edges from the seam round to the seam."""
    return [(g.base_letters[k], uppers[k]) for k in g.round_from_seam(g.corners)]


def views(b: Board, g: SheetCut) -> Drawn:
    """Front and top view of what is left."""
    d = draw_cut(b, g)
    show_in_space(d)
    line_in_flat(d, ((Sight.FRONT, d.one.up), (Sight.TOP, d.one.low)))
    d.sheet.views.letter_fold()
    return d


def true_points(g: SheetCut) -> dict[str, Point3]:
    """Every lettered point of solid and cut, in front of VP."""
    points = lettered_points(g, begin(g)) | {name: place(g, edge) for name, edge in plan(g).cut.items()}
    return {name: Point3(at.x, at.front + g.room, at.above) for name, at in points.items()}


def rises(g: Cut) -> list[Number]:
    """How high the plane stands over each corner of the base, mm: its distance to the right of the axis times the slope."""
    slope, radius, first = tan_deg(g.plane_angle), radii(g)[0], begin(g)
    return [g.plane_height + radius * cos_deg(first + 2 * k * half_turn(g)) * slope for k in range(g.corners)]


def greatest(numbers: list[Number]) -> Number:
    return reduce(larger, numbers)


def least(numbers: list[Number]) -> Number:
    return reduce(smaller, numbers)


def true_ends(
    g: SheetCut, lines: list[Station], points: Mapping[str, Any]
) -> tuple[dict[str, Point], dict[str, Number], Number, Number]:
    """What the ends add: their corners in the flat, areas of their own, and what they add to area and outline."""
    flat: dict[str, Point] = {name: points[name] for pair in flat_names(lines) for name in pair}
    zero = roughly_zero(g)
    extra: dict[str, Point] = {}
    area, outline = zero, zero
    for end in wanted(g):
        letters, names = end_names(lines, end)
        body = {name: points[letter] for letter, name in zip(letters, names, strict=True)}
        rolled = [*names[1:], names[0]]  # the edge that it hangs on is from its last corner to its first
        hung = [panels.Panel(tuple(rolled))]
        laid = panels.unrolled(hung, body, (flat[names[0]], flat[names[1]]))
        extra |= {name: laid[name] for name in names[2:]}
        loop = [body[name] for name in names]
        area = area + panels.area(loop)
        lengths = [distance3(p, q) for p, q in pairwise([*loop, loop[0]])]
        outline = outline + sum(lengths[2:], lengths[1]) - lengths[0]
    return extra, {}, area, outline


def with_ends(d: Drawn, g: SheetCut, strip: Strip) -> tuple[list[panels.Panel], dict[str, Point], dict[str, Point3]]:
    """Lay out the ends that are wanted; the whole net, with its corners in the flat and on the body."""
    b, net = d.sheet.b, panels.strip(strip.names)
    flat, body = strip.flat, strip.on_body
    for end in wanted(g):
        view = true_shape(d) if end and g.decide(lambda h: h.plane_angle) else d.one.low
        with b.block("pattern"):
            flat |= lay_end(b, strip, end, view.images)
        add_to_body(strip, end, body)
        net.append(end_panel(strip.stations, end))
    return net, flat, body


def measure(
    b: Board,
    g: SheetCut,
    strip: Strip,
    net: list[panels.Panel],
    flat: Mapping[str, Point],
    body: Mapping[str, Point3],
    begun: int,
) -> None:
    """What is measured on the pattern of every solid with flat sides."""
    lengths = tuple(plane.distance(p, q) for p, q in zip(strip.lows, strip.highs, strict=True))
    b.find("edge_lengths", lengths[:-1])
    b.find("seam_length", lengths[0])
    b.find("lateral_area", absolute(plane.polygon_area(strip.outline)))
    b.find("area", total(strip))
    outline = around(strip.outline)
    for loop in strip.ends.values():
        outline = outline + loop_edges(loop)
    b.find("perimeter", outline)
    fold(b, net, flat, body, begun)


def _given(name: str, g: SheetCut) -> Number:
    found: Number = getattr(g, name)
    return found


def _least_rise(g: SheetCut) -> Number:
    return min(rises(g), key=roughly)


def _room_above(g: SheetCut) -> Number:
    return g.height - max(rises(g), key=roughly)


def conditions(*edges: str) -> tuple[Condition, ...]:
    """The plane leaves the solid by its sides alone, there is such a seam, and the laps have room."""
    return (
        Condition(
            "the cut stays on the sides",
            _least_rise,
            "a cut at {cut_angle}, {cut_height} up the axis, leaves the sides through the base",
            ("cut_height", "cut_angle"),
            lambda g: {"cut_height": at_least(g.cut_height - _least_rise(g.bound_in(PLAIN)) * 1.001, above=True)},
            strict=True,
        ),
        Condition(
            "the cut stays under the top",
            _room_above,
            "a cut at {cut_angle}, {cut_height} up the axis, passes over the top of a solid {height} high",
            ("cut_height", "height", "cut_angle"),
            lambda g: {"height": at_least(g.height - _room_above(g.bound_in(PLAIN)), above=True)},
        ),
        seam_is_there("edge", lambda g: g.sides),
        *(lap_fits(f"the {edge}", partial(_given, edge)) for edge in edges),
        lap_fits("the seam", lambda g: rises(g)[min(g.seam, g.sides) - 1]),
    )
