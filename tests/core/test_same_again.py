"""The same brief gives the same sheet in every run: nothing hangs on the order in which a set happens to hold things."""

from __future__ import annotations

import os
import subprocess
import sys
import unittest

ALL = """
import hashlib
from wisecompass import catalogue
from wisecompass.drafting.errors import WiseCompassError
from wisecompass.drafting.solve import draw
for name in catalogue.ids():
    problem = catalogue.problem(name)
    for method in problem.methods:
        try:
            drawing = draw(problem, problem.read({}), method)
        except WiseCompassError:
            continue
        told = repr([(step.text, step.acts) for step in drawing.steps])
        told += repr([(mark.name, mark.step, mark.block) for mark in drawing.marks])
        print(name, method.name, hashlib.sha256(told.encode()).hexdigest())
"""


class SameAgain(unittest.TestCase):
    def test_every_method_whatever_the_seed_of_hashes(self) -> None:
        runs = [
            subprocess.Popen(
                [sys.executable, "-c", ALL],
                env={**os.environ, "PYTHONHASHSEED": seed},
                stdout=subprocess.PIPE,
                stderr=subprocess.PIPE,
                text=True,
            )
            for seed in ("1", "2")
        ]
        (one, faults), (other, _) = (run.communicate() for run in runs)
        self.assertGreater(len(one.splitlines()), 100, faults)
        self.assertEqual(one.splitlines(), other.splitlines())


if __name__ == "__main__":
    unittest.main()
