"""Taking a figure, or one block of it, along with the pointer: it follows, and is laid down where it is let go."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter, QPen

from wisecompass.desk.paint import View
from wisecompass.desk.session import Session
from wisecompass.desk.theme import Theme
from wisecompass.drafting import marks
from wisecompass.drafting.marks import Mark
from wisecompass.folio.labels import text_box


@dataclass
class Lifted:
    """What is taken along: a ``block`` by its name, or the whole figure; and how far, px."""

    session: Session
    block: str | None
    by: QPointF

    def takes(self, mark: Mark) -> bool:
        """Whether a mark goes along."""
        return self.block is None or mark.block == self.block

    def view(self, view: View) -> View:
        """The map to px of what is taken along."""
        return View(view.k, view.x + self.by.x(), view.y + self.by.y())

    def lay_down(self, view: View) -> None:
        """Let go: it stays there."""
        dx, dy = self.by.x() / view.k, -self.by.y() / view.k
        if self.block is None:
            self.session.move_figure(dx, dy)
        else:
            self.session.shift_block(self.block, dx, dy)

    def paint_part(self, painter: QPainter, view: View, theme: Theme) -> None:
        """A thin frame about the part of the sheet that the figure takes along."""
        page = self.session.page
        if self.block is not None or page is None or page.cell is None:
            return
        left, low, right, high = page.cell.box
        there = self.view(view)
        painter.setPen(QPen(theme.color("accent"), 1.5))
        painter.drawRect(QRectF(there.px(left, high), there.px(right, low)))


def caption_under(session: Session, view: View, at: QPointF) -> bool:
    """Whether the caption of the figure in hand is under the pointer."""
    page = session.page
    if page is None or page.cell is None or page.cell.alone:
        return False
    x, y = view.mm(at)
    boxes = [text_box(mark) for mark in page.brief if isinstance(mark, marks.Text)]
    return any(left - 1 <= x <= right + 1 and low - 1 <= y <= high + 1 for left, low, right, high in boxes)
