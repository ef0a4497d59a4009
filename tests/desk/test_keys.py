"""What a key does at once and what follows: the sheet first, the rest of the desk when the sheet has been painted."""

from __future__ import annotations

import unittest
from unittest.mock import patch

from PySide6.QtCore import Qt
from PySide6.QtGui import QPixmap
from PySide6.QtTest import QTest

from tests.desk.base import DeskTest
from wisecompass.desk import session as desk_session
from wisecompass.folio.page import final


class AKey(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        self.turn_to("tangency/arc-two-lines")
        self.session.settle()
        self.app.processEvents()
        self.order: list[str] = []
        self.session.drawn.connect(lambda: self.order.append("sheet"))
        self.session.followed.connect(lambda: self.order.append("rest"))

    def press_up(self) -> None:
        self.session.set_given("radius", str(float(self.session.given_text("radius")) + 1))

    def test_the_rest_follows_when_the_sheet_has_been_painted(self) -> None:
        before, words = self.window.sheet.paints, self.window.where.text()
        self.press_up()
        self.assertEqual(self.order, ["sheet"])
        self.assertEqual(self.window.where.text(), words)
        for _ in range(20):
            self.app.processEvents()
        self.assertEqual(self.order, ["sheet", "rest"])
        self.assertGreater(self.window.sheet.paints, before)
        self.assertIn("changed", self.window.where.text())

    def test_keys_without_a_pause_do_not_leave_the_rest_behind_for_long(self) -> None:
        now = [100.0]
        with patch.object(desk_session, "monotonic", lambda: now[0]):
            for _ in range(8):
                self.press_up()
                now[0] += 0.03
        self.assertEqual(self.order[:4], ["sheet"] * 4)
        self.assertIn("rest", self.order[:7])

    def test_what_is_not_typed_shows_everywhere_at_once(self) -> None:
        self.session.set_method("perpendicular offsets")
        self.assertEqual(self.order[:2], ["sheet", "rest"])

    def test_a_key_can_be_taken_back_before_the_rest_has_followed(self) -> None:
        self.press_up()
        self.window.undo_action.trigger()
        self.assertEqual(self.session.given_text("radius"), "18.5")
        self.assertFalse(self.window.undo_action.isEnabled())
        self.assertTrue(self.window.redo_action.isEnabled())

    def test_the_step_in_hand_stays(self) -> None:
        self.session.go_to(4)
        self.press_up()
        self.app.processEvents()
        self.assertEqual(self.session.step, 4)
        self.assertIn("Step 4", self.window.strip.accessibleDescription())

    def test_a_step_gone_to_right_after_a_key_is_told_with_the_new_number(self) -> None:
        self.session.go_to(self.session.last_step + 1)
        old = self.session.given_text("radius")
        self.press_up()
        self.assertNotEqual(old, self.session.given_text("radius"))
        told = []
        for step in range(1, self.session.last_step + 1):
            self.session.go_to(step)
            told.append(self.window.strip.text())
        self.assertIn(f"{self.session.given_text('radius')} mm (radius)", " ".join(told))
        self.assertNotIn(f" {old} mm (radius)", " ".join(told))

    def test_a_number_of_the_same_width_leaves_the_sentence_where_it_is(self) -> None:
        field = self.number("radius")
        places = [field.mapTo(self.window, field.rect().topLeft())]
        field.setFocus()
        for key in (Qt.Key.Key_Up, Qt.Key.Key_Up, Qt.Key.Key_Down):
            QTest.keyClick(field, key)
            self.app.processEvents()
            places.append(field.mapTo(self.window, field.rect().topLeft()))
        self.assertEqual(len(set(map(str, places))), 1)
        self.type_into("radius", "18.125")
        self.app.processEvents()
        self.assertGreaterEqual(field.width(), field.sizeHint().width(), "a longer number gets its room")


class TheRest(DeskTest):
    """What runs while nobody types gives way to the next key."""

    def test_methods_are_judged_one_at_a_time_and_a_key_stops_it(self) -> None:
        self.turn_to("conics/ellipse")
        self.session.settle()
        best = self.session.worths[0]
        self.assertTrue(best.best)
        heard: list[str] = []
        take = self.session.errands.take
        self.session.set_given("major", str(float(self.session.given_text("major")) + 2))
        with patch.object(self.session.errands, "take", lambda kind, body: (heard.append(kind), take(kind, body))):
            self.session.rest.begin()
            for _ in range(6):
                self.session.rest.go_on()
            self.assertEqual(heard, ["proof", "advice", "closed", "reaches", "worth"])
            self.assertTrue(self.session.rest.waiting)
            self.session.set_given("major", str(float(self.session.given_text("major")) + 2))
            self.assertEqual(len(heard), 5, "the key puts the others off")
            self.session.settle()
        names = {method.name for method in self.session.problem.methods}
        self.assertEqual(heard[5:], ["proof", "advice", "closed", "reaches", *["worth"] * len(names)])
        self.assertEqual({one.method.name for one in self.session.worths}, names)
        self.assertTrue(self.session.worths[0].best)

    def test_letters_come_after_the_proof_is_asked_for(self) -> None:
        self.turn_to("space/dihedral-angle")
        self.session.settle()
        order: list[str] = []
        self.session.relettered.connect(lambda: order.append("letters"))
        self.session.certified.connect(lambda: order.append("proof"))
        self.session._typing = True
        self.session.set_given("A", "11, 12, 16")
        self.session.settle()
        self.assertEqual((order[0], order[-1]), ("proof", "letters"))


class TheBackdrop(DeskTest):
    """Table, paper and furniture are painted once and kept, so what changes them must be noticed."""

    def seen(self) -> QPixmap:
        self.app.processEvents()
        return self.window.sheet.grab()

    def test_the_brief_on_the_sheet_follows_a_key(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.type_into("radius", "21")
        page = self.session.page
        assert page is not None
        self.assertTrue(any("21 mm" in getattr(mark, "text", "") for mark in page.brief))
        self.assertLessEqual({id(mark) for mark in page.brief}, {id(mark) for mark in final(page)})

    def test_what_changes_the_paper_is_seen(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        first = self.seen().toImage()
        sheet = self.window.sheet
        for act in (
            lambda: self.session.set_scale("1:1"),
            lambda: self.session.set_paper("A2", True),
            lambda: self.session.set_conventions(projection="third"),
            lambda: sheet.zoom(1.5),
            lambda: self.session.set_given("angle", "400"),
        ):
            act()
            second = self.seen().toImage()
            self.assertNotEqual(first, second)
            first = second


if __name__ == "__main__":
    unittest.main()
