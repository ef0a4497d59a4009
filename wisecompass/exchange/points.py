"""Named points in space as CSV: ``name,x,front,above``, in mm. Read as givens, written from what was found."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping
from pathlib import Path

from wisecompass.arithmetic import PLAIN
from wisecompass.arithmetic.expression import Unreadable, one_line, quoted, read, with_unit
from wisecompass.drafting.errors import BadDocument
from wisecompass.drafting.givens import Form
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.wording import number_text
from wisecompass.exchange.csv import safe
from wisecompass.folio.files import read_text

HEADER = ("name", "x", "front", "above")

MOST_ROWS, LARGEST = 10_000, 1024 * 1024


def read_points(text: str, source: str = "the table") -> dict[str, tuple[str, str, str]]:
    """Coordinates by name, as typed; a head line is allowed, empty lines and lines that begin with # are passed over.

    Raises:
        BadDocument: with the line and column of what is wrong.
    """
    found: dict[str, tuple[str, str, str]] = {}
    text = text.removeprefix("\N{BYTE ORDER MARK}")
    first = next((line for line in text.splitlines() if line.strip() and not line.startswith("#")), "")
    separator = ";" if first.count(";") >= 3 else "\t" if first.count("\t") >= 3 else ","
    try:
        rows = list(csv.reader(io.StringIO(text), delimiter=separator, strict=True))
    except csv.Error as reason:
        raise BadDocument(f"{source} is not a table: {reason}") from None
    if len(rows) > MOST_ROWS:
        raise BadDocument(f"{source} has {len(rows)} lines; at most {MOST_ROWS} are read")
    for number, row in enumerate(rows, 1):
        cells = [one_line(cell) for cell in row]
        if not any(cells) or cells[0].startswith("#"):
            continue
        if not found and tuple(cell.casefold() for cell in cells) == HEADER:
            continue
        if len(cells) != len(HEADER):
            place = f"{source}, line {number}"
            raise BadDocument(f"{place}: {len(cells)} columns where name, x, front and above are wanted")
        name = cells[0].removeprefix("'")
        if not name or len(name) > 12:
            raise BadDocument(f"{source}, line {number}, column 1: “{quoted(name)}” is no name of a point")
        if name in found:
            raise BadDocument(f"{source}, line {number}, column 1: {name} stands there twice")
        for column, cell in enumerate(cells[1:], 2):
            try:
                read(cell, "mm")
            except Unreadable as reason:
                head = HEADER[column - 1]
                raise BadDocument(f"{source}, line {number}, column {column} ({head}): {reason}") from None
        found[name] = (cells[1], cells[2], cells[3])
    if not found:
        raise BadDocument(f"{source} holds no points: a line reads like A,10,12,16")
    return found


def load_points(path: Path) -> dict[str, tuple[str, str, str]]:
    """The same of a file.

    Raises:
        BadDocument: also where the file cannot be read.
    """
    return read_points(read_text(path, LARGEST, "a table of points"), quoted(path.name))


def as_givens(problem: Problem, points: Mapping[str, tuple[str, str, str]]) -> dict[str, str]:
    """The givens that these points set: those that are points by their names; else distances of A and B.

    Raises:
        BadDocument: none of the points is a given of the problem.
    """
    forms = {item.name: item.form for item in problem.given_list}
    givens = {
        name: "; ".join(_in_mm(value) for value in points[name])
        for name, form in forms.items()
        if form is Form.SPACE_POINT and name in points
    }
    for point, prefix in (("A", "a_"), ("A", ""), ("B", "b_")):
        if point in points and f"{prefix}front" in forms and f"{prefix}above" in forms:
            givens[f"{prefix}front"], givens[f"{prefix}above"] = (_in_mm(value) for value in points[point][1:])
    if "apart" in forms and "A" in points and "B" in points:
        apart = read(points["B"][0], "mm").evaluate(PLAIN) - read(points["A"][0], "mm").evaluate(PLAIN)
        givens["apart"] = _in_mm(number_text(float(apart), 9).replace("−", "-"))
    if not givens:
        wanted = ", ".join(name for name, form in forms.items() if form is Form.SPACE_POINT) or "A or B"
        there = quoted(", ".join(list(points)[:6]))
        raise BadDocument(f"none of the points {there} is a given of {problem.id}; it takes {wanted}")
    return givens


def _in_mm(value: str) -> str:
    """A coordinate as typed, with its unit written out, whatever unit the folio is in."""
    return with_unit(value, "mm")


def write_points(points: Mapping[str, list[float]]) -> str:
    """The points in space among ``points`` (those with three coordinates), in their order."""
    buffer = io.StringIO(newline="")
    writer = csv.writer(buffer, lineterminator="\r\n")
    writer.writerow(HEADER)
    for name, place in points.items():
        if len(place) == len(HEADER) - 1:
            writer.writerow([safe(name), *(f"{value:.9f}".rstrip("0").rstrip(".") for value in place)])
    return buffer.getvalue()
