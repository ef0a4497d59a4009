"""The simulated plotter in a window of its own: its paper, its pen, and what may go wrong with it."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF, QResizeEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSizePolicy,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from wisecompass.desk.paint import THINNEST, View
from wisecompass.desk.theme import Theme, scaled
from wisecompass.devices.plotter import FAULTS, Ink, Plotter
from wisecompass.devices.plug import PlotterOnPlug
from wisecompass.drafting.pens import STROKES
from wisecompass.exchange.machine import Profile

LOOK_EVERY = 40
"""Milliseconds between looks at the paper."""

SIZE = (760, 620)

SLOWEST, FASTEST = 1, 400
"""How many times as fast as a real one it draws."""

EDGE = 12


class Bed(QWidget):
    """What the machine reaches, the ink on it, and the pen."""

    def __init__(self, plotter: Plotter, theme: Theme) -> None:
        super().__init__()
        self.plotter, self.theme = plotter, theme
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumSize(scaled(360), scaled(260))
        self.setAccessibleName("paper of the simulated plotter")
        self.reach = plotter.profile.width, plotter.profile.height
        """How much of the bed is shown, mm to the right and up."""
        self._ink: QPixmap | None = None
        self._shown = 0

    def show_reach(self, width: float, height: float) -> None:
        """Show the bed as far as a drawing reaches on it."""
        profile = self.plotter.profile
        self.reach = min(max(width, 50.0), profile.width), min(max(height, 50.0), profile.height)
        self._ink, self._shown = None, 0

    def view(self) -> View:
        (wide, high), room = self.reach, (self.width() - 2 * EDGE, self.height() - 2 * EDGE)
        k = min(room[0] / wide, room[1] / high)
        return View(k, (self.width() - k * wide) / 2, (self.height() + k * high) / 2)

    def resizeEvent(self, event: QResizeEvent) -> None:  # noqa: N802 - Qt's name
        self._ink, self._shown = None, 0

    def fresh(self) -> None:
        """Fresh paper."""
        self.plotter.ink.clear()
        self._ink, self._shown = None, 0
        self.update()

    def follow(self) -> None:
        """Put what was drawn since on the picture."""
        if self._ink is None:
            self._ink, self._shown = QPixmap(self.size()), 0
            self._ink.fill(Qt.GlobalColor.transparent)
        ink = self.plotter.ink[self._shown :]
        if ink:
            with QPainter(self._ink) as painter:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                for each in ink:
                    self._draw(painter, each)
            self._shown += len(ink)
        self.update()

    def _draw(self, painter: QPainter, ink: Ink) -> None:
        view, profile = self.view(), self.plotter.profile
        width = max(STROKES[ink.pen].width * view.k, THINNEST)
        painter.setPen(QPen(self.theme.color("paper_ink"), width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        places = [ink.way.start, *ink.way.points(0.1 / view.k)]
        shifted = [view.px(x + profile.shift_x, y + profile.shift_y) for x, y in places]
        painter.drawPolyline(QPolygonF(shifted))

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: N802
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self.theme.color("table"))
        view, profile = self.view(), self.plotter.profile
        bed = QRectF(view.px(0, self.reach[1]), view.px(self.reach[0], 0))
        painter.fillRect(bed, self.theme.color("paper"))
        painter.setPen(QPen(self.theme.color("edge"), 1))
        painter.drawRect(bed)
        if self._ink is not None:
            painter.drawPixmap(0, 0, self._ink)
        x, y = self.plotter.at
        at = view.px(x + profile.shift_x, y + profile.shift_y)
        down = self.plotter.reader.down
        painter.setPen(QPen(self.theme.color("vermilion"), 2))
        painter.drawLine(QPointF(at.x() - 12, at.y()), QPointF(at.x() + 12, at.y()))
        painter.drawLine(QPointF(at.x(), at.y() - 12), QPointF(at.x(), at.y() + 12))
        if down:
            painter.setBrush(self.theme.color("vermilion"))
        painter.drawEllipse(at, 5, 5)


class PlotterWindow(QWidget):
    """A plotter that is not there, behind a real port."""

    def __init__(self, profile: Profile, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent, Qt.WindowType.Window)
        self.profile = profile
        self.closed = False
        self.plug = PlotterOnPlug(Plotter(profile), hurry=40.0)
        self.setWindowTitle("Simulated plotter")
        self.setObjectName("panel")
        self.setStyleSheet(f"QWidget#panel {{ background: {theme.panel}; }}")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.resize(scaled(SIZE[0]), scaled(SIZE[1]))
        column = QVBoxLayout(self)
        self.said = QLabel()
        self.said.setAccessibleName("how the plotter stands")
        column.addWidget(self.said)
        self.bed = Bed(self.plug.plotter, theme)
        column.addWidget(self.bed, 1)
        row = QHBoxLayout()
        speed = QLabel("Speed")
        self.speed = QSlider(Qt.Orientation.Horizontal)
        self.speed.setRange(SLOWEST, FASTEST)
        self.speed.setValue(40)
        self.speed.setAccessibleName("how many times as fast as a real plotter")
        self.speed.valueChanged.connect(self._set_speed)
        self.times = QLabel()
        self.faults = QComboBox()
        self.faults.addItems(list(FAULTS))
        self.faults.setAccessibleName("what goes wrong")
        self.attended = QCheckBox("Wait for pens")
        self.attended.setToolTip("stand by and put each pen in: the plotter waits at every change")
        self.attended.toggled.connect(self._attend)
        self.fail_button, self.mend_button = QPushButton("Let it happen"), QPushButton("Mend")
        fresh = QPushButton("Fresh paper")
        self.fail_button.clicked.connect(lambda: self.plug.fail(self.faults.currentText(), 0.0))
        self.mend_button.clicked.connect(self.mend)
        fresh.clicked.connect(self.bed.fresh)
        for widget in (speed, self.speed, self.times, self.attended, self.faults, self.fail_button, self.mend_button, fresh):
            row.addWidget(widget)
        column.addLayout(row)
        self._set_speed(40)
        self._timer = QTimer(self)
        self._timer.timeout.connect(self.follow)
        self._timer.start(LOOK_EVERY)
        self.follow()

    @property
    def port(self) -> str:
        """The name of its port."""
        return self.plug.name

    def _attend(self, wanted: bool) -> None:
        with self.plug.lock:
            self.plug.plotter.attended = wanted

    def mend(self) -> None:
        """Put in what is missing: paper, a cable, or the next pen."""
        with self.plug.lock:
            waits = self.plug.plotter.waits_for_pen
            self.plug.plotter.pen_is_in()
        if not waits:
            self.plug.mend()
        self.follow()

    def _set_speed(self, times: int) -> None:
        self.plug.hurry = float(times)
        self.times.setText(f"{times} times a real one")

    def follow(self) -> None:
        """Show how it stands."""
        plotter = self.plug.plotter
        with self.plug.lock:
            self.bed.follow()
            x, y = plotter.at
            if not plotter.plugged:
                state = f"stopped: {plotter.stopped or 'the cable is pulled'}"
            elif plotter.stopped:
                state = f"stopped: {plotter.stopped}"
            elif plotter.waits_for_pen:
                state = "waiting for the next pen"
            else:
                state = "waiting" if plotter.idle else "drawing"
            pen = f"pen {plotter.reader.pen} {'down' if plotter.reader.down else 'up'}"
            done = f"{plotter.done} lines done" if plotter.done != 1 else "1 line done"
            bed = f"bed {self.profile.width:g} × {self.profile.height:g} mm"
            self.said.setText(f"{state}   {pen} at {x:.1f}, {y:.1f} mm   {done}   {bed}")
            self.said.setToolTip(f"port {self.plug.name}")
            self.mend_button.setEnabled(bool(plotter.stopped) or not plotter.plugged or plotter.waits_for_pen)
            self.mend_button.setText("Pen is in" if plotter.waits_for_pen else "Mend")

    def closeEvent(self, event: QCloseEvent) -> None:  # noqa: N802 - Qt's name
        self.closed = True
        self._timer.stop()
        self.plug.close()
        super().closeEvent(event)
