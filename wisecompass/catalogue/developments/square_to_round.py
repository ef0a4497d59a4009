"""From a rectangle to a circle over it, laid out by triangulation: four flat triangles on its sides, and at each corner a
quarter of an oblique cone between them.

Truth: the surface itself unrolled; the angle between two lines of a corner is an integral along the rim between them.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from wisecompass.arithmetic import Number, cos_deg, hypot, pi_times, roughly, sin_deg, turning_integral
from wisecompass.catalogue.developments.pattern import Station, Strip, finish, say_seam
from wisecompass.catalogue.developments.rims import (
    discs,
    girth_closes,
    greatest,
    level_circle,
    numbered,
    places,
    sagging,
    say_divisions,
)
from wisecompass.catalogue.developments.sheet import CAUTIONS, Sheet, lap_fits, neutral_line, seam_is_there, thin_enough
from wisecompass.catalogue.developments.transition import FINDINGS, disc, ends_of, faired, figures, measure, show, worth
from wisecompass.catalogue.developments.triangles import Diagram, flat_by_turns, lay_out
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, count
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import bare, span
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.drafting.step import Kind
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3, cross, distance3, dot, norm

CORNERS = "ABCD"
"""From the left in front anticlockwise as seen from above."""


@dataclass(frozen=True)
class _Sizes(Givens):
    length: Number = givens.length("length of the rectangle", "96")
    width: Number = givens.length("width of the rectangle", "96")
    diameter: Number = givens.length("diameter of the circle", "52")
    offset_x: Number = givens.offset("offset to the right", "0")
    offset_y: Number = givens.offset("offset to the front", "0")
    height: Number = givens.length("height", "78")
    divisions: int = count("divisions of the circle", "12", 4, 48)


@dataclass(frozen=True)
class SquareToRound(Sheet, _Sizes):
    """A hood of sheet; its rims lie on the neutral line, in their own planes."""

    def grown(self, name: str) -> Any:
        """A size on the neutral line: half the thickness outside on both sides."""
        size = getattr(self, name)
        return size + self.thickness if self.has_thickness else size

    @property
    def room(self) -> Any:
        return self.width / 2 + self.diameter / 2 + abs(self.offset_y) + self.thickness

    @property
    def rim(self) -> list[str]:
        return numbered("", self.divisions)

    @property
    def quarter(self) -> int:
        return self.divisions // 4

    def fan(self, corner: int) -> list[int]:
        """The points of the circle that a corner's lines go to, anticlockwise: C's from the right on, D's from behind, A's
        from the left, B's from the front."""
        begin = (corner - 2) % 4 * self.quarter
        return [(begin + k) % self.divisions for k in range(self.quarter + 1)]

    @property
    def stations(self) -> list[Station]:
        """The lines from the seam round to the seam. Where the seam goes to the point that a flat side ends in, it runs up
        the middle of that side, M."""
        ring = [(CORNERS[c % 4], self.rim[k]) for c in range(2, 6) for k in self.fan(c % 4)]
        at = self.rim[self.seam - 1]
        if (self.seam - 1) % self.quarter == 0:
            cut = next(k for k, (_, high) in enumerate(ring) if high == at and ring[k - 1][1] == at)
            found = [("M", at), *ring[cut:], *ring[:cut], ("M", at)]
        else:
            cut = next(k for k, (_, high) in enumerate(ring) if high == at)
            found = [*ring[cut:], *ring[:cut], ring[cut]]
        return found[::-1] if self.inside == "up" else found

    @property
    def halved(self) -> tuple[str, str] | None:
        """The ends of the side that the seam halves."""
        side, rest = divmod(self.seam - 1, self.quarter)
        return None if rest else (CORNERS[(side + 1) % 4], CORNERS[(side + 2) % 4])


def _space(g: SquareToRound) -> dict[str, Point3]:
    """Corners, circle and the middle of the side at the seam, in front of VP."""
    zero = g.height * 0
    long, wide = g.grown("length") / 2, g.grown("width") / 2
    found = {
        name: Point3(zero + x, g.room + y, zero, name)
        for name, (x, y) in zip(CORNERS, ((-long, wide), (long, wide), (long, -wide), (-long, -wide)), strict=True)
    }
    found["K"] = Point3(zero + g.offset_x, g.room + g.offset_y, zero + g.height, "K")
    found |= places(found["K"], g.grown("diameter") / 2, g.rim)
    if g.halved:
        first, second = (found[name] for name in g.halved)
        found["M"] = Point3((first.x + second.x) / 2, (first.front + second.front) / 2, zero, "M")
    return found


def _quarter_cone(g: SquareToRound, corner: Point3, centre: Point3) -> Callable[[Any, Any], tuple[Any, Any, Any]]:
    """A point of the circle seen from a corner, by the cosine and sine of its direction."""
    radius = g.grown("diameter") / 2
    x, y, z = centre.x - corner.x, centre.front - corner.front, centre.above - corner.above
    return lambda c, s: (x + radius * c, y - radius * s, z)


def _along(g: SquareToRound, at: Callable[[Any, Any], tuple[Any, Any, Any]]) -> Callable[[Any, Any], tuple[Any, Any]]:
    """For a direction the square of the distance, and that of what of it lies across the circle's own way."""

    def found(c: Any, s: Any) -> tuple[Any, Any]:
        x, y, z = at(c, s)
        out = x * c - y * s
        return x * x + y * y + z * z, out * out + z * z

    return found


def truth(g: SquareToRound, number: Make) -> Truth:
    space, stations, n = _space(g), g.stations, g.divisions
    radius, centre = g.grown("diameter") / 2, space["K"]
    straight = number(180) / pi_times(number(1))
    turns: dict[frozenset[Station], tuple[Number, Number]] = {}
    lateral = number(0)
    for c, name in enumerate(CORNERS):
        fan = g.fan(c)
        seen = _along(g, _quarter_cone(g, space[name], centre))

        def opened(c: Any, s: Any, root: Callable[[Any], Any], seen: Any = seen) -> Any:
            square, across = seen(c, s)
            return root(across) * radius / square

        def swept(c: Any, s: Any, root: Callable[[Any], Any], seen: Any = seen) -> Any:
            return root(seen(c, s)[1]) * radius

        begin = number(360) * fan[0] / n
        lateral = lateral + turning_integral(swept, begin, begin + 90) / 2
        for k, (first, second) in enumerate(pairwise(fan)):
            angle = turning_integral(opened, begin + number(360) * k / n, begin + number(360) * (k + 1) / n) * straight
            turns[frozenset(((name, g.rim[first]), (name, g.rim[second])))] = cos_deg(angle), sin_deg(angle)
        after, point = space[CORNERS[(c + 1) % 4]], space[g.rim[fan[-1]]]
        lateral = lateral + norm(cross(after - space[name], point - space[name])) / 2

    def turn(before: Station, after: Station) -> tuple[Number, Number]:
        key = frozenset((before, after))
        if key not in turns:  # two lines of a flat side
            tip = space[after[1]]
            p, q = space[before[0]] - tip, space[after[0]] - tip
            both = norm(p) * norm(q)
            turns[key] = dot(p, q) / both, norm(cross(p, q)) / both
        return turns[key]

    flat = flat_by_turns(stations, lambda line: distance3(space[line[0]], space[line[1]]), turn, number(0))
    lengths = [distance3(space[low], space[high]) for low, high in stations[:-1]]
    long, wide = g.grown("length"), g.grown("width")
    ends, more = ends_of(g.ends, (long * wide, (long + wide) * 2), disc(radius * 2))
    outline = (long + wide) * 2 + pi_times(radius) * 2
    found = figures(lengths, lateral, ends, outline + more)
    points: dict[str, Point | Point3] = {**space, **flat}
    return Truth(points=points, findings=found | {"worst_gap": _worst_gap(g, space)} | _flat_sides(g, space))


def _flat_sides(g: SquareToRound, space: Mapping[str, Point3]) -> dict[str, tuple[Number, ...]]:
    """The three sides of each flat triangle: along the rectangle, and to the circle from both corners."""
    found = {}
    for c, name in enumerate(CORNERS):
        after, point = CORNERS[(c + 1) % 4], g.rim[g.fan(c)[-1]]
        pairs = ((name, after), (name, point), (after, point))
        found[f"flat_sides_{c + 1}"] = tuple(distance3(space[p], space[q]) for p, q in pairs)
    return found


def _worst_gap(g: SquareToRound, space: Mapping[str, Point3]) -> Number:
    """How far the quarter cones stand off the flat facets at most, mm: in the middle of an arc of the circle."""
    gaps = []
    for c, name in enumerate(CORNERS):
        for first, second in pairwise(g.rim[k] for k in g.fan(c)):
            gaps.append(sagging([space[first], space[second], space[name]], space["K"], first, second, space))
    return greatest(gaps)


def _construct(b: Board, g: SquareToRound, *, by_chords: bool) -> None:
    views = Views.on(b, b.number(round(roughly(bare(g.room)) * 2 + roughly(bare(g.height)) * 1.1) + 1))
    up, low = views.front_view.images, views.top_view.images
    half_l, half_w = g.grown("length") / 2, g.grown("width") / 2
    zero = b.number(0)
    for name, x, front in (
        ("A", -half_l, g.room + half_w),
        ("B", half_l, g.room + half_w),
        ("C", half_l, g.room - half_w),
        ("D", -half_l, g.room - half_w),
    ):
        views.set_out(name, x, front, zero)
    b.caution("Number corners and circle the same way round, or a triangle is flipped.")
    views.set_out("K", g.offset_x, g.room + g.offset_y, g.height)
    level_circle(b, views, "K", g.grown("diameter"), g.rim, "rim")
    if g.halved:
        first, second = g.halved
        for view in (views.top_view, views.front_view):
            p, q = view.images[first], view.images[second]
            if view is views.front_view and (first, second) in (("B", "C"), ("D", "A")):
                view.images["M"] = b.mark_point(p.named(view.label("M")))
            else:
                view.images["M"] = b.divide(p, q, 2, [view.label("M")], why="the seam runs up the middle of the side")[0]
        b.caution("Only half of this side goes to each end of the pattern.")
    for name in (*g.rim, *("M" for _ in range(1) if g.halved)):
        views.know(name)
    stations = g.stations
    _line_in_views(b, g, views, stations)
    diagram = Diagram(b, low, lambda _: span(up[g.rim[0]], views.ground), _alike(g))
    diagram.find(stations, lambda high: "rim")
    begun = len(b.steps)

    def rim(p: str, q: str) -> Any:
        if p in g.rim and not by_chords:
            return reckoned_pi(g.grown("diameter")) / g.divisions
        return span(low[p], low[q])

    with b.block("pattern"):
        lows, highs = lay_out(b, stations, diagram.__getitem__, rim)
        say_divisions(b, g.grown("diameter"), g.divisions)
        strip = Strip(stations, lows, highs, {n: b.solid_point(n) for each in stations for n in each}, None, faired(b))
        lengths = [plane.distance(p, q) for p, q in zip(lows, highs, strict=True)]
        _say_seam(b, g, stations, lengths)
        inner = [(p, q) for p, q in zip(lows, highs, strict=True)][1:-1]
        b.line_in(*inner, pen=Pen.FOLD, why="the sheet is bent a little along each")
        finish(b, g, strip)
    _ends(b, g, views)
    diameter = plane.distance(low["K"], low[g.rim[0]]) * 2
    long, wide = plane.distance(low["A"], low["B"]), plane.distance(low["B"], low["C"])
    measure(b, strip, *ends_of(g.ends, (long * wide, (long + wide) * 2), disc(diameter)), begun, views)
    flat = [plane.distance(low[p], low[q]) for p, q in stations[:-1]]
    b.misread(height_forgotten.name, lambda: {"longest": greatest(flat)})
    if g.halved:
        half = plane.distance(*(low[name] for name in g.halved))
        b.misread(half_side_whole.name, lambda: {"perimeter": b.findings["perimeter"] + half})
    space = {name: b.solid_point(name) for name in (*CORNERS, *g.rim, "K")}
    b.find("worst_gap", _worst_gap(g, space))
    for name, sides in _flat_sides(g, space).items():
        b.find(name, sides)
    _check_a_side(b, g, strip, space)


def _check_a_side(b: Board, g: SquareToRound, strip: Strip, space: Mapping[str, Point3]) -> None:
    """One whole side of the rectangle lies in the pattern between two stations that follow each other."""
    for k, ((p, _), (q, _)) in enumerate(pairwise(strip.stations)):
        if p != q and "M" not in (p, q):
            laid = plane.distance(strip.lows[k], strip.lows[k + 1])
            b.check("a side of the rectangle is as long in the pattern as in space", laid - distance3(space[p], space[q]))
            return


def _say_seam(b: Board, g: SquareToRound, stations: list[Station], lengths: list[Number]) -> None:
    """The shortest line to each point of the circle, in their order."""
    by_point: dict[str, Number] = {}
    for (_, high), size in zip(stations, lengths, strict=True):
        if high not in by_point or (b.drawing and float(size) < float(by_point[high])):
            by_point[high] = size
    by_point[stations[0][1]] = lengths[0]
    say_seam(b, g, [by_point[name] for name in g.rim], "point")


def _alike(g: SquareToRound) -> Callable[[Station], Station]:
    """Lines that lie alike: to the front and behind without offset to the front, left and right without one to the right."""
    deep, wide = g.decide(lambda h: h.offset_y) == 0, g.decide(lambda h: h.offset_x) == 0
    n = g.divisions

    def turned(line: Station, swap: str, mirror: Callable[[int], int]) -> Station:
        low = line[0] if line[0] == "M" else swap[CORNERS.index(line[0])]
        return low, g.rim[mirror(g.rim.index(line[1])) % n]

    def first(line: Station) -> Station:
        if line[0] == "M":
            return line
        several = [line]
        if deep:
            several += [turned(each, "DCBA", lambda k: -k) for each in several]
        if wide:
            several += [turned(each, "BADC", lambda k: n // 2 - k) for each in several]
        return min(several, key=lambda each: (each[0], int(each[1])))

    return first


def _line_in_views(b: Board, g: SquareToRound, views: Views, stations: list[Station]) -> None:
    up, low = views.front_view.images, views.top_view.images
    right, left = g.rim[0], g.rim[g.divisions // 2]
    front = [(up["A"], up["B"]), (up["A"], up[left]), (up["B"], up[right]), (up[left], up[right])]
    b.line_in(*front, *((low[p], low[q]) for p, q in pairwise("ABCDA")), why="the front view, and the rectangle from above")
    b.line_in_arc(low["K"], low[right], low[right], name="rim")
    lines = list(dict.fromkeys(stations))
    b.line_in(*((low[p], low[q]) for p, q in lines), pen=Pen.CONSTRUCTION, why="the lines of the triangles")
    views.reach(*low.values())
    show(b, list(CORNERS), g.rim, lines)


def _ends(b: Board, g: SquareToRound, views: Views) -> None:
    """The rectangle and the circle as pieces apart."""
    if g.ends == "none":
        return
    low = views.top_view.images
    with b.block("base"):
        first = b.point("A/1", b.number(0), b.number(0), why="the rectangle, apart")
        along = b.level_line(first, "side of the base")
        second = b.lay_off(along, first, span(low["A"], low["B"]), "B/1", why="from the top view")
        corners = [first, second]
        for start, name in ((second, "C/1"), (first, "D/1")):
            side = b.upright_line(start, f"side at {start.name}")
            corners.append(b.lay_off(side, start, span(low["B"], low["C"]), name, why="from the top view"))
        b.line_in(*pairwise([*corners, first]), pen=Pen.CUT, why="the base")
    if g.ends == "both":
        discs(b, views, [("K", g.rim[0])])


@method("triangulation", Exactness.APPROXIMATE, worth=worth)
def triangulation(b: Board, g: SquareToRound) -> None:
    _construct(b, g, by_chords=True)


def _fans(g: SquareToRound) -> list[tuple[Number, Number]]:
    """The lengths of every two lines from a corner to points that follow each other on the circle."""
    space = _space(g)
    fans = [[distance3(space[name], space[g.rim[k]]) for k in g.fan(c)] for c, name in enumerate(CORNERS)]
    return [pair for fan in fans for pair in pairwise(fan)]


@method(
    "triangulation with the girth divided",
    Exactness.APPROXIMATE,
    girth_closes(lambda g: g.grown("diameter"), _fans),
    worth=worth,
)
def girth_divided(b: Board, g: SquareToRound) -> None:
    """Each step along the circle is a share of the girth, reckoned, instead of a chord."""
    _construct(b, g, by_chords=False)


@slip("lengths taken from the top view, the height forgotten")
def height_forgotten(g: SquareToRound, number: Make) -> dict[str, Number]:
    space = _space(g)
    lines = [(space[low], space[high]) for low, high in g.stations[:-1]]
    return {"longest": greatest([hypot(q.x - p.x, q.front - p.front) for p, q in lines])}


@slip("the half side at the seam counted whole")
def half_side_whole(g: SquareToRound, number: Make) -> dict[str, Number]:
    if not g.halved:
        return {}
    long, wide = g.grown("length"), g.grown("width")
    half = distance3(*(_space(g)[name] for name in g.halved)) / 2
    seam = distance3(*(_space(g)[name] for name in g.stations[0]))
    _, more = ends_of(g.ends, (long * wide, (long + wide) * 2), disc(g.grown("diameter")))
    return {"perimeter": (long + wide) * 2 + pi_times(g.grown("diameter")) + seam * 2 + more + half * 2}


def _quarters() -> Condition:
    return Condition(
        "divisions in fours",
        lambda g: g.height * 0 - g.divisions % 4,
        "{divisions} divisions cannot be shared by four corners",
        ("divisions",),
        lambda g: {"divisions": str(g.divisions + 4 - g.divisions % 4)},
    )


PROBLEM = Problem(
    id="developments/square-to-round",
    title="Rectangle to circle laid out flat",
    brief=(
        "Lay out flat a hood from a rectangle {length} × {width} to a circle {diameter} across, {height} high, offset "
        "{offset_x} to the right and {offset_y} to the front, by {divisions} divisions; seam at point {seam} of the circle, "
        "lap {lap} on {lap_on}, sheet {thickness} thick, ends laid out {ends}, inside {inside}."
    ),
    givens=SquareToRound,
    truth=truth,
    methods=(triangulation, girth_divided),
    findings=FINDINGS | {f"flat_sides_{k}": Kind.LENGTH for k in range(1, 5)},
    source="Triangulation; quarter cones by the integral of |P × P′| / |P|² along the rim.",
    conditions=(
        _quarters(),
        seam_is_there("point", lambda g: g.divisions),
        thin_enough("diameter"),
        lap_fits("a division of the rim", lambda g: pi_times(g.diameter) / g.divisions, "upper"),
        lap_fits("the length", lambda g: g.length / 2, "lower"),
        lap_fits("the width", lambda g: g.width / 2, "lower"),
        lap_fits("the height", lambda g: g.height, "seam"),
    ),
    slips=(height_forgotten, half_side_whole),
    cautions=CAUTIONS,
    beforehand=neutral_line,
)
