"""The folio as a document: plain data classes, checked by pydantic when they come from a file."""

from __future__ import annotations

from dataclasses import dataclass, field, fields
from functools import lru_cache
from typing import ClassVar, Literal, TypeAlias

from wisecompass.drafting.conventions import (
    Beginning,
    Conventions,
    Counting,
    LineNames,
    Naming,
    Numbering,
    Projection,
    Units,
    Vocabulary,
)
from wisecompass.folio.paper import Paper

FORMAT: Literal["wise-compass folio"] = "wise-compass folio"
VERSION: Literal[4] = 4

READS = (1, 2, 3, 4)
"""Versions that are read; an older one is taken over."""

Name: TypeAlias = str

PaperSize: TypeAlias = Literal["A4", "A3", "A2", "A1", "A0", "Letter"]

STRICT = {"extra": "forbid", "str_max_length": 400}
"""For pydantic: nothing unknown is dropped silently, and no text is longer than a line or two."""

MOST_SHEETS, MOST_FIGURES, MOST_LOGGED = 1_000, 200, 10_000
"""Sheets of a folio, figures of a sheet, lines of a logbook."""


@dataclass(frozen=True)
class Figure:
    """One problem as it is set: givens as typed, by name. ``scale`` is "fit" or a ratio such as "1:2"; ``name`` tells it
    from all others of the folio."""

    problem: Name
    method: Name
    givens: dict[Name, Name] = field(default_factory=dict)
    solution: int = 1
    scale: str = "fit"
    places: dict[Name, float] = field(default_factory=dict)
    """Auxiliary views that were dragged: how far each fold line is from the view beside it, negative on its other side."""
    name: Name = ""
    room: tuple[float, float, float, float] | None = None
    """Where it was dragged on its sheet: left and low from the frame, width and height, mm of paper, or as planned."""
    shifts: dict[Name, tuple[float, float]] = field(default_factory=dict)
    """Blocks that were dragged by themselves: how far to the right and up from where they are laid, mm of paper."""
    left_out: tuple[Name, ...] = ()
    """What is not wanted of the construction, such as its tangent or its traces."""
    whole_circles: bool = False
    turn: float = 0.0
    """By how many degrees the figure is turned on its sheet, anticlockwise."""
    letters: Name = ""
    """Letters of one's own, as typed: A=K, B=L."""
    goes_on: Name = ""
    """The name of the figure of its sheet on whose drawing it goes on."""
    __pydantic_config__: ClassVar[dict[str, object]] = STRICT


@dataclass(frozen=True)
class Sheet:
    """A named sheet with its figures."""

    name: Name
    number: Name
    figures: tuple[Figure, ...]
    paper: PaperSize = "A4"
    landscape: bool = True
    revision: Name = ""
    one_scale: bool = False
    """Whether all its figures that are fitted have one scale, or each its own."""
    __pydantic_config__: ClassVar[dict[str, object]] = STRICT

    def as_paper(self) -> Paper:
        return Paper(self.paper, self.landscape)


@dataclass(frozen=True)
class Settings:
    """The conventions of a folio."""

    projection: Projection = Projection.FIRST
    naming: Naming = Naming.PRIMES
    units: Units = Units.MM
    numbering: Numbering = Numbering.FROM_0
    counting: Counting = Counting.ANTICLOCKWISE
    beginning: Beginning = Beginning.RIGHT
    vocabulary: Vocabulary = Vocabulary.VIEWS
    line_names: LineNames = LineNames.SHEET
    hand: Name = "ordinary"
    """The hand that draws: steady, ordinary or rough, or what its parts stray: ``needle=0.1,compass=0.2``."""
    between_scales: bool = False
    """Whether a figure may also be drawn at 1:1.5 and 1:2.5 and their tens, which are not of ISO 5455."""
    __pydantic_config__: ClassVar[dict[str, object]] = STRICT

    def as_conventions(self) -> Conventions:
        return _conventions_of(self)


@lru_cache(maxsize=16)
def _conventions_of(settings: Settings) -> Conventions:
    own = {field.name for field in fields(Settings)}
    return Conventions(**{each.name: getattr(settings, each.name) for each in fields(Conventions) if each.name in own})


@dataclass(frozen=True)
class LogEntry:
    """One line of the logbook: an ISO time and what was done."""

    when: str
    what: str
    __pydantic_config__: ClassVar[dict[str, object]] = STRICT


@dataclass(frozen=True)
class Folio:
    """A set of sheets for one piece of work, with what its title blocks say of it (ISO 7200); empty fields are left out
    there."""

    work: Name
    sheets: tuple[Sheet, ...]
    conventions: Settings = field(default_factory=Settings)
    logbook: tuple[LogEntry, ...] = ()
    owner: Name = ""
    drawn_by: Name = ""
    checked_by: Name = ""
    date: Name = ""
    document_type: Name = ""
    readings: dict[Name, dict[Name, Name]] = field(default_factory=dict)
    """What was measured on paper, as typed: by the name of a figure, and of what was measured."""
    format: Literal["wise-compass folio"] = FORMAT
    version: Literal[4] = VERSION
    __pydantic_config__: ClassVar[dict[str, object]] = STRICT


TITLE_FIELDS = ("work", "owner", "drawn_by", "checked_by", "date", "document_type")
"""What the title blocks of a folio's sheets have in common."""
