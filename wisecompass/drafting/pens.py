"""Pens: what a line means. Width and dash pattern follow ISO 128-2 line types; colour never carries meaning alone."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Pen(StrEnum):
    """The meaning of a line, and the name of its layer in DXF."""

    OUTLINE = "outline"
    GIVEN = "given"
    CONSTRUCTION = "construction"
    PROJECTOR = "projector"
    HIDDEN = "hidden"
    CENTRE = "centre"
    LOCUS = "locus"
    CRATE = "crate"
    CUT = "cut"
    FOLD = "fold"
    DIMENSION = "dimension"
    LETTERING = "lettering"
    GRID = "grid"
    BORDER = "border"


@dataclass(frozen=True)
class Stroke:
    """How a pen draws: ``width`` in mm, ``dashes`` (mark, gap, ...) in mm on paper, ``grey`` 0 black to 1 white."""

    width: float
    dashes: tuple[float, ...] = ()
    grey: float = 0.0


STROKES: dict[Pen, Stroke] = {
    Pen.OUTLINE: Stroke(0.5),
    Pen.GIVEN: Stroke(0.35),
    Pen.CONSTRUCTION: Stroke(0.18, grey=0.42),
    Pen.PROJECTOR: Stroke(0.18, grey=0.5),
    Pen.HIDDEN: Stroke(0.25, (3.0, 1.2)),
    Pen.CENTRE: Stroke(0.18, (8.0, 1.2, 0.5, 1.2), grey=0.2),
    Pen.LOCUS: Stroke(0.18, (6.0, 1.0, 0.5, 1.0, 0.5, 1.0), grey=0.2),
    Pen.CRATE: Stroke(0.18, (5.0, 1.0, 0.5, 1.0, 0.5, 1.0), grey=0.2),
    Pen.CUT: Stroke(0.5),
    Pen.FOLD: Stroke(0.25, (7.0, 1.2, 0.5, 1.2, 0.5, 1.2)),
    Pen.DIMENSION: Stroke(0.18, grey=0.15),
    Pen.LETTERING: Stroke(0.25),
    Pen.GRID: Stroke(0.25, grey=0.5),
    Pen.BORDER: Stroke(0.7),
}
"""Widths are of the series of ISO 128: 0.5 and 0.25 for wide and narrow lines, 0.35 for what is given and 0.18 for what is
drawn lightly, the frame 0.7 (ISO 5457)."""
