"""Conventions on which schools differ; each has a default and one sentence that says what it is."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum

from wisecompass.drafting.letters import Letters, renamed


class Projection(StrEnum):
    """First angle: front view above the fold line, top view below. Third angle: the other way round."""

    FIRST = "first"
    THIRD = "third"


class Naming(StrEnum):
    """Primes: a′ in the front view, a in the top view. Indices: A in elevation, A₁ in plan."""

    PRIMES = "primes"
    INDICES = "indices"


class Vocabulary(StrEnum):
    """Views: front view and top view, HP and VP. Plans: elevation and plan, horizontal and vertical plane."""

    VIEWS = "views"
    PLANS = "plans"


_PLANS = (
    (re.compile(r"\bfront view"), "elevation"),
    (re.compile(r"\bFront view"), "Elevation"),
    (re.compile(r"\btop view"), "plan"),
    (re.compile(r"\bTop view"), "Plan"),
    (re.compile(r"\bHP\b"), "the horizontal plane"),
    (re.compile(r"\bVP\b"), "the vertical plane"),
)


_BEGINNING = re.compile(r"(?:^|(?<=[.!?] ))[a-z]")


class Numbering(StrEnum):
    """Divisions from 0, so that 0 and 12 stand over one another where a curve closes, or from 1."""

    FROM_0 = "from 0"
    FROM_1 = "from 1"


class Counting(StrEnum):
    """The way round in which the divisions of a circle are counted, where the figure does not say."""

    ANTICLOCKWISE = "anticlockwise"
    CLOCKWISE = "clockwise"


class Beginning(StrEnum):
    """Where the divisions of a circle begin, where the figure does not say."""

    RIGHT = "right"
    TOP = "top"
    LEFT = "left"
    BOTTOM = "bottom"

    @property
    def angle(self) -> int:
        """Its direction from the centre, degrees."""
        return {"right": 0, "top": 90, "left": 180, "bottom": 270}[self.value]


class LineNames(StrEnum):
    """Names of lines that are spoken of later: written along them on the sheet, or only said in the sentences."""

    SHEET = "on the sheet"
    SENTENCES = "in sentences"


class Units(StrEnum):
    """What lengths are shown in, and what a number typed without a unit means."""

    MM = "mm"
    CM = "cm"
    INCH = "in"

    @property
    def millimetres(self) -> float:
        """Millimetres in one of this unit."""
        return {"mm": 1.0, "cm": 10.0, "in": 25.4}[self.value]


@dataclass(frozen=True)
class Conventions:
    """The schools a folio follows."""

    projection: Projection = Projection.FIRST
    naming: Naming = Naming.PRIMES
    units: Units = Units.MM
    numbering: Numbering = Numbering.FROM_0
    counting: Counting = Counting.ANTICLOCKWISE
    beginning: Beginning = Beginning.RIGHT
    vocabulary: Vocabulary = Vocabulary.VIEWS
    line_names: LineNames = LineNames.SHEET
    left_out: frozenset[str] = frozenset()
    """What is not wanted of a construction, such as its tangent; after a plus sign what is wanted beyond what is usual."""
    letters: Letters = ()
    """Letters of one's own."""
    turn: float = 0.0
    """By how many degrees a figure is turned on its sheet, anticlockwise."""
    whole_circles: bool = False
    """Whether circles of the construction are drawn whole, where arcs would do."""

    def worded(self, text: str) -> str:
        """A sentence in the words of the folio's school."""
        if self.vocabulary is Vocabulary.PLANS:
            for pattern, word in _PLANS:
                text = pattern.sub(word, text)
            text = _BEGINNING.sub(lambda found: found.group().upper(), text)
        return renamed(self.letters, text)

    @property
    def first_number(self) -> int:
        return 1 if self.numbering is Numbering.FROM_1 else 0

    def front_name(self, point: str) -> str:
        """The name of space point ``point`` in the front view."""
        return f"{point.lower()}′" if self.naming is Naming.PRIMES else point

    def auxiliary_name(self, point: str, number: int) -> str:
        """The name of space point ``point`` in the auxiliary view of that number."""
        primes = self.naming is Naming.PRIMES
        raised = point[:1].isalpha() and point[-1].isdigit()  # P₁₂¹: with a low one it would read like P₁₂₁
        digits = "⁰¹²³⁴⁵⁶⁷⁸⁹" if raised else "₀₁₂₃₄₅₆₇₈₉"
        tag = str(number if primes else number + 1).translate(str.maketrans("0123456789", digits))
        return f"{point.lower() if primes else point}{tag}"

    def side_name(self, point: str, number: int) -> str:
        """The name of space point ``point`` in a side view, which counts as the auxiliary view of that number."""
        return f"{point.lower()}″" if self.naming is Naming.PRIMES else self.auxiliary_name(point, number)

    def top_name(self, point: str) -> str:
        """The name of space point ``point`` in the top view. One that is numbered has a prime where others have an index:
        the plan of P₁ would read like P₁₁."""
        if self.naming is Naming.PRIMES:
            return point.lower()
        return f"{point}′" if point[:1].isalpha() and point[-1].isdigit() else f"{point}₁"
