"""One drawing continued: a figure that goes on with another has all of that one's drawing under its own, with one letter for
what both have, and its steps go on counting."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from wisecompass.drafting.marks import Dot, LinearDimension, Mark, Segment
from wisecompass.drafting.solve import Drawing
from wisecompass.folio.document import Figure, Folio

NEAR = 1e-6
"""So near the letters that two drawings have in common must fall, mm."""


def before(folio: Folio, figure: Figure) -> Figure | None:
    """The figure of its sheet that a figure goes on with; none where it begins a drawing, where another goes on with that
    one already, or where they would go round in a circle."""
    if not figure.goes_on:
        return None
    sheet = next((sheet for sheet in folio.sheets if any(each.name == figure.name for each in sheet.figures)), None)
    figures = () if sheet is None else sheet.figures
    by_name = {each.name: each for each in figures}
    found = by_name.get(figure.goes_on)
    following = next((each.name for each in figures if each.goes_on == figure.goes_on), "")
    if found is None or following != figure.name:
        return None
    at, seen = found, {figure.name}
    while at.name not in seen:
        seen.add(at.name)
        if at.goes_on not in by_name:
            return found
        at = by_name[at.goes_on]
    return None


def ends(figures: Sequence[Figure], joined: Sequence[bool]) -> list[int]:
    """For each figure of a sheet the last one of the drawing that it belongs to; ``joined`` are those on another's."""
    following = {figure.goes_on: n for n, figure in enumerate(figures) if joined[n]}
    found = []
    for n in range(len(figures)):
        at = n
        while figures[at].name in following:
            at = following[figures[at].name]
        found.append(at)
    return found


def in_the_way(base: Drawing, own: Drawing) -> list[str]:
    """The letters that stand for other points on the drawing that is to be gone on with; no letter at all in common is in
    the way as well."""
    known = _letters(base.marks)
    both = [(key, place) for key, place in _letters(own.marks).items() if key in known]
    return [key[1] for key, place in both if not _fall_together(known[key], place)] if both else [""]


def _letters(marks: Iterable[Mark]) -> dict[tuple[str, str], tuple[float, float]]:
    return {(dot.block, dot.name): (dot.x, dot.y) for dot in marks if isinstance(dot, Dot) and dot.name and dot.shown}


def _fall_together(one: tuple[float, float], other: tuple[float, float]) -> bool:
    return abs(one[0] - other[0]) < NEAR and abs(one[1] - other[1]) < NEAR


def continued(base: Drawing, own: Drawing) -> Drawing:
    """A drawing on top of another: what both have is there once, and the steps go on counting."""
    more = len(base.steps)
    known, lines = _letters(base.marks), {(m.block, m.name) for m in base.marks if isinstance(m, Segment) and m.name}
    sizes = {(m.x1, m.y1, m.x2, m.y2) for m in base.marks if isinstance(m, LinearDimension)}
    marks = list(base.marks)
    for mark in own.marks:
        again = (
            (isinstance(mark, Dot) and (mark.block, mark.name) in known)
            or (isinstance(mark, Segment) and (mark.block, mark.name) in lines)
            or (isinstance(mark, LinearDimension) and (mark.x1, mark.y1, mark.x2, mark.y2) in sizes)
        )
        if not again:
            marks.append(replace(mark, step=mark.step + more))
    steps = [replace(step, n=step.n + more, covers=step.covers or (step.n,)) for step in own.steps]
    return replace(
        own,
        marks=marks,
        steps=[*base.steps, *steps],
        rotations={**base.rotations, **own.rotations},
        faired=[*base.faired, *own.faired],
        placed=[*base.placed, *(replace(one, step=one.step + more) for one in own.placed)],
        beams=[*base.beams, *(replace(one, step=one.step + more) for one in own.beams)],
        motions=[*base.motions, *(replace(one, first=one.first + more, last=one.last + more) for one in own.motions)],
        operations=base.operations + own.operations,
        goes_on=True,
    )
