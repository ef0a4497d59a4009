"""Helices in the picture in space: a point that turns and walks passes every point that is plotted in the views."""

from __future__ import annotations

import math
import random
import unittest

from tests.core.random_givens import feasible
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.givens import bind
from wisecompass.drafting.solve import draw
from wisecompass.geometry.plane import Point

HELICES = ("loci/helix", "loci/conical-helix", "loci/helical-strip", "loci/coil-spring")


class Walks(unittest.TestCase):
    def test_the_path_is_seen_from_before_as_the_elevation_and_lies_about_the_axis(self) -> None:
        rng = random.Random("walks")
        for problem in map(catalogue.problem, HELICES):
            method = problem.methods[0]
            for _ in range(4):
                typed = feasible(problem, method, rng)
                drawing, g = draw(problem, typed, method), bind(problem.givens, typed, PLAIN)
                truth = problem.find_truth(typed, PLAIN).points
                motion = drawing.motions[0]
                count = len(motion.path) - 1
                with self.subTest(problem=problem.id, typed=typed):
                    self.assertTrue(motion.moves)
                    for (x, front, above), (axis_x, axis_front, level) in zip(motion.path, motion.axis, strict=True):
                        self.assertEqual((axis_x, level), (0.0, above))
                        self.assertLessEqual(abs(x), math.hypot(x, front - axis_front) + 1e-9)
                    spaces = round(float(g.turns) * g.divisions)
                    for k in range(spaces + 1):
                        point = truth.get(f"P{k}")
                        assert isinstance(point, Point)
                        if (k * count) % spaces == 0:
                            x, _, above = motion.path[k * count // spaces]
                            self.assertAlmostEqual(x, float(point.x), delta=1e-6 * (1 + abs(x)))
                            self.assertAlmostEqual(above, float(point.y), delta=1e-6 * (1 + above))

    def test_a_right_hand_helix_rises_anticlockwise_seen_from_above(self) -> None:
        problem = catalogue.problem("loci/helix")
        for hand, sign in (("right", 1), ("left", -1)):
            motion = draw(problem, problem.read({"hand": hand}), problem.methods[0]).motions[0]
            (x1, f1, _), (x2, f2, _) = motion.path[:2]
            deep = motion.axis[0][1]
            turned = x1 * -(f2 - deep) + (f1 - deep) * x2  # the drafter, in front, looks to the back
            self.assertGreater(turned * sign, 0)

    def test_so_many_places_are_passed(self) -> None:
        problem = catalogue.problem("loci/helix")
        motion = draw(problem, problem.read({}), problem.methods[0]).motions[0]
        self.assertEqual((motion.walked(0.0), motion.walked(1.0)), (1, len(motion.path)))


if __name__ == "__main__":
    unittest.main()
