"""The problem index: the folio's sheets with their figures, then all problems by family with drawn signs."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import QDropEvent, QGuiApplication, QIcon, QKeyEvent, QPainter, QPen, QPixmap, QResizeEvent
from PySide6.QtWidgets import QAbstractItemView, QLineEdit, QTreeWidget, QTreeWidgetItem, QVBoxLayout, QWidget

from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.desk.paint import View
from wisecompass.desk.session import Session
from wisecompass.desk.steps import WALKING
from wisecompass.desk.theme import UNIT, Theme, interface_font
from wisecompass.drafting import marks
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.marks import Mark, bounds, sampled
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.solve import construct
from wisecompass.folio import register

SIGN = 30
"""Side of a sign, px."""

PLACE, PROBLEM_ID = Qt.ItemDataRole.UserRole, Qt.ItemDataRole.UserRole.value + 1
SIGN_PENS = {Pen.OUTLINE: 1.7, Pen.CUT: 1.7, Pen.HIDDEN: 0.8, Pen.LOCUS: 0.7, Pen.FOLD: 0.9, Pen.GIVEN: 0.9}

FEW = 4
"""Fewer result lines than this do not tell one figure from another: the construction is shown as well."""


class Index(QWidget):
    """Search field above a tree. Down from the search enters the tree; Enter opens."""

    opened = Signal()

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(self)
        column.setContentsMargins(UNIT, UNIT, 0, 0)
        column.setSpacing(UNIT)
        self.search = QLineEdit()
        self.search.setObjectName("search")
        self.search.setPlaceholderText("Search problems  Ctrl+K")
        self.search.setAccessibleName("search problems")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(self.filter)
        self.search.returnPressed.connect(self._open_first)
        self.tree = _Tree()
        self.tree.activated_item.connect(self._open)
        self.tree.dropped.connect(self._move)
        column.addWidget(self.search)
        column.addWidget(self.tree)
        self._waiting: list[QTreeWidgetItem] = []
        self._headings: list[QTreeWidgetItem] = []
        self._words: dict[str, str] = {}
        self._icons: dict[str, QIcon] = {}
        self._signs_begun = False
        self._signs = QTimer(self)
        self._signs.setInterval(0)
        self._signs.timeout.connect(self._draw_a_sign)
        session.folio_changed.connect(self.rebuild)
        session.figure_changed.connect(self.mark_current)
        session.followed.connect(self.name_figures)
        self.rebuild()

    def rebuild(self) -> None:
        """List sheets and problems anew; signs follow one by one when the window is idle."""
        self.tree.clear()
        self._headings = []
        for s, sheet in enumerate(self.session.folio.sheets):
            heading = self._heading(f"{sheet.number}  {sheet.name}".strip())
            heading.setToolTip(0, f"{self.session.folio.work}  {sheet.number}  {sheet.name}")
            heading.setData(0, PLACE, (s, 0))
            heading.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsDropEnabled)
            for f, figure in enumerate(sheet.figures):
                item = QTreeWidgetItem(heading)
                item.setData(0, PLACE, (s, f))
                item.setData(0, PROBLEM_ID, figure.problem)
            heading.setExpanded(True)
        self.name_figures()
        self._waiting = []
        for family, names in catalogue.FAMILIES.items():
            heading = self._heading(family.capitalize())
            for name in names:
                item = QTreeWidgetItem(heading, [_plain_name(name)])
                item.setData(0, PROBLEM_ID, f"{family}/{name}")
                item.setSizeHint(0, QSize(100, SIGN + 6))
                self._waiting.append(item)
            heading.setExpanded(True)
        if self._signs_begun:
            self._signs.start()
        self.mark_current()

    def name_figures(self) -> None:
        """Call each figure by its name."""
        sheets = self.session.folio.sheets
        names = {(s, f): figure.name for s, sheet in enumerate(sheets) for f, figure in enumerate(sheet.figures)}
        for item in (item for heading in self._headings[: len(sheets)] for item in _children(heading)):
            place = item.data(0, PLACE)
            if place is not None and item.text(0) != (name := names.get(tuple(place), "")):
                item.setText(0, name)
                item.setToolTip(0, f"{sheets[place[0]].number}  {sheets[place[0]].name}  {name}" if name else "")

    def _heading(self, text: str) -> QTreeWidgetItem:
        item = QTreeWidgetItem(self.tree, [text])
        self._headings.append(item)
        item.setFlags(Qt.ItemFlag.ItemIsEnabled)
        item.setFont(0, interface_font(13, strong=True))
        item.setForeground(0, self.theme.color("quiet"))
        item.setSizeHint(0, QSize(100, 23))
        return item

    def _draw_a_sign(self) -> None:
        if not self._waiting:
            self._signs.stop()
            return
        item = self._waiting.pop(0)
        problem = self._learn(item)
        if problem.id not in self._icons:
            board = construct(problem, problem.read({}), problem.methods[0], PLAIN)
            self._icons[problem.id] = QIcon(sign_of(board.finished_marks(), self.theme, self.devicePixelRatioF()))
        item.setIcon(0, self._icons[problem.id])

    def _learn(self, item: QTreeWidgetItem) -> Problem:
        """Give a row its title, and keep the words that it is found by."""
        problem = catalogue.problem(item.data(0, PROBLEM_ID))
        if problem.id not in self._words:
            methods = " ".join(method.name for method in problem.methods)
            findings = " ".join(problem.findings)
            self._words[problem.id] = f"{problem.id} {problem.title} {problem.brief} {methods} {findings}".casefold()
        item.setText(0, problem.title)
        item.setToolTip(0, problem.spoken(problem.read({})))
        return problem

    def begin_signs(self) -> None:
        """Draw signs from now on, one whenever the window is idle."""
        self._signs_begun = True
        self._signs.start()

    def finish_signs(self) -> None:
        """Draw all signs at once, for pictures and tests."""
        while self._waiting:
            self._draw_a_sign()

    def mark_current(self) -> None:
        """Select the figure in hand, or the sheet where nothing stands on it."""
        headings = self._headings[: len(self.session.folio.sheets)] if self.session.empty else []
        for item in (*headings, *self._items()):
            if item.data(0, PLACE) is not None and tuple(item.data(0, PLACE)) == self.session.place:
                self.tree.setCurrentItem(item)

    def _items(self) -> list[QTreeWidgetItem]:
        return [item for heading in self._headings for item in _children(heading)]

    def filter(self, text: str) -> None:
        """Show only what has every word of the search."""
        if text:
            for item in self._waiting:
                self._learn(item)
        words = text.casefold().split()
        for heading in self._headings:
            shown = 0
            for item in _children(heading):
                own = f"{heading.text(0)} {item.text(0)} {self._words.get(item.data(0, PROBLEM_ID), '')}".casefold()
                hit = all(word in own for word in words)
                item.setHidden(not hit)
                shown += hit
            heading.setHidden(not shown)

    def focus_search(self) -> None:
        self.search.setFocus(Qt.FocusReason.ShortcutFocusReason)
        self.search.selectAll()

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802 - Qt's name
        if event.key() == Qt.Key.Key_Down and self.search.hasFocus():
            hits = [item for item in self._items() if not item.isHidden()]
            if hits:
                self.tree.setFocus()
                self.tree.setCurrentItem(hits[0])
            return
        if event.key() == Qt.Key.Key_Escape and self.search.hasFocus():
            self.search.clear()
            return
        super().keyPressEvent(event)

    def _open_first(self) -> None:
        hits = [item for item in self._items() if not item.isHidden()]
        if hits:
            self._open(hits[0])

    def _open(self, item: QTreeWidgetItem) -> None:
        """Turn to a figure or a sheet; put a problem on the sheet in hand, with Shift on a new one."""
        place = item.data(0, PLACE)
        if place is not None:
            self.session.turn_to(*place)
        elif item.data(0, PROBLEM_ID) is not None:
            shift = QGuiApplication.keyboardModifiers() & Qt.KeyboardModifier.ShiftModifier
            try:
                self.session.add_problem(item.data(0, PROBLEM_ID), new_sheet=bool(shift))
            except WiseCompassError as reason:
                self.session.noticed.emit(str(reason))
                return
        else:
            return
        if self.search.text():
            self.search.clear()
        self.opened.emit()

    def _move(self, taken: tuple[int, int], to: tuple[int, int]) -> None:
        """A figure that was dragged goes before the one that it was dropped on, or to the end of a sheet."""
        down = taken[0] == to[0] and taken[1] < to[1]  # what stood before it moves up
        folio, place = register.move_figure(self.session.folio, taken, (to[0], to[1] - down))
        self.session.change(folio, place, "figure moved")


def _children(heading: QTreeWidgetItem) -> list[QTreeWidgetItem]:
    found = (heading.child(i) for i in range(heading.childCount()))
    return [item for item in found if item is not None]


class _Tree(QTreeWidget):
    """A tree whose items open on a click or on Enter."""

    activated_item = Signal(QTreeWidgetItem)
    dropped = Signal(object, object)
    """The place of the figure that was dragged, and the place that it goes to."""

    def __init__(self) -> None:
        super().__init__()
        self.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.ActionsContextMenu)
        self.setHeaderHidden(True)
        self.setRootIsDecorated(False)
        self.setIndentation(6)
        self.setIconSize(QSize(SIGN, SIGN))
        self.setUniformRowHeights(False)
        self.setAccessibleName("sheets and problems")
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.itemClicked.connect(lambda item, _: self.activated_item.emit(item))

    def dropEvent(self, event: QDropEvent) -> None:  # noqa: N802
        self.drop(self.currentItem(), self.itemAt(event.position().toPoint()))
        event.setDropAction(Qt.DropAction.IgnoreAction)
        event.accept()

    def drop(self, taken: QTreeWidgetItem | None, target: QTreeWidgetItem | None) -> None:
        """A figure let go on another figure or on a sheet; anything else stays where it is."""
        if taken is None or target is None or taken.parent() is None:
            return
        place, to = taken.data(0, PLACE), target.data(0, PLACE)
        if place is not None and to is not None and target is not taken:
            self.dropped.emit(tuple(place), tuple(to) if target.parent() is not None else (to[0], target.childCount()))

    def resizeEvent(self, event: QResizeEvent) -> None:  # noqa: N802
        super().resizeEvent(event)
        if self.currentItem() is not None:
            self.scrollTo(self.currentIndex())

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.currentItem() is not None:
            self.activated_item.emit(self.currentItem())
        elif event.key() in WALKING:
            event.ignore()
        else:
            super().keyPressEvent(event)


def _plain_name(problem_id: str) -> str:
    """What a problem is called until its title is known, for which it would have to be imported."""
    return problem_id.split("/")[-1].replace("-", " ").capitalize()


def sign_of(drawn: list[Mark], theme: Theme, ratio: float = 1.0) -> QPixmap:
    """The small drawn sign of a figure: its result lines, in the block that has most of them."""
    drawable = [mark for mark in drawn if not isinstance(mark, marks.Dot | marks.Area | marks.Text | marks.Hatch)]
    lines = [mark for mark in drawable if mark.pen in SIGN_PENS]
    if len(lines) < FEW:
        lines = [mark for mark in drawable if mark.pen in SIGN_PENS or mark.pen is Pen.CONSTRUCTION]
    weight: dict[str, int] = {}
    for mark in lines:
        weight[mark.block] = weight.get(mark.block, 0) + (mark.pen in (Pen.OUTLINE, Pen.CUT))
    block = "pattern" if "pattern" in weight else max(weight, key=weight.__getitem__, default="")
    lines = [mark for mark in lines if mark.block == block]
    pixmap = QPixmap(round(SIGN * ratio), round(SIGN * ratio))
    pixmap.setDevicePixelRatio(ratio)
    pixmap.fill(Qt.GlobalColor.transparent)
    left, low, right, high = bounds(list(lines))
    room = SIGN - 6
    k = room / max(right - left, high - low, 1e-9)
    view = View(k, SIGN / 2 - k * (left + right) / 2, SIGN / 2 + k * (low + high) / 2)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for mark in lines:
        pen = QPen(theme.color("ink"), SIGN_PENS.get(mark.pen, 0.7))
        if mark.pen in (Pen.HIDDEN, Pen.FOLD, Pen.LOCUS):
            pen.setDashPattern([3, 2])
        painter.setPen(pen)
        points = [view.px(x, y) for x, y in sampled(mark, 40)]
        painter.drawPolyline(points)
    painter.end()
    return pixmap
