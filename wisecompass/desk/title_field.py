"""A field of the title block, written where it stands on the sheet."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QRect, Qt, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import QLineEdit, QWidget

from wisecompass.desk.theme import interface_font
from wisecompass.folio.register import LONGEST_NAME


class TitleField(QLineEdit):
    """Enter takes what is written, Tab goes on to the next field, Escape leaves it as it was."""

    written = Signal(str, str, int)
    """The field, its text, and whether to go on (1) or back (-1)."""

    def __init__(self, sheet: QWidget, box: QRect, name: str, text: str) -> None:
        super().__init__(text, sheet)
        self.name = name
        self._done = False
        self.setObjectName("search")
        self.setFont(interface_font(14))
        self.setMaxLength(LONGEST_NAME)
        self.setAccessibleName(f"title block: {name.replace('_', ' ')}")
        self.setGeometry(box)
        self.show()
        self.setFocus()
        self.selectAll()

    def event(self, event: QEvent) -> bool:
        """Tab is a key of its own here."""
        if event.type() == QEvent.Type.KeyPress and isinstance(event, QKeyEvent):
            ways = {Qt.Key.Key_Tab: 1, Qt.Key.Key_Backtab: -1, Qt.Key.Key_Return: 0, Qt.Key.Key_Enter: 0}
            if event.key() in ways:
                self._finish(ways[Qt.Key(event.key())])
                return True
            if event.key() == Qt.Key.Key_Escape:
                self._close()
                return True
        return super().event(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:  # noqa: N802 - Qt's name
        super().focusOutEvent(event)
        if event.reason() is not Qt.FocusReason.PopupFocusReason:
            self._finish(0)

    def _finish(self, on: int) -> None:
        if not self._done:
            text = self.text()
            self._close()
            self.written.emit(self.name, text, on)

    def _close(self) -> None:
        self._done = True
        parent = self.parentWidget()
        self.hide()
        if parent is not None:
            parent.setFocus()
        self.deleteLater()
