"""The three views of a body beside its picture, light: from them is taken what no number of the parts gives, corners where
slopes cross and points of curves."""

from __future__ import annotations

import math
from collections.abc import Sequence
from contextlib import suppress
from types import SimpleNamespace
from typing import TYPE_CHECKING, Any, TypeAlias

from wisecompass.arithmetic import PLAIN, roughly
from wisecompass.catalogue.solids.crate_curves import FINE
from wisecompass.catalogue.solids.crate_plan import far_end, in_floats
from wisecompass.catalogue.solids.crate_views import Crate
from wisecompass.drafting.crating import Viewed
from wisecompass.drafting.picturing import Distance
from wisecompass.drafting.setting import bare, span
from wisecompass.drafting.step import Instrument
from wisecompass.geometry.plane import Line
from wisecompass.geometry.surfaces import Cone, Flat, Pipe, Round, across

if TYPE_CHECKING:
    from wisecompass.catalogue.pictorial.crate_flats import Flats

Spots: TypeAlias = tuple[tuple[float, float, float], ...]
"""Places from the low corner."""

KEPT = 256
"""Of so many pictures it is remembered what they take from the views."""

_TAKEN: dict[object, Spots] = {}


def taken(g: Any) -> Spots:
    """The places of a picture that are taken from the views, as far as it is known."""
    return _TAKEN.get(_key(g), ())


def is_settled(g: Any) -> bool:
    """Whether it is known what a picture takes from the views."""
    return _key(g) in _TAKEN


def take(g: Any, places: Sequence[Sequence[float]]) -> bool:
    """Remember that these places are taken from the views too; whether any is new."""
    known = taken(g)
    new = [(x, y, z) for x, y, z in places if (x, y, z) not in known]
    if new or not is_settled(g):
        _TAKEN[_key(g)] = (*known, *new)
        while len(_TAKEN) > KEPT:
            del _TAKEN[next(iter(_TAKEN))]
    return bool(new)


def _key(g: Any) -> object:
    h = g.bound_in(PLAIN)
    return in_floats(h.parts), *(getattr(h, name) for name in h.__dataclass_fields__ if name != "parts")


class Beside(Crate):
    """The views, and what is taken from them."""

    LETTERS = "A1", "A2", "A3"

    def __init__(self, f: Flats) -> None:
        super().__init__(f.b, SimpleNamespace(parts=f.parts, views="front-top-side", crate="left out"))
        self.f = f
        what = "The three views of the parts, light, to take distances from"
        with self.b.block("views"), self.b.gathered("part", Instrument.SCALE, what):
            self.lay_out()
            for part, floats in zip(self.parts, self.floats, strict=True):
                for view in self.sheet.views.values():
                    self._draw(view, part, floats)

    def learn(self, places: Spots) -> None:
        """Make the distances of places known that the picture cannot find."""
        with self.b.block("views"), self.b.gathered("mark", Instrument.PENCIL, "In the views, places to take over"):
            for at in places:
                self._bring(at)
                for axis in range(3):
                    if not self.f.sheet.is_known(axis, at[axis]):
                        with suppress(LookupError):
                            self._learn(axis, at)

    def _bring(self, at: Sequence[float]) -> None:
        """Mark a place in every view to which something leads; on round parts by its generator."""
        for on in self.plan.body.model.surfaces:
            if not isinstance(on, Flat) and (k := self._number(on, at)) is not None:
                with suppress(LookupError, StopIteration):
                    if isinstance(on, Cone):
                        self._generator(on, k)
                    else:
                        self._on_the_circle(on, at, k)
        for view in self.sheet.views.values():
            with suppress(LookupError):
                self._exactly_placed(view, at)

    def _number(self, on: Round, at: Sequence[float]) -> int | None:
        """The number of the generator, at the set squares' steps, that a place of a round part lies on; None where it lies
        on none."""
        u, v = across(on.axis)
        middle = self._from_low(on.centre)
        away = [c - m for c, m in zip(at, middle, strict=True)]
        radius = float(on.radius) if isinstance(on, Pipe) else abs(float(on.slope) * away[on.axis])
        if radius < self.sheet.near or abs(math.hypot(away[u], away[v]) - radius) > self.sheet.near:
            return None
        sign = -1.0 if isinstance(on, Cone) and away[on.axis] < 0 else 1.0  # of a cone it is told from the apex on
        share = math.degrees(math.atan2(sign * away[v], sign * away[u])) / FINE
        return round(share) % round(360 / FINE) if abs(share - round(share)) < ON_A_STEP else None

    def _learn(self, axis: int, at: Sequence[float]) -> None:
        """One distance from the base, in the first view that shows it.

        Raises:
            LookupError: none does.
        """
        base = self.f.sheet.base[axis]
        for view in self.sheet.views.values():
            if axis not in (view.frame.right[0], view.frame.up[0]):
                continue
            with suppress(LookupError):
                point = self._placed(view, at)
                line = self._through_base(view, axis)
                self.f.sheet.know_distance(axis, at[axis], Distance(span(point, line), against=at[axis] < base))
                return
        raise LookupError(f"the views show no {axis} of {tuple(at)}")

    def _through_base(self, view: Viewed, axis: int) -> Line:
        """The line of a view from which distances along an axis are taken: through the corner that the picture begins
        from."""
        if roughly(bare(self.f.base[axis])) == 0:
            return view.bases[next(each for each in view.bases if each != axis)]
        return self.sheet.at(view, axis, self.away(far_end(self.parts, axis), axis))


ON_A_STEP = 1e-6
"""So near, in steps, an angle is one of the set squares'."""
