"""A tray with a flange, laid out in one piece: its bottom, walls hung on it and flanges hung on them, by straight folds.

Truth: corners by sums of the sizes; areas as rectangles.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise, product
from typing import Any

from wisecompass.arithmetic import Number, absolute, is_zero, roughly
from wisecompass.catalogue.developments.pattern import Net, draw_laps, fold, letter_bends
from wisecompass.catalogue.developments.sheet import CAUTIONS, lap_fits, neutral_line
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, choice
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import bare
from wisecompass.drafting.step import Instrument, Kind
from wisecompass.drafting.views import Views
from wisecompass.geometry import panels, plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3, distance3

WALLS = ("AB", "BC", "CD", "DA")
"""From that in front anticlockwise as seen from above."""

OVER = dict(zip("ABCD", "EFGH", strict=True))
"""The corners of the rim over those of the bottom."""

OUTER = dict(zip(((wall, n) for wall in WALLS for n in (1, 2)), "PQRSTUVW", strict=True))
"""The outer corners of the flange on each wall."""


@dataclass(frozen=True)
class Tray(Givens):
    length: Number = givens.length("length", "132")
    width: Number = givens.length("width", "84")
    height: Number = givens.length("height", "18")
    flange: Number = givens.offset("flange", "7", least=Fraction(0))
    lap: Number = givens.offset("lap at the corners", "0", least=Fraction(0))
    thickness: Number = givens.offset("sheet thickness", "0", least=Fraction(0), most=Fraction(50))
    inside: str = choice("inside of the sheet", "up", "down")

    @property
    def has_flange(self) -> bool:
        return not is_zero(bare(self.flange))

    def grown(self, name: str) -> Any:
        """A size of the bottom on the neutral line: the walls lie half the thickness outside on both sides."""
        size = getattr(self, name)
        return size if is_zero(bare(self.thickness)) else size + self.thickness


def _space(g: Tray) -> dict[str, Point3]:
    """Bottom, rim and flange in front of VP."""
    zero = g.height * 0
    long, deep, out = g.grown("length"), g.grown("width"), g.flange + 0
    near = g.width * 2 + g.flange
    corners = {"A": (zero, near), "B": (long, near), "C": (long, near - deep), "D": (zero, near - deep)}
    found = {name: Point3(x, front, zero, name) for name, (x, front) in corners.items()}
    found |= {OVER[name]: Point3(p.x, p.front, zero + g.height, OVER[name]) for name, p in list(found.items())}
    if g.has_flange:
        for wall, (x, front) in zip(WALLS, ((0, 1), (1, 0), (0, -1), (-1, 0)), strict=True):
            for n, corner in enumerate(wall, 1):
                p = found[OVER[corner]]
                found[OUTER[wall, n]] = Point3(p.x + out * x, p.front + out * front, p.above)
    return found


def _spots(g: Tray, number: Make) -> dict[str, Point]:
    """The corners in the flat: A at the origin, B to the right of it; with the inside down to the left."""
    zero, way = number(0), 1 if g.inside == "up" else -1
    long, deep, high, out = g.grown("length"), g.grown("width"), g.height, g.flange
    found = {"A/flat": (zero, zero), "B/flat": (long, zero), "C/flat": (long, deep), "D/flat": (zero, deep)}
    ways = {"AB": (0, -1), "BC": (1, 0), "CD": (0, 1), "DA": (-1, 0)}
    for wall, (x, y) in ways.items():
        for n, corner in enumerate(wall, 1):
            cx, cy = found[f"{corner}/flat"]
            found[_rim(wall, n)] = (cx + high * x, cy + high * y)
            if g.has_flange:
                found[_flange(wall, n)] = (cx + (high + out) * x, cy + (high + out) * y)
    return {name: Point(x * way, y, name) for name, (x, y) in found.items()}


def _rim(wall: str, n: int) -> str:
    """A corner of the rim in the flat: twice there, at the end of one wall and at the beginning of the next."""
    return f"{OVER[wall[n - 1]]}/flat{' end' if n == 1 else ''}"


def _net(g: Tray) -> list[panels.Panel]:
    """The bottom, the walls on it, the flanges on them; anticlockwise in the flat."""
    turned = g.inside == "up"

    def loop(*names: str) -> tuple[str, ...]:
        return names if turned else names[::-1]

    def hinge(first: str, second: str) -> tuple[str, str]:
        return (first, second) if turned else (second, first)

    found = [panels.Panel(loop("A/flat", "B/flat", "C/flat", "D/flat"))]
    for wall in WALLS:
        first, second = (f"{corner}/flat" for corner in wall)
        low, high = _rim(wall, 1), _rim(wall, 2)
        found.append(panels.Panel(loop(second, first, low, high), 0, hinge(second, first)))
        if g.has_flange:
            corners = (high, low, _flange(wall, 1), _flange(wall, 2))
            found.append(panels.Panel(loop(*corners), len(found) - 1, hinge(high, low)))
    return found


def _on_body(g: Tray, space: dict[str, Point3]) -> dict[str, Point3]:
    found = {f"{name}/flat": space[name] for name in "ABCD"}
    for wall in WALLS:
        for n in (1, 2):
            found[_rim(wall, n)] = space[OVER[wall[n - 1]]]
            if g.has_flange:
                found[_flange(wall, n)] = space[OUTER[wall, n]]
    return found


def truth(g: Tray, number: Make) -> Truth:
    long, deep, high, out = g.grown("length"), g.grown("width"), g.height, g.flange
    edge = (long + deep) * 2
    points: dict[str, Any] = {**_space(g), **_spots(g, number)}
    return Truth(
        points=points,
        findings={
            "blank_length": long + (high + out) * 2,
            "blank_width": deep + (high + out) * 2,
            "lateral_area": edge * high,
            "area": long * deep + edge * (high + out),
            "perimeter": edge + (high + out) * 8,
        },
    )


@method("straight folds", Exactness.EXACT)
def straight_folds(b: Board, g: Tray) -> None:
    views = _views(b, g)
    begun = len(b.steps)
    with b.block("pattern"):
        found = _lay_out(b, g)
        net, body = _net(g), _on_body(g, {name: b.solid_point(name) for name in _space(g)})
        _finish(b, g, found, Net(net, found, body))
    fold(b, Net(net, found, body), begun, (views.front_view.images, views.top_view.images))
    wide = [found[name] for name in (_outer(g, "DA", 1), _outer(g, "BC", 1))]
    tall = [found[name] for name in (_outer(g, "AB", 1), _outer(g, "CD", 1))]
    b.find("blank_length", absolute(wide[1].x - wide[0].x))
    b.find("blank_width", absolute(tall[1].y - tall[0].y))
    long, across, flange = absolute(wide[1].x - wide[0].x), absolute(tall[1].y - tall[0].y), bare(g.flange)
    b.misread(a_wall_forgotten.name, lambda: {"blank_length": long - bare(g.height)})
    without = {"blank_length": long - flange * 2, "blank_width": across - flange * 2}
    b.misread(flanges_forgotten.name, lambda: without)
    sizes = [absolute(plane.polygon_area([found[name] for name in panel.corners])) for panel in net]
    b.find("area", sum(sizes[1:], sizes[0]))
    walls = [size for panel, size in zip(net, sizes, strict=True) if panel.holder == 0]
    b.find("lateral_area", sum(walls[1:], walls[0]))
    outline = _outline(g, found)
    lengths = [plane.distance(p, q) for p, q in pairwise([*outline, outline[0]])]
    b.find("perimeter", sum(lengths[1:], lengths[0]))
    low = {name: b.solid_point(name) for name in "ABCD"}
    b.check(
        "the last side of the bottom is as long as in space",
        plane.distance(found["C/flat"], found["D/flat"]) - distance3(low["C"], low["D"]),
    )
    b.check(
        "both diagonals of the bottom are equally long",
        plane.distance(found["A/flat"], found["C/flat"]) - plane.distance(found["B/flat"], found["D/flat"]),
    )


def _outer(g: Tray, wall: str, n: int) -> str:
    return _flange(wall, n) if g.has_flange else _rim(wall, n)


def _outline(g: Tray, found: dict[str, Point]) -> list[Point]:
    """Round the whole pattern, in at every corner."""
    names: list[str] = []
    for wall in WALLS:
        flange = [_flange(wall, 1), _flange(wall, 2)] if g.has_flange else []
        names += [f"{wall[0]}/flat", _rim(wall, 1), *flange, _rim(wall, 2)]
    return [found[name] for name in names]


def _views(b: Board, g: Tray) -> Views:
    """Front and top view: bottom and rim, and the flange round it."""
    room = roughly(bare(g.width)) * 3 + roughly(bare(g.flange)) * 3 + roughly(bare(g.height)) * 2
    views = Views.on(b, b.number(round(room) + 1))
    long, deep, zero = g.grown("length"), g.grown("width"), b.number(0)
    near = g.width * 2 + g.flange
    for name, x, front in (("A", zero, near), ("B", long, near), ("C", long, near - deep), ("D", zero, near - deep)):
        views.set_out(name, x, front, zero)
    up, low = views.front_view, views.top_view
    level = None
    for name in "ABCD":
        over = OVER[name]
        if level is None:
            image = b.lay_off(views.projectors[name], up.images[name], g.height, up.label(over), why="the height")
            level = b.level_line(image, "level of the rim")
        else:
            b.pencil()
            image = b.meet(level, views.projectors[name], name=up.label(over))
        up.images[over] = image
        low.images[over] = b.mark_point(low.images[name].named(low.label(over)))
        views.know(over)
    b.line_in(*((up.images[p], up.images[q]) for p, q in ("AB", "AE", "BF", "EF")), why="the front view")
    b.line_in(*((low.images[p], low.images[q]) for p, q in pairwise("ABCDA")), why="the top view")
    for p, q in (*pairwise("ABCDA"), *pairwise("EFGHE"), *OVER.items()):
        b.in_space(p, q)
    if g.has_flange:
        _flange_in_views(b, g, views, level)
    views.reach(*low.images.values())
    return views


def _flange_in_views(b: Board, g: Tray, views: Views, level: Line | None) -> None:
    assert level is not None
    up, low = views.front_view.images, views.top_view.images
    lines = {side: b.line(low[side[0]], low[side[1]]) for side in ("AB", "CD", "AD", "BC")}
    for one, other in (("AB", "CD"), ("BC", "DA")):
        text = f"The flange over {one} and {other}: outwards in the top view, level in the front view"
        with b.gathered("flange", Instrument.SCALE, text):
            for wall, n in product((one, other), (1, 2)):
                name, corner = OUTER[wall, n], wall[n - 1]
                deep, wide = "AD" if corner in "AD" else "BC", "AB" if corner in "AB" else "CD"
                line = lines[deep if wall in ("AB", "CD") else wide]
                label = views.top_view.label(name)
                low[name] = b.lay_off(line, low[corner], g.flange, label, back=_towards(line, wall))
                views.project(name, views.top_view, views.front_view, level)
                views.know(name)
    edges = []
    for wall in WALLS:
        first, second = OUTER[wall, 1], OUTER[wall, 2]
        edges += [(low[first], low[second]), (low[first], low[wall[0]]), (low[second], low[wall[1]])]
        for p, q in ((first, second), (first, OVER[wall[0]]), (second, OVER[wall[1]])):
            b.in_space(p, q)
    b.line_in(*edges, (up[OUTER["DA", 1]], up[OUTER["BC", 1]]), why="the flange, and on edge in the front view")


def _towards(line: Line, wall: str) -> bool:
    """Whether outwards over a wall is against a line's own way."""
    x, y = {"AB": (0, -1), "BC": (1, 0), "CD": (0, 1), "DA": (-1, 0)}[wall]
    return roughly(line.dx) * x + roughly(line.dy) * y < 0


def _lay_out(b: Board, g: Tray) -> dict[str, Point]:
    down = g.inside == "down"
    first = b.point("A/flat", b.number(0), b.number(0), why="the bottom begins the pattern")
    found = {"A/flat": first}
    front = b.level_line(first, "front edge")
    found["B/flat"] = b.lay_off(front, first, g.grown("length"), "B/flat", back=down, why="the length")
    sides = {corner: b.upright_line(found[f"{corner}/flat"], f"side at {corner}₀") for corner in "AB"}
    found["D/flat"] = b.lay_off(sides["A"], first, g.grown("width"), "D/flat", why="the width")
    found["C/flat"] = b.lay_off(sides["B"], found["B/flat"], g.grown("width"), "C/flat", why="the width")
    rear = b.level_line(found["D/flat"], "back edge")
    b.caution("Walls and flanges are measured outwards from the bottom: left out at one end the blank comes out short.")
    sizes = [(g.height, "the height", _rim)] + ([(g.flange, "the flange", _flange)] if g.has_flange else [])
    for one, other in (("AB", "CD"), ("BC", "DA")):
        words = " and ".join(f"{wall[0]}₀{wall[1]}₀" for wall in (one, other))
        with b.gathered("wall", Instrument.SCALE, f"The walls on {words}, outwards"):
            for k, (size, why, name) in enumerate(sizes):
                for wall, n in product((one, other), (1, 2)):
                    corner = wall[n - 1]
                    upright = sides["A" if corner in "AD" else "B"]
                    line = upright if wall in ("AB", "CD") else front if corner in "AB" else rear
                    back = wall == "AB" if wall in ("AB", "CD") else (wall == "DA") != down
                    start = found[_rim(wall, n)] if k else found[f"{corner}/flat"]
                    found[name(wall, n)] = b.lay_off(line, start, size, name(wall, n), back=back, why=why)
    return found


def _flange(wall: str, n: int) -> str:
    return f"{OUTER[wall, n]}/flat"


def _finish(b: Board, g: Tray, found: dict[str, Point], net: Net) -> None:
    hinges = [(found[p], found[q]) for panel in net.panels[1:] for p, q in [panel.hinge]]
    b.line_in(*hinges, pen=Pen.FOLD, why="where the sheet is bent, as lettered: up is towards the eye")
    letter_bends(b, net)
    if roughly(bare(g.lap)):
        edges = _lapped(g, found)
        draw_laps(b, g.lap, edges)
    left = {(_spot(p), _spot(q)) for p, q in (_lapped(g, found) if roughly(bare(g.lap)) else ())}
    outline = _outline(g, found)
    cut = [(p, q) for p, q in pairwise([*outline, outline[0]]) if (_spot(p), _spot(q)) not in left]
    b.line_in(*cut, pen=Pen.CUT, why="the outline to be cut")
    b.caution("Cut edges are sharp and burred: wear gloves and deburr before folding.")
    side = "inside" if g.inside == "up" else "outside"
    b.caution(f"The {side} of the sheet lies up: mark it before folding.")


def _lapped(g: Tray, found: dict[str, Point]) -> Sequence[tuple[Point, Point]]:
    """The upright edges of the two end walls, anticlockwise round the pattern."""
    pairs = [("B/flat", _rim("BC", 1)), (_rim("BC", 2), "C/flat"), ("D/flat", _rim("DA", 1)), (_rim("DA", 2), "A/flat")]
    if g.inside == "down":
        pairs = [(q, p) for p, q in pairs]
    return [(found[p], found[q]) for p, q in pairs]


def _spot(p: Point) -> tuple[float, float]:
    return roughly(p.x), roughly(p.y)


@slip("one wall forgotten in the length")
def a_wall_forgotten(g: Tray, number: Make) -> dict[str, Number]:
    whole: Any = truth(g, number).findings["blank_length"]
    return {"blank_length": whole - g.height}


@slip("the flanges forgotten")
def flanges_forgotten(g: Tray, number: Make) -> dict[str, Number]:
    found: Any = truth(g, number).findings
    return {name: found[name] - g.flange * 2 for name in ("blank_length", "blank_width")}


PROBLEM = Problem(
    id="developments/tray",
    title="Tray laid out flat",
    brief=(
        "Lay out flat a tray {length} × {width}, {height} high, with a flange {flange} wide; lap {lap} at the corners, "
        "sheet {thickness} thick, inside {inside}."
    ),
    givens=Tray,
    truth=truth,
    methods=(straight_folds,),
    findings={
        "blank_length": Kind.LENGTH,
        "blank_width": Kind.LENGTH,
        "lateral_area": Kind.AREA,
        "area": Kind.AREA,
        "perimeter": Kind.LENGTH,
        "refold_gap": Kind.LENGTH,
    },
    source="Walls and flanges unfolded about the edges that they hang on.",
    conditions=(lap_fits("the height", lambda g: g.height),),
    slips=(a_wall_forgotten, flanges_forgotten),
    cautions=CAUTIONS,
    beforehand=neutral_line,
)
