"""The list of sheets and problems at the desk, and the search in it."""

from __future__ import annotations

import unittest
from dataclasses import replace

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from tests.desk.base import DeskTest
from wisecompass import catalogue
from wisecompass.desk.index import PLACE

CTRL = Qt.KeyboardModifier.ControlModifier


class IndexAndSearch(DeskTest):
    def test_lists_sheets_and_problems_with_signs(self) -> None:
        index = self.window.index
        index.finish_signs()
        texts = [item.text(0) for item in index._items()]
        for problem_id in catalogue.ids():
            self.assertIn(catalogue.problem(problem_id).title, texts)
        self.assertIn("BM-05  2 Mason, window arch · A3", [heading.text(0) for heading in index._headings])
        signs = [item.icon(0) for item in index._items() if item.data(0, PLACE) is None]
        self.assertTrue(all(not sign.isNull() for sign in signs))

    def test_search_by_any_word_and_enter_opens(self) -> None:
        self.press(Qt.Key.Key_K, CTRL)
        search = self.window.index.search
        self.assertTrue(search.hasFocus())
        QTest.keyClicks(search, "trammel")
        shown = [i for i in self.window.index._items() if not i.isHidden()]
        self.assertTrue(shown)
        self.press(Qt.Key.Key_Return)
        self.assertEqual(self.session.figure.problem, "conics/ellipse")
        self.assertEqual(search.text(), "")
        self.assertTrue(self.window.strip.hasFocus())

    def test_down_enters_the_list(self) -> None:
        self.press(Qt.Key.Key_K, CTRL)
        QTest.keyClicks(self.window.index.search, "hopper")
        self.press(Qt.Key.Key_Down)
        self.assertTrue(self.window.index.tree.hasFocus())
        self.press(Qt.Key.Key_Return)
        self.assertEqual(self.session.figure.problem, "developments/rectangle-to-rectangle")

    def test_the_name_of_a_sheet_finds_its_figures(self) -> None:
        self.window.index.filter("tinsmith")
        shown = [i.text(0) for i in self.window.index._items() if not i.isHidden()]
        self.assertEqual(
            shown,
            [figure.name for sheet in self.session.folio.sheets if "Tinsmith" in sheet.name for figure in sheet.figures],
        )

    def test_nothing_found_shows_nothing(self) -> None:
        self.window.index.search.setText("zeppelin")
        self.assertEqual([i for i in self.window.index._items() if not i.isHidden()], [])
        self.window.index.search.clear()
        self.assertGreater(len([i for i in self.window.index._items() if not i.isHidden()]), 6)

    def test_a_problem_that_no_sheet_has_gets_a_sheet(self) -> None:
        folio = self.session.folio
        self.session.replace_folio(replace(folio, sheets=folio.sheets[:1]), None)
        self.session.set_problem("pictorial/box")
        self.assertEqual(len(self.session.folio.sheets), 2)
        self.assertEqual(self.session.figure.problem, "pictorial/box")
        self.session.undo()
        self.assertEqual(len(self.session.folio.sheets), 1)
        self.assertEqual(self.session.figure.problem, "polygons/regular-from-side")

    def test_folds_away(self) -> None:
        self.window.fold_index()
        self.assertFalse(self.window.index.isVisible())
        self.window.search()
        self.assertTrue(self.window.index.isVisible())


if __name__ == "__main__":
    unittest.main()
