"""What somebody has read off the paper: as it is typed, what tolerance it passes, and a whole table of it."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Mapping
from fractions import Fraction

from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import measured as shown
from wisecompass.judgement.asked import finding_words, read_number
from wisecompass.judgement.prepared import Prepared, Reading, rows_of
from wisecompass.judgement.verdict import One

TOLERANCES = {"school": (2.0, 2.0), "shop": (0.5, 0.5)}
"""What is mostly let pass in schools and workshops, mm of paper and degrees."""

TIMES = 100.0
"""What is so many times too large or too small is misread, not misdrawn."""

LARGEST_TABLE = 1024 * 1024
"""Bytes of a table of readings at most."""

_WITH_SPREAD = re.compile(r"(.+?)\s*(?:±|\+-|\+/-)\s*(.+)")


def read_reading(prepared: Prepared, name: str, text: str, unit: str = "mm") -> Reading:
    """A reading as it is typed: ``25.3``, ``1 in``, ``25.3 ± 0.5`` with how well it could be read.

    Raises:
        BadGiven: no such figure, no number, or one that no drawing of this can measure.
    """
    true, _ = rows_of(prepared.honest, name)
    kind = kind_of_figure(prepared, name)
    match = _WITH_SPREAD.fullmatch(text.strip())
    value_text, spread_text = match.groups() if match else (text, "")
    words = f"measured {finding_words(name)}"
    value = float(read_number(value_text, words, kind, unit))
    spread: float | None = None
    if spread_text:
        spread = float(read_number(spread_text, f"how well {finding_words(name)} was read", kind, unit))
        if not spread > 0:
            raise BadGiven(name, f"{words} ± {quoted(spread_text)}: what can be read has an error above zero")
    should = shown(true, kind.unit, decimals=2)
    if kind in (Kind.LENGTH, Kind.ANGLE, Kind.AREA) and value <= 0 < true:
        raise BadGiven(
            name, f"{words} {quoted(value_text)}: nothing that is drawn measures that; it should be {should}", should
        )
    if true and value and not 1 / TIMES <= abs(value / true) <= TIMES:
        times = f"{abs(value / true):.3g} times"
        raise BadGiven(
            name, f"{words} {quoted(value_text)} is {times} what it should be, {should}: look at its unit", should
        )
    return Reading(value, spread)


def kind_of_figure(prepared: Prepared, name: str) -> Kind:
    """What kind of number a figure is; the distance of two letters is a length."""
    return prepared.sheet.problem.findings.get(name.split(":")[0], Kind.LENGTH)


def read_tolerance(text: str) -> tuple[float, float]:
    """``school``, ``shop`` or one's own, mm of paper and degrees: ``0.3`` or ``0.3, 0.25``.

    Raises:
        BadGiven: none of these.
    """
    if text in TOLERANCES:
        return TOLERANCES[text]
    pieces = [piece.strip() for piece in text.replace(";", ",").split(",")]
    try:
        sizes = [float(Fraction(piece.removesuffix("mm").removesuffix("°").strip())) for piece in pieces]
    except (ValueError, ZeroDivisionError):
        sizes = []
    if len(sizes) not in (1, 2) or not all(0 < size <= 100 for size in sizes):
        names = " and ".join(TOLERANCES)
        raise BadGiven(
            "tolerance", f"tolerance “{quoted(text)}” is none; there are {names}, or 0.3 mm, 0.25° as numbers", "shop"
        )
    return sizes[0], sizes[-1]


def passes(prepared: Prepared, name: str, one: One, tolerance: tuple[float, float]) -> bool:
    """Whether a figure is within a tolerance of the paper."""
    length, angle = tolerance
    kind = kind_of_figure(prepared, name)
    allowed = angle if kind.unit == "°" else length / prepared.sheet.scale
    return abs(one.value - one.true) <= allowed


def read_table(prepared: Prepared, data: bytes, unit: str = "mm") -> dict[str, Reading]:
    """Readings from a CSV table ``figure,measured`` with a third column ``accuracy`` if there is one.

    Raises:
        BadGiven: no such table, or a line of it that cannot be read.
    """
    if len(data) > LARGEST_TABLE:
        raise BadGiven("measured", "the table of readings is larger than 1 MB")
    try:
        lines = [*csv.reader(io.StringIO(data.decode("utf-8-sig")))]
    except (UnicodeDecodeError, csv.Error) as reason:
        raise BadGiven("measured", f"the table of readings cannot be read: {reason}") from None
    found: dict[str, Reading] = {}
    for number, line in enumerate((line for line in lines if any(cell.strip() for cell in line)), 1):
        cells = [cell.strip() for cell in line]
        if number == 1 and cells[0].lower() in ("figure", "finding", "name"):
            continue
        if len(cells) < 2:
            raise BadGiven("measured", f"line {number} of the readings: a figure and what it measures must stand there")
        text = cells[1] if len(cells) < 3 or not cells[2] else f"{cells[1]} ± {cells[2]}"
        try:
            if cells[0] in found:
                raise BadGiven("measured", f"“{quoted(cells[0])}” stands there twice")
            found[cells[0]] = read_reading(prepared, cells[0], text, unit)
        except BadGiven as reason:
            raise BadGiven("measured", f"line {number} of the readings: {reason}") from None
    return found


def readings(prepared: Prepared, typed: Mapping[str, str], unit: str = "mm") -> dict[str, Reading]:
    """All that was typed."""
    return {name: read_reading(prepared, name, text, unit) for name, text in typed.items() if text.strip()}
