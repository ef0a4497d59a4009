"""One figure or a whole folio as the bytes of a file, by kind."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from wisecompass.catalogue import problem
from wisecompass.drafting.solve import Certificate, certify
from wisecompass.folio.document import Folio
from wisecompass.folio.page import Page
from wisecompass.folio.print import page_of, places_of
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
    page = page_of(folio, place)
    title = figure_title(folio, place)
    if kind == "pdf":
        from wisecompass.exchange.pdf import pdf

        return pdf([page], title, folio.drawn_by)
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


def _folio_pdf(folio: Folio, tell: Callable[[str], None]) -> bytes:
    from wisecompass.exchange.pdf import pdf

    pages: list[Page] = []
    places = [place for place in places_of(folio) if folio.sheets[place[0]].figures] or places_of(folio)
    for n, place in enumerate(places, 1):
        tell(f"page {n} of {len(places)}")
        pages.append(page_of(folio, place))
    return pdf(pages, folio.work or "Wise Compass", folio.drawn_by)


def _certificate(folio: Folio, place: Place) -> Certificate:
    """The certificate of a figure with its own solution and closed forms."""
    figure = folio.sheets[place[0]].figures[place[1]]
    found = problem(figure.problem)
    typed = found.read(figure.givens, folio.conventions.units.value)
    method, conventions = found.method(figure.method), folio.conventions.as_conventions()
    return certify(found, typed, method, conventions, figure.solution, closed_forms=True)
