"""The far rim of a round hole or of a cylinder: the near one moved along the axis, of which only a part is seen."""

from __future__ import annotations

import math
from collections.abc import Sequence

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.pictorial.iso_round import LONG_WAY, FourArcs, Rhombus, Signs, semi_axes
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.setting import Settable, bare
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Pair, Parametric
from wisecompass.geometry.plane import Line, Point


def ahead(face: str) -> Signs:
    """The blunt corner of the rhombus that lies away from the eye, where the far rim is moved to."""
    return (-1, -1) if face == "top" else (-1, 1)


def opposite(at: Signs) -> Signs:
    return -at[0], -at[1]


def moved(b: Board, point: Point, along: Line, by: Settable, name: str, *, back: bool) -> Point:
    """A place of the near rim moved along the axis to the far one."""
    line = b.parallel(along, point, f"axis through {point.name}")
    return b.lay_off(line, point, by, name, back=back)


def turning(centre: Point, first: Point, second: Point) -> tuple[Point, Point]:
    """Two ends of an arc of less than half a turn in their order, anticlockwise."""
    x, y = roughly(centre.x), roughly(centre.y)
    turn = (roughly(first.x) - x) * (roughly(second.y) - y) - (roughly(first.y) - y) * (roughly(second.x) - x)
    return (first, second) if turn > 0 else (second, first)


def through_a_hole(b: Board, f: FourArcs, along: Line, by: Settable, deep: int, *, back: bool) -> None:
    """What a hole shows of its far rim, with the same openings: only the centres are moved whose arcs show. ``deep`` says
    whether the hole is deeper (1) than half its diameter: then no small arc of the far rim is seen."""
    r, beyond = f.of, ahead(f.of.face)
    near = opposite(beyond)
    with b.gathered(
        "parallel", Instrument.SET_SQUARE, "The centre of the arc that shows, moved along the axis by the depth"
    ):
        centre = moved(b, f.large[beyond], along, by, "L1", back=back)
    if deep > 0:
        with b.gathered(
            "arc", Instrument.COMPASS, "The same opening about both centres, light, to find where the far rim dips"
        ):
            far = b.arc(centre, f.opening, name="far arc")
            ring = b.arc(f.large[near], f.opening, name="near arc")
            ends = b.both(far, ring, ("X1", "X2"), plane.nearest(r.middles[near[0], 0]))
        b.line_in_arc(centre, *turning(centre, *ends), name="far rim")
        return
    first, second = r.middles[near[0], 0], r.middles[0, near[1]]
    with b.gathered("parallel", Instrument.SET_SQUARE, "The ends of that arc, moved as far"):
        joints = [moved(b, at, along, by, name, back=back) for at, name in ((first, "J1"), (second, "J2"))]
    b.line_in_arc(centre, *turning(centre, joints[0], joints[1]), name="far rim")
    if not deep:
        return
    for k, (at, small) in enumerate(f.small.items(), 1):
        with b.gathered(
            "arc", Instrument.COMPASS, "A small centre, moved as far, and where its arc dips under the near rim"
        ):
            own = moved(b, small, along, by, f"T{k}", back=back)
            far, ring = (
                b.arc(c, f.small_opening, name=f"{word} end arc {k}") for c, word in ((own, "far"), (small, "near"))
            )
            end = b.meet(far, ring, plane.farthest(r.centre), f"X{k}")
        joint = joints[0] if at[0] == near[0] else joints[1]
        b.line_in_arc(own, *turning(own, joint, end), name=f"far rim, end {k}")


def hole_by_points(b: Board, r: Rhombus, points: Sequence[Point], along: Line, by: Settable, *, back: bool) -> None:
    """The same by points: those whose place lies inside the near rim are moved and the curve faired through them."""
    shift = float(roughly(bare(by)))
    a, c = (float(roughly(each)) for each in semi_axes(bare(r.size)))
    inside = sorted((p for p in points if _depth(r, p) < -shift / 2 - 1e-9 * a), key=lambda p: _along(r, p))
    far = [moved(b, p, along, by, f"{p.name}f", back=back) for p in inside]
    if len(far) > 1:
        dip = math.asin(min(1.0, shift / (2 * c)))
        b.fair_curve(lambda: [(_arc_of(r, by, -math.pi + dip, -dip), Pen.OUTLINE)], far, "far rim")


def _way(r: Rhombus) -> Pair:
    """The direction in which the far rim lies, along the short axis."""
    turn = math.radians({"top": 270, "left": 30, "right": 150}[r.face])
    return math.cos(turn), math.sin(turn)


def _depth(r: Rhombus, p: Point) -> float:
    """How far a place lies along the short axis from the centre, away from the eye."""
    (ux, uy), x, y = _way(r), roughly(p.x) - roughly(r.centre.x), roughly(p.y) - roughly(r.centre.y)
    return x * ux + y * uy


def _along(r: Rhombus, p: Point) -> float:
    """The same along the long axis."""
    turn = math.radians(LONG_WAY[r.face])
    x, y = roughly(p.x) - roughly(r.centre.x), roughly(p.y) - roughly(r.centre.y)
    return x * math.cos(turn) + y * math.sin(turn)


def _arc_of(r: Rhombus, by: Settable, start: float, end: float) -> Parametric:
    """The far ellipse between two angles; 0 along the long axis, a quarter turn away from the eye."""
    a, c = (float(roughly(each)) for each in semi_axes(bare(r.size)))
    turn, (ux, uy), shift = math.radians(LONG_WAY[r.face]), _way(r), float(roughly(bare(by)))
    lx, ly = math.cos(turn), math.sin(turn)
    x, y = roughly(r.centre.x) + shift * ux, roughly(r.centre.y) + shift * uy

    def place(t: float) -> Pair:
        p, q = a * math.cos(t), c * math.sin(t)
        return x + p * lx + q * ux, y + p * ly + q * uy

    def velocity(t: float) -> Pair:
        p, q = -a * math.sin(t), c * math.cos(t)
        return p * lx + q * ux, p * ly + q * uy

    return Parametric(place, velocity, start, end, 4)
