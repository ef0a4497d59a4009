"""Ends laid out on the edges of a pattern: corner by corner, each by two arcs from the ends of the edge that it hangs on."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from itertools import pairwise

from wisecompass.arithmetic import Number
from wisecompass.catalogue.developments.pattern import Station, Strip
from wisecompass.catalogue.developments.sheet import Sheet
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import span
from wisecompass.geometry import panels, plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3


def wanted(g: Sheet) -> list[int]:
    """Which ends are laid out: 0 the lower, 1 the upper."""
    return {"none": [], "base": [0], "both": [0, 1]}[g.ends]


def end_names(stations: Sequence[Station], end: int) -> tuple[list[str], list[str]]:
    """The letters round an end, from the edge that it hangs on, and their names in the flat: anticlockwise there."""
    letters = list(dict.fromkeys(each[end] for each in stations))
    names = [f"{letter}/flat" if k < 2 else f"{letter}/{end + 1}" for k, letter in enumerate(letters)]
    if end == 0:
        order = [1, 0, *range(len(letters) - 1, 1, -1)]
        return [letters[k] for k in order], [names[k] for k in order]
    return letters, names


def end_panel(stations: Sequence[Station], end: int) -> panels.Panel:
    """An end as a panel hung on the first side."""
    _, names = end_names(stations, end)
    return panels.Panel(tuple(names), 0, (names[0], names[1]))


def lay_end(
    b: Board, strip: Strip, end: int, images: Mapping[str, Point], seen: Callable[[str], None] | None = None
) -> dict[str, Point]:
    """Lay an end out on the first side; ``images`` are its corners in the view that shows its true shape."""
    letters, names = end_names(strip.stations, end)
    row = (strip.lows, strip.highs)[end]
    found = dict(zip(names[:2], (row[1], row[0]) if end == 0 else (row[0], row[1]), strict=True))
    hinge = Line.through(row[0], row[1])
    side = plane.right_of(hinge) if end == 0 else plane.left_of(hinge)
    start, other = found[names[0]], found[names[1]]
    for letter, name in zip(letters[2:], names[2:], strict=True):
        first = b.arc(start, span(images[letters[0]], images[letter]), why="from the view that shows the true shape")
        second = b.arc(other, span(images[letters[1]], images[letter]), why="from there too")
        found[name] = b.meet(first, second, side, name)
    loop = [found[name] for name in names]
    b.line_in(*pairwise([*loop[1:], loop[0]]), pen=Pen.CUT, why=f"the {('base', 'cut end')[end]}")
    strip.ends[end] = loop
    return found


def loop_edges(loop: Sequence[Point]) -> Number:
    """Length round a piece less twice the edge that it hangs on: what it adds to the outline."""
    lengths = [plane.distance(p, q) for p, q in pairwise([*loop, loop[0]])]
    return sum(lengths[2:], lengths[1]) - lengths[0]


def add_to_body(strip: Strip, end: int, body: dict[str, Point3]) -> None:
    """The places of an end's corners on the body, by their names in the flat."""
    for letter, name in zip(*end_names(strip.stations, end), strict=True):
        body[name] = strip.body[letter]
