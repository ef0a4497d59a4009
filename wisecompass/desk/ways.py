"""The ways of a problem: one line for the one in hand, and folded out a table of all, best first."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeySequence, QShortcut
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QSizePolicy, QToolButton, QWidget

from wisecompass.desk.elided import Elided
from wisecompass.desk.method_tag import MethodTag
from wisecompass.desk.theme import UNIT, Theme
from wisecompass.drafting.wording import number_text
from wisecompass.judgement.worth import Worth, decimals

HEADS = ("way", "worth", "by hand", "steps", "instruments", "key")

MOST_KEYS = 9
"""So many ways have a key of their own."""


class WaysLine(QWidget):
    """The way in hand with its worth, and how many others there are."""

    unfolded = Signal(bool)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(UNIT)
        self.tag = MethodTag(theme)
        self.others = QToolButton()
        self.others.setObjectName("ways")
        self.others.setCheckable(True)
        self.others.setToolTip("all ways with what each is worth  F3")
        self.others.toggled.connect(self.unfolded)
        self.tag.clicked.connect(self._turn)
        row.addWidget(self.tag)
        row.addWidget(self.others)

    def _turn(self) -> None:
        """A click on the way in hand folds the others out, and leaves it in hand."""
        self.tag.setChecked(True)
        if self.others.isVisibleTo(self):
            self.others.toggle()

    def show_ways(self, worths: list[Worth], chosen: str) -> None:
        """Follow what is known of the ways."""
        mine = next((one for one in worths if one.method.name == chosen), None)
        if mine is not None:
            self.tag.show_method(chosen, mine.sentence, mine.serves, True)
        count = len(worths) - 1
        self.others.setVisible(count > 0)
        sign = "▴" if self.others.isChecked() else "▾"
        self.others.setText(f"{'one other way' if count == 1 else f'{count} other ways'} {sign}")


class WaysTable(QWidget):
    """All ways: what each is worth, what a hand keeps to, its steps and instruments; a key each."""

    chosen = Signal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.tags: list[MethodTag] = []
        self.setAccessibleName("ways")
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 2, 0, 0)
        self._grid.setHorizontalSpacing(2 * UNIT)
        self._grid.setVerticalSpacing(0)
        for column, head in enumerate(HEADS):
            label = QLabel(head)
            label.setObjectName("heading")
            self._grid.addWidget(label, 0, column)
        self._grid.setColumnStretch(4, 1)
        self._cells: list[list[QLabel]] = []
        for n in range(1, MOST_KEYS + 1):
            key = QShortcut(QKeySequence(f"Ctrl+{n}"), self, context=Qt.ShortcutContext.WindowShortcut)
            key.activated.connect(lambda n=n: self.choose(n - 1))

    def choose(self, row: int) -> None:
        """Take the way of a row."""
        if row < len(self.tags):
            self.chosen.emit(self.tags[row].name)

    def set_count(self, count: int) -> None:
        """Have rows for so many ways."""
        for n, tag in enumerate(self.tags):
            for widget in (tag, *self._cells[n]):
                self._grid.removeWidget(widget)
                widget.hide()
                widget.setParent(None)
                widget.deleteLater()
        self.tags, self._cells = [], []
        for n in range(count):
            tag = MethodTag(self.theme)
            tag.clicked.connect(lambda _=False, tag=tag: self.chosen.emit(tag.name))
            self._grid.addWidget(tag, n + 1, 0)
            cells: list[QLabel] = [Elided() if column == 4 else QLabel() for column in range(1, len(HEADS))]
            for column, cell in enumerate(cells, 1):
                cell.setObjectName("quiet")
                self._grid.addWidget(cell, n + 1, column)
            cells[3].setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
            self.tags.append(tag)
            self._cells.append(cells)

    def show_ways(self, worths: list[Worth], chosen: str) -> None:
        """Follow what is known of the ways, in their order."""
        for n, (tag, cells, one) in enumerate(zip(self.tags, self._cells, worths, strict=True)):
            tag.show_method(one.method.name, "best here" if one.best else "", one.serves, one.method.name == chosen)
            tag.setAccessibleName(f"method {one.method.name}, {one.sentence}")
            hand = "" if one.miss is None else f"±{number_text(one.miss, decimals(one.miss))} mm"
            key = f"Ctrl+{n + 1}" if n < MOST_KEYS else ""
            texts = (one.words, hand, str(one.steps) if one.steps else "", ", ".join(one.tools), key)
            for cell, text in zip(cells, texts, strict=True):
                if isinstance(cell, Elided):
                    cell.set_text(text)
                elif cell.text() != text:
                    cell.setText(text)
