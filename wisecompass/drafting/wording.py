"""Numbers and names as they are lettered and spoken, in one place so that they are even and could be translated."""

from __future__ import annotations

import re
from functools import lru_cache

from wisecompass.drafting.conventions import Units

_SUBSCRIPTS = str.maketrans("0123456789", "₀₁₂₃₄₅₆₇₈₉")

_NAMED = re.compile(r"(?:[^\W\d_]\d+[′″]?|[^\W\d_]{1,2}\d*[′″]?|–)+")
"""Point names such as T1, b1′, P1–K and P1P2, whose numbers are lowered."""

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
    """A name as lettered: ``T1`` is T₁. What follows a stroke only tells namesakes apart: ``A/flat`` is A, and ``b/2``,
    a point of a second solution's view, is (b). ``T1_3``, of the third solution, is T₁(3)."""
    name, _, apart = name.partition("/")
    name, _, solution = name.partition("_")
    if solution.isdigit():
        return f"{lettered(name)}({solution})"
    shown = name.translate(_SUBSCRIPTS) if _NAMED.fullmatch(name) else name
    return f"({shown})" if apart.isdigit() else shown


def spoken(name: str) -> str:
    """A name inside a sentence; names that are words stay as they are."""
    return " ".join(lettered(word) for word in re.sub(r"/[a-z][a-z ]*", "", name).split(" "))


def with_article(name: str) -> str:
    """A name inside a sentence: ``the centre line``, but ``edge 1`` and ``T₁`` stand alone."""
    said = spoken(name)
    is_word = len(said) > 2 and said[:3].isalpha() and said[:2].islower() and not said[-1].isdigit()
    describes = said.startswith(
        ("arc about", "circle about", "projector of", "locus of", "bisector of", "square from", "perpendicular from")
    )
    return f"the {said}" if (is_word or describes) and not said.startswith("the ") else said


def listed(names: list[str]) -> str:
    """``A``, ``A and B``, ``A, B and C``; a long run is cut to its ends."""
    if len(names) > 5:
        return f"{names[0]}, {names[1]} … {names[-1]}"
    if len(names) < 2:
        return "".join(names)
    return ", ".join(names[:-1]) + " and " + names[-1]
