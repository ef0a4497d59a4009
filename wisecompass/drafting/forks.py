"""Forks: where a construction goes another way when somebody makes a mistake. A slip is a fork that was taken; its drawing,
findings, points and hand errors come from the same method, run with that fork.

Most forks are acts done otherwise, and every method has them without a word of its own: a protractor read on its other
scale, the whole of what is to be halved, the other of two crossings, a length to the other side, a mark too many counted.
A mistake of a method of its own is a fork by ``unless``."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import roughly
from wisecompass.drafting.setting import GIVEN, RECKONED, SPAN, Settable, Setting, bare

HALVES = 2

TWO_OPENINGS = "two different openings: the second a tenth wider"
"""What is said of a bisector whose second arc is swung with another opening."""


@dataclass(frozen=True)
class Fork:
    """A mistake at a step, in words."""

    words: str
    step: int


def other_scale(angle: Settable) -> str:
    """What is said of a protractor that is read on its other scale; nothing where that makes no difference."""
    if type(angle) is not Setting or angle.origin not in (GIVEN, RECKONED):
        return ""
    size = abs(roughly(bare(angle))) % 180
    if size == 0 or abs(size - 90) < 0.5:
        return ""
    return f"protractor read on its other scale: {180 - size:.4g}° for {size:.4g}°"


def whole_for_half(setting: Settable) -> tuple[str, int]:
    """What is said of the whole that is taken where its half is meant, and how many times too much it is; nothing where no
    half is meant."""
    if type(setting) is not Setting:
        return "", 1
    if setting.origin == SPAN and setting.times == Fraction(1, HALVES):
        return "the whole distance taken instead of its half", HALVES
    if setting.origin == GIVEN and type(setting.tree) is tuple and setting.tree[0] == "/" and setting.tree[2] == HALVES:
        whole = setting.tree[1]
        named = str(whole).replace("_", " ") if isinstance(whole, str) else "whole"
        return f"the {named} taken instead of its half", HALVES
    return "", 1


def is_given(length: Settable) -> bool:
    """Whether a length is one that the brief gives, or is reckoned of such."""
    return type(length) is Setting and length.origin in (GIVEN, RECKONED)
