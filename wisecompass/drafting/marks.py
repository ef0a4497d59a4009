"""Marks: the pieces of a drawing, in floats. One list of them feeds the screen, SVG, PDF and DXF.

Coordinates are mm, y upwards; angles are degrees anticlockwise. A mark belongs to a ``block`` of the figure (the
views, a diagram, a flat pattern) that the layout places on the paper, and to the ``step`` that made it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import TypeAlias

from wisecompass.drafting.pens import Pen
from wisecompass.geometry import curves
from wisecompass.geometry.curves import Pair, Piece

Box: TypeAlias = tuple[float, float, float, float]
"""left, bottom, right, top"""


@dataclass(frozen=True, slots=True)
class Placement:
    """Enlarge by ``scale``, turn by ``angle`` degrees, then shift by (dx, dy)."""

    scale: float = 1.0
    dx: float = 0.0
    dy: float = 0.0
    angle: float = 0.0

    def at(self, x: float, y: float) -> Pair:
        if self.angle:
            c, s = math.cos(math.radians(self.angle)), math.sin(math.radians(self.angle))
            x, y = x * c - y * s, x * s + y * c
        return self.dx + self.scale * x, self.dy + self.scale * y


@dataclass(frozen=True, slots=True, kw_only=True)
class Mark:
    """What every piece of a drawing has. ``solution`` is 0 for what all solutions share."""

    pen: Pen = Pen.CONSTRUCTION
    step: int = 0
    name: str = ""
    block: str = ""
    solution: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class Dot(Mark):
    """A named point; ``shown`` False for one that is only lettered or only there to be picked."""

    x: float
    y: float
    shown: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class Segment(Mark):
    x1: float
    y1: float
    x2: float
    y2: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Arc(Mark):
    """A circular arc from ``start`` through ``sweep`` degrees (360: the circle)."""

    cx: float
    cy: float
    radius: float
    start: float = 0.0
    sweep: float = 360.0

    def end(self, share: float = 1.0) -> Pair:
        angle = math.radians(self.start + self.sweep * share)
        return self.cx + self.radius * math.cos(angle), self.cy + self.radius * math.sin(angle)


@dataclass(frozen=True, slots=True, kw_only=True)
class Ellipse(Mark):
    """A whole ellipse; ``angle`` is the direction of its major axis."""

    cx: float
    cy: float
    semi_major: float
    semi_minor: float
    angle: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Curve(Mark):
    """A curve as cubic Bézier pieces, each beginning where the one before ends."""

    pieces: tuple[Piece, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Area(Mark):
    """A tinted region, to show which piece a step works on."""

    corners: tuple[Pair, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Text(Mark):
    """Lettering: ``height`` of capitals in mm on paper; (x, y) is its ``anchor`` (left, centre, right) on the base line."""

    x: float
    y: float
    text: str
    height: float = 2.5
    anchor: str = "left"
    angle: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class LinearDimension(Mark):
    """A length between two points. Its line stands ``offset`` mm of paper to the left of the way from 1 to 2 (to the
    right if negative), and ``clear`` mm of the figure farther out, to pass what is drawn there; its text stands at the
    share ``text_at`` of the way."""

    x1: float
    y1: float
    x2: float
    y2: float
    text: str
    offset: float = 9.0
    clear: float = 0.0
    text_at: float = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class RadiusDimension(Mark):
    """A leader with an arrow from a centre to the arc at (x, y)."""

    cx: float
    cy: float
    x: float
    y: float
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class AngleDimension(Mark):
    """An angle at (x, y) from ``start`` through ``sweep`` degrees; ``radius`` in mm of paper."""

    x: float
    y: float
    start: float
    sweep: float
    text: str
    radius: float = 14.0


def placed(mark: Mark, where: Placement) -> Mark:
    """The mark as it lies on the paper. Lettering and dimensions keep their paper sizes."""
    if isinstance(mark, Segment):
        x1, y1 = where.at(mark.x1, mark.y1)
        x2, y2 = where.at(mark.x2, mark.y2)
        return Segment(
            x1=x1,
            y1=y1,
            x2=x2,
            y2=y2,
            pen=mark.pen,
            step=mark.step,
            name=mark.name,
            block=mark.block,
            solution=mark.solution,
        )
    if isinstance(mark, Dot):
        x, y = where.at(mark.x, mark.y)
        return Dot(
            x=x,
            y=y,
            shown=mark.shown,
            pen=mark.pen,
            step=mark.step,
            name=mark.name,
            block=mark.block,
            solution=mark.solution,
        )
    if isinstance(mark, LinearDimension):
        x1, y1 = where.at(mark.x1, mark.y1)
        x2, y2 = where.at(mark.x2, mark.y2)
        return replace(mark, x1=x1, y1=y1, x2=x2, y2=y2, clear=mark.clear * where.scale)
    if isinstance(mark, Text):
        x, y = where.at(mark.x, mark.y)
        return replace(mark, x=x, y=y)
    if isinstance(mark, Arc):
        cx, cy = where.at(mark.cx, mark.cy)
        return replace(mark, cx=cx, cy=cy, radius=mark.radius * where.scale, start=mark.start + where.angle)
    if isinstance(mark, Ellipse):
        cx, cy = where.at(mark.cx, mark.cy)
        return replace(
            mark,
            cx=cx,
            cy=cy,
            semi_major=mark.semi_major * where.scale,
            semi_minor=mark.semi_minor * where.scale,
            angle=mark.angle + where.angle,
        )
    if isinstance(mark, Curve):
        pieces = tuple((where.at(*p), where.at(*q), where.at(*r), where.at(*s)) for p, q, r, s in mark.pieces)
        return replace(mark, pieces=pieces)
    if isinstance(mark, RadiusDimension):
        cx, cy = where.at(mark.cx, mark.cy)
        x, y = where.at(mark.x, mark.y)
        return replace(mark, cx=cx, cy=cy, x=x, y=y)
    if isinstance(mark, AngleDimension):
        x, y = where.at(mark.x, mark.y)
        return replace(mark, x=x, y=y, start=mark.start + where.angle)
    assert isinstance(mark, Area)
    return replace(mark, corners=tuple(where.at(*corner) for corner in mark.corners))


def sampled(mark: Mark, pieces: int = 48) -> list[Pair]:
    """Points along a mark, for bounding boxes, picking and label placing."""
    if isinstance(mark, Segment | LinearDimension):
        return [(mark.x1, mark.y1), (mark.x2, mark.y2)]
    if isinstance(mark, Arc):
        count = max(2, round(pieces * abs(mark.sweep) / 360))
        return [mark.end(i / count) for i in range(count + 1)]
    if isinstance(mark, Ellipse):
        turn = Placement(1.0, mark.cx, mark.cy, mark.angle)
        angles = [2 * math.pi * i / pieces for i in range(pieces + 1)]
        return [turn.at(mark.semi_major * math.cos(t), mark.semi_minor * math.sin(t)) for t in angles]
    if isinstance(mark, Area):
        return list(mark.corners)
    if isinstance(mark, Curve):
        shares = max(1, pieces // max(1, len(mark.pieces)))
        inner = [curves.at(piece, (k + 1) / shares) for piece in mark.pieces for k in range(shares)]
        return [mark.pieces[0][0], *inner] if mark.pieces else []
    if isinstance(mark, RadiusDimension):
        return [(mark.cx, mark.cy), (mark.x, mark.y)]
    if isinstance(mark, Dot | Text | AngleDimension):
        return [(mark.x, mark.y)]
    return []


def bounds(marks: list[Mark]) -> Box:
    """The box round all marks; a unit box when there is nothing."""
    points = [point for mark in marks for point in sampled(mark)]
    if not points:
        return (0.0, 0.0, 1.0, 1.0)
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return (min(xs), min(ys), max(xs), max(ys))
