"""The parts of a body in the brief: a list of lines, each a sentence with its numbers in place. What is done to a line
shows in the body at once."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QScrollArea, QToolButton, QVBoxLayout, QWidget

from wisecompass.desk.brief_number import NumberField
from wisecompass.desk.theme import interface_font, scaled
from wisecompass.drafting.givens import Given
from wisecompass.drafting.parts_text import lines_of

MOST_ROWS, ROW, WIDTH = 4, 25, 520
"""So many lines are seen at once, how high each is, and how wide the list, px."""

NEW_LINE = "box 20 20 20 at 0 0 0"
"""What a new line says, until it says something else."""


class PartLine(NumberField):
    """One part. ↑ ↓ nudge the number under the cursor, Enter goes on to a new line."""

    wanted = Signal(str)
    """``new``, ``twice``, ``up``, ``down`` or ``away``."""
    entered = Signal(bool)
    """Whether the cursor has come into this line, or left it."""

    def __init__(self, given: Given, text: str, number: int) -> None:
        super().__init__(given, text)
        self.setAlignment(Qt.AlignmentFlag.AlignLeft)
        self.setObjectName("part")
        self.setFont(interface_font(15, strong=True))
        self.setAccessibleName(f"part {number}")
        self.setToolTip("a part: ↑ ↓ nudge the number under the cursor (Shift ×10, Alt ÷10), Enter begins a new part below")

    def sizeHint(self) -> QSize:  # noqa: N802 - Qt's name
        return QSize(super().sizeHint().width(), scaled(ROW - 1))

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.wanted.emit("new")
            return
        super().keyPressEvent(event)

    def _under_cursor(self) -> tuple[int, int]:
        """The word that the cursor is in or behind."""
        text, at = self.text(), self.cursorPosition()
        start = text.rfind(" ", 0, at) + 1
        end = text.find(" ", at)
        return start, end if end >= 0 else len(text)

    def focusInEvent(self, event: QFocusEvent) -> None:  # noqa: N802
        super().focusInEvent(event)
        self.deselect()
        self.entered.emit(True)

    def focusOutEvent(self, event: QFocusEvent) -> None:  # noqa: N802
        super().focusOutEvent(event)
        self.entered.emit(False)


ACTS = (
    ("twice", "+", "this part once more"),
    ("up", "▴", "this part before the one above"),
    ("down", "▾", "this part after the one below"),
    ("away", "×", "without this part"),
)


class PartsList(QScrollArea):
    """All lines of a body, with what can be done to each at its end."""

    edited = Signal(str, str)
    entered = Signal(int)
    """The number of the part whose line the cursor is in, 0 where it is in none."""

    def __init__(self, given: Given, text: str) -> None:
        super().__init__()
        self.given = given
        self.setAccessibleName(given.words)
        self.rows: list[PartLine] = []
        self.setObjectName("parts")
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        inner = QWidget()
        self.setWidget(inner)
        self._column = QVBoxLayout(inner)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(1)
        self._fill(lines_of(text) or [NEW_LINE])

    def sizeHint(self) -> QSize:  # noqa: N802 - Qt's name
        rows = min(len(self.rows), MOST_ROWS)
        return QSize(scaled(WIDTH), rows * scaled(ROW) + 4)

    def minimumSizeHint(self) -> QSize:  # noqa: N802
        return self.sizeHint()

    def text(self) -> str:
        return "; ".join(row.text() for row in self.rows)

    def setText(self, text: str) -> None:  # noqa: N802 - as a number's field has it
        lines = lines_of(text) or [NEW_LINE]
        if len(lines) != len(self.rows):
            self._fill(lines)
            return
        for row, line in zip(self.rows, lines, strict=True):
            if row.text() != line:
                row.setText(line)

    def mark(self, wrong: bool) -> None:
        for row in self.rows:
            row.mark(wrong)

    def hasFocus(self) -> bool:  # noqa: N802
        return any(row.hasFocus() for row in self.rows)

    def setFocus(self) -> None:  # type: ignore[override]  # noqa: N802
        self.rows[0].setFocus()

    def _fill(self, lines: list[str]) -> None:
        while (item := self._column.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.setParent(None)
                widget.deleteLater()
        self.rows = []
        for number, line in enumerate(lines, 1):
            self._column.addWidget(self._row(number, line))
        self.updateGeometry()

    def _row(self, number: int, line: str) -> QWidget:
        holder = QWidget()
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(2)
        count = QLabel(f"{number}")
        count.setObjectName("where")
        count.setFont(interface_font(13))
        count.setFixedWidth(scaled(20))
        row.addWidget(count)
        field = PartLine(self.given, line, number)
        field.edited.connect(lambda _name, _text: self._say())
        field.entered.connect(lambda there, number=number: self.entered.emit(number if there else 0))
        field.wanted.connect(lambda what, at=number - 1: self._do(what, at))
        row.addWidget(field, 1)
        self.rows.append(field)
        for what, sign, words in ACTS:
            button = QToolButton()
            button.setText(sign)
            button.setObjectName("part")
            button.setAccessibleName(f"part {number}: {words}")
            button.setToolTip(words)
            button.setFixedSize(scaled(22), scaled(ROW - 2))
            button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            button.clicked.connect(lambda _checked=False, what=what, at=number - 1: self._do(what, at))
            row.addWidget(button)
        return holder

    def _do(self, what: str, at: int) -> None:
        lines = [row.text() for row in self.rows]
        there = at
        if what in ("new", "twice"):
            there = at + 1
            lines.insert(there, NEW_LINE if what == "new" else lines[at])
        elif what == "away" and len(lines) > 1:
            lines.pop(at)
            there = min(at, len(lines) - 1)
        elif what in ("up", "down"):
            there = at + (-1 if what == "up" else 1)
            if not 0 <= there < len(lines):
                return
            lines[at], lines[there] = lines[there], lines[at]
        self._fill(lines)
        self.rows[there].setFocus()
        self.ensureWidgetVisible(self.rows[there])
        self._say()

    def _say(self) -> None:
        self.edited.emit(self.given.name, self.text())
