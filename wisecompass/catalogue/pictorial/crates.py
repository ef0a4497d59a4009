"""A body made of parts in a picture: isometric, oblique, in one-point or two-point perspective.

Truth: corners from the three surfaces that meet in each, projected; volume by line integrals along the edges (Gauss).
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, cos_deg, roughly, sin_deg
from wisecompass.catalogue.pictorial.crate_beside import Spots, is_settled, take, taken
from wisecompass.catalogue.pictorial.crate_flats import base_of, frame_of
from wisecompass.catalogue.pictorial.crate_picture import Picture
from wisecompass.catalogue.pictorial.projections import (
    CABINET,
    CAVALIER,
    ISOMETRIC,
    ONE_POINT,
    PROJECTIONS,
    TWO_POINT,
    drawn_in,
    vanishing_of,
)
from wisecompass.catalogue.solids.crate_glance import BodyGlance
from wisecompass.catalogue.solids.crate_plan import in_floats, origin, plan_of
from wisecompass.catalogue.solids.crates import BODY_CONDITIONS, end_of
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.errors import DrawAgain, Infeasible
from wisecompass.drafting.givens import Givens, angle, at_least, choice, length, offset, parts
from wisecompass.drafting.picturing import SeenAsPoint
from wisecompass.drafting.problem import Condition, Exactness, Kin, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.recorder import Detail
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import number_text
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3

CHUTE = "box 64 28 14 at 0 0 0; box 22 28 24 at 0 0 14"


@dataclass(frozen=True)
class Crates(Givens):
    parts: Any = parts("parts", CHUTE)
    projection: str = choice("projection", *PROJECTIONS)
    scale: str = choice("scale of an isometric", "natural", "isometric")
    receding_angle: Number = angle("angle of the receding axis", "45", "10", "80")
    recedes: str = choice("the receding axis goes", "up right", "up left")
    eye_distance: Number = length("distance of the eye", "210")
    eye_height: Number = length("height of the eye", "95")
    eye_right: Number = offset("how far to the right of the left end the eye is, of one point", "90")
    turned: Number = angle("angle of the front to the picture plane, of two points", "35", "1", "89")
    hidden_edges: str = choice("hidden edges", "left out", "dashed")


def truth(g: Crates, number: Make) -> Truth:
    from wisecompass.geometry.measure import Measured

    plan = plan_of(in_floats(g.parts))
    measured = Measured(plan.body, g.parts)
    low, base = [origin(g.parts, axis) for axis in range(3)], base_of(g)
    place = drawn_in(g, number)

    def image(at: Any) -> Point:
        x, y, z = (c - first - off for c, first, off in zip(at, low, base, strict=True))
        return place(x, y, z)

    points: dict[str, Point | Point3] = {name: image(measured.corners[k]) for name, k in plan.named.items()}
    sizes: dict[str, Value] = {}
    for axis, name in enumerate(("length_drawn", "depth_drawn", "height_drawn")):
        ends = []
        for at in plan.reach[axis]:
            corner = [first + off for first, off in zip(low, base, strict=True)]
            corner[axis] = end_of(g.parts, axis, at, measured)
            ends.append(image(corner))
        sizes[name] = plane.distance(ends[0], ends[1])
    left, right = vanishing_of(g)
    return Truth(
        points=points,
        findings={**sizes, "vanishing_left": left, "vanishing_right": right, "volume": measured.volume()},
    )


def _before_the_eye(g: Crates) -> float:
    """How far the nearest place of the body lies before the eye, mm, less a hundredth of the body; in parallel pictures
    anything above nothing."""
    plan = plan_of(in_floats(g.parts))
    if g.projection not in (ONE_POINT, TWO_POINT):
        return plan.body.model.size
    turn = math.radians(roughly(g.turned)) if g.projection == TWO_POINT else 0.0
    ends = [(first - low, last - low) for (first, last), low in zip(plan.reach, plan.low, strict=True)]
    depths = [x * math.sin(turn) + y * math.cos(turn) for x in ends[0] for y in ends[1]]
    return roughly(g.eye_distance) + min(depths) - plan.body.model.size / 100


def _farther(g: Any) -> dict[str, str]:
    h = g.bound_in(PLAIN)
    return {"eye_distance": at_least(h.eye_distance - _before_the_eye(h) + plan_of(in_floats(h.parts)).body.model.size / 10)}


def _drawn(b: Board, g: Crates, places: Spots, missing: list[tuple[float, float, float]] | None = None) -> None:
    """The picture, with ``places`` taken from views beside it; a list of what is ``missing`` takes what is not found."""
    picture = Picture(b, g)
    picture.missing = missing
    picture.learn()
    picture.reduce_all()
    picture.set_out()
    picture.draw_flat()
    picture.look_up(places)
    picture.draw_parts()
    picture.line_in()
    picture.measure()
    picture.dimension()


def _missing(g: Crates) -> list[tuple[float, float, float]]:
    """The places that the picture cannot find by itself and with what it takes from the views so far."""
    found: list[tuple[float, float, float]] = []
    with suppress(LookupError, StopIteration):
        _drawn(Board(PLAIN, detail=Detail.RESULT), g.bound_in(PLAIN), taken(g), found)
    return found


def _settle(g: Crates) -> None:
    """Find out what the picture takes from the views: hands that had to begin again would stray twice."""
    h = g.bound_in(PLAIN)
    with suppress(LookupError, StopIteration):
        _drawn(Board(PLAIN, detail=Detail.RESULT), h, ())
        take(g, ())
        return
    while take(g, _missing(g)):
        pass


@method("crates", Exactness.EXACT)
def crates(b: Board, g: Crates) -> None:
    if not b.drawing and not is_settled(g):
        _settle(g)
    try:
        _drawn(b, g, taken(g))
    except SeenAsPoint:
        high, higher = (number_text(float(g.eye_height) + more) for more in (0, 1))
        sentence = f"an edge leads straight to an eye {high} mm high and is seen as a point; from {higher} mm it is a line"
        offer = {"eye_height": higher}
        raise Infeasible("edges seen as lines", sentence, ("eye_height",), offer) from None
    except (LookupError, StopIteration):
        if take(g, _missing(g)):
            raise DrawAgain from None
        sentence = "these parts meet in a place to which no line of the picture leads, and none of the views"
        raise Infeasible("places that can be drawn", sentence, ("parts",), {}) from None
    if g.projection != TWO_POINT:
        b.find("vanishing_left", None)
        b.find("vanishing_right", None)
    else:
        left, right = b.findings["vanishing_left"], b.findings["vanishing_right"]
        b.misread(changed_over.name, lambda: {"vanishing_left": right, "vanishing_right": left})
    if g.projection in (CAVALIER, CABINET) and "depth_drawn" in b.findings:
        deep, share = b.measured("depth_drawn"), 2 if g.projection == CABINET else b.number("0.5")
        b.misread(depth_in_full.name, lambda: {"depth_drawn": deep * share})
    if g.projection in (ONE_POINT, TWO_POINT):
        b.misread(along_the_line.name, lambda: along_the_line.measure(g, b.number))


def glance(g: Crates, conventions: Conventions) -> BodyGlance:
    return BodyGlance(g, lambda h: [frame_of(h)], g.hidden_edges == "dashed", conventions)


@slip("depths laid off in full where they are halved, or halved where they are full")
def depth_in_full(g: Crates, number: Make) -> dict[str, Number]:
    if g.projection not in (CAVALIER, CABINET):
        raise ValueError("nothing recedes")
    found: Any = truth(g, number).findings["depth_drawn"]
    return {"depth_drawn": found * 2 if g.projection == CABINET else found / 2}


@slip("lengths laid off along the line to the vanishing point itself")
def along_the_line(g: Crates, number: Make) -> dict[str, Number]:
    if g.projection not in (ONE_POINT, TWO_POINT):
        raise ValueError("nothing vanishes")
    (near, far) = plan_of(in_floats(g.parts)).reach[1]
    return {"depth_drawn": number(1) * (far - near)}


@slip("both vanishing points changed over")
def changed_over(g: Crates, number: Make) -> dict[str, Number]:
    if g.projection != TWO_POINT:
        raise ValueError("there are not two")
    e, c, s = g.eye_distance, cos_deg(g.turned), sin_deg(g.turned)
    return {"vanishing_left": e * c / s, "vanishing_right": e * s / c}


def worded(words: Mapping[str, str]) -> str:
    how = {
        ISOMETRIC: ", at {scale} scale",
        CAVALIER: ", its depth at {receding_angle} {recedes}",
        CABINET: ", its depth at {receding_angle} {recedes}",
        ONE_POINT: " perspective, the eye {eye_distance} away, {eye_height} high and {eye_right} right of the left end",
        TWO_POINT: " perspective, the eye {eye_distance} away and {eye_height} high, the front turned {turned}",
    }[words["projection"]]
    return f"Draw in {{projection}}{how}, hidden edges {{hidden_edges}}, a body that is made of these parts: {{parts}}."


PROBLEM = Problem(
    id="pictorial/crates",
    title="Picture of a body made of parts",
    brief=(
        "Draw in {projection}, at {scale} scale, its depth at {receding_angle} {recedes}, the eye {eye_distance} away, "
        "{eye_height} high and {eye_right} to the right, the front turned {turned}, hidden edges {hidden_edges}, a "
        "body made of these parts: {parts}."
    ),
    worded=worded,
    givens=Crates,
    truth=truth,
    methods=(crates,),
    conditions=(
        *BODY_CONDITIONS,
        Condition(
            "an eye before the body",
            _before_the_eye,
            "an eye {eye_distance} before the picture plane stands in the body, or behind some of it",
            ("eye_distance",),
            _farther,
            strict=True,
        ),
    ),
    findings={
        "length_drawn": Kind.LENGTH,
        "depth_drawn": Kind.LENGTH,
        "height_drawn": Kind.LENGTH,
        "vanishing_left": Kind.LENGTH,
        "vanishing_right": Kind.LENGTH,
        "volume": Kind.VOLUME,
    },
    reckoned_only=frozenset({"volume"}),
    source="Axonometry along measured axes (ISO 5456-3); perspective by measuring points (ISO 5456-4); Gauss's theorem.",
    glance=glance,
    slips=(depth_in_full, along_the_line, changed_over),
    kin=(Kin("projection", "three views", "solids/crates", ("parts",)),),
)
