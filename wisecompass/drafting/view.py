"""One view of the sheet: where the points of the figure lie in it, and what its directions are in space."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import TypeAlias

from wisecompass.arithmetic import roughly
from wisecompass.drafting.pens import Pen
from wisecompass.geometry.curves import Pair
from wisecompass.geometry.plane import Line, Point

Triple: TypeAlias = tuple[float, float, float]
"""A direction or place in space: x, front, above, as floats for pictures."""


@dataclass(frozen=True)
class Placed:
    """Where an auxiliary view was put, for somebody who drags it: ``place`` is how far its fold line is from the nearest
    point of the view beside it, negative on the other side; (dx, dy) is the direction in which that grows."""

    name: str
    fold: str
    place: float
    dx: float
    dy: float
    spots: tuple[Pair, ...]
    step: int
    along: Triple
    across: Triple
    outward: Triple
    """What the fold, the way across it and the way from the figure to it are in space."""


@dataclass(eq=False)
class View:
    """Its points by their names in space. ``away`` holds for each neighbour the direction of the fold between them, so
    turned that this view lies to its left."""

    title: str
    label: Callable[[str], str]
    right: Triple
    up: Triple
    images: dict[str, Point] = field(default_factory=dict)
    away: dict[View, Line] = field(default_factory=dict)
    before: View | None = None
    """The neighbour that distances for a further view are read in."""

    fold_ends: tuple[Pair, ...] = ()
    """Where its fold line ends, roughly."""

    def space(self, dx: float, dy: float) -> Triple:
        """What a direction on the sheet is in space."""
        x, front, above = (r * dx + u * dy for r, u in zip(self.right, self.up, strict=True))
        return x, front, above

    def spots(self) -> list[tuple[float, float]]:
        """Where its points lie, roughly."""
        return [(roughly(p.x), roughly(p.y)) for p in self.images.values()]

    def line(self, a: str, b: str) -> Line:
        """The line between two of its points, as a direction; drawing it is the board's affair."""
        return Line.through(self.images[a], self.images[b], f"{self.images[a].name}{self.images[b].name}")


@dataclass(frozen=True)
class Belonging:
    """An edge of a body of parts, or a panel of a pattern, wherever it is shown: the numbers of its parts, its images on the
    sheet, each with its block and its places there in mm, and its way in space, so that who points at one sees the others;
    a panel also while the step is told that finishes it."""

    parts: tuple[int, ...]
    images: tuple[tuple[str, tuple[Pair, ...]], ...]
    way: tuple[Triple, ...]
    step: int = 0


@dataclass(frozen=True)
class InSpace:
    """A piece of the figure for a picture in space: an edge between two named points, with its pen and step."""

    a: str
    b: str
    pen: Pen
    step: int
    way: tuple[Triple, ...] = ()
    """The places that it runs through, where it is not told by two points."""
