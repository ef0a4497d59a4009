"""All sheets of a folio, laid out on all cores."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from multiprocessing import get_context

from wisecompass.drafting.marks import Curve, Mark, Ready
from wisecompass.folio.document import Folio
from wisecompass.folio.page import Page
from wisecompass.folio.print import sheet_page

FEW = 6
"""So many sheets are laid out here, before other processes would have begun."""

_folio: Folio | None = None


def sheet_pages(
    folio: Folio, leaves: Sequence[int], tell: Callable[[str], None] = lambda _: None
) -> Iterator[tuple[Page, list[str]]]:
    """The page of each sheet in order, and what is to be said of it; ``tell`` says how far it is."""
    cores = min(os.cpu_count() or 1, len(leaves))
    if cores < 2 or len(leaves) <= FEW:
        found: Iterator[tuple[Page, list[str]]] = (sheet_page(folio, s) for s in leaves)
        yield from _counted(found, len(leaves), tell)
        return
    with ProcessPoolExecutor(cores, get_context("spawn"), initializer=_begin, initargs=(folio,)) as pool:
        yield from _counted(pool.map(_one, leaves), len(leaves), tell)


def _counted(
    found: Iterator[tuple[Page, list[str]]], count: int, tell: Callable[[str], None]
) -> Iterator[tuple[Page, list[str]]]:
    for n, each in enumerate(found, 1):
        tell(f"page {n} of {count}")
        yield each


def _begin(folio: Folio) -> None:
    global _folio
    _folio = folio


def _one(s: int) -> tuple[Page, list[str]]:
    """A page that can travel: functions cannot."""
    assert _folio is not None
    page, said = sheet_page(_folio, s)
    return replace(page, marks=[ready(mark) for mark in page.marks], tints=[]), said


def ready(mark: Mark) -> Mark:
    """A mark that can travel to another process."""
    if not isinstance(mark, Curve):
        return mark
    return Ready(kept=mark.pieces(), pen=mark.pen, step=mark.step, name=mark.name, block=mark.block, solution=mark.solution)
