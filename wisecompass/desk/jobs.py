"""Files written away from the interface thread, with progress and cancel."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal

from wisecompass.desk.session import Session
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.solve import certify
from wisecompass.folio.page import Page
from wisecompass.folio.print import page_of


class JobSignals(QObject):
    progress = Signal(str)
    finished = Signal(str, bool)


class Job(QRunnable):
    """One file of a kind: pdf, svg, dxf, csv, or folio-pdf. Works on the folio as it was when the job began."""

    def __init__(self, kind: str, path: Path, session: Session) -> None:
        super().__init__()
        self.kind, self.path = kind, path
        self.folio, self.place = session.folio, session.place
        self.page, self.drawing = session.page, session.drawing
        self.conventions = session.conventions
        self.signals = JobSignals()
        self.cancelled = False
        self.setAutoDelete(False)

    def run(self) -> None:
        try:
            data = self._made()
            if data is None or self.cancelled:
                self.signals.finished.emit(f"{self.path.name} was not written: cancelled", False)
                return
            self.path.write_bytes(data)
        except WiseCompassError as reason:
            self.signals.finished.emit(str(reason), False)
        except OSError as reason:
            self.signals.finished.emit(f"{self.path} cannot be written: {reason.strerror}", False)
        else:
            self.signals.finished.emit(f"wrote {self.path.name}", True)

    def _made(self) -> bytes | None:
        if self.kind == "folio-pdf":
            return self._folio_pdf()
        page, drawing = self.page, self.drawing
        assert page is not None
        assert drawing is not None
        if self.kind == "pdf":
            from wisecompass.exchange.pdf import pdf

            return pdf([page], drawing.problem.title)
        if self.kind == "svg":
            from wisecompass.exchange.svg import svg

            return svg(page).encode()
        if self.kind == "dxf":
            from wisecompass.exchange.dxf import dxf

            return dxf(page).encode()
        certificate = certify(drawing.problem, drawing.typed, drawing.method, self.conventions, closed_forms=True)
        if self.kind == "points":
            from wisecompass.exchange.points import write_points

            return write_points(certificate.points).encode()
        from wisecompass.exchange.csv import csv

        return csv(certificate).encode()

    def _folio_pdf(self) -> bytes | None:
        from wisecompass.exchange.pdf import pdf

        pages: list[Page] = []
        figures = [(sheet, figure) for sheet in self.folio.sheets for figure in sheet.figures]
        for n, (sheet, figure) in enumerate(figures, 1):
            if self.cancelled:
                return None
            self.signals.progress.emit(f"{self.path.name}: sheet {n} of {len(figures)}")
            pages.append(page_of(self.folio, sheet, figure))
        return pdf(pages, self.folio.work)


def start(job: Job) -> None:
    """Run a job in Qt's thread pool."""
    QThreadPool.globalInstance().start(job)
