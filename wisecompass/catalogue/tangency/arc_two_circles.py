"""Arc that touches two circles: its centre lies on a circle about each given centre, at the sum of the radii for contact
outside and at their difference for contact inside."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, hypot, root, sqrt
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
from wisecompass.drafting.givens import LONGEST, Givens, at_least
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point


@dataclass(frozen=True)
class TwoCirclesAndRadius(Givens):
    radius_1: Number = givens.length("radius of circle 1", "23")
    radius_2: Number = givens.length("radius of circle 2", "15.5")
    distance: Number = givens.length("distance of the centres", "88")
    radius: Number = givens.length("radius of the arc", "57")
    contact_1: str = contact("contact with circle 1")
    contact_2: str = contact("contact with circle 2")


def _reaches(g: TwoCirclesAndRadius) -> tuple[Number, Number]:
    return apart(g.contact_1, g.radius_1, g.radius), apart(g.contact_2, g.radius_2, g.radius)


def _too_far(g: TwoCirclesAndRadius) -> Number:
    first, second = _reaches(g)
    return first + second - g.distance


def _too_near(g: TwoCirclesAndRadius) -> Number:
    first, second = _reaches(g)
    return g.distance - absolute(first - second)


def _once(g: TwoCirclesAndRadius) -> bool:
    return g.decide(_too_far) == 0 or g.decide(_too_near) == 0


def _ways(g: TwoCirclesAndRadius) -> tuple[int, int]:
    return (
        towards(g, lambda h: h.contact_1, lambda h: h.radius_1, lambda h: h.radius),
        towards(g, lambda h: h.contact_2, lambda h: h.radius_2, lambda h: h.radius),
    )


def truth(g: TwoCirclesAndRadius, number: Make) -> Truth:
    once, zero = _once(g), number(0)
    x, squared = crossing_of_loci(g.distance, *_reaches(g))
    y = zero if once else root(squared)
    given = (Point(zero, zero), Point(g.distance + 0, zero))
    points = {"O1": given[0], "O2": given[1]}
    for n, sign in ((1, 1), (2, -1))[: 1 if once else 2]:
        centre = Point(x + 0, y * sign)
        points[solution_name("C", n)] = centre
        for i, (circle, radius, way) in enumerate(zip(given, (g.radius_1, g.radius_2), _ways(g), strict=True), 1):
            points[solution_name(f"T{i}", n)] = touch_on(circle, radius, centre, way)
    findings = {"centre_x": x, "centre_y": y, "contact_gap_1": zero, "contact_gap_2": zero}
    if not once:
        findings["centre_y_2"] = -y
    return Truth(points=points, findings=findings, solutions=1 if once else 2)


CHANGED = "radii added where they must be subtracted, or subtracted where added"


@method("radii added and subtracted", Exactness.EXACT)
def radii_added_and_subtracted(b: Board, g: TwoCirclesAndRadius) -> None:
    left, axis = level_start(b, "O1", "the centre of circle 1", "centre line")
    one = given_circle(b, left, g.radius_1, "circle 1")
    right = b.lay_off(axis, left, g.distance, "O2", why="the distance of the centres")
    other = given_circle(b, right, g.radius_2, "circle 2")
    loci = []
    for circle, reach, kind in zip((one, other), _reaches(g), (g.contact_1, g.contact_2), strict=True):
        own = g.radius_1 if circle is one else g.radius_2
        at = "" if circle is one else ", at circle 2"
        if b.slips(f"{CHANGED}{at}"):
            reach = apart(INSIDE if kind == OUTSIDE else OUTSIDE, own, g.radius)
        taken = "the sum of both radii" if kind == OUTSIDE else "the difference of both radii"
        loci.append(b.arc(circle.centre, reach, why=f"{taken}, for contact {kind} {circle.name}"))
    b.caution("Outside contact: the centres are apart by the sum of the radii. Inside: by the difference.")
    centres = _touching(b, g, axis, loci[0]) if _once(g) else list(b.both(loci[0], loci[1], ("C", "C_2"), plane.upper))
    for n, centre in enumerate(centres, 1):
        with b.for_solution(n):
            first, second = (
                mark_touch(b, circle, centre, way, solution_name(f"T{i}", n))
                for i, (circle, way) in enumerate(zip((one, other), _ways(g), strict=True), 1)
            )
            line_in_blend(b, centre, first, second)
            b.dimension_radius(centre, first)
        for i, touch in enumerate((first, second), 1):
            b.check(f"the arc of solution {n} passes through T{i}", plane.distance(centre, touch) - g.radius)
    centre = centres[0]
    b.find("centre_x", centre.x - left.x)
    for n, each in enumerate(centres, 1):
        b.find(solution_name("centre_y", n), plane.distance_to_line(each, axis))
    for i, (circle, reach) in enumerate(zip((one, other), _reaches(g), strict=True), 1):
        b.find(f"contact_gap_{i}", plane.distance(circle.centre, centre) - reach)
    if b.slips(between_the_given.name):
        touch = b.meet(axis, one, plane.beyond(axis), "T1")
        b.find("contact_gap_1", plane.distance(touch, centre) - g.radius)


def _touching(b: Board, g: TwoCirclesAndRadius, axis: Line, locus: Circle) -> list[Point]:
    """The two loci just touch, on the line of centres."""
    behind = g.decide(lambda h: _reaches(h)[1] - _reaches(h)[0] - h.distance) == 0
    choose = (plane.short_of if behind else plane.beyond)(axis)
    b.step_through(axis, locus)
    return [b.meet(axis, locus, choose, "C")]


@slip(CHANGED)
def changed_over(g: TwoCirclesAndRadius, number: Make) -> dict[str, Number]:
    other = INSIDE if g.contact_1 == OUTSIDE else OUTSIDE
    x, squared = crossing_of_loci(g.distance, apart(other, g.radius_1, g.radius), _reaches(g)[1])
    gap = apart(other, g.radius_1, g.radius) - _reaches(g)[0]
    return {"centre_x": x, "centre_y": sqrt(squared), "contact_gap_1": gap} if float(squared) > 0 else {}


@slip("touch point taken between the given centres instead of on the line of centres with the arc")
def between_the_given(g: TwoCirclesAndRadius, number: Make) -> dict[str, Number]:
    x, squared = crossing_of_loci(g.distance, *_reaches(g))
    return {"contact_gap_1": hypot(x - g.radius_1, root(squared)) - g.radius}


def _nearer(g: TwoCirclesAndRadius) -> dict[str, str]:
    if g.contact_1 == g.contact_2 == OUTSIDE:
        return {"radius": at_least((g.distance - g.radius_1 - g.radius_2) / 2)}
    return _in_range(g)


def _in_range(g: TwoCirclesAndRadius) -> dict[str, str]:
    first, second = _reaches(g)
    least = abs(first - second)
    if float(least) > LONGEST:
        half = at_least(LONGEST / 2)
        return {"radius_1": half, "radius_2": half, "radius": "1", "distance": half}
    return {"distance": clipped(g.distance, least, first + second)}


SENTENCE = (
    "an arc of radius {radius} cannot touch circles of radius {radius_1} ({contact_1}) and {radius_2} ({contact_2}) whose "
    "centres are {distance} apart"
)

PROBLEM = Problem(
    id="tangency/arc-two-circles",
    title="Arc touching two circles",
    brief=(
        "Circles of radius {radius_1} and {radius_2} have their centres {distance} apart. Join them by an arc of radius "
        "{radius} with contact {contact_1} the first and {contact_2} the second."
    ),
    givens=TwoCirclesAndRadius,
    truth=truth,
    methods=(radii_added_and_subtracted,),
    findings=dict.fromkeys(("centre_x", "centre_y", "centre_y_2", "contact_gap_1", "contact_gap_2"), Kind.LENGTH),
    source="Loci of centres: Euclid III.11 and III.12.",
    conditions=(
        must_differ(
            "contact_1",
            "radius_1",
            "radius",
            "with contact inside an arc of radius {radius} would lie on circle 1 of radius {radius_1} itself",
        ),
        must_differ(
            "contact_2",
            "radius_2",
            "radius",
            "with contact inside an arc of radius {radius} would lie on circle 2 of radius {radius_2} itself",
        ),
        Condition(
            "an arc long enough for both", _too_far, SENTENCE, ("radius", "distance", "radius_1", "radius_2"), _nearer
        ),
        Condition(
            "circles far enough apart", _too_near, SENTENCE, ("radius", "distance", "radius_1", "radius_2"), _in_range
        ),
    ),
    slips=(changed_over, between_the_given),
)
