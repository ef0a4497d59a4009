"""Figures in space at the desk: views dragged along their projectors, the picture in space, tables of points, words."""

from __future__ import annotations

import math
import unittest
from pathlib import Path

from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel

from tests.desk.base import DeskTest
from wisecompass import catalogue
from wisecompass.drafting.givens import plain_values
from wisecompass.drafting.marks import Segment
from wisecompass.drafting.view import Placed
from wisecompass.folio import store


class SpaceTest(DeskTest):
    def drawn_view(self, number: int = 0) -> Placed:
        assert self.session.drawing is not None
        return self.session.drawing.placed[number]

    def move(self, widget: object, at: QPointF) -> None:
        left, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
        event = QMouseEvent(QEvent.Type.MouseMove, at, at, Qt.MouseButton.NoButton, left, none)
        QApplication.sendEvent(widget, event)  # type: ignore[arg-type]


class DraggedViews(SpaceTest):
    def grasp(self) -> QPointF:
        """A place on the fold line of the first auxiliary view, px."""
        page, fold = self.session.page, self.drawn_view().fold
        assert page is not None
        line = next(m for m in page.marks if isinstance(m, Segment) and m.name == fold)
        return self.window.sheet.view.px(line.x1 * 0.97 + line.x2 * 0.03, line.y1 * 0.97 + line.y2 * 0.03)

    def drag(self, by: float) -> None:
        """Drag the first view by so many mm of the figure along its projectors."""
        sheet, page, view = self.window.sheet, self.session.page, self.drawn_view()
        assert page is not None
        scale = page.placements[""].scale * sheet.view.k
        start = self.grasp()
        end = start + QPointF(view.dx * by * scale, -view.dy * by * scale)
        QTest.mousePress(sheet, Qt.MouseButton.LeftButton, pos=start.toPoint())
        for share in (0.5, 1.0):
            self.move(sheet, start + (end - start) * share)
        QTest.mouseRelease(sheet, Qt.MouseButton.LeftButton, pos=end.toPoint())
        self.app.processEvents()

    def test_a_view_follows_the_pointer_and_the_findings_stay(self) -> None:
        self.session.set_problem("space/lamina")
        self.app.processEvents()
        before, answers = self.drawn_view().place, self.answers()
        view = (self.window.sheet.view.k, self.window.sheet.view.x)
        self.drag(15)
        self.assertAlmostEqual(self.drawn_view().place, before + 15, delta=2)
        self.assertEqual((self.window.sheet.view.k, self.window.sheet.view.x), view)
        self.assertEqual(self.answers(), answers)
        self.window.undo_action.trigger()
        self.assertEqual(self.drawn_view().place, before)

    def test_past_the_view_beside_it_comes_on_the_other_side(self) -> None:
        self.session.set_problem("space/lamina")
        place = self.drawn_view().place
        self.session.move_view("1", -place)
        self.assertAlmostEqual(self.drawn_view().place, -place, delta=0.02)
        self.assertIsNone(self.session.trouble)

    def test_keys_move_the_last_view_and_let_it_go(self) -> None:
        self.session.set_problem("space/lamina")
        free = [view.place for view in self.session.drawing.placed]  # type: ignore[union-attr]
        self.window.out_action.trigger()
        self.assertAlmostEqual(self.drawn_view(-1).place, free[-1] + 4, delta=0.02)
        self.window.free_action.trigger()
        self.assertEqual([view.place for view in self.session.drawing.placed], free)  # type: ignore[union-attr]

    def test_the_place_is_kept_with_the_folio(self) -> None:
        self.session.set_problem("space/lamina")
        self.session.move_view("1", 33)
        path = self.folder / "moved.folio.json"
        self.assertTrue(self.window.save_to(path))
        self.assertEqual(store.load(path).sheets[self.session.place[0]].figures[self.session.place[1]].places, {"1": 33})

    def test_the_pointer_shows_what_can_be_dragged(self) -> None:
        self.session.set_problem("space/lamina")
        self.app.processEvents()
        none, at = Qt.MouseButton.NoButton, self.grasp()
        event = QMouseEvent(QEvent.Type.MouseMove, at, at, none, none, Qt.KeyboardModifier.NoModifier)
        QApplication.sendEvent(self.window.sheet, event)
        self.assertEqual(self.window.sheet.cursor().shape(), Qt.CursorShape.SizeAllCursor)


class PictureInSpace(SpaceTest):
    def test_stands_beside_figures_in_space_only(self) -> None:
        self.session.set_problem("space/skew-lines")
        self.assertFalse(self.window.space_picture.isHidden())
        self.session.set_problem("conics/ellipse")
        self.assertTrue(self.window.space_picture.isHidden())

    def test_turns_under_pointer_and_keys_and_back(self) -> None:
        self.session.set_problem("space/lamina")
        picture = self.window.space_picture
        start = (picture.turn, picture.tilt)
        QTest.mousePress(picture, Qt.MouseButton.LeftButton, pos=QPoint(100, 100))
        self.move(picture, QPointF(140, 110))
        QTest.mouseRelease(picture, Qt.MouseButton.LeftButton, pos=QPoint(140, 110))
        self.assertNotEqual((picture.turn, picture.tilt), start)
        QTest.keyClick(picture, Qt.Key.Key_0)
        self.assertEqual((picture.turn, picture.tilt), start)
        QTest.keyClick(picture, Qt.Key.Key_Right)
        self.assertEqual(picture.turn, start[0] + 8)

    def test_from_the_front_it_is_the_front_view_and_from_above_the_top_view(self) -> None:
        picture = self.window.space_picture
        picture.turn, picture.tilt = 0.0, 0.0
        self.assertEqual(picture.seen((3.0, 4.0, 5.0)), (3.0, 5.0))
        picture.tilt = 90.0
        x, y = picture.seen((3.0, 4.0, 5.0))
        self.assertAlmostEqual(x, 3)
        self.assertAlmostEqual(y, -4)

    def test_follows_the_step(self) -> None:
        self.session.set_problem("space/line-meets-plane")
        picture = self.window.space_picture
        self.app.processEvents()
        seen = set()
        for step in (1, 4, 12, self.session.last_step + 1):
            self.session.go_to(step)
            seen.add(bytes(picture.grab().toImage().constBits()))  # type: ignore[arg-type]
        self.assertEqual(len(seen), 4)

    def test_looks_from_where_the_line_is_seen_long(self) -> None:
        picture, session = self.window.space_picture, self.session
        session.set_problem("space/line-inclined-to-both")

        def seen(turn: float, end: str) -> float:
            picture.turn = turn
            assert session.drawing is not None
            return math.dist(*(picture.seen(session.drawing.in_space[name][0]) for name in ("A", end)))

        sides = set()
        for end, solution in (("B", 1), ("B_2", 2)):
            session.set_solution(solution)
            chosen = picture.turn
            sides.add(chosen > 0)
            self.assertGreater(seen(chosen, end), seen(-chosen, end))
        self.assertEqual(sides, {True, False})

    def test_every_plane_lies_within_the_picture(self) -> None:
        """With the plane of every view at one end of the walk and the other, nothing touches the border."""
        picture = self.window.space_picture
        for problem in (name for name in catalogue.ids() if name.startswith("space/")):
            self.session.set_problem(problem)
            self.app.processEvents()
            for step in (1, self.session.last_step + 1):
                self.session.go_to(step)
                image = picture.grab().toImage()
                ground = image.pixel(0, 0)
                right, low = image.width() - 1, image.height() - 1
                border = [(x, y) for x in range(right + 1) for y in (0, 1, low - 1, low)]
                border += [(x, y) for y in range(low + 1) for x in (0, 1, right - 1, right)]
                with self.subTest(problem=problem, step=step):
                    self.assertEqual({image.pixel(x, y) for x, y in border}, {ground})


class Tables(SpaceTest):
    TEXT = "name,x,front,above\nA,0,10,20\nB,60,10,20\nC,30,50,25\nX,1,2,3\n"

    def table(self, text: str) -> Path:
        path = self.folder / "corners.csv"
        path.write_text(text)
        return path

    def test_points_of_a_table_become_givens(self) -> None:
        self.session.set_problem("space/lamina")
        self.window.take_points(self.table(self.TEXT))
        self.assertEqual(plain_values(self.session.typed)["C"], [30.0, 50.0, 25.0])
        self.assertIn("took A, B, C", self.window.notice_label.text())
        self.window.undo_action.trigger()
        self.assertEqual(plain_values(self.session.typed)["C"], [102.0, 15.0, 24.0])

    def test_a_bad_table_changes_nothing_and_says_where(self) -> None:
        self.session.set_problem("space/lamina")
        before = self.session.folio
        self.window.take_points(self.table("A,1,2,x\n"))
        self.assertIn("line 1, column 4 (above)", self.window.notice_label.text())
        self.assertEqual(self.session.folio, before)

    def test_points_that_admit_no_figure_stand_in_the_sentence(self) -> None:
        self.session.set_problem("space/lamina")
        self.window.take_points(self.table("A,0,0,0\nB,1,1,1\nC,2,2,2\n"))
        self.assertIn("lie in one line", self.window.brief.reason.text())
        self.assertEqual(self.number("C").text().replace(" mm", ""), "2; 2; 2".replace(" mm", ""))
        self.type_into("C", "2, 2, 9")
        self.assertIsNone(self.session.trouble)

    def test_what_was_found_leaves_as_a_table(self) -> None:
        self.session.set_problem("space/line-meets-plane")
        path = self.folder / "out.csv"
        self.window.export("points", path)
        for _ in range(200):
            QTest.qWait(20)
            if self.window.exporter is None:
                break
        lines = path.read_text().splitlines()
        self.assertEqual(lines[0], "name,x,front,above")
        self.assertIn("R,55.316", " ".join(lines))


class WordsAndAdvice(SpaceTest):
    def test_a_point_is_nudged_number_by_number(self) -> None:
        self.session.set_problem("space/lamina")
        field = self.number("B")
        field.setFocus()
        field.setCursorPosition(len("45, 4"))
        QTest.keyClick(field, Qt.Key.Key_Up)
        self.assertEqual(plain_values(self.session.typed)["B"], [45.0, 41.0, 57.0])

    def test_elevation_and_plan_are_said_everywhere(self) -> None:
        self.session.set_problem("space/line-from-ends")
        self.window.school_groups["vocabulary"].actions()[1].trigger()
        self.session.go_to(5)
        self.app.processEvents()
        said = self.window.strip.text()
        self.assertIn("plan", said)
        self.assertNotIn("view", said)
        self.assertIn("the vertical plane", "".join(w.text() for w in self.window.brief.findChildren(QLabel)))

    def test_scale_and_paper_are_advised_under_the_sentence(self) -> None:
        self.session.set_problem("space/hyperbolic-paraboloid")
        self.session.settle()
        self.assertIn("to fit A3; A2 takes it at 1:1", self.window.brief.counts.text())
        self.session.set_paper("A1", True)
        self.session.settle()
        self.assertNotIn("takes it at", self.window.brief.counts.text())


class Motions(SpaceTest):
    def places(self, share: float) -> dict[str, tuple[float, float, float]]:
        drawing, motion = self.session.drawing, self.window.space_picture.motion
        assert drawing is not None
        assert motion is not None
        return {name: motion.placed(place, share) for name, (place, _) in drawing.in_space.items()}

    def test_a_solid_stands_is_tilted_and_turned_as_the_steps_go_on(self) -> None:
        """Held against the positions that its views are drawn in: heights, and distances from VP, by the givens alone."""
        self.turn_to("solids/views")
        values = plain_values(self.session.typed)
        height, hp = float(values["height"]), math.radians(float(values["axis_to_hp"]))  # type: ignore[arg-type]
        drawing = self.session.drawing
        assert drawing is not None
        self.session.go_to(3)
        self.assertFalse(self.window.space_picture.slider.isVisible())
        stands = self.places(0.5)
        self.assertEqual({round(above, 6) for _, _, above in stands.values()}, {0.0, round(height, 6)})
        tilts = next(motion for motion in drawing.motions if "tilted" in motion.words)
        self.session.go_to(tilts.first)
        self.app.processEvents()
        self.assertTrue(self.window.space_picture.slider.isVisible())
        for name, place in self.places(0.0).items():
            self.assertLess(math.dist(place, stands[name]), 1e-9)
        tilted = self.places(1.0)
        rise = tilted["L"][2] - tilted["K"][2]
        self.assertAlmostEqual(rise, height * math.sin(hp), 9)
        self.assertAlmostEqual(min(above for _, _, above in tilted.values()), 0.0, 9)
        self.assertAlmostEqual(tilted["L"][1], tilted["K"][1], 9)
        self.session.go_to(drawing.motions[-1].last)
        for name, place in self.places(1.0).items():
            self.assertLess(math.dist(place, drawing.in_space[name][0]), 1e-9)
        for share in (0.0, 0.3, 1.0):
            moved = self.places(share)
            self.assertAlmostEqual(math.dist(moved["K"], moved["L"]), height, 9)

    def test_a_line_swings_to_its_true_length_and_back(self) -> None:
        self.session.set_problem("space/line-from-ends")
        self.session.set_method("rotation")
        drawing = self.session.drawing
        assert drawing is not None
        ends = [drawing.in_space[name][0] for name in "AB"]
        for motion, way in zip(drawing.motions, (1, 2), strict=True):
            self.session.go_to(motion.first)
            self.app.processEvents()
            swung = self.places(1.0)
            self.assertEqual(self.places(0.0)["B"], ends[1])
            self.assertAlmostEqual(swung["B"][way], ends[0][way], 9)
            self.assertAlmostEqual(math.dist(swung["A"], swung["B"]), math.dist(*ends), 9)
            slider = self.window.space_picture.slider
            slider.setValue(slider.maximum())
            before = self.window.space_picture.grab().toImage()
            slider.setValue(0)
            self.assertNotEqual(before, self.window.space_picture.grab().toImage())
        self.session.go_to(self.session.last_step + 1)
        self.assertFalse(self.window.space_picture.slider.isVisible())


if __name__ == "__main__":
    unittest.main()
