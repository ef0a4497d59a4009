"""A sheet made ready to be judged: its strays, those of each mistake, and how far random hands bear them out."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy.special import logsumexp

from wisecompass.arithmetic.expression import quoted
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.hand import Hand, OfSizes
from wisecompass.judgement.gross import Wrong, going_wrong
from wisecompass.judgement.hands import ORDINARY, TRIED, Floats, OnPaper, Strays, all_figures, probe
from wisecompass.judgement.normal import lowered, whitened
from wisecompass.judgement.slips import Mistake, Search

READ_LENGTH, READ_ANGLE, READ_RATIO = 0.2, 0.3, 0.004
"""Standard deviations of what is read off with a scale, mm of paper, and a protractor, degrees; and of the share of two
lengths that are read off."""

SIZES = np.exp(np.linspace(np.log(0.5), np.log(2.4), 8))
"""Sizes of the hand that are weighed, as shares of the one that is told."""

SIZE_SPREAD = 0.45
"""How widely those are spread, as the standard deviation of the logarithm."""

_SIZE_PRIORS = -0.5 * (np.log(SIZES) / SIZE_SPREAD) ** 2 - logsumexp(-0.5 * (np.log(SIZES) / SIZE_SPREAD) ** 2)

WILD, TAME, AWAY = 3.0, 0.6, 0.5
"""A figure whose hands stray so many times more than their strays added up, or so much less, or whose mean is so many
standard deviations off, cannot be judged by them."""


TAILS, TAIL_HANDS = 4.5, 0.001
"""Nor can one of which more than one hand in a thousand strays farther than so many standard deviations."""

SELDOM_TAME = ("refold_gap",)
"""Findings that take long to reckon: where they are wild, drawings of mistakes go without."""

BENT = 0.4
"""A figure that strays to one side so much otherwise than to the other does not add up with others."""


class Reading(NamedTuple):
    """What was read off the paper for a figure, in the figure's own unit, and its standard deviation (None: as usual)."""

    value: float
    spread: float | None = None


@dataclass(frozen=True)
class Prepared:
    """All that a verdict needs of a sheet: made while nobody waits."""

    sheet: OnPaper
    hand: Hand
    honest: Strays
    search: Search
    """Its mistakes, which are drawn when there is time."""
    swell: Floats
    """How many times more random hands stray than their strays added up, figure by figure, and below it the same of hands
    that are twice as rough; figures that are wild by the first are infinite."""
    lean: Floats
    """By how much their mean is off; that grows with the square of the hand."""
    units: Mapping[str, str]
    apart: frozenset[str]
    """Figures that are the greatest or least of several: they are judged each for itself."""
    more: Floats = field(default_factory=lambda: np.zeros((2, 0, 0)))
    """By what covariance hands stray in several figures together beyond their strays added up, those that are tried first
    and those that are twice as rough; it grows with the fourth power of the hand."""

    spare: frozenset[str] = frozenset()
    """Places of letters that are left aside where more are clicked than can be weighed together."""
    wrong: Wrong | None = None
    """Its figures where a stray is far too great."""

    @property
    def mistakes(self) -> tuple[Mistake, ...]:
        """All mistakes."""
        return self.search.found

    @cached_property
    def wild(self) -> frozenset[str]:
        """Figures that magnify a hair."""
        tame = np.isfinite(self.swell[0])
        return frozenset(name for name, each in zip(self.honest.names, tame, strict=True) if not each)

    def is_wild(self, name: str) -> bool:
        """Whether a figure magnifies a hair."""
        return name in self.wild


def prepare(sheet: OnPaper, hand: Hand = ORDINARY) -> Prepared:
    """What verdicts on a sheet hang on."""
    tried, steps = _random_hands(sheet, hand)
    honest = probe(sheet, hand, steps)
    added = np.sqrt(np.sum(honest.moves**2, axis=1))
    kinds = sheet.problem.findings
    units = {name: kinds[base].unit if (base := name.split(":")[0]) in kinds else "mm" for name in honest.names}
    bent = np.zeros(len(added)) if honest.bent is None else honest.bent
    apart = frozenset(name for name, bend, spread in zip(honest.names, bent, added, strict=True) if bend > BENT * spread)
    once, twice = (_tried(each, honest, added * size) for each, size in zip(tried, TRIED_SIZES, strict=True))
    swells = np.where(once.wild, np.inf, [once.swell, twice.swell])
    unasked = [name for name in SELDOM_TAME if name in honest.names and once.wild[honest.row(name)]]
    found = Prepared(sheet, hand, honest, Search(sheet, honest, hand, unasked), swells, once.lean, units, apart)
    found = replace(found, spare=_spare(found))
    return replace(found, more=_more(found, tried), wrong=going_wrong(sheet, hand, honest))


TRIED_SIZES = (1.0, 2.0)
"""Random hands of these sizes are tried."""


def _spare(prepared: Prepared) -> frozenset[str]:
    """Of very many letters those that can be done without: for every step that is told the letter that it moves most is
    kept, then the one in which most strays show that show in none so far, and of the rest as many as there is room for,
    evenly."""
    letters = can_be_clicked(prepared)[::2]
    room = MOST_TOGETHER // 2
    if len(letters) <= room:
        return frozenset()
    rows = np.array([prepared.honest.row(name) for name in letters])
    moves = np.nan_to_num(np.abs(prepared.honest.moves))
    size = moves[rows] + moves[rows + 1]
    told = np.array([prepared.sheet.told_step(draw.step) for draw in prepared.honest.draws])
    kept = {int(size[:, told == step].max(axis=1).argmax()) for step in np.unique(told)}
    shows = _shows(prepared, moves, rows) | _shows(prepared, moves, rows + 1)
    left = ~shows[list(kept)].any(axis=0)
    while len(kept) < room and (gain := np.sum(shows[:, left], axis=1)).any():
        best = int(gain.argmax())
        kept.add(best)
        left &= ~shows[best]
    rest = [n for n in range(len(letters)) if n not in kept]
    kept |= {rest[n] for n in np.linspace(0, len(rest) - 1, max(0, room - len(kept))).astype(int)}
    return frozenset(f"{name[:-1]}{axis}" for n, name in enumerate(letters) if n not in kept for axis in "xy")


SHOWS, GONE_WRONG = 4.0, 2.0
"""A stray that goes wrong by so much, mm of paper or degrees, shows in a place that it moves by so many standard
deviations."""


def _shows(prepared: Prepared, moves: Floats, rows: NDArray[np.intp]) -> NDArray[np.bool_]:
    """In which places each stray shows: (places, strays)."""
    units = np.array([getattr(prepared.hand, draw.part) for draw in prepared.honest.draws])
    spread = np.hypot(np.sqrt(np.sum(moves[rows] ** 2, axis=1)), READ_LENGTH / prepared.sheet.scale)
    return np.asarray(moves[rows] * GONE_WRONG > SHOWS * spread[:, None] * units)


def _random_hands(sheet: OnPaper, hand: Hand) -> tuple[Floats, int]:
    """The figures of many random hands (sizes, figures, hands), and how many strays they have."""
    hands = OfSizes(hand.on_paper(sheet.scale), TRIED, TRIED_SIZES, 1)
    _, values = all_figures(sheet.by(hands), hands.count)
    return np.array([hands.of_size(values, n) for n in range(len(TRIED_SIZES))]), hands.draws


def _more(prepared: Prepared, tried: Floats) -> Floats:
    """What random hands, those that are ``tried``, stray in several figures together beyond what is added up, as covariances
    of all figures: where strays bend, figures that hang together part from each other, though each alone strays as it
    should. Findings and letters each for themselves: of more together chance tells more."""
    found = np.zeros((len(tried), *(len(prepared.honest.names),) * 2))
    findings = [name for name in can_be_measured(prepared) if name not in prepared.apart]
    for names in (findings, [name for name in can_be_clicked(prepared) if name not in prepared.spare]):
        if 2 <= len(names) <= MOST_TOGETHER:
            rows = prepared.honest.rows(names)
            steady = prepared.honest.steady[rows].tolist()
            reads = np.array([read_spread(prepared, name, at) ** 2 for name, at in zip(names, steady, strict=True)])
            for n, values in enumerate(tried):
                moves = prepared.honest.moves[rows] * prepared.swell[n, rows][:, None] * TRIED_SIZES[n]
                found[n][np.ix_(rows, rows)] = _together(moves, np.diag(reads), values[rows])
    return found


def _together(moves: Floats, reads: Floats, values: Floats) -> Floats:
    """The same of some figures."""
    values = values[:, np.isfinite(values).all(axis=0)]  # a hand that could not draw all of it is not measured either
    if not np.isfinite(moves).all() or values.shape[1] < TRIED // 2:
        return np.zeros_like(reads)
    values = values - values.mean(axis=1)[:, None]
    low = lowered(values @ values.T / (values.shape[1] - 1) + reads)
    if low is None:
        return np.zeros_like(reads)
    white = whitened(low, whitened(low, moves @ moves.T + reads).T)
    shares, ways = np.linalg.eigh((white + white.T) / 2)
    chance = 1 / (1 + math.sqrt(len(moves) / values.shape[1])) ** 2  # the least share of that many figures by chance alone
    short = shares < min(1 - BY_CHANCE, chance)
    along = low @ ways[:, short]
    away = ways[:, short].T @ whitened(low, values)
    tails = np.quantile(np.abs(away), TAIL_SHARE, axis=1) / TAIL_AT  # what bends has longer tails than chance
    return np.asarray((along * ((1 - shares[short]) * np.maximum(1.0, tails) ** 2)) @ along.T)


TAIL_SHARE, TAIL_AT = 0.995, 2.807
"""So many hands of all stray no farther along a way than so many standard deviations, by chance."""

MOST_TOGETHER = 200
"""Of more figures and places of letters so many hands do not tell what they stray together: no more are weighed."""

BY_CHANCE = 0.15
"""So much less than random hands stray along some way what is added up may be, and still be right but for chance."""


class _Tried(NamedTuple):
    """What random hands tell of every figure: how many times more they stray than is added up, by how much their mean is
    off, and whether the figure is wild."""

    swell: Floats
    lean: Floats
    wild: NDArray[np.bool_]


def _tried(values: Floats, honest: Strays, added: Floats) -> _Tried:
    """What is told by hands that stray so much when it is added up; of figures that some cannot draw, by the others."""
    swell, lean = np.ones(len(values)), np.zeros(len(values))
    drew = np.isfinite(values).sum(axis=1)
    wild = np.isnan(values).any(axis=1) | ~np.isfinite(added)
    swell[wild] = WILD
    told = np.flatnonzero((drew > TRIED // 2) & np.isfinite(added) & (added > 0))
    middles = np.nanmean(values[told], axis=1)
    away = np.nan_to_num(np.abs(values[told] - middles[:, None]))
    spreads = np.sqrt(np.sum(away * away, axis=1) / drew[told])
    far = np.sum(away > TAILS * np.maximum(spreads, 1e-12)[:, None], axis=1) > TAIL_HANDS * values.shape[1]
    seen, off = spreads / added[told], middles - honest.steady[told]
    wild[told] |= (seen > WILD) | (seen < TAME) | (np.abs(off) > AWAY * added[told]) | far
    swell[told], lean[told] = np.clip(seen, 1.0, WILD), np.where(wild[told], 0.0, off)
    return _Tried(swell, lean, wild)


_PAIR = re.compile(r"(.+?)[–-](.+)")


def rows_of(strays: Strays, name: str) -> tuple[float, Floats]:
    """A figure of a drawing: its value and what each stray does to it. ``A-B`` is the distance of two letters.

    Raises:
        BadGiven: no such figure.
    """
    (row,) = strays.rows([name])
    if row >= 0:
        return float(strays.steady[row]), strays.moves[row]
    pair = _PAIR.fullmatch(name)
    if pair and (ends := strays.rows([f"{letter}.{axis}" for letter in pair.groups() for axis in "xy"])).min() >= 0:
        ax, ay, bx, by = ends
        with np.errstate(all="ignore"):
            dx, dy = strays.steady[bx] - strays.steady[ax], strays.steady[by] - strays.steady[ay]
            away = float(np.hypot(dx, dy))
            if away == 0:
                raise BadGiven(name, f"“{quoted(name)}”: the two letters stand at one place")
            moves = ((strays.moves[bx] - strays.moves[ax]) * dx + (strays.moves[by] - strays.moves[ay]) * dy) / away
        return away, moves
    known = ", ".join(n for n in strays.names if "." not in n)
    raise BadGiven(name, f"“{quoted(name)}” cannot be measured on this sheet; it has {known}, and distances such as A-B")


def values_of(strays: Strays, names: Sequence[str], rows: NDArray[np.intp]) -> Floats:
    """Several figures, of which the ``rows`` are known; not a number where a drawing has no such figure."""
    values = strays.steady[rows]
    for n in np.flatnonzero(rows < 0).tolist():
        try:
            values[n] = rows_of(strays, names[n])[0]
        except BadGiven:
            values[n] = np.nan
    return values


def table_of(strays: Strays, names: Sequence[str], rows: NDArray[np.intp] | None = None) -> tuple[Floats, Floats]:
    """The same with a row for each of what every stray does to it."""
    rows = strays.rows(names) if rows is None else rows
    values, moves = values_of(strays, names, rows), strays.moves[rows]
    for n in np.flatnonzero(rows < 0).tolist():
        moves[n] = np.nan if np.isnan(values[n]) else rows_of(strays, names[n])[1]
    return values, moves


def can_be_measured(prepared: Prepared) -> list[str]:
    """The figures of a sheet that can be read off: its findings that stray and are not wild."""
    strays = prepared.honest
    moved = np.sum(strays.moves**2, axis=1) > 0
    return [name for n, name in enumerate(strays.names) if "." not in name and moved[n] and not prepared.is_wild(name)]


def can_be_clicked(prepared: Prepared) -> list[str]:
    """The places of letters that can be clicked on a picture of the sheet: those that stray and are not wild."""
    strays = prepared.honest
    moved = dict(zip(strays.names, np.abs(strays.moves).max(axis=1, initial=0.0) > 0, strict=True))
    found = []
    for name in strays.names:
        other = f"{name[:-1]}y"
        tame = name.endswith(".x") and other in moved and not (prepared.is_wild(name) or prepared.is_wild(other))
        if tame and (moved[name] or moved[other]):
            found += [name, other]
    return found


class OfSize(NamedTuple):
    """Hands of one size: how likely it is (its logarithm), what figures swell by, and by how much their means are off."""

    size: float
    prior: float
    swell: Floats
    lean: Floats
    apart: Floats
    """1 where a figure is judged with the others, 0 where for itself."""
    more: Floats
    """What is added to the covariance of the strays."""


def _roughness(size: float) -> float:
    """Where between a hand and one that is twice as rough one of a size lies."""
    return float(np.clip(np.log2(size), 0.0, 1.0))


def swell_of(prepared: Prepared, rows: NDArray[np.intp], size: float) -> Floats:
    """How many times more than their strays added up figures stray by hands of a size; -1 is the row of distances."""
    rough = _roughness(size)
    one, two = np.where(np.isfinite(prepared.swell[:, rows]), prepared.swell[:, rows], WILD)
    return np.where(rows >= 0, one ** (1 - rough) * two**rough, 1.0)


def of_sizes(prepared: Prepared, names: Sequence[str], rows: NDArray[np.intp], sizes: Sequence[float]) -> list[OfSize]:
    """What hands of these sizes, as shares of the one that is told, do to figures, which have these rows."""
    known = rows >= 0
    apart = np.array([float(name not in prepared.apart) for name in names])
    more = np.zeros((2, len(names), len(names)))
    if prepared.more.size:
        at, there = rows[known], np.flatnonzero(known)
        more[:, there[:, None], there] = prepared.more[:, at[:, None], at]
    is_more, nothing = more.any(), np.zeros(more.shape[1:])
    found = []
    for size in sizes:
        rough = _roughness(size)
        lean = np.where(known, prepared.lean[rows] * size * size, 0.0)
        once, twice = ((size / tried) ** 4 * share for tried, share in zip(TRIED_SIZES, (1 - rough, rough), strict=True))
        prior = float(_SIZE_PRIORS[np.argmin(np.abs(SIZES - size))])
        beyond = once * more[0] + twice * more[1] if is_more else nothing
        found.append(OfSize(float(size), prior, swell_of(prepared, rows, size), lean, apart, beyond))
    return found


def read_spread(prepared: Prepared, name: str, value: float) -> float:
    """The standard deviation of what is read off for a figure, in its own unit. Areas and volumes are reckoned of lengths
    that are, as of a square or a cube."""
    length = READ_LENGTH / prepared.sheet.scale
    unit = prepared.units.get(name, "mm")
    if unit == "°":
        return READ_ANGLE
    if unit == "mm²":
        return length * max(length, 2 * math.sqrt(abs(value)))
    if unit == "mm³":
        side = max(length, float(abs(value) ** (1 / 3)))
        return 3 * length * side * side
    return READ_RATIO * max(0.25, abs(value)) if unit == "" else length
