"""The far rim of a round hole or of a cylinder: the near one moved along the axis, of which only a part is seen."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from wisecompass.arithmetic import roughly
from wisecompass.catalogue.pictorial.iso_round import LONG_WAY, Carried, FourArcs, Rhombus, Signs, semi_axes
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


def hole_by_points(
    b: Board, r: Rhombus, points: Sequence[Carried], along: Line, by: Settable, depth: float, *, back: bool
) -> None:
    """The same by points: those whose place lies inside the near rim are moved and the curve faired through them. ``depth``
    is that of the hole by its diameter."""
    inside = sorted((p for p in points if _depth(r, p) < -2 * depth - 1e-9), key=lambda p: _along(r, p))
    with b.gathered("parallel", Instrument.SET_SQUARE, "The points whose place shows, moved along the axis by the depth"):
        far = [moved(b, p.point, along, by, f"{p.point.name}f", back=back) for p in inside]
    if len(far) > 1:
        dip = math.asin(min(1.0, depth * math.sqrt(2)))
        b.fair_curve(lambda: [(_arc_of(r, by, -math.pi + dip, -dip), Pen.OUTLINE)], far, "far rim")


def sharp_ends(b: Board, f: FourArcs) -> dict[Signs, Point]:
    """The ends of the long axis: where the long diagonal of the rhombus leaves the small arcs."""
    r = f.of
    found: dict[Signs, Point] = {}
    with b.gathered("join", Instrument.STRAIGHTEDGE, "The ends of the long axis, on the long diagonal"):
        first, second = (r.corners[at] for at in r.sharp)
        diagonal = b.line(first, second, "long diagonal")
        for k, at in enumerate(r.sharp, 1):
            ring = b.arc(f.small[at], f.small_opening, name=f"small arc about {f.small[at].name}")
            found[at] = b.meet(ring, diagonal, plane.farthest(r.centre), f"K{k}")
    return found


def half_rim(
    b: Board,
    f: FourArcs,
    ends: dict[Signs, Point],
    along: Line,
    by: Settable,
    side: Signs,
    tag: str,
    *,
    back: bool,
    pen: Pen,
) -> None:
    """One half of the far rim, on the side of a blunt corner, with the openings of the near one: centres and joints moved by
    the length along the axis. ``ends`` are the ends of its long axis."""
    r = f.of
    large = f.large[opposite(side)]
    with b.gathered(
        "parallel", Instrument.SET_SQUARE, "The centres and joints of that half, moved along the axis by the length"
    ):
        centre = moved(b, large, along, by, f"L{tag}", back=back)
        joints = {
            at: moved(b, r.middles[at], along, by, f"J{tag}{k}", back=back)
            for k, at in enumerate(((side[0], 0), (0, side[1])), 1)
        }
        small = {at: moved(b, c, along, by, f"T{tag}{k}", back=back) for k, (at, c) in enumerate(f.small.items(), 1)}
    b.line_in_arc(centre, *turning(centre, *joints.values()), name=f"far rim{tag}", pen=pen)
    for k, (at, own) in enumerate(small.items(), 1):
        joint = joints[side[0], 0] if at[0] == side[0] else joints[0, side[1]]
        b.line_in_arc(own, *turning(own, joint, ends[at]), name=f"far rim{tag}, end {k}", pen=pen)


def half_by_points(
    b: Board,
    r: Rhombus,
    points: Sequence[Carried],
    known: Mapping[str, Point],
    along: Line,
    by: Settable,
    side: int,
    *,
    back: bool,
    pen: Pen,
) -> None:
    """The same by points of the near rim on one side of its long axis, with both ends of that, which are ``known`` to be
    moved; ``side`` 1 away from the eye."""
    wanted = sorted((p for p in points if _depth(r, p) * side > -1e-9), key=lambda p: _along(r, p))
    with b.gathered("parallel", Instrument.SET_SQUARE, "The points of that half, moved along the axis by the length"):
        far = [known.get(p.point.name) or moved(b, p.point, along, by, f"{p.point.name}f", back=back) for p in wanted]
    start, end = (0.0, math.pi) if side > 0 else (-math.pi, 0.0)
    b.fair_curve(lambda: [(_arc_of(r, by, start, end), pen)], far, "far rim" if pen is Pen.OUTLINE else "hidden half")


def _way(r: Rhombus) -> Pair:
    """The direction in which the far rim lies, along the short axis."""
    turn = math.radians({"top": 270, "left": 30, "right": 150}[r.face])
    return math.cos(turn), math.sin(turn)


def _depth(r: Rhombus, p: Carried) -> float:
    """How far a point lies along the short axis, away from the eye, in quarters of the diameter."""
    s, t = ahead(r.face)
    return s * p.u + t * p.v


def _along(r: Rhombus, p: Carried) -> float:
    """The same along the long axis."""
    s, t = r.sharp[1]
    return s * p.u + t * p.v


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
