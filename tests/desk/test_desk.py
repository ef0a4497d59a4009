"""The rest of the desk: steps, sheet, ledger, undo, folios and hand-over, driven as a drafter would."""

from __future__ import annotations

import json
import math
import time
from pathlib import Path

from PySide6.QtCore import QPoint, QPointF, QSettings, Qt
from PySide6.QtGui import QGuiApplication, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QApplication, QLineEdit, QWidget

from tests.desk.base import PLACES, DeskTest
from wisecompass.desk.session import Session
from wisecompass.desk.start import left_open
from wisecompass.desk.window import DeskWindow
from wisecompass.drafting import marks
from wisecompass.folio import store

CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


class Steps(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        self.turn_to("tangency/arc-two-lines")
        self.window.strip.setFocus()

    def test_keys_walk(self) -> None:
        strip = self.window.strip
        self.press(Qt.Key.Key_Home)
        self.assertEqual(strip.head(), "Step 1 of 15")
        self.press(Qt.Key.Key_Right)
        self.assertEqual(strip.head(), "Step 2 of 15")
        self.press(Qt.Key.Key_Left)
        self.press(Qt.Key.Key_Left)
        self.assertEqual(self.session.step, 1)
        self.press(Qt.Key.Key_End)
        self.assertEqual(strip.head(), "Finished")
        self.press(Qt.Key.Key_Right)
        self.assertEqual(strip.head(), "Finished")

    def test_arrows_walk_from_the_sheet_too_but_not_inside_a_number(self) -> None:
        self.session.go_to(5)
        self.window.sheet.setFocus()
        self.press(Qt.Key.Key_Right)
        self.assertEqual(self.session.step, 6)
        field = self.number("radius")
        field.setFocus()
        self.press(Qt.Key.Key_Left)
        self.assertEqual(self.session.step, 6)
        self.press(Qt.Key.Key_Escape)
        self.assertTrue(self.window.strip.hasFocus())

    def test_the_setting_is_said_with_its_unit_and_is_in_the_sentence(self) -> None:
        self.session.go_to(8)
        self.assertEqual(self.window.strip.setting(), "18.5 mm")
        self.assertIn("Compass at 18.5 mm (radius), needle on E₁", self.window.strip.text())
        self.session.go_to(3)
        self.assertEqual(self.window.strip.setting(), "72°")

    def test_a_drawing_scale_gives_the_setting_on_the_sheet(self) -> None:
        self.session.set_scale("2:1")
        self.session.go_to(8)
        self.assertEqual(self.window.strip.on_paper(), "on this sheet 37 mm (2:1)")
        self.session.set_scale("1:1")
        self.assertEqual(self.window.strip.on_paper(), "")

    def test_a_click_on_a_dot_goes_there(self) -> None:
        at = self.window.strip.dot_centre(9).toPoint()
        QTest.mouseClick(self.window.strip, Qt.MouseButton.LeftButton, pos=at)
        self.assertEqual(self.session.step, 9)

    def test_space_plays_and_stops(self) -> None:
        strip = self.window.strip
        strip._player.setInterval(5)
        self.press(Qt.Key.Key_End)
        self.press(Qt.Key.Key_Space)
        deadline = time.monotonic() + 10
        while self.session.step < 4 and time.monotonic() < deadline:
            QTest.qWait(5)
        self.press(Qt.Key.Key_Space)
        stopped = self.session.step
        QTest.qWait(40)
        self.assertEqual(self.session.step, stopped)
        self.assertGreaterEqual(stopped, 4)

    def test_the_current_step_is_read_aloud(self) -> None:
        self.session.go_to(8)
        self.assertIn("Step 8 of 15. Compass at 18.5 mm", self.window.strip.accessibleDescription())

    def test_cautions_of_the_step_are_shown(self) -> None:
        self.session.go_to(6)
        self.assertFalse(self.window.cautions.isVisible())
        step = next(s.n for s in self.session.drawing.steps if s.cautions)  # type: ignore[union-attr]
        self.session.go_to(step)
        self.assertTrue(self.window.cautions.isVisible())
        self.assertIn("Mind at this step", self.window.cautions.text())

    def test_every_sheet_can_be_painted_at_every_third_step(self) -> None:
        for place in PLACES.values():
            self.session.turn_to(*place)
            last = self.session.last_step + 1
            for step in {1, *range(2 + sum(place) % 3, last, 3), last}:
                self.session.go_to(step)
                self.assertFalse(self.window.sheet.grab().isNull())
            self.assertFalse(self.window.strip.grab().isNull())


class Sheet(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        self.turn_to("tangency/arc-two-lines")

    def spot(self, name: str) -> QPointF:
        dot = next(m for m in self.session.page.marks if isinstance(m, marks.Dot) and m.name == name)  # type: ignore[union-attr]
        return self.window.sheet.view.px(dot.x, dot.y)

    def test_two_picked_points_are_measured_in_the_figure(self) -> None:
        self.click_sheet(self.spot("V"))
        self.click_sheet(self.spot("C"))
        rows = {row.left: row for row in self.window.ledger.table.rows}
        self.assertEqual(rows["distance"].right, "31.4741 mm")
        self.assertIn("√((6845 + 1369√5) / 10)", rows["distance"].below)
        self.assertEqual(rows["direction"].right, "36°")
        self.press(Qt.Key.Key_Escape)
        self.window.sheet.clear_measure()
        self.assertNotIn("distance", {row.left for row in self.window.ledger.table.rows})

    def test_points_of_different_figures_have_no_distance(self) -> None:
        self.turn_to("developments/rectangle-to-rectangle")
        self.window.sheet.pick(self.dot("a"))
        self.window.sheet.pick(self.dot("A/flat"))
        self.assertIn("points of different figures", [row.left for row in self.window.ledger.table.rows])

    def dot(self, name: str) -> marks.Dot:
        return next(m for m in self.session.page.marks if isinstance(m, marks.Dot) and m.name == name)  # type: ignore[union-attr]

    def test_measuring_from_the_keyboard(self) -> None:
        sheet = self.window.sheet
        sheet.setFocus()
        for _ in range(2):
            self.press(Qt.Key.Key_N)
            self.press(Qt.Key.Key_Return)
        self.assertEqual(len(sheet.picked), 2)
        self.assertIsNotNone(sheet.measure())

    def test_a_click_on_a_line_goes_to_the_step_that_made_it(self) -> None:
        arc = next(m for m in self.session.page.marks if isinstance(m, marks.Arc) and m.name == "blend arc")  # type: ignore[union-attr]
        self.click_sheet(self.window.sheet.view.px(*arc.end(0.37)))
        self.assertEqual(self.session.step, arc.step)

    def test_hovering_shows_name_and_coordinates_of_the_figure(self) -> None:
        QTest.mouseMove(self.window.sheet, self.spot("C").toPoint())
        self.app.processEvents()
        hover = self.window.sheet.hover
        assert hover is not None
        x, y = self.window.sheet.figure_coordinates(hover)
        self.assertAlmostEqual(x, 18.5 / math.tan(math.radians(36)), places=6)
        self.assertAlmostEqual(y, 18.5, places=6)

    def test_wheel_zooms_about_the_pointer_and_double_click_fits(self) -> None:
        sheet = self.window.sheet
        fitted = sheet.view.k
        at = QPointF(200, 150)
        before = sheet.view.mm(at)
        sheet.zoom(2.0, at)
        after = sheet.view.mm(at)
        self.assertAlmostEqual(before[0], after[0])
        self.assertAlmostEqual(before[1], after[1])
        self.assertAlmostEqual(sheet.view.k, 2 * fitted)
        QTest.mouseDClick(sheet, Qt.MouseButton.LeftButton, pos=QPoint(5, 5))
        self.assertAlmostEqual(sheet.view.k, fitted)

    def test_dragging_pans(self) -> None:
        sheet = self.window.sheet
        x = sheet.view.x
        QTest.mousePress(sheet, Qt.MouseButton.LeftButton, pos=QPoint(300, 40))
        from PySide6.QtCore import QEvent
        from PySide6.QtGui import QMouseEvent

        move = QMouseEvent(
            QEvent.Type.MouseMove,
            QPointF(360, 40),
            QPointF(360, 40),
            Qt.MouseButton.NoButton,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
        QApplication.sendEvent(sheet, move)
        QTest.mouseRelease(sheet, Qt.MouseButton.LeftButton, pos=QPoint(360, 40))
        self.assertAlmostEqual(sheet.view.x, x + 60)
        self.assertFalse(sheet.fitted)

    def test_the_new_mark_is_vermilion_and_a_refused_sheet_is_greyed(self) -> None:
        self.session.go_to(6)
        vermilion = self.window.theme.color("vermilion").rgb()
        self.assertGreater(self.pixels(vermilion), 5)
        self.session.go_to(self.session.last_step + 1)
        self.assertEqual(self.pixels(vermilion), 0)
        ink = self.darkest()
        self.type_into("angle", "180")
        self.assertGreater(self.darkest(), ink + 60)

    def image(self) -> QImage:
        return self.window.sheet.grab().toImage()

    def pixels(self, rgb: int) -> int:
        image = self.image()
        return sum(image.pixel(x, y) == rgb for x in range(image.width()) for y in range(image.height()))

    def darkest(self) -> int:
        image = self.image()
        return min(
            image.pixelColor(x, y).lightness() for x in range(0, image.width(), 2) for y in range(0, image.height(), 2)
        )


class Ledger(DeskTest):
    def test_answers_carry_unit_closed_form_and_proof(self) -> None:
        self.turn_to("conics/ellipse")
        self.session.settle()
        rows = {row.left: row for row in self.window.ledger.table.rows}
        self.assertEqual(rows["focal distance"].right, "65.9697 mm")
        self.assertIn("= 16√17", rows["focal distance"].below)
        self.assertIn("proved ±", rows["focal distance"].below)
        self.assertEqual(rows["area"].right, "13722.4767 mm²")
        self.assertIn("= 4368π", rows["area"].below)

    def test_checks_are_counted_and_hold(self) -> None:
        for problem_id in PLACES:
            self.turn_to(problem_id)
            self.session.settle()
            rows = self.window.ledger.table.rows
            for head in (row for row in rows if row.left == "Checks"):
                done, _, total, _ = head.right.split()
                self.assertEqual(done, total)

    def test_an_answer_that_does_not_exist_says_so(self) -> None:
        self.turn_to("space/line-inclined-to-both")
        self.type_into("inclination_hp", "0")
        self.assertEqual(self.answers()["HT from A's projector"], "none")

    def test_a_click_copies_the_full_value(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.session.settle()
        ledger = self.window.ledger
        row = next(i for i, r in enumerate(ledger.table.rows) if r.left == "setback")
        QTest.mouseClick(
            ledger.viewport(), Qt.MouseButton.LeftButton, pos=ledger.visualRect(ledger.table.index(row)).center()
        )
        self.assertEqual(QGuiApplication.clipboard().text(), repr(25.46306552871671))
        self.assertIn("copied setback", self.window.notice_label.text())

    def test_the_proof_follows_without_being_asked(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.type_into("angle", "90")
        deadline = time.monotonic() + 10
        while self.session.certificate is None and time.monotonic() < deadline:
            QTest.qWait(10)
        rows = {r.left: r for r in self.window.ledger.table.rows}
        self.assertEqual(rows["setback"].right, "18.5 mm")
        self.assertRegex(rows["setback"].below, "proved|exact")


class UndoRedo(DeskTest):
    def test_every_change_can_be_undone_and_redone(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        start = self.session.folio
        changes = (
            lambda: self.type_into("angle", "90"),
            lambda: self.session.set_method("corner arcs"),
            lambda: self.session.set_scale("1:1"),
            lambda: self.session.set_paper("A3", False),
            lambda: self.window.school_groups["projection"].actions()[1].trigger(),
            lambda: self.window.school_groups["naming"].actions()[1].trigger(),
        )
        states = [start]
        for change in changes:
            change()
            self.assertNotEqual(self.session.folio, states[-1])
            states.append(self.session.folio)
        for state in reversed(states[:-1]):
            self.window.undo_action.trigger()
            self.assertEqual(self.session.folio, state)
        self.assertFalse(self.window.undo_action.isEnabled())
        for state in states[1:]:
            self.window.redo_action.trigger()
            self.assertEqual(self.session.folio, state)

    def test_typing_one_number_is_one_change(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        before = self.session.folio
        self.type_into("angle", "105")
        self.type_into("radius", "40")
        self.session.undo()
        self.assertEqual(self.session.figure.givens, {"angle": "105", "radius": "18.5"})
        self.session.undo()
        self.assertEqual(self.session.folio, before)
        self.session.redo()
        self.session.redo()
        self.press(Qt.Key.Key_Z, CTRL)
        self.window.undo_action.trigger()
        self.window.undo_action.trigger()
        self.assertEqual(self.session.folio, before)
        self.assertEqual(self.number("angle").text(), "72")

    def test_undo_turns_to_the_sheet_it_changes(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.type_into("angle", "100")
        self.turn_to("pictorial/box")
        self.window.undo_action.trigger()
        self.assertEqual(self.session.figure.problem, "tangency/arc-two-lines")
        self.assertEqual(self.number("angle").text(), "72")


class Folios(DeskTest):
    def test_change_save_and_open_again(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.type_into("angle", "145/2")
        self.assertIn("changed", self.window.where.text())
        path = self.folder / "mine.folio.json"
        self.assertTrue(self.window.save_to(path))
        self.assertNotIn("changed", self.window.where.text())
        self.type_into("angle", "30")
        self.window.save()
        self.assertTrue((self.folder / "mine.folio.json.backup").exists())
        self.window.open_sample()
        self.window.open(path)
        self.turn_to("tangency/arc-two-lines")
        self.assertEqual(self.number("angle").text(), "30")
        self.assertEqual(self.window.notice_label.text(), "opened mine.folio.json")

    def test_a_folio_that_cannot_be_trusted_is_refused_in_the_head_line(self) -> None:
        before = self.session.folio
        path = self.folder / "bad.folio.json"
        for text, words in (
            ("{", "line 1"),
            ('{"format": "wise-compass folio", "version": 7}', "newer"),
            ("[]", "not a folio"),
        ):
            path.write_text(text)
            self.window.open(path)
            self.assertIn(words, self.window.notice_label.text())
            self.assertIs(self.session.folio, before)
        path.write_text(json.dumps({"format": "wise-compass folio", "version": 1, "work": "w", "sheets": []}))
        self.window.open(path)
        self.assertIn("has no sheet", self.window.notice_label.text())

    def test_saving_where_nothing_can_be_written_says_so(self) -> None:
        self.assertFalse(self.window.save_to(self.folder / "no" / "x.folio.json"))
        self.assertIn("cannot be written", self.window.notice_label.text())

    def test_unsaved_work_comes_back_with_the_next_start(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.type_into("angle", "99")
        self.window.close()
        again = left_open(None, self.settings, self.drafts)
        assert again is not None
        self.assertTrue(again.changed)
        self.assertEqual(self.figure_in(again.folio, "tangency/arc-two-lines").givens["angle"], "99")

    def test_the_last_folio_opens_again(self) -> None:
        self.assertIsNone(left_open(None, self.settings, self.drafts))
        path = self.folder / "mine.folio.json"
        self.window.save_to(path)
        self.window.close()
        again = left_open(None, self.settings, self.drafts)
        assert again is not None
        self.assertEqual(again.path, path)
        path.write_text("{")
        self.assertIsNone(left_open(None, self.settings, self.drafts))

    def test_the_window_remembers_its_size_and_the_dark(self) -> None:
        self.window.resize(self.window.minimumSizeHint().width() + 6, 712)
        size = self.window.size()
        self.window.toggle_dark()
        self.window.close()
        again = DeskWindow(Session(store.sample()), QSettings(str(self.folder / "desk.ini"), QSettings.Format.IniFormat))
        self.assertEqual(again.size(), size)
        self.assertEqual(again.theme.name, "dark")
        again.close()

    def test_where_no_draft_can_be_kept_closing_asks_once(self) -> None:
        window = DeskWindow(Session(store.sample()))
        window.show()
        window.session.set_paper("A2", True)
        self.assertFalse(window.close())
        self.assertIn("not saved", window.notice_label.text())
        window.session.set_paper("A4", False)
        self.assertFalse(window.close(), "what has changed since is not left unasked")
        self.assertTrue(window.close())
        untouched = DeskWindow(Session(store.sample()))
        untouched.show()
        self.assertTrue(untouched.close())


class HandOver(DeskTest):
    def wait(self) -> str:
        deadline = time.monotonic() + 60
        while self.window.exporter is not None and time.monotonic() < deadline:
            QTest.qWait(10)
        self.assertIsNone(self.window.exporter)
        return self.window.notice_label.text()

    def test_every_kind_of_file(self) -> None:
        self.turn_to("developments/rectangle-to-rectangle")
        for kind, begins in (("pdf", b"%PDF"), ("svg", b"<svg"), ("dxf", b"  0"), ("csv", b"kind,"), ("folio-pdf", b"%PDF")):
            path = self.folder / f"out-{kind}"
            self.window.export(kind, path)
            self.assertEqual(self.wait(), f"wrote out-{kind}")
            self.assertTrue(path.read_bytes().startswith(begins), kind)
        self.assertEqual(len(self.session.folio.logbook), 5)
        self.assertNotIn("changed", self.window.where.text())

    def test_a_place_that_cannot_be_written(self) -> None:
        self.window.export("svg", self.folder / "no" / "x.svg")
        self.assertIn("cannot be written", self.wait())
        self.assertEqual(self.session.folio.logbook, ())

    def test_cancelling_writes_nothing(self) -> None:
        path = self.folder / "folio.pdf"
        self.window.export("folio-pdf", path)
        self.window.cancel_job()
        self.assertIn("cancelled", self.wait())
        self.assertFalse(path.exists())


class Look(DeskTest):
    def test_dark_keeps_sheet_and_step(self) -> None:
        self.turn_to("conics/ellipse")
        self.session.go_to(12)
        light = self.window.grab().toImage()
        self.window.dark_action.trigger()
        self.app.processEvents()
        dark = self.window.grab().toImage()
        self.assertEqual((self.session.step, self.session.figure.problem), (12, "conics/ellipse"))
        self.assertLess(dark.pixelColor(640, 60).lightness(), light.pixelColor(640, 60).lightness() - 100)
        self.type_into("major", "200")
        self.assertEqual(self.session.figure.givens["major"], "200")

    def test_dark_shows_the_same_parts(self) -> None:
        for problem in ("tangency/arc-two-lines", "loci/cycloid", "space/lamina", "space/line-inclined-to-both"):
            self.turn_to(problem)
            seen = []
            for _ in range(2):
                brief = self.window.brief
                parts = (brief.slide, brief.slide_words, brief.counts, brief.turner, self.window.space_picture)
                seen.append([part.isVisible() for part in parts])
                self.window.toggle_dark()
                self.app.processEvents()
            with self.subTest(problem=problem):
                self.assertEqual(seen[0], seen[1])
                self.assertEqual(seen[0][0], problem == "loci/cycloid")
                self.assertEqual(seen[0][4], problem.startswith("space/"))

    def test_no_text_is_smaller_than_eleven_pixels(self) -> None:
        for widget in self.window.findChildren(QWidget):
            if widget.isVisible() and isinstance(widget, QLineEdit | QAbstractButton):
                self.assertGreaterEqual(widget.fontInfo().pixelSize(), 11, widget.objectName())

    def test_every_control_that_takes_the_focus_has_a_name(self) -> None:
        for widget in self.window.findChildren(QWidget):
            takes = widget.focusPolicy() & Qt.FocusPolicy.TabFocus
            if widget.isVisible() and takes and not widget.objectName().startswith("qt_"):
                named = widget.accessibleName() or (isinstance(widget, QAbstractButton) and widget.text())
                self.assertTrue(named, f"{type(widget).__name__} {widget.objectName()}")

    def test_fits_a_small_screen(self) -> None:
        self.window.resize(1280, 800)
        self.app.processEvents()
        for place in PLACES.values():
            self.session.turn_to(*place)
            self.app.processEvents()
            self.assertLessEqual(self.window.minimumSizeHint().width(), 1280)
            self.assertLessEqual(self.window.minimumSizeHint().height(), 800)
            self.assertGreater(self.window.sheet.height(), 380)


class KeyboardAlone(DeskTest):
    def test_a_brief_changed_stepped_saved_and_reopened_without_the_mouse(self) -> None:
        self.press(Qt.Key.Key_K, CTRL)
        QTest.keyClicks(QApplication.focusWidget(), "blend")
        self.press(Qt.Key.Key_Return)
        self.press(Qt.Key.Key_F2)
        QTest.keyClicks(QApplication.focusWidget(), "60")
        self.press(Qt.Key.Key_Tab)
        QTest.keyClicks(QApplication.focusWidget(), "20")
        self.press(Qt.Key.Key_Escape)
        self.press(Qt.Key.Key_Home)
        for _ in range(5):
            self.press(Qt.Key.Key_Right)
        self.assertEqual(self.window.strip.setting(), "20 mm")
        path: Path = self.folder / "kept.folio.json"
        self.window.save_to(path)
        self.press(Qt.Key.Key_S, CTRL)
        kept = store.load(path).sheets[0].figures[-1]
        self.assertEqual((kept.problem, kept.givens), ("tangency/arc-two-lines", {"angle": "60", "radius": "20"}))
        self.press(Qt.Key.Key_PageDown, CTRL)
        self.assertEqual(self.session.place, (1, 0))
