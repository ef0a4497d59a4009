"""Hypocycloid: a point on the rim of a circle that rolls inside a base circle."""

from __future__ import annotations

from wisecompass.catalogue.loci.rolling_on_circle import INSIDE, BaseAndRolling, rolled_problem

PROBLEM = rolled_problem(
    "hypocycloid", "Hypocycloid", INSIDE, BaseAndRolling, "Arc of 8R(B - R)/B (Newton, Principia I.49)."
)
