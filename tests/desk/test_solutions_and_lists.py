"""What problems with several answers, lists and points as givens, and slips look like at the desk."""

from __future__ import annotations

import unittest

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.desk.base import DeskTest
from wisecompass import catalogue
from wisecompass.desk.ledger import RowKind
from wisecompass.desk.session import Session
from wisecompass.desk.window import DeskWindow
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.marks import Arc, Text
from wisecompass.drafting.pens import Pen
from wisecompass.folio.document import Figure, Folio, Sheet
from wisecompass.folio.print import with_units


class Turner(DeskTest):
    def turner(self) -> str:
        return self.window.brief.turner.label.text()

    def test_turns_through_all_eight_and_round_again(self) -> None:
        self.session.set_problem("tangency/three-circles")
        self.assertTrue(self.window.brief.turner.isVisible())
        self.assertEqual(self.turner(), "solution 1 of 8")
        radii = []
        for wanted in (2, 3, 4, 5, 6, 7, 8, 1):
            QTest.mouseClick(self.window.brief.turner.on, Qt.MouseButton.LeftButton)
            self.assertEqual(self.turner(), f"solution {wanted} of 8")
            assert self.session.drawing is not None
            heavy = [m for m in self.session.drawing.marks if isinstance(m, Arc) and m.pen is Pen.OUTLINE]
            self.assertEqual([m.solution for m in heavy], [wanted])
            radii.append(round(heavy[0].radius, 6))
        self.assertEqual(len(set(radii)), 8)
        QTest.mouseClick(self.window.brief.turner.back, Qt.MouseButton.LeftButton)
        self.assertEqual(self.turner(), "solution 8 of 8")

    def test_goes_when_one_solution_is_left_and_comes_back(self) -> None:
        self.session.set_problem("triangles/two-sides-angle-opposite")
        self.assertTrue(self.window.brief.turner.isVisible())
        self.type_into("right", "90")
        self.assertFalse(self.window.brief.turner.isVisible())
        self.type_into("right", "52")
        self.assertEqual(self.turner(), "solution 1 of 2")

    def test_only_the_wanted_solution_is_lettered_and_dimensioned(self) -> None:
        self.session.set_problem("tangency/arc-two-circles")
        lengths = []
        for solution in (1, 2):
            self.session.set_solution(solution)
            assert self.session.page is not None
            lettered = {m.name for m in self.session.page.marks if isinstance(m, Text) and m.name.startswith("T")}
            self.assertEqual(lettered, {"T1", "T2"} if solution == 1 else {"T1_2", "T2_2"})
            lengths.append([m.text for m in self.session.page.marks if isinstance(m, Text) and m.text.startswith("R")])
        self.assertEqual(lengths, [["R57"], ["R57"]])

    def test_a_change_of_solution_can_be_undone(self) -> None:
        self.session.set_problem("tangency/line-from-point")
        self.session.set_solution(2)
        self.session.undo()
        self.assertEqual(self.turner(), "solution 1 of 2")


class ListsInTheSentence(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        self.session.set_problem("polygons/from-traverse")

    def test_a_list_is_edited_where_it_stands(self) -> None:
        self.type_into("angles", "90, 90, 90")
        self.assertIn("one angle less than sides", self.window.brief.reason.text())
        self.assertTrue(self.number("angles").property("wrong"))
        self.type_into("lengths", "50, 40, 50, 40")
        self.assertEqual(self.window.brief.reason.text(), "")
        self.assertEqual(self.answers()["area"], "2000 mm²")
        self.assertEqual(self.answers()["closing gap"], "0 mm")

    def test_the_number_under_the_cursor_is_nudged(self) -> None:
        field = self.number("lengths")
        field.setFocus()
        field.setCursorPosition(field.text().index("49") + 1)
        QTest.keyClick(field, Qt.Key.Key_Up)
        self.assertEqual(field.text(), "84, 57, 50, 61, 43")
        QTest.keyClick(field, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
        self.assertEqual(field.text(), "84, 57, 40, 61, 43")
        field.setCursorPosition(0)
        QTest.keyClick(field, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
        self.assertEqual(field.text(), "84.1, 57, 40, 61, 43")
        self.assertEqual(self.session.figure.givens["lengths"], "84.1, 57, 40, 61, 43")

    def test_a_bad_number_is_named_and_the_drawing_stays(self) -> None:
        before = self.session.drawing
        self.type_into("lengths", "84, x, 49, 61, 43")
        self.assertIn("Number 2 of sides", self.window.brief.reason.text())
        self.assertIs(self.session.drawing, before)

    def test_a_point_is_a_pair(self) -> None:
        self.session.set_problem("tangency/three-circles")
        self.type_into("centre_2", "60; 0")
        self.assertEqual(self.window.brief.reason.text(), "")
        field = self.number("centre_2")
        field.setCursorPosition(len(field.text()))
        QTest.keyClick(field, Qt.Key.Key_Up)
        self.assertEqual(field.text(), "60; 1")
        self.type_into("centre_2", "60")
        self.assertIn("1 numbers are too few", self.window.brief.reason.text())

    def test_a_list_keeps_its_size_when_the_unit_changes(self) -> None:
        area = self.answers()["area"]
        self.session.set_units(Units.CM)
        self.assertEqual(self.session.figure.givens["lengths"], "84, 57, 49, 61, 43 mm")
        self.session.set_units(Units.MM)
        self.assertEqual(self.answers()["area"], area)
        figure = with_units(Figure("polygons/from-traverse", "sides and angles", {"lengths": "1, 2, 3 in"}), "cm")
        self.assertEqual(figure.givens["lengths"], "1, 2, 3 in")


class Slips(DeskTest):
    def slips(self) -> list[str]:
        self.session.settle()
        self.window.leaves.show_leaf("Hand")
        self.window.hand.refresh()
        rows = self.window.hand.table.rows
        heads = [i for i, row in enumerate(rows) if row.kind is RowKind.HEAD and row.left == "If you slip"]
        return [row.left for row in rows[heads[0] + 1 :]] if heads else []

    def test_say_what_the_mistaken_drawing_would_measure(self) -> None:
        self.session.set_problem("triangles/two-sides-angle-between")
        scale, end = self.slips()
        self.assertRegex(
            scale, r"^Protractor read on the other scale\. Then side a, opposite A 103\.\d+ mm instead of 53\.5\d? mm, "
        )
        self.assertRegex(end, "^Angle set at the wrong end")
        self.type_into("angle", "90")
        self.assertEqual(len(self.slips()), 1, "at a right angle both scales read alike")

    def test_follow_the_numbers(self) -> None:
        self.session.set_problem("tangency/ogee-parallel-lines")
        before = self.slips()
        self.type_into("rise", "40")
        self.assertNotEqual(self.slips(), before)

    def test_every_problem_can_tell_its_slips(self) -> None:
        for problem_id in catalogue.ids():
            self.session.set_problem(problem_id)
            for text in self.slips():
                self.assertTrue(text.endswith(".") and "nan" not in text and "inf" not in text.split(), text)


class HandFaired(DeskTest):
    def test_the_toggle_shows_the_curve_and_where_it_strays_most(self) -> None:
        self.turn_to("conics/ellipse")
        plain = self.window.sheet.grab().toImage()
        self.press(Qt.Key.Key_H, Qt.KeyboardModifier.ControlModifier)
        self.assertTrue(self.window.sheet.show_faired)
        shown = self.window.sheet.grab().toImage()
        self.assertNotEqual(shown, plain)
        curves, gap = self.window.sheet.faired_now()
        self.assertEqual(len(curves), 1)
        assert gap is not None
        self.assertAlmostEqual(gap.value, 0.2, delta=0.02)
        self.window.faired_action.trigger()
        self.assertEqual(self.window.sheet.grab().toImage(), plain)

    def test_it_follows_the_divisions(self) -> None:
        self.turn_to("conics/ellipse")
        self.window.faired_action.trigger()
        gaps = []
        for divisions in ("8", "24"):
            self.type_into("divisions", divisions)
            self.window.sheet.grab()
            gap = self.window.sheet.faired_now()[1]
            assert gap is not None
            gaps.append(gap.value)
        self.assertGreater(gaps[0], 10 * gaps[1])

    def test_both_branches_and_both_blocks_are_placed(self) -> None:
        for problem_id, count in (("conics/hyperbola-foci", 2), ("loci/helix", 1), ("loci/helical-strip", 2)):
            self.session.set_problem(problem_id)
            self.window.sheet.show_faired = True
            self.assertFalse(self.window.sheet.grab().isNull())
            curves, gap = self.window.sheet.faired_now()
            self.assertEqual(len(curves), count)
            assert gap is not None
            self.assertTrue(0 < gap.value < 5, gap)

    def test_a_figure_without_a_curve_shows_nothing(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        before = self.window.sheet.grab().toImage()
        self.window.faired_action.trigger()
        self.assertEqual(self.window.sheet.grab().toImage(), before)


class Pages(DeskTest):
    def test_the_next_page_is_the_next_figure(self) -> None:
        seen = []
        figures = [figure.problem for sheet in self.session.folio.sheets for figure in sheet.figures]
        for _ in figures:
            seen.append(self.session.figure.problem)
            self.window.turn_sheet(1)
        self.assertEqual(seen, figures)
        self.assertEqual(self.session.place, (0, 0), "and round again")
        self.window.turn_sheet(-1)
        self.assertEqual(self.session.figure.problem, figures[-1])

    def test_every_figure_of_the_folio_has_a_name_of_its_own(self) -> None:
        rows = [item.text(0) for item in self.window.index._items()]
        names = [figure.name for sheet in self.session.folio.sheets for figure in sheet.figures]
        self.assertEqual(rows[: len(names)], names)
        self.assertEqual(len(set(names)), len(names))
        self.turn_to("lines/root-length")
        self.window.rename_figure("long rod")
        self.assertIn("long rod", [item.text(0) for item in self.window.index._items()])

    def test_searching_draws_no_sign_that_is_not_there_yet(self) -> None:
        fresh = DeskWindow(Session(self.folio))
        self.addCleanup(fresh.close)
        fresh.index.filter("apollonius inversion")
        fresh.index.filter("offset and inversion")
        shown = [item.text(0) for item in fresh.index._items() if not item.isHidden()]
        self.assertEqual(shown, ["Circles touching three circles"])
        self.assertEqual(fresh.index._icons, {})

    def test_an_empty_sheet_name_is_no_trouble(self) -> None:
        figure = Figure("lines/copy-angle", "chord transfer")
        self.session.replace_folio(Folio("w", (Sheet("", "", (figure, figure)),)), None)
        self.window.turn_figure(1)
        QApplication.processEvents()
        self.assertEqual(self.session.place, (0, 1))
        self.window.turn_sheet(1)
        self.assertEqual(self.session.place, (0, 0))


if __name__ == "__main__":
    unittest.main()
