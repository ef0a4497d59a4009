"""The family polygons against derivations of their own: rotations in complex numbers, and walks side by side."""

from __future__ import annotations

import cmath
import math
import random
import unittest
from fractions import Fraction

from tests.core.solving import found, measures, point, refusal, slip, solved
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.marks import Segment
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import construct, draw
from wisecompass.judgement.worth import judged, worth

FROM_SIDE, IN_CIRCLE = "polygons/regular-from-side", "polygons/regular-in-circle"
ALL_COUNTS = range(3, 25)


def turned(start: complex, centre: complex, count: int) -> list[complex]:
    """A point carried round a centre in equal turns."""
    return [centre + (start - centre) * cmath.rect(1, 2 * math.pi * k / count) for k in range(count)]


def area_of(corners: list[complex]) -> float:
    return sum((a.conjugate() * b).imag for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)) / 2


def stepped(radius: float, side: float, count: int) -> tuple[float, float]:
    """The chord that is left after stepping ``side`` count - 1 times round, and the angle it spans (below 0: overrun)."""
    each = 2 * math.asin(side / (2 * radius))
    left = 2 * math.pi - (count - 1) * each
    return abs(2 * radius * math.sin(left / 2)), math.degrees(left)


class Exact(unittest.TestCase):
    def test_corners_of_every_count_are_turns_of_the_first(self) -> None:
        for count in ALL_COUNTS:
            for name in ("central angle", "exterior angles", "semicircle division"):
                certificate = solved(FROM_SIDE, name, sides=count, side=30)
                corners = [point(certificate, f"P{k}") for k in range(1, count + 1)]
                centre = sum(corners) / count
                for drawn, true in zip(corners, turned(corners[0], centre, count), strict=True):
                    self.assertLess(abs(drawn - true), 1e-9)
                got = found(certificate)
                self.assertAlmostEqual(abs(corners[1] - corners[0]), 30, 9)
                self.assertAlmostEqual(got["area"], abs(area_of(corners)), 6)
                self.assertAlmostEqual(got["circumradius"], abs(corners[0] - centre), 9)
                self.assertAlmostEqual(got["closing_error"], 0, 12)
                self.assertAlmostEqual(got["opening_angle"], 360 / count, 9)

    def test_a_side_that_was_given_is_exact(self) -> None:
        for answer in solved(FROM_SIDE, sides=9, side="31.4").answers:
            if answer.name == "side":
                self.assertEqual(
                    (answer.value, answer.balls[0].bound_about(Fraction("31.4")) < Fraction(10) ** -40), (31.4, True)
                )

    def test_across_flats_and_corners_measure_what_they_say(self) -> None:
        for count in (5, 6, 8, 9):
            certificate = solved(FROM_SIDE, sides=count, side=30)
            corners = [point(certificate, f"P{k}") for k in range(1, count + 1)]
            height = max(corner.imag for corner in corners)
            self.assertAlmostEqual(found(certificate)["across_flats"], height, 9)
            if count % 2 == 0:
                widest = max(abs(a - b) for a in corners for b in corners)
                self.assertAlmostEqual(found(certificate)["across_corners"], widest, 9)
            else:
                self.assertNotIn("across_corners", found(certificate))

    def test_particular_counts_have_ways_of_their_own(self) -> None:
        for name, count in (("golden pentagon", 5), ("hexagon arcs", 6), ("octagon corners", 8)):
            self.assertAlmostEqual(measures(FROM_SIDE, name, sides=count, side=41)["closing_side"], 41, 12)
        for name, counts in (("radius steps", (3, 6, 12)), ("bisected quarters", (4, 8, 16)), ("golden pentagon", (5,))):
            for count in counts:
                got = measures(IN_CIRCLE, name, sides=count, diameter=100)
                self.assertAlmostEqual(got["side"], 100 * math.sin(math.pi / count), 9)
                self.assertAlmostEqual(got["closing_error"], 0, 12)

    def test_in_a_circle_the_first_corner_is_on_top(self) -> None:
        for count in ALL_COUNTS:
            certificate = solved(IN_CIRCLE, sides=count, diameter=100)
            for k, true in enumerate(turned(50j, 0, count), 1):
                self.assertLess(abs(point(certificate, f"P{k}") - true), 1e-9)

    def test_about_a_circle_every_side_touches_in_its_middle(self) -> None:
        for count in ALL_COUNTS:
            certificate = solved("polygons/regular-about-circle", sides=count, across_flats=118)
            corners = [point(certificate, f"P{k}") for k in range(1, count + 1)]
            for k, (a, b) in enumerate(zip(corners, [*corners[1:], corners[0]], strict=True), 1):
                self.assertAlmostEqual(abs((a + b) / 2), 59, 9)
                self.assertLess(abs(point(certificate, f"T{k}") - (a + b) / 2), 1e-9)
        self.assertEqual(measures("polygons/regular-about-circle", sides=8, across_flats=118)["across_flats"], 118.0)

    def test_squares(self) -> None:
        for name in ("four equal arcs", "set square"):
            got = measures("polygons/square-from-side", name, side=47)
            self.assertEqual((got["side"], got["area"]), (47.0, 2209.0))
            self.assertAlmostEqual(got["diagonal"], 47 * math.sqrt(2), 12)
        for name in ("crossing diameters", "six steps and a rectangle"):
            got = measures("polygons/square-in-circle", name, diameter=73)
            self.assertEqual((got["diagonal"], got["area"]), (73.0, 73 * 73 / 2))


class Approximate(unittest.TestCase):
    """Workshop rules tell by how much they miss, for every number of sides."""

    def test_the_rule_of_centres_four_and_six(self) -> None:
        for count in ALL_COUNTS:
            got = measures(FROM_SIDE, "four-six centre line", sides=count, side=34)
            height = 17 + (count - 4) * (34 * math.sqrt(3) / 2 - 17) / 2
            closing, spans = stepped(math.hypot(17, height), 34, count)
            self.assertAlmostEqual(got["closing_side"], closing, 7, str(count))
            self.assertAlmostEqual(got["closing_error"], closing - 34, 7)
            self.assertAlmostEqual(got["opening_angle"], spans, 7)
            self.assertEqual(abs(got["closing_error"]) < 1e-12, count in (4, 6))

    def test_at_five_sides_it_is_some_two_and_a_half_per_cent_short(self) -> None:
        error = measures(FROM_SIDE, "four-six centre line", sides=5, side=100)["closing_error"]
        self.assertTrue(-2.6 < error < -2.4, error)

    def test_the_divided_diameter(self) -> None:
        """The line from the apex through division 2 is met with the circle in coordinates."""
        for count in ALL_COUNTS:
            apex, division = complex(50 * math.sqrt(3), 0), complex(0, 50 - 200 / count)
            way = (division - apex) / abs(division - apex)
            along = -(apex * way.conjugate()).real
            half = math.sqrt(50**2 - abs(apex + along * way) ** 2)
            second = apex + (along + half) * way
            side = abs(second - 50j)
            closing, spans = stepped(50, side, count)
            got = measures(IN_CIRCLE, "diameter division", sides=count, diameter=100)
            self.assertAlmostEqual(got["closing_side"], closing, 7, str(count))
            self.assertAlmostEqual(got["closing_error"], closing - 100 * math.sin(math.pi / count), 7)
            self.assertAlmostEqual(got["opening_angle"], spans, 6)
            self.assertEqual(abs(got["closing_error"]) < 1e-12, count in (3, 4, 6))

    def test_the_words_say_where_the_figure_opens(self) -> None:
        problem = catalogue.problem(IN_CIRCLE)
        rule = problem.method("diameter division")
        self.assertEqual(worth(problem, problem.read({"sides": "6"}), rule).words, "closes exactly here")
        self.assertRegex(worth(problem, problem.read({}), rule).words, "0.51 mm short, between the last corner and P₁")
        cautions = [text for step in construct(problem, problem.read({}), rule, PLAIN).steps for text in step.cautions]
        self.assertTrue(any("between P₇ and P₁" in text for text in cautions), cautions)

    def test_no_rule_runs_past_its_first_corner(self) -> None:
        """So a closing side is always an opening, and its length tells all."""
        for problem_id, rule, size in (
            (FROM_SIDE, "four-six centre line", "side"),
            (IN_CIRCLE, "diameter division", "diameter"),
        ):
            for count in ALL_COUNTS:
                self.assertGreater(measures(problem_id, rule, sides=count, **{size: 100})["opening_angle"], 0)


class Judged(unittest.TestCase):
    def test_the_best_stands_first_and_the_useless_last(self) -> None:
        problem = catalogue.problem(FROM_SIDE)
        for count in (3, 5, 8, 12, 24):
            found = judged(problem, problem.read({"sides": str(count)}))
            serving = [one for one in found if one.serves]
            self.assertTrue(serving[0].best and serving[0].words == "exact")
            self.assertEqual([one.best for one in found].count(True), 1)
            misses = [one.miss or 0.0 for one in serving]
            self.assertLessEqual(misses[0], 1.12 * min(misses))
            self.assertEqual(len(found), len(problem.methods))
            if count > 6:
                self.assertEqual(serving[-1].method.name, "four-six centre line")

    def test_an_approximate_rule_is_judged_by_its_own_error_too(self) -> None:
        problem = catalogue.problem(FROM_SIDE)
        rule = next(one for one in judged(problem, problem.read({"sides": "24"})) if "four-six" in one.method.name)
        closing = abs(measures(FROM_SIDE, rule.method.name, sides=24, side=34)["closing_error"])
        self.assertGreater(rule.miss or 0.0, 0.9 * closing)

    def test_a_method_alone_is_not_judged(self) -> None:
        problem = catalogue.problem("polygons/from-traverse")
        (only,) = judged(problem, problem.read({}))
        self.assertEqual((only.sentence, only.miss, only.best), ("exact", None, False))


class Traverses(unittest.TestCase):
    ID = "polygons/from-traverse"

    def walked(self, lengths: list[float], angles: list[float]) -> list[complex]:
        corners, way = [0j], 1 + 0j
        for k, length in enumerate(lengths):
            corners.append(corners[-1] + length * way)
            if k < len(angles):
                way *= cmath.rect(1, math.radians(180 - angles[k]))
        return corners

    def test_random_walks(self) -> None:
        rng = random.Random(6)
        for _ in range(25):
            lengths = [round(rng.uniform(10, 90), 2) for _ in range(rng.randint(3, 9))]
            angles = [round(rng.uniform(20, 340), 1) for _ in lengths[1:]]
            got = measures(self.ID, lengths=str(lengths)[1:-1], angles=str(angles)[1:-1])
            corners = self.walked(lengths, angles)
            self.assertAlmostEqual(got["closing_gap"], abs(corners[-1]), 8)
            self.assertAlmostEqual(got["area"], abs(area_of(corners)), 6)
            self.assertAlmostEqual(got["perimeter"], sum(lengths), 8)

    def test_a_square_closes_exactly_and_no_gap_is_drawn(self) -> None:
        problem = catalogue.problem(self.ID)
        typed = problem.read({"lengths": "10, 10, 10, 10", "angles": "90, 90, 90"})
        drawing = draw(problem, typed, problem.methods[0])
        self.assertFalse([m for m in drawing.marks if isinstance(m, Segment) and m.pen is Pen.HIDDEN])
        got = measures(self.ID, lengths="10, 10, 10, 10", angles="90, 90, 90")
        self.assertEqual((got["closing_gap"], got["area"]), (0.0, 100.0))

    def test_a_gap_is_drawn_as_what_it_is(self) -> None:
        problem = catalogue.problem(self.ID)
        drawing = draw(problem, problem.read({}), problem.methods[0])
        self.assertEqual(len([m for m in drawing.marks if isinstance(m, Segment) and m.pen is Pen.HIDDEN]), 1)
        self.assertLess(abs(measures(self.ID)["closing_gap"]), 2)

    def test_a_reflex_angle_turns_the_walk_back(self) -> None:
        lengths, angles = [60, 30, 30, 40], [90, 270, 90]
        got = measures(self.ID, lengths="60, 30, 30, 40", angles="90, 270, 90")
        self.assertAlmostEqual(got["area"], area_of(self.walked(lengths, angles)), 9)

    def test_angles_must_be_one_fewer_than_sides(self) -> None:
        reason = refusal(self.ID, lengths="50, 40, 30, 20", angles="90, 80")
        self.assertEqual(reason.offer, {"angles": "90, 80, 180"})
        self.assertIn("one angle less than sides", str(reason))
        reason = refusal(self.ID, lengths="50, 40, 30", angles="90, 80, 70, 60")
        self.assertEqual(reason.offer, {"angles": "90, 80"})

    def test_slips(self) -> None:
        drawn = slip(self.ID, "side continued", lengths="30, 40, 50", angles="53, 70")
        self.assertAlmostEqual(drawn["closing_gap"], abs(self.walked([30, 40, 50], [127, 110])[-1]), 9)
        drawn = slip(self.ID, "other scale", lengths="30, 40, 50", angles="53, 90")
        self.assertAlmostEqual(drawn["closing_gap"], abs(self.walked([30, 40, 50], [127, 90])[-1]), 9)


class Lists(unittest.TestCase):
    """A list of numbers as a given."""

    ID = "polygons/from-traverse"

    def read(self, text: str, unit: str | None = None) -> tuple[float, ...]:
        item = catalogue.problem(self.ID).given_list[0]
        value = item.read(text, unit)
        return tuple(float(each.evaluate(PLAIN)) for each in value.items)  # type: ignore[union-attr]

    def refuses(self, text: str, words: str) -> str | None:
        with self.assertRaisesRegex(BadGiven, words) as caught:
            self.read(text)
        return caught.exception.nearest

    def test_commas_part_and_semicolons_leave_decimal_commas(self) -> None:
        self.assertEqual(self.read("84, 62.5,71"), (84.0, 62.5, 71.0))
        self.assertEqual(self.read("84; 62,5 ; 3/4"), (84.0, 62.5, 0.75))
        self.assertAlmostEqual(self.read("1, 2*sqrt(3), pi")[1], 2 * math.sqrt(3))

    def test_a_unit_at_the_end_is_that_of_all(self) -> None:
        self.assertEqual(self.read("1, 2, 3 in"), (25.4, 50.8, 76.2))
        self.assertEqual(self.read("1, 2 mm, 3 cm"), (10.0, 2.0, 30.0))
        self.assertEqual(self.read("1, 2, 3", "cm"), (10.0, 20.0, 30.0))

    def test_too_few_or_too_many(self) -> None:
        self.assertEqual(self.refuses("84, 62", "2 numbers are too few; there must be at least 3"), "84; 62; 49")
        self.refuses(", ".join(["5"] * 25), "25 numbers are too many; there must be at most 24")

    def test_the_number_that_is_wrong_is_named(self) -> None:
        self.assertEqual(self.refuses("84, -2, 71", "number 2 of sides -2 mm is too small"), "84; 0.001; 71")
        self.refuses("84, x, 71", "number 2 of sides: “x” is not a number")
        self.refuses("84, , 71", "number 2 of sides: nothing is written")
        self.refuses("84, 3°, 71", "3° is an angle; it must be a length")

    def test_reads_well_in_the_sentence(self) -> None:
        problem = catalogue.problem(self.ID)
        spoken = problem.spoken(problem.read({"lengths": "10, 20, 30", "angles": "50, 60"}))
        self.assertEqual(
            spoken, "Walk round a polygon with sides of 10, 20, 30 mm and the angles 50, 60° inside between them."
        )


class Slips(unittest.TestCase):
    def test_one_part_more_is_the_next_polygon(self) -> None:
        drawn = slip(IN_CIRCLE, "one part more", sides=7, diameter=120)
        true = measures(IN_CIRCLE, sides=8, diameter=120)
        for name, value in drawn.items():
            self.assertAlmostEqual(value, true[name], 9)

    def test_the_diameter_for_the_radius_doubles_all(self) -> None:
        drawn = slip(IN_CIRCLE, "diameter", sides=7, diameter=120)
        true = measures(IN_CIRCLE, sides=7, diameter=120)
        for name, value in drawn.items():
            self.assertAlmostEqual(value, 2 * true[name], 9)

    def test_corners_on_the_circle_instead_of_outside(self) -> None:
        drawn = slip("polygons/regular-about-circle", "on the circle", sides=6, across_flats=100)
        self.assertAlmostEqual(drawn["side"], 50, 9)

    def test_a_square_on_its_diagonal(self) -> None:
        drawn = slip("polygons/square-from-side", "diagonal", side=40)
        self.assertAlmostEqual(drawn["side"] * math.sqrt(2), 40, 9)


if __name__ == "__main__":
    unittest.main()
