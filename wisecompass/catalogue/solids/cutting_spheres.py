"""Pipes whose axes meet, by cutting spheres: a sphere about the crossing of the axes cuts either pipe in circles square to
its axis, which the front view shows as straight lines. Where two of them cross lies a point of the curve.
"""

from __future__ import annotations

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.solids.pipe_views import Sheet, know
from wisecompass.catalogue.solids.pipes import plainly
from wisecompass.drafting.setting import Settable, anything, span
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point

SPHERES = 4
"""Spheres between the smallest, which touches the main pipe, and the one through the farthest point."""


def extremes(s: Sheet) -> None:
    """The highest and the lowest point of either curve: there the contours of both pipes cross in the front view."""
    b, g, up, low = s.b, s.g, s.views.front_view, s.views.top_view
    for letter, contour, side in zip("PQ" if g.through else "P", s.contours, s.sides, strict=False):
        for k in (3, 9):
            name, line = b.numbered(letter, k), s.generator(k)
            b.pencil()
            up.images[name] = b.meet(line, contour, name=up.label(name))
            low.images[name] = b.mark_point(side.named(low.label(name)))
            know(s, name)


def by_spheres(s: Sheet) -> list[Point]:
    """The points between them; gives their front views. Each sphere's point lies before and behind the plane of the axes."""
    b, g, plain = s.b, s.g, plainly(s.g)
    crossing = s.axis.at
    found: list[Point] = []
    for n, (opening, both_levels) in enumerate(_openings(s, plain.big), 1):
        sphere = b.arc(crossing, opening, name=f"sphere {n}", whole=True, why="the sphere, seen from before")
        for side, contour in zip((1, -1) if g.through else (1,), s.contours, strict=False):
            word = "right" if side > 0 else "left"
            way = plane.beyond(s.axis) if side > 0 else plane.short_of(s.axis)
            at = b.meet(sphere, s.generator(3), way, f"sphere {n} on the branch, {word}")
            across = b.square(s.axis, at, f"circle {n} of the branch, {word}")
            levels = [(plane.upper, "upper")] * (both_levels or side > 0)
            levels += [(plane.lower, "lower")] * (both_levels or side < 0)
            for which, height in levels:
                b.pencil()
                edge = b.meet(sphere, contour, which, f"sphere {n} at the {word}, {height}")
                level = b.level_line(edge, f"{height} circle {n} of the main pipe, {word}")
                found.append(_point(s, f"{'R' if side > 0 else 'S'}{2 * n - (height == 'upper')}", level, across))
    return found


def _openings(s: Sheet, big: float) -> list[tuple[Settable, bool]]:
    """Radii of the spheres, and whether they reach to both levels: those no larger than the nearer of the two extremes."""
    b, g = s.b, s.g
    up = s.views.front_view.images
    crossing = s.axis.at
    far, near = (up[b.numbered("P", k)] for k in (3, 9))
    reach, least = roughly(plane.distance(crossing, far)), roughly(plane.distance(crossing, near))
    found: list[tuple[Settable, bool]] = []
    inner = g.main_diameter / 2
    if least - big > big / 50 and roughly(near.y) < roughly(crossing.y):
        for k in (1, 2):
            about = b.number(round((big + (least - big) * k / 3) * 1000)) / 1000
            found.append((anything(about, more_than=inner, less_than=span(crossing, near)), True))
    if reach - least > big / 50:
        for k in range(1, SPHERES - 1):
            about = b.number(round((least + (reach - least) * k / (SPHERES - 1)) * 1000)) / 1000
            found.append((anything(about, more_than=span(crossing, near), less_than=span(crossing, far)), False))
    return found


def _point(s: Sheet, name: str, level: Line, across: Line) -> Point:
    """A point of the curve in the front view and, before and behind the axes, in the top view."""
    b, up, low = s.b, s.views.front_view, s.views.top_view
    b.pencil()
    image = b.meet(level, across, name=up.label(name))
    upright = b.upright_line(image, f"projector of {image.name}")
    back, front = f"{low.label(name)} behind", low.label(name)
    _, near = b.both(s.ring, upright, (back, front), plane.beyond(upright))
    away = plane.distance_to_line(image, s.axis)
    beside = s.ring.centre.y - near.y
    small = s.g.branch_diameter / 2 + 0
    b.check(f"{name} lies on the branch", away * away + beside * beside - small * small, "mm²")
    return image
