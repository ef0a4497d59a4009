"""What a form reckons beside the interface: in a thread, only the newest asked for counts, and a refusal is an answer."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from wisecompass.drafting.errors import WiseCompassError

PAUSE = 250
"""Milliseconds after the last key before it is begun."""


class Beside(QObject):
    """Runs what it is given when nobody has typed for a while."""

    done = Signal(object)
    refused = Signal(str)
    told = Signal(str)
    """How far it is."""
    _ended = Signal(int, object, str)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._number = 0
        self._work: Callable[[], Any] | None = None
        self._thread: threading.Thread | None = None
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._begin)
        self._ended.connect(self._take)

    @property
    def busy(self) -> bool:
        return self._timer.isActive() or (self._thread is not None and self._thread.is_alive())

    def ask(self, work: Callable[[], Any], pause: int = PAUSE) -> None:
        """Have something reckoned; what was asked before is stale."""
        self._work = work
        self._number += 1
        self._timer.start(pause)

    def forget(self) -> None:
        """Nobody wants to hear of it any more."""
        self._timer.stop()
        self._number += 1

    def _begin(self) -> None:
        number, work = self._number, self._work
        assert work is not None

        def run() -> None:
            try:
                found, said = work(), ""
            except WiseCompassError as reason:
                found, said = None, str(reason)
            except Exception as fault:
                found, said = None, f"it did not work: {type(fault).__name__}: {fault}"[:200]
            try:
                self._ended.emit(number, found, said)
            except RuntimeError:
                return  # the form has gone

        self._thread = threading.Thread(target=run, daemon=True)
        self._thread.start()

    def _take(self, number: int, found: object, said: str) -> None:
        if number != self._number:
            return
        if said:
            self.refused.emit(said)
        else:
            self.done.emit(found)
