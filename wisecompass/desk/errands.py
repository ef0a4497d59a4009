"""What is asked about the figure in hand, of the processes beside the desk or, without any, of this one; and what comes
back: proof, advice, closed forms, how near hands come, what each method is worth, places for letters, what would do instead.

A figure may be asked about ahead, before it is drawn: what comes of it is kept until it is."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any, NamedTuple

from wisecompass.desk.helper import Helper
from wisecompass.folio.document import Figure, Folio
from wisecompass.judgement.worth import Worth, ranked, serving
from wisecompass.service import Judged, Reply, Task, about_figure

if TYPE_CHECKING:
    from wisecompass.desk.session import Session


class _Ahead(NamedTuple):
    """A figure that is not drawn yet: under which number it was asked about, and what has been answered."""

    number: int
    figure: Figure
    replies: list[Reply]


class Errands:
    """Those of one session."""

    def __init__(self, session: Session, helper: Helper | None) -> None:
        self.session = session
        self.helper = self._letterer = helper
        self._asked = self._letters_asked = self._offer_asked = 0
        self._ahead: _Ahead | None = None
        self._judged: list[Worth] = []
        self._pieces: Iterator[tuple[str, Any]] | None = None
        """What is still to be said, where no process says it."""
        if helper is not None:
            helper.replied.connect(self._replied)
            helper.replied.connect(self._lettered)

    # ----------------------------------------------------------------------------------------------------------- asked
    def stop(self) -> None:
        """What has been asked about the last figure is not said of another one."""
        self.session.rest.stop()
        if self.helper is not None:
            self.helper.forget()
        self._asked = self._letters_asked = 0
        self._ahead = None

    def begin(self) -> None:
        """A figure is about to be drawn: answers about the last one are passed over."""
        self._asked, self._letters_asked, self._pieces = 0, 0, None

    def keep_ahead(self) -> None:
        """A figure has been drawn: what was asked ahead is kept if it is about that."""
        if self.helper is not None and not self.is_ahead:
            self.helper.forget()
            self._ahead = None

    def ahead(self, folio: Folio, figure: Figure | None) -> None:
        """Ask about a figure that is not drawn yet: at a glance it is shown already, or it takes long."""
        if self.helper is not None and figure is not None:
            number = self.helper.ask("figure", Task.of(folio, self.session.place, figure))
            self._ahead = _Ahead(number, figure, [])

    @property
    def is_ahead(self) -> bool:
        """Whether the figure in hand has been asked about ahead."""
        return self._ahead is not None and self._ahead.figure == self.session.figure

    @property
    def waits_ahead(self) -> bool:
        """Whether something has been asked ahead and nothing answered."""
        return self._ahead is not None and not self._ahead.replies

    def ask(self) -> bool:
        """Have the figure in hand proved and judged; whether more is to be done here."""
        session = self.session
        if session.drawing is None or session.trouble is not None:
            return False
        if self._pieces is not None:
            piece = next(self._pieces, None)
            if piece is not None:
                self.take(*piece)
            return piece is not None
        task = Task.of(session.folio, session.place)
        self._judged = []
        found = [serving(session.problem, session.typed, method) for method in session.problem.methods]
        if {(one.method.name, one.serves) for one in found} != {(one.method.name, one.serves) for one in session.worths}:
            session.worths = found  # else what was judged last stands until it is judged anew
        if self._ahead is not None and self.is_ahead:
            (self._asked, _, replies), self._ahead = self._ahead, None
            for reply in replies:
                self.take(reply.kind, reply.body)
            return False
        if self.helper is not None:
            self._asked = self.helper.ask("figure", task)
            return False
        self._pieces = about_figure(task)
        return True

    def offer(self, task: Task) -> None:
        """Have it looked for what would do instead of a figure that does not work."""
        assert self.helper is not None
        self._offer_asked = self.helper.ask("offer", task)

    # --------------------------------------------------------------------------------------------------------- letters
    def letter_with(self, helper: Helper) -> None:
        """Have places for letters looked for by another process than the one that proves: it may take longer."""
        if self._letterer is not None:
            self._letterer.replied.disconnect(self._lettered)
        self._letterer = helper
        helper.replied.connect(self._lettered)

    @property
    def for_letters(self) -> bool:
        """Whether places for letters have been asked for."""
        return bool(self._letters_asked)

    def letters(self) -> None:
        """Have them looked for."""
        assert self._letterer is not None
        self._letters_asked = self._letterer.ask("lettering", Task.of(self.session.folio, self.session.place))

    def _lettered(self, reply: Reply) -> None:
        """Places for letters have been found."""
        wanted = reply.number == self._letters_asked and self.session.letters_may_come
        if wanted and reply.kind in ("lettered", "failed"):
            self.session.letter_anew(reply.body if reply.kind == "lettered" else None)

    # -------------------------------------------------------------------------------------------------------- answered
    def _replied(self, reply: Reply) -> None:
        """There is an answer; one to what is not asked any more is passed over."""
        if reply.number == self._asked:
            self.take(reply.kind, reply.body)
        elif self._ahead is not None and reply.number == self._ahead.number:
            self._ahead.replies.append(reply)
            self.session.answered_ahead(reply)
        elif reply.number == self._offer_asked and self.session.trouble is not None and reply.body is not None:
            self.session.trouble = reply.body
            self.session.refused.emit()

    def take(self, kind: str, body: Any) -> None:
        """One piece of what was asked about the figure in hand."""
        session = self.session
        if kind in ("proof", "closed"):
            session.certificate = body
        elif kind == "advice":
            session.advice = body
        elif kind == "reaches":
            session.reaches = body
        elif kind == "worth":
            self._take_worth(body)
            if len(self._judged) < len(session.problem.methods):
                return
            session.worths = ranked(self._judged)
        session.certified.emit()

    def _take_worth(self, one: Judged) -> None:
        method = self.session.problem.method(one.method)
        self._judged.append(Worth(method, one.words, one.serves, one.miss, one.faired, steps=one.steps, tools=one.tools))

    def wait(self) -> None:
        """Wait for all that was asked."""
        if self.helper is not None:
            self.helper.wait()
        if self._letterer is not None and self._letterer is not self.helper:
            self._letterer.wait(lambda: not self._letters_asked or not self.session.letters_wait)
