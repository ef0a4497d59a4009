"""The chosen point of a curve: slid under the sentence, dragged or clicked on the sheet; schools of dividing."""

from __future__ import annotations

import math
import unittest

from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.desk.base import DeskTest
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.marks import Dot
from wisecompass.drafting.sliding import given_of, reach


class TheSlide(DeskTest):
    def test_is_there_only_where_a_point_is_chosen(self) -> None:
        self.session.set_problem("loci/cycloid")
        self.assertFalse(self.window.brief.slide.isHidden())
        self.session.set_problem("lines/bisect-angle")
        self.assertTrue(self.window.brief.slide.isHidden())

    def test_keys_and_pointer_move_the_point(self) -> None:
        self.session.set_problem("loci/cycloid")
        slide = self.window.brief.slide
        self.assertEqual(self.session.given_text("turned"), "100")
        slide.setFocus()
        QTest.keyClick(slide, Qt.Key.Key_PageUp)
        self.assertGreater(float(self.session.given_text("turned")), 110)
        QTest.mouseClick(slide, Qt.MouseButton.LeftButton, pos=QPoint(slide.width() - 2, 8))
        self.assertEqual(self.session.given_text("turned"), "359.99")
        self.assertIsNone(self.session.trouble)
        self.window.undo_action.trigger()
        self.assertEqual(self.session.given_text("turned"), "100")

    def test_follows_what_is_typed_in_the_sentence(self) -> None:
        self.session.set_problem("loci/helix")
        slide = self.window.brief.slide
        self.assertEqual((slide.minimum(), slide.maximum(), slide.value()), (1, 18, 5))
        self.type_into("chosen", "11")
        self.assertEqual(slide.value(), 11)


class OnTheSheet(DeskTest):
    def ringed(self) -> Dot:
        dot = self.session.chosen_dot()
        assert dot is not None
        return dot

    def drag(self, start: QPointF, end: QPointF) -> None:
        sheet = self.window.sheet
        QTest.mousePress(sheet, Qt.MouseButton.LeftButton, pos=start.toPoint())
        for share in (0.4, 1.0):
            at = start + (end - start) * share
            left, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
            QApplication.sendEvent(sheet, QMouseEvent(QEvent.Type.MouseMove, at, at, Qt.MouseButton.NoButton, left, none))
        QTest.mouseRelease(sheet, Qt.MouseButton.LeftButton, pos=end.toPoint())
        self.app.processEvents()

    def test_every_problem_with_a_chosen_point_rings_it(self) -> None:
        from wisecompass import catalogue

        for problem_id in catalogue.ids():
            if catalogue.problem(problem_id).chosen is not None:
                self.session.set_problem(problem_id)
                with self.subTest(problem=problem_id):
                    self.assertTrue(math.isfinite(self.ringed().x))

    def test_dragging_takes_the_point_along_the_curve_and_leaves_the_view(self) -> None:
        self.session.set_problem("conics/ellipse-tangent-normal")
        self.app.processEvents()
        sheet = self.window.sheet
        view = (sheet.view.k, sheet.view.x, sheet.view.y)
        start = sheet.view.px(self.ringed().x, self.ringed().y)
        self.drag(start, start + QPointF(-90, -20))
        self.assertEqual((sheet.view.k, sheet.view.x, sheet.view.y), view)
        self.assertTrue(70 < float(self.session.given_text("position")) < 130, self.session.given_text("position"))

    def test_a_click_on_the_curve_chooses_the_point_there(self) -> None:
        self.session.set_problem("loci/archimedean-tangent-normal")
        sheet, page = self.window.sheet, self.session.page
        assert page is not None
        truth = self.session.problem.find_truth(self.session.problem.read({"turned": "333"}), PLAIN).points["P"]
        spot = page.placements["spiral"].at(float(truth.x), float(truth.y))  # type: ignore[union-attr]
        self.click_sheet(sheet.view.px(*spot))
        self.assertAlmostEqual(float(self.session.given_text("turned")), 333, delta=3)

    def test_the_point_follows_the_numbering(self) -> None:
        self.session.set_problem("loci/helix")
        self.assertEqual(self.ringed().name, "P5")
        place = (self.ringed().x, self.ringed().y)
        self.window.school_groups["numbering"].actions()[1].trigger()
        self.assertEqual(self.ringed().name, "P6")
        self.assertEqual((self.ringed().x, self.ringed().y), place)
        self.assertEqual(self.session.given_text("chosen"), "5")

    def test_both_ends_can_be_reached(self) -> None:
        self.session.set_problem("loci/trochoid")
        chosen = self.session.problem.chosen
        assert chosen is not None
        item = given_of(self.session.problem, chosen)
        for value in reach(self.session.problem, chosen, self.session.typed):
            self.session.set_given(item.name, str(value))
            self.assertIsNone(self.session.trouble)


class Schools(DeskTest):
    def test_divisions_from_one_clockwise_from_the_top(self) -> None:
        self.session.set_problem("conics/ellipse")
        for school in ("numbering", "counting", "beginning"):
            self.window.school_groups[school].actions()[1].trigger()
        self.app.processEvents()
        assert self.session.drawing is not None
        dots = {m.name: (m.x, m.y) for m in self.session.drawing.marks if isinstance(m, Dot)}
        self.assertAlmostEqual(dots["1"][0], 0)
        self.assertAlmostEqual(dots["1"][1], 84)
        self.assertGreater(dots["2"][0], 0)  # on to the right: clockwise
        self.assertIn("P2", dots)
        self.assertNotIn("P1", dots)

    def test_what_is_counted_stands_before_the_first_step(self) -> None:
        self.session.set_problem("loci/archimedean-spiral")
        self.assertIn("21 spaces of the gap, 12 divisions of the circle", self.window.brief.counts.text())
        self.type_into("turns", "2")
        self.assertIn("24 spaces", self.window.brief.counts.text())


if __name__ == "__main__":
    unittest.main()
