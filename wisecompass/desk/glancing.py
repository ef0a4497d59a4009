"""What the sheet shows between a key and the drawing of it, where that takes longer than a frame: what is lined in, followed
to where it is now. The folio takes what was typed, and the whole is drawn, in the next pause; and before anything else is
done with either.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from time import monotonic
from typing import TYPE_CHECKING

from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.givens import bind
from wisecompass.drafting.problem import Glance
from wisecompass.drafting.solve import Drawing
from wisecompass.folio.document import Figure, Folio
from wisecompass.folio.links import read_numbers
from wisecompass.folio.page import NO_LETTERING, Page, told_anew
from wisecompass.folio.print import conventions_of, laid_out

if TYPE_CHECKING:
    from wisecompass.desk.session import Session

PAUSE, TYPING, LONGEST, PROOF_WITHIN = 0.06, 0.13, 0.4, 0.6
"""Seconds after the last key in which the whole is drawn: longer than a key that is held down repeats itself; longer than
somebody who types leaves between two keys, where the whole would hold up the next one; at most so long, where it takes
as long to draw; and at most so long, where it would hold up the proof."""

HOLDS_UP = 0.04
"""Seconds that hold up the next key."""

HELD = 10
"""So many pauses after the first key the whole is drawn though keys go on coming."""


@dataclass(frozen=True)
class _Ready:
    """What a glance was made from."""

    figure: Figure
    conventions: Conventions
    drawing: Drawing
    glance: Glance


class Glancing:
    """Of the figure in hand."""

    def __init__(self, session: Session) -> None:
        self.session = session
        self.page: Page | None = None
        """What is shown until the figure is drawn."""
        self.typed: tuple[str, str] | None = None
        """The given and its text that the folio has not taken yet."""
        self.figure: Figure | None = None
        """The figure that it is shown of."""
        self.took = 0.0
        """How long the whole took to draw last, seconds."""
        self._since = self._last = 0.0
        self._ready: _Ready | None = None
        session.followed.connect(self.make_ready)

    def make_ready(self) -> None:
        """Get ready to follow the figure as it is drawn now."""
        session, drawing = self.session, self.session.drawing
        if drawing is None or session.trouble is not None or drawing.problem.glance is None:
            self._ready = None
        elif self._ready is None or self._ready.drawing.typed is not drawing.typed:
            g = bind(drawing.problem.givens, drawing.typed, PLAIN)
            glance = drawing.problem.glance(g, session.conventions)
            self._ready = _Ready(session.figure, session.conventions, drawing, glance)

    @property
    def is_ready(self) -> bool:
        """Whether there is a figure that can be shown at a glance."""
        return self._ready is not None

    def takes(self, folio: Folio, page: Page | None, name: str, text: str) -> bool:
        """Show at once, as it lies on a page, what a given as typed makes of the figure in hand; whether that could be
        done. ``folio`` is the one that is to take it."""
        ready, (s, f) = self._ready, self.session.place
        if ready is None or page is None or (self.typed is not None and self.typed[0] != name):
            return False
        figure = folio.sheets[s].figures[f]
        alike = replace(figure, givens=ready.figure.givens) == ready.figure
        problem = ready.drawing.problem
        if not alike or any((each.given, each.word) == (name, text) for each in problem.kin):
            return False
        if conventions_of(folio, figure) != ready.conventions:
            return False
        figure = replace(figure, givens={**figure.givens, **self.session.pending, name: text})
        try:
            typed = read_numbers(folio, figure)
            if any(isinstance(each, str) and each != ready.drawing.typed[given] for given, each in typed.items()):
                return False
            marks = ready.glance.marks(bind(problem.givens, typed, PLAIN))
            if marks is None:
                return False
            drawing = replace(ready.drawing, marks=marks, typed=typed)
            before = self.session.drawing or ready.drawing
            cell = told_anew(page.cell, before, drawing, ready.conventions)
            self.page = laid_out(folio, (s, f), drawing, page, True, NO_LETTERING, cell)
        except (WiseCompassError, ArithmeticError):
            return False
        self._last = monotonic()
        if self.typed is None:
            self._since = self._last
        self.typed, self.figure = (name, text), figure
        return True

    @property
    def holds_up(self) -> bool:
        """Whether the whole would hold up the next key, or the proof."""
        return self.took >= HOLDS_UP

    @property
    def pause(self) -> int:
        """How long the whole may still wait for one more key, ms."""
        pause = min(max(TYPING, self.took), LONGEST) if self.holds_up else PAUSE
        return _until(min(self._last + pause, self._since + HELD * pause))

    @property
    def longest(self) -> int:
        """How long it may still wait for the proof, where it would hold that up, ms."""
        return _until(self._last + PROOF_WITHIN) if self.holds_up else 0

    def let_go(self) -> tuple[str, str] | None:
        """What the folio is to take now, if anything waits; the glance is over."""
        typed, self.typed, self.figure, self.page = self.typed, None, None, None
        return typed


def _until(then: float) -> int:
    """Milliseconds until a time."""
    return round(1000 * max(0.0, then - monotonic()))
