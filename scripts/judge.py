"""How right verdicts are: drawings by simulated hands, honest ones, with mistakes and with a step gone wrong, are measured
and judged, and what was said is counted. The table by problem comes first, the figures over all of them last.

Usage: judge.py [--givens N] [--seed S] [PROBLEM ...]
"""

from __future__ import annotations

import argparse
import collections
import random
import sys
import time
import warnings
from dataclasses import replace
from pathlib import Path
from typing import TypeAlias

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from tests.core.random_givens import feasible
from wisecompass import catalogue
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.hand import Hand, Unsteadiness
from wisecompass.drafting.problem import Method, Problem
from wisecompass.judgement.gross import GROSS as TOO_FAR
from wisecompass.judgement.hands import OnPaper, figures
from wisecompass.judgement.prepared import (
    READ_LENGTH,
    Prepared,
    Reading,
    can_be_clicked,
    can_be_measured,
    prepare,
    read_spread,
)
from wisecompass.judgement.verdict import ELSE, FEW, HONEST, SLIPS, STEPS, WIDE, Verdict, judge

GROSS = 2.0
"""How far a step goes wrong in the trial, mm of paper or degrees."""

FAR = 100.0
"""How far a sheet may lie off, mm."""

LETTERS, CLICK = 5, 0.3
"""So many letters are clicked at least, each within so many mm of paper."""

SEPARABLE = 4.0
"""A mistake or a step gone wrong that moves some figure or letter by so many standard deviations, as it is measured, can be
told. One that moves none so far, but all letters together, is faint."""

SHEETS, HAND_SPREAD = 8, 0.35
"""So many sheets are drawn as they come, by hands that are so widely spread in the logarithm of their size."""


class Gross(Unsteadiness):
    """Hands one of whose strays is far too great; but the first is steady, for by it is decided what the others do alike."""

    def __init__(self, hand: Hand, count: int, seed: int, at: int, by: float) -> None:
        super().__init__(hand, count, seed)
        self.at, self.by, self.place = at, by, 0

    def stray(self, value: object, part: str, step: int) -> object:  # type: ignore[override]
        found = super().stray(value, part, step)  # type: ignore[arg-type]
        if self.place == self.at:
            found = found + np.where(np.arange(self.count) > 0, self.by, 0.0)
        self.place += 1
        return found


Counts: TypeAlias = "collections.Counter[str]"
Readings: TypeAlias = dict[str, Reading]


class Trial:
    """What comes of many drawings."""

    def __init__(self, seed: int) -> None:
        self.rng, self.np_rng = random.Random(seed), np.random.default_rng(seed)
        self.claims: list[tuple[float, bool]] = []
        """What the likeliest explanation was said to have, and whether it was right."""
        self.times: list[float] = []
        self.prepares: list[float] = []

    def readings(self, prepared: Prepared, sheet: OnPaper, hands: Unsteadiness, names: list[str]) -> list[Readings]:
        """What is read off the drawings of those hands that could draw all of it."""
        try:
            drawn = dict(figures(sheet.by(hands)))
        except (WiseCompassError, ArithmeticError, ValueError):  # a wrong drawing that comes to a stop
            return []
        if not all(name in drawn for name in names):  # so far off that it is another figure
            return []
        rows = []
        for name in names:
            read = read_spread(prepared, name, float(prepared.honest.steady[prepared.honest.row(name)]))
            values = np.broadcast_to(np.asarray(drawn[name], dtype=float), hands.count)
            rows.append(values + self.np_rng.normal(0, read, hands.count))
        table = np.array(rows)
        return [
            {name: Reading(float(table[n, k])) for n, name in enumerate(names)}
            for k in range(1, hands.count)
            if np.isfinite(table[:, k]).all()
        ]

    def judged(self, prepared: Prepared, readings: Readings) -> Verdict:
        begun = time.perf_counter()
        verdict = judge(prepared, readings)
        self.times.append(time.perf_counter() - begun)
        return verdict

    def seed(self) -> int:
        return self.rng.randrange(10**9)

    # ------------------------------------------------------------------------------------------------------ trials
    def sheet(self, problem: Problem, method: Method, own: Counts) -> None:
        """Some drawings of one sheet."""
        try:
            sheet = OnPaper(problem, feasible(problem, method, self.rng), method, self.rng.choice((1.0, 0.5, 0.2)))
            begun = time.perf_counter()
            prepared = prepare(sheet)
            self.prepares.append(time.perf_counter() - begun)
        except (WiseCompassError, ArithmeticError, AssertionError):
            own["not prepared"] += 1
            return
        names = can_be_measured(prepared)
        if not names:
            own["nothing to measure"] += 1
            return
        self.honest(prepared, names, own)
        self.as_they_come(prepared, names)
        self.slips(prepared, names, own)
        if len(names) >= FEW:
            self.steps(prepared, names, "steps", own)
        letters = can_be_clicked(prepared)
        if len(letters) >= 2 * LETTERS:
            self.clicked(prepared, letters, own)
            self.steps(prepared, letters, "clicked", own)

    def honest(self, prepared: Prepared, names: list[str], own: Counts) -> None:
        for size in (1.0, 0.5, 2.0):
            hand = prepared.hand.scaled(size).on_paper(prepared.sheet.scale)
            for readings in self.readings(prepared, prepared.sheet, Unsteadiness(hand, 21, self.seed()), names):
                verdict = self.judged(prepared, readings)
                kind = "rough" if size == 2.0 else "honest"
                own[kind] += 1
                own[f"{kind} within"] += verdict.kind == "within"
                own[f"{kind} wrong"] += verdict.kind in ("slip", "step")

    def as_they_come(self, prepared: Prepared, names: list[str]) -> None:
        """Sheets as verdicts take them to come: what is claimed of them is held against what they are."""
        sheet = prepared.sheet
        rows = [prepared.honest.row(name) for name in names]
        shows = np.abs(prepared.honest.moves[rows]).max(axis=0) > 0
        for _ in range(SHEETS):
            size = float(np.clip(np.exp(self.np_rng.normal(0, HAND_SPREAD)), 0.5, 2.0))
            hand = prepared.hand.scaled(size).on_paper(sheet.scale)
            sort = self.rng.choices(("within", "slip", "step", "else"), (HONEST, SLIPS, STEPS, ELSE))[0]
            drawn, hands = sheet, Unsteadiness(hand, 2, self.seed())
            mistake, step = None, 0
            if sort == "slip" and prepared.mistakes:
                mistake = self.rng.choice(prepared.mistakes)
                drawn = replace(sheet, taken=mistake.fork)
                off = np.abs(mistake.strays.steady[rows] - prepared.honest.steady[rows])
                if not (off[np.isfinite(off)] > 1e-6).any():
                    sort, mistake = "within", None  # as it is measured
            elif sort == "step":
                told: dict[int, list[int]] = {}
                for n, draw in enumerate(prepared.honest.draws):
                    if not shows[n]:
                        continue
                    told.setdefault(sheet.told_step(draw.step), []).append(n)
                step = self.rng.choice([*told])
                at = self.rng.choice(told[step])
                by = self.rng.choice(TOO_FAR) * self.np_rng.normal()
                scale = 1.0 if prepared.honest.draws[at].part == "protractor" else sheet.scale
                hands = Gross(hand, 2, self.seed(), at, by / scale)
            for readings in self.readings(prepared, drawn, hands, names):
                if sort == "else":
                    for name, each in readings.items():
                        wide = WIDE / READ_LENGTH * read_spread(prepared, name, each.value)
                        readings[name] = Reading(each.value + self.np_rng.normal(0, max(wide, abs(each.value) / 4)))
                best = judge(prepared, readings).causes[0]
                same = best.kind == sort
                if mistake is not None:
                    same = same and mistake.words in best.alike
                self.claims.append((best.share, same and (sort != "step" or best.step == step)))

    def clicked(self, prepared: Prepared, letters: list[str], own: Counts) -> None:
        """Honest drawings by all the letters that are clicked on a photograph."""
        for size, kind in ((1.0, "clicked honest"), (2.0, "clicked rough")):
            hand = prepared.hand.scaled(size).on_paper(prepared.sheet.scale)
            for readings in self.readings(prepared, prepared.sheet, Unsteadiness(hand, 5, self.seed()), letters):
                clicks = {name: Reading(each.value, CLICK / prepared.sheet.scale) for name, each in readings.items()}
                own[kind] += 1
                own[f"{kind} wrong"] += judge(prepared, clicks).kind in ("slip", "step")

    def slips(self, prepared: Prepared, names: list[str], own: Counts) -> None:
        """Mistakes that show, from all figures and from the two that differ most."""
        hand = prepared.hand.on_paper(prepared.sheet.scale)
        rows = [prepared.honest.row(name) for name in names]
        spread = self.spread(prepared, names)
        for mistake in prepared.mistakes:
            steady = mistake.strays.steady[rows]
            if not np.isfinite(steady).all():
                continue
            apart = np.abs(steady - prepared.honest.steady[rows]) / spread
            if apart.max(initial=0.0) <= SEPARABLE:
                own["slips that hide"] += 1
                continue
            wrong = replace(prepared.sheet, taken=mistake.fork)
            for readings in self.readings(prepared, wrong, Unsteadiness(hand, 3, self.seed()), names):
                verdict = self.judged(prepared, readings)
                own["slips"] += 1
                own["slips named"] += any(mistake.words in each.alike for each in verdict.slips)
                own["slips misnamed"] += bool(verdict.slips) and not any(mistake.words in e.alike for e in verdict.slips)
                two = [names[n] for n in np.argsort(-apart)[:2]]
                verdict = self.judged(prepared, {name: readings[name] for name in two})
                own["of two"] += 1
                own["of two named"] += any(mistake.words in each.alike for each in verdict.slips)

    def spread(self, prepared: Prepared, names: list[str], what: str = "steps") -> np.ndarray:
        """The standard deviation of figures or letters as they are measured: by the hand, and by the reading or click."""
        rows = [prepared.honest.row(name) for name in names]
        reads = [
            CLICK / prepared.sheet.scale
            if what == "clicked"
            else read_spread(prepared, name, float(prepared.honest.steady[row]))
            for name, row in zip(names, rows, strict=True)
        ]
        return np.sqrt(np.sum(prepared.honest.moves[rows] ** 2, axis=1) + np.square(reads))

    def shown(self, prepared: Prepared, names: list[str], moved: np.ndarray) -> float:
        """By how many standard deviations letters stray from each other, wherever and however the sheet lies."""
        honest, scale = prepared.honest, prepared.sheet.scale
        rows = [honest.row(name) for name in names]
        free = np.zeros((len(names), 3))
        for n, name in enumerate(names):
            letter, axis = name.rsplit(".", 1)
            beside = honest.steady[honest.row(f"{letter}.{'y' if axis == 'x' else 'x'}")]
            free[n, 0 if axis == "x" else 1] = FAR / scale
            free[n, 2] = -beside if axis == "x" else beside
        known = honest.moves[rows] @ honest.moves[rows].T + free @ free.T + np.eye(len(names)) * (CLICK / scale) ** 2
        return float(np.sqrt(moved @ np.linalg.solve(known, moved)))

    def steps(self, prepared: Prepared, names: list[str], what: str, own: Counts) -> None:
        """Steps gone wrong by two millimetres or degrees, where that shows in some of as many figures as it takes; or in the
        letters that are clicked on a photograph, in some of them or in all together."""
        sheet = prepared.sheet
        hand = prepared.hand.on_paper(sheet.scale)
        rows = [prepared.honest.row(name) for name in names]
        draws = [*enumerate(prepared.honest.draws)]
        for n, draw in self.rng.sample(draws, min(6, len(draws))):
            by = GROSS if draw.part == "protractor" else GROSS / sheet.scale
            moved = prepared.honest.moves[rows, n] / getattr(hand, draw.part) * by
            kind = what
            if np.abs(moved / self.spread(prepared, names, what)).max(initial=0.0) <= SEPARABLE:
                if what == "steps" or self.shown(prepared, names, moved) <= SEPARABLE:
                    continue
                kind = "faint"
            for readings in self.readings(prepared, sheet, Gross(hand, 2, self.seed(), n, by), names):
                if what == "clicked":
                    readings = {name: Reading(each.value, CLICK / sheet.scale) for name, each in readings.items()}
                    verdict = judge(prepared, readings)
                else:
                    verdict = self.judged(prepared, readings)
                said = [cause.step for cause in verdict.steps]
                true = sheet.told_step(draw.step)
                own[kind] += 1
                own[f"{kind} alone"] += said == [true]
                own[f"{kind} of three"] += true in said
                own[f"{kind} misnamed"] += verdict.kind == "slip" or (verdict.kind == "step" and true not in said)


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("problems", nargs="*")
    parser.add_argument("--givens", type=int, default=5)
    parser.add_argument("--seed", type=int, default=int(time.time()))
    args = parser.parse_args()
    warnings.filterwarnings("ignore", category=RuntimeWarning)
    trial, total = Trial(args.seed), collections.Counter[str]()
    print(f"seed {args.seed}")
    for each in args.problems or catalogue.ids():
        problem, own = catalogue.problem(each), collections.Counter[str]()
        for method in problem.methods:
            for _ in range(args.givens):
                trial.sheet(problem, method, own)
        told(each, own)
        total.update(own)
    told("all", total)
    print(", ".join(f"{name} {total[name]}" for name in ("not prepared", "nothing to measure", "slips that hide")))
    calibrated(trial.claims)
    for name, seconds in (("a verdict", trial.times), ("preparing", trial.prepares)):
        print(f"{name}: median {1e3 * np.median(seconds):.1f} ms, at most {1e3 * max(seconds):.0f}")


def calibrated(claims: list[tuple[float, bool]]) -> None:
    """What is claimed against what is right."""
    sure = [(p, right) for p, right in claims if p >= 0.8]
    if sure:
        mean, share = (np.mean([each[k] for each in sure]) for k in (0, 1))
        print(f"claimed with 0.8 or more: {len(sure)}, on average {mean:.3f}, right {share:.3f}")


def told(name: str, own: Counts) -> None:
    """A line of the table."""

    def share(part: str, whole: str) -> str:
        return f"{100 * own[part] / own[whole]:.1f}" if own[whole] else "–"

    columns = (
        f"{name:42}",
        f"{own['honest']} honest: wrong {share('honest wrong', 'honest')}, within {share('honest within', 'honest')}",
        f"rough: wrong {share('rough wrong', 'rough')}",
        f"{own['slips']} slips: named {share('slips named', 'slips')}, misnamed {share('slips misnamed', 'slips')}",
        f"by two {share('of two named', 'of two')}",
        f"{own['steps']} steps: alone {share('steps alone', 'steps')}, of three {share('steps of three', 'steps')}",
        f"misnamed {share('steps misnamed', 'steps')}",
        f"{own['clicked']} by letters: alone {share('clicked alone', 'clicked')}, of three "
        f"{share('clicked of three', 'clicked')}, misnamed {share('clicked misnamed', 'clicked')}; {own['faint']} faint: "
        f"of three {share('faint of three', 'faint')}; {own['clicked honest']} "
        f"honest: wrong {share('clicked honest wrong', 'clicked honest')}, rough: wrong "
        f"{share('clicked rough wrong', 'clicked rough')}",
    )
    print("; ".join(columns), flush=True)


if __name__ == "__main__":
    main()
