"""Answers asked backwards: known answers are found again, every value is checked by solving forward, and what is told of the
rest holds."""

from __future__ import annotations

import os
import random
import time
import traceback
import unittest
from collections.abc import Iterator
from fractions import Fraction
from typing import Any
from unittest import mock

from wisecompass import catalogue
from wisecompass.arithmetic import BALL, ball
from wisecompass.drafting.errors import BadGiven, WiseCompassError
from wisecompass.drafting.givens import Form, Givens, Typed
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.step import Kind
from wisecompass.drafting.tracing import Numeric, numerics, trace, with_number
from wisecompass.judgement.asked import read_number, said
from wisecompass.judgement.sensitivity import carried, sensitivities
from wisecompass.judgement.turned import limits_of, turn
from wisecompass.judgement.wishes import NARROW, Turned

ROUNDS = int(os.environ.get("WISE_COMPASS_TURNED", "0"))
"""Wishes for every given of every problem; none means one for each given of some of them."""

SLOW = {"solids/crates", "pictorial/crates", "tangency/three-circles"}
"""Problems whose truth takes so long that few wishes are settled in time; what is not is said."""


def some(rng: random.Random, count: int) -> list[str]:
    """Problems to be tried: all in a long trial."""
    known = sorted(set(catalogue.ids()) - SLOW)
    return known if ROUNDS else rng.sample(known, count)


PATIENT = 20.0
"""Seconds in which a busy machine, too, settles what this one does in a few hundredths."""


def number(problem: Problem, typed: Typed, name: str) -> Numeric:
    return next(each for each in numerics(problem, typed) if each.name == name)


def asked(problem_id: str, given: str, finding: str, wish: str, limits: tuple[int, int] | None = None, **raw: str) -> Turned:
    problem = catalogue.problem(problem_id)
    ends = None if limits is None else (Fraction(limits[0]), Fraction(limits[1]))
    return turn(problem, problem.read(raw), given, finding, Fraction(wish), ends, seconds=PATIENT)


def values(found: Turned) -> list[float]:
    return [float(value.ball.middle) for value in found.values]


def answer(problem: Problem, typed: Typed, finding: str) -> Any:
    """What a truth says in balls, straight from the truth."""
    value: Any = problem.find_truth(typed, BALL).findings.get(finding.split(":")[0])
    if value is not None and ":" in finding:
        several = (value.x, value.front, value.above) if hasattr(value, "front") else value
        value = several[int(finding.split(":")[1]) - 1]
    return value


class Known(unittest.TestCase):
    """Wishes made from answers that are known."""

    def wishes(self, rng: random.Random, problem: Problem) -> Iterator[tuple[Numeric, str, Fraction, Fraction]]:
        """A given, a finding, a value of the given and what the finding then is."""
        typed = problem.read({})
        here = trace(problem, typed)
        for which in numerics(problem, typed):
            low, high = limits_of(which)
            for name in rng.sample([*here.findings], min(len(here.findings), 1)):
                for _ in range(12):
                    value = low + (high - low) * Fraction(rng.randrange(1, 10**6), 10**6)
                    value = Fraction(round(value)) if which.form is Form.COUNT else value
                    changed = with_number(typed, which, value)
                    try:
                        if problem.first_broken(problem.conditions, changed) is not None:
                            continue
                        found = answer(problem, changed, name)
                        wish = ball.middle(found)
                    except (WiseCompassError, ArithmeticError, ValueError, IndexError, AttributeError, TypeError):
                        continue
                    yield which, name, value, Fraction(round(wish * 10**30), 10**30)
                    break

    def test_are_found_again_or_said_not_to_be_settled(self) -> None:
        rng = random.Random(5)
        took, lost, unsettled, tried = [], [], 0, 0
        for each in some(rng, 4):
            problem = catalogue.problem(each)
            for _ in range(max(1, ROUNDS)):
                for which, name, value, wish in self.wishes(rng, problem):
                    begun = time.monotonic()
                    found = turn(problem, problem.read({}), which.name, name, wish, seconds=1.0 if ROUNDS else PATIENT / 4)
                    took.append(time.monotonic() - begun)
                    tried += 1
                    if not self.holds(found, value):
                        if any(one <= value <= other for one, other in found.unsettled):
                            unsettled += 1
                        elif not found.searched:
                            lost.append((each, which.name, name, float(value), float(wish)))
        took.sort()
        said_of = f"{tried} wishes: median {1e3 * took[len(took) // 2]:.0f} ms, "
        said_of += f"{100 * sum(t < 1 for t in took) / tried:.1f} of 100 within 1 s, {unsettled} not settled"
        if ROUNDS:
            print(said_of)
        self.assertEqual(lost, [], said_of)
        self.assertLess(unsettled, 0.1 * tried, said_of)

    def holds(self, found: Turned, value: Fraction) -> bool:
        near = Fraction(1, 10**9)
        return any(abs(one.ball.middle - value) <= near for one in found.values) or any(
            low - near <= value <= high + near for low, high in found.intervals
        )

    def test_close_to_borders_and_summits_too(self) -> None:
        """An arc that just touches, a triangle that is nearly flat, a figure just before it is largest."""
        rng = random.Random(8)
        problem = catalogue.problem("triangles/hypotenuse-leg")
        typed = problem.read({})
        leg = number(problem, typed, "leg")
        summit = Fraction(79**2, 2)
        for power in (3, 6, 9, 11):
            for border, way in ((Fraction(79), -1), (Fraction(round(float(summit) ** 0.5 * 10**15), 10**15), 1)):
                value = border + way * Fraction(rng.randrange(1, 9), 10**power)
                wish = ball.middle(answer(problem, with_number(typed, leg, value), "area"))
                found = turn(problem, typed, "leg", "area", wish, seconds=PATIENT)
                self.assertTrue(
                    any(abs(one.ball.middle - value) < Fraction(1, 10**11) for one in found.values), (power, float(value))
                )


class Forward(unittest.TestCase):
    def test_every_value_brings_the_wish_about_and_is_known_well(self) -> None:
        rng = random.Random(12)
        for each in rng.sample(sorted(set(catalogue.ids()) - SLOW), 24):
            problem = catalogue.problem(each)
            typed = problem.read({})
            here = trace(problem, typed)
            which = rng.choice(numerics(problem, typed))
            name = rng.choice([*here.findings])
            wish = Fraction(str(round(float(here.findings[name].value.mid()) * rng.uniform(0.8, 1.2), 2)))
            found = turn(problem, typed, which.name, name, wish, seconds=PATIENT)
            for value in found.values:
                self.assertLess(value.ball.radius, NARROW, (each, which.name, name))
                solved = answer(problem, with_number(typed, which, value.ball.middle), name)
                slope = sensitivities(problem, with_number(typed, which, value.ball.middle))[name].get(which.name)
                steep = 1 + (abs(slope.value.middle) if slope is not None and slope.value is not None else 0)
                self.assertLess(abs(ball.middle(solved) - wish), 10**-9 * steep, (each, which.name, name))


class Told(unittest.TestCase):
    def test_one_value_and_that_there_is_no_other(self) -> None:
        problem = catalogue.problem("tangency/arc-two-lines")
        found = turn(
            problem, problem.read({}), "radius", "setback", Fraction(30), (Fraction(1), Fraction(200)), seconds=PATIENT
        )
        self.assertAlmostEqual(values(found)[0], 30 * 0.7265425280053609, 9)
        self.assertTrue(found.complete)
        words = "setback 30 mm: blend radius 21.796 mm; there is no other from 1 mm to 200 mm"
        self.assertEqual(said(found, problem), words)

    def test_two_values(self) -> None:
        """A triangle of area 1,200 with sides 58 and 64 has an acute or an obtuse angle between them."""
        found = asked("triangles/three-sides", "base", "area", "1200", left="58", right="64")
        self.assertEqual(len(found.values), 2)
        one, other = values(found)
        self.assertAlmostEqual(one**2 + other**2, 2 * (58**2 + 64**2), 6)  # their angles add up to 180°

    def test_none_and_the_nearest_that_can_be_had(self) -> None:
        """Two sides hold the largest area at a right angle."""
        problem = catalogue.problem("triangles/three-sides")
        found = turn(problem, problem.read({"left": "58", "right": "64"}), "base", "area", Fraction(2000), seconds=PATIENT)
        self.assertEqual(found.values, [])
        self.assertTrue(found.complete)
        assert found.nearest is not None
        self.assertAlmostEqual(found.nearest[1], 58 * 64 / 2, 5)
        self.assertAlmostEqual(found.nearest[0], (58**2 + 64**2) ** 0.5, 2)
        self.assertIn("at most 1856 mm², at 86.371 mm", said(found, problem))

    def test_where_it_just_reaches_there_is_one(self) -> None:
        found = asked("triangles/three-sides", "base", "area", "1856", left="58", right="64")
        self.assertEqual([value.touching for value in found.values], [True])
        self.assertAlmostEqual(values(found)[0], (58**2 + 64**2) ** 0.5, 9)

    def test_what_does_not_hang_on_the_given(self) -> None:
        problem = catalogue.problem("tangency/arc-two-lines")
        found = turn(problem, problem.read({}), "radius", "arc_angle", Fraction(108), seconds=PATIENT)
        self.assertEqual(found.values, [])
        self.assertEqual(len(found.intervals), 1)
        self.assertTrue(said(found, problem).startswith("arc angle 108°: any blend radius from 0.001 mm"))
        found = turn(problem, problem.read({}), "radius", "arc_angle", Fraction(100), seconds=PATIENT)
        self.assertEqual((found.values, found.intervals), ([], []))

    def test_that_hangs_on_it_by_its_formula_only(self) -> None:
        """The circle about a right triangle has the hypotenuse for its diameter, whatever the leg."""
        found = asked("triangles/hypotenuse-leg", "leg", "circumradius", "39.5")
        self.assertEqual(len(found.intervals), 1)
        low, high = found.intervals[0]
        self.assertLess(low, Fraction(1))
        self.assertAlmostEqual(float(high), 79, 6)

    def test_whole_numbers(self) -> None:
        found = asked("lines/divide-equally", "parts", "part_length", "14.75", length="118")
        self.assertEqual(values(found), [8])
        problem = catalogue.problem("polygons/regular-from-side")
        found = turn(problem, problem.read({"side": "34"}), "sides", "circumradius", Fraction(55), seconds=PATIENT)
        self.assertEqual(found.values, [])
        assert found.nearest is not None
        self.assertEqual(found.nearest[0], 10)

    def test_conditions_are_kept(self) -> None:
        """A line that rises at 34° cannot recede at more than 56°."""
        for each in some(random.Random(9), 8):
            problem = catalogue.problem(each)
            typed = problem.read({})
            here = trace(problem, typed)
            which = numerics(problem, typed)[-1]
            for name in [*here.findings][:1]:
                wish = Fraction(str(round(float(here.findings[name].value.mid()), 1)))
                for value in turn(problem, typed, which.name, name, wish, seconds=0.3).values:
                    changed = with_number(typed, which, value.ball.middle)
                    self.assertIsNone(problem.first_broken(problem.conditions, changed), (each, which.name, name))


class Refused(unittest.TestCase):
    def test_what_is_no_number_and_limits_that_leave_nothing(self) -> None:
        problem = catalogue.problem("tangency/arc-two-lines")
        typed = problem.read({})
        for given, finding, limits, words in (
            ("hole", "setback", None, "those are angle, radius"),
            ("radius", "colour", None, "no number among the answers"),
            ("radius", "setback", (Fraction(5), Fraction(5)), "nothing to look for"),
            ("angle", "setback", (Fraction(190), Fraction(200)), "nothing to look for"),
        ):
            with self.assertRaisesRegex(BadGiven, words):
                turn(problem, typed, given, finding, Fraction(30), limits)

    def test_wishes_that_are_none(self) -> None:
        for text, kind, words in (
            ("abc", Kind.LENGTH, "not a number"),
            ("3 in", Kind.ANGLE, "is a length"),
            ("3°", Kind.LENGTH, "is an angle"),
            ("1" + 20 * "0", Kind.LENGTH, "1e15"),
        ):
            with self.assertRaisesRegex(BadGiven, words):
                read_number(text, "setback", kind)
        self.assertEqual(read_number("1 1/2 in", "setback", Kind.LENGTH), Fraction("38.1"))

    def test_wishes_no_figure_can_meet(self) -> None:
        for wish in ("0", "-5", "1e14"):
            found = asked("tangency/arc-two-lines", "radius", "setback", str(Fraction(wish)))
            self.assertEqual(found.values, [])
            self.assertIsNotNone(found.nearest)


class OnTape(unittest.TestCase):
    def test_no_truth_decides_aside_from_its_tape(self) -> None:
        """What is decided without being remembered would be wrong elsewhere. Only the order of a cut's corners is, which is
        the same as long as the same edges are cut, and what is only planned or only numerical."""
        aside: set[str] = set()
        whole = Givens.bound_in

        def watched(g: Givens, arithmetic: Any) -> Any:
            if "_tape" in g.__dict__:
                frames = traceback.extract_stack()[:-1]
                if not any(frame.name in ("decide", "decide_all", "line_angle") for frame in frames):
                    aside.add(f"{frames[-1].filename.rsplit('/', 1)[-1]} {frames[-1].name}")
            return whole(g, arithmetic)

        with mock.patch.object(Givens, "bound_in", watched):
            for each in catalogue.ids():
                problem = catalogue.problem(each)
                trace(problem, problem.read({}))
        allowed = {
            "cuts.py plan",
            "sheet.py bound_in",
            "round_to_round.py _worst_gap",
            "from_traverse.py crosses_itself",
            "pipes.py plainly",
            "eight_circles.py _laid",
        }
        self.assertLessEqual(aside, allowed)

    def test_a_tape_says_what_the_truth_says_elsewhere(self) -> None:
        """Run again for other givens, where all its guards hold, it gives that truth's numbers."""
        rng = random.Random(3)
        compared = 0
        for each in some(rng, 16):
            problem = catalogue.problem(each)
            typed = problem.read({})
            here = trace(problem, typed)
            for which in numerics(problem, typed):
                if which.form is Form.COUNT or here.loose(which.name):
                    continue
                value = ball.middle(which.value.evaluate(BALL)) * Fraction(rng.randrange(990, 1010), 1000)  # type: ignore[arg-type]
                changed = with_number(typed, which, value)
                if problem.first_broken(problem.conditions, changed) is not None:
                    continue
                tape = here.tape
                wanted = [guard.node for guard in tape.guards] + [one.index for one in here.findings.values()]
                run = tape.along(which.name, ball.number(value), tape.cone(wanted))
                plain = {node: one if not hasattr(one, "length") else one[0] for node, one in run.items()}
                if any(ball.sign_of(plain[guard.node]) != guard.sign for guard in tape.guards):
                    continue
                for name, one in here.findings.items():
                    if here.followed(name):
                        true = answer(problem, changed, name)
                        self.assertTrue(plain[one.index].overlaps(true), (each, which.name, name))
                        compared += 1
        self.assertGreater(compared, 80)


class Slopes(unittest.TestCase):
    def test_agree_with_differences_of_high_precision(self) -> None:
        step = Fraction(1, 10**20)
        compared = 0
        for each in some(random.Random(17), 10):
            problem = catalogue.problem(each)
            typed = problem.read({})
            slopes = sensitivities(problem, typed)
            for which in numerics(problem, typed):
                if which.form is Form.COUNT:
                    continue
                at = ball.middle(which.value.evaluate(BALL))  # type: ignore[arg-type]
                for name in slopes:
                    slope = slopes[name].get(which.name)
                    if slope is None or slope.value is None:
                        continue
                    with ball.precision(420):
                        try:
                            below, above = (
                                answer(problem, with_number(typed, which, at + way * step), name) for way in (-1, 1)
                            )
                        except (WiseCompassError, ArithmeticError):
                            continue
                        if below is None or above is None:
                            continue
                        true = ball.middle((above - below) / ball.number(2 * step))
                    self.assertLess(abs(slope.value.middle - true), Fraction(1, 10**10) * (1 + abs(true)), (each, name))
                    compared += 1
        self.assertGreater(compared, 80)

    def test_to_either_side_where_a_figure_changes_its_kind(self) -> None:
        """A square transition's longest line is another one as soon as the circle is off centre, to whichever side."""
        problem = catalogue.problem("developments/square-to-round")
        slope = sensitivities(problem, problem.read({}))["longest"]["offset_x"]
        self.assertIsNone(slope.value)
        assert slope.below is not None
        assert slope.above is not None
        self.assertEqual(slope.below.middle < 0, slope.above.middle > 0)

    def test_of_a_count_is_the_change_by_one_more(self) -> None:
        problem = catalogue.problem("lines/divide-equally")
        slope = sensitivities(problem, problem.read({"length": "120", "parts": "5"}))["part_length"]["parts"].value
        assert slope is not None
        self.assertAlmostEqual(float(slope.middle), 20 - 24, 12)


class Tolerances(unittest.TestCase):
    def test_hold_what_random_givens_within_them_give(self) -> None:
        rng = random.Random(2)
        for each in some(rng, 3):
            problem = catalogue.problem(each)
            typed = problem.read({})
            givens = [one for one in numerics(problem, typed) if one.form in (Form.LENGTH, Form.ANGLE)]
            sizes = {one.name: Fraction(1, 20) for one in givens}
            spans = carried(problem, typed, sizes)
            for _ in range(12):
                changed = typed
                for one in givens:
                    at = ball.middle(one.value.evaluate(BALL))  # type: ignore[arg-type]
                    changed = with_number(changed, one, at + Fraction(rng.randrange(-50, 51), 1000))
                if problem.first_broken(problem.conditions, changed) is not None:
                    continue
                for name, span in spans.items():
                    value = float(answer(problem, changed, name).mid())
                    if span.proved:
                        self.assertTrue(span.low - 1e-12 <= value <= span.high + 1e-12, (each, name, value, span))

    def test_are_hardly_wider_than_the_slopes_say(self) -> None:
        problem = catalogue.problem("tangency/arc-two-lines")
        typed = problem.read({})
        span = carried(problem, typed, {"radius": Fraction(1, 2)})["setback"]
        self.assertTrue(span.proved)
        self.assertAlmostEqual(span.high - span.low, 1 / 0.7265425280053609, 7)
