"""A page: one list of marks in mm of paper, from which screen, SVG and PDF are all drawn."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction
from functools import lru_cache

from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Conventions, Projection
from wisecompass.drafting.marks import Area, Box, Letter, LinearDimension, Mark, Placement, placed
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import Drawing
from wisecompass.folio import labels
from wisecompass.folio.cells import Cells
from wisecompass.folio.dimensions import expanded, free_share
from wisecompass.folio.layout import Arrangement, arrange
from wisecompass.folio.paper import FRAME, STRIP, Paper, scale_text, text_width

TITLE_HEIGHT, SMALL_HEIGHT, BRIEF_HEIGHT = 4.0, 2.8, 3.5
"""Capitals of the title strip, of heads and notes, and of the brief on A4, mm."""

LINE = 1.7
"""Distance of lines of lettering as a share of their capitals."""


@dataclass(frozen=True)
class Title:
    """What the title strip says."""

    work: str = "Bramlow Mill"
    sheet: str = ""
    number: str = ""


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
    places: labels.Places
    slid: list[float]
    """Where along their lines the texts of dimensions stand, in their order."""

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
) -> Page:
    """Lay a drawing out on paper with its border, title strip, brief and notes.

    Lettering, margins and border grow with the sheet, so that a large one reads like A4. Letters stand to their points
    as on the page ``kept``, and points that it has not wait for theirs; without it all places are found anew. To ``hold``
    is to leave the figure where it lies on that page, even if it runs over.
    """
    size = paper.lettering
    room, brief, notes = room_of(drawing, paper, conventions)
    blocks = {mark.block for mark in drawing.marks}
    if hold and kept is not None and blocks <= kept.placements.keys():
        laid = Arrangement(kept.scale, kept.placements)
    else:
        laid = arrange(drawing.marks, drawing.rotations, room, scale, size)
    tints = [mark for mark in drawing.marks if isinstance(mark, Area)]
    on_paper = [placed(mark, laid.placements[mark.block]) for mark in drawing.marks if not isinstance(mark, Area)]
    dimensions = [mark for mark in on_paper if isinstance(mark, LinearDimension)]
    lined = (mark for mark in on_paper if not isinstance(mark, LinearDimension | Letter))
    figure = [piece for mark in lined for piece in expanded(mark, size)]
    dots = labels.to_letter(on_paper, size)
    if kept is not None and kept.width == paper.width:
        places = kept.places
        slid = kept.slid if len(kept.slid) == len(dimensions) else [mark.text_at for mark in dimensions]
        figure += _dimensioned(dimensions, slid, size)
    else:
        lines = Cells([*figure, *(piece for mark in dimensions for piece in expanded(mark, size))], size)
        slid = [free_share(mark, lines, dots, size) for mark in dimensions]
        figure += _dimensioned(dimensions, slid, size)
        places = labels.find_places(figure, room, size, dots, lines)
    figure += labels.lettered_at(dots, places, size)
    furniture = _furniture(paper, title, conventions, laid.scale, tuple(notes))
    written = _written(paper, brief)
    return Page(paper.width, paper.height, figure, furniture, written, tints, laid.scale, laid.placements, places, slid)


def _dimensioned(dimensions: list[LinearDimension], slid: list[float], size: float) -> list[Mark]:
    """Linear dimensions with their texts at shares of their lines."""
    slid_to = (replace(mark, text_at=share) for mark, share in zip(dimensions, slid, strict=True))
    return [piece for mark in slid_to for piece in expanded(mark, size)]


def room_of(drawing: Drawing, paper: Paper, conventions: Conventions) -> tuple[Box, list[str], list[str]]:
    """The room for the figure between brief and title strip, the lines of the brief, and the notes."""
    size = paper.lettering
    frame = FRAME * size
    said = f"{drawing.problem.spoken(drawing.typed)} {drawing.problem.reckoned(drawing.typed)}"
    brief = _wrapped(conventions.worded(said), paper.width - 2 * frame - 12 * size, BRIEF_HEIGHT * size)
    notes = [conventions.worded(note) for note in drawing.problem.cautions]
    top = paper.height - frame - (4 + len(brief) * BRIEF_HEIGHT * LINE) * size
    low = frame + (STRIP + 2 + len(notes) * SMALL_HEIGHT * LINE) * size
    return (frame + size, low, paper.width - frame - size, top), brief, notes


def _text(x: float, y: float, text: str, height: float, anchor: str = "left") -> Mark:
    return marks.Text(x=x, y=y, text=text, height=height, anchor=anchor, pen=Pen.LETTERING)


def _rule(x1: float, y1: float, x2: float, y2: float, pen: Pen = Pen.BORDER) -> Mark:
    return marks.Segment(x1=x1, y1=y1, x2=x2, y2=y2, pen=pen)


def _wrapped(text: str, width: float, height: float) -> list[str]:
    """Lines of whole words; their widths are added up word by word, which is remembered better than that of lines."""
    lines: list[list[str]] = [[]]
    taken, space = 0.0, text_width("n n", height) - text_width("nn", height)
    for word in text.split():
        longer = text_width(word, height)
        if lines[-1] and taken + space + longer > width:
            lines.append([])
            taken = 0.0
        taken += longer + (space if lines[-1] else 0.0)
        lines[-1].append(word)
    return [" ".join(words) for words in lines]


def _written(paper: Paper, brief: list[str]) -> list[Mark]:
    """The brief at the top of the sheet."""
    size = paper.lettering
    x, top = (FRAME + 5) * size, paper.height - (FRAME + 5.5) * size
    height = BRIEF_HEIGHT * size
    return [_text(x, top - index * height * LINE, line, height) for index, line in enumerate(brief)]


@lru_cache(maxsize=16)
def _furniture(
    paper: Paper, title: Title, conventions: Conventions, scale: Fraction, notes: tuple[str, ...]
) -> tuple[Mark, ...]:
    """Border, title strip and notes, drawn as on A4 and enlarged with the sheet. They stay while a number is typed."""
    size = paper.lettering
    left, low, right, high = FRAME, FRAME, paper.width / size - FRAME, paper.height / size - FRAME
    top = low + STRIP
    drawn: list[Mark] = [
        _rule(left, low, right, low),
        _rule(right, low, right, high),
        _rule(right, high, left, high),
        _rule(left, high, left, low),
        _rule(left, top, right, top, Pen.GIVEN),
    ]
    width = right - left
    columns = (left, left + width * 0.30, left + width * 0.62, left + width * 0.74, left + width * 0.86)
    cells = (("work", title.work), ("sheet", title.sheet), ("scale", scale_text(scale)), ("", ""), ("number", title.number))
    for x, following, (head, body) in zip(columns, (*columns[1:], right), cells, strict=True):
        room = (following - x - 4.0) * 0.96  # letters on a screen are rounded to its dots
        body_height = min(TITLE_HEIGHT, room / max(text_width(body, 1.0), 0.1))
        if x > left:
            drawn.append(_rule(x, low, x, top, Pen.DIMENSION))
        drawn.append(_text(x + 2.5, top - 4.4, head, SMALL_HEIGHT))
        drawn.append(_text(x + 2.5, low + 2.4, body, body_height))
    drawn += _projection_symbol(columns[3] + width * 0.06, (low + top) / 2, conventions.projection)
    for index, line in enumerate(reversed(notes)):
        drawn.append(_text(left + 5, top + 2.2 + index * SMALL_HEIGHT * LINE, line, SMALL_HEIGHT))
    enlarge = Placement(size)
    return tuple(piece for mark in drawn for piece in expanded(placed(mark, enlarge), size))


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
    """All that is printed: furniture, brief and the finished figure."""
    return [*page.furniture, *page.brief, *page.marks]
