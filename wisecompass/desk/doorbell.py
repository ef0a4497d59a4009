"""One window for folios that are opened from outside: who is started with a folio rings at the window that is there."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QDir, QLockFile, QObject, Signal
from PySide6.QtNetwork import QLocalServer, QLocalSocket

WAIT, PATIENCE = 1500, 15_000
"""Milliseconds that somebody who rings waits for the door, and then for an answer: the window may only just be coming up."""

LARGEST = 64 * 1024
"""Bytes of what is said at the door."""

HEARD = b"heard\n"


def door() -> str:
    """The name of this user's door; another one where settings lie elsewhere."""
    base = os.environ.get("XDG_RUNTIME_DIR") or os.environ.get("XDG_CONFIG_HOME") or str(Path.home())
    return f"wise-compass-{os.getuid()}-{abs(hash_of(base)):x}"


def hash_of(text: str) -> int:
    """The same number in every process."""
    import zlib

    return zlib.crc32(text.encode("utf-8", "surrogateescape"))


def ring(path: Path, name: str | None = None) -> bool:
    """Tell the window that is there of a folio; whether one answered."""
    socket = QLocalSocket()
    socket.connectToServer(name or door())
    if not socket.waitForConnected(WAIT):
        return False
    socket.write(os.fsencode(path.absolute()) + b"\n")
    socket.flush()
    answered = socket.waitForReadyRead(PATIENCE) and bytes(socket.readLine().data()) == HEARD
    socket.disconnectFromServer()
    return answered


class Doorbell(QObject):
    """Listens for folios that others are asked to open."""

    rung = Signal(object)
    """The path of a folio."""

    def __init__(self, parent: QObject | None = None, name: str | None = None) -> None:
        super().__init__(parent)
        self.name = name or door()
        self._waiting: list[Path] | None = []
        self._server = QLocalServer(self)
        self._server.setSocketOptions(QLocalServer.SocketOption.UserAccessOption)
        self._server.newConnection.connect(self._come)

    def listen(self) -> bool:
        """Begin; False where another window listens already. What a window that died left behind is cleared away; of two
        that begin at once one looks after the other."""
        lock = QLockFile(f"{QDir.tempPath()}/{self.name}.lock")
        lock.tryLock(PATIENCE)
        try:
            probe = QLocalSocket()
            probe.connectToServer(self.name)
            if probe.waitForConnected(WAIT):
                probe.disconnectFromServer()
                return False
            QLocalServer.removeServer(self.name)
            return self._server.listen(self.name)
        finally:
            lock.unlock()

    def _come(self) -> None:
        while (socket := self._server.nextPendingConnection()) is not None:
            socket.readyRead.connect(lambda socket=socket: self._read(socket))
            socket.disconnected.connect(socket.deleteLater)
            if socket.canReadLine():
                self._read(socket)

    def _read(self, socket: QLocalSocket) -> None:
        if socket.bytesAvailable() > LARGEST:
            socket.abort()
            return
        if not socket.canReadLine():
            return
        said = bytes(socket.readLine().data()).rstrip(b"\n")
        socket.write(HEARD)
        socket.flush()
        if said:
            path = Path(os.fsdecode(said))
            if self._waiting is None:
                self.rung.emit(path)
            else:
                self._waiting.append(path)

    def answer(self, open_it: Callable[[Path], None]) -> None:
        """Have folios opened from now on, those first that came before."""
        waiting, self._waiting = self._waiting or [], None
        self.rung.connect(open_it)
        for path in waiting:
            open_it(path)

    def close(self) -> None:
        self._server.close()


def at_the_door(bell: Doorbell, path: Path | None) -> bool:
    """Whether a window is to be opened here: not where another takes the folio. Of two that are started at once one
    listens, and the other rings at it."""
    for _ in range(3):
        if path is not None and ring(path, bell.name):
            return False
        if bell.listen() or path is None:
            return True
    return True
