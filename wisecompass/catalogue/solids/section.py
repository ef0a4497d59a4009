"""Section of a standing solid by a plane square to VP or to HP: sectional view, true shape, and the views of what is left.

The plane is seen on edge in the front view, or in the top view, so the points that it cuts are found there and projected.
Truth: the cut points along the edges by their distances from the plane; volumes and areas by the divergence theorem.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import pairwise
from typing import Any

from wisecompass.arithmetic import Number, absolute, cos_deg, pi_times, root
from wisecompass.catalogue.solids.body import END_MIDDLE, MIDDLE, begin, lettered_points, volume
from wisecompass.catalogue.solids.cut_conics import conic, findings
from wisecompass.catalogue.solids.cut_lining import line_in
from wisecompass.catalogue.solids.cut_measures import measure
from wisecompass.catalogue.solids.cut_views import Drawn, draw_cut, true_shape
from wisecompass.catalogue.solids.cuts import CONDITIONS, SIDES, Cut, CutGivens, Plan, place, plan
from wisecompass.catalogue.solids.side import side_view
from wisecompass.catalogue.solids.upright_cut import Upright, upright_findings, upright_place, upright_plan
from wisecompass.catalogue.solids.upright_lining import line_in_upright, measure_upright
from wisecompass.catalogue.solids.upright_views import draw_upright
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.drafting.view import View
from wisecompass.geometry import plane
from wisecompass.geometry.space import Point3, cross, distance3, dot, norm

POLYGONS = {3: "triangle", 4: "quadrilateral", 5: "pentagon", 6: "hexagon", 7: "heptagon", 8: "octagon", 9: "nonagon"}


def _polygon(count: int) -> str:
    return POLYGONS.get(count) or f"polygon of {count} sides"


def truth(g: Cut, number: Make) -> Truth:
    points = {name: Point3(at.x, at.front, at.above) for name, at in lettered_points(g, begin(g)).items()}
    found: dict[str, Value] = dict.fromkeys(SIDES)
    if g.is_round and g.is_upright:
        upright = upright_plan(g)
        points = {name: upright_place(g, on) for name, on in upright.cut.items()} | points
        found |= upright_findings(g, upright)
    else:
        p = plan(g)
        points |= {name: place(g, edge) for name, edge in p.cut.items()}
        found |= findings(conic(g, p)) if g.is_round else _flat(g, p, points)
    moved = {name: Point3(at.x, at.front + g.room, at.above) for name, at in points.items()}
    return Truth(points=moved, findings=found)


def _flat(g: Cut, p: Plan, points: Mapping[str, Point3]) -> dict[str, Value]:
    """Areas of faces by cross products; the part below by cones from a point of the section over its other faces."""
    vectors = {face: _area_vector([points[name] for name in loop]) for face, loop in p.faces.items()}
    start = points[p.section[0]]
    below = surface = start.x * 0
    for face, way in vectors.items():
        if face != "section":
            below = below + dot(points[p.faces[face][0]] - start, way) / 3
            surface = surface + norm(way)
    loop = [points[name] for name in p.section]
    perimeter = sum((distance3(a, b) for a, b in pairwise([*loop, loop[0]])), start.x * 0)
    return {
        "section_area": norm(vectors["section"]),
        "section_perimeter": perimeter,
        "section_kind": _polygon(len(p.section)),
        "major": None,
        "minor": None,
        "eccentricity": None,
        "focus_distance": None,
        g.told("volume", True): below,
        g.told("volume", False): volume(g, lambda radius: pi_times(radius * radius)) - below,
        g.told("surface", True): surface,
    }


def _area_vector(loop: Sequence[Point3]) -> Point3:
    """Outward normal of a flat face, as long as its area."""
    total = cross(loop[2] - loop[0], loop[1] - loop[0])  # (x, front, above) is a left-handed frame
    for a, b in pairwise(loop[2:]):
        total = total + cross(b - loop[0], a - loop[0])
    return total.scaled((loop[0].x * 0 + 1) / 2)


@method("cut points projected", Exactness.EXACT)
def cut_points_projected(b: Board, g: Cut) -> None:
    d = draw_upright(b, g) if g.is_upright else draw_cut(b, g)
    kept = [name for name in d.one.up.images if d.plan.signs.get(name, 0) <= 0 and name not in (MIDDLE, END_MIDDLE)]
    side = side_view(d.sheet, d.one, kept)
    shape = true_shape(d)
    if isinstance(d.plan, Upright):
        line_in_upright(d, d.plan, shape, side)
    else:
        line_in(d, shape, side)
    d.sheet.views.letter_fold()
    _measure(d, shape)


def _measure(d: Drawn, shape: View) -> None:
    """Everything that can be measured on the views."""
    _measure_all(d, shape)
    b, cosine = d.sheet.b, cos_deg(d.sheet.g.plane_angle)
    b.misread(area_from_above.name, lambda: {"section_area": b.findings["section_area"] * cosine})


def _measure_all(d: Drawn, shape: View) -> None:
    b, g, p = d.sheet.b, d.sheet.g, d.plan
    up, low = d.one.up.images, d.one.low.images
    points = {name: b.solid_point(name) for name in low if name in up}
    loop = [shape.images[name] for name in p.section]
    lengths = [plane.distance(q, r) for q, r in pairwise([*loop, loop[0]])]
    in_space = [distance3(points[q], points[r]) for q, r in pairwise([*p.section, p.section[0]])]
    b.check("a side of the true shape is as long as both views say", lengths[0] - in_space[0])
    b.check("the true shape closes as long as both views say", lengths[-1] - in_space[-1])
    for name in SIDES:
        if name not in (g.told("volume", True), g.told("volume", False), g.told("surface", True)):
            b.find(name, None)
    if isinstance(p, Upright):
        measure_upright(d, p, shape)
        return
    if g.is_round:
        measure(d, shape)
        return
    b.find("section_area", absolute(plane.polygon_area(loop)))
    b.find("section_perimeter", sum(lengths[1:], lengths[0]))
    b.find("section_kind", _polygon(len(loop)))
    below, surface = _under(p, points)
    base = absolute(plane.polygon_area([low[c] for c in g.base_letters]))
    end = (
        base
        if g.is_straight
        else base * 0
        if g.is_pointed
        else absolute(plane.polygon_area([low[c] for c in g.end_letters]))
    )
    height = up[d.sheet.top].y - up[MIDDLE].y
    b.find(g.told("volume", True), below)
    b.find(g.told("volume", False), height * (base + end + root(base * end)) / 3 - below)
    b.find(g.told("surface", True), surface)
    for name in ("major", "minor", "eccentricity", "focus_distance"):
        b.find(name, None)


def _under(p: Plan, points: Mapping[str, Point3]) -> tuple[Number, Number]:
    """Volume under the section, as columns on the top view of every triangle of its faces, and the area of these by their
    three sides; the section itself counts for the volume only."""
    zero = points[p.section[0]].x * 0
    total, surface = zero, zero
    for face, loop in p.faces.items():
        a = points[loop[0]]
        for second, third in pairwise(loop[1:]):
            q, r = points[second], points[third]
            plan_area = ((r.x - a.x) * (q.front - a.front) - (q.x - a.x) * (r.front - a.front)) / 2
            total = total + plan_area * (a.above + q.above + r.above) / 3
            if face != "section":
                surface = surface + _heron(distance3(a, q), distance3(q, r), distance3(r, a))
    return total, surface


def _heron(a: Number, b: Number, c: Number) -> Number:
    half = (a + b + c) / 2
    return root(half * (half - a) * (half - b) * (half - c))


@slip("section measured in the view that it is cut in as if that were its true shape")
def area_from_above(g: Cut, number: Make) -> dict[str, Number]:
    found: Any = truth(g, number).findings["section_area"]
    return {"section_area": found * cos_deg(g.plane_angle)}


def worded(words: Mapping[str, str]) -> str:
    """The sentence of a kind: it has only those numbers that count for it."""
    kind = words["kind"]
    round_one = kind in ("cylinder", "cone", "cone-frustum")
    across = "{base} across" if round_one else "of {sides} sides of {base}"
    end = ", {top} across at its other end" if round_one else ", its other end of side {top}"
    turned = "" if round_one else ", turned {turned} about its axis"
    upright = words["plane"] == "square to HP"
    cut = (
        "at {plane_angle} to VP and {plane_front} in front of the axis"
        if upright
        else ("at {plane_angle} to HP and {plane_height} up the axis")
    )
    return (
        f"A {{kind}} {across}{end if 'frustum' in kind else ''} and {{height}} high stands on its base{turned}. Cut it by a "
        f"plane {{plane}}, {cut}; draw section, true shape and the rest."
    )


PROBLEM = Problem(
    id="solids/section",
    title="Section of a solid",
    brief=(
        "A {kind} of {sides} sides, {base} a side or across ({top} at the other end of a frustum) and {height} high, stands "
        "on its base, turned {turned} about its axis. Cut it by a plane {plane}, at {plane_angle} to the other plane, "
        "{plane_height} up the axis or {plane_front} in front of it; draw section, true shape and what is left."
    ),
    worded=worded,
    givens=CutGivens,
    truth=truth,
    methods=(cut_points_projected,),
    findings={
        "section_area": Kind.AREA,
        "section_perimeter": Kind.LENGTH,
        "section_kind": Kind.CHOICE,
        "major": Kind.LENGTH,
        "minor": Kind.LENGTH,
        "eccentricity": Kind.RATIO,
        "focus_distance": Kind.LENGTH,
        "volume_below": Kind.VOLUME,
        "volume_above": Kind.VOLUME,
        "surface_below": Kind.AREA,
        "volume_behind": Kind.VOLUME,
        "volume_before": Kind.VOLUME,
        "surface_behind": Kind.AREA,
    },
    source="Sections by projection (Monge, Géométrie descriptive); conics by eccentricity; the divergence theorem.",
    conditions=CONDITIONS,
    slips=(area_from_above,),
)
