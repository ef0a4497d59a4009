"""Wise Compass: constructs a drafter's figure from its givens, proves every number and shows every step."""

__version__ = "0.1.0"
