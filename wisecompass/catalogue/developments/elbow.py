"""An elbow of several pieces, laid out by parallel lines: each piece is a pipe cut aslant, and with their seams opposed all
pieces nest in one blank without waste.

Truth: half a middle piece at a generator is x tan μ long, with x its distance from the centre of the bend and μ the mitre
angle; the joints are ellipses.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from wisecompass.arithmetic import PLAIN, Number, absolute, cos_deg, elliptic_e, pi_times, tan_deg
from wisecompass.catalogue.developments.pattern import Rung, draw_laps, show_pieces
from wisecompass.catalogue.developments.rims import greatest, numbered
from wisecompass.catalogue.developments.round_cut import even_divisions
from wisecompass.catalogue.developments.sheet import CAUTIONS, Seamed, lap_fits, neutral_line, seam_is_there, thin_enough
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import Givens, angle, at_least, count, length
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition, Exactness, Make, Problem, Truth, method, slip
from wisecompass.drafting.setting import pi_times as reckoned_pi
from wisecompass.drafting.setting import span
from wisecompass.drafting.step import Kind
from wisecompass.drafting.view import Triple
from wisecompass.geometry import plane
from wisecompass.geometry.curves import Parametric
from wisecompass.geometry.plane import Line, Point

JOINTS = "ABCDEFGH"
"""Letters of the joints, from the base up."""


@dataclass(frozen=True)
class _Sizes(Givens):
    diameter: Number = length("diameter", "56")
    bend_angle: Number = angle("bend", "90", "1", "180")
    pieces: int = count("pieces, the ends counted as one each", "4", 2, len(JOINTS) + 1)
    throat_radius: Number = length("throat radius", "62")
    divisions: int = count("divisions", "12", 4, 48)


@dataclass(frozen=True)
class Elbow(Seamed, _Sizes):
    """An elbow of sheet; its diameter is an inside size, the throat is measured to the inside."""

    @property
    def across(self) -> Any:
        return self.diameter + self.thickness if self.has_thickness else self.diameter

    @property
    def throat(self) -> Any:
        return self.throat_radius - self.thickness / 2 if self.has_thickness else self.throat_radius

    @property
    def joints(self) -> int:
        return self.pieces - 1

    @property
    def mitre(self) -> Any:
        return self.bend_angle / (2 * self.joints)

    @property
    def names(self) -> list[str]:
        return numbered("", self.divisions)


def _half(g: Elbow, k: int) -> Number:
    """Half the length of a middle piece at generator k, counted from 0 at the back; the whole of an end piece."""
    way = (g.diameter * 0 + 360) * k / g.divisions
    half: Number = (g.throat + g.across / 2 * (1 + cos_deg(way))) * tan_deg(g.mitre)
    return half


def _heights(g: Elbow, order: Sequence[int]) -> list[list[Number]]:
    """How high every joint stands in the blank at each generator; every second piece is turned half round."""
    n, found = g.divisions, []
    rise = _half(g, 0) + _half(g, n // 2)
    for j in range(g.joints):
        found.append([rise * j + _half(g, k if j % 2 == 0 else (k + n // 2) % n) for k in order])
    return found


def flat(j: int, k: int, last: bool) -> str:
    return f"{JOINTS[j]}{k + 1}/flat{' end' if last else ''}"


def truth(g: Elbow, number: Make) -> Truth:
    zero, n, order = number(0), g.divisions, g.round_from_seam(g.divisions)
    points = {"O": Point(zero, zero), "Q": Point(g.throat + g.across / 2, zero)}
    step = pi_times(g.across) / n
    for k, at in enumerate(order):
        points[f"{g.names[at]}/flat{' end' if k == n else ''}"] = Point(step * k, zero)
        for j, row in enumerate(_heights(g, order)):
            points[flat(j, at, k == n)] = Point(step * k, row[k])
    for k in range(n // 2 + 1):
        x = g.throat + g.across / 2 * (1 + cos_deg(number(360) * k / n))
        points[f"P{k + 1}"] = Point(x, x * tan_deg(g.mitre))
    girth, blank = pi_times(g.across), (g.throat * 2 + g.across) * tan_deg(g.mitre) * g.joints
    tilt = cos_deg(g.mitre)
    rim = g.across / tilt * 2 * elliptic_e(1 - tilt * tilt)
    return Truth(
        points=points,
        findings={
            "mitre_angle": g.mitre + zero,
            "back_length": (g.throat + g.across) * tan_deg(g.mitre) * 2,
            "throat_length": g.throat * tan_deg(g.mitre) * 2,
            "blank_length": blank,
            "girth": girth,
            "lateral_area": girth * blank,
            "area": girth * blank,
            "perimeter": (girth + blank) * 2 + rim * g.joints,
            "seam_length": _half(g, g.seam - 1),
            "generator_lengths": tuple(_half(g, k) for k in order[:-1]),
        },
    )


@method("parallel lines", Exactness.EXACT_POINTS)
def parallel_lines(b: Board, g: Elbow) -> None:
    with b.block("elbow"):
        base, centre, joints, cut = _elbow(b, g)
    n, order, begun = g.divisions, g.round_from_seam(g.divisions), len(b.steps)
    with b.block("pattern"):
        names = [f"{g.names[at]}/flat{' end' if k == n else ''}" for k, at in enumerate(order)]
        start = b.point(names[0], b.number(0), b.number(0), why="the seam begins the blank")
        along = b.level_line(start, "stretch-out line")
        end = b.lay_off(along, start, reckoned_pi(g.across), names[-1], why="the girth, reckoned")
        feet = [start, *b.divide(start, end, n, names[1:-1], why="as many parts as the circle has"), end]
        lines = [b.upright_line(foot, f"generator at {foot.name}") for foot in feet]
        rows: list[list[Point]] = [feet]
        for j in range(g.joints):
            row = []
            for k, (at, line) in enumerate(zip(order, lines, strict=True)):
                place = at if j % 2 == 0 else (at + n // 2) % n
                reach = span(cut[min(place, n - place)], base)
                why = "from the front view" if j == 0 else "twice the half piece across, its seam opposed"
                row.append(b.lay_off(line, rows[-1][k], reach if j == 0 else reach * 2, flat(j, at, k == n), why=why))
            b.plot(*row)
            rows.append(row)
        if g.joints > 1:
            b.caution("Every second piece lies turned half round: its seam comes out opposite, and no sheet is wasted.")
        tops = []
        for k in (0, n):
            place = order[k] if g.joints % 2 == 0 else (order[k] + n // 2) % n
            reach = span(cut[min(place, n - place)], base)
            tops.append(b.lay_off(lines[k], rows[-1][k], reach, f"{'YZ'[k == n]}/flat", why="the other end piece"))
        sides = [[*(row[k] for row in rows), top] for k, top in zip((0, n), tops, strict=True)]
        _line_in(b, g, rows, sides)
    _measure(b, g, rows, sides, (base, centre), joints, cut)
    show_pieces(b, _pieces(g), begun)


def _pieces(g: Elbow) -> list[list[Rung]]:
    """Every piece on the bent pipe by its generators from its own seam round to it, for the eye."""
    h = g.bound_in(PLAIN)
    n, radius, mitre = h.divisions, h.across / 2, math.radians(h.mitre)
    order, bend = h.round_from_seam(n), math.radians(h.bend_angle)

    def place(k: int, joint: int) -> Triple:
        """Generator k on a joint, counted from 0; −1 is the base, and the last the other end."""
        way = math.tau * k / n
        out = h.throat + radius * (1 + math.cos(way))
        turn, rise = (
            (0.0, 0.0) if joint < 0 else (bend, 0.0) if joint == h.joints else (2 * joint * mitre, out * math.tan(mitre))
        )
        x, z = out * math.cos(turn) - rise * math.sin(turn), out * math.sin(turn) + rise * math.cos(turn)
        return x, h.across - radius * math.sin(way), z

    found = []
    for piece in range(h.pieces):
        ways = [(k + (n // 2 if piece % 2 else 0)) % n for k in order]
        found.append([(place(k, piece - 1), place(k, piece)) for k in ways])
    return found


def _elbow(b: Board, g: Elbow) -> tuple[Line, Point, list[Line], list[Point]]:
    """The elbow seen square to its bend: base, mitre lines, outlines, and the first piece's generators up to its joint."""
    centre = b.point("O", b.number(0), b.number(0), why="the centre of the bend")
    base = b.level_line(centre, "base")
    middle = b.lay_off(base, centre, g.throat + g.across / 2, "Q", why="throat and half the diameter")
    circle = b.arc(middle, g.across / 2, name="end of the pipe", why="turned into the sheet", whole=True)
    n = g.divisions
    parts = b.divide_circle(circle, n, 0, g.names, why="anticlockwise, the back first")
    joints = []
    for j in range(g.joints):
        share = g.mitre * (2 * j + 1)
        joints.append(b.protract(base, centre, share, f"joint {JOINTS[j]}", why="half a piece's share, then whole ones"))
    b.caution("The end pieces are half a middle piece: the bend is divided by twice the pieces less two.")
    cut = []
    for k in range(n // 2 + 1):
        line = b.upright_line(parts[k], f"generator {k + 1}")
        b.pencil()
        cut.append(b.meet(line, joints[0], name=f"P{k + 1}"))
    last = b.protract(base, centre, g.bend_angle, "other end", why="the whole bend")
    _outlines(b, g, centre, base, (joints, last), cut)
    return base, centre, joints, cut


def _outlines(b: Board, g: Elbow, centre: Point, base: Line, lines: tuple[list[Line], Line], cut: list[Point]) -> None:
    """Back and throat of every piece: their corners lie on circles about the centre of the bend."""
    joints, last = lines
    edges: list[tuple[Point, Point]] = []
    rows = ((cut[0], "back", "V", g.throat + g.across), (cut[-1], "throat", "U", g.throat))
    for place, word, letter, size in rows:
        start = b.lay_off(base, centre, size, f"{letter}1", why=f"the {word} at the base")
        row = [start, place]
        if len(joints) > 1:
            arc = b.arc(centre, span(centre, place), name=f"circle of the {word}", why="all corners are as far out")
            for j, joint in enumerate(joints[1:], 1):
                b.pencil()
                row.append(b.meet(arc, joint, plane.beyond(joint), f"{letter}{j + 1}"))
        row.append(b.lay_off(last, centre, size, f"{letter}{len(joints) + 1}", why=f"the {word} at the end"))
        edges += pairwise(row)
        edges += [(p, p) for p in row]
    straight = [(p, q) for p, q in edges if p is not q]
    corners = [p for p, q in edges if p is q]
    half = len(corners) // 2
    across = list(zip(corners[:half], corners[half:], strict=True))
    b.line_in(*straight, *across, why="the pieces, from joint to joint")


def _line_in(b: Board, g: Elbow, rows: list[list[Point]], sides: list[list[Point]]) -> None:
    left, right = sides
    whole = [(left[0], right[0]), (left[0], left[-1]), (left[-1], right[-1])]
    if g.is_lapped:
        b.line_in(*pairwise(right), pen=Pen.FOLD, why="where the laps of the seams are folded")
        draw_laps(b, g.lap, list(pairwise(right)))
    else:
        whole.append((right[0], right[-1]))
    b.line_in(*whole, pen=Pen.CUT, why="the blank")
    for j, row in enumerate(rows[1:]):
        b.fair_curve(_wave(g, j), row, f"joint {JOINTS[j]} in the blank", why="through the ends of the generators")
    b.caution("Cut edges are sharp and burred: wear gloves and deburr before rolling.")
    side = "inside" if g.inside == "up" else "outside"
    b.caution(f"The {side} of the sheet lies up: mark it on every piece; rolled the other way the elbow bends wrong.")


def _wave(g: Elbow, j: int) -> Any:
    """The joint in the blank, by its equation."""

    def curve() -> list[tuple[Parametric, Pen]]:
        h = g.bound_in(PLAIN)
        radius, slope = float(h.across) / 2, math.tan(math.radians(float(h.mitre)))
        middle = float(h.throat) + radius
        first = math.tau * (h.seam - 1) / h.divisions + (math.pi if j % 2 else 0.0)
        way = -1 if h.inside == "up" else 1

        def place(t: float) -> tuple[float, float]:
            return radius * t, slope * (middle * (2 * j + 1) + radius * math.cos(first + way * t))

        def velocity(t: float) -> tuple[float, float]:
            return radius, -slope * radius * way * math.sin(first + way * t)

        return [(Parametric(place, velocity, 0.0, math.tau, 8), Pen.CUT)]

    return curve


def _measure(
    b: Board,
    g: Elbow,
    rows: list[list[Point]],
    sides: list[list[Point]],
    at: tuple[Line, Point],
    joints: list[Line],
    cut: list[Point],
) -> None:
    base, centre = at
    n, order = g.divisions, g.round_from_seam(g.divisions)
    feet, first = rows[0], rows[1]
    lengths = [plane.distance(p, q) for p, q in zip(feet, first, strict=True)][:-1]
    girth, blank = plane.distance(feet[0], feet[-1]), plane.distance(sides[0][0], sides[0][-1])
    by_number = dict(zip(order, lengths, strict=False))
    across = girth / pi_times(b.number(1))
    long = plane.distance(cut[0], cut[-1])
    mitre = plane.angle_at(centre, base.point_at(b.number(1)), cut[0])
    b.find("mitre_angle", mitre)
    b.find("back_length", by_number[0] * 2)
    b.misread(divided_by_pieces.name, lambda: {"mitre_angle": mitre * 2 * g.joints / g.pieces})
    b.misread(throat_for_axis.name, lambda: {"back_length": by_number[0] * 2 - across * tan_deg(mitre)})
    b.find("throat_length", by_number[n // 2] * 2)
    b.find("blank_length", blank)
    b.misread(ends_whole.name, lambda: {"blank_length": blank * g.pieces / g.joints})
    b.find("girth", girth)
    b.find("lateral_area", girth * blank)
    b.find("area", girth * blank)
    rim = long * 2 * elliptic_e(1 - across * across / (long * long))
    b.find("perimeter", (girth + blank) * 2 + rim * g.joints)
    b.find("seam_length", lengths[0])
    b.find("generator_lengths", tuple(lengths))
    b.find_if_asked("refold_gap", lambda: _rolled_gap(b, g, feet, first, centre, cut))
    b.check("both edges of the blank are equally long", plane.distance(sides[1][0], sides[1][-1]) - blank)
    b.check(
        "the pieces together are as long as their axes",
        blank - (by_number[0] + by_number[n // 2]) * g.joints,
    )


def _rolled_gap(b: Board, g: Elbow, feet: list[Point], first: list[Point], centre: Point, cut: list[Point]) -> Number:
    """Rolled up the first piece ends in the plane of its joint: how far its points miss it at most, mm."""
    radius = plane.distance(feet[0], feet[-1]) / pi_times(b.number(2))
    middle = (cut[0].x + cut[-1].x) / 2 - centre.x
    joint = Line.through(centre, cut[0])
    way = -1 if g.inside == "up" else 1
    gaps = []
    for foot, top in zip(feet, first, strict=True):
        turned = b.number(360) * (g.seam - 1) / g.divisions + foot.x * way * 180 / pi_times(radius)
        place = Point(centre.x + middle + radius * cos_deg(turned), centre.y + plane.distance(foot, top))
        gaps.append(absolute(plane.distance_to_line(place, joint)))
    return greatest(gaps)


@slip("the bend divided by the pieces")
def divided_by_pieces(g: Elbow, number: Make) -> dict[str, Number]:
    return {"mitre_angle": g.bend_angle / g.pieces}


@slip("the ends counted as whole pieces")
def ends_whole(g: Elbow, number: Make) -> dict[str, Number]:
    return {"blank_length": (g.throat * 2 + g.across) * tan_deg(g.mitre) * g.pieces}


@slip("the throat taken for the radius of the axis")
def throat_for_axis(g: Elbow, number: Make) -> dict[str, Number]:
    return {"back_length": (g.throat + g.across / 2) * tan_deg(g.mitre) * 2}


PROBLEM = Problem(
    id="developments/elbow",
    title="Elbow laid out flat",
    brief=(
        "Lay out flat an elbow {diameter} across that bends {bend_angle} in {pieces} pieces, its ends counted as one each, "
        "with a throat radius of {throat_radius}, by {divisions} generators; seam at generator {seam}, lap {lap}, sheet "
        "{thickness} thick, inside {inside}."
    ),
    givens=Elbow,
    truth=truth,
    methods=(parallel_lines,),
    findings={
        "mitre_angle": Kind.ANGLE,
        "back_length": Kind.LENGTH,
        "throat_length": Kind.LENGTH,
        "blank_length": Kind.LENGTH,
        "girth": Kind.LENGTH,
        "lateral_area": Kind.AREA,
        "area": Kind.AREA,
        "perimeter": Kind.LENGTH,
        "seam_length": Kind.LENGTH,
        "generator_lengths": Kind.LENGTH,
        "refold_gap": Kind.LENGTH,
    },
    source="Parallel lines; mitres at equal angles about the centre of the bend.",
    conditions=(
        even_divisions(),
        seam_is_there("generator", lambda g: g.divisions),
        thin_enough("diameter"),
        Condition(
            "mitres that still cut the pipe across",
            lambda g: 80 - g.mitre,
            "{pieces} pieces for a bend of {bend_angle} make mitres of more than 80°",
            ("pieces", "bend_angle"),
            lambda g: {"pieces": str(g.pieces + 1)},
        ),
        Condition(
            "a throat outside the sheet",
            lambda g: g.throat_radius - g.thickness,
            "a throat radius of {throat_radius} is less than the sheet is thick, {thickness}",
            ("throat_radius", "thickness"),
            lambda g: {"throat_radius": at_least(g.thickness)},
        ),
        lap_fits("the throat of an end piece", lambda g: g.throat * tan_deg(g.mitre)),
    ),
    slips=(divided_by_pieces, ends_whole, throat_for_axis),
    cautions=CAUTIONS,
    beforehand=neutral_line,
)
