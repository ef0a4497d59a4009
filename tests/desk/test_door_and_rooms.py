"""Folios opened from outside land in the window that is there; the about page; the room of high contrast."""

from __future__ import annotations

import subprocess
import sys
import time
import unittest
import uuid
from collections.abc import Callable
from pathlib import Path
from unittest.mock import patch

from PySide6.QtWidgets import QApplication

from tests.desk.base import DeskTest
from tests.desk.test_real_window import ROOT, RealWindow
from wisecompass.desk.about import About, parts
from wisecompass.desk.doorbell import Doorbell, at_the_door
from wisecompass.desk.theme import CONTRAST, DARK, LIGHT, ROOMS, Theme
from wisecompass.desk.window import DeskWindow
from wisecompass.folio import store

RING = (
    "import sys; from pathlib import Path; from wisecompass.desk.doorbell import ring; "
    "print(ring(Path(sys.argv[1]), sys.argv[2]))"
)


def luminance(color: str) -> float:
    """Relative luminance of a colour (WCAG 2.1)."""
    shares = [int(color[k : k + 2], 16) / 255 for k in (1, 3, 5)]
    r, g, b = (c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in shares)
    return 0.2126 * r + 0.7152 * g + 0.0722 * b


def contrast(one: str, other: str) -> float:
    bright, dim = sorted((luminance(one), luminance(other)), reverse=True)
    return (bright + 0.05) / (dim + 0.05)


class AtTheDoor(DeskTest):
    """A doorbell of this test's own, rung from other processes."""

    def setUp(self) -> None:
        super().setUp()
        self.bell = Doorbell(self.window, f"wise-compass-test-{uuid.uuid4().hex[:8]}")
        self.assertTrue(self.bell.listen())
        self.addCleanup(self.bell.close)
        self.path = self.folder / "mill.folio.json"
        store.save(store.sample(), self.path)

    def ring(self, path: Path) -> subprocess.Popen[str]:
        return subprocess.Popen(
            [sys.executable, "-c", RING, str(path), self.bell.name], stdout=subprocess.PIPE, text=True, cwd=ROOT
        )

    def answers(self, *ringing: subprocess.Popen[str]) -> list[str]:
        end = time.monotonic() + 60
        while any(each.poll() is None for each in ringing) and time.monotonic() < end:
            self.app.processEvents()
            time.sleep(0.005)
        return [each.communicate()[0].strip() for each in ringing]

    def test_a_folio_lands_in_the_window(self) -> None:
        self.bell.answer(self.window.receive)
        self.assertEqual(self.answers(self.ring(self.path)), ["True"])
        self.assertEqual(self.session.path, self.path)

    def test_one_given_twice_at_once(self) -> None:
        """Both are answered, it is opened once, and what was changed in it meanwhile is not lost."""
        self.bell.answer(self.window.receive)
        opened: list[Path] = []
        with patch.object(self.window, "open", lambda path: (opened.append(path), DeskWindow.open(self.window, path))):
            self.assertEqual(self.answers(self.ring(self.path), self.ring(self.path)), ["True", "True"])
        self.assertEqual(opened, [self.path])
        before = self.session.folio
        self.assertEqual(self.answers(self.ring(self.path)), ["True"])
        self.assertIs(self.session.folio, before)
        self.assertIn("is open already", self.window.notice_label.toolTip() or self.window.notice_label.text())

    def test_who_comes_before_the_window_stands_is_not_forgotten(self) -> None:
        self.assertEqual(self.answers(self.ring(self.path)), ["True"])
        self.assertIsNone(self.session.path)
        self.bell.answer(self.window.receive)
        self.assertEqual(self.session.path, self.path)

    def test_what_is_no_folio_is_refused_as_ever(self) -> None:
        broken = self.folder / "broken.folio.json"
        broken.write_text("{")
        self.bell.answer(self.window.receive)
        before = self.session.folio
        self.assertEqual(self.answers(self.ring(broken)), ["True"])
        self.assertIs(self.session.folio, before)

    def test_nobody_there(self) -> None:
        self.bell.close()
        self.assertEqual(self.answers(self.ring(self.path)), ["False"])

    def test_a_second_window_does_not_take_the_door(self) -> None:
        other = Doorbell(self.window, self.bell.name)
        self.assertFalse(other.listen())
        self.assertTrue(at_the_door(other, None))

    def test_what_a_killed_window_left_is_cleared_away(self) -> None:
        name = f"wise-compass-test-{uuid.uuid4().hex[:8]}"
        code = (
            "import sys, os; from PySide6.QtCore import QCoreApplication; a = QCoreApplication([])\n"
            "from wisecompass.desk.doorbell import Doorbell; b = Doorbell(name=sys.argv[1]); print(b.listen(), flush=True)\n"
            "os.kill(os.getpid(), 9)"
        )
        done = subprocess.run([sys.executable, "-c", code, name], capture_output=True, text=True, check=False, cwd=ROOT)
        self.assertEqual(done.stdout.strip(), "True")
        bell = Doorbell(self.window, name)
        self.assertTrue(bell.listen())
        bell.close()


class RealWindows(RealWindow):
    """Started as a file manager starts it, in real windows under Xvfb."""

    def test_the_demo_opens_and_paints(self) -> None:
        self.skipTest("tried elsewhere")

    def test_three_at_once_are_one_window(self) -> None:
        """The same folio is given three times at once, then another: one window, which opens both."""
        environment = {**self.environment(), "XDG_STATE_HOME": str(self.folder), "XDG_RUNTIME_DIR": str(self.folder)}
        paths = [self.folder / "one.folio.json", self.folder / "two.folio.json"]
        for path in paths:
            store.save(store.sample(), path)
        log = self.folder / "wise-compass" / "wise-compass.log"

        def start(path: Path) -> subprocess.Popen[bytes]:
            command = [sys.executable, "-m", "wisecompass.cli", "desk", str(path)]
            return subprocess.Popen(command, env=environment, cwd=ROOT, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)

        running = [start(paths[0]) for _ in range(3)]
        try:
            self._until(lambda: sum(each.poll() is None for each in running) == 1)
            self.assertEqual(sorted(each.poll() or 0 for each in running), [0, 0, 0])
            running.append(start(paths[1]))
            self.assertEqual(running[-1].wait(60), 0)
            self._until(lambda: f"opened {paths[1]}" in log.read_text())
            self.assertEqual(sum(each.poll() is None for each in running), 1)
        finally:
            for each in running:
                each.terminate()
                each.wait(30)

    def _until(self, holds: Callable[[], bool]) -> None:
        end = time.monotonic() + 90
        while not holds():
            self.assertLess(time.monotonic(), end)
            time.sleep(0.05)


class Rooms(DeskTest):
    READ = ("ink", "quiet", "accent", "vermilion", "wrong")

    def test_the_room_of_high_contrast(self) -> None:
        """Whatever is read stands out seven to one from what is behind it; in the other rooms three to one or more."""
        for theme in ROOMS.values():
            least = 7.0 if theme is CONTRAST else 3.0
            for name in self.READ:
                for behind in ("room", "panel"):
                    found = contrast(getattr(theme, name), getattr(theme, behind))
                    self.assertGreaterEqual(found, least, (theme.name, name, behind))
            self.assertGreaterEqual(contrast(theme.paper_ink, theme.paper), 7.0)
        self.assertGreaterEqual(contrast(CONTRAST.edge, CONTRAST.panel), 7.0)

    def test_rooms_are_turned_to_and_remembered(self) -> None:
        self.window.contrast_action.trigger()
        self.assertIs(self.window.theme, CONTRAST)
        again = DeskWindow(self.session, self.settings)
        self.assertIs(again.theme, CONTRAST)
        again.close()
        self.window.dark_action.trigger()
        self.assertIs(self.window.theme, DARK)
        self.window.dark_action.trigger()
        self.assertIs(self.window.theme, LIGHT)
        self.assertIsInstance(self.window.theme, Theme)

    def test_little_motion_is_remembered(self) -> None:
        self.window.calm_action.trigger()
        self.assertFalse(self.window.space_picture.moving)
        again = DeskWindow(self.session, self.settings)
        self.assertFalse(again.space_picture.moving)
        self.assertTrue(again.calm_action.isChecked())
        again.close()

    def test_forms_can_be_read_in_every_room(self) -> None:
        """Fields have letters that stand out from their own ground, whatever the system's colours are."""
        from PySide6.QtGui import QPalette
        from PySide6.QtWidgets import QComboBox, QDoubleSpinBox, QLineEdit

        from wisecompass.desk.nest_form import NestForm

        for theme in ROOMS.values():
            self.window.set_room(theme)
            form = NestForm(self.session, theme, self.window)
            form.ensurePolished()
            for kind in (QLineEdit, QDoubleSpinBox, QComboBox):
                for field in form.findChildren(kind):
                    field.ensurePolished()
                    palette = field.palette()
                    ink, ground = (palette.color(role).name() for role in (QPalette.ColorRole.Text, QPalette.ColorRole.Base))
                    self.assertGreaterEqual(contrast(ink, ground), 7.0, (theme.name, kind.__name__, ink, ground))
            form.close()


class AboutPage(DeskTest):
    def test_every_part_has_version_and_licence(self) -> None:
        found = parts()
        self.assertGreater(len(found), 14)
        for name, version, licence in found:
            self.assertRegex(version, r"^\d", name)
            self.assertTrue(licence and "see its own" not in licence, name)
        page = About(self.window)
        page.copy()
        self.assertIn("spyrrow", QApplication.clipboard().text())
        self.assertIn("wise-compass.log", page.log.text())


if __name__ == "__main__":
    unittest.main()
