"""What the problems of one line in space share: its figures by vectors, and on the sheet its traces.

Truth: with d from A to B the inclinations are those of d to its parts in HP and VP; the traces are where A + t·d has no
height and no distance in front.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from wisecompass.arithmetic import Number, absolute, atan2_deg, hypot
from wisecompass.drafting.auxiliary import auxiliary, carry_back
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Value
from wisecompass.drafting.step import Kind
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3, norm

TRACES = {"ht_x": Kind.LENGTH, "ht_front": Kind.LENGTH, "vt_x": Kind.LENGTH, "vt_above": Kind.LENGTH}
VIEW_LENGTHS = {
    "plan_length": Kind.LENGTH,
    "elevation_length": Kind.LENGTH,
    "plan_angle": Kind.ANGLE,
    "elevation_angle": Kind.ANGLE,
}
WORK = "A dimension from this sheet is geometry; rafters and ties answer to local codes and a licensed engineer."


@dataclass(frozen=True)
class Lie:
    """How a line from A to B stands, decided once: whether it runs along the fold line at all, away from VP, upwards."""

    along: int
    away: int
    up: int

    @property
    def is_upright(self) -> bool:
        """Its top view is a point."""
        return not (self.along or self.away)

    @property
    def is_end_on(self) -> bool:
        """Its front view is a point."""
        return not (self.along or self.up)


def lie(g: Givens, step: Callable[[Any], tuple[Number, Number, Number]]) -> Lie:
    """How the line with this step (x, front, above) from A to B stands."""
    along, away, up = g.decide_all(step)
    return Lie(along, away, up)


def line_findings(a: Point3, d: Point3, how: Lie) -> dict[str, Value]:
    """Lengths and angles of both views and the traces, in closed form; None where there is none."""
    zero = d.x - d.x
    flat, upright = Point3(d.x, d.front, zero), Point3(d.x, zero, d.above)
    return {
        "plan_length": norm(flat),
        "elevation_length": norm(upright),
        "plan_angle": None if how.is_upright else atan2_deg(absolute(d.front), absolute(d.x)),
        "elevation_angle": None if how.is_end_on else atan2_deg(absolute(d.above), absolute(d.x)),
        "ht_x": -d.x * a.above / d.above if how.up else None,
        "ht_front": a.front - d.front * a.above / d.above if how.up else None,
        "vt_x": -d.x * a.front / d.front if how.away else None,
        "vt_above": a.above - d.above * a.front / d.front if how.away else None,
    }


def inclinations(d: Point3) -> dict[str, Number]:
    """To HP and VP, 0 to 90 degrees."""
    return {
        "inclination_hp": atan2_deg(absolute(d.above), hypot(d.x, d.front)),
        "inclination_vp": atan2_deg(absolute(d.front), hypot(d.x, d.above)),
    }


# ------------------------------------------------------------------------------------------------------------- drawing
def slope(level: Line, a: Point, b: Point) -> Number:
    """The acute angle of a–b with the direction of ``level``, degrees."""
    dx, dy = b.x - a.x, b.y - a.y
    across, along = level.dx * dy - level.dy * dx, level.dx * dx + level.dy * dy
    return atan2_deg(absolute(across), absolute(along))


def measure_views(b: Board, views: Views, how: Lie) -> None:
    """Lengths and angles of both views of AB."""
    (a_up, b_up), (a_low, b_low) = ((view.images["A"], view.images["B"]) for view in (views.front_view, views.top_view))
    b.find("plan_length", plane.distance(a_low, b_low))
    b.find("elevation_length", plane.distance(a_up, b_up))
    b.find("plan_angle", None if how.is_upright else slope(views.wall, a_low, b_low))
    b.find("elevation_angle", None if how.is_end_on else slope(views.ground, a_up, b_up))


def draw_traces(b: Board, views: Views, how: Lie, end: str = "B") -> dict[str, Value]:
    """Where the line from A to ``end``, drawn on, pierces HP and VP: where a view meets the plane that it shows on edge.
    They may lie far off. Gives their findings; the traces to another end are named like it."""
    with b.wish("traces"):
        return _traces(b, views, how, end)


def _traces(b: Board, views: Views, how: Lie, end: str) -> dict[str, Value]:
    found: dict[str, Value] = dict.fromkeys(TRACES)
    if not how.up and not how.away:
        b.step_reason("Parallel with both planes of projection, the line has no trace on either")
        return found
    horizontal, vertical = end.replace("B", "HT"), end.replace("B", "VT")
    if how.along:
        with b.may_be_far():
            _traces_by_projectors(b, views, how, end)
    else:
        _traces_in_profile(b, views, how)
    start = views.along(views.front_view.images["A"])
    if how.up:
        trace = views.know(horizontal)
        found |= {"ht_x": trace.x - start, "ht_front": trace.front}
    if how.away:
        trace = views.know(vertical)
        found |= {"vt_x": trace.x - start, "vt_above": trace.above}
    return found


def _traces_by_projectors(b: Board, views: Views, how: Lie, end: str) -> None:
    up, low = views.front_view, views.top_view
    names = {trace: end.replace("B", trace) for trace in ("HT", "VT", "h", "v")}
    why = "drawn on to where it meets the plane seen on edge"
    seen_up = b.line(up.images["A"], up.images[end], "front view", why=why, pen=Pen.PROJECTOR)
    if how.up:
        up.images[names["HT"]] = b.meet(seen_up, views.ground, name=_lettered(names["h"]))
    seen_low = b.line(low.images["A"], low.images[end], "top view", why=why, pen=Pen.PROJECTOR)
    if how.away:
        low.images[names["VT"]] = b.meet(seen_low, views.wall, name=_lettered(names["v"]))
    if how.up:
        _named(views, names["HT"], low, lambda: views.project(names["HT"], up, low, seen_low, why="the trace on HP"))
    if how.away:
        _named(views, names["VT"], up, lambda: views.project(names["VT"], low, up, seen_up, why="the trace on VP"))


def _lettered(name: str) -> str:
    """What belongs to a second solution is lettered in brackets."""
    return name.replace("_", "/")


def _named(views: Views, name: str, view: Any, act: Callable[[], Point]) -> None:
    """A trace is lettered HT or VT in the view that shows it, whatever the school."""
    label, view.label = view.label, _lettered
    try:
        act()
    finally:
        view.label = label


def _traces_in_profile(b: Board, views: Views, how: Lie) -> None:
    """A line square to XY shows where it pierces both planes only in a side view."""
    up, low = views.front_view, views.top_view
    across = Line(up.images["A"], views.ground.dx, views.ground.dy, "XY")
    side = auxiliary(
        views, up, across, ("A", "B"), square=True, full=views.wall, why="a side view: both views stand upright"
    )
    with b.may_be_far():
        seen = views.join(side, "A", "B", why="drawn on to both planes", pen=Pen.PROJECTOR)
        fold = side.away[up]
        if how.up:
            b.step_reason("In the side view HP is the ground line, drawn on, and VP the new fold line")
            up.images["HT"] = b.meet(views.projectors["A"], views.ground, name="h")
            side.images["HT"] = b.meet(seen, views.ground, name="h′")
            _named(views, "HT", low, lambda: carry_back(views, "HT", side, why="the trace on HP"))
        if how.away:
            side.images["VT"] = b.meet(seen, fold, name="v′")
            low.images["VT"] = b.meet(views.projectors["A"], views.wall, name="v")
            upright = views.projectors["A"]
            _named(views, "VT", up, lambda: views.project("VT", side, up, upright, why="the trace on VP"))
