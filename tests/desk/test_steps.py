"""The step strip on request: reasons below the sentence, divisions unfolded, names beside the lines in hand."""

from __future__ import annotations

import unittest

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from tests.desk.base import DeskTest
from wisecompass.desk.steps import SIZES
from wisecompass.drafting.conventions import LineNames
from wisecompass.drafting.wording import spoken


class OnRequest(DeskTest):
    def test_f4_says_why_and_takes_it_away_again(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.session.go_to(10)
        strip = self.window.strip
        low = strip.height()
        self.assertEqual(strip.why(), "")
        QTest.keyClick(self.window, Qt.Key.Key_F4)
        self.app.processEvents()
        self.assertIn("from edge 1 and", strip.why())
        self.assertIn(strip.why(), strip.accessibleDescription())
        self.assertGreater(strip.height(), low)
        self.assertFalse(self.window.grab().isNull())
        self.session.go_to(self.session.last_step + 1)
        self.assertEqual(strip.why(), "")
        QTest.keyClick(self.window, Qt.Key.Key_F4)
        self.assertEqual(strip.height(), low)

    def test_every_step_of_the_sample_has_a_reason_in_the_folios_words(self) -> None:
        self.window.strip.say_why(True)
        self.window.school_groups["vocabulary"].actions()[1].trigger()
        for problem in ("space/line-inclined-to-both", "loci/helix", "developments/rectangle-to-rectangle"):
            self.turn_to(problem)
            for step in range(1, self.session.last_step + 1):
                self.session.go_to(step)
                if self.session.drawing is not None and self.session.drawing.steps[step - 1].told:
                    self.assertTrue(self.window.strip.why(), (problem, step))
                    self.assertNotIn("top view", self.window.strip.why())

    def test_divisions_are_unfolded_with_the_rounds(self) -> None:
        self.turn_to("conics/ellipse")
        told = self.session.last_step
        QTest.keyClick(self.window, Qt.Key.Key_R, Qt.KeyboardModifier.ControlModifier)
        self.app.processEvents()
        self.assertGreater(self.session.last_step, told)
        assert self.session.drawing is not None
        self.assertFalse([step for step in self.session.drawing.steps if step.verb.startswith("divide")])
        QTest.keyClick(self.window, Qt.Key.Key_R, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(self.session.last_step, told)

    def test_a_name_that_is_not_on_the_sheet_is_shown_beside_its_line(self) -> None:
        self.session.set_conventions(line_names=LineNames.SENTENCES)
        beside = 0
        for problem in ("loci/cycloid", "tangency/three-circles", "space/line-inclined-to-both"):
            self.session.set_problem(problem)
            assert self.session.page is not None
            self.assertFalse(self.session.page.lettering.named)
            for step in range(1, self.session.last_step + 1):
                self.session.go_to(step)
                names = self.window.sheet.names_beside()
                said = self.window.strip.text()
                beside += len(names)
                assert self.session.drawing is not None
                likewise = (
                    step <= len(self.session.drawing.steps) and self.session.drawing.steps[step - 1].verb == "likewise"
                )
                for name in names:
                    if likewise:
                        continue  # its names are told by what stands in place of what
                    self.assertIn(spoken(name).split(",")[0], said)
            self.app.processEvents()
        self.assertGreater(beside, 20)


class LongSentences(DeskTest):
    def test_no_sentence_is_cut(self) -> None:
        """A step that draws a part in three views takes as much room as its words do, with the reasons and without."""
        strip = self.window.strip
        self.window.resize(1280, 800)
        self.turn_to("solids/crates")
        heights = set()
        for reasons in (False, True):
            strip.say_why(reasons)
            for step in range(1, self.session.last_step + 2):
                self.session.go_to(step)
                self.app.processEvents()
                room = strip._room(strip.height())
                if strip.why():
                    room = strip._without_why(room, strip.why())
                words = sum(height for _, height in strip._broken(room.width(), SIZES[-1]))
                with self.subTest(step=step, reasons=reasons):
                    self.assertLessEqual(words, room.height() + 1)
                heights.add(strip.height())
        self.assertGreater(len(heights), 3, "it grows, and becomes small again")


if __name__ == "__main__":
    unittest.main()
