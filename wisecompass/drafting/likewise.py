"""What repeats is said once: the first round is told step by step, all others are one step that says "likewise".

Rounds are found in what the board has done: the same operations in the same order, at least three times on end. The acts
of all rounds stay in the record; only who reads the steps is spared the repetition.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

from wisecompass.drafting.step import Step

LONGEST_ROUND = 10
"""So many steps a round may have."""

FEWEST_ROUNDS = 3
"""Fewer rounds are told each."""

ALONE = ("say", "other solution", "point", "set out", "fold line")
"""Steps that are thought, or set out from numbers of their own."""


def folded(steps: Sequence[Step]) -> list[Step]:
    """The steps with their repetitions folded, numbered anew; ``covers`` of each are the numbers that it had before."""
    signs = [_sign(step) for step in steps]
    found: list[Step] = []
    at = 0
    while at < len(steps):
        length, rounds = _repeated(signs, at)
        for step in steps[at : at + length]:
            found.append(_numbered(step, len(found) + 1, (step.n,)))
        at += length
        if found[-1].verb == "other solution" and len(found) > 1 and found[-2].verb == "other solution":
            last = found.pop()
            found.append(_more_solutions(found.pop(), last))
        if rounds > 1:
            others = steps[at : at + length * (rounds - 1)]
            found.append(_one(others, length, len(found) + 1))
            at += len(others)
    return found


def _sign(step: Step) -> tuple[object, ...]:
    """What two steps must have in common to be rounds of each other."""
    if step.verb in ALONE:
        return ("alone", step.n)
    made = tuple([_shape(name) for name in step.makes]), tuple([_shape(name) for name, _, _ in step.crossings])
    return step.verb, len(step.on), made, tuple(step.signs)


@lru_cache(maxsize=4096)
def _shape(name: str) -> str:
    """A name without its number; of a single letter only whether it is a capital."""
    return _LETTER.sub(lambda found: "A" if found.group().isupper() else "a", _NUMBER.sub("", name))


_NUMBER = re.compile(r", no\. \d+|[\d₀-₉]+")
_LETTER = re.compile(r"\b[^\W\d_]\b")


def _repeated(signs: Sequence[tuple[object, ...]], at: int) -> tuple[int, int]:
    """How long a round begins here and how often it is done; (1, 1) where nothing repeats. Of several the one that spares
    the most steps, of those the shortest."""
    best = (1, 1)
    spared = 0
    for length in range(1, LONGEST_ROUND + 1):
        if at + FEWEST_ROUNDS * length > len(signs):
            break
        pattern = signs[at : at + length]
        rounds = 1
        while signs[at + rounds * length : at + (rounds + 1) * length] == pattern:
            rounds += 1
        if rounds >= FEWEST_ROUNDS and length * (rounds - 1) > spared:
            best, spared = (length, rounds), length * (rounds - 1)
    return best


def _numbered(step: Step, n: int, covers: tuple[int, ...]) -> Step:
    return replace(step, n=n, covers=covers)


def _one(steps: Sequence[Step], length: int, n: int) -> Step:
    """All rounds but the first as one step. Its ``words`` say how many steps a round has."""
    first = steps[0]
    return Step(
        n,
        "likewise",
        first.instrument,
        on=tuple(dict.fromkeys(name for step in steps for name in step.on)),
        makes=[name for step in steps for name in step.makes],
        words={"round": str(length)},
        crossings=[crossing for step in steps for crossing in step.crossings],
        cautions=[caution for step in steps for caution in step.cautions],
        book=first.book,
        covers=tuple(step.n for step in steps),
    )


def _more_solutions(first: Step, last: Step) -> Step:
    """Two steps that leave out how other solutions are found, as one."""
    words = {**first.words, "numbers": f"{first.words['numbers']} {last.words['numbers']}"}
    covers = (*first.covers, *last.covers)
    return replace(first, words=words, makes=[*first.makes, *last.makes], covers=covers)


def renumbered(steps: Sequence[Step]) -> dict[int, int]:
    """The new number of each step that was."""
    return {old: step.n for step in steps for old in step.covers}
