"""A cut solid in its views: the cut points by projection, the section, its true shape, and the side view of what is left."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.solids.body import APEX, END_MIDDLE, MIDDLE, own_place
from wisecompass.catalogue.solids.cuts import RIMS, Cut, Plan, plan
from wisecompass.catalogue.solids.positions import Position, Sheet, know, stand
from wisecompass.drafting.auxiliary import auxiliary
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Projection
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import span
from wisecompass.drafting.view import View
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


@dataclass
class Drawn:
    """The sheet of a cut solid so far."""

    sheet: Sheet[Cut]
    one: Position
    plan: Plan
    trace: Line
    """The plane, seen on edge in the front view."""
    edges: dict[str, Line] = field(default_factory=dict)
    """Lines of edges and generators in the front view, by the letter at the base."""
    ways: dict[str, Line] = field(default_factory=dict)
    """The same in the top view."""
    minor: tuple[Point, Point] | None = None
    """The ends of the minor axis of a whole ellipse, in the top view."""

    def upper(self, letter: str) -> str:
        """The letter at the other end of an edge or generator."""
        g = self.sheet.g
        return APEX if g.is_pointed else g.end_letters[g.base_letters.index(letter)]


def draw_cut(b: Board, g: Cut, *, minor: bool = True) -> Drawn:
    """The standing solid, the plane on edge, and every cut point in both views; of a whole ellipse its ``minor`` axis."""
    p = plan(g)
    s, one = stand(b, g)
    up = one.up.images
    at = b.lay_off(s.views.projectors[MIDDLE], up[MIDDLE], g.plane_height, "cut of the axis", why="so high over the base")
    level = b.level_line(at, "level of the cut")
    trace = level
    if g.decide(lambda h: h.plane_angle):
        trace = b.protract(level, at, g.plane_angle, "plane", why="seen on edge")
        b.caution("The plane is a line only where it is square to the view; cut points are found there first.")
    d = Drawn(s, one, p, trace)
    _in_front(d)
    know(s, one, *(name for name in one.low.images if name not in p.cut))
    _from_above(d)
    know(s, one)
    if minor and g.is_round and not (p.base_cut or p.end_cut):
        _minor(d)
    return d


def lateral_cuts(d: Drawn) -> dict[str, str]:
    """The cut points on side edges and generators, by the letter of these at the base."""
    base = d.sheet.g.base_letters
    return {
        edge[0]: name
        for name, edge in d.plan.cut.items()
        if len(edge) == 2 and edge[0] in base and edge[1] not in base and edge[1] not in RIMS["base"]
    }


def level_cuts(d: Drawn) -> list[tuple[str, list[str]]]:
    """The cut points on edges or rims of the base, and on those of the other end: the middle's letter, and their names."""
    g, found = d.sheet.g, []
    for middle, row, rim in ((MIDDLE, g.base_letters, "base"), (END_MIDDLE, g.end_letters, "end")):
        cuts = {name: edge for name, edge in d.plan.cut.items() if len(edge) == 2}
        names = [name for name, edge in cuts.items() if (edge[0] == rim if g.is_round else set(edge) <= set(row))]
        if names:
            found.append((middle, names))
    return found


def edge_line(d: Drawn, letter: str) -> Line:
    """The line of an edge or generator in the front view; those that it shows in one place share it."""
    if letter not in d.edges:
        b, up = d.sheet.b, d.one.up.images
        group = next(letters for letters in d.sheet.rows[0][2] if letter in letters)
        line = b.line(up[group[0]], up[d.upper(group[0])])
        d.edges.update(dict.fromkeys(group, line))
    return d.edges[letter]


def _in_front(d: Drawn) -> None:
    """Cut points in the front view: where the plane meets edges, generators, ground line and the level of the top."""
    b = d.sheet.b
    lateral = lateral_cuts(d)
    groups = [[letter for letter in group if letter in lateral] for group in d.sheet.rows[0][2]]
    groups = [group for group in groups if group]
    for group in groups:
        edge_line(d, group[0])
    for group in groups:
        b.pencil()
        _meet_level(d, [lateral[letter] for letter in group], edge_line(d, group[0]))
    for middle, names in level_cuts(d):
        b.pencil()
        _meet_level(d, names, d.sheet.views.ground if middle == MIDDLE else d.one.levels[END_MIDDLE])


def _meet_level(d: Drawn, names: Sequence[str], line: Line) -> None:
    b, view = d.sheet.b, d.one.up
    view.images[names[0]] = b.meet(d.trace, line, name=view.label(names[0]))
    for name in names[1:]:
        view.images[name] = b.mark_point(view.images[names[0]].named(view.label(name)))


def _from_above(d: Drawn) -> None:
    """Cut points in the top view, under those of the front view."""
    b, g, low, view = d.sheet.b, d.sheet.g, d.one.low.images, d.one.low
    lateral = lateral_cuts(d)
    if g.is_straight:
        for letter, name in lateral.items():
            low[name] = b.mark_point(low[letter].named(view.label(name)))
    else:
        across = [letter for letter in lateral if is_across(g, letter)]
        for letter in lateral:
            way_line(d, letter)
        for letter, name in lateral.items():
            if letter not in across:
                d.sheet.views.project(name, d.one.up, view, way_line(d, letter))
        for letter in across:
            _carried_round(d, letter, lateral[letter])
    for middle, names in level_cuts(d):
        if g.is_round:
            image = d.one.up.images[names[0]]
            upright = b.upright_line(image, f"projector of {image.name}", pen=Pen.PROJECTOR)
            far, near = sorted(names, key=lambda name: d.plan.cut[name][-1], reverse=True)
            labels = view.label(far), view.label(near)
            low[far], low[near] = b.both(d.one.circles[middle], upright, labels, plane.beyond(upright))
        else:
            for name in names:
                edge = d.plan.cut[name]
                line = b.line(low[edge[0]], low[edge[1]])
                d.sheet.views.project(name, d.one.up, view, line)


def is_across(g: Cut, letter: str) -> bool:
    """Whether an edge lies in the plane through the axis square to VP: its top view stands upright like the projectors."""
    x = roughly(own_place(g, letter).x)
    return abs(x) < 1e-6 * roughly(g.base) and g.decide(lambda h: own_place(h, letter).x) == 0


def way_line(d: Drawn, letter: str) -> Line:
    """The line of an edge or generator in the top view, from the axis outwards."""
    if letter not in d.ways:
        b, low = d.sheet.b, d.one.low.images
        other = low[MIDDLE] if d.sheet.g.is_pointed else low[d.upper(letter)]
        line = b.line(low[letter], other) if d.sheet.g.widens else b.line(other, low[letter])
        d.ways[letter] = line
    return d.ways[letter]


def _carried_round(d: Drawn, letter: str, name: str) -> None:
    """A cut point on an edge that stands upright in both views: carried round at its level to where it can be projected. A
    level section is parallel to the base, a circle for a round solid."""
    b, g, up, low = d.sheet.b, d.sheet.g, d.one.up.images, d.one.low.images
    k = g.base_letters.index(letter)
    beside = g.base_letters[k - 1], g.base_letters[(k + 1) % g.corners]
    other = g.base_letters[0] if g.is_round else next(c for c in beside if not is_across(g, c))
    edge = edge_line(d, other)
    level = b.level_line(up[name], f"level of {up[name].name}")
    aside = b.meet(level, edge, name=f"{up[name].name} carried round")
    onto = d.sheet.axis if g.is_round else way_line(d, other)
    start = d.sheet.views.projected(aside, (d.one.up, d.one.low), onto, f"{d.one.low.label(name)} carried round")
    way = way_line(d, letter)
    if g.is_round:
        swung = b.arc(low[MIDDLE], span(low[MIDDLE], start), why="the level section is a circle")
        low[name] = b.meet(swung, way, plane.beyond(way), d.one.low.label(name))
    else:
        side = b.line(low[other], low[letter])
        along = b.parallel(side, start, f"parallel through {start.name}", why="the level section is parallel to the base")
        low[name] = b.meet(along, way, name=d.one.low.label(name))


def _minor(d: Drawn) -> None:
    """The minor axis of a whole ellipse, square to VP through the section's middle: as wide as the level section there."""
    b, g, up, low = d.sheet.b, d.sheet.g, d.one.up.images, d.one.low.images
    lateral = lateral_cuts(d)
    ends = [up[lateral.get(letter, letter)] for letter in (g.base_letters[0], g.base_letters[g.corners // 2])]
    middle = b.divide(ends[0], ends[1], 2, ["middle of the section"])[0]
    level = b.level_line(middle, "level of the middle")
    aside = b.meet(level, edge_line(d, g.base_letters[0]), name="level section")
    wide = d.sheet.views.projected(aside, (d.one.up, d.one.low), d.sheet.axis, "level section from above")
    ring = b.arc(low[MIDDLE], span(low[MIDDLE], wide), name="circle of the level section", why="its radius")
    upright = b.upright_line(middle, "projector of the middle", pen=Pen.PROJECTOR)
    d.minor = b.both(ring, upright, ("far end of the minor axis", "near end of the minor axis"), plane.beyond(upright))


def true_shape(d: Drawn) -> View:
    """The section seen square to its plane."""
    views = d.sheet.views
    why = "along the plane seen on edge: the view beyond it shows the true shape"
    if not d.sheet.g.is_upright:
        return auxiliary(views, views.front_view, d.trace, list(d.plan.cut), why=why)
    third = d.sheet.b.conventions.projection is Projection.THIRD  # away from the front view
    return auxiliary(views, views.top_view, d.trace, list(d.plan.cut), left=third, why=why)
