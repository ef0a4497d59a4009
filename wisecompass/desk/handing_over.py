"""Handing over: what the menu of that name offers beyond files, and the windows that it opens."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QDialog, QMenu

from wisecompass.devices.port import PortTrouble, known_ports

if TYPE_CHECKING:
    from wisecompass.desk.caliper_window import CaliperListener, CaliperWindow
    from wisecompass.desk.window import DeskWindow

SIMULATED_CALIPER = "a simulated caliper"


class HandingOver(QObject):
    """Acts of a window, each with a form of its own that is made when it is wanted."""

    def __init__(self, window: DeskWindow) -> None:
        super().__init__(window)
        self.window = window
        self.form: QDialog | None = None
        self.caliper: CaliperListener | None = None
        self.caliper_window: CaliperWindow | None = None
        self.full_size_action = window.add_act("Full size over the printer's pages …", "Ctrl+Shift+F", self.full_size)
        self.nest_action = window.add_act("Patterns on stock …", "Ctrl+Alt+N", self.nest)
        self.plot_action = window.add_act("To a plotter or cutter …", "Ctrl+Alt+G", self.plot)
        self.caliper_menu = QMenu("Caliper types into the measured column", window)
        self.caliper_menu.aboutToShow.connect(self._list_calipers)
        self.off_action = window.add_act("Let the caliper go", "", self.let_go)

    @property
    def actions(self) -> Sequence[QAction]:
        """What stands in the menu."""
        return self.full_size_action, self.nest_action, self.plot_action, self.caliper_menu.menuAction()

    # ------------------------------------------------------------------------------------------------------------- forms
    def full_size(self) -> None:
        from wisecompass.desk.full_size_form import FullSizeForm

        if self.window.session.empty:
            self.window.notice("nothing stands on this sheet")
            return
        self._open(FullSizeForm(self.window.session, self.window.theme, self.window, self.window.settings))

    def nest(self) -> None:
        from wisecompass.desk.nest_form import NestForm

        self._open(NestForm(self.window.session, self.window.theme, self.window))

    def plot(self) -> None:
        from wisecompass.desk.plot_form import PlotForm

        self._open(PlotForm(self.window.session, self.window.theme, self.window))

    def _open(self, form: QDialog) -> None:
        if self.form is not None:
            self.form.close()
        self.form = form
        form.finished.connect(lambda _: self._forget(form))
        form.open()

    def _forget(self, form: QDialog) -> None:
        if self.form is form:
            self.form = None

    # ----------------------------------------------------------------------------------------------------------- caliper
    def _list_calipers(self) -> None:
        self.caliper_menu.clear()
        for name in (SIMULATED_CALIPER, *known_ports()):
            self.caliper_menu.addAction(name, partial(self.take_caliper, name))
        self.off_action.setEnabled(self.caliper is not None)
        self.caliper_menu.addSeparator()
        self.caliper_menu.addAction(self.off_action)

    def take_caliper(self, name: str) -> None:
        """Listen to a caliper; what cannot be is said."""
        from wisecompass.desk.caliper_window import CaliperListener, CaliperWindow

        self.let_go()
        if name == SIMULATED_CALIPER:
            self.caliper_window = CaliperWindow(self.window)
            name = self.caliper_window.port
            self.caliper_window.show()
        try:
            self.caliper = CaliperListener(self, name)
        except PortTrouble as reason:
            self.window.notice(str(reason))
            return
        self.caliper.read.connect(self._read)
        self.caliper.said.connect(self.window.notice)
        self.window.leaves.show_leaf("Measured")
        self.window.notice("the caliper types into the field in hand")

    def _read(self, mm: float) -> None:
        said = self.window.marked.take_reading(mm)
        if said:
            self.window.notice(said)

    def let_go(self) -> None:
        """Listen no longer."""
        caliper, self.caliper = self.caliper, None
        if caliper is not None:
            caliper.stop()
        if self.caliper_window is not None:
            self.caliper_window.close()
            self.caliper_window = None

    def close(self) -> None:
        """Let everything go: the pen up, the ports free."""
        if self.form is not None:
            self.form.close()
        self.let_go()
