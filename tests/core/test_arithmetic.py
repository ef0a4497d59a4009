"""Numbers: reading them as typed, and the functions that work alike in all arithmetics."""

from __future__ import annotations

import math
import random
import re
import unittest
from fractions import Fraction

import numpy as np
from flint import arb
from scipy import special

from wisecompass import arithmetic
from wisecompass.arithmetic import BALL, HAND, PLAIN, ball, expression
from wisecompass.arithmetic.certified import decide_sign, with_enough_bits
from wisecompass.arithmetic.closed_form import BITS, recognise
from wisecompass.arithmetic.expression import Unreadable, read
from wisecompass.arithmetic.undecided import Undecided


class ReadingNumbers(unittest.TestCase):
    def test_decimals_fractions_and_mixed_numbers_are_exact(self) -> None:
        for text, value in (
            ("18.5", Fraction(37, 2)),
            ("18,5", Fraction(37, 2)),
            (".5", Fraction(1, 2)),
            ("3/4", Fraction(3, 4)),
            ("1 1/2", Fraction(3, 2)),
            ("-2 + 3*4", Fraction(10)),
            ("2×3", Fraction(6)),
            ("(1 + 2) / 4", Fraction(3, 4)),
            ("−7", Fraction(-7)),
            ("12.", Fraction(12)),
        ):
            with self.subTest(text):
                self.assertEqual(read(text).fraction(), value)

    def test_units_turn_into_millimetres(self) -> None:
        self.assertEqual(read("1 in").fraction(), Fraction("25.4"))
        self.assertEqual(read("1 1/2 in").fraction(), Fraction("38.1"))
        self.assertEqual(read("2.5 cm").fraction(), Fraction(25))
        self.assertEqual(read("2 ft").fraction(), Fraction("609.6"))
        self.assertEqual(read("3", default_unit="cm").fraction(), Fraction(30))
        self.assertEqual(read("3 mm", default_unit="cm").fraction(), Fraction(3))
        self.assertEqual(read("40°").unit, "°")

    def test_roots_and_pi_stay_open_until_an_arithmetic_is_chosen(self) -> None:
        root = read("2*sqrt(3)")
        self.assertIsNone(root.fraction())
        self.assertAlmostEqual(float(root.evaluate(PLAIN)), 12**0.5)
        with ball.precision(500):
            self.assertTrue((root.evaluate(BALL) ** 2 - 12).contains(0))  # type: ignore[operator]
        self.assertAlmostEqual(float(read("π/4").evaluate(PLAIN)), math.pi / 4)
        self.assertEqual(read("√9").evaluate(PLAIN), 3.0)

    def test_what_is_no_number_says_why(self) -> None:
        for text, words in (
            ("", "nothing"),
            ("   ", "nothing"),
            ("abc", "abc"),
            ("1/0", "divides by zero"),
            ("1/(2-2)", "divides by zero"),
            ("(1", "not closed"),
            ("1+", "breaks off"),
            ("1;2", ";2"),
            ("2 3", "out of place"),
            ("1e5", "out of place"),
            ("9" * 60, "digits"),
            ("1+" * 60 + "1", "longer"),
            ("(" * 30 + "1" + ")" * 30, "brackets"),
            ("nan", "nan"),
            ("inf", "inf"),
            ("__import__('os')", "_"),
        ):
            with self.subTest(text[:20]), self.assertRaisesRegex(Unreadable, words):
                read(text)

    def test_values_that_do_not_come_from_a_keyboard(self) -> None:
        self.assertEqual(expression.of(25.4).fraction(), Fraction(127, 5))
        self.assertEqual(expression.of(7).text, "7")
        self.assertEqual(expression.of(7.0).text, "7")
        self.assertEqual(expression.of("3/4").fraction(), Fraction(3, 4))
        for bad in (math.nan, math.inf):
            with self.assertRaises(Unreadable):
                expression.of(bad)

    def test_a_third_is_a_third_in_balls(self) -> None:
        third = read("1/3").evaluate(BALL)
        self.assertTrue((third * 3 - 1).contains(0))  # type: ignore[operator]
        self.assertLess(float(third.rad()), 1e-45)  # type: ignore[attr-defined]


class FunctionsAgree(unittest.TestCase):
    """Each function on floats, balls and hands, against each other and against mathematics."""

    def setUp(self) -> None:
        self.rng = random.Random(11)

    def in_all(self, value: float) -> tuple[float, arb, np.ndarray]:
        exact = Fraction(value)
        return float(exact), BALL.number(exact), HAND.number(exact) + np.zeros(3)  # type: ignore[return-value]

    def check(self, function: object, low: float, high: float) -> None:
        for _ in range(60):
            plain, proved, many = self.in_all(round(self.rng.uniform(low, high), 4))
            expected = function(plain)  # type: ignore[operator]
            self.assertAlmostEqual(expected, float(function(proved).mid()), delta=1e-9 * (1 + abs(expected)))  # type: ignore[operator]
            for hand in function(many):  # type: ignore[operator]
                self.assertAlmostEqual(expected, float(hand), delta=1e-9 * (1 + abs(expected)))

    def test_trigonometry_in_degrees(self) -> None:
        self.check(arithmetic.sin_deg, -720, 720)
        self.check(arithmetic.cos_deg, -720, 720)
        self.check(arithmetic.tan_deg, -80, 80)
        self.check(arithmetic.asin_deg, -1, 1)
        self.check(arithmetic.acos_deg, -1, 1)

    def test_roots_logarithm_and_pi(self) -> None:
        self.check(arithmetic.sqrt, 0, 1e6)
        self.check(arithmetic.root, 0, 1e6)
        self.check(arithmetic.log, 0.01, 1e6)
        self.check(arithmetic.pi_times, -9, 9)
        self.check(arithmetic.absolute, -9, 9)

    def test_elliptic_integral_against_the_defining_quadrature(self) -> None:
        self.check(arithmetic.elliptic_e, 0, 0.999)
        for m in (0.0, 0.25, 0.9, 1.0):
            self.assertAlmostEqual(arithmetic.elliptic_e(m), float(special.ellipe(m)), places=12)

    def test_what_no_hand_strays_from_goes_with_what_they_do(self) -> None:
        """A float first and hands beside it, as where a given meets what is drawn."""
        many, one = np.array([3.0, 4.0, 5.0]), HAND.number(4)
        self.assertIsInstance(one, float)
        for function in (arithmetic.larger, arithmetic.smaller, arithmetic.atan2_deg, arithmetic.hypot):
            for first, second in ((one, many), (many, one)):
                expected = [function(float(a), float(b)) for a, b in zip(*np.broadcast_arrays(first, second), strict=True)]
                np.testing.assert_allclose(function(first, second), expected, rtol=1e-14)  # type: ignore[arg-type]
        np.testing.assert_array_equal(arithmetic.pick(one, many, one, many), [3.0, 4.0, 4.0])  # type: ignore[arg-type]
        grown = arithmetic.turning_integral(lambda c, s, root: many * c * c, 0.0, 360.0)
        np.testing.assert_allclose(grown, many * np.pi, rtol=1e-13)  # type: ignore[arg-type]

    def test_an_integral_over_turns_in_all_arithmetics(self) -> None:
        """∫ 1 / cos² = the difference of tangents, with a factor that each hand has for itself."""
        first, last = np.array([10.0, -20.0, 5.0]), np.array([60.0, 30.0, 5.0])
        grown = np.array([1.0, 2.0, 3.0])
        wanted = grown * (np.tan(np.radians(last)) - np.tan(np.radians(first)))
        for n in range(3):
            plain = arithmetic.turning_integral(lambda c, s, _, n=n: grown[n] / (c * c), float(first[n]), float(last[n]))
            self.assertAlmostEqual(plain, wanted[n], 10)
        found = arithmetic.turning_integral(lambda c, s, _: grown / (c * c), first, last)
        np.testing.assert_allclose(found, wanted, rtol=1e-12)

    def test_multiples_of_ninety_are_exact(self) -> None:
        for turn in range(-8, 9):
            expected = (1.0, 0.0, -1.0, 0.0)[turn % 4]
            self.assertEqual(arithmetic.cos_deg(90.0 * turn), expected)
            self.assertEqual(arithmetic.sin_deg(90.0 * turn), (0.0, 1.0, 0.0, -1.0)[turn % 4])
            proved = arithmetic.cos_deg(BALL.number(90 * turn))
            self.assertTrue(proved == int(expected))

    def test_atan2_covers_all_quadrants(self) -> None:
        for x, y in ((3, 4), (-3, 4), (-3, -4), (3, -4), (0, 5), (-5, 0)):
            expected = math.degrees(math.atan2(y, x))
            self.assertAlmostEqual(arithmetic.atan2_deg(float(y), float(x)), expected)
            if y or x > 0:
                proved = arithmetic.atan2_deg(BALL.number(y), BALL.number(x))
                self.assertAlmostEqual(float(proved), expected)

    def test_root_of_a_touch_is_zero_and_of_a_miss_is_nan(self) -> None:
        self.assertEqual(arithmetic.root(-1e-12), 0.0)
        self.assertTrue(math.isnan(arithmetic.root(-1.0)))
        touching = arithmetic.root(arb(0, 1e-40))
        self.assertTrue(touching.contains(0))  # type: ignore[attr-defined]
        self.assertLess(float(touching.rad()), 1e-19)  # type: ignore[attr-defined]
        self.assertTrue(arithmetic.root(arb(-1)).is_nan())  # type: ignore[attr-defined]
        self.assertTrue(math.isnan(arithmetic.root(np.array([-1.0]))[0]))  # type: ignore[index]

    def test_larger_and_smaller_hold_the_true_one(self) -> None:
        a, b = arb(1, 0.5), arb(1.2, 0.5)
        self.assertTrue(arithmetic.larger(a, b).contains(arb(1.2)))  # type: ignore[attr-defined]
        self.assertEqual(arithmetic.larger(2.0, 3.0), 3.0)
        self.assertEqual(arithmetic.smaller(2.0, 3.0), 2.0)
        self.assertEqual(list(arithmetic.larger(np.array([1.0, 5.0]), np.array([2.0, 4.0]))), [2.0, 5.0])  # type: ignore[call-overload]

    def test_a_bare_whole_number_belongs_to_no_arithmetic(self) -> None:
        with self.assertRaises(TypeError):
            arithmetic.sqrt(2)

    def test_the_first_hand_is_the_steady_one_by_which_all_is_decided(self) -> None:
        chance = random.Random(8)
        for count in (1, 2, 7, 300):
            values = np.array([chance.gauss(3, 40) for _ in range(count)])
            self.assertEqual(arithmetic.roughly(values), values[0])  # type: ignore[arg-type]
            self.assertEqual(arithmetic.sign_of(values), np.sign(values[0]))  # type: ignore[arg-type]
        self.assertEqual(arithmetic.sign_of(np.array([math.nan, math.nan])), 0)  # type: ignore[arg-type]


class Deciding(unittest.TestCase):
    def test_rational_signs_are_exact(self) -> None:
        tiny = Fraction(1, 10**60)
        self.assertEqual(decide_sign(lambda a: a.number(tiny)), 1)
        self.assertEqual(decide_sign(lambda a: a.number(0)), 0)
        self.assertEqual(decide_sign(lambda a: a.number(-tiny)), -1)

    def test_precision_rises_until_a_sign_is_certain(self) -> None:
        near = Fraction(round(2**0.5 * 10**40), 10**40)
        sign = decide_sign(lambda a: arithmetic.sqrt(a.number(2)) - a.number(near))
        with ball.precision(400):
            self.assertEqual(sign, ball.sign_of(arb(2).sqrt() - BALL.number(near)))  # type: ignore[operator]
        self.assertNotEqual(sign, 0)

    def test_equal_irrational_numbers_count_as_equal(self) -> None:
        root = arithmetic.sqrt
        self.assertEqual(decide_sign(lambda a: root(a.number(8)) - 2 * root(a.number(2))), 0)

    def test_undecided_choices_raise_until_precision_is_enough(self) -> None:
        gap = Fraction(1, 2**300)

        def run() -> object:
            one, other = arb(2).sqrt(), arb(2).sqrt() + BALL.number(gap)  # type: ignore[operator]
            return arithmetic.pick(one, other, arb(1), arb(2))

        with self.assertRaises(Undecided):
            run()
        self.assertTrue(with_enough_bits(run, lambda _: True) == 1)


class ClosedForms(unittest.TestCase):
    def recognised(self, make: object) -> str | None:
        with ball.precision(BITS + 60):
            return recognise(make())  # type: ignore[operator]

    def test_surds_fractions_and_multiples_of_pi(self) -> None:
        for make, text in (
            (lambda: arb(5).sqrt() * 65 / 2, "65√5 / 2"),
            (lambda: arb(1) / 3, "1/3"),
            (lambda: (1 + arb(5).sqrt()) / 2, "(1 + √5) / 2"),
            (lambda: (3 - arb(5).sqrt()) / 2, "(3 - √5) / 2"),
            (lambda: -arb(3).sqrt(), "-√3"),
            (lambda: arb.pi() * 7 / 2, "7π / 2"),
            (lambda: (arb(5) + arb(5).sqrt()).sqrt(), "√(5 + √5)"),
            (lambda: arb(49), "49"),
        ):
            self.assertEqual(self.recognised(make), text)

    def test_random_quadratic_surds_are_found_again(self) -> None:
        rng = random.Random(3)
        for _ in range(40):
            a, b, n, d = rng.randint(-90, 90), rng.randint(1, 90), rng.choice((2, 3, 5, 6, 7, 11)), rng.randint(1, 40)
            text = self.recognised(lambda: (arb(a) + b * arb(n).sqrt()) / d)  # noqa: B023
            assert text is not None
            value = eval(_python(text))  # the text is this module's own
            self.assertAlmostEqual(value, (a + b * n**0.5) / d, places=9)

    def test_what_has_no_simple_form_is_left_alone(self) -> None:
        self.assertIsNone(self.recognised(lambda: arb(2).root(3)))
        self.assertIsNone(self.recognised(lambda: arb(1).sin()))
        self.assertIsNone(self.recognised(lambda: arb(1, 0.001)))
        self.assertIsNone(recognise(arb(2).sqrt()))


def _python(text: str) -> str:
    """A closed form as a Python expression."""
    spaced = re.sub(r"(\d)√", r"\1*√", text)
    return re.sub(r"√(\d+)", r"(\1**0.5)", spaced)


class QuickFractions(unittest.TestCase):
    def test_both_kinds_of_fractions_decide_alike_and_know_no_roots(self) -> None:
        from wisecompass.arithmetic import sqrt
        from wisecompass.arithmetic.systems import EXACT, RATIONAL

        for text in ("7/3", "0.1", "-12", "1 1/2 in"):
            typed = read(text, "mm")
            quick, plain = typed.evaluate(RATIONAL), typed.evaluate(EXACT)
            self.assertEqual(str(quick), str(plain))
            self.assertEqual((quick > 0) - (quick < 0), (plain > 0) - (plain < 0))  # type: ignore[operator]
        with self.assertRaises(TypeError):
            sqrt(RATIONAL.number(2))


if __name__ == "__main__":
    unittest.main()
