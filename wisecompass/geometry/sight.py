"""What of a body is seen in parallel sight: its edges and the generators on which it turns away, each cut where another
passes before it. Floats: this settles only which pen a piece is drawn with; what lies under a seen line is left out (ISO
128).

A piece is seen where one of its two sides is free: there the body does not stand between, looked at infinitely near beside
it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import product
from typing import TypeAlias

import numpy as np

from wisecompass.geometry.curves_in_space import TURN, Array
from wisecompass.geometry.edges import Body, Edge, contours
from wisecompass.geometry.images import Images, Sight, Span
from wisecompass.geometry.model import Model, Triple
from wisecompass.geometry.roots import roots
from wisecompass.geometry.section import Around, Section, dot, section_at
from wisecompass.geometry.straight_edges import Bools, Walls
from wisecompass.geometry.straight_sight import Rays, blocked

Piece: TypeAlias = tuple[Edge, float, float, bool]
"""An edge, two of its places, and whether it is a contour."""


@dataclass(frozen=True)
class Run:
    """A piece of an edge or contour that is seen, or hidden, all along."""

    edge: Edge
    low: float
    high: float
    seen: bool
    contour: bool

    def places(self, chords: int = 1) -> Array:
        """Places along it, evenly in its edge's own measure; remembered."""
        if chords not in self._places:
            if chords == 1:
                self._places[1] = np.array([self.edge.curve.place(self.low), self.edge.curve.place(self.high)])
            else:
                self._places[chords] = self.edge.curve.at(np.linspace(self.low, self.high, chords + 1))
        return self._places[chords]

    @cached_property
    def _places(self) -> dict[int, Array]:
        return {}

    @property
    def closes(self) -> bool:
        return abs(self.high - self.low - TURN) < 1e-9 and not self.edge.curve.is_straight


def runs(body: Body, sight: Sight) -> list[Run]:
    """All pieces that the view shows, each once."""
    turning = contours(body, sight)
    strokes = [(edge, False) for edge in body.edges if not edge.smooth] + [(edge, True) for edge in turning]
    lines = Images(body, sight, strokes)
    pieces: list[Piece] = []
    for n, (edge, contour) in enumerate(lines.strokes):
        cuts = lines.cuts(n)
        whole = edge.closes and abs(edge.high - edge.low - TURN) < 1e-9
        if whole and len(cuts) > 2 and not lines.is_cut_at_its_seam(n):  # begin at a cut, so that nothing is cut in two
            cuts = [*cuts[1:-1], cuts[1] + TURN]
        pieces += [(edge, a, b, contour) for a, b in zip(cuts, cuts[1:], strict=False)]
    seen = _which_are_seen(body, sight, pieces)
    found = [Run(edge, a, b, each, contour) for (edge, a, b, contour), each in zip(pieces, seen, strict=True)]
    return _joined(_once(found, sight, body.model.size))


# ---------------------------------------------------------------------------------------------------------------- seen
@dataclass(frozen=True)
class _Boxes:
    """How far every part reaches in a view, and towards the eye: (parts, 3), to the right, up, and nearer; by the corners of
    the box about it."""

    lows: Array
    highs: Array

    @staticmethod
    def of(model: Model, sight: Sight) -> _Boxes:
        corners = np.stack(
            [
                np.stack([(model.lows, model.highs)[k][:, n] for n, k in enumerate(ks)], axis=1)
                for ks in product((0, 1), repeat=3)
            ]
        )
        told = np.concatenate([sight.image(corners), sight.nearness(corners)[..., None]], axis=2)
        return _Boxes(told.min(axis=0), told.max(axis=0))

    def before(self, sight: Sight, places: Array, slack: float) -> Bools:
        """The parts that may stand before each place, or that it lies on, (places, parts)."""
        at, near = sight.image(places)[:, None], sight.nearness(places)[:, None]
        covers = ((self.lows[:, :2] <= at + slack) & (self.highs[:, :2] >= at - slack)).all(axis=2)
        found: Bools = covers & (self.highs[:, 2] > near + slack)
        return found


def _which_are_seen(body: Body, sight: Sight, several: Sequence[Piece]) -> list[bool]:
    """Which of several pieces are seen, by their middles: where the way to the eye passes flat parts only, all at once."""
    model, seen = body.model, [False] * len(several)
    if not several:
        return seen
    walls = Walls(model)
    places = np.array([edge.curve.place((low + high) / 2) for edge, low, high, _ in several])
    before = _Boxes.of(model, sight).before(sight, places, model.near)
    rays: list[tuple[int, list[float], list[float], float]] = []
    known: dict[int, list[list[float]]] = {}
    for n, ((edge, low, high, _), place) in enumerate(zip(several, places.tolist(), strict=True)):
        eye, reach = sight.towards(place)
        section = edge.section_at((low + high) / 2)
        if section is None:
            section = section_about(model, edge, (low + high) / 2, places[n])
            asides = [] if section is None else _free_sides(section, eye)
        elif math.isfinite(reach) or not edge.curve.is_straight:
            asides = _free_sides(section, eye)
        else:  # the same arrangement is seen alike everywhere
            if id(section.inside) not in known:
                known[id(section.inside)] = _free_sides(section, eye)
            asides = known[id(section.inside)]
        rays += [(n, eye, aside, reach) for aside in asides]
    curved = [any(row) for row in before[:, ~walls.flat].tolist()]
    at_once = [ray for ray in rays if not curved[ray[0]]]
    if at_once:
        of = np.array([n for n, *_ in at_once])
        together = Rays(
            places[of],
            np.array([eye for _, eye, _, _ in at_once]),
            np.array([aside for *_, aside, _ in at_once]),
            np.array([reach for *_, reach in at_once]),
        )
        for n in of[~blocked(model, together, before[of])].tolist():
            seen[n] = True
    for n, eye, aside_of_it, reach in (ray for ray in rays if curved[ray[0]]):
        parts = np.flatnonzero(before[n]).tolist()
        seen[n] = seen[n] or not _is_blocked(model, parts, places[n].tolist(), eye, aside_of_it, reach)
    return seen


def _free_sides(section: Section, eye: Triple) -> list[Triple]:
    """The directions to the sides of the way to the eye on which the body does not begin at once."""
    x, y = dot(eye, section.first), dot(eye, section.second)
    size = math.hypot(x, y)
    if size < 1e-9:
        return []
    found = []
    for left, sign in ((True, 1.0), (False, -1.0)):
        if not _sector_beside(section.branches, section.inside, math.atan2(y, x), left):
            found.append([sign * (-y * a + x * b) / size for a, b in zip(section.first, section.second, strict=True)])
    return found


def section_about(model: Model, edge: Edge, t: float, place: Array) -> Section | None:
    """What is about a place of an edge."""
    x, y, z = place.tolist()
    slack = model.near
    near = np.flatnonzero(((model.lows <= place + slack) & (model.highs >= place - slack)).all(axis=1)).tolist()
    heights = {
        k: (model.squares[k][0] * x + model.linears[k][0]) * x
        + (model.squares[k][1] * y + model.linears[k][1]) * y
        + (model.squares[k][2] * z + model.linears[k][2]) * z
        + model.rests[k]
        for k in {k for p in near for k, _ in model.walls[p]}
    }
    return section_at(model, Around(edge.curve, edge.surfaces, t, place, heights), near)


def _sector_beside(branches: Sequence[tuple[float, float, int]], inside: Sequence[bool], angle: float, left: bool) -> bool:
    """Whether the section just to the left of a direction, or to its right, is inside the body."""
    best, found = math.inf, False
    for n, (begin, _, _) in enumerate(branches):
        end = branches[(n + 1) % len(branches)][0]
        wide = (end - begin) % TURN
        if len(branches) > 1 and (wide < 1e-9 or wide > TURN - 1e-9):
            continue
        away = (angle - begin) % TURN if left else (end - angle) % TURN
        if away > TURN - 1e-9:
            away = 0.0
        if away < best:
            best, found = away, inside[n]
    return found


def _is_blocked(model: Model, before: Sequence[int], place: Triple, eye: Triple, aside: Triple, reach: float) -> bool:
    """Whether the body stands between a place and the eye, so far away, seen infinitely near beside it."""
    tiny = model.near * 10
    spans: list[tuple[int, Span]] = []
    for p in before:
        for span in spans_within(model, model.walls[p], place, eye, aside):
            if span[1] > tiny and span[0] < reach:
                spans.append((p, (max(span[0], 0.0), min(span[1], reach))))
    ends = sorted({0.0, *(end for _, span in spans for end in span)})
    for low, high in zip(ends, ends[1:], strict=False):
        if high - low < tiny or not math.isfinite(low):
            continue
        middle = (low + high) / 2 if math.isfinite(high) else low + 1.0
        solid = False
        for p, (start, end) in spans:
            if start < middle < end:
                solid = not model.parts[p].taken
        if solid:
            return True
    return False


def spans_within(model: Model, walls: Sequence[tuple[int, float]], place: Triple, eye: Triple, aside: Triple) -> list[Span]:
    """Where a line from a place runs within a part, in units of its way; ``aside`` tells which side counts where it
    touches."""
    low, high = -math.inf, math.inf
    (x, y, z), (u, v, w) = place, eye
    for k, way in walls:
        if not model.is_flat[k]:
            continue
        nx, ny, nz = model.linears[k]
        b, c = (nx * u + ny * v + nz * w) * way, (nx * x + ny * y + nz * z + model.rests[k]) * way
        if b > 1e-12:
            high = min(high, -c / b)
        elif b < -1e-12:
            low = max(low, -c / b)
        elif (c if abs(c) > model.near else _leaning(model, k, place, aside) * way) >= 0:
            return []
        if low >= high:
            return []
    found: list[Span] = [(low, high)]
    for k, way in walls:
        if model.is_flat[k]:
            continue
        (p, q, r), (nx, ny, nz) = model.squares[k], model.linears[k]
        a = p * u * u + q * v * v + r * w * w
        b = (2 * p * x + nx) * u + (2 * q * y + ny) * v + (2 * r * z + nz) * w
        c = (p * x + nx) * x + (q * y + ny) * y + (r * z + nz) * z + model.rests[k]
        found = [
            (max(low, start), min(high, end))
            for low, high in found
            for start, end in _within(model, k, way, (a, b, c), place, eye, aside)
            if max(low, start) < min(high, end)
        ]
        if not found:
            return []
    return found


def _within(
    model: Model, k: int, way: float, terms: tuple[float, float, float], place: Triple, eye: Triple, aside: Triple
) -> list[Span]:
    """Where a ray runs on the inner side of a surface; where it lies in it or touches it, beside it."""
    a, b, c = terms
    everywhere, nowhere = [(-math.inf, math.inf)], list[Span]()
    near = model.near
    if abs(a) < 1e-12:
        if abs(b) > 1e-12:
            t = -c / b
            return [(-math.inf, t)] if b * way > 0 else [(t, math.inf)]
        if abs(c) > near:
            return everywhere if c * way < 0 else nowhere
        return everywhere if _leaning(model, k, place, aside) * way < 0 else nowhere
    inside = b * b - 4 * a * c
    if abs(inside) < 1e-9 * max(b * b, abs(a) * near, abs(4 * a * c)) or abs(inside) < 4 * abs(a) * near * 0.01:
        t = -b / (2 * a)
        touch = [p + t * d for p, d in zip(place, eye, strict=True)]
        if _leaning(model, k, touch, aside) * way * (1 if a > 0 else -1) < 0:
            return [(t - 20 * near, t + 20 * near)] if a > 0 else everywhere
        return nowhere if a > 0 else everywhere
    if inside < 0:
        return nowhere if a > 0 else everywhere
    one, other = sorted(roots(a, b, c))
    return [(one, other)] if a > 0 else [(-math.inf, one), (other, math.inf)]


def _leaning(model: Model, k: int, place: Triple, aside: Triple) -> float:
    """How a surface's value changes to one side of a place."""
    return sum((2 * q * p + m) * d for q, m, p, d in zip(model.squares[k], model.linears[k], place, aside, strict=True))


# ---------------------------------------------------------------------------------------------------------------- once
def _once(found: Sequence[Run], sight: Sight, size: float) -> list[Run]:
    """The pieces without those that lie under another: seen before hidden, edges before contours, each once."""
    spots: dict[tuple[int, int], list[tuple[Span, tuple[Span, Span]]]] = {}
    step = size * 1e-6
    wide = 8 * step
    places = np.array(
        [run.edge.curve.place(t) for run in found for t in (run.low, (run.low + run.high) / 2, run.high)]
    ).reshape(-1, 3, 3)
    images = [((a, b), (c, d), (e, f)) for (a, b), (c, d), (e, f) in sight.image(places).tolist()]
    chosen = set()
    for k in sorted(range(len(found)), key=lambda k: (not found[k].seen, found[k].contour, k)):
        first, middle, last = images[k]
        ends, cell = (first, last), (math.floor(middle[0] / wide), math.floor(middle[1] / wide))
        if any(_same_piece(middle, ends, *other, step) for other in spots.get(cell, ())):
            continue
        chosen.add(k)
        across, up = ({math.floor((c - step) / wide), math.floor((c + step) / wide)} for c in middle)
        for each in product(across, up):  # every cell from which it may be asked for
            spots.setdefault(each, []).append((middle, ends))
    return [run for k, run in enumerate(found) if k in chosen]


def _same_piece(
    middle: Span, ends: tuple[Span, Span], other_middle: Span, other_ends: tuple[Span, Span], step: float
) -> bool:
    if _apart(middle, other_middle) > step:
        return False
    along = max(_apart(a, b) for a, b in zip(ends, other_ends, strict=True))
    back = max(_apart(a, b) for a, b in zip(ends[::-1], other_ends, strict=True))
    return min(along, back) < 4 * step


def _apart(one: Span, other: Span) -> float:
    return max(abs(one[0] - other[0]), abs(one[1] - other[1]))


def _joined(found: Sequence[Run]) -> list[Run]:
    """Pieces of one edge that go on alike put together."""
    joined: list[Run] = []
    for run in found:
        last = joined[-1] if joined else None
        if last is not None and last.edge is run.edge and last.seen == run.seen and last.high == run.low:
            joined[-1] = Run(run.edge, last.low, run.high, run.seen, run.contour)
        else:
            joined.append(run)
    done: list[Run] = []
    for run in joined:  # a closed edge that was begun at a cut may go on at its beginning
        if run.edge.curve.is_straight:
            done.append(run)
            continue
        at = next((n for n, each in enumerate(done) if each.edge is run.edge), -1)
        first = done[at] if at >= 0 else None
        if first is not None and abs(run.high - first.low - TURN) < 1e-9 and run.seen == first.seen:
            done[at] = Run(run.edge, run.low, first.high + TURN, run.seen, run.contour)
        else:
            done.append(run)
    return done
