"""The family lines against derivations of their own, and what its problems refuse."""

from __future__ import annotations

import math
import random
import unittest

from tests.core import solving
from tests.core.solving import found
from wisecompass import catalogue
from wisecompass.drafting.errors import Infeasible
from wisecompass.drafting.solve import Certificate


def solved(problem_id: str, method: str | None = None, **raw: object) -> Certificate:
    return solving.solved(f"lines/{problem_id}", method, **raw)


def slips(problem_id: str, **raw: object) -> dict[str, float]:
    return solving.slip(f"lines/{problem_id}", "", **raw)


class Divisions(unittest.TestCase):
    def test_equal_parts_by_adding_them_up(self) -> None:
        for parts in (2, 3, 7, 60):
            certificate = solved("divide-equally", length=100, parts=parts)
            part = found(certificate)["part_length"]
            self.assertAlmostEqual(sum([part] * parts), 100, places=9)
            xs = sorted(xy[0] for name, xy in certificate.points.items() if name.startswith("D"))
            self.assertEqual(len(xs), parts - 1)
            for k, x in enumerate(xs, 1):
                self.assertAlmostEqual(x, 100 * k / parts, places=9)

    def test_ratio_and_whole(self) -> None:
        rng = random.Random(2)
        for _ in range(20):
            whole, first, second = (rng.randint(5, 200) for _ in range(3))
            got = found(solved("divide-in-ratio", length=whole, first=first, second=second))
            self.assertAlmostEqual(got["first_part"] + got["second_part"], whole, places=9)
            self.assertAlmostEqual(got["first_part"] * second, got["second_part"] * first, places=6)

    def test_halves(self) -> None:
        self.assertEqual(found(solved("perpendicular-bisector", length=73))["half_length"], 36.5)
        self.assertEqual(found(solved("bisect-angle", angle=53))["half_angle"], 26.5)

    def test_two_openings_miss_the_middle_by_what_pythagoras_says(self) -> None:
        """The crossing stands where both legs have the same height over the line."""
        x = slips("perpendicular-bisector", length=90)["half_length"]
        first, second = 60.0, 66.0
        self.assertAlmostEqual(first**2 - x**2, second**2 - (90 - x) ** 2, places=9)
        self.assertLess(x, 45)


class Squares(unittest.TestCase):
    def test_every_way_of_raising_a_perpendicular_is_square(self) -> None:
        for name in ("four equal arcs", "semicircle", "three-four-five"):
            certificate = solved("square-at-end", name, length=84)
            self.assertEqual(found(certificate)["angle"], 90.0)
            corner, top = certificate.points["B"], certificate.points["C"]
            self.assertAlmostEqual(corner[0], top[0], places=12)
            self.assertGreater(top[1] - corner[1], 20)

    def test_three_four_five_changed_over(self) -> None:
        self.assertAlmostEqual(slips("square-at-end", length=10)["angle"], math.degrees(math.acos((9 + 25 - 16) / 30)))

    def test_feet_lie_under_their_points(self) -> None:
        for offset in (-40, 0, 38):
            for name in ("two arcs", "semicircle"):
                certificate = solved("square-from-point", name, height=52, offset=offset)
                self.assertAlmostEqual(found(certificate)["foot_offset"], offset, places=12)
                self.assertAlmostEqual(found(certificate)["height"], 52, places=12)

    def test_parallels_keep_their_distance(self) -> None:
        for name in ("swung arcs", "two squares"):
            self.assertEqual(found(solved("parallel-at-distance", name, distance=31))["distance"], 31.0)


class Angles(unittest.TestCase):
    def test_every_multiple_of_seven_and_a_half(self) -> None:
        for k in range(1, 24):
            certificate = solved("compass-angle", angle=7.5 * k)
            self.assertEqual(found(certificate)["angle"], 7.5 * k)
            x, y = certificate.points["E"]
            self.assertAlmostEqual(math.degrees(math.atan2(y, x)), 7.5 * k, places=9)

    def test_other_angles_are_refused_with_the_nearest(self) -> None:
        with self.assertRaisesRegex(Infeasible, "multiples of 7.5° and 50° is not one") as caught:
            catalogue.problem("lines/compass-angle").read({"angle": "50"})
        self.assertEqual(caught.exception.offer, {"angle": "52.5"})

    def test_a_copied_angle(self) -> None:
        for angle in (12, 90, 151):
            self.assertEqual(found(solved("copy-angle", angle=angle))["angle"], float(angle))


class Proportions(unittest.TestCase):
    def test_roots_by_every_method(self) -> None:
        for radicand in ("1", "2", "7", "11", "50"):
            for name in ("half sum and half difference", "mean of n and 1", "stacked right triangles"):
                got = found(solved("root-length", name, radicand=radicand, unit=24))["length"]
                self.assertAlmostEqual((got / 24) ** 2, float(radicand), places=12)
        for radicand in ("0.25", "1/3", "120.5"):
            got = found(solved("root-length", "mean of n and 1", radicand=radicand, unit=10))["length"]
            value = eval(radicand)  # a number of this table
            self.assertAlmostEqual((got / 10) ** 2, value, places=9)

    def test_stacked_triangles_serve_whole_numbers_up_to_fifty(self) -> None:
        problem = catalogue.problem("lines/root-length")
        method = problem.method("stacked right triangles")
        for radicand, words in (("7.5", "roots of whole numbers and 7.5 is not one"), ("51", "kept to 50 and 51 is more")):
            reason = problem.serves(method, problem.read({"radicand": radicand}))
            self.assertIn(words, str(reason))

    def test_mean_and_fourth(self) -> None:
        rng = random.Random(4)
        for _ in range(20):
            a, b, c = (rng.randint(5, 150) for _ in range(3))
            self.assertAlmostEqual(found(solved("mean-proportional", first=a, second=b))["mean"] ** 2, a * b, places=6)
            got = found(solved("fourth-proportional", first=a, second=b, third=c))["fourth"]
            self.assertAlmostEqual(got * a, b * c, places=6)


if __name__ == "__main__":
    unittest.main()
