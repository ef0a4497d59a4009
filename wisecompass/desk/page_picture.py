"""A page shown as large as its room allows, as it is printed."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from wisecompass.desk.paint import MarkPainter, Stand, View
from wisecompass.desk.theme import Theme, interface_font, scaled
from wisecompass.drafting.marks import Text
from wisecompass.exchange.gcode_picture import TRAVEL
from wisecompass.folio.page import Page, drawn_over

LEAST_LETTERS = 3.5
"""Lettering whose capitals would be lower is left out, px: painted larger than it is it would run over its lines."""

EDGE = 10
"""Table to be seen round the page, px."""


class PagePicture(QWidget):
    """One page; words where there is none."""

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self.theme, self.page, self.words = theme, None, ""
        self.setAccessibleName(name)
        self.setMinimumSize(scaled(380), scaled(320))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    page: Page | None

    def show_page(self, page: Page | None, words: str = "") -> None:
        """Show a page, and say in words what it shows."""
        self.page, self.words = page, words
        self.setAccessibleDescription(words)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: N802 - Qt's name
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.theme.color("table"))
        if self.page is None:
            painter.setPen(self.theme.color("paper_ink"))
            painter.setFont(interface_font(14))
            box = self.rect().adjusted(2 * EDGE, 2 * EDGE, -2 * EDGE, -2 * EDGE)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, self.words)
            return
        paint_page(painter, QRectF(self.rect()).adjusted(EDGE, EDGE, -EDGE, -EDGE), self.page, self.theme)


def paint_page(painter: QPainter, room: QRectF, page: Page, theme: Theme) -> View:
    """Paint a page as large as a room allows; the map to its millimetres."""
    k = min(room.width() / page.width, room.height() / page.height)
    left, top = room.center().x() - k * page.width / 2, room.center().y() - k * page.height / 2
    view = View(k, left, top + k * page.height)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.fillRect(QRectF(left, top, k * page.width, k * page.height), theme.color("paper"))
    MarkPainter(painter, view, theme).paint((mark, Stand.DONE) for mark in page.furniture)
    painter.save()
    if page.window is not None:
        a, b, c, d = page.window
        painter.setClipRect(QRectF(view.px(a, d), view.px(c, b)))
    shown = [mark for mark in drawn_over(page) if not isinstance(mark, Text) or mark.height * k >= LEAST_LETTERS]
    stands = ((mark, Stand.GHOST if mark.name == TRAVEL else Stand.DONE) for mark in shown)
    MarkPainter(painter, view, theme).paint(stands)
    painter.restore()
    return view
