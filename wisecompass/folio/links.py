"""Links between figures: a number in a brief that is another figure's answer, or stands in its brief.

``hip-rafter.true_length / 2`` names a figure of the folio by its name with hyphens for spaces, and one of its findings. It
is worked out by that figure's truth in whatever arithmetic is asked for, so that exactness and proof pass through the chain.
"""

from __future__ import annotations

import math
import re
import unicodedata
from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import replace
from fractions import Fraction
from functools import lru_cache
from typing import Any

from wisecompass.arithmetic import PLAIN, Arithmetic, Number
from wisecompass.arithmetic.expression import Expression, Unreadable, quoted
from wisecompass.arithmetic.linked import ANGLE, LENGTH, LINK, PLAIN_NUMBER, Dimension, Linked, Links, has_link, renamed
from wisecompass.catalogue import index, problem
from wisecompass.drafting.answer_words import answer_words
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.givens import Typed
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.step import Kind
from wisecompass.folio.document import Figure, Folio
from wisecompass.geometry.space import Point3

KEPT = 512
"""So many figures that others hang on are remembered as they were worked out."""

DIMENSIONS: dict[Kind, Dimension] = {
    Kind.LENGTH: LENGTH,
    Kind.ANGLE: ANGLE,
    Kind.AREA: (Fraction(2), Fraction(0)),
    Kind.VOLUME: (Fraction(3), Fraction(0)),
    Kind.LENGTH_PER_RADIAN: (Fraction(1), Fraction(-1)),
    Kind.POINT: LENGTH,
}
"""What quantity a finding of a kind is; of the others a plain number."""


@lru_cache(maxsize=8192)
def slug(name: str) -> str:
    """A figure's name as it is typed in a link: letters and digits of every script, hyphens for the rest."""
    plain = re.sub(r"\W+", "-", unicodedata.normalize("NFC", name)).strip("-")
    return plain if re.search(r"[^\W\d_]", plain) else f"figure-{plain}".rstrip("-")


def link_text(figure: Figure, finding: str, item: int | None = None) -> str:
    """A link as it is typed."""
    return f"{slug(figure.name)}.{finding}" + ("" if item is None else f".{item}")


def links_in(figure: Figure) -> list[tuple[str, str]]:
    """The (given, link) pairs of a figure, in order."""
    found = ((name, text) for name, text in figure.givens.items() if has_link(text))
    return [(name, match.group()) for name, text in found for match in LINK.finditer(text)]


def with_renamed(folio: Folio, old: str, new: str) -> Folio:
    """The folio with all links to one figure led to its new name; both as they are called."""
    before, after = slug(old), slug(new)
    if before == after:
        return folio
    sheets = []
    for sheet in folio.sheets:
        figures = tuple(
            replace(figure, givens={name: renamed(text, before, after) for name, text in figure.givens.items()})
            if any(link.startswith(f"{before}.") for _, link in links_in(figure))
            else figure
            for figure in sheet.figures
        )
        sheets.append(sheet if figures == sheet.figures else replace(sheet, figures=figures))
    return replace(folio, sheets=tuple(sheets))


def read_figure(folio: Folio, figure: Figure, *, offers: bool = True) -> Typed:
    """The givens of a figure of a folio, as ``Problem.read`` reads them, its links followed.

    Raises:
        WiseCompassError: they admit no figure, or a link leads nowhere.
    """
    unit, links = _unit_and_links(folio, figure)
    return problem(figure.problem).read(figure.givens, unit, offers=offers, links=links)


def read_numbers(folio: Folio, figure: Figure) -> Typed:
    """The same without the conditions of its problem."""
    unit, links = _unit_and_links(folio, figure)
    return problem(figure.problem).read_numbers(figure.givens, unit, links=links)


def _unit_and_links(folio: Folio, figure: Figure) -> tuple[str, Links | None]:
    linked = any(map(has_link, figure.givens.values()))
    return folio.conventions.units.value, Following(folio).links_of(figure) if linked else None


def sources(folio: Folio, figure: Figure) -> list[Figure]:
    """All figures that a figure hangs on, through others too."""
    by_slug = {slug(each.name): each for sheet in folio.sheets for each in sheet.figures}
    found: dict[str, Figure] = {}
    waiting = [figure]
    while waiting:
        for _, link in links_in(waiting.pop()):
            name = link.split(".")[0]
            if name in by_slug and name not in found and by_slug[name].name != figure.name:
                found[name] = by_slug[name]
                waiting.append(by_slug[name])
    return list(found.values())


def offered(folio: Folio, besides: Figure, dimension: Dimension) -> list[str]:
    """The links that a number of a quantity may be led to, as they are typed, without loading any problem."""
    found = []
    for sheet in folio.sheets:
        for figure in sheet.figures:
            if figure.name != besides.name:
                kinds = index.entries().get(figure.problem, {}).get("kinds", {})
                fitting = (name for name, kind in kinds.items() if _dimension(Kind(kind)) == dimension)
                found += [link_text(figure, name) for name in fitting]
    return found


def _dimension(kind: Kind) -> Dimension | None:
    """What quantity a finding of a kind is; none of what is no number."""
    return None if kind in (Kind.CHOICE, Kind.POINT) else DIMENSIONS.get(kind, PLAIN_NUMBER)


def read_from(folio: Folio, figure: Figure) -> tuple[Any, ...]:
    """All that the reading of a figure's givens hangs on: where it is the same they are read alike."""
    return Following(folio).key(figure) if links_in(figure) else _own_key(figure, folio.conventions.units.value)


def _own_key(figure: Figure, unit: str) -> tuple[Any, ...]:
    return figure.problem, tuple(figure.givens.items()), unit


class Following:
    """Follows the links of a folio."""

    def __init__(self, folio: Folio) -> None:
        self.unit = folio.conventions.units.value
        self.by_slug: dict[str, Figure] = {}
        for sheet in folio.sheets:
            for figure in sheet.figures:
                self.by_slug.setdefault(slug(figure.name), figure)

    def links_of(self, figure: Figure, chain: tuple[str, ...] = ()) -> Links:
        """What the links in a figure's givens stand for; ``chain`` are the figures that hang on it already."""
        through = (*chain, slug(figure.name))

        def follow(name: str, finding: str, item: int | None) -> Linked:
            if name in through:
                circle = " ← ".join(self._called(each) for each in (*through[through.index(name) :], name))
                raise Unreadable(f"{self._called(name)} would hang on itself: {circle}")
            if name not in self.by_slug:
                raise Unreadable(f"there is no figure “{quoted(name)}” in this folio{self._likeliest(name)}")
            return self._source(self.by_slug[name], through).linked(finding, item)

        return follow

    def _called(self, name: str) -> str:
        return self.by_slug[name].name if name in self.by_slug else name

    def _likeliest(self, name: str) -> str:
        import difflib

        close = difflib.get_close_matches(name, self.by_slug, 1, 0.6)
        return f"; there is “{close[0]}”" if close else ""

    def _source(self, figure: Figure, chain: tuple[str, ...]) -> Source:
        key = self.key(figure)
        if key not in _SOURCES:
            try:
                found = problem(figure.problem)
                links = self.links_of(figure, chain)
                typed = found.read(figure.givens, self.unit, offers=False, links=links)
            except WiseCompassError as reason:
                raise Unreadable(f"{figure.name} admits no figure ({reason})") from None
            _SOURCES[key] = Source(figure.name, found, typed)
            while len(_SOURCES) > KEPT:
                _SOURCES.popitem(last=False)
        _SOURCES.move_to_end(key)
        source = _SOURCES[key]
        if source.name != figure.name:
            source = source.called(figure.name)
        return source

    def key(self, figure: Figure, chain: tuple[str, ...] = ()) -> tuple[Any, ...]:
        """All that the answers of a figure hang on."""
        own = _own_key(figure, self.unit)
        names = dict.fromkeys(link.split(".")[0] for _, link in links_in(figure))
        through = (*chain, slug(figure.name))
        inner = (self.by_slug.get(name) for name in names if name not in through)
        return (*own, *(None if each is None else self.key(each, through) for each in inner))


class Source:
    """A figure that others hang on, worked out once in each arithmetic."""

    def __init__(self, name: str, found: Problem, typed: Typed) -> None:
        self.name, self.problem, self.typed = name, found, typed
        self._found: dict[tuple[str, int], Mapping[str, Any]] = {}

    def called(self, name: str) -> Source:
        """The same under another name."""
        other = Source(name, self.problem, self.typed)
        other._found = self._found
        return other

    def linked(self, finding: str, item: int | None) -> Linked:
        """One of its answers.

        Raises:
            Unreadable: it has none of that name, or it is no number with these givens.
        """
        kinds = self.problem.findings
        if finding not in kinds and isinstance(self.typed.get(finding), Expression):
            return self._given(finding)
        if finding not in kinds:
            numbers = ", ".join(name for name, kind in kinds.items() if kind is not Kind.CHOICE)
            raise Unreadable(f"{self.name} has no “{quoted(finding)}”; it has {numbers}")
        words = f"{self.name} · {answer_words(finding)}" + ("" if item is None else f" {item}")
        value = self._number(finding, item, PLAIN, words)
        exact = Fraction(value) if isinstance(value, int) else None
        dimension = DIMENSIONS.get(kinds[finding], PLAIN_NUMBER)
        return Linked(words, dimension, lambda arithmetic: self._number(finding, item, arithmetic, words), exact)

    def _given(self, name: str) -> Linked:
        """What its brief states."""
        value = self.typed[name]
        assert isinstance(value, Expression)
        form = next(item.form for item in self.problem.given_list if item.name == name)
        exact = value.fraction()
        return Linked(f"{self.name} · {name.replace('_', ' ')}", form.dimension, value.evaluate, exact)

    def _number(self, finding: str, item: int | None, arithmetic: Arithmetic, words: str) -> Number:
        value = self._findings(arithmetic).get(finding)
        several = (value.x, value.front, value.above) if isinstance(value, Point3) else value
        if isinstance(several, tuple | list):
            if item is None or not 1 <= item <= len(several):
                raise Unreadable(f"{words} is {len(several)} numbers: say which, as in {finding}.1")
            value = several[item - 1]
        elif item is not None:
            raise Unreadable(f"{words}: it is one number, not a list")
        if value is None or isinstance(value, str | bool):
            raise Unreadable(f"{words} is no number with the numbers of that figure")
        if arithmetic is PLAIN and not isinstance(value, int):
            value = float(value)
            if not math.isfinite(value):
                raise Unreadable(f"{words} is no finite number")
        return arithmetic.number(value) if isinstance(value, int) and arithmetic is not PLAIN else value

    def _findings(self, arithmetic: Arithmetic) -> Mapping[str, Any]:
        bits = 0
        if arithmetic.name == "ball":
            from wisecompass.arithmetic import ball

            bits = ball.bits()
        key = (arithmetic.name, bits)
        if key not in self._found:
            try:
                self._found[key] = self.problem.find_truth(self.typed, arithmetic).findings
            except (ZeroDivisionError, ValueError, OverflowError) as reason:
                raise Unreadable(f"{self.name} cannot be worked out with these numbers ({reason})") from None
        return self._found[key]


_SOURCES: OrderedDict[tuple[Any, ...], Source] = OrderedDict()
