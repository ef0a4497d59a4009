"""Givens: what the brief states. Each has words, a unit, limits and a default; it stays as typed until it is needed."""

from __future__ import annotations

import math
from collections import OrderedDict
from collections.abc import Callable, Sequence
from copy import copy
from dataclasses import dataclass, field, fields, replace
from enum import Enum, StrEnum
from fractions import Fraction
from functools import lru_cache
from types import FunctionType
from typing import Any, Self, TypeAlias, cast

from wisecompass.arithmetic import BALL, EXACT, PLAIN, Arithmetic, Number, roughly
from wisecompass.arithmetic.certified import decide_sign, decide_signs
from wisecompass.arithmetic.expression import LENGTH_UNITS, Expression, Unreadable, of, one_line, quoted, read, with_unit
from wisecompass.arithmetic.linked import ANGLE, LENGTH, PLAIN_NUMBER, Dimension, Links, has_link, kind_words
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.parts_text import SIMPLEST, Line, Misread, lines_of, parts_of, read_parts, with_units
from wisecompass.drafting.setting import given
from wisecompass.drafting.wording import number_text
from wisecompass.geometry.plane import line_angle


class Form(StrEnum):
    """What kind of value a given is."""

    LENGTH = "length"
    OFFSET = "offset"
    ANGLE = "angle"
    RATIO = "ratio"
    COUNT = "count"
    CHOICE = "choice"
    LENGTHS = "lengths"
    ANGLES = "angles"
    POINT = "point"
    SPACE_POINT = "space point"
    PARTS = "parts"

    @property
    def each(self) -> Form:
        """What each number of a list or a point is; for a single number its own form."""
        parts = {
            Form.PARTS: Form.OFFSET,
            Form.LENGTHS: Form.LENGTH,
            Form.ANGLES: Form.ANGLE,
            Form.POINT: Form.OFFSET,
            Form.SPACE_POINT: Form.OFFSET,
        }
        return parts.get(self, self)

    @property
    def is_length(self) -> bool:
        """Whether its numbers are measured in mm."""
        return self.each in (Form.LENGTH, Form.OFFSET)

    @property
    def unit(self) -> str:
        return "mm" if self.is_length else "°" if self.each is Form.ANGLE else ""

    @property
    def dimension(self) -> Dimension:
        """What quantity its numbers are."""
        return LENGTH if self.is_length else ANGLE if self.each is Form.ANGLE else PLAIN_NUMBER


SHORTEST, LONGEST = Fraction(1, 1000), Fraction(1_000_000)
"""No drafter sets a compass to less than a micrometre or more than a kilometre."""

Raw: TypeAlias = str | int | float | Fraction


@dataclass(frozen=True)
class Listed:
    """A list of numbers, or the coordinates of a point, as typed."""

    items: tuple[Expression, ...]

    @property
    def text(self) -> str:
        return ", ".join(item.text for item in self.items)

    def bound(self, numbers: Sequence[Any]) -> tuple[Any, ...]:
        """Its numbers of some arithmetic, or what they make."""
        return tuple(numbers)


@dataclass(frozen=True)
class ListedParts(Listed):
    """The parts of a body, as typed."""

    written: str = ""
    lines: tuple[Line, ...] = ()

    @property
    def text(self) -> str:
        return self.written

    def bound(self, numbers: Sequence[Any]) -> tuple[Any, ...]:
        return parts_of(self.lines, numbers)


Typed: TypeAlias = dict[str, Expression | Listed | str]
"""A full set of givens as typed: an expression, several, or the word of a choice."""


@dataclass(frozen=True)
class Given:
    """One given: its ``words`` in a sentence, its limits (inclusive), and its default as it would be typed."""

    words: str
    form: Form
    default: str
    least: Fraction | None = None
    most: Fraction | None = None
    choices: tuple[str, ...] = ()
    limit_words: str = ""
    name: str = ""
    fewest: int = 0
    """How few and how many numbers a list may have."""
    longest: int = 0

    def read(self, raw: Raw, unit: str | None = None, links: Links | None = None) -> Expression | Listed | str:
        """Check one value; ``links`` say what the names of other figures stand for.

        Raises:
            BadGiven: unreadable, of the wrong kind, or outside the limits; with the nearest value that works.
        """
        if self.form is Form.CHOICE:
            return self._choose(raw)
        if self.form is Form.PARTS:
            return self._read_parts(raw if isinstance(raw, str) else quoted(raw), unit, links)
        if self.form.each is not self.form:
            return self._read_several(raw if isinstance(raw, str) else quoted(raw), unit, links)
        return self._read_one(raw, unit, links)

    def _read_several(self, raw: str, unit: str | None, links: Links | None = None) -> Listed:
        """Numbers between commas (or semicolons, where commas are decimal); a unit after the last is that of all."""
        pieces = split_list(raw) if raw.strip() else []
        defaults = split_list(self.default)
        if len(pieces) < self.fewest:
            filled = "; ".join([*pieces, *defaults[len(pieces) : self.fewest]])
            few = f"{self.words}: {len(pieces)} numbers are too few; there must be at least {self.fewest}"
            raise BadGiven(self.name, few, self._mended(filled, unit))
        if len(pieces) > self.longest:
            cut = "; ".join(pieces[: self.longest])
            many = f"{self.words}: {len(pieces)} numbers are too many; there must be at most {self.longest}"
            raise BadGiven(self.name, many, self._mended(cut, unit))
        shared = _unit_of(pieces[-1])
        items: list[Expression] = []
        refused: tuple[int, BadGiven] | None = None
        works = list(pieces)
        for index, piece in enumerate(pieces):
            one = replace(self, form=self.form.each, default=defaults[index % len(defaults)])
            whole = with_unit(piece, shared) if shared else piece
            try:
                item = one._read_one(whole, unit, links)
            except BadGiven as reason:
                refused = refused or (index, reason)
                works[index] = str(reason.nearest)
            else:
                works[index] = whole
                items.append(item if whole == piece else replace(item, text=piece))
        if refused is not None:
            raise BadGiven(self.name, f"number {refused[0] + 1} of {refused[1]}", "; ".join(works)) from None
        return Listed(tuple(items))

    def _read_parts(self, raw: str, unit: str | None, links: Links | None = None) -> ListedParts:
        """The parts of a body; what is no part is refused, with the text without it or with what would be one."""

        size = replace(self, form=Form.LENGTH, least=SHORTEST)
        place = replace(self, form=Form.OFFSET)

        def number(word: str, above_zero: bool) -> Expression:
            one = size if above_zero else place
            try:
                return _read_word(one, word, unit) if links is None else one._read_one(word, unit, links)
            except BadGiven as reason:
                sentence = str(reason).removeprefix(f"{self.words}: ").removeprefix(f"{self.words} ")
                raise Misread(sentence) from None

        try:
            numbers, lines = read_parts(raw, number)
        except Misread as reason:
            nearest = reason.mended or SIMPLEST
            try:
                read_parts(nearest, number)
            except Misread:
                nearest = SIMPLEST
            raise BadGiven(self.name, f"{self.words}: {reason}", nearest) from None
        return ListedParts(tuple(numbers), "; ".join(lines_of(raw)), tuple(lines))

    def _mended(self, text: str, unit: str | None) -> str:
        """A list of the right length that can be read."""
        try:
            self._read_several(text, unit)
        except BadGiven as reason:
            return str(reason.nearest)
        return text

    def _read_one(self, raw: Raw, unit: str | None = None, links: Links | None = None) -> Expression:
        try:
            default_unit = unit if self.form.is_length else None
            value = read(raw, default_unit, links) if isinstance(raw, str) else of(raw)
        except Unreadable as problem:
            raise BadGiven(self.name, f"{self.words}: {problem}", self.default) from None
        if not self.form.is_length and value.unit in LENGTH_UNITS:
            sentence = f"{self.words} {quoted(value.text)} is a length; it must be {self._kind_words()}"
            raise BadGiven(self.name, sentence, self.default)
        if self.form.is_length and value.unit in ("°", "deg"):
            raise BadGiven(self.name, f"{self.words} {quoted(value.text)} is an angle; it must be a length", self.default)
        if value.dimension not in (None, self.form.dimension):
            sentence = f"{self.words} {quoted(value.said)} is {kind_words(value.dimension)}; it must be {self._kind_words()}"
            raise BadGiven(self.name, sentence, self.default)
        self._check_limits(value)
        exact = value.fraction()
        if self.form is Form.COUNT and (exact is None or exact.denominator != 1):
            nearest = str(round(Fraction(float(value.evaluate(PLAIN)))))
            raise BadGiven(self.name, f"{self.words} {quoted(value.text)} is not a whole number", nearest)
        return value

    def _check_limits(self, value: Expression) -> None:
        for limit, wanted, word in ((self.least, 1, "small"), (self.most, -1, "large")):
            if limit is None:
                continue
            sign = _against(value, limit)
            if sign * wanted < 0:
                nearest = f"{float(limit):.3f}".rstrip("0").rstrip(".")
                rule = self.limit_words or f"it must be at {'least' if wanted > 0 else 'most'} {nearest}{self._unit()}"
                meant = "" if value.unit else f" {value.default_unit}" if value.default_unit else self._unit()
                raise BadGiven(self.name, f"{self.words} {quoted(value.text)}{meant} is too {word}: {rule}", nearest)

    def _choose(self, raw: Raw) -> str:
        text = one_line(str(raw)) if isinstance(raw, str) else quoted(raw)
        for choice in self.choices:
            if text.casefold() == choice.casefold():
                return choice
        listed = ", ".join(self.choices)
        raise BadGiven(self.name, f"{self.words} “{quoted(text)}” is not one of {listed}", self.choices[0])

    def _unit(self) -> str:
        return {"mm": " mm", "°": "°"}.get(self.form.unit, "")

    def _kind_words(self) -> str:
        kinds = {"angle": "an angle", "count": "a whole number", "length": "a length", "offset": "a length"}
        return kinds.get(self.form.value, "a plain number")


def read_given(item: Given, raw: Raw, unit: str | None, links: Links | None = None) -> Expression | Listed | str:
    """``item.read``; texts are remembered, for of all the givens only one changes with a key. What hangs on other figures
    is not."""
    if links is not None and isinstance(raw, str) and has_link(raw):
        return item.read(raw, unit, links)
    return _read_text(item, raw, unit) if isinstance(raw, str) else item.read(raw, unit)


@lru_cache(maxsize=1024)
def _read_text(item: Given, raw: str, unit: str | None) -> Expression | Listed | str:
    return item.read(raw, unit)


@lru_cache(maxsize=4096)
def _read_word(item: Given, word: str, unit: str | None) -> Expression:
    """One number of many in a text; of all of them only one changes with a key."""
    return item._read_one(word, unit)


def _against(value: Expression, limit: Fraction) -> int:
    """The sign of a typed value less a limit, for certain."""
    return decide_sign(lambda arithmetic: value.evaluate(arithmetic) - arithmetic.number(limit))


def _unit_of(text: str) -> str | None:
    """The unit written after a number, if it can be read."""
    try:
        return read(text).unit
    except Unreadable:
        return None


def split_list(text: str) -> list[str]:
    """The pieces between semicolons, or between commas where there are none."""
    pieces = text.split(";") if ";" in text else text.split(",")
    return [one_line(piece) for piece in pieces]


def in_unit(item: Given, text: str, unit: str) -> str:
    """Typed text of a given with ``unit`` written after it where it has none; in a list after its last number, which is
    that of all that have none of their own."""
    if item.form is Form.PARTS:
        return with_units(text, unit)
    if item.form.each is item.form:
        return with_unit(text, unit)
    *first, last = split_list(text)
    return ("; " if ";" in text else ", ").join([*first, with_unit(last, unit)])


def _given(**details: Any) -> Any:
    return field(metadata={"given": Given(**details)})


def length(words: str, default: str, least: Fraction = SHORTEST, most: Fraction = LONGEST) -> Any:
    """A length above zero, in mm."""
    return _given(words=words, form=Form.LENGTH, default=default, least=least, most=most)


def parts(words: str, default: str) -> Any:
    """The parts of a body, as ``parts_text`` reads them."""
    limits: dict[str, Any] = {"least": -LONGEST, "most": LONGEST}
    return _given(words=words, form=Form.PARTS, default=default, **limits)


def offset(words: str, default: str, least: Fraction = -LONGEST, most: Fraction = LONGEST) -> Any:
    """A length that may be zero or negative, in mm."""
    return _given(words=words, form=Form.OFFSET, default=default, least=least, most=most)


def angle(words: str, default: str, least: str = "0.01", most: str = "179.99", limit_words: str = "") -> Any:
    """An angle in degrees."""
    return _given(
        words=words,
        form=Form.ANGLE,
        default=default,
        least=Fraction(least),
        most=Fraction(most),
        limit_words=limit_words,
    )


def ratio(words: str, default: str, least: Fraction, most: Fraction) -> Any:
    """A plain number."""
    return _given(words=words, form=Form.RATIO, default=default, least=least, most=most)


def count(words: str, default: str, least: int, most: int) -> Any:
    """A whole number."""
    return _given(words=words, form=Form.COUNT, default=default, least=Fraction(least), most=Fraction(most))


def choice(words: str, *choices: str, default: str | None = None) -> Any:
    """One of several words; the first is the default unless another is named."""
    return _given(words=words, form=Form.CHOICE, default=default or choices[0], choices=choices)


def lengths(words: str, default: str, fewest: int, longest: int) -> Any:
    """A list of lengths above zero, in mm."""
    limits: dict[str, Any] = {"least": SHORTEST, "most": LONGEST}
    return _given(words=words, form=Form.LENGTHS, default=default, fewest=fewest, longest=longest, **limits)


def angles(words: str, default: str, fewest: int, longest: int, most: str) -> Any:
    """A list of angles in degrees, each of at least 0.01°."""
    limits: dict[str, Any] = {"least": Fraction("0.01"), "most": Fraction(most)}
    return _given(words=words, form=Form.ANGLES, default=default, fewest=fewest, longest=longest, **limits)


def point(words: str, default: str) -> Any:
    """A point of the sheet: x and y in mm."""
    limits: dict[str, Any] = {"least": -LONGEST, "most": LONGEST}
    return _given(words=words, form=Form.POINT, default=default, fewest=2, longest=2, **limits)


def space_point(words: str, default: str) -> Any:
    """A point in space: x along the fold line, distance in front of VP, height above HP, in mm."""
    limits: dict[str, Any] = {"least": -LONGEST, "most": LONGEST}
    return _given(words=words, form=Form.SPACE_POINT, default=default, fewest=3, longest=3, **limits)


@dataclass(frozen=True)
class Givens:
    """Base of every problem's givens: its fields hold numbers of one arithmetic, whole numbers and words."""

    def decide(self, margin: Callable[[Any], Number]) -> int:
        """The sign of ``margin`` of these givens, decided for good on the givens as typed, in any arithmetic."""
        (sign,) = self._decided(margin, lambda: (decide_sign(lambda arithmetic: margin(self.bound_in(arithmetic))),))
        if (tape := self.__dict__.get("_tape")) is not None:
            tape.guard(margin(self), sign)
        return sign

    def decide_all(self, margins: Callable[[Any], Sequence[Number]], *, rational: bool = True) -> tuple[int, ...]:
        """The signs of several margins that are reckoned together; not ``rational`` where they surely take roots."""
        signs = self._decided(
            margins, lambda: decide_signs(lambda arithmetic: margins(self.bound_in(arithmetic)), rational=rational)
        )
        if (tape := self.__dict__.get("_tape")) is not None:
            for value, sign in zip(margins(self), signs, strict=True):
                tape.guard(value, sign)
        return signs

    def _decided(self, margins: Callable[[Any], Any], decide: Callable[[], tuple[int, ...]]) -> tuple[int, ...]:
        """What is decided once of these givens holds for every drawing of them: remembered, where ``margins`` can be known
        again."""
        if (key := known_again(margins)) is None:
            return decide()
        known, key = _remembered(self.__dict__["_typed"]), (type(self), key)
        if key not in known:
            known[key] = decide()
        return known[key]

    def line_angle(self, way: Callable[[Any], tuple[Number, Number]], dx: Number, dy: Number) -> Number:
        """The angle of a drawn line (dx, dy) with the level, 0° to below 180°; ``way`` is its true direction, (dx, dy) up
        to sense, by which it is decided on which side of the level it lies."""
        runs, rises = self.decide_all(way)
        true_dx, true_dy = (roughly(each) for each in way(self.bound_in(PLAIN)))
        drawn_dx, drawn_dy = (dx, dy) if not self.on_tape else way(self.bound_in(PLAIN))
        if roughly(drawn_dx) * true_dx + roughly(drawn_dy) * true_dy < 0:
            runs, rises = -runs, -rises
        return line_angle(dx, dy, rises, runs)

    @property
    def on_tape(self) -> bool:
        """Whether what is decided must go through ``decide``, for it is remembered with what it hangs on."""
        return "_tape" in self.__dict__

    def bound_in(self, arithmetic: Arithmetic) -> Any:
        """The same givens as numbers of another arithmetic; kept, balls by their precision."""
        typed: Typed = self.__dict__["_typed"]
        key = f"_{arithmetic.name}"
        if arithmetic is BALL:
            from wisecompass.arithmetic import ball

            key = f"{key} {ball.bits()}"
        if key not in self.__dict__:
            self.__dict__[key] = bind(type(self), typed, arithmetic)
        return self.__dict__[key]

    def otherwise(self, **words: str) -> Self:
        """The same with other words chosen."""
        found = copy(self)
        known = {f.name for f in fields(self)} | {"_tape"}
        for name in set(found.__dict__) - known:
            del found.__dict__[name]
        found.__dict__.update(words, _typed={**self.__dict__["_typed"], **words})
        return found


_KEPT = 8
"""Of so many givens as they were typed last is remembered what was decided."""

_DECIDED: OrderedDict[int, tuple[tuple[Any, ...], dict[Any, tuple[int, ...]]]] = OrderedDict()


def _remembered(typed: Typed) -> dict[Any, tuple[int, ...]]:
    """What is known of what was typed."""
    typed_now = tuple(typed.items())
    before, known = _DECIDED.get(id(typed), ((), {}))
    if before != typed_now:
        known = {}
        _DECIDED[id(typed)] = typed_now, known
        if len(_DECIDED) > _KEPT:
            _DECIDED.popitem(last=False)
    return known


def known_again(function: Callable[..., Any]) -> Any:
    """What tells a function from others that reckon something else, if it hangs on nothing but its code and on words, whole
    numbers, classes and such functions that it closes over; else None."""
    if type(function) is not FunctionType or function.__defaults__ or function.__kwdefaults__:
        return None
    held = tuple(_held(cell.cell_contents) for cell in function.__closure__ or ())
    return None if None in held else (function.__module__, function.__code__, held)


def _held(value: Any) -> Any:
    kind = type(value)
    if kind in (str, int, bool, type) or isinstance(value, Enum):
        return kind, value
    if kind is tuple:
        found = tuple(map(_held, value))
        return None if None in found else found
    return known_again(value)


def givens_of(kind: type[Givens]) -> tuple[Given, ...]:
    """The givens that a class declares, in order; remembered, for they are wanted at every keystroke."""
    if kind not in _DECLARED:
        _DECLARED[kind] = tuple(replace(f.metadata["given"], name=f.name) for f in fields(kind))
    return _DECLARED[kind]


_DECLARED: dict[type[Givens], tuple[Given, ...]] = {}


def bind(kind: type[Givens], typed: Typed, arithmetic: Arithmetic) -> Any:
    """The givens as numbers of ``arithmetic``: counts as whole numbers, choices as words, lists and points as tuples."""
    return bind_each(kind, typed, lambda _name, value: value.evaluate(arithmetic))


def bind_each(kind: type[Givens], typed: Typed, number: Callable[[str, Expression], Any]) -> Any:
    """The same with the numbers that a function makes of each given: it gets its name, with its place in a list or point
    counted from 1 (``A:2``), and what was typed."""
    values: dict[str, object] = {}
    for item in givens_of(kind):
        value = typed[item.name]
        if isinstance(value, str):
            values[item.name] = value
        elif isinstance(value, Listed):
            numbers = [number(f"{item.name}:{k}", each) for k, each in enumerate(value.items, 1)]
            values[item.name] = value.bound(numbers)
        elif item.form is Form.COUNT:
            values[item.name] = int(value.fraction() or 0)
        else:
            values[item.name] = number(item.name, value)
    bound = kind(**values)
    object.__setattr__(bound, "_typed", typed)
    return bound


def bind_settings(kind: type[Givens], typed: Typed, arithmetic: Arithmetic) -> Any:
    """The givens as settings of a method's instruments (see ``setting``)."""
    bound = bind(kind, typed, arithmetic)
    for item in givens_of(kind):
        value = getattr(bound, item.name)
        listed = typed[item.name]
        if isinstance(listed, Listed):
            numbers = [each.evaluate(arithmetic) for each in listed.items]
            texts = [each.text if item.form is Form.PARTS else "" for each in listed.items]
            settings = [given(item.name, each, k, text) for k, (each, text) in enumerate(zip(numbers, texts, strict=True))]
            value = listed.bound(settings)
        elif not isinstance(value, str | int):
            value = given(item.name, value)
        object.__setattr__(bound, item.name, value)
    return bound


def bind_rational(kind: type[Givens], typed: Typed) -> Any:
    """The givens as fractions; an irrational one as the fraction of its float."""
    rational: Typed = {}
    for name, value in typed.items():
        if isinstance(value, str):
            rational[name] = value
        elif isinstance(value, Listed):
            rational[name] = replace(value, items=tuple(map(_rational, value.items)))
        else:
            rational[name] = _rational(value)
    return bind(kind, rational, EXACT)


def _rational(value: Expression) -> Expression:
    return value if value.fraction() is not None else of(Fraction(float(value.evaluate(PLAIN))))


def at_most(limit: Number | float, decimals: int = 3) -> str:
    """The largest number of so many decimals that does not pass ``limit``, as it would be typed."""
    exact = Fraction(cast("Fraction", limit))
    below = Fraction(math.floor(exact * 10**decimals), 10**decimals)
    return number_text(float(below), decimals).replace("−", "-")


def at_least(limit: Number | float, decimals: int = 3, *, above: bool = False) -> str:
    """The smallest number of so many decimals that is not below ``limit`` (``above``: that lies above it)."""
    exact = Fraction(cast("Fraction", limit)) * 10**decimals
    up = math.floor(exact) + 1 if above else math.ceil(exact)
    return number_text(float(Fraction(up, 10**decimals)), decimals).replace("−", "-")


LINKED_DECIMALS = 2
"""Decimals of a number that comes from another figure, as it is read in a sentence."""


def shown(item: Given, value: Expression | Listed | str) -> str:
    """A given as it reads in a sentence, with its unit."""
    if isinstance(value, str):
        return value.replace("_", " ")
    if isinstance(value, ListedParts):
        return value.text
    if isinstance(value, Listed):
        one = replace(item, form=item.form.each)
        *first, last = value.items
        listed = ", ".join([*(each.text for each in first), shown(one, last)])
        return f"({listed})" if item.form in (Form.POINT, Form.SPACE_POINT) else listed
    if value.linked:
        number = number_text(float(value.evaluate(PLAIN)), LINKED_DECIMALS)
        return f"{number}{ {'mm': ' mm', '°': '°'}.get(item.form.unit, '') } ({value.said})"
    if value.unit:
        return value.text
    unit = value.default_unit if item.form.is_length else None
    return value.text + {"mm": f" {unit or 'mm'}", "°": "°"}.get(item.form.unit, "")


def plain_values(typed: Typed) -> dict[str, float | str | list[float]]:
    """Givens as JSON numbers, lists and words."""
    result: dict[str, float | str | list[float]] = {}
    for name, value in typed.items():
        if isinstance(value, ListedParts):
            result[name] = value.text
        elif isinstance(value, Listed):
            result[name] = [float(each.evaluate(PLAIN)) for each in value.items]
        else:
            result[name] = value if isinstance(value, str) else float(value.evaluate(PLAIN))
    return result
