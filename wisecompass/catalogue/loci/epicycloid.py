"""Epicycloid: a point on the rim of a circle that rolls on a base circle."""

from __future__ import annotations

from wisecompass.catalogue.loci.rolling_on_circle import OUTSIDE, BaseAndRolling, rolled_problem

PROBLEM = rolled_problem("epicycloid", "Epicycloid", OUTSIDE, BaseAndRolling, "Arc of 8R(B + R)/B (Newton, Principia I.49).")
