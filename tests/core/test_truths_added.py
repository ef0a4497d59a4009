"""The problems added to the syllabus, each against a derivation of its own over random givens."""

from __future__ import annotations

import cmath
import math
import random
import unittest
from fractions import Fraction

from tests.core.solving import found as answers
from tests.core.solving import solved


class Added(unittest.TestCase):
    def setUp(self) -> None:
        self.rng = random.Random(1112)

    def number(self, low: float, high: float) -> float:
        return round(self.rng.uniform(low, high), 3)

    def got(self, problem_id: str, **raw: object) -> dict[str, float]:
        return answers(solved(problem_id, **{name: str(value) for name, value in raw.items()}))

    def test_an_arc_through_three_points_is_equally_far_from_all(self) -> None:
        for _ in range(12):
            places = [complex(self.number(-90, 90), self.number(-90, 90)) for _ in range(3)]
            raw = {name: f"{z.real}, {z.imag}" for name, z in zip("ABC", places, strict=True)}
            found = self.got("tangency/arc-three-points", **raw)
            centre = complex(found["centre_x"], found["centre_y"])
            for z in places:
                self.assertAlmostEqual(abs(z - centre), found["radius"], 6)

    def test_an_arc_that_touches_a_line_at_a_point(self) -> None:
        """The tangent and the chord make half the angle of the arc: radius = chord / (2 sin of that angle)."""
        for _ in range(12):
            at, x, y = self.number(-60, 60), self.number(-60, 60), self.rng.choice((-1, 1)) * self.number(1, 60)
            chord = complex(x - at, y)
            radius = abs(chord) / (2 * math.sin(abs(cmath.phase(chord))))
            found = self.got("tangency/arc-line-at-point", offset=at, point_x=x, point_y=y)
            self.assertAlmostEqual(found["radius"], radius, 7)

    def test_tangents_of_an_ellipse_meet_it_once(self) -> None:
        """A line through the point and each touch point has one point in common with the ellipse: its discriminant is 0."""
        for _ in range(12):
            a = self.number(30, 90)
            b = self.number(10, a)
            turn, out = self.rng.uniform(0, 2 * math.pi), self.rng.uniform(1.1, 3)
            x, y = round(a * out * math.cos(turn), 3), round(b * out * math.sin(turn), 3)
            certificate = solved(
                "conics/ellipse-tangent-from-point", major=str(2 * a), minor=str(2 * b), point_x=str(x), point_y=str(y)
            )
            found, touches = answers(certificate), [certificate.points[name] for name in ("T1", "T2")]
            directions = []
            for n, (tx, ty) in enumerate(touches, 1):
                self.assertAlmostEqual((tx / a) ** 2 + (ty / b) ** 2, 1, 9)
                dx, dy = tx - x, ty - y
                half = x * dx / a**2 + y * dy / b**2
                square, rest = (dx / a) ** 2 + (dy / b) ** 2, (x / a) ** 2 + (y / b) ** 2 - 1
                self.assertLess(abs(half * half - square * rest), 1e-9 * square * rest)
                self.assertAlmostEqual(found[f"tangent_length_{n}"], math.hypot(dx, dy), 7)
                directions.append(complex(dx, dy))
            between = abs(math.degrees(cmath.phase(directions[1] / directions[0])))
            self.assertAlmostEqual(found["angle_between"], between, 7)
            self.assertGreater(
                (x * touches[0][1] - y * touches[0][0]), 0, "the first lies to the left of the way to the point"
            )

    def test_a_hyperbola_through_a_point(self) -> None:
        """The difference of its focal distances is the distance of the vertices."""
        for _ in range(12):
            a = self.number(10, 60)
            x, y = round(a * self.rng.uniform(1.05, 4), 3), self.number(5, 90)
            found = self.got("conics/hyperbola-vertex-point", vertices=2 * a, point_x=x, point_y=y)
            focal = a * found["eccentricity"]
            self.assertAlmostEqual(math.hypot(x + focal, y) - math.hypot(x - focal, y), 2 * a, 6)
            self.assertAlmostEqual(1 / math.cos(math.radians(found["asymptote_angle"])), found["eccentricity"], 8)

    def test_an_octagon_in_a_square(self) -> None:
        """Its side and the two legs of a cut corner make up the side of the square; the legs are side / √2."""
        for _ in range(6):
            s = self.number(5, 300)
            found = self.got("polygons/octagon-in-square", square=s)
            self.assertAlmostEqual(found["side"] * (1 + 2 / math.sqrt(2)), s, 8)
            self.assertAlmostEqual(found["across_flats"], s, 8)

    def test_half_the_angle_of_two_edges(self) -> None:
        for _ in range(12):
            left, right, run = self.number(5, 90), self.number(5, 90), self.number(30, 200)
            slope = cmath.phase(complex(run, right - left))
            for method in ("parallels inside", "transversal bisectors"):
                certificate = solved(
                    "lines/bisect-angle-without-vertex",
                    method,
                    opening_left=str(left),
                    opening_right=str(right),
                    length=str(run),
                )
                self.assertAlmostEqual(answers(certificate)["half_angle"], abs(math.degrees(slope)) / 2, 8)

    def test_lines(self) -> None:
        for _ in range(4):
            height, along = self.number(2, 80), self.number(-60, 60)
            for method in ("rhombus of arcs", "two squares"):
                found = answers(solved("lines/parallel-through-point", method, height=str(height), offset=str(along)))
                self.assertAlmostEqual(found["distance"], height, 9)
            self.assertAlmostEqual(self.got("lines/trisect-right-angle", radius=self.number(2, 90))["third"], 30, 9)
            run = self.number(20, 90)
            self.assertAlmostEqual(self.got("lines/square-at-point", length=run, offset=run / 3)["angle"], 90, 9)


class Counts(unittest.TestCase):
    """What is counted before it is drawn, by other ways of counting."""

    def test_steps_of_a_logarithmic_spiral(self) -> None:
        for ratio, angle, turns in (("1.21", 30, 1), ("0.9", 45, 2), ("1.05", 20, "1/2")):
            certificate = solved(
                "loci/logarithmic-spiral", first_radius="20", ratio=ratio, step_angle=str(angle), turns=str(turns)
            )
            last = 20 * float(ratio) ** (float(Fraction(turns)) * 360 / angle)
            self.assertAlmostEqual(answers(certificate)["last_radius"], last, 9)
            ends = [complex(*p) for name, p in certificate.points.items() if name[0] == "P" and name[1:].isdigit()]
            self.assertAlmostEqual(max(map(abs, ends)), max(20, last), 9)

    def test_where_the_turn_of_a_helix_begins(self) -> None:
        """A tangent in the first turn is traced to the foot, one in the second to the level a lead higher."""
        for chosen, level in ((5, 0.0), (12, 0.0), (13, 88.0), (17, 88.0)):
            certificate = solved("loci/helix", diameter="68", lead="88", turns="2", chosen=str(chosen))
            self.assertAlmostEqual(certificate.points["T"][1], level, 9)

    def test_corners_of_a_walk(self) -> None:
        certificate = solved("polygons/from-traverse", lengths="30, 40, 50", angles="90, 60")
        for name, place in (("P2", 30), ("P3", 30 + 40j), ("P4", 30 + 40j + 50 * cmath.exp(1j * math.radians(210)))):
            self.assertAlmostEqual(abs(complex(*certificate.points[name]) - place), 0, 9)
