"""Angle between two faces given by their corners, with the line in which they meet.

Method: two points of the common line by cutting both faces with level planes, or where edges of one pierce the other; the
line in its true length in a first auxiliary view, as a point in a second, where both faces stand on edge. A corner that the
faces share, a face on edge in a view and a line parallel with a plane of projection each save work, and are used.
Truth: the normals; the part within both faces from where the line leaves each of them.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, absolute, atan2_deg, roughly
from wisecompass.catalogue.space.hidden import line_in_faces
from wisecompass.catalogue.space.lines import slope
from wisecompass.catalogue.space.meeting import Meeting, Way, find_line, mark_ends, meeting, share
from wisecompass.catalogue.space.planes import (
    MODEL,
    Names,
    Triple,
    a_triangle,
    distinct,
    face,
    given,
    moved_along,
    normal,
    outline,
    start_faces,
    views_for,
)
from wisecompass.catalogue.space.two_faces import ALL, FIRST, SECOND, common, line_direction, place_of, stretches
from wisecompass.catalogue.space.ways_to_the_line import BY_CUTS, BY_PIERCING
from wisecompass.drafting import givens
from wisecompass.drafting.auxiliary import auxiliary
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, Value, method, slip
from wisecompass.drafting.step import Kind
from wisecompass.drafting.view import View
from wisecompass.drafting.views import Views
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point
from wisecompass.geometry.space import Point3, cross, distance3, dot, norm


@dataclass(frozen=True)
class TwoFaces(Givens):
    A: Triple = givens.space_point("corner A of the first face", "10, 12, 16")
    B: Triple = givens.space_point("corner B of the first face", "45, 40, 57")
    C: Triple = givens.space_point("corner C of the first face", "102, 15, 24")
    D: Triple = givens.space_point("corner D of the second face", "30, 55, 54")
    E: Triple = givens.space_point("corner E of the second face", "78, 18, 59")
    F: Triple = givens.space_point("corner F of the second face", "93, 45, 23")


def truth(g: TwoFaces, number: Make) -> Truth:
    n, m, how = normal(g, FIRST), normal(g, SECOND), common(g)
    angle = atan2_deg(norm(line_direction(g)), absolute(dot(n, m)))
    points: dict[str, plane.Point | Point3] = {name: given(g, name) for name in ALL}
    findings: dict[str, Value] = {
        "dihedral_angle": angle,
        "obtuse_angle": 180 - angle,
        "line_length": None,
        "line_start": None,
        "line_end": None,
        "extended": how.extended,
    }
    if how.start is not None and how.end is not None:
        start, end = place_of(g, how.start), place_of(g, how.end)
        points |= {"S": start, "T": end}
        apart = number(0) if how.is_a_point else distance3(start, end)
        findings |= {"line_length": apart, "line_start": start, "line_end": end}
    return Truth(points=points, findings=findings)


def _construct(b: Board, g: TwoFaces, way: Way) -> None:
    how = common(g)
    views = views_for(b, g, ALL)
    start_faces(b, views, FIRST, SECOND)
    m = meeting(views, g.bound_in(PLAIN), how, way)
    find_line(m, way)
    ends = mark_ends(m)
    b.find("extended", how.extended)
    b.find("line_start", views.know("S") if ends else None)
    b.find("line_end", views.know("T") if ends else None)
    line_in_faces(m, ends)
    _angle(b, m, ends)


def _angle(b: Board, m: Meeting, ends: bool) -> None:
    """Both faces on edge, in the view that shows their common line as a point."""
    views, how = m.views, m.how
    names = list(dict.fromkeys([*distinct(views, ALL), *m.points, *(("S", "T") if ends else ())]))
    names = distinct(views, names) if not how.upright else list(distinct(views, ALL))
    low, up = views.top_view, views.front_view
    length_in: View = up
    if how.upright:
        view = low
    elif how.level or how.frontal:
        length_in = low if how.level else up
        b.step_reason(f"The {length_in.title} shows the common line in its true length: one auxiliary view less")
        line = length_in.line(*m.points)
        view = auxiliary(views, length_in, line, names, square=True, why="square to the line, to see it as a point")
    else:
        line = low.line(*m.points)
        length_in = auxiliary(views, low, line, names, before=up, why="along the common line, for its true length")
        share(length_in, low)
        outline(views, length_in, FIRST, SECOND)
        line = length_in.line(*m.points)
        why = "square to the true length, to see the line as a point"
        view = auxiliary(views, length_in, line, names, square=True, why=why)
    share(view, low)
    share(length_in, low)
    at = view.images[m.points[0]]
    if not how.upright:
        b.check("the common line is a point in the last view", plane.distance(at, view.images[m.points[1]]))
    rays = [_ray(b, view, at, names) for names in (FIRST, SECOND)]
    b.line_in(*((at, far) for _, far in rays), why="both faces on edge")
    b.caution("An edge view that does not come out straight tells how far the drawing has strayed.")
    (one, _), (two, _) = rays
    angle = slope(one, Point(at.x, at.y), Point(at.x + two.dx, at.y + two.dy))
    b.find("dihedral_angle", angle)
    b.misread(angle_in_front.name, lambda: {"dihedral_angle": slope(up.line("A", "B"), up.images["D"], up.images["E"])})
    b.misread(angle_of_cuts.name, lambda: {"dihedral_angle": _of_level_lines(views)})
    b.find("obtuse_angle", 180 - angle)
    b.find("line_length", None)
    if ends:
        start, end = length_in.images["S"], length_in.images["T"]
        b.find("line_length", b.number(0) if how.is_a_point else plane.distance(start, end))
        b.misread(drawn_beyond.name, lambda: {"line_length": _longest(m.flat)})
        if not how.is_a_point:
            b.dimension(start, end, offset=7)
    if b.drawing:
        _dimension(b, at, rays[0][1], rays[1][1])


def _of_level_lines(views: Views) -> Number:
    """The acute angle, in the top view, of a level line of either face: they run as the plans of the normals, turned."""
    plans = []
    for p, q, r in (FIRST, SECOND):
        start = views.know(p)
        square = cross(views.know(q) - start, views.know(r) - start)
        plans.append((square.x, square.front))
    (ax, ay), (bx, by) = plans
    return atan2_deg(absolute(ax * by - ay * bx), absolute(ax * bx + ay * by))


def _longest(g: Any) -> Number:
    """The part of the common line that the longer of both faces has."""
    return max((distance3(place_of(g, start), place_of(g, end)) for start, end in stretches(g)), key=roughly)


def _ray(b: Board, view: View, at: Point, names: Names) -> tuple[Line, Point]:
    """A face on edge: the line from the point view to its farthest corner; the other corners must lie on it."""
    far = max(names, key=lambda n: roughly(plane.distance(at, view.images[n])))
    line = Line.through(at, view.images[far])
    for name in names:
        if name != far:
            off = plane.distance_to_line(view.images[name], line)
            b.check(f"{name} lies in the edge view of {''.join(names)}", off)
    return line, view.images[far]


def _dimension(b: Board, at: Point, one: Point, other: Point) -> None:
    turn = float(plane.turn_at(at, one, other))
    b.dimension_angle(at, *((one, other) if turn > 0 else (other, one)), radius=16)


@method("horizontal cuts", Exactness.EXACT)
def horizontal_cuts(b: Board, g: TwoFaces) -> None:
    _construct(b, g, BY_CUTS)


@method("edges piercing", Exactness.EXACT)
def edges_piercing(b: Board, g: TwoFaces) -> None:
    _construct(b, g, BY_PIERCING)


@slip("the angle of the faces measured in the front view, between the edges AB and DE")
def angle_in_front(g: TwoFaces, number: Make) -> dict[str, Number]:
    u, v = given(g, "B") - given(g, "A"), given(g, "E") - given(g, "D")
    turn, along = u.x * v.above - u.above * v.x, u.x * v.x + u.above * v.above
    if g.decide(lambda h: (h.B[0] - h.A[0]) ** 2 + (h.B[2] - h.A[2]) ** 2) == 0:
        return {}
    if g.decide(lambda h: (h.E[0] - h.D[0]) ** 2 + (h.E[2] - h.D[2]) ** 2) == 0:
        return {}
    return {"dihedral_angle": atan2_deg(absolute(turn), absolute(along))}


@slip("the angle between two level cuts in the top view taken for the angle of the faces")
def angle_of_cuts(g: TwoFaces, number: Make) -> dict[str, Number]:
    n, m = normal(g, FIRST), normal(g, SECOND)
    if face(g, FIRST).level or face(g, SECOND).level:
        return {}
    turn, along = n.x * m.front - n.front * m.x, n.x * m.x + n.front * m.front
    return {"dihedral_angle": atan2_deg(absolute(turn), absolute(along))}


@slip("the common line drawn as far as the longer of both faces goes, beyond where both exist")
def drawn_beyond(g: TwoFaces, number: Make) -> dict[str, Number]:
    lengths = [distance3(place_of(g, start), place_of(g, end)) for start, end in stretches(g)]
    return {"line_length": max(lengths, key=float)} if len(lengths) > 1 and common(g).start is not None else {}


def _turned(g: TwoFaces) -> dict[str, str]:
    """F moved off its plane."""
    return {"F": moved_along(given(g, "F"), normal(g, SECOND))}


PROBLEM = Problem(
    id="space/dihedral-angle",
    title="Angle between two faces",
    brief=(
        "One face has its corners at A {A}, B {B} and C {C}, another at D {D}, E {E} and F {F}. Find the line in which they "
        "meet and the angle between them."
    ),
    givens=TwoFaces,
    truth=truth,
    methods=(horizontal_cuts, edges_piercing),
    findings={
        "dihedral_angle": Kind.ANGLE,
        "obtuse_angle": Kind.ANGLE,
        "line_length": Kind.LENGTH,
        "line_start": Kind.POINT,
        "line_end": Kind.POINT,
        "extended": Kind.CHOICE,
    },
    source="Monge, Géométrie descriptive: intersection of planes and change of the planes of projection.",
    conditions=(
        a_triangle(FIRST),
        a_triangle(SECOND),
        Condition(
            "faces not parallel",
            lambda g: dot(line_direction(g), line_direction(g)),
            "the faces ABC and DEF are parallel or in one plane: they have no line in common and no angle between them",
            ("F",),
            _turned,
            strict=True,
        ),
    ),
    slips=(angle_in_front, angle_of_cuts, drawn_beyond),
    cautions=(MODEL,),
)
