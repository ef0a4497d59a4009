"""Which edges of a solid a view shows: seen ones, and hidden ones unless a seen one covers them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from enum import Enum
from itertools import islice
from typing import Any, TypeAlias

from wisecompass.arithmetic import Number, roughly
from wisecompass.catalogue.solids.body import APEX, Solid, begin, side_normals
from wisecompass.catalogue.solids.lying import Lying, lay
from wisecompass.drafting.board import Board
from wisecompass.drafting.view import View
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3

Edge: TypeAlias = tuple[str, str]
Pair: TypeAlias = tuple[Point, Point]
"""The images of an edge's ends in a view."""

Spots: TypeAlias = tuple[tuple[float, float], tuple[float, float]]
"""Where these lie, roughly."""

Faced: TypeAlias = "dict[int, dict[Sight, dict[Edge, bool]]]"
"""By position and view whether a face that is seen meets in an edge."""

SAME = 1e-7
"""Places nearer than this share of the figure are one place."""


class Sight(Enum):
    """From where a view is seen: what of a direction faces the eye."""

    FRONT = "front"
    TOP = "top"
    LEFT = "left"

    @property
    def title(self) -> str:
        """What the view is called."""
        return {"front": "front view", "top": "top view", "left": "side view"}[self.value]

    def facing(self, way: Point3) -> Number:
        """Above zero where a face with this outward normal is seen."""
        return {"front": way.front, "top": way.above, "left": -way.x}[self.value]


def edges_of(g: Solid) -> list[Edge]:
    """The edges of a solid: of its base, of its other end, and from one to the other; of a round one as pictured."""
    n, base, end = g.corners, g.base_letters, g.end_letters
    found: list[Edge] = []
    for k in range(n):
        found.append((base[k], base[(k + 1) % n]))
        if not g.is_pointed:
            found.append((end[k], end[(k + 1) % n]))
        found.append((base[k], APEX if g.is_pointed else end[k]))
    return found


def edges_seen(g: Lying) -> Faced:
    """For every position of a solid with flat faces, and every view, its edges, each with whether a face that the view sees
    meets in it; of a round one nothing."""
    if g.is_round:
        return {}
    n, edges, positions = g.sides, edges_of(g), (1,) if g.stands else (1, 2, 3)

    def facing(h: Any) -> Sequence[Number]:
        zero, how = h.height * 0, lay(h)
        faces = (Point3(zero, zero, zero - 1), Point3(zero, zero, zero + 1), *side_normals(h, begin(h)))
        turned = [[how.turned(way, to) for way in faces] for to in positions]
        return [sight.facing(way) for ways in turned for sight in Sight for way in ways]

    signs = iter(g.decide_all(facing, rational=False))
    found: Faced = {}
    for to in positions:
        found[to] = {}
        for sight in Sight:
            below, above, *sides = (sign > 0 for sign in islice(signs, n + 2))
            meeting: list[bool] = []
            for k in range(n):
                meeting += [below or sides[k]] + ([] if g.is_pointed else [above or sides[k]]) + [sides[k] or sides[k - 1]]
            found[to][sight] = dict(zip(edges, meeting, strict=True))
    return found


@dataclass
class Shown:
    """Edges of views as pairs of images, each place once: a hidden one that lies under a seen one is left out (ISO 128)."""

    seen: list[Pair] = field(default_factory=list)
    hidden: list[Pair] = field(default_factory=list)


def shown(views: Sequence[tuple[View, dict[Edge, bool]]]) -> Shown:
    """What is seen and what is hidden in some views."""
    found = Shown()
    for view, edges in views:
        spots = {name: (roughly(p.x), roughly(p.y)) for name, p in view.images.items()}
        size = max(abs(x) + abs(y) for x, y in spots.values())
        there: list[_Line] = []
        for pen, wanted in ((found.seen, True), (found.hidden, False)):
            for edge, is_seen in edges.items():
                ends = spots[edge[0]], spots[edge[1]]
                if is_seen == wanted and not _near(*ends, size) and not any(one.covers(ends) for one in there):
                    there.append(_Line(ends, size))
                    pen.append((view.images[edge[0]], view.images[edge[1]]))
    return found


def _near(p: tuple[float, float], q: tuple[float, float], size: float) -> bool:
    return abs(p[0] - q[0]) + abs(p[1] - q[1]) < SAME * size


class _Line:
    """An edge of a view that others may lie under."""

    def __init__(self, ends: Spots, size: float) -> None:
        (self.x, self.y), (x, y) = ends
        self.dx, self.dy = x - self.x, y - self.y
        length = self.dx * self.dx + self.dy * self.dy
        self.limit, self.least, self.most = SAME * size * length**0.5, -SAME * length, (1 + SAME) * length

    def covers(self, ends: Spots) -> bool:
        """Whether an edge lies within it in the view."""
        for px, py in ends:
            x, y = px - self.x, py - self.y
            if abs(self.dx * y - self.dy * x) > self.limit or not self.least < x * self.dx + y * self.dy < self.most:
                return False
        return True


def show_in_space(b: Board, edges: Sequence[Edge]) -> None:
    """Show the edges in the picture in space."""
    for a, c in edges:
        b.in_space(a, c)
