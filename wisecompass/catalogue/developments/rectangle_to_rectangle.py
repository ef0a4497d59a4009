"""Hopper from a rectangle to a rectangle, laid out flat by triangulation.

Every face is flat, because opposite edges of it are level and parallel; its two triangles are laid out from true
lengths, and each true length is the slope of a right triangle on its plan length with the height as upright.
Truth: vectors in space, each face turned into the sheet by its own axes.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import Number, absolute, hypot, larger, root, smaller
from wisecompass.catalogue.developments.hopper import Flat, Solid, net, refold_gap, solid, tabs, unrolled
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_most, choice, length, offset
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Setting, bare, reckoned, span, tree_of
from wisecompass.drafting.step import Instrument, Kind
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3, cross, distance3, norm

SEAMS = ("corner_1", "corner_2", "corner_3", "corner_4", "side_1", "side_2", "side_3", "side_4")
BOTTOM, TOP = "ABCD", "EFGH"
_PICTURE_EDGES = [tuple(edge) for edge in ("AE", "BF", "CG", "DH", "AB", "BC", "CD", "DA", "EF", "FG", "GH", "HE")]


@dataclass(frozen=True)
class Hopper(Givens):
    bottom_length: Number = length("bottom length", "118")
    bottom_width: Number = length("bottom width", "92")
    top_length: Number = length("top length", "44")
    top_width: Number = length("top width", "36")
    offset_x: Number = offset("offset to the right", "10")
    offset_y: Number = offset("offset to the front", "0")
    height: Number = length("height", "86")
    seam: str = choice("seam", *SEAMS)
    lap: Number = offset("lap", "0", least=Fraction(0))
    thickness: Number = offset("sheet thickness", "0", least=Fraction(0), most=Fraction(50))


def truth(g: Hopper, number: Make) -> Truth:
    body = solid(g, number)
    flat = unrolled(body)
    findings: dict[str, Number] = {}
    for i in range(4):
        findings[f"edge_{i + 1}"] = distance3(body.bottom[i], body.top[i])
        findings[f"diagonal_{i + 1}"] = distance3(body.bottom[(i + 1) % 4], body.top[i])
    faces = []
    for i in range(4):
        j = (i + 1) % 4
        faces.append(norm(cross(body.top[j] - body.bottom[i], body.top[i] - body.bottom[j])) / 2)
        findings[f"face_area_{i + 1}"] = faces[-1]
    seam = distance3(body.stations[0][0], body.stations[0][1])
    rims = [distance3(row[i], row[(i + 1) % 4]) for row in (body.bottom, body.top) for i in range(4)]
    findings["seam_length"] = seam
    findings["area"] = faces[0] + faces[1] + faces[2] + faces[3]
    findings["perimeter"] = sum(rims[1:], rims[0]) + seam * 2
    points: dict[str, Point | Point3] = {p.name: p for p in (*body.bottom, *body.top)}
    points |= {p.name: p for p in (*flat.bottom, *flat.top)}
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
    sheet = _Sheet(views, plan, elevation)
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


def _stations(sheet: _Sheet, g: Hopper) -> list[tuple[str, str]]:
    """Names of bottom and top point of every line from the seam round to the seam again."""
    start = int(g.seam[-1]) - 1
    order = [(start + k) % 4 for k in range(4)]
    if g.seam.startswith("corner"):
        return [(BOTTOM[i], TOP[i]) for i in (*order, start)]
    after = [(start + 1 + k) % 4 for k in range(4)]
    return [("M", "N"), *((BOTTOM[i], TOP[i]) for i in after), ("M", "N")]


def _seam_points(b: Board, sheet: _Sheet, g: Hopper) -> None:
    """For a seam up the middle of a side: the middles of its bottom and top edge, in both views."""
    if g.seam.startswith("corner"):
        return
    i = int(g.seam[-1]) - 1
    j = (i + 1) % 4
    for name, row, primed in (("M", BOTTOM, "m"), ("N", TOP, "n")):
        for drawn, label in ((sheet.plan, primed), (sheet.elevation, f"{primed}′")):
            start, end = drawn[row[i]], drawn[row[j]]
            if i % 2 and drawn is sheet.elevation:  # the front view shows this side as a line
                drawn[name] = b.mark_point(start.named(label))
            else:
                drawn[name] = b.divide(start, end, 2, [label], why="the seam ends there")[0]
    b.caution("Only half of this side goes to each end of the pattern.")
    b.line_in((sheet.plan["M"], sheet.plan["N"]), pen=Pen.FOLD)


def _true_length(b: Board, sheet: _Sheet, base: Line, rise: Line, low: str, high: str, *, back: bool) -> Setting:
    """Right triangle of plan length and height: its slope is the true length of low–high."""
    a, c = sheet.plan[low], sheet.plan[high]
    mark, top = f"{low}{high}", rise.at
    end = b.lay_off(base, base.at, span(a, c), f"{mark}/length", back=back, why="carried from the plan")
    if mark == "BE":
        b.caution("A length from either view alone is too short: only the slope of the diagram is true.")
    slope = b.joined(end, top, f"slope {mark}")
    b.extend(slope, top)
    with b.block(""):
        b.tint_line(a, c)
        b.tint_line(sheet.elevation[low], sheet.elevation[high])
    return span(end, top)


@method("triangulation", Exactness.EXACT)
def triangulation(b: Board, g: Hopper) -> None:
    sheet = _views(b, g)
    _seam_points(b, sheet, g)
    stations = _stations(sheet, g)
    true: dict[str, Setting] = {}
    with b.block("true lengths"):
        origin = b.point("Z", b.number(0), b.number(0), why="a diagram of true lengths, apart")
        base = b.level_line(origin, "base of the diagram")
        height = span(sheet.elevation["E"], sheet.views.ground)
        upright = b.upright_line(origin, "upright of the diagram")
        apex = b.lay_off(upright, origin, height, "Y", why="carried from the front view")
        rise = Line(apex, upright.dx, upright.dy, upright.name)
        wanted = [(low, high) for low, high in zip(BOTTOM, TOP, strict=True)]
        wanted += [s for s in stations if s not in wanted]
        diagonals = [(BOTTOM[(i + 1) % 4], TOP[i]) for i in range(4)]
        diagonals += [(after[0], before[1]) for before, after in zip(stations, stations[1:], strict=False)]
        for low, high in dict.fromkeys(wanted):
            true[low + high] = _true_length(b, sheet, base, rise, low, high, back=False)
        for low, high in dict.fromkeys(diagonals):
            true[low + high] = _true_length(b, sheet, base, rise, low, high, back=True)
    for i in range(4):
        b.find(f"edge_{i + 1}", true[BOTTOM[i] + TOP[i]].number)
        b.find(f"diagonal_{i + 1}", true[BOTTOM[(i + 1) % 4] + TOP[i]].number)
    begun = len(b.steps)
    flat = _lay_out(b, sheet, stations, true)
    _finish(b, g, sheet, stations, flat, begun)


def _lay_out(b: Board, sheet: _Sheet, stations: list[tuple[str, str]], true: dict[str, Setting]) -> Flat:
    """Triangle after triangle from the seam round to the seam, each by two arcs."""
    with b.block("pattern"):
        low, high = stations[0]
        start = b.point(f"{low}/flat", b.number(0), b.number(0), why="the seam begins the pattern")
        upright = b.upright_line(start, "seam")
        lows = [start]
        highs = [b.lay_off(upright, start, true[low + high], f"{high}/flat", why="the true length of the seam")]
        for k, (before, after) in enumerate(zip(stations, stations[1:], strict=False), 1):
            suffix = "flat end" if k == len(stations) - 1 else "flat"
            edge_below = span(sheet.plan[before[0]], sheet.plan[after[0]])
            by_edge = b.arc(lows[-1], edge_below, why="true in plan")
            by_diagonal = b.arc(highs[-1], true[after[0] + before[1]], why="the true diagonal")
            found = b.meet(by_edge, by_diagonal, plane.right_of(Line.through(lows[-1], highs[-1])), f"{after[0]}/{suffix}")
            _tint(b, sheet, (before[0], before[1], after[0]), (lows[-1], highs[-1], found))
            edge_above = span(sheet.plan[before[1]], sheet.plan[after[1]])
            by_edge = b.arc(highs[-1], edge_above, why="true in plan")
            by_corner = b.arc(found, true[after[0] + after[1]], why="the true edge")
            upper = b.meet(by_edge, by_corner, plane.right_of(Line.through(found, highs[-1])), f"{after[1]}/{suffix}")
            _tint(b, sheet, (before[1], after[0], after[1]), (highs[-1], found, upper))
            b.joined(found, highs[-1], "diagonal")
            lows.append(found)
            highs.append(upper)
    return Flat(lows, highs)


def _faces(b: Board, g: Hopper, stations: list[tuple[str, str]], flat: Flat) -> None:
    """The panels of the pattern; a seam along a face's middle leaves it in two halves."""
    areas: dict[int, Number] = {}
    for k, (before, after) in enumerate(zip(stations, stations[1:], strict=False)):
        panel = [flat.bottom[k], flat.bottom[k + 1], flat.top[k + 1], flat.top[k]]
        corner = before[0] if before[0] in BOTTOM else BOTTOM[BOTTOM.index(after[0]) - 1]
        size, face = absolute(plane.polygon_area(panel)), BOTTOM.index(corner)
        areas[face] = areas[face] + size if face in areas else size
    for face, size in areas.items():
        b.find(f"face_area_{face + 1}", size)


def _tint(b: Board, sheet: _Sheet, letters: tuple[str, str, str], flat: tuple[Point, Point, Point]) -> None:
    """The triangle at hand, alike in both views, in the picture and in the pattern."""
    b.tint(*flat)
    with b.block(""):
        b.tint(*(sheet.plan[letter] for letter in letters))
        b.tint(*(sheet.elevation[letter] for letter in letters))
    with b.block("picture"):
        b.tint(*(_pictured(sheet, letter) for letter in letters))


def _pictured(sheet: _Sheet, letter: str) -> Point:
    """A corner in a small oblique picture, read off both views."""
    low, high = sheet.plan[letter], sheet.elevation[letter]
    depth = sheet.plan["A"].y - low.y
    return Point((high.x - depth / 2) / 2, (sheet.views.above(high) * 9 / 10 - depth * 2 / 5) / 2, f"{letter}/picture")


def _finish(b: Board, g: Hopper, sheet: _Sheet, stations: list[tuple[str, str]], flat: Flat, begun: int) -> None:
    lows, highs = flat.bottom, flat.top
    rim = list(zip(lows, lows[1:], strict=False)) + list(zip(highs, highs[1:], strict=False))
    seams = [(lows[0], highs[0]), (lows[-1], highs[-1])]
    lapped = g.decide(lambda h: h.lap) > 0
    with b.block("pattern"):
        b.rotations["pattern"] = -float(plane.direction(lows[0], lows[-1])) if b.drawing else 0.0
        inner = list(zip(lows, highs, strict=True))[1:-1]
        b.line_in(*inner, pen=Pen.FOLD, why="where the sheet is bent")
        if lapped:
            b.line_in(*rim, seams[1], pen=Pen.FOLD, why="where the laps are bent")
            _draw_tabs(b, g, flat)
            b.line_in(seams[0], pen=Pen.CUT, why="the plain side of the seam")
        else:
            b.line_in(*rim, *seams, pen=Pen.CUT, why="the outline to be cut")
        b.caution("Cut edges are sharp and burred: wear gloves and deburr before folding.")
        b.caution("Mark the inside of the sheet: joined the wrong side out, the offset comes out mirrored.")
    outline = [*lows, *reversed(highs)]
    b.find("area", absolute(plane.polygon_area(outline)))
    _faces(b, g, stations, flat)
    around = plane.distance(outline[-1], outline[0])
    for p, q in zip(outline, outline[1:], strict=False):
        around = around + plane.distance(p, q)
    b.find("perimeter", around)
    b.find("seam_length", plane.distance(*seams[0]))
    body = Solid.of_views([b.solid_point(c) for c in BOTTOM], [b.solid_point(c) for c in TOP], g.seam)
    b.find("refold_gap", refold_gap(body, flat))
    b.folds(begun, *net(body))
    b.check("both edges of the seam are equally long", plane.distance(*seams[1]) - plane.distance(*seams[0]))
    for k in range(len(lows) - 1):
        b.check(f"panel {k + 1}: bottom and top edge are parallel", _unparallel(lows, highs, k))


def _unparallel(lows: list[Point], highs: list[Point], k: int) -> Number:
    """Cross product of the two rim edges of a panel over the length of one: how far one runs off the other, in mm."""
    below, above = Line.through(lows[k], lows[k + 1]), Line.through(highs[k], highs[k + 1])
    return (below.dx * above.dy - below.dy * above.dx) / hypot(below.dx, below.dy)


def _draw_tabs(b: Board, g: Hopper, flat: Flat) -> None:
    b.step("lap", Instrument.SET_SQUARE, setting=g.lap)
    for near_start, far_start, far_end, near_end in tabs(flat, bare(g.lap)):
        b.note("lap", (near_start, near_end), setting=g.lap)
        for p, q in ((near_start, far_start), (far_start, far_end), (far_end, near_end)):
            b.edge(p, q, Pen.CUT, told=False)


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


def _lap_fits(edge: str) -> Condition:
    def margin(g: Hopper) -> Number:
        side: Number = getattr(g, edge)
        return side / 4 - g.lap

    def nearest(g: Hopper) -> dict[str, str]:
        return {"lap": at_most(getattr(g, edge) / 4)}

    words = edge.replace("_", " ")
    sentence = f"a lap of {{lap}} is more than a quarter of the {words} {{{edge}}}"
    return Condition(f"lap within the {words}", margin, sentence, ("lap",), nearest)


PROBLEM = Problem(
    id="developments/rectangle-to-rectangle",
    title="Hopper laid out flat",
    brief=(
        "Lay out flat a hopper from a rectangle {bottom_length} × {bottom_width} to one {top_length} × {top_width}, "
        "{height} high, offset {offset_x} to the right and {offset_y} to the front; seam at {seam}, "
        "lap {lap}, sheet {thickness} thick."
    ),
    givens=Hopper,
    truth=truth,
    methods=(triangulation,),
    findings={f"edge_{i}": Kind.LENGTH for i in range(1, 5)}
    | {f"diagonal_{i}": Kind.LENGTH for i in range(1, 5)}
    | {"seam_length": Kind.LENGTH, "area": Kind.AREA, "perimeter": Kind.LENGTH}
    | {f"face_area_{i}": Kind.AREA for i in range(1, 5)}
    | {"refold_gap": Kind.LENGTH},
    source="Triangulation; true length as the slope over plan length and height.",
    conditions=tuple(map(_lap_fits, ("bottom_length", "bottom_width", "top_length", "top_width", "height"))),
    slips=(front_view_lengths, plan_lengths),
    cautions=(
        "Sheet metal cuts: gloves for handling, eyes shielded for cutting.",
        "The pattern is geometry; a joint that carries load is designed by a qualified person.",
    ),
)
