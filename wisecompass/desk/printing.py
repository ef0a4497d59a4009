"""Printing through the system's dialogue, with a preview: every sheet at true scale on paper of its own size."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from PySide6.QtCore import QMarginsF, QSizeF, Qt
from PySide6.QtGui import QPageLayout, QPageSize, QPainter
from PySide6.QtPrintSupport import QPrinter, QPrintPreviewDialog
from PySide6.QtWidgets import QWidget

from wisecompass.desk.paint import MarkPainter, Stand, View
from wisecompass.desk.theme import LIGHT
from wisecompass.drafting.marks import Dot
from wisecompass.drafting.pens import Pen
from wisecompass.exchange.leaves import sheet_pages
from wisecompass.folio.document import Folio
from wisecompass.folio.page import Page, final

DOT = 0.55
"""Radius of a point on paper, mm."""

INK = replace(LIGHT, paper="#FFFFFF", paper_ink="#000000", ink="#000000")
"""What is printed is black on white."""


class Preview(QPrintPreviewDialog):
    """The system's preview of some sheets, from which they are printed. The printer lives as long as its preview."""

    def __init__(self, parent: QWidget, folio: Folio, leaves: Sequence[int]) -> None:
        self.pages = [page for page, _ in sheet_pages(folio, leaves)]
        self.target = QPrinter(QPrinter.PrinterMode.HighResolution)
        self.target.setDocName(folio.work or "Wise Compass")
        _fit(self.target, self.pages[0])
        super().__init__(self.target, parent)
        self.setWindowTitle("Print")
        self.resize(900, 700)
        self.paintRequested.connect(lambda to: put_on(to, self.pages))


def put_on(printer: QPrinter, pages: Sequence[Page]) -> None:
    """Lay the pages on paper, each at true scale on paper of its size."""
    _fit(printer, pages[0])
    painter = QPainter(printer)
    try:
        for n, page in enumerate(pages):
            if n:
                _fit(printer, page)
                printer.newPage()
            k = printer.resolution() / 25.4
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            view = View(k, 0.0, k * page.height)
            MarkPainter(painter, view, INK).paint((mark, Stand.DONE) for mark in final(page))
            _dots(painter, view, page)
    finally:
        painter.end()


def _dots(painter: QPainter, view: View, page: Page) -> None:
    """Points as discs of their size on paper: on the screen they are as large at any zoom."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(INK.color("paper_ink"))
    for mark in page.marks:
        if isinstance(mark, Dot) and mark.shown:
            radius = DOT * view.k if mark.pen is not Pen.GRID else DOT * view.k / 2
            painter.drawEllipse(view.px(mark.x, mark.y), radius, radius)


def _fit(printer: QPrinter, page: Page) -> None:
    """Take paper of the page's size, without margins: the drawing has its own border."""
    size = QPageSize(QSizeF(page.width, page.height), QPageSize.Unit.Millimeter)
    none = QMarginsF(0, 0, 0, 0)
    printer.setPageLayout(QPageLayout(size, QPageLayout.Orientation.Portrait, none, QPageLayout.Unit.Millimeter, none))
    printer.setFullPage(True)
