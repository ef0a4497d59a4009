"""Several figures on a sheet at the desk, links between them, and the folio as a new user makes one."""

from __future__ import annotations

import unittest
from pathlib import Path
from typing import ClassVar

from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt
from PySide6.QtGui import QDropEvent
from PySide6.QtPrintSupport import QPrinter
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit

from tests.desk.base import DeskTest
from wisecompass import catalogue
from wisecompass.catalogue import index as contents
from wisecompass.desk.index import PLACE, PROBLEM_ID
from wisecompass.desk.leaves import Leaves
from wisecompass.desk.printing import INK, Preview, put_on
from wisecompass.desk.title_field import TitleField
from wisecompass.drafting.marks import Dot, Text
from wisecompass.drafting.wording import number_text
from wisecompass.exchange.leaves import sheet_pages
from wisecompass.folio import links, register, store
from wisecompass.folio.document import Folio
from wisecompass.folio.labels import text_box

CTRL, ALT, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ShiftModifier


class OnTheSample(DeskTest):
    folio: ClassVar[Folio] = store.sample()

    def take(self, name: str) -> None:
        self.session.turn_to(*register.place_of(self.session.folio, name))
        self.session.neighbours.finish()
        self.app.processEvents()

    def cell(self, name: str) -> tuple[float, float, float, float]:
        """The part of the sheet of a figure on the sheet in hand."""
        assert self.session.plan is not None
        cell = self.session.plan.cells[[figure.name for figure in self.session.sheet.figures].index(name)]
        assert cell is not None
        return cell.box

    def caption(self) -> QPoint:
        """Where the name of the figure in hand is seen."""
        assert self.session.page is not None
        head = next(mark for mark in self.session.page.brief if isinstance(mark, Text))
        left, low, right, high = text_box(head)
        return self.window.sheet.view.px((left + right) / 2, (low + high) / 2).toPoint()

    def drag(self, start: QPoint, by: QPoint, modifiers: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        sheet, button = self.window.sheet, Qt.MouseButton.LeftButton
        QTest.mousePress(sheet, button, modifiers, start)
        for share in (0.3, 0.7, 1.0):
            QTest.mouseMove(sheet, start + by * share)
            self.app.processEvents()
        QTest.mouseRelease(sheet, button, modifiers, start + by)
        self.app.processEvents()


class Figures(OnTheSample):
    def test_a_click_on_another_takes_it_in_hand(self) -> None:
        self.take("hip rafter")
        self.assertGreater(len(list(self.session.neighbours.marks())), 20)
        _, low, right, _ = self.cell("valley rafter")
        spot = self.window.sheet.view.px(right - 3, low + 3).toPoint()
        QTest.mouseClick(self.window.sheet, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, spot)
        self.assertEqual(self.session.figure.name, "valley rafter")
        self.assertEqual(self.window.strip.figure(), "valley rafter")
        self.assertFalse(self.session.can_undo, "taking in hand is no change")
        self.press(Qt.Key.Key_PageUp, ALT)
        self.assertEqual(self.session.figure.name, "hip rafter")

    def test_the_others_are_seen_and_stay_while_somebody_types(self) -> None:
        self.take("brace")
        before, shown = self.session.plan, self.session.neighbours.shown
        self.type_into("base", "77")
        self.assertIs(self.session.plan, before)
        self.assertEqual(self.session.neighbours.shown, shown)
        self.session.settle()
        self.session.neighbours.finish()
        texts = {mark.text for mark in self.session.neighbours.marks() if isinstance(mark, Text)}
        self.assertLessEqual({"gusset", "knee brace", "brace gusset"}, texts)
        self.assertNotIn("brace", texts)

    def test_dragged_by_its_name_it_stays_there_and_the_others_stay(self) -> None:
        self.take("brace")
        before = {name: self.cell(name) for name in ("gusset", "brace", "knee brace")}
        self.drag(self.caption(), QPoint(60, 30))
        k = self.window.sheet.view.k
        after = {name: self.cell(name) for name in before}
        self.assertAlmostEqual(after["brace"][0] - before["brace"][0], 60 / k, delta=0.2)
        for name in ("gusset", "knee brace"):
            for one, other in zip(after[name], before[name], strict=True):
                self.assertAlmostEqual(one, other, delta=0.02)
        self.session.undo()
        self.assertEqual(self.cell("brace"), before["brace"])
        self.session.redo()
        self.drag(self.caption(), QPoint(3000, 3000))
        frame = self.session.sheet.as_paper().frame
        self.assertLessEqual(self.cell("brace")[2], frame[2] + 0.02)
        self.assertGreaterEqual(self.cell("brace")[1], frame[1] - 0.02)
        self.window.planner_action.trigger()
        self.assertEqual(self.cell("brace"), before["brace"])

    def test_keys_move_it_where_the_sheet_has_them(self) -> None:
        self.take("brace")
        before = self.cell("brace")
        self.window.sheet.setFocus()
        QTest.keyClick(self.window.sheet, Qt.Key.Key_Right, ALT)
        self.assertAlmostEqual(self.cell("brace")[0] - before[0], 5.0, delta=0.02)
        QTest.keyClick(self.window.sheet, Qt.Key.Key_Down, ALT | SHIFT)
        self.assertAlmostEqual(before[1] - self.cell("brace")[1], 1.0, delta=0.02)
        self.assertEqual(len(self.session.sheet.figures), 4)

    def test_a_block_is_dragged_by_itself(self) -> None:
        self.take("hopper")
        page = self.session.page
        assert page is not None
        before = dict(page.placements)
        block = "pattern"
        dot = next(mark for mark in page.marks if isinstance(mark, Dot) and mark.block == block and mark.shown)
        other = next(m for m in page.marks if isinstance(m, Dot) and m.block == block and m.name != dot.name and m.shown)
        middle = self.window.sheet.view.px((dot.x + other.x) / 2, (dot.y + other.y) / 2)
        if self.window.sheet.mark_at(middle) is None:
            middle = self.window.sheet.view.px(dot.x, dot.y)
        self.drag(middle.toPoint(), QPoint(-20, -10), ALT)
        page = self.session.page
        assert page is not None
        moved = {name for name, at in page.placements.items() if (at.dx, at.dy) != (before[name].dx, before[name].dy)}
        self.assertEqual(len(moved), 1)
        k = self.window.sheet.view.k
        name = next(iter(moved))
        self.assertAlmostEqual(page.placements[name].dx - before[name].dx, -20 / k, delta=0.3)

    def test_one_scale_for_the_sheet(self) -> None:
        self.take("sill blend")
        assert self.session.plan is not None
        self.assertGreater(len(set(self.session.plan.scales)), 1)
        self.window.one_scale_action.trigger()
        self.assertEqual(len(set(self.session.plan.scales)), 1)
        self.assertTrue(self.window.one_scale_action.isChecked())
        self.session.undo()
        self.assertFalse(self.window.one_scale_action.isChecked())

    def test_where_it_begins_is_said(self) -> None:
        self.take("brace")
        self.session.settle()
        self.assertRegex(self.window.brief.counts.text(), r"Begin: A lies \d+ from the left border, \d+ from the lower\.")

    def test_what_is_not_wanted_is_turned_off_in_the_sentence(self) -> None:
        self.take("hip rafter")
        steps = self.session.last_step
        word = next(word for word in self.window.brief.wishes if word.name == "traces")
        self.assertEqual(word.text(), "with traces")
        QTest.mouseClick(word, Qt.MouseButton.LeftButton)
        self.assertEqual(word.text(), "without traces")
        self.assertLess(self.session.last_step, steps)
        self.session.undo()
        self.assertEqual((word.text(), self.session.last_step), ("with traces", steps))

    def test_letters_of_ones_own_are_seen_said_and_undone(self) -> None:
        self.take("gusset")
        self.window.letter_by("A=K")
        self.session.settle()
        self.app.processEvents()
        assert self.session.page is not None
        texts = {mark.text for mark in self.session.page.marks if isinstance(mark, Text)}
        self.assertIn("K", texts)
        self.assertNotIn("A", texts)
        self.session.go_to(1)
        self.assertIn("Mark K", self.window.strip.text())
        self.assertIn("angle at K", {row.left for row in self.window.ledger.table.rows})
        self.assertIn("KC is as long as the left side", {row.left for row in self.window.ledger.table.rows})
        self.window.letter_by("A=B")
        self.assertIn("B is another point", self.window.notice_label.text())
        self.session.undo()
        self.assertEqual(self.session.figure.letters, "")

    def test_a_figure_goes_on_with_anothers_drawing(self) -> None:
        self.take("arch")
        self.window._list_continuations()
        words = [action.text() for action in self.window.go_on_menu.actions()]
        self.assertIn("Tangent and normal of an ellipse", words)
        steps = self.session.last_step
        self.window.go_on_menu.actions()[words.index("Tangent and normal of an ellipse")].trigger()
        self.assertEqual(self.session.figure.goes_on, "arch")
        self.assertGreater(self.session.last_step, steps)
        self.session.go_to(steps + 1)
        self.assertEqual(self.window.strip.head(), f"Step {steps + 1} of {self.session.last_step}")
        self.assertEqual(self.number("major").text(), "arch · major")
        self.session.neighbours.finish()
        shown = [mark.text for mark in self.session.neighbours.marks() if isinstance(mark, Text)]
        self.assertNotIn("large circle", shown, "the arch is drawn once, under the figure in hand")
        self.session.undo()
        self.assertEqual(len(self.session.sheet.figures), 2)

    def test_a_figure_of_an_unknown_problem_is_kept_and_can_only_be_deleted(self) -> None:
        text = store.dumps(self.session.folio).replace("tangency/ogee-parallel-lines", "tangency/unheard-of")
        path = self.folder / "odd.folio.json"
        path.write_text(text)
        self.window.open(path)
        self.take("ogee")
        self.assertIn("does not know", self.window.brief.reason.text())
        self.session.settle()
        self.take("sill blend")
        words = [mark.text for mark in self.session.neighbours.marks() if isinstance(mark, Text)]
        self.assertTrue(any("cannot be drawn" in text for text in words))
        self.window.save_to(path)
        self.assertIn("tangency/unheard-of", path.read_text())
        self.take("ogee")
        self.window.register_actions["Delete figure"].trigger()
        self.assertNotIn("ogee", register.figure_names(self.session.folio))
        self.session.undo()
        self.assertIn("ogee", register.figure_names(self.session.folio))


class Linked(OnTheSample):
    def test_it_reads_as_words_with_its_value_and_is_typed_as_a_name(self) -> None:
        self.take("brace gusset")
        field = self.number("right")
        self.assertEqual(field.text(), "knee brace · true length")
        self.assertIn("(48.04 mm)", self.window.brief.tails["right"][0].text())
        field.setFocus()
        self.assertEqual(field.text(), "knee-brace.true_length")
        self.type_into("right", "knee-brace.true_length / 2 + 20")
        self.assertEqual(self.session.figure.givens["right"], "knee-brace.true_length / 2 + 20")
        self.assertIn("(44.02 mm)", self.window.brief.tails["right"][0].text())
        self.press(Qt.Key.Key_Escape)
        self.assertEqual(field.text(), "knee brace · true length / 2 + 20")

    def test_what_hangs_on_it_follows_at_once(self) -> None:
        self.take("knee brace")
        self.type_into("apart", "30")
        self.take("brace gusset")
        wanted = number_text((30**2 + 24**2 + 34**2) ** 0.5, 2)
        self.assertIn(f"({wanted} mm)", self.window.brief.tails["right"][0].text())

    def test_a_name_is_completed_and_only_what_fits_is_offered(self) -> None:
        self.take("brace gusset")
        self.type_into("left", "knee")
        field = self.number("left")
        assert field._offered is not None
        texts = [field._offered.item(row).text() for row in range(field._offered.count())]
        self.assertIn("knee-brace.true_length", texts)
        self.assertNotIn("knee-brace.inclination_hp", texts)
        self.assertTrue(field._offered.isVisible())
        for _ in range(texts.index("knee-brace.true_length")):
            self.press(Qt.Key.Key_Down)
        self.press(Qt.Key.Key_Return)
        self.assertFalse(field._offered.isVisible())
        self.assertEqual(self.session.figure.givens["left"], "knee-brace.true_length")

    def test_an_answer_is_dropped_onto_a_number(self) -> None:
        self.take("knee brace")
        self.session.settle()
        row = next(row for row in self.window.ledger.table.rows if row.link == "true_length")
        self.assertEqual(row.left, "true length")
        self.take("brace")
        data = QMimeData()
        data.setText("knee-brace.true_length")
        copy = Qt.DropAction.CopyAction
        left = Qt.MouseButton.LeftButton
        self.number("side").dropEvent(QDropEvent(QPointF(3, 3), copy, data, left, Qt.KeyboardModifier.NoModifier))
        self.assertEqual(self.session.figure.givens["side"], "knee-brace.true_length")
        self.session.undo()
        self.assertEqual(self.session.figure.givens["side"], "49")

    def test_one_that_leads_nowhere_is_underlined_with_its_reason(self) -> None:
        self.take("brace")
        self.type_into("side", "brace-gusset.nothing")
        self.assertTrue(self.number("side").property("wrong"))
        self.assertIn("has no “nothing”", self.window.brief.reason.text())
        self.type_into("side", "brace.side_a")
        self.assertIn("would hang on itself", self.window.brief.reason.text())

    def test_deleting_and_renaming_what_it_hangs_on(self) -> None:
        self.take("knee brace")
        self.window.rename_figure("long brace")
        self.take("brace gusset")
        self.assertEqual(self.number("right").text(), "long brace · true length")
        self.take("long brace")
        self.window.register_actions["Delete figure"].trigger()
        self.take("brace gusset")
        self.assertIn("no figure “long-brace”", self.window.brief.reason.text())
        self.session.undo()
        self.take("brace gusset")
        self.assertEqual(self.window.brief.reason.text(), "")


class TheDesk(OnTheSample):
    def test_the_sheet_has_a_sixth_more_of_the_window_than_it_had(self) -> None:
        self.take("hip rafter")
        self.session.settle()
        self.app.processEvents()
        size = self.window.sheet.size()
        self.assertGreaterEqual(size.width() * size.height(), 1.15 * 742 * 527)

    def test_no_title_or_answer_is_cut(self) -> None:
        metrics = self.window.ledger.fontMetrics()
        room = self.window.ledger.width()
        for problem_id in catalogue.ids():
            for words in contents.entries()[problem_id]["findings"].values():
                self.assertLess(metrics.horizontalAdvance(words), room - 30, words)

    def test_ways_fold_out_and_have_keys(self) -> None:
        self.take("arch")
        self.session.settle()
        brief = self.window.brief
        self.assertFalse(brief.table.isVisible())
        self.assertEqual(brief.line.others.text(), "4 other ways ▾")
        self.press(Qt.Key.Key_F3)
        self.assertTrue(brief.table.isVisible())
        second = brief.tags[1].name
        self.press(Qt.Key.Key_2, CTRL)
        self.assertEqual(self.session.figure.method, second)
        self.assertEqual(brief.line.tag.name, second)
        self.assertTrue(self.session.worths[0].tools)

    def test_leaves_turn_and_the_card_is_put_away(self) -> None:
        self.take("hip rafter")
        self.assertTrue(self.window.card.isVisible())
        size = self.window.card.size()
        self.press(Qt.Key.Key_F7, SHIFT)
        self.assertGreater(self.window.card.width(), size.width())
        self.press(Qt.Key.Key_F7)
        self.assertFalse(self.window.card.isVisible())
        self.press(Qt.Key.Key_F7)
        self.assertTrue(self.window.card.isVisible())
        QTest.mousePress(self.window.card, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, QPoint(20, 8))
        QTest.mouseMove(self.window.card, QPoint(-100, -60))
        QTest.mouseRelease(self.window.card, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, QPoint(20, 8))
        self.assertTrue(self.window.sheet.rect().contains(self.window.card.geometry()))
        self.take("sill blend")
        self.assertFalse(self.window.card.isVisible(), "nothing to be seen in space")
        leaves: Leaves = self.window.leaves
        self.assertEqual(leaves.shown, "Answers")
        self.press(Qt.Key.Key_F8)
        self.assertEqual(leaves.shown, "Hand")
        self.session.settle()
        self.assertTrue(self.window.hand.table.rows)

    def test_the_title_block_is_written_where_it_stands(self) -> None:
        self.take("sill blend")
        sheet = self.window.sheet
        left, low, right, high = sheet._title_boxes()["work"]
        spot = sheet.view.px((left + right) / 2, (low + high) / 2).toPoint()
        QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, spot)
        field = sheet.findChild(TitleField)
        assert field is not None
        QTest.keyClicks(field, "Long Barn")
        QTest.keyClick(field, Qt.Key.Key_Tab)
        self.assertEqual(self.session.folio.work, "Long Barn")
        following = sheet.title_field
        self.assertEqual(following.name, "name")
        QTest.keyClick(following, Qt.Key.Key_Escape)
        sheet.edit_title("number")
        sheet.title_field.setText("BM-01")
        QTest.keyClick(sheet.title_field, Qt.Key.Key_Return)
        self.assertIn("two sheets have the number BM-01", self.window.notice_label.text())
        self.session.undo()
        self.session.undo()
        self.assertEqual(self.session.folio.work, "Bramlow Mill")


class Printing(OnTheSample):
    def test_every_sheet_comes_out_at_its_own_size(self) -> None:
        from pypdf import PdfReader

        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(self.folder / "printed.pdf"))
        named = ("sill blend", "stringer", "canopy")
        leaves = [register.place_of(self.session.folio, name)[0] for name in named]
        put_on(printer, [page for page, _ in sheet_pages(self.session.folio, leaves)])
        pages = PdfReader(str(self.folder / "printed.pdf")).pages
        sizes = [(round(float(p.mediabox.width) / 72 * 25.4), round(float(p.mediabox.height) / 72 * 25.4)) for p in pages]
        self.assertEqual(sizes, [(420, 297), (297, 210), (420, 297)])
        self.assertEqual(INK.paper, "#FFFFFF")

    def test_the_preview_opens_and_stops_nobody(self) -> None:
        self.take("sill blend")
        dialog = Preview(self.window, self.session.folio, [3])
        dialog.open()
        self.app.processEvents()
        self.assertTrue(dialog.isVisible())
        dialog.close()


class AsANewUser(DeskTest):
    def pick(self, words: str) -> None:
        """Put a problem on the sheet in hand, by keys alone."""
        self.press(Qt.Key.Key_K, CTRL)
        QTest.keyClicks(QApplication.focusWidget(), words)
        self.press(Qt.Key.Key_Return)

    def test_by_keyboard_alone(self) -> None:
        self.press(Qt.Key.Key_N, CTRL)
        self.assertEqual(self.session.folio.work, "")
        self.window.sheet.edit_title("work")
        field = QApplication.focusWidget()
        assert isinstance(field, QLineEdit)
        QTest.keyClicks(field, "Cart shed")
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertEqual(self.session.folio.work, "Cart shed")
        self.pick("line from ends")
        self.window.rename_figure("rafter")
        self.pick("square from side")
        self.pick("bisect angle")
        self.assertEqual(len(self.session.sheet.figures), 3)
        self.press(Qt.Key.Key_PageUp, ALT)
        square = self.session.figure
        self.assertEqual(square.problem, "polygons/square-from-side")
        self.press(Qt.Key.Key_F2)
        QTest.keyClicks(QApplication.focusWidget(), "rafter.true_length / 2")
        self.press(Qt.Key.Key_Escape)
        self.press(Qt.Key.Key_Escape)
        self.assertIsNone(self.session.trouble)
        self.window.sheet.setFocus()
        QTest.keyClick(self.window.sheet, Qt.Key.Key_Right, ALT)
        self.assertIsNotNone(self.session.figure.room)
        self.press(Qt.Key.Key_PageDown, ALT)
        self.press(Qt.Key.Key_Delete, CTRL)
        self.assertEqual(len(self.session.sheet.figures), 2)
        self.press(Qt.Key.Key_Z, CTRL)
        self.assertEqual(len(self.session.sheet.figures), 3)
        path: Path = self.folder / "shed.folio.json"
        self.window.save_to(path)
        before = self.session.folio
        self.press(Qt.Key.Key_N, CTRL)
        self.window.open(path)
        self.assertEqual(self.session.folio, before)
        self.assertNotIn("Bramlow", path.read_text())
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(self.folder / "shed.pdf"))
        put_on(printer, [page for page, _ in sheet_pages(self.session.folio, [0])])
        self.assertTrue((self.folder / "shed.pdf").read_bytes().startswith(b"%PDF"))

    def click_problem(self, problem_id: str) -> None:
        """Click a problem in the catalogue."""
        index, left = self.window.index, Qt.MouseButton.LeftButton
        QTest.mouseClick(index.leaves.words["Catalogue"], left)
        item = next(i for i in index._items() if i.data(0, PLACE) is None and i.data(0, PROBLEM_ID) == problem_id)
        index.tree.scrollToItem(item)
        self.app.processEvents()
        spot = index.tree.visualItemRect(item).center()
        QTest.mouseClick(index.tree.viewport(), left, Qt.KeyboardModifier.NoModifier, spot)
        self.app.processEvents()

    def test_by_pointer(self) -> None:
        sheet, left, plain = self.window.sheet, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
        self.window.new_action.trigger()
        a, b, c, d = sheet._title_boxes()["name"]
        QTest.mouseClick(sheet, left, plain, sheet.view.px((a + c) / 2, (b + d) / 2).toPoint())
        QTest.keyClicks(sheet.title_field, "Shed")
        QTest.keyClick(sheet.title_field, Qt.Key.Key_Return)
        for problem_id in ("space/line-from-ends", "polygons/square-from-side", "lines/bisect-angle"):
            self.click_problem(problem_id)
        self.assertEqual([f.problem.split("/")[0] for f in self.session.sheet.figures], ["space", "polygons", "lines"])
        self.session.neighbours.finish()
        assert self.session.plan is not None
        cell = self.session.plan.cells[1]
        assert cell is not None
        spot = sheet.view.px(cell.box[2] - 2, cell.box[1] + 2).toPoint()
        QTest.mouseClick(sheet, left, plain, spot)
        self.assertEqual(self.session.figure.problem, "polygons/square-from-side")
        data = QMimeData()
        data.setText(links.link_text(self.session.sheet.figures[0], "true_length"))
        self.number("side").dropEvent(QDropEvent(QPointF(3, 3), Qt.DropAction.CopyAction, data, left, plain))
        self.assertIn("true_length", self.session.figure.givens["side"])
        self.session.settle()
        assert self.session.page is not None
        head = next(mark for mark in self.session.page.brief if isinstance(mark, Text))
        box = text_box(head)
        grip = sheet.view.px((box[0] + box[2]) / 2, (box[1] + box[3]) / 2).toPoint()
        QTest.mousePress(sheet, left, plain, grip)
        for share in (0.4, 1.0):
            QTest.mouseMove(sheet, grip + QPoint(25, 12) * share)
        QTest.mouseRelease(sheet, left, plain, grip + QPoint(25, 12))
        self.assertIsNotNone(self.session.figure.room)
        self.window.register_actions["Delete figure"].trigger()
        self.assertEqual(len(self.session.sheet.figures), 2)
        self.window.undo_action.trigger()
        self.assertEqual(len(self.session.sheet.figures), 3)
        path = self.folder / "pointer.folio.json"
        self.window.save_to(path)
        kept = self.session.folio
        self.window.open_sample()
        self.window.open(path)
        self.assertEqual(self.session.folio, kept)
        self.assertEqual(kept.sheets[0].name, "Shed")


if __name__ == "__main__":
    unittest.main()
