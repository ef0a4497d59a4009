"""One run in a real window under Xvfb, started as a user starts it."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]


def started(arguments: list[str], environment: dict[str, str], folder: Path = ROOT) -> subprocess.CompletedProcess[str]:
    """A Python started with these arguments, when it has ended."""
    command = [sys.executable, *arguments]
    return subprocess.run(command, cwd=folder, env=environment, capture_output=True, text=True, timeout=120, check=False)


PROBE = """
import sys
from pathlib import Path
from PySide6.QtCore import QTimer
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QApplication
from wisecompass import cli
from wisecompass.desk import window

class Watched(window.DeskWindow):
    def showEvent(self, event):
        super().showEvent(event)
        QTimer.singleShot(600, self.look)
    def look(self):
        assert QGuiApplication.platformName() == "xcb", QGuiApplication.platformName()
        assert self.sheet.paints > 0
        self.grab().save(sys.argv[1])
        QApplication.instance().quit()

window.DeskWindow = Watched
sys.exit(cli.main(["demo"]))
"""


@unittest.skipUnless(shutil.which("Xvfb"), "Xvfb is not installed")
class RealWindow(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        read, write = os.pipe()
        self.server = subprocess.Popen(
            ["Xvfb", "-displayfd", str(write), "-screen", "0", "1280x800x24", "-nolisten", "tcp"],
            pass_fds=(write,),
            stderr=subprocess.DEVNULL,
        )
        os.close(write)
        self.addCleanup(self._stop)
        with os.fdopen(read) as handle:
            self.display = f":{handle.readline().strip()}"

    def _stop(self) -> None:
        self.server.terminate()
        self.server.wait(10)

    def environment(self) -> dict[str, str]:
        kept = {k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "WAYLAND_DISPLAY")}
        home = {"HOME": str(self.folder), "XDG_CONFIG_HOME": str(self.folder / "config")}
        return {**kept, **home, "DISPLAY": self.display}

    def test_the_demo_opens_and_paints(self) -> None:
        picture = self.folder / "desk.png"
        run = started(["-c", PROBE, str(picture)], self.environment())
        self.assertEqual(run.returncode, 0, run.stderr)
        self.assertNotIn("Traceback", run.stderr)
        self.assertGreater(picture.stat().st_size, 20_000)


NO_SETTINGS = """
import sys
from PySide6.QtWidgets import QApplication
def look():
    (window,) = [one for one in QApplication.topLevelWidgets() if hasattr(one, "notice_label")]
    print(window.notice_label.text())
    window.close()
    return 0
QApplication.exec = staticmethod(look)
from wisecompass.cli import main
sys.exit(main(["demo"]))
"""


class NoSettings(unittest.TestCase):
    def test_where_settings_cannot_be_kept_the_desk_opens_and_says_so(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            (Path(name) / "taken").write_text("a file where the folder should be")
            environment = dict(os.environ) | {"QT_QPA_PLATFORM": "offscreen", "XDG_CONFIG_HOME": f"{name}/taken/config"}
            run = started(["-c", NO_SETTINGS], environment)
            self.assertEqual(run.returncode, 0, run.stderr)
            self.assertNotIn("Traceback", run.stderr)
            self.assertIn("cannot be made", run.stdout)
            self.assertIn("save your work", run.stdout)


class NoDisplay(unittest.TestCase):
    def test_without_a_display_a_picture_is_written_instead(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            hidden = ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM", "QT_LOGGING_RULES")
            environment = {k: v for k, v in os.environ.items() if k not in hidden} | {"HOME": name}
            environment["PYTHONPATH"] = str(ROOT)
            start = time.monotonic()
            run = started(["-m", "wisecompass.cli", "demo"], environment, Path(name))
            self.assertEqual(run.returncode, 0, run.stderr)
            self.assertIn("no display", run.stdout)
            self.assertNotIn("plugin", run.stderr)
            self.assertTrue((Path(name) / "wise-compass-desk.png").read_bytes().startswith(b"\x89PNG"))
            self.assertLess(time.monotonic() - start, 110)


if __name__ == "__main__":
    unittest.main()
