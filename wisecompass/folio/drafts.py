"""Drafts: what a drafter has not saved yet, kept in files of their own so that nothing that happens to the program, the
window or the file takes it away.

A draft belongs to one folio in one window, which holds a lock on it; the lock goes with the process, however that ends. A
draft without an owner is work that was left. It goes only when its folio is saved or when somebody discards it.
"""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
import secrets
from dataclasses import asdict, dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from wisecompass.drafting.errors import BadDocument
from wisecompass.folio import files, store
from wisecompass.folio.document import Folio

FORMAT = "wise-compass draft"
SUFFIX, LOCK = ".draft.json", ".lock"


@dataclass(frozen=True)
class Kept:
    """What a draft holds: the folio, the file that it belongs to (None: not saved yet), that file's fingerprint when it was
    last seen, and when the draft was written (UTC, ISO)."""

    folio: Folio
    file: Path | None
    known: str | None
    written: str


class Draft:
    """The draft of one folio in one window."""

    def __init__(self, path: Path, lock: int) -> None:
        self.path, self._lock = path, lock
        self._kept: Folio | None = None

    def keep(self, folio: Folio, file: Path | None, known: str | None) -> None:
        """Bring a folio to the disk, if it is not there already.

        Raises:
            BadDocument: there is no room for it.
        """
        if folio is self._kept:
            return
        now = datetime.now(UTC).isoformat(timespec="seconds")
        head = {"format": FORMAT, "version": 1, "file": None if file is None else str(file), "known": known, "written": now}
        files.write(self.path, json.dumps({**head, "folio": asdict(folio)}, ensure_ascii=False).encode("utf-8", "replace"))
        self._kept = folio

    def discard(self) -> None:
        """The folio is saved, or somebody does not want it."""
        self._kept = None
        with contextlib.suppress(OSError):
            self.path.unlink(missing_ok=True)

    def release(self) -> None:
        """Nobody works on it any more; what it keeps stays."""
        with contextlib.suppress(OSError):
            os.close(self._lock)
        if not self.path.exists():
            with contextlib.suppress(OSError):
                self.path.with_suffix(LOCK).unlink(missing_ok=True)


class Drafts:
    """The folder of drafts."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def begin(self) -> Draft:
        """A draft for a folio that is taken in hand.

        Raises:
            BadDocument: the folder cannot be used.
        """
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            path = self.folder / f"{os.getpid()}-{secrets.token_hex(4)}{SUFFIX}"
            lock = _locked(path)
        except OSError as reason:
            raise BadDocument(f"no drafts can be kept in {self.folder}: {reason.strerror}") from None
        if lock is None:
            raise BadDocument(f"no drafts can be kept in {self.folder}")
        return Draft(path, lock)

    def left(self) -> list[tuple[Path, Kept]]:
        """Drafts that nobody works on, the newest first; what cannot be read is left where it is."""
        found = []
        for path in self._ownerless():
            with contextlib.suppress(BadDocument):
                found.append((path, read(path)))
        return sorted(found, key=lambda pair: pair[1].written, reverse=True)

    def take_up(self, path: Path) -> tuple[Draft, Kept] | None:
        """Make a draft that was left one's own; None where another window was quicker.

        Raises:
            BadDocument: it cannot be read.
        """
        lock = _locked(path)
        if lock is None:
            return None
        try:
            kept = read(path)
        except BadDocument:
            os.close(lock)
            raise
        draft = Draft(path, lock)
        draft._kept = kept.folio
        return draft, kept

    def discard(self, path: Path) -> None:
        """Throw away a draft that was left."""
        taken = _locked(path)
        if taken is not None:
            draft = Draft(path, taken)
            draft.discard()
            draft.release()

    def _ownerless(self) -> list[Path]:
        if not self.folder.is_dir():
            return []
        free = []
        for path in sorted(self.folder.glob(f"*{SUFFIX}")):
            lock = _locked(path)
            if lock is not None:
                os.close(lock)
                free.append(path)
        return free


def read(path: Path) -> Kept:
    """What a draft holds.

    Raises:
        BadDocument: it is no draft, or its folio cannot be.
    """
    data: Any = files.read_json(path, store.LARGEST_FILE, "a draft")
    if not isinstance(data, dict) or data.get("format") != FORMAT or data.get("version") != 1:
        raise BadDocument(f"{path.name} is not a draft")
    file, known = data.get("file"), data.get("known")
    folio = store.checked(data.get("folio"), path.name)
    return Kept(
        folio,
        Path(file) if isinstance(file, str) else None,
        known if isinstance(known, str) else None,
        str(data.get("written", "")),
    )


def _locked(path: Path) -> int | None:
    """A lock on a draft, held as long as its handle is open; None where somebody has it."""
    try:
        handle = os.open(path.with_suffix(LOCK), os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o600)
    except OSError:
        return None
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        os.close(handle)
        return None
    return handle
