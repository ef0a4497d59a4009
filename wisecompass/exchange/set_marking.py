"""Marking a class set: what all pupils measured, as one table, against the set that they were given."""

from __future__ import annotations

import csv
import io
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.errors import BadGiven, WiseCompassError
from wisecompass.exchange.class_set import HEADS
from wisecompass.folio.practice import Question
from wisecompass.judgement.hands import OnPaper
from wisecompass.judgement.marking import LARGEST_TABLE, passes, read_reading
from wisecompass.judgement.prepared import Prepared, Reading, prepare
from wisecompass.judgement.verdict import Verdict, judge


@dataclass(frozen=True)
class Marked:
    """One question of one sheet: what was said of it; ``trouble`` where it could not be marked."""

    sheet: int
    question: int
    problem: str
    verdict: str = ""
    said: str = ""
    passed: int = 0
    measured: int = 0
    slips: tuple[str, ...] = ()
    trouble: str = ""


@dataclass(frozen=True)
class SetMarked:
    """A whole set: each question of each sheet, sheets that are missing, and of each question its common slips."""

    marked: tuple[Marked, ...]
    missing: tuple[int, ...]
    common: Mapping[int, Mapping[str, int]] = field(default_factory=dict)


def mark_set(sheets: Sequence[Sequence[Question]], data: bytes, tolerance: tuple[float, float]) -> SetMarked:
    """Mark a set by a table ``sheet,question,figure,measured`` with columns ``accuracy`` and ``scale`` if there are such.

    Raises:
        BadGiven: it is no such table; a line that cannot be read is said with its question.
    """
    rows = _rows(data, sheets)
    marked = []
    for (sheet, number), lines in rows.items():
        question = sheets[sheet - 1][number - 1]
        try:
            marked.append(_one(question, sheet, number, lines, tolerance))
        except (WiseCompassError, ArithmeticError) as reason:
            marked.append(Marked(sheet, number, question.problem, trouble=str(reason)))
    given = {sheet for sheet, _ in rows}
    missing = tuple(n for n in range(1, len(sheets) + 1) if n not in given)
    common: dict[int, Counter[str]] = {}
    for each in marked:
        for words in each.slips[:1]:
            common.setdefault(each.question, Counter())[words] += 1
    ordered = {number: dict(counts.most_common()) for number, counts in sorted(common.items())}
    return SetMarked(tuple(marked), missing, ordered)


_Line = tuple[str, str, str]


def _rows(data: bytes, sheets: Sequence[Sequence[Question]]) -> dict[tuple[int, int], list[_Line]]:
    """The lines of each question: figure, what it measures, and the scale of the drawing."""
    if len(data) > LARGEST_TABLE:
        raise BadGiven("measured", "the table is larger than 1 MB")
    try:
        lines = [*csv.reader(io.StringIO(data.decode("utf-8-sig")))]
    except (UnicodeDecodeError, csv.Error) as reason:
        raise BadGiven("measured", f"the table cannot be read: {reason}") from None
    found: dict[tuple[int, int], list[_Line]] = {}
    for n, line in enumerate(lines, 1):
        cells = [cell.strip() for cell in line] + [""] * (len(HEADS) - len(line))
        if not any(cells) or (n == 1 and cells[0].lower() == HEADS[0]):
            continue
        sheet, number = (_number(cells[k], HEADS[k], n) for k in (0, 1))
        if not 1 <= sheet <= len(sheets):
            raise BadGiven("measured", f"line {n}: the set has {len(sheets)} sheets, and no {sheet}")
        if not 1 <= number <= len(sheets[sheet - 1]):
            raise BadGiven("measured", f"line {n}: sheet {sheet} has {len(sheets[sheet - 1])} questions, and no {number}")
        if cells[3]:
            text = f"{cells[3]} ± {cells[4]}" if cells[4] else cells[3]
            found.setdefault((sheet, number), []).append((cells[2], text, cells[5]))
    if not found:
        raise BadGiven("measured", f"nothing is measured in the table; its columns are {', '.join(HEADS)}")
    return found


def _number(text: str, name: str, line: int) -> int:
    try:
        return int(text)
    except ValueError:
        raise BadGiven("measured", f"line {line}: “{quoted(text)}” is no number of a {name}") from None


def prepared_for(question: Question, scale: float) -> Prepared:
    """A question's sheet made ready to be judged."""
    method = question.found.method(question.method)
    return prepare(OnPaper(question.found, question.typed, method, scale, solution=question.solution))


def _one(question: Question, sheet: int, number: int, lines: list[_Line], tolerance: tuple[float, float]) -> Marked:
    from wisecompass.folio.scales import read_scale

    told = next((scale for *_, scale in lines if scale), "1:1")
    prepared = prepared_for(question, float(read_scale(told) or 1))
    readings: dict[str, Reading] = {name: read_reading(prepared, name, text) for name, text, _ in lines}
    verdict: Verdict = judge(prepared, readings)
    passed = sum(passes(prepared, name, one, tolerance) for name, one in verdict.measured.items())
    slips = tuple(each.words for each in verdict.slips)
    return Marked(sheet, number, question.problem, verdict.kind, verdict.said, passed, len(readings), slips)
