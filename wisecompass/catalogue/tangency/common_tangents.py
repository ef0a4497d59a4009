"""Common tangents of two circles, outside and across: shrink one circle to a point and grow or shrink the other."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, acos_deg, larger, pi_times, root
from wisecompass.catalogue.tangency.touching import given_circle, level_start, solution_name
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, length
from wisecompass.drafting.problem import Truth
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Circle, Line, Point, Selector

FINDINGS = {"tangent_length": Kind.LENGTH, "angle_to_centres": Kind.ANGLE, "belt_length": Kind.LENGTH}


@dataclass(frozen=True)
class TwoCircles(Givens):
    radius_1: Number = length("radius of circle 1", "29")
    radius_2: Number = length("radius of circle 2", "17")
    distance: Number = length("distance of the centres", "88")


# --------------------------------------------------------------------------------------------------------- closed form
ADDED = "the sum of the radii taken where they must be subtracted"
SUBTRACTED = "the difference of the radii taken where they must be added"


def with_wrong_helper(g: TwoCircles, *, across: bool) -> Number:
    """The tangent's length where sum and difference of the radii R and r are changed over: both ends lie square to it no
    more, and u being the direction of the radii, with cosine (R ± r) / d, they are d - (R ∓ r)·u apart."""
    total, less = g.radius_1 + g.radius_2, absolute(g.radius_1 - g.radius_2)
    drawn = total if across else less
    return root(absolute(g.distance * g.distance - 2 * total * less + drawn * drawn))


def drop(g: TwoCircles, *, across: bool) -> Number:
    """What the tangent comes nearer to the centre line, from one touch point to the other: sum or difference of radii."""
    return g.radius_1 + g.radius_2 if across else g.radius_1 - g.radius_2


def meets_once(g: TwoCircles, *, across: bool) -> bool:
    """Whether the circles touch, so that both tangents are one."""
    return g.decide(lambda h: h.distance - absolute(drop(h, across=across))) == 0


def truth_of(g: TwoCircles, number: Number, *, across: bool) -> Truth:
    """Touch points at ±turn from the centre line, where cos(turn) = drop / distance. ``number`` is any zero."""
    fall = drop(g, across=across)
    once = meets_once(g, across=across)
    turn = acos_deg(fall / g.distance) if not once else (number if float(fall) > 0 else number + 180)
    first, second = Circle(Point(number, number), g.radius_1), Circle(Point(g.distance + 0, number), g.radius_2)
    other = turn + 180 if across else turn
    points = {"O1": first.centre, "O2": second.centre, "T1": first.point_at(turn), "T2": second.point_at(other)}
    if not once:
        points |= {"T1_2": first.point_at(-turn), "T2_2": second.point_at(-other)}
    span = number if once else root((g.distance - fall) * (g.distance + fall))
    behind = (360 - 2 * turn) / 360
    ahead = behind if across else 1 - behind
    belt = 2 * span + pi_times(2 * g.radius_1 * behind) + pi_times(2 * g.radius_2 * ahead)
    slope = absolute(90 - turn)
    findings = {"tangent_length": span, "angle_to_centres": slope, "belt_length": belt}
    return Truth(points=points, findings=findings, solutions=1 if once else 2)


# -------------------------------------------------------------------------------------------------------------- drawing
def draw_tangents(b: Board, g: TwoCircles, *, across: bool) -> None:
    """Both tangents by the helper circle, or the one at the touch point."""
    centre, axis = level_start(b, "O1", "the centre of circle 1", "centre line")
    one = given_circle(b, centre, g.radius_1, "circle 1")
    far = b.lay_off(axis, centre, g.distance, "O2", why="the distance of the centres")
    other = given_circle(b, far, g.radius_2, "circle 2")
    compared = g.decide(lambda h: h.radius_1 - h.radius_2)
    if meets_once(g, across=across):
        pairs = [_where_they_touch(b, g, axis, one, compared if not across else 1)]
    else:
        pairs = _two(b, g, axis, (one, other), across=across, compared=compared)
    for number, (first, second) in enumerate(pairs, 1):
        with b.for_solution(number):
            b.line_in((first, second))
        for touch, circle in ((first, one), (second, other)):
            given = g.radius_1 if circle is one else g.radius_2
            b.check(
                f"{touch.name} is one radius from the centre of {circle.name}", plane.distance(circle.centre, touch) - given
            )
    first, second = pairs[0]
    if len(pairs) == 2:
        b.dimension(second, first, offset=-9)
        for touch, circle in ((first, one), (second, other)):
            end = second if touch is first else first
            b.check(
                f"the radius to {touch.name} is square to the tangent", plane.angle_at(touch, circle.centre, end) - 90, "°"
            )
    _measure(b, g, axis, (one, other), (first, second), across=across)


def helper_touches(
    b: Board, big: Circle, centre: Point, radius: Number, axis: Line, first: Selector, why: str
) -> tuple[Point, Point]:
    """Where the tangents from ``centre`` to the helper circle of ``radius`` about the big circle's centre touch it."""
    helper = b.arc(big.centre, radius, name="helper circle", whole=True, why=why)
    halving = b.bisector(big.centre, centre, "bisector", why="for the middle of the centres")
    middle = b.meet(halving, axis, name="M")
    arch = b.arc(middle, span(middle, centre), why="across the helper circle")
    return b.both(arch, helper, ("Q", "Q_2"), first)


def _two(
    b: Board, g: TwoCircles, axis: Line, circles: tuple[Circle, Circle], *, across: bool, compared: int
) -> list[tuple[Point, Point]]:
    big, small = circles if compared >= 0 else circles[::-1]
    numbers = ("1", "2") if compared >= 0 else ("2", "1")
    if across or compared:
        large, little = (g.radius_1, g.radius_2) if compared >= 0 else (g.radius_2, g.radius_1)
        added = across != b.slips(SUBTRACTED if across else ADDED)
        radius = large + little if added else large - little
        first_at_1 = plane.lower if across and compared < 0 else plane.upper
        why = "the sum of both radii" if across else "the difference of both radii"
        helpers = helper_touches(b, big, small.centre, radius, axis, first_at_1, why)
        b.caution("Outside tangents take the difference of the radii, those that cross between the circles the sum.")
        rays = [b.line(big.centre, q, f"radius through {q.name}", why="on to the circle") for q in helpers]
    else:
        upright = b.square(axis, big.centre, "upright", why="equal radii leave no helper circle")
        rays = [upright, Line(big.centre, -upright.dx, -upright.dy, upright.name)]
    found = []
    for number, ray in enumerate(rays, 1):
        at_big = b.meet(ray, big, plane.beyond(ray), solution_name(f"T{numbers[0]}", number))
        carried = b.parallel(ray, small.centre, f"parallel {number}", why="the same way" if not across else "the other way")
        end = (plane.short_of if across else plane.beyond)(carried)
        at_small = b.meet(carried, small, end, solution_name(f"T{numbers[1]}", number))
        found.append((at_big, at_small) if compared >= 0 else (at_small, at_big))
    return found


def _where_they_touch(b: Board, g: TwoCircles, axis: Line, one: Circle, way: int) -> tuple[Point, Point]:
    """Both tangents fall together in the one square to the centre line at the point where the circles touch."""
    choose = (plane.beyond if way > 0 else plane.short_of)(axis)
    b.step_through(axis, one)
    touch = b.meet(axis, one, choose, "T1")
    tangent = b.square(axis, touch, "tangent", why="where the circles touch")
    reach = b.any_opening(larger(g.radius_1, g.radius_2))
    high = b.lay_off(tangent, touch, reach, "1", why="any length, to both sides")
    low = b.lay_off(tangent, touch, reach, "2", back=True, why="any length, to both sides")
    b.line_in((high, low))
    return touch, b.mark_point(touch.named("T2"), shown=False)


def _measure(
    b: Board, g: TwoCircles, axis: Line, circles: tuple[Circle, Circle], touches: tuple[Point, Point], *, across: bool
) -> None:
    """Tangent length, its slope and the belt: twice the tangent and an arc round each circle."""
    one, other = circles
    span = plane.distance(*touches)
    ahead = plane.angle_at(one.centre, one.centre.moved(axis.dx, axis.dy), touches[0])
    behind = plane.angle_at(other.centre, other.centre.moved(axis.dx, axis.dy), touches[1])
    wrap_1, wrap_2 = 360 - 2 * ahead, 2 * behind
    b.find("tangent_length", span)
    b.find("angle_to_centres", absolute(90 - ahead))
    b.find("belt_length", 2 * span + pi_times(one.radius * wrap_1 / 180) + pi_times(other.radius * wrap_2 / 180))
