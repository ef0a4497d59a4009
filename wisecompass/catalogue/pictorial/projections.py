"""The five ways of picturing a body: what each sees, its axes on the board, and where truth has a place drawn.

Places are (x, y, z) from the corner that the picture begins from: along the front, backwards, upwards; mm.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import TYPE_CHECKING, Any, TypeAlias

from wisecompass.arithmetic import Number, absolute, cos_deg, sin_deg, sqrt
from wisecompass.drafting.board import Board
from wisecompass.drafting.picturing import Axes, Vanishing
from wisecompass.drafting.problem import Make
from wisecompass.drafting.setting import negative, positive, span
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point

if TYPE_CHECKING:
    from wisecompass.geometry.images import Sight

ISOMETRIC, CAVALIER, CABINET = "isometric", "oblique-cavalier", "oblique-cabinet"
ONE_POINT, TWO_POINT = "one-point", "two-point"
PROJECTIONS = (ISOMETRIC, CAVALIER, CABINET, ONE_POINT, TWO_POINT)

Drawn: TypeAlias = Callable[[Number, Number, Number], Point]


# ----------------------------------------------------------------------------------------------------------------- truth
def drawn_in(g: Any, number: Make) -> Drawn:
    """Where a place is drawn, from the image of the corner that the picture begins from."""
    if g.projection == ISOMETRIC:
        shrink = number(1) if g.scale == "natural" else sqrt(number(2) / 3)
        c = sqrt(number(3)) / 2 * shrink
        return lambda x, y, z: Point((x + y) * c, (y - x) / 2 * shrink + z * shrink)
    if g.projection in (CAVALIER, CABINET):
        share = number(1) if g.projection == CAVALIER else number(1) / 2
        side = 1 if g.recedes == "up right" else -1
        across, up = cos_deg(g.receding_angle) * share * side, sin_deg(g.receding_angle) * share
        return lambda x, y, z: Point(x + y * across, z + y * up)
    e, h = g.eye_distance, g.eye_height
    if g.projection == ONE_POINT:

        def central(x: Number, y: Number, z: Number) -> Point:
            shrink = e / (e + y)
            return Point(g.eye_right + (x - g.eye_right) * shrink, h + (z - h) * shrink)

        return central
    c, s = cos_deg(g.turned), sin_deg(g.turned)

    def turned(x: Number, y: Number, z: Number) -> Point:
        shrink = e / (e + x * s + y * c)
        return Point((x * c - y * s) * shrink, h + (z - h) * shrink)

    return turned


# ------------------------------------------------------------------------------------------------------- what it sees
def sight_of(h: Any, base: tuple[float, float, float]) -> Sight:
    """The view in floats; ``base`` is the corner that the picture begins from, in the body's own places."""
    from wisecompass.geometry.images import Central, Sight

    if h.projection == ISOMETRIC:
        f = 1.0 if h.scale == "natural" else math.sqrt(2 / 3)
        c, third = math.sqrt(3) / 2 * f, math.sqrt(1 / 3)
        return Sight((c, c, 0.0), (-f / 2, f / 2, f), (third, -third, third))
    if h.projection in (CAVALIER, CABINET):
        share = 1.0 if h.projection == CAVALIER else 0.5
        angle, side = math.radians(h.receding_angle), 1.0 if h.recedes == "up right" else -1.0
        across, up = math.cos(angle) * share * side, math.sin(angle) * share
        size = math.sqrt(across * across + up * up + 1)
        return Sight((1.0, across, 0.0), (0.0, up, 1.0), (across / size, -1 / size, up / size))
    x, y, z = base
    e, up = float(h.eye_distance), float(h.eye_height)
    if h.projection == ONE_POINT:
        return Central((1.0, 0.0, 0.0), (0.0, 0.0, 1.0), (0.0, -1.0, 0.0), (x + float(h.eye_right), y - e, z + up), e)
    c, s = math.cos(math.radians(h.turned)), math.sin(math.radians(h.turned))
    return Central((c, -s, 0.0), (0.0, 0.0, 1.0), (-s, -c, 0.0), (x - e * s, y - e * c, z + up), e)


# ------------------------------------------------------------------------------------------------------- on the board
def axes_of(b: Board, g: Any, base: Point, rays: dict[str, Line]) -> Axes:
    """The three axes through the base; ``rays`` takes the lines through the station, in two-point perspective."""
    if g.projection == ISOMETRIC:
        with b.gathered(
            "set square", Instrument.SET_SQUARE, "The crow's foot: the length to the left, the depth to the right"
        ):
            lines = [b.set_square_line(base, 150, "front axis"), b.set_square_line(base, 30, "right axis")]
            lines.append(b.upright_line(base, "upright axis"))
        b.caution("Only lengths along the three axes are true; a sloping edge is never measured along itself.")
        return Axes(b, base, lines, (-1, 1, 1), lambda _, length: length)
    if g.projection in (CAVALIER, CABINET):
        halved = g.projection == CABINET
        with b.gathered("set square", Instrument.SET_SQUARE, "The three axes: the front as it is, the depth slanting back"):
            level = b.level_line(base, "front axis")
            upright = b.upright_line(base, "upright axis")
            angle = g.receding_angle if g.recedes == "up right" else 180 - g.receding_angle
            back = b.protract(level, base, angle, "receding axis")
        half = "Lengths along the receding axis are halved; all others are true." if halved else ""
        b.caution(half or "Lengths along all three axes are true; the receding axis shows depth, not length.")
        return Axes(
            b, base, (level, back, upright), (1, 1, 1), lambda k, length: length / 2 if halved and k == 1 else length
        )
    return _one_point(b, g, base) if g.projection == ONE_POINT else _two_point(b, g, base, rays)


def _one_point(b: Board, g: Any, base: Point) -> Vanishing:
    """The front lies in the picture plane; depths run to the one vanishing point before the eye."""
    with b.gathered("level", Instrument.T_SQUARE, "The front lies in the picture plane: its foot is the ground line"):
        ground, upright = b.level_line(base, "ground line"), b.upright_line(base, "upright axis")
    with b.may_be_far(), b.gathered("lay off", Instrument.SCALE, "The horizon, and on it the vanishing point of all depths"):
        right = g.eye_right
        under = base
        if g.decide(lambda h: h.eye_right):
            under = b.lay_off(ground, base, positive(right), "G", back=negative(right), why="straight before the eye")
        over = upright if under is base else b.upright_line(under, "upright before the eye")
        vanishing = b.lay_off(over, under, g.eye_height, "V", why="the height of the eye")
        horizon = b.level_line(vanishing, "horizon")
        left = g.decide(lambda h: h.eye_right) >= 0
        measuring = b.lay_off(
            horizon, vanishing, g.eye_distance, "D", back=left, why="the distance of the eye: measuring point"
        )
    with b.may_be_far():
        depth = b.line(base, vanishing, "depth axis", why="all depths run to it")
    b.caution("Depths are laid off along the ground line and cut off by lines to D; never along the depth itself.")
    return Vanishing(b, base, (ground, depth, upright), (1, 1, 1), ground, {1: (vanishing, measuring, 1 if left else -1)})


def _two_point(b: Board, g: Any, base: Point, rays: dict[str, Line]) -> Vanishing:
    """The nearest upright lies in the picture plane, straight before the eye."""
    with b.gathered("level", Instrument.T_SQUARE, "The nearest upright lies in the picture plane: it is true"):
        ground, upright = b.level_line(base, "ground line"), b.upright_line(base, "upright axis")
    with b.may_be_far():
        with b.gathered("lay off", Instrument.SCALE, "The horizon, and the station unfolded under it"):
            middle = b.lay_off(upright, base, g.eye_height, "V", why="the height of the eye")
            horizon = b.level_line(middle, "horizon")
            station = b.lay_off(upright, middle, g.eye_distance, "S", back=True, why="the distance of the eye")
            level = b.level_line(station, "level through S")
        with b.gathered(
            "protract", Instrument.PROTRACTOR, "The vanishing points, by parallels to both faces through the station"
        ):
            first = b.protract(level, station, g.turned, "parallel to the front")
            second = b.protract(upright, station, g.turned, "parallel to the side")
            rays |= {first.name: first, second.name: second}
            right, left = b.meet(first, horizon, name="VR"), b.meet(second, horizon, name="VL")
        with b.gathered("arc", Instrument.COMPASS, "The measuring points: as far from the vanishing points as the station"):
            found = []
            for vanishing, which, name in ((right, plane.short_of, "MR"), (left, plane.beyond, "ML")):
                swung = b.arc(vanishing, span(vanishing, station), name=f"arc about {vanishing.name}")
                found.append(b.meet(swung, horizon, which(horizon), name))
        with b.gathered("join", Instrument.STRAIGHTEDGE, "Both level axes, to the vanishing points"):
            front, side = b.line(base, right, "front axis"), b.line(base, left, "side axis")
    b.caution("Lengths are laid off along the ground line and cut off by lines to their own measuring point.")
    return Vanishing(b, base, (front, side, upright), (1, 1, 1), ground, {0: (right, found[0], 1), 1: (left, found[1], -1)})


def vanishing_of(g: Any) -> tuple[Number | None, Number | None]:
    """How far to the left and to the right of the centre of vision the vanishing points lie, of two."""
    if g.projection != TWO_POINT:
        return None, None
    c, s = cos_deg(g.turned), sin_deg(g.turned)
    return absolute(g.eye_distance * s / c), absolute(g.eye_distance * c / s)
