"""Steps, findings, checks and cautions: what a construction leaves behind besides its marks."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum

from wisecompass.arithmetic import Number
from wisecompass.drafting.record import Act, Book


class Instrument(StrEnum):
    PENCIL = "pencil"
    COMPASS = "compass"
    DIVIDERS = "dividers"
    STRAIGHTEDGE = "straightedge"
    T_SQUARE = "T-square"
    SET_SQUARE = "set square"
    PROTRACTOR = "protractor"
    SCALE = "scale"
    TRAMMEL = "trammel"
    CURVE = "French curve"
    REASON = "reckoning"


class Kind(StrEnum):
    """What a finding measures; its unit follows."""

    LENGTH = "length"
    ANGLE = "angle"
    AREA = "area"
    RATIO = "ratio"
    COUNT = "count"
    VOLUME = "volume"
    CHOICE = "choice"
    POINT = "point"
    LENGTH_PER_RADIAN = "length per radian"

    @property
    def unit(self) -> str:
        units = {"length": "mm", "point": "mm", "length per radian": "mm/rad", "angle": "°", "area": "mm²", "volume": "mm³"}
        return units.get(self.value, "")


@dataclass(slots=True)
class Step:
    """One thing the drafter does. Its sentence is composed from its acts; where it is thought rather than drawn, or leaves
    out what is not of interest, ``text`` says it (see ``sentences``).

    ``setting`` is what the instrument is set to, in ``unit`` (mm or °), or None. ``on`` names what the step stands
    on, ``makes`` what it leaves. ``base_angle`` is the direction that a protractor or set square is laid along.
    """

    n: int
    verb: str
    instrument: Instrument
    setting: Number | None = None
    unit: str = "mm"
    on: tuple[str, ...] = ()
    makes: list[str] = field(default_factory=list)
    text: str = ""
    round_length: int = 0
    """Of a step that folds rounds: how many steps each has. A step that says "likewise" leaves the first to those before."""
    solutions: tuple[int, ...] = ()
    """Of a step that leaves out how other solutions are found: which; the first is the one that is shown."""
    why: str = ""
    base_angle: float = 0.0
    crossings: list[tuple[str, str, str]] = field(default_factory=list)
    """(point, first, second): where two named lines or arcs cross, marked within this step."""
    cautions: list[str] = field(default_factory=list)
    book: Book | None = None
    """Where a whole run keeps what is done."""

    covers: tuple[int, ...] = ()
    """The numbers that this step, or those folded into it, had while the board worked."""

    @property
    def rounds(self) -> list[list[Act]]:
        """What is done, by the steps that were folded into this one; nothing but in a whole run."""
        return [] if self.book is None else [self.book.of_step(n) for n in self.covers or (self.n,)]

    @property
    def acts(self) -> list[Act]:
        """What is done, one act after the other; nothing but in a whole run."""
        return [act for acts in self.rounds for act in acts]

    @property
    def told(self) -> list[Act]:
        """The acts that are told: of rounds that are alike those of the first, of other solutions none."""
        rounds = self.rounds
        return [] if self.solutions else [act for acts in rounds[: self.round_length or len(rounds)] for act in acts]


@dataclass(frozen=True, slots=True)
class Check:
    """An identity that must hold; ``residual`` is zero when it does."""

    text: str
    residual: Number
    unit: str = "mm"
