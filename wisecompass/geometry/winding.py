"""A curve on a round surface in any arithmetic."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from wisecompass.arithmetic import Number, is_zero, roughly
from wisecompass.geometry.solving import dot
from wisecompass.geometry.surfaces import Pipe, across


class Winding:
    """A curve on a round surface in any arithmetic: see ``curves_in_space.Wound``."""

    def __init__(self, on: Any, other: Sequence[Number], second: bool) -> None:
        self.on, self.other, self.second = on, other, second
        self._is_curved = any(roughly(q) != 0 for q in other[:3])

    @property
    def is_level(self) -> bool:
        """Whether a plane cuts it that is square to the axis: a circle about it."""
        u, v = across(self.on.axis)
        return all(is_zero(q) for q in (*self.other[:3], self.other[3 + u], self.other[3 + v]))

    def _terms(self, c: Any, s: Any) -> tuple[list[Any], list[Any], list[Any], list[Any]]:
        """Where a generator begins and its way, and how both grow with the angle."""
        u, v = across(self.on.axis)
        start, way = list(self.on.centre), [0, 0, 0]
        start_grows, way_grows = [0, 0, 0], [0, 0, 0]
        way[self.on.axis] = 1
        if isinstance(self.on, Pipe):
            start[u], start[v] = start[u] + self.on.radius * c, start[v] + self.on.radius * s
            start_grows[u], start_grows[v] = -self.on.radius * s, self.on.radius * c
        else:
            way[u], way[v] = self.on.slope * c, self.on.slope * s
            way_grows[u], way_grows[v] = -self.on.slope * s, self.on.slope * c
        return start, way, start_grows, way_grows

    def place(self, c: Any, s: Any, root_of: Callable[[Any], Any]) -> tuple[Any, Any, Any]:
        start, way, _, _ = self._terms(c, s)
        along = self._along(start, way, root_of)[0]
        return tuple(p + along * d for p, d in zip(start, way, strict=True))

    def _along(self, start: list[Any], way: list[Any], root_of: Callable[[Any], Any]) -> tuple[Any, Any]:
        """How far along the generator the curve lies, and the slope of the other surface's value there."""
        square, linear, rest = self.other[:3], self.other[3:6], self.other[6]
        b, c = dot(linear, way), dot(linear, start) + rest
        if not self._is_curved:
            return -c / b, b
        a = sum(q * d * d for q, d in zip(square, way, strict=True))
        b = b + sum(2 * q * p * d for q, p, d in zip(square, start, way, strict=True))
        c = c + sum(q * p * p for q, p in zip(square, start, strict=True))
        half = root_of(b * b - 4 * a * c)
        return ((-b - half) if not self.second else (half - b)) / (2 * a), (-half if not self.second else half)

    def moving(self, c: Any, s: Any, root_of: Callable[[Any], Any]) -> tuple[tuple[Any, Any, Any], tuple[Any, Any, Any]]:
        """A place, and how it grows with the angle."""
        start, way, start_grows, way_grows = self._terms(c, s)
        along, slope = self._along(start, way, root_of)
        place = [p + along * d for p, d in zip(start, way, strict=True)]
        drift = [p + along * d for p, d in zip(start_grows, way_grows, strict=True)]
        gradient = [2 * q * p + b for q, p, b in zip(self.other[:3], place, self.other[3:6], strict=True)]
        growth = -dot(gradient, drift) / slope
        moving = [d + growth * w for d, w in zip(drift, way, strict=True)]
        return (place[0], place[1], place[2]), (moving[0], moving[1], moving[2])
