"""What is measured on the views of a cut round solid: the curve through three of its plotted points, and what it cuts off.

Along the plane the half width y of the curve is y² = a + b u + c u²; three points give the numbers. What lies over the plane
is measured as cones from the solid's tip, or as columns in a cylinder, and taken from the whole.
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, acos_deg, elliptic_e, focal_arc, hypot, log, pi_times, root, roughly
from wisecompass.catalogue.solids.body import MIDDLE
from wisecompass.catalogue.solids.cut_conics import conic, name_of
from wisecompass.catalogue.solids.cut_views import Drawn
from wisecompass.catalogue.solids.cuts import RIMS
from wisecompass.drafting.view import View
from wisecompass.geometry import plane


@dataclass(frozen=True)
class Fitted:
    """y² = a + b u + c u² through three points of the true shape."""

    a: Number
    b: Number
    c: Number

    def half(self, u: Number) -> Number:
        return root(self.a + self.b * u + self.c * u * u)

    @property
    def middle(self) -> Number:
        return -self.b / (2 * self.c)

    @property
    def steep(self) -> Number:
        """The square of the half width in the middle; of a hyperbola less than zero."""
        return self.a - self.b * self.b / (4 * self.c)


def measure(d: Drawn, shape: View) -> None:
    """Everything that is asked for."""
    b, p, curve = d.sheet.b, d.plan, conic(d.sheet.g, d.plan)
    fitted = _fit(d, shape)
    rims = {on[1]: name for name, on in p.cut.items() if on[0] in RIMS}
    low = _along(d, rims["X1"]) if p.base_cut else None
    high = _along(d, rims["Z1"]) if p.end_cut else None
    if curve.mirrored:  # as seen from behind, it stands on its larger end
        fitted = Fitted(fitted.a, -fitted.b, fitted.c)
        low, high = (None if at is None else -at for at in (high, low))
    closed = curve.kind > 0
    long = root(-fitted.steep / fitted.c) if closed else None
    wide = root(fitted.steep) if closed else None
    area = _area(fitted, curve.kind, low, high)
    eccentricity = fitted.a * 0 if curve.level else root(1 + fitted.c)
    b.find("section_area", area)
    if long is None or wide is None or low is not None or high is not None:
        b.find("section_perimeter", _perimeter(fitted, curve.kind, eccentricity, low, high))
    else:
        b.find(
            "section_perimeter",
            pi_times(long) * 2 if curve.level else 4 * long * elliptic_e(1 - wide * wide / (long * long)),
        )
    b.find("section_kind", name_of(curve))
    b.find("major", None if long is None else long * 2)
    b.find("minor", None if wide is None else wide * 2)
    b.find("eccentricity", eccentricity)
    b.find("focus_distance", _latus(fitted, curve.kind) / (1 + eccentricity))
    if d.minor is not None and wide is not None:
        b.check("the minor axis is as long as the level section is wide", plane.distance(*d.minor) - wide * 2)
    _measure_rest(d, area, rims)


def _along(d: Drawn, name: str) -> Number:
    """How far along the plane a cut point is from the axis, in the front view."""
    at, trace = d.one.up.images[name], d.trace
    return ((at.x - trace.at.x) * trace.dx + (at.y - trace.at.y) * trace.dy) / hypot(trace.dx, trace.dy)


def _fit(d: Drawn, shape: View) -> Fitted:
    """Three of the points: the pairs that the front view shows in one place are a width apart in the true shape."""
    pairs: dict[float, tuple[Number, Number]] = {}
    names = list(d.plan.cut)
    for name in names:
        u = _along(d, name)
        twin = next((n for n in names if n != name and d.one.up.images[n].x is d.one.up.images[name].x), None)
        twin = twin or next((n for n in names if n != name and abs(roughly(_along(d, n)) - roughly(u)) < 1e-9), None)
        half = plane.distance(shape.images[name], shape.images[twin]) / 2 if twin else u * 0
        pairs.setdefault(round(roughly(u), 6), (u, half * half))
    order = [pairs[key] for key in sorted(pairs)]
    (u0, y0), (u1, y1), (u2, y2) = order[0], order[len(order) // 2], order[-1]
    first, second = (y1 - y0) / (u1 - u0), (y2 - y1) / (u2 - u1)
    c = (second - first) / (u2 - u0)
    b = first - c * (u0 + u1)
    return Fitted(y0 - b * u0 - c * u0 * u0, b, c)


def _latus(f: Fitted, kind: int) -> Number:
    """Half the latus rectum: half the slope of y² at the vertex."""
    if kind == 0:
        return absolute(f.b) / 2
    return root(f.b * f.b - 4 * f.a * f.c) / 2


def _perimeter(f: Fitted, kind: int, eccentricity: Number, low: Number | None, high: Number | None) -> Number:
    """From the distances of the ends from the focus: r = p / (1 + e cos φ) tells the directions."""
    latus = _latus(f, kind)
    if kind == 0:
        vertex = -f.a / f.b
    else:
        reach = root(-f.steep / f.c)
        vertex = f.middle + reach if kind > 0 else f.middle - reach
    focus = vertex - latus / (1 + eccentricity)

    def direction(end: Number) -> Number:
        return acos_deg((end - focus) / hypot(end - focus, f.half(end)))

    begin = vertex * 0 if high is None else direction(high)
    last = vertex * 0 + 180 if low is None else direction(low)
    chords = [2 * f.half(end) for end in (low, high) if end is not None]
    return sum(chords, 2 * latus * focal_arc(eccentricity, begin, last))


def _area(f: Fitted, kind: int, low: Number | None, high: Number | None) -> Number:
    """Between the curve and what cuts it off."""
    if kind > 0:
        long, wide = root(-f.steep / f.c), root(f.steep)
        whole = pi_times(long * long)
        for end, way in ((low, 1), (high, -1)):
            if end is not None:
                whole = whole - _beyond(long, (f.middle - end) * way)
        return whole * wide / long
    if kind == 0:
        vertex = -f.a / f.b
        parts = [(vertex - end) * f.half(end) * 4 / 3 for end in (low, high) if end is not None]
    else:
        reach = root(-f.steep / f.c)
        parts = []
        for end in (low, high):
            if end is not None:
                w = f.middle - end
                parts.append(w * f.half(end) - root(f.c) * reach * reach * log((w + f.half(end) / root(f.c)) / reach))
    return parts[0] - parts[1] if len(parts) > 1 else parts[0]


def _beyond(radius: Number, away: Number) -> Number:
    """Area of a circle beyond a chord so far from its middle; of more than half where that is below zero."""
    return radius * radius * pi_times(acos_deg(away / radius)) / 180 - away * root(radius * radius - away * away)


def _measure_rest(d: Drawn, area: Number, rims: dict[str, str]) -> None:
    """Volumes and surface: what is over the plane, taken from the whole."""
    b, g, p, low, up = d.sheet.b, d.sheet.g, d.plan, d.one.low.images, d.one.up.images
    outer = plane.distance(low[MIDDLE], low["A"])
    inner = outer if g.is_straight else outer * 0 if g.is_pointed else plane.distance(low[MIDDLE], low[g.end_letters[0]])
    height, axis = up[d.sheet.top].y - up[MIDDLE].y, d.trace.at.y - up[MIDDLE].y
    slope = hypot(d.trace.dx, d.trace.dy)
    c, rise = d.trace.dx / slope, d.trace.dy / d.trace.dx
    chord = {row: low[rims[names[0]]].x - low[MIDDLE].x for row, names in RIMS.items() if names[0] in rims}
    base, end = pi_times(outer * outer), pi_times(inner * inner)
    off = _beyond(outer, -chord["base"]) if p.base_cut else base * 0
    top = _beyond(inner, chord["end"]) if p.end_cut else base * 0
    if g.is_straight:
        lengths = {row: root(outer * outer - x * x) for row, x in chord.items()}
        near, far = lengths.get("base", outer * 0), lengths.get("end", outer * 0)
        strip = base - off - top
        above = (height - axis) * strip - rise * (near * near * near - far * far * far) * 2 / 3 + height * off
        left = pi_times(180 - acos_deg(chord["base"] / outer)) / 180 if p.base_cut else outer * 0
        right = pi_times(acos_deg(chord["end"] / outer)) / 180 if p.end_cut else outer * 0
        between = pi_times(outer * 0 + 1) - left - right
        side_above = 2 * outer * ((height - axis) * between - rise * (near - far) + height * left)
        side = pi_times(outer) * 2 * height
    else:
        tip = height * outer / (outer - inner)
        above = ((tip - axis) * c * area + tip * off - (tip - height) * (end - top)) / 3
        slant = hypot(outer - inner, height)
        side_above = (area * c + off - (end - top)) * slant / (outer - inner)
        side = pi_times(outer + inner) * slant
    b.find("volume_above", above)
    b.find("volume_below", height * (base + end + root(base * end)) / 3 - above)
    b.find("surface_below", side - side_above + (base - off) + top)
