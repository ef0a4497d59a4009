"""A regular polygon drawn flat beside its picture, one side level below, in the crate that just holds it, with the place of
every corner read off along the crate's foot and side."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from wisecompass.arithmetic import Number, cos_deg, roughly, sin_deg
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import Settable, span
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point


def corners_of(sides: int, side: Number) -> list[tuple[Number, Number]]:
    """Corners anticlockwise from the right end of the lowest side, from the middle, to the right and up, mm."""
    half = (side * 0 + 180) / sides
    radius = side / (2 * sin_deg(half))
    found = []
    for k in range(sides):
        way = half * (2 * k + 1) - 90
        found.append((radius * cos_deg(way), radius * sin_deg(way)))
    return found


def levels(sides: int) -> list[int]:
    """For each corner the number of its level, from the lowest: corners that lie as high share one."""
    order: list[int] = []
    for k in range(sides):
        order.append(min(k, sides - 1 - k))
    return order


def columns(sides: int) -> list[int]:
    """For each corner the number of its upright, from the leftmost: corners that lie as far to the right share one. Told by
    the angle from the right, in parts of half a side's angle: the same whichever way it is counted."""
    from math import cos, pi

    xs = [round(cos(pi * (2 * k + 1) / sides - pi / 2), 9) for k in range(sides)]
    order = sorted(set(xs))
    return [order.index(x) for x in xs]


@dataclass
class Flat:
    """The polygon: its middle, its corners, the crate's lower left corner, foot and left side; for each upright the place on
    the foot and for each level the place on the left side, and the four ends of the crate."""

    middle: Point
    corners: list[Point]
    origin: Point
    feet: list[Point]
    sides: list[Point]
    foot: Line
    side: Line
    middle_foot: Point
    middle_side: Point
    far_foot: Point
    far_side: Point

    @property
    def width(self) -> Settable:
        return span(self.origin, self.far_foot)

    @property
    def height(self) -> Settable:
        return span(self.origin, self.far_side)


def draw_flat(b: Board, sides: int, side: Settable, thickness: Settable, bore: Any) -> Flat:
    """Draw it, and the views from above and from the left of a block of that thickness; six sides by the compass kept at
    the side."""
    with b.block("flat polygon"):
        middle = b.point("O", b.number(0), b.number(0), why="the middle of the polygon drawn flat")
        level = b.level_line(middle, "level centre line", pen=Pen.CENTRE)
        upright = b.upright_line(middle, "upright centre line", pen=Pen.CENTRE)
        corners = _hexagon(b, side, middle, level) if sides == 6 else _stepped(b, sides, side, middle, level, upright)
        hole = None if bore is None else b.arc(middle, bore / 2, name="bore", whole=True, why="half its diameter")
        b.line_in(*((corners[k], corners[(k + 1) % sides]) for k in range(sides)), why="the polygon")
        flat = _crated(b, sides, corners, middle, level, upright)
        _views_beside(b, flat, sides, thickness, (hole, level, upright))
    return flat


def _hexagon(b: Board, side: Settable, middle: Point, level: Line) -> list[Point]:
    b.step_reason("Six equal sides fit a circle whose radius is the side: the compass stays as it is")
    ring = b.arc(middle, side, name="circle of the corners", whole=True, why="the radius is the side")
    b.pencil()
    right, left = b.both(ring, level, ("p2", "p5"), plane.beyond(level))
    corners: dict[str, Point] = {"p2": right, "p5": left}
    for end, names in ((right, ("p3", "p1")), (left, ("p4", "p6"))):
        swung = b.arc(end, side, why="the same opening from an end of the level diameter")
        b.pencil()
        high, low = b.both(ring, swung, names, plane.upper)
        corners |= {names[0]: high, names[1]: low}
    return [corners[f"p{k + 1}"] for k in range(6)]


def _stepped(b: Board, sides: int, side: Any, middle: Point, level: Line, upright: Line) -> list[Point]:
    down = Line(middle, -upright.dx, -upright.dy, upright.name)
    ray = b.protract(down, middle, b.turn(1, 2 * sides), "ray to p₁", why="half the angle of a side")
    half = b.lay_off(level, middle, side / 2, "half a side", why="half the side from the middle")
    wall = b.parallel(upright, half, "upright at half a side")
    b.pencil()
    first = b.meet(wall, ray, name="p1")
    ring = b.circle_through(middle, first, name="circle of the corners")
    return [first, *b.step_off(ring, first, side, [f"p{k}" for k in range(2, sides + 1)], why="the side carried round")]


def _crated(b: Board, sides: int, corners: Sequence[Point], middle: Point, level: Line, upright: Line) -> Flat:
    """The rectangle about it, and the place of every corner along its foot and its left side."""
    at_level, at_column = levels(sides), columns(sides)
    with b.gathered(
        "join", Instrument.SET_SQUARE, "The crate that just holds it, and every corner's place on its foot and side"
    ):
        low = b.line(corners[-1], corners[0], "foot of the crate")
        leftmost = min(range(sides), key=lambda k: at_column[k])
        side = b.upright_line(corners[leftmost], "left side of the crate")
        origin = b.meet(low, side, name="a")
        feet, found_levels = [], []
        for column in range(max(at_column) + 1):
            k = next(n for n in range(sides) if at_column[n] == column)
            on_foot = origin if column == 0 else corners[k] if at_level[k] == 0 else None
            feet.append(
                on_foot
                or b.meet(
                    b.upright_line(corners[k], f"upright of {corners[k].name}", pen=Pen.PROJECTOR), low, name=f"u{column}"
                )
            )
        for n in range(max(at_level) + 1):
            k = next(i for i in range(sides) if at_level[i] == n)
            own = next((corners[i] for i in range(sides) if at_level[i] == n and at_column[i] == 0), None)
            on_side = origin if n == 0 else own
            found_levels.append(
                on_side
                or b.meet(b.level_line(corners[k], f"level of {corners[k].name}", pen=Pen.PROJECTOR), side, name=f"v{n}")
            )
        middle_foot, middle_side = b.meet(upright, low, name="m"), b.meet(level, side, name="n")
    return Flat(
        middle,
        list(corners),
        origin,
        feet,
        found_levels,
        low,
        side,
        middle_foot,
        middle_side,
        feet[-1],
        found_levels[-1],
    )


def _views_beside(b: Board, flat: Flat, sides: int, thickness: Any, bore: tuple[Circle | None, Line, Line]) -> None:
    """The views from above, over the polygon, and from the left, at its left (third angle): what is seen, and the bore
    dashed."""
    hole, level, upright = bore
    white = b.any_opening(b.number(max(1, round(roughly(plane.distance(flat.origin, flat.far_foot)) / 4))))
    at_level, at_column = levels(sides), columns(sides)
    upper = {at_column[k] for k in range(sides) if at_level[k] * 2 >= max(at_level)} | {0, max(at_column)}
    left = {at_level[k] for k in range(sides) if at_column[k] * 2 <= max(at_column)} | {0, max(at_level)}
    with b.gathered("level", Instrument.SET_SQUARE, "The view from above over it and that from the left at its left, light"):
        first = b.lay_off(flat.side, flat.far_side, white, "s1")
        second = b.lay_off(flat.side, first, thickness, "s2")
        rows = [b.level_line(each, f"level through {each.name}") for each in (first, second)]
        first = b.lay_off(flat.foot, flat.origin, white, "w1", back=True)
        second = b.lay_off(flat.foot, first, thickness, "w2", back=True)
        walls = [b.upright_line(each, f"upright through {each.name}") for each in (first, second)]
        over = [(b.upright_line(flat.feet[c], f"upright of column {c}"), Pen.OUTLINE) for c in sorted(upper)]
        beside = [(b.level_line(flat.sides[n], f"level of row {n}"), Pen.OUTLINE) for n in sorted(left)]
        if hole is not None:
            for on, found, lines in ((level, over, b.upright_line), (upright, beside, b.level_line)):
                ends = b.both(hole, on, (b.crossing(), b.crossing()), plane.beyond(on))
                found += [(lines(end, f"bore line {n}"), Pen.HIDDEN) for n, end in enumerate(ends, len(found))]
    for pen, word in ((Pen.OUTLINE, "line in"), (Pen.HIDDEN, "draw edges")):
        if pen is Pen.HIDDEN and hole is None:
            continue
        with b.gathered(word, Instrument.STRAIGHTEDGE):
            for several, pair in ((over, rows), (beside, walls)):
                for line, own in several:
                    if own is pen:
                        _between(b, line, (pair[0], pair[1]), pen)
                if pen is Pen.OUTLINE:
                    outer = several[0][0], [each for each, own in several if own is Pen.OUTLINE][-1]
                    for line in pair:
                        _between(b, line, outer, pen)


def _between(b: Board, line: Line, across: tuple[Line, Line], pen: Pen) -> None:
    ends = plane.meet(line, across[0]), plane.meet(line, across[1])
    b.line_in_between(line, across, ends, pen, "the views")
    for other, end in zip(across, ends, strict=True):
        b.touch(line, end)
        b.touch(other, end)
