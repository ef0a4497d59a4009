"""Comparing what a blind hand has drawn from the record with the sheet of the method."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Any

from wisecompass.arithmetic import BALL, PLAIN, roughly
from wisecompass.drafting.blind import Hand, Stuck
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.givens import Typed, plain_values
from wisecompass.drafting.problem import Method, Problem
from wisecompass.drafting.solve import construct
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3

NEAR = 1e-9
"""How far a redrawn letter may be off, mm; on a figure larger than a metre the same share of its size."""

OWN_ROUNDING = 400.0
"""So many times the rounding error of the method's own floats a letter of an ill-conditioned figure may be off."""


def sheet(
    problem: Problem,
    method: Method,
    typed: Typed,
    conventions: Conventions | None,
    solution: int = 1,
    *,
    in_full: bool = False,
) -> Board:
    return construct(problem, typed, method, PLAIN, conventions=conventions, solution=solution, in_full=in_full)


def acts_of(board: Board) -> list[dict[str, Any]]:
    assert board.record is not None
    return [act.as_json() for act in board.record.acts]


def letters_of(board: Board) -> dict[str, complex]:
    """Every letter of the record, where the method has it."""
    assert board.record is not None
    return {name: complex(roughly(p.x), roughly(p.y)) for name, p in board.record.letters.items()}


def exact_letters(
    problem: Problem, method: Method, typed: Typed, conventions: Conventions | None, solution: int
) -> dict[str, complex]:
    """The letters with names of their own, where balls have them."""
    board = construct(problem, typed, method, BALL, conventions=conventions, solution=solution)
    points = {name: p for name, p in board.points.items() if isinstance(p, Point)}
    return {name: complex(roughly(p.x), roughly(p.y)) for name, p in points.items()}


def given_numbers(typed: Typed) -> dict[str, Any]:
    return plain_values(typed)


def fixed_letters(board: Board, problem: Problem, typed: Typed) -> set[str]:
    """The letters that truth knows: they must not depend on what anybody chose."""
    truth, names = problem.find_truth(typed, PLAIN), board.conventions
    found = set()
    for name, point in truth.points.items():
        found |= {names.front_name(name), names.top_name(name)} if isinstance(point, Point3) else {name}
    return {letter for letter in letters_of(board) if board.from_zero.get(letter, letter) in found}


def shifts(letters: dict[str, complex], hand: Hand, names: Iterable[str], near: float) -> int:
    """How many different shifts lead from the method's letters to the hand's."""
    found: list[complex] = []
    for name in names:
        away = hand.points[name] - letters[name]
        if not any(abs(away - other) < near for other in found):
            found.append(away)
    return len(found)


def redraw(
    problem: Problem,
    method: Method,
    typed: Typed,
    conventions: Conventions | None = None,
    solution: int = 1,
    *,
    in_full: bool = False,
) -> tuple[int, float]:
    """Redraw a sheet: once with the openings that are hinted at, where every letter must fall on the method's, and twice
    with others, where those must that truth knows. (number of letters, worst distance as a share of the figure).

    Raises:
        Stuck: an act cannot be done, or a letter falls elsewhere.
    """
    board = sheet(problem, method, typed, conventions, solution, in_full=in_full)
    acts, letters, numbers = acts_of(board), letters_of(board), given_numbers(typed)
    size = max((abs(place) for place in letters.values()), default=1.0)
    near = NEAR * max(1.0, size / 1000)
    for seed in (None, 1, 2):
        hand = Hand(numbers, seed)
        hand.draw(acts)
        missing = sorted(set(letters) - set(hand.points))
        if missing:
            raise Stuck(f"no act makes {', '.join(missing)}")
        names = letters if seed is None else fixed_letters(board, problem, typed)
        if shifts(letters, hand, names, near) > hand.placed:
            exact = exact_letters(problem, method, typed, conventions, solution)
            own = max(abs(exact[name] - place) for name, place in letters.items() if name in exact)
            if shifts(letters, hand, names, near + OWN_ROUNDING * own) > hand.placed:
                how, places = "hinted at" if seed is None else "of its own", shifts(letters, hand, names, near)
                raise Stuck(f"with openings {how} letters fall in {places} places, {hand.placed} are free")
    return len(letters), _worst(letters, acts, numbers) / max(1.0, size)


def _worst(letters: dict[str, complex], acts: list[dict[str, Any]], numbers: dict[str, Any]) -> float:
    """How far the letters of one part are from falling together after its shift, at worst."""
    hand = Hand(numbers)
    hand.draw(acts)
    away = [hand.points[name] - place for name, place in letters.items()]
    near: list[complex] = []
    worst = 0.0
    for one in away:
        closest = min((abs(one - other) for other in near), default=math.inf)
        if closest > 1e-3:
            near.append(one)
        else:
            worst = max(worst, closest)
    return worst
