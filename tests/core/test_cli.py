"""The command line as other programs and people at a terminal meet it."""

from __future__ import annotations

import contextlib
import io
import json
import os
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from wisecompass import catalogue, cli
from wisecompass.arithmetic.expression import Expression
from wisecompass.arithmetic.undecided import Undecided
from wisecompass.drafting.givens import Listed
from wisecompass.folio import store
from wisecompass.folio.store import SAMPLE


def run(*args: str) -> tuple[int, str, str]:
    """(exit code, standard output, standard error) of a command run in this process."""
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        try:
            code = cli.main(args)
        except SystemExit as stop:
            code = int(stop.code or 0)
    return code, out.getvalue(), err.getvalue()


def text_of(value: Expression | Listed | str) -> str:
    """A given as it is typed."""
    return value if isinstance(value, str) else value.text


class Listing(unittest.TestCase):
    def test_names_every_problem_and_method(self) -> None:
        code, out, _ = run("list")
        self.assertEqual(code, 0)
        for problem_id in catalogue.ids():
            self.assertIn(problem_id, out)
        self.assertIn("four-six centre line", out)

    def test_as_json_with_limits(self) -> None:
        data = json.loads(run("list", "--json")[1])
        self.assertEqual([entry["id"] for entry in data], catalogue.ids())
        blend = next(entry for entry in data if entry["id"] == "tangency/arc-two-lines")
        self.assertEqual([g["name"] for g in blend["givens"]], ["angle", "radius"])
        self.assertEqual(blend["methods"][0], {"name": "swung arcs", "exactness": "exact"})
        self.assertEqual(blend["givens"][0]["most"], 179.99)


class Solving(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def solved(self, *args: str) -> dict[str, object]:
        code, out, err = run("solve", *args, "--json")
        self.assertEqual((code, err), (0, ""))
        found: dict[str, object] = json.loads(out)
        return found

    def test_first_method_is_the_default(self) -> None:
        for problem_id in catalogue.ids():
            data = self.solved(problem_id)
            self.assertEqual(data["method"], catalogue.problem(problem_id).methods[0].name)

    def test_every_method_by_name(self) -> None:
        for problem_id in catalogue.ids():
            problem = catalogue.problem(problem_id)
            for method in problem.methods:
                typed = problem.served_by(method, problem.read({}))
                sets = [
                    part for item in problem.given_list for part in ("--set", f"{item.name}={text_of(typed[item.name])}")
                ]
                data = self.solved(problem_id, "--method", method.name, *sets)
                self.assertEqual(data["exactness"], method.exactness.value)
                self.assertTrue(all(check["holds"] for check in data["checks"]))  # type: ignore[attr-defined]

    def test_sets_take_what_a_drafter_types(self) -> None:
        data = self.solved("tangency/arc-two-lines", "--set", "angle=145/2", "--set", "radius=18,5")
        self.assertEqual(data["givens"], {"angle": 72.5, "radius": 18.5})

    def test_lists_and_points(self) -> None:
        data = self.solved("polygons/from-traverse", "--set", "lengths=10,10,10,10", "--set", "angles=90; 90; 90")
        self.assertEqual(data["givens"], {"lengths": [10.0] * 4, "angles": [90.0] * 3})
        data = self.solved("tangency/three-circles", "--set", "centre_2=80,5", "--solution", "8")
        self.assertEqual(data["givens"]["centre_2"], [80.0, 5.0])  # type: ignore[index]
        self.assertEqual(data["solutions"], 8)
        brief = self.folder / "walk.json"
        givens = {"lengths": [10, "10", 10.0], "angles": [60, 60]}
        brief.write_text(json.dumps({"problem": "polygons/from-traverse", "givens": givens}))
        self.assertEqual(self.solved(str(brief))["findings"]["closing_gap"]["value"], 0.0)  # type: ignore[index]

    def test_a_brief_file(self) -> None:
        brief = self.folder / "brief.json"
        brief.write_text(
            json.dumps({"problem": "conics/ellipse", "method": "foci arcs", "givens": {"major": 90, "minor": "50"}})
        )
        data = self.solved(str(brief))
        self.assertEqual((data["method"], data["givens"]["major"]), ("foci arcs", 90.0))  # type: ignore[index]
        data = self.solved(str(brief), "--set", "minor=60", "--method", "trammel")
        self.assertEqual((data["method"], data["givens"]["minor"]), ("trammel", 60.0))  # type: ignore[index]

    def test_the_other_solution_is_lined_in(self) -> None:
        pages = []
        for n in ("1", "2"):
            path = self.folder / f"{n}.svg"
            self.assertEqual(run("solve", "space/line-inclined-to-both", "--solution", n, "--svg", str(path))[0], 0)
            pages.append(path.read_text())
        self.assertNotEqual(pages[0], pages[1])
        self.assertEqual(pages[0].count('class="outline"'), pages[1].count('class="outline"'))

    def test_all_files_at_once(self) -> None:
        names = {kind: self.folder / f"out.{kind}" for kind in ("svg", "pdf", "dxf", "csv")}
        args = [part for kind, path in names.items() for part in (f"--{kind}", str(path))]
        code, _, err = run("solve", "pictorial/box", *args, "--paper", "A3", "--portrait", "--scale", "1:1")
        self.assertEqual((code, err), (0, ""))
        self.assertTrue(names["pdf"].read_bytes().startswith(b"%PDF"))
        self.assertIn('width="297mm"', names["svg"].read_text())
        self.assertIn("AC1024", names["dxf"].read_text())
        self.assertIn("front_drawn", names["csv"].read_text())

    def test_third_angle_and_indices(self) -> None:
        data = self.solved("space/line-inclined-to-both", "--projection", "third", "--naming", "indices")
        texts = " ".join(step["text"] for step in data["steps"])  # type: ignore[attr-defined]
        self.assertIn("B₁", texts)
        self.assertNotIn("b′", texts)

    def test_points_of_a_table_in_and_out(self) -> None:
        table, out = self.folder / "in.csv", self.folder / "out.csv"
        table.write_text("name,x,front,above\nA,0,10,20\nB,60,10,20\nC,30,50,20\n")
        data = self.solved("space/lamina", "--points", str(table), "--points-out", str(out))
        self.assertEqual(data["givens"]["B"], [60.0, 10.0, 20.0])  # type: ignore[index]
        self.assertEqual(out.read_text().splitlines()[:3], ["name,x,front,above", "A,0,10,20", "B,60,10,20"])
        later = self.solved("space/lamina", "--points", str(table), "--set", "B=50,10,20")
        self.assertEqual(later["givens"]["B"], [50.0, 10.0, 20.0])  # type: ignore[index]
        table.write_text("A,1,2\n")
        code, _, err = run("solve", "space/lamina", "--points", str(table))
        self.assertEqual(code, 2)
        self.assertIn("in.csv, line 1: 3 columns", err)
        self.assertEqual(run("solve", "space/lamina", "--points", str(self.folder / "none.csv"))[0], 2)

    def test_points_and_lists_as_findings(self) -> None:
        findings = self.solved("space/line-meets-plane")["findings"]
        assert isinstance(findings, dict)
        self.assertEqual(len(findings["pierce"]["value"]), 3)
        self.assertEqual((findings["pierce"]["unit"], findings["pierce"]["proved"]), ("mm", True))
        self.assertIs(findings["inside"]["value"], True)
        lengths = self.solved("space/hyperbolic-paraboloid")["findings"]
        assert isinstance(lengths, dict)
        self.assertEqual(len(lengths["element_lengths"]["value"]), 7)
        self.assertIsNone(self.solved("space/dihedral-angle")["findings"]["line_length"]["value"])  # type: ignore[index]

    def test_schools_of_dividing_and_of_words(self) -> None:
        points = self.solved("conics/ellipse", "--numbering", "from 1", "--counting", "clockwise", "--beginning", "top")[
            "points"
        ]
        assert isinstance(points, dict)
        self.assertEqual(points["1"], [0.0, 84.0])
        self.assertGreater(points["2"][0], 0)
        said = self.solved("space/line-from-ends", "--vocabulary", "plans")
        self.assertIn("the vertical plane", str(said["brief"]))
        self.assertEqual(run("solve", "conics/ellipse", "--numbering", "from 2")[0], 2)

    def test_a_sheet_that_cannot_be_full_size_says_which_paper_takes_it(self) -> None:
        code, _, err = run("solve", "space/hyperbolic-paraboloid", "--svg", str(self.folder / "a.svg"))
        self.assertEqual(code, 0)
        self.assertIn("to fit A4", err)
        code, _, err = run("solve", "space/point", "--scale", "50:1", "--svg", str(self.folder / "a.svg"))
        self.assertIn("runs off A4", err)

    def test_words_without_json(self) -> None:
        code, out, _ = run("solve", "polygons/regular-from-side", "--method", "four-six centre line")
        self.assertEqual(code, 0)
        self.assertIn("closing error", out)
        self.assertIn("strays 8.4020 mm", out)
        self.assertIn("slip: stepped off one side too many", out)

    def test_slips_are_computed_figures(self) -> None:
        data = self.solved("tangency/arc-two-lines", "--set", "angle=60", "--set", "radius=10")
        slips: dict[str, dict[str, float]] = data["slips"]  # type: ignore[assignment]
        doubled = next(figures for name, figures in slips.items() if "diameter" in name)
        self.assertAlmostEqual(doubled["setback"], 20 * 3**0.5)


class Refusing(unittest.TestCase):
    """One line on standard error, exit 2, never a traceback."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def refuses(self, words: str, *args: str) -> None:
        code, out, err = run(*args)
        self.assertEqual(code, 2, err)
        self.assertEqual(out, "")
        self.assertEqual(err.count("\n"), 1, err)
        self.assertRegex(err, words)
        self.assertNotIn("Traceback", err)

    def test_a_fault_of_the_program_is_one_line_as_well(self) -> None:
        for fault, words in (
            (Undecided("two balls overlap"), "cannot be proved"),
            (KeyError("x"), "a fault of the program"),
        ):
            with mock.patch("wisecompass.drafting.solve.certify", side_effect=fault):
                self.refuses(words, "solve", "conics/ellipse")

    def test_unknown_things(self) -> None:
        self.refuses("no problem “x/y”", "solve", "x/y")
        self.refuses("no method of conics/ellipse", "solve", "conics/ellipse", "--method", "magic")
        self.refuses("no given of conics/ellipse", "solve", "conics/ellipse", "--set", "width=3")
        self.refuses("write it as name=value", "solve", "conics/ellipse", "--set", "major")
        self.refuses("invalid choice", "dance")
        self.refuses("required", "solve")

    def test_bad_numbers(self) -> None:
        self.refuses("“ten” is not a number", "solve", "conics/ellipse", "--set", "major=ten")
        self.refuses("nothing is written", "solve", "conics/ellipse", "--set", "major=")
        self.refuses("may not pass 90°", "solve", "space/line-inclined-to-both", "--set", "inclination_vp=57")
        self.refuses("solution 2 is not there", "solve", "pictorial/box", "--solution", "2")
        self.refuses("solution 0 is not there", "solve", "pictorial/box", "--solution", "0")
        self.refuses(
            "neither “fit” nor a ratio", "solve", "pictorial/box", "--scale", "big", "--svg", str(self.folder / "x.svg")
        )

    def test_brief_files(self) -> None:
        brief = self.folder / "b.json"
        self.refuses("cannot be read", "solve", str(brief))
        for text, words in (
            ("{", "line 1, column 2"),
            ("[]", "not a brief"),
            ('{"problem": 3}', "not a brief"),
            ('{"problem": "pictorial/box", "givens": [1]}', "must be"),
            ('{"problem": "pictorial/box", "givens": {"front": null}}', "must be"),
            ('{"problem": "pictorial/box", "method": 1}', "must be a word"),
            ('{"problem": "pictorial/box", "givens": {"front": NaN}}', "not a number"),
        ):
            brief.write_text(text)
            with self.subTest(text):
                self.refuses(words, "solve", str(brief))

    def test_places_that_cannot_be_written(self) -> None:
        for kind in ("svg", "pdf", "dxf", "csv"):
            self.refuses("cannot be written", "solve", "pictorial/box", f"--{kind}", str(self.folder / "no" / "x"))
        self.refuses("nothing to write", "export", str(store.SAMPLE))
        self.refuses("cannot be read", "export", str(self.folder / "none.folio.json"), "--pdf", "x.pdf")
        blocked = self.folder / "file"
        blocked.write_text("")
        self.refuses("cannot be made", "export", str(store.SAMPLE), "--svg-dir", str(blocked / "below"))


class Wishing(unittest.TestCase):
    """Parts left out or drawn too, letters and turning, from the command line."""

    def test_what_is_wished_is_followed(self) -> None:
        whole = run("solve", "conics/ellipse-tangent-normal")
        less = run("solve", "conics/ellipse-tangent-normal", "--leave-out", "centre of curvature")
        self.assertEqual((whole[0], less[0]), (0, 0))
        self.assertLess(len(less[1]), len(whole[1]))
        more = run("solve", "space/hyperbolic-paraboloid", "--draw-too", "end view")
        self.assertEqual(more[0], 0, more[2])

    def test_a_part_that_is_not_there_and_a_taken_letter_are_refused(self) -> None:
        for problem in ("conics/ellipse-tangent-normal", "space/hyperbolic-paraboloid", "triangles/three-sides"):
            for option in (("--leave-out", "nonsense"), ("--draw-too", "nonsense"), ("--letters", "A=B")):
                code, _, said = run("solve", problem, *option)
                self.assertEqual((code, said.count("\n")), (2, 1), (problem, option, said))

    def test_options_stand_above_what_a_figure_of_a_folio_has(self) -> None:
        sample = str(SAMPLE)
        code, said, _ = run("solve", sample, "--figure", "brace", "--letters", "A=K", "--turn", "20")
        self.assertEqual(code, 0)
        self.assertIn("Mark K where", said)
        self.assertEqual(run("solve", sample, "--figure", "brace", "--leave-out", "nonsense")[0], 2)


class Exporting(unittest.TestCase):
    def test_the_whole_sample(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            code, out, _ = run(
                "export",
                str(store.SAMPLE),
                "--pdf",
                str(folder / "a.pdf"),
                "--svg-dir",
                str(folder / "s"),
                "--dxf-dir",
                str(folder / "d"),
            )
            sheets = store.sample().sheets
            count, figures = len(sheets), sum(len(sheet.figures) for sheet in sheets)
            self.assertEqual((code, out), (0, f"{count} pages exported\n"))
            self.assertEqual(len(list((folder / "s").glob("*.svg"))), count)
            self.assertEqual(len(list((folder / "d").glob("*.dxf"))), figures)
            self.assertTrue((folder / "a.pdf").read_bytes().startswith(b"%PDF"))

    def test_schema(self) -> None:
        self.assertEqual(json.loads(run("schema")[1]), store.schema())


class Starting(unittest.TestCase):
    """The command line starts light: no Qt, SciPy or exporter until it is needed."""

    def imported(self, code: str) -> set[str]:
        heavy = ("PySide6", "scipy", "numpy", "reportlab", "ezdxf", "pydantic", "flint")
        probe = f"{code}\nimport sys\nprint(*[m for m in {heavy!r} if m in sys.modules])"
        out = subprocess.run([sys.executable, "-c", probe], capture_output=True, text=True, check=True)
        return set(out.stdout.split("\n")[-2].split())

    def test_importing_the_command_line_imports_nothing_heavy(self) -> None:
        self.assertEqual(self.imported("import wisecompass.cli"), set())

    def test_solving_needs_only_the_balls(self) -> None:
        code = "from wisecompass.cli import main; main(['solve', 'tangency/arc-two-lines', '--json'])"
        self.assertEqual(self.imported(code), {"flint"})

    def test_listing_needs_nothing(self) -> None:
        self.assertEqual(self.imported("from wisecompass.cli import main; main(['list'])"), set())


class AFolioOfOnesOwn(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "barn.folio.json"

    def test_begun_filled_listed_and_exported(self) -> None:
        self.assertEqual(run("new", str(self.path), "--work", "Barn")[0], 0)
        code, _, err = run("new", str(self.path))
        self.assertEqual((code, "there already" in err), (2, True))
        for name in ("hip", None, None):
            named = () if name is None else ("--name", name)
            code, _, err = run("add", str(self.path), "tangency/arc-two-lines", "--set", "radius=20", *named)
            self.assertEqual((code, err), (0, ""))
        code, out, _ = run("figures", str(self.path), "--json")
        rows = json.loads(out)
        self.assertEqual([row["name"] for row in rows], ["hip", "arc blending two edges", "arc blending two edges 2"])
        self.assertEqual(rows[0]["givens"], {"radius": "20"})
        self.assertEqual({row["problem"] for row in rows}, {"tangency/arc-two-lines"})
        self.assertNotIn("Bramlow", self.path.read_text())
        folder = self.path.parent / "svg"
        self.assertEqual(run("export", str(self.path), "--svg-dir", str(folder))[0], 0)
        self.assertEqual([path.name for path in folder.iterdir()], ["1.svg"], "three figures on one sheet")
        self.assertIn("Barn", next(folder.iterdir()).read_text())

    def test_what_cannot_be_added_leaves_the_folio_as_it_is(self) -> None:
        run("new", str(self.path))
        before = self.path.read_bytes()
        for words in (
            ("tangency/no-such",),
            ("tangency/arc-two-lines", "--set", "radius=-1"),
            ("tangency/arc-two-lines", "--set", "radius=sqrt(-1)"),
            ("tangency/arc-two-lines", "--method", "corner arcs"),
            ("tangency/arc-two-lines", "--sheet", "99"),
            ("tangency/arc-two-lines", "--name", ""),
            ("tangency/arc-two-lines", "--set", "radius=1", "--set", "radius=2"),
        ):
            code, out, err = run("add", str(self.path), *words)
            self.assertEqual((code, out, err.count("\n")), (2, "", 1), words)
        self.assertEqual(self.path.read_bytes(), before)


class AnythingAtAll(unittest.TestCase):
    """No input and no output brings a traceback."""

    def started(self, *words: str, **more: object) -> subprocess.CompletedProcess[str]:
        command = [sys.executable, "-m", "wisecompass.cli", *words]
        return subprocess.run(command, capture_output=True, text=True, timeout=60, check=False, **more)  # type: ignore[call-overload, no-any-return]

    def test_full_devices_and_terminals_without_signs(self) -> None:
        with open("/dev/full", "w") as full:
            process = subprocess.run(
                [sys.executable, "-m", "wisecompass.cli", "list"],
                stdout=full,
                stderr=subprocess.PIPE,
                text=True,
                check=False,
            )
        self.assertEqual(process.returncode, 2)
        self.assertNotIn("Traceback", process.stderr)
        self.assertEqual(process.stderr.count("\n"), 1)
        environment = {**os.environ, "PYTHONIOENCODING": "latin-1"}
        narrow = self.started("solve", "tangency/arc-two-lines", env=environment, encoding="latin-1")
        self.assertEqual((narrow.returncode, narrow.stderr), (0, ""))
        self.assertEqual(self.started("solve", "tangency/arc-two-lines", "--svg", "/dev/full").returncode, 2)

    def test_a_closed_pipe_is_no_trouble(self) -> None:
        command = f"{sys.executable} -m wisecompass.cli list --json | head -c 10"
        run = subprocess.run(["bash", "-c", command], capture_output=True, text=True, check=False)
        self.assertEqual(run.stderr, "")

    def test_briefs_of_every_kind(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "b.json"
            good = '"problem": "tangency/arc-two-lines"'
            for text, words in (
                ("[" * 5000, "nested"),
                (f'{{{good}, "givens": {{"radius": {"9" * 4300}}}}}', "digits"),
                (f'{{{good}, "givens": {{"radius": {"9" * 300}}}}}', "too large"),
                (f'{{{good}, "colour": "red"}}', "no part of a brief"),
                (f"{{{good}, {good}}}", "twice"),
                (f'{{{good}, "givens": {{"radius": 1e999}}}}', "too large a number"),
                (f'{{{good}, "givens": {{"radius": NaN}}}}', "not a number"),
                (f'{{{good}, "givens": {{"radius": []}}}}', "must be a number"),
                (f'{{{good}, "givens": {{"{"x" * 4000}": 1}}}}', "is no given"),
                (f'{{{good}, "method": "{"y" * 4000}"}}', "is no method"),
                (f'{{{good}, "solution": 99}}', "solution 99 is not there"),
                (f'{{{good}, "solution": true}}', "whole number"),
            ):
                path.write_text(text)
                code, out, err = run("solve", str(path), "--json")
                self.assertEqual((code, out, err.count("\n")), (2, "", 1), text[:60])
                self.assertIn(words, err)
                self.assertLess(len(err), 600)
            path.write_text("\ufeff{" + good + "}", encoding="utf-8")
            self.assertEqual(run("solve", str(path), "--json")[0], 0)
            os.mkfifo(Path(folder) / "pipe.json")
            for name in (str(Path(folder) / "pipe.json"), folder, "/dev/zero"):
                code, _, err = run("export", name, "--pdf", str(Path(folder) / "x.pdf"))
                self.assertEqual((code, err.count("\n")), (2, 1), name)

    def test_numbers_that_are_none_and_scales_that_nobody_draws(self) -> None:
        for words in (
            ("--set", "radius=1/(2-sqrt(4))"),
            ("--set", "radius=sqrt(-1)"),
            ("--set", f"radius={'9' * 5000}"),
            ("--scale", "1000000:1", "--svg", "/dev/null"),
            ("--scale", "bogus", "--svg", "/dev/null"),
            ("--solution", "99"),
            ("--solution", "0"),
        ):
            code, out, err = run("solve", "tangency/arc-two-lines", *words)
            self.assertEqual((code, out, err.count("\n")), (2, "", 1), words)
            self.assertLess(len(err), 300)

    def test_a_sheet_from_the_command_line_bears_no_name_but_the_one_given(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.svg"
            run("solve", "tangency/arc-two-lines", "--svg", str(path))
            self.assertNotIn("Bramlow", path.read_text())
            run("solve", "tangency/arc-two-lines", "--svg", str(path), "--work", "Barn")
            self.assertIn(">Barn<", path.read_text())


if __name__ == "__main__":
    unittest.main()
