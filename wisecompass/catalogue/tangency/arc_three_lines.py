"""Circles that touch three lines: the inscribed one and three escribed ones, on the bisectors inside and outside."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, cos_deg, sin_deg, tan_deg
from wisecompass.catalogue.tangency.touching import solution_name
from wisecompass.catalogue.triangles.corners import angles_leave_room, corner_angle, set_base
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point

NAMES = ("radius", "radius_a", "radius_b", "radius_c")
"""Inscribed, and escribed at the sides opposite A, B and K."""


@dataclass(frozen=True)
class ThreeLines(Givens):
    base: Number = givens.length("base", "82")
    left_angle: Number = corner_angle("left angle", "38")
    right_angle: Number = corner_angle("right angle", "61")


def truth(g: ThreeLines, number: Make) -> Truth:
    """Radii as area over half the perimeter less none or one side; each centre from the touch point on the base."""
    zero, third = number(0), sin_deg(g.left_angle + g.right_angle)
    a, b = g.base * sin_deg(g.left_angle) / third, g.base * sin_deg(g.right_angle) / third
    area = a * b * third / 2
    half = (a + b + g.base) / 2
    radii = (area / half, area / (half - a), area / (half - b), area / (half - g.base))
    along = (half - a, half, half - g.base, half - b)
    alongs = (along[0], along[1], -along[2], along[3])
    top = Point(b * cos_deg(g.left_angle), b * sin_deg(g.left_angle))
    points = {"A": Point(zero, zero), "B": Point(g.base + 0, zero), "K": top}
    for n, (radius, x) in enumerate(zip(radii, alongs, strict=True), 1):
        points[solution_name("C", n)] = Point(x, -radius if n == 4 else radius)
        points[solution_name("T1", n)] = Point(x, zero)
    return Truth(points=points, findings=dict(zip(NAMES, radii, strict=True)), solutions=4)


@method("bisectors", Exactness.EXACT)
def bisectors(b: Board, g: ThreeLines) -> None:
    left, right, base = set_base(b, g.base)
    first = b.protract(base, left, g.left_angle, "left line")
    second = b.protract(base, right, 180 - g.right_angle, "right line", why="the supplement of the right angle")
    top = b.meet(first, second, name="K")
    inner = (
        b.bisect(left, right, top, "bisector of A", ("1", "2")),
        b.bisect(right, left, top, "bisector of B", ("3", "4")),
    )
    outer = (
        b.square(inner[0], left, "outer bisector of A", why="the outer bisector is square to the inner one"),
        b.square(inner[1], right, "outer bisector of B", why="the outer bisector is square to the inner one"),
    )
    b.caution("Two bisectors fix a centre; the escribed ones take an outer bisector at each end of their side.")
    edges = (base, second, first)
    pairs = ((inner[0], inner[1]), (inner[0], outer[1]), (outer[0], inner[1]), (outer[0], outer[1]))
    for n, (one, other) in enumerate(pairs, 1):
        with b.likewise(n):
            centre = b.meet(one, other, name=solution_name("C", n))
            touches = [
                b.square_from(edge, centre, solution_name(f"T{i}", n), why="for the touch point")
                for i, edge in enumerate(edges, 1)
            ]
            if n == 1 and b.slips(to_the_bisector.name):
                touches[0] = b.meet(inner[0], second, name="T1")
            b.line_in_arc(centre, touches[0], touches[0], "circle")
            b.dimension_radius(centre, touches[0])
        b.find(NAMES[n - 1], plane.distance(centre, touches[0]))
        for name, touch in zip(("right", "left"), touches[1:], strict=True):
            gap = plane.distance(centre, touch) - plane.distance(centre, touches[0])
            b.check(f"circle {n} touches the {name} line", gap)
    b.line_in((left, right), (right, top), (top, left), why="the three lines")
    b.dimension(right, left, offset=9)


@slip("the circle opened to where the bisector of A meets the opposite line")
def to_the_bisector(g: ThreeLines, number: Make) -> dict[str, Number]:
    """The bisector ends at D on BK; the centre is at r / sin(A/2) from A."""
    half_a, half_b = g.left_angle / 2, g.right_angle / 2
    radius = g.base / (1 / tan_deg(half_a) + 1 / tan_deg(half_b))
    whole = g.base * sin_deg(g.right_angle) / sin_deg(180 - half_a - g.right_angle)
    return {"radius": whole - radius / sin_deg(half_a)}


PROBLEM = Problem(
    id="tangency/arc-three-lines",
    title="Circles touching three lines",
    brief=(
        "Three lines make a triangle on a base of {base} with {left_angle} and {right_angle} at its ends. Draw the circles "
        "that touch all three."
    ),
    givens=ThreeLines,
    truth=truth,
    methods=(bisectors,),
    findings=dict.fromkeys(NAMES, Kind.LENGTH),
    source="Euclid IV.4; escribed circles by the outer bisectors; radius = area / (half perimeter - side).",
    conditions=(angles_leave_room("left_angle", "right_angle"),),
    slips=(to_the_bisector,),
)
