"""The curves in which two surfaces meet: lines of planes, generators in a plane, and all others on round surfaces."""

from __future__ import annotations

import math

import numpy as np

from wisecompass.arithmetic import Number, roughly
from wisecompass.geometry.curves_in_space import Array, Curve, Straight, Wound, cross, table
from wisecompass.geometry.roots import PARALLEL
from wisecompass.geometry.surfaces import Cone, Flat, Pipe, Round, Surface, across


def meeting(one: Surface, other: Surface) -> list[Curve]:
    """All curves in which two different surfaces may meet."""
    if isinstance(one, Flat) and isinstance(other, Flat):
        return _of_planes(one, other)
    if isinstance(one, Flat):
        one, other = other, one
    assert not isinstance(one, Flat)
    if isinstance(one, Cone) and isinstance(other, Pipe):
        one, other = other, one
    rows = table([other])[0]
    if isinstance(other, Pipe) and isinstance(one, Pipe) and one.axis == other.axis:
        return _generators(one, table([other])[0] * 2 * float(other.radius) - np.array(one.coefficients(), dtype=float))
    if isinstance(other, Flat) and _holds_generators(one, rows):
        return _generators(one, rows)
    if isinstance(other, Flat):
        return [Wound(one, rows, False)]
    if isinstance(other, Pipe) and isinstance(one, Pipe) and (planes := halving(one, other)):
        third = 0.0 if across(one.axis)[0] == 3 - one.axis - other.axis else math.pi / 2
        return [Wound(one, np.array(row, dtype=float), False, (third, third + math.pi)) for row in planes]
    both: list[Curve] = [Wound(one, rows, False), Wound(one, rows, True)]
    if not both[0].closes:  # a generator of the other may meet the one all round
        turned = Wound(other, table([one])[0], False)
        if turned.closes:
            return [turned, Wound(other, turned.other, True)]
    return both


def halving(one: Pipe, other: Pipe) -> list[list[Number]]:
    """The two planes in which equal pipes meet whose axes cross, as coefficients; none where they do not."""
    third = 3 - one.axis - other.axis
    if abs(roughly(one.radius - other.radius)) > 1e-9 or abs(roughly(one.centre[third] - other.centre[third])) > 1e-9:
        return []
    middle = list(one.centre)
    middle[one.axis] = other.centre[one.axis]
    found = []
    for way in (1, -1):
        row = [one.radius * 0] * 7
        row[3 + one.axis], row[3 + other.axis] = row[3 + one.axis] + 1, row[3 + other.axis] + way
        row[6] = -(middle[one.axis] + middle[other.axis] * way)
        found.append(row)
    return found


def _of_planes(one: Flat, other: Flat) -> list[Curve]:
    n, m = np.array(one.normal, dtype=float), np.array(other.normal, dtype=float)
    way = cross(n, m)
    size = float(way @ way)
    if size < PARALLEL * float(n @ n) * float(m @ m):
        return []
    start = (float(one.offset) * cross(m, way) + float(other.offset) * cross(way, n)) / size
    return [Straight(start, way / math.sqrt(size))]


def _holds_generators(one: Round, row: Array) -> bool:
    """Whether a plane runs along the axis of a pipe, or through the apex of a cone."""
    if isinstance(one, Pipe):
        return abs(float(row[3 + one.axis])) < PARALLEL
    return abs(float(row[3:6] @ np.array([float(c) for c in one.centre]) + row[6])) < 1e-10


def _generators(one: Round, plane: Array) -> list[Curve]:
    """The generators of a round surface that lie in a plane."""
    u, v = across(one.axis)
    centre = np.array([float(c) for c in one.centre])
    a, b = float(plane[3 + u]), float(plane[3 + v])
    size = math.hypot(a, b)
    if size < PARALLEL:
        return []
    if isinstance(one, Pipe):
        away = -float(plane[3:6] @ centre + plane[6]) / (size * float(one.radius))
    else:
        away = -float(plane[3 + one.axis]) / (size * float(one.slope))
    if abs(away) > 1 + 1e-12:
        return []
    middle, half = math.atan2(b, a), math.acos(max(-1.0, min(1.0, away)))
    if half < 1e-6 or half > math.pi - 1e-6:
        half = 0.0 if half < 1 else math.pi
    found: list[Curve] = []
    for angle in [middle + half, middle - half][: 1 if half in (0.0, math.pi) else 2]:
        found.append(generator(one, angle))
    return found


def generator(one: Round, angle: float) -> Straight:
    """The generator of a round surface in a direction."""
    u, v = across(one.axis)
    start, way = np.array([float(c) for c in one.centre]), np.zeros(3)
    c, s = math.cos(angle), math.sin(angle)
    way[one.axis] = 1.0
    if isinstance(one, Pipe):
        start[u] += float(one.radius) * c
        start[v] += float(one.radius) * s
        start[one.axis] = 0.0
    else:
        way[u], way[v] = float(one.slope) * c, float(one.slope) * s
        way /= math.sqrt(float(way @ way))
    return Straight(start, way)
