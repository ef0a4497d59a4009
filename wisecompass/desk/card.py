"""A card on the sheet's table: it is moved by its head, enlarged, and put away."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, QPoint, Qt, Signal
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication, QFrame, QHBoxLayout, QLabel, QToolButton, QVBoxLayout, QWidget

from wisecompass.desk.theme import UNIT, scaled

SMALL, LARGE = (252, 196), (440, 340)
"""Width and height of a card as it lies there and enlarged, px."""

GAP = 10
"""Between a card and the edge of the table, px."""


class Card(QFrame):
    """Holds one widget on the table of another; it keeps its corner when the table changes its size."""

    came = Signal()
    """It is there, with something else to show."""

    def __init__(self, table: QWidget, words: str, inside: QWidget) -> None:
        super().__init__(table)
        self.inside, self.table = inside, table
        self.large, self.away = False, False
        self.right, self.low = True, True
        self._held: QPoint | None = None
        self.setObjectName("card")
        column = QVBoxLayout(self)
        column.setContentsMargins(1, 1, 1, 1)
        column.setSpacing(0)
        head = QHBoxLayout()
        head.setContentsMargins(UNIT, 0, 0, 0)
        head.setSpacing(0)
        label = QLabel(words)
        label.setObjectName("quiet")
        head.addWidget(label, 1)
        self.size_button, self.away_button = QToolButton(), QToolButton()
        self.size_button.setText("larger")
        self.size_button.setToolTip("make the card larger, or small again  Shift+F7")
        self.size_button.clicked.connect(self.toggle_size)
        self.away_button.setText("put away")
        self.away_button.setToolTip("put the card away; F7 brings it back")
        self.away_button.clicked.connect(self.toggle_away)
        head.addWidget(self.size_button)
        head.addWidget(self.away_button)
        column.addLayout(head)
        column.addWidget(inside, 1)
        self.setCursor(Qt.CursorShape.SizeAllCursor)
        inside.setCursor(Qt.CursorShape.ArrowCursor)
        inside.installEventFilter(self)
        table.installEventFilter(self)
        self._resize()
        self.follow()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:  # noqa: N802 - Qt's name
        """The card is there while what it holds has something to show."""
        if watched is self.table and event.type() == QEvent.Type.Resize:
            self._lay()
        elif watched is self.inside and event.type() in (QEvent.Type.ShowToParent, QEvent.Type.HideToParent):
            self.follow()
        return False

    def follow(self) -> None:
        """Be seen where there is something to show, unless it was put away."""
        wanted = not self.inside.isHidden() and not self.away
        if wanted != self.isVisibleTo(self.table):
            held = QApplication.focusWidget()
            if not wanted and held is not None and self.isAncestorOf(held):
                self.table.setFocus()  # what is not seen has no keys
            self.setVisible(wanted)
            self._lay()
            if wanted:
                self.came.emit()

    def toggle_away(self) -> None:
        """Put the card away, or take it out again."""
        self.away = not self.away
        self.follow()

    def toggle_size(self) -> None:
        """Make the card larger, or small again."""
        self.large = not self.large
        self.size_button.setText("smaller" if self.large else "larger")
        self._resize()

    def _resize(self) -> None:
        self.setFixedSize(*map(scaled, LARGE if self.large else SMALL))
        self._lay()

    def lie(self, *, right: bool, low: bool) -> None:
        """Lie in a corner of the table."""
        self.right, self.low = right, low
        self._lay()

    def _lay(self) -> None:
        x = self.table.width() - self.width() - GAP if self.right else GAP
        y = self.table.height() - self.height() - GAP if self.low else GAP
        self.move(max(0, x), max(0, y))
        self.raise_()

    def mousePressEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        self._held = event.position().toPoint()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        if self._held is not None:
            to = self.pos() + event.position().toPoint() - self._held
            x = min(max(0, to.x()), self.table.width() - self.width())
            y = min(max(0, to.y()), self.table.height() - self.height())
            self.move(x, y)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        """It keeps the corner that it was left nearest to when the table changes its size."""
        self._held = None
        middle = self.geometry().center()
        self.right, self.low = middle.x() > self.table.width() / 2, middle.y() > self.table.height() / 2
