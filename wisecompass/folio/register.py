"""The register of a folio: sheets and figures added, named, numbered, moved, copied and thrown away. Every function takes a
folio and returns another; a place is (sheet, figure), both from 0, and (sheet, 0) of an empty sheet."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from dataclasses import replace
from typing import Any, TypeAlias

from wisecompass.arithmetic.expression import quoted
from wisecompass.arithmetic.linked import has_link
from wisecompass.catalogue import index, problem
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.errors import BadDocument
from wisecompass.folio.document import MOST_FIGURES, MOST_SHEETS, TITLE_FIELDS, Figure, Folio, Sheet
from wisecompass.folio.links import slug, with_renamed

Place: TypeAlias = tuple[int, int]

LONGEST_NAME = 60
"""Letters of a name that is given to a sheet or a figure."""

_NUMBERED = re.compile(r"^(.*?)[ -]*(\d+)$")


# --------------------------------------------------------------------------------------------------------------- names
def with_names(folio: Folio) -> Folio:
    """The folio with a name of its own for every figure."""
    taken: set[str] = set()  # as they are told apart in a link
    sheets = []
    for sheet in folio.sheets:
        figures = []
        for figure in sheet.figures:
            name = figure.name or short_name(figure.problem)
            if slug(name) in taken:
                name = unique_figure(name, taken)
            taken.add(slug(name))
            figures.append(figure if name == figure.name else replace(figure, name=name))
        sheets.append(sheet if tuple(figures) == sheet.figures else replace(sheet, figures=tuple(figures)))
    return folio if tuple(sheets) == folio.sheets else replace(folio, sheets=tuple(sheets))


def short_name(problem_id: str) -> str:
    """What a figure is called at first: the title of its problem in small letters."""
    words = index.title(problem_id)
    return words[:1].lower() + words[1:] if words[1:2].islower() else words


def unique(name: str, taken: Iterable[str], told_by: Callable[[str], str] = str) -> str:
    """The name, with the first free number behind it where it is taken; names are one where ``told_by`` is."""
    others = set(map(told_by, taken))
    if told_by(name) not in others:
        return name
    match = _NUMBERED.match(name)
    stem = match.group(1) if match and match.group(1) else name
    number = 2
    while told_by(f"{stem} {number}") in others:
        number += 1
    return f"{stem} {number}"


def unique_figure(name: str, taken: Iterable[str]) -> str:
    """A figure's name that is no other's, in a link neither."""
    return unique(name, taken, slug)


def figure_names(folio: Folio) -> list[str]:
    return [figure.name for sheet in folio.sheets for figure in sheet.figures]


def tidy_name(text: str, what: str) -> str:
    """A name as somebody types it, on one line.

    Raises:
        BadDocument: empty or too long.
    """
    name = " ".join("".join(c if c.isprintable() else " " for c in text).split())
    if not name:
        raise BadDocument(f"{what} needs a name")
    if len(name) > LONGEST_NAME:
        raise BadDocument(f"{what}: “{quoted(name)}” has {len(name)} letters; {LONGEST_NAME} have room")
    return name


# -------------------------------------------------------------------------------------------------------------- figures
def add_figure(folio: Folio, figure: Figure, sheet: int) -> tuple[Folio, Place]:
    """Put a figure on a sheet, last of its figures.

    Raises:
        BadDocument: the sheet is full.
    """
    chosen = folio.sheets[sheet]
    if len(chosen.figures) >= MOST_FIGURES:
        raise BadDocument(f"{quoted(chosen.name)} is full: a sheet takes {MOST_FIGURES} figures")
    named = replace(figure, name=unique_figure(figure.name or short_name(figure.problem), figure_names(folio)))
    return _with_sheet(folio, sheet, replace(chosen, figures=(*chosen.figures, named))), (sheet, len(chosen.figures))


def fresh_figure(problem_id: str, units: Units) -> Figure:
    """A problem with its first method and its defaults, which keep their size in a folio of any units."""
    from wisecompass.folio.print import with_units

    figure = Figure(problem_id, problem(problem_id).methods[0].name)
    return figure if units is Units.MM else with_units(figure, "mm")


def duplicate_figure(folio: Folio, place: Place) -> tuple[Folio, Place]:
    """Another figure like it, behind it on the same sheet."""
    s, f = place
    figures = folio.sheets[s].figures
    copy = replace(figures[f], name=unique_figure(figures[f].name, figure_names(folio)))
    return _with_figures(folio, s, (*figures[: f + 1], copy, *figures[f + 1 :])), (s, f + 1)


def rename_figure(folio: Folio, place: Place, text: str) -> Folio:
    """Give a figure another name; links to it keep leading there.

    Raises:
        BadDocument: no name, too long, or the name of another figure.
    """
    s, f = place
    figure = folio.sheets[s].figures[f]
    name = tidy_name(text, "a figure")
    others = [each for each in figure_names(folio) if each != figure.name]
    free = unique_figure(name, others)
    if free != name:
        raise BadDocument(f"“{quoted(name)}” is the name of another figure; free is “{free}”")
    folio = with_renamed(replace_figure(folio, place, replace(figure, name=name)), figure.name, name)
    for n, each in enumerate(folio.sheets[s].figures):
        if figure.name and each.goes_on == figure.name:
            folio = replace_figure(folio, (s, n), replace(each, goes_on=name))
    readings = {name if each == figure.name else each: read for each, read in folio.readings.items()}
    return replace(folio, readings=readings)


def go_on(folio: Folio, place: Place, problem_id: str) -> tuple[Folio, Place]:
    """Another figure that goes on with the drawing of one, or with what goes on with that already: it stands behind it, and
    what both briefs state it takes from there."""
    s, f = place
    figures = folio.sheets[s].figures
    while (following := next((n for n, each in enumerate(figures) if each.goes_on == figures[f].name), f)) != f:
        f = following
    before, forms = figures[f], index.entries()[problem_id]["forms"]
    shared = {name for name in forms if name in index.entries()[before.problem]["forms"]}
    stated = {item.name: before.givens.get(item.name, item.default) for item in problem(before.problem).given_list}
    linked = {
        n: f"{slug(before.name)}.{n}" if forms[n] in MEASURED and not has_link(stated[n]) else stated[n] for n in shared
    }
    made = Figure(problem_id, problem(problem_id).methods[0].name, linked, turn=before.turn, goes_on=before.name)
    made = replace(made, name=unique_figure(short_name(problem_id), figure_names(folio)))
    return _with_figures(folio, s, (*figures[: f + 1], made, *figures[f + 1 :])), (s, f + 1)


MEASURED = ("length", "offset", "angle", "ratio")
"""Forms of givens that are taken from another figure by a link; words and counts are taken over as they stand."""


def continuations(problem_id: str) -> list[str]:
    """The problems that can go on with a figure: of its family, with at least two lengths in common."""
    entries = index.entries()
    own = entries.get(problem_id, {"forms": {}})["forms"]
    lengths = {name for name, form in own.items() if form in ("length", "offset")}
    family = problem_id.split("/")[0]
    return [
        each
        for each, entry in entries.items()
        if each != problem_id and each.split("/")[0] == family and len(lengths & entry["forms"].keys()) > 1
    ]


def replace_figure(folio: Folio, place: Place, figure: Figure) -> Folio:
    s, f = place
    figures = folio.sheets[s].figures
    return _with_figures(folio, s, (*figures[:f], figure, *figures[f + 1 :]))


def delete_figure(folio: Folio, place: Place) -> tuple[Folio, Place]:
    """Throw a figure away; in hand is then the one that follows, or the last of the sheet."""
    s, f = place
    figures = folio.sheets[s].figures
    left = (*figures[:f], *figures[f + 1 :])
    return _with_figures(folio, s, left), (s, max(0, min(f, len(left) - 1)))


def move_figure(folio: Folio, place: Place, to: Place) -> tuple[Folio, Place]:
    """Take a figure to another place, where it stands before the one that was there."""
    s, f = place
    figure = folio.sheets[s].figures[f]
    taken = _with_figures(folio, s, (*folio.sheets[s].figures[:f], *folio.sheets[s].figures[f + 1 :]))
    t = max(0, min(to[0], len(taken.sheets) - 1))
    figures = taken.sheets[t].figures
    g = max(0, min(to[1], len(figures)))
    return _with_figures(taken, t, (*figures[:g], figure, *figures[g:])), (t, g)


def nudge_figure(folio: Folio, place: Place, way: int) -> tuple[Folio, Place]:
    """Move a figure one place up (-1) or down (1); past the end of its sheet it goes on to the next one."""
    s, f = place
    last = len(folio.sheets[s].figures) - 1
    if way < 0 and f == 0:
        return move_figure(folio, place, (s - 1, len(folio.sheets[s - 1].figures))) if s else (folio, place)
    if way > 0 and f == last:
        return move_figure(folio, place, (s + 1, 0)) if s + 1 < len(folio.sheets) else (folio, place)
    return move_figure(folio, place, (s, f + way))


# --------------------------------------------------------------------------------------------------------------- sheets
def add_sheet(folio: Folio, after: int, name: str = "") -> tuple[Folio, Place]:
    """An empty sheet behind another, of the same paper, with the next number.

    Raises:
        BadDocument: the folio is full.
    """
    if len(folio.sheets) >= MOST_SHEETS:
        raise BadDocument(f"a folio takes {MOST_SHEETS} sheets")
    like = folio.sheets[after]
    numbers = [sheet.number for sheet in folio.sheets]
    named = name or unique(f"Sheet {len(folio.sheets) + 1}", [sheet.name for sheet in folio.sheets])
    fresh = Sheet(named, next_number(like.number, numbers), (), like.paper, like.landscape)
    return replace(folio, sheets=(*folio.sheets[: after + 1], fresh, *folio.sheets[after + 1 :])), (after + 1, 0)


def next_number(number: str, taken: Iterable[str]) -> str:
    """The first free number behind another: A-04 gives A-05."""
    match = re.fullmatch(r"(.*?)(\d+)(\D*)", number)
    others = set(taken)
    if match is None:
        return unique(f"{number} 2" if number else "1", others)
    before, digits, behind = match.groups()
    count = int(digits) + 1
    while f"{before}{count:0{len(digits)}d}{behind}" in others:
        count += 1
    return f"{before}{count:0{len(digits)}d}{behind}"


def duplicate_sheet(folio: Folio, sheet: int) -> tuple[Folio, Place]:
    """Another sheet like it with all its figures, behind it."""
    if len(folio.sheets) >= MOST_SHEETS:
        raise BadDocument(f"a folio takes {MOST_SHEETS} sheets")
    old = folio.sheets[sheet]
    copy = replace(
        old,
        name=unique(old.name, [each.name for each in folio.sheets]),
        number=next_number(old.number, [each.number for each in folio.sheets]),
    )
    sheets = (*folio.sheets[: sheet + 1], copy, *folio.sheets[sheet + 1 :])
    return with_names(replace(folio, sheets=sheets)), (sheet + 1, 0)


def rename_sheet(folio: Folio, sheet: int, text: str) -> Folio:
    return _with_sheet(folio, sheet, replace(folio.sheets[sheet], name=tidy_name(text, "a sheet")))


def renumber_sheet(folio: Folio, sheet: int, text: str) -> Folio:
    """Give a sheet another number. Two sheets may have one; ``same_number`` tells.

    Raises:
        BadDocument: no number, or too long.
    """
    number = tidy_name(text, "a sheet's number")
    return _with_sheet(folio, sheet, replace(folio.sheets[sheet], number=number))


def with_title(folio: Folio, sheet: int, field: str, text: str) -> Folio:
    """The folio with one field of the title block written anew: of the whole folio, or of a sheet its name, number or
    revision.

    Raises:
        BadDocument: a sheet without a name, or a number that another has.
    """
    old = folio.sheets[sheet]
    tidy = " ".join(text.split())
    if tidy == getattr(folio if field in TITLE_FIELDS else old, field):
        return folio
    if field == "name":
        return rename_sheet(folio, sheet, tidy)
    if field == "number":
        return renumber_sheet(folio, sheet, tidy)
    if field == "revision":
        return _with_sheet(folio, sheet, replace(old, revision=tidy))
    change: dict[str, Any] = {field: tidy}
    return replace(folio, **change)


def same_number(folio: Folio, sheet: int) -> str:
    """A sentence where another sheet has the number of this one; else nothing."""
    number = folio.sheets[sheet].number
    if not number or sum(each.number == number for each in folio.sheets) < 2:
        return ""
    free = next_number(number, [each.number for each in folio.sheets])
    return f"two sheets have the number {quoted(number)}: both are kept, and files of both are written; free is {free}"


def move_sheet(folio: Folio, sheet: int, to: int) -> tuple[Folio, Place]:
    """Take a sheet to another place in the order."""
    rest = [*folio.sheets[:sheet], *folio.sheets[sheet + 1 :]]
    to = max(0, min(to, len(rest)))
    return replace(folio, sheets=(*rest[:to], folio.sheets[sheet], *rest[to:])), (to, 0)


def delete_sheet(folio: Folio, sheet: int) -> tuple[Folio, Place]:
    """Throw a sheet away with its figures. Of the last one an empty sheet is left."""
    left = (*folio.sheets[:sheet], *folio.sheets[sheet + 1 :])
    if not left:
        old = folio.sheets[0]
        left = (replace(old, name="Sheet 1", figures=()),)
    return replace(folio, sheets=left), (max(0, min(sheet, len(left) - 1)), 0)


def apart(folio: Folio) -> Folio:
    """The folio with a sheet for each figure, as older versions had a page for each."""
    sheets: list[Sheet] = []
    numbers = [sheet.number for sheet in folio.sheets]
    for sheet in folio.sheets:
        for f, figure in enumerate(sheet.figures):
            number = sheet.number if f == 0 else unique(f"{sheet.number}-{f + 1}".strip("-"), numbers)
            numbers.append(number)
            sheets.append(replace(sheet, number=number, figures=(figure,)))
        if not sheet.figures:
            sheets.append(sheet)
    return replace(folio, sheets=tuple(sheets))


def _with_sheet(folio: Folio, index: int, sheet: Sheet) -> Folio:
    return replace(folio, sheets=(*folio.sheets[:index], sheet, *folio.sheets[index + 1 :]))


def _with_figures(folio: Folio, index: int, figures: tuple[Figure, ...]) -> Folio:
    return _with_sheet(folio, index, replace(folio.sheets[index], figures=figures))


def place_of(folio: Folio, name: str) -> Place:
    """Where the figure of a name stands, as it is called or as it is typed in a link.

    Raises:
        BadDocument: there is none.
    """
    for told_by in (str, slug):
        for s, sheet in enumerate(folio.sheets):
            for f, figure in enumerate(sheet.figures):
                if told_by(figure.name) == told_by(name):
                    return s, f
    there = quoted(", ".join(figure_names(folio)))
    raise BadDocument(f"there is no figure “{quoted(name)}”; there are {there or 'none'}")


def sheet_of(folio: Folio, number: str | None) -> int:
    """Which sheet has a number, or else that name; the last one without.

    Raises:
        BadDocument: none has.
    """
    if number is None:
        return len(folio.sheets) - 1
    for field in ("number", "name"):
        for s, sheet in enumerate(folio.sheets):
            if getattr(sheet, field) == number:
                return s
    there = quoted(", ".join(sheet.number or sheet.name for sheet in folio.sheets))
    raise BadDocument(f"there is no sheet “{quoted(number)}”; there are {there}")
