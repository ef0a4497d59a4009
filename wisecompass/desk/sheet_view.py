"""The sheet: real paper on a table, the figure as it stands at the current step, with its instrument laid on it."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from wisecompass.arithmetic import PLAIN
from wisecompass.desk import instruments
from wisecompass.desk.ahead import Ahead
from wisecompass.desk.lifting import Lifted, caption_under
from wisecompass.desk.measure import Measured, between
from wisecompass.desk.paint import MarkPainter, Stand, View
from wisecompass.desk.saying import say
from wisecompass.desk.session import Session
from wisecompass.desk.standing import Standing
from wisecompass.desk.table import Look, fitted, paint_table
from wisecompass.desk.theme import Theme, interface_font
from wisecompass.desk.title_field import TitleField
from wisecompass.drafting import marks
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.letters import renamed
from wisecompass.drafting.marks import Box, Mark, placed, sampled
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.sentences import sentence
from wisecompass.drafting.solve import Drawing
from wisecompass.drafting.view import Placed
from wisecompass.drafting.wording import lettered, measured, number_text, spoken
from wisecompass.folio import line_names, register
from wisecompass.folio.document import TITLE_FIELDS
from wisecompass.folio.labels import text_box
from wisecompass.folio.page import Page
from wisecompass.folio.title_block import title_boxes, title_of
from wisecompass.geometry.curves import Pair
from wisecompass.judgement.worth import gap_text

if TYPE_CHECKING:
    from wisecompass.judgement.fairing import Gap

MOST_BESIDE = 8
"""Names of lines shown beside them at a step."""

PICK = 9.0
"""How near the pointer must be to a point or line to pick it, px."""


@dataclass(frozen=True)
class _Picked:
    """A point picked for measuring."""

    dot: marks.Dot


BROAD = 7.0
"""How broad edges are shown that are pointed at, px."""


class SheetView(QWidget):
    """Shows the session's page. Wheel zooms, drag pans, double click fits, a click picks. The chosen point of a curve is
    dragged along it, or clicked to another place of it; an auxiliary view is dragged along its projectors."""

    measured = Signal(object)
    first_painted = Signal()

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.view = View(1.0, 0.0, 0.0)
        self.fitted = True
        self.picked: list[_Picked] = []
        self.hover: marks.Dot | None = None
        self._pressed: QPointF | None = None
        self._grasped = QPointF()
        self._dragged = False
        self._sliding = False
        self._liftable: Lifted | None = None
        self._moving: tuple[Placed, float] | None = None
        self.lifted: Lifted | None = None
        self.paints = 0
        self.show_faired = False
        self._backdrop_of: tuple[object, QPixmap] | None = None
        self.standing = Standing(session)
        self._faired_of: Drawing | None = None
        self._faired: tuple[list[tuple[str, list[Pair]]], Gap | None] = ([], None)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(240, 200)
        self.setAccessibleName("sheet")
        self.setToolTip("")
        self.ahead = Ahead(session, self.look) if session.helper is not None else None
        if self.ahead is not None:
            session.errands.letter_with(self.ahead.helper)
        self._beforehand: QPixmap | None = None
        self._instead: list[Mark] = []
        """What was drawn by mistake, as it would lie in the blocks of the sheet."""
        session.turning.connect(self._show_beforehand)
        session.drawn.connect(self._redrawn)
        session.glanced.connect(self.update)
        session.refused.connect(self._repaint)
        session.stepped.connect(self._stepped)
        session.relettered.connect(self._relettered)
        session.pointed.connect(self.update)
        session.neighbours.changed.connect(self.update)

    # ------------------------------------------------------------------------------------------------------- view
    def _redrawn(self) -> None:
        if self.picked:
            self.clear_measure()
        self.hover, self._instead = None, []
        if self.fitted:
            self.fit()
        self.update()

    def _relettered(self) -> None:
        if self.hover is not None:
            key = (self.hover.block, self.hover.name)
            self.hover = next((dot for dot in self._dots() if (dot.block, dot.name) == key), None)
        self.update()

    def _stepped(self, step: int) -> None:
        """Say the step, and show it."""
        drawing = self.session.drawing
        if drawing is not None:
            whole = step > len(drawing.steps)
            what = "" if whole else self.session.conventions.worded(sentence(drawing.steps[step - 1]))
            said = "the whole sheet" if whole else f"step {step} of {len(drawing.steps)}: {what}"
            self.setAccessibleDescription(said)
            if self.hasFocus():
                say(self, said)
        self.update()

    def _repaint(self, _step: int = 0) -> None:
        self.update()

    def fit(self) -> None:
        """Show the whole sheet as large as the table allows."""
        page = self.session.page
        if page is None:
            return
        self.view = fitted(page, self.width(), self.height())
        self.fitted = True
        self.update()

    def zoom(self, factor: float, about: QPointF | None = None) -> None:
        """Enlarge about a point of the window."""
        about = about or QPointF(self.width() / 2, self.height() / 2)
        k = min(max(self.view.k * factor, 0.2), 400.0)
        mm_x, mm_y = self.view.mm(about)
        self.view = View(k, about.x() - k * mm_x, about.y() + k * mm_y)
        self.fitted = False
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:  # noqa: N802 - Qt's name
        super().resizeEvent(event)
        if self.fitted:
            self.fit()

        if self.ahead is not None:
            self.ahead.shown_as(self.look)

    @property
    def look(self) -> Look:
        """How the table looks now."""
        return Look(self.width(), self.height(), self.devicePixelRatioF(), self.theme)

    def _show_beforehand(self, sheet: int, figure: int) -> None:
        """The sheet that is being turned to, at once, if there is a picture of it; it is drawn meanwhile."""
        if self.ahead is None or not self.fitted or not self.isVisible():
            return
        self.ahead.shown_as(self.look)
        picture = self.ahead.picture((sheet, figure))
        if picture is not None:
            self._beforehand = picture
            self.repaint()
            self._beforehand = None

    # ------------------------------------------------------------------------------------------------------ painting
    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: N802
        painter = QPainter(self)
        try:
            if self._beforehand is not None:
                painter.fillRect(self.rect(), self.theme.color("table"))
                painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
                size = self._beforehand.deviceIndependentSize().scaled(self.size(), Qt.AspectRatioMode.KeepAspectRatio)
                left, top = (self.width() - size.width()) / 2, (self.height() - size.height()) / 2
                whole = QRectF(self._beforehand.rect())
                painter.drawPixmap(QRectF(left, top, size.width(), size.height()), self._beforehand, whole)
            else:
                with self.session.looking():
                    self._paint(painter)
        finally:  # a painter left open by a fault takes the program with it
            painter.end()
        self.paints += 1
        if self.paints == 1:
            QTimer.singleShot(0, self.first_painted.emit)

    def _paint_glance(self, painter: QPainter, page: Page) -> None:
        """What is lined in, while the drawing is not there yet."""
        painter.drawPixmap(0, 0, self._backdrop(page, False))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        brush = MarkPainter(painter, self.view, self.theme)
        brush.paint((mark, Stand.DONE) for mark in (*page.brief, *page.marks))

    def _paint(self, painter: QPainter) -> None:
        if self.session.glancing.page is not None:
            self._paint_glance(painter, self.session.glancing.page)
            return
        page = self.session.page
        if page is None:
            painter.fillRect(self.rect(), self.theme.color("table"))
            return
        greyed = self.session.trouble is not None
        painter.drawPixmap(0, 0, self._backdrop(page, greyed))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        brush = MarkPainter(painter, self.view, self.theme, greyed)
        shown = [*((mark, Stand.DONE) for mark in page.brief), *self.standing.shown()]
        if self.lifted is not None:
            self._paint_lifted(painter, brush, shown)
            return
        brush.paint(pair for pair in shown if pair[1] is not Stand.NEW or isinstance(pair[0], marks.Area))
        if not greyed:
            self._lay_instrument(painter, shown)
        top = MarkPainter(painter, self.view, self.theme, greyed)
        top.paint(pair for pair in shown if pair[1] is Stand.NEW and not isinstance(pair[0], marks.Area))
        if not greyed:
            if self.show_faired:
                self._paint_faired(painter)
            self._paint_names(painter, shown)
            self._paint_instead(painter)
            self._paint_chosen(painter)
            self._paint_pointed(painter)
            self._paint_measure(painter)
            self._paint_hover(painter)

    def _paint_lifted(self, painter: QPainter, brush: MarkPainter, shown: list[tuple[Mark, Stand]]) -> None:
        """The figure while it is taken along: what goes with the pointer apart from what stays."""
        assert self.lifted is not None
        brush.paint(pair for pair in shown if not self.lifted.takes(pair[0]))
        along = MarkPainter(painter, self.lifted.view(self.view), self.theme)
        along.paint(pair for pair in shown if self.lifted.takes(pair[0]))
        self.lifted.paint_part(painter, self.view, self.theme)

    def _backdrop(self, page: Page, greyed: bool) -> QPixmap:
        """The table with the paper and its furniture, painted anew only when one of them has changed."""
        ratio = self.devicePixelRatioF()
        neighbours = self.session.neighbours
        key = (page.furniture, self.view.k, self.view.x, self.view.y, self.size(), ratio, greyed, neighbours.shown)
        if self._backdrop_of is None or self._backdrop_of[0] != key:
            picture = QPixmap(self.size() * ratio)
            picture.setDevicePixelRatio(ratio)
            with QPainter(picture) as painter:
                paint_table(painter, self.size(), self.view, self.theme, page, neighbours.marks(), greyed=greyed)
            self._backdrop_of = (key, picture)
        return self._backdrop_of[1]

    def names_beside(self) -> list[str]:
        """The names in words that the step in hand speaks of and that have no room on the sheet itself."""
        drawing, page, current = self.session.drawing, self.session.page, self.session.step
        if drawing is None or page is None or current > len(drawing.steps):
            return []
        on_sheet = {name for _, name in page.lettering.named}
        told = drawing.steps[current - 1].told
        names = dict.fromkeys(name for act in told for name in sorted(act.basis | set(act.makes)))
        return [name for name in names if line_names.in_words(name) and name not in on_sheet][:MOST_BESIDE]

    def _paint_names(self, painter: QPainter, shown: list[tuple[Mark, Stand]]) -> None:
        """Beside the lines of the step in hand their names, where the sheet has no room for them."""
        wanted = self.names_beside()
        if not wanted:
            return
        taken = [self._box_of(mark) for mark, _ in shown if isinstance(mark, marks.Text)]
        font = interface_font(12)
        painter.setFont(font)
        for mark, _ in shown:
            if mark.name not in wanted or not isinstance(mark, marks.Segment | marks.Arc):
                continue
            wanted.remove(mark.name)
            text = renamed(self.session.conventions.letters, spoken(mark.name))
            width = QFontMetricsF(font).horizontalAdvance(text) + 8
            boxes = []
            for share in (0.92, 0.08, 0.7, 0.3, 0.5):
                spot = self._along(mark, share)
                boxes += [QRectF(spot.x() + dx, spot.y() + dy, width, 16) for dx in (4, -width - 4) for dy in (-19, 3)]
            box = min(boxes, key=lambda box: (sum(box.intersects(other) for other in taken), boxes.index(box)))
            taken.append(box)
            painter.fillRect(box, self.theme.color("paper"))
            painter.setPen(self.theme.color("accent"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _along(self, mark: marks.Segment | marks.Arc, share: float) -> QPointF:
        if isinstance(mark, marks.Segment):
            return self.view.px(mark.x1 + (mark.x2 - mark.x1) * share, mark.y1 + (mark.y2 - mark.y1) * share)
        return self.view.px(*mark.end(share))

    def _box_of(self, text: marks.Text) -> QRectF:
        left, low, right, high = text_box(text)
        return QRectF(self.view.px(left, high), self.view.px(right, low))

    def show_instead(self, marks: list[Mark] | None) -> None:
        """Show, thin and over the right one, what a mistake draws; None for nothing."""
        self._instead = marks or []
        self.update()

    def _paint_instead(self, painter: QPainter) -> None:
        page = self.session.page
        if page is None or not self._instead:
            return
        known = [mark for mark in self._instead if mark.block in page.placements]
        thin = [replace(placed(mark, page.placements[mark.block]), pen=Pen.HIDDEN) for mark in known]
        brush = MarkPainter(painter, self.view, replace(self.theme, paper_ink=self.theme.vermilion))
        brush.paint((mark, Stand.DONE) for mark in thin)

    def _paint_chosen(self, painter: QPainter) -> None:
        """A ring about the chosen point of a curve says that it can be dragged."""
        dot = self.session.chosen_dot()
        if dot is not None and dot.step <= self.session.step:
            painter.setPen(QPen(self.theme.color("accent"), 1.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(self.view.px(dot.x, dot.y), 7, 7)

    def _paint_pointed(self, painter: QPainter) -> None:
        """The edges of a body that are pointed at, broad in every view, with a disc at either end."""
        page = self.session.page
        several = self.session.belongings
        if page is None or not several:
            return
        tint = QColor(self.theme.color("accent"))
        tint.setAlpha(110)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for block, image in (image for each in several for image in each.images):
            spots = [self.view.px(*page.placements[block].at(x, y)) for x, y in image]
            painter.setPen(QPen(tint, BROAD, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin))
            painter.drawPolyline(QPolygonF(spots))
            painter.setPen(QPen(self.theme.color("accent"), 1.5))
            for end in (spots[0], spots[-1]):
                painter.drawEllipse(end, 4, 4)

    def edge_at(self, at: QPointF) -> tuple[int, ...]:
        """The edges of a body under the pointer, by their numbers: all whose images fall into one there."""
        drawing, page = self.session.drawing, self.session.page
        if drawing is None or page is None or not drawing.belongings:
            return ()
        found, nearest = [], PICK * 0.7
        for n, each in enumerate(drawing.belongings):
            for block, image in each.images:
                spots = [self.view.px(*page.placements[block].at(x, y)) for x, y in image]
                pairs = zip(spots, spots[1:], strict=False)
                away = min(_distance_to_segment(at.x(), at.y(), a.x(), a.y(), c.x(), c.y()) for a, c in pairs)
                if away < nearest:
                    found.append((away, n))
        least = min((away for away, _ in found), default=0.0)
        return tuple(sorted({n for away, n in found if away < least + 1.0}))

    def toggle_faired(self) -> None:
        """Show, or no longer show, what a hand would fair through the plotted points alone."""
        self.show_faired = not self.show_faired
        self.update()

    def faired_now(self) -> tuple[list[tuple[str, list[Pair]]], Gap | None]:
        """The faired curves of the drawing in hand by block, and where they stray most; remembered for the drawing."""
        drawing = self.session.drawing
        if drawing is None:
            return [], None
        if self._faired_of is not drawing:
            from wisecompass.judgement.fairing import faired, greatest_gap  # SciPy, only for those who ask

            curves = [(curve.block, [(float(x), float(y)) for x, y in faired(curve)]) for curve in drawing.faired]
            truth = drawing.problem.find_truth(drawing.typed, PLAIN)
            self._faired = curves, greatest_gap(drawing.faired, drawing.marks, truth)
            self._faired_of = drawing
        return self._faired

    def _paint_faired(self, painter: QPainter) -> None:
        curves, gap = self.faired_now()
        page = self.session.page
        assert page is not None
        painter.setPen(QPen(self.theme.color("vermilion"), 1.6, Qt.PenStyle.DashLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for block, places in curves:
            spots = [self.view.px(*page.placements[block].at(x, y)) for x, y in places]
            painter.drawPolyline(QPolygonF(spots))
        if gap is not None:
            spot = self.view.px(*page.placements[gap.block].at(gap.x, gap.y))
            painter.drawEllipse(spot, 7, 7)
            self._tag(painter, spot, f"faired by hand: {gap_text(gap.value)} off here, at most")

    def _lay_instrument(self, painter: QPainter, shown: list[tuple[Mark, Stand]]) -> None:
        drawing, current = self.session.drawing, self.session.step
        if drawing is None or current > len(drawing.steps):
            return
        new = [mark for mark, stand in shown if stand is Stand.NEW and not isinstance(mark, marks.Area)]
        named: dict[str, marks.Dot] = {}
        block = new[0].block if new else ""
        for mark, _ in shown:
            if isinstance(mark, marks.Dot) and mark.block == block:
                named.setdefault(mark.name, mark)
        page = self.session.page
        assert page is not None
        ceiling = max((self.view.px(mark.x, mark.y).y() for mark in page.brief if isinstance(mark, marks.Text)), default=0.0)
        instruments.lay(painter, self.view, self.theme, drawing.steps[current - 1], new, named, ceiling)

    # ----------------------------------------------------------------------------------------------------- measuring
    def _dots(self) -> list[marks.Dot]:
        page = self.session.page
        current = self.session.step
        if page is None:
            return []
        return [m for m in page.marks if isinstance(m, marks.Dot) and m.name and m.step <= current]

    def dot_at(self, at: QPointF) -> marks.Dot | None:
        """The named point under the pointer."""
        best, nearest = None, PICK
        for dot in self._dots():
            away = self._away(dot, at)
            if away < nearest:
                best, nearest = dot, away
        return best

    def mark_at(self, at: QPointF) -> Mark | None:
        """The drawn line under the pointer."""
        page = self.session.page
        if page is None:
            return None
        x, y = self.view.mm(at)
        best, nearest = None, PICK * 0.7 / self.view.k
        for mark in page.marks:
            if mark.step == 0 or isinstance(mark, marks.Area | marks.Dot | marks.Text | marks.Gap):
                continue
            points = sampled(mark, 72)
            for (x1, y1), (x2, y2) in zip(points, points[1:], strict=False):
                away = _distance_to_segment(x, y, x1, y1, x2, y2)
                if away < nearest:
                    best, nearest = mark, away
        return best

    def pick(self, dot: marks.Dot) -> None:
        """Pick a point for measuring; with the second the measure is taken."""
        x, y = self.figure_coordinates(dot)
        say(self, f"{renamed(self.session.conventions.letters, lettered(dot.name))}, x {number_text(x)}, y {number_text(y)}")
        if len(self.picked) == 2:
            self.picked = []
        if self.picked and self.picked[0].dot.name == dot.name and self.picked[0].dot.block == dot.block:
            self.picked = []
            self.measured.emit(None)
        else:
            self.picked.append(_Picked(dot))
        if len(self.picked) == 2:
            self.measured.emit(self.measure())
        self.update()

    def measure(self) -> Measured | None:
        """The measure between both picked points, in mm of the figure, proved."""
        if len(self.picked) != 2:
            return None
        return between(self.session, self.picked[0].dot, self.picked[1].dot)

    def clear_measure(self) -> None:
        self.picked = []
        self.measured.emit(None)
        self.update()

    def _paint_measure(self, painter: QPainter) -> None:
        if not self.picked:
            return
        painter.setPen(QPen(self.theme.color("accent"), 2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        spots = [self.view.px(p.dot.x, p.dot.y) for p in self.picked]
        for spot in spots:
            painter.drawEllipse(spot, 7, 7)
        if len(spots) == 2:
            painter.setPen(QPen(self.theme.color("accent"), 1.5, Qt.PenStyle.DashLine))
            painter.drawLine(spots[0], spots[1])
            measured = self.measure()
            if measured is not None:
                self._tag(painter, (spots[0] + spots[1]) / 2, measured.short)

    def _paint_hover(self, painter: QPainter) -> None:
        if self.hover is None:
            return
        spot = self.view.px(self.hover.x, self.hover.y)
        painter.setPen(QPen(self.theme.color("accent"), 1.5))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(spot, 5, 5)
        x, y = self.figure_coordinates(self.hover)
        units = self.session.conventions.units
        x_text, y_text = (measured(value, "mm", units, 3) for value in (x, y))
        name = renamed(self.session.conventions.letters, lettered(self.hover.name))
        self._tag(painter, spot, f"{name}   x {x_text}   y {y_text}")

    def figure_coordinates(self, dot: marks.Dot) -> tuple[float, float]:
        """A point of the page in mm of its block, as the construction has it."""
        return self._in_block(dot.block, dot.x, dot.y)

    def _in_block(self, block: str, x: float, y: float) -> Pair:
        page = self.session.page
        assert page is not None
        place = page.placements[block]
        x, y = (x - place.dx) / place.scale, (y - place.dy) / place.scale
        c, s = math.cos(math.radians(-place.angle)), math.sin(math.radians(-place.angle))
        return x * c - y * s, x * s + y * c

    def _tag(self, painter: QPainter, at: QPointF, text: str) -> None:
        font = interface_font(13, strong=True)
        painter.setFont(font)
        width = QFontMetricsF(font).horizontalAdvance(text) + 14
        box = QRectF(at.x() + 12, at.y() - 32, width, 22)
        if box.right() > self.width() - 4:
            box.moveRight(at.x() - 12)
        if box.top() < 4:
            box.moveTop(at.y() + 12)
        painter.setPen(QPen(self.theme.color("accent"), 1))
        painter.setBrush(self.theme.color("panel"))
        painter.drawRect(box)
        painter.setPen(self.theme.color("ink"))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    # -------------------------------------------------------------------------------------------------------- pointer
    def wheelEvent(self, event: QWheelEvent) -> None:  # noqa: N802
        self.zoom(1.0015 ** event.angleDelta().y(), event.position())

    def mousePressEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        self._pressed, self._dragged = event.position(), False
        dot = self.session.chosen_dot()
        self._sliding = dot is not None and self._away(dot, event.position()) < PICK
        view = None if self._sliding else self.view_at(event.position())
        self._moving = None if view is None else (view, view.place)
        self._grasped = event.position()
        self._liftable = None if self._sliding or self._moving else self._to_lift(event)

    def _to_lift(self, event: QMouseEvent) -> Lifted | None:
        """What a drag from here takes along: the figure by its caption or, where the whole sheet is seen, by a line of it;
        with Alt the block of that line alone."""
        at = event.position()
        if caption_under(self.session, self.view, at):
            return Lifted(self.session, None, QPointF())
        alone = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        mark = self.mark_at(at) if self.fitted or alone else None
        return None if mark is None else Lifted(self.session, mark.block if alone else None, QPointF())

    def view_at(self, at: QPointF) -> Placed | None:
        """The auxiliary view that can be dragged here: by its fold line, or by one of its points."""
        drawing, page = self.session.drawing, self.session.page
        if drawing is None or page is None or not drawing.placed:
            return None
        folds = {m.name: m for m in page.marks if isinstance(m, marks.Segment) and m.pen is Pen.GIVEN}
        x, y = self.view.mm(at)
        for view in drawing.placed:
            if view.step <= self.session.step:
                spots = (page.placements[""].at(*spot) for spot in view.spots)
                fold = folds[view.fold]
                away = _distance_to_segment(x, y, fold.x1, fold.y1, fold.x2, fold.y2)
                if min(away, *(math.dist(spot, (x, y)) for spot in spots)) < PICK * 0.8 / self.view.k:
                    return view
        return None

    def _move_view(self, at: QPointF) -> None:
        """Take an auxiliary view along its projectors with the pointer."""
        page = self.session.page
        assert self._moving is not None and page is not None
        view, start = self._moving
        where = page.placements[""]
        moved = at - self._grasped
        turned = math.radians(where.angle)
        dx = view.dx * math.cos(turned) - view.dy * math.sin(turned)
        dy = view.dx * math.sin(turned) + view.dy * math.cos(turned)
        self.session.held = True
        self.session.move_view(view.name, start + (moved.x() * dx - moved.y() * dy) / (where.scale * self.view.k))

    def _away(self, dot: marks.Dot, at: QPointF) -> float:
        """How far a point is from the pointer, px."""
        here = self.view.px(dot.x, dot.y)
        return math.hypot(here.x() - at.x(), here.y() - at.y())

    def _slide(self, at: QPointF) -> None:
        """Take the chosen point of the curve along to the pointer."""
        chosen = None if self.session.empty else self.session.problem.chosen
        page = self.session.page
        if chosen is not None and page is not None and chosen.block in page.placements:
            self.session.slide_to(*self._in_block(chosen.block, *self.view.mm(at)))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        if self._pressed is not None and event.buttons():
            moved = event.position() - self._pressed
            if self._moving is not None and (self._dragged or moved.manhattanLength() > 4):
                self._dragged = True
                self._move_view(event.position())
            elif self._sliding:
                self._dragged = self.session.held = True
                self._slide(event.position())
            elif self._liftable is not None and (self._dragged or moved.manhattanLength() > 4):
                self._dragged, self.lifted = True, self._liftable
                self.lifted.by = event.position() - self._grasped
                self.update()
            elif self._dragged or moved.manhattanLength() > 4:
                self._dragged, self.fitted = True, False
                self.view = View(self.view.k, self.view.x + moved.x(), self.view.y + moved.y())
                self._pressed = event.position()
                self.update()
            return
        found = self.dot_at(event.position())
        over = self.view_at(event.position())
        head = caption_under(self.session, self.view, event.position())
        title = self.title_at(event.position())
        self.setCursor(Qt.CursorShape.SizeAllCursor if over is not None or head else Qt.CursorShape.ArrowCursor)
        told = "" if over is None else f"Drag: {over.fold} and its view go along their projectors"
        if title:
            self.setCursor(Qt.CursorShape.IBeamCursor)
            told = "click to write here; Ctrl+T shows all fields"
        self.setToolTip("Drag: the whole figure goes along, with Alt from a line one block of it" if head else told)
        if found is not self.hover:
            self.hover = found
            self.update()
        self.session.point_at(() if found is not None else self.edge_at(event.position()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        if self.lifted is not None:
            lifted, self.lifted, self._liftable = self.lifted, None, None
            self._pressed = None
            lifted.lay_down(self.view)
            self.update()
            return
        if self._pressed is not None and not self._dragged and (title := self.title_at(event.position())):
            self.edit_title(title)
        elif self._pressed is not None and not self._dragged and not self._turns_to_another(event.position()):
            dot = self.dot_at(event.position())
            if dot is not None:
                self.pick(dot)
            else:
                mark = self.mark_at(event.position())
                chosen = None if self.session.empty else self.session.problem.chosen
                if isinstance(mark, marks.Curve | marks.Ellipse) and chosen is not None and mark.block == chosen.block:
                    self._slide(event.position())
                elif mark is not None:
                    self.session.go_to(mark.step)
        self._pressed, self._sliding, self._moving = None, False, None
        self.session.release()

    def title_at(self, at: QPointF) -> str:
        """Which field of the title block is there, by its name in the document."""
        x, y = self.view.mm(at)
        for name, (left, low, right, high) in self._title_boxes().items():
            if left <= x <= right and low <= y <= high:
                return name
        return ""

    def _title_boxes(self) -> dict[str, Box]:
        return title_boxes(self.session.sheet.as_paper(), title_of(self.session.folio, self.session.place))

    def edit_title(self, name: str) -> None:
        """Write a field of the title block where it stands."""
        left, low, right, high = self._title_boxes()[name]
        box = QRectF(self.view.px(left, high), self.view.px(right, low)).adjusted(2, 2, -2, -2)
        owner = self.session.folio if name in TITLE_FIELDS else self.session.sheet
        self.title_field = TitleField(self, box.toRect(), name, getattr(owner, name))
        self.title_field.written.connect(self._write_title)

    def _write_title(self, name: str, text: str, on: int) -> None:
        """Take what was written; with Tab the next field is written at once."""
        session = self.session
        try:
            folio = register.with_title(session.folio, session.place[0], name, text)
        except WiseCompassError as reason:
            session.noticed.emit(str(reason))
            return
        session.change(folio, session.place, "title block")
        if name == "number" and (said := register.same_number(session.folio, session.place[0])):
            session.noticed.emit(said)
        if on:
            names = list(self._title_boxes())
            self.edit_title(names[(names.index(name) + on) % len(names)] if name in names else names[0])

    def _turns_to_another(self, at: QPointF) -> bool:
        """Take another figure of the sheet in hand, where one is clicked."""
        s, f = self.session.place
        n = self.session.figure_at(*self.view.mm(at))
        if n is None or n == f or self.dot_at(at) is not None or self.mark_at(at) is not None:
            return False
        self.session.turn_to(s, n)
        return True

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:  # noqa: N802
        self.fit()

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802
        keys = {Qt.Key.Key_Plus: 1.25, Qt.Key.Key_Equal: 1.25, Qt.Key.Key_Minus: 0.8}
        if event.key() in keys:
            self.zoom(keys[Qt.Key(event.key())])
        elif event.key() == Qt.Key.Key_0:
            self.fit()
        elif event.key() == Qt.Key.Key_Escape:
            self.clear_measure()
        elif event.key() in (Qt.Key.Key_N, Qt.Key.Key_P):
            self._hover_next(1 if event.key() == Qt.Key.Key_N else -1)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.hover is not None:
            self.pick(self.hover)
        else:
            super().keyPressEvent(event)

    def _hover_next(self, way: int) -> None:
        """Walk through the named points from the keyboard."""
        dots = self._dots()
        if not dots:
            return
        at = next((i for i, dot in enumerate(dots) if dot is self.hover), -1 if way > 0 else 0)
        self.hover = dots[(at + way) % len(dots)]
        self.update()


def _distance_to_segment(x: float, y: float, x1: float, y1: float, x2: float, y2: float) -> float:
    dx, dy = x2 - x1, y2 - y1
    size = dx * dx + dy * dy
    share = 0.0 if size == 0 else min(1.0, max(0.0, ((x - x1) * dx + (y - y1) * dy) / size))
    return math.hypot(x - x1 - share * dx, y - y1 - share * dy)
