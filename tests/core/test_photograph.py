"""Photographs of sheets: the map to the paper, what is clicked on them, and the stand-in for a camera, end to end."""

from __future__ import annotations

import csv
import io
import json
import random
import tempfile
import unittest
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path

import numpy as np
from PIL import Image

from wisecompass import catalogue
from wisecompass.cli import main
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.solve import draw
from wisecompass.exchange.camera import Camera, photographed
from wisecompass.folio.clicked import corners, fit_of, lettered, readings
from wisecompass.folio.page import Page, compose
from wisecompass.folio.paper import Paper
from wisecompass.folio.title_block import Title
from wisecompass.judgement.photograph import fitted, taken_from
from wisecompass.judgement.prepared import Reading


def page_of(problem_id: str) -> Page:
    problem = catalogue.problem(problem_id)
    drawing = draw(problem, problem.read({}), problem.methods[0])
    return compose(drawing, Paper("A4", True), Title(sheet=problem.title), Conventions())


class Maps(unittest.TestCase):
    def test_a_projectivity_is_found_again(self) -> None:
        rng = random.Random(4)
        for _ in range(40):
            true = np.array([[rng.uniform(0.5, 2), rng.uniform(-0.3, 0.3), rng.uniform(-50, 50)]] * 3)
            true[1] = [rng.uniform(-0.3, 0.3), rng.uniform(-2, -0.5), rng.uniform(100, 300)]
            true[2] = [rng.uniform(-3e-4, 3e-4), rng.uniform(-3e-4, 3e-4), 1]
            pixels = [(rng.uniform(0, 300), rng.uniform(0, 200)) for _ in range(7)]
            spots = []
            for x, y in pixels:
                u, v, w = true @ np.array([x, y, 1.0])
                spots.append((float(u / w), float(v / w)))
            fit = fitted(pixels, spots)
            self.assertLess(fit.residual, 1e-6)
            for pixel, spot in zip(pixels, spots, strict=True):
                self.assertLess(np.hypot(*(np.array(fit.pixel(spot)) - pixel)), 1e-5)

    def test_places_that_fix_nothing_are_refused(self) -> None:
        square = [(0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (0.0, 10.0)]
        line = [(0.0, 0.0), (10.0, 10.0), (20.0, 20.0), (30.0, 30.0)]
        three_in_line = [(0.0, 0.0), (5.0, 0.0), (10.0, 0.0), (0.0, 10.0)]
        same = [(1.0, 1.0)] * 4
        for wrong in (line, three_in_line, same):
            for pixels, spots in ((wrong, square), (square, wrong)):
                with self.assertRaisesRegex(BadGiven, "in a line"):
                    fitted(pixels, spots)
        with self.assertRaisesRegex(BadGiven, "at least 4"):
            fitted(square[:3], square[:3])

    def test_corners_lie_where_the_picture_shows_the_table_ends(self) -> None:
        page = page_of("tangency/arc-two-lines")
        png, fit = photographed(page, Camera(grain=0.0))
        picture = np.asarray(Image.open(io.BytesIO(png)).convert("L"), dtype=float)
        for at in corners(page).values():
            inside = fit.pixel((at[0] + (3 if at[0] == 0 else -3), at[1] + (3 if at[1] == 0 else -3)))
            beyond = fit.pixel((at[0] + (-3 if at[0] == 0 else 3), at[1] + (-3 if at[1] == 0 else 3)))
            light, dark = (picture[round(y), round(x)] for x, y in (inside, beyond))
            self.assertGreater(light, 220)
            self.assertLess(dark, 150)


class Points(unittest.TestCase):
    def test_clicked_to_a_pixel_they_lie_within_three_tenths_of_a_millimetre(self) -> None:
        """At 150 dots to the inch, with ordinary perspective, every click on the pixel that is meant."""
        rng = random.Random(2)
        worst = 0.0
        for problem_id in ("tangency/arc-two-lines", "triangles/three-sides", "conics/ellipse"):
            page = page_of(problem_id)
            for tilt, turn in ((0.0, 0.0), (18.0, 4.0), (22.0, -12.0)):
                fit = taken_from(page.width, page.height, (1754, 1240), tilt, turn)
                spots = {**corners(page), **{name: spot.at for name, spot in lettered(page).items()}}
                clicked = {
                    name: tuple(round(c + rng.uniform(-0.2, 0.2)) for c in fit.pixel(at)) for name, at in spots.items()
                }
                found = fit_of(page, clicked)
                for name, at in spots.items():
                    worst = max(worst, float(np.hypot(*(np.array(found.paper(clicked[name])) - at))))
        self.assertLess(worst, 0.3)

    def test_are_figures_of_the_construction_in_their_own_unit(self) -> None:
        problem = catalogue.problem("tangency/arc-two-lines")
        drawing = draw(problem, problem.read({}), problem.methods[0])
        page = page_of("tangency/arc-two-lines")
        fit = taken_from(page.width, page.height, (1754, 1240), 20, 5)
        clicked = {**corners(page), **{name: spot.at for name, spot in lettered(page).items()}}
        clicked = {name: fit.pixel(at) for name, at in clicked.items()}
        found = readings(page, clicked, fit_of(page, clicked), Reading)
        dots = {mark.name: mark for mark in drawing.marks if type(mark).__name__ == "Dot"}
        for name in ("V", "C", "T1", "T2"):
            self.assertAlmostEqual(found[f"{name}.x"].value, dots[name].x, 6)  # type: ignore[attr-defined]
            self.assertAlmostEqual(found[f"{name}.y"].value, dots[name].y, 6)  # type: ignore[attr-defined]

    def test_four_letters_serve_for_the_corners(self) -> None:
        page = page_of("triangles/circumscribed-circle")
        fit = taken_from(page.width, page.height, (1754, 1240), 20, 5)
        clicked = {name: fit.pixel(spot.at) for name, spot in lettered(page).items()}
        found = fit_of(page, clicked)
        for spot in lettered(page).values():
            self.assertLess(np.hypot(*(np.array(found.paper(fit.pixel(spot.at))) - spot.at)), 1e-6)
        with self.assertRaisesRegex(BadGiven, "no point of this sheet"):
            readings(page, {"nowhere": (3, 3)}, found, Reading)


class EndToEnd(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def run_command(self, *args: str) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with redirect_stdout(out), redirect_stderr(err):
            code = main([*args])
        return code, out.getvalue(), err.getvalue()

    def judged(self, *more: str) -> dict[str, object]:
        png, clicks = self.folder / "sheet.png", self.folder / "clicks.csv"
        args = ("tangency/arc-two-lines", "--out", str(png), "--clicks-out", str(clicks), "--scale", "1:1", *more)
        self.assertEqual(self.run_command("photograph", *args)[0], 0)
        self.assertEqual(Image.open(png).format, "PNG")
        with clicks.open() as lines:
            self.assertIn("lower left", [row[0] for row in csv.reader(lines)])
        code, out, err = self.run_command("judge", "tangency/arc-two-lines", "--clicks", str(clicks), "--json")
        self.assertEqual(code, 0, err)
        found: dict[str, object] = json.loads(out)
        return found

    def test_an_honest_sheet_a_slip_and_a_step(self) -> None:
        for seed in ("1", "2", "3"):
            self.assertEqual(self.judged("--seed", seed)["verdict"], "within hand error")
            self.assertIn("other scale", str(self.judged("--seed", seed, "--slip", "0")["slip"]))
        found = self.judged("--seed", "4", "--gross", "8=4")
        self.assertIn(found["verdict"], ("step", "cannot tell"))

    def test_what_cannot_be_is_refused_in_a_line(self) -> None:
        bad = self.folder / "bad.csv"
        bad.write_text("lower left,1,2\nlower right,2\n")
        for args, words in (
            (("judge", "tangency/arc-two-lines", "--clicks", str(bad)), "line 2"),
            (("judge", "tangency/arc-two-lines", "--clicks", str(self.folder / "none.csv")), "cannot be read"),
            (("photograph", "tangency/arc-two-lines"), "--out"),
            (("photograph", "tangency/arc-two-lines", "--out", "x.png", "--slip", "99"), "no mistake 99"),
            (("photograph", "tangency/arc-two-lines", "--out", "x.png", "--dpi", "5"), "nearest that works"),
            (("photograph", "tangency/arc-two-lines", "--out", "x.png", "--gross", "x"), "step=mm"),
        ):
            code, _, err = self.run_command(*args)
            self.assertEqual(code, 2)
            self.assertIn(words, err)
            self.assertEqual(err.count("\n"), 1)
