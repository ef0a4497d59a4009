"""Straight edges among flat parts, all of a body at once in arrays: the same as ``edges.edges_along`` tells one by one.

What is about a piece of a line hangs on nothing but the line's way, the normals of the planes through it and which parts
they bound there; a body has few such arrangements, and each is settled once.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from wisecompass.geometry.curves_in_space import Array, Straight
from wisecompass.geometry.model import ONE_PLACE, Model, Triple
from wisecompass.geometry.roots import PARALLEL
from wisecompass.geometry.section import TOUCHING, Section, Side, faces_of, section_square_to
from wisecompass.geometry.surfaces import Flat

Bools: TypeAlias = NDArray[np.bool_]
Counts: TypeAlias = NDArray[np.intp]

Pair: TypeAlias = tuple[int, int]
"""Two surfaces by their numbers."""

Stretch: TypeAlias = tuple[Straight, tuple[int, ...], float, float]
"""A line, the two surfaces that meet in it, and between which of its places to look."""

ONE = ONE_PLACE * 10
"""Directions that differ by less are one, and places by this share of the body's size."""

ARRANGEMENTS = 4096
"""So many arrangements of planes about a line are remembered."""


@dataclass(frozen=True)
class Walls:
    """Which plane bounds which part, and on which side: an entry for each wall of each part."""

    model: Model

    @cached_property
    def part(self) -> Counts:
        return np.array([p for p, walls in enumerate(self.model.walls) for _ in walls], dtype=np.intp)

    @cached_property
    def surface(self) -> Counts:
        return np.array([k for walls in self.model.walls for k, _ in walls], dtype=np.intp)

    @cached_property
    def way(self) -> Array:
        return np.array([way for walls in self.model.walls for _, way in walls])

    @cached_property
    def first(self) -> Counts:
        """The place of each part's first wall."""
        return np.cumsum([0, *(len(walls) for walls in self.model.walls[:-1])])

    @cached_property
    def bounds(self) -> Bools:
        """Whether a surface bounds a part, (parts, surfaces)."""
        found = np.zeros((len(self.model.walls), len(self.model.surfaces)), dtype=bool)
        found[self.part, self.surface] = True
        return found

    @cached_property
    def flat(self) -> Bools:
        """Whether a part has planes only."""
        return np.array([all(isinstance(self.model.surfaces[k], Flat) for k, _ in walls) for walls in self.model.walls])


@dataclass(frozen=True)
class Piece:
    """A piece of a line between two cuts, the planes through it, the faces that begin there and whether one goes on into the
    other, and what is about it."""

    low: float
    high: float
    through: tuple[int, ...]
    sides: tuple[Side, ...]
    smooth: bool
    section: Section


@dataclass(frozen=True)
class Crossed:
    """The line of two planes, from its place nearest to the origin to the right, back or up, what it is found again by, and
    where it runs within boxes."""

    line: Straight
    keys: list[tuple[int, ...]]
    stretches: list[tuple[float, float]]


def lines_of_planes(
    model: Model, pairs: Sequence[Pair], boxes: Sequence[Sequence[int]], low: Array, high: Array
) -> list[Crossed | None]:
    """The lines in which pairs of planes meet, each within boxes of those whose least and greatest corners are given; None
    for parallel ones."""
    if not pairs:
        return []
    i, j = np.array(pairs).T
    normals, rests = model.rows[:, 3:6], model.rows[:, 6:]
    way = np.cross(normals[i], normals[j])
    size = (way * way).sum(axis=1)
    meets = size >= PARALLEL
    size = np.where(meets, size, 1.0)[:, None]
    start = -(rests[i] * np.cross(normals[j], way) + rests[j] * np.cross(way, normals[i])) / size
    way = way / np.sqrt(size)
    clear = np.abs(way) > 1e-9
    turned = way[np.arange(len(way)), clear.argmax(axis=1)] < 0
    way[turned] = -way[turned]
    start -= (start * way).sum(axis=1)[:, None] * way
    steps = np.concatenate([way / ONE, start / (ONE * model.size)], axis=1)
    keys = [[tuple(row) for row in np.floor(steps + shift).astype(np.int64).tolist()] for shift in (0.25, 0.75)]
    of = np.repeat(np.arange(len(pairs)), [len(each) for each in boxes])
    box = np.array([b for each in boxes for b in each], dtype=np.intp)
    first, last = clipped(start[of], way[of], low[box], high[box])
    within: list[list[tuple[float, float]]] = [[] for _ in pairs]
    for n, a, b in zip(of.tolist(), first.tolist(), last.tolist(), strict=True):
        if b - a > 1e-12:
            within[n].append((a, b))
    return [
        Crossed(Straight(start[n], way[n]), [keys[0][n], keys[1][n]], within[n]) if there else None
        for n, there in enumerate(meets.tolist())
    ]


def clipped(start: Array, way: Array, low: Array, high: Array) -> tuple[Array, Array]:
    """Where lines run within boxes; the end before the beginning where one misses its box."""
    level = np.abs(way) < 1e-12
    with np.errstate(divide="ignore", invalid="ignore"):
        one, other = (low - start) / way, (high - start) / way
    inside = (low <= start) & (start <= high)
    first = np.where(level, np.where(inside, -np.inf, np.inf), np.minimum(one, other)).max(axis=1)
    last = np.where(level, np.where(inside, np.inf, -np.inf), np.maximum(one, other)).min(axis=1)
    return first, last


def near_parts(model: Model, lines: Sequence[Stretch]) -> Bools:
    """Which parts a stretch of a line may meet, (lines, parts)."""
    starts, ways = np.array([line.start for line, *_ in lines]), np.array([line.way for line, *_ in lines])
    ends = np.stack([starts + np.array([each[n] for each in lines])[:, None] * ways for n in (2, 3)])
    least, most = ends.min(axis=0) - model.near, ends.max(axis=0) + model.near
    found: Bools = ((model.lows <= most[:, None]) & (model.highs >= least[:, None])).all(axis=2)
    return found


def pieces_along(model: Model, walls: Walls, lines: Sequence[Stretch], near: Bools) -> list[list[Piece]]:
    """The pieces of every stretch about which faces may begin; all parts ``near`` them are flat."""
    starts, ways = np.array([line.start for line, *_ in lines]), np.array([line.way for line, *_ in lines])
    low, high = np.array([each[2] for each in lines]), np.array([each[3] for each in lines])
    normals, rests = model.rows[:, 3:6], model.rows[:, 6]
    mine = np.zeros((len(lines), len(rests)), dtype=bool)
    for n, (_, pair, *_) in enumerate(lines):
        mine[n, list(pair)] = True
    walled = near @ walls.bounds
    slopes = ways @ normals.T
    with np.errstate(divide="ignore", invalid="ignore"):
        cuts = -(starts @ normals.T + rests) / slopes
        cut = walled & ~mine & (np.abs(slopes) > PARALLEL) & (cuts > low[:, None]) & (cuts < high[:, None])
    of, begin, end = _between(np.nonzero(cut)[0], cuts[cut], low, high, model.near)
    heights = (starts[of] + ((begin + end) / 2)[:, None] * ways[of]) @ normals.T + rests
    touching = ((np.abs(heights) <= model.near * TOUCHING) | mine[of]) & walled[of]
    touched = touching[:, walls.surface]
    beyond = ~touched & (heights[:, walls.surface] * walls.way > 0)
    about = near[of] & ~np.logical_or.reduceat(beyond, walls.first, axis=1)
    wanted = np.flatnonzero((touched & about[:, walls.part]).any(axis=1))
    found: list[list[Piece]] = [[] for _ in lines]
    through, parts = by_row(touching[wanted]), by_row(about[wanted])
    told = of[wanted].tolist(), begin[wanted].tolist(), end[wanted].tolist(), through, parts
    for k, t, u, planes, several in zip(*told, strict=True):
        settled = arrangement(model, lines[k][0].way.tolist(), planes, several)
        if settled is not None:
            found[k].append(Piece(t, u, tuple(planes), *settled))
    return found


def _between(rows: Counts, places: Array, low: Array, high: Array, gap: float) -> tuple[Counts, Array, Array]:
    """The pieces into which stretches fall, by the number of the stretch; cuts nearer than ``gap`` are one."""
    order = np.lexsort((places, rows))
    rows, places = rows[order], places[order]
    first = np.ones(len(rows), dtype=bool)
    first[1:] = rows[1:] != rows[:-1]
    before = np.concatenate([[0.0], places[:-1]]) if len(rows) else places
    keep = places - np.where(first, low[rows], before) >= gap
    rows, places = rows[keep], places[keep]
    last = np.ones(len(rows), dtype=bool)
    last[:-1] = rows[1:] != rows[:-1]
    keep = ~(last & (high[rows] - places < gap))
    rows, places = rows[keep], places[keep]
    every = np.arange(len(low))
    of = np.concatenate([every, rows])
    order = np.lexsort((np.concatenate([low, places]), of))
    ends = np.concatenate([places, high])[np.lexsort((np.concatenate([places, high]), np.concatenate([rows, every])))]
    return of[order], np.concatenate([low, places])[order], ends


def by_row(table: Bools) -> list[list[int]]:
    """The columns in which each row holds."""
    rows, columns = np.nonzero(table)
    ends = np.cumsum(np.bincount(rows, minlength=len(table))).tolist()
    listed = columns.tolist()
    return [listed[a:b] for a, b in zip([0, *ends], ends, strict=False)]


def arrangement(
    model: Model, way: Triple, through: Sequence[int], parts: Sequence[int]
) -> tuple[tuple[Side, ...], bool, Section] | None:
    """What is about a line: the planes through it and the parts that reach there; None where no face begins."""
    place = {k: n for n, k in enumerate(through)}
    about = tuple(
        [(model.parts[p].taken, tuple([(place[k], side) for k, side in model.walls[p] if k in place])) for p in parts]
    )
    settled = _settled((way[0], way[1], way[2]), tuple([model.normals[k] for k in through]), about)
    if settled is None:
        return None
    sides, smooth, section = settled
    branches = [(angle, bend, through[k]) for angle, bend, k in section.branches]
    slopes = {through[k]: slope for k, slope in section.slopes.items()}
    named = tuple([Side(through[side.surface], side.along, side.left) for side in sides])
    return named, smooth, Section(section.first, section.second, branches, section.inside, slopes, tuple(through))


@lru_cache(maxsize=ARRANGEMENTS)
def _settled(
    way: tuple[float, float, float],
    normals: tuple[tuple[float, float, float], ...],
    about: tuple[tuple[bool, tuple[tuple[int, float], ...]], ...],
) -> tuple[tuple[Side, ...], bool, Section] | None:
    level = {k: [0.0, 0.0, 0.0] for k in range(len(normals))}
    section = section_square_to(list(way), {k: list(normal) for k, normal in enumerate(normals)}, level, about)
    faces = faces_of(section, contour=False)
    return None if faces is None else (*faces, section)
