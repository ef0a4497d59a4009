"""A cut solid with flat sides and its pattern: letters at the ends of its edges, its views, what its patterns report."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import reduce
from itertools import pairwise
from typing import TYPE_CHECKING, Any

from wisecompass.arithmetic import PLAIN, Number, absolute, cos_deg, larger, smaller, tan_deg
from wisecompass.catalogue.developments.attached import added, end_names, hang, lay_end, wanted
from wisecompass.catalogue.developments.pattern import Images, Net, Station, Strip, around, flat_names, fold, total
from wisecompass.catalogue.developments.sheet import OnNeutralLine, Sheet, lap_fits, roughly_zero, seam_is_there
from wisecompass.catalogue.solids.body import APEX, END_MIDDLE, MIDDLE, begin, half_turn, lettered_points, radii
from wisecompass.catalogue.solids.cut_lining import line_in_flat, show_in_space
from wisecompass.catalogue.solids.cut_views import Drawn, draw_cut, true_shape
from wisecompass.catalogue.solids.cuts import Cut, Plan, faces_of, place, plan
from wisecompass.catalogue.solids.edges import Sight
from wisecompass.catalogue.solids.positions import know, stand
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
        def cut(self) -> str: ...
        @property
        def cut_angle(self) -> Number: ...
        @property
        def cut_height(self) -> Number: ...

    @property
    def is_whole(self) -> bool:
        """Whether it is not cut at all."""
        return self.cut != "cut"

    @property
    def plane(self) -> str:
        return "square to VP"

    @property
    def plane_angle(self) -> Number:
        return self.cut_angle

    @property
    def plane_height(self) -> Number:
        return self.cut_height


class Neutral(OnNeutralLine, SheetCut):
    """A cut solid of sheet on its neutral line."""


def upper_ends(g: SheetCut, p: Plan) -> list[str]:
    """The letter at the upper end of every edge, from that at the first corner of the base: its cut point, or its own end
    where the plane just reaches it."""
    cuts = {edge[0]: name for name, edge in p.cut.items() if len(edge) == 2 and edge[1] not in g.base_letters}
    ends = [APEX] * g.corners if g.is_pointed else g.end_letters
    return [cuts.get(low, high) for low, high in zip(g.base_letters, ends, strict=True)]


def plan_of(g: SheetCut) -> Plan:
    """What the plane does to the solid; nothing where it is left whole."""
    if not g.is_whole:
        return plan(g)
    letters = [name for name in lettered_points(g, begin(g)) if name not in (MIDDLE, END_MIDDLE)]
    return Plan(dict.fromkeys(letters, -1), {}, faces={} if g.is_round else faces_of(g))


def stations(g: SheetCut, uppers: list[str]) -> list[Station]:
    """The edges from the seam round to the seam."""
    return [(g.base_letters[k], uppers[k]) for k in g.round_from_seam(g.corners)]


def views(b: Board, g: SheetCut) -> Drawn:
    """Front and top view of what is left."""
    d = _whole(b, g) if g.is_whole else draw_cut(b, g)
    show_in_space(d)
    line_in_flat(d, ((Sight.FRONT, d.one.up), (Sight.TOP, d.one.low)))
    d.sheet.views.letter_fold()
    return d


def _whole(b: Board, g: SheetCut) -> Drawn:
    cut: Cut = g
    sheet, one = stand(b, cut)
    know(sheet, one)
    return Drawn(sheet, one, plan_of(g), sheet.axis)


def true_points(g: SheetCut) -> dict[str, Point3]:
    """Every lettered point of solid and cut, in front of VP."""
    points = lettered_points(g, begin(g)) | {name: place(g, edge) for name, edge in plan_of(g).cut.items()}
    return {name: Point3(at.x, at.front + g.room, at.above) for name, at in points.items()}


def rises(g: SheetCut) -> list[Number]:
    """How high the plane cuts each edge or generator, mm: z = c + x tan θ at x = r cos w, where r runs evenly from base to
    end; of a body that is left whole how high that end is."""
    if g.is_whole:
        return [g.height + 0] * g.corners
    first, second = radii(g)
    return [(g.plane_height + first * rise) / (1 + (first - second) * rise / g.height) for rise in _shares(g)]


def _shares(g: SheetCut) -> list[Number]:
    """How far the plane rises towards each corner of the base, as a share of its distance from the axis."""
    slope, begun = tan_deg(g.plane_angle), begin(g)
    return [cos_deg(begun + 2 * k * half_turn(g)) * slope for k in range(g.corners)]


THINNEST = 1000
"""A cut leaves at least so manieth a part of the height at every edge: less could not be drawn."""


def over_base(g: SheetCut) -> Number:
    """How high the plane stands over the lowest corner of the base, mm."""
    if g.is_whole:
        return g.height + 0
    return reduce(smaller, (g.plane_height + radii(g)[0] * rise for rise in _shares(g)))


def true_ends(g: SheetCut, lines: list[Station], points: Mapping[str, Any]) -> tuple[dict[str, Point], Number, Number]:
    """What the ends add: their corners in the flat, areas of their own, and what they add to area and outline."""
    flat: dict[str, Point] = {name: points[name] for pair in flat_names(lines) for name in pair}
    zero = roughly_zero(g)
    extra: dict[str, Point] = {}
    area, outline = zero, zero
    for end in wanted(g.ends, g.is_whole and g.is_pointed):
        letters, names = end_names(lines, end)
        body = {name: points[letter] for letter, name in zip(letters, names, strict=True)}
        on = (Point(zero, zero), Point(zero + 1, zero)) if end else (flat[names[0]], flat[names[1]])
        laid = panels.unrolled([panels.Panel((*names[1:], names[0]))], body, on)
        extra |= {name: laid[name] for name in names[0 if end else 2 :]}
        loop = [body[name] for name in names]
        area = area + panels.area(loop)
        lengths = [distance3(p, q) for p, q in pairwise([*loop, loop[0]])]
        rest = sum(lengths[2:], lengths[1])
        outline = outline + (rest + lengths[0] if end else rest - lengths[0])
    return extra, area, outline


def with_ends(d: Drawn, g: SheetCut, strip: Strip) -> Net:
    """Lay out the ends that are wanted; the whole net."""
    b, net = d.sheet.b, Net(panels.strip(strip.names), strip.flat, strip.on_body)
    for end in wanted(g.ends, g.is_whole and g.is_pointed):
        view = true_shape(d) if end and not g.is_whole and g.decide(lambda h: h.plane_angle) else d.one.low
        with b.block("cut end" if end else "pattern"):
            laid = lay_end(b, strip, end, view.images)
        if not end:
            net.flat |= laid
            hang(net, strip)
    return net


def measure(b: Board, strip: Strip, net: Net, begun: int, views: Images) -> None:
    """What is measured on the pattern of every solid with flat sides."""
    lengths = tuple(plane.distance(p, q) for p, q in zip(strip.lows, strip.highs, strict=True))
    b.find("edge_lengths", lengths[:-1])
    b.find("seam_length", lengths[0])
    b.find("lateral_area", absolute(plane.polygon_area(strip.outline)))
    b.find("area", total(strip))
    outline = around(strip.outline)
    for end, loop in strip.ends.items():
        outline = outline + added(loop, end)
    b.find("perimeter", outline)
    (_, high), (after, _) = strip.stations[:2]
    across = plane.distance(strip.lows[1], strip.highs[0]) - distance3(strip.body[after], strip.body[high])
    b.check("a side of the pattern is as long from corner to corner as in space", across)
    fold(b, net, begun, views)


def as_given(g: SheetCut) -> SheetCut:
    """The body that is given is that on the neutral line."""
    return g


def _height_at(solid: SheetCut, k: int) -> Number:
    return rises(solid)[k]


def conditions(lines: str, body: Callable[[Any], SheetCut] = as_given, *, strictly: bool = False) -> tuple[Condition, ...]:
    """The plane leaves the solid by its sides alone, there is such a seam, and its lap has room. ``body`` is the solid that
    the givens make, ``lines`` what it is laid out by; ``strictly`` where the cut may not just reach the top."""

    def least_rise(g: Any) -> Number:
        solid = body(g)
        return over_base(solid) - solid.height / THINNEST

    def room_above(g: Any) -> Number:
        solid = body(g)
        left: Number = solid.height + 0 if solid.is_whole else solid.height - reduce(larger, rises(solid))
        return left

    def seam(g: Any) -> Number:
        solid = body(g)
        return _height_at(solid, min(g.seam, solid.corners) - 1)

    return (
        Condition(
            "the cut stays on the sides",
            least_rise,
            "a cut at {cut_angle}, {cut_height} up the axis, leaves the sides at the base",
            ("cut_height", "cut_angle"),
            lambda g: {"cut_height": at_least(g.cut_height - least_rise(g.bound_in(PLAIN)) * 1.001, above=True)},
            strict=True,
        ),
        Condition(
            "the cut stays under the top",
            room_above,
            "a cut at {cut_angle}, {cut_height} up the axis, passes over the top of a solid {height} high",
            ("cut_height", "height", "cut_angle"),
            lambda g: {"height": at_least(g.height - room_above(g.bound_in(PLAIN)), above=True)},
            strict=strictly,
        ),
        seam_is_there(lines, lambda g: body(g).corners),
        lap_fits("the seam", seam, "seam"),
    )


def worded(body: str) -> Callable[[Mapping[str, str]], str]:
    """The brief of a body, with or without a cut."""

    def sentence(words: Mapping[str, str]) -> str:
        cut = " at {cut_angle} to HP, {cut_height} up the axis" if words["cut"] == "cut" else ""
        return f"Lay out flat {body}, {{cut}}{cut}; {SHEET_WORDS}"

    return sentence


SHEET_WORDS = "seam at {seam}, lap {lap} on {lap_on}, sheet {thickness} thick, ends laid out {ends}, inside {inside}."
