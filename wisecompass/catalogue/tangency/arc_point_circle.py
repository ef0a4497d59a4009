"""Arc through a point that touches a circle: its centre is one radius from the point, and from the circle's centre by
the sum or the difference of the radii."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, root
from wisecompass.catalogue.tangency.touching import (
    INSIDE,
    OUTSIDE,
    apart,
    clipped,
    contact,
    crossing_of_loci,
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
from wisecompass.drafting.givens import Givens, at_least
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


@dataclass(frozen=True)
class PointAndCircle(Givens):
    circle_radius: Number = givens.length("radius of the circle", "29")
    distance: Number = givens.length("distance of the point from the centre", "71")
    radius: Number = givens.length("radius of the arc", "36")
    contact: str = contact("contact with the circle")


def _reach(g: PointAndCircle) -> Number:
    return apart(g.contact, g.circle_radius, g.radius)


def _too_far(g: PointAndCircle) -> Number:
    return _reach(g) + g.radius - g.distance


def _too_near(g: PointAndCircle) -> Number:
    return g.distance - absolute(_reach(g) - g.radius)


def _once(g: PointAndCircle) -> bool:
    return g.decide(_too_far) == 0 or g.decide(_too_near) == 0


def _way(g: PointAndCircle) -> int:
    return towards(g, lambda h: h.contact, lambda h: h.circle_radius, lambda h: h.radius)


def truth(g: PointAndCircle, number: Make) -> Truth:
    once, zero = _once(g), number(0)
    x, squared = crossing_of_loci(g.distance, _reach(g), g.radius)
    y = zero if once else root(squared)
    points = {"O": Point(zero, zero), "P": Point(g.distance + 0, zero)}
    for n, sign in ((1, 1), (2, -1))[: 1 if once else 2]:
        centre = Point(x + 0, y * sign)
        points[solution_name("C", n)] = centre
        points[solution_name("T1", n)] = touch_on(points["O"], g.circle_radius, centre, _way(g))
    findings = {"centre_x": x, "centre_y": y} if once else {"centre_x": x, "centre_y": y, "centre_y_2": -y}
    return Truth(points=points, findings=findings, solutions=1 if once else 2)


@method("two arcs", Exactness.EXACT)
def two_arcs(b: Board, g: PointAndCircle) -> None:
    start, axis = level_start(b, "O", "the centre of the circle", "centre line")
    circle = given_circle(b, start, g.circle_radius, "circle")
    through = b.lay_off(axis, start, g.distance, "P", why="the point")
    added = "the sum of both radii" if g.contact == OUTSIDE else "the difference of both radii"
    locus = b.arc(start, b.unless(changed_over.name, _reach(g), lambda: _other(g)), why=f"{added}, for contact {g.contact}")
    b.caution("Contact outside adds the radii, contact inside subtracts them.")
    swung = b.arc(through, g.radius, why="the radius of the arc, from the point")
    if _once(g):
        behind = g.decide(lambda h: h.radius - _reach(h) - h.distance) == 0
        b.step_through(axis, locus)
        choose = (plane.short_of if behind else plane.beyond)(axis)
        centres = [b.meet(axis, locus, choose, "C")]
    else:
        centres = list(b.both(locus, swung, ("C", "C_2"), plane.upper))
    for n, centre in enumerate(centres, 1):
        with b.for_solution(n):
            touch = mark_touch(b, circle, centre, _way(g), solution_name("T1", n))
            line_in_blend(b, centre, touch, through)
            b.dimension_radius(centre, touch)
        b.check(f"the arc of solution {n} passes through the point", plane.distance(centre, through) - g.radius)
        b.check(f"the arc of solution {n} touches the circle", plane.distance(centre, touch) - g.radius)
    b.find("centre_x", centres[0].x - start.x)
    for n, each in enumerate(centres, 1):
        b.find(solution_name("centre_y", n), plane.distance_to_line(each, axis))


def _other(g: PointAndCircle) -> Number:
    """The reach of contact of the other kind."""
    return apart(INSIDE if g.contact == OUTSIDE else OUTSIDE, g.circle_radius, g.radius)


@slip("radii added for contact inside, or subtracted for contact outside")
def changed_over(g: PointAndCircle, number: Make) -> dict[str, Number]:
    other = _other(g)
    x, squared = crossing_of_loci(g.distance, other, g.radius)
    return {"centre_x": x, "centre_y": root(squared), "centre_y_2": -root(squared)} if float(squared) > 0 else {}


def _nearest(g: PointAndCircle) -> dict[str, str]:
    if g.contact == OUTSIDE and float(g.distance) > float(g.circle_radius):
        return {"radius": at_least((g.distance - g.circle_radius) / 2)}
    reach = _reach(g)
    return {"distance": clipped(g.distance, abs(reach - g.radius), reach + g.radius)}


SENTENCE = (
    "an arc of radius {radius} through a point {distance} from the centre cannot touch a circle of radius {circle_radius} "
    "with contact {contact}"
)

PROBLEM = Problem(
    id="tangency/arc-point-circle",
    title="Arc through a point touching a circle",
    brief=(
        "A point lies {distance} from the centre of a circle of radius {circle_radius}. Draw an arc of radius {radius} "
        "through the point with contact {contact} the circle."
    ),
    givens=PointAndCircle,
    truth=truth,
    methods=(two_arcs,),
    findings=dict.fromkeys(("centre_x", "centre_y", "centre_y_2"), Kind.LENGTH),
    source="Loci of centres: Euclid III.11 and III.12.",
    conditions=(
        must_differ(
            "contact",
            "circle_radius",
            "radius",
            "with contact inside an arc of radius {radius} would lie on the circle of radius {circle_radius} itself",
        ),
        Condition("an arc long enough", _too_far, SENTENCE, ("radius", "distance", "circle_radius"), _nearest),
        Condition("a point far enough away", _too_near, SENTENCE, ("distance", "radius", "circle_radius"), _nearest),
    ),
    slips=(changed_over,),
)
