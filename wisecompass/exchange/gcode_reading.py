"""Reading G-code: what a machine would draw of it. Written from ISO 6983 alone, so that it checks what is written."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import dataclass, field

from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.errors import BadDocument
from wisecompass.drafting.pens import Pen
from wisecompass.exchange.machine import Profile
from wisecompass.exchange.strokes import Stroke, Way
from wisecompass.geometry.curves import Pair

LARGEST_PROGRAM = 64 * 1024 * 1024

_REMARK = re.compile(r"\(([^)]*)\)|;(.*)$")
_WORD = re.compile(r"([A-Z])\s*([+-]?(?:\d+\.?\d*|\.\d+))")

PASSED_OVER = {
    "G17",
    "G40",
    "G49",
    "G54",
    "G64",
    "G80",
    "G94",
    "M0",
    "M1",
    "M2",
    "M3",
    "M4",
    "M5",
    "M6",
    "M7",
    "M8",
    "M9",
    "M30",
}
"""What changes nothing about where a pen goes; M3 to M5 may be its up and down."""


class NotUnderstood(BadDocument):
    """A line that is no G-code, or more than is read here."""


@dataclass(frozen=True)
class Motion:
    """A way of the pen, on the paper or above it; ``speed`` mm a minute, 0 for as fast as it goes."""

    way: Way
    down: bool
    speed: float
    pen: Pen


@dataclass
class Reader:
    """A machine's mind: where the pen is, in which mode, and what the next line makes of it."""

    profile: Profile
    at: Pair = (0.0, 0.0)
    z: float = 0.0
    down: bool = False
    pen: Pen = Pen.OUTLINE
    ended: bool = False
    lifts: int = 0
    """How often the pen was lifted."""
    _unit: float = 1.0
    _absolute: bool = True
    _motion: str = "G0"
    _speed: float = 0.0
    _pens: dict[str, Pen] = field(default_factory=lambda: {pen.value: pen for pen in Pen})

    def __post_init__(self) -> None:
        self.z = self.profile.up_z
        self._ups, self._downs = (self._bare(self.profile.up), self._bare(self.profile.down))

    @staticmethod
    def _bare(lines: tuple[str, ...]) -> list[str]:
        return ["".join(line.split()).upper() for line in lines]

    def line(self, text: str) -> list[Motion]:
        """What a line makes the pen do.

        Raises:
            NotUnderstood: a word that is none, or one that is not read here.
        """
        for remark in _REMARK.finditer(text):
            self._told((remark[1] or remark[2] or "").strip())
        bare = _REMARK.sub("", text).strip().upper()
        if not bare or bare == "%":
            return []
        rest = _WORD.sub("", bare).strip()
        if rest:
            raise NotUnderstood(f"“{quoted(rest)}” is no word of G-code")
        if self.profile.pen == "M":
            squeezed = "".join(bare.split())
            if squeezed in self._downs or squeezed in self._ups:
                self._put(squeezed in self._downs)
                return []
        words = [(letter, float(number)) for letter, number in _WORD.findall(bare)]
        if not all(abs(number) < 1e7 for _, number in words):
            raise NotUnderstood("a number beyond ten million")
        values = {letter: number for letter, number in words if letter not in "GMN"}
        for letter, number in words:
            if letter in "GM":
                self._mode(f"{letter}{number:g}")
        if "F" in values:
            self._speed = values["F"] * self._unit
        return self._moves(values)

    def _told(self, remark: str) -> None:
        """A remark that names the pen."""
        name = remark.removeprefix("pen ").strip()
        if remark.startswith("pen ") and name in self._pens:
            self.pen = self._pens[name]

    def _mode(self, code: str) -> None:
        if code in ("G0", "G1", "G2", "G3"):
            self._motion = code
        elif code in ("G20", "G21"):
            self._unit = 25.4 if code == "G20" else 1.0
        elif code in ("G90", "G91"):
            self._absolute = code == "G90"
        elif code not in PASSED_OVER:
            raise NotUnderstood(f"{code} is not read here")
        if code in ("M2", "M30"):
            self.ended = True

    def _moves(self, values: dict[str, float]) -> list[Motion]:
        unknown = set(values) - set("XYZIJRFSTP")
        if unknown:
            raise NotUnderstood(f"the axis {min(unknown)} is not read here")
        z = self.z
        if "Z" in values:
            z = values["Z"] * self._unit + (0.0 if self._absolute else self.z)
        end = self._end(values)
        found = []
        if end != self.at or ("I" in values or "J" in values):
            way = self._way(end, values)
            speed = 0.0 if self._motion == "G0" else self._speed
            found = [Motion(way, self.down, speed, self.pen)]
            self.at = end
        if "Z" in values:
            self.z = z
            if self.profile.pen == "Z":
                self._put(abs(z - self.profile.down_z) < abs(z - self.profile.up_z))
        return found

    def _put(self, down: bool) -> None:
        self.lifts += self.down and not down
        self.down = down

    def _end(self, values: dict[str, float]) -> Pair:
        def one(letter: str, now: float, shift: float) -> float:
            if letter not in values:
                return now
            return values[letter] * self._unit + (-shift if self._absolute else now)

        x, y = self.at
        return one("X", x, self.profile.shift_x), one("Y", y, self.profile.shift_y)

    def _way(self, end: Pair, values: dict[str, float]) -> Way:
        if self._motion in ("G0", "G1"):
            return Way(self.at, end)
        x, y = self.at
        if "R" in values:
            centre = self._by_radius(end, values["R"] * self._unit)
        else:
            centre = x + values.get("I", 0.0) * self._unit, y + values.get("J", 0.0) * self._unit
        here, there = math.dist(centre, self.at), math.dist(centre, end)
        if here == 0 or abs(here - there) > max(0.01, 0.002 * here):
            raise NotUnderstood(f"an arc whose ends are {here:.3f} and {there:.3f} mm from its centre")
        first = math.degrees(math.atan2(y - centre[1], x - centre[0]))
        last = math.degrees(math.atan2(end[1] - centre[1], end[0] - centre[0]))
        sweep = (last - first) % 360 if self._motion == "G3" else -((first - last) % 360)
        if abs(sweep) < 1e-9:
            sweep = 360.0 if self._motion == "G3" else -360.0
        return Way(self.at, end, centre, sweep)

    def _by_radius(self, end: Pair, radius: float) -> Pair:
        (x, y), chord = self.at, math.dist(self.at, end)
        if not chord or chord > 2 * abs(radius) + 0.01:
            raise NotUnderstood(f"an arc of radius {abs(radius):g} mm over a chord of {chord:.3f} mm")
        high = math.sqrt(max(0.0, radius**2 - chord**2 / 4))
        side = 1.0 if (self._motion == "G3") == (radius > 0) else -1.0
        ux, uy = (end[0] - x) / chord, (end[1] - y) / chord
        return (x + end[0]) / 2 - side * high * uy, (y + end[1]) / 2 + side * high * ux


def motions(text: str, profile: Profile, name: str = "the program") -> Iterator[Motion]:
    """All motions of a program.

    Raises:
        NotUnderstood: with the line.
    """
    for _, motion in _lifted_motions(text, profile, name):
        yield motion


def _lifted_motions(text: str, profile: Profile, name: str) -> Iterator[tuple[int, Motion]]:
    """Motions, and how often the pen was lifted before each."""
    reader = Reader(profile)
    for n, line in enumerate(text.splitlines(), 1):
        lifts = reader.lifts
        try:
            for motion in reader.line(line):
                yield lifts, motion
        except NotUnderstood as reason:
            raise NotUnderstood(f"{name}, line {n}: {reason}") from None
        if reader.ended:
            return


def drawn(text: str, profile: Profile, name: str = "the program") -> tuple[list[Stroke], float]:
    """What a program draws, stroke by stroke, and how far the pen travels in the air, mm.

    Raises:
        NotUnderstood: see ``motions``.
    """
    runs: dict[tuple[int, Pen], list[Way]] = {}
    travel = 0.0
    for lifts, motion in _lifted_motions(text, profile, name):
        if motion.down:
            runs.setdefault((lifts, motion.pen), []).append(motion.way)
        else:
            travel += motion.way.length
    return [Stroke(pen, tuple(run)) for (_, pen), run in runs.items()], travel
