"""What a hand can hope for, how answers hang on the givens, and an answer asked backwards, at the desk."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from tests.desk.base import DeskTest
from wisecompass.desk.ledger import Row, RowKind


class Judging(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        self.turn_to("tangency/arc-two-lines")
        self.session.begin_proving()
        self.settle()

    def rows(self, leaf: str) -> list[Row]:
        self.window.leaves.show_leaf(leaf)
        self.settle()
        view = {
            "Answers": self.window.ledger,
            "Hand": self.window.hand.rows,
            "Depends": self.window.depends.rows,
            "Measured": self.window.marked.rows,
        }[leaf]
        return view.table.rows

    def press(self, leaf: str, at: int) -> None:
        leaves = {"Hand": self.window.hand, "Depends": self.window.depends, "Measured": self.window.marked}
        view = leaves[leaf].rows
        index = view.table.index(at)
        view.scrollTo(index)
        QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, pos=view.visualRect(index).center())
        self.settle()


class TheHand(Judging):
    def test_every_answer_says_how_near_a_hand_comes(self) -> None:
        for row in self.rows("Answers"):
            if row.kind is RowKind.ANSWER:
                self.assertRegex(row.hand, r"^by hand ±[\d.]+( mm|°)$")
                self.assertIn(row.hand, row.aloud())

    def test_a_steadier_hand_is_chosen_and_undone(self) -> None:
        before = self.session.reaches["setback"].reach
        self.window.leaves.show_leaf("Hand")
        self.window.hand.skills["steady"].click()
        self.settle()
        self.assertAlmostEqual(self.session.reaches["setback"].reach / before, 0.5, delta=0.03)
        self.assertEqual(self.session.folio.conventions.hand, "steady")
        self.session.undo()
        self.settle()
        self.assertTrue(self.window.hand.skills["ordinary"].isChecked())

    def test_ones_own_hand_is_typed_and_what_is_none_is_said(self) -> None:
        self.window.leaves.show_leaf("Hand")
        own = self.window.hand.own
        own.setFocus()
        QTest.keyClicks(own, "protractor=2")
        QTest.keyClick(own, Qt.Key.Key_Return)
        self.settle()
        self.assertEqual(self.session.folio.conventions.hand, "protractor=2")
        said: list[str] = []
        self.session.noticed.connect(said.append)
        own.setText("wobbly")
        QTest.keyClick(own, Qt.Key.Key_Return)
        self.assertEqual(len(said), 1)
        self.assertIn("wobbly", said[0])
        self.assertEqual(self.session.folio.conventions.hand, "protractor=2")

    def test_an_answer_opens_its_budget_and_a_step_leads_to_it(self) -> None:
        rows = self.rows("Hand")
        at = next(n for n, row in enumerate(rows) if row.link == "setback")
        self.press("Hand", at)
        rows = self.rows("Hand")
        steps = [row for row in rows if row.kind is RowKind.STEP]
        self.assertTrue(steps)
        self.assertEqual([row.share for row in steps], sorted((row.share for row in steps), reverse=True))
        helps = [row.left for row in rows if row.kind is RowKind.NOTE and "from ±" in row.left]
        self.assertTrue(helps)
        self.press("Hand", rows.index(steps[0]))
        self.assertEqual(self.session.step, steps[0].step)
        self.press("Hand", at)
        self.assertFalse([row for row in self.rows("Hand") if row.kind is RowKind.STEP])

    def test_another_figure_closes_it(self) -> None:
        self.rows("Hand")
        self.window.hand.rows.open("setback")
        self.turn_to("triangles/three-sides")
        self.settle()
        self.assertEqual(self.window.hand.rows.opened, "")


class Backwards(Judging):
    def ask(self, wish: str, given: str, limits: str = "") -> list[Row]:
        self.window.turn_round("setback")
        depends = self.window.depends
        self.assertTrue(depends.given.choose(given))
        depends.wish.clear()
        QTest.keyClicks(depends.wish, wish)
        depends.limits.setText(limits)
        QTest.keyClick(depends.wish, Qt.Key.Key_Return)
        return self.rows("Depends")

    def test_a_double_click_on_an_answer_asks_it(self) -> None:
        ledger = self.window.ledger
        at = next(n for n, row in enumerate(self.rows("Answers")) if row.link == "arc_length")
        spot = ledger.visualRect(ledger.table.index(at)).center()
        QTest.mouseClick(ledger.viewport(), Qt.MouseButton.LeftButton, pos=spot)
        QTest.mouseDClick(ledger.viewport(), Qt.MouseButton.LeftButton, pos=spot)
        self.assertEqual(self.window.leaves.shown, "Depends")
        self.settle()
        self.assertEqual(self.window.depends.finding.chosen, "arc_length")
        self.assertTrue(self.window.depends.wish.hasFocus())

    def test_a_value_is_taken_into_the_brief_with_a_click_and_undone(self) -> None:
        before = self.session.given_text("radius")
        rows = self.ask("30", "radius")
        values = [n for n, row in enumerate(rows) if row.kind is RowKind.VALUE]
        self.assertEqual(len(values), 1)
        self.assertIn("there is no other", " ".join(row.left for row in rows))
        self.press("Depends", values[0])
        found = next(a for a in self.session.certificate.answers if a.name == "setback")  # type: ignore[union-attr]
        self.assertAlmostEqual(found.value or 0, 30, 9)  # type: ignore[arg-type]
        self.assertEqual(self.number("radius").text(), self.session.given_text("radius"))
        self.session.undo()
        self.assertEqual(self.session.given_text("radius"), before)

    def test_none_says_the_nearest_and_takes_it(self) -> None:
        rows = self.ask("1000", "angle", "20, 170")
        said = " ".join(row.left for row in rows)
        self.assertIn("at most", said)
        at = next(n for n, row in enumerate(rows) if row.kind is RowKind.VALUE)
        self.assertIn("nearest", rows[at].below)
        self.press("Depends", at)
        self.assertEqual(self.session.given_text("angle"), "20")

    def test_what_cannot_be_read_is_said(self) -> None:
        for wish, limits, words in (("wide", "", "not a number"), ("30°", "", "angle"), ("30", "5", "two numbers")):
            rows = self.ask(wish, "radius", limits)
            self.assertIn(words, rows[0].left)

    def test_slopes_and_tolerances_are_told(self) -> None:
        rows = self.rows("Depends")
        heads = [row.left for row in rows if row.kind is RowKind.HEAD]
        self.assertIn("blend radius", heads)
        self.assertIn("Tolerances", heads)
        at = next(n for n, row in enumerate(rows) if row.left == "blend radius")
        self.assertRegex(rows[at + 1].right, r"^\+[\d.]+ mm$")
        self.type_into("angle", "90")
        self.settle()
        rows = self.rows("Depends")
        at = next(n for n, row in enumerate(rows) if row.left == "blend radius")
        self.assertEqual(rows[at + 1].right, "+1 mm", "at a right angle the setback is the radius")

    def test_keys_alone(self) -> None:
        self.window.ledger.setFocus()
        self.window.backwards_action.trigger()
        self.settle()
        depends = self.window.depends
        QTest.keyClick(depends.given, Qt.Key.Key_Down)
        self.assertEqual(depends.given.chosen, "radius")
        QTest.keyClicks(depends.wish, "30")
        QTest.keyClick(depends.wish, Qt.Key.Key_Return)
        self.settle()
        view = depends.rows
        at = next(n for n, row in enumerate(view.table.rows) if row.kind is RowKind.VALUE)
        view.setCurrentIndex(view.table.index(at))
        QTest.keyClick(view, Qt.Key.Key_Return)
        self.settle()
        self.assertAlmostEqual(float(self.session.given_text("radius").removesuffix(" mm")), 30 * 0.7265425280053609, 9)


class Measured(Judging):
    def setUp(self) -> None:
        super().setUp()
        self.window.leaves.show_leaf("Measured")
        self.settle()
        self.fields = self.window.marked.fields

    def type(self, name: str, text: str) -> list[Row]:
        field = self.window.marked.fields[name]
        field.setFocus()
        field.clear()
        QTest.keyClicks(field, text)
        QTest.keyClick(field, Qt.Key.Key_Return)
        return self.rows("Measured")

    def test_every_answer_that_can_be_judged_has_a_field(self) -> None:
        self.assertEqual(list(self.fields), ["setback", "centre_distance", "arc_angle", "arc_length"])
        for field in self.fields.values():
            self.assertTrue(field.accessibleName().startswith("measured "))
            self.assertTrue(field.isVisible())

    def test_what_was_measured_is_kept_with_the_folio(self) -> None:
        """Saved and opened again it stands there; undone work does not take it away, other work has its own."""
        self.type("setback", "25.3")
        self.assertEqual(self.session.folio.readings, {self.session.figure.name: {"setback": "25.3"}})
        self.assertTrue(self.session.work.changed)
        self.assertFalse(self.session.can_undo)
        path = self.folder / "kept.folio.json"
        self.assertTrue(self.window.save_to(path))
        name = self.session.figure.name
        self.window.rename_figure("other name")
        self.assertEqual(self.session.folio.readings, {"other name": {"setback": "25.3"}})
        self.window.undo_action.trigger()
        self.assertEqual(self.session.folio.readings, {name: {"setback": "25.3"}})
        place = self.session.place
        self.window.open_sample()
        self.assertEqual(self.window.marked.own, {})
        self.window.open(path)
        self.session.turn_to(*place)
        self.settle()
        self.rows("Measured")
        self.assertEqual(self.window.marked.fields["setback"].text(), "25.3")
        self.assertTrue(any("off by" in row.below for row in self.rows("Measured")))

    def test_other_numbers_are_measured_anew_and_undo_brings_back_what_was_measured(self) -> None:
        from wisecompass.service import Task, another

        self.type("setback", "25.3")
        self.session.practise(another(Task.of(self.session.folio, self.session.place), 3, 1))
        self.settle()
        self.assertEqual(self.session.folio.readings, {})
        self.assertEqual({name: text for name, text in self.window.marked.own.items() if text}, {})
        self.window.undo_action.trigger()
        self.settle()
        self.assertEqual(self.window.marked.own.get("setback"), "25.3")

    def test_within_hand_error(self) -> None:
        true = self.session.certificate.answers[0].value  # type: ignore[union-attr]
        rows = self.type("setback", f"{true + 0.05:.2f}")  # type: ignore[operator]
        self.assertTrue(any(row.kind is RowKind.CHECK and "Within hand error" in row.left for row in rows))
        self.assertTrue(any(row.hand == "passes" for row in rows))

    def test_a_slip_is_named_and_its_drawing_shown_and_put_away(self) -> None:
        self.type_into("angle", "72")
        self.type_into("radius", "18.5")
        self.settle()
        self.rows("Measured")
        rows = self.type("setback", "13.4")
        rows = self.type("arc_angle", "71.8")
        self.assertIn("other scale", " ".join(row.left for row in rows))
        at = next(n for n, row in enumerate(rows) if row.link)
        before = self.window.sheet.grab().toImage()
        self.press("Measured", at)
        self.assertNotEqual(self.window.sheet.grab().toImage(), before)
        self.press("Measured", at)
        self.assertEqual(self.window.sheet.grab().toImage(), before)

    def test_what_cannot_be_read_is_said(self) -> None:
        for text, words in (("wide", "not a number"), ("0", "nothing that is drawn"), ("99999", "look at its unit")):
            self.assertIn(words, self.type("setback", text)[0].left)

    def test_a_school_lets_pass_what_a_shop_does_not(self) -> None:
        true = self.session.certificate.answers[0].value  # type: ignore[union-attr]
        page = self.session.page
        assert page is not None
        rows = self.type("setback", f"{true + 1.2 / float(page.scale):.3f}")  # type: ignore[operator]
        self.assertTrue(any(row.hand == "fails" for row in rows))
        self.window.marked.passing["school"].click()
        self.assertTrue(any(row.hand == "passes" for row in self.rows("Measured")))

    def test_two_letters_of_the_sheet_get_a_field(self) -> None:
        self.window.marked.add_pair("V", "C")
        self.settle()
        true = next(a.value for a in self.session.certificate.answers if a.name == "centre_distance")  # type: ignore[union-attr]
        rows = self.type("V-C", f"{true:.3f}")
        self.assertTrue(any(row.left == "V-C" and "within hand error" in row.below for row in rows))

    def test_what_was_typed_stays_with_its_figure(self) -> None:
        self.type("setback", "9.5")
        place = self.session.place
        self.turn_to("triangles/three-sides")
        self.settle()
        self.rows("Measured")
        self.assertNotIn("setback", self.window.marked.fields)
        self.session.turn_to(*place)
        self.settle()
        self.rows("Measured")
        self.assertEqual(self.window.marked.fields["setback"].text(), "9.5")


class InLists(DeskTest):
    def test_a_number_of_a_point_and_of_a_list_is_taken_in_its_place(self) -> None:
        from wisecompass.desk.depends import take
        from wisecompass.drafting.tracing import numerics

        for problem in ("space/skew-lines", "pictorial/crates"):
            self.turn_to(problem)
            listed = [each for each in numerics(self.session.problem, self.session.typed) if each.place == 2]
            number = float(listed[0].value.text) + 0.25
            take(self.session, listed[0], f"{number}")
            again = next(e for e in numerics(self.session.problem, self.session.typed) if e.name == listed[0].name)
            self.assertAlmostEqual(float(again.value.fraction() or 0), number)


class OnAPhotograph(Judging):
    def setUp(self) -> None:
        super().setUp()
        from wisecompass.exchange.camera import Camera, photographed
        from wisecompass.folio.clicked import corners, lettered

        page = self.session.page
        assert page is not None
        png, self.true = photographed(page, Camera(dpi=80))
        self.path = self.folder / "sheet.png"
        self.path.write_bytes(png)
        self.spots = {**corners(page), **{name: spot.at for name, spot in lettered(page).items()}}
        self.view = self.window.photo

    def click(self, name: str) -> None:
        at = self.view._at(self.true.pixel(self.spots[name])).toPoint()
        QTest.mouseClick(self.view, Qt.MouseButton.LeftButton, pos=at)

    def test_corners_and_letters_are_asked_for_clicked_and_judged(self) -> None:
        self.window.open_photograph(self.path)
        self.assertTrue(self.view.isVisible())
        self.assertEqual(self.window.leaves.shown, "Measured")
        self.assertIn("lower left corner", self.view.sentence)
        for _ in range(len(self.spots)):
            self.assertIn(self.view.asked, self.spots)
            self.click(self.view.asked)
        self.settle()
        self.assertEqual(self.view.asked, "")
        said = " ".join(row.left for row in self.rows("Measured"))
        self.assertIn("Within hand error", said)
        self.assertIn("letters were clicked", said)
        QTest.keyClick(self.view, Qt.Key.Key_Escape)
        self.settle()
        self.assertFalse(self.view.isVisible())
        self.assertNotIn("letters were clicked", " ".join(row.left for row in self.rows("Measured")))

    def test_places_are_left_out_and_taken_back_and_letters_serve_alone(self) -> None:
        self.window.open_photograph(self.path)
        QTest.keyClick(self.view, Qt.Key.Key_L)
        first = self.view.asked
        self.assertNotIn("corner", self.view.sentence)
        QTest.keyClick(self.view, Qt.Key.Key_Space)
        self.assertNotEqual(self.view.asked, first)
        for _ in range(5):
            self.click(self.view.asked)
        self.assertIsNotNone(self.view.fit)
        self.assertIn("fit within", self.view.sentence)
        for _ in range(3):
            QTest.keyClick(self.view, Qt.Key.Key_Backspace)
        self.assertIsNone(self.view.fit)

    def test_four_places_in_a_line_and_what_is_no_picture_are_said(self) -> None:
        self.window.open_photograph(self.path)
        for k in range(4):
            self.view.take((10.0 * k, 10.0 * k))
        self.assertIn("in a line", self.view.sentence)
        said: list[str] = []
        self.window.notice = said.append  # type: ignore[method-assign]
        bad = self.folder / "bad.png"
        bad.write_text("no picture")
        for path, words in ((bad, "no picture"), (self.folder / "none.png", "cannot be read")):
            self.window.open_photograph(path)
            self.assertIn(words, said[-1])
