"""One figure or a whole folio as the bytes of a file, by kind."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from wisecompass.catalogue import problem
from wisecompass.drafting.solve import Certificate, certify
from wisecompass.exchange.leaves import sheet_pages
from wisecompass.folio.document import Folio
from wisecompass.folio.links import read_figure
from wisecompass.folio.page import Page
from wisecompass.folio.print import conventions_of, leaves_of, page_of, sheet_page
from wisecompass.folio.register import Place

SUFFIXES: Mapping[str, str] = {"folio-pdf": "pdf", "points": "csv"}
"""Ending of the file of a kind, where it is not the kind itself."""


def made(kind: str, folio: Folio, place: Place, tell: Callable[[str], None] = lambda _: None) -> bytes:
    """The bytes of a file of a kind: pdf, svg, dxf, csv, points, or folio-pdf with all pages; ``tell`` says how far it is.

    Raises:
        WiseCompassError: a figure does not work.
    """
    if kind == "folio-pdf":
        return _folio_pdf(folio, tell)
    if kind in ("csv", "points"):
        certificate = _certificate(folio, place)
        if kind == "points":
            from wisecompass.exchange.points import write_points

            return write_points(certificate.points).encode()
        from wisecompass.exchange.csv import csv

        return csv(certificate).encode()
    page = page_of(folio, place) if kind == "dxf" or len(folio.sheets[place[0]].figures) == 1 else _sheet(folio, place[0])
    title = figure_title(folio, place) if kind == "dxf" else sheet_title(folio, place[0])
    if kind == "pdf":
        from wisecompass.exchange.pdf import pdf

        return pdf([page], title, folio.drawn_by, [folio.sheets[place[0]].name])
    if kind == "svg":
        from wisecompass.exchange.svg import svg

        return svg(page, title).encode()
    from wisecompass.exchange.dxf import dxf

    return dxf(page, title).encode()


def figure_title(folio: Folio, place: Place) -> str:
    """What a file of one figure is called inside."""
    sheet = folio.sheets[place[0]]
    name = sheet.figures[place[1]].name if sheet.figures else ""
    return " · ".join(part for part in (folio.work, sheet.name, name) if part) or "Wise Compass"


def _sheet(folio: Folio, s: int) -> Page:
    """A sheet with all its figures; one that cannot be drawn stands there with its reason."""
    return sheet_page(folio, s)[0]


def sheet_title(folio: Folio, s: int) -> str:
    """What a file of one sheet is called inside."""
    return " · ".join(part for part in (folio.work, folio.sheets[s].name) if part) or "Wise Compass"


def _folio_pdf(folio: Folio, tell: Callable[[str], None]) -> bytes:
    from wisecompass.exchange.pdf import pdf

    leaves = leaves_of(folio)
    pages = (page for page, _ in sheet_pages(folio, leaves, tell))
    return pdf(pages, folio.work or "Wise Compass", folio.drawn_by, [sheet_heading(folio, s) for s in leaves])


def sheet_heading(folio: Folio, s: int) -> str:
    """A sheet in a list of contents."""
    sheet = folio.sheets[s]
    return " ".join(part for part in (sheet.number, sheet.name) if part) or f"sheet {s + 1}"


def _certificate(folio: Folio, place: Place) -> Certificate:
    """The certificate of a figure with its own solution and closed forms."""
    figure = folio.sheets[place[0]].figures[place[1]]
    found = problem(figure.problem)
    typed = read_figure(folio, figure)
    method, conventions = found.method(figure.method), conventions_of(folio, figure)
    return certify(found, typed, method, conventions, figure.solution, closed_forms=True)
