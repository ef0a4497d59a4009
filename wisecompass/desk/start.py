"""Opening the desk: on the screen if there is one, else as a picture made offscreen."""

from __future__ import annotations

import gc
import os
import signal
import socket
import sys
from importlib import import_module
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from wisecompass import program_log
from wisecompass.drafting.errors import BadDocument

if TYPE_CHECKING:
    from PySide6.QtCore import QSettings

    from wisecompass.desk.window import DeskWindow
    from wisecompass.folio.drafts import Drafts
    from wisecompass.folio.work import Work

PICTURE = Path("wise-compass-desk.png")
"""Where the picture goes when there is no display and no name was given."""

FIRST_SHEET, FIRST_STEP = 1, 5
"""Where the sample folio opens: a blend with the compass in the work."""


def open_desk(path: Path | None, picture: Path | None = None, demo: bool = False, alone: bool = False) -> int:
    """Open the window and return when it is closed; with ``picture`` write that picture and end at once. With ``alone`` a
    folio goes to the window that is open already, if there is one.

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
    from PySide6.QtGui import QGuiApplication, QIcon

    from wisecompass import menu_entry
    from wisecompass.desk.doorbell import Doorbell, at_the_door
    from wisecompass.desk.helper import Helper
    from wisecompass.desk.session import Session
    from wisecompass.desk.theme import load_fonts
    from wisecompass.desk.window import DeskWindow
    from wisecompass.folio import store
    from wisecompass.folio.drafts import Drafts

    application = QApplication.instance() or QApplication(sys.argv[:1])
    application.setApplicationName("Wise Compass")
    QGuiApplication.setDesktopFileName(menu_entry.APP_ID)
    QGuiApplication.setWindowIcon(QIcon(str(menu_entry.share() / "icons" / "wise-compass-256.png")))
    doorbell = Doorbell()
    if not offscreen and not at_the_door(doorbell, path if alone else None):
        print("opened in the window that is there already")
        return 0
    load_fonts()
    settings, drafts, trouble = None, None, ""
    if not offscreen:
        try:
            file = _settings_file()
            settings, drafts = QSettings(str(file), QSettings.Format.IniFormat), Drafts(file.parent / "drafts")
        except OSError as reason:
            trouble = f"{reason.filename} cannot be made ({reason.strerror}): save your work before you close the window"
    helper = None if picture is not None else Helper()
    work = None if demo else left_open(path, settings, drafts)
    if work is None:
        session = Session(store.sample(), sheet=FIRST_SHEET, helper=helper)
        session.go_to(FIRST_STEP)
    else:
        session = Session(work, helper=helper)
        if work.changed:
            trouble = "this work was not saved when its window went: it is as it was"
    window = DeskWindow(session, settings, drafts)
    window.show()
    window.strip.setFocus()
    left = window.keeping.left()
    if left and not trouble:
        trouble = f"unsaved work of {len(left)} earlier windows is under Folio, Unsaved work"
    if trouble:
        window.notice(trouble)
    doorbell.answer(window.receive)
    ending = keep_at_the_end(window)
    if picture is not None:
        session.settle()
        window.index.finish_signs()
        application.processEvents()
        ending.close()
        if not window.grab().save(str(picture)):
            raise BadDocument(f"{picture} cannot be written")
        return 0
    code = application.exec()
    doorbell.close()
    ending.close()
    return code


def keep_at_the_end(window: DeskWindow) -> Ending:
    """Keep what is not saved when the system ends the program, and when a fault nobody foresaw comes up."""
    return Ending(window)


class Ending:
    """SIGTERM and SIGHUP close the window; an unforeseen exception is said, and the work kept."""

    SIGNALS = (signal.SIGTERM, signal.SIGHUP, signal.SIGINT)

    def __init__(self, window: DeskWindow) -> None:
        from PySide6.QtCore import QSocketNotifier

        self.window = window
        self._ours, self._theirs = socket.socketpair()
        for end in (self._ours, self._theirs):
            end.setblocking(False)
        signal.set_wakeup_fd(self._theirs.fileno(), warn_on_full_buffer=False)  # Qt's loop would not look up else
        self._before = {each: signal.signal(each, lambda *_: None) for each in self.SIGNALS}
        self._notifier = QSocketNotifier(self._ours.fileno(), QSocketNotifier.Type.Read)
        self._notifier.activated.connect(self._told)
        self._hook, sys.excepthook = sys.excepthook, self._unforeseen

    def _told(self, *_: object) -> None:
        self._ours.recv(64)
        self.window.keep_all()
        self.window.close()
        self.window.close()  # where no draft can be kept it stays once

    def _unforeseen(self, kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
        program_log.fault("a fault nobody foresaw", fault)
        said = self.window.keep_all() or "your work is kept"
        self.window.notice(f"something went wrong that nobody foresaw ({kind.__name__}); {said}")
        if os.environ.get("WISE_COMPASS_FAULTS"):
            self._hook(kind, fault, trace)

    def close(self) -> None:
        sys.excepthook = self._hook
        signal.set_wakeup_fd(-1)
        for each, before in self._before.items():
            signal.signal(each, before)
        self._notifier.setEnabled(False)
        self._ours.close()
        self._theirs.close()


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


def left_open(path: Path | None, settings: QSettings | None, drafts: Drafts | None) -> Work | None:
    """The folio asked for; else the work that was left unsaved last; else the last folio, if it can be read.

    Raises:
        BadDocument: the folio asked for cannot be used.
    """
    from wisecompass.folio.work import Work

    if path is not None:
        return Work.opened(path)
    if drafts is not None:
        for file, _ in drafts.left():
            taken = drafts.take_up(file)
            if taken is not None:
                return Work.taken_up(*taken)
    last = str(settings.value("folio", "")) if settings is not None else ""
    if last:
        try:
            return Work.opened(Path(last))
        except BadDocument:
            return None
    return None
