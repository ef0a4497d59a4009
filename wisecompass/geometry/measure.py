"""Corners of a body in any arithmetic, its volume and the area of its surface: line integrals along its edges.

Every face adds the integral over its rim, walked so that the face lies to the left. Of a plane the rim gives the area by
half the vector product of place and way, of a round face by its height along the generators. The volume is a third of the
sum of the distances of all pieces of the surface from the origin times their areas (Gauss's theorem).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from fractions import Fraction
from itertools import permutations
from typing import Any, cast

import numpy as np

from wisecompass.arithmetic import Number, atan2_deg, cos_deg, pi_times, root, roughly, sin_deg, turning_integral
from wisecompass.arithmetic.quadrature import gauss
from wisecompass.geometry.curves_in_space import TURN, Wound
from wisecompass.geometry.edges import Body, Edge
from wisecompass.geometry.meeting import halving
from wisecompass.geometry.parts import Part, surfaces
from wisecompass.geometry.section import Side
from wisecompass.geometry.solving import NUMERICAL, cross, dot, is_ball, settled, solved
from wisecompass.geometry.surfaces import Cone, Flat, Pipe, Spot, Surface, across
from wisecompass.geometry.winding import Winding


class Measured:
    """A body in an arithmetic: its surfaces as the parts' numbers give them, and its corners."""

    def __init__(self, body: Body, parts: Sequence[Part]) -> None:
        self.body = body
        walls = [surfaces(part) for part in parts]
        found: dict[int, Surface] = {}
        for (part, place), k in body.model.same:
            found.setdefault(k, walls[part][place])
        self.surfaces = [_like(found[k], body.model.surfaces[k]) for k in range(len(found))]
        self.rows = [one.coefficients() for one in self.surfaces]
        self.zero = self.rows[0][6] * 0
        self.corners = [
            self._located(place, through) for place, through in zip(body.corners, body.corner_surfaces, strict=True)
        ]

    # ----------------------------------------------------------------------------------------------------- corners
    def _located(self, place: Any, through: Sequence[int]) -> Spot:
        """A corner where at least three surfaces meet, by those that cross there most squarely."""
        model = self.body.model
        for k in through:
            if (
                isinstance(on := model.surfaces[k], Cone)
                and math.dist(place, [float(c) for c in on.centre]) < model.near * 100
            ):
                return cast(Cone, self.surfaces[k]).centre
        gradients = {k: 2 * model.rows[k, :3] * place + model.rows[k, 3:6] for k in through}
        best, chosen = 0.0, None
        keys = sorted(through, key=lambda k: not isinstance(self.surfaces[k], Flat))
        for a, i in enumerate(keys):
            for b, j in enumerate(keys[a + 1 :], a + 1):
                for k in keys[b + 1 :]:
                    size = abs(float(np.linalg.det(np.array([gradients[i], gradients[j], gradients[k]]))))
                    if size > 1.1 * best:
                        best, chosen = size, (i, j, k)
        start = [self.zero + float(c) for c in place]
        if chosen is None or best < 1e-6:
            return self._touching(start, through)
        if all(isinstance(self.surfaces[k], Flat) for k in chosen):
            return solved([self.rows[k][3:6] for k in chosen], [-self.rows[k][6] for k in chosen])
        return settled(start, [self.rows[k] for k in chosen])

    def _touching(self, start: Sequence[Number], through: Sequence[int]) -> Spot:
        """A corner where a plane or a pipe touches a pipe along a line: on the planes that hold this line, and on a
        third."""
        for k, other in permutations(through, 2):
            if crossed := self._crossed(k, other):
                return settled(start, [*crossed, self.rows[k]])
            pipe, touching = self.surfaces[k], self.surfaces[other]
            if not isinstance(pipe, Pipe) or not isinstance(touching, Flat | Pipe):
                continue
            line = self._line_of_contact(pipe, touching, self.rows[k], self.rows[other])
            for third in through if line is not None else ():
                row = self.body.model.rows[third]
                slope = 2 * row[pipe.axis] * roughly(start[pipe.axis]) + row[3 + pipe.axis]
                if third not in (k, other) and abs(float(slope)) > 1e-6 and line is not None:
                    return settled(start, [*line, self.rows[third]])
        x, y, z = (self.told(roughly(c)) for c in start)
        return x, y, z

    def _crossed(self, k: int, other: int) -> list[list[Number]]:
        """The two planes in which equal pipes meet whose axes cross."""
        one, another = self.surfaces[k], self.surfaces[other]
        if isinstance(one, Pipe) and isinstance(another, Pipe) and one.axis != another.axis:
            model = self.body.model.surfaces
            return halving(one, another) if halving(cast(Pipe, model[k]), cast(Pipe, model[other])) else []
        return []

    def _line_of_contact(
        self, pipe: Pipe, touching: Flat | Pipe, own: Sequence[Number], other: Sequence[Number]
    ) -> list[list[Number]] | None:
        """Two planes that hold the line in which a plane or a parallel pipe touches a pipe; None where it is neither."""
        u, v = across(pipe.axis)
        if isinstance(touching, Pipe):
            if touching.axis != pipe.axis:
                return None
            plane = [a - b for a, b in zip(own, other, strict=True)]
        else:
            plane = list(other)
        if abs(roughly(plane[3 + pipe.axis])) > 1e-9:
            return None
        foot = [self.zero] * 7
        foot[3 + u], foot[3 + v] = -plane[3 + v], plane[3 + u]
        foot[6] = -(foot[3 + u] * pipe.centre[u] + foot[3 + v] * pipe.centre[v])
        return [plane, foot]

    # ----------------------------------------------------------------------------------------------------- measures
    def area(self) -> Number:
        """Of the whole surface, mm²."""
        return self._sum(lambda edge, side: self._face(edge, side)[0])

    def volume(self) -> Number:
        """mm³."""
        return self._sum(lambda edge, side: self._face(edge, side)[1]) / 3

    def told(self, value: float) -> Number:
        """A value that is only known in floats, as wide as it may be wrong."""
        return _about(value) if is_ball(self.zero) else self.zero + value

    def _sum(self, of: Callable[[Edge, Side], Number]) -> Number:
        total = self.zero
        for edge in self.body.edges:
            for side in edge.sides:
                total = total + of(edge, side) * (1 if side.left else -1)
        return total

    def _face(self, edge: Edge, side: Side) -> tuple[Number, Number]:
        """What an edge adds to the area of the face beside it, and to three times the volume."""
        key = id(edge), side.surface
        if key not in self._faces:
            self._faces[key] = self._along_a_line(edge, side) if edge.curve.is_straight else self._wound(edge, side)
        area, volume = self._faces[key]
        return (area if side.along else -area), volume

    @property
    def _faces(self) -> dict[tuple[int, int], tuple[Number, Number]]:
        found: dict[tuple[int, int], tuple[Number, Number]] = self.__dict__.setdefault("_kept", {})
        return found

    def _along_a_line(self, edge: Edge, side: Side) -> tuple[Number, Number]:
        if not isinstance(self.surfaces[side.surface], Flat):
            return self.zero, self.zero
        return self._of_plane(side.surface, cross(*(self.corners[end] for end in edge.ends)))

    def _of_plane(self, k: int, twice: Spot) -> tuple[Number, Number]:
        row = self.rows[k]
        size = root(row[3] * row[3] + row[4] * row[4] + row[5] * row[5])
        area = dot((row[3], row[4], row[5]), twice) / (2 * size)
        return area, -row[6] * area / size

    def _wound(self, edge: Edge, side: Side) -> tuple[Number, Number]:
        curve = edge.curve
        assert isinstance(curve, Wound)
        if is_ball(self.zero) and _turns_back(edge):
            one, other = (float(value) for value in self._in_floats()._wound(edge, side))
            return _about(one), _about(other)
        on = next(k for k in edge.surfaces if self.body.model.surfaces[k] == curve.on)
        wind = Winding(self.surfaces[on], self._other(edge, on), curve.second)
        first, last = self._ends(edge, on)
        surface = self.surfaces[side.surface]
        own = side.surface == on

        def integral(value: Callable[[Any, Any, Any], Any]) -> Number:
            if wind.is_level and (own or isinstance(surface, Flat)):
                return self._of_a_circle(value, first, last)
            return self._integral(edge, value, first, last)

        if isinstance(surface, Flat):
            normal = self.rows[side.surface][3:6]
            twice = integral(lambda c, s, r: dot(normal, cross(*wind.moving(c, s, r))))
            size = root(dot(normal, normal))
            area = twice / (2 * size)
            return area, -self.rows[side.surface][6] * area / size
        w = surface.axis
        if isinstance(surface, Pipe):
            radius, flat = surface.radius, self._turned(wind, surface, own)

            def along(c: Any, s: Any, r: Any) -> Any:
                height, lean, _ = flat(c, s, r)
                return height * (radius + lean) * radius

            return -integral(lambda c, s, r: flat(c, s, r)[0] * radius), -integral(along)
        k, apex, flat = surface.slope, surface.centre[w], self._turned(wind, surface, own)
        slant = root(1 + k * k)

        def leaning(c: Any, s: Any, r: Any) -> Any:
            height, lean, growth = flat(c, s, r)
            away = height - apex
            return (k * apex * away - lean) * away * k * growth / 2

        return integral(lambda c, s, r: _half_square(flat(c, s, r), apex) * k * slant), integral(leaning)

    def _other(self, edge: Edge, on: int) -> Sequence[Number]:
        """The surface that a curve is cut out by: one through it, or the plane in which two equal pipes meet."""
        rows, cut = self.body.model.rows, cast(Wound, edge.curve).other
        for k in edge.surfaces:
            if k != on and _same_row(rows[k], cut):
                return self.rows[k]
        pipe = self.surfaces[on]
        assert isinstance(pipe, Pipe)
        others = (self.surfaces[k] for k in edge.surfaces if k != on)
        for other in others:
            if isinstance(other, Pipe) and other.axis != pipe.axis:
                return min(
                    halving(pipe, other), key=lambda row: sum(abs(roughly(a) - b) for a, b in zip(row, cut, strict=True))
                )
        raise AssertionError("a curve has two surfaces")

    def _turned(self, wind: Winding, surface: Any, own: bool) -> Callable[[Any, Any, Any], tuple[Any, Any, Any]]:
        """Of a place of the curve: its height along the axis of a round surface, of a pipe times how fast its angle about
        that axis grows; the part of the axis's place along the direction to it, of a cone times its height from the apex;
        and that growth."""
        u, v = across(surface.axis)
        w, centre = surface.axis, surface.centre
        is_cone = isinstance(surface, Cone)

        def seen(c: Any, s: Any, r: Any) -> tuple[Any, Any, Any]:
            if own:
                place, lean = wind.place(c, s, r), centre[u] * c + centre[v] * s
                return place[w], lean * (place[w] - centre[w]) if is_cone else lean, 1
            place, moving = wind.moving(c, s, r)
            du, dv = place[u] - centre[u], place[v] - centre[v]
            away = du * du + dv * dv
            growth = (du * moving[v] - dv * moving[u]) / away
            lean = centre[u] * du + centre[v] * dv
            if is_cone:
                return place[w], lean / surface.slope, growth
            return place[w] * growth, lean / surface.radius, growth

        return seen

    def _in_floats(self) -> Measured:
        """The same body in floats."""
        if "_floats" not in self.__dict__:
            self.__dict__["_floats"] = Measured(self.body, self.body.model.parts)
        found: Measured = self.__dict__["_floats"]
        return found

    def _of_a_circle(self, value: Callable[[Any, Any, Any], Any], first: Number, last: Number) -> Number:
        """The integral of a + b cos + c sin over an angle, by three of its values: what a circle about its own axis adds is
        of this kind."""
        one, none = self.zero + 1, self.zero
        right, left, up = (value(c, s, root) for c, s in ((one, none), (-one, none), (none, one)))
        middle = (right + left) / 2
        found = pi_times(last - first) / 180 * middle
        found = found + (right - middle) * (sin_deg(last) - sin_deg(first))
        return cast(Number, found - (up - middle) * (cos_deg(last) - cos_deg(first)))

    def _integral(self, edge: Edge, value: Callable[[Any, Any, Any], Any], first: Number, last: Number) -> Number:
        if _turns_back(edge):
            return self.zero + _turning_back(value, edge.low, edge.high)
        return turning_integral(value, first, last)

    def _ends(self, edge: Edge, on: int) -> tuple[Number, Number]:
        """The directions in which a curve begins and ends, degrees about the axis of the surface it winds on."""
        if edge.closes:
            return self.zero, self.zero + 360
        surface = self.surfaces[on]
        assert not isinstance(surface, Flat)
        u, v = across(surface.axis)
        found = []
        for end, near in zip(edge.ends, (edge.low, edge.high), strict=True):
            place = self.corners[end]
            sign = (
                -1
                if isinstance(surface, Cone) and roughly(place[surface.axis]) < roughly(surface.centre[surface.axis])
                else 1
            )
            x, y = (place[u] - surface.centre[u]) * sign, (place[v] - surface.centre[v]) * sign
            quarter = round(near / (TURN / 4))
            for _ in range(quarter % 4):
                x, y = y, -x
            found.append(atan2_deg(y, x) + 90 * quarter)
        return found[0], found[1]


def _like(surface: Surface, model: Surface) -> Surface:
    """A part's own surface, turned as the body's one is."""
    if isinstance(surface, Flat) and isinstance(model, Flat):
        same = sum(roughly(a) * float(b) for a, b in zip(surface.normal, model.normal, strict=True)) > 0
        x, y, z = surface.normal
        return surface if same else Flat((-x, -y, -z), -surface.offset)
    return surface


def _turns_back(edge: Edge) -> bool:
    """Whether the curve ends on generators that only touch the other surface."""
    curve = edge.curve
    assert isinstance(curve, Wound)
    return bool((curve.other[:3] != 0).any()) and curve.stretches() != [(0.0, TURN)]


def _about(value: float) -> Number:
    """A ball about a quadrature, as wide as it may be wrong."""
    from wisecompass.arithmetic import ball

    found: Any = ball.about(Fraction(value), Fraction(abs(value) + 1) * NUMERICAL)
    return cast(Number, found)


def _same_row(row: Any, other: Any) -> bool:
    return bool(np.abs(row - other).max() <= 1e-9 * np.abs(row).max())


def _half_square(seen: tuple[Any, Any, Any], apex: Number) -> Any:
    """Half the square of the height over the apex, for each growth of the angle."""
    away = seen[0] - apex
    return away * away * seen[2] / 2


def _turning_back(value: Callable[[Any, Any, Any], Any], low: float, high: float) -> float:
    """The integral over an angle between ends at which the value may grow like one over a root."""
    at, weight = gauss(200)
    turn = at * np.pi / 2
    middle, half = (low + high) / 2, (high - low) / 2
    angles = middle + half * np.sin(turn)
    floats = lambda x: np.sqrt(np.maximum(x, 1e-300))  # noqa: E731
    found = value(np.cos(angles), np.sin(angles), floats)
    return float((found * weight * half * np.cos(turn) * np.pi / 2).sum())
