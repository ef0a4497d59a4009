"""Measuring between two points of the sheet, with the proved value and its closed form."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, cast

from wisecompass.arithmetic import BALL
from wisecompass.arithmetic.certified import with_enough_bits
from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.solve import CLOSED_FORM_BITS, ball_values, construct
from wisecompass.drafting.wording import lettered, measured
from wisecompass.geometry.plane import Point, direction, distance

if TYPE_CHECKING:
    from flint import arb

    from wisecompass.desk.session import Session


@dataclass(frozen=True)
class Measured:
    """Distance in mm and direction in degrees from one point to the other."""

    names: str
    distance: float
    direction: float | None
    bound: float
    closed_form: str | None
    note: str = ""
    units: Units = Units.MM

    @property
    def short(self) -> str:
        return self.note or measured(self.distance, "mm", self.units, 3)


def between(session: Session, first: marks.Dot, second: marks.Dot) -> Measured:
    """Measure in the construction itself, in balls; points of different views have no distance on paper."""
    names = f"{lettered(first.name)}–{lettered(second.name)}"
    if first.block != second.block:
        return Measured(names, 0.0, None, 0.0, None, "points of different figures")
    assert session.drawing is not None
    drawing = session.drawing

    def run() -> tuple[Point, Point]:
        board = construct(drawing.problem, drawing.typed, drawing.method, BALL, conventions=session.conventions)
        return cast("Point", board.points[first.name]), cast("Point", board.points[second.name])

    a, b = with_enough_bits(run, lambda _: True, CLOSED_FORM_BITS)
    from wisecompass.arithmetic import ball, closed_form

    with ball.precision(CLOSED_FORM_BITS):
        length, way = distance(a, b), direction(a, b)
    middle, bound = ball_values(length)
    closed = closed_form.recognise(cast("arb", length)) if middle else None
    angle = float(way) if middle > bound else None
    return Measured(names, middle, angle, bound, closed, units=session.conventions.units)
