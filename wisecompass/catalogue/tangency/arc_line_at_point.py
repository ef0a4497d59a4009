"""Arc that touches a line at a point of it and goes through another: its centre lies square over the one, and on the
bisector of both."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute
from wisecompass.catalogue.tangency.touching import level_start, line_in_blend
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class LineAndPoint(Givens):
    offset: Number = givens.offset("distance of the touch point along the line", "28")
    point_x: Number = givens.offset("distance of the point along the line", "79")
    point_y: Number = givens.offset("height of the point over the line", "43")


def truth(g: LineAndPoint, number: Make) -> Truth:
    """The centre (o, r) is as far from (x, y) as from the line: r = ((x - o)² + y²) / (2y)."""
    zero, run = number(0), g.point_x - g.offset
    rise = (run * run + g.point_y * g.point_y) / (2 * g.point_y)
    points = {"T1": Point(g.offset + 0, zero), "P": Point(g.point_x + 0, g.point_y + 0), "C": Point(g.offset + 0, rise)}
    return Truth(points=points, findings={"radius": absolute(rise)})


@method("square and bisector", Exactness.EXACT)
def square_and_bisector(b: Board, g: LineAndPoint) -> None:
    start, edge = level_start(b, "A", "the beginning of the line", "line")
    through = b.point("P", g.point_x + 0, g.point_y + 0, why="the point to go through")
    here = g.decide(lambda h: h.offset) == 0
    touch = b.mark_point(start.named("T1")) if here else b.lay_off(edge, start, g.offset, "T1", why="the touch point")
    upright = b.square(edge, touch, "square at T1", why="the centre stands square over the touch point")
    halving = b.bisector(touch, through, "bisector", why="the centre is as far from P as from the touch point")
    with b.may_be_far():
        centre = b.meet(upright, halving, name="C")
    b.caution("The bisector belongs to the chord from the touch point to P, not to the line.")
    if b.slips(height_for_diameter.name):
        centre = b.pricked(touch.moved(b.number(0), (through.y - touch.y) / 2, "C"))
    line_in_blend(b, centre, touch, through)
    b.dimension_radius(centre, through)
    b.find("radius", plane.distance(centre, touch))
    b.check("the arc goes through P", plane.distance(centre, through) - plane.distance(centre, touch))
    b.check(
        "the centre is one radius from the line",
        absolute(plane.distance_to_line(centre, edge)) - plane.distance(centre, through),
    )


@slip("the height of the point taken for the diameter")
def height_for_diameter(g: LineAndPoint, number: Make) -> dict[str, Number]:
    return {"radius": absolute(g.point_y) / 2}


PROBLEM = Problem(
    id="tangency/arc-line-at-point",
    title="Arc touching a line at a point",
    brief=(
        "Draw the arc that touches a line {offset} along from its beginning and goes through a point {point_x} along and "
        "{point_y} above it."
    ),
    givens=LineAndPoint,
    truth=truth,
    methods=(square_and_bisector,),
    findings={"radius": Kind.LENGTH},
    source="Euclid III.19 and III.25.",
    conditions=(
        Condition(
            "a point off the line",
            lambda g: g.point_y * g.point_y,
            "a point {point_y} above the line lies on it: no arc that touches the line goes through it",
            ("point_y",),
            lambda g: {"point_y": "10"},
            strict=True,
        ),
    ),
    slips=(height_for_diameter,),
)
