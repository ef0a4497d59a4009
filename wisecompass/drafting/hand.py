"""A drafter's hand: how far each kind of operation strays, as standard deviations."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from wisecompass.arithmetic import Number
from wisecompass.geometry.plane import Point


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
    """Draws the errors of ``count`` hands. ``only`` confines them to some steps, to find which are to blame."""

    def __init__(self, hand: Hand, count: int, seed: int, only: Collection[int] | None = None) -> None:
        import numpy as np

        self.hand = hand
        self.count = count
        self.only = only
        self._random = np.random.default_rng(seed)

    def stray(self, value: Number, spread: float, step: int) -> Number:
        """``value`` with an error of standard deviation ``spread`` in every hand."""
        if self.only is not None and step not in self.only:
            return value
        return value + self._random.normal(0.0, spread, self.count)

    def stray_point(self, point: Point, spread: float, step: int) -> Point:
        """``point`` with independent errors across and up."""
        return Point(self.stray(point.x, spread, step), self.stray(point.y, spread, step), point.name)
