"""The views of a cone and a level pipe: set up, the curve lined in, and everything measured on them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import partial

from wisecompass.arithmetic import PLAIN, hypot, root, roughly
from wisecompass.catalogue.solids.level_pipe import DIVISIONS, ConeAndPipe, is_through, lies_before, turns
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import span
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Circle, Line, Point

ON_THE_BASE = "the level's circle taken with the base's radius"
"""A mistake that is read off the views."""


@dataclass
class Sheet:
    b: Board
    g: ConeAndPipe
    views: Views
    middle: Point
    ring: Circle
    """The cone's base from above."""
    side: Line
    """The right side of the cone in the front view, from the base to the apex."""
    other_side: Line
    level_axis: Line
    axis: Line
    axis_low: Line
    end: Point
    end_low: Point
    turned_up: list[Point]
    turned_level: list[Point]
    corners: tuple[Point, Point, Point]
    within: list[Line] = field(default_factory=list)
    """Levels between which the cone's sides lie within the pipe."""
    generators: dict[int, Line] = field(default_factory=dict)
    circles: dict[int, Circle] = field(default_factory=dict)
    lines: dict[int, Line] = field(default_factory=dict)

    @staticmethod
    def key(k: int) -> int:
        """Of two generators at one height the one before."""
        return k if k % 6 == 3 or math.cos(math.tau * k / DIVISIONS) > 0 else (6 - k) % DIVISIONS

    def generator(self, k: int) -> Line:
        """The k-th generator in the front view: a level section of the cone as well."""
        k = self.key(k)
        if k not in self.generators:
            self.generators[k] = self.b.level_line(self.turned_up[k], f"level {self.b.nth(k)}")
        return self.generators[k]

    def circle(self, k: int) -> Circle:
        """The cone's circle at that level, in the top view: as wide as the level is from axis to side."""
        k = self.key(k)
        if k not in self.circles:
            b = self.b
            b.pencil()
            at = b.meet(self.generator(k), self.side, name=f"side at level {b.nth(k)}")
            radius = span(at, self.views.projectors["M"])
            self.circles[k] = b.arc(
                self.middle, radius, name=f"circle {b.nth(k)}", whole=True, why="the level section of the cone"
            )
        return self.circles[k]

    def line(self, k: int) -> Line:
        """The k-th generator in the top view; two share it."""
        k = min(k, DIVISIONS - k)
        if k not in self.lines:
            self.lines[k] = self.b.level_line(self.turned_level[k], f"generator {self.b.nth(k)} from above")
        return self.lines[k]


def set_up(b: Board, g: ConeAndPipe) -> Sheet:
    h = g.bound_in(PLAIN)
    big, small = float(h.base_diameter) / 2, float(h.pipe_diameter) / 2
    views = Views.on(b, b.number(round(float(h.room) + 2 * big + float(h.height) + float(h.offset)) + 1))
    views.set_out("M", b.number(0), g.room, b.number(0))
    main, up, low = views.projectors["M"], views.front_view, views.top_view
    middle = low.images["M"]
    ring = b.arc(middle, g.base_diameter / 2, name="base", whole=True)
    across = b.level_line(middle, "middle of the cone")
    right_low, left_low = b.both(ring, across, ("right end of the base", "left end of the base"), plane.beyond(across))
    right = views.projected(right_low, (low, up), views.ground, "foot of the right side")
    left = views.projected(left_low, (low, up), views.ground, "foot of the left side")
    apex = b.lay_off(main, up.images["M"], g.height, up.label("O"), why="the height")
    side = b.line(right, apex, "right side of the cone")
    other = b.line(left, apex, "left side of the cone")
    foot = b.lay_off(main, up.images["M"], g.pipe_height, "axis of the pipe on that of the cone")
    axis = b.level_line(foot, "axis of the pipe")
    away = b.any_opening(b.number(round(big * 1.2 + 2 * small) + 1))
    end = b.lay_off(axis, foot, away, up.label("E"), why="the pipe ends there")
    up_ring = b.arc(end, g.pipe_diameter / 2, name="end turned up", whole=True, why="its end, turned into the sheet")
    up_parts = b.divide_circle(up_ring, DIVISIONS, 0, "d", why="from the front on")
    axis_low = across
    if g.decide(lambda h: h.offset):
        at = b.lay_off(main, middle, g.offset, low.label("N"), back=True, why="the offset, to the front")
        axis_low = b.level_line(at, "axis of the pipe from above")
    up.images["E"] = end
    end_low = views.project("E", up, low, axis_low)
    low_ring = b.arc(end_low, g.pipe_diameter / 2, name="end turned level", whole=True)
    low_parts = b.divide_circle(low_ring, DIVISIONS, 270, "e", why="from the front on, as in the front view")
    b.caution("Number both circles alike: swapped generators turn the curve inside out.")
    return Sheet(
        b,
        g,
        views,
        middle,
        ring,
        side,
        other,
        across,
        axis,
        axis_low,
        end,
        end_low,
        up_parts,
        low_parts,
        (left, right, apex),
    )


def _curve(s: Sheet, side: int, above: bool) -> list[tuple[Parametric, Pen]]:
    """A curve in the front view or from above: seen where it lies on the near side of both, else hidden."""
    g = s.g.bound_in(PLAIN)
    big, tall, r = float(g.base_diameter) / 2, float(g.height), float(g.pipe_diameter) / 2
    up, off = float(g.pipe_height), float(g.offset)
    x0, y0, z0 = roughly(s.middle.x), roughly(s.middle.y), roughly(s.views.ground.at.y)

    def spot(turn: float) -> tuple[float, float]:
        y, z = off + r * math.cos(turn), up + r * math.sin(turn)
        x = side * math.sqrt(max(0.0, (big * (1 - z / tall)) ** 2 - y * y))
        return (x0 + x, y0 - y) if above else (x0 + x, z0 + z)

    first, last = 0.0, math.tau
    if not is_through(s.g):
        start, end = (math.radians(float(v)) for v in turns(g))
        first, last = end, start + math.tau
    ends = sorted({first, last, *(t for t in _edges(above) if first < t < last)})
    open_ends = not is_through(s.g)

    def part(begin: float, end: float) -> Parametric:
        def turn(t: float) -> float:
            if not open_ends:
                return begin + (end - begin) * t
            share = (1 - math.cos(math.pi * t)) / 2  # slow at the ends, where the curve turns round
            return begin + (end - begin) * share

        def velocity(t: float) -> tuple[float, float]:
            a, c = (t, t + 1e-6) if t < 0.5 else (t - 1e-6, t)
            (x1, y1), (x2, y2) = spot(turn(a)), spot(turn(c))
            return (x2 - x1) / 1e-6, (y2 - y1) / 1e-6

        return Parametric(lambda t: spot(turn(t)), velocity, 0.0, 1.0, 8)

    parts = []
    for begin, end in zip(ends, ends[1:], strict=False):
        middle = (begin + end) / 2
        near = math.sin(middle) > 0 if above else math.cos(middle) > 0 and off + r * math.cos(middle) > 0
        if near or above or off > 0:
            parts.append((part(begin, end), Pen.OUTLINE if near else Pen.HIDDEN))
    return parts


def _edges(above: bool) -> list[float]:
    """Where a curve passes from seen to hidden, in radians."""
    quarter = math.pi / 2
    return [0.0, math.pi, math.tau, 3 * math.pi] if above else [quarter, 3 * quarter, 5 * quarter]


def line_in(s: Sheet, found: Sequence[int]) -> None:
    b, g, up, low = s.b, s.g, s.views.front_view.images, s.views.top_view.images
    left, right, _ = s.corners
    seen, hidden = [(left, right)], list[tuple[Point, Point]]()
    levels = {k: s.generator(k) for k in (3, 9)}
    end = b.square(s.axis, s.end, "end of the pipe")
    corners = [b.meet(line, end, name=f"corner {b.nth(k)} of the end") for k, line in levels.items()]
    far = b.lay_off(s.axis, s.axis.at, span(s.axis.at, s.end), "other end of the pipe", back=True, why="as long as there")
    other = b.square(s.axis, far, "other end line")
    others = [b.meet(line, other, name=f"corner {b.nth(k)} of the other end") for k, line in levels.items()]
    for k, corner, at in zip(levels, corners, others, strict=True):
        if k in found:
            seen += [(up[b.numbered("P", k)], corner), (up[b.numbered("Q", k)], at)]
        else:
            seen.append((at, corner))
    seen += [(corners[0], corners[1]), (others[0], others[1])]
    for foot, contour, letter in ((right, s.side, "P"), (left, s.other_side, "Q")):
        broken, covered = _contour(s, contour, foot, letter, end)
        seen += broken
        hidden += covered
    b.line_in(*seen, why="cone and pipe in the front view")
    if hidden:
        b.line_in(*hidden, pen=Pen.HIDDEN, why="behind the pipe")
    order = sorted(found)
    for letter, side in (("P", 1), ("Q", -1)):
        for images, above, words in ((up, False, ""), (low, True, " from above")):
            through = [images[b.numbered(letter, k)] for k in order]
            if is_through(g):
                through.append(through[0])
            title, why = f"curve {letter}{words}", "what lies below dashed" if above else "what lies behind dashed"
            b.fair_curve(partial(_curve, s, side, above), through, title, why=why)
    _edges_from_above(s, found, far)


def _contour(
    s: Sheet, side: Line, foot: Point, letter: str, end: Line
) -> tuple[list[tuple[Point, Point]], list[tuple[Point, Point]]]:
    """What is seen and what is hidden of a side of the cone in the front view; within the pipe there is none."""
    b, g, apex, up = s.b, s.g, s.corners[2], s.views.front_view.images
    if g.decide(lambda h: h.offset) == 0:
        return [(foot, up[b.numbered(letter, 9)]), (up[b.numbered(letter, 3)], apex)], []
    b.pencil()
    word = "right" if letter == "P" else "left"
    lower, upper = (b.meet(s.generator(k), side, name=f"level {b.nth(k)} at the {word}") for k in (9, 3))
    seen = [(foot, lower), (upper, apex)]
    if g.decide(lambda h: 2 * h.offset - h.pipe_diameter) >= 0:
        return seen, [(lower, upper)]
    if not s.within:
        low_ring = Circle(s.end_low, plane.distance(s.end_low, s.turned_level[3]), "end turned level")
        b.pencil()
        across, _ = b.both(low_ring, s.level_axis, ("within, right", "within, left"), plane.beyond(s.level_axis))
        width = span(across, b.upright_line(s.end_low, "middle of the end"))
        for back, name in ((True, "lower"), (False, "upper")):
            at = b.lay_off(end, s.end, width, f"{name} within", back=back, why="carried from above")
            s.within.append(b.level_line(at, f"level of the {name} within"))
    b.pencil()
    inner = [b.meet(line, side, name=f"{line.name} at the {word}") for line in s.within]
    return seen, [(lower, inner[0]), (inner[1], upper)]


def _edges_from_above(s: Sheet, found: Sequence[int], far: Point) -> None:
    """The pipe and the base in the top view."""
    b, low, views = s.b, s.views.top_view, s.views
    far_low = views.projected(far, (views.front_view, low), s.axis_low, f"{far.name} from above")
    edges: list[tuple[Point, Point]] = []
    ends_of: list[Point] = []
    outer = {k: s.line(k) for k in (0, DIVISIONS // 2)}
    met: dict[int, list[Point]] = {k: [] for k in outer}
    for at, word in ((s.end_low, "end"), (far_low, "other end")):
        end = b.upright_line(at, f"{word} from above")
        for k, line in outer.items():
            met[k].append(b.meet(line, end, name=f"{end.name}, {b.nth(k)}"))
    for k, corners in met.items():
        if k in found:
            edges += [(low.images[b.numbered(letter, k)], corner) for letter, corner in zip("PQ", corners, strict=True)]
        else:
            edges.append((corners[0], corners[1]))
        ends_of += corners
    edges += [(ends_of[0], ends_of[2]), (ends_of[1], ends_of[3])]
    b.line_in(*edges, why="the pipe from above")
    right = b.plane_point("right end of the base")
    b.line_in_arc(s.middle, right, right, name="base")


def measure(s: Sheet, found: Sequence[int]) -> None:
    """Heights off the front view; where a generator touches the cone's side, off the end view along the pipe."""
    b, g, up, low = s.b, s.g, s.views.front_view.images, s.views.top_view.images
    left, right, apex = s.corners
    ground = s.views.ground.at.y
    small = plane.distance(s.end, s.turned_up[3])
    axis, tall, wide = s.end.y - ground, apex.y - ground, plane.distance(left, right) / 2
    off = s.middle.y - s.end_low.y
    top, bottom = s.turned_up[3].y - ground, s.turned_up[9].y - ground
    if not is_through(g):
        # along the pipe the cone's side is a straight line; it cuts the rim in two places
        lean = hypot(wide, tall)
        away = (wide * (tall - axis) - off * tall) / lean
        chord = root(small * small - away * away)
        ends = [axis + away * wide / lean + way * chord * tall / lean for way in (1, -1)]
        if lies_before(g, 90):
            top = max(ends, key=roughly)
        if lies_before(g, -90):
            bottom = min(ends, key=roughly)
    b.find("curves", 2 if is_through(g) else 1)
    b.find("highest", top)
    b.find("lowest", bottom)
    b.find("nearest_axis", wide * (tall - top) / tall)
    b.misread(ON_THE_BASE, lambda: {"nearest_axis": wide})
    for k in (found[0], found[-1]):
        image, from_above = up[b.numbered("P", k)], low[b.numbered("P", k)]
        y, z = s.middle.y - from_above.y, image.y - ground
        b.check(f"generator {b.nth(k)} is the pipe's radius from its axis", hypot(y - off, z - axis) - small)
        there = plane.distance(s.middle, from_above) - wide * (tall - z) / tall
        b.check(f"generator {b.nth(k)} meets the cone where it is as wide", there)
