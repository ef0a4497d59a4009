"""Tangents, normals and centres of curvature against three points close together on curves written down by themselves."""

from __future__ import annotations

import cmath
import math
import random
import unittest
from collections.abc import Callable
from fractions import Fraction
from typing import TypeAlias

import numpy as np

from tests.core.solving import found, point, solved
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.arithmetic.expression import of
from wisecompass.drafting.conventions import Conventions, Numbering
from wisecompass.drafting.givens import Typed
from wisecompass.drafting.marks import Break, Curve, Dot, Segment, bounds
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.sliding import nearest, reach
from wisecompass.drafting.solve import certify, draw

Plane: TypeAlias = Callable[[float], complex]
STEP = 2e-4


def centre_through(a: complex, b: complex, c: complex) -> complex:
    """The centre of the circle through three points."""
    u, v = b - a, c - a
    w = u.real * v.imag - u.imag * v.real
    return a + 1j * (abs(u) ** 2 * v - abs(v) ** 2 * u) / (-2 * w)


def rolled(base: float, rolling: float, arm: float, side: int, way: int, middle: float) -> Plane:
    """What a point of a circle draws that rolls without slip on (1) or in (-1) a base circle; the parameter is how far it
    has turned against the line of centres. Integrated from no formula but equal arcs."""
    begin = math.radians(middle) - way * math.pi * rolling / base

    def place(turned: float) -> complex:
        ray = begin + way * turned * rolling / base
        centre = (base + side * rolling) * cmath.exp(1j * ray)
        to_contact = -side * cmath.exp(1j * ray)
        return centre + arm * to_contact * cmath.exp(1j * way * side * turned)

    return place


class CentreOfCurvature(unittest.TestCase):
    """The constructed centre is where circles through three close points of the curve have theirs."""

    def assert_centre(self, problem_id: str, place: Plane, t: float, raw: dict[str, object], names: str = "PS") -> None:
        certificate = solved(problem_id, **raw)
        at, centre = (point(certificate, name) for name in (names[:-1], names[-1]))
        self.assertLess(abs(place(t) - at), 1e-7, (problem_id, raw))
        limit = centre_through(place(t - STEP), place(t), place(t + STEP))
        radius = found(certificate)["curvature_radius"]
        self.assertAlmostEqual(abs(centre - at) / radius, 1, 9)
        self.assertLess(abs(limit - centre) / radius, 2e-4, (problem_id, raw, limit, centre))

    def test_of_a_parabola(self) -> None:
        rng = random.Random(1)
        for _ in range(6):
            base, height, share = rng.uniform(60, 150), rng.uniform(20, 90), round(rng.uniform(0.1, 0.95), 2)
            raw = {"base": base, "height": height, "chosen": share}
            middle = base / 2 + 1j * 0
            place = lambda x, b=base, h=height: complex(x * b / 2, h * (1 - x * x))  # noqa: E731
            certificate = solved("conics/parabola-rectangle", **raw)
            shift = point(certificate, "A") + middle
            self.assert_centre("conics/parabola-rectangle", lambda t, p=place, s=shift: s + p(t), share, raw, "QS")

    def test_of_hyperbolas(self) -> None:
        rng = random.Random(2)
        for _ in range(6):
            vertices = rng.uniform(20, 80)
            foci, chosen = vertices * rng.uniform(1.1, 2.5), rng.randint(1, 5)
            a, c = vertices / 2, foci / 2
            b = math.sqrt(c * c - a * a)
            t = math.acosh(a * (c + foci / 8 * chosen) / c / a)
            place = lambda s, a=a, b=b: complex(a * math.cosh(s), b * math.sinh(s))  # noqa: E731
            raw = {"vertices": vertices, "foci": foci, "chosen": chosen}
            self.assert_centre("conics/hyperbola-foci", place, t, raw, f"P{chosen}S")
            x, y, times = rng.uniform(15, 60), rng.uniform(15, 60), round(rng.uniform(0.4, 2.8), 3)
            hyperbola = lambda s, k=x * y: complex(s, k / s)  # noqa: E731
            raw = {"point_x": x, "point_y": y, "chosen": times}
            self.assert_centre("conics/hyperbola-rectangular", hyperbola, times * x, raw, "QS")

    def test_of_the_conic_of_focus_and_directrix(self) -> None:
        for eccentricity in ("0.5", "0.999999", "1", "1.000001", "1.4", "3"):
            e, d = float(eccentricity), 33.0
            for chosen in (1, 4, 7):
                raw = {"focus_distance": d, "eccentricity": eccentricity, "chosen": chosen}
                at = point(solved("conics/focus-directrix", **raw), f"P{chosen}")
                polar = lambda s, e=e, d=d: d + e * d / (1 - e * math.cos(s)) * cmath.exp(1j * s)  # noqa: E731
                self.assert_centre("conics/focus-directrix", polar, cmath.phase(at - d), raw, f"P{chosen}S")

    def test_of_an_ellipse_also_at_the_ends_of_its_axes(self) -> None:
        for position in (0, 17, 90, 133, 180, 270, 301):
            place = lambda s: complex(84 * math.cos(s), 52 * math.sin(s))  # noqa: E731
            self.assert_centre("conics/ellipse-tangent-normal", place, math.radians(position), {"position": position}, "PC")

    def test_of_what_rolls_along_a_line(self) -> None:
        for direction, way in (("right", 1), ("left", -1)):
            for turned in (20, 90, 180, 240):
                for name, arm in (("cycloid", 13.5), ("trochoid", 6.0), ("trochoid", 21.0)):
                    place = lambda t, a=arm, w=way: complex(w * (13.5 * t - a * math.sin(t)), 13.5 - a * math.cos(t))  # noqa: E731
                    traced = {"tracing_radius": arm} if name == "trochoid" else {}
                    raw = {"rolling_diameter": 27, "turned": turned, "direction": direction, **traced}
                    self.assert_centre(f"loci/{name}", place, math.radians(turned), raw)

    def test_of_what_rolls_on_a_circle(self) -> None:
        rng = random.Random(3)
        for name, side in (("epi", 1), ("hypo", -1)):
            for kind in ("cycloid", "trochoid"):
                for _ in range(6):
                    base, rolling, turned = rng.randint(60, 160), rng.randint(12, 50), rng.randint(15, 345)
                    arm = rng.randint(5, 40) if kind == "trochoid" else rolling / 2
                    direction, middle = rng.choice(("clockwise", "anticlockwise")), rng.choice((90, 30, 200))
                    way = 1 if direction == "anticlockwise" else -1
                    place = rolled(base / 2, rolling / 2, arm, side, way, middle)
                    traced = {"tracing_radius": arm} if kind == "trochoid" else {}
                    raw = {"base_diameter": base, "rolling_diameter": rolling, "turned": turned, **traced}
                    raw |= {"direction": direction, "middle": middle}
                    self.assert_centre(f"loci/{name}{kind}", place, math.radians(turned), raw)

    def test_of_spirals(self) -> None:
        growth = math.log(1.21) / (math.pi / 6)
        for chosen in (1, 4, 9):
            place = lambda t: 22 * cmath.exp((growth + 1j) * t)  # noqa: E731
            raw = {"chosen": chosen, "first_radius": 22, "ratio": "1.21", "start_angle": 0}
            self.assert_centre("loci/logarithmic-spiral", place, chosen * math.pi / 6, raw, f"P{chosen}S")
        for turned in (40, 250, 600):
            gain = 39 / (3.5 * math.pi)
            archimedes = lambda t, c=gain: (9 + c * t) * cmath.exp(1j * (t + math.pi / 2))  # noqa: E731
            raw = {"turned": turned}
            self.assert_centre("loci/archimedean-tangent-normal", archimedes, math.radians(turned), raw)

    def test_of_an_involute_is_where_the_string_leaves(self) -> None:
        for turned in (30, 200, 359):
            place = lambda t: 19 * cmath.exp(1j * t) * (1 - 1j * t)  # noqa: E731
            self.assert_centre("loci/involute-circle", place, math.radians(turned), {"turned": turned}, "PK")

    def test_of_an_involute_of_a_polygon_is_the_corner_just_left(self) -> None:
        for sides, turned in ((3, 119), (6, 200), (6, 60), (11, 355)):
            corners = [0j]
            for k in range(sides):
                corners.append(corners[-1] + 14 * cmath.exp(2j * math.pi * k / sides))
            arc = math.ceil(turned * sides / 360 - 1e-9)
            place = lambda t, c=corners[arc], r=14 * arc: c - r * cmath.exp(1j * t)  # noqa: E731
            certificate = solved("loci/involute-polygon", sides=sides, side=14, turned=turned)
            self.assertLess(abs(point(certificate, "P") - place(math.radians(turned))), 1e-9)
            self.assertAlmostEqual(found(certificate)["curvature_radius"], 14 * arc, 9)
            before, after = place(math.radians(turned) - STEP), place(math.radians(turned) + STEP)
            limit = centre_through(before, place(math.radians(turned)), after)
            self.assertLess(abs(limit - point(certificate, f"P{arc % sides + 1}")), 1e-3)


class InSpace(unittest.TestCase):
    def curvature(self, place: Callable[[float], np.ndarray], t: float) -> float:
        """Of a curve in space, by its first two differences."""
        h = 1e-4
        before, here, after = place(t - h), place(t), place(t + h)
        first, second = (after - before) / (2 * h), (after - 2 * here + before) / (h * h)
        return float(np.linalg.norm(np.cross(first, second)) / np.linalg.norm(first) ** 3)

    def test_radius_of_curvature_of_helices(self) -> None:
        for name, radius, lead in (("helix", 34, 88), ("helical-strip", 38, 88), ("coil-spring", 24, 18)):
            place = lambda t, r=radius, p=lead: np.array([r * math.cos(t), r * math.sin(t), p * t / (2 * math.pi)])  # noqa: E731
            for hand in ("right", "left"):
                got = found(solved(f"loci/{name}", hand=hand, chosen=7))["curvature_radius"]
                self.assertAlmostEqual(got * self.curvature(place, 1.0), 1, 5)

    def centre(self, place: Callable[[float], np.ndarray], t: float) -> np.ndarray:
        """Of the circle through three close points of a curve in space."""
        a, b, c = (place(t + h) for h in (-1e-3, 0, 1e-3))
        u, v = b - a, c - a
        n = np.cross(u, v)
        middle: np.ndarray = a + (np.cross(n, u) * np.dot(v, v) + np.cross(v, n) * np.dot(u, u)) / (2 * np.dot(n, n))
        return middle

    def test_their_centre_of_curvature_in_both_views(self) -> None:
        rng = random.Random(21)
        names = {"helix": "diameter", "helical-strip": "outer_diameter", "coil-spring": "mean_diameter"}
        for name, diameter in names.items():
            for _ in range(6):
                size, lead, start = round(rng.uniform(60, 120), 2), round(rng.uniform(12, 160), 2), rng.randrange(360)
                hand, chosen = rng.choice(("right", "left")), rng.randrange(1, 24)
                raw = {diameter: size, "lead": lead, "hand": hand, "turns": 2, "start_angle": start, "chosen": chosen}
                raw |= {"helical-strip": {"inner_diameter": 20}, "coil-spring": {"wire": 5}}.get(name, {})
                way = 1 if hand == "right" else -1

                def place(t: float, r: float = size / 2, p: float = lead, s: int = start, way: int = way) -> np.ndarray:
                    turn = math.radians(s) + way * t
                    return np.array([r * math.cos(turn), r * math.sin(turn), p * t / (2 * math.pi)])

                certificate = solved(f"loci/{name}", **raw)
                middle = self.centre(place, math.radians(30 * chosen))
                self.assertAlmostEqual(abs(point(certificate, "C") - complex(middle[0], middle[2])), 0, 2, (name, raw))
                end, axis, seen = (point(certificate, one) for one in (f"d{chosen % 12}", "M", "c"))
                self.assertAlmostEqual(abs(seen - end), found(certificate)["curvature_radius"], 9)
                self.assertAlmostEqual(((seen - end) / (axis - end)).imag, 0, 9)

    def test_the_centre_of_curvature_on_a_cone(self) -> None:
        rng = random.Random(22)
        for chosen in (1, 5, 12, 17, 23, 24):
            for hand, way in (("right", 1), ("left", -1)):
                base, height, start = round(rng.uniform(60, 140), 2), round(rng.uniform(20, 200), 2), rng.randrange(360)
                raw = {"base_diameter": base, "height": height, "hand": hand, "start_angle": start, "chosen": chosen}

                def place(t: float, r: float = base / 2, h: float = height, s: int = start, way: int = way) -> np.ndarray:
                    turn, left = math.radians(s) + way * t, 1 - t / (4 * math.pi)
                    return np.array([r * left * math.cos(turn), r * left * math.sin(turn), h * (1 - left)])

                certificate = solved("loci/conical-helix", turns=2, **raw)
                at = math.radians(30 * chosen)
                middle = self.centre(place, at)
                self.assertAlmostEqual(abs(point(certificate, "C") - complex(middle[0], middle[2])), 0, 2, raw)
                seen = point(certificate, "c") - point(certificate, "M")
                self.assertAlmostEqual(abs(seen - complex(middle[0], middle[1])), 0, 2, raw)
                away = float(np.linalg.norm(place(at) - middle))
                self.assertAlmostEqual(found(certificate)["curvature_radius"], away, 2)

    def test_their_tangent_as_the_elevation_shows_it(self) -> None:
        for hand, way in (("right", 1), ("left", -1)):
            for start in (0, 50):
                for chosen in (2, 5, 11):
                    raw = {"hand": hand, "chosen": chosen, "start_angle": start}
                    got = found(solved("loci/helix", **raw))["tangent_angle"]
                    turned = math.radians(start + way * 30 * chosen)
                    slope = math.degrees(math.atan2(88 / (2 * math.pi), -34 * way * math.sin(turned)))
                    self.assertAlmostEqual(got, slope, 8, raw)


class ChosenPoint(unittest.TestCase):
    """A point is chosen on the curve by a place near it."""

    def test_the_nearest_place_of_the_curve_is_found(self) -> None:
        for problem_id in catalogue.ids():
            problem = catalogue.problem(problem_id)
            chosen = problem.chosen
            if chosen is None:
                continue
            typed = problem.read({})
            truth = problem.find_truth(typed, PLAIN)
            name = chosen.point.format(int(float(typed[chosen.given].evaluate(PLAIN))))  # type: ignore[union-attr]
            wanted = truth.points[name]
            value = float(nearest(problem, chosen, typed, float(wanted.x), float(wanted.y)))  # type: ignore[union-attr]
            least, most = reach(problem, chosen, typed)
            with self.subTest(problem=problem_id):
                self.assertTrue(least <= value <= most)
                self.assertAlmostEqual(value, float(typed[chosen.given].evaluate(PLAIN)), delta=0.11)  # type: ignore[union-attr]

    def test_no_other_place_of_the_curve_is_nearer(self) -> None:
        """Against many places of the whole curve, for places all over and off it."""
        rng = random.Random(11)
        for problem_id in (
            "conics/ellipse-tangent-normal",
            "loci/trochoid",
            "loci/involute-circle",
            "conics/hyperbola-rectangular",
        ):
            problem = catalogue.problem(problem_id)
            chosen, typed = problem.chosen, problem.read({})
            assert chosen is not None
            least, most = reach(problem, chosen, typed)

            def place(value: float, problem: Problem = problem, typed: Typed = typed, given: str = chosen.given) -> complex:
                truth = problem.find_truth({**typed, given: of(Fraction(value))}, PLAIN)
                point = truth.points["Q" if "Q" in truth.points else "P"]
                return complex(float(point.x), float(point.y))  # type: ignore[union-attr]

            samples = [(least + (most - least) * k / 240) for k in range(241)]
            places = [place(value) for value in samples]
            spread = max(abs(p - places[0]) for p in places)
            for _ in range(8):
                spot = rng.choice(places) + complex(rng.gauss(0, 0.05), rng.gauss(0, 0.05)) * spread
                found_at = place(float(nearest(problem, chosen, typed, spot.real, spot.imag)))
                best = min(abs(p - spot) for p in places)
                self.assertLess(abs(found_at - spot), best + 0.004 * spread, (problem_id, spot))

    def test_beyond_the_end_the_tangent_is_drawn_at_the_end_and_said_so(self) -> None:
        problem = catalogue.problem("loci/archimedean-tangent-normal")
        self.assertEqual(problem.reckoned(problem.read({})), "21 spaces of the gap, 12 divisions of the circle.")
        helix = catalogue.problem("loci/helix")
        short = helix.reckoned(helix.read({"turns": "1/3", "chosen": "5"}))
        self.assertEqual(short, "4 spaces of the height, 12 of the circle. The curve ends at 4: the tangent is drawn there.")
        self.assertIn("P4", certify(helix, helix.read({"turns": "1/3", "chosen": "5"}), helix.methods[0]).points)


class FarCentres(unittest.TestCase):
    def test_a_far_centre_is_broken_off_and_named_with_its_distance(self) -> None:
        problem = catalogue.problem("conics/focus-directrix")
        drawing = draw(problem, problem.read({}), problem.methods[0])
        self.assertFalse([m for m in drawing.marks if isinstance(m, Dot) and m.name == "S"])
        (said,) = (m.text for m in drawing.marks if isinstance(m, Break) and m.text)
        radius = found(solved(problem.id))["curvature_radius"]
        self.assertEqual(said, f"S {radius:.2f} from P5")
        left, low, right, high = bounds(drawing.marks)
        self.assertLess(max(right - left, high - low), radius)

    def test_a_near_centre_is_drawn(self) -> None:
        problem = catalogue.problem("loci/cycloid")
        drawing = draw(problem, problem.read({}), problem.methods[0])
        self.assertTrue([m for m in drawing.marks if isinstance(m, Dot) and m.name == "S"])
        self.assertFalse([m for m in drawing.marks if isinstance(m, Break)])

    def test_nothing_leaves_the_room_wherever_the_point_is_chosen(self) -> None:
        """At an inflection the centre runs off to infinity; the figure keeps its size."""
        problem = catalogue.problem("loci/trochoid")
        inflection = math.degrees(math.acos(13 / 20))
        for turned in (inflection - 0.01, inflection + 0.01, 100):
            marks = draw(problem, problem.read({"turned": f"{turned:.6f}"}), problem.methods[0]).marks
            reached = [abs(v) for m in marks if isinstance(m, Segment) for v in (m.x1, m.y1, m.x2, m.y2)]
            self.assertLess(max(reached), 260)


class Divisions(unittest.TestCase):
    """Numbered from 0 or 1, either way round, from any start: the same points of the same curve."""

    def test_numbers_begin_with_one_where_that_is_the_school(self) -> None:
        for problem_id in ("loci/cycloid", "loci/archimedean-spiral", "loci/helix", "loci/epicycloid", "conics/ellipse"):
            problem = catalogue.problem(problem_id)
            typed = problem.read({})
            plain = certify(problem, typed, problem.methods[0])
            from_1 = certify(problem, typed, problem.methods[0], Conventions(numbering=Numbering.FROM_1))
            self.assertEqual(from_1.deviation.worst, 0.0)
            shifted = {n: p for n, p in plain.points.items() if n[0] == "P" and n[1:].isdigit()}
            self.assertGreater(len(shifted), 7)
            for name, place in shifted.items():
                self.assertEqual(from_1.points[f"P{int(name[1:]) + 1}"], place, (problem_id, name))

    def test_the_other_way_round_is_the_mirror_image(self) -> None:
        for problem_id, given, words in (
            ("loci/cycloid", "direction", ("right", "left")),
            ("loci/involute-circle", "direction", ("anticlockwise", "clockwise")),
            ("loci/helix", "hand", ("right", "left")),
        ):
            one, other = (solved(problem_id, **{given: word}) for word in words)
            for name in (n for n in one.points if n[0] == "P" and n[1:].isdigit()):
                p, q = point(one, name), point(other, name)
                mirrored = complex(-p.real, p.imag) if "cycloid" in problem_id else p.conjugate()
                if problem_id == "loci/helix":
                    mirrored = p  # the elevation of both hands is one line, seen and hidden changed over
                self.assertLess(abs(q - mirrored), 1e-9, (problem_id, name))

    def test_a_curve_that_is_drawn_passes_the_points_of_every_start(self) -> None:
        for problem_id, given in (("loci/epicycloid", "middle"), ("loci/involute-circle", "start_angle")):
            for angle in ("0", "37", "251"):
                problem = catalogue.problem(problem_id)
                drawing = draw(problem, problem.read({given: angle}), problem.methods[0])
                (curve,) = (m for m in drawing.marks if isinstance(m, Curve))
                ends = [curve.pieces()[0][0], curve.pieces()[-1][3]]
                dots = {m.name: (m.x, m.y) for m in drawing.marks if isinstance(m, Dot)}
                for name, end in (("P0", ends[0]), ("P12", ends[1])):
                    self.assertLess(math.dist(dots[name], end), 1e-6, (problem_id, angle))


if __name__ == "__main__":
    unittest.main()
