"""Two pipes that meet on the sheet: both in both views, and lining them in with what is hidden."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import partial

from wisecompass.arithmetic import Number, roughly
from wisecompass.catalogue.solids.pipes import DIVISIONS, Pipes, before, plainly
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import span
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Oval, Parametric
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass
class Sheet:
    """Both pipes on the sheet."""

    b: Board
    g: Pipes
    views: Views
    ring: Circle
    """The main pipe from above."""
    main: Line
    """Its axis in the front view, upwards."""
    axis: Line
    """That of the branch, outwards."""
    end: Point
    end_low: Point
    end_line: Line
    turned_up: list[Point]
    turned_level: list[Point]
    end_ring: Circle
    sides: tuple[Point, Point]
    """The right and the left side of the main pipe from above."""
    contours: list[Line]
    feet: list[Point]
    """Where they stand on the ground line."""
    other_line: Line | None = None
    """The other end of a branch that runs through, in the front view."""
    planes: dict[int, Line] = field(default_factory=dict)
    generators: dict[int, Line] = field(default_factory=dict)

    def plane_of(self, k: int) -> Line:
        """The plane through the branch's k-th generator, seen from above; two generators share it."""
        k = min(k, DIVISIONS - k)
        if k not in self.planes:
            start = self.turned_level[k]
            self.planes[k] = self.b.level_line(
                start, f"plane {self.b.nth(k)}", why="it cuts both pipes along straight lines"
            )
        return self.planes[k]

    @staticmethod
    def key(k: int) -> int:
        """Of two generators that the front view shows in one line the one before."""
        return k if k % 6 == 3 or math.cos(math.tau * k / DIVISIONS) > 0 else (6 - k) % DIVISIONS

    def generator(self, k: int) -> Line:
        """The k-th generator of the branch in the front view; two show in one line."""
        key = self.key(k)
        if key not in self.generators:
            start = self.turned_up[key]
            self.generators[key] = self.b.parallel(self.axis, start, f"generator {self.b.nth(key)}")
        return self.generators[key]


def set_up(b: Board, g: Pipes) -> Sheet:
    """Both pipes in both views, the end of the branch turned up beside them and divided."""
    plain = plainly(g)
    lowest, highest_place = _reach(g)
    tall = max(plain.big / 2 - lowest, plain.big)
    halves = math.ceil(tall / plain.big)
    out = (plain.big + plain.small * plain.c) / plain.s * 1.1 + plain.small / 2
    views = Views.on(b, b.number(round(halves * plain.big + highest_place + plain.big * 4.5)))
    views.set_out("M", b.number(0), g.room, b.number(0))
    main, middle = views.projectors["M"], views.top_view.images["M"]
    ring = b.arc(middle, g.main_diameter / 2, name="main pipe from above", whole=True)
    across = b.level_line(middle, "middle of the main pipe")
    b.pencil()
    names = ("right side", "left side")
    right, left = b.both(ring, across, names, plane.beyond(across))
    contours, feet = [], []
    for side, word in ((right, "right"), (left, "left")):
        contours.append(b.upright_line(side, f"contour at the {word}"))
        feet.append(b.meet(contours[-1], views.ground, name=f"foot at the {word}"))
    start = views.front_view.images["M"]
    foot = b.lay_off(main, start, g.main_diameter * halves / 2, views.front_view.label("O"), why="the axes cross there")
    upright = g.decide(lambda h: 90 - h.angle) == 0
    name = "axis of the branch"
    axis = b.level_line(foot, name) if upright else b.protract(main, foot, -g.angle, name)
    away = b.any_opening(b.number(round(out) + 1))
    end = b.lay_off(axis, foot, away, views.front_view.label("E"), why="the branch ends there")
    end_line = b.square(axis, end, "end of the branch")
    ring_up = b.arc(end, g.branch_diameter / 2, name="end turned up", whole=True, why="its end, turned into the sheet")
    up = b.divide_circle(ring_up, DIVISIONS, 0 if upright else 90 - g.angle, "d", why="from the front on")
    low_axis = across
    if g.decide(lambda h: h.offset):
        at_axis = b.lay_off(main, middle, g.offset, views.top_view.label("N"), back=True, why="the offset, to the front")
        low_axis = b.level_line(at_axis, "axis of the branch from above")
    views.front_view.images["E"] = end
    end_low = views.project("E", views.front_view, views.top_view, low_axis)
    end_ring = b.arc(end_low, g.branch_diameter / 2, name="end turned level", whole=True)
    level_parts = b.divide_circle(end_ring, DIVISIONS, 270, "e", why="from the front on, as in the front view")
    b.caution("Number both circles alike: swapped generators turn the curve inside out.")
    return Sheet(
        b, g, views, ring, main, axis, end, end_low, end_line, up, level_parts, end_ring, (right, left), contours, feet
    )


def know(s: Sheet, name: str) -> None:
    """Report a point of the curve: x from the main axis, front from VP, above the crossing of the axes."""
    up, low = s.views.front_view.images[name], s.views.top_view.images[name]
    s.b.space_point(name, low.x - s.ring.centre.x, s.views.front(low), up.y - level_of(s))


def level_of(s: Sheet) -> Number:
    """Height of the crossing of the axes on the sheet."""
    return s.axis.at.y


# ----------------------------------------------------------------------------------------------------------------- lining
def line_in(
    s: Sheet, found: Sequence[int], turns: Sequence[Point], outermost: Sequence[Point], more: Sequence[Point] = ()
) -> None:
    """Line in both pipes and their curves, through the points on the generators that were ``found`` and through ``more``."""
    b, g, up = s.b, s.g, s.views.front_view.images
    top = b.lay_off(
        s.main, s.views.front_view.images["M"], b.any_opening(_tall(s)), "top of the main pipe", why="above the curve"
    )
    lid = b.level_line(top, "top edge")
    tips = [b.meet(line, lid, name=f"top at the {word}") for line, word in zip(s.contours, ("right", "left"), strict=True)]
    corners = list(zip(s.feet, tips, strict=True))
    seen = [(corners[0][0], corners[1][0]), (corners[0][1], corners[1][1])]
    hidden: list[tuple[Point, Point]] = []
    for n, (foot, tip) in enumerate(corners):
        broken = outermost[2 * n : 2 * n + 2]
        if broken:
            seen += [(foot, broken[1]), (broken[0], tip)]
        elif n == 0 or g.through:
            crossing = [b.meet(s.contours[n], s.generator(k), name=f"crossing {k} at {foot.name}") for k in (3, 9)]
            seen += [(foot, crossing[1]), (crossing[0], tip)]
            hidden.append((crossing[1], crossing[0]))
        else:
            seen.append((foot, tip))
    seen.append((s.turned_up[3], s.turned_up[9]))
    names = {k: (b.numbered("P", k), b.numbered("Q", k)) for k in (3, 9)}
    if not before(g):
        seen += [(up[names[k][0]], s.turned_up[k]) for k in (3, 9)]
    if g.through:
        far = b.lay_off(
            s.axis, s.axis.at, span(s.axis.at, s.end), "other end of the branch", back=True, why="as long as there"
        )
        s.other_line = line = b.square(s.axis, far, "other end line")
        others: dict[int, Point] = {}
        for k in (3, 9):
            b.pencil()
            others[k] = b.meet(line, s.generator(k), name=f"corner {k} of the other end")
        seen += [(s.turned_up[k] if before(g) else up[names[k][1]], others[k]) for k in (3, 9)]
        seen.append((others[3], others[9]))
    b.line_in(*seen, why="both pipes in the front view")
    if hidden:
        b.line_in(*hidden, pen=Pen.HIDDEN, why="behind the branch")
    fair(s, found, turns, more)
    _from_above_too(s)
    b.line_in_arc(s.ring.centre, s.sides[0], s.sides[0], name="main pipe")


def _tall(s: Sheet) -> Number:
    lowest, top = _reach(s.g)
    return s.b.number(round(top - lowest + plainly(s.g).big) + 1)


def _reach(g: Pipes) -> tuple[float, float]:
    """How low and how high the curves reach, roughly."""
    plain = plainly(g)
    sides = (1, -1) if g.through else (1,)
    heights = [plain.spot(math.tau * k / 72, side)[1] for k in range(72) for side in sides]
    return min(heights), max(heights)


def fair(s: Sheet, found: Sequence[int], turns: Sequence[Point], more: Sequence[Point] = ()) -> None:
    """The curves in the front view: what lies before both axes is seen, what lies behind either is not."""
    b, g, up = s.b, s.g, s.views.front_view.images
    plain, x0, z0 = plainly(g), roughly(s.ring.centre.x), roughly(level_of(s))
    quarter = math.pi / 2
    start = math.acos(max(-1.0, min(1.0, (plain.big - plain.offset) / plain.small))) if turns else 0.0

    def part(side: int, first: float, last: float, open_end: bool) -> Parametric:
        def turn(t: float) -> float:
            if not open_end:
                return first + (last - first) * t
            return first + (last - first) * (1 - math.cos(quarter * t))

        def place(t: float) -> tuple[float, float]:
            x, z = plain.spot(turn(t), side)
            return x0 + x, z0 + z

        def velocity(t: float) -> tuple[float, float]:
            a, c = (t, t + 1e-6) if t < 0.5 else (t - 1e-6, t)
            (x1, y1), (x2, y2) = place(a), place(c)
            return (x2 - x1) / 1e-6, (y2 - y1) / 1e-6

        return Parametric(place, velocity, 0.0, 1.0, 8)

    for letter, side in zip("PQ" if g.through else "P", (1, -1), strict=False):

        def curve(side: int = side) -> list[tuple[Parametric, Pen]]:
            parts = []
            for way in (1, -1):
                if start < quarter:
                    parts.append((part(side, start * way, quarter * way, True), Pen.OUTLINE))
                if plain.offset > 0:
                    last = max(start, quarter) * way
                    parts.append((part(side, last, math.pi * way, start > quarter), Pen.HIDDEN))
            return parts

        through = [up[b.numbered(letter, k)] for k in range(DIVISIONS) if k in found]
        through += [p for p in more if (roughly(p.x) - x0) * side > 0]
        if turns:
            through = [turns[0], *through, turns[1]]
        elif plain.offset > 0:
            through.append(through[0])
        else:  # what lies behind is covered by what lies before
            through = sorted({p.name: p for p in through}.values(), key=lambda p: roughly(p.y))
        why = "what lies behind the axes dashed" if plain.offset > 0 else ""
        b.fair_curve(curve, through, f"curve {letter}", why=why)


def _from_above_too(s: Sheet) -> None:
    """The branch in the top view: its open ends, ellipses, and its two edges from there to the main pipe, or from end to end
    where it passes before that."""
    b, g, low = s.b, s.g, s.views.top_view.images
    plain = plainly(g)
    ends = [_end_points(s, s.end_line, "end", "g")] + (
        [] if s.other_line is None else [_end_points(s, s.other_line, "other end", "h")]
    )
    edges = []
    for k in (0, DIVISIONS // 2):
        inner = [low.get(b.numbered(letter, k)) for letter in "PQ"[: len(ends)]]
        edges += [(at, end[k]) for at, end in zip(inner, ends, strict=True) if at is not None]
        if inner[0] is None:
            edges.append((ends[0][k], ends[1][k]))
    upright = g.decide(lambda h: 90 - h.angle) == 0
    if upright:
        edges += [(end[0], end[DIVISIONS // 2]) for end in ends]
    b.line_in(*edges, why="the branch from above")
    for end, name in zip(ends if not upright else [], ("end from above", "other end from above"), strict=False):
        x, y = (roughly(end[3].x) + roughly(end[9].x)) / 2, roughly(s.end_low.y)
        oval = Oval(x, y, plain.small, plain.small * plain.c, 90.0)
        b.fair_curve(partial(_same, oval), end, name, closed=True)


def _same(oval: Oval) -> Oval:
    return oval


def _end_points(s: Sheet, line: Line, name: str, letter: str) -> list[Point]:
    """The points of an open end of the branch in the top view."""
    b, places = s.b, dict[int, Point]()
    keys = [s.key(k) for k in range(DIVISIONS)]
    for k in sorted(set(keys)):
        s.generator(k)
    for k in range(DIVISIONS):
        s.plane_of(k)
    for k in sorted(set(keys)):
        b.pencil()
        places[k] = b.meet(s.generator(k), line, name=f"{name} of generator {b.nth(k)}")
    between = s.views.front_view, s.views.top_view
    return [s.views.projected(places[key], between, s.plane_of(k), f"{letter}{b.nth(k)}") for k, key in enumerate(keys)]
