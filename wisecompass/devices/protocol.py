"""What a sender and a plotter say to one another, line by line.

The sender numbers its lines from 1 and adds a sum: ``N12 G1 X3 Y4 *1f0a``. The plotter answers ``ok 12`` when it has taken
the line, ``done 12`` when it has carried it out, ``again 12`` when it wants line 12 (what came was garbled or another), and
``stop 12 X.. Y.. reason`` when it has stopped within line 12: the pen is lifted where it says, and all that it had not begun
is forgotten. To ``?`` it answers ``at D taken T X.. Y.. ready`` (or ``busy``, or ``stopped reason``): D lines are done, T
are taken. Places are mm from the machine's origin.

A machine that knows no numbers gets bare lines, one at a time, and answers ``ok`` or ``error reason``.
"""

from __future__ import annotations

import binascii
import re
from dataclasses import dataclass

from wisecompass.geometry.curves import Pair

STATUS = "?"

_FRAMED = re.compile(r"N(\d{1,9}) (.*) \*([0-9a-f]{4})")
_ANSWER = re.compile(r"(ok|done|again) (\d{1,9})")
_STOP = re.compile(r"stop (\d{1,9}) X(-?\d+\.?\d*) Y(-?\d+\.?\d*) (.{1,80})")
_AT = re.compile(r"at (\d{1,9}) taken (\d{1,9}) X(-?\d+\.?\d*) Y(-?\d+\.?\d*) (ready|busy|stopped .{1,80})")


def framed(number: int, line: str) -> str:
    """A line with its number and its sum."""
    body = f"N{number} {line}"
    return f"{body} *{_sum(body)}"


def _sum(body: str) -> str:
    return f"{binascii.crc_hqx(body.encode('ascii', 'replace'), 0):04x}"


def unframed(text: str) -> tuple[int, str] | None:
    """Number and line of what came; None where its sum does not fit."""
    match = _FRAMED.fullmatch(text)
    if match is None or _sum(text.rpartition(" *")[0]) != match[3]:
        return None
    return int(match[1]), match[2]


@dataclass(frozen=True)
class Answer:
    """What a plotter says. ``kind`` is ok, done, again, stop, at, or noise."""

    kind: str
    number: int = 0
    taken: int = 0
    place: Pair = (0.0, 0.0)
    words: str = ""


def answer(text: str) -> Answer:
    """What an answer means; what is none is noise."""
    if match := _ANSWER.fullmatch(text):
        return Answer(match[1], int(match[2]))
    if match := _STOP.fullmatch(text):
        return Answer("stop", int(match[1]), place=(float(match[2]), float(match[3])), words=match[4])
    if match := _AT.fullmatch(text):
        return Answer("at", int(match[1]), int(match[2]), (float(match[3]), float(match[4])), match[5])
    return Answer("noise", words=text[:80])
