"""From a folio to its pages."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction

from wisecompass.arithmetic.expression import read
from wisecompass.catalogue import problem
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.givens import split_list
from wisecompass.drafting.solve import draw
from wisecompass.folio.document import Figure, Folio, Sheet
from wisecompass.folio.page import Page, Title, compose

_RATIO = re.compile(r"\s*(\d+(?:\.\d+)?)\s*:\s*(\d+(?:\.\d+)?)\s*")


def with_units(figure: Figure, unit: str) -> Figure:
    """The figure with ``unit`` written after every length that has none, defaults filled in: it stays the same size
    whatever a bare number means in its folio."""
    givens = {}
    for item in problem(figure.problem).given_list:
        text = figure.givens.get(item.name)
        if item.form.is_length:
            meant = unit if text is not None else "mm"
            text = text if text is not None else item.default
            last = text if item.form.each is item.form else split_list(text)[-1]
            givens[item.name] = text if read(last).unit else f"{text} {meant}"
        elif text is not None:
            givens[item.name] = text
    return replace(figure, givens=givens)


def read_scale(text: str) -> Fraction | None:
    """``1:2`` as a number; None for "fit".

    Raises:
        BadGiven: neither.
    """
    if text.strip().lower() == "fit":
        return None
    match = _RATIO.fullmatch(text)
    if match is None or Fraction(match[1]) == 0 or Fraction(match[2]) == 0:
        raise BadGiven("scale", f"scale “{text[:20]}” is neither “fit” nor a ratio such as 1:2", "fit")
    return Fraction(match[1]) / Fraction(match[2])


def page_of(folio: Folio, sheet: Sheet, figure: Figure) -> Page:
    """The page of one figure.

    Raises:
        WiseCompassError: the figure's givens or method do not work.
    """
    found = problem(figure.problem)
    conventions = folio.conventions.as_conventions()
    typed = found.read(figure.givens, folio.conventions.units.value)
    drawing = draw(found, typed, found.method(figure.method), conventions, figure.solution, places=figure.places)
    title = Title(folio.work, sheet.name, sheet.number)
    return compose(drawing, sheet.as_paper(), title, conventions, read_scale(figure.scale))


def pages_of(folio: Folio) -> Iterator[tuple[str, Page]]:
    """Every page with a file stem for it, in order."""
    for sheet in folio.sheets:
        for index, figure in enumerate(sheet.figures, 1):
            stem = re.sub(r"[^A-Za-z0-9._-]+", "-", f"{sheet.number or sheet.name}-{index}").strip("-")
            yield stem or f"sheet-{index}", page_of(folio, sheet, figure)
