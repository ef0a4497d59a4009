"""Circles that touch three circles (Apollonius' problem): one circle is shrunk to a point, and an inversion in that point
turns the wanted circle into a common tangent of two circles."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from wisecompass.arithmetic import Number, absolute, hypot
from wisecompass.catalogue.tangency.eight_circles import Layout, ThreeCircles, place, shrunk, solutions, with_given
from wisecompass.catalogue.tangency.inversion import Image, Inversion, inversion_circle
from wisecompass.catalogue.tangency.touching import given_circle, mark_touch, solution_name
from wisecompass.drafting.board import Board
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.givens import LONGEST, at_least, at_most
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Point

MOST = 8
EACH = {"radius": Kind.LENGTH, "contacts": Kind.CHOICE}
"""What is found of each solution."""

RADII = ("radius_1", "radius_2", "radius_3")


def _finding(name: str, number: int) -> str:
    return name if number == 1 else f"{name}_{number}"


def _contacts(laid: Layout) -> str:
    return ", ".join("inside" if inside else "outside" for inside in laid.inside)


def truth(g: ThreeCircles, number: Make) -> Truth:
    """The touch point on circle i lies at σi·ri from its centre, on the way of signed length R + ρi to the centre."""
    centres = g.centres
    points: dict[str, Point] = {f"O{i}": centre for i, centre in enumerate(centres, 1)}
    findings: dict[str, Number | str | int] = {}
    all_laid = solutions(g)
    for n, laid in enumerate(all_laid, 1):
        found = laid.found
        x, y, big = place(g, found)
        points[solution_name("C", n)] = Point(x, y)
        rows = zip(centres, g.radii, (1, *found.signs), (big, *(big + rho for rho in shrunk(g, found.signs))), strict=True)
        for i, (given, radius, sign, away) in enumerate(rows, 1):
            share = radius * sign / away
            touch = Point(given.x + (x - given.x) * share, given.y + (y - given.y) * share)
            points[solution_name(f"T{i}", n)] = touch
        findings[_finding("radius", n)] = absolute(big - g.radius_1)
        findings[_finding("contacts", n)] = _contacts(laid)
    findings["count"] = len(all_laid)
    return Truth(points=points, findings=findings, solutions=len(all_laid))


@method("offset and inversion", Exactness.EXACT)
def offset_and_inversion(b: Board, g: ThreeCircles) -> None:
    centres = g.centres
    start = b.point("O1", centres[0].x, centres[0].y, why="the centre of circle 1")
    marked = [start, *(b.point(f"O{i}", p.x, p.y, why=f"the centre of circle {i}") for i, p in enumerate(centres[1:], 2))]
    circles = [
        given_circle(b, at, radius, f"circle {i}") for i, (at, radius) in enumerate(zip(marked, g.radii, strict=True), 1)
    ]
    all_laid = solutions(g)
    known: dict[tuple[int, int], Image] = {}
    helper = inversion_circle(b, g, start)
    b.caution("Contact of the same kind takes the difference of two radii, contact of the other kind their sum.")
    for n, laid in enumerate(all_laid, 1):
        with b.likewise(n):
            wrong = _other_contact(all_laid) if n == 1 else None
            if wrong is not None and b.slips(other_contact.name):
                laid = wrong
            centre = _centre(Inversion(b, g, laid, n, helper, known), circles)
            touches = [
                mark_touch(b, circle, centre, laid.ways[i], solution_name(f"T{i + 1}", n))
                for i, circle in enumerate(circles)
            ]
            b.line_in_arc(centre, touches[0], touches[0], "touching circle")
            b.dimension_radius(centre, Point(2 * centre.x - touches[0].x, 2 * centre.y - touches[0].y))
        radius = plane.distance(centre, touches[0])
        b.find(_finding("radius", n), radius)
        b.find(_finding("contacts", n), _contacts(laid))
        for i, touch in enumerate(touches[1:], 2):
            b.check(f"circle {n} touches circle {i}", plane.distance(centre, touch) - radius)
    b.find("count", len(all_laid))


def _centre(inversion: Inversion, circles: list[Circle]) -> Point:
    """The centre of one solution: both other circles offset and inverted, a tangent to the images inverted back."""
    b, start, named = inversion.b, inversion.circle.centre, inversion.named
    images = [inversion.image(i, circle) for i, circle in enumerate(circles[1:])]
    foot = b.square_from(inversion.tangent(images), start, named("F"), why="the point of the tangent nearest to O1")
    axis = b.joined(start, foot, "line of the centre")
    far = inversion.invert(inversion.ray(axis), foot, "G")
    b.caution("G ends a diameter of the offset circle through O1: its centre is half way.")
    return b.meet(b.bisector(start, far, "bisector", why="half way from O1"), axis, name=named("C"))


def _other_contact(laid: Sequence[Layout]) -> Layout | None:
    """The first layout that touches circle 2 otherwise than the first of all does."""
    return next((one for one in laid if one.inside[1] != laid[0].inside[1]), None)


@slip("radii added where they must be subtracted: circle 2 taken with contact of the other kind")
def other_contact(g: ThreeCircles, number: Make) -> dict[str, Number]:
    wrong = _other_contact(solutions(g))
    return {} if wrong is None else {"radius": absolute(place(g, wrong.found)[2] - g.radius_1)}


def _offers(g: ThreeCircles) -> Iterator[tuple[float, str, str]]:
    """Radii at which one circle comes to touch another: how far each is from the given one, its name and text."""
    radii = [float(radius) for radius in g.radii]
    for i, one in enumerate(g.centres):
        for j, other in enumerate(g.centres):
            if i != j:
                apart = math.hypot(float(one.x - other.x), float(one.y - other.y))
                for radius in (apart + radii[j], abs(apart - radii[j])):
                    for text in (at_least(radius), at_most(radius)):
                        yield abs(radius - radii[i]), RADII[i], text


def _nearest(g: ThreeCircles) -> dict[str, str]:
    """The least change of a radius that lets a circle touch all three; else circles set well apart."""
    for _, name, text in sorted(_offers(g)):
        try:
            if with_given(g, name, text):
                return {name: text}
        except BadGiven:
            continue
    reach = at_most(min(2 * sum(map(float, g.radii)), float(LONGEST)))
    apart = {"centre_2": f"{reach}, 0", "centre_3": f"0, {reach}"}
    return apart if 2 * sum(map(float, g.radii)) < LONGEST else {**apart, **dict.fromkeys(RADII, "1")}


def _same(i: int, j: int) -> Condition:
    def gap(g: ThreeCircles) -> Number:
        dx, dy = g.centres[i].x - g.centres[j].x, g.centres[i].y - g.centres[j].y
        more = g.radii[i] - g.radii[j]
        squared: Number = dx * dx + dy * dy + more * more
        return squared

    return Condition(
        "three different circles",
        gap,
        f"circles {i + 1} and {j + 1} are the same circle, and every circle that touches one touches both",
        (RADII[i], RADII[j]),
        lambda g: {RADII[j]: at_least(g.radii[j] / 2)},
        strict=True,
    )


def _one_point(g: ThreeCircles) -> Number:
    """Zero where all three circles touch each other at one point: their centres on one line, and on it, one radius to
    either side of the first, a point of both others. No division, so that circles about one centre are no exception."""
    _, second, third = g.centres
    apart = hypot(second.x, second.y)
    across = second.x * third.y - second.y * third.x
    along = second.x * third.x + second.y * third.y

    def misses(sense: int) -> Number:
        at = g.radius_1 * sense
        to_second = (apart - at) * (apart - at) - g.radius_2 * g.radius_2
        to_third = (along - at * apart) * (along - at * apart) - g.radius_3 * g.radius_3 * apart * apart
        return across * across + to_second * to_second + to_third * to_third

    return misses(1) * misses(-1)


PROBLEM = Problem(
    id="tangency/three-circles",
    title="Circles touching three circles",
    brief=(
        "Circle 1 of radius {radius_1} stands at the origin, circle 2 of radius {radius_2} at {centre_2} and circle 3 of "
        "radius {radius_3} at {centre_3}. Draw the circles that touch all three."
    ),
    givens=ThreeCircles,
    truth=truth,
    methods=(offset_and_inversion,),
    findings={
        **{_finding(name, n): kind for n in range(1, MOST + 1) for name, kind in EACH.items()},
        "count": Kind.COUNT,
    },
    source="Apollonius' problem: signed radii for the truth; offset and inversion (Steiner) for the construction.",
    conditions=(
        _same(0, 1),
        _same(0, 2),
        _same(1, 2),
        Condition(
            "circles that do not all touch at one point",
            _one_point,
            "circles of radius {radius_1}, {radius_2} at {centre_2} and {radius_3} at {centre_3} all touch at one point: "
            "every circle that touches them there touches all three, and there are infinitely many",
            (*RADII, "centre_2", "centre_3"),
            lambda g: {"radius_3": at_least(g.radius_3, above=True)},
            strict=True,
        ),
        Condition(
            "a circle that touches all three",
            lambda g: len(solutions(g)) - 1,
            "no circle touches those of radius {radius_1}, {radius_2} at {centre_2} and {radius_3} at {centre_3}",
            (*RADII, "centre_2", "centre_3"),
            _nearest,
        ),
    ),
    slips=(other_contact,),
)
