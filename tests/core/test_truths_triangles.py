"""The family triangles against derivations of their own: coordinates in complex numbers, and roots found by halving."""

from __future__ import annotations

import cmath
import math
import random
import unittest
from collections.abc import Callable

from tests.core.solving import found, measures, point, refusal, slip, solved

PLACES = 7


def by_coordinates(a: complex, b: complex, c: complex) -> dict[str, float]:
    """Every measure of a triangle from its corners alone."""
    area = abs(((b - a).conjugate() * (c - a)).imag) / 2
    sides = {"side_a": abs(c - b), "side_b": abs(c - a), "side_c": abs(b - a)}
    perimeter = sum(sides.values())
    centre = equally_far(a, b, c)
    return {
        **sides,
        "angle_a": degrees_between(b - a, c - a),
        "angle_b": degrees_between(a - b, c - b),
        "angle_c": degrees_between(a - c, b - c),
        "perimeter": perimeter,
        "area": area,
        "altitude": 2 * area / abs(b - a),
        "inradius": 2 * area / perimeter,
        "circumradius": abs(centre - a),
    }


def degrees_between(u: complex, v: complex) -> float:
    return abs(math.degrees(cmath.phase(v / u)))


def equally_far(a: complex, b: complex, c: complex) -> complex:
    """The point as far from three others, from two linear equations."""
    (p, q), (r, s) = (2 * (b - a).real, 2 * (b - a).imag), (2 * (c - a).real, 2 * (c - a).imag)
    e, f = abs(b) ** 2 - abs(a) ** 2, abs(c) ** 2 - abs(a) ** 2
    det = p * s - q * r
    return complex((e * s - q * f) / det, (p * f - e * r) / det)


def halved(value: Callable[[float], float], low: float, high: float) -> float:
    """The root of a function that changes sign between two numbers."""
    sign = math.copysign(1, value(low))
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if value(middle) * sign > 0 else (low, middle)
    return (low + high) / 2


class Triangles(unittest.TestCase):
    def agrees(self, got: dict[str, float], a: complex, b: complex, c: complex, suffix: str = "") -> None:
        for name, value in by_coordinates(a, b, c).items():
            self.assertAlmostEqual(got[name + suffix], value, PLACES, name)

    def test_three_sides(self) -> None:
        rng = random.Random(3)
        for _ in range(20):
            left, right = rng.randint(30, 90), rng.randint(30, 90)
            base = rng.randint(abs(left - right) + 1, left + right - 1)
            certificate = solved("triangles/three-sides", base=base, left=left, right=right)
            a, b, c = (point(certificate, name) for name in "ABC")
            self.assertAlmostEqual(abs(c - a), left, PLACES)
            self.assertAlmostEqual(abs(c - b), right, PLACES)
            self.assertGreater(c.imag, 0)
            self.agrees(found(certificate), a, b, c)

    def test_a_right_triangle_of_whole_numbers(self) -> None:
        got = measures("triangles/three-sides", base=5, left=4, right=3)
        self.assertEqual((got["angle_c"], got["area"], got["inradius"], got["circumradius"]), (90, 6, 1, 2.5))

    def test_two_sides_and_the_angle_between(self) -> None:
        for at in ("left", "right"):
            for angle in (12, 53, 90, 127, 171):
                turn = cmath.rect(49, math.radians(angle))
                top = turn if at == "left" else 66 - turn.conjugate()
                got = measures("triangles/two-sides-angle-between", base=66, side=49, angle=angle, at=at)
                self.agrees(got, 0, 66, top)

    def test_a_side_and_two_angles(self) -> None:
        for left, right in ((38, 61), (90, 20), (140, 39), (1, 1)):
            along = halved(
                lambda x, left=left, right=right: (
                    x * math.tan(math.radians(left)) - (82 - x) * math.tan(math.radians(right))
                ),
                *((0, 82) if left < 90 and right < 90 else (-5e3, -1e-9) if left > 90 else (-1e-12, 1e-12)),
            )
            height = (82 - along) * math.tan(math.radians(right))
            got = measures("triangles/side-two-angles", base=82, left_angle=left, right_angle=right)
            self.assertAlmostEqual(got["altitude"], height, 6)
            self.assertAlmostEqual(got["angle_c"], 180 - left - right, PLACES)

    def test_hypotenuse_and_leg(self) -> None:
        for hypotenuse, leg, other in ((13, 5, 12), (13, 12, 5), (65, 16, 63), (85, 84, 13)):
            got = measures("triangles/hypotenuse-leg", hypotenuse=hypotenuse, leg=leg)
            self.assertEqual((got["side_a"], got["side_b"], got["angle_c"]), (other, leg, 90))
            self.assertEqual(got["inradius"], (leg + other - hypotenuse) / 2)

    def test_both_ways_in_a_circle_give_the_angles_that_were_asked_for(self) -> None:
        for at_a, at_b in ((48, 71), (30, 60), (100, 45), (10, 15)):
            for name in ("central angles", "tangent and angles"):
                certificate = solved("triangles/circumradius-two-angles", name, circumradius=37, angle_a=at_a, angle_b=at_b)
                a, b, c = (point(certificate, corner) for corner in "ABC")
                self.agrees(found(certificate), a, b, c)
                self.assertAlmostEqual(degrees_between(b - a, c - a), at_a, PLACES)
                self.assertAlmostEqual(degrees_between(a - b, c - b), at_b, PLACES)
                for corner in (a, b, c):
                    self.assertAlmostEqual(abs(corner), 37, PLACES)
                self.assertAlmostEqual(a.imag, b.imag, 12)

    def test_the_apex_sees_the_base_under_its_angle(self) -> None:
        for base, altitude, apex in ((78, 46, 62), (78, 10, 120), (60, 30, 80), (50, 2, 170)):
            certificate = solved("triangles/base-altitude-apex-angle", base=base, altitude=altitude, apex_angle=apex)
            self.assertEqual(certificate.solutions, 2)
            for name, suffix in (("C", ""), ("C_2", "_2")):
                top = point(certificate, name)
                self.assertAlmostEqual(top.imag, altitude, PLACES)
                self.assertAlmostEqual(degrees_between(-top, base - top), apex, PLACES)
                self.agrees(found(certificate), 0, base, top, suffix)

    def test_perimeter_and_base_angles(self) -> None:
        for left, right in ((52, 67), (90, 45), (20, 130)):
            got = measures("triangles/perimeter-base-angles", perimeter=184, left_angle=left, right_angle=right)
            self.assertAlmostEqual(got["side_a"] + got["side_b"] + got["side_c"], 184, PLACES)
            self.assertAlmostEqual(
                got["side_c"] * math.sin(math.radians(left)), got["side_a"] * math.sin(math.radians(left + right)), 5
            )
            self.assertAlmostEqual(got["angle_b"], right, PLACES)

    def test_perimeter_in_a_ratio(self) -> None:
        for parts in ((5, 6, 7), (3, 4, 5), ("1/2", "0.7", "0.9"), (400, 500, 600)):
            a, b, c = (float(eval(str(part))) for part in parts)  # numbers of this table
            got = measures("triangles/perimeter-in-ratio", perimeter=168, part_a=parts[0], part_b=parts[1], part_c=parts[2])
            for name, part in (("side_a", a), ("side_b", b), ("side_c", c)):
                self.assertAlmostEqual(got[name], 168 * part / (a + b + c), PLACES)

    def test_the_inscribed_circle_is_as_far_from_all_sides(self) -> None:
        certificate = solved("triangles/inscribed-circle")
        a, b, c, centre = (point(certificate, name) for name in ("A", "B", "C", "O"))
        radius = found(certificate)["inradius"]
        for start, end in ((a, b), (b, c), (c, a)):
            away = ((end - start).conjugate() * (centre - start)).imag / abs(end - start)
            self.assertAlmostEqual(away, radius, PLACES)
        self.assertAlmostEqual(found(certificate)["touch_from_a"], centre.real, PLACES)

    def test_the_circumscribed_circle_passes_through_all_corners(self) -> None:
        for base, left, right in ((71, 58, 43), (80, 45, 40), (60, 60, 60)):
            certificate = solved("triangles/circumscribed-circle", base=base, left=left, right=right)
            a, b, c = (point(certificate, name) for name in "ABC")
            self.assertAlmostEqual(abs(point(certificate, "O") - equally_far(a, b, c)), 0, PLACES)


class Ambiguous(unittest.TestCase):
    """Two sides and the angle opposite one: the arc may miss the ray, touch it, or meet it once or twice."""

    ID = "triangles/two-sides-angle-opposite"

    def count(self, base: object, angle: object, right: object) -> int:
        certificate = solved(self.ID, base=base, left_angle=angle, right=right)
        truth = {name for name in certificate.points if name in ("C", "C_2")}
        self.assertEqual(len(truth), certificate.solutions)
        return certificate.solutions

    def test_as_many_triangles_as_the_arc_meets_the_ray(self) -> None:
        for right, wanted in (("40.001", 2), ("52", 2), ("79.999", 2), ("80", 1), ("200", 1)):
            self.assertEqual(self.count(80, 30, right), wanted, right)
        for angle, right in ((90, "80.001"), (135, "81"), (179, "500")):
            self.assertEqual(self.count(80, angle, right), 1)

    def test_an_arc_that_just_touches_gives_one_right_triangle(self) -> None:
        for base, angle, right in ((80, 30, "40"), (80, 45, "40*sqrt(2)"), (80, 60, "40*sqrt(3)"), (90, 150 / 5, 45)):
            certificate = solved(self.ID, base=base, left_angle=angle, right=right)
            self.assertEqual(certificate.solutions, 1)
            self.assertEqual(found(certificate)["angle_c"], 90.0)

    def test_a_hair_less_does_not_reach_and_a_hair_more_reaches_twice(self) -> None:
        root = "40*sqrt(2)"
        self.assertIn("does not reach", str(refusal(self.ID, base=80, left_angle=45, right=f"{root}-0.000000000000000001")))
        self.assertEqual(self.count(80, 45, f"{root}+0.000000000000000001"), 2)

    def test_both_triangles_fit_the_givens(self) -> None:
        certificate = solved(self.ID, base=74, left_angle=36, right=52)
        for name in ("C", "C_2"):
            top = point(certificate, name)
            self.assertAlmostEqual(abs(top - 74), 52, PLACES)
            self.assertAlmostEqual(math.degrees(cmath.phase(top)), 36, PLACES)
        got = found(certificate)
        self.assertAlmostEqual(got["angle_c"] + got["angle_c_2"], 180, PLACES)
        self.assertGreater(got["side_b"], got["side_b_2"])

    def test_the_offer_just_reaches(self) -> None:
        reason = refusal(self.ID, base=80, left_angle=37, right=20)
        right = float(reason.offer["right"])
        self.assertGreaterEqual(right, 80 * math.sin(math.radians(37)))
        self.assertLess(right - 80 * math.sin(math.radians(37)), 0.001)

    def test_at_a_right_or_obtuse_angle_the_right_side_must_be_the_longer(self) -> None:
        for angle in (90, 120):
            reason = refusal(self.ID, base=80, left_angle=angle, right=80)
            self.assertIn("only behind A", str(reason))
            self.assertEqual(reason.offer, {"right": "80.001"})

    def test_an_apex_at_the_top_of_its_arc_is_one_triangle(self) -> None:
        certificate = solved("triangles/base-altitude-apex-angle", base=60, altitude=30, apex_angle=90)
        self.assertEqual(certificate.solutions, 1)
        certificate = solved("triangles/base-altitude-apex-angle", base=60, altitude="30*sqrt(3)", apex_angle=60)
        self.assertEqual(certificate.solutions, 1)
        self.assertEqual(found(certificate)["side_a"], 60.0)
        reason = refusal("triangles/base-altitude-apex-angle", base=60, altitude="30*sqrt(3)+0.0000001", apex_angle=60)
        self.assertEqual(reason.offer, {"altitude": "51.961524"})


class Refused(unittest.TestCase):
    def test_three_lengths_that_stay_open_or_fall_flat(self) -> None:
        for base, left, right, given, offer in (
            (90, 40, 31, "base", "70.999"),
            (71, 40, 31, "base", "70.999"),
            (40, 71, 31, "left", "70.999"),
            (40, 31, "71.5", "right", "70.999"),
        ):
            for name in ("three-sides", "inscribed-circle", "circumscribed-circle"):
                reason = refusal(f"triangles/{name}", base=base, left=left, right=right)
                self.assertEqual(reason.offer, {given: offer})
                self.assertIn("stays open or falls flat", str(reason))

    def test_a_hair_over_flat_is_a_triangle(self) -> None:
        got = measures("triangles/three-sides", base=71, left=40, right="31.000000000001")
        self.assertGreater(got["altitude"], 0)
        self.assertLess(got["altitude"], 1e-5)

    def test_angles_that_leave_nothing(self) -> None:
        for problem_id in ("triangles/side-two-angles", "triangles/perimeter-base-angles"):
            reason = refusal(problem_id, left_angle=100, right_angle=80)
            self.assertIn("leave nothing of 180°", str(reason))
            self.assertEqual(reason.offer, {"right_angle": "79.999"})
        self.assertEqual(refusal("triangles/circumradius-two-angles", angle_a=100, angle_b=90).offer, {"angle_b": "79.999"})

    def test_a_leg_as_long_as_the_hypotenuse(self) -> None:
        self.assertEqual(refusal("triangles/hypotenuse-leg", hypotenuse=79, leg=79).offer, {"leg": "78.999"})

    def test_parts_that_do_not_close(self) -> None:
        reason = refusal("triangles/perimeter-in-ratio", part_a=1, part_b=2, part_c=3)
        self.assertEqual(reason.offer, {"part_c": "2.999"})


class Slips(unittest.TestCase):
    def test_arcs_changed_over(self) -> None:
        drawn = slip("triangles/three-sides", "changed over", base=71, left=58, right=43)
        right = by_coordinates(0, 71, corner(71, 43, 58))
        self.assertAlmostEqual(drawn["angle_a"], right["angle_a"], PLACES)
        self.assertEqual(drawn["side_a"], 58)

    def test_the_protractor_on_its_other_scale(self) -> None:
        drawn = slip("triangles/two-sides-angle-between", "other scale", base=66, side=49, angle=53)
        self.assertAlmostEqual(drawn["side_a"], abs(66 - cmath.rect(49, math.radians(127))), PLACES)
        self.assertAlmostEqual(drawn["angle_a"], 127, PLACES)

    def test_the_angle_at_the_wrong_end(self) -> None:
        drawn = slip("triangles/two-sides-angle-between", "wrong end", base=66, side=49, angle=53)
        right = measures("triangles/two-sides-angle-between", base=66, side=49, angle=53, at="right")
        for name, value in drawn.items():
            self.assertAlmostEqual(value, right[name], PLACES)

    def test_angles_changed_over(self) -> None:
        drawn = slip("triangles/side-two-angles", "changed over", base=82, left_angle=38, right_angle=61)
        right = measures("triangles/side-two-angles", base=82, left_angle=61, right_angle=38)
        for name, value in drawn.items():
            self.assertAlmostEqual(value, right[name], PLACES)

    def test_angles_at_the_centre_not_doubled(self) -> None:
        drawn = slip("triangles/circumradius-two-angles", "doubling", circumradius=40, angle_a=60, angle_b=60)
        self.assertAlmostEqual(drawn["side_a"], 40, PLACES)

    def test_the_altitude_swung_instead_of_drawn_level(self) -> None:
        drawn = slip("triangles/base-altitude-apex-angle", "swung", base=78, altitude=46, apex_angle=62)
        across = halved(lambda x: degrees_between(-corner(78, 46, x), 78 - corner(78, 46, x)) - 62, 40, 123)
        self.assertAlmostEqual(drawn["altitude"], corner(78, 46, across).imag, 6)

    def test_whole_angles_on_the_perimeter(self) -> None:
        drawn = slip("triangles/perimeter-base-angles", "whole", perimeter=100, left_angle=20, right_angle=30)
        self.assertEqual(drawn, {"angle_a": 40.0, "angle_b": 60.0})

    def test_the_circle_opened_along_a_bisector(self) -> None:
        """In an equilateral triangle the bisector is the altitude and the slip does no harm; else it is too large."""
        self.assertAlmostEqual(
            slip("triangles/inscribed-circle", "bisector", base=60, left=60, right=60)["inradius"], 10 * math.sqrt(3)
        )
        drawn = slip("triangles/inscribed-circle", "bisector", base=71, left=58, right=43)["inradius"]
        self.assertGreater(drawn, measures("triangles/inscribed-circle")["inradius"])

    def test_one_part_more(self) -> None:
        drawn = slip("triangles/perimeter-in-ratio", "one part more", perimeter=190, part_a=5, part_b=6, part_c=7)
        self.assertEqual(drawn, {"side_a": 60.0, "side_b": 60.0, "side_c": 70.0}, "the outer part reaches to the end")


def corner(base: float, left: float, right: float) -> complex:
    """The apex over a base from 0, by the two circles' power line."""
    x = (base**2 + left**2 - right**2) / (2 * base)
    return complex(x, math.sqrt(left**2 - x**2))


if __name__ == "__main__":
    unittest.main()
