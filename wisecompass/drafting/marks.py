"""Marks: the pieces of a drawing, in floats. One list of them feeds the screen, SVG, PDF and DXF.

Coordinates are mm, y upwards; angles are degrees anticlockwise. A mark belongs to a ``block`` of the figure (the
views, a diagram, a flat pattern) that the layout places on the paper, and to the ``step`` that made it.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any, TypeAlias

from wisecompass.drafting.pens import Pen
from wisecompass.geometry import curves
from wisecompass.geometry.curves import TOLERANCE, Pair, Parametric, Piece

Box: TypeAlias = tuple[float, float, float, float]
"""left, bottom, right, top"""

ROUGHLY = 0.25
"""How near a curve's outline must be to find room for it, mm."""


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

    def back(self, x: float, y: float) -> Pair:
        """What lies at (x, y) when it has been placed."""
        x, y = (x - self.dx) / self.scale, (y - self.dy) / self.scale
        c, s = math.cos(math.radians(self.angle)), math.sin(math.radians(self.angle))
        return x * c + y * s, y * c - x * s

    def after(self, first: Placement) -> Placement:
        """Both placements in one, ``first`` the earlier."""
        dx, dy = self.at(first.dx, first.dy)
        return Placement(self.scale * first.scale, dx, dy, self.angle + first.angle)


@dataclass(slots=True, kw_only=True)
class Mark:
    """What every piece of a drawing has. ``solution`` is 0 for what all solutions share.

    Nothing changes a mark once it is made. They are not frozen only because that takes three times as long to make, and a
    keystroke makes thousands.
    """

    pen: Pen = Pen.CONSTRUCTION
    step: int = 0
    name: str = ""
    block: str = ""
    solution: int = 0


@dataclass(slots=True, kw_only=True)
class Dot(Mark):
    """A named point; ``shown`` False for one that is only lettered or only there to be picked."""

    x: float
    y: float
    shown: bool = True


@dataclass(slots=True, kw_only=True)
class Segment(Mark):
    x1: float
    y1: float
    x2: float
    y2: float


@dataclass(slots=True, kw_only=True)
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


@dataclass(slots=True, kw_only=True)
class Ellipse(Mark):
    """A whole ellipse; ``angle`` is the direction of its major axis."""

    cx: float
    cy: float
    semi_major: float
    semi_minor: float
    angle: float = 0.0


@dataclass(slots=True, kw_only=True)
class Curve(Mark):
    """A curve, and where it lies; who draws it says how near its cubic Bézier pieces must come."""

    of: Parametric
    where: Placement = Placement()

    def pieces(self, tolerance: float = TOLERANCE) -> tuple[Piece, ...]:
        """Bézier pieces within ``tolerance`` (mm where it lies), each beginning where the one before ends."""
        at = self.where.at
        found = self.of.pieces(tolerance / self.where.scale)
        return tuple((at(*p), at(*q), at(*r), at(*s)) for p, q, r, s in found)


@dataclass(slots=True, kw_only=True)
class Ready(Mark):
    """A curve of which nothing but its Bézier pieces on paper is kept, so that it can travel."""

    kept: tuple[Piece, ...]

    def pieces(self, _tolerance: float = TOLERANCE) -> tuple[Piece, ...]:
        return self.kept


@dataclass(slots=True, kw_only=True)
class Area(Mark):
    """A tinted region, to show which piece a step works on."""

    corners: tuple[Pair, ...]


@dataclass(slots=True, kw_only=True)
class Text(Mark):
    """Lettering: ``height`` of capitals in mm on paper; (x, y) is its ``anchor`` (left, centre, right) on the base line."""

    x: float
    y: float
    text: str
    height: float = 2.5
    anchor: str = "left"
    angle: float = 0.0


@dataclass(slots=True, kw_only=True)
class Hatch(Mark):
    """A section within corners in their order: thin lines at 45°, so far apart on paper as its size asks (ISO 128-50)."""

    corners: tuple[Pair, ...]


@dataclass(slots=True, kw_only=True)
class Gap(Mark):
    """White about (x, y), turned by an angle, where the lines under a value are interrupted (ISO 129-1)."""

    x: float
    y: float
    width: float
    height: float
    angle: float = 0.0

    @property
    def corners(self) -> tuple[Pair, ...]:
        turn, w, h = Placement(1.0, self.x, self.y, self.angle), self.width / 2, self.height / 2
        return tuple(turn.at(x, y) for x, y in ((-w, -h), (w, -h), (w, h), (-w, h)))


@dataclass(slots=True, kw_only=True)
class Letter(Mark):
    """A name beside (x, y) that finds its own place on paper, in the direction ``toward`` if it can."""

    x: float
    y: float
    toward: Pair = (0.0, 0.0)


@dataclass(slots=True, kw_only=True)
class Break(Mark):
    """Where a line is broken off at (x, y) because it runs far on in the direction ``angle``; ``text`` says to what, so many
    lines farther out as ``row`` says."""

    x: float
    y: float
    angle: float
    text: str = ""
    row: int = 0


@dataclass(slots=True, kw_only=True)
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


@dataclass(slots=True, kw_only=True)
class RadiusDimension(Mark):
    """A leader with an arrow from a centre to the arc at (x, y); ``across`` a circle it is a diameter, with an arrow at
    either end."""

    cx: float
    cy: float
    x: float
    y: float
    text: str
    across: bool = False


@dataclass(slots=True, kw_only=True)
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
    return _PLACED[type(mark)](mark, where)


def _placed_segment(mark: Segment, where: Placement) -> Mark:
    x1, y1 = where.at(mark.x1, mark.y1)
    x2, y2 = where.at(mark.x2, mark.y2)
    return Segment(
        x1=x1, y1=y1, x2=x2, y2=y2, pen=mark.pen, step=mark.step, name=mark.name, block=mark.block, solution=mark.solution
    )


def _placed_dot(mark: Dot, where: Placement) -> Mark:
    x, y = where.at(mark.x, mark.y)
    return Dot(
        x=x, y=y, shown=mark.shown, pen=mark.pen, step=mark.step, name=mark.name, block=mark.block, solution=mark.solution
    )


def _placed_arc(mark: Arc, where: Placement) -> Mark:
    cx, cy = where.at(mark.cx, mark.cy)
    return Arc(
        cx=cx,
        cy=cy,
        radius=mark.radius * where.scale,
        start=mark.start + where.angle,
        sweep=mark.sweep,
        pen=mark.pen,
        step=mark.step,
        name=mark.name,
        block=mark.block,
        solution=mark.solution,
    )


def _placed_ellipse(mark: Ellipse, where: Placement) -> Mark:
    cx, cy = where.at(mark.cx, mark.cy)
    major, minor = mark.semi_major * where.scale, mark.semi_minor * where.scale
    return replace(mark, cx=cx, cy=cy, angle=mark.angle + where.angle, semi_major=major, semi_minor=minor)


def _placed_text(mark: Text | Gap, where: Placement) -> Mark:
    x, y = where.at(mark.x, mark.y)
    return replace(mark, x=x, y=y)


def _placed_letter(mark: Letter, where: Placement) -> Mark:
    x, y = where.at(mark.x, mark.y)
    turned = Placement(angle=where.angle).at(*mark.toward)
    return replace(mark, x=x, y=y, toward=turned)


def _placed_break(mark: Break, where: Placement) -> Mark:
    x, y = where.at(mark.x, mark.y)
    return replace(mark, x=x, y=y, angle=mark.angle + where.angle)


def _placed_linear(mark: LinearDimension, where: Placement) -> Mark:
    x1, y1 = where.at(mark.x1, mark.y1)
    x2, y2 = where.at(mark.x2, mark.y2)
    return replace(mark, x1=x1, y1=y1, x2=x2, y2=y2, clear=mark.clear * where.scale)


def _placed_radius(mark: RadiusDimension, where: Placement) -> Mark:
    cx, cy = where.at(mark.cx, mark.cy)
    x, y = where.at(mark.x, mark.y)
    return replace(mark, cx=cx, cy=cy, x=x, y=y)


def _placed_angle(mark: AngleDimension, where: Placement) -> Mark:
    x, y = where.at(mark.x, mark.y)
    return replace(mark, x=x, y=y, start=mark.start + where.angle)


_PLACED: dict[type[Mark], Callable[[Any, Placement], Mark]] = {
    Segment: _placed_segment,
    Dot: _placed_dot,
    Arc: _placed_arc,
    Ellipse: _placed_ellipse,
    Curve: lambda mark, where: replace(mark, where=where.after(mark.where)),
    Ready: lambda mark, where: replace(
        mark, kept=tuple((where.at(*p), where.at(*q), where.at(*r), where.at(*s)) for p, q, r, s in mark.kept)
    ),
    Text: _placed_text,
    Gap: _placed_text,
    Letter: _placed_letter,
    Break: _placed_break,
    LinearDimension: _placed_linear,
    RadiusDimension: _placed_radius,
    AngleDimension: _placed_angle,
    Area: lambda mark, where: replace(mark, corners=tuple(where.at(*corner) for corner in mark.corners)),
    Hatch: lambda mark, where: replace(mark, corners=tuple(where.at(*corner) for corner in mark.corners)),
}


def reach(mark: Mark) -> Sequence[Pair]:
    """Few points whose box is the mark's."""
    if isinstance(mark, Segment):
        return ((mark.x1, mark.y1), (mark.x2, mark.y2))
    if isinstance(mark, Dot):
        return ((mark.x, mark.y),)
    if isinstance(mark, Arc):
        cx, cy, r, start, sweep = mark.cx, mark.cy, mark.radius, mark.start, mark.sweep
        if abs(sweep) >= 360:
            return ((cx - r, cy - r), (cx + r, cy + r))
        low, high = (start, start + sweep) if sweep > 0 else (start + sweep, start)
        quarters = range(math.ceil(low / 90), math.floor(high / 90) + 1)
        return (mark.end(0.0), mark.end(), *((cx + r * _COS[q % 4], cy + r * _COS[(q - 1) % 4]) for q in quarters))
    return sampled(mark, FEW) if isinstance(mark, Curve) else sampled(mark)


FEW = 16
"""Places along a curve that find its box near enough to make room for it."""

_COS = (1, 0, -1, 0)


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
    if isinstance(mark, Area | Gap | Hatch):
        return list(mark.corners)
    if isinstance(mark, Curve):
        fitted = mark.pieces(ROUGHLY)
        shares = max(1, pieces // len(fitted))
        return [fitted[0][0], *(curves.at(piece, (k + 1) / shares) for piece in fitted for k in range(shares))]
    if isinstance(mark, RadiusDimension):
        return [(mark.cx, mark.cy), (mark.x, mark.y)]
    if isinstance(mark, Dot | Text | Letter | AngleDimension | Break):
        return [(mark.x, mark.y)]
    return []


def bounds(marks: list[Mark]) -> Box:
    """The box round all marks; a unit box when there is nothing."""
    points = [point for mark in marks for point in sampled(mark)]
    if not points:
        return (0.0, 0.0, 1.0, 1.0)
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return (min(xs), min(ys), max(xs), max(ys))
