"""The ledger: answers with value, unit, closed form and bound; checks; this step's cautions; a measure."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import Enum
from fractions import Fraction
from html import escape
from typing import TYPE_CHECKING

from PySide6.QtCore import (
    QAbstractListModel,
    QMimeData,
    QModelIndex,
    QPersistentModelIndex,
    QRect,
    QSize,
    Qt,
    QTimer,
    Signal,
)
from PySide6.QtGui import QDrag, QFontMetrics, QGuiApplication, QKeyEvent, QMouseEvent, QPainter, QPen, QResizeEvent
from PySide6.QtWidgets import QLabel, QListView, QStyledItemDelegate

from wisecompass.arithmetic import PLAIN
from wisecompass.desk.measure import Measured
from wisecompass.desk.session import Session
from wisecompass.desk.steps import WALKING
from wisecompass.desk.theme import UNIT, Theme, interface_font, scaled
from wisecompass.drafting.answer_words import answer_words
from wisecompass.drafting.answers import Answer, bound_text, printed, unproved
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.solve import plain_value
from wisecompass.drafting.step import Kind
from wisecompass.drafting.wording import measured, number_text, spoken
from wisecompass.folio.links import link_text

if TYPE_CHECKING:
    from PySide6.QtWidgets import QStyleOptionViewItem  # its enumerations are slow to make

AnyIndex = QModelIndex | QPersistentModelIndex


class RowKind(Enum):
    HEAD = "head"
    ANSWER = "answer"
    CHECK = "check"
    NOTE = "note"
    VALUE = "value"
    """A value that is taken into the brief."""
    STEP = "step"
    """A step with its share of something, as a bar; ``below`` what it says."""
    CHOICE = "choice"
    """One of several to choose from; ``right`` is its letter."""


@dataclass(frozen=True)
class Row:
    """One line: ``left`` what it is, ``right`` its value, ``below`` closed form and bound, ``copy`` what is copied."""

    kind: RowKind
    left: str
    right: str = ""
    below: str = ""
    copy: str = ""
    good: bool = True
    link: str = ""
    """The answer's name, by which another figure can be led to it."""
    step: int = 0
    """Where a click leads."""
    share: float = 0.0
    hand: str = ""
    """How near a hand comes to it."""

    def aloud(self) -> str:
        said = ("holds:" if self.good else "fails:") if self.kind is RowKind.CHECK else ""
        words = (self.right, self.left) if self.kind is RowKind.CHOICE else (self.left, self.right)
        return " ".join(part for part in (said, *words, self.below, self.hand) if part)


def power_text(bound: Fraction) -> str:
    """A bound as ``3·10⁻⁴⁶``, rounded up."""
    if bound == 0:
        return "0"
    mantissa, exponent = bound_text(bound, 1).split("e")
    raised = exponent.translate(str.maketrans("-0123456789", "⁻⁰¹²³⁴⁵⁶⁷⁸⁹"))
    return f"{mantissa}·10{raised}"


def proof_text(answer: Answer, bound: Fraction) -> str:
    """How sure the number is as it stands there."""
    if bound == 0 and answer.proved:
        return "exact"
    return f"{'proved' if answer.proved else 'numerical'} ± {power_text(bound)}"


def answer_row(answer: Answer, units: Units = Units.MM) -> Row:
    """A finding as a row, in the folio's units; its closed form only where those are millimetres."""
    name = answer_words(answer.name)
    if answer.value is None:
        return Row(RowKind.ANSWER, name, "none", "there is none for these numbers", "none")
    if isinstance(answer.value, list):
        point = answer.kind is Kind.POINT
        texts, bound = printed(answer, units, 2 if point else 1)
        shown = ", ".join(text.split(" ")[0] for text in texts)
        proof = f"{proof_text(answer, bound)}" if answer.balls else ""
        below = f"x, in front, above; {proof}" if point else shown
        head = f"({shown})" if point else f"{len(answer.value)} of them"
        return Row(RowKind.ANSWER, name, head, below, ", ".join(map(repr, answer.value)))
    if not isinstance(answer.value, float):
        shown = {True: "yes", False: "no"}.get(answer.value, str(answer.value)) if isinstance(answer.value, bool) else ""
        return Row(RowKind.ANSWER, name, shown or str(answer.value), "", str(answer.value))
    texts, bound = printed(answer, units, 4)
    shown = texts[0] if texts else measured(answer.value, answer.kind.unit, units, 4)
    in_millimetres = units is Units.MM or not answer.kind.unit.startswith("mm")
    closed = f"= {answer.closed_form.replace('-', '−')}   " if answer.closed_form and in_millimetres else ""
    proof = proof_text(answer, bound) if texts else ""
    return Row(RowKind.ANSWER, name, shown, closed + proof, repr(answer.value), link=answer.name)


SCROLL_BAR = 10
"""Width that a list's scroll bar takes where there is one, px."""

COVERED = "covered"
"""What stands for the value of an answer while somebody practises."""

AT_A_TIME = 3
"""Changed rows that are painted at a time."""

PAUSE = 2
"""Milliseconds until the next are."""


class LedgerModel(QAbstractListModel):
    """Rows for the list; read aloud through the display role."""

    touched = Signal(QModelIndex)
    """A row has other words and is as tall as before; ``dataChanged`` would lay out and paint the whole list."""

    def __init__(self) -> None:
        super().__init__()
        self.rows: list[Row] = []
        self._waiting: list[int] = []
        """Rows that have changed and are not painted yet."""

    def set_rows(self, rows: list[Row], tall: Callable[[Row], int]) -> None:
        """Show other rows. Where they are as ``tall`` as those before, only what has changed is painted anew, a few rows at
        a time: nobody waits for a ledger while he types."""
        if rows == self.rows:
            return
        before, self.rows = self.rows, rows
        if [tall(row) for row in rows] != [tall(row) for row in before]:
            self.rows = before
            self.beginResetModel()
            self.rows = rows
            self.endResetModel()
            self._waiting = []
            return
        changed = [at for at, (row, other) in enumerate(zip(rows, before, strict=True)) if row != other]
        begun = bool(self._waiting)
        self._waiting = sorted({*changed, *(at for at in self._waiting if at < len(rows))})
        if not begun:
            QTimer.singleShot(PAUSE, self._tell)  # not together with the sheet

    def _tell(self) -> None:
        """Tell the view of the next few changed rows, and come back for the rest."""
        now, self._waiting = self._waiting[:AT_A_TIME], self._waiting[AT_A_TIME:]
        for at in now:
            self.touched.emit(self.index(at))
        if self._waiting:
            QTimer.singleShot(PAUSE, self._tell)

    def rowCount(self, parent: AnyIndex | None = None) -> int:  # noqa: N802 - Qt's name
        return len(self.rows)

    def data(self, index: AnyIndex, role: int = int(Qt.ItemDataRole.DisplayRole)) -> object:
        row = self.rows[index.row()]
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return row.aloud()
        if role == Qt.ItemDataRole.UserRole:
            return row
        if role == Qt.ItemDataRole.ToolTipRole and row.copy:
            return "click or Enter copies the value"
        return None

    def flags(self, index: AnyIndex) -> Qt.ItemFlag:
        row = self.rows[index.row()]
        if row.kind is RowKind.HEAD:
            return Qt.ItemFlag.NoItemFlags
        flags = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        return flags | Qt.ItemFlag.ItemIsDragEnabled if row.link else flags


class _Painter(QStyledItemDelegate):
    def __init__(self, theme: Theme, view: QListView) -> None:
        super().__init__()
        self.theme, self.view = theme, view
        self.width = 260

    def sizeHint(self, option: QStyleOptionViewItem, index: AnyIndex) -> QSize:  # noqa: N802
        return QSize(self.width, self.height(index.data(Qt.ItemDataRole.UserRole)))

    def height(self, row: Row) -> int:
        """How tall a row is, px."""
        if row.kind is RowKind.HEAD:
            return scaled(34)
        if row.kind is RowKind.STEP:
            return scaled(40 if row.below else 26)
        if row.kind in (RowKind.ANSWER, RowKind.VALUE):
            return scaled((42 if row.below or row.hand else 26) + (20 if self.parted(row) else 0))
        metrics = QFontMetrics(interface_font(13))
        box = metrics.boundingRect(QRect(0, 0, self.width - 4 * UNIT - 22, 1000), Qt.TextFlag.TextWordWrap, row.left)
        return box.height() + 9 + (scaled(16) if row.below else 0)

    def parted(self, row: Row) -> bool:
        """Whether a name is too long to stand on one line with its value."""
        name = QFontMetrics(interface_font(14)).horizontalAdvance(row.left)
        value = QFontMetrics(interface_font(16, strong=True)).horizontalAdvance(row.right)
        return name + value + UNIT > self.view.width() - 4 * UNIT - SCROLL_BAR

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: AnyIndex) -> None:
        row: Row = index.data(Qt.ItemDataRole.UserRole)
        t = self.theme
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        rect: QRect = option.rect.adjusted(2 * UNIT, 0, -2 * UNIT, 0)
        if index.row() == self.view.currentIndex().row():
            painter.fillRect(option.rect, t.color("room"))
            painter.fillRect(QRect(option.rect.left(), option.rect.top(), 3, option.rect.height()), t.color("accent"))
        if row.kind is RowKind.HEAD:
            self._head(painter, rect, row)
        elif row.kind in (RowKind.ANSWER, RowKind.VALUE):
            self._answer(painter, rect, row)
        elif row.kind is RowKind.STEP:
            self._step(painter, rect, row)
        else:
            self._remark(painter, rect, row)
        painter.restore()

    def _head(self, painter: QPainter, rect: QRect, row: Row) -> None:
        painter.setFont(interface_font(13, strong=True))
        painter.setPen(self.theme.color("quiet"))
        bottom = rect.adjusted(0, 0, 0, -5)
        metrics = painter.fontMetrics()
        room = bottom.width() - metrics.horizontalAdvance(row.right) - UNIT
        left = metrics.elidedText(row.left, Qt.TextElideMode.ElideRight, room)
        painter.drawText(bottom, Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft, left)
        painter.drawText(bottom, Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignRight, row.right)
        painter.setPen(QPen(self.theme.color("edge"), 1))
        painter.drawLine(rect.left(), rect.bottom() - 1, rect.right(), rect.bottom() - 1)

    def _answer(self, painter: QPainter, rect: QRect, row: Row) -> None:
        upper = QRect(rect.left(), rect.top() + 3, rect.width(), scaled(22))
        painter.setFont(interface_font(14))
        painter.setPen(self.theme.color("ink"))
        name = painter.fontMetrics().elidedText(row.left, Qt.TextElideMode.ElideRight, upper.width())
        painter.drawText(upper, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, name)
        painter.setFont(interface_font(16, strong=True))
        if self.parted(row):
            upper.translate(0, scaled(20))
        painter.drawText(upper, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, row.right)
        if row.below or row.hand:
            lower = QRect(rect.left(), upper.bottom() - 1, rect.width(), scaled(17))
            font = interface_font(12)
            painter.setFont(font)
            painter.setPen(self.theme.color("quiet"))
            painter.drawText(lower, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, row.hand)
            left = QFontMetrics(font).horizontalAdvance(row.hand) + UNIT if row.hand else 0
            text = QFontMetrics(font).elidedText(row.below, Qt.TextElideMode.ElideMiddle, rect.width() - left)
            painter.drawText(lower, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, text)

    def _step(self, painter: QPainter, rect: QRect, row: Row) -> None:
        """A step with its share: a bar as long, and the share in words."""
        room = rect.adjusted(2 * UNIT, 0, 0, 0)
        bar = QRect(room.left(), room.top() + scaled(21), max(2, round((room.width() - scaled(4)) * row.share)), 3)
        painter.fillRect(bar, self.theme.color("accent"))
        painter.setFont(interface_font(13, strong=True))
        painter.setPen(self.theme.color("ink"))
        upper = QRect(room.left(), room.top() + 2, room.width(), scaled(18))
        metrics = painter.fontMetrics()
        space = upper.width() - metrics.horizontalAdvance(row.right) - UNIT
        left = metrics.elidedText(row.left, Qt.TextElideMode.ElideRight, space)
        painter.drawText(upper, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, left)
        painter.drawText(upper, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, row.right)
        if row.below:
            font = interface_font(12)
            painter.setFont(font)
            painter.setPen(self.theme.color("quiet"))
            lower = QRect(room.left(), bar.bottom(), room.width(), scaled(17))
            text = QFontMetrics(font).elidedText(row.below, Qt.TextElideMode.ElideRight, room.width())
            painter.drawText(lower, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, text)

    def _remark(self, painter: QPainter, rect: QRect, row: Row) -> None:
        t = self.theme
        at = QRect(rect.left(), rect.top() + 5, 14, 16)
        if row.kind is RowKind.CHECK:
            painter.setPen(QPen(t.color("accent" if row.good else "wrong"), 1.8))
            x, y = at.left() + 1, at.center().y()
            if row.good:
                painter.drawLine(x, y, x + 4, y + 4)
                painter.drawLine(x + 4, y + 4, x + 11, y - 5)
            else:
                painter.drawLine(x, y - 5, x + 10, y + 5)
                painter.drawLine(x, y + 5, x + 10, y - 5)
        elif row.kind is RowKind.CHOICE:
            painter.setFont(interface_font(13, strong=True))
            painter.setPen(t.color("accent"))
            painter.drawText(at.translated(0, -2), Qt.AlignmentFlag.AlignLeft, row.right)
        painter.setFont(interface_font(13))
        painter.setPen(t.color("ink"))
        words = rect.adjusted(20, 3, 0, 0)
        painter.drawText(words, Qt.TextFlag.TextWordWrap, row.left if row.good else f"fails: {row.left}")
        if row.below:
            painter.setFont(interface_font(12))
            painter.setPen(t.color("quiet"))
            painter.drawText(words, Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft, row.below)


class Rows(QListView):
    """A list of rows. A click or Enter on one copies its value; an answer is dragged onto a number of a brief."""

    copied = Signal(str)

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session = session
        self.table = LedgerModel()
        self.setModel(self.table)
        self.table.touched.connect(self._repaint)
        self._painter = _Painter(theme, self)
        self.setItemDelegate(self._painter)
        self.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.clicked.connect(self._copy)

    def _repaint(self, index: QModelIndex) -> None:
        self.viewport().update(self.visualRect(index))

    def resizeEvent(self, event: QResizeEvent) -> None:  # noqa: N802
        self._painter.width = event.size().width()
        super().resizeEvent(event)
        self.scheduleDelayedItemsLayout()

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.currentIndex().isValid():
            self._copy(self.currentIndex())
        elif event.key() in WALKING:
            event.ignore()
        else:
            super().keyPressEvent(event)

    def _copy(self, index: QModelIndex) -> None:
        row = self.table.rows[index.row()]
        if row.copy:
            QGuiApplication.clipboard().setText(row.copy)
            self.copied.emit(f"copied {row.left} {row.copy}")

    def _worded(self, rows: list[Row]) -> list[Row]:
        """The rows in the words and letters of the figure in hand."""
        worded = self.session.conventions.worded
        return [replace(row, left=worded(row.left)) for row in rows]

    def about(self, value: float, unit: str) -> str:
        """A reach with so many decimals that it keeps figures of its own."""
        decimals = 2 if value >= 0.1 else 3 if value >= 0.01 else 5
        return f"±{measured(value, unit, self.units, decimals)}"

    @property
    def units(self) -> Units:
        return self.session.conventions.units


class Ledger(Rows):
    """The answers with their proof, and the checks. A double click on an answer asks it backwards."""

    asked = Signal(str)
    """An answer that should be another."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(session, theme)
        self.measured: Measured | None = None
        self._shown_problem = ""
        self._shown: tuple[object, ...] = ()
        self.setAccessibleName("ledger: answers and checks")
        self.setDragEnabled(True)
        for signal in (session.followed, session.refused, session.certified, session.proved_ahead, session.covered):
            signal.connect(self.refresh)
        self.refresh()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:  # noqa: N802 - Qt's name
        self.turn_round(self.indexAt(event.position().toPoint()))

    def turn_round(self, index: QModelIndex | None = None) -> None:
        """Ask an answer backwards: that of a row, or of the row in hand, or the first."""
        at = self.currentIndex() if index is None else index
        rows = [self.table.rows[at.row()]] if at.isValid() else []
        row = next((each for each in [*rows, *self.table.rows] if each.link), None)
        if row is not None:
            self.asked.emit(row.link)

    def startDrag(self, _actions: Qt.DropAction) -> None:  # noqa: N802 - Qt's name
        """Take an answer along: let go on a number of another figure's brief it becomes a link."""
        index = self.currentIndex()
        row = self.table.rows[index.row()] if index.isValid() else None
        if row is None or not row.link or self.session.empty:
            return
        data = QMimeData()
        data.setText(link_text(self.session.figure, row.link))
        drag = QDrag(self)
        drag.setMimeData(data)
        drag.exec(Qt.DropAction.CopyAction)

    def show_measure(self, measured: Measured | None) -> None:
        self.measured, self._shown_problem = measured, ""
        self.refresh()

    def refresh(self, _step: int = 0) -> None:
        """Rows for what the session has now. Of another problem the values stand without proof until it is there."""
        drawing = self.session.drawing
        reaches = self.session.reaches
        cover = self.session.cover
        hidden = 0 if cover is None else 1 + len(cover.answers)
        proof = self.session.certificate
        now = (self.measured, proof, drawing and drawing.typed, self.session.trouble, self.units, reaches, hidden)
        if self.session.certificate is not None and self._shows(now):
            return
        self._shown = now
        rows: list[Row] = []
        if self.measured is not None:
            rows += self._measure_rows(self.measured)
        certificate = self.session.certificate
        if certificate is not None:
            stale = "of the last drawing" if self.session.trouble is not None else ""
            rows.append(Row(RowKind.HEAD, "Answers", stale))
            told = [(self._with_hand(answer_row(answer, self.units), answer), answer.name) for answer in certificate.answers]
            rows += [self._as_covered(row, name) for row, name in told]
            worst = certificate.deviation
            if worst.worst:
                away = measured(worst.worst, "mm", self.units, 3)
                rows.append(
                    Row(RowKind.ANSWER, "strays from the truth", away, f"at {spoken(worst.where)}", repr(worst.worst))
                )
            if certificate.checks:
                held = sum(check.holds for check in certificate.checks)
                rows.append(Row(RowKind.HEAD, "Checks", f"{held} of {len(certificate.checks)} hold"))
            for check in certificate.checks:
                unit = "°" if check.unit == "°" else f" {check.unit}"
                below = "" if check.holds else f"off by {number_text(check.residual, 4)}{unit}"
                rows.append(Row(RowKind.CHECK, spoken(check.text), below=below, good=check.holds))
        elif not self.session.empty and self._shown_problem == self.session.figure.problem:
            return  # the proof follows within the blink of an eye; until then the last values stand
        else:
            rows += self._unproved_rows()
        self._shown_problem = "" if self.session.empty else self.session.figure.problem
        self.table.set_rows(self._worded(rows), self._painter.height)

    def _as_covered(self, row: Row, name: str) -> Row:
        """An answer that a click uncovers, while somebody practises."""
        cover = self.session.cover
        if cover is None or name in cover.answers:
            return row
        return Row(RowKind.ANSWER, row.left, COVERED, "a click or Enter uncovers it", link=name)

    def _copy(self, index: QModelIndex) -> None:
        row = self.table.rows[index.row()]
        if row.right == COVERED:
            self.session.uncover(lambda cover: cover.uncover_answer(row.link))
        else:
            super()._copy(index)

    def _with_hand(self, row: Row, answer: Answer) -> Row:
        """An answer with how near a hand comes to it."""
        found = self.session.reaches.get(answer.name)
        if found is None or not isinstance(answer.value, float) or self.session.trouble is not None:
            return row
        return replace(row, hand=f"by hand {self.about(found.reach, answer.kind.unit)}")

    def _shows(self, now: tuple[object, ...]) -> bool:
        """Whether the rows are made of the very same things."""
        return len(self._shown) == len(now) and all(one is other for one, other in zip(self._shown, now, strict=True))

    def _unproved_rows(self) -> list[Row]:
        """The answers in floats, for the moment until the proof is there."""
        drawing = self.session.drawing
        if drawing is None:
            return []
        truth = drawing.problem.find_truth(drawing.typed, PLAIN)
        values = {**drawing.findings, **truth.findings}
        rows = [Row(RowKind.HEAD, "Answers")]
        for name, kind in drawing.problem.findings.items():
            if name in values:
                value = values[name]
                row = replace(answer_row(unproved(name, kind, plain_value(value)), self.units), below="being proved")
                rows.append(self._as_covered(row, name))
        return rows

    def _measure_rows(self, taken: Measured) -> list[Row]:
        head = Row(RowKind.HEAD, "Measured", taken.names)
        if taken.answer is None:
            return [head, Row(RowKind.NOTE, taken.note)]
        row = answer_row(taken.answer, self.units)
        rows = [head, row]
        if taken.direction is not None:
            rows.append(Row(RowKind.ANSWER, "direction", f"{number_text(taken.direction, 4)}°", "", repr(taken.direction)))
        return rows


CAUTIONS = 262
"""Width of the cautions beside a step, px."""


class Cautions(QLabel):
    """What to mind at the current step; on the whole sheet, what to mind with the figure."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.setObjectName("panel")
        self.setWordWrap(True)
        self.setTextFormat(Qt.TextFormat.RichText)
        self.setContentsMargins(UNIT, UNIT // 2, UNIT, UNIT // 2)
        self.setFixedWidth(scaled(CAUTIONS))
        self.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.setAccessibleName("cautions at this step")
        session.stepped.connect(self.refresh)
        session.followed.connect(self.refresh)
        self.refresh()

    def texts(self) -> list[str]:
        drawing, step = self.session.drawing, self.session.step
        if drawing is None:
            return []
        found = drawing.problem.cautions if step > len(drawing.steps) else drawing.steps[step - 1].cautions
        return [self.session.conventions.worded(text) for text in found]

    def refresh(self, _step: int = 0) -> None:
        texts = self.texts()
        head = "Mind at this step" if self.session.step <= self.session.last_step else "Mind"
        mark = f'<span style="color:{self.theme.vermilion}; font-weight:600">! </span>'
        lines = "".join(f'<p style="margin:4px 0 0 0">{mark}{escape(text)}</p>' for text in texts)
        self.setText(f'<span style="color:{self.theme.quiet}; font-weight:600">{head}</span>{lines}')
        self.setVisible(bool(texts))
