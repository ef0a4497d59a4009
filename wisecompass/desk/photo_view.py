"""A photograph of the sheet on the table: the corners of the paper are clicked, then letter after letter by name; what
should be there lies over it, and every letter is judged."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QObject, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QImage,
    QImageReader,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from wisecompass.desk.saying import say
from wisecompass.desk.session import Session
from wisecompass.desk.theme import UNIT, Theme, interface_font, scaled
from wisecompass.drafting import marks
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.letters import renamed
from wisecompass.drafting.marks import sampled
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.wording import lettered as letter_text
from wisecompass.folio.clicked import CORNERS, FEWEST, Spot, fit_of, lettered, readings

if TYPE_CHECKING:
    from wisecompass.judgement.photograph import Fit
    from wisecompass.judgement.prepared import Reading

LARGEST = 64 * 1024 * 1024
"""Bytes of a photograph at most."""

MOST_PIXELS = 12_000
"""Pixels that it may be wide or high."""

SHOWN = {Pen.OUTLINE, Pen.CUT, Pen.FOLD, Pen.GIVEN}
"""What of the drawing lies over the photograph."""


class PhotoView(QWidget):
    """Covers the sheet while a photograph is looked at. Wheel zooms, drag pans; Space leaves a place out, Backspace takes
    the last one back, L goes on with letters instead of corners, Esc puts the photograph away."""

    clicked = Signal(object)
    """Readings of the letters that were clicked, by figure; None when the photograph is put away."""

    def __init__(self, sheet: QWidget, session: Session, theme: Theme) -> None:
        super().__init__(sheet)
        self.sheet, self.session, self.theme = sheet, session, theme
        sheet.installEventFilter(self)
        self.image = QImage()
        self.name = ""
        self.places: dict[str, tuple[float, float]] = {}
        self.left_out: list[str] = []
        self.by_letters = False
        self.fit: Fit | None = None
        self.trouble = ""
        self._k, self._shift = 1.0, QPointF()
        self._pressed: QPointF | None = None
        self._dragged = self._zoomed = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("photograph of the sheet")
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.hide()
        session.figure_changed.connect(self.put_away)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:  # noqa: N802 - Qt's name
        if event.type() == QEvent.Type.Resize:
            self.setGeometry(self.sheet.rect())
            if not self._zoomed and not self.image.isNull():
                self._show_whole()
        return False

    # ------------------------------------------------------------------------------------------------------- opening
    def open(self, path: Path) -> str:
        """Lay a photograph on the table; why that cannot be, else nothing."""
        try:
            if path.stat().st_size > LARGEST:
                return f"{path.name} is larger than 64 MB"
        except OSError as reason:
            return f"{path.name} cannot be read: {reason.strerror}"
        reader = QImageReader(str(path))
        reader.setAutoTransform(True)
        size = reader.size()
        if max(size.width(), size.height()) > MOST_PIXELS:
            return f"{path.name} has {size.width()} × {size.height()} pixels; {MOST_PIXELS} each way are the most"
        image = reader.read()
        if image.isNull():
            return f"{path.name} is no picture that can be read (PNG or JPEG)"
        self.image, self.name = image, path.name
        self.places, self.left_out, self.fit, self.trouble, self.by_letters = {}, [], None, "", False
        self.setGeometry(self.sheet.rect())
        self._zoomed = False
        self._show_whole()
        self.show()
        self.raise_()
        self.setFocus()
        self._told()
        return ""

    def _show_whole(self) -> None:
        """The whole photograph, under what is asked."""
        wide, high = self.image.width(), self.image.height()
        self._k = max(0.01, min(self.width() / wide, (self.height() - scaled(56)) / high))
        self._shift = QPointF((self.width() - self._k * wide) / 2, scaled(56))
        self.update()

    def put_away(self) -> None:
        """Back to the sheet."""
        if self.isVisible():
            self.hide()
            self.clicked.emit(None)

    # --------------------------------------------------------------------------------------------------------- asking
    @property
    def letters(self) -> dict[str, Spot]:
        """The letters of the sheet that can be clicked."""
        page = self.session.page
        return {} if page is None else lettered(page)

    @property
    def asked(self) -> str:
        """The place that is to be clicked next; nothing when all have been."""
        known = [] if self.by_letters else list(CORNERS)
        return next((name for name in (*known, *self.letters) if name not in self.places and name not in self.left_out), "")

    @property
    def sentence(self) -> str:
        """What is asked for, and what has come of it."""
        asked = self.asked
        place = f"the {asked} corner of the paper" if asked in CORNERS else f"the point {self._letter(asked)}"
        what = f"Click {place}." if asked else "All letters are clicked."
        if self.trouble:
            return f"{what} {self.trouble}"
        if self.fit is not None and sum(name in CORNERS for name in self.places) < FEWEST < len(self.places):
            return f"{what} The letters fit within {self.fit.residual:.2f} mm."
        return what

    def _letter(self, name: str) -> str:
        return renamed(self.session.conventions.letters, letter_text(name))

    def _told(self) -> None:
        self.setAccessibleDescription(self.sentence)
        say(self, self.sentence)
        self.update()

    def take(self, pixel: tuple[float, float]) -> None:
        """A place was clicked."""
        asked = self.asked
        if not asked:
            return
        self.places[asked] = pixel
        self._fit()

    def leave_out(self) -> None:
        """The place that is asked for is not on the photograph."""
        if self.asked:
            self.left_out.append(self.asked)
            self._told()

    def back(self) -> None:
        """Take the last place back."""
        if self.places:
            self.places.popitem()
            self._fit()

    def _fit(self) -> None:
        page = self.session.page
        self.fit, self.trouble = None, ""
        corners = sum(name in CORNERS for name in self.places)
        letters = len(self.places) - corners
        if page is not None and (corners >= FEWEST or (corners < FEWEST and letters >= FEWEST)):
            try:
                self.fit = fit_of(page, self.places)
            except WiseCompassError as reason:
                self.trouble = f"{reason}."
        self._told()
        self.clicked.emit(self.readings())

    def readings(self) -> dict[str, Reading]:
        """The letters that were clicked as figures of the construction."""
        from wisecompass.judgement.prepared import Reading as One

        page = self.session.page
        if page is None or self.fit is None:
            return {}
        return readings(page, self.places, self.fit, One)

    # -------------------------------------------------------------------------------------------------------- pointer
    def _pixel(self, at: QPointF) -> tuple[float, float]:
        return (at.x() - self._shift.x()) / self._k, (at.y() - self._shift.y()) / self._k

    def _at(self, pixel: tuple[float, float]) -> QPointF:
        return QPointF(self._shift.x() + self._k * pixel[0], self._shift.y() + self._k * pixel[1])

    def wheelEvent(self, event: QWheelEvent) -> None:  # noqa: N802 - Qt's name
        self._zoomed = True
        factor = 1.2 ** (event.angleDelta().y() / 120)
        here = event.position()
        pixel = self._pixel(here)
        self._k = min(max(self._k * factor, 0.02), 40.0)
        self._shift += here - self._at(pixel)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        self._pressed, self._dragged = event.position(), False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        if self._pressed is None:
            return
        away = event.position() - self._pressed
        if self._dragged or away.manhattanLength() > 5:
            self._dragged = self._zoomed = True
            self._shift += away
            self._pressed = event.position()
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        if self._pressed is not None and not self._dragged:
            self.take(self._pixel(event.position()))
        self._pressed = None

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802
        key = event.key()
        if key == Qt.Key.Key_Escape:
            self.put_away()
        elif key == Qt.Key.Key_Space:
            self.leave_out()
        elif key == Qt.Key.Key_Backspace:
            self.back()
        elif key == Qt.Key.Key_L:
            self.by_letters = not self.by_letters
            self._told()
        else:
            event.ignore()

    # ------------------------------------------------------------------------------------------------------- painting
    def paintEvent(self, _event: QPaintEvent) -> None:  # noqa: N802
        t = self.theme
        with QPainter(self) as painter:
            painter.fillRect(self.rect(), t.color("table"))
            painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            size = QRectF(self._shift.x(), self._shift.y(), self._k * self.image.width(), self._k * self.image.height())
            painter.drawImage(size, self.image)
            self._paint_over(painter)
            for name, pixel in self.places.items():
                self._paint_place(painter, name, self._at(pixel))
            band = QRectF(0, 0, self.width(), scaled(56))
            painter.fillRect(band, t.color("panel"))
            painter.setPen(t.color("ink"))
            painter.setFont(interface_font(16, strong=True))
            line = band.adjusted(2 * UNIT, 4, -2 * UNIT, -scaled(24))
            painter.drawText(line, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, self.sentence)
            painter.setFont(interface_font(12))
            painter.setPen(t.color("quiet"))
            keys = "Space leaves it out, Backspace takes the last back, L begins with letters, Esc puts it away"
            under = band.adjusted(2 * UNIT, scaled(30), -2 * UNIT, 0)
            painter.drawText(under, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, keys)

    def _paint_over(self, painter: QPainter) -> None:
        """What should be there, as the photograph shows it, and a ring where the next letter should be."""
        page = self.session.page
        if page is None or self.fit is None:
            return
        painter.setPen(QPen(self.theme.color("accent"), 1.4, Qt.PenStyle.DashLine))
        for mark in page.marks:
            if mark.pen in SHOWN and isinstance(mark, marks.Segment | marks.Arc | marks.Ellipse | marks.Curve):
                painter.drawPolyline(QPolygonF([self._at(self.fit.pixel(spot)) for spot in sampled(mark, 96)]))
        asked = self.letters.get(self.asked)
        if asked is not None:
            painter.setPen(QPen(self.theme.color("vermilion"), 2))
            painter.drawEllipse(self._at(self.fit.pixel(asked.at)), 12, 12)

    def _paint_place(self, painter: QPainter, name: str, at: QPointF) -> None:
        colour = QColor(self.theme.color("vermilion"))
        painter.setPen(QPen(colour, 1.6))
        painter.drawLine(at - QPointF(7, 0), at + QPointF(7, 0))
        painter.drawLine(at - QPointF(0, 7), at + QPointF(0, 7))
        painter.setFont(interface_font(13, strong=True))
        words = name if name in CORNERS else self._letter(name)
        wide = painter.fontMetrics().horizontalAdvance(words)
        right = at.x() + 8 + wide < self.width()
        spot = at + QPointF(8 if right else -8 - wide, -6)
        painter.fillRect(QRectF(spot.x() - 2, spot.y() - 12, wide + 4, 16), self.theme.color("panel"))
        painter.drawText(spot, words)
