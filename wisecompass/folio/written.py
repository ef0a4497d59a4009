"""Lettering of a sheet's own: heights, lines of whole words."""

from __future__ import annotations

import re

from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.pens import Pen
from wisecompass.folio.paper import text_width

TITLE_HEIGHT, SMALL_HEIGHT, BRIEF_HEIGHT = 4.0, 2.8, 3.5
"""Capitals of the title strip, of heads and notes, and of the brief on A4, mm."""

LINE = 1.7
"""Distance of lines of lettering as a share of their capitals."""

NAME_HEIGHT, CAPTION_HEIGHT, HEADING_HEIGHT = 3.2, 2.6, 4.5
"""Capitals of a figure's name, of its brief beside it, and of the sheet's name at its head, on A4, mm."""


def text(x: float, y: float, said: str, height: float, anchor: str = "left") -> Mark:
    """Words on the sheet, at their base line."""
    return marks.Text(x=x, y=y, text=said, height=height, anchor=anchor, pen=Pen.LETTERING)


def wrapped(said: str, width: float, height: float) -> list[str]:
    """Lines of whole words, no value parted from its unit; their widths are added up word by word, which is remembered
    better than that of lines."""
    lines: list[list[str]] = [[]]
    taken, space = 0.0, text_width("n n", height) - text_width("nn", height)
    for word in _unparted(said):
        longer = text_width(word, height)
        if lines[-1] and taken + space + longer > width:
            lines.append([])
            taken = 0.0
        taken += longer + (space if lines[-1] else 0.0)
        lines[-1].append(word)
    return [" ".join(words) for words in lines]


UNITS = re.compile(r"(?:mm|cm|m|in|ft|°)[,.;:)]*$")
"""A word that is a unit, with what stands behind it."""


def _unparted(text: str) -> list[str]:
    """The words of a text, a unit being one with its value."""
    words: list[str] = []
    for word in text.split():
        if words and UNITS.fullmatch(word) and words[-1][-1:].isdigit():
            words[-1] += f" {word}"
        else:
            words.append(word)
    return words
