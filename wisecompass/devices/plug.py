"""The plug of a simulated machine: a pseudo terminal with a name that stays, served by a thread, so that whoever speaks
to the machine speaks through a real serial port."""

from __future__ import annotations

import contextlib
import os
import pty
import select
import tempfile
import threading
import time
import tty
from collections.abc import Callable
from pathlib import Path

from wisecompass.devices.plotter import Plotter

LOOK = 0.005
"""Seconds between looks at the line."""


class Plug:
    """A pseudo terminal behind a link whose name stays when the plug is drawn and put in again."""

    def __init__(self, name: str) -> None:
        self._folder = tempfile.TemporaryDirectory(prefix="wise-compass-")
        self.name = str(Path(self._folder.name) / name)
        self._master = self._slave = -1
        self._kept = bytearray()
        self.put_in()

    def put_in(self) -> None:
        self._master, self._slave = pty.openpty()
        tty.setraw(self._slave)
        os.set_blocking(self._master, False)
        link = Path(self.name)
        link.unlink(missing_ok=True)
        link.symlink_to(os.ttyname(self._slave))
        self._kept.clear()

    def draw(self) -> None:
        """Pull the plug: who has the port open finds it gone."""
        Path(self.name).unlink(missing_ok=True)
        for end in (self._master, self._slave):
            if end >= 0:
                os.close(end)
        self._master = self._slave = -1

    @property
    def there(self) -> bool:
        return self._master >= 0

    def lines(self, wait: float) -> list[str]:
        """Whole lines that have come within a while."""
        if not self.there:
            time.sleep(wait)
            return []
        with contextlib.suppress(OSError, ValueError):
            ready, _, _ = select.select([self._master], [], [], wait)
            if ready:
                self._kept += os.read(self._master, 65536)
        *whole, rest = self._kept.split(b"\n")
        self._kept = bytearray(rest[-4096:])
        return [line.decode("ascii", "replace") for line in whole]

    def say(self, lines: list[str]) -> None:
        data = "".join(f"{line}\n" for line in lines).encode("latin-1", "replace")
        while data and self.there:
            try:
                data = data[os.write(self._master, data) :]
            except BlockingIOError:
                time.sleep(LOOK)
            except OSError:
                return

    def close(self) -> None:
        self.draw()
        with contextlib.suppress(OSError):
            self._folder.cleanup()


class Served:
    """A thread that works a plug until it is closed."""

    def __init__(self, plug: Plug) -> None:
        self.plug = plug
        self.lock = threading.RLock()
        self._end = threading.Event()
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._thread.start()

    @property
    def name(self) -> str:
        """By which a sender opens the port."""
        return self.plug.name

    def _run(self) -> None:
        last = time.monotonic()
        while not self._end.is_set():
            lines = self.plug.lines(LOOK)
            with self.lock:
                now = time.monotonic()
                said = self.work(lines, now - last)
                last = now
            if said:
                self.plug.say(said)

    def work(self, lines: list[str], seconds: float) -> list[str]:
        """What came, and how long it is since; what is answered."""
        raise NotImplementedError

    def close(self) -> None:
        self._end.set()
        self._thread.join(2.0)
        self.plug.close()


class PlotterOnPlug(Served):
    """The simulated plotter behind a serial port; ``hurry`` times as fast as a real one."""

    def __init__(self, plotter: Plotter, hurry: float = 1.0, changed: Callable[[], None] | None = None) -> None:
        self.plotter, self.hurry, self._changed = plotter, hurry, changed
        super().__init__(Plug("plotter"))

    def work(self, lines: list[str], seconds: float) -> list[str]:
        said = [each for line in lines if line.strip() for each in self.plotter.take(line)]
        said += self.plotter.pass_time(min(seconds, 0.25) * self.hurry)
        if not self.plotter.plugged and self.plug.there:
            self.plug.draw()
            said = []
        if (lines or said) and self._changed is not None:
            self._changed()
        return said

    def fail(self, fault: str, after: float = 0.0) -> None:
        with self.lock:
            self.plotter.fail(fault, after)

    def mend(self) -> None:
        """Everything in order again, the plug put in."""
        with self.lock:
            self.plotter.mend()
            if not self.plug.there:
                self.plug.put_in()
