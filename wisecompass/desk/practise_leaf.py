"""Practice at the table: another like it, what is covered, what comes next, and what the logbook says is due."""

from __future__ import annotations

import random
import time
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import TYPE_CHECKING

from PySide6.QtCore import QModelIndex, QTimer, Signal
from PySide6.QtGui import QKeyEvent, QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QToolButton, QVBoxLayout, QWidget

from wisecompass.catalogue import index as contents
from wisecompass.desk.ahead import Ahead
from wisecompass.desk.asking import Asking
from wisecompass.desk.ledger import Row, RowKind, Rows
from wisecompass.desk.session import Session
from wisecompass.desk.theme import UNIT, Theme
from wisecompass.drafting.errors import WiseCompassError

if TYPE_CHECKING:
    from pathlib import Path

    from wisecompass.folio.logbook import Logbook, Piece
    from wisecompass.folio.practice import Question
    from wisecompass.judgement.next_step import Choice
    from wisecompass.service import Marked

LEVELS = {1: "settings", 2: "method", 3: "brief"}
TOLD = {
    1: "all settings are shown with their steps",
    2: "the method is named; settings are covered until they are uncovered",
    3: "the brief alone: every step and setting is covered",
}

MOST_DUE = 4
"""Problems that are due that are shown."""

REST = 1500
"""Milliseconds after which a question is made about a figure that nobody touches; while practising it is made at once."""

DUE, CHOICE = "due ", "choice "

BEGIN = (
    "Another like it puts other numbers on this sheet and covers the work; cover covers these numbers. Then say what comes "
    "next, or uncover it, one thing at a time."
)


class PractiseLeaf(QWidget):
    """Buttons above what is asked and said."""

    logbook_wanted = Signal()

    def __init__(self, session: Session, theme: Theme, logbook: Path | None = None, ahead: Ahead | None = None) -> None:
        """The logbook's place, the usual one if there is none; ``ahead`` makes the next question while this one is drawn."""
        super().__init__()
        self.session, self.place = session, logbook
        self.level = 2
        self.seed = random.SystemRandom().randrange(1_000_000)
        self.choices: list[Choice] = []
        self.said = ""
        self.marked: Marked | None = None
        """The verdict on what was measured last of the figure in hand."""
        self._begun = time.monotonic()
        self._book: Logbook | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.another_button = _button("another like it", "the same problem with other numbers that fit this sheet, covered")
        self.another_button.clicked.connect(self.another)
        self.levels: dict[int, QToolButton] = {}
        for level, word in LEVELS.items():
            button = _button(word, TOLD[level], leaf=True)
            button.setCheckable(True)
            button.setChecked(level == self.level)
            button.setAccessibleName(f"level {level}: {TOLD[level]}")
            button.clicked.connect(lambda _=False, level=level: self.set_level(level))
            self.levels[level] = button
        self.cover_button = _button("cover", "cover the steps and answers of this figure, or uncover them all")
        self.cover_button.clicked.connect(self.toggle)
        self.step_button = _button("uncover step", "tell the next step")
        self.step_button.clicked.connect(lambda: self.session.uncover(lambda cover: cover.uncover_step()))
        self.setting_button = _button("its setting", "tell the settings of the steps that are uncovered")
        self.setting_button.clicked.connect(lambda: self.session.uncover(lambda cover: cover.uncover_setting()))
        column.addLayout(_row(self.another_button, self.cover_button))
        column.addLayout(_row(*self.levels.values()))
        column.addLayout(_row(self.step_button, self.setting_button))
        self.rows = PractiseRows(session, theme)
        self.rows.chosen.connect(self._chosen)
        self.copied = self.rows.copied
        column.addWidget(self.rows, 1)
        self.write_button = _button("write down", "write this piece of work into the logbook, with what was measured")
        self.write_button.clicked.connect(self.write_down)
        book = _button("logbook …", "what was drawn, how it went, where the hand is weak")
        book.clicked.connect(self.logbook_wanted)
        column.addLayout(_row(self.write_button, book))
        self._next = Asking(session, self._take_choices, self._refused)
        self._another = Asking(session, self._take_question, self._refused)
        self._sheet = Asking(session, session.practise_sheet, self._refused)
        self._beforehand = None if ahead is None else Asking(session, self._keep_question, lambda _: None, ahead.helper)
        self._wanted: object = None
        """For what the next question is made, or was."""
        self._kept: Question | None = None
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(REST)
        self._rest.timeout.connect(self._make_beforehand)
        session.drawn.connect(self._rest.start)
        session.covered.connect(self._follow)
        session.figure_changed.connect(self._another_figure)
        session.followed.connect(self._follow)
        self._asked: object = None

    # -------------------------------------------------------------------------------------------------------- acts
    def set_level(self, level: int) -> None:
        self.level = level
        for each, button in self.levels.items():
            button.setChecked(each == level)
        if self.session.cover is not None:
            self.session.cover_up(level)

    def another(self) -> None:
        """Other numbers for the problem in hand."""
        if self.session.empty:
            self.session.noticed.emit("nothing stands on this sheet")
            return
        kept = self._kept if self._wanted == self._next_of() else None
        self.seed += 1
        self._kept = None
        if kept is not None:
            self._take_question(replace(kept, level=self.level))
        else:
            self._another.ask("another", self.seed, self.level)

    def another_sheet(self) -> None:
        """Other numbers for all figures of the sheet in hand."""
        if self.session.empty:
            self.session.noticed.emit("nothing stands on this sheet")
            return
        self.seed += 1
        self._sheet.ask("another sheet", self.seed, self.level)

    def _next_of(self) -> object:
        """All that the next question hangs on."""
        return self.session.figure.problem, self.session.sheet.as_paper(), self.seed + 1

    def _make_beforehand(self) -> None:
        """Have the next question made while nobody waits for it."""
        if self._beforehand is None or self.session.empty or self._wanted == self._next_of():
            return
        self._wanted, self._kept = self._next_of(), None
        self._beforehand.ask("another", self.seed + 1, self.level)

    def _keep_question(self, question: Question) -> None:
        self._kept = question

    def toggle(self) -> None:
        """Cover the figure in hand, or uncover all of it."""
        if self.session.drawing is None:
            self.session.noticed.emit("nothing stands on this sheet")
            return
        self.session.cover_up(None if self.session.cover is not None else self.level)

    def _take_question(self, question: Question) -> None:
        self._begun, self.marked = time.monotonic(), None
        self.session.practise(question)

    def _refused(self, sentence: str) -> None:
        self.session.noticed.emit(sentence)

    def _another_figure(self) -> None:
        self._begun, self.marked, self.said = time.monotonic(), None, ""

    # ---------------------------------------------------------------------------------------------------- following
    def showEvent(self, event: QShowEvent) -> None:  # noqa: N802
        super().showEvent(event)
        self._follow()

    def _follow(self) -> None:
        cover = self.session.cover
        self.cover_button.setText("cover" if cover is None else "uncover all")
        self.step_button.setEnabled(cover is not None and cover.steps <= self.session.last_step)
        self.setting_button.setEnabled(cover is not None and cover.settings < cover.steps)
        if not self.isVisible():
            return
        self._make_beforehand()
        asked = None if cover is None else (id(cover), cover.steps)
        if asked != self._asked:
            self._asked, self.choices = asked, []
            if cover is not None and cover.steps < self.session.last_step:
                self._next.ask("next step", cover.steps + 1, cover.level > 1, self.seed)
            if cover is None or cover.steps == 1:
                self.said = ""
        self._show()

    def _take_choices(self, choices: list[Choice]) -> None:
        self.choices = choices
        self._show()

    def _chosen(self, link: str) -> None:
        if link.startswith(CHOICE):
            choice = self.choices[int(link.removeprefix(CHOICE))]
            self.said = choice.why
            if choice.right:
                self.session.uncover(lambda cover: cover.found_step())
            else:
                self.session.uncover(lambda cover: cover.missed())
                self._show()
        elif link.startswith(DUE):
            try:
                self.session.add_problem(link.removeprefix(DUE), new_sheet=True)
            except WiseCompassError as reason:
                self._refused(str(reason))

    def _show(self) -> None:
        self.rows.show_rows([*self._practice_rows(), *self._due_rows()])

    def _practice_rows(self) -> list[Row]:
        cover, last = self.session.cover, self.session.last_step
        if cover is None:
            return [Row(RowKind.NOTE, BEGIN)]
        rows = [Row(RowKind.HEAD, "Covered", f"{min(cover.steps, last)} of {last} steps told")]
        if self.said:
            rows.append(Row(RowKind.CHECK, self.said) if self.said.startswith("Right") else Row(RowKind.NOTE, self.said))
        if cover.steps > last:
            rows.append(Row(RowKind.NOTE, "That was the last step. Measure, compare with the answers, and write it down."))
        elif self.choices:
            rows.append(Row(RowKind.HEAD, "What comes next?", f"step {cover.steps + 1}"))
            for k, (letter, choice) in enumerate(zip("abc", self.choices, strict=False)):
                rows.append(Row(RowKind.CHOICE, choice.text, letter, link=f"{CHOICE}{k}"))
        return rows

    def _due_rows(self) -> list[Row]:
        """What the logbook says of the hand, and what is due."""
        try:
            book = self.book()
        except WiseCompassError as reason:
            return [Row(RowKind.NOTE, str(reason))]
        due, weak = book.due(), [each for each in book.habits() if each.is_weak]
        if not due and not weak:
            return []
        rows = [Row(RowKind.HEAD, "From the logbook")]
        for each in weak:
            rows.append(Row(RowKind.NOTE, f"The {each.part} strays {each.times:.1f} times as much as an ordinary hand's."))
        now = datetime.now(UTC)
        for one in due[:MOST_DUE]:
            if one.problem in contents.entries():
                when = "now" if one.now else due_in_words(datetime.fromisoformat(one.when), now)
                rows.append(Row(RowKind.VALUE, contents.title(one.problem), when, link=f"{DUE}{one.problem}"))
        return rows

    # ------------------------------------------------------------------------------------------------------ logbook
    def learned_hand(self) -> str:
        """What the logbook says of the hand, as it is typed; nothing where it knows too little."""
        from wisecompass.judgement.habits import learned_hand

        try:
            return learned_hand(self.book().habits())
        except WiseCompassError as reason:
            self.session.noticed.emit(str(reason))
            return ""

    def book(self) -> Logbook:
        """The logbook; what was wrong with it is said once.

        Raises:
            BadDocument: there can be none.
        """
        from wisecompass.folio.logbook import Logbook

        if self._book is None:
            self._book = Logbook(self.place)
            if self._book.trouble:
                self.session.noticed.emit(self._book.trouble)
        return self._book

    def piece(self) -> Piece:
        """The piece of work in hand as it goes into the logbook."""
        from wisecompass.folio.logbook import Piece

        session, cover, marked = self.session, self.session.cover, self.marked
        figure = session.figure
        verdict = marked.verdict if marked is not None else None
        return Piece(
            figure.problem,
            figure.method,
            seconds=round(time.monotonic() - (self._begun if cover is None else cover.begun), 1),
            folio=session.folio.work,
            figure=figure.name,
            givens=dict(figure.givens),
            scale=float(session.page.scale) if session.page is not None else 1.0,
            level=cover.level if cover is not None else 0,
            uncovered=cover.helped if cover is not None else 0,
            measured={} if verdict is None else {name: one.value for name, one in verdict.measured.items()},
            verdict="" if verdict is None else verdict.kind,
            said="" if verdict is None else verdict.said,
            strays=() if marked is None else marked.strays,
        )

    def write_down(self) -> None:
        """Write the piece of work in hand into the logbook."""
        if self.session.drawing is None:
            self.session.noticed.emit("nothing stands on this sheet")
            return
        try:
            number = self.book().add(self.piece())
        except WiseCompassError as reason:
            self.session.noticed.emit(str(reason))
            return
        self.session.noticed.emit(f"written into the logbook as number {number}")
        self._show()


SITTING = timedelta(hours=6)
"""What is due within so long is due at this sitting, even where that ends after midnight."""


def due_in_words(due: datetime, now: datetime) -> str:
    """When something is due, as somebody says it."""
    days = (due.date() - now.date()).days
    if days <= 0 or due - now < SITTING:
        return "today"
    return "tomorrow" if days == 1 else f"in {days} days"


def _button(text: str, told: str, leaf: bool = False) -> QToolButton:
    button = QToolButton()
    button.setObjectName("leaf" if leaf else "add")
    button.setText(text)
    button.setToolTip(told)
    button.setAccessibleName(text)
    button.setAccessibleDescription(told)
    return button


def _row(*widgets: QWidget) -> QHBoxLayout:
    row = QHBoxLayout()
    row.setContentsMargins(UNIT, UNIT // 2, UNIT, 0)
    row.setSpacing(2)
    for widget in widgets:
        row.addWidget(widget)
    row.addStretch(1)
    return row


class PractiseRows(Rows):
    """What is asked and said; a click, Enter or its letter takes a choice, a click or Enter a problem that is due."""

    chosen = Signal(str)

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme)
        self.setAccessibleName("practice: what comes next, and what is due")

    def show_rows(self, rows: list[Row]) -> None:
        self.table.set_rows(self._worded(rows), self._painter.height)

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802
        letter = event.text().lower()
        named = [row for row in self.table.rows if row.kind is RowKind.CHOICE and row.right == letter]
        if named:
            self.chosen.emit(named[0].link)
        else:
            super().keyPressEvent(event)

    def _copy(self, index: QModelIndex) -> None:
        row = self.table.rows[index.row()]
        if row.link:
            self.chosen.emit(row.link)
