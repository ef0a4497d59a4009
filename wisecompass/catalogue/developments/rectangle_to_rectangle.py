"""Hopper from a rectangle to a rectangle, laid out flat by triangulation.

Every face is flat, because opposite edges of it are level and parallel; its two triangles are laid out from true
lengths, and each true length is the slope of a right triangle on its plan length with the height as upright.
Truth: vectors in space, each face turned into the sheet by its own axes.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from functools import partial
from itertools import pairwise
from operator import attrgetter
from typing import Any

from wisecompass.arithmetic import Number, absolute, hypot, larger, root, smaller
from wisecompass.catalogue.developments.attached import added, end_names, hang, lay_end, wanted
from wisecompass.catalogue.developments.hopper import BOTTOM, TOP, corners
from wisecompass.catalogue.developments.pattern import Net, Station, Strip, around, finish, flat_names, fold, total
from wisecompass.catalogue.developments.sheet import CAUTIONS, ENDS, LAPPED, Jointed, lap_fits, neutral_line
from wisecompass.catalogue.developments.triangles import Diagram, lay_out, lines_between, true_flat
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, choice, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.setting import Setting, bare, reckoned, span, tree_of
from wisecompass.drafting.step import Instrument, Kind
from wisecompass.drafting.views import Views
from wisecompass.geometry import panels, plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3, cross, distance3, norm

SEAMS = ("corner_1", "corner_2", "corner_3", "corner_4", "side_1", "side_2", "side_3", "side_4")
_PICTURE_EDGES = [tuple(edge) for edge in ("AE", "BF", "CG", "DH", "AB", "BC", "CD", "DA", "EF", "FG", "GH", "HE")]


@dataclass(frozen=True)
class _Sizes(Givens):
    bottom_length: Number = length("bottom length", "118")
    bottom_width: Number = length("bottom width", "92")
    top_length: Number = length("top length", "44")
    top_width: Number = length("top width", "36")
    offset_x: Number = givens.offset("offset to the right", "10")
    offset_y: Number = givens.offset("offset to the front", "0")
    height: Number = length("height", "86")
    seam: str = choice("seam", *SEAMS)
    lap: Number = givens.offset("lap", "0", least=Fraction(0))
    thickness: Number = givens.offset("sheet thickness", "0", least=Fraction(0), most=Fraction(50))
    inside: str = choice("inside of the sheet", "down", "up")
    lap_on: str = choice("laps on", *LAPPED)
    ends: str = choice("ends laid out", *ENDS)


@dataclass(frozen=True)
class Hopper(Jointed, _Sizes):
    """A hopper of sheet; its sizes are inside sizes."""

    @property
    def halved(self) -> int | None:
        """The side that the seam halves, counted from 0 in front."""
        return int(self.seam[-1]) - 1 if self.seam.startswith("side") else None

    @property
    def stations(self) -> list[Station]:
        """The edges from the seam round to the seam."""
        start, way = int(self.seam[-1]) - 1, self.way_round
        if self.halved is None:
            return [(BOTTOM[(start + way * k) % 4], TOP[(start + way * k) % 4]) for k in range(5)]
        first = start + 1 if way > 0 else start
        edges = [(BOTTOM[(first + way * k) % 4], TOP[(first + way * k) % 4]) for k in range(4)]
        return [("M", "N"), *edges, ("M", "N")]


def truth(g: Hopper, number: Make) -> Truth:
    body, stations = corners(g, number), g.stations
    flat = true_flat(stations, body, number(0))
    findings: dict[str, Value] = {}
    for i in range(4):
        findings[f"edge_{i + 1}"] = distance3(body[BOTTOM[i]], body[TOP[i]])
        findings[f"diagonal_{i + 1}"] = distance3(body[BOTTOM[(i + 1) % 4]], body[TOP[i]])
    faces = []
    for i in range(4):
        j = (i + 1) % 4
        across, along = body[TOP[j]] - body[BOTTOM[i]], body[TOP[i]] - body[BOTTOM[j]]
        faces.append(norm(cross(across, along)) / 2)
        findings[f"face_area_{i + 1}"] = faces[-1]
    edges = [distance3(body[low], body[high]) for low, high in stations]
    rims = [[distance3(body[row[i]], body[row[(i + 1) % 4]]) for i in range(4)] for row in (BOTTOM, TOP)]
    lateral = faces[0] + faces[1] + faces[2] + faces[3]
    area, outline = lateral, sum((*rims[0], *rims[1]), edges[0] * 2)
    holder = 0 if g.halved is None else 1
    extra: dict[str, Point] = {}
    for end in wanted(g.ends, pointed=False):
        letters, names = end_names(stations, end, holder)
        area = area + rims[end][0] * rims[end][1]
        outline = outline + (rims[end][0] + rims[end][1]) * 2
        if not end:
            outline = outline - distance3(body[letters[0]], body[letters[1]]) * 2
            hinge = flat_names(stations)
            on = flat[hinge[holder + 1][0]], flat[hinge[holder][0]]
        else:
            on = Point(number(0), number(0)), Point(number(1), number(0))
        places = {name: body[letter] for letter, name in zip(letters, names, strict=True)}
        laid = panels.unrolled([panels.Panel((*names[1:], names[0]))], places, on)
        extra |= {name: laid[name] for name in names[0 if end else 2 :]}
    findings |= {"lateral_area": lateral, "area": area, "perimeter": outline}
    findings |= {"seam_length": edges[0], "edge_lengths": tuple(edges[:-1])}
    points: dict[str, Point | Point3] = {**body, **flat, **extra}
    return Truth(points=points, findings=findings)


@dataclass
class _Sheet:
    """The two views as drawn, corner by corner, with the neutral sizes that they were drawn from."""

    views: Views
    plan: dict[str, Point]
    elevation: dict[str, Point]


def _neutral(b: Board, g: Hopper) -> dict[str, Any]:
    """How far each side moves out so that the pattern bends on the neutral line, half the thickness outside."""
    runs = {
        "front": (g.bottom_width - g.top_width) / 2 - g.offset_y,
        "right": (g.bottom_length - g.top_length) / 2 - g.offset_x,
        "back": (g.bottom_width - g.top_width) / 2 + g.offset_y,
        "left": (g.bottom_length - g.top_length) / 2 + g.offset_x,
    }
    if g.decide(lambda h: h.thickness) == 0:
        return dict.fromkeys(runs, 0)
    b.step("say", Instrument.REASON, setting=g.thickness / 2)
    b.say("The sizes are inside sizes: move every side out by half the thickness, measured square to its face")
    return {side: _outwards(g, run) for side, run in runs.items()}


def _outwards(g: Hopper, run: Any) -> Setting:
    """How far the neutral line lies outside a side that runs in by so much over the height."""
    number = bare(g.thickness) / 2 * hypot(run, g.height) / bare(g.height)
    square = ("+", ("*", tree_of(run), tree_of(run)), ("*", "height", "height"))
    return reckoned(number, ("/", ("*", ("/", "thickness", 2), ("sqrt", square)), "height"))


def _views(b: Board, g: Hopper) -> _Sheet:
    out = _neutral(b, g)
    half_l, half_w = g.bottom_length / 2, g.bottom_width / 2
    top_l, top_w = g.top_length / 2, g.top_width / 2
    back = smaller(-half_w, g.offset_y - top_w) - bare(out["back"])
    centre = bare(g.bottom_length / 8) - back  # the fold line stands clear of the figure by an eighth of its length
    reach = larger(half_w, g.offset_y + top_w) + bare(out["front"])
    views = Views.on(b, reach + centre + bare(g.height + g.bottom_length / 8))
    plan: dict[str, Point] = {}
    middle = views.wall.at.y - centre
    first: tuple[Any, Any] | None = None
    for letters, left, right, near, far in (
        (BOTTOM, -half_l, half_l, half_w, -half_w),
        (TOP, g.offset_x - top_l, g.offset_x + top_l, g.offset_y + top_w, g.offset_y - top_w),
    ):
        left, right = left - out["left"], right + out["right"]
        near, far = near + out["front"], far - out["back"]
        for letter, (x, front) in zip(letters, ((left, near), (right, near), (right, far), (left, far)), strict=True):
            first = first or (x, front)
            plan[letter] = b.set_off(views.top_view.label(letter), (x, middle - front), (x - first[0], first[1] - front))
        b.caution("Number the corners the same way round at bottom and top, or a triangle is flipped.")
        place = "bottom" if letters == BOTTOM else "top"
        pairs = zip(letters, letters[1:] + letters[0], strict=True)
        b.line_in(*((plan[p], plan[q]) for p, q in pairs), why=f"the {place} in plan")
    b.line_in(*((plan[low], plan[high]) for low, high in zip(BOTTOM, TOP, strict=True)), why="the corner edges in plan")
    elevation = _elevation(b, g, views, plan)
    edges = [("A", "B"), ("E", "F"), ("A", "E"), ("B", "F"), ("D", "H"), ("C", "G"), ("D", "C"), ("H", "G")]
    b.line_in(*((elevation[p], elevation[q]) for p, q in edges[:4]), why="the front view")
    for p, q in edges[4:6]:
        b.edge(elevation[p], elevation[q])
    views.reach(*plan.values())
    for letter in BOTTOM + TOP:
        views.read(letter, elevation[letter], plan[letter])
    views.top_view.images |= plan
    views.front_view.images |= elevation
    sheet = _Sheet(views, views.top_view.images, views.front_view.images)
    with b.block("picture"):
        for start, end in _PICTURE_EDGES:
            pen = Pen.HIDDEN if "D" in (start, end) else Pen.GIVEN
            b.edge(_pictured(sheet, start), _pictured(sheet, end), pen, told=False)
    b.dimension(plan["A"], plan["B"], offset=-8)
    b.dimension(plan["B"], plan["C"], offset=-8)
    b.dimension(elevation["A"], Point(elevation["A"].x, elevation["E"].y), offset=17)
    return sheet


def _elevation(b: Board, g: Hopper, views: Views, plan: dict[str, Point]) -> dict[str, Point]:
    """Projectors from every corner: the bottom on the ground line, the top on a level at the height."""
    found: dict[str, Point] = {}
    names = views.front_view.label
    high: Line | None = None
    for letter in BOTTOM + TOP:
        projector = b.upright_line(plan[letter], f"projector of {letter}", pen=Pen.PROJECTOR)
        if letter in BOTTOM:
            found[letter] = b.meet(projector, views.ground, name=names(letter))
        elif high is None:
            foot = b.meet(projector, views.ground)
            found[letter] = b.lay_off(projector, foot, g.height, names(letter), why="the height")
            high = b.level_line(found[letter], "level of the top")
        else:
            found[letter] = b.meet(projector, high, name=names(letter))
        b.touch(views.ground, found[letter]) if letter in BOTTOM else None
    return found


def _pictured(sheet: _Sheet, letter: str) -> Point:
    """A corner in a small oblique picture, read off both views."""
    low, high = sheet.plan[letter], sheet.elevation[letter]
    depth = sheet.plan["A"].y - low.y
    return Point((high.x - depth / 2) / 2, (sheet.views.above(high) * 9 / 10 - depth * 2 / 5) / 2, f"{letter}/picture")


def _seam_points(b: Board, sheet: _Sheet, g: Hopper) -> None:
    """For a seam up the middle of a side: the middles of its bottom and top edge, in both views."""
    i = g.halved
    if i is None:
        return
    j = (i + 1) % 4
    for name, row, primed in (("M", BOTTOM, "m"), ("N", TOP, "n")):
        for drawn, label in ((sheet.plan, primed), (sheet.elevation, f"{primed}′")):
            start, end = drawn[row[i]], drawn[row[j]]
            if i % 2 and drawn is sheet.elevation:  # the front view shows this side as a line
                drawn[name] = b.mark_point(start.named(label))
            else:
                drawn[name] = b.divide(start, end, 2, [label], why="the seam ends there")[0]
        sheet.views.know(name)
    b.caution("Only half of this side goes to each end of the pattern.")
    b.line_in((sheet.plan["M"], sheet.plan["N"]), pen=Pen.FOLD)


def _alike(g: Hopper) -> Callable[[Station], Station]:
    """Lines that lie alike: to the front and behind without offset to the front, left and right without one to the right."""
    deep, wide = g.decide(lambda h: h.offset_y) == 0, g.decide(lambda h: h.offset_x) == 0

    def turned(line: Station, swap: str) -> Station:
        low, high = line
        return swap[BOTTOM.index(low)], TOP[BOTTOM.index(swap[TOP.index(high)])]

    def first(line: Station) -> Station:
        if line[0] == "M" or line[1] == "N":
            return line
        several = [line]
        if deep:
            several += [turned(each, "DCBA") for each in several]
        if wide:
            several += [turned(each, "BADC") for each in several]
        return min(several)

    return first


@method("triangulation", Exactness.EXACT)
def triangulation(b: Board, g: Hopper) -> None:
    sheet = _views(b, g)
    _seam_points(b, sheet, g)
    stations = g.stations
    diagram = Diagram(b, sheet.plan, lambda _: span(sheet.elevation["E"], sheet.views.ground), _alike(g))
    edges = [(low, high) for low, high in zip(BOTTOM, TOP, strict=True)]
    diagonals = [(BOTTOM[(i + 1) % 4], TOP[i]) for i in range(4)]
    lines = list(dict.fromkeys([*edges, *diagonals, *lines_between(stations)]))
    diagram.find(lines, lambda high: "top", [*edges, *stations])
    for i in range(4):
        b.find(f"edge_{i + 1}", diagram[edges[i]].number)
        b.find(f"diagonal_{i + 1}", diagram[diagonals[i]].number)
    for words, view in ((front_view_lengths.name, sheet.elevation), (plan_lengths.name, sheet.plan)):
        seen = {f"edge_{i}": plane.distance(view[low], view[high]) for i, (low, high) in enumerate(edges, 1)}
        b.misread(words, partial(dict, seen))
    begun = len(b.steps)
    with b.block("pattern"):
        lows, highs = lay_out(b, stations, diagram.__getitem__, lambda p, q: span(sheet.plan[p], sheet.plan[q]))
        b.rotations["pattern"] = -float(plane.direction(lows[0], lows[-1])) if b.drawing else 0.0
        body = {name: b.solid_point(name) for each in stations for name in each}
        strip = Strip(stations, lows, highs, body, holder=0 if g.halved is None else 1)
    net = Net(panels.strip(strip.names), strip.flat, strip.on_body)
    for end in wanted(g.ends, pointed=False):
        with b.block("top end" if end else "pattern"):
            laid = lay_end(b, strip, end, sheet.plan)
        if not end:
            net.flat |= laid
            hang(net, strip)
    with b.block("pattern"):
        _say_seam(b, g)
        finish(b, g, strip, net)
    _measure(b, g, strip)
    fold(b, net, begun, (sheet.elevation, sheet.plan))


def _say_seam(b: Board, g: Hopper) -> None:
    """Which seam would be the shortest, and what it saves."""
    if b.book is None:
        return
    space = {name: b.solid_point(name) for name in BOTTOM + TOP}
    lengths = {f"corner_{k + 1}": distance3(space[BOTTOM[k]], space[TOP[k]]) for k in range(4)}
    for k in range(4):
        low, high = ((space[row[k]] + space[row[(k + 1) % 4]]).scaled(b.number(1) / 2) for row in (BOTTOM, TOP))
        lengths[f"side_{k + 1}"] = distance3(low, high)
    best = min(lengths, key=lambda name: round(float(lengths[name]), 6))
    saved = float(lengths[g.seam]) - float(lengths[best])
    if saved > float(lengths[g.seam]) * 1e-6:
        words = best.replace("_", " ")
        b.caution(f"The seam at {words} would be {saved:.1f} mm shorter; the shortest seam is the usual choice.")


def _measure(b: Board, g: Hopper, strip: Strip) -> None:
    areas: dict[int, Number] = {}
    lows, highs = strip.lows, strip.highs
    for k, ((low, _), (after, _)) in enumerate(pairwise(strip.stations)):
        size = absolute(plane.polygon_area([lows[k], lows[k + 1], highs[k + 1], highs[k]]))
        face = _face_between(g, low, after)
        areas[face] = areas[face] + size if face in areas else size
        b.check(f"panel {k + 1}: bottom and top edge are parallel", _unparallel(lows, highs, k))
    for face, size in areas.items():
        b.find(f"face_area_{face + 1}", size)
    b.find("lateral_area", absolute(plane.polygon_area(strip.outline)))
    b.find("area", total(strip))
    outline = around(strip.outline)
    for end, loop in strip.ends.items():
        outline = outline + added(loop, end)
    b.find("perimeter", outline)
    lengths = [plane.distance(p, q) for p, q in zip(lows, highs, strict=True)]
    b.find("seam_length", lengths[0])
    b.find("edge_lengths", tuple(lengths[:-1]))


def _face_between(g: Hopper, low: str, after: str) -> int:
    """The side between two lines that follow each other; on both sides of the seam up its middle it is the halved one."""
    if g.halved is not None and "M" in (low, after):
        return g.halved
    first, second = BOTTOM.index(low), BOTTOM.index(after)
    return first if second == (first + 1) % 4 else second


def _unparallel(lows: list[Point], highs: list[Point], k: int) -> Number:
    """Cross product of the two rim edges of a panel over the length of one: how far one runs off the other, in mm."""
    below, above = Line.through(lows[k], lows[k + 1]), Line.through(highs[k], highs[k + 1])
    return (below.dx * above.dy - below.dy * above.dx) / hypot(below.dx, below.dy)


@slip("lengths taken from the front view instead of true lengths")
def front_view_lengths(g: Hopper, number: Make) -> dict[str, Number]:
    run_left = (g.bottom_length - g.top_length) / 2 + g.offset_x
    run_right = (g.bottom_length - g.top_length) / 2 - g.offset_x
    left, right = (root(run * run + g.height * g.height) for run in (run_left, run_right))
    return {"edge_1": left, "edge_2": right, "edge_3": right, "edge_4": left}


@slip("lengths taken from the plan, the height forgotten")
def plan_lengths(g: Hopper, number: Make) -> dict[str, Number]:
    run = (g.bottom_length - g.top_length) / 2 + g.offset_x
    across = (g.bottom_width - g.top_width) / 2 - g.offset_y
    return {"edge_1": root(run * run + across * across)}


PROBLEM = Problem(
    id="developments/rectangle-to-rectangle",
    title="Hopper laid out flat",
    brief=(
        "Lay out flat a hopper from a rectangle {bottom_length} × {bottom_width} to one {top_length} × {top_width}, "
        "{height} high, offset {offset_x} to the right and {offset_y} to the front; seam at {seam}, "
        "lap {lap} on {lap_on}, sheet {thickness} thick, ends laid out {ends}, inside {inside}."
    ),
    givens=Hopper,
    truth=truth,
    methods=(triangulation,),
    findings={f"edge_{i}": Kind.LENGTH for i in range(1, 5)}
    | {f"diagonal_{i}": Kind.LENGTH for i in range(1, 5)}
    | {"seam_length": Kind.LENGTH, "edge_lengths": Kind.LENGTH}
    | {"lateral_area": Kind.AREA, "area": Kind.AREA, "perimeter": Kind.LENGTH}
    | {f"face_area_{i}": Kind.AREA for i in range(1, 5)}
    | {"refold_gap": Kind.LENGTH},
    source="Triangulation; true length as the slope over plan length and height.",
    conditions=tuple(
        lap_fits(f"the {name.replace('_', ' ')}", attrgetter(name), where)
        for name, where in (
            ("bottom_length", "lower"),
            ("bottom_width", "lower"),
            ("top_length", "upper"),
            ("top_width", "upper"),
            ("height", "seam"),
        )
    ),
    slips=(front_view_lengths, plan_lengths),
    cautions=CAUTIONS,
    beforehand=neutral_line,
)
