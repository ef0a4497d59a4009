"""The engine of views: folds, transfers, places, pictures in space, words of both schools and tables of points."""

from __future__ import annotations

import math
import tempfile
import unittest
from dataclasses import replace
from fractions import Fraction
from pathlib import Path
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray

from tests.core.solving import found, solved
from wisecompass import catalogue
from wisecompass.arithmetic import BALL, PLAIN
from wisecompass.drafting.auxiliary import auxiliary, carry_back
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Conventions, LineNames, Naming, Projection, Vocabulary
from wisecompass.drafting.errors import BadDocument
from wisecompass.drafting.marks import Dot, bounds
from wisecompass.drafting.sentences import sentence
from wisecompass.drafting.solve import Drawing, certify, construct, draw
from wisecompass.drafting.view import View
from wisecompass.drafting.views import Views
from wisecompass.exchange.points import as_givens, load_points, read_points, write_points
from wisecompass.exchange.report import report
from wisecompass.folio.fit import advice
from wisecompass.folio.page import compose
from wisecompass.folio.paper import Paper
from wisecompass.folio.title_block import Title
from wisecompass.geometry.plane import Line, distance, midpoint
from wisecompass.geometry.visibility import seen_parts

SPACE = [name for name in catalogue.ids() if name.startswith("space/")]
SCHOOLS = [Conventions(projection, naming) for projection in Projection for naming in Naming]


def drawn(problem_id: str, conventions: Conventions | None = None, method: str | None = None, **raw: str) -> Drawing:
    problem = catalogue.problem(problem_id)
    return draw(problem, problem.read(raw), problem.method(method), conventions, one_by_one=True)


class AuxiliaryViews(unittest.TestCase):
    def images(self, drawing: Drawing) -> dict[str, tuple[float, float]]:
        return {m.name: (m.x, m.y) for m in drawing.marks if isinstance(m, Dot) and m.name}

    def test_a_view_is_the_projection_of_space_on_its_plane(self) -> None:
        """Every pair of points is as far apart on the sheet as their projections on the plane that the picture shows."""
        for conventions in SCHOOLS:
            for problem_id in ("space/lamina", "space/skew-lines", "space/point-to-plane", "space/line-from-ends"):
                methods = {"space/line-from-ends": "auxiliary view"}
                drawing = drawn(problem_id, conventions, methods.get(problem_id))
                dots = self.images(drawing)
                self.assertTrue(drawing.placed)
                for view in drawing.placed:
                    axes = np.array([view.along, view.across])
                    np.testing.assert_allclose(axes @ axes.T, np.eye(2), atol=1e-9)
                    np.testing.assert_allclose(axes @ np.array(view.outward), 0, atol=1e-9)
                    seen = {
                        name: (np.array(place), np.array(dots[label]))
                        for name, (place, _) in drawing.in_space.items()
                        if (label := conventions.auxiliary_name(name, int(view.name))) in dots
                    }
                    self.assertGreater(len(seen), 1)
                    for p, on_p in seen.values():
                        for q, on_q in seen.values():
                            flat = float(np.linalg.norm(axes @ (p - q)))
                            self.assertAlmostEqual(float(np.linalg.norm(on_p - on_q)), flat, 7)

    def test_projectors_are_square_to_every_fold(self) -> None:
        for conventions in SCHOOLS:
            drawing = drawn("space/lamina", conventions)
            dots = self.images(drawing)
            view = drawing.placed[0]  # off the top view
            for name in "ABC":
                low, new = dots[conventions.top_name(name)], dots[conventions.auxiliary_name(name, 1)]
                across = (new[0] - low[0]) * view.dy - (new[1] - low[1]) * view.dx
                self.assertAlmostEqual(across, 0, 7)

    def test_a_fold_line_keeps_clear_and_views_do_not_cover_each_other(self) -> None:
        for conventions in SCHOOLS:
            for problem_id in SPACE:
                drawing = drawn(problem_id, conventions)
                for view in drawing.placed:
                    self.assertGreater(abs(view.place), 1)
                views = [np.array(view.spots) for view in drawing.placed]
                dots = self.images(drawing)
                for label in (conventions.front_name, conventions.top_name):
                    own = [dots[label(name)] for name in drawing.in_space if label(name) in dots and name in "ABCDEFPQ"]
                    views.append(np.array(own))
                for i, one in enumerate(views):
                    for other in views[:i]:
                        self.assertTrue(self._apart(one, other), (problem_id, conventions))

    def _apart(self, one: NDArray[np.float64], other: NDArray[np.float64]) -> bool:
        """Whether some line parts two sets of points."""
        angles = np.radians(np.arange(0, 360, 1.0))
        ways = np.array([np.cos(angles), np.sin(angles)])
        return bool(((one @ ways).max(axis=0) < (other @ ways).min(axis=0) + 1e-9).any())

    def test_distances_are_taken_from_a_datum_through_the_nearest_point(self) -> None:
        """No distance is longer than the view is deep, however high the figure stands."""
        for lift in (0, 500):
            raw = {
                name: f"{x}, {f}, {z + lift}"
                for name, (x, f, z) in zip("ABC", ((10, 12, 16), (45, 40, 57), (102, 15, 24)), strict=True)
            }
            steps = [step for step in drawn("space/lamina", **raw).steps if step.verb == "transfer"]
            self.assertLess(max(float(step.setting or 0) for step in steps[:3]), 42)
            self.assertEqual(min(float(step.setting or 0) for step in steps[:3]), 0)

    def test_dragging_a_view_changes_its_place_and_no_finding(self) -> None:
        problem = catalogue.problem("space/lamina")
        typed = problem.read({})
        free = draw(problem, typed, problem.methods[0])
        for place in (70.0, -45.0):
            moved = draw(problem, typed, problem.methods[0], places={"1": place})
            self.assertAlmostEqual(moved.placed[0].place, place)
            self.assertEqual(free.findings.keys(), moved.findings.keys())
            for name, value in free.findings.items():
                self.assertAlmostEqual(float(str(value)), float(str(moved.findings[name])), 8)
        near, far = (draw(problem, typed, problem.methods[0], places={"1": p}) for p in (20.0, 50.0))
        for (x1, y1), (x2, y2) in zip(near.placed[0].spots, far.placed[0].spots, strict=True):
            self.assertAlmostEqual(x2 - x1, 30 * near.placed[0].dx, 6)
            self.assertAlmostEqual(y2 - y1, 30 * near.placed[0].dy, 6)
        ball = construct(problem, typed, problem.methods[0], BALL, places={"1": -45.0})
        self.assertTrue(all(check.residual.contains(0) for check in ball.checks))  # type: ignore[attr-defined]

    def test_names_follow_the_school(self) -> None:
        primes, indices = Conventions(), Conventions(naming=Naming.INDICES)
        self.assertEqual((primes.auxiliary_name("A", 1), primes.auxiliary_name("A", 2)), ("a₁", "a₂"))
        self.assertEqual((indices.auxiliary_name("A", 1), indices.auxiliary_name("A", 2)), ("A₂", "A₃"))

    def test_third_angle_puts_the_top_view_above_and_turns_nothing_over(self) -> None:
        first, third = (drawn("space/lamina", Conventions(projection)) for projection in Projection)
        one, other = self.images(first), self.images(third)
        self.assertLess(one["a"][1], one["a′"][1])
        self.assertGreater(other["a"][1], other["a′"][1])
        for view in ("", "′"):
            for p, q in (("a", "b"), ("b", "c")):
                d = [tuple(np.subtract(dots[q + view], dots[p + view])) for dots in (one, other)]
                self.assertAlmostEqual(d[0][0], d[1][0], 9)
                self.assertAlmostEqual(d[0][1], d[1][1], 9)


class Planning(unittest.TestCase):
    def test_every_figure_of_space_fits_its_sheet_in_every_school(self) -> None:
        for n, school in enumerate(SCHOOLS):
            conventions = school if n == 0 else replace(school, line_names=LineNames.SENTENCES)
            for problem_id in SPACE:
                page = compose(drawn(problem_id, conventions), Paper(), Title(), conventions)
                left, low, right, high = bounds(page.marks)
                self.assertTrue(left > 6 and low > 6 and right < 291 and high < 204, (problem_id, conventions))

    def test_advice_names_scale_and_paper_that_work(self) -> None:
        drawing, conventions = drawn("space/hyperbolic-paraboloid"), Conventions()
        said = advice(drawing, Paper(), conventions, None)
        self.assertEqual(
            said, "At 1:2 to fit A4; A3 takes it at 1:1." if "A3" in said else "At 1:2 to fit A4; A2 takes it at 1:1."
        )
        larger = Paper("A3" if "A3" in said else "A2")
        self.assertEqual(advice(drawing, larger, conventions, None), "")
        self.assertGreaterEqual(compose(drawing, larger, Title(), conventions).scale, 1)
        off = advice(drawing, Paper(), conventions, Fraction(2))
        self.assertIn("At 2:1 the figure runs off A4: it fits at 1:2", off)
        self.assertEqual(advice(drawn("lines/bisect-angle"), Paper(), conventions, None), "")


class InSpace(unittest.TestCase):
    def test_points_are_known_from_the_step_that_finds_them(self) -> None:
        drawing = drawn("space/line-meets-plane")
        places, truth = drawing.in_space, drawing.problem.find_truth(drawing.typed, PLAIN)
        for name in "ABCPQR":
            point = truth.points[name]
            np.testing.assert_allclose(places[name][0], (point.x, point.front, point.above), atol=1e-8)  # type: ignore[union-attr]
        self.assertLess(places["A"][1], places["R"][1])
        self.assertIn(("P", "Q"), {(beam.a, beam.b) for beam in drawing.beams})

    def test_every_solution_has_its_own_edges(self) -> None:
        for name in SPACE:
            problem = catalogue.problem(name)
            for method in problem.methods:
                first = draw(problem, problem.read({}), method)
                for wanted in range(1, first.solutions + 1):
                    drawing = draw(problem, problem.read({}), method, solution=wanted)
                    with self.subTest(problem=name, method=method.name, solution=wanted):
                        self.assertTrue(drawing.beams)
                        for beam in drawing.beams:
                            self.assertLessEqual({beam.a, beam.b}, drawing.in_space.keys())
        mirrored = draw(
            problem := catalogue.problem("space/line-inclined-to-both"), problem.read({}), problem.methods[0], solution=2
        )
        self.assertLess(mirrored.in_space["B_2"][0][0], mirrored.in_space["A"][0][0])


class Visibility(unittest.TestCase):
    FACE = ((0.0, 0.0, 5.0), (10.0, 0.0, 5.0), (0.0, 10.0, 5.0))

    def test_an_edge_behind_a_face_is_hidden_only_where_it_is_covered(self) -> None:
        self.assertEqual(
            seen_parts((-5, 2, 0), (15, 2, 0), [self.FACE]), [(0.0, 0.25, True), (0.25, 0.65, False), (0.65, 1.0, True)]
        )
        self.assertEqual(seen_parts((-5, 2, 9), (15, 2, 9), [self.FACE]), [(0.0, 1.0, True)])
        self.assertEqual(seen_parts((-5, -2, 0), (15, -2, 0), [self.FACE]), [(0.0, 1.0, True)])

    def test_an_edge_that_goes_through_is_hidden_from_there_on(self) -> None:
        parts = seen_parts((1, 1, 9), (5, 1, 1), [self.FACE])
        self.assertEqual(parts, [(0.0, 0.5, True), (0.5, 1.0, False)])

    def test_against_a_look_at_many_places_of_random_edges(self) -> None:
        """Each place between two cuts is seen just if no triangle over it is nearer, by a linear system of its own."""
        rng = np.random.default_rng(3)
        hidden = 0
        for _ in range(120):
            start, end, *corners = rng.uniform(-10, 10, (8, 3))
            faces = [corners[:3], corners[3:]]
            parts = seen_parts(tuple(start), tuple(end), [[tuple(p) for p in face] for face in faces])  # type: ignore[misc]
            self.assertEqual((parts[0][0], parts[-1][1]), (0.0, 1.0))
            for (_, left, one), (right, _, other) in zip(parts, parts[1:], strict=False):
                self.assertEqual(left, right)
                self.assertNotEqual(one, other)
            for share in np.linspace(0.003, 0.997, 200):
                if min(abs(share - cut) for part in parts for cut in part[:2]) < 2e-3:
                    continue
                place = start + (end - start) * share
                covered = any(self.is_before(face, place) for face in faces)
                hidden += covered
                seen = next(part[2] for part in parts if part[0] <= share <= part[1])
                self.assertEqual(seen, not covered)
        self.assertGreater(hidden, 1000)

    def is_before(self, face: list[NDArray[np.float64]], place: NDArray[np.float64]) -> bool:
        a, b, c = face
        s, t = np.linalg.solve(np.array([(b - a)[:2], (c - a)[:2]]).T, (place - a)[:2])
        return bool(s > 0 and t > 0 and s + t < 1 and a[2] + (b - a)[2] * s + (c - a)[2] * t > place[2])

    def test_a_face_seen_on_edge_hides_nothing(self) -> None:
        edge_on = ((0.0, 0.0, 0.0), (10.0, 0.0, 0.0), (5.0, 0.0, 9.0))
        self.assertEqual(seen_parts((0, -1, 1), (10, 1, 1), [edge_on]), [(0.0, 1.0, True)])


class OnTheBoard(unittest.TestCase):
    """The engine by itself, on a cube's corner: every view is known beforehand."""

    CORNERS: ClassVar[dict[str, tuple[int, int, int]]] = {
        "O": (0, 20, 30),
        "X": (10, 20, 30),
        "Y": (0, 30, 30),
        "Z": (0, 20, 40),
    }

    def board(self) -> tuple[Board, Views]:
        board = Board(PLAIN)
        views = Views.on(board, 100.0)
        for name, place in self.CORNERS.items():
            views.set_out(name, *map(float, place))
        return board, views

    def lengths(self, view: View) -> list[float]:
        start = view.images["O"]
        return [round(float(distance(start, view.images[name])), 9) for name in "XYZ"]

    def test_front_and_top_view_show_two_edges_each(self) -> None:
        _, views = self.board()
        self.assertEqual(self.lengths(views.front_view), [10, 0, 10])
        self.assertEqual(self.lengths(views.top_view), [10, 10, 0])

    def test_a_fold_along_an_edge_shows_it_and_the_height(self) -> None:
        _, views = self.board()
        low = views.top_view
        side = auxiliary(views, low, low.line("O", "X"), "OXYZ")
        self.assertEqual(self.lengths(side), [10, 0, 10])
        end_on = auxiliary(views, side, side.line("O", "X"), "OXYZ", square=True)
        self.assertEqual(self.lengths(end_on), [0, 10, 10])

    def test_a_fold_across_the_diagonal_shortens_both_edges_alike(self) -> None:
        _, views = self.board()
        low = views.top_view
        new = auxiliary(views, low, Line(low.images["O"], 1.0, -1.0, "diagonal"), "OXYZ")
        self.assertEqual(self.lengths(new), [round(math.sqrt(50), 9), round(math.sqrt(50), 9), 10])

    def test_what_is_found_in_a_new_view_comes_back(self) -> None:
        board, views = self.board()
        low = views.top_view
        new = auxiliary(views, low, Line(low.images["O"], 2.0, 1.0, "slant"), "OXYZ")
        new.images["M"] = midpoint(new.images["X"], new.images["Z"], new.label("M"))
        views.project("M", new, low, views.line_of(low, "X", "Z"))
        carry_back(views, "M", new)
        middle = views.know("M")
        self.assertAlmostEqual(float(middle.x), 5)
        self.assertAlmostEqual(float(middle.front), 20)
        self.assertAlmostEqual(float(middle.above), 35)
        self.assertEqual(board.known["M"], len(board.steps))

    def test_its_steps_read_as_a_drafter_would_say_them(self) -> None:
        board, views = self.board()
        low = views.top_view
        auxiliary(views, low, low.line("O", "X"), "OX", why="for the true length")
        said = [sentence(step) for step in board.steps]
        self.assertEqual(
            said[1], "Scale: draw a projector through 0; mark o′ on it 30 mm above HP and o 20 mm in front of VP."
        )
        self.assertRegex(
            said[5], r"^Set square along ox: draw the fold line X₁Y₁ parallel to it, clear of \w, .*for the true length\.$"
        )
        self.assertEqual(
            said[6], "Set square along XY, slid to o′: draw the datum for X₁Y₁ parallel to it, to carry shorter distances."
        )
        self.assertTrue(said[7].startswith("Projector from o square to X₁Y₁: mark o₁ where it meets it"))


class Words(unittest.TestCase):
    def test_plans_and_elevations_in_every_sentence(self) -> None:
        plans = Conventions(vocabulary=Vocabulary.PLANS)
        for problem_id in SPACE:
            problem = catalogue.problem(problem_id)
            typed = problem.read({})
            certificate = certify(problem, typed, problem.methods[0], plans)
            told = report(problem, problem.methods[0], typed, certificate, plans)
            texts = [told["brief"], *told["cautions"], *(step["text"] for step in told["steps"])]
            for text in texts:
                self.assertNotRegex(text, r"\b[HV]P\b|front view|top view|Front view|Top view")
                self.assertRegex(text, r"^[A-Z“(a-z]")
        self.assertEqual(
            plans.worded("HP is level. VP stands."), "The horizontal plane is level. The vertical plane stands."
        )
        self.assertEqual(Conventions().worded("HP"), "HP")

    def test_a_step_says_where_its_distance_comes_from(self) -> None:
        step = next(s for s in drawn("space/lamina").steps if s.verb == "transfer" and s.setting)
        self.assertRegex(
            sentence(step),
            r"^Projector from \w+ square to X₁Y₁; dividers at [\d.]+ mm \(the distance of \w+′ from the datum for X₁Y₁\)",
        )


class Tables(unittest.TestCase):
    def test_points_go_out_and_come_in_again(self) -> None:
        text = write_points(solved("space/dihedral-angle").points)
        self.assertTrue(text.startswith("name,x,front,above\r\nA,10,12,16\r\n"))
        problem = catalogue.problem("space/dihedral-angle")
        again = problem.read(as_givens(problem, read_points(text)))
        self.assertEqual(found(certify(problem, again, problem.methods[0])), found(solved("space/dihedral-angle")))

    def test_points_set_distances_where_the_givens_are_distances(self) -> None:
        points = read_points("A,5,14,9\nB,52,52,61\n")
        problem = catalogue.problem("space/line-from-ends")
        got = found(certify(problem, problem.read(as_givens(problem, points)), problem.methods[0]))
        self.assertAlmostEqual(got["true_length"], math.sqrt(6357), 9)

    def test_units_and_separators(self) -> None:
        problem = catalogue.problem("space/lamina")
        typed = problem.read(as_givens(problem, read_points("A; 1 in; 12; 16\nB;45;40;57\nC;102;15;24")), unit="in")
        first = typed["A"].items[0].evaluate(PLAIN)  # type: ignore[union-attr]
        second = typed["A"].items[1].evaluate(PLAIN)  # type: ignore[union-attr]
        self.assertAlmostEqual(float(first), 25.4)
        self.assertAlmostEqual(float(second), 12)

    def test_what_is_wrong_is_said_with_line_and_column(self) -> None:
        for text, words in (
            ("A,1,2\n", "line 1: 3 columns"),
            ("name,x,front,above\nA,1,two,3\n", r"line 2, column 3 \(front\): “two”"),
            ("A,1,2,3\n\n# a remark\nA,4,5,6\n", "line 4, column 1: A stands there twice"),
            (",1,2,3\n", "line 1, column 1"),
            ("", "holds no points"),
            ("name,x,front,above\n", "holds no points"),
            ('A,1,2,"3\n', "not a table"),
            ("A,1/0,2,3\n", r"line 1, column 2 \(x\)"),
        ):
            with self.subTest(text=text), self.assertRaisesRegex(BadDocument, words):
                read_points(text)
        with self.assertRaisesRegex(BadDocument, "none of the points X"):
            as_givens(catalogue.problem("space/lamina"), read_points("X,1,2,3"))

    def test_files_that_cannot_be_read(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            for name, data, words in (("a.csv", b"\xff\xfe", "not UTF-8"), ("b.csv", b"A,1,2,3\n" * 200_000, "too large")):
                path = Path(folder) / name
                path.write_bytes(data)
                with self.assertRaisesRegex(BadDocument, words):
                    load_points(path)
            with self.assertRaisesRegex(BadDocument, "cannot be read"):
                load_points(Path(folder) / "none.csv")


if __name__ == "__main__":
    unittest.main()
