"""The parts of a body as a list of lines in the brief, by keys and by pointer."""

from __future__ import annotations

import math
import unittest
from itertools import pairwise

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QToolButton

from tests.desk.base import DeskTest
from wisecompass.catalogue.pictorial.projections import PROJECTIONS
from wisecompass.desk.brief import ChoiceWord
from wisecompass.desk.parts_list import NEW_LINE, PartsList
from wisecompass.desk.which import WhichIsWhich
from wisecompass.drafting.parts_text import lines_of

PEDESTAL = "box 72 36 12 at 0 0 0; box 36 36 26 at 18 0 12"


class PartsInTheBrief(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        self.session.set_problem("solids/crates")
        self.session.set_given("parts", PEDESTAL)
        self.app.processEvents()

    @property
    def parts(self) -> PartsList:
        field = self.window.brief.fields["parts"]
        assert isinstance(field, PartsList)
        return field

    def lines(self) -> list[str]:
        return lines_of(self.session.given_text("parts"))

    def press(self, part: int, words: str) -> None:
        name = f"part {part}: {words}"
        found = [b for b in self.parts.findChildren(QToolButton) if b.accessibleName() == name]
        QTest.mouseClick(found[-1], Qt.MouseButton.LeftButton)
        self.app.processEvents()

    def test_a_line_for_every_part(self) -> None:
        self.assertEqual([row.text() for row in self.parts.rows], lines_of(PEDESTAL))

    def test_what_is_typed_in_a_line_changes_the_body(self) -> None:
        row = self.parts.rows[1]
        row.setFocus()
        row.setCursorPosition(len("box 3"))
        QTest.keyClick(row, Qt.Key.Key_Up)
        self.assertEqual(self.lines()[1], "box 37 36 26 at 18 0 12")
        row.setCursorPosition(len(row.text()))
        QTest.keyClick(row, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
        self.assertEqual(self.lines()[1], "box 37 36 26 at 18 0 2")
        drawing = self.session.drawing
        assert drawing is not None
        self.assertIn("37", str(getattr(drawing.typed["parts"], "text", "")))

    def test_enter_begins_a_new_part_below(self) -> None:
        QTest.keyClick(self.parts.rows[0], Qt.Key.Key_Return)
        self.assertEqual(self.lines(), [lines_of(PEDESTAL)[0], NEW_LINE, lines_of(PEDESTAL)[1]])

    def test_parts_are_doubled_moved_and_taken_out_and_all_is_undone(self) -> None:
        first, second = lines_of(PEDESTAL)
        self.press(1, "this part once more")
        self.assertEqual(self.lines(), [first, first, second])
        self.press(3, "this part before the one above")
        self.assertEqual(self.lines(), [first, second, first])
        self.press(1, "without this part")
        self.assertEqual(self.lines(), [second, first])
        self.press(1, "this part after the one below")
        self.assertEqual(self.lines(), [first, second])
        self.press(2, "without this part")
        self.assertEqual(self.lines(), [first])
        self.session.undo()
        self.app.processEvents()
        self.assertGreater(len(self.lines()), 1)
        self.assertEqual([row.text() for row in self.parts.rows], self.lines())

    def test_a_line_that_is_no_part_is_told_and_kept(self) -> None:
        row = self.parts.rows[1]
        row.setText("boks 1 2 3 at 0 0 0")
        row.edited.emit("parts", row.text())
        self.assertIn("boks", str(self.session.trouble))
        self.assertEqual(self.parts.rows[1].text(), "boks 1 2 3 at 0 0 0")

    # ------------------------------------------------------------------------------------------- views and pictures
    def word(self, name: str) -> ChoiceWord:
        field = self.window.brief.fields[name]
        assert isinstance(field, ChoiceWord)
        return field

    def test_one_word_turns_views_into_a_picture_and_back(self) -> None:
        self.word("views").turn(-1)
        self.assertEqual(self.session.figure.problem, "pictorial/crates")
        self.assertEqual(self.lines(), lines_of(PEDESTAL))
        for projection in ("oblique-cavalier", "oblique-cabinet", "one-point", "two-point"):
            self.word("projection").turn(1)
            self.assertEqual(self.session.figure.givens["projection"], projection)
            self.assertIsNone(self.session.trouble)
        self.word("projection").turn(1)
        self.assertEqual(self.session.figure.problem, "solids/crates")
        self.assertEqual(self.lines(), lines_of(PEDESTAL))
        self.session.undo()
        self.assertEqual(self.session.figure.problem, "pictorial/crates")
        self.assertEqual(self.session.figure.givens["projection"], "two-point")

    def test_an_edge_pointed_at_is_the_same_edge_in_every_view_and_in_space(self) -> None:
        sheet, page = self.window.sheet, self.session.page
        drawing = self.session.drawing
        assert drawing is not None and page is not None
        top = [e for e in drawing.belongings if all(abs(z - 38) < 1e-3 for _, _, z in e.way)]
        self.assertEqual(len(top), 4)
        for edge in top:
            (x1, y1), (x2, y2) = edge.images[0][1][0], edge.images[0][1][-1]
            found = sheet.edge_at(sheet.view.px(*page.placements[""].at((x1 + x2) / 2, (y1 + y2) / 2)))
            self.assertIn(drawing.belongings.index(edge), found)
        spot = sheet.view.px(*page.placements[""].at(*middle(top[0].images[1][1])))
        QTest.mouseMove(sheet, spot.toPoint())
        self.app.processEvents()
        self.assertIn(top[0], self.session.belongings)
        for each in self.session.belongings:
            self.assertEqual(len(each.images), 3)
            self.assertTrue(all(math.dist(a, c) >= 0 for a, c in pairwise(each.way)))

    def test_the_line_with_the_cursor_tints_its_part_and_leaving_it_nothing(self) -> None:
        self.parts.rows[1].setFocus()
        self.app.processEvents()
        found = self.session.belongings
        self.assertTrue(found)
        self.assertTrue(all(2 in each.parts for each in found))
        heights = {round(z, 3) for each in found for _, _, z in each.way}
        self.assertEqual(heights, {12.0, 38.0})
        self.window.sheet.setFocus()
        self.app.processEvents()
        self.assertEqual(self.session.belongings, [])

    def test_which_is_which_shows_all_five_and_draws_the_one_that_is_pressed(self) -> None:
        shown = WhichIsWhich(self.session, self.window.theme, self.window)
        self.assertEqual([tile.name for tile in shown.tiles], list(PROJECTIONS))
        self.assertTrue(all(len(tile.lines) >= 9 and not tile.why for tile in shown.tiles))
        shown.show()
        self.app.processEvents()
        QTest.mouseClick(shown.tiles[2], Qt.MouseButton.LeftButton)
        self.session.picture_as(shown.chosen)
        self.assertEqual(self.session.figure.problem, "pictorial/crates")
        self.assertEqual(self.session.figure.givens["projection"], "oblique-cabinet")
        again = WhichIsWhich(self.session, self.window.theme, self.window)
        self.assertEqual([tile.chosen for tile in again.tiles], [False, False, True, False, False])
        self.session.undo()
        self.assertEqual(self.session.figure.problem, "solids/crates")
        self.session.set_problem("pictorial/box")
        self.window.ask_picture()
        self.assertEqual(self.session.figure.problem, "pictorial/box")


def middle(image: tuple[tuple[float, float], ...]) -> tuple[float, float]:
    (x1, y1), (x2, y2) = image[0], image[-1]
    return (x1 + x2) / 2, (y1 + y2) / 2


if __name__ == "__main__":
    unittest.main()
