"""Whether a figure fits its paper, and at which scale or on which paper it does."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.solve import Drawing
from wisecompass.folio.layout import arrange
from wisecompass.folio.page import Title, room_of
from wisecompass.folio.paper import Paper
from wisecompass.folio.scales import scale_text

ROLLS = ("A4", "A3", "A2", "A1", "A0")
"""Papers that are offered, the smallest first."""


def advice(drawing: Drawing, paper: Paper, conventions: Conventions, scale: Fraction | None) -> str:
    """One sentence where the figure is not drawn at full size or larger on its paper, or runs off it; else nothing."""
    fitting = _largest(drawing, paper, conventions)
    wanted = scale or Fraction(1)
    if fitting >= wanted:
        return ""
    bigger = next((name for name in ROLLS if _serves(drawing, paper, name, conventions, wanted)), None)
    offer = f"{bigger} takes it at {scale_text(wanted)}" if bigger else f"no paper up to A0 takes it at {scale_text(wanted)}"
    if scale is not None:
        return f"At {scale_text(scale)} the figure runs off {paper.size}: it fits at {scale_text(fitting)}, and {offer}."
    return f"At {scale_text(fitting)} to fit {paper.size}; {offer}."


def _largest(drawing: Drawing, paper: Paper, conventions: Conventions) -> Fraction:
    room = room_of(drawing, paper, conventions, Title(owner="·"))[0]  # a title block as high as any
    return arrange(drawing.marks, drawing.rotations, room, None, paper.lettering).scale


def _serves(drawing: Drawing, paper: Paper, name: str, conventions: Conventions, wanted: Fraction) -> bool:
    larger = replace(paper, size=name)
    return larger.width > paper.width and _largest(drawing, larger, conventions) >= wanted
