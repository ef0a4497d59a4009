"""Opening the desk: on the screen if there is one, else as a picture made offscreen."""

from __future__ import annotations

import gc
import os
import sys
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING

from wisecompass.drafting.errors import BadDocument

if TYPE_CHECKING:
    from PySide6.QtCore import QSettings

    from wisecompass.desk.session import Session

PICTURE = Path("wise-compass-desk.png")
"""Where the picture goes when there is no display and no name was given."""

FIRST_SHEET, FIRST_STEP = 1, 5
"""Where the sample folio opens: a blend with the compass in the work."""


def open_desk(path: Path | None, picture: Path | None = None, demo: bool = False) -> int:
    """Open the window and return when it is closed; with ``picture`` write that picture and end at once.

    It opens on the folio at ``path``; else on the work that was left unsaved, else on the last folio, else on the
    sample. With ``demo`` it is the sample.

    Raises:
        BadDocument: the folio cannot be used, or Qt cannot start here.
    """
    gc.disable()  # nothing made while the window is built is garbage; the window turns it on again
    offscreen = picture is not None or not _has_display()
    if offscreen:
        if picture is None:
            print(f"There is no display here: writing a picture of the window to {PICTURE} instead.")
            picture = PICTURE
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
        os.environ.setdefault("QT_LOGGING_RULES", "default.warning=false")  # it says at every window what it lacks
    import_module("wisecompass.folio.print")  # the core before Qt, which inspects all that is imported after it
    try:
        from PySide6.QtCore import QSettings
        from PySide6.QtWidgets import QApplication
    except ImportError as reason:
        raise BadDocument(
            f"Qt cannot start: {reason}; on Debian or Ubuntu: "
            "apt-get install libegl1 libgl1 libxkbcommon0 libxkbcommon-x11-0 libxcb-cursor0 libdbus-1-3 libfontconfig1"
        ) from None
    from wisecompass.desk.session import Session
    from wisecompass.desk.theme import load_fonts
    from wisecompass.desk.window import DeskWindow
    from wisecompass.folio import store

    application = QApplication.instance() or QApplication(sys.argv[:1])
    application.setApplicationName("Wise Compass")
    load_fonts()
    settings, trouble = None, ""
    if not offscreen:
        try:
            settings = QSettings(str(_settings_file()), QSettings.Format.IniFormat)
        except OSError as reason:
            trouble = f"{reason.filename} cannot be made ({reason.strerror}): save your work before you close the window"
    session = None if demo else _left_open(path, settings)
    if session is None:
        session = Session(store.sample(), sheet=FIRST_SHEET)
        session.go_to(FIRST_STEP)
    window = DeskWindow(session, settings)
    window.show()
    window.strip.setFocus()
    if trouble:
        window.notice(trouble)
    if picture is not None:
        session.settle()
        window.index.finish_signs()
        application.processEvents()
        if not window.grab().save(str(picture)):
            raise BadDocument(f"{picture} cannot be written")
        return 0
    return application.exec()


def _has_display() -> bool:
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY") or os.environ.get("QT_QPA_PLATFORM"))


def _settings_file() -> Path:
    """Where the window remembers itself, in the user's folder for settings.

    Raises:
        OSError: that folder is not there and cannot be made.
    """
    from PySide6.QtCore import QStandardPaths

    place = QStandardPaths.writableLocation(QStandardPaths.StandardLocation.GenericConfigLocation)
    folder = Path(place) / "wise-compass"
    folder.mkdir(parents=True, exist_ok=True)
    return folder / "desk.ini"


def _left_open(path: Path | None, settings: QSettings | None) -> Session | None:
    """The folio asked for, or the work that was left, if there is any that can be read."""
    from wisecompass.desk.session import Session
    from wisecompass.folio import store

    if path is not None:
        folio = store.load(path)
        if not any(sheet.figures for sheet in folio.sheets):
            raise BadDocument(f"{path.name} has no sheet with a figure")
        return Session(folio, path)
    if settings is None:
        return None
    last = Path(str(settings.value("folio", ""))) if settings.value("folio", "") else None
    draft = Path(settings.fileName()).with_name(f"draft{store.SUFFIX}")
    for file in (draft, last):
        if file is not None and file.exists():
            try:
                return Session(store.load(file), last)
            except BadDocument:
                continue
    return None
