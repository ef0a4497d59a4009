"""Sums of givens, put as simply as a drafter would write them: ``360 * turned / 360`` is ``turned``.

A sum is read as terms, each a coefficient and powers of what it is made of; terms that are alike are put together, and
brackets stay where there is more than one term in them.
"""

from __future__ import annotations

from fractions import Fraction
from typing import Any, TypeAlias

Tree: TypeAlias = "int | Fraction | str | tuple[Any, ...]"
"""A sum: a whole number, a fraction, the name of a given, ``("item", name, index)``, or ``(operator, operand, …)``."""

Factors: TypeAlias = tuple[tuple[Any, int], ...]
"""What a term is made of, each with its power, in the order in which it was met."""

Terms: TypeAlias = tuple[tuple[Fraction, Factors], ...]


_SIGNS: tuple[Terms, ...] = (((Fraction(1), ()),), ((Fraction(-1), ()),))


def said(tree: Tree) -> str:
    """A sum as text: ``(radius_1 - radius) / 2``."""
    return _text(terms(tree))


def written(tree: Tree) -> str:
    """A sum with its numbers as they were typed, where they are known; else nothing."""
    return _text(terms(_typed(tree))) if _has_typed(tree) and _is_typed(tree) else ""


def _has_typed(tree: Tree) -> bool:
    return isinstance(tree, tuple) and (len(tree) == 4 if tree[0] == "item" else any(map(_has_typed, tree[1:])))


def _is_typed(tree: Tree) -> bool:
    if not isinstance(tree, tuple):
        return isinstance(tree, int | Fraction)
    return len(tree) == 4 if tree[0] == "item" else all(map(_is_typed, tree[1:]))


def _typed(tree: Tree) -> Tree:
    if not isinstance(tree, tuple):
        return tree
    if tree[0] != "item":
        return (tree[0], *map(_typed, tree[1:]))
    return str(tree[3]) if str(tree[3]).strip("-+0.,") else 0


def terms(tree: Tree) -> Terms:
    """A sum as terms, alike ones put together."""
    if isinstance(tree, int | Fraction):
        return ((Fraction(tree), ()),) if tree else ()
    if isinstance(tree, str):
        return ((Fraction(1), ((tree, 1),)),)
    operator, *parts = tree
    match operator:
        case "+":
            return _added(terms(parts[0]), terms(parts[1]))
        case "-":
            return _added(terms(parts[0]), _scaled(terms(parts[1]), Fraction(-1)))
        case "neg":
            return _scaled(terms(parts[0]), Fraction(-1))
        case "*":
            return _multiplied(terms(parts[0]), terms(parts[1]))
        case "/":
            return _multiplied(terms(parts[0]), _inverted(terms(parts[1])))
        case "item":
            return ((Fraction(1), ((tuple(tree), 1),)),)
        case "abs":
            inside = terms(parts[0])
            if inside and all(size < 0 for size, _ in inside):
                inside = _scaled(inside, Fraction(-1))
            return ((Fraction(1), ((("abs", inside), 1),)),)
    return ((Fraction(1), (((operator, *(terms(part) for part in parts)), 1),)),)


def _added(first: Terms, second: Terms) -> Terms:
    found: dict[Factors, Fraction] = {}
    for size, factors in (*_opened(first), *_opened(second)):
        found[factors] = found.get(factors, Fraction(0)) + size
    return tuple((size, factors) for factors, size in found.items() if size)


def _opened(several: Terms) -> Terms:
    """Terms without the brackets that stand alone."""
    found: list[tuple[Fraction, Factors]] = []
    for size, factors in several:
        if abs(size) == 1 and len(factors) == 1 and factors[0][1] == 1 and factors[0][0][0] == "sum":
            found += _scaled(factors[0][0][1], size)
        else:
            found.append((size, factors))
    return tuple(found)


def _scaled(several: Terms, by: Fraction) -> Terms:
    return tuple((size * by, factors) for size, factors in several)


def _multiplied(first: Terms, second: Terms) -> Terms:
    if not first or not second:
        return ()
    for sign, rest in ((first, second), (second, first)):
        if sign in _SIGNS:
            return _scaled(rest, sign[0][0])
    (size, factors), (other, more) = _one(first), _one(second)
    powers = dict(factors)
    for thing, power in more:
        powers[thing] = powers.get(thing, 0) + power
    return ((size * other, tuple((thing, power) for thing, power in powers.items() if power)),)


def _one(several: Terms) -> tuple[Fraction, Factors]:
    """Several terms as one, in brackets."""
    return several[0] if len(several) == 1 else (Fraction(1), ((("sum", several), 1),))


def _inverted(several: Terms) -> Terms:
    size, factors = _one(several)
    return ((1 / size, tuple((thing, -power) for thing, power in factors)),)


def _text(several: Terms) -> str:
    if not several:
        return "0"
    text = ""
    for size, factors in several:
        sign = ("-" if size < 0 else "") if not text else " - " if size < 0 else " + "
        text += sign + _term(abs(size), factors)
    return text


def _term(size: Fraction, factors: Factors) -> str:
    over = [_thing(thing) for thing, power in factors for _ in range(power)]
    under = [_thing(thing) for thing, power in factors for _ in range(-power)]
    if size.numerator != 1 or not over:
        over.insert(0, str(size.numerator))
    if size.denominator != 1:
        under.insert(0, str(size.denominator))
    below = f"({' * '.join(under)})" if len(under) > 1 else "".join(under)
    return " / ".join(filter(None, [" * ".join(over), below]))


def _thing(thing: Any) -> str:
    if isinstance(thing, str):
        return thing
    if thing[0] == "item":
        return f"{thing[1]}[{thing[2]}]"
    if thing[0] == "sum":
        return f"({_text(thing[1])})"
    return f"{thing[0]}({', '.join(_text(part) for part in thing[1:])})"
