"""Opening the desk: on the screen if there is one, else as a picture made offscreen."""

from __future__ import annotations

import os
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from wisecompass.drafting.errors import BadDocument
from wisecompass.folio import print as _  # noqa: F401 - the core before Qt, which inspects what is imported after it

if TYPE_CHECKING:
    from PySide6.QtCore import QSettings

    from wisecompass.folio.document import Folio

PICTURE = Path("wise-compass-desk.png")
"""Where the picture goes when there is no display and no name was given."""

FIRST_SHEET, FIRST_STEP = 1, 5
"""Where the sample folio opens: a blend with the compass in the work."""


def open_desk(path: Path | None, picture: Path | None = None) -> int:
    """Open the window on a folio (the sample when None); with ``picture`` write that picture and end.

    Raises:
        BadDocument: the folio cannot be used, or Qt cannot start here.
    """
    offscreen = picture is not None or not _has_display()
    if offscreen:
        if picture is None:
            print(f"There is no display here: writing a picture of the window to {PICTURE} instead.")
            picture = PICTURE
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
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
    settings = None if offscreen else QSettings(str(_settings_file()), QSettings.Format.IniFormat)
    draft = _draft(settings) if path is None else None
    if path is not None:
        session = Session(store.load(path), path)
    elif draft is not None:
        session = Session(draft)
    else:
        session = Session(store.sample(), sheet=FIRST_SHEET)
        session.go_to(FIRST_STEP)
    window = DeskWindow(session, settings)
    window.show()
    window.strip.setFocus()
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
    from platformdirs import user_config_path

    folder = user_config_path("wise-compass", ensure_exists=True)
    return folder / "desk.ini"


def _draft(settings: QSettings | None) -> Folio | None:
    """Unsaved work from the last time, if there is any that can be read."""
    if settings is None:
        return None
    from wisecompass.folio import store

    draft = Path(settings.fileName()).with_name(f"draft{store.SUFFIX}")
    if not draft.exists():
        return None
    try:
        return store.load(draft)
    except BadDocument:
        return None
