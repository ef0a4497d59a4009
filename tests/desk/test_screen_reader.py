"""The whole work by keyboard, and what a screen reader finds in the accessibility tree on the way: brief, refusal, step,
answer, verdict; and every control of every form has a name."""

from __future__ import annotations

import time
import unittest
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from PySide6.QtCore import Qt
from PySide6.QtGui import QAccessible
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from tests.desk.base import DeskTest
from wisecompass.desk.about import About
from wisecompass.desk.caliper_window import CaliperWindow
from wisecompass.desk.full_size_form import FullSizeForm
from wisecompass.desk.nest_form import NestForm
from wisecompass.desk.plot_form import PlotForm
from wisecompass.desk.plotter_window import PlotterWindow
from wisecompass.desk.theme import LIGHT
from wisecompass.desk.title_block import TitleForm
from wisecompass.desk.worksheets_form import WorksheetsForm
from wisecompass.exchange.machine import SIMULATED
from wisecompass.folio import register

Role = QAccessible.Role

CONTROLS = {
    Role.Button,
    Role.ButtonMenu,
    Role.CheckBox,
    Role.RadioButton,
    Role.EditableText,
    Role.SpinBox,
    Role.ComboBox,
    Role.Slider,
    Role.List,
    Role.Table,
    Role.Tree,
    Role.ProgressBar,
}
"""What somebody can act on, or must be able to find."""


@dataclass(frozen=True)
class Heard:
    """What a screen reader is told of one thing."""

    role: Role
    name: str
    value: str
    description: str
    parent: Role

    @property
    def all(self) -> str:
        return " ".join((self.name, self.value, self.description))


def heard(widget: QWidget) -> list[Heard]:
    """All that can be seen of a window, in the order of its tree."""
    root = QAccessible.queryAccessibleInterface(widget)
    return list(_walk(root, root.role()))


def _walk(one: object, parent: Role) -> Iterator[Heard]:
    if one is None or not one.isValid() or one.state().invisible:  # type: ignore[attr-defined]
        return
    texts = (one.text(kind) for kind in (QAccessible.Text.Name, QAccessible.Text.Value, QAccessible.Text.Description))  # type: ignore[attr-defined]
    role = one.role()  # type: ignore[attr-defined]
    yield Heard(role, *texts, parent)
    for k in range(one.childCount()):  # type: ignore[attr-defined]
        yield from _walk(one.child(k), role)  # type: ignore[attr-defined]


class WholeWork(DeskTest):
    """Nobody touches the mouse, and nobody looks: only keys, and the tree."""

    def setUp(self) -> None:
        super().setUp()
        self.session.turn_to(*register.place_of(self.folio, "sill blend"))
        self.session.settle()
        self.app.processEvents()

    def keys(self, *pressed: Qt.Key, modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        for key in pressed:
            target = QApplication.focusWidget() or self.window
            QTest.keyClick(target, key, modifier)
            self.app.processEvents()

    def told(self, says: Callable[[Heard], bool], what: str) -> Heard:
        end = time.monotonic() + 30
        while True:
            found = next((each for each in heard(self.window) if says(each)), None)
            if found is not None:
                return found
            self.assertLess(time.monotonic(), end, what)
            self.app.processEvents()
            time.sleep(0.01)

    def test_brief_refusal_step_answer_verdict(self) -> None:
        brief = self.told(lambda h: h.name == "brief" and "Two straight edges" in h.description, "the brief as a sentence")
        self.assertRegex(brief.description, r"72.*18\.5")
        self.window.brief_action.trigger()
        field = QApplication.focusWidget()
        assert field is not None
        self.assertTrue(field.accessibleName())
        # a refusal: said in the tree, with what works, which a key takes
        self.keys(Qt.Key.Key_A, modifier=Qt.KeyboardModifier.ControlModifier)
        QTest.keyClicks(field, "190")
        self.session.settle()
        refusal = self.told(lambda h: "190" in h.name and "180" in h.name, "the refusal")
        self.assertIs(refusal.role, Role.StaticText)
        self.window.offer_action.trigger()
        self.session.settle()
        self.assertIsNone(self.session.trouble)
        self.keys(Qt.Key.Key_A, modifier=Qt.KeyboardModifier.ControlModifier)
        QTest.keyClicks(QApplication.focusWidget() or field, "72")
        self.session.settle()
        # steps
        self.keys(Qt.Key.Key_Escape, Qt.Key.Key_Home, Qt.Key.Key_Right)
        first = self.told(lambda h: h.name == "steps" and "Step " in h.description, "the step in hand").description
        self.keys(Qt.Key.Key_Right)
        second = self.told(lambda h: h.name == "steps" and h.description != first, "the next step").description
        self.assertNotEqual(first, second)
        self.told(lambda h: h.name == "sheet" and "step" in h.description, "the sheet says the step")
        # an answer, with its unit and its bound
        self.told(
            lambda h: h.role is Role.ListItem and "setback" in h.name and "mm" in h.name and "±" in h.name, "an answer"
        )
        # a verdict
        self.window.turn_leaf()
        self.window.turn_leaf()
        fields = self.told(lambda h: h.role is Role.EditableText and h.name.startswith("measured "), "a field to measure")
        self.assertTrue(fields.name)
        name, measured = next(iter(self.window.marked.fields.items()))
        measured.setFocus()
        self.assertTrue(name)
        QTest.keyClicks(measured, "25.6")
        QTest.keyClick(measured, Qt.Key.Key_Return)
        self.told(lambda h: h.role is Role.ListItem and "Within hand error." in h.name, "the verdict")
        self.told(lambda h: h.role is Role.ListItem and "off by" in h.name, "how far off it is")

    def test_every_control_of_the_desk_has_a_name(self) -> None:
        for leaf in ("Answers", "Hand", "Measured", "Depends"):
            self.window.leaves.show_leaf(leaf)
            self.session.settle()
            self.app.processEvents()
            nameless(self, self.window, leaf)

    def test_every_control_of_every_form_has_a_name(self) -> None:
        self.session.turn_to(*register.place_of(self.folio, "hopper"))
        self.session.settle()
        forms = (
            FullSizeForm(self.session, LIGHT, self.window),
            NestForm(self.session, LIGHT, self.window),
            PlotForm(self.session, LIGHT, self.window),
            PlotterWindow(SIMULATED, LIGHT, self.window),
            CaliperWindow(self.window),
            About(self.window),
            WorksheetsForm(self.session, self.window),
            TitleForm(self.session.folio, 0, self.window),
        )
        for form in forms:
            form.show()
            for _ in range(20):
                self.app.processEvents()
            nameless(self, form, type(form).__name__)
            form.close()


def nameless(test: unittest.TestCase, widget: QWidget, where: str) -> None:
    """Refuse a control that a screen reader could not tell from another."""
    inside = {Role.ComboBox, Role.SpinBox, Role.Table, Role.ScrollBar, Role.List}  # the parts of one that has a name
    for each in heard(widget):
        if each.role in CONTROLS and each.parent not in inside:
            test.assertTrue(each.name or each.description, f"{where}: {each}")


if __name__ == "__main__":
    unittest.main()
