"""Patterns at the desk: the folding in the picture in space, and the panel at hand wherever it is shown."""

from __future__ import annotations

import unittest
from itertools import pairwise

from tests.desk.base import FOLIO, DeskTest
from wisecompass.drafting.motion import Motion
from wisecompass.drafting.view import Belonging

PATTERNS = [
    (s, f)
    for s, sheet in enumerate(FOLIO.sheets)
    for f, figure in enumerate(sheet.figures)
    if figure.problem.startswith("developments/")
]


class Patterns(DeskTest):
    def folding(self) -> Motion | None:
        assert self.session.drawing is not None
        return next((motion for motion in self.session.drawing.motions if motion.folding is not None), None)

    def test_the_slider_folds_whatever_has_panels(self) -> None:
        seen = 0
        picture = self.window.space_picture
        for place in PATTERNS:
            self.session.turn_to(*place)
            motion = self.folding()
            if motion is None:
                continue
            self.session.go_to(motion.last)
            self.app.processEvents()
            self.assertTrue(picture.slider.isVisible(), self.session.figure.name)
            shots = []
            for share in (0.0, 0.5, 1.0):
                picture.slider.setValue(round(picture.slider.maximum() * share))
                shots.append(picture.grab().toImage())
            self.assertTrue(all(one != other for one, other in pairwise(shots)), self.session.figure.name)
            self.session.go_to(motion.first - 1)
            self.app.processEvents()
            self.assertFalse(picture.slider.isVisible())
            seen += 1
        self.assertEqual(seen, 12)

    def test_the_panel_that_a_step_lays_out_is_tinted_in_the_views_in_space_and_in_the_pattern(self) -> None:
        for problem_id in ("developments/prism", "developments/rectangle-to-rectangle", "developments/square-to-round"):
            self.turn_to(problem_id)
            drawing = self.session.drawing
            assert drawing is not None
            steps = {each.step for each in drawing.belongings}
            self.assertNotIn(0, steps)
            for step in steps:
                self.session.go_to(step)
                (shown,) = self.session.belongings
                self.assertEqual([block for block, _ in shown.images], ["pattern", "", ""])
            plain = min(steps) - 1
            self.session.go_to(plain)
            self.assertEqual(self.session.belongings, [])

    def test_who_points_at_a_panel_sees_it_everywhere(self) -> None:
        self.turn_to("developments/pyramid")
        drawing, page, sheet = self.session.drawing, self.session.page, self.window.sheet
        assert drawing is not None
        assert page is not None
        panel: Belonging = drawing.belongings[2]
        before = self.window.space_picture.grab().toImage(), sheet.grab().toImage()
        (block, image), *_ = panel.images
        (x1, y1), (x2, y2) = image[0], image[1]
        found = sheet.edge_at(sheet.view.px(*page.placements[block].at((x1 + x2) / 2, (y1 + y2) / 2)))
        self.assertIn(2, found)
        self.session.point_at(found)
        self.app.processEvents()
        self.assertIn(panel, self.session.belongings)
        after = self.window.space_picture.grab().toImage(), sheet.grab().toImage()
        self.assertTrue(all(one != other for one, other in zip(before, after, strict=True)))

    def test_every_image_of_a_panel_lies_on_its_letters(self) -> None:
        for place in PATTERNS:
            self.session.turn_to(*place)
            drawing = self.session.drawing
            assert drawing is not None
            for panel in drawing.belongings:
                flat = next(image for block, image in panel.images if block == "pattern")
                self.assertEqual(len(flat), len(panel.way))
                self.assertEqual(flat[0], flat[-1])
                for _, image in panel.images[1:]:
                    self.assertEqual(len(image), len(panel.way))


if __name__ == "__main__":
    unittest.main()
