"""A circle in a face of an isometric: its rhombus, and on that four arcs, points by ordinates, or points by the diagonal
rule.

In natural scale a circle of diameter d is an ellipse with the axes d √(3/2) and d √(1/2), the longer one square to the axis
that is square to the face. The four arcs are centred on the blunt corners of the rhombus (radius d √3/2) and where the lines
from these to the opposite middles cross (radius d / (2 √3)).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any, TypeAlias

from wisecompass.arithmetic import Number, absolute, cos_deg, larger, root, roughly, sin_deg, sqrt
from wisecompass.catalogue.pictorial.iso import FACES, Crate
from wisecompass.drafting import marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import Settable, bare, span
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.curves import smooth_through
from wisecompass.geometry.plane import Line, Point

LONG_WAY = {"top": 0, "left": 120, "right": 60}
"""Direction of the long axis of the ellipse in each face, degrees."""

SQUARE_TO = {"top": "up", "left": "right", "right": "front"}
"""The axis square to each face."""

Signs: TypeAlias = tuple[int, int]

ROUND_THE_MIDDLES: tuple[Signs, ...] = ((1, 0), (0, 1), (-1, 0), (0, -1))


def semi_axes(diameter: Number) -> tuple[Number, Number]:
    """Half the long and the short axis of the ellipse of a circle, as long as its drawn diameter along the axes, mm."""
    half = diameter / 2
    return half * sqrt(half * 0 + 3) / sqrt(half * 0 + 2), half / sqrt(half * 0 + 2)


def off_the_ellipse(p: Point, centre: Point, diameter: Number, face: str) -> Number:
    """Distance of a point from the true ellipse, to first order: (F / |grad F|)."""
    a, c = semi_axes(diameter)
    turn = a * 0 + LONG_WAY[face]
    dx, dy = p.x - centre.x, p.y - centre.y
    x, y = dx * cos_deg(turn) + dy * sin_deg(turn), dy * cos_deg(turn) - dx * sin_deg(turn)
    value = x * x / (a * a) + y * y / (c * c) - 1
    return value / (2 * root(x * x / (a * a * a * a) + y * y / (c * c * c * c)))


@dataclass
class Rhombus:
    """The square about a circle as a face shows it. ``middles`` and ``corners`` are told by how many half diameters they
    lie along the two axes of the face from the centre."""

    b: Board
    face: str
    centre: Point
    size: Settable
    """The diameter as it is set along the axes."""
    lines: tuple[Line, Line]
    tag: str = ""
    middles: dict[Signs, Point] = field(default_factory=dict)
    corners: dict[Signs, Point] = field(default_factory=dict)

    @property
    def half(self) -> Any:
        return self.size / 2

    @property
    def blunt(self) -> tuple[Signs, Signs]:
        """The two corners of more than 90°: of the top face those before and behind, else those beside."""
        return ((-1, -1), (1, 1)) if self.face == "top" else ((1, -1), (-1, 1))

    @property
    def sharp(self) -> tuple[Signs, Signs]:
        return ((1, -1), (-1, 1)) if self.face == "top" else ((-1, -1), (1, 1))

    def name(self, word: str) -> str:
        return f"{word}{self.tag}"


def rhombus(b: Board, face: str, centre: Point, size: Settable, lines: tuple[Line, Line], tag: str = "") -> Rhombus:
    """The centre lines of the face, half the diameter both ways along both, and the light rhombus through these middles."""
    found = Rhombus(b, face, centre, size, lines, tag)
    names = iter(("M", "N", "P", "Q"))
    ways = tuple("upright" if way == "up" else way for way in FACES.get(face, ("level", "up")))
    with b.gathered("lay off", Instrument.SCALE, "Half the diameter both ways along both centre lines"):
        for k, line in enumerate(lines):
            for sign in (1, -1):
                at = (sign, 0) if k == 0 else (0, sign)
                found.middles[at] = b.lay_off(line, centre, found.half, found.name(next(names)), back=sign < 0)
    sides: dict[Signs, Line] = {}
    with b.gathered("parallel", Instrument.SET_SQUARE, "The light square through these middles, as the face shows it"):
        for at, middle in found.middles.items():
            k = 1 if at[0] else 0
            sides[at] = b.parallel(lines[k], middle, f"{ways[k]} side at {middle.name}")
    letters = iter(("1", "2", "3", "4"))
    b.pencil()
    for s, t in ((-1, -1), (1, -1), (1, 1), (-1, 1)):
        found.corners[s, t] = b.meet(sides[s, 0], sides[0, t], name=found.name(f"R{next(letters)}"))
    _halved(found)
    return found


def _halved(r: Rhombus) -> None:
    """The centre halves both diagonals."""
    for kind, pair in (("short", r.blunt), ("long", r.sharp)):
        first, second = (plane.distance(r.centre, r.corners[at]) for at in pair)
        r.b.check(f"{r.centre.name} halves the {kind} diagonal", first - second)


CRATE_CORNERS = {"top": "EHGF", "left": "ADHE", "right": "ABFE"}
"""Corners of a crate about a face, from that with least of both axes, first along the first axis."""


def rhombus_in_crate(b: Board, face: str, crate: Crate, size: Settable) -> Rhombus:
    """The square about a circle where it is a whole face of a crate: centre lines from the middles of two edges."""
    names = CRATE_CORNERS[face]
    a, c, d, e = (crate.at[name] for name in names)
    foot, wall, top, far = (_edge(crate, names[i] + names[j]) for i, j in ((0, 1), (0, 3), (3, 2), (1, 2)))
    found = Rhombus(b, face, a, size, (foot, wall))
    with b.gathered("parallel", Instrument.SET_SQUARE, "Both centre lines of the face, and the middles of its edges"):
        low, beside = b.lay_off(foot, a, found.half, "Q"), b.lay_off(wall, a, found.half, "N")
        across, along = b.parallel(wall, low, "centre line across"), b.parallel(foot, beside, "centre line along")
        found.centre = b.meet(along, across, name="C0")
        found.middles = {(1, 0): b.meet(along, far, name="M"), (-1, 0): beside}
        found.middles |= {(0, 1): b.meet(across, top, name="P"), (0, -1): low}
    found.lines = along, across
    found.corners = dict(zip(((-1, -1), (1, -1), (1, 1), (-1, 1)), (a, c, d, e), strict=True))
    _halved(found)
    return found


def _edge(crate: Crate, name: str) -> Line:
    return crate.edges.get(name) or crate.edges[name[::-1]]


@dataclass
class FourArcs:
    """The centres of the four arcs, and where each begins and ends, anticlockwise."""

    of: Rhombus
    large: dict[Signs, Point]
    small: dict[Signs, Point]
    opening: Settable
    small_opening: Settable

    def ends(self, at: Signs) -> tuple[Point, Point]:
        """Both ends of an arc, told by the corner of the rhombus: of a large one the opposite middles, of a small one those
        beside it."""
        s, t = at
        way = -1 if at in self.large else 1
        first, second = self.of.middles[s * way, 0], self.of.middles[0, t * way]
        centre = self.large[at] if at in self.large else self.small[at]
        turn = (roughly(first.x) - roughly(centre.x)) * (roughly(second.y) - roughly(centre.y))
        turn -= (roughly(first.y) - roughly(centre.y)) * (roughly(second.x) - roughly(centre.x))
        return (first, second) if turn > 0 else (second, first)


def four_arcs(r: Rhombus) -> FourArcs:
    """Lines from the blunt corners to the opposite middles; where they cross lie the small centres."""
    b = r.b
    rays: dict[tuple[Signs, Signs], Line] = {}
    small: dict[Signs, Point] = {}
    letters = iter(("S1", "S2"))
    with b.gathered("join", Instrument.STRAIGHTEDGE, "The four centres: both blunt corners, and where their lines cross"):
        for s, t in r.blunt:
            for middle in ((-s, 0), (0, -t)):
                rays[(s, t), middle] = b.line(r.corners[s, t], r.middles[middle], why="to a middle opposite")
        for s, t in r.sharp:
            one = next(ray for (_, middle), ray in rays.items() if middle == (s, 0))
            other = next(ray for (_, middle), ray in rays.items() if middle == (0, t))
            small[s, t] = b.meet(one, other, name=r.name(next(letters)))
    b.caution("The large arcs are swung from the BLUNT corners of the rhombus, never from the sharp ones.")
    first = r.blunt[0]
    opening = span(r.corners[first], r.middles[-first[0], 0])
    near = r.sharp[0]
    return FourArcs(r, {at: r.corners[at] for at in r.blunt}, small, opening, span(small[near], r.middles[near[0], 0]))


def measured(r: Rhombus, long: Number, short: Number) -> Number:
    """The worst gap to the true ellipse of what is so long and so short: at an end of an axis."""
    true_long, true_short = semi_axes(plane.distance(r.middles[1, 0], r.middles[-1, 0]))
    return larger(absolute(true_long - long / 2), absolute(true_short - short / 2))


def reach_of_four(f: FourArcs) -> tuple[Number, Number, Number]:
    """How long and how short the oval of four arcs is, and its worst gap to the true ellipse."""
    first, second = (f.small[at] for at in f.of.sharp)
    long = plane.distance(first, second) + bare(f.small_opening) * 2
    short = bare(f.opening) * 2 - plane.distance(*(f.of.corners[at] for at in f.of.blunt))
    return long, short, measured(f.of, long, short)


def line_in_four(f: FourArcs, name: str = "rim") -> None:
    """All four arcs, the large ones first."""
    for kind, several in (("large arc", f.large), ("small arc", f.small)):
        for k, (at, centre) in enumerate(several.items(), 1):
            start, end = f.ends(at)
            f.of.b.line_in_arc(centre, start, end, name=f"{kind} {k} of the {name}")


# ---------------------------------------------------------------------------------------------------------- by ordinates
@dataclass
class Flat:
    """The circle drawn flat beside the picture: its centre, the feet of the ordinates on its level diameter, and the points
    over them."""

    centre: Point
    radius: Settable
    feet: list[Point]
    tops: list[Point]
    signs: list[int]
    divisions: int
    slanting: tuple[Point, Point]
    """The point at 45° and the foot of its ordinate: it becomes the ends of both axes of the ellipse."""


def flat_circle(b: Board, size: Settable, divisions: int) -> Flat:
    """The circle flat, divided equally from its right-hand end, with an upright ordinate to each point of its upper half."""
    half: Any = size / 2
    with b.block("flat circle"):
        centre = b.point("O0", b.number(0), b.number(0), why="the centre of the circle drawn flat")
        level = b.level_line(centre, "level diameter", pen=Pen.CENTRE)
        ring = b.arc(centre, half, name="flat circle", whole=True, why="half the diameter")
        points = b.divide_circle(ring, divisions, 0, "", why="for the ordinates")
        count = (divisions - 1) // 2
        feet, tops, signs = [], [], []
        for k in range(1, count + 1):
            foot = (
                centre if 4 * k == divisions else b.square_from(level, points[k], f"F{points[k].name}", why="its ordinate")
            )
            feet.append(foot)
            tops.append(points[k])
            signs.append(0 if foot is centre else 1 if 4 * k < divisions else -1)
        if divisions % 8:
            slant = b.set_square_line(centre, 45, "diameter at 45°")
            b.pencil()
            top = b.meet(ring, slant, plane.beyond(slant), "K")
            slanting = top, b.square_from(level, top, "FK", why="its ordinate")
        else:
            slanting = tops[divisions // 8 - 1], feet[divisions // 8 - 1]
    return Flat(centre, half, feet, tops, signs, divisions, slanting)


@dataclass(frozen=True)
class Carried:
    """A point of the circle in the face, and by how many half diameters it lies along both axes from the centre."""

    point: Point
    u: float
    v: float


def by_ordinates(r: Rhombus, flat: Flat, name: str = "P") -> list[Carried]:
    """The points carried from the flat circle: each foot along the first axis of the face, its ordinate both ways along the
    second; those at 45° are the ends of the axes and are carried as such."""
    b, (first, second) = r.b, r.lines
    found: list[Carried] = []
    for k, (foot, top, sign) in enumerate(zip(flat.feet, flat.tops, flat.signs, strict=True), 1):
        if not sign or 8 * k in (flat.divisions, 3 * flat.divisions):
            continue  # its ordinate ends in the middles, or in the ends of the axes
        at = b.lay_off(first, r.centre, span(flat.centre, foot), r.name(f"{name}{k}"), back=sign < 0, why="as in the circle")
        line = b.parallel(second, at, f"ordinate through {at.name}")
        high = b.lay_off(line, at, span(foot, top), f"{at.name}′", why="its ordinate")
        low = b.lay_off(line, at, span(foot, top), f"{at.name}″", back=True, why="and as far the other way")
        turn = math.tau * k / flat.divisions
        found += [Carried(high, math.cos(turn), math.sin(turn)), Carried(low, math.cos(turn), -math.sin(turn))]
    return found


def all_by_ordinates(r: Rhombus, flat: Flat, name: str = "P") -> tuple[dict[Signs, Point], list[Carried]]:
    """The ends of both axes, and all points of the circle in their order round the centre: these, those by ordinates, and
    the middles."""
    ends = axis_ends(r, flat)
    half = math.sqrt(0.5)
    several = [*by_ordinates(r, flat, name), *(Carried(p, s * half, t * half) for (s, t), p in ends.items())]
    several += [Carried(p, float(s), float(t)) for (s, t), p in r.middles.items()]
    way = 1.0 if r.face != "top" else -1.0  # the second axis lies to the right of the first there
    return ends, sorted(several, key=lambda each: math.atan2(each.v * way, each.u))


def axis_ends(r: Rhombus, flat: Flat) -> dict[Signs, Point]:
    """The ends of the long and the short axis, towards the corners of the rhombus: the points at 45° of the flat circle,
    carried like all others."""
    b, (first, second) = r.b, r.lines
    top, foot = flat.slanting
    found: dict[Signs, Point] = {}
    letters = iter(("K1", "K2", "K3", "K4"))
    with b.gathered("lay off", Instrument.DIVIDERS, "The ends of both axes: the points at 45°, carried both ways"):
        for s in (1, -1):
            at = b.lay_off(first, r.centre, span(flat.centre, foot), r.name(f"Z{'1' if s > 0 else '2'}"), back=s < 0)
            line = b.parallel(second, at, f"ordinate through {at.name}")
            for t in (1, -1):
                found[s, t] = b.lay_off(line, at, span(foot, top), r.name(next(letters)), back=t < 0)
    return found


def eight_points(r: Rhombus, share: Settable) -> tuple[list[Point], list[Point]]:
    """The diagonal rule: on every half diagonal a point at a share from the centre, that of half the diameter being so long;
    and these with the middles in their order round the centre."""
    b, corners = r.b, r.corners
    rising = b.line(corners[-1, -1], corners[1, 1], r.name("diagonal 1"))
    falling = b.line(corners[1, -1], corners[-1, 1], r.name("diagonal 2"))
    why = "the share of half the diameter"
    marked = [
        b.lay_off(r.lines[0], r.centre, share, r.name(name), back=back, why=why)
        for name, back in (("1", False), ("2", True))
    ]
    points: list[Point] = []
    for mark, names in zip(marked, (("P1", "P2"), ("P3", "P4")), strict=True):
        across = b.parallel(r.lines[1], mark, f"across at {mark.name}", why="it cuts both diagonals at the same share")
        b.pencil()
        points += [b.meet(across, line, name=r.name(n)) for line, n in zip((rising, falling), names, strict=True)]
    return points, round_about(r, points)


def fair_through(r: Rhombus, through: Sequence[Point], name: str) -> None:
    """One smooth curve through points, in their order."""
    spots = [(roughly(p.x), roughly(p.y)) for p in through]
    r.b.fair_curve(lambda: smooth_through(spots), through, name, closed=True)


def round_about(r: Rhombus, points: Sequence[Point]) -> list[Point]:
    """Plotted points and middles in their order round the centre."""
    several = [*points, *r.middles.values()]
    x, y = roughly(r.centre.x), roughly(r.centre.y)
    return sorted(several, key=lambda p: math.atan2(roughly(p.y) - y, roughly(p.x) - x))


# ------------------------------------------------------------------------------------------------------- what is drawn
def true_ellipse(b: Board, centre: Point, diameter: Number, face: str, pen: Pen = Pen.LOCUS) -> None:
    """The true ellipse thin over the drawing, to be compared with."""
    if b.drawing:
        a, c = (float(bare(each)) for each in semi_axes(bare(diameter)))
        x, y = float(centre.x), float(centre.y)
        b.put(
            marks.Ellipse, cx=x, cy=y, semi_major=a, semi_minor=c, angle=float(LONG_WAY[face]), pen=pen, name="true ellipse"
        )
