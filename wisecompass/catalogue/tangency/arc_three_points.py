"""Arc through three points: its centre lies on the bisectors of two chords (Euclid III.25)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, hypot
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class ThreePoints(Givens):
    A: tuple[Number, Number] = givens.point("point A", "0, 0")
    B: tuple[Number, Number] = givens.point("point B", "47, 31")
    C: tuple[Number, Number] = givens.point("point C", "102, 12")


def _turn(g: ThreePoints) -> Number:
    """Twice the signed area of the triangle: positive where A, B and C run anticlockwise."""
    (ax, ay), (bx, by), (cx, cy) = g.A, g.B, g.C
    return (bx - ax) * (cy - ay) - (by - ay) * (cx - ax)


def truth(g: ThreePoints, number: Make) -> Truth:
    """The centre from the equations |P - A|² = |P - B|² = |P - C|², by determinants."""
    (ax, ay), (bx, by), (cx, cy) = g.A, g.B, g.C
    ux, uy, vx, vy = bx - ax, by - ay, cx - ax, cy - ay
    u, v, twice = ux * ux + uy * uy, vx * vx + vy * vy, 2 * _turn(g)
    x, y = (vy * u - uy * v) / twice, (ux * v - vx * u) / twice
    points = {name: Point(place[0] + 0, place[1] + 0) for name, place in (("A", g.A), ("B", g.B), ("C", g.C))}
    points["O"] = Point(ax + x, ay + y)
    return Truth(points=points, findings={"radius": hypot(x, y), "centre_x": ax + x, "centre_y": ay + y})


@method("bisectors", Exactness.EXACT)
def bisectors(b: Board, g: ThreePoints) -> None:
    first, middle, last = (b.point(name, x + 0, y + 0) for name, (x, y) in (("A", g.A), ("B", g.B), ("C", g.C)))
    halving = b.bisector(first, middle, "bisector of AB", why="to both sides of the chord")
    other = b.bisector(middle, last, "bisector of BC", why="to both sides of the chord")
    with b.may_be_far():
        centre = b.meet(halving, other, name="O")
    b.caution("Take the two longer chords: bisectors that cross at a small angle leave the centre uncertain.")
    if b.slips(middle_of_the_chord.name):
        centre = b.divide(first, last, 2, ["O"])[0]
    around = b.arc(centre, span(centre, first), why="through all three points")
    for point in (first, middle, last):
        b.touch(around, point)
    b.line_in_arc(centre, *((first, last) if g.decide(_turn) > 0 else (last, first)), "arc")
    b.dimension_radius(centre, middle)
    b.find("radius", plane.distance(centre, first))
    b.find("centre_x", centre.x - first.x + g.A[0])
    b.find("centre_y", centre.y - first.y + g.A[1])
    b.check("B is as far from the centre as A", plane.distance(centre, middle) - plane.distance(centre, first))
    b.check("C is as far from the centre as A", plane.distance(centre, last) - plane.distance(centre, first))


@slip("the middle of the chord from A to C taken for the centre")
def middle_of_the_chord(g: ThreePoints, number: Make) -> dict[str, Number]:
    (ax, ay), _, (cx, cy) = g.A, g.B, g.C
    return {"radius": hypot(cx - ax, cy - ay) / 2, "centre_x": (ax + cx) / 2, "centre_y": (ay + cy) / 2}


def _aside(g: ThreePoints) -> dict[str, str]:
    """C beside A, square to AB; where A and B are one point, B too."""
    (ax, ay), (bx, by) = ((float(x), float(y)) for x, y in (g.A, g.B))
    if (ax, ay) == (bx, by):
        return {"B": f"{ax + 10:.3f}, {ay:.3f}", "C": f"{ax:.3f}, {ay + 10:.3f}"}
    return {"C": f"{ax - (by - ay):.3f}, {ay + (bx - ax):.3f}"}


PROBLEM = Problem(
    id="tangency/arc-three-points",
    title="Arc through three points",
    brief="Draw the arc through A {A}, B {B} and C {C}.",
    givens=ThreePoints,
    truth=truth,
    methods=(bisectors,),
    findings={"radius": Kind.LENGTH, "centre_x": Kind.LENGTH, "centre_y": Kind.LENGTH},
    source="Euclid III.1 and III.25.",
    conditions=(
        Condition(
            "three points that are not on one line",
            lambda g: _turn(g) * _turn(g),
            "A {A}, B {B} and C {C} lie on one straight line: no arc goes through all three",
            ("C", "B", "A"),
            _aside,
            strict=True,
        ),
    ),
    slips=(middle_of_the_chord,),
)
