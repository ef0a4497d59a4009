"""What repeats is said once, and nothing is lost by it."""

from __future__ import annotations

import re
import unittest
from collections import Counter

from wisecompass import catalogue
from wisecompass.drafting.sentences import sentence
from wisecompass.drafting.solve import Drawing, draw

MOST_STEPS = 60
"""No method takes more, as its problem's defaults are."""


def drawings() -> list[Drawing]:
    found = []
    for problem in map(catalogue.problem, catalogue.ids()):
        for method in problem.methods:
            found.append(draw(problem, problem.served_by(method, problem.read({})), method))
    return found


def bare_of_names(text: str) -> str:
    """A sentence without its numbers and letters."""
    text = re.sub(r"[₀-₉′″]+", "", text)
    text = re.sub(r"\d+(?:\.\d+)?", "#", text)
    return re.sub(r"\b[A-Za-z]{1,2}\b", "x", text)


class Likewise(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.drawn = drawings()  # type: ignore[attr-defined]

    def test_every_act_is_in_one_step(self) -> None:
        for drawing in self.drawn:  # type: ignore[attr-defined]
            told = [act.n for step in drawing.steps for act in step.acts]
            self.assertEqual(sorted(told), list(range(1, len(told) + 1)), drawing.problem.id)
            covered = [n for step in drawing.steps for n in step.covers]
            self.assertEqual(covered, list(range(1, drawing.operations + 1)), drawing.problem.id)

    def test_marks_go_with_their_steps(self) -> None:
        for drawing in self.drawn:  # type: ignore[attr-defined]
            self.assertLessEqual({mark.step for mark in drawing.marks} - {0}, {step.n for step in drawing.steps})

    def test_steps_that_say_likewise_name_what_they_change_and_make(self) -> None:
        folded = 0
        for drawing in self.drawn:  # type: ignore[attr-defined]
            for step in drawing.steps:
                text = sentence(step)
                self.assertNotRegex(text, r"Likewise (?:twice|\w+ times)\.$", drawing.problem.id)
                folded += text.startswith("Likewise")
        self.assertGreater(folded, 50)

    def test_no_sheet_is_too_long(self) -> None:
        for drawing in self.drawn:  # type: ignore[attr-defined]
            with self.subTest(problem=drawing.problem.id, method=drawing.method.name):
                self.assertLessEqual(len(drawing.steps), MOST_STEPS)

    def test_nobody_reads_the_same_sentence_over_and_over(self) -> None:
        for drawing in self.drawn:  # type: ignore[attr-defined]
            texts = Counter(bare_of_names(sentence(step)) for step in drawing.steps if step.verb != "set out")
            worst, count = texts.most_common(1)[0]
            with self.subTest(problem=drawing.problem.id, method=drawing.method.name, sentence=worst):
                self.assertLessEqual(count, 8)

    def test_one_by_one_tells_each(self) -> None:
        problem = catalogue.problem("loci/cycloid")
        typed = problem.read({})
        apart = draw(problem, typed, problem.methods[0], one_by_one=True)
        self.assertEqual(len(apart.steps), apart.operations)
        self.assertFalse([step for step in apart.steps if step.verb == "likewise"])
