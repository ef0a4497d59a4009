"""What would bring a hand nearer to an answer: another opening where any will do, another method, a larger scale, a steadier
instrument. Each is drawn anew by the same hands; only what helps is told, with how much."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from wisecompass.drafting import marks
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.hand import Hand
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.record import Note
from wisecompass.drafting.setting import bare
from wisecompass.drafting.wording import lettered, listed, number_text
from wisecompass.judgement.hands import ORDINARY, WITHIN, OnPaper, Strays, probe

HELPS = 0.9
"""What leaves more than this share of the reach is no help worth telling."""

MOST_TOLD = 4
"""So many are told, the best first."""

WIDER = (3.0, 2.0, 1.5, 0.7)
"""So many times as wide an opening is tried."""

ROOM = 1.15
"""So many times as far across as it was a drawing may become by a wider opening."""

WORK, FEWEST = 4_000, 2
"""So many strays are worth waiting for while openings are tried, and so many openings are tried all the same."""

INSTRUMENTS = {
    "needle": "needle set twice as surely",
    "compass": "compass opened twice as surely",
    "straightedge": "straightedge laid twice as surely",
    "protractor": "protractor read twice as finely",
    "scale": "scale read twice as finely",
}


@dataclass(frozen=True)
class Help:
    """What would help one figure, and the reach of a hand before and with it. ``method`` names the method that does."""

    words: str
    before: float
    after: float
    method: str = ""


def helps(sheet: OnPaper, figure: str, hand: Hand = ORDINARY, larger: float | None = None) -> list[Help]:
    """What would bring such hands nearer to a figure, the best first. ``larger`` is the next scale that there would be room
    for on some paper, as a number."""
    strays = probe(sheet, hand)
    before = _reach(strays, figure)
    if not before > 0:
        return []
    tried = [
        *_openings(sheet, strays, figure, hand, before),
        *_methods(sheet, figure, hand, before),
        *_scales(sheet, figure, hand, before, larger),
        *_instruments(strays, figure, before),
    ]
    return sorted((one for one in tried if one.after < HELPS * before), key=lambda one: one.after)[:MOST_TOLD]


def _reach(strays: Strays, figure: str) -> float:
    if figure not in strays.names:
        return float("nan")
    moves = strays.moves[strays.row(figure)]
    return WITHIN * float(np.sqrt(np.sum(moves * moves)))


def _openings(sheet: OnPaper, strays: Strays, figure: str, hand: Hand, before: float) -> Iterator[Help]:
    """The best size of each opening that may be any; of very many those at whose steps most is lost."""
    plain = sheet.by(None)
    across = _across(plain.finished_marks())
    notes = [] if plain.book is None else [note for note in plain.book.notes if type(note) is Note]
    used_at = {place: [note for note in notes if note.setting is one] for place, one in enumerate(plain.opened)}
    lost: dict[int, float] = {}
    for draw, moves in zip(strays.draws, strays.moves[strays.row(figure)].tolist(), strict=True):
        lost[draw.step] = lost.get(draw.step, 0.0) + moves * moves

    def lost_at(place: int) -> float:
        return sum(lost.get(step, 0.0) for step in {note.step for note in used_at[place]})

    most = max(FEWEST, WORK // (len(WIDER) * (1 + len(strays.draws))))
    for place in sorted((each for each, used in used_at.items() if used), key=lost_at, reverse=True)[:most]:
        opening, used = plain.opened[place], used_at[place]
        best: Help | None = None
        for times in WIDER:
            wider = replace(sheet, wider={**sheet.wider, place: times})
            try:
                drawn = wider.by(None)
                room = _across(drawn.finished_marks()) <= ROOM * across
                after = _reach(probe(wider, hand), figure) if room else before
            except (WiseCompassError, ArithmeticError, ValueError):  # so wide it meets nothing
                continue
            new, old = float(bare(drawn.opened[place])), float(bare(opening))
            if new == old or not room:
                continue
            if best is None or after < best.after:
                best = Help(_opened(sheet, used, new, old), before, after)
        if best is not None:
            yield best


def _opened(sheet: OnPaper, used: Sequence[Note], new: float, old: float) -> str:
    made = [lettered(name) for note in used for name in note.makes if " " not in name]
    what = f" for {listed(made)}" if made else ""
    return f"step {sheet.told_step(used[0].step)}{what}: {number_text(new)} mm instead of {number_text(old)} mm"


def _across(drawn: Sequence[Mark]) -> float:
    """The diagonal of each block's box, together, mm."""
    blocks: dict[str, list[tuple[float, float]]] = {}
    for mark in drawn:
        blocks.setdefault(mark.block, []).extend(marks.reach(mark))
    total = 0.0
    for pairs in blocks.values():
        if pairs:
            xs, ys = zip(*pairs, strict=True)
            total += float(np.hypot(max(xs) - min(xs), max(ys) - min(ys)))
    return total


def _methods(sheet: OnPaper, figure: str, hand: Hand, before: float) -> Iterator[Help]:
    """The other methods that serve and find this figure."""
    for other in sheet.problem.methods:
        if other.name == sheet.method.name or sheet.problem.serves(other, sheet.typed) is not None:
            continue
        try:
            after = _reach(probe(replace(sheet, method=other, wider={}), hand), figure)
        except (WiseCompassError, ArithmeticError, ValueError):
            continue
        yield Help(f"by {other.name}", before, after, other.name)


def _scales(sheet: OnPaper, figure: str, hand: Hand, before: float, larger: float | None) -> Iterator[Help]:
    """The next larger scale."""
    if larger is not None and larger > sheet.scale:
        times = larger / sheet.scale
        after = _reach(probe(replace(sheet, scale=larger), hand), figure)
        yield Help(f"drawn {number_text(times)} times as large", before, after)


def _instruments(strays: Strays, figure: str, before: float) -> Iterator[Help]:
    """The part of a hand's skill that costs most."""
    moves = strays.moves[strays.row(figure)]
    variances = moves * moves
    total = float(np.sum(variances))
    for part, words in INSTRUMENTS.items():
        own = float(sum(v for v, draw in zip(variances, strays.draws, strict=True) if draw.part == part))
        yield Help(words, before, WITHIN * float(np.sqrt(total - own * 3 / 4)))
