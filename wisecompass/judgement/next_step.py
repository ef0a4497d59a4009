"""What comes next in a construction: the right step and two that people take, each with the reason."""

from __future__ import annotations

import random
import re
from dataclasses import dataclass, replace

from wisecompass.drafting.reasons import Reasons
from wisecompass.drafting.sentences import sentence
from wisecompass.drafting.step import Step
from wisecompass.judgement.hands import OnPaper

OTHERS = 2
"""So many wrong steps stand beside the right one."""

_OTHER_SCALE = re.compile(r"other scale: (?P<wrong>[\d.]+)° for (?P<right>[\d.]+)°")
_ONE_MORE = re.compile(r"divided into (?P<wrong>\d+) parts instead of (?P<right>\d+)")
_SWAPPED = {
    "above": "below",
    "left": "right",
    "upwards": "downwards",
    "clockwise": "anticlockwise",
    "nearest": "farthest",
    "inside": "outside",
    "upper": "lower",
    "higher": "lower",
    "up": "down",
}
"""Words that change places where the other side or crossing is taken."""

_PAIRS = {**_SWAPPED, **{other: word for word, other in _SWAPPED.items()}}
_SIDES = re.compile(rf"\b({'|'.join(sorted(_PAIRS, key=len, reverse=True))})\b")
_SETTING = re.compile(r"\d+(?:\.\d+)?(?= ?(?:mm|cm|in|°))")
COVERED = "▢"
"""Stands for a setting that is covered."""


@dataclass(frozen=True)
class Choice:
    """A step that may come next, and why it does or does not."""

    text: str
    right: bool
    why: str


def covered(text: str) -> str:
    """A sentence with its settings covered."""
    return _SETTING.sub(COVERED, text)


def choices(sheet: OnPaper, step: int, hide: bool, seed: int = 0) -> list[Choice]:
    """The step of that number and two that people take instead, in any order; with ``hide`` their settings are covered."""
    steps = sheet.steps
    right = steps[step - 1]
    told = _told(right, hide)
    reasons = " ".join(Reasons(right).sentences())
    found = [Choice(told, True, f"Right. {reasons}".strip())]
    for each in (*_mistaken(sheet, right, hide), *_later(steps, step, hide)):
        if len(found) <= OTHERS and all(each.text != one.text for one in found):
            found.append(each)
    random.Random(f"{sheet.problem.id}/{step}/{seed}").shuffle(found)
    return found


def _told(step: Step, hide: bool) -> str:
    text = sentence(step)
    return covered(text) if hide else text


def _mistaken(sheet: OnPaper, right: Step, hide: bool) -> list[Choice]:
    """What people do wrong at this very step."""
    found = []
    for fork in replace(sheet, taken=-1).by(None).forks:
        if sheet.told_step(fork.step) != right.n:
            continue
        text = altered(sentence(right), fork.words)
        if text is not None:
            told = covered(text) if hide else text
            found.append(Choice(told, False, f"That is a slip that people make: {fork.words}."))
    return found


def altered(text: str, words: str) -> str | None:
    """A step's sentence as it reads where a mistake is made that is said in ``words``; None where it reads no otherwise."""
    if (match := _OTHER_SCALE.search(words)) is not None:
        wrong = text.replace(f"{match['right']}°", f"{match['wrong']}°")
    elif (match := _ONE_MORE.search(words)) is not None:
        wrong = re.sub(rf"\b{match['right']}\b", match["wrong"], text)
    elif "instead of its half" in words or "instead of the radius" in words:
        wrong = _SETTING.sub(lambda size: f"{2 * float(size[0]):g}", text, count=1)
    elif any(word in words for word in ("other side", "other crossing", "counted clockwise", "counted anticlockwise")):
        wrong = _SIDES.sub(lambda word: _PAIRS[word[1]], text, count=1)
    elif "two different openings" in words:
        wrong = text.replace("the same opening", "another opening")
    else:
        return f"{words[:1].upper()}{words[1:]}."
    return wrong if wrong != text else None


def _later(steps: list[Step], step: int, hide: bool) -> list[Choice]:
    """Steps that belong later: what they stand on is not there yet, or what comes before is left out."""
    found = []
    for later in steps[step : step + 4]:
        missing = _stands_on(later) & {name for between in steps[step - 1 : later.n - 1] for name in _makes(between)}
        if missing:
            name = sorted(missing)[0]
            made = next(one.n for one in steps[step - 1 :] if name in _makes(one))
            why = f"Not yet: it stands on {name}, which step {made} makes."
        else:
            why = f"Not yet: it is step {later.n}, and step {step} comes before."
        found.append(Choice(_told(later, hide), False, why))
    for before in reversed(steps[: step - 1]):
        found.append(Choice(_told(before, hide), False, f"That is done already: it is step {before.n}."))
    return found


def _makes(step: Step) -> set[str]:
    return {name for act in step.acts for name in act.makes}


def _stands_on(step: Step) -> set[str]:
    return {name for act in step.acts for name in act.basis}
