"""Numbers that come from elsewhere: in a typed number a name stands for another figure's answer.

``hip-rafter.true_length / 2``: the figure's name with hyphens for spaces, a stop, the finding, and of a list which of its
numbers, from 1 (``hopper.slant_edges.2``). What a name stands for is not the business of this module.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from typing import Any, TypeAlias

from wisecompass.arithmetic.number import Number
from wisecompass.arithmetic.systems import Arithmetic

LINK = re.compile(r"(?P<figure>(?=[\w-]*[^\W\d_])\w+(?:-\w+)*)\.(?P<finding>[^\W\d]\w*)(?:\.(?P<item>\d{1,4}))?")
"""A link as it is typed."""

Dimension: TypeAlias = tuple[Fraction, Fraction]
"""Powers of a length and of an angle."""


class Undimensioned(ValueError):
    """A sum of what cannot be added; the message says of what."""


@dataclass(frozen=True, eq=False)
class Linked:
    """The answer that a name stands for, in mm and degrees. ``words`` say it as a drafter would; ``exact`` is its value
    where it is a whole number."""

    words: str
    dimension: Dimension
    value: Callable[[Arithmetic], Number]
    exact: Fraction | None = None

    def evaluate(self, arithmetic: Arithmetic) -> Number:
        """The value in ``arithmetic``.

        Raises:
            TypeError: in fractions, of what is not a whole number.
        """
        if self.exact is not None:
            return arithmetic.number(self.exact)
        if arithmetic.name in ("exact", "rational"):
            raise TypeError("an answer of another figure is no fraction")
        return self.value(arithmetic)


Links: TypeAlias = Callable[[str, str, int | None], Linked]
"""What a figure's name, a finding and a place in its list stand for; raises ``Unreadable`` where they stand for nothing."""


def has_link(text: str) -> bool:
    """Whether something in a typed number looks like a link."""
    return "." in text and LINK.search(text) is not None


def renamed(text: str, old: str, new: str) -> str:
    """The text with the links to one figure led to another name."""
    return LINK.sub(lambda m: new + m.group(0)[len(old) :] if m["figure"] == old else m.group(0), text)


def dimension_of(tree: tuple[Any, ...]) -> Dimension | None:
    """The powers of length and angle that a typed number has by its links; None where bare numbers alone say nothing.

    Raises:
        Undimensioned: a sum of a length and an angle, or the like.
    """
    head = tree[0]
    if head == "link":
        return tree[1].dimension  # type: ignore[no-any-return]
    if head in ("number", "pi"):
        return None
    parts = [dimension_of(part) for part in tree[1:]]
    if head == "sqrt":
        return None if parts[0] is None else (parts[0][0] / 2, parts[0][1] / 2)
    first, second = parts
    if head in ("+", "-"):
        if first is not None and second is not None and first != second:
            raise Undimensioned(f"{kind_words(first)} and {kind_words(second)} cannot be added")
        return first if first is not None else second
    if first is None and second is None:
        return None
    one, other = first or PLAIN_NUMBER, second or PLAIN_NUMBER
    way = 1 if head == "*" else -1
    return one[0] + way * other[0], one[1] + way * other[1]


PLAIN_NUMBER: Dimension = (Fraction(0), Fraction(0))
LENGTH: Dimension = (Fraction(1), Fraction(0))
ANGLE: Dimension = (Fraction(0), Fraction(1))

_KINDS = {
    PLAIN_NUMBER: "a plain number",
    LENGTH: "a length",
    ANGLE: "an angle",
    (Fraction(2), Fraction(0)): "an area",
    (Fraction(3), Fraction(0)): "a volume",
}


def kind_words(dimension: Dimension) -> str:
    """What quantities of a dimension are called."""
    return _KINDS.get(dimension, "another kind of quantity")


def in_units(tree: tuple[Any, ...], unit: Fraction) -> tuple[Any, ...]:
    """The tree with each linked length told in units of so many mm, as the bare numbers beside it are."""
    if tree[0] == "link":
        power = tree[1].dimension[0]
        return tree if power.denominator != 1 or power == 0 else ("/", tree, ("number", unit ** int(power)))
    if tree[0] == "number":
        return tree
    return (tree[0], *(in_units(part, unit) for part in tree[1:]))
