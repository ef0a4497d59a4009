"""The answers of other figures that a name which is being typed may stand for: a list below the number, in the window."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QLineEdit, QListWidget

MOST_SEEN = 8
"""So many are seen at a time."""

WIDTH = 320


class LinkOffers(QListWidget):
    """Down and Up go through the list, Enter or a click takes one, Escape puts it away. The number keeps the keys."""

    def __init__(self, field: QLineEdit) -> None:
        super().__init__(field.window())
        self.field = field
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setObjectName("offers")
        self.setAccessibleName("answers of other figures")
        self.hide()

    def show_for(self, text: str, links: list[str]) -> None:
        """Show the links that have all that is typed in them; none, where nothing does or it is one of them already."""
        wanted = text.strip().casefold()
        found = [link for link in links if wanted in link.casefold()]
        if not found or wanted in (link.casefold() for link in links):
            self.hide()
            return
        self.clear()
        self.addItems(found)
        self.setCurrentRow(0)
        height = self.sizeHintForRow(0) * min(len(found), MOST_SEEN)
        self.resize(max(WIDTH, self.field.width()), height + 6)
        self.move(self.field.mapTo(self.field.window(), QPoint(0, self.field.height())))
        self.raise_()
        self.show()

    def takes(self, event: QKeyEvent) -> str | None:
        """What a key does to the list: the link that it takes, an empty text where it only moves, None where it is not for
        the list."""
        if not self.isVisible():
            return None
        if event.key() in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            way = 1 if event.key() == Qt.Key.Key_Down else -1
            self.setCurrentRow((self.currentRow() + way) % self.count())
            return ""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.hide()
            return self.currentItem().text()
        if event.key() == Qt.Key.Key_Escape:
            self.hide()
            return ""
        return None
