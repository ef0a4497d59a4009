"""The frame of a sheet with its centring marks (ISO 5457), and its title block (ISO 7200)."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Conventions, Projection
from wisecompass.drafting.marks import Box, Mark, Placement, placed
from wisecompass.drafting.pens import Pen
from wisecompass.folio.document import Folio
from wisecompass.folio.paper import CENTRING, FIELD_ROW, TITLE_ROW, Paper, text_width
from wisecompass.folio.register import Place
from wisecompass.folio.written import HEADING_HEIGHT, LINE, SMALL_HEIGHT, TITLE_HEIGHT, text


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


def _rule(x1: float, y1: float, x2: float, y2: float, pen: Pen = Pen.BORDER) -> Mark:
    return marks.Segment(x1=x1, y1=y1, x2=x2, y2=y2, pen=pen)


@lru_cache(maxsize=16)
def furnished(
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
        drawn.append(text(left + 3 * size, level, _cut(heading, right - left - 6 * size, height), height))
    if title.fields:
        level = low + FIELD_ROW * size
        drawn.append(_rule(left, level, right, level, Pen.DIMENSION))
        width = (right - left) / len(title.fields)
        for index, (head, body) in enumerate(title.fields):
            cell = (left + index * width, low, left + (index + 1) * width, level)
            drawn += _cell(cell, head, body, SMALL_HEIGHT * size, size, beside=True)
    for index, line in enumerate(reversed(notes)):
        drawn.append(text(left + 5 * size, top + (2.2 + index * SMALL_HEIGHT * LINE) * size, line, SMALL_HEIGHT * size))
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
        heads = [text(start, low + 0.36 * (high - low), head, small * 0.8)]
        start += 1.3 * text_width(head, small * 0.8) + 2.0 * size  # small letters on a screen run wide
    else:
        heads = [text(start, high - small - 1.6 * size, head, small)]
    room = (right - start - 1.5 * size) * 0.96  # letters on a screen are rounded to its dots
    fitting = room / max(text_width(body, 1.0), 0.1)
    if fitting < SMALLEST_SHARE * height:
        body = _cut(body, room, SMALLEST_SHARE * height)
        fitting = SMALLEST_SHARE * height
    place = low + (0.36 * (high - low) if beside else 2.2 * size)
    return [*heads, text(start, place, body, min(height, fitting))]


SMALLEST_SHARE = 0.55
"""So much of its height a text in the title block keeps; what is longer is cut."""


def _cut(said: str, room: float, height: float) -> str:
    """As many letters as there is room for, and a sign that there are more where there are."""
    if text_width(said, height) <= room:
        return said
    while said and text_width(f"{said}…", height) > room:
        said = said[:-1]
    return f"{said.rstrip()}…"


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
