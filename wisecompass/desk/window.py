"""The window: brief above, index left, sheet in the middle, ledger right, steps below."""

from __future__ import annotations

import gc
from collections.abc import Callable, Sequence
from datetime import UTC, datetime
from functools import partial
from pathlib import Path

from PySide6.QtCore import QByteArray, QRect, QSettings, Qt, QTimer
from PySide6.QtGui import QAction, QActionGroup, QCloseEvent, QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QInputDialog,
    QMainWindow,
    QMenu,
    QScrollArea,
    QSplitter,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from wisecompass import program_log
from wisecompass.arithmetic import PLAIN
from wisecompass.arithmetic.expression import Unreadable, read
from wisecompass.catalogue import index as contents
from wisecompass.desk.brief import Brief
from wisecompass.desk.card import Card
from wisecompass.desk.depends import Depends
from wisecompass.desk.elided import Elided
from wisecompass.desk.hand_leaf import HandLeaf
from wisecompass.desk.handing_over import HandingOver
from wisecompass.desk.helper import Helper
from wisecompass.desk.index import Index
from wisecompass.desk.keeping import Keeping
from wisecompass.desk.leaves import Leaves
from wisecompass.desk.ledger import Cautions, Ledger
from wisecompass.desk.measured_leaf import MeasuredLeaf
from wisecompass.desk.photo_view import PhotoView
from wisecompass.desk.practise_leaf import PractiseLeaf
from wisecompass.desk.practising import Practising
from wisecompass.desk.session import Session
from wisecompass.desk.sheet_view import SheetView
from wisecompass.desk.space_picture import SpacePicture
from wisecompass.desk.steps import WALKING, StepStrip
from wisecompass.desk.theme import CONTRAST, DARK, LIGHT, ROOMS, UNIT, Theme, palette_of, scaled, style_sheet
from wisecompass.desk.title_block import TitleForm
from wisecompass.desk.which import WhichIsWhich
from wisecompass.drafting.conventions import Beginning, Counting, LineNames, Naming, Numbering, Projection, Units, Vocabulary
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.marks import Dot, Text
from wisecompass.exchange.export import SUFFIXES
from wisecompass.folio import register, store
from wisecompass.folio.document import Folio, LogEntry
from wisecompass.folio.drafts import Drafts
from wisecompass.folio.paper import SIZES
from wisecompass.folio.print import file_stem, leaves_of
from wisecompass.folio.work import Work
from wisecompass.service import Reply

SCHOOLS: dict[str, tuple[tuple[object, str], ...]] = {
    "projection": ((Projection.FIRST, "First angle: top view below"), (Projection.THIRD, "Third angle: top view above")),
    "naming": ((Naming.PRIMES, "Points a′ and a"), (Naming.INDICES, "Points A and A₁")),
    "vocabulary": ((Vocabulary.VIEWS, "Front and top view, HP and VP"), (Vocabulary.PLANS, "Elevation and plan")),
    "numbering": ((Numbering.FROM_0, "Divisions from 0"), (Numbering.FROM_1, "Divisions from 1")),
    "counting": (
        (Counting.ANTICLOCKWISE, "Circles counted anticlockwise"),
        (Counting.CLOCKWISE, "Circles counted clockwise"),
    ),
    "line_names": (
        (LineNames.SHEET, "Names of lines on the sheet"),
        (LineNames.SENTENCES, "Names of lines in sentences only"),
    ),
    "beginning": tuple((place, f"Circles counted from the {place}") for place in Beginning),
}
"""Conventions by their name in the folio: each choice and its words in the menu."""

VIEW_STEP, FIGURE_STEP = 4.0, 5.0
"""How far a key moves an auxiliary view, mm of the figure, and a figure, mm of paper."""

NOTICE_FOR = 6000
"""Milliseconds that a notice stays."""

OFFERED_SCALES = ("fit", "10:1", "5:1", "2:1", "1:1", "1:2", "1:5", "1:10", "1:20", "1:50", "1:100")
"""Scales in the menu; any other is typed."""

MOST_RECENT = 8
"""Folios that are offered to be opened again."""

FRAME_SIDE, FRAME_TOP = 6, 36
"""Room that the window's frame takes on the screen, px."""

LEFT, RIGHT = 214, 262
"""Width of the leaves on either side, px."""

SIZE, SMALLEST = (1280, 800), (1000, 640)
"""Size of a first window, and the least at which everything has room, px; on a smaller screen it scrolls."""


class DeskWindow(QMainWindow):
    """One window, four places."""

    def __init__(
        self,
        session: Session,
        settings: QSettings | None = None,
        drafts: Drafts | None = None,
        logbook: Path | None = None,
    ) -> None:
        super().__init__()
        self.session, self.settings, self.logbook = session, settings, logbook
        self.keeping = Keeping(session, drafts)
        self.keeping.troubled.connect(self.notice)
        self.theme: Theme = room_named(settings)
        self.brief: Brief
        self.card: Card
        self.strip: StepStrip
        self.practise: PractiseLeaf
        self.exporter: Helper | None = None
        self.setWindowTitle("Wise Compass")
        self._actions()
        self._build()
        self._warned_of: Folio | None = None
        session.followed.connect(self._follow)
        session.noticed.connect(self.notice)
        session.history_moved.connect(self._history_moved)
        session.readings_kept.connect(self._follow)
        session.figure_changed.connect(self._follow)
        session.folio_changed.connect(self._follow)
        self.resize(*SIZE)
        if settings is not None and settings.contains("geometry"):
            self.restoreGeometry(QByteArray(settings.value("geometry")))
        self._stay_on_screen()
        self._history_moved()
        self._follow()

    def set_calm(self, calm: bool) -> None:
        """Whether nothing is to move by itself, whatever the system says."""
        self.space_picture.calm = calm
        if self.settings is not None:
            self.settings.setValue("calm", calm)

    def _stay_on_screen(self) -> None:
        """Open inside the screen, its frame included; where windows are only pictures there is none."""
        if QApplication.platformName() == "offscreen":
            return
        screen = self.screen().availableGeometry()
        room = screen.adjusted(FRAME_SIDE, FRAME_TOP, -FRAME_SIDE, -FRAME_SIDE)
        size = self.size().boundedTo(room.size())
        self.resize(size)
        place = QRect(self.pos(), size)
        if not room.contains(place):
            place.moveTopLeft(room.topLeft())
            self.move(place.topLeft())

    # ------------------------------------------------------------------------------------------------------ building
    def add_act(self, text: str, keys: str, act: object) -> QAction:
        action = QAction(text, self)
        if keys:
            action.setShortcut(QKeySequence(keys))
        action.triggered.connect(act)
        self.addAction(action)
        return action

    def _actions(self) -> None:
        self.undo_action = self.add_act("Undo", "Ctrl+Z", self.session.undo)
        self.redo_action = self.add_act("Redo", "Ctrl+Shift+Z", self.session.redo)
        self.new_action = self.add_act("New folio", "Ctrl+N", self.new_folio)
        self._sheet_actions()
        self.handing, self.practising = HandingOver(self), Practising(self)
        self.open_action = self.add_act("Open folio …", "Ctrl+O", self.ask_open)
        self.sample_action = self.add_act("Open the sample folio", "", self.open_sample)
        self.points_action = self.add_act("Take points from a table …", "Ctrl+Shift+O", self.ask_points)
        self.save_action = self.add_act("Save", "Ctrl+S", self.save)
        self.save_as_action = self.add_act("Save as …", "Ctrl+Shift+S", self.ask_save_as)
        self.over_action = self.add_act("Save over what somebody else has written", "", lambda: self._settle(over=True))
        self.copy_action = self.add_act("Save a copy beside it", "", lambda: self._settle(over=False))
        self._contest(None)
        self.search_action = self.add_act("Search problems", "Ctrl+K", self.search)
        self.fold_action = self.add_act("Fold problems away", "F9", self.fold_index)
        self.ways_action = self.add_act("All ways of this problem", "F3", lambda: self.brief.line.others.toggle())
        self.card_action = self.add_act("Picture in space: out or away", "F7", lambda: self.card.toggle_away())
        self.card_size_action = self.add_act(
            "Picture in space: larger or small", "Shift+F7", lambda: self.card.toggle_size()
        )
        self.hand_action = self.add_act("Next leaf: answers, hand, depends", "F8", self.turn_leaf)
        self.backwards_action = self.add_act("Ask an answer backwards", "Shift+F8", self.ask_backwards)
        self.dark_action = self.add_act("Dark room", "Ctrl+D", self.toggle_dark)
        self.contrast_action = self.add_act("Room of high contrast", "Ctrl+Shift+K", self.toggle_contrast)
        self.calm_action = self.add_act("Little motion: pictures show their ends only", "", self.set_calm)
        self.calm_action.setCheckable(True)
        self.about_action = self.add_act("About Wise Compass …", "", self.about)
        self.rounds_action = self.add_act(
            "Walk through repetitions and divisions one by one", "Ctrl+R", self.session.set_one_by_one
        )
        self.rounds_action.setCheckable(True)
        self.why_action = self.add_act("Say why each step leads where it does", "F4", lambda on: self.strip.say_why(on))
        self.why_action.setCheckable(True)
        self.brief_action = self.add_act("Edit the brief", "F2", self.edit_brief)
        self.offer_action = self.add_act("Take what works", "Ctrl+Return", self.session.take_offer)
        self.fit_action = self.add_act("Fit the sheet", "Ctrl+0", lambda: self.sheet.fit())
        self.faired_action = self.add_act("What a hand would fair", "Ctrl+H", lambda: self.sheet.toggle_faired())
        self.out_action = self.add_act("Move the last view out", "Ctrl+Alt+Up", lambda: self.nudge_view(VIEW_STEP))
        self.in_action = self.add_act("Move the last view in", "Ctrl+Alt+Down", lambda: self.nudge_view(-VIEW_STEP))
        self.free_action = self.add_act("Place all views anew", "Ctrl+Alt+0", self.session.free_views)
        self.move_actions = [
            self.add_act(f"Move the figure {way.lower()}{little}", "", partial(self._push_figure, x * by, y * by))
            for way, x, y in (("Left", -1, 0), ("Right", 1, 0), ("Up", 0, 1), ("Down", 0, -1))
            for by, little in ((FIGURE_STEP, ""), (1.0, " a little"))
        ]
        arrows = (f"{keys}+{way}" for way in ("Left", "Right", "Up", "Down") for keys in ("Alt", "Alt+Shift"))
        for action, keys in zip(self.move_actions, arrows, strict=True):  # in a number of the brief they are its own
            action.setShortcut(QKeySequence(keys))
            action.setShortcutContext(Qt.ShortcutContext.WidgetShortcut)
            self.removeAction(action)
        self.planner_action = self.add_act("Let the planner place all figures", "Alt+0", self.session.free_figures)
        self.one_scale_action = self.add_act("One scale for all figures of the sheet", "", self.session.set_one_scale)
        self.one_scale_action.setCheckable(True)
        self.turn_action = self.add_act("Turn the figure …", "Ctrl+Alt+T", self.ask_turn)
        self.letters_action = self.add_act("Letters of one's own …", "Ctrl+L", self.ask_letters)
        self.circles_action = self.add_act("Whole circles instead of arcs", "", self.session.set_whole_circles)
        self.circles_action.setCheckable(True)
        self.next_figure_action = self.add_act("Next figure of the sheet", "Alt+PgDown", lambda: self.turn_figure(1))
        self.previous_figure_action = self.add_act("Previous figure of the sheet", "Alt+PgUp", lambda: self.turn_figure(-1))
        self.copy_setting_action = self.add_act("Copy the setting", "Ctrl+Shift+C", self.copy_setting)
        self.cancel_action = self.add_act("Cancel", "", self.cancel_job)
        self.next_sheet_action = self.add_act("Next sheet", "Ctrl+PgDown", lambda: self.turn_sheet(1))
        self.previous_sheet_action = self.add_act("Previous sheet", "Ctrl+PgUp", lambda: self.turn_sheet(-1))
        self.print_action = self.add_act("Print this sheet …", "Ctrl+P", lambda: self.print_sheets([self.session.place[0]]))
        self.print_all_action = self.add_act("Print all sheets …", "Ctrl+Alt+P", self.print_all)
        self.export_actions = {
            kind: self.add_act(text, keys, lambda _=False, kind=kind: self.ask_export(kind))
            for kind, text, keys in (
                ("pdf", "This sheet as PDF …", "Ctrl+E"),
                ("svg", "This sheet as SVG …", "Ctrl+Shift+G"),
                ("dxf", "This figure as DXF …", "Ctrl+Shift+X"),
                ("csv", "Points and findings as CSV …", "Ctrl+Shift+V"),
                ("points", "Points in space as a table …", "Ctrl+Shift+T"),
                ("folio-pdf", "Whole folio as PDF …", "Ctrl+Shift+P"),
            )
        }

    def _sheet_actions(self) -> None:
        """What is done with sheets and figures as a whole."""
        sheets: dict[str, tuple[str, Callable[[Folio, int], tuple[Folio, register.Place]]]] = {
            "New sheet": ("Ctrl+Shift+N", register.add_sheet),
            "Duplicate sheet": ("", register.duplicate_sheet),
            "Delete sheet": ("Ctrl+Shift+Del", register.delete_sheet),
        }
        figures = {
            "Duplicate figure": ("Ctrl+Shift+D", register.duplicate_figure),
            "Delete figure": ("Ctrl+Del", register.delete_figure),
        }
        rows: list[tuple[str, str, Callable[[], None]]] = [
            *((words, keys, partial(self._of_sheet, act, words)) for words, (keys, act) in sheets.items()),
            *((words, keys, partial(self._of_figure, act, words)) for words, (keys, act) in figures.items()),
            ("Rename figure …", "Shift+F2", self.ask_name),
            ("Title block, sheet's name and number …", "Ctrl+T", self.ask_title),
            ("Which is which: five pictures …", "F6", self.ask_picture),
            ("Figure up", "Ctrl+Shift+Up", partial(self._move_figure, -1)),
            ("Figure down", "Ctrl+Shift+Down", partial(self._move_figure, 1)),
            ("Sheet up", "Ctrl+Shift+PgUp", partial(self._move_sheet, -1)),
            ("Sheet down", "Ctrl+Shift+PgDown", partial(self._move_sheet, 1)),
        ]
        self.register_actions = {
            words: self.add_act(words, keys, lambda _=False, act=act: act()) for words, keys, act in rows
        }

    def _of_sheet(self, act: Callable[[Folio, int], tuple[Folio, register.Place]], words: str) -> None:
        self._register(lambda folio, place: act(folio, place[0]), words)

    def _of_figure(self, act: Callable[[Folio, register.Place], tuple[Folio, register.Place]], words: str) -> None:
        if not self.session.sheet.figures:
            self.notice("nothing stands on this sheet")
        else:
            self._register(act, words)

    def _register(self, act: Callable[[Folio, register.Place], tuple[Folio, register.Place]], words: str) -> None:
        """Change the register; what cannot be is said in the head line."""
        try:
            folio, place = act(self.session.folio, self.session.place)
        except WiseCompassError as reason:
            self.notice(str(reason))
            return
        self.session.change(folio, place, words[:1].lower() + words[1:])

    def _move_figure(self, way: int) -> None:
        self._of_figure(lambda f, p: register.nudge_figure(f, p, way), "Figure moved")

    def _move_sheet(self, way: int) -> None:
        last = len(self.session.folio.sheets) - 1
        if 0 <= self.session.place[0] + way <= last:
            self._register(lambda f, p: register.move_sheet(f, p[0], p[0] + way), "Sheet moved")

    def ask_name(self) -> None:
        if not self.session.sheet.figures:
            self.notice("nothing stands on this sheet")
            return
        name, given = QInputDialog.getText(self, "Rename figure", "What the figure is called", text=self.session.figure.name)
        if given:
            self.rename_figure(name)

    def rename_figure(self, name: str) -> None:
        self._of_figure(lambda f, p: (register.rename_figure(f, p, name), p), "Figure renamed")

    def ask_turn(self) -> None:
        if self.session.empty:
            self.notice("nothing stands on this sheet")
            return
        words = "Degrees anticlockwise from where it lies by itself: its first edge then lies so"
        text, given = QInputDialog.getText(self, "Turn the figure", words, text=f"{self.session.figure.turn:g}")
        if given:
            self.turn_by(text)

    def ask_letters(self) -> None:
        if self.session.empty:
            self.notice("nothing stands on this sheet")
            return
        words = "Points called otherwise, as in A=K, B=L; views follow"
        text, given = QInputDialog.getText(self, "Letters", words, text=self.session.figure.letters)
        if given:
            self.letter_by(text)

    def letter_by(self, text: str) -> None:
        """Letter the figure in hand; what cannot be is said in the head line."""
        try:
            self.session.set_letters(text)
        except WiseCompassError as reason:
            self.notice(str(reason))

    def turn_by(self, text: str) -> None:
        """Turn the figure in hand; what is no number is said in the head line."""
        try:
            self.session.set_turn(float(read(text).evaluate(PLAIN)))
        except Unreadable as reason:
            self.notice(f"turn: {reason}")

    def ask_title(self) -> None:
        form = TitleForm(self.session.folio, self.session.place[0], self)
        if form.exec():
            self.session.change(form.changed(), self.session.place, "title block")
            if said := register.same_number(self.session.folio, self.session.place[0]):
                self.notice(said)

    def ask_picture(self) -> None:
        """Show the body in hand in all five pictures, to choose one."""
        if self.session.empty or "parts" not in (item.name for item in self.session.problem.given_list):
            self.notice("which is which is told of a body made of parts: Views or Picture of a body made of parts")
            return
        shown = WhichIsWhich(self.session, self.theme, self)
        if shown.exec():
            self.session.picture_as(shown.chosen)

    def _build(self) -> None:
        QApplication.setPalette(palette_of(self.theme))
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
        self.index.register.addActions(list(self.register_actions.values()))
        self.index.sheet_button.setDefaultAction(self.register_actions["New sheet"])
        self.index.sheet_button.setText("+ sheet")
        self.sheet = SheetView(self.session, self.theme)
        self.sheet.addActions(self.move_actions)
        self.ledger = Ledger(self.session, self.theme)
        self.sheet.first_painted.connect(self.session.begin_proving)
        self.sheet.first_painted.connect(self.index.begin_signs)
        self.sheet.first_painted.connect(_settle_memory)
        self.sheet.measured.connect(self.ledger.show_measure)
        self.sheet.measured.connect(self._measure_pair)
        self.ledger.copied.connect(self.notice)
        self.strip = StepStrip(self.session, self.theme)
        self.index.opened.connect(self.strip.setFocus)
        self.splitter = QSplitter(Qt.Orientation.Horizontal)
        self.cautions = Cautions(self.session, self.theme)
        self.space_picture = SpacePicture(self.session, self.theme)
        self.space_picture.calm = bool(self.settings and self.settings.value("calm", False, type=bool))
        self.calm_action.setChecked(self.space_picture.calm)
        self.card = Card(self.sheet, "In space", self.space_picture)
        self.card.came.connect(self._place_card)
        self.session.figure_changed.connect(lambda: QTimer.singleShot(0, self._place_card))
        self.hand = HandLeaf(self.session, self.theme)
        self.hand.copied.connect(self.notice)
        self.marked = MeasuredLeaf(self.session, self.theme)
        self.marked.copied.connect(self.notice)
        self.marked.drawn_instead.connect(self.sheet.show_instead)
        self.photo = PhotoView(self.sheet, self.session, self.theme)
        self.photo.clicked.connect(self.marked.set_clicked)
        self.marked.photograph_wanted.connect(self.ask_photograph)
        self.depends = Depends(self.session, self.theme)
        self.depends.copied.connect(self.notice)
        self.ledger.asked.connect(self.turn_round)
        self.practise = PractiseLeaf(self.session, self.theme, self.logbook, self.sheet.ahead)
        self.practise.logbook_wanted.connect(self.practising.open_logbook)
        self.hand.learned = self.practise.learned_hand
        self.marked.judged.connect(self.practising.keep_verdict)
        self.leaves = Leaves(
            ("Answers", self.ledger, "what comes out, proved, and the checks"),
            ("Hand", self.hand, "what a hand keeps to, and what people get wrong"),
            ("Measured", self.marked, "what the paper shows, and the verdict on it"),
            ("Depends", self.depends, "what each given changes, and an answer asked backwards"),
        )
        self.index.leaves.add("Practise", self.practise, "another like it, covered work, what comes next, and the logbook")
        self.session.covered.connect(self.practising.cover_leaves)
        for widget in (self.index, self.sheet, self.leaves):
            self.splitter.addWidget(widget)
        self.splitter.setStretchFactor(1, 1)
        self.splitter.setSizes([scaled(LEFT), SIZE[0] - LEFT - RIGHT, scaled(RIGHT)])
        self.splitter.setHandleWidth(1)
        self.splitter.setChildrenCollapsible(False)
        column.addWidget(self.splitter, 1)
        below = QHBoxLayout()
        below.setContentsMargins(0, 0, 0, 0)
        below.setSpacing(0)
        below.addWidget(self.strip, 1)
        below.addWidget(self.cautions)
        column.addLayout(below)
        room.setMinimumSize(*map(scaled, SMALLEST))
        scroll = _Scrolling()
        scroll.setObjectName("room")
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setWidgetResizable(True)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        scroll.setWidget(room)
        self.setCentralWidget(scroll)
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
        self.where = Elided()
        self.where.setObjectName("heading")
        self.notice_label = Elided()
        self.notice_label.setObjectName("notice")
        self.notice_label.setAccessibleName("notice")
        self._notice_timer = QTimer(self)
        self._notice_timer.setSingleShot(True)
        self._notice_timer.timeout.connect(lambda: self.notice_label.set_text(""))
        row.addWidget(self.where)
        row.addSpacing(2 * UNIT)
        row.addWidget(self.notice_label, 1)
        self.cancel_button = QToolButton()
        self.cancel_button.setDefaultAction(self.cancel_action)
        self.cancel_button.hide()
        row.addWidget(self.cancel_button)
        for action in (self.undo_action, self.redo_action):
            row.addWidget(_button(action))
        kept = [self.new_action, self.open_action, self.sample_action, self.save_action, self.save_as_action]
        kept += [self.over_action, self.copy_action]
        folio_button = self._menu("Folio", [*kept, self.points_action])
        self.recent_menu = QMenu("Recent folios", folio_button)
        self.unsaved_menu = QMenu("Unsaved work", folio_button)
        folio_button.menu().addSeparator()
        folio_button.menu().addMenu(self.recent_menu)
        folio_button.menu().addMenu(self.unsaved_menu)
        folio_button.menu().aboutToShow.connect(self._list_folios)
        row.addWidget(folio_button)
        placing = [self.next_figure_action, self.previous_figure_action, *self.move_actions]
        placing += [self.planner_action, self.one_scale_action, self.turn_action, self.letters_action, self.circles_action]
        sheet_button = self._menu("Sheet", [*self.register_actions.values(), *placing])
        self.go_on_menu = QMenu("Go on with this figure", sheet_button)
        sheet_button.menu().addMenu(self.go_on_menu)
        sheet_button.menu().aboutToShow.connect(self._list_continuations)
        row.addWidget(sheet_button)
        row.addWidget(self._menu("Practice", list(self.practising.actions)))
        handed = [self.print_action, self.print_all_action, *self.handing.actions, *self.export_actions.values()]
        row.addWidget(self._menu("Hand over", handed))
        row.addWidget(self._menu("Paper and schools", self._paper_actions()))
        view = [self.search_action, self.fold_action, self.fit_action, self.faired_action, self.brief_action]
        view += [self.ways_action, self.hand_action, self.backwards_action, self.card_action, self.card_size_action]
        view += [self.offer_action, self.copy_setting_action, self.out_action, self.in_action, self.free_action]
        view += [self.next_sheet_action, self.previous_sheet_action, self.rounds_action, self.why_action, self.dark_action]
        view += [self.contrast_action, self.calm_action, self.about_action]
        row.addWidget(self._menu("Desk", view))
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
        self.scale_group = QActionGroup(self)
        for scale in OFFERED_SCALES:
            action = self._choice(self.scale_group, "Scale to fit" if scale == "fit" else f"Scale {scale}", scale)
            action.triggered.connect(lambda _=False, scale=scale: self.set_scale(scale))
            found.append(action)
        self.other_scale_action = self.add_act("Another scale …", "", self.ask_scale)
        self.between_action = self.add_act("Scales between those of ISO 5455", "", self.toggle_between)
        self.between_action.setCheckable(True)
        found += [self.other_scale_action, self.between_action]
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
        changed = "  ·  changed" if self.session.work.changed else ""
        parts = (self.session.folio.work or "Untitled work", sheet.name, sheet.number)
        where = "  ·  ".join(part for part in parts if part)
        self.where.set_text(where, changed)
        history = self.session.work.history
        self.undo_action.setToolTip(f"Undo {history.undo_words}  Ctrl+Z")
        self.redo_action.setToolTip(f"Redo {history.redo_words}  Ctrl+Shift+Z")
        self.one_scale_action.setChecked(sheet.one_scale)
        self.circles_action.setChecked(bool(sheet.figures) and self.session.figure.whole_circles)
        self.between_action.setChecked(self.session.folio.conventions.between_scales)
        settings = self.session.folio.conventions
        for group, value in (
            (self.paper_group, sheet.paper),
            (self.way_group, sheet.landscape),
            (self.units_group, settings.units),
            (self.scale_group, "" if self.session.empty else self.session.figure.scale),
            *((group, getattr(settings, school)) for school, group in self.school_groups.items()),
        ):
            for action in group.actions():
                action.setChecked(action.data() == value)

    def _history_moved(self) -> None:
        self.undo_action.setEnabled(self.session.can_undo)
        self.redo_action.setEnabled(self.session.can_redo)

    def notice(self, text: str) -> None:
        """A word in the head line; it goes away by itself and stops nobody."""
        self.notice_label.set_text(text)
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
        first = self.brief.first_field()
        if first is not None:
            first.setFocus(Qt.FocusReason.TabFocusReason)

    def fold_index(self) -> None:
        self.index.setVisible(not self.index.isVisible())

    def turn_sheet(self, way: int) -> None:
        """To the next sheet, its first figure in hand."""
        self.session.turn_to((self.session.place[0] + way) % len(self.session.folio.sheets))

    def turn_figure(self, way: int) -> None:
        """Take the next figure of the sheet in hand."""
        s, f = self.session.place
        if self.session.sheet.figures:
            self.session.turn_to(s, (f + way) % len(self.session.sheet.figures))

    def _push_figure(self, dx: float, dy: float) -> None:
        self.session.move_figure(dx, dy)

    def _place_card(self) -> None:
        """Lay the picture in space where it hides least of the sheet."""
        page = self.session.page
        if page is None or self.card.isHidden():
            return
        drawn = [*page.marks, *page.marks, *page.brief, *self.session.neighbours.marks()]
        spots = [self.sheet.view.px(mark.x, mark.y) for mark in drawn if isinstance(mark, Dot | Text)]

        def hidden(corner: tuple[bool, bool]) -> int:
            self.card.lie(right=corner[0], low=corner[1])
            box = self.card.geometry()
            return sum(box.contains(spot.toPoint()) for spot in spots)

        corners = [(right, low) for low in (True, False) for right in (True, False)]
        right, low = min(corners, key=hidden)
        self.card.lie(right=right, low=low)

    def _measure_pair(self, taken: object) -> None:
        """While what the paper shows is typed, two letters that are picked get a field of their own."""
        picked = [each.dot for each in self.sheet.picked]
        if taken is not None and self.leaves.shown == "Measured" and len(picked) == 2 and picked[0].block == picked[1].block:
            self.marked.add_pair(picked[0].name, picked[1].name)

    def turn_round(self, finding: str) -> None:
        """Ask an answer backwards."""
        self.leaves.show_leaf("Depends")
        self.depends.choose(finding)

    def ask_photograph(self) -> None:
        """Choose a photograph of the sheet."""
        kinds = "Pictures (*.png *.jpg *.jpeg)"
        name, _ = QFileDialog.getOpenFileName(self, "Photograph of the sheet", self._folder(), kinds)
        if name:
            self.open_photograph(Path(name))

    def open_photograph(self, path: Path) -> None:
        """Lay a photograph on the table, and say why that cannot be."""
        if self.session.drawing is None:
            self.notice("nothing stands on this sheet")
            return
        trouble = self.photo.open(path)
        if trouble:
            self.notice(trouble)
        else:
            self.leaves.show_leaf("Measured")

    def ask_backwards(self) -> None:
        """Ask the answer in hand backwards."""
        self.ledger.turn_round()

    def turn_leaf(self) -> None:
        """The next leaf at the right."""
        words = [word for word, button in self.leaves.words.items() if button.isEnabled()]
        self.leaves.show_leaf(words[(words.index(self.leaves.shown) + 1) % len(words)])

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
        self.set_room(LIGHT if self.theme is DARK else DARK)

    def toggle_contrast(self) -> None:
        """The same window in black and white."""
        self.set_room(LIGHT if self.theme is CONTRAST else CONTRAST)

    def set_room(self, theme: Theme) -> None:
        """The same window in another room."""
        self.theme = theme
        if self.settings is not None:
            self.settings.setValue("room", theme.name)
        index_shown, sizes = self.index.isVisible(), self.splitter.sizes()
        self._build()
        self.index.setVisible(index_shown)
        self.splitter.setSizes(sizes)
        self._follow()

    def set_scale(self, scale: str) -> None:
        """Draw the figure in hand at a scale; what cannot be is said in the head line."""
        try:
            self.session.set_scale(scale)
        except WiseCompassError as reason:
            self.notice(str(reason))

    def ask_scale(self) -> None:
        text, given = QInputDialog.getText(self, "Scale", "A ratio such as 1:2 or 5:1, or fit", text="1:1")
        if given:
            self.set_scale(text.strip())

    def toggle_between(self) -> None:
        self.session.set_conventions(between_scales=not self.session.folio.conventions.between_scales)

    def _list_folios(self) -> None:
        """The folios that can be opened again, and the work that is not saved, as they are now."""
        self.recent_menu.clear()
        for name in self._recent():
            self.recent_menu.addAction(Path(name).name, partial(self.open, Path(name)))
        self.unsaved_menu.clear()
        for work in self.keeping.aside:
            self.unsaved_menu.addAction(_called(work.folio, work.path), partial(self.take_back, work))
        for path, kept in self.keeping.left():
            called = f"{_called(kept.folio, kept.file)}, left {kept.written[:16].replace('T', ' ')}"
            menu = self.unsaved_menu.addMenu(called)
            menu.addAction("Go on with it", partial(self.take_up, path))
            menu.addAction("Throw it away", partial(self.discard, path))
        self.recent_menu.setEnabled(not self.recent_menu.isEmpty())
        self.unsaved_menu.setEnabled(not self.unsaved_menu.isEmpty())

    def _list_continuations(self) -> None:
        """The problems by which the figure in hand can be gone on with."""
        self.go_on_menu.clear()
        found = [] if self.session.empty else register.continuations(self.session.figure.problem)
        for problem_id in found:
            self.go_on_menu.addAction(contents.title(problem_id), partial(self.session.go_on, problem_id))
        self.go_on_menu.setEnabled(bool(found))

    def take_back(self, work: Work) -> None:
        """Go on with work that was put aside in this window."""
        self.keeping.put_aside()
        self.keeping.take_back(work)
        self.session.take(work)
        self._remember(work.path)

    def take_up(self, path: Path) -> None:
        """Go on with work that was left by a window that is no more."""
        try:
            work = self.keeping.take_up(path)
        except WiseCompassError as reason:
            self.notice(str(reason))
            return
        if work is None:
            self.notice("another window goes on with it already")
            return
        self.keeping.put_aside()
        self.session.take(work)
        self._remember(work.path)

    def discard(self, path: Path) -> None:
        """Throw a draft away that was left."""
        if self.keeping.drafts is not None:
            self.keeping.drafts.discard(path)
            self.notice("thrown away")

    def new_folio(self) -> None:
        """An empty folio with the paper and the schools of the last one; it asks nothing."""
        settings, paper = self.session.folio.conventions, self.session.sheet
        self._adopt(Work.on(store.empty("", settings, paper)))
        self.notice("a new folio: pick a problem at the left; Ctrl+T names the work")

    def open_sample(self) -> None:
        self._adopt(Work.on(store.sample()))

    def ask_open(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open folio", self._folder(), f"Folios (*{store.SUFFIX});;All (*)")
        if name:
            self.open(Path(name))

    def open(self, path: Path) -> None:
        """Open a folio; one that cannot be trusted is refused in the head line and nothing changes."""
        try:
            work = Work.opened(path)
        except WiseCompassError as reason:
            self.notice(str(reason))
            return
        self._adopt(work)
        program_log.note("opened %s", path)
        older = [kept for _, kept in self.keeping.left() if kept.file == path]
        more = ": unsaved changes to it are under Folio, Unsaved work" if older else ""
        self.notice(f"opened {path.name}{more}")

    def receive(self, path: Path) -> None:
        """A folio that somebody was asked to open from outside: it comes here, in front of all other windows."""
        self.setWindowState(self.windowState() & ~Qt.WindowState.WindowMinimized)
        self.show()
        self.raise_()
        self.activateWindow()
        program_log.note("asked to open %s", path)
        if self.session.path is not None and self.session.path.absolute() == path:
            self.notice(f"{path.name} is open already")
        else:
            self.open(path)

    def about(self) -> None:
        """What the program is made of."""
        from wisecompass.desk.about import About

        About(self).exec()

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
            if self.session.empty:
                self.notice("nothing stands on this sheet that takes points")
                return
            givens = as_givens(self.session.problem, points)
        except WiseCompassError as reason:
            self.notice(str(reason))
            return
        self.session.set_givens(givens)
        self.notice(f"took {', '.join(list(points)[:8])} from {path.name}")

    def _adopt(self, work: Work) -> None:
        """Take other work in hand. What was not saved is put aside with its way back."""
        self.keeping.put_aside()
        self._contest(None)
        self.session.take(work)
        self._remember(work.path)

    def save(self) -> None:
        if self.session.path is None:
            self.ask_save_as()
        else:
            self.save_to(self.session.path)

    def ask_save_as(self) -> None:
        start = str(Path(self._folder()) / f"{file_stem(self.session.folio.work).casefold() or 'folio'}{store.SUFFIX}")
        name, _ = QFileDialog.getSaveFileName(self, "Save folio as", start, f"Folios (*{store.SUFFIX})")
        if name:
            self.save_to(store.with_suffix(Path(name)))

    def save_to(self, path: Path, *, over: bool = False) -> bool:
        """Write the folio; says where, or why not. A file that somebody else has changed meanwhile is left as it is until
        the drafter has said whether to write over it or to save a copy."""
        self.keeping.wait()
        try:
            self.session.work.save(path, over=over)
        except store.ChangedMeanwhile as reason:
            self._changed_meanwhile(path, str(reason))
            return False
        except WiseCompassError as reason:
            self.notice(str(reason))
            return False
        self._contest(None)
        program_log.note("saved %s", path)
        self._remember(path)
        self._follow()
        self.notice(f"saved {path.name}")
        return True

    def _changed_meanwhile(self, path: Path, sentence: str) -> None:
        """Offer both, in the folio's menu: to write over what somebody else has written, or to save a copy beside it."""
        self._contest(path)
        self.notice(f"{sentence}: the menu Folio saves over it, or a copy beside it")

    def _contest(self, path: Path | None) -> None:
        """A file that is held back because somebody else has changed it, or none any more."""
        self._contested = path
        for action in (self.over_action, self.copy_action):
            action.setVisible(path is not None)

    def _settle(self, *, over: bool) -> None:
        """Save what was held back because somebody else had changed the file."""
        if self._contested is not None:
            self.save_to(self._contested if over else _beside(self._contested), over=over)

    def ask_export(self, kind: str) -> None:
        suffix = SUFFIXES.get(kind, kind)
        start = str(Path(self._folder()) / f"{self.session.sheet.number or 'sheet'}.{suffix}")
        name, _ = QFileDialog.getSaveFileName(self, "Hand over", start, f"{suffix.upper()} (*.{suffix})")
        if name:
            self.export(kind, Path(name))

    def export(self, kind: str, path: Path) -> None:
        """Write a file in a process of its own, with progress and a way to cancel."""
        if self.exporter is not None:
            self.notice("another file is still being written")
            return
        if not self.session.sheet.figures and kind != "folio-pdf":
            self.notice("nothing stands on this sheet")
            return
        self._exporting = path
        self.exporter = Helper(self)
        self.exporter.replied.connect(self._export_replied)
        self.exporter.lost.connect(lambda _: self._exported(f"{path.name} was not written: the export broke off", False))
        self.cancel_button.show()
        self.exporter.ask("export", (kind, path, self.session.folio, self.session.place))

    def print_all(self) -> None:
        self.print_sheets(leaves_of(self.session.folio))

    def print_sheets(self, leaves: Sequence[int]) -> None:
        """Show sheets in the system's preview, from which they are printed."""
        from wisecompass.desk.printing import Preview  # the system's printing is slow to load

        self.preview = Preview(self, self.session.folio, leaves)
        self.preview.open()

    def _export_replied(self, reply: Reply) -> None:
        if reply.kind == "progress":
            self.notice(f"{self._exporting.name}: {reply.body}")
        elif reply.last:
            self._exported(str(reply.body), reply.kind == "exported")

    def _exported(self, text: str, worked: bool) -> None:
        self.cancel_button.hide()
        exporter, self.exporter = self.exporter, None
        if exporter is not None:
            exporter.stop()
            exporter.deleteLater()
        self.notice(text)
        if worked:
            self._log(text)

    def _log(self, text: str) -> None:
        """A line in the logbook. It goes with the next save and is not a change to undo."""
        self.session.work.log(LogEntry(datetime.now(UTC).isoformat(timespec="seconds"), text[:400]))
        self._follow()

    def cancel_job(self) -> None:
        """Stop writing: a file that is half made is nowhere to be seen."""
        if self.exporter is not None:
            self._exported(f"{self._exporting.name} was not written: cancelled", False)

    def _folder(self) -> str:
        return str(self.session.path.parent) if self.session.path else str(Path.home())

    def _recent(self) -> list[str]:
        names = None if self.settings is None else self.settings.value("recent")
        return [names] if isinstance(names, str) else [str(name) for name in names] if isinstance(names, list) else []

    def _remember(self, path: Path | None) -> None:
        if self.settings is None:
            return
        self.settings.setValue("folio", str(path) if path else "")
        if path is not None:
            others = [name for name in self._recent() if name != str(path)]
            self.settings.setValue("recent", [str(path), *others][:MOST_RECENT])

    def keep_all(self) -> str:
        """Bring all that is not saved to drafts at once; a sentence where that cannot be."""
        try:
            self.keeping.now()
        except WiseCompassError as reason:
            return str(reason)
        return ""

    def closeEvent(self, event: QCloseEvent) -> None:  # noqa: N802
        """Remember the window; unsaved work is kept as a draft and comes back with the next start. Where drafts cannot be
        kept the window stays once and says so."""
        work = self.session.work
        unkept = work.changed and self.keeping.drafts is None
        trouble = "the changes are not saved and no draft can be kept" if unkept else self.keep_all()
        if trouble and work.folio is not self._warned_of:
            self._warned_of = work.folio
            self.notice(f"{trouble}: Ctrl+S saves them, closing again leaves them")
            event.ignore()
            return
        if self.settings is not None:
            self.settings.setValue("geometry", self.saveGeometry())
        self.keeping.close()
        self.handing.close()
        for helper in (self.exporter, self.session.helper, self.sheet.ahead):
            if helper is not None:
                helper.stop()
        super().closeEvent(event)


class _Scrolling(QScrollArea):
    """Scrolls a window that has no room on its screen; the walking keys are the strip's."""

    def keyPressEvent(self, event: QKeyEvent) -> None:  # noqa: N802
        event.ignore()


def room_named(settings: QSettings | None) -> Theme:
    """The room that was left."""
    if settings is None:
        return LIGHT
    old = "dark" if settings.value("dark", False, type=bool) else "light"
    return ROOMS.get(str(settings.value("room", old)), LIGHT)


def _called(folio: Folio, path: Path | None) -> str:
    """A folio in a list."""
    return f"{folio.work or 'Untitled work'} ({'not saved yet' if path is None else path.name})"


def _beside(path: Path) -> Path:
    """A free name beside a file."""
    stem, suffix = path.name.removesuffix(store.SUFFIX), store.SUFFIX
    number = 2
    while (free := path.with_name(f"{stem}-{number}{suffix}")).exists():
        number += 1
    return free


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
