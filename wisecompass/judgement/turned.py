"""Questions turned round: an answer is wished for, and one given may give way. All values of it within limits are looked
for, each certified; what cannot be settled is said.

The truth is reckoned on a tape (see ``arithmetic.tape``) at a place of an interval. Where everything that was decided on the
way is decided alike all over the interval, the tape encloses the finding there, with slope and curvature: an interval
that cannot hold the wish is dropped, one over which the finding only rises or only falls holds one value or none, one
with a single summit is parted there. Others are halved; what is left at last is a hair, and is looked at by itself."""

from __future__ import annotations

import time
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property
from typing import Any

from flint import arb, fmpq

from wisecompass.arithmetic import BALL, ball
from wisecompass.arithmetic.tape import Guard, Traced, parts_of
from wisecompass.drafting.answers import Ball, ball_of
from wisecompass.drafting.errors import BadGiven, WiseCompassError
from wisecompass.drafting.givens import Form, Typed
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.tracing import Numeric, Reckoned, numerics, trace, with_number
from wisecompass.judgement.sought import counted, sought
from wisecompass.judgement.wishes import HIT, NARROW, Turned, Value

HAIR = fmpq(1, 10**19)
"""An interval narrower than this share of the whole is not halved any more."""

SECONDS = 0.7
"""So long values are looked for; what is not settled then is said. With all that comes before and after a second goes by,
seldom more."""

FOR_THE_RANGE = 0.3
"""Such a share of that time more is given to where the finding lies, if no value was found."""

STUCK, CLOSE = 3, fmpq(1, 256)
"""After so many halvings at one end an interval is parted at so small a share from it."""

OFF_CENTRE = fmpq(485_867, 1_000_000)
"""Where in an interval the truth is reckoned: not at a round number, at which a figure may be of a kind of its own."""


@dataclass
class _Box:
    """An interval of the given, with the tape that may hold there."""

    low: fmpq
    high: fmpq
    tape: Reckoned | None = None
    stuck: tuple[int, int] = (0, 0)
    """How many times it has been parted with its low end, and its high end, staying where they are."""

    @cached_property
    def width(self) -> fmpq:
        return self.high - self.low

    @cached_property
    def middle(self) -> fmpq:
        return _short(self.low + self.width * OFF_CENTRE, self.width)

    @cached_property
    def ball(self) -> arb:
        return arb(arb((self.low + self.high) / 2), arb(self.width / 2))

    @cached_property
    def way(self) -> arb:
        return self.ball - arb(self.middle)

    def parted(self) -> tuple[_Box, _Box]:
        """Two parts: halves; near an end where something changes, which stays the end of an interval each time, a small part
        there, so that few of them lead up to it."""
        share = fmpq(1, 2)
        if max(self.stuck) >= STUCK:
            share = CLOSE if self.stuck[0] >= self.stuck[1] else 1 - CLOSE
        at = _short(self.low + self.width * share, self.width * CLOSE)
        low, high = self.stuck
        return _Box(self.low, at, self.tape, (low + 1, 0)), _Box(at, self.high, self.tape, (0, high + 1))


def _short(value: fmpq, scale: fmpq) -> fmpq:
    """A number near by that has few binary digits: a share of ``scale`` does not count."""
    bits = max(0, 12 + (int(scale.q) // max(1, int(scale.p))).bit_length())
    return fmpq(int((value * 2**bits).floor()), 2**bits)


def _fmpq(value: Fraction) -> fmpq:
    return fmpq(value.numerator, value.denominator)


def _fraction(value: fmpq) -> Fraction:
    return Fraction(int(value.p), int(value.q))


def limits_of(which: Numeric) -> tuple[Fraction, Fraction]:
    """Between what limits a given is looked for when nobody says: its own, but no further than eight times what it is."""
    value = Fraction(float(which.value.evaluate(BALL)) if which.value.fraction() is None else which.value.fraction() or 0)
    least, most = which.given.least, which.given.most
    if which.form is Form.ANGLE:
        return least if least is not None else Fraction(-360), most if most is not None else Fraction(360)
    reach = max(abs(value) * 8, Fraction(20))
    low = value - reach if which.form is Form.OFFSET else Fraction(0)
    return (
        max(low, least) if least is not None else low,
        min(max(value * 8, reach), most) if most is not None else max(value * 8, reach),
    )


def turn(
    problem: Problem,
    typed: Typed,
    given: str,
    finding: str,
    wish: Fraction,
    limits: tuple[Fraction, Fraction] | None = None,
    seconds: float = SECONDS,
) -> Turned:
    """All values of a given between ``limits`` with which a finding is what is wished.

    Raises:
        BadGiven: no such numeric given or finding, or limits that leave nothing.
    """
    which = next((each for each in numerics(problem, typed) if each.name == given), None)
    if which is None:
        names = ", ".join(each.name for each in numerics(problem, typed))
        raise BadGiven(given, f"“{given}” is no number among the givens; those are {names}")
    low, high = limits or limits_of(which)
    least, most = which.given.least, which.given.most
    low, high = low if least is None else max(low, least), high if most is None else min(high, most)
    if low >= high:
        raise BadGiven(given, f"{which.words}: between {float(low):g} and {float(high):g} there is nothing to look for")
    asked = Turned(which, finding, wish, (low, high))
    _require_finding(problem, typed, asked)
    if which.form is Form.COUNT:
        return counted(problem, typed, asked, range(-int(-low // 1), int(high // 1) + 1))
    search = _Search(problem, typed, asked, seconds)
    if search.loose():
        return sought(problem, typed, asked, seconds)
    search.run()
    if not asked.values and not asked.intervals:
        search.find_range()
    return asked


def _require_finding(problem: Problem, typed: Typed, asked: Turned) -> None:
    here = trace(problem, typed)
    if asked.finding not in here.findings and not _is_number(here.words.get(asked.finding)):
        names = [*here.findings, *(name for name, word in here.words.items() if _is_number(word))]
        if asked.finding.split(":")[0] in problem.findings and asked.finding not in here.words:
            several = [name for name in names if name.split(":")[0] == asked.finding]
            if not several:
                return
        raise BadGiven("want", f"“{asked.finding}” is no number among the answers; those are {', '.join(names)}")


def _is_number(word: object) -> bool:
    return isinstance(word, int) and not isinstance(word, bool)


class _Search:
    """Intervals of a given, one after the other."""

    def __init__(self, problem: Problem, typed: Typed, asked: Turned, seconds: float) -> None:
        self.problem, self.typed, self.asked = problem, typed, asked
        self.given, self.wish = asked.given.name, ball.number(asked.wish)
        self.low, self.high = map(_fmpq, asked.limits)
        self.whole = self.high - self.low
        self.seconds, self.until = seconds, time.monotonic() + seconds
        self.cones: dict[int, list[int]] = {}
        self.kept: list[Reckoned] = []
        self.constant: dict[int, bool] = {}

    # ------------------------------------------------------------------------------------------------- the tape
    def reckoned(self, at: fmpq) -> Reckoned | None:
        """The truth at a value of the given; None where it cannot be reckoned there."""
        try:
            return trace(self.problem, with_number(self.typed, self.asked.given, _fraction(at)))
        except (WiseCompassError, ArithmeticError, ValueError, TypeError):
            return None

    def loose(self) -> bool:
        """Whether the reckoning leaves the tape by way of this given."""
        here = self.reckoned(self.low + self.whole * OFF_CENTRE)
        tapes = [each for each in (here, trace(self.problem, self.typed)) if each is not None]
        name = self.asked.finding
        return any(each.loose(self.given) or (name in each.findings and self._sealed(each, name)) for each in tapes)

    def _sealed(self, here: Reckoned, name: str) -> bool:
        """Whether an integral or a root that was sought stands between the given and the finding."""
        return not here.followed(name)

    def cone_of(self, here: Reckoned) -> list[int]:
        """All that matters of a tape."""
        cone = self.cones.get(id(here))
        if cone is None:
            wanted = [guard.node for guard in here.tape.guards] + [margin.index for margin, _, _ in here.margins]
            found = here.findings.get(self.asked.finding)
            cone = here.tape.cone([*wanted, *([found.index] if found is not None else [])])
            self.cones[id(here)] = cone
            self.kept.append(here)  # a tape that is gone must not lend its place in memory to another
        return cone

    def run_at(self, here: Reckoned, at: arb) -> dict[int, Any]:
        """That with the given at a value."""
        return here.tape.along(self.given, at, self.cone_of(here))

    # ------------------------------------------------------------------------------------------------- intervals
    def settle(self, box: _Box) -> tuple[Reckoned, dict[int, Any]] | list[_Box] | None:
        """A tape that holds all over an interval, run over it; else its parts; None where it holds no figure at all."""
        for here in (box.tape, None):
            if here is None:
                here = self.reckoned(box.middle)
                if here is None:
                    return self.halves(box)
            at = self.run_at(here, arb(box.middle))
            over = here.tape.over(self.given, box.ball, box.way, at, self.cone_of(here))
            holds, borders = self.holds(here, over, box)
            if holds is None:
                return None
            if holds:
                return here, over
            if here is not box.tape or self.holds(here, at, None)[0]:
                return self.part_at_borders(_Box(box.low, box.high, here, box.stuck), borders)
        return self.halves(box)

    def halves(self, box: _Box) -> list[_Box]:
        """Two parts; none of a hair."""
        if box.width <= HAIR * self.whole:
            return []
        return list(box.parted())

    def part_at_borders(self, box: _Box, borders: list[int]) -> list[_Box]:
        """The parts of an interval to either side of where a number goes through zero, and a hair about that place."""
        assert box.tape is not None
        hair = HAIR * self.whole
        if box.width <= hair:
            return []
        for node in borders[:1]:
            cone = box.tape.tape.cone([node])
            border = box.ball
            for _ in range(60):
                middle = arb(border.mid())
                value = parts_of(box.tape.tape.along(self.given, middle, cone)[node])[0]
                slope = parts_of(box.tape.tape.along(self.given, border, cone)[node])[1]
                if not slope.is_finite() or slope.contains(0):
                    return self.halves(box)
                step = middle - value / slope
                if not step.overlaps(border) or not float(step.rad()) < 0.9 * float(border.rad()):
                    break
                border = step.intersection(border)
            at = _fmpq(ball_of(border).middle)
            if not border.rad() * 4 < arb(hair):
                return self.halves(box)
            ends = [box.low, _short(at - hair / 4, hair), _short(at + hair / 4, hair), box.high]
            return [_Box(low, high, box.tape) for low, high in zip(ends, ends[1:], strict=False) if low < high]
        return self.halves(box)

    def sign_over(self, here: Reckoned, over: dict[int, Any], node: int, box: _Box | None, borders: list[int]) -> int:
        """The sign that a number has all over an interval; 0 if that is not known. One that only rises or only falls is
        known by its ends, and where they differ it goes through zero once."""
        span, slope, _ = parts_of(over[node])
        sign = ball.sign_of(span)
        if sign or box is None or not slope.is_finite() or slope.contains(0):
            return sign
        first, last = (ball.sign_of(parts_of(self.run_at(here, arb(end))[node])[0]) for end in (box.low, box.high))
        if first * last < 0:
            borders.append(node)
        return first if first == last else 0

    def holds(self, here: Reckoned, over: dict[int, Any], box: _Box | None) -> tuple[bool | None, list[int]]:
        """Whether all is decided alike over an interval, None where a condition is broken all over it; and what goes through
        zero there once."""
        borders: list[int] = []
        guards = iter(here.tape.guards)
        checked = 0
        for margin, strict, before in here.margins:
            while checked < before:  # a margin means something only where what it was reckoned by is decided alike
                checked += 1
                if not self.stands(here, over, next(guards), box, borders):
                    return False, borders
            sign = self.sign_over(here, over, margin.index, box, borders)
            if sign < 0 or (strict and parts_of(over[margin.index])[0] <= 0):
                return None, []
            if not sign and not parts_of(over[margin.index])[0] >= 0:
                return False, borders
        if here.broken is not None:
            return False, borders
        return all(self.stands(here, over, guard, box, borders) for guard in guards), borders

    def stands(self, here: Reckoned, over: dict[int, Any], guard: Guard, box: _Box | None, borders: list[int]) -> bool:
        """Whether something is decided all over an interval as it was where the tape was made."""
        if guard.sign:
            return self.sign_over(here, over, guard.node, box, borders) == guard.sign
        span, slope, _ = parts_of(over[guard.node])
        return bool(span.contains(0) and slope.contains(0))

    def run(self) -> None:
        """Look at all intervals, from the low end to the high."""
        waiting = [_Box(self.low, self.high)]
        hairs: list[_Box] = []
        while waiting:
            box = waiting.pop()
            if time.monotonic() > self.until:
                self.asked.unsettled += [_ends(each) for each in [box, *waiting]]
                break
            settled = self.settle(box)
            if settled is None:
                continue
            if isinstance(settled, list):
                if not settled:
                    hairs.append(box)
                waiting += reversed(settled)
                continue
            waiting += reversed(list(self.look(box, *settled, hairs)))
        for low, high in _merged([_ends(box) for box in hairs]):
            self.look_at_hair(low, high)
        self.asked.values.sort(key=lambda value: value.ball.middle)
        self.asked.values[:] = _apart(self.asked.values)
        self.asked.intervals[:] = _merged(self.asked.intervals)
        self.asked.unsettled[:] = _merged(self.asked.unsettled)

    def look(self, box: _Box, here: Reckoned, over: dict[int, Any], hairs: list[_Box]) -> Iterator[_Box]:
        """Take what an interval holds whose tape holds; what must be looked at again comes back."""
        found = here.findings.get(self.asked.finding)
        if found is None:
            if here.words.get(self.asked.finding) == self.asked.wish:
                self.asked.intervals.append(_ends(box))
            return
        value, slope, bend = parts_of(over[found.index])
        off = value - self.wish
        if not here.tape.hangs_on(found.index, self.given) or (slope.contains(0) and self.is_constant(here, found)):
            if abs(self.off(here, found, arb(box.middle))[0]) <= HIT:
                self.asked.intervals.append(_ends(box))
            return
        if off.is_finite() and not off.contains(0):
            return
        if slope.is_finite() and not slope.contains(0):
            self.cross(box, here, found)
        elif bend.is_finite() and not bend.contains(0):
            yield from self.part_at_summit(box, here, found, bend)
        elif box.width <= HAIR * self.whole:
            hairs.append(box)
        else:
            yield from _Box(box.low, box.high, here, box.stuck).parted()

    def is_constant(self, here: Reckoned, found: Traced) -> bool:
        """Whether a finding that hangs on the given by its formula does not in fact: its slope is nothing at odd places."""
        if id(here) not in self.constant:
            near = arb(self.whole) / 10**9
            begun = arb(here.tape.values[here.tape.inputs[self.given]].mid())
            places = (begun + near * k for k in (0, 3, 7))
            slopes = [parts_of(self.run_at(here, place)[found.index])[1] for place in places]
            self.constant[id(here)] = all(abs(slope) < arb(1) / 10**30 for slope in slopes)
        return self.constant[id(here)]

    def off(self, here: Reckoned, found: Traced, at: arb) -> tuple[arb, arb, arb]:
        """By how much the finding misses the wish at a value, with slope and half the curvature."""
        value, slope, bend = parts_of(self.run_at(here, at)[found.index])
        return value - self.wish, slope, bend

    def cross(self, box: _Box, here: Reckoned, found: Traced) -> None:
        """The one value of an interval over which the finding only rises or only falls, if it has one."""
        ends = [self.off(here, found, arb(end))[0] for end in (box.low, box.high)]
        first, last = (ball.sign_of(end) for end in ends)
        if first * last > 0:
            return
        for end, sign in ((box.low, first), (box.high, last)):
            if sign == 0:
                self.asked.values.append(Value(self.at_end(here, found, end)))
                return
        low, high = box.low, box.high
        value = box.ball
        for _ in range(200):
            middle = arb(value.mid())
            miss, _, _ = self.off(here, found, middle)
            slope = self.off(here, found, value)[1]
            if slope.is_finite() and not slope.contains(0):
                step = middle - miss / slope
                if step.overlaps(value):
                    better = step.intersection(value)
                    if float(better.rad()) < 0.5 * float(value.rad()):
                        value = better
                        continue
                    if value.rad() < arb(1) / 10**20:
                        value = better
                        break
            if value.rad() < arb(1) / 10**30:
                break
            at = (low + high) / 2
            sign = ball.sign_of(self.off(here, found, arb(at))[0])
            low, high = (at, high) if sign == first else (low, at)
            value = _Box(low, high).ball.intersection(value)
        self.asked.values.append(Value(ball_of(value)))

    def at_end(self, here: Reckoned, found: Traced, end: fmpq) -> Ball:
        """The value at an end of an interval, where the finding cannot be told from the wish: as near as its slope says."""
        miss, slope, _ = self.off(here, found, arb(end))
        known = slope.is_finite() and not slope.contains(0)
        away = ball_of(miss / slope) if known else Ball(Fraction(0), NARROW / 2)
        return Ball(_fraction(end), 2 * (abs(away.middle) + away.radius))

    def part_at_summit(self, box: _Box, here: Reckoned, found: Traced, bend: arb) -> Iterator[_Box]:
        """Part an interval where the slope goes through zero once."""
        signs = [ball.sign_of(self.off(here, found, arb(end))[1]) for end in (box.low, box.high)]
        if signs[0] * signs[1] > 0:
            self.cross(box, here, found)
            return
        summit = box.ball
        for _ in range(120):
            middle = arb(summit.mid())
            step = middle - self.off(here, found, middle)[1] / (2 * self.off(here, found, summit)[2])
            if not step.overlaps(summit):
                break
            better = step.intersection(summit)
            if not float(better.rad()) < 0.7 * float(summit.rad()):
                summit = better
                break
            summit = better
        if not summit.rad() < arb(1) / 10**16:
            yield from _Box(box.low, box.high, here, box.stuck).parted()
            return
        miss = self.off(here, found, summit)[0]
        sign = ball.sign_of(miss)
        if sign == 0:
            self.asked.values.append(Value(ball_of(summit), touching=True))
        elif sign * ball.sign_of(bend) < 0:
            at = ball_of(summit)
            gap = max(_fmpq(at.radius) * 2, fmpq(1, 10**30))
            for part in ((box.low, _fmpq(at.middle) - gap), (_fmpq(at.middle) + gap, box.high)):
                if part[0] < part[1]:
                    self.cross(_Box(*part, here), here, found)

    def look_at_hair(self, low: Fraction, high: Fraction) -> None:
        """What is left where the figure changes its kind: there a round number may be the value; else it is said."""
        at = _simplest(low, high)
        here = self.reckoned(_fmpq(at))
        if here is not None and here.broken is None:
            found = here.findings.get(self.asked.finding)
            word = here.words.get(self.asked.finding)
            if (found is not None and (found.value - self.wish).contains(0)) or (found is None and word == self.asked.wish):
                self.asked.values.append(Value(Ball(at, high - low), touching=True))
                return
        sides = [self.reckoned(_fmpq(each)) for each in (low, high)]
        for side in sides:
            if side is None or side.broken is not None:
                continue
            found = side.findings.get(self.asked.finding)
            if found is None:
                continue
            over = self.run_at(side, _Box(_fmpq(low), _fmpq(high)).ball)
            if parts_of(over[found.index])[1].contains(0) and self.is_constant(side, found):
                over = self.run_at(side, arb(_fmpq(high if side is sides[1] else low)))
            value = parts_of(over[found.index])[0] - self.wish
            if not value.is_finite() or value.contains(0):
                self.asked.unsettled.append((low, high))
                return

    # ------------------------------------------------------------------------------------------------- the range
    def find_range(self) -> None:
        """Between what limits the finding lies, and where it comes nearest to the wish; as far as there is time."""
        self.until = time.monotonic() + self.seconds * FOR_THE_RANGE
        least: tuple[float, float] | None = None
        most: tuple[float, float] | None = None
        waiting = [_Box(self.low, self.high)]
        rounds = 0
        while waiting and time.monotonic() < self.until and rounds < 4000:
            rounds += 1
            waiting.sort(key=lambda box: box.width)
            box = waiting.pop()
            if box.width < self.whole / 10**12:
                continue
            settled = self.settle(box)
            if settled is None or isinstance(settled, list):
                waiting += settled or []
                continue
            here, over = settled
            found = here.findings.get(self.asked.finding)
            if found is None:
                continue
            for end in (box.low, box.middle, box.high):
                value = float(parts_of(self.run_at(here, arb(end))[found.index])[0].mid())
                least = min(least or (value, _float(end)), (value, _float(end)))
                most = max(most or (value, _float(end)), (value, _float(end)))
            span, slope, _ = parts_of(over[found.index])
            assert least is not None and most is not None
            ease = 1e-9 * (1 + abs(most[0] - least[0]))
            slope = parts_of(over[found.index])[1]
            only_rises = slope.is_finite() and not slope.contains(0)
            if only_rises or (
                span.is_finite() and float(span.lower()) > least[0] - ease and float(span.upper()) < most[0] + ease
            ):
                continue
            waiting += self.halves(_Box(box.low, box.high, here, box.stuck))
        if least is None or most is None:
            return
        self.asked.range = (least[0], most[0])
        wish = float(self.asked.wish)
        best = least if wish <= least[0] else most if wish >= most[0] else min(least, most, key=lambda e: abs(e[0] - wish))
        self.asked.nearest = (best[1], best[0])


def _ends(box: _Box) -> tuple[Fraction, Fraction]:
    return _fraction(box.low), _fraction(box.high)


def _float(value: fmpq) -> float:
    return float(_fraction(value))


def _merged(spans: list[tuple[Fraction, Fraction]]) -> list[tuple[Fraction, Fraction]]:
    """Intervals in order, those that meet as one."""
    found: list[tuple[Fraction, Fraction]] = []
    for low, high in sorted(spans):
        if found and low <= found[-1][1]:
            found[-1] = (found[-1][0], max(found[-1][1], high))
        else:
            found.append((low, high))
    return found


def _apart(values: list[Value]) -> list[Value]:
    """Values in order, each once: where two intervals meet both may have found it."""
    found: list[Value] = []
    for value in values:
        if found and value.ball.middle - found[-1].ball.middle <= value.ball.radius + found[-1].ball.radius + NARROW:
            if value.ball.radius < found[-1].ball.radius:
                found[-1] = value
            continue
        found.append(value)
    return found


def _simplest(low: Fraction, high: Fraction) -> Fraction:
    """The roundest number of an interval."""
    middle = (low + high) / 2
    for digits in range(13):
        near = Fraction(round(middle * 10**digits), 10**digits)
        if low <= near <= high:
            return near
    return middle
