"""Plane and space geometry against substitution: a crossing must lie on both lines, a foot must be square."""

from __future__ import annotations

import random
import unittest

from flint import arb

from wisecompass.arithmetic import BALL
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point
from wisecompass.geometry.space import Point3, cross, distance3, dot, meet_planes, norm


class Crossings(unittest.TestCase):
    def setUp(self) -> None:
        self.rng = random.Random(5)

    def ball(self, low: int = -500, high: int = 500) -> arb:
        return BALL.number(self.rng.randint(low * 10, high * 10)) / 10  # type: ignore[return-value]

    def point(self) -> Point:
        return Point(self.ball(), self.ball())

    def assert_zero(self, value: arb) -> None:
        self.assertTrue(value.contains(0), value)
        self.assertLess(float(value.rad()), 1e-20)

    def test_lines_meet_on_both(self) -> None:
        for _ in range(80):
            one, two = Line.through(self.point(), self.point()), Line.through(self.point(), self.point())
            p = plane.meet(one, two, name="X")
            self.assertEqual(p.name, "X")
            for line in (one, two):
                self.assert_zero(plane.distance_to_line(p, line))  # type: ignore[arg-type]

    def test_line_and_circle_meet_on_both_in_order(self) -> None:
        for _ in range(80):
            circle = Circle(self.point(), self.ball(50, 400))
            chord = Line.through(circle.point_at(self.ball(0, 170)), circle.point_at(self.ball(180, 350)))
            first, second = plane.meet_line_circle(chord, circle)
            for p in (first, second):
                self.assert_zero(plane.distance(p, circle.centre) - circle.radius)  # type: ignore[arg-type]
                self.assert_zero(plane.distance_to_line(p, chord))  # type: ignore[arg-type]
            ahead = (second.x - first.x) * chord.dx + (second.y - first.y) * chord.dy
            self.assertTrue(ahead > 0)  # type: ignore[operator]

    def test_circles_meet_on_both_left_one_first(self) -> None:
        for _ in range(80):
            one, two = Circle(Point(self.ball(0, 1), self.ball(0, 1)), self.ball(60, 90)), None
            two = Circle(Point(self.ball(40, 60), self.ball(-40, 40)), self.ball(60, 90))
            left, right = plane.meet_circles(one, two)
            for p in (left, right):
                self.assert_zero(plane.distance(p, one.centre) - one.radius)  # type: ignore[arg-type]
                self.assert_zero(plane.distance(p, two.centre) - two.radius)  # type: ignore[arg-type]
            centres = Line.through(one.centre, two.centre)
            self.assertTrue(plane.side_of(left, centres) > 0)  # type: ignore[operator]
            self.assertTrue(plane.side_of(right, centres) < 0)  # type: ignore[operator]

    def test_touching_circles_have_one_crossing_twice(self) -> None:
        first = Circle(Point(BALL.number(0), BALL.number(0)), BALL.number(3))
        second = Circle(Point(BALL.number(7), BALL.number(0)), BALL.number(4))
        left, right = plane.meet_circles(first, second)
        self.assert_zero(left.x - right.x)  # type: ignore[arg-type]
        self.assertTrue(left.y.contains(0))  # type: ignore[attr-defined]

    def test_selectors_choose_by_what_they_say(self) -> None:
        circle = Circle(Point(0.0, 0.0), 5.0)
        level = Line(Point(0.0, 3.0), 1.0, 0.0)
        upright = Line(Point(3.0, 0.0), 0.0, 1.0)
        self.assertEqual(plane.meet(level, circle, plane.rightmost).x, 4.0)
        self.assertEqual(plane.meet(level, circle, plane.leftmost).x, -4.0)
        self.assertEqual(plane.meet(upright, circle, plane.upper).y, 4.0)
        self.assertEqual(plane.meet(upright, circle, plane.lower).y, -4.0)
        self.assertEqual(plane.meet(level, circle, plane.nearest(Point(-9.0, 0.0))).x, -4.0)
        self.assertEqual(plane.meet(level, circle, plane.farthest(Point(-9.0, 0.0))).x, 4.0)
        self.assertEqual(plane.meet(level, circle, plane.beyond(level)).x, 4.0)
        self.assertEqual(plane.meet(level, circle, plane.left_of(Line(Point(0.0, 0.0), 0.0, 1.0))).x, -4.0)
        self.assertEqual(plane.meet(level, circle, plane.right_of(Line(Point(0.0, 0.0), 0.0, 1.0))).x, 4.0)

    def test_two_crossings_want_a_selector(self) -> None:
        circle = Circle(Point(0.0, 0.0), 5.0)
        with self.assertRaises(ValueError):
            plane.meet(circle, Line(Point(0.0, 0.0), 1.0, 0.0))
        with self.assertRaises(ValueError):
            plane.crossings(Line(Point(0.0, 0.0), 1.0, 0.0), Line(Point(0.0, 0.0), 0.0, 1.0))


class Measures(unittest.TestCase):
    def test_feet_parallels_and_offsets(self) -> None:
        line = Line.through(Point(1.0, 1.0), Point(4.0, 5.0))
        p = Point(7.0, -3.0)
        foot = plane.foot(p, line)
        self.assertAlmostEqual(plane.distance_to_line(foot, line), 0)  # type: ignore[call-overload]
        self.assertAlmostEqual((p.x - foot.x) * line.dx + (p.y - foot.y) * line.dy, 0)  # type: ignore[call-overload]
        self.assertAlmostEqual(plane.distance_to_line(line.offset(2.5).at, line), 2.5)  # type: ignore[call-overload]
        self.assertAlmostEqual(plane.distance(line.at, line.point_at(10.0)), 10.0)  # type: ignore[call-overload]
        self.assertEqual(line.square(p).dx, -line.dy)
        self.assertEqual(line.parallel(p).dx, line.dx)

    def test_angles_keep_their_sense(self) -> None:
        v, a, b = Point(0.0, 0.0), Point(1.0, 0.0), Point(0.0, 2.0)
        self.assertAlmostEqual(plane.angle_at(v, a, b), 90)  # type: ignore[call-overload]
        self.assertAlmostEqual(plane.turn_at(v, a, b), 90)  # type: ignore[call-overload]
        self.assertAlmostEqual(plane.turn_at(v, b, a), -90)  # type: ignore[call-overload]
        self.assertAlmostEqual(plane.direction(a, b), 116.56505117707799)  # type: ignore[call-overload]

    def test_area_of_a_polygon_is_signed(self) -> None:
        square = [Point(0.0, 0.0), Point(2.0, 0.0), Point(2.0, 2.0), Point(0.0, 2.0)]
        self.assertEqual(plane.polygon_area(square), 4.0)
        self.assertEqual(plane.polygon_area(square[::-1]), -4.0)

    def test_points_between(self) -> None:
        a, b = Point(0.0, 0.0), Point(9.0, 3.0)
        self.assertEqual((plane.between(a, b, 1, 3).x, plane.between(a, b, 1, 3).y), (3.0, 1.0))
        self.assertEqual(plane.midpoint(a, b).x, 4.5)


class Space(unittest.TestCase):
    def test_cross_product_is_square_to_both(self) -> None:
        a, b = Point3(1.0, 2.0, 3.0), Point3(-2.0, 0.5, 4.0)
        c = cross(a, b)
        self.assertAlmostEqual(dot(a, c), 0)  # type: ignore[call-overload]
        self.assertAlmostEqual(dot(b, c), 0)  # type: ignore[call-overload]
        lagrange = dot(a, a) * dot(b, b) - dot(a, b) * dot(a, b)
        self.assertAlmostEqual(norm(c) * norm(c), lagrange)  # type: ignore[call-overload]

    def test_three_planes_meet_in_a_point_of_each(self) -> None:
        planes = [
            (Point3(1.0, 2.0, -1.0), 3.0),
            (Point3(0.0, 1.0, 4.0), -2.0),
            (Point3(2.0, -1.0, 1.0), 5.0),
        ]
        p = meet_planes(planes)  # type: ignore[arg-type]
        for normal, offset in planes:
            self.assertAlmostEqual(dot(normal, p), offset)  # type: ignore[call-overload]

    def test_distance(self) -> None:
        self.assertAlmostEqual(distance3(Point3(1.0, 1.0, 1.0), Point3(3.0, 4.0, 7.0)), 7.0)  # type: ignore[call-overload]


if __name__ == "__main__":
    unittest.main()
