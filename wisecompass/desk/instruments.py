"""Instruments laid on the sheet at the current step: quiet ink drawings, props that nobody handles."""

from __future__ import annotations

import math
from collections.abc import Mapping

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from wisecompass.desk.paint import View
from wisecompass.desk.theme import Theme
from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.step import Instrument, Step

GRIP = 26.0
"""How far the grip of a compass reaches beyond its hinge, px."""

STRIP_WIDTH = 26.0
"""Width of a straightedge on screen, px."""


def lay(
    painter: QPainter,
    view: View,
    theme: Theme,
    step: Step,
    new: list[Mark],
    named: Mapping[str, marks.Dot],
    ceiling: float,
) -> None:
    """Lay the step's instrument where it stands; ``new`` are the step's own marks, ``named`` the points on paper. A compass
    does not reach higher than the ``ceiling``, px, where the brief is written."""
    painter.save()
    ink = QColor(theme.color("paper_ink"))
    ink.setAlpha(150)
    painter.setPen(QPen(ink, 1.3))
    body = QColor(theme.color("paper"))
    body.setAlpha(165)
    painter.setBrush(body)
    arc = next((mark for mark in new if isinstance(mark, marks.Arc)), None)
    line = next((mark for mark in new if isinstance(mark, marks.Segment)), None)
    dots = [mark for mark in new if isinstance(mark, marks.Dot)]
    instrument = step.instrument
    if instrument is Instrument.COMPASS and arc is not None:
        _compass(painter, view.px(arc.cx, arc.cy), view.px(*arc.end(0.5 if arc.sweep < 359 else 0.13)), ceiling)
    elif instrument is Instrument.DIVIDERS and arc is not None:
        _compass(painter, view.px(arc.cx, arc.cy), view.px(*arc.end(0.5)), ceiling, lead=False)
    elif instrument is Instrument.DIVIDERS and len(dots) >= 2:
        _compass(painter, view.px(dots[0].x, dots[0].y), view.px(dots[1].x, dots[1].y), ceiling, lead=False)
    elif instrument is Instrument.PROTRACTOR and line is not None:
        _protractor(painter, view, line, step, named)
    elif line is not None and instrument in _ALONG_A_LINE:
        _edge(painter, view.px(line.x1, line.y1), view.px(line.x2, line.y2), instrument)
    elif instrument is Instrument.SCALE and dots:
        start = named.get(step.on[0]) if step.on else None
        _scale_at(painter, view, start, dots[-1])
    elif dots:
        _pencil(painter, view.px(dots[-1].x, dots[-1].y))
    painter.restore()


_ALONG_A_LINE = {
    Instrument.STRAIGHTEDGE,
    Instrument.T_SQUARE,
    Instrument.SET_SQUARE,
    Instrument.TRAMMEL,
    Instrument.SCALE,
}


def _unit(a: QPointF, b: QPointF) -> tuple[QPointF, QPointF, float]:
    """Unit vector a to b, its normal towards the lower side of the screen, and the distance."""
    d = b - a
    length = math.hypot(d.x(), d.y()) or 1.0
    u = QPointF(d.x() / length, d.y() / length)
    n = QPointF(-u.y(), u.x())
    if n.y() < -1e-9 or (abs(n.y()) <= 1e-9 and n.x() < 0):
        n = -n
    return u, n, length


def _compass(painter: QPainter, needle: QPointF, tip: QPointF, ceiling: float, lead: bool = True) -> None:
    """Two legs from a hinge that stands above the middle of the opening, or below it where there is no room."""
    d = tip - needle
    opening = math.hypot(d.x(), d.y())
    leg = max(opening * 0.75, 92.0)
    rise = math.sqrt(max(leg * leg - opening * opening / 4, 1.0))
    middle = (needle + tip) / 2
    if middle.y() - rise - GRIP < ceiling:
        rise = -rise
    hinge = QPointF(middle.x() + 0.12 * rise, middle.y() - rise) if abs(d.y()) < opening * 0.9 else None
    if hinge is None:
        hinge = QPointF(middle.x() + abs(rise), middle.y() - 0.12 * rise)
    for foot in (needle, tip):
        u, n, length = _unit(hinge, foot)
        half = 3.6
        taper = foot - u * min(20.0, length / 3)
        painter.drawPolygon(
            QPolygonF([hinge + n * half, taper + n * half * 0.8, foot, taper - n * half * 0.8, hinge - n * half])
        )
    painter.drawEllipse(hinge, 8.0, 8.0)
    painter.drawEllipse(hinge, 2.0, 2.0)
    grip_u = _unit(middle, hinge)[0]
    top = hinge + grip_u * 8.0
    painter.drawLine(top, hinge + grip_u * GRIP)
    if lead:
        painter.setBrush(painter.pen().color())
        painter.drawEllipse(tip, 2.2, 2.2)
    painter.drawLine(needle + QPointF(-4, 0), needle + QPointF(4, 0))
    painter.drawLine(needle + QPointF(0, -4), needle + QPointF(0, 4))


def _edge(painter: QPainter, a: QPointF, b: QPointF, instrument: Instrument) -> None:
    """A strip, T-square or set square lying along the way from a to b, on its lower side."""
    u, n, length = _unit(a, b)
    start, end = a - u * 26.0, b + u * 26.0
    if instrument is Instrument.SET_SQUARE:
        _set_square(painter, a, u, n, length)
        return
    corners = [start, end, end + n * STRIP_WIDTH, start + n * STRIP_WIDTH]
    painter.drawPolygon(QPolygonF(corners))
    if instrument is Instrument.T_SQUARE:
        head = [start - n * 22.0, start + n * (STRIP_WIDTH + 22.0)]
        painter.drawPolygon(QPolygonF([head[0], head[1], head[1] - u * 15.0, head[0] - u * 15.0]))
    if instrument in (Instrument.SCALE, Instrument.TRAMMEL):
        _ticks(painter, start, u, n, length + 52.0)


def _ticks(painter: QPainter, start: QPointF, u: QPointF, n: QPointF, length: float) -> None:
    step, index = 7.0, 0
    while index * step < length:
        reach = 9.0 if index % 5 == 0 else 5.0
        at = start + u * (index * step)
        painter.drawLine(at, at + n * reach)
        index += 1


def _set_square(painter: QPainter, a: QPointF, u: QPointF, n: QPointF, length: float) -> None:
    """A 30/60 square with its long edge along the line and a window in it."""
    long = max(length + 24.0, 130.0)
    start = a - u * 12.0
    corners = [start, start + u * long, start + n * long * 0.577]
    painter.drawPolygon(QPolygonF(corners))
    middle = (corners[0] + corners[1] + corners[2]) / 3
    painter.drawPolygon(QPolygonF([middle + (corner - middle) * 0.45 for corner in corners]))


def _scale_at(painter: QPainter, view: View, start: marks.Dot | None, end: marks.Dot) -> None:
    """A scale rule whose edge passes from the point measured from to the point measured off."""
    tip = view.px(end.x, end.y)
    tail = view.px(start.x, start.y) if start is not None else tip - QPointF(120.0, 0.0)
    _edge(painter, tail, tip, Instrument.SCALE)


def _protractor(painter: QPainter, view: View, ray: marks.Segment, step: Step, named: Mapping[str, marks.Dot]) -> None:
    """A half circle standing on its base line, with a tick each ten degrees."""
    at = named.get(step.on[0])
    vertex = view.px(at.x, at.y) if at is not None else view.px(ray.x1, ray.y1)
    radius = 92.0
    base = step.base_angle
    turned = math.degrees(math.atan2(ray.y2 - ray.y1, ray.x2 - ray.x1)) - base
    upward = math.sin(math.radians(turned)) >= 0
    painter.save()
    painter.translate(vertex)
    painter.rotate(-base)
    if not upward:
        painter.scale(1, -1)
    path = QPainterPath()
    square = QRectF(-radius, -radius, 2 * radius, 2 * radius)
    path.moveTo(radius, 0)
    path.arcTo(square, 0, 180)
    path.lineTo(-radius, 12)
    path.lineTo(radius, 12)
    path.closeSubpath()
    inner = QPainterPath()
    window = QRectF(-radius * 0.62, -radius * 0.62, radius * 1.24, radius * 1.24)
    inner.moveTo(radius * 0.62, 0)
    inner.arcTo(window, 0, 180)
    inner.closeSubpath()
    painter.drawPath(path.subtracted(inner))
    for tick in range(0, 181, 10):
        turn = math.radians(tick)
        reach = 0.86 if tick % 30 == 0 else 0.92
        direction = QPointF(math.cos(turn), -math.sin(turn))
        painter.drawLine(direction * radius * reach, direction * radius)
    painter.drawLine(QPointF(-6, 0), QPointF(6, 0))
    painter.drawLine(QPointF(0, -6), QPointF(0, 6))
    painter.restore()


def _pencil(painter: QPainter, tip: QPointF) -> None:
    """A pencil whose point rests on the paper, leaning away to the upper right."""
    painter.save()
    painter.translate(tip)
    painter.rotate(-56)
    painter.drawPolygon(QPolygonF([QPointF(0, 0), QPointF(16, -4.2), QPointF(92, -4.2), QPointF(92, 4.2), QPointF(16, 4.2)]))
    painter.drawLine(QPointF(16, -4.2), QPointF(16, 4.2))
    painter.restore()


def sign(painter: QPainter, square: QRectF, instrument: Instrument) -> None:
    """The little sign of an instrument, in the painter's pen, inside a square."""
    painter.save()
    painter.translate(square.center())
    s = square.width() / 2
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if instrument in (Instrument.COMPASS, Instrument.DIVIDERS):
        painter.drawLine(QPointF(0, -s), QPointF(-0.6 * s, s))
        painter.drawLine(QPointF(0, -s), QPointF(0.6 * s, s))
        if instrument is Instrument.COMPASS:
            painter.drawArc(QRectF(-0.9 * s, 0.3 * s, 1.8 * s, 1.2 * s), 200 * 16, 140 * 16)
    elif instrument is Instrument.PROTRACTOR:
        painter.drawChord(QRectF(-s, -0.6 * s, 2 * s, 2 * s), 0, 180 * 16)
    elif instrument is Instrument.SET_SQUARE:
        painter.drawPolygon(QPolygonF([QPointF(-0.8 * s, -s), QPointF(-0.8 * s, 0.8 * s), QPointF(0.9 * s, 0.8 * s)]))
    elif instrument is Instrument.T_SQUARE:
        painter.drawLine(QPointF(-0.9 * s, 0), QPointF(s, 0))
        painter.drawLine(QPointF(-0.9 * s, -0.7 * s), QPointF(-0.9 * s, 0.7 * s))
    elif instrument is Instrument.STRAIGHTEDGE:
        painter.drawLine(QPointF(-s, 0.7 * s), QPointF(s, -0.7 * s))
    elif instrument in (Instrument.SCALE, Instrument.TRAMMEL):
        painter.drawRect(QRectF(-s, -0.4 * s, 2 * s, 0.8 * s))
        for tick in (-0.5, 0.0, 0.5):
            painter.drawLine(QPointF(tick * s, -0.4 * s), QPointF(tick * s, 0))
    elif instrument is Instrument.CURVE:
        path = QPainterPath(QPointF(-s, 0.7 * s))
        path.cubicTo(QPointF(-0.6 * s, -1.4 * s), QPointF(0.4 * s, 1.2 * s), QPointF(s, -0.7 * s))
        painter.drawPath(path)
    else:
        painter.drawEllipse(QPointF(0, 0), 0.3 * s, 0.3 * s)
    painter.restore()
