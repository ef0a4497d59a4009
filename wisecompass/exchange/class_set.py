"""Worksheets as files: one set, or a class set in which every pupil has other numbers, with one key for all."""

from __future__ import annotations

import csv
import io
import json
import os
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, ProcessPoolExecutor, wait
from dataclasses import asdict, dataclass, replace
from multiprocessing import get_context
from pathlib import Path
from typing import Any

from wisecompass.drafting.errors import BadDocument, BadGiven
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.wording import number_text
from wisecompass.folio.page import Page, blank
from wisecompass.folio.paper import Paper
from wisecompass.folio.practice import Question, asked_words, questions
from wisecompass.folio.scales import scale_text
from wisecompass.folio.title_block import Title
from wisecompass.folio.worksheets import Course, answer_page, drawn, question_page, stage_pages
from wisecompass.folio.written import SMALL_HEIGHT, text, wrapped

KINDS = ("questions", "answers", "stages")
"""The sheets that there are of a question."""

MOST_PUPILS = 200

FORMAT, VERSION = "wise-compass set", 1

HEADS = ("sheet", "question", "figure", "measured", "accuracy", "scale")
"""Columns of the table in which it is written what the pupils measured."""


@dataclass(frozen=True)
class Order:
    """What is wanted: problems or families, how many questions each pupil gets, and of which level."""

    what: tuple[str, ...]
    count: int
    seed: int
    level: int = 1
    kinds: tuple[str, ...] = KINDS
    pupils: int = 1

    def check(self) -> None:
        """Raises BadGiven where it cannot be."""
        if not 1 <= self.pupils <= MOST_PUPILS:
            nearest = "1" if self.pupils < 1 else str(MOST_PUPILS)
            raise BadGiven("class", f"a class of {self.pupils} cannot be: there must be 1 to {MOST_PUPILS}", nearest)
        questions(self.what, self.count, self.seed, self.level)

    def of(self, pupil: int, paper: Paper) -> list[Question]:
        """The questions of one pupil, counted from 1."""
        return list(questions(self.what, self.count, self.seed * 1000 + pupil, self.level, paper))


def pages(questions: Sequence[Question], course: Course, kind: str, prefix: str = "") -> Iterator[Page]:
    """The pages of one kind of sheet."""
    for n, question in enumerate(questions, 1):
        number = f"{prefix}{n}"
        if kind == "questions":
            yield question_page(question, course, number)
        elif kind == "answers":
            yield answer_page(question, course, number)
        else:
            yield from stage_pages(question, course, number, drawn(question, course))


def sheets(questions: Sequence[Question], course: Course, kind: str, prefix: str = "") -> bytes:
    """One kind of sheet as a PDF document."""
    return _document(list(pages(questions, course, kind, prefix)), course, kind)


def _document(made: Sequence[Page], course: Course, kind: str) -> bytes:
    from wisecompass.exchange.pdf import pdf

    return pdf(list(made), f"{course.work}: {kind}")


def make_set(
    order: Order,
    course: Course,
    folder: Path,
    tell: Callable[[str], None] = lambda _: None,
    stopped: Callable[[], bool] = lambda: False,
    aside: bool = False,
) -> list[Path]:
    """A class set in a folder: for each pupil a document of every kind, one key for all, and ``set.json``, by which it is
    marked, with ``measured.csv``, in which only what was measured is missing. ``tell`` says how far it is; where it is
    ``stopped`` what there is stays, without key. What is made ``aside`` is made in other processes, even for one pupil.

    Raises:
        BadGiven: the order cannot be. OSError: the folder cannot be written.
    """
    order.check()
    folder.mkdir(parents=True, exist_ok=True)
    made: dict[int, list[Question]] = {}
    scales: dict[int, list[str]] = {}
    written: list[Path] = []
    cores = min(os.cpu_count() or 1, order.pupils)
    if cores < 2 and not aside:
        for pupil in range(1, order.pupils + 1):
            if stopped():
                return written
            _keep(_of_pupil(order, course, pupil), folder, made, scales, written)
            tell(f"{pupil} of {order.pupils}")
    else:
        with ProcessPoolExecutor(cores, get_context("spawn")) as pool:
            waiting: set[Future[_Made]] = {
                pool.submit(_of_pupil, order, course, pupil) for pupil in range(1, order.pupils + 1)
            }
            while waiting:
                done, waiting = wait(waiting, timeout=0.2, return_when=FIRST_COMPLETED)
                for each in done:
                    _keep(each.result(), folder, made, scales, written)
                if done:
                    tell(f"{len(made)} of {order.pupils}")
                if stopped():
                    pool.shutdown(cancel_futures=True)
                    return written
    pupils = [made[n] for n in sorted(made)]
    written += [
        _write(folder / "key.pdf", key(pupils, course)),
        _write(folder / "set.json", as_json(pupils, course).encode()),
        _write(folder / "measured.csv", to_fill(pupils, [scales[n] for n in sorted(made)]).encode()),
    ]
    return written


@dataclass(frozen=True)
class _Made:
    pupil: int
    questions: list[Question]
    scales: list[str]
    """Of the question sheets."""
    files: dict[str, bytes]


def _of_pupil(order: Order, course: Course, pupil: int) -> _Made:
    asked = order.of(pupil, course.paper)
    own = replace(course, work=f"{course.work} {pupil}") if order.pupils > 1 else course
    prefix = f"{pupil}." if order.pupils > 1 else ""
    first = list(pages(asked, own, KINDS[0], prefix))
    files = {
        kind: _document(first, own, kind) if kind == KINDS[0] else sheets(asked, own, kind, prefix) for kind in order.kinds
    }
    return _Made(pupil, asked, [scale_text(page.scale) for page in first], files)


def _keep(
    found: _Made, folder: Path, made: dict[int, list[Question]], scales: dict[int, list[str]], written: list[Path]
) -> None:
    made[found.pupil], scales[found.pupil] = found.questions, found.scales
    for kind, content in found.files.items():
        written.append(_write(folder / f"{found.pupil:02d}-{kind}.pdf", content))


def _write(path: Path, content: bytes) -> Path:
    """A file that is whole or not there."""
    fresh = path.with_name(f".{path.name}.part")
    try:
        fresh.write_bytes(content)
        fresh.replace(path)
    finally:
        fresh.unlink(missing_ok=True)
    return path


# --------------------------------------------------------------------------------------------------------------- key
COLUMNS = 2


def key(pupils: Sequence[Sequence[Question]], course: Course) -> bytes:
    """All answers of all pupils as a PDF document."""
    from wisecompass.exchange.pdf import pdf

    return pdf(list(key_pages(pupils, course)), f"{course.work}: key")


def key_pages(pupils: Sequence[Sequence[Question]], course: Course) -> Iterator[Page]:
    """The answers in columns, pupil by pupil."""
    paper, size = course.paper, course.paper.lettering
    title = Title(work=course.work, sheet="Key", document_type="answers")
    empty = blank(paper, title, course.conventions)
    left, low, right, high = paper.frame
    width = (right - left - 10 * size) / COLUMNS
    height, pitch = SMALL_HEIGHT * size, SMALL_HEIGHT * 1.7 * size
    lines = [
        line
        for n, asked in enumerate(pupils, 1)
        for k, question in enumerate(asked, 1)
        for line in wrapped(_in_key(question, f"{n}.{k}" if len(pupils) > 1 else f"{k}"), width - 4 * size, height)
    ]
    top, bottom = high - 12 * size, low + (title.height + 4) * size
    each = max(1, int((top - bottom) / pitch))
    for first in range(0, max(1, len(lines)), each * COLUMNS):
        marks: list[Mark] = []
        for column in range(COLUMNS):
            x = left + 5 * size + column * width
            for row, line in enumerate(lines[first + column * each : first + (column + 1) * each]):
                marks.append(text(x, top - row * pitch, line, height))
        yield replace(empty, brief=marks)


def _in_key(question: Question, number: str) -> str:
    told = []
    for name, value in question.answers.items():
        unit = question.found.findings[name].unit
        told.append(f"{asked_words(question, name)} = {number_text(value, 2)}{'' if unit == '°' else ' '}{unit}".strip())
    return f"{number}  {question.found.title}, {question.method}: {', '.join(told)}"


# -------------------------------------------------------------------------------------------------------------- files
def as_json(pupils: Sequence[Sequence[Question]], course: Course) -> str:
    """A set as it is kept, to be marked by."""
    scales = {"paper": course.paper.size, "landscape": course.paper.landscape}
    told = [[{**asdict(each), "answers": each.answers} for each in asked] for asked in pupils]
    return json.dumps({"format": FORMAT, "version": VERSION, "work": course.work, **scales, "sheets": told}, indent=1)


def to_fill(pupils: Sequence[Sequence[Question]], scales: Sequence[Sequence[str]]) -> str:
    """The table in which it is written what was measured, all but that filled in."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(HEADS)
    for sheet, (asked, drawn_at) in enumerate(zip(pupils, scales, strict=True), 1):
        for number, (question, scale) in enumerate(zip(asked, drawn_at, strict=True), 1):
            table.writerows((sheet, number, name, "", "", scale) for name in question.answers)
    return out.getvalue()


def read_set(path: Path) -> list[list[Question]]:
    """A set that was kept.

    Raises:
        BadDocument: it is none, or of a newer version.
    """
    try:
        told: Any = json.loads(path.read_text("utf-8"))
    except OSError as reason:
        raise BadDocument(f"{path} cannot be read: {reason.strerror or reason}") from None
    except (ValueError, RecursionError):
        raise BadDocument(f"{path} is no set of worksheets: it is not JSON") from None
    if not isinstance(told, dict) or told.get("format") != FORMAT:
        raise BadDocument(f"{path} is no set of worksheets")
    if told.get("version") != VERSION:
        raise BadDocument(f"{path} is a set of version {told.get('version')}; this program reads {VERSION}")
    names = ("problem", "method", "givens", "level", "kind", "solution")
    try:
        return [[Question(**{name: each[name] for name in names}) for each in asked] for asked in told["sheets"]]
    except (KeyError, TypeError):
        raise BadDocument(f"{path} is a set with a question that is not whole") from None
