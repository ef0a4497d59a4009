"""Arc through a point that touches a line: its centre is one radius from both."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, root
from wisecompass.catalogue.tangency.touching import level_start, line_in_blend, solution_name
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_least, length
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import bare, span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass(frozen=True)
class PointAndLine(Givens):
    distance: Number = length("distance of the point from the line", "43")
    radius: Number = length("radius of the arc", "35")


def _spare(g: PointAndLine) -> Number:
    return 2 * g.radius - g.distance


def truth(g: PointAndLine, number: Make) -> Truth:
    zero = number(0)
    once = g.decide(_spare) == 0
    off = zero if once else root(g.distance * _spare(g))
    points = {"P": Point(zero, g.distance + 0)}
    for n, sign in ((1, 1), (2, -1))[: 1 if once else 2]:
        points[solution_name("C", n)] = Point(off * sign, g.radius + 0)
        points[solution_name("T1", n)] = Point(off * sign, zero)
    return Truth(points=points, findings={"centre_offset": off}, solutions=1 if once else 2)


@method("parallel and arc", Exactness.EXACT)
def parallel_and_arc(b: Board, g: PointAndLine) -> None:
    foot, edge = level_start(b, "F", "under the point", "line")
    upright = b.upright_line(foot, "upright")
    through = b.lay_off(upright, foot, g.distance, "P", why="the point")
    radius = b.unless(diameter_for_radius.name, g.radius, lambda: bare(g.radius) * 2)
    height = b.unless(through_the_point.name, radius, lambda: span(foot, through))
    start = b.lay_off(upright, foot, height, "D", why="the radius")
    level = b.parallel(edge, start, "parallel", why="the centre is one radius from the line")
    swung = b.arc(through, radius, why="the centre is one radius from the point too")
    b.caution("The radius is measured square to the line, not along the way to the point.")
    if g.decide(_spare) == 0:
        centres = [b.meet(level, upright, name="C")]
        b.touch(swung, centres[0])
    else:
        centres = list(b.both(swung, level, ("C", "C_2"), plane.rightmost))
    if b.slips(crossing_taken.name):
        centres = [p.moved(b.number(0), start.y - p.y, c.name) for p, c in _under(b, swung, edge, centres)]
    for n, centre in enumerate(centres, 1):
        with b.for_solution(n):
            touch = b.square_from(edge, centre, solution_name("T1", n), why="for the tangent point")
            line_in_blend(b, centre, touch, through)
            b.dimension_radius(centre, touch)
        b.check(f"the arc of solution {n} passes through the point", plane.distance(centre, through) - g.radius)
        b.check(f"the arc of solution {n} touches the line", plane.distance(centre, touch) - g.radius)
    b.find("centre_offset", plane.distance(start, centres[0]))


def _under(b: Board, swung: Circle, edge: Line, centres: list[Point]) -> list[tuple[Point, Point]]:
    """The crossings of the arc about the point with the line, each with the centre that it is taken for."""
    crossings = b.both(swung, edge, ("1", "2"), plane.rightmost)
    return list(zip(crossings, centres, strict=False))


@slip("the diameter taken for the radius")
def diameter_for_radius(g: PointAndLine, number: Make) -> dict[str, Number]:
    return {"centre_offset": root((4 * g.radius - g.distance) * g.distance)}


@slip("the parallel drawn through the point instead of at the radius")
def through_the_point(g: PointAndLine, number: Make) -> dict[str, Number]:
    return {"centre_offset": g.radius + 0}


@slip("touch point taken where the arc about the point meets the line")
def crossing_taken(g: PointAndLine, number: Make) -> dict[str, Number]:
    """It meets the line where the radius is longer than the distance."""
    squared = g.radius * g.radius - g.distance * g.distance
    return {"centre_offset": root(squared)} if float(squared) > 0 else {}


PROBLEM = Problem(
    id="tangency/arc-point-line",
    title="Arc through a point touching a line",
    brief="A point lies {distance} from a line. Draw an arc of radius {radius} through the point that touches the line.",
    givens=PointAndLine,
    truth=truth,
    methods=(parallel_and_arc,),
    findings={"centre_offset": Kind.LENGTH},
    source="Loci of centres: Euclid III.18.",
    conditions=(
        Condition(
            "a point no farther than the diameter",
            _spare,
            "an arc of radius {radius} that touches the line does not reach a point {distance} away",
            ("radius", "distance"),
            lambda g: {"radius": at_least(g.distance / 2)},
        ),
    ),
    slips=(diameter_for_radius, through_the_point, crossing_taken),
)
