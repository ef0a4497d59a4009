"""The board: what each operation yields, what it records, and how long its lines turn out."""

from __future__ import annotations

import math
import unittest

import numpy as np

from wisecompass.arithmetic import BALL, HAND, PLAIN
from wisecompass.drafting import marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Conventions, Naming, Projection
from wisecompass.drafting.hand import Hand, Unsteadiness
from wisecompass.drafting.marks import Mark, Placement, bounds, placed, sampled
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.sentences import sentence
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


class OnBoard(unittest.TestCase):
    def setUp(self) -> None:
        self.b = Board(PLAIN)
        self.a = self.b.point("A", 0.0, 0.0)
        self.base = self.b.level_line(self.a, "base")

    def assert_at(self, p: Point, x: float, y: float) -> None:
        self.assertAlmostEqual(p.x, x)  # type: ignore[call-overload]
        self.assertAlmostEqual(p.y, y)  # type: ignore[call-overload]

    def last(self) -> str:
        return sentence(self.b.steps[-1])


class Operations(OnBoard):
    def test_measuring_off(self) -> None:
        self.assert_at(self.b.lay_off(self.base, self.a, 7.0, "B"), 7, 0)
        self.assertEqual(self.last(), "Scale along the base: lay off 7 mm from A to the right and mark B.")
        self.assert_at(self.b.lay_off(self.base, self.a, 7.0, "C", back=True), -7, 0)
        self.assertEqual(self.b.steps[-1].instrument, Instrument.SCALE)

    def test_protractor_turns_anticlockwise_and_back(self) -> None:
        ray = self.b.protract(self.base, self.a, 30.0, "ray")
        self.assertAlmostEqual(math.degrees(math.atan2(ray.dy, ray.dx)), 30)  # type: ignore[arg-type]
        back = self.b.protract(self.base, self.a, -30.0, "ray back")
        self.assertAlmostEqual(math.degrees(math.atan2(back.dy, back.dx)), -30)  # type: ignore[arg-type]
        self.assertEqual(self.b.steps[-1].setting, 30.0)
        self.assertIn("turned 30° clockwise", self.last())

    def test_squares_and_parallels(self) -> None:
        p = self.b.point("P", 3.0, 4.0)
        foot = self.b.square_from(self.base, p, "F")
        self.assert_at(foot, 3, 0)
        self.assertIn("Mark F where the perpendicular from P meets the base", self.last())
        line = self.b.parallel(self.base, p, "upper")
        self.assertEqual((line.at.y, line.dy), (4.0, 0.0))

    def test_a_parallel_touches_its_arcs_on_the_side_asked_for(self) -> None:
        other = self.b.lay_off(self.base, self.a, 10.0, "E")
        arcs = [self.b.arc(place, 5.0) for place in (self.a, other)]
        self.assertAlmostEqual(self.b.parallel_touching(self.base, arcs, "left", "above").at.y, 5.0)  # type: ignore[call-overload]
        self.assertAlmostEqual(self.b.parallel_touching(self.base, arcs, "right", "below").at.y, -5.0)  # type: ignore[call-overload]
        single = self.b.parallel_touching(self.base, arcs[:1], "left", "single")
        self.assertAlmostEqual(single.at.y, 5.0)  # type: ignore[call-overload]

    def test_bisector_goes_through_the_middle(self) -> None:
        end = self.b.lay_off(self.base, self.a, 8.0, "B")
        middle = self.b.meet(self.b.bisector(self.a, end, "centre line"), self.base, name="M")
        self.assert_at(middle, 4, 0)
        self.assertEqual([s.verb for s in self.b.steps[-3:]], ["arc", "arc", "crossings"])

    def test_stepping_off_goes_round_anticlockwise(self) -> None:
        circle = self.b.arc(self.a, 10.0, whole=True)
        start = self.b.meet(circle, self.base, plane.rightmost, "S")
        found = self.b.step_off(circle, start, 10.0, ["P1", "P2", "P3", "P4", "P5"])
        for k, p in enumerate(found, 1):
            self.assert_at(p, 10 * math.cos(math.radians(60 * k)), 10 * math.sin(math.radians(60 * k)))
        self.assertIn("five times", self.last())

    def test_dividing_a_line_and_a_circle(self) -> None:
        end = self.b.lay_off(self.base, self.a, 9.0, "B")
        thirds = self.b.divide(self.a, end, 3, ["1", "2"])
        self.assertEqual([p.x for p in thirds], [3.0, 6.0])
        circle = self.b.arc(self.a, 2.0, whole=True)
        quarters = self.b.divide_circle(circle, 4, 90, "k")
        self.assert_at(quarters[0], 0, 2)
        self.assert_at(quarters[1], -2, 0)
        self.assertEqual([p.name for p in quarters], ["k0", "k1", "k2", "k3"])

    def test_both_crossings_are_named_the_chosen_one_first(self) -> None:
        circle = self.b.arc(self.a, 5.0)
        right, left = self.b.both(circle, self.base, ("R", "L"), plane.rightmost)
        self.assert_at(right, 5, 0)
        self.assert_at(left, -5, 0)
        self.assertIn("Mark R and L where the arc about A meets the base", self.last())

    def test_points_checks_cautions_and_findings_are_kept(self) -> None:
        self.b.caution("Mind the needle.")
        self.b.find("length", 3.0)
        self.b.check("it is there", 0.0)
        self.assertEqual(self.b.steps[-1].cautions, ["Mind the needle."])
        self.assertEqual(self.b.findings, {"length": 3.0})
        self.assertEqual(self.b.checks[0].text, "it is there")
        self.assertIn("A", self.b.points)

    def test_exact_constants(self) -> None:
        ball = Board(BALL)
        self.assertTrue((ball.number("0.1") * 10 - 1).contains(0))  # type: ignore[attr-defined]
        self.assertEqual(self.b.number("2.5"), 2.5)


class Extents(OnBoard):
    """A construction line is drawn as far as it was used and a little over."""

    def of(self, name: str) -> Mark:
        return next(mark for mark in self.b.finished_marks() if mark.name == name)

    def test_a_line_reaches_its_last_point_and_a_little_over(self) -> None:
        self.b.lay_off(self.base, self.a, 40.0, "B")
        line = self.of("base")
        assert isinstance(line, marks.Segment)
        self.assertTrue(40.0 < line.x2 < 42.0, line.x2)
        self.assertTrue(-2.0 < line.x1 < 0.0, line.x1)

    def test_an_arc_is_swung_only_where_it_is_needed(self) -> None:
        arc = self.b.arc(self.a, 10.0)
        self.b.meet(arc, self.base, plane.rightmost, "R")
        drawn = self.of("arc about A")
        assert isinstance(drawn, marks.Arc)
        self.assertLess(drawn.sweep, 40)
        self.assertTrue(-20 < (drawn.start + 180) % 360 - 180 < 0, drawn.start)

    def test_an_arc_through_two_points_takes_the_shorter_way(self) -> None:
        arc = self.b.arc(self.a, 10.0)
        for angle in (350.0, 20.0):
            self.b.touch(arc, arc.point_at(angle))
        drawn = self.of("arc about A")
        assert isinstance(drawn, marks.Arc)
        self.assertTrue(30 < drawn.sweep < 80, drawn.sweep)

    def test_a_circle_stays_whole(self) -> None:
        circle = self.b.arc(self.a, 10.0, whole=True)
        self.b.meet(circle, self.base, plane.rightmost, "R")
        drawn = self.of("circle about A")
        assert isinstance(drawn, marks.Arc)
        self.assertEqual(drawn.sweep, 360.0)

    def test_a_solution_that_is_not_wanted_is_drawn_as_a_locus(self) -> None:
        other = self.b.lay_off(self.base, self.a, 5.0, "B")
        for n in (1, 2):
            with self.b.for_solution(n):
                self.b.line_in((self.a, other))
        pens = [mark.pen for mark in self.b.finished_marks() if mark.solution]
        self.assertEqual(pens, [Pen.OUTLINE, Pen.LOCUS])
        self.assertEqual(self.b.solutions, 2)

    def test_blocks_keep_their_marks_apart(self) -> None:
        with self.b.block("pattern"):
            self.b.point("P", 1.0, 1.0)
        blocks = {mark.name: mark.block for mark in self.b.finished_marks()}
        self.assertEqual((blocks["A"], blocks["P"]), ("", "pattern"))

    def test_other_arithmetics_draw_nothing(self) -> None:
        board = Board(BALL)
        a = board.point("A", board.number(0), board.number(0))
        board.arc(a, board.number(3))
        board.dimension(a, a.moved(board.number(1), board.number(0)))
        self.assertEqual(board.finished_marks(), [])
        self.assertEqual(len(board.steps), 2)


class Straying(unittest.TestCase):
    def spread(self, hand: Hand, act: object) -> float:
        board = Board(HAND, unsteadiness=Unsteadiness(hand, 4000, 3))
        return float(np.std(act(board)))  # type: ignore[operator]

    def test_each_instrument_strays_by_its_own_measure(self) -> None:
        still = Hand(0, 0, 0, 0, 0)

        def measured_off(b: Board) -> object:
            a = Point(b.number(0), b.number(0), "A")
            return b.lay_off(Line(a, b.number(1), b.number(0), "base"), a, b.number(30), "B").x

        def protracted(b: Board) -> object:
            a = Point(b.number(0), b.number(0), "A")
            ray = b.protract(Line(a, b.number(1), b.number(0), "base"), a, b.number(40), "ray")
            return np.rad2deg(np.arctan2(ray.dy, ray.dx))  # type: ignore[call-overload]

        def swung(b: Board) -> object:
            return b.arc(Point(b.number(0), b.number(0), "A"), b.number(30)).radius

        for act, part in ((measured_off, "scale"), (protracted, "protractor"), (swung, "compass")):
            self.assertAlmostEqual(self.spread(Hand(**{**vars(still), part: 0.3}), act), 0.3, delta=0.02)
            self.assertEqual(self.spread(still, act), 0.0)

    def test_one_step_alone_can_stray(self) -> None:
        for only, expected in (((1,), True), ((2,), False)):
            board = Board(HAND, unsteadiness=Unsteadiness(Hand(), 100, 3, only=only))
            circle = board.arc(Point(board.number(0), board.number(0), "A"), board.number(30))
            self.assertEqual(float(np.std(circle.radius)) > 0, expected)  # type: ignore[call-overload]

    def test_the_same_seed_gives_the_same_hands(self) -> None:
        def radius(seed: int) -> object:
            board = Board(HAND, unsteadiness=Unsteadiness(Hand(), 5, seed))
            return board.arc(Point(board.number(0), board.number(0), "A"), board.number(1)).radius

        radii = [radius(seed) for seed in (1, 1, 2)]
        self.assertTrue(np.array_equal(radii[0], radii[1]))  # type: ignore[arg-type]
        self.assertFalse(np.array_equal(radii[0], radii[2]))  # type: ignore[arg-type]


class TwoViews(unittest.TestCase):
    def test_first_angle_hangs_the_top_view_below_and_third_puts_it_above(self) -> None:
        for projection, below in ((Projection.FIRST, True), (Projection.THIRD, False)):
            board = Board(PLAIN, Conventions(projection))
            views = Views.on(board, 100.0)
            up, low = views.in_front_view("B", 5.0, 20.0), views.in_top_view("B", 5.0, 30.0)
            self.assertEqual(low.y < up.y, below)
            self.assertEqual((views.above(up), views.front(low)), (20.0, 30.0))
            views.read("B", up, low)
            found = board.points["B"]
            self.assertEqual((found.x, found.front, found.above), (5.0, 30.0, 20.0))  # type: ignore[union-attr]

    def test_names_of_both_schools(self) -> None:
        primes, indices = Conventions(), Conventions(naming=Naming.INDICES)
        self.assertEqual((primes.front_name("A"), primes.top_name("A")), ("a′", "a"))
        self.assertEqual((indices.front_name("A"), indices.top_name("A")), ("A", "A₁"))


class MarksOnPaper(unittest.TestCase):
    def test_placing_enlarges_turns_and_shifts(self) -> None:
        where = Placement(2.0, 10.0, 20.0, 90.0)
        line = placed(marks.Segment(x1=1, y1=0, x2=3, y2=0), where)
        assert isinstance(line, marks.Segment)
        self.assertAlmostEqual(line.x1, 10)
        self.assertAlmostEqual(line.y1, 22)
        self.assertAlmostEqual(line.y2, 26)
        arc = placed(marks.Arc(cx=1, cy=0, radius=3, start=10, sweep=20, pen=Pen.CUT, name="n", step=4), where)
        assert isinstance(arc, marks.Arc)
        self.assertEqual((arc.radius, arc.start, arc.pen, arc.name, arc.step), (6.0, 100.0, Pen.CUT, "n", 4))

    def test_every_kind_of_mark_keeps_what_it_is_where_it_is_put(self) -> None:
        kinds: list[Mark] = [
            marks.Dot(x=1, y=2, name="P", shown=False),
            marks.Segment(x1=1, y1=2, x2=3, y2=4),
            marks.Arc(cx=1, cy=2, radius=3),
            marks.Ellipse(cx=1, cy=2, semi_major=5, semi_minor=3, angle=30),
            marks.Area(corners=((1, 2), (3, 4), (5, 6))),
            marks.Text(x=1, y=2, text="t"),
            marks.LinearDimension(x1=1, y1=2, x2=3, y2=4, text="d"),
            marks.RadiusDimension(cx=1, cy=2, x=3, y=4, text="r"),
            marks.AngleDimension(x=1, y=2, start=0, sweep=30, text="a"),
        ]
        for mark in kinds:
            self.assertEqual(placed(mark, Placement()), mark)
            twice = placed(placed(mark, Placement(2, 3, 4, 30)), Placement(1, 0, 0, 0))
            for x, y in sampled(twice):
                self.assertTrue(math.isfinite(x) and math.isfinite(y))

    def test_samples_lie_on_their_curves(self) -> None:
        ellipse = marks.Ellipse(cx=1, cy=2, semi_major=5, semi_minor=3, angle=0)
        for x, y in sampled(ellipse, 20):
            self.assertAlmostEqual(((x - 1) / 5) ** 2 + ((y - 2) / 3) ** 2, 1)
        arc = marks.Arc(cx=0, cy=0, radius=2, start=30, sweep=60)
        for x, y in sampled(arc, 90):
            self.assertAlmostEqual(math.hypot(x, y), 2)
            self.assertTrue(29.9 <= math.degrees(math.atan2(y, x)) <= 90.1)
        self.assertEqual(bounds([]), (0.0, 0.0, 1.0, 1.0))
        self.assertEqual(bounds([marks.Arc(cx=0, cy=0, radius=2)])[2], 2.0)


class EachPartOfAHandStrays(unittest.TestCase):
    """A hand of which one part alone is unsteady: what that part sets strays by as much, and nothing else does."""

    COUNT = 20_000

    def board(self, part: str) -> Board:
        steady = dict.fromkeys(("needle", "compass", "straightedge", "protractor", "scale"), 0.0)
        hand = Hand(**{**steady, part: 0.2})
        return Board(HAND, unsteadiness=Unsteadiness(hand, self.COUNT, 5))

    def spread(self, value: object) -> float:
        return float(np.std(np.asarray(value)))

    def test_the_needle_moves_a_centre_and_a_division(self) -> None:
        b = self.board("needle")
        middle = b.point("M", b.number(0), b.number(0))
        circle = b.arc(middle, b.number(30), whole=True)
        for value in (circle.centre.x, circle.centre.y):
            self.assertAlmostEqual(self.spread(value), 0.2, 2)
        self.assertEqual(self.spread(circle.radius), 0.0)
        parts = b.divide(middle, b.point("N", b.number(50), b.number(0)), 5, ["1", "2", "3", "4"])
        for part in parts:
            self.assertAlmostEqual(self.spread(part.x), 0.2, 2)
        for mark in b.divide_circle(circle, 6, 0, "d"):
            self.assertGreater(self.spread(mark.y), 0.15)

    def test_the_compass_opens_too_far_or_not_far_enough(self) -> None:
        b = self.board("compass")
        circle = b.arc(b.point("M", b.number(0), b.number(0)), b.number(30))
        self.assertAlmostEqual(self.spread(circle.radius), 0.2, 2)
        self.assertEqual(self.spread(circle.centre.x), 0.0)

    def test_the_straightedge_is_laid_beside_both_points(self) -> None:
        b = self.board("straightedge")
        a, c = b.point("A", b.number(0), b.number(0)), b.point("C", b.number(60), b.number(0))
        ruled = b.line(a, c)
        for at in (0, 60):
            self.assertAlmostEqual(self.spread(plane.distance_to_line(Point(b.number(at), b.number(0)), ruled)), 0.2, 2)

    def test_the_scale_and_the_protractor_are_misread(self) -> None:
        b = self.board("scale")
        at = b.point("A", b.number(0), b.number(0))
        self.assertAlmostEqual(self.spread(b.lay_off(b.level_line(at, "base"), at, b.number(40), "B").x), 0.2, 2)
        b = self.board("protractor")
        at = b.point("A", b.number(0), b.number(0))
        ray = b.protract(b.level_line(at, "base"), at, b.number(50), "ray")
        self.assertAlmostEqual(self.spread(np.degrees(np.arctan2(ray.dy, ray.dx))), 0.2, 2)


if __name__ == "__main__":
    unittest.main()
