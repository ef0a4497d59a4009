"""Truths against derivations that share nothing with the product: NumPy, SciPy and dense sampling."""

from __future__ import annotations

import math
import random
import unittest

import numpy as np
from numpy.typing import NDArray
from scipy import integrate, optimize

from wisecompass import catalogue
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.solve import Certificate, certify, draw

Array = NDArray[np.float64]


def solved(problem: Problem, raw: dict[str, object], method: str | None = None) -> Certificate:
    typed = problem.read({k: str(v) for k, v in raw.items()})
    return certify(problem, typed, problem.method(method))


def found(certificate: Certificate) -> dict[str, float]:
    return {a.name: a.value for a in certificate.answers if isinstance(a.value, float)}


class Blend(unittest.TestCase):
    def test_tangent_circle_found_by_solving_the_distance_equations(self) -> None:
        rng, problem = random.Random(1), catalogue.problem("tangency/arc-two-lines")
        for _ in range(40):
            angle, radius = rng.randint(4, 176), rng.randint(2, 90)
            normal_1 = np.array([0.0, 1.0])
            turn = math.radians(angle)
            normal_2 = np.array([math.sin(turn), -math.cos(turn)])
            centre = np.linalg.solve(np.array([normal_1, normal_2]), [radius, radius])
            got = found(solved(problem, {"angle": angle, "radius": radius}))
            self.assertAlmostEqual(got["centre_distance"], float(np.hypot(*centre)), places=7)
            self.assertAlmostEqual(got["setback"], float(centre[0]), places=7)
            touch_2 = centre - radius * normal_2
            swept = math.degrees(math.acos(np.dot([0.0, -1.0], (touch_2 - centre) / radius)))
            self.assertAlmostEqual(got["arc_angle"], swept, places=5)
            self.assertAlmostEqual(got["arc_length"], math.radians(swept) * radius, places=5)


class Polygon(unittest.TestCase):
    def corners(self, n: int, side: float) -> Array:
        """Walked round by turning, not by a circle."""
        points, heading = [np.zeros(2)], 0.0
        for _ in range(n - 1):
            points.append(points[-1] + side * np.array([math.cos(heading), math.sin(heading)]))
            heading += 2 * math.pi / n
        return np.array(points)

    def test_figures_of_the_walked_polygon(self) -> None:
        problem = catalogue.problem("polygons/regular-from-side")
        for n in range(3, 25):
            side = 7 + 3 * n / 2
            corners = self.corners(n, side)
            centre = corners.mean(axis=0)
            got = found(solved(problem, {"sides": n, "side": side}, "central angle"))
            x, y = corners.T
            area = abs(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2
            self.assertAlmostEqual(got["area"], area, places=6)
            self.assertAlmostEqual(got["circumradius"], float(np.linalg.norm(corners[0] - centre)), places=8)
            self.assertAlmostEqual(got["apothem"], abs(float(centre[1])), places=8)
            self.assertAlmostEqual(got["perimeter"], n * side, places=8)
            self.assertAlmostEqual(got["closing_error"], 0.0, places=12)
            self.assertAlmostEqual(got["across_flats"], float(corners[:, 1].max()), places=8)
            if n % 2 == 0:
                widest = max(float(np.linalg.norm(a - b)) for a in corners for b in corners)
                self.assertAlmostEqual(got["across_corners"], widest, places=8)

    def test_centre_line_rule_misses_by_what_its_centre_says(self) -> None:
        """The chord that is left over when n - 1 chords of the side are laid round the rule's circle."""
        problem = catalogue.problem("polygons/regular-from-side")
        for n in range(3, 25):
            side = 34.0
            four, six = side / 2, side * math.sqrt(3) / 2
            height = four + (n - 4) * (six - four) / 2
            radius = math.hypot(side / 2, height)
            step = 2 * math.asin(side / 2 / radius)
            left_over = 2 * radius * abs(math.sin((2 * math.pi - (n - 1) * step) / 2))
            got = found(solved(problem, {"sides": n, "side": 34}, "four-six centre line"))
            self.assertAlmostEqual(got["closing_side"], left_over, places=7)
            self.assertAlmostEqual(got["closing_error"], left_over - side, places=7)
            if n in (4, 6):
                self.assertAlmostEqual(got["closing_error"], 0, places=12)
        at_five = found(solved(problem, {"sides": 5, "side": 100}, "four-six centre line"))
        self.assertTrue(-3.0 < at_five["closing_error"] < -2.0, "about 2½ % short at five sides")


class EllipseFigures(unittest.TestCase):
    def test_area_perimeter_and_foci_by_quadrature(self) -> None:
        rng, problem = random.Random(2), catalogue.problem("conics/ellipse")
        for _ in range(25):
            major = rng.randint(20, 300)
            minor = rng.randint(5, major)
            a, b = major / 2, minor / 2
            got = found(solved(problem, {"major": major, "minor": minor}))
            speed = lambda t, a=a, b=b: math.hypot(a * math.sin(t), b * math.cos(t))  # noqa: E731
            length = 4 * integrate.quad(speed, 0, math.pi / 2, epsabs=1e-11)[0]
            self.assertAlmostEqual(got["perimeter"], length, delta=1e-6)
            self.assertAlmostEqual(got["area"], math.pi * a * b, places=6)
            self.assertAlmostEqual(got["focal_distance"] ** 2 + b * b, a * a, places=6)

    def test_four_centre_gap_by_dense_sampling(self) -> None:
        rng, problem = random.Random(3), catalogue.problem("conics/ellipse")
        for major, minor in [(168, 104), (100, 100), (100, 99), (200, 30), *((rng.randint(60, 300), 0) for _ in range(12))]:
            minor = minor or rng.randint(major // 4, major)
            got = found(solved(problem, {"major": major, "minor": minor}, "four centres"))
            a, b = major / 2, minor / 2
            r_end, r_side = got["radius_end"], got["radius_side"]
            end, side = a - r_end, r_side - b  # centres at (end, 0) and (0, -side)
            worst, along = 0.0, 0.0
            joint = math.atan2(side, end) if end or side else math.pi / 4
            for centre, radius, low, high in (
                ((end, 0.0), r_end, 0.0, joint),
                ((0.0, -side), r_side, joint, math.pi / 2),
            ):
                for angle in np.linspace(low, high, 1500):
                    out = self.reach(centre, float(angle), a, b)
                    if abs(out - radius) > worst:
                        worst, along = abs(out - radius), centre[0] + out * math.cos(angle)
            self.assertAlmostEqual(got["worst_gap"], worst, delta=2e-5 * major)
            if major > minor:
                self.assertAlmostEqual(got["worst_gap_along"], along, delta=2e-3 * major)
            self.assertAlmostEqual(math.hypot(end, side), r_side - r_end, places=6)

    def reach(self, centre: tuple[float, float], angle: float, a: float, b: float) -> float:
        """Distance from a centre to the ellipse in a direction, by root finding."""
        c, s = math.cos(angle), math.sin(angle)
        inside = lambda r: ((centre[0] + r * c) / a) ** 2 + ((centre[1] + r * s) / b) ** 2 - 1  # noqa: E731
        at_centre = inside(0.0)
        low = 0.0
        if at_centre >= 0:  # the centre of a flat side arc lies outside the ellipse
            low = float(optimize.minimize_scalar(inside, bounds=(0, 4 * a * a / b), method="bounded").x)
        return float(optimize.brentq(inside, low, low + 8 * a * max(1.0, a / b), xtol=1e-12))

    def test_every_method_plots_points_whose_focal_distances_add_up(self) -> None:
        problem = catalogue.problem("conics/ellipse")
        for orientation in ("horizontal", "vertical"):
            for method in ("concentric circles", "trammel", "foci arcs", "rectangle"):
                raw = {"major": 150, "minor": 84, "divisions": 16, "orientation": orientation}
                certificate = solved(problem, raw, method)
                focus = math.sqrt(75**2 - 42**2)
                foci = [(focus, 0.0), (-focus, 0.0)] if orientation == "horizontal" else [(0.0, focus), (0.0, -focus)]
                plotted = [xy for name, xy in certificate.points.items() if name[0] in "PQ" and len(xy) == 2]
                self.assertGreaterEqual(len(plotted), 12)
                for x, y in plotted:
                    self.assertAlmostEqual(sum(math.hypot(x - fx, y - fy) for fx, fy in foci), 150, places=7)


class InclinedLine(unittest.TestCase):
    problem = catalogue.problem("space/line-inclined-to-both")

    def test_end_found_by_solving_for_both_inclinations(self) -> None:
        rng = random.Random(4)
        for _ in range(40):
            length, theta = rng.randint(20, 150), rng.randint(1, 85)
            phi = rng.randint(1, 90 - theta)
            front, above = rng.randint(-20, 40), rng.randint(-20, 40)
            raw = {"true_length": length, "inclination_hp": theta, "inclination_vp": phi, "a_front": front, "a_above": above}
            got = found(solved(self.problem, raw))
            d = np.array([got["apart"], got["b_front"] - front, got["b_above"] - above])
            self.assertAlmostEqual(float(np.linalg.norm(d)), length, places=7)
            self.assertAlmostEqual(math.degrees(math.asin(min(1, d[2] / length))), theta, places=4)
            self.assertAlmostEqual(math.degrees(math.asin(min(1, d[1] / length))), phi, places=4)
            self.assertAlmostEqual(got["plan_length"], math.hypot(d[0], d[1]), places=7)
            self.assertAlmostEqual(got["elevation_length"], math.hypot(d[0], d[2]), places=7)
            start = np.array([0.0, front, above])
            ht, vt = np.array([got["ht_x"], got["ht_front"], 0.0]), np.array([got["vt_x"], 0.0, got["vt_above"]])
            for trace in (ht, vt):
                self.assertLess(float(np.linalg.norm(np.cross(trace - start, d))) / length, 1e-6)
            if theta + phi < 90:
                self.assertEqual([got[f"{name}_2"] for name in ("apart", "ht_x", "vt_x")], [-d[0], -ht[0], -vt[0]])

    def test_the_traces_drawn_lie_on_the_line_of_their_solution(self) -> None:
        for wanted, (end, horizontal, vertical) in enumerate((("B", "HT", "VT"), ("B_2", "HT_2", "VT_2")), 1):
            drawing = draw(self.problem, self.problem.read({}), self.problem.methods[0], solution=wanted)
            places = {name: np.array(place) for name, (place, _) in drawing.in_space.items()}
            self.assertEqual(set(places), {"A", end, horizontal, vertical})
            start, along = places["A"], places[end] - places["A"]
            for trace, height in ((horizontal, 2), (vertical, 1)):
                np.testing.assert_allclose(places[trace][height], 0, atol=1e-9)
                np.testing.assert_allclose(np.cross(places[trace] - start, along), 0, atol=1e-6)

    def test_ninety_together_is_one_figure_in_a_profile_plane(self) -> None:
        for theta in (0, 20, 33.3, 45, 90):
            raw = {"inclination_hp": theta, "inclination_vp": round(90 - theta, 1)}
            certificate = solved(self.problem, raw)
            self.assertEqual(certificate.solutions, 1)
            got = found(certificate)
            self.assertAlmostEqual(got["apart"], 0.0, places=12)
            self.assertTrue(all(check.holds for check in certificate.checks))

    def test_parallel_lines_have_no_trace(self) -> None:
        certificate = solved(self.problem, {"inclination_hp": 0, "inclination_vp": 0})
        values = {a.name: a.value for a in certificate.answers}
        for name in ("ht_x", "ht_front", "vt_x", "vt_above"):
            self.assertIsNone(values[name])
        self.assertEqual(certificate.solutions, 2)


class Box(unittest.TestCase):
    def test_corners_by_turning_the_box_in_space(self) -> None:
        """Turned 45° about the upright and tilted by asin(1/√3), then looked at along the depth axis."""
        problem = catalogue.problem("pictorial/box")
        front, height, right = 64.0, 36.0, 48.0
        for scale, share in (("isometric", 1.0), ("natural", math.sqrt(1.5))):
            for method in ("crate from the lower corner", "crate from the upper corner"):
                raw = {"front": front, "height": height, "right": right, "scale": scale}
                certificate = solved(problem, raw, method)
                turn, tilt = math.radians(45), math.asin(1 / math.sqrt(3))
                for name, (f, r, h) in {"B": (0, 1, 0), "D": (1, 0, 0), "G": (1, 1, 1), "F": (0, 1, 1)}.items():
                    east, north = right * r, front * f  # both run away from the nearest corner
                    x = east * math.cos(turn) - north * math.sin(turn)
                    away = east * math.sin(turn) + north * math.cos(turn)
                    y = height * h * math.cos(tilt) + away * math.sin(tilt)
                    got = certificate.points[name]
                    self.assertAlmostEqual(got[0], x * share, places=9)
                    self.assertAlmostEqual(got[1], y * share, places=9)


class HopperPattern(unittest.TestCase):
    problem = catalogue.problem("developments/rectangle-to-rectangle")

    def solid(self, raw: dict[str, float]) -> tuple[Array, Array]:
        l1, w1, l2, w2 = (raw[k] / 2 for k in ("bottom_length", "bottom_width", "top_length", "top_width"))
        x, y, h = raw["offset_x"], raw["offset_y"], raw["height"]
        bottom = np.array([[-l1, w1, 0], [l1, w1, 0], [l1, -w1, 0], [-l1, -w1, 0]])
        top = np.array([[x - l2, y + w2, h], [x + l2, y + w2, h], [x + l2, y - w2, h], [x - l2, y - w2, h]])
        return bottom, top

    def random_sizes(self, rng: random.Random) -> dict[str, float]:
        names = ("bottom_length", "bottom_width", "top_length", "top_width", "height")
        raw: dict[str, float] = {name: rng.randint(20, 160) for name in names}
        return raw | {"offset_x": rng.randint(-40, 40), "offset_y": rng.randint(-40, 40)}

    def test_edges_diagonals_and_areas_in_space(self) -> None:
        rng = random.Random(6)
        for _ in range(25):
            raw = self.random_sizes(rng)
            bottom, top = self.solid(raw)
            got = found(solved(self.problem, dict(raw)))
            total = 0.0
            for i in range(4):
                j = (i + 1) % 4
                self.assertAlmostEqual(got[f"edge_{i + 1}"], float(np.linalg.norm(top[i] - bottom[i])), places=7)
                self.assertAlmostEqual(got[f"diagonal_{i + 1}"], float(np.linalg.norm(top[i] - bottom[j])), places=7)
                one = np.linalg.norm(np.cross(bottom[j] - bottom[i], top[i] - bottom[i])) / 2
                two = np.linalg.norm(np.cross(top[j] - top[i], bottom[j] - top[i])) / 2
                self.assertAlmostEqual(got[f"face_area_{i + 1}"], float(one + two), places=5)
                total += float(one + two)
            self.assertAlmostEqual(got["area"], total, places=5)
            self.assertLess(got["refold_gap"], 1e-12)

    def test_distances_in_the_pattern_are_distances_on_each_face(self) -> None:
        """The pattern is an isometry of every face: all six distances of its corners are kept, at any seam."""
        rng = random.Random(8)
        for seam in ("corner_1", "corner_2", "corner_3", "corner_4"):
            raw = self.random_sizes(rng)
            bottom, top = self.solid(raw)
            certificate = solved(self.problem, {**raw, "seam": seam})
            start = int(seam[-1]) - 1
            order = [(start + k) % 4 for k in range(5)]
            flat = {k: np.array(v) for k, v in certificate.points.items() if "/flat" in k}
            for k in range(4):
                i, j = order[k], order[k + 1]
                end = "/flat end" if k == 3 else "/flat"
                corners = {
                    "ABCD"[i] + "/flat": bottom[i],
                    "EFGH"[i] + "/flat": top[i],
                    "ABCD"[j] + end: bottom[j],
                    "EFGH"[j] + end: top[j],
                }
                for p, in_space_p in corners.items():
                    for q, in_space_q in corners.items():
                        in_flat = float(np.linalg.norm(flat[p] - flat[q]))
                        self.assertAlmostEqual(in_flat, float(np.linalg.norm(in_space_p - in_space_q)), places=7)

    def test_a_side_seam_leaves_half_a_side_at_both_ends(self) -> None:
        raw: dict[str, object] = {"seam": "side_2", "offset_y": 7}
        certificate = solved(self.problem, raw)
        flat = {k: np.array(v) for k, v in certificate.points.items()}
        first = float(np.linalg.norm(flat["M/flat"] - flat["C/flat"]))
        last = float(np.linalg.norm(flat["M/flat end"] - flat["B/flat"]))
        self.assertAlmostEqual(first, 46.0, places=9)
        self.assertAlmostEqual(last, 46.0, places=9)
        self.assertLess(found(certificate)["refold_gap"], 1e-12)

    def test_thickness_moves_each_face_out_by_half_of_it(self) -> None:
        raw: dict[str, object] = {"thickness": 3}
        certificate = solved(self.problem, raw)
        inner_bottom, inner_top = self.solid(
            {
                "bottom_length": 118,
                "bottom_width": 92,
                "top_length": 44,
                "top_width": 36,
                "offset_x": 10,
                "offset_y": 0,
                "height": 86,
            }
        )
        points = {k: np.array(v) for k, v in certificate.points.items() if len(v) == 3}
        shift = points["A"] + points["B"] + points["C"] + points["D"]
        front = shift[1] / 4 - (inner_bottom.mean(axis=0))[1]
        for i, (low, high) in enumerate(zip("ABCD", "EFGH", strict=True)):
            j = (i + 1) % 4
            normal = np.cross(inner_bottom[j] - inner_bottom[i], inner_top[i] - inner_bottom[i])
            normal /= np.linalg.norm(normal)
            moved = [points[c] - np.array([0.0, front, 0.0]) for c in (low, high)]
            for p in moved:
                self.assertAlmostEqual(abs(float(np.dot(normal, p - inner_bottom[i]))), 1.5, places=9)

    def test_slip_of_front_view_lengths_is_what_the_front_view_shows(self) -> None:
        from wisecompass.arithmetic import PLAIN
        from wisecompass.drafting.givens import bind

        typed = self.problem.read({})
        slip = self.problem.slips[0]
        shown = slip.measure(bind(self.problem.givens, typed, PLAIN), lambda v: float(v))
        bottom, top = self.solid(
            {k: float(v.fraction()) for k, v in typed.items() if not isinstance(v, str)}  # type: ignore[arg-type]
        )
        for i in range(4):
            d = top[i] - bottom[i]
            self.assertAlmostEqual(float(shown[f"edge_{i + 1}"]), math.hypot(d[0], d[2]), places=9)


if __name__ == "__main__":
    unittest.main()
