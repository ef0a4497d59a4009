"""How long the curve of two pipes is, against the lengths of many chords between points found in space."""

from __future__ import annotations

import math
import random
import unittest

import numpy as np
from scipy.special import ellipe

from wisecompass import catalogue
from wisecompass.arithmetic import BALL, PLAIN
from wisecompass.drafting.answers import ball_of

PIPES = catalogue.problem("solids/pipes-meeting")
CHORDS = 200_000


def told(**givens: object) -> tuple[float, float]:
    """The length in floats, and in balls with its radius far below what is compared."""
    typed = PIPES.read({name: str(value) for name, value in givens.items()})
    plain = float(PIPES.find_truth(typed, PLAIN).findings["curve_length"])  # type: ignore[arg-type]
    ball = ball_of(PIPES.find_truth(typed, BALL).findings["curve_length"])  # type: ignore[arg-type]
    assert ball.radius < 1e-20, ball.radius
    return plain, float(ball.middle)


def chords(big: float, small: float, angle: float, apart: float, through: bool) -> float:
    """By points on the branch's generators, evenly spread where the main pipe is met, dense where the curve turns back."""
    cos = (big - apart) / small
    first = math.acos(cos) if cos < 1 else 0.0
    share = np.linspace(0.0, math.pi, CHORDS)
    turn = first + (2 * math.pi - 2 * first) * (1 - np.cos(share)) / 2
    y = apart + small * np.cos(turn)
    x = np.sqrt(np.maximum(0.0, big * big - y * y))
    z = (x * math.cos(angle) + small * np.sin(turn)) / math.sin(angle)
    one = float(np.sqrt(np.diff(x) ** 2 + np.diff(y) ** 2 + np.diff(z) ** 2).sum())
    return one * (2 if through else 1)


class CurveLength(unittest.TestCase):
    def test_equal_pipes_that_cross_squarely_meet_in_two_ellipses(self) -> None:
        big = 29.0
        ellipse = 4 * big * math.sqrt(2) * float(ellipe(0.5))
        for reach, count in (("one side", 1), ("through", 2)):
            found = told(main_diameter=2 * big, branch_diameter=2 * big, angle=90, offset=0, reach=reach)
            for value in found:
                self.assertAlmostEqual(value, count * ellipse, delta=1e-9 * ellipse)

    def test_random_pipes(self) -> None:
        rng = random.Random("pipes that meet")
        for k in range(16):
            big, angle = rng.uniform(10, 60), rng.uniform(20, 90)
            small = rng.uniform(0.2, 0.95) * big
            case = k % 4
            apart = {0: 0.0, 1: rng.uniform(0, big - small), 2: big - small, 3: rng.uniform(big - small, big)}[case]
            big, small, angle = round(big, 3), round(small, 3), round(angle, 2)
            apart = round(big - small, 3) if case == 2 else round(apart, 3)
            through = case == 3 or rng.random() < 0.5
            givens = {"main_diameter": 2 * big, "branch_diameter": 2 * small, "angle": angle, "offset": apart}
            with self.subTest(**givens):
                found = told(**givens, reach="through" if through else "one side")
                expected = chords(big, small, math.radians(angle), apart, through)
                for value in found:
                    self.assertAlmostEqual(value, expected, delta=2e-6 * expected)


if __name__ == "__main__":
    unittest.main()
