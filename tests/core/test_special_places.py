"""Limits that hold everywhere and not only at the point of touch, mirrored solutions, and places where formulas have cuts:
each against a derivation of its own."""

from __future__ import annotations

import math
import random
import unittest

import numpy as np

from tests.core.random_givens import feasible
from tests.core.solving import refusal, solved
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.errors import Infeasible, WiseCompassError
from wisecompass.drafting.solve import certify, draw
from wisecompass.geometry.plane import Point


def accepted(problem_id: str, **raw: object) -> bool:
    try:
        catalogue.problem(problem_id).read({name: str(value) for name, value in raw.items()}, offers=False)
    except WiseCompassError:
        return False
    return True


class GlobalLimits(unittest.TestCase):
    def test_a_circle_inside_an_ellipse_crosses_it_nowhere(self) -> None:
        """By distances to thousands of points of the ellipse."""
        rng = random.Random(17)
        turn = np.linspace(0, 2 * np.pi, 40_001)
        for _ in range(60):
            a, share, t = rng.uniform(20, 90), rng.uniform(0.2, 0.99), rng.uniform(0, 360)
            b, s = a * share, math.radians(t)
            x, y = a * math.cos(s), b * math.sin(s)
            n = np.array([x / a**2, y / b**2])
            n /= np.hypot(*n)
            curve = np.stack([a * np.cos(turn), b * np.sin(turn)], 1)

            low, high = 0.0, 2 * a
            at = np.array([x, y])
            for _ in range(60):
                middle = (low + high) / 2
                low, high = (middle, high) if _inside(curve, at - middle * n, middle) else (low, middle)
            raw = {"major": 2 * a, "minor": 2 * b, "position": t, "contact": "inside"}
            self.assertTrue(accepted("conics/ellipse-touching-circle", radius=low * 0.999, **raw), raw)
            self.assertFalse(accepted("conics/ellipse-touching-circle", radius=low * 1.001 + 1e-3, **raw), raw)

    def test_a_spring_keeps_clear_of_its_next_turn_by_the_least_distance(self) -> None:
        rng = random.Random(4)
        for _ in range(40):
            diameter, lead, turns = rng.uniform(10, 80), rng.uniform(2, 90), rng.choice((0.75, 1, 2, 3))
            u = np.linspace(0, min(turns, 1.2), 200_001)
            apart = np.sqrt(diameter**2 * (1 - np.cos(2 * np.pi * u)) / 2 + (lead * u) ** 2)
            falling = np.diff(apart) < 0
            limit = min(diameter, apart[np.argmax(falling) :].min() if falling.any() else math.inf)
            raw = {"mean_diameter": f"{diameter:.6f}", "lead": f"{lead:.6f}", "turns": turns, "divisions": 12}
            self.assertTrue(accepted("loci/coil-spring", wire=f"{limit - 0.002:.6f}", **raw), raw)
            self.assertFalse(accepted("loci/coil-spring", wire=f"{limit + 0.002:.6f}", **raw), raw)


class Mirrored(unittest.TestCase):
    def test_both_lines_of_given_views_satisfy_all_three_lengths(self) -> None:
        rng = random.Random(9)
        problem = catalogue.problem("space/line-from-view-lengths")
        for _ in range(30):
            typed = feasible(problem, problem.methods[0], rng)
            truth = problem.find_truth(typed, PLAIN)
            total, plan, elevation = (
                float(typed[name].evaluate(PLAIN))  # type: ignore[union-attr]
                for name in ("true_length", "plan_length", "elevation_length")
            )
            ends = [truth.points[name] for name in ("B", "B_2") if name in truth.points]
            self.assertEqual(len(ends), truth.solutions)
            for end in ends:
                d = end - truth.points["A"]  # type: ignore[operator]
                x, front, above = (float(each) for each in (d.x, d.front, d.above))
                self.assertAlmostEqual(math.sqrt(x * x + front * front + above * above), total, 6)
                self.assertAlmostEqual(math.hypot(x, front), plan, 6)
                self.assertAlmostEqual(math.hypot(x, above), elevation, 6)
            if len(ends) == 2:
                self.assertAlmostEqual(float(ends[0].x), -float(ends[1].x), 9)  # type: ignore[union-attr]

    def test_level_lines_that_cross_are_no_distance_apart(self) -> None:
        at = {"A": "0,0,10", "B": "50,50,10", "C": "0,50,10", "D": "50,0,10"}
        found = {a.name: a.value for a in solved("space/skew-lines", **at).answers}
        self.assertEqual((found["horizontal_distance"], found["shortest_distance"]), (0.0, 0.0))
        over = {a.name: a.value for a in solved("space/skew-lines", **{**at, "C": "0,50,20", "D": "50,0,20"}).answers}
        self.assertEqual((over["horizontal_distance"], over["shortest_distance"]), (None, 10.0))


class Cuts(unittest.TestCase):
    """An angle that straddles the cut of the arctangent is no reason for a check to fail."""

    def test_the_string_of_an_involute_stands_square_all_the_way_round(self) -> None:
        for start in range(0, 361, 20):
            for turned in (20, 90, 160, 180, 200, 270, 340):
                for direction in ("clockwise", "anticlockwise"):
                    raw = {"start_angle": start, "turned": turned, "direction": direction, "divisions": 4}
                    failed = [check.text for check in solved("loci/involute-circle", **raw).checks if not check.holds]
                    self.assertEqual(failed, [], raw)

    def test_every_check_holds_where_angles_are_whole_quarters(self) -> None:
        """The same of every problem: each angle in turn at 0, 90, 180, 270 and 360 where its limits admit it."""
        for problem in map(catalogue.problem, catalogue.ids()):
            for item in problem.given_list:
                if item.form.value != "angle":
                    continue
                for angle in ("0", "30", "60", "90", "120", "180", "270", "360"):
                    try:
                        typed = problem.read({item.name: angle}, offers=False)
                    except WiseCompassError:
                        continue
                    for method in problem.methods:
                        if problem.serves(method, typed) is None:
                            certificate = certify(problem, typed, method)
                            failed = [check.text for check in certificate.checks if not check.holds]
                            self.assertEqual(failed, [], (problem.id, method.name, item.name, angle))

    def test_tangent_angles_are_those_on_the_drawing(self) -> None:
        """Against the direction between two points of the true curve close together, in [0, 180)."""
        rng = random.Random(23)
        for problem_id in ("cycloid", "trochoid", "epicycloid", "hypocycloid", "epitrochoid", "hypotrochoid"):
            problem = catalogue.problem(f"loci/{problem_id}")
            for _ in range(8):
                raw = {"turned": f"{rng.uniform(5, 355):.4f}"}
                for item in problem.given_list:
                    if item.choices:
                        raw[item.name] = rng.choice(item.choices)

                def at(turned: float, raw: dict[str, str] = raw) -> Point:
                    typed = problem.read({**raw, "turned": f"{turned:.9f}"})  # noqa: B023
                    place = problem.find_truth(typed, PLAIN).points["P"]  # noqa: B023
                    assert isinstance(place, Point)
                    return place

                a, b = at(float(raw["turned"]) - 1e-4), at(float(raw["turned"]) + 1e-4)
                slope = math.degrees(math.atan2(float(b.y) - float(a.y), float(b.x) - float(a.x))) % 180
                certificate = certify(problem, problem.read(raw), problem.methods[0])
                found = next(float(x.value) for x in certificate.answers if x.name == "tangent_angle")  # type: ignore[arg-type]
                self.assertTrue(0 <= found < 180)
                self.assertLess(min(abs(found - slope), 180 - abs(found - slope)), 1e-4, (problem_id, raw))


class Ends(unittest.TestCase):
    def test_the_last_point_of_a_conic_has_its_own_tangent(self) -> None:
        """By implicit differentiation of distance from the focus = eccentricity · distance from the directrix."""
        for e in (0.5, 0.7, 0.79, 1.0, 1.4, 3.0):
            for chosen in (5, 7, 8, 30):
                certificate = solved("conics/focus-directrix", eccentricity=e, chosen=chosen)
                name = f"P{min(chosen, 8)}"
                x, y = certificate.points[name]
                d = 33.0
                slope = math.degrees(math.atan2(e * e * x - (x - d), y)) % 180
                found = next(float(a.value) for a in certificate.answers if a.name == "tangent_angle")  # type: ignore[arg-type]
                self.assertLess(min(abs(found - slope), 180 - abs(found - slope)), 1e-9, (e, chosen))
                self.assertTrue(all(check.holds for check in certificate.checks))

    def test_an_ellipse_whose_point_is_the_end_of_its_other_axis(self) -> None:
        for major, y in (("100", "50"), ("100", "20"), ("60", "30")):
            problem = catalogue.problem("conics/ellipse-axis-point")
            typed = problem.read({"major": major, "point_x": "0", "point_y": y})
            for method in problem.methods:
                draw(problem, typed, method)
                found = {a.name: a.value for a in certify(problem, typed, method).answers}
                self.assertEqual(found["minor"], 2 * float(y))
            problem.slip_figures(typed)

    def test_three_circles_that_touch_at_one_point_have_infinitely_many(self) -> None:
        rng = random.Random(3)
        for _ in range(30):
            radii = [rng.randint(3, 40) for _ in range(3)]
            if len(set(radii)) < 3:
                continue
            sides = [rng.choice((1, -1)) for _ in range(3)]
            places = [side * radius - sides[0] * radii[0] for side, radius in zip(sides, radii, strict=True)]
            raw = {f"radius_{i + 1}": radii[i] for i in range(3)} | {
                "centre_2": f"{places[1]}, 0",
                "centre_3": f"{places[2]}, 0",
            }
            reason = refusal("tangency/three-circles", **raw)
            assert isinstance(reason, Infeasible)
            self.assertIn("infinitely many", str(reason), raw)

    def test_an_approximate_polygon_keeps_drawn_and_true_apart(self) -> None:
        problem = catalogue.problem("polygons/regular-from-side")
        for sides in (3, 5, 7, 9, 12, 20):
            typed = problem.read({"sides": str(sides), "side": "34"})
            found = {a.name: a.value for a in certify(problem, typed, problem.method("four-six centre line")).answers}
            self.assertAlmostEqual(float(found["circumradius"]), 17 / math.sin(math.pi / sides), 9)  # type: ignore[arg-type]
            rise = 17 + (sides - 4) * (17 * math.sqrt(3) - 17) / 2
            self.assertAlmostEqual(float(found["circumradius_drawn"]), math.hypot(17, rise), 9)  # type: ignore[arg-type]

    def test_a_walk_has_no_area_below_zero_and_says_where_it_crosses_itself(self) -> None:
        rng = random.Random(12)
        for _ in range(60):
            n = rng.randint(4, 8)
            lengths = [round(rng.uniform(10, 90), 1) for _ in range(n)]
            angles = [round(rng.uniform(10, 350), 1) for _ in range(n - 1)]
            corners, way = [0j], 1 + 0j
            for k, length in enumerate(lengths):
                corners.append(corners[-1] + length * way)
                if k < len(angles):
                    way *= np.exp(1j * np.radians(180 - angles[k]))
            crossing = any(
                _cross(corners[i], corners[i + 1], corners[j], corners[j + 1])
                for i in range(n)
                for j in range(i + 2, n)
                if (i, j) != (0, n - 1)
            )
            raw = {"lengths": str(lengths)[1:-1], "angles": str(angles)[1:-1]}
            found = {a.name: a.value for a in solved("polygons/from-traverse", **raw).answers}
            self.assertGreaterEqual(float(found["area"]), 0)  # type: ignore[arg-type]
            self.assertEqual(found["crosses_itself"], crossing, raw)

    def test_the_constant_of_a_spiral_is_a_length_for_each_radian(self) -> None:
        answer = next(a for a in solved("loci/archimedean-tangent-normal").answers if a.name == "constant")
        self.assertEqual(answer.kind.unit, "mm/rad")


def _inside(curve: np.ndarray, centre: np.ndarray, radius: float) -> bool:
    """Whether no point of a curve is nearer to a centre than a radius."""
    return bool(np.hypot(*(curve - centre).T).min() > radius - 1e-6)


def _cross(a: complex, b: complex, c: complex, d: complex) -> bool:
    """Whether two stretches meet, by solving for both shares."""
    u, v, w = b - a, d - c, c - a
    cross = (u.conjugate() * v).imag
    if cross == 0:
        return False
    s, t = (w.conjugate() * v).imag / cross, (w.conjugate() * u).imag / cross
    return 0 <= s <= 1 and 0 <= t <= 1


if __name__ == "__main__":
    unittest.main()
