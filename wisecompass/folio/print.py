"""From a folio to its pages."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction

from wisecompass.catalogue import problem
from wisecompass.drafting.errors import BadDocument, WiseCompassError
from wisecompass.drafting.givens import in_unit
from wisecompass.drafting.solve import Drawing, draw
from wisecompass.folio.document import Figure, Folio
from wisecompass.folio.page import NO_LETTERING, Lettering, Page, blank, compose, title_of
from wisecompass.folio.register import Place, unique
from wisecompass.folio.scales import SCALES, WITH_BETWEEN, read_scale


def with_units(figure: Figure, unit: str) -> Figure:
    """The figure with ``unit`` written after every length that has none, defaults filled in: it stays the same size
    whatever a bare number means in its folio."""
    givens = {}
    for item in problem(figure.problem).given_list:
        text = figure.givens.get(item.name)
        if item.form.is_length:
            meant = unit if text is not None else "mm"
            text = text if text is not None else item.default
            givens[item.name] = in_unit(item, text, meant)
        elif text is not None:
            givens[item.name] = text
    return replace(figure, givens=givens)


def page_of(folio: Folio, place: Place) -> Page:
    """The page of one figure; of an empty sheet the paper with its title block.

    Raises:
        WiseCompassError: the figure's givens or method do not work; the sentence says which sheet and figure.
    """
    s, f = place
    sheet = folio.sheets[s]
    if not sheet.figures:
        return blank(sheet.as_paper(), title_of(folio, place), folio.conventions.as_conventions())
    figure = sheet.figures[f]
    try:
        return laid_out(folio, place, drawn(folio, figure))
    except WiseCompassError as reason:
        raise BadDocument(f"{sheet.number or sheet.name}, {figure.name or figure.problem}: {reason}") from None


def laid_out(
    folio: Folio,
    place: Place,
    drawing: Drawing,
    kept: Page | None = None,
    hold: bool = False,
    lettering: Lettering | None = None,
) -> Page:
    """A drawing on the paper of a place, as ``compose`` lays it out."""
    sheet = folio.sheets[place[0]]
    scales = WITH_BETWEEN if folio.conventions.between_scales else SCALES
    title, scale = title_of(folio, place), read_scale(sheet.figures[place[1]].scale)
    conventions = folio.conventions.as_conventions()
    return compose(drawing, sheet.as_paper(), title, conventions, scale, kept, hold, scales, lettering)


def scale_of(folio: Folio, drawing: Drawing) -> Fraction:
    """At what scale a drawing lies on the first sheet."""
    return laid_out(folio, (0, 0), drawing, lettering=NO_LETTERING).scale


def drawn(folio: Folio, figure: Figure) -> Drawing:
    """A figure drawn in floats.

    Raises:
        WiseCompassError: its givens, method or solution do not work.
    """
    found = problem(figure.problem)
    typed = found.read(figure.givens, folio.conventions.units.value)
    conventions = folio.conventions.as_conventions()
    return draw(found, typed, found.method(figure.method), conventions, figure.solution, places=figure.places)


def places_of(folio: Folio) -> list[Place]:
    """Every page of the folio: one a figure, and one for a sheet that is empty."""
    return [(s, f) for s, sheet in enumerate(folio.sheets) for f in range(max(1, len(sheet.figures)))]


def pages_of(folio: Folio) -> Iterator[tuple[str, Page]]:
    """Every page with a file stem of its own, in order. An empty sheet is left out unless it is all there is."""
    taken: set[str] = set()
    for place in places_of(folio):
        sheet = folio.sheets[place[0]]
        if not sheet.figures and any(each.figures for each in folio.sheets):
            continue
        stem = unique(
            file_stem(f"{sheet.number or sheet.name}-{place[1] + 1}") or f"sheet-{place[0] + 1}-{place[1] + 1}", taken
        )
        taken.add(stem.casefold())
        taken.add(stem)
        yield stem, page_of(folio, place)


def file_stem(text: str) -> str:
    """A name fit for a file on any disk: letters and digits of every script, the rest as strokes."""
    plain = "".join(c if c.isalnum() or c in "._-" else "-" for c in unicodedata.normalize("NFC", text))
    return re.sub(r"-{2,}", "-", plain).strip("-.")[:LONGEST_STEM]


LONGEST_STEM = 60
"""Letters of a file's stem; with any script's four bytes a letter it stays under what disks take."""
