"""Every act says what it rests on, and what is said of letters is so on the sheet."""

from __future__ import annotations

import math
import re
import unittest
from collections.abc import Iterator

from wisecompass import catalogue
from wisecompass.drafting import sentences
from wisecompass.drafting.reasons import _BY_KIND, THEOREMS, Reasons
from wisecompass.drafting.record import Record
from wisecompass.drafting.sentences import sentence
from wisecompass.drafting.solve import draw
from wisecompass.drafting.step import Instrument, Step
from wisecompass.drafting.wording import spoken

NEAR = 1e-6

LETTER = r"\S+?"
EQUAL = re.compile(rf"^({LETTER}) is as far from ({LETTER}) as from ({LETTER})\.$")
NEAREST = re.compile(rf"^({LETTER}) is the point of (.+) that is nearest to ({LETTER})\.$")
AWAY = re.compile(rf"^({LETTER}) is ([\d.]+) mm (?:\([^()]*\) )?from ({LETTER})(?:,| and)")
KITE = re.compile(rf"^({LETTER})–({LETTER}) equals \1–({LETTER}), ")


def every_step() -> Iterator[tuple[str, Record, Step]]:
    for problem in map(catalogue.problem, catalogue.ids()):
        for method in problem.methods:
            drawing = draw(problem, problem.served_by(method, problem.read({})), method, one_by_one=True)
            for step in drawing.steps:
                assert step.book is not None
                yield f"{problem.id}, {method.name}, step {step.n}", step.book.record, step


TOOLS = {
    "T-square": Instrument.T_SQUARE,
    "Set square": Instrument.SET_SQUARE,
    "Slide the set square": Instrument.SET_SQUARE,
    "Compass": Instrument.COMPASS,
    "Dividers": Instrument.DIVIDERS,
    "Scale": Instrument.SCALE,
    "Protractor": Instrument.PROTRACTOR,
    "French curve": Instrument.CURVE,
    "Straightedge": Instrument.STRAIGHTEDGE,
}
"""How a sentence begins, and what is then in the hand."""


class Tools(unittest.TestCase):
    def test_the_tool_of_a_step_is_the_one_that_its_sentence_begins_with(self) -> None:
        checked = 0
        for where, _, step in every_step():
            text = sentence(step)
            for words, tool in TOOLS.items():
                if text.startswith(words):
                    checked += 1
                    self.assertEqual(step.instrument, tool, f"{where}: {text}")
        self.assertGreater(checked, 2000)


class ReasonsOfActs(unittest.TestCase):
    def test_every_kind_of_act_has_one(self) -> None:
        kinds = set(sentences._SENTENCES) - {"unsaid"}
        self.assertLessEqual(kinds, set(THEOREMS) | set(_BY_KIND))

    def test_what_is_said_of_letters_is_so(self) -> None:
        """The equal distances, the nearest points and the lengths of the reasons, measured on the sheet."""
        held = {"equal": 0, "nearest": 0, "away": 0, "kite": 0}
        for where, record, step in every_step():
            letters: dict[str, complex] = {}
            for name, point in record.letters.items():
                letters[spoken(name)] = complex(float(point.x), float(point.y))
            told = Reasons(step).sentences()
            self.assertTrue(told or not step.told, where)
            for text in told:
                with self.subTest(where=where, text=text):
                    self._is_so(text, letters, held)
        self.assertGreater(min(held.values()), 5, held)

    def _is_so(self, text: str, letters: dict[str, complex], held: dict[str, int]) -> None:
        if found := EQUAL.match(text):
            x, a, b = (letters[name] for name in found.groups())
            self.assertAlmostEqual(abs(x - a), abs(x - b), delta=NEAR)
            held["equal"] += 1
        elif found := KITE.match(text):
            v, p, q = (letters[name] for name in found.groups())
            self.assertAlmostEqual(abs(v - p), abs(v - q), delta=NEAR)
            held["kite"] += 1
        elif found := AWAY.match(text):
            x, size, p = found.groups()
            self.assertAlmostEqual(abs(letters[x] - letters[p]), float(size), delta=0.0051)
            held["away"] += 1
        elif NEAREST.match(text):
            held["nearest"] += 1

    def test_a_foot_is_nearest(self) -> None:
        """Where a letter is called the nearest of a line, the way to it is square to the way along it."""
        checked = 0
        for where, record, step in every_step():
            for act in step.acts:
                text = Reasons(step).reason(act)
                if not NEAREST.match(text) or not isinstance(act.on[0], str):
                    continue
                made = {name: each for each in record.acts for name in each.makes}
                across, line = act.on if made[str(act.on[0])].do == "square" else act.on[::-1]
                foot, far = record.letters[act.makes[0]], record.letters[str(made[str(across)].on[1])]
                way = record._lines[str(line)] if isinstance(line, str) else None
                if way is None or math.hypot(far.x - foot.x, far.y - foot.y) < NEAR:
                    continue
                slip = (far.x - foot.x) * way.dx + (far.y - foot.y) * way.dy
                self.assertAlmostEqual(slip / math.hypot(way.dx, way.dy), 0, delta=NEAR, msg=where)
                checked += 1
        self.assertGreater(checked, 20)
