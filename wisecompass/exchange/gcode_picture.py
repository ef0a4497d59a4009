"""A program for a machine as a picture, to look at before it is sent: what is drawn, and thinly how the pen travels."""

from __future__ import annotations

import math
from fractions import Fraction

from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.marks import Arc, Mark, Placement, Ready, Segment, placed
from wisecompass.drafting.pens import Pen
from wisecompass.exchange.gcode_reading import drawn, motions
from wisecompass.exchange.machine import Profile
from wisecompass.exchange.strokes import Stroke, Way
from wisecompass.folio.page import NO_LETTERING, Page
from wisecompass.folio.paper import text_width
from wisecompass.folio.written import text
from wisecompass.geometry.curves import Piece

EDGE = 10.0
"""White round the picture, mm."""


TRAVEL = "travel"
"""Name of the marks that show the pen in the air."""


def mark_of(way: Way, pen: Pen, name: str = "") -> Mark:
    """A way as a mark of a pen."""
    if way.centre is None:
        return Segment(x1=way.start[0], y1=way.start[1], x2=way.end[0], y2=way.end[1], pen=pen, name=name)
    (cx, cy), (x, y) = way.centre, way.start
    start = math.degrees(math.atan2(y - cy, x - cx))
    return Arc(cx=cx, cy=cy, radius=way.radius, start=start, sweep=way.sweep, pen=pen, name=name)


WIDEST = 30.0
"""Degrees of an arc to a Bézier piece, which is then within a ten-millionth of its radius."""


def curve_of(stroke: Stroke) -> Mark:
    """A stroke as one curve, so that it is laid down without lifting."""
    pieces: list[Piece] = []
    for way in stroke.ways:
        if way.centre is None:
            pieces.append((way.start, way.at(1 / 3), way.at(2 / 3), way.end))
            continue
        (cx, cy), count = way.centre, max(1, math.ceil(abs(way.sweep) / WIDEST))
        pull = 4 / 3 * math.tan(math.radians(way.sweep / count) / 4)
        for k in range(count):
            part = way.part(k / count, (k + 1) / count)
            (x1, y1), (x2, y2) = part.start, part.end
            pieces.append(
                (
                    (x1, y1),
                    (x1 - pull * (y1 - cy), y1 + pull * (x1 - cx)),
                    (x2 + pull * (y2 - cy), y2 - pull * (x2 - cx)),
                    (x2, y2),
                )
            )
    return Ready(kept=tuple(pieces), pen=stroke.pen)


def picture(program: str, profile: Profile, name: str = "the program") -> Page:
    """What a program would draw.

    Raises:
        NotUnderstood: it is no program. BadGiven: it draws nothing.
    """
    ways = list(motions(program, profile, name))
    marks: list[Mark] = [mark_of(each.way, Pen.PROJECTOR, TRAVEL) for each in ways if not each.down]
    marks += [curve_of(stroke) for stroke in drawn(program, profile, name)[0]]
    places = [place for motion in ways if motion.down for place in (motion.way.start, *motion.way.points(0.1))]
    if not places:
        raise BadGiven("program", f"{name} draws nothing: the pen is never down")
    left, low = min(x for x, _ in places), min(y for _, y in places)
    right, high = max(x for x, _ in places), max(y for _, y in places)
    length = sum(motion.way.length for motion in ways if motion.down)
    air = sum(motion.way.length for motion in ways if not motion.down)
    reach = f"from ({left:.1f}, {low:.1f}) to ({right:.1f}, {high:.1f}) mm"
    said = f"read back: {length:.0f} mm drawn, {air:.0f} mm in the air, {reach}"
    move = Placement(1.0, EDGE - min(left, 0.0), EDGE + 8 - min(low, 0.0))
    wide = max(right - min(left, 0.0), text_width(said, 3.0)) + 2 * EDGE
    told = text(EDGE, EDGE - 4, said, 3.0)
    page = [placed(mark, move) for mark in marks]
    return Page(wide, high - min(low, 0.0) + 2 * EDGE + 8, page, (told,), [], [], Fraction(1), {}, NO_LETTERING)
