"""The program in the desktop's menu: entry, icon, file type and man page, for one user. What comes with a package of the
system lies there already; after an installation with pipx or pip this puts it where desktops look."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from collections.abc import Iterator
from importlib.resources import files
from pathlib import Path

from wisecompass.drafting.errors import BadDocument

APP_ID = "mill.bramlow.wisecompass"

ICON_SIZES = (16, 24, 32, 48, 64, 128, 256, 512)


def share() -> Path:
    """Where the files that ship with the program lie."""
    return Path(str(files("wisecompass") / "share"))


def placed() -> Iterator[tuple[Path, Path]]:
    """Each file that ships, and where it belongs below a data directory."""
    here = share()
    yield here / "applications" / f"{APP_ID}.desktop", Path("applications") / f"{APP_ID}.desktop"
    yield here / "metainfo" / f"{APP_ID}.metainfo.xml", Path("metainfo") / f"{APP_ID}.metainfo.xml"
    yield here / "mime" / "wise-compass.xml", Path("mime") / "packages" / "wise-compass.xml"
    yield here / "man" / "wise-compass.1", Path("man") / "man1" / "wise-compass.1"
    icons = Path("icons") / "hicolor"
    yield here / "icons" / "wise-compass.svg", icons / "scalable" / "apps" / "wise-compass.svg"
    for size in ICON_SIZES:
        yield here / "icons" / f"wise-compass-{size}.png", icons / f"{size}x{size}" / "apps" / "wise-compass.png"


def data_home() -> Path:
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")


def put_in() -> list[Path]:
    """Copy everything to the user's data directory and tell the desktop; what was written.

    Raises:
        BadDocument: it cannot be written.
    """
    base, written = data_home(), []
    try:
        for source, place in placed():
            target = base / place
            target.parent.mkdir(parents=True, exist_ok=True)
            shutil.copyfile(source, target)
            written.append(target)
        entry = base / "applications" / f"{APP_ID}.desktop"
        text = entry.read_text(encoding="utf-8").replace("Exec=wise-compass", f"Exec={_quoted(_command())}")
        entry.write_text(text, encoding="utf-8")
    except OSError as reason:
        raise BadDocument(f"{reason.filename or base} cannot be written: {reason.strerror}") from None
    _tell(base)
    return written


def take_out() -> list[Path]:
    """Take it out of the menu again; what was removed.

    Raises:
        BadDocument: it cannot be.
    """
    base, gone = data_home(), []
    try:
        for _, place in placed():
            target = base / place
            if target.is_file():
                target.unlink()
                gone.append(target)
    except OSError as reason:
        raise BadDocument(f"{reason.filename or base} cannot be removed: {reason.strerror}") from None
    _tell(base)
    return gone


def _command() -> str:
    """The command that starts the program, from wherever it was installed."""
    beside = Path(sys.executable).parent / "wise-compass"
    return str(beside) if beside.is_file() else shutil.which("wise-compass") or "wise-compass"


def _quoted(command: str) -> str:
    """A command as an entry of the menu writes it."""
    return f'"{command}"' if " " in command else command


def _tell(base: Path) -> None:
    """Have the desktop look again, where it has the means."""
    for command in (
        ["update-mime-database", str(base / "mime")],
        ["update-desktop-database", str(base / "applications")],
        ["gtk-update-icon-cache", "-q", "-t", str(base / "icons" / "hicolor")],
    ):
        if shutil.which(command[0]):
            subprocess.run(command, check=False, capture_output=True, timeout=60)
