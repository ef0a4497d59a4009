"""What the views or the picture of a body show at once while a number is typed: the edges that were there, followed to where
they are now. Constructions and sizes, and what comes before what, are settled when the whole is drawn.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING, Any, TypeAlias

from wisecompass.catalogue.solids.crate_parts import away_of
from wisecompass.catalogue.solids.crate_plan import in_floats, low_of, plan_of, shown
from wisecompass.drafting.conventions import Conventions, Projection
from wisecompass.drafting.crating import Frame
from wisecompass.drafting.marks import Curve, Mark, Segment
from wisecompass.drafting.pens import Pen
from wisecompass.geometry.curves import Pair, led_through

if TYPE_CHECKING:
    from wisecompass.drafting.picturing import PictureFrame
    from wisecompass.geometry.curves_in_space import Array
    from wisecompass.geometry.following import Followed
    from wisecompass.geometry.images import Sight

Framed: TypeAlias = "Frame | PictureFrame"

FLAT = 1e-6
"""The share of its length by which a curve may bend that is seen on edge, as a straight line."""


NEAREST = 0.02
"""So near before the eye, as a share of its distance from the picture plane, nothing is shown at a glance."""


class BodyGlance:
    """The views of a body, ready to follow the numbers of its parts. ``frames`` tells the views for the givens, ``dashed``
    whether hidden edges are drawn."""

    def __init__(self, g: Any, frames: Callable[[Any], Sequence[Framed]], dashed: bool, conventions: Conventions) -> None:
        from wisecompass.geometry.following import Followed

        floats = in_floats(g.parts)
        self.frames, self.dashed = frames, dashed
        self.first = conventions.projection is Projection.FIRST
        body = plan_of(floats).body
        self.model = body.model
        self.views: list[Followed] = []
        for frame in frames(g):
            pieces = [run for run in shown(floats, frame) if run.seen or dashed]
            self.views.append(Followed(body, frame.sight, pieces))

    def marks(self, g: Any) -> list[Mark] | None:
        """What is lined in for other givens, in mm of the figure; None where it cannot be told so."""
        import numpy as np

        from wisecompass.geometry.following import again

        floats = in_floats(g.parts)
        told = again(self.model, floats)
        if told is None:
            return None
        frames = self.frames(g)
        places = [view.places(told, frame.sight) for frame, view in zip(frames, self.views, strict=True)]
        if any(not _is_before(frame.sight, each) for frame, found in zip(frames, places, strict=True) for each in found):
            return None
        there = [each for found in places for each in found if each is not None]
        if not there:
            return None
        every = np.concatenate(there)
        low = low_of(floats)
        reach = [(a - c, b - c) for a, b, c in zip(every.min(axis=0), every.max(axis=0), low, strict=True)]
        marks: list[Mark] = []
        for frame, view, found in zip(frames, self.views, places, strict=True):
            zero = frame.spot([b - c for b, c in zip(getattr(frame, "base", low), low, strict=True)])
            x, y = away_of(frame, reach, self.first) if isinstance(frame, Frame) else (0.0, 0.0)
            sight, base = frame.sight, getattr(frame, "base", low)
            shift = np.array([x + zero[0], y + zero[1]]) - sight.image(np.array(base))
            for run, each in zip(view.runs, found, strict=True):
                if each is not None:
                    marks += _piece(sight.image(each) + shift, run.closes, Pen.OUTLINE if run.seen else Pen.HIDDEN)
        return marks


def _is_before(sight: Sight, places: Array | None) -> bool:
    """Whether places lie before the eye, as all must that a picture shows."""
    from wisecompass.geometry.images import Central

    if places is None or not isinstance(sight, Central):
        return True
    return bool((-sight.nearness(places) > NEAREST * sight.away).all())


def _piece(spots: Array, closes: bool, pen: Pen) -> list[Mark]:
    """A piece of a view by places along it; nothing where it is seen as a point."""
    first, last = spots[0].tolist(), spots[-1].tolist()
    if len(spots) > 2:
        ways = spots - spots[0]
        across, up = ways[int((ways * ways).sum(axis=1).argmax())].tolist()
        size = math.hypot(across, up)
        if not size:
            return []
        if float(abs(ways[:, 1] * across - ways[:, 0] * up).max()) > FLAT * size * size:
            places: list[Pair] = [(x, y) for x, y in spots.tolist()]
            return [Curve(of=led_through(places, closed=closes), pen=pen)]
        along = ways[:, 0] * across + ways[:, 1] * up
        first, last = spots[int(along.argmin())].tolist(), spots[int(along.argmax())].tolist()
    if first == last:
        return []
    return [Segment(x1=first[0], y1=first[1], x2=last[0], y2=last[1], pen=pen)]
