"""A line inclined to both planes by an auxiliary plane: the line stays where it is easy to draw, and VP is put to it.

Parallel with VP the line shows its inclination to HP. Its plan stays; a new vertical plane is put so that the plan recedes
from it by as much as the inclination to VP wants: its fold line is parallel with the tangent from a to the circle about b
with that much as radius. Both tangents serve, and give the two solutions.
"""

from __future__ import annotations

from typing import Any

from wisecompass.arithmetic import root
from wisecompass.catalogue.space.lines import draw_traces, lie, slope
from wisecompass.drafting.auxiliary import view_on
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Value
from wisecompass.drafting.setting import Setting, span
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


def put_plane_to_line(b: Board, g: Any, views: Views, mirrored: tuple[str, ...]) -> None:
    """Draw the line on VP's parallel, then both positions of the new plane with the view and the traces there.
    ``mirrored`` are the findings that the second solution has of its own."""
    names, up, low = b.conventions, views.front_view, views.top_view
    views.set_out("A", b.number(0), g.a_front, g.a_above)
    a_up, a_low = up.images["A"], low.images["A"]
    level_up = b.level_line(a_up, f"level through {a_up.name}")
    rising = b.protract(level_up, a_up, g.inclination_hp, "true slope to HP", why="the line is drawn parallel with VP")
    up.images["B"] = b.lay_off(rising, a_up, g.true_length, names.front_name("B"), why="the true length")
    b.caution("The true length belongs on the true angle; on the apparent angle of a view it is wrong.")
    level_low = b.level_line(a_low, f"level through {a_low.name}")
    plan_end = low.images["B"] = views.project("B", up, low, level_low, why="the plan, which stays")
    receding = b.protract(level_low, a_low, -g.inclination_vp, "true slope to VP", why="as if the line were level")
    far = b.lay_off(receding, a_low, g.true_length, "e", why="the true length")
    recedes, touching = span(far, level_low), [plan_end, plan_end]
    if g.decide(lambda h: h.inclination_vp):
        round_b = b.arc(plan_end, recedes, name="receding circle", why="how far B must recede from the new plane")
        run = b.line(a_low, plan_end, "plan")
        middle = b.divide(a_low, plan_end, 2, ["m"])[0]
        round_ = b.arc(
            middle, span(middle, a_low), name="circle on the plan", why="in it the tangents stand square to the radius"
        )
        touching = list(b.both(round_, round_b, ("t", "u"), plane.left_of(run)))
    views.reach(a_up, up.images["B"], far)
    for n, touch in enumerate(touching, 1):
        with b.likewise(n):
            _on_new_plane(b, g, views, (touch, recedes), n, mirrored)
    across, rise = plane.distance(a_low, plan_end), up.images["B"].y - a_up.y
    b.check("plan length and rise give back the true length", root(across * across + rise * rise) - g.true_length)


def _on_new_plane(b: Board, g: Any, views: Views, found: tuple[Point, Setting], n: int, mirrored: tuple[str, ...]) -> None:
    """The fold line along a tangent, as far from a as A is from VP, the view beyond it, and what is measured there.
    ``found`` are where the tangent touches and how far the plan must recede."""
    touch, recedes = found
    up, low = views.front_view, views.top_view
    a, end = low.images["A"], low.images["B"]
    tag, suffix = ("₁", "") if n == 1 else ("₂", "_2")
    tangent = b.line(a, touch, f"tangent {n}", why="the new plane is parallel with it")
    square = b.square(tangent, a, f"square {n} at {a.name}")
    side = 1 if n == 1 else -1  # the plan lies on the right of the fold line, the new view on its left
    way = Line(a, square.dx * side, square.dy * side, square.name)
    at = b.lay_off(way, a, g.a_front, f"n{n}", why="as far from the new plane as A is from VP")
    fold = b.parallel(tangent, at, f"X{tag}Y{tag}", why="the new vertical plane on edge", pen=Pen.GIVEN)
    fold = Line(at, tangent.dx * side, tangent.dy * side, fold.name)
    new = view_on(views, low, (up, views.ground), fold, ("A", "B"))
    b.caution("Heights are carried over from the first front view: a new vertical plane does not change them.")
    put = Views(b, fold, fold, new, low)
    name = f"B{suffix}"
    new.images[name], low.images[name] = new.images["B"], low.images["B"]
    b.line_in((new.images["A"], new.images["B"]), (a, end), why="the two views")
    start, point = put.know("A"), put.know(name)
    b.in_space("A", name)
    b.find(f"apart{suffix}", point.x - start.x)
    how = lie(g, lambda h: (90 - h.inclination_hp - h.inclination_vp, h.inclination_vp, h.inclination_hp))
    for key, value in draw_traces(b, put, how, name).items():
        if n == 1 or key in mirrored:
            b.find(key + suffix, value)
    wanted = point.front - start.front - recedes.number
    b.check(f"the plan recedes from plane {n} as much as the inclination to VP wants", wanted)
    if n == 1:
        _measure(b, put)


def _measure(b: Board, put: Views) -> None:
    (a_new, b_new), (a, end) = ((view.images["A"], view.images["B"]) for view in (put.front_view, put.top_view))
    measured: dict[str, Value] = {
        "plan_length": plane.distance(a, end),
        "elevation_length": plane.distance(a_new, b_new),
        "b_front": put.front(end),
        "b_above": put.above(b_new),
        "plan_angle": slope(put.wall, a, end),
        "elevation_angle": slope(put.ground, a_new, b_new),
    }
    for name, value in measured.items():
        b.find(name, value)
