"""Perpendicular bisector of a line, by equal arcs (Euclid I.10)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number
from wisecompass.catalogue.lines.rulings import base_with_ends
from wisecompass.drafting.board import Board
from wisecompass.drafting.forks import TWO_OPENINGS
from wisecompass.drafting.givens import Givens, length
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class OneLength(Givens):
    length: Number = length("length", "118")


def truth(g: OneLength, number: Make) -> Truth:
    zero = number(0)
    return Truth(
        points={"A": Point(zero, zero), "B": Point(g.length, zero), "M": Point(g.length / 2, zero)},
        findings={"half_length": g.length / 2},
    )


@method("equal arcs", Exactness.EXACT)
def equal_arcs(b: Board, g: OneLength) -> None:
    a, end, base = base_with_ends(b, g.length)
    axis = b.bisector(a, end, "bisector", why="above and below the line")
    b.caution("Keep the same opening for both ends: with two different ones the line is square but not in the middle.")
    middle = b.meet(axis, base, name="M")
    b.line_in((a, end))
    b.dimension(middle, a, offset=10)
    b.find("half_length", plane.distance(a, middle))
    b.check("both halves are equal", plane.distance(middle, end) - plane.distance(a, middle))
    b.check("the bisector stands square on the line", axis.dx * base.dx + axis.dy * base.dy)


@slip(TWO_OPENINGS)
def two_openings(g: OneLength, number: Make) -> dict[str, Number]:
    first = g.length * 2 / 3
    second = first * 11 / 10
    return {"half_length": (g.length * g.length + first * first - second * second) / (2 * g.length)}


PROBLEM = Problem(
    id="lines/perpendicular-bisector",
    title="Perpendicular bisector",
    brief="Halve a line {length} long with a perpendicular.",
    givens=OneLength,
    truth=truth,
    methods=(equal_arcs,),
    findings={"half_length": Kind.LENGTH},
    source="Euclid I.10 and I.11: equal arcs from both ends.",
    slips=(two_openings,),
)
