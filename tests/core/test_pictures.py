"""Isometric pictures against bodies that are turned and tilted in space, points taken thickly instead of by formula."""

from __future__ import annotations

import cmath
import math
import random
import unittest
from dataclasses import replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.catalogue.pictorial.polygon_block import ON_THE_LONG_AXIS
from wisecompass.drafting import marks
from wisecompass.drafting.errors import BadGiven, Infeasible
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import certify, construct, draw, steps_told
from wisecompass.drafting.step import Step
from wisecompass.judgement.hands import OnPaper

Array = NDArray[np.float64]

MOST_STEPS = 40


def seen(places: Array, scale: str) -> Array:
    """Where places (along the front, along the right, up) of a body are seen that is turned by 45° about its upright and
    tilted until three edges are equally short."""
    turn, tilt = math.radians(45), math.asin(1 / math.sqrt(3))
    front, right, up = np.asarray(places, dtype=float).T
    x = right * math.cos(turn) - front * math.sin(turn)
    away = right * math.sin(turn) + front * math.cos(turn)
    found = np.stack([x, up * math.cos(tilt) + away * math.sin(tilt)], axis=1)
    return found * (1.0 if scale == "isometric" else math.sqrt(1.5))


def rim(diameter: float, face: str, count: int = 3600) -> Array:
    """Places of a circle in a face, about its middle: along the front, along the right, up."""
    turn = np.linspace(0, 2 * math.pi, count, endpoint=False)
    one, other, zero = diameter / 2 * np.cos(turn), diameter / 2 * np.sin(turn), 0 * turn
    order = {"top": (one, other, zero), "left": (one, zero, other), "right": (zero, one, other)}[face]
    return np.stack(order, axis=1)


def spot(board: Any, name: str) -> Array:
    at = board.points[name]
    return np.array([float(at.x), float(at.y)])


def found(problem: Any, raw: dict[str, str]) -> dict[str, Any]:
    return dict(problem.find_truth(problem.read(raw), PLAIN).findings)


class Circles(unittest.TestCase):
    def test_axes_are_those_of_a_circle_seen_in_space(self) -> None:
        problem, rng = catalogue.problem("pictorial/circle"), random.Random(1)
        for face in ("top", "left", "right"):
            for scale in ("natural", "isometric"):
                diameter = round(rng.uniform(10, 200), 2)
                spots = seen(rim(diameter, face), scale)
                far = np.hypot(*spots.T)
                told = found(problem, {"diameter": str(diameter), "face": face, "scale": scale})
                self.assertAlmostEqual(2 * far.max(), told["long_axis"], delta=1e-4 * diameter)
                self.assertAlmostEqual(2 * far.min(), told["short_axis"], delta=1e-4 * diameter)

    def test_the_worst_gap_of_four_arcs_is_the_worst_of_all_their_places(self) -> None:
        problem = catalogue.problem("pictorial/circle")
        for face in ("top", "left", "right"):
            raw = {"diameter": "80", "face": face, "true_ellipse": "left out"}
            drawing = draw(problem, problem.read(raw), problem.method("four centres"))
            board = construct(problem, problem.read(raw), problem.method("four centres"), PLAIN)
            spots = seen(rim(80.0, face, 20_000), "natural") + spot(board, "C")
            arcs = [mark for mark in drawing.marks if isinstance(mark, marks.Arc) and mark.pen is Pen.OUTLINE]
            self.assertEqual(len(arcs), 4)
            worst = 0.0
            for arc in arcs:
                turn = np.radians(arc.start + np.linspace(0, arc.sweep, 400))
                places = np.stack([arc.cx + arc.radius * np.cos(turn), arc.cy + arc.radius * np.sin(turn)], axis=1)
                gaps = np.hypot(*(places[:, None, :] - spots[None, ::10]).transpose(2, 0, 1)).min(axis=1)
                worst = max(worst, float(gaps.max()))
            self.assertAlmostEqual(worst, float(board.findings["worst_gap"]), delta=0.01)  # type: ignore[arg-type]
            self.assertAlmostEqual(worst, 0.035 * 80, delta=0.02)

    def test_points_of_every_method_lie_where_space_says(self) -> None:
        problem = catalogue.problem("pictorial/circle")
        for face in ("top", "left", "right"):
            typed = problem.read({"face": face, "divisions": "16"})
            board = construct(problem, typed, problem.method("ordinates"), PLAIN)
            spots = seen(rim(54.0, face, 36_000), "natural") + spot(board, "C")
            for name in board.plotted:
                gap = np.hypot(*(spots - spot(board, name)).T).min()
                self.assertLess(gap, 0.01, (face, name))

    def test_the_diagonal_rule_is_exact_at_its_true_share_and_worse_elsewhere(self) -> None:
        problem = catalogue.problem("pictorial/circle")
        gaps = {}
        for share in ("0.6", "2/3", "sqrt(1/2)", "0.8"):
            typed = problem.read({"share": share})
            board = construct(problem, typed, problem.method("diagonal rule"), PLAIN)
            gaps[share] = float(board.findings["worst_gap"])  # type: ignore[arg-type]
        self.assertAlmostEqual(gaps["sqrt(1/2)"], 0.0, delta=1e-9)
        self.assertAlmostEqual(gaps["2/3"], 0.035 * 54, delta=0.01)
        self.assertGreater(gaps["0.6"], gaps["2/3"])
        self.assertGreater(gaps["0.8"], gaps["2/3"])


class Cones(unittest.TestCase):
    def test_contours_are_the_outermost_ways_from_the_apex_to_the_rim(self) -> None:
        problem, rng = catalogue.problem("pictorial/cone"), random.Random(2)
        for k in range(30):
            diameter, height = round(rng.uniform(20, 120), 2), round(rng.uniform(4, 150), 2)
            scale = ("natural", "isometric")[k % 2]
            told = found(problem, {"diameter": str(diameter), "height": str(height), "scale": scale})
            spots = seen(rim(diameter, "top"), scale)
            apex = seen(np.array([[0.0, 0.0, height]]), scale)[0]
            ways = np.arctan2(spots[:, 0] - apex[0], apex[1] - spots[:, 1])
            inside = np.ptp(np.unwrap(ways)) > 6.0
            with self.subTest(diameter=diameter, height=height):
                self.assertEqual(told["contours"], 0 if inside else 2)
                if not inside:
                    wide = math.degrees(ways.max() - ways.min())
                    self.assertAlmostEqual(float(told["contour_angle"]), wide, delta=0.01)

    def test_a_cone_as_high_as_the_short_axis_reaches_has_no_contours(self) -> None:
        problem = catalogue.problem("pictorial/cone")
        self.assertEqual(found(problem, {"diameter": "80", "height": "80/sqrt(8)"})["contours"], 0)
        self.assertEqual(found(problem, {"diameter": "80", "height": "28.2843"})["contours"], 2)

    def test_four_arcs_refuse_a_cone_that_they_hide(self) -> None:
        problem = catalogue.problem("pictorial/cone")
        way = problem.method("crate and four centres")
        with self.assertRaises(Infeasible) as refused:
            problem.require_method(way, problem.read({"diameter": "80", "height": "28.9"}))
        problem.require_method(way, problem.read({"diameter": "80", **refused.exception.offer}))


class Blocks(unittest.TestCase):
    def test_the_far_rim_shows_as_rays_through_the_bore_say(self) -> None:
        """A place of the far rim is seen where the ray to the eye leaves the block within the near rim."""
        problem, rng = catalogue.problem("pictorial/polygon-block"), random.Random(3)
        for face in ("left", "right", "top"):
            for _ in range(12):
                bore, thick = round(rng.uniform(10, 60), 2), round(rng.uniform(4, 60), 2)
                raw = {"side": "60", "bore": str(bore), "thickness": str(thick), "face": face}
                told = found(problem, raw)
                spots = seen(rim(bore, face), "natural")
                move = {"left": (0, thick, 0), "right": (thick, 0, 0), "top": (0, 0, -thick)}[face]
                shift = seen(np.array([move], dtype=float), "natural")[0]
                long = {"top": 0.0, "left": 120.0, "right": 60.0}[face]
                c, s = math.cos(math.radians(long)), math.sin(math.radians(long))
                x, y = (spots + shift) @ [c, s], (spots + shift) @ [-s, c]
                a, b = np.hypot(*spots.T).max(), np.hypot(*spots.T).min()
                within = (x / a) ** 2 + (y / b) ** 2 < 1
                with self.subTest(**raw):
                    self.assertEqual(told["far_rim_visible"], bool(within.any()))
                    if told["far_rim_visible"]:
                        self.assertAlmostEqual(told["far_rim_gap"], (2 * b - np.hypot(*shift)) * math.sqrt(2), delta=1e-3)

    def test_corners_are_where_the_block_has_them_in_space(self) -> None:
        problem, rng = catalogue.problem("pictorial/polygon-block"), random.Random(4)
        for k in range(24):
            sides, side, thick = rng.randint(3, 12), round(rng.uniform(10, 60), 2), round(rng.uniform(4, 60), 2)
            face, method = ("left", "right", "top")[k % 3], problem.methods[k % 2]
            scale = ("natural", "isometric")[k // 2 % 2]
            raw = {"sides": str(sides), "side": str(side), "thickness": str(thick), "face": face, "bore": "0"}
            typed = problem.read({**raw, "hidden_edges": "dashed", "scale": scale})
            board = construct(problem, typed, method, PLAIN)
            radius = side / (2 * math.sin(math.pi / sides))
            ways = [math.pi * (2 * i + 1) / sides - math.pi / 2 for i in range(sides)]
            flat = np.array([(radius * math.cos(way), radius * math.sin(way)) for way in ways])
            flat -= flat.min(axis=0)
            for row, deep in (("P", 0.0), ("Q", thick)):
                for i, (u, v) in enumerate(flat, 1):
                    place = {"left": (u, deep, v), "right": (deep, u, v), "top": (u, v, thick - deep)}[face]
                    expected = seen(np.array([place]), scale)[0]
                    self.assertLess(
                        float(np.abs(spot(board, f"{row}{i}") - expected).max()), 1e-9 * side * sides, (raw, row, i)
                    )

    def test_only_faces_towards_the_eye_get_their_far_edge(self) -> None:
        """Two faces of a square block are seen besides the near one, and no edge of the far end that lies behind."""
        problem = catalogue.problem("pictorial/polygon-block")
        for face in ("left", "right", "top"):
            drawing = draw(problem, problem.read({"sides": "4", "face": face, "bore": "0"}), problem.methods[0])
            edges = [m for m in drawing.marks if isinstance(m, marks.Segment) and m.pen is Pen.OUTLINE and not m.block]
            self.assertEqual(len(edges), 4 + 3 + 2, face)

    def test_the_thickness_may_be_laid_off_along_the_wrong_axis(self) -> None:
        """A mistake that is drawn: the far corners lie along the rim's long axis, as far off as they should."""
        problem = catalogue.problem("pictorial/polygon-block")
        for face, long in (("top", 0.0), ("left", 120.0), ("right", 60.0)):
            for method in problem.methods:
                sheet = OnPaper(problem, problem.read({"face": face, "thickness": "25"}), method)
                forks = replace(sheet, taken=-1).by(None).forks
                place = next(n for n, fork in enumerate(forks) if fork.words == ON_THE_LONG_AXIS)
                wrong = replace(sheet, taken=place).by(None)
                rows = [name for name in wrong.points if name[0] == "Q" and name[1:].isdigit()]
                self.assertTrue(rows)
                for far in rows:
                    a, b = (wrong.plane_point(name) for name in (f"P{far[1:]}", far))
                    away = complex(float(b.x) - float(a.x), float(b.y) - float(a.y))
                    self.assertAlmostEqual(abs(away), 25.0, places=9)
                    self.assertAlmostEqual(math.sin(cmath.phase(away) - math.radians(long)), 0.0, places=9)


class Wedges(unittest.TestCase):
    def test_the_sloping_edge_is_as_long_as_its_corners_are_apart(self) -> None:
        problem, rng = catalogue.problem("pictorial/right-wedge"), random.Random(5)
        for k in range(18):
            sizes = [round(rng.uniform(8, 90), 2) for _ in range(3)]
            front, height, right = sizes
            triangle, scale = ("floor", "front", "right")[k % 3], ("natural", "isometric")[k % 2]
            raw = {"front": str(front), "height": str(height), "right": str(right), "triangle": triangle, "scale": scale}
            ends = {
                "floor": ((front, 0, 0), (0, right, 0)),
                "front": ((front, 0, 0), (0, 0, height)),
                "right": ((0, right, 0), (0, 0, height)),
            }[triangle]
            told = found(problem, raw)
            drawn = seen(np.array(ends, dtype=float), scale)
            self.assertAlmostEqual(float(told["sloping_edge"]), math.dist(*ends), delta=1e-9)
            self.assertAlmostEqual(float(told["sloping_edge_drawn"]), float(np.hypot(*(drawn[0] - drawn[1]))), delta=1e-9)

    def test_a_sloping_face_is_seen_where_it_turns_to_the_eye(self) -> None:
        problem = catalogue.problem("pictorial/right-wedge")
        for triangle in ("front", "right"):
            for leg, height, hidden in (("50", "30", 1), ("30", "50", 3), ("40", "40", 1)):
                raw = {"front": leg, "right": leg, "height": height, "triangle": triangle}
                drawing = draw(problem, problem.read(raw), problem.methods[0])
                found_hidden = [m for m in drawing.marks if isinstance(m, marks.Segment) and m.pen is Pen.HIDDEN]
                self.assertEqual(len(found_hidden), hidden, raw)


class OnDots(unittest.TestCase):
    def test_every_length_is_counted_and_every_corner_lies_on_a_dot(self) -> None:
        for problem_id in ("pictorial/box", "pictorial/right-wedge"):
            problem = catalogue.problem(problem_id)
            raw = {"front": "40", "height": "16", "right": "56", "paper": "dot grid", "unit": "8"}
            for method in problem.methods:
                drawing = draw(problem, problem.read(raw), method)
                board = construct(problem, problem.read(raw), method, PLAIN)
                dots = {
                    (round(m.x, 6), round(m.y, 6)) for m in drawing.marks if isinstance(m, marks.Dot) and m.pen is Pen.GRID
                }
                for name, at in board.points.items():
                    self.assertIn((round(float(at.x), 6), round(float(at.y), 6)), dots, name)  # type: ignore[union-attr]
                told = " ".join(sentence for sentence in said(drawing.steps))
                for words in ("Count 5 dots", "Count 7 dots", "Count 2 dots", "8 rows of dots"):
                    self.assertIn(words, told)

    def test_sizes_that_are_no_whole_dots_are_refused_and_nothing_is_rounded(self) -> None:
        for problem_id in ("pictorial/box", "pictorial/right-wedge"):
            problem = catalogue.problem(problem_id)
            for more in (
                {"front": "41", "unit": "8"},
                {"front": "3", "unit": "8"},
                {"unit": "0.1"},
                {"unit": "7/3"},
                {"unit": "sqrt(2)"},
                {"scale": "isometric", "unit": "8"},
            ):
                raw = {"front": "40", "height": "16", "right": "56", "paper": "dot grid", **more}
                with self.assertRaises(Infeasible) as refused:
                    problem.read(raw)
                problem.read({**raw, **refused.exception.offer})
            with self.assertRaises(BadGiven):
                problem.read({"paper": "dot grid", "unit": "0"})


class Steps(unittest.TestCase):
    def test_no_picture_takes_more_than_forty_steps(self) -> None:
        for name in catalogue.FAMILIES["pictorial"]:
            problem = catalogue.problem(f"pictorial/{name}")
            for method in problem.methods:
                told = steps_told(problem, problem.read({}), method)
                self.assertLessEqual(len(told), MOST_STEPS, (name, method.name))

    def test_points_are_exact_where_a_method_says_so(self) -> None:
        for name in ("polygon-block", "right-wedge", "box"):
            problem = catalogue.problem(f"pictorial/{name}")
            for method in problem.methods:
                self.assertEqual(certify(problem, problem.read({}), method).deviation.worst, 0.0)


def said(steps: list[Step]) -> list[str]:
    from wisecompass.drafting.sentences import sentence

    return [sentence(step) for step in steps]
