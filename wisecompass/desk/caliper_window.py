"""The caliper at the desk: what it reads goes into the measured column; and a simulated one in a small window."""

from __future__ import annotations

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import QDoubleSpinBox, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from wisecompass.desk.theme import scaled
from wisecompass.devices.caliper import Caliper, CaliperOnPlug, Readings
from wisecompass.devices.port import SerialPort
from wisecompass.folio.paper import DRAFTING_FAMILY


class CaliperListener(QObject):
    """Readings of a caliper as signals."""

    read = Signal(float)
    """mm on paper."""
    said = Signal(str)

    def __init__(self, parent: QObject, port: str) -> None:
        """Raises: PortTrouble: the port cannot be opened."""
        super().__init__(parent)
        self.port = port
        self._readings = Readings(SerialPort(port), self._got, self._told)
        self._readings.start()

    def _got(self, mm: float) -> None:
        try:
            self.read.emit(mm)
        except RuntimeError:
            return  # the desk has gone

    def _told(self, words: str) -> None:
        try:
            self.said.emit(words)
        except RuntimeError:
            return

    def stop(self) -> None:
        self._readings.stop()


class CaliperWindow(QWidget):
    """A caliper that is not there, behind a real port: set it, press its key."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent, Qt.WindowType.Tool)
        self.plug = CaliperOnPlug(Caliper())
        self.setWindowTitle("Simulated caliper")
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setAttribute(Qt.WidgetAttribute.WA_ShowWithoutActivating)
        column = QVBoxLayout(self)
        self.shown = QLabel()
        self.shown.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.shown.setAccessibleName("what the caliper shows")
        self.shown.setStyleSheet(f'font-family: "{DRAFTING_FAMILY}"; font-size: {scaled(30)}px;')
        column.addWidget(self.shown)
        row = QHBoxLayout()
        self.opening = QDoubleSpinBox()
        self.opening.setRange(-200.0, 300.0)
        self.opening.setDecimals(2)
        self.opening.setSingleStep(0.05)
        self.opening.setSuffix(" mm open")
        self.opening.setAccessibleName("how far the caliper is open")
        self.opening.valueChanged.connect(self._set)
        self.units_button, self.zero_button = QPushButton("mm / in"), QPushButton("Zero")
        self.key = QPushButton("Send reading")
        self.key.setDefault(True)
        self.units_button.clicked.connect(self._units)
        self.zero_button.clicked.connect(self._zero)
        self.key.clicked.connect(self.plug.press)
        for widget in (self.opening, self.units_button, self.zero_button, self.key):
            row.addWidget(widget)
        column.addLayout(row)
        self._show()

    @property
    def port(self) -> str:
        return self.plug.name

    def _set(self, mm: float) -> None:
        self.plug.caliper.set(mm)
        self._show()

    def _units(self) -> None:
        self.plug.caliper.inches = not self.plug.caliper.inches
        self._show()

    def _zero(self) -> None:
        self.plug.caliper.zero()
        self._show()

    def _show(self) -> None:
        self.shown.setText(self.plug.caliper.shown)

    def closeEvent(self, event: QCloseEvent) -> None:  # noqa: N802 - Qt's name
        self.plug.close()
        super().closeEvent(event)
