"""Regular polygon on a given side.  Exact ways (Euclid IV.11 for five, IV.15 for six) beside a workshop rule for any
number, whose closing side tells what it is worth."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, sin_deg, tan_deg
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, count, length
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import number_text
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class SidesAndSide(Givens):
    sides: int = count("number of sides", "9", 3, 24)
    side: Number = length("side", "34")


def truth(g: SidesAndSide, number: Make) -> Truth:
    n = g.sides
    half_angle = number(180) / n
    circumradius = g.side / (2 * sin_deg(half_angle))
    apothem = g.side / (2 * tan_deg(half_angle))
    points: dict[str, Point] = {"O": Point(g.side / 2, apothem)}
    for index in range(n):
        at = number(270) - half_angle + number(360) * index / n
        points[f"P{index + 1}"] = Point(g.side / 2 + circumradius * cos_deg(at), apothem + circumradius * sin_deg(at))
    findings: dict[str, Number | None] = {
        "side": g.side,
        "circumradius": circumradius,
        "apothem": apothem,
        "interior_angle": 180 - number(360) / n,
        "central_angle": number(360) / n,
        "perimeter": g.side * n,
        "area": g.side * apothem * n / 2,
        "across_flats": apothem * 2 if n % 2 == 0 else circumradius + apothem,
    }
    if n % 2 == 0:
        findings["across_corners"] = circumradius * 2
    return Truth(points=dict(points), findings=dict(findings))


def _base(b: Board, g: SidesAndSide) -> tuple[Point, Point, Line]:
    first = b.point("P1", b.number(0), b.number(0), why="the left end of the side")
    base = b.level_line(first, "base")
    second = b.lay_off(base, first, g.side, "P2", why="the given side")
    return first, second, base


def _walk_round(b: Board, g: SidesAndSide, centre: Point, first: Point, second: Point) -> None:
    """Circle about the centre, the side stepped off from P2, and the polygon lined in."""
    circle = b.circle_through(centre, first, name=f"circle about {centre.name}")
    names = [f"P{k}" for k in range(3, g.sides + 1)]
    corners = [first, second, *b.step_off(circle, second, g.side, names, why="the side carried round")]
    b.caution("Stepping errors add up: compare the last side with the others before lining in.")
    _line_in(b, g, corners)
    b.find("circumradius", plane.distance(centre, first))


def _line_in(b: Board, g: SidesAndSide, corners: list[Point]) -> None:
    closed = [*corners, corners[0]]
    b.line_in(*zip(closed, closed[1:], strict=False))
    b.dimension(corners[1], corners[0], offset=9)
    closing = plane.distance(corners[-1], corners[0])
    b.find("closing_side", closing)
    b.find("closing_error", closing - g.side)


def _closing(findings: Mapping[str, float]) -> str:
    error = findings["closing_error"]
    if abs(error) < 5e-10:
        return "closes exactly here"
    return f"closing side {number_text(abs(error))} mm {'long' if error > 0 else 'short'}"


def _closes(b: Board, g: SidesAndSide) -> None:
    last, first = b.plane_point(f"P{g.sides}"), b.plane_point("P1")
    b.check("the closing side equals the given side", plane.distance(last, first) - g.side)


@method("central angle", Exactness.EXACT)
def central_angle(b: Board, g: SidesAndSide) -> None:
    first, second, base = _base(b, g)
    share = b.number(90) - b.number(180) / g.sides
    left = b.protract(base, first, share, "ray 1", why="half the interior angle")
    b.caution("Read the protractor from the end that lies along the side: the other scale gives the supplement.")
    right = b.protract(base, second, 180 - share, "ray 2", why="the same at the other end")
    centre = b.meet(left, right, name="O")
    _walk_round(b, g, centre, first, second)
    _closes(b, g)


@method("four-six centre line", Exactness.APPROXIMATE, worth=_closing)
def four_six_centre_line(b: Board, g: SidesAndSide) -> None:
    first, second, base = _base(b, g)
    axis = b.bisector(first, second, "centre line", why="above and below the side")
    middle = b.meet(axis, base, name="M")
    square = b.arc(middle, g.side / 2, taken="M–P1", why="up to the centre line")
    four = b.meet(square, axis, plane.upper, "4")
    left = b.arc(first, g.side, why="the side as radius")
    right = b.arc(second, g.side, why="the side as radius")
    six = b.meet(left, right, plane.upper, "6")
    five = b.divide(four, six, 2, ["5"], why="the middle is the centre for five")[0]
    if g.sides in (4, 5, 6):
        centre = {4: four, 5: five, 6: six}[g.sides]
    else:
        step = plane.distance(four, five)
        start = five if g.sides < 4 else six
        steps = g.sides - 6 if g.sides > 6 else 2
        upward = Line.through(four, six, axis.name)
        why = f"the step 4–5 laid off {steps} times" + (" downwards from 5" if g.sides < 4 else " beyond 6")
        centre = b.lay_off(upward, start, step * steps, str(g.sides), back=g.sides < 4, why=why)
        b.extend(axis, centre)
    if g.sides not in (4, 6):
        b.caution("This rule is exact for four and six sides only; its closing side shows by how much it misses.")
    b.extend(axis, four)
    _walk_round(b, g, centre, first, second)


def _just(n: int, name: str) -> tuple[Condition, Condition]:
    def one(sign: int) -> Condition:
        return Condition(
            f"{n} sides",
            lambda g: (g.side / g.side) * (g.sides - n) * sign,
            f"{name} draws {n} sides and {{sides}} are asked for",
            ("sides",),
            lambda g: {"sides": str(n)},
        )

    return one(1), one(-1)


@method("golden pentagon", Exactness.EXACT, *_just(5, "golden pentagon"))
def golden_pentagon(b: Board, g: SidesAndSide) -> None:
    first, second, base = _base(b, g)
    axis = b.bisector(first, second, "centre line", why="for the middle of the side")
    middle = b.meet(axis, base, name="M")
    upright = b.square(base, second, "upright at P2")
    top = b.lay_off(upright, second, g.side, "N", why="the side again")
    swung = b.arc(middle, plane.distance(middle, top), taken="M–N", why="down to the base")
    end = b.meet(swung, base, plane.beyond(base), "K")
    b.caution("P1–K is the diagonal of the pentagon: side and diagonal are in the golden section.")
    diagonal = plane.distance(first, end)
    from_first = b.arc(first, diagonal, taken="P1–K", why="above the side")
    from_second = b.arc(second, diagonal, taken="P1–K", why="above the side")
    apex = b.meet(from_first, from_second, plane.upper, "P4")
    near_second = b.arc(second, g.side, why="the side as radius")
    right = b.meet(near_second, from_first, plane.upper, "P3")
    near_first = b.arc(first, g.side, why="the side as radius")
    left = b.meet(near_first, from_second, plane.upper, "P5")
    b.extend(axis, apex)
    _line_in(b, g, [first, second, right, apex, left])
    b.check("the side P3P4 equals the given side", plane.distance(right, apex) - g.side)
    b.check("the side P4P5 equals the given side", plane.distance(apex, left) - g.side)
    _closes(b, g)


@method("hexagon arcs", Exactness.EXACT, *_just(6, "hexagon arcs"))
def hexagon_arcs(b: Board, g: SidesAndSide) -> None:
    first, second, _ = _base(b, g)
    left = b.arc(first, g.side, why="the side as radius")
    right = b.arc(second, g.side, why="the side as radius")
    centre = b.meet(left, right, plane.upper, "O")
    _walk_round(b, g, centre, first, second)
    _closes(b, g)


@slip("stepped off one side too many: spaces counted as marks")
def one_side_too_many(g: SidesAndSide, number: Make) -> dict[str, Number]:
    turn = number(360) / (g.sides + 1)
    radius = g.side / (2 * sin_deg(turn / 2))
    return {"central_angle": turn, "interior_angle": 180 - turn, "circumradius": radius}


@slip("protractor read on the other scale: the central angle for the interior one")
def other_scale(g: SidesAndSide, number: Make) -> dict[str, Number]:
    interior = number(360) / g.sides
    return {"interior_angle": interior, "circumradius": g.side / (2 * cos_deg(interior / 2))}


PROBLEM = Problem(
    id="polygons/regular-from-side",
    title="Regular polygon on a side",
    brief="Draw a regular polygon of {sides} sides on a side of {side}.",
    givens=SidesAndSide,
    truth=truth,
    methods=(central_angle, four_six_centre_line, golden_pentagon, hexagon_arcs),
    findings={
        "side": Kind.LENGTH,
        "circumradius": Kind.LENGTH,
        "apothem": Kind.LENGTH,
        "interior_angle": Kind.ANGLE,
        "central_angle": Kind.ANGLE,
        "perimeter": Kind.LENGTH,
        "area": Kind.AREA,
        "across_flats": Kind.LENGTH,
        "across_corners": Kind.LENGTH,
        "closing_side": Kind.LENGTH,
        "closing_error": Kind.LENGTH,
    },
    source="Central angle 360°/n; Euclid IV.11 (pentagon) and IV.15 (hexagon); the workshop rule of centres 4 and 6.",
    slips=(one_side_too_many, other_scale),
)
