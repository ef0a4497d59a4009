"""Where the contours of round parts touch their rims, read off the rim drawn flat.

In a parallel picture the touch lies square to the way of sight as it is seen along the axis; in perspective, and for cones,
on the circle over the rim's middle and the place that the tangents come from (Thales): the eye as it is seen along the axis,
or the apex cast on the base along the sight.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING, Any, TypeAlias

from wisecompass.arithmetic import cos_deg, roughly, sin_deg
from wisecompass.catalogue.pictorial.projections import CABINET, ISOMETRIC, ONE_POINT, TWO_POINT
from wisecompass.catalogue.solids.crate_plan import origin
from wisecompass.drafting.setting import Settable, bare, negative, positive, span
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.parts import Part, plane_of
from wisecompass.geometry.plane import Circle, Line, Point

if TYPE_CHECKING:
    from wisecompass.catalogue.pictorial.crate_flats import Flats, Ring

Legs: TypeAlias = "list[tuple[Settable, int]]"
"""Lengths laid off one after the other, each forwards (1) or back."""


def learn_touches(f: Flats, part: Any, floats: Part) -> None:
    """Make the places known where contours of a round part touch its rim."""
    ring = f.rings[float(floats.sizes[0]) / 2]
    if floats.kind == "cone":
        if f.g.projection in (ONE_POINT, TWO_POINT):
            _from_the_eye(f, part, floats, ring)
        elif (source := _shadow(f, part, floats)) is not None:
            _tangents(f, part, floats, ring, source)
        return
    if f.g.projection == ISOMETRIC:
        return  # at 45°, as the set squares give it
    if f.g.projection in (ONE_POINT, TWO_POINT):
        _tangents(f, part, floats, ring, _eye(f, part, floats))
    else:
        _square_to_the_sight(f, part, floats, ring)


def _know(f: Flats, part: Any, floats: Part, touch: Point, foot: Point, centre: Point) -> None:
    """A touch by its two places beside the middle, in all four directions of the rim."""
    i, j = plane_of(floats.axis)
    for axis, length in ((i, span(centre, foot)), (j, span(foot, touch))):
        for back in (False, True):
            f.know_along(axis, part.at[axis], length, back=back)


def _square_to_the_sight(f: Flats, part: Any, floats: Part, drawn: Ring) -> None:
    """Of an oblique picture: the receding axis shows by how much a depth goes to the side and up."""
    b, axes, ring, level = f.b, f.sheet.axes, drawn.circle, drawn.level
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
    what = "Where contours touch: square to the sight, seen along the axis"
    with b.block(drawn.block), b.gathered("lay off", Instrument.DIVIDERS, what):
        out = _laid(f, level, ring.centre, along)
        over = _laid(f, b.square(level, out, f"upright at {out.name}"), out, up)
        ray = b.line(ring.centre, over)
        touch = b.meet(ring, ray, plane.beyond(ray), f"c{f.next()}")
        foot = b.square_from(level, touch, f"f{f.next()}")
    _know(f, part, floats, touch, foot, ring.centre)


def _tangents(f: Flats, part: Any, floats: Part, drawn: Ring, source: tuple[Legs, Legs]) -> None:
    """Both tangents of the rim from a place told by how far it lies along the level and upright directions."""
    what = "Where contours touch: the circle over the middle and their source"
    with f.b.block(drawn.block), f.b.gathered("arc", Instrument.COMPASS, what):
        touches = _touched_from(f, drawn.circle, _laid_both(f, drawn.level, drawn.circle.centre, source))
        _know_both(f, part, floats, drawn, touches)


def _touched_from(f: Flats, ring: Circle, place: Point) -> list[Point]:
    """Where lines from a place touch a rim, on the circle over the middle and the place."""
    b = f.b
    middle = b.divide(ring.centre, place, 2, [f"d{f.next()}"])[0]
    over = b.arc(middle, span(middle, place), name=b.unique(f"circle over {ring.centre.name}{place.name}"))
    names = f"c{f.next()}", f"c{f.next()}"
    return list(b.both(ring, over, names, plane.left_of(b.line(ring.centre, place))))


def _know_both(f: Flats, part: Any, floats: Part, drawn: Ring, touches: Sequence[Point]) -> None:
    feet = [f.b.square_from(drawn.level, touch, f"f{f.next()}") for touch in touches]
    for touch, foot in zip(touches, feet, strict=True):
        _know(f, part, floats, touch, foot, drawn.circle.centre)


def _from_the_eye(f: Flats, part: Any, floats: Part, drawn: Ring) -> None:
    """Of a cone in perspective: the plane through its axis and the eye laid down beside the rim. In it the ray over the
    apex meets the base where the tangents of the rim come from; a ray level with the base leaves both touches square to
    it."""
    b, eye = f.b, _eye_from(f, part)
    i, j = plane_of(floats.axis)
    above = _sum(eye[floats.axis]) - roughly(part.length)
    away, radius = math.hypot(_sum(eye[i]), _sum(eye[j])), float(floats.sizes[0]) / 2
    if away * float(floats.length) <= radius * abs(above):
        return  # the whole cone is seen round its apex, or nothing of it but its base
    ring, level = drawn.circle, drawn.level
    with (
        b.may_be_far(),
        b.block(drawn.block),
        b.gathered("arc", Instrument.COMPASS, "Where contours touch, by the ray from the eye over the apex"),
    ):
        centre = ring.centre
        seen = _laid_both(f, level, centre, (eye[i], eye[j]))
        towards = b.line(centre, seen)
        across = b.square(towards, centre, b.unique(f"square to the sight at {centre.name}"))
        if f.g.decide(lambda h: _above(h, f.parts.index(part), floats.axis)) == 0:
            touches = [b.meet(ring, across, which(across), f"c{f.next()}") for which in (plane.beyond, plane.short_of)]
        else:
            top = b.lay_off(across, centre, part.length, f"e{f.next()}")
            upright = b.square(towards, seen, b.unique(f"square to the sight at {seen.name}"))
            over = _laid(f, upright, seen, eye[floats.axis]) if _sum(eye[floats.axis]) else seen
            ray = b.line(over, top)
            touches = _touched_from(f, ring, b.meet(ray, towards, name=f"e{f.next()}"))
        _know_both(f, part, floats, drawn, touches)


def _above(h: Any, number: int, axis: int) -> Any:
    """By how much the eye stands beyond the apex of a cone, along its axis."""
    part = h.parts[number]
    if axis == 2:
        eye = h.eye_height
    elif h.projection == ONE_POINT:
        eye = (h.eye_right, -h.eye_distance)[axis]
    else:
        eye = -h.eye_distance * (sin_deg if axis == 0 else cos_deg)(h.turned)
    return eye - (part.at[axis] - origin(h.parts, axis)) - part.length


def _sum(legs: Legs) -> float:
    return sum(roughly(bare(length)) * way for length, way in legs)


def _laid_both(f: Flats, level: Line, start: Point, legs: tuple[Legs, Legs]) -> Point:
    """A place so far along the level through a middle, and so far square to it."""
    place = _laid(f, level, start, legs[0])
    if legs[1]:
        upright = f.b.square(level, place, f.b.unique(f"upright at {place.name}"))
        place = _laid(f, upright, place, legs[1])
    return place


def _laid(f: Flats, line: Line, start: Point, legs: Legs) -> Point:
    found = start
    for length, way in legs:
        if roughly(bare(length)) != 0:
            back = (way < 0) != negative(length)
            found = f.b.lay_off(line, found, _set(f, positive(length)), f"e{f.next()}", back=back)
    return found


def _eye(f: Flats, part: Any, floats: Part) -> tuple[Legs, Legs]:
    """The eye as it is seen along the axis of a part, from the middle of its rim."""
    i, j = plane_of(floats.axis)
    ways = _eye_from(f, part)
    return ways[i], ways[j]


def _eye_from(f: Flats, part: Any) -> list[Legs]:
    """How far the eye lies from the middle of a rim, along each axis."""
    b, g = f.b, f.g
    from_base = [c - low if roughly(bare(low)) else c for c, low in zip(part.at, f.low, strict=True)]
    if g.projection == ONE_POINT:
        ways: list[Legs] = [[(g.eye_right, 1)], [(g.eye_distance, -1)], [(g.eye_height, 1)]]
    else:
        middle = b.points["V"]
        assert isinstance(middle, Point)
        front, side = (f.rays[name] for name in ("parallel to the front", "parallel to the side"))
        ways = [[(span(middle, side), -1)], [(span(middle, front), -1)], [(g.eye_height, 1)]]
    return [[(away, -1), *way] for away, way in zip(from_base, ways, strict=True)]


def _shadow(f: Flats, part: Any, floats: Part) -> tuple[Legs, Legs] | None:
    """The apex of a cone cast on its base along the sight of a parallel picture, if it falls outside the base."""
    eye, axis = f.frame.sight.eye, floats.axis
    i, j = plane_of(axis)
    height, radius = float(floats.length), float(floats.sizes[0]) / 2
    if height * math.hypot(eye[i], eye[j]) <= radius * abs(eye[axis]):
        return None
    signs = tuple(-1 if eye[k] * eye[axis] > 0 else 1 for k in (i, j))
    if f.g.projection == ISOMETRIC:
        return [(part.length, signs[0])], [(part.length, signs[1])]
    return _cast(f, part, axis, signs)


def _cast(f: Flats, part: Any, axis: int, signs: Sequence[int]) -> tuple[Legs, Legs]:
    """The same in an oblique picture, where the receding axis shows the sight: through the apex's height on the axis a
    parallel to it is cut off by the other one."""
    b, axes = f.b, f.sheet.axes
    assert axes is not None
    other = 2 - axis  # of the two that lie in the picture plane
    with b.gathered("lay off", Instrument.SCALE, "The apex cast on the base along the receding axis"):
        top = b.lay_off(axes.lines[axis], axes.base, part.length, f"e{f.next()}")
        ray = b.parallel(axes.lines[1], top, b.unique(f"sight over {top.name}"))
        foot = b.meet(ray, axes.lines[other], name=f"e{f.next()}")
    beside = span(axes.base, foot)
    deep = [span(foot, top)] * (2 if f.g.projection == CABINET else 1)  # a halved depth is twice as deep as it is drawn
    legs: dict[int, list[Any]] = {other: [beside], 1: deep}
    i, j = plane_of(axis)
    return [(each, signs[0]) for each in legs[i]], [(each, signs[1]) for each in legs[j]]


def _set(f: Flats, length: Settable) -> Settable:
    """A number of the parts as it is set; what is read off the drawing is so already."""
    return f.as_set(length) if f.g.projection == ISOMETRIC else length
