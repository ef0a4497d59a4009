"""What isometric pictures share: where a place of a body is drawn, the isometric scale, dot paper, and right corners.

A place is told by how far it lies from the nearest lower corner A along the front edge (30° up to the left), along the right
edge (30° up to the right) and upwards; mm. Parallel projection along the body diagonal of a cube; isometric scale √(2/3).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from contextlib import AbstractContextManager, nullcontext
from dataclasses import dataclass
from fractions import Fraction
from typing import Any, TypeAlias

from wisecompass.arithmetic import Number, absolute, roughly, sqrt
from wisecompass.drafting import marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import choice, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Make
from wisecompass.drafting.setting import Settable, span
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.wording import number_text
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3, dot

FRONT, RIGHT, UP = "front", "right", "up"

CORNERS = {"A": (0, 0, 0), "B": (0, 1, 0), "C": (1, 1, 0), "D": (1, 0, 0)} | {
    "E": (0, 0, 1),
    "F": (0, 1, 1),
    "G": (1, 1, 1),
    "H": (1, 0, 1),
}
"""Corners of a crate by how many times (front, right, height) they stand from A, the nearest lower corner; C is hidden."""

ANGLES = {FRONT: 150, RIGHT: 30, UP: 90}
"""Directions in which the three axes leave A, degrees."""

FACES = {"top": (FRONT, RIGHT), "left": (FRONT, UP), "right": (RIGHT, UP)}
"""The two axes along which each face that is seen lies: the front is the left face."""

NATURAL, DOTS = "natural", "dot grid"
MOST_DOTS = 60
"""So many dots a size may count."""

Place: TypeAlias = Callable[[Number, Number, Number], Point]


def scales() -> Any:
    return choice("scale", NATURAL, "isometric")


def papers() -> Any:
    return choice("paper", "plain", DOTS)


def dots_apart(default: str) -> Any:
    return length("dots apart along the axes", default)


# ----------------------------------------------------------------------------------------------------------------- truth
def seen_from_the_corner(g: Any, number: Make) -> Place:
    """Where a place so far along front, right and up is drawn: the picture plane has the unit vectors (1, -1, 0)/√2 to the
    right and (-1, -1, 2)/√6 upwards when both run-away edges lie on negative axes."""
    across = Point3(number(1), number(-1), number(0)).scaled(1 / sqrt(number(2)))
    upward = Point3(number(-1), number(-1), number(2)).scaled(1 / sqrt(number(6)))
    enlarge = number(1) if g.scale != NATURAL else sqrt(number(3) / 2)

    def place(front: Number, right: Number, up: Number) -> Point:
        at = Point3(-front, -right, up + number(0))
        return Point(dot(at, across) * enlarge, dot(at, upward) * enlarge)

    return place


def shrunk(g: Any, number: Make) -> Number:
    """By how much lengths along the axes are drawn smaller."""
    return number(1) if g.scale == NATURAL else sqrt(number(2) / 3)


# --------------------------------------------------------------------------------------------------------------- drawing
FULL_LENGTHS = "full lengths laid off where the isometric scale is asked for"


def sizes(b: Board, g: Any, **named: Settable) -> list[Settable]:
    """The lengths to set: as given, or reduced on a diagram of the isometric scale, where a length at 45° is dropped upright
    on a line at 30°."""
    if g.scale == NATURAL or b.slips(FULL_LENGTHS):
        return list(named.values())
    reduced: list[Settable] = []
    with b.block("isometric scale"):
        zero = b.point("S", b.number(0), b.number(0), why="the start of the isometric scale")
        steep = b.set_square_line(zero, 45, "true lengths")
        shallow = b.set_square_line(zero, 30, "isometric lengths")
        for name, size in named.items():
            told = name.replace("_", " ")
            measured = b.lay_off(steep, zero, size, told, why=f"the {told} at full length")
            drop = b.upright_line(measured, f"drop from {told}")
            reduced.append(span(zero, b.meet(drop, shallow, name=f"{told}′")))
    return reduced


def axes_at(b: Board, corner: Point) -> dict[str, Line]:
    """The three axes through a corner, each with its name."""
    lines = {way: b.set_square_line(corner, ANGLES[way], f"{way} axis") for way in (FRONT, RIGHT)}
    return {**lines, UP: b.upright_line(corner, "upright axis")}


@dataclass
class Crate:
    """The edges of a box, light: its corners A to H, the three axes through the corner that it begins from, and the lines of
    its edges by their corners."""

    at: dict[str, Point]
    axes: dict[str, Line]
    edges: dict[str, Line]


def crate_from_below(
    b: Board, a: Point, front: Settable, right: Settable, height: Settable, *, short: bool = False
) -> Crate:
    """From the nearest lower corner: a V with an upright. Told in ``short`` where the crate only serves."""
    with _together(b, short, "The crow's foot: three axes from the nearest lower corner"):
        ways = axes_at(b, a)
    to_left, to_right, upright = ways[FRONT], ways[RIGHT], ways[UP]
    b.caution("Only lengths along the three axes are true; a sloping edge is never measured along itself.")
    with _together(b, short, "The three sizes of the crate"):
        d = b.lay_off(to_left, a, front, "D", why="the front edge")
        right_end = b.lay_off(to_right, a, right, "B", why="the right edge")
        e = b.lay_off(upright, a, height, "E", why="the height")
    edges = {"AD": to_left, "AB": to_right, "AE": upright}
    with _together(b, short, "All other edges of the crate, light"):
        edges |= {"DC": b.parallel(to_right, d, "DC"), "BC": b.parallel(to_left, right_end, "BC")}
        c = b.meet(edges["DC"], edges["BC"], name="C")
        edges |= {"EF": b.parallel(to_right, e, "EF"), "BF": b.parallel(upright, right_end, "upright at B")}
        f = b.meet(edges["EF"], edges["BF"], name="F")
        edges |= {"EH": b.parallel(to_left, e, "EH"), "DH": b.parallel(upright, d, "upright at D")}
        h = b.meet(edges["EH"], edges["DH"], name="H")
        edges |= {"FG": b.parallel(to_left, f, "FG"), "HG": b.parallel(to_right, h, "HG")}
        corner = b.meet(edges["FG"], edges["HG"], name="G")
    return Crate({"A": a, "B": right_end, "C": c, "D": d, "E": e, "F": f, "G": corner, "H": h}, ways, edges)


def crate_from_above(
    b: Board, e: Point, front: Settable, right: Settable, height: Settable, *, short: bool = False
) -> Crate:
    """From the nearest upper corner: a Y."""
    with _together(b, short, "The Y: two axes that rise from the nearest upper corner, and its upright"):
        ways = axes_at(b, e)
    to_left, to_right, upright = ways[FRONT], ways[RIGHT], ways[UP]
    b.caution("Measure the height downwards from the Y; upwards it draws the box from below.")
    with _together(b, short, "The three sizes of the crate"):
        h = b.lay_off(to_left, e, front, "H", why="the front edge")
        f = b.lay_off(to_right, e, right, "F", why="the right edge")
        a = b.lay_off(upright, e, height, "A", back=True, why="the height")
    edges = {"EH": to_left, "EF": to_right, "AE": upright}
    with _together(b, short, "All other edges of the crate, light"):
        edges |= {"HG": b.parallel(to_right, h, "HG"), "FG": b.parallel(to_left, f, "FG")}
        corner = b.meet(edges["HG"], edges["FG"], name="G")
        edges |= {"AD": b.parallel(to_left, a, "AD"), "DH": b.parallel(upright, h, "upright at H")}
        d = b.meet(edges["AD"], edges["DH"], name="D")
        edges |= {"AB": b.parallel(to_right, a, "AB"), "BF": b.parallel(upright, f, "upright at F")}
        right_end = b.meet(edges["AB"], edges["BF"], name="B")
        edges |= {"DC": b.parallel(to_right, d, "DC"), "BC": b.parallel(to_left, right_end, "BC")}
        c = b.meet(edges["DC"], edges["BC"], name="C")
    return Crate({"A": a, "B": right_end, "C": c, "D": d, "E": e, "F": f, "G": corner, "H": h}, ways, edges)


def _together(b: Board, short: bool, text: str) -> AbstractContextManager[None]:
    """All operations within as one step, where that is wanted."""
    return b.gathered("parallel", Instrument.SET_SQUARE, text) if short else nullcontext()


def square_mark(b: Board, corner: Point, first: Point, second: Point) -> None:
    """The mark of a corner that is square in truth, along the two edges that leave it."""
    if not b.drawing:
        return
    x, y = float(corner.x), float(corner.y)
    ways = []
    for end in (first, second):
        dx, dy = float(end.x) - x, float(end.y) - y
        size = (dx * dx + dy * dy) ** 0.5
        reach = min(MARK, size / 3)
        ways.append((dx / size * reach, dy / size * reach))
    (ax, ay), (cx, cy) = ways
    for x1, y1, x2, y2 in ((ax, ay, ax + cx, ay + cy), (cx, cy, ax + cx, ay + cy)):
        b.put(marks.Segment, x1=x + x1, y1=y + y1, x2=x + x2, y2=y + y2, pen=Pen.DIMENSION)


MARK = 4.0
"""How long the legs of a square mark are, mm."""


# ------------------------------------------------------------------------------------------------------------------ dots
def begin_on_dots(b: Board, g: Any, reach: tuple[Number, Number, Number]) -> None:
    """The dots, before anything is drawn: where to begin, and the room that is needed. ``reach`` is how far the figure goes
    to the front, to the right and up."""
    if g.paper != DOTS:
        return
    front, right, up = (round(roughly(size) / roughly(g.unit)) for size in reach)
    rows = number_text((front + right) / 2 + up)
    b.step("say", Instrument.PENCIL)
    b.say(
        f"On dots {number_text(roughly(g.unit))} mm apart choose the lowest dot of the figure: it needs {rows} rows of dots "
        f"above it, {front} columns to its left and {right} to its right"
    )
    b.caution("Count the spaces, not the dots: the dot that you begin from is nought. Only along the axes is counted.")
    b.dots = g.unit
    if b.drawing:
        _grid(b, float(roughly(g.unit)), front, right, up)


def _grid(b: Board, unit: float, front: int, right: int, up: int) -> None:
    row, column = unit / 2, unit * 3**0.5 / 2
    for i in range(-front - 1, right + 2):
        for j in range(-2, front + right + 2 * up + 3):
            if (i + j) % 2 == 0:
                b.put(marks.Dot, x=i * column, y=j * row, pen=Pen.GRID)


def ruled_faces(b: Board, g: Any, faces: Sequence[tuple[Point, Point, Point]], counts: Sequence[tuple[int, int]]) -> None:
    """The unit grid on faces, each told by its corner and the ends of two edges, and how many units these count."""
    if getattr(g, "grid", "") != "on the faces" or g.paper != DOTS:
        return
    b.step("say", Instrument.SET_SQUARE)
    b.say("Rule the unit grid on the faces that are seen, thin, from dot to dot")
    if not b.drawing:
        return
    for (corner, first, second), (n, m) in zip(faces, counts, strict=True):
        x, y = float(corner.x), float(corner.y)
        ax, ay = float(first.x) - x, float(first.y) - y
        cx, cy = float(second.x) - x, float(second.y) - y
        for k in range(1, n):
            sx, sy = x + ax * k / n, y + ay * k / n
            b.put(marks.Segment, x1=sx, y1=sy, x2=sx + cx, y2=sy + cy, pen=Pen.GRID)
        for k in range(1, m):
            sx, sy = x + cx * k / m, y + cy * k / m
            b.put(marks.Segment, x1=sx, y1=sy, x2=sx + ax, y2=sy + ay, pen=Pen.GRID)


def on_dots(*names: str) -> tuple[Condition, ...]:
    """What must hold of sizes that are counted in dots."""

    def apart(g: Any) -> Number:
        total: Number = g.unit * (g.paper != DOTS)
        if g.paper != DOTS:
            return total
        for name in names:
            size = getattr(g, name)
            total = total - absolute(size - g.unit * max(1, round(roughly(size / g.unit))))
        return total

    def counted(g: Any) -> Number:
        spare: list[Number] = [g.unit * MOST_DOTS - getattr(g, name) for name in names]
        return min(spare, key=roughly) if g.paper == DOTS else absolute(g.unit)

    def rounded(g: Any) -> dict[str, str]:
        unit = Fraction(g.unit)
        return {name: exactly(unit * max(1, round(Fraction(getattr(g, name)) / unit))) for name in names}

    def coarser(g: Any) -> dict[str, str]:
        return {"unit": exactly(Fraction(max(getattr(g, name) for name in names)) / 10)}

    said = " or ".join(f"{{{name}}}" for name in names)
    return (
        Condition(
            "natural scale on dots",
            lambda g: g.unit if g.paper != DOTS or g.scale == NATURAL else -g.unit,
            "on dots every length is counted as it is: the isometric scale has no place there",
            ("scale", "paper"),
            lambda g: {"scale": NATURAL},
        ),
        Condition(
            "dots that can be counted",
            counted,
            f"{said} is more than {MOST_DOTS} dots {{unit}} apart: nobody counts so many",
            ("unit",),
            coarser,
        ),
        Condition(
            "whole dots",
            apart,
            f"{said} is no whole number of dots {{unit}} apart: between dots nothing is counted, nothing is rounded",
            (*names, "unit"),
            rounded,
        ),
    )


def exactly(value: Fraction) -> str:
    """A number as it is typed: a decimal where it ends, else a fraction."""
    rest = value.denominator
    for factor in (2, 5):
        while rest % factor == 0:
            rest //= factor
    return number_text(float(value)) if rest == 1 and Fraction(number_text(float(value))) == value else str(value)
