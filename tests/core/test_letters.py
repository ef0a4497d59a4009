"""Letters of one's own: every sentence and the sheet follow, and nothing else is changed."""

from __future__ import annotations

import random
import re
import unittest
from dataclasses import fields, is_dataclass, replace
from typing import Any
from unittest import mock

from wisecompass import catalogue
from wisecompass.drafting import step as steps_module
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.letters import ABBREVIATIONS, read_letters, renamed, require_free
from wisecompass.drafting.marks import Dot, Text
from wisecompass.drafting.record import Act
from wisecompass.drafting.sentences import sentence
from wisecompass.drafting.solve import Drawing, draw
from wisecompass.drafting.step import Step
from wisecompass.folio.page import compose
from wisecompass.folio.paper import Paper
from wisecompass.folio.title_block import Title

OTHER = "Ж"
"""A letter that no figure has."""

LETTERS_IN_PROSE = re.compile(
    r"\b[A-Z]{1,3}\b|[A-Z][0-9₀-₉]|′|\b(?!an?\b|as\b|at\b|by\b|i[nst]\b|o[fnr]\b|to\b|no\b|up\b|so\b)[a-z]{1,2}\b"
)

_IN_A_NAME = re.compile(r"(?<![A-Za-z0-9])([A-Za-z]{1,3})(?![A-Za-z])")


def drawings() -> list[Drawing]:
    found = []
    for problem_id in catalogue.ids():
        problem = catalogue.problem(problem_id)
        found.append(draw(problem, problem.read({}), problem.methods[0], Conventions()))
    return found


def name_with(name: str, letter: str) -> str:
    """A name of the record, in which no article stands, with another letter."""

    def token(found: re.Match[str]) -> str:
        if found[1] in ABBREVIATIONS or not (found[1].isupper() or found[1].islower()):
            return found[1]
        if found[1].islower() and (len(found[1]) > 2 or found[1] in ("of", "at", "to", "in", "on", "by", "no", "mm", "go")):
            return found[1]
        return found[1].replace(letter, OTHER).replace(letter.lower(), OTHER.lower())

    return _IN_A_NAME.sub(token, name)


def with_letter(value: Any, letter: str) -> Any:
    """The names in an act with another letter; prose stays."""
    if isinstance(value, str):
        return name_with(value, letter)
    if isinstance(value, tuple | list):
        return type(value)(with_letter(each, letter) for each in value)
    if isinstance(value, dict):
        return {key: with_letter(each, letter) if key in ("of", "pair") else each for key, each in value.items()}
    return value


class Sentences(unittest.TestCase):
    def test_a_sentence_follows_as_if_the_point_had_been_called_so(self) -> None:
        """The sentence of acts whose names have another letter is the sentence with that letter, prose apart."""
        rng = random.Random(4)
        tried = 0
        for drawing in drawings():
            letters = {mark.name[0].upper() for mark in drawing.marks if isinstance(mark, Dot) and mark.name[:1].isalpha()}
            for letter in sorted({*rng.sample(sorted(letters), min(2, len(letters))), *({"A"} & letters)}):
                mapping = ((letter, OTHER),)
                for step in drawing.steps:
                    if step.text or step.cautions:
                        continue  # prose of a method's own
                    told = sentence(step)
                    wanted = sentence(_called(step, letter))
                    prose = [act.why for act in step.acts if act.why] + [step.why]
                    if "ikewise" in told or "as far as the focal" in told:
                        continue  # it speaks of the step before, or in prose of a line with a letter
                    if "more than half" in told or "− angle" in told or any(LETTERS_IN_PROSE.search(text) for text in prose):
                        continue  # those are not in the names
                    with self.subTest(problem=drawing.problem.id, letter=letter, step=step.n):
                        self.assertEqual(renamed(mapping, told), wanted)
                    tried += 1
        self.assertGreater(tried, 1500)

    def test_there_and_back_again(self) -> None:
        """With a letter that is nobody's a sentence changes and changes back to the letter."""
        for drawing in drawings():
            letters = sorted({m.name[0].upper() for m in drawing.marks if isinstance(m, Dot) and m.name[:1].isalpha()})
            mapping = tuple((letter, chr(0x410 + n)) for n, letter in enumerate(letters))
            for step in drawing.steps:
                told = sentence(step)
                changed = renamed(mapping, told)
                back = changed
                for old, new in mapping:
                    back = back.replace(new, old).replace(new.lower(), old.lower())
                self.assertEqual(back, told, drawing.problem.id)

    def test_an_article_is_no_point(self) -> None:
        k = (("A", "K"),)
        for text, wanted in (
            ("A line AB 84 mm long. A is 12 mm in front of VP.", "A line KB 84 mm long. K is 12 mm in front of VP."),
            ("Draw a square on a side of 47 mm.", "Draw a square on a side of 47 mm."),
            ("Needle on A: swing an arc", "Needle on K: swing an arc"),
            ("T-square through a: draw the level through a.", "T-square through k: draw the level through k."),
            ("Protractor on a along the level", "Protractor on k along the level"),
            ("a′, a₁ and a′b′", "k′, k₁ and k′b′"),
            ("Compass at 10 mm, as an arc", "Compass at 10 mm, as an arc"),
            ("The angle at A", "The angle at K"),
            ("HT, VT, HP and XY", "HT, VT, HP and XY"),
        ):
            self.assertEqual(renamed(k, text), wanted)
        self.assertEqual(renamed((("A", "B"), ("B", "A")), "from A to B, AB"), "from B to A, BA")


def _called(step: Step, letter: str) -> Step:
    """The step as if a point had been called otherwise from the beginning."""
    changed = [[_act(act, letter) for act in acts] for acts in step.rounds]
    copy = replace(
        step,
        on=with_letter(step.on, letter),
        makes=with_letter(step.makes, letter),
        crossings=with_letter(step.crossings, letter),
        why=step.why,
    )
    patched = mock.PropertyMock(return_value=changed)
    kind = type("Called", (steps_module.Step,), {"rounds": patched, "__slots__": ()})
    return kind(**{each.name: getattr(copy, each.name) for each in fields(copy)})


def _act(act: Act, letter: str) -> Act:
    assert is_dataclass(act)
    return replace(
        act,
        on=with_letter(act.on, letter),
        makes=with_letter(act.makes, letter),
        which=None if act.which is None else (act.which[0], with_letter(act.which[1], letter)),
        set_to=with_letter(act.set_to, letter),
        sense=(act.sense[0], *with_letter(act.sense[1:], letter)) if act.sense else act.sense,
        more=with_letter(act.more, letter),
    )


class OnTheSheet(unittest.TestCase):
    def test_points_and_brief_follow_and_their_names_stay(self) -> None:
        problem = catalogue.problem("space/line-inclined-to-both")
        school = Conventions(letters=read_letters("A=K, b = l"))
        drawing = draw(problem, problem.read({}), problem.methods[0], school)
        page = compose(drawing, Paper(), Title(), school)
        texts = {mark.text for mark in page.marks if isinstance(mark, Text)}
        self.assertLessEqual({"k′", "k", "l′", "l"}, texts)
        self.assertFalse({"a′", "a", "b′", "b"} & texts)
        self.assertTrue(any("A line KL" in mark.text for mark in page.brief if isinstance(mark, Text)))
        self.assertIn("a′", {mark.name for mark in page.marks if isinstance(mark, Dot)})

    def test_what_cannot_be_is_said(self) -> None:
        for text, words in (("A", "write A=K"), ("A=KL", "write A=K"), ("A=K, B=K", "would become one"), ("=,", "write")):
            with self.assertRaisesRegex(BadGiven, words):
                read_letters(text)
        self.assertEqual(read_letters(" "), ())
        with self.assertRaisesRegex(BadGiven, "B is another point"):
            require_free(read_letters("A=B"), ["A", "B", "C1"])
        require_free(read_letters("A=B, B=A"), ["A", "B"])


if __name__ == "__main__":
    unittest.main()
