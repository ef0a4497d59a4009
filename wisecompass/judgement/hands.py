"""How far hands stray on a sheet as it is drawn, and which step is to blame.

A drawing is a row of strays (every pricking, opening, ruling, reading). One run with a steady hand and two more for each
stray, a little too much and a little too little, gives by how much each of them moves every figure of the sheet; together
they say how far a hand strays, and what share each step has. Where many random hands disagree they are believed."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from wisecompass.arithmetic import HAND, PLAIN
from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.board import Board
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.givens import Typed
from wisecompass.drafting.hand import Draw, Hand, Listing, Probing, Unsteadiness
from wisecompass.drafting.likewise import folded
from wisecompass.drafting.problem import Method, Problem
from wisecompass.drafting.recorder import Detail
from wisecompass.drafting.solve import construct
from wisecompass.drafting.step import Step
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3

Floats = NDArray[np.float64]

STEADY, ORDINARY, ROUGH = Hand().scaled(0.5), Hand(), Hand().scaled(2.0)
HANDS = {"steady": STEADY, "ordinary": ORDINARY, "rough": ROUGH}
"""Hands by their names."""

_PARTS = ("needle", "compass", "straightedge", "protractor", "scale")


def read_hand(text: str) -> Hand:
    """A hand by its name, or by what its parts stray.

    Raises:
        BadGiven: no such hand.
    """
    if text in HANDS:
        return HANDS[text]
    parts: dict[str, float] = {}
    for pair in text.split(","):
        name, sign, value = pair.partition("=")
        try:
            size = float(value)
        except ValueError:
            size = -1.0
        if not sign or name.strip() not in _PARTS or not 0 <= size <= 100:
            names = ", ".join(HANDS)
            sentence = f"hand “{quoted(text)}” is none of {names}, nor parts such as needle=0.12,compass=0.15 from 0 to 100"
            raise BadGiven("hand", sentence, "ordinary")
        parts[name.strip()] = size
    return Hand(**parts)


TRIED = 1200
"""So many random hands say whether the strays can be added up."""

DISAGREE = 1.1
"""Where random hands stray by so many times more or less than their strays added up, they are believed."""

OF_A_HUNDRED = 95
"""So many hands of a hundred keep to what is told as the reach of a hand."""

WITHIN = 1.959964
"""Standard deviations that hold so many, of what is spread as chance spreads it."""


@dataclass(frozen=True)
class OnPaper:
    """A construction as it is drawn on a sheet: with its method, schools, dragged views, the solution that is wanted, and
    the drawing scale."""

    problem: Problem
    typed: Typed
    method: Method
    scale: float = 1.0
    conventions: Conventions | None = None
    solution: int = 1
    places: Mapping[str, float] = field(default_factory=dict)
    wider: Mapping[int, float] = field(default_factory=dict)
    taken: int | None = None
    """The fork that is taken by mistake, see ``forks``."""

    def by(self, unsteadiness: Unsteadiness | None, detail: Detail = Detail.WHOLE) -> Board:
        """As these hands draw it; without any as it should be, in as much ``detail`` as is wanted."""
        return construct(
            self.problem,
            self.typed,
            self.method,
            PLAIN if unsteadiness is None else HAND,
            conventions=self.conventions,
            solution=self.solution,
            places=self.places,
            unsteadiness=unsteadiness,
            detail=detail,
            wider=self.wider,
            taken=self.taken,
        )

    @cached_property
    def steps(self) -> list[Step]:
        """Its steps as they are told, with the numbers of those that each covers."""
        return folded(replace(self, taken=None).by(None).steps)

    def told_step(self, step: int) -> int:
        """The number under which a step is told."""
        return self._told.get(step, step)

    @cached_property
    def _told(self) -> dict[int, int]:
        return {n: step.n for step in self.steps for n in step.covers}


@dataclass(frozen=True)
class Strays:
    """What each stray of a drawing does to every figure of it. ``steady`` are the figures of a steady hand, ``moves`` by how
    much a stray of one standard deviation moves them: a row for each figure, a column for each stray."""

    names: tuple[str, ...]
    draws: tuple[Draw, ...]
    steady: Floats
    moves: Floats
    bent: Floats | None = None
    """By how much both halves of a stray differ in what they do to a figure, all strays together: much where a figure is
    the greatest or least of several."""
    tried: Floats | None = None
    """The figures of some hands that stray as they will, a column for each."""

    def row(self, name: str) -> int:
        """Which row a figure has.

        Raises:
            KeyError: it is none of these.
        """
        return self._rows[name]

    def rows(self, names: Sequence[str]) -> NDArray[np.intp]:
        """The rows of several figures, -1 for what is none."""
        return np.array([self._rows.get(name, -1) for name in names], dtype=np.intp)

    @cached_property
    def _rows(self) -> dict[str, int]:
        return {name: n for n, name in enumerate(self.names)}


def probe(sheet: OnPaper, hand: Hand = ORDINARY, about: int = 0) -> Strays:
    """Every stray of a hand, one at a time. That there are ``about`` so many saves counting them."""
    on_paper = hand.on_paper(sheet.scale)
    if not about:
        listing = Listing(on_paper)
        sheet.by(listing)
        about = len(listing.draws)
    probing, names, values = _probed(sheet, lambda strays: Probing(on_paper, strays), about)
    with np.errstate(all="ignore"):
        more, less = (values[:, n : 2 * len(probing.draws) + n : 2] for n in (1, 2))
        bent = np.sqrt(np.nansum((more + less - 2 * values[:, :1]) ** 2, axis=1))
        return Strays(names, tuple(probing.draws), values[:, 0], more - less, bent)


def probe_freely(sheet: OnPaper, hand: Hand, about: int, free: int, unasked: Collection[str] = ()) -> Strays:
    """The same in half the time, with so many hands that are ``free`` to stray as they will: each stray is drawn too much
    only. Some findings may be ``unasked``."""
    on_paper = hand.on_paper(sheet.scale)
    probing, names, values = _probed(
        sheet, lambda strays: Probing(on_paper, strays, free, both=False, unasked=unasked), about
    )
    with np.errstate(all="ignore"):
        moves = 2 * (values[:, 1 : 1 + len(probing.draws)] - values[:, :1])
    return Strays(names, tuple(probing.draws), values[:, 0], moves, None, values[:, probing.count - free :])


def _probed(sheet: OnPaper, hands: Callable[[int], Probing], about: int) -> tuple[Probing, tuple[str, ...], Floats]:
    """What hands draw for whom there are about so many strays; once more if there are more."""
    probing = hands(about)
    board = sheet.by(probing)
    if len(probing.draws) > about:
        probing = hands(len(probing.draws))
        board = sheet.by(probing)
    return probing, *all_figures(board, probing.count)


def figures(board: Board) -> Iterator[tuple[str, Any]]:
    """All that can be measured on a drawing: its findings, of a list or point each number (``feet:2``), and of every letter
    how far it lies to the right and up (``C.x``)."""
    for name, value in board.findings.items():
        if isinstance(value, Point3):
            value = (value.x, value.front, value.above)
        if isinstance(value, tuple):
            yield from ((f"{name}:{k}", each) for k, each in enumerate(value, 1))
        elif isinstance(value, float | np.ndarray):
            yield name, value
    for name, point in board.points.items():
        if isinstance(point, Point):
            yield f"{name}.x", point.x
            yield f"{name}.y", point.y
        else:
            yield f"{name}.x", point.x
            yield f"{name}.front", point.front
            yield f"{name}.above", point.above


def all_figures(board: Board, count: int) -> tuple[tuple[str, ...], Floats]:
    """The same of a drawing by so many hands: the names, and a row for each of its value by every hand."""
    drawn = [*figures(board)]
    values = np.empty((len(drawn), count))
    for row, (_, value) in zip(values, drawn, strict=True):
        row[:] = value
    return tuple(name for name, _ in drawn), values


@dataclass(frozen=True)
class Reach:
    """How near hands come to one figure: the standard deviation, and the half width that 95 of 100 keep to. ``failed`` of
    the hands that were tried could not draw it. A ``wild`` figure magnifies a hair: no width says much of it. ``blame`` are
    the shares of the steps as they are told, the greatest first."""

    figure: str
    spread: float
    reach: float
    failed: float
    wild: bool
    blame: tuple[tuple[int, float], ...]


WILD = 2.0
"""A figure is wild where the one hand in twenty that strays most strays so many times more than chance would have it."""


def reaches(sheet: OnPaper, hand: Hand = ORDINARY, seed: int = 1, names: Sequence[str] = ()) -> dict[str, Reach]:
    """How near such hands come to every finding of a sheet, or to the figures named."""
    strays = probe(sheet, hand)
    tried = dict(figures(sheet.by(Unsteadiness(hand.on_paper(sheet.scale), TRIED, seed))))
    wanted = names or [name for name in strays.names if "." not in name]
    found = {}
    for name in wanted:
        row = strays.row(name)
        found[name] = _reach(sheet, strays, row, np.broadcast_to(tried[name], TRIED)[1:])
    return found


def _reach(sheet: OnPaper, strays: Strays, row: int, tried: Floats) -> Reach:
    moves = strays.moves[row]
    variances = moves * moves
    spread = float(np.sqrt(np.nansum(variances)))
    reach, wild = WITHIN * spread, bool(np.isnan(moves).any())
    known = tried[~np.isnan(tried)]
    failed = 1.0 - known.size / tried.size
    if known.size and spread > 0:
        off = np.abs(known - strays.steady[row])
        seen, middle = (float(np.percentile(off, share)) for share in (OF_A_HUNDRED, 50))
        if not reach / DISAGREE <= seen <= reach * DISAGREE:
            spread, reach = float(np.percentile(off, 68.27)), seen
        wild = wild or (middle > 0 and float(np.percentile(off, 99)) / middle > WILD * 2.5758 / 0.6745)
    shares: dict[int, float] = {}
    total = float(np.nansum(variances)) or 1.0
    for draw, variance in zip(strays.draws, np.nan_to_num(variances), strict=True):
        step = sheet.told_step(draw.step)
        shares[step] = shares.get(step, 0.0) + float(variance) / total
    blame = sorted(((step, share) for step, share in shares.items() if share > 0), key=lambda pair: (-pair[1], pair[0]))
    return Reach(strays.names[row], spread, reach, failed, wild, tuple(blame))
