"""Box in isometric, from the nearest lower corner (a V with an upright) or from the nearest upper one (a Y).

Truth projects the corners of the box along its body diagonal with vectors; the drafter's way is the 30° set square and
the three lengths, or dots counted along the axes.
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, hypot, sqrt
from wisecompass.catalogue.pictorial.iso import (
    CORNERS,
    FULL_LENGTHS,
    NATURAL,
    begin_on_dots,
    crate_from_above,
    crate_from_below,
    dots_apart,
    on_dots,
    papers,
    ruled_faces,
    scales,
    seen_from_the_corner,
    shrunk,
    sizes,
    square_mark,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, choice, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Settable, bare
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3, norm

EDGES = ("AB", "AD", "AE", "BF", "DH", "EF", "EH", "FG", "HG")
HIDDEN_EDGES = ("CB", "CD", "CG")


@dataclass(frozen=True)
class Box(Givens):
    front: Number = length("front edge", "64")
    height: Number = length("height", "36")
    right: Number = length("right edge", "48")
    scale: str = scales()
    hidden_edges: str = choice("hidden edges", "dashed", "left out")
    square_marks: str = choice("square marks", "left out", "drawn")
    paper: str = papers()
    unit: Number = dots_apart("4")
    grid: str = choice("unit grid", "left out", "on the faces")


def truth(g: Box, number: Make) -> Truth:
    """Corners and sizes of the crate."""
    place, shrink = seen_from_the_corner(g, number), shrunk(g, number)
    points: dict[str, Point | Point3] = {
        name: place(g.front * f, g.right * r, g.height * h) for name, (f, r, h) in CORNERS.items()
    }
    return Truth(
        points=points,
        findings={
            "front_drawn": g.front * shrink,
            "height_drawn": g.height * shrink,
            "right_drawn": g.right * shrink,
            "crate_width": (g.front + g.right) * sqrt(number(3)) / 2 * shrink,
            "crate_height": ((g.front + g.right) / 2 + g.height) * shrink,
            "body_diagonal": norm(Point3(g.front, g.right, g.height)),
        },
    )


def _sizes(b: Board, g: Box) -> tuple[Settable, Settable, Settable]:
    """Front, height and right as they are set."""
    front, height, right = sizes(b, g, front=g.front, height=g.height, right=g.right)
    if b.slips(changed_over.name):
        front, right = right, front
    if g.paper != "plain" and b.slips(dots_for_spaces.name):
        front, height, right = (bare(each) - bare(g.unit) for each in (front, height, right))
    return front, height, right


def _finish(b: Board, g: Box, at: dict[str, Point]) -> None:
    b.line_in(*((at[edge[0]], at[edge[1]]) for edge in EDGES), why="the nine edges that are seen")
    if g.hidden_edges == "dashed":
        b.line_in(*((at[edge[0]], at[edge[1]]) for edge in HIDDEN_EDGES), pen=Pen.HIDDEN, why="from the corner behind")
    if g.square_marks == "drawn":
        for corner, first, second in ("ABE", "ADE", "EFH"):
            square_mark(b, at[corner], at[first], at[second])
    counts = [round(float(size) / float(g.unit)) for size in (g.front, g.right, g.height)] if b.drawing else [0, 0, 0]
    faces = [(at[a], at[c], at[e]) for a, c, e in ("ADE", "ABE", "EHF")]
    ruled_faces(b, g, faces, [(counts[0], counts[2]), (counts[1], counts[2]), (counts[0], counts[1])])
    b.dimension(at["B"], at["A"], offset=9, true=g.right)
    b.dimension(at["A"], at["D"], offset=9, true=g.front)
    b.dimension(at["D"], at["H"], offset=9, true=g.height)
    b.find("front_drawn", plane.distance(at["A"], at["D"]))
    b.find("right_drawn", plane.distance(at["A"], at["B"]))
    b.find("height_drawn", plane.distance(at["A"], at["E"]))
    edges = [plane.distance(at["A"], at[end]) for end in "DBE"]
    if g.scale != NATURAL:
        edges = [each * sqrt(b.number(3)) / sqrt(b.number(2)) for each in edges]
    b.find("body_diagonal", norm(Point3(edges[0], edges[1], edges[2])))
    b.misread(diagonal_along_itself.name, lambda: {"body_diagonal": plane.distance(at["A"], at["G"])})
    b.find("crate_width", at["B"].x - at["D"].x)
    b.find("crate_height", at["G"].y - at["A"].y)
    b.check("two routes to the far top corner meet", plane.distance(at["F"], at["G"]) - plane.distance(at["A"], at["D"]))
    b.check("the hidden corner stands under the far top corner", at["C"].x - at["G"].x)
    b.check(
        "the far upright is as high as the near one", plane.distance(at["C"], at["G"]) - plane.distance(at["A"], at["E"])
    )


@method("crate from the lower corner", Exactness.EXACT)
def crate_from_the_lower_corner(b: Board, g: Box) -> None:
    begin_on_dots(b, g, (g.front, g.right, g.height))
    front, height, right = _sizes(b, g)
    a = b.point("A", b.number(0), b.number(0), why="the nearest lower corner")
    _finish(b, g, crate_from_below(b, a, front, right, height).at)


@method("crate from the upper corner", Exactness.EXACT)
def crate_from_the_upper_corner(b: Board, g: Box) -> None:
    begin_on_dots(b, g, (g.front, g.right, g.height))
    front, height, right = _sizes(b, g)
    e = b.point("E", b.number(0), height, why="the nearest upper corner")
    _finish(b, g, crate_from_above(b, e, front, right, height).at)


@slip("the body's diagonal measured along itself as if it were true")
def diagonal_along_itself(g: Box, number: Make) -> dict[str, Number]:
    """From the nearest lower corner: across by the difference of both edges, up by half their sum and the height."""
    shrink = shrunk(g, number)
    across = (g.right - g.front) * sqrt(number(3)) / 2
    return {"body_diagonal": hypot(across, (g.right + g.front) / 2 + g.height) * shrink}


@slip(FULL_LENGTHS)
def scale_forgotten(g: Box, number: Make) -> dict[str, Number]:
    return {"front_drawn": g.front, "height_drawn": g.height, "right_drawn": g.right}


@slip("right and front changed over")
def changed_over(g: Box, number: Make) -> dict[str, Number]:
    shrink = shrunk(g, number)
    return {"front_drawn": g.right * shrink, "right_drawn": g.front * shrink}


@slip("dots counted instead of the spaces between them")
def dots_for_spaces(g: Box, number: Make) -> dict[str, Number]:
    if g.paper == "plain":
        raise ValueError("nothing is counted")
    return {f"{name}_drawn": getattr(g, name) - g.unit for name in ("front", "height", "right")}


PROBLEM = Problem(
    id="pictorial/box",
    title="Box in isometric",
    brief=(
        "Draw in isometric, at {scale} scale, a box {front} along the front, {height} high and {right} along the right. "
        "Hidden edges {hidden_edges}, square marks {square_marks}, on {paper} paper, dots {unit} apart, unit grid {grid}."
    ),
    worded=lambda words: (
        "Draw in isometric, at {scale} scale, a box {front} along the front, {height} high and {right} along the right. "
        "Hidden edges {hidden_edges}, square marks {square_marks}, on {paper} paper"
        + (", dots {unit} apart, unit grid {grid}." if words["paper"] == "dot grid" else ".")
    ),
    givens=Box,
    truth=truth,
    methods=(crate_from_the_lower_corner, crate_from_the_upper_corner),
    conditions=on_dots("front", "height", "right"),
    findings={
        "front_drawn": Kind.LENGTH,
        "height_drawn": Kind.LENGTH,
        "right_drawn": Kind.LENGTH,
        "crate_width": Kind.LENGTH,
        "crate_height": Kind.LENGTH,
        "body_diagonal": Kind.LENGTH,
    },
    source="Parallel projection along the body diagonal of a cube; axes at 30°; isometric scale √(2/3).",
    slips=(diagonal_along_itself, scale_forgotten, changed_over, dots_for_spaces),
)
