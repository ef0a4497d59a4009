"""Files in and out: the one way in which text is read and the one way in which anything is written.

What is read is a regular file of bounded size in UTF-8. What is written is written whole or not at all: into a temporary
file beside its target, brought to the disk, and moved over it. A symbolic link keeps pointing where it does.
"""

from __future__ import annotations

import contextlib
import errno
import hashlib
import json
import os
import shutil
import stat
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.errors import BadDocument

PART = ".part"
"""Ending of files that are being written; between it and the name stands the process that writes."""

DEEPEST = 60
"""How deep JSON may be nested: a folio has six levels."""

MOST_DIGITS = 400
"""Digits of a number in JSON; a double written out has at most some 330."""


def read_text(path: Path, largest: int, what: str) -> str:
    """The text of a regular file, without a byte-order mark.

    Raises:
        BadDocument: it is not there, no regular file, too large for ``what`` it should be, or not UTF-8.
    """
    return text_of(read_bytes(path, largest, what), path)


def text_of(data: bytes, path: Path) -> str:
    """Bytes of a file as text.

    Raises:
        BadDocument: they are not UTF-8.
    """
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as reason:
        raise BadDocument(f"{quoted(path.name)} is not UTF-8 text: byte {reason.start} does not fit") from None


def read_bytes(path: Path, largest: int, what: str) -> bytes:
    """The bytes of a regular file; pipes and devices, which may never end, are refused.

    Raises:
        BadDocument: see ``read_text``.
    """
    name = quoted(path.name or str(path))
    try:
        with open(path, "rb", opener=_without_waiting) as handle:  # Path.open takes no opener
            kind = os.fstat(handle.fileno())
            if not stat.S_ISREG(kind.st_mode):
                raise BadDocument(f"{name} is no ordinary file: {what} is read from a file")
            data = handle.read(largest + 1)
    except (OSError, ValueError) as reason:
        raise BadDocument(f"{name} cannot be read: {_because(reason)}") from None
    if len(data) > largest:
        raise BadDocument(f"{name} is too large for {what}: more than {largest / 1e6:g} MB")
    return data


def read_json(path: Path, largest: int, what: str) -> Any:
    """The JSON of a file.

    Raises:
        BadDocument: see ``parse_json`` and ``read_text``.
    """
    return parse_json(read_text(path, largest, what), quoted(path.name))


def parse_json(text: str, name: str) -> Any:
    """JSON with no key twice, no number that is none, and nothing nested past all reason.

    Raises:
        BadDocument: with the line and column where there is one.
    """
    try:
        data = json.loads(text, object_pairs_hook=_once, parse_constant=_no_number, parse_int=_whole, parse_float=_real)
    except json.JSONDecodeError as reason:
        raise BadDocument(f"{name}, line {reason.lineno}, column {reason.colno}: {reason.msg.lower()}") from None
    except RecursionError:
        raise BadDocument(f"{name} is nested too deeply to be read") from None
    except ValueError as reason:
        raise BadDocument(f"{name}: {reason}") from None
    if _depth(data) > DEEPEST:
        raise BadDocument(f"{name} is nested more than {DEEPEST} deep")
    return data


def _once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for key, value in pairs:
        if key in found:
            raise ValueError(f"“{quoted(key)}” stands there twice")
        found[key] = value
    return found


def _no_number(text: str) -> float:
    raise ValueError(f"{text} is not a number")


def _whole(text: str) -> int:
    if len(text) > MOST_DIGITS:
        raise ValueError(f"a number has {len(text)} digits; {MOST_DIGITS} are read")
    return int(text)


def _real(text: str) -> float:
    value = float(text)
    if value in (float("inf"), float("-inf")) or len(text) > 2 * MOST_DIGITS:
        raise ValueError(f"{quoted(text)} is too large a number")
    return value


def _depth(data: Any) -> int:
    """How deep lists and objects are nested, counted without recursion."""
    deepest, waiting = 0, [(data, 1)]
    while waiting:
        value, depth = waiting.pop()
        deepest = max(deepest, depth)
        if depth > DEEPEST:
            return depth
        inner = value.values() if isinstance(value, dict) else value if isinstance(value, list) else ()
        waiting.extend((each, depth + 1) for each in inner if isinstance(each, dict | list))
    return deepest


def _without_waiting(name: str, flags: int) -> int:
    """Open without waiting for somebody to write into a pipe."""
    return os.open(name, flags | os.O_NONBLOCK | os.O_CLOEXEC)


# -------------------------------------------------------------------------------------------------------------- writing
def write(path: Path, data: bytes, *, backup: bool = False) -> None:
    """Write a file whole or not at all; with ``backup`` what was there stays beside it as ``NAME.backup``.

    A device or pipe is written to as it is. Parts that a killed process left behind are cleared away.

    Raises:
        BadDocument: the place cannot be written; whatever was there is still there.
    """
    try:
        target = path.resolve()
        if target.exists() and not target.is_file():
            _write_through(target, data)
            return
        _clear_parts(target)
        part = target.with_name(f".{target.name}.{os.getpid()}{PART}")
        try:
            _write_part(part, data, target)
            if backup and target.exists():
                _keep_backup(target)
            os.replace(part, target)
        except BaseException:
            with contextlib.suppress(OSError):
                part.unlink(missing_ok=True)
            raise
        _sync_folder(target.parent)
    except (OSError, ValueError, RuntimeError) as reason:
        raise BadDocument(
            f"{quoted(path, 160)} cannot be written: {_because(reason)}; what was there is untouched"
        ) from None


def _write_through(target: Path, data: bytes) -> None:
    if target.is_dir():
        raise IsADirectoryError(errno.EISDIR, "it is a folder")
    with target.open("wb", buffering=0) as handle:
        view = memoryview(data)
        while view:
            view = view[handle.write(view) or 0 :]


def _write_part(part: Path, data: bytes, target: Path) -> None:
    with part.open("wb") as handle:
        handle.write(data)
        handle.flush()
        os.fsync(handle.fileno())
    if target.exists():
        with contextlib.suppress(OSError):  # a stick may know no modes
            part.chmod(stat.S_IMODE(target.stat().st_mode))


def _keep_backup(target: Path) -> None:
    """What is there becomes the backup, so that there is one at every moment: a second name for it where the disk knows
    such, else a copy."""
    backup, fresh = target.with_name(f"{target.name}.backup"), target.with_name(f".{target.name}.backup.{os.getpid()}{PART}")
    try:
        fresh.unlink(missing_ok=True)
        try:
            os.link(target, fresh)
        except OSError:
            shutil.copyfile(target, fresh)
            with fresh.open("rb") as handle:
                os.fsync(handle.fileno())
        os.replace(fresh, backup)
    finally:
        fresh.unlink(missing_ok=True)


def _sync_folder(folder: Path) -> None:
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def _clear_parts(target: Path) -> None:
    """Take away what processes that are no more left half written of this file."""
    for part in _parts_of(target):
        owner = part.name.removesuffix(PART).rpartition(".")[2]
        if not owner.isdigit() or not _alive(int(owner)):
            with contextlib.suppress(OSError):
                part.unlink()


def _parts_of(target: Path) -> Iterator[Path]:
    beginning = f".{target.name}."
    with os.scandir(target.parent) as entries:
        for entry in entries:
            if entry.name.startswith(beginning) and entry.name.endswith(PART):
                yield Path(entry.path)


def _alive(process: int) -> bool:
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except (OSError, OverflowError):
        return True
    return True


def fingerprint(data: bytes) -> str:
    """By which it is told whether a file is still the one that was read."""
    return hashlib.sha256(data).hexdigest()


def _because(reason: Exception) -> str:
    """Why the system refuses, in its own words."""
    if isinstance(reason, OSError):
        return reason.strerror or str(reason)
    return quoted(str(reason))
