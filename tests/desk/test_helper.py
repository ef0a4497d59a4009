"""The process beside the desk: it proves while somebody types, is started again when it dies, and is heard only of what is
still asked."""

from __future__ import annotations

import os
import signal
import time
from unittest.mock import patch

from PySide6.QtCore import QSettings, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest

from tests.desk.base import PLACES, DeskTest
from wisecompass.arithmetic import ball
from wisecompass.desk.helper import Helper
from wisecompass.desk.saying import said
from wisecompass.desk.session import Session
from wisecompass.desk.table import whole_sheet
from wisecompass.desk.window import DeskWindow
from wisecompass.drafting.conventions import Projection
from wisecompass.folio import store
from wisecompass.service import Task, another


class WithHelper(DeskTest):
    """A window with its processes."""

    def setUp(self) -> None:
        super().setUp()
        self._close()
        self.session = Session(self.folio, helper=Helper())
        settings = QSettings(str(self.folder / "other.ini"), QSettings.Format.IniFormat)
        self.window = DeskWindow(self.session, settings, self.drafts, logbook=self.folder / "logbook.sqlite")
        self.window.show()
        self.window.activateWindow()
        self.app.processEvents()
        self.helper = self.session.helper
        assert self.helper is not None

    def until(self, what: str, holds: object, seconds: float = 60) -> None:
        deadline = time.monotonic() + seconds
        while not holds():  # type: ignore[operator]
            self.assertLess(time.monotonic(), deadline, what)
            QTest.qWait(5)


class Questions(WithHelper):
    def test_the_next_one_is_made_before_it_is_asked_for(self) -> None:
        """It is the same as would have been made then, and another is begun at once."""
        self.turn_to("solids/section")
        leaf = self.window.practise
        leaf.seed = 7
        self.window.index.leaves.show_leaf("Practise")
        for seed in (8, 9):
            self.until("the question", lambda: leaf._kept is not None)
            wanted = another(Task.of(self.session.folio, self.session.place), seed, leaf.level)
            assert self.helper is not None
            with patch.object(leaf._another, "ask") as asked:
                QTest.keySequence(self.window, "Ctrl+J")
                self.app.processEvents()
            asked.assert_not_called()
            self.assertEqual(self.session.figure.givens, wanted.givens)
            self.assertIsNotNone(self.session.cover)

    def test_of_another_figure_it_is_made_anew(self) -> None:
        self.turn_to("solids/section")
        self.window.index.leaves.show_leaf("Practise")
        self.turn_to("tangency/arc-two-lines")
        QTest.keySequence(self.window, "Ctrl+J")
        self.until("the question", lambda: self.session.cover is not None)
        self.assertEqual(self.session.figure.problem, "tangency/arc-two-lines")
        self.assertIn("another like it", self.session.work.history.undo_words)


class Beside(WithHelper):
    def proved(self) -> bool:
        return self.session.certificate is not None

    def judged(self) -> bool:
        return bool(self.session.worths) and any(one.miss is not None for one in self.session.worths)

    def test_a_key_is_proved_and_judged_beside_the_desk(self) -> None:
        assert self.helper is not None
        self.turn_to("tangency/arc-two-lines")
        self.until("the proof", self.proved)
        self.type_into("radius", "21")
        self.assertIsNone(self.session.certificate)
        self.until("the proof", self.proved)
        assert self.session.certificate is not None
        self.assertAlmostEqual(float(self.session.certificate.answers[0].value or 0), 21 / 0.7265425280053609, 9)  # type: ignore[arg-type]
        self.until("the judgement", self.judged)
        self.until("closed forms", lambda: any(a.closed_form for a in self.session.certificate.answers))  # type: ignore[union-attr]
        self.assertEqual(ball.bits(), ball.WORKING_BITS)

    def test_a_process_that_dies_costs_nothing_but_time(self) -> None:
        assert self.helper is not None
        self.turn_to("conics/ellipse")
        self.until("the proof", self.proved)
        first = self.helper.process_id
        self.session.set_given("major", "170")
        os.kill(first, signal.SIGKILL)
        self.until("the proof by another process", self.proved)
        self.assertNotEqual(self.helper.process_id, first)
        self.until("the judgement by it", self.judged)

    def test_a_refusal_right_after_a_key_that_works_stands(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.until("the proof", self.proved)
        self.session.set_given("radius", "21")
        self.session.set_given("radius", "0")
        for _ in range(20):
            QTest.qWait(5)
        self.assertIsNotNone(self.session.trouble)
        self.assertEqual(self.session.given_text("radius"), "0")
        self.assertEqual(self.session.figure.givens["radius"], "21")

    def test_what_is_stale_is_not_heard_of(self) -> None:
        self.turn_to("space/dihedral-angle")
        for n in range(12):
            self.session.set_given("A", f"{10 + n / 10}, 12, 16")
            QTest.qWait(15)
        self.until("the proof", self.proved)
        assert self.session.certificate is not None
        self.assertEqual(self.session.certificate.points["A"][0], 11.1)

    def test_a_refusal_is_said_at_once_and_its_offer_follows(self) -> None:
        self.turn_to("space/line-inclined-to-both")
        self.until("the proof", self.proved)
        self.session.set_given("inclination_hp", "60")
        self.assertIn("may not pass 90°", self.window.brief.reason.text())
        self.assertEqual(self.session.advice, "")
        self.until("the offer", lambda: "nearest that works" in self.window.brief.reason.text())
        self.assertTrue(any("may not pass" in each for each in said))
        self.assertIn("may not pass", self.number("inclination_hp").accessibleDescription())
        self.press(Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
        self.assertIsNone(self.session.trouble)
        self.assertEqual(self.session.figure.givens["inclination_vp"], "30")

    def test_an_export_that_is_cancelled_leaves_nothing_and_the_next_one_works(self) -> None:
        path = self.folder / "all.pdf"
        self.window.export("folio-pdf", path)
        QTest.qWait(300)
        self.window.cancel_job()
        self.assertFalse(path.exists())
        self.window.export("svg", self.folder / "one.svg")
        self.until("the export", lambda: self.window.exporter is None)
        self.assertTrue((self.folder / "one.svg").exists())

    def test_an_export_that_breaks_off_does_not_block_the_next(self) -> None:
        self.window.export("folio-pdf", self.folder / "all.pdf")
        for _ in range(3):
            exporter = self.window.exporter
            self.until("a process", lambda exporter=exporter: exporter is None or exporter.process_id)
            if exporter is not None and exporter.process_id:
                os.kill(exporter.process_id, signal.SIGKILL)
                QTest.qWait(200)
        self.until("an end", lambda: self.window.exporter is None, 90)
        self.window.export("csv", self.folder / "one.csv")
        self.until("the export", lambda: self.window.exporter is None)
        self.assertTrue((self.folder / "one.csv").exists())


class Turning(WithHelper):
    """Sheets are there at once: their pictures are painted beforehand."""

    folio = store.sample()

    def setUp(self) -> None:
        super().setUp()
        self.sheet = self.window.sheet
        assert self.sheet.ahead is not None
        self.ahead = self.sheet.ahead
        few = patch("wisecompass.desk.ahead.KEPT", 4)
        few.start()
        self.addCleanup(few.stop)

    def live(self, sheet: int) -> QImage:
        """What a sheet shows when it has been turned to and all has followed."""
        self.session.turn_to(sheet)
        self.session.settle()
        self.session.neighbours.finish()
        QTest.qWait(20)
        return self.sheet.grab().toImage()

    def test_a_picture_beforehand_is_the_sheet_as_it_will_stand(self) -> None:
        for sheet in (1, 4, 6):
            live = self.live(sheet)
            picture = QImage.fromData(whole_sheet(self.session.folio, (sheet, 0), self.sheet.look).png)
            apart = share_apart(live, picture)
            self.assertLess(apart, 0.002, "but for the ring about a chosen point")

    def test_it_is_seen_before_anything_is_drawn(self) -> None:
        self.live(3)
        self.ahead.finish()
        before, paints = self.session.drawing, self.sheet.paints
        seen: list[tuple[bool, int]] = []
        self.session.figure_changed.connect(
            lambda: seen.append((self.session.drawing is before, self.sheet.paints - paints))
        )
        self.session.turn_to(4)
        self.assertEqual(seen, [(True, 1)])

    def test_a_change_makes_its_pictures_stale(self) -> None:
        self.ahead.finish()
        place = ((self.session.place[0] + 1) % len(self.folio.sheets), 0)
        self.assertIsNotNone(self.ahead.picture(place))
        self.session.set_conventions(projection=Projection.THIRD)
        self.assertIsNone(self.ahead.picture(place))
        self.ahead.finish()
        self.assertIsNotNone(self.ahead.picture(place))

    def test_without_its_process_sheets_turn_as_well(self) -> None:
        self.ahead.stop()
        self.session.turn_to(5)
        self.assertEqual(self.session.place, (5, 0))
        self.assertIsNotNone(self.session.drawing)


def share_apart(one: QImage, other: QImage) -> float:
    """Which share of their pixels differ."""
    size = one.size()
    assert size == other.size()
    spots = [(x, y) for x in range(0, size.width(), 2) for y in range(0, size.height(), 2)]
    return sum(one.pixel(x, y) | 0xFF000000 != other.pixel(x, y) | 0xFF000000 for x, y in spots) / len(spots)


class Other(DeskTest):
    """Other work in hand, and back."""

    def test_a_new_folio_asks_nothing_and_loses_nothing(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.type_into("angle", "99")
        changed = self.session.folio
        self.window.new_action.trigger()
        self.assertTrue(self.session.empty)
        self.assertNotIn("Bramlow", store.dumps(self.session.folio))
        self.assertEqual(len(self.drafts.left()), 0, "it has an owner still")
        (aside,) = self.window.keeping.aside
        self.window.take_back(aside)
        self.assertEqual(self.session.folio, changed)
        self.assertTrue(self.session.can_undo, "its way back is there")
        self.session.undo()
        self.assertNotIn("99", str(self.session.figure.givens))

    def test_a_problem_goes_on_the_empty_sheet_and_many_times(self) -> None:
        self.window.new_action.trigger()
        for _ in range(2):
            self.session.add_problem("conics/ellipse")
        self.session.add_problem("conics/ellipse", new_sheet=True)
        names = [[figure.name for figure in sheet.figures] for sheet in self.session.folio.sheets]
        self.assertEqual(names, [["ellipse on its axes", "ellipse on its axes 2"], ["ellipse on its axes 3"]])
        for _ in range(3):
            self.session.undo()
        self.assertTrue(self.session.empty)
        self.assertIsNotNone(self.session.page)

    def test_every_act_of_the_register_can_be_undone(self) -> None:
        for words in self.window.register_actions:
            if "…" in words:
                continue
            self.turn_to("conics/ellipse")
            before = self.session.folio
            self.window.register_actions[words].trigger()
            self.app.processEvents()
            if self.session.folio is not before:
                self.session.undo()
            self.assertIs(self.session.folio, before, words)

    def test_a_figure_is_dragged_to_another_sheet(self) -> None:
        tree, index = self.window.index.register, self.window.index
        self.turn_to("conics/ellipse")
        name = self.session.figure.name
        item = tree.currentItem()
        tree.drop(item, index._headings[0])
        self.assertEqual(self.session.place[0], 0)
        self.assertEqual(self.session.figure.name, name)
        self.session.undo()
        s, _ = PLACES["conics/ellipse"]
        self.assertIn(name, [figure.name for figure in self.session.folio.sheets[s].figures])

    def test_a_scale_is_chosen_and_one_that_cannot_be_is_said(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.window.set_scale("1:2")
        assert self.session.page is not None
        self.assertEqual(float(self.session.page.scale), 0.5)
        for text in ("bogus", "1:0", "1000000:1"):
            self.window.set_scale(text)
            self.assertIn("scale", self.window.notice_label.text())
        self.assertEqual(self.session.figure.scale, "1:2")

    def test_what_cannot_be_drawn_is_said_on_empty_paper_and_mended(self) -> None:
        from dataclasses import replace

        from wisecompass.folio.register import replace_figure

        folio, place = self.session.folio, PLACES["tangency/arc-two-lines"]
        bad = replace_figure(folio, place, replace(self.figure_in(folio, "tangency/arc-two-lines"), solution=99))
        path = self.folder / "bad.folio.json"
        store.save(bad, path)
        self.window.open(path)
        self.session.turn_to(*place)
        self.app.processEvents()
        self.assertIn("olution 99 is not there", self.window.brief.reason.text())
        self.session.set_given("radius", "20")
        self.assertIsNone(self.session.trouble)

    def test_a_file_somebody_else_changed_is_not_written_over(self) -> None:
        path = self.folder / "mine.folio.json"
        self.window.save_to(path)
        store.save(store.empty("Theirs"), path)
        self.turn_to("tangency/arc-two-lines")
        self.type_into("angle", "99")
        self.assertFalse(self.window.save_to(path))
        self.assertEqual(store.load(path).work, "Theirs")
        offered = [action for action in (self.window.over_action, self.window.copy_action) if action.isVisible()]
        self.assertEqual(len(offered), 2, "what the head line speaks of is in the menu")
        self.window.copy_action.trigger()
        self.assertFalse(self.window.over_action.isVisible())
        copy = store.load(path.with_name("mine-2.folio.json"))
        self.assertEqual(self.figure_in(copy, "tangency/arc-two-lines").givens["angle"], "99")

    def test_a_long_name_does_not_widen_the_window(self) -> None:
        from dataclasses import replace

        width = self.window.minimumSizeHint().width()
        self.session.change(replace(self.session.folio, work="A very long name of a work " * 12), self.session.place, "work")
        self.session.settle()
        self.app.processEvents()
        self.assertEqual(self.window.minimumSizeHint().width(), width)


class Seen(DeskTest):
    def test_lines_and_texts_stand_out_in_both_rooms(self) -> None:
        from PySide6.QtGui import QColor

        from wisecompass.desk.paint import MarkPainter, Stand, View
        from wisecompass.desk.theme import DARK, LIGHT
        from wisecompass.drafting.pens import Pen

        def light(color: QColor) -> float:
            parts = [part / 255 for part in (color.red(), color.green(), color.blue())]
            linear = [p / 12.92 if p <= 0.03928 else ((p + 0.055) / 1.055) ** 2.4 for p in parts]
            return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

        def contrast(a: QColor, b: QColor) -> float:
            low, high = sorted((light(a), light(b)))
            return (high + 0.05) / (low + 0.05)

        for theme in (LIGHT, DARK):
            for ink in ("ink", "quiet", "accent", "wrong"):
                for ground in ("panel", "room") if ink != "wrong" else ("panel",):
                    self.assertGreaterEqual(contrast(theme.color(ink), theme.color(ground)), 4.5, (theme.name, ink, ground))
            for greyed in (False, True):
                painter = MarkPainter(None, View(1, 0, 0), theme, greyed)  # type: ignore[arg-type]
                for pen in Pen:
                    for stand in Stand:
                        against = contrast(painter._color(pen, stand), theme.color("paper"))
                        self.assertGreaterEqual(against, 3.0, (theme.name, pen, stand, greyed))

    def test_steps_and_letters_are_said(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.window.sheet.setFocus()
        self.session.go_to(3)
        self.assertIn("step 3 of", self.window.sheet.accessibleDescription())
        self.assertIn("step 3 of", said[-1])
        dot = self.window.sheet._dots()[0]
        self.window.sheet.pick(dot)
        self.assertRegex(said[-1], r"^\S+, x .*, y ")

    def test_checks_say_that_they_hold(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.session.settle()
        rows = [row for row in self.window.ledger.table.rows if row.kind.value == "check"]
        self.assertTrue(rows)
        self.assertTrue(all(row.aloud().startswith("holds:") for row in rows))

    def test_letters_follow_those_of_the_system(self) -> None:
        from PySide6.QtGui import QFont

        from wisecompass.desk.theme import follow_system_font, interface_font

        usual = self.app.font()
        try:
            plain = interface_font(14).pixelSize()
            self.app.setFont(QFont("Lato", 20))  # type: ignore[union-attr]
            follow_system_font()
            self.assertEqual(interface_font(14).pixelSize(), 2 * plain)
        finally:
            self.app.setFont(usual)  # type: ignore[union-attr]
            follow_system_font()
