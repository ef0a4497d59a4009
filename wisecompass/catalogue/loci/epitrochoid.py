"""Epitrochoid: a point carried by a circle that rolls on a base circle."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number
from wisecompass.catalogue.loci.rolling_on_circle import OUTSIDE, TracingOnCircle, rolled_problem
from wisecompass.drafting import givens


@dataclass(frozen=True)
class TracingOutside(TracingOnCircle):
    tracing_radius: Number = givens.length("tracing radius", "20")


PROBLEM = rolled_problem(
    "epitrochoid", "Epitrochoid", OUTSIDE, TracingOutside, "Roulettes: equal arcs roll off on both circles."
)
