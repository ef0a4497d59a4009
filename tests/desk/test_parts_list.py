"""The parts of a body as a list of lines in the brief, by keys and by pointer."""

from __future__ import annotations

import unittest

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QToolButton

from tests.desk.base import DeskTest
from wisecompass.desk.parts_list import NEW_LINE, PartsList
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


if __name__ == "__main__":
    unittest.main()
