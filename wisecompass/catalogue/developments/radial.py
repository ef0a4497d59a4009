"""Radial lines: the true edge of a pointed solid, from which the pattern takes all its lengths."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from wisecompass.arithmetic import Number, hypot, roughly
from wisecompass.catalogue.developments.flat_cut import SheetCut
from wisecompass.catalogue.solids.body import APEX, MIDDLE, own_place
from wisecompass.catalogue.solids.cut_views import Drawn, edge_line
from wisecompass.drafting.setting import Setting, bare, reckoned, span
from wisecompass.drafting.sums import Tree
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


def grown(g: Any, name: str, near: Number, foot: Tree) -> Any:
    """A size of a pointed body on its neutral line: with all sides half the thickness farther out it is a larger one of the
    same shape, in the ratio of the distances ``near`` from the axis to the foot of a side; ``foot`` is that as a sum."""
    size = getattr(g, name)
    if not g.has_thickness:
        return size
    high = bare(g.height)
    number = bare(size) * (1 + bare(g.thickness) / 2 * hypot(near, high) / (high * near))
    if type(size) is not Setting:
        return number
    slope = ("sqrt", ("+", ("*", foot, foot), ("*", "height", "height")))
    return reckoned(number, ("*", name, ("+", 1, ("/", ("*", ("/", "thickness", 2), slope), ("*", "height", foot)))))


@dataclass
class TrueEdge:
    """The edge as long as it is, in the front view, and the cut points carried level onto it."""

    apex: Point
    foot: Point
    marks: Mapping[str, Point]

    @property
    def length(self) -> Setting:
        return span(self.apex, self.foot)

    def down_to(self, name: str) -> Setting:
        """How far below the apex a cut point lies along its edge."""
        return span(self.apex, self.marks[name])


def true_edge(d: Drawn, g: SheetCut, uppers: list[str], first: str) -> TrueEdge:
    """One edge swung about the axis until it is parallel to VP, if none lies so; every other is as long. Cut points stay on
    their levels. ``first`` is the letter of the edge that is swung."""
    b, up, low = d.sheet.b, d.one.up.images, d.one.low.images
    on_axis = [letter for letter in g.base_letters if _is_frontal(g, letter)]
    if on_axis:
        first = on_axis[0]
        line, foot = edge_line(d, first), up[first]
        b.step_reason(
            f"The edge over {low[first].name} lies parallel to VP: the front view shows it true, and all are alike"
        )
    else:
        swung = b.arc(low[MIDDLE], span(low[MIDDLE], low[first]), why="the edge is turned about the axis")
        aside = b.meet(swung, d.sheet.axis, plane.beyond(d.sheet.axis), f"{low[first].name} turned")
        foot = d.sheet.views.projected(aside, (d.one.low, d.one.up), d.sheet.views.ground, f"{up[first].name} turned")
        line = b.line(up[APEX], foot, "true edge", why="parallel to VP an edge is seen as long as it is")
    b.caution("Only an edge that lies parallel to VP is true in the front view; all others look too short.")
    marks: dict[str, Point] = {}
    levels: dict[tuple[int, int], Point] = {}
    for letter, name in zip(g.base_letters, uppers, strict=True):
        if name == APEX:
            continue
        place = up[name]
        if letter in on_axis:
            levels.setdefault(_place(place), place)
        if _place(place) not in levels:
            level = b.level_line(place, f"level of {place.name}", why="turned about the axis it stays as high")
            levels[_place(place)] = b.meet(level, line, name=f"{place.name} on the true edge")
        marks[name] = levels[_place(place)]
    return TrueEdge(up[APEX], foot, marks)


def _is_frontal(g: SheetCut, letter: str) -> bool:
    front = roughly(own_place(g, letter).front)
    return abs(front) < 1e-6 * roughly(g.base) and g.decide(lambda h: own_place(h, letter).front) == 0


def _place(p: Point) -> tuple[int, int]:
    """Letters that share one place share its numbers."""
    return id(p.x), id(p.y)
