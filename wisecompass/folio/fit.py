"""Whether a figure fits its paper, and at which scale or on which paper it does."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.solve import Drawing
from wisecompass.folio.document import Folio
from wisecompass.folio.layout import arrange, block_extents
from wisecompass.folio.page import Cell, Page, room_of
from wisecompass.folio.paper import EDGE, FILING_EDGE, Paper
from wisecompass.folio.print import Plan, Tried, planned, tried
from wisecompass.folio.register import Place
from wisecompass.folio.scales import read_scale, scale_text
from wisecompass.folio.sheet_plan import MOST_PLANNED
from wisecompass.folio.title_block import Title

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


def advice_beside_others(folio: Folio, place: Place) -> str:
    """The same for a figure that shares its sheet: which paper takes all of them as wanted, which of them had better have a
    sheet of its own, and where it lies over another."""
    s, f = place
    sheet = folio.sheets[s]
    if len(sheet.figures) > MOST_PLANNED:
        return f"{len(sheet.figures)} figures stand on this sheet in parts of one size; fewer of them have more room."
    figures = [tried(folio, figure) for figure in sheet.figures]
    plan, said = planned(folio, s, figures), []
    asked = read_scale(sheet.figures[f].scale)
    wanted = asked or Fraction(1)
    if isinstance(figures[f], Drawing) and not _as_wanted(plan, f, wanted):
        papers = (Paper(name, sheet.landscape) for name in ROLLS)
        larger = (paper for paper in papers if paper.width > sheet.as_paper().width)
        offer = next((paper.size for paper in larger if _as_wanted(planned(folio, s, figures, paper), f, wanted)), None)
        takes = (
            f"{offer} takes it at {scale_text(wanted)}" if offer else f"no paper up to A0 takes it at {scale_text(wanted)}"
        )
        head = f"At {scale_text(plan.scales[f])} " + ("it runs over its part of" if asked else "beside the others on")
        most = max(range(len(figures)), key=lambda n: _area(figures[n]))
        said.append(
            f"{head} {sheet.paper}; {takes}. “{sheet.figures[most].name}” takes most room and could move to another sheet."
        )
    over = [other.name for n, other in enumerate(sheet.figures) if n != f and _overlap(plan.cells[f], plan.cells[n])]
    if over:
        said.append(f"Its part of the sheet lies over that of “{over[0]}”.")
    return " ".join(said)


def _as_wanted(plan: Plan, f: int, wanted: Fraction) -> bool:
    """Whether a figure has room for the scale that is wanted of it."""
    return plan.fit and plan.fitting[f] >= wanted


def _area(figure: Tried) -> float:
    """How much room a figure takes at full size, mm²."""
    if not isinstance(figure, Drawing):
        return 0.0
    boxes = [extent.at(1.0, 1.0) for extent in block_extents(figure.marks, figure.rotations).values()]
    return sum((box[2] - box[0]) * (box[3] - box[1]) for box in boxes)


def _overlap(one: Cell | None, other: Cell | None) -> bool:
    if one is None or other is None:
        return False
    a, b = one.box, other.box
    if a == b and (one.silent or other.silent):
        return False  # one goes on with the other's drawing
    return min(a[2], b[2]) - max(a[0], b[0]) > OVER and min(a[3], b[3]) - max(a[1], b[1]) > OVER


OVER = 0.5
"""So far parts may reach into each other without a word, mm."""


def beginnings(drawing: Drawing, page: Page) -> list[str]:
    """Where each block begins on the paper, from the frame's left and lower border: by the letter of its first point."""
    found: dict[str, marks.Dot] = {}
    for mark in page.marks:
        first = found.get(mark.block)
        if isinstance(mark, marks.Dot) and mark.shown and mark.name and (first is None or mark.step < first.step):
            found[mark.block] = mark
    many = len(drawing.rotations) > 1 or len(found) > 1
    return [
        f"{_block_words(block) if many else ''}{dot.name} lies {dot.x - FILING_EDGE:.0f} from the left border, "
        f"{dot.y - EDGE:.0f} from the lower"
        for block, dot in found.items()
    ]


def _block_words(block: str) -> str:
    return f"{block}: " if block else ""
