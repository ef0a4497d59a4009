"""The images of edges in a view, and where they cross, touch, lie on each other or turn back."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cache, cached_property
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from wisecompass.geometry.curves_in_space import ONE_ANGLE, TURN, Array, Curve, Straight
from wisecompass.geometry.edges import Body, Edge, is_whole
from wisecompass.geometry.roots import bisect
from wisecompass.geometry.section import dot

TOUCHING = 1e-4
"""The sine of the angle below which images touch instead of crossing: nothing comes before anything there."""

CHORDS = 32
"""Chords by which a curve is followed in a view."""

ONE_END = 1e-3
"""The share of what is near by which ends that are one may lie apart."""

Span: TypeAlias = tuple[float, float]


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

    def nearness(self, places: Array) -> Array:
        """How far places lie towards the eye: what stands before a place on its way to the eye lies nearer."""
        found: Array = np.asarray(places) @ np.array(self.eye)
        return found

    def towards(self, place: Sequence[float]) -> tuple[list[float], float]:
        """The direction from a place to the eye, and how far away that is."""
        return list(self.eye), math.inf

    def along(self, start: Array, end: Array, share: Array) -> Array:
        """At which share of a straight way in space its image is at a share of its own way."""
        return share

    def drift(self, place: Array, way: Array) -> Array:
        """How the image of a place goes on when the place goes a way in space."""
        return self.image(way)

    def drift_of(self, place: Sequence[float], way: Sequence[float]) -> tuple[float, float]:
        """The same in plain Python, for it is asked for again and again."""
        return self.spot(way)


@dataclass(frozen=True)
class Central(Sight):
    """A view from one ``station``: a place is seen where its ray meets the picture plane, ``away`` before the station and
    square to ``eye``, the direction from that plane to the eye. Images are told in the plane as parallel ones are, so that
    what lies in the picture plane is seen where it is."""

    station: tuple[float, float, float] = (0.0, 0.0, 0.0)
    away: float = 1.0

    def _parts(self, places: Array) -> tuple[Array, Array, Array]:
        """To the right of the station, above it, and how far before it, of places."""
        rel = np.asarray(places) - np.array(self.station)
        return rel @ np.array(self.right), rel @ np.array(self.up), -(rel @ np.array(self.eye))

    def spot(self, place: Sequence[float]) -> tuple[float, float]:
        x, y, z = (p - s for p, s in zip(place, self.station, strict=True))
        (a, b, c), (d, e, f), (g, h, i) = self.right, self.up, self.eye
        deep = -(g * x + h * y + i * z)
        share = self.away / deep if deep else math.inf
        x0, y0 = self._base
        return (a * x + b * y + c * z) * share + x0, (d * x + e * y + f * z) * share + y0

    @cached_property
    def _base(self) -> Span:
        return dot(self.station, self.right), dot(self.station, self.up)

    def image(self, places: Array) -> Array:
        x, y, deep = self._parts(places)
        found: Array = np.stack([x, y], axis=-1) * (self.away / deep)[..., None] + np.array(self._base)
        return found

    def nearness(self, places: Array) -> Array:
        return -self._parts(places)[2]

    def towards(self, place: Sequence[float]) -> tuple[list[float], float]:
        way = [s - p for s, p in zip(self.station, place, strict=True)]
        size = math.hypot(*way)
        return [c / size for c in way], size

    def along(self, start: Array, end: Array, share: Array) -> Array:
        first, last = self._parts(start)[2], self._parts(end)[2]
        found: Array = share * first / (last * (1 - share) + share * first)
        return found

    def drift(self, place: Array, way: Array) -> Array:
        x, y, deep = self._parts(place)
        dx, dy, ddeep = (way @ np.array(self.right), way @ np.array(self.up), -(way @ np.array(self.eye)))
        return np.array([dx * deep - x * ddeep, dy * deep - y * ddeep]) * self.away / (deep * deep)

    def drift_of(self, place: Sequence[float], way: Sequence[float]) -> tuple[float, float]:
        rel = [p - s for p, s in zip(place, self.station, strict=True)]
        (x, dx), (y, dy), (deep, ddeep) = (
            (dot(rel, c) * sign, dot(way, c) * sign) for c, sign in ((self.right, 1), (self.up, 1), (self.eye, -1))
        )
        share = self.away / (deep * deep)
        return (dx * deep - x * ddeep) * share, (dy * deep - y * ddeep) * share


def ends_of(edges: Sequence[Edge]) -> Array:
    """The ends of straight edges, (edges, 2, 3); of others there are none."""
    found = np.zeros((len(edges), 2, 3))
    straight = [n for n, edge in enumerate(edges) if isinstance(edge.curve, Straight)]
    if straight:
        lines = [edges[n].curve for n in straight]
        starts, ways = (np.array([getattr(line, name) for line in lines]) for name in ("start", "way"))
        told = np.array([(edges[n].low, edges[n].high) for n in straight])
        found[straight] = starts[:, None] + told[..., None] * ways[:, None]
    return found


Course: TypeAlias = Callable[[float], tuple[float, float, float, float]]
"""An image's place at a measure, and how it goes on with that."""


def course_of(sight: Sight, curve: Curve) -> Course:
    """How the image of a curve runs: of a parallel one that is a line or an ellipse by its own few numbers."""
    spot, place = sight.spot, curve.place
    if isinstance(sight, Central):
        return lambda t: _stepped(spot, place, t)
    if isinstance(curve, Straight):
        (x, y), (dx, dy) = spot(place(0.0)), spot(curve.way.tolist())
        return lambda t: (x + t * dx, y + t * dy, dx, dy)
    if not curve.is_ellipse:
        return lambda t: _stepped(spot, place, t)
    (a, b), (c, d), (e, f) = (spot(place(quarter * math.pi / 2)) for quarter in (0, 1, 2))
    mx, my = (a + e) / 2, (b + f) / 2
    ux, uy, vx, vy = (a - e) / 2, (b - f) / 2, c - mx, d - my

    def round_the_ellipse(t: float) -> tuple[float, float, float, float]:
        cos, sin = math.cos(t), math.sin(t)
        return mx + ux * cos + vx * sin, my + uy * cos + vy * sin, vx * cos - ux * sin, vy * cos - uy * sin

    return round_the_ellipse


def _stepped(
    spot: Callable[[Sequence[float]], Span], place: Callable[[float], Sequence[float]], t: float
) -> tuple[float, float, float, float]:
    """The same with the direction from a small step to and fro."""
    step = 1e-6
    (x, y), (x1, y1), (x2, y2) = spot(place(t)), spot(place(t - step)), spot(place(t + step))
    return x, y, (x2 - x1) / (2 * step), (y2 - y1) / (2 * step)


def _images(sight: Sight, edges: Sequence[Edge]) -> list[Array]:
    """The images of edges, by the ends of straight ones and so many chords of others."""
    ends = sight.image(ends_of(edges))
    return [ends[n] if edge.curve.is_straight else sight.image(edge.places(CHORDS)) for n, edge in enumerate(edges)]


def _beside(first: Array, way: Array, ends: Array, near: float) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Which places may lie on which straight images, told by how far they are from the origin across each direction that
    images run in: the numbers of the images, and those of the places."""
    unit = way / np.sqrt((way * way).sum(axis=1))[:, None]
    unit = np.where((unit[:, :1] < -1e-9) | ((np.abs(unit[:, :1]) <= 1e-9) & (unit[:, 1:] < 0)), -unit, unit)
    told: dict[tuple[float, ...], list[int]] = {}
    for n, direction in enumerate(np.round(unit, 9).tolist()):
        told.setdefault(tuple(direction), []).append(n)
    on, of = [], []
    for (dx, dy), several in told.items():
        across = ends[:, 0] * dy - ends[:, 1] * dx
        order = np.argsort(across)
        at = first[several, 0] * dy - first[several, 1] * dx
        slack = near + 1e-8 * float(np.abs(ends).max())
        begin, end = (np.searchsorted(across[order], at + side * slack) for side in (-1, 1))
        for n, a, b in zip(several, begin.tolist(), end.tolist(), strict=True):
            on.append(np.full(b - a, n, dtype=np.intp))
            of.append(order[a:b])
    return np.concatenate(on), np.concatenate(of)


def _may_turn(along: Array) -> list[int]:
    """The chords on which places that go along a line may turn back: the first, the last, and those about a change."""
    on = np.diff(along)
    turns = np.ones(len(on) + 1, dtype=bool)
    turns[1:-1] = on[1:] * on[:-1] <= 0
    return np.flatnonzero(turns[1:] | turns[:-1]).tolist()


def _wide(image: Array) -> float:
    """How far an image reaches, to the right or upwards."""
    if len(image) == 2:
        (x1, y1), (x2, y2) = image.tolist()
        return float(max(abs(x2 - x1), abs(y2 - y1)))
    return float(np.ptp(image, axis=0).max())


def _first(image: Array) -> Array:
    found: Array = image[0]
    return found


def _whole(image: Array) -> Array:
    found: Array = image[-1] - image[0]
    return found


class Images:
    """The images of strokes, and where they cross."""

    def __init__(self, body: Body, sight: Sight, strokes: Sequence[tuple[Edge, bool]]) -> None:
        self.sight, self.near = sight, body.model.near * 10
        images = _images(sight, [edge for edge, _ in strokes])
        keep = [k for k, image in enumerate(images) if _wide(image) > self.near]
        self.strokes = [strokes[k] for k in keep]
        self.images = [images[k] for k in keep]
        self.found: list[list[float]] = [[] for _ in keep]
        edges = [edge for edge, _ in self.strokes]
        self._low, self._high = np.array([edge.low for edge in edges]), np.array([edge.high for edge in edges])
        self._straight = np.array([edge.curve.is_straight for edge in edges], dtype=bool)
        self._ends = ends_of(edges)
        self._courses: dict[int, Course] = {}
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
        ends = starts + ways
        (left, low), (right, high) = np.minimum(starts, ends).T - self.near, np.maximum(starts, ends).T + self.near
        meets = (left[:, None] <= right) & (left <= right[:, None]) & (low[:, None] <= high) & (low <= high[:, None])
        i, j = np.nonzero(meets)
        apart = (i < j) & (owner[i] != owner[j])
        i, j = i[apart], j[apart]
        area = ways[i, 0] * ways[j, 1] - ways[i, 1] * ways[j, 0]
        long = np.hypot(*ways[i].T) * np.hypot(*ways[j].T)
        gap = starts[j] - starts[i]
        with np.errstate(divide="ignore", invalid="ignore"):
            s = (gap[:, 0] * ways[j, 1] - gap[:, 1] * ways[j, 0]) / area
            t = (gap[:, 0] * ways[i, 1] - gap[:, 1] * ways[i, 0]) / area
        slack = 1e-3
        good = (np.abs(area) > 1e-9 * long) & (s > -slack) & (s < 1 + slack) & (t > -slack) & (t < 1 + slack)
        one, other = owner[i[good]], owner[j[good]]
        here, there = self._places(one, place[i[good]] + s[good]), self._places(other, place[j[good]] + t[good])
        both = self._straight[one] & self._straight[other]
        self._cut(one[both], here[both])
        self._cut(other[both], there[both])
        for k in np.flatnonzero(~both).tolist():
            pair = int(one[k]), int(other[k])
            refined = self._refined(*pair, float(here[k]), float(there[k]))
            if refined is not None:
                self._cut(np.array(pair), np.array(refined))

    def _cut(self, strokes: NDArray[np.intp], places: Array) -> None:
        """Cut strokes at places between their ends."""
        between = (self._low[strokes] < places) & (places < self._high[strokes])
        for n, t in zip(strokes[between].tolist(), places[between].tolist(), strict=True):
            self.found[n].append(t)

    def _places(self, strokes: NDArray[np.intp], chords: Array) -> Array:
        """The places of strokes whose images are at so many of their chords."""
        many = np.array([len(image) - 1 for image in self.images])
        shares = chords / many[strokes]
        straight = self._straight[strokes]
        first, last = self._ends[strokes[straight]].transpose(1, 0, 2)
        shares[straight] = self.sight.along(first, last, shares[straight])
        found: Array = self._low[strokes] + (self._high[strokes] - self._low[strokes]) * shares
        return found

    def _refined(self, first: int, second: int, s: float, t: float) -> Span | None:
        """The crossing of two images near two places, by Newton's method; None where they lie on each other or do not
        meet."""
        one, other = self._course(first), self._course(second)
        for _ in range(12):
            (px, py, dx, dy), (qx, qy, ex, ey) = one(s), other(t)
            area = -dx * ey + dy * ex
            gx, gy = qx - px, qy - py
            if abs(area) <= TOUCHING * math.hypot(dx, dy) * math.hypot(ex, ey) or not math.isfinite(gx + gy):
                return None
            if math.hypot(gx, gy) < self.near * 1e-3:
                break
            s, t = s + (-gx * ey + gy * ex) / area, t + (dx * gy - dy * gx) / area
        return (s, t) if math.hypot(gx, gy) < self.near else None

    def _course(self, n: int) -> Course:
        """How the image of a stroke runs with its own measure."""
        if n not in self._courses:
            self._courses[n] = course_of(self.sight, self.strokes[n][0].curve)
        return self._courses[n]

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
            angles = np.linspace(edge.low, edge.high, len(image)).tolist()
            for k in _may_turn(away @ way):
                a, b = angles[k], angles[k + 1]
                one, other = onward(a), onward(b)
                if abs(one) < 1e-12:
                    self.found[n].append(a)
                elif one * other < 0 and abs(other) >= 1e-12:
                    self.found[n].append(bisect(onward, a, b))

    def _onward(self, edge: Edge, way: Array) -> Callable[[float], float]:
        """How much the image of an edge goes on in a direction of the view."""
        x, y = float(way[0]), float(way[1])

        @cache
        def onward(t: float) -> float:
            right, up = self.sight.drift_of(edge.curve.place(t), edge.curve.tangent(t).tolist())
            return right * x + up * y

        return onward

    def _touch(self) -> None:
        """Cut strokes where the end of another lies on them, as it does where images lie on each other."""
        ends = np.concatenate([image[[0, -1]] for image in self.images])
        straight = np.flatnonzero(self._straight)
        if len(straight):
            first, way = (np.array([f(self.images[n]) for n in straight.tolist()]) for f in (_first, _whole))
            on, of = _beside(first, way, ends, self.near)
            away, along, size = ends[of] - first[on], way[on], (way * way).sum(axis=1)[on]
            shares = (away * along).sum(axis=1) / size
            aside = np.abs(away[:, 0] * along[:, 1] - away[:, 1] * along[:, 0]) / np.sqrt(size)
            there = (aside < self.near) & (shares > 0.0) & (shares < 1.0)
            self._cut(straight[on[there]], self._places(straight[on[there]], shares[there]))
        ended = np.repeat([not is_whole(edge) for edge, _ in self.strokes], 2)
        _, alike = np.unique(np.round(ends[ended] / (self.near * ONE_END)), axis=0, return_index=True)
        once = ends[ended][np.sort(alike)]
        for n, ((edge, _), image) in enumerate(zip(self.strokes, self.images, strict=True)):
            if edge.curve.is_straight:
                continue
            low, high = image.min(axis=0), image.max(axis=0)
            slack = 0.02 * float((high - low).max())
            for end in once[((once >= low - slack) & (once <= high + slack)).all(axis=1)]:
                t = self._nearest(n, image, end)
                if t is not None and is_whole(edge):
                    self.found[n].append(edge.low + (t - edge.low) % TURN)  # at the seam too
                elif t is not None and edge.low < t < edge.high:
                    self.found[n].append(t)

    def _nearest(self, n: int, image: Array, spot: Array) -> float | None:
        """The place of a curve whose image is at a spot; None where it passes by."""
        edge, course = self.strokes[n][0], self._course(n)
        away = ((image - spot) ** 2).sum(axis=1)
        best = int(np.argmin(away))
        chord = float(((image[1:] - image[:-1]) ** 2).sum(axis=1).max())
        if float(away[best]) > chord:
            return None
        t = edge.low + (edge.high - edge.low) * best / (len(image) - 1)
        x, y = float(spot[0]), float(spot[1])
        for _ in range(8):
            px, py, dx, dy = course(t)
            size = dx * dx + dy * dy
            if not size or not math.isfinite(size):
                return None
            onward = ((x - px) * dx + (y - py) * dy) / size
            t += onward
            if abs(onward) < ONE_ANGLE * 1e-2:
                break
        px, py, _, _ = course(t)
        return t if max(abs(px - x), abs(py - y)) < self.near else None
