"""From a folio to its pages."""

from __future__ import annotations

import re
import unicodedata
from collections import OrderedDict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import TypeAlias

from wisecompass.catalogue import problem
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.errors import BadDocument, Undrawable, WiseCompassError
from wisecompass.drafting.givens import in_unit
from wisecompass.drafting.letters import read_letters
from wisecompass.drafting.marks import Box
from wisecompass.drafting.solve import Drawing, draw
from wisecompass.folio import going_on
from wisecompass.folio.document import Figure, Folio
from wisecompass.folio.layout import arrange
from wisecompass.folio.links import read_figure, read_from
from wisecompass.folio.page import (
    NO_LETTERING,
    Caption,
    Cell,
    Lettering,
    Page,
    blank,
    captioned,
    compose,
    overflow,
    room_of,
    said_of,
    shared_room,
    together,
)
from wisecompass.folio.paper import Paper
from wisecompass.folio.register import Place, unique
from wisecompass.folio.scales import SCALES, WITH_BETWEEN, read_scale, scale_text
from wisecompass.folio.sheet_plan import MOST_PLANNED, Wanted, alike, largest_free, parts
from wisecompass.folio.title_block import Title, title_of


def with_units(figure: Figure, unit: str) -> Figure:
    """The figure with ``unit`` written after every length that has none, defaults filled in: it stays the same size
    whatever a bare number means in its folio."""
    givens = {}
    for item in problem(figure.problem).given_list:
        text = figure.givens.get(item.name)
        if item.form.is_length:
            meant = unit if text is not None else "mm"
            text = text if text is not None else item.default
            givens[item.name] = in_unit(item, text, meant)
        elif text is not None:
            givens[item.name] = text
    return replace(figure, givens=givens)


def conventions_of(folio: Folio, figure: Figure | None = None) -> Conventions:
    """The schools of a folio, and what is wished of a figure."""
    found = folio.conventions.as_conventions()
    if figure is None or not (figure.left_out or figure.whole_circles or figure.turn or figure.letters):
        return found
    left_out, letters = frozenset(figure.left_out), read_letters(figure.letters)
    return replace(found, left_out=left_out, whole_circles=figure.whole_circles, turn=figure.turn, letters=letters)


def drawn_from(folio: Folio, figure: Figure) -> tuple[object, ...]:
    """All that a figure's drawing hangs on."""
    wishes = (tuple(figure.places.items()), figure.left_out, figure.whole_circles, figure.turn, figure.letters)
    source = going_on.before(folio, figure)
    base = None if source is None else drawn_from(folio, source)
    return read_from(folio, figure), figure.method, figure.solution, wishes, folio.conventions, base


def laid_from(folio: Folio, place: Place, cell: Cell | None) -> tuple[object, ...]:
    """All that the page of a figure hangs on, but for the title block."""
    sheet = folio.sheets[place[0]]
    figure = sheet.figures[place[1]]
    own = (figure.name, figure.scale, tuple(figure.shifts.items()), cell)
    return drawn_from(folio, figure), own, sheet.paper, sheet.landscape, bool(title_of(folio, place).fields)


def drawn(folio: Folio, figure: Figure) -> Drawing:
    """A figure drawn in floats; remembered, for the figures of a sheet are asked for whenever one of them changes.

    Raises:
        WiseCompassError: its givens, method or solution do not work.
    """
    key = drawn_from(folio, figure)
    if key not in _DRAWN:
        found, typed = problem(figure.problem), read_figure(folio, figure)
        method, conventions = found.method(figure.method), conventions_of(folio, figure)
        try:
            own = draw(found, typed, method, conventions, figure.solution, places=figure.places)
            _DRAWN[key] = on_what_it_goes_on_with(folio, figure, own)
        except ArithmeticError as reason:
            raise too_close(reason) from None
        while len(_DRAWN) > DRAWINGS_KEPT:
            _DRAWN.popitem(last=False)
    _DRAWN.move_to_end(key)
    return _DRAWN[key]


def on_what_it_goes_on_with(folio: Folio, figure: Figure, own: Drawing) -> Drawing:
    """A figure's drawing with what it goes on with under it, where that can be: else its own alone."""
    source = going_on.before(folio, figure)
    base = None if source is None else tried(folio, source)
    if not isinstance(base, Drawing) or going_on.in_the_way(base, own):
        return own
    return going_on.continued(base, own)


DRAWINGS_KEPT, PLANS_KEPT = 64, 64
"""So many drawings and plans are remembered."""

_PLANS: OrderedDict[tuple[object, ...], Plan] = OrderedDict()

_DRAWN: OrderedDict[tuple[object, ...], Drawing] = OrderedDict()


Tried: TypeAlias = Drawing | WiseCompassError
"""A figure's drawing, or why there is none."""


def tried(folio: Folio, figure: Figure) -> Tried:
    """The same where a refusal is an answer too."""
    try:
        return drawn(folio, figure)
    except WiseCompassError as reason:
        return reason


def too_close(reason: ArithmeticError) -> Undrawable:
    """What is said of numbers so near to a limit that floats cannot tell them from it."""
    return Undrawable(f"these very numbers cannot be drawn ({reason}); change one of them a little")


@dataclass(frozen=True)
class Plan:
    """The cell of each figure of a sheet, and whether all of them fit there. A figure that has the sheet to itself has no
    cell."""

    cells: tuple[Cell | None, ...]
    scales: tuple[Fraction, ...]
    """At which each is drawn; 1 for one that cannot be."""
    fitting: tuple[Fraction, ...] = ()
    """At which each would fit there."""
    fit: bool = True


def planned(folio: Folio, s: int, figures: Sequence[Tried], paper: Paper | None = None) -> Plan:
    """The plan of a sheet for its figures as they were drawn, on its own paper or another."""
    sheet, conventions = folio.sheets[s], conventions_of(folio)
    paper, title = paper or sheet.as_paper(), title_of(folio, (s, 0))
    captions = [
        Caption(
            figure.name,
            said_of(each, conventions_of(folio, figure)) if isinstance(each, Drawing) else _refused_words(each),
        )
        for figure, each in zip(sheet.figures, figures, strict=True)
    ]
    drawings = [each for each in figures if isinstance(each, Drawing)]
    first = last_of_each(folio, s, figures)
    joined = [figures[n] for n in first]
    if len(figures) > MOST_PLANNED:  # a crowded sheet has room for names alone
        captions = [Caption(caption.name, "") for caption in captions]
    captions = _told_together(first, captions)
    notes = tuple(dict.fromkeys(conventions.worded(note) for each in drawings for note in each.problem.cautions))
    placed = [_placed(figure.room, paper) for figure in sheet.figures]
    if len(figures) == 1:
        if placed[0] is None:
            return Plan((None,), ())
        return Plan((Cell(placed[0], captions[0], alone=True),), ())
    room = shared_room(paper, title, len(notes))
    fixed = [read_scale(figure.scale) for figure in sheet.figures]
    free = [n for n, box in enumerate(placed) if box is None and first[n] == n]
    asked = [Wanted.of(_drawing_of(joined[n]), captions[n], fixed[n], paper.lettering) for n in free]
    scales = WITH_BETWEEN if folio.conventions.between_scales else SCALES
    left = largest_free(room, [box for n, box in enumerate(placed) if box is not None and first[n] == n])
    found, fit = parts(asked, left, scales, sheet.one_scale) if free else ([], True)
    for n, box in zip(free, found, strict=True):
        placed[n] = box
    placed = [placed[first[n]] for n in range(len(placed))]
    bare = [Cell(box, caption) for box, caption in zip(placed, captions, strict=True) if box is not None]
    reached = [
        _scale_in(each, cell, paper, conventions, title, given, scales) if isinstance(each, Drawing) else None
        for each, cell, given in zip(joined, bare, [fixed[n] for n in first], strict=True)
    ]
    shared = min((scale for scale, given in zip(reached, fixed, strict=True) if scale and not given), default=None)
    if sheet.one_scale and shared is not None:
        reached = [scale if given or scale is None else shared for scale, given in zip(reached, fixed, strict=True)]
    known = [scale for scale in reached if scale is not None]
    several = len(set(known)) > 1
    main = sorted(set(known), key=lambda scale: -known.count(scale))
    cells = tuple(
        replace(
            cell,
            heading=sheet.name,
            notes=notes,
            scales=", ".join(map(scale_text, main)),
            tells_scale=several,
            scale=shared if sheet.one_scale and not given else None,
            silent=first[n] != n,
        )
        for n, (cell, given) in enumerate(zip(bare, fixed, strict=True))
    )
    fitting = (
        _scale_in(each, cell, paper, conventions, title, None, scales) if given and isinstance(each, Drawing) else scale
        for each, cell, given, scale in zip(figures, bare, fixed, reached, strict=True)
    )
    return Plan(cells, tuple(scale or Fraction(1) for scale in reached), tuple(each or Fraction(1) for each in fitting), fit)


def last_of_each(folio: Folio, s: int, figures: Sequence[Tried]) -> list[int]:
    """For each figure of a sheet the last one of the drawing that it belongs to; itself where nothing goes on with it."""
    sheet = folio.sheets[s]
    return going_on.ends(sheet.figures, [isinstance(each, Drawing) and each.goes_on for each in figures])


def _told_together(last: Sequence[int], captions: Sequence[Caption]) -> list[Caption]:
    """One caption for all that share a drawing, with the last of them."""
    found = []
    for end in last:
        members = [captions[k] for k in range(len(last)) if last[k] == end]
        found.append(Caption(members[0].name, " Then: ".join(member.said for member in members if member.said)))
    return found


def _drawing_of(figure: Tried) -> Drawing | None:
    return figure if isinstance(figure, Drawing) else None


def _refused_words(reason: WiseCompassError) -> str:
    return f"This figure cannot be drawn: {reason}."


def _placed(room: Box | None, paper: Paper) -> Box | None:
    """The part that a figure was dragged to, inside the frame."""
    if room is None:
        return None
    left, low, right, high = paper.frame
    w, h = min(room[2], right - left), min(room[3], high - low)
    x, y = min(max(left + room[0], left), right - w), min(max(low + room[1], low), high - h)
    return x, y, x + w, y + h


def inside(paper: Paper, room: Box) -> Box:
    """The part of a sheet, from its frame, that has the size of ``room`` and lies inside the frame."""
    placed = _placed(room, paper)
    assert placed is not None
    return _from_frame(placed, paper.frame)


def _from_frame(box: Box, frame: Box) -> Box:
    """A part of a sheet as it is kept: left and low from the frame, width and height, mm."""
    left, low, right, high = box
    return round(left - frame[0], 2), round(low - frame[1], 2), round(right - left, 2), round(high - low, 2)


def with_rooms(folio: Folio, s: int, plan: Plan | None = None) -> Folio:
    """The folio with the parts of one sheet as they are now, to stay so."""
    sheet = folio.sheets[s]
    plan = plan or plan_of(folio, s)
    origin = sheet.as_paper().frame
    figures = []
    for figure, cell in zip(sheet.figures, plan.cells, strict=True):
        if figure.room is None:
            figure = replace(figure, room=_from_frame(cell.box if cell is not None else alone_room(folio, s), origin))
        figures.append(figure)
    sheets = (*folio.sheets[:s], replace(sheet, figures=tuple(figures)), *folio.sheets[s + 1 :])
    return replace(folio, sheets=sheets)


def alone_room(folio: Folio, s: int) -> Box:
    """The room of a figure that has a sheet to itself."""
    sheet = folio.sheets[s]
    drawing = tried(folio, sheet.figures[0])
    paper, title = sheet.as_paper(), title_of(folio, (s, 0))
    if not isinstance(drawing, Drawing):
        return shared_room(paper, title, 0)
    return room_of(drawing, paper, conventions_of(folio), title)[0]


def _scale_in(
    drawing: Drawing,
    cell: Cell,
    paper: Paper,
    conventions: Conventions,
    title: Title,
    fixed: Fraction | None,
    scales: Sequence[Fraction],
) -> Fraction:
    room = room_of(drawing, paper, conventions, title, cell)[0]
    return arrange(drawing.marks, drawing.rotations, room, fixed, paper.lettering, scales).scale


def plan_of(folio: Folio, s: int, drawings: Mapping[int, Drawing] | None = None) -> Plan:
    """The plan of a sheet; ``drawings`` that are at hand need not be made."""
    sheet, have = folio.sheets[s], drawings or {}
    if len(sheet.figures) == 1 and sheet.figures[0].room is None:
        return Plan((None,), ())
    hang_together = sheet.one_scale or any(figure.goes_on for figure in sheet.figures)
    if len(sheet.figures) > MOST_PLANNED and not hang_together:
        return _alike(folio, s)
    key = _plan_key(folio, s)
    if key not in _PLANS:
        figures = [have[f] if f in have else tried(folio, figure) for f, figure in enumerate(sheet.figures)]
        remember_plan(folio, s, planned(folio, s, figures))
    _PLANS.move_to_end(key)
    return _PLANS[key]


def _plan_key(folio: Folio, s: int) -> tuple[object, ...]:
    """All that the plan of a sheet hangs on."""
    sheet = folio.sheets[s]
    hangs = ((drawn_from(folio, each), each.name, each.scale, each.room, each.goes_on) for each in sheet.figures)
    own = (sheet.name, sheet.paper, sheet.landscape, sheet.one_scale, bool(title_of(folio, (s, 0)).fields))
    return tuple(hangs), own


def remember_plan(folio: Folio, s: int, plan: Plan) -> None:
    """Keep a plan that was made for a sheet as it is, here or elsewhere."""
    _PLANS[_plan_key(folio, s)] = plan
    while len(_PLANS) > PLANS_KEPT:
        _PLANS.popitem(last=False)


def _alike(folio: Folio, s: int) -> Plan:
    """Of more figures than can be planned: parts of one size, without drawing any."""
    sheet = folio.sheets[s]
    paper = sheet.as_paper()
    boxes = alike(len(sheet.figures), shared_room(paper, title_of(folio, (s, 0)), 0))
    cells = (
        Cell(_placed(figure.room, paper) or box, Caption(figure.name, ""), heading=sheet.name, tells_scale=True)
        for figure, box in zip(sheet.figures, boxes, strict=True)
    )
    return Plan(tuple(cells), ())


def laid_out(
    folio: Folio,
    place: Place,
    drawing: Drawing,
    kept: Page | None = None,
    hold: bool = False,
    lettering: Lettering | None = None,
    cell: Cell | None = None,
) -> Page:
    """A drawing on the paper of a place and in its cell there, as ``compose`` lays it out."""
    sheet = folio.sheets[place[0]]
    figure = sheet.figures[place[1]]
    scales = WITH_BETWEEN if folio.conventions.between_scales else SCALES
    title, scale = title_of(folio, place), read_scale(figure.scale) or (None if cell is None else cell.scale)
    return compose(
        drawing,
        sheet.as_paper(),
        title,
        conventions_of(folio, figure),
        scale,
        kept,
        hold,
        scales,
        lettering,
        cell,
        figure.shifts,
    )


def scale_of(folio: Folio, drawing: Drawing, place: Place = (0, 0)) -> Fraction:
    """At what scale a drawing lies on its sheet."""
    cell = plan_of(folio, place[0], {place[1]: drawing}).cells[place[1]]
    return laid_out(folio, place, drawing, lettering=NO_LETTERING, cell=cell).scale


def page_of(folio: Folio, place: Place, plan: Plan | None = None) -> Page:
    """The page of one figure, in its part of the sheet; of an empty sheet the paper with its title block.

    Raises:
        WiseCompassError: the figure's givens or method do not work; the sentence says which sheet and figure.
    """
    s, f = place
    sheet = folio.sheets[s]
    if not sheet.figures:
        return blank(sheet.as_paper(), title_of(folio, place), conventions_of(folio))
    figure = sheet.figures[f]
    try:
        drawing = drawn(folio, figure)
        return laid_out(folio, place, drawing, cell=(plan or plan_of(folio, s)).cells[f])
    except WiseCompassError as reason:
        raise BadDocument(f"{sheet.number or sheet.name}, {figure.name or figure.problem}: {reason}") from None


def refused_page(folio: Folio, place: Place, cell: Cell | None, reason: WiseCompassError) -> Page:
    """What stands on paper in the place of a figure that cannot be drawn: its name, and why."""
    sheet = folio.sheets[place[0]]
    paper, title = sheet.as_paper(), title_of(folio, place)
    page = blank(paper, title, conventions_of(folio))
    caption = Caption(sheet.figures[place[1]].name, _refused_words(reason))
    cell = replace(cell, caption=caption) if cell is not None else Cell(shared_room(paper, title, 0), caption)
    return replace(page, brief=captioned(cell, paper.lettering), cell=cell)


def sheet_page(folio: Folio, s: int) -> tuple[Page, list[str]]:
    """A whole sheet with all its figures, and what is to be said of those that cannot be drawn or run over."""
    sheet, said, pages = folio.sheets[s], [], []
    if not sheet.figures:
        return page_of(folio, (s, 0)), []
    plan = plan_of(folio, s)
    for f, figure in enumerate(sheet.figures):
        cell = plan.cells[f]
        if cell is not None and cell.silent:
            continue  # it is drawn with the one that goes on with it
        try:
            page = page_of(folio, (s, f), plan)
            over = overflow(page)
            said += [f"{sheet.number or sheet.name}, {figure.name}: {over}"] if over else []
        except BadDocument as reason:
            said.append(str(reason))
            why = tried(folio, figure)
            assert not isinstance(why, Drawing)
            page = refused_page(folio, (s, f), plan.cells[f], why)
        pages.append(page)
    return together(pages), said


def places_of(folio: Folio) -> list[Place]:
    """Every figure of the folio, and every sheet that is empty."""
    return [(s, f) for s, sheet in enumerate(folio.sheets) for f in range(max(1, len(sheet.figures)))]


def leaves_of(folio: Folio) -> list[int]:
    """The sheets that are printed: those that are not empty, unless all are."""
    return [s for s, sheet in enumerate(folio.sheets) if sheet.figures] or list(range(len(folio.sheets)))


def stems_of(folio: Folio) -> dict[int, str]:
    """A file stem of its own for every sheet."""
    taken: set[str] = set()
    found = {}
    for s in leaves_of(folio):
        sheet = folio.sheets[s]
        stem = unique(file_stem(sheet.number or sheet.name) or f"sheet-{s + 1}", taken, str.casefold)
        taken.add(stem)
        found[s] = stem.replace(" ", "-")
    return found


def file_stem(text: str) -> str:
    """A name fit for a file on any disk: letters and digits of every script, the rest as strokes."""
    plain = "".join(c if c.isalnum() or c in "._-" else "-" for c in unicodedata.normalize("NFC", text))
    return re.sub(r"-{2,}", "-", plain).strip("-.")[:LONGEST_STEM]


LONGEST_STEM = 60
"""Letters of a file's stem; with any script's four bytes a letter it stays under what disks take."""
