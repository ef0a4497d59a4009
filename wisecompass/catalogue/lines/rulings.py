"""What the problems of lines share: a base line with its ends, a slant line, and its equal divisions."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from wisecompass.arithmetic import Number, absolute
from wisecompass.drafting.board import Board
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Condition
from wisecompass.drafting.setting import Settable, bare
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point


def base_with_ends(b: Board, length: Number, ends: tuple[str, str] = ("A", "B")) -> tuple[Point, Point, Line]:
    """A level line with two points on it, ``length`` apart."""
    left = b.point(ends[0], b.number(0), b.number(0), why="the left end")
    base = b.level_line(left, "base", pen=Pen.GIVEN)
    return left, b.lay_off(base, left, length, ends[1], why="the given length"), base


def wider(opening: Settable) -> Number:
    """What an opening is where the compass has given way: a tenth more."""
    wide: Number = bare(opening) * 11 / 10
    return wide


def slant(b: Board, start: Point) -> Line:
    """A line at 30° from ``start``; any angle will do."""
    return b.set_square_line(start, 30, "slant line", why="any slope will do")


def multiple_of(name: str, given: str, doubled: int, least: int, sentence: str) -> Condition:
    """The given must be a whole multiple of ``doubled`` / 2, and at least ``least`` of them."""

    def count(g: object) -> int:
        return max(least, round(float(getattr(g, given)) * 2 / doubled))

    def margin(g: object) -> Number:
        value: Number = getattr(g, given)
        return -absolute(value * 2 - count(g) * doubled)

    def nearest(g: object) -> dict[str, str]:
        return {given: f"{count(g) * doubled / 2:g}"}

    return Condition(name, margin, sentence, (given,), nearest)


def at_most_number(name: str, given: str, most: int, sentence: str) -> Condition:
    """The given may not pass ``most``."""
    margin: Callable[[object], Number] = lambda g: most - getattr(g, given)  # noqa: E731
    return Condition(name, margin, sentence, (given,), lambda g: {given: str(most)})


@dataclass(frozen=True)
class AngleWithArc:
    """An angle at V with an arc about V that cuts its arms at P and Q."""

    vertex: Point
    base: Line
    arm: Line
    opening: Settable
    p: Point
    q: Point


def angle_with_arc(b: Board, angle: Number, opening: int) -> AngleWithArc:
    """Set out an angle and swing an arc of ``opening`` mm, any that suits the sheet, across both arms."""
    vertex = b.point("V", b.number(0), b.number(0), why="the vertex")
    base = b.level_line(vertex, "base", pen=Pen.GIVEN)
    arm = b.protract(base, vertex, angle, "arm")
    width = b.any_opening(opening)
    swung = b.arc(vertex, width, why="across both arms")
    p = b.meet(swung, base, plane.beyond(base), "P")
    q = b.meet(swung, arm, plane.beyond(arm), "Q")
    return AngleWithArc(vertex, base, arm, width, p, q)
