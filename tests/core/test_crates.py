"""Views of a body made of parts: redrawn from the record, against corners found in space, and for parts that are none."""

from __future__ import annotations

import math
import os
import random
import unittest
from itertools import permutations
from typing import Any

from tests.core import random_bodies
from tests.core.redrawing import acts_of, given_numbers
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.catalogue.solids.crate_plan import plan_of
from wisecompass.drafting import marks
from wisecompass.drafting.blind import Hand
from wisecompass.drafting.conventions import Conventions, Projection
from wisecompass.drafting.errors import BadGiven, Infeasible
from wisecompass.drafting.givens import Typed, in_unit
from wisecompass.drafting.parts_text import MOST_PARTS, lines_of
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Method
from wisecompass.drafting.solve import certify, construct, draw, steps_told
from wisecompass.geometry.space import Point3

BODIES = max(6, int(os.environ.get("WISE_COMPASS_ROUNDS", "50")) // 4)
MOST_STEPS = 40
"""For a body of twelve flat parts in three views."""

CRATES = catalogue.problem("solids/crates")
WAY = CRATES.methods[0]


def read(parts: str, views: str = "front-top-side") -> Typed:
    return CRATES.read({"parts": parts, "views": views})


def drawable(rng: random.Random, kinds: tuple[str, ...], most: int = 5) -> Typed:
    """A random body that the views can show."""
    while True:
        try:
            typed = read(random_bodies.text(rng, kinds, most), rng.choice(("front-top-side", "six")))
            CRATES.require_method(WAY, typed)
            draw(CRATES, typed, WAY)
        except Infeasible:
            continue
        return typed


class Drawn(unittest.TestCase):
    method: Method = WAY

    def test_views_put_every_corner_where_it_is_in_space(self) -> None:
        rng = random.Random("corners of bodies")
        for k in range(BODIES):
            typed = drawable(rng, random_bodies.KINDS if k % 2 else ("box", "wedge", "prism"))
            conventions = Conventions(projection=rng.choice(list(Projection)))
            certificate = certify(CRATES, typed, WAY, conventions)
            with self.subTest(typed["parts"]):
                self.assertLess(certificate.deviation.worst, 1e-6)
                self.assertTrue(all(check.holds for check in certificate.checks))

    def test_flat_bodies_are_exact(self) -> None:
        rng = random.Random("flat bodies")
        for _ in range(BODIES):
            typed = drawable(rng, ("box", "wedge", "prism"), 6)
            with self.subTest(typed["parts"]):
                self.assertEqual(certify(CRATES, typed, WAY).deviation.worst, 0.0)

    def test_corners_are_where_three_planes_of_boxes_meet(self) -> None:
        """Every corner of a body of boxes has an end of a box for each of its coordinates."""
        rng = random.Random("boxes")
        for _ in range(BODIES):
            typed = drawable(rng, ("box",), 6)
            several = random_bodies.parts(str(getattr(typed["parts"], "text", "")))
            board = construct(CRATES, typed, WAY, PLAIN)
            low = [min(float(p.at[axis]) for p in several if not p.taken) for axis in range(3)]
            wall = max(float(p.at[1]) + float(p.sizes[1]) for p in several if not p.taken)
            ends = [{round(float(p.at[k]) + s, 6) for p in several for s in (0.0, float(p.sizes[k]))} for k in range(3)]
            for point in board.points.values():
                if isinstance(point, Point3):
                    x, y, z = float(point.x) + low[0], wall - float(point.front), float(point.above) + low[2]
                    self.assertTrue(all(round(c, 6) in end for c, end in zip((x, y, z), ends, strict=True)), typed["parts"])

    def test_a_blind_hand_inks_what_is_drawn(self) -> None:
        rng = random.Random("ink")
        for _ in range(BODIES):
            typed = drawable(rng, random_bodies.KINDS)
            board = construct(CRATES, typed, WAY, PLAIN)
            hand = Hand(given_numbers(typed))
            hand.draw(acts_of(board))
            shift = hand.points["A"]
            inked = {frozenset((self.rounded(p - shift), self.rounded(q - shift))) for p, q in hand.ink}
            pens = (Pen.OUTLINE, Pen.HIDDEN)
            lines = [m for m in board.finished_marks() if isinstance(m, marks.Segment) and m.pen in pens]
            there = {frozenset((self.rounded(complex(m.x1, m.y1)), self.rounded(complex(m.x2, m.y2)))) for m in lines}
            with self.subTest(typed["parts"]):
                self.assertTrue(inked <= there, inked - there)

    def rounded(self, place: complex) -> tuple[float, float]:
        return round(place.real, 4) + 0.0, round(place.imag, 4) + 0.0

    def test_equal_cylinders_that_cross_are_drawn_exactly(self) -> None:
        typed = read("cylinder 10 40 at 0 0 0 along up; cylinder 10 40 at 0 -20 20 along back")
        self.assertEqual(certify(CRATES, typed, WAY).deviation.worst, 0.0)
        Hand(given_numbers(typed), 1).draw(acts_of(construct(CRATES, typed, WAY, PLAIN)))

    def test_numbers_of_a_text_may_be_sums_roots_and_inches(self) -> None:
        typed = read("box 10*sqrt(2) 1/2in 5,5 at 0 0 0; less cylinder 3 5.5 at 7 6 0 along up")
        Hand(given_numbers(typed), 1).draw(acts_of(construct(CRATES, typed, WAY, PLAIN)))

    def test_twelve_flat_parts_take_at_most_forty_steps(self) -> None:
        rng = random.Random("twelve parts")
        for _ in range(4):
            lines: list[str] = []
            while len(lines) < 12:
                lines += lines_of(random_bodies.text(rng, ("box", "wedge"), 12))
            typed = read("; ".join(lines[:12]))
            try:
                steps = steps_told(CRATES, typed, WAY)
            except Infeasible:
                continue
            self.assertLessEqual(len(steps), MOST_STEPS)

    def test_the_order_of_parts_that_are_added_changes_nothing(self) -> None:
        lines = ["box 30 20 8 at 0 0 0", "box 10 20 20 at 5 0 8", "wedge 10 20 12 at 15 0 8 rising left"]
        found = []
        for several in permutations(lines):
            drawn = draw(CRATES, read("; ".join(several)), WAY)
            segments = [m for m in drawn.marks if isinstance(m, marks.Segment) and m.pen is Pen.OUTLINE]
            ends = [((round(m.x1, 6), round(m.y1, 6)), (round(m.x2, 6), round(m.y2, 6))) for m in segments]
            found.append(sorted(tuple(sorted(pair)) for pair in ends))
        self.assertTrue(all(each == found[0] for each in found))


class Cones(unittest.TestCase):
    """Cut cones, on a plate: their curves by points on generators, against the equations of the cone and of what cuts it."""

    RADIUS, HEIGHT = 20.0, 52.0
    CONE = "box 60 44 10 at 0 0 0; cone 40 52 at 30 22 10 along up"

    def points(self, more: str, view: str) -> list[tuple[float, float]]:
        """The points of the curves of a view as a blind hand has drawn them, from the image of the low corner."""
        typed = read(f"{self.CONE}; {more}")
        board = construct(CRATES, typed, WAY, PLAIN)
        hand = Hand(given_numbers(typed), 1)
        hand.draw(acts_of(board))
        start = hand.points["B" if view == "top view" else "C"]
        steps = [step for step in board.steps if step.verb == "fair curve" and view in step.text]
        found = [hand.points[str(name)] - start for step in steps for act in step.acts for name in act.on]
        return [(place.real, place.imag) for place in found]

    def test_a_plane_along_the_axis_gives_a_hyperbola(self) -> None:
        found = self.points("less box 30 60 70 at 37 -5 10", "left side view")
        self.assertGreaterEqual(len(found), 7)
        for y, z in found:
            radius = (10 + self.HEIGHT - z) * self.RADIUS / self.HEIGHT
            self.assertAlmostEqual(math.hypot(37 - 30, -y - 22), radius, places=9)

    def test_a_slope_gives_an_ellipse(self) -> None:
        found = self.points("less wedge 60 44 40 at 0 0 22 rising right; less box 60 44 60 at 0 0 62", "top view")
        self.assertGreaterEqual(len(found), 12)
        for x, y in found:
            radius = (10 + self.HEIGHT - (22 + x * 40 / 60)) * self.RADIUS / self.HEIGHT
            self.assertAlmostEqual(math.hypot(x - 30, y - 22), radius, places=9)

    def test_a_bore_through_it_lies_on_both(self) -> None:
        found = self.points("less cylinder 12 60 at 24 -5 22 along back", "top view")
        self.assertGreaterEqual(len(found), 12)
        for x, y in found:
            level = 10 + self.HEIGHT - math.hypot(x - 30, y - 22) * self.HEIGHT / self.RADIUS
            self.assertAlmostEqual(math.hypot(x - 24, level - 22), 6.0, places=8)

    def test_another_cone_through_it_lies_on_both(self) -> None:
        """Their axes cross, or miss each other; from above, and beside each other from the side."""
        for y in (22, 19):
            found = self.points(f"cone 26 60 at -2 {y} 32 along right", "top view")
            self.assertGreaterEqual(len(found), 24)
            for from_the_left, depth in found:
                x = from_the_left - 2
                level = 10 + self.HEIGHT - math.hypot(x - 30, depth - 22) * self.HEIGHT / self.RADIUS
                self.assertAlmostEqual(math.hypot(depth - y, level - 32), (58 - x) * 13 / 60, places=8)

    def test_an_edge_goes_through_it(self) -> None:
        """Where two slopes meet, and where a slope meets a side: corners by the plane through edge and apex."""
        for more in (
            "less wedge 60 44 40 at 0 0 22 rising right; less wedge 60 44 40 at 0 0 24 rising back",
            "less wedge 60 22 40 at 0 0 22 rising right",
            "box 60 6 40 at 0 12 10; less wedge 60 44 40 at 0 0 22 rising left",
        ):
            typed = read(f"{self.CONE}; {more}")
            truth, drawn = CRATES.find_truth(typed, PLAIN).points, construct(CRATES, typed, WAY, PLAIN)
            self.assertGreater(len(truth), 9)
            for name, place in truth.items():
                seen: Any = drawn.solid_point(name)
                for axis in ("x", "front", "above"):
                    self.assertAlmostEqual(float(getattr(place, axis)), float(getattr(seen, axis)), places=8, msg=more)

    def test_a_corner_to_which_no_line_leads_is_where_its_curves_end(self) -> None:
        """The rim of a bore's end that a cone cuts: circle and hyperbola meet in places of the fourth degree."""
        written = f"{self.CONE}; cylinder 24 30 at 24 22 30 along right"
        typed = read(written)
        drawn = construct(CRATES, typed, WAY, PLAIN)
        names = set(CRATES.find_truth(typed, PLAIN).points)
        self.assertEqual(names, {name for name in drawn.points if name.isdigit()})
        self.assertEqual(len(plan_of(random_bodies.parts(written)).body.corners) - len(names), 4)
        Hand(given_numbers(typed), 1).draw(acts_of(drawn))

    def test_the_apex_counts_where_the_body_ends(self) -> None:
        self.assertEqual(CRATES.find_truth(read(self.CONE), PLAIN).findings["height"], 62)
        self.assertAlmostEqual(float(construct(CRATES, read(self.CONE), WAY, PLAIN).measured("height")), 62, places=9)

    def test_few_bodies_with_cones_are_refused(self) -> None:
        rng = random.Random("cones")
        refused = bodies = 0
        while bodies < 2 * BODIES:
            written = random_bodies.text(rng, random_bodies.KINDS, 4)
            if "cone" not in written:
                continue
            bodies += 1
            try:
                typed = read(written)
                CRATES.require_method(WAY, typed)
                construct(CRATES, typed, WAY, PLAIN)
            except Infeasible:
                refused += 1
        self.assertLessEqual(refused, max(1, bodies // 50))


class Refused(unittest.TestCase):
    def test_lines_that_are_no_parts_are_refused_with_one_that_works(self) -> None:
        for text in (
            "",
            ";;",
            "boks 1 2 3 at 0 0 0",
            "box 10 20 30 at 0 0 0 twice",
            "box 10 20 at 0 0 0",
            "box 10 20 30",
            "box 10 0 30 at 0 0 0",
            "box 10 -5 30 at 0 0 0",
            "prism 2 20 30 at 0 0 0",
            "prism 3.5 20 30 at 0 0 0",
            "cylinder 10 20 at 0 0 0 along down",
            "wedge 10 20 30 at 0 0 0 rising up",
            "less box 10 10 10 at 0 0 0",
            "less box 10 10 10 at 0 0 0; box 4 4 4 at 0 0 0",
            "; ".join(["box 5 5 5 at 0 0 0"] * (MOST_PARTS + 440)),
        ):
            with self.subTest(text[:50]):
                with self.assertRaises(BadGiven) as caught:
                    read(text)
                sentence = str(caught.exception)
                self.assertNotIn("\n", sentence)
                self.assertLess(len(sentence), 400)
                read(str(caught.exception.nearest))

    def test_a_body_that_is_all_taken_away_is_refused_with_one_that_works(self) -> None:
        with self.assertRaises(Infeasible) as caught:
            read("box 10 10 10 at 0 0 0; less box 30 30 30 at -5 -5 -5")
        read(caught.exception.offer["parts"])

    def test_a_part_too_thin_for_the_whole_is_refused_with_one_that_works(self) -> None:
        with self.assertRaises(Infeasible) as caught:
            read("box 1000000 1000000 0.001 at 0 0 0")
        self.assertIn("thinner", str(caught.exception))
        read(caught.exception.offer["parts"])

    def test_what_is_offered_keeps_what_can_be_read(self) -> None:
        for text, kept in (
            ("box nan 2 3 at 4 5 6", "box 10 2 3 at 4 5 6"),
            ("box 1 2 3 at 4 x 6", "box 1 2 3 at 4 0 6"),
            ("boks 1 2 3 at 0 0 0; box 7 8 9 at 0 0 0", "box 7 8 9 at 0 0 0"),
        ):
            with self.assertRaises(BadGiven) as caught:
                read(text)
            self.assertEqual(caught.exception.nearest, kept)

    def test_a_body_in_two_pieces_is_allowed_and_said(self) -> None:
        typed = read("box 10 10 10 at 0 0 0; box 10 10 10 at 30 0 0")
        self.assertTrue(draw(CRATES, typed, WAY).marks)
        self.assertEqual(CRATES.find_truth(typed, PLAIN).findings["pieces"], 2)

    def test_parts_that_all_but_touch_are_refused_with_ones_that_do(self) -> None:
        for gap in ("1/10000000", "1/1000000000000", "0.00001"):
            text = f"box 10 10 10 at 0 0 0; prism 6 5 10 at 20 20 0 along up; box 10 10 10 at 10+{gap} 0 0"
            with self.assertRaises(Infeasible) as refused:
                read(text)
            read(refused.exception.offer["parts"])
        read("box 10 10 10 at 0 0 0; prism 6 5 10 at 20 20 0 along up; box 10 10 10 at 100/10 0 0")
        read("prism 6 5 10 at 0 0 0 along up; prism 6 sqrt(25) 10 at 0 0 10 along up")

    def test_the_enclosing_crate_is_drawn_round_every_view(self) -> None:
        without, crated = (draw(CRATES, CRATES.read({"crate": word}), WAY) for word in ("left out", "drawn"))
        sides = [mark for mark in crated.marks if mark.pen is Pen.CRATE]
        self.assertEqual(len(sides), 12)
        self.assertFalse([mark for mark in without.marks if mark.pen is Pen.CRATE])

    def test_whole_circles_bear_their_diameter_in_the_view_that_shows_them(self) -> None:
        text = "box 40 40 10 at 0 0 0; less cylinder 12 10 at 20 20 0 along up; cylinder 10 20 at 40 8 5 along right"
        told = [mark.text for mark in draw(CRATES, read(text), WAY).marks if isinstance(mark, marks.RadiusDimension)]
        self.assertEqual(sorted(told), ["Ø10", "Ø12"])

    def test_lengths_without_a_unit_are_in_that_of_the_folio(self) -> None:
        item = CRATES.given_list[0]
        written = in_unit(item, "box 1 2 3 at 0 0 0; prism 6 1 2 at 0 0 3 along up", "in")
        inches = random_bodies.parts(written)
        self.assertAlmostEqual(float(inches[0].sizes[0]), 25.4)
        self.assertEqual(inches[1].sides, 6)
        self.assertAlmostEqual(float(inches[1].sizes[0]), 25.4)


if __name__ == "__main__":
    unittest.main()
