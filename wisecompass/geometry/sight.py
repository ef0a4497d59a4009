"""What of a body is seen in parallel sight: its edges and the generators on which it turns away, each cut where another
passes before it. Floats: this settles only which pen a piece is drawn with; what lies under a seen line is left out (ISO
128).

A piece is seen where one of its two sides is free: there the body does not stand between, looked at infinitely near beside
it.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from wisecompass.geometry.curves_in_space import TURN, Array, bisect, roots
from wisecompass.geometry.edges import Around, Body, Edge, Model, Triple, contours, section_at

TOUCHING = 1e-4
"""The sine of the angle below which images touch instead of crossing: nothing comes before anything there."""

CHORDS = 32
"""Chords by which a curve is followed in a view."""

Span = tuple[float, float]


@dataclass(frozen=True)
class Sight:
    """A view: what is to the right, up, and towards the eye, in space."""

    right: tuple[float, float, float]
    up: tuple[float, float, float]
    eye: tuple[float, float, float]

    def spot(self, place: Sequence[float]) -> tuple[float, float]:
        """The image of one place."""
        x, y, z = place
        (a, b, c), (d, e, f) = self.right, self.up
        return a * x + b * y + c * z, d * x + e * y + f * z

    def image(self, places: Array) -> Array:
        found: Array = np.asarray(places) @ np.array([self.right, self.up]).T
        return found


@dataclass(frozen=True)
class Run:
    """A piece of an edge or contour that is seen, or hidden, all along."""

    edge: Edge
    low: float
    high: float
    seen: bool
    contour: bool

    def places(self, chords: int = 1) -> Array:
        return self.edge.curve.at(np.linspace(self.low, self.high, chords + 1))

    @property
    def closes(self) -> bool:
        return abs(self.high - self.low - TURN) < 1e-9 and not self.edge.curve.is_straight


def runs(body: Body, sight: Sight) -> list[Run]:
    """All pieces that the view shows, each once."""
    eye = np.array(sight.eye, dtype=float)
    turning = contours(body, eye)
    strokes = [(edge, False) for edge in body.edges if not edge.smooth] + [(edge, True) for edge in turning]
    lines = _Lines(body, sight, strokes)
    before = _Boxes.of(body.model, sight)
    found: list[Run] = []
    for n, (edge, contour) in enumerate(lines.strokes):
        cuts = lines.cuts(n)
        whole = edge.closes and abs(edge.high - edge.low - TURN) < 1e-9
        if whole and len(cuts) > 2 and not lines.is_cut_at_its_seam(n):  # begin at a cut, so that nothing is cut in two
            cuts = [*cuts[1:-1], cuts[1] + TURN]
        pieces = [
            Run(edge, a, b, _is_seen(body, sight, before, edge, (a + b) / 2), contour)
            for a, b in zip(cuts, cuts[1:], strict=False)
        ]
        found += pieces
    return _joined(_once(found, sight, body.model.size))


# ---------------------------------------------------------------------------------------------------------------- cuts
class _Lines:
    """The images of strokes, and where they cross."""

    def __init__(self, body: Body, sight: Sight, strokes: Sequence[tuple[Edge, bool]]) -> None:
        self.sight, self.near = sight, body.model.near * 10
        images = [sight.image(edge.places(CHORDS)) for edge, _ in strokes]
        keep = [k for k, image in enumerate(images) if float(np.ptp(image, axis=0).max()) > self.near]
        self.strokes = [strokes[k] for k in keep]
        self.images = [images[k] for k in keep]
        self.found: list[list[float]] = [[] for _ in keep]
        if keep:
            self._cross()
            self._touch()
            self._fold()

    def cuts(self, n: int) -> list[float]:
        """The places at which a stroke is cut, its ends first and last."""
        edge = self.strokes[n][0]
        gap = self.near if edge.curve.is_straight else 1e-7
        ordered = [edge.low]
        for t in sorted(self.found[n]):
            if t - ordered[-1] > gap and edge.high - t > gap:
                ordered.append(t)
        return [*ordered, edge.high]

    def is_cut_at_its_seam(self, n: int) -> bool:
        """Whether a closed stroke is cut where its measure begins."""
        edge = self.strokes[n][0]
        return any(min(abs(t - edge.low), abs(t - edge.high)) < 1e-6 for t in self.found[n])

    def _cross(self) -> None:
        starts = np.concatenate([image[:-1] for image in self.images])
        ways = np.concatenate([image[1:] - image[:-1] for image in self.images])
        owner = np.concatenate([np.full(len(image) - 1, n) for n, image in enumerate(self.images)])
        place = np.concatenate([np.arange(len(image) - 1) for image in self.images])
        low, high = np.minimum(starts, starts + ways) - self.near, np.maximum(starts, starts + ways) + self.near
        meets = np.triu((low[:, None] <= high[None]).all(axis=2) & (low[None] <= high[:, None]).all(axis=2), 1)
        i, j = np.nonzero(meets & (owner[:, None] != owner[None]))
        area = ways[i, 0] * ways[j, 1] - ways[i, 1] * ways[j, 0]
        long = np.hypot(*ways[i].T) * np.hypot(*ways[j].T)
        gap = starts[j] - starts[i]
        with np.errstate(divide="ignore", invalid="ignore"):
            s = (gap[:, 0] * ways[j, 1] - gap[:, 1] * ways[j, 0]) / area
            t = (gap[:, 0] * ways[i, 1] - gap[:, 1] * ways[i, 0]) / area
        slack = 1e-3
        good = (np.abs(area) > 1e-9 * long) & (s > -slack) & (s < 1 + slack) & (t > -slack) & (t < 1 + slack)
        for a, b, x, y in zip(i[good], j[good], s[good], t[good], strict=True):
            self._add(int(owner[a]), int(owner[b]), (place[a] + x), (place[b] + y))

    def _param(self, n: int, chord: float) -> float:
        edge = self.strokes[n][0]
        return edge.low + (edge.high - edge.low) * chord / (len(self.images[n]) - 1)

    def _add(self, one: int, other: int, x: float, y: float) -> None:
        first, second = self.strokes[one][0], self.strokes[other][0]
        s, t = self._param(one, x), self._param(other, y)
        if not (first.curve.is_straight and second.curve.is_straight):
            refined = self._refined(first, second, s, t)
            if refined is None:
                return
            s, t = refined
        for n, edge, u in ((one, first, s), (other, second, t)):
            if edge.low < u < edge.high:
                self.found[n].append(u)

    def _refined(self, first: Edge, second: Edge, s: float, t: float) -> Span | None:
        """The crossing of two images near two places, by Newton's method; None where they lie on each other or do not
        meet."""
        for _ in range(12):
            (px, py), (qx, qy) = self._spot(first, s), self._spot(second, t)
            d, e = self._way(first, s), self._way(second, t)
            area = -d[0] * e[1] + d[1] * e[0]
            gx, gy = qx - px, qy - py
            if abs(area) <= TOUCHING * math.hypot(*d) * math.hypot(*e) or not math.isfinite(gx + gy):
                return None
            if math.hypot(gx, gy) < self.near * 1e-3:
                break
            s, t = s + (-gx * e[1] + gy * e[0]) / area, t + (d[0] * gy - d[1] * gx) / area
        return (s, t) if math.hypot(gx, gy) < self.near else None

    def _spot(self, edge: Edge, t: float) -> Span:
        return self.sight.spot(edge.curve.place(t))

    def _way(self, edge: Edge, t: float) -> Span:
        """How the image goes on with the edge's own measure."""
        step = 1e-6
        (x1, y1), (x2, y2) = self._spot(edge, t - step), self._spot(edge, t + step)
        return (x2 - x1) / (2 * step), (y2 - y1) / (2 * step)

    def _fold(self) -> None:
        """Cut curves that are seen on edge where their images turn back."""
        for n, ((edge, _), image) in enumerate(zip(self.strokes, self.images, strict=True)):
            if edge.curve.is_straight:
                continue
            away = image - image[0]
            far = away[int(np.argmax((away * away).sum(axis=1)))]
            way = far / math.hypot(*far)
            if float(np.abs(away[:, 0] * way[1] - away[:, 1] * way[0]).max()) > self.near:
                continue
            onward = self._onward(edge, way)
            angles = np.linspace(edge.low, edge.high, len(image))
            signs = [onward(t) for t in angles]
            for a, b, one, other in zip(angles, angles[1:], signs, signs[1:], strict=False):
                if abs(one) < 1e-12:
                    self.found[n].append(float(a))
                elif one * other < 0 and abs(other) >= 1e-12:
                    self.found[n].append(bisect(onward, float(a), float(b)))

    def _onward(self, edge: Edge, way: Array) -> Callable[[float], float]:
        """How much the image of an edge goes on in a direction of the view."""
        return lambda t: float(self.sight.image(edge.curve.tangent(t)) @ way)

    def _touch(self) -> None:
        """Cut strokes where the end of another lies on them, as it does where images lie on each other."""
        ends = np.concatenate([image[[0, -1]] for image in self.images])
        for n, ((edge, _), image) in enumerate(zip(self.strokes, self.images, strict=True)):
            if edge.curve.is_straight:
                way, away = image[1] - image[0], ends - image[0]
                size = float(way @ way)
                shares = away @ way / size
                aside = np.abs(away[:, 0] * way[1] - away[:, 1] * way[0]) / math.sqrt(size)
                there = shares[(aside < self.near) & (shares > 0.0) & (shares < 1.0)]
                self.found[n] += (edge.low + there * (edge.high - edge.low)).tolist()
                continue
            low, high = image.min(axis=0), image.max(axis=0)
            slack = 0.02 * float((high - low).max())
            for end in ends[((ends >= low - slack) & (ends <= high + slack)).all(axis=1)]:
                t = self._nearest(edge, image, end)
                if t is not None and edge.low < t < edge.high:
                    self.found[n].append(t)

    def _nearest(self, edge: Edge, image: Array, spot: Array) -> float | None:
        """The place of a curve whose image is at a spot; None where it passes by."""
        away = ((image - spot) ** 2).sum(axis=1)
        best = int(np.argmin(away))
        chord = float(((image[1:] - image[:-1]) ** 2).sum(axis=1).max())
        if float(away[best]) > chord:
            return None
        t = edge.low + (edge.high - edge.low) * best / (len(image) - 1)
        x, y = float(spot[0]), float(spot[1])
        for _ in range(8):
            (px, py), (dx, dy) = self._spot(edge, t), self._way(edge, t)
            size = dx * dx + dy * dy
            if not size or not math.isfinite(size):
                return None
            t += ((x - px) * dx + (y - py) * dy) / size
        px, py = self._spot(edge, t)
        return t if max(abs(px - x), abs(py - y)) < self.near else None


# ---------------------------------------------------------------------------------------------------------------- seen
@dataclass(frozen=True)
class _Boxes:
    """How far every part reaches in a view, and towards the eye: (parts, 3), to the right, up, and nearer."""

    lows: Array
    highs: Array

    @staticmethod
    def of(model: Model, sight: Sight) -> _Boxes:
        way = np.array([sight.right, sight.up, sight.eye])
        one, other = model.lows[:, None, :] * way, model.highs[:, None, :] * way
        return _Boxes(np.minimum(one, other).sum(axis=2), np.maximum(one, other).sum(axis=2))

    def before(self, sight: Sight, place: Array, slack: float) -> list[int]:
        """The parts that may stand before a place, or that it lies on."""
        at = np.array([sight.right, sight.up, sight.eye]) @ place
        covers = (self.lows[:, :2] <= at[:2] + slack) & (self.highs[:, :2] >= at[:2] - slack)
        return np.flatnonzero(covers.all(axis=1) & (self.highs[:, 2] > at[2] + slack)).tolist()


def _is_seen(body: Body, sight: Sight, boxes: _Boxes, edge: Edge, t: float) -> bool:
    """Whether a place of an edge, between its cuts, is seen."""
    model = body.model
    x, y, z = edge.curve.place(t)
    place, slack = np.array([x, y, z]), model.near
    near = np.flatnonzero(((model.lows <= place + slack) & (model.highs >= place - slack)).all(axis=1)).tolist()
    heights = {
        k: (model.squares[k][0] * x + model.linears[k][0]) * x
        + (model.squares[k][1] * y + model.linears[k][1]) * y
        + (model.squares[k][2] * z + model.linears[k][2]) * z
        + model.rests[k]
        for k in {k for p in near for k, _ in model.walls[p]}
    }
    section = section_at(model, Around(edge.curve, edge.surfaces, t, place, heights), near)
    if section is None:
        return False
    eye = list(sight.eye)
    x = sum(a * b for a, b in zip(eye, section.first, strict=True))
    y = sum(a * b for a, b in zip(eye, section.second, strict=True))
    size = math.hypot(x, y)
    if size < 1e-9:
        return False
    before = boxes.before(sight, place, slack)
    for left in (True, False):
        if _sector_beside(section.branches, section.inside, math.atan2(y, x), left):
            continue
        sign = 1.0 if left else -1.0
        aside = [sign * (-y * a + x * b) / size for a, b in zip(section.first, section.second, strict=True)]
        if not _is_blocked(model, before, place.tolist(), eye, aside):
            return True
    return False


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


def _is_blocked(model: Model, before: Sequence[int], place: Triple, eye: Triple, aside: Triple) -> bool:
    """Whether the body stands before a place, seen infinitely near beside it."""
    tiny = model.near * 10
    spans: list[tuple[int, Span]] = []
    for p in before:
        for span in _through(model, model.walls[p], place, eye, aside):
            if span[1] > tiny:
                spans.append((p, (max(span[0], 0.0), span[1])))
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


def _through(model: Model, walls: Sequence[tuple[int, float]], place: Triple, eye: Triple, aside: Triple) -> list[Span]:
    """Where a ray runs within a part."""
    found: list[Span] = [(-math.inf, math.inf)]
    for k, way in walls:
        square, linear = model.squares[k], model.linears[k]
        a = b = 0.0
        c = model.rests[k]
        for q, m, p, d in zip(square, linear, place, eye, strict=True):
            a += q * d * d
            b += (2 * q * p + m) * d
            c += (q * p + m) * p
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
    ordered = sorted(range(len(found)), key=lambda k: (not found[k].seen, found[k].contour, k))
    chosen = set()
    for k in ordered:
        run = found[k]
        first, middle, last = (sight.spot(run.edge.curve.place(t)) for t in (run.low, (run.low + run.high) / 2, run.high))
        ends = first, last
        cell = (math.floor(middle[0] / (8 * step)), math.floor(middle[1] / (8 * step)))
        around = [each for dx in (-1, 0, 1) for dy in (-1, 0, 1) for each in spots.get((cell[0] + dx, cell[1] + dy), ())]
        if any(_same_piece(middle, ends, *other, step) for other in around):
            continue
        chosen.add(k)
        spots.setdefault(cell, []).append((middle, ends))
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
        at = next((n for n, each in enumerate(done) if each.edge is run.edge), -1)
        first = done[at] if at >= 0 and not run.edge.curve.is_straight else None
        if first is not None and abs(run.high - first.low - TURN) < 1e-9 and run.seen == first.seen:
            done[at] = Run(run.edge, run.low, first.high + TURN, run.seen, run.contour)
        else:
            done.append(run)
    return done
