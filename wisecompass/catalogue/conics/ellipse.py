"""Ellipse on given axes, five ways.  Same curve, different labour and error.

Concentric circles and trammel: x = a cos t, y = b sin t.  Foci: the sum of focal distances is the major axis
(Apollonius III.52).  Rectangle: projective pencils from the ends of the minor axis (Steiner).  Four centres: two pairs
of tangent arcs, not an ellipse.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import cast

from wisecompass.arithmetic import Number, absolute, cos_deg, elliptic_e, larger, pi_times, pick, root, sin_deg, sqrt
from wisecompass.catalogue.conics.in_box import Box, in_box
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Counting
from wisecompass.drafting.givens import Givens, at_most, choice, count, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Setting, bare, span
from wisecompass.drafting.step import Kind
from wisecompass.drafting.trammel import slide, strip
from wisecompass.drafting.wording import number_text
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3


@dataclass(frozen=True)
class Axes(Givens):
    major: Number = length("major axis", "168")
    minor: Number = length("minor axis", "104")
    divisions: int = count("number of divisions", "12", 8, 96)
    orientation: str = choice("orientation", "horizontal", "vertical")


@dataclass(frozen=True)
class _Axes:
    """The axes as drawn: A and B end the major axis, D and E the minor; ``along`` and ``across`` are their lines."""

    centre: Point
    a: Setting
    b: Setting
    along: Line
    across: Line
    left: Point
    right: Point
    low: Point
    high: Point
    angle: int


def truth(g: Axes, number: Make) -> Truth:
    a, b = g.major / 2, g.minor / 2
    focal = root(a * a - b * b)
    turned = g.orientation == "vertical"

    def off_curve(p: Point) -> Number:
        """(F / |grad F|) for F = x²/a² + y²/b² - 1: the distance from the ellipse to first order."""
        x, y = (p.y, p.x) if turned else (p.x, p.y)
        value = x * x / (a * a) + y * y / (b * b) - 1
        return value / (2 * sqrt(x * x / (a * a * a * a) + y * y / (b * b * b * b)))

    eccentricity = focal / a
    zero = number(0)

    def at(x: Number, y: Number) -> Point:
        return Point(-y, x) if turned else Point(x, y)

    ends: dict[str, Point | Point3] = {
        "O": at(zero, zero),
        "A": at(-a, zero),
        "B": at(a, zero),
        "D": at(zero, -b),
        "E": at(zero, b),
        "F1": at(-focal, zero),
        "F2": at(focal, zero),
    }
    return Truth(
        points=ends,
        findings={
            "focal_distance": focal,
            "eccentricity": eccentricity,
            "area": pi_times(a * b),
            "perimeter": 4 * a * elliptic_e(1 - b * b / (a * a)),
        },
        on_curve=off_curve,
    )


def _axes(board: Board, g: Axes) -> _Axes:
    vertical = g.orientation == "vertical"
    centre = board.point("O", board.number(0), board.number(0), why="the centre")
    level = board.level_line(centre, "minor axis" if vertical else "major axis", pen=Pen.CENTRE)
    upright = board.upright_line(centre, "major axis" if vertical else "minor axis", pen=Pen.CENTRE)
    along, across = (upright, Line(level.at, -level.dx, -level.dy, level.name)) if vertical else (level, upright)
    if vertical:
        board.draft(across, centre, pen=Pen.CENTRE)
    a, b = cast("Setting", g.major / 2), cast("Setting", g.minor / 2)
    right = board.lay_off(along, centre, a, "B", why="half the major axis")
    left = board.lay_off(along, centre, a, "A", back=True)
    high = board.lay_off(across, centre, b, "E", why="half the minor axis")
    low = board.lay_off(across, centre, b, "D", back=True)
    board.plot(left, right, high, low)
    return _Axes(centre, a, b, along, across, left, right, low, high, 90 if vertical else 0)


def _fair(b: Board, axes: _Axes, plotted: list[Point], clear: Number | None = None) -> None:
    """Fair the curve and dimension the axes, ``clear`` of the centre when construction stands outside the ellipse."""
    b.plot(*plotted)
    b.fair_ellipse(axes.centre, axes.a, axes.b, axes.angle, [*plotted, axes.left, axes.right, axes.high, axes.low])
    for p in (plotted[0], plotted[-1]):
        b.check(
            f"{p.name} is on the ellipse: its focal distances add up to the major axis", _focal_sum(b, axes, p) - axes.a * 2
        )
    _dimension_axes(b, axes, clear)


def _dimension_axes(b: Board, axes: _Axes, clear: Number | None = None) -> None:
    """Dimensions outside all that is drawn; their text stands clear of the axes."""
    b.dimension(axes.left, axes.right, offset=-8, clear=axes.b if clear is None else clear, text_at=0.3)
    b.dimension(axes.low, axes.high, offset=-8, clear=axes.a if clear is None else clear, text_at=0.3)
    _measure(b, axes)


def _measure(b: Board, axes: _Axes) -> None:
    """What follows from both axes as they are drawn."""
    long, short = plane.distance(axes.left, axes.right) / 2, plane.distance(axes.low, axes.high) / 2
    focal = root((long - short) * (long + short))
    b.find("focal_distance", focal)
    b.find("eccentricity", focal / long)
    b.find("area", pi_times(long * short))
    b.find("perimeter", 4 * long * elliptic_e(1 - short * short / (long * long)))


def _quarter(g: Axes) -> int:
    """Parts of a quarter, so that ``divisions`` points come of it."""
    return max(2, (g.divisions + 3) // 4)


SWAPPED = "circles swapped: across from the small circle and along from the large one, so the ellipse turns by 90°"


@method("concentric circles", Exactness.EXACT_POINTS)
def concentric_circles(b: Board, g: Axes) -> None:
    axes = _axes(b, g)
    large = b.arc(axes.centre, axes.a, name="large circle", whole=True, why="on the major axis")
    small = b.arc(axes.centre, axes.b, name="small circle", whole=True, why="on the minor axis")
    start, back = axes.angle + b.conventions.beginning.angle, b.conventions.counting is Counting.CLOCKWISE
    why = f"numbered from {b.nth(0)} at an end of an axis"
    outer = b.divide_circle(large, g.divisions, start, "", why=why, clockwise=back)
    turned = [k for k in range(g.divisions) if (4 * k) % g.divisions]
    inner = []
    for k in turned:
        ray = b.line(axes.centre, outer[k], f"radius {b.nth(k)}")
        inner.append(b.meet(ray, small, plane.nearest(outer[k]), f"{b.nth(k)}′"))
    why = "from the large circle towards the major axis"
    across, along = (axes.along, axes.across) if b.slips(SWAPPED) else (axes.across, axes.along)
    first = [b.parallel(across, outer[k], f"crossing line {b.nth(k)}", why=why) for k in turned]
    b.caution("Across from the large circle, along from the small one: the other way the ellipse turns by 90°.")
    why = "from the small circle outwards"
    second = [b.parallel(along, at, f"running line {b.nth(k)}", why=why) for k, at in zip(turned, inner, strict=True)]
    names = [b.numbered("P", k) for k in turned]
    plotted = b.mark_crossings(zip(first, second, names, strict=True))
    _fair(b, axes, plotted, axes.a)


def _focal_sum(b: Board, axes: _Axes, p: Point) -> Number:
    focal = root(axes.a * axes.a - axes.b * axes.b)
    unit = Line(axes.centre, axes.along.dx, axes.along.dy)
    return plane.distance(p, unit.point_at(focal)) + plane.distance(p, unit.point_at(-focal))


@method("trammel", Exactness.EXACT_POINTS)
def trammel(b: Board, g: Axes) -> None:
    """A strip marked with both half axes slides with one mark on each axis (the difference of the half axes between
    the marks; their sum, when the difference is too short to set)."""
    axes = _axes(b, g)
    long_strip = g.decide(lambda h: h.minor * 3 - h.major * 2) > 0
    why = "end to end, for their difference is short" if long_strip else "both from one end"
    marked = strip(b, axes.b, axes.a, between=long_strip, why=f"half axes {why}")
    quarter = _quarter(g)
    places = []
    for first, back in ((1, False), (quarter, True)):
        for k in range(1, quarter):
            about = marked.apart * cos_deg(b.number(90) * (quarter - k) / quarter)
            place = b.any_opening(about, less_than=axes.a + axes.b if long_strip else axes.a - axes.b)
            name = str(first + k - 1)
            places.append(b.lay_off(axes.along, axes.centre, place, name, back=back, why="anywhere on the axis"))
    plotted = []
    for letter in "PQ":
        beyond = (letter == "P") == long_strip
        which = (plane.beyond if beyond else plane.short_of)(axes.across)
        plotted += [slide(b, marked, at, axes.across, which, f"{letter}{at.name}") for at in places]
    b.caution("Both marks must stay on their axes: check each position before pricking the point.")
    _fair(b, axes, plotted)


WRONG_AXIS = "foci swung with half the minor axis from the end of the major one"


@method(
    "foci arcs",
    Exactness.EXACT_POINTS,
    Condition(
        "two foci",
        lambda g: g.major - g.minor,
        "foci arcs need a major axis {major} longer than the minor {minor}: on a circle both foci fall on the centre",
        ("major", "minor"),
        lambda g: {},
        strict=True,
    ),
)
def foci_arcs(b: Board, g: Axes) -> None:
    axes = _axes(b, g)
    b.caution("Half the major axis, from an end of the minor axis: the halves are easily mixed up.")
    if b.slips(WRONG_AXIS):
        right, left = (
            b.meet(b.arc(end, axes.b), axes.along, plane.nearest(axes.centre), name)
            for end, name in ((axes.right, "F2"), (axes.left, "F1"))
        )
    else:
        swung = b.arc(axes.high, axes.a, why="across the major axis")
        right = b.meet(swung, axes.along, plane.beyond(axes.along), "F2")
        left = b.meet(swung, axes.along, plane.nearest(axes.left), "F1")
    quarter = _quarter(g)
    focal = plane.distance(axes.centre, right)
    plotted = []
    for k in range(1, quarter):
        place = b.any_opening(focal * sin_deg(b.number(90) * k / quarter), less_than=span(axes.centre, right))
        mark = b.lay_off(axes.along, axes.centre, place, str(k), why="anywhere short of the focus")
        parts = {"long": span(axes.left, mark), "short": span(mark, axes.right)}
        arcs = {
            (focus.name, part): b.arc(focus, opening, why="above and below")
            for part, opening in parts.items()
            for focus in (left, right)
        }
        above = plane.left_of(axes.along)
        far_right = b.both(arcs["F1", "long"], arcs["F2", "short"], (f"P{k}", f"Q{k}"), above)
        after = k + quarter - 1
        far_left = b.both(arcs["F2", "long"], arcs["F1", "short"], (f"P{after}", f"Q{after}"), above)
        plotted += [*far_right, *far_left]
    _fair(b, axes, plotted)
    b.find("focal_distance", plane.distance(axes.centre, right))
    b.check(
        "both foci are equally far from the centre", plane.distance(axes.centre, left) - plane.distance(axes.centre, right)
    )


@method("rectangle", Exactness.EXACT_POINTS)
def rectangle(b: Board, g: Axes) -> None:
    axes = _axes(b, g)
    quarter = _quarter(g)
    box = Box(axes.centre, axes.along, axes.across, axes.right, axes.left, axes.high, axes.low)
    _fair(b, axes, in_box(b, box, quarter, ("R", "S", "U", "T")))


def _gap_words(findings: Mapping[str, float]) -> str:
    gap = findings["worst_gap"]
    if gap < 5e-10:
        return "a true circle here"
    return f"worst gap {number_text(gap)} mm, {number_text(findings['worst_gap_along'])} along from the centre"


@method("four centres", Exactness.APPROXIMATE, worth=_gap_words)
def four_centres(b: Board, g: Axes) -> None:
    axes = _axes(b, g)
    if g.decide(lambda h: h.major - h.minor) == 0:
        _circle(b, axes)
        return
    chord = b.line(axes.left, axes.high, "AE")
    difference = b.arc(axes.centre, axes.a, why="up to the minor axis")
    top = b.meet(difference, axes.across, plane.beyond(axes.across), "G")
    cut = b.arc(axes.high, span(axes.high, top), why="back along AE")
    inner = b.meet(cut, chord, plane.nearest(axes.left), "H")
    halving = b.bisector(axes.left, inner, "bisector of AH")
    end_centre = b.meet(halving, axes.along, name="K1")
    side_centre = b.meet(halving, axes.across, name="L1")
    end_other = b.lay_off(axes.along, axes.centre, span(axes.centre, end_centre), "K2", why="as far on the other side")
    side_other = b.lay_off(axes.across, axes.centre, span(axes.centre, side_centre), "L2", why="as far on the other side")
    radius_end = plane.distance(axes.left, end_centre)
    radius_side = plane.distance(axes.high, side_centre)
    opening = span(side_centre, axes.high)
    joints = []
    why = "through the end of the minor axis"
    sides = [(side, letter, b.arc(side, opening, why=why)) for side, letter in ((side_centre, "S"), (side_other, "U"))]
    for side_c, letter, swung in sides:
        for end_c, index in ((end_centre, 1), (end_other, 2)):
            ray = b.line(side_c, end_c, why="and on: the arcs join on it")
            joint = b.meet(ray, swung, plane.beyond(ray), f"{letter}{index}")
            b.check(f"{joint.name} is on both arcs", plane.distance(end_c, joint) - radius_end)
            joints.append(joint)
    upper_left, upper_right, lower_left, lower_right = joints
    b.caution("Arcs join on the line through both centres; anywhere else the joint shows as a kink.")
    b.line_in_arc(side_centre, upper_right, upper_left, "upper arc")
    b.line_in_arc(end_centre, upper_left, lower_left, "left arc")
    b.line_in_arc(side_other, lower_left, lower_right, "lower arc")
    b.line_in_arc(end_other, lower_right, upper_right, "right arc")
    _dimension_axes(b, axes)
    b.find("radius_end", radius_end)
    b.find("radius_side", radius_side)
    gap, along = _worst_gap(b, g, axes, end_centre, side_centre, upper_left)
    b.find("worst_gap", gap)
    b.find("worst_gap_along", along)


def _circle(b: Board, axes: _Axes) -> None:
    """Equal axes need no four centres."""
    b.line_in_arc(axes.centre, axes.left, axes.left, "circle", why="the axes are equal")
    _dimension_axes(b, axes)
    for name, end in (("radius_end", axes.left), ("radius_side", axes.high)):
        b.find(name, plane.distance(axes.centre, end))
    b.find("worst_gap", b.number(0) * axes.a)
    b.find("worst_gap_along", axes.a)
    b.check("both axes are equally long", plane.distance(axes.left, axes.right) - plane.distance(axes.low, axes.high))


def _worst_gap(b: Board, g: Axes, axes: _Axes, end_centre: Point, side_centre: Point, joint: Point) -> tuple[Number, Number]:
    """Greatest gap between arcs and ellipse, measured along the arcs' radii, and how far along the major axis it lies.

    From a centre at distance c on an axis the distance to the ellipse is stationary only at the axis ends and at
    a cos t = a²c/(a² - b²), or b sin t = -b²c/(a² - b²) on the other axis; the arcs' ends are tried as well.
    """
    a2, b2 = bare(axes.a * axes.a), bare(axes.b * axes.b)
    focal2 = a2 - b2
    c_end = plane.distance(axes.centre, end_centre)
    c_side = plane.distance(axes.centre, side_centre)
    r_end, r_side = axes.a - c_end, axes.b + c_side
    joint_x = absolute(_along(joint, axes))
    joint_y = absolute(_across(joint, axes))
    worst, where = _joint_gap(axes, c_end, joint_x, joint_y)
    # end arc: x = a²c/f² in units of the axes, if that point of the ellipse is on the arc's side of the joint
    for x, c, r, on_major in (
        (a2 * c_end / focal2, c_end, r_end, True),
        (b2 * c_side / focal2, c_side, r_side, False),
    ):
        half = (axes.a, axes.b) if on_major else (axes.b, axes.a)
        inside = 1 - x * x / (half[0] * half[0])
        other = half[1] * root(larger(inside, inside * 0))
        radial = root((x - c) * (x - c) + other * other) if on_major else root((x + c) * (x + c) + other * other)
        limit = joint_x if on_major else joint_y
        gap = _if_beyond(x, limit, absolute(radial - r), half[0])
        where = pick(gap, worst, where, x if on_major else other)
        worst = larger(worst, gap)
    return worst, where


def _if_beyond(x: Number, limit: Number, gap: Number, most: Number) -> Number:
    """The gap, if the stationary point lies between the joint and the end of the axis; else zero."""
    kept = pick(limit, x, gap, gap * 0)
    return pick(x, most, kept, gap * 0)


def _joint_gap(axes: _Axes, c: Number, joint_x: Number, joint_y: Number) -> tuple[Number, Number]:
    """At the joint, along the common radius: the ray from the end centre meets the ellipse at share s of the way."""
    dx, dy = joint_x - c, joint_y
    qa = dx * dx / (axes.a * axes.a) + dy * dy / (axes.b * axes.b)
    qb = c * dx / (axes.a * axes.a)
    qc = c * c / (axes.a * axes.a) - 1
    share = (root(qb * qb - qa * qc) - qb) / qa
    return absolute(share - 1) * root(dx * dx + dy * dy), c + share * dx


def _along(p: Point, axes: _Axes) -> Number:
    return (p.x - axes.centre.x) * axes.along.dx + (p.y - axes.centre.y) * axes.along.dy


def _across(p: Point, axes: _Axes) -> Number:
    return (p.x - axes.centre.x) * axes.across.dx + (p.y - axes.centre.y) * axes.across.dy


@slip(SWAPPED)
def circles_swapped(g: Axes, number: Make) -> dict[str, Number]:
    return {"width": g.minor, "height": g.major}


@slip(WRONG_AXIS)
def foci_from_wrong_axis(g: Axes, number: Make) -> dict[str, Number]:
    return {"focal_distance": (g.major - g.minor) / 2}


PROBLEM = Problem(
    id="conics/ellipse",
    title="Ellipse on its axes",
    brief=(
        "Draw an ellipse of major axis {major} and minor axis {minor}, its major axis {orientation}, "
        "with {divisions} divisions."
    ),
    givens=Axes,
    truth=truth,
    methods=(concentric_circles, trammel, foci_arcs, rectangle, four_centres),
    findings={
        "focal_distance": Kind.LENGTH,
        "eccentricity": Kind.RATIO,
        "area": Kind.AREA,
        "perimeter": Kind.LENGTH,
        "radius_end": Kind.LENGTH,
        "radius_side": Kind.LENGTH,
        "worst_gap": Kind.LENGTH,
        "worst_gap_along": Kind.LENGTH,
    },
    source="Apollonius III.52 for the foci; perimeter 4a·E(e²), DLMF 19.9.9.",
    conditions=(
        Condition(
            "minor not above major",
            lambda g: g.major - g.minor,
            "the minor axis {minor} is longer than the major axis {major}",
            ("minor", "major"),
            lambda g: {"minor": at_most(g.major)},
        ),
    ),
    slips=(circles_swapped, foci_from_wrong_axis),
)
