"""A solid drawn by auxiliary planes: it stays as it stands, and the planes are laid to it.

The line that it rests on is the new HP seen on edge; the view beyond it is the new top view. There a fold line at the axis's
angle is the new VP, and the view beyond that the new front view; its end view is the new side view.
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import hypot
from wisecompass.catalogue.solids.body import APEX, MIDDLE
from wisecompass.catalogue.solids.lying import TILTED, Lying, lean
from wisecompass.catalogue.solids.positions import Position, Sheet
from wisecompass.drafting.auxiliary import auxiliary
from wisecompass.drafting.conventions import Projection
from wisecompass.drafting.setting import span
from wisecompass.drafting.view import View
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line
from wisecompass.geometry.space import Point3


@dataclass
class Folded:
    """The new views, and the lines that stand for the new planes: HP in the standing front view, VP in the new top view."""

    up: View
    low: View
    side: View
    hp: Line
    vp: Line


def fold(s: Sheet[Lying], one: Position) -> Folded:
    """The new top view off the standing front view, the new front view off that, and the side view off that."""
    b, names = s.b, list(one.up.images)
    first = b.conventions.projection is Projection.FIRST
    hp = _ground(s, one)
    low = auxiliary(
        s.views, one.up, hp, names, before=one.low, left=not first, why="the new HP: seen on edge in the front view"
    )
    vp = _wall(s, one, low)
    up = auxiliary(s.views, low, vp, names, before=one.up, left=first, why="the new VP: at the angle of the axis")
    way = Line(up.away[low].at, vp.dx, vp.dy, up.away[low].name)
    side = auxiliary(s.views, up, way, names, square=True, before=low, left=not first, why="the view from the left")
    return Folded(up, low, side, hp, vp)


def read(s: Sheet[Lying], one: Position, new: Folded) -> dict[str, Point3]:
    """Where everything lies to the new planes: x from the middle of the base, front as far as it stood, above the new HP."""
    size = hypot(new.vp.dx, new.vp.dy)
    k, found = new.low.images[MIDDLE], {}
    for name, image in new.low.images.items():
        dx, dy = image.x - k.x, image.y - k.y
        x, front = (dx * new.vp.dx + dy * new.vp.dy) / size, (dx * new.vp.dy - dy * new.vp.dx) / size
        above = plane.distance_to_line(one.up.images[name], new.hp)
        found[name] = Point3(x, s.views.front(one.low.images[MIDDLE]) + front, above)
    return found


def _ground(s: Sheet[Lying], one: Position) -> Line:
    """The line of the new HP in the standing front view, from what the solid rests on up to the right."""
    b, g, rest = s.b, s.g, one.up.images[s.rows[0][2][0][0]]
    if g.support in TILTED:
        return b.protract(s.views.ground, rest, 90 - g.axis_to_hp, "new HP", why="the axis then has its inclination to it")
    end = one.up.images[APEX if g.is_pointed else s.rows[1][2][0][0]]
    return b.line(rest, end, "new HP", why="the solid rests on this side of it")


def _wall(s: Sheet[Lying], one: Position, low: View) -> Line:
    """The line through the middle of the base, in the new top view, along which the new VP runs, turned to the way of the
    axis: what is nearer to the drafter lies to the right of both."""
    b, g = s.b, s.g
    k, end = low.images[MIDDLE], low.images[s.top]
    axis = b.line(k, end, "axis in the new top view")
    if g.decide(lambda h: h.axis_to_vp) == 0:
        return axis
    if g.counted == "apparent":
        why = "the apparent inclination is that of the top view"
        return b.protract(axis, k, g.axis_to_vp, "new VP through the base", why=why)
    up = one.up.images
    slope = b.protract(s.views.ground, up[MIDDLE], g.axis_to_vp, "true slope to VP", why="as if the axis were level")
    tip = b.lay_off(slope, up[MIDDLE], g.height, "end at the true slope", why="the true length of the axis")
    if g.decide(lean) == 0:
        return b.square(axis, k, "new VP through the base", why="both inclinations together are 90°")
    half = b.divide(k, end, 2, ["middle of the axis"])[0]
    thales = b.circle_through(half, k, why="all angles in it are right")
    swung = b.arc(end, span(tip, s.views.ground), why="so much farther from VP the end lies")
    return b.line(k, b.meet(thales, swung, plane.left_of(axis), "foot of the end"), "new VP through the base")
