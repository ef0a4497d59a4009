"""Measuring between two points of the sheet, with the proved value and its closed form."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, cast

from wisecompass.arithmetic import BALL, Number
from wisecompass.arithmetic.certified import with_enough_bits
from wisecompass.drafting import marks
from wisecompass.drafting.answers import Answer, ball_of, printed
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.solve import CLOSED_FORM_BITS, answer_of, construct
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import lettered
from wisecompass.geometry.plane import Point, direction, distance

if TYPE_CHECKING:
    from wisecompass.desk.session import Session


@dataclass(frozen=True)
class Measured:
    """Distance and direction in degrees from one point to the other; ``note`` says why there is none."""

    names: str
    answer: Answer | None = None
    direction: float | None = None
    note: str = ""
    units: Units = Units.MM

    @property
    def short(self) -> str:
        return self.note if self.answer is None else printed(self.answer, self.units, 3)[0][0]


def between(session: Session, first: marks.Dot, second: marks.Dot) -> Measured:
    """Measure in the construction itself, in balls; points of different views have no distance on paper."""
    names = f"{lettered(first.name)}–{lettered(second.name)}"
    if first.block != second.block:
        return Measured(names, note="points of different figures")
    assert session.drawing is not None
    drawing = session.drawing

    def run() -> tuple[Number, Number]:
        board = construct(drawing.problem, drawing.typed, drawing.method, BALL, conventions=session.conventions)
        a, b = (cast("Point", board.points[name]) for name in (first.name, second.name))
        return distance(a, b), direction(a, b)

    length, way = with_enough_bits(run, lambda _: True, CLOSED_FORM_BITS)
    answer = answer_of("distance", Kind.LENGTH, length, closed_forms=True)
    angle = None if ball_of(length).holds_zero else float(way)
    return Measured(names, answer, angle, units=session.conventions.units)
