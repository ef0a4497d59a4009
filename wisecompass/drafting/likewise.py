"""What repeats is said once: the first round is told step by step, all others are one step that says "likewise"; a round of
one step takes the others in.

Rounds are found in what the board has done: the same operations in the same order, at least three times on end. The acts
of all rounds stay in the record; only who reads the steps is spared the repetition.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import replace
from functools import lru_cache
from typing import Any

from wisecompass.drafting.record import Act, Ref
from wisecompass.drafting.step import Step
from wisecompass.drafting.wording import crossing_words, direction_words, side_seen

LONGEST_ROUND = 14
"""So many steps a round may have."""

FEWEST_ROUNDS = 3
"""Fewer rounds are told each; but of a long round, or of a step that takes a long sentence, two are enough."""

TWICE = ("transfer", "set out", "project")
"""Steps that take a long sentence."""

LONG_ROUND = 2
"""So many steps make a round long."""

ALONE = ("say", "other solution", "point", "fold line")
"""Steps that are thought, or set out from numbers of their own."""


def folded(steps: Sequence[Step]) -> list[Step]:
    """The steps with their repetitions folded, numbered anew; ``covers`` of each are the numbers that it had before."""
    signs = [_sign(step) for step in steps]
    names = [[ref for act in step.acts for ref in _named_with(act)] for step in steps]
    found: list[Step] = []
    at = 0
    plan = _plan(signs, names)
    while at < len(steps):
        length, rounds = plan[at]
        for step in steps[at : at + length]:
            found.append(_numbered(step, len(found) + 1, (step.n,)))
        if rounds > 1:
            _alike_by_letters(steps[at : at + length * rounds], length)
        at += length
        if found[-1].verb == "other solution" and len(found) > 1 and found[-2].verb == "other solution":
            last = found.pop()
            found.append(_more_solutions(found.pop(), last))
        if rounds > 1:
            others = steps[at : at + length * (rounds - 1)]
            found.append(_with_others(found.pop(), others) if length == 1 else _one(others, length, len(found) + 1))
            at += len(others)
    return found


def _alike_by_letters(steps: Sequence[Step], length: int) -> None:
    """Where a line through two letters lies level or upright in some of the rounds only, its side is told in all of them as
    it is seen from its first letter."""
    for k in range(length):
        for acts in zip(*(step.acts for step in steps[k::length]), strict=True):
            if len({_side(act) for act in acts}) > 1:
                for act in acts:
                    act.sense = ("from", act.sense[1])


def _sign(step: Step) -> tuple[object, ...]:
    """What two steps must have in common to be rounds of each other."""
    if step.verb in ALONE:
        return ("alone", step.n)
    makes = [] if step.verb == "line in arc" else step.makes
    made = tuple([_shape(name) for name in makes]), tuple([_shape(name) for name, _, _ in step.crossings])
    return step.verb, len(step.on), made, tuple([manner(act) for act in step.acts])


@lru_cache(maxsize=4096)
def _shape(name: str) -> str:
    """A name without its numbers and what it is one of; of a letter, or the two of a line, only whether it is a capital."""
    return _LETTER.sub(lambda found: "A" if found.group().isupper() else "a", _NUMBER.sub("", name))


_NUMBER = re.compile(r", no\. \d+|[\d₀-₉⁰¹²³⁴-⁹′″]+|/[a-z ]+| of [a-z ]+")
_LETTER = re.compile(r"\b[^\W\d_]\b|(?<=^[^\W\d_])[^\W\d_]$|^[^\W\d_](?=[^\W\d_]$)")


def _plan(signs: Sequence[tuple[object, ...]], names: Sequence[list[Ref]]) -> list[tuple[int, int]]:
    """From each step on how long the round is that begins there and how often it is done, (1, 1) where it stands alone, so
    that the fewest steps are left to be told. Found from the end, where it is known what follows."""
    plan = [(1, 1)] * len(signs)
    left = [0] * (len(signs) + 1)
    for at in reversed(range(len(signs))):
        left[at] = 1 + left[at + 1]
        for length, rounds in _repeated(signs, at):
            shown = length + (length > 1) + left[at + length * rounds]
            if shown < left[at]:
                rounds = _told_alike(names, at, length, rounds)
                shown = length + (length > 1) + left[at + length * rounds]
                if rounds >= _fewest(signs, at, length) and shown < left[at]:
                    plan[at], left[at] = (length, rounds), shown
    return plan


def _fewest(signs: Sequence[tuple[object, ...]], at: int, length: int) -> int:
    return 2 if length >= LONG_ROUND or (length == 1 and signs[at][0] in TWICE) else FEWEST_ROUNDS


def _repeated(signs: Sequence[tuple[object, ...]], at: int) -> Iterator[tuple[int, int]]:
    """The rounds that may begin at a step: how long each is and how often it is done."""
    sign = signs[at]
    for length in range(1, min(LONGEST_ROUND, (len(signs) - at) // 2) + 1):
        if signs[at + length] != sign:
            continue
        pattern = signs[at : at + length]
        rounds = 1
        while signs[at + rounds * length : at + (rounds + 1) * length] == pattern:
            rounds += 1
        if rounds >= _fewest(signs, at, length):
            yield length, rounds


def _told_alike(names: Sequence[list[Ref]], at: int, length: int, rounds: int) -> int:
    """How many of the rounds, from the first, differ from it only in names and settings. They are done alike, so that only
    their names are compared."""
    first = [ref for step in names[at : at + length] for ref in step]
    for k in range(1, rounds):
        other = [ref for step in names[at + k * length : at + (k + 1) * length] for ref in step]
        if _in_place(first, other) is None:
            return k
    return rounds


def swapped(first: Sequence[Act], other: Sequence[Act]) -> dict[Ref, Ref] | None:
    """What stands in a round in place of what in the first; None where it cannot be said so: something else is done, goes
    another way or lies on another side, or one thing is replaced by two."""
    if len(first) != len(other) or any(manner(act) != manner(same) for act, same in zip(first, other, strict=True)):
        return None
    return _in_place(*([ref for act in acts for ref in _named_with(act)] for acts in (first, other)))


def _in_place(first: Sequence[Ref], other: Sequence[Ref]) -> dict[Ref, Ref] | None:
    """Which name stands in place of which; None where one would stand for two."""
    found: dict[Ref, Ref] = {}
    for ref, instead in zip(first, other, strict=True):
        if type(ref) is tuple and type(instead) is tuple and all(name in found for name in ref):
            if instead != tuple([found[name] for name in ref]):
                return None
        elif found.setdefault(ref, instead) != instead:
            return None
    return found


def manner(act: Act) -> tuple[object, ...]:
    """What is said of an act besides the names that it stands on and the size of its setting."""
    way: object = ""
    if act.sense:
        way = act.sense[0], act.way != "back"
    elif act.seen is not None:
        along = act.which is not None and act.which[0].endswith("along")
        way = (crossing_words if along else direction_words)(*act.seen)
    to = act.set_to or {}
    kind = to.get("from"), to.get("times"), len(to.get("of", ())), act.do in ("transfer", "protract") and act.value == 0
    side = act.more.get("side"), act.more.get("how"), act.more.get("rising"), act.more.get("parts"), act.more.get("pen")
    return act.do, act.turn, act.which and act.which[0], way, kind, side, len(act.makes), len(act.on)


def _side(act: Act) -> str:
    """How the side of a line through two letters is told where it lies level or upright."""
    if act.sense[:1] != ("pair",) or act.seen is None or act.which is None or act.which[0] not in ("left of", "right of"):
        return ""
    return side_seen(act.which[0].split(" ")[0], *act.seen)


def _named_with(act: Act) -> list[Ref]:
    """All names that are said with an act, in their order, and what it makes."""
    to = act.set_to or {}
    limits = [to[key] for key in ("more than", "less than") if key in to]
    of = [name for each in (to, *limits) for name in _listed(each.get("of", ()))]
    seen_from = act.which[1] if act.which is not None else ()
    sense = act.sense[1:]
    told = [sense] if act.sense[:1] in (("pair",), ("as",)) else sense
    return [*act.on, *of, *seen_from, *told, *act.makes]


def _listed(of: Any) -> Sequence[Ref]:
    return (of,) if isinstance(of, str) else of


def _numbered(step: Step, n: int, covers: tuple[int, ...]) -> Step:
    return replace(step, n=n, covers=covers)


def _one(steps: Sequence[Step], length: int, n: int) -> Step:
    """All rounds but the first as one step."""
    return replace(_with_others(steps[0], steps[1:]), n=n, verb="likewise", round_length=length, setting=None, why="")


def _with_others(first: Step, others: Sequence[Step]) -> Step:
    """A step that is a round by itself, with all further rounds in it."""
    steps = (first, *others)
    return replace(
        first,
        on=tuple(dict.fromkeys(name for step in steps for name in step.on)),
        makes=[name for step in steps for name in step.makes],
        round_length=1,
        crossings=[crossing for step in steps for crossing in step.crossings],
        cautions=[caution for step in steps for caution in step.cautions],
        covers=(*(first.covers or (first.n,)), *(step.n for step in others)),
    )


def _more_solutions(first: Step, last: Step) -> Step:
    """Two steps that leave out how other solutions are found, as one."""
    solutions = (*first.solutions, *last.solutions[1:])
    covers = (*first.covers, *last.covers)
    return replace(first, solutions=solutions, makes=[*first.makes, *last.makes], covers=covers)


def renumbered(steps: Sequence[Step]) -> dict[int, int]:
    """The new number of each step that was."""
    return {old: step.n for step in steps for old in step.covers or (step.n,)}
