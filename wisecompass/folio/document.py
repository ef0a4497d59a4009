"""The folio as a document: plain data classes, checked by pydantic when they come from a file."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Annotated, ClassVar, Literal

from annotated_types import Ge, Le, MaxLen

from wisecompass.drafting.conventions import Conventions, Naming, Projection
from wisecompass.folio.paper import Paper

FORMAT: Literal["wise-compass folio"] = "wise-compass folio"
VERSION: Literal[1] = 1

Name = Annotated[str, MaxLen(200)]


@dataclass(frozen=True)
class Figure:
    """One problem as it is set: givens as typed, by name. ``scale`` is "fit" or a ratio such as "1:2"."""

    problem: Name
    method: Name
    givens: Annotated[dict[Name, Name], MaxLen(64)] = field(default_factory=dict)
    solution: Annotated[int, Ge(1), Le(64)] = 1
    scale: Annotated[str, MaxLen(20)] = "fit"
    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}


@dataclass(frozen=True)
class Sheet:
    """A named sheet; each of its figures has a page of that paper."""

    name: Name
    number: Name
    figures: Annotated[tuple[Figure, ...], MaxLen(500)]
    paper: Literal["A4", "A3", "A2", "A1", "A0", "Letter"] = "A4"
    landscape: bool = True
    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    def as_paper(self) -> Paper:
        return Paper(self.paper, self.landscape)


@dataclass(frozen=True)
class Settings:
    """The conventions of a folio."""

    projection: Projection = Projection.FIRST
    naming: Naming = Naming.PRIMES
    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}

    def as_conventions(self) -> Conventions:
        return Conventions(self.projection, self.naming)


@dataclass(frozen=True)
class LogEntry:
    """One line of the logbook: an ISO time and what was done."""

    when: Annotated[str, MaxLen(40)]
    what: Annotated[str, MaxLen(400)]
    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}


@dataclass(frozen=True)
class Folio:
    """A set of sheets for one piece of work."""

    work: Name
    sheets: Annotated[tuple[Sheet, ...], MaxLen(500)]
    conventions: Settings = field(default_factory=Settings)
    logbook: Annotated[tuple[LogEntry, ...], MaxLen(10_000)] = ()
    format: Literal["wise-compass folio"] = FORMAT
    version: Literal[1] = VERSION
    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}
