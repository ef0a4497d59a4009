"""What the problems of a circle that rolls on another one share: its positions, and the point that it carries.

The centre runs at B + R (outside) or B - R (inside), and the rolling circle turns B / R times as fast as its centre goes
round. One turn takes a sector of the base circle, drawn to both sides of its middle.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Any

from wisecompass.arithmetic import Number, absolute, cos_deg, sin_deg, sqrt
from wisecompass.catalogue.loci.instant_centre import Instant, Position, draw_tangent, findings
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Chosen, Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Circle, Line, Point

OUTSIDE, INSIDE = 1, -1


@dataclass(frozen=True)
class BaseAndRolling(Givens):
    base_diameter: Number = givens.length("base diameter", "156")
    rolling_diameter: Number = givens.length("rolling diameter", "26")
    direction: str = givens.choice("direction", "clockwise", "anticlockwise", default="anticlockwise")
    middle: Number = givens.angle(
        "middle of the sector", "90", least="0", most="360", limit_words="it must lie from 0° to 360°"
    )
    divisions: int = givens.count("number of divisions", "12", 8, 72)
    turned: Number = givens.angle("angle turned", "130", least="0.01", most="359.99")


@dataclass(frozen=True)
class TracingOnCircle(BaseAndRolling):
    tracing_radius: Number = givens.length("tracing radius", "8")


@dataclass(frozen=True)
class Rolling:
    """A circle that rolls once round on another one, outside or inside; ``arm`` is the tracing radius, ``way`` 1 for
    anticlockwise. ``holds`` where the rolling circle is the larger one and holds the base circle."""

    base: Number
    radius: Number
    arm: Number
    side: int
    way: int
    holds: bool
    sector: Number
    """The angle at the base circle's centre that one turn takes, degrees."""

    @property
    def path(self) -> Number:
        """Radius of the path of the centre; below zero where the rolling circle holds the base circle."""
        return self.base + self.radius if self.side == OUTSIDE else self.base - self.radius


def rolling(g: Any, side: int) -> Rolling:
    """The rolling circle of the givens."""
    holds = side == INSIDE and g.decide(lambda h: h.rolling_diameter - h.base_diameter) > 0
    base, radius, sector = g.base_diameter / 2, g.rolling_diameter / 2, 360 * g.rolling_diameter / g.base_diameter
    return Rolling(base, radius, arm_of(g), side, 1 if g.direction == "anticlockwise" else -1, holds, sector)


def arm_of(g: Any) -> Number:
    """The tracing radius; without one the rim."""
    arm: Number = getattr(g, "tracing_radius", g.rolling_diameter / 2)
    return arm


# --------------------------------------------------------------------------------------------------------- closed form
def points(g: BaseAndRolling, r: Rolling, number: Make) -> dict[str, Point]:
    """The centre of the base circle, each centre and plotted point, and those of the chosen position. From where the
    circles first touch: ((B ± R) cos t ∓ d cos u, (B ± R) sin t - d sin u) with u = t (B ± R) / R."""
    zero, side = number(0), r.side
    path, first = r.base + side * r.radius, g.middle - r.way * 180 * r.radius / r.base
    cosine, sine = cos_deg(first), sin_deg(first)

    def turned_to_place(x: Number, y: Number) -> Point:
        return Point(x * cosine - y * r.way * sine, x * sine + y * r.way * cosine)

    def at(turned: Number) -> tuple[Point, Point]:
        out = turned * r.radius / r.base
        own = out * path / r.radius
        centre = (path * cos_deg(out), path * sin_deg(out))
        x, y = centre[0] - side * r.arm * cos_deg(own), centre[1] - r.arm * sin_deg(own)
        return turned_to_place(*centre), turned_to_place(x, y)

    found = {"O": Point(zero, zero)}
    for k in range(g.divisions + 1):
        found[f"C{k}"], found[f"P{k}"] = at(number(360) * k / g.divisions)
    found["C"], found["P"] = at(g.turned + 0)
    out = g.turned * r.radius / r.base
    found["K"] = turned_to_place(r.base * cos_deg(out), r.base * sin_deg(out))
    return found


def tangent_findings(g: BaseAndRolling, r: Rolling) -> dict[str, Number | None]:
    """Tangent angle and radius of curvature, from the derivatives by the angle that the circle turns on its ray."""
    slow = r.radius / r.base
    spin, path = slow + r.side, r.path
    inner = cos_deg(g.turned) * -r.side  # cosine between ray and tracing radius
    speed = sqrt(path * path * slow * slow + r.arm * r.arm * spin * spin + 2 * path * r.arm * slow * spin * inner)
    cross = _cross(path, r.arm, slow, spin, inner)
    straight = g.decide(lambda h: _cross_of(h, r.side)) == 0
    return findings(g, lambda h: _velocity(h, r.side), cross, speed, straight)


def _velocity(g: Any, side: int) -> tuple[Number, Number]:
    """How the traced point moves for each radian that the circle turns on its ray: its parts out along the ray and round,
    turned to where the ray stands."""
    radius, base, arm = g.rolling_diameter / 2, g.base_diameter / 2, arm_of(g)
    slow, way = radius / base, 1 if g.direction == "anticlockwise" else -1
    spin, path = slow + side, base + radius * side
    ahead = path * slow - side * arm * spin * cos_deg(g.turned)
    out = arm * spin * sin_deg(g.turned) * side
    ray = g.middle + (g.turned - 180) * slow * way
    cosine, sine = cos_deg(ray), sin_deg(ray)
    return out * side * cosine - ahead * way * sine, out * side * sine + ahead * way * cosine


def _cross(path: Number, arm: Number, slow: Number, spin: Number, inner: Number) -> Number:
    """Velocity x acceleration of path·e^(i·slow·u) + arm·e^(i(spin·u + …))."""
    first, second = path * slow, arm * spin
    return first * first * slow + second * second * spin + first * second * (slow + spin) * inner


def _cross_of(g: BaseAndRolling, side: int) -> Number:
    slow = g.rolling_diameter / g.base_diameter
    path = (g.base_diameter + g.rolling_diameter * side) / 2
    return _cross(path, arm_of(g), slow, slow + side, cos_deg(g.turned) * -side)


# -------------------------------------------------------------------------------------------------------------- drawing
class Roller:
    """Draws a rolling circle in one position after the other."""

    def __init__(self, b: Board, g: BaseAndRolling, r: Rolling) -> None:
        self.b, self.g, self.r = b, g, r
        self.centre = b.point("O", b.number(0), b.number(0), why="the centre of the base circle")
        self.level = b.level_line(self.centre, "level axis", pen=Pen.CENTRE)
        self.base = b.arc(self.centre, r.base, name="base circle", why="half the base diameter", pen=Pen.GIVEN)

    def stands(self, share: Number | Fraction) -> Number:
        """Where the ray of a share of the turn stands, degrees."""
        middle, r = self.g.middle, self.r
        if not isinstance(share, Fraction):
            return middle + r.sector * (360 * share - 180) / 360 * r.way
        out = (2 * share - 1) / 2 * r.way
        away = r.sector * abs(out.numerator) / out.denominator
        return middle + away if out > 0 else middle - away if out < 0 else middle

    def ray(self, share: Number | Fraction, tag: str, name: str, why: str) -> tuple[Line, Point]:
        """The ray after a ``share`` of the turn, and where the circles touch on it."""
        ray = self.b.protract(self.level, self.centre, self.stands(share), f"ray {tag}", why=why)
        return ray, self.b.meet(ray, self.base, plane.beyond(ray), name)

    def centre_on(self, ray: Line, name: str) -> Point:
        """The centre of the rolling circle on its ray."""
        r = self.r
        away = "the sum of both radii" if r.side == OUTSIDE else "the difference of both radii"
        return self.b.lay_off(ray, self.centre, -r.path if r.holds else r.path, name, back=r.holds, why=away)

    def circle(self, centre: Point, contact: Point) -> Circle:
        """The rolling circle in its position."""
        found = self.b.arc(centre, self.r.radius, why="the rolling circle in this position")
        self.b.touch(found, contact)
        return found

    def arm(self, share: Number | Fraction, ray: Line, centre: Point, tag: str, why: str) -> Line | None:
        """The tracing radius after a ``share`` of the turn; after whole turns it lies on the ray, and none is drawn."""
        if isinstance(share, Fraction) and share.denominator == 1:
            return None
        r = self.r
        whole = self.b.turn(share.numerator, share.denominator) if isinstance(share, Fraction) else 360 * share
        turn = whole * r.way * r.side + (180 if r.side == OUTSIDE else 0)
        return self.b.protract(ray, centre, turn, f"radius {tag}", why=why)

    def traced(self, arm: Line | None, ray: Line, centre: Point, name: str) -> Point:
        """The traced point on its radius."""
        if arm is None:
            back, why = self.r.side == OUTSIDE, "the tracing radius, here on the ray"
            return self.b.lay_off(ray, centre, self.r.arm, name, back=back, why=why)
        return self.b.lay_off(arm, centre, self.r.arm, name, why="the tracing radius")

    def positions(self) -> tuple[list[Line], list[Point], list[Circle]]:
        """All rays, then all centres, then the circle about each."""
        b, n = self.b, self.g.divisions
        rays, contacts = [], []
        for k in range(n + 1):
            why = "the sector of one turn, half of it to either side" if k == 0 else "one division on"
            ray, contact = self.ray(Fraction(k, n), b.nth(k), b.numbered("", k), why)
            rays.append(ray)
            contacts.append(contact)
        b.caution("As many divisions of the sector as of the rolling circle: their arcs are equally long.")
        centres = [self.centre_on(ray, b.numbered("C", k)) for k, ray in enumerate(rays)]
        b.caution("Outside the centre runs at the sum of the radii, inside at their difference.")
        return rays, centres, [self.circle(*pair) for pair in zip(centres, contacts, strict=True)]


def _gone(centre: Point, first: Point, last: Point, r: Rolling) -> Number:
    """The chord of the first and the last centre, less that of the sector on the path of the centre."""
    return plane.distance(first, last) - 2 * absolute(r.path) * absolute(sin_deg(r.sector / 2))


ON_THE_PATH = "the rolled girth stepped off on the path of the centre instead of on the base circle"


def _with_sector(b: Board, r: Rolling) -> Rolling:
    return replace(r, sector=r.sector * r.base / absolute(r.path)) if b.slips(ON_THE_PATH) else r


def draw_rolled(b: Board, g: BaseAndRolling, r: Rolling, name: str) -> None:
    """The whole figure: positions, curve, the sector as its centres stand, tangent and centre of curvature."""
    r = _with_sector(b, r)
    roller, n = Roller(b, g, r), g.divisions
    rays, centres, circles = roller.positions()
    arms = []
    for k, (ray, centre) in enumerate(zip(rays, centres, strict=True)):
        why = f"turned by {k} division{'s' * (k > 1)} of the rolling circle"
        arms.append(roller.arm(Fraction(k, n), ray, centre, b.nth(k), why))
    plotted = []
    for k, (arm, ray, centre, circle) in enumerate(zip(arms, rays, centres, circles, strict=True)):
        plotted.append(roller.traced(arm, ray, centre, b.numbered("P", k)))
        b.touch(circle, plotted[-1])
    _finish(b, g, r, roller, plotted, centres, name)


def draw_by_arcs(b: Board, g: BaseAndRolling, r: Rolling, name: str) -> None:
    """The rim's point stands in each position as far from O as its division stands in the first: where the arc about O
    through the division meets the rolling circle, behind the ray in the first half of the turn, before it in the second."""
    r = _with_sector(b, r)
    roller, n = Roller(b, g, r), g.divisions
    out = 1 if r.side == INSIDE else -1  # from the centre to the contact, along the ray
    behind, before = (plane.right_of, plane.left_of) if r.way > 0 else (plane.left_of, plane.right_of)
    rays, centres, circles = roller.positions()
    marks = b.divide_circle(
        circles[0],
        n,
        roller.stands(Fraction(0)) + (180 if r.side == OUTSIDE else 0),
        "d",
        why="beginning where it touches",
        clockwise=r.way * r.side < 0,
    )
    arcs: dict[int, Circle] = {}
    for i in range(1, (n + 1) // 2):
        opening = span(roller.centre, marks[i])
        arcs[i] = b.arc(roller.centre, opening, name=f"arc {i}", why="for both divisions as far from O")
    plotted: list[Point] = []
    for k, (ray, centre, circle) in enumerate(zip(rays, centres, circles, strict=True)):
        at = b.numbered("P", k)
        if k % n == 0 or 2 * k == n:
            back = (out > 0) == (k % n != 0)
            plotted.append(b.lay_off(ray, centre, r.radius, at, back=back, why="here the radius lies on the ray"))
        else:
            crossed = [(circle, arcs[min(k, n - k)], at)]
            plotted += b.mark_crossings(crossed, (behind if 2 * k < n else before)(ray))
    b.caution("Each arc crosses the circle twice: behind the ray in the first half of the turn, before it in the second.")
    _finish(b, g, r, roller, plotted, centres, name)


def _finish(
    b: Board, g: BaseAndRolling, r: Rolling, roller: Roller, plotted: list[Point], centres: list[Point], name: str
) -> None:
    """The curve through its points, the sector as its centres stand, and the chosen position."""
    b.plot(*plotted)
    b.fair_curve(lambda: curve(g, r), plotted, name)
    sector = plane.angle_at(roller.centre, centres[0], centres[1])
    for one, other in zip(centres[1:], centres[2:], strict=False):
        sector = sector + plane.angle_at(roller.centre, one, other)
    b.find("sector_angle", sector)
    if not isinstance(g, TracingOnCircle):
        contact = b.plane_point(b.numbered("", 0))
        base, path = plane.distance(roller.centre, contact), plane.distance(roller.centre, centres[0])
        b.find("arc_length", 8 * plane.distance(centres[0], contact) * path / base)
    ends_out = absolute(r.path - r.arm * r.side)
    b.check("it has gone through the sector", _gone(roller.centre, centres[0], centres[-1], r))
    b.check("the curve ends as far out as it began", plane.distance(roller.centre, plotted[-1]) - ends_out)
    _draw_chosen(b, g, r, roller)


def _draw_chosen(b: Board, g: BaseAndRolling, r: Rolling, roller: Roller) -> None:
    """The chosen position, with tangent, normal and centre of curvature."""
    share = g.turned / 360
    ray, contact = roller.ray(share, "at P", "K", "as much of the sector as of a turn")
    centre = roller.centre_on(ray, "C")
    circle = roller.circle(centre, contact)
    at = roller.traced(roller.arm(share, ray, centre, "at P", "the angle turned"), ray, centre, "P")
    b.touch(circle, at)
    along = b.square(Line.through(roller.centre, contact, "ray at P"), contact, "common tangent")
    instant = Instant(contact, centre, at, along, r.way, -r.way * r.side, roller.centre)
    side = r.side
    draw_tangent(b, g, lambda h: position(h, side), instant, lambda h: _velocity(h, side))


def position(g: BaseAndRolling, side: int) -> Position:
    radius, base = g.rolling_diameter / 2, g.base_diameter / 2
    return Position(radius, arm_of(g), g.turned, 1 / radius + 1 / base * side)


def curve(g: BaseAndRolling, r: Rolling) -> Parametric:
    """The curve; the parameter is the angle, in radians, that the rolling circle has turned on its ray."""
    base, radius, arm = float(r.base), float(r.radius), float(r.arm)
    path, side, way, slow = base + radius * r.side, r.side, r.way, radius / base
    start = math.radians(float(g.middle)) - way * math.pi * slow

    def directions(t: float) -> tuple[float, float]:
        ray = start + way * slow * t
        return ray, ray + way * side * t + (math.pi if side == OUTSIDE else 0.0)

    def place(t: float) -> tuple[float, float]:
        ray, own = directions(t)
        return path * math.cos(ray) + arm * math.cos(own), path * math.sin(ray) + arm * math.sin(own)

    def velocity(t: float) -> tuple[float, float]:
        ray, own = directions(t)
        go, spin = path * way * slow, arm * way * (slow + side)
        return -go * math.sin(ray) - spin * math.sin(own), go * math.cos(ray) + spin * math.cos(own)

    return Parametric(place, velocity, 0.0, 2 * math.pi, 8)


# ------------------------------------------------------------------------------------------------------------- problems
def must_roll() -> Condition:
    """Inside, a rolling circle of the base circle's size would lie in it at rest."""
    gap: Callable[[BaseAndRolling], Number] = lambda g: absolute(g.base_diameter - g.rolling_diameter)  # noqa: E731
    return Condition(
        "two different circles",
        gap,
        "a rolling diameter of {rolling_diameter} fills the base circle of {base_diameter} and cannot roll in it",
        ("rolling_diameter", "base_diameter"),
        lambda g: {
            "rolling_diameter": givens.at_most(g.base_diameter / 2, 6)
            if g.base_diameter >= 2 * givens.SHORTEST
            else givens.at_least(g.base_diameter * 2)
        },
        strict=True,
    )


def not_far_round(most: int) -> Condition:
    """One turn may go round the base circle only so many times."""
    return Condition(
        "a rolling circle not much larger",
        lambda g: g.base_diameter * most - g.rolling_diameter,
        f"a rolling diameter of {{rolling_diameter}} goes in one turn over {most} times round the base {{base_diameter}}",
        ("rolling_diameter", "base_diameter"),
        lambda g: {"rolling_diameter": givens.at_most(g.base_diameter * most, 6)},
    )


def rolled_problem(name: str, title: str, side: int, kind: type[BaseAndRolling], source: str) -> Problem:
    """The problem of a circle that rolls outside or inside, traced on its rim or, with a tracing radius, elsewhere."""
    traced = issubclass(kind, TracingOnCircle)

    def truth(g: BaseAndRolling, number: Make) -> Truth:
        r = rolling(g, side)
        arc = {} if traced else {"arc_length": 8 * r.radius * absolute(r.path) / r.base}
        return Truth(points=points(g, r, number), findings={"sector_angle": r.sector, **arc, **tangent_findings(g, r)})

    @method("rolled circle", Exactness.EXACT_POINTS)
    def rolled_circle(b: Board, g: BaseAndRolling) -> None:
        draw_rolled(b, g, rolling(g, side), name)

    @method("concentric arcs", Exactness.EXACT_POINTS)
    def concentric_arcs(b: Board, g: BaseAndRolling) -> None:
        draw_by_arcs(b, g, rolling(g, side), name)

    @slip(ON_THE_PATH)
    def on_the_path(g: BaseAndRolling, number: Make) -> dict[str, Number]:
        r = rolling(g, side)
        return {"sector_angle": r.sector * r.base / absolute(r.path)}

    return Problem(
        id=f"loci/{name}",
        title=title,
        brief=(
            f"Roll a circle of diameter {{rolling_diameter}} once {'on' if side == OUTSIDE else 'inside'} a base circle of "
            "diameter {base_diameter}, {direction}, to both sides of {middle}, in {divisions} divisions. "
            + ("Trace the point {tracing_radius} from its centre" if traced else "Trace a point of its rim")
            + ", with tangent and normal where it has turned {turned}."
        ),
        givens=kind,
        truth=truth,
        methods=(rolled_circle,) if traced else (rolled_circle, concentric_arcs),
        findings={
            "sector_angle": Kind.ANGLE,
            **({} if traced else {"arc_length": Kind.LENGTH}),
            "tangent_angle": Kind.ANGLE,
            "curvature_radius": Kind.LENGTH,
        },
        source=f"{source} Centre of curvature by Euler and Savary.",
        conditions=(*((must_roll(),) if side == INSIDE else ()), not_far_round(3)),
        slips=(on_the_path,),
        chosen=Chosen("turned"),
    )
