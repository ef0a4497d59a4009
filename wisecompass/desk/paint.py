"""Painting marks: one routine for the sheet, for the problems' signs and for pictures."""

from __future__ import annotations

import math
from collections.abc import Iterable
from enum import IntEnum
from functools import cache, lru_cache

from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QFontMetricsF,
    QPainter,
    QPainterPath,
    QPen,
    QPixmap,
    QPolygonF,
    QStaticText,
    QTransform,
)

from wisecompass.desk.theme import Theme, drafting_font
from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.pens import STROKES, Pen
from wisecompass.folio.page import OVER
from wisecompass.folio.paper import CAP_SHARE

THINNEST = 0.9
"""No line is painted thinner than this, px."""

SMALLEST_LETTERS = 8.0
"""Capitals are never painted lower than this, px, so that letters stay legible when a large sheet is shown small."""


SMALLEST_PRINT = 5.0
"""The same of what is lettered in the title block and the brief, which the window says as well."""

ROUND_FROM = 3.5
"""Lines wider than this end round, px. On finer ones nobody sees it, and round ends take a hundred times as long."""

NEAR_ENOUGH = 0.2
"""How far the outline of a curve may be painted from where it is, px, at any zoom."""


FAINT = 0.5
"""How far what is only hinted at is mixed with the paper: it still stands out from it three to one."""

HINTED = [1.0, 4.0]
"""Dots by which what is still to come is told from what is drawn, in widths of the line."""

FLAT = 20.0
"""Arcs through fewer degrees are painted as one piece; it is within a millionth of the radius."""

DOT_RADIUS, DOT, PHASES = 2.1, 6, 4
"""Radius of a point's disc, the room it takes and the parts of a pixel it is stamped to, px."""


class Stand(IntEnum):
    """How a mark stands to the current step."""

    GHOST = 0
    DONE = 1
    BASIS = 2
    NEW = 3


class View:
    """The map from mm of paper to px: ``k`` px a mm, the paper's lower left corner at (x, y)."""

    def __init__(self, k: float, x: float, y: float) -> None:
        self.k, self.x, self.y = k, x, y

    def px(self, mm_x: float, mm_y: float) -> QPointF:
        return QPointF(self.x + self.k * mm_x, self.y - self.k * mm_y)

    def mm(self, at: QPointF) -> tuple[float, float]:
        return (at.x() - self.x) / self.k, (self.y - at.y()) / self.k

    def transform(self) -> QTransform:
        return QTransform(self.k, 0, 0, -self.k, self.x, self.y)


def _mixed(a: QColor, b: QColor, share: float) -> QColor:
    return QColor(
        round(a.red() + (b.red() - a.red()) * share),
        round(a.green() + (b.green() - a.green()) * share),
        round(a.blue() + (b.blue() - a.blue()) * share),
    )


class MarkPainter:
    """Paints marks in one theme at one zoom; pens are made once for each (pen, stand)."""

    def __init__(self, painter: QPainter, view: View, theme: Theme, greyed: bool = False) -> None:
        self.painter, self.view, self.theme, self.greyed = painter, view, theme, greyed
        self._pens: dict[tuple[Pen, Stand], QPen] = {}
        self._colors: dict[tuple[Pen, Stand], QColor] = {}
        self._dots: dict[tuple[Pen, Stand], list[tuple[float, float]]] = {}
        self._texts: list[tuple[marks.Text, QColor]] = []
        self._lettered_with: tuple[QFont, QColor] | None = None

    def paint(self, drawn: Iterable[tuple[Mark, Stand]]) -> None:
        """Paint all marks, lettering last."""
        self.painter.save()
        self.painter.setTransform(self.view.transform(), True)
        self.painter.setBrush(Qt.BrushStyle.NoBrush)
        lines: dict[tuple[Pen, Stand], list[QLineF]] = {}
        others: list[tuple[Mark, Stand]] = []
        gaps: list[marks.Gap] = []
        for mark, stand in drawn:
            if isinstance(mark, marks.Segment):
                lines.setdefault((mark.pen, stand), []).append(QLineF(mark.x1, mark.y1, mark.x2, mark.y2))
            elif isinstance(mark, marks.Dot) and stand is not Stand.NEW:
                self._dot(mark, stand)
            elif isinstance(mark, marks.Text):
                self._texts.append((mark, self._color(mark.pen, stand)))
            elif isinstance(mark, marks.Area):
                self._area(mark)
            elif isinstance(mark, marks.Gap):
                gaps.append(mark)
            else:
                others.append((mark, stand))
        for key, ruled in sorted(lines.items(), key=lambda pair: (pair[0][1], OVER.get(pair[0][0], 2))):
            self.painter.setPen(self._pen(*key))
            self.painter.drawLines(ruled)
        for mark, stand in others:
            self._one(mark, stand)
        self.painter.setPen(Qt.PenStyle.NoPen)
        for gap in gaps:
            self.painter.setBrush(self.theme.color("paper"))
            self.painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in gap.corners]))
        self.painter.restore()
        self._paint_dots()
        for text, color in sorted(self._texts, key=lambda pair: (pair[0].height, pair[1].rgb())):
            self._letter(text, color)

    def _paint_dots(self) -> None:
        """All points but new ones as full discs, over the lines: stamped, for a disc takes ten times as long to draw."""
        for key, points in self._dots.items():
            stamps = _stamps(self._color(*key).rgb())
            for x, y in points:
                left, top = math.floor(x * PHASES) - DOT * PHASES // 2, math.floor(y * PHASES) - DOT * PHASES // 2
                stamp = stamps[left % PHASES][top % PHASES]
                self.painter.drawPixmap(left // PHASES, top // PHASES, stamp)

    def _color(self, pen: Pen, stand: Stand) -> QColor:
        """The colour of a pen, mixed once."""
        key = (pen, stand)
        if key not in self._colors:
            self._colors[key] = self._mixed(pen, stand)
        return self._colors[key]

    def _mixed(self, pen: Pen, stand: Stand) -> QColor:
        ink, paper = self.theme.color("paper_ink"), self.theme.color("paper")
        if stand is Stand.NEW:
            color = self.theme.color("vermilion")
        elif stand is Stand.BASIS:
            color = self.theme.color("accent")
        elif stand is Stand.GHOST:
            color = _mixed(ink, paper, FAINT)
        else:
            color = _mixed(ink, paper, STROKES[pen].grey)
        return _mixed(ink, paper, FAINT) if self.greyed else color

    def _pen(self, pen: Pen, stand: Stand) -> QPen:
        key = (pen, stand)
        if key not in self._pens:
            stroke = STROKES[pen]
            width = max(stroke.width, THINNEST / self.view.k)
            if stand is Stand.NEW:
                width = max(width * 1.5, 1.8 / self.view.k)
            elif stand is Stand.BASIS:
                width = max(width, 1.5 / self.view.k)
            made = QPen(self._color(pen, stand), width)
            ends = Qt.PenCapStyle.RoundCap if width * self.view.k > ROUND_FROM else Qt.PenCapStyle.SquareCap
            made.setCapStyle(Qt.PenCapStyle.FlatCap if stroke.dashes else ends)
            made.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
            if stand is Stand.GHOST:
                made.setDashPattern(HINTED)
            elif stroke.dashes:
                made.setDashPattern([dash / width for dash in stroke.dashes])
            self._pens[key] = made
        return self._pens[key]

    def _one(self, mark: Mark, stand: Stand) -> None:
        painter = self.painter
        if isinstance(mark, marks.Arc):
            painter.setPen(self._pen(mark.pen, stand))
            if mark.sweep == 360.0 and not STROKES[mark.pen].dashes:
                painter.drawEllipse(QPointF(mark.cx, mark.cy), mark.radius, mark.radius)
                return
            if abs(mark.sweep) < FLAT:
                painter.drawPath(_flat_arc(mark))
                return
            square = QRectF(mark.cx - mark.radius, mark.cy - mark.radius, 2 * mark.radius, 2 * mark.radius)
            path = QPainterPath()
            path.arcMoveTo(square, -mark.start)
            path.arcTo(square, -mark.start, -mark.sweep)
            painter.drawPath(path)
        elif isinstance(mark, marks.Ellipse):
            painter.save()
            painter.translate(mark.cx, mark.cy)
            painter.rotate(mark.angle)
            painter.setPen(self._pen(mark.pen, stand))
            painter.drawEllipse(QPointF(0, 0), mark.semi_major, mark.semi_minor)
            painter.restore()
        elif isinstance(mark, marks.Curve | marks.Ready):
            painter.setPen(self._pen(mark.pen, stand))
            pieces = mark.pieces(NEAR_ENOUGH / self.view.k)
            path = QPainterPath(QPointF(*pieces[0][0]))
            for _, first, second, end in pieces:
                path.cubicTo(*first, *second, *end)
            painter.drawPath(path)
        elif isinstance(mark, marks.Dot):
            self._dot(mark, stand)

    def _dot(self, mark: marks.Dot, stand: Stand) -> None:
        if not mark.shown or stand is Stand.GHOST:
            return
        key = (Pen.GIVEN if mark.pen is not Pen.GRID else Pen.GRID, stand)
        if stand is not Stand.NEW:
            view = self.view
            self._dots.setdefault(key, []).append((view.x + view.k * mark.x, view.y - view.k * mark.y))
            return
        color = self._color(*key)
        radius = 2.8 / self.view.k
        self.painter.setPen(QPen(color, 1.4 / self.view.k))
        self.painter.setBrush(QBrush(self.theme.color("paper")))
        self.painter.drawEllipse(QPointF(mark.x, mark.y), radius, radius)
        self.painter.setBrush(Qt.BrushStyle.NoBrush)

    def _area(self, mark: marks.Area) -> None:
        tint = self.theme.color("tint")
        tint.setAlpha(110)
        points = [QPointF(x, y) for x, y in mark.corners]
        if len(points) == 2:
            self.painter.setPen(QPen(tint, 7 / self.view.k, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            self.painter.drawLine(points[0], points[1])
            return
        self.painter.setPen(Qt.PenStyle.NoPen)
        self.painter.setBrush(tint)
        self.painter.drawPolygon(QPolygonF(points))
        self.painter.setBrush(Qt.BrushStyle.NoBrush)

    def _letter(self, text: marks.Text, color: QColor) -> None:
        least = SMALLEST_LETTERS if text.step else SMALLEST_PRINT  # the brief and the title block have their rooms
        capital = max(text.height * self.view.k, least)
        font, metrics = _face(round(capital / CAP_SHARE))
        shift = 0.0
        if text.anchor != "left":
            shift = metrics.horizontalAdvance(text.text) / (2 if text.anchor == "centre" else 1)
        painter, at = self.painter, self.view.px(text.x, text.y)
        if self._lettered_with != (font, color):
            self._lettered_with = (font, color)
            painter.setFont(font)
            painter.setPen(color)
        if text.angle == 0.0:
            still, rise = _still(text.text, round(capital / CAP_SHARE))
            painter.drawStaticText(QPointF(at.x() - shift, at.y() - rise), still)
            return
        painter.save()
        painter.translate(at)
        painter.rotate(-text.angle)
        painter.drawText(QPointF(-shift, 0), text.text)
        painter.restore()


def _flat_arc(mark: marks.Arc) -> QPainterPath:
    """An arc through few degrees as one Bézier piece: of a large radius the toolkit's own is off by a millimetre."""
    start, end = math.radians(mark.start), math.radians(mark.start + mark.sweep)
    pull = 4 / 3 * math.tan((end - start) / 4) * mark.radius
    (x1, y1), (x2, y2) = mark.end(0.0), mark.end(1.0)
    path = QPainterPath(QPointF(x1, y1))
    path.cubicTo(
        x1 - pull * math.sin(start),
        y1 + pull * math.cos(start),
        x2 + pull * math.sin(end),
        y2 - pull * math.cos(end),
        x2,
        y2,
    )
    return path


@cache
def _stamps(rgb: int) -> list[list[QPixmap]]:
    """The disc of a point in a colour, for each share of a pixel across and down that its middle may lie at."""
    rows = []
    for across in range(PHASES):
        column = []
        for down in range(PHASES):
            stamp = QPixmap(DOT + 1, DOT + 1)
            stamp.fill(Qt.GlobalColor.transparent)
            with QPainter(stamp) as painter:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(QColor(rgb))
                middle = QPointF(DOT / 2 + across / PHASES, DOT / 2 + down / PHASES)
                painter.drawEllipse(middle, DOT_RADIUS, DOT_RADIUS)
            column.append(stamp)
        rows.append(column)
    return rows


@lru_cache(maxsize=1024)
def _still(text: str, pixels: int) -> tuple[QStaticText, float]:
    """Lettering laid out once, for most of it stays the same from key to key, and how far its base line lies below its
    top."""
    font, metrics = _face(pixels)
    still = QStaticText(text)
    still.setTextFormat(Qt.TextFormat.PlainText)
    still.prepare(QTransform(), font)
    return still, metrics.ascent()


@cache
def _face(pixels: int) -> tuple[QFont, QFontMetricsF]:
    """The drafting face at a size, made once."""
    font = drafting_font(pixels)
    return font, QFontMetricsF(font)
