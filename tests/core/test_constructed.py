"""Methods construct: what they mark hangs on what they have drawn, and nothing is set to its own answer."""

from __future__ import annotations

import unittest

import numpy as np

from tests.core.redrawing import acts_of, sheet
from wisecompass import catalogue
from wisecompass.drafting.hand import Hand
from wisecompass.drafting.problem import Method, Problem
from wisecompass.drafting.solve import simulate
from wisecompass.geometry.plane import Point

GIVEN = ("place", "views", "also")
"""Acts whose letters are where somebody put them."""

HANDS = 60

UNMOVED = 1e-9
"""A letter that strays less than this in all hands does not hang on any operation, mm."""


def every_method() -> list[tuple[Problem, Method]]:
    return [(p, m) for p in map(catalogue.problem, catalogue.ids()) for m in p.methods]


class Disturbed(unittest.TestCase):
    def test_with_an_unsteady_hand_every_letter_but_the_given_ones_moves(self) -> None:
        moved = 0
        for problem, method in every_method():
            typed = problem.served_by(method, problem.read({}))
            acts = acts_of(sheet(problem, method, typed, None))
            given = {name for act in acts if act["do"] in GIVEN for name in act.get("makes", ())}
            board = simulate(problem, typed, method, Hand(), HANDS)
            with self.subTest(problem=problem.id, method=method.name), np.errstate(invalid="ignore"):
                still, begun = [], [p for name, p in board.points.items() if name in given and isinstance(p, Point)]
                for name, point in board.points.items():
                    if not isinstance(point, Point) or name in given:
                        continue
                    if problem.id.endswith("/crates") and any(p.x is point.x and p.y is point.y for p in begun):
                        continue  # the corner of the list that the figure begins from
                    spread = float(np.nanstd(np.asarray(point.x)) + np.nanstd(np.asarray(point.y)))
                    moved += 1
                    if not spread > UNMOVED:
                        still.append(name)
                self.assertEqual(still, [])
        self.assertGreater(moved, 1500)


class Checks(unittest.TestCase):
    def test_every_method_has_two_checks_that_a_hand_can_break(self) -> None:
        for problem, method in every_method():
            typed = problem.served_by(method, problem.read({}))
            board = simulate(problem, typed, method, Hand(), HANDS)
            spreads = [float(np.nanstd(np.asarray(check.residual, dtype=float))) for check in board.checks]
            moved = [spread for spread in spreads if spread > UNMOVED]
            with self.subTest(problem=problem.id, method=method.name):
                self.assertGreaterEqual(len(moved), 2)
                self.assertEqual(len(moved), len(spreads))
