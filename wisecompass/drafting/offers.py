"""The nearest givens that work: every offer is tried before it is made.

A condition declares what it would change. That is tried first, together with what other limits then ask for; where it does
not work, or something nearer does, the numbers themselves are searched, a thousandth at a time.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import TYPE_CHECKING

from wisecompass.arithmetic import PLAIN
from wisecompass.arithmetic.expression import Expression, quoted
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.givens import Form, Listed, Typed, bind_rational, in_unit, shown

if TYPE_CHECKING:
    from wisecompass.drafting.problem import Condition, Problem

GRID = 1000
"""Offers are whole thousandths."""

ROUNDS = 6
"""So many limits in turn may each change a number before another way is tried."""

BETWEEN = 12
"""Places nearer than an offer, on either side of what was typed, at which something better is looked for."""

STRETCH = 1.6
"""Each place looked at lies so many times as far from what was typed as the one before."""

Offer = dict[str, str]


@dataclass
class Search:
    """What works instead of ``typed``. Givens that could not be read are missing there; ``start`` has a value for each."""

    problem: Problem
    typed: Typed
    conditions: Sequence[Condition]
    start: Offer

    def __post_init__(self) -> None:
        self.items = {item.name: item for item in self.problem.given_list}
        self._read: dict[tuple[str, str], Expression | Listed | str] = {}

    def found(self, coupled: Sequence[str] = ()) -> Offer:
        """The nearest givens that work, as typed text by name; ``coupled`` are those that the broken limit names. Empty
        where nothing was found."""
        offer = self._in_rounds()
        single = next(iter(offer)) if offer is not None and len(offer) == 1 else None
        if offer is None or (len(offer) > 1 and len(offer) > len(self.start)):
            offer = self._of_one(coupled) or offer or self._towards_defaults(coupled)
            single = None
        if not offer:
            return {}
        offer = self._nearer(self._needed(offer))
        if single is not None:
            offer = self._better_place(single, offer)
        return offer

    def said(self, offer: Offer, unit: str | None) -> Offer:
        """The offer as it is typed in a folio of that unit."""
        if unit in (None, "mm"):
            return offer
        return {n: in_unit(self.items[n], v, "mm") if self.items[n].form.is_length else v for n, v in offer.items()}

    def sentence(self, offer: Offer) -> str:
        """``; the nearest that works is radius 12 mm``, or which numbers to change together. Of a point or a list there is
        no nearest that could be drawn: what is offered is one that works well."""
        if not offer:
            return ""
        if len(offer) == 1:
            ((name, text),) = offer.items()
            value = self._value(name, text)
            head = "it works with" if isinstance(value, Listed) else "the nearest that works is"
            return f"; {head} {self.items[name].words} {self._shown(name, text)}"
        changes = [f"{self.items[name].words} to {self._shown(name, text)}" for name, text in offer.items()]
        return f"; change {', '.join(changes[:-1])} and {changes[-1]}"

    def _shown(self, name: str, text: str) -> str:
        said = shown(self.items[name], self._value(name, text))
        return f"“{quoted(said)}”" if self.items[name].form is Form.PARTS else said

    # ----------------------------------------------------------------------------------------------------- what works
    def _value(self, name: str, text: str) -> Expression | Listed | str:
        if (name, text) not in self._read:
            self._read[name, text] = self.items[name].read(text)
        return self._read[name, text]

    def _with(self, changes: Offer) -> Typed:
        return {item: self.typed.get(item, "") for item in self.items} | {n: self._value(n, v) for n, v in changes.items()}

    def _broken(self, changes: Offer) -> Condition | None:
        """The first limit that is broken with these changes.

        Raises:
            WiseCompassError: a value outside its own limits.
        """
        return self.problem.first_broken(self.conditions, self._with(changes))

    def admits(self, changes: Offer) -> bool:
        """Whether the givens with these changes admit a figure."""
        try:
            return self._broken(changes) is None
        except WiseCompassError:
            return False

    # ------------------------------------------------------------------------------------------------- ways to look
    def _in_rounds(self) -> Offer | None:
        """What each broken limit in turn would change, until none is left."""
        changes = dict(self.start)
        for _ in range(ROUNDS):
            try:
                broken = self._broken(changes)
                if broken is None:
                    return changes
                more = broken.nearest(bind_rational(self.problem.givens, self._with(changes)))
                for name, text in more.items():
                    self._value(name, text)
            except (WiseCompassError, ZeroDivisionError):
                return None
            if not more or more.items() <= changes.items():
                return None
            changes |= more
        return None

    def _of_one(self, coupled: Sequence[str]) -> Offer | None:
        """One number changed as little as possible, the rest as it is."""
        names = [name for name in (coupled or self.items) if name in self.typed]
        best: tuple[Fraction, Offer] | None = None
        for name in names:
            at = self._typed_at(name)
            if at is None:
                continue
            for way in (1, -1):
                change = self._first(name, at, way)
                if change is not None:
                    share = abs(change[0] - at) / (abs(at) + self._grain(name))
                    if best is None or share < best[0]:
                        best = share, {**self.start, name: change[1]}
        if best is None:
            for name in names:
                for word in self.items[name].choices:
                    if self.admits({**self.start, name: word}):
                        return {**self.start, name: word}
        return None if best is None else best[1]

    def _first(self, name: str, at: Fraction, way: int) -> tuple[Fraction, str] | None:
        """The first value from ``at`` on in one direction that works, by steps that grow."""
        item, grain = self.items[name], self._grain(name)
        away = grain
        while True:
            value = at + way * away
            if (item.most is not None and value > item.most) or (item.least is not None and value < item.least):
                return None
            text = _text(value)
            if self.admits({**self.start, name: text}):
                return value, text
            away = max(away * Fraction(STRETCH).limit_denominator(10), away + grain)
            away -= away % grain

    def _towards_defaults(self, coupled: Sequence[str]) -> Offer | None:
        """The first mixture of what was typed and the defaults that works: defaults always do."""
        for names in (tuple(dict.fromkeys((*coupled, *self.start))), tuple(self.items)):
            for share in (*(Fraction(k, 32) for k in range(1, 32)), Fraction(1)):
                mixed = {name: self._mixed(name, share) for name in names}
                if self.admits(mixed):
                    return mixed
        return None

    def _mixed(self, name: str, share: Fraction) -> str:
        item = self.items[name]
        typed, default = self.typed.get(name), item.read(item.default)
        if isinstance(typed, Expression) and isinstance(default, Expression):
            return _text(_rounded(_exact(typed) * (1 - share) + _exact(default) * share, self._grain(name)))
        if isinstance(typed, Listed) and isinstance(default, Listed) and len(typed.items) == len(default.items):
            pairs = zip(typed.items, default.items, strict=True)
            return "; ".join(
                _text(_rounded(_exact(a) * (1 - share) + _exact(b) * share, Fraction(1, GRID))) for a, b in pairs
            )
        return item.default

    # ------------------------------------------------------------------------------------------------------ making good
    def _needed(self, offer: Offer) -> Offer:
        """Without the changes that are not needed."""
        for name in list(offer):
            fewer = {n: v for n, v in offer.items() if n != name}
            if name in self.typed and fewer and self.admits(fewer):
                offer = fewer
        return offer

    def _nearer(self, offer: Offer) -> Offer:
        """Each number as near to what was typed as a thousandth allows."""
        for name in list(offer):
            at = self._typed_at(name)
            value = self.items[name].read(offer[name])
            if at is None or not isinstance(value, Expression):
                continue
            grain = self._grain(name)
            good, way = _exact(value), 1 if _exact(value) > at else -1
            bad = _rounded(at, grain)
            if not self.admits({**offer, name: _text(good - way * grain)}):
                continue
            while abs(good - bad) > grain:
                middle = _rounded((good + bad) / 2, grain)
                if middle in (good, bad):
                    break
                if self.admits({**offer, name: _text(middle)}):
                    good = middle
                else:
                    bad = middle
            offer = {**offer, name: _text(good)}
        return offer

    def _better_place(self, name: str, offer: Offer) -> Offer:
        """Something nearer than a single change, on either side of what was typed."""
        at = self._typed_at(name)
        value = self.items[name].read(offer[name])
        if at is None or not isinstance(value, Expression) or name not in offer:
            return offer
        far, grain = abs(_exact(value) - at), self._grain(name)
        for place in self._places(at, far, grain):
            if abs(place - at) < far and self.admits({**offer, name: _text(place)}):
                return self._nearer({**offer, name: _text(place)})
        return offer

    def _places(self, at: Fraction, far: Fraction, grain: Fraction) -> Iterator[Fraction]:
        for k in range(1, BETWEEN):
            for way in (1, -1):
                yield _rounded(at + way * far * k / BETWEEN, grain)

    def _typed_at(self, name: str) -> Fraction | None:
        value = self.typed.get(name)
        return _exact(value) if isinstance(value, Expression) else None

    def _grain(self, name: str) -> Fraction:
        return Fraction(1) if self.items[name].form is Form.COUNT else Fraction(1, GRID)


def _exact(value: Expression) -> Fraction:
    exact = value.fraction()
    return Fraction(float(value.evaluate(PLAIN))) if exact is None else exact


def _rounded(value: Fraction, grain: Fraction) -> Fraction:
    return round(value / grain) * grain


def _text(value: Fraction) -> str:
    """A number of thousandths as it is typed."""
    whole = round(value * GRID)
    text = f"{abs(whole) // GRID}.{abs(whole) % GRID:03d}".rstrip("0").rstrip(".")
    return f"-{text}" if whole < 0 else text
