"""Small algebra in any arithmetic: vectors, the place that three surfaces share, and its enclosure in balls."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from typing import Any, cast

from wisecompass.arithmetic import Number
from wisecompass.geometry.surfaces import Spot

NUMERICAL = Fraction(1, 10**9)
"""The share by which the area along a curve of two round surfaces may be wrong, where it turns back on its generators."""


def dot(one: Any, other: Any) -> Any:
    return one[0] * other[0] + one[1] * other[1] + one[2] * other[2]


def cross(one: Any, other: Any) -> tuple[Any, Any, Any]:
    return (
        one[1] * other[2] - one[2] * other[1],
        one[2] * other[0] - one[0] * other[2],
        one[0] * other[1] - one[1] * other[0],
    )


def solved(rows: Sequence[Any], right: Sequence[Number]) -> Spot:
    """The place that three planes share (Cramer's rule)."""
    first, second, third = rows
    size = dot(first, cross(second, third))
    parts = zip(cross(second, third), cross(third, first), cross(first, second), strict=True)
    x, y, z = ((right[0] * a + right[1] * b + right[2] * c) / size for a, b, c in parts)
    return x, y, z


def settled(start: Sequence[Number], rows: Sequence[Any]) -> Spot:
    """The common place of three surfaces near a start, by Newton's method; in balls by Krawczyk's: what a step maps into
    itself holds one."""
    place: Sequence[Any] = start
    if not is_ball(start[0]):
        for _ in range(3):
            place = _stepped(place, place, rows)
        return place[0], place[1], place[2]
    from wisecompass.arithmetic import ball

    for _ in range(8):  # the middle first, at the precision in hand
        place = [ball.number(ball.middle(cast(Any, c))) for c in _stepped(place, place, rows)]
    for bits in WIDTHS:
        found = _enclosed(place, rows, Fraction(1, 2**bits))
        if found is not None:
            return found
    x, y, z = (ball.about(ball.middle(c), NUMERICAL) for c in place)
    return cast(Spot, (x, y, z))


WIDTHS = (20, 40, 60, 80)
"""How wide the first box about a corner may be, as powers of a half: the flatter the surfaces meet, the narrower."""


def _enclosed(place: Sequence[Any], rows: Sequence[Any], width: Fraction) -> Spot | None:
    """A box about a place that Newton's step maps into itself, made as narrow as it gets; None where it does not."""
    from wisecompass.arithmetic import ball

    wide: list[Any] = [ball.about(ball.middle(c), width) for c in place]
    for turn in range(24):
        found: tuple[Any, ...] = _stepped([ball.number(ball.middle(c)) for c in wide], wide, rows)
        if not all(w.contains(f) for w, f in zip(wide, found, strict=True)):
            if turn == 0:
                return None
            break
        narrow = all(ball.radius(f) * 2 > ball.radius(w) for f, w in zip(found, wide, strict=True))
        wide = list(found)
        if narrow:
            break
    return wide[0], wide[1], wide[2]


def _stepped(middle: Sequence[Any], wide: Sequence[Any], rows: Sequence[Any]) -> Spot:
    """Newton's step from a middle, with the gradients of a wide place about it."""
    slopes = [[2 * q * c + b for q, c, b in zip(row[:3], wide, row[3:6], strict=True)] for row in rows]
    heights = [dot([q * c + b for q, c, b in zip(row[:3], middle, row[3:6], strict=True)], middle) + row[6] for row in rows]
    x, y, z = solved(slopes, heights)
    return middle[0] - x, middle[1] - y, middle[2] - z


def is_ball(x: Any) -> bool:
    return type(x).__module__.startswith("flint")
