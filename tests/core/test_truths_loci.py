"""The family loci against derivations of their own: small steps of rolling and unwinding, sums along the curves."""

from __future__ import annotations

import cmath
import math
import random
import unittest
from collections.abc import Callable

import numpy as np

from tests.core.solving import found, measures, point, refusal, slip, solved
from wisecompass import catalogue
from wisecompass.drafting.marks import Curve, sampled
from wisecompass.drafting.solve import Certificate, draw
from wisecompass.geometry.curves import at
from wisecompass.judgement.worth import judged


def plotted(certificate: Certificate) -> list[complex]:
    """The points P0, P1 … in their order."""
    names = sorted((n for n in certificate.points if n[0] == "P" and n[1:].isdigit()), key=lambda n: int(n[1:]))
    return [point(certificate, name) for name in names]


def length_of(place: Callable[[float], complex], end: float, pieces: int = 20_000) -> float:
    """The length of a curve as a polygon of many sides."""
    places = np.array([place(end * k / pieces) for k in range(pieces + 1)])
    return float(np.abs(np.diff(places)).sum())


def drawn_length(problem_id: str) -> float:
    """The length of the curve that is drawn."""
    problem = catalogue.problem(problem_id)
    marks = draw(problem, problem.read({}), problem.methods[0]).marks
    (curve,) = (mark for mark in marks if isinstance(mark, Curve))
    places = np.array([complex(*at(piece, k / 400)) for piece in curve.pieces() for k in range(401)])
    return float(np.abs(np.diff(places)).sum())


class Rolling(unittest.TestCase):
    def test_a_cycloid_by_turning_the_circle_step_by_step(self) -> None:
        certificate = solved("loci/cycloid", rolling_diameter=27, turns=2, divisions=12)
        for k, p in enumerate(plotted(certificate)):
            turned = 2 * math.pi * k / 12
            centre = complex(13.5 * turned, 13.5)
            self.assertLess(abs(p - (centre + 13.5 * cmath.exp(-1j * (turned + math.pi / 2)))), 1e-9, k)
        got = found(certificate)
        place = lambda t: complex(13.5 * (t - math.sin(t)), 13.5 * (1 - math.cos(t)))  # noqa: E731
        self.assertAlmostEqual(got["arc_length"], length_of(place, 4 * math.pi), 3)
        self.assertAlmostEqual(got["area"], 2 * 3 * math.pi * 13.5**2, 9)

    def test_its_tangent_and_curvature_by_points_close_together(self) -> None:
        for turned in (30, 100, 180, 275):
            got = measures("loci/cycloid", rolling_diameter=27, turned=turned)
            t, h = math.radians(turned), 1e-4
            x = [13.5 * (s - math.sin(s)) for s in (t - h, t, t + h)]
            y = [13.5 * (1 - math.cos(s)) for s in (t - h, t, t + h)]
            slope = math.degrees(math.atan2(y[2] - y[0], x[2] - x[0]))
            self.assertAlmostEqual(got["tangent_angle"], slope % 180, 5)
            (u, v), (p, q) = (x[1] - x[0], y[1] - y[0]), (x[2] - x[1], y[2] - y[1])
            bend = 2 * abs(u * q - v * p) / (math.hypot(u, v) * math.hypot(p, q) * math.hypot(x[2] - x[0], y[2] - y[0]))
            self.assertAlmostEqual(got["curvature_radius"] * bend, 1, 5)

    def test_kinds_of_trochoids(self) -> None:
        for tracing, kind in ((13, "curtate"), (20, "cycloid"), ("10*sqrt(4)", "cycloid"), (27, "prolate")):
            certificate = solved("loci/trochoid", rolling_diameter=40, tracing_radius=tracing)
            self.assertEqual({a.name: a.value for a in certificate.answers}["kind"], kind)

    def test_equal_arcs_roll_off_on_both_circles(self) -> None:
        """The rolled arc is measured on both circles, and the point turned against the ray by the arc over its radius."""
        rng = random.Random(5)
        for name, side in (("epi", 1), ("hypo", -1)):
            for _ in range(8):
                base, rolling = rng.randint(40, 160), rng.randint(10, 100)
                tracing = rng.randint(4, 60)
                if side < 0 and base == rolling:
                    continue
                raw = {"base_diameter": base, "rolling_diameter": rolling, "divisions": 12}
                for kind, arm in (("cycloid", rolling / 2), ("trochoid", tracing)):
                    extra = {"tracing_radius": tracing} if kind == "trochoid" else {}
                    certificate = solved(f"loci/{name}{kind}", **raw, **extra)
                    sector = found(certificate)["sector_angle"]
                    self.assertAlmostEqual(math.radians(sector) * base / 2, math.pi * rolling, 8)
                    for k, p in enumerate(plotted(certificate)):
                        ray = math.radians(90 - sector / 2 + sector * k / 12)
                        centre = (base + side * rolling) / 2 * cmath.exp(1j * ray)
                        arc = math.radians(sector * k / 12) * base / 2
                        own = cmath.exp(1j * (ray + (math.pi if side > 0 else 0) + side * arc / (rolling / 2)))
                        self.assertLess(abs(p - centre - arm * own), 1e-8, (name, kind, raw, k))

    def test_arc_lengths_are_those_of_the_drawn_curves(self) -> None:
        for name in ("cycloid", "epicycloid", "hypocycloid"):
            self.assertAlmostEqual(measures(f"loci/{name}")["arc_length"], drawn_length(f"loci/{name}"), 2)

    def test_a_rolling_circle_half_the_base_draws_a_straight_line(self) -> None:
        certificate = solved("loci/hypocycloid", base_diameter=156, rolling_diameter=78)
        for p in plotted(certificate):
            self.assertAlmostEqual(p.imag, plotted(certificate)[0].imag, 9)
        self.assertAlmostEqual(found(certificate)["sector_angle"], 180, 9)

    def test_a_rolling_circle_larger_than_half_or_than_the_base(self) -> None:
        for base, rolling in ((60, 40), (60, 59), (60, 61), (60, 180)):
            solved("loci/hypocycloid", base_diameter=base, rolling_diameter=rolling)
        for rolling in (60, 180):
            solved("loci/epicycloid", base_diameter=60, rolling_diameter=rolling)
        self.assertIn("cannot roll", str(refusal("loci/hypocycloid", base_diameter=60, rolling_diameter=60)))
        self.assertIn(
            "goes in one turn over 3 times", str(refusal("loci/epicycloid", base_diameter=60, rolling_diameter=181))
        )

    def test_slips(self) -> None:
        for name, path in (("epicycloid", 78 + 13), ("hypocycloid", 78 - 13)):
            drawn = slip(f"loci/{name}", "path of the centre", base_diameter=156, rolling_diameter=26)["sector_angle"]
            self.assertAlmostEqual(math.radians(drawn) * path, math.pi * 26, 9)
        self.assertEqual(slip("loci/cycloid", "three diameters", rolling_diameter=27)["base_length"], 81)
        drawn = slip("loci/cycloid", "thirteen", rolling_diameter=27)["base_length"]
        self.assertAlmostEqual(drawn, measures("loci/cycloid")["base_length"] * 13 / 12, 9)


class Spirals(unittest.TestCase):
    ID = "loci/archimedean-spiral"

    def test_radius_grows_evenly_either_way_round(self) -> None:
        for direction, way in (("anticlockwise", 1), ("clockwise", -1)):
            for inner in (0, 18):
                certificate = solved(
                    self.ID, inner_diameter=inner, outer_diameter=96, turns="7/4", direction=direction, start_angle=90
                )
                points = plotted(certificate)
                self.assertEqual(len(points), 22)
                for k, p in enumerate(points):
                    radius = inner / 2 + (96 - inner) / 2 * k / 21
                    self.assertLess(abs(p - radius * cmath.exp(1j * math.radians(90 + way * 30 * k))), 1e-9)

    def test_seven_quarters_turn_divide_the_gap_into_21_and_the_circle_into_12(self) -> None:
        answers = {a.name: a.value for a in solved(self.ID).answers}
        self.assertEqual(answers["spaces"], 21)
        self.assertAlmostEqual(float(str(answers["step"])) * 21, 39, 9)
        self.assertAlmostEqual(float(str(answers["pitch"])) * 7 / 4, 39, 9)
        problem = catalogue.problem(self.ID)
        steps = draw(problem, problem.read({}), problem.methods[0], one_by_one=True).steps
        rays = [step for step in steps if step.verb == "protract" and step.makes[0].startswith("ray")]
        self.assertEqual(len(rays), 12)

    def test_its_length_by_many_small_steps(self) -> None:
        for inner, outer, turns in ((18, 96, "7/4"), (0, 60, "2"), (50, 51, "1/2")):
            got = measures(self.ID, inner_diameter=inner, outer_diameter=outer, turns=turns)
            whole = 2 * math.pi * float(eval(turns))
            place = lambda t, a=inner / 2, c=(outer - inner) / 2 / whole: (a + c * t) * cmath.exp(1j * t)  # noqa: E731
            self.assertAlmostEqual(got["arc_length"], length_of(place, whole), 4)

    def test_odd_corners(self) -> None:
        self.assertEqual(len(plotted(solved(self.ID, turns="1/12"))), 2)
        self.assertEqual(len(plotted(solved(self.ID, turns=12, divisions=8))), 97)
        self.assertEqual(refusal(self.ID, turns="1.7").offer, {"turns": "20/12"})
        self.assertIn("leaves no gap", str(refusal(self.ID, inner_diameter=96, outer_diameter=96)))
        self.assertAlmostEqual(slip(self.ID, "whole radius")["step"], 48 / 21, 12)
        self.assertAlmostEqual(slip(self.ID, "one too many")["step"], 39 / 22, 12)

    def test_tangent_by_points_close_together(self) -> None:
        for direction, way in (("anticlockwise", 1), ("clockwise", -1)):
            got = measures("loci/archimedean-tangent-normal", direction=direction, turned=250)
            growth = 39 / (3.5 * math.pi)
            place = lambda t, w=way, c=growth: (9 + c * t) * cmath.exp(1j * w * t)  # noqa: E731
            t = math.radians(250)
            tangent = (place(t + 1e-6) - place(t - 1e-6)) / place(t)
            self.assertAlmostEqual(got["tangent_angle_to_radius"], abs(math.degrees(cmath.phase(tangent))), 5)
            self.assertAlmostEqual(got["constant"], growth, 12)
            a, b, c = place(t - 1e-3), place(t), place(t + 1e-3)
            bend = 2 * abs(((b - a).conjugate() * (c - b)).imag) / (abs(b - a) * abs(c - b) * abs(c - a))
            self.assertAlmostEqual(got["curvature_radius"] * bend, 1, 4)

    def test_a_logarithmic_spiral_keeps_its_angle(self) -> None:
        for ratio in ("1.21", "0.8", "1"):
            certificate = solved("loci/logarithmic-spiral", first_radius=22, ratio=ratio)
            points = plotted(certificate)
            for one, two in zip(points, points[1:], strict=False):
                self.assertAlmostEqual(abs(two / one), float(ratio), 9)
                self.assertAlmostEqual(math.degrees(cmath.phase(two / one)), 30, 9)
            growth = math.log(float(ratio)) / (math.pi / 6)
            wanted = math.degrees(cmath.phase(complex(growth, 1)))
            self.assertAlmostEqual(found(certificate)["tangent_angle_to_radius"], wanted, 9)
        self.assertIn("more than a thousandfold", str(refusal("loci/logarithmic-spiral", ratio=3)))
        self.assertEqual(refusal("loci/logarithmic-spiral", turns="0.9").offer, {"turns": "11/12"})


class Unwinding(unittest.TestCase):
    def test_the_string_is_as_long_as_the_arc_and_square_to_the_radius(self) -> None:
        certificate = solved("loci/involute-circle", diameter=38, turns=2, divisions=12)
        for k, p in enumerate(plotted(certificate)):
            off = 19 * cmath.exp(2j * math.pi * k / 12)
            self.assertAlmostEqual(abs(p - off), 2 * math.pi * 19 * k / 12, 8)
            self.assertAlmostEqual((off.conjugate() * (p - off)).real, 0, 7)
        got = found(certificate)
        self.assertAlmostEqual(got["end_radius"], abs(plotted(certificate)[-1]), 9)
        self.assertAlmostEqual(got["string_length"], 2 * math.pi * 38, 9)

    def test_corners_one_after_the_other(self) -> None:
        for sides in (3, 6, 11):
            certificate = solved("loci/involute-polygon", sides=sides, side=14)
            self.assertAlmostEqual(found(certificate)["string_length"], 14 * sides, 9)
            for k in range(1, sides + 1):
                centre = point(certificate, f"P{k % sides + 1}")
                for name in (f"E{k - 1}", f"E{k}"):
                    self.assertAlmostEqual(abs(point(certificate, name) - centre), 14 * k, 8)

    def test_worth_tells_whether_the_divisions_are_enough(self) -> None:
        gaps = []
        for divisions in (8, 12, 24):
            problem = catalogue.problem("loci/involute-circle")
            (only,) = judged(problem, problem.read({"divisions": str(divisions)}))
            words, _, gap = only.words.partition(", faired within ")
            self.assertEqual(words, f"{divisions + 1} exact points")
            gaps.append(float(gap.split()[0]))
        self.assertEqual(gaps, sorted(gaps, reverse=True))


class Winding(unittest.TestCase):
    def points(self, certificate: Certificate, prefix: str) -> list[complex]:
        names = [n for n in certificate.points if n[0] == prefix and n[1:].isdigit()]
        return [point(certificate, name) for name in sorted(names, key=lambda n: int(n[1:]))]

    def test_a_helix_rises_evenly_round_its_cylinder(self) -> None:
        for hand in ("right", "left"):
            certificate = solved("loci/helix", diameter=68, lead=88, turns="3/2", hand=hand)
            points = plotted(certificate)
            self.assertEqual(len(points), 19)
            for k, p in enumerate(points):
                self.assertAlmostEqual(p.real, 34 * math.cos(math.radians(30 * k)), 9)
                self.assertAlmostEqual(p.imag, 88 * k / 12, 9)

    def test_its_length_and_angle_by_small_steps_in_space(self) -> None:
        got = measures("loci/helix", diameter=68, lead=88, turns="3/2")
        t = np.linspace(0, 3 * math.pi, 40_001)
        steps = np.diff(np.array([34 * np.cos(t), 34 * np.sin(t), 88 * t / (2 * math.pi)]))
        self.assertAlmostEqual(got["length"], float(np.sqrt((steps**2).sum(axis=0)).sum()), 4)
        slope = math.degrees(math.asin(float(steps[2, 0] / np.sqrt((steps[:, 0] ** 2).sum()))))
        self.assertAlmostEqual(got["helix_angle"], slope, 6)
        self.assertAlmostEqual(got["length_per_turn"] * 1.5, got["length"], 9)

    def test_right_and_left_hide_opposite_halves(self) -> None:
        hidden = {}
        for hand in ("right", "left"):
            problem = catalogue.problem("loci/helix")
            drawing = draw(problem, problem.read({"hand": hand, "turns": "2"}), problem.methods[0])
            curves = [mark for mark in drawing.marks if isinstance(mark, Curve)]
            hidden[hand] = [mark.pen.value for mark in sorted(curves, key=lambda mark: mark.pieces()[0][0][1])]
        self.assertEqual(hidden["right"], ["hidden", "outline"] * 2)
        self.assertEqual(hidden["left"], ["outline", "hidden"] * 2)

    def test_its_slips_measure_what_they_draw(self) -> None:
        drawn = slip("loci/helix", "left hand for right", hand="right", start_angle=20)["tangent_angle"]
        self.assertAlmostEqual(drawn, measures("loci/helix", hand="left", start_angle=20)["tangent_angle"], 9)
        self.assertAlmostEqual(slip("loci/helix", "numbered 0 again", turns="3/2", lead=88)["height"], 44, 9)
        self.assertEqual(slip("loci/helix", "numbered 0 again", turns="1/2"), {})
        shrinking = slip("loci/archimedean-spiral", "outer end", inner_diameter=18, outer_diameter=96, turns=2)
        t = np.linspace(0, 23 / 12, 40_001)  # from the first mark, one of 24 spaces along, down to the end of the gap
        curve = 39 * (23 / 24 - t / 2) * np.exp(2j * math.pi * t)
        self.assertAlmostEqual(shrinking["arc_length"], float(np.abs(np.diff(curve)).sum()), 3)

    def test_a_twelfth_of_a_turn_and_twelve_turns(self) -> None:
        self.assertEqual(len(plotted(solved("loci/helix", turns="1/12"))), 2)
        self.assertEqual(len(plotted(solved("loci/helix", turns=12, divisions=8))), 97)
        self.assertEqual(refusal("loci/helix", turns="1.3").offer, {"turns": "16/12"})

    def test_a_helix_on_a_cone_keeps_to_its_side(self) -> None:
        certificate = solved("loci/conical-helix", base_diameter=84, height=77, turns=2)
        for k, p in enumerate(plotted(certificate)):
            radius = 42 * (1 - k / 24)
            self.assertAlmostEqual(p.real, radius * math.cos(math.radians(30 * k)), 9)
            self.assertAlmostEqual(p.imag, 77 * k / 24, 9)
        s = np.linspace(0, 1, 80_001)
        steps = np.diff(np.array([42 * (1 - s) * np.cos(4 * math.pi * s), 42 * (1 - s) * np.sin(4 * math.pi * s), 77 * s]))
        self.assertAlmostEqual(found(certificate)["length"], float(np.sqrt((steps**2).sum(axis=0)).sum()), 4)

    def test_a_strip_is_steeper_inside(self) -> None:
        certificate = solved("loci/helical-strip", outer_diameter=76, inner_diameter=34, lead=88, turns=1)
        got = found(certificate)
        self.assertGreater(got["inner_angle"], got["outer_angle"])
        for name, diameter in (("outer", 76), ("inner", 34)):
            self.assertAlmostEqual(got[f"{name}_length"] * math.sin(math.radians(got[f"{name}_angle"])), 88, 8)
            self.assertAlmostEqual(
                got[f"{name}_length"] * math.cos(math.radians(got[f"{name}_angle"])), math.pi * diameter, 8
            )
        for outer, inner in zip(self.points(certificate, "P"), self.points(certificate, "Q"), strict=True):
            self.assertAlmostEqual(outer.imag, inner.imag, 9)
        self.assertEqual(
            refusal("loci/helical-strip", outer_diameter=30, inner_diameter=30).offer, {"inner_diameter": "29.999"}
        )

    def test_a_spring_keeps_half_a_wire_to_its_middle_line(self) -> None:
        problem = catalogue.problem("loci/coil-spring")
        drawing = draw(problem, problem.read({"turns": "4"}), problem.methods[0])
        t = np.linspace(0, 8 * math.pi, 60_001)
        middle = 24 * np.cos(t) + 1j * 18 * t / (2 * math.pi)
        outlines = [mark for mark in drawing.marks if isinstance(mark, Curve) and mark.name == "outline"]
        self.assertEqual(len(outlines), 16)
        nearest = [float(np.min(np.abs(middle - complex(x, y)))) for mark in outlines[::3] for x, y in sampled(mark, 12)]
        self.assertLess(max(nearest), 3.002)
        self.assertGreater(max(nearest), 2.99)

    def test_springs_that_cannot_be(self) -> None:
        self.assertIn("does not fit between turns of lead", str(refusal("loci/coil-spring", wire=20, lead=18)))
        self.assertIn("does not leave room", str(refusal("loci/coil-spring", wire=48, lead=60)))
        self.assertAlmostEqual(
            slip("loci/coil-spring", "outer", mean_diameter=48, wire=6)["wire_length"],
            measures("loci/coil-spring", mean_diameter=54, wire=6)["wire_length"],
            9,
        )


if __name__ == "__main__":
    unittest.main()
