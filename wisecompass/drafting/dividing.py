"""How a line or a circle is divided: the steps that "divide into 7 equal parts" stands for.

A sheet tells a division in one step; whoever wants it unfolded gets the arcs, the slant line and the parallels, or the
rays round the centre, one by one. Both land on the same points.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from wisecompass.arithmetic import roughly
from wisecompass.drafting.setting import Settable, bare
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point, Selector

if TYPE_CHECKING:
    from wisecompass.drafting.board import Board

SET_SQUARE_STEP = 15
"""Rays at multiples of so many degrees are drawn with T-square and set squares."""


def halve(b: Board, a: Point, c: Point, name: str) -> list[Point]:
    """The middle of a–c by equal arcs from both ends."""
    across = b.bisector(
        a, c, f"middle line of {a.name} and {c.name}", why="the crossings are as far from one end as the other"
    )
    return [b.meet(across, Line.through(a, c), name=name)]


def by_slant_line(b: Board, a: Point, c: Point, parts: int, names: Sequence[str]) -> list[Point]:
    """Equal spaces of any size on a slant line from a, the last joined to c, and parallels to that (Euclid VI.9)."""
    base = Line.through(a, c)
    slant = b.protract(base, a, b.degrees(30), "slant line", why="any slope will do")
    ticks = [b.unique(f"tick {k}") for k in range(1, parts + 1)]
    space = b.any_opening(plane.distance(a, c) / parts)
    spaces = b.step_along(slant, a, space, ticks, why=f"{parts} spaces, counted from {a.name}")
    closing = b.line(spaces[-1], c, "closing line", why="the last tick is joined to the far end, not to the near one")
    found = []
    for tick, name in zip(spaces, names, strict=False):
        across = b.parallel(closing, tick, f"parallel {name}")
        found.append(b.meet(across, base, name=name))
    return found


def by_set_squares(begin: float, parts: int) -> bool:
    """Whether T-square and set squares give all rays to equal parts from ``begin`` on, degrees."""
    return begin % SET_SQUARE_STEP == 0 and (360 / parts) % SET_SQUARE_STEP == 0


def round_by_rays(b: Board, circle: Circle, begin: Settable | int, names: Sequence[str], *, clockwise: bool) -> list[Point]:
    """Rays through the centre: with the set squares where they give them, else by protractor from the first."""
    parts = len(names)
    start = begin if isinstance(begin, int) else roughly(bare(begin))
    if by_set_squares(start, parts):
        share = -360 // parts if clockwise else 360 // parts
        return _by_set_squares(b, circle, {(round(start) + share * k) % 360: name for k, name in enumerate(names)})
    return _by_protractor(b, circle, begin, names, clockwise)


def _by_set_squares(b: Board, circle: Circle, places: dict[int, str]) -> list[Point]:
    """Points round a circle, by their angles from the right."""
    found = {}
    for slope in sorted({angle % 180 for angle in places}):
        if slope == 0:
            ray = b.level_line(circle.centre, "level diameter")
        elif slope == 90:
            ray = b.upright_line(circle.centre, "upright diameter")
        else:
            ray = b.set_square_line(circle.centre, slope, f"diameter at {slope}°")
        for angle, which in ((slope, plane.beyond(ray)), (slope + 180, plane.short_of(ray))):
            if angle in places:
                found[places[angle]] = b.meet(ray, circle, which, places[angle])
    return [found[name] for name in places.values()]


def _by_protractor(b: Board, circle: Circle, begin: Settable | int, names: Sequence[str], clockwise: bool) -> list[Point]:
    parts = len(names)
    level = b.level_line(circle.centre, "level diameter")
    start = b.degrees(begin) if isinstance(begin, int) else begin
    first = level if roughly(bare(start)) == 0 else b.protract(level, circle.centre, start, "first ray")
    found: dict[int, Point] = {}

    def marked(k: int, ray: Line, which: Selector) -> None:
        found[k] = b.meet(ray, circle, which, names[k])

    for k in range(parts):
        if k in found:
            continue
        share = b.turn(k, parts)
        ray = b.protract(first, circle.centre, -share if clockwise else share, f"ray {names[k]}") if k else first
        marked(k, ray, plane.beyond(ray))
        opposite = k + parts // 2
        if parts % 2 == 0 and opposite < parts:
            marked(opposite, ray, plane.short_of(ray))
    return [found[k] for k in range(parts)]
