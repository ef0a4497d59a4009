"""Box in isometric, from the nearest lower corner (a V with an upright) or from the nearest upper one (a Y).

Truth projects the corners of the box along its body diagonal with vectors; the drafter's way is the 30° set square and
the three lengths.  Isometric scale: a length at 45° dropped upright on a line at 30° becomes √(2/3) of itself.
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, root, sqrt
from wisecompass.drafting import marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, choice, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Settable, span
from wisecompass.drafting.step import Instrument, Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3, dot, norm

CORNERS = {"A": (0, 0, 0), "B": (0, 1, 0), "C": (1, 1, 0), "D": (1, 0, 0)} | {
    "E": (0, 0, 1),
    "F": (0, 1, 1),
    "G": (1, 1, 1),
    "H": (1, 0, 1),
}
"""Corners by how many times (front, right, height) they stand from A, the nearest lower corner; C is hidden."""

EDGES = ("AB", "AD", "AE", "BF", "DH", "EF", "EH", "FG", "HG")
HIDDEN_EDGES = ("CB", "CD", "CG")


@dataclass(frozen=True)
class Box(Givens):
    front: Number = length("front edge", "64")
    height: Number = length("height", "36")
    right: Number = length("right edge", "48")
    scale: str = choice("scale", "natural", "isometric")
    hidden_edges: str = choice("hidden edges", "dashed", "left out")
    paper: str = choice("paper", "plain", "dot grid")


def truth(g: Box, number: Make) -> Truth:
    """Parallel projection along the body diagonal (1, 1, 1) of a cube, both run-away edges on negative axes.

    The picture plane has the unit vectors (1, -1, 0)/√2 to the right and (-1, -1, 2)/√6 upwards.
    """
    across = Point3(number(1), number(-1), number(0)).scaled(1 / sqrt(number(2)))
    upward = Point3(number(-1), number(-1), number(2)).scaled(1 / sqrt(number(6)))
    enlarge = number(1) if g.scale == "isometric" else sqrt(number(3) / 2)
    points: dict[str, Point | Point3] = {}
    for name, (f, r, h) in CORNERS.items():
        place = Point3(-g.front * f, -g.right * r, g.height * h)
        points[name] = Point(dot(place, across) * enlarge, dot(place, upward) * enlarge)
    shrink = sqrt(number(2) / 3) if g.scale == "isometric" else number(1)
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
    """The lengths to set: as given, or reduced on a diagram of the isometric scale."""
    if g.scale == "natural":
        return g.front, g.height, g.right
    reduced: list[Settable] = []
    with b.block("isometric scale"):
        zero = b.point("S", b.number(0), b.number(0), why="the start of the isometric scale")
        steep = b.set_square_line(zero, 45, "true lengths")
        shallow = b.set_square_line(zero, 30, "isometric lengths")
        for size, name in ((g.front, "front"), (g.height, "height"), (g.right, "right")):
            measured = b.lay_off(steep, zero, size, name, why=f"the {name} at full length")
            drop = b.upright_line(measured, f"drop from {name}")
            reduced.append(span(zero, b.meet(drop, shallow, name=f"{name}′")))
    return reduced[0], reduced[1], reduced[2]


def _finish(b: Board, g: Box, at: dict[str, Point]) -> None:
    b.line_in(*((at[edge[0]], at[edge[1]]) for edge in EDGES), why="the nine edges that are seen")
    if g.hidden_edges == "dashed":
        b.line_in(*((at[edge[0]], at[edge[1]]) for edge in HIDDEN_EDGES), pen=Pen.HIDDEN, why="from the corner behind")
    b.dimension(at["B"], at["A"], offset=9, true=g.right)
    b.dimension(at["A"], at["D"], offset=9, true=g.front)
    b.dimension(at["D"], at["H"], offset=9, true=g.height)
    if g.paper == "dot grid":
        _dot_grid(b, at)
    b.find("front_drawn", plane.distance(at["A"], at["D"]))
    b.find("right_drawn", plane.distance(at["A"], at["B"]))
    b.find("height_drawn", plane.distance(at["A"], at["E"]))
    edges = [plane.distance(at["A"], at[end]) for end in "DBE"]
    if g.scale != "natural":
        edges = [each * sqrt(b.number(3)) / sqrt(b.number(2)) for each in edges]
    b.find("body_diagonal", norm(Point3(edges[0], edges[1], edges[2])))
    b.find("crate_width", at["B"].x - at["D"].x)
    b.find("crate_height", at["G"].y - at["A"].y)
    b.check("two routes to the far top corner meet", plane.distance(at["F"], at["G"]) - plane.distance(at["A"], at["D"]))
    b.check("the hidden corner stands under the far top corner", at["C"].x - at["G"].x)


def _dot_grid(b: Board, at: dict[str, Point]) -> None:
    """Dots of an isometric paper, 10 mm along the axes, over the figure and one dot round it."""
    b.step("say", Instrument.SET_SQUARE)
    b.say("Rule the dot paper: dots stand evenly along all three axes, one of them on A")
    if not b.drawing:
        return
    pitch = 10.0 * max(1, round(float(plane.distance(at["A"], at["G"])) / 240))
    row, column = pitch / 2, pitch * 3**0.5 / 2
    left, right = float(at["D"].x) - column, float(at["B"].x) + column
    low, high = float(at["A"].y) - row, float(at["G"].y) + row
    for i in range(int(left // column), int(right // column) + 1):
        for j in range(int(low // row), int(high // row) + 1):
            if (i + j) % 2 == 0:
                b.put(marks.Dot, x=i * column, y=j * row, pen=Pen.GRID)


@method("crate from the lower corner", Exactness.EXACT)
def crate_from_the_lower_corner(b: Board, g: Box) -> None:
    front, height, right = _sizes(b, g)
    a = b.point("A", b.number(0), b.number(0), why="the nearest lower corner")
    to_left = b.set_square_line(a, 150, "front axis")
    to_right = b.set_square_line(a, 30, "right axis")
    upright = b.upright_line(a, "upright axis")
    b.caution("Only lengths along the three axes are true; a sloping edge is never measured along itself.")
    d = b.lay_off(to_left, a, front, "D", why="the front edge")
    right_end = b.lay_off(to_right, a, right, "B", why="the right edge")
    e = b.lay_off(upright, a, height, "E", why="the height")
    c = b.meet(b.parallel(to_right, d, "DC"), b.parallel(to_left, right_end, "BC"), name="C")
    top_right = b.parallel(to_right, e, "EF")
    f = b.meet(top_right, b.parallel(upright, right_end, "BF"), name="F")
    top_left = b.parallel(to_left, e, "EH")
    h = b.meet(top_left, b.parallel(upright, d, "DH"), name="H")
    over = b.parallel(to_left, f, "FG")
    corner = b.meet(over, b.parallel(to_right, h, "HG"), name="G")
    _finish(b, g, {"A": a, "B": right_end, "C": c, "D": d, "E": e, "F": f, "G": corner, "H": h})


@method("crate from the upper corner", Exactness.EXACT)
def crate_from_the_upper_corner(b: Board, g: Box) -> None:
    front, height, right = _sizes(b, g)
    e = b.point("E", b.number(0), height, why="the nearest upper corner")
    to_left = b.set_square_line(e, 150, "front axis")
    to_right = b.set_square_line(e, 30, "right axis")
    upright = b.upright_line(e, "upright axis")
    b.caution("Measure the height downwards from the Y; upwards it draws the box from below.")
    h = b.lay_off(to_left, e, front, "H", why="the front edge")
    f = b.lay_off(to_right, e, right, "F", why="the right edge")
    a = b.lay_off(upright, e, height, "A", back=True, why="the height")
    corner = b.meet(b.parallel(to_right, h, "HG"), b.parallel(to_left, f, "FG"), name="G")
    d = b.meet(b.parallel(to_left, a, "AD"), b.parallel(upright, h, "HD"), name="D")
    right_end = b.meet(b.parallel(to_right, a, "AB"), b.parallel(upright, f, "FB"), name="B")
    c = b.meet(b.parallel(to_right, d, "DC"), b.parallel(to_left, right_end, "BC"), name="C")
    _finish(b, g, {"A": a, "B": right_end, "C": c, "D": d, "E": e, "F": f, "G": corner, "H": h})


@slip("a face diagonal measured along itself as if it were true")
def diagonal_along_itself(g: Box, number: Make) -> dict[str, Number]:
    return {"drawn_diagonal": root(g.front * g.front + g.height * g.height)}


@slip("full lengths laid off where the isometric scale is asked for")
def scale_forgotten(g: Box, number: Make) -> dict[str, Number]:
    return {"front_drawn": g.front, "height_drawn": g.height, "right_drawn": g.right}


PROBLEM = Problem(
    id="pictorial/box",
    title="Box in isometric",
    brief=(
        "Draw in isometric, at {scale} scale, a box {front} along the front, {height} high and {right} along the right. "
        "Hidden edges {hidden_edges}, on {paper} paper."
    ),
    givens=Box,
    truth=truth,
    methods=(crate_from_the_lower_corner, crate_from_the_upper_corner),
    findings={
        "front_drawn": Kind.LENGTH,
        "height_drawn": Kind.LENGTH,
        "right_drawn": Kind.LENGTH,
        "crate_width": Kind.LENGTH,
        "crate_height": Kind.LENGTH,
        "body_diagonal": Kind.LENGTH,
    },
    source="Parallel projection along the body diagonal of a cube; axes at 30°; isometric scale √(2/3).",
    slips=(diagonal_along_itself, scale_forgotten),
)
