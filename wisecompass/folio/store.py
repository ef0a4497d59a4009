"""Loading and saving folios. Saving is atomic and keeps one backup; a file that cannot be trusted is left untouched."""

from __future__ import annotations

import json
import os
from dataclasses import asdict, replace
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

from wisecompass.catalogue import problem
from wisecompass.drafting.errors import BadDocument, WiseCompassError
from wisecompass.folio.document import FORMAT, VERSION, Figure, Folio, LogEntry, Settings, Sheet

if TYPE_CHECKING:
    from pydantic import TypeAdapter

LARGEST_FILE = 16 * 1024 * 1024
"""Bytes; a folio of a thousand figures is under one megabyte."""

SUFFIX = ".folio.json"
SAMPLE = Path(__file__).parent / "bramlow-mill.folio.json"


@cache
def _adapter() -> TypeAdapter[Folio]:
    from pydantic import TypeAdapter

    return TypeAdapter(Folio)


def load(path: Path) -> Folio:
    """Read and check a folio.

    Raises:
        BadDocument: missing, unreadable, too large, broken, or from a newer version; the file is left as it is.
    """
    folio = _check(path, _read_json(path))
    for s, sheet in enumerate(folio.sheets, 1):
        for f, figure in enumerate(sheet.figures, 1):
            try:
                found = problem(figure.problem)
                found.method(figure.method)
                found.read(figure.givens, folio.conventions.units.value)
            except WiseCompassError as reason:
                raise BadDocument(f"{path.name}: sheet {s}, figure {f}: {reason}") from None
    return folio


def _read_json(path: Path) -> Any:
    try:
        size = path.stat().st_size
        if size > LARGEST_FILE:
            raise BadDocument(
                f"{path.name} has {size / 1e6:.0f} MB; a folio may have {LARGEST_FILE / 1e6:.0f} MB at the most"
            )
        text = path.read_text(encoding="utf-8")
    except OSError as reason:
        raise BadDocument(f"{path} cannot be read: {reason.strerror}") from None
    except UnicodeDecodeError as reason:
        raise BadDocument(f"{path.name} is not UTF-8 text: byte {reason.start} does not fit") from None
    try:
        return json.loads(text)
    except json.JSONDecodeError as reason:
        raise BadDocument(f"{path.name}, line {reason.lineno}, column {reason.colno}: {reason.msg.lower()}") from None
    except RecursionError:
        raise BadDocument(f"{path.name} is nested too deeply to be a folio") from None


def _check(path: Path, data: Any) -> Folio:
    from pydantic import ValidationError

    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise BadDocument(f"{path.name} is not a folio: its “format” is not “{FORMAT}”")
    version = data.get("version")
    if isinstance(version, int) and version > VERSION:
        raise BadDocument(
            f"{path.name} was written by a newer Wise Compass (version {version}; this one reads version {VERSION})"
        )
    try:
        return _adapter().validate_python(data)
    except ValidationError as problem_found:
        first = problem_found.errors()[0]
        place = ", ".join(f"item {part + 1}" if isinstance(part, int) else str(part) for part in first["loc"])
        raise BadDocument(f"{path.name}: {place or 'the whole'}: {first['msg'].lower()}") from None


def dumps(folio: Folio) -> str:
    """The folio as the text of its file."""
    return json.dumps(asdict(folio), indent=1, ensure_ascii=False) + "\n"


def save(folio: Folio, path: Path) -> None:
    """Write a folio: temporary file, fsync, rename; the file that was there becomes ``NAME.backup``.

    Raises:
        BadDocument: the place cannot be written; whatever was there is still there.
    """
    import tempfile

    temporary: Path | None = None
    try:
        with tempfile.NamedTemporaryFile(
            "w", encoding="utf-8", dir=path.parent, prefix=f".{path.name}.", delete=False
        ) as handle:
            temporary = Path(handle.name)
            handle.write(dumps(folio))
            handle.flush()
            os.fsync(handle.fileno())
        temporary.chmod(path.stat().st_mode if path.exists() else 0o666 & ~_umask())
        if path.exists():
            backup = path.with_name(f"{path.name}.backup")
            backup.unlink(missing_ok=True)
            os.link(path, backup)
        os.replace(temporary, path)
    except OSError as reason:
        if temporary is not None:
            temporary.unlink(missing_ok=True)
        raise BadDocument(f"{path} cannot be written: {reason.strerror}; what was there is untouched") from None


def _umask() -> int:
    """The mask for new files; it can only be read by setting it."""
    mask = os.umask(0o022)
    os.umask(mask)
    return mask


def sample() -> Folio:
    """The sample folio. It ships with the program and is tested, so it is built without the cost of checking."""
    data = json.loads(SAMPLE.read_text(encoding="utf-8"))
    sheets = tuple(
        Sheet(**{**sheet, "figures": tuple(Figure(**figure) for figure in sheet["figures"])}) for sheet in data["sheets"]
    )
    plain = Settings()
    conventions = replace(plain, **{name: type(getattr(plain, name))(value) for name, value in data["conventions"].items()})
    log = tuple(LogEntry(**entry) for entry in data["logbook"])
    return Folio(data["work"], sheets, conventions, log)


def schema() -> dict[str, Any]:
    """JSON Schema of the folio."""
    return _adapter().json_schema()
