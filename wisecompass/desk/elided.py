"""A line of text that is shortened where there is no room, and never makes its window wider."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QLabel


class Elided(QLabel):
    """Text with an ending that is never cut, such as a mark that something has changed. It is read aloud whole."""

    def __init__(self) -> None:
        super().__init__()
        self._ending = ""

    def set_text(self, text: str, ending: str = "") -> None:
        if text + ending != self.text() or ending != self._ending:
            self._ending = ending
            self.setText(text + ending)
            self.setToolTip(text + ending)

    def minimumSizeHint(self) -> QSize:  # noqa: N802 - Qt's name
        return QSize(40, super().minimumSizeHint().height())

    def sizeHint(self) -> QSize:  # noqa: N802
        wanted = super().sizeHint()
        return QSize(min(wanted.width() + SLACK, WIDEST), wanted.height())

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: N802
        metrics, place = self.fontMetrics(), self.contentsRect()
        text = self.text().removesuffix(self._ending)
        room = max(place.width() - metrics.horizontalAdvance(self._ending), 24)
        painter = QPainter(self)
        painter.setPen(self.palette().color(self.foregroundRole()))
        shown = metrics.elidedText(text, Qt.TextElideMode.ElideRight, room) + self._ending
        painter.drawText(place, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, shown)


SLACK = 4
"""Text and ending take a little more apart than together, px."""

WIDEST = 520
"""The width that a line asks for at most, px."""
