"""Into how many pieces a body falls, in floats.

Edges that meet in corners belong to one piece. Whatever hangs together besides is found by straight ways that stay inside
the body, between places beside the edges and places of its parts.
"""

from __future__ import annotations

import math
import random
from collections.abc import Sequence

import numpy as np

from wisecompass.geometry.curves_in_space import values
from wisecompass.geometry.edges import Body, Edge
from wisecompass.geometry.model import Model, Triple
from wisecompass.geometry.sight import section_about, spans_within

BESIDE = 1e-4
"""The share of the body's size that a place inside lies from its edge."""

PLACES = 60
"""So many places are looked for in all parts together where the edges alone do not show the pieces to hang together."""

BY_PIECE = 8
"""Edges of one chain that places are taken from."""


def pieces(body: Body) -> int:
    """How many pieces a body has, in which one can go from any place to any other without leaving it."""
    chains = _chains(body)
    if len(chains) < 2:
        return len(chains)
    places: list[Triple] = []
    groups: list[int] = []
    for n, edges in enumerate(chains):
        step = max(1, len(edges) // BY_PIECE)
        for edge in edges[::step]:
            place = _inside_beside(body.model, edge)
            if place is not None:
                places.append(place)
                groups.append(n)
    leader = list(range(len(chains)))
    _join(body.model, places, groups, leader)
    if len({_first(leader, n) for n in groups}) > 1:
        chance = random.Random(1)
        added = [n for n, part in enumerate(body.model.parts) if not part.taken]
        for n in added:
            low, high = body.model.lows[n].tolist(), body.model.highs[n].tolist()
            for _ in range(max(4, PLACES // len(added))):
                place = [chance.uniform(a, b) for a, b in zip(low, high, strict=True)]
                if is_inside(body.model, place):
                    places.append(place)
                    groups.append(len(leader))
                    leader.append(len(leader))
        _join(body.model, places, groups, leader)
    return len({_first(leader, n) for n in range(len(chains)) if n in groups})


def _chains(body: Body) -> list[list[Edge]]:
    """The edges that hang together by corners."""
    leader = list(range(len(body.corners)))
    for edge in body.edges:
        if not edge.closes:
            leader[_first(leader, edge.ends[0])] = _first(leader, edge.ends[1])
    found: dict[int, list[Edge]] = {}
    for n, edge in enumerate(body.edges):
        found.setdefault(-1 - n if edge.closes else _first(leader, edge.ends[0]), []).append(edge)
    return list(found.values())


def _first(leader: list[int], n: int) -> int:
    while leader[n] != n:
        leader[n] = leader[leader[n]]
        n = leader[n]
    return n


def _join(model: Model, places: Sequence[Triple], groups: Sequence[int], leader: list[int]) -> None:
    """Put together what a straight way leads between: short ways first, for they lead most often."""
    pairs = [(math.dist(one, other), i, j) for i, one in enumerate(places) for j, other in enumerate(places[:i])]
    for _, i, j in sorted(pairs):
        one, two = _first(leader, groups[i]), _first(leader, groups[j])
        if one != two and _leads(model, places[i], places[j]):
            leader[one] = two


def _inside_beside(model: Model, edge: Edge) -> Triple | None:
    """A place inside the body close to the middle of an edge."""
    place = edge.curve.at(np.array([edge.middle]))[0]
    section = edge.section_at(edge.middle) or section_about(model, edge, edge.middle, place)
    if section is None:
        return None
    best, way = 0.0, None
    for n, (angle, _, _) in enumerate(section.branches):
        wide = (section.branches[(n + 1) % len(section.branches)][0] - angle) % math.tau
        if section.inside[n] and wide > best:
            best, way = wide, angle + wide / 2
    if way is None:
        return None
    step = BESIDE * model.size
    c, s = math.cos(way) * step, math.sin(way) * step
    found = [p + c * a + s * b for p, a, b in zip(place.tolist(), section.first, section.second, strict=True)]
    return found if is_inside(model, found) else None


def is_inside(model: Model, place: Triple) -> bool:
    """Whether the last part that holds a place was added."""
    inside = False
    heights = values(model.rows, np.array([place]))[0].tolist()
    for walls, part in zip(model.walls, model.parts, strict=True):
        if all(heights[k] * way < 0 for k, way in walls):
            inside = not part.taken
    return inside


def _leads(model: Model, start: Triple, end: Triple) -> bool:
    """Whether the straight way between two places stays inside."""
    way = [b - a for a, b in zip(start, end, strict=True)]
    ends_at = np.array([start, end])
    near = ((model.lows <= ends_at.max(axis=0)) & (model.highs >= ends_at.min(axis=0))).all(axis=1)
    spans = [
        (p, max(low, 0.0), min(high, 1.0))
        for p in np.flatnonzero(near).tolist()
        for low, high in spans_within(model, model.walls[p], start, way, [0.0, 0.0, 0.0])
        if high > 0.0 and low < 1.0
    ]
    ends = sorted({0.0, 1.0, *(end for _, *both in spans for end in both)})
    for low, high in zip(ends, ends[1:], strict=False):
        if high - low < 1e-9:
            continue
        middle, inside = (low + high) / 2, False
        for p, first, last in spans:
            if first < middle < last:
                inside = not model.parts[p].taken
        if not inside:
            return False
    return True
