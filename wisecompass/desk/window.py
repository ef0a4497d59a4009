"""The window: brief above, index left, sheet in the middle, ledger right, steps below."""

from __future__ import annotations

import gc
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

from PySide6.QtCore import QByteArray, QSettings, Qt, QTimer
from PySide6.QtGui import QAction, QActionGroup, QCloseEvent, QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QMenu,
    QSplitter,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wisecompass.desk import jobs
from wisecompass.desk.brief import Brief
from wisecompass.desk.index import Index
from wisecompass.desk.ledger import Cautions, Ledger
from wisecompass.desk.session import Session
from wisecompass.desk.sheet_view import SheetView
from wisecompass.desk.space_picture import SpacePicture
from wisecompass.desk.steps import WALKING, StepStrip
from wisecompass.desk.theme import DARK, LIGHT, UNIT, Theme, style_sheet
from wisecompass.drafting.conventions import Beginning, Counting, Naming, Numbering, Projection, Units, Vocabulary
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.folio import store
from wisecompass.folio.document import Folio, LogEntry
from wisecompass.folio.paper import SIZES

SCHOOLS: dict[str, tuple[tuple[object, str], ...]] = {
    "projection": ((Projection.FIRST, "First angle: top view below"), (Projection.THIRD, "Third angle: top view above")),
    "naming": ((Naming.PRIMES, "Points a′ and a"), (Naming.INDICES, "Points A and A₁")),
    "vocabulary": ((Vocabulary.VIEWS, "Front and top view, HP and VP"), (Vocabulary.PLANS, "Elevation and plan")),
    "numbering": ((Numbering.FROM_0, "Divisions from 0"), (Numbering.FROM_1, "Divisions from 1")),
    "counting": (
        (Counting.ANTICLOCKWISE, "Circles counted anticlockwise"),
        (Counting.CLOCKWISE, "Circles counted clockwise"),
    ),
    "beginning": tuple((place, f"Circles counted from the {place}") for place in Beginning),
}
"""Conventions by their name in the folio: each choice and its words in the menu."""

VIEW_STEP = 4.0
"""How far a key moves an auxiliary view, mm of the figure."""

NOTICE_FOR = 6000
"""Milliseconds that a notice stays."""


class DeskWindow(QMainWindow):
    """One window, four places."""

    def __init__(self, session: Session, settings: QSettings | None = None) -> None:
        super().__init__()
        self.session, self.settings = session, settings
        dark = bool(settings and settings.value("dark", False, type=bool))
        self.theme: Theme = DARK if dark else LIGHT
        self.job: jobs.Job | None = None
        self.setWindowTitle("Wise Compass")
        self.resize(1280, 800)
        self._actions()
        self._build()
        self._saved_folio = session.folio
        self._warned_of: Folio | None = None
        session.followed.connect(self._follow)
        session.noticed.connect(self.notice)
        session.figure_changed.connect(self._follow)
        session.folio_changed.connect(self._follow)
        if settings is not None and settings.contains("geometry"):
            self.restoreGeometry(QByteArray(settings.value("geometry")))
        self._follow()

    # ------------------------------------------------------------------------------------------------------ building
    def _action(self, text: str, keys: str, act: object) -> QAction:
        action = QAction(text, self)
        if keys:
            action.setShortcut(QKeySequence(keys))
        action.triggered.connect(act)
        self.addAction(action)
        return action

    def _actions(self) -> None:
        stack = self.session.undo_stack
        self.undo_action = self._action("Undo", "Ctrl+Z", stack.undo)
        self.redo_action = self._action("Redo", "Ctrl+Shift+Z", stack.redo)
        self.undo_action.setEnabled(stack.canUndo())
        self.redo_action.setEnabled(stack.canRedo())
        stack.canUndoChanged.connect(self.undo_action.setEnabled)
        stack.canRedoChanged.connect(self.redo_action.setEnabled)
        self.open_action = self._action("Open folio …", "Ctrl+O", self.ask_open)
        self.sample_action = self._action("Open the sample folio", "", self.open_sample)
        self.points_action = self._action("Take points from a table …", "Ctrl+Shift+O", self.ask_points)
        self.save_action = self._action("Save", "Ctrl+S", self.save)
        self.save_as_action = self._action("Save as …", "Ctrl+Shift+S", self.ask_save_as)
        self.search_action = self._action("Search problems", "Ctrl+K", self.search)
        self.fold_action = self._action("Fold problems away", "F9", self.fold_index)
        self.dark_action = self._action("Dark room", "Ctrl+D", self.toggle_dark)
        self.brief_action = self._action("Edit the brief", "F2", self.edit_brief)
        self.fit_action = self._action("Fit the sheet", "Ctrl+0", lambda: self.sheet.fit())
        self.faired_action = self._action("What a hand would fair", "Ctrl+H", lambda: self.sheet.toggle_faired())
        self.out_action = self._action("Move the last view out", "Ctrl+Alt+Up", lambda: self.nudge_view(VIEW_STEP))
        self.in_action = self._action("Move the last view in", "Ctrl+Alt+Down", lambda: self.nudge_view(-VIEW_STEP))
        self.free_action = self._action("Place all views anew", "Ctrl+Alt+0", self.session.free_views)
        self.copy_setting_action = self._action("Copy the setting", "Ctrl+Shift+C", self.copy_setting)
        self.cancel_action = self._action("Cancel", "", self.cancel_job)
        self.next_sheet_action = self._action("Next sheet", "Ctrl+PgDown", lambda: self.turn_sheet(1))
        self.previous_sheet_action = self._action("Previous sheet", "Ctrl+PgUp", lambda: self.turn_sheet(-1))
        self.export_actions = {
            kind: self._action(text, keys, lambda _=False, kind=kind: self.ask_export(kind))
            for kind, text, keys in (
                ("pdf", "This sheet as PDF …", "Ctrl+P"),
                ("svg", "This sheet as SVG …", "Ctrl+Shift+G"),
                ("dxf", "This figure as DXF …", "Ctrl+Shift+X"),
                ("csv", "Points and findings as CSV …", "Ctrl+Shift+V"),
                ("points", "Points in space as a table …", "Ctrl+Shift+T"),
                ("folio-pdf", "Whole folio as PDF …", "Ctrl+Shift+P"),
            )
        }

    def _build(self) -> None:
        self.setStyleSheet(style_sheet(self.theme))
        room = QWidget()
        room.setObjectName("room")
        column = QVBoxLayout(room)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self._head())
        self.brief = Brief(self.session, self.theme)
        column.addWidget(self.brief)
        column.addWidget(_rule())
        self.index = Index(self.session, self.theme)
        self.sheet = SheetView(self.session, self.theme)
        self.ledger = Ledger(self.session, self.theme)
        self.sheet.first_painted.connect(self.session.begin_proving)
        self.sheet.first_painted.connect(self.index.begin_signs)
        self.sheet.first_painted.connect(_settle_memory)
        self.sheet.measured.connect(self.ledger.show_measure)
        self.ledger.copied.connect(self.notice)
        self.strip = StepStrip(self.session, self.theme)
        self.index.opened.connect(self.strip.setFocus)
        self.splitter = QSplitter(Qt.Orientation.Horizontal)
        right = QWidget()
        right.setObjectName("panel")
        right.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        right_column = QVBoxLayout(right)
        right_column.setContentsMargins(0, 0, 0, 0)
        right_column.setSpacing(0)
        self.cautions = Cautions(self.session, self.theme)
        self.space_picture = SpacePicture(self.session, self.theme)
        right_column.addWidget(self.ledger, 1)
        right_column.addWidget(self.space_picture)
        right_column.addWidget(self.cautions)
        for widget in (self.index, self.sheet, right):
            self.splitter.addWidget(widget)
        self.splitter.setStretchFactor(1, 1)
        self.splitter.setSizes([248, 744, 288])
        self.splitter.setHandleWidth(1)
        self.splitter.setChildrenCollapsible(False)
        column.addWidget(self.splitter, 1)
        column.addWidget(self.strip)
        self.setCentralWidget(room)
        QWidget.setTabOrder(self.brief, self.sheet)
        QWidget.setTabOrder(self.sheet, self.strip)
        QWidget.setTabOrder(self.strip, self.ledger)
        QWidget.setTabOrder(self.ledger, self.space_picture)
        QWidget.setTabOrder(self.space_picture, self.index)

    def _head(self) -> QWidget:
        head = QWidget()
        row = QHBoxLayout(head)
        row.setContentsMargins(2 * UNIT, 2, UNIT, 2)
        row.setSpacing(2)
        self.where = QLabel()
        self.where.setObjectName("heading")
        self.notice_label = QLabel()
        self.notice_label.setObjectName("notice")
        self.notice_label.setAccessibleName("notice")
        self._notice_timer = QTimer(self)
        self._notice_timer.setSingleShot(True)
        self._notice_timer.timeout.connect(lambda: self.notice_label.setText(""))
        row.addWidget(self.where)
        row.addSpacing(2 * UNIT)
        row.addWidget(self.notice_label, 1)
        self.cancel_button = QToolButton()
        self.cancel_button.setDefaultAction(self.cancel_action)
        self.cancel_button.hide()
        row.addWidget(self.cancel_button)
        for action in (self.undo_action, self.redo_action):
            row.addWidget(_button(action))
        kept = [self.open_action, self.sample_action, self.save_action, self.save_as_action]
        row.addWidget(self._menu("Folio", [*kept, self.points_action]))
        row.addWidget(self._menu("Hand over", list(self.export_actions.values())))
        row.addWidget(self._menu("Paper and schools", self._paper_actions()))
        view = [self.search_action, self.fold_action, self.fit_action, self.faired_action, self.brief_action]
        view += [self.copy_setting_action, self.out_action, self.in_action, self.free_action]
        row.addWidget(self._menu("Desk", [*view, self.next_sheet_action, self.previous_sheet_action, self.dark_action]))
        return head

    def _menu(self, text: str, actions: list[QAction]) -> QToolButton:
        button = QToolButton()
        button.setText(f"{text} ▾")
        button.setAccessibleName(text)
        button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(button)
        for action in actions:
            if action.isSeparator() or action.property("heading"):
                menu.addSeparator()
            menu.addAction(action)
        button.setMenu(menu)
        return button

    def _paper_actions(self) -> list[QAction]:
        found: list[QAction] = []
        self.paper_group, self.way_group = QActionGroup(self), QActionGroup(self)
        for size in SIZES:
            action = self._choice(self.paper_group, f"Paper {size}", size)
            action.triggered.connect(lambda _=False, size=size: self.session.set_paper(size, self.session.sheet.landscape))
            found.append(action)
        for text, landscape in (("Lying", True), ("Upright", False)):
            action = self._choice(self.way_group, text, landscape)
            action.triggered.connect(lambda _=False, way=landscape: self.session.set_paper(self.session.sheet.paper, way))
            found.append(action)
        self.school_groups: dict[str, QActionGroup] = {}
        for school, choices in SCHOOLS.items():
            group = self.school_groups[school] = QActionGroup(self)
            for value, text in choices:
                action = self._choice(group, text, value)
                action.triggered.connect(lambda _=False, to={school: value}: self.session.set_conventions(**to))
                found.append(action)
        self.units_group = QActionGroup(self)
        for units, text in ((Units.MM, "Lengths in mm"), (Units.CM, "Lengths in cm"), (Units.INCH, "Lengths in inches")):
            action = self._choice(self.units_group, text, units)
            action.triggered.connect(lambda _=False, value=units: self.session.set_units(value))
            found.append(action)
        return found

    def _choice(self, group: QActionGroup, text: str, value: object) -> QAction:
        action = QAction(text, self)
        action.setCheckable(True)
        action.setData(value)
        action.setProperty("heading", not group.actions())
        group.addAction(action)
        return action

    # ------------------------------------------------------------------------------------------------------ following
    def _follow(self, _index: int = 0) -> None:
        """Head line, menus and undo follow the session."""
        sheet = self.session.sheet
        changed = "" if self.session.folio == self._saved_folio else "  ·  changed"
        where = f"{self.session.folio.work}  ·  {sheet.name}  ·  {sheet.number}{changed}"
        if where != self.where.text():
            self.where.setText(where)
        stack = self.session.undo_stack
        self.undo_action.setToolTip(f"Undo {stack.undoText()}  Ctrl+Z")
        self.redo_action.setToolTip(f"Redo {stack.redoText()}  Ctrl+Shift+Z")
        settings = self.session.folio.conventions
        for group, value in (
            (self.paper_group, sheet.paper),
            (self.way_group, sheet.landscape),
            (self.units_group, settings.units),
            *((group, getattr(settings, school)) for school, group in self.school_groups.items()),
        ):
            for action in group.actions():
                action.setChecked(action.data() == value)

    def notice(self, text: str) -> None:
        """A word in the head line; it goes away by itself and stops nobody."""
        self.notice_label.setText(text)
        self.notice_label.setToolTip(text)
        self._notice_timer.start(NOTICE_FOR)

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802 - Qt's name
        """Keys that no field or list wanted: the walking keys work everywhere, Escape leaves a field."""
        if event.key() in WALKING:
            self.strip.keyPressEvent(event)
        elif event.key() == Qt.Key.Key_Escape:
            self.strip.setFocus()
        else:
            super().keyPressEvent(event)

    # --------------------------------------------------------------------------------------------------------- acts
    def search(self) -> None:
        self.index.show()
        self.index.focus_search()

    def edit_brief(self) -> None:
        self.brief.first_field().setFocus(Qt.FocusReason.TabFocusReason)

    def fold_index(self) -> None:
        self.index.setVisible(not self.index.isVisible())

    def turn_sheet(self, way: int) -> None:
        """To the next page: each figure of a sheet has one."""
        places = [(s, f) for s, sheet in enumerate(self.session.folio.sheets) for f in range(len(sheet.figures))]
        self.session.turn_to(*places[(places.index(self.session.place) + way) % len(places)])

    def nudge_view(self, by: float) -> None:
        """Move the auxiliary view drawn last along its projectors; past the view beside it, it comes on its other side."""
        drawing = self.session.drawing
        if drawing is not None and drawing.placed:
            last = drawing.placed[-1]
            self.session.move_view(last.name, last.place + by)

    def copy_setting(self) -> None:
        text = self.strip.setting()
        if text:
            QApplication.clipboard().setText(text)
            self.notice(f"copied {text}")

    def toggle_dark(self) -> None:
        """The same window by night."""
        self.theme = LIGHT if self.theme is DARK else DARK
        if self.settings is not None:
            self.settings.setValue("dark", self.theme is DARK)
        index_shown, sizes = self.index.isVisible(), self.splitter.sizes()
        self._build()
        self.index.setVisible(index_shown)
        self.splitter.setSizes(sizes)
        self._follow()

    def open_sample(self) -> None:
        self._adopt(store.sample(), None)

    def ask_open(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open folio", self._folder(), f"Folios (*{store.SUFFIX});;All (*)")
        if name:
            self.open(Path(name))

    def open(self, path: Path) -> None:
        """Open a folio; one that cannot be trusted is refused in the head line and nothing changes."""
        try:
            folio = store.load(path)
        except WiseCompassError as reason:
            self.notice(str(reason))
            return
        if not folio.sheets or not folio.sheets[0].figures:
            self.notice(f"{path.name} has no sheet with a figure")
            return
        self._adopt(folio, path)
        self.notice(f"opened {path.name}")

    def ask_points(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, "Take points from a table", self._folder(), "Tables (*.csv *.txt);;All (*)"
        )
        if name:
            self.take_points(Path(name))

    def take_points(self, path: Path) -> None:
        """Points of a table name,x,front,above become givens of the figure; what is wrong is said in the head line."""
        from wisecompass.exchange.points import as_givens, load_points

        try:
            points = load_points(path)
            givens = as_givens(self.session.problem, points)
        except WiseCompassError as reason:
            self.notice(str(reason))
            return
        self.session.set_givens(givens)
        self.notice(f"took {', '.join(list(points)[:8])} from {path.name}")

    def _adopt(self, folio: Folio, path: Path | None) -> None:
        self._saved_folio = folio
        self.session.replace_folio(folio, path)
        self._remember(path)

    def save(self) -> None:
        if self.session.path is None:
            self.ask_save_as()
        else:
            self.save_to(self.session.path)

    def ask_save_as(self) -> None:
        start = str(Path(self._folder()) / f"bramlow-mill{store.SUFFIX}")
        name, _ = QFileDialog.getSaveFileName(self, "Save folio as", start, f"Folios (*{store.SUFFIX})")
        if name:
            path = Path(name)
            self.save_to(path if path.name.endswith(".json") else path.with_name(path.name + store.SUFFIX))

    def save_to(self, path: Path) -> bool:
        """Write the folio; says where, or why not."""
        try:
            store.save(self.session.folio, path)
        except WiseCompassError as reason:
            self.notice(str(reason))
            return False
        self.session.path = path
        self._saved_folio = self.session.folio
        self._remember(path)
        self._follow()
        self.notice(f"saved {path.name}")
        return True

    def ask_export(self, kind: str) -> None:
        suffix = {"folio-pdf": "pdf", "points": "csv"}.get(kind, kind)
        start = str(Path(self._folder()) / f"{self.session.sheet.number or 'sheet'}.{suffix}")
        name, _ = QFileDialog.getSaveFileName(self, "Hand over", start, f"{suffix.upper()} (*.{suffix})")
        if name:
            self.export(kind, Path(name))

    def export(self, kind: str, path: Path) -> None:
        """Write a file away from the interface thread, with progress and a way to cancel."""
        if self.job is not None:
            self.notice("another file is still being written")
            return
        self.job = jobs.Job(kind, path, self.session)
        self.job.signals.progress.connect(self.notice)
        self.job.signals.finished.connect(self._exported)
        self.cancel_button.show()
        jobs.start(self.job)

    def _exported(self, text: str, worked: bool) -> None:
        self.cancel_button.hide()
        self.job = None
        self.notice(text)
        if worked:
            self._log(text)

    def _log(self, text: str) -> None:
        """A line in the logbook. It goes with the next save and is not a change to undo."""
        entry = LogEntry(datetime.now(UTC).isoformat(timespec="seconds"), text[:400])
        unchanged = self.session.folio == self._saved_folio
        self.session.folio = replace(self.session.folio, logbook=(*self.session.folio.logbook, entry)[-10_000:])
        if unchanged:
            self._saved_folio = self.session.folio
        self._follow()

    def cancel_job(self) -> None:
        if self.job is not None:
            self.job.cancelled = True

    def _folder(self) -> str:
        return str(self.session.path.parent) if self.session.path else str(Path.home())

    def _remember(self, path: Path | None) -> None:
        if self.settings is not None:
            self.settings.setValue("folio", str(path) if path else "")

    def closeEvent(self, event: QCloseEvent) -> None:  # noqa: N802
        """Remember the window; unsaved work is kept as a draft and comes back with the next start. Where drafts cannot be
        kept the window stays once and says so."""
        folio = self.session.folio
        if self.settings is None and folio != self._saved_folio and folio is not self._warned_of:
            self._warned_of = folio
            self.notice("the changes are not saved and no draft can be kept: Ctrl+S saves them, closing again leaves them")
            event.ignore()
            return
        if self.settings is not None:
            self.settings.setValue("geometry", self.saveGeometry())
            draft = Path(self.settings.fileName()).with_name(f"draft{store.SUFFIX}")
            try:
                if self.session.folio == self._saved_folio:
                    draft.unlink(missing_ok=True)
                else:
                    store.save(self.session.folio, draft)
            except (WiseCompassError, OSError) as reason:
                self.notice(str(reason))
                event.ignore()
                return
        super().closeEvent(event)


def _settle_memory() -> None:
    """What is in memory when the window stands will stay: collecting garbage need not look at it at every keystroke."""
    gc.enable()
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 20, 100)


def _rule() -> QFrame:
    rule = QFrame()
    rule.setObjectName("rule")
    rule.setFixedHeight(1)
    return rule


def _button(action: QAction) -> QToolButton:
    button = QToolButton()
    button.setDefaultAction(action)
    button.setAccessibleName(action.text())
    return button
