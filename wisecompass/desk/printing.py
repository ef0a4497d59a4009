"""Printing through the system's dialogue, with a preview: every sheet at true scale on paper of its own size."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from PySide6.QtCore import QMarginsF, QRectF, QSizeF, Qt
from PySide6.QtGui import QPageLayout, QPageSize, QPainter
from PySide6.QtPrintSupport import QPrinter, QPrintPreviewDialog
from PySide6.QtWidgets import QWidget

from wisecompass.desk.paint import MarkPainter, Stand, View
from wisecompass.desk.theme import LIGHT
from wisecompass.drafting.marks import Dot
from wisecompass.drafting.pens import Pen
from wisecompass.exchange.leaves import sheet_pages
from wisecompass.folio.document import Folio
from wisecompass.folio.page import Page, drawn_over

DOT = 0.55
"""Radius of a point on paper, mm."""

INK = replace(LIGHT, paper="#FFFFFF", paper_ink="#000000", ink="#000000")
"""What is printed is black on white."""


class PagePreview(QPrintPreviewDialog):
    """The system's preview of some pages, from which they are printed. The printer lives as long as its preview."""

    def __init__(self, parent: QWidget, pages: Sequence[Page], name: str) -> None:
        self.pages = list(pages)
        self.target = QPrinter(QPrinter.PrinterMode.HighResolution)
        self.target.setDocName(name or "Wise Compass")
        _fit(self.target, self.pages[0])
        super().__init__(self.target, parent)
        self.setWindowTitle("Print")
        self.resize(900, 700)
        self.paintRequested.connect(lambda to: put_on(to, self.pages))


class Preview(PagePreview):
    """The same of some sheets of a folio."""

    def __init__(self, parent: QWidget, folio: Folio, leaves: Sequence[int]) -> None:
        super().__init__(parent, [page for page, _ in sheet_pages(folio, leaves)], folio.work)


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
            painter.save()
            painter.scale(*page.stretch)
            MarkPainter(painter, view, INK).paint((mark, Stand.DONE) for mark in page.furniture)
            if page.window is not None:
                left, low, right, high = page.window
                painter.setClipRect(QRectF(view.px(left, high), view.px(right, low)))
            MarkPainter(painter, view, INK).paint((mark, Stand.DONE) for mark in drawn_over(page))
            _dots(painter, view, page)
            painter.restore()
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
    wide, high = (length * stretch for length, stretch in zip((page.width, page.height), page.stretch, strict=True))
    size = QPageSize(QSizeF(wide, high), QPageSize.Unit.Millimeter)
    none = QMarginsF(0, 0, 0, 0)
    printer.setPageLayout(QPageLayout(size, QPageLayout.Orientation.Portrait, none, QPageLayout.Unit.Millimeter, none))
    printer.setFullPage(True)
