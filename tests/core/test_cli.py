"""The command line as other programs and people at a terminal meet it."""

from __future__ import annotations

import contextlib
import io
import json
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from wisecompass import catalogue, cli
from wisecompass.arithmetic.expression import Expression
from wisecompass.drafting.givens import Listed
from wisecompass.folio import store


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
            self.assertEqual((code, out), (0, "34 pages exported\n"))
            self.assertEqual(len(list((folder / "s").glob("*.svg"))), 34)
            self.assertEqual(len(list((folder / "d").glob("*.dxf"))), 34)
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


if __name__ == "__main__":
    unittest.main()
