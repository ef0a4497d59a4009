"""The hopper in space and its pattern in the flat: what truth and pattern finishing share.

``solid`` and ``unrolled`` are the truth (planes and vectors); a method uses only ``tabs`` and ``refold_gap``.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from wisecompass.arithmetic import Number, hypot, larger
from wisecompass.drafting.problem import Make
from wisecompass.geometry import plane
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


def unrolled(body: Solid) -> Flat:
    """The faces turned into the sheet one after the other, each point placed by its share along and across the line
    that the face hangs on (dot and cross product in space); the first line stands upright at the origin."""
    (low, high), zero = body.stations[0], body.stations[0][0].x * 0
    seam_side = low.name == ""
    lows = [Point(zero, zero, f"{'M' if seam_side else low.name}/flat")]
    highs = [Point(zero, distance3(low, high), f"{'N' if seam_side else high.name}/flat")]
    for k in range(len(body.stations) - 1):
        (low, high), (next_low, next_high) = body.stations[k], body.stations[k + 1]
        suffix = "flat end" if k == len(body.stations) - 2 else "flat"
        axis = (high - low).scaled(1 / distance3(low, high))
        flat_axis = Line.through(lows[-1], highs[-1])
        size = hypot(flat_axis.dx, flat_axis.dy)
        ux, uy = flat_axis.dx / size, flat_axis.dy / size
        placed = []
        for p, plain_name in ((next_low, "M"), (next_high, "N")):
            along, across = dot(p - low, axis), norm(cross(axis, p - low))
            at = lows[-1].moved(ux * along + uy * across, uy * along - ux * across)
            placed.append(at.named(f"{p.name or plain_name}/{suffix}"))
        lows.append(placed[0])
        highs.append(placed[1])
    return Flat(lows, highs)


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
    """Fold the pattern up again, triangle by triangle, and return the greatest distance from the solid's corners.

    The first line is laid on the seam. Each further point keeps its flat distances along and across the line that its
    triangle hangs on, and is turned about that line as far towards the solid as it will go.
    """
    folded: list[tuple[Point3, Point3]] = [_laid_on(body.stations[0], plane.distance(flat.bottom[0], flat.top[0]))]
    worst = distance3(folded[0][1], body.stations[0][1])
    for k in range(len(flat.bottom) - 1):
        low, high = folded[-1]
        true_low, true_high = body.stations[k + 1]
        next_low = _turned(low, high, true_low, flat.bottom[k], flat.top[k], flat.bottom[k + 1])
        next_high = _turned(next_low, high, true_high, flat.bottom[k + 1], flat.top[k], flat.top[k + 1])
        folded.append((next_low, next_high))
        worst = larger(worst, larger(distance3(next_low, true_low), distance3(next_high, true_high)))
    return worst


def _laid_on(line: tuple[Point3, Point3], size: Number) -> tuple[Point3, Point3]:
    low, high = line
    return low, low + (high - low).scaled(size / distance3(low, high))


def _turned(start: Point3, end: Point3, target: Point3, a: Point, b: Point, p: Point) -> Point3:
    """The flat point p, which hangs on the right of a–b, put back in space on start–end as near to ``target`` as it will
    go; one that lies on the left, as in a pattern that is mirrored or a panel that is flipped, comes out on the far side."""
    hinge = Line.through(a, b)
    size = hypot(hinge.dx, hinge.dy)
    along = ((p.x - a.x) * hinge.dx + (p.y - a.y) * hinge.dy) / size
    across = -plane.side_of(p, hinge) / size
    axis = (end - start).scaled(1 / distance3(start, end))
    reach = target - start
    off = reach - axis.scaled(dot(reach, axis))
    return start + axis.scaled(along) + off.scaled(across / norm(off))
