"""CSV of points and findings (RFC 4180): the same columns in every row, nothing that a spreadsheet takes for a formula."""

from __future__ import annotations

import csv as csv_module
import io
from fractions import Fraction

from wisecompass.drafting.answers import bound_text
from wisecompass.drafting.solve import Certificate

HEADER = ("kind", "name", "x", "y", "z", "value", "unit", "bound", "closed form")

FORMULA = ("=", "+", "-", "@", "\t", "\r")
"""Signs with which a cell begins that spreadsheets reckon out."""


def csv(certificate: Certificate) -> str:
    """Findings with value, unit, bound and closed form, then points: x and y of the sheet, or x, distance in front of VP
    and height above HP. A finding that is a point fills x, y and z, a list one row an element."""
    buffer = io.StringIO(newline="")
    writer = csv_module.writer(buffer, lineterminator="\r\n")
    writer.writerow(HEADER)
    for answer in certificate.answers:
        unit, closed = answer.kind.unit, answer.closed_form or ""
        values = answer.value if isinstance(answer.value, list) else [answer.value]
        written = [Fraction(repr(each)) for each in values if isinstance(each, float)]
        bound = bound_text(answer.bound_as_shown(written)) if answer.balls else ""
        if isinstance(answer.value, list) and answer.kind.value == "point":
            writer.writerow(_row("finding", answer.name, *answer.value, unit=unit, bound=bound))
        elif isinstance(answer.value, list):
            for index, value in enumerate(answer.value, 1):
                writer.writerow(_row("finding", f"{answer.name} {index}", value=value, unit=unit, bound=bound))
        else:
            row = _row("finding", answer.name, value=answer.value, unit=unit, bound=bound, closed=closed)
            writer.writerow(row)
    for name, place in certificate.points.items():
        writer.writerow(_row("point", name, *place, unit="mm"))
    return buffer.getvalue()


def _row(
    kind: str, name: str, *place: float, value: object = None, unit: str = "", bound: str = "", closed: str = ""
) -> list[str]:
    """One row of all columns."""
    x, y, z = (*map(repr, place), "", "", "")[:3]
    shown = "" if value is None else repr(value) if isinstance(value, float) else str(value)
    return [kind, safe(name), x, y, z, shown if isinstance(value, float) else safe(shown), unit, bound, safe(closed)]


def safe(text: str) -> str:
    """Text that stays text in a spreadsheet: an apostrophe stands before what would be a formula."""
    return f"'{text}" if text.startswith(FORMULA) else text
