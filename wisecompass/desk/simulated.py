"""A simulated plotter or caliper in a window by itself, for whatever program wants to speak to one."""

from __future__ import annotations

import os
import sys
from pathlib import Path

from wisecompass.drafting.errors import BadDocument
from wisecompass.exchange.machine import Profile


def open_simulated(device: str, profile: Profile, picture: Path | None = None) -> int:
    """Open the window and say at which port it listens; with ``picture`` write that picture and end at once.

    Raises:
        BadDocument: there is no display, or the picture cannot be written.
    """
    if picture is not None:
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
    elif not any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")):
        raise BadDocument("there is no display here for its window: give --picture FILE, or use plot --to simulated")
    from PySide6.QtWidgets import QApplication

    from wisecompass.desk.caliper_window import CaliperWindow
    from wisecompass.desk.plotter_window import PlotterWindow
    from wisecompass.desk.theme import LIGHT, load_fonts, palette_of, style_sheet

    application = QApplication.instance() or QApplication(sys.argv[:1])
    load_fonts()
    QApplication.setPalette(palette_of(LIGHT))
    window = PlotterWindow(profile, LIGHT) if device == "plotter" else CaliperWindow()
    window.setStyleSheet(style_sheet(LIGHT))
    window.show()
    print(window.port, flush=True)
    if picture is None:
        return application.exec()
    application.processEvents()
    written = window.grab().save(str(picture))
    window.close()
    if not written:
        raise BadDocument(f"{picture} cannot be written")
    return 0
