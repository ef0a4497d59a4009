"""How a figure moves in space while it is drawn: the swing of a line, the tilt of a solid. It draws nothing; the picture in
space shows it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from wisecompass.arithmetic import roughly
from wisecompass.drafting.view import Triple
from wisecompass.geometry import panels
from wisecompass.geometry.panels import Panel
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3


@dataclass(frozen=True)
class Turn:
    """A turn about the straight line through ``about`` along a unit vector, from ``begin`` to ``end`` degrees."""

    about: Triple
    along: Triple
    begin: float
    end: float

    def placed(self, place: Triple, share: float) -> Triple:
        """A place turned as far as a share of the whole way (Rodrigues)."""
        angle = math.radians(self.begin + (self.end - self.begin) * share)
        c, s = math.cos(angle), math.sin(angle)
        x, y, z = (p - q for p, q in zip(place, self.about, strict=True))
        a, b, e = self.along
        level = (a * x + b * y + e * z) * (1 - c)
        turned = (
            x * c + (b * z - e * y) * s + a * level,
            y * c + (e * x - a * z) * s + b * level,
            z * c + (a * y - b * x) * s + e * level,
        )
        moved = tuple(p + q for p, q in zip(turned, self.about, strict=True))
        return moved[0], moved[1], moved[2]


@dataclass(frozen=True)
class Folding:
    """A pattern on its way from the flat to the body, panel by panel, in floats."""

    net: tuple[Panel, ...]
    flat: Mapping[str, Point]
    body: Mapping[str, Point3]

    @staticmethod
    def of(net: Sequence[Panel], body: Mapping[str, Point3]) -> Folding:
        """The body's own panels, laid flat as they are."""
        plain = {name: Point3(roughly(p.x), roughly(p.front), roughly(p.above)) for name, p in body.items()}
        return Folding(tuple(net), panels.unrolled(net, plain, (Point(0.0, 1.0), Point(0.0, 0.0))), plain)

    @cached_property
    def angles(self) -> list[float]:
        """How far each panel is bent in the end, radians."""
        return panels.bend_angles(self.net, self.body)

    @cached_property
    def reach(self) -> list[Triple]:
        """Places within which it stays on its way."""
        return [place for share in (0.0, 0.3, 0.6) for face in self.faces(share) for place in face]

    def faces(self, share: float) -> list[list[Triple]]:
        """The panels in space, folded so far: 0 is flat, 1 the body."""
        bent = [(math.cos(angle * share), math.sin(angle * share)) for angle in self.angles]
        places = panels.folded(self.net, self.flat, self.body, bent)
        return [[(float(p.x), float(p.front), float(p.above)) for p in each.values()] for each in places]


@dataclass(frozen=True)
class Motion:
    """What is turned, one turn after the other, in the steps from ``first`` to ``last``, to bring the figure from where it
    lies in the end to where it lies in these steps. ``words`` say what moves."""

    first: int
    last: int
    turns: tuple[Turn, ...]
    words: str
    path: tuple[Triple, ...] = ()
    """The way of a point that turns about an axis and walks along it, from its beginning to its end."""
    axis: tuple[Triple, ...] = ()
    """For each place of the path the one on the axis that it turns about."""
    folding: Folding | None = None
    """A pattern that is folded."""

    @property
    def moves(self) -> bool:
        """Whether anything moves in these steps, or only lies otherwise than in the end."""
        return bool(self.path) or self.folding is not None or any(turn.begin != turn.end for turn in self.turns)

    def walked(self, share: float) -> int:
        """How many places of the path have been passed at a share of the motion."""
        return 1 + round(share * (len(self.path) - 1)) if self.path else 0

    def placed(self, place: Triple, share: float) -> Triple:
        """Where a place of the figure is at a share of the motion, 0 to 1."""
        for turn in self.turns:
            place = turn.placed(place, share)
        return place
