"""A solid cut by an upright plane, in its views: the plane is seen on edge in the top view, so the cut points are found
there and projected up; those of a round solid on level sections, which are circles."""

from __future__ import annotations

from wisecompass.catalogue.solids.body import END_MIDDLE, MIDDLE
from wisecompass.catalogue.solids.cut_views import Drawn, edge_line, is_across, lateral_cuts, level_cuts, way_line
from wisecompass.catalogue.solids.cuts import Cut, Plan, plan
from wisecompass.catalogue.solids.positions import know, stand
from wisecompass.catalogue.solids.upright_cut import LEFT, LEVELS, RIGHT, VERTEX, Upright, upright_plan
from wisecompass.drafting.board import Board
from wisecompass.drafting.setting import negative, positive, span
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


def draw_upright(b: Board, g: Cut) -> Drawn:
    """The standing solid, the plane on edge in the top view, and every cut point in both views."""
    p: Plan = upright_plan(g) if g.is_round else plan(g)
    s, one = stand(b, g)
    middle = one.low.images[MIDDLE]
    trace = s.axis
    if g.decide(lambda h: h.plane_angle):
        trace = b.protract(s.axis, middle, g.plane_angle, "direction of the plane", why="as it stands to VP")
    if g.decide(lambda h: h.plane_front):
        square = b.square(trace, middle, "square to the plane")
        away, behind = g.plane_front, negative(g.plane_front)
        why = f"so far {'behind' if behind else 'in front of'} the axis"
        vertex = isinstance(p, Upright) and VERTEX in p.cut
        label = one.low.label(VERTEX) if vertex else "foot"
        foot = b.lay_off(square, middle, positive(away), label, back=not behind, why=why)
        if vertex:
            one.low.images[VERTEX] = foot
        trace = b.parallel(trace, foot, "plane", why="seen on edge")
    b.caution("The plane is a line only where it is square to the view; cut points are found there first.")
    d = Drawn(s, one, p, trace)
    know(s, one, *(name for name in one.low.images if name not in p.cut))
    if isinstance(p, Upright):
        _Round(d, p).draw()
    else:
        _flat(d)
    know(s, one)
    return d


# ----------------------------------------------------------------------------------------------------------------- flat
def _flat(d: Drawn) -> None:
    b, g, views = d.sheet.b, d.sheet.g, d.sheet.views
    low, up = d.one.low, d.one.up
    levels = level_cuts(d)
    for middle, names in levels:
        for name in names:
            a, c = d.plan.cut[name]
            below = _under(d, name) if middle == END_MIDDLE and g.is_straight else None
            if below is not None:
                low.images[name] = b.mark_point(low.images[below].named(low.label(name)))
            else:
                b.pencil()
                low.images[name] = b.meet(d.trace, b.joined(low.images[a], low.images[c]), name=low.label(name))
    lateral = lateral_cuts(d)
    for letter in lateral:
        way_line(d, letter)
    for letter, name in lateral.items():
        b.pencil()
        low.images[name] = b.meet(d.trace, way_line(d, letter), name=low.label(name))
    for middle, names in levels:
        line = views.ground if middle == MIDDLE else d.one.levels[END_MIDDLE]
        for name in names:
            views.project(name, low, up, line)
    for letter in lateral:
        edge_line(d, letter)
    for letter, name in lateral.items():
        if not is_across(g, letter):
            views.project(name, low, up, edge_line(d, letter))
    for letter, name in lateral.items():
        if is_across(g, letter):
            k = g.base_letters.index(letter)
            beside = g.base_letters[k - 1], g.base_letters[(k + 1) % g.corners]
            other = next(c for c in beside if not is_across(g, c))
            side = b.line(low.images[letter], low.images[other])
            start = low.images[name]
            along = b.parallel(
                side, start, f"parallel through {start.name}", why="the level section is parallel to the base"
            )
            b.pencil()
            aside = b.meet(along, way_line(d, other), name=f"{start.name} carried round")
            raised = views.projected(aside, (low, up), edge_line(d, other), f"{up.label(name)} carried round")
            level = b.level_line(raised, f"level of {raised.name}")
            b.pencil()
            up.images[name] = b.meet(level, edge_line(d, letter), name=up.label(name))


def _under(d: Drawn, name: str) -> str | None:
    """Of a prism the cut point of the base's edge that stands under one of the other end's."""
    g = d.sheet.g
    down = {end: base for base, end in zip(g.base_letters, g.end_letters, strict=True)}
    pair = {down[letter] for letter in d.plan.cut[name]}
    return next((n for n, edge in d.plan.cut.items() if len(edge) == 2 and set(edge) == pair), None)


# ---------------------------------------------------------------------------------------------------------------- round
class _Round:
    """The points of the section of a round solid."""

    def __init__(self, d: Drawn, p: Upright) -> None:
        self.d, self.p = d, p
        self.b, self.views, self.low, self.up = d.sheet.b, d.sheet.views, d.one.low, d.one.up

    def draw(self) -> None:
        for row in self.p.rows:
            if row == "base":
                self._rim("base", MIDDLE, self.views.ground)
            else:
                self._rim("end", END_MIDDLE, self.d.one.levels[END_MIDDLE])
        if not self.p.straight:
            self._curve()

    def _rim(self, row: str, middle: str, level: Line) -> None:
        """Where the plane cuts a rim: found in the top view, projected on the rim's level line."""
        names = [self.p.name_on(row, side) for side in (RIGHT, LEFT)]
        new = [name for name in names if name not in self.low.images]
        self._cut_circle(self.d.one.circles[middle], names)
        for name in new:
            self.views.project(name, self.low, self.up, level)

    def _cut_circle(self, circle: plane.Circle, names: list[str]) -> None:
        b, low, trace = self.b, self.low, self.d.trace
        new = [name for name in names if name not in low.images]
        if len(new) == 2:
            b.pencil()
            labels = low.label(names[0]), low.label(names[1])
            low.images[names[0]], low.images[names[1]] = b.both(circle, trace, labels, plane.beyond(trace))
        elif new:
            which = (plane.beyond if new[0] == names[0] else plane.short_of)(trace)
            b.pencil()
            low.images[new[0]] = b.meet(circle, trace, which, low.label(new[0]))

    def _curve(self) -> None:
        """Its vertex first, then level sections, then where it passes the generators that bound the views."""
        b, up, low, views, p = self.b, self.up.images, self.low.images, self.views, self.p
        wide, end = up["A"], up[self.d.upper("A")]
        if p.rows[0] == "end":
            wide, end = end, wide
        if VERTEX in p.cut:
            which = "highest" if p.rows[0] == "base" else "lowest"
            end = self._raised(low[VERTEX], f"{which} level")
            level = b.level_line(end, f"level of the {which} point")
            views.project(VERTEX, self.low, self.up, level)
        marks = b.divide(wide, end, LEVELS, [f"level {k}" for k in range(1, LEVELS)], why="level sections between")
        for k, aside in enumerate(marks, 1):
            names = [name for name, on in p.cut.items() if on[0] == f"level {k}"]
            if names:
                self._level(aside, sorted(names, key=lambda name: p.cut[name][1], reverse=True))
        for letter, name in p.generators.items():
            if name != VERTEX:
                self._on_generator(letter, name)

    def _level(self, aside: Point, names: list[str]) -> None:
        """The points on one level section, a circle from above."""
        b, low, views = self.b, self.low, self.views
        level = b.level_line(aside, f"line of {aside.name}")
        start = views.projected(aside, (self.up, low), self.d.sheet.axis, f"{aside.name} from above")
        middle = low.images[MIDDLE]
        circle = b.arc(middle, span(middle, start), name=f"circle of {aside.name}", why="the level section is a circle")
        if len(names) == 2:
            self._cut_circle(circle, names)
        else:
            which = (plane.beyond if self.p.cut[names[0]][1] == RIGHT else plane.short_of)(self.d.trace)
            b.pencil()
            low.images[names[0]] = b.meet(circle, self.d.trace, which, low.label(names[0]))
        for name in names:
            views.project(name, low, self.up, level)

    def _raised(self, image: Point, label: str) -> Point:
        """A place of the top view swung round to the axis line and projected up on the generator that bounds the front
        view: there its level is seen."""
        b, low, axis = self.b, self.low, self.d.sheet.axis
        middle = low.images[MIDDLE]
        swung = b.arc(middle, span(middle, image), why="swung parallel to VP")
        b.pencil()
        aside = b.meet(swung, axis, plane.beyond(axis), f"{image.name} swung")
        return self.views.projected(aside, (low, self.up), edge_line(self.d, "A"), label)

    def _on_generator(self, letter: str, name: str) -> None:
        """Where the curve passes a generator: on its line in the top view."""
        b, g, low, up = self.b, self.d.sheet.g, self.low, self.up
        k = g.base_letters.index(letter)
        way = self.d.sheet.axis if k % 4 == 0 else way_line(self.d, letter)
        b.pencil()
        low.images[name] = b.meet(self.d.trace, way, name=low.label(name))
        if k % 4 == 0:
            self.views.project(name, low, up, edge_line(self.d, letter))
            return
        raised = self._raised(low.images[name], f"level of {low.images[name].name}")
        level, upright = b.level_line(raised, f"line of {raised.name}"), edge_line(self.d, letter)
        b.pencil()
        up.images[name] = b.meet(level, upright, name=up.label(name))
