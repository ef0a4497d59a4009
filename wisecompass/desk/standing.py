"""How the marks of the sheet stand to the current step, and the letters that only this step needs."""

from __future__ import annotations

from wisecompass.desk.paint import Stand
from wisecompass.desk.session import Session
from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.step import Step
from wisecompass.folio import labels
from wisecompass.folio.page import Page

MOST_LEFT_OUT = 4
"""A step that speaks of more points than this without a letter shows a whole row, which is lettered as a scale."""

GHOSTS = {Pen.OUTLINE, Pen.CUT, Pen.FOLD, Pen.HIDDEN}
"""Pens of steps still to come that are hinted at."""


class Standing:
    """The marks of the session's page with their stand."""

    def __init__(self, session: Session) -> None:
        self.session = session
        self._lettered_of: tuple[Page, int, list[Mark]] | None = None

    def shown(self) -> list[tuple[Mark, Stand]]:
        """Marks with how they stand to the current step, what is new last."""
        page, drawing, current = self.session.page, self.session.drawing, self.session.step
        if page is None or drawing is None:
            return []
        if current > len(drawing.steps):
            return [(mark, Stand.DONE) for mark in page.marks]
        step, covered = drawing.steps[current - 1], self.session.cover is not None
        basis = {name for act in step.acts for name in act.basis} | set(step.on)
        shown: list[tuple[Mark, Stand]] = [(tint, Stand.NEW) for tint in page.tints_of(current)]
        for mark in page.marks:
            if mark.step > current:
                if mark.pen in GHOSTS and not covered:
                    shown.append((mark, Stand.GHOST))
            elif mark.step == current:
                shown.append((mark, Stand.NEW))
            elif mark.name in basis and not isinstance(mark, marks.Text):
                shown.append((mark, Stand.BASIS))
            else:
                shown.append((mark, Stand.DONE))
        shown += [(letter, Stand.NEW) for letter in self.left_out(step)]
        order = {Stand.GHOST: 0, Stand.DONE: 2, Stand.BASIS: 3, Stand.NEW: 4}
        return sorted(shown, key=lambda pair: 1 if isinstance(pair[0], marks.Area) else order[pair[1]])

    def left_out(self, step: Step) -> list[Mark]:
        """Letters of points that the step speaks of and that are left out on the sheet, where numbers stand crowded. They
        wait for a pause like those of new points."""
        page = self.session.page
        if page is None or self.session.letters_wait:
            return []
        spoken = {*step.on, *step.makes, *(name for name, _, _ in step.crossings)}
        spoken |= {name for act in step.acts for name in (*act.basis, *act.makes)}
        have = {mark.name for mark in page.marks if isinstance(mark, marks.Text)}
        left_out = {name for name in spoken - have if " " not in name}
        missing = [mark for mark in page.marks if isinstance(mark, marks.Dot) and mark.shown and mark.name in left_out]
        if not 0 < len(missing) <= MOST_LEFT_OUT:
            return []
        if self._lettered_of is None or self._lettered_of[0] is not page or self._lettered_of[1] != step.n:
            size, room = self.session.sheet.as_paper().lettering, (0.0, 0.0, page.width, page.height)
            places = labels.find_places(page.marks, room, size, [*missing])
            self._lettered_of = (page, step.n, labels.lettered_at([*missing], places, size))
        return self._lettered_of[2]
