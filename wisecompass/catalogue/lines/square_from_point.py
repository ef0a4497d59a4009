"""Perpendicular from a point outside a line: two arcs (Euclid I.12), or the semicircle on a slant line (Thales)."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, sqrt
from wisecompass.catalogue.lines.rulings import wider
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, length, offset
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass(frozen=True)
class PointOverLine(Givens):
    height: Number = length("height of the point", "52")
    offset: Number = offset("distance along from A", "38")


def truth(g: PointOverLine, number: Make) -> Truth:
    zero = number(0)
    return Truth(
        points={"A": Point(zero, zero), "P": Point(g.offset + 0, g.height + 0), "F": Point(g.offset + 0, zero)},
        findings={"foot_offset": g.offset + 0, "height": g.height + 0},
    )


def _line_and_point(b: Board, g: PointOverLine) -> tuple[Point, Line, Point]:
    start = b.point("A", b.number(0), b.number(0), why="the beginning of the line")
    base = b.level_line(start, "base", pen=Pen.GIVEN)
    return start, base, b.point("P", g.offset + 0, g.height + 0, why="the point outside the line")


def _finish(b: Board, height: Number, start: Point, base: Line, p: Point, foot: Point) -> None:
    b.line_in((p, foot), (start, foot))
    b.dimension(foot, p, offset=-9)
    b.find("foot_offset", (foot.x - start.x) + 0)
    b.find("height", plane.distance(p, foot))
    b.check("the perpendicular is square to the line", (p.x - foot.x) * base.dx + (p.y - foot.y) * base.dy)
    b.check("the point is as high over the foot as given", plane.distance(p, foot) - height)


@method("two arcs", Exactness.EXACT)
def two_arcs(b: Board, g: PointOverLine) -> None:
    start, base, p = _line_and_point(b, g)
    reach = b.any_opening(g.height * 5 / 4, more_than=g.height)
    swung = b.arc(p, reach, why="across the line twice")
    right, left = b.both(swung, base, ("2", "1"), plane.rightmost)
    b.caution("The two arcs below the line need one opening, or their crossing is not under the point.")
    first = b.arc(left, reach, why="below the line")
    second = b.arc(right, b.unless(two_openings.name, reach, lambda: wider(reach)), why="below the line")
    under = b.meet(first, second, plane.lower, "Q")
    foot = b.meet(b.line(p, under, "perpendicular"), base, name="F")
    _finish(b, g.height, start, base, p, foot)


@method("semicircle", Exactness.EXACT)
def semicircle(b: Board, g: PointOverLine) -> None:
    start, base, p = _line_and_point(b, g)
    slope_length = b.any_opening(g.height * 3 / 2, more_than=g.height)
    slanting = b.arc(p, slope_length, why="across the line once, any slope")
    end = b.meet(slanting, base, plane.rightmost, "1")
    slope = b.line(p, end, "slant line")
    middle = b.meet(b.bisector(p, end, "bisector", why="for the middle of the slant line"), slope, name="M")
    circle = b.arc(middle, span(middle, p), why="through both its ends, to the line")
    b.touch(circle, p)
    foot = b.meet(circle, base, plane.farthest(end), "F")
    b.caution("The circle meets the line twice: the foot is not the end of the slant line.")
    _finish(b, g.height, start, base, p, foot)


@slip("two openings below the line: the second a tenth wider")
def two_openings(g: PointOverLine, number: Make) -> dict[str, Number]:
    reach = g.height * 5 / 4
    half = g.height * 3 / 4  # of the chord that the arc cuts off the line: 3-4-5
    under = (reach * reach - reach * reach * 121 / 100) / (4 * half)  # how far the crossing moves along the line
    drop_squared = reach * reach - (half + under) * (half + under)
    return {"foot_offset": g.offset + under * g.height / (g.height + sqrt(drop_squared))}


PROBLEM = Problem(
    id="lines/square-from-point",
    title="Perpendicular from a point",
    brief="Drop a perpendicular on a line from a point {height} above it and {offset} along from its beginning.",
    givens=PointOverLine,
    truth=truth,
    methods=(two_arcs, semicircle),
    findings={"foot_offset": Kind.LENGTH, "height": Kind.LENGTH},
    source="Euclid I.12; Thales' theorem.",
    slips=(two_openings,),
)
