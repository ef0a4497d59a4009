"""The table with a sheet on it: what lies under the figure in hand, and a whole sheet as a picture."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QColor, QImage, QPainter

from wisecompass.desk.paint import MarkPainter, Stand, View
from wisecompass.desk.theme import Theme
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.marks import Mark
from wisecompass.folio.document import Folio
from wisecompass.folio.page import Lettering, Page, layered
from wisecompass.folio.print import Plan, page_of, plan_of, refused_page, tried
from wisecompass.folio.register import Place

MARGIN = 14
"""Table seen round the paper, px."""


def fitted(page: Page, width: int, height: int) -> View:
    """A page as large as a table of a size in px allows."""
    k = max(min((width - 2 * MARGIN) / page.width, (height - 2 * MARGIN) / page.height), 0.05)
    return View(k, (width - k * page.width) / 2, (height + k * page.height) / 2)


def paint_table(
    painter: QPainter, size: QSize, view: View, theme: Theme, page: Page, others: Iterable[Mark], *, greyed: bool = False
) -> None:
    """The table, the paper with its furniture, and the other figures of the sheet lighter than the one in hand."""
    painter.fillRect(QRectF(0, 0, size.width(), size.height()), theme.color("table"))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    paper = QRectF(view.px(0, page.height), view.px(page.width, 0))
    shadow = QColor(0, 0, 0, 40)
    painter.fillRect(QRectF(paper.right(), paper.top() + 4, 3, paper.height()), shadow)
    painter.fillRect(QRectF(paper.left() + 3, paper.bottom(), paper.width() - 3, 4), shadow)
    painter.fillRect(paper, theme.color("paper"))
    MarkPainter(painter, view, theme, greyed).paint((mark, Stand.DONE) for mark in page.furniture)
    MarkPainter(painter, view, theme, True).paint((mark, Stand.DONE) for mark in others)


def beside(page: Page) -> Iterable[Mark]:
    """What is seen of a figure while another one is in hand."""
    yield from page.brief
    yield from layered(page.marks)


def page_or_reason(folio: Folio, place: Place, plan: Plan) -> Page:
    """The page of a figure, or what stands on paper in its place when it cannot be drawn."""
    try:
        return page_of(folio, place, plan)
    except WiseCompassError as reason:
        why = tried(folio, folio.sheets[place[0]].figures[place[1]])
        told = why if isinstance(why, WiseCompassError) else reason
        return refused_page(folio, place, plan.cells[place[1]], told)


NEAR = 0.4
"""So much of a table's height may change with the length of the brief above it before its pictures are painted anew."""


@dataclass(frozen=True)
class Look:
    """How a table looks: its size in px, px of the screen in one of them, and its colours."""

    width: int
    height: int
    ratio: float
    theme: Theme

    def near(self, other: Look) -> bool:
        """Whether a picture for one serves the other for a moment, a little larger or smaller."""
        alike = (self.ratio, self.theme) == (other.ratio, other.theme)
        return alike and self.width == other.width and abs(self.height - other.height) <= NEAR * self.height


@dataclass(frozen=True)
class WholeSheet:
    """A sheet as it stands when it has been turned to: its plan and where its letters stand, and a picture of it."""

    plan: Plan
    letterings: tuple[Lettering | None, ...]
    png: bytes


def whole_sheet(folio: Folio, place: Place, look: Look) -> WholeSheet:
    """A sheet that is not empty, with the figure at ``place`` in hand, all its steps done."""
    from PySide6.QtCore import QBuffer, QIODevice

    s, f = place
    plan = plan_of(folio, s)
    pages = [
        None if cell is not None and cell.silent and n != f else page_or_reason(folio, (s, n), plan)
        for n, cell in enumerate(plan.cells)
    ]
    page = pages[f]
    assert page is not None
    size = QSize(look.width, look.height)
    picture = QImage(size * look.ratio, QImage.Format.Format_RGB32)
    picture.setDevicePixelRatio(look.ratio)
    view = fitted(page, look.width, look.height)
    others = (mark for n, each in enumerate(pages) if each is not None and n != f for mark in beside(each))
    with QPainter(picture) as painter:
        paint_table(painter, size, view, look.theme, page, others)
        marks = [*page.brief, *page.marks]
        MarkPainter(painter, view, look.theme).paint((mark, Stand.DONE) for mark in marks)
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    picture.save(buffer, "PNG", 80)  # type: ignore[call-overload]  # quickly rather than small
    return WholeSheet(
        plan, tuple(each.lettering if each is not None else None for each in pages), bytes(buffer.data().data())
    )
