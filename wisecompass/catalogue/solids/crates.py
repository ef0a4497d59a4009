"""Views of a body made of parts: boxes, wedges, cylinders, cones and prisms, added and taken away.

Truth: the corners from the three surfaces that meet in each, volume and surface by line integrals along the edges (Gauss).
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import pairwise
from typing import TYPE_CHECKING, Any

from wisecompass.arithmetic import PLAIN, Number, roughly
from wisecompass.catalogue.solids.crate_glance import BodyGlance
from wisecompass.catalogue.solids.crate_plan import SIX, THREE, in_floats, plan_of
from wisecompass.catalogue.solids.crate_views import DEPTH_FOR_LENGTH, HEIGHT_FOR_DEPTH, Crate
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.errors import Infeasible
from wisecompass.drafting.givens import Givens, at_least, choice, parts
from wisecompass.drafting.problem import Condition, Exactness, Kin, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.geometry.parts import SIZES, Part, bounds, surfaces
from wisecompass.geometry.space import Point3

if TYPE_CHECKING:
    from wisecompass.geometry.measure import Measured

PEDESTAL = (
    "box 72 36 12 at 0 0 0; box 36 36 26 at 18 0 12; less cylinder 22 36 at 36 0 26 along back; "
    "wedge 18 36 14 at 0 0 12 rising right"
)


FOUND = 1e-6
"""The share of a body's size within which a place is the end of a part or a corner."""


@dataclass(frozen=True)
class Crates(Givens):
    parts: Any = parts("parts", PEDESTAL)
    views: str = choice("views", "front-top-side", "six")
    crate: str = choice("enclosing crate", "left out", "drawn")


def truth(g: Crates, number: Make) -> Truth:
    from wisecompass.geometry.measure import Measured
    from wisecompass.geometry.pieces import pieces

    plan = plan_of(in_floats(g.parts))
    measured = Measured(plan.body, g.parts)
    low = [near_of(g.parts, axis, plan.low[axis], measured.corners) for axis in range(3)]
    wall = max((_rear(part) for part in g.parts if not part.taken), key=roughly)
    points = {}
    for name, k in plan.named.items():
        x, y, z = (c - base for c, base in zip(measured.corners[k], low, strict=True))
        points[name] = Point3(x, wall - low[1] - y, z)
    sizes = {}
    for name, axis in (("length", 0), ("depth", 1), ("height", 2)):
        first, last = (end_of(g.parts, axis, end, measured) for end in plan.reach[axis])
        sizes[name] = last - first
    findings: dict[str, Value] = {
        "volume": measured.volume(),
        "surface_area": measured.area(),
        **sizes,
        "parts": len(g.parts),
        "pieces": pieces(plan.body),
    }
    return Truth(points=points, findings=findings)


def near_of(several: Any, axis: int, at: float, corners: Any) -> Number:
    """The number of the givens that a place on an axis is: the end of a part, or a corner's."""
    ends = [end[axis] for part in several for end in (part.at, *bounds(part))]
    found: Number = min([*ends, *(corner[axis] for corner in corners)], key=lambda c: abs(roughly(c) - at))
    return found


def end_of(several: Any, axis: int, at: float, measured: Measured) -> Number:
    """The same of an end of the body; where a plotted curve turns back the place itself, which no number gives."""
    known = near_of(several, axis, at, measured.corners)
    return known if abs(roughly(known) - at) <= FOUND * measured.body.model.size else measured.told(at)


def _rear(part: Part) -> Any:
    """How far back a part reaches; of a prism that does not run backwards its middle."""
    if part.kind in ("box", "wedge"):
        return part.at[1] + part.sizes[1]
    if part.axis == 1:
        return part.at[1] + part.length
    return part.at[1] + (part.sizes[0] / 2 if part.is_round else 0)


def _thinnest(g: Crates) -> Number:
    """By how much the least size of a part passes what can be told apart on a body of this size, mm."""
    size = plan_of(in_floats(g.parts)).body.model.size
    least: Number = min(roughly(s) for part in g.parts for s in part.sizes) - size * THINNEST
    return least


THINNEST = 1e-5
"""The share of a body's size that a part must have: thinner ones cannot be told from nothing, on paper least of all."""


def _gaps(g: Crates) -> int:
    """Minus the number of pairs of surfaces that miss each other by less than can be told on a body of this size."""
    from wisecompass.geometry.surfaces import Flat

    model = plan_of(in_floats(g.parts)).body.model
    places: dict[int, list[tuple[int, int]]] = {}
    for place, k in model.same:
        places.setdefault(k, []).append(place)
    found = 0
    for several in places.values():  # taken for one: are they?
        for other in several[1:]:
            found += not _are_one(g, several[0], other)
    offsets: dict[tuple[float, ...], list[float]] = {}
    for surface in model.surfaces:
        if not isinstance(surface, Flat):
            continue
        normal, offset = [roughly(c) for c in surface.normal], roughly(surface.offset)
        size = math.hypot(*normal)
        offsets.setdefault(tuple(round(c / size, 7) + 0.0 for c in normal), []).append(offset / size)
    for several_at in offsets.values():
        found += sum(b - a < model.size * THINNEST for a, b in pairwise(sorted(several_at)))
    return -found


def _are_one(g: Crates, one: tuple[int, int], other: tuple[int, int]) -> bool:
    """Whether two surfaces, each told by its part and its place there, are the same."""

    def differences(h: Any) -> list[Number]:
        first, second = (surfaces(h.parts[part])[place].coefficients() for part, place in (one, other))
        across = [(i, j) for i in range(7) for j in range(i)]
        return [first[i] * second[j] - first[j] * second[i] for i, j in across]

    return not any(g.decide_all(differences, rational=not _is_prism(g, one) and not _is_prism(g, other)))


def _is_prism(g: Crates, place: tuple[int, int]) -> bool:
    return bool(g.parts[place[0]].kind == "prism")


def _apart(g: Any) -> dict[str, str]:
    """Places rounded to what can be told apart."""
    size = plan_of(in_floats(g.bound_in(PLAIN).parts)).body.model.size
    digits = max(0, -math.floor(math.log10(size * THINNEST)) - 1)

    def rounded(value: Any) -> Fraction:
        return round(Fraction(value), digits)

    changed = (
        replace(p, sizes=tuple(max(rounded(s), Fraction(1, 10**digits)) for s in p.sizes), at=tuple(map(rounded, p.at)))
        for p in g.parts
    )
    return {"parts": text_of(changed)}


def _thickened(g: Any) -> dict[str, str]:
    sizes = [s for part in g.parts for s in part.sizes]
    least = Fraction(max(sizes)) / 1000
    return {"parts": text_of(replace(p, sizes=tuple(max(Fraction(s), least) for s in p.sizes)) for p in g.parts)}


def _left_over(g: Crates) -> int:
    return len(plan_of(in_floats(g.parts)).body.edges)


def _only_added(g: Any) -> dict[str, str]:
    return {"parts": text_of([part for part in g.parts if not part.taken])}


def text_of(several: Any) -> str:
    """Parts as they would be typed."""
    return "; ".join(_line(part) for part in several)


def _line(part: Part) -> str:
    sizes = [*([str(part.sides)] if part.kind == "prism" else []), *(_typed(size) for size in part.sizes)]
    assert len(sizes) == len(SIZES[part.kind])
    way = f" {'rising' if part.kind == 'wedge' else 'along'} {part.way}" if part.way else ""
    at = " ".join(_typed(c) for c in part.at)
    return f"{'less ' if part.taken else ''}{part.kind} {' '.join(sizes)} at {at}{way}"


def _typed(value: Any) -> str:
    return at_least(Fraction(value))


@method("each view by projectors", Exactness.EXACT)
def by_projectors(b: Board, g: Crates) -> None:
    crate = Crate(b, g)
    crate.lay_out()
    crate.draw_parts()
    try:
        if g.crate == "drawn":
            crate.enclose()
        crate.line_in()
        crate.measure()
        crate.dimension()

    except (LookupError, StopIteration):
        sentence = "these parts meet in a place that no straight line, circle or projector of their views leads to"
        raise Infeasible("places that can be drawn", sentence, ("parts",), {}) from None


def glance(g: Crates, conventions: Conventions) -> BodyGlance:
    return BodyGlance(g, lambda h: SIX if h.views == "six" else THREE, True, conventions)


@slip("a part added that is to be taken away")
def less_forgotten(g: Crates, number: Make) -> dict[str, Number]:
    from wisecompass.geometry.measure import Measured

    if not any(part.taken for part in g.parts):
        raise ValueError("nothing is taken away")
    parts = tuple(replace(part, taken=False) for part in in_floats(g.parts))
    return {"volume": Measured(plan_of(parts).body, parts).volume()}


@slip(DEPTH_FOR_LENGTH)
def depth_for_length(g: Crates, number: Make) -> dict[str, Number]:
    (left, right), (near, far), _ = plan_of(in_floats(g.parts)).reach
    return {"length": number(1) * (far - near), "depth": number(1) * (right - left)}


BODY_CONDITIONS = (
    Condition(
        "parts thick enough",
        _thinnest,
        "a part is thinner than 1/100000 of the whole body: on no sheet could it be told from a line",
        ("parts",),
        _thickened,
    ),
    Condition(
        "gaps wide enough",
        _gaps,
        "two parts miss each other by less than 1/100000 of the whole body: on no sheet is that told from touching",
        ("parts",),
        _apart,
    ),
    Condition(
        "something left",
        _left_over,
        "nothing is left of the body: what is taken away takes all of it",
        ("parts",),
        _only_added,
        strict=True,
    ),
)
"""What must hold of every body, in views or in a picture."""


@slip(HEIGHT_FOR_DEPTH)
def height_for_depth(g: Crates, number: Make) -> dict[str, Number]:
    _, (near, far), (low, high) = plan_of(in_floats(g.parts)).reach
    return {"height": number(1) * (far - near), "depth": number(1) * (high - low)}


PROBLEM = Problem(
    id="solids/crates",
    title="Views of a body made of parts",
    brief="Draw the {views} views, the enclosing crate {crate}, of a body that is made of these parts: {parts}.",
    givens=Crates,
    truth=truth,
    methods=(by_projectors,),
    conditions=BODY_CONDITIONS,
    findings={
        "volume": Kind.VOLUME,
        "surface_area": Kind.AREA,
        "length": Kind.LENGTH,
        "depth": Kind.LENGTH,
        "height": Kind.LENGTH,
        "parts": Kind.COUNT,
        "pieces": Kind.COUNT,
    },
    reckoned_only=frozenset({"volume", "surface_area", "pieces"}),
    slips=(less_forgotten, depth_for_length, height_for_depth),
    glance=glance,
    kin=(Kin("views", "picture", "pictorial/crates", ("parts",)),),
    source="Orthographic views by projectors; ISO 128 for what is hidden; Gauss's theorem for the volume.",
)
