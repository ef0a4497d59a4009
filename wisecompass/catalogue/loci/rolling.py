"""What the problems of rolling circles share: a circle that rolls on a line or on another circle, its positions, and the
point that it carries.

On a line the point is at (Rt - d sin t, R - d cos t), R being the rolling radius and d that of the tracing point. On a
circle of radius B the centre runs at B + R (outside) or B - R (inside), and the rolling circle turns B / R times as fast.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute, cos_deg, pi_times, sin_deg
from wisecompass.drafting import givens
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Make
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Line, Point

OUTSIDE, INSIDE = 1, -1


# ------------------------------------------------------------------------------------------------------------- on a line
def line_points(turns: int, divisions: int, radius: Number, arm: Number, number: Make) -> dict[str, Point]:
    """The plotted points on a line, by name; the first stands over the beginning of the base."""
    points = {}
    for k in range(turns * divisions + 1):
        angle = number(360) * k / divisions
        along = pi_times(radius * angle / 180)
        points[f"P{k}"] = Point(along - arm * sin_deg(angle), radius - arm * cos_deg(angle))
    return points


@dataclass(frozen=True)
class LineRolled:
    """The positions of a circle that has rolled along a line."""

    base: Line
    start: Point
    end: Point
    plotted: list[Point]


def roll_on_line(b: Board, turns: int, divisions: int, radius: Number, arm: Number) -> LineRolled:
    """The base of so many girths divided, the circle in each position, and its tracing point."""
    start = b.point("0", b.number(0), b.number(0), why="where the circle first touches the base")
    base = b.level_line(start, "base", pen=Pen.GIVEN)
    upright = b.upright_line(start, "first radius")
    first = b.lay_off(upright, start, radius, "C0", why="half the rolling diameter")
    circle = b.arc(first, radius, whole=True, name="rolling circle")
    marks = b.divide_circle(circle, divisions, 270, "d", why="beginning where it touches")
    count = turns * divisions
    girth = pi_times(2 * radius * turns)
    end = b.lay_off(base, start, girth, str(count), why="the girth, once for each turn")
    b.caution(f"Spaces are counted, not marks: {count} spaces have {count + 1} marks.")
    contacts = [*b.divide(start, end, count, [str(k) for k in range(1, count)], why="as many to a turn as the circle"), end]
    centres = b.parallel(base, first, "path of the centre", pen=Pen.CENTRE)
    plotted = [b.lay_off(upright, first, arm, "P0", back=True, why="the tracing point")]
    for k, contact in enumerate(contacts, 1):
        centre = b.meet(b.parallel(upright, contact, f"upright {k}"), centres, name=f"C{k}")
        rolled = b.arc(centre, radius, why="the rolling circle in this position")
        b.touch(rolled, contact)
        turned = Line.through(first, marks[-k % divisions], f"radius {k}")
        ray = b.parallel(turned, centre, f"radius in position {k}", why="turned back by as many divisions")
        plotted.append(b.lay_off(ray, centre, arm, f"P{k}", why="the tracing radius"))
        b.touch(rolled, plotted[-1])
    b.plot(*plotted)
    return LineRolled(base, start, end, plotted)


def line_curve(turns: int, radius: float, arm: float) -> Parametric:
    """The curve on a line, from the first to the last position."""
    return Parametric(
        lambda t: (radius * t - arm * math.sin(t), radius - arm * math.cos(t)),
        lambda t: (radius - arm * math.cos(t), arm * math.sin(t)),
        0.0,
        2 * math.pi * turns,
        4 * turns,
    )


# ----------------------------------------------------------------------------------------------------------- on a circle
@dataclass(frozen=True)
class CircleRolling:
    """A circle that rolls once round on another one, outside or inside; ``arm`` is the tracing radius."""

    base: Number
    radius: Number
    arm: Number
    side: int
    divisions: int

    @property
    def sector(self) -> Number:
        """The angle at the base circle's centre that one turn takes, degrees."""
        return 360 * self.radius / self.base

    @property
    def path(self) -> Number:
        """Radius of the path of the centre; below zero where the rolling circle holds the base circle."""
        return self.base + self.radius * self.side

    def ray(self, k: int) -> Number:
        """Direction of the centre in position k, symmetrical about the upright."""
        return 90 + self.sector * (2 * k - self.divisions) / (2 * self.divisions)

    def turn(self, k: int) -> Number:
        """Direction of the tracing radius against that of the ray."""
        share = self.radius / self.radius * 360 * k / self.divisions
        return share + 180 if self.side == OUTSIDE else -share


def circle_points(rolling: CircleRolling, number: Make) -> dict[str, Point]:
    """The centre of the base circle, each centre and plotted point: ((B ± R) cos t ∓ d cos u, (B ± R) sin t - d sin u),
    u = t (B ± R) / R from where the circles first touch."""
    zero, big, small, side = number(0), rolling.base, rolling.radius, rolling.side
    first = 90 - number(180) * small / big
    named = {"O": Point(zero, zero)}
    for k in range(rolling.divisions + 1):
        swept = number(360) * small * k / (big * rolling.divisions)
        out, own = first + swept, side * first + swept * (big + side * small) / small
        path = big + side * small
        named[f"C{k}"] = Point(path * cos_deg(out), path * sin_deg(out))
        x = path * cos_deg(out) - side * rolling.arm * cos_deg(own)
        named[f"P{k}"] = Point(x, path * sin_deg(out) - rolling.arm * sin_deg(own))
    return named


def roll_on_circle(b: Board, rolling: CircleRolling) -> list[Point]:
    """The sector divided, the rolling circle in each position, and its tracing point."""
    centre = b.point("O", b.number(0), b.number(0), why="the centre of the base circle")
    level = b.level_line(centre, "level axis", pen=Pen.CENTRE)
    base = b.arc(centre, rolling.base, name="base circle", why="half the base diameter", pen=Pen.GIVEN)
    plotted = []
    away = "the sum of both radii" if rolling.side == OUTSIDE else "the difference of both radii"
    for k in range(rolling.divisions + 1):
        why = "the sector of one turn, half of it to either side" if k == 0 else "one division on"
        ray = b.protract(level, centre, rolling.ray(k), f"ray {k}", why=why)
        b.meet(ray, base, plane.beyond(ray), str(k))
        place = b.lay_off(ray, centre, rolling.path, f"C{k}", why=away)
        if k == 0:
            b.caution("Outside the centre runs at the sum of the radii, inside at their difference.")
        rolled = b.arc(place, rolling.radius, why="the rolling circle in this position")
        arm = b.protract(ray, place, rolling.turn(k), f"radius {k}", why=f"turned by {k} divisions of the rolling circle")
        plotted.append(b.lay_off(arm, place, rolling.arm, f"P{k}", why="the tracing radius"))
        b.touch(rolled, plotted[-1])
        b.touch(rolled, b.plane_point(str(k)))
    b.caution("As many divisions of the sector as of the rolling circle: their arcs are equally long.")
    b.plot(*plotted)
    return plotted


def circle_curve(rolling: CircleRolling) -> Parametric:
    """The curve on a circle; the parameter is the angle, in radians, that the rolling circle has turned on its ray."""
    base, radius, arm = float(rolling.base), float(rolling.radius), float(rolling.arm)
    path, side = base + radius * rolling.side, rolling.side
    start = math.radians(90 - 180 * radius / base)
    slow = radius / base

    def directions(t: float) -> tuple[float, float]:
        ray = start + slow * t
        return ray, ray + (t + math.pi if side == OUTSIDE else -t)

    def place(t: float) -> tuple[float, float]:
        ray, own = directions(t)
        return path * math.cos(ray) + arm * math.cos(own), path * math.sin(ray) + arm * math.sin(own)

    def velocity(t: float) -> tuple[float, float]:
        ray, own = directions(t)
        spin = slow + side
        return (
            -path * slow * math.sin(ray) - arm * spin * math.sin(own),
            path * slow * math.cos(ray) + arm * spin * math.cos(own),
        )

    return Parametric(place, velocity, 0.0, 2 * math.pi, 8)


def draw_rolled(b: Board, rolling: CircleRolling, name: str) -> None:
    """The whole figure: positions, curve, and the sector as its centres stand."""
    plotted = roll_on_circle(b, rolling)
    b.fair_curve(lambda: circle_curve(rolling), plotted, name)
    centre = b.plane_point("O")
    centres = [b.plane_point(f"C{k}") for k in range(rolling.divisions + 1)]
    sector = plane.angle_at(centre, centres[0], centres[1])
    for one, other in zip(centres[1:], centres[2:], strict=False):
        sector = sector + plane.angle_at(centre, one, other)
    b.find("sector_angle", sector)
    away = absolute(rolling.path - rolling.arm * rolling.side)
    b.check("the curve ends as far out as it began", plane.distance(centre, plotted[-1]) - away)


@dataclass(frozen=True)
class BaseAndRolling(Givens):
    base_diameter: Number = givens.length("base diameter", "156")
    rolling_diameter: Number = givens.length("rolling diameter", "26")
    divisions: int = givens.count("number of divisions", "12", 8, 24)


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
