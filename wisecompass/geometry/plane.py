"""Plane geometry: points, straight lines, circles and where they meet.

All coordinates are numbers of one arithmetic (see ``arithmetic``), in mm; angles are in degrees, anticlockwise
from the x axis. Nothing here compares computed coordinates: which of two crossings is wanted is said by a selector.
Nobody changes a point, line or circle; they are not frozen only because that makes them slow to make.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import cast

from wisecompass.arithmetic import Number, atan2_deg, cos_deg, hypot, pick, root, roughly, sin_deg


@dataclass(slots=True)
class Point:
    """A point of the sheet, with the name it is lettered by (not part of its identity)."""

    x: Number
    y: Number
    name: str = ""

    def named(self, name: str) -> Point:
        return Point(self.x, self.y, name)

    def moved(self, dx: Number, dy: Number, name: str = "") -> Point:
        return Point(self.x + dx, self.y + dy, name)


@dataclass(slots=True)
class Line:
    """A straight line through ``at`` in the direction (dx, dy), which need not be of unit length."""

    at: Point
    dx: Number
    dy: Number
    name: str = ""
    via: Point | None = field(default=None, compare=False)
    """A second point that it was laid through."""

    @staticmethod
    def through(a: Point, b: Point, name: str = "") -> Line:
        """The line from a towards b."""
        return Line(a, b.x - a.x, b.y - a.y, name, b)

    def point_at(self, distance: Number, name: str = "") -> Point:
        """The point ``distance`` mm along the line from ``at``."""
        share = distance / hypot(self.dx, self.dy)
        return Point(self.at.x + self.dx * share, self.at.y + self.dy * share, name)

    def parallel(self, through: Point, name: str = "") -> Line:
        return Line(through, self.dx, self.dy, name)

    def square(self, through: Point, name: str = "") -> Line:
        """The perpendicular through a point, turned a quarter anticlockwise."""
        return Line(through, -self.dy, self.dx, name)

    def offset(self, distance: Number, name: str = "") -> Line:
        """The parallel ``distance`` mm to the left."""
        share = distance / hypot(self.dx, self.dy)
        return Line(Point(self.at.x - self.dy * share, self.at.y + self.dx * share), self.dx, self.dy, name)


@dataclass(slots=True)
class Circle:
    """A circle, or the whole of which an arc is a part."""

    centre: Point
    radius: Number
    name: str = ""

    def point_at(self, angle: Number, name: str = "") -> Point:
        """The point in the direction ``angle`` degrees from the centre."""
        c = self.centre
        return Point(c.x + self.radius * cos_deg(angle), c.y + self.radius * sin_deg(angle), name)


@dataclass(slots=True)
class Selector:
    """Chooses between two crossings: the one with the lower ``score``. ``word`` says which that is in words that hold on
    paper, ``of`` what it is seen from."""

    word: str
    of: tuple[Point | Line | Circle, ...]
    score: Callable[[Point], Number]

    def __call__(self, p: Point, q: Point) -> Point:
        a, b = self.score(p), self.score(q)
        if type(a) is float:
            return p if a <= cast("float", b) else q
        return Point(pick(a, b, p.x, q.x), pick(a, b, p.y, q.y))


def distance(a: Point, b: Point) -> Number:
    """Distance in mm."""
    return hypot(b.x - a.x, b.y - a.y)


def distance_to_line(p: Point, line: Line) -> Number:
    """Signed distance in mm: positive to the left of the line."""
    return side_of(p, line) / hypot(line.dx, line.dy)


def side_of(p: Point, line: Line) -> Number:
    """Cross product: positive to the left of the line, zero on it."""
    return line.dx * (p.y - line.at.y) - line.dy * (p.x - line.at.x)


def direction(a: Point, b: Point) -> Number:
    """Direction from a to b in degrees."""
    return atan2_deg(b.y - a.y, b.x - a.x)


def angle_at(vertex: Point, a: Point, b: Point) -> Number:
    """Angle a-vertex-b in degrees, 0 to 180; nowhere ill-conditioned (atan2 of cross and dot product)."""
    ux, uy, vx, vy = a.x - vertex.x, a.y - vertex.y, b.x - vertex.x, b.y - vertex.y
    return atan2_deg(root((ux * vy - uy * vx) * (ux * vy - uy * vx)), ux * vx + uy * vy)


def turn_at(vertex: Point, a: Point, b: Point) -> Number:
    """Signed angle from ray vertex-a to ray vertex-b in degrees, anticlockwise positive."""
    ux, uy, vx, vy = a.x - vertex.x, a.y - vertex.y, b.x - vertex.x, b.y - vertex.y
    return atan2_deg(ux * vy - uy * vx, ux * vx + uy * vy)


def sweep_at(vertex: Point, a: Point, b: Point) -> Number:
    """Angle that a–vertex is turned anticlockwise to reach b, degrees, 0 to 360; not for angles that are nearly either."""
    turned = turn_at(vertex, a, b)
    return turned + 360 if roughly(turned) < 0 else turned


def line_angle(dx: Number, dy: Number, rises: int, runs: int) -> Number:
    """Angle of a line with the level, anticlockwise, from 0° to below 180°, from either of its directions. ``rises`` and
    ``runs`` are the signs of dy and dx, decided beforehand: a ball about a level line cannot tell 0° from 180°."""
    if rises > 0 or (rises == 0 and runs > 0):
        return atan2_deg(dy, dx)
    return atan2_deg(-dy, -dx)


def midpoint(a: Point, b: Point, name: str = "") -> Point:
    return Point((a.x + b.x) / 2, (a.y + b.y) / 2, name)


def between(a: Point, b: Point, part: int, parts: int, name: str = "") -> Point:
    """The point ``part`` of ``parts`` equal steps from a to b."""
    return Point(a.x + (b.x - a.x) * part / parts, a.y + (b.y - a.y) * part / parts, name)


def foot(p: Point, line: Line, name: str = "") -> Point:
    """The foot of the perpendicular from p."""
    along = (line.dx * (p.x - line.at.x) + line.dy * (p.y - line.at.y)) / (line.dx * line.dx + line.dy * line.dy)
    return Point(line.at.x + line.dx * along, line.at.y + line.dy * along, name)


def polygon_area(corners: list[Point]) -> Number:
    """Signed area in mm²: positive when the corners run anticlockwise."""
    total = corners[-1].x * corners[0].y - corners[-1].y * corners[0].x
    for a, b in zip(corners, corners[1:], strict=False):
        total = total + (a.x * b.y - a.y * b.x)
    return total / 2


# ---------------------------------------------------------------------------------------------------- crossings
def meet_lines(first: Line, second: Line, name: str = "") -> Point:
    """Where two straight lines cross. Parallel lines give a point that is not finite."""
    cross = first.dx * second.dy - first.dy * second.dx
    along = ((second.at.x - first.at.x) * second.dy - (second.at.y - first.at.y) * second.dx) / cross
    return Point(first.at.x + first.dx * along, first.at.y + first.dy * along, name)


def meet_line_circle(line: Line, circle: Circle) -> tuple[Point, Point]:
    """The two crossings, in the order in which the line's direction comes to them."""
    near = foot(circle.centre, line)
    off_x, off_y = near.x - circle.centre.x, near.y - circle.centre.y
    half = root(circle.radius * circle.radius - off_x * off_x - off_y * off_y) / hypot(line.dx, line.dy)
    return (near.moved(-line.dx * half, -line.dy * half), near.moved(line.dx * half, line.dy * half))


def meet_circles(first: Circle, second: Circle) -> tuple[Point, Point]:
    """The crossings to the left and to the right of the line from the first centre to the second."""
    dx, dy = second.centre.x - first.centre.x, second.centre.y - first.centre.y
    apart_squared = dx * dx + dy * dy
    along = (apart_squared + first.radius * first.radius - second.radius * second.radius) / (2 * apart_squared)
    off = root(first.radius * first.radius / apart_squared - along * along)
    middle = first.centre.moved(dx * along, dy * along)
    return middle.moved(-dy * off, dx * off), middle.moved(dy * off, -dx * off)


def meet(first: Line | Circle, second: Line | Circle, which: Selector | None = None, name: str = "") -> Point:
    """The crossing of two lines or arcs; ``which`` chooses where there are two.

    Raises:
        ValueError: two crossings and no selector.
    """
    if isinstance(first, Line) and isinstance(second, Line):
        return meet_lines(first, second, name)
    if which is None:
        raise ValueError("an arc meets twice: say which crossing is wanted")
    return which(*crossings(first, second)).named(name)


def crossings(first: Line | Circle, second: Line | Circle) -> tuple[Point, Point]:
    """Both crossings of an arc with a line or with another arc."""
    if isinstance(first, Circle):
        return meet_circles(first, second) if isinstance(second, Circle) else meet_line_circle(second, first)
    if isinstance(second, Circle):
        return meet_line_circle(first, second)
    raise ValueError("two straight lines cross once: use meet")


def nearest(target: Point) -> Selector:
    """The crossing nearer to ``target``."""
    return Selector("nearest to", (target,), lambda p: _square(p, target))


def farthest(target: Point) -> Selector:
    """The crossing farther from ``target``."""
    return Selector("farthest from", (target,), lambda p: -_square(p, target))


def other_than(target: Point) -> Selector:
    """The crossing that is not ``target``, which is the other."""
    return Selector("other than", (target,), lambda p: -_square(p, target))


def _square(p: Point, q: Point) -> Number:
    return (p.x - q.x) * (p.x - q.x) + (p.y - q.y) * (p.y - q.y)


def left_of(line: Line) -> Selector:
    """The crossing to the left of the line (the one more to the left if both are)."""
    return Selector("left of", (line,), lambda p: -side_of(p, line))


def right_of(line: Line) -> Selector:
    """The crossing to the right of the line."""
    return Selector("right of", (line,), lambda p: side_of(p, line))


def beyond(line: Line) -> Selector:
    """The crossing farther along the line's direction."""
    return Selector("along", (line,), lambda p: -(p.x * line.dx + p.y * line.dy))


def short_of(line: Line) -> Selector:
    """The crossing less far along the line's direction."""
    return Selector("back along", (line,), lambda p: p.x * line.dx + p.y * line.dy)


def inside(circle: Circle) -> Selector:
    """The crossing inside a circle (the one nearer to its centre if both are)."""
    return Selector("inside", (circle,), lambda p: _square(p, circle.centre))


def outside(circle: Circle) -> Selector:
    """The crossing outside a circle."""
    return Selector("outside", (circle,), lambda p: -_square(p, circle.centre))


upper = Selector("upper", (), lambda p: -p.y)
"""The crossing higher on the sheet."""

lower = Selector("lower", (), lambda p: p.y)
"""The crossing lower on the sheet."""

rightmost = Selector("right", (), lambda p: -p.x)
"""The crossing farther right on the sheet."""

leftmost = Selector("left", (), lambda p: p.x)
"""The crossing farther left on the sheet."""
