"""Names of lines stand on the sheet clear of everything, and letters have one meaning each."""

from __future__ import annotations

import functools
import itertools
import math
import unittest
from dataclasses import replace

from tests.core.redrawing import sheet
from tests.core.test_blind import SCHOOLS, every_method
from wisecompass import catalogue
from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Conventions, LineNames
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.sentences import told
from wisecompass.drafting.solve import draw
from wisecompass.drafting.sums import said
from wisecompass.drafting.wording import joint, lettered, spoken
from wisecompass.folio.labels import text_box
from wisecompass.folio.line_names import HEIGHT, spoken_of_later
from wisecompass.folio.page import Page, compose
from wisecompass.folio.paper import Paper, text_width
from wisecompass.folio.title_block import Title

SIMPLE = ("tangency/arc-two-lines", "tangency/arc-line-circle", "polygons/octagon-in-square", "lines/divide-equally")
"""Problems whose sheets have room for every name."""


@functools.cache
def page_of(problem_id: str, conventions: Conventions = SCHOOLS[0]) -> tuple[Page, set[str]]:
    problem = catalogue.problem(problem_id)
    method = problem.methods[0]
    drawing = draw(problem, problem.served_by(method, problem.read({})), method, conventions)
    return compose(drawing, Paper("A4", True), Title(), conventions), spoken_of_later(drawing.steps)


class NamesOfLines(unittest.TestCase):
    def test_where_there_is_room_every_line_spoken_of_later_bears_its_name(self) -> None:
        for problem_id in SIMPLE:
            page, wanted = page_of(problem_id)
            texts = {mark.text for mark in page.marks if isinstance(mark, marks.Text)}
            with self.subTest(problem=problem_id):
                self.assertTrue(wanted)
                self.assertFalse([name for name in wanted if spoken(name) not in texts])

    def test_a_name_lies_clear_of_lines_letters_and_other_names(self) -> None:
        """Probed along each name: no letter's box and no drawn line comes in."""
        probed = 0
        for problem_id in catalogue.ids():
            page, _ = page_of(problem_id)
            names = {name for _, name in page.lettering.named}
            texts = [mark for mark in page.marks if isinstance(mark, marks.Text)]
            whites = [mark for mark in page.marks if isinstance(mark, marks.Gap)]
            for text in (mark for mark in texts if mark.name in names and mark.anchor == "centre"):
                others = [text_box(other) for other in texts if other is not text and not other.angle]
                along = text_width(text.text, HEIGHT) / 2
                turn = marks.Placement(1.0, text.x, text.y, text.angle)
                middle = turn.at(0.0, HEIGHT / 2)
                broken = any(math.dist(middle, (white.x, white.y)) < 0.01 for white in whites)
                for share in (-0.9, -0.5, 0.0, 0.5, 0.9):
                    x, y = turn.at(along * share, HEIGHT / 2)
                    probed += 1
                    inside = [box for box in others if box[0] < x < box[2] and box[1] < y < box[3]]
                    self.assertFalse(inside, (problem_id, text.text))
                    for mark in page.marks:
                        thin = mark.pen not in (Pen.OUTLINE, Pen.CUT, Pen.LETTERING)
                        if isinstance(mark, marks.Segment | marks.Arc) and not (broken and thin):
                            away = min(_distance((x, y), *ends) for ends in itertools.pairwise(marks.sampled(mark, 96)))
                            self.assertGreater(away, HEIGHT * 0.35, (problem_id, text.text, mark.name))
        self.assertGreater(probed, 500)

    def test_all_find_room_beside_their_line_over_thin_ones_or_at_a_leader(self) -> None:
        """All but one in a hundred."""
        found = wanted = white = led = 0
        for problem_id in catalogue.ids():
            page, names = page_of(problem_id)
            named = {name for _, name in page.lettering.named}
            wanted, found = wanted + len(names), found + len(names & named)
            white += sum(isinstance(mark, marks.Gap) for mark in page.marks)
            led += sum(place.led for place in page.lettering.named.values())
        self.assertGreaterEqual(found, 0.99 * wanted)
        self.assertGreater(min(white, led), 40)

    def test_a_leader_runs_from_its_line_to_its_name_and_through_no_lettering(self) -> None:
        leaders = 0
        for problem_id in ("loci/cycloid", "conics/hyperbola-rectangular", "tangency/three-circles"):
            page, _ = page_of(problem_id)
            texts = [mark for mark in page.marks if isinstance(mark, marks.Text) and not mark.angle]
            for (_, name), place in page.lettering.named.items():
                if not place.led:
                    continue
                line = next(m for m in page.marks if m.name == name and isinstance(m, marks.Segment | marks.Arc))
                x, y = line.end(place.share) if isinstance(line, marks.Arc) else _share(line, place.share)
                end = x + place.across, y + place.up
                own = next(text for text in texts if text.name == name and text.text == spoken(name))
                box = text_box(own)
                self.assertLess(_distance(end, (box[0], box[1]), (box[2], box[1])), HEIGHT + 2)
                for share in (0.1, 0.3, 0.5, 0.7, 0.9, 1.0):
                    px, py = x + place.across * share, y + place.up * share
                    struck = [text.text for text in texts if _inside(text_box(text), px, py)]
                    self.assertFalse(struck, (problem_id, name))
                leaders += 1
        self.assertGreater(leaders, 20)

    def test_who_does_not_want_them_has_none(self) -> None:
        page, _ = page_of(SIMPLE[0], replace(Conventions(), line_names=LineNames.SENTENCES))
        self.assertFalse(page.lettering.named)

    def test_they_go_with_their_lines_while_somebody_types(self) -> None:
        problem = catalogue.problem(SIMPLE[0])
        before, _ = page_of(SIMPLE[0])
        drawing = draw(problem, problem.read({"radius": "21"}), problem.methods[0])
        after = compose(drawing, Paper("A4", True), Title(), Conventions(), kept=before)
        self.assertEqual(before.lettering.named, after.lettering.named)
        places = [
            {mark.name: (mark.x, mark.y) for mark in page.marks if isinstance(mark, marks.Text) and mark.name in wanted}
            for page, wanted in ((before, {"parallel 1"}), (after, {"parallel 1"}))
        ]
        self.assertNotEqual(*places)


def _distance(p: tuple[float, float], a: tuple[float, float], b: tuple[float, float]) -> float:
    z, start, end = complex(*p), complex(*a), complex(*b)
    way = end - start
    share = 0.0 if way == 0 else min(1.0, max(0.0, ((z - start) * way.conjugate()).real / abs(way) ** 2))
    return abs(z - start - share * way)


def _share(line: marks.Segment, share: float) -> tuple[float, float]:
    return line.x1 + (line.x2 - line.x1) * share, line.y1 + (line.y2 - line.y1) * share


def _inside(box: marks.Box, x: float, y: float) -> bool:
    return box[0] < x < box[2] and box[1] < y < box[3]


class Letters(unittest.TestCase):
    def test_a_letter_means_one_point_on_a_sheet_in_every_naming(self) -> None:
        """Letters as they are shown: those of two points that lie apart on one part of the sheet differ."""
        letters = 0
        for problem, method in every_method():
            typed = problem.served_by(method, problem.read({}))
            for school in SCHOOLS:
                board = sheet(problem, method, typed, school)
                shown: dict[str, tuple[str, float, float]] = {}
                for name, point in board.record.letters.items():
                    if name.startswith("crossing "):
                        continue
                    here = name, float(point.x), float(point.y)
                    there = shown.setdefault(lettered(name), here)
                    letters += 1
                    apart = abs(here[1] - there[1]) + abs(here[2] - there[2])
                    self.assertLess(apart, 1e-6, (problem.id, method.name, school, here, there))
        self.assertGreater(letters, 5000)

    def test_a_line_through_two_letters_is_told_by_both(self) -> None:
        edges = 0
        for problem, method in every_method():
            board = sheet(problem, method, problem.served_by(method, problem.read({})), SCHOOLS[0])
            for act in board.record.acts:
                if (act.do == "line in" and not act.way) or (act.do == "join" and act.makes[0] == joint(*map(str, act.on))):
                    edges += 1
                    text, (a, b) = told(act), map(str, act.on)
                    self.assertIn(spoken(a), text)
                    self.assertIn(spoken(b), text.replace(spoken(a), "", 1), (problem.id, method.name))
        self.assertGreater(edges, 600)

    def test_a_line_is_not_called_like_a_point(self) -> None:
        for problem, method in every_method():
            board = sheet(problem, method, problem.served_by(method, problem.read({})), SCHOOLS[0])
            names = [name for act in board.record.acts for name in act.makes]
            self.assertEqual(len(names), len(set(names)), (problem.id, method.name))


class Sums(unittest.TestCase):
    def test_what_a_sum_is_divided_by_stands_together(self) -> None:
        self.assertEqual(said(("/", ("/", ("/", "base", 4), "pi"), "turns")), "base / (4 * pi * turns)")
        self.assertEqual(said(("/", 1, "turns")), "1 / turns")

    def test_a_distance_of_what_is_negative_is_turned_round(self) -> None:
        self.assertEqual(said(("abs", ("-", ("neg", "b"), "a"))), "abs(b + a)")
        self.assertEqual(said(("abs", ("-", "b", "a"))), "abs(b - a)")
