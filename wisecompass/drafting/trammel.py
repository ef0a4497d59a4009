"""The trammel: a strip of paper with two marks, which slides with one mark on each axis while its pencil draws."""

from __future__ import annotations

from dataclasses import dataclass

from wisecompass.arithmetic import Number
from wisecompass.drafting.board import Board
from wisecompass.drafting.setting import Setting
from wisecompass.drafting.step import Instrument
from wisecompass.geometry import plane
from wisecompass.geometry.plane import Line, Point, Selector


@dataclass(frozen=True)
class Strip:
    """A marked strip: how far its marks are from the pencil, and whether the pencil lies between them."""

    name: str
    near: Number
    far: Number
    between: bool

    @property
    def apart(self) -> Number:
        """The distance of the marks from each other."""
        return self.near + self.far if self.between else self.far - self.near


def strip(b: Board, near: Setting, far: Setting, *, between: bool, why: str = "") -> Strip:
    """Mark a strip of paper with two distances from the pencil's place: to one side, or one to either side."""
    name = b.unique("strip")
    b.step("strip", Instrument.TRAMMEL, setting=near, makes=[name], why=why)
    b.note("strip", (), (name,), why=why, more={"first": near, "second": far, "between": between})
    return Strip(name, b.strayed(near, "scale"), b.strayed(far, "scale"), between)


def slide(b: Board, marked: Strip, at: Point, line: Line, which: Selector, name: str) -> Point:
    """Lay the strip with its near mark on a point and its far mark on a line, and prick off the pencil's place."""
    b.step("slide", Instrument.TRAMMEL, on=(at.name, line.name), makes=[name])
    b.note("slide", (marked.name, at, line), (name,), which=which)
    other = plane.meet(plane.Circle(at, marked.apart), line, which)
    share = marked.near / marked.apart * (1 if marked.between else -1)
    pencil = Point(at.x + (other.x - at.x) * share, at.y + (other.y - at.y) * share, name)
    laid = Line.through(other, pencil, marked.name)
    b.draft(laid, other, at, pencil, overshoot=False)
    return b.pricked(pencil)
