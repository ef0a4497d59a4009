"""A number in the brief's sentence, edited where it stands."""

from __future__ import annotations

import re
from fractions import Fraction

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QDropEvent, QFocusEvent, QFontMetrics, QKeyEvent
from PySide6.QtWidgets import QLineEdit

from wisecompass.arithmetic import PLAIN
from wisecompass.arithmetic.expression import UNITS, Unreadable, read
from wisecompass.desk.link_offers import LinkOffers
from wisecompass.desk.theme import interface_font, scaled
from wisecompass.drafting.givens import Form, Given
from wisecompass.drafting.wording import number_text

NUDGE = Fraction(1)
"""What one press of an arrow adds, mm or °; Shift takes ten of it, Alt a tenth."""

_NAME = re.compile(r"\s*[^\W\d_]")
"""What begins like a name."""

LINE = 28
"""Height of a line of the sentence, px: words and numbers stand on one base line."""


class NumberField(QLineEdit):
    """A number in the sentence. Arrow up and down nudge it."""

    edited = Signal(str, str)
    name_begun = Signal()
    """The name of a figure is being typed."""

    def __init__(self, given: Given, text: str) -> None:
        super().__init__(text)
        self.given = given
        self.setObjectName("number")
        self.setFont(interface_font(19, strong=True))
        self.setAccessibleName(given.words)
        self.setToolTip(f"{given.words}: type a number, or ↑ ↓ (Shift ×10, Alt ÷10)")
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.raw, self._said = text, ""
        self._offered: LinkOffers | None = None
        self.textEdited.connect(self._typed)
        self._taken = self.sizeHint()
        self.textChanged.connect(self._make_room)

    def _typed(self, text: str) -> None:
        self.raw, self._said = text, ""
        self.edited.emit(self.given.name, text)
        if self.parentWidget() is not None and self.isVisible() and _NAME.match(text):
            self.name_begun.emit()
        elif self._offered is not None:
            self._offered.hide()

    def show_given(self, raw: str, said: str = "") -> None:
        """Show a given as it is typed; one that is led to another figure in words, unless it is just being typed."""
        self.raw, self._said = raw, said
        shown = raw if self.hasFocus() or not said else said
        if self.text() != shown:
            self.setText(shown)

    def offer_links(self, links: list[str]) -> None:
        """Offer what the name that is being typed may become."""
        if self._offered is None:
            self._offered = LinkOffers(self)
            self._offered.itemClicked.connect(lambda item: self._take(item.text()))
        self._offered.show_for(self.text(), links)

    def forget_links(self) -> None:
        """Take away what is offered, with the field."""
        if self._offered is not None:
            self._offered.hide()
            self._offered.deleteLater()
            self._offered = None

    def _take(self, link: str) -> None:
        """Take a link that was picked."""
        if self._offered is not None:
            self._offered.hide()
        self.setText(link)
        self.raw, self._said = link, ""
        self.edited.emit(self.given.name, link)

    def dropEvent(self, event: QDropEvent) -> None:  # noqa: N802 - Qt's name
        """An answer of the ledger that is let go here: the number is led to it."""
        text = event.mimeData().text().strip()
        if text:
            event.acceptProposedAction()
            self.setText(text)
            self._typed(text)

    def sizeHint(self) -> QSize:  # noqa: N802 - Qt's name
        width = QFontMetrics(self.font()).horizontalAdvance(self.text() or "0") + 8
        return QSize(max(width, 30), scaled(LINE))

    def _make_room(self) -> None:
        """The sentence is set anew where the number has another width."""
        if self.sizeHint() != self._taken:
            self._taken = self.sizeHint()
            self.updateGeometry()

    def minimumSizeHint(self) -> QSize:  # noqa: N802
        return self.sizeHint()

    def focusInEvent(self, event: QFocusEvent) -> None:  # noqa: N802
        super().focusInEvent(event)
        if self._said:
            self.setText(self.raw)
        if event.reason() in (Qt.FocusReason.TabFocusReason, Qt.FocusReason.BacktabFocusReason):
            self.selectAll()

    def focusOutEvent(self, event: QFocusEvent) -> None:  # noqa: N802
        super().focusOutEvent(event)
        if self._offered is not None:
            self._offered.hide()
        if self._said:
            self.setText(self._said)

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802
        taken = None if self._offered is None else self._offered.takes(event)
        if taken is not None:
            if taken:
                self._take(taken)
            return
        if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.nudge(1 if event.key() == Qt.Key.Key_Up else -1, event.modifiers())
            return
        super().keyPressEvent(event)

    def nudge(self, way: int, modifiers: Qt.KeyboardModifier) -> None:
        """Add or take away one step, staying inside the limits."""
        step = NUDGE
        if modifiers & Qt.KeyboardModifier.ShiftModifier:
            step = NUDGE * 10
        elif modifiers & Qt.KeyboardModifier.AltModifier and self.given.form is not Form.COUNT:
            step = NUDGE / 10
        start, end = self._under_cursor()
        before, text, after = self.text()[:start], self.text()[start:end], self.text()[end:]
        try:
            value = read(text)
        except Unreadable:
            return
        exact = value.fraction()
        there = exact if exact is not None else Fraction(str(round(float(value.evaluate(PLAIN)), 6)))
        moved = there + way * step * (UNITS[value.unit] if value.unit else 1)
        if value.unit is not None:
            text = f"{number_text(float(moved / UNITS[value.unit]), 6)} {value.unit}"
        else:
            if self.given.least is not None:
                moved = max(moved, self.given.least)
            if self.given.most is not None:
                moved = min(moved, self.given.most)
            text = number_text(float(moved), 6)
        text = text.replace("−", "-")
        self.raw = before + text + after
        self.setText(self.raw)
        self.setCursorPosition(len(before + text))
        self.edited.emit(self.given.name, self.text())

    def _under_cursor(self) -> tuple[int, int]:
        """Where the number under the cursor begins and ends: the whole text, or one of a list."""
        text, at = self.text(), self.cursorPosition()
        if self.given.form.each is self.given.form:
            return 0, len(text)
        comma = ";" if ";" in text else ","
        start = text.rfind(comma, 0, at) + 1
        start += len(text[start:]) - len(text[start:].lstrip())
        end = text.find(comma, start)
        return start, end if end >= 0 else len(text)

    def mark(self, wrong: bool) -> None:
        """Underline the number as one that admits no figure."""
        if bool(self.property("wrong")) != wrong:
            self.setProperty("wrong", wrong)
            self.style().unpolish(self)
            self.style().polish(self)
