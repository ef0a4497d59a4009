"""The logbook in a window of its own: pieces of work, days, problems; the hand; taking lines out; tables for others."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import (
    QAbstractItemView,
    QDialog,
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QMessageBox,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QTabWidget,
    QVBoxLayout,
    QWidget,
)

from wisecompass.desk.theme import scaled
from wisecompass.drafting.errors import WiseCompassError

if TYPE_CHECKING:
    from wisecompass.folio.logbook import Logbook

PIECES = ("No.", "Begun", "Minutes", "Figure", "Problem", "Uncovered", "Verdict")
TALLIES = ("Pieces", "Minutes", "Within hand error", "Slips", "Steps gone wrong")
SIZE = (880, 520)


class LogbookView(QDialog):
    """Three tables, and what they say of the hand."""

    def __init__(self, book: Logbook, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.book = book
        self.setWindowTitle("Logbook")
        self.setObjectName("panel")
        self.resize(scaled(SIZE[0]), scaled(SIZE[1]))
        column = QVBoxLayout(self)
        self.hand = QLabel()
        self.hand.setWordWrap(True)
        self.hand.setAccessibleName("what the logbook says of your hand")
        column.addWidget(self.hand)
        self.tabs = QTabWidget()
        self.pieces = _table(PIECES, "pieces of work")
        self.days = _table(("Day", *TALLIES), "work by day")
        self.problems = _table(("Problem", *TALLIES), "work by problem")
        for table, word in ((self.pieces, "Pieces of work"), (self.days, "By day"), (self.problems, "By problem")):
            self.tabs.addTab(table, word)
        column.addWidget(self.tabs, 1)
        buttons = QHBoxLayout()
        self.delete_button = QPushButton("Take this line out")
        self.delete_button.clicked.connect(self.delete)
        self.all_button = QPushButton("Take everything out …")
        self.all_button.clicked.connect(self.ask_all)
        csv, told = QPushButton("Table as CSV …"), QPushButton("Everything as JSON …")
        csv.clicked.connect(lambda: self._give("CSV table (*.csv)", ".csv"))
        told.clicked.connect(lambda: self._give("JSON (*.json)", ".json"))
        close = QPushButton("Close")
        close.setDefault(True)
        close.clicked.connect(self.accept)
        for button in (self.delete_button, self.all_button, csv, told):
            buttons.addWidget(button)
        buttons.addStretch(1)
        buttons.addWidget(close)
        column.addLayout(buttons)
        self.refresh()

    def refresh(self) -> None:
        """Show the logbook as it is now."""
        found = self.book.pieces()
        _fill(
            self.pieces,
            [
                (
                    str(each.id),
                    each.begun[:16].replace("T", " "),
                    f"{each.seconds / 60:.0f}",
                    each.figure,
                    f"{each.problem}, {each.method}",
                    str(each.uncovered),
                    each.said or each.verdict or "not measured",
                )
                for each in found
            ],
        )
        for table, tallies in ((self.days, self.book.by_day()), (self.problems, self.book.by_problem())):
            _fill(
                table,
                [
                    (t.name, str(t.pieces), f"{t.seconds / 60:.0f}", str(t.within), str(t.slips), str(t.steps))
                    for t in tallies
                ],
            )
        self.delete_button.setEnabled(bool(found))
        self.all_button.setEnabled(bool(found))
        self.hand.setText(self._of_the_hand(bool(found)))

    def _of_the_hand(self, any_work: bool) -> str:
        if not any_work:
            return "Nothing is written down yet. The leaf Practise writes down the figure in hand, with what was measured."
        known = [each for each in self.book.habits() if each.figures]
        weak = [each for each in known if each.is_weak]
        if weak:
            said = ", ".join(f"the {each.part} {each.times:.1f} times ({each.figures} figures)" for each in weak)
            return f"What strays more than it should: {said}."
        if known:
            return f"No instrument strays more than it should, judged by {max(each.figures for each in known)} figures."
        return "Nothing was measured yet that says anything of the hand."

    def delete(self) -> None:
        """Take the line in hand out."""
        row = max(0, self.pieces.currentRow())
        item = self.pieces.item(row, 0)
        if item is not None:
            self._try(lambda: self.book.delete(int(item.text())))

    def ask_all(self) -> None:
        """Take everything out, once that is sure."""
        words = f"Take all {self.pieces.rowCount()} pieces of work out of the logbook? This cannot be undone."
        if QMessageBox.question(self, "Logbook", words) == QMessageBox.StandardButton.Yes:
            self.delete_all()

    def delete_all(self) -> None:
        self._try(self.book.delete_all)

    def _try(self, act: object) -> None:
        try:
            act()  # type: ignore[operator]
        except WiseCompassError as reason:
            self.hand.setText(str(reason))
            return
        self.refresh()

    def _give(self, kind: str, suffix: str) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "Logbook", f"logbook{suffix}", kind)
        if name:
            self.give(Path(name))

    def give(self, path: Path) -> None:
        """Write the logbook for other programs, by the ending of the file."""
        told = self.book.as_csv() if path.suffix == ".csv" else json.dumps(self.book.as_json(), ensure_ascii=False, indent=1)
        try:
            path.write_text(told, "utf-8", newline="")
        except OSError as reason:
            self.hand.setText(f"{path} cannot be written: {reason.strerror or reason}")


def _table(heads: Sequence[str], said: str) -> QTableWidget:
    table = QTableWidget(0, len(heads))
    table.setHorizontalHeaderLabels(list(heads))
    table.verticalHeader().hide()
    table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
    table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
    table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
    table.horizontalHeader().setStretchLastSection(True)
    table.setAccessibleName(said)
    return table


def _fill(table: QTableWidget, rows: Sequence[Sequence[str]]) -> None:
    table.setRowCount(len(rows))
    for n, row in enumerate(rows):
        for k, text in enumerate(row):
            item = QTableWidgetItem(text)
            item.setToolTip(text)
            table.setItem(n, k, item)
