"""What is seen of a body in every one of the five pictures, as polylines in floats: to tell them apart side by side."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, TypeAlias

from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.problem import Problem

Polyline: TypeAlias = list[tuple[float, float]]

CHORDS = 24


def outlines(problem: Problem, raw: Mapping[str, str], unit: str) -> list[Polyline]:
    """The seen edges and contours of a body in one picture, mm, from the image of the corner that it begins from.

    Raises:
        BadGiven, Infeasible: see ``Problem.read``.
    """
    from wisecompass.catalogue.pictorial.crate_flats import frame_of
    from wisecompass.catalogue.solids.crate_plan import in_floats, plan_of, shown
    from wisecompass.drafting.givens import bind

    g: Any = bind(problem.givens, problem.read(raw, unit, offers=False), PLAIN)
    floats, frame = in_floats(g.parts), frame_of(g)
    low = plan_of(floats).low
    found = []
    for run in shown(floats, frame):
        if run.seen:
            places = run.places(1 if run.edge.curve.is_straight else CHORDS)
            found.append([frame.spot([c - base for c, base in zip(place, low, strict=True)]) for place in places.tolist()])
    return found
