"""What the problems of regular polygons share: their closed form, the walk round, and how they are closed and measured."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from wisecompass.arithmetic import Number, cos_deg, sin_deg
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Condition, Make
from wisecompass.drafting.setting import Settable
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import lettered, number_text
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Point

MEASURES: dict[str, Kind] = {
    "side": Kind.LENGTH,
    "circumradius": Kind.LENGTH,
    "apothem": Kind.LENGTH,
    "interior_angle": Kind.ANGLE,
    "central_angle": Kind.ANGLE,
    "perimeter": Kind.LENGTH,
    "area": Kind.AREA,
    "across_flats": Kind.LENGTH,
    "across_corners": Kind.LENGTH,
    "closing_side": Kind.LENGTH,
    "closing_error": Kind.LENGTH,
    "opening_angle": Kind.ANGLE,
    "side_drawn": Kind.LENGTH,
    "circumradius_drawn": Kind.LENGTH,
    "perimeter_drawn": Kind.LENGTH,
    "area_drawn": Kind.AREA,
}
"""``opening_angle`` is what the closing side spans at the centre. What ends in ``drawn`` belongs to the figure as
a rule that is not exact draws it; the same without that to the true polygon."""

NO_ERROR = 5e-10
"""A closing error below this, in mm, is a rounding error of the floats that words are made from."""


# --------------------------------------------------------------------------------------------------------- closed form
def of_circumradius(sides: int, radius: Number, number: Make) -> dict[str, Number]:
    """All measures of the regular polygon in a circle of ``radius`` mm."""
    half = number(180) / sides
    apothem, side = radius * cos_deg(half), 2 * radius * sin_deg(half)
    found = {
        "side": side,
        "circumradius": radius + 0,
        "apothem": apothem,
        "interior_angle": 180 - 2 * half,
        "central_angle": 2 * half,
        "perimeter": side * sides,
        "area": side * apothem * sides / 2,
        "across_flats": apothem * 2 if sides % 2 == 0 else radius + apothem,
    }
    if sides % 2 == 0:
        found["across_corners"] = radius * 2
    return found


def ring(sides: int, centre: Point, radius: Number, first: Number) -> dict[str, Point]:
    """Centre and corners P1, P2 … anticlockwise; P1 stands in the direction ``first`` degrees."""
    circle = Circle(centre, radius)
    corners = {f"P{k + 1}": circle.point_at(first + (first - first + 360) * k / sides) for k in range(sides)}
    return {"O": centre, **corners}


# ----------------------------------------------------------------------------------------------------------- conditions
def only_for(name: str, *counts: int) -> Condition:
    """The method serves these numbers of sides."""
    *first, last = map(str, counts)
    listed = f"{', '.join(first)} or {last}" if first else last
    nearest: Callable[[Any], int] = lambda g: min(counts, key=lambda k: abs(g.sides - k))  # noqa: E731
    return Condition(
        f"{listed} sides",
        lambda g: -abs(g.sides - nearest(g)),
        f"{name} draws {listed} sides and {{sides}} are asked for",
        ("sides",),
        lambda g: {"sides": str(nearest(g))},
    )


# -------------------------------------------------------------------------------------------------------------- drawing
def step_round(b: Board, circle: Circle, side: Settable, corners: list[Point], sides: int) -> list[Point]:
    """The corners, carried on round the circle from the last one that is known."""
    names = [f"P{k}" for k in range(len(corners) + 1, sides + 1)]
    found = [*corners, *b.step_off(circle, corners[-1], side, names, why="the side carried round")]
    b.caution("Stepping errors add up: compare the last side with the others before lining in.")
    return found


def measure(
    b: Board, corners: Sequence[Point], centre: Point, side: Number, closing: int | None = None, exact: bool = True
) -> None:
    """Line in and measure a polygon of ``side`` whose closing side runs from corner ``closing`` (the last) to the next;
    what a rule that is not ``exact`` draws is also reported as drawn."""
    n = len(corners)
    closed = [*corners, corners[0]]
    b.line_in(*zip(closed, closed[1:], strict=False))
    b.dimension(corners[1], corners[0], offset=9)
    last = n - 1 if closing is None else closing
    end, start = corners[last], closed[last + 1]
    lengths = [plane.distance(p, q) for p, q in zip(closed, closed[1:], strict=False)]
    perimeter = lengths[0]
    for length in lengths[1:]:
        perimeter = perimeter + length
    middle = plane.midpoint(corners[0], corners[1])
    b.find("side", lengths[0])
    b.find("circumradius", plane.distance(centre, corners[0]))
    b.find("apothem", plane.distance(centre, middle))
    b.find("interior_angle", plane.angle_at(corners[1], corners[0], corners[2]))
    b.find("central_angle", plane.angle_at(centre, corners[0], corners[1]))
    b.find("perimeter", perimeter)
    b.find("area", plane.polygon_area(list(corners)))
    if n % 2 == 0:
        opposite = plane.midpoint(corners[n // 2], corners[n // 2 + 1] if n > 2 else corners[0])
        b.find("across_flats", plane.distance(middle, opposite))
        b.find("across_corners", plane.distance(corners[0], corners[n // 2]))
    else:
        b.find("across_flats", plane.distance(middle, corners[(n + 1) // 2]))
    if not exact:
        for name in ("side", "circumradius", "perimeter", "area"):
            b.find(f"{name}_drawn", b.findings[name])
    b.check(
        f"P{n // 2 + 2} is as far from the centre as P1",
        plane.distance(centre, corners[n // 2 + 1]) - plane.distance(centre, corners[0]),
    )
    b.check("the second side is as long as the first", lengths[1] - lengths[0])
    b.find("closing_side", lengths[last])
    b.find("closing_error", lengths[last] - side)
    b.find("opening_angle", plane.turn_at(centre, end, start))


def check_closes(b: Board, corners: Sequence[Point], side: Number, closing: int = -1) -> None:
    """An exact polygon closes with a side like the others."""
    end, start = corners[closing], corners[(closing + 1) % len(corners)]
    b.check("the closing side equals the others", plane.distance(end, start) - side)


def warn_of_opening(b: Board, corners: Sequence[Point]) -> None:
    """A rule that does not close says where."""
    first, last = lettered(corners[0].name), lettered(corners[-1].name)
    b.caution(f"This rule is not exact here: its whole error opens the figure between {last} and {first}.")


def closing_words(findings: Mapping[str, float]) -> str:
    """What an approximate rule is worth for these numbers."""
    error = findings["closing_error"]
    if abs(error) < NO_ERROR:
        return "closes exactly here"
    return f"closing side {number_text(abs(error))} mm {'long' if error > 0 else 'short'}, between the last corner and P₁"
