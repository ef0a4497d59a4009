"""The surfaces that parts of a body have: planes, and round ones (cylinders, cones) whose axes run along x, y or z.

Places are (x, y, z): to the right, backwards from the front face, upwards; mm. Every surface is the zero set of a value
that is below zero inside: qx x² + qy y² + qz z² + bx x + by y + bz z + c.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeAlias

from wisecompass.arithmetic import Number

Spot: TypeAlias = tuple[Number, Number, Number]
"""A place or direction in space."""

Coefficients: TypeAlias = tuple[Number, Number, Number, Number, Number, Number, Number]
"""Those of x², y², z², x, y, z and 1."""


def across(axis: int) -> tuple[int, int]:
    """The two directions square to an axis, so that all three turn to the right in their order."""
    return (axis + 1) % 3, (axis + 2) % 3


@dataclass(frozen=True)
class Flat:
    """A plane: normal · p = offset; the normal points out of the part."""

    normal: Spot
    offset: Number

    def coefficients(self) -> Coefficients:
        zero = self.offset * 0
        return (zero, zero, zero, *self.normal, -self.offset)


@dataclass(frozen=True)
class Pipe:
    """A cylinder of a radius about an axis through ``centre``, whose place along the axis has no meaning."""

    axis: int
    centre: Spot
    radius: Number

    def coefficients(self) -> Coefficients:
        return _about(self.axis, self.centre, self.radius * 0, self.radius * self.radius)


@dataclass(frozen=True)
class Cone:
    """A cone with its apex at ``centre``; ``slope`` is by how much the radius grows for each mm along the axis."""

    axis: int
    centre: Spot
    slope: Number

    def coefficients(self) -> Coefficients:
        return _about(self.axis, self.centre, self.slope * self.slope, self.slope * 0)


Surface: TypeAlias = "Flat | Pipe | Cone"
Round: TypeAlias = "Pipe | Cone"


def _about(axis: int, centre: Spot, shrink: Number, constant: Number) -> Coefficients:
    """u² + v² - shrink · w² - constant, about the centre."""
    square: list[Number] = [constant * 0 + 1] * 3
    square[axis] = -shrink
    linear = [-2 * q * c for q, c in zip(square, centre, strict=True)]
    rest = -constant
    for q, c in zip(square, centre, strict=True):
        rest = rest + q * c * c
    return (square[0], square[1], square[2], linear[0], linear[1], linear[2], rest)
