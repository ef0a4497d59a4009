"""The family tangency against derivations of its own: distances, signs scanned along loci, and counts known from
geometry for the layouts that touch, nest or fall on one line."""

from __future__ import annotations

import cmath
import math
import random
import unittest
from itertools import product

import numpy as np

from tests.core.solving import found, measures, point, refusal, slip, solved
from wisecompass import catalogue
from wisecompass.drafting.errors import Infeasible
from wisecompass.drafting.marks import Arc, Dot
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import draw, steps_told

KINDS = ("outside", "inside")


def gap_of(kind: str, apart: float, one: float, other: float) -> float:
    """How far two circles are from the contact that was asked for."""
    return apart - (one + other if kind == "outside" else abs(one - other))


class Tangents(unittest.TestCase):
    def test_from_a_point_by_the_power_of_the_point(self) -> None:
        for radius, distance in ((26, 74), (10, "10.001"), (3, 5), (300, 301)):
            certificate = solved("tangency/line-from-point", radius=radius, distance=distance)
            power = float(distance) ** 2 - radius**2
            self.assertAlmostEqual(found(certificate)["tangent_length"] ** 2, power, 6)
            self.assertEqual(certificate.solutions, 2)
            for name in ("T1", "T1_2"):
                touch, outer = point(certificate, name), point(certificate, "P")
                self.assertAlmostEqual((touch.conjugate() * (outer - touch)).real, 0, 7)

    def test_a_point_on_the_circle_has_one_tangent(self) -> None:
        certificate = solved("tangency/line-from-point", radius="13*sqrt(2)", distance="13*sqrt(2)")
        self.assertEqual(certificate.solutions, 1)
        self.assertEqual(found(certificate), {"tangent_length": 0.0, "angle_between": 180.0})
        reason = refusal("tangency/line-from-point", radius=26, distance="25.9")
        self.assertIn("lies inside the circle", str(reason))
        self.assertEqual(reason.offer, {"distance": "26"})

    def test_common_tangents_are_square_to_both_radii(self) -> None:
        rng = random.Random(9)
        for name, across in (("lines-outside-two-circles", False), ("lines-across-two-circles", True)):
            for _ in range(15):
                one, other = rng.randint(5, 60), rng.randint(5, 60)
                apart = one + other + rng.randint(1, 80)
                certificate = solved(f"tangency/{name}", radius_1=one, radius_2=other, distance=apart)
                for tail in ("", "_2"):
                    first, second = point(certificate, f"T1{tail}"), point(certificate, f"T2{tail}")
                    way = second - first
                    self.assertAlmostEqual((first.conjugate() * way).real, 0, 6)
                    self.assertAlmostEqual(((second - apart).conjugate() * way).real, 0, 6)
                    self.assertAlmostEqual(abs(first), one, 8)
                    self.assertAlmostEqual(abs(second - apart), other, 8)
                    self.assertEqual(first.imag * second.imag < 0, across)
                    self.assertEqual(first.imag > 0, tail == "")

    def test_belts_by_walking_round_them(self) -> None:
        """The belt as a polygon of many short sides round points and arcs."""
        for name, across in (("lines-outside-two-circles", False), ("lines-across-two-circles", True)):
            for one, other, apart in ((29, 17, 88), (17, 29, 88), (20, 20, 70)):
                certificate = solved(f"tangency/{name}", radius_1=one, radius_2=other, distance=apart)
                got = found(certificate)
                t1, t2 = point(certificate, "T1"), point(certificate, "T2") - apart
                behind = 2 * math.pi - 2 * abs(math.atan2(t1.imag, t1.real))
                ahead = 2 * abs(math.atan2(t2.imag, t2.real))
                self.assertAlmostEqual(got["belt_length"], 2 * got["tangent_length"] + one * behind + other * ahead, 8)
                drop = one + other if across else abs(one - other)
                self.assertAlmostEqual(got["angle_to_centres"], math.degrees(math.asin(drop / apart)), 9)

    def test_an_open_belt_round_equal_drums(self) -> None:
        got = measures("tangency/lines-outside-two-circles", radius_1=20, radius_2=20, distance=70)
        self.assertAlmostEqual(got["belt_length"], 140 + 40 * math.pi, 12)
        self.assertEqual((got["tangent_length"], got["angle_to_centres"]), (70.0, 0.0))

    def test_circles_that_touch_have_one_tangent_there(self) -> None:
        for name, one, other, apart in (
            ("lines-outside-two-circles", 30, 12, 18),
            ("lines-outside-two-circles", 12, 30, 18),
            ("lines-outside-two-circles", "10*sqrt(2)", "sqrt(2)", "9*sqrt(2)"),
            ("lines-across-two-circles", 30, 12, 42),
        ):
            certificate = solved(f"tangency/{name}", radius_1=one, radius_2=other, distance=apart)
            self.assertEqual(certificate.solutions, 1)
            self.assertEqual(found(certificate)["tangent_length"], 0.0)
        self.assertEqual(
            refusal("tangency/lines-outside-two-circles", radius_1=30, radius_2=12, distance=17).offer, {"distance": "18"}
        )
        self.assertIn("overlap", str(refusal("tangency/lines-across-two-circles", radius_1=30, radius_2=12, distance=41)))


class Arcs(unittest.TestCase):
    def test_line_and_circle_in_every_contact(self) -> None:
        rng = random.Random(12)
        seen = {(kind, side): 0 for kind in KINDS for side in ("near", "far")}
        for (kind, side), _ in product(seen, range(40)):
            line, circle, radius = rng.randint(0, 60), rng.randint(5, 70), rng.randint(3, 70)
            raw = {"line_distance": line, "circle_radius": circle, "radius": radius, "contact": kind, "side": side}
            rise = (radius if side == "near" else -radius) - line
            reach = circle + radius if kind == "outside" else abs(circle - radius)
            if reach < abs(rise) or reach == 0:
                self.assertTrue(refusal("tangency/arc-line-circle", **raw).offer)
                continue
            seen[kind, side] += 1
            certificate = solved("tangency/arc-line-circle", **raw)
            self.assertEqual(certificate.solutions, 1 if reach == abs(rise) else 2)
            for tail in ("", "_2")[: certificate.solutions]:
                centre, touch = point(certificate, f"C{tail}"), point(certificate, f"T2{tail}")
                self.assertAlmostEqual(gap_of(kind, abs(centre - 1j * line), circle, radius), 0, 7)
                self.assertAlmostEqual(abs(centre.imag), radius, 9)
                self.assertAlmostEqual(abs(touch - 1j * line), circle, 7)
                self.assertAlmostEqual(abs(touch - centre), radius, 7)
            self.assertAlmostEqual(found(certificate)["centre_offset"] ** 2, reach**2 - rise**2, 5)
        self.assertTrue(all(count >= 2 for count in seen.values()), seen)

    def test_two_circles_in_every_contact(self) -> None:
        rng = random.Random(14)
        seen = dict.fromkeys(product(KINDS, KINDS), 0)
        for contacts, _ in product(seen, range(60)):
            one, other, apart, radius = (rng.randint(4, 60) for _ in range(4))
            reaches = [
                r + radius if kind == "outside" else abs(r - radius) for r, kind in zip((one, other), contacts, strict=True)
            ]
            raw = {"radius_1": one, "radius_2": other, "distance": apart, "radius": radius}
            raw |= {"contact_1": contacts[0], "contact_2": contacts[1]}
            if 0 in reaches or not abs(reaches[0] - reaches[1]) <= apart <= sum(reaches):
                self.assertTrue(refusal("tangency/arc-two-circles", **raw).offer)
                continue
            seen[contacts] += 1
            certificate = solved("tangency/arc-two-circles", **raw)
            touching = apart in (sum(reaches), abs(reaches[0] - reaches[1]))
            self.assertEqual(certificate.solutions, 1 if touching else 2)
            got = found(certificate)
            self.assertGreaterEqual(got["centre_y"], 0)
            self.assertEqual((got["contact_gap_1"], got["contact_gap_2"]), (0.0, 0.0))
            for tail in ("", "_2")[: certificate.solutions]:
                centre = point(certificate, f"C{tail}")
                for i, (place, given) in enumerate(((0, one), (apart, other)), 1):
                    self.assertAlmostEqual(gap_of(contacts[i - 1], abs(centre - place), given, radius), 0, 7)
                    self.assertAlmostEqual(abs(point(certificate, f"T{i}{tail}") - centre), radius, 7)
        self.assertTrue(all(count >= 3 for count in seen.values()), seen)

    def test_the_two_roundels(self) -> None:
        outside = measures("tangency/arc-two-circles", radius_1=23, radius_2="15.5", distance=88, radius=57)
        self.assertAlmostEqual(math.hypot(outside["centre_x"], outside["centre_y"]), 80, 9)
        self.assertAlmostEqual(math.hypot(88 - outside["centre_x"], outside["centre_y"]), 72.5, 9)
        holding = measures(
            "tangency/arc-two-circles", radius_1=23, radius_2="15.5", distance=88, radius=83, contact_2="inside"
        )
        self.assertAlmostEqual(math.hypot(holding["centre_x"], holding["centre_y"]), 106, 9)
        self.assertAlmostEqual(math.hypot(88 - holding["centre_x"], holding["centre_y"]), 67.5, 9)

    def test_an_arc_that_just_fits_between_is_one(self) -> None:
        for radius, count in (("24.75", 1), ("24.750000000000000001", 2)):
            certificate = solved("tangency/arc-two-circles", radius_1=23, radius_2="15.5", distance=88, radius=radius)
            self.assertEqual(certificate.solutions, count)
        reason = refusal("tangency/arc-two-circles", radius_1=23, radius_2="15.5", distance=88, radius="24.7499")
        self.assertEqual(reason.offer, {"radius": "24.75"})
        same = refusal("tangency/arc-two-circles", radius_1=23, radius=23, contact_1="inside")
        self.assertIn("would lie on circle 1", str(same))

    def test_through_a_point(self) -> None:
        for distance, radius, count in ((43, 35, 2), (70, 35, 1), ("14*sqrt(3)", "7*sqrt(3)", 1)):
            certificate = solved("tangency/arc-point-line", distance=distance, radius=radius)
            self.assertEqual(certificate.solutions, count)
            centre, through = point(certificate, "C"), point(certificate, "P")
            self.assertAlmostEqual(abs(centre - through), centre.imag, 8)
        self.assertEqual(refusal("tangency/arc-point-line", distance=71, radius=35).offer, {"radius": "35.5"})
        for kind, circle, distance, radius, count in (
            ("outside", 29, 71, 36, 2),
            ("outside", 29, 71, 21, 1),
            ("outside", 29, 29, 21, 1),
            ("inside", 29, 20, 11, 2),
            ("inside", 29, 29, 11, 1),
            ("inside", 29, 50, 70, 2),
            ("inside", 20, 60, 40, 1),
        ):
            raw = {"circle_radius": circle, "distance": distance, "radius": radius, "contact": kind}
            certificate = solved("tangency/arc-point-circle", **raw)
            self.assertEqual(certificate.solutions, count, raw)
            centre = point(certificate, "C")
            self.assertAlmostEqual(abs(centre - distance), radius, 8)
            self.assertAlmostEqual(gap_of(kind, abs(centre), circle, radius), 0, 8)
        self.assertIn("cannot touch", str(refusal("tangency/arc-point-circle", circle_radius=29, distance=20, radius=36)))

    def test_three_lines_have_four_circles(self) -> None:
        certificate = solved("tangency/arc-three-lines", base=82, left_angle=38, right_angle=61)
        self.assertEqual(certificate.solutions, 4)
        a, b, top = (point(certificate, name) for name in ("A", "B", "K"))
        sides = []
        for n in range(1, 5):
            tail = "" if n == 1 else f"_{n}"
            centre = point(certificate, f"C{tail}")
            aways = [((q - p).conjugate() * (centre - p)).imag / abs(q - p) for p, q in ((a, b), (b, top), (top, a))]
            radius = found(certificate)[("radius", "radius_a", "radius_b", "radius_c")[n - 1]]
            for away in aways:
                self.assertAlmostEqual(abs(away), radius, 8)
            sides.append(tuple(away > 0 for away in aways))
        inside = (True, True, True)
        self.assertEqual(sides, [inside, (True, False, True), (True, True, False), (False, True, True)])

    def test_the_four_radii_belong_together(self) -> None:
        """1/r = 1/ra + 1/rb + 1/rc, and their product is the square of the area."""
        for left, right in ((38, 61), (90, 45), (20, 140)):
            got = measures("tangency/arc-three-lines", base=60, left_angle=left, right_angle=right)
            inverse = sum(1 / got[name] for name in ("radius_a", "radius_b", "radius_c"))
            self.assertAlmostEqual(1 / got["radius"], inverse, 9)

    def test_an_ogee_turns_smoothly(self) -> None:
        for span, rise, split in ((64, 28, "1/2"), (64, 28, "0.3"), (30, 90, "2/3")):
            certificate = solved("tangency/ogee-parallel-lines", span=span, rise=rise, split=split)
            c1, c2, turn, end = (point(certificate, name) for name in ("C1", "C2", "E", "B"))
            got = found(certificate)
            self.assertAlmostEqual(abs(c1 - c2), got["radius_1"] + got["radius_2"], 8)
            self.assertAlmostEqual(abs(turn - c1), got["radius_1"], 8)
            self.assertAlmostEqual(c1.real, 0, 12)
            self.assertAlmostEqual(c2.real, span, 9)
            self.assertAlmostEqual(abs(end - c2), got["radius_2"], 8)


def touching_all(radii: list[float], centres: list[complex]) -> int:
    """How many circles touch three, by a way of its own: the centre is eliminated for each of the eight choices of signs,
    and the quadratic for the radius is solved in floats. For centres that do not lie on one line."""
    count = 0
    (x1, y1), (x2, y2), (x3, y3) = ((c.real, c.imag) for c in centres)
    matrix = 2 * np.array([[x2 - x1, y2 - y1], [x3 - x1, y3 - y1]])
    for signs in product((1, -1), repeat=3):
        s = [sign * radius for sign, radius in zip(signs, radii, strict=True)]
        square = [x * x + y * y - r * r for (x, y), r in zip(((x1, y1), (x2, y2), (x3, y3)), s, strict=True)]
        free = np.linalg.solve(matrix, [square[1] - square[0], square[2] - square[0]])
        slope = np.linalg.solve(matrix, [2 * (s[0] - s[1]), 2 * (s[0] - s[2])])
        u, v = free[0] - x1, free[1] - y1
        a, b, c = slope @ slope - 1, u * slope[0] + v * slope[1] - s[0], u * u + v * v - s[0] ** 2
        for root in np.roots([a, 2 * b, c]):
            if abs(root.imag) < 1e-9 and root.real > 1e-9:
                count += 1
    return count


class ThreeCircles(unittest.TestCase):
    ID = "tangency/three-circles"

    def given(self, radii: list[object], second: str, third: str) -> dict[str, object]:
        return {**{f"radius_{i}": r for i, r in enumerate(radii, 1)}, "centre_2": second, "centre_3": third}

    def check_all(self, radii: list[object], second: str, third: str) -> int:
        """Every solution touches all three circles with the contact that it names; none is there twice."""
        certificate = solved(self.ID, **self.given(radii, second, third))
        answers = {a.name: a.value for a in certificate.answers}
        centres = [point(certificate, f"O{i}") for i in (1, 2, 3)]
        places = set()
        for n in range(1, certificate.solutions + 1):
            tail = "" if n == 1 else f"_{n}"
            centre, radius = point(certificate, f"C{tail}"), answers[f"radius{tail}"]
            assert isinstance(radius, float)
            kinds = str(answers[f"contacts{tail}"]).split(", ")
            for i, (kind, at) in enumerate(zip(kinds, centres, strict=True)):
                given = abs(point(certificate, f"T{i + 1}{tail}") - at)
                self.assertAlmostEqual(gap_of(kind, abs(centre - at), given, radius), 0, 7)
                self.assertAlmostEqual(abs(point(certificate, f"T{i + 1}{tail}") - centre), radius, 7)
            places.add((round(centre.real, 6), round(centre.imag, 6), round(radius, 6)))
        self.assertEqual(len(places), certificate.solutions)
        self.assertEqual(answers["count"], certificate.solutions)
        return certificate.solutions

    def test_as_many_as_the_quadratics_have_roots(self) -> None:
        rng = random.Random(17)
        seen = set()
        for _ in range(40):
            radii = [rng.randint(5, 40) for _ in range(3)]
            second, third = (
                complex(rng.randint(10, 90), rng.randint(-30, 30)),
                complex(rng.randint(-40, 60), rng.randint(31, 90)),
            )
            wanted = touching_all([float(r) for r in radii], [0j, second, third])
            texts = [f"{c.real:g}, {c.imag:g}" for c in (second, third)]
            if wanted == 0:
                self.assertTrue(refusal(self.ID, **self.given(list(radii), *texts)).offer)
                continue
            self.assertEqual(self.check_all(list(radii), *texts), wanted, (radii, texts))
            seen.add(wanted)
        self.assertTrue({4, 8} <= seen, seen)

    def test_layouts_whose_count_is_known(self) -> None:
        for why, radii, second, third, wanted in (
            ("apart from each other", [22, 14, 18], "76, 12", "30, 64", 8),
            ("equal and apart", [15, 15, 15], "60, 0", "20, 50", 8),
            ("equal and in a row: two of the outer pairs are parallel lines", [15, 15, 15], "60, 0", "120, 0", 6),
            ("all touching: one between, one around", [15, 15, 15], "30, 0", "15, 15*sqrt(3)", 2),
            ("all touching, unequal", [10, 20, 30], "30, 0", "0, 40", 2),
            ("two of them touching", [15, 15, 11], "30, 0", "15, 50", 6),
            ("two in one centre, the third across the ring", [10, 40, 22], "0, 0", "24, 0", 4),
            ("two in one centre, the third in the ring", [10, 40, 6], "0, 0", "24, 0", 8),
            ("circle 1 around one that shares the centre of the third", [40, 8, 10], "20, 5", "0, 0", 8),
            ("2 and 3 in one centre", [8, 40, 12], "22, 3", "22, 3", 8),
            ("two inside the first", [50, 8, 10], "20, 5", "-15, 0", 8),
            ("one of them touching from inside", [50, 10, 10], "40, 0", "-15, 0", 6),
            ("all through one point", [5, 5, 5], "6, 8", "0, 10", 4),
            ("all crossing", [30, 30, 30], "30, 0", "10, 30", 8),
        ):
            with self.subTest(why):
                self.assertEqual(self.check_all(list(radii), second, third), wanted)

    def test_between_and_around_three_that_touch(self) -> None:
        """The curvatures of four circles that touch each other (Descartes): k4 = k1 + k2 + k3 ± 2√(k1k2 + k2k3 + k3k1)."""
        got = measures(self.ID, **self.given([10, 20, 30], "30, 0", "0, 40"))
        k = (1 / 10, 1 / 20, 1 / 30)
        root = 2 * math.sqrt(k[0] * k[1] + k[1] * k[2] + k[2] * k[0])
        self.assertAlmostEqual(1 / got["radius"], sum(k) + root, 9)
        self.assertAlmostEqual(-1 / got["radius_2"], sum(k) - root, 9)

    def test_none_is_refused_with_a_layout_that_works(self) -> None:
        for radii, second, third, words in (
            ([30, 5, 5], "3, 2", "60, 5", "no circle touches"),
            ([50, 30, 10], "0, 0", "0, 0", "no circle touches"),
            ([50, 30, 10], "20, 0", "40, 0", "infinitely many"),
            ([30, 30, 5], "0, 0", "60, 5", "are the same circle"),
        ):
            raw = {k: str(v) for k, v in self.given(list(radii), second, third).items()}
            reason = refusal(self.ID, **raw)
            self.assertIn(words, str(reason))
            for _ in range(3):
                raw |= reason.offer
                try:
                    catalogue.problem(self.ID).read(raw)
                    break
                except Infeasible as another:
                    reason = another
            else:
                self.fail(f"the offers for {radii} lead nowhere")

    def test_a_hair_decides(self) -> None:
        """Circles that just touch have six; a billionth of a billionth apart they have eight."""
        for distance, wanted in (("30", 6), ("30.000000000000000001", 8), ("29.999999999999999999", 4)):
            certificate = solved(self.ID, **self.given([15, 15, 11], f"{distance}, 0", "15, 50"))
            self.assertEqual(certificate.solutions, wanted, distance)

    def test_one_solution_is_drawn_in_full_and_the_others_as_loci(self) -> None:
        problem = catalogue.problem(self.ID)
        typed = problem.read({})
        for wanted in (1, 5, 8):
            drawing = draw(problem, typed, problem.methods[0], solution=wanted)
            arcs = [m for m in drawing.marks if isinstance(m, Arc) and m.solution]
            heavy = [m.solution for m in arcs if m.pen is Pen.OUTLINE]
            self.assertEqual(heavy, [wanted])
            self.assertEqual(sorted(m.solution for m in arcs if m.pen is Pen.LOCUS), sorted({*range(1, 9)} - {wanted}))
            lettered = {m.solution for m in drawing.marks if isinstance(m, Dot) and m.shown}
            self.assertEqual(lettered, {0, wanted})
            alike = [step for step in drawing.steps if step.verb == "other solution"]
            told = [n for step in alike for n in step.solutions[1:]]
            self.assertEqual(told, [n for n in range(1, 9) if n != wanted])
            self.assertLessEqual(len(alike), 2)
            self.assertEqual(len(steps_told(problem, typed, problem.methods[0], solution=wanted)), len(drawing.steps))


class Slips(unittest.TestCase):
    def test_a_touch_point_straight_above_the_centre(self) -> None:
        self.assertAlmostEqual(slip("tangency/line-from-point", "above", radius=5, distance=12)["tangent_length"], 13)

    def test_sum_and_difference_changed_over(self) -> None:
        """Radii along the ray to where a tangent from the other centre touches a helper circle of the wrong radius; they go
        the same way for tangents outside, opposite ways for those across, and what joins their ends is no tangent."""
        for name, words, helper, way in (("outside", "sum", 42, 1), ("across", "difference", 18, -1)):
            drawn = slip(f"tangency/lines-{name}-two-circles", words, radius_1=30, radius_2=12, distance=58)
            ray = cmath.rect(1, math.acos(helper / 58))
            self.assertAlmostEqual(drawn["tangent_length"], abs(30 * ray - (58 + way * 12 * ray)))

    def test_radii_added_for_contact_inside(self) -> None:
        raw = {"circle_radius": 20, "distance": 40, "radius": 45}
        drawn = slip("tangency/arc-point-circle", "added", contact="inside", **raw)
        x = (40**2 + 65**2 - 45**2) / 80
        self.assertAlmostEqual(drawn["centre_x"], x)
        self.assertAlmostEqual(drawn["centre_y"], math.sqrt(65**2 - x**2))
        deep = {"circle_radius": 50, "distance": 40, "radius": 22}
        self.assertEqual(slip("tangency/arc-point-circle", "added", contact="inside", **deep), {}, "these arcs do not meet")

    def test_another_contact_is_another_of_the_eight(self) -> None:
        drawn = slip("tangency/three-circles", "subtracted")["radius"]
        got = measures("tangency/three-circles")
        self.assertIn(round(drawn, 6), [round(value, 6) for name, value in got.items() if name != "radius"])

    def test_the_whole_chord_doubles_both_radii_of_an_even_ogee(self) -> None:
        drawn = slip("tangency/ogee-parallel-lines", "whole chord", span=64, rise=28)
        got = measures("tangency/ogee-parallel-lines", span=64, rise=28)
        self.assertAlmostEqual(drawn["radius_1"], 2 * got["radius_1"], 9)


if __name__ == "__main__":
    unittest.main()
