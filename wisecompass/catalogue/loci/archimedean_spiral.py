"""Spiral of Archimedes: the gap between inner and outer circle divided into as many spaces as the turns have divisions."""

from __future__ import annotations

from wisecompass.arithmetic import Number, cos_deg, log, pi_times, sin_deg, sqrt
from wisecompass.catalogue.loci.spiral import GROWS, Spiral, constant, counts, curve, gap, spaces, way, whole_spaces
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point


def _length_to(radius: Number, growth: Number) -> Number:
    """Arc from the pole to a radius: (r·√(r² + c²) + c²·arsinh(r / c)) / 2c."""
    root = sqrt(radius * radius + growth * growth)
    return (radius * root / growth + growth * log((radius + root) / growth)) / 2


def truth(g: Spiral, number: Make) -> Truth:
    count, inner, growth = spaces(g), g.inner_diameter / 2, constant(g)
    zero = number(0)
    points = {"O": Point(zero, zero)}
    for k in range(count + 1):
        radius, angle = inner + gap(g) * k / count, g.start_angle + number(360) * k * way(g) / g.divisions
        points[f"P{k}"] = Point(radius * cos_deg(angle), radius * sin_deg(angle))
    return Truth(
        points=points,
        findings={
            "pitch": gap(g) / g.turns,
            "step": gap(g) / count,
            "spaces": count,
            "arc_length": _length_to(g.outer_diameter / 2, growth) - _length_to(inner, growth),
        },
    )


WHOLE = "the whole radius divided instead of the gap"


@method("divided gap", Exactness.EXACT_POINTS)
def divided_gap(b: Board, g: Spiral) -> None:
    count = spaces(g)
    centre = b.point("O", b.number(0), b.number(0), why="the pole")
    level = b.level_line(centre, "level axis", pen=Pen.CENTRE)
    outer = b.arc(centre, g.outer_diameter / 2, whole=True, name="outer circle", why="half the outer diameter")
    rays = []
    for k in range(min(g.divisions, count + 1)):
        angle = g.start_angle + b.turn(k * way(g), g.divisions) if k else g.start_angle
        why = "the start" if k == 0 else f"{g.divisions} divisions of the circle, {g.direction}"
        rays.append(b.protract(level, centre, angle, f"ray {b.nth(k)}", why=why))
    if g.decide(lambda h: h.inner_diameter) == 0:
        first = b.mark_point(centre.named(b.numbered("P", 0)))
    else:
        inner = b.arc(centre, g.inner_diameter / 2, whole=True, name="inner circle", why="half the inner diameter")
        first = b.meet(inner, rays[0], plane.beyond(rays[0]), b.numbered("P", 0))
    end = b.meet(outer, rays[0], plane.beyond(rays[0]), b.numbered("", count))
    names = [b.numbered("", k) for k in range(1, count)]
    why = f"the gap, not the whole radius: {count} spaces for the turns"
    start = b.unless(WHOLE, first, lambda: centre)
    marks = [*(b.divide(start, end, count, names, why=why) if names else []), end]
    if b.slips(one_too_many.name):
        marks = b.divide(start, end, count + 1, [*names, b.numbered("", count)])
    opened_at = b.unless(from_the_wrong_end.name, centre, lambda: end)
    b.caution("Divide the gap between the circles, not the whole radius.")
    b.caution(f"Count spaces, not marks: {count} spaces need {count - 1} marks between the ends.")
    plotted = [first]
    for k, mark in enumerate(marks, 1):
        ray = rays[k % g.divisions]
        swung = b.arc(centre, span(opened_at, mark), why=f"from the first ray to {ray.name}")
        if k == 1:
            b.caution("Open the compass from the pole to the mark, not from the outer end of the gap.")
        b.touch(swung, mark)
        plotted.append(b.meet(swung, ray, plane.beyond(ray), b.numbered("P", k)))
    b.plot(*plotted)
    b.fair_curve(lambda: curve(g), plotted, "spiral")
    last = plane.distance(centre, plotted[-1])
    grown = last - plane.distance(centre, start)
    b.find("spaces", count)
    if opened_at is end and count > 1:
        last, grown = plane.distance(centre, plotted[1]), plane.distance(centre, plotted[1]) * count / (count - 1)
        b.find("arc_length", _length_to(last, grown / pi_times(g.turns * 2)))
    else:
        growth = (last - plane.distance(centre, first)) / pi_times(g.turns * 2)
        b.find("arc_length", _length_to(last, growth) - _length_to(plane.distance(centre, first), growth))
    b.find("step", grown / count)
    b.find("pitch", grown * g.divisions / count)
    b.check("it has grown by the whole gap", last - plane.distance(centre, first) - gap(g))
    b.check("the spiral ends on the outer circle", last - g.outer_diameter / 2)


@slip(WHOLE)
def whole_radius(g: Spiral, number: Make) -> dict[str, Number]:
    return {"step": g.outer_diameter / (2 * spaces(g)), "pitch": g.outer_diameter / (2 * g.turns)}


@slip("marks counted instead of spaces: one too many")
def one_too_many(g: Spiral, number: Make) -> dict[str, Number]:
    return {"step": gap(g) / (spaces(g) + 1)}


@slip("the compass opened from the outer end of the gap instead of from the pole")
def from_the_wrong_end(g: Spiral, number: Make) -> dict[str, Number]:
    """What is drawn shrinks from the gap, less one step, to nothing."""
    count = spaces(g)
    return {"arc_length": _length_to(gap(g) * (count - 1) / count, constant(g))} if count > 1 else {}


PROBLEM = Problem(
    id="loci/archimedean-spiral",
    title="Spiral of Archimedes",
    brief=(
        "Draw a spiral of {turns} turns, {direction}, from an inner diameter of {inner_diameter} to an outer diameter of "
        "{outer_diameter}, beginning at {start_angle}, with {divisions} divisions of the circle."
    ),
    givens=Spiral,
    truth=truth,
    methods=(divided_gap,),
    findings={"pitch": Kind.LENGTH, "step": Kind.LENGTH, "spaces": Kind.COUNT, "arc_length": Kind.LENGTH},
    source="Archimedes, On Spirals; arc length in closed form.",
    conditions=(GROWS, whole_spaces()),
    slips=(whole_radius, one_too_many, from_the_wrong_end),
    beforehand=counts,
)
