"""Hypotrochoid: a point carried by a circle that rolls inside a base circle."""

from __future__ import annotations

from wisecompass.catalogue.loci.rolling_on_circle import INSIDE, TracingOnCircle, rolled_problem

PROBLEM = rolled_problem(
    "hypotrochoid", "Hypotrochoid", INSIDE, TracingOnCircle, "Roulettes: equal arcs roll off on both circles."
)
