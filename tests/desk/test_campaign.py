"""The real window under a real event loop: random acts, kills while somebody types, and the system's own ends."""

from __future__ import annotations

import json
import os
import random
import signal
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path

from wisecompass.folio.drafts import Drafts
from wisecompass.folio.register import place_of

SCRIPT = Path(__file__).with_name("campaign.py")
SEEDS = int(os.environ.get("WISE_COMPASS_SEEDS", "2"))
ACTS = int(os.environ.get("WISE_COMPASS_ACTS", "120"))
KILLS = int(os.environ.get("WISE_COMPASS_WINDOW_KILLS", "3"))

WITHIN = 2.0
"""Seconds after which what somebody did must be safe."""


class Campaign(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def begin(self, *words: str) -> subprocess.Popen[str]:
        command = [sys.executable, "-X", "faulthandler", str(SCRIPT), *words, str(self.folder)]
        environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "QT_LOGGING_RULES": "*.warning=false"}
        return subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True, env=environment)

    def said(self) -> list[tuple[float, str]]:
        """What was typed, and when."""
        lines = (self.folder / "said").read_text().splitlines() if (self.folder / "said").exists() else []
        whole = [line.split(" ") for line in lines if line.count(" ") == 1]
        return [(float(when), what) for when, what in whole]

    def test_random_acts_leave_no_fault_and_every_way_back(self) -> None:
        for seed in range(1, SEEDS + 1):
            with tempfile.TemporaryDirectory() as folder, self.subTest(seed=seed):
                self.folder = Path(folder)
                run = self.begin("walk", str(seed), str(ACTS))
                out, err = run.communicate(timeout=300)
                self.assertEqual(run.returncode, 0, out + err[-2000:])
                self.assertEqual(json.loads(out.splitlines()[-1])["wrong"], [])
                self.assertNotIn("Traceback", err)

    def test_what_was_typed_two_seconds_ago_survives_a_kill(self) -> None:
        rng = random.Random(3)
        for kill in range(KILLS):
            run = self.begin("type", str(kill))
            deadline = time.monotonic() + 60
            while not self.said() and time.monotonic() < deadline:
                time.sleep(0.05)
            time.sleep(rng.uniform(0.0, 3.0))
            run.send_signal(signal.SIGKILL)
            run.communicate(timeout=60)
            self._is_there(time.time() - WITHIN, kill)
            (self.folder / "said").unlink()  # what was typed in the last two seconds may be gone for good

    def test_the_system_ends_it_and_nothing_is_lost(self) -> None:
        for each in (signal.SIGTERM, signal.SIGHUP):
            run = self.begin("type", "9")
            before = len(self.said())
            deadline = time.monotonic() + 60
            while len(self.said()) < before + 3 and time.monotonic() < deadline:
                time.sleep(0.05)
            run.send_signal(each)
            _, err = run.communicate(timeout=60)
            self.assertEqual(run.returncode, 0, err[-2000:])
            self._is_there(time.time(), str(each))

    def _is_there(self, safe_from: float, what: object) -> None:
        """The draft that is left has what was typed last before a moment, or something later."""
        said = self.said()
        safe = [text for when, text in said if when <= safe_from]
        if not safe:
            return
        left = Drafts(self.folder / "drafts").left()
        self.assertEqual(len(left), 1, what)
        s, f = place_of(left[0][1].folio, "sill blend")
        kept = left[0][1].folio.sheets[s].figures[f].givens["radius"]
        later = [text for _, text in said[len(safe) - 1 :]]
        self.assertIn(kept, later, what)


if __name__ == "__main__":
    unittest.main()
