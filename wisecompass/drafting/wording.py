"""Numbers and names as they are lettered and spoken, in one place so that they are even and could be translated."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from functools import lru_cache

from wisecompass.drafting.conventions import Units

_SUBSCRIPTS = str.maketrans("0123456789", "₀₁₂₃₄₅₆₇₈₉")

_NAMED = re.compile(r"(?:[^\W\d_]\d+[′″]?|[^\W\d_]{1,2}\d*[′″]?|–)+")
"""Point names such as T1, b1′, P1–K and P1P2, whose numbers are lowered."""

_LETTERS = re.compile(r"(?:[^\W\d_]\d*[₀-₉]*[′″]?|\d+[′″]|\d+(?=/flat|/\d))(?:/flat end|/flat|/\d+|_\d+)?")
"""Letters as they are named, with what tells namesakes apart."""

_IN_TEXT = re.compile(r"\b(?:[A-Z]\d+)+\b")


def number_text(value: float, decimals: int = 2) -> str:
    """A number as lettered on a sheet: no trailing zeros, a true minus sign."""
    if abs(value) >= 1e7:
        return f"{value:.3g}"
    text = f"{value:.{decimals}f}".rstrip("0").rstrip(".") if decimals else f"{value:.0f}"
    text = "0" if text in ("-0", "") else text
    return text.replace("-", "−")


POWERS = {"mm": 1, "mm/rad": 1, "mm²": 2, "mm³": 3}
"""How often a unit counts in the unit of length."""


def measured(value: float, unit: str, units: Units = Units.MM, decimals: int = 2) -> str:
    """A measured value with its unit. ``unit`` is °, mm, mm², mm³ or nothing; lengths are shown in ``units``."""
    if not unit.startswith("mm"):
        return number_text(value, decimals) + unit
    power = POWERS[unit]
    more = 0 if units is Units.MM else 1
    shown = number_text(value / units.millimetres**power, decimals + more)
    return f"{shown} {units.value}{unit[2:]}"


def lowered(text: str) -> str:
    """Running text with the numbers of point names lowered: P1 becomes P₁, and P3P4 becomes P₃P₄."""
    return _IN_TEXT.sub(lambda found: found.group().translate(_SUBSCRIPTS), text)


@lru_cache(maxsize=4096)
def lettered(name: str) -> str:
    """A name as lettered: ``T1`` is T₁; a point of the pattern, ``A/flat``, is A₀, and ``A/flat end``, the seam closing,
    (A₀); ``b/2``, a point of a second solution's view, is (b); ``T1_3``, of the third solution, is T₁(3). Anything else
    after a stroke only tells namesakes apart."""
    if any(sign in name for sign in "/_′″"):
        if "–" in name and " " not in name:
            return "–".join(map(lettered, name.split("–")))
        letters = _LETTERS.findall(name)
        if len(letters) > 1 and "".join(letters) == name:  # the line through two of them
            return "".join(map(lettered, letters))
    name, _, apart = name.partition("/")
    name, _, solution = name.partition("_")
    if solution.isdigit():
        return f"{lettered(name)}({solution})"
    shown = name.translate(_SUBSCRIPTS) if _NAMED.fullmatch(name) else name
    if apart.startswith("flat"):
        shown += "⁰" if "₀" <= shown[-1:] <= "₉" else "₀"  # P₁₂⁰: with a low one it would read like P₁₂₀
    return f"({shown})" if apart.isdigit() or apart == "flat end" else shown


def spoken(name: str) -> str:
    """A name inside a sentence; names that are words stay as they are."""
    words = _APART.sub(lambda found: found.group().replace(" ", "_"), name).split(" ")
    return " ".join(lettered(word.rstrip(",").replace("flat_end", "flat end")) + "," * word.endswith(",") for word in words)


_APART = re.compile(r"/flat end")


def with_article(name: str) -> str:
    """A name inside a sentence: ``the centre line`` and ``the arc about E₁``, but ``edge 1`` and ``T₁`` stand alone."""
    said = spoken(name)
    is_word = len(said) > 2 and said[:3].isalpha() and said[:2].islower() and not said[-1].isdigit()
    return f"the {said}" if (is_word or _DESCRIBES.match(said)) and not said.startswith("the ") else said


_DESCRIBES = re.compile(r"[a-z]{2,}(?: [a-z]{2,})* (?:of|about|from|at|to|through|in|for) ")
"""Names that say what they belong to."""


def joint(a: str, b: str) -> str:
    """The name of a line through two points: ``AB``, ``P–1``, ``base of 1 – height of 1``."""
    between = " – " if " " in f"{a}{b}" else "" if b[:1].isalpha() else "–"
    return f"{a}{between}{b}"


MOST_NAMED = 5
"""Names that a sentence has one by one; of more that run on evenly only the first two and the last."""


def listed(names: Sequence[str], *, every: bool = False) -> str:
    """``A``, ``A and B``, ``A, B and C``; of many that are numbered on only the first two and the last, if not ``every``."""
    shown = list(names) if every else _with_runs(names)
    if len(shown) < 2:
        return "".join(shown)
    return ", ".join(shown[:-1]) + " and " + shown[-1]


def run(names: Sequence[str]) -> str:
    """``P₁, P₂ … P₁₂``; few one by one."""
    return listed(names, every=True) if len(names) <= MOST_NAMED else f"{names[0]}, {names[1]} … {names[-1]}"


def _with_runs(names: Sequence[str]) -> list[str]:
    """Names, those of a long run that are numbered on together: they differ in their last number only, by the same step."""
    shown: list[str] = []
    start = 0
    keys = [_LAST_NUMBER.match(name.translate(_DIGITS)) for name in names] if len(names) > MOST_NAMED else []
    while keys and start < len(names):
        end = start + 1
        while end < len(names) and _goes_on(keys[start:end], keys[end]):
            end += 1
        shown += [run(names[start:end])] if end - start > MOST_NAMED else names[start:end]
        start = end
    return shown or list(names)


def _goes_on(keys: Sequence[re.Match[str] | None], following: re.Match[str] | None) -> bool:
    first, last = keys[0], keys[-1]
    if first is None or last is None or following is None:
        return False
    if (first[1], first[3]) != (following[1], following[3]):
        return False
    before = keys[-2] if len(keys) > 1 else None
    return before is None or int(following[2]) - int(last[2]) == int(last[2]) - int(before[2])


_LAST_NUMBER = re.compile(r"(.*?)(\d+)(\D*)$")
_DIGITS = str.maketrans("₀₁₂₃₄₅₆₇₈₉", "0123456789")


# ------------------------------------------------------------------------------------------------------ ways on a sheet
SLIGHT = 0.02
"""A way that leans less than this, as a share of its length, is called level or upright."""


def direction_words(dx: float, dy: float) -> str:
    """A way on the sheet: ``to the right``, ``upwards``, ``down to the left``."""
    size = math.hypot(dx, dy) or 1.0
    level = "" if abs(dx) < SLIGHT * size else "to the right" if dx > 0 else "to the left"
    upright = "" if abs(dy) < SLIGHT * size else "up" if dy > 0 else "down"
    if level and upright:
        return f"{upright} {level}"
    return level or f"{upright}wards"


def side_seen(side: str, dx: float, dy: float) -> str:
    """On which side of a level or upright line, on the sheet: ``above``, ``below``, ``left`` or ``right``; nothing for one
    that runs at a slant. ``side`` is left or right seen along its way."""
    size = math.hypot(dx, dy) or 1.0
    if abs(dy) < SLIGHT * size:
        return "above" if (side == "left") == (dx > 0) else "below"
    if abs(dx) < SLIGHT * size:
        return side if dy > 0 else {"left": "right", "right": "left"}[side]
    return ""


def crossing_words(dx: float, dy: float) -> str:
    """Which of two crossings lies this way: ``upper``, ``left-hand``."""
    if abs(dy) > abs(dx):
        return "upper" if dy > 0 else "lower"
    return "right-hand" if dx > 0 else "left-hand"
