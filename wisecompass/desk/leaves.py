"""Leaves: several pages in one place, one of them shown, each with its word above."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QStackedWidget, QToolButton, QVBoxLayout, QWidget

from wisecompass.desk.theme import UNIT


class Leaves(QWidget):
    """A row of words, the one shown underlined; arrow keys go from word to word."""

    def __init__(self, *leaves: tuple[str, QWidget, str]) -> None:
        """Each leaf with its word and what it is for."""
        super().__init__()
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.heads = QHBoxLayout()
        self.heads.setContentsMargins(UNIT // 2, 2, UNIT // 2, 2)
        self.heads.setSpacing(2)
        self.stack = QStackedWidget()
        self.words: dict[str, QToolButton] = {}
        self.heads.addStretch(1)
        column.addLayout(self.heads)
        column.addWidget(self.stack, 1)
        for word, leaf, told in leaves:
            self.add(word, leaf, told)
        self.show_leaf(leaves[0][0])

    def add(self, word: str, leaf: QWidget, told: str) -> None:
        """One more leaf, after the others."""
        button = QToolButton()
        button.setObjectName("leaf")
        button.setText(word)
        button.setToolTip(told)
        button.setCheckable(True)
        button.setAutoExclusive(True)
        button.setAccessibleName(f"leaf {word}")
        button.clicked.connect(lambda: self.show_leaf(word))
        self.heads.insertWidget(self.heads.count() - 1, button)
        self.words[word] = button
        self.stack.addWidget(leaf)

    @property
    def shown(self) -> str:
        """The word of the leaf that is shown."""
        return next(word for word, button in self.words.items() if button.isChecked())

    def show_leaf(self, word: str) -> None:
        """Show a leaf by its word."""
        self.words[word].setChecked(True)
        self.stack.setCurrentIndex(list(self.words).index(word))
