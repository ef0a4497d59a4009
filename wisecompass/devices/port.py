"""A serial port, spoken to line by line through pyserial: a plug, a pseudo terminal or a socket, all by their names."""

from __future__ import annotations

import contextlib
import termios
import time
from typing import Protocol

import serial
from serial.tools import list_ports

from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.errors import WiseCompassError

LONGEST_LINE = 1024
"""Bytes of a line; more without an end is noise and is cut."""

LOOK = 0.02
"""Seconds that a read waits at most before it looks at the clock."""


GONE = (OSError, serial.SerialException, TypeError, termios.error)
"""What comes of a port that has gone, from whichever depth."""


class PortTrouble(WiseCompassError):
    """A port that is not there, is busy, or has gone."""


class Port(Protocol):
    """Lines out and in. What is lost on the way is the affair of who speaks through it."""

    def send(self, line: str) -> None:
        """Send a line. Raises: PortTrouble: the port has gone."""

    def line(self, timeout: float) -> str | None:
        """The next line that comes, None where none does within ``timeout`` seconds. Raises: PortTrouble: it has gone."""

    def close(self) -> None:
        """Let the port go; never raises."""


class SerialPort:
    """A port through pyserial, held alone for as long as it is open."""

    def __init__(self, name: str, baud: int = 115200) -> None:
        """Raises: PortTrouble: the port is not there, is busy or cannot be opened; the sentence says which."""
        self.name = name
        self._kept = bytearray()
        try:
            self._serial = serial.serial_for_url(name, baud, timeout=LOOK, write_timeout=2.0, **_alone(name))
        except (*GONE, ValueError) as reason:
            raise PortTrouble(_why(name, reason)) from None

    def send(self, line: str) -> None:
        try:
            self._serial.write(line.encode("ascii", "replace") + b"\n")
            self._serial.flush()
        except GONE as reason:
            raise PortTrouble(f"{quoted(self.name)} does not take what is sent any more: {_short(reason)}") from None

    def line(self, timeout: float) -> str | None:
        until = time.monotonic() + timeout
        while b"\n" not in self._kept:
            if len(self._kept) > LONGEST_LINE:
                self._kept.clear()
            try:
                self._kept += self._serial.read(max(1, self._serial.in_waiting))
            except GONE as reason:
                raise PortTrouble(f"{quoted(self.name)} has gone: {_short(reason)}") from None
            if b"\n" not in self._kept and time.monotonic() >= until:
                return None
        line, _, rest = self._kept.partition(b"\n")
        self._kept = bytearray(rest)
        return line.decode("ascii", "replace").strip()

    def close(self) -> None:
        with contextlib.suppress(*GONE):
            self._serial.close()


def _alone(name: str) -> dict[str, bool]:
    """Nobody else may open a plug or pseudo terminal meanwhile; sockets are alone by themselves."""
    return {} if "://" in name else {"exclusive": True}


def _short(reason: Exception) -> str:
    text = getattr(reason, "strerror", None) or str(reason)
    return " ".join(str(text).split())[:120]


def _why(name: str, reason: Exception) -> str:
    number, text = getattr(reason, "errno", None), str(reason)
    if number == 2 or "No such file" in text or "Connection refused" in text:
        there = ", ".join(known_ports()) or "none"
        return f"the port {quoted(name)} is not there; ports of this computer: {there}"
    if number in (11, 16) or "exclusively lock" in text or "busy" in text.lower():
        return f"the port {quoted(name)} is busy: another program holds it"
    if number == 13:
        return f"the port {quoted(name)} may not be used by you: ask for membership in the group that owns it, often dialout"
    return f"the port {quoted(name)} cannot be opened: {_short(reason)}"


def known_ports() -> list[str]:
    """Names of the ports of this computer."""
    return sorted(str(each.device) for each in list_ports.comports())
