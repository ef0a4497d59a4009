"""Numbers as a drafter types them: ``18.5``, ``18,5``, ``3/4``, ``1 1/2 in``, ``2*sqrt(3)``, ``pi/4``.

An expression stays as typed until an arithmetic is chosen, so that 25.4 is 127/5 and not its nearest float.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property
from typing import Any, TypeAlias

from wisecompass.arithmetic.linked import LINK, Dimension, Linked, Links, Undimensioned, dimension_of, has_link, in_units
from wisecompass.arithmetic.number import Number, is_zero, pi_times, sign_of, sqrt
from wisecompass.arithmetic.systems import BALL, EXACT, PLAIN, Arithmetic

LONGEST, LONGEST_LINKED = 80, 400
"""Characters in a typed number, and in one with names of figures; more is a paste gone wrong."""

MOST_DIGITS = 40
DEEPEST = 24

MOST_BITS_GIVEN = 1100
"""Binary digits of a number that did not come from a keyboard: every double has fewer."""

DECIDED_BITS, LINKED_BITS = 2560, 320
"""With so many binary digits it is decided whether a typed number is finite; one with links, whose figures are worked out
for it, with fewer."""

QUOTED = 60
"""Characters of what somebody typed that a sentence gives back."""

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
"""("number", fraction), ("link", linked), (sign, left, right) or (function, argument)."""

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
    said: str = ""
    """Of a number with links: how it reads, with the names as words."""
    dimension: Dimension | None = None
    """Of a number with links: what quantity it is, where they tell."""

    @property
    def linked(self) -> bool:
        """Whether it hangs on another figure."""
        return bool(self.said)

    def evaluate(self, arithmetic: Arithmetic) -> Number:
        """The value in ``arithmetic``, in mm or degrees: finite, since it was decided when it was read. In floats and
        hands an irrational one is the double nearest to it, not what rounding makes of its parts.

        Raises:
            TypeError: an irrational value in an exact arithmetic.
        """
        exact = self.fraction()
        if exact is not None:
            return arithmetic.number(exact)
        if self.linked and arithmetic.name in ("plain", "hand"):
            return arithmetic.number(Fraction(float(_value(self.tree, PLAIN))))
        if arithmetic.name in ("plain", "hand"):
            return arithmetic.number(self._nearest)
        return _value(self.tree, arithmetic)

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

    @cached_property
    def _nearest(self) -> Fraction:
        """An irrational value as the fraction of the double nearest to it."""
        from wisecompass.arithmetic import ball

        with ball.precision(DECIDED_BITS):
            return Fraction(ball.roughly(_value(self.tree, BALL)))  # type: ignore[arg-type]


def read(text: str, default_unit: str | None = None, links: Links | None = None) -> Expression:
    """Read a typed number. A bare number is in ``default_unit`` (mm and degrees when None); ``links`` say what names of
    figures stand for.

    >>> read("1 1/2 in").fraction()
    Fraction(381, 10)

    Raises:
        Unreadable: the text is empty, too long, or not a number.
    """
    stripped = one_line(text)
    if not stripped:
        raise Unreadable("nothing is written there")
    most = LONGEST_LINKED if has_link(stripped) else LONGEST
    if len(stripped) > most:
        raise Unreadable(f"the number is longer than {most} characters")
    parser = _Parser(stripped, links)
    tree, unit = parser.whole()
    said, dimension = parser.said(), None
    if said:
        try:
            dimension = dimension_of(tree)
        except Undimensioned as reason:
            raise Unreadable(f"“{quoted(stripped)}”: {reason}") from None
    unit_used = unit or default_unit
    if unit_used and UNITS[unit_used] != 1:
        tree = ("*", in_units(tree, UNITS[unit_used]), ("number", UNITS[unit_used]))
    expression = Expression(stripped, tree, unit, default_unit, said, dimension)
    if expression.fraction() is None and tree[0] != "link":  # which finds a division by zero at once
        _require_finite(tree, LINKED_BITS if said else DECIDED_BITS)
    return expression


def one_line(text: str) -> str:
    """Typed text fit to be quoted in a sentence: no line breaks, nothing that does not print."""
    return "".join(c if c.isprintable() else "?" for c in " ".join(text.split()))


def quoted(text: object, most: int = QUOTED) -> str:
    """What somebody brought, fit to be given back in a sentence: one line of at most so many characters."""
    said = one_line(text if isinstance(text, str) else _written(text))
    return said if len(said) <= most else f"{said[: most - 1]}…"


def _written(value: object) -> str:
    """A value as text; a whole number too long to be written out is told by its length."""
    try:
        return str(value)
    except ValueError:
        return "a number of thousands of digits"


def with_unit(text: str, unit: str) -> str:
    """Typed text with a unit written after it where it has none; what cannot be read stays as it is, and so does what has
    its unit from another figure alone."""
    try:
        found = read(text, links=_any_link)
        return text if found.unit or found.tree[0] == "link" else f"{text.strip()} {unit}"
    except Unreadable:
        return text


def _any_link(figure: str, finding: str, item: int | None) -> Linked:
    """For those who ask only how a number is written."""
    return Linked(figure, (Fraction(0), Fraction(0)), lambda arithmetic: arithmetic.number(1))


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
        raise Unreadable(f"{quoted(value)} is not a number") from None
    if max(exact.numerator.bit_length(), exact.denominator.bit_length()) > MOST_BITS_GIVEN:
        raise Unreadable(f"the number has more than {MOST_DIGITS} digits")
    text = repr(value) if isinstance(value, float) and "e" not in repr(value) else str(exact)
    return Expression(text[:-2] if text.endswith(".0") else text, ("number", exact))


class _Parser:
    def __init__(self, text: str, links: Links | None = None) -> None:
        self.text = text
        self.tokens: list[tuple[str, str]] = []
        self.links: dict[str, Linked] = {}
        self._said: list[str] = []
        position = told = 0
        while position < len(text):
            position += len(text[position:]) - len(text[position:].lstrip())
            link = LINK.match(text, position)
            if link is not None and self._take_link(link, links):
                self._said.append(text[told : link.start()] + self.links[link.group()].words)
                position = told = link.end()
                continue
            match = _TOKEN.match(text, position)
            if match is None:
                raise Unreadable(f"“{quoted(text[position:], 12)}” is not part of a number")
            kind = str(match.lastgroup)
            token = match.group(kind)
            self.tokens.append((kind, _ALIAS.get(token, token)))
            position = match.end()
        self._said.append(text[told:])
        self.at = 0
        self.depth = 0

    def _take_link(self, link: re.Match[str], links: Links | None) -> bool:
        """Take a link; not what may be a number and a minus before it."""
        if links is None:
            raise Unreadable(f"“{quoted(link.group())}” is another figure's answer, and there is no folio to find it in")
        item = link["item"]
        try:
            self.links[link.group()] = links(link["figure"], link["finding"], None if item is None else int(item))
        except Unreadable:
            if re.match(r"\d+-", link["figure"]):
                return False
            raise
        self.tokens.append(("link", link.group()))
        return True

    def said(self) -> str:
        """The text with its links in words; nothing where it has none."""
        return "".join(self._said) if self.links else ""

    def whole(self) -> tuple[Tree, str | None]:
        tree = self.sum()
        unit = None
        if self.at < len(self.tokens):
            kind, token = self.tokens[self.at]
            if kind == "word" and token in UNITS and self.at == len(self.tokens) - 1:
                unit = token
            else:
                raise Unreadable(f"“{token}” is out of place in “{quoted(self.text)}”")
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
            raise Unreadable(f"“{quoted(self.text)}” breaks off")
        kind, token = self.tokens[self.at]
        self.at += 1
        if kind == "number":
            return self.mixed(_decimal(token))
        if kind == "link":
            return ("link", self.links[token])
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
                raise Unreadable(f"a bracket is not closed in “{quoted(self.text)}”")
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


def _require_finite(tree: Tree, bits: int) -> None:
    """Decide in balls that a number which is no fraction is finite and real.

    Raises:
        Unreadable: it divides by zero or takes the root of a negative number, or no ball can tell that it does not.
    """
    from wisecompass.arithmetic import ball

    with ball.precision(bits):
        _finite(tree)


def _finite(tree: Tree) -> Number:
    """The ball of a tree, each division and root decided on the way."""
    head = tree[0]
    if head == "number":
        return BALL.number(tree[1])
    if head == "link":
        return tree[1].evaluate(BALL)  # type: ignore[no-any-return]
    parts = [_finite(part) for part in tree[1:]]
    if head == "/" and sign_of(parts[1]) == 0:
        raise Unreadable("it divides by zero, or by what cannot be told from zero")
    if head == "sqrt" and sign_of(parts[0]) < 1 and not is_zero(parts[0]):
        below = sign_of(parts[0]) < 0
        raise Unreadable(f"it takes the root of {'a negative number' if below else 'what cannot be told from zero'}")
    return _worked(head, parts)


def _value(tree: Tree, arithmetic: Arithmetic) -> Number:
    head = tree[0]
    if head == "number":
        return arithmetic.number(tree[1])
    if head == "link":
        return tree[1].evaluate(arithmetic)  # type: ignore[no-any-return]
    return _worked(head, [_value(part, arithmetic) for part in tree[1:]])


def _worked(head: str, parts: list[Number]) -> Number:
    """One operation on numbers of any arithmetic."""
    if head == "sqrt":
        return sqrt(parts[0])
    if head == "pi":
        return pi_times(parts[0])
    first, second = parts
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
