"""The side view of a solid from the left, beside its front view."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.solids.positions import BETWEEN, Position, Sheet
from wisecompass.drafting.auxiliary import upright_fold, view_on
from wisecompass.drafting.conventions import Projection
from wisecompass.drafting.view import View
from wisecompass.geometry.plane import Line


def side_view(s: Sheet[Any], last: Position, names: Sequence[str]) -> View:
    """The view from the left: beyond a new upright fold line every point is as far as it is in front of VP."""
    b, g, views = s.b, s.g, s.views
    images = [last.up.images[name] for name in names]
    start = last.up.images[s.rows[0][2][0][0]]
    first = b.conventions.projection is Projection.FIRST
    xs, white = [roughly(p.x) for p in images], BETWEEN * roughly(g.height)
    depth = max(roughly(views.front(last.low.images[name])) for name in names)
    reach = max(xs) - roughly(start.x) if first else roughly(start.x) - min(xs) + depth
    fold = upright_fold(views, start, b.any_opening(b.number(round(reach + white) + 1)), right=first)
    number = len(views.auxiliaries) + 1
    label = lambda point: b.conventions.side_name(point, number)  # noqa: E731
    way = last.low.away[last.up]
    wall = Line(views.wall.at, way.dx, way.dy, views.wall.name)
    side = view_on(views, last.up, (last.low, wall), fold, names, "side view", label)
    b.caution("Carry distances from VP, not from the nearest corner: read them in the top view.")
    return side
