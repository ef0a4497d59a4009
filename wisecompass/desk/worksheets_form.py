"""Worksheets: which problems, how many, for whom and on which paper; made beside the desk, with a way to stop."""

from __future__ import annotations

import threading
from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QFileDialog,
    QFormLayout,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from wisecompass import catalogue
from wisecompass.desk.session import Session
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.exchange.class_set import KINDS, MOST_PUPILS, Order, make_set
from wisecompass.folio.paper import SIZES, Paper
from wisecompass.folio.practice import LEVELS, MOST_QUESTIONS
from wisecompass.folio.worksheets import Course
from wisecompass.judgement.marking import TOLERANCES, read_tolerance

LOOK_EVERY = 100
"""Milliseconds between looks at how far it is."""


class WorksheetsForm(QDialog):
    """A form, and below it how far the making is."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session = session
        self.setWindowTitle("Worksheets")
        self.setObjectName("panel")
        column = QVBoxLayout(self)
        form = QFormLayout()
        self.what: dict[str, QCheckBox] = {}
        grid = QGridLayout()
        own = "" if session.empty else session.figure.problem
        for n, name in enumerate([*([own] if own else []), *catalogue.FAMILIES]):
            box = QCheckBox("this problem" if name == own else name)
            box.setChecked(name == own)
            self.what[name] = box
            grid.addWidget(box, n // 4, n % 4)
        form.addRow("Questions on", grid)
        self.count = _number(6, MOST_QUESTIONS, "questions for each pupil")
        self.pupils = _number(1, MOST_PUPILS, "pupils, each with other numbers")
        self.seed = _number(1, 999_999, "the same number gives the same questions")
        form.addRow("How many each", self.count)
        form.addRow("Pupils", self.pupils)
        form.addRow("Set number", self.seed)
        self.level = QComboBox()
        for level, words in LEVELS.items():
            self.level.addItem(words, level)
        self.level.setCurrentIndex(1)
        form.addRow("Level", self.level)
        self.paper = QComboBox()
        for size in SIZES:
            self.paper.addItems([size, f"{size} upright"])
        sheet = session.sheet
        self.paper.setCurrentText(sheet.paper if sheet.landscape else f"{sheet.paper} upright")
        form.addRow("Paper", self.paper)
        self.tolerance = QComboBox()
        self.tolerance.addItems(list(TOLERANCES))
        form.addRow("What passes", self.tolerance)
        kinds = QHBoxLayout()
        self.kinds = {kind: QCheckBox(kind) for kind in KINDS}
        for box in self.kinds.values():
            box.setChecked(True)
            kinds.addWidget(box)
        form.addRow("Sheets", kinds)
        self.work = QLineEdit(session.folio.work or "Worksheet")
        form.addRow("Title", self.work)
        self.folder = QLineEdit(str(Path.home() / "worksheets"))
        self.folder.setAccessibleName("folder of the worksheets")
        choose = QPushButton("choose …")
        choose.clicked.connect(self._choose)
        place = QHBoxLayout()
        place.addWidget(self.folder, 1)
        place.addWidget(choose)
        form.addRow("Folder", place)
        column.addLayout(form)
        self.said = QLabel(
            "A document of each kind for every pupil, one key, and set.json with measured.csv, by which the set is marked."
        )
        self.said.setWordWrap(True)
        column.addWidget(self.said)
        buttons = QHBoxLayout()
        self.make_button, self.stop_button, close = QPushButton("Make them"), QPushButton("Stop"), QPushButton("Close")
        self.make_button.setDefault(True)
        self.make_button.clicked.connect(self.make)
        self.stop_button.setEnabled(False)
        self.stop_button.clicked.connect(self.stop)
        close.clicked.connect(self.reject)
        for button in (self.make_button, self.stop_button):
            buttons.addWidget(button)
        buttons.addStretch(1)
        buttons.addWidget(close)
        column.addLayout(buttons)
        self._far = ""
        self._end = ""
        self._stopped = threading.Event()
        self._thread: threading.Thread | None = None
        self._look = QTimer(self)
        self._look.setInterval(LOOK_EVERY)
        self._look.timeout.connect(self._show_far)

    def _choose(self) -> None:
        name = QFileDialog.getExistingDirectory(self, "Folder of the worksheets", self.folder.text())
        if name:
            self.folder.setText(name)

    def order(self) -> Order:
        """What the form asks for."""
        what = tuple(name for name, box in self.what.items() if box.isChecked())
        kinds = tuple(kind for kind, box in self.kinds.items() if box.isChecked())
        return Order(what, self.count.value(), self.seed.value(), self.level.currentData(), kinds, self.pupils.value())

    def course(self) -> Course:
        size, _, upright = self.paper.currentText().partition(" ")
        settings = replace(self.session.folio.conventions, units=Units.MM)  # questions are in whole millimetres
        return Course(
            self.work.text().strip() or "Worksheet",
            Paper(size, not upright),
            settings,
            read_tolerance(self.tolerance.currentText()),
        )

    @property
    def running(self) -> bool:
        return self._thread is not None and self._thread.is_alive()

    def make(self) -> None:
        """Make the sheets beside the desk."""
        order, course, folder = self.order(), self.course(), Path(self.folder.text()).expanduser()
        if not order.what or not order.kinds:
            self.said.setText("Choose at least one kind of problem and one kind of sheet.")
            return
        self._stopped.clear()
        self._far, self._end = f"sheets of pupil 0 of {order.pupils}", ""

        def work() -> None:
            try:
                written = make_set(order, course, folder, self._tell, self._stopped.is_set, aside=True)
                stopped = " before it was stopped" if self._stopped.is_set() else ""
                self._end = f"{len(written)} files in {folder}{stopped}"
            except (WiseCompassError, OSError) as reason:
                self._end = str(reason) if isinstance(reason, WiseCompassError) else f"{folder}: {reason.strerror or reason}"

        self._thread = threading.Thread(target=work, daemon=True)
        self._thread.start()
        self.make_button.setEnabled(False)
        self.stop_button.setEnabled(True)
        self._look.start()

    def _tell(self, far: str) -> None:
        self._far = f"sheets of pupil {far}"

    def stop(self) -> None:
        """Stop as soon as the pupil in hand is done; what there is stays."""
        self._stopped.set()

    def _show_far(self) -> None:
        self.said.setText(self._end or self._far)
        if not self.running:
            self._look.stop()
            self.make_button.setEnabled(True)
            self.stop_button.setEnabled(False)

    def reject(self) -> None:
        self.stop()
        super().reject()


def _number(value: int, most: int, said: str) -> QSpinBox:
    box = QSpinBox()
    box.setRange(1, most)
    box.setValue(value)
    box.setToolTip(said)
    box.setAccessibleName(said)
    return box
