"""A branch that opens a pipe, and the hole that it needs, laid out by parallel lines: its generators end where planes
through them meet the main pipe; the hole is as high as these ends stand and as wide as the girth between them.

Truth: both cylinders by their equations, as in ``solids/pipes-meeting``; the hole round the main pipe by arcs R · φ.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from typing import Any, cast

from wisecompass.arithmetic import PLAIN, Number, asin_deg, cos_deg, pi_times, root, roughly, sin_deg, turning_integral
from wisecompass.catalogue.developments.pattern import Net, Strip, finish, flat_names, rolled_gap, say_seam, show_net
from wisecompass.catalogue.developments.rims import greatest, least, numbered
from wisecompass.catalogue.developments.sheet import (
    CAUTIONS,
    OnNeutralLine,
    Seamed,
    lap_fits,
    neutral_line,
    seam_is_there,
    thin_enough,
)
from wisecompass.catalogue.solids.pipe_length import curve_length
from wisecompass.catalogue.solids.pipes import Pipes, highest, over, plainly
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, angle, at_least, at_most, count, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Setting, bare, reckoned, span, tree_of
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.drafting.step import Kind
from wisecompass.drafting.views import Views
from wisecompass.geometry import panels, plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3

PLAIN_COSINES = {Fraction(way): Fraction(cosine) for way, cosine in ((0, 1), (60, "1/2"), (90, 0))}
"""Those that nobody looks up."""


@dataclass(frozen=True)
class _Sizes(Givens):
    main_diameter: Number = length("diameter of the main pipe", "58")
    branch_diameter: Number = length("diameter of the branch", "38")
    angle: Number = angle("angle between the axes", "60", "15", "90")
    offset: Number = givens.offset("offset of the axes, to the front", "0", least=Fraction(0))
    branch_length: Number = length("length of the branch from the crossing of the axes", "70")
    divisions: int = count("divisions", "12", 8, 48)


@dataclass(frozen=True)
class Branch(Seamed, _Sizes):
    """A branch of sheet on a pipe of the same sheet; the diameters are inside sizes."""


class Body(OnNeutralLine):
    """Both pipes on the neutral line, in the middle of the sheet."""

    reach = "one side"
    through = False

    @property
    def main_diameter(self) -> Any:
        return self._grown("main_diameter")

    @property
    def branch_diameter(self) -> Any:
        return self._grown("branch_diameter")

    def _grown(self, name: str) -> Any:
        size = getattr(self.given, name)
        return size + self.given.thickness if self.given.has_thickness else size

    @property
    def room(self) -> Any:
        return self.main_diameter * 3 / 4

    @property
    def foot(self) -> Any:
        """How high over HP the axes cross."""
        return self.branch_diameter * 3 / 4

    @property
    def names(self) -> list[str]:
        return numbered("", self.divisions)


def _pipes(g: Body) -> Pipes:
    """The same as pipes that meet."""
    return cast("Pipes", g)


def _way(g: Body, k: int) -> Number:
    """Direction of the k-th generator on the rim, from the front up, degrees."""
    found: Number = (bare(g.offset) * 0 + 360) * k / g.divisions
    return found


def _deep(g: Body, k: int) -> Number:
    """How far in front of the main axis it runs."""
    found: Number = bare(g.offset) + bare(g.branch_diameter) * cos_deg(_way(g, k)) / 2
    return found


def _end(g: Body, k: int) -> tuple[Number, Number]:
    """Where it meets the main pipe: how far to the right, and how high over the crossing of the axes."""
    y, big = _deep(g, k), g.main_diameter / 2
    x = root(big * big - y * y)
    return x, (x * cos_deg(g.angle) + g.branch_diameter * sin_deg(_way(g, k)) / 2) / sin_deg(g.angle)


def _lengths(g: Body) -> list[Number]:
    """What is left of every generator, from its end on the main pipe to the square end of the branch."""
    found = []
    for k in range(g.divisions):
        x, z = _end(g, k)
        found.append(g.branch_length - x * sin_deg(g.angle) - z * cos_deg(g.angle))
    return found


def _deepest(g: Body) -> Number:
    """How far along its axis the branch may reach into the main pipe: no generator reaches farther."""
    found: Number = (g.main_diameter + g.branch_diameter * cos_deg(g.angle)) / (sin_deg(g.angle) * 2)
    return found


def _touches(g: Body, k: int) -> bool:
    """Whether a generator just touches the side of the main pipe."""
    return (k == 0 and over(_pipes(g)) == 0) or (k == g.divisions // 2 and _is_crossed(g))


def _is_crossed(g: Body) -> bool:
    """Whether the pipes are equal and their axes cross."""
    return g.decide(lambda h: h.main_diameter - h.branch_diameter) == 0


def _round(g: Body, k: int) -> Number:
    """How far round the main pipe, from its right side to the front, a generator ends, mm."""
    big = g.main_diameter / 2
    if _touches(g, k):
        return pi_times(big) / 2 * (1 if k == 0 else -1)
    return pi_times(big * asin_deg(_deep(g, k) / big)) / 180


def truth(given: Branch, number: Make) -> Truth:
    g = Body(given)
    zero, n, order = number(0), g.divisions, given.round_from_seam(g.divisions)
    lengths, step = _lengths(g), pi_times(g.branch_diameter) / n
    points: dict[str, Point | Point3] = {}
    for k in range(n):
        x, z = _end(g, k)
        points[f"P{k + 1}"] = Point3(x, g.room + _deep(g, k), g.foot + z)
        points[f"H{k + 1}"] = Point(_round(g, k), z)
    for k, (low, high) in enumerate(flat_names(_stations(g, order))):
        points[low], points[high] = Point(step * k, zero), Point(step * k, lengths[order[k]])
    points |= {"C": Point(zero, zero)}
    top, bottom = highest(_pipes(g))
    girth, seam = pi_times(g.branch_diameter), lengths[given.seam - 1]
    area = girth * g.branch_length - _sunk(g)
    return Truth(
        points=points,
        findings={
            "girth": girth,
            "longest": greatest(lengths),
            "shortest": least(lengths),
            "seam_length": seam,
            "generator_lengths": tuple(lengths[k] for k in order[:-1]),
            "hole_width": _round(g, 0) - _round(g, n // 2),
            "hole_length": top - bottom,
            "lateral_area": area,
            "area": area,
            "perimeter": girth + seam * 2 + curve_length(_pipes(g)),
        },
    )


def _stations(g: Body, order: Sequence[int]) -> list[tuple[str, str]]:
    return [(g.names[k], f"P{k + 1}") for k in order]


def _sunk(g: Body) -> Number:
    """Area that the branch would have from the crossing of the axes to the main pipe, mm²: r ∫ √(R² − y²) / sin θ dψ; where
    the pipes just touch by half the angle, which keeps it smooth."""
    big, r, e = g.main_diameter / 2, g.branch_diameter / 2, g.offset
    zero = big * 0
    if over(_pipes(g)) < 0:

        def deep(c: Any, s: Any, root: Callable[[Any], Any]) -> Any:
            return root(big * big - (e + r * c) * (e + r * c))

        found = turning_integral(deep, zero, zero + 360)
    elif _is_crossed(g):
        found = big * 4
    else:

        def halved(c: Any, s: Any, root: Callable[[Any], Any]) -> Any:
            return s * root(2 * r * (big + e + r * (2 * c * c - 1))) * 2

        found = turning_integral(halved, zero, zero + 180)
    area: Number = found * r / sin_deg(g.angle)
    return area


# ------------------------------------------------------------------------------------------------------------------- views
@dataclass
class _Drawn:
    views: Views
    level: Line
    axis: Line
    end_line: Line
    ends: list[Point] = field(default_factory=list)


def _views(b: Board, g: Body) -> _Drawn:
    """Main pipe and branch in both views, and the ends of the branch's generators on the main pipe."""
    tall = roughly(bare(g.room)) + roughly(bare(g.main_diameter)) * 3 + roughly(bare(g.branch_length)) * 2
    views = Views.on(b, b.number(round(tall) + 1))
    up, low, n = views.front_view, views.top_view, g.divisions
    views.set_out("O", b.number(0), g.room, g.foot)
    crossing, middle = up.images["O"], low.images["O"]
    ring = b.arc(middle, g.main_diameter / 2, name="main pipe from above", whole=True, pen=Pen.OUTLINE)
    across = b.level_line(middle, "middle of the main pipe")
    level = b.level_line(crossing, "level of the crossing")
    square = g.decide(lambda h: 90 - h.angle) == 0
    axis = level if square else b.protract(level, crossing, 90 - g.angle, "axis of the branch")
    end = b.lay_off(axis, crossing, g.branch_length, up.label("E"), why="the branch ends there")
    up.images["E"] = end
    end_line = b.square(axis, end, "end of the branch")
    ring_up = b.arc(end, g.branch_diameter / 2, name="end turned up", whole=True, why="its end, turned into the sheet")
    turned = b.divide_circle(ring_up, n, 0 if square else 90 - g.angle, numbered("d", n), why="from the front on, upwards")
    low_axis = across
    if g.decide(lambda h: h.offset):
        place = b.lay_off(views.projectors["O"], middle, g.offset, low.label("N"), back=True, why="the offset, to the front")
        low_axis = b.level_line(place, "axis of the branch from above")
    end_low = views.project("E", up, low, low_axis)
    end_ring = b.arc(end_low, g.branch_diameter / 2, name="end turned level", whole=True)
    parts = b.divide_circle(end_ring, n, 270, numbered("e", n), why="from the front on, as in the front view")
    b.caution("Number both circles alike: swapped generators turn the curve inside out.")
    _ends(b, g, views, ring, (turned, parts), axis)
    drawn = _Drawn(views, level, axis, end_line, [up.images[f"P{k + 1}"] for k in range(n)])
    b.pencil()
    sides = b.both(ring, across, ("right side", "left side"), plane.beyond(across))
    for side in sides:
        contour = b.upright_line(side, f"contour at the {side.name}")
        b.extend(contour, Point(side.x, turned[n // 4].y))
    _line_in_views(b, g, drawn, (turned[n // 4], turned[3 * n // 4]))
    return drawn


def _ends(b: Board, g: Body, views: Views, ring: Any, circles: tuple[list[Point], list[Point]], axis: Line) -> None:
    """Level planes through the generators, where they meet the main pipe from above, and up from there."""
    up, low, n = views.front_view, views.top_view, g.divisions
    turned, parts = circles
    sheets = {k: b.level_line(parts[k], f"plane {k + 1}", why="it cuts both pipes straight") for k in range(n // 2 + 1)}
    for k, sheet in sheets.items():
        name = f"P{k + 1}"
        if _touches(g, k):
            b.step_through(sheet, ring)
            low.images[name] = b.touched(ring, sheet, low.label(name))
        else:
            b.pencil()
            low.images[name] = b.meet(ring, sheet, plane.beyond(sheet), low.label(name))
        if k % (n // 2):
            twin = f"P{n - k + 1}"
            low.images[twin] = b.mark_point(low.images[name].named(low.label(twin)))
    generators: dict[int, Line] = {}
    for k in range(n):
        key = _key(g, k)
        if key not in generators:
            generators[key] = b.parallel(axis, turned[key], f"generator {key + 1}")
    for k in range(n):
        views.project(f"P{k + 1}", low, up, generators[_key(g, k)])
        views.know(f"P{k + 1}")


def _key(g: Body, k: int) -> int:
    """Of two generators that the front view shows in one line the first: they lie as high."""
    n: int = g.divisions
    return min(k, (n // 2 - k) % n)


def _line_in_views(b: Board, g: Body, d: _Drawn, corners: tuple[Point, Point]) -> None:
    up, low, n = d.views.front_view.images, d.views.top_view.images, g.divisions
    quarter = n // 4
    edges = [(up[f"P{quarter + 1}"], corners[0]), (up[f"P{3 * quarter + 1}"], corners[1]), corners]
    b.line_in(*edges, why="the branch")
    through = [up[f"P{k + 1}"] for k in range(quarter, -1, -1)] + [
        up[f"P{k + 1}"] for k in range(n - 1, 3 * quarter - 1, -1)
    ]
    b.fair_curve(_meeting(g, d), through, "curve of meeting", why="what lies in front")
    d.views.reach(*low.values())
    for k in range(n):
        b.in_space(f"P{k + 1}", f"P{(k + 1) % n + 1}")


def _meeting(g: Body, d: _Drawn) -> Callable[[], list[tuple[Parametric, Pen]]]:
    def curve() -> list[tuple[Parametric, Pen]]:
        plain = plainly(_pipes(g.bound_in(PLAIN)))
        x0, z0 = roughly(d.axis.at.x), roughly(d.axis.at.y)

        def place(t: float) -> tuple[float, float]:
            x, z = plain.spot(t, 1)
            return x0 + x, z0 + z

        def velocity(t: float) -> tuple[float, float]:
            (x1, y1), (x2, y2) = place(t - 1e-6), place(t + 1e-6)
            return (x2 - x1) / 2e-6, (y2 - y1) / 2e-6

        quarter = math.pi / 2
        return [(Parametric(place, velocity, a, c, 8), Pen.OUTLINE) for a, c in ((quarter, 0.0), (0.0, -quarter))]

    return curve


# ----------------------------------------------------------------------------------------------------------------- pattern
@method("parallel lines", Exactness.EXACT_POINTS)
def parallel_lines(b: Board, given: Branch) -> None:
    g = Body(given)
    d = _views(b, g)
    n, order = g.divisions, given.round_from_seam(g.divisions)
    stations = _stations(g, order)
    names, begun = flat_names(stations), len(b.steps)
    with b.block("pattern"):
        start = b.point(names[0][0], b.number(0), b.number(0), why="the seam begins the pattern, at the square end")
        along = b.level_line(start, "stretch-out line")
        end = b.lay_off(along, start, reckoned_pi(g.branch_diameter), names[-1][0], why="the girth, reckoned")
        feet = [start, *b.divide(start, end, n, [low for low, _ in names[1:-1]], why="as many parts as the circle has"), end]
        lines = [b.upright_line(foot, f"generator at {foot.name}") for foot in feet]
        tops = []
        for line, foot, k, (_, name) in zip(lines, feet, order, names, strict=True):
            tops.append(b.lay_off(line, foot, span(d.ends[k], d.end_line), name, why="true in the front view"))
        b.plot(*tops)
        body = _on_branch(b, g)
        _show_pipes(b, g, body)
        strip = Strip(stations, feet, tops, body, None, _rim(b, g), (0,))
        lengths = [plane.distance(p, q) for p, q in zip(feet, tops, strict=True)][:-1]
        by_number = [lengths[order.index(k)] for k in range(n)]
        say_seam(b, given, by_number, "generator")
        finish(b, given, strip)
    with b.block("hole"):
        hole = _hole(b, g, d)
    b.find("girth", plane.distance(start, end))
    b.find("longest", greatest(by_number))
    b.find("shortest", least(by_number))
    b.find("seam_length", lengths[0])
    b.find("generator_lengths", tuple(lengths))
    b.find("hole_width", hole[0].x - hole[n // 2].x)
    across = plane.distance(start, end) / pi_times(b.number(1))
    b.misread(width_from_above.name, lambda: {"hole_width": across})
    b.misread(swapped.name, lambda: {"seam_length": by_number[(given.seam - 1 + n // 4) % n]})
    b.find_if_asked("refold_gap", lambda: rolled_gap(strip, _roll(b, g, strip)))
    net = Net(panels.strip(strip.names), strip.flat, strip.on_body)
    show_net(b, net, begun, (d.views.front_view.images, d.views.top_view.images))
    upper, lower = n // 4, 3 * n // 4
    high = (hole[upper].y - hole[lower].y) - (d.ends[upper].y - d.ends[lower].y)
    b.check("the hole is as high as the branch's ends", high)
    radius = plane.distance(b.plane_point("d1"), d.views.front_view.images["E"])
    b.check("the girth is that of the branch's circle", plane.distance(start, end) - pi_times(radius) * 2)


def _hole(b: Board, g: Body, d: _Drawn) -> list[Point]:
    """The hole in the main pipe's sheet, laid flat about the level of the crossing and the generator at the right side."""
    n = g.divisions
    centre = b.point("C", b.number(0), b.number(0), why="the right side of the main pipe, at the level of the crossing")
    level = b.level_line(centre, "level of the crossing in the sheet")
    heights = [roughly(p.y) - roughly(d.level.at.y) for p in d.ends]
    marks: dict[int, Point] = {}
    for k in range(n // 2 + 1):
        away = _reckoned_round(g, k)
        back = roughly(bare(away)) < 0
        size = -away if back else away
        marks[k] = centre if _is_zero(g, k) else b.lay_off(level, centre, size, f"G{k + 1}", back=back, why="so far round")
    uprights = {k: b.upright_line(mark, f"upright {k + 1}") for k, mark in marks.items()}
    places: dict[int, Point] = {}
    for k in sorted(range(n), key=lambda k: (heights[k] < 0, k)):
        key, reach = min(k, n - k), span(d.ends[k], d.level)
        places[k] = b.lay_off(uprights[key], marks[key], reach, f"H{k + 1}", back=heights[k] < 0, why="as high as there")
    found = [places[k] for k in range(n)]
    b.plot(*found)
    b.caution("Distances round the main pipe are arcs, reckoned: their chords or their widths from above are too short.")
    b.fair_curve(_hole_curve(g), found, "hole", closed=True, why="to be cut out")
    return found


def _is_zero(g: Body, k: int) -> bool:
    return g.decide(lambda h: _deep(h, k)) == 0


def _reckoned_round(g: Body, k: int) -> Any:
    """How far round the main pipe a generator ends, reckoned: R · asin (y / R)."""
    number = _round(_bare(g), k)
    if not isinstance(g.given.main_diameter, Setting):
        return number
    main, small = tree_of(g.main_diameter), tree_of(g.branch_diameter)
    if _touches(g, k):
        return reckoned(number, ("/", ("*", "pi", main), 4 if k == 0 else -4))
    way, back = Fraction(360 * k, g.divisions), roughly(number) < 0
    acute = min(way, 180 - way)
    across: Any = ("*", small, PLAIN_COSINES.get(acute, ("cos", acute)))  # twice as far from the branch's axis
    across = ("neg", across) if (way > 90) != back else across
    deep = across
    if g.decide(lambda h: h.offset):
        deep = ("-" if back else "+", across, ("*", 2, "offset"))
    size = ("/", ("*", ("*", "pi", main), ("asin", ("/", deep, main))), 360)
    return reckoned(number, ("neg", size) if back else size)


def _bare(g: Body) -> Body:
    """The same on plain numbers of the arithmetic at hand."""
    given = g.given
    values = {name: bare(getattr(given, name)) for name in type(given).__dataclass_fields__}
    plain = type(given)(**values)
    object.__setattr__(plain, "_typed", given.__dict__["_typed"])
    return Body(plain)


def _hole_curve(g: Body) -> Callable[[], list[tuple[Parametric, Pen]]]:
    def curve() -> list[tuple[Parametric, Pen]]:
        plain = plainly(_pipes(g.bound_in(PLAIN)))

        def place(t: float) -> tuple[float, float]:
            y = plain.offset + plain.small * math.cos(t)
            _, z = plain.spot(t, 1)
            return plain.big * math.asin(max(-1.0, min(1.0, y / plain.big))), z

        def velocity(t: float) -> tuple[float, float]:
            (x1, y1), (x2, y2) = place(t - 1e-6), place(t + 1e-6)
            return (x2 - x1) / 2e-6, (y2 - y1) / 2e-6

        return [(Parametric(place, velocity, math.tau * k / 8, math.tau * (k + 1) / 8, 2), Pen.CUT) for k in range(8)]

    return curve


def _rim(b: Board, g: Body) -> Any:
    """The rim of the branch in its pattern, by the pipes' equations."""

    def fair(through: Sequence[Point], title: str, pen: Pen) -> None:
        def curve() -> list[tuple[Parametric, Pen]]:
            h = g.bound_in(PLAIN)
            plain, long = plainly(_pipes(h)), float(h.branch_length)
            first, way = math.tau * (h.seam - 1) / h.divisions, -1 if h.inside == "up" else 1

            def place(t: float) -> tuple[float, float]:
                x, z = plain.spot(first + way * t, 1)
                return plain.small * t, long - x * plain.s - z * plain.c

            def velocity(t: float) -> tuple[float, float]:
                (x1, y1), (x2, y2) = place(t - 1e-6), place(t + 1e-6)
                return (x2 - x1) / 2e-6, (y2 - y1) / 2e-6

            parts = h.divisions
            return [
                (Parametric(place, velocity, math.tau * k / parts, math.tau * (k + 1) / parts, 1), pen) for k in range(parts)
            ]

        b.fair_curve(curve, through, title, why="through the ends of the generators")

    return fair


def _on_branch(b: Board, g: Body) -> dict[str, Point3]:
    """The ends of the generators on the main pipe, as read off the views, and those at the square end."""
    found = {}
    s, c = sin_deg(bare(g.angle)), cos_deg(bare(g.angle))
    for k in range(g.divisions):
        found[f"P{k + 1}"] = p = b.solid_point(f"P{k + 1}")
        left = bare(g.branch_length) - (p.x * s + (p.above - bare(g.foot)) * c)
        found[g.names[k]] = Point3(p.x + left * s, p.front, p.above + left * c)
    return found


def _show_pipes(b: Board, g: Body, body: dict[str, Point3]) -> None:
    """Both pipes in space: the branch by its generators and its end, the main one by its ends and its outlines."""
    if not b.drawing:
        return
    spots = {name: (float(p.x), float(p.front), float(p.above)) for name, p in body.items()}
    for k, name in enumerate(g.names):
        b.in_space_along([spots[name], spots[f"P{k + 1}"]])
    b.in_space_along([spots[name] for name in (*g.names, g.names[0])])
    big, front = roughly(bare(g.main_diameter)) / 2, roughly(bare(g.room))
    heights = [above for _, _, above in spots.values()]
    low, high = min(0.0, min(heights)), max(heights)
    ways = [math.radians(10 * k) for k in range(37)]
    for level in (low, high):
        b.in_space_along([(big * math.cos(way), front + big * math.sin(way), level) for way in ways])
    for side in (-big, big):
        b.in_space_along([(side, front, low), (side, front, high)])


def _roll(b: Board, g: Body, strip: Strip) -> Callable[[int, Point], Point3]:
    """Rolled up about the branch's axis, from the seam on."""
    radius = plane.distance(strip.lows[0], strip.lows[-1]) / pi_times(b.number(2))
    s, c = sin_deg(bare(g.angle)), cos_deg(bare(g.angle))
    first = b.number(360) * (g.seam - 1) / g.divisions
    way = -1 if g.inside == "up" else 1

    def roll(_: int, p: Point) -> Point3:
        turned = first + p.x * way * 180 / pi_times(radius)
        along, high = bare(g.branch_length) - p.y, radius * sin_deg(turned)
        front = bare(g.room) + bare(g.offset) + radius * cos_deg(turned)
        return Point3(along * s - high * c, front, bare(g.foot) + along * c + high * s)

    return roll


@slip("the hole as wide as it looks from above")
def width_from_above(g: Branch, number: Make) -> dict[str, Number]:
    return {"hole_width": bare(Body(g).branch_diameter) + number(0)}


@slip("generators swapped: the front ones taken for those behind")
def swapped(g: Branch, number: Make) -> dict[str, Number]:
    lengths = _lengths(Body(g))
    return {"seam_length": lengths[(g.seam - 1 + g.divisions // 4) % g.divisions]}


PROBLEM = Problem(
    id="developments/branch",
    title="Branch and its hole laid out flat",
    brief=(
        "Lay out flat a branch {branch_diameter} across at {angle} to a pipe {main_diameter} across, its axis {offset} to "
        "the front, {branch_length} long from the crossing of the axes, by {divisions} generators; seam at generator "
        "{seam}, lap {lap}, sheet {thickness} thick, inside {inside}."
    ),
    givens=Branch,
    truth=truth,
    methods=(parallel_lines,),
    findings={
        "girth": Kind.LENGTH,
        "longest": Kind.LENGTH,
        "shortest": Kind.LENGTH,
        "seam_length": Kind.LENGTH,
        "generator_lengths": Kind.LENGTH,
        "hole_length": Kind.LENGTH,
        "hole_width": Kind.LENGTH,
        "lateral_area": Kind.AREA,
        "area": Kind.AREA,
        "perimeter": Kind.LENGTH,
        "refold_gap": Kind.LENGTH,
    },
    reckoned_only=frozenset({"hole_length", "lateral_area", "area", "perimeter"}),
    source="Sections of both pipes by planes parallel to both axes; girths unrolled.",
    conditions=(
        Condition(
            "divisions in fours",
            lambda g: g.offset * 0 - g.divisions % 4,
            "{divisions} divisions have none at the highest and the lowest generator",
            ("divisions",),
            lambda g: {"divisions": str(g.divisions + 4 - g.divisions % 4)},
        ),
        seam_is_there("generator", lambda g: g.divisions),
        thin_enough("main_diameter"),
        thin_enough("branch_diameter"),
        Condition(
            "the branch within the main pipe",
            lambda g: g.main_diameter - g.branch_diameter - 2 * g.offset,
            "a branch {branch_diameter} across, {offset} off the axis, passes beside a main pipe {main_diameter} across",
            ("offset", "branch_diameter", "main_diameter"),
            lambda g: {"offset": at_most((g.main_diameter - g.branch_diameter) / 2, 6)},
        ),
        Condition(
            "a branch that comes out of the main pipe",
            lambda g: g.branch_length - _deepest(Body(g)) * 101 / 100,
            "a branch {branch_length} long ends within the main pipe {main_diameter} across",
            ("branch_length", "main_diameter", "angle"),
            lambda g: {
                "branch_length": at_least(Fraction(roughly(_deepest(Body(g.bound_in(PLAIN))))) * 101 / 100, above=True)
            },
        ),
        lap_fits("a division of the rim", lambda g: pi_times(g.branch_diameter) / g.divisions),
        lap_fits("the shortest generator", lambda g: g.branch_length - _deepest(Body(g))),
    ),
    slips=(width_from_above, swapped),
    cautions=(*CAUTIONS, "A branch weakens the pipe that it opens: welded and pressed parts answer to local codes."),
    beforehand=neutral_line,
)
