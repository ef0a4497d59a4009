"""Right wedge in isometric: half a crate, cut along a diagonal of its floor, its front or its right face.

The right angle of its triangle stands at the nearest lower corner A. Truth projects its corners; a face turns to the eye
where its normal goes with the body diagonal of a cube.
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, hypot, root, sqrt
from wisecompass.catalogue.pictorial.iso import (
    CORNERS,
    FRONT,
    RIGHT,
    UP,
    axes_at,
    begin_on_dots,
    dots_apart,
    on_dots,
    papers,
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
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point

FLOOR = "floor"
ENDS = {
    FLOOR: (("A", "D", "B"), ("E", "H", "F")),
    FRONT: (("A", "D", "E"), ("B", "C", "F")),
    RIGHT: (("A", "B", "E"), ("D", "C", "H")),
}
"""The corners of both triangles: the square one first, then the ends of the hypotenuse; the second behind the first,
of the floor above it."""

AXES = {"D": FRONT, "B": RIGHT, "E": UP}
"""The axis through A on which a corner lies."""

THIRD = {FLOOR: UP, FRONT: RIGHT, RIGHT: FRONT}
"""The axis along which the second triangle lies away from the first."""


@dataclass(frozen=True)
class Wedge(Givens):
    front: Number = length("front edge", "40")
    height: Number = length("height", "16")
    right: Number = length("right edge", "56")
    triangle: str = choice("face that is a triangle", FLOOR, FRONT, RIGHT)
    scale: str = scales()
    hidden_edges: str = choice("hidden edges", "dashed", "left out")
    square_marks: str = choice("square marks", "drawn", "left out")
    paper: str = papers()
    unit: Number = dots_apart("8")

    @property
    def legs(self) -> tuple[Number, Number]:
        """The legs of the triangle as they are given, mm."""
        pair = {FLOOR: (self.front, self.right), FRONT: (self.front, self.height), RIGHT: (self.right, self.height)}
        return pair[self.triangle]


def truth(g: Wedge, number: Make) -> Truth:
    place, shrink = seen_from_the_corner(g, number), shrunk(g, number)
    names = sum(ENDS[g.triangle], ())
    points = {name: place(g.front * f, g.right * r, g.height * h) for name, (f, r, h) in CORNERS.items() if name in names}
    first, second = g.legs
    between = first * second if g.triangle == FLOOR else -first * second  # 120° between the legs, in a side face 60°
    return Truth(
        points=dict(points),
        findings={
            "sloping_edge": hypot(first, second),
            "sloping_edge_drawn": root(first * first + second * second + between) * shrink,
            "volume": g.front * g.height * g.right / 2,
        },
    )


def _seen(g: Wedge) -> tuple[list[str], list[str]]:
    """The edges that are seen and those that are hidden; of edges that fall into one line only those in front."""
    (a, d, e), (b, c, f) = ENDS[g.triangle]
    if g.triangle == FLOOR:  # the slope stands behind
        return [a + d, a + e, a + b, d + c, e + f, b + c, b + f, c + f], [d + e]
    seen, hidden = [a + d, d + e, a + e, a + b, e + f, b + f], [b + c]
    turned = g.decide(lambda h: h.legs[0] - h.legs[1])
    (seen if turned > 0 else hidden).extend([d + c, c + f] if turned else [])
    return seen, hidden


@method("half crate", Exactness.EXACT)
def half_crate(b: Board, g: Wedge) -> None:
    begin_on_dots(b, g, (g.front, g.right, g.height))
    front, height, right = sizes(b, g, front=g.front, height=g.height, right=g.right)
    if g.triangle != FLOOR and b.slips(changed_over.name):
        front, right = right, front
    at = {"A": b.point("A", b.number(0), b.number(0), why="the nearest lower corner, the square one of the triangle")}
    ways = axes_at(b, at["A"])
    b.caution("Only lengths along the three axes are true; the sloping edge is joined, never measured or counted.")
    at["D"] = b.lay_off(ways[FRONT], at["A"], front, "D", why="the front edge")
    at["B"] = b.lay_off(ways[RIGHT], at["A"], right, "B", why="the right edge")
    at["E"] = b.lay_off(ways[UP], at["A"], height, "E", why="the height")
    (_, d, e), (back, far, over) = ENDS[g.triangle]
    third = ways[THIRD[g.triangle]]
    b.line(at[d], at[e], why="the sloping edge: the one cut across the crate")
    for start, end in ((d, far), (e, over)):
        along = b.parallel(third, at[start], start + end)
        side = b.parallel(ways[AXES[start]], at[back], f"edge from {back} to {end}")
        b.pencil()
        at[end] = b.meet(along, side, name=end)
    b.line(at[far], at[over], why="the sloping edge behind it, joined as well")
    _finish(b, g, at)


def _finish(b: Board, g: Wedge, at: dict[str, Point]) -> None:
    seen, hidden = _seen(g)
    b.line_in(*((at[edge[0]], at[edge[1]]) for edge in seen), why="what is seen")
    if g.hidden_edges == "dashed" and hidden:
        b.line_in(*((at[edge[0]], at[edge[1]]) for edge in hidden), pen=Pen.HIDDEN, why="what is behind")
    (a, d, e), (back, far, over) = ENDS[g.triangle]
    if g.square_marks == "drawn":
        square_mark(b, at[a], at[d], at[e])
        square_mark(b, at[back], at[far], at[over])
    b.dimension(at["B"], at["A"], offset=9, true=g.right)
    b.dimension(at["A"], at["D"], offset=9, true=g.front)
    upright = ("D", "H") if g.triangle != FRONT and "H" in at else ("A", "E")
    b.dimension(at[upright[0]], at[upright[1]], offset=9 if upright == ("D", "H") else -9, true=g.height)
    drawn = plane.distance(at[d], at[e])
    enlarge = b.number(1) if g.scale == "natural" else sqrt(b.number(3)) / sqrt(b.number(2))
    legs = [plane.distance(at[a], at[end]) * enlarge for end in (d, e)]
    b.find("sloping_edge_drawn", drawn)
    b.find("sloping_edge", hypot(legs[0], legs[1]))
    b.find("volume", legs[0] * legs[1] * plane.distance(at[a], at[back]) * enlarge / 2)
    b.misread(slope_measured.name, lambda: {"sloping_edge_drawn": b.measured("sloping_edge")})
    b.misread(second_forgotten.name, lambda: {"volume": b.measured("volume") * 2 / 3})
    b.check("both sloping edges are equally long", drawn - plane.distance(at[far], at[over]))
    gap = plane.distance(at[a], at[back]) - plane.distance(at[d], at[far])
    b.check("the edges along which the triangle is moved are equally long", gap)


@slip("the sloping edge laid off along itself at its true length")
def slope_measured(g: Wedge, number: Make) -> dict[str, Number]:
    return {"sloping_edge_drawn": hypot(*g.legs)}


@slip("right and front changed over")
def changed_over(g: Wedge, number: Make) -> dict[str, Number]:
    if g.triangle == FLOOR:
        raise ValueError("both legs change places, which leaves the sloping edge as it is")
    first, second = {FRONT: (g.right, g.height), RIGHT: (g.front, g.height)}[g.triangle]
    return {"sloping_edge": hypot(first, second)}


@slip("the second upright forgotten: the wedge comes to a point, a third of its volume is gone")
def second_forgotten(g: Wedge, number: Make) -> dict[str, Number]:
    return {"volume": g.front * g.height * g.right / 3}


WORDS = (
    "Draw in isometric, at {scale} scale, a right wedge {front} along the front, {height} high and {right} along the right, "
    "its {triangle} a triangle. Hidden edges {hidden_edges}, square marks {square_marks}, on {paper} paper"
)

PROBLEM = Problem(
    id="pictorial/right-wedge",
    title="Right wedge in isometric",
    brief=f"{WORDS}, dots {{unit}} apart.",
    worded=lambda words: WORDS + (", dots {unit} apart." if words["paper"] == "dot grid" else "."),
    givens=Wedge,
    truth=truth,
    methods=(half_crate,),
    conditions=on_dots("front", "height", "right"),
    findings={"sloping_edge": Kind.LENGTH, "sloping_edge_drawn": Kind.LENGTH, "volume": Kind.VOLUME},
    source="Parallel projection along the body diagonal of a cube; law of cosines at 120° and 60° for the sloping edge.",
    slips=(slope_measured, changed_over, second_forgotten),
)
"""Half a box: six corners, one cut."""
