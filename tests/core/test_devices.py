"""Sending to a plotter through the real serial code: faults survived, nothing drawn twice or left out; and the caliper."""

from __future__ import annotations

import itertools
import math
import os
import random
import threading
import time
import unittest
from dataclasses import replace
from pathlib import Path

from shapely import LineString, STRtree

from wisecompass.devices.caliper import Caliper, CaliperOnPlug, NoReading, Readings, reading
from wisecompass.devices.plotter import FAULTS, HANDS_ON, Plotter
from wisecompass.devices.plug import PlotterOnPlug
from wisecompass.devices.port import PortTrouble, SerialPort
from wisecompass.devices.protocol import answer, framed, unframed
from wisecompass.devices.sending import Progress, Sending
from wisecompass.drafting.marks import Arc, Segment
from wisecompass.drafting.pens import Pen
from wisecompass.exchange.gcode import job
from wisecompass.exchange.machine import NAMED, SIMULATED, Profile
from wisecompass.exchange.strokes import Stroke, ordered, strokes_of
from wisecompass.folio import store
from wisecompass.folio.page import final
from wisecompass.folio.print import sheet_page

HURRY = 2000.0

SENDINGS = int(os.environ.get("WISE_COMPASS_SENDINGS", "3"))
"""Of every kind of fault, each at another place."""


def strokes() -> list[Stroke]:
    """What a sheet of the sample has by five pens: lines, arcs, dashes."""
    page, _ = sheet_page(store.sample(), 1)
    pens = (Pen.CENTRE, Pen.DIMENSION, Pen.HIDDEN, Pen.GIVEN, Pen.OUTLINE)
    return ordered(strokes_of(final(page)), pens)


STROKES = strokes()
LENGTH = sum(stroke.length for stroke in STROKES)


class Sent(unittest.TestCase):
    """A job, a plotter on its plug, and what was drawn in the end."""

    def machine(self, profile: Profile = SIMULATED, seed: int = 1) -> PlotterOnPlug:
        plug = PlotterOnPlug(Plotter(profile, seed), HURRY)
        self.addCleanup(plug.close)
        return plug

    def sending(self, plug: PlotterOnPlug, work: list[Stroke], profile: Profile = SIMULATED) -> Sending:
        self.told: list[Progress] = []
        return Sending(job(work, profile), lambda: SerialPort(plug.name), self.told.append)

    def finish(self, sending: Sending, plug: PlotterOnPlug, mendings: int = 12) -> int:
        """Send until done, mending whatever stops it; how often that was."""
        mended = 0
        sending.start()
        while sending.wait(60) != "done" and mended < mendings:
            self.assertEqual(sending.state, "stopped", sending.words)
            self.assertTrue(sending.words)
            plug.mend()
            sending.start()
            mended += 1
        self.assertEqual(sending.state, "done", sending.words)
        return mended

    def hold(self, plotter: Plotter, work: list[Stroke], twice: float = 0.0) -> None:
        """All is drawn, by its pen, and no more than ``twice`` mm of it twice."""
        for pen in {stroke.pen for stroke in work}:
            mine = [stroke for stroke in work if stroke.pen is pen]
            ink = [each.way for each in plotter.ink if each.pen is pen and each.way.length > 0]
            self.assertAlmostEqual(
                sum(way.length for way in ink), sum(s.length for s in mine), delta=0.05 + 0.001 * len(mine) + twice
            )
            lines = [LineString([way.start, *way.points(0.002)]) for way in ink]
            tree = STRtree(lines)
            for stroke in mine:
                for way in stroke.ways:
                    for share in (0.01, 0.5, 0.99):
                        place = LineString([way.at(share), way.at(share)])
                        self.assertLess(lines[int(tree.nearest(place))].distance(place), 0.01)


class EveryFault(Sent):
    """Each kind of fault, at many places."""

    def test_without_fault(self) -> None:
        plug = self.machine()
        sending = self.sending(plug, STROKES)
        self.assertEqual(self.finish(sending, plug), 0)
        self.hold(plug.plotter, STROKES)
        self.assertEqual(self.told[-1].state, "done")
        self.assertAlmostEqual(self.told[-1].share, 1.0, places=6)
        shares = [progress.share for progress in self.told]
        self.assertEqual(shares, sorted(shares))
        self.assertEqual(plug.plotter.pen_changes, len({stroke.pen for stroke in STROKES}) - 1)

    def test_every_fault_at_random_places(self) -> None:
        """Every kind strikes somewhere; nothing is left out, and nothing is drawn twice unless the machine forgot."""
        chance = random.Random(os.environ.get("WISE_COMPASS_SEED", "19"))
        for fault, _ in itertools.product(FAULTS, range(SENDINGS)):
            plug = self.machine(seed=chance.randrange(1000))
            sending = self.sending(plug, STROKES)
            after = chance.uniform(0, 0.95 * LENGTH)
            plug.fail(fault, after)
            with self.subTest(fault, after=after):
                mended = self.finish(sending, plug)
                self.assertEqual(plug.plotter.struck, [fault])
                self.assertEqual(mended, 1 if fault in HANDS_ON else 0)
                forgotten = 2 * max(stroke.length for stroke in STROKES) if fault == "memory lost" else 0.0
                self.hold(plug.plotter, STROKES, twice=forgotten)
            plug.close()
        self.assertGreaterEqual(len(FAULTS), 12)

    def test_fault_upon_fault(self) -> None:
        """A bad day: one fault after another until the sheet is done."""
        chance = random.Random(4)
        plug = self.machine()
        sending = self.sending(plug, STROKES)
        wanted = [chance.choice([each for each in FAULTS if each != "memory lost"]) for _ in range(9)]
        left = list(wanted)

        def next_fault() -> None:
            while left and sending.state not in ("done",):
                with plug.lock:
                    if not plug.plotter._armed and not plug.plotter.stopped and plug.plotter.plugged:
                        plug.plotter.fail(left.pop(0), chance.uniform(5, LENGTH / 15))
                time.sleep(0.002)

        thread = threading.Thread(target=next_fault)
        thread.start()
        self.finish(sending, plug)
        thread.join(5)
        self.assertGreater(len(plug.plotter.struck), 5)
        self.hold(plug.plotter, STROKES)

    def test_every_dialect_goes_on_at_the_place(self) -> None:
        """With pens by M, in inches, without arcs: the stop is within a line or arc, and the rest is drawn from there."""
        work = strokes_of([Arc(cx=100, cy=100, radius=80, pen=Pen.CUT), Segment(x1=0, y1=0, x2=150, y2=90, pen=Pen.CUT)])
        for name, after in itertools.product(NAMED, (3.0, 200.0, 490.0, 560.0)):
            profile = replace(NAMED[name], checked=True)
            plug = self.machine(profile)
            plug.fail("paper out", after)
            sending = self.sending(plug, work, profile)
            with self.subTest(name, after=after):
                self.assertEqual(self.finish(sending, plug), 1)
                ink = sum(each.way.length for each in plug.plotter.ink)
                self.assertAlmostEqual(ink, sum(stroke.length for stroke in work), delta=0.2)
            plug.close()

    def test_a_machine_without_numbers(self) -> None:
        """It is gone on with at the beginning of the stroke it was in: nothing is left out, that one partly drawn twice."""
        profile = replace(NAMED["pen by M3 and M5"], buffer=1)
        plug = self.machine(profile)
        sending = self.sending(plug, STROKES, profile)
        plug.fail("paper out", 0.4 * LENGTH)
        self.assertEqual(self.finish(sending, plug), 1)
        self.hold(plug.plotter, STROKES, twice=max(stroke.length for stroke in STROKES))

    def test_past_what_the_machine_reaches(self) -> None:
        """A machine smaller than its profile says stops at its switch, and says so again when gone on with."""
        plug = self.machine(replace(SIMULATED, width=100, height=100))
        sending = self.sending(plug, STROKES)
        sending.start()
        self.assertEqual(sending.wait(30), "stopped")
        self.assertIn("limit switch", sending.words)


class ByHand(Sent):
    """Pause, go on, cancel, and start once more."""

    def test_pause_lifts_the_pen_and_go_on_goes_on(self) -> None:
        plug = self.machine()
        plug.hurry = 200.0
        sending = self.sending(plug, STROKES)
        sending.start()
        self._until(lambda: bool(self.told) and self.told[-1].share > 0.2)
        sending.pause()
        self._until(lambda: sending.state == "paused")
        self.assertFalse(plug.plotter.reader.down)
        drawn = len(plug.plotter.ink)
        time.sleep(0.2)
        self.assertEqual(len(plug.plotter.ink), drawn)
        self.assertLess(self.told[-1].share, 1)
        sending.go_on()
        self.assertEqual(sending.wait(60), "done")
        self.hold(plug.plotter, STROKES)

    def test_pens_are_waited_for(self) -> None:
        """Where somebody stands by, nothing is drawn by the next pen before it is in, however long that takes."""
        plug = self.machine()
        plug.plotter.attended = True
        sending = self.sending(plug, STROKES)
        sending.start()
        pens = list(dict.fromkeys(stroke.pen for stroke in STROKES))
        for pen in pens[:-1]:
            self._until(lambda: plug.plotter.waits_for_pen)
            time.sleep(0.05)
            self.assertEqual({each.pen for each in plug.plotter.ink}, set(pens[: pens.index(pen) + 1]))
            with plug.lock:
                plug.plotter.pen_is_in()
        self.assertEqual(sending.wait(60), "done")
        self.hold(plug.plotter, STROKES)

    def test_cancel_lifts_the_pen_and_start_goes_on(self) -> None:
        plug = self.machine()
        plug.hurry = 200.0
        sending = self.sending(plug, STROKES)
        sending.start()
        self._until(lambda: bool(self.told) and self.told[-1].share > 0.3)
        sending.cancel()
        self.assertEqual(sending.wait(30), "cancelled")
        self.assertFalse(plug.plotter.reader.down)
        sending.start()
        self.assertEqual(sending.wait(60), "done")
        self.hold(plug.plotter, STROKES)

    def _until(self, holds: object) -> None:
        until = time.monotonic() + 30
        while not holds():  # type: ignore[operator]
            self.assertLess(time.monotonic(), until)
            time.sleep(0.002)


class Ports(Sent):
    """Ports that are not there, are busy, or go."""

    def test_not_there(self) -> None:
        with self.assertRaisesRegex(PortTrouble, "/dev/nothing-there is not there; ports of this computer"):
            SerialPort("/dev/nothing-there")

    def test_busy(self) -> None:
        plug = self.machine()
        held = SerialPort(plug.name)
        self.addCleanup(held.close)
        with self.assertRaisesRegex(PortTrouble, "is busy: another program holds it"):
            SerialPort(plug.name)
        sending = self.sending(plug, STROKES)
        sending.start()
        self.assertEqual(sending.wait(10), "stopped")
        self.assertIn("busy", sending.words)
        held.close()
        self.assertEqual(self.finish(sending, plug), 0)
        self.hold(plug.plotter, STROKES)

    def test_a_file_is_no_port(self) -> None:
        with self.assertRaises(PortTrouble):
            SerialPort(__file__)

    def test_one_that_vanishes(self) -> None:
        plug = self.machine()
        port = SerialPort(plug.name)
        plug.plug.draw()
        with self.assertRaises(PortTrouble):
            for _ in range(20):
                port.send("?")
                port.line(0.05)
        port.close()
        self.assertFalse(Path(plug.name).exists())

    def test_noise_without_end_is_cut(self) -> None:
        plug = self.machine()
        port = SerialPort(plug.name)
        self.addCleanup(port.close)
        os.write(plug.plug._master, b"x" * 5000)
        os.write(plug.plug._master, b"\nat 0 taken 0 X0.0 Y0.0 ready\n")
        lines = [port.line(0.3) for _ in range(3)]
        self.assertIn("at 0 taken 0 X0.0 Y0.0 ready", lines)


class Protocol(unittest.TestCase):
    def test_a_garbled_line_is_told(self) -> None:
        """Whatever one sign is changed to, the line is not taken for another."""
        line = framed(12, "G1 X3.25 Y-4 F3000")
        self.assertEqual(unframed(line), (12, "G1 X3.25 Y-4 F3000"))
        for k in range(len(line)):
            for sign in "0X .-*~":
                if sign != line[k]:
                    self.assertIsNone(unframed(line[:k] + sign + line[k + 1 :]))

    def test_answers(self) -> None:
        self.assertEqual(answer("ok 3").number, 3)
        self.assertEqual(answer("at 3 taken 7 X1.5 Y-2 stopped paper out").words, "stopped paper out")
        self.assertEqual(answer("stop 3 X1.5 Y-2 paper out").place, (1.5, -2))
        self.assertEqual(answer("ok3").kind, "noise")


class Calipers(unittest.TestCase):
    """What a caliper types."""

    def test_readings(self) -> None:
        for text, mm in (
            ("+0012.34 mm", 12.34),
            ("12,34", 12.34),
            (" -3 mm ", -3),
            ("0.4860 in", 12.3444),
            ('1.5"', 38.1),
            ("01A+00012.34", None),
            ("", None),
            ("1e9", None),
            ("nan", None),
            ("99999999 mm", None),
        ):
            if mm is None:
                with self.assertRaises(NoReading):
                    reading(text)
            else:
                self.assertAlmostEqual(reading(text), mm, places=9)

    def test_through_the_port(self) -> None:
        """What is pressed at the simulated caliper arrives in mm, whatever it shows; noise is told as such."""
        plug = CaliperOnPlug(Caliper())
        self.addCleanup(plug.close)
        got: list[float] = []
        said: list[str] = []
        readings = Readings(SerialPort(plug.name), got.append, said.append)
        readings.start()
        plug.caliper.set(12.34)
        plug.press()
        plug.caliper.inches = True
        plug.press()
        plug.plug.say(["\x02?? 7"])
        until = time.monotonic() + 5
        while (len(got) < 2 or not said) and time.monotonic() < until:
            time.sleep(0.01)
        self.assertAlmostEqual(got[0], 12.34)
        self.assertAlmostEqual(got[1], 12.34, delta=0.0065)
        self.assertIn("no reading", said[0])
        plug.plug.draw()
        while len(said) < 2 and time.monotonic() < until:
            time.sleep(0.01)
        self.assertIn("gone", said[-1])
        readings.stop()
        self.assertFalse(math.isnan(got[0]))
