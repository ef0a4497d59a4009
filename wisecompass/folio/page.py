"""A page: one list of marks in mm of paper, from which screen, SVG and PDF are all drawn."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Conventions, LineNames
from wisecompass.drafting.letters import renamed
from wisecompass.drafting.marks import (
    AngleDimension,
    Area,
    Box,
    Letter,
    LinearDimension,
    Mark,
    Placement,
    RadiusDimension,
    bounds,
    placed,
)
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import Drawing
from wisecompass.drafting.wording import number_text
from wisecompass.folio import labels, line_names
from wisecompass.folio.cells import Cells
from wisecompass.folio.dimensions import expanded, free_share, interruptions, stacked
from wisecompass.folio.layout import Arrangement, arrange
from wisecompass.folio.paper import CENTRING, EDGE, FILING_EDGE, Paper
from wisecompass.folio.scales import SCALES, scale_text
from wisecompass.folio.title_block import Title, furnished
from wisecompass.folio.written import (
    BRIEF_HEIGHT,
    CAPTION_HEIGHT,
    HEADING_HEIGHT,
    LINE,
    NAME_HEIGHT,
    SMALL_HEIGHT,
    text,
    wrapped,
)

EASE = 1.0
"""Between a figure and the edge of its part of the sheet, mm on A4."""


@dataclass(frozen=True)
class Caption:
    """What stands beside a figure that shares its sheet: its name and its brief."""

    name: str
    said: str

    def lines(self, width: float, size: float) -> list[str]:
        """The brief in lines that are so wide."""
        return wrapped(self.said, width - 4 * size, CAPTION_HEIGHT * size)


@dataclass(frozen=True)
class Cell:
    """The part of a sheet that a figure has. ``heading`` is the sheet's name where several figures stand on it, ``notes``
    what is to be minded with them, ``scales`` what the title block says; the figure ``alone`` has the sheet's own brief."""

    box: Box
    caption: Caption
    alone: bool = False
    heading: str = ""
    notes: tuple[str, ...] = ()
    scales: str = ""
    tells_scale: bool = False
    scale: Fraction | None = None
    """The scale that all figures of the sheet have together."""
    silent: bool = False
    """Whether its brief stands with that of the figure that goes on with it."""


def caption_height(caption: Caption, width: float, size: float) -> float:
    """The height of a caption of a width, mm."""
    return (2.0 + (NAME_HEIGHT + len(caption.lines(width, size)) * CAPTION_HEIGHT) * LINE) * size


@dataclass(frozen=True)
class Lettering:
    """Where letters, texts of dimensions (shares along their lines) and names of lines stand, and what is interrupted."""

    places: labels.Places
    slid: tuple[float, ...]
    named: line_names.Where
    gaps: tuple[Mark, ...] = ()


NO_LETTERING = Lettering({}, (), {})


@dataclass(frozen=True)
class Page:
    """``marks`` of the figure, ``furniture`` (border, title, notes) and the ``brief``, in mm of paper with y upwards.

    ``tints`` show what a step works on; they are never printed, and are placed when their step is shown.
    """

    width: float
    height: float
    marks: list[Mark]
    furniture: tuple[Mark, ...]
    brief: list[Mark]
    tints: list[Area]
    scale: Fraction
    placements: dict[str, Placement]
    lettering: Lettering
    dimensions: tuple[Mark, ...] = ()
    """The dimensions as they lie on paper, for those who can draw them as such; ``pieces`` are where among the marks their
    lines and texts are."""
    pieces: range = range(0)
    cell: Cell | None = None
    """The part of the sheet that the figure has, where it is not the whole."""
    contents: tuple[tuple[str, Box], ...] = ()
    """Of a sheet with several figures: their names and where they are."""
    window: Box | None = None
    """Where the page is a part of a larger drawing: the part of the paper in which that shows."""
    stretch: tuple[float, float] = (1.0, 1.0)
    """By how much the page is printed wider and higher, for a printer that prints short."""

    def tints_of(self, step: int) -> list[Mark]:
        """The tinted pieces of one step, on paper."""
        return [placed(tint, self.placements[tint.block]) for tint in self.tints if tint.step == step]


def compose(
    drawing: Drawing,
    paper: Paper,
    title: Title,
    conventions: Conventions,
    scale: Fraction | None = None,
    kept: Page | None = None,
    hold: bool = False,
    scales: Sequence[Fraction] = SCALES,
    lettering: Lettering | None = None,
    cell: Cell | None = None,
    shifts: Mapping[str, tuple[float, float]] | None = None,
    anew: bool = False,
) -> Page:
    """Lay a drawing out on paper with its border, title strip, brief and notes; in its ``cell`` with its caption, where it
    shares the sheet with others. Blocks are ``shifts`` mm of paper away from where they would lie.

    Lettering, margins and border grow with the sheet, so that a large one reads like A4. Letters stand to their points
    as on the page ``kept``, and points that it has not wait for theirs; without it, or where ``anew`` is asked for, all
    places are found anew, unless the ``lettering`` of this very drawing is at hand. To ``hold`` is to leave the figure
    where it lies on that page, even if it runs over. Without a fixed ``scale`` the figure takes the largest of ``scales``
    at which it fits.
    """
    size = paper.lettering
    room, brief, notes = room_of(drawing, paper, conventions, title, cell)
    blocks = {mark.block for mark in drawing.marks}
    if hold and kept is not None and blocks <= kept.placements.keys():
        laid = Arrangement(kept.scale, kept.placements)
    else:
        laid = arrange(drawing.marks, drawing.rotations, room, scale, size, scales)
        if shifts:
            laid = _shifted(laid, shifts)
    tints = [mark for mark in drawing.marks if isinstance(mark, Area)]
    on_paper = stacked(
        [placed(mark, laid.placements[mark.block]) for mark in drawing.marks if not isinstance(mark, Area)], size
    )
    dimensions = [mark for mark in on_paper if isinstance(mark, LinearDimension)]
    others = [mark for mark in on_paper if isinstance(mark, RadiusDimension | AngleDimension)]
    apart = LinearDimension | RadiusDimension | AngleDimension | Letter
    figure = [piece for mark in on_paper if not isinstance(mark, apart) for piece in expanded(mark, size)]
    bare = len(figure)
    figure += [piece for mark in others for piece in expanded(mark, size)]
    dots = labels.to_letter(on_paper, size)
    if lettering is None and kept is not None and kept.width == paper.width and not anew:
        lettering = replace(kept.lettering, gaps=())
    if lettering is not None:
        slid = lettering.slid if len(lettering.slid) == len(dimensions) else [mark.text_at for mark in dimensions]
        slid_to = _slid_to(dimensions, slid)
        figure += _dimensioned(slid_to, size)
    else:
        lines = Cells([*figure, *(piece for mark in dimensions for piece in expanded(mark, size))], size)
        slid = [free_share(mark, lines, dots, size) for mark in dimensions]
        slid_to = _slid_to(dimensions, slid)
        figure += _dimensioned(slid_to, size)
        gaps = interruptions(figure[bare:], lines, size)
        wanted = line_names.spoken_of_later(drawing.steps) if conventions.line_names is LineNames.SHEET else set()
        wanted |= {mark.name for mark in drawing.marks if mark.pen is Pen.FOLD and "°" in mark.name}  # how far it is bent
        places, named, lines = line_names.lettered_and_named(figure, dots, wanted, lines, room, size)
        gaps += interruptions(line_names.written(figure, named, size), lines, size)
        lettering = Lettering(places, tuple(slid), named, tuple(gaps))
    pieces = range(bare, len(figure))
    figure += labels.lettered_at(dots, lettering.places, size)
    names = line_names.written(figure, lettering.named, size)
    figure += [*lettering.gaps, *names]
    if conventions.letters:
        figure = [_called(mark, conventions) for mark in figure]
    if cell is None or cell.alone:
        furniture, told = furnished(paper, title, conventions, scale_text(laid.scale), tuple(notes)), _written(paper, brief)
    else:
        furniture = furnished(paper, title, conventions, cell.scales, cell.notes, cell.heading)
        told = captioned(cell, size, laid.scale)
    return Page(
        paper.width,
        paper.height,
        figure,
        furniture,
        told,
        tints,
        laid.scale,
        laid.placements,
        lettering,
        (*slid_to, *others),
        pieces,
        cell,
    )


def _called(mark: Mark, conventions: Conventions) -> Mark:
    """Lettering with letters of one's own; what it letters keeps its name."""
    return replace(mark, text=renamed(conventions.letters, mark.text)) if isinstance(mark, marks.Text) else mark


def together(pages: Sequence[Page]) -> Page:
    """The pages of the figures of one sheet as one, under the furniture of the first."""
    if len(pages) == 1:
        return pages[0]
    lines = [mark for page in pages for n, mark in enumerate(page.marks) if n not in page.pieces]
    pieces = [page.marks[n] for page in pages for n in page.pieces]
    return replace(
        pages[0],
        marks=[*lines, *pieces],
        brief=[mark for page in pages for mark in page.brief],
        dimensions=tuple(mark for page in pages for mark in page.dimensions),
        pieces=range(len(lines), len(lines) + len(pieces)),
        contents=tuple((page.cell.caption.name, page.cell.box) for page in pages if page.cell is not None),
    )


def _shifted(laid: Arrangement, shifts: Mapping[str, tuple[float, float]]) -> Arrangement:
    """The arrangement with blocks moved by themselves."""
    moved = {
        block: replace(at, dx=at.dx + shifts[block][0], dy=at.dy + shifts[block][1]) if block in shifts else at
        for block, at in laid.placements.items()
    }
    return Arrangement(laid.scale, moved)


def captioned(cell: Cell, size: float, scale: Fraction | None = None) -> list[Mark]:
    """The caption at the head of a figure's part of the sheet."""
    if cell.silent:
        return []
    left, _, right, high = cell.box
    told = f"{cell.caption.name}   {scale_text(scale)}" if cell.tells_scale and scale is not None else cell.caption.name
    level = high - (1.0 + NAME_HEIGHT) * size
    written = [text(left + 2 * size, level, told, NAME_HEIGHT * size)]
    for line in cell.caption.lines(right - left, size):
        level -= CAPTION_HEIGHT * LINE * size
        written.append(text(left + 2 * size, level, line, CAPTION_HEIGHT * size))
    return written


def _slid_to(dimensions: Sequence[LinearDimension], slid: Sequence[float]) -> list[LinearDimension]:
    """Linear dimensions with their texts at shares of their lines."""
    return [replace(mark, text_at=share) for mark, share in zip(dimensions, slid, strict=True)]


def _dimensioned(dimensions: Sequence[LinearDimension], size: float) -> list[Mark]:
    """The lines and texts of linear dimensions."""
    return [piece for mark in dimensions for piece in expanded(mark, size)]


def blank(paper: Paper, title: Title, conventions: Conventions) -> Page:
    """Empty paper with its border and title block."""
    furniture = furnished(paper, title, conventions, "", ())
    return Page(paper.width, paper.height, [], furniture, [], [], Fraction(1), {}, NO_LETTERING)


def said_of(drawing: Drawing, conventions: Conventions) -> str:
    """The brief and what is reckoned beforehand, in the words of the folio's school."""
    said = [drawing.problem.spoken(drawing.typed), drawing.problem.reckoned(drawing.typed)]
    if conventions.turn:
        angle = f"{number_text(abs(conventions.turn))}° {'anti' if conventions.turn > 0 else ''}clockwise"
        said.append(f"Drawn with the paper turned: what the steps call level lies {angle} of level here.")
    return conventions.worded(" ".join(filter(None, said)))


def told_anew(cell: Cell | None, before: Drawing, now: Drawing, conventions: Conventions) -> Cell | None:
    """The part of a sheet that a figure has, its caption saying what the figure is now and no more what it was before."""
    if cell is None:
        return None
    said = cell.caption.said.replace(said_of(before, conventions), said_of(now, conventions))
    return replace(cell, caption=replace(cell.caption, said=said))


def room_of(
    drawing: Drawing, paper: Paper, conventions: Conventions, title: Title, cell: Cell | None = None
) -> tuple[Box, list[str], list[str]]:
    """The room for the figure between brief and title block, or below its caption in its cell; the lines of the brief, and
    the notes."""
    size = paper.lettering
    left, low, right, high = paper.frame
    if cell is not None and not cell.alone:
        a, b, c, d = cell.box
        ease = EASE * size
        return (a + ease, b + ease, c - ease, d - caption_height(cell.caption, c - a, size)), [], list(cell.notes)
    brief = wrapped(said_of(drawing, conventions), right - left - 10 * size, BRIEF_HEIGHT * size)
    notes = [conventions.worded(note) for note in drawing.problem.cautions]
    top = high - CENTRING - (3 + len(brief) * BRIEF_HEIGHT * LINE) * size
    low += (title.height + 2 + len(notes) * SMALL_HEIGHT * LINE) * size
    return cell.box if cell is not None else (left + size, low, right - size, top), brief, notes


def shared_room(paper: Paper, title: Title, notes: int) -> Box:
    """The room for several figures between the sheet's name and so many notes over its title block."""
    size = paper.lettering
    left, low, right, high = paper.frame
    top = high - CENTRING - (2 + HEADING_HEIGHT) * size
    return left + size, low + (title.height + 2 + notes * SMALL_HEIGHT * LINE) * size, right - size, top


def _written(paper: Paper, brief: list[str]) -> list[Mark]:
    """The brief at the top of the sheet."""
    size = paper.lettering
    x, top = paper.frame[0] + 5 * size, paper.frame[3] - CENTRING - 4.5 * size
    height = BRIEF_HEIGHT * size
    return [text(x, top - index * height * LINE, line, height) for index, line in enumerate(brief)]


def final(page: Page) -> list[Mark]:
    """All that is printed, in the order in which it is laid down: what is lined in lies over the construction, and
    lettering over all."""
    return [*page.furniture, *drawn_over(page)]


def drawn_over(page: Page) -> list[Mark]:
    """What of a page shows only in its window, where it has one."""
    return [*page.brief, *layered(page.marks)]


OVER = {Pen.GRID: 0, Pen.PROJECTOR: 1, Pen.CONSTRUCTION: 1, Pen.OUTLINE: 3, Pen.CUT: 3, Pen.LETTERING: 4}
"""Pens that lie under or over the others, which have 2."""

KINDS_OVER = {marks.Gap: 3.4, marks.Dot: 3.6}
"""White under values lies over all lines, and points over that."""


def layered(page: Sequence[Mark]) -> list[Mark]:
    """Marks in the order in which they are laid down."""
    return sorted(page, key=lambda mark: KINDS_OVER.get(type(mark)) or OVER.get(mark.pen, 2))


def overflow(page: Page) -> str:
    """A sentence where the figure runs over the frame of its page; else nothing."""
    drawn = [mark for mark in page.marks if not isinstance(mark, marks.Text)]
    if not drawn:
        return ""
    left, low, right, high = bounds(drawn)
    if left >= FILING_EDGE and low >= EDGE and right <= page.width - EDGE and high <= page.height - EDGE:
        return ""
    size = f"{right - left:.0f} × {high - low:.0f} mm"
    room = f"{page.width - FILING_EDGE - EDGE:.0f} × {page.height - 2 * EDGE:.0f} mm"
    return f"at {scale_text(page.scale)} the figure runs over the frame: it takes {size}, and the paper has {room}"
