"""A plotter that is not there: it reads G-code line by line, takes its time, has a buffer, limits and pens, draws what it is
sent on paper that can be looked at, and fails when it is told to."""

from __future__ import annotations

import random
from collections import deque
from dataclasses import dataclass

from wisecompass.devices.protocol import STATUS, unframed
from wisecompass.drafting.pens import Pen
from wisecompass.exchange.gcode_reading import Motion, NotUnderstood, Reader
from wisecompass.exchange.machine import Profile
from wisecompass.exchange.strokes import Way
from wisecompass.geometry.curves import Pair

FASTEST = 12_000.0
"""How fast the pen goes in the air, mm a minute."""

PEN_SECONDS = 0.05
"""How long the pen takes up or down."""

HANDS_ON = ("paper out", "pen dry", "limit switch", "power cut", "cable pulled", "memory lost")
"""Faults that need somebody to mend them."""

ON_THE_WAY = ("garbled line", "garbage back", "answer lost", "line lost", "line twice", "long silence")
"""Faults of the line between, each of which strikes once and is over."""

FAULTS = (*HANDS_ON, *ON_THE_WAY)


@dataclass(frozen=True)
class Ink:
    """A way that was drawn, and by which pen."""

    way: Way
    pen: Pen


class Plotter:
    """The machine itself, without its plug. ``take`` gives it a line, ``pass_time`` lets it work; both say its answers."""

    def __init__(self, profile: Profile, seed: int = 1) -> None:
        self.profile = profile
        self.ink: list[Ink] = []
        self.reader = Reader(profile)
        self.done = self.taken = 0
        self.stopped = ""
        self.plugged = True
        self.pen_changes = 0
        self.attended = False
        """Whether somebody stands by who puts the pens in: then it waits for that at every change."""
        self.waits_for_pen = False
        self.at: Pair = (0.0, 0.0)
        self._waiting: deque[str] = deque()
        self._held: deque[tuple[int, str]] = deque()
        self._motions: deque[Motion] = deque()
        self._share = 0.0
        self._line_begun = False
        self._pause = self._silent = 0.0
        self._armed: str = ""
        self._after = 0.0
        self._chance = random.Random(seed)
        self.struck: list[str] = []

    # ------------------------------------------------------------------------------------------------------------ faults
    def fail(self, fault: str, after: float = 0.0) -> None:
        """Let a fault strike when the pen has gone ``after`` mm more on the paper (or, of the line between, at the next
        line after that)."""
        self._armed, self._after = fault, after

    def mend(self) -> None:
        """Put paper in, a fresh pen, the cable back: the machine is ready where it stands."""
        self.stopped, self.plugged, self.waits_for_pen = "", True, False

    def pen_is_in(self) -> None:
        """Go on after a change of pens."""
        self.waits_for_pen = False

    def _strike(self) -> list[str]:
        """The armed fault, now."""
        fault, self._armed = self._armed, ""
        self.struck.append(fault)
        if fault == "cable pulled":
            self.plugged = False
            return []
        if fault in ("power cut", "memory lost"):
            self.plugged = False
        said = self._stop(fault)
        if fault == "memory lost":  # a power cut of a machine that forgets how far it was
            self.done = self.taken = 0
        return said

    def _stop(self, reason: str) -> list[str]:
        """Stop where the pen is, lift it, and forget what was not begun."""
        self.stopped = reason
        self._waiting.clear()
        self._held.clear()
        self._motions.clear()
        self._share = 0.0
        self._line_begun = False
        self.taken = self.done
        self.reader.at, self.reader.down = self.at, False
        x, y = self._told(self.at)
        return [f"stop {self.done + 1} X{x:.4f} Y{y:.4f} {reason}"] if self.profile.checked else [f"error {reason}"]

    def _told(self, place: Pair) -> Pair:
        return place[0] + self.profile.shift_x, place[1] + self.profile.shift_y

    # ------------------------------------------------------------------------------------------------------------- lines
    def take(self, text: str) -> list[str]:
        """A line that came; what the machine answers at once."""
        text = text.strip()
        if self._armed in ON_THE_WAY and self._after <= 0 and text and text != STATUS:
            return self._on_the_way(text)
        if text == STATUS:
            return [self._status()]
        return self._take_framed(text) if self.profile.checked else self._take_bare(text)

    def _on_the_way(self, text: str) -> list[str]:
        fault, self._armed = self._armed, ""
        self.struck.append(fault)
        if fault == "garbled line":
            k = self._chance.randrange(len(text))
            return self.take(text[:k] + chr(33 + (ord(text[k]) + 7) % 90) + text[k + 1 :])
        if fault == "garbage back":
            return ["\x07\x11~~%%garb" + "?" * self._chance.randrange(9), *self.take(text), "\x00\x7f ok ok k"]
        if fault == "answer lost":
            self.take(text)
            return []
        if fault == "line twice":
            return [*self.take(text), *self.take(text)]
        if fault == "long silence":
            self._silent = 3.0
            return self.take(text)
        return []  # the line is lost

    def _take_framed(self, text: str) -> list[str]:
        if self.stopped:
            x, y = self._told(self.at)
            return [f"stop {self.done + 1} X{x:.4f} Y{y:.4f} {self.stopped}"]
        wanted = self.taken + len(self._held) + 1
        read = unframed(text)
        if read is None or read[0] > wanted:
            return [f"again {wanted}"]
        number, line = read
        if number < wanted:
            return [f"ok {number}"] if number <= self.taken else []
        if len(self._waiting) >= self.profile.buffer:
            self._held.append((number, line))  # it is answered when there is room
            return []
        self._waiting.append(line)
        self.taken += 1
        return [f"ok {number}"]

    def _take_bare(self, text: str) -> list[str]:
        if self.stopped:
            return [f"error {self.stopped}"]
        self._waiting.append(text)
        self.taken += 1
        return []  # ok comes when it is done

    def _status(self) -> str:
        x, y = self._told(self.at)
        state = f"stopped {self.stopped}" if self.stopped else "busy" if self._waiting or self._line_begun else "ready"
        return f"at {self.done} taken {self.taken} X{x:.4f} Y{y:.4f} {state}"

    # -------------------------------------------------------------------------------------------------------------- time
    def pass_time(self, seconds: float) -> list[str]:
        """Let the machine work for so long; what it answers meanwhile."""
        said: list[str] = []
        if self._silent > 0:
            self._silent -= seconds
            return said
        while seconds > 0 and not self.stopped and not self.waits_for_pen:
            if self._pause > 0:
                spent = min(self._pause, seconds)
                self._pause -= spent
                seconds -= spent
                continue
            if self._motions:
                seconds = self._move(seconds, said)
            elif self._line_begun:
                self._end_line(said)
            elif self._waiting:
                self._begin_line(said)
            else:
                break
        return said

    def _begin_line(self, said: list[str]) -> None:
        """Read the next line. What it does is done when its motions are over."""
        line = self._waiting[0]
        down = self.reader.down
        try:
            self._motions.extend(self.reader.line(line))
        except NotUnderstood as reason:
            said += self._stop(f"not understood: {reason}"[:70])
            return
        if self.reader.down is not down:
            self._pause = PEN_SECONDS
        if line.split(" ")[0] in ("M0", "M6"):
            self.pen_changes += 1
            self.waits_for_pen = self.attended
        self._line_begun, self._share = True, 0.0

    def _end_line(self, said: list[str]) -> None:
        self._waiting.popleft()
        self._line_begun = False
        self.done += 1
        said.append(f"done {self.done}" if self.profile.checked else "ok")
        if self._held:
            number, line = self._held.popleft()
            self._waiting.append(line)
            self.taken += 1
            said.append(f"ok {number}")

    def _move(self, seconds: float, said: list[str]) -> float:
        """Move the pen along the motion in hand; the seconds that are left."""
        motion = self._motions[0]
        way, speed = motion.way, (motion.speed or FASTEST) / 60
        left = way.length * (1 - self._share)
        step = min(left, seconds * speed)
        if self._armed in HANDS_ON and motion.down:
            step = min(step, max(self._after, 0.0))
        limit = self._within(motion, step)
        if limit is not None:
            said += self._stop("limit switch: a line leads past what the machine reaches")
            return 0.0
        share = 1.0 if step >= left else self._share + step / way.length
        if motion.down and share > self._share:
            self.ink.append(Ink(way.part(self._share, share), motion.pen))
        self.at = way.end if share >= 1 else way.at(share)
        self._share = share
        if motion.down:
            self._after -= step
            if self._armed in HANDS_ON and self._after <= 1e-9:
                said += self._strike()
                return 0.0
        if share >= 1:
            self._motions.popleft()
            self._share = 0.0
        return seconds - step / speed

    def _within(self, motion: Motion, step: float) -> str | None:
        x, y = self._told(motion.way.end)
        slack = 0.01
        good = -slack <= x <= self.profile.width + slack and -slack <= y <= self.profile.height + slack
        return None if good else "limit"

    @property
    def idle(self) -> bool:
        return not (self._waiting or self._line_begun or self._held)
