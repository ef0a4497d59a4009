"""What a picture of parts can lay off along its axes: the numbers of the parts, and what is read off polygons and circles
drawn flat: corners, points of rims, and where contours touch them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass
from typing import Any

from wisecompass.arithmetic import PLAIN, roughly
from wisecompass.catalogue.pictorial.flat_polygon import corners_of
from wisecompass.catalogue.pictorial.projections import (
    CABINET,
    CAVALIER,
    ISOMETRIC,
    ONE_POINT,
    sight_of,
)
from wisecompass.catalogue.pictorial.touches import learn_touches
from wisecompass.catalogue.solids.crate_lining import LinedIn
from wisecompass.catalogue.solids.crate_plan import Plan, far_end, in_floats, low_of, origin, plan_of
from wisecompass.drafting.board import Board
from wisecompass.drafting.picturing import Distance, PictureFrame, PictureSheet
from wisecompass.drafting.setting import Settable, bare, negative, positive, span
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.parts import Part, plane_of
from wisecompass.geometry.plane import Circle, Line, Point
from wisecompass.geometry.surfaces import Pipe


def base_of(g: Any) -> list[Any]:
    """The corner that the picture begins from, from the body's low corner: in isometric the nearest lower one, at the right
    end of the front."""
    zero = bare(origin(g.parts, 0)) * 0
    length = far_end(g.parts, 0) - origin(g.parts, 0) if g.projection == ISOMETRIC else zero
    return [length, zero, zero]


def frame_of(g: Any) -> PictureFrame:
    """How the picture looks at the body, settled in floats."""
    h = g.bound_in(PLAIN)
    low = low_of(in_floats(h.parts))
    off = [float(roughly(bare(c))) for c in base_of(h)]
    base = (low[0] + off[0], low[1] + off[1], low[2] + off[2])
    eye = 1 if g.projection in (CAVALIER, CABINET, ONE_POINT) else -1
    return PictureFrame("picture", sight_of(h, base), base, low, eye)


def _corners(part: Part) -> list[tuple[float, float]]:
    """Corners of a prism's polygon from its middle, in floats."""
    return [(roughly(x), roughly(y)) for x, y in corners_of(part.sides, part.sizes[0])]


def _difference(one: Any, other: Any) -> Settable:
    """The size of a difference, where either may be nothing."""
    if not roughly(bare(one)) or not roughly(bare(other)):
        return positive(one if roughly(bare(one)) else other)
    found: Settable = one - other
    return other - one if negative(found) else found


@dataclass(frozen=True)
class Ring:
    """A circle drawn flat, the level through its middle, and the block that it stands in."""

    circle: Circle
    level: Line
    block: str


class Flats(LinedIn):
    """What the picture can set: distances along the axes, by the numbers of the parts and by flat figures."""

    def __init__(self, b: Board, g: Any) -> None:
        self.b, self.g, self.parts = b, g, g.parts
        self.floats = in_floats(g.parts)
        self.plan: Plan = plan_of(self.floats)
        self.low = [origin(g.parts, axis) for axis in range(3)]
        self.base = base_of(g)
        self.dashed = g.hidden_edges == "dashed"
        frame = frame_of(g)
        self.sheet: PictureSheet = PictureSheet(b, self.plan.body.model.size)
        self.sheet.base = (float(roughly(bare(self.base[0]))), 0.0, 0.0)
        self.frame = frame
        self._reduced: dict[float, Settable] = {}
        self._flat_polygons: dict[tuple[int, float], list[tuple[Settable, Settable]]] = {}
        self._flat_circles: dict[float, dict[int, Settable]] = {}
        self.rings: dict[float, Ring] = {}
        self.slant: tuple[Settable, Point] | None = None
        """A depth on the receding axis of an oblique picture, and its end there."""
        self.rays: dict[str, Line] = {}
        self._count = 0
        """Points that flat figures have so far."""
        self._scale: tuple[Point, Line, Line] | None = None
        """The diagram of the isometric scale: its corner, and the lines of true and of reduced lengths."""
        self.missing: list[tuple[float, float, float]] | None = None
        """Of a picture that nobody sees: the places that it does not find, and takes as if they had been given."""

    def next(self) -> int:
        """The number of one more point of a flat figure."""
        self._count += 1
        return self._count

    # -------------------------------------------------------------------------------------------------- what is known
    def know_along(self, axis: int, place: Any, more: Settable | None = None, *, back: bool = False) -> None:
        """A place on an axis by the givens, and by a length of a flat figure from there."""
        low, base = self.low[axis], self.base[axis]
        first = place if roughly(bare(low)) == 0 else place - low
        against = roughly(bare(base)) != 0
        if against:
            first = base - first
        at = roughly(bare(place)) - roughly(bare(low))
        if more is not None:
            at += roughly(bare(more)) * (-1 if back else 1) * self._enlarged(axis)
        self.sheet.know_distance(axis, at, Distance(first, more, back, against))

    def _enlarged(self, axis: int) -> float:
        """By how much a length of a flat figure is larger in truth than drawn there."""
        return math.sqrt(1.5) if self.g.projection == ISOMETRIC and self.g.scale != "natural" else 1.0

    def learn(self) -> None:
        """Every distance along the axes that the numbers of the parts give."""
        for part, floats in zip(self.parts, self.floats, strict=True):
            axes = range(3) if floats.kind in ("box", "wedge") else (floats.axis,)
            for axis in axes:
                length = part.sizes[axis] if floats.kind in ("box", "wedge") else part.length
                self.know_along(axis, part.at[axis])
                self.know_along(axis, part.at[axis] + length)
            if floats.kind == "prism":
                for axis in plane_of(floats.axis):
                    self.know_along(axis, part.at[axis])
            elif floats.is_round:
                for axis in plane_of(floats.axis):
                    self.know_along(axis, part.at[axis])
                    self.know_along(axis, part.at[axis] + part.sizes[0] / 2)
                    self.know_along(axis, part.at[axis] - part.sizes[0] / 2)

    def draw_flat(self) -> None:
        """Polygons and circles drawn flat, to read off what no number gives."""
        for part, floats in zip(self.parts, self.floats, strict=True):
            if floats.kind == "prism":
                self._learn_polygon(part, floats)
            elif floats.is_round and floats.axis != self.frame.eye_axis:
                self._learn_circle(part, floats)
                learn_touches(self, part, floats)
        self._learn_ordinates()

    def _learn_ordinates(self) -> None:
        """Corners of the body on a rim, of which one place across is a number: the other by its ordinate in the flat
        circle."""
        body = self.plan.body
        for corner, through in zip(body.corners, body.corner_surfaces, strict=True):
            at = self._from_low(corner)
            for k in through:
                on = body.model.surfaces[k]
                if isinstance(on, Pipe) and on.axis != self.frame.eye_axis:
                    i, j = plane_of(on.axis)
                    for axis, other in ((i, j), (j, i)):
                        if self.sheet.is_known(axis, at[axis]) and not self.sheet.is_known(other, at[other]):
                            with suppress(LookupError):  # else it comes from the views
                                self._ordinate(on, at, axis, other)

    def _ordinate(self, on: Pipe, at: Sequence[float], axis: int, other: int) -> None:
        middle = self._from_low(on.centre)
        known = [
            self.sheet.distance(k, place) for k, place in ((axis, at[axis]), (axis, middle[axis]), (other, middle[other]))
        ]
        radius = float(on.radius)
        ring = self.rings.get(radius)
        if ring is None or any(each is None or each.more is not None for each in known):
            return
        place, centre, beside = (each for each in known if each is not None)
        away = self.as_set_any(_difference(place.first, centre.first))
        b, circle, level = self.b, ring.circle, ring.level
        what = "Where a face cuts a rim: its ordinate in the flat circle"
        with b.block(ring.block), b.gathered("lay off", Instrument.SCALE, what):
            foot = b.lay_off(level, circle.centre, away, f"e{self.next()}")
            upright = b.square(level, foot, f"ordinate at {foot.name}")
            top = b.meet(circle, upright, plane.upper, f"d{self._count}")
        back = at[other] < middle[other]
        size = roughly(bare(span(foot, top))) * self._enlarged(other)
        self.sheet.know_distance(
            other, middle[other] + (-size if back else size), Distance(beside.first, span(foot, top), back, beside.against)
        )

    def as_set_any(self, length: Settable) -> Settable:
        """The same, where the length is perhaps not on the isometric scale."""
        try:
            return self.as_set(length)
        except KeyError:
            raise LookupError("a length that is not on the isometric scale") from None

    def _learn_polygon(self, part: Any, floats: Part) -> None:
        i, j = plane_of(floats.axis)
        key = (floats.sides, float(floats.sizes[0]))
        if key not in self._flat_polygons:
            self._flat_polygons[key] = self._polygon_flat(part, floats)
        for (across, up), (x, y) in zip(self._flat_polygons[key], _corners(floats), strict=True):
            for axis, length, sign in ((i, across, x), (j, up, y)):
                if abs(sign) < self.sheet.near:
                    self.know_along(axis, part.at[axis])
                else:
                    self.know_along(axis, part.at[axis], length, back=sign < 0)

    def _polygon_flat(self, part: Any, floats: Part) -> list[tuple[Settable, Settable]]:
        """The polygon drawn flat about its middle: how far each corner lies beside both centre lines."""
        b, n = self.b, floats.sides
        tag = f"{len(self._flat_polygons) + 1}"
        with (
            b.block(f"flat polygon {tag}"),
            b.gathered("step off", Instrument.DIVIDERS, "A polygon drawn flat, to read off where its corners lie"),
        ):
            middle = b.point(f"O{tag}", b.number(0), b.number(0))
            level, upright = b.level_line(middle, f"level of O{tag}"), b.upright_line(middle, f"upright of O{tag}")
            down = Line(middle, -upright.dx, -upright.dy, upright.name)
            ray = b.protract(down, middle, b.turn(1, 2 * n), f"ray of O{tag}")
            half = b.lay_off(level, middle, self.as_set(part.sizes[0] / 2), b.unique("tick half a side"))
            first = b.meet(b.parallel(upright, half, f"half a side from O{tag}"), ray, name=f"p{self.next()}")
            ring = b.circle_through(middle, first, name=f"circle of O{tag}")
            names = [f"p{self.next()}" for _ in range(n - 1)]
            found = [first, *b.step_off(ring, first, self.as_set(part.sizes[0]), names)]
        return [(span(p, upright), span(p, level)) for p in found]

    def _learn_circle(self, part: Any, floats: Part) -> None:
        radius = float(floats.sizes[0]) / 2
        if radius not in self._flat_circles:
            self._flat_circles[radius] = self._circle_flat(part)
        for axis in plane_of(floats.axis):
            for length in self._flat_circles[radius].values():
                for back in (False, True):
                    self.know_along(axis, part.at[axis], length, back=back)

    def _circle_flat(self, part: Any) -> dict[int, Settable]:
        """A quarter of the circle drawn flat, with the points at the set squares' angles: how far each lies to the right."""
        b, tag = self.b, f"{len(self._flat_circles) + 1}"
        found: dict[int, Settable] = {}
        with (
            b.block(f"flat circle {tag}"),
            b.gathered("arc", Instrument.COMPASS, "A circle drawn flat, to read off where its points lie"),
        ):
            middle = b.point(f"K{tag}", b.number(0), b.number(0))
            level = b.level_line(middle, f"level of K{tag}")
            ring = b.arc(middle, self.as_set(part.sizes[0] / 2), name=f"circle about K{tag}", whole=True)
            angles = (30, 45, 60) if self.g.projection == ISOMETRIC else (30, 60)
            for angle in angles:
                ray = b.set_square_line(middle, angle, f"ray at {angle}° of K{tag}")
                at = b.meet(ring, ray, plane.beyond(ray), f"c{self.next()}")
                self.rings[float(roughly(bare(part.sizes[0]))) / 2] = Ring(ring, level, b.block_name)
                found[angle] = span(middle, b.square_from(level, at, f"f{self._count}"))
        return found

    # ----------------------------------------------------------------------------------------------- isometric scale
    def as_set(self, length: Settable) -> Settable:
        """A length as it is set: reduced, where the isometric scale is asked for."""
        if self.g.projection != ISOMETRIC or self.g.scale == "natural":
            return length
        return self._reduced[round(roughly(bare(length)), 9)]

    def reduce_all(self) -> None:
        """All lengths that will be set, on the diagram of the isometric scale."""
        if self.g.projection != ISOMETRIC or self.g.scale == "natural":
            return
        b = self.b
        wanted: dict[float, Settable] = {}
        for part, floats in zip(self.parts, self.floats, strict=True):
            for length in (part.sizes[0], part.sizes[0] / 2) if floats.kind == "prism" else (part.sizes[0] / 2,):
                if floats.kind == "prism" or floats.is_round:
                    wanted[round(roughly(bare(length)), 9)] = length
            if floats.kind == "cone":
                wanted[round(roughly(bare(part.length)), 9)] = part.length
        for distance in self.sheet.distances.values():
            size = round(abs(roughly(bare(distance.first))), 9)
            if size:
                wanted[size] = positive(distance.first)
        wanted = {size: length for size, length in wanted.items() if size not in self._reduced}
        if not wanted:
            return
        with (
            b.block("isometric scale"),
            b.gathered("lay off", Instrument.SCALE, "The isometric scale: every length reduced"),
        ):
            if self._scale is None:
                zero = b.point("S", b.number(0), b.number(0))
                steep = b.set_square_line(zero, 45, "true lengths")
                self._scale = zero, steep, b.set_square_line(zero, 30, "isometric lengths")
            zero, steep, shallow = self._scale
            for k, (size, length) in enumerate(sorted(wanted.items(), key=lambda each: each[0]), len(self._reduced) + 1):
                drop = b.upright_line(b.lay_off(steep, zero, length, f"t{k}"), f"drop {k}")
                self._reduced[size] = span(zero, b.meet(drop, shallow, name=f"s{k}"))
