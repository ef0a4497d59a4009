"""Whatever is typed for any given: a figure whose checks hold, or one sentence with the limit and what works."""

from __future__ import annotations

import os
import unittest

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from wisecompass import catalogue
from wisecompass.drafting.errors import BadGiven, Infeasible, Unknown, WiseCompassError
from wisecompass.drafting.givens import Form, Given
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.solve import certify, draw

PROBLEMS = [catalogue.problem(problem_id) for problem_id in catalogue.ids()]
GIVENS = [(problem, item) for problem in PROBLEMS for item in problem.given_list]

EXPLORE = int(os.environ.get("WISE_COMPASS_EXPLORE", "1"))
"""More than 1: so many times more examples, new ones at every run."""

STEADY = settings(deadline=None, suppress_health_check=[HealthCheck.too_slow], derandomize=EXPLORE == 1)

typed_numbers = st.one_of(
    st.decimals(-1_000_000, 1_000_000, places=3, allow_nan=False).map(str),
    st.integers(-(10**9), 10**9).map(str),
    st.tuples(st.integers(0, 400), st.integers(1, 64)).map(lambda pair: f"{pair[0]}/{pair[1]}"),
    st.sampled_from(["0", "1/0", "", " ", "abc", "12,5", "-3", "1e9", "90", "180", "2*sqrt(3)", "1 1/2 in", "pi*20", "٣"]),
    st.text(max_size=12),
)

typed_lists = st.lists(typed_numbers, min_size=1, max_size=8).map(", ".join)


def typed_text(item: Given) -> st.SearchStrategy[str]:
    """What somebody may type for a given; for a list mostly a list."""
    return typed_numbers if item.form.each is item.form else st.one_of(typed_lists, typed_lists, typed_numbers)


class AnyText(unittest.TestCase):
    @settings(STEADY, max_examples=400 * EXPLORE)
    @given(st.sampled_from(GIVENS), st.data())
    def test_one_given_of_any_text(self, where: tuple[Problem, Given], data: st.DataObject) -> None:
        problem, item = where
        self._figure_or_sentence(problem, {item.name: data.draw(typed_text(item))})

    @settings(STEADY, max_examples=150 * EXPLORE)
    @given(st.sampled_from(PROBLEMS), st.data())
    def test_all_givens_at_once(self, problem: Problem, data: st.DataObject) -> None:
        raw = {}
        for item in problem.given_list:
            if item.form is Form.CHOICE:
                raw[item.name] = data.draw(st.sampled_from(item.choices))
            else:
                raw[item.name] = data.draw(typed_text(item))
        self._figure_or_sentence(problem, raw)

    def _figure_or_sentence(self, problem: Problem, raw: dict[str, str]) -> None:
        try:
            typed = problem.read(raw)
        except WiseCompassError as reason:
            self._is_one_sentence(str(reason))
            self._nearest_works(problem, raw, reason)
            return
        for method in problem.methods:
            if problem.serves(method, typed) is not None:
                continue
            draw(problem, typed, method)
            certificate = certify(problem, typed, method)
            failed = [check.text for check in certificate.checks if not check.holds]
            self.assertEqual(failed, [], raw)

    def _is_one_sentence(self, text: str) -> None:
        self.assertGreater(len(text), 12)
        self.assertNotIn("\n", text.strip())
        self.assertNotIn("Traceback", text)
        self.assertLess(len(text), 420)

    def _nearest_works(self, problem: Problem, raw: dict[str, str], reason: WiseCompassError) -> None:
        """An offer is made, and taking it gives a figure."""
        if isinstance(reason, Unknown):
            return
        assert isinstance(reason, BadGiven | Infeasible)
        self.assertTrue(reason.offer, str(reason))
        problem.read(raw | reason.offer)


class NamedCases(unittest.TestCase):
    """The sentences that a drafter meets most often name the value and the limit."""

    def refuses(self, problem_id: str, words: str, **raw: str) -> WiseCompassError:
        with self.assertRaisesRegex(WiseCompassError, words) as caught:
            catalogue.problem(problem_id).read(raw)
        return caught.exception

    def test_angles_at_their_limits(self) -> None:
        self.refuses("tangency/arc-two-lines", "180° is too large.*below 180°", angle="180")
        self.refuses("tangency/arc-two-lines", "0° is too small.*above 0°", angle="0")
        self.refuses("tangency/arc-two-lines", "-5° is too small", angle="-5")

    def test_lengths(self) -> None:
        self.refuses("tangency/arc-two-lines", "radius 0 mm is too small.*0.001 mm", radius="0")
        self.refuses("tangency/arc-two-lines", "radius 5000000 mm is too large.*1000000 mm", radius="5000000")
        self.refuses("tangency/arc-two-lines", "divides by zero", radius="1/0")
        self.refuses("tangency/arc-two-lines", "“abc” is not a number", radius="abc")
        self.refuses("tangency/arc-two-lines", "nothing is written", radius="")
        self.refuses("tangency/arc-two-lines", "is an angle", radius="30°")
        self.refuses("tangency/arc-two-lines", "is a length", angle="30 mm")

    def test_counts(self) -> None:
        self.refuses("polygons/regular-from-side", "2 is too small.*at least 3", sides="2")
        self.refuses("polygons/regular-from-side", "25 is too large.*at most 24", sides="25")
        self.refuses("polygons/regular-from-side", "5.5 is not a whole number", sides="5.5")

    def test_coupled_limits_name_both_givens(self) -> None:
        reason = self.refuses(
            "space/line-inclined-to-both",
            "rise at 55° and also recede at 40°.*may not pass 90°",
            inclination_hp="55",
            inclination_vp="40",
        )
        assert isinstance(reason, Infeasible)
        self.assertEqual(reason.offer, {"inclination_vp": "35"})
        self.refuses("conics/ellipse", "minor axis 200 mm is longer than the major axis 168 mm", minor="200")
        self.refuses(
            "developments/rectangle-to-rectangle",
            "lap of 20 mm is too wide for the top width: it may be half of that; the nearest that works is lap 18 mm",
            lap="20",
        )

    def test_ninety_together_is_a_figure(self) -> None:
        problem = catalogue.problem("space/line-inclined-to-both")
        for pair in (("50", "40"), ("33.3", "56.7"), ("90", "0"), ("100/3", "170/3"), ("sqrt(2)*30", "90-sqrt(2)*30")):
            typed = problem.read({"inclination_hp": pair[0], "inclination_vp": pair[1]})
            self.assertEqual(draw(problem, typed, problem.methods[0]).solutions, 1)

    def test_a_hair_past_ninety_is_refused(self) -> None:
        self.refuses("space/line-inclined-to-both", "may not pass 90°", inclination_hp="50", inclination_vp="40.0000000001")

    def test_choices(self) -> None:
        self.refuses("conics/ellipse", "“diagonal” is not one of horizontal, vertical", orientation="diagonal")
        typed = catalogue.problem("conics/ellipse").read({"orientation": " VERTICAL "})
        self.assertEqual(typed["orientation"], "vertical")

    def test_unknown_names(self) -> None:
        with self.assertRaisesRegex(Unknown, "did you mean conics/ellipse"):
            catalogue.problem("conics/elipse")
        with self.assertRaisesRegex(Unknown, "it has major, minor"):
            catalogue.problem("conics/ellipse").read({"width": "3"})
        with self.assertRaisesRegex(Unknown, "it has concentric circles"):
            catalogue.problem("conics/ellipse").method("string")

    def test_a_method_that_does_not_serve_says_for_what_it_does(self) -> None:
        problem = catalogue.problem("tangency/arc-two-lines")
        reason = problem.serves(problem.method("corner arcs"), problem.read({}))
        self.assertIn("exactly 90°", str(reason))
        self.assertIsNone(problem.serves(problem.method("corner arcs"), problem.read({"angle": "45*2"})))
        ellipse = catalogue.problem("conics/ellipse")
        circle = ellipse.read({"major": "50", "minor": "50"})
        self.assertIsNotNone(ellipse.serves(ellipse.method("foci arcs"), circle))
        for name in ("concentric circles", "trammel", "rectangle", "four centres"):
            self.assertIsNone(ellipse.serves(ellipse.method(name), circle))
            self.assertEqual(certify(ellipse, circle, ellipse.method(name)).deviation.worst, 0.0)

    def test_a_solution_that_is_not_there(self) -> None:
        problem = catalogue.problem("space/line-inclined-to-both")
        with self.assertRaisesRegex(BadGiven, "2 solutions"):
            draw(problem, problem.read({}), problem.methods[0], solution=3)


if __name__ == "__main__":
    unittest.main()
