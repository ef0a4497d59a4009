"""What a view shows of a body, followed while its numbers change: every end of a piece stays on the surfaces that it lies
on, or where it passes behind another edge. That is true until a face comes before another or lets go of it, and takes a
small part of the time of finding out; so it is shown while somebody types, and what is found out follows.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from wisecompass.geometry.curves_in_space import Array, Straight, gradients, table, values
from wisecompass.geometry.edges import Body, Edge
from wisecompass.geometry.images import Central, Sight
from wisecompass.geometry.model import Model
from wisecompass.geometry.parts import Part, surfaces
from wisecompass.geometry.section import dot
from wisecompass.geometry.sight import Run
from wisecompass.geometry.straight_edges import by_row
from wisecompass.geometry.surfaces import Cone, Flat, Surface

CHORDS = 16
"""Chords of a curved piece that are followed."""

ROUNDS = 6
"""So many of Newton's steps are taken at most."""

FOUND = 1e-7
"""The share of the body's size below which a step is the last one."""

NEARLY = 1e4
"""A place whose last step was this many times longer is lost."""

BEHIND = 2e-3
"""The share of the body's size by which the chord of a curve may miss what ends behind it."""

SHARP = 1e-3
"""The volume of three directions below which they do not fix a place."""


@dataclass
class _Ends:
    """Places that are followed: where they were, the surfaces that each lies on, -1 for none, and which of them are seen
    one behind the other."""

    places: list[list[float]] = field(default_factory=list)
    on: list[tuple[int, int, int]] = field(default_factory=list)
    behind: list[tuple[int, int]] = field(default_factory=list)
    apexes: list[tuple[int, int]] = field(default_factory=list)
    """Places in the apex of a cone, where its value does not change: the place, the cone."""

    def add(self, place: Sequence[float], on: tuple[int, int, int]) -> int:
        self.places.append(list(place))
        self.on.append(on)
        return len(self.on) - 1


class Followed:
    """The pieces of a view of a body, ready to be followed."""

    def __init__(self, body: Body, sight: Sight, runs: Sequence[Run]) -> None:
        self.model, self.runs = body.model, list(runs)
        self._rounds = [k for k, on in enumerate(body.model.surfaces) if not isinstance(on, Flat)]
        self._ends = _Ends()
        self._of: list[list[int]] = []
        rows = self._rows(body.model.rows, sight)
        samples = [run.places(1 if isinstance(run.edge.curve, Straight) else CHORDS) for run in self.runs]
        tips = np.array([each[k] for each in samples for k in (0, -1)]).reshape(-1, 3)
        near = body.model.near * 100
        slopes = 2 * tips[:, None] * rows[:, :3] + rows[:, 3:6]
        steep = np.maximum(np.sqrt((slopes**2).sum(axis=2)), 1e-300)
        through = by_row(np.abs(values(rows, tips)) <= near * steep)
        lost: list[tuple[int, int]] = []
        for n, (run, places) in enumerate(zip(self.runs, samples, strict=True)):
            pair = self._pair(run.edge, run.contour, rows, places[len(places) // 2])
            mine = [self._ends.add(place, (*pair, -1)) for place in places.tolist()]
            for k, of in ((0, 2 * n), (-1, 2 * n + 1)):
                if run.closes:
                    continue
                third = _third(slopes[of], pair, through[of])
                apex = next((i for i in self._rounds if self._is_apex(i, tips[of])), -1)
                if apex >= 0:
                    self._ends.apexes.append((mine[k], apex))
                elif third >= 0:
                    self._ends.on[mine[k]] = (*pair, third)
                else:
                    lost.append((n, mine[k]))
            self._of.append(mine)
        self._find_behind(body, sight, rows, lost)
        self._places, self._on = np.array(self._ends.places).reshape(-1, 3), np.array(self._ends.on).reshape(-1, 3)
        self._straight = np.array([len(of) == 2 for of in self._of], dtype=bool)

    def _is_apex(self, k: int, place: Array) -> bool:
        on = self.model.surfaces[k]
        return isinstance(on, Cone) and float(np.abs(place - _centre(on)).max()) <= self.model.near * 100

    def _rows(self, rows: Array, sight: Sight) -> Array:
        """The surfaces, and for each round one the plane of its contour: where it turns away from the eye."""
        if not self._rounds:
            return rows
        q, m, c = rows[self._rounds, :3], rows[self._rounds, 3:6], rows[self._rounds, 6]
        if isinstance(sight, Central):
            station = np.array(sight.station)
            linear, rest = 2 * q * station + m, m @ station + 2 * c
        else:
            eye = np.array(sight.eye)
            linear, rest = 2 * q * eye, m @ eye
        size = np.maximum(np.sqrt((linear * linear).sum(axis=1)), 1e-300)[:, None]
        planes = np.concatenate([np.zeros_like(q), linear / size, rest[:, None] / size], axis=1)
        return np.concatenate([rows, planes])

    def _pair(self, edge: Edge, contour: bool, rows: Array, place: Array) -> tuple[int, int]:
        """The two surfaces, of those that an edge or contour lies on, that tell its way best."""
        several = list(edge.surfaces)
        if contour:
            turning = {k: len(self.model.surfaces) + n for n, k in enumerate(self._rounds) if k in several}
            return min(turning.items(), key=lambda pair: abs(float(values(rows[list(pair)], place[None])[0, 1])))
        if len(several) == 2:
            return several[0], several[1]
        ways = _slopes(rows, several, place).tolist()
        pairs = [(i, j) for i in range(len(several)) for j in range(i)]
        i, j = max(pairs, key=lambda pair: _sine(ways[pair[0]], ways[pair[1]]))
        return several[i], several[j]

    def _find_behind(self, body: Body, sight: Sight, rows: Array, lost: Sequence[tuple[int, int]]) -> None:
        """For ends on no third surface the edge or contour that they are seen to meet."""
        if not lost:
            return
        turning = {id(run.edge): run for run in self.runs if run.contour}
        edges = [edge for edge in body.edges if not edge.smooth] + [run.edge for run in turning.values()]
        samples = [edge.places(CHORDS) for edge in edges]
        of = np.repeat(np.arange(len(samples)), [len(each) - 1 for each in samples])
        first, last = (np.concatenate(several) for several in zip(*[(s[:-1], s[1:]) for s in samples], strict=True))
        a, b = sight.image(first), sight.image(last)
        way = b - a
        long = np.maximum((way * way).sum(axis=1), 1e-30)
        curved = np.array([len(each) > 2 for each in samples])[of]
        allowed = np.where(curved, BEHIND * self.model.size, self.model.near * 100)
        for n, end in lost:
            place = np.array(self._ends.places[end])
            at = sight.image(place)
            share = np.clip(((at - a) * way).sum(axis=1) / long, 0.0, 1.0)
            miss = np.sqrt(((a + share[:, None] * way - at) ** 2).sum(axis=1))
            mine = sight.drift(place, np.cross(*_slopes(rows, self._ends.on[end][:2], place)))
            sharp = np.abs(way[:, 0] * mine[1] - way[:, 1] * mine[0]) / np.sqrt(long * max(float(mine @ mine), 1e-30))
            own = np.array([edge is self.runs[n].edge for edge in edges])[of]
            fit = np.flatnonzero((miss <= allowed) & (sharp > SHARP) & ~own)
            if len(fit):
                best = int(fit[miss[fit].argmin()])
                edge = edges[of[best]]
                behind = first[best] + share[best] * (last[best] - first[best])
                pair = self._pair(edge, id(edge) in turning, rows, behind)
                self._ends.behind.append((end, self._ends.add(behind.tolist(), (*pair, -1))))

    # ---------------------------------------------------------------------------------------------------------- following
    def places(self, again: Again, sight: Sight) -> list[Array | None]:
        """Where the pieces are with other numbers of the parts, each by places along it; None for a piece that has shrunk to
        nothing, or is not found."""
        found, missed = self._solved(again, sight)
        tips = np.array([(of[0], of[-1]) for of in self._of], dtype=np.intp).reshape(-1, 2)
        before = self._places[tips[:, 1]] - self._places[tips[:, 0]]
        gone = self._straight & (((found[tips[:, 1]] - found[tips[:, 0]]) * before).sum(axis=1) <= 0.0)
        lost = missed > FOUND * self.model.size * NEARLY
        return [None if out or lost[of].any() else found[of] for out, of in zip(gone.tolist(), self._of, strict=True)]

    def _solved(self, again: Again, sight: Sight) -> tuple[Array, Array]:
        """All ends by Newton's steps from where they were: the shortest ones, where an end is free along its curve; and how
        long the last step of each was."""
        rows = self._rows(again.rows, sight)
        found, on, missed = self._places.copy(), self._on, np.zeros(len(self._on))
        fixed = np.flatnonzero(on[:, 2] >= 0)
        pairs = np.array(self._ends.behind, dtype=np.intp).reshape(-1, 2)
        apexes = np.array(self._ends.apexes, dtype=np.intp).reshape(-1, 2)
        free = np.setdiff1d(np.flatnonzero(on[:, 2] < 0), [*pairs.ravel(), *apexes[:, 0]])
        found[apexes[:, 0]] = [_centre(again.surfaces[k]) for k in apexes[:, 1]] or np.zeros((0, 3))
        limit = FOUND * self.model.size
        for _ in range(ROUNDS):
            if len(fixed):
                heights, slopes = _told(rows, on[fixed], found[fixed])
                self._go(found, missed, fixed, _inverse(slopes) @ heights[..., None])
                fixed = fixed[missed[fixed] > limit]
            if len(free):
                heights, slopes = _told(rows, on[free][:, :2], found[free])
                turned = slopes.transpose(0, 2, 1)
                self._go(found, missed, free, turned @ (_inverse(slopes @ turned) @ heights[..., None]))
                free = free[missed[free] > limit]
            if len(pairs):
                step = self._pairs_step(rows, sight, found, pairs)
                self._go(found, missed, pairs[:, 0], step[:, :3])
                self._go(found, missed, pairs[:, 1], step[:, 3:])
                pairs = pairs[missed[pairs].max(axis=1) > limit]
            if not len(fixed) + len(free) + len(pairs):
                break
        return found, missed

    def _go(self, found: Array, missed: Array, which: NDArray[np.intp], step: Array) -> None:
        """Take one step with some of the ends."""
        most = self.model.size
        by = np.clip(np.nan_to_num(step[..., 0], nan=most), -most, most)
        found[which] -= by
        missed[which] = np.abs(by).max(axis=1)

    def _pairs_step(self, rows: Array, sight: Sight, found: Array, pairs: NDArray[np.intp]) -> Array:
        """One step for places that are seen one behind the other, (pairs, 6, 1)."""
        front, back = found[pairs[:, 0]], found[pairs[:, 1]]
        matrix, rest = np.zeros((len(pairs), 6, 6)), np.zeros((len(pairs), 6))
        for k, places in enumerate((front, back)):
            heights, slopes = _told(rows, self._on[pairs[:, k]][:, :2], places)
            matrix[:, 2 * k : 2 * k + 2, 3 * k : 3 * k + 3] = slopes
            rest[:, 2 * k : 2 * k + 2] = heights
            for axis in range(3):
                way = np.zeros(3)
                way[axis] = 1.0
                matrix[:, 4:, 3 * k + axis] = (1 - 2 * k) * sight.drift(places, way).T
        rest[:, 4:] = sight.image(front) - sight.image(back)
        step: Array = np.linalg.pinv(matrix, rcond=SHARP) @ rest[..., None]
        return step


@dataclass(frozen=True)
class Again:
    """The surfaces of a body whose parts have other numbers."""

    surfaces: list[Surface]
    rows: Array


def again(model: Model, parts: Sequence[Part]) -> Again | None:
    """The surfaces of a model with other numbers of its parts; of several that were one and are no more the one that has
    moved. None where they are other parts."""
    if [(p.kind, p.way, p.taken, p.sides) for p in parts] != [(p.kind, p.way, p.taken, p.sides) for p in model.parts]:
        return None
    of_parts = [surfaces(part) for part in parts]
    every = [of_parts[part][place] for (part, place), _ in model.same]
    told, which = table(every), [k for _, k in model.same]
    before = model.rows[which]
    against = (before[:, 3:6] * told[:, 3:6]).sum(axis=1) < 0
    told[~told[:, :3].any(axis=1) & against] *= -1.0
    moved = np.abs(told - before).max(axis=1) > FOUND * model.size
    chosen: dict[int, int] = {}
    for n, k in enumerate(which):
        if k not in chosen or (moved[n] and not moved[chosen[k]]):
            chosen[k] = n
    order = [chosen[k] for k in range(len(model.surfaces))]
    return Again([every[n] for n in order], told[order])


def _centre(on: Surface) -> Array:
    """The apex of a cone."""
    assert isinstance(on, Cone)
    return np.array([float(c) for c in on.centre])


def _inverse(matrices: Array) -> Array:
    """The inverse of each; where one has none, what comes nearest to it."""
    try:
        return np.asarray(np.linalg.inv(matrices), dtype=float)
    except np.linalg.LinAlgError:
        return np.asarray(np.linalg.pinv(matrices, rcond=FOUND), dtype=float)


def _told(rows: Array, on: Array, places: Array) -> tuple[Array, Array]:
    """Of each place the values of its surfaces, and their gradients."""
    mine = rows[on]
    square, linear = mine[..., :3], mine[..., 3:6]
    at = places[:, None]
    return ((square * at + linear) * at).sum(axis=2) + mine[..., 6], 2 * square * at + linear


def _slopes(rows: Array, on: Sequence[int], place: Array) -> Array:
    """The gradients of surfaces at one place."""
    return gradients(rows[list(on)], place)


def _third(slopes: Array, pair: tuple[int, int], through: Sequence[int]) -> int:
    """Of the surfaces through the end of a piece the one that fixes it best; -1 where none does."""
    one, other = slopes[pair[0]].tolist(), slopes[pair[1]].tolist()
    best, found = SHARP, -1
    for k in through:
        if k in pair:
            continue
        way = slopes[k].tolist()
        size = (dot(one, one) * dot(other, other) * dot(way, way)) ** 0.5
        volume = abs(dot(one, _cross(other, way))) / size if size else 0.0
        if volume > best:
            best, found = volume, k
    return found


def _sine(one: Sequence[float], other: Sequence[float]) -> float:
    across = _cross(one, other)
    size = dot(one, one) * dot(other, other)
    return dot(across, across) / size if size else 0.0


def _cross(one: Sequence[float], other: Sequence[float]) -> tuple[float, float, float]:
    (a, b, c), (x, y, z) = one, other
    return b * z - c * y, c * x - a * z, a * y - b * x
