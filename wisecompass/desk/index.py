"""The two leaves at the left: the register of the folio's sheets with their figures, and the catalogue of all problems."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import QDropEvent, QGuiApplication, QIcon, QKeyEvent, QPainter, QPen, QPixmap, QResizeEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QLineEdit,
    QToolButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.catalogue import index as contents
from wisecompass.desk.leaves import Leaves
from wisecompass.desk.paint import View
from wisecompass.desk.session import Session
from wisecompass.desk.steps import WALKING
from wisecompass.desk.theme import UNIT, Theme, interface_font, scaled
from wisecompass.drafting import marks
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.marks import Mark, bounds, sampled
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import construct
from wisecompass.folio import register

SIGN, SMALL_SIGN = 30, 20
"""Side of a sign in the catalogue and in the register, px."""

PLACE, PROBLEM_ID = Qt.ItemDataRole.UserRole, Qt.ItemDataRole.UserRole.value + 1
SIGN_PENS = {Pen.OUTLINE: 1.7, Pen.CUT: 1.7, Pen.HIDDEN: 0.8, Pen.LOCUS: 0.7, Pen.FOLD: 0.9, Pen.GIVEN: 0.9}

LONG_HEAD = 23
"""Names with more letters than this take two lines."""

FEW = 4
"""Fewer result lines than this do not tell one figure from another: the construction is shown as well."""


class Index(QWidget):
    """Two leaves. In the catalogue Down from the search enters the list; Enter opens."""

    opened = Signal()

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.search = QLineEdit()
        self.search.setObjectName("search")
        self.search.setPlaceholderText("Search problems  Ctrl+K")
        self.search.setAccessibleName("search problems")
        self.search.setClearButtonEnabled(True)
        self.search.textChanged.connect(self.filter)
        self.search.returnPressed.connect(self._open_first)
        self.register, self.tree = _Tree(), _Tree()
        self.register.setIconSize(QSize(SMALL_SIGN, SMALL_SIGN))
        self.register.setAccessibleName("register: sheets and figures")
        self.tree.setAccessibleName("catalogue: all problems")
        self.register.dropped.connect(self._move)
        self.more = QToolButton()
        self.more.setText("+ figure")
        self.more.setToolTip("pick a problem for this sheet  Ctrl+K")
        self.more.clicked.connect(self.focus_search)
        self.sheet_button = QToolButton()
        adding = QHBoxLayout()
        adding.setContentsMargins(UNIT, 0, UNIT, UNIT // 2)
        for button in (self.more, self.sheet_button):
            button.setObjectName("add")
            adding.addWidget(button)
        adding.addStretch(1)
        self.leaves = Leaves(
            ("Register", _leaf(self.register, adding), "the sheets and figures of this folio"),
            ("Catalogue", _leaf(self.search, self.tree), "all problems, by family"),
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.leaves)
        for tree in (self.register, self.tree):
            tree.activated_item.connect(self._open)
        self._waiting: list[QTreeWidgetItem] = []
        self._headings: list[QTreeWidgetItem] = []
        self._families: list[QTreeWidgetItem] = []
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
        self._rebuild_register()
        if not self._families:
            self._rebuild_catalogue()
        bare = (item for item in self._items() if item.icon(0).isNull())
        self._waiting = [item for item in bare if item.data(0, PROBLEM_ID) in contents.entries()]
        if self._signs_begun:
            self._signs.start()
        self.mark_current()

    def _rebuild_register(self) -> None:
        self.register.clear()
        self._headings = []
        for s, sheet in enumerate(self.session.folio.sheets):
            heading = self._heading(self.register, f"{sheet.number}  {sheet.name}".strip() + f" · {sheet.paper}")
            heading.setToolTip(0, f"{self.session.folio.work}  {sheet.number}  {sheet.name}")
            heading.setSizeHint(0, QSize(100, scaled(23 if len(heading.text(0)) < LONG_HEAD else 40)))
            heading.setData(0, PLACE, (s, 0))
            heading.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsDropEnabled)
            self._headings.append(heading)
            for f, figure in enumerate(sheet.figures):
                item = QTreeWidgetItem(heading)
                item.setData(0, PLACE, (s, f))
                item.setData(0, PROBLEM_ID, figure.problem)
                item.setSizeHint(0, QSize(100, scaled(SMALL_SIGN + 8 if len(figure.name) < LONG_HEAD else 40)))
                if figure.problem in self._icons:
                    item.setIcon(0, self._icons[figure.problem])
        self.register.expandAll()
        self.name_figures()

    def _rebuild_catalogue(self) -> None:
        self.tree.clear()
        for family, names in catalogue.FAMILIES.items():
            heading = self._heading(self.tree, family.capitalize())
            self._families.append(heading)
            for name in names:
                item = QTreeWidgetItem(heading, [contents.title(f"{family}/{name}")])
                item.setData(0, PROBLEM_ID, f"{family}/{name}")
                item.setSizeHint(0, QSize(100, SIGN + 6))
            heading.setExpanded(True)

    def name_figures(self) -> None:
        """Call each figure by its name."""
        sheets = self.session.folio.sheets
        names = {(s, f): figure.name for s, sheet in enumerate(sheets) for f, figure in enumerate(sheet.figures)}
        for item in (item for heading in self._headings for item in _children(heading)):
            place = item.data(0, PLACE)
            if place is not None and item.text(0) != (name := names.get(tuple(place), "")):
                item.setText(0, name)
                item.setToolTip(0, f"{sheets[place[0]].number}  {sheets[place[0]].name}  {name}" if name else "")

    def _heading(self, tree: QTreeWidget, text: str) -> QTreeWidgetItem:
        item = QTreeWidgetItem(tree, [text])
        item.setFlags(Qt.ItemFlag.ItemIsEnabled)
        item.setFont(0, interface_font(13, strong=True))
        item.setForeground(0, self.theme.color("quiet"))
        return item

    def _draw_a_sign(self) -> None:
        if not self._waiting:
            self._signs.stop()
            return
        item = self._waiting.pop(0)
        problem = catalogue.problem(item.data(0, PROBLEM_ID))
        if item.data(0, PLACE) is None:
            item.setToolTip(0, problem.spoken(problem.read({})))
        if problem.id not in self._icons:
            board = construct(problem, problem.read({}), problem.methods[0], PLAIN)
            self._icons[problem.id] = QIcon(sign_of(board.finished_marks(), self.theme, self.devicePixelRatioF()))
        item.setIcon(0, self._icons[problem.id])

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
        headings = [] if self.session.sheet.figures else self._headings
        for item in (*headings, *self._items()):
            if item.data(0, PLACE) is not None and tuple(item.data(0, PLACE)) == self.session.place:
                self.register.setCurrentItem(item)

    def _items(self) -> list[QTreeWidgetItem]:
        return [item for heading in (*self._headings, *self._families) for item in _children(heading)]

    def filter(self, text: str) -> None:
        """Show only what has every word of the search."""
        words = text.casefold().split()
        for heading in (*self._headings, *self._families):
            shown = 0
            for item in _children(heading):
                own = f"{heading.text(0)} {item.text(0)} {_found_by(item)}".casefold()
                hit = all(word in own for word in words)
                item.setHidden(not hit)
                shown += hit
            heading.setHidden(not shown)

    def focus_search(self) -> None:
        """Look for a problem."""
        self.leaves.show_leaf("Catalogue")
        self.search.setFocus(Qt.FocusReason.ShortcutFocusReason)
        self.search.selectAll()

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802 - Qt's name
        if event.key() == Qt.Key.Key_Down and self.search.hasFocus():
            hits = self._hits()
            if hits:
                self.tree.setFocus()
                self.tree.setCurrentItem(hits[0])
            return
        if event.key() == Qt.Key.Key_Escape and self.search.hasFocus():
            self.search.clear()
            return
        super().keyPressEvent(event)

    def _hits(self) -> list[QTreeWidgetItem]:
        """The problems that the search has found."""
        return [item for heading in self._families for item in _children(heading) if not item.isHidden()]

    def _open_first(self) -> None:
        hits = self._hits()
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
        self.leaves.show_leaf("Register")
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
        self.setWordWrap(True)
        self.setRootIsDecorated(False)
        self.setIndentation(6)
        self.setIconSize(QSize(SIGN, SIGN))
        self.setUniformRowHeights(False)
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


def _leaf(*parts: QWidget | QHBoxLayout) -> QWidget:
    """A leaf of a list and what belongs to it."""
    leaf = QWidget()
    column = QVBoxLayout(leaf)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(UNIT // 2)
    for part in parts:
        if isinstance(part, QWidget):
            column.addWidget(part, int(isinstance(part, QTreeWidget)))
        else:
            column.addLayout(part)
    return leaf


def _found_by(item: QTreeWidgetItem) -> str:
    """The words by which a problem is found, and a figure of it."""
    return contents.search_text(item.data(0, PROBLEM_ID))


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
