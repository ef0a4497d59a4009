"""Where the contours of round parts touch their rims, read off the rim drawn flat.

In a parallel picture the touch lies square to the way of sight as it is seen along the axis; in perspective, and for cones,
on the circle over the rim's middle and the place that the tangents come from (Thales): the eye as it is seen along the axis,
or the apex cast on the base along the sight.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any, TypeAlias

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.pictorial.projections import CABINET, ISOMETRIC, ONE_POINT, TWO_POINT
from wisecompass.drafting.setting import Settable, bare, negative, positive, span
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.parts import Part, plane_of
from wisecompass.geometry.plane import Circle, Line, Point

if TYPE_CHECKING:
    from wisecompass.catalogue.pictorial.crate_flats import Flats

Legs: TypeAlias = "list[tuple[Settable, int]]"
"""Lengths laid off one after the other, each forwards (1) or back."""


def learn_touches(f: Flats, part: Any, floats: Part) -> None:
    """Make the places known where contours of a round part touch its rim."""
    ring, level = f.rings[float(floats.sizes[0]) / 2]
    if floats.kind == "cone":
        source = _shadow(f, part, floats) if f.g.projection == ISOMETRIC else None
        if source is not None:
            _tangents(f, part, floats, ring, level, source)
        return
    if f.g.projection == ISOMETRIC:
        return  # at 45°, as the set squares give it
    if f.g.projection in (ONE_POINT, TWO_POINT):
        _tangents(f, part, floats, ring, level, _eye(f, part, floats))
    else:
        _square_to_the_sight(f, part, floats, ring, level)


def _know(f: Flats, part: Any, floats: Part, touch: Point, foot: Point, centre: Point) -> None:
    """A touch by its two places beside the middle, in all four directions of the rim."""
    i, j = plane_of(floats.axis)
    for axis, length in ((i, span(centre, foot)), (j, span(foot, touch))):
        for back in (False, True):
            f.know_along(axis, part.at[axis], length, back=back)


def _square_to_the_sight(f: Flats, part: Any, floats: Part, ring: Circle, level: Line) -> None:
    """Of an oblique picture: the receding axis shows by how much a depth goes to the side and up."""
    b, axes = f.b, f.sheet.axes
    assert axes is not None
    if f.slant is None:
        with b.gathered("lay off", Instrument.SCALE, "A depth on the receding axis: how far it goes aside and up"):
            opening = b.any_opening(b.number(max(1, round(f.sheet.size / 3))))
            f.slant = opening, b.lay_off(axes.lines[1], axes.base, opening, "N")
    laid, at = f.slant
    depth: Legs = [(laid, 1)] * (2 if f.g.projection == CABINET else 1)  # a halved depth is twice as deep as it is drawn
    rise: Legs = [(span(at, axes.lines[0]), 1)]
    aside: Legs = [(span(at, axes.lines[2]), 1)]
    along, up = (rise, depth) if floats.axis == 0 else (depth, aside)
    with b.gathered("lay off", Instrument.DIVIDERS, "Where contours touch: square to the sight, seen along the axis"):
        out = _laid(f, level, ring.centre, along)
        over = _laid(f, b.square(level, out, f"upright at {out.name}"), out, up)
        ray = b.line(ring.centre, over)
        touch = b.meet(ring, ray, plane.beyond(ray), f"c{f.next()}")
        foot = b.square_from(level, touch, f"f{f.next()}")
    _know(f, part, floats, touch, foot, ring.centre)


def _tangents(f: Flats, part: Any, floats: Part, ring: Circle, level: Line, source: tuple[Legs, Legs]) -> None:
    """Both tangents of the rim from a place told by how far it lies along the level and upright directions."""
    b, (across, up) = f.b, source
    with b.gathered("arc", Instrument.COMPASS, "Where contours touch: the circle over the middle and their source"):
        place = _laid(f, level, ring.centre, across)
        if up:
            upright = b.square(level, place, b.unique(f"upright at {place.name}"))
            place = _laid(f, upright, place, up)
        middle = b.divide(ring.centre, place, 2, [f"d{f.next()}"])[0]
        over = b.arc(middle, span(middle, place), name=b.unique(f"circle over {ring.centre.name}{place.name}"))
        names = f"c{f.next()}", f"c{f.next()}"
        line = b.line(ring.centre, place)
        touches = b.both(ring, over, names, plane.left_of(line))
        feet = [b.square_from(level, touch, f"f{f.next()}") for touch in touches]
    for touch, foot in zip(touches, feet, strict=True):
        _know(f, part, floats, touch, foot, ring.centre)


def _laid(f: Flats, line: Line, start: Point, legs: Legs) -> Point:
    found = start
    for length, way in legs:
        if roughly(bare(length)) != 0:
            back = (way < 0) != negative(length)
            found = f.b.lay_off(line, found, _set(f, positive(length)), f"e{f.next()}", back=back)
    return found


def _eye(f: Flats, part: Any, floats: Part) -> tuple[Legs, Legs]:
    """The eye as it is seen along the axis of a part, from the middle of its rim."""
    b, g = f.b, f.g
    from_base = [c - low if roughly(bare(low)) else c for c, low in zip(part.at, f.low, strict=True)]
    if g.projection == ONE_POINT:
        ways: list[Legs] = [[(g.eye_right, 1)], [(g.eye_distance, -1)], [(g.eye_height, 1)]]
    else:
        middle = b.points["V"]
        assert isinstance(middle, Point)
        front, side = (f.rays[name] for name in ("parallel to the front", "parallel to the side"))
        ways = [[(span(middle, side), -1)], [(span(middle, front), -1)], [(g.eye_height, 1)]]
    i, j = plane_of(floats.axis)
    return [(from_base[i], -1), *ways[i]], [(from_base[j], -1), *ways[j]]


def _shadow(f: Flats, part: Any, floats: Part) -> tuple[Legs, Legs] | None:
    """The apex of a cone cast on its base along the sight of an isometric, if it falls outside the base."""
    sight = (1, -1, 1)
    i, j = plane_of(floats.axis)
    height, radius = float(floats.length), float(floats.sizes[0]) / 2
    if height * math.sqrt(2) <= radius:
        return None
    across, up = (-sight[k] * sight[floats.axis] for k in (i, j))
    return [(part.length, across)], [(part.length, up)]


def _set(f: Flats, length: Settable) -> Settable:
    """A number of the parts as it is set; what is read off the drawing is so already."""
    return f.as_set(length) if f.g.projection == ISOMETRIC else length
