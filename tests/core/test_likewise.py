"""What repeats is said once, and nothing is lost by it."""

from __future__ import annotations

import re
import unittest
from collections import Counter
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from wisecompass import catalogue
from wisecompass.drafting.likewise import swapped
from wisecompass.drafting.record import Act, Ref
from wisecompass.drafting.sentences import MARKING, sentence, told
from wisecompass.drafting.solve import Drawing, draw
from wisecompass.drafting.wording import spoken

MOST_STEPS = 40
"""No method takes more, as its problem's defaults are."""

MOST_ALIKE = 3
"""So often a sentence may be read, but for its names and numbers."""


def drawings() -> list[Drawing]:
    found = []
    for problem in map(catalogue.problem, catalogue.ids()):
        for method in problem.methods:
            found.append(draw(problem, problem.served_by(method, problem.read({})), method))
    return found


def bare_of_names(text: str) -> str:
    """A sentence without its numbers and letters."""
    text = re.sub(r"[₀-₉⁰¹²³⁴-⁹′″]+", "", text)
    text = re.sub(r"\d+(?:\.\d+)?", "#", text)
    return re.sub(r"\b[A-Za-z]{1,2}\b", "x", text)


RUN = re.compile(r"(\S+), (\S+) … (\S+?)(?=[\s,.;:]|$)")
DIGITS = str.maketrans("₀₁₂₃₄₅₆₇₈₉", "0123456789")


def named_in(text: str) -> set[str]:
    """All names in a sentence, those of runs like ``P₁, P₂ … P₁₂`` filled in."""
    text = re.sub(r" of (?:the square|[a-z]+)| in plan| on the circle", lambda found: found.group().replace(" ", "~"), text)
    text = re.sub(r"\b([hpe]) (?=\d)", r"\1~", text)
    names = set(re.split(r"[\s,.;:]+", text))
    for first, second, last in RUN.findall(text):
        flat = re.match(r"\d+(?=₀)", first) is not None  # 3₀ is the third of a pattern
        numbers = [re.search(r"\d+", each if flat else each.translate(DIGITS)) for each in (first, second, last)]
        if all(numbers):
            start, following, end = (int(found.group()) for found in numbers if found)
            stem = numbers[0]
            assert stem is not None
            lowered_digits = not flat and first.translate(DIGITS) != first
            for number in range(start, end, following - start) if following != start else ():
                shown = str(number).translate(str.maketrans("0123456789", "₀₁₂₃₄₅₆₇₈₉")) if lowered_digits else str(number)
                names.add(first[: stem.start()] + shown + first[stem.end() :])
    return {name.replace("~", " ") for name in names}


def told_plain(act: Act) -> str:
    """Its sentence without why and sum, and whatever tool gives the angle."""
    more = {key: value for key, value in act.more.items() if key != "tool"}
    return told(replace(act, why="", more=more, set_to=None if act.set_to is None else {**act.set_to, "sum": ""}))


def renamed(act: Act, swap: Mapping[Ref, Ref]) -> str:
    """The sentence of an act with other names in place of its own."""

    def new(ref: Any) -> Any:
        if ref in swap:
            return swap[ref]
        return tuple(swap.get(name, name) for name in ref) if isinstance(ref, tuple) else ref

    def set_anew(to: Mapping[str, Any]) -> dict[str, Any]:
        found = {key: set_anew(value) if key.endswith(" than") else value for key, value in to.items()}
        if "of" in to:
            found["of"] = new(to["of"]) if isinstance(to["of"], str) else [new(each) for each in to["of"]]
        return found

    to = set_anew(act.set_to) if act.set_to is not None else None
    which = (act.which[0], tuple(new(each) for each in act.which[1])) if act.which is not None else None
    pair = act.sense[:1] in (("pair",), ("as",))
    sense = (act.sense[0], *new(act.sense[1:])) if pair else (*act.sense[:1], *(new(each) for each in act.sense[1:]))
    on = tuple(new(each) for each in act.on)
    return told_plain(replace(act, on=on, makes=tuple(new(each) for each in act.makes), set_to=to, which=which, sense=sense))


def without_sizes(text: str) -> str:
    return re.sub(
        r"−?\d+(?:\.\d+)?(?: mm|°)|\(\d+(?:/\d+)? of a turn\)|Protractor on|Set square on the T-square at", "#", text
    )


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
        told = 0
        for drawing in self.drawn:  # type: ignore[attr-defined]
            for step in drawing.steps:
                if not step.round_length:
                    continue
                text = sentence(step)
                self.assertIn("Likewise", text, drawing.problem.id)
                self.assertNotRegex(text, r"Likewise (?:twice|\w+ times)\.$", drawing.problem.id)
                for act in step.acts:
                    if act.do in MARKING and not act.makes[0].startswith("crossing "):
                        names = {spoken(name) for name in act.makes if spoken(name) not in text}
                        self.assertLessEqual(names, named_in(text), (drawing.problem.id, text))
                        told += len(act.makes)
        self.assertGreater(told, 900)

    def test_what_is_told_by_likewise_is_what_each_would_be_told(self) -> None:
        """The first round's acts, with what stands in place of what, are those of every other round but for their sizes."""
        rounds = 0
        for drawing in self.drawn:  # type: ignore[attr-defined]
            for step in drawing.steps:
                if not step.round_length:
                    continue
                length, done = step.round_length, step.rounds
                if step.verb == "likewise":
                    before = range(step.covers[0] - length, step.covers[0])
                    done = [*(step.book.of_step(n) for n in before), *done]  # type: ignore[union-attr]
                several = [[a for acts in done[k : k + length] for a in acts] for k in range(0, len(done), length)]
                for other in several[1:]:
                    swap = swapped(several[0], other)
                    self.assertIsNotNone(swap, drawing.problem.id)
                    for act, same in zip(several[0], other, strict=True):
                        if act.do == "set out in views":
                            continue  # each is told with its own places
                        self.assertEqual(without_sizes(renamed(act, swap or {})), without_sizes(told_plain(same)))
                    rounds += 1
        self.assertGreater(rounds, 900)

    def test_no_sheet_is_too_long(self) -> None:
        for drawing in self.drawn:  # type: ignore[attr-defined]
            with self.subTest(problem=drawing.problem.id, method=drawing.method.name):
                self.assertLessEqual(len(drawing.steps), MOST_STEPS)

    def test_nobody_reads_the_same_sentence_over_and_over(self) -> None:
        for drawing in self.drawn:  # type: ignore[attr-defined]
            texts = Counter(bare_of_names(sentence(step)) for step in drawing.steps)
            worst, count = texts.most_common(1)[0]
            with self.subTest(problem=drawing.problem.id, method=drawing.method.name, sentence=worst):
                self.assertLessEqual(count, MOST_ALIKE)

    def test_one_by_one_tells_each(self) -> None:
        problem = catalogue.problem("loci/cycloid")
        typed = problem.read({})
        apart = draw(problem, typed, problem.methods[0], one_by_one=True)
        self.assertEqual(len(apart.steps), apart.operations)
        self.assertFalse([step for step in apart.steps if step.verb == "likewise"])
