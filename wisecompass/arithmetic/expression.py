"""Numbers as a drafter types them: ``18.5``, ``18,5``, ``3/4``, ``1 1/2 in``, ``2*sqrt(3)``, ``pi/4``.

An expression stays as typed until an arithmetic is chosen, so that 25.4 is 127/5 and not its nearest float.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property
from typing import Any, TypeAlias

from wisecompass.arithmetic.number import Number, pi_times, sqrt
from wisecompass.arithmetic.systems import EXACT, Arithmetic

LONGEST = 80
"""Characters in a typed number; more is a paste gone wrong."""

MOST_DIGITS = 40
DEEPEST = 24

UNITS: dict[str, Fraction] = {
    "mm": Fraction(1),
    "cm": Fraction(10),
    "m": Fraction(1000),
    "in": Fraction(127, 5),
    '"': Fraction(127, 5),
    "ft": Fraction(1524, 5),
    "°": Fraction(1),
    "deg": Fraction(1),
}
LENGTH_UNITS = frozenset({"mm", "cm", "m", "in", '"', "ft"})

Tree: TypeAlias = tuple[Any, ...]
"""("number", fraction), (sign, left, right) or (function, argument)."""

_TOKEN = re.compile(r"\s*(?:(?P<number>\d+(?:[.,]\d*)?|[.,]\d+)|(?P<word>[A-Za-zπ°\"]+)|(?P<sign>[-+*/()√×·−]))")
_ALIAS = {"×": "*", "·": "*", "−": "-"}


class Unreadable(ValueError):
    """The text is not a number that can be read; the message says what is wrong with it."""


@dataclass(frozen=True)
class Expression:
    """A typed number: its text, the tree read from it, the unit word found at its end, if any, and the unit that was
    meant where there is none."""

    text: str
    tree: Tree
    unit: str | None = None
    default_unit: str | None = None

    def evaluate(self, arithmetic: Arithmetic) -> Number:
        """The value in ``arithmetic``, in mm or degrees.

        Raises:
            Unreadable: division by zero, or the root of a negative number.
        """
        exact = self.fraction()
        return _value(self.tree, arithmetic) if exact is None else arithmetic.number(exact)

    def fraction(self) -> Fraction | None:
        """The exact value when it is rational, else None."""
        return self._exact

    @cached_property
    def _exact(self) -> Fraction | None:
        try:
            value = _value(self.tree, EXACT)
        except TypeError:
            return None
        return value if isinstance(value, Fraction) else None


def read(text: str, default_unit: str | None = None) -> Expression:
    """Read a typed number. A bare number is in ``default_unit`` (mm and degrees when None).

    >>> read("1 1/2 in").fraction()
    Fraction(381, 10)

    Raises:
        Unreadable: the text is empty, too long, or not a number.
    """
    stripped = one_line(text)
    if not stripped:
        raise Unreadable("nothing is written there")
    if len(stripped) > LONGEST:
        raise Unreadable(f"the number is longer than {LONGEST} characters")
    parser = _Parser(stripped)
    tree, unit = parser.whole()
    unit_used = unit or default_unit
    if unit_used and UNITS[unit_used] != 1:
        tree = ("*", tree, ("number", UNITS[unit_used]))
    expression = Expression(stripped, tree, unit, default_unit)
    expression.fraction()  # finds a division by zero at once
    return expression


def one_line(text: str) -> str:
    """Typed text fit to be quoted in a sentence: no line breaks, nothing that does not print."""
    return "".join(c if c.isprintable() else "?" for c in " ".join(text.split()))


def of(value: int | float | Fraction | str) -> Expression:
    """An expression for a value that did not come from a keyboard: a float counts as its shortest decimal.

    Raises:
        Unreadable: not a finite number.
    """
    if isinstance(value, str):
        return read(value)
    try:
        exact = Fraction(repr(value)) if isinstance(value, float) else Fraction(value)
    except (ValueError, OverflowError, TypeError):
        raise Unreadable(f"{value!r} is not a number") from None
    text = repr(value) if isinstance(value, float) and "e" not in repr(value) else str(exact)
    return Expression(text[:-2] if text.endswith(".0") else text, ("number", exact))


class _Parser:
    def __init__(self, text: str) -> None:
        self.text = text
        self.tokens: list[tuple[str, str]] = []
        position = 0
        while position < len(text):
            match = _TOKEN.match(text, position)
            if match is None:
                raise Unreadable(f"“{text[position:].strip()[:12]}” is not part of a number")
            kind = str(match.lastgroup)
            token = match.group(kind)
            self.tokens.append((kind, _ALIAS.get(token, token)))
            position = match.end()
        self.at = 0
        self.depth = 0

    def whole(self) -> tuple[Tree, str | None]:
        tree = self.sum()
        unit = None
        if self.at < len(self.tokens):
            kind, token = self.tokens[self.at]
            if kind == "word" and token in UNITS and self.at == len(self.tokens) - 1:
                unit = token
            else:
                raise Unreadable(f"“{token}” is out of place in “{self.text}”")
        return tree, unit

    def peek(self) -> str:
        return self.tokens[self.at][1] if self.at < len(self.tokens) else ""

    def sum(self) -> Tree:
        self.depth += 1
        if self.depth > DEEPEST:
            raise Unreadable("the number has too many brackets")
        tree = self.product()
        while self.peek() in ("+", "-"):
            sign = self.take()
            tree = (sign, tree, self.product())
        self.depth -= 1
        return tree

    def product(self) -> Tree:
        tree = self.factor()
        while self.peek() in ("*", "/"):
            sign = self.take()
            tree = (sign, tree, self.factor())
        return tree

    def take(self) -> str:
        token = self.peek()
        self.at += 1
        return token

    def factor(self) -> Tree:
        if self.at >= len(self.tokens):
            raise Unreadable(f"“{self.text}” breaks off")
        kind, token = self.tokens[self.at]
        self.at += 1
        if kind == "number":
            return self.mixed(_decimal(token))
        if token == "-":
            return ("-", ("number", Fraction(0)), self.factor())
        if token == "+":
            return self.factor()
        if token == "√":
            return ("sqrt", self.factor())
        if token == "sqrt" and self.peek() == "(":
            return ("sqrt", self.factor())
        if token in ("pi", "π"):
            return ("pi", ("number", Fraction(1)))
        if token == "(":
            tree = self.sum()
            if self.take() != ")":
                raise Unreadable(f"a bracket is not closed in “{self.text}”")
            return tree
        raise Unreadable(f"“{token}” is not a number")

    def mixed(self, whole: Fraction) -> Tree:
        """``1 1/2``: a whole number followed by a fraction of two whole numbers."""
        following = self.tokens[self.at : self.at + 3]
        if [kind for kind, _ in following] == ["number", "sign", "number"] and following[1][1] == "/":
            top, bottom = _decimal(following[0][1]), _decimal(following[2][1])
            if whole.denominator == top.denominator == bottom.denominator == 1 and bottom != 0:
                self.at += 3
                return ("number", whole + top / bottom)
        return ("number", whole)


def _decimal(token: str) -> Fraction:
    if len(token) > MOST_DIGITS:
        raise Unreadable(f"the number has more than {MOST_DIGITS} digits")
    return Fraction(token.replace(",", ".").rstrip("."))


def _value(tree: Tree, arithmetic: Arithmetic) -> Number:
    head = tree[0]
    if head == "number":
        return arithmetic.number(tree[1])
    first = _value(tree[1], arithmetic)
    if head == "sqrt":
        return sqrt(first)
    if head == "pi":
        return pi_times(first)
    second = _value(tree[2], arithmetic)
    if head == "+":
        return first + second
    if head == "-":
        return first - second
    if head == "*":
        return first * second
    try:
        return first / second
    except ZeroDivisionError:
        raise Unreadable("it divides by zero") from None
