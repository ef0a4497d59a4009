"""What measured figures say of a drawing: within hand error, a mistake, a step that went wrong, or that they cannot tell.

Every explanation is weighed by how likely it makes what was measured (Bayes' rule): an honest drawing; each mistake of
``slips``; one stray of one step that is far too great; something else. The hand's own size is not known and is integrated
over. What was read off has an error of its own."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from wisecompass.drafting.errors import BadGiven
from wisecompass.judgement.far_off import Gone, as_drawn, as_they_begin
from wisecompass.judgement.hands import ORDINARY, Floats
from wisecompass.judgement.measured import MANY_MORE, Honest, against_honest, how_rarely, spread_by
from wisecompass.judgement.mistaken import Drawn, Wrong, alike_together, nearest
from wisecompass.judgement.normal import log_sum, normal, rarely
from wisecompass.judgement.prepared import (
    MOST_TOGETHER,
    READ_LENGTH,
    SIZES,
    Prepared,
    Reading,
    can_be_measured,
    read_spread,
    rows_of,
    swell_of,
    table_of,
    values_of,
)

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

STRAGGLING = 0.1
"""Of so many drawings with a mistake each figure strays for itself: how figures of a wrong drawing hang together where it
magnifies a hair, no strays added up can tell."""

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
    honest = against_honest(prepared, names, values[kept], (true[kept], moves[kept]), reads[kept])
    return _concluded(prepared, names, ones, _weigh(honest), nobody)


def _ones(names: Sequence[str], values: Floats, true: Floats, spreads: Floats) -> dict[str, One]:
    """Every measured figure for itself."""
    each = zip(names, values.tolist(), true.tolist(), spreads.tolist(), strict=True)
    return {name: One(value, at, wide, abs(value - at) <= 1.959964 * wide) for name, value, at, wide in each}


def _weigh(of: Honest) -> list[Cause]:
    """All explanations with their shares, the likeliest first."""
    prepared, names = of.prepared, of.names
    within = Cause("within", "within hand error", 0.0, fits=how_rarely(of))
    chances = np.array([-np.inf if each is None else each.hands.prior + each.log for each in of.told])
    logs: list[tuple[Cause, float]] = [(within, np.log(HONEST) + log_sum(chances))]
    drawn = [Drawn(each, values_of(each.strays, names, of.rows)) for each in prepared.mistakes]
    groups = alike_together([each for each in drawn if each.shows(of.mean)])
    if len(names) > MANY_MORE:
        groups = nearest(groups, of)
    logs += _steps(of)
    scales = np.array([max(WIDE / READ_LENGTH * read, abs(at) / 4) for read, at in zip(of.reads, of.mean, strict=True)])
    ordinary = spread_by(of.added, of.sizes[int(np.argmin(np.abs(SIZES - 1.0)))])
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


def _slip(alike: Sequence[Drawn], of: Honest, likeliest: float) -> tuple[Cause, float]:
    """A mistake, or several that come to the same, with the logarithm of its chance. Where even the roughest hand makes it
    hopeless beside the likeliest, the other hands are not asked."""
    count, first = len(of.names), alike[0].mistake
    every = tuple(each.mistake.words for each in alike)
    more = f"; or {len(every) - TOGETHER} more" if len(every) > TOGETHER else ""
    cause = Cause("slip", "; or: ".join(every[:TOGETHER]) + more, 0.0, first.step, first.fork, alike=every, fits=0.0)
    prior = float(np.log(SLIPS * len(alike) / max(1, len(of.prepared.mistakes))))
    wrong = Wrong(alike[0], of)
    apart = wrong.each_alone()
    if count > FEW_FIGURES:
        least = min(wrong.by(len(of.sizes) - 1).square, apart[-1].square)
        most = prior - 0.5 * least + of.least_spread
        if most < likeliest - HOPELESS:
            return cause, most
    whole = wrong.by_sizes(of.priors, every=count <= FEW_FIGURES)
    shares = np.log([1 - STRAGGLING, STRAGGLING])[:, None]
    weighed = of.priors + shares + np.array([[each.log for each in row] for row in (whole, apart)])
    together, alone = (row[int(np.argmax(each))] for row, each in zip((whole, apart), weighed, strict=True))
    return replace(cause, fits=max(together.rarely, alone.rarely_one)), prior + log_sum(weighed)


FEW_FIGURES = 20
"""So few figures are weighed in no time, whatever explains them."""


def _steps(of: Honest) -> list[tuple[Cause, float]]:
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
    gone = Gone(of, used, moves[:, used] / units[used], scale)
    every = as_drawn(gone) if drawn else as_they_begin(gone)
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


AS_DRAWN = 500_000
"""As long as the square of the figures times the strays is less, a stray that is far too great is weighed as it is drawn."""
