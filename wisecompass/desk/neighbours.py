"""The other figures of the sheet in hand: drawn one by one when there is time, for nobody waits for them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, QTimer, Signal

from wisecompass.desk.table import beside, page_or_reason
from wisecompass.drafting.marks import Mark
from wisecompass.folio.page import Page
from wisecompass.folio.print import laid_from

if TYPE_CHECKING:
    from wisecompass.desk.session import Session

KEPT = 64
"""So many pages are remembered, so that a sheet that is turned back to stands there at once."""


class Neighbours(QObject):
    """Pages of the figures that share the sheet with the one in hand."""

    changed = Signal()
    """Some of them look otherwise."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        self.session = session
        self._pages: dict[Any, Page] = {}
        self._shown: list[Any] = []
        self._covered: set[Any] = set()
        """Those of which only the brief is seen."""
        self._waiting: list[tuple[int, Any]] = []
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(self._draw_one)
        self._followed: tuple[Any, ...] = ()

    def refresh(self) -> None:
        """Find out which of them have changed; those are drawn when there is time."""
        session = self.session
        f = session.place[1]
        figures, plan = session.sheet.figures, session.plan
        if plan is None or len(figures) < 2:
            self._show([])
            return
        mine = session.drawing_ends[f] if f < len(session.drawing_ends) else f
        others = (n for n in range(len(figures)) if n != f and n != mine)
        keys = [(n, self._key(n)) for n in others if not self._silent(n)]
        covered = {key for n, key in keys if session.cover_of(figures[n]) is not None}
        if covered != self._covered:
            self._covered = covered
            self.changed.emit()
        known = [key for _, key in keys if key in self._pages]
        self._waiting = [(n, key) for n, key in keys if key not in self._pages]
        self._show(known)
        if self._waiting:
            self._timer.start()

    def _silent(self, n: int) -> bool:
        """Whether a figure is drawn with the one that goes on with it."""
        cell = self.session.plan.cells[n] if self.session.plan is not None else None
        return cell is not None and cell.silent

    def _key(self, n: int) -> Any:
        cell = self.session.plan.cells[n] if self.session.plan is not None else None
        return laid_from(self.session.folio, (self.session.place[0], n), cell)

    def _show(self, keys: list[Any]) -> None:
        if keys != self._shown:
            self._shown = keys
            self.changed.emit()

    def _draw_one(self) -> None:
        if not self._waiting:
            self._timer.stop()
            return
        n, key = self._waiting.pop(0)
        session, plan = self.session, self.session.plan
        if plan is None or n >= len(session.sheet.figures) or key != self._key(n):
            return
        place = (session.place[0], n)
        page = page_or_reason(session.folio, place, plan)
        session.remember_letters(key, page.lettering)
        self._pages[key] = page
        while len(self._pages) > max(KEPT, len(session.sheet.figures)):
            del self._pages[next(iter(self._pages))]
        self._show([*self._shown, key])

    def finish(self) -> None:
        """Draw all of them at once, for pictures and tests."""
        while self._waiting:
            self._draw_one()

    def marks(self) -> Iterator[Mark]:
        """All that is seen of them, as it lies on paper."""
        for key in self._shown:
            if key in self._pages:
                page = self._pages[key]
                yield from page.brief if key in self._covered else beside(page)

    @property
    def shown(self) -> object:
        """What is told by its identity from what was shown before."""
        return *map(id, self._shown), *map(id, self._covered)
