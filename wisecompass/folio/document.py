"""The folio as a document: plain data classes, checked by pydantic when they come from a file."""

from __future__ import annotations

from dataclasses import dataclass, field, fields
from typing import ClassVar, Literal, TypeAlias

from wisecompass.drafting.conventions import (
    Beginning,
    Conventions,
    Counting,
    Naming,
    Numbering,
    Projection,
    Units,
    Vocabulary,
)
from wisecompass.folio.paper import Paper

FORMAT: Literal["wise-compass folio"] = "wise-compass folio"
VERSION: Literal[1] = 1

Name: TypeAlias = str

PaperSize: TypeAlias = Literal["A4", "A3", "A2", "A1", "A0", "Letter"]

STRICT = {"extra": "forbid", "str_max_length": 400}
"""For pydantic: nothing unknown is dropped silently, and no text is longer than a line or two."""


@dataclass(frozen=True)
class Figure:
    """One problem as it is set: givens as typed, by name. ``scale`` is "fit" or a ratio such as "1:2"."""

    problem: Name
    method: Name
    givens: dict[Name, Name] = field(default_factory=dict)
    solution: int = 1
    scale: str = "fit"
    places: dict[Name, float] = field(default_factory=dict)
    """Auxiliary views that were dragged: how far each fold line is from the view beside it, negative on its other side."""
    __pydantic_config__: ClassVar[dict[str, object]] = STRICT


@dataclass(frozen=True)
class Sheet:
    """A named sheet; each of its figures has a page of that paper."""

    name: Name
    number: Name
    figures: tuple[Figure, ...]
    paper: PaperSize = "A4"
    landscape: bool = True
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
    __pydantic_config__: ClassVar[dict[str, object]] = STRICT

    def as_conventions(self) -> Conventions:
        return Conventions(**{field.name: getattr(self, field.name) for field in fields(self)})


@dataclass(frozen=True)
class LogEntry:
    """One line of the logbook: an ISO time and what was done."""

    when: str
    what: str
    __pydantic_config__: ClassVar[dict[str, object]] = STRICT


@dataclass(frozen=True)
class Folio:
    """A set of sheets for one piece of work."""

    work: Name
    sheets: tuple[Sheet, ...]
    conventions: Settings = field(default_factory=Settings)
    logbook: tuple[LogEntry, ...] = ()
    format: Literal["wise-compass folio"] = FORMAT
    version: Literal[1] = VERSION
    __pydantic_config__: ClassVar[dict[str, object]] = STRICT
