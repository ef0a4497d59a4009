"""Level rims in two views: circles divided and numbered, rectangles by their corners; what chords lose of a girth."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from fractions import Fraction
from functools import lru_cache, reduce
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, cos_deg, larger, pi_times, roughly, sin_deg
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import at_least
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition
from wisecompass.drafting.setting import Settable, bare, span
from wisecompass.drafting.views import Views
from wisecompass.geometry import panels
from wisecompass.geometry.plane import Circle
from wisecompass.geometry.space import Point3, dot, norm

USUAL = (8, 12, 16, 24, 32, 48)
"""Numbers of divisions that are told of."""

ENOUGH = 0.5
"""Millimetres of girth that a workshop lets pass."""


@lru_cache(maxsize=64)
def numbered(prefix: str, count: int) -> list[str]:
    """Letters with numbers from 1; remembered, so not to be changed."""
    return [f"{prefix}{k}" for k in range(1, count + 1)]


def places(centre: Point3, radius: Number, names: Sequence[str]) -> dict[str, Point3]:
    """The points of a level circle in space, from the right on anticlockwise as seen from above."""
    count, found = len(names), {}
    for k, name in enumerate(names):
        way = (radius * 0 + 360) * k / count
        found[name] = Point3(centre.x + radius * cos_deg(way), centre.front - radius * sin_deg(way), centre.above, name)
    return found


def level_circle(b: Board, views: Views, middle: str, diameter: Settable, names: Sequence[str], word: str) -> Circle:
    """A circle about a point that both views have: whole and divided in the top view, from there up to its level. Points
    that the front view shows in one place share it."""
    up, low, count = views.front_view, views.top_view, len(names)
    circle = b.arc(low.images[middle], diameter / 2, name=f"circle of the {word}", whole=True)
    labels = [low.label(name) for name in names]
    for name, image in zip(
        names, b.divide_circle(circle, count, 0, labels, why="anticlockwise, from the right"), strict=True
    ):
        low.images[name] = image
    level = views.ground if _on_ground(views, middle) else b.level_line(up.images[middle], f"level of the {word}")
    for k in range(count // 2 + 1):
        first, twin = names[(count - k) % count], names[k]
        views.project(first, low, up, level)
        if twin != first:
            up.images[twin] = b.mark_point(up.images[first].named(up.label(twin)))
    return circle


def _on_ground(views: Views, middle: str) -> bool:
    image = views.front_view.images[middle]
    return image.y is views.ground.at.y or roughly(image.y) == roughly(views.ground.at.y)


def sagging(loop: Sequence[Point3], centre: Point3, first: str, second: str, body: Mapping[str, Point3]) -> Number:
    """How far the arc over a chord of a level circle stands off the facet that has this chord for an edge, mm: the rise of
    the arc, as much of it as is square to the facet."""
    p, q = body[first], body[second]
    half = p.x * 0 + 1
    middle = (p + q).scaled(half / 2) - centre
    away, radius = norm(middle), norm(p - centre)
    way = panels.normal(loop)
    share = dot(middle, way) / (away * norm(way))
    rise = (radius - away) * share
    return larger(rise, -rise)


def greatest(numbers: Sequence[Number]) -> Number:
    """The greatest, surely held by a ball. Of simulated hands that one which is greatest on the perfect drawing: the most
    of several that stray would lie too high."""
    if hasattr(bare(numbers[0]), "shape"):
        return max(numbers, key=roughly)
    return reduce(larger, numbers)


def least(numbers: Sequence[Number]) -> Number:
    return -greatest([-each for each in numbers])


def girth_closes(diameter: Callable[[Any], Number], pairs: Callable[[Any], Sequence[tuple[Number, Number]]]) -> Condition:
    """A share of the girth is shorter than the two lines to its ends together, or its triangle does not close; ``pairs`` are
    the lengths of those lines."""

    def share(g: Any) -> Number:
        found: Number = pi_times(diameter(g)) / g.divisions
        return found

    return Condition(
        "a share of the girth that closes its triangle",
        lambda g: least([(first + second) * 49 / 50 for first, second in pairs(g)]) - share(g),
        "one of {divisions} shares of the girth is longer than both lines to its ends: the body is only {height} high",
        ("divisions", "height"),
        lambda g: {"height": at_least(Fraction(roughly(share(g.bound_in(PLAIN)))) * 51 / 98, above=True)},
    )


def say_divisions(b: Board, diameter: Settable, count: int) -> None:
    """What so many chords lose of the girth, what other numbers of them would, and which is enough."""
    if not b.drawing:
        return
    across = float(bare(diameter))

    def lost(n: int) -> float:
        return across * (math.pi - n * math.sin(math.pi / n))

    others = "; ".join(f"{n}: {lost(n):.2f}" for n in USUAL if n != count)
    enough = next((n for n in USUAL if lost(n) <= ENOUGH), None)
    words = f"{enough} keep within {ENOUGH} mm" if enough else f"none of these keeps within {ENOUGH} mm"
    b.caution(
        f"{count} chords fall {lost(count):.2f} mm short of the girth of {across * math.pi:.2f} mm ({others}); {words}."
    )


def discs(b: Board, views: Views, rims: Sequence[tuple[str, str]]) -> None:
    """Level ends that are circles, as discs apart: each by its middle and a point of its rim."""
    for k, (middle, on) in enumerate(rims):
        low = views.top_view.images
        with b.block(f"end {k + 1}"):
            centre = b.point(f"{middle}/1", b.number(0), b.number(0), why="an end, apart")
            along = b.level_line(centre, f"diameter of end {k + 1}")
            rim = b.lay_off(along, centre, span(low[middle], low[on]), f"{on}/1", why="half the diameter")
            b.line_in_arc(centre, rim, rim, name=f"end {k + 1}", why="an end", pen=Pen.CUT)
