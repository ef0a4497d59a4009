"""What is printed encloses: the value as printed, plus or minus the bound as printed, holds the truth."""

from __future__ import annotations

import csv as csv_module
import io
import json
import random
import re
import threading
import unittest
from fractions import Fraction

from tests.core.random_givens import feasible
from wisecompass import catalogue
from wisecompass.arithmetic import BALL, ball
from wisecompass.drafting.answer_words import answer_words
from wisecompass.drafting.answers import Ball, bound_text, printed
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.solve import certify, draw
from wisecompass.drafting.step import Check
from wisecompass.exchange.csv import csv
from wisecompass.exchange.report import in_words, report

FINER = 900
"""Binary digits of the truth that printed numbers are held against."""


def truth_of(value: object) -> Fraction:
    return ball.middle(value)  # type: ignore[arg-type]


class Printed(unittest.TestCase):
    def test_every_finding_in_every_print(self) -> None:
        rng = random.Random(31)
        for problem in map(catalogue.problem, catalogue.ids()):
            method = problem.methods[0]
            typed = feasible(problem, method, rng)
            certificate = certify(problem, typed, method)
            with ball.precision(FINER):
                true = problem.find_truth(typed, BALL).findings
            data = json.loads(json.dumps(report(problem, method, typed, certificate)))["findings"]
            words = in_words(problem, method, typed, certificate)
            rows = {row[1]: row for row in csv_module.reader(io.StringIO(csv(certificate))) if row[0] == "finding"}
            for answer in certificate.answers:
                if not isinstance(answer.value, float) or answer.name not in true or not answer.balls:
                    continue
                exact = truth_of(true[answer.name])
                with self.subTest(problem=problem.id, finding=answer.name):
                    one = data[answer.name]
                    self.assertLessEqual(abs(Fraction(one["value"]) - exact), Fraction(one["bound"]))
                    middle, radius = map(Fraction, one["ball"])
                    self.assertLessEqual(abs(middle - exact), radius + Fraction(1, 10**200))
                    row = rows[answer.name]
                    self.assertLessEqual(abs(Fraction(row[5]) - exact), Fraction(row[7]))
                    head = f"  {answer_words(answer.name):34} "
                    line = next(each for each in words.splitlines() if each.startswith(head))
                    found = re.search(r" (-?[\d.]+) \S* *± (\S+)", line)
                    assert found is not None, line
                    self.assertLessEqual(abs(Fraction(found[1]) - exact), Fraction(found[2]))
                    for units in Units:
                        texts, bound = printed(answer, units, 4)
                        unit = answer.kind.unit
                        power = {"mm": 1, "mm/rad": 1, "mm²": 2, "mm³": 3}.get(unit, 0)
                        shown = Fraction(texts[0].removesuffix("°").split(" ")[0].replace("−", "-"))
                        factor = Fraction(str(units.millimetres)) ** power
                        self.assertLessEqual(abs(shown * factor - exact), bound * factor)

    def test_a_bound_is_rounded_up(self) -> None:
        rng = random.Random(2)
        for _ in range(300):
            bound = Fraction(rng.randint(1, 10**9), 10 ** rng.randint(0, 140))
            for digits in (1, 2, 3):
                written = Fraction(bound_text(bound, digits))
                self.assertGreaterEqual(written, bound)
                self.assertLessEqual(written, bound * (1 + Fraction(10, 10**digits)))

    def test_a_ball_as_text_holds_the_ball(self) -> None:
        rng = random.Random(3)
        for _ in range(300):
            one = Ball(
                Fraction(rng.randint(-(10**20), 10**20), 10**17), Fraction(rng.randint(0, 999), 10 ** rng.randint(3, 60))
            )
            middle, radius = map(Fraction, one.text())
            self.assertLessEqual(middle - radius, one.middle - one.radius)
            self.assertGreaterEqual(middle + radius, one.middle + one.radius)


class Earned(unittest.TestCase):
    def test_an_enclosure_that_stays_wide_is_not_proved(self) -> None:
        from wisecompass.drafting.solve import answer_of
        from wisecompass.drafting.step import Kind

        wide = ball.about(Fraction(3), Fraction(1, 100))
        self.assertFalse(answer_of("length", Kind.LENGTH, wide).proved)
        self.assertTrue(answer_of("length", Kind.LENGTH, ball.about(Fraction(3), Fraction(1, 10**30))).proved)

    def test_a_check_whose_ball_is_wide_does_not_hold(self) -> None:
        from wisecompass.drafting.solve import check_of

        for middle, radius, holds in ((0, "1e-30", True), (0, "1e-9", False), ("1e-12", "1e-30", False)):
            check = Check("so it is", ball.about(Fraction(middle), Fraction(radius)))  # type: ignore[arg-type]
            self.assertEqual(check_of(check).holds, holds)


class OneDoor(unittest.TestCase):
    def test_proofs_and_drawing_at_once_leave_no_precision_behind(self) -> None:
        problem = catalogue.problem("loci/involute-circle")
        typed = problem.read({})
        method = problem.methods[0]
        before = ball.bits()
        first = certify(problem, typed, method)
        wrong: list[object] = []

        def prove(closed: bool) -> None:
            for _ in range(6):
                again = certify(problem, typed, method, closed_forms=closed)
                if [a.value for a in again.answers] != [a.value for a in first.answers]:
                    wrong.append(again)

        def draw_on() -> None:
            for n in range(60):
                other = catalogue.problem("conics/ellipse-conjugate")
                draw(other, other.read({"angle": str(40 + n)}), other.methods[0])

        threads = [threading.Thread(target=prove, args=(closed,)) for closed in (False, True)]
        threads.append(threading.Thread(target=draw_on))
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual((wrong, ball.bits()), ([], before))

    def test_the_first_ball_has_the_working_precision(self) -> None:
        import subprocess
        import sys

        script = (
            "from fractions import Fraction\n"
            "from wisecompass.arithmetic.systems import BALL\n"
            "x = BALL.number(Fraction(1, 3))\n"
            "print(float(x.rad()) < 1e-40)"
        )
        run = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
        self.assertEqual(run.stdout.strip(), "True")

    def test_nobody_else_touches_the_context(self) -> None:
        from pathlib import Path

        import wisecompass

        for path in Path(wisecompass.__file__).parent.rglob("*.py"):
            if path.name != "ball.py":
                self.assertNotRegex(path.read_text(), r"\bctx\b", path.name)


if __name__ == "__main__":
    unittest.main()
