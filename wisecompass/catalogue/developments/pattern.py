"""A pattern between two rims: what is cut and folded, the laps, the figures that are measured on it, and the way back.

Stations are the lines that the body is laid out by, from the seam round to the seam, each with its low and its high end.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import reduce
from itertools import pairwise, product
from typing import Any, TypeAlias

from wisecompass.arithmetic import Number, absolute, larger, roughly
from wisecompass.catalogue.developments.sheet import Jointed, Seamed
from wisecompass.drafting import marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import bare
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.view import Belonging, Triple
from wisecompass.drafting.wording import lettered
from wisecompass.geometry import panels, plane
from wisecompass.geometry.least_box import least_box
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3, distance3

Station: TypeAlias = tuple[str, str]
Fair: TypeAlias = Callable[[Sequence[Point], str, Pen], None]
"""Draws the rim through its points, with the title of the curve and its pen."""

RIMS = ("lower", "upper")

Spot: TypeAlias = tuple[float, float]
Images: TypeAlias = Sequence[Mapping[str, Point]]
"""Where the letters of the body are in its views, of each view."""


def flat_names(stations: Sequence[Station]) -> list[Station]:
    """What the ends of the stations are called in the flat. Where the pattern comes back to a letter that it has left it is
    its ``end``."""
    rows = [_one_row([station[end] for station in stations]) for end in (0, 1)]
    return list(zip(*rows, strict=True))


def _one_row(letters: Sequence[str]) -> list[str]:
    found: list[str] = []
    for k, letter in enumerate(letters):
        if k and letters[k - 1] == letter:
            found.append(found[-1])
        else:
            found.append(f"{letter}/flat{' end' if letter in letters[:k] else ''}")
    return found


@dataclass
class Strip:
    """The pattern as drawn, and where its stations are on the body. ``round_low`` and ``round_high`` say which of its rims
    are curves."""

    stations: list[Station]
    lows: list[Point]
    highs: list[Point]
    body: dict[str, Point3]
    fair_low: Fair | None = None
    fair_high: Fair | None = None
    straight: tuple[int, ...] = ()
    """Rims that come out as one straight line."""
    ends: dict[int, list[Point]] = field(default_factory=dict)
    """Ends that are laid out, each with its corners: 0 the lower, which hangs on a side, 1 the upper, apart."""
    holder: int = 0
    """The side that the lower end hangs on, counted from the seam."""

    @property
    def names(self) -> list[Station]:
        return flat_names(self.stations)

    @property
    def flat(self) -> dict[str, Point]:
        found: dict[str, Point] = {}
        for (low, high), p, q in zip(self.names, self.lows, self.highs, strict=True):
            found[low], found[high] = p, q
        return found

    @property
    def on_body(self) -> dict[str, Point3]:
        """The places on the body, by the names of the flat."""
        found: dict[str, Point3] = {}
        for (low, high), (p, q) in zip(self.names, self.stations, strict=True):
            found[low], found[high] = self.body[p], self.body[q]
        return found

    @property
    def outline(self) -> list[Point]:
        """Corners of the pattern without its ends, anticlockwise."""
        return [p for p, q in pairwise([*self.lows, *reversed(self.highs), self.lows[0]]) if p is not q]

    def edges(self, end: int) -> list[tuple[Point, Point]]:
        """The straight edges of a rim, anticlockwise round the pattern; the one that an end hangs on is left out."""
        row = list(pairwise((self.lows, self.highs)[end]))
        if end == 0 and 0 in self.ends:
            del row[self.holder]
        return [(q, p) for p, q in reversed(row) if p is not q] if end else [(p, q) for p, q in row if p is not q]


@dataclass
class Net:
    """Panels that hang on each other, with their corners in the flat and on the body."""

    panels: list[panels.Panel]
    flat: dict[str, Point]
    body: dict[str, Point3]


def around(loop: Sequence[Point]) -> Number:
    """Length of a closed outline of straight edges, mm."""
    lengths = [plane.distance(p, q) for p, q in pairwise([*loop, loop[0]])]
    return sum(lengths[1:], lengths[0])


def finish(b: Board, g: Jointed, strip: Strip, net: Net | None = None) -> None:
    """Line in what is cut and what is folded, the laps, and check that the pattern closes. The panels of the ``net`` are
    bent at their hinges; a pattern without is rolled."""
    up = "up" if g.inside == "up" else "down"
    first, last = ((strip.lows[k], strip.highs[k]) for k in (0, -1))
    cut, folded = [first], list[tuple[Point, Point]]()
    (folded if g.laps_at("seam") else cut).append(last)
    for end, (fair, row) in enumerate(((strip.fair_low, strip.lows), (strip.fair_high, strip.highs))):
        straight = [(row[0], row[-1])] if end in strip.straight else strip.edges(end) if fair is None else []
        (folded if g.laps_at(RIMS[end]) else cut).extend(straight)
    if net is not None:
        inner = list(zip(strip.lows, strip.highs, strict=True))[1:-1]
        inner += [(strip.lows[strip.holder], strip.lows[strip.holder + 1])] if 0 in strip.ends else []
        b.line_in(*inner, pen=Pen.FOLD, why="where the sheet is bent, as lettered: up is towards the eye")
        letter_bends(b, net)
    if folded:
        b.line_in(*folded, pen=Pen.FOLD, why=f"where the laps are folded {up}")
    if g.is_lapped:
        _draw_laps(b, g, strip)
    b.line_in(*cut, pen=Pen.CUT, why="the outline to be cut" if not g.is_lapped else "the edges without a lap")
    for end, (row, fair) in enumerate(((strip.lows, strip.fair_low), (strip.highs, strip.fair_high))):
        if fair is not None:
            fair(row, f"{RIMS[end]} rim", Pen.FOLD if g.laps_at(RIMS[end]) else Pen.CUT)
    b.caution("Cut edges are sharp and burred: wear gloves and deburr before folding.")
    side = "inside" if g.inside == "up" else "outside"
    b.caution(f"The {side} of the sheet lies up: mark it; joined the wrong side out, the body comes out mirrored.")
    say_halves(b, strip)
    say_size(b)
    b.check("both edges of the seam are equally long", plane.distance(*last) - plane.distance(*first))


def say_size(b: Board) -> None:
    """The sheet that the pattern needs as it is drawn, laps and all, with room for nothing more."""
    if b.book is None:  # while somebody types
        return
    places = [place for mark in b.drawn_with(Pen.CUT) for place in marks.sampled(mark)]
    long, wide = (math.ceil(size * 10 - 1e-6) / 10 for size in least_box(places))
    b.caution(f"The pattern takes a sheet of {long:g} mm × {wide:g} mm, what is cut off it counted.")


def say_halves(b: Board, strip: Strip) -> None:
    """Whether one half of the pattern is the other turned over, so that half of it is enough."""
    count = len(strip.lows) - 1
    if b.book is None or strip.ends:
        return

    def sizes(k: int, way: int) -> tuple[float, ...]:
        low, high = strip.lows[k], strip.highs[k]
        after, over = strip.lows[k + way], strip.highs[k + way]
        pairs = ((low, high), (low, after), (high, over), (low, over), (after, high))
        return tuple(float(plane.distance(p, q)) for p, q in pairs)

    if not all(_alike(sizes(k, 1), sizes(count - k, -1)) for k in range((count + 1) // 2)):
        return
    names = [lettered(low) for low, _ in strip.names[count // 2 :]]
    where = f"up the middle of {names[0]}{names[1]}" if count % 2 else f"through {names[0]}"
    b.caution(f"Both halves are alike about the line {where}: lay out one, and double the sheet about this line.")


def _alike(first: Sequence[float], second: Sequence[float]) -> bool:
    return all(abs(p - q) < 1e-7 * (1 + p) for p, q in zip(first, second, strict=True))


def letter_bends(b: Board, net: Net) -> None:
    """Along the folds how far the sheet is bent, and which way; of several that are bent alike only along the first."""
    if not b.drawing:
        return
    lined = [mark for mark in b.drawn_with(Pen.FOLD) if isinstance(mark, marks.Segment)]
    said: set[str] = set()
    for (start, end), size in panels.folds(net.panels, net.body):
        words = f"{abs(size):.3g}°\u00a0{'up' if size > 0 else 'down'}"
        if words in said:
            continue
        said.add(words)
        ends = _spots((net.flat[start], net.flat[end]))
        for mark in lined:
            if _alike_ends(((mark.x1, mark.y1), (mark.x2, mark.y2)), ends):
                mark.name = words


def _alike_ends(first: Sequence[Spot], second: Sequence[Spot]) -> bool:
    return any(math.dist(first[0], p) + math.dist(first[1], q) < 1e-9 for p, q in (second, second[::-1]))


def say_seam(b: Board, g: Seamed, lengths: Sequence[Number], what: str) -> None:
    """Which line would make the shortest seam, and what it saves; ``lengths`` in the order of the lines."""
    if not b.drawing:
        return
    own = roughly(lengths[g.seam - 1])
    best = min(range(len(lengths)), key=lambda k: (round(roughly(lengths[k]), 6), k))
    saved = own - roughly(lengths[best])
    if saved > own * 1e-6:
        b.caution(f"The seam at {what} {best + 1} would be {saved:.1f} mm shorter; the shortest seam is the usual choice.")


# ---------------------------------------------------------------------------------------------------------------- laps
EDGE = 1e-9
"""What only touches does not cross, mm⁴."""

Lap: TypeAlias = tuple[Spot, Spot, Spot, Spot]

NARROWER = (1.0, 0.6, 0.35, 0.2, 0.1, 0.05, 0.02)
"""Shares of the angles at the ends of a lap, and of its width, that are tried where there is less room."""


def laps(edges: Sequence[tuple[Spot, Spot]], width: float, plain: Sequence[tuple[Spot, Spot]] = ()) -> list[Lap]:
    """Strips on the right of the edges of an outline (anticlockwise), as (start, far, far, end): cut off at 45°, or along
    the middle between two of them that would meet, and lower where they would cross. ``plain`` edges are left clear: that
    of the seam, which comes close where a pattern goes nearly all the way round, and those of an end that hangs on it."""
    found = []
    for k, (start, end) in enumerate(edges):
        first = _room(edges[k - 1], (start, end)) if edges[k - 1][1] == start else math.pi / 4
        after = edges[(k + 1) % len(edges)]
        second = _room((start, end), after) if after[0] == end else math.pi / 4
        lap = _lap(start, end, width, first, second)
        if _crosses(lap, plain):
            several = (
                _lap(start, end, width * share, first * low, second * high)
                for share, low, high in sorted(product(NARROWER, repeat=3), key=lambda each: -min(each) - sum(each) / 9)
            )
            lap = next((one for one in several if not _crosses(one, plain)), (start, start, end, end))
        found.append(lap)
    return found


def _lap(start: Spot, end: Spot, width: float, first: float, second: float) -> Lap:
    """One strip, cut off at these angles; on a short edge between slanting ends it comes to a point."""
    dx, dy = end[0] - start[0], end[1] - start[1]
    size = math.hypot(dx, dy)
    ux, uy = dx / size, dy / size
    high = min(width, size / (1 / math.tan(first) + 1 / math.tan(second)))
    runs = high / math.tan(first), high / math.tan(second)
    ox, oy = uy * high, -ux * high
    far = start[0] + ux * runs[0] + ox, start[1] + uy * runs[0] + oy
    return start, far, (end[0] - ux * runs[1] + ox, end[1] - uy * runs[1] + oy), end


def _crosses(lap: Lap, edges: Sequence[tuple[Spot, Spot]]) -> bool:
    """Whether the outline of a lap goes across one of these edges."""

    def side(a: Spot, c: Spot, p: Spot) -> float:
        return (c[0] - a[0]) * (p[1] - a[1]) - (c[1] - a[1]) * (p[0] - a[0])

    left, right = min(p[0] for p in lap), max(p[0] for p in lap)
    low, high = min(p[1] for p in lap), max(p[1] for p in lap)
    near = [
        (one, other)
        for one, other in edges
        if min(one[0], other[0]) < right and max(one[0], other[0]) > left
        if min(one[1], other[1]) < high and max(one[1], other[1]) > low
    ]
    return any(
        side(one, other, p) * side(one, other, q) < -EDGE and side(p, q, one) * side(p, q, other) < -EDGE
        for one, other in near
        for p, q in pairwise(lap)
    )


def _room(before: tuple[Spot, Spot], after: tuple[Spot, Spot]) -> float:
    """Angle at which the laps of edges that follow each other are cut off: 45°, or half of what is outside there."""
    (x1, y1), (x2, y2) = before
    (_, _), (x3, y3) = after
    turn = math.atan2((x2 - x1) * (y3 - y2) - (y2 - y1) * (x3 - x2), (x2 - x1) * (x3 - x2) + (y2 - y1) * (y3 - y2))
    return min(math.pi / 4, max((math.pi + turn) / 2, 1e-6))


def _draw_laps(b: Board, g: Jointed, strip: Strip) -> None:
    """The laps on the last edge of the seam and on the rims, on a curved one from station to station; or on some of them."""
    edges = strip.edges(0) if g.laps_at("lower") else []
    edges += [(strip.lows[-1], strip.highs[-1])] if g.laps_at("seam") else []
    edges += strip.edges(1) if g.laps_at("upper") else []
    if not edges:
        return
    hung = strip.ends.get(0, [])
    outline = [*pairwise([*strip.outline, strip.outline[0]]), *pairwise([*hung, *hung[:1]])]
    draw_laps(b, g.lap, edges, outline)


def draw_laps(b: Board, lap: Any, edges: Sequence[tuple[Point, Point]], plain: Sequence[tuple[Point, Point]] = ()) -> None:
    """Laps on the right of some edges, which follow each other anticlockwise; the ``plain`` ones are left clear."""
    why = "cut off at 45°, and narrower where two would meet"
    b.step("lap", Instrument.SET_SQUARE, setting=lap, why=why)
    for edge in edges:
        b.note("lap", edge, setting=lap, why=why)
    if b.drawing:
        laid, clear = ([_edge(edge) for edge in several] for several in (edges, plain))
        for start, far, farther, end in laps(laid, float(bare(lap)), clear):
            corners = [Point(x, y) for x, y in (start, far, farther, end)]
            for p, q in pairwise(corners):
                b.edge(p, q, Pen.CUT, told=False)


# ------------------------------------------------------------------------------------------------------------ way back
def fold(b: Board, net: Net, begun: int, views: Images) -> None:
    """Fold the pattern back panel by panel: what is left between it and the body; and let the desk show it."""
    b.find_if_asked("refold_gap", lambda: panels.refold_gap(net.panels, net.flat, net.body))
    show_net(b, net, begun, views)


def show_net(b: Board, net: Net, begun: int, views: Images) -> None:
    """Let the desk fold the pattern, and show of every panel where it is in the pattern, in the ``views`` and in space."""
    b.folds(begun, net.panels, net.body)
    if b.book is None:
        return
    made = b.steps_by_letter()
    for k, panel in enumerate(net.panels):
        names = (*panel.corners, panel.corners[0])
        images = [("pattern", _spots(net.flat[name] for name in names))]
        for view in views:
            letters = [name.partition("/")[0] for name in names]
            if all(letter in view for letter in letters):
                images.append((b.block_name, _spots(view[letter] for letter in letters)))
        way = tuple((float(p.x), float(p.front), float(p.above)) for p in (net.body[name] for name in names))
        b.belongings.append(Belonging((k + 1,), tuple(images), way, max(made.get(name, 0) for name in names)))


Rung: TypeAlias = tuple[Triple, Triple]
"""The low and the high end of a line of a piece on the body: to the right, in front, above."""


def show_pieces(b: Board, pieces: Sequence[Sequence[Rung]], begun: int) -> None:
    """Let the desk fold a pattern of several pieces, each by its lines from left to right as it is seen from outside, and
    show the body. It is for the eye: in floats, and no figure is measured on it."""
    if not b.drawing:
        return
    net: list[panels.Panel] = []
    body: dict[str, Point3] = {}
    for n, rungs in enumerate(pieces):
        names: list[Station] = []
        for k, (low, high) in enumerate(rungs):
            stays = k and math.dist(high, rungs[k - 1][1]) < TOGETHER  # it shrinks to a point there
            ends = (f"{n} low {k}", names[-1][1] if stays else f"{n} high {k}")
            ends = ends if math.dist(low, high) > TOGETHER else (ends[0], ends[0])
            body |= {name: Point3(*place) for name, place in zip(ends, (low, high), strict=True)}
            names.append(ends)
        net += panels.strip(names, len(net))
        for row in zip(*rungs, strict=True):
            b.in_space_along(row)
        b.in_space_along(rungs[0])
    b.folds(begun, net, body)


TOGETHER = 1e-9
"""Places that are nearer, mm, are one."""


def _spots(points: Iterable[Point]) -> tuple[Spot, ...]:
    return tuple((float(p.x), float(p.y)) for p in points)


def _edge(edge: tuple[Point, Point]) -> tuple[Spot, Spot]:
    first, second = _spots(edge)
    return first, second


def rolled_gap(strip: Strip, roll: Callable[[int, Point], Point3]) -> Number:
    """Greatest distance of the pattern's points from their places on the body when it is rolled up; ``roll`` gets the number
    of the station and a point on it."""
    gaps = [
        distance3(roll(k, p), strip.body[name])
        for k, (ends, places) in enumerate(zip(strip.stations, zip(strip.lows, strip.highs, strict=True), strict=True))
        for name, p in zip(ends, places, strict=True)
    ]
    return reduce(larger, gaps)


def total(strip: Strip) -> Number:
    """Area of all pieces with straight edges, mm²."""
    parts = [absolute(plane.polygon_area(piece)) for piece in (strip.outline, *strip.ends.values())]
    return sum(parts[1:], parts[0])
