"""A layout that sets widgets like words: left to right, broken into lines, on a common base line."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtWidgets import QLayout, QLayoutItem, QWidget


class FlowLayout(QLayout):
    """Words and fields in running lines; ``gap`` px between words, ``leading`` px between lines."""

    def __init__(self, parent: QWidget | None = None, gap: int = 0, leading: int = 4) -> None:
        super().__init__(parent)
        self._items: list[QLayoutItem] = []
        self._sizes: list[QSize] = []
        self._heights: dict[int, int] = {}
        self._gap, self._leading = gap, leading
        self.setContentsMargins(0, 0, 0, 0)

    def addItem(self, item: QLayoutItem) -> None:  # noqa: N802 - Qt's name
        self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:  # noqa: N802
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:  # noqa: N802
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:  # noqa: N802
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:  # noqa: N802
        return True

    def heightForWidth(self, width: int) -> int:  # noqa: N802
        if width not in self._heights:
            self._heights[width] = self._arrange(QRect(0, 0, width, 0), move=False)
        return self._heights[width]

    def invalidate(self) -> None:
        """Something has another size: forget what was measured."""
        self._sizes, self._heights = [], {}
        super().invalidate()

    def setGeometry(self, rect: QRect) -> None:  # noqa: N802
        super().setGeometry(rect)
        self._arrange(rect, move=True)

    def sizeHint(self) -> QSize:  # noqa: N802
        return self.minimumSize()

    def minimumSize(self) -> QSize:  # noqa: N802
        size = QSize()
        for item in self._items:
            size = size.expandedTo(item.minimumSize())
        return size

    def _arrange(self, rect: QRect, *, move: bool) -> int:
        x, y, height = rect.x(), rect.y(), 0
        line: list[tuple[QLayoutItem, int, QSize]] = []

        def close() -> None:
            if move:
                for item, left, size in line:
                    item.setGeometry(QRect(QPoint(left, y + (height - size.height()) // 2), size))

        if len(self._sizes) != len(self._items):
            self._sizes = [item.sizeHint() for item in self._items]
        for item, size in zip(self._items, self._sizes, strict=True):
            if line and x + size.width() > rect.right() + 1:
                close()
                x, y, height, line = rect.x(), y + height + self._leading, 0, []
            line.append((item, x, size))
            x += size.width() + self._gap
            height = max(height, size.height())
        close()
        return y + height - rect.y()
