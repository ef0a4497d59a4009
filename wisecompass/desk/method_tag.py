"""A way with its worth, as a button."""

from __future__ import annotations

from PySide6.QtCore import QRect, QSize, Qt
from PySide6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton

from wisecompass.desk.theme import Theme, interface_font, scaled


class MethodTag(QAbstractButton):
    """A method with its worth: a ring that is filled for the one in use, its name, and what it is worth here."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.name, self.words, self.serves = "", "", True
        self.setCheckable(True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_method(self, name: str, words: str, serves: bool, chosen: bool) -> None:
        if (self.name, self.words, self.serves, self.isChecked()) == (name, words, serves, chosen):
            return
        self.name, self.words, self.serves = name, words, serves
        self.setChecked(chosen)
        self.setAccessibleName(f"method {name}, {words}")
        self.setToolTip(f"{name}: {words}" if words else name)
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:  # noqa: N802
        name = QFontMetrics(interface_font(14, strong=True)).horizontalAdvance(self.name)
        words = QFontMetrics(interface_font(13)).horizontalAdvance(self.words)
        return QSize(18 + name + 8 + words + 14, scaled(24))

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: N802
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        ink = self.theme.color("ink" if self.serves else "quiet")
        accent = self.theme.color("accent")
        painter.setPen(QPen(accent if self.isChecked() else ink, 1.5))
        if self.isChecked():
            painter.setBrush(accent)
        ring = QRect(3, self.height() // 2 - 5, 10, 10)
        painter.drawEllipse(ring)
        font = interface_font(14, strong=True)
        painter.setFont(font)
        painter.setPen(accent if self.isChecked() else ink)
        left = 19
        width = QFontMetrics(font).horizontalAdvance(self.name)
        painter.drawText(QRect(left, 0, width + 2, self.height()), Qt.AlignmentFlag.AlignVCenter, self.name)
        painter.setFont(interface_font(13))
        painter.setPen(self.theme.color("quiet"))
        painter.drawText(self.rect().adjusted(left + width + 8, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, self.words)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(accent, 1, Qt.PenStyle.DotLine))
            painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
