"""Auxiliary views: a new fold line off any view, and the transfer of distances from the view before last.

True length, point view, edge view and true shape all come of this one operation. The fold line is put as near as the
letters allow, on the side where the sheet grows least, and distances are taken from a datum through the nearest point
instead of being carried in full. Somebody who drags the view sets the distance himself (``Board.places``).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from fractions import Fraction

from wisecompass.arithmetic import roughly
from wisecompass.arithmetic.undecided import Undecided
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import Setting, anything
from wisecompass.drafting.step import Instrument
from wisecompass.drafting.view import Placed, View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Pair
from wisecompass.geometry.plane import Line, Point

CLEAR = 0.13
"""White between a view and the fold line of the next, as a share of the figure's size: room for letters."""

BETWEEN = 5
"""Parts into which the way between two points of a view is cut to find what it covers."""

LEAST_CLEAR = 1.0
SHEET = 1.55
"""Width of a lying sheet's room over its height, by which the side for a view is chosen."""

_BELOW = str.maketrans("0123456789", "₀₁₂₃₄₅₆₇₈₉")


def auxiliary(
    views: Views,
    beside: View,
    along: Line,
    names: Sequence[str],
    *,
    square: bool = False,
    before: View | None = None,
    full: Line | None = None,
    left: bool | None = None,
    why: str = "",
) -> View:
    """A view whose fold line runs with a line of the view ``beside`` it, or ``square`` to it.

    A fold line along a line's view gives its true length; square to a true length it gives the point view; square to a
    level line of a plane its edge view; along an edge view the true shape. With ``full`` distances are carried whole, from
    that fold line, instead of from a datum. The view comes on the side where the sheet grows least, or where it is wanted:
    to the ``left`` of the line along which the fold runs (square: as it is turned a quarter anticlockwise), or to its right.
    """
    b = views.board
    before = before or beside.before
    assert before is not None
    number = len(views.auxiliaries) + 1
    tag = str(number).translate(_BELOW)
    dx, dy = (-along.dy, along.dx) if square else (along.dx, along.dy)
    read_from = before.away[beside]
    nearest = min(names, key=lambda n: roughly(plane.distance_to_line(before.images[n], read_from)))
    datum_at = before.images[nearest] if full is None else full.at
    reading = Line(datum_at, read_from.dx, read_from.dy, views.ground.name if full is None else full.name)
    depths = {n: roughly(plane.distance_to_line(before.images[n], reading)) for n in names}
    wanted = b.places.get(str(number))
    flip, gap = _planned(views, beside, (roughly(dx), roughly(dy)), depths, wanted, None if left is None else not left)
    if flip:
        dx, dy = -dx, -dy
    away = (-roughly(dy), roughly(dx))
    outermost = max(names, key=lambda n: _dot((roughly(beside.images[n].x), roughly(beside.images[n].y)), away))
    # ------------------------------------------------------------------------------------------------ the fold line
    name, clear = f"X{tag}Y{tag}", b.number(gap)
    corner = beside.images[outermost]
    how = "square to" if square else "along"
    on = (along.name, corner.name)
    slope = math.degrees(math.atan2(roughly(dy), roughly(dx)))
    b.step("fold", Instrument.SET_SQUARE, setting=clear, on=on, makes=[name], why=why, base_angle=slope)
    begun = len(b.steps)
    sides = (plane.short_of, plane.beyond) if square else (plane.left_of, plane.right_of)
    more = {"how": how, "along": (roughly(dx), roughly(dy))}
    b.note("fold", (along, corner), (name,), setting=anything(clear), which=sides[flip](along), why=why, more=more)
    ruled = Line(corner, dx, dy).offset(clear, name)
    fold = b.ruled(ruled, ruled.at, pen=Pen.GIVEN)
    datum = reading
    if full is None:
        on = (_fold_name(views, beside, before), before.images[nearest].name)
        name = f"datum for {fold.name}"
        name = b.unique(name)
        b.step("datum", Instrument.SET_SQUARE, on=on, makes=[name], why="to carry shorter distances")
        b.note("parallel", (on[0], before.images[nearest]), (name,), why="to carry shorter distances")
        datum = b.ruled(Line(datum_at, read_from.dx, read_from.dy, name), datum_at)
    new = view_on(views, beside, (before, datum), fold, names)
    if b.drawing:
        way = -1.0 if flip else 1.0
        size = math.hypot(*away) or 1.0
        ux, uy = away[0] / size, away[1] / size
        b.placed.append(
            Placed(
                str(number),
                fold.name,
                way * float(gap),
                ux * way,
                uy * way,
                tuple(new.spots()),
                begun,
                new.space(uy, -ux),
                new.space(ux, uy),
                beside.space(ux, uy),
            )
        )
    return new


def view_on(
    views: Views,
    beside: View,
    read: tuple[View, Line],
    fold: Line,
    names: Sequence[str],
    title: str = "",
    label: Callable[[str], str] | None = None,
) -> View:
    """The view beyond a fold line that is drawn already, off the view ``beside`` it: each point on its projector, as far
    beyond as the view that is ``read`` shows it from the datum there. The fold line has the new view on its left. It is an
    auxiliary view of the next number unless it has a ``title`` and a way to ``label`` its points."""
    b, (before, datum) = views.board, read
    labels, number = b.conventions, len(views.auxiliaries) + 1
    new = View(
        title or f"auxiliary view {number}",
        label or (lambda point: labels.auxiliary_name(point, number)),
        beside.right,
        beside.up,
        before=beside,
    )
    _fold_in_space(new, beside, before, (roughly(fold.dx), roughly(fold.dy)))
    new.away[beside] = fold
    beside.away[new] = Line(fold.at, -fold.dx, -fold.dy, fold.name)
    views.auxiliaries.append(new)
    views.references[new] = (before, datum)
    new.fold_ends = _fold_ends(views, fold, [beside.images[n] for n in names])
    if b.drawing:
        _letter_ends(views, fold, new, str(number).translate(_BELOW))
    depths = {n: roughly(plane.distance_to_line(before.images[n], datum)) for n in names}
    for point in sorted(names, key=lambda n: depths[n] == 0):  # what lies on the fold line comes last
        views.transfer(point, beside, (before, datum), (new, fold))
    return new


def upright_fold(views: Views, corner: Point, clear: Setting, *, right: bool) -> Line:
    """The upright fold line of a side view, ``clear`` mm to the right or left of a point of the front view, so turned that a
    view to its right is drawn there when distances are read from VP."""
    b, ground = views.board, views.ground
    name = f"X{(tag := str(len(views.auxiliaries) + 1).translate(_BELOW))}Y{tag}"
    b.step("fold", Instrument.SET_SQUARE, setting=clear, on=(ground.name, corner.name), makes=[name], base_angle=90.0)
    which = (plane.beyond if right else plane.short_of)(ground)
    down = -1.0 if right else 1.0
    more = {"how": "square to", "along": (0.0, down)}
    b.note("fold", (ground, corner), (name,), setting=clear, which=which, why="VP on edge, for a side view", more=more)
    at = corner.moved(clear.number if right else -clear.number, clear.number * 0)
    return b.ruled(Line(at, clear.number * 0, clear.number * 0 + int(down), name), at, pen=Pen.GIVEN)


def carry_back(views: Views, name: str, new: View, why: str = "") -> Point:
    """A point known in an auxiliary view and in the view beside it, carried to the view before: its distance from the
    fold line is laid off from the datum there."""
    before, datum = views.references[new]
    beside = new.before
    assert beside is not None
    return views.transfer(name, beside, (new, new.away[beside]), (before, datum), why)


def _fold_name(views: Views, beside: View, before: View) -> str:
    for view in (beside, before):
        if view in views.references:
            return view.away[view.before].name if view.before is not None else ""
    return views.ground.name


def _planned(
    views: Views, beside: View, fold: Pair, depths: dict[str, float], wanted: float | None, flip: bool | None
) -> tuple[bool, Fraction]:
    """Whether the fold is turned round, so that the view comes on its other side, and how far the fold line keeps from
    the view beside it. ``wanted`` is what somebody has dragged it to, ``flip`` what the method asks for."""
    size = max(_span(view.spots()) for view in (views.front_view, views.top_view))
    size = size or _span(_covered(views, list(depths), lambda _: True)) or 1.0
    room = max(CLEAR * size, 1e-6)
    if wanted is not None:
        return wanted < 0 if flip is None else flip, Fraction(max(abs(wanted), LEAST_CLEAR)).limit_denominator(100)
    best: tuple[float, bool, float] | None = None
    spots = {n: (roughly(beside.images[n].x), roughly(beside.images[n].y)) for n in depths}
    length = math.hypot(*fold) or 1.0
    ax, ay = fold[0] / length, fold[1] / length
    bx, by = -ay, ax
    feet = {n: x * ax + y * ay for n, (x, y) in spots.items()}
    stands = [x * bx + y * by for x, y in spots.values()]
    low, high = min(feet.values()) - room, max(feet.values()) + room
    taken = _covered(views, list(depths), lambda spot: low <= spot[0] * ax + spot[1] * ay <= high)
    xs, ys = zip(*taken, strict=True)
    box = min(xs), min(ys), max(xs), max(ys)
    in_the_way = [x * bx + y * by for x, y in taken if low <= x * ax + y * ay <= high] + stands
    for way, outermost, farthest in ((1.0, max(stands), max(in_the_way)), (-1.0, -min(stands), -min(in_the_way))):
        gap = farthest - outermost + room - min(0.0, *depths.values())
        outs = {n: way * (outermost + gap + depth) for n, depth in depths.items()}
        xs, ys = zip(*((ax * feet[n] + bx * out, ay * feet[n] + by * out) for n, out in outs.items()), strict=True)
        wide, tall = max(box[2], *xs) - min(box[0], *xs), max(box[3], *ys) - min(box[1], *ys)
        cost = max(wide / SHEET, tall)
        if flip not in (None, way < 0):
            continue
        if best is None or cost < best[0] - 1e-9:
            best = (cost, way < 0, gap)
    assert best is not None
    if not math.isfinite(best[2]):
        raise Undecided("places are not known at this precision")
    grid = 2 if size > 10 else 1000
    return best[1], Fraction(math.ceil(best[2] * grid), grid)


def _covered(views: Views, names: Sequence[str], is_beside: Callable[[Pair], bool]) -> list[Pair]:
    """Places that are taken: these points in all views and what lies between them, and all fold lines. What lies between
    two that are both beside the new view lies no farther than they do."""
    found: list[Pair] = []
    for view in views.all:
        spots = [(roughly(view.images[n].x), roughly(view.images[n].y)) for n in names if n in view.images]
        found += spots
        beside = [is_beside(spot) for spot in spots]
        for i, first in enumerate(spots):
            for j in range(i):
                if not (beside[i] and beside[j]):
                    found += _between(first, spots[j])
        if len(view.fold_ends) == 2:
            found += [*view.fold_ends, *_between(*view.fold_ends)]
    xs = [x for view in (views.front_view, views.top_view) for x, _ in view.spots()]
    for line in (views.ground, views.wall):
        ends = (min(xs), roughly(line.at.y)), (max(xs), roughly(line.at.y))
        found += [*ends, *_between(*ends)]
    return found


def _between(first: Pair, second: Pair) -> list[Pair]:
    (x1, y1), (x2, y2) = first, second
    return [(x1 + (x2 - x1) * k / BETWEEN, y1 + (y2 - y1) * k / BETWEEN) for k in range(1, BETWEEN)]


def _fold_in_space(new: View, beside: View, before: View, fold: Pair) -> None:
    """What right and up on the sheet are in space, in the new view."""
    length = math.hypot(*fold) or 1.0
    along = (fold[0] / length, fold[1] / length)
    away = (-along[1], along[0])
    reading = before.away[beside]
    turned = (-roughly(reading.dy), roughly(reading.dx))
    size = math.hypot(*turned) or 1.0
    first, second = beside.space(*along), before.space(turned[0] / size, turned[1] / size)
    x, y = (tuple(along[i] * p + away[i] * q for p, q in zip(first, second, strict=True)) for i in (0, 1))
    new.right, new.up = (x[0], x[1], x[2]), (y[0], y[1], y[2])


def _fold_ends(views: Views, fold: Line, images: Sequence[Point]) -> tuple[Pair, ...]:
    """Where the fold line ends: clear of the last projectors."""
    fx, fy = roughly(fold.dx), roughly(fold.dy)
    length = math.hypot(fx, fy) or 1.0
    along = (fx / length, fy / length)
    at = (roughly(fold.at.x), roughly(fold.at.y))
    feet = [_dot((roughly(p.x), roughly(p.y)), along) - _dot(at, along) for p in images]
    room = max(_span(views.front_view.spots()), _span(views.top_view.spots())) * 0.07
    ends = (min(feet) - room, max(feet) + room)
    return tuple((at[0] + along[0] * end, at[1] + along[1] * end) for end in ends)


def _letter_ends(views: Views, fold: Line, new: View, tag: str) -> None:
    """Letter the ends of the fold line."""
    (x1, y1), (x2, y2) = new.fold_ends
    length = math.hypot(x2 - x1, y2 - y1) or 1.0
    ux, uy = (x2 - x1) / length, (y2 - y1) / length
    for x, y, letter, way in ((x1, y1, "X", -1), (x2, y2, "Y", 1)):
        views.board.extend(fold, Point(x, y))
        views.board.letter(Point(x, y), f"{letter}{tag}", (ux * way, uy * way))


def _dot(one: Pair, other: Pair) -> float:
    return one[0] * other[0] + one[1] * other[1]


def _span(spots: Sequence[Pair]) -> float:
    """The diagonal of the box of some places."""
    if not spots:
        return 0.0
    xs, ys = zip(*spots, strict=True)
    return math.hypot(max(xs) - min(xs), max(ys) - min(ys))
