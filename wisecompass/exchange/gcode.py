"""G-code (ISO 6983) of strokes in the dialect of a machine, pen by pen."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.pens import Pen
from wisecompass.exchange.machine import Profile
from wisecompass.exchange.strokes import Stroke, Way
from wisecompass.geometry.curves import Pair

INCH = 25.4

LONGEST_ARC = 170.0
"""An arc through more degrees is told in pieces: near a whole turn its end says little about it."""


@dataclass(frozen=True)
class Job:
    """A program line by line. ``stroke_of`` says to which stroke each line belongs, -1 for what belongs to none."""

    lines: tuple[str, ...]
    stroke_of: tuple[int, ...]
    strokes: tuple[Stroke, ...]
    profile: Profile

    @property
    def text(self) -> str:
        return "\n".join(self.lines) + "\n"


def job(strokes: Sequence[Stroke], profile: Profile, title: str = "") -> Job:
    """The program that draws strokes in their order.

    Raises:
        BadGiven: they do not lie within the reach of the machine; the sentence says by how much.
    """
    _require_reach(strokes, profile)
    lines: list[str] = []
    stroke_of: list[int] = []
    for n, line in _lines(strokes, profile, title):
        lines.append(line)
        stroke_of.append(n)
    return Job(tuple(lines), tuple(stroke_of), tuple(strokes), profile)


def _require_reach(strokes: Sequence[Stroke], profile: Profile) -> None:
    places = [place for stroke in strokes for place in stroke.points()]
    if not places:
        raise BadGiven("pens", "nothing is drawn by these pens")
    slack = 0.5e-3
    for which, k, least, most in (
        ("wide", 0, 0.0 - profile.shift_x, profile.width - profile.shift_x),
        ("high", 1, 0.0 - profile.shift_y, profile.height - profile.shift_y),
    ):
        low, high = min(p[k] for p in places), max(p[k] for p in places)
        if low < least - slack or high > most + slack:
            raise BadGiven(
                "reach",
                f"the drawing reaches from {low:.1f} to {high:.1f} mm {which}, and {profile.name} from {least:.1f} to "
                f"{most:.1f} mm: lay it on several sheets, or draw at a smaller scale",
                f"{most - least:.1f}",
            )


def _lines(strokes: Sequence[Stroke], profile: Profile, title: str) -> Iterator[tuple[int, str]]:
    says = Says(profile)
    if title:
        yield from ((-1, line) for line in says.remark(title))
    yield from ((-1, line) for line in ("G21" if profile.units == "mm" else "G20", "G90", "G17", *profile.begin))
    yield from ((-1, line) for line in says.up())
    pen: Pen | None = None
    for n, stroke in enumerate(strokes):
        if stroke.pen is not pen:
            if pen is not None:
                number = list(Pen).index(stroke.pen) + 1
                yield from ((-1, line.format(pen=stroke.pen, n=number)) for line in profile.change)
            yield from ((-1, line) for line in says.remark(f"pen {stroke.pen}"))
            pen = stroke.pen
        yield n, says.to("G0", stroke.start)
        yield from ((n, line) for line in says.down())
        says.speed = profile.speeds.get(stroke.pen, profile.draw_speed)
        yield from ((n, line) for way in stroke.ways for line in says.way(way))
        yield from ((n, line) for line in says.up())
    yield from ((-1, line) for line in profile.end)


class Says:
    """Lines of a dialect; places are told from the machine's origin in its units."""

    def __init__(self, profile: Profile) -> None:
        self.profile, self.speed, self._told = profile, profile.draw_speed, 0.0
        self._unit = 1.0 if profile.units == "mm" else INCH
        self.at: Pair = (0.0, 0.0)

    def remark(self, text: str) -> list[str]:
        plain = text.encode("ascii", "replace").decode().replace("(", "[").replace(")", "]")
        return {"( )": [f"({plain})"], ";": [f"; {plain}"], "none": []}[self.profile.remarks]

    def number(self, mm: float) -> str:
        text = f"{mm / self._unit:.{self.profile.decimals}f}"
        text = text.rstrip("0").rstrip(".") if "." in text else text
        return "0" if text == "-0" else text

    def _place(self, place: Pair) -> str:
        return f"X{self.number(place[0] + self.profile.shift_x)} Y{self.number(place[1] + self.profile.shift_y)}"

    def to(self, code: str, place: Pair) -> str:
        self.at = place
        return f"{code} {self._place(place)}"

    def up(self) -> Sequence[str]:
        self._told = 0.0
        return [f"G0 Z{self.number(self.profile.up_z)}"] if self.profile.pen == "Z" else self.profile.up

    def down(self) -> Sequence[str]:
        if self.profile.pen == "M":
            return self.profile.down
        return [f"G1 Z{self.number(self.profile.down_z)} F{self.number(self.profile.drop_speed)}"]

    def way(self, way: Way) -> Iterator[str]:
        if way.centre is None or not self.profile.arcs:
            for place in way.points(self.profile.chord):
                yield self.to("G1", place) + self._feed()
            return
        count = max(1, math.ceil(abs(way.sweep) / LONGEST_ARC))
        for k in range(count):
            piece = way.part(k / count, (k + 1) / count)
            (cx, cy), (x, y) = way.centre, self.at
            code = "G3" if way.sweep > 0 else "G2"
            yield f"{self.to(code, piece.end)} I{self.number(cx - x)} J{self.number(cy - y)}{self._feed()}"

    def _feed(self) -> str:
        if self.speed == self._told:
            return ""
        self._told = self.speed
        return f" F{self.number(self.speed)}"
