"""Sheets beforehand: while the desk rests, a process of its own draws those before and after the one in hand, and hands
back their plans, where their letters stand and a picture of each. Who turns to one sees the picture at once; the sheet
itself takes its place as soon as it is drawn."""

from __future__ import annotations

import os
from collections import OrderedDict
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, QTimer
from PySide6.QtGui import QPixmap

from wisecompass.desk.helper import Helper
from wisecompass.desk.table import Look, WholeSheet, whole_sheet
from wisecompass.folio.print import drawn_from, laid_from, remember_plan
from wisecompass.folio.register import Place
from wisecompass.folio.title_block import title_of
from wisecompass.service import Reply, Request, Service, serve

if TYPE_CHECKING:
    from wisecompass.desk.session import Session

REST = 900
"""Milliseconds of rest after which sheets are drawn beforehand; proof and letters come first."""

KEPT = 48
"""So many pictures are kept, some 60 to 100 kB each."""


@dataclass(frozen=True)
class _Picture:
    """What a picture was painted from and how; without one, that it cannot be painted."""

    key: object
    look: Look
    png: bytes = b""


class Ahead(QObject):
    """Pictures of the sheets that may be turned to next."""

    def __init__(self, session: Session, look: Look) -> None:
        super().__init__(session)
        self.session, self.look = session, look
        self.helper = Helper(self, "wisecompass.desk.ahead")
        self.helper.replied.connect(self._replied)
        self._pictures: OrderedDict[Place, _Picture] = OrderedDict()
        self._asked: tuple[int, Place, _Picture] | None = None
        self._stopped = False
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(REST)
        self._timer.timeout.connect(self.ask)
        session.drawn.connect(self._timer.start)

    def shown_as(self, look: Look) -> None:
        """The table looks otherwise."""
        if look != self.look:
            self.look = look
            self._timer.start()

    def picture(self, place: Place) -> QPixmap | None:
        """The sheet with that figure in hand, if its picture is what it looks like now."""
        kept = self._pictures.get(place)
        if kept is None or not kept.png or not self._holds(kept, place):
            return None
        if any(self.session.cover_of(each) is not None for each in self.session.folio.sheets[place[0]].figures):
            return None  # it would show what is covered
        picture = QPixmap()
        picture.loadFromData(kept.png)
        picture.setDevicePixelRatio(self.look.ratio)
        return picture

    def _holds(self, kept: _Picture | None, place: Place) -> bool:
        return kept is not None and kept.look.near(self.look) and kept.key == self._key(place)

    def _key(self, place: Place) -> object:
        """All that the picture of a sheet hangs on but for its look."""
        folio = self.session.folio
        sheet = folio.sheets[place[0]]
        hangs = [drawn_from(folio, figure) for figure in sheet.figures]
        return sheet, hangs, title_of(folio, place), folio.conventions

    def wanted(self) -> list[Place]:
        """Where somebody may turn to, the nearest first: the sheets after and before, the other figures of this one, and
        this one itself."""
        folio, (s, f) = self.session.folio, self.session.place
        count = len(folio.sheets)
        near = sorted(range(count), key=lambda n: min(abs(n - s), count - abs(n - s)))[: KEPT * 3 // 4]
        places = [(n, 0) for n in near if n != s]
        here = [(s, n) for n in range(len(folio.sheets[s].figures)) if n != f]
        found = [*places[:2], *here[: KEPT // 4], (s, f), *places[2:]]
        return [(n, k) for n, k in found if k < len(folio.sheets[n].figures)]

    def ask(self) -> bool:
        """Have the next sheet drawn that is not known as it is now; whether there is one."""
        if self.session.glancing.page is not None:
            return False  # the whole is drawn soon, and this is asked again
        if self._stopped or self._asked is not None:
            return not self._stopped
        for place in self.wanted():
            if not self._holds(self._pictures.get(place), place):
                folio = replace(self.session.folio, logbook=())
                number = self.helper.ask("whole sheet", (folio, place, self.look))
                self._asked = (number, place, _Picture(self._key(place), self.look))
                return True
        return False

    def _replied(self, reply: Reply) -> None:
        if self._asked is None or reply.number != self._asked[0]:
            return
        _, place, kept = self._asked
        self._asked = None
        if self.session.glancing.page is not None:
            return
        self._pictures[place] = kept  # what failed is not asked for again
        self._pictures.move_to_end(place)
        while len(self._pictures) > KEPT:
            self._pictures.popitem(last=False)
        inside = place[0] < len(self.session.folio.sheets)
        if reply.kind == "whole sheet" and inside and kept.key == self._key(place):
            self._take(place, reply.body)
            self._pictures[place] = replace(kept, png=reply.body.png)
        if not self._timer.isActive():
            self._timer.start(0)

    def _take(self, place: Place, found: WholeSheet) -> None:
        """What need not be found again when the sheet is turned to."""
        folio, s = self.session.folio, place[0]
        remember_plan(folio, s, found.plan)
        for n, lettering in enumerate(found.letterings):
            if lettering is not None:
                self.session.remember_letters(laid_from(folio, (s, n), found.plan.cells[n]), lettering)

    def finish(self) -> None:
        """Have all of them drawn now, for measuring and tests."""
        while self.ask():
            self.helper.wait()

    def stop(self) -> None:
        """End the process; it is not started again."""
        self._timer.stop()
        self._stopped = True
        self.helper.stop()


class _Painting(Service):
    """The other side: it draws what it is asked for, and answers besides what may take its time."""

    def work(self, request: Request) -> None:
        if request.kind != "whole sheet":
            super().work(request)
            return
        found: Any = whole_sheet(*request.body)
        self.say(request, "whole sheet", found, last=True)


def main() -> None:
    from PySide6.QtGui import QGuiApplication

    from wisecompass.desk.theme import load_fonts

    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    os.nice(10)  # nobody waits for it
    application = QGuiApplication([])
    load_fonts()
    serve(_Painting)
    application.quit()
