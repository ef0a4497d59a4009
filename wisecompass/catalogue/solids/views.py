"""Views of a single solid as it lies, on its base, an edge, a corner, a face or a generator, its axis inclined.

By change of position: standing, where base and height are true; tilted, the front view laid anew; turned, the top view laid
anew.  Truth: the corners in the solid's own frame, rotated about the line it rests on and about an upright.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from functools import reduce
from itertools import pairwise

from wisecompass.arithmetic import (
    Number,
    absolute,
    atan2_deg,
    cos_deg,
    hypot,
    larger,
    pi_times,
    root,
    roughly,
    sin_deg,
    smaller,
)
from wisecompass.catalogue.solids.body import (
    APEX,
    END_MIDDLE,
    MIDDLE,
    ends,
    lateral_area,
    radii,
    slant_height,
    volume,
)
from wisecompass.catalogue.solids.edges import Faced, Pair, Sight, edges_of, edges_seen, show_in_space, shown
from wisecompass.catalogue.solids.folds import fold, read
from wisecompass.catalogue.solids.lying import CONDITIONS, Lying, in_position, lay, swing, tilt
from wisecompass.catalogue.solids.positions import Position, Sheet, know, stand, tilt_over, turn_round
from wisecompass.catalogue.solids.rounds import Outline, contours, line_in_rims, look
from wisecompass.catalogue.solids.side import side_view
from wisecompass.drafting.board import Board
from wisecompass.drafting.motion import Turn
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.drafting.view import View
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3, distance3, norm

WORK = "A heavy solid that lies on an edge or a corner is held by something: shore it before anybody works at it."


def _disc(radius: Number) -> Number:
    return pi_times(radius * radius)


def truth(g: Lying, number: Make) -> Truth:
    points = in_position(g, 3)
    (_, lying), (cos_turn, sin_turn) = tilt(g), swing(g)
    axis = points[APEX if g.is_pointed else END_MIDDLE] - points[MIDDLE]
    base, end = ends(g, _disc)
    outer, inner = radii(g)
    findings: dict[str, Value] = {
        "volume": volume(g, _disc),
        "surface_area": base + end + lateral_area(g, _disc),
        "lateral_edge": None if g.is_round else hypot(outer - inner, g.height),
        "slant_height": slant_height(g),
        "axis_plan_length": g.height * lying,
        "axis_elevation_length": hypot(axis.x, axis.above),
        "axis_plan_angle": None if g.stands else atan2_deg(sin_turn, cos_turn),
        "axis_inclination_vp": atan2_deg(axis.front, hypot(axis.x, axis.above)),
        **_sizes(g, points),
    }
    return Truth(points=points, findings=findings)


def _sizes(g: Lying, points: dict[str, Point3]) -> dict[str, Number]:
    """Height of the highest point, and how wide and deep the solid is. A circle reaches as far as its radius times the sine
    of the angle between its axis and that direction."""
    spans: list[tuple[Number, Number]] = []
    (cos_tilt, sin_tilt), (c, s) = tilt(g), swing(g)
    outer, inner = radii(g)
    for part, leaning in (("above", cos_tilt), ("x", sin_tilt * c), ("front", sin_tilt * s)):
        if g.is_round:
            share = root(1 - leaning * leaning)
            rims = [(MIDDLE, outer)] + ([] if g.is_pointed else [(END_MIDDLE, inner)])
            values = [getattr(points[m], part) + way * radius * share for m, radius in rims for way in (1, -1)]
            values += [getattr(points[APEX], part)] if g.is_pointed else []
        else:
            values = [getattr(p, part) for name, p in points.items() if name not in (MIDDLE, END_MIDDLE)]
        spans.append(span_of(values))
    (_, highest), (left, right), (back, front) = spans
    return {"highest": highest, "width": right - left, "depth": front - back}


def span_of(values: Sequence[Number]) -> tuple[Number, Number]:
    low = high = values[0]
    for value in values[1:]:
        low, high = smaller(low, value), larger(high, value)
    return low, high


@method("change of position", Exactness.EXACT)
def change_of_position(b: Board, g: Lying) -> None:
    sheet, first = stand(b, g, "" if g.stands else "1")
    seen = edges_seen(g)
    done = [0, len(b.steps)]
    last, hidden = first, list[Pair]()
    if g.stands:
        know(sheet, first)
    if not g.stands:
        second = tilt_over(sheet, first)
        hidden = _line_in_earlier(sheet, seen, first, second)
        done.append(len(b.steps))
        last = turn_round(sheet, second)
    done.append(len(b.steps))
    _finish(sheet, seen, first, last, hidden)
    if b.drawing and not g.stands:
        _show_the_motion(b, g, done)


def _show_the_motion(b: Board, g: Lying, done: Sequence[int]) -> None:
    """The solid stands, is tilted, and is turned, in the steps that draw it so."""
    how, middle = lay(g), b.solid_point(MIDDLE)
    tilted, swung = (math.degrees(math.atan2(roughly(s), roughly(c))) for c, s in (how.tilt, how.swing))
    x, front = roughly(middle.x), roughly(middle.front)
    foot = x + roughly(how.foot) * roughly(how.tilt[0]), front, 0.0
    upright, level = ((x, front, 0.0), (0.0, 0.0, 1.0)), (foot, (0.0, 1.0, 0.0))
    back, down = Turn(*upright, -swung, -swung), Turn(*level, -tilted, -tilted)
    b.moves(done[0], done[1], "the solid stands", back, down)
    b.moves(done[1], done[2], "the solid is tilted", back, Turn(*level, -tilted, 0.0))
    b.moves(done[2], done[3], "the solid is turned", Turn(*upright, -swung, 0.0))


def _line_in_earlier(s: Sheet[Lying], seen: Faced, *earlier: Position) -> list[Pair]:
    """Line in the solid as it stands, and as it is tilted, lighter than the result; gives what is hidden of it."""
    b, g = s.b, s.g
    views = list(enumerate(earlier, 1))
    why = "the solid as it stands and as it is tilted" if earlier[1:] else "the solid as it stands"
    if not g.is_round:
        sights = [(to, Sight.FRONT, position.up) for to, position in views]
        sights += [(to, Sight.TOP, position.low) for to, position in views]
        edges = shown([(view, seen[to][sight]) for to, sight, view in sights])
        b.line_in(*edges.seen, pen=Pen.GIVEN, why=why)
        return edges.hidden
    right, left = g.base_letters[0], g.base_letters[len(g.base_letters) // 2]
    pairs = []
    for _, position in views:
        up, tops = position.up.images, [position.up.images[s.top]] * 2
        if not g.is_pointed:
            tops = [up[g.end_letters[0]], up[g.end_letters[len(g.end_letters) // 2]]]
            pairs.append((tops[0], tops[1]))
        pairs += [(up[right], up[left]), (up[right], tops[0]), (up[left], tops[1])]
    b.line_in(*pairs, pen=Pen.GIVEN, why=why)
    for to, position in views[1:]:
        line_in_rims(s, position.low, look(g, to, Sight.TOP), Outline(), given=True)
    return []


@method(
    "auxiliary planes",
    Exactness.EXACT,
    Condition(
        "the axis inclined",
        lambda g: -1 if g.stands else 0,
        "a solid on its {rests_on} shows everything in its first views: no other planes are wanted",
        ("rests_on",),
        lambda g: {"rests_on": "edge"},
    ),
)
def auxiliary_planes(b: Board, g: Lying) -> None:
    sheet, first = stand(b, g)
    seen = edges_seen(g)
    _line_in_earlier(sheet, seen, first)
    new = fold(sheet, first)
    points = read(sheet, first, new)
    for name, at in points.items():
        b.space_point(name, at.x, at.front, at.above)
    _line_in(sheet, seen, first, ((Sight.TOP, new.low), (Sight.FRONT, new.up), (Sight.LEFT, new.side)), [])
    sheet.views.letter_fold()
    _measure(sheet, first, points)


def _finish(s: Sheet[Lying], seen: Faced, first: Position, last: Position, hidden: Sequence[Pair]) -> None:
    """Add the side view, line in the final views, all that is hidden in one go, and measure."""
    views = s.views
    points = {name: s.b.solid_point(name) for name in last.low.images}
    names = [name for name in last.up.images if s.g.is_round or name not in (MIDDLE, END_MIDDLE)]
    side = side_view(s, last, names)
    _line_in(s, seen, first, ((Sight.FRONT, last.up), (Sight.TOP, last.low), (Sight.LEFT, side)), hidden)
    views.reach(*first.up.images.values(), *last.up.images.values())
    _measure(s, first, points)


def _line_in(
    s: Sheet[Lying], seen: Faced, first: Position, views: Sequence[tuple[Sight, View]], hidden: Sequence[Pair]
) -> None:
    """Line in the final views: what is seen view by view, then everything that is hidden."""
    b, g, to, behind = s.b, s.g, 1 if s.g.stands else 3, list(hidden)
    for sight, view in views:
        if g.is_round:
            how = look(g, to, sight)
            outline = contours(s, view, first, how, sight)
            if outline.lines:
                b.line_in(*outline.lines, why=f"the {sight.title}")
            line_in_rims(s, view, how, outline)
        else:
            edges = shown([(view, seen[to][sight])])
            b.line_in(*edges.seen, why=f"the {sight.title}")
            behind += edges.hidden
    if behind:
        b.line_in(*behind, pen=Pen.HIDDEN, why="the edges behind, dashed and thin")
        b.caution("Hidden edges are thin: drawn heavy they would be taken for edges before.")
    show_in_space(b, edges_of(g))


def _measure(s: Sheet[Lying], first: Position, points: Mapping[str, Point3]) -> None:
    """Everything that is asked for, read off the views: sizes in the standing ones, the rest in the final ones."""
    b, g = s.b, s.g
    low, up, top = first.low.images, first.up.images, s.top
    height = plane.distance(up[MIDDLE], up[top])
    outer = plane.distance(low[MIDDLE], low["A"])
    inner = outer if g.is_straight else outer * 0 if g.is_pointed else plane.distance(low[MIDDLE], low[g.end_letters[0]])
    near = outer if g.is_round else plane.distance(low[MIDDLE], plane.midpoint(low["A"], low["B"]))
    slant = hypot(near - near * inner / outer, height)
    base, girth = (_disc(outer), pi_times(outer) * 2) if g.is_round else _polygon([low[c] for c in g.base_letters])
    share = inner / outer
    b.find("volume", height * base * (1 + share + share * share) / 3)
    b.find("surface_area", base * (1 + share * share) + girth * (1 + share) * slant / 2)
    b.find("lateral_edge", None if g.is_round else hypot(outer - inner, height))
    b.find("slant_height", slant)
    axis = points[top] - points[MIDDLE]
    b.find("axis_plan_length", hypot(axis.x, axis.front))
    b.find("axis_elevation_length", hypot(axis.x, axis.above))
    b.find("axis_plan_angle", None if g.stands else atan2_deg(axis.front, axis.x))
    b.find("axis_inclination_vp", atan2_deg(axis.front, hypot(axis.x, axis.above)))
    b.misread(base_at_the_angle.name, lambda: {"axis_plan_length": absolute(axis.above)})
    b.misread(true_for_apparent.name, lambda: {"axis_elevation_length": _as_apparent(g, axis)})
    _measure_sizes(s, points, (outer, inner), height)
    b.check("the axis in the final views is as long as it was", norm(axis) - height)
    far = g.base_letters[g.corners // 2]
    apart = distance3(points["A"], points[far]) - plane.distance(low["A"], low[far])
    b.check("two corners of the base are as far apart in the final views as in the true shape", apart)
    if not g.is_round:
        b.check("the last side of the base comes out like the others", plane.distance(low["A"], low["B"]) - g.base)


def _polygon(corners: list[Point]) -> tuple[Number, Number]:
    """Area and girth."""
    girth = plane.distance(corners[-1], corners[0])
    for p, q in pairwise(corners):
        girth = girth + plane.distance(p, q)
    return absolute(plane.polygon_area(corners)), girth


def _measure_sizes(s: Sheet[Lying], points: Mapping[str, Point3], radii: tuple[Number, Number], height: Number) -> None:
    """How high, wide and deep it is in the final views; a rim reaches as far about its middle as the axis lets it."""
    b, g = s.b, s.g
    axis = points[s.top] - points[MIDDLE]
    spans = []
    for part in ("x", "front", "above"):
        if g.is_round:
            lean = getattr(axis, part) / height
            share = root(1 - lean * lean)
            rims = [(MIDDLE, radii[0])] + ([] if g.is_pointed else [(END_MIDDLE, radii[1])])
            values = [getattr(points[middle], part) + sign * radius * share for middle, radius in rims for sign in (1, -1)]
            values += [getattr(points[APEX], part)] if g.is_pointed else []
        else:
            values = [getattr(p, part) for name, p in points.items() if name not in (MIDDLE, END_MIDDLE)]
        spans.append((reduce(smaller, values), reduce(larger, values)))
    b.find("width", spans[0][1] - spans[0][0])
    b.find("depth", spans[1][1] - spans[1][0])
    b.find("highest", spans[2][1])


def _as_apparent(g: Lying, axis: Point3) -> Number:
    """The elevation of the axis where the inclination to VP that is given is taken for the other one."""
    lying = hypot(axis.x, axis.front)
    if g.counted == "true":
        return hypot(lying * cos_deg(g.axis_to_vp), axis.above)
    forward = hypot(lying, axis.above) * sin_deg(g.axis_to_vp)
    return hypot(root(lying * lying - forward * forward), axis.above)


@slip("true inclination to VP laid in the top view as if it were the apparent one")
def true_for_apparent(g: Lying, number: Make) -> dict[str, Number]:
    lying, up = g.height * tilt(g)[1], g.height * tilt(g)[0]
    if g.counted == "true":
        return {"axis_elevation_length": hypot(lying * cos_deg(g.axis_to_vp), up)}
    forward = g.height * sin_deg(g.axis_to_vp)
    return {"axis_elevation_length": hypot(root(lying * lying - forward * forward), up)}


@slip("inclination of the axis laid at the base")
def base_at_the_angle(g: Lying, number: Make) -> dict[str, Number]:
    return {"axis_plan_length": absolute(g.height * tilt(g)[0])}


def worded(words: Mapping[str, str]) -> str:
    """The sentence of a kind: it has only those numbers that count for it."""
    kind, rests = words["kind"], words["rests_on"]
    round_one = kind in ("cylinder", "cone", "cone-frustum")
    across = "{base} across" if round_one else "of {sides} sides of {base}"
    end = (
        "" if "frustum" not in kind else ", {top} across at its other end" if round_one else ", its other end of side {top}"
    )
    sentence = f"A {{kind}} {across}{end} and {{height}} high rests on its {{rests_on}}"
    if rests == "base":
        return sentence + (". Draw its views." if round_one else ", turned {turned} about its axis. Draw its views.")
    at_hp = ", its axis at {axis_to_hp} to HP" if rests in ("edge", "corner") else ""
    return f"{sentence}{at_hp}, its {{counted}} inclination to VP {{axis_to_vp}}. Draw its views."


PROBLEM = Problem(
    id="solids/views",
    title="Views of a solid",
    brief=(
        "A {kind} of {sides} sides, {base} a side or across ({top} at the other end of a frustum) and {height} high, rests "
        "on its {rests_on}, its axis at {axis_to_hp} to HP and at {axis_to_vp} ({counted}) to VP, its base turned {turned} "
        "about the axis. Draw its views."
    ),
    worded=worded,
    givens=Lying,
    truth=truth,
    methods=(change_of_position, auxiliary_planes),
    findings={
        "volume": Kind.VOLUME,
        "surface_area": Kind.AREA,
        "lateral_edge": Kind.LENGTH,
        "slant_height": Kind.LENGTH,
        "axis_plan_length": Kind.LENGTH,
        "axis_elevation_length": Kind.LENGTH,
        "axis_plan_angle": Kind.ANGLE,
        "axis_inclination_vp": Kind.ANGLE,
        "highest": Kind.LENGTH,
        "width": Kind.LENGTH,
        "depth": Kind.LENGTH,
    },
    source="Change of position (Monge, Géométrie descriptive); for the truth rotations of vectors and Heron's rule.",
    conditions=CONDITIONS,
    slips=(true_for_apparent, base_at_the_angle),
    cautions=(WORK,),
)
