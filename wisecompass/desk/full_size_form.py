"""Full size over the pages of a printer: what, on which paper, and a picture of how the pages lie."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import (
    QComboBox,
    QDoubleSpinBox,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QWidget,
)

from wisecompass.desk.beside import Beside
from wisecompass.desk.page_picture import PagePicture
from wisecompass.desk.session import Session
from wisecompass.desk.side_form import SideForm, length_field
from wisecompass.desk.theme import Theme
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.pens import Pen
from wisecompass.exchange.export import sheet_heading
from wisecompass.folio import files
from wisecompass.folio.print import sheet_page
from wisecompass.folio.tiles import LIMITS, PRINTER_PAPERS, PROOF, Tiles, full_size, printer, tiled

SIZE = (940, 560)


class FullSizeForm(SideForm):
    """A form at the left, the map of the pages at the right."""

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None, settings: object = None) -> None:
        super().__init__("Full size over pages", SIZE, parent)
        self.session, self.settings = session, settings
        self.tiles: Tiles | None = None
        row, column, form = self.side, self.column, self.form
        self.what = QComboBox()
        self.what.setAccessibleName("what is printed at full size")
        figure = session.figure
        self.what.addItem(f"{figure.name or 'this figure'}, at 1:1", "figure")
        if session.drawing is not None and any(mark.pen is Pen.CUT for mark in session.drawing.marks):
            self.what.addItem("its flat pattern alone, at 1:1", "pattern")
        self.what.addItem("this whole sheet as it is", "sheet")
        form.addRow("What", self.what)
        self.paper = QComboBox()
        self.paper.setEditable(True)
        self.paper.addItems(list(PRINTER_PAPERS))
        self.paper.setAccessibleName("the printer's paper, by name or as 200x300 in mm")
        self.paper.setToolTip("by name, or as 200x300 in mm")
        form.addRow("Printer's paper", self.paper)
        self.overlap = length_field(*LIMITS["overlap"], 10.0, "by how much pages overlap, mm")
        form.addRow("Overlap", self.overlap)
        self.margin = length_field(*LIMITS["margin"], 5.0, "what the printer leaves white at the paper's edge, mm")
        form.addRow("White edge", self.margin)
        self.across = length_field(90.0, 110.0, PROOF, "what the proof line across measures on paper, mm", 0.1, 2)
        self.upright = length_field(90.0, 110.0, PROOF, "what the proof line upright measures on paper, mm", 0.1, 2)
        form.addRow("Proof line across", self.across)
        form.addRow("Proof line upright", self.upright)
        note = QLabel("Measure both proof lines on a first page. Where they are not 100 mm, type what they measure.")
        note.setObjectName("quiet")
        note.setWordWrap(True)
        form.addRow(note)
        self._recall()
        self.said = QLabel()
        self.said.setWordWrap(True)
        self.said.setAccessibleName("how many pages")
        column.addWidget(self.said)
        column.addStretch(1)
        buttons = QHBoxLayout()
        self.print_button, self.pdf_button, close = QPushButton("Print …"), QPushButton("As PDF …"), QPushButton("Close")
        self.print_button.setDefault(True)
        self.print_button.clicked.connect(self.print_pages)
        self.pdf_button.clicked.connect(self.ask_pdf)
        close.clicked.connect(self.reject)
        for button in (self.print_button, self.pdf_button):
            buttons.addWidget(button)
        buttons.addStretch(1)
        buttons.addWidget(close)
        column.addLayout(buttons)
        self.picture = PagePicture(theme, "how the pages lie")
        row.addWidget(self.picture, 1)
        self.beside = Beside(self)
        self.beside.done.connect(self._take)
        self.beside.refused.connect(self._refuse)
        self.what.currentIndexChanged.connect(lambda _: self.reckon())
        self.paper.editTextChanged.connect(lambda _: self.reckon())
        for field in (self.overlap, self.margin, self.across, self.upright):
            field.valueChanged.connect(lambda _: self.reckon())
        self.reckon()

    # ---------------------------------------------------------------------------------------------------------- pages
    def name(self) -> str:
        """What stands at the foot of every page."""
        folio, (s, _) = self.session.folio, self.session.place
        what = sheet_heading(folio, s) if self.what.currentData() == "sheet" else self.session.figure.name
        return " · ".join(filter(None, (folio.work, what)))

    def reckon(self) -> None:
        """Cut it into pages, when nobody types."""
        folio, place, what, name = self.session.folio, self.session.place, self.what.currentData(), self.name()
        asked = (
            self.paper.currentText(),
            self.margin.value(),
            self.overlap.value(),
            (self.across.value(), self.upright.value()),
        )

        def work() -> Tiles:
            on = printer(*asked)
            if what == "sheet":
                return tiled(sheet_page(folio, place[0])[0], on, name)
            page, extent = full_size(folio, place, what == "pattern")
            return tiled(page, on, name, extent)

        for button in (self.print_button, self.pdf_button):
            button.setEnabled(False)
        self.beside.ask(work)

    def _take(self, tiles: Tiles) -> None:
        self.tiles = tiles
        self.said.setText(f"{tiles.words[:1].upper()}{tiles.words[1:]}.")
        self.picture.show_page(tiles.pages[0], tiles.words)
        for button in (self.print_button, self.pdf_button):
            button.setEnabled(True)

    def _refuse(self, sentence: str) -> None:
        self.tiles = None
        self.said.setText(f"{sentence[:1].upper()}{sentence[1:]}.")
        self.picture.show_page(None, "no pages")

    # ------------------------------------------------------------------------------------------------------- handing over
    def print_pages(self) -> None:
        """The system's preview, from which the pages are printed."""
        if self.tiles is not None:
            from wisecompass.desk.printing import PagePreview

            self._keep()
            self.preview = PagePreview(self, self.tiles.pages, self.name())
            self.preview.open()

    def ask_pdf(self) -> None:
        path, _ = QFileDialog.getSaveFileName(self, "Pages as PDF", str(Path.home() / "full-size.pdf"), "PDF (*.pdf)")
        if path:
            self.write_pdf(Path(path))

    def write_pdf(self, path: Path) -> None:
        """Write the pages; what cannot be is said."""
        from wisecompass.exchange.pdf import pdf

        if self.tiles is None:
            return
        self._keep()
        try:
            files.write(path, pdf(self.tiles.pages, self.name(), self.session.folio.drawn_by))
        except WiseCompassError as reason:
            self.said.setText(str(reason))
            return
        self.said.setText(f"Wrote {path.name}: {self.tiles.words}.")

    def _fields(self) -> dict[str, QDoubleSpinBox]:
        return {"margin": self.margin, "overlap": self.overlap, "across": self.across, "upright": self.upright}

    def _keep(self) -> None:
        """Remember the printer: its paper, and what its proof lines measure."""
        if self.settings is not None:
            self.settings.setValue("printer/paper", self.paper.currentText())  # type: ignore[attr-defined]
            for name, field in self._fields().items():
                self.settings.setValue(f"printer/{name}", field.value())  # type: ignore[attr-defined]

    def _recall(self) -> None:
        if self.settings is not None:
            self.paper.setEditText(str(self.settings.value("printer/paper", "A4")))  # type: ignore[attr-defined]
            for name, field in self._fields().items():
                field.setValue(float(self.settings.value(f"printer/{name}", field.value())))  # type: ignore[attr-defined]

    def reject(self) -> None:
        self.beside.forget()
        super().reject()
