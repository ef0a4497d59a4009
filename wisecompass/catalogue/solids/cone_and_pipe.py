"""A standing cone and a level pipe, by horizontal sections: every level plane cuts the cone in a circle and the pipe in two
straight generators, which cross in the top view; or by planes through the apex, which cut both in generators.

Truth: with the pipe's rim at ψ, counted from the front up, a generator lies at y = e + r cos ψ and z = a + r sin ψ; there
the cone's radius is ρ = R (1 − z / h), and x = ±√(ρ² − y²).
"""

from __future__ import annotations

from wisecompass.arithmetic import Number, root, roughly
from wisecompass.catalogue.solids.apex_sections import sections_through_the_apex
from wisecompass.catalogue.solids.cone_views import ON_THE_BASE, line_in, measure, set_up
from wisecompass.catalogue.solids.level_pipe import (
    CONDITIONS,
    DIVISIONS,
    ConeAndPipe,
    found_in_order,
    is_through,
    lies_before,
    meets,
    place,
    reach,
    turns,
)
from wisecompass.drafting.board import Board
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3


def truth(g: ConeAndPipe, number: Make) -> Truth:
    points: dict[str, Point | Point3] = {}
    for k in range(DIVISIONS):
        if meets(g, k) < 0:
            continue
        y, z = place(g, number(360) * k / DIVISIONS)
        rho = reach(g, z)
        x = root(rho * rho - y * y)
        points[f"P{k}"] = Point3(x, g.room + y, z)
        points[f"Q{k}"] = Point3(-x, g.room + y, z)
    top, low = g.pipe_height + g.pipe_diameter / 2, g.pipe_height - g.pipe_diameter / 2
    if not is_through(g):
        first, last = turns(g)
        if lies_before(g, 90):
            top = max((place(g, turn)[1] for turn in (first, last)), key=roughly)
        if lies_before(g, -90):
            low = min((place(g, turn)[1] for turn in (first, last)), key=roughly)
    findings: dict[str, Value] = {
        "curves": 2 if is_through(g) else 1,
        "highest": top + 0,
        "lowest": low + 0,
        "nearest_axis": reach(g, top),
    }
    return Truth(points=points, findings=findings)


@method("horizontal sections", Exactness.EXACT)
def horizontal_sections(b: Board, g: ConeAndPipe) -> None:
    s = set_up(b, g)
    found = found_in_order(g)
    up, low, views = s.views.front_view, s.views.top_view, s.views
    for make in (s.generator, s.circle, s.line):
        for k in found:
            make(k)
    for k in found:
        names = b.numbered("P", k), b.numbered("Q", k)
        labels = low.label(names[0]), low.label(names[1])
        if meets(g, k) == 0:
            b.step_through(s.line(k), s.circle(k))
            low.images[names[0]] = b.touched(s.circle(k), s.line(k), labels[0])
            low.images[names[1]] = b.mark_point(low.images[names[0]].named(labels[1]))
        else:
            b.pencil()
            low.images[names[0]], low.images[names[1]] = b.both(s.circle(k), s.line(k), labels, plane.beyond(s.line(k)))
    b.caution("The highest and the lowest point come first; between points that lie far apart lay another level.")
    for k in found:
        for letter in "PQ":
            name = b.numbered(letter, k)
            views.project(name, low, up, s.generator(k))
            image = low.images[name]
            b.space_point(name, image.x - s.middle.x, views.front(image), views.above(up.images[name]))
    line_in(s, found)
    measure(s, found)
    views.letter_fold()


@slip(ON_THE_BASE)
def on_the_base(g: ConeAndPipe, number: Make) -> dict[str, Number]:
    return {"nearest_axis": g.base_diameter / 2}


PROBLEM = Problem(
    id="solids/cone-and-pipe",
    title="Cone and pipe",
    brief=(
        "A cone {base_diameter} across and {height} high is met by a level pipe {pipe_diameter} across, its axis "
        "{pipe_height} up and {offset} to the front. Draw the curve in which they meet."
    ),
    givens=ConeAndPipe,
    truth=truth,
    methods=(horizontal_sections, sections_through_the_apex),
    findings={
        "curves": Kind.COUNT,
        "highest": Kind.LENGTH,
        "lowest": Kind.LENGTH,
        "nearest_axis": Kind.LENGTH,
    },
    source="Level sections of cone and cylinder (Monge, Géométrie descriptive).",
    conditions=CONDITIONS,
    slips=(on_the_base,),
    cautions=("A branch weakens the vessel that it opens: welded and pressed parts answer to local codes.",),
)
