"""The brief: numbers edited where they stand, words that turn over, methods, and refusals that lose nothing."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from tests.desk.base import DeskTest

SHIFT, ALT = Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.AltModifier


class Numbers(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        self.turn_to("tangency/arc-two-lines")

    def test_the_sheet_follows_what_is_typed(self) -> None:
        self.type_into("angle", "90")
        self.assertEqual(self.answers()["setback"], "18.5 mm")
        self.type_into("radius", "3/4")
        self.assertEqual(self.answers()["setback"], "0.75 mm")
        self.type_into("radius", "2*sqrt(3)")
        self.assertEqual(self.answers()["setback"], "3.4641 mm")
        self.type_into("radius", "1 1/2 in")
        self.assertEqual(self.answers()["setback"], "38.1 mm")
        self.type_into("radius", "18,5")
        self.assertEqual(self.answers()["setback"], "18.5 mm")

    def test_arrows_nudge(self) -> None:
        field = self.number("radius")
        field.setFocus()
        for key, modifiers, expected in (
            (Qt.Key.Key_Up, Qt.KeyboardModifier.NoModifier, "19.5"),
            (Qt.Key.Key_Up, SHIFT, "29.5"),
            (Qt.Key.Key_Down, ALT, "29.4"),
            (Qt.Key.Key_Down, Qt.KeyboardModifier.NoModifier, "28.4"),
        ):
            QTest.keyClick(field, key, modifiers)
            self.assertEqual(field.text(), expected)
        self.assertEqual(self.session.figure.givens["radius"], "28.4")

    def test_nudging_stops_at_the_limit(self) -> None:
        self.type_into("angle", "179")
        field = self.number("angle")
        for _ in range(5):
            QTest.keyClick(field, Qt.Key.Key_Up)
        self.assertEqual(field.text(), "179.99")
        self.assertIsNone(self.session.trouble)

    def test_a_number_that_admits_no_figure_is_underlined_and_the_drawing_stays(self) -> None:
        self.session.set_given("angle", "18")
        before = self.session.drawing
        for text, words in (
            ("180", "below 180°"),
            ("abc", "not a number"),
            ("", "nothing is written"),
            ("(1/0)", "divides by zero"),
        ):
            self.type_into("angle", text)
            self.assertTrue(self.number("angle").property("wrong"))
            self.assertFalse(self.number("radius").property("wrong"))
            self.assertTrue(self.window.brief.reason.isVisible())
            self.assertIn(words, self.window.brief.reason.text())
            self.assertTrue(self.session.drawing.typed == before.typed, "the last good drawing stays")
            self.assertEqual(self.number("angle").text(), text)
        self.type_into("angle", "60")
        self.assertFalse(self.number("angle").property("wrong"))
        self.assertFalse(self.window.brief.reason.isVisible())

    def test_both_givens_of_a_broken_limit_are_underlined_and_either_mends_it(self) -> None:
        self.turn_to("space/line-inclined-to-both")
        self.type_into("inclination_hp", "60")
        self.assertTrue(self.number("inclination_hp").property("wrong"))
        self.assertTrue(self.number("inclination_vp").property("wrong"))
        self.assertIn("may not pass 90°", self.window.brief.reason.text())
        self.type_into("inclination_vp", "30")
        self.assertIsNone(self.session.trouble)
        self.assertEqual(self.session.figure.givens["inclination_hp"], "60")
        self.assertEqual(self.answers()["projectors apart"], "0 mm")

    def test_tab_walks_through_the_numbers(self) -> None:
        self.window.edit_brief()
        self.assertTrue(self.number("angle").hasFocus())
        self.assertEqual(self.number("angle").selectedText(), "72")
        self.press(Qt.Key.Key_Tab)
        self.assertTrue(self.number("radius").hasFocus())

    def test_every_field_has_an_accessible_name(self) -> None:
        for sheet in range(len(self.session.folio.sheets)):
            self.session.turn_to(sheet)
            for name, field in self.window.brief.fields.items():
                self.assertGreater(len(field.accessibleName()), 2, name)
            for tag in self.window.brief.tags:
                self.assertTrue(tag.accessibleName().startswith("method "))


class Words(DeskTest):
    def test_a_word_turns_over_when_pressed(self) -> None:
        self.turn_to("conics/ellipse")
        word = self.word("orientation")
        word.setFocus()
        QTest.keyClick(word, Qt.Key.Key_Space)
        self.assertEqual(self.session.figure.givens["orientation"], "vertical")
        self.assertEqual(word.text(), "vertical")
        QTest.keyClick(word, Qt.Key.Key_Down)
        self.assertEqual(word.text(), "horizontal")

    def test_isometric_scale_shortens_the_drawn_edges(self) -> None:
        self.turn_to("pictorial/box")
        self.word("scale").turn(1)
        self.assertEqual(self.answers()["front as drawn"], "52.2558 mm")

    def test_hidden_edges_come_and_go(self) -> None:
        from wisecompass.drafting.pens import Pen

        self.turn_to("pictorial/box")
        count = lambda: sum(mark.pen is Pen.HIDDEN for mark in self.session.page.marks)  # type: ignore[union-attr]  # noqa: E731
        self.assertEqual(count(), 3)
        self.word("hidden_edges").turn(1)
        self.assertEqual(count(), 0)
        self.word("paper").turn(1)
        self.assertGreater(sum(mark.pen is Pen.GRID for mark in self.session.page.marks), 50)  # type: ignore[union-attr]

    def test_the_seam_moves(self) -> None:
        self.turn_to("developments/rectangle-to-rectangle")
        self.word("seam").turn(-1)
        self.assertEqual(self.session.figure.givens["seam"], "side_4")
        self.assertEqual(self.word("seam").text(), "side 4")
        self.assertIn("seam length", self.answers())


class Methods(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        self.press(Qt.Key.Key_F3)

    def worths(self) -> dict[str, str]:
        """What each way is worth, as it is read aloud."""
        told = (tag.accessibleName().removeprefix("method ").partition(", ") for tag in self.window.brief.tags)
        return {name: words for name, _, words in told}

    def test_each_shows_its_worth_for_these_numbers(self) -> None:
        self.turn_to("polygons/regular-from-side")
        self.session.settle()
        worths = self.worths()
        self.assertRegex(worths["central angle"], r"^exact, ±\d.* mm by hand$")
        self.assertRegex(worths["four-six centre line"], r"^closing side 8.02 mm long, between the last corner and P₁, ±")
        self.assertEqual(worths["golden pentagon"], "only for 5 sides")
        self.type_into("sides", "6")
        self.session.settle()
        worths = self.worths()
        self.assertRegex(worths["four-six centre line"], "^closes exactly here, ±")
        self.assertRegex(worths["hexagon arcs"], "exact, ±")

    def test_the_best_for_these_numbers_stands_first_and_says_so(self) -> None:
        self.turn_to("polygons/regular-from-side")
        self.session.set_paper("A4", True)
        for sides in ("8", "24"):
            self.type_into("sides", sides)
            self.session.settle()
            tags = self.window.brief.tags
            self.assertEqual(tags[0].words, "best here")
            self.assertRegex(self.worths()[tags[0].name], "^best here: exact, ±")
            self.assertEqual(tags[0].name, "octagon corners" if sides == "8" else "exterior angles")
            self.assertFalse(any(tag.words.startswith("best") for tag in tags[1:]))
            serving = [tag.serves for tag in tags]
            self.assertEqual(serving, sorted(serving, reverse=True))
        QTest.mouseClick(tags[0], Qt.MouseButton.LeftButton)
        self.assertEqual(self.session.figure.method, "exterior angles")

    def test_choosing_one_draws_by_it(self) -> None:
        self.turn_to("conics/ellipse")
        tag = next(t for t in self.window.brief.tags if t.name == "four centres")
        QTest.mouseClick(tag, Qt.MouseButton.LeftButton)
        self.assertEqual(self.session.figure.method, "four centres")
        self.assertTrue(tag.isChecked())
        self.assertEqual(self.answers()["worst gap"], "1.0507 mm")

    def test_one_that_does_not_serve_says_why_and_changes_nothing(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        tag = next(t for t in self.window.brief.tags if t.name == "corner arcs")
        QTest.mouseClick(tag, Qt.MouseButton.LeftButton)
        self.assertEqual(self.session.figure.method, "swung arcs")
        self.assertFalse(tag.isChecked())
        self.assertIn("exactly 90°", self.window.notice_label.text())

    def test_a_number_that_the_method_does_not_serve_takes_the_next_that_does(self) -> None:
        self.turn_to("tangency/arc-two-lines")
        self.type_into("angle", "90")
        self.session.set_method("corner arcs")
        self.type_into("angle", "91")
        self.assertEqual(self.session.figure.method, "swung arcs")
        self.assertIn("drawn by swung arcs", self.window.notice_label.text())


class Solutions(DeskTest):
    def test_the_turner_shows_only_where_there_are_several(self) -> None:
        turner = self.window.brief.turner
        self.turn_to("tangency/arc-two-lines")
        self.assertFalse(turner.isVisible())
        self.turn_to("space/line-inclined-to-both")
        self.assertTrue(turner.isVisible())
        self.assertEqual(turner.label.text(), "solution 1 of 2")
        QTest.mouseClick(turner.on, Qt.MouseButton.LeftButton)
        self.assertEqual((turner.label.text(), self.session.figure.solution), ("solution 2 of 2", 2))
        QTest.mouseClick(turner.on, Qt.MouseButton.LeftButton)
        self.assertEqual(self.session.figure.solution, 1)

    def test_another_number_begins_with_the_first_solution(self) -> None:
        self.turn_to("space/line-inclined-to-both")
        self.session.set_solution(2)
        self.type_into("inclination_vp", "56")
        self.assertEqual(self.session.figure.solution, 1)
        self.assertFalse(self.window.brief.turner.isVisible())
