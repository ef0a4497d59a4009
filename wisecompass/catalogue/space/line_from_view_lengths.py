"""Line of given true length whose two views have given lengths: its inclinations and its place, by right triangles.

Truth: true length² = plan² + rise² = elevation² + depth², and the projectors' distance² = plan² - depth².
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from wisecompass.arithmetic import Number, acos_deg, atan2_deg, root
from wisecompass.catalogue.space.lines import WORK
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, at_least, at_most, length, offset
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import Settable, span
from wisecompass.drafting.step import Kind
from wisecompass.drafting.view import View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line
from wisecompass.geometry.space import Point3


@dataclass(frozen=True)
class ThreeLengths(Givens):
    true_length: Number = length("true length", "84")
    plan_length: Number = length("plan length", "70")
    elevation_length: Number = length("elevation length", "63")
    a_front: Number = offset("distance of A in front of VP", "12")
    a_above: Number = offset("height of A above HP", "8")


def _spare(g: ThreeLengths) -> Number:
    """The squared distance of the projectors."""
    return g.plan_length * g.plan_length + g.elevation_length * g.elevation_length - g.true_length * g.true_length


def truth(g: ThreeLengths, number: Make) -> Truth:
    total, plan, elevation = g.true_length, g.plan_length, g.elevation_length
    rise, depth = root((total - plan) * (total + plan)), root((total - elevation) * (total + elevation))
    apart = root(_spare(g)) if g.decide(_spare) else number(0)
    start = Point3(number(0), g.a_front + 0, g.a_above + 0)
    leans = bool(g.decide(_spare))
    mirrored = {"B_2": start + Point3(-apart, depth, rise)} if leans else {}
    return Truth(
        points={"A": start, "B": start + Point3(apart, depth, rise), **mirrored},
        findings={
            "inclination_hp": atan2_deg(rise, plan),
            "inclination_vp": atan2_deg(depth, elevation),
            "apart": apart,
            "b_front": g.a_front + depth,
            "b_above": g.a_above + rise,
            **({"apart_2": -apart} if leans else {}),
        },
        solutions=2 if leans else 1,
    )


@method("right triangles", Exactness.EXACT)
def right_triangles(b: Board, g: ThreeLengths) -> None:
    views = Views.on(b, g.a_above + g.a_front + g.true_length * 5 / 2)
    views.set_out("A", b.number(0), g.a_front, g.a_above)
    a_up = views.front_view.images["A"]
    views.reach(a_up.moved(-g.true_length * 3 / 4, a_up.y * 0), a_up.moved(g.true_length * 3 / 4, a_up.y * 0))
    up, low = views.front_view, views.top_view
    plan, elevation = g.plan_length, g.elevation_length
    if b.slips(changed_over.name):
        plan, elevation = elevation, plan
    rise = _side(b, views, g, (low, plan, "plan_length", "inclination_hp", "rise"))
    depth = _side(b, views, g, (up, elevation, "elevation_length", "inclination_vp", "depth"))
    high = _locus(b, views, up, rise, "the end keeps this height")
    deep = _locus(b, views, low, depth, "the end keeps this distance from VP")
    a_low = low.images["A"]
    for view, start, locus, reach in ((low, a_low, deep, plan), (up, a_up, high, elevation)):
        swung = b.arc(start, reach, why=f"the length of the {view.title}, to the locus")
        label = view.label("B")
        if g.decide(_spare):
            view.images["B"] = b.meet(swung, locus, plane.rightmost, label)
            view.images["B_2"] = b.meet(swung, locus, plane.leftmost, f"{label}/2")
        else:
            view.images["B"] = b.touched(swung, locus, label)
    b.caution("Both ends stand on one projector; if not, a triangle was laid off on the wrong side.")
    for n, name in enumerate(("B", "B_2") if g.decide(_spare) else ("B",), 1):
        b_up, b_low = up.images[name], low.images[name]
        with b.for_solution(n):
            joined = b.upright_line(b_up, f"projector of {b_up.name}", why="both views of B stand on it")
            b.extend(joined, b_low)
            b.line_in((a_up, b_up), (a_low, b_low), why="the two views")
            views.read(name, b_up, b_low)
            b.in_space("A", name)
            b.find("apart" + name[1:], b_up.x - a_up.x)
        b.check(f"both views of the end stand on one projector (solution {n})", b_up.x - b_low.x)
    end = views.know("B")
    b.find("b_front", end.front)
    b.find("b_above", end.above)


def _side(b: Board, views: Views, g: ThreeLengths, what: tuple[View, Number, str, str, str]) -> Settable:
    """The right triangle of a view's length under the true length, drawn apart; its height is what the other view needs.
    A view as long as the line itself leaves none."""
    view, reach, given, angle, name = what
    letters = "KLM" if name == "rise" else "PQR"
    if g.decide(lambda h: h.true_length - getattr(h, given)) == 0:
        b.step_reason(f"The {view.title} is as long as the line: this triangle has no height")
        b.find(angle, b.number(0))
        return b.number(0)
    with b.block(name):
        start = b.point(letters[0], b.number(0), b.number(0), why=f"a triangle for the {name}, apart")
        base = b.level_line(start, f"{given.replace('_', ' ')} line")
        foot = b.lay_off(base, start, reach, letters[1], why=given.replace("_", " "))
        upright = b.upright_line(foot, f"upright at {letters[1]}")
        swung = b.arc(start, g.true_length, why="the true length, to the upright")
        top = b.meet(swung, upright, plane.upper, letters[2])
        b.line_in((start, top), (foot, top), why=f"the true length and the {name}")
        b.find(angle, plane.angle_at(start, foot, top))
        b.dimension(foot, top, offset=-7)
        b.dimension_angle(start, foot, top, radius=18)
    return span(foot, top)


def _locus(b: Board, views: Views, view: View, away: Settable, why: str) -> Line:
    """The line along the fold on which the other end must lie: its difference carried from the triangle."""
    start = view.images["A"]
    other = view.before
    assert other is not None
    up = view is views.front_view
    mark = b.lay_off(views.projectors["A"], start, away, view.label("N"), back=not up, why="from its triangle")
    name = f"locus of {view.label('B')}"
    return b.level_line(mark, name, why, Pen.LOCUS)


@slip("plan length and elevation length changed over")
def changed_over(g: ThreeLengths, number: Make) -> dict[str, Number]:
    return {
        "inclination_hp": acos_deg(g.elevation_length / g.true_length),
        "inclination_vp": acos_deg(g.plan_length / g.true_length),
    }


def _longer_than_views(name: str) -> Condition:
    words = name.replace("_", " ")
    return Condition(
        f"{words} at most the true length",
        lambda g: g.true_length - getattr(g, name),
        f"no view can be longer than the line: {words} {{{name}}} is more than {{true_length}}",
        (name, "true_length"),
        lambda g: {name: at_most(g.true_length)},
    )


def _long_enough(g: ThreeLengths) -> dict[str, str]:
    """An elevation just long enough, or where that would be longer than the line both views as long as it."""
    total, plan = float(g.true_length), float(g.plan_length)
    offer = at_least(math.sqrt(max(0.0, total * total - plan * plan)), above=True)
    if float(offer) <= total:
        return {"elevation_length": offer}
    return {"plan_length": at_most(g.true_length), "elevation_length": at_most(g.true_length)}


PROBLEM = Problem(
    id="space/line-from-view-lengths",
    title="Line from the lengths of its views",
    brief=(
        "A line AB {true_length} long is {plan_length} long in plan and {elevation_length} in elevation. A is {a_front} in "
        "front of VP and {a_above} above HP. Find its inclinations and draw its views."
    ),
    givens=ThreeLengths,
    truth=truth,
    methods=(right_triangles,),
    findings={
        "inclination_hp": Kind.ANGLE,
        "inclination_vp": Kind.ANGLE,
        "apart": Kind.LENGTH,
        "apart_2": Kind.LENGTH,
        "b_front": Kind.LENGTH,
        "b_above": Kind.LENGTH,
    },
    source="Euclid I.47 in the planes of both right triangles.",
    conditions=(
        _longer_than_views("plan_length"),
        _longer_than_views("elevation_length"),
        Condition(
            "views long enough together",
            _spare,
            "views of {plan_length} and {elevation_length} are too short for a line of {true_length}: "
            "their squares together must reach its square",
            ("plan_length", "elevation_length", "true_length"),
            _long_enough,
        ),
    ),
    slips=(changed_over,),
    cautions=(WORK,),
)
