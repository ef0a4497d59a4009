"""Conventions on which schools differ; each has a default and one sentence that says what it is."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Projection(StrEnum):
    """First angle: front view above the fold line, top view below. Third angle: the other way round."""

    FIRST = "first"
    THIRD = "third"


class Naming(StrEnum):
    """Primes: a′ in the front view, a in the top view. Indices: A in elevation, A₁ in plan."""

    PRIMES = "primes"
    INDICES = "indices"


class Units(StrEnum):
    """What lengths are shown in, and what a number typed without a unit means."""

    MM = "mm"
    CM = "cm"
    INCH = "in"

    @property
    def millimetres(self) -> float:
        """Millimetres in one of this unit."""
        return {"mm": 1.0, "cm": 10.0, "in": 25.4}[self.value]


@dataclass(frozen=True)
class Conventions:
    """The schools a folio follows."""

    projection: Projection = Projection.FIRST
    naming: Naming = Naming.PRIMES
    units: Units = Units.MM

    def front_name(self, point: str) -> str:
        """The name of space point ``point`` in the front view."""
        return f"{point.lower()}′" if self.naming is Naming.PRIMES else point

    def top_name(self, point: str) -> str:
        """The name of space point ``point`` in the top view."""
        return point.lower() if self.naming is Naming.PRIMES else f"{point}₁"
