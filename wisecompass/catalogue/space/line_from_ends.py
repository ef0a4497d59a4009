"""Line of given ends: true length, inclinations and traces, four ways.

Rotation: a view is swung until it runs with the fold line, and the other view then shows the true length (Monge). Auxiliary
view: a fold line along a view. Right triangle: on a view's length the difference of heights or distances. Trapezoid: on a
view's length the heights or distances of both ends.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

from wisecompass.arithmetic import Number, absolute, atan2_deg, hypot, larger, roughly
from wisecompass.catalogue.space.lines import (
    TRACES,
    VIEW_LENGTHS,
    WORK,
    draw_traces,
    inclinations,
    lie,
    line_findings,
    measure_views,
    slope,
)
from wisecompass.drafting.auxiliary import auxiliary
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, offset
from wisecompass.drafting.motion import Turn
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.drafting.view import View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.space import Point3, norm


@dataclass(frozen=True)
class Ends(Givens):
    a_front: Number = offset("distance of A in front of VP", "14")
    a_above: Number = offset("height of A above HP", "9")
    b_front: Number = offset("distance of B in front of VP", "52")
    b_above: Number = offset("height of B above HP", "61")
    apart: Number = offset("distance of the projectors", "47")


def _step(g: Ends) -> tuple[Number, Number, Number]:
    return g.apart, g.b_front - g.a_front, g.b_above - g.a_above


def _apart(g: Ends) -> Point3:
    along, away, up = _step(g)
    return Point3(along + 0, away, up)


def truth(g: Ends, number: Make) -> Truth:
    a, d = Point3(number(0), g.a_front + 0, g.a_above + 0), _apart(g)
    return Truth(
        points={"A": a, "B": a + d},
        findings={"true_length": norm(d), **inclinations(d), **line_findings(a, d, lie(g, _step))},
    )


def _set_out(b: Board, g: Ends) -> Views:
    depth, height = larger(absolute(g.a_front), absolute(g.b_front)), larger(absolute(g.a_above), absolute(g.b_above))
    views = Views.on(b, depth + height + absolute(g.apart) + 12)
    views.set_out("A", b.number(0), g.a_front, g.a_above)
    views.set_out("B", g.apart, g.b_front, g.b_above)
    views.letter_fold()
    b.caution("Join points of one view only, and keep each end's projector upright.")
    views.edges(views.front_view, "AB", why="the front view")
    views.edges(views.top_view, "AB", why="the top view")
    return views


Worker = Callable[[Board, Views, View, View], tuple[Number, Number]]
"""Finds true length and inclination to the plane that ``View`` is drawn on, by way of the other view."""


def _both(b: Board, g: Ends, work: Worker) -> Views:
    """Both inclinations, each with the true length; they must give the same."""
    how = lie(g, _step)
    views = _set_out(b, g)
    up, low = views.front_view, views.top_view
    found = []
    for name, view, other, end_on in (
        ("inclination_hp", low, up, how.is_upright),
        ("inclination_vp", up, low, how.is_end_on),
    ):
        if end_on:
            seen = other.images
            b.step_reason(f"The {view.title} is a point: the {other.title} shows the true length, and the angle is 90°")
            total, angle = plane.distance(seen["A"], seen["B"]), b.number(90)
        else:
            total, angle = work(b, views, view, other)
        b.find(name, angle)
        found.append(total)
    b.find("true_length", found[0])
    b.check("both ways give the same true length", found[0] - found[1])
    b.check("no two of the angles pass 90° together", _together(g, b, found[0]))
    measure_views(b, views, how)
    for name, value in draw_traces(b, views, how).items():
        b.find(name, value)
    a, c = (up.images[name] for name in "AB")
    b.misread(
        front_view_measured.name,
        lambda: {"true_length": plane.distance(a, c), "inclination_hp": slope(views.ground, a, c)},
    )
    return views


def _together(g: Ends, b: Board, total: Number) -> Number:
    """(sum of the squared sines of both inclinations and of the angle with XY's square plane) less one."""
    along, away, up = (value / total for value in _step(g))
    return along * along + away * away + up * up - 1


@method("rotation", Exactness.EXACT)
def rotation(b: Board, g: Ends) -> None:
    _both(b, g, _swung)


def _swung(b: Board, views: Views, view: View, other: View) -> tuple[Number, Number]:
    start, end, before = view.images["A"], view.images["B"], len(b.steps)
    level = views.level(view, other, "A", why=f"the {view.title} is to be swung on to it")
    b.caution("The plan length at the true angle, or the true length at the apparent one, is the usual slip.")
    arc = b.arc(start, span(start, end), why="until it runs with the fold line")
    turned = "R" if view is views.top_view else "S"
    tag = view.label(turned)
    swung = b.meet(arc, level, plane.rightmost, tag)
    b.touch(arc, end)
    locus = views.level(other, view, "B", why="turning, the end keeps this distance", pen=Pen.LOCUS)
    upright = b.upright_line(swung, f"projector of {tag}")
    true_end = b.meet(upright, locus, name=other.label(turned))
    first = other.images["A"]
    b.line_in((first, true_end), why="the true length")
    b.dimension(first, true_end, offset=7)
    _show_the_swing(b, view is views.top_view, before)
    return plane.distance(first, true_end), slope(views.ground, first, true_end)


def _show_the_swing(b: Board, level: bool, before: int) -> None:
    """The line turns about the upright through A until it runs along VP, or about what is square to VP until it is level."""
    if not b.drawing:
        return
    a, c = (b.solid_point(name) for name in "AB")
    dx, front, above = (roughly(v) for v in (c.x - a.x, c.front - a.front, c.above - a.above))
    about = roughly(a.x), roughly(a.front), roughly(a.above)
    if level:
        turn = Turn(about, (0.0, 0.0, 1.0), 0.0, -math.degrees(math.atan2(front, dx)))
    else:
        turn = Turn(about, (0.0, 1.0, 0.0), 0.0, math.degrees(math.atan2(above, dx)))
    b.moves(before, len(b.steps), "the line is swung", turn)


@method("auxiliary view", Exactness.EXACT)
def auxiliary_view(b: Board, g: Ends) -> None:
    views = _both(b, g, _folded)
    low = views.top_view.images
    flat, away = plane.distance(low["A"], low["B"]), absolute(views.front(low["B"]) - views.front(low["A"]))
    b.misread(from_the_wrong_view.name, lambda: {"true_length": hypot(flat, away), "inclination_hp": atan2_deg(away, flat)})


def _folded(b: Board, views: Views, view: View, other: View) -> tuple[Number, Number]:
    why = f"along the {view.title}, for the true length"
    new = auxiliary(views, view, view.line("A", "B"), ("A", "B"), before=other, why=why)
    b.caution(f"The distances come from the {other.title}: from the wrong view they give nothing.")
    views.edges(new, "AB", why="the true length")
    start, end = new.images["A"], new.images["B"]
    b.dimension(start, end, offset=7)
    return plane.distance(start, end), slope(new.away[view], start, end)


@method("right triangle", Exactness.EXACT)
def right_triangle(b: Board, g: Ends) -> None:
    _both(b, g, _triangle)


def _triangle(b: Board, views: Views, view: View, other: View) -> tuple[Number, Number]:
    """At B of the view, square to it, the difference of the distances that the other view shows."""
    start, end = view.images["A"], view.images["B"]
    rise = span(other.images["B"], views.level(other, view, "A", why="to measure the difference from"))
    if other is views.front_view and b.slips(whole_height.name):
        rise = span(other.images["B"], views.ground)
    square = b.square(view.line("A", "B"), end, f"square at {end.name}")
    words = f"the difference of the {'heights' if other is views.front_view else 'distances from VP'}"
    top = b.lay_off(square, end, rise, view.label("B0"), why=f"{words}, from the {other.title}")
    b.line_in((start, top), why="the true length")
    b.dimension(start, top, offset=7)
    flat, total = plane.distance(start, end), plane.distance(start, top)
    b.check(
        f"the triangle on the {view.title} is right-angled", total * total - flat * flat - rise.number * rise.number, "mm²"
    )
    return total, atan2_deg(plane.distance(end, top), flat)


@method("trapezoid", Exactness.EXACT)
def trapezoid(b: Board, g: Ends) -> None:
    """Each view stands under the line like the foot of a wall; folded down, the wall shows the line in its true length."""
    _both(b, g, partial(_wall, g))


def _wall(g: Ends, b: Board, views: Views, view: View, other: View) -> tuple[Number, Number]:
    """At both ends, square to the view, how far each end is from its plane, to either side as it lies over it or under."""
    plan = view is views.top_view
    level, words = (views.ground, "height over HP") if plan else (views.wall, "distance from VP")
    signs = g.decide_all(lambda h: (h.a_above, h.b_above) if plan else (h.a_front, h.b_front))
    foot, tops = view.line("A", "B"), []
    for name, sign in zip("AB", signs, strict=True):
        at = view.images[name]
        if sign == 0:
            tops.append(at)
            continue
        square = b.square(foot, at, f"square at {at.name}")
        far = span(other.images[name], level)
        tops.append(b.lay_off(square, at, far, view.label(f"{name}0"), back=sign < 0, why=f"the {words}"))
    b.caution("Ends on opposite sides of the plane are laid off on opposite sides of the view.")
    b.line_in((tops[0], tops[1]), why="the true length")
    b.dimension(tops[0], tops[1], offset=7)
    return plane.distance(*tops), slope(foot, *tops)


@slip("the front view measured for the true length")
def front_view_measured(g: Ends, number: Make) -> dict[str, Number]:
    along, _, up = _step(g)
    return {"true_length": hypot(along, up), "inclination_hp": atan2_deg(absolute(up), absolute(along))}


@slip("the heights themselves laid off in the triangle instead of their difference")
def whole_height(g: Ends, number: Make) -> dict[str, Number]:
    along, away, _ = _step(g)
    plan = hypot(along, away)
    return {"true_length": hypot(plan, g.b_above), "inclination_hp": atan2_deg(absolute(g.b_above), plan)}


@slip("the auxiliary view given the distances from VP instead of the heights")
def from_the_wrong_view(g: Ends, number: Make) -> dict[str, Number]:
    along, away, _ = _step(g)
    plan = hypot(along, away)
    return {"true_length": hypot(plan, away), "inclination_hp": atan2_deg(absolute(away), plan)}


PROBLEM = Problem(
    id="space/line-from-ends",
    title="True length of a line from its ends",
    brief=(
        "A line runs from A, {a_front} in front of VP and {a_above} above HP, to B, {b_front} in front and {b_above} above; "
        "their projectors are {apart} apart. Find its true length, its inclinations and its traces."
    ),
    givens=Ends,
    truth=truth,
    methods=(rotation, auxiliary_view, right_triangle, trapezoid),
    findings={
        "true_length": Kind.LENGTH,
        "inclination_hp": Kind.ANGLE,
        "inclination_vp": Kind.ANGLE,
        **VIEW_LENGTHS,
        **TRACES,
    },
    source="Monge, Géométrie descriptive (rotation, rabatment); vectors for the truth.",
    conditions=(
        Condition(
            "two different ends",
            lambda g: sum(value * value for value in _step(g)),
            "A and B are the same point: a line needs two",
            ("apart", "b_front", "b_above"),
            lambda g: {"apart": "10"},
            strict=True,
        ),
    ),
    slips=(front_view_measured, whole_height, from_the_wrong_view),
    cautions=(WORK,),
)
