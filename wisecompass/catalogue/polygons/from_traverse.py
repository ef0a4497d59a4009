"""Polygon walked side by side with its interior angles: what is left open at the end is the closing gap."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import PLAIN, Number, absolute, cos_deg, hypot, sin_deg
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import bare
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import number_text
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point

MOST_SIDES = 24


@dataclass(frozen=True)
class Traverse(Givens):
    lengths: tuple[Number, ...] = givens.lengths("sides", "84, 57, 49, 61, 43", 3, MOST_SIDES)
    angles: tuple[Number, ...] = givens.angles("interior angles", "96, 110, 117, 124", 2, MOST_SIDES - 1, "359.99")


def _walked(g: Traverse, number: Make) -> list[Point]:
    """The corners by adding up sides in their directions."""
    x = y = bearing = number(0)
    corners = [Point(x, y, "P1")]
    for k, length in enumerate(g.lengths):
        x, y = x + length * cos_deg(bearing), y + length * sin_deg(bearing)
        corners.append(Point(x, y, f"P{k + 2}"))
        if k < len(g.angles):
            bearing = bearing + 180 - g.angles[k]
    return corners


def _signed_area(corners: list[Point]) -> Number:
    """By trapezia under each side, down to the level of the first."""
    total = corners[0].x - corners[0].x
    for a, b in zip(corners, [*corners[1:], corners[0]], strict=True):
        total = total + (a.x - b.x) * (a.y + b.y) / 2
    return total


def crosses_itself(g: Traverse) -> bool:
    """Whether two sides that are not neighbours meet. Floats decide it where they can, else balls."""
    plain = g.bound_in(PLAIN)
    size = sum(map(float, plain.lengths))
    turns = [float(turn) for turn in _turns(plain)]
    if g.on_tape or any(abs(turn) < FLOATS_DECIDE * size * size for turn in turns):
        signs = g.decide_all(_turns, rational=False)
    else:
        signs = tuple((turn > 0) - (turn < 0) for turn in turns)
    fours = zip(*[iter(signs)] * 4, strict=True)
    return any(a * b <= 0 and c * d <= 0 and (a or b or c or d) for a, b, c, d in fours)


FLOATS_DECIDE = 1e-9
"""A cross product larger than this share of the squared perimeter has in floats the sign that it has."""


def _turns(g: Traverse) -> list[Number]:
    """Of each two sides with one between them, on which sides of each the ends of the other lie, as cross products: four
    in a row. The first side and the last count as neighbours."""
    zero, count = g.lengths[0] - g.lengths[0], len(g.lengths)
    corners = _walked(g, lambda value: zero + int(value))
    sides = [Line.through(a, b) for a, b in zip(corners, corners[1:], strict=False)]
    found: list[Number] = []
    apart = [(i, j) for i in range(count) for j in range(i + 2, count) if (i, j) != (0, count - 1)]
    for i, j in apart:
        found += [plane.side_of(corner, sides[i]) for corner in corners[j : j + 2]]
        found += [plane.side_of(corner, sides[j]) for corner in corners[i : i + 2]]
    return found


def truth(g: Traverse, number: Make) -> Truth:
    corners = _walked(g, number)
    end = corners[-1]
    perimeter = g.lengths[0]
    for length in g.lengths[1:]:
        perimeter = perimeter + length
    return Truth(
        points={corner.name: corner for corner in corners},
        findings={
            "closing_gap": hypot(end.x, end.y),
            "area": absolute(_signed_area(corners)),
            "perimeter": perimeter,
            "crosses_itself": crosses_itself(g),
        },
    )


@method("sides and angles", Exactness.EXACT)
def sides_and_angles(b: Board, g: Traverse) -> None:
    at = b.point("P1", b.number(0), b.number(0), why="the first corner")
    edge = b.level_line(at, "side 1", pen=Pen.GIVEN)
    corners, continued = [at], b.slips(from_the_side_continued.name)
    for k, length in enumerate(g.lengths, 1):
        if k > 1:
            turn = g.angles[k - 2] if continued else 180 - g.angles[k - 2]
            why = f"so that the angle inside is {number_text(float(_first(g.angles[k - 2])))}°"
            edge = b.protract(edge, at, turn, f"side {k}", why=why)
        at = b.lay_off(edge, at, length, f"P{k + 1}", why="the side")
        corners.append(at)
    b.caution("The angle inside is the supplement of the turn: read from the side continued, not from the side.")
    end = corners[-1]
    b.line_in(*zip(corners, corners[1:], strict=False))
    if g.decide(lambda h: hypot(*_end(h))) != 0:
        b.line_in((end, corners[0]), pen=Pen.HIDDEN, why="the gap that is left")
    for a, c in zip(corners[1:], corners, strict=False):
        b.dimension(a, c, offset=9)
    around = plane.distance(corners[0], corners[1])
    for a, c in zip(corners[1:], corners[2:], strict=False):
        around = around + plane.distance(a, c)
    b.find("closing_gap", plane.distance(end, corners[0]))
    b.find("area", absolute(plane.polygon_area(corners)))
    b.find("crosses_itself", crosses_itself(g))
    if crosses_itself(g):
        b.caution("This walk crosses itself: its area counts what is walked round the other way as less.")
    b.find("perimeter", around)
    for k, angle in enumerate(g.angles, 1):
        one, other = g.lengths[k - 1], g.lengths[k]
        across = plane.distance(corners[k - 1], corners[k + 1])
        given = one * one + other * other - 2 * one * other * cos_deg(angle)
        b.check(f"the diagonal past P{k + 1} belongs to its sides and angle", across * across - given, "mm²")


def _first(value: Number) -> Number:
    """The number itself, or that of the first hand."""
    value = bare(value)
    return value[0] if hasattr(value, "__getitem__") else value


def _end(h: Traverse) -> tuple[Number, Number]:
    zero = h.lengths[0] - h.lengths[0]
    last = _walked(h, lambda value: zero + int(value))[-1]
    return last.x, last.y


@slip("every angle laid from the side continued instead of from the side")
def from_the_side_continued(g: Traverse, number: Make) -> dict[str, Number]:
    corners = _walked(Traverse(g.lengths, tuple(180 - angle for angle in g.angles)), number)
    return {"closing_gap": hypot(corners[-1].x, corners[-1].y), "area": absolute(_signed_area(corners))}


@slip("the first angle read on the other scale of the protractor")
def other_scale(g: Traverse, number: Make) -> dict[str, Number]:
    wrong = Traverse(g.lengths, (180 - g.angles[0], *g.angles[1:]))
    end = _walked(wrong, number)[-1]
    return {"closing_gap": hypot(end.x, end.y), "area": absolute(_signed_area(_walked(wrong, number)))}


def _listed(values: tuple[Number, ...]) -> str:
    return ", ".join(number_text(float(value), 6) for value in values)


def _fitted(g: Traverse) -> dict[str, str]:
    """As many angles as there are corners between two sides; missing ones are straight on."""
    wanted = len(g.lengths) - 1
    return {"angles": _listed((*g.angles, *(180.0 for _ in range(wanted - len(g.angles))))[:wanted])}


PROBLEM = Problem(
    id="polygons/from-traverse",
    title="Polygon from a traverse",
    brief="Walk round a polygon with sides of {lengths} and the angles {angles} inside between them.",
    givens=Traverse,
    truth=truth,
    methods=(sides_and_angles,),
    findings={
        "closing_gap": Kind.LENGTH,
        "area": Kind.AREA,
        "perimeter": Kind.LENGTH,
        "crosses_itself": Kind.CHOICE,
    },
    source="Departures and latitudes of a traverse; area by trapezia.",
    conditions=(
        Condition(
            "one angle between each two sides",
            lambda g: -abs(len(g.lengths) - 1 - len(g.angles)),
            "there must be one angle less than sides, and sides of {lengths} do not fit the angles {angles}",
            ("angles", "lengths"),
            _fitted,
        ),
    ),
    slips=(from_the_side_continued, other_scale),
)
