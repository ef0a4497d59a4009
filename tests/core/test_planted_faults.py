"""Faults planted on purpose in exporters, balls, the recorder and documents: for each there is a test that notices.

Every plant replaces one function by a wrong one and runs the tests that should notice, in this process. A plant that goes
unnoticed is a hole in the tests.
"""

from __future__ import annotations

import contextlib
import io
import unittest
from collections.abc import Callable
from dataclasses import replace
from typing import Any
from unittest import mock

from tests.core import test_board, test_can_fail, test_enclosing, test_files, test_handed_over, test_work
from wisecompass.arithmetic import ball
from wisecompass.drafting import answers, recorder, solve
from wisecompass.drafting.marks import Arc, Ellipse
from wisecompass.exchange import dxf, pdf, svg
from wisecompass.folio import files, store


def noticed(patch: Any, *tests: unittest.TestCase) -> bool:
    """Whether any of the tests fails under a patch."""
    suite = unittest.TestSuite(tests)
    with patch, contextlib.redirect_stdout(io.StringIO()), contextlib.redirect_stderr(io.StringIO()):
        result = unittest.TestResult()
        suite.run(result)
    return bool(result.failures or result.errors)


def wrong(module: Any, name: str, change: Callable[[Callable[..., Any]], Callable[..., Any]]) -> Any:
    return mock.patch.object(module, name, change(getattr(module, name)))


def of_mark(kind: type, **changes: Callable[[Any], Any]) -> Callable[[Callable[..., Any]], Callable[..., Any]]:
    """A writer that is handed altered marks of one kind."""

    def change(write: Callable[..., Any]) -> Callable[..., Any]:
        def writes(*arguments: Any, **more: Any) -> Any:
            altered = [
                replace(each, **{field: alter(each) for field, alter in changes.items()}) if isinstance(each, kind) else each
                for each in arguments
            ]
            return write(*altered, **more)

        return writes

    return change


class Exporters(unittest.TestCase):
    def test_arc_flags(self) -> None:
        plant = wrong(svg, "_arc", of_mark(Arc, sweep=lambda m: -m.sweep))
        self.assertTrue(noticed(plant, test_handed_over.Arcs("test_svg_flags")))
        plant = wrong(
            dxf, "_add", lambda add: lambda s, m, k: add(s, replace(m, start=m.start + 3) if isinstance(m, Arc) else m, k)
        )
        self.assertTrue(noticed(plant, test_handed_over.Arcs("test_dxf")))

    def test_coarse_arcs_in_pdf(self) -> None:
        plant = mock.patch.object(pdf, "ARC_WITHIN", 0.5)
        self.assertTrue(noticed(plant, test_handed_over.Arcs("test_pdf_keeps_within_a_thousandth_at_any_radius")))

    def test_turned_ellipses(self) -> None:
        for module, name in ((svg, "_element"), (dxf, "_add")):
            plant = wrong(module, name, of_mark(Ellipse, angle=lambda m: -m.angle))
            self.assertTrue(noticed(plant, test_handed_over.Ellipses("test_turned_ellipses_read_back")), module.__name__)

    def test_line_weights(self) -> None:
        plant = wrong(dxf, "_line_weight", lambda weigh: lambda width: weigh(width / 2))
        tests = test_handed_over
        self.assertTrue(noticed(plant, tests.Dxf("test_line_weights_types_and_colours_of_the_pens")))
        plant = wrong(svg, "_stroke", lambda stroke: lambda m: stroke(m).replace('stroke-width="', 'stroke-width="1'))
        self.assertTrue(noticed(plant, tests.Svg("test_line_weights")))

    def test_bounds(self) -> None:
        plant = wrong(answers.Ball, "bound_about", lambda bound: lambda self, shown: self.radius)
        self.assertTrue(noticed(plant, test_enclosing.Printed("test_every_finding_in_every_print")))
        import math

        plant = mock.patch.object(answers.math, "ceil", math.floor)
        self.assertTrue(noticed(plant, test_enclosing.Printed("test_a_bound_is_rounded_up")))

    def test_a_dropped_title(self) -> None:
        plant = wrong(svg, "escape", lambda escape: lambda text, *more: "")
        self.assertTrue(noticed(plant, test_handed_over.Svg("test_it_has_a_title_and_outlined_letters_on_request")))


class Balls(unittest.TestCase):
    def test_a_larger_of_balls_that_is_not_sound(self) -> None:
        plant = mock.patch.object(ball, "larger", lambda x, y: x if float(x.mid()) >= float(y.mid()) else y)
        self.assertTrue(noticed(plant, BallsHold("test_the_larger_holds_both")))

    def test_a_wide_ball_that_counts_as_a_holding_check(self) -> None:
        plant = mock.patch.object(solve, "PROVED_TO", 1.0)
        self.assertTrue(noticed(plant, test_enclosing.Earned("test_a_check_whose_ball_is_wide_does_not_hold")))

    def test_a_wide_ball_that_counts_as_proved(self) -> None:
        plant = mock.patch.object(solve, "_is_tight", lambda value: True)
        self.assertTrue(noticed(plant, test_enclosing.Earned("test_an_enclosure_that_stays_wide_is_not_proved")))

    def test_a_precision_left_behind(self) -> None:
        @contextlib.contextmanager
        def leaving(bits: int) -> Any:
            ball.ctx.prec = bits
            yield

        try:
            plant = mock.patch.object(ball, "precision", leaving)
            self.assertTrue(
                noticed(plant, test_enclosing.OneDoor("test_proofs_and_drawing_at_once_leave_no_precision_behind"))
            )
        finally:
            ball.ctx.prec = ball.WORKING_BITS


class BallsHold(unittest.TestCase):
    def test_the_larger_holds_both(self) -> None:
        import random
        from fractions import Fraction

        rng = random.Random(3)
        for _ in range(400):
            balls = [(Fraction(rng.randint(-9, 9), 7), Fraction(rng.randint(0, 9), 5)) for _ in range(2)]
            found = ball.larger(*(ball.about(*each) for each in balls))
            for shares in ((-1, -1), (-1, 1), (1, -1), (1, 1), (0, 0)):
                exact = max(middle + share * radius for (middle, radius), share in zip(balls, shares, strict=True))
                self.assertTrue(found.contains(ball.number(exact)), (balls, exact))


class Recording(unittest.TestCase):
    def test_needles_that_never_stray(self) -> None:
        plant = wrong(recorder.Recorder, "_stray_point", lambda stray: lambda self, point, part: point)
        self.assertTrue(noticed(plant, test_board.EachPartOfAHandStrays("test_the_needle_moves_a_centre_and_a_division")))

    def test_a_check_that_is_forgotten(self) -> None:
        plant = wrong(recorder.Recorder, "check", lambda check: lambda self, *details: None)
        self.assertTrue(
            noticed(plant, test_can_fail.PlantedMistakes("test_a_parallel_too_far_out_fails_its_check_and_is_measured"))
        )


class Documents(unittest.TestCase):
    def test_a_file_that_is_written_in_place(self) -> None:
        plant = mock.patch.object(files, "write", lambda path, data, **more: path.write_bytes(data))
        self.assertTrue(noticed(plant, test_files.Writing("test_a_full_disk_leaves_what_was_there")))

    def test_a_backup_that_is_forgotten(self) -> None:
        plant = mock.patch.object(files, "_keep_backup", lambda target: None)
        self.assertTrue(noticed(plant, test_files.SomebodyElse("test_a_file_changed_meanwhile_is_not_written_over")))

    def test_a_file_that_is_not_looked_at_before_it_is_written(self) -> None:
        plant = mock.patch.object(files, "fingerprint", lambda data: "the same")
        self.assertTrue(noticed(plant, test_work.DraftsKept("test_the_second_window_does_not_write_over_the_first")))

    def test_a_scale_that_is_not_read(self) -> None:
        plant = mock.patch.object(store, "read_scale", lambda text: None)
        self.assertTrue(noticed(plant, test_work.OlderVersions("test_what_cannot_be_is_refused_when_it_is_read")))


if __name__ == "__main__":
    unittest.main()
