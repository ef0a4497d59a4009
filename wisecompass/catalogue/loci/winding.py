"""What the problems of helices share: an end view divided, heights divided alike, points where projectors meet levels,
the curve with its hidden halves dashed, and the development that shows its angle.

The end view lies below the elevation in first angle and above it in third; what is nearer to the eye is lower in it. A
right-hand helix rises anticlockwise seen from above; it begins at the right.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, absolute, cos_deg, pi_times, root
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Projection
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Circle, Line, Point

GAP = 12
"""Room between the views, mm."""


def turns(default: str) -> Any:
    """The given of how many turns a helix makes."""
    return givens.ratio("turns", default, Fraction(1, 24), Fraction(12))


def hand() -> Any:
    return givens.choice("hand", "right", "left")


def sense(g: Any) -> int:
    """1 for a right-hand helix, -1 for a left-hand one."""
    return 1 if getattr(g, "hand", "right") == "right" else -1


def spaces(g: Any) -> int:
    """Divisions of all turns together, a whole number by condition."""
    count: int = max(1, round(float(g.bound_in(PLAIN).turns) * g.divisions))
    return count


def whole_divisions() -> Condition:
    """Turns and divisions make a whole number of spaces."""

    def off(g: Any) -> Number:
        return -absolute(g.turns * g.divisions - max(1, round(float(g.turns * g.divisions))))

    return Condition(
        "a whole number of spaces",
        off,
        "{turns} turns do not end on one of the {divisions} divisions",
        ("turns", "divisions"),
        lambda g: {"turns": f"{max(1, round(float(g.turns * g.divisions)))}/{g.divisions}"},
    )


# --------------------------------------------------------------------------------------------------------- closed form
def length_of_turns(diameter: Number, lead: Number, count: Number) -> Number:
    """√((πD)² + lead²) for each turn."""
    girth = pi_times(diameter)
    return root(girth * girth + lead * lead) * count


def elevation(g: Any, radius_at: Callable[[int], Number], height: Number, prefix: str = "P") -> dict[str, Point]:
    """Points of the elevation by name; ``radius_at`` gives the radius at each division."""
    count = spaces(g)
    zero = height - height
    return {
        f"{prefix}{k}": Point(radius_at(k) * cos_deg((zero + 360) * k / g.divisions), height * k / count)
        for k in range(count + 1)
    }


def seen_and_hidden(
    g: Any, place: Callable[[float], tuple[float, float]], velocity: Callable[[float], tuple[float, float]]
) -> list[tuple[Parametric, Pen]]:
    """The curve by half turns: those behind the axis are dashed. The parameter is the angle turned, in radians."""
    end = 2 * math.pi * float(g.turns)
    parts = []
    for half in range(math.ceil(end / math.pi - 1e-9)):
        behind = (half % 2 == 0) == (sense(g) > 0)
        part = Parametric(place, velocity, half * math.pi, min(end, (half + 1) * math.pi))
        parts.append((part, Pen.HIDDEN if behind else Pen.OUTLINE))
    return parts


# -------------------------------------------------------------------------------------------------------------- drawing
def views(b: Board, radius: Number, height: Number) -> tuple[Line, Point, Point, Point]:
    """Axis, its foot and top in the elevation, and the middle of the end view."""
    foot = b.point("O", b.number(0), b.number(0), why="the foot of the axis")
    axis = b.upright_line(foot, "axis", pen=Pen.CENTRE)
    top = b.lay_off(axis, foot, height, "O1", why="the height")
    below = b.conventions.projection is Projection.FIRST
    away = radius + GAP if below else height + radius + GAP
    middle = b.lay_off(axis, foot, away, "M", back=below, why="the middle of the end view, clear of the elevation")
    return axis, foot, top, middle


def end_view(b: Board, g: Any, circle: Circle, prefix: str = "d") -> list[Point]:
    """The end view divided, the way the helix turns; the mark of each division of one turn."""
    marks = b.divide_circle(circle, g.divisions, 0, prefix, why="beginning at the right")
    return [marks[(k * sense(g)) % g.divisions] for k in range(g.divisions)]


def levels(b: Board, g: Any, foot: Point, top: Point) -> list[Point]:
    """The height divided into as many spaces as all turns have divisions."""
    count = spaces(g)
    names = [f"h {k}" for k in range(1, count)]
    marks = b.divide(foot, top, count, names, why=f"{count} spaces: turns times divisions") if count > 1 else []
    b.caution("0 and the last division of a turn stand over one another: count spaces, not marks.")
    return [foot, *marks, top]


def wind(
    b: Board, g: Any, axis: Line, foot: Point, heights: list[Point], ends: list[Point], prefix: str = "P"
) -> list[Point]:
    """The points of the helix: the projector of each division meets its level."""
    level = axis.square(foot, "level")
    plotted = []
    for k, height in enumerate(heights):
        projector = b.parallel(axis, ends[k % g.divisions], f"projector {k}")
        across = b.parallel(level, height, f"level {k}")
        plotted.append(b.meet(projector, across, name=f"{prefix}{k}"))
    b.plot(*plotted)
    return plotted


def develop(b: Board, girth: Number, height: Number, name: str = "development") -> tuple[Point, Point, Point]:
    """The mantle unrolled: the helix is the slope of a right triangle on the girth."""
    with b.block(name):
        tag = "" if name == "development" else f"/{name}"
        start = b.point(f"D{tag}", b.number(0), b.number(0), why="the beginning of the development")
        base = b.level_line(start, "girth line")
        end = b.lay_off(base, start, girth, f"E{tag}", why="the girth, once for each turn")
        high = b.lay_off(b.square(base, end, "height line"), end, height, f"F{tag}", why="the height")
        b.line_in((start, high), why="the helix unrolled")
        b.dimension(start, end, offset=-9)
        b.dimension(end, high, offset=-9)
        b.dimension_angle(start, end, high, radius=18)
    return start, end, high


def helix_place(radius: float, lead: float) -> tuple[Callable[[float], tuple[float, float]], ...]:
    """Place and velocity of a helix in the elevation; its hand shows only in what is hidden."""
    rise = lead / (2 * math.pi)
    return (
        lambda t: (radius * math.cos(t), rise * t),
        lambda t: (-radius * math.sin(t), rise),
    )
