"""Arc that touches a line and a circle: its centre lies on a parallel at the radius, and on a circle about the given
centre at the sum or difference of the radii."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from wisecompass.arithmetic import Number, absolute, root
from wisecompass.catalogue.tangency.touching import (
    INSIDE,
    OUTSIDE,
    apart,
    clipped,
    contact,
    given_circle,
    level_start,
    line_in_blend,
    mark_touch,
    must_differ,
    solution_name,
    touch_on,
    towards,
)
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import LONGEST, Givens, at_least, at_most
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class LineAndCircle(Givens):
    line_distance: Number = givens.offset("distance of the line from the centre", "41", least=Fraction(0))
    circle_radius: Number = givens.length("radius of the circle", "23")
    radius: Number = givens.length("radius of the arc", "18.5")
    contact: str = contact("contact with the circle")
    side: str = givens.choice("side of the line", "near", "far")


def _level(g: LineAndCircle) -> Number:
    """Height of the arc's centre over the line; the far side is below."""
    return g.radius + 0 if g.side == "near" else -g.radius


def _reach(g: LineAndCircle) -> Number:
    return apart(g.contact, g.circle_radius, g.radius)


def _spare(g: LineAndCircle) -> Number:
    return _reach(g) - absolute(g.line_distance - _level(g))


def _way(g: LineAndCircle) -> int:
    return towards(g, lambda h: h.contact, lambda h: h.circle_radius, lambda h: h.radius)


def truth(g: LineAndCircle, number: Make) -> Truth:
    reach, rise = _reach(g), _level(g) - g.line_distance
    once = g.decide(_spare) == 0
    off = number(0) if once else root((reach - rise) * (reach + rise))
    given = Point(number(0), g.line_distance + 0)
    points = {"O": given}
    for n, sign in ((1, 1), (2, -1))[: 1 if once else 2]:
        centre = Point(off * sign, _level(g))
        points[solution_name("C", n)] = centre
        points[solution_name("T1", n)] = Point(off * sign, number(0))
        points[solution_name("T2", n)] = touch_on(given, g.circle_radius, centre, _way(g))
    solutions = 1 if once else 2
    return Truth(points=points, findings={"centre_offset": off, "solutions": solutions}, solutions=solutions)


@method("parallel and arc", Exactness.EXACT)
def parallel_and_arc(b: Board, g: LineAndCircle) -> None:
    foot, edge = level_start(b, "F", "under the centre of the circle", "line")
    upright = b.upright_line(foot, "upright")
    given = b.lay_off(upright, foot, g.line_distance, "O", why="the centre of the circle")
    circle = given_circle(b, given, g.circle_radius, "circle")
    start = b.lay_off(upright, foot, g.radius, "D", back=g.side == "far", why="the radius of the arc")
    level = b.parallel(edge, start, "parallel", why="the centre is one radius from the line")
    added = "the sum of both radii" if g.contact == OUTSIDE else "the difference of both radii"
    locus = b.arc(given, b.unless(changed_over.name, _reach(g), lambda: _other(g)), why=f"{added}, across the parallel")
    b.caution("Contact outside adds the radii, contact inside subtracts them.")
    if g.decide(_spare) == 0:
        centres = [b.meet(level, upright, name="C")]
        b.touch(locus, centres[0])
    else:
        centres = list(b.both(locus, level, ("C", "C_2"), plane.rightmost))
    for n, centre in enumerate(centres, 1):
        with b.for_solution(n):
            first = b.square_from(edge, centre, solution_name("T1", n), why="for the tangent point")
            second = mark_touch(b, circle, centre, _way(g), solution_name("T2", n))
            line_in_blend(b, centre, first, second)
            b.dimension_radius(centre, first)
        b.check(f"the arc of solution {n} touches the line", plane.distance(centre, first) - g.radius)
        b.check(f"the arc of solution {n} touches the circle", plane.distance(centre, second) - g.radius)
    b.find("centre_offset", plane.distance(start, centres[0]))
    b.find("solutions", len(centres))


def _other(g: LineAndCircle) -> Number:
    """The reach of contact of the other kind."""
    return apart(INSIDE if g.contact == OUTSIDE else OUTSIDE, g.circle_radius, g.radius)


@slip("radii added for contact inside, or subtracted for contact outside")
def changed_over(g: LineAndCircle, number: Make) -> dict[str, Number]:
    other = _other(g)
    rise = _level(g) - g.line_distance
    squared = other * other - rise * rise
    touches = g.decide(_spare) == 0
    return {"centre_offset": root(squared)} if float(squared) > 0 and not touches else {}


def _nearest(g: LineAndCircle) -> dict[str, str]:
    reach = _reach(g)
    if g.side == "near" and g.contact == OUTSIDE:
        return {"radius": at_least((g.line_distance - g.circle_radius) / 2)}
    if g.side == "near":
        return {"line_distance": clipped(g.line_distance, g.radius - reach, g.radius + reach)}
    if g.contact == OUTSIDE:
        return {"line_distance": at_most(g.circle_radius)}
    wanted = g.line_distance + 2 * g.radius
    if float(wanted) <= LONGEST:
        return {"circle_radius": at_least(wanted)}
    return {"circle_radius": at_most(LONGEST), "radius": at_most(LONGEST / 4), "line_distance": at_most(LONGEST / 2)}


PROBLEM = Problem(
    id="tangency/arc-line-circle",
    title="Arc touching a line and a circle",
    brief=(
        "A line passes {line_distance} from the centre of a circle of radius {circle_radius}. Touch both with an arc of "
        "radius {radius} on the {side} side of the line, with contact {contact} the circle."
    ),
    givens=LineAndCircle,
    truth=truth,
    methods=(parallel_and_arc,),
    findings={"centre_offset": Kind.LENGTH, "solutions": Kind.COUNT},
    source="Loci of centres: Euclid III.11, III.12 and III.18.",
    conditions=(
        must_differ(
            "contact",
            "circle_radius",
            "radius",
            "with contact inside an arc of radius {radius} would lie on the circle of radius {circle_radius} itself",
        ),
        Condition(
            "an arc that reaches line and circle",
            _spare,
            "an arc of radius {radius} on the {side} side cannot touch both the line, {line_distance} from the centre, and "
            "the circle of radius {circle_radius} with contact {contact}",
            ("radius", "line_distance", "circle_radius"),
            _nearest,
        ),
    ),
    slips=(changed_over,),
)
