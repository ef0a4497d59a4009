"""What must hold for every curve that is drawn: it is the true one, whole, and leaves in every export as it is."""

from __future__ import annotations

import io
import math
import random
import re
import unittest
from functools import cache

import ezdxf
import numpy as np
from scipy.spatial import KDTree

from tests.core.random_givens import feasible
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.conventions import Conventions, Projection
from wisecompass.drafting.marks import Curve, Ellipse
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Method, Problem
from wisecompass.drafting.solve import construct, draw
from wisecompass.exchange.dxf import dxf
from wisecompass.exchange.svg import svg
from wisecompass.folio.page import compose
from wisecompass.folio.paper import Paper
from wisecompass.folio.title_block import Title
from wisecompass.geometry.curves import TOLERANCE, at
from wisecompass.judgement.worth import judged


@cache
def curved() -> list[tuple[Problem, Method]]:
    """Problems whose figure has a curve that is neither circle nor ellipse."""
    found = []
    for problem in map(catalogue.problem, catalogue.ids()):
        for method in problem.methods:
            typed = problem.read({})
            if problem.serves(method, typed) is None:
                drawing = draw(problem, typed, method)
                if any(isinstance(mark, Curve) for mark in drawing.marks):
                    found.append((problem, method))
    return found


def around(oval: Ellipse) -> np.ndarray[tuple[int, int], np.dtype[np.float64]]:
    """Places of an ellipse, close together."""
    turn, way = np.linspace(0, 2 * math.pi, 12_000), math.radians(oval.angle)
    x, y = oval.semi_major * np.cos(turn), oval.semi_minor * np.sin(turn)
    c, s = math.cos(way), math.sin(way)
    return np.stack([oval.cx + x * c - y * s, oval.cy + x * s + y * c], axis=1)


class EveryCurve(unittest.TestCase):
    def test_there_are_many(self) -> None:
        self.assertGreater(len(curved()), 18)

    def test_passes_through_every_plotted_point(self) -> None:
        """The drawn curve comes from the equation, the points from the construction: they must meet."""
        for problem, method in curved():
            if method.exactness is not Exactness.EXACT_POINTS:
                continue
            rng = random.Random(problem.id)
            for rounds in range(6):
                typed = problem.read({}) if rounds == 0 else feasible(problem, method, rng)
                board = construct(problem, typed, method, PLAIN)
                marks = [mark for mark in board.finished_marks() if isinstance(mark, Curve)]
                drawn = np.array([at(piece, k / 80) for mark in marks for piece in mark.pieces() for k in range(81)])
                ovals = [mark for mark in board.finished_marks() if isinstance(mark, Ellipse)]
                if not marks and not ovals:
                    continue  # left whole, a body has none
                for oval in ovals:
                    drawn = np.vstack([drawn, around(oval)])
                plotted = np.array([(float(p.x), float(p.y)) for p in map(board.plane_point, board.plotted)])
                steps = [math.dist(at(p, k / 80), at(p, (k + 1) / 80)) for m in marks for p in m.pieces() for k in range(80)]
                gaps = KDTree(drawn).query(plotted)[0]
                with self.subTest(problem=problem.id, method=method.name):
                    given = {k: getattr(v, "text", v) for k, v in typed.items()}
                    self.assertLess(float(gaps.max()), 0.51 * max(steps) + TOLERANCE, given)

    def test_runs_on_without_a_gap(self) -> None:
        for problem, method in curved():
            drawing = draw(problem, problem.read({}), method)
            for mark in (mark for mark in drawing.marks if isinstance(mark, Curve)):
                for one, other in zip(mark.pieces(), mark.pieces()[1:], strict=False):
                    self.assertLess(math.dist(one[3], other[0]), 1e-9, problem.id)
                self.assertLess(len(mark.pieces()), 400, problem.id)

    def test_leaves_as_a_spline_and_as_cubic_pieces(self) -> None:
        for problem, method in curved():
            page = compose(draw(problem, problem.read({}), method), Paper(), Title(), Conventions())
            marks = [mark for mark in page.marks if isinstance(mark, Curve)]
            splines = list(ezdxf.read(io.StringIO(dxf(page))).modelspace().query("SPLINE"))  # type: ignore[attr-defined]
            with self.subTest(problem=problem.id):
                self.assertEqual(len(splines), len(marks))
                self.assertEqual({s.dxf.layer for s in splines}, {mark.pen.value for mark in marks})
                for spline, mark in zip(splines, marks, strict=True):
                    tool, scale = spline.construction_tool(), float(page.scale)
                    for k, piece in enumerate(mark.pieces(TOLERANCE * scale)):
                        for share in (0.0, 0.3, 0.8):
                            place = tool.point(k + share)
                            self.assertLess(math.dist((place.x * scale, place.y * scale), at(piece, share)), 1e-6)
                paths = re.findall(r'<path d="M[^"]*C([^"]*)"', svg(page))
                self.assertEqual(len(paths), len(marks))
                self.assertEqual(sum(len(path.split()) for path in paths), sum(6 * len(mark.pieces()) for mark in marks))

    def test_a_curve_in_parts_is_seen_or_hidden_throughout(self) -> None:
        for name in ("helix", "conical-helix", "helical-strip", "coil-spring"):
            problem = catalogue.problem(f"loci/{name}")
            for projection in Projection:
                drawing = draw(problem, problem.read({}), problem.methods[0], Conventions(projection))
                pens = {mark.pen for mark in drawing.marks if isinstance(mark, Curve)}
                self.assertLessEqual({Pen.OUTLINE, Pen.HIDDEN}, pens)

    def test_the_end_view_lies_below_in_first_angle_and_above_in_third(self) -> None:
        for name in ("helix", "conical-helix", "helical-strip", "coil-spring"):
            problem = catalogue.problem(f"loci/{name}")
            for projection, below in ((Projection.FIRST, True), (Projection.THIRD, False)):
                board = construct(problem, problem.read({}), problem.methods[0], PLAIN, conventions=Conventions(projection))
                middle, foot = board.plane_point("M"), board.plane_point("O")
                self.assertEqual(float(middle.y) < float(foot.y), below, name)


class Worths(unittest.TestCase):
    def test_every_plotted_curve_says_how_near_a_hand_comes(self) -> None:
        for problem, method in curved():
            if method.exactness is not Exactness.EXACT_POINTS:
                continue
            words = {one.method.name: one.words for one in judged(problem, problem.read({}))}[method.name]
            self.assertRegex(words, r"^\d+ exact points, faired within \d+(\.\d+)? mm$", problem.id)

    def test_more_divisions_bring_the_hand_nearer(self) -> None:
        for problem_id in ("loci/cycloid", "loci/epicycloid", "loci/archimedean-spiral", "conics/parabola-rectangle"):
            problem = catalogue.problem(problem_id)
            gaps = []
            for divisions in ("8", "16", "24"):
                raw = {"divisions": divisions} | ({"turns": "2"} if "spiral" in problem_id else {})
                (first, *_) = judged(problem, problem.read(raw))
                gaps.append(float(first.words.split("within ")[1].split()[0]))
            self.assertGreater(gaps[0], gaps[2], problem_id)


if __name__ == "__main__":
    unittest.main()
