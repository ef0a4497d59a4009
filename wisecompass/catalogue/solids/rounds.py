"""The outline of a round solid in a view: its contour generators, found by construction, and its rims.

A rim is seen as an ellipse about its middle: its half major axis is the radius, square to the axis, its half minor one lies
along the axis. Drawn narrower by the ratio of the two it is the small circle, to which tangents from the apex are drawn with
a circle over the axis; the touching points go back to the ellipse by the large circle, as in the ellipse from concentric
circles. Where the axis lies in the plane of the view, and of every cylinder, the contour generators are those at the ends of
the diameter square to the axis.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from wisecompass.arithmetic import Number, roughly
from wisecompass.catalogue.solids.body import END_MIDDLE, MIDDLE, radii
from wisecompass.catalogue.solids.edges import Sight
from wisecompass.catalogue.solids.lying import Lying, lay
from wisecompass.catalogue.solids.positions import Position, Sheet
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import Setting, bare, span
from wisecompass.drafting.view import View
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Oval, Parametric
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3

TOUCHES = {Sight.FRONT: ("V", "W"), Sight.TOP: ("I", "J"), Sight.LEFT: ("Y", "Z")}
"""Letters of the ends of contour generators on base and other end, each with 1 and 2."""


TINY = 1e-9
"""An axis shorter than this share of its height is seen as a point."""


@dataclass(frozen=True)
class Look:
    """How a round solid is seen, decided once: which ends face the eye, whether its axis is seen as a point or lies in the
    plane of the view, and whether it has contour generators. ``side`` is 1 where its whole round side is seen, -1 where none
    of it."""

    base: bool
    end: bool
    point: bool
    flat: bool
    contours: bool
    side: int


def look(g: Lying, to: int, sight: Sight) -> Look:
    """How it is seen in a position."""

    def margins(h: Any) -> Sequence[Number]:
        zero = h.height * 0
        faces = sight.facing(lay(h).turned(Point3(zero, zero, zero + 1), to))
        first, second = radii(h)
        taper = (first - second) * faces
        return faces, 1 - faces * faces, h.height * h.height * (1 - faces * faces) - taper * taper, taper

    faces, across, contour, taper = g.decide_all(margins, rational=False)
    return Look(faces < 0, faces > 0, across == 0, faces == 0, contour > 0, taper)


@dataclass
class Outline:
    """What of a round solid is lined in straight, and its touching points on base and other end."""

    lines: list[tuple[Point, Point]] = field(default_factory=list)
    touches: dict[str, list[Point]] = field(default_factory=dict)


def contours(s: Sheet[Lying], view: View, first: Position, how: Look, sight: Sight) -> Outline:
    """Find the contour generators of a view; ``first`` is the standing solid, which shows the radii."""
    b, g, found = s.b, s.g, Outline()
    if how.point or not how.contours:
        return found
    base, end = TOUCHES[sight]
    middle, top = view.images[MIDDLE], view.images[s.top]
    low = first.low.images
    radius = span(low[MIDDLE], low["A"])
    inner = None if g.is_pointed or g.is_straight else span(low[MIDDLE], low[g.end_letters[0]])
    axis = b.line(middle, top, f"axis in the {view.title} seen")
    if g.is_straight or how.flat:
        found.touches[MIDDLE] = _across(s, axis, middle, radius, _letters(view, base))
        if not g.is_pointed:
            found.touches[END_MIDDLE] = _across(s, axis, top, inner or radius, _letters(view, end))
    else:
        apex = top
        if g.is_frustum:
            with b.may_be_far():
                wide = _best(s, view, axis, 0)
                side = b.line(view.images[wide], view.images[g.end_letters[g.base_letters.index(wide)]])
                apex = b.meet(side, axis, name=f"apex in the {view.title}")
        found.touches[MIDDLE] = _touching(s, view, axis, apex, radius, _letters(view, base))
        if g.is_frustum:
            found.touches[END_MIDDLE] = [
                _carried(s, (middle, top), (apex, touch), letter)
                for touch, letter in zip(found.touches[MIDDLE], _letters(view, end), strict=True)
            ]
    ends = [top, top] if g.is_pointed else found.touches[END_MIDDLE]
    found.lines = list(zip(found.touches[MIDDLE], ends, strict=True))
    if how.flat:
        found.lines += [(pair[0], pair[1]) for pair in found.touches.values()]
    for touch in found.touches[MIDDLE]:
        _check(s, view, touch)
    return found


def _letters(view: View, letter: str) -> tuple[str, str]:
    return view.label(f"{letter}1"), view.label(f"{letter}2")


def _across(s: Sheet[Lying], axis: Line, at: Point, radius: Setting, names: tuple[str, str]) -> list[Point]:
    """The ends of the diameter square to the axis."""
    b = s.b
    square = b.square(axis, at, f"diameter at {at.name}", why="it is seen in its true length")
    swung = b.arc(at, radius, why="the radius, to both sides")
    return list(b.both(swung, square, names, plane.beyond(square)))


def _touching(s: Sheet[Lying], view: View, axis: Line, apex: Point, radius: Setting, names: tuple[str, str]) -> list[Point]:
    """Where tangents from the apex touch the rim of the base."""
    b, middle, title = s.b, view.images[MIDDLE], view.title
    large = b.arc(middle, radius, name=f"large circle of the {title}", whole=True, why="its diameter is the major axis")
    across = b.square(axis, middle, f"diameter at {middle.name}")
    at = view.images[_best(s, view, axis, 1)]
    out = b.meet(
        large, b.parallel(axis, at, f"parallel through {at.name}"), plane.nearest(at), f"{at.name} on the large circle"
    )
    way = b.line(middle, out)
    inner = b.meet(b.parallel(across, at, f"level through {at.name}"), way, name=f"{at.name} on the small circle")
    small = b.circle_through(middle, inner, name=f"small circle of the {title}", why="its diameter is the minor axis")
    with b.may_be_far():
        half = b.divide(middle, apex, 2, [f"middle in the {title}"])[0]
        thales = b.circle_through(half, middle, why="all angles in it are right")
    b.pencil()
    touched = b.both(small, thales, (f"touch 1 in the {title}", f"touch 2 in the {title}"), plane.left_of(axis))
    found = []
    for touch, name in zip(touched, names, strict=True):
        ray = b.line(middle, touch)
        wide = b.meet(large, ray, plane.beyond(ray), f"{touch.name} on the large circle")
        along = b.parallel(axis, wide, f"parallel through {wide.name}")
        found.append(b.meet(b.parallel(across, touch, f"level through {touch.name}"), along, name=name))
    return found


def _best(s: Sheet[Lying], view: View, axis: Line, along: int) -> str:
    """The point of the rim that lies farthest off the axis; with ``along`` off the diameter square to it as well."""
    middle = view.images[MIDDLE]
    dx, dy = roughly(axis.dx), roughly(axis.dy)

    def worth(letter: str) -> float:
        x, y = roughly(view.images[letter].x) - roughly(middle.x), roughly(view.images[letter].y) - roughly(middle.y)
        return abs((x * dx + y * dy) ** along * (x * dy - y * dx))

    most = max(worth(letter) for letter in s.g.base_letters)
    return next(letter for letter in s.g.base_letters if worth(letter) > most * 0.99)


def _carried(s: Sheet[Lying], middles: tuple[Point, Point], contour: tuple[Point, Point], letter: str) -> Point:
    """The end of a contour generator on the other rim: its radius there runs with the one at the base."""
    b, (base, top), (apex, touch) = s.b, middles, contour
    radius = b.line(base, touch)
    return b.meet(b.parallel(radius, top, f"parallel to {radius.name}"), Line.through(apex, touch), name=letter)


def _check(s: Sheet[Lying], view: View, touch: Point) -> None:
    """A touching point lies on the rim: along the axis it is shortened as the axis itself is not."""
    b, middle, top = s.b, view.images[MIDDLE], view.images[s.top]
    length = plane.distance(middle, top)
    ux, uy = (top.x - middle.x) / length, (top.y - middle.y) / length
    dx, dy = touch.x - middle.x, touch.y - middle.y
    along, across = dx * ux + dy * uy, dy * ux - dx * uy
    radius = radii(s.g)[0] + 0
    shortened = 1 - length * length / (s.g.height * s.g.height)
    b.check(
        f"{touch.name} lies on the rim of the base", shortened * (across * across - radius * radius) + along * along, "mm²"
    )


# ------------------------------------------------------------------------------------------------------------------- rims
def line_in_rims(s: Sheet[Lying], view: View, how: Look, found: Outline, given: bool = False) -> None:
    """Fair the rims of a view, what is seen solid and what is hidden dashed; all as a given line in an earlier position."""
    b, g = s.b, s.g
    if how.flat:
        return
    rows = [(MIDDLE, g.base_letters, how.base, -1)] + ([] if g.is_pointed else [(END_MIDDLE, g.end_letters, how.end, 1)])
    for (middle, letters, seen, outer), radius in zip(rows, radii(g), strict=False):
        through = [view.images[letter] for letter in letters]
        if how.point and g.is_straight and not seen:
            continue  # it lies under the other
        touches = found.touches.get(middle, [])
        wholly = seen or (not how.contours and how.side > 0)
        curve = _rim(s, view, middle, radius, touches, (wholly, how.contours, outer, given))
        why = "" if wholly or given else "the half behind dashed" if how.contours else "all of it behind, dashed"
        b.fair_curve(curve, [*through, *touches], f"rim about {view.images[middle].name}", closed=True, why=why)


def _rim(
    s: Sheet[Lying], view: View, middle: str, radius: Number, touches: Sequence[Point], how: tuple[bool, bool, int, bool]
) -> Any:
    """The rim as a curve to be asked for: whole, or in its outer half, which is seen, and its inner one, which is not."""

    def curve() -> Oval | list[tuple[Parametric, Pen]]:
        wholly, halved, outer, given = how
        images = view.images
        cx, cy, kx, ky = (roughly(v) for p in (images[middle], images[MIDDLE]) for v in (p.x, p.y))
        ax, ay = roughly(images[s.top].x) - kx, roughly(images[s.top].y) - ky
        length, height, rho = math.hypot(ax, ay), roughly(bare(s.g.height)), roughly(bare(radius))
        vx, vy = (ax / length, ay / length) if length > TINY * height else (0.0, 1.0)
        short = rho * math.sqrt(max(0.0, 1 - (length / height) ** 2))
        if wholly and not given:
            return Oval(cx, cy, rho, short, math.degrees(math.atan2(vx, -vy)))

        def arc(start: float, end: float) -> Parametric:
            return Parametric(
                lambda t: (
                    cx + rho * math.cos(t) * vy + short * math.sin(t) * vx,
                    cy - rho * math.cos(t) * vx + short * math.sin(t) * vy,
                ),
                lambda t: (
                    -rho * math.sin(t) * vy + short * math.cos(t) * vx,
                    rho * math.sin(t) * vx + short * math.cos(t) * vy,
                ),
                start,
                end,
                8,
            )

        if given or not (halved and touches):
            return [(arc(0.0, math.tau), Pen.GIVEN if given else Pen.HIDDEN)]
        up = ((roughly(touches[0].x) - cx) * vx + (roughly(touches[0].y) - cy) * vy) / short
        lean = math.asin(max(-1.0, min(1.0, up)))
        above, below = arc(lean, math.pi - lean), arc(math.pi - lean, math.tau + lean)
        first, second = (above, below) if outer > 0 else (below, above)
        return [(first, Pen.OUTLINE), (second, Pen.HIDDEN)]

    return curve
