"""Full size over several pages of a printer: what each page shows, the marks by which the pages join, their numbers, a map,
and a proof line of 100 mm each way.

Pages follow one another as one reads: from the left, and rows from the top. Each is cut along its trimming lines, at the
left and at the top where it has a neighbour, and laid over what its neighbours show there, so that the same letters fall on
one another. The letter and the pair of signs of a seam are its own; a circle stands before a triangle on it, and at no two
neighbouring seams equally far, so that a page turned about or taken for another does not fit.
"""

from __future__ import annotations

import math
import re
import string
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.marks import Arc, Box, Mark, Placement, Segment, bounds, placed, sampled
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import Drawing
from wisecompass.folio.document import Folio
from wisecompass.folio.layout import block_extents, shapes
from wisecompass.folio.page import NO_LETTERING, Caption, Cell, Page, caption_height, captioned, compose, drawn_over, said_of
from wisecompass.folio.paper import EDGE, FILING_EDGE, SIZES, Paper, text_width
from wisecompass.folio.print import conventions_of, drawn
from wisecompass.folio.register import Place
from wisecompass.folio.title_block import Title
from wisecompass.folio.written import text

PROOF = 100.0
"""Length of the proof lines, mm; shorter on paper that is too small for it."""

SHORTER = (100.0, 50.0, 20.0, 10.0)

SIDE, FOOT = 8.0, 17.0
"""Room at the left and at the foot of a page for proof lines, number and map, mm."""

MAP, LEAST_MAPPED = 28.0, 44.0
"""Room for the map at the foot of a page, mm; one that shows less across has none beside its proof line."""

MOST_PAGES = 400

EASE = 3.0
"""White round a figure at full size, mm."""

PRINTER_PAPERS: dict[str, tuple[float, float]] = {
    **SIZES,
    "A5": (148.0, 210.0),
    "Legal": (215.9, 355.6),
    "Tabloid": (279.4, 431.8),
}
"""Papers of printers by name, upright, mm; any other as 200x300."""

_SIZE = re.compile(r"\s*(\d+(?:[.,]\d+)?)\s*[x×]\s*(\d+(?:[.,]\d+)?)\s*(?:mm)?\s*", re.IGNORECASE)


@dataclass(frozen=True)
class Printer:
    """The paper of a printer, upright, the edge that it leaves white, how far pages overlap, and what its proof lines
    across and upright measure. All mm."""

    width: float = 210.0
    height: float = 297.0
    margin: float = 5.0
    overlap: float = 10.0
    measured: tuple[float, float] = (PROOF, PROOF)

    @property
    def stretch(self) -> tuple[float, float]:
        return PROOF / self.measured[0], PROOF / self.measured[1]


LIMITS: dict[str, tuple[float, float]] = {"margin": (0.0, 50.0), "overlap": (4.0, 60.0)}
"""Least and most of a printer's margin and overlap, mm."""


def printer(paper: str = "A4", margin: float = 5.0, overlap: float = 10.0, measured: Sequence[float] = ()) -> Printer:
    """A printer as somebody says what it is: paper by name or as 200x300, and what its proof lines measure, across and
    upright (one number for both).

    Raises:
        BadGiven: a paper that is none, a margin or overlap past reason, or proof lines too far from 100 mm.
    """
    for name, value in (("margin", margin), ("overlap", overlap)):
        low, high = LIMITS[name]
        if not low <= value <= high:
            nearest = f"{min(max(value, low), high):g}"
            raise BadGiven(
                name, f"{name} {value:g} mm is not from {low:g} to {high:g} mm; the nearest is {nearest}", nearest
            )
    across, upright = (*measured, *measured)[:2] if measured else (PROOF, PROOF)
    for value in (across, upright):
        if not 90 <= value <= 110:
            nearest = f"{min(max(value, 90), 110):g}"
            raise BadGiven(
                "measured",
                f"a proof line of 100 mm that measures {value:g} mm is no printer's error: "
                f"from 90 to 110 mm are made good; the nearest is {nearest}",
                nearest,
            )
    width, height = _paper(paper)
    found = Printer(width, height, margin, overlap, (across, upright))
    _window(found)
    return found


def _paper(name: str) -> tuple[float, float]:
    if name in PRINTER_PAPERS:
        return PRINTER_PAPERS[name]
    match = _SIZE.fullmatch(name)
    if match is None:
        raise BadGiven(
            "paper", f"paper “{quoted(name)}” is none of {', '.join(PRINTER_PAPERS)}, nor a size such as 200x300", "A4"
        )
    width, height = (float(part.replace(",", ".")) for part in match.groups())
    if not (40 <= width <= 2000 and 40 <= height <= 2000):
        raise BadGiven("paper", f"paper of {width:g} × {height:g} mm is not from 40 to 2000 mm a side", "A4")
    return width, height


def _window(found: Printer) -> Box:
    """What of a page shows the figure, mm as they are printed.

    Raises:
        BadGiven: nothing is left of the page between margins and overlap.
    """
    wide, high = (size / stretch for size, stretch in zip((found.width, found.height), found.stretch, strict=True))
    left, low = found.margin + SIDE, found.margin + FOOT
    right, top = wide - found.margin, high - found.margin
    if min(right - left, top - low) < found.overlap + 15:
        least = found.overlap + 15 + 2 * found.margin + max(SIDE, FOOT)
        raise BadGiven(
            "overlap",
            f"paper of {found.width:g} × {found.height:g} mm is too small for an overlap of {found.overlap:g} mm: each side "
            f"must be {least:g} mm or more, or the overlap less",
            f"{LIMITS['overlap'][0]:g}",
        )
    return left, low, right, top


@dataclass(frozen=True)
class Tile:
    """A page of the whole: its row and column from the top left, from 0, and how far what it shows was moved."""

    row: int
    column: int
    dx: float
    dy: float
    page: Page


@dataclass(frozen=True)
class Tiles:
    """The pages that show something, in the order of reading, and in how many rows and columns they lie. ``overview`` is a
    page of its own that shows the whole, and how the pages are joined."""

    tiles: tuple[Tile, ...]
    rows: int
    columns: int
    overview: Page | None
    blank: tuple[tuple[int, int], ...] = ()

    @property
    def pages(self) -> list[Page]:
        first = [] if self.overview is None else [self.overview]
        return [*first, *(tile.page for tile in self.tiles)]

    @property
    def words(self) -> str:
        """How many pages, and how they lie."""
        count = len(self.tiles)
        if count == 1:
            return "1 page"
        left = f", {len(self.blank)} left out where nothing is drawn" if self.blank else ""
        return f"{count} pages in {self.rows} rows and {self.columns} columns{left}"


def tiled(whole: Page, on: Printer, name: str = "", extent: Box | None = None) -> Tiles:
    """A page at full size over the pages of a printer, lying or upright as fewer are needed. ``extent`` is what of it is
    shown; all of it unless told.

    Raises:
        BadGiven: it would take more than ``MOST_PAGES`` pages, or the paper is too small for its overlap.
    """
    extent = extent or (0.0, 0.0, whole.width, whole.height)
    lying = replace(on, width=on.height, height=on.width)
    choices = [(each, *_grid(each, extent)) for each in (on, lying) if _fits(each)] or [(on, *_grid(on, extent))]
    best, rows, columns = min(choices, key=lambda choice: choice[1] * choice[2])
    if rows * columns > MOST_PAGES:
        raise BadGiven(
            "paper",
            f"that would take {rows * columns} pages; up to {MOST_PAGES} are made: take larger paper or a smaller scale",
            "A3",
        )
    drawn_marks = (
        drawn_over(whole) if extent != (0.0, 0.0, whole.width, whole.height) else [*whole.furniture, *drawn_over(whole)]
    )
    return _Cut(whole, drawn_marks, best, extent, rows, columns, name).tiles()


def _fits(on: Printer) -> bool:
    try:
        _window(on)
    except BadGiven:
        return False
    return True


def _grid(on: Printer, extent: Box) -> tuple[int, int]:
    """Rows and columns that an extent takes."""
    left, low, right, top = _window(on)
    wide, high = right - left, top - low

    def count(whole: float, part: float) -> int:
        return max(1, math.ceil((whole - on.overlap - 1e-9) / (part - on.overlap)))

    return count(extent[3] - extent[1], high), count(extent[2] - extent[0], wide)


class _Cut:
    """Cuts one drawing into pages."""

    def __init__(
        self, whole: Page, drawn_marks: list[Mark], on: Printer, extent: Box, rows: int, columns: int, name: str
    ) -> None:
        self.whole, self.marks, self.on, self.extent = whole, drawn_marks, on, extent
        self.rows, self.columns, self.name = rows, columns, name
        self.window = _window(on)
        self.stretch = on.stretch
        self.size = on.width / self.stretch[0], on.height / self.stretch[1]
        self.near = _Near(drawn_marks)

    def tiles(self) -> Tiles:
        shown, blank = [], []
        for row in range(self.rows):
            for column in range(self.columns):
                mine = self.near.within(self.box(row, column))
                if mine:
                    shown.append((row, column, mine))
                else:
                    blank.append((row, column))
        self.numbers = {(row, column): n for n, (row, column, _) in enumerate(shown, 1)}
        made = tuple(self.tile(row, column, mine) for row, column, mine in shown)
        return Tiles(made, self.rows, self.columns, self.overview() if len(made) > 1 else None, tuple(blank))

    def box(self, row: int, column: int) -> Box:
        """What of the drawing a page shows."""
        left, low, right, top = self.window
        wide, high = right - left, top - low
        x = self.extent[0] + column * (wide - self.on.overlap)
        y = self.extent[3] - row * (high - self.on.overlap)
        return x, y - high, x + wide, y

    def tile(self, row: int, column: int, mine: Sequence[Mark]) -> Tile:
        box, window = self.box(row, column), self.window
        dx, dy = window[0] - box[0], window[1] - box[1]
        move = Placement(1.0, dx, dy)
        furniture = [
            *self._trimming(row, column),
            *(placed(mark, move) for mark in self._joints(row, column)),
            *self._foot(row, column),
        ]
        page = Page(
            *self.size,
            [placed(mark, move) for mark in mine],
            tuple(furniture),
            [],
            [],
            self.whole.scale,
            {},
            NO_LETTERING,
            window=window,
            stretch=self.stretch,
        )
        return Tile(row, column, dx, dy, page)

    def _trimming(self, row: int, column: int) -> Iterator[Mark]:
        """Where the page is cut: at the left and at the top, where it is laid over a neighbour."""
        left, low, right, top = self.window
        if column:
            yield _line(left, low - 3, left, top + 2, Pen.CENTRE)
            yield text(left + 1, low - 2.9, "cut", 1.8)
        if row:
            yield _line(left - 3, top, right + 2, top, Pen.CENTRE)
            yield text(left - 1.2, top + 0.8, "cut", 1.8, "right")

    def _joints(self, row: int, column: int) -> Iterator[Mark]:
        """The signs on the seams of a page, where they lie in the drawing."""
        left, low, right, top = self.box(row, column)
        inset = self.on.overlap
        for seam_column in (column, column + 1):
            if 0 < seam_column < self.columns and {(row, seam_column - 1), (row, seam_column)} <= self.numbers.keys():
                x = self.box(row, seam_column)[0]
                yield from _pair((x, top - inset), (x, low + inset), 2 * (row * self.columns + seam_column))
        for seam_row in (row, row + 1):
            if 0 < seam_row < self.rows and {(seam_row - 1, column), (seam_row, column)} <= self.numbers.keys():
                y = self.box(seam_row, column)[3]
                yield from _pair((left + inset, y), (right - inset, y), 2 * (seam_row * self.columns + column) + 1)

    def _foot(self, row: int, column: int) -> Iterator[Mark]:
        """Proof lines, number, name and map."""
        left, low, right, top = self.window
        margin = self.on.margin
        mapped = right - left >= LEAST_MAPPED
        yield from _proof((left, margin + 4.0), (right - MAP if mapped else right, margin + 4.0))
        yield from _proof((margin + 3.5, low), (margin + 3.5, top))
        count = len(self.numbers)
        number = f"page {self.numbers[row, column]} of {count}   row {row + 1}, column {column + 1}"
        if left + text_width(number, 2.5) > right - (MAP if mapped else 0.0):
            number = f"page {self.numbers[row, column]} of {count}"
        yield text(left, margin + 10.6, number, 2.5)
        fits = _shortened(self.name, right - 30 - left - text_width(number, 2.5) - 6, 2.0)
        yield text(left + text_width(number, 2.5) + 6, margin + 10.6, fits, 2.0)
        if mapped:
            yield from self._map((right - MAP + 4, margin + 1, right, margin + FOOT - 3), (row, column))

    def _map(self, room: Box, here: tuple[int, int]) -> Iterator[Mark]:
        """The pages as they lie, this one crossed."""
        left, low, right, top = room
        wide, high = min((right - left) / self.columns, 5.0), min((top - low) / self.rows, 5.0)
        x0 = right - self.columns * wide
        for row in range(self.rows):
            for column in range(self.columns):
                if (row, column) not in self.numbers:
                    continue
                x, y = x0 + column * wide, top - (row + 1) * high
                pen = Pen.OUTLINE if (row, column) == here else Pen.DIMENSION
                yield from _frame((x + 0.3, y + 0.3, x + wide - 0.3, y + high - 0.3), pen)
                if (row, column) == here:
                    yield _line(x + 0.3, y + 0.3, x + wide - 0.3, y + high - 0.3, Pen.OUTLINE)
                    yield _line(x + 0.3, y + high - 0.3, x + wide - 0.3, y + 0.3, Pen.OUTLINE)

    def overview(self) -> Page:
        """A page that shows the whole with its pages, and says how they are joined."""
        wide, high = self.size
        margin = self.on.margin + 5
        told = list(self._told())
        height = 2.5 if wide > 150 else 1.8
        head = margin + (len(told) + 1) * 1.9 * height + 8
        boxes = [self.box(row, column) for row, column in self.numbers]
        left, low = min(b[0] for b in boxes), min(b[1] for b in boxes)
        right, top = max(b[2] for b in boxes), max(b[3] for b in boxes)
        scale = min((wide - 2 * margin) / (right - left), (high - head - margin) / (top - low))
        move = Placement(scale, margin - scale * left, margin - scale * low)
        heavy = {Pen.OUTLINE, Pen.CUT, Pen.FOLD, Pen.BORDER, Pen.GIVEN, Pen.HIDDEN}
        figure = [
            placed(mark, move)
            for mark in self.marks
            if mark.pen in heavy and not isinstance(mark, marks.Text | marks.Gap | marks.Dot)
        ]
        furniture = [text(margin, high - margin - 4 - k * 1.9 * height, line, height) for k, line in enumerate(told)]
        for (row, column), n in self.numbers.items():
            x1, y1, x2, y2 = self.box(row, column)
            furniture += _frame((*move.at(x1, y1), *move.at(x2, y2)), Pen.DIMENSION)
            x, y = move.at(x1, y2)
            size = min(4.0, 0.3 * scale * (y2 - y1))
            furniture.append(text(x + 0.6 * size, y - 1.5 * size, str(n), size))
        return Page(wide, high, figure, tuple(furniture), [], [], Fraction(1), {}, NO_LETTERING, stretch=self.stretch)

    def _told(self) -> Iterator[str]:
        yield _shortened(self.name or "Full size", self.size[0] - 2 * self.on.margin - 10, 2.5)
        yield f"{len(self.numbers)} pages. Print them at 100 %, not fitted to the paper."
        yield "1  Measure both proof lines: where they are not 100 mm, type what they measure and print again."
        yield "2  Cut each page along its lines marked “cut”, at the left and at the top."
        yield "3  Lay it over its neighbours: “join A” on “join A”, circle on circle, triangle on triangle."
        yield f"4  Glue the pages where they overlap, {self.on.overlap:g} mm."


class _Near:
    """Which marks show in a part of the drawing."""

    def __init__(self, drawn_marks: Sequence[Mark]) -> None:
        from shapely import LineString, Point, STRtree, box

        shapes = []
        for mark in drawn_marks:
            if isinstance(mark, marks.Text):
                reach = max(text_width(mark.text, mark.height), mark.height)
                shapes.append(box(mark.x - reach, mark.y - reach, mark.x + reach, mark.y + reach))
            else:
                places = sampled(mark, 256)
                shapes.append(LineString(places) if len(places) > 1 else Point(places[0] if places else (0, 0)))
        self.marks, self._tree = list(drawn_marks), STRtree(shapes)

    def within(self, part: Box) -> list[Mark]:
        """The marks that reach into a part, in their order; none where nothing but white under values does."""
        from shapely import box

        left, low, right, top = part
        found = sorted(self._tree.query(box(left - 1, low - 1, right + 1, top + 1), predicate="intersects"))
        mine = [self.marks[k] for k in found]
        return mine if any(not isinstance(mark, marks.Gap) for mark in mine) else []


def _line(x1: float, y1: float, x2: float, y2: float, pen: Pen) -> Segment:
    return Segment(x1=x1, y1=y1, x2=x2, y2=y2, pen=pen)


def _frame(box: Box, pen: Pen) -> list[Mark]:
    a, b, c, d = box
    return [_line(a, b, c, b, pen), _line(c, b, c, d, pen), _line(c, d, a, d, pen), _line(a, d, a, b, pen)]


SIGN = 2.6
"""Radius of the signs on seams, mm."""


def seam_name(n: int) -> str:
    """A, B, … Z, AA, AB, …"""
    name = ""
    n += 1
    while n:
        n, digit = divmod(n - 1, 26)
        name = string.ascii_uppercase[digit] + name
    return name


def _pair(first: tuple[float, float], last: tuple[float, float], n: int) -> Iterator[Mark]:
    """A circle and after it a triangle on a seam, each with the seam's letter; how far along differs from seam to seam."""
    (x1, y1), (x2, y2) = first, last
    for k, share in enumerate((0.2 + 0.023 * (n % 5), 0.66 + 0.031 * (n % 7))):
        x, y = x1 + (x2 - x1) * share, y1 + (y2 - y1) * share
        if k == 0:
            yield Arc(cx=x, cy=y, radius=SIGN, pen=Pen.DIMENSION, name=f"joint {n}")
        else:
            corners = [(x + SIGN * math.sin(t), y + SIGN * math.cos(t)) for t in (0.0, 2 * math.pi / 3, 4 * math.pi / 3)]
            for (ax, ay), (bx, by) in zip(corners, (*corners[1:], corners[0]), strict=True):
                yield _line(ax, ay, bx, by, Pen.DIMENSION)
        yield _line(x - SIGN - 1, y, x + SIGN + 1, y, Pen.DIMENSION)
        yield _line(x, y - SIGN - 1, x, y + SIGN + 1, Pen.DIMENSION)
        yield text(x + 0.6, y + SIGN + 0.4, f"join {seam_name(n)}", 2.0)
        if x1 == x2:  # the left of an upright seam is cut away, and a proof line stands there
            yield text(x + 0.6, y - SIGN - 2.4, f"join {seam_name(n)}", 2.0)
        else:
            yield text(x - 0.6, y - SIGN - 2.4, f"join {seam_name(n)}", 2.0, "right")


def _proof(first: tuple[float, float], last: tuple[float, float]) -> Iterator[Mark]:
    """A line of 100 mm, or as much as there is room for, with its length."""
    (x1, y1), (x2, y2) = first, last
    room = math.dist(first, last)
    length = next((each for each in SHORTER if each <= room), SHORTER[-1])
    ux, uy = (x2 - x1) / room, (y2 - y1) / room
    end = x1 + ux * length, y1 + uy * length
    yield _line(x1, y1, *end, Pen.GIVEN)
    for x, y in (first, end):
        yield _line(x - 1.6 * uy, y - 1.6 * ux, x + 1.6 * uy, y + 1.6 * ux, Pen.GIVEN)
    middle = x1 + ux * length / 2, y1 + uy * length / 2
    if ux:
        yield text(middle[0], middle[1] + 0.9, f"proof line {length:g} mm", 2.0, "centre")
    else:
        turned = text(middle[0] - 0.9, middle[1], f"proof line {length:g} mm", 2.0, "centre")
        assert isinstance(turned, marks.Text)
        yield replace(turned, angle=90.0)


def _shortened(said: str, width: float, height: float) -> str:
    """Words that fit a width."""
    if text_width(said, height) <= width:
        return said
    while said and text_width(said + " …", height) > width:
        said = said[:-1]
    return f"{said.rstrip()} …" if said else ""


# ------------------------------------------------------------------------------------------------------------- full size
def full_size(folio: Folio, place: Place, pattern: bool = False) -> tuple[Page, Box]:
    """A figure of a folio at 1:1 on paper as large as it needs, and what of the paper it takes; of its ``pattern`` alone,
    where that is wanted.

    Raises:
        WiseCompassError: the figure does not work, or has no pattern.
    """
    sheet = folio.sheets[place[0]]
    if not sheet.figures:
        raise BadGiven("figure", "nothing stands on this sheet")
    figure = sheet.figures[place[1]]
    return at_full_size(drawn(folio, figure), conventions_of(folio, figure), figure.name, figure.shifts, pattern)


def at_full_size(
    drawing: Drawing,
    conventions: Conventions,
    name: str,
    shifts: Mapping[str, tuple[float, float]] | None = None,
    pattern: bool = False,
) -> tuple[Page, Box]:
    """The same of a drawing.

    Raises:
        BadGiven: its pattern is wanted, and it has none.
    """
    if pattern:
        cut = {mark.block for mark in drawing.marks if mark.pen is Pen.CUT}
        if not cut:
            raise BadGiven("pattern", f"{name or drawing.problem.id} has no pattern: nothing of it is cut")
        drawing = replace(drawing, marks=[mark for mark in drawing.marks if mark.block in cut])
    page = _on_own_paper(drawing, Caption(name, said_of(drawing, conventions)), conventions, shifts)
    left, low, right, high = bounds([mark for mark in page.marks if not isinstance(mark, marks.Dot) or mark.shown])
    for mark in (*page.marks, *page.brief):
        if isinstance(mark, marks.Text):
            wide = text_width(mark.text, mark.height)
            before = {"left": 0.0, "centre": wide / 2, "right": wide}[mark.anchor] if not mark.angle else wide
            left, right = min(left, mark.x - before), max(right, mark.x - before + (wide if not mark.angle else 2 * wide))
            low, high = min(low, mark.y - mark.height), max(high, mark.y + 2 * mark.height)
    return page, (left - EASE, low - EASE, right + EASE, high + EASE)


NARROWEST = 160.0
"""Paper for a brief is no narrower, mm."""


def _on_own_paper(
    drawing: Drawing, caption: Caption, conventions: Conventions, shifts: Mapping[str, tuple[float, float]] | None
) -> Page:
    """A drawing at 1:1 with its caption over it, on paper as large as both need."""
    one = Fraction(1)
    takes = shapes(block_extents(drawing.marks, drawing.rotations), one, 1.0)
    wide, high = min(takes, key=lambda size: size[0] * size[1])
    wide = max(wide, NARROWEST)
    high += caption_height(caption, NARROWEST, 1.0) + 2
    room = (FILING_EDGE, EDGE, FILING_EDGE + wide, EDGE + high)
    paper = Paper(own=(room[2] + EDGE, room[3] + EDGE))
    cell = Cell(room, caption, tells_scale=True)
    page = compose(drawing, paper, Title(), conventions, one, cell=cell, shifts=shifts, scales=[one])
    told = replace(cell, box=(room[0], room[1], room[0] + NARROWEST, room[3]))
    return replace(page, furniture=(), brief=captioned(told, 1.0, one), cell=None)


def near_origin(page: Page, extent: Box) -> list[Mark]:
    """The marks of a page at full size, moved so that what it takes begins at the origin."""
    move = Placement(1.0, -extent[0], -extent[1])
    return [placed(mark, move) for mark in drawn_over(page)]
