"""A question about the figure in hand, answered beside the desk; only the newest counts."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from wisecompass.desk.helper import Helper
from wisecompass.desk.session import Session
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.service import ASKED, Reply, Task


class Asking:
    """Asks the session's helper or another one, or here where there is none. ``took`` gets the answer, ``refused`` why there
    is none."""

    def __init__(
        self,
        session: Session,
        took: Callable[[Any], None],
        refused: Callable[[str], None],
        helper: Helper | None = None,
    ) -> None:
        self.session, self.took, self.refused = session, took, refused
        self.helper = helper or session.helper
        self._number = 0
        if self.helper is not None:
            self.helper.replied.connect(self._replied)

    def ask(self, kind: str, *more: Any) -> None:
        """Ask one of the service's questions about the figure in hand."""
        task = Task.of(self.session.folio, self.session.place)
        if self.helper is not None:
            self._number = self.helper.ask(kind, (task, *more))
            return
        try:
            self.took(ASKED[kind](task, *more))
        except (WiseCompassError, ArithmeticError) as reason:
            self.refused(str(reason))

    def forget(self) -> None:
        """Whatever was asked is not wanted any more."""
        self._number = 0

    @property
    def waiting(self) -> bool:
        """Whether an answer is still to come."""
        return self._number != 0

    def _replied(self, reply: Reply) -> None:
        if reply.number != self._number or not self._number:
            return
        self._number = 0
        if reply.kind == "failed":
            self.refused(str(reply.body))
        else:
            self.took(reply.body)
