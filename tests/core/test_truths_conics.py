"""The family conics against derivations of their own, the curves that are drawn, and how near a hand fairs them."""

from __future__ import annotations

import io
import math
import random
import unittest

import ezdxf
import numpy as np

from tests.core.solving import found, measures, point, refusal, slip, solved
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.marks import Curve, Placement, placed, sampled
from wisecompass.drafting.solve import construct, draw
from wisecompass.exchange.dxf import dxf
from wisecompass.exchange.pdf import pdf
from wisecompass.exchange.svg import svg
from wisecompass.folio.page import Page, compose
from wisecompass.folio.paper import Paper
from wisecompass.folio.title_block import Title
from wisecompass.geometry.curves import TOLERANCE, Parametric, at
from wisecompass.judgement.fairing import faired, greatest_gap, in_order
from wisecompass.judgement.worth import judged


def page_of(problem_id: str, method: str | None = None, **raw: str) -> Page:
    problem = catalogue.problem(problem_id)
    drawing = draw(problem, problem.read(raw), problem.method(method))
    return compose(drawing, Paper(), Title(), Conventions())


class AtAPoint(unittest.TestCase):
    def test_tangent_and_normal_by_a_small_step_along_the_ellipse(self) -> None:
        for position in (0, 17, 50, 90, 133, 180, 211, 270, 300, 359):
            for name in ("bisected focal rays", "auxiliary circle tangent"):
                got = measures("conics/ellipse-tangent-normal", name, major=168, minor=104, position=position)
                t, h = math.radians(position), 1e-6
                x, y = (84 * (math.cos(t + h) - math.cos(t - h)), 52 * (math.sin(t + h) - math.sin(t - h)))
                for angle, wanted in (
                    (got["tangent_angle"], math.atan2(y, x)),
                    (got["normal_angle"], math.atan2(y, x) + math.pi / 2),
                ):
                    self.assertAlmostEqual(math.sin(math.radians(angle) - wanted), 0, 6, (position, name))
                    self.assertTrue(0 <= angle < 180)
                self.assertEqual(got["focal_sum"], 168.0)

    def test_the_centre_of_curvature_by_three_points_close_together(self) -> None:
        certificate = solved("conics/ellipse-tangent-normal", position=50)
        t = [math.radians(50 + k) for k in (-0.01, 0, 0.01)]
        (ax, ay), (bx, by), (cx, cy) = ((84 * math.cos(s), 52 * math.sin(s)) for s in t)
        d = 2 * (ax * (by - cy) + bx * (cy - ay) + cx * (ay - by))
        x = ((ax**2 + ay**2) * (by - cy) + (bx**2 + by**2) * (cy - ay) + (cx**2 + cy**2) * (ay - by)) / d
        y = ((ax**2 + ay**2) * (cx - bx) + (bx**2 + by**2) * (ax - cx) + (cx**2 + cy**2) * (bx - ax)) / d
        self.assertLess(abs(point(certificate, "C") - complex(x, y)), 1e-3)

    def test_a_touching_circle_meets_the_ellipse_only_there(self) -> None:
        for contact, radius in (("outside", 21), ("inside", 21)):
            certificate = solved("conics/ellipse-touching-circle", radius=radius, contact=contact, position=70)
            centre = point(certificate, "C")
            gaps = [abs(complex(84 * math.cos(t), 52 * math.sin(t)) - centre) for t in np.linspace(0, 2 * math.pi, 3601)]
            self.assertAlmostEqual(min(gaps), radius, 6)
        reason = refusal("conics/ellipse-touching-circle", radius=40, contact="inside", position=0)
        self.assertEqual(reason.offer, {"radius": f"{52 * 52 / 84:.9f}"[:9]})

    def test_the_minor_axis_through_a_point(self) -> None:
        rng = random.Random(8)
        for _ in range(20):
            minor, t = rng.uniform(20, 160), rng.uniform(0.2, 3)
            x, y = round(84 * math.cos(t), 6), round(minor / 2 * math.sin(t), 6)
            for name in ("trammel", "concentric circles"):
                got = measures("conics/ellipse-axis-point", name, major=168, point_x=f"{x:.6f}", point_y=f"{y:.6f}")
                self.assertAlmostEqual(got["minor"], minor, 3)
        self.assertIn("lies outside", str(refusal("conics/ellipse-axis-point", major=100, point_x=40, point_y=40)))

    def test_axes_of_conjugate_diameters_by_the_farthest_point(self) -> None:
        for first, second, angle in (
            (152, 96, 63),
            (96, 152, 63),
            (152, 96, 131),
            (100, 100, 40),
            (152, 96, 90),
            (96, 152, 90),
        ):
            t = np.linspace(0, math.pi, 200_001)
            turn = math.radians(angle)
            x = first / 2 * np.cos(t) + second / 2 * math.cos(turn) * np.sin(t)
            y = second / 2 * math.sin(turn) * np.sin(t)
            ray = np.hypot(x, y)
            far = int(np.argmax(ray))
            got = measures("conics/ellipse-conjugate", "rotated half-diameter", first=first, second=second, angle=angle)
            self.assertAlmostEqual(got["major"], 2 * ray[far], 6)
            self.assertAlmostEqual(got["minor"], 2 * float(np.min(ray)), 6)
            wanted = math.atan2(y[far], x[far])
            self.assertAlmostEqual(math.sin(math.radians(got["axis_angle"]) - wanted), 0, 4)

    def test_conjugate_diameters_of_a_circle_have_no_major_axis(self) -> None:
        answers = {a.name: a.value for a in solved("conics/ellipse-conjugate", first=80, second=80, angle=90).answers}
        self.assertIsNone(answers["axis_angle"])


class OpenCurves(unittest.TestCase):
    def test_the_parabola_is_as_far_from_focus_as_from_directrix(self) -> None:
        for name in ("rectangle", "tangents", "offsets"):
            certificate = solved("conics/parabola-rectangle", name, base=134, height=47, divisions=8)
            focal, focus = found(certificate)["focal_length"], point(certificate, "F")
            plotted = [k for k in certificate.points if k.startswith("P")]
            self.assertGreaterEqual(len(plotted), 14)
            for key in plotted:
                p = point(certificate, key)
                self.assertAlmostEqual(abs(p - focus), 47 + focal - p.imag, 9, key)

    def test_focal_distances_of_the_hyperbola_differ_alike(self) -> None:
        certificate = solved("conics/hyperbola-foci", vertices=44, foci=62)
        for name in (n for n in certificate.points if n[0] in "PQ"):
            p = point(certificate, name)
            self.assertAlmostEqual(abs(abs(p + 31) - abs(p - 31)), 44, 9, name)
        got = found(certificate)
        self.assertAlmostEqual(got["eccentricity"] * math.cos(math.radians(got["asymptote_angle"])), 1, 12)
        self.assertIn("do not lie beyond", str(refusal("conics/hyperbola-foci", vertices=62, foci=62)))

    def test_the_rectangular_hyperbola_keeps_its_product(self) -> None:
        certificate = solved("conics/hyperbola-rectangular", point_x=34, point_y=26)
        for name in (n for n in certificate.points if n.startswith("P")):
            p = point(certificate, name)
            self.assertAlmostEqual(p.real * p.imag, 34 * 26, 8)
        self.assertAlmostEqual(abs(point(certificate, "V")), found(certificate)["vertex_distance"], 12)

    def test_eccentricity_just_under_at_and_just_over_one(self) -> None:
        for text, kind in (
            ("0.999999", "ellipse"),
            ("1", "parabola"),
            ("1.000001", "hyperbola"),
            ("sqrt(2)*sqrt(2)/2", "parabola"),
        ):
            certificate = solved("conics/focus-directrix", focus_distance=33, eccentricity=text)
            answers = {a.name: a.value for a in certificate.answers}
            self.assertEqual(answers["kind"], kind)
            self.assertEqual(answers["semi_major"] is None, kind == "parabola")
            e, focus = float(eval(text.replace("sqrt", "math.sqrt"))), point(certificate, "F")
            for name in (n for n in certificate.points if n[0] in "PQ"):
                p = point(certificate, name)
                self.assertAlmostEqual(abs(p - focus), e * p.real, 5, name)

    def test_the_conic_of_focus_and_directrix_is_the_ellipse_of_its_axes(self) -> None:
        got = measures("conics/focus-directrix", focus_distance=33, eccentricity="0.7")
        a = 33 * 0.7 / (1 - 0.49)
        self.assertAlmostEqual(got["semi_major"], a, 9)
        self.assertAlmostEqual(got["vertex_distance"], a * (1 - 0.7), 9)

    def test_its_tangent_by_two_points_close_together(self) -> None:
        for e in (0.7, 1.0, 1.4):
            certificate = solved("conics/focus-directrix", focus_distance=33, eccentricity=e, divisions=8, chosen=5)
            p = point(certificate, "P5")
            height = [math.sqrt((e * x) ** 2 - (x - 33) ** 2) for x in (p.real - 1e-5, p.real + 1e-5)]
            self.assertAlmostEqual(
                math.tan(math.radians(found(certificate)["tangent_angle"])), (height[1] - height[0]) / 2e-5, 4
            )

    def test_slips(self) -> None:
        for position, drawn in ((50, 50), (200, 20)):
            self.assertEqual(slip("conics/ellipse-tangent-normal", "auxiliary", position=position)["normal_angle"], drawn)
        self.assertAlmostEqual(slip("conics/ellipse-tangent-normal", "foci", major=168, minor=104)["focal_distance"], 32)
        drawn = slip("conics/parabola-rectangle", "evenly", base=120, height=60, divisions=6)
        self.assertAlmostEqual(drawn["focal_length"], 10 * 10 / 40)
        self.assertAlmostEqual(
            slip("conics/focus-directrix", "wrong way", focus_distance=24, eccentricity=2)["vertex_distance"], 8
        )


class Drawn(unittest.TestCase):
    def test_pieces_stay_within_the_tolerance_everywhere(self) -> None:
        spiral = Parametric(
            lambda t: (t * math.cos(t), t * math.sin(t)),
            lambda t: (math.cos(t) - t * math.sin(t), math.sin(t) + t * math.cos(t)),
            0.0,
            25.0,
        )
        pieces = spiral.pieces()
        worst = 0.0
        for piece in pieces:
            for share in (0.1, 0.35, 0.65, 0.9):
                x, y = at(piece, share)
                t = math.hypot(x, y)
                turn = math.atan2(y, x)
                k = round((t - turn) / (2 * math.pi))
                worst = max(worst, abs(t - turn - 2 * math.pi * k))
        self.assertLess(worst, 1.5 * TOLERANCE)
        self.assertLess(len(pieces), 100)
        for one, other in zip(pieces, pieces[1:], strict=False):
            self.assertEqual(one[3], other[0])

    def test_a_curve_is_placed_with_its_control_points(self) -> None:
        mark = Curve(of=Parametric(lambda t: (t, t * t), lambda t: (1.0, 2 * t), 0.0, 3.0, 1))
        moved = placed(placed(mark, Placement(2.0, 10.0, 20.0)), Placement(1.0, 5.0, 0.0, 90.0))
        assert isinstance(moved, Curve)
        for place, awaited in zip(moved.pieces()[0], ((-15, 10), (-15, 12), (-21, 14), (-33, 16)), strict=True):
            self.assertLess(math.dist(place, awaited), 1e-9)
        self.assertLess(math.dist(sampled(moved, 8)[-1], (-33, 16)), 1e-9)

    def test_the_outline_takes_no_more_pieces_than_the_zoom_needs(self) -> None:
        spiral = Parametric(
            lambda t: (t * math.cos(t), t * math.sin(t)),
            lambda t: (math.cos(t) - t * math.sin(t), math.sin(t) + t * math.cos(t)),
            0.0,
            25.0,
        )
        mark = placed(Curve(of=spiral), Placement(2.0, 10.0, 20.0))
        assert isinstance(mark, Curve)
        counts = []
        for tolerance in (0.2, 0.02, 0.002, 0.0002):
            pieces = mark.pieces(tolerance)
            counts.append(len(pieces))
            for piece in pieces[2:]:
                x, y = at(piece, 0.4)
                x, y = (x - 10) / 2, (y - 20) / 2
                away = math.hypot(x, y) - math.atan2(y, x)
                self.assertLess(2 * abs(away - 2 * math.pi * round(away / (2 * math.pi))), 1.5 * tolerance)
        self.assertEqual(counts, sorted(set(counts)))
        self.assertLess(counts[0], 40)

    def test_exports_carry_the_true_curve(self) -> None:
        page = page_of("conics/parabola-rectangle")
        (curve,) = [m for m in page.marks if isinstance(m, Curve)]
        document = ezdxf.read(io.StringIO(dxf(page)))  # type: ignore[attr-defined]
        (spline,) = document.modelspace().query("SPLINE")
        scale = float(page.scale)
        (x0, _), (x1, _) = curve.pieces()[0][0], curve.pieces()[-1][3]
        for place in spline.construction_tool().approximate(64):
            u = (place.x - (x0 + x1) / 2 / scale) / ((x1 - x0) / 2 / scale)
            height = 47 * (1 - u * u)
            low = curve.pieces()[0][0][1] / scale
            self.assertAlmostEqual(place.y - low, height, delta=2 * TOLERANCE)
        self.assertRegex(svg(page), r'<path d="M[\d. ]+C')
        self.assertTrue(pdf([page], "t").startswith(b"%PDF"))

    def test_a_conic_in_dxf_is_an_ellipse_where_it_is_one(self) -> None:
        document = ezdxf.read(io.StringIO(dxf(page_of("conics/ellipse"))))  # type: ignore[attr-defined]
        self.assertEqual(len(document.modelspace().query("ELLIPSE")), 1)


class Faired(unittest.TestCase):
    def gap(self, problem_id: str, method: str | None = None, **raw: str) -> float:
        problem = catalogue.problem(problem_id)
        typed = problem.read(raw)
        board = construct(problem, typed, problem.method(method), PLAIN)
        gap = greatest_gap(board.faired, board.finished_marks(), problem.find_truth(typed, PLAIN))
        assert gap is not None
        return gap.value

    def test_more_divisions_are_faired_nearer(self) -> None:
        gaps = [self.gap("conics/ellipse", "concentric circles", divisions=n) for n in ("8", "12", "16", "24", "48")]
        self.assertEqual(gaps, sorted(gaps, reverse=True))
        self.assertGreater(gaps[0] / gaps[-1], 50)

    def test_a_circle_through_four_points_misses_as_a_periodic_spline_does(self) -> None:
        """Between the points a spline over the chords of a square is flatter than the circle: some 2 % of the radius."""
        from wisecompass.drafting.recorder import Faired
        from wisecompass.geometry.plane import Point

        corners = [Point(100.0, 0.0), Point(-100.0, 0.0), Point(0.0, -100.0), Point(0.0, 100.0)]
        self.assertEqual([p.y for p in in_order(corners)], [-100, 0, 100, 0])
        places = faired(Faired(tuple(corners), True, ""))
        off = max(abs(math.hypot(x, y) - 100) for x, y in places)
        self.assertTrue(1 < off < 8, off)

    def test_worth_says_how_near_a_hand_comes(self) -> None:
        problem = catalogue.problem("conics/parabola-rectangle")
        for one in judged(problem, problem.read({})):
            self.assertRegex(one.words, r"^\d+ exact points, faired within 0\.\d+ mm$")


if __name__ == "__main__":
    unittest.main()
