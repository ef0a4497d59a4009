"""The desk's side of the process that proves, judges and exports: it is started when the first picture stands, started
again when it dies, and asked without anybody waiting."""

from __future__ import annotations

import os
import sys
from collections import deque
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QProcess, QProcessEnvironment, QTimer, Signal

from wisecompass.service import Reply, Request, Unpacker, packed

MOST_STARTS = 3
"""A request with which the process has died so often is given up."""

WAIT = 60_000
"""Milliseconds after which nobody waits any longer for an answer."""


class Helper(QObject):
    """One process; requests are answered in their order, and of those about a figure only the newest."""

    replied = Signal(object)
    """A ``Reply`` that is not stale."""
    lost = Signal(int)
    """The request of that number was given up."""

    def __init__(self, parent: QObject | None = None, module: str = "wisecompass.service") -> None:
        """``module`` holds the process's other side, its ``main``."""
        super().__init__(parent)
        self._module = module
        self._process: QProcess | None = None
        self._stopped = False
        self._unpacker = Unpacker()
        self._number = 0
        self._open: dict[int, Request] = {}
        self._starts: dict[int, int] = {}
        self._come: deque[Reply] = deque()
        """Replies that nobody has been told of yet: one at a time, so that a key between them waits for one only."""
        self._next = QTimer(self)
        self._next.setSingleShot(True)
        self._next.timeout.connect(self._hand_on)

    @property
    def busy(self) -> bool:
        """Whether an answer is still to come."""
        return bool(self._open)

    @property
    def process_id(self) -> int:
        """0 while there is no process."""
        return 0 if self._process is None else int(self._process.processId())

    def start(self) -> None:
        """Start the process, if it does not run and was not ended for good."""
        if self._process is not None or self._stopped:
            return
        process = QProcess(self)
        environment = QProcessEnvironment.systemEnvironment()
        environment.insert("PYTHONPATH", os.pathsep.join([_root(), environment.value("PYTHONPATH", "")]).rstrip(os.pathsep))
        process.setProcessEnvironment(environment)
        process.setProgram(sys.executable)
        process.setArguments(["-c", f"from {self._module} import main; main()"])
        process.setProcessChannelMode(QProcess.ProcessChannelMode.SeparateChannels)
        process.setStandardErrorFile(QProcess.nullDevice())
        process.readyReadStandardOutput.connect(self._read)
        process.finished.connect(self._ended)
        process.errorOccurred.connect(self._failed)
        self._process, self._unpacker = process, Unpacker()
        process.start()
        for request in self._open.values():
            process.write(packed(request))

    def ask(self, kind: str, body: Any) -> int:
        """Ask for something; the number by which its replies are told. What was asked about a figure before is stale."""
        self._number += 1
        request = Request(self._number, kind, body)
        if kind == "figure":
            self.forget()
        self._open[request.number] = request
        if self._process is None:
            self.start()
        else:
            self._process.write(packed(request))
        return request.number

    def forget(self) -> None:
        """Nobody wants to hear of figures any more that were asked about."""
        self._open = {n: request for n, request in self._open.items() if request.kind != "figure"}

    def wait(self, until: Callable[[], bool] | None = None) -> None:
        """Wait for all answers, or until something holds."""
        while self.busy and self._process is not None and not (until is not None and until()):
            if not self._process.waitForReadyRead(WAIT):
                if self._process is not None and self._process.state() == QProcess.ProcessState.Running:
                    return
                self._ended()
            else:
                self._read()
            self._hand_all()

    def stop(self) -> None:
        """End the process for good; what was asked is forgotten."""
        self._stopped = True
        self._open.clear()
        self._come.clear()
        process, self._process = self._process, None
        if process is not None:
            process.readyReadStandardOutput.disconnect(self._read)
            process.finished.disconnect(self._ended)
            process.errorOccurred.disconnect(self._failed)
            process.kill()
            process.waitForFinished(2_000)
            process.deleteLater()

    def _read(self) -> None:
        if self._process is None:
            return
        for reply in self._unpacker.feed(bytes(self._process.readAllStandardOutput().data())):
            assert isinstance(reply, Reply)
            self._come.append(reply)
        if self._come and not self._next.isActive():
            self._next.start()

    def _hand_on(self) -> None:
        """Tell of one reply, if anybody still wants it."""
        if not self._come:
            return
        reply = self._come.popleft()
        if self._come:
            self._next.start()
        if reply.number in self._open:
            if reply.last:
                del self._open[reply.number]
            self.replied.emit(reply)

    def _hand_all(self) -> None:
        while self._come:
            self._hand_on()

    def _failed(self, error: QProcess.ProcessError) -> None:
        if error is QProcess.ProcessError.FailedToStart:
            self._ended()

    def _ended(self, *_: object) -> None:
        """The process is gone: whoever still waits for an answer is served by another."""
        process, self._process = self._process, None
        if process is None:
            return
        process.deleteLater()
        self._hand_all()
        for number in list(self._open):
            self._starts[number] = self._starts.get(number, 0) + 1
            if self._starts[number] >= MOST_STARTS:
                del self._open[number]
                self.lost.emit(number)
        if self._open:
            self.start()


def _root() -> str:
    """Where this program's package lies, so that its process finds it from anywhere."""
    from pathlib import Path

    return str(Path(__file__).resolve().parent.parent.parent)
