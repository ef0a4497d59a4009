"""Two pipes that meet, by sections parallel to both axes: every plane cuts each pipe in two straight generators.

The planes are level lines in the top view; where one meets the main pipe's circle and which generators of the branch it
holds is read there, and in the front view the generators of both cross.  Truth: both cylinders by their equations.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from wisecompass.arithmetic import Number, hypot, root, roughly, smaller
from wisecompass.arithmetic.certified import bisected, enclosed_root
from wisecompass.catalogue.solids.cutting_spheres import by_spheres, extremes
from wisecompass.catalogue.solids.pipe_length import curve_length
from wisecompass.catalogue.solids.pipe_views import Sheet, know, level_of, line_in, set_up
from wisecompass.catalogue.solids.pipes import CONDITIONS, DIVISIONS, Pipes, at, before, depth, highest, meets, over, plainly
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3

WORK = "A branch weakens the pipe that it opens: welded and pressed parts answer to local codes and a qualified person."

PLANES = 4000
"""Planes between which the curve's highest point is looked for."""

FIRST = (3, 9, 0, 6)
"""Generators of the branch whose points are found first: the highest and the lowest, the nearest and the farthest."""


def order() -> list[int]:
    """Generators in the order in which their points are found."""
    return [*FIRST, *(k for k in range(DIVISIONS) if k not in FIRST)]


def truth(g: Pipes, number: Make) -> Truth:
    points: dict[str, Point | Point3] = {}
    for k in range(DIVISIONS):
        if meets(g, k) >= 0:
            turn = number(360) * k / DIVISIONS
            points[f"P{k}"] = at(g, turn)
            if g.through:
                points[f"Q{k}"] = at(g, turn, -1)
    top, low = highest(g)
    findings: dict[str, Value] = {
        "curves": 2 if g.through and over(g) <= 0 else 1,
        "highest": top,
        "lowest": low,
        "hole_width": smaller(depth(g, number(0)), g.main_diameter / 2) - depth(g, number(180)),
        "curve_length": curve_length(g),
        "plane_curve": _is_plane(g),
    }
    return Truth(points=points, findings=findings)


def _is_plane(g: Pipes) -> bool:
    return g.decide(lambda h: h.main_diameter - h.branch_diameter) == 0 and g.decide(lambda h: h.offset) == 0


@method("sections parallel to both axes", Exactness.EXACT)
def sections_parallel_to_both_axes(b: Board, g: Pipes) -> None:
    s = set_up(b, g)
    low, up, views = s.views.top_view, s.views.front_view, s.views
    found = [k for k in order() if meets(g, k) >= 0]
    halves = [k for k in found if k <= DIVISIONS // 2]
    for k in halves:
        s.plane_of(k)
    for k in sorted(halves, key=lambda k: k % (DIVISIONS // 2) == 0):
        _from_above(s, k)
    b.caution("The highest and the lowest point come first; between points that lie far apart lay another plane.")
    for k in found:
        s.generator(k)
    for k in found:
        for letter in "PQ" if g.through else "P":
            views.project(b.numbered(letter, k), low, up, s.generator(k))
    turns = _turns(s) if over(g) > 0 else []
    outermost = _outermost(s)
    for k in found:
        for letter in "PQ" if g.through else "P":
            know(s, b.numbered(letter, k))
    for letter in "PQ" if g.through else "P":
        for k in found:
            if (k + 1) % DIVISIONS in found:
                b.in_space(b.numbered(letter, k), b.numbered(letter, (k + 1) % DIVISIONS))
    line_in(s, found, turns, outermost)
    _measure(s, found, turns)
    views.letter_fold()


def _from_above(s: Sheet, k: int) -> None:
    """Where the plane through a generator meets the main pipe: the top view of the points on both generators in it."""
    b, g, view = s.b, s.g, s.views.top_view
    sheet, twin = s.plane_of(k), DIVISIONS - k
    names = [b.numbered(letter, k) for letter in ("PQ" if g.through else "P")]
    if meets(g, k) == 0:
        b.step_through(sheet, s.ring)
        touch = b.touched(s.ring, sheet, view.label(names[0]))
        for name in names:
            view.images[name] = touch if name == names[0] else b.mark_point(touch.named(view.label(name)))
    else:
        b.pencil()
        if g.through:
            labels = view.label(names[0]), view.label(names[1])
            view.images[names[0]], view.images[names[1]] = b.both(s.ring, sheet, labels, plane.beyond(sheet))
        else:
            view.images[names[0]] = b.meet(s.ring, sheet, plane.beyond(sheet), view.label(names[0]))
    if k % (DIVISIONS // 2):
        for letter, name in zip("PQ", names, strict=False):
            other = b.numbered(letter, twin)
            view.images[other] = b.mark_point(view.images[name].named(view.label(other)))


def _carried(s: Sheet, sheet: Line, name: str, onto: Sequence[tuple[Line, str]]) -> list[list[Point]]:
    """Where the two generators of the branch that lie in a plane seen from above meet lines of the front view: they are as
    far from the axis as the branch's circle shows."""
    b = s.b
    b.pencil()
    right, _ = b.both(s.end_ring, sheet, (f"{name}, right", f"{name}, left"), plane.beyond(sheet))
    width = span(right, b.upright_line(s.end_low, f"middle for the {name}"))
    found = []
    for side, back in (("upper", False), ("lower", True)):
        place = b.lay_off(s.end_line, s.end, width, f"{side} {name}", back=back, why="carried from above")
        line = b.parallel(s.axis, place, f"generator of the {side} {name}")
        found.append([b.meet(line, other, name=f"{side} end {word}") for other, word in onto])
    return found


def _outermost(s: Sheet) -> list[Point]:
    """Where the branch meets the main pipe's sides: the ends of what is left of its contours, right and then left."""
    b, g = s.b, s.g
    if g.decide(lambda h: 2 * h.offset - h.branch_diameter) >= 0:
        return []
    sides = s.contours if g.through else s.contours[:1]
    if g.decide(lambda h: h.offset) == 0:
        return [s.views.front_view.images[b.numbered(letter, k)] for letter in "PQ"[: len(sides)] for k in (3, 9)]
    across = Line(s.ring.centre, s.axis.dx * 0 + 1, s.axis.dx * 0, "middle of the main pipe")
    met = _carried(s, across, "outermost", list(zip(sides, ("at the right", "at the left"), strict=False)))
    return [met[n][k] for k in range(len(sides)) for n in (0, 1)]


def _turns(s: Sheet) -> list[Point]:
    """Where the curve passes the front of the main pipe, from its right to its left."""
    b = s.b
    b.pencil()
    front = b.meet(s.ring, s.main, plane.short_of(s.main), "front of the main pipe")
    sheet = b.level_line(front, "plane at the front", why="it touches the main pipe")
    return [points[0] for points in _carried(s, sheet, "turn", [(s.main, "of the curve")])]


@method(
    "cutting spheres",
    Exactness.EXACT,
    Condition(
        "axes that meet",
        lambda g: -g.offset,
        "the axes pass each other at {offset}: no sphere cuts both pipes in circles",
        ("offset",),
        lambda g: {"offset": "0"},
    ),
)
def cutting_spheres(b: Board, g: Pipes) -> None:
    s = set_up(b, g)
    extremes(s)
    b.caution("A sphere smaller than the main pipe does not cut it; one larger than the farthest point cuts no curve.")
    between = by_spheres(s)
    for k in (0, DIVISIONS // 2):
        s.plane_of(k)
        _from_above(s, k)
    line_in(s, [3, 9], [], _outermost(s), between)
    _measure(s, [3, 9], [])
    s.views.letter_fold()


# -------------------------------------------------------------------------------------------------------------- measuring
def _measure(s: Sheet, found: Sequence[int], turns: Sequence[Point]) -> None:
    b, g, low, up = s.b, s.g, s.views.top_view.images, s.views.front_view.images
    big, small = plane.distance(s.ring.centre, s.sides[0]), plane.distance(s.end_low, s.turned_level[3])
    off = s.ring.centre.y - s.end_low.y
    slope = hypot(s.axis.dx, s.axis.dy)
    sine, cosine = s.axis.dx / slope, s.axis.dy / slope  # of the angle between the axes
    b.find("curves", 2 if g.through and over(g) <= 0 else 1)
    b.find("plane_curve", _is_plane(g))
    nearest = s.ring.centre.y - s.turned_level[0].y if over(g) <= 0 else big
    b.find("hole_width", nearest - (s.ring.centre.y - s.turned_level[6].y))
    square = g.decide(lambda h: 90 - h.angle) == 0
    if square and before(g):
        top = plane.distance(*turns) / 2
        bottom = -top
    elif square or g.decide(lambda h: h.offset) == 0:
        top, bottom = (up[b.numbered("P", k)].y - level_of(s) for k in (3, 9))
    else:
        ways = (1, -1)
        if g.through:
            ways = (max(ways, key=lambda way: _steepest(g, way)[0]),) * 2
        top, bottom = (_level_place(g, big, small, off, sine, cosine, way) for way in ways)
    if g.through:
        top = max((top, -bottom), key=roughly)
        bottom = -top
    b.find("highest", top)
    b.find("lowest", bottom)
    ahead = b.numbered("P", 0)
    if ahead in up:
        b.misread(wrong_extremes.name, lambda: {"highest": up[ahead].y - level_of(s)})
    for k in (found[0], found[-1]):
        image = up[b.numbered("P", k)]
        away = plane.distance_to_line(image, s.axis)
        beside = s.ring.centre.y - low[b.numbered("P", k)].y - off
        b.check(f"generator {b.nth(k)} is the branch's radius from its axis", root(away * away + beside * beside) - small)
        from_above = low[b.numbered("P", k)]
        b.check(f"both views of the point on generator {b.nth(k)} stand on one projector", image.x - from_above.x)


def _level_place(g: Pipes, big: Number, small: Number, off: Number, sine: Number, cosine: Number, way: int) -> Number:
    """Height where the curve runs level: there (R² − y²)(y − e)² = y² (r² − (y − e)²) cos² θ."""
    plain = plainly(g)
    most, best, apart = _steepest(g, way)
    if over(g) == 0 and most <= 0:
        return big * 0

    def falling(y: float) -> float:
        w = math.sqrt(max(1e-300, plain.small**2 - (y - plain.offset) ** 2))
        return way * plain.c * y / math.sqrt(plain.big**2 - y * y) + (y - plain.offset) / w

    near: Any = bisected(falling, best - apart, best + apart)
    c2 = cosine * cosine

    def quartic(y: Number) -> Number:
        d = y - off
        return (big * big - y * y) * d * d - y * y * (small * small - d * d) * c2

    def steep(y: Number) -> Number:
        d = y - off
        return -2 * y * d * d + 2 * d * (big * big - y * y) - c2 * (2 * y * (small * small - d * d) - 2 * y * y * d)

    y = near if _plainly(big) else enclosed_root(near, quartic, steep)
    return (root(big * big - y * y) * cosine + way * root(small * small - (y - off) * (y - off))) / sine


def _steepest(g: Pipes, way: int) -> tuple[float, float, float]:
    """Where planes find the greatest height to the right, or the greatest depth: it times the sine of the angle, how far to
    the front, and how far apart the planes are."""
    import numpy as np

    plain = plainly(g)
    low, high = plain.offset - plain.small, min(plain.big, plain.offset + plain.small)
    apart = (high - low) / PLANES
    y = low + apart * np.arange(1, PLANES)
    w = np.sqrt(np.maximum(0.0, plain.small**2 - (y - plain.offset) ** 2))
    height = way * np.sqrt(np.maximum(0.0, plain.big**2 - y * y)) * plain.c + w
    best = int(np.argmax(height))
    return float(height[best]), float(y[best]), apart


def _plainly(value: Any) -> bool:
    return not type(value).__module__.startswith("flint")


@slip("the curve's extremes taken on the generators before and behind")
def wrong_extremes(g: Pipes, number: Make) -> dict[str, Number]:
    return {"highest": at(g, number(0)).above}


PROBLEM = Problem(
    id="solids/pipes-meeting",
    title="Pipes that meet",
    brief=(
        "An upright pipe {main_diameter} across is met by a branch {branch_diameter} across at {angle} to it, its axis "
        "{offset} to the front. Reach of the branch: {reach}. Draw the curve in which they meet."
    ),
    givens=Pipes,
    truth=truth,
    methods=(sections_parallel_to_both_axes, cutting_spheres),
    findings={
        "curves": Kind.COUNT,
        "highest": Kind.LENGTH,
        "lowest": Kind.LENGTH,
        "hole_width": Kind.LENGTH,
        "curve_length": Kind.LENGTH,
        "plane_curve": Kind.CHOICE,
    },
    source="Sections of cylinders by planes parallel to both axes (Monge, Géométrie descriptive).",
    conditions=CONDITIONS,
    reckoned_only=frozenset({"curve_length"}),
    slips=(wrong_extremes,),
    cautions=(WORK,),
)
