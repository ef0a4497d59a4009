"""Points of an ellipse in the rectangle or parallelogram on its axes: like divisions of a half axis and a half side are
joined with the ends of the other axis, and the lines meet on the curve."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.drafting.board import Board
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class Box:
    """Two diameters, each parallel with the tangents at the ends of the other, with their middle and ends."""

    centre: Point
    along: Line
    across: Line
    right: Point
    left: Point
    high: Point
    low: Point


def in_box(b: Board, box: Box, parts: int, corners: tuple[str, str, str, str]) -> list[Point]:
    """The points by division of the diameter along into ``parts`` on each side: P1, P2 … above, Q1, Q2 … below, on the
    right first. ``corners`` are the names of the corners, upper right and left, lower right and left."""
    sides = [b.parallel(box.across, box.right, "right side"), b.parallel(box.across, box.left, "left side")]
    rims = [b.parallel(box.along, box.high, "upper side"), b.parallel(box.along, box.low, "lower side")]
    crossed = [(side, rim) for rim in rims for side in sides]
    at = b.mark_crossings((side, rim, name) for (side, rim), name in zip(crossed, corners, strict=True))
    numbers = [range(1, parts), range(parts, 2 * parts - 1)]
    ends = [box.right, box.left]
    on_axis: list[Point] = []
    for end, several in zip(ends, numbers, strict=True):
        on_axis += b.divide(box.centre, end, parts, [str(k) for k in several], why="numbered from the centre")
    found = []
    for letter, tag, near, far, two in (("P", "″", box.high, box.low, at[:2]), ("Q", "′", box.low, box.high, at[2:])):
        on_side: list[Point] = []
        for corner, end, several in zip(two, ends, numbers, strict=True):
            names = [f"{k}{tag}" for k in several]
            on_side += b.divide(corner, end, parts, names, why="numbered from the corner")
        b.caution("Like numbers belong together: the axis from the centre, the side from the corner.")
        for inner, outer in zip(on_axis, on_side, strict=True):
            through_axis = b.line(far, inner)
            found.append(b.meet(through_axis, b.line(near, outer), name=f"{letter}{inner.name}"))
    return found
