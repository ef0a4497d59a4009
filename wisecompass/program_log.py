"""The program's log: what it did and what went wrong, in the state directory of its user, turned over when it is full."""

from __future__ import annotations

import logging
import os
from logging.handlers import RotatingFileHandler
from pathlib import Path

LARGEST, KEPT = 256 * 1024, 3
"""Bytes of a file, and how many older ones are kept."""

NAME = "wisecompass"


def log_file() -> Path:
    """Where the log is."""
    base = os.environ.get("XDG_STATE_HOME") or str(Path.home() / ".local" / "state")
    return Path(base) / "wise-compass" / "wise-compass.log"


def begin() -> str:
    """Write a log from now on; a sentence where that cannot be, and then it goes on without."""
    logger = logging.getLogger(NAME)
    if logger.handlers:
        return ""
    logger.setLevel(logging.INFO)
    logger.propagate = False
    try:
        path = log_file()
        path.parent.mkdir(parents=True, exist_ok=True)
        handler: logging.Handler = RotatingFileHandler(path, maxBytes=LARGEST, backupCount=KEPT, encoding="utf-8")
    except (OSError, RuntimeError) as reason:
        logger.addHandler(logging.NullHandler())
        return f"no log is kept: {getattr(reason, 'strerror', None) or reason}"
    handler.setFormatter(logging.Formatter("%(asctime)s %(process)d %(levelname)s %(message)s"))
    logging.raiseExceptions = False  # a disk that is full stops nobody
    logger.addHandler(handler)
    return ""


def note(what: str, *values: object) -> None:
    """A line in the log."""
    logging.getLogger(NAME).info(what, *values)


def fault(what: str, reason: BaseException) -> None:
    """A fault nobody foresaw, with where it was."""
    logging.getLogger(NAME).error("%s", what, exc_info=(type(reason), reason, reason.__traceback__))
