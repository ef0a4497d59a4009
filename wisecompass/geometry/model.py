"""A body's parts by the numbers of their surfaces: surfaces that are the same are one, so that flush faces are one face."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import TypeAlias

import numpy as np

from wisecompass.geometry.curves_in_space import Array, table
from wisecompass.geometry.parts import Part, bounds, surfaces
from wisecompass.geometry.surfaces import Cone, Flat, Surface

Triple: TypeAlias = list[float]
Pair: TypeAlias = tuple[float, float]

ONE_PLACE = 1e-9
"""Places nearer than this share of the body's size are one place, surfaces that differ by less one surface."""


@dataclass
class Model:
    """Parts in their order, by the numbers of their surfaces."""

    parts: Sequence[Part]
    surfaces: list[Surface] = field(default_factory=list)
    walls: list[list[tuple[int, float]]] = field(default_factory=list)
    """For each part its surfaces, each with 1 where the part is where the value is below zero, else -1."""
    lows: Array = field(default_factory=lambda: np.zeros(0))
    highs: Array = field(default_factory=lambda: np.zeros(0))
    size: float = 1.0
    rows: Array = field(default_factory=lambda: np.zeros(0))
    squares: list[Triple] = field(default_factory=list)
    linears: list[Triple] = field(default_factory=list)
    rests: list[float] = field(default_factory=list)
    """The same rows by their parts, for one place at a time."""
    is_flat: list[bool] = field(default_factory=list)
    """Which of the surfaces are planes."""
    normals: list[tuple[float, float, float]] = field(default_factory=list)
    """Of planes: the linear terms once more, as what can be looked up."""
    same: list[tuple[tuple[int, int], int]] = field(default_factory=list)
    """For every surface of every part, (part, its place there), which one of the model it is."""

    @staticmethod
    def of(parts: Sequence[Part]) -> Model:
        found = Model(parts)
        boxes = [bounds(part) for part in parts]
        found.lows = np.array([[float(c) for c in low] for low, _ in boxes])
        found.highs = np.array([[float(c) for c in high] for _, high in boxes])
        found.size = float((found.highs.max(axis=0) - found.lows.min(axis=0)).max())
        keys: dict[tuple[object, ...], int] = {}
        for number, part in enumerate(parts):
            walls = []
            for place, surface in enumerate(surfaces(part)):
                key, way = _key(surface, found.size)
                k = next((keys[each] for each in key if each in keys), -1)
                if k < 0:
                    k = len(found.surfaces)
                    found.surfaces.append(surface if way > 0 else _turned(surface))
                    keys |= dict.fromkeys(key, k)
                walls.append((k, way))
                found.same.append(((number, place), k))
            found.walls.append(walls)
        found.rows = table(found.surfaces)
        found.squares, found.linears = found.rows[:, :3].tolist(), found.rows[:, 3:6].tolist()
        found.rests = found.rows[:, 6].tolist()
        found.is_flat = [isinstance(surface, Flat) for surface in found.surfaces]
        found.normals = [(x, y, z) for x, y, z in found.linears]
        return found

    @property
    def near(self) -> float:
        """A distance, mm, below which two places are one."""
        return ONE_PLACE * self.size * 10


def _turned(surface: Surface) -> Surface:
    assert isinstance(surface, Flat)
    x, y, z = surface.normal
    return Flat((-x, -y, -z), -surface.offset)


def _key(surface: Surface, size: float) -> tuple[list[tuple[object, ...]], float]:
    """What a surface is found again by, rounded down and up, and -1 where the plane faces against its first direction."""
    if isinstance(surface, Flat):
        normal = np.array(surface.normal, dtype=float)
        length = math.sqrt(float(normal @ normal))
        normal /= length
        way = 1.0 if next(c for c in normal if abs(c) > 1e-9) > 0 else -1.0
        numbers = [*(normal * way), float(surface.offset) * way / length / size]
        kind: tuple[object, ...] = ("plane",)
    else:
        centre = [float(c) / size for c in surface.centre]
        if isinstance(surface, Cone):
            numbers, kind = [*centre, float(surface.slope)], ("cone", surface.axis)
        else:
            centre[surface.axis] = 0.0
            numbers, kind = [*centre, float(surface.radius) / size], ("pipe", surface.axis)
        way = 1.0
    steps = [n / (ONE_PLACE * 10) for n in numbers]
    return [(*kind, *(math.floor(s + shift) for s in steps)) for shift in (0.25, 0.75)], way
