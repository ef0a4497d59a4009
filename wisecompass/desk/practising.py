"""Practice: what the menu of that name offers, with its keys."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtGui import QAction

from wisecompass.drafting.errors import WiseCompassError

if TYPE_CHECKING:
    from wisecompass.desk.window import DeskWindow


class Practising(QObject):
    """Acts of a window; the leaf Practise does the work."""

    def __init__(self, window: DeskWindow) -> None:
        super().__init__(window)
        self.window = window
        self.actions: Sequence[QAction] = [
            window.add_act(words, keys, act)
            for words, keys, act in (
                ("Another like it", "Ctrl+J", self.another_like_it),
                ("Another sheet like it", "Alt+J", self.another_sheet),
                ("Cover the work, or uncover it", "Ctrl+Shift+J", self.cover_or_uncover),
                ("Worksheets …", "Ctrl+Alt+J", self.ask_worksheets),
                ("Write down in the logbook", "Ctrl+B", self.write_down),
                ("Logbook …", "Ctrl+Shift+B", self.open_logbook),
            )
        ]

    def another_like_it(self) -> None:
        """Practise on the problem in hand with other numbers."""
        self._show_leaf()
        self.window.practise.another()

    def another_sheet(self) -> None:
        """Practise on the whole sheet in hand with other numbers."""
        self._show_leaf()
        self.window.practise.another_sheet()

    def cover_or_uncover(self) -> None:
        """Practise on the numbers as they are, or have done with it."""
        self.window.practise.toggle()
        if self.window.session.cover is not None:
            self._show_leaf()

    def write_down(self) -> None:
        self.window.practise.write_down()

    def _show_leaf(self) -> None:
        self.window.index.leaves.show_leaf("Practise")
        self.window.practise.rows.setFocus()

    def ask_worksheets(self) -> None:
        from wisecompass.desk.worksheets_form import WorksheetsForm

        WorksheetsForm(self.window.session, self.window).exec()

    def open_logbook(self) -> None:
        """The logbook in a window of its own; why there is none is said in the head line."""
        from wisecompass.desk.logbook_view import LogbookView

        try:
            book = self.window.practise.book()
        except WiseCompassError as reason:
            self.window.notice(str(reason))
            return
        LogbookView(book, self.window).exec()

    def keep_verdict(self, marked: object) -> None:
        """The verdict goes with what is written down."""
        self.window.practise.marked = marked  # type: ignore[assignment]

    def cover_leaves(self) -> None:
        """What tells the answers is not to be looked at while they are covered."""
        leaves, covered = self.window.leaves, self.window.session.cover is not None
        for word in ("Hand", "Depends"):
            leaves.words[word].setEnabled(not covered)
        if covered and leaves.shown in ("Hand", "Depends"):
            leaves.show_leaf("Answers")
