"""What measured figures say of a drawing: within hand error, a mistake, a step that went wrong, or that they cannot tell.

Every explanation is weighed by how likely it makes what was measured (Bayes' rule): an honest drawing; each mistake of
``slips``; one stray of one step that is far too great; something else. The hand's own size is not known and is integrated
over. What was read off has an error of its own."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import NamedTuple, TypeAlias

import numpy as np
from numpy.typing import NDArray
from scipy.special import gammaincc, ndtr

from wisecompass.drafting.errors import BadGiven
from wisecompass.judgement.gross import ALL_PLACES, CHANCES, GROSS, STEADY, WIDTHS
from wisecompass.judgement.hands import ORDINARY, Floats
from wisecompass.judgement.normal import NEVER, Normal, log_of, log_sum, lowered, normal, rarely, whitened
from wisecompass.judgement.prepared import (
    MOST_TOGETHER,
    READ_LENGTH,
    SIZES,
    OfSize,
    Prepared,
    Reading,
    can_be_measured,
    of_sizes,
    read_spread,
    rows_of,
    swell_of,
    table_of,
    values_of,
)
from wisecompass.judgement.slips import Mistake

HONEST, SLIPS, STEPS, ELSE = 0.70, 0.15, 0.12, 0.03
"""How likely each explanation is before anything has been measured, all mistakes and all steps together."""

WIDE = 10.0
"""How far off a figure may be for some other reason, mm of paper or degrees."""

WITHIN, SURE, ALONE, TAIL = 0.5, 0.8, 0.9, 0.001
"""An honest drawing is at least so likely; several steps or mistakes are named until they have so much together, and one
alone has so much; a drawing that strays from what explains it as far as this or farther is rarer than the last."""

SLIP, STEP, STEP_OF_MANY = 0.65, 0.72, 0.5
"""So much mistakes that are named have together at least, steps that are named, and those where many letters are clicked:
trials say that what is named so is right far more often."""

MANY = 10
"""So many places of letters are many, two of each. Findings hang together: many of them tell little more than a few."""

TOO_FAR = 1.2
"""A stray of an ordinary hand that goes so far, mm of paper or degrees, has gone wrong, and of others in proportion. What
goes less far a hand draws now and then that is twice as rough as it is told."""

HARDLY = 0.05
"""What is less likely than this share of the likeliest is not named beside it."""

STRAGGLING, LONG = 0.1, 4.0
"""Of so many drawings with a mistake each figure strays for itself, by so many times its variance: how figures of a wrong
drawing hang together where it magnifies a hair, no strays added up can tell."""

FEW = 3
"""A step is named from so many figures on; with one figure alone only a mistake is."""

TOGETHER = 3
"""So many steps at most are named together."""


@dataclass(frozen=True)
class Cause:
    """One explanation with its share."""

    kind: str
    """within, slip, step or else."""
    words: str
    share: float
    step: int = 0
    fork: int | None = None
    amount: float = 0.0
    """Of a step by how much it went wrong, mm of paper or degrees."""
    fits: float = 1.0
    """How rarely a drawing would stray from what was measured as far as this one or farther, were it so."""
    is_far: bool = True
    """Whether the step went wrong by more than a rough hand does."""
    alike: tuple[str, ...] = ()
    """All mistakes that come to the same in what was measured."""


@dataclass(frozen=True)
class One:
    """A measured figure: what it should be, the standard deviation of honest hands, and whether it is within them."""

    value: float
    true: float
    spread: float
    within: bool


@dataclass(frozen=True)
class Verdict:
    """``kind`` is within, slip, step or cannot tell; ``causes`` the explanations, the likeliest first. ``next`` is what
    measured next would tell most."""

    kind: str
    causes: tuple[Cause, ...]
    measured: Mapping[str, One] = field(default_factory=dict)
    next: str = ""
    wild: tuple[str, ...] = ()

    @property
    def steps(self) -> list[Cause]:
        """The steps that are named: one that is sure, or up to three together."""
        return self._named() if self.kind == "step" else []

    @property
    def slips(self) -> list[Cause]:
        """The mistakes that are named: one that is sure, or up to three together."""
        return self._named() if self.kind == "slip" else []

    def _named(self) -> list[Cause]:
        found: list[Cause] = []
        for each in self.causes:
            share = sum(one.share for one in found)
            wanted = share < (SURE if len(found) > 1 else ALONE) and len(found) < TOGETHER
            if each.kind == self.kind and wanted and not (found and each.share < HARDLY * found[0].share):
                found.append(each)
        return found

    @property
    def said(self) -> str:
        """The verdict in a sentence."""
        best = self.causes[0] if self.causes else None
        if self.kind == "within":
            return "within hand error"
        if self.kind == "slip":
            mistakes = [each.words for each in self.slips]
            return f"a slip: {mistakes[0]}" if len(mistakes) == 1 else f"one of these slips: {'; or: '.join(mistakes)}"
        if self.kind == "step":
            named = self.steps
            if len(named) == 1:
                return f"{named[0].words} went wrong, by about {named[0].amount:.1f} mm of paper or degrees"
            return f"one of {', '.join(each.words for each in named)} went wrong"
        if best is not None and best.kind == "else" and best.share >= SURE:
            return "neither a hand's error nor a slip that is known nor any one step explains these figures"
        more = f"; measure {self.next} next" if self.next else ""
        return f"these figures cannot tell{more}"


def judge(prepared: Prepared, measured: Mapping[str, Reading]) -> Verdict:
    """The verdict on what was measured.

    Raises:
        BadGiven: nothing was measured that this sheet has.
    """
    if not measured:
        raise BadGiven("measured", "nothing has been measured")
    every = list(measured)
    rows = prepared.honest.rows(every)
    true, moves = table_of(prepared.honest, every, rows)
    for name in np.array(every)[np.isnan(true)].tolist():
        rows_of(prepared.honest, name)  # says what can be measured
    told = [(measured[name], read_spread(prepared, name, at)) for name, at in zip(every, true.tolist(), strict=True)]
    reads = np.array([usual if each.spread is None else each.spread for each, usual in told])
    values = np.array([each.value for each, _ in told])
    wild = np.array([prepared.is_wild(name) for name in every])
    own = np.sqrt(np.sum(moves * moves, axis=1)) * np.where(wild, 99.0, swell_of(prepared, rows, 1.0))
    ones = _ones(every, values, true, np.hypot(own, reads))
    kept = ~wild
    if kept.sum() > MOST_TOGETHER:
        kept &= np.array([name not in prepared.spare for name in every])
    names = [name for name, each in zip(every, kept, strict=True) if each]
    nobody = tuple(name for name, each in zip(every, wild, strict=True) if each)
    if not names:
        return Verdict("cannot tell", (), ones, _first_to_measure(prepared, measured), nobody)
    honest = _honest(prepared, names, values[kept], (true[kept], moves[kept]), reads[kept])
    return _concluded(prepared, names, ones, _weigh(honest), nobody)


def _ones(names: Sequence[str], values: Floats, true: Floats, spreads: Floats) -> dict[str, One]:
    """Every measured figure for itself."""
    each = zip(names, values.tolist(), true.tolist(), spreads.tolist(), strict=True)
    return {name: One(value, at, wide, abs(value - at) <= 1.959964 * wide) for name, value, at, wide in each}


Counts: TypeAlias = NDArray[np.intp]


class _Size(NamedTuple):
    """Honest hands of one size: by how much what was measured is off as they stray, in standard deviations that do not hang
    together, and the logarithm of how likely that is."""

    hands: OfSize
    low: Floats
    white: Floats
    log: float


class _Honest(NamedTuple):
    """What was measured, against honest hands of every size: by how much it is off, and how that spreads."""

    prepared: Prepared
    names: Sequence[str]
    values: Floats
    mean: Floats
    moves: Floats
    noise: Floats
    """What readings and the place of the sheet add."""
    sizes: Sequence[OfSize]
    rows: Counts
    """Where these figures are among all of a drawing; -1 for distances."""
    added: Floats
    told: Sequence[_Size | None]
    """Size by size; None where that cannot be told."""
    reads: Floats
    free: Floats
    """(figures, ways): what the places of letters may all have in common."""
    least_spread: float
    """The logarithm of the density of no drawing is more, however little hands stray."""

    @property
    def priors(self) -> Floats:
        return np.array([each.prior for each in self.sizes])


def _honest(
    prepared: Prepared, names: Sequence[str], values: Floats, should: tuple[Floats, Floats], reads: Floats
) -> _Honest:
    rows, (mean, moves) = prepared.honest.rows(names), should
    sizes = of_sizes(prepared, names, rows, SIZES.tolist())
    free = _free(prepared, names, mean)
    noise = np.diag(reads**2) + free @ free.T
    added = _added(moves, sizes[0].apart)
    told: list[_Size | None] = []
    for hands in sizes:
        off = values - mean - hands.lean
        low = lowered(_spread(added, hands) + noise) if np.isfinite(off).all() else None
        white = None if low is None else whitened(low, off)
        told.append(None if low is None or white is None else _Size(hands, low, white, log_of(low, white)))
    least = normal(np.zeros(len(names)), noise).log
    return _Honest(prepared, names, values, mean, moves, noise, sizes, rows, added, told, reads, free, least)


def _weigh(of: _Honest) -> list[Cause]:
    """All explanations with their shares, the likeliest first."""
    prepared, names = of.prepared, of.names
    within = Cause("within", "within hand error", 0.0, fits=_tail(of))
    chances = np.array([-np.inf if each is None else each.hands.prior + each.log for each in of.told])
    logs: list[tuple[Cause, float]] = [(within, np.log(HONEST) + log_sum(chances))]
    drawn = [_Drawn(each, values_of(each.strays, names, of.rows)) for each in prepared.mistakes]
    groups = _alike([each for each in drawn if each.shows(of.mean)])
    if len(names) > MANY_MORE:
        groups = _nearest(groups, of)
    logs += _steps(of)
    scales = np.array([max(WIDE / READ_LENGTH * read, abs(at) / 4) for read, at in zip(of.reads, of.mean, strict=True)])
    ordinary = _spread(of.added, of.sizes[int(np.argmin(np.abs(SIZES - 1.0)))])
    other = normal(of.values - of.mean, ordinary + of.noise + np.diag(scales**2))
    logs.append((Cause("else", "something else", 0.0), np.log(ELSE) + other.log))
    for alike in groups:
        logs.append(_slip(alike, of, max(log for _, log in logs)))
    total = log_sum(np.array([log for _, log in logs]))
    found = [replace(cause, share=float(np.exp(log - total))) for cause, log in logs if np.isfinite(log)]
    if not found:  # farther off than numbers go
        return [Cause("else", "something else", 1.0)]
    return sorted(_refuted(found), key=lambda cause: -cause.share)


def _refuted(causes: Sequence[Cause]) -> list[Cause]:
    """What does not itself explain what was measured has no share, however little the others do: that is something else."""
    lost = sum(each.share for each in causes if each.fits < TAIL)
    left = [replace(each, share=0.0) if each.fits < TAIL else each for each in causes]
    return [replace(each, share=each.share + lost) if each.kind == "else" else each for each in left]


HOPELESS = 30.0
"""What is less likely than the likeliest by so much, in logarithms, is not weighed more nearly."""


def _slip(alike: Sequence[_Drawn], of: _Honest, likeliest: float) -> tuple[Cause, float]:
    """A mistake, or several that come to the same, with the logarithm of its chance. Where even the roughest hand makes it
    hopeless beside the likeliest, the other hands are not asked."""
    count, first = len(of.names), alike[0].mistake
    every = tuple(each.mistake.words for each in alike)
    more = f"; or {len(every) - TOGETHER} more" if len(every) > TOGETHER else ""
    cause = Cause("slip", "; or: ".join(every[:TOGETHER]) + more, 0.0, first.step, first.fork, alike=every, fits=0.0)
    prior = float(np.log(SLIPS * len(alike) / max(1, len(of.prepared.mistakes))))
    wrong = _Wrong(alike[0], of)
    apart = wrong.each_alone()
    if count > FEW_FIGURES:
        nearest = min(wrong.by(len(of.sizes) - 1).square, apart[-1].square)
        most = prior - 0.5 * nearest + of.least_spread
        if most < likeliest - HOPELESS:
            return cause, most
    whole = wrong.by_sizes(of.priors, every=count <= FEW_FIGURES)
    shares = np.log([1 - STRAGGLING, STRAGGLING])[:, None]
    weighed = of.priors + shares + np.array([[each.log for each in row] for row in (whole, apart)])
    together, alone = (row[int(np.argmax(each))] for row, each in zip((whole, apart), weighed, strict=True))
    return replace(cause, fits=max(together.rarely, alone.rarely_one)), prior + log_sum(weighed)


FEW_FIGURES = 20
"""So few figures are weighed in no time, whatever explains them."""


FADED = 12.0
"""Hands of a size by which what was measured is less likely than by the best by so much, in logarithms, and those of sizes
beyond, are not asked."""


def _outward(sizes: int, how_likely: Callable[[int], float], *, every: bool) -> None:
    """Ask hands how likely they make something, size by size from the middle outward: ``every`` one, or until it fades."""
    middle = sizes // 2 - 1
    first = best = how_likely(middle)
    for way in (range(middle + 1, sizes), range(middle - 1, -1, -1)):
        last = first
        for n in way:
            if not every and last < best - FADED:
                break
            last = how_likely(n)
            best = max(best, last)


class _Wrong:
    """A mistake's drawing, against what was measured, by hands of every size; figures that nobody knows of it may be
    anything."""

    def __init__(self, drawn: _Drawn, of: _Honest) -> None:
        values, moves = table_of(drawn.mistake.strays, of.names, of.rows)
        unknown = ~(np.isfinite(values) & np.isfinite(moves).all(axis=1))
        self._of = of
        self._known: dict[int, Normal] = {}
        self._off = np.where(unknown, 0.0, of.values - np.where(unknown, 0.0, values))
        self._added = of.added if unknown.any() else _added(moves, of.sizes[0].apart)
        self._anything = np.where(unknown, ANYTHING**2, 0.0)

    def by(self, n: int) -> Normal:
        """By hands of the so manieth size."""
        if n not in self._known:
            spread = _spread(self._added, self._of.sizes[n]) + self._of.noise
            spread[np.diag_indices_from(spread)] += self._anything
            self._known[n] = normal(self._off, spread)
        return self._known[n]

    def by_sizes(self, chances: Floats, *, every: bool) -> list[Normal]:
        """By hands of each size, which are so likely: ``every`` one, or those that count."""
        _outward(len(chances), lambda n: float(chances[n]) + self.by(n).log, every=every)
        return [self._known.get(n, NEVER) for n in range(len(chances))]

    def each_alone(self) -> list[Normal]:
        """The same where each figure strays for itself; the sheet lies as it will (Woodbury)."""
        of, off, free = self._of, self._off, self._of.free
        own = np.diagonal(self._added) * np.array([each.swell * each.size for each in of.sizes]) ** 2
        own += np.array([np.diagonal(each.more) for each in of.sizes])
        variances = LONG * (own + self._anything) + of.reads**2
        scaled = free / variances[..., None]
        shared = np.eye(free.shape[1]) + free.T @ scaled
        there = np.linalg.solve(shared, (off @ scaled)[..., None])[..., 0]
        left = off - there @ free.T
        squares = np.sum(left * off / variances, axis=1)
        spreads = np.log(variances).sum(axis=1) + np.linalg.slogdet(shared)[1]
        logs = -0.5 * (squares + spreads + len(off) * np.log(2 * np.pi))
        farthest = np.max(np.abs(left) / np.sqrt(variances), axis=1)
        ones = np.minimum(1.0, len(off) * 2 * ndtr(-farthest))
        each = zip(logs.tolist(), squares.tolist(), ones.tolist(), strict=True)
        return [Normal(log, square, rarely(len(off), square), one) for log, square, one in each]


ANYTHING = 100.0
"""How widely a figure strays of which nothing is known, mm or degrees."""


def _added(moves: Floats, apart: Floats) -> Floats:
    """The covariance of strays; of figures that are judged each for itself their variances alone."""
    added = moves @ moves.T
    if not apart.all():
        added[(np.outer(apart, apart) + np.eye(len(apart))) <= 0] = 0.0
    return np.asarray(added)


def _spread(added: Floats, hands: OfSize) -> Floats:
    """The covariance of figures by hands of a size; ``added`` is that of their strays."""
    swell = hands.swell * hands.size
    found = added * swell[:, None]
    found *= swell
    found += hands.more
    return np.asarray(found)


class _Drawn(NamedTuple):
    """A mistake with what its drawing measures: not a number where that has it not."""

    mistake: Mistake
    values: Floats

    def shows(self, mean: Floats) -> bool:
        """Whether it moves anything of what was measured, and all of that is known of it."""
        there = np.isfinite(self.values)
        return bool(there.any() and (np.abs(self.values - mean)[there] > 1e-6).any())


def _alike(known: Sequence[_Drawn]) -> list[list[_Drawn]]:
    """Mistakes together that come to the same in all that was measured."""
    found: list[list[_Drawn]] = []
    firsts = np.zeros((0, len(known[0].values) if known else 0))
    for each in known:
        near = np.abs(each.values - firsts) <= 1e-6 + 1e-6 * np.abs(each.values)
        twins = np.flatnonzero((near | (np.isnan(each.values) & np.isnan(firsts))).all(axis=1))
        if twins.size:
            found[twins[0]].append(each)
        else:
            found.append([each])
            firsts = np.concatenate([firsts, each.values[None]])
    return found


MANY_MORE, NEAREST = 50, 5
"""Where more figures than this are measured, only so many mistakes are weighed: those whose drawings come nearest."""


def _nearest(groups: Sequence[list[_Drawn]], of: _Honest) -> list[list[_Drawn]]:
    """The mistakes whose drawings come nearest to what was measured, as honest hands stray."""
    rather = next((each for each in of.told[len(of.told) // 2 :] if each is not None), None)
    if len(groups) <= NEAREST or rather is None:
        return list(groups)
    steady = np.array([each[0].values for each in groups])
    away = whitened(rather.low, np.where(np.isfinite(steady), of.values - steady, 0.0).T)
    return [groups[n] for n in np.argsort(np.sum(away * away, axis=0))[:NEAREST]]


FREE_SHIFT, FREE_TURN = 60.0, 0.05
"""Where on the paper a figure was begun, mm, and how it lies there, radians, say nothing of how it was drawn."""


def _free(prepared: Prepared, names: Sequence[str], mean: Floats) -> Floats:
    """What the places of letters may all have in common: shift and turn of their block on the paper."""
    found = np.zeros((len(names), 3))
    known = prepared.honest.names  # a letter in space has no place of its own on the paper
    places = {name: n for n, name in enumerate(names) if name[-2:] in (".x", ".y") and f"{name[:-2]}.y" in known}
    for name, n in places.items():
        letter, axis = name.rsplit(".", 1)
        other = f"{letter}.{'y' if axis == 'x' else 'x'}"
        beside = mean[places[other]] if other in places else rows_of(prepared.honest, other)[0]
        found[n, 0 if axis == "x" else 1] = FREE_SHIFT / prepared.sheet.scale
        found[n, 2] = FREE_TURN * (-beside if axis == "x" else beside)
    return found


def _steps(of: _Honest) -> list[tuple[Cause, float]]:
    """Every told step, with the chance that one of its strays is far too great, whichever and by however much."""
    prepared, moves = of.prepared, of.moves
    sheet, draws = prepared.sheet, prepared.honest.draws
    skill = prepared.hand.on_paper(sheet.scale)
    units = np.array([getattr(skill, draw.part) for draw in draws])
    used = np.flatnonzero((np.abs(moves).max(axis=0, initial=0.0) > 0) & (units > 0))
    if not used.size:
        return []
    scale = np.array([1.0 if draws[n].part == "protractor" else sheet.scale for n in used])
    drawn = prepared.wrong is not None and len(of.names) ** 2 * used.size <= AS_DRAWN
    gone = _Gone(of, used, moves[:, used] / units[used], scale)
    every = _as_drawn(gone) if drawn else _as_they_begin(gone)
    told = np.array([sheet.told_step(draws[n].step) for n in used])
    far = TOO_FAR * np.array([getattr(prepared.hand, draws[n].part) / getattr(ORDINARY, draws[n].part) for n in used])
    found = []
    for step in dict.fromkeys(told.tolist()):
        mine = np.flatnonzero(told == step)
        chances = every.chances[:, :, mine]
        at = np.unravel_index(int(np.argmax(chances)), chances.shape)
        amount, square = float(every.amounts[:, :, mine][at]), float(every.squares[:, :, mine][at])
        fits, is_far = rarely(len(of.names), square), amount >= far[mine[at[2]]]
        cause = Cause("step", f"step {step}", 0.0, step, None, amount, fits=fits, is_far=bool(is_far))
        found.append((cause, log_sum(chances) - float(np.log(mine.size))))
    return [(cause, float(np.log(STEPS / len(found)) + chance)) for cause, chance in found]


def _tail(of: _Honest) -> float:
    """How rarely an honest hand, whatever its size, strays as far as this or farther."""
    told = [each for each in of.told if each is not None]
    squares = np.array([each.white @ each.white for each in told])
    return float(np.exp([each.hands.prior for each in told]) @ gammaincc(len(of.names) / 2, squares / 2)) if told else 0.0


def _concluded(
    prepared: Prepared,
    names: Sequence[str],
    ones: Mapping[str, One],
    causes: list[Cause],
    wild: tuple[str, ...],
) -> Verdict:
    """What is said of the shares."""
    within = sum(each.share for each in causes if each.kind == "within")
    best = next((each for each in causes if (each.kind == "within") == (within >= WITHIN)), causes[0])
    together = sum([each.share for each in causes if each.kind == best.kind][:TOGETHER])
    places = sum(name.endswith((".x", ".y")) for name in names)
    enough = {"within": WITHIN, "slip": SLIP, "step": STEP_OF_MANY if places >= MANY else STEP}
    said = together >= enough.get(best.kind, np.inf)
    if best.kind == "step":
        said = said and best.is_far and len(names) >= FEW
    kind = best.kind if said else "cannot tell"
    told = "" if kind != "cannot tell" else _next(prepared, names, causes)
    return Verdict(kind, tuple(causes), ones, told, wild)


def _first_to_measure(prepared: Prepared, measured: Mapping[str, Reading]) -> str:
    return next((name for name in can_be_measured(prepared) if name not in measured), "")


SOME_USE = 0.01
"""What parts the explanations by less, in its own standard deviations, is not worth measuring."""


def _next(prepared: Prepared, names: Sequence[str], causes: Sequence[Cause]) -> str:
    """The figure that, measured next, would part the explanations that are left the best."""
    left = [each for each in causes if each.share > 0.02][:8]
    best, gain = "", SOME_USE
    for name in can_be_measured(prepared):
        if name in names:
            continue
        mean, moves = rows_of(prepared.honest, name)
        own = float(np.hypot(np.sqrt(np.sum(moves * moves)), read_spread(prepared, name, mean)))
        weights, places = [], []
        for cause in left:
            at = mean
            if cause.kind == "slip":
                mistake = next((m for m in prepared.mistakes if m.words in cause.alike), None)
                found = table_of(mistake.strays, [name])[0][0] if mistake is not None else np.nan
                at = float(found) if np.isfinite(found) else mean
            elif cause.kind == "step":
                own_moves = [
                    move / getattr(prepared.hand, draw.part) * cause.amount
                    for draw, move in zip(prepared.honest.draws, moves, strict=True)
                    if prepared.sheet.told_step(draw.step) == cause.step and getattr(prepared.hand, draw.part) > 0
                ]
                at = mean + max(own_moves, key=abs, default=0.0)
            weights.append(cause.share)
            places.append(at)
        middle = float(np.average(places, weights=weights))
        apart = float(np.average((np.array(places) - middle) ** 2, weights=weights)) ** 0.5 / own
        if apart > gain:
            best, gain = name, apart
    return best


SLOPES = np.gradient(np.eye(len(ALL_PLACES)), np.array(ALL_PLACES), axis=1)
"""What is drawn at the places that were tried goes on from each of them as this tells."""

AS_DRAWN = 500_000
"""As long as the square of the figures times the strays is less, a stray that is far too great is weighed as it is drawn."""


class _Weighed(NamedTuple):
    """Logarithms of chances, how far the stray went, and the square of what is off then in standard deviations: by size of
    the hand, how far it goes, and stray."""

    chances: Floats
    amounts: Floats
    squares: Floats


class _Gone(NamedTuple):
    """What strays that are far too great are weighed by: which of them count, what a unit of each does to the figures as
    it begins, and how many mm of paper that is."""

    of: _Honest
    used: Counts
    along: Floats
    scale: Floats


def _by_sizes(of: _Honest, shape: tuple[int, ...], weigh: Callable[[_Size], tuple[Floats, Floats, Floats]]) -> _Weighed:
    """What is weighed by hands of one size, (how far it goes, stray), by those of every size that counts."""
    chances = np.full((len(of.told), *shape), -np.inf)
    amounts, squares = np.zeros_like(chances), np.full_like(chances, np.inf)

    def by(n: int) -> float:
        each = of.told[n]
        if each is not None:
            chances[n], amounts[n], squares[n] = weigh(each)
        return float(chances[n].max(initial=-np.inf))

    _outward(len(of.told), by, every=len(of.names) <= MANY_MORE)
    return _Weighed(chances, amounts, squares)


def _as_they_begin(gone: _Gone) -> _Weighed:
    """Strays that do as much as they begin to: one more, of the variance of each gross size (Sherman and Morrison)."""
    of = gone.of
    variance = (np.array(GROSS)[:, None] / gone.scale) ** 2
    along = gone.along * of.sizes[0].apart[:, None]

    def weigh(each: _Size) -> tuple[Floats, Floats, Floats]:
        way = whitened(each.low, along)
        aa, ao = np.sum(way * way, axis=0), each.white @ way
        swollen = 1 + variance * aa
        base = each.hands.prior + each.log - np.log(len(GROSS))
        fit = -0.5 * each.white @ each.white + 0.5 * variance * ao * ao / swollen
        chances = base + 0.5 * each.white @ each.white + fit - 0.5 * np.log(swollen)
        return chances, np.abs(variance * ao / swollen * gone.scale), -2 * fit

    return _by_sizes(of, variance.shape, weigh)


def _as_drawn(gone: _Gone) -> _Weighed:
    """Strays as they are drawn where they go far: about each place that was tried a narrow one more, along the way in which
    the figures go there."""
    of, wrong = gone.of, gone.of.prepared.wrong
    assert wrong is not None
    table, apart = wrong.table(of.names)[:, gone.used], of.sizes[0].apart
    where = np.array(ALL_PLACES) / gone.scale[:, None]
    there = np.isfinite(table).all(axis=0)
    away = np.where(there, table - table[..., STEADY : STEADY + 1], 0.0) * apart[:, None, None]
    away[:, :, STEADY] = gone.along * apart[:, None]  # stands in for its way there: a steady hand goes nowhere
    count, shape = len(of.names), there.shape
    away = away.reshape(count, -1)
    variance = (WIDTHS / gone.scale[:, None]) ** 2

    def weigh(each: _Size) -> tuple[Floats, Floats, Floats]:
        white = np.ascontiguousarray(whitened(each.low, away)).reshape(count, *shape)
        along = white[..., STEADY].copy()
        white[..., STEADY] = 0.0
        way = (white.reshape(-1, len(ALL_PLACES)) @ SLOPES).reshape(white.shape) * gone.scale[:, None]
        way[..., STEADY] = along
        left = each.white[:, None, None] - white
        swollen = 1 + variance * _dots(way, way)
        farther = variance * _dots(way, left) / swollen
        rest = left - way * farther  # squared itself: where a stray goes to infinity its parts cancel to anything
        square = _dots(rest, rest) + farther**2 / variance
        base = each.hands.prior + each.log + 0.5 * each.white @ each.white
        chance = base - 0.5 * square - 0.5 * np.log(swollen) + np.log(CHANCES)
        return np.where(there, chance, -np.inf).T, np.abs(where + farther).T * gone.scale, square.T

    return _by_sizes(of, shape[::-1], weigh)


def _dots(one: Floats, other: Floats) -> Floats:
    """Sums over all figures."""
    return np.asarray(np.einsum("nsp,nsp->sp", one, other))
