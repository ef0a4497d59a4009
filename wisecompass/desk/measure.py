"""Measuring between two points of the sheet, with the proved value and its closed form."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from wisecompass.drafting import marks
from wisecompass.drafting.answers import Answer, printed
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.letters import renamed
from wisecompass.drafting.wording import lettered
from wisecompass.service import Task, measured

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
    letters = session.conventions.letters
    names = "–".join(renamed(letters, lettered(each.name)) for each in (first, second))
    if first.block != second.block:
        return Measured(names, note="points of different figures")
    task = Task.of(session.folio, session.place)
    answer, way = measured(task, first.name, second.name)
    return Measured(names, answer, way, units=session.conventions.units)
