"""A body as text: a part a line, between line ends or semicolons, as ``box 60 36 12 at 0 0 0`` or ``less cylinder 22 36 at
36 0 26 along back``. Its numbers stay as typed; number i of the text counts over all lines.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import Number
from wisecompass.arithmetic.expression import Expression, one_line, quoted
from wisecompass.geometry.parts import ALONG, RISING, SIZES, Part

MOST_PARTS = 60
"""So many parts a body may have: more than anybody draws on a sheet."""

FEWEST_SIDES, MOST_SIDES = 3, 24

LESS, AT = "less", "at"
WAYS: dict[str, tuple[str, tuple[str, ...]]] = {
    "wedge": ("rising", tuple(RISING)),
    "cylinder": ("along", tuple(ALONG)),
    "cone": ("along", tuple(ALONG)),
    "prism": ("along", tuple(ALONG)),
}
"""The word before the way of each kind, and the ways."""

SIMPLEST = "box 10 10 10 at 0 0 0"
"""What is offered in place of a text of which nothing can be read."""

DEFAULT_WAY = {"wedge": "right", "cylinder": "up", "cone": "up", "prism": "up"}


class Misread(ValueError):
    """A line that is no part; with the line as it would be one, if there is such."""

    def __init__(self, sentence: str, mended: str = "") -> None:
        super().__init__(sentence)
        self.mended = mended


@dataclass(frozen=True)
class Line:
    """One part as read: where its numbers begin among those of the text, and what is no number."""

    kind: str
    first: int
    way: str
    taken: bool
    sides: int = 0

    def part(self, numbers: Sequence[Any]) -> Part:
        """The part, with its numbers of any kind."""
        count = len(SIZES[self.kind])
        sizes = tuple(numbers[self.first : self.first + count])
        x, y, z = numbers[self.first + count : self.first + count + 3]
        if self.kind == "prism":
            sizes = sizes[1:]
        return Part(self.kind, sizes, (x, y, z), self.way, self.taken, self.sides)


def lines_of(text: str) -> list[str]:
    """The lines of a text that say something."""
    return [line for piece in re.split(r"[;\n\r]", text) if (line := one_line(piece))]


def read_parts(text: str, number: Callable[[str, bool], Expression]) -> tuple[list[Expression], list[Line]]:
    """The numbers of a text and its parts. ``number`` reads one number, which must be above zero or may be any.

    Raises:
        Misread: a line is no part.
    """
    numbers: list[Expression] = []
    lines: list[Line] = []
    texts = lines_of(text)
    if not texts:
        raise Misread("there is no part: a line is for example box 60 36 12 at 0 0 0")
    if len(texts) > MOST_PARTS:
        raise Misread(
            f"{len(texts)} lines are too many; at most {MOST_PARTS} parts are drawn on one sheet",
            "; ".join(texts[:MOST_PARTS]),
        )
    for n, line in enumerate(texts, 1):
        try:
            found, read = _read_line(line, number, len(numbers))
        except Misread as reason:
            mended = "; ".join([*texts[: n - 1], *([reason.mended] if reason.mended else []), *texts[n:]])
            raise Misread(f"line {n}, “{quoted(line)}”: {reason}", mended) from None
        numbers += found
        lines.append(read)
    if lines[0].taken:
        rest = next((k for k, line in enumerate(lines) if not line.taken), None)
        mended = "; ".join(texts[rest:]) if rest is not None else re.sub(r"^less\s+", "", texts[0])
        raise Misread("line 1 takes a part away before there is anything", mended)
    return numbers, lines


def _read_line(text: str, number: Callable[[str, bool], Expression], first: int) -> tuple[list[Expression], Line]:
    words = text.split()
    taken = words[0].casefold() == LESS
    words = words[1:] if taken else words
    before = "less " if taken else ""
    kind = words[0].casefold() if words else ""
    if kind not in SIZES:
        raise Misread(f"“{quoted(words[0] if words else text)}” is no part; there are {', '.join(SIZES)}")
    sizes = SIZES[kind]
    model = f"{kind} {' '.join(sizes)} at x y z{f' {WAYS[kind][0]} {DEFAULT_WAY[kind]}' if kind in WAYS else ''}"
    at = next((k for k, word in enumerate(words) if word.casefold() == AT), len(words))
    given, places, rest = words[1:at], words[at + 1 : at + 4], words[at + 4 :]
    if len(given) != len(sizes) or len(places) != 3:
        filled = [*given[: len(sizes)], *["10"] * (len(sizes) - len(given))]
        spots = [*places, *["0"] * (3 - len(places))]
        tail = f" {' '.join(rest)}" if rest else ""
        mended = f"{before}{kind} {' '.join(filled)} at {' '.join(spots)}{tail}"
        raise Misread(f"it must read {model}", mended)
    way = _way(kind, rest, f"{before}{' '.join(words[: at + 4])}")
    found: list[Expression] = []
    for k, word in enumerate([*given, *places]):
        try:
            found.append(number(word, k < len(sizes)))
        except Misread as reason:
            filled = [("10" if k < len(sizes) else "0") if n == k else each for n, each in enumerate([*given, *places])]
            sizes_filled, places_filled = " ".join(filled[: len(sizes)]), " ".join(filled[len(sizes) :])
            tail = f" {' '.join(rest)}" if rest else ""
            raise Misread(str(reason), f"{before}{kind} {sizes_filled} at {places_filled}{tail}") from None
    sides = 0
    if kind == "prism":
        exact = found[0].fraction()
        if exact is None or exact.denominator != 1 or not FEWEST_SIDES <= exact <= MOST_SIDES:
            nearest = min(max(round(exact or Fraction(FEWEST_SIDES)), FEWEST_SIDES), MOST_SIDES)
            mended = f"{before}{' '.join([kind, str(nearest), *words[2:]])}"
            raise Misread(f"a prism has {FEWEST_SIDES} to {MOST_SIDES} sides, a whole number", mended)
        sides = int(exact)
    return found, Line(kind, first, way, taken, sides)


def _way(kind: str, rest: Sequence[str], before: str) -> str:
    """The word of the way, or the usual one where it is left out."""
    if kind not in WAYS:
        if rest:
            raise Misread(f"“{quoted(' '.join(rest))}” is too much", before)
        return ""
    if not rest:
        return DEFAULT_WAY[kind]
    word, ways = WAYS[kind]
    lowered = [each.casefold() for each in rest]
    if len(rest) != 2 or lowered[0] != word or lowered[1] not in ways:
        mended = f"{before} {word} {next((each for each in lowered if each in ways), DEFAULT_WAY[kind])}"
        raise Misread(f"after its place comes {word} {', '.join(ways)}", mended)
    return lowered[1]


def with_units(text: str, unit: str) -> str:
    """The text with a unit behind every length that has none."""
    found = []
    for line in lines_of(text):
        words = line.split()
        prism = "prism" in [word.casefold() for word in words[:2]]
        counted = 0
        for k, word in enumerate(words):
            if not re.fullmatch(r"[-+−]?[\d.,/*()]+", word):
                continue
            counted += 1
            if not (prism and counted == 1):
                words[k] = f"{word}{unit}"
        found.append(" ".join(words))
    return "; ".join(found)


def parts_of(lines: Sequence[Line], numbers: Sequence[Number]) -> tuple[Part, ...]:
    """All parts, with the numbers of the text in any arithmetic."""
    return tuple(line.part(numbers) for line in lines)
