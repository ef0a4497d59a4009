"""What measured figures say: honest drawings are let be, mistakes are named, steps found, and what cannot be told is not."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any
from unittest.mock import patch

import numpy as np

from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.hand import OneHand, Unsteadiness
from wisecompass.drafting.solve import construct
from wisecompass.drafting.wanted import LetGo, while_wanted
from wisecompass.judgement import slips
from wisecompass.judgement.gross import ALL_PLACES
from wisecompass.judgement.hands import ORDINARY, OnPaper, figures, probe, probe_freely
from wisecompass.judgement.marking import passes, read_reading, read_table, read_tolerance
from wisecompass.judgement.prepared import (
    MOST_TOGETHER,
    Prepared,
    Reading,
    can_be_clicked,
    can_be_measured,
    prepare,
    read_spread,
    rows_of,
)
from wisecompass.judgement.slips import Search, mistakes
from wisecompass.judgement.verdict import Cause, Verdict, judge


def sheet(problem_id: str, method: str | None = None, scale: float = 1.0, **raw: str) -> OnPaper:
    problem = catalogue.problem(problem_id)
    found = problem.method(method)
    return OnPaper(problem, problem.served_by(found, problem.read(raw)), found, scale)


def read_off(prepared: Prepared, drawn: OnPaper, seed: int, names: list[str] | None = None) -> dict[str, Reading]:
    """What an ordinary hand's drawing measures."""
    board = dict(figures(drawn.by(Unsteadiness(ORDINARY.on_paper(drawn.scale), 2, seed))))
    rng = np.random.default_rng(seed)
    found = {}
    for name in names or can_be_measured(prepared):
        steady = float(prepared.honest.steady[prepared.honest.row(name)])
        noise = float(rng.normal(0, read_spread(prepared, name, steady)))
        found[name] = Reading(float(np.broadcast_to(board[name], 2)[1]) + noise)
    return found


def clicked(prepared: Prepared, hands: Unsteadiness, off: float = 0.3) -> list[dict[str, Reading]]:
    """The letters of drawings by these hands as they are clicked, some of them so many mm of paper off; of the steady first
    none where there are more."""
    names, spread = can_be_clicked(prepared), off / prepared.sheet.scale
    board = dict(figures(prepared.sheet.by(hands)))
    table = np.array([np.broadcast_to(board[name], hands.count) for name in names])[:, hands.count > 1 :]
    table = table + np.random.default_rng(3).normal(0, spread, table.shape)
    drawn = table[:, np.isfinite(table).all(axis=0)]
    return [{name: Reading(float(at), spread) for name, at in zip(names, each, strict=True)} for each in drawn.T]


class Verdicts(unittest.TestCase):
    SHEETS = ("tangency/arc-two-lines", "triangles/three-sides", "conics/ellipse", "polygons/regular-from-side")

    def test_honest_drawings_are_within_hand_error(self) -> None:
        for each in self.SHEETS:
            prepared = prepare(sheet(each, scale=0.5))
            for seed in range(25):
                verdict = judge(prepared, read_off(prepared, prepared.sheet, seed))
                self.assertNotIn(verdict.kind, ("slip", "step"), (each, seed, verdict.said))

    def test_rough_hands_are_within_hand_error_where_some_letters_are_wild_by_them(self) -> None:
        """A hand twice as rough cannot draw all of these at 1:5, or some of their letters stray by it as no sum of strays
        does; how the others hang together is known all the same."""
        wrong = tried = 0
        for each, method in (
            ("space/line-meets-plane", "edge view"),
            ("space/dihedral-angle", "edges piercing"),
            ("polygons/regular-about-circle", None),
        ):
            prepared = prepare(sheet(each, method, scale=0.2))
            for readings in clicked(prepared, Unsteadiness(ORDINARY.scaled(2.0).on_paper(0.2), 40, 9)):
                tried += 1
                wrong += judge(prepared, readings).kind in ("slip", "step")
        self.assertGreater(tried, 100)
        self.assertLessEqual(wrong, 4)

    def test_a_stray_that_would_take_the_figure_to_infinity_explains_nothing(self) -> None:
        """Nine millimetres farther there is no cone of this height: figures of a billion, which weighed in parts cancel to
        whatever they will."""
        cone = catalogue.problem("pictorial/cone")
        typed = cone.read({"diameter": "60", "height": "149", "divisions": "23", "scale": "natural"})
        drawn = OnPaper(cone, typed, cone.method("crate and four centres"), 0.2)
        prepared = prepare(drawn)
        for seed in range(6):
            verdict = judge(prepared, read_off(prepared, drawn, seed))
            self.assertEqual(verdict.kind, "within", (seed, verdict.said))

    def test_what_explains_only_some_of_it_is_not_named(self) -> None:
        """Three letters wherever they may be are no mistake, no step, and no hand's error."""
        rng = np.random.default_rng(8)
        for each, method in (
            ("conics/ellipse", "foci arcs"),
            ("space/line-meets-plane", "edge view"),
            ("tangency/arc-two-lines", None),
            ("developments/hemisphere", "zones"),
        ):
            prepared = prepare(sheet(each, method))
            names, named = can_be_clicked(prepared), 0
            for seed in range(12):
                readings = read_off(prepared, prepared.sheet, seed, names)
                for name in rng.choice(names, 3, replace=False):
                    readings[name] = Reading(readings[name].value + float(rng.choice((-4.0, 4.0))), 0.3)
                verdict = judge(prepared, readings)
                named += verdict.kind != "cannot tell"
                if verdict.kind == "cannot tell":
                    self.assertIn("neither a hand's error", verdict.said, (each, seed))
            self.assertLessEqual(named, 3, each)

    def test_what_is_off_farther_than_numbers_go_is_explained_by_nothing(self) -> None:
        prepared = prepare(sheet("triangles/three-sides"))
        for names in (can_be_measured(prepared)[:1], can_be_measured(prepared), can_be_clicked(prepared)):
            readings = read_off(prepared, prepared.sheet, 3, names)
            readings[names[0]] = Reading(1e160)
            with np.errstate(all="ignore"):
                self.assertIn("neither a hand's error nor a slip", judge(prepared, readings).said)

    def test_steps_are_named_though_each_alone_is_less_likely_than_an_honest_hand(self) -> None:
        causes = (
            Cause("within", "within hand error", 0.4),
            *(Cause("step", f"step {n}", share, n, amount=2.0) for n, share in ((7, 0.32), (4, 0.25), (9, 0.03))),
        )
        verdict = Verdict("step", causes)
        self.assertEqual([each.step for each in verdict.steps], [7, 4, 9])
        self.assertEqual(verdict.said, "one of step 7, step 4, step 9 went wrong")
        self.assertEqual(verdict.slips, [])

    def test_no_step_is_named_that_went_no_farther_than_a_rough_hand(self) -> None:
        """A stray of 0.9 mm shows in all letters together; a hand twice as rough as it is told draws so now and then."""
        steady, named = ORDINARY.scaled(0.3), {0.9: 0, 2.5: 0}
        for far in named:
            for each in self.SHEETS:
                prepared = prepare(sheet(each))
                for place in range(0, len(prepared.honest.draws), 3):
                    part = prepared.honest.draws[place].part
                    for readings in clicked(prepared, OneHand(steady, place, (place, far / getattr(steady, part))), 0.1):
                        verdict = judge(prepared, readings)
                        if verdict.kind == "step":
                            named[far] += 1
                            self.assertGreaterEqual(verdict.steps[0].amount, 1.2)
        self.assertGreater(named[2.5], 20)
        self.assertLess(named[0.9], 3)

    def test_a_mistake_that_shows_is_named(self) -> None:
        tried = 0
        for each in self.SHEETS:
            prepared = prepare(sheet(each))
            names = can_be_measured(prepared)
            rows = [prepared.honest.row(name) for name in names]
            spread = np.sqrt(np.sum(prepared.honest.moves[rows] ** 2, axis=1)) + 1e-9
            for mistake in prepared.mistakes:
                if not np.isfinite(mistake.strays.steady[rows]).all():
                    continue
                if np.max(np.abs(mistake.strays.steady[rows] - prepared.honest.steady[rows]) / spread) < 8:
                    continue
                verdict = judge(prepared, read_off(prepared, replace(prepared.sheet, taken=mistake.fork), 3))
                self.assertEqual(verdict.kind, "slip", (each, mistake.words, verdict.said))
                named = next(one for one in prepared.mistakes if one.words == verdict.causes[0].alike[0])
                apart = np.abs(named.strays.steady[rows] - mistake.strays.steady[rows]) / spread
                self.assertLess(np.max(apart), 4, (mistake.words, named.words))
                tried += 1
        self.assertGreater(tried, 8)

    def test_a_step_gone_wrong_is_among_those_named(self) -> None:
        prepared = prepare(sheet("triangles/three-sides"))
        names = can_be_measured(prepared)
        found = 0
        for n, draw in enumerate(prepared.honest.draws):
            readings = {}
            for name in names:
                value, moves = rows_of(prepared.honest, name)
                readings[name] = Reading(value + float(moves[n]) / getattr(ORDINARY, draw.part) * 3.0)
            verdict = judge(prepared, readings)
            if verdict.kind == "step":
                self.assertIn(prepared.sheet.told_step(draw.step), [cause.step for cause in verdict.steps])
                found += 1
            else:
                self.assertNotEqual(verdict.kind, "slip")
        self.assertGreater(found, len(prepared.honest.draws) / 3)

    def test_one_figure_names_no_step(self) -> None:
        prepared = prepare(sheet("triangles/three-sides"))
        verdict = judge(prepared, {"altitude": Reading(rows_of(prepared.honest, "altitude")[0] + 3)})
        self.assertEqual(verdict.kind, "cannot tell")
        self.assertIn(verdict.next, can_be_measured(prepared))

    def test_two_letters_are_measured_like_a_finding(self) -> None:
        prepared = prepare(sheet("triangles/three-sides", left="58"))
        self.assertAlmostEqual(rows_of(prepared.honest, "A-C")[0], 58, 9)
        one = judge(prepared, {"A-C": Reading(58.3)}).measured["A-C"]
        self.assertTrue(one.within)

    def test_shares_are_shares(self) -> None:
        prepared = prepare(sheet("conics/ellipse"))
        for value in (0.0, 1.0, 5.0, 30.0):
            readings = {name: Reading(rows_of(prepared.honest, name)[0] + value) for name in can_be_measured(prepared)}
            verdict: Verdict = judge(prepared, readings)
            self.assertAlmostEqual(sum(cause.share for cause in verdict.causes), 1.0, 9)

    def test_a_figure_that_magnifies_a_hair_is_not_judged_by(self) -> None:
        close = {"radius_1": "20", "radius_2": "20", "distance": "79.999", "radius": "20"}
        prepared = prepare(sheet("tangency/arc-two-circles", None, 1.0, **close))
        verdict = judge(prepared, {"centre_y": Reading(0.5)})
        self.assertEqual(verdict.wild, ("centre_y",))
        self.assertEqual(verdict.kind, "cannot tell")


class OneThingWrong(Unsteadiness):
    """Two steady hands, the second of which does but one thing wrong."""

    def __init__(self, at: int, by: float) -> None:
        super().__init__(ORDINARY, 2, 0)
        self.at, self.by, self.place = at, by, 0

    def stray(self, value: Any, part: str, step: int) -> Any:
        self.place += 1
        return value + np.array([0.0, self.by if self.place - 1 == self.at else 0.0])


class FarTooGreat(unittest.TestCase):
    """A stray that is far too great, as it is drawn."""

    CLICK = 0.3

    def wrong(self, drawn: OnPaper, n: int, by: float) -> dict[str, float]:
        """The figures of a steady hand that does but one thing wrong, by so much, beside one that does all right."""
        board = drawn.by(OneThingWrong(n, by))
        return {name: float(np.broadcast_to(value, 2)[1]) for name, value in figures(board)}

    def test_is_what_one_hand_draws_that_does_it(self) -> None:
        for each in (sheet("lines/square-at-point"), sheet("triangles/three-sides", scale=0.5)):
            prepared = prepare(each)
            assert prepared.wrong is not None
            names = [name for name in prepared.honest.names if name.endswith((".x", ".y"))]
            table = prepared.wrong.table(names)
            for n, draw in enumerate(prepared.honest.draws):
                for k, place in enumerate(ALL_PLACES):
                    by = place if draw.part == "protractor" else place / each.scale
                    if not np.isfinite(table[:, n, k]).all():
                        continue
                    alone = self.wrong(each, n, by)
                    np.testing.assert_allclose(table[:, n, k], [alone[name] for name in names], atol=1e-5)

    def test_of_two_letters_the_distance(self) -> None:
        prepared = prepare(sheet("triangles/three-sides"))
        assert prepared.wrong is not None
        ax, ay, cx, cy, away = prepared.wrong.table(["A.x", "A.y", "C.x", "C.y", "A-C"])
        np.testing.assert_allclose(away, np.hypot(cx - ax, cy - ay))
        with self.assertRaises(BadGiven):
            prepared.wrong.table(["no such letter"])

    def test_a_bent_figure_is_rarely_a_mistake(self) -> None:
        """By several millimetres the corners of a polygon of many short sides go elsewhere than they begin to: weighed as
        they begin, the step is found less often."""
        drawn = sheet("polygons/regular-from-side", "central angle", sides="12", side="4")
        prepared = prepare(drawn)
        letters = can_be_clicked(prepared)
        rng = np.random.default_rng(3)
        said: dict[bool, list[bool]] = {True: [], False: []}
        for n, draw in enumerate(prepared.honest.draws):
            alone = self.wrong(drawn, n, 2.0)
            if draw.part == "protractor" or not all(np.isfinite(alone[name]) for name in letters):
                continue
            read = {name: Reading(alone[name] + float(rng.normal(0, self.CLICK)), self.CLICK) for name in letters}
            told = drawn.told_step(draw.step)
            for as_drawn in said:
                verdict = judge(prepared if as_drawn else replace(prepared, wrong=None), read)
                if verdict.kind in ("slip", "step"):
                    said[as_drawn].append(verdict.kind == "step" and told in [cause.step for cause in verdict.steps])
        self.assertGreater(len(said[True]), 8)
        self.assertGreater(said[True].count(True), said[False].count(True))
        self.assertEqual(said[True].count(False), 0)


class VeryManyLetters(unittest.TestCase):
    def test_as_many_are_weighed_as_hands_were_tried_with(self) -> None:
        """For every step one is kept that it moves, and an honest drawing is let be."""
        drawn = sheet("loci/cycloid", turns="4", divisions="24")
        prepared = prepare(drawn)
        letters = can_be_clicked(prepared)
        kept = [name for name in letters if name not in prepared.spare]
        self.assertGreater(len(letters), MOST_TOGETHER)
        self.assertLessEqual(len(kept), MOST_TOGETHER + 2 * len(drawn.steps))
        self.assertEqual(
            {name[:-2] for name in kept if name.endswith(".x")}, {name[:-2] for name in kept if name[-1] == "y"}
        )
        told = np.array([drawn.told_step(draw.step) for draw in prepared.honest.draws])
        moves, rows = np.abs(prepared.honest.moves), [prepared.honest.row(name) for name in letters]
        mine = [prepared.honest.row(name) for name in kept]
        for step in set(told.tolist()):
            if moves[rows][:, told == step].max() > 0:
                self.assertGreater(moves[mine][:, told == step].max(), 0, step)
        for seed in range(4):
            read = read_off(prepared, drawn, seed, letters)
            self.assertEqual(judge(prepared, read).kind, "within", seed)

    def test_what_shows_in_some_letter_shows_in_one_that_is_weighed(self) -> None:
        """A stray of two millimetres that nobody could see in the letters that are kept could be seen in none."""
        for each, method in (
            ("solids/cone-and-pipe", "sections through the apex"),
            ("space/hyperbolic-paraboloid", "straight elements"),
            ("loci/conical-helix", "end view and projected divisions"),
        ):
            prepared = prepare(sheet(each, method, 0.5))
            letters = can_be_clicked(prepared)
            kept = [name for name in letters if name not in prepared.spare]
            self.assertEqual(len(kept), MOST_TOGETHER)
            self.assertGreater(len(letters), MOST_TOGETHER)
            units = np.array([getattr(ORDINARY, draw.part) for draw in prepared.honest.draws])

            def shown(names: list[str], prepared: Prepared = prepared, units: Any = units) -> int:
                moves = np.abs(prepared.honest.moves[[prepared.honest.row(name) for name in names]])
                spread = np.hypot(np.sqrt(np.sum(moves**2, axis=1)), 0.4)
                return int((moves * 2.0 / units > 4.0 * spread[:, None]).any(axis=0).sum())

            self.assertEqual(shown(kept), shown(letters), each)


class Mistakes(unittest.TestCase):
    def test_nothing_is_taken_by_mistake_where_nobody_asks(self) -> None:
        for each in catalogue.ids():
            problem = catalogue.problem(each)
            method = problem.methods[0]
            typed = problem.served_by(method, problem.read({}))
            plain, listed = (construct(problem, typed, method, PLAIN, taken=taken) for taken in (None, -1))
            self.assertEqual(plain.forks, [])
            self.assertEqual(plain.points.keys(), listed.points.keys())
            for name, value in plain.findings.items():
                if isinstance(value, float):
                    self.assertAlmostEqual(value, float(listed.findings[name]), 9)  # type: ignore[arg-type]

    def test_a_protractor_on_its_other_scale_draws_the_supplement(self) -> None:
        drawn = sheet("tangency/arc-two-lines")
        found = [each for each in mistakes(drawn, probe(drawn)) if "other scale" in each.words]
        self.assertEqual(len(found), 1)
        self.assertAlmostEqual(found[0].strays.steady[found[0].strays.row("arc_angle")], 72, 6)
        self.assertEqual(found[0].step, 3)

    def test_words_of_the_catalogue_are_lent_to_the_drawing_that_measures_the_same(self) -> None:
        lent = 0
        for each in list(catalogue.ids())[::4]:
            drawn = sheet(each)
            told = drawn.problem.slip_figures(drawn.typed)
            for mistake in mistakes(drawn, probe(drawn)):
                if mistake.words in told:
                    lent += 1
                    for name, value in told[mistake.words].items():
                        if name in mistake.strays.names:
                            self.assertAlmostEqual(mistake.strays.steady[mistake.strays.row(name)] / value, 1, 3)
        self.assertGreater(lent, 3)

    def test_the_same_are_found_whether_a_steady_hand_draws_them_first_or_not(self) -> None:
        for each in ("space/hyperbolic-paraboloid", "triangles/three-sides"):
            drawn = sheet(each)
            honest = probe(drawn)
            found = []
            for seldom in (0, 10_000):  # always by a steady hand first, and hardly ever
                with patch.object(slips, "SELDOM", seldom), patch.object(slips, "TRIED_FIRST", 0):
                    found.append([(one.words, one.step, one.fork) for one in mistakes(drawn, honest)])
            self.assertGreaterEqual(len(found[0]), 3)
            self.assertEqual(found[0], found[1], each)

    def test_they_are_drawn_when_there_is_time(self) -> None:
        """One by one they are those of one go; who is let go in the middle has them all the same."""
        drawn = sheet("triangles/three-sides")
        honest = probe(drawn)
        wanted = [one.words for one in mistakes(drawn, honest)]
        search = Search(drawn, honest, ORDINARY, ())
        self.assertTrue(search.go_on())
        with self.assertRaises(LetGo), while_wanted(lambda: False):
            search.go_on()
        self.assertEqual([one.words for one in search.found], wanted)
        self.assertFalse(search.go_on())
        self.assertEqual([one.words for one in search.found], wanted)

    def test_what_is_not_asked_for_changes_none_of_them(self) -> None:
        drawn = sheet("developments/tray")
        honest = probe(drawn)
        row = honest.row("refold_gap")
        asked, spared = mistakes(drawn, honest), mistakes(drawn, honest, unasked=["refold_gap"])
        self.assertEqual([one.words for one in asked], [one.words for one in spared])
        for one, other in zip(asked, spared, strict=True):
            self.assertTrue(np.isnan(other.strays.steady[row]))
            kept = np.arange(len(honest.names)) != row
            np.testing.assert_allclose(one.strays.steady[kept], other.strays.steady[kept])
            np.testing.assert_allclose(one.strays.moves[kept], other.strays.moves[kept])

    def test_how_far_they_stray_is_what_hands_draw(self) -> None:
        """Where a wrong drawing magnifies a hair its strays added up say too little."""
        known = 0
        for each, method in (
            ("triangles/circumradius-two-angles", "tangent and angles"),
            ("polygons/square-from-side", "four equal arcs"),
            ("lines/square-at-end", "semicircle"),
            ("conics/ellipse-conjugate", "rotated half-diameter"),
        ):
            prepared = prepare(sheet(each, method, scale=0.2))
            names = can_be_measured(prepared)
            for mistake in prepared.mistakes:
                wrong = dict(
                    figures(replace(prepared.sheet, taken=mistake.fork).by(Unsteadiness(ORDINARY.on_paper(0.2), 400, 5)))
                )
                for name in names:
                    value, moves = rows_of(mistake.strays, name)
                    seen = float(np.nanstd(np.broadcast_to(wrong[name], 400)[1:]))
                    added = float(np.sqrt(np.sum(moves**2)))
                    if np.isfinite(value) and np.isfinite(added) and seen > 1e-6:
                        self.assertGreater(added / seen, 0.5, (each, mistake.words, name))
                        known += 1
        self.assertGreater(known, 80)


class FreeHands(unittest.TestCase):
    def test_leave_the_strays_as_they_are_and_stray_as_hands_do(self) -> None:
        drawn = sheet("tangency/arc-two-lines")
        alone = probe(drawn)
        both = probe_freely(drawn, ORDINARY, 1, 400)  # that there is one stray is too few: they are counted
        np.testing.assert_allclose(alone.moves, both.moves, atol=0.02)  # half of it is drawn, too much only
        np.testing.assert_allclose(alone.steady, both.steady)
        assert both.tried is not None
        added = np.sqrt(np.sum(alone.moves**2, axis=1))
        moved = added > 1e-9
        np.testing.assert_allclose(both.tried[moved].std(axis=1) / added[moved], 1.0, atol=0.15)


class Readings(unittest.TestCase):
    def setUp(self) -> None:
        self.prepared = prepare(sheet("tangency/arc-two-lines"))

    def test_are_read_with_units_and_accuracy(self) -> None:
        self.assertEqual(read_reading(self.prepared, "setback", "1 in"), Reading(25.4))
        self.assertEqual(read_reading(self.prepared, "setback", "25.3 ± 0.5"), Reading(25.3, 0.5))
        self.assertEqual(read_reading(self.prepared, "arc_angle", "108"), Reading(108.0))

    def test_what_nothing_measures_is_refused_with_what_it_should_be(self) -> None:
        for text, words in (
            ("0", "should be 25.46 mm"),
            ("-3", "should be 25.46 mm"),
            ("25463", "look at its unit"),
            ("0.02", "look at its unit"),
            ("word", "not a number"),
            ("25 ± 0", "above zero"),
            ("30°", "is an angle"),
        ):
            with self.assertRaisesRegex(BadGiven, words):
                read_reading(self.prepared, "setback", text)
        with self.assertRaisesRegex(BadGiven, "cannot be measured"):
            read_reading(self.prepared, "colour", "3")
        with self.assertRaisesRegex(BadGiven, "nothing has been measured"):
            judge(self.prepared, {})

    def test_a_table(self) -> None:
        found = read_table(self.prepared, b"figure,measured,accuracy\nsetback,25.3,0.5\narc_angle,108\n")
        self.assertEqual(found, {"setback": Reading(25.3, 0.5), "arc_angle": Reading(108.0)})
        for data, words in (
            (b"setback\n", "line 1"),
            (b"setback,3\nsetback,4\n", "twice|should be"),
            (b"\xff\xfe\x00", "cannot be read"),
            (b"setback,abc\n", "not a number"),
        ):
            with self.assertRaisesRegex(BadGiven, words):
                read_table(self.prepared, data)

    def test_tolerances(self) -> None:
        one = judge(self.prepared, {"setback": Reading(26.4)}).measured["setback"]
        self.assertTrue(passes(self.prepared, "setback", one, read_tolerance("school")))
        self.assertFalse(passes(self.prepared, "setback", one, read_tolerance("shop")))
        half = prepare(sheet("tangency/arc-two-lines", scale=0.5))
        one = judge(half, {"setback": Reading(26.4)}).measured["setback"]
        self.assertTrue(
            passes(half, "setback", one, read_tolerance("shop")), "half a millimetre of paper is one of the thing"
        )
        self.assertEqual(read_tolerance("0.3, 0.25"), (0.3, 0.25))
        for text in ("none", "0", "-1", "1000", "1,2,3"):
            with self.assertRaisesRegex(BadGiven, "is none"):
                read_tolerance(text)
