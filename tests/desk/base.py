"""A real window on the offscreen platform, driven by keys and mouse."""

from __future__ import annotations

import os
import tempfile
import unittest
from pathlib import Path
from typing import ClassVar

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QPointF, QSettings, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from wisecompass.desk.brief import ChoiceWord
from wisecompass.desk.brief_number import NumberField
from wisecompass.desk.session import Session
from wisecompass.desk.theme import load_fonts
from wisecompass.desk.window import DeskWindow
from wisecompass.folio import register, store
from wisecompass.folio.document import Figure, Folio
from wisecompass.folio.drafts import Drafts

FOLIO = register.apart(store.sample())
"""The figures of the sample, each on a sheet of its own."""

PLACES = {
    figure.problem: (s, f)
    for s, sheet in reversed([*enumerate(FOLIO.sheets)])
    for f, figure in reversed([*enumerate(sheet.figures)])
}
"""Where that folio has a problem first: its sheet and figure."""


class DeskTest(unittest.TestCase):
    """A window on the sample's figures, in a folder of its own."""

    folio: ClassVar[Folio] = FOLIO

    def setUp(self) -> None:
        self.app = QApplication.instance() or QApplication([])
        load_fonts()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.settings = QSettings(str(self.folder / "desk.ini"), QSettings.Format.IniFormat)
        self.session = Session(self.folio)
        self.drafts = Drafts(self.folder / "drafts")
        self.window = DeskWindow(self.session, self.settings, self.drafts, self.folder / "logbook.sqlite")
        self.addCleanup(self._close)
        self.window.show()
        self.window.activateWindow()
        self.app.processEvents()

    def _close(self) -> None:
        self.window.close()
        self.window.deleteLater()
        self.app.processEvents()

    @staticmethod
    def figure_in(folio: Folio, problem_id: str) -> Figure:
        """The figure of a folio that stands where that folio has a problem first."""
        s, f = PLACES[problem_id]
        return folio.sheets[s].figures[f]

    def settle(self) -> None:
        """Let all that waits for a rest be done."""
        self.app.processEvents()
        self.session.settle()
        self.app.processEvents()

    def turn_to(self, problem_id: str) -> None:
        self.session.turn_to(*PLACES[problem_id])
        self.app.processEvents()

    def number(self, name: str) -> NumberField:
        field = self.window.brief.fields[name]
        assert isinstance(field, NumberField)
        return field

    def word(self, name: str) -> ChoiceWord:
        field = self.window.brief.fields[name]
        assert isinstance(field, ChoiceWord)
        return field

    def type_into(self, name: str, text: str) -> None:
        """Replace a number in the brief by typing."""
        field = self.number(name)
        field.setFocus()
        field.selectAll()
        if text:
            QTest.keyClicks(field, text)
        else:
            QTest.keyClick(field, Qt.Key.Key_Delete)
        self.app.processEvents()

    def press(self, key: Qt.Key, modifiers: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        """A key to whatever has the focus."""
        target: QWidget = QApplication.focusWidget() or self.window
        QTest.keyClick(target, key, modifiers)
        self.app.processEvents()

    def click_sheet(self, at: QPointF) -> None:
        QTest.mouseClick(self.window.sheet, Qt.MouseButton.LeftButton, pos=at.toPoint())
        self.app.processEvents()

    def answers(self) -> dict[str, str]:
        """What the ledger shows, by name."""
        self.session.settle()
        return {row.left: row.right for row in self.window.ledger.table.rows if row.right}
