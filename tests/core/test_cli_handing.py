"""Handing over from the command line: every command, and every refusal in one line."""

from __future__ import annotations

import contextlib
import io
import json
import tempfile
import unittest
from pathlib import Path

from pypdf import PdfReader

from wisecompass import cli
from wisecompass.exchange.gcode_reading import drawn
from wisecompass.exchange.machine import NAMED, SIMULATED
from wisecompass.folio import store


class Commands(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.folio = self.folder / "mill.folio.json"
        store.save(store.sample(), self.folio)

    def run_it(self, *arguments: object) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            try:
                code = cli.main([str(each) for each in arguments])
            except SystemExit as end:
                code = int(end.code or 0)
        return code, out.getvalue(), err.getvalue()

    def works(self, *arguments: object, code: int = 0) -> tuple[str, str]:
        ended, out, err = self.run_it(*arguments)
        self.assertEqual(ended, code, err)
        return out, err

    def refused(self, words: str, *arguments: object) -> None:
        code, out, err = self.run_it(*arguments)
        self.assertEqual((code, out, len(err.strip().splitlines())), (2, "", 1), err)
        self.assertIn(words, err)

    def test_full_size(self) -> None:
        """A problem and a figure at 1:1 over pages; the paper is the printer's."""
        target = self.folder / "a.pdf"
        _, err = self.works("solve", "developments/cone", "--full-size", "--tiles", "A5", "--pdf", target)
        self.assertIn("pages in", err)
        pages = PdfReader(target).pages
        self.assertGreater(len(pages), 2)
        sizes = {tuple(sorted(round(float(v) * 25.4 / 72) for v in page.mediabox[2:])) for page in pages}
        self.assertEqual(sizes, {(148, 210)})
        self.works("solve", self.folio, "--figure", "hopper", "--pattern", "--svg", self.folder / "h.svg")
        self.assertTrue(list(self.folder.glob("h*.svg")))
        self.works("solve", "developments/cone", "--full-size", "--measured", "99.4,100.2", "--pdf", target)

    def test_a_whole_sheet(self) -> None:
        target = self.folder / "a.pdf"
        self.works("tile", self.folio, "--sheet", "BM-13", "--tiles", "200x150", "--pdf", target)
        self.assertGreater(len(PdfReader(target).pages), 6)

    def test_refused_full_sizes(self) -> None:
        pdf = ("--pdf", self.folder / "a.pdf")
        solve = ("solve", "developments/cone", "--full-size")
        self.refused("too small for an overlap", *solve, "--tiles", "60x60", "--overlap", "40", *pdf)
        self.refused("is none of A4", *solve, "--tiles", "Q9", *pdf)
        self.refused("nothing to write", *solve)
        self.refused("it takes one, or ACROSS,UPRIGHT", *solve, "--measured", "1,2,3", *pdf)
        self.refused("“abc” is not a number", *solve, "--measured", "abc", *pdf)
        self.refused("no printer's error", *solve, "--measured", "50", *pdf)
        self.refused("has no pattern", "solve", "conics/ellipse", "--pattern", *pdf)
        self.refused("DXF file is at full size by itself", *solve, "--dxf", self.folder / "a.dxf", *pdf)

    def test_nest(self) -> None:
        names = {kind: self.folder / f"n.{kind}" for kind in ("pdf", "svg", "dxf", "gcode")}
        files = [word for kind, path in names.items() for word in (f"--{kind}", path)]
        out, _ = self.works("nest", self.folio, "--stock", "1000x600", "--seconds", "1", "--json", *files)
        told = json.loads(out)
        self.assertEqual(told["left"], [])
        self.assertEqual(sum(len(sheet["patterns"]) for sheet in told["sheets"]), 25)
        self.assertTrue(all(path.stat().st_size > 500 for path in names.values()))
        out, err = self.works(
            "nest", self.folio, "--stock", "1*200x150", "--seconds", "1", "--copies", "dome=1", "--grain", "fixed", code=1
        )
        self.assertIn("does not fit", err)
        self.refused("no size such as", "nest", self.folio, "--stock", "big")
        self.refused("no pattern is called", "nest", self.folio, "--copies", "domes=3")
        self.refused("write it as name=3", "nest", self.folio, "--copies", "dome")
        self.refused("kerf -1 mm", "nest", self.folio, "--kerf", "-1")

    def test_plot(self) -> None:
        """A program by pens in their order, read back, and as layers; sent to the simulated plotter."""
        program, check = self.folder / "a.gcode", self.folder / "a.svg"
        out, _ = self.works(
            "plot", self.folio, "--figure", "hopper", "--pattern", "--pen", "fold", "--pen", "cut", "--gcode", program,
            "--check", check, "--svg", self.folder / "l.svg", "--dxf", self.folder / "l.dxf", "--json",
        )  # fmt: skip
        told = json.loads(out)
        self.assertEqual(list(told["drawn"]), ["fold", "cut"])
        strokes, _ = drawn(program.read_text(), SIMULATED)
        self.assertEqual(len(strokes), told["strokes"])
        self.assertIn("read back", check.read_text())
        _, err = self.works("plot", "developments/twisted-strip", "--pattern", "--pen", "cut", "--to", "simulated")
        self.assertIn("100 % drawn", err)
        alone = self.folder / "alone.folio.json"
        self.works("new", alone)
        self.works("add", alone, "developments/cone")
        out, _ = self.works("plot", alone, "--pen", "cut", "fold", "--gcode", program)
        self.assertEqual([line.split()[0] for line in out.splitlines()][:1], ["cut"])
        self.works("plot", self.folio, "--sheet", "BM-13", "--profile", "inches, no arcs", "--gcode", program)
        self.assertIn("G20", program.read_text())

    def test_refused_plots(self) -> None:
        gcode = ("--gcode", self.folder / "a.gcode")
        self.refused("no pen is called “crayon”", "plot", "developments/cone", "--pen", "crayon", *gcode)
        self.refused("nothing to do", "plot", "developments/cone")
        self.refused("say what of the folio", "plot", self.folio, *gcode)
        self.refused("nothing is drawn by these pens", "plot", "conics/ellipse", "--pen", "cut", *gcode)
        self.refused("is not there", "plot", "developments/cone", "--to", "/dev/not-there")
        self.refused("no profile is called", "plot", "developments/cone", "--profile", "lathe", *gcode)
        bad = self.folder / "bad.json"
        bad.write_text('{"sped": 3}')
        self.refused("“sped” is not known in a profile", "plot", "developments/cone", "--profile", bad, *gcode)
        bad.write_text('{"width": 100, "height": 100}')
        self.refused("the drawing reaches", "plot", "developments/cone", "--profile", bad, *gcode)

    def test_simulated_ones_have_windows(self) -> None:
        import subprocess
        import sys

        for device in ("plotter", "caliper"):
            picture = self.folder / f"{device}.png"
            command = [sys.executable, "-m", "wisecompass.cli", "simulate", device, "--picture", str(picture)]
            done = subprocess.run(command, capture_output=True, text=True, check=False)
            self.assertEqual(done.returncode, 0, done.stderr)
            self.assertIn(device, done.stdout)
            self.assertGreater(picture.stat().st_size, 1000)

    def test_profiles_and_ports(self) -> None:
        for name in NAMED:
            out, _ = self.works("profile", name)
            mine = self.folder / "mine.json"
            mine.write_text(out)
            again, _ = self.works("profile", mine)
            self.assertEqual(out, again)
        self.works("ports")


if __name__ == "__main__":
    unittest.main()
