"""Cutting planes: seen on edge in one view, they cut a face in a line that the other view shows, and so a line meets it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.space.planes import Names, apart, place
from wisecompass.drafting.auxiliary import auxiliary
from wisecompass.drafting.view import View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Pair
from wisecompass.geometry.plane import Line


def partner(views: Views, view: View, names: Names, line: tuple[str, str], carried: Sequence[str]) -> View:
    """The view that a cutting plane along a line is worked with: the neighbour, or where edges or the line run along its
    projectors, an auxiliary view."""
    p, q = line
    seen = view.line(p, q)
    other = view.before
    assert other is not None
    end_on = _end_on(view, p, q)
    if end_on:
        seen = view.line(_corner(view, names, p), p)
    tried = [None, *(pair for pair in ((p, q), *combinations(names, 2)) if not _end_on(view, *pair))]
    for pair in tried:
        direction = view.line(*pair) if pair else view.away[other]
        along = (roughly(direction.dx), roughly(direction.dy))
        run = roughly(seen.dx) * along[0] + roughly(seen.dy) * along[1]
        useful = abs(run) > 1e-9 * math.hypot(*along) * math.hypot(roughly(seen.dx), roughly(seen.dy))
        if useful and crossed(view, along, names, seen):
            if pair is None:
                return other
            why = "instead of the other view, in which lines to be crossed stand along the projectors"
            return auxiliary(views, view, direction, carried, before=other, why=why)
    return other


def _corner(view: View, names: Names, p: str) -> str:
    """The corner of a face that lies farthest from a point across the projectors."""
    other = view.before
    assert other is not None
    fx, fy = fold_between(view, other)
    x0, y0 = place(view.images[p])
    return max(names, key=lambda n: abs((place(view.images[n])[0] - x0) * fx + (place(view.images[n])[1] - y0) * fy))


def _end_on(view: View, p: str, q: str) -> bool:
    """Whether a view shows two points in one place."""
    return apart(view, p, q) < 1e-18 * (1 + max(x * x + y * y for x, y in view.spots()))


def pierce(
    views: Views, views_used: tuple[View, View], names: Names, line: tuple[str, str], marks: tuple[str, str, str]
) -> None:
    """Where a line goes through a plane: a cutting plane that the first view shows on edge along the line meets two edges
    of the face; their other images give its cut, and the cut meets the line. ``marks`` names both crossings and the
    point."""
    b, (view, other) = views.board, views_used
    p, q = line
    end_on = _end_on(view, p, q)
    if end_on:
        corner = _corner(view, names, p)
        b.step_reason(f"The {view.title} of {p}{q} is a point: any cutting plane through it will do, say through {corner}")
        cut = b.line(view.images[corner], view.images[p], "cutting plane")
    else:
        cut = b.line(view.images[p], view.images[q], "cutting plane", why=f"seen on edge along {p}{q}")
    trace = cut_of(views, view, other, names, cut, marks[:2])
    found = marks[2]
    views.mark(other, found, trace, views.line_of(other, p, q))
    if end_on:
        views.same(view, found, p)
    else:
        views.project(found, other, view, cut)


def cut_of(views: Views, view: View, other: View, names: Names, cut: Line, marks: Sequence[str]) -> Line:
    """The other image of the line in which a cutting plane, on edge in the view, cuts a face."""
    b = views.board
    pairs = crossed(view, fold_between(view, other), names, cut)
    if len(pairs) == 1:
        (corner,) = (n for n in names if n not in pairs[0])
        b.step_reason(f"The cutting plane goes through {corner} and runs with {''.join(pairs[0])}: so does its cut")
        return b.parallel(views.line_of(other, *pairs[0]), other.images[corner], "cut of the face")
    for name, (one, two) in zip(marks, pairs, strict=True):
        if not _within(view, cut, one, two):
            edge = f"{view.images[one].name}{view.images[two].name}"
            b.step_reason(f"The cutting plane meets {edge} only beyond its end: draw it on, it still lies in the plane")
        views.mark(view, name, cut, views.line_of(view, one, two))
        rest = next(pair for pair in pairs if pair != (one, two))
        if b.slips(f"projected to {''.join(rest)} instead of to {one}{two}, for {name}"):
            one, two = rest
        views.project(name, view, other, views.line_of(other, one, two))
    return views.join(other, marks[0], marks[1], why="the cut of the cutting plane with the face")


def fold_between(view: View, other: View) -> Pair:
    """The direction of the fold between two views."""
    fold = view.away[other]
    return roughly(fold.dx), roughly(fold.dy)


def crossed(view: View, along: Pair, names: Names, cut: Line) -> list[tuple[str, str]]:
    """Two edges that a line of the view crosses in different places: within the edges if it may be, at a good angle, far
    apart; no edge along the projectors, where a crossing could not be carried over the fold ``along``. Where the line goes
    through a corner and runs with the opposite edge, that edge alone; nothing where there is neither."""
    dx, dy = roughly(cut.dx), roughly(cut.dy)
    x0, y0 = place(cut.at)
    steep, over = math.hypot(dx, dy) or 1.0, math.hypot(*along) or 1.0
    spots = {n: place(view.images[n]) for n in names}
    found: list[tuple[tuple[str, str], float, float]] = []
    level: list[tuple[str, str]] = []
    for pair in combinations(names, 2):
        (ax, ay), (bx, by) = spots[pair[0]], spots[pair[1]]
        ex, ey = bx - ax, by - ay
        size = math.hypot(ex, ey)
        if size < 1e-9 * (1.0 + abs(ax) + abs(ay)):
            continue  # seen end-on
        turn = (ex * dy - ey * dx) / (size * steep)
        run = (ex * along[0] + ey * along[1]) / (size * over)
        if abs(turn) <= 1e-9:
            level.append(pair)
        elif abs(run) > 1e-9:
            share = ((x0 - ax) * dy - (y0 - ay) * dx) / (ex * dy - ey * dx)
            where = ((ax + ex * share - x0) * dx + (ay + ey * share - y0) * dy) / (dx * dx + dy * dy)
            found.append((pair, where, (2.0 if 0 <= share <= 1 else 0.0) + min(abs(turn), abs(run))))

    def worth(two: tuple[tuple[tuple[str, str], float, float], ...]) -> tuple[bool, float]:
        (_, one, first), (_, another, second) = two
        return abs(one - another) > 1e-9, first + second

    best = max(combinations(found, 2), key=worth, default=None)
    if best is not None and worth(best)[0]:
        return [pair for pair, _, _ in best]
    return level[:1] if best is not None else []


def outside(view: View, cut: Line, pair: tuple[str, str]) -> float:
    """How far beyond the ends of an edge a line crosses it, in lengths of the edge."""
    one, other = (roughly(plane.side_of(view.images[n], cut)) for n in pair)
    share = one / (one - other) if one != other else math.inf
    return max(0.0, -share, share - 1.0)


def _within(view: View, cut: Line, one: str, two: str) -> bool:
    """Whether a line crosses an edge between its ends."""
    sides = [roughly(plane.side_of(view.images[n], cut)) for n in (one, two)]
    return sides[0] * sides[1] <= 0
