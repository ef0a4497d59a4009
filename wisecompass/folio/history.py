"""The way back: folios are never changed, so a history is a row of them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from wisecompass.folio.document import MOST_LOGGED, Folio, LogEntry
from wisecompass.folio.register import Place

LONGEST = 2_000
"""So many steps back are kept; they share what they have in common."""


@dataclass(frozen=True)
class Moment:
    """A folio, the place in hand, and in words what has led to it. Changes of the same thing in a row melt into one."""

    folio: Folio
    place: Place
    words: str = ""
    melt: str = ""


class History:
    """Moments in their order; one of them is now."""

    def __init__(self, folio: Folio, place: Place) -> None:
        self._moments = [Moment(folio, place)]
        self._now = 0

    @property
    def now(self) -> Moment:
        return self._moments[self._now]

    @property
    def can_undo(self) -> bool:
        return self._now > 0

    @property
    def can_redo(self) -> bool:
        return self._now < len(self._moments) - 1

    @property
    def undo_words(self) -> str:
        return self.now.words if self.can_undo else ""

    @property
    def redo_words(self) -> str:
        return self._moments[self._now + 1].words if self.can_redo else ""

    def push(self, folio: Folio, place: Place, words: str, melt: str = "") -> None:
        """A change; what had been undone is gone."""
        moment = Moment(folio, place, words, melt)
        del self._moments[self._now + 1 :]
        if melt and self.can_undo and self.now.melt == melt and self.now.place == place:
            self._moments[self._now] = moment
            return
        self._moments.append(moment)
        del self._moments[: max(0, len(self._moments) - LONGEST)]
        self._now = len(self._moments) - 1

    def undo(self) -> tuple[Folio, Place]:
        """The folio before the last change, and where that change was."""
        changed = self.now.place
        self._now -= 1
        folio = self.now.folio
        return folio, changed if _is_there(folio, changed) else self.now.place

    def redo(self) -> tuple[Folio, Place]:
        self._now += 1
        return self.now.folio, self.now.place

    def part(self) -> None:
        """The next change does not melt into the last one."""
        self._moments[self._now] = replace(self.now, melt="")

    def log(self, entry: LogEntry) -> None:
        """A line in the logbook. It is no change to be undone: it stands in every moment."""
        self._moments = [replace(each, folio=logged(each.folio, entry)) for each in self._moments]

    def read(self, figure: str, readings: Mapping[str, str]) -> None:
        """What was measured of a figure. It is no change of the work to be undone: it stands in every moment in which the
        figure is drawn by these very givens."""
        now = _drawn(self.now.folio, figure)
        self._moments = [
            replace(each, folio=with_readings(each.folio, figure, readings)) if _drawn(each.folio, figure) == now else each
            for each in self._moments
        ]


def _drawn(folio: Folio, name: str) -> object:
    """What the drawing of a figure hangs on, as far as its readings are concerned."""
    found = next((each for sheet in folio.sheets for each in sheet.figures if each.name == name), None)
    return None if found is None else (found.problem, found.givens)


def with_readings(folio: Folio, figure: str, readings: Mapping[str, str]) -> Folio:
    """The folio with what was measured of a figure; nothing where nothing was."""
    others = {name: each for name, each in folio.readings.items() if name != figure}
    return replace(folio, readings={**others, figure: dict(readings)} if readings else others)


def logged(folio: Folio, entry: LogEntry) -> Folio:
    """The folio with one more line in its logbook."""
    return replace(folio, logbook=(*folio.logbook, entry)[-MOST_LOGGED:])


def _is_there(folio: Folio, place: Place) -> bool:
    s, f = place
    return s < len(folio.sheets) and f < max(1, len(folio.sheets[s].figures))
