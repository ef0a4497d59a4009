"""Space geometry for truths: points as (x, front, above), in mm, with vectors."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, root


@dataclass(frozen=True, slots=True)
class Point3:
    """A point in space: x along the fold line, ``front`` of VP, ``above`` HP. Also used as a vector."""

    x: Number
    front: Number
    above: Number
    name: str = ""

    def __add__(self, other: Point3) -> Point3:
        return Point3(self.x + other.x, self.front + other.front, self.above + other.above)

    def __sub__(self, other: Point3) -> Point3:
        return Point3(self.x - other.x, self.front - other.front, self.above - other.above)

    def scaled(self, share: Number) -> Point3:
        return Point3(self.x * share, self.front * share, self.above * share)


def dot(a: Point3, b: Point3) -> Number:
    return a.x * b.x + a.front * b.front + a.above * b.above


def cross(a: Point3, b: Point3) -> Point3:
    return Point3(
        a.front * b.above - a.above * b.front,
        a.above * b.x - a.x * b.above,
        a.x * b.front - a.front * b.x,
    )


def norm(a: Point3) -> Number:
    return root(dot(a, a))


def distance3(a: Point3, b: Point3) -> Number:
    """Distance in mm."""
    return norm(b - a)


def meet_planes(planes: list[tuple[Point3, Number]]) -> Point3:
    """The common point of three planes, each given as (normal n, offset d) with n·p = d (Cramer's rule)."""
    (n1, d1), (n2, d2), (n3, d3) = planes
    volume = dot(n1, cross(n2, n3))
    top = cross(n2, n3).scaled(d1) + cross(n3, n1).scaled(d2) + cross(n1, n2).scaled(d3)
    return top.scaled(1 / volume)
