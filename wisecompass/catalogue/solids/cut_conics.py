"""The curve in which a plane cuts a round solid, and what lies under it, in closed form.

In the plane let u run up its slope from the axis and y across it. The radius of the solid at height z is R − t z, so that
u² cos²θ + y² = (r − q u)² with r the radius where the plane meets the axis and q = t sin θ: an ellipse, a parabola or a
hyperbola as κ = cos²θ − q² is above, at or below zero. Its eccentricity is √(1 − κ), its half latus rectum r cos θ.
A frustum that stands on its smaller end is told as its mirror image, which stands on the larger one.
"""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import (
    Number,
    acos_deg,
    asin_deg,
    atan2_deg,
    cos_deg,
    elliptic_e,
    focal_arc,
    log,
    pi_times,
    root,
    sin_deg,
)
from wisecompass.catalogue.solids.body import radii, slant_height
from wisecompass.catalogue.solids.cuts import Cut, Plan
from wisecompass.drafting.problem import Value


@dataclass(frozen=True)
class Conic:
    """The curve by its numbers: ``low`` and ``high`` are where it begins and ends along u. Of a ``mirrored`` solid u runs
    down the slope, and base and other end have changed places."""

    mirrored: bool
    height: Number
    radii: tuple[Number, Number]
    """Of base and other end."""
    slant: Number
    up: Number
    """Where the plane meets the axis, over the base."""
    straight: bool
    kind: int
    """1 for an ellipse, 0 for a parabola, -1 for a hyperbola."""
    level: bool
    at_axis: Number
    """Radius of the solid where the plane meets the axis."""
    c: Number
    s: Number
    q: Number
    base_cut: bool
    end_cut: bool

    @property
    def kappa(self) -> Number:
        return (self.c - self.q) * (self.c + self.q)

    @property
    def high(self) -> Number:
        return (self.height - self.up) / self.s if self.end_cut else self.at_axis / (self.c + self.q)

    @property
    def low(self) -> Number:
        return -self.up / self.s if self.base_cut else -self.at_axis / (self.c - self.q)


def conic(g: Cut, p: Plan) -> Conic:
    first, second = radii(g)
    up, base_cut, end_cut = g.plane_height, p.base_cut, p.end_cut
    if g.widens:
        first, second, up, base_cut, end_cut = second, first, g.height - up, end_cut, base_cut
    t = (first - second) / g.height if not g.is_straight else g.height * 0
    c, s = cos_deg(g.plane_angle), sin_deg(g.plane_angle)

    def margin(h: Cut) -> Number:
        a, b = radii(h)
        return cos_deg(h.plane_angle) * h.height - (b - a if g.widens else a - b) * sin_deg(h.plane_angle)

    return Conic(
        mirrored=g.widens,
        height=g.height,
        radii=(first, second),
        slant=slant_height(g),
        up=up,
        straight=g.is_straight,
        kind=1 if g.is_straight else g.decide(margin),
        level=g.decide(lambda h: h.plane_angle) == 0,
        at_axis=first - t * up,
        c=c,
        s=s,
        q=t * s,
        base_cut=base_cut,
        end_cut=end_cut,
    )


def name_of(k: Conic) -> str:
    """``ellipse``, ``ellipse cut by the base``; that other curves run on to the larger end goes without saying."""
    word = "circle" if k.level else {1: "ellipse", 0: "parabola", -1: "hyperbola"}[k.kind]
    wide, narrow = ("the top", "the base") if k.mirrored else ("the base", "the top")
    cuts = [wide] * (k.base_cut and k.kind > 0) + [narrow] * k.end_cut
    return f"{word} cut by {' and '.join(sorted(cuts))}" if cuts else word


def findings(k: Conic) -> dict[str, Value]:
    """Everything asked for of the section and of what lies under it."""
    eccentricity = k.height * 0 if k.level else root(1 - k.kappa)
    closed = k.kind > 0
    semi = k.at_axis * k.c / k.kappa if closed else None
    width = k.at_axis * k.c / root(k.kappa) if closed else None
    area = section_area(k)
    below, side, base, top = under(k, area)
    above = _volume(k) - below
    if k.mirrored:
        first, second = (pi_times(radius * radius) for radius in k.radii)
        below, above = above, below
        side, base, top = pi_times(k.radii[0] + k.radii[1]) * k.slant - side, first - base, second - top
    return {
        "section_area": area,
        "section_perimeter": _perimeter(k, eccentricity),
        "section_kind": name_of(k),
        "major": None if semi is None else semi * 2,
        "minor": None if width is None else width * 2,
        "eccentricity": eccentricity,
        "focus_distance": k.at_axis * k.c / (1 + eccentricity),
        "volume_below": below,
        "volume_above": above,
        "surface_below": side + base + top,
    }


def _perimeter(k: Conic, eccentricity: Number) -> Number:
    """The curve, and the chords in which the plane cuts the base and the other end; directions are those from the focus
    below the upper vertex."""
    if k.level:
        return pi_times(k.at_axis) * 2
    if not (k.base_cut or k.end_cut):
        semi, wide = k.at_axis * k.c / k.kappa, k.at_axis * k.c / root(k.kappa)
        return 4 * semi * elliptic_e(1 - wide * wide / (semi * semi))
    latus, zero = k.at_axis * k.c, k.at_axis * 0
    focus = k.at_axis / (k.c + k.q) - latus / (1 + eccentricity)
    ways, chords = [zero, zero + 180], zero
    for n, cut, u in ((0, k.end_cut, k.high), (1, k.base_cut, k.low)):
        if cut:
            ways[n], chords = atan2_deg(_width(k, u), u - focus), chords + 2 * _width(k, u)
    return 2 * latus * focal_arc(eccentricity, ways[0], ways[1]) + chords


def _volume(k: Conic) -> Number:
    first, second = k.radii
    return pi_times(k.height * (first * first + first * second + second * second)) / 3


def section_area(k: Conic) -> Number:
    """Area between the curve and the rims that cut it off, mm²."""
    if k.level:
        return pi_times(k.at_axis * k.at_axis)
    if k.kind > 0:
        half, wide = k.at_axis * k.c / k.kappa, k.at_axis * k.c / root(k.kappa)
        middle = -k.at_axis * k.q / k.kappa

        def part(u: Number, at_end: bool, way: int) -> Number:
            quarter = pi_times(half * 0 + 1) / 2
            if not at_end:
                return quarter * way
            share = (u - middle) / half
            return share * root(1 - share * share) + _radians(asin_deg(share))

        return half * wide * (part(k.high, k.end_cut, 1) - part(k.low, k.base_cut, -1))
    if k.kind == 0:
        return _under_a_parabola(k, k.low) - (_under_a_parabola(k, k.high) if k.end_cut else k.q * 0)
    return _under_a_hyperbola(k, k.low) - (_under_a_hyperbola(k, k.high) if k.end_cut else k.q * 0)


def _radians(degrees: Number) -> Number:
    return pi_times(degrees) / 180


def _width(k: Conic, u: Number) -> Number:
    """Half the width of the curve at u."""
    return root((k.at_axis - k.q * u) * (k.at_axis - k.q * u) - u * u * k.c * k.c)


def _under_a_parabola(k: Conic, u: Number) -> Number:
    """From u to the vertex: two thirds of the box about it (Archimedes)."""
    return (k.at_axis / (k.c + k.q) - u) * _width(k, u) * 4 / 3


def _under_a_hyperbola(k: Conic, u: Number) -> Number:
    """From u to the vertex, for y² = |κ| (w² − a²) with w counted from the middle."""
    steep = -k.kappa
    half = k.at_axis * k.c / steep
    w = k.at_axis * k.q / steep - u
    height = root(w * w - half * half)
    return root(steep) * (w * height - half * half * log((w + height) / half))


def under(k: Conic, area: Number) -> tuple[Number, Number, Number, Number]:
    """Volume under the plane, mm³, and the areas of round side, base and other end there, mm²."""
    first, second = k.radii
    disc = pi_times(first * first)
    near = k.height * 0 if k.level else -k.up * k.c / (k.s if not k.level else k.c)
    base = _segment(first, near) if k.base_cut else disc
    far = (k.height - k.up) * k.c / k.s if k.end_cut else None
    top = disc * 0 if far is None else _segment(second, far)
    if k.straight:
        return (*_under_in_a_cylinder(k, near, far, base, top), base, top)
    slope = (first - second) / k.height
    tip = first / slope
    volume = (tip * base + (k.up - tip) * k.c * area + (k.height - tip) * top) / 3
    side = (base - area * k.c - top) * k.slant / (first - second)
    return volume, side, base, top


def _segment(radius: Number, x: Number) -> Number:
    """Area of what lies beyond a chord at x from the middle, mm²."""
    return radius * radius * _radians(acos_deg(x / radius)) - x * root(radius * radius - x * x)


def _under_in_a_cylinder(k: Conic, near: Number, far: Number | None, base: Number, top: Number) -> tuple[Number, Number]:
    """Volume and round side under the plane: under the strip of the section the mean height, beyond it the whole height."""
    radius = k.radii[0]
    zero = radius * 0
    rise = zero if k.level else k.s / k.c
    begin = root(radius * radius - near * near) if k.base_cut else zero
    end = zero if far is None else root(radius * radius - far * far)
    moment = (begin * begin * begin - end * end * end) * 2 / 3
    volume = k.up * (base - top) + rise * moment + k.height * top
    first = _radians(acos_deg(near / radius)) if k.base_cut else pi_times(zero + 1)
    last = zero if far is None else _radians(acos_deg(far / radius))
    side = k.up * (first - last) + rise * (begin - end) + k.height * last
    return volume, side * radius * 2
