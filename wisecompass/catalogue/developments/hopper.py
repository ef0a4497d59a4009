"""The hopper in space by planes and vectors: what is true of it."""

from __future__ import annotations

from typing import Protocol

from wisecompass.arithmetic import Number, larger
from wisecompass.drafting.problem import Make
from wisecompass.geometry.space import Point3, cross, dot, meet_planes, norm

BOTTOM, TOP = "ABCD", "EFGH"
"""From the left in front anticlockwise as seen from above."""


class Sizes(Protocol):
    """The givens that fix the solid."""

    @property
    def bottom_length(self) -> Number: ...
    @property
    def bottom_width(self) -> Number: ...
    @property
    def top_length(self) -> Number: ...
    @property
    def top_width(self) -> Number: ...
    @property
    def offset_x(self) -> Number: ...
    @property
    def offset_y(self) -> Number: ...
    @property
    def height(self) -> Number: ...
    @property
    def thickness(self) -> Number: ...
    @property
    def halved(self) -> int | None: ...


def corners(g: Sizes, number: Make) -> dict[str, Point3]:
    """Corners of the neutral surface, each face plane moved out by half the thickness and every corner where three planes
    meet; and the ends of a seam up the middle of a side, M and N."""
    half = number(1) / 2
    l1, w1, l2, w2 = (size * half for size in (g.bottom_length, g.bottom_width, g.top_length, g.top_width))
    zero = number(0)
    inner_bottom = [Point3(-l1, w1, zero), Point3(l1, w1, zero), Point3(l1, -w1, zero), Point3(-l1, -w1, zero)]
    inner_top = [Point3(g.offset_x + x, g.offset_y + y, g.height) for x, y in ((-l2, w2), (l2, w2), (l2, -w2), (-l2, -w2))]
    faces = []
    for i in range(4):
        j = (i + 1) % 4
        normal = cross(inner_bottom[j] - inner_bottom[i], inner_top[i] - inner_bottom[i])
        outward = normal.scaled(-1 / norm(normal))  # corners run so that the cross product points inwards
        faces.append((outward, dot(outward, inner_bottom[i]) + g.thickness * half))
    up = Point3(zero, zero, number(1))
    rows = [[meet_planes([faces[i - 1], faces[i], (up, level)]) for i in range(4)] for level in (zero, g.height)]
    shift = g.bottom_length / 8 + larger(-rows[0][2].front, -rows[1][2].front)  # the hindmost corner stands clear of VP
    found = {
        letter: Point3(p.x, p.front + shift, p.above, letter)
        for row, letters in zip(rows, (BOTTOM, TOP), strict=True)
        for p, letter in zip(row, letters, strict=True)
    }
    if g.halved is not None:
        for name, letters in (("M", BOTTOM), ("N", TOP)):
            first, second = (found[letters[k % 4]] for k in (g.halved, g.halved + 1))
            middle = (first + second).scaled(half)
            found[name] = Point3(middle.x, middle.front, middle.above, name)
    return found
