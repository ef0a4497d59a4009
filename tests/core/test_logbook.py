"""The logbook: what it keeps, what it survives, what it says of a hand and of what is due."""

from __future__ import annotations

import json
import multiprocessing
import os
import sqlite3
import tempfile
import unittest
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path

import numpy as np

from tests.core.test_cli import run
from wisecompass import catalogue
from wisecompass.drafting.errors import BadDocument, BadGiven
from wisecompass.drafting.hand import Hand, Unsteadiness
from wisecompass.folio.logbook import Logbook, Piece, usual_place
from wisecompass.judgement.habits import PARTS, Stray, habits, learned_hand, rated, remembered, strays_of
from wisecompass.judgement.hands import ORDINARY, OnPaper, figures, read_hand
from wisecompass.judgement.prepared import Reading, can_be_measured, prepare

DAY = datetime(2026, 3, 2, 8, 0, tzinfo=UTC)


def _fill(path: str, name: str, count: int) -> None:
    """What another window writes."""
    book = Logbook(Path(path))
    for n in range(count):
        book.add(Piece("lines/bisect-angle", figure=f"{name} {n}"))


class TheFile(unittest.TestCase):
    def setUp(self) -> None:
        self.path = Path(self.enterContext(tempfile.TemporaryDirectory())) / "book" / "logbook.sqlite"

    def book(self) -> Logbook:
        return Logbook(self.path)

    def piece(self, **more: object) -> Piece:
        return replace(Piece("tangency/arc-two-lines", "swung arcs", seconds=600.0, verdict="within"), **more)  # type: ignore[arg-type]

    def test_what_is_written_is_there_in_another_window(self) -> None:
        stray = Stray(0.04, 0.01, dict.fromkeys(PARTS, 0.005))
        piece = self.piece(
            givens={"angle": "72"}, measured={"setback": 25.3}, strays=(stray,), said="within hand error", figure="bracket"
        )
        number = self.book().add(piece, DAY)
        (found,) = self.book().pieces()
        self.assertEqual(found, replace(piece, id=number, begun="2026-03-02T08:00:00+00:00"))

    def test_by_day_and_by_problem(self) -> None:
        book = self.book()
        for hours, problem, verdict in ((0, "a/b", "within"), (1, "a/b", "slip"), (24, "a/b", "step"), (25, "c/d", "")):
            book.add(self.piece(problem=problem, verdict=verdict), DAY + timedelta(hours=hours))
        days, problems = book.by_day(), book.by_problem()
        self.assertEqual(
            [(t.name, t.pieces, t.seconds) for t in days], [("2026-03-03", 2, 1200.0), ("2026-03-02", 2, 1200.0)]
        )
        self.assertEqual(
            [(t.name, t.pieces, t.within, t.slips, t.steps) for t in problems], [("a/b", 3, 1, 1, 1), ("c/d", 1, 0, 0, 0)]
        )

    def test_lines_are_taken_out(self) -> None:
        book = self.book()
        first, second = book.add(self.piece()), book.add(self.piece())
        book.delete(first)
        self.assertEqual([piece.id for piece in book.pieces()], [second])
        with self.assertRaises(BadGiven):
            book.delete(first)
        self.assertEqual(book.delete_all(), 1)
        self.assertEqual((book.pieces(), book.due()), ([], []))

    def test_two_windows_lose_nothing(self) -> None:
        self.book()
        context = multiprocessing.get_context("spawn")
        both = [context.Process(target=_fill, args=(str(self.path), name, 25)) for name in ("one", "other")]
        for each in both:
            each.start()
        for each in both:
            each.join()
        self.assertEqual(len(self.book().pieces()), 50)

    def test_one_that_is_broken_is_set_aside_and_said(self) -> None:
        self.book().add(self.piece())
        for ruin in (b"no database at all" * 200, b"SQLite format 3\0" + b"\0" * 4000):
            for each in self.path.parent.glob("logbook.sqlite-*"):
                each.unlink()
            self.path.write_bytes(ruin)
            book = self.book()
            self.assertIn("set aside as logbook.broken-", book.trouble)
            aside = max(self.path.parent.glob("*.broken-*"), key=lambda path: path.stat().st_mtime_ns)
            self.assertEqual(aside.read_bytes(), ruin)
            aside.unlink()
            book.add(self.piece())
            self.assertEqual(len(book.pieces()), 1)

    def test_one_of_a_newer_version_is_left_alone(self) -> None:
        self.book().add(self.piece())
        with sqlite3.connect(self.path) as base:
            base.execute("PRAGMA user_version = 7")
        base.close()
        with self.assertRaisesRegex(BadDocument, "version 7"):
            self.book()
        self.assertFalse(list(self.path.parent.glob("*.broken-*")))

    def test_a_full_disk_is_said_and_nothing_is_half_written(self) -> None:
        class Full(Logbook):
            @contextmanager
            def _open(self) -> Iterator[sqlite3.Connection]:
                with super()._open() as base:
                    (pages,) = base.execute("PRAGMA page_count").fetchone()
                    base.execute(f"PRAGMA max_page_count = {pages}")
                    yield base

        book = self.book()
        book.add(self.piece())
        full = Full(self.path)
        with self.assertRaisesRegex(BadDocument, "full"):
            for _ in range(500):
                full.add(self.piece(said="x" * 4000))
        pieces = book.pieces()
        self.assertTrue(all(piece.said in ("", "x" * 4000) for piece in pieces))
        self.assertEqual(len(book.by_problem()), 1)

    def test_a_place_that_cannot_be_written(self) -> None:
        blocked = self.path.parent
        blocked.parent.mkdir(exist_ok=True)
        blocked.write_text("a file where the folder should be")
        with self.assertRaisesRegex(BadDocument, "goes on without it"):
            self.book()

    def test_a_kill_leaves_it_whole(self) -> None:
        self.book()
        context = multiprocessing.get_context("spawn")
        for _ in range(3):
            writer = context.Process(target=_fill, args=(str(self.path), "killed", 100_000))
            writer.start()
            writer.join(1.2)
            writer.kill()
            writer.join()
            book = self.book()
            self.assertEqual(book.trouble, "")
            self.assertTrue(all(piece.problem for piece in book.pieces()))

    def test_tables_hold_no_sums_for_spreadsheets(self) -> None:
        book = self.book()
        book.add(self.piece(figure="=1+1", measured={"setback": 25.3}))
        self.assertIn("'=1+1", book.as_csv())
        self.assertIn("setback=25.3", book.as_csv())

    def test_from_the_terminal(self) -> None:
        os.environ["XDG_DATA_HOME"], before = str(self.path.parent), os.environ.get("XDG_DATA_HOME")
        self.addCleanup(
            lambda: os.environ.pop("XDG_DATA_HOME") if before is None else os.environ.update(XDG_DATA_HOME=before)
        )
        Logbook(usual_place()).add(self.piece(figure="bracket"), DAY)
        self.assertIn("bracket", run("log")[1])
        self.assertIn("2026-03-02", run("log", "--by", "day")[1])
        self.assertEqual(len(json.loads(run("log", "--json")[1])["pieces"]), 1)
        table = self.path.parent / "log.csv"
        self.assertEqual(run("log", "--csv", str(table))[0], 0)
        self.assertIn("bracket", table.read_text())
        self.assertEqual(run("log", "--delete", "99")[0], 2)
        self.assertIn("1 piece of work taken out", run("log", "--delete-all")[1])


class AHand(unittest.TestCase):
    SHEETS = ("tangency/arc-two-lines", "triangles/side-two-angles", "triangles/three-sides", "polygons/regular-from-side")

    def strays(self, hand: Hand, seeds: int, told: Hand = ORDINARY) -> list[Stray]:
        """What a hand's drawings show of it, where it was told to be another."""
        found = []
        for each in self.SHEETS:
            problem = catalogue.problem(each)
            sheet = OnPaper(problem, problem.read({}), problem.methods[0])
            prepared = prepare(sheet, told)
            names = can_be_measured(prepared)[:4]
            drawn = dict(figures(sheet.by(Unsteadiness(hand, seeds + 1, 5))))
            for k in range(1, seeds + 1):
                values = {name: float(np.broadcast_to(drawn[name], seeds + 1)[k]) for name in names}
                readings = {name: Reading(value, 0.01) for name, value in values.items()}
                found += strays_of(prepared, readings)
        return found

    def test_that_is_as_told_has_no_weakness(self) -> None:
        for each in habits(self.strays(ORDINARY, 12)):
            self.assertFalse(each.is_weak, each)

    def test_whose_protractor_strays_is_told_so(self) -> None:
        found = habits(self.strays(replace(ORDINARY, protractor=3 * ORDINARY.protractor), 12))
        self.assertEqual(found[0].part, "protractor")
        self.assertTrue(found[0].is_weak)
        self.assertAlmostEqual(found[0].times, 3, delta=0.9)
        self.assertFalse(any(each.is_weak for each in found[1:]))

    def test_is_learned_whatever_it_was_told_to_be(self) -> None:
        """The hand that is learned is the one that drew, and is one that can be taken; of too few figures nothing is."""
        drew = replace(ORDINARY, protractor=0.75)
        for told in (ORDINARY, replace(ORDINARY, protractor=0.5, scale=0.3)):
            text = learned_hand(habits(self.strays(drew, 12, told)))
            learned = read_hand(text)
            self.assertAlmostEqual(learned.protractor, 0.75, delta=0.22)
            self.assertLess(learned.compass, 0.25)
        self.assertEqual(learned_hand(habits([])), "")

    def test_of_which_nothing_is_known_is_as_told(self) -> None:
        for each in habits([]):
            self.assertAlmostEqual(each.times, 1)
            self.assertFalse(each.is_weak)


class WhatIsDue(unittest.TestCase):
    def test_what_goes_well_comes_back_later_and_later(self) -> None:
        card, gaps, when = None, [], DAY
        for _ in range(4):
            card, due = remembered(card, "good", when)
            gaps.append(due - when)
            when = due
        self.assertEqual(gaps, sorted(gaps))
        self.assertGreater(gaps[-1], timedelta(days=2))

    def test_what_went_wrong_comes_back_soon(self) -> None:
        card, due = remembered(None, "easy", DAY)
        later = due - DAY
        _, again = remembered(card, "again", due)
        self.assertLess(again - due, later)

    def test_how_a_piece_went(self) -> None:
        self.assertEqual(rated("within", 0), "easy")
        self.assertEqual(rated("within", 2), "good")
        self.assertEqual(rated("slip", 0), "again")
        self.assertEqual(rated("cannot tell", 0), "hard")

    def test_what_is_due_first_stands_first(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            book = Logbook(Path(folder) / "logbook.sqlite")
            book.add(Piece("lines/bisect-angle", verdict="within"), DAY)
            book.add(Piece("lines/copy-angle", verdict="slip"), DAY)
            first, second = book.due(DAY + timedelta(hours=1))
            self.assertEqual((first.problem, first.now), ("lines/copy-angle", True))
            self.assertEqual((second.problem, second.now), ("lines/bisect-angle", False))


if __name__ == "__main__":
    unittest.main()
