"""What must hold for every problem of the catalogue, over random givens. A new problem joins by being listed."""

from __future__ import annotations

import contextlib
import math
import os
import random
import unittest
from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from tests.core.random_givens import feasible
from wisecompass import catalogue
from wisecompass.arithmetic import BALL, PLAIN
from wisecompass.drafting.conventions import Conventions, Naming, Projection
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.forks import Fork
from wisecompass.drafting.givens import Form, Typed
from wisecompass.drafting.hand import Hand
from wisecompass.drafting.problem import Exactness, Method, Problem
from wisecompass.drafting.sentences import sentence
from wisecompass.drafting.solve import (
    Certificate,
    _numbers,
    certify,
    check_of,
    construct,
    deviation,
    draw,
    in_balls,
    simulate,
)
from wisecompass.judgement.hands import OnPaper, figures

ROUNDS = int(os.environ.get("WISE_COMPASS_ROUNDS", "50"))
"""Random givens a method."""

BODIES = ("solids", "pictorial", "developments")
"""Families whose figures take long."""

CLOSE = 1e-15
"""Two proved values that are equal may differ by no more than this, mm or degrees, bounds included."""


def every_method() -> list[tuple[Problem, Method]]:
    return [(p, m) for p in map(catalogue.problem, catalogue.ids()) for m in p.methods]


class EveryMethod(unittest.TestCase):
    """One subtest a method; each failure names the givens."""

    def over_random_givens(self, act: Any, rounds: int, *families: str) -> None:
        for problem, method in every_method():
            if families and problem.family not in families:
                continue
            rng = random.Random(f"{problem.id}/{method.name}")
            with self.subTest(problem=problem.id, method=method.name):
                for _ in range(rounds):
                    typed = feasible(problem, method, rng)
                    try:
                        act(problem, method, typed)
                    except AssertionError as failure:
                        given = {k: v if isinstance(v, str) else v.text for k, v in typed.items()}
                        raise AssertionError(f"{problem.id}, {method.name}, {given}: {failure}") from None

    def test_method_agrees_with_truth_inside_proved_balls_in_plane_figures(self) -> None:
        self.over_random_givens(self._agrees, ROUNDS, "lines", "triangles", "polygons")

    def test_method_agrees_with_truth_inside_proved_balls_in_tangency(self) -> None:
        self.over_random_givens(self._agrees, ROUNDS, "tangency")

    def test_method_agrees_with_truth_inside_proved_balls_in_conics(self) -> None:
        self.over_random_givens(self._agrees, ROUNDS, "conics")

    def test_method_agrees_with_truth_inside_proved_balls_in_loci(self) -> None:
        self.over_random_givens(self._agrees, ROUNDS, "loci")

    def test_method_agrees_with_truth_inside_proved_balls_in_space(self) -> None:
        named = {"lines", "triangles", "polygons", "tangency", "conics", "loci", *BODIES}
        self.over_random_givens(self._agrees, ROUNDS, *(set(catalogue.FAMILIES) - named))

    def test_method_agrees_with_truth_inside_proved_balls_in_bodies(self) -> None:
        self.over_random_givens(self._agrees, max(1, ROUNDS // 4), *BODIES)

    def _agrees(self, problem: Problem, method: Method, typed: Typed) -> None:
        truth, board = in_balls(problem, typed, method)
        for check in map(check_of, board.checks):
            self.assertTrue(check.holds, f"check fails: {check.text}, off by {check.residual}")
        if method.exactness is Exactness.APPROXIMATE:
            return
        strays = deviation(method, truth, board)
        self.assertEqual(strays.worst, 0.0, f"strays at {strays.where}")
        for name, measured in board.findings.items():
            true = truth.findings.get(name, measured)
            if true is None or measured is None or isinstance(true, str | int | bool):
                self.assertEqual(true, measured, name)
                continue
            for one, other in zip(_numbers(true), _numbers(measured), strict=True):
                part = one - other  # type: ignore[operator]
                self.assertTrue(part.contains(0), f"{name}: true {true}, measured {measured}")
                self.assertLess(float(part.rad()), CLOSE, name)
            if name == "tangent_angle":
                self.assertTrue(0 <= float(measured.mid()) < 180, f"{name} {measured}")  # type: ignore[union-attr]
        shown = set(truth.findings) - problem.reckoned_only
        self.assertLessEqual(shown, set(board.findings), "shown, and not measured on the drawing")

    def test_truth_and_method_give_points_of_the_same_names(self) -> None:
        """An agreement over no common point would prove nothing."""
        for problem, method in every_method():
            with self.subTest(problem=problem.id, method=method.name):
                typed = self._default_or_near(problem, method)
                truth, board = problem.find_truth(typed, BALL), construct(problem, typed, method, BALL)
                common = set(truth.points) & set(board.points)
                alone = not truth.points.keys() - {"V"}  # of an angle only the vertex does not hang on an opening
                self.assertGreaterEqual(len(common), 1 if alone else 2, sorted(truth.points))
                if method.exactness is Exactness.EXACT_POINTS:
                    self.assertGreaterEqual(len(board.plotted), 8)
                    plotted = {board.from_zero.get(name, name) for name in board.plotted}
                    self.assertTrue(truth.on_curve is not None or plotted <= set(truth.points))
                self.assertEqual(board.solutions, truth.solutions)

    def test_reports_the_findings_of_the_catalogue_with_bounds(self) -> None:
        self.over_random_givens(self._reports, 5)

    def _reports(self, problem: Problem, method: Method, typed: Typed) -> None:
        certificate = certify(problem, typed, method)
        given = {answer.name for answer in certificate.answers}
        self.assertLessEqual(given, set(problem.findings))
        for answer in certificate.answers:
            if isinstance(answer.value, float):
                self.assertTrue(math.isfinite(answer.value), answer.name)
                self.assertLessEqual(answer.bound, 1e-15 * (1 + abs(answer.value)), answer.name)
                self.assertEqual(answer.proved, answer.name not in problem.numerical, answer.name)

    def test_floats_agree_with_balls(self) -> None:
        self.over_random_givens(self._plain_agrees, max(1, ROUNDS // 7))

    def _plain_agrees(self, problem: Problem, method: Method, typed: Typed) -> None:
        plain = construct(problem, typed, method, PLAIN)
        ball = construct(problem, typed, method, BALL)
        self.assertEqual(plain.findings.keys(), ball.findings.keys())
        self.assertEqual([s.verb for s in plain.steps], [s.verb for s in ball.steps])
        for name, value in plain.findings.items():
            if isinstance(value, float):
                exact = float(ball.findings[name].mid())  # type: ignore[union-attr]
                self.assertLess(abs(value - exact), 1e-5 * (1 + abs(exact)), name)

    def test_mean_of_many_steady_hands_is_the_perfect_drawing(self) -> None:
        steady = Hand().scaled(0.002)
        for problem, method in every_method():
            with self.subTest(problem=problem.id, method=method.name):
                typed = self._default_or_near(problem, method)
                perfect = construct(problem, typed, method, PLAIN)
                board = simulate(problem, typed, method, steady, 4000, seed=7)
                self.assertEqual(perfect.findings.keys(), board.findings.keys())
                for name, value in perfect.findings.items():
                    if not isinstance(value, float) or name == "refold_gap":
                        continue
                    drawn = np.broadcast_to(np.asarray(board.findings[name], dtype=float), 4000)
                    self.assertEqual(int(np.isnan(drawn).sum()), 0, name)
                    error = float(np.std(drawn)) / math.sqrt(len(drawn))
                    slack = 5 * error + 1e-6 * (1 + abs(value)) + 0.2 * float(np.std(drawn))
                    self.assertLess(abs(float(np.mean(drawn)) - value), slack, name)

    def _default_or_near(self, problem: Problem, method: Method) -> Typed:
        return problem.served_by(method, problem.read({}))

    def test_every_step_has_a_sentence_and_every_setting_is_in_it(self) -> None:
        self.over_random_givens(self._speaks, 3)

    def _speaks(self, problem: Problem, method: Method, typed: Typed) -> None:
        drawing = draw(problem, typed, method)
        self.assertGreaterEqual(len(drawing.steps), 5)
        for step in drawing.steps:
            text = sentence(step)
            self.assertTrue(text[0].isupper() and text.endswith("."), text)
            self.assertNotRegex(text, r"[{}]|\.\.|,\.|  |\bMark \.|\bmark [.,;]", text)

    def test_every_mark_is_finite_and_belongs_to_a_step(self) -> None:
        self.over_random_givens(self._marked, max(1, ROUNDS // 10))

    def _marked(self, problem: Problem, method: Method, typed: Typed) -> None:
        from wisecompass.drafting.marks import sampled

        drawing = draw(problem, typed, method)
        for mark in drawing.marks:
            self.assertTrue(1 <= mark.step <= len(drawing.steps), mark)
            for x, y in sampled(mark, 6):
                self.assertTrue(math.isfinite(x) and math.isfinite(y), mark)

    def test_conventions_change_the_sheet_but_not_the_findings(self) -> None:
        other = Conventions(Projection.THIRD, Naming.INDICES)
        for problem, method in every_method():
            with self.subTest(problem=problem.id, method=method.name):
                typed = self._default_or_near(problem, method)
                first = certify(problem, typed, method)
                third = certify(problem, typed, method, other)
                self.assertEqual(self._values(first), self._values(third))
                self.assertEqual(third.deviation.worst, first.deviation.worst)

    def _values(self, certificate: Certificate) -> dict[str, object]:
        return {a.name: round(a.value, 9) + 0.0 if isinstance(a.value, float) else a.value for a in certificate.answers}


class EverySlip(unittest.TestCase):
    """Every mistake that has words in the catalogue is drawn by a method, and its drawing measures what is told of it: the
    figures are worked out apart from the drawing."""

    def test_is_drawn_and_measures_what_is_told(self) -> None:
        rng = random.Random("mistakes")
        for problem in map(catalogue.problem, catalogue.ids()):
            self.assertTrue(problem.slips, f"{problem.id} has no slip")
            for mistake in problem.slips:
                with self.subTest(problem=problem.id, slip=mistake.name):
                    worlds = self._worlds(problem, rng)
                    self.assertTrue(any(self._shows(problem, world, mistake.name) for world in worlds), "nothing shows it")

    def _worlds(self, problem: Problem, rng: random.Random) -> Iterator[tuple[Method, Typed]]:
        """The defaults, each of the words to choose from, and random givens, by every method that serves them."""
        words = [{item.name: word} for item in problem.given_list if item.form is Form.CHOICE for word in item.choices]
        for raw in ({}, *words):
            with contextlib.suppress(WiseCompassError):
                typed = problem.read(raw, offers=False)
                yield from ((method, problem.served_by(method, typed)) for method in problem.methods)
        for _ in range(12):
            for method in problem.methods:
                yield method, feasible(problem, method, rng)

    def _shows(self, problem: Problem, world: tuple[Method, Typed], words: str) -> bool:
        """Whether the mistake shows there in a figure that is told."""
        method, typed = world
        told = {name: value for name, value in problem.slip_figures(typed).get(words, {}).items() if math.isfinite(value)}
        if told and problem.reckoned_only.issuperset(told):
            return True  # no drawing shows it
        sheet = OnPaper(problem, typed, method)
        with np.errstate(all="ignore"), contextlib.suppress(ArithmeticError, ValueError, WiseCompassError):
            forks = replace(sheet, taken=-1).by(None).forks
            place = next((n for n, fork in enumerate(forks) if fork.words == words), None)
            right = dict(figures(sheet.by(None)))
            if place is None:
                return self._alike(sheet, forks, told, right)
            drawn = dict(figures(replace(sheet, taken=place).by(None)))
            known = {name for name in told if name in drawn and math.isfinite(drawn[name])}
            for name in known:
                close = (
                    1e-6 * (1 + abs(told[name])) if method.exactness is not Exactness.APPROXIMATE else 0.01 * abs(told[name])
                )
                self.assertLessEqual(abs(drawn[name] - told[name]), close + ANY_OPENING, f"{method.name}: {name}")
            moved = [name for name in drawn if abs(drawn[name] - right.get(name, drawn[name])) > 0.01]
            return bool(moved) and (bool(known) or not any(name in problem.findings for name in told))
        return False

    def _alike(self, sheet: OnPaper, forks: Sequence[Fork], told: dict[str, float], right: dict[str, float]) -> bool:
        """Whether an act done otherwise draws what is told."""
        if not told or all(abs(value - right.get(name, math.inf)) < 0.01 for name, value in told.items()):
            return False
        for place in range(len(forks)):
            drawn = dict(figures(replace(sheet, taken=place).by(None)))
            if all(abs(drawn.get(name, math.inf) - value) < 1e-6 * (1 + abs(value)) for name, value in told.items()):
                return True
        return False


ANY_OPENING = 0.1
"""So far apart may be what is told of a mistake at an opening that anyone chooses, and what a chosen one draws, mm."""


class EveryDeclaration(unittest.TestCase):
    def test_brief_names_every_given_once(self) -> None:
        for problem in map(catalogue.problem, catalogue.ids()):
            for item in problem.given_list:
                self.assertEqual(problem.brief.count(f"{{{item.name}}}"), 1, f"{problem.id}: {item.name}")

    def test_id_is_where_it_is_listed(self) -> None:
        for problem_id in catalogue.ids():
            self.assertEqual(catalogue.problem(problem_id).id, problem_id)

    def test_defaults_are_feasible_and_first_method_serves(self) -> None:
        for problem in map(catalogue.problem, catalogue.ids()):
            typed = problem.read({})
            self.assertIsNone(problem.serves(problem.methods[0], typed), problem.id)

    def test_has_a_source_and_a_title(self) -> None:
        for problem in map(catalogue.problem, catalogue.ids()):
            self.assertGreater(len(problem.source), 10)
            self.assertGreater(len(problem.title), 5)


if __name__ == "__main__":
    unittest.main()
