"""Odd corners: every given of every problem at its least and its most, the others as they are; and both ends of lists."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

from wisecompass import catalogue
from wisecompass.drafting.errors import BadGiven, Infeasible
from wisecompass.drafting.givens import Form, Given
from wisecompass.drafting.problem import Exactness, Problem
from wisecompass.drafting.sentences import sentence
from wisecompass.drafting.solve import certify, draw


def ends(item: Given) -> list[str]:
    """The least and the greatest value of a given that a drafter might still set, as typed text."""
    if item.form is Form.CHOICE:
        return list(item.choices)
    if item.form.each is not item.form:
        one = replace(item, form=item.form.each)
        return [", ".join([text] * max(2, item.fewest)) for text in ends(one)]
    least = item.least if item.least is not None else 0
    most = item.most if item.most is not None else 1000
    if item.form.is_length:
        least, most = max(least, -2000), min(most, 2000)
    return [f"{float(least):g}", f"{float(most):g}"]


class Corners(unittest.TestCase):
    def at(self, problem: Problem, raw: dict[str, str]) -> bool:
        """A figure whose checks hold, by every method that serves, if need be of what is offered instead; False where the
        value is refused by itself."""
        for _ in range(6):
            try:
                typed = problem.read(raw)
                break
            except Infeasible as reason:
                raw = {**raw, **reason.offer}
            except BadGiven as reason:
                self.assertGreater(len(str(reason)), 12)
                return False
        else:
            self.fail(f"{problem.id}: offers for {raw} lead nowhere")
        for method in problem.methods:
            if problem.serves(method, typed) is not None:
                continue
            certificate = certify(problem, typed, method)
            failed = [check.text for check in certificate.checks if not check.holds]
            self.assertEqual(failed, [], (problem.id, method.name, raw))
            if method.exactness is not Exactness.APPROXIMATE:
                self.assertEqual(
                    certificate.deviation.worst, 0.0, (problem.id, method.name, raw, certificate.deviation.where)
                )
            for answer in certificate.answers:
                self.assertTrue(not isinstance(answer.value, float) or math.isfinite(answer.value), (problem.id, answer))
            drawing = draw(problem, typed, method)
            self.assertTrue(all(sentence(step).endswith(".") for step in drawing.steps))
        return True

    def test_each_given_at_both_ends(self) -> None:
        for problem in map(catalogue.problem, catalogue.ids()):
            solved = 0
            for item in problem.given_list:
                for text in ends(item):
                    with self.subTest(problem=problem.id, given=item.name, value=text):
                        solved += self.at(problem, {item.name: text})
            self.assertGreater(solved, 0, problem.id)


if __name__ == "__main__":
    unittest.main()
