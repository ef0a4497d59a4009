"""What is decided of givens once is remembered, and only what is sure to be decided alike again."""

from __future__ import annotations

import random
import unittest
from operator import attrgetter
from unittest import mock

from tests.core.random_givens import feasible
from tests.core.test_independence import outcome
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting import givens
from wisecompass.drafting.givens import bind, known_again
from wisecompass.drafting.step import Instrument


class Functions(unittest.TestCase):
    def test_are_known_again_by_their_code_and_what_they_close_over(self) -> None:
        def beyond(what: object) -> object:
            return known_again(lambda h: (h, what))

        for same in ("base", 7, True, Instrument.COMPASS, ("base", ("top", 2)), len.__class__, beyond):
            self.assertIsNotNone(beyond(same), same)
            self.assertEqual(beyond(same), beyond(same))
        pen = Instrument.COMPASS
        told = [beyond(each) for each in ("base", "top", 1, True, pen, pen.value, ("base",), beyond, int, str)]
        self.assertEqual(len(set(told)), len(told))
        self.assertNotEqual(known_again(lambda h: h.base), known_again(lambda h: h.top))

    def test_are_not_where_they_may_reckon_otherwise_next_time(self) -> None:
        counted = [0]

        class Held:
            size = 1.0

        for held in (counted, {}, 1.5, Held(), lambda: counted, (counted,)):
            self.assertIsNone(known_again(lambda h, held=held: (h, held)))
            self.assertIsNone(known_again((lambda what: lambda h: (h, what))(held)), held)
        for other in (attrgetter("base"), len, Held().__init__):
            self.assertIsNone(known_again(other))


class Decisions(unittest.TestCase):
    def test_are_made_once_of_the_same_numbers(self) -> None:
        problem = catalogue.problem("triangles/three-sides")
        typed, asked = problem.read({"base": "80", "left": "60"}), [0]

        def ask() -> int:
            with mock.patch.object(givens, "decide_sign", side_effect=givens.decide_sign) as decide:
                sign = bind(problem.givens, typed, PLAIN).decide(lambda g: g.base - g.left)
                asked.append(decide.call_count)
            return sign

        self.assertEqual([ask(), ask()], [1, 1])
        typed["left"] = problem.read({"base": "80", "left": "90"})["left"]
        self.assertEqual([ask(), ask()], [-1, -1])
        base, left, right = (typed.pop(name) for name in ("base", "left", "right"))
        typed.update(left=base, base=left, right=right)  # the same numbers in their order, under other names
        self.assertEqual([ask(), ask()], [1, 1])
        self.assertEqual(asked, [0, 1, 0, 1, 0, 1, 0])

    def test_no_more_are_kept_than_of_the_last_givens(self) -> None:
        problem = catalogue.problem("triangles/three-sides")
        every = [problem.read({"base": f"{80 + n / 4}"}) for n in range(3 * givens._KEPT)]
        for typed in every:
            self.assertEqual(bind(problem.givens, typed, PLAIN).decide(lambda g: g.base), 1)
        self.assertLessEqual(len(givens._DECIDED), givens._KEPT)

    def test_of_every_problem_are_those_that_are_made_anew(self) -> None:
        """Drawn once more by what is remembered, and without any memory, everything comes out the same."""
        rng = random.Random(5)
        for each in catalogue.ids():
            problem = catalogue.problem(each)
            for method in problem.methods:
                with self.subTest(problem=each, method=method.name):
                    some = [problem.served_by(method, problem.read({})), feasible(problem, method, rng, offered=0.5)]
                    first = [outcome(problem, method, typed) for typed in some]
                    again = [outcome(problem, method, typed) for typed in some]
                    with mock.patch.object(givens, "known_again", lambda _: None):
                        anew = [outcome(problem, method, typed) for typed in some]
                    self.assertEqual(first, anew)
                    self.assertEqual(again, anew)


if __name__ == "__main__":
    unittest.main()
