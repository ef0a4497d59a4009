"""The logbook: a SQLite file of the drafter's own, with every piece of work, what it measured and the verdict."""

from __future__ import annotations

import csv
import io
import json
import os
import sqlite3
from collections.abc import Iterator, Mapping, Sequence
from contextlib import closing, contextmanager
from dataclasses import asdict, dataclass, field, fields
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from wisecompass.drafting.errors import BadDocument, BadGiven
from wisecompass.judgement.habits import Habit, Stray, habits, rated, remembered

VERSION = 1
"""Of the tables; a logbook of a newer one is left alone."""

PATIENCE = 5.0
"""Another window may write for so many seconds."""

TABLES = """
CREATE TABLE IF NOT EXISTS work (
  id INTEGER PRIMARY KEY, begun TEXT NOT NULL, seconds REAL NOT NULL, folio TEXT NOT NULL, figure TEXT NOT NULL,
  problem TEXT NOT NULL, method TEXT NOT NULL, givens TEXT NOT NULL, scale REAL NOT NULL, level INTEGER NOT NULL,
  uncovered INTEGER NOT NULL, measured TEXT NOT NULL, verdict TEXT NOT NULL, said TEXT NOT NULL, strays TEXT NOT NULL);
CREATE INDEX IF NOT EXISTS work_begun ON work (begun);
CREATE TABLE IF NOT EXISTS card (problem TEXT PRIMARY KEY, card TEXT NOT NULL, due TEXT NOT NULL);
"""


@dataclass(frozen=True)
class Piece:
    """A piece of work: when it was begun (ISO, UTC) and how long it took, s; the figure; what was measured, by finding; the
    verdict (within, slip, step, cannot tell, or nothing) in a word and in a sentence."""

    problem: str
    method: str = ""
    begun: str = ""
    seconds: float = 0.0
    folio: str = ""
    figure: str = ""
    givens: Mapping[str, str] = field(default_factory=dict)
    scale: float = 1.0
    level: int = 0
    uncovered: int = 0
    measured: Mapping[str, float] = field(default_factory=dict)
    verdict: str = ""
    said: str = ""
    strays: Sequence[Stray] = ()
    id: int = 0


COLUMNS = tuple(each.name for each in fields(Piece) if each.name != "id")
IN_JSON = ("givens", "measured", "strays")


@dataclass(frozen=True)
class Tally:
    """Of a day or a problem: pieces of work, the time they took, s, and how many were within hand error, slips, steps gone
    wrong."""

    name: str
    pieces: int
    seconds: float
    within: int
    slips: int
    steps: int


@dataclass(frozen=True)
class Due:
    """When a problem should be practised again, and whether that is now."""

    problem: str
    when: str
    now: bool


def usual_place() -> Path:
    """Where the logbook is kept, by the desktop's rules."""
    base = os.environ.get("XDG_DATA_HOME") or str(Path.home() / ".local" / "share")
    return Path(base) / "wise-compass" / "logbook.sqlite"


class Logbook:
    """The logbook in a file. One that is broken is set aside, and ``trouble`` says so.

    Raises:
        BadDocument: it is of a newer version, or cannot be written; then it is left as it is.
    """

    def __init__(self, path: Path | None = None) -> None:
        self.path = path or usual_place()
        self.trouble = ""
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as reason:
            raise self._refused(reason.strerror or str(reason)) from None
        try:
            self._prepare()
        except sqlite3.OperationalError as reason:
            raise self._refused(str(reason)) from None
        except sqlite3.DatabaseError:
            self._set_aside()
            self._prepare()

    def _refused(self, why: str) -> BadDocument:
        return BadDocument(f"the logbook {self.path} cannot be written: {why}; the work goes on without it")

    def _prepare(self) -> None:
        with self._open() as base:
            (version,) = base.execute("PRAGMA user_version").fetchone()
            if version > VERSION:
                raise BadDocument(
                    f"the logbook {self.path} is of version {version}; this program writes {VERSION}, and leaves it as it is"
                )
            if base.execute("PRAGMA quick_check(1)").fetchone() != ("ok",):
                raise sqlite3.DatabaseError("broken")
            if version < VERSION:
                base.execute("PRAGMA journal_mode = WAL")
                base.executescript(TABLES)
                base.execute(f"PRAGMA user_version = {VERSION}")

    def _set_aside(self) -> None:
        stamp = datetime.now(UTC).strftime("%Y%m%d-%H%M%S")
        aside = self.path.with_name(f"{self.path.stem}.broken-{stamp}{self.path.suffix}")
        self.path.replace(aside)
        for more in ("-wal", "-shm"):
            self.path.with_name(self.path.name + more).unlink(missing_ok=True)
        self.trouble = f"the logbook was broken and is set aside as {aside.name}; a new one is begun"

    @contextmanager
    def _open(self) -> Iterator[sqlite3.Connection]:
        with closing(sqlite3.connect(self.path, timeout=PATIENCE)) as base, base:
            yield base

    @contextmanager
    def _writing(self) -> Iterator[sqlite3.Connection]:
        """A change that is made whole or not at all."""
        try:
            with self._open() as base:
                base.execute("BEGIN IMMEDIATE")
                yield base
        except sqlite3.DatabaseError as reason:
            raise self._refused(str(reason)) from None

    # -------------------------------------------------------------------------------------------------------- writing
    def add(self, piece: Piece, when: datetime | None = None) -> int:
        """Write a piece of work down, and when its problem is due again; gives its number.

        Raises:
            BadDocument: it cannot be written.
        """
        at = when or datetime.now(UTC)
        told = {name: getattr(piece, name) for name in COLUMNS}
        told["begun"] = piece.begun or at.isoformat(timespec="seconds")
        told["strays"] = [asdict(each) for each in piece.strays]
        values = [json.dumps(told[name]) if name in IN_JSON else told[name] for name in COLUMNS]
        marks = ", ".join("?" * len(COLUMNS))
        with self._writing() as base:
            added = base.execute(f"INSERT INTO work ({', '.join(COLUMNS)}) VALUES ({marks})", values)
            kept = base.execute("SELECT card FROM card WHERE problem = ?", (piece.problem,)).fetchone()
            card, due = remembered(kept[0] if kept else None, rated(piece.verdict, piece.uncovered), at)
            base.execute(
                "INSERT OR REPLACE INTO card VALUES (?, ?, ?)", (piece.problem, card, due.isoformat(timespec="seconds"))
            )
            return int(added.lastrowid or 0)

    def delete(self, number: int) -> None:
        """Take one piece of work out.

        Raises:
            BadGiven: there is no such piece. BadDocument: it cannot be written.
        """
        with self._writing() as base:
            if base.execute("DELETE FROM work WHERE id = ?", (number,)).rowcount == 0:
                raise BadGiven("delete", f"the logbook has no piece of work number {number}", "")

    def delete_all(self) -> int:
        """Take everything out; gives how many pieces there were."""
        with self._writing() as base:
            count = base.execute("DELETE FROM work").rowcount
            base.execute("DELETE FROM card")
            return int(count)

    # -------------------------------------------------------------------------------------------------------- reading
    def pieces(self) -> list[Piece]:
        """All pieces of work, the latest first."""
        with self._open() as base:
            rows = base.execute(f"SELECT {', '.join(COLUMNS)}, id FROM work ORDER BY begun DESC, id DESC").fetchall()
        return [_piece(row) for row in rows]

    def by_day(self) -> list[Tally]:
        """The work of each day, the latest first."""
        return self._tallied("substr(begun, 1, 10)", "1 DESC")

    def by_problem(self) -> list[Tally]:
        """The work on each problem, the most worked on first."""
        return self._tallied("problem", "2 DESC, 1")

    def _tallied(self, group: str, order: str) -> list[Tally]:
        counted = ", ".join(f"sum(verdict = '{kind}')" for kind in ("within", "slip", "step"))
        with self._open() as base:
            rows = base.execute(
                f"SELECT {group}, count(*), sum(seconds), {counted} FROM work GROUP BY 1 ORDER BY {order}"
            ).fetchall()
        return [Tally(*row) for row in rows]

    def habits(self) -> list[Habit]:
        """The instruments, the one that strays most first."""
        return habits([stray for piece in self.pieces() for stray in piece.strays])

    def due(self, now: datetime | None = None) -> list[Due]:
        """What to practise, and when: what is due first, first."""
        at = (now or datetime.now(UTC)).isoformat(timespec="seconds")
        with self._open() as base:
            rows = base.execute("SELECT problem, due FROM card ORDER BY due").fetchall()
        return [Due(problem, due, due <= at) for problem, due in rows]

    # ---------------------------------------------------------------------------------------------------------- giving
    def as_csv(self) -> str:
        """All pieces of work as a table, without what is reckoned of the hand."""
        out = io.StringIO()
        names = ("id", *(name for name in COLUMNS if name != "strays"))
        writer = csv.writer(out)
        writer.writerow(names)
        for piece in self.pieces():
            writer.writerow([_cell(getattr(piece, name)) for name in names])
        return out.getvalue()

    def as_json(self) -> dict[str, Any]:
        """Everything, for other programs."""
        return {
            "pieces": [asdict(each) for each in self.pieces()],
            "days": [asdict(each) for each in self.by_day()],
            "problems": [asdict(each) for each in self.by_problem()],
            "instruments": [{**asdict(each), "weak": each.is_weak} for each in self.habits()],
            "due": [asdict(each) for each in self.due()],
        }


def _cell(value: Any) -> Any:
    """A value in a table; text that a spreadsheet would take for a sum is marked as text."""
    if isinstance(value, Mapping):
        return "; ".join(f"{name}={each}" for name, each in value.items())
    return f"'{value}" if isinstance(value, str) and value[:1] in ("=", "+", "-", "@") else value


def _piece(row: Sequence[Any]) -> Piece:
    told = dict(zip((*COLUMNS, "id"), row, strict=True))
    for name in IN_JSON:
        told[name] = json.loads(told[name])
    told["strays"] = tuple(Stray(**each) for each in told["strays"])
    return Piece(**told)
