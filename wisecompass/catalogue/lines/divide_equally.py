"""Dividing a line into equal parts with a slant line and parallels (Euclid VI.9)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number
from wisecompass.catalogue.lines.rulings import base_with_ends, slant
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, count, length
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class LengthAndParts(Givens):
    length: Number = length("length", "118")
    parts: int = count("number of parts", "7", 2, 60)


def truth(g: LengthAndParts, number: Make) -> Truth:
    zero = number(0)
    points: dict[str, Point] = {f"D{k}": Point(g.length * k / g.parts, zero) for k in range(1, g.parts)}
    points |= {"A": Point(zero, zero), "B": Point(g.length, zero)}
    return Truth(points=points, findings={"part_length": g.length / g.parts})


@method("slant line and parallels", Exactness.EXACT)
def slant_line_and_parallels(b: Board, g: LengthAndParts) -> None:
    a, end, base = base_with_ends(b, g.length)
    sloping = slant(b, a)
    step = b.any_opening(g.length / g.parts)
    marks = b.step_along(sloping, a, step, [str(k) for k in range(1, g.parts + 1)], why="any equal steps")
    b.caution("Count the spaces, not the marks: so many spaces need one mark more.")
    last = b.unless(marks_for_spaces.name, marks[-1], lambda: marks[-2])
    closing = b.line(last, end, "closing line")
    found = [a]
    for k, mark in enumerate(marks[:-1], 1):
        across = b.parallel(closing, mark, f"parallel {k}")
        found.append(b.meet(across, base, name=f"D{k}"))
    b.line_in((a, end))
    b.dimension(found[1], a, offset=10)
    b.find("part_length", plane.distance(a, found[1]))
    b.check(
        "the first part goes into the line as often as asked", plane.distance(a, found[1]) * g.parts - plane.distance(a, end)
    )
    b.check("the last part equals the first", plane.distance(found[-1], end) - plane.distance(a, found[1]))


@slip("marks counted for spaces: one part too few stepped off")
def marks_for_spaces(g: LengthAndParts, number: Make) -> dict[str, Number]:
    return {"part_length": g.length / (g.parts - 1)}


PROBLEM = Problem(
    id="lines/divide-equally",
    title="Line divided equally",
    brief="Divide a line {length} long into {parts} equal parts.",
    givens=LengthAndParts,
    truth=truth,
    methods=(slant_line_and_parallels,),
    findings={"part_length": Kind.LENGTH},
    source="Euclid VI.9: parallels cut both lines in the same ratio.",
    slips=(marks_for_spaces,),
)
