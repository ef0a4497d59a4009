"""A drafter's hand: how far each kind of operation strays, as standard deviations."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING, Any, NamedTuple, cast

from wisecompass.arithmetic import Number
from wisecompass.geometry.plane import Point

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray


@dataclass(frozen=True)
class Hand:
    """Standard deviations in mm (protractor in degrees). The default is an ordinary, careful drafter."""

    needle: float = 0.12
    compass: float = 0.15
    straightedge: float = 0.12
    protractor: float = 0.25
    scale: float = 0.15

    def on_paper(self, scale: float) -> Hand:
        """The same hand in mm of what is drawn: it strays on the paper, and its angles do whatever the scale."""
        lengths = (self.needle, self.compass, self.straightedge)
        needle, compass, straightedge = (value / scale for value in lengths)
        return Hand(needle, compass, straightedge, self.protractor, self.scale / scale)

    def scaled(self, share: float) -> Hand:
        """The same hand, steadier by ``share``."""
        values = (self.needle, self.compass, self.straightedge, self.protractor, self.scale)
        return Hand(*(value * share for value in values))


class Unsteadiness:
    """Draws the errors of ``count`` hands, of which the first is steady: by it is decided what the others do alike. ``only``
    confines errors to some steps, to find which are to blame."""

    unasked: Collection[str] = ()
    """Findings that nobody asks these hands for."""

    def __init__(self, hand: Hand, count: int, seed: int, only: Collection[int] | None = None) -> None:
        import numpy as np

        self.hand = hand
        self.count = count
        self.only = only
        self._random = np.random.default_rng(seed)

    def stray(self, value: Number, part: str, step: int) -> Number:
        """``value`` as each hand makes it with the ``part`` of its skill that is asked for."""
        errors = self._random.normal(0.0, getattr(self.hand, part), self.count)
        if self.only is not None and step not in self.only:
            return value
        errors[0] = 0.0
        return value + errors

    def stray_point(self, point: Point, part: str, step: int) -> Point:
        """``point`` with independent errors across and up."""
        return Point(self.stray(point.x, part, step), self.stray(point.y, part, step), point.name)


class OneHand(Unsteadiness):
    """One hand that draws in floats. One of its strays may be far too great: that at a place ``gross`` in their order, by so
    many standard deviations more."""

    def __init__(self, hand: Hand, seed: int, gross: tuple[int, float] | None = None) -> None:
        super().__init__(hand, 1, seed)
        self.gross, self.at = gross, 0

    def stray(self, value: Number, part: str, step: int) -> Number:
        spread = getattr(self.hand, part)
        error = float(self._random.normal(0.0, spread))
        if self.gross is not None and self.gross[0] == self.at:
            error += self.gross[1] * spread
        self.at += 1
        return value + error


class OfSizes(Unsteadiness):
    """A steady hand, and so many of each of several ``sizes``, as shares of the one that is told: those of one size stray
    as those of another do, by so many times as much. ``draws`` counts what could stray."""

    def __init__(self, hand: Hand, each: int, sizes: Sequence[float], seed: int) -> None:
        super().__init__(hand, 1 + each * len(sizes), seed)
        self.each, self.sizes, self.draws = each, sizes, 0

    def stray(self, value: Number, part: str, step: int) -> Number:
        import numpy as np

        self.draws += 1
        errors = np.zeros(self.count)
        by_size = errors[1:].reshape(len(self.sizes), self.each)
        np.multiply.outer(self.sizes, self._random.normal(0.0, getattr(self.hand, part), self.each), out=by_size)
        return value + errors

    def of_size(self, values: Any, n: int) -> Any:
        """What the hands of the so manieth size make of something, of values whose last axis is all hands."""
        return values[..., 1 + n * self.each : 1 + (n + 1) * self.each]


class Draw(NamedTuple):
    """One stray of a drawing: at which step, and by which part of a hand's skill. Its place in their order is the same in
    every run of one construction."""

    step: int
    part: str


class Listing(Unsteadiness):
    """One steady hand that lists what could stray."""

    def __init__(self, hand: Hand) -> None:
        super().__init__(hand, 1, 0)
        self.draws: list[Draw] = []

    def stray(self, value: Number, part: str, step: int) -> Number:
        self.draws.append(Draw(step, part))
        return value


class Probing(Unsteadiness):
    """A steady hand, and for each of the strays hands that do but that one wrong: half a standard deviation too much, and
    too little unless one is enough. There is room for so many ``strays``; those that come after them do not stray. ``draws``
    are all. The last hands are ``free``: they stray as they will."""

    def __init__(self, hand: Hand, strays: int, free: int = 0, *, both: bool = True, unasked: Collection[str] = ()) -> None:
        self.of_each = 2 if both else 1
        super().__init__(hand, 1 + self.of_each * strays + free, 1)
        self.unasked = unasked
        self.draws: list[Draw] = []
        self._errors = _errors(strays, self.of_each, free)

    def stray(self, value: Number, part: str, step: int) -> Number:
        at = len(self.draws)
        self.draws.append(Draw(step, part))
        if at >= len(self._errors):
            return value
        return cast("Number", value + self._errors[at] * getattr(self.hand, part))


@lru_cache(maxsize=1)
def _errors(strays: int, of_each: int, free: int) -> NDArray[np.float64]:
    """By how many standard deviations each hand makes each stray: all mistakes of a sheet are drawn by the same hands."""
    import numpy as np

    errors = np.zeros((strays, 1 + of_each * strays + free))
    each = np.arange(strays)
    for k, much in enumerate((0.5, -0.5)[:of_each]):
        errors[each, 1 + of_each * each + k] = much
    errors[:, 1 + of_each * strays :] = np.random.default_rng(1).normal(size=(strays, free))
    return errors


class GoingWrong(Unsteadiness):
    """A steady hand, and for each of so many ``strays`` hands that do but that one wrong, by each of the amounts: of
    protractors in degrees, of all else in mm of what is drawn."""

    def __init__(self, hand: Hand, strays: int, lengths: Sequence[float], angles: Sequence[float]) -> None:
        super().__init__(hand, 1 + strays * len(lengths), 0)
        self.lengths, self.angles, self.place = lengths, angles, 0

    def stray(self, value: Number, part: str, step: int) -> Number:
        import numpy as np

        amounts = self.angles if part == "protractor" else self.lengths
        at = 1 + self.place * len(amounts)
        self.place += 1
        if at >= self.count:
            return value
        errors = np.zeros(self.count)
        errors[at : at + len(amounts)] = amounts
        return value + errors
