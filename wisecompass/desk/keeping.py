"""Nothing is lost: what is not saved is brought to a draft soon after every change, whatever is done next."""

from __future__ import annotations

from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal

from wisecompass.desk.session import Session
from wisecompass.drafting.errors import BadDocument, WiseCompassError
from wisecompass.folio.drafts import Drafts, Kept
from wisecompass.folio.work import Work

KEEP_AFTER = 700
"""Milliseconds from a change to its draft; further changes do not put it off."""


class Keeping(QObject):
    """Keeps the work in hand, and the work that was put aside for other work."""

    troubled = Signal(str)
    """A draft cannot be written; the sentence says why."""

    def __init__(self, session: Session, drafts: Drafts | None) -> None:
        super().__init__()
        self.session, self.drafts = session, drafts
        self.aside: list[Work] = []
        """Changed folios that other work was taken in hand before, with their histories."""
        self._writer = ThreadPoolExecutor(1, thread_name_prefix="drafts")
        self._writing: Future[None] | None = None
        self._closed = False
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(KEEP_AFTER)
        self._timer.timeout.connect(self._keep)
        session.followed.connect(self.soon)
        session.folio_changed.connect(self.soon)
        session.readings_kept.connect(self.soon)
        self.troubled.connect(self._try_again)

    def soon(self) -> None:
        """Bring what has changed to the disk within the second."""
        if self.drafts is not None and not self._closed and not self._timer.isActive():
            self._timer.start()

    def _keep(self) -> None:
        """Begin to write in a thread of its own: a slow disk does not hold anybody up."""
        busy = self._writing is not None and not self._writing.done()
        if busy or self.session.glancing.typed is not None:  # what is typed is taken in the pause, and kept after that
            self._timer.start()
            return
        self._writing = self._writer.submit(self._write, self.session.work)

    def _write(self, work: Work) -> None:
        try:
            work.keep(self.drafts)
        except WiseCompassError as reason:
            self.troubled.emit(str(reason))

    def _try_again(self, _: str) -> None:
        self._timer.start(10 * KEEP_AFTER)

    def wait(self) -> None:
        """Until what is being written is written."""
        if self._writing is not None:
            self._writing.result()

    def now(self) -> None:
        """Bring all changes to the disk before going on.

        Raises:
            BadDocument: there is no room for them.
        """
        self.wait()
        for work in (self.session.work, *self.aside):
            work.keep(self.drafts)

    def put_aside(self) -> None:
        """Other work is taken in hand: what is changed stays, with its way back, and its draft."""
        self.wait()
        work = self.session.work
        if not work.changed:
            work.leave()
            return
        try:
            work.keep(self.drafts)
        except BadDocument as reason:
            self.troubled.emit(str(reason))
        self.aside.append(work)

    def left(self) -> list[tuple[Path, Kept]]:
        """Drafts of windows that are no more."""
        return [] if self.drafts is None else self.drafts.left()

    def take_up(self, path: Path) -> Work | None:
        """A draft that was left, as work to go on with; None where another window was quicker.

        Raises:
            BadDocument: it cannot be read.
        """
        taken = None if self.drafts is None else self.drafts.take_up(path)
        return None if taken is None else Work.taken_up(*taken)

    def take_back(self, work: Work) -> None:
        """Work that was put aside is taken in hand again."""
        self.aside.remove(work)

    def close(self) -> None:
        """The window is gone: its drafts stay for the next one."""
        self._closed = True
        self._timer.stop()
        self.wait()
        self._writer.shutdown(wait=True)
        for work in (self.session.work, *self.aside):
            work.leave()
