"""Figures of very many steps: each key shows what is lined in, the pause after it the rest."""

from __future__ import annotations

import unittest

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from tests.desk.base import DeskTest
from wisecompass.desk.paint import Stand
from wisecompass.desk.session import MANY_STEPS, VERY_MANY_STEPS
from wisecompass.drafting.conventions import LineNames
from wisecompass.drafting.marks import Curve, Dot, Segment, Text
from wisecompass.drafting.pens import Pen


class DenseFigures(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        self.session.set_conventions(line_names=LineNames.SENTENCES)  # where names find room is tested elsewhere

    def dense(self) -> None:
        self.session.set_problem("loci/cycloid")
        for name, text in (("turns", "4"), ("divisions", "24")):
            self.session.set_given(name, text)
        self.session.settle()
        self.app.processEvents()
        assert self.session.drawing is not None
        self.assertGreater(self.session.drawing.operations, VERY_MANY_STEPS)

    def counts(self) -> tuple[int, int, int]:
        """Curves, points and construction lines on the page."""
        page = self.session.page
        assert page is not None
        lines = [m for m in page.marks if isinstance(m, Segment) and m.pen is Pen.CONSTRUCTION]
        return (
            sum(isinstance(m, Curve) for m in page.marks),
            sum(isinstance(m, Dot) for m in page.marks),
            len(lines),
        )

    def test_the_curve_follows_the_key_and_the_rest_the_pause(self) -> None:
        self.dense()
        whole = self.counts()
        field = self.number("rolling_diameter")
        field.setFocus()
        QTest.keyClick(field, Qt.Key.Key_Up)
        self.assertEqual(self.counts(), (whole[0], 0, 0))
        for _ in range(100):
            QTest.qWait(20)
            if self.counts() == whole:
                break
        self.assertEqual(self.counts(), whole)
        self.assertEqual(self.session.given_text("rolling_diameter"), "28")

    def test_lines_come_in_the_pause_also_where_fewer_steps_are_left(self) -> None:
        self.session.set_problem("loci/helix")
        assert self.session.drawing is not None
        self.assertGreaterEqual(self.session.drawing.operations, MANY_STEPS)
        self.session.set_given("turns", "1/2")
        self.assertLess(self.session.drawing.operations, MANY_STEPS)
        self.assertEqual(self.counts()[2], 0, "the figure before had many steps")
        self.session.settle()
        self.assertGreater(self.counts()[2], 20)

    def test_somebody_who_types_on_is_not_held_up_by_letters(self) -> None:
        self.dense()
        anew: list[int] = []
        self.session.relettered.connect(lambda: anew.append(1))
        self.session.proving = True
        field = self.number("rolling_diameter")
        field.setFocus()
        for _ in range(4):
            QTest.keyClick(field, Qt.Key.Key_Up)
            QTest.qWait(120)
        self.assertEqual(anew, [])
        for _ in range(100):
            QTest.qWait(20)
            if anew:
                break
        self.assertEqual(anew, [1])

    def test_scale_and_place_are_kept_between_keys(self) -> None:
        self.dense()
        page = self.session.page
        assert page is not None
        before = (page.scale, page.placements)
        self.session.set_given("rolling_diameter", "31")
        assert self.session.page is not None
        self.assertEqual((self.session.page.scale, self.session.page.placements), before)
        self.session.settle()
        left, right = self.extent()
        self.assertTrue(left > 5 and right < self.session.page.width - 5)

    def extent(self) -> tuple[float, float]:
        page = self.session.page
        assert page is not None
        xs = [x for m in page.marks if isinstance(m, Segment) for x in (m.x1, m.x2)]
        return min(xs), max(xs)

    def test_a_figure_of_few_steps_is_drawn_whole_at_every_key(self) -> None:
        self.session.set_problem("lines/bisect-angle")
        self.session.settle()
        before = self.counts()
        assert self.session.drawing is not None
        self.assertLess(self.session.drawing.operations, MANY_STEPS)
        self.session.set_given("angle", "71")
        self.assertEqual(self.counts(), before)

    def test_undo_draws_the_whole_figure_at_once(self) -> None:
        self.dense()
        whole = self.counts()
        self.session.set_given("rolling_diameter", "33")
        self.window.undo_action.trigger()
        self.assertEqual(self.counts(), whole)

    def test_the_strip_shows_hundreds_of_steps_and_the_current_one(self) -> None:
        self.dense()
        self.window.rounds_action.trigger()
        strip = self.window.strip
        self.session.go_to(150)
        self.app.processEvents()
        image = strip.grab().toImage()
        at = strip.dot_centre(150).toPoint()
        seen = image.pixelColor(at)
        wanted = self.window.theme.color("vermilion")
        self.assertLess(abs(seen.red() - wanted.red()) + abs(seen.green() - wanted.green()), 60)
        self.assertEqual(strip.step_at(strip.dot_centre(150)), 150)

    def test_a_step_letters_the_points_that_it_speaks_of_even_where_a_row_is_crowded(self) -> None:
        self.session.set_problem("loci/archimedean-spiral")
        self.window.rounds_action.trigger()
        self.session.settle()
        page, drawing = self.session.page, self.session.drawing
        assert page is not None
        assert drawing is not None
        on_the_ray = {m.name for m in page.marks if isinstance(m, Text) and m.name.isdigit()}
        self.assertLess(len(on_the_ray), 15)
        self.assertIn("21", on_the_ray, "the last")
        every = [int(name) for name in sorted(on_the_ray, key=int)[:-1]]
        self.assertEqual(len({b - a for a, b in zip(every, every[1:], strict=False)}), 1, "as on a scale")
        step = next(step.n for step in drawing.steps if "P13" in step.makes or any(c[0] == "P13" for c in step.crossings))
        for n in (step, step + 1):
            self.session.go_to(n)
            new = {
                mark.text
                for mark, stand in self.window.sheet.standing.shown()
                if isinstance(mark, Text) and stand is Stand.NEW
            }
            self.assertEqual("13" in new, n == step)
        self.session.go_to(step)
        self.session.set_given("outer_diameter", "97")
        self.assertEqual(self.window.sheet.standing.left_out(drawing.steps[step - 1]), [], "it waits for a pause")
        self.session.settle()
        self.assertNotEqual(self.window.sheet.standing.left_out(drawing.steps[step - 1]), [])
        self.session.set_one_by_one(False)
        drawing = self.session.drawing
        assert drawing is not None
        dividing = next(step.n for step in drawing.steps if {"1", "3", "5", "7", "9"} <= set(step.makes))
        self.session.go_to(dividing)
        new = {
            mark.text for mark, stand in self.window.sheet.standing.shown() if isinstance(mark, Text) and stand is Stand.NEW
        }
        self.assertNotIn("13", new, "a whole row stays a scale")


if __name__ == "__main__":
    unittest.main()
