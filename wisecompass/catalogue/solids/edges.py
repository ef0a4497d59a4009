"""Which edges of a solid a view shows: seen ones, and hidden ones unless a seen one covers them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from enum import Enum
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


def edges_seen(g: Lying, to: int) -> dict[Sight, dict[Edge, bool]]:
    """Every edge of a solid with flat faces in a position, and whether a face that each view sees meets in it."""
    n, edges = g.sides, edges_of(g)

    def facing(h: Any) -> Sequence[Number]:
        zero, how = h.height * 0, lay(h)
        down, up = Point3(zero, zero, zero - 1), Point3(zero, zero, zero + 1)
        ways = [how.turned(way, to) for way in (down, up, *side_normals(h, begin(h)))]
        return [sight.facing(way) for sight in Sight for way in ways]

    signs = g.decide_all(facing, rational=False)
    found: dict[Sight, dict[Edge, bool]] = {}
    for at, sight in enumerate(Sight):
        below, above, *sides = (sign > 0 for sign in signs[at * (n + 2) : (at + 1) * (n + 2)])
        meeting: list[bool] = []
        for k in range(n):
            meeting += [below or sides[k]] + ([] if g.is_pointed else [above or sides[k]]) + [sides[k] or sides[k - 1]]
        found[sight] = dict(zip(edges, meeting, strict=True))
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
        size = max(abs(roughly(p.x)) + abs(roughly(p.y)) for p in view.images.values())
        seen = _apart(view, [edge for edge, is_seen in edges.items() if is_seen], [], size)
        found.seen += seen
        found.hidden += _apart(view, [edge for edge, is_seen in edges.items() if not is_seen], seen, size)
    return found


def _apart(view: View, edges: Sequence[Edge], there: Sequence[Pair], size: float) -> list[Pair]:
    """The edges of a view that are more than a point and lie under none of those that are there, each once."""
    found: list[Pair] = []
    for a, c in edges:
        pair = view.images[a], view.images[c]
        if not _near(*pair, size) and not any(_covers(one, pair, size) for one in (*there, *found)):
            found.append(pair)
    return found


def _near(p: Point, q: Point, size: float) -> bool:
    return abs(roughly(p.x) - roughly(q.x)) + abs(roughly(p.y) - roughly(q.y)) < SAME * size


def _covers(one: Pair, other: Pair, size: float) -> bool:
    """Whether an edge lies within another in the view."""
    (x1, y1), (x2, y2) = ((roughly(p.x), roughly(p.y)) for p in one)
    dx, dy = x2 - x1, y2 - y1
    length = dx * dx + dy * dy
    for p in other:
        x, y = roughly(p.x) - x1, roughly(p.y) - y1
        share, away = (x * dx + y * dy) / length, abs(dx * y - dy * x)
        if away > SAME * size * length**0.5 or not -SAME < share < 1 + SAME:
            return False
    return True


def show_in_space(b: Board, edges: Sequence[Edge]) -> None:
    """Show the edges in the picture in space."""
    for a, c in edges:
        b.in_space(a, c)
