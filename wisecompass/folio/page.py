"""A page: one list of marks in mm of paper, from which screen, SVG and PDF are all drawn."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import lru_cache

from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Conventions, LineNames, Projection
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
from wisecompass.folio.dimensions import expanded, free_share, interruptions
from wisecompass.folio.document import Folio
from wisecompass.folio.layout import Arrangement, arrange
from wisecompass.folio.paper import CENTRING, EDGE, FIELD_ROW, FILING_EDGE, TITLE_ROW, Paper, text_width
from wisecompass.folio.register import Place
from wisecompass.folio.scales import SCALES, scale_text

TITLE_HEIGHT, SMALL_HEIGHT, BRIEF_HEIGHT = 4.0, 2.8, 3.5
"""Capitals of the title strip, of heads and notes, and of the brief on A4, mm."""

LINE = 1.7
"""Distance of lines of lettering as a share of their capitals."""

NAME_HEIGHT, CAPTION_HEIGHT, HEADING_HEIGHT = 3.2, 2.6, 4.5
"""Capitals of a figure's name, of its brief beside it, and of the sheet's name at its head, on A4, mm."""


@dataclass(frozen=True)
class Title:
    """What the title block says (ISO 7200); what is empty is left out. ``leaf`` is which sheet of how many."""

    work: str = ""
    sheet: str = ""
    number: str = ""
    leaf: str = ""
    owner: str = ""
    drawn_by: str = ""
    checked_by: str = ""
    date: str = ""
    document_type: str = ""
    revision: str = ""

    @property
    def fields(self) -> list[tuple[str, str]]:
        """The heads and texts of the second row."""
        every = (
            ("owner", self.owner),
            ("drawn by", self.drawn_by),
            ("checked by", self.checked_by),
            ("date", self.date),
            ("document", self.document_type),
            ("revision", self.revision),
        )
        return [(head, text) for head, text in every if text]

    @property
    def height(self) -> float:
        """The height of the block as on A4, mm."""
        return TITLE_ROW + (FIELD_ROW if self.fields else 0.0)


def title_of(folio: Folio, place: Place) -> Title:
    """The title block of the page at a place."""
    sheet, count = folio.sheets[place[0]], len(folio.sheets)
    return Title(
        work=folio.work,
        sheet=sheet.name,
        number=sheet.number,
        leaf=f"{place[0] + 1} / {count}" if count > 1 else "",
        owner=folio.owner,
        drawn_by=folio.drawn_by,
        checked_by=folio.checked_by,
        date=folio.date,
        document_type=folio.document_type,
        revision=sheet.revision,
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
        return _wrapped(self.said, width - 4 * size, CAPTION_HEIGHT * size)


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
) -> Page:
    """Lay a drawing out on paper with its border, title strip, brief and notes; in its ``cell`` with its caption, where it
    shares the sheet with others. Blocks are ``shifts`` mm of paper away from where they would lie.

    Lettering, margins and border grow with the sheet, so that a large one reads like A4. Letters stand to their points
    as on the page ``kept``, and points that it has not wait for theirs; without it all places are found anew, unless the
    ``lettering`` of this very drawing is at hand. To ``hold`` is to leave the figure where it lies on that page, even if
    it runs over. Without a fixed ``scale`` the figure takes the largest of ``scales`` at which it fits.
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
    on_paper = [placed(mark, laid.placements[mark.block]) for mark in drawing.marks if not isinstance(mark, Area)]
    dimensions = [mark for mark in on_paper if isinstance(mark, LinearDimension)]
    others = [mark for mark in on_paper if isinstance(mark, RadiusDimension | AngleDimension)]
    apart = LinearDimension | RadiusDimension | AngleDimension | Letter
    figure = [piece for mark in on_paper if not isinstance(mark, apart) for piece in expanded(mark, size)]
    bare = len(figure)
    figure += [piece for mark in others for piece in expanded(mark, size)]
    dots = labels.to_letter(on_paper, size)
    if lettering is None and kept is not None and kept.width == paper.width:
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
        furniture, told = _furniture(paper, title, conventions, scale_text(laid.scale), tuple(notes)), _written(paper, brief)
    else:
        furniture = _furniture(paper, title, conventions, cell.scales, cell.notes, cell.heading)
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
    written = [_text(left + 2 * size, level, told, NAME_HEIGHT * size)]
    for line in cell.caption.lines(right - left, size):
        level -= CAPTION_HEIGHT * LINE * size
        written.append(_text(left + 2 * size, level, line, CAPTION_HEIGHT * size))
    return written


def _slid_to(dimensions: Sequence[LinearDimension], slid: Sequence[float]) -> list[LinearDimension]:
    """Linear dimensions with their texts at shares of their lines."""
    return [replace(mark, text_at=share) for mark, share in zip(dimensions, slid, strict=True)]


def _dimensioned(dimensions: Sequence[LinearDimension], size: float) -> list[Mark]:
    """The lines and texts of linear dimensions."""
    return [piece for mark in dimensions for piece in expanded(mark, size)]


def blank(paper: Paper, title: Title, conventions: Conventions) -> Page:
    """Empty paper with its border and title block."""
    furniture = _furniture(paper, title, conventions, "", ())
    return Page(paper.width, paper.height, [], furniture, [], [], Fraction(1), {}, NO_LETTERING)


def said_of(drawing: Drawing, conventions: Conventions) -> str:
    """The brief and what is reckoned beforehand, in the words of the folio's school."""
    said = [drawing.problem.spoken(drawing.typed), drawing.problem.reckoned(drawing.typed)]
    if conventions.turn:
        angle = f"{number_text(abs(conventions.turn))}° {'anti' if conventions.turn > 0 else ''}clockwise"
        said.append(f"Drawn with the paper turned: what the steps call level lies {angle} of level here.")
    return conventions.worded(" ".join(filter(None, said)))


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
    brief = _wrapped(said_of(drawing, conventions), right - left - 10 * size, BRIEF_HEIGHT * size)
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


def _text(x: float, y: float, text: str, height: float, anchor: str = "left") -> Mark:
    return marks.Text(x=x, y=y, text=text, height=height, anchor=anchor, pen=Pen.LETTERING)


def _rule(x1: float, y1: float, x2: float, y2: float, pen: Pen = Pen.BORDER) -> Mark:
    return marks.Segment(x1=x1, y1=y1, x2=x2, y2=y2, pen=pen)


def _wrapped(text: str, width: float, height: float) -> list[str]:
    """Lines of whole words, no value parted from its unit; their widths are added up word by word, which is remembered
    better than that of lines."""
    lines: list[list[str]] = [[]]
    taken, space = 0.0, text_width("n n", height) - text_width("nn", height)
    for word in _unparted(text):
        longer = text_width(word, height)
        if lines[-1] and taken + space + longer > width:
            lines.append([])
            taken = 0.0
        taken += longer + (space if lines[-1] else 0.0)
        lines[-1].append(word)
    return [" ".join(words) for words in lines]


UNITS = re.compile(r"(?:mm|cm|m|in|ft|°)[,.;:)]*$")
"""A word that is a unit, with what stands behind it."""


def _unparted(text: str) -> list[str]:
    """The words of a text, a unit being one with its value."""
    words: list[str] = []
    for word in text.split():
        if words and UNITS.fullmatch(word) and words[-1][-1:].isdigit():
            words[-1] += f" {word}"
        else:
            words.append(word)
    return words


def _written(paper: Paper, brief: list[str]) -> list[Mark]:
    """The brief at the top of the sheet."""
    size = paper.lettering
    x, top = paper.frame[0] + 5 * size, paper.frame[3] - CENTRING - 4.5 * size
    height = BRIEF_HEIGHT * size
    return [_text(x, top - index * height * LINE, line, height) for index, line in enumerate(brief)]


@lru_cache(maxsize=16)
def _furniture(
    paper: Paper, title: Title, conventions: Conventions, scale: str, notes: tuple[str, ...], heading: str = ""
) -> tuple[Mark, ...]:
    """Frame, centring marks, title block and notes; lettering as on A4, enlarged with the sheet. They stay while a number
    is typed."""
    size = paper.lettering
    left, low, right, _ = paper.frame
    top = low + title.height * size
    drawn = _frame(paper)
    drawn.append(_rule(left, top, right, top, Pen.GIVEN))
    drawn += _titles(paper, title, conventions, scale)
    if heading:
        level = paper.frame[3] - CENTRING - HEADING_HEIGHT * size
        height = HEADING_HEIGHT * size
        drawn.append(_text(left + 3 * size, level, _cut(heading, right - left - 6 * size, height), height))
    if title.fields:
        level = low + FIELD_ROW * size
        drawn.append(_rule(left, level, right, level, Pen.DIMENSION))
        width = (right - left) / len(title.fields)
        for index, (head, body) in enumerate(title.fields):
            cell = (left + index * width, low, left + (index + 1) * width, level)
            drawn += _cell(cell, head, body, SMALL_HEIGHT * size, size, beside=True)
    for index, line in enumerate(reversed(notes)):
        drawn.append(_text(left + 5 * size, top + (2.2 + index * SMALL_HEIGHT * LINE) * size, line, SMALL_HEIGHT * size))
    return tuple(drawn)


def title_boxes(paper: Paper, title: Title) -> dict[str, Box]:
    """Where the fields of the title block stand that are typed, by their names in the document."""
    size = paper.lettering
    left, low, right, _ = paper.frame
    found: dict[str, Box] = {}
    if title.fields:
        width = (right - left) / len(title.fields)
        for index, (head, _) in enumerate(title.fields):
            box = (left + index * width, low, left + (index + 1) * width, low + FIELD_ROW * size)
            found[NAMES[head]] = box
        low += FIELD_ROW * size
    edges = _title_edges(title, left, right)
    for name, place in (("work", 0), ("name", 1), ("number", 4)):
        found[name] = (edges[place], low, edges[place + 1], low + TITLE_ROW * size)
    return found


NAMES = {
    "owner": "owner",
    "drawn by": "drawn_by",
    "checked by": "checked_by",
    "date": "date",
    "document": "document_type",
    "revision": "revision",
}
"""The heads of fields with their names in the document."""


def _title_edges(title: Title, left: float, right: float) -> list[float]:
    """The uprights of the row of titles."""
    shares = (0.0, 0.29, 0.58, 0.68, 0.80, 0.92 if title.leaf else 1.0, 1.0)
    return [left + (right - left) * share for share in shares]


def _frame(paper: Paper) -> list[Mark]:
    """The frame of the drawing space and the centring marks in the middle of each side (ISO 5457)."""
    left, low, right, high = paper.frame
    across, up = paper.width / 2, paper.height / 2
    return [
        _rule(left, low, right, low),
        _rule(right, low, right, high),
        _rule(right, high, left, high),
        _rule(left, high, left, low),
        _rule(across, 0.0, across, low),
        _rule(across, high - CENTRING, across, paper.height),
        _rule(0.0, up, left + CENTRING, up),
        _rule(right - CENTRING, up, paper.width, up),
    ]


def _titles(paper: Paper, title: Title, conventions: Conventions, scale: str) -> list[Mark]:
    """The row of titles: work, sheet, scale, projection, number and leaf."""
    size = paper.lettering
    left, low, right, _ = paper.frame
    low += FIELD_ROW * size if title.fields else 0.0
    top = low + TITLE_ROW * size
    edges = _title_edges(title, left, right)
    cells = (
        ("work", title.work),
        ("sheet", title.sheet),
        ("scale", scale),
        ("", ""),
        ("number", title.number),
        ("leaf", title.leaf),
    )
    drawn: list[Mark] = []
    for x, following, (head, body) in zip(edges[:-1], edges[1:], cells, strict=True):
        if body:
            drawn += _cell((x, low, following, top), head, body, TITLE_HEIGHT * size, size)
        if left < x < right:
            drawn.append(_rule(x, low, x, top, Pen.DIMENSION))
    middle = (edges[3] + edges[4]) / 2
    enlarge = Placement(size, middle, (low + top) / 2)
    return [*drawn, *(placed(mark, enlarge) for mark in _projection_symbol(0.0, 0.0, conventions.projection))]


def _cell(box: Box, head: str, body: str, height: float, size: float, *, beside: bool = False) -> list[Mark]:
    """A field of the title block: its head small over (``beside``: before) its text, which shrinks rather than runs over
    and is cut where it would be too small to read."""
    x, low, right, high = box
    small = SMALL_HEIGHT * size
    start = x + 2.5 * size
    if beside:
        heads = [_text(start, low + 0.36 * (high - low), head, small * 0.8)]
        start += 1.3 * text_width(head, small * 0.8) + 2.0 * size  # small letters on a screen run wide
    else:
        heads = [_text(start, high - small - 1.6 * size, head, small)]
    room = (right - start - 1.5 * size) * 0.96  # letters on a screen are rounded to its dots
    fitting = room / max(text_width(body, 1.0), 0.1)
    if fitting < SMALLEST_SHARE * height:
        body = _cut(body, room, SMALLEST_SHARE * height)
        fitting = SMALLEST_SHARE * height
    place = low + (0.36 * (high - low) if beside else 2.2 * size)
    return [*heads, _text(start, place, body, min(height, fitting))]


SMALLEST_SHARE = 0.55
"""So much of its height a text in the title block keeps; what is longer is cut."""


def _cut(text: str, room: float, height: float) -> str:
    """As many letters as there is room for, and a sign that there are more where there are."""
    if text_width(text, height) <= room:
        return text
    while text and text_width(f"{text}…", height) > room:
        text = text[:-1]
    return f"{text.rstrip()}…"


def _projection_symbol(x: float, y: float, projection: Projection) -> list[Mark]:
    """The truncated cone of ISO 5456-2, its narrow end to the left, and its end view seen from the left: on the far
    side of the cone in first angle, on the near side in third."""
    large, small, half = 3.6, 1.8, 4.0
    side = 1 if projection is Projection.FIRST else -1
    cone_x, circle_x = x - 5.2 * side, x + 5.6 * side
    corners = [
        (cone_x - half, y - small),
        (cone_x + half, y - large),
        (cone_x + half, y + large),
        (cone_x - half, y + small),
    ]
    pen = Pen.GIVEN
    drawn = [_rule(*a, *b, pen) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)]
    circles = [marks.Arc(cx=circle_x, cy=y, radius=r, pen=pen) for r in (large, small)]
    centre = [_rule(x - 11, y, x + 11, y, Pen.CENTRE), _rule(circle_x, y - 5, circle_x, y + 5, Pen.CENTRE)]
    return [*drawn, *circles, *centre]


def final(page: Page) -> list[Mark]:
    """All that is printed, in the order in which it is laid down: what is lined in lies over the construction, and
    lettering over all."""
    return [*page.furniture, *page.brief, *layered(page.marks)]


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
