"""Loading and saving folios. A file that cannot be trusted is left untouched, one that somebody else has changed is not
written over without a word."""

from __future__ import annotations

import json
from dataclasses import asdict, replace
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

from wisecompass.arithmetic.expression import quoted
from wisecompass.catalogue import index, problem
from wisecompass.drafting.errors import BadDocument, WiseCompassError
from wisecompass.drafting.letters import read_letters
from wisecompass.folio import files
from wisecompass.folio.document import (
    FORMAT,
    MOST_FIGURES,
    MOST_LOGGED,
    MOST_SHEETS,
    READS,
    TITLE_FIELDS,
    VERSION,
    Figure,
    Folio,
    LogEntry,
    Settings,
    Sheet,
)
from wisecompass.folio.register import apart, with_names
from wisecompass.folio.scales import read_scale

if TYPE_CHECKING:
    from pydantic import TypeAdapter

LARGEST_FILE = 16 * 1024 * 1024
"""Bytes; a folio of a thousand figures is under one megabyte."""

SUFFIX = ".folio.json"
SAMPLE = Path(__file__).parent / "bramlow-mill.folio.json"


class ChangedMeanwhile(BadDocument):
    """Somebody else has written the file since it was read."""


@cache
def _adapter() -> TypeAdapter[Folio]:
    from pydantic import TypeAdapter

    return TypeAdapter(Folio)


def load(path: Path) -> Folio:
    """Read and check a folio.

    Raises:
        BadDocument: missing, unreadable, too large, broken, or from a newer version; the file is left as it is.
    """
    return load_with_print(path)[0]


def load_with_print(path: Path) -> tuple[Folio, str]:
    """The same with the fingerprint of the file, by which a later change by somebody else is told."""
    data = files.read_bytes(path, LARGEST_FILE, "a folio")
    name = quoted(path.name)
    return checked(files.parse_json(files.text_of(data, path), name), name), files.fingerprint(data)


def checked(data: Any, name: str) -> Folio:
    """The folio that JSON of a file holds, an older version taken over.

    Raises:
        BadDocument: it is no folio, or one of its figures cannot be.
    """
    folio = _validated(data, name)
    if not folio.sheets:
        raise BadDocument(f"{name} has no sheet")
    if len(folio.sheets) > MOST_SHEETS or any(len(sheet.figures) > MOST_FIGURES for sheet in folio.sheets):
        raise BadDocument(f"{name}: at most {MOST_SHEETS} sheets of {MOST_FIGURES} figures are read")
    for s, sheet in enumerate(folio.sheets, 1):
        for f, figure in enumerate(sheet.figures, 1):
            try:
                _require_known(figure)
                read_scale(figure.scale)
                read_letters(figure.letters)
            except WiseCompassError as reason:
                raise BadDocument(f"{name}: sheet {s}, figure {f}: {reason}") from None
    return with_names(folio)


def _require_known(figure: Figure) -> None:
    """Raise for a method or a given that its problem has not. What its numbers are worth is said when it is drawn; a problem
    that is not known here is kept as it is.

    Raises:
        Unknown: see there.
    """
    entry = index.entries().get(figure.problem)
    if entry is None:
        return
    if figure.method not in entry["methods"] or not figure.givens.keys() <= entry["givens"].keys():
        found = problem(figure.problem)
        found.method(figure.method)
        found.read(figure.givens)


def _validated(data: Any, name: str) -> Folio:
    from pydantic import ValidationError

    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise BadDocument(f"{name} is not a folio: its “format” is not “{FORMAT}”")
    version = data.get("version")
    if isinstance(version, int) and version > VERSION:
        raise BadDocument(
            f"{name} was written by a newer Wise Compass (version {quoted(version)}; this one reads version {VERSION})"
        )
    older = version in READS and not isinstance(version, bool) and version != VERSION
    if older:
        data = {**data, "version": VERSION}
    try:
        folio = _tidied(_adapter().validate_python(data))
        return apart(folio) if older else folio
    except ValidationError as problem_found:
        first = problem_found.errors()[0]
        place = ", ".join(f"item {part + 1}" if isinstance(part, int) else quoted(part) for part in first["loc"])
        raise BadDocument(f"{name}: {place or 'the whole'}: {first['msg'].lower()}") from None


def _tidied(folio: Folio) -> Folio:
    """Names fit to be shown on one line: what does not print is taken for a space."""
    sheets = tuple(
        replace(
            sheet,
            name=_printable(sheet.name),
            number=_printable(sheet.number),
            revision=_printable(sheet.revision),
            figures=tuple(replace(figure, name=_printable(figure.name)) for figure in sheet.figures),
        )
        for sheet in folio.sheets
    )
    titles: dict[str, Any] = {field: _printable(getattr(folio, field)) for field in TITLE_FIELDS}
    log = tuple(LogEntry(_printable(entry.when), _printable(entry.what)) for entry in folio.logbook[-MOST_LOGGED:])
    return replace(folio, sheets=sheets, logbook=log, **titles)


def _printable(text: str) -> str:
    return " ".join("".join(c if c.isprintable() else " " for c in text).split())


def dumps(folio: Folio) -> str:
    """The folio as the text of its file."""
    return json.dumps(asdict(folio), indent=1, ensure_ascii=False) + "\n"


def save(folio: Folio, path: Path, known: str | None = None) -> str:
    """Write a folio; the file that was there becomes ``NAME.backup``. Returns the fingerprint of what was written.

    ``known`` is the fingerprint of the file as it was last seen. None: whatever is there is written over.

    Raises:
        ChangedMeanwhile: the file is another than the one that is known.
        BadDocument: the place cannot be written; whatever was there is still there.
    """
    if known is not None and path.is_file() and files.fingerprint(files.read_bytes(path, LARGEST_FILE, "a folio")) != known:
        raise ChangedMeanwhile(f"{quoted(path.name)} was changed by somebody else since it was opened")
    data = dumps(folio).encode("utf-8", errors="replace")
    files.write(path, data, backup=True)
    return files.fingerprint(data)


def with_suffix(path: Path) -> Path:
    """The path with the ending of a folio, if it has none of its own."""
    return path if path.name.endswith(".json") else path.with_name(path.name + SUFFIX)


def empty(work: str = "", settings: Settings | None = None, paper: Sheet | None = None) -> Folio:
    """A new folio of one empty sheet; schools and paper as in the one before."""
    like = paper or Sheet("", "", ())
    return Folio(work, (Sheet("Sheet 1", "1", (), like.paper, like.landscape),), settings or Settings())


def sample() -> Folio:
    """The sample folio. It ships with the program and is tested, so it is built without the cost of checking."""
    data = json.loads(SAMPLE.read_text(encoding="utf-8"))
    sheets = tuple(
        Sheet(**{**sheet, "figures": tuple(Figure(**figure) for figure in sheet["figures"])}) for sheet in data["sheets"]
    )
    plain = Settings()
    conventions = replace(plain, **{name: type(getattr(plain, name))(value) for name, value in data["conventions"].items()})
    log = tuple(LogEntry(**entry) for entry in data["logbook"])
    return Folio(sheets=sheets, conventions=conventions, logbook=log, **{name: data[name] for name in TITLE_FIELDS})


def schema() -> dict[str, Any]:
    """JSON Schema of the folio."""
    return _adapter().json_schema()
