"""A solid drawn by change of position: standing, tilted, turned, each view redrawn from the one before.

The tilted front view is the standing one laid at an angle, so every point keeps its distance from VP; the turned top view is
the tilted one laid at an angle, so every point keeps its height.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar

from wisecompass.arithmetic import Number, roughly
from wisecompass.catalogue.solids.body import (
    APEX,
    END_MIDDLE,
    GENERATORS,
    MIDDLE,
    Solid,
    begin,
    lettered_points,
    own_place,
    stations,
)
from wisecompass.catalogue.solids.lying import TILTED, Lying, in_position, lean
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Naming, Projection
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import Settable, span
from wisecompass.drafting.view import View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point

G = TypeVar("G", bound=Solid)

BETWEEN = 0.3
"""White between two positions, as a share of the solid's height and base."""


@dataclass
class Position:
    """One position: its front and top view. Points that a view shows in one place share an image, lettered with all."""

    up: View
    low: View
    levels: dict[str, Line] = field(default_factory=dict)
    """Level lines through its images, by their letters."""
    circles: dict[str, Circle] = field(default_factory=dict)
    """Rims of a round solid in the standing top view, by the letter of their middle."""
    feet: dict[str, Point] = field(default_factory=dict)
    """Where the projectors of pairs cross the axis in the top view, by the letter of the first."""

    def station(self, letter: str) -> Point:
        """The place on the axis in the top view that a point, or a pair, stands at."""
        return self.feet.get(letter) or self.low.images[letter]


@dataclass
class Sheet(Generic[G]):
    """What all positions share."""

    b: Board
    g: G
    views: Views
    groups: list[tuple[int, ...]]
    axis: Line
    """The level line through the middle of the base in the top views."""

    @property
    def rows(self) -> list[tuple[Sequence[str], str, list[list[str]]]]:
        """Base and other end: the letters, the middle, and the letters at each station from the right to the left."""
        g = self.g
        found = [(g.base_letters, MIDDLE)] + ([] if g.is_pointed else [(g.end_letters, END_MIDDLE)])
        return [(row, middle, [[row[k] for k in group] for group in self.groups]) for row, middle in found]

    @property
    def top(self) -> str:
        """The letter of the upper end of the axis."""
        return APEX if self.g.is_pointed else END_MIDDLE


def tagged(views: Views, tag: str) -> Position:
    """A position whose letters bear a number; without one it is the final one, in the principal views."""
    if not tag:
        return Position(views.front_view, views.top_view)
    primes = views.board.conventions.naming is Naming.PRIMES
    low = tag.translate(str.maketrans("123", "₁₂₃"))

    def label(point: str, front: bool) -> str:
        if primes:
            return f"{point.lower()}{low}{'′' if front else ''}"
        return f"{tag}{point}{'' if front else '₁'}"

    up, down = views.front_view, views.top_view
    found = Position(
        View("front view", lambda p: label(p, True), up.right, up.up),
        View("top view", lambda p: label(p, False), down.right, down.up),
    )
    found.up.away[found.low], found.low.away[found.up] = up.away[down], down.away[up]
    return found


def keep(b: Board, view: View, names: Sequence[str], image: Point) -> None:
    """The image of one or several points: a place that bears the letter of the first bears those of the others as well."""
    view.images[names[0]] = image
    for name in names[1:]:
        view.images[name] = b.mark_point(image.named(view.label(name)))


# ------------------------------------------------------------------------------------------------------------- standing
def stand(b: Board, g: G, tag: str = "") -> tuple[Sheet[G], Position]:
    """The solid on its base, its axis upright: the true shape of the base in the top view, its height in the front view.
    With a ``tag`` it is only the first position."""
    across = 2 * max(abs(roughly(p.x)) for p in lettered_points(g, begin(g)).values())
    deep = math.hypot(roughly(g.height), across) if tag else across
    high = math.hypot(roughly(g.height), across) if tag else roughly(g.height)
    views = Views.on(b, b.number(round(roughly(g.room) + deep + high * 1.1) + 1))
    one = tagged(views, tag)
    shared = [MIDDLE] + ([APEX] if g.is_pointed else [END_MIDDLE])
    views.set_out(MIDDLE, b.number(0), g.room, b.number(0), into=(one.up, one.low))
    keep(b, one.low, shared, one.low.images[MIDDLE])
    middle = one.low.images[MIDDLE]
    axis = b.level_line(middle, "axis in the top view", why="the middle line of the base")
    sheet = Sheet(b, g, views, stations(g), axis)
    (_round_base if g.is_round else _flat_base)(sheet, one)
    _raise(sheet, one)
    return sheet, one


def _flat_base(s: Sheet[Any], one: Position) -> None:
    """The base from its side: the ray to a corner cut by a parallel half a side away; the circle through it, stepped off."""
    b, g = s.b, s.g
    names = [one.low.label(p) for p in g.base_letters]
    start, on, ring = _first_corner(s, one, names)
    order = [k % g.sides for k in range(start + 1, start + g.sides)]
    found = b.step_off(ring, on, g.base, [names[i] for i in order], why="the side carried round")
    b.caution("Stepping errors add up: the last corner must come out a side from the first.")
    images = dict(zip([start, *order], [on, *found], strict=True))
    for i in range(g.sides):
        keep(b, one.low, _at(g, i), images[i])
    if g.is_frustum:
        k = one.low.images[MIDDLE]
        rays = [b.line(k, images[i]) for i in range(g.sides)]
        label = [one.low.label(p) for p in g.end_letters]
        inner, corner = _cut(s, _middle(s, k), rays[1], g.top, "top", label[1])
        one.low.images[g.end_letters[1]] = corner
        for i in (*range(2, g.sides), 0):
            b.pencil()
            one.low.images[g.end_letters[i]] = b.meet(inner, rays[i], plane.beyond(rays[i]), label[i])


def _first_corner(s: Sheet[Any], one: Position, names: Sequence[str]) -> tuple[int, Point, Circle]:
    """Which corner is found first, that corner, and the circle through all. A hexagon has one on a line that is there."""
    b, g, k = s.b, s.g, one.low.images[MIDDLE]
    if g.sides == 6 and not (g.stands and g.decide(lambda h: h.turned)):
        ring = b.arc(k, g.base, name="circle of the base", why="the side of a hexagon is its radius", whole=True)
        start = 0 if g.support == "corner" else 2
        line = s.views.projectors[MIDDLE] if g.support == "edge" or g.support == "face" else s.axis
        b.pencil()
        return start, b.meet(ring, line, plane.beyond(line), names[start]), ring
    middle = _middle(s, k)
    ray = b.protract(middle, k, b.turn(1, 2 * g.sides), "ray to B", why="half the angle of a side")
    ring, corner = _cut(s, middle, ray, g.base, "base", names[1])
    return 1, corner, ring


def _middle(s: Sheet[Any], k: Point) -> Line:
    """The line from the middle of the base square to its side AB."""
    b, g = s.b, s.g
    if g.stands:
        return b.protract(s.axis, k, g.turned - 90, "middle of the side AB", why="a side in front, turned")
    if g.support == "corner":
        return b.protract(s.axis, k, b.turn(1, 2 * g.sides), "middle of the side AB", why="a corner on the axis")
    return s.axis


def _cut(s: Sheet[Any], middle: Line, ray: Line, side: Settable, of: str, letter: str) -> tuple[Circle, Point]:
    """The circle through the corners of a polygon, and the corner on the ray: half a side from the line to the side's
    middle. Of a hexagon the side is the radius."""
    b, k = s.b, ray.at
    if s.g.sides == 6:
        circle = b.arc(k, side, name=f"circle of the {of}", why="the side of a hexagon is its radius", whole=True)
        return circle, b.meet(circle, ray, plane.beyond(ray), letter)
    square = b.square(middle, k, f"square for the {of}")
    at = b.lay_off(square, k, side / 2, f"half a side of the {of}")
    corner = b.meet(b.parallel(middle, at, f"parallel for the {of}"), ray, name=letter)
    return b.circle_through(k, corner, name=f"circle of the {of}"), corner


def _at(g: Solid, i: int) -> list[str]:
    """The letters at a corner of the base in the top view of the standing solid."""
    return [g.base_letters[i], g.end_letters[i]] if g.is_straight else [g.base_letters[i]]


def _round_base(s: Sheet[Any], one: Position) -> None:
    """The base by its radius, divided in eight by the set squares, or in as many parts as are wanted."""
    b, g, k = s.b, s.g, one.low.images[MIDDLE]
    circle = b.arc(k, g.base / 2, name="circle of the base", whole=True)
    ring = b.arc(k, g.top / 2, name="circle of the top", whole=True) if g.is_frustum else None
    one.circles = {MIDDLE: circle, END_MIDDLE: circle if ring is None else ring}
    if g.corners != GENERATORS:
        names = [one.low.label(letter) for letter in g.base_letters]
        for i, image in enumerate(b.divide_circle(circle, g.corners, 0, names, why="anticlockwise, from the right")):
            keep(b, one.low, _at(g, i), image)
        return
    ways = [
        s.axis,
        b.set_square_line(k, 45, "diameter 1"),
        b.upright_line(k, "diameter 2"),
        b.set_square_line(k, 135, "diameter 3"),
    ]
    for i, way in enumerate(ways):
        for rim, letters in ((circle, g.base_letters), (ring, g.end_letters)):
            if rim is None:
                continue
            pair = one.low.label(letters[i]), one.low.label(letters[i + 4])
            b.pencil()
            for n, image in zip((i, i + 4), b.both(rim, way, pair, plane.beyond(way)), strict=True):
                keep(b, one.low, _at(g, n) if rim is circle else [letters[n]], image)


def _raise(s: Sheet[Any], one: Position) -> None:
    """The front view over the top view: the base on the ground line, the other end at the height."""
    b, g, up = s.b, s.g, one.up
    height = b.lay_off(s.views.projectors[MIDDLE], up.images[MIDDLE], g.height, up.label(s.top), why="the height")
    up.images[s.top] = height
    level = None if g.is_pointed else b.level_line(height, "level of the top")
    if level is not None:
        one.levels[END_MIDDLE] = level
    for onto, (_, _, groups) in zip((s.views.ground, level), s.rows, strict=False):
        for letters in groups:
            assert onto is not None
            keep(b, up, letters, s.views.project(letters[0], one.low, up, onto))


# ---------------------------------------------------------------------------------------------------------------- tilted
def tilt_over(s: Sheet[Lying], one: Position) -> Position:
    """The front view laid anew at its angle on the ground line, and the top view under it."""
    b, g, views = s.b, s.g, s.views
    two = tagged(views, "2")
    rest, start = s.rows[0][2][0], one.up.images[s.rows[0][2][0][0]]
    spread = {name: roughly(p.x) for name, p in in_position(g, 2).items()}
    left = spread[rest[0]] - min(spread.values())
    away = b.any_opening(b.number(round(left + _white(g))))
    stand_on = b.lay_off(views.ground, start, away, two.up.label(rest[0]), why="to the right, where there is room")
    keep(b, two.up, rest, stand_on)
    base = _base_line(s, one, two, stand_on)
    for letters in [*s.rows[0][2][1:], [MIDDLE]]:
        if len(letters) == 2 and _side(s, letters[0]) == 0:
            letters = [MIDDLE, *letters]
        if letters[0] not in two.up.images:
            length = span(start, one.up.images[letters[0]])
            keep(b, two.up, letters, b.lay_off(base, stand_on, length, two.up.label(letters[0]), why="carried over"))
    middle = two.up.images[MIDDLE]
    axis = b.square(base, middle, "axis in the front view", why="it stands square on the base")
    if s.top not in two.up.images:
        two.up.images[s.top] = b.lay_off(axis, middle, g.height, two.up.label(s.top), back=True, why="the height")
    if not g.is_pointed:
        for letters in s.rows[1][2]:
            if _side(s, letters[0]) == 0:
                keep(b, two.up, [END_MIDDLE, *letters], two.up.images[END_MIDDLE])
        over = b.parallel(base, two.up.images[s.top], "line of the top")
        for below, letters in zip(s.rows[0][2], s.rows[1][2], strict=True):
            _along_the_top(s, one, two, (over, axis), below[0], letters)
    _drop(s, one, two)
    return two


def _white(g: Lying) -> float:
    return BETWEEN * (roughly(g.height) + roughly(g.base) * 2)


def _base_line(s: Sheet[Lying], one: Position, two: Position, stand_on: Point) -> Line:
    """The line of the base through what it rests on."""
    b, g, views = s.b, s.g, s.views
    if g.support in TILTED:
        slope = 180 - (90 - g.axis_to_hp)
        line = b.protract(views.ground, stand_on, slope, "line of the base", why="square to the axis at its inclination")
        b.caution("The inclination is that of the axis; the base lies at what is left to 90°.")
        return line
    if g.is_straight:
        return b.upright_line(stand_on, "line of the base", why="the solid lies on its side")
    rest, far = s.rows[0][2][0], s.rows[0][2][-1]
    end = [APEX] if g.is_pointed else s.rows[1][2][0]
    tip = one.up.images[end[0]]
    start, back = one.up.images[rest[0]], one.up.images[far[0]]
    lain = b.lay_off(views.ground, stand_on, span(start, tip), two.up.label(end[0]), why="its slope, now on HP")
    keep(b, two.up, end, lain)
    first = b.arc(stand_on, span(start, back), why="the base as it stands")
    second = b.arc(lain, span(tip, back), why="carried over")
    keep(b, two.up, far, b.meet(first, second, plane.upper, two.up.label(far[0])))
    return b.line(stand_on, two.up.images[far[0]], "line of the base")


def _along_the_top(
    s: Sheet[Lying], one: Position, two: Position, lines: tuple[Line, Line], below: str, letters: Sequence[str]
) -> None:
    """A station of the other end: on the parallel with the axis through that of a straight solid's base, or as far from the
    middle as it stands."""
    if letters[0] in two.up.images:
        return
    b, (over, axis) = s.b, lines
    top, name, side = two.up.images[END_MIDDLE], two.up.label(letters[0]), _side(s, letters[0])
    if s.g.is_straight:
        start = two.up.images[below]
        keep(b, two.up, letters, b.meet(b.parallel(axis, start, f"parallel through {start.name}"), over, name=name))
    else:
        length = span(one.up.images[END_MIDDLE], one.up.images[letters[0]])
        keep(b, two.up, letters, b.lay_off(over, top, length, name, back=side > 0, why="carried over"))


def _side(s: Sheet[Lying], letter: str) -> int:
    """On which side of the axis a point of the standing solid lies in the front view; 0 where it is on it."""
    g = s.g
    x = own_place(g, letter).x
    size = abs(roughly(x))
    if size > 1e-6 * roughly(g.base):
        return 1 if roughly(x) > 0 else -1
    return g.decide(lambda h: own_place(h, letter).x)


def _drop(s: Sheet[Lying], one: Position, two: Position) -> None:
    """The top view of the tilted solid: under each point of the front view, as far from VP as it stood."""
    b, g = s.b, s.g
    on = {MIDDLE: s.axis, s.top: s.axis}
    for i, (row, _, groups) in enumerate(s.rows):
        for letters in groups:
            for letter in letters:
                key = g.base_letters[row.index(letter)] if i == 1 and g.is_straight else letter
                standing = one.low.images[key]
                if key not in one.levels:
                    name = f"level of {standing.name}"
                    alone = len(letters) == 1
                    one.levels[key] = s.axis if alone else b.level_line(standing, name, pen=Pen.PROJECTOR)
                on[letter] = one.levels[key]
    for letter, level in on.items():
        s.views.project(letter, two.up, two.low, level)
    for first, *others in (letters for _, _, groups in s.rows for letters in groups):
        if others:
            name = f"station of {two.low.label(first)}"
            two.feet[first] = s.views.projected(two.up.images[first], (two.up, two.low), s.axis, name)


# ---------------------------------------------------------------------------------------------------------------- turned
def turn_round(s: Sheet[Lying], two: Position) -> Position:
    """The top view laid anew at its angle, and the front view over it at the heights of the one before."""
    b, g, views = s.b, s.g, s.views
    three = tagged(views, "")
    centre = two.low.images[MIDDLE]
    points = list(in_position(g, 2).values())
    reach = max((roughly(p.x) ** 2 + (roughly(p.front) - roughly(g.room)) ** 2) ** 0.5 for p in points)
    right = max(roughly(p.x) for p in points)
    third = b.conventions.projection is Projection.THIRD  # the view from the left then stands to the left
    aside = 2 * reach + roughly(g.room) if third else 0.0
    away = b.any_opening(b.number(round(reach + right + aside + _white(g))))
    middle = b.lay_off(s.axis, centre, away, three.low.label(MIDDLE), why="to the right, where there is room")
    three.low.images[MIDDLE] = middle
    axis = _axis_in_plan(s, two, three)
    along, above = lie_of(g)
    _turn_stations(s, two, three, axis, along)
    _lift(s, two, three, above)
    return three


def _axis_in_plan(s: Sheet[Lying], two: Position, three: Position) -> Line:
    """The top view of the axis: at the apparent angle, or found from the true one by the locus of its end."""
    b, g, k = s.b, s.g, three.low.images[MIDDLE]
    if g.counted == "apparent":
        line = b.protract(s.axis, k, -g.axis_to_vp, "axis turned", why="the apparent inclination is that of the top view")
        b.caution("The true inclination to VP is not laid in the top view: there only the apparent one shows.")
        return line
    if g.decide(lean) == 0:
        line = b.upright_line(k, "axis turned", why="both inclinations together are 90°: it lies square to XY")
        return Line(line.at, -line.dx, -line.dy, line.name)
    slope = b.protract(s.axis, k, -g.axis_to_vp, "true slope to VP", why="as if the axis were level")
    b.caution("The true length belongs on the true angle; laid on it the shorter top view would lie too near VP.")
    end = b.lay_off(slope, k, g.height, "end at the true slope", why="the true length of the axis")
    locus = b.parallel(s.axis, end, "locus of the end", why="so far from VP its end lies", pen=Pen.LOCUS)
    swung = b.arc(k, span(two.low.images[MIDDLE], two.low.images[s.top]), why="the length of the top view")
    three.low.images[s.top] = b.meet(swung, locus, plane.rightmost, three.low.label(s.top))
    return b.line(k, three.low.images[s.top], "axis turned")


def _turn_stations(s: Sheet[Lying], two: Position, three: Position, axis: Line, along: Mapping[str, int]) -> None:
    """Every point of the tilted top view as far along the axis and as far from it as there: first the places on the axis,
    then the squares there, then what lies to its right and to its left."""
    b = s.b
    k, centre, images = three.low.images[MIDDLE], two.low.images[MIDDLE], three.low.images
    groups = [[s.top], *(letters for _, _, groups in s.rows for letters in groups)]
    groups = [letters for letters in groups if letters[0] not in images]
    places: dict[str, Point] = {}
    for first, *others in sorted(groups, key=lambda letters: (along[letters[0]] != 0, -along[letters[0]])):
        name = f"station of {three.low.label(first)}" if others else three.low.label(first)
        if along[first]:
            places[first] = b.lay_off(
                axis, k, span(centre, two.station(first)), name, back=along[first] < 0, why="carried over"
            )
        else:
            places[first] = b.mark_point(k.named(name))
        if not others:
            images[first] = places[first]
    squares: dict[str, Line] = {}
    shared: Line | None = None
    for first in (letters[0] for letters in groups if len(letters) == 2):
        at = places[first]
        if along[first] or shared is None:
            squares[first] = b.square(axis, at, f"square at {at.name}")
            shared = shared if along[first] else squares[first]
        else:
            squares[first] = shared
    for near, far in (letters for letters in groups if len(letters) == 2):
        swung = b.arc(places[near], span(two.station(near), two.low.images[near]), why="half its width, to both sides")
        names = three.low.label(far), three.low.label(near)
        images[far], images[near] = b.both(swung, squares[near], names, plane.beyond(squares[near]))


def lie_of(g: Lying) -> tuple[dict[str, int], dict[str, int]]:
    """Of every point of the tilted solid on which side of the middle of the base it lies along the axis, and whether it lies
    over HP."""
    letters = list(lettered_points(g, begin(g)))

    def places(h: Any) -> list[Number]:
        points = in_position(h, 2).values()
        return [p.x for p in points] + [p.above for p in points]

    signs = g.decide_all(places, rational=False)
    return dict(zip(letters, signs, strict=False)), dict(zip(letters, signs[len(letters) :], strict=True))


def _lift(s: Sheet[Lying], two: Position, three: Position, above: Mapping[str, int]) -> None:
    """The front view of the turned solid: over each point of the top view, as high as it was."""
    b, views = s.b, s.views
    on: dict[str, Line] = {}
    for letters in [[MIDDLE], [s.top], *(letters for _, _, groups in s.rows for letters in groups)]:
        before = two.up.images[letters[0]]
        on_ground = above[letters[0]] == 0
        level = views.ground if on_ground else b.level_line(before, f"level of {before.name}", pen=Pen.PROJECTOR)
        on |= dict.fromkeys(letters, level)
    for letter, level in on.items():
        views.project(letter, three.low, three.up, level)
        know(s, three, letter)


def know(s: Sheet[Any], last: Position, *letters: str) -> None:
    """Report points that both final views have by now, all where none is named: x from the middle of the base."""
    views, middle = s.views, last.low.images[MIDDLE]
    for letter in letters or last.low.images:
        low, up = last.low.images[letter], last.up.images[letter]
        s.b.space_point(letter, views.along(low) - views.along(middle), views.front(low), views.above(up))
