"""A folio as somebody works on it: its history, its file, what of it is saved, and its draft."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

from wisecompass.folio import store
from wisecompass.folio.document import Folio, LogEntry
from wisecompass.folio.drafts import Draft, Drafts, Kept
from wisecompass.folio.history import History, logged
from wisecompass.folio.register import Place


@dataclass
class Work:
    """``saved`` is the folio as its file has it, None where that is not known; ``known`` that file's fingerprint."""

    history: History
    path: Path | None = None
    saved: Folio | None = None
    known: str | None = None
    draft: Draft | None = None

    @classmethod
    def on(cls, folio: Folio, path: Path | None = None, known: str | None = None, place: Place = (0, 0)) -> Work:
        """Work on a folio as it is in its file, or on one that nobody will miss."""
        return cls(History(folio, place), path, folio, known)

    @classmethod
    def opened(cls, path: Path) -> Work:
        """Work on a folio of a file.

        Raises:
            BadDocument: it cannot be used.
        """
        folio, known = store.load_with_print(path)
        return cls.on(folio, path, known)

    @classmethod
    def taken_up(cls, draft: Draft, kept: Kept) -> Work:
        """Work that was left: it counts as changed, and goes on with its own file and draft."""
        return cls(History(kept.folio, (0, 0)), kept.file, None, kept.known, draft)

    @property
    def folio(self) -> Folio:
        return self.history.now.folio

    @property
    def changed(self) -> bool:
        """Whether something is not in its file yet."""
        return self.folio is not self.saved and self.folio != self.saved

    def log(self, entry: LogEntry) -> None:
        """A line in the logbook; it goes with the next save and does not count as a change."""
        self.history.log(entry)
        if self.saved is not None:
            self.saved = logged(self.saved, entry)

    def read(self, figure: str, readings: Mapping[str, str]) -> None:
        """Keep what was measured of a figure with the folio."""
        if self.folio.readings.get(figure, {}) != dict(readings):
            self.history.read(figure, readings)

    def save(self, path: Path, *, over: bool = False) -> None:
        """Write the folio to a file; then the draft is not needed any more.

        Raises:
            ChangedMeanwhile: somebody else has changed the file, and it is not to be written ``over``.
            BadDocument: the place cannot be written.
        """
        folio = self.folio
        known = self.known if path == self.path and not over else None
        self.known = store.save(folio, path, known)
        self.path, self.saved = path, folio
        self.history.part()
        if self.draft is not None:
            self.draft.discard()

    def keep(self, drafts: Drafts | None) -> None:
        """Bring what is not saved to a draft; what is saved needs none.

        Raises:
            BadDocument: there is no room for it.
        """
        if not self.changed:
            if self.draft is not None:
                self.draft.discard()
        elif drafts is not None:
            self.draft = self.draft or drafts.begin()
            self.draft.keep(self.folio, self.path, self.known)

    def leave(self) -> None:
        """Nobody works on it in this window any more; its draft stays where there are changes."""
        if self.draft is not None:
            self.draft.release()
            self.draft = None
