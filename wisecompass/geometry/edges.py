"""The edges of a body that is made of parts, and its corners: where its surfaces meet, told from where they only cross
unseen.

Surfaces that are the same are one, so that flush faces have no line between them. Every curve in which two surfaces meet
is cut by all others; about the middle of each piece the surfaces through it cut space into sectors, of which each is
inside the body or outside: without a change there is nothing, with two opposite ones a face goes on there, otherwise the
piece is an edge. Floats: this settles what there is and in which order; where it lies is found from the surfaces' names.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from itertools import product
from typing import TYPE_CHECKING

import numpy as np

from wisecompass.geometry.curves_in_space import (
    ONE_ANGLE,
    TURN,
    Array,
    Curve,
    Straight,
    values,
)
from wisecompass.geometry.meeting import generator, meeting
from wisecompass.geometry.model import ONE_PLACE, Model, Triple
from wisecompass.geometry.parts import Part
from wisecompass.geometry.section import Around, Section, Side, dot, faces_of, section_at
from wisecompass.geometry.straight_edges import Piece, Walls, by_row, lines_of_planes, near_parts, pieces_along
from wisecompass.geometry.surfaces import Cone, Flat, Round, across

if TYPE_CHECKING:
    from wisecompass.geometry.images import Sight

STRAY = 1e-4
"""The share of the body's size below which an edge that hangs on nothing is what rounding leaves where surfaces touch."""


@dataclass(frozen=True)
class Edge:
    """A piece of a curve between two of its places. ``smooth`` where one face goes on into another without a bend; its ends
    are numbers of corners, -1 where it closes upon itself."""

    curve: Curve
    low: float
    high: float
    surfaces: tuple[int, ...]
    sides: tuple[Side, ...]
    smooth: bool
    ends: tuple[int, int] = (-1, -1)
    section: Section | None = field(default=None, compare=False, repr=False)
    """What is about it, where that is the same all along: of a straight edge, for on a round face that is a generator, and,
    turning with it, of a circle whose faces are round about the same axis."""

    @property
    def middle(self) -> float:
        return (self.low + self.high) / 2

    @property
    def closes(self) -> bool:
        return self.ends == (-1, -1)

    def section_at(self, t: float) -> Section | None:
        """What is about one of its places, where that is known from another."""
        if self.section is None or isinstance(self.curve, Straight):
            return self.section
        return self.section.turned(self.curve.on.axis, t - self.section.at)

    def places(self, chords: int) -> Array:
        """Places along it, evenly in its own measure; of a straight one its ends. Remembered, for every view asks."""
        if isinstance(self.curve, Straight):
            chords = 1
        if chords not in self._places:
            self._places[chords] = self.curve.at(np.linspace(self.low, self.high, chords + 1))
        return self._places[chords]

    @cached_property
    def _places(self) -> dict[int, Array]:
        return {}


@dataclass
class Body:
    """What stands at the end: its surfaces, edges and corners."""

    model: Model
    edges: list[Edge]
    corners: list[Array]
    corner_surfaces: list[tuple[int, ...]]


def body_of(parts: Sequence[Part]) -> Body:
    """The body that parts make."""
    model = Model.of(parts)
    several = [(curve, pair, *stretch) for curve, pair, stretches in _curves(model) for stretch in stretches]
    at_once = _edges_of_flat_parts(model, several)
    found: list[Edge] = []
    for n, each in enumerate(several):
        found += at_once[n] if n in at_once else edges_along(model, *each)
    return _with_corners(model, found)


def _edges_of_flat_parts(
    model: Model, several: Sequence[tuple[Curve, tuple[int, int], float, float]]
) -> dict[int, list[Edge]]:
    """The edges on those of several stretches that only flat parts are near, by the number of the stretch."""
    walls = Walls(model)
    straight = [
        (n, (curve, pair, low, high)) for n, (curve, pair, low, high) in enumerate(several) if isinstance(curve, Straight)
    ]
    if not straight:
        return {}
    near = near_parts(model, [line for _, line in straight])
    flat = np.flatnonzero(~near[:, ~walls.flat].any(axis=1)).tolist()
    if not flat:
        return {}
    lines = [straight[k][1] for k in flat]
    told = pieces_along(model, walls, lines, near[flat])
    return {straight[k][0]: _pieces_put_together(lines[m][0], told[m]) for m, k in enumerate(flat)}


def _pieces_put_together(line: Straight, pieces: Sequence[Piece]) -> list[Edge]:
    """The edges among the pieces of a line: those that go on alike are one."""
    found: list[Edge] = []
    for piece in pieces:
        last = found[-1] if found else None
        if last is not None and last.high == piece.low and _goes_on(last, piece.sides, piece.smooth):
            found.pop()
            found.append(Edge(line, last.low, piece.high, piece.through, piece.sides, piece.smooth, section=piece.section))
        else:
            found.append(Edge(line, piece.low, piece.high, piece.through, piece.sides, piece.smooth, section=piece.section))
    return found


# --------------------------------------------------------------------------------------------------------------- curves
def _curves(model: Model) -> list[tuple[Curve, tuple[int, int], list[tuple[float, float]]]]:
    """All curves in which surfaces of parts that touch may meet, and between which of their places to look."""
    slack = model.near
    lows, highs = np.maximum(model.lows[:, None], model.lows[None]), np.minimum(model.highs[:, None], model.highs[None])
    p, q = np.nonzero(np.triu((lows <= highs + slack).all(axis=2)))
    low, high = lows[p, q] - slack, highs[p, q] + slack
    boxes: dict[tuple[int, int], list[int]] = {}
    for n, (one, other) in enumerate(zip(p.tolist(), q.tolist(), strict=True)):
        for i, _ in model.walls[one]:
            for j, _ in model.walls[other]:
                if i != j:
                    boxes.setdefault((i, j) if i < j else (j, i), []).append(n)
    flat = [pair for pair in boxes if all(isinstance(model.surfaces[k], Flat) for k in pair)]
    crossed = dict(zip(flat, lines_of_planes(model, flat, [boxes[pair] for pair in flat], low, high), strict=True))
    found: list[tuple[Curve, tuple[int, int], list[tuple[float, float]]]] = []
    lines: dict[tuple[int, ...], int] = {}

    def know(
        line: Straight, keys: list[tuple[int, ...]], pair: tuple[int, int], stretches: list[tuple[float, float]]
    ) -> None:
        known = next((lines[key] for key in keys if key in lines), -1)
        if known >= 0:
            found[known][2].extend(stretches)
        elif stretches:
            lines.update(dict.fromkeys(keys, len(found)))
            found.append((line, pair, stretches))

    for pair, several in boxes.items():
        if pair in crossed:
            if (met := crossed[pair]) is not None:
                know(met.line, met.keys, pair, met.stretches)
            continue
        within = list(zip(low[several].tolist(), high[several].tolist(), strict=True))
        for curve in meeting(model.surfaces[pair[0]], model.surfaces[pair[1]]):
            if isinstance(curve, Straight):
                line, keys = _line_keys(curve, model.size)
                know(line, keys, pair, [stretch for box in within for stretch in _clipped(line, *box)])
            elif stretches := curve.within(within):
                found.append((curve, pair, stretches))
    return [(curve, pair, _united(several) if curve.is_straight else several) for curve, pair, several in found]


def _line_keys(line: Straight, size: float) -> tuple[Straight, list[tuple[int, ...]]]:
    """A line with its place nearest to the origin and its way to the right, back or up, and what it is found again by."""
    way, start = line.way.tolist(), line.start.tolist()
    if next(c for c in way if abs(c) > 1e-9) < 0:
        way = [-c for c in way]
    along = dot(way, start)
    start = [p - along * d for p, d in zip(start, way, strict=True)]
    steps = [*(c / (ONE_PLACE * 10) for c in way), *(c / (ONE_PLACE * 10 * size) for c in start)]
    keys = [tuple(math.floor(step + shift) for step in steps) for shift in (0.25, 0.75)]
    return Straight(np.array(start), np.array(way)), keys


def _united(stretches: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Stretches of a line put together where they overlap."""
    found: list[tuple[float, float]] = []
    for low, high in sorted(stretches):
        if found and low <= found[-1][1]:
            found[-1] = found[-1][0], max(found[-1][1], high)
        else:
            found.append((low, high))
    return found


def _clipped(line: Straight, low: Triple, high: Triple) -> list[tuple[float, float]]:
    """The part of a line within a box."""
    first, last = -math.inf, math.inf
    for p, d, a, b in zip(line.start.tolist(), line.way.tolist(), low, high, strict=True):
        if abs(d) < 1e-12:
            if not a <= p <= b:
                return []
            continue
        one, other = (a - p) / d, (b - p) / d
        first, last = max(first, min(one, other)), min(last, max(one, other))
    return [(first, last)] if last - first > 1e-12 else []


def edges_along(
    model: Model, curve: Curve, pair: tuple[int, ...], low: float, high: float, contour: bool = False
) -> list[Edge]:
    """The edges that lie on a stretch of a curve; or, of a curve on one round face, the parts that are on the body."""
    if isinstance(curve, Straight):
        ends = curve.at(np.array([low, high]))
    else:
        ends = curve.sampled(low, high, model.size)[1]
        ends = ends[np.isfinite(ends).all(axis=1)]
        if not len(ends):
            return []
    slack = model.near + (0.0 if curve.is_straight else 0.02 * model.size)
    least, most = ends.min(axis=0) - slack, ends.max(axis=0) + slack
    near = np.flatnonzero(((model.lows <= most) & (model.highs >= least)).all(axis=1)).tolist()
    others = sorted({k for p in near for k, _ in model.walls[p]} - set(pair))
    cuts = sorted(curve.crossings(model.rows[others], low, high, model.size)) if others else []
    gap = model.near if curve.is_straight else ONE_ANGLE
    ends_at = [low]
    ends_at += [t for (t, _), (before, _) in zip(cuts, [(low, 0), *cuts], strict=False) if t - before >= gap]
    if high - ends_at[-1] < gap and len(ends_at) > 1:
        ends_at.pop()
    ends_at.append(high)
    middles = curve.at((np.array(ends_at[1:]) + np.array(ends_at[:-1])) / 2)
    walled = sorted({k for p in near for k, _ in model.walls[p]})
    heights = values(model.rows[walled], middles).tolist()
    found: list[Edge] = []
    for last, t, middle, above in zip(ends_at, ends_at[1:], middles, heights, strict=False):
        around = Around(curve, pair, (last + t) / 2, middle, dict(zip(walled, above, strict=True)))
        sorted_out = _about(model, around, near, contour)
        if sorted_out is not None:
            through, sides, smooth, section = sorted_out
            if found and found[-1].high == last and _goes_on(found[-1], sides, smooth):
                found[-1] = replace(found[-1], high=t, surfaces=through, section=section)
            else:
                found.append(Edge(curve, last, t, through, sides, smooth, section=section))
    if (
        len(found) > 1
        and curve.closes
        and abs(found[-1].high - found[0].low - TURN) < 1e-12
        and _goes_on(found[-1], found[0].sides, found[0].smooth)
    ):
        first = found.pop(0)
        section = found[-1].section if first.section is not None else None
        found[-1] = Edge(curve, found[-1].low, first.high + TURN, first.surfaces, first.sides, first.smooth, section=section)
    return found


def _goes_on(edge: Edge, sides: Sequence[Side], smooth: bool) -> bool:
    """Whether an edge goes on into a piece with these faces beside it, in whatever order they are told."""
    return edge.smooth == smooth and len(edge.sides) == len(sides) and set(edge.sides) == set(sides)


# -------------------------------------------------------------------------------------------------------------- sectors
def _about(
    model: Model, at: Around, near: Sequence[int], contour: bool
) -> tuple[tuple[int, ...], tuple[Side, ...], bool, Section | None] | None:
    """What is about a place of a curve: all surfaces through it, the faces that begin there, and whether one goes on into
    the other; None where no face begins or where one goes on."""
    section = section_at(model, at, near)
    faces = None if section is None else faces_of(section, contour)
    if section is None or faces is None:
        return None
    alike = at.curve.is_straight or _is_round_about(model, at.curve, section.through)
    return section.through, *faces, replace(section, at=at.t) if alike else None


def _is_round_about(model: Model, curve: Curve, through: Sequence[int]) -> bool:
    """Whether a curve is a circle, and all surfaces through it are round about its axis."""
    if isinstance(curve, Straight) or not curve.is_level:
        return False
    axis, centre = curve.on.axis, curve.on.centre
    sideways = across(axis)
    for k in through:
        on = model.surfaces[k]
        if isinstance(on, Flat):
            if any(abs(float(on.normal[c])) > 1e-12 for c in sideways):
                return False
        elif on.axis != axis or any(abs(float(on.centre[c]) - float(centre[c])) > model.near for c in sideways):
            return False
    return True


# -------------------------------------------------------------------------------------------------------------- corners
def _with_corners(model: Model, found: Sequence[Edge]) -> Body:
    """The edges with their ends put together, and the corners with all surfaces through each."""
    step = model.near * 100
    open_ones = [edge for edge in found if not is_whole(edge)]
    ends_and_middles = _ends_and_middles(open_ones)
    middles = np.round(ends_and_middles[:, 1] / step).tolist()
    spots = _Spots(step)
    edges: list[Edge] = []
    told: set[object] = set()
    n = -1
    for edge in found:
        if is_whole(edge):
            edges.append(edge)
            continue
        n += 1
        first, _, last = ends_and_middles[n]
        if not math.isfinite(float((first + last).sum())):
            continue
        ends = spots.of(*first.tolist()), spots.of(*last.tolist())
        if ends[0] == ends[1] and float(np.nanmax(np.abs(edge.places(8) - first))) < step:
            continue
        mark = (min(ends), max(ends), edge.surfaces, tuple(middles[n]))
        if len(edge.surfaces) > 2 and mark in told:
            continue
        told.add(mark)
        edges.append(Edge(edge.curve, edge.low, edge.high, edge.surfaces, edge.sides, edge.smooth, ends, edge.section))
    edges = _without_strays(model, edges)
    corners = np.array(spots.places).reshape(-1, 3)
    slopes = 2 * corners[:, None] * model.rows[:, :3] + model.rows[:, 3:6]
    sizes = np.maximum(np.sqrt((slopes**2).sum(axis=2)), 1e-300)
    through = by_row(np.abs(values(model.rows, corners)) <= step * sizes)
    return Body(model, edges, list(corners), [tuple(each) for each in through])


def is_whole(edge: Edge) -> bool:
    """Whether it goes round and closes upon itself."""
    return edge.curve.closes and abs(edge.high - edge.low - TURN) < 1e-12


def _ends_and_middles(several: Sequence[Edge]) -> Array:
    """Beginning, middle and end of edges, (edges, 3, 3)."""
    told = np.array([(edge.low, edge.middle, edge.high) for edge in several]).reshape(-1, 3)
    found = np.empty((len(several), 3, 3))
    straight = [n for n, edge in enumerate(several) if isinstance(edge.curve, Straight)]
    if straight:
        lines = [several[n].curve for n in straight]
        starts, ways = (np.array([getattr(line, name) for line in lines]) for name in ("start", "way"))
        found[straight] = starts[:, None] + told[straight][..., None] * ways[:, None]
    for n, edge in enumerate(several):
        if not edge.curve.is_straight:
            found[n] = edge.curve.at(told[n])
    return found


class _Spots:
    """Places; those nearer than a step are one. Each is known in all cells that it may be asked for from."""

    def __init__(self, step: float) -> None:
        self.step, self.places = step, list[tuple[float, float, float]]()
        self._cells: dict[tuple[int, ...], list[int]] = {}

    def of(self, x: float, y: float, z: float) -> int:
        """The number of a place."""
        step, wide = self.step, self.step * WIDE
        for k in self._cells.get((math.floor(x / wide), math.floor(y / wide), math.floor(z / wide)), ()):
            a, b, c = self.places[k]
            if max(abs(a - x), abs(b - y), abs(c - z)) < step:
                return k
        reach = [range(math.floor((c - step) / wide), math.floor((c + step) / wide) + 1) for c in (x, y, z)]
        for cell in product(*reach):
            self._cells.setdefault(cell, []).append(len(self.places))
        self.places.append((x, y, z))
        return len(self.places) - 1


WIDE = 64
"""A cell in which places are looked for, in steps."""


def _without_strays(model: Model, edges: list[Edge]) -> list[Edge]:
    """The edges without short ones that hang on nothing, as rounding leaves them where surfaces only touch."""
    met: dict[int, int] = {}
    for edge in edges:
        for end in edge.ends:
            met[end] = met.get(end, 0) + 1

    def is_stray(edge: Edge) -> bool:
        if edge.closes or min(met[end] for end in edge.ends) > 1:
            return False
        places = edge.places(8)
        return float(np.abs(places - places[0]).max()) < STRAY * model.size

    return [edge for edge in edges if not is_stray(edge)]


def contours(body: Body, sight: Sight) -> list[Edge]:
    """The generators along which round faces turn away from the eye."""
    found = []
    for k, surface in enumerate(body.model.surfaces):
        if not isinstance(surface, Flat):
            for angle in _turning(surface, sight):
                found += generator_on(body, k, angle)
    return found


def generator_on(body: Body, surface: int, angle: float) -> list[Edge]:
    """The pieces of a generator of a round surface, told by its angle, that lie on the body."""
    model, found = body.model, []
    on = model.surfaces[surface]
    assert not isinstance(on, Flat)
    line = generator(on, angle)
    for p, walls in enumerate(model.walls):
        if any(k == surface for k, _ in walls):
            for low, high in _clipped(line, (model.lows[p] - model.near).tolist(), (model.highs[p] + model.near).tolist()):
                found += edges_along(model, line, (surface,), low, high, contour=True)
    return found


def _turning(surface: Round, sight: Sight) -> list[float]:
    """The angles of the generators where the gradient is square to the way to the eye, which for all of a generator is told
    from the axis of a pipe and from the apex of a cone."""
    u, v = across(surface.axis)
    way, reach = sight.towards([float(c) for c in surface.centre])
    eye = [c * reach for c in way] if math.isfinite(reach) else way
    size = math.hypot(eye[u], eye[v])
    a, b = eye[u], eye[v]
    if size < 1e-12:
        return []
    if isinstance(surface, Cone):
        rise = float(surface.slope) * eye[surface.axis] / size
    else:
        rise = float(surface.radius) / size if math.isfinite(reach) else 0.0
    if abs(rise) >= 1.0:
        return []
    middle, half = math.atan2(b, a), math.acos(rise)
    return [middle + half, middle - half]
