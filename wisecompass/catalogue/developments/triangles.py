"""Triangulation: a surface between two rims is laid out triangle by triangle, each by its three true lengths. Lines from rim
to rim take theirs from a diagram, as the slope over plan length and height; a rim takes its own from where it is seen true.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import pairwise

from wisecompass.arithmetic import Number
from wisecompass.catalogue.developments.pattern import Station, flat_names
from wisecompass.drafting.board import Board
from wisecompass.drafting.setting import Setting, span
from wisecompass.geometry import panels, plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3, distance3


def lines_between(stations: Sequence[Station]) -> list[Station]:
    """The lines that a pattern needs: every station, and where both ends go on the diagonal from the next low on."""
    found = list(stations)
    for (low, high), (next_low, next_high) in pairwise(stations):
        if low != next_low and high != next_high:
            found.append((next_low, high))
    return list(dict.fromkeys(found))


@dataclass
class Diagram:
    """The diagram of true lengths: heights on its upright, plan lengths along its base."""

    b: Board
    plan: Mapping[str, Point]
    rise: Callable[[str], Setting]
    """How high an upper point stands over a lower rim, as the front view shows it."""
    alike: Callable[[Station], Station] = lambda line: line
    """The line that another is as long as: mirrored ones are found once."""
    heights: dict[str, Point] = field(default_factory=dict)
    lengths: dict[Station, Setting] = field(default_factory=dict)
    slopes: dict[Station, Line] = field(default_factory=dict)
    base: Line | None = None
    upright: Line | None = None

    def find(self, lines: Sequence[Station], level: Callable[[str], str], edges: Sequence[Station] = ()) -> None:
        """The true length of every line; ``level`` names the height that an upper point shares with others. Where there are
        ``edges`` these are laid off to the right of the upright and all others, the diagonals, to the left."""
        b = self.b
        with b.block("true lengths"):
            origin = b.point("Z", b.number(0), b.number(0), why="a diagram of true lengths, apart")
            self.base = b.level_line(origin, "plan lengths")
            self.upright = b.upright_line(origin, "heights")
            wanted = list(dict.fromkeys(self.alike(line) for line in lines))
            for _, high in wanted:
                if level(high) not in self.heights:
                    name = f"Y{len(self.heights) + 1}"
                    why = "its height, carried from the front view"
                    self.heights[level(high)] = b.lay_off(self.upright, origin, self.rise(high), name, why=why)
            feet = [
                b.lay_off(
                    self.base,
                    origin,
                    span(self.plan[low], self.plan[high]),
                    f"{low}–{high}/length",
                    back=bool(edges) and (low, high) not in edges,
                    why="its length in the top view",
                )
                for low, high in wanted
            ]
            b.caution("A length from either view alone is too short: only the slope of the diagram is true.")
            for (low, high), foot in zip(wanted, feet, strict=True):
                top = self.heights[level(high)]
                slope = b.line(foot, top, f"slope {low}–{high}", why="the true length")
                b.extend(slope, top)
                self.slopes[low, high] = slope
                self.lengths[low, high] = span(foot, top)

    def __getitem__(self, line: Station) -> Setting:
        return self.lengths[self.alike(line)]


def lay_out(
    b: Board,
    stations: Sequence[Station],
    length: Callable[[Station], Setting],
    rim: Callable[[str, str], Setting],
) -> tuple[list[Point], list[Point]]:
    """Triangle after triangle from the seam round to the seam, each by two arcs. ``rim`` gives the true length between two
    neighbours on one rim."""
    names = flat_names(stations)
    (low, high), (low_name, high_name) = stations[0], names[0]
    start = b.point(low_name, b.number(0), b.number(0), why="the seam begins the pattern")
    upright = b.upright_line(start, "seam")
    lows, highs = [start], [b.lay_off(upright, start, length((low, high)), high_name, why="the true length of the seam")]
    for (before, after), (low_name, high_name) in zip(pairwise(stations), names[1:], strict=True):
        foot, top = lows[-1], highs[-1]
        if after[0] != before[0]:
            by_rim = b.arc(foot, rim(before[0], after[0]), why="along the lower rim")
            by_line = b.arc(top, length((after[0], before[1])), why="its true length")
            foot = b.meet(by_rim, by_line, plane.right_of(Line.through(foot, top)), low_name)
        if after[1] != before[1]:
            by_rim = b.arc(top, rim(before[1], after[1]), why="along the upper rim")
            by_line = b.arc(foot, length(after), why="its true length")
            top = b.meet(by_rim, by_line, plane.right_of(Line.through(foot, top)), high_name)
        lows.append(foot)
        highs.append(top)
    return lows, highs


def true_flat(stations: Sequence[Station], body: Mapping[str, Point3], zero: Number) -> dict[str, Point]:
    """The triangles of the body laid into the sheet, the seam upright at the origin, by the names of the flat."""
    names = flat_names(stations)
    pairs = [each for pair, ends in zip(names, stations, strict=True) for each in zip(pair, ends, strict=True)]
    places = {name: body[letter] for name, letter in pairs}
    first = (Point(zero, distance3(*(body[end] for end in stations[0]))), Point(zero, zero))
    return panels.unrolled(panels.triangles(names), places, first)


def facets(stations: Sequence[Station], body: Mapping[str, Point3]) -> list[list[Point3]]:
    """The triangles in space."""
    return [[body[name] for name in panel.corners] for panel in panels.triangles(stations)]


def area_of(stations: Sequence[Station], body: Mapping[str, Point3]) -> Number:
    """Area of all triangles, mm²."""
    sizes = [panels.area(loop) for loop in facets(stations, body)]
    return sum(sizes[1:], sizes[0])


def flat_by_turns(
    stations: Sequence[Station],
    length: Callable[[Station], Number],
    turn: Callable[[Station, Station], tuple[Number, Number]],
    zero: Number,
) -> dict[str, Point]:
    """Lines that each share an end with the one before, laid into the sheet one after the other, the seam upright at the
    origin; ``turn`` is the cosine and sine of the angle between two."""
    names = flat_names(stations)
    found = {names[0][0]: Point(zero, zero), names[0][1]: Point(zero, length(stations[0]))}
    ux, uy = zero, zero + 1  # from the low end to the high one
    for (before, after), (low, high) in zip(pairwise(stations), names[1:], strict=True):
        c, s = turn(before, after)
        about_low = after[0] == before[0]
        ux, uy = (ux * c + uy * s, uy * c - ux * s) if about_low else (ux * c - uy * s, uy * c + ux * s)
        size = length(after)
        if about_low:
            pivot = found[low]
            found[high] = Point(pivot.x + ux * size, pivot.y + uy * size)
        else:
            pivot = found[high]
            found[low] = Point(pivot.x - ux * size, pivot.y - uy * size)
    return found
