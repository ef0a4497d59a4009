"""Regular polygon on a given side.  Exact ways for any number (angles) and for five, six and eight sides, beside a
workshop rule for any number, whose closing side tells what it is worth."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, sin_deg
from wisecompass.catalogue.polygons.regular import (
    MEASURES,
    check_closes,
    closing_words,
    measure,
    of_circumradius,
    only_for,
    ring,
    step_round,
    warn_of_opening,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, count, length
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class SidesAndSide(Givens):
    sides: int = count("number of sides", "9", 3, 24)
    side: Number = length("side", "34")


def truth(g: SidesAndSide, number: Make) -> Truth:
    half = number(180) / g.sides
    radius = g.side / (2 * sin_deg(half))
    centre = Point(g.side / 2, radius * cos_deg(half))
    return Truth(
        points=ring(g.sides, centre, radius, number(270) - half),
        findings={**of_circumradius(g.sides, radius, number), "side": g.side + 0},
    )


def _base(b: Board, g: SidesAndSide) -> tuple[Point, Point, Line]:
    first = b.point("P1", b.number(0), b.number(0), why="the left end of the side")
    base = b.level_line(first, "base")
    return first, b.lay_off(base, first, g.side, "P2", why="the given side"), base


def _centre_of(b: Board, g: SidesAndSide, corners: list[Point]) -> Point:
    """The centre of a figure drawn without one, where the bisectors of two sides meet; only measured from."""
    first, second, third = corners[:3]
    one = Line.through(first, second).square(plane.midpoint(first, second))
    other = Line.through(second, third).square(plane.midpoint(second, third))
    return plane.meet(one, other, name="O")


def _counted(b: Board, g: SidesAndSide) -> int:
    """The number of sides that the angles are reckoned with."""
    return g.sides + 1 if b.slips(one_side_too_many.name) else g.sides


def _walk_round(b: Board, g: SidesAndSide, centre: Point, first: Point, second: Point, *, exact: bool = True) -> None:
    """Circle about the centre, the side stepped off from P2, and the polygon lined in."""
    circle = b.circle_through(centre, first, name=f"circle about {centre.name}")
    corners = step_round(b, circle, g.side, [first, second], g.sides)
    measure(b, corners, centre, g.side, exact=exact)
    if exact:
        check_closes(b, corners, g.side)


@method("central angle", Exactness.EXACT)
def central_angle(b: Board, g: SidesAndSide) -> None:
    first, second, base = _base(b, g)
    share = b.degrees(90) - b.turn(1, 2 * _counted(b, g))
    left = b.protract(base, first, share, "ray 1", why="half the interior angle")
    b.caution("Read the protractor from the end that lies along the side: the other scale gives the supplement.")
    right = b.protract(base, second, 180 - share, "ray 2", why="the same at the other end")
    _walk_round(b, g, b.meet(left, right, name="O"), first, second)


@method("exterior angles", Exactness.EXACT)
def exterior_angles(b: Board, g: SidesAndSide) -> None:
    first, second, edge = _base(b, g)
    corners = [first, second]
    turn = b.turn(1, _counted(b, g))
    for k in range(3, g.sides + 1):
        edge = b.protract(edge, corners[-1], turn, f"edge {k - 1}", why="the exterior angle, from the side continued")
        if k == 3:
            b.caution("The exterior angle is measured from the side continued, not from the side itself.")
        corners.append(b.lay_off(edge, corners[-1], g.side, f"P{k}", why="the side"))
    b.caution("Every angle leans on the one before: the errors of all add up in the closing side.")
    measure(b, corners, _centre_of(b, g, corners), g.side)
    check_closes(b, corners, g.side)


@method("semicircle division", Exactness.EXACT)
def semicircle_division(b: Board, g: SidesAndSide) -> None:
    n = g.sides
    first, second, base = _base(b, g)
    arch = b.arc(first, g.side, name="semicircle", why="over the side and its continuation")
    b.touch(arch, second)
    share = b.turn(1, 2 * n)
    rays = {}
    for part in range(2, n):
        why = f"{part} of {n} parts of the semicircle, counted from its far end"
        rays[part] = b.protract(base, first, 180 - share * part, f"ray {part}", why=why)
    b.caution("The ray through the second part is a side; the others are diagonals.")
    left = {n: b.meet(arch, rays[2], plane.beyond(rays[2]), f"P{n}")}
    right = {2: second}
    while len(left) + len(right) < n - 1:
        run, there = (right, max(right)) if len(right) <= len(left) else (left, min(left))
        following = there + 1 if run is right else there - 1
        swung = b.arc(run[there], g.side, why="the side, to the next ray")
        ray = rays[n + 2 - following]
        run[following] = b.meet(swung, ray, plane.beyond(ray), f"P{following}")
    corners = [first, *(corner for _, corner in sorted({**right, **left}.items()))]
    closing = max(right) - 1
    measure(b, corners, _centre_of(b, g, corners), g.side, closing)
    check_closes(b, corners, g.side, closing)


@method("four-six centre line", Exactness.APPROXIMATE, worth=closing_words)
def four_six_centre_line(b: Board, g: SidesAndSide) -> None:
    first, second, base = _base(b, g)
    axis = b.bisector(first, second, "centre line", why="above and below the side")
    middle = b.meet(axis, base, name="M")
    square = b.arc(middle, g.side / 2, why="up to the centre line")
    four = b.meet(square, axis, plane.upper, "4")
    left = b.arc(first, g.side, why="the side as radius")
    right = b.arc(second, g.side, why="the side as radius")
    six = b.meet(left, right, plane.upper, "6")
    five = b.divide(four, six, 2, ["5"], why="the middle is the centre for five")[0]
    if g.sides in (4, 5, 6):
        centre = {4: four, 5: five, 6: six}[g.sides]
    else:
        step = span(four, five)
        start = five if g.sides < 4 else six
        steps = g.sides - 6 if g.sides > 6 else 2
        upward = Line.through(four, six, axis.name)
        why = f"the step 4–5 laid off {steps} times" + (" downwards from 5" if g.sides < 4 else " beyond 6")
        centre = b.lay_off(upward, start, step * steps, str(g.sides), back=g.sides < 4, why=why)
        b.extend(axis, centre)
    if g.sides not in (4, 6):
        warn_of_opening(b, [first, Point(centre.x, centre.y, f"P{g.sides}")])
    b.extend(axis, four)
    _walk_round(b, g, centre, first, second, exact=g.sides in (4, 6))


@method("golden pentagon", Exactness.EXACT, only_for("golden pentagon", 5))
def golden_pentagon(b: Board, g: SidesAndSide) -> None:
    first, second, base = _base(b, g)
    axis = b.bisector(first, second, "centre line", why="for the middle of the side")
    middle = b.meet(axis, base, name="M")
    upright = b.square(base, second, "upright at P2")
    top = b.lay_off(upright, second, g.side, "N", why="the side again")
    swung = b.arc(middle, span(middle, top), why="down to the base")
    end = b.meet(swung, base, plane.beyond(base), "K")
    b.caution("P1–K is the diagonal of the pentagon: side and diagonal are in the golden section.")
    diagonal = span(first, end)
    from_first = b.arc(first, diagonal, why="above the side")
    from_second = b.arc(second, diagonal, why="above the side")
    apex = b.meet(from_first, from_second, plane.upper, "P4")
    near_second = b.arc(second, g.side, why="the side as radius")
    right = b.meet(near_second, from_first, plane.upper, "P3")
    near_first = b.arc(first, g.side, why="the side as radius")
    left = b.meet(near_first, from_second, plane.upper, "P5")
    b.extend(axis, apex)
    corners = [first, second, right, apex, left]
    measure(b, corners, _centre_of(b, g, corners), g.side)
    b.check("the side P3P4 equals the given side", plane.distance(right, apex) - g.side)
    b.check("the side P4P5 equals the given side", plane.distance(apex, left) - g.side)


@method("hexagon arcs", Exactness.EXACT, only_for("hexagon arcs", 6))
def hexagon_arcs(b: Board, g: SidesAndSide) -> None:
    first, second, _ = _base(b, g)
    left = b.arc(first, g.side, why="the side as radius")
    right = b.arc(second, g.side, why="the side as radius")
    _walk_round(b, g, b.meet(left, right, plane.upper, "O"), first, second)


@method("octagon corners", Exactness.EXACT, only_for("octagon corners", 8))
def octagon_corners(b: Board, g: SidesAndSide) -> None:
    first, second, _ = _base(b, g)
    corners = {1: first, 2: second}
    for start, slope, following, back in ((2, 45, 3, False), (1, 135, 8, False)):
        edge = b.set_square_line(corners[start], slope, f"edge at P{start}")
        corners[following] = b.lay_off(edge, corners[start], g.side, f"P{following}", back=back, why="the side")
    for start, following in ((3, 4), (8, 7)):
        edge = b.upright_line(corners[start], f"upright at P{start}")
        corners[following] = b.lay_off(edge, corners[start], g.side, f"P{following}", why="the side")
    b.caution("All sides are measured, none is the diagonal of the square corner that is cut off.")
    for start, slope, following in ((4, 135, 5), (7, 45, 6)):
        edge = b.set_square_line(corners[start], slope, f"edge at P{start}")
        corners[following] = b.lay_off(edge, corners[start], g.side, f"P{following}", why="the side")
    drawn = [corners[k] for k in range(1, 9)]
    measure(b, drawn, _centre_of(b, g, drawn), g.side, 4)
    check_closes(b, drawn, g.side, 4)
    b.check("the side that closes it comes out level", corners[5].y - corners[6].y)


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
    methods=(
        central_angle,
        exterior_angles,
        semicircle_division,
        four_six_centre_line,
        golden_pentagon,
        hexagon_arcs,
        octagon_corners,
    ),
    findings=MEASURES,
    source="Central angle 360°/n; Euclid III.21, IV.11 (five) and IV.15 (six); the workshop rule of centres 4 and 6.",
    slips=(one_side_too_many, other_scale),
)
