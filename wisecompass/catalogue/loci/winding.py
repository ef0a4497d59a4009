"""What the problems of helices share: an end view divided, heights divided alike, points where projectors meet levels,
the curve with its hidden halves dashed, and the development that shows its angle.

The end view lies below the elevation in first angle and above it in third; what is nearer to the eye is lower in it. A
right-hand helix rises anticlockwise seen from above.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, absolute, atan2_deg, cos_deg, pi_times, root, roughly, sin_deg
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Projection
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition
from wisecompass.drafting.setting import Settable, bare, span
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Circle, Line, Point

GAP = 12
"""Room between the views, mm."""


@dataclass(frozen=True)
class Wound(Givens):
    """What every winding curve is given: how far, which way round and from where, in how many divisions, and the division
    at whose point the tangent is drawn. The size of a figure stands before, in a base of its own."""

    turns: Number = givens.ratio("turns", "3/2", Fraction(1, 24), Fraction(12))
    hand: str = givens.choice("hand", "right", "left")
    divisions: int = givens.count("divisions of a turn", "12", 4, 72)
    start_angle: Number = givens.angle("start", "0", least="0", most="360", limit_words="it must lie from 0° to 360°")
    chosen: int = givens.count("division for the tangent", "5", 1, 864)


def sense(g: Wound) -> int:
    """1 for a right-hand helix, -1 for a left-hand one."""
    return 1 if g.hand == "right" else -1


def spaces(g: Wound) -> int:
    """Divisions of all turns together, a whole number by condition."""
    count: int = max(1, round(roughly(bare(g.turns)) * g.divisions))
    return count


def counts(g: Wound) -> str:
    """What is counted before the first step."""
    return f"{spaces(g)} spaces of the height, {g.divisions} of the circle."


def conditions() -> tuple[Condition, ...]:
    """Turns and divisions make a whole number of spaces."""

    def off(g: Any) -> Number:
        return -absolute(g.turns * g.divisions - max(1, round(float(g.turns * g.divisions))))

    whole = Condition(
        "a whole number of spaces",
        off,
        "{turns} turns do not end on one of the {divisions} divisions",
        ("turns", "divisions"),
        lambda g: {"turns": f"{max(1, round(float(g.turns * g.divisions)))}/{g.divisions}"},
    )
    return (whole,)


def chosen(g: Wound) -> int:
    """The division for the tangent; beyond the last it is the last."""
    return min(g.chosen, spaces(g))


def begun(g: Wound) -> int:
    """The division at which the turn of the chosen one begins; its tangent is traced to the level there."""
    return (chosen(g) - 1) // g.divisions * g.divisions


def last(g: Wound) -> Number:
    """The last division that may be chosen."""
    return spaces(g)


# --------------------------------------------------------------------------------------------------------- closed form
def length_of_turns(diameter: Number, lead: Number, count: Number) -> Number:
    """√((πD)² + lead²) for each turn."""
    girth = pi_times(diameter)
    return root(girth * girth + lead * lead) * count


def turned(g: Wound, k: int) -> Number:
    """Direction of the k-th division in the end view, degrees."""
    return g.start_angle + (g.start_angle - g.start_angle + 360) * k * sense(g) / g.divisions


def elevation(g: Wound, radius_at: Callable[[int], Number], height: Number, prefix: str = "P") -> dict[str, Point]:
    """Points of the elevation by name; ``radius_at`` gives the radius at each division."""
    count = spaces(g)
    return {f"{prefix}{k}": Point(radius_at(k) * cos_deg(turned(g, k)), height * k / count) for k in range(count + 1)}


def tangent(g: Wound, radius: Number, height: Number) -> tuple[dict[str, Point], dict[str, Number]]:
    """Where the tangent at the chosen division meets the level where its turn begins, and the centre of curvature, which
    lies beyond the axis on the level of the point; the tangent's angle in the elevation, and the radius of curvature
    r + (lead / 2π)² / r."""
    angle, rise = turned(g, chosen(g)), height / (pi_times(2 * g.turns))
    arc = pi_times(2 * radius * (chosen(g) - begun(g)) / g.divisions)
    foot = Point(radius * cos_deg(angle) + arc * sense(g) * sin_deg(angle), height * begun(g) / spaces(g))
    slope = atan2_deg(height * (chosen(g) - begun(g)) / spaces(g), radius * cos_deg(angle) - foot.x)
    centre = Point(-cos_deg(angle) * rise * rise / radius, height * chosen(g) / spaces(g))
    return {"T": foot, "C": centre}, {"tangent_angle": slope, "curvature_radius": radius + rise * rise / radius}


def seen_and_hidden(
    g: Wound, place: Callable[[float], tuple[float, float]], velocity: Callable[[float], tuple[float, float]]
) -> list[tuple[Parametric, Pen]]:
    """The curve by half turns: those behind the axis are dashed. The parameter is the angle turned, in radians."""
    end, start = 2 * math.pi * float(g.turns), math.radians(float(g.start_angle)) * sense(g)
    first = -start % math.pi
    bounds = [0.0, *(first + half * math.pi for half in range(math.ceil(end / math.pi) + 1)), end]
    bounds = sorted(t for t in bounds if 0.0 <= t <= end)
    parts = []
    for one, other in zip(bounds, bounds[1:], strict=False):
        if other - one > 1e-9:
            behind = math.sin(start + (one + other) / 2) * sense(g) > 0
            parts.append((Parametric(place, velocity, one, other), Pen.HIDDEN if behind else Pen.OUTLINE))
    return parts


# -------------------------------------------------------------------------------------------------------------- drawing
def views(b: Board, radius: Settable, height: Settable) -> tuple[Line, Point, Point, Point]:
    """Axis, its foot and top in the elevation, and the middle of the end view."""
    foot = b.point("O", b.number(0), b.number(0), why="the foot of the axis")
    axis = b.upright_line(foot, "axis", pen=Pen.CENTRE)
    top = b.lay_off(axis, foot, height, "O1", why="the height")
    below = b.conventions.projection is Projection.FIRST
    least = radius if below else height + radius
    away = b.any_opening(bare(least) + GAP, more_than=least)
    middle = b.lay_off(axis, foot, away, "M", back=below, why="the middle of the end view, clear of the elevation")
    return axis, foot, top, middle


def end_view(b: Board, g: Wound, circle: Circle, prefix: str = "d") -> list[Point]:
    """The end view divided, the way the helix turns; the mark of each division of one turn."""
    why = "beginning at the start, the way it turns"
    return b.divide_circle(circle, g.divisions, g.start_angle, prefix, why=why, clockwise=g.hand == "left")


def levels(b: Board, g: Wound, foot: Point, top: Point) -> list[Point]:
    """The height divided into as many spaces as all turns have divisions."""
    count = spaces(g)
    names = [f"h {b.nth(k)}" for k in range(1, count)]
    marks = b.divide(foot, top, count, names, why=f"{count} spaces: turns times divisions") if count > 1 else []
    b.caution("0 and the last division of a turn stand over one another: count spaces, not marks.")
    return [foot, *marks, top]


@dataclass(frozen=True)
class Windings:
    """The points of a helix, and the level of each in the elevation."""

    points: list[Point]
    levels: list[Line]


def across_levels(b: Board, heights: list[Point]) -> list[Line]:
    """The level of each division."""
    return [b.level_line(height, f"level {b.nth(k)}") for k, height in enumerate(heights)]


def wind(
    b: Board,
    g: Wound,
    axis: Line,
    heights: list[Point],
    ends: list[Point],
    prefix: str = "P",
    across: list[Line] | None = None,
) -> Windings:
    """The points of the helix: the projector of each division meets its level. Levels that are there already, ``across``,
    are used again."""
    several = min(g.divisions, len(heights))
    tag = "" if prefix == "P" else f" of {prefix}"
    projectors = [b.parallel(axis, end, f"projector {b.nth(k)}{tag}") for k, end in enumerate(ends[:several])]
    if across is None:
        across = across_levels(b, heights)
    names = [b.numbered(prefix, k) for k in range(len(heights))]
    crossed = ((projectors[k % g.divisions], level, name) for k, (level, name) in enumerate(zip(across, names, strict=True)))
    plotted = b.mark_crossings(crossed)
    b.plot(*plotted)
    return Windings(plotted, across)


def draw_tangent(
    b: Board,
    g: Wound,
    wide: Settable,
    lines: tuple[Line, Point],
    ends: list[Point],
    wound: Windings,
) -> None:
    """The tangent at the chosen division: in the end view it touches the circle and is as long as the arc unwound since
    the turn began, and ends on the level there."""
    (axis, middle), end = lines, ends[chosen(g) % g.divisions]
    with b.wish("tangent"):
        _tangent_at(b, g, wide, axis, middle, end, wound)


def _tangent_at(b: Board, g: Wound, wide: Settable, axis: Line, middle: Point, end: Point, wound: Windings) -> None:
    radius = Line.through(middle, end, "radius of the point")
    touching = b.square(radius, end, "tangent in the end view")
    arc: Settable = reckoned_pi(2 * wide * (chosen(g) - begun(g)) / g.divisions)
    trace = b.lay_off(touching, end, arc, "t", back=g.hand == "right", why="the arc since the turn began, back along it")
    b.caution("The arc itself, not its chord; back against the way the helix rises.")
    finish_tangent(b, axis, wound.levels[begun(g)], trace, wound.points[chosen(g)])


def finish_tangent(b: Board, axis: Line, level: Line, trace: Point, high: Point) -> None:
    """The tangent in the elevation, from its trace in the end view to the ``level`` where its turn begins."""
    down = b.meet(b.parallel(axis, trace, "projector of t"), level, name="T")
    b.line_in((down, high), why="the tangent")
    ahead = Point(down.x + 1, down.y)
    b.find("tangent_angle", plane.angle_at(down, ahead, high))


def draw_centre(b: Board, axis: Line, middle: Point, end: Point, level: Line, bend: Settable) -> None:
    """The centre of curvature: the normal of the helix runs level through the axis, so it is the radius in the end view,
    where the radius of curvature shows its true length, and the ``level`` of the point in the elevation."""
    with b.may_be_far():
        normal = b.line(end, middle, "normal in the end view", why="the normal runs level through the axis")
        seen = b.lay_off(normal, end, bend, "c", why="the radius of curvature, from the development")
        b.meet(b.parallel(axis, seen, "projector of c"), level, name="C")


def develop(
    b: Board,
    girth: Settable,
    height: Settable,
    name: str = "development",
    radius: Settable | None = None,
    letters: tuple[str, str, str] = ("D", "E", "F"),
) -> tuple[Point, Point, Point, Settable]:
    """The mantle unrolled: the helix is the slope of a right triangle on the girth. With a ``radius`` the slope also gives
    the radius of curvature: the radius up to the slope and square to it down again, r / cos² of the helix angle. Gives
    beginning, end and height of the triangle, which bear these ``letters``, and that radius, or 0."""
    with b.block(name):
        first, second, third = letters
        start = b.point(first, b.number(0), b.number(0), why="the beginning of the development")
        base = b.level_line(start, "girth line")
        end = b.lay_off(base, start, girth, second, why="the girth, once for each turn")
        upright = b.square(base, end, "height line")
        high = b.lay_off(upright, end, height, third, why="the height")
        bend: Settable = b.number(0)
        b.line_in((start, high), why="the helix unrolled")
        if radius is not None:
            near = b.lay_off(base, start, radius, "R", why="the radius of the end view")
            slope = Line.through(start, high, f"{first}{third}")
            up = b.meet(b.parallel(upright, near, "upright at R"), slope, name="U")
            down = b.meet(b.square(slope, up, "square at U"), base, name="S")
            bend = span(start, down)
            b.find("curvature_radius", bare(bend))
        b.dimension(start, end, offset=-9)
        b.dimension(end, high, offset=-9)
        b.dimension_angle(start, end, high, radius=18)
    return start, end, high, bend


def show_in_space(b: Board, g: Wound, radii: tuple[Settable, Settable], height: Settable, first: int) -> None:
    """The helix in the picture in space: a point that turns about the upright axis and walks up it, in the steps after
    ``first``; its radii at foot and top, mm."""
    if not b.drawing:
        return
    foot, top, high = (roughly(bare(each)) for each in (*radii, height))
    start, way, turns = math.radians(float(g.start_angle)), sense(g), float(g.bound_in(PLAIN).turns)
    deep = 1.5 * max(foot, top)
    path, axis = [], []
    count = max(24, round(PICTURED * turns))
    for k in range(count + 1):
        share = k / count
        turn, radius = start + way * 2 * math.pi * turns * share, foot + (top - foot) * share
        path.append((radius * math.cos(turn), deep - radius * math.sin(turn), high * share))
        axis.append((0.0, deep, high * share))
    b.in_space_along(path)
    b.in_space_along([axis[0], axis[-1]], Pen.CENTRE)
    b.walks(first, len(b.steps), "the point turns about the axis and walks along it", path, axis)


PICTURED = 48
"""Places of a turn by which a helix is pictured in space."""


def helix_place(g: Wound, radius: float, lead: float) -> tuple[Callable[[float], tuple[float, float]], ...]:
    """Place and velocity of a helix in the elevation."""
    rise, start, way = lead / (2 * math.pi), math.radians(float(g.start_angle)), sense(g)
    return (
        lambda t: (radius * math.cos(start + way * t), rise * t),
        lambda t: (-radius * way * math.sin(start + way * t), rise),
    )


def fair_helix(b: Board, g: Wound, diameter: Number, lead: Number, plotted: list[Point], name: str = "helix") -> None:
    """Fair a helix through its points, its hidden halves dashed."""

    def parts() -> list[tuple[Parametric, Pen]]:
        place, velocity = helix_place(g, float(diameter) / 2, float(lead))
        return seen_and_hidden(g, place, velocity)

    b.fair_curve(parts, plotted, name)
