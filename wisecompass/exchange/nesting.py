"""Nesting: the patterns of a folio laid on stock sheets, none over another, with room for the kerf between them.

The laying is done by spyrrow (strip packing of irregular outlines); what it lays is looked at again here with Shapely, and
nothing that overlaps or runs over its sheet is ever shown. All lengths are mm.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import TYPE_CHECKING

from wisecompass.arithmetic import PLAIN
from wisecompass.arithmetic.expression import Expression, quoted
from wisecompass.catalogue import problem
from wisecompass.drafting.errors import BadGiven, WiseCompassError
from wisecompass.drafting.marks import Mark, Placement, Segment, placed
from wisecompass.drafting.pens import Pen
from wisecompass.exchange.gcode import job
from wisecompass.exchange.gcode_picture import curve_of
from wisecompass.exchange.machine import Profile
from wisecompass.exchange.pen_layers import dxf_layers, svg_layers
from wisecompass.exchange.strokes import Stroke, in_dashes, joined, ordered, strokes_of
from wisecompass.folio.document import Figure, Folio
from wisecompass.folio.links import read_figure
from wisecompass.folio.page import NO_LETTERING, Page
from wisecompass.folio.paper import text_width
from wisecompass.folio.print import drawn
from wisecompass.folio.register import Place
from wisecompass.folio.written import text

if TYPE_CHECKING:
    from shapely import Polygon

CHORD = 0.02
"""How far the outline that is laid may be inside the pattern's, mm."""

EASE = 0.05
"""By so much an outline is laid larger than it is, so that neither chords nor rounding bring two together, mm."""

SECONDS = 3
"""How long the laying of one sheet is improved."""

MOST_PARTS = 500

FREE_TURNS = tuple(15.0 * k for k in range(24))
FIXED_TURNS = (0.0, 180.0)
"""Degrees by which a pattern may be turned: with the grain free, and with the grain along the sheet."""

_STOCK = re.compile(r"\s*(?:(\d{1,3})\s*\*)?\s*(\d+(?:[.,]\d+)?)\s*[x×]\s*(\d+(?:[.,]\d+)?)\s*(?:mm)?\s*", re.IGNORECASE)


@dataclass(frozen=True)
class Stock:
    """Sheets of a size; ``count`` of them, or as many as are needed."""

    length: float
    width: float
    count: int | None = None


@dataclass(frozen=True)
class Order:
    """What to lay on: the stock in the order in which it is used up, the ``kerf`` between patterns, the ``edge`` of a sheet
    that is kept free, whether the grain runs along the sheet in all patterns, and for how long each sheet is improved."""

    stock: tuple[Stock, ...] = (Stock(2000.0, 1000.0),)
    kerf: float = 2.0
    edge: float = 5.0
    grain: bool = False
    seconds: int = SECONDS


def read_stock(said: str) -> tuple[Stock, ...]:
    """Stock as somebody writes it: 2000x1000, or several as 2*1250x600, 2000x1000.

    Raises:
        BadGiven: it is none, or a size past reason.
    """
    found = []
    for each in _sizes(said):
        match = _STOCK.fullmatch(each)
        if match is None:
            raise BadGiven(
                "stock", f"stock “{quoted(each.strip())}” is no size such as 2000x1000 or 2*1250x600", "2000x1000"
            )
        length, width = (float(part.replace(",", ".")) for part in match.groups()[1:])
        if not (10 <= length <= 100_000 and 10 <= width <= 100_000):
            raise BadGiven("stock", f"stock of {length:g} × {width:g} mm is not from 10 to 100000 mm a side", "2000x1000")
        found.append(Stock(length, width, int(match[1]) if match[1] else None))
        if found[-1].count == 0:
            raise BadGiven("stock", "0 sheets of a stock hold nothing; write 1 or more", "1")
    return tuple(found)


def _sizes(said: str) -> list[str]:
    """What stands between semicolons, or between commas that do not part a size of its decimals."""
    found = [""]
    for piece in re.split(r"([;,])", said):
        if piece == ";" or (piece == "," and re.search("[x×]", found[-1])):
            found.append("")
        else:
            found[-1] += piece
    return found


LIMITS: dict[str, tuple[float, float]] = {"kerf": (0.0, 100.0), "edge": (0.0, 500.0)}
"""Least and most of the kerf and the free edge, mm."""


def require_order(order: Order) -> None:
    """Refuse a kerf or edge past reason.

    Raises:
        BadGiven: with the nearest that works.
    """
    for name, (low, high) in LIMITS.items():
        value = getattr(order, name)
        if not low <= value <= high:
            nearest = f"{min(max(value, low), high):g}"
            raise BadGiven(
                name, f"{name} {value:g} mm is not from {low:g} to {high:g} mm; the nearest is {nearest}", nearest
            )


@dataclass(frozen=True)
class Part:
    """A pattern in one piece: its outline (outer only), the strokes that are cut and folded in it, and its name."""

    name: str
    outline: Polygon
    strokes: tuple[Stroke, ...]
    said: str = ""
    """What is to be said of it, such as that its outline is open."""

    @property
    def area(self) -> float:
        """mm², holes not taken off."""
        return float(self.outline.area)


def parts_of(folio: Folio, places: Sequence[Place] | None = None) -> tuple[list[Part], list[str]]:
    """The patterns of a folio, or of some of its figures, and what is to be said of figures that cannot be drawn."""
    from shapely import Polygon

    found: list[Part] = []
    said: list[str] = []
    for s, sheet in enumerate(folio.sheets):
        for f, figure in enumerate(sheet.figures):
            if places is not None and (s, f) not in places:
                continue
            try:
                pieces = _pieces(drawn(folio, figure).marks)
            except WiseCompassError as reason:
                said.append(f"{figure.name}: {reason}")
                continue
            for n, (outline, strokes, word) in enumerate(pieces, 1):
                assert isinstance(outline, Polygon)
                name = figure.name if len(pieces) == 1 else f"{figure.name} {n}"
                part = Part(name, outline, tuple(strokes), f"{name}: {word}" if word else "")
                found += [replace(part) for _ in range(_wanted(folio, figure))]
    return found, [*said, *(part.said for part in found if part.said)]


def _wanted(folio: Folio, figure: Figure) -> int:
    """How often a figure's pattern is cut."""
    found = problem(figure.problem)
    given = found.method(figure.method).pieces
    if not given:
        return 1
    count = read_figure(folio, figure)[given]
    assert isinstance(count, Expression)
    return round(float(count.evaluate(PLAIN)))


def _pieces(drawn_marks: Sequence[Mark]) -> list[tuple[Polygon, list[Stroke], str]]:
    """The separate pieces of what is cut of a figure, at full size."""
    from shapely import LineString, MultiLineString, Point, Polygon, get_parts, polygonize, unary_union

    found: list[tuple[Polygon, list[Stroke], str]] = []
    for block in dict.fromkeys(mark.block for mark in drawn_marks if mark.pen is Pen.CUT):
        mine = [mark for mark in drawn_marks if mark.block == block and mark.pen in (Pen.CUT, Pen.FOLD)]
        strokes = strokes_of(mine, dashed=False)
        cut = [stroke for stroke in strokes if stroke.pen is Pen.CUT]
        lines = unary_union([LineString(_snapped(stroke.points(CHORD))) for stroke in cut])
        faces = get_parts(polygonize(list(get_parts(lines))))
        whole = unary_union([face.buffer(0) for face in faces]) if len(faces) else Polygon()
        outlines = [Polygon(each.exterior) for each in get_parts(whole)]
        open_lines = [line for line in get_parts(lines) if not any(each.buffer(0.05).covers(line) for each in outlines)]
        word = ""
        if open_lines:
            hull = MultiLineString([*open_lines, *(each.exterior for each in outlines)]).convex_hull
            outlines = [hull] if isinstance(hull, Polygon) else []
            word = "its outline is not closed; it is laid within its bounding shape"
        for outline in outlines:
            held = [s for s in strokes if outline.buffer(0.1).covers(Point(s.ways[len(s.ways) // 2].at(0.5)))]
            found.append((outline, joined(held), word))
    return found


def _snapped(points: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """Places to a ten-thousandth, so that ends that meet are one."""
    return [(round(x, 4), round(y, 4)) for x, y in points]


@dataclass(frozen=True)
class Laid:
    """A part where it lies on its sheet."""

    part: Part
    where: Placement


@dataclass(frozen=True)
class Sheet:
    """A stock sheet with what lies on it."""

    stock: Stock
    laid: tuple[Laid, ...]

    @property
    def use(self) -> float:
        """The share of the sheet that patterns take."""
        return _area(self.laid) / (self.stock.length * self.stock.width)


@dataclass(frozen=True)
class Nest:
    """All sheets, what did not fit, and what is to be said."""

    sheets: tuple[Sheet, ...]
    left: tuple[Part, ...]
    said: tuple[str, ...]

    @property
    def words(self) -> str:
        """How many parts on how many sheets, and their use."""
        count = sum(len(sheet.laid) for sheet in self.sheets)
        uses = ", ".join(f"{sheet.use:.1%}".replace("%", " %") for sheet in self.sheets)
        sheets = "1 sheet" if len(self.sheets) == 1 else f"{len(self.sheets)} sheets"
        return f"{count} {'pattern' if count == 1 else 'patterns'} on {sheets}; used {uses or 'nothing'}"


def nest(parts: Sequence[Part], order: Order, tell: Callable[[str], None] = lambda _: None) -> Nest:
    """Lay parts on stock, the largest first.

    Raises:
        BadGiven: there is nothing to lay, or more than ``MOST_PARTS``, or the order is past reason.
    """
    require_order(order)
    if not parts:
        raise BadGiven("pattern", "no figure here has a pattern: nothing is cut")
    if len(parts) > MOST_PARTS:
        raise BadGiven(
            "copies", f"{len(parts)} patterns are more than the {MOST_PARTS} that are laid at once", str(MOST_PARTS)
        )
    waiting = sorted(parts, key=lambda part: -part.area)
    sheets: list[Sheet] = []
    for stock in order.stock:
        count = 0
        while stock.count is None or count < stock.count:
            fitting = [part for part in waiting if _fits(part, stock, order)]
            if not fitting:
                break
            tell(f"sheet {len(sheets) + 1}, {len(waiting)} patterns to lay")
            sheet = _one_sheet(fitting, stock, order)
            sheets.append(sheet)
            for each in sheet.laid:
                waiting.remove(each.part)
            count += 1
    said = [_too_large(part, order) for part in waiting]
    return Nest(tuple(sheets), tuple(waiting), tuple(said))


def _room(stock: Stock, order: Order) -> tuple[float, float]:
    return stock.length - 2 * order.edge, stock.width - 2 * order.edge


def _fits(part: Part, stock: Stock, order: Order) -> bool:
    """Whether a part fits a sheet of its own, in one of the ways it may be turned."""
    return _alone(part, stock, order) is not None


def _alone(part: Part, stock: Stock, order: Order) -> Placement | None:
    from shapely import affinity

    length, width = _room(stock, order)
    for turn in _turns(order):
        left, low, right, high = affinity.rotate(part.outline, turn, origin=(0, 0)).bounds
        if right - left + 2 * EASE <= length and high - low + 2 * EASE <= width:
            return Placement(1.0, order.edge + EASE - left, order.edge + EASE - low, turn)
    return None


def _turns(order: Order) -> tuple[float, ...]:
    return FIXED_TURNS if order.grain else FREE_TURNS


def _too_large(part: Part, order: Order) -> str:
    left, low, right, high = part.outline.bounds
    size = f"{right - left:.0f} × {high - low:.0f} mm"
    if any(_fits(part, stock, order) for stock in order.stock):
        return f"{part.name} ({size}) found no sheet: all of that stock is used up"
    best = max((_room(stock, order) for stock in order.stock), key=lambda room: room[0] * room[1])
    turned = " along the grain" if order.grain else " whichever way it is turned"
    return f"{part.name} ({size}) does not fit the {best[0]:g} × {best[1]:g} mm inside the edges of a sheet{turned}"


def _one_sheet(fitting: Sequence[Part], stock: Stock, order: Order) -> Sheet:
    """One sheet with as many of the parts as a laying of all that could share it leaves on it."""
    length, width = _room(stock, order)
    chosen, area = [], 0.0
    for part in fitting:
        if area + part.area <= length * width:
            chosen.append(part)
            area += part.area
    best: list[Laid] = []
    for _ in range(MOST_TRIES):
        laid = [each for each in _packed(chosen, width, order) if _right(each) <= length + 1e-6]
        laid = [Laid(each.part, Placement(1.0, order.edge, order.edge).after(each.where)) for each in laid]
        if _sound(laid, stock, order) and _area(laid) > _area(best):
            best = laid
        if len(laid) == len(chosen) or len(chosen) == 1:
            break
        chosen = chosen[: max(1, (len(laid) + len(chosen)) // 2)]  # the least go to the next sheet
    if not best:
        where = _alone(fitting[0], stock, order)
        assert where is not None
        best = [Laid(fitting[0], where)]
    return Sheet(stock, tuple(best))


MOST_TRIES = 3
"""A sheet is laid so often with fewer and fewer parts until all of them find room."""


def _area(laid: Sequence[Laid]) -> float:
    return sum(each.part.area for each in laid)


def _packed(parts: Sequence[Part], width: float, order: Order) -> list[Laid]:
    """Parts laid in a strip of a width, as far to the left as was found."""
    import spyrrow

    grown = (EASE + order.kerf / 2) / math.cos(math.pi / (4 * ROUNDED))  # the corners of its rounds lie outside
    outlines = [part.outline.buffer(grown, quad_segs=ROUNDED).simplify(EASE / 2) for part in parts]
    items = [
        spyrrow.Item(str(n), list(outline.exterior.coords), 1, list(_turns(order))) for n, outline in enumerate(outlines)
    ]
    seconds = max(1, min(order.seconds, len(parts) // 2))
    config = spyrrow.StripPackingConfig(
        total_computation_time=None, exploration_time=seconds, compression_time=seconds // 2, num_workers=1, seed=1
    )
    try:
        found = spyrrow.StripPackingInstance("", width + 2 * (grown - EASE), items).solve(config)
    except BaseException as fault:  # what the library gives up on is no Exception
        if type(fault).__name__ != "PanicException":
            raise
        return []
    back = Placement(1.0, EASE - grown, EASE - grown)
    return [
        Laid(parts[int(each.id)], back.after(Placement(1.0, *each.translation, each.rotation)))
        for each in found.placed_items
    ]


ROUNDED = 16
"""Sides of a quarter of the rounds at the corners of an outline that is laid."""


def _at(laid: Laid) -> Polygon:
    from shapely import Polygon

    return Polygon([laid.where.at(x, y) for x, y in laid.part.outline.exterior.coords])


def _right(laid: Laid) -> float:
    return float(_at(laid).bounds[2])


def _sound(laid: Sequence[Laid], stock: Stock, order: Order) -> bool:
    """Whether all lie inside the sheet's edges and none nearer to another than the kerf."""
    from shapely import STRtree, box

    outlines = [_at(each) for each in laid]
    inside = box(order.edge, order.edge, stock.length - order.edge, stock.width - order.edge).buffer(1e-6)
    if not all(inside.covers(outline) for outline in outlines):
        return False
    tree = STRtree(outlines)
    for n, outline in enumerate(outlines):
        for m in tree.query(outline.buffer(order.kerf + 1)):
            if m > n and (outline.distance(outlines[m]) < order.kerf - 1e-6 or outline.overlaps(outlines[m])):
                return False
    return True


def copied(parts: Sequence[Part], copies: Mapping[str, int]) -> list[Part]:
    """Parts as often as they are wanted, by their names; those not named as often as their figures say.

    Raises:
        BadGiven: a name that none has, or a count past reason.
    """
    known = {part.name: part for part in parts}
    for name, count in copies.items():
        if name not in known:
            raise BadGiven("copies", f"no pattern is called “{quoted(name)}”; there are {', '.join(sorted(known))}")
        if not 0 <= count <= MOST_PARTS:
            raise BadGiven("copies", f"{count} copies of {name}: from 0 to {MOST_PARTS} are laid", "1")
    kept = [part for part in parts if part.name not in copies]
    return [*kept, *(replace(known[name]) for name, count in copies.items() for _ in range(count))]


# ----------------------------------------------------------------------------------------------------------------- pages
def strokes_on(sheet: Sheet, dashed: bool = False) -> list[Stroke]:
    """What is cut and folded on a sheet, fold lines in dashes where they are wanted so."""
    whole = [stroke.moved(each.where) for each in sheet.laid for stroke in each.part.strokes]
    return [piece for stroke in whole for piece in (in_dashes(stroke) if dashed else (stroke,))]


def sheet_file(kind: str, sheet: Sheet, profile: Profile, title: str) -> bytes:
    """What is cut and folded on a sheet, folds first, as a file for a machine: gcode, svg or dxf, a layer for each pen."""
    strokes = ordered(strokes_on(sheet, profile.dashed and kind == "gcode"), (Pen.FOLD, Pen.CUT))
    if kind == "gcode":
        return job(strokes, profile, title).text.encode()
    if kind == "svg":
        return svg_layers(strokes, sheet.stock.length, sheet.stock.width, title).encode()
    return dxf_layers(strokes, title).encode()


def sheet_page(sheet: Sheet, number: int, count: int, order: Order, work: str = "") -> Page:
    """A stock sheet at full size: its edges, the patterns with their names, and how much of it is used."""
    marks = [curve_of(stroke) for stroke in strokes_on(sheet)]
    names = [mark for each in sheet.laid for mark in _named(each)]
    length, width = sheet.stock.length, sheet.stock.width
    foot = max(14.0, width / 40)
    corners = [(0.0, 0.0), (length, 0.0), (length, width), (0.0, width)]
    edges = [
        Segment(x1=a[0], y1=a[1], x2=b[0], y2=b[1], pen=Pen.BORDER)
        for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)
    ]
    said = (
        f"sheet {number} of {count}   {length:g} × {width:g} mm   {len(sheet.laid)} patterns   used {100 * sheet.use:.1f} %"
    )
    said += f"   kerf {order.kerf:g} mm   grain {'along the sheet' if order.grain else 'free'}"
    lift = Placement(1.0, MARGIN, foot)
    told = text(MARGIN, 0.35 * foot, f"{work}   {said}" if work else said, min(0.3 * foot, 0.3 * foot * length / 400))
    grain = _grain_arrow(length, width) if order.grain else []
    furniture = (*(placed(mark, lift) for mark in (*edges, *grain)), told)
    figure = [placed(mark, lift) for mark in (*marks, *names)]
    return Page(length + 2 * MARGIN, width + foot + MARGIN, figure, furniture, [], [], Fraction(1), {}, NO_LETTERING)


MARGIN = 5.0
"""White round a stock sheet on its page, mm."""


def _grain_arrow(length: float, width: float) -> list[Mark]:
    """An arrow along the grain, in the high right corner."""
    size = min(length, width) / 12
    x, y = length - 0.4 * size, width - 0.4 * size
    tip = [(x, y), (x - 0.4 * size, y + 0.15 * size), (x - 0.4 * size, y - 0.15 * size)]
    lines = [((x - 2 * size, y), tip[0]), (tip[0], tip[1]), (tip[0], tip[2])]
    return [Segment(x1=a[0], y1=a[1], x2=b[0], y2=b[1], pen=Pen.DIMENSION) for a, b in lines]


def _named(laid: Laid) -> list[Mark]:
    """A part's name where it has most room."""
    from shapely import LineString, get_parts, maximum_inscribed_circle, unary_union

    lines = unary_union([LineString(stroke.moved(laid.where).points()) for stroke in laid.part.strokes]).buffer(0.5)
    free = max(get_parts(_at(laid).difference(lines)), key=lambda part: float(part.area))
    spoke = maximum_inscribed_circle(free, tolerance=1.0)
    (x, y), radius = spoke.coords[0], spoke.length
    height = min(8.0, 1.6 * radius / max(text_width(laid.part.name, 1.0), 1.0))
    return [text(x, y - height / 2, laid.part.name, height, "centre")] if height >= 0.8 else []
