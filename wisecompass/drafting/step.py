"""Steps, findings, checks and cautions: what a construction leaves behind besides its marks."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum

from wisecompass.arithmetic import Number


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
    """One thing the drafter does. ``words`` fill the sentence of its ``verb`` (see ``wording``).

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
    words: dict[str, str] = field(default_factory=dict)
    why: str = ""
    base_angle: float = 0.0
    crossings: list[tuple[str, str, str]] = field(default_factory=list)
    """(point, first, second): where two named lines or arcs cross, marked within this step."""
    cautions: list[str] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Check:
    """An identity that must hold; ``residual`` is zero when it does."""

    text: str
    residual: Number
    unit: str = "mm"
