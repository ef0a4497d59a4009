"""What is done while nobody types: acts in a row, each after so much rest, all put off by the next key."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QObject, QTimer


class Rest:
    """Acts with the milliseconds of rest before each. An act that answers True has more to do and is called again, when
    whatever has come meanwhile is done."""

    def __init__(self, parent: QObject, acts: Sequence[tuple[int, Callable[[], bool]]]) -> None:
        self._acts, self._next = acts, 0
        self._timer = QTimer(parent)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self.go_on)

    @property
    def waiting(self) -> bool:
        """Whether there is something left to do."""
        return self._timer.isActive()

    def begin(self, more: int = 0) -> None:
        """Begin again with the first act, after its rest and so many milliseconds more."""
        self._next = 0
        self._timer.start(self._acts[0][0] + more)

    def stop(self) -> None:
        self._timer.stop()

    def go_on(self) -> None:
        """Do the next act now."""
        self._timer.stop()
        if self._acts[self._next][1]():
            self._timer.start(0)
            return
        self._next += 1
        if self._next < len(self._acts):
            self._timer.start(self._acts[self._next][0])

    def settle(self) -> None:
        """Do all of them at once."""
        self.begin()
        while self.waiting:
            self.go_on()
