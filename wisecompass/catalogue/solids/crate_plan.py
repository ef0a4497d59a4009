"""What a body of parts shows, settled once in floats: its corners with their numbers, and what each view shows seen and
hidden."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING, Any

from wisecompass.arithmetic import roughly
from wisecompass.drafting.crating import BOTTOM, FRONT, LEFT, REAR, RIGHT, TOP, Frame
from wisecompass.drafting.wanted import heed
from wisecompass.geometry.parts import Part, bounds

if TYPE_CHECKING:
    from wisecompass.geometry.edges import Body
    from wisecompass.geometry.model import Model
    from wisecompass.geometry.sight import Run

THREE, SIX = (FRONT, TOP, LEFT), (FRONT, TOP, LEFT, RIGHT, BOTTOM, REAR)


@dataclass(frozen=True)
class Plan:
    """A body, the low corner of its parts, how far it reaches along each axis, and its corners by their names."""

    body: Body
    low: tuple[float, float, float]
    reach: tuple[tuple[float, float], tuple[float, float], tuple[float, float]]
    named: dict[str, int]

    def place(self, corner: int) -> tuple[float, float, float]:
        """A corner from the low corner."""
        x, y, z = (float(c) - low for c, low in zip(self.body.corners[corner], self.low, strict=True))
        return x, y, z


def in_floats(parts: Sequence[Any]) -> tuple[Part, ...]:
    """Parts with their numbers as floats."""
    found = []
    for part in parts:
        x, y, z = (roughly(c) for c in part.at)
        found.append(Part(part.kind, tuple(roughly(s) for s in part.sizes), (x, y, z), part.way, part.taken, part.sides))
    return tuple(found)


@lru_cache(maxsize=16)
def plan_of(parts: tuple[Part, ...]) -> Plan:
    """The plan of a body; remembered, for truth, conditions and methods ask for it."""
    from wisecompass.geometry.edges import body_of

    body = body_of(parts)
    reach = [_reach(body, axis) for axis in range(3)]
    sharp = {end for edge in body.edges if not edge.smooth for end in edge.ends if end >= 0}
    sharp = {k for k in sharp if len(body.corner_surfaces[k]) > 2}  # elsewhere a curve only turns back
    sharp = {k for k in sharp if is_met_by_lines(body, k)}
    grain = max(body.model.size * 1e-6, 1e-9)
    order = sorted(sharp, key=lambda k: tuple(round(float(body.corners[k][axis]) / grain) for axis in (2, 1, 0)))
    return Plan(
        body,
        low_of(parts),
        (reach[0], reach[1], reach[2]),
        {str(n): k for n, k in enumerate(order, 1)},
    )


def is_met_by_lines(body: Body, corner: int) -> bool:
    """Whether straight lines and circles lead to a corner: not where curves of several round surfaces cross that no plane
    through the place cuts in a line or both in circles. Such a corner is where a plotted curve ends."""
    from wisecompass.geometry.meeting import halving
    from wisecompass.geometry.surfaces import Flat, Pipe

    surfaces = [body.model.surfaces[k] for k in body.corner_surfaces[corner]]
    flats = [on for on in surfaces if isinstance(on, Flat)]
    rounds = [on for on in surfaces if not isinstance(on, Flat)]
    if len(rounds) < 2 or len(flats) > 1:
        return True
    if not flats:
        return all(isinstance(on, Pipe) for on in rounds)
    flat = flats[0]
    normal = [float(c) for c in flat.normal]
    size = math.hypot(*normal)
    for on in rounds:
        if isinstance(on, Pipe):
            if abs(normal[on.axis]) < STRAIGHT * size:
                return True
        elif abs(sum(n * float(c) for n, c in zip(normal, on.centre, strict=True)) - float(flat.offset)) < STRAIGHT * size:
            return True
    if len({on.axis for on in rounds}) == 1 and abs(normal[rounds[0].axis]) > (1 - STRAIGHT) * size:
        return True
    pipes = [on for on in rounds if isinstance(on, Pipe)]
    return len(pipes) == 2 == len(rounds) and pipes[0].axis != pipes[1].axis and bool(halving(*pipes))


STRAIGHT = 1e-9
"""A plane runs along a pipe, or through the apex of a cone, where it misses it by less."""


def _reach(body: Body, axis: int) -> tuple[float, float]:
    """How far a body reaches along an axis: to a corner, to the apex of a cone, or to where a curved edge turns back."""
    import numpy as np

    from wisecompass.geometry.curves_in_space import Wound
    from wisecompass.geometry.roots import extreme

    found = [float(corner[axis]) for corner in body.corners]
    found += [apex[axis] for apex in apexes(body.model)]
    least, most = min(found, default=math.inf), max(found, default=-math.inf)
    for edge in body.edges:
        curve = edge.curve
        if not isinstance(curve, Wound):
            continue
        heights = edge.places(SAMPLED)[:, axis]
        between = float(np.nanmax(np.abs(np.diff(heights))))  # no higher does it go between two of its places
        step = (edge.high - edge.low) / SAMPLED
        for at, highest in ((int(np.nanargmin(heights)), False), (int(np.nanargmax(heights)), True)):
            if least <= heights[at] - between if not highest else most >= heights[at] + between:
                continue
            middle = edge.low + step * at
            low, high = (middle - step, middle + step)
            if not edge.closes:
                low, high = max(low, edge.low), min(high, edge.high)
            turns = extreme(lambda t, curve=curve: curve.place(t)[axis], low, high, highest)[1]  # type: ignore[misc]
            least, most = min(least, turns), max(most, turns)
    return (least, most) if least <= most else (0.0, 0.0)


def apexes(model: Model) -> list[tuple[float, float, float]]:
    """The apexes of cones with the body all about them; where a face runs through one it is a corner."""
    from wisecompass.geometry.pieces import is_inside

    found = []
    for part in model.parts:
        if part.kind != "cone" or part.taken:
            continue
        x, y, z = (float(c) for c in part.at)
        ends = [[x, y, z], [x, y, z]]
        for end, share in zip(ends, (1.0, 1.0 - BELOW), strict=True):
            end[part.axis] += float(part.length) * share
        if is_inside(model, ends[1]):
            found.append((ends[0][0], ends[0][1], ends[0][2]))
    return found


BELOW = 1e-6
"""So near below the apex of a cone, as a share of its length, it is asked whether the body is there."""

SAMPLED = 48
"""Places of a curved edge between which its turning back is looked for."""


@lru_cache(maxsize=64)
def shown(parts: tuple[Part, ...], frame: Frame) -> tuple[Run, ...]:
    """The pieces that a view shows, seen ones first."""
    from wisecompass.geometry.sight import runs

    heed()
    found = runs(plan_of(parts).body, frame.sight)
    return tuple(sorted(found, key=lambda run: not run.seen))


def origin(parts: Sequence[Any], axis: int) -> Any:
    """The place on an axis from which everything is measured: the lowest end of a part, or middle of a prism."""
    return min(_ends(parts, axis, 0), key=roughly)


def low_of(parts: Sequence[Part]) -> tuple[float, float, float]:
    """The low corner of a body."""
    x, y, z = (float(origin(parts, axis)) for axis in range(3))
    return x, y, z


def back(parts: Sequence[Any]) -> Any:
    """How far back VP stands behind the body: at the end of a part, or the middle of a prism."""
    return max(_ends(parts, 1, 1), key=roughly)


def far_end(parts: Sequence[Any], axis: int) -> Any:
    """The highest end of a part on an axis, or middle of a prism."""
    return max(_ends(parts, axis, 1), key=roughly)


def _ends(parts: Sequence[Any], axis: int, end: int) -> list[Any]:
    added = [part for part in parts if not part.taken]
    return [part.at[axis] if part.kind == "prism" and part.axis != axis else bounds(part)[end][axis] for part in added]
