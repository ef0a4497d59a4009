"""Practice at the desk, by keys and pointer: another like it, covered work, what comes next, the logbook, worksheets."""

from __future__ import annotations

import json
import time
from datetime import UTC, datetime, timedelta
from fractions import Fraction
from pathlib import Path
from unittest import mock

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QMessageBox

from tests.desk.base import DeskTest
from wisecompass.desk.ledger import COVERED as HIDDEN
from wisecompass.desk.logbook_view import LogbookView
from wisecompass.desk.paint import Stand
from wisecompass.desk.practise_leaf import due_in_words
from wisecompass.desk.standing import Standing
from wisecompass.desk.worksheets_form import WorksheetsForm
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.marks import Text
from wisecompass.exchange.class_set import read_set
from wisecompass.folio import store
from wisecompass.folio.links import links_in
from wisecompass.folio.logbook import Logbook, Piece
from wisecompass.folio.practice import fairness
from wisecompass.folio.register import place_of
from wisecompass.judgement.habits import PARTS, Stray
from wisecompass.judgement.hands import OnPaper, read_hand
from wisecompass.judgement.next_step import COVERED, altered, choices, covered


class Practising(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        self.turn_to("tangency/arc-two-lines")
        self.leaf = self.window.practise
        self.leaf.seed = 40
        self.window.index.leaves.show_leaf("Practise")
        self.app.processEvents()

    def press(self, keys: str) -> None:
        QTest.keySequence(self.window, keys)
        self.app.processEvents()

    def rows(self) -> list[str]:
        return [row.aloud() for row in self.leaf.rows.table.rows]

    def choose(self, right: bool) -> None:
        """Click the right choice, or a wrong one."""
        at = next(k for k, choice in enumerate(self.leaf.choices) if choice.right is right)
        table = self.leaf.rows.table
        row = next(n for n, each in enumerate(table.rows) if each.link == f"choice {at}")
        index = table.index(row)
        QTest.mouseClick(
            self.leaf.rows.viewport(),
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
            self.leaf.rows.visualRect(index).center(),
        )
        self.app.processEvents()

    def test_my_hand_is_the_one_the_logbook_has_learned(self) -> None:
        """With nothing measured that is said and the hand stays; then it is taken, and what hangs on hands follows."""
        hand = self.window.hand
        hand.mine.click()
        self.assertIn("too little", self.window.notice_label.toolTip() or self.window.notice_label.text())
        self.assertEqual(self.session.folio.conventions.hand, "ordinary")
        strays = tuple(Stray(0.36, 0.0, {**dict.fromkeys(PARTS, 0.0), "protractor": 0.04}) for _ in range(20))
        self.leaf.book().add(Piece("tangency/arc-two-lines", "swung arcs", verdict="within", strays=strays))
        hand.mine.click()
        learned = read_hand(self.session.folio.conventions.hand)
        self.assertAlmostEqual(learned.protractor, 3 * 0.25, delta=0.15)
        self.assertEqual(hand.own.text(), self.session.folio.conventions.hand)

    # ------------------------------------------------------------------------------------------------------ questions
    def test_another_like_it_has_other_numbers_and_is_one_change(self) -> None:
        before = self.session.figure
        self.press("Ctrl+J")
        after = self.session.figure
        self.assertEqual((after.problem, after.name), (before.problem, before.name))
        self.assertNotEqual(after.givens, before.givens)
        self.assertIsNone(self.session.trouble)
        self.assertIsNotNone(self.session.cover)
        drawing = self.session.drawing
        assert drawing is not None
        self.assertGreater(fairness(drawing, self.session.sheet.as_paper()).crossing, 0)
        self.press("Ctrl+Z")
        self.assertEqual(self.session.figure.givens, before.givens)
        self.assertIsNone(self.session.cover, "other numbers are not covered")

    def test_a_question_keeps_its_size_in_a_folio_of_inches(self) -> None:
        self.session.set_units(Units.INCH)
        self.press("Ctrl+J")
        self.assertIsNone(self.session.trouble)
        self.assertTrue(self.session.figure.givens["radius"].endswith("mm"), self.session.figure.givens)
        page = self.session.page
        assert page is not None
        self.assertGreaterEqual(page.scale, Fraction(1, 2))

    def test_no_two_after_each_other_are_alike(self) -> None:
        seen = set()
        for _ in range(5):
            self.press("Ctrl+J")
            seen.add(tuple(self.session.figure.givens.values()))
        self.assertEqual(len(seen), 5)

    # --------------------------------------------------------------------------------------------------------- covered
    def test_steps_settings_and_answers_are_uncovered_one_at_a_time(self) -> None:
        self.leaf.set_level(2)
        self.press("Ctrl+Shift+J")
        cover = self.session.cover
        assert cover is not None
        self.assertEqual(self.session.step, 1)
        self.session.go_to(9)
        self.assertEqual(self.session.step, 1, "nobody walks past what is uncovered")
        for n in (2, 3):
            QTest.mouseClick(self.leaf.step_button, Qt.MouseButton.LeftButton)
            self.assertEqual(self.session.step, n)
        self.assertIn(COVERED, self.window.strip.text())
        self.assertEqual(self.window.strip.setting(), "")
        QTest.mouseClick(self.leaf.setting_button, Qt.MouseButton.LeftButton)
        self.assertNotIn(COVERED, self.window.strip.text())
        self.assertTrue(self.window.strip.setting())
        self.window.leaves.show_leaf("Answers")
        self.app.processEvents()
        ledger = self.window.ledger
        hidden = [n for n, row in enumerate(ledger.table.rows) if row.right == HIDDEN]
        self.assertEqual(len(hidden), 4)
        ledger._copy(ledger.table.index(hidden[0]))
        self.assertEqual(sum(row.right == HIDDEN for row in ledger.table.rows), 3)
        self.assertEqual(cover.helped, 4)

    def test_nothing_covered_is_hinted_at(self) -> None:
        self.press("Ctrl+Shift+J")
        stands = [stand for _, stand in Standing(self.session).shown()]
        self.assertNotIn(Stand.GHOST, stands)
        for word in ("Hand", "Depends"):
            self.assertFalse(self.window.leaves.words[word].isEnabled())
        self.press("Ctrl+Shift+J")
        self.assertIsNone(self.session.cover)
        self.assertTrue(self.window.leaves.words["Hand"].isEnabled())
        self.assertEqual(self.session.step, self.session.last_step + 1)

    def test_levels(self) -> None:
        self.leaf.set_level(1)
        self.press("Ctrl+Shift+J")
        QTest.mouseClick(self.leaf.step_button, Qt.MouseButton.LeftButton)
        QTest.mouseClick(self.leaf.step_button, Qt.MouseButton.LeftButton)
        self.assertNotIn(COVERED, self.window.strip.text())
        self.leaf.set_level(3)
        cover = self.session.cover
        assert cover is not None
        self.assertEqual((cover.level, cover.steps), (3, 1))

    # ------------------------------------------------------------------------------------------------ what comes next
    def test_the_right_step_goes_on_and_a_wrong_one_says_why(self) -> None:
        self.press("Ctrl+Shift+J")
        self.assertEqual(len(self.leaf.choices), 3)
        self.assertEqual(sum(choice.right for choice in self.leaf.choices), 1)
        self.choose(False)
        cover = self.session.cover
        assert cover is not None
        self.assertEqual((cover.steps, cover.helped), (1, 1))
        self.assertTrue(any("slip" in row or "Not yet" in row for row in self.rows()))
        self.choose(True)
        self.assertEqual((cover.steps, cover.helped), (2, 1))
        self.assertTrue(any("Right." in row for row in self.rows()))

    def test_the_whole_construction_is_found_by_right_choices(self) -> None:
        self.press("Ctrl+J")
        for _ in range(60):
            if not self.leaf.choices:
                break
            self.choose(True)
        cover = self.session.cover
        assert cover is not None
        self.assertGreaterEqual(cover.steps, self.session.last_step)
        self.assertEqual(cover.helped, 0)

    def test_by_keys_alone(self) -> None:
        """A question, every step by its letter, a wrong one on the way, the answers one by one, and into the logbook."""
        self.window.index.leaves.show_leaf("Register")
        self.press("Ctrl+J")
        self.assertEqual(self.window.index.leaves.shown, "Practise")
        letter = {each.right: "abc"[k] for k, each in enumerate(self.leaf.choices)}
        QTest.keyClicks(self.app.focusWidget(), letter[False])
        for _ in range(60):
            if not self.leaf.choices:
                break
            QTest.keyClicks(self.app.focusWidget(), "abc"[next(k for k, each in enumerate(self.leaf.choices) if each.right)])
            self.app.processEvents()
        cover = self.session.cover
        assert cover is not None
        self.assertGreaterEqual(cover.steps, self.session.last_step)
        self.window.ledger.setFocus()
        rows = self.window.ledger.table.rows
        covered = [n for n, row in enumerate(rows) if row.right == HIDDEN]
        self.assertTrue(covered)
        for n in covered:
            self.window.ledger.setCurrentIndex(self.window.ledger.table.index(n))
            QTest.keyClick(self.window.ledger, Qt.Key.Key_Return)
            self.app.processEvents()
        self.assertFalse(any(row.right == HIDDEN for row in self.window.ledger.table.rows))
        self.press("Ctrl+B")
        (piece,) = Logbook(self.folder / "logbook.sqlite").pieces()
        self.assertEqual(piece.uncovered, 1 + len(covered))

    def test_choices_of_every_step_differ_and_one_is_right(self) -> None:
        for each in (
            "tangency/arc-two-lines",
            "conics/ellipse",
            "space/line-from-ends",
            "triangles/two-sides-angle-between",
        ):
            self.turn_to(each)
            drawing = self.session.drawing
            assert drawing is not None
            sheet = OnPaper(drawing.problem, drawing.typed, drawing.method)
            for n in range(1, len(sheet.steps) + 1):
                with self.subTest(each, step=n):
                    found = choices(sheet, n, hide=False)
                    self.assertEqual(sum(choice.right for choice in found), 1)
                    self.assertEqual(len({choice.text for choice in found}), len(found))
                    self.assertTrue(all(choice.why for choice in found))

    def test_sentences_as_mistakes_read(self) -> None:
        text = "Protractor on V along edge 1: turn 72° to the left."
        self.assertIn("108°", altered(text, "protractor read on its other scale: 108° for 72°") or "")
        self.assertIn("right", altered(text, "the other crossing taken for C") or "")
        self.assertIn(
            "into 13", altered("Divide the circle into 12 parts.", "divided into 13 parts instead of 12, marks") or ""
        )
        self.assertEqual(
            covered("lay off 18.5 mm from E1 and turn 72°"), f"lay off {COVERED} mm from E1 and turn {COVERED}°"
        )

    # --------------------------------------------------------------------------------------------------------- logbook
    def test_work_is_written_down_with_what_was_measured_and_uncovered(self) -> None:
        self.press("Ctrl+J")
        QTest.mouseClick(self.leaf.step_button, Qt.MouseButton.LeftButton)
        self.window.leaves.show_leaf("Measured")
        self.settle()
        certificate = self.session.certificate
        assert certificate is not None
        value = next(answer.value for answer in certificate.answers if answer.name == "setback")
        self.window.marked.fields["setback"].setText(f"{value:.2f}")
        self.window.marked.judge()
        self.press("Ctrl+B")
        (piece,) = Logbook(self.folder / "logbook.sqlite").pieces()
        self.assertEqual(piece.problem, "tangency/arc-two-lines")
        self.assertEqual(piece.verdict, "within")
        self.assertEqual(piece.uncovered, 1)
        self.assertAlmostEqual(piece.measured["setback"], float(value), 1)  # type: ignore[arg-type]
        self.assertTrue(piece.strays)
        self.assertGreater(piece.seconds, 0)

    def test_what_is_reckoned_beforehand_is_covered_with_its_settings(self) -> None:
        self.turn_to("tangency/arc-two-circles")
        counts = self.window.brief.counts
        self.assertIn("Reckon first", counts.text())
        self.session.cover_up(2)
        self.assertNotIn("Reckon first", counts.text())
        cover = self.session.cover
        assert cover is not None
        while cover.steps <= self.session.last_step:
            self.session.uncover(lambda each: each.uncover_step())
        self.assertNotIn("Reckon first", counts.text(), "the steps are told without their settings")
        self.session.uncover(lambda each: each.uncover_setting())
        self.assertIn("Reckon first", counts.text())

    def test_due_at_this_sitting_is_today_even_after_midnight(self) -> None:
        late = datetime(2026, 3, 2, 23, 55, tzinfo=UTC)
        for after, words in (
            (timedelta(minutes=10), "today"),
            (timedelta(hours=9), "tomorrow"),
            (timedelta(days=3), "in 3 days"),
        ):
            self.assertEqual(due_in_words(late + after, late), words)

    def test_what_is_due_opens_its_problem(self) -> None:
        Logbook(self.folder / "logbook.sqlite").add(Piece("lines/bisect-angle", verdict="slip"))
        self.leaf._book = None
        for leaf in ("Register", "Practise"):
            self.window.index.leaves.show_leaf(leaf)
            self.app.processEvents()
        self.assertTrue(any("Angle" in row and ("today" in row or "now" in row) for row in self.rows()), self.rows())
        self.leaf._chosen("due lines/bisect-angle")
        self.app.processEvents()
        self.assertEqual(self.session.figure.problem, "lines/bisect-angle")

    def test_the_logbook_has_views_and_lines_are_taken_out(self) -> None:
        book = Logbook(self.folder / "logbook.sqlite")
        for verdict in ("within", "slip", "step"):
            book.add(Piece("lines/bisect-angle", "equal arcs", seconds=300, verdict=verdict))
        view = LogbookView(book, self.window)
        self.assertEqual((view.pieces.rowCount(), view.days.rowCount(), view.problems.rowCount()), (3, 1, 1))
        self.assertEqual(view.problems.item(0, 4).text(), "1")  # type: ignore[union-attr]
        view.pieces.setCurrentCell(1, 0)
        QTest.mouseClick(view.delete_button, Qt.MouseButton.LeftButton)
        self.assertEqual(len(book.pieces()), 2)
        view.give(self.folder / "log.csv")
        view.give(self.folder / "log.json")
        self.assertEqual(len(json.loads((self.folder / "log.json").read_text())["pieces"]), 2)
        with mock.patch.object(QMessageBox, "question", return_value=QMessageBox.StandardButton.Yes):
            QTest.mouseClick(view.all_button, Qt.MouseButton.LeftButton)
        self.assertEqual(book.pieces(), [])
        self.assertIn("Nothing is written down", view.hand.text())
        view.give(self.folder / "no" / "log.csv")
        self.assertIn("cannot be written", view.hand.text())

    def test_without_a_logbook_the_work_goes_on(self) -> None:
        (self.folder / "logbook.sqlite").unlink(missing_ok=True)
        (self.folder / "logbook.sqlite").mkdir()
        self.leaf._book = None
        self.press("Ctrl+B")
        self.assertIn("goes on without it", self.window.notice_label.text())
        self.press("Ctrl+J")
        self.assertIsNotNone(self.session.cover)

    # ------------------------------------------------------------------------------------------------------ worksheets
    def test_worksheets_are_made_beside_the_desk(self) -> None:
        form = WorksheetsForm(self.session, self.window)
        self.addCleanup(form.deleteLater)
        form.folder.setText(str(self.folder / "set"))
        form.count.setValue(1)
        form.pupils.setValue(2)
        form.kinds["stages"].setChecked(False)
        QTest.mouseClick(form.make_button, Qt.MouseButton.LeftButton)
        self.assertFalse(form.make_button.isEnabled())
        self.wait(form, 60)
        self.assertIn("7 files in", form.said.text())
        kept = read_set(self.folder / "set" / "set.json")
        self.assertEqual([len(asked) for asked in kept], [1, 1])
        self.assertEqual(kept[0][0].problem, "tangency/arc-two-lines")

    def test_worksheets_are_stopped_and_trouble_is_said(self) -> None:
        form = WorksheetsForm(self.session, self.window)
        self.addCleanup(form.deleteLater)
        for box in form.what.values():
            box.setChecked(False)
        form.make()
        self.assertIn("Choose at least", form.said.text())
        form.what["triangles"].setChecked(True)
        blocked = self.folder / "a file"
        blocked.write_text("")
        form.folder.setText(str(blocked))
        form.make()
        self.wait(form, 30)
        self.assertIn("a file", form.said.text())
        form.folder.setText(str(self.folder / "many"))
        form.pupils.setValue(150)
        form.make()
        form.stop()
        self.wait(form, 60)
        self.assertIn("before it was stopped", form.said.text())
        self.assertFalse(Path(self.folder / "many" / "key.pdf").exists())

    def wait(self, form: WorksheetsForm, seconds: float) -> None:
        end = time.monotonic() + seconds
        while form.running and time.monotonic() < end:
            self.app.processEvents()
            time.sleep(0.02)
        form._show_far()
        self.assertFalse(form.running)


class Sheets(DeskTest):
    folio = store.sample()

    def keys(self, keys: str) -> None:
        QTest.keySequence(self.window, keys)
        self.app.processEvents()

    def test_worksheets_of_a_folio_in_inches_are_in_millimetres(self) -> None:
        self.session.set_units(Units.INCH)
        form = WorksheetsForm(self.session)
        self.assertIs(form.course().conventions.units, Units.MM)
        form.deleteLater()

    def test_another_sheet_like_it_covers_every_figure_of_it(self) -> None:
        for name, hang in (("roundel arc outside", 0), ("brace gusset", 1)):
            s, f = place_of(self.session.folio, name)
            self.session.turn_to(s, f)
            self.settle()
            before = self.session.sheet.figures
            self.keys("Alt+J")
            after = self.session.sheet.figures
            self.assertEqual([each.name for each in after], [each.name for each in before])
            kept = [n for n, each in enumerate(after) if each.givens == before[n].givens]
            self.assertGreaterEqual(len(kept), hang)
            self.assertTrue(all(links_in(after[n]) for n in kept), "only what hangs on others keeps its givens")
            self.session.neighbours.finish()
            beside = {type(mark) for mark in self.session.neighbours.marks()}
            self.assertLessEqual(beside, {Text}, "of what is covered only the brief is seen beside another")
            for n in range(len(after)):
                self.session.turn_to(s, n)
                self.settle()
                self.assertIsNone(self.session.trouble)
                self.assertIsNotNone(self.session.cover)
                self.assertEqual(self.session.step, 1)
            self.session.turn_to(s, f)
            self.session.uncover(lambda cover: cover.uncover_step())
            self.session.turn_to(s, f - 1 if f else f + 1)
            self.session.turn_to(s, f)
            cover = self.session.cover
            assert cover is not None
            self.assertEqual((cover.steps, cover.helped), (2, 1), "what was uncovered is remembered")
            self.keys("Ctrl+Z")
            self.assertEqual(self.session.sheet.figures, before)
            self.assertIsNone(self.session.cover)
