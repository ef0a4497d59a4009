"""Units as a setting: what is shown changes, the figure never does."""

from __future__ import annotations

import math

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from tests.desk.base import DeskTest
from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Units


class InInches(DeskTest):
    def setUp(self) -> None:
        super().setUp()
        self.turn_to("tangency/arc-two-lines")
        self.before = self.session.drawing.findings["setback"]  # type: ignore[union-attr]
        self.session.set_units(Units.INCH)
        self.app.processEvents()

    def test_the_figure_keeps_its_size(self) -> None:
        self.assertEqual(self.session.drawing.findings["setback"], self.before)  # type: ignore[union-attr]
        self.assertEqual(self.session.figure.givens["radius"], "18.5 mm")
        for sheet in range(len(self.session.folio.sheets)):
            self.session.turn_to(sheet)
            self.assertIsNone(self.session.trouble)

    def test_answers_settings_and_dimensions_are_in_inches(self) -> None:
        self.assertEqual(self.answers()["setback"], "1.00248 in")
        self.session.go_to(8)
        self.assertEqual(self.window.strip.setting(), "0.728 in")
        self.assertIn("Compass at 0.728 in", self.window.strip.text())
        self.turn_to("pictorial/box")
        texts = {m.text for m in self.session.page.marks if isinstance(m, marks.Text)}  # type: ignore[union-attr]
        self.assertIn("2.52", texts)
        self.turn_to("conics/ellipse")
        self.assertEqual(self.answers()["area"], "21.26988 in²")
        self.assertEqual(self.answers()["eccentricity"], "0.7854")

    def test_a_bare_number_is_in_inches_and_a_typed_unit_wins(self) -> None:
        self.type_into("radius", "3/4")
        self.assertAlmostEqual(float(self.session.typed["radius"].fraction()), 19.05)  # type: ignore[union-attr, arg-type]
        self.assertIn("radius 3/4 in", self.session.problem.spoken(self.session.typed))
        self.type_into("radius", "20 mm")
        self.assertEqual(float(self.session.typed["radius"].fraction()), 20.0)  # type: ignore[union-attr, arg-type]

    def test_the_unit_after_a_field_is_said_once(self) -> None:
        tail = self.window.brief.tails["radius"][0]
        self.assertEqual(tail.text(), ". ")
        self.type_into("radius", "1")
        self.assertEqual(tail.text(), " in. ")
        self.type_into("radius", "1 1/2 cm")
        self.assertEqual(tail.text(), ". ")

    def test_nudging_keeps_the_typed_unit(self) -> None:
        self.type_into("radius", "2 cm")
        QTest.keyClick(self.number("radius"), Qt.Key.Key_Up)
        self.assertEqual(self.number("radius").text(), "3 cm")
        self.assertEqual(float(self.session.typed["radius"].fraction()), 30.0)  # type: ignore[union-attr, arg-type]

    def test_back_to_millimetres_and_undone(self) -> None:
        self.type_into("radius", "1")
        self.session.set_units(Units.MM)
        self.assertEqual(self.session.figure.givens["radius"], "1 in")
        self.assertEqual(self.answers()["setback"], f"{25.4 / math.tan(math.radians(36)):.4f} mm")
        self.window.undo_action.trigger()
        self.window.undo_action.trigger()
        self.window.undo_action.trigger()
        self.assertEqual(self.session.figure.givens["radius"], "18.5")
        self.assertEqual(self.session.folio.conventions.units, Units.MM)

    def test_saved_and_opened_again(self) -> None:
        self.type_into("radius", "1")
        path = self.folder / "inches.folio.json"
        self.assertTrue(self.window.save_to(path))
        self.window.open_sample()
        self.window.open(path)
        self.turn_to("tangency/arc-two-lines")
        self.assertAlmostEqual(float(self.session.typed["radius"].fraction()), 25.4)  # type: ignore[union-attr, arg-type]
