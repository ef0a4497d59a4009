"""The program as an application: what desktops read is valid; it builds and installs, logs, and lives without a home."""

from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
import sys
import tempfile
import tomllib
import unittest
import xml.etree.ElementTree as ElementTree
import zipfile
from pathlib import Path

from wisecompass import __version__, menu_entry
from wisecompass.cli import _parser

ROOT = Path(__file__).resolve().parent.parent.parent
SHARE = menu_entry.share()


def run(*command: str, **environment: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        command, capture_output=True, text=True, timeout=300, check=False, env={**os.environ, **environment}, cwd=ROOT
    )


class Valid(unittest.TestCase):
    """By the standard validators, where they are installed."""

    def passes(self, *command: str) -> None:
        if shutil.which(command[0]) is None:
            self.skipTest(f"{command[0]} is not installed")
        done = run(*command)
        self.assertEqual((done.returncode, done.stdout.count("WARNING")), (0, 0), done.stdout + done.stderr)

    def test_menu_entry(self) -> None:
        self.passes("desktop-file-validate", str(SHARE / "applications" / f"{menu_entry.APP_ID}.desktop"))

    def test_metadata(self) -> None:
        self.passes("appstreamcli", "validate", "--no-net", str(SHARE / "metainfo" / f"{menu_entry.APP_ID}.metainfo.xml"))

    def test_man_page(self) -> None:
        self.passes("mandoc", "-T", "lint", "-W", "warning", str(SHARE / "man" / "wise-compass.1"))

    def test_file_type_and_icon(self) -> None:
        self.passes(
            "xmllint", "--noout", str(SHARE / "mime" / "wise-compass.xml"), str(SHARE / "icons" / "wise-compass.svg")
        )


class Agreed(unittest.TestCase):
    """What is said of the program in several places is the same."""

    def test_the_version(self) -> None:
        project = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]
        self.assertEqual(project["version"], __version__)
        newest = re.search(r"^## (\S+)", (ROOT / "CHANGELOG.md").read_text(), re.MULTILINE)
        self.assertEqual(newest and newest[1], __version__)
        self.assertIn(f"Wise Compass {__version__}", (SHARE / "man" / "wise-compass.1").read_text())
        releases = ElementTree.parse(SHARE / "metainfo" / f"{menu_entry.APP_ID}.metainfo.xml").iter("release")
        self.assertEqual(next(releases).get("version"), __version__)

    def test_the_man_page_has_every_command(self) -> None:
        told = (SHARE / "man" / "wise-compass.1").read_text().replace("\\-", "-")
        commands = next(a for a in _parser()._actions if a.dest == "command").choices
        assert isinstance(commands, dict)
        for name in commands:
            self.assertRegex(told, rf"(?m)^\.B.*\b{name}\b", name)

    def test_the_entry_starts_what_there_is(self) -> None:
        """Every command line of the menu entry is one that the program takes."""
        text = (SHARE / "applications" / f"{menu_entry.APP_ID}.desktop").read_text()
        lines = re.findall(r"^Exec=wise-compass (.*)$", text, re.MULTILINE)
        self.assertGreaterEqual(len(lines), 3)
        for line in lines:
            _parser().parse_args(line.replace("%f", "a.folio.json").split())

    def test_icons_have_their_sizes(self) -> None:
        from PIL import Image

        for size in menu_entry.ICON_SIZES:
            with Image.open(SHARE / "icons" / f"wise-compass-{size}.png") as icon:
                self.assertEqual(icon.size, (size, size))


class Installed(unittest.TestCase):
    """Built as wheel and source, unpacked somewhere else, started there."""

    def test_wheel_and_source(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            source = Path(folder) / "source"
            skip = shutil.ignore_patterns(".git", ".venv", "*.egg-info", "build", "__pycache__", ".*_cache", "docs", "tests")
            shutil.copytree(ROOT, source, ignore=skip)
            made = Path(folder) / "made"
            done = subprocess.run(
                [sys.executable, "-m", "build", "--no-isolation", "-o", str(made), str(source)],
                capture_output=True,
                text=True,
                check=False,
            )
            self.assertEqual(done.returncode, 0, done.stdout[-2000:] + done.stderr[-2000:])
            (wheel,) = made.glob("wise_compass-*.whl")
            (archive,) = made.glob("wise_compass-*.tar.gz")
            self.assertIn(__version__, archive.name)
            with zipfile.ZipFile(wheel) as packed:
                names = packed.namelist()
            for wanted in (
                "wisecompass/folio/fonts/mill-strokes.json",
                "wisecompass/folio/bramlow-mill.folio.json",
                "wisecompass/share/icons/wise-compass-256.png",
                f"data/share/applications/{menu_entry.APP_ID}.desktop",
                "data/share/man/man1/wise-compass.1",
                "licenses/LICENSE",
            ):
                self.assertTrue(any(name.endswith(wanted) for name in names), wanted)
            place = Path(folder) / "place"
            pip = [
                sys.executable,
                "-m",
                "pip",
                "install",
                "-q",
                "--no-deps",
                "--no-index",
                "--target",
                str(place),
                str(wheel),
            ]
            self.assertEqual(subprocess.run(pip, capture_output=True, check=False).returncode, 0)
            code = "import wisecompass; from wisecompass.cli import main; print(wisecompass.__file__); main(['--version'])"
            started = subprocess.run(
                [sys.executable, "-c", code],
                capture_output=True,
                text=True,
                check=False,
                cwd=folder,
                env={**os.environ, "PYTHONPATH": str(place)},
            )
            self.assertIn(str(place), started.stdout)
            self.assertIn(f"Wise Compass {__version__}", started.stdout)

    def test_into_the_menu_and_out_of_it(self) -> None:
        """The entry starts this very program, and a folio is told by its name; taken out, nothing is left."""
        with tempfile.TemporaryDirectory() as folder:
            where = {"XDG_DATA_HOME": folder, "XDG_STATE_HOME": folder}
            done = run(sys.executable, "-m", "wisecompass.cli", "menu", **where)
            self.assertEqual(done.returncode, 0, done.stderr)
            entry = Path(folder) / "applications" / f"{menu_entry.APP_ID}.desktop"
            command = re.search(r"^Exec=(\S+) desk %f$", entry.read_text(), re.MULTILINE)
            self.assertTrue(command and Path(command[1]).name == "wise-compass")
            if shutil.which("update-mime-database"):
                code = "from PySide6.QtCore import QMimeDatabase as D; print(D().mimeTypeForFile('a.folio.json').name())"
                told = run(sys.executable, "-c", code, XDG_DATA_HOME=folder)
                self.assertEqual(told.stdout.strip(), "application/x-wise-compass-folio+json", told.stderr)
            run(sys.executable, "-m", "wisecompass.cli", "menu", "--remove", **where)
            self.assertFalse(entry.exists())
            self.assertFalse(list(Path(folder).rglob("wise-compass*.png")))


class Homes(unittest.TestCase):
    """A log in the state directory; a home that cannot be written stops nobody; commas for points change nothing."""

    SOLVE = ("-m", "wisecompass.cli", "solve", "tangency/arc-two-lines", "--json")

    def test_the_log(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            run(sys.executable, *self.SOLVE, XDG_STATE_HOME=folder)
            log = Path(folder) / "wise-compass" / "wise-compass.log"
            self.assertRegex(log.read_text(), r"INFO solve\n")
            code = "from wisecompass import program_log as p; p.begin(); [p.note('x' * 900) for _ in range(1500)]"
            run(sys.executable, "-c", code, XDG_STATE_HOME=folder)
            files = sorted(log.parent.iterdir())
            self.assertEqual(len(files), 4)
            self.assertTrue(all(file.stat().st_size <= 256 * 1024 for file in files))

    def test_a_fault_of_the_program_is_in_the_log(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            code = (
                "from wisecompass import cli\n"
                "def broken(args): raise ZeroDivisionError\n"
                "def worse(args): raise LookupError('lost')\n"
                "cli._list = worse\n"
                "raise SystemExit(cli.main(['list']))"
            )
            done = run(sys.executable, "-c", code, XDG_STATE_HOME=folder)
            self.assertEqual((done.returncode, len(done.stderr.splitlines())), (2, 1))
            log = (Path(folder) / "wise-compass" / "wise-compass.log").read_text()
            self.assertIn("LookupError: lost", log)
            self.assertIn("Traceback", log)

    def test_a_home_that_cannot_be_written(self) -> None:
        """No settings, no drafts, no log: commands work, and the window opens."""
        nowhere = {"HOME": "/dev/null"}
        for name in ("XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_STATE_HOME", "XDG_CACHE_HOME"):
            nowhere[name] = f"/dev/null/{name}"
        done = run(sys.executable, *self.SOLVE, **nowhere)
        self.assertEqual((done.returncode, done.stderr), (0, ""))
        self.assertIn("findings", json.loads(done.stdout))
        with tempfile.TemporaryDirectory() as folder:
            picture = Path(folder) / "desk.png"
            done = run(sys.executable, "-m", "wisecompass.cli", "demo", "--picture", str(picture), **nowhere)
            self.assertEqual(done.returncode, 0, done.stderr)
            self.assertGreater(picture.stat().st_size, 10_000)
        done = run(sys.executable, "-m", "wisecompass.cli", "menu", **nowhere)
        self.assertEqual((done.returncode, len(done.stderr.splitlines())), (2, 1))

    def test_a_locale_with_comma(self) -> None:
        """What is written for others does not change with the locale, even once a library has set it."""
        if shutil.which("localedef") is None or not Path("/usr/share/i18n/locales/de_DE").exists():
            self.skipTest("no locale with comma can be made here")
        with tempfile.TemporaryDirectory() as folder:
            made = run("localedef", "-i", "de_DE", "-f", "UTF-8", f"{folder}/de_DE.UTF-8")
            self.assertTrue((Path(folder) / "de_DE.UTF-8").exists(), made.stderr)
            code = (
                "import locale, sys; locale.setlocale(locale.LC_ALL, ''); print(locale.localeconv()['decimal_point'])\n"
                "from wisecompass.cli import main\n"
                "main(['plot', 'developments/cone', '--pattern', '--gcode', sys.argv[1]])\n"
                "main(['solve', 'developments/cone', '--json', '--svg', sys.argv[1] + '.svg'])\n"
            )
            found = {}
            for name, places in (("C", {"LC_ALL": "C.UTF-8"}), ("de", {"LC_ALL": "de_DE.UTF-8", "LOCPATH": folder})):
                file = Path(folder) / f"{name}.gcode"
                done = run(sys.executable, "-c", code, str(file), **places)
                self.assertEqual(done.returncode, 0, done.stderr)
                point, _, rest = done.stdout.partition("\n")
                found[name] = point, rest, file.read_text(), Path(f"{file}.svg").read_text()
            self.assertEqual((found["C"][0], found["de"][0]), (".", ","))
            self.assertEqual(found["C"][1:], found["de"][1:])
