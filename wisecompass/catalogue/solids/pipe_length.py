"""How long the curve is in which two pipes meet: integrals along it, on generators where both pipes are crossed.

Where the branch lies within the main pipe its own generators serve all round. Where it just reaches the side of the main
pipe they touch it there, and half their angle keeps the curve smooth. Where a part of it passes before the main pipe the
curve turns back, and near there the main pipe's own generators serve.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from wisecompass.arithmetic import Number, acos_deg, cos_deg, sin_deg, turning_integral
from wisecompass.catalogue.solids.pipes import Pipes, over

Root = Callable[[Any], Any]


def curve_length(g: Pipes) -> Number:
    """Of all curves together, mm."""
    where, sides = over(g), 2 if g.through else 1
    if where < 0:
        return _round(g) * sides
    if where == 0:
        return (_crossing(g) if _is_crossed(g) else _touching(g)) * sides
    return _turning_back(g)


def _is_crossed(g: Pipes) -> bool:
    """Whether the pipes are equal and their axes cross."""
    return g.decide(lambda h: h.main_diameter - h.branch_diameter) == 0


def _speed(g: Pipes, across: Any, deep: Any, rise: Any, root: Root) -> Any:
    """How long the curve grows where it grows so much to the right, to the front, and square to the branch's axis."""
    c, s = cos_deg(g.angle), sin_deg(g.angle)
    up = (across * c + rise) / s
    return root(across * across + deep * deep + up * up)


def _along_the_branch(g: Pipes) -> Callable[[Any, Any, Root], Any]:
    """How long the curve grows with the angle of the branch's generator."""
    big, r, e = g.main_diameter / 2, g.branch_diameter / 2, g.offset

    def grown(c: Any, s: Any, root: Root) -> Any:
        y, deep = e + r * c, -r * s
        x = root(big * big - y * y)
        return _speed(g, -y * deep / x, deep, r * c, root)

    return grown


def _round(g: Pipes) -> Number:
    zero = g.offset * 0
    return turning_integral(_along_the_branch(g), zero, zero + 360)


def _touching(g: Pipes) -> Number:
    """By half the angle: 1 - cos ψ = 2 sin² (ψ / 2) makes the root of R² - y² smooth where it is nothing."""
    big, r, e = g.main_diameter / 2, g.branch_diameter / 2, g.offset

    def grown(c: Any, s: Any, root: Root) -> Any:
        y, deep = e + r * (2 * c * c - 1), -4 * r * c * s
        rest = root(2 * r * (big + y))
        return _speed(g, c * rest + s * r * deep / rest, deep, 2 * r * (2 * c * c - 1), root)

    zero = g.offset * 0
    return turning_integral(grown, zero, zero + 180)


def _crossing(g: Pipes) -> Number:
    """Of equal pipes: x = R sin ψ, both halves of the curve on one side."""
    big = g.main_diameter / 2
    zero = g.offset * 0

    def half(way: int) -> Number:
        return turning_integral(lambda c, s, root: _speed(g, big * c, -big * s, big * c * way, root), zero, zero + 180)

    return half(1) + half(-1)


def _turning_back(g: Pipes) -> Number:
    """On the branch's generators behind, on the main pipe's before; what lies to the left is what lies to the right."""
    big, r, e = g.main_diameter / 2, g.branch_diameter / 2, g.offset
    middle = (e - r + big) / 2
    from_here, zero = acos_deg((middle - e) / r), e * 0
    total = turning_integral(_along_the_branch(g), from_here, 360 - from_here)
    for way in (1, -1):

        def grown(c: Any, s: Any, root: Root, way: int = way) -> Any:
            past, deep = big * c - e, -big * s
            return _speed(g, big * c, deep, -past * deep / root(r * r - past * past) * way, root)

        total = total + turning_integral(grown, zero, acos_deg(middle / big))
    return total * 2
