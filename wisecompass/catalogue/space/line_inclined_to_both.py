"""Line of given true length inclined to both planes of projection: its views and traces.

Each inclination is first drawn alone, where it shows at its true angle; then both views are rotated about the end until
they meet the loci of the other end (Monge).  Truth: the direction vector (√(1 - sin²θ - sin²φ), sin φ, sin θ).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from wisecompass.arithmetic import Number, atan2_deg, cos_deg, root, roughly, sin_deg
from wisecompass.catalogue.space.lines import TRACES, WORK, Lie, draw_traces, slope
from wisecompass.catalogue.space.plane_put_to_line import put_plane_to_line
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, angle, at_most, length, offset
from wisecompass.drafting.motion import Turn
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3, norm

ENDS = ("B", "B_2")
MIRRORED = ("apart", "ht_x", "vt_x")
"""What the second solution, the first one's mirror image in A's projectors, has of its own."""


@dataclass(frozen=True)
class InclinedLine(Givens):
    true_length: Number = length("true length", "84")
    inclination_hp: Number = angle("inclination to HP", "34", "0", "90")
    inclination_vp: Number = angle("inclination to VP", "41", "0", "90")
    a_front: Number = offset("distance of A in front of VP", "12")
    a_above: Number = offset("height of A above HP", "8")


def _steep(g: InclinedLine) -> int:
    """1 where the line leans, 0 where both inclinations together are exactly 90° and it lies in a profile plane."""
    return g.decide(lambda h: 90 - h.inclination_hp - h.inclination_vp)


def truth(g: InclinedLine, number: Make) -> Truth:
    total, less = g.inclination_hp + g.inclination_vp, g.inclination_hp - g.inclination_vp
    rise = g.true_length * sin_deg(g.inclination_hp)
    depth = g.true_length * sin_deg(g.inclination_vp)
    apart = g.true_length * root(cos_deg(total) * cos_deg(less)) if _steep(g) else number(0)
    start = Point3(number(0), g.a_front, g.a_above)
    findings: dict[str, Value] = {
        "plan_length": norm(Point3(apart, depth, number(0))),
        "elevation_length": norm(Point3(apart, number(0), rise)),
        "plan_angle": _slope(g, depth, apart, "inclination_hp"),
        "elevation_angle": _slope(g, rise, apart, "inclination_vp"),
        "b_front": g.a_front + depth,
        "b_above": g.a_above + rise,
        "apart": apart,
    }
    flat, frontal = g.decide(lambda h: h.inclination_hp) == 0, g.decide(lambda h: h.inclination_vp) == 0
    findings["ht_x"] = None if flat else -apart * g.a_above / rise
    findings["ht_front"] = None if flat else g.a_front - depth * g.a_above / rise
    findings["vt_x"] = None if frontal else -apart * g.a_front / depth
    findings["vt_above"] = None if frontal else g.a_above - rise * g.a_front / depth
    points: dict[str, Point | Point3] = {"A": start, "B": start + Point3(apart, depth, rise)}
    if _steep(g):
        points["B_2"] = start + Point3(-apart, depth, rise)
        findings["apart_2"] = -apart
        findings["ht_x_2"] = None if flat else apart * g.a_above / rise
        findings["vt_x_2"] = None if frontal else apart * g.a_front / depth
    return Truth(points=points, findings=findings, solutions=2 if _steep(g) else 1)


def _slope(g: InclinedLine, over: Number, along: Number, other: str) -> Number | None:
    """Angle to XY of a view, or None where the view is a point because the line stands square to its plane."""
    if g.decide(lambda h: 90 - getattr(h, other)) == 0:
        return None
    return atan2_deg(over, along)


@method("rotation about the end", Exactness.EXACT)
def rotation_about_the_end(b: Board, g: InclinedLine) -> None:
    gap = g.a_above + g.a_front + g.true_length * (sin_deg(g.inclination_hp) + sin_deg(g.inclination_vp)) + 12
    views = Views.on(b, gap)
    names = b.conventions
    views.set_out("A", b.number(0), g.a_front, g.a_above)
    a_up, a_low = views.front_view.images["A"], views.top_view.images["A"]
    # -------------------------------------------------- each inclination alone, where it shows at its true angle
    level_up = b.level_line(a_up, f"level through {a_up.name}")
    rising = b.protract(level_up, a_up, g.inclination_hp, "true slope to HP", why="as if the line were parallel to VP")
    b.caution("The true length belongs on the true angle; on the apparent angle of a view it is wrong.")
    up_1 = b.lay_off(rising, a_up, g.true_length, names.front_name("R"), why="the true length")
    level_low = b.level_line(a_low, f"level through {a_low.name}")
    receding = b.protract(level_low, a_low, -g.inclination_vp, "true slope to VP", why="as if the line were level")
    low_2 = b.lay_off(receding, a_low, g.true_length, names.top_name("S"), why="the true length")
    # ------------------------------------------------------------------------------- lengths of both views
    down = b.upright_line(up_1, f"projector of {up_1.name}")
    plan_end = b.meet(down, level_low, name=names.top_name("R"))
    up = b.upright_line(low_2, f"projector of {low_2.name}")
    elevation_end = b.meet(up, level_up, name=names.front_name("S"))
    # --------------------------------------------------------------------------------- loci and rotation
    before = len(b.steps)
    high_locus = b.level_line(up_1, f"locus of {names.front_name('B')}", why="the other end keeps its height", pen=Pen.LOCUS)
    low_locus = b.level_line(low_2, f"locus of {names.top_name('B')}", why="the other end keeps its distance", pen=Pen.LOCUS)
    swung_low = b.arc(a_low, span(a_low, plan_end), why="to the locus below")
    ends_low = _both_ends(b, g, swung_low, low_locus, names.top_name("B"))
    if b.slips(plan_length_at_true_angle.name):
        ends_low[0] = b.lay_off(receding, a_low, span(a_low, plan_end), names.top_name("B"))
    swung_up = b.arc(a_up, span(a_up, elevation_end), why="to the locus above")
    ends_up = _both_ends(b, g, swung_up, high_locus, names.front_name("B"))
    for n, (end_up, end_low) in enumerate(zip(ends_up, ends_low, strict=True), 1):
        with b.for_solution(n):
            joined = b.upright_line(end_up, f"projector of {end_up.name}", why="both views of B stand on it")
            b.extend(joined, end_low)
            b.caution("If the two ends do not stand on one projector, an arc or a locus has strayed.")
            b.line_in((a_up, end_up), (a_low, end_low), why="the two views")
            views.read(ENDS[n - 1], end_up, end_low)
            b.in_space("A", ENDS[n - 1])
            b.find("apart" + ENDS[n - 1][1:], end_low.x - a_low.x)
            if b.drawing:  # from where it runs along VP to where it lies
                first, last = (b.solid_point(name) for name in ("A", ENDS[n - 1]))
                way = math.degrees(math.atan2(roughly(last.front - first.front), roughly(last.x - first.x)))
                upright = (roughly(first.x), roughly(first.front), roughly(first.above)), (0.0, 0.0, 1.0)
                b.moves(before, len(b.steps), "the line is swung", Turn(*upright, -way, 0.0))
        b.check(f"both views of the end stand on one projector (solution {n})", end_up.x - end_low.x)
    _measure(b, g, views, (a_up, a_low), (ends_up[0], ends_low[0]))
    b.misread(
        true_length_in_the_view.name,
        lambda: {"elevation_length": plane.distance(a_up, up_1), "elevation_angle": slope(level_up, a_up, up_1)},
    )
    views.reach(a_up, up_1, low_2, *ends_up, *ends_low)
    for view, a, ends in ((views.front_view, a_up, ends_up), (views.top_view, a_low, ends_low)):
        view.images |= {"A": a, **dict(zip(ENDS, ends, strict=False))}
    rises, recedes = (g.decide(margin) for margin in (lambda h: h.inclination_hp, lambda h: h.inclination_vp))
    for n in range(1, len(ends_up) + 1):
        for name, value in _traces(b, views, Lie(_steep(g), recedes, rises), n).items():
            if n == 1 or name in MIRRORED:
                b.find(name + ENDS[n - 1][1:], value)
    b.dimension(a_up, up_1, offset=7)
    b.dimension_angle(a_up, _level_with(a_up, up_1), up_1, radius=22)
    b.dimension_angle(a_low, low_2, _level_with(a_low, low_2), radius=22)


@method(
    "auxiliary planes",
    Exactness.EXACT,
    Condition(
        "inclinations together below 90°",
        lambda g: 90 - g.inclination_hp - g.inclination_vp,
        "the line stands square to XY: no plane but a profile plane shows both inclinations",
        ("inclination_hp", "inclination_vp"),
        lambda g: {"inclination_vp": at_most((90 - g.inclination_hp) / 2, 6)},
        strict=True,
    ),
)
def auxiliary_planes(b: Board, g: InclinedLine) -> None:
    gap = g.a_above + g.a_front + g.true_length * (sin_deg(g.inclination_hp) + sin_deg(g.inclination_vp)) + 12
    put_plane_to_line(b, g, Views.on(b, gap), MIRRORED)


def _traces(b: Board, views: Views, lie: Lie, n: int) -> dict[str, Value]:
    """The traces of solution ``n``. That a level frontal line has none is said once for both solutions."""
    if lie.up or lie.away:
        with b.likewise(n):
            return draw_traces(b, views, lie, ENDS[n - 1])
    return draw_traces(b, views, lie) if n == 1 else dict.fromkeys(TRACES)


def _level_with(a: Point, p: Point) -> Point:
    """The point level with ``a`` and under or over ``p``."""
    return Point(p.x, a.y)


def _both_ends(b: Board, g: InclinedLine, swung: plane.Circle, locus: Line, name: str) -> list[Point]:
    """Both crossings of arc and locus, right one first; one point where the arc just touches."""
    if _steep(g) == 0:
        return [b.touched(swung, locus, name)]
    right = b.meet(swung, locus, plane.rightmost, name)
    return [right, b.meet(swung, locus, plane.leftmost, f"{name}/2")]


def _measure(b: Board, g: InclinedLine, views: Views, a: tuple[Point, Point], end: tuple[Point, Point]) -> None:
    (a_up, a_low), (b_up, b_low) = a, end
    b.find("plan_length", plane.distance(a_low, b_low))
    b.find("elevation_length", plane.distance(a_up, b_up))
    b.find("b_front", views.front(b_low))
    b.find("b_above", views.above(b_up))
    standing = g.decide(lambda h: 90 - h.inclination_hp) == 0
    pointing = g.decide(lambda h: 90 - h.inclination_vp) == 0
    b.find("plan_angle", None if standing else atan2_deg(a_low.y - b_low.y, b_low.x - a_low.x))
    b.find("elevation_angle", None if pointing else atan2_deg(b_up.y - a_up.y, b_up.x - a_up.x))
    across = plane.distance(a_low, b_low)
    rise = b_up.y - a_up.y
    b.check("plan length and rise give back the true length", root(across * across + rise * rise) - g.true_length)


@slip("true length laid at the true angle taken for the view itself")
def true_length_in_the_view(g: InclinedLine, number: Make) -> dict[str, Number]:
    return {"elevation_length": g.true_length, "elevation_angle": g.inclination_hp + 0}


@slip("plan length laid at the true angle to VP instead of swung to the locus")
def plan_length_at_true_angle(g: InclinedLine, number: Make) -> dict[str, Number]:
    plan = g.true_length * cos_deg(g.inclination_hp)
    return {
        "plan_angle": g.inclination_vp + 0,
        "apart": plan * cos_deg(g.inclination_vp),
        "b_front": g.a_front + plan * sin_deg(g.inclination_vp),
    }


def _nearest(g: InclinedLine) -> dict[str, str]:
    """Keep the inclination to HP and lower the other one."""
    return {"inclination_vp": at_most(90 - g.inclination_hp, 6)}


PROBLEM = Problem(
    id="space/line-inclined-to-both",
    title="Line inclined to both planes",
    brief=(
        "A line AB {true_length} long rises at {inclination_hp} to HP and recedes at {inclination_vp} to VP. "
        "A is {a_front} in front of VP and {a_above} above HP. Draw its views."
    ),
    givens=InclinedLine,
    truth=truth,
    methods=(rotation_about_the_end, auxiliary_planes),
    findings={
        "plan_length": Kind.LENGTH,
        "elevation_length": Kind.LENGTH,
        "plan_angle": Kind.ANGLE,
        "elevation_angle": Kind.ANGLE,
        "b_front": Kind.LENGTH,
        "b_above": Kind.LENGTH,
        "apart": Kind.LENGTH,
        **TRACES,
        **{f"{name}_2": Kind.LENGTH for name in MIRRORED},
    },
    source="Rotation about an end (Monge, Géométrie descriptive); direction cosines for the truth.",
    conditions=(
        Condition(
            "inclinations together at most 90°",
            lambda g: 90 - g.inclination_hp - g.inclination_vp,
            "a line {true_length} long cannot rise at {inclination_hp} and also recede at {inclination_vp}: "
            "the two together may not pass 90°",
            ("inclination_hp", "inclination_vp"),
            _nearest,
        ),
    ),
    slips=(true_length_in_the_view, plan_length_at_true_angle),
    cautions=(WORK,),
)
