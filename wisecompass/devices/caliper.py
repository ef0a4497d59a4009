"""A caliper that types what it reads: the reading of what it sends, and a simulated one behind the same port."""

from __future__ import annotations

import re
import threading
from collections.abc import Callable

from wisecompass.arithmetic.expression import quoted
from wisecompass.devices.plug import Plug, Served
from wisecompass.devices.port import Port, PortTrouble
from wisecompass.drafting.errors import WiseCompassError

INCH = 25.4

LARGEST = 10_000.0
"""No caliper opens farther, mm."""

_READING = re.compile(r"\s*([+-]?\d{1,9}(?:[.,]\d{1,6})?)\s*(mm|in|inch|\")?\s*", re.IGNORECASE)


class NoReading(WiseCompassError):
    """What came is no reading."""


def reading(text: str) -> float:
    """A line that a caliper sent, in mm; without a unit it is mm.

    Raises:
        NoReading: it is none, or past what a caliper opens.
    """
    match = _READING.fullmatch(text)
    if match is None:
        raise NoReading(f"the caliper sent “{quoted(text.strip()[:30])}”, which is no reading; send it again")
    value = float(match[1].replace(",", "."))
    mm = value * INCH if match[2] and match[2].lower() != "mm" else value
    if abs(mm) > LARGEST:
        raise NoReading(f"the caliper sent {mm:g} mm, and no caliper opens farther than {LARGEST:g} mm; send it again")
    return mm


class Readings:
    """Listens at a port, off the interface's thread: ``got`` hears each reading in mm, ``said`` what is wrong."""

    def __init__(self, port: Port, got: Callable[[float], None], said: Callable[[str], None]) -> None:
        self._port, self._got, self._said = port, got, said
        self._end = threading.Event()
        self._thread = threading.Thread(target=self._listen, daemon=True)

    def start(self) -> None:
        self._thread.start()

    def stop(self) -> None:
        self._end.set()
        if self._thread is not threading.current_thread():
            self._thread.join(2.0)
        self._port.close()

    def _listen(self) -> None:
        while not self._end.is_set():
            try:
                line = self._port.line(0.1)
                if line:
                    self._got(reading(line))
            except NoReading as reason:
                self._said(str(reason))
            except PortTrouble as reason:
                self._said(str(reason))
                return


class Caliper:
    """A caliper that is not there: how far it is open, its zero, and what it shows."""

    STEP_MM, STEP_INCH = 0.01, 0.0005

    def __init__(self) -> None:
        self.inches = False
        self._open = self._zero = 0.0

    def set(self, mm: float) -> None:
        """Open it so far."""
        self._open = mm

    def zero(self) -> None:
        """From here it counts."""
        self._zero = self._open

    @property
    def shown(self) -> str:
        """What stands in its window."""
        mm = self._open - self._zero
        if self.inches:
            return f"{round(mm / INCH / self.STEP_INCH) * self.STEP_INCH:.4f} in"
        return f"{round(mm / self.STEP_MM) * self.STEP_MM:.2f} mm"


class CaliperOnPlug(Served):
    """The simulated caliper behind a serial port."""

    def __init__(self, caliper: Caliper) -> None:
        self.caliper = caliper
        super().__init__(Plug("caliper"))

    def work(self, lines: list[str], seconds: float) -> list[str]:
        return []  # it only ever speaks

    def press(self) -> None:
        """Send what it shows."""
        self.plug.say([self.caliper.shown])
