"""Sending a program to a plotter: line by line with acknowledgements, off the interface's thread, with progress, pause and
cancel, and after a fault on from the very place where the pen stopped.

What has been drawn is known from the machine alone: it says which line is done and where the pen is. Of the line that it
stopped in, what is left is told anew from that place. A machine that knows no numbers, or has forgotten them, is gone on
with at the beginning of the stroke that it told of last; of that stroke a part may then be drawn twice.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import accumulate
from typing import Literal

from wisecompass.devices.port import Port, PortTrouble
from wisecompass.devices.protocol import STATUS, Answer, answer, framed
from wisecompass.exchange.gcode import Job, Says
from wisecompass.exchange.gcode_reading import Motion, Reader
from wisecompass.exchange.machine import Profile
from wisecompass.exchange.strokes import Way
from wisecompass.geometry.curves import Pair

State = Literal["waiting", "sending", "paused", "stopped", "done", "cancelled"]

ANSWER_WITHIN = 1.0
"""Seconds after which a machine that says nothing is asked how it stands."""

MOST_ASKED = 30
"""A machine that has not answered so often is given up for the time being."""

LOOK = 0.02


@dataclass(frozen=True)
class Progress:
    """How far it is. ``stroke`` of ``strokes`` is in hand, ``share`` of the whole length is drawn, and ``words`` say what
    stopped it, where something did."""

    state: State
    stroke: int
    strokes: int
    share: float
    words: str = ""


class _Stopped(Exception):
    """The machine has stopped; the sentence says why."""


class Sending:
    """A program on its way. ``connect`` opens the port anew for each try; ``tell`` is called from the sending thread."""

    def __init__(self, job: Job, connect: Callable[[], Port], tell: Callable[[Progress], None] = lambda _: None) -> None:
        self.job, self._connect, self._tell = job, connect, tell
        self.state: State = "waiting"
        self.words = ""
        self._pause, self._cancel = threading.Event(), threading.Event()
        self._thread: threading.Thread | None = None
        self._stream = _Stream(job)
        self._done = self._sent = self._taken = 0
        self._first = 0
        """Number of the line before the stream's first, as the machine counts."""

    # --------------------------------------------------------------------------------------------------- from the outside
    def start(self) -> None:
        """Begin, or go on after a stop, from where the pen is."""
        if self._thread is not None and self._thread.is_alive():
            return
        self._cancel.clear()
        self._pause.clear()
        again = self.state in ("stopped", "cancelled")
        self._set("sending")
        self._thread = threading.Thread(target=self._run, args=(again,), daemon=True)
        self._thread.start()

    def pause(self) -> None:
        """Stop at the end of the stroke in hand, with the pen up."""
        self._pause.set()

    def go_on(self) -> None:
        """Go on after a pause."""
        self._pause.clear()

    def cancel(self) -> None:
        """Lift the pen and end; ``start`` would go on from there."""
        self._cancel.set()

    def wait(self, seconds: float) -> State:
        """Wait until it is over, one way or another."""
        if self._thread is not None:
            self._thread.join(seconds)
        return self.state

    # ------------------------------------------------------------------------------------------------------- the thread
    def _set(self, state: State, words: str = "") -> None:
        self.state, self.words = state, words
        self._say()

    def _say(self) -> None:
        stroke, share = self._stream.reached(self._done - self._first)
        self._tell(Progress(self.state, stroke, len(self.job.strokes), share, self.words))

    def _run(self, again: bool) -> None:
        port: Port | None = None
        stopped = ""
        try:
            port = self._connect()
            if self.job.profile.checked:
                self._meet(port, again)
                self._send_checked(port)
            else:
                self._send_bare(port, again)
        except (PortTrouble, _Stopped) as reason:
            stopped = str(reason)
        except Exception as fault:
            stopped = f"a fault of the program itself ({type(fault).__name__}: {fault})"
            raise
        finally:
            if port is not None:
                port.close()
            if stopped:  # only now may somebody else, or another try, take the port
                self._set("stopped", stopped)

    def _meet(self, port: Port, again: bool) -> None:
        """Learn how the machine stands, wait until it has drawn what it has, and go on from there."""
        status = self._ask(port, until_idle=True)
        if status.words.startswith("stopped"):
            raise _Stopped(f"the plotter says: {status.words.removeprefix('stopped ')}; mend it and go on")
        if again and status.number < self._done:  # it has forgotten how far it was
            self._stream.begin_stroke(self._done - self._first)
        elif again:
            self._stream.go_on(status.number - self._first, self._paper(status.place))
        self._done = self._sent = self._taken = self._first = status.number

    def _paper(self, place: Pair) -> Pair:
        return place[0] - self.job.profile.shift_x, place[1] - self.job.profile.shift_y

    def _ask(self, port: Port, until_idle: bool = False) -> Answer:
        """How the machine stands.

        Raises:
            PortTrouble: it does not answer.
        """
        asked = 0
        while asked < MOST_ASKED:
            port.send(STATUS)
            until = time.monotonic() + ANSWER_WITHIN
            heard = False
            while time.monotonic() < until:
                line = port.line(LOOK)
                found = answer(line) if line is not None else None
                if found is None:
                    continue
                if found.kind != "at":
                    self._heard(found, strict=False)
                    continue
                heard = True
                if not (until_idle and found.words == "busy"):
                    return found
                time.sleep(LOOK)
                break
            asked = 0 if heard else asked + 1
            if self._cancel.is_set() and asked > 2:
                break
        raise PortTrouble("the plotter does not answer")

    def _send_checked(self, port: Port) -> None:
        """Send what is left of the stream with numbers and sums, as much ahead as the machine takes."""
        profile, lines = self.job.profile, self._stream.lines
        quiet_since = time.monotonic()
        while True:
            if self._cancel.is_set() and self._lifted():
                self._drain(port)
                self._set("cancelled", "cancelled; the pen is up")
                return
            held = self._pause.is_set() and self._lifted()
            if held and self._done == self._sent and self.state != "paused":
                self._set("paused")
            elif not self._pause.is_set() and self.state == "paused":
                self._set("sending")
            index = self._sent - self._first
            if (
                not held
                and index < len(lines)
                and self._sent - self._taken < 2
                and self._sent - self._done < profile.buffer + 2
            ):
                self._sent += 1
                port.send(framed(self._sent, lines[index]))
                quiet_since = time.monotonic()
                continue
            if self._done - self._first >= len(lines):
                self._set("done")
                return
            line = port.line(LOOK)
            if line is not None:
                if self._heard(answer(line)):
                    quiet_since = time.monotonic()
            elif time.monotonic() - quiet_since > ANSWER_WITHIN and self._done < self._sent:
                self._catch_up(self._ask(port))
                quiet_since = time.monotonic()

    def _lifted(self) -> bool:
        """Whether what was sent ends with the pen up."""
        return self._stream.lifted(self._sent - self._first)

    def _drain(self, port: Port) -> None:
        """Wait until what was sent is done."""
        while self._done < self._sent:
            self._catch_up(self._ask(port))
            time.sleep(LOOK)
            if self._taken < self._sent:
                self._sent = self._taken

    def _heard(self, found: Answer, strict: bool = True) -> bool:
        """Take an answer in; whether it told something.

        Raises:
            _Stopped: the machine has stopped.
        """
        if found.kind == "ok" and self._taken < found.number <= self._sent:
            self._taken = found.number
        elif found.kind == "done" and self._done < found.number <= self._sent:
            self._done = found.number
            self._taken = max(self._taken, self._done)
            self._say()
        elif found.kind == "again" and self._done < found.number <= self._sent and strict:
            self._sent = self._taken = found.number - 1
        elif found.kind == "stop" and strict:
            raise _Stopped(f"the plotter stopped: {found.words}; mend it and go on")
        else:
            return False
        return True

    def _catch_up(self, status: Answer) -> None:
        """What a machine says that was asked: answers that were lost, lines that never came."""
        if status.words.startswith("stopped"):
            raise _Stopped(f"the plotter stopped: {status.words.removeprefix('stopped ')}; mend it and go on")
        if self._done < status.number <= self._sent:
            self._done = status.number
            self._say()
        if self._done <= status.taken <= self._sent:
            self._sent = self._taken = status.taken

    def _send_bare(self, port: Port, again: bool) -> None:
        """Send bare lines, each when the one before is answered."""
        if again:
            self._stream.begin_stroke(self._done)
            self._done = 0
        self._first = 0
        lines = self._stream.lines
        for index, line in enumerate(lines):
            while self._pause.is_set() and self._stream.lifted(index) and not self._cancel.is_set():
                if self.state != "paused":
                    self._set("paused")
                time.sleep(LOOK)
            if self.state == "paused":
                self._set("sending")
            if self._cancel.is_set() and self._stream.lifted(index):
                self._set("cancelled", "cancelled; the pen is up")
                return
            port.send(line)
            self._await_ok(port)
            self._done = index + 1
            self._say()
        self._set("done")

    @staticmethod
    def _await_ok(port: Port) -> None:
        until = time.monotonic() + ANSWER_WITHIN * MOST_ASKED
        while time.monotonic() < until:
            line = port.line(LOOK)
            if line == "ok":
                return
            if line is not None and line.startswith("error"):
                raise _Stopped(f"the plotter stopped: {line.removeprefix('error').strip()}; mend it and go on")
        raise PortTrouble("the plotter does not answer")


class _Stream:
    """The lines that are still to be sent, and what is known of each: its stroke, and whether the pen is up after it."""

    def __init__(self, job: Job) -> None:
        self.job = job
        self.lines: list[str] = list(job.lines)
        self.strokes: list[int] = list(job.stroke_of)
        self._lengths = [0.0, *accumulate(stroke.length for stroke in job.strokes)]
        self._look()

    def _look(self) -> None:
        """How much each line draws, and whether the pen is up after it."""
        reader = Reader(self.job.profile)
        self._up, drawn = [True], []
        for line in self.lines:
            drawn.append(sum(motion.way.length for motion in reader.line(line) if motion.down))
            self._up.append(not reader.down)
        self._left = sum(drawn)
        self._sums = [0.0, *accumulate(drawn)]

    def lifted(self, count: int) -> bool:
        """Whether the pen is up after so many lines."""
        return self._up[min(max(count, 0), len(self.lines))]

    def reached(self, count: int) -> tuple[int, float]:
        """The stroke in hand after so many lines, from 1, and the share of the whole length that is drawn."""
        count = min(max(count, 0), len(self.lines))
        whole = self._lengths[-1] or 1.0
        share = min(1.0, max(0.0, 1 - (self._left - self._sums[count]) / whole))
        stroke = max((n for n in self.strokes[: count + 1] if n >= 0), default=-1) if count < 200 else self._stroke(count)
        return stroke + 1, share

    def _stroke(self, count: int) -> int:
        for n in reversed(self.strokes[: count + 1]):
            if n >= 0:
                return n
        return -1

    def go_on(self, done: int, place: Pair) -> None:
        """What is left after so many lines are done and the pen has been lifted at a place, told anew."""
        done = min(max(done, 0), len(self.lines))
        profile = self.job.profile
        reader = Reader(profile)
        for line in self.lines[:done]:
            reader.line(line)
        rest, strokes = list(self.lines[done:]), list(self.strokes[done:])
        if not rest:
            self.lines, self.strokes = [], []
            self._look()
            return
        was_down, pen, before = reader.down, reader.pen, reader.at
        motions = [motion for motion in reader.line(rest[0]) if motion.down]
        says = Says(profile)
        speed = profile.speeds.get(pen, profile.draw_speed)
        begun: list[str] = ["G21" if profile.units == "mm" else "G20", "G90", "G17", *profile.begin, *says.up()]
        begun += says.remark(f"pen {pen}")
        if was_down:
            ways = _what_is_left(motions, place) if motions else []
            if ways or _draws_on(rest, self.job.profile, reader):
                begun += [says.to("G0", ways[0].start if ways else before), *says.down()]
                says.speed = speed
                begun += [line for way in ways for line in says.way(way)]
            rest = rest[1:] if motions else rest
            strokes = strokes[1:] if motions else strokes
        else:
            begun.append(says.to("G0", before))
        rest = _with_speed(rest, profile, speed) if was_down else rest
        first = next((n for n in strokes if n >= 0), self.strokes[min(done, len(self.strokes) - 1)])
        self.lines, self.strokes = [*begun, *rest], [*(first for _ in begun), *strokes]
        self._look()

    def begin_stroke(self, done: int) -> None:
        """What is left from the beginning of the stroke that was in hand after so many lines."""
        k = min(done, len(self.lines))
        while k > 0 and not self._up[k]:
            k -= 1
        profile = self.job.profile
        reader = Reader(profile)
        for line in self.lines[:k]:
            reader.line(line)
        says = Says(profile)
        begun = ["G21" if profile.units == "mm" else "G20", "G90", "G17", *profile.begin, *says.up()]
        begun += [*says.remark(f"pen {reader.pen}"), says.to("G0", reader.at)]
        self.strokes = [*(self.strokes[min(k, len(self.strokes) - 1)] for _ in begun), *self.strokes[k:]]
        self.lines = [*begun, *self.lines[k:]]
        self._look()


def _draws_on(rest: Sequence[str], profile: Profile, reader: Reader) -> bool:
    """Whether the pen is needed down before it is lifted again."""
    look = Reader(profile, at=reader.at, down=True, pen=reader.pen)
    look._unit, look._absolute = (1.0 if profile.units == "mm" else 25.4), True
    for line in rest[1:]:
        if any(motion.down for motion in look.line(line)):
            return True
        if not look.down:
            return False
    return False


def _what_is_left(motions: Sequence[Motion], place: Pair) -> list[Way]:
    """The ways of a line from where the pen stopped on."""
    (motion,) = motions
    way = motion.way
    share = _share(way, place)
    return [way.part(share, 1.0)] if (1 - share) * way.length > 1e-4 else []


def _share(way: Way, place: Pair) -> float:
    """The share of a way at which a place on it lies."""
    low, high = 0.0, 1.0
    shares = [k / 64 for k in range(65)]
    near = min(shares, key=lambda share: _square(way.at(share), place))
    low, high = max(0.0, near - 1 / 64), min(1.0, near + 1 / 64)
    for _ in range(60):
        a, b = low + (high - low) / 3, high - (high - low) / 3
        if _square(way.at(a), place) < _square(way.at(b), place):
            high = b
        else:
            low = a
    return (low + high) / 2


def _square(a: Pair, b: Pair) -> float:
    return (a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2


def _with_speed(rest: list[str], profile: Profile, speed: float) -> list[str]:
    """Lines whose first drawing one tells its speed again."""
    says = Says(profile)
    for k, line in enumerate(rest):
        if line.startswith(("G1 X", "G2 ", "G3 ")):
            if " F" not in line:
                return [*rest[:k], f"{line} F{says.number(speed)}", *rest[k + 1 :]]
            return rest
    return rest
