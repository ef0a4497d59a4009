"""To a plotter or cutter: what, by which pens in which order, for which machine; the program read back as a picture; sent
off the interface, with pause, cancel, and going on after a fault."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QComboBox,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QWidget,
)

from wisecompass.desk.beside import Beside
from wisecompass.desk.page_picture import PagePicture
from wisecompass.desk.plotter_window import PlotterWindow
from wisecompass.desk.session import Session
from wisecompass.desk.side_form import SideForm
from wisecompass.desk.theme import Theme
from wisecompass.devices.port import SerialPort, known_ports
from wisecompass.devices.sending import Progress, Sending
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.pens import Pen
from wisecompass.exchange.gcode import Job, job
from wisecompass.exchange.gcode_picture import picture
from wisecompass.exchange.machine import NAMED, Profile, read_profile
from wisecompass.exchange.pen_layers import plot_file
from wisecompass.exchange.strokes import PEN_ORDER, length_by_pen, not_written, ordered, strokes_of, travel
from wisecompass.folio import files
from wisecompass.folio.page import Page, final
from wisecompass.folio.print import sheet_page
from wisecompass.folio.tiles import full_size, near_origin

SIZE = (1060, 680)

KINDS = {".svg": "svg", ".dxf": "dxf"}
"""By the ending of a file; any other is a program."""

SIMULATED = "the simulated plotter"

STATES = {
    "waiting": "not sent yet",
    "sending": "drawing",
    "paused": "paused, the pen is up",
    "stopped": "stopped",
    "done": "done",
    "cancelled": "cancelled",
}


class PlotForm(SideForm):
    """What is sent at the left, what it will draw at the right."""

    progressed = Signal(object)

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__("Plotter or cutter", SIZE, parent)
        self.session, self.theme = session, theme
        self.job: Job | None = None
        self.sending: Sending | None = None
        self.profile: Profile = NAMED["simulated plotter"]
        self.plotter: PlotterWindow | None = None
        row, column, form = self.side, self.column, self.form
        self.what = QComboBox()
        self.what.setAccessibleName("what is drawn")
        self.what.addItem("this whole sheet as it is", "sheet")
        if not session.empty:
            self.what.addItem(f"{session.figure.name or 'this figure'}, at 1:1", "figure")
            if session.drawing is not None and any(mark.pen is Pen.CUT for mark in session.drawing.marks):
                self.what.addItem("its flat pattern alone, at 1:1", "pattern")
        form.addRow("What", self.what)
        self.machine = QComboBox()
        self.machine.addItems([*NAMED, "from a profile file …"])
        self.machine.setAccessibleName("profile of the machine")
        form.addRow("Machine", self.machine)
        self.port = QComboBox()
        self.port.setEditable(True)
        self.port.addItems([SIMULATED, *known_ports()])
        self.port.setAccessibleName("port of the machine")
        form.addRow("Port", self.port)
        head = QLabel("Pens, in the order in which they draw")
        head.setObjectName("heading")
        column.addWidget(head)
        self.pens = QListWidget()
        self.pens.setAccessibleName("pens, in the order in which they draw; space takes one in or out")
        self.pens.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.pens.setToolTip("drag a pen, or move it with the buttons; the box takes it in or out")
        column.addWidget(self.pens, 1)
        moving = QHBoxLayout()
        up, down = QPushButton("earlier"), QPushButton("later")
        up.clicked.connect(lambda: self.move_pen(-1))
        down.clicked.connect(lambda: self.move_pen(1))
        for button in (up, down):
            moving.addWidget(button)
        moving.addStretch(1)
        column.addLayout(moving)
        self.said = QLabel()
        self.said.setWordWrap(True)
        self.said.setAccessibleName("how the sending stands")
        column.addWidget(self.said)
        self.bar = QProgressBar()
        self.bar.setRange(0, 1000)
        self.bar.setTextVisible(False)
        self.bar.setAccessibleName("share of the drawing that is drawn")
        column.addWidget(self.bar)
        column.addLayout(self._buttons())
        self.picture = PagePicture(theme, "what the program draws, read back")
        row.addWidget(self.picture, 1)
        self.beside = Beside(self)
        self.beside.done.connect(self._take)
        self.beside.refused.connect(self._refuse)
        self.progressed.connect(self._show_progress)
        for pen in PEN_ORDER:
            item = QListWidgetItem(pen.value)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked)
            self.pens.addItem(item)
        self.what.currentIndexChanged.connect(lambda _: self.reckon())
        self.machine.activated.connect(lambda _: self._choose_machine())
        self.pens.itemChanged.connect(lambda _: self.reckon())
        self.pens.model().rowsMoved.connect(lambda *_: self.reckon())
        self.reckon()

    def _buttons(self) -> QGridLayout:
        buttons = QGridLayout()
        self.send_button, self.pause_button = QPushButton("Send"), QPushButton("Pause")
        self.cancel_button, self.file_button = QPushButton("Cancel"), QPushButton("As a file …")
        self.check_button, close = QPushButton("Look at a file …"), QPushButton("Close")
        self.send_button.setDefault(True)
        self.send_button.clicked.connect(self.send)
        self.pause_button.clicked.connect(self.pause)
        self.cancel_button.clicked.connect(self.cancel)
        self.file_button.clicked.connect(self.ask_file)
        self.check_button.clicked.connect(self.ask_check)
        close.clicked.connect(self.close)
        all_buttons = (self.send_button, self.pause_button, self.cancel_button, self.file_button, self.check_button, close)
        for n, button in enumerate(all_buttons):
            buttons.addWidget(button, n // 3, n % 3)
        return buttons

    # -------------------------------------------------------------------------------------------------------- the program
    def chosen_pens(self) -> tuple[Pen, ...]:
        """The pens that are taken, in their order."""
        items = [self.pens.item(n) for n in range(self.pens.count())]
        return tuple(Pen(item.text()) for item in items if item.checkState() == Qt.CheckState.Checked)

    def move_pen(self, way: int) -> None:
        """The pen in hand earlier or later."""
        row = self.pens.currentRow()
        if 0 <= row + way < self.pens.count() and row >= 0:
            item = self.pens.takeItem(row)
            self.pens.insertItem(row + way, item)
            self.pens.setCurrentItem(item)
            self.reckon()

    def _choose_machine(self) -> None:
        name = self.machine.currentText()
        if name in NAMED:
            self.profile = NAMED[name]
        elif name.endswith("…"):
            path, _ = QFileDialog.getOpenFileName(self, "Profile", str(Path.home()), "Profiles (*.json)")
            if not path or not self.take_profile(Path(path)):
                self.machine.setCurrentIndex(0)
                self.profile = NAMED[self.machine.currentText()]
        self.reckon()

    def take_profile(self, path: Path) -> bool:
        """A machine from its file; what is wrong with it is said."""
        try:
            self.profile = read_profile(path)
        except WiseCompassError as reason:
            self._refuse(str(reason))
            return False
        self.machine.insertItem(len(NAMED), self.profile.name)
        self.machine.setCurrentIndex(len(NAMED))
        return True

    def reckon(self) -> None:
        """Make the program and read it back, when nobody types."""
        if self.sending is not None and self.sending.state in ("sending", "paused"):
            return
        folio, place, what = self.session.folio, self.session.place, self.what.currentData()
        pens, profile = self.chosen_pens(), self.profile

        def work() -> tuple[Job, Page, str]:
            if what == "sheet":
                marks, title = final(sheet_page(folio, place[0])[0]), folio.sheets[place[0]].number
            else:
                marks, title = near_origin(*full_size(folio, place, what == "pattern")), ""
            strokes = ordered(strokes_of(marks, profile.dashed), pens)
            made = job(strokes, profile, f"{folio.work} {title}".strip())
            lengths = ", ".join(f"{pen} {mm:.0f} mm" for pen, mm in length_by_pen(strokes).items())
            said = f"{len(strokes)} strokes: {lengths}; {travel(strokes):.0f} mm in the air"
            said = "; ".join(filter(None, (said, not_written(marks))))
            return made, picture(made.text, profile), said

        for button in (self.send_button, self.file_button):
            button.setEnabled(False)
        self.beside.ask(work)

    def _take(self, made: tuple[Job, Page, str]) -> None:
        self.job, page, said = made
        self.sending = None
        self.said.setText(f"{said[:1].upper()}{said[1:]}.")
        self.picture.show_page(page, said)
        self.bar.setValue(0)
        self._enable()

    def _refuse(self, sentence: str) -> None:
        self.said.setText(f"{sentence[:1].upper()}{sentence[1:]}.")
        self._enable()

    # ------------------------------------------------------------------------------------------------------------ sending
    def port_name(self) -> str:
        """The port, with a plotter of its own behind it where none is there."""
        if self.port.currentText() != SIMULATED:
            return self.port.currentText().strip()
        if self.plotter is None or self.plotter.profile != self.profile or self.plotter.closed:
            self.plotter = PlotterWindow(self.profile, self.theme, self)
            self.plotter.show()
        if self.job is not None:
            places = [place for stroke in self.job.strokes for place in stroke.points()]
            right = max(x for x, _ in places) + self.profile.shift_x
            self.plotter.bed.show_reach(right + 10, max(y for _, y in places) + self.profile.shift_y + 10)
        return self.plotter.port

    def send(self) -> None:
        """Begin, or go on after a stop."""
        if self.job is None:
            return
        before = self.plotter
        name, baud = self.port_name(), self.profile.baud
        another = self.plotter is not before  # with fresh paper
        if self.sending is None or self.sending.state == "done" or another:
            self.sending = Sending(self.job, lambda: SerialPort(name, baud), self._tell)
        self.sending.start()
        self._enable()

    def _tell(self, progress: Progress) -> None:
        try:
            self.progressed.emit(progress)
        except RuntimeError:
            return  # the form has gone

    def pause(self) -> None:
        if self.sending is None:
            return
        if self.sending.state == "paused":
            self.sending.go_on()
        else:
            self.sending.pause()

    def cancel(self) -> None:
        if self.sending is not None:
            self.sending.cancel()

    def _show_progress(self, progress: Progress) -> None:
        self.bar.setValue(round(1000 * progress.share))
        self.bar.setAccessibleDescription(f"{100 * progress.share:.0f} % drawn")
        words = progress.words or f"stroke {progress.stroke} of {progress.strokes}, {100 * progress.share:.0f} % drawn"
        state = STATES[progress.state]
        self.said.setText(f"{state[:1].upper()}{state[1:]}: {words}.")
        self._enable()

    def _enable(self) -> None:
        state = "waiting" if self.sending is None else self.sending.state
        running = state in ("sending", "paused")
        self.send_button.setText("Go on" if state in ("stopped", "cancelled") else "Send")
        self.send_button.setEnabled(self.job is not None and not running)
        self.pause_button.setText("Go on" if state == "paused" else "Pause")
        self.pause_button.setEnabled(running)
        self.cancel_button.setEnabled(running)
        self.file_button.setEnabled(self.job is not None)
        for widget in (self.what, self.machine, self.port, self.pens):
            widget.setEnabled(not running)

    # -------------------------------------------------------------------------------------------------------------- files
    def ask_file(self) -> None:
        kinds = "G-code (*.gcode *.nc);;SVG, a layer for each pen (*.svg);;DXF, a layer for each pen (*.dxf)"
        path, _ = QFileDialog.getSaveFileName(self, "As a file", str(Path.home() / "plot.gcode"), kinds)
        if path:
            self.write(Path(path))

    def write(self, path: Path) -> None:
        """Write the program, or by the file's ending SVG or DXF; what cannot be is said."""
        if self.job is None:
            return
        try:
            files.write(path, plot_file(KINDS.get(path.suffix.lower(), "gcode"), self.job, path.stem))
        except WiseCompassError as reason:
            self.said.setText(str(reason))
            return
        self.said.setText(f"Wrote {path.name}.")

    def ask_check(self) -> None:
        path, _ = QFileDialog.getOpenFileName(self, "G-code", str(Path.home()), "G-code (*.gcode *.nc *.ngc *.txt);;All (*)")
        if path:
            self.check(Path(path))

    def check(self, path: Path) -> None:
        """Show what a program from somewhere would draw on this machine."""
        from wisecompass.exchange.gcode_reading import LARGEST_PROGRAM

        try:
            page = picture(files.read_text(path, LARGEST_PROGRAM, "a program"), self.profile, path.name)
        except WiseCompassError as reason:
            self._refuse(str(reason))
            return
        self.said.setText(f"{path.name}, as {self.profile.name} would draw it.")
        self.picture.show_page(page, f"{path.name}, read back")

    def closeEvent(self, event: QCloseEvent) -> None:  # noqa: N802 - Qt's name
        """Lift the pen before the window goes."""
        self.beside.forget()
        if self.sending is not None and self.sending.state in ("sending", "paused"):
            self.sending.cancel()
            self.sending.wait(10.0)
        if self.plotter is not None:
            self.plotter.close()
        super().closeEvent(event)

    def reject(self) -> None:
        self.close()
