"""A standing cone and a level pipe, by horizontal sections: every level plane cuts the cone in a circle and the pipe in two
straight generators, which cross in the top view.

Truth: with the pipe's rim at ψ, counted from the front up, a generator lies at y = e + r cos ψ and z = a + r sin ψ; there
the cone's radius is ρ = R (1 − z / h), and x = ±√(ρ² − y²).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from functools import partial
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, acos_deg, asin_deg, cos_deg, hypot, larger, root, roughly, sin_deg
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_most, length, offset
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Circle, Line, Point
from wisecompass.geometry.space import Point3

DIVISIONS = 12
FIRST = (3, 9, 0, 6)
"""Generators whose points are found first: the highest and the lowest, the nearest to the drafter and the farthest."""


@dataclass(frozen=True)
class ConeAndPipe(Givens):
    base_diameter: Number = length("diameter of the cone's base", "84")
    height: Number = length("height of the cone", "77")
    pipe_diameter: Number = length("diameter of the pipe", "26")
    pipe_height: Number = length("height of the pipe's axis", "28")
    offset: Number = offset("offset of the axes, to the front", "0", least=Fraction(0))

    @property
    def room(self) -> Number:
        """How far the cone's axis is in front of VP, mm."""
        return self.base_diameter * 3 / 4 + self.offset


def place(g: ConeAndPipe, turn: Number) -> tuple[Number, Number]:
    """y and z of a generator of the pipe."""
    r = g.pipe_diameter / 2
    return g.offset + r * cos_deg(turn), g.pipe_height + r * sin_deg(turn)


def reach(g: ConeAndPipe, z: Number) -> Number:
    """The cone's radius at a height."""
    return g.base_diameter / 2 * (1 - z / g.height)


def meets(g: ConeAndPipe, k: int) -> int:
    """1 where the k-th generator goes through the cone, 0 where it touches it, -1 where it passes it."""

    def margin(h: Any) -> Number:
        y, z = place(h, (h.height * 0 + 360) * k / DIVISIONS)
        return (reach(h, z) - y) if roughly(y) > 0 else reach(h, z) + y

    return g.decide(margin)


def edge(h: ConeAndPipe) -> Number:
    """How far the pipe's rim stays within the cone's side, seen along the pipe, times something: above zero where all of it
    goes through, so that there are two curves."""
    lean = hypot(h.base_diameter / 2, h.height)
    return h.base_diameter / 2 * (h.height - h.pipe_height) - h.offset * h.height - h.pipe_diameter / 2 * lean


def is_through(g: ConeAndPipe) -> bool:
    """Whether every generator of the pipe goes through the cone."""
    return g.decide(edge) >= 0


def turns(g: ConeAndPipe) -> tuple[Number, Number]:
    """The directions on the pipe's rim between which it passes before the cone's side, degrees: there generators touch it.

    y = ρ reads e + r cos ψ = R − (R / h) (a + r sin ψ), so cos(ψ − δ) = distance of the axis from the side over r.
    """
    lean = hypot(g.base_diameter / 2, g.height)
    away = (g.base_diameter / 2 * (g.height - g.pipe_height) - g.offset * g.height) / lean
    tilt = asin_deg(g.base_diameter / 2 / lean)
    half = acos_deg(away / (g.pipe_diameter / 2))
    return tilt - half, tilt + half


def truth(g: ConeAndPipe, number: Make) -> Truth:
    points: dict[str, Point | Point3] = {}
    for k in range(DIVISIONS):
        if meets(g, k) < 0:
            continue
        y, z = place(g, number(360) * k / DIVISIONS)
        rho = reach(g, z)
        x = root(rho * rho - y * y)
        points[f"P{k}"] = Point3(x, g.room + y, z)
        points[f"Q{k}"] = Point3(-x, g.room + y, z)
    top, low = g.pipe_height + g.pipe_diameter / 2, g.pipe_height - g.pipe_diameter / 2
    if not is_through(g):
        first, last = turns(g)
        if _between(g, 90):
            top = max((place(g, turn)[1] for turn in (first, last)), key=roughly)
        if _between(g, -90):
            low = min((place(g, turn)[1] for turn in (first, last)), key=roughly)
    findings: dict[str, Value] = {
        "curves": 2 if is_through(g) else 1,
        "highest": top + 0,
        "lowest": low + 0,
        "nearest_axis": reach(g, top),
    }
    return Truth(points=points, findings=findings)


def _between(g: ConeAndPipe, turn: int) -> bool:
    """Whether the pipe's rim at an angle lies before the cone's side."""

    def margin(h: Any) -> Number:
        y, z = place(h, h.height * 0 + turn)
        return reach(h, z) - y

    return g.decide(margin) < 0


def _deepest(g: ConeAndPipe) -> Number:
    """How far inside the cone the generator runs that lies deepest."""
    found: Number | None = None
    for k in range(DIVISIONS):
        y, z = place(g, (g.height * 0 + 360) * k / DIVISIONS)
        depth = reach(g, z) - y
        found = depth if found is None else larger(found, depth)
    assert found is not None
    return found


CONDITIONS = (
    Condition(
        "the pipe above the base",
        lambda g: 2 * g.pipe_height - g.pipe_diameter,
        "a pipe {pipe_diameter} across whose axis is {pipe_height} up reaches below the base",
        ("pipe_height", "pipe_diameter"),
        lambda g: {"pipe_diameter": at_most(2 * g.pipe_height, 6)},
    ),
    Condition(
        "the pipe below the apex",
        lambda g: 2 * g.height - 2 * g.pipe_height - g.pipe_diameter,
        "a pipe {pipe_diameter} across whose axis is {pipe_height} up reaches over the apex, {height} up",
        ("pipe_height", "pipe_diameter"),
        lambda g: {"pipe_diameter": at_most(2 * (g.height - g.pipe_height) * 99 / 100, 6)},
        strict=True,
    ),
    Condition(
        "the pipe no wider than the cone",
        lambda g: (
            g.base_diameter / 2 * (g.height - g.pipe_height)
            + g.offset * g.height
            - g.pipe_diameter / 2 * hypot(g.base_diameter / 2, g.height)
        ),
        "a pipe {pipe_diameter} across takes the cone in from both sides at that height",
        ("pipe_diameter", "pipe_height"),
        lambda g: {"pipe_diameter": at_most(g.pipe_diameter / 2, 6)},
        strict=True,
    ),
    Condition(
        "pipe and cone meet",
        lambda g: _deepest(g),
        "a pipe {offset} off the axis misses the cone, or takes so little of it that none of its 12 generators meets it",
        ("offset", "pipe_height"),
        lambda g: {"offset": "0"},
        strict=True,
    ),
)


# ---------------------------------------------------------------------------------------------------------------- drawing
@dataclass
class Sheet:
    b: Board
    g: ConeAndPipe
    views: Views
    middle: Point
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


def _set_up(b: Board, g: ConeAndPipe) -> Sheet:
    h = g.bound_in(PLAIN)
    big, small = float(h.base_diameter) / 2, float(h.pipe_diameter) / 2
    views = Views.on(b, b.number(round(float(h.room) + 2 * big + float(h.height) + float(h.offset)) + 1))
    views.set_out("M", b.number(0), g.room, b.number(0))
    main, up, low = views.projectors["M"], views.front_view, views.top_view
    middle = low.images["M"]
    ring = b.arc(middle, g.base_diameter / 2, name="base", whole=True)
    across = b.level_line(middle, "middle of the cone")
    b.pencil()
    right_low, left_low = b.both(ring, across, ("right end of the base", "left end of the base"), plane.beyond(across))
    right = views.projected(right_low, (low, up), views.ground, "right foot")
    left = views.projected(left_low, (low, up), views.ground, "left foot")
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
        b, g, views, middle, side, other, across, axis, axis_low, end, end_low, up_parts, low_parts, (left, right, apex)
    )


@method("horizontal sections", Exactness.EXACT)
def horizontal_sections(b: Board, g: ConeAndPipe) -> None:
    s = _set_up(b, g)
    found = [k for k in (*FIRST, *(k for k in range(DIVISIONS) if k not in FIRST)) if meets(g, k) >= 0]
    up, low, views = s.views.front_view, s.views.top_view, s.views
    for make in (s.generator, s.circle, s.line):
        for k in found:
            make(k)
    for k in found:
        names = b.numbered("P", k), b.numbered("Q", k)
        labels = low.label(names[0]), low.label(names[1])
        if meets(g, k) == 0:
            b.step_through(s.line(k), s.circle(k))
            low.images[names[0]] = b.touched(s.circle(k), s.line(k), labels[0])
            low.images[names[1]] = b.mark_point(low.images[names[0]].named(labels[1]))
        else:
            b.pencil()
            low.images[names[0]], low.images[names[1]] = b.both(s.circle(k), s.line(k), labels, plane.beyond(s.line(k)))
    b.caution("The highest and the lowest point come first; between points that lie far apart lay another level.")
    for k in found:
        for letter in "PQ":
            name = b.numbered(letter, k)
            views.project(name, low, up, s.generator(k))
            image = low.images[name]
            b.space_point(name, image.x - s.middle.x, views.front(image), views.above(up.images[name]))
    _line_in(s, found)
    _measure(s, found)
    views.letter_fold()


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


def _line_in(s: Sheet, found: Sequence[int]) -> None:
    b, g, up, low = s.b, s.g, s.views.front_view.images, s.views.top_view.images
    left, right, _ = s.corners
    seen, hidden = [(left, right)], list[tuple[Point, Point]]()
    end = b.square(s.axis, s.end, "end of the pipe")
    far = b.lay_off(s.axis, s.axis.at, span(s.axis.at, s.end), "other end of the pipe", back=True, why="as long as there")
    other = b.square(s.axis, far, "other end line")
    others = []
    for k in (3, 9):
        line = s.generator(k)
        b.pencil()
        others.append(b.meet(line, other, name=f"corner {b.nth(k)} of the other end"))
        corner = b.meet(line, end, name=f"corner {b.nth(k)} of the end")
        if k in found:
            seen += [(up[b.numbered("P", k)], corner), (up[b.numbered("Q", k)], others[-1])]
        else:
            seen.append((others[-1], corner))
    corners = [b.plane_point(f"corner {b.nth(k)} of the end") for k in (3, 9)]
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
    ends = [b.upright_line(at, f"{word} from above") for at, word in ((s.end_low, "end"), (far_low, "other end"))]
    edges: list[tuple[Point, Point]] = []
    ends_of: list[Point] = []
    outer = {k: s.line(k) for k in (0, DIVISIONS // 2)}
    b.pencil()
    for k, line in outer.items():
        corners = [b.meet(line, end, name=f"{end.name}, {b.nth(k)}") for end in ends]
        if k in found:
            edges += [(low.images[b.numbered(letter, k)], corner) for letter, corner in zip("PQ", corners, strict=True)]
        else:
            edges.append((corners[0], corners[1]))
        ends_of += corners
    edges += [(ends_of[0], ends_of[2]), (ends_of[1], ends_of[3])]
    b.line_in(*edges, why="the pipe from above")
    right = b.plane_point("right end of the base")
    b.line_in_arc(s.middle, right, right, name="base")


def _measure(s: Sheet, found: Sequence[int]) -> None:
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
        if _between(g, 90):
            top = max(ends, key=roughly)
        if _between(g, -90):
            bottom = min(ends, key=roughly)
    b.find("curves", 2 if is_through(g) else 1)
    b.find("highest", top)
    b.find("lowest", bottom)
    b.find("nearest_axis", wide * (tall - top) / tall)
    for k in (found[0], found[-1]):
        image, from_above = up[b.numbered("P", k)], low[b.numbered("P", k)]
        y, z = s.middle.y - from_above.y, image.y - ground
        b.check(f"generator {b.nth(k)} is the pipe's radius from its axis", hypot(y - off, z - axis) - small)
        there = plane.distance(s.middle, from_above) - wide * (tall - z) / tall
        b.check(f"generator {b.nth(k)} meets the cone where it is as wide", there)


@slip("the level's circle taken with the base's radius")
def on_the_base(g: ConeAndPipe, number: Make) -> dict[str, Number]:
    return {"nearest_axis": g.base_diameter / 2}


PROBLEM = Problem(
    id="solids/cone-and-pipe",
    title="Cone and pipe",
    brief=(
        "A cone {base_diameter} across and {height} high is met by a level pipe {pipe_diameter} across, its axis "
        "{pipe_height} up and {offset} to the front. Draw the curve in which they meet."
    ),
    givens=ConeAndPipe,
    truth=truth,
    methods=(horizontal_sections,),
    findings={
        "curves": Kind.COUNT,
        "highest": Kind.LENGTH,
        "lowest": Kind.LENGTH,
        "nearest_axis": Kind.LENGTH,
    },
    source="Level sections of cone and cylinder (Monge, Géométrie descriptive).",
    conditions=CONDITIONS,
    slips=(on_the_base,),
    cautions=("A branch weakens the vessel that it opens: welded and pressed parts answer to local codes.",),
)
