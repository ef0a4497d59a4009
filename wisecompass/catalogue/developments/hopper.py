"""The hopper in space and its pattern in the flat: what truth and pattern finishing share.

``solid`` and ``unrolled`` are the truth (planes and vectors); a method uses only ``tabs`` and ``refold_gap``.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from wisecompass.arithmetic import Number, larger
from wisecompass.drafting.problem import Make
from wisecompass.geometry import panels, plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3, cross, distance3, dot, meet_planes, norm


class Sizes(Protocol):
    """The givens that fix the solid."""

    @property
    def bottom_length(self) -> Number: ...
    @property
    def bottom_width(self) -> Number: ...
    @property
    def top_length(self) -> Number: ...
    @property
    def top_width(self) -> Number: ...
    @property
    def offset_x(self) -> Number: ...
    @property
    def offset_y(self) -> Number: ...
    @property
    def height(self) -> Number: ...
    @property
    def thickness(self) -> Number: ...
    @property
    def seam(self) -> str: ...


@dataclass(frozen=True)
class Solid:
    """Corners of bottom and top, and the lines (bottom point, top point) from the seam round to the seam."""

    bottom: list[Point3]
    top: list[Point3]
    stations: list[tuple[Point3, Point3]]

    @staticmethod
    def of_views(bottom: list[Point3], top: list[Point3], seam: str) -> Solid:
        """The solid with its stations in the order in which the pattern is laid out."""
        start = int(seam[-1]) - 1
        pairs = list(zip(bottom, top, strict=True))
        if seam.startswith("corner"):
            return Solid(bottom, top, [pairs[(start + k) % 4] for k in range(5)])
        after = (start + 1) % 4
        half = number_half(bottom[start])
        middle = (
            (bottom[start] + bottom[after]).scaled(half),
            (top[start] + top[after]).scaled(half),
        )
        return Solid(bottom, top, [middle, *(pairs[(after + k) % 4] for k in range(4)), middle])


def number_half(p: Point3) -> Number:
    """One half in the arithmetic of a point."""
    return (p.x * 0 + 1) / 2


@dataclass(frozen=True)
class Flat:
    """The pattern: bottom and top points in the order of the stations."""

    bottom: list[Point]
    top: list[Point]


def solid(g: Sizes, number: Make) -> Solid:
    """The neutral surface: each face plane moved out by half the thickness, corners where three planes meet."""
    half = number(1) / 2
    l1, w1, l2, w2 = (size * half for size in (g.bottom_length, g.bottom_width, g.top_length, g.top_width))
    zero = number(0)
    inner_bottom = [Point3(-l1, w1, zero), Point3(l1, w1, zero), Point3(l1, -w1, zero), Point3(-l1, -w1, zero)]
    inner_top = [Point3(g.offset_x + x, g.offset_y + y, g.height) for x, y in ((-l2, w2), (l2, w2), (l2, -w2), (-l2, -w2))]
    faces = []
    for i in range(4):
        j = (i + 1) % 4
        normal = cross(inner_bottom[j] - inner_bottom[i], inner_top[i] - inner_bottom[i])
        outward = normal.scaled(-1 / norm(normal))  # corners run so that the cross product points inwards
        faces.append((outward, dot(outward, inner_bottom[i]) + g.thickness * half))
    up = Point3(zero, zero, number(1))
    rows = []
    for level, letters in ((zero, "ABCD"), (g.height, "EFGH")):
        row = [meet_planes([faces[i - 1], faces[i], (up, level)]) for i in range(4)]
        rows.append([Point3(p.x, p.front, p.above, letter) for p, letter in zip(row, letters, strict=True)])
    shift = _clear_of_wall(g, rows)
    moved = [[Point3(p.x, p.front + shift, p.above, p.name) for p in row] for row in rows]
    return Solid.of_views(moved[0], moved[1], g.seam)


def _clear_of_wall(g: Sizes, rows: list[list[Point3]]) -> Number:
    """How far the whole is put in front of VP: the hindmost corner stands an eighth of the length clear."""
    return g.bottom_length / 8 + larger(-rows[0][2].front, -rows[1][2].front)


def net(body: Solid) -> tuple[list[panels.Panel], dict[str, Point3]]:
    """The triangles of the faces from the seam round to the seam, each hung on the one before, and their corners on the
    body."""
    names = [(f"low {k}", f"high {k}") for k in range(len(body.stations))]
    places = {name: p for pair, ends in zip(names, body.stations, strict=True) for name, p in zip(pair, ends, strict=True)}
    return panels.triangles(names), places


def unrolled(body: Solid) -> Flat:
    """The faces turned into the sheet one after the other; the first line stands upright at the origin."""
    (low, high), zero = body.stations[0], body.stations[0][0].x * 0
    hung, places = net(body)
    found = panels.unrolled(hung, places, (Point(zero, distance3(low, high)), Point(zero, zero)))
    rows: tuple[list[Point], list[Point]] = ([], [])
    last = len(body.stations) - 1
    for k, ends in enumerate(body.stations):
        for row, end, word, seam in zip(rows, ends, ("low", "high"), "MN", strict=True):
            row.append(found[f"{word} {k}"].named(f"{end.name or seam}/flat{' end' if k == last else ''}"))
    return Flat(*rows)


def tabs(flat: Flat, lap: Number) -> list[tuple[Point, Point, Point, Point]]:
    """Lap strips outside every rim edge and the last seam edge, cut off at 45°: (near, far, far, near) corners."""
    edges = [
        *((q, p) for p, q in zip(flat.bottom, flat.bottom[1:], strict=False)),
        *zip(flat.top, flat.top[1:], strict=False),
        (flat.top[-1], flat.bottom[-1]),
    ]
    strips = []
    for start, end in edges:
        outer = Line.through(start, end).offset(lap)
        size = plane.distance(start, end)
        strips.append((start, outer.point_at(lap), outer.point_at(size - lap), end))
    return strips


def refold_gap(body: Solid, flat: Flat) -> Number:
    """Fold the pattern up again, triangle by triangle, and return the greatest distance from the solid's corners."""
    hung, places = net(body)
    spots = {f"{word} {k}": p for word, row in (("low", flat.bottom), ("high", flat.top)) for k, p in enumerate(row)}
    return panels.refold_gap(hung, spots, places)
