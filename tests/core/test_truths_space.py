"""The family space against derivations of its own: least squares, searches along lines and numpy's algebra."""

from __future__ import annotations

import itertools
import math
import random
import unittest

import numpy as np
from numpy.typing import NDArray
from scipy import optimize

from tests.core.solving import found, measures, refusal, slip, solved
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.marks import Break, Segment
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import Certificate, draw
from wisecompass.geometry.plane import Point

Vector = NDArray[np.float64]


def vector(text: str) -> Vector:
    return np.array([float(part) for part in text.split(",")])


def random_point(rng: random.Random, least: int = -60, most: int = 80) -> str:
    return ", ".join(str(rng.randint(least, most)) for _ in range(3))


def lattice_point(rng: random.Random) -> str:
    """Few places, so that points coincide, lines are level and faces stand on edge."""
    return ", ".join(str(10 * rng.randint(-1, 2)) for _ in range(3))


def answers(certificate: Certificate) -> dict[str, object]:
    return {a.name: a.value for a in certificate.answers}


def angle(u: Vector, v: Vector) -> float:
    """0 to 180°, by the arc of the unit vectors' chord."""
    chord = np.linalg.norm(u / np.linalg.norm(u) - v / np.linalg.norm(v))
    return math.degrees(2 * math.asin(min(1.0, float(chord) / 2)))


def normal(a: Vector, b: Vector, c: Vector) -> Vector:
    """Square to a plane: the direction in which its points differ least."""
    points = np.array([a, b, c])
    return np.asarray(np.linalg.svd(points - points.mean(axis=0))[2][2])


class Lines(unittest.TestCase):
    def test_true_length_and_inclinations_by_components(self) -> None:
        rng = random.Random(1)
        for _ in range(12):
            a, b = np.array([0.0, 0, 0]), np.array([0.0, 0, 0])
            a[1], a[2], b[1], b[2], b[0] = (rng.randint(-50, 90) for _ in range(5))
            raw = {"a_front": a[1], "a_above": a[2], "b_front": b[1], "b_above": b[2], "apart": b[0]}
            if not (b - a).any():
                continue
            for method in ("rotation", "auxiliary view", "right triangle"):
                got = measures("space/line-from-ends", method, **raw)
                self.assertAlmostEqual(got["true_length"], float(np.linalg.norm(b - a)), 8)
                self.assertAlmostEqual(got["inclination_hp"], abs(90 - angle(b - a, np.array([0, 0, 1.0]))), 6)
                self.assertAlmostEqual(got["inclination_vp"], abs(90 - angle(b - a, np.array([0, 1.0, 0]))), 6)

    def test_traces_are_where_the_line_has_no_height_and_no_distance(self) -> None:
        rng = random.Random(2)
        for apart in (47, 0, -30):
            for _ in range(4):
                front, above, to_front, to_above = (rng.randint(-40, 60) for _ in range(4))
                raw = {"a_front": front, "a_above": above, "b_front": to_front, "b_above": to_above, "apart": apart}
                got = answers(solved("space/line-from-ends", **raw))
                for known, wanted, start, end, other in (
                    ("ht", "ht_front", above, to_above, (front, to_front)),
                    ("vt", "vt_above", front, to_front, (above, to_above)),
                ):
                    if start == end:
                        self.assertIsNone(got[wanted])
                        continue
                    share = start / (start - end)
                    self.assertAlmostEqual(float(str(got[wanted])), other[0] + (other[1] - other[0]) * share, 8)
                    self.assertAlmostEqual(float(str(got[f"{known}_x"])), apart * share, 8)

    def test_a_far_trace_is_broken_off_and_said_by_its_distance(self) -> None:
        problem = catalogue.problem("space/line-from-ends")
        drawing = draw(problem, problem.read({"b_above": "10", "b_front": "15"}), problem.methods[0])
        said = sorted(m.text for m in drawing.marks if isinstance(m, Break) and m.text)
        ends = {"h": math.hypot(9 * 47, 9), "v": math.hypot(14 * 47, 14)}
        self.assertEqual(said, [f"h {ends['h']:.2f} from a′".replace(".10 ", ".1 "), f"v {ends['v']:.2f} from a"])

    def test_a_line_parallel_with_both_planes_has_no_trace(self) -> None:
        got = answers(solved("space/line-from-ends", a_front=20, b_front=20, a_above=30, b_above=30))
        self.assertEqual([got[name] for name in ("ht_x", "ht_front", "vt_x", "vt_above")], [None] * 4)

    def test_that_both_solutions_have_no_trace_is_said_once(self) -> None:
        for solution in (1, 2):
            problem = catalogue.problem("space/line-inclined-to-both")
            typed = problem.read({"inclination_hp": "0", "inclination_vp": "0"})
            drawing = draw(problem, typed, problem.methods[0], None, solution)
            said = [step.text for step in drawing.steps]
            self.assertEqual(sum("no trace on either" in text for text in said), 1)
            self.assertFalse([step for step in drawing.steps if step.verb == "other solution"])
            self.assertIsNone(drawing.findings["ht_x_2"])

    def test_view_lengths_give_a_line_that_has_them(self) -> None:
        rng = random.Random(3)
        for _ in range(8):
            d = np.array([rng.uniform(0, 60), rng.uniform(0, 60), rng.uniform(0, 60)])
            total, plan, elevation = (float(np.linalg.norm(part)) for part in (d, d[:2], d[[0, 2]]))
            raw = {"true_length": f"{total:.9f}", "plan_length": f"{plan:.9f}", "elevation_length": f"{elevation:.9f}"}
            got = found(solved("space/line-from-view-lengths", a_front=5, a_above=7, **raw))
            for name, value in (("apart", d[0]), ("b_front", 5 + d[1]), ("b_above", 7 + d[2])):
                self.assertAlmostEqual(got[name], float(value), 4, name)
        self.assertIn("too short", str(refusal("space/line-from-view-lengths", plan_length=40, elevation_length=40)))
        self.assertIn("longer than the line", str(refusal("space/line-from-view-lengths", plan_length=90)))

    def test_quadrants(self) -> None:
        for front, above, number in ((3, 4, 1), (-3, 4, 2), (-3, -4, 3), (3, -4, 4), (0, 4, None)):
            got = answers(solved("space/point", front=front, above=above))
            self.assertEqual(got["quadrant"], number)
            self.assertAlmostEqual(float(str(got["distance_to_fold"])), math.hypot(front, above), 9)
        self.assertIn("fold line itself", str(refusal("space/point", front=0, above=0)))

    def test_coincident_ends_are_refused(self) -> None:
        self.assertIn(
            "same point", str(refusal("space/line-from-ends", a_front=1, b_front=1, a_above=2, b_above=2, apart=0))
        )


class Planes(unittest.TestCase):
    def test_a_lamina_by_its_sides(self) -> None:
        rng = random.Random(4)
        for _ in range(8):
            raw = {name: random_point(rng) for name in "ABC"}
            a, b, c = (vector(raw[name]) for name in "ABC")
            got = found(solved("space/lamina", **raw))
            sides = [float(np.linalg.norm(p - q)) for p, q in ((b, c), (c, a), (a, b))]
            for name, side in zip("abc", sides, strict=True):
                self.assertAlmostEqual(got[f"side_{name}"], side, 7)
            s = sum(sides) / 2
            heron = math.sqrt(max(0.0, s * (s - sides[0]) * (s - sides[1]) * (s - sides[2])))
            self.assertAlmostEqual(got["area"], heron, delta=1e-5 * (1 + heron))
            self.assertAlmostEqual(sum(got[f"angle_{name}"] for name in "abc"), 180, 8)
            tilt = angle(normal(a, b, c), np.array([0, 0, 1.0]))
            self.assertAlmostEqual(got["inclination_hp"], min(tilt, 180 - tilt), 5)
            tilt = angle(normal(a, b, c), np.array([0, 1.0, 0]))
            self.assertAlmostEqual(got["inclination_vp"], min(tilt, 180 - tilt), 5)

    def test_special_planes(self) -> None:
        for corners, hp, vp in (
            (("0,10,20", "30,40,20", "60,5,20"), 0, 90),  # level
            (("0,10,5", "30,10,40", "60,10,20"), 90, 0),  # parallel with VP
            (("10,0,5", "10,30,40", "10,50,20"), 90, 90),  # square to XY
            (("0,10,20", "30,10,20", "10,40,50"), 45, 45),  # with an edge along XY
        ):
            got = found(solved("space/lamina", **dict(zip("ABC", corners, strict=True))))
            self.assertAlmostEqual(got["inclination_hp"], hp, 9)
            self.assertAlmostEqual(got["inclination_vp"], vp, 9)

    def test_the_distance_of_a_point_is_the_least_over_the_plane(self) -> None:
        rng = random.Random(5)
        for _ in range(8):
            raw = {name: random_point(rng) for name in "ABCP"}
            a, b, c, p = (vector(raw[name]) for name in "ABCP")
            shares, gap, *_ = np.linalg.lstsq(np.array([b - a, c - a]).T, p - a, rcond=None)
            got = answers(solved("space/point-to-plane", **raw))
            self.assertAlmostEqual(float(str(got["distance"])), math.sqrt(float(gap[0])), 6)
            np.testing.assert_allclose(np.array(got["foot"]), a + np.array([b - a, c - a]).T @ shares, atol=1e-7)

    def test_where_a_line_meets_a_plane_by_a_linear_system(self) -> None:
        rng = random.Random(6)
        inside = 0
        for _ in range(30):
            raw = {name: random_point(rng) for name in "ABCPQ"}
            a, b, c, p, q = (vector(raw[name]) for name in "ABCPQ")
            s, t, along = np.linalg.solve(np.array([b - a, c - a, p - q]).T, p - a)
            got = answers(solved("space/line-meets-plane", **raw))
            np.testing.assert_allclose(np.array(got["pierce"]), p + (q - p) * along, atol=1e-6)
            self.assertEqual(got["inside"], bool(s >= 0 and t >= 0 and s + t <= 1))
            inside += bool(got["inside"])
            steep = angle(q - p, normal(a, b, c))
            self.assertAlmostEqual(float(str(got["angle_to_plane"])), abs(90 - steep), 5)
        self.assertTrue(0 < inside < 30)
        parallel = refusal("space/line-meets-plane", A="0,0,0", B="10,0,0", C="0,10,0", P="0,0,5", Q="7,3,5")
        self.assertIn("runs parallel", str(parallel))

    def test_skew_lines_by_a_search_for_the_nearest_points(self) -> None:
        rng = random.Random(7)
        for _ in range(8):
            raw = {name: random_point(rng) for name in "ABCD"}
            a, b, c, d = (vector(raw[name]) for name in "ABCD")
            gap = lambda st: float(np.linalg.norm(a + (b - a) * st[0] - c - (d - c) * st[1]))  # noqa: B023, E731
            best = optimize.minimize(gap, (0.3, 0.4), method="Nelder-Mead", options={"xatol": 1e-10, "fatol": 1e-12})
            got = answers(solved("space/skew-lines", **raw))
            self.assertAlmostEqual(float(str(got["shortest_distance"])), best.fun, 5)
            foot_1, foot_2 = np.array(got["foot_1"]), np.array(got["foot_2"])
            self.assertAlmostEqual(float(np.linalg.norm(foot_1 - foot_2)), float(str(got["shortest_distance"])), 8)
            # the shortest level line: of all level joins, found by a search over the height
            heights = lambda z: (  # noqa: E731
                a + (b - a) * ((z - a[2]) / (b[2] - a[2])),  # noqa: B023
                c + (d - c) * ((z - c[2]) / (d[2] - c[2])),  # noqa: B023
            )
            if a[2] != b[2] and c[2] != d[2]:
                level = optimize.minimize_scalar(lambda z: float(np.linalg.norm(np.subtract(*heights(z)))))  # noqa: B023
                self.assertAlmostEqual(float(str(got["horizontal_distance"])), level.fun, 5)

    def test_lines_that_meet_and_lines_that_are_parallel(self) -> None:
        got = answers(solved("space/skew-lines", A="0,0,0", B="20,20,20", C="0,20,10", D="20,0,10"))
        self.assertEqual(got["shortest_distance"], 0)
        self.assertEqual(got["foot_1"], [10, 10, 10])
        self.assertIn("parallel", str(refusal("space/skew-lines", A="0,0,0", B="10,5,3", C="1,1,1", D="21,11,7")))
        self.assertIsNone(
            answers(solved("space/skew-lines", A="0,0,5", B="20,3,5", C="0,20,10", D="20,0,10"))["horizontal_distance"]
        )

    def test_slips_measure_what_they_draw(self) -> None:
        ends = slip("space/skew-lines", "nearest ends", A="0,0,0", B="50,0,0", C="0,3,4", D="9,60,60")
        self.assertAlmostEqual(ends["shortest_distance"], 5, 9)
        plan = slip("space/lamina", "top view", A="0,0,0", B="3,4,90", C="0,0,7")
        self.assertAlmostEqual(plan["side_c"], 5, 9)


class TwoFaces(unittest.TestCase):
    """Of two triangles in all positions: the angle, the common line, the part within both and what is hidden."""

    ID = "space/dihedral-angle"

    def part_within_both(self, faces: list[list[Vector]]) -> tuple[Vector, Vector] | None:
        """By clipping the common line of the planes with both triangles, half plane by half plane."""
        n, m = (np.cross(b - a, c - a) for a, b, c in faces)
        u = np.cross(n, m)
        start = np.linalg.lstsq(np.array([n, m]), np.array([n @ faces[0][0], m @ faces[1][0]]), rcond=None)[0]
        low, high = -math.inf, math.inf
        for (a, b, c), across in zip(faces, (n, m), strict=True):
            for p, q in ((a, b), (b, c), (c, a)):
                inward = np.cross(across, q - p)
                value, pace = float(inward @ (start - p)), float(inward @ u)
                if abs(pace) < 1e-9 * float(np.linalg.norm(inward) * np.linalg.norm(u)):
                    if value < -1e-9 * float(np.linalg.norm(inward)):
                        return None
                elif pace > 0:
                    low = max(low, -value / pace)
                else:
                    high = min(high, -value / pace)
        return None if high < low - 1e-9 else (start + low * u, start + high * u)

    def check(self, raw: dict[str, str]) -> None:
        faces = [[vector(raw[name]) for name in names] for names in ("ABC", "DEF")]
        n, m = (np.cross(b - a, c - a) for a, b, c in faces)
        if np.linalg.norm(n) < 1e-9 or np.linalg.norm(m) < 1e-9 or np.linalg.norm(np.cross(n, m)) < 1e-9:
            return
        wanted = min(angle(n, m), 180 - angle(n, m))
        part = self.part_within_both(faces)
        for method in ("horizontal cuts", "edges piercing"):
            got = answers(solved(self.ID, method, **raw))
            self.assertAlmostEqual(float(str(got["dihedral_angle"])), wanted, 5, raw)
            self.assertAlmostEqual(float(str(got["obtuse_angle"])), 180 - wanted, 5)
            self.assertEqual(got["extended"], part is None, raw)
            if part is None:
                self.assertIsNone(got["line_length"])
                continue
            ends = [np.array(got["line_start"]), np.array(got["line_end"])]
            self.assertAlmostEqual(float(str(got["line_length"])), float(np.linalg.norm(part[1] - part[0])), 5, raw)
            for one in part:
                self.assertLess(min(float(np.linalg.norm(one - end)) for end in ends), 1e-5, raw)

    def test_six_separate_points(self) -> None:
        rng = random.Random(8)
        for _ in range(12):
            self.check({name: random_point(rng) for name in "ABCDEF"})

    def test_five_and_four_points(self) -> None:
        rng = random.Random(9)
        for shared in itertools.product("ABC", "DEF"):
            raw = {name: random_point(rng) for name in "ABCDEF"}
            raw[shared[1]] = raw[shared[0]]
            self.check(raw)
            raw["E" if shared[1] != "E" else "F"] = raw["A" if shared[0] != "A" else "B"]
            self.check(raw)

    def test_special_positions(self) -> None:
        rng = random.Random(10)
        for _ in range(60):
            self.check({name: lattice_point(rng) for name in "ABCDEF"})

    def test_each_shortcut_is_used(self) -> None:
        upright = ("0, 0, 0", "50, 0, 0", "25, 0, 60", "20, -10, 0", "20, 30, 0", "20, 5, 50")
        for raw, words in (
            ({"D": "10, 12, 16", "E": "45, 40, 57", "F": "70, 60, 20"}, "The faces share"),
            ({"A": "0, 10, 5", "B": "50, 40, 5", "C": "25, 25, 60"}, "shows ABC on edge"),
            ({"A": "0, 0, 30", "B": "50, 0, 30", "C": "20, 50, 30"}, "one auxiliary view less"),
            (dict(zip("ABCDEF", upright, strict=True)), "upright"),
        ):
            problem = catalogue.problem(self.ID)
            steps = draw(problem, problem.read(raw), problem.methods[0]).steps
            self.assertTrue(any(words in step.text for step in steps), words)
            self.check({**{name: str(item.default) for name, item in zip("ABCDEF", problem.given_list, strict=True)}, **raw})

    def test_parallel_faces_are_refused_with_the_reason(self) -> None:
        reason = refusal(self.ID, D="10,12,17", E="45,40,58", F="102,15,25")
        self.assertIn("parallel or in one plane", str(reason))
        solved(self.ID, D="10,12,17", E="45,40,58", **reason.offer)

    def test_what_lies_behind_is_dashed(self) -> None:
        """An edge behind the other face is hidden just where a look through space finds the face before it."""
        raw = {"A": "0,10,20", "B": "60,10,20", "C": "30,50,20", "D": "10,20,0", "E": "50,30,50", "F": "60,45,10"}
        problem = catalogue.problem(self.ID)
        marks = draw(problem, problem.read(raw), problem.methods[0]).marks
        corners = {name: vector(raw[name]) for name in "ABCDEF"}
        looked = 0
        for mark in marks:
            if not isinstance(mark, Segment) or mark.pen not in (Pen.OUTLINE, Pen.HIDDEN) or len(mark.name) != 2:
                continue
            p, q = mark.name.upper()
            if p not in corners or q not in corners:
                continue
            middle = np.array([(mark.x1 + mark.x2) / 2, -(mark.y1 + mark.y2) / 2])  # x and front: the top view
            share = np.linalg.norm(middle - corners[p][:2]) / np.linalg.norm(corners[q][:2] - corners[p][:2])
            height = corners[p][2] + (corners[q][2] - corners[p][2]) * share
            a, b, c = (corners[name] for name in ("DEF" if p in "ABC" else "ABC"))
            s, t = np.linalg.solve(np.array([(b - a)[:2], (c - a)[:2]]).T, middle - a[:2])
            covered = s > 0 and t > 0 and s + t < 1 and a[2] + (b - a)[2] * s + (c - a)[2] * t > height + 1e-9
            self.assertEqual(mark.pen is Pen.HIDDEN, bool(covered), mark.name)
            looked += 1
        self.assertGreater(looked, 7)


class Saddle(unittest.TestCase):
    ID = "space/hyperbolic-paraboloid"

    def test_all_of_it_from_the_bilinear_patch(self) -> None:
        for major, side, rise, n in ((144, 32, 46, 6), (90, 55, 70, 5), (200, 12, 10, 9)):
            half = major / 2
            short = half * math.tan(math.radians(side))
            a, c = np.array([-half, 0, 0]), np.array([half, 0, 0.0])
            b, d = np.array([0, short, rise]), np.array([0, -short, rise])
            patch = lambda s, t: a * (1 - s) * (1 - t) + b * s * (1 - t) + d * (1 - s) * t + c * s * t  # noqa: B023, E731
            got = answers(solved(self.ID, major=major, side_angle=side, rise=rise, elements=n))
            self.assertAlmostEqual(float(str(got["minor"])), 2 * short, 9)
            self.assertAlmostEqual(float(str(got["saddle_height"])), patch(0.5, 0.5)[2], 9)
            near = [patch(0.5 + h, 0.5 - h) for h in (-1e-4, 0.0, 1e-4)]
            bend = (near[0][2] - 2 * near[1][2] + near[2][2]) / (near[2][1] - near[1][1]) ** 2
            self.assertAlmostEqual(float(str(got["section_radius"])) * bend, 1, 5)
            gap = lambda st: float(np.linalg.norm(a + (b - a) * st[0] - c - (d - c) * st[1]))  # noqa: B023, E731
            best = optimize.minimize(gap, (0.4, 0.4), method="Nelder-Mead", options={"xatol": 1e-9, "fatol": 1e-12})
            self.assertAlmostEqual(float(str(got["shortest_distance"])), best.fun, 5)
            lengths = got["element_lengths"]
            assert isinstance(lengths, list)
            self.assertEqual(len(lengths), n + 1)
            for k, length in enumerate(lengths):
                start, end = patch(k / n, 0), patch(k / n, 1)
                way = end - start
                # where the element, drawn on, meets the ellipse in plan
                q = (way[0] / half) ** 2 + (way[1] / short) ** 2
                r = start[0] * way[0] / half**2 + start[1] * way[1] / short**2
                s = (start[0] / half) ** 2 + (start[1] / short) ** 2 - 1
                root = math.sqrt(r * r - q * s)
                self.assertAlmostEqual(length, 2 * root / q * float(np.linalg.norm(way)), 7, k)

    def test_it_says_who_designs_a_shell(self) -> None:
        self.assertTrue(any("licensed engineer" in text for text in catalogue.problem(self.ID).cautions))


class BadPoints(unittest.TestCase):
    def test_a_point_needs_three_numbers(self) -> None:
        problem = catalogue.problem("space/lamina")
        for text, words in (("1, 2", "too few"), ("1, 2, 3, 4", "too many"), ("1, two, 3", "not a number"), ("", "too few")):
            with self.assertRaises(BadGiven) as caught:
                problem.read({"A": text})
            self.assertIn(words, str(caught.exception))
            problem.read({"A": str(caught.exception.nearest)})

    def test_collinear_and_coincident_corners_are_refused_with_an_offer_that_works(self) -> None:
        for raw in (
            {"A": "0,0,0", "B": "10,10,10", "C": "30,30,30"},
            {"A": "5,5,5", "B": "5,5,5", "C": "30,1,2"},
            {"A": "5,5,5", "B": "5,5,5", "C": "5,5,5"},
            {"A": "0,0,0", "B": "0,0,9", "C": "0,0,30"},
        ):
            reason = refusal("space/lamina", **raw)
            self.assertIn("make no triangle", str(reason))
            solved("space/lamina", **{**raw, **reason.offer})


class SaddlesContour(unittest.TestCase):
    """The lower contour in elevation is the least height over each place along the axis, of the surface that moves straight
    lines along opposite sides; from the end the rim is a parabola."""

    def test_no_point_of_the_surface_lies_below_it(self) -> None:
        rng = random.Random(12)
        problem = catalogue.problem("space/hyperbolic-paraboloid")
        for _ in range(12):
            raw = {"major": f"{rng.uniform(40, 300):.2f}", "side_angle": f"{rng.uniform(10, 60):.1f}"}
            raw |= {"rise": f"{rng.uniform(20, 120):.2f}", "elements": str(rng.randint(3, 9))}
            typed = problem.read(raw)
            truth = problem.find_truth(typed, PLAIN)
            half, rise, n = float(raw["major"]) / 2, float(raw["rise"]), int(raw["elements"])
            for k in range(1, n):
                point = truth.points[f"R{k}"]
                assert isinstance(point, Point)
                along = float(point.x) / half  # what both shares along the sides add up to
                heights = []
                for step in range(2001):
                    s = max(0.0, along - 1) + (min(1.0, along) - max(0.0, along - 1)) * step / 2000
                    t = along - s
                    heights.append(rise * (s * (1 - t) + (1 - s) * t))
                self.assertAlmostEqual(float(point.y), min(heights), delta=rise * 1e-5)


if __name__ == "__main__":
    unittest.main()
