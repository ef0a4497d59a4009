"""Ends laid out on the edges of a pattern: corner by corner, each by two arcs from the ends of the edge that it hangs on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import pairwise

from wisecompass.arithmetic import Number
from wisecompass.catalogue.developments.pattern import Net, Station, Strip
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import span
from wisecompass.geometry import panels, plane
from wisecompass.geometry.plane import Line, Point


def wanted(ends: str, pointed: bool) -> list[int]:
    """Which ends are laid out: 0 the lower, 1 the upper, which a body that ends in a point has not."""
    return {"none": [], "base": [0], "both": [0] if pointed else [0, 1]}[ends]


def end_names(stations: Sequence[Station], end: int, holder: int = 0) -> tuple[list[str], list[str]]:
    """The letters round an end, and what they are called in the flat: anticlockwise there. The lower one begins with the
    edge that it hangs on; where that is not the first, the first line goes up the middle of a side and has no corner."""
    letters = list(dict.fromkeys(each[end] for each in stations))[holder:]
    if end:
        return letters, [f"{letter}/2" for letter in letters]
    letters = [letters[1], letters[0], *reversed(letters[2:])]
    return letters, [f"{letter}/{'flat' if k < 2 else 1}" for k, letter in enumerate(letters)]


def lay_end(b: Board, strip: Strip, end: int, images: Mapping[str, Point]) -> dict[str, Point]:
    """Lay an end out, the lower on the first side, the upper apart; ``images`` are its corners in the view that shows its
    true shape."""
    letters, names = end_names(strip.stations, end, strip.holder)
    if end:
        start = b.point(names[0], b.number(0), b.number(0), why="the cut end, apart")
        hinge = b.level_line(start, "edge of the cut end")
        size = span(images[letters[0]], images[letters[1]])
        other = b.lay_off(hinge, start, size, names[1], why="from the view that shows the true shape")
        side = plane.upper
    else:
        start, other = strip.lows[strip.holder + 1], strip.lows[strip.holder]
        side = plane.left_of(Line.through(start, other))
    found = {names[0]: start, names[1]: other}
    for letter, name in zip(letters[2:], names[2:], strict=True):
        first = b.arc(start, span(images[letters[0]], images[letter]), why="from the view that shows the true shape")
        second = b.arc(other, span(images[letters[1]], images[letter]), why="from there too")
        found[name] = b.meet(first, second, side, name)
    loop = [found[name] for name in names]
    b.line_in(*pairwise([*loop[1:], loop[0]]), pen=Pen.CUT, why=f"the {('base', 'cut end')[end]}")
    if end:
        b.edge(start, other, Pen.CUT)
    strip.ends[end] = loop
    return found


def added(loop: Sequence[Point], end: int) -> Number:
    """What an end adds to the outline: its own, less twice the edge that it hangs on."""
    lengths = [plane.distance(p, q) for p, q in pairwise([*loop, loop[0]])]
    rest = sum(lengths[2:], lengths[1])
    return rest + lengths[0] if end else rest - lengths[0]


def hang(net: Net, strip: Strip) -> None:
    """The lower end as a panel of the net."""
    letters, names = end_names(strip.stations, 0, strip.holder)
    net.body |= {name: strip.body[letter] for letter, name in zip(letters, names, strict=True)}
    net.panels.append(panels.Panel(tuple(names), strip.holder, (names[0], names[1])))
