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


@dataclass(frozen=True)
class Conventions:
    """The schools a folio follows."""

    projection: Projection = Projection.FIRST
    naming: Naming = Naming.PRIMES

    def front_name(self, point: str) -> str:
        """The name of space point ``point`` in the front view."""
        return f"{point.lower()}′" if self.naming is Naming.PRIMES else point

    def top_name(self, point: str) -> str:
        """The name of space point ``point`` in the top view."""
        return point.lower() if self.naming is Naming.PRIMES else f"{point}₁"
