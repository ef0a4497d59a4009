"""Questions to practise on, the worksheets made of them, and class sets marked."""

from __future__ import annotations

import csv
import io
import json
import math
import os
import random
import tempfile
import unittest
from collections import Counter
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np
from pypdf import PdfReader

from tests.core.test_cli import run
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.cli import main
from wisecompass.drafting.errors import BadDocument, BadGiven, Unknown, WiseCompassError
from wisecompass.drafting.hand import Unsteadiness
from wisecompass.drafting.marks import Dot, Letter, LinearDimension, Mark, Segment, Text
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import certify
from wisecompass.exchange.class_set import Order, as_json, make_set, read_set, sheets
from wisecompass.exchange.set_marking import mark_set, prepared_for
from wisecompass.folio.kept_questions import Kept, kept
from wisecompass.folio.page import overflow
from wisecompass.folio.paper import Paper
from wisecompass.folio.practice import (
    EASE,
    LEAST_CROSSING,
    Question,
    Source,
    crossing_angle,
    fairness,
    questions,
)
from wisecompass.folio.which_figure import which_figure
from wisecompass.folio.worksheets import (
    FEWEST_STAGES,
    LINE_TO_WRITE,
    MOST_STAGES,
    Course,
    answer_page,
    drawn,
    meant,
    question_page,
    set_out,
    stage_pages,
    stages,
)
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point
from wisecompass.judgement.hands import figures
from wisecompass.judgement.pleasant import is_pleasant

EACH = int(os.environ.get("WISE_COMPASS_QUESTIONS", "2"))
"""Questions of each problem in every run."""


class Questions(unittest.TestCase):
    def test_of_every_problem_are_solved_pleasant_and_fair(self) -> None:
        for each in catalogue.ids():
            with self.subTest(each):
                for keep in (True, False):
                    source = Source(catalogue.problem(each), random.Random(f"trial/{each}"), keep=keep)
                    for _ in range(max(1, EACH // 2)):
                        self.check(source.next())

    def check(self, question: Question) -> None:
        problem, paper = question.found, Paper()
        method = problem.method(question.method)
        certificate = certify(problem, question.typed, method, solution=question.solution)
        proved = {answer.name: answer.value for answer in certificate.answers}
        self.assertTrue(question.answers or not any(isinstance(v, float) for v in proved.values()))
        for name, value in question.answers.items():
            told = proved[name]
            assert isinstance(told, float)
            self.assertAlmostEqual(value / (told or 1.0), 1.0 if told else 0.0, 9)
        words = [item.name for item in problem.given_list if item.form.value in ("choice", "parts")]
        for name, text in question.givens.items():
            self.assertTrue(name in words or text == "2/3" or is_pleasant(text), (name, text))
        drawing = drawn(question, Course())
        own = fairness(drawing, paper)
        default = fairness(drawn(Question(problem.id, question.method, self.served(question)), Course()), paper)
        self.assertGreaterEqual(own.crossing, min(LEAST_CROSSING, default.crossing * EASE))
        self.assertGreaterEqual(own.scale, min(1.0, default.scale))

    def served(self, question: Question) -> dict[str, str]:
        """The problem's own givens, changed where the method asks for it."""
        typed = question.found.served_by(question.found.method(question.method), question.found.read({}))
        return {name: value if isinstance(value, str) else value.text for name, value in typed.items()}

    def test_questions_that_are_kept_are_used_up_before_others_are_looked_for(self) -> None:
        for each in ("loci/hypocycloid", "developments/round-to-round"):
            found = kept(each)
            self.assertGreater(len(found), 20, each)
            self.assertEqual(len({one.values for one in found}), len(found))
            asked = list(questions([each], 8, 4))
            self.assertTrue({tuple(one.givens.values()) for one in asked} <= {one.values for one in found})
        upright = Paper("A4", landscape=False)
        for other in questions(["loci/hypocycloid", "developments/pyramid"], 6, 4, paper=upright):
            default = Question(other.problem, other.method, self.served(other))
            drawings = (drawn(each, Course()) for each in (other, default))
            found, own = (fairness(drawing, upright) for drawing in drawings)
            self.assertGreaterEqual(found.scale, min(1.0, own.scale))

    def test_a_question_that_the_problem_no_longer_takes_is_left_out(self) -> None:
        source = Source(catalogue.problem("triangles/three-sides"), random.Random(1))
        source.kept = [Kept("two arcs", 1, "sharp", ("10", "200", "10"))]
        self.assertNotEqual(tuple(source.next().givens.values()), ("10", "200", "10"))

    def test_a_seed_gives_the_same_again_and_another_does_not(self) -> None:
        first = [each.givens for each in questions(["triangles"], 6, 5)]
        self.assertEqual(first, [each.givens for each in questions(["triangles"], 6, 5)])
        self.assertNotEqual(first, [each.givens for each in questions(["triangles"], 6, 6)])

    def test_no_two_are_alike_and_every_kind_comes_up(self) -> None:
        for each, kinds in (
            ("tangency/arc-two-circles", ("outside", "inside")),
            ("tangency/arc-two-lines", ("sharp", "blunt")),
            ("triangles/two-sides-angle-opposite", ("2 solutions", "blunt")),
            ("pictorial/polygon-block", ("far rim visible", "not far rim visible")),
            ("space/line-meets-plane", ("inside", "not inside")),
        ):
            with self.subTest(each):
                asked = list(questions([each], 14, 3))
                self.assertEqual(len({tuple(one.givens.values()) for one in asked}), 14)
                said = [one.kind.split(", ") for one in asked]
                for kind in kinds:
                    self.assertTrue(any(kind in one for one in said), (kind, said))
        shared = Counter(
            sum(one.givens[a] == one.givens[b] for a, b in (("A", "D"), ("B", "E")))
            for one in questions(["space/dihedral-angle"], 12, 2)
        )
        self.assertEqual(set(shared), {0, 1, 2})

    def test_both_solutions_are_asked_for(self) -> None:
        asked = {one.solution for one in questions(["tangency/arc-point-circle"], 12, 3)}
        self.assertEqual(asked, {1, 2})

    def test_what_cannot_be_is_refused(self) -> None:
        for count in (0, -1, 10_000):
            with self.assertRaises(BadGiven):
                questions(["lines"], count, 1)
        with self.assertRaises(BadGiven):
            questions(["lines"], 1, 1, level=4)
        with self.assertRaisesRegex(Unknown, "there is no family “knots”"):
            questions(["knots"], 1, 1)
        with self.assertRaisesRegex(WiseCompassError, "no other pleasant numbers"):
            list(questions(["lines/bisect-angle"], 1_000, 1))

    def test_the_shallowest_crossing_of_a_figure_is_found(self) -> None:
        """Two arcs of 50 about the ends of a base of 96 cross at the angle of the tip, or what that lacks of 180°."""
        for sides, wanted in ((("96", "50", "50"), 180 - 2 * math.degrees(math.asin(0.96))), (("50", "40", "30"), 90.0)):
            raw = dict(zip(("base", "left", "right"), sides, strict=True))
            found = fairness(drawn(Question("triangles/three-sides", "two arcs", raw), Course()), Paper())
            self.assertAlmostEqual(found.crossing, wanted, 6)

    def test_shallow_crossings_are_kept_for_where_there_is_nothing_else(self) -> None:
        for problem, method, always in (
            ("lines/bisect-angle-without-vertex", "parallels inside", False),
            ("developments/hemisphere", "zones", True),
        ):
            found = [fairness(drawn(each, Course()), Paper()) for each in questions([problem], 6, 2, method=method)]
            shallow = [each.crossing < LEAST_CROSSING for each in found]
            self.assertEqual((any(shallow), all(shallow)), (always, always), (problem, found))

    def test_angles_of_crossings(self) -> None:
        """Against two points a hair along each curve from where they cross."""
        o = Point(0.0, 0.0)
        self.assertAlmostEqual(crossing_angle(Line(o, 1.0, 0.0), Line(o, 1.0, 1.0)), 45)
        self.assertAlmostEqual(crossing_angle(Line(o, 1.0, 0.0), Circle(Point(0.0, 3.0), 5.0)), 53.13010235415598)
        self.assertAlmostEqual(crossing_angle(Circle(o, 3.0), Circle(Point(5.0, 0.0), 4.0)), 90)
        self.assertAlmostEqual(crossing_angle(Circle(o, 3.0), Circle(Point(7.0, 0.0), 4.0)), 0)


def texts(page: object) -> str:
    marks = [*page.marks, *page.brief, *page.furniture]  # type: ignore[attr-defined]
    return " ".join(mark.text for mark in marks if isinstance(mark, Text))


class Worksheets(unittest.TestCase):
    FAMILIES = ("tangency", "triangles", "space", "developments")

    def setUp(self) -> None:
        self.course = Course("Bramlow Mill practice")

    def test_a_question_sets_out_what_is_given_and_nothing_that_is_found(self) -> None:
        for question in questions(self.FAMILIES, 24, 9, level=3):
            with self.subTest(question.problem):
                drawing = drawn(question, self.course)
                given = {mark.name for mark in set_out(drawing) if isinstance(mark, Dot | Letter)}
                page = question_page(question, self.course, "1", drawing)
                self.assertLessEqual(page.scale, Fraction(1))
                self.assertFalse(page.dimensions)
                shown = {mark.name for mark in page.marks if isinstance(mark, Dot) and mark.shown}
                self.assertLessEqual(shown, given)
                lettered = {mark.name for mark in drawing.marks if isinstance(mark, Dot)}
                self.assertLess(len(given & lettered), len(lettered), "something must be left to be found")
                self.assertNotIn(question.method, texts(page))
                self.assertEqual(texts(page).count(LINE_TO_WRITE), len(question.answers))

    def test_a_question_lies_where_the_answer_does(self) -> None:
        """What is given is at the same places of the figure as in the finished one."""
        question = next(questions(["tangency/arc-two-circles"], 1, 4))
        drawing = drawn(question, self.course)
        page = question_page(question, self.course, "1", drawing)
        marks = {mark.name: mark for mark in drawing.marks if isinstance(mark, Dot)}
        dots = {mark.name: mark for mark in page.marks if isinstance(mark, Dot) and mark.shown}
        for name in ("O1", "O2"):
            at = page.placements[marks[name].block].at(marks[name].x, marks[name].y)
            self.assertAlmostEqual(dots[name].x, at[0])
            self.assertAlmostEqual(dots[name].y, at[1])

    def test_levels_tell_less_and_less(self) -> None:
        question = next(questions(["tangency/arc-two-lines"], 1, 4))
        said = [texts(question_page(replace(question, level=level), self.course)) for level in (1, 2, 3)]
        self.assertIn("Settings:", said[0])
        self.assertIn(f"Method: {question.method}", said[1])
        self.assertNotIn("Settings:", said[1])
        self.assertNotIn("Method:", said[2])

    def test_which_of_several_figures_is_meant_is_told_by_what_is_seen(self) -> None:
        """Every figure of every problem that has several is told in words of its own, and the words are true of it."""
        several = 0
        for each in catalogue.ids():
            question = next(questions([each], 1, 12))
            count = drawn(question, self.course).solutions
            if count < 2:
                continue
            several += 1
            with self.subTest(each):
                every = [replace(question, solution=n) for n in range(1, count + 1)]
                told = [meant(one, drawn(one, self.course), self.course) for one in every]
                self.assertEqual(len(set(told)), count, told)
                self.assertFalse(any("solution" in words for words in told), told)
                self.assertIn(told[question.solution - 1], texts(question_page(question, self.course)).replace("\n", " "))
        self.assertGreater(several, 8)

    def test_answers_are_those_of_the_figure_that_is_meant(self) -> None:
        """Held against the points of each solution."""
        for each, raw in (
            ("triangles/two-sides-angle-opposite", {}),
            ("tangency/arc-two-circles", {}),
            ("tangency/arc-three-lines", {}),
        ):
            problem = catalogue.problem(each)
            points = problem.find_truth(problem.read(raw), PLAIN).points
            for n in (1, 2):
                question = Question(each, problem.methods[0].name, raw, solution=n)
                asked = question.answers
                self.assertNotRegex(texts(answer_page(question, self.course)), ", (second|inner|outer) (arc|triangle)")
                end = "" if n == 1 else "_2"
                if each.startswith("triangles"):
                    tops = {
                        "A": points["A"],
                        "B": points.get(f"B{end}", points["B"]),
                        "C": points.get(f"C{end}", points["C"]),
                    }
                    sides = sorted(float(plane.distance(tops[a], tops[b])) for a, b in ("AB", "BC", "CA"))
                    told = sorted(value for name, value in asked.items() if name.startswith("side_"))
                    for one, other in zip(sides, told, strict=True):
                        self.assertAlmostEqual(one, other, 9)
                elif each.endswith("circles"):
                    (name,) = (name for name in asked if name.startswith("centre_y"))
                    self.assertAlmostEqual(asked[name], float(points[f"C{end}"].y), 9)
                else:
                    (name,) = (name for name in asked if name.startswith("radius"))
                    self.assertAlmostEqual(asked[name], float(plane.distance(points[f"C{end}"], points[f"T1{end}"])), 9)

    def test_upper_lower_larger(self) -> None:
        def box(x: float, y: float, size: float) -> list[Mark]:
            return [Segment(pen=Pen.OUTLINE, x1=x, y1=y, x2=x + size, y2=y + size)]

        self.assertEqual(which_figure(0, [box(0, 0, 5), box(0, 40, 5)]), "the lower of the two")
        self.assertEqual(which_figure(1, [box(0, 0, 5), box(40, 1, 5)]), "the right-hand of the two")
        self.assertEqual(which_figure(1, [box(-5, -5, 10), box(-9, -9, 18)]), "the larger of the two")
        row = [box(20 * n, 0, 5) for n in range(4)]
        self.assertEqual(which_figure(3, row), "the farthest to the right of the four")
        self.assertEqual(which_figure(2, row), "the second from the right of the four")
        self.assertEqual(which_figure(0, [box(0, 0, 5), box(0, 0, 5)]), "")
        self.assertEqual(which_figure(0, [box(0, 0, 5)]), "")

    def test_an_answer_tells_its_figures_with_what_passes(self) -> None:
        for question in questions(self.FAMILIES, 12, 3):
            page = answer_page(question, self.course, "1")
            self.assertEqual(overflow(page), "")
            told = texts(page)
            for name, value in question.answers.items():
                self.assertIn(f"{abs(value):.2f}".rstrip("0").rstrip("."), told, (question.problem, name))
            if question.answers:
                self.assertTrue("± 2 mm" in told or "± 2°" in told or "mm²" in told or "mm³" in told)

    def test_stages_grow_to_the_whole_and_tell_every_step_once(self) -> None:
        for question in questions(self.FAMILIES, 12, 8):
            with self.subTest(question.problem):
                drawing = drawn(question, self.course)
                groups = stages(drawing.steps)
                self.assertLessEqual(len(groups), MOST_STAGES)
                self.assertGreaterEqual(len(groups), min(FEWEST_STAGES, len(drawing.steps)))
                self.assertEqual([step.n for group in groups for step in group], [step.n for step in drawing.steps])
                pages = list(stage_pages(question, self.course, "1", drawing))
                told = " ".join(texts(page) for page in pages)
                for step in drawing.steps:
                    self.assertIn(f"{step.n}. ", told)
                lines = [sum(not isinstance(mark, Text) for mark in page.marks) for page in pages]
                self.assertTrue(all(lines))
                self.assertFalse(any(isinstance(mark, LinearDimension) for page in pages for mark in page.marks))

    def test_as_pdf_and_as_a_folio(self) -> None:
        asked = list(questions(["triangles"], 3, 2))
        for kind in ("questions", "answers", "stages"):
            pages = PdfReader(io.BytesIO(sheets(asked, self.course, kind))).pages
            self.assertGreaterEqual(len(pages), 3)
            self.assertAlmostEqual(float(pages[0].mediabox.width) / 72 * 25.4, 297, 1)


class Sets(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def test_the_table_to_fill_in_is_marked_as_it_is(self) -> None:
        make_set(Order(("tangency/arc-two-lines",), 2, 5, pupils=2), Course(), self.folder)
        pupils = read_set(self.folder / "set.json")
        rows = list(csv.DictReader(io.StringIO((self.folder / "measured.csv").read_text())))
        self.assertEqual(len(rows), sum(len(each.answers) for asked in pupils for each in asked))
        out = io.StringIO()
        table = csv.DictWriter(out, list(rows[0]))
        table.writeheader()
        for row in rows:
            question = pupils[int(row["sheet"]) - 1][int(row["question"]) - 1]
            self.assertIn(row["scale"], ("1:1", "1:2", "1:5", "1:10"))
            table.writerow({**row, "measured": f"{question.answers[row['figure']]:.2f}"})
        found = mark_set(pupils, out.getvalue().encode(), (2.0, 2.0))
        self.assertEqual([each.verdict for each in found.marked], ["within"] * 4)
        self.assertFalse(found.missing)

    def test_a_class_set_has_other_numbers_for_each_and_one_key(self) -> None:
        order = Order(("triangles", "tangency"), 2, 5, kinds=("questions", "answers"), pupils=3)
        far: list[str] = []
        written = make_set(order, Course(), self.folder, far.append)
        names = sorted(path.name for path in written)
        wanted = [f"0{n}-{kind}.pdf" for n in (1, 2, 3) for kind in ("answers", "questions")]
        self.assertEqual(names, [*wanted, "key.pdf", "measured.csv", "set.json"])
        self.assertEqual(far[-1], "3 of 3")
        kept = read_set(self.folder / "set.json")
        self.assertEqual(len({str(asked) for asked in kept}), 3)
        key = "".join(page.extract_text() for page in PdfReader(self.folder / "key.pdf").pages)
        for n, asked in enumerate(kept, 1):
            for k in range(1, len(asked) + 1):
                self.assertIn(f"{n}.{k}", key)
        self.assertFalse([path for path in self.folder.iterdir() if path.suffix == ".part"])

    def test_a_set_that_is_stopped_keeps_what_is_whole(self) -> None:
        order = Order(("triangles",), 1, 5, kinds=("questions",), pupils=6)
        far: list[str] = []
        written = make_set(order, Course(), self.folder, far.append, lambda: bool(far))
        self.assertLess(len(far), 6)
        self.assertFalse((self.folder / "key.pdf").exists())
        for path in written:
            self.assertGreater(len(PdfReader(path).pages), 0)

    def test_sets_that_are_none(self) -> None:
        for text in (
            "",
            "[]",
            "{}",
            '{"format": "wise-compass set", "version": 9}',
            '{"format": "wise-compass set", "version": 1}',
        ):
            path = self.folder / "set.json"
            path.write_text(text)
            with self.assertRaises(BadDocument):
                read_set(path)
        with self.assertRaises(BadDocument):
            read_set(self.folder / "nothing.json")
        for pupils in (0, 1_000):
            with self.assertRaises(BadGiven):
                make_set(Order(("lines",), 1, 1, pupils=pupils), Course(), self.folder)

    def measured(self, asked: list[list[Question]], wrong: dict[int, str] | None = None) -> str:
        """What simulated pupils measure; those of ``wrong`` make a mistake in the first question."""
        out = io.StringIO()
        table = csv.writer(out)
        table.writerow(("sheet", "question", "figure", "measured"))
        for n, own in enumerate(asked, 1):
            for k, question in enumerate(own, 1):
                prepared = prepared_for(question, 1.0)
                sheet = prepared.sheet
                if wrong and n in wrong and k == 1:
                    mistake = next(each for each in prepared.mistakes if wrong[n] in each.words)
                    sheet = replace(sheet, taken=mistake.fork)
                drawing = dict(figures(sheet.by(Unsteadiness(prepared.hand, 2, n))))
                for name in question.answers:
                    table.writerow((n, k, name, float(np.broadcast_to(drawing[name], 2)[1])))
        return out.getvalue()

    def test_a_set_is_marked_in_one_go(self) -> None:
        asked = [list(questions(["triangles/three-sides", "tangency/arc-two-lines"], 2, seed)) for seed in (1, 2, 3)]
        found = mark_set(asked, self.measured(asked).encode(), (2.0, 2.0))
        self.assertEqual(len(found.marked), 6)
        self.assertGreaterEqual(sum(each.verdict == "within" for each in found.marked), 5)
        self.assertEqual(found.missing, ())

    def test_common_slips_are_counted_and_missing_sheets_said(self) -> None:
        asked = [
            list(questions(["tangency/arc-two-lines"], 1, seed, method="perpendicular offsets")) for seed in (1, 2, 3, 4)
        ]
        slip = "the arc swung to the diameter"
        table = self.measured(asked[:3], {1: slip, 2: slip})
        found = mark_set(asked, table.encode(), (2.0, 2.0))
        self.assertEqual(found.missing, (4,))
        (words, times), *_ = found.common[1].items()
        self.assertIn(slip, words)
        self.assertEqual(times, 2)

    def test_tables_that_cannot_be_marked(self) -> None:
        asked = [list(questions(["triangles/three-sides"], 1, 1))]
        for text, words in (
            ("", "nothing is measured"),
            ("one,1,side_a,3", "is no number of a sheet"),
            ("7,1,side_a,3", "and no 7"),
            ("1,9,side_a,3", "has 1 questions, and no 9"),
        ):
            with self.assertRaisesRegex(BadGiven, words):
                mark_set(asked, text.encode(), (2.0, 2.0))
        with self.assertRaises(BadGiven):
            mark_set(asked, b"\xff\xfe\x00", (2.0, 2.0))
        found = mark_set(asked, b"1,1,side_a,word\n", (2.0, 2.0))
        self.assertIn("not a number", found.marked[0].trouble)

    def test_from_the_terminal(self) -> None:
        kept = self.folder / "set.json"
        code, out, _ = run("practise", "tangency/arc-two-lines", "--count", "2", "--seed", "7", "--json", "--set", str(kept))
        self.assertEqual(code, 0)
        told = json.loads(out)
        self.assertEqual(told["seed"], 7)
        self.assertEqual(set(told["questions"][0]) >= {"problem", "givens", "brief", "answers"}, True)
        folio = self.folder / "practice.folio.json"
        paths = [self.folder / f"{kind}.pdf" for kind in ("questions", "answers", "stages")]
        options = [f"--{path.stem}={path}" for path in paths]
        self.assertEqual(run("practise", "lines", "--count", "2", *options, "--folio", str(folio))[0], 0)
        for path in paths:
            self.assertGreater(len(PdfReader(path).pages), 1)
        self.assertIn("question 1", run("figures", str(folio))[1])
        table = self.folder / "measured.csv"
        table.write_text(self.measured(read_set(kept)))
        code, out, _ = run("mark", str(kept), "--measured", str(table), "--json")
        self.assertEqual(code, 0)
        self.assertEqual(len(json.loads(out)["sheets"]), 2)
        self.assertEqual(run("practise", "knots")[0], 2)
        self.assertEqual(run("mark", str(table), "--measured", str(table))[0], 2)
        self.assertEqual(json.loads(as_json([[]], Course()))["sheets"], [[]])
        self.assertTrue(callable(main))


if __name__ == "__main__":
    unittest.main()
