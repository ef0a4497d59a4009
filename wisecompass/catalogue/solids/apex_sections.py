"""Cone and level pipe by planes through the apex: all of them hold the level line through it that runs along the pipe.

Seen along the pipe such a plane is a straight line from the apex. It cuts the pipe in generators, and the cone in the two
generators that run from the apex to where the plane's trace on the ground cuts the base.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from wisecompass.catalogue.solids.cone_views import Sheet, line_in, measure, set_up
from wisecompass.catalogue.solids.level_pipe import DIVISIONS, ConeAndPipe, found_in_order, meets, place
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Exactness, method
from wisecompass.drafting.setting import span
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass
class Planes:
    """The planes seen along the pipe, and the generators in which they cut the cone, right and left."""

    s: Sheet
    upright: Line
    """The axis of the cone seen along the pipe."""
    apex: Point
    sides: dict[int, tuple[Line, Line]] = field(default_factory=dict)

    def way(self, k: int) -> int:
        """Whether the plane through a generator of the pipe runs down to the front (1) or to the back (-1); 0 where it holds
        the axis of the cone."""
        return self.s.g.decide(lambda h: place(h, (h.height * 0 + 360) * k / DIVISIONS)[0])


@method("sections through the apex", Exactness.EXACT)
def sections_through_the_apex(b: Board, g: ConeAndPipe) -> None:
    s = set_up(b, g)
    found = found_in_order(g)
    planes = _seen_along_the_pipe(s)
    for k in found:
        s.generator(k)
    slanting = sorted((k for k in found if planes.way(k)), key=lambda k: -planes.way(k))
    planes.sides = _generators(planes, _traces(planes, slanting))
    for k in found:
        s.line(k)
    up, low, views = s.views.front_view, s.views.top_view, s.views
    for k in found:
        for letter, side in zip("PQ", planes.sides.get(k, (s.side, s.other_side)), strict=True):
            name = b.numbered(letter, k)
            b.pencil()
            up.images[name] = b.meet(s.generator(k), side, name=up.label(name))
    for k in found:
        for letter in "PQ":
            name = b.numbered(letter, k)
            image = views.project(name, up, low, s.line(k))
            b.space_point(name, image.x - s.middle.x, views.front(image), views.above(up.images[name]))
    b.caution("Generators of one plane belong together: crossed with those of another they give points of neither body.")
    line_in(s, found)
    measure(s, found)
    views.letter_fold()


def _seen_along_the_pipe(s: Sheet) -> Planes:
    """The apex as it is seen along the pipe, beside the pipe's end that is turned up there."""
    b, g = s.b, s.g
    at = s.end
    if g.decide(lambda h: h.offset):
        at = b.lay_off(s.axis, s.end, g.offset, "axes apart", back=True, why="so far the cone's axis is behind the pipe's")
    upright = b.upright_line(at, "axis of the cone seen along the pipe")
    level = b.level_line(s.corners[2], "level of the apex")
    return Planes(s, upright, b.meet(level, upright, name="apex seen along the pipe"))


def _traces(planes: Planes, found: Sequence[int]) -> dict[int, tuple[Point, Point]]:
    """Where the traces of planes on the ground cut the base, right and left: a trace is as far from the middle as it is
    seen along the pipe."""
    s, b = planes.s, planes.s.b
    main, feet, starts = s.views.projectors["M"], dict[int, Point](), dict[int, Point]()
    for k in found:
        line = b.line(planes.apex, s.turned_up[k], f"plane {b.nth(k)}")
        feet[k] = b.meet(line, s.views.ground, name=f"foot of plane {b.nth(k)}")
    for k, foot in feet.items():
        name, away = f"trace {b.nth(k)} on the middle", span(foot, planes.upright)
        starts[k] = b.lay_off(main, s.middle, away, name, back=planes.way(k) > 0, why="carried over")
    ends = {}
    for k, start in starts.items():
        trace = b.level_line(start, f"trace {b.nth(k)}", why="the plane cuts the ground there")
        names = f"base {b.nth(k)} of the right side", f"base {b.nth(k)} of the left side"
        if meets(s.g, k) == 0:
            touch = b.touched(s.ring, trace, names[0])
            ends[k] = touch, touch
        else:
            ends[k] = b.both(s.ring, trace, names, plane.beyond(trace))
    return ends


def _generators(planes: Planes, ends: dict[int, tuple[Point, Point]]) -> dict[int, tuple[Line, Line]]:
    """The cone's generators in planes, in the front view, right and left; where a plane touches the cone they are one."""
    s, b, views = planes.s, planes.s.b, planes.s.views
    apex, between = s.corners[2], (views.top_view, views.front_view)
    wanted = [(k, n, word) for n, word in enumerate(("right", "left")) for k in ends if not (n and ends[k][0] is ends[k][1])]
    feet = [
        views.projected(ends[k][n], between, views.ground, f"foot {b.nth(k)} of the {word} side") for k, n, word in wanted
    ]
    lines = {}
    for (k, n, word), foot in zip(wanted, feet, strict=True):
        lines[k, n] = b.line(apex, foot, f"generator {b.nth(k)} of the {word} side")
    return {k: (lines[k, 0], lines.get((k, 1), lines[k, 0])) for k in ends}
