"""Strokes: a page as the ways of a pen, straight and round, in the order in which a plotter or a cutter best draws them.

All lengths are mm of paper with y upwards, angles degrees anticlockwise. Curves become arcs of circles that keep within
``FAIRED`` of them; dashes, interrupted lines and lettering become strokes of their own.
"""

from __future__ import annotations

import json
import math
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.pens import STROKES, Pen
from wisecompass.folio.paper import CAP_SHARE, FONTS
from wisecompass.geometry.curves import Pair, Piece

FAIRED = 0.005
"""How far an arc may be from the curve that it stands for, mm."""

SAME = 1e-4
"""Ends that are no farther apart are one place, mm."""

DEEPEST = 12
"""A piece of a curve is halved no more often than this."""


@dataclass(frozen=True, slots=True)
class Way:
    """A straight way from ``start`` to ``end``, or with a ``centre`` the arc about it through ``sweep`` degrees."""

    start: Pair
    end: Pair
    centre: Pair | None = None
    sweep: float = 0.0

    @property
    def radius(self) -> float:
        return 0.0 if self.centre is None else math.dist(self.centre, self.start)

    @property
    def length(self) -> float:
        if self.centre is None:
            return math.dist(self.start, self.end)
        return self.radius * math.radians(abs(self.sweep))

    def back(self) -> Way:
        return Way(self.end, self.start, self.centre, -self.sweep)

    def at(self, share: float) -> Pair:
        """The place at a share of the way."""
        if self.centre is None:
            (x1, y1), (x2, y2) = self.start, self.end
            return x1 + (x2 - x1) * share, y1 + (y2 - y1) * share
        (cx, cy), (x, y) = self.centre, self.start
        turn = math.radians(self.sweep * share)
        c, s = math.cos(turn), math.sin(turn)
        return cx + (x - cx) * c - (y - cy) * s, cy + (x - cx) * s + (y - cy) * c

    def part(self, low: float, high: float) -> Way:
        """The piece between two shares of the way."""
        start = self.start if low <= 0 else self.at(low)
        end = self.end if high >= 1 else self.at(high)
        return Way(start, end, self.centre, self.sweep * (high - low))

    def points(self, chord: float) -> list[Pair]:
        """Places along the way, without its start, so close that chords keep within ``chord`` mm of it."""
        if self.centre is None:
            return [self.end]
        step = 2 * math.degrees(math.acos(max(-1.0, 1 - chord / max(self.radius, chord))))
        count = max(1, math.ceil(abs(self.sweep) / max(step, 0.01)))
        return [*(self.at(k / count) for k in range(1, count)), self.end]


@dataclass(frozen=True, slots=True)
class Stroke:
    """What a pen draws without being lifted."""

    pen: Pen
    ways: tuple[Way, ...]

    @property
    def start(self) -> Pair:
        return self.ways[0].start

    @property
    def end(self) -> Pair:
        return self.ways[-1].end

    @property
    def closed(self) -> bool:
        return math.dist(self.start, self.end) <= SAME and self.length > SAME

    @property
    def length(self) -> float:
        return sum(way.length for way in self.ways)

    def back(self) -> Stroke:
        return Stroke(self.pen, tuple(way.back() for way in reversed(self.ways)))

    def points(self, chord: float = 0.05) -> list[Pair]:
        return [self.start, *(point for way in self.ways for point in way.points(chord))]

    def moved(self, where: marks.Placement) -> Stroke:
        """The stroke as a placement lays it."""

        def to(way: Way) -> Way:
            centre = None if way.centre is None else where.at(*way.centre)
            return Way(where.at(*way.start), where.at(*way.end), centre, way.sweep)

        return Stroke(self.pen, tuple(map(to, self.ways)))


# ---------------------------------------------------------------------------------------------------- marks to strokes
def strokes_of(drawn: Iterable[Mark], dashed: bool = True) -> list[Stroke]:
    """The strokes of marks as they lie on paper, unordered. White under values interrupts the lines laid down before it;
    with ``dashed`` a broken line is drawn in its dashes. A line drawn twice by one pen is drawn once."""
    found: list[Stroke] = []
    there: set[tuple[object, ...]] = set()
    for mark in drawn:
        if isinstance(mark, marks.Gap):
            found = [piece for stroke in found for piece in _interrupted(stroke, mark)]
            continue
        for ways in _ways(mark):
            if not (fresh := tuple(way for way in ways if way.length > SAME / 100 and _first(mark.pen, way, there))):
                continue
            pattern = STROKES[mark.pen].dashes if dashed and not isinstance(mark, marks.Text) else ()
            found += [Stroke(mark.pen, run) for run in (_dashes(fresh, pattern) if pattern else _runs(fresh))]
    return found


def _first(pen: Pen, way: Way, there: set[tuple[object, ...]]) -> bool:
    """Whether nothing was drawn there yet by that pen, from whichever end."""
    ends = sorted([tuple(round(v, 4) for v in way.start), tuple(round(v, 4) for v in way.end)])
    middle = tuple(round(v, 3) for v in way.at(0.5))
    key = (pen, *ends, middle)
    if key in there:
        return False
    there.add(key)
    return True


def _runs(ways: Sequence[Way]) -> Iterator[tuple[Way, ...]]:
    """Ways as runs that hang together."""
    run: list[Way] = []
    for way in ways:
        if run and math.dist(run[-1].end, way.start) > SAME:
            yield tuple(run)
            run = []
        run.append(way)
    if run:
        yield tuple(run)


def _ways(mark: Mark) -> Iterator[list[Way]]:
    """The ways along a mark, a list for each time the pen is put down."""
    if isinstance(mark, marks.Segment):
        yield [Way((mark.x1, mark.y1), (mark.x2, mark.y2))]
    elif isinstance(mark, marks.Arc):
        if mark.radius > 0:
            sweep = max(-360.0, min(mark.sweep, 360.0))
            yield [Way(mark.end(0.0), mark.end(sweep / mark.sweep if mark.sweep else 0.0), (mark.cx, mark.cy), sweep)]
    elif isinstance(mark, marks.Ellipse):
        yield [way for piece in _quarters(mark) for way in arcs_along(piece)]
    elif isinstance(mark, marks.Curve | marks.Ready):
        yield [way for piece in mark.pieces() for way in arcs_along(piece)]
    elif isinstance(mark, marks.Dot) and mark.shown:
        radius = 0.2 if mark.pen is Pen.GRID else 0.4
        yield [Way((mark.x + radius, mark.y), (mark.x + radius, mark.y), (mark.x, mark.y), 360.0)]
    elif isinstance(mark, marks.Text):
        yield from _written(mark)


def _quarters(mark: marks.Ellipse) -> list[Piece]:
    """An ellipse as Bézier pieces; 16 of them are within 10⁻⁸ of its size."""
    turn, count = marks.Placement(1.0, mark.cx, mark.cy, mark.angle), 16
    a, b, pull = mark.semi_major, mark.semi_minor, 4 / 3 * math.tan(math.pi / (2 * count))

    def place(t: float, ahead: float) -> Pair:
        return turn.at(a * (math.cos(t) - ahead * math.sin(t)), b * (math.sin(t) + ahead * math.cos(t)))

    times = [2 * math.pi * k / count for k in range(count)]
    step = 2 * math.pi / count
    return [(place(t, 0), place(t, pull), place(t + step, -pull), place(t + step, 0)) for t in times]


@cache
def _letters() -> dict[str, Any]:
    found: dict[str, Any] = json.loads((FONTS / "mill-strokes.json").read_text(encoding="utf-8"))
    return found


def can_write(sign: str) -> bool:
    """Whether a plotter has strokes for a sign; for one that it has not it draws a question mark."""
    return sign.isspace() or sign in _letters()


def not_written(drawn: Iterable[Mark]) -> str:
    """What is to be said of signs that a plotter has no strokes for; nothing where it has all."""
    signs = {sign for mark in drawn if isinstance(mark, marks.Text) for sign in mark.text if not can_write(sign)}
    return f"no strokes for {' '.join(sorted(signs)[:12])}: question marks stand for them" if signs else ""


def _written(mark: marks.Text) -> Iterator[list[Way]]:
    """Lettering by single strokes."""
    letters, share = _letters(), mark.height / CAP_SHARE / 1000
    signs = [letters.get(" " if sign.isspace() else sign) or letters["?"] for sign in mark.text]
    width = sum(advance for advance, _ in signs) * share
    turn = marks.Placement(1.0, mark.x, mark.y, mark.angle)
    at = -{"left": 0.0, "centre": width / 2, "right": width}[mark.anchor]
    for advance, chains in signs:
        for flat in chains:
            places = [turn.at(at + x * share, y * share) for x, y in zip(flat[::2], flat[1::2], strict=True)]
            yield [Way(p, q) for p, q in zip(places, places[1:], strict=False)]
        at += advance * share


# ------------------------------------------------------------------------------------------------------ curves to arcs
def arcs_along(piece: Piece, depth: int = 0) -> Iterator[Way]:
    """A cubic Bézier piece as arcs within ``FAIRED``, tangent where they join.

    Two arcs tangent to the piece at its ends and to each other, whose tangents reach equally far (biarcs; Bolton 1975); a
    piece that they do not keep to is halved.
    """
    ways = _biarc(piece)
    if ways is not None and _keeps(ways, piece):
        yield from ways
    elif depth >= DEEPEST:
        yield Way(piece[0], piece[3])
    else:
        for half in _halves(piece):
            yield from arcs_along(half, depth + 1)


def _keeps(ways: Sequence[Way], piece: Piece) -> bool:
    return all(min(_off(way, _bezier(piece, k / 16)) for way in ways) <= FAIRED for k in range(1, 16))


def _off(way: Way, place: Pair) -> float:
    """How far a place is from the line or circle of a way."""
    if way.centre is not None:
        if not list(_share_at(way, place)):
            return min(math.dist(way.start, place), math.dist(way.end, place))
        return abs(math.dist(way.centre, place) - way.radius)
    (x1, y1), (x2, y2) = way.start, way.end
    length = math.dist(way.start, way.end)
    return abs((x2 - x1) * (place[1] - y1) - (y2 - y1) * (place[0] - x1)) / length if length else math.dist(way.start, place)


def _bezier(piece: Piece, t: float) -> Pair:
    a, b, c, d = (1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t**3
    (p, q, r, s) = piece
    return a * p[0] + b * q[0] + c * r[0] + d * s[0], a * p[1] + b * q[1] + c * r[1] + d * s[1]


def _halves(piece: Piece) -> tuple[Piece, Piece]:
    p, q, r, s = piece
    pq, qr, rs = _middle(p, q), _middle(q, r), _middle(r, s)
    pqr, qrs = _middle(pq, qr), _middle(qr, rs)
    mid = _middle(pqr, qrs)
    return (p, pq, pqr, mid), (mid, qrs, rs, s)


def _middle(a: Pair, b: Pair) -> Pair:
    return (a[0] + b[0]) / 2, (a[1] + b[1]) / 2


def _biarc(piece: Piece) -> list[Way] | None:
    """Two arcs tangent to a piece at its ends; a line where it has no length; None where they would turn far."""
    a, b = piece[0], piece[3]
    first, last = _direction(piece[0], piece[1:]), _direction(piece[3], piece[2::-1])
    chord = math.dist(a, b)
    if chord < SAME / 100 or first is None or last is None:
        return [Way(a, b)]
    (tx, ty), (lx, ly) = first, (-last[0], -last[1])
    vx, vy = b[0] - a[0], b[1] - a[1]
    along, apart = vx * (tx + lx) + vy * (ty + ly), 1 - (tx * lx + ty * ly)
    square = chord * chord
    reach = square / (2 * along) if apart < 1e-9 and along > 0 else _root(apart, along, square)
    if not 0 < reach < chord:
        return None
    joint = (a[0] + b[0] + reach * (tx - lx)) / 2, (a[1] + b[1] + reach * (ty - ly)) / 2
    ways = [arc_from(a, math.atan2(ty, tx), joint), arc_from(b, math.atan2(-ly, -lx), joint).back()]
    return ways if all(abs(way.sweep) < 90 for way in ways) else None


def _root(apart: float, along: float, square: float) -> float:
    """How far along both tangents the arcs reach before they meet: the positive root of
    2·apart·d² + 2·along·d − chord² = 0."""
    if apart < 1e-9:
        return 0.0
    return (math.sqrt(along * along + 2 * apart * square) - along) / (2 * apart)


def _direction(start: Pair, others: Iterable[Pair]) -> Pair | None:
    for x, y in others:
        length = math.dist(start, (x, y))
        if length > SAME / 100:
            return (x - start[0]) / length, (y - start[1]) / length
    return None


def arc_from(start: Pair, direction: float, end: Pair) -> Way:
    """The arc that leaves ``start`` in a direction (radians) and ends at ``end``; straight where that is nearly so."""
    chord = math.dist(start, end)
    if not chord:
        return Way(start, end)
    away = math.atan2(end[1] - start[1], end[0] - start[0]) - direction
    away = math.atan2(math.sin(away), math.cos(away))
    if abs(math.sin(away)) * chord < 2e-3:  # so flat that no machine tells it from straight
        return Way(start, end)
    radius = chord / (2 * math.sin(away))
    centre = start[0] - radius * math.sin(direction), start[1] + radius * math.cos(direction)
    return Way(start, end, centre, math.degrees(2 * away))


# --------------------------------------------------------------------------------------------- dashes and interruptions
def _dashes(ways: Sequence[Way], pattern: Sequence[float]) -> Iterator[tuple[Way, ...]]:
    """Ways cut into dashes, the pattern going on from one to the next; the line begins and ends with ink."""
    for run in _runs(ways):
        total = sum(way.length for way in run)
        shrunk = _fitted(pattern, total)
        inked, left, k, dash = True, shrunk[0], 0, list[Way]()
        for way in run:
            at = 0.0
            while at < way.length - 1e-9:
                step = min(left, way.length - at)
                if inked:
                    dash.append(way.part(at / way.length, (at + step) / way.length))
                at, left = at + step, left - step
                if left <= 1e-9:
                    if dash:
                        yield tuple(dash)
                        dash = []
                    k += 1
                    inked, left = not inked, shrunk[k % len(shrunk)]
        if dash:
            yield tuple(dash)


def in_dashes(stroke: Stroke) -> list[Stroke]:
    """A stroke in the dashes of its pen; itself where it has none."""
    pattern = STROKES[stroke.pen].dashes
    return [Stroke(stroke.pen, run) for run in _dashes(stroke.ways, pattern)] if pattern else [stroke]


def _fitted(pattern: Sequence[float], total: float) -> list[float]:
    """The pattern stretched a little, so that a whole number of it and one more first dash make up the line."""
    whole = sum(pattern)
    count = round((total - pattern[0]) / whole)
    if count < 1:
        return [total + 1.0]
    stretch = total / (count * whole + pattern[0])
    return [each * stretch for each in pattern]


def _interrupted(stroke: Stroke, gap: marks.Gap) -> list[Stroke]:
    """A stroke without what lies under white."""
    reach = math.hypot(gap.width, gap.height) / 2
    pieces: list[Way] = []
    for way in stroke.ways:
        if _nearest(way, (gap.x, gap.y)) > reach:
            pieces.append(way)
            continue
        cuts = sorted({0.0, 1.0, *_crossings(way, gap.corners)})
        pieces += [
            way.part(low, high)
            for low, high in zip(cuts, cuts[1:], strict=False)
            if not _under(way.at((low + high) / 2), gap) and (high - low) * way.length > SAME
        ]
    return [Stroke(stroke.pen, run) for run in _runs(pieces)]


def _nearest(way: Way, place: Pair) -> float:
    """A lower bound of the distance of a place from a way."""
    if way.centre is None:
        length = way.length
        (x1, y1), (x2, y2) = way.start, way.end
        t = ((place[0] - x1) * (x2 - x1) + (place[1] - y1) * (y2 - y1)) / length**2 if length else 0.0
        return math.dist(way.at(min(max(t, 0.0), 1.0)), place)
    return abs(math.dist(way.centre, place) - way.radius)


def _under(place: Pair, gap: marks.Gap) -> bool:
    x, y = marks.Placement(1.0, gap.x, gap.y, gap.angle).back(*place)
    return abs(x) < gap.width / 2 and abs(y) < gap.height / 2


def _crossings(way: Way, corners: Sequence[Pair]) -> Iterator[float]:
    """Shares of a way at which it crosses the sides of a polygon."""
    for a, b in zip(corners, (*corners[1:], corners[0]), strict=True):
        (ax, ay), dx, dy = a, b[0] - a[0], b[1] - a[1]
        if way.centre is None:
            (x, y), wx, wy = way.start, way.end[0] - way.start[0], way.end[1] - way.start[1]
            cross = wx * dy - wy * dx
            if abs(cross) > 1e-12:
                t = ((ax - x) * dy - (ay - y) * dx) / cross
                s = ((ax - x) * wy - (ay - y) * wx) / cross
                if 0 <= t <= 1 and 0 <= s <= 1:
                    yield t
            continue
        (cx, cy), length = way.centre, dx * dx + dy * dy
        s0 = ((cx - ax) * dx + (cy - ay) * dy) / length
        off = (ax + s0 * dx - cx) ** 2 + (ay + s0 * dy - cy) ** 2
        if off <= way.radius**2:
            half = math.sqrt((way.radius**2 - off) / length)
            for s in (s0 - half, s0 + half):
                if 0 <= s <= 1:
                    yield from _share_at(way, (ax + s * dx, ay + s * dy))


def _share_at(way: Way, place: Pair) -> Iterator[float]:
    """The share of an arc at which a place of its circle lies, if it does."""
    assert way.centre is not None
    cx, cy = way.centre
    turn = math.degrees(math.atan2(place[1] - cy, place[0] - cx) - math.atan2(way.start[1] - cy, way.start[0] - cx))
    share = (turn % 360 if way.sweep > 0 else -(-turn % 360)) / way.sweep
    if 0 <= share <= 1:
        yield share


# ---------------------------------------------------------------------------------------------------------------- order
def joined(strokes: Sequence[Stroke]) -> list[Stroke]:
    """Strokes of one pen whose ends meet as one, so that the pen is lifted as seldom as can be; where more than two meet,
    the one that goes on most nearly straight is taken."""
    found: list[Stroke] = []
    for pen in dict.fromkeys(stroke.pen for stroke in strokes):
        found += _joined([stroke for stroke in strokes if stroke.pen is pen])
    return found


def _joined(strokes: Sequence[Stroke]) -> list[Stroke]:
    ends: dict[Pair, list[int]] = {}

    def key(place: Pair) -> Pair:
        return round(place[0], 3), round(place[1], 3)

    left = dict(enumerate(strokes))
    for k, stroke in left.items():
        if not stroke.closed:
            for place in (stroke.start, stroke.end):
                ends.setdefault(key(place), []).append(k)

    def beyond(stroke: Stroke) -> Stroke | None:
        """What goes on from the end of a stroke, taken away from what is left."""
        best: tuple[float, int, Stroke] | None = None
        for k in ends.get(key(stroke.end), ()):
            if k in left:
                other = left[k] if key(left[k].start) == key(stroke.end) else left[k].back()
                bend = math.dist(_leaving(stroke.back()), _leaving(other))  # 2 where it goes straight on
                if best is None or bend > best[0]:
                    best = bend, k, other
        if best is None:
            return None
        del left[best[1]]
        return best[2]

    found = []
    odd = [k for k in left if any(len(ends.get(key(p), ())) % 2 for p in (left[k].start, left[k].end))]
    for k in (*odd, *list(left)):
        if k not in left:
            continue
        chain = left.pop(k)
        for _ in range(2):
            while not chain.closed and (more := beyond(chain)) is not None:
                chain = Stroke(chain.pen, (*chain.ways, *more.ways))
            chain = chain.back()
        found.append(chain)
    return found


def _leaving(stroke: Stroke) -> Pair:
    """The direction in which a stroke leaves its start."""
    way = stroke.ways[0]
    (x, y), (px, py) = way.start, way.at(min(1.0, 0.01))
    length = math.dist((x, y), (px, py)) or 1.0
    return (px - x) / length, (py - y) / length


def ordered(strokes: Sequence[Stroke], pens: Sequence[Pen], start: Pair = (0.0, 0.0)) -> list[Stroke]:
    """The strokes of the pens in their order, each pen's with little travel between them; of what is cut, the contours
    inside another before it, for afterwards the piece lies loose."""
    found: list[Stroke] = []
    for pen in pens:
        mine = joined([stroke for stroke in strokes if stroke.pen is pen])
        layers = _inside_first(mine) if pen is Pen.CUT else [mine]
        for layer in layers:
            drawn = _short(layer, found[-1].end if found else start)
            found += drawn
    return found


def _inside_first(strokes: Sequence[Stroke]) -> list[list[Stroke]]:
    """What is cut in layers, those contours first that lie in most others."""
    from shapely import Polygon, STRtree

    outlines = {k: Polygon(stroke.points()).buffer(0) for k, stroke in enumerate(strokes) if stroke.closed}
    tree, keys = STRtree(list(outlines.values())), list(outlines)
    depth: dict[int, int] = {}
    for k, stroke in enumerate(strokes):
        inner = outlines[k].representative_point() if k in outlines and not outlines[k].is_empty else _point(stroke)
        area = outlines[k].area if k in outlines else 0.0
        holding = [keys[j] for j in tree.query(inner, predicate="within")]
        depth[k] = sum(1 for j in holding if j != k and outlines[j].area > area)
    deepest = sorted(set(depth.values()), reverse=True)
    return [[strokes[k] for k in depth if depth[k] == d] for d in deepest]


def _point(stroke: Stroke) -> Any:
    from shapely import Point

    return Point(stroke.ways[len(stroke.ways) // 2].at(0.5))


def _short(strokes: Sequence[Stroke], start: Pair) -> list[Stroke]:
    """The strokes one after the other, always the nearest end next (a closed one from its nearest corner), and then turned
    round in stretches where that shortens the travel (2-opt)."""
    import numpy as np

    if not strokes:
        return []
    ends = np.array([[s.start, s.end] for s in strokes])
    left, at, tour = np.ones(len(strokes), dtype=bool), np.array(start), []
    for _ in strokes:
        gaps = np.hypot(*(ends - at).transpose(2, 0, 1))
        gaps[~left] = np.inf
        k, end = divmod(int(np.argmin(gaps)), 2)
        left[k] = False
        tour.append(strokes[k].back() if end else strokes[k])
        at = ends[k][1 - end]
    return _two_opt(tour, start)


MOST_TURNED = 600
"""So many strokes are turned round in stretches; of more, the nearest next must do."""


def _two_opt(tour: list[Stroke], start: Pair) -> list[Stroke]:
    """Stretches of the tour turned round for as long as that shortens the travel."""
    if len(tour) > MOST_TURNED:
        return tour
    better = True
    while better:
        better = False
        for i in range(len(tour)):
            before = tour[i - 1].end if i else start
            for j in range(i, len(tour)):
                after = tour[j + 1].start if j + 1 < len(tour) else None
                now = math.dist(before, tour[i].start) + (0.0 if after is None else math.dist(tour[j].end, after))
                then = math.dist(before, tour[j].end) + (0.0 if after is None else math.dist(tour[i].start, after))
                if then < now - 1e-6:
                    tour[i : j + 1] = [stroke.back() for stroke in reversed(tour[i : j + 1])]
                    better = True
    return tour


def travel(strokes: Sequence[Stroke], start: Pair = (0.0, 0.0)) -> float:
    """How far the pen goes in the air, mm."""
    places = [start, *(place for stroke in strokes for place in (stroke.start, stroke.end))]
    return sum(math.dist(a, b) for a, b in zip(places[::2], places[1::2], strict=False))


def length_by_pen(strokes: Iterable[Stroke]) -> dict[Pen, float]:
    """How much each pen draws, mm."""
    found: dict[Pen, float] = {}
    for stroke in strokes:
        found[stroke.pen] = found.get(stroke.pen, 0.0) + stroke.length
    return found


PEN_ORDER: tuple[Pen, ...] = (
    Pen.GRID,
    Pen.PROJECTOR,
    Pen.CONSTRUCTION,
    Pen.CRATE,
    Pen.LOCUS,
    Pen.CENTRE,
    Pen.HIDDEN,
    Pen.DIMENSION,
    Pen.LETTERING,
    Pen.BORDER,
    Pen.GIVEN,
    Pen.OUTLINE,
    Pen.FOLD,
    Pen.CUT,
)
"""Light lines first, as a drafter draws; what is marked and folded before what is cut, which comes last."""


def pens_named(names: Sequence[str], refuse: Callable[[str], Exception]) -> tuple[Pen, ...]:
    """Pens by their names, in the order in which they were named; all in ``PEN_ORDER`` where none is.

    Raises:
        what ``refuse`` makes of a name that no pen has.
    """
    for name in names:
        if name not in tuple(Pen):
            raise refuse(name)
    return tuple(dict.fromkeys(Pen(name) for name in names)) or PEN_ORDER
