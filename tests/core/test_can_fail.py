"""The program's own proofs must be able to fail: mistakes planted on purpose are found, and measured right."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace
from itertools import pairwise

from wisecompass import catalogue
from wisecompass.arithmetic import BALL, PLAIN
from wisecompass.catalogue.developments.pattern import flat_names, laps
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import bind
from wisecompass.drafting.problem import Exactness, Method, Problem
from wisecompass.drafting.solve import certify, construct
from wisecompass.geometry import panels, plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3


def _mirrored(p: Point, axis: Line) -> Point:
    """The point on the other side of a line, as far from it."""
    foot = plane.foot(p, axis)
    return Point(2 * foot.x - p.x, 2 * foot.y - p.y)


HOPPER = catalogue.problem("developments/rectangle-to-rectangle")


class PlantedMistakes(unittest.TestCase):
    def blend(self, offset: str) -> Method:
        """Swung arcs whose parallel 2 stands ``offset`` mm too far out."""

        def construct_wrongly(b: Board, g: object) -> None:
            angle, radius = g.angle, g.radius  # type: ignore[attr-defined]
            corner = b.point("V", b.number(0), b.number(0))
            first = b.level_line(corner, "edge 1")
            second = b.protract(first, corner, angle, "edge 2")
            away = b.arc(corner, radius), b.arc(corner, radius + b.number(offset))
            one = b.parallel_touching(first, [away[0]], "left", "parallel 1")
            two = b.parallel_touching(second, [away[1]], "right", "parallel 2")
            centre = b.meet(one, two, name="C")
            touch = b.square_from(second, centre, "T2")
            b.check("the centre is one radius from edge 2", plane.distance(centre, touch) - radius)
            b.find("centre_distance", plane.distance(corner, centre))

        return Method("planted", Exactness.EXACT, construct_wrongly)

    def certified(self, offset: str) -> tuple[bool, float, str]:
        problem = catalogue.problem("tangency/arc-two-lines")
        certificate = certify(problem, problem.read({}), self.blend(offset))
        return certificate.checks[0].holds, certificate.deviation.worst, certificate.deviation.where

    def test_a_parallel_too_far_out_fails_its_check_and_is_measured(self) -> None:
        holds, worst, where = self.certified("0.25")
        self.assertFalse(holds)
        self.assertEqual(where, "C")
        self.assertAlmostEqual(worst, 0.25 / math.sin(math.radians(72)), places=12)

    def test_not_even_a_billionth_of_a_millimetre_passes(self) -> None:
        holds, worst, _ = self.certified("0.000000001")
        self.assertFalse(holds)
        self.assertAlmostEqual(worst * 1e9, 1 / math.sin(math.radians(72)), places=6)

    def test_without_the_mistake_it_passes(self) -> None:
        self.assertEqual(self.certified("0")[:2], (True, 0.0))

    def test_a_plotted_point_off_the_curve_is_measured_in_millimetres(self) -> None:
        problem = catalogue.problem("conics/ellipse")
        truth = problem.find_truth(problem.read({"major": "100", "minor": "60"}), BALL)
        assert truth.on_curve is not None
        for x, y, away in (("50.01", "0", 0.01), ("0", "30.01", 0.01), ("0", "29.99", -0.01)):
            number = BALL.number
            off = truth.on_curve(Point(number(0) + _exact(x), number(0) + _exact(y)))
            self.assertAlmostEqual(float(off), away, delta=1e-5)

    def test_a_truth_with_another_sign_is_noticed(self) -> None:
        problem = catalogue.problem("pictorial/box")

        def mirrored(g: object, number: object) -> object:
            truth = problem.truth(g, number)  # type: ignore[arg-type]
            points = {n: Point(-p.x, p.y) for n, p in truth.points.items() if isinstance(p, Point)}
            return replace(truth, points=points)

        wrong: Problem = replace(problem, truth=mirrored)  # type: ignore[arg-type]
        self.assertGreater(certify(wrong, problem.read({}), problem.methods[0]).deviation.worst, 50)


def _exact(text: str) -> object:
    from fractions import Fraction

    return BALL.number(Fraction(text))


class Refolding(unittest.TestCase):
    def folded(self, seam: str) -> tuple[list[panels.Panel], dict[str, Point], dict[str, Point3]]:
        """The panels of the drawn pattern, their corners in the flat and on the body that the views show."""
        board = construct(HOPPER, HOPPER.read({"seam": seam, "offset_y": "9"}), HOPPER.methods[0], PLAIN)
        g = bind(HOPPER.givens, HOPPER.read({"seam": seam, "offset_y": "9"}), PLAIN)
        names = flat_names(g.stations)
        pairs = [pair for both in zip(names, g.stations, strict=True) for pair in zip(*both, strict=True)]
        flat = {name: board.plane_point(name) for name, _ in pairs}
        return panels.strip(names), flat, {name: board.solid_point(letter) for name, letter in pairs}

    def test_every_seam_folds_back_to_the_solid(self) -> None:
        for seam in HOPPER.given_list[7].choices:
            self.assertLess(float(panels.refold_gap(*self.folded(seam))), 1e-9, seam)

    def test_a_point_out_of_place_opens_a_gap_of_its_size(self) -> None:
        net, flat, body = self.folded("corner_1")
        flat["A/flat end"] = flat["A/flat end"].moved(0.5, 0.0)
        gap = float(panels.refold_gap(net, flat, body))
        self.assertTrue(0.1 < gap < 1.5, gap)

    def test_a_flipped_triangle_does_not_fold_back(self) -> None:
        net, flat, body = self.folded("corner_2")
        flat["G/flat"] = Point(-flat["G/flat"].x, flat["G/flat"].y)
        self.assertGreater(float(panels.refold_gap(net, flat, body)), 5)

    def test_a_mirrored_pattern_and_a_flipped_panel_do_not_fold_back(self) -> None:
        """Each point then comes out on the far side of its hinge, at twice its distance from it at least once."""
        for seam in ("corner_1", "side_3"):
            net, flat, body = self.folded(seam)
            mirrored = {name: Point(-p.x, p.y) for name, p in flat.items()}
            self.assertGreater(float(panels.refold_gap(net, mirrored, body)), 30, seam)
            axis = Line.through(*(flat[name] for name in net[-1].hinge))
            flipped = {name: _mirrored(p, axis) if name.endswith(" end") else p for name, p in flat.items()}
            self.assertGreater(float(panels.refold_gap(net, flipped, body)), 30, seam)

    def test_area_does_not_depend_on_the_seam_but_the_outline_does(self) -> None:
        areas, outlines = set(), set()
        for seam in HOPPER.given_list[7].choices:
            board = construct(HOPPER, HOPPER.read({"seam": seam}), HOPPER.methods[0], PLAIN)
            areas.add(round(float(board.findings["area"]), 6))  # type: ignore[arg-type]
            outlines.add(round(float(board.findings["perimeter"]), 6))  # type: ignore[arg-type]
        self.assertEqual(len(areas), 1)
        self.assertGreater(len(outlines), 2)

    def test_laps_stand_outside_at_their_width_with_corners_at_45_degrees_or_less(self) -> None:
        net, flat, _ = self.folded("corner_3")
        lows, highs = ([net[0].corners[at], *(panel.corners[after] for panel in net)] for at, after in ((0, 1), (-1, -2)))
        loop = [(float(flat[name].x), float(flat[name].y)) for name in (*lows, *reversed(highs))]
        for start, outer_start, outer_end, end in laps(list(pairwise(loop)), 6.0):
            one, other, far, farther = (Point(*spot) for spot in (start, end, outer_start, outer_end))
            edge = plane.Line.through(one, other)
            for outer in (far, farther):
                self.assertAlmostEqual(float(plane.distance_to_line(outer, edge)), -6.0)  # on its right
            self.assertLessEqual(float(plane.angle_at(one, other, far)), 45.0 + 1e-9)
            self.assertLessEqual(float(plane.angle_at(other, one, farther)), 45.0 + 1e-9)
            self.assertFalse(_inside(plane.midpoint(far, farther), [Point(*spot) for spot in loop]))


def _inside(p: Point, outline: list[Point]) -> bool:
    """Ray casting."""
    hit = False
    for a, b in zip(outline, [*outline[1:], outline[0]], strict=True):
        ay, by, py = float(a.y), float(b.y), float(p.y)
        if (ay > py) != (by > py):
            x = float(a.x) + (py - ay) / (by - ay) * (float(b.x) - float(a.x))
            hit ^= x > float(p.x)
    return hit


if __name__ == "__main__":
    unittest.main()
