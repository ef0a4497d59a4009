"""Patterns on stock sheets: which patterns, how often, on what stock, and a picture of each sheet with its use."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from wisecompass.desk.beside import Beside
from wisecompass.desk.page_picture import PagePicture
from wisecompass.desk.session import Session
from wisecompass.desk.side_form import SideForm, length_field
from wisecompass.desk.theme import Theme
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.exchange.machine import NAMED
from wisecompass.exchange.nesting import (
    LIMITS,
    Nest,
    Order,
    Part,
    copied,
    nest,
    parts_of,
    read_stock,
    sheet_file,
    sheet_page,
)
from wisecompass.folio import files
from wisecompass.folio.page import Page

SIZE = (1060, 640)


class NestForm(SideForm):
    """The order at the left, the sheets at the right."""

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__("Patterns on stock", SIZE, parent)
        self.session = session
        self.found: Nest | None = None
        self.parts: list[Part] = []
        self.pages: list[Page] = []
        self.at = 0
        row, column, form = self.side, self.column, self.form
        self.stock = QLineEdit("1000x600")
        self.stock.setAccessibleName("stock sheets, length by width in mm")
        self.stock.setToolTip("length x width in mm; several as 2*1250x600, 2000x1000")
        form.addRow("Stock, mm", self.stock)
        self.kerf = length_field(*LIMITS["kerf"], 2.0, "kerf, between two patterns, mm")
        self.edge = length_field(*LIMITS["edge"], 5.0, "edge of a sheet that is kept free, mm")
        form.addRow("Kerf", self.kerf)
        form.addRow("Free edge", self.edge)
        self.grain = QComboBox()
        self.grain.addItems(["free: patterns may be turned", "along the sheet in all patterns"])
        self.grain.setAccessibleName("grain")
        form.addRow("Grain", self.grain)
        head = QLabel("Patterns, and how often each is cut")
        head.setObjectName("heading")
        column.addWidget(head)
        self.counts: dict[str, QSpinBox] = {}
        self._grid_holder = QWidget()
        self._grid = QGridLayout(self._grid_holder)
        self._grid.setContentsMargins(0, 0, 0, 0)
        area = QScrollArea()
        area.setObjectName("parts")
        area.setWidgetResizable(True)
        area.setWidget(self._grid_holder)
        column.addWidget(area, 1)
        self.said = QLabel("Looking for patterns …")
        self.said.setWordWrap(True)
        self.said.setAccessibleName("how the patterns lie")
        column.addWidget(self.said)
        column.addLayout(self._buttons())
        right = QVBoxLayout()
        self.picture = PagePicture(theme, "a stock sheet with its patterns")
        right.addWidget(self.picture, 1)
        turning = QHBoxLayout()
        self.back_button, self.next_button, self.which = QPushButton("◂ sheet"), QPushButton("sheet ▸"), QLabel()
        self.back_button.setAccessibleName("sheet before")
        self.next_button.setAccessibleName("next sheet")
        self.back_button.clicked.connect(lambda: self.turn(-1))
        self.next_button.clicked.connect(lambda: self.turn(1))
        turning.addWidget(self.back_button)
        turning.addWidget(self.which, 1)
        turning.addWidget(self.next_button)
        right.addLayout(turning)
        row.addLayout(right, 1)
        self.looking, self.laying = Beside(self), Beside(self)
        self.looking.done.connect(self._take_parts)
        self.looking.refused.connect(self._refuse)
        self.laying.done.connect(self._take)
        self.laying.refused.connect(self._refuse)
        folio = session.folio
        self.looking.ask(lambda: parts_of(folio), 0)
        self.picture.show_page(None, "“Lay them” lays the patterns on stock; each sheet is then shown here.")
        self._enable()

    def _buttons(self) -> QGridLayout:
        buttons = QGridLayout()
        self.lay_button = QPushButton("Lay them")
        self.lay_button.setDefault(True)
        self.lay_button.clicked.connect(self.lay)
        self.write_buttons = {kind: QPushButton(words) for kind, words in WRITTEN.items()}
        for kind, button in self.write_buttons.items():
            button.clicked.connect(lambda _=False, kind=kind: self.ask_file(kind))
        close = QPushButton("Close")
        close.clicked.connect(self.reject)
        for n, button in enumerate((self.lay_button, *self.write_buttons.values(), close)):
            buttons.addWidget(button, n // 3, n % 3)
        return buttons

    # --------------------------------------------------------------------------------------------------------- laying
    def _take_parts(self, found: tuple[list[Part], list[str]]) -> None:
        self.parts, said = found
        wanted: dict[str, int] = {}
        for part in self.parts:
            wanted[part.name] = wanted.get(part.name, 0) + 1
        for n, (name, count) in enumerate(wanted.items()):
            box = QSpinBox()
            box.setRange(0, 99)
            box.setValue(count)
            box.setAccessibleName(f"{name}, how often")
            self._grid.addWidget(QLabel(name), n, 0)
            self._grid.addWidget(box, n, 1)
            self.counts[name] = box
        self._grid.setRowStretch(len(wanted), 1)
        self.said.setText(" ".join(said) or f"{len(wanted)} patterns in this folio." if wanted else NONE)
        self._enable()

    def lay(self) -> None:
        """Lay the patterns, beside the desk."""
        parts, counts = self.parts, {name: box.value() for name, box in self.counts.items()}
        stock, kerf, edge, grain = self.stock.text(), self.kerf.value(), self.edge.value(), self.grain.currentIndex() == 1
        work_name = self.session.folio.work

        def work() -> tuple[Nest, list[Page]]:
            order = Order(read_stock(stock), kerf, edge, grain)
            found = nest(copied(parts, counts), order, self.laying.told.emit)
            count = len(found.sheets)
            return found, [sheet_page(sheet, n, count, order, work_name) for n, sheet in enumerate(found.sheets, 1)]

        self.laying.told.connect(self.said.setText)
        self.said.setText("Laying …")
        self.laying.ask(work, 0)
        self._enable()

    def _take(self, made: tuple[Nest, list[Page]]) -> None:
        self.found, self.pages = made
        self.at = 0
        self.said.setText(". ".join((self.found.words, *self.found.said)) + ".")
        self._show()

    def _refuse(self, sentence: str) -> None:
        self.said.setText(f"{sentence[:1].upper()}{sentence[1:]}.")
        self._enable()

    def turn(self, way: int) -> None:
        """To the next sheet."""
        self.at = (self.at + way) % max(1, len(self.pages))
        self._show()

    def _show(self) -> None:
        if self.found is not None and self.pages:
            sheet = self.found.sheets[self.at]
            words = f"sheet {self.at + 1} of {len(self.pages)}: {len(sheet.laid)} patterns, {100 * sheet.use:.1f} % used"
            self.which.setText(words)
            self.picture.show_page(self.pages[self.at], f"{words}: {', '.join(each.part.name for each in sheet.laid)}")
        self._enable()

    def _enable(self) -> None:
        self.lay_button.setEnabled(bool(self.parts) and not self.laying.busy)
        for button in self.write_buttons.values():
            button.setEnabled(bool(self.pages))
        for button in (self.back_button, self.next_button):
            button.setEnabled(len(self.pages) > 1)

    # ------------------------------------------------------------------------------------------------------- handing over
    def ask_file(self, kind: str) -> None:
        suffix = "gcode" if kind == "gcode" else kind
        start = str(Path.home() / f"nested.{suffix}")
        name, _ = QFileDialog.getSaveFileName(self, "Nested sheets", start, f"{suffix.upper()} (*.{suffix})")
        if name:
            self.write(kind, Path(name))

    def write(self, kind: str, path: Path) -> None:
        """Write all sheets: PDF in one file, the others a file each; what cannot be is said."""
        if self.found is None:
            return
        try:
            written = _written(kind, self.found, self.pages, self.session.folio.work, path)
            for each, make in written.items():
                files.write(each, make())
        except WiseCompassError as reason:
            self.said.setText(str(reason))
            return
        self.said.setText(f"Wrote {', '.join(each.name for each in written)}.")

    def reject(self) -> None:
        self.looking.forget()
        self.laying.forget()
        super().reject()


WRITTEN = {"pdf": "PDF …", "svg": "SVG …", "dxf": "DXF …", "gcode": "G-code …"}

NONE = "No figure of this folio has a flat pattern: those of the family developments have."


def _written(kind: str, found: Nest, pages: list[Page], work: str, path: Path) -> dict[Path, Callable[[], bytes]]:
    """The files of a kind, and how each is made."""
    from wisecompass.exchange.pdf import pdf

    if kind == "pdf":
        return {path: lambda: pdf(pages, f"{work}, nested")}
    count = len(pages)
    each = {n: path if count == 1 else path.with_name(f"{path.stem}-{n}{path.suffix}") for n in range(1, count + 1)}
    title = {n: f"{work}, nested sheet {n} of {count}" for n in each}
    profile = NAMED["cutter, fold lines whole"]
    return {each[n]: lambda n=n: sheet_file(kind, found.sheets[n - 1], profile, title[n]) for n in each}  # type: ignore[misc]
