"""How several solutions are recorded, drawn and named; and signs that are decided together."""

from __future__ import annotations

import functools
import operator
import unittest
from fractions import Fraction
from itertools import pairwise

from wisecompass import catalogue
from wisecompass.arithmetic import BALL, PLAIN, sqrt
from wisecompass.arithmetic.ball import middle, precision
from wisecompass.arithmetic.certified import decide_sign, decide_signs
from wisecompass.drafting.board import Board
from wisecompass.drafting.givens import at_least, at_most
from wisecompass.drafting.marks import Arc, Dot, LinearDimension, Segment
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.sentences import sentence
from wisecompass.drafting.wording import lettered, listed, lowered, with_article
from wisecompass.folio.labels import find_places
from wisecompass.folio.layout import block_extents
from wisecompass.geometry import plane


class Likewise(unittest.TestCase):
    """A construction that is done for every solution shows the wanted one step by step."""

    def drawn(self, wanted: int) -> Board:
        board = Board(PLAIN, solution=wanted)
        start = board.point("A", 0.0, 0.0)
        base = board.level_line(start, "base")
        for n, length in enumerate((30.0, 50.0, 70.0), 1):
            with board.likewise(n):
                end = board.lay_off(base, start, length, f"B_{n}")
                board.arc(end, 5.0)
                board.line_in((start, end))
                board.dimension(end, start)
        board.step("say", board.steps[0].instrument, text="Done")
        return board

    def test_steps_of_the_others_are_one_each(self) -> None:
        for wanted in (1, 2, 3):
            board = self.drawn(wanted)
            verbs = [step.verb for step in board.steps]
            own = ["lay off", "arc", "line in"]
            others = [["other solution"], ["other solution"], ["other solution"]]
            others[wanted - 1] = own
            self.assertEqual(verbs, ["point", "level", *functools.reduce(operator.iadd, others, []), "say"])
            self.assertEqual([step.n for step in board.steps], list(range(1, len(board.steps) + 1)))

    def test_outlines_stay_and_construction_goes(self) -> None:
        board = self.drawn(2)
        drawn = board.finished_marks()
        edges = {m.solution: m.pen for m in drawn if isinstance(m, Segment) and m.solution}
        self.assertEqual(edges, {1: Pen.LOCUS, 2: Pen.OUTLINE, 3: Pen.LOCUS})
        self.assertEqual([m.solution for m in drawn if isinstance(m, Arc)], [2])
        self.assertEqual([m.solution for m in drawn if isinstance(m, LinearDimension)], [2])
        self.assertEqual({m.name for m in drawn if isinstance(m, Dot)}, {"A", "B_2"})
        for mark in drawn:
            self.assertTrue(1 <= mark.step <= len(board.steps), mark)
        self.assertEqual(board.steps[next(m for m in drawn if m.solution == 3).step - 1].solutions[1:], (3,))

    def test_all_points_are_remembered(self) -> None:
        self.assertEqual(set(self.drawn(1).points), {"A", "B_1", "B_2", "B_3"})
        self.assertEqual(self.drawn(1).solutions, 3)

    def test_the_step_of_another_solution_names_what_it_makes(self) -> None:
        board = self.drawn(1)
        alike = next(step for step in board.steps if step.solutions[1:] == (2,))
        self.assertIn("B_2", alike.makes)
        self.assertEqual(
            sentence(alike), "Solution 2 is found like solution 1, which is shown step by step, with its own settings."
        )

    def test_points_that_are_not_shown_need_no_room(self) -> None:
        near, far = Dot(x=0, y=0, name="A"), Dot(x=900, y=900, name="B", shown=False)
        extent = block_extents([near, Dot(x=10, y=5, name="C"), far], {})[""]
        self.assertEqual(extent.box, (0, 0, 10, 5))


class Bisecting(unittest.TestCase):
    def test_the_bisector_halves_the_angle_whatever_the_arms(self) -> None:
        for far in (10.0, 80.0, 300.0):
            board = Board(PLAIN)
            vertex = board.point("V", 3.0, 4.0)
            a, b = board.point("A", 53.0, 4.0), board.point("B", 3.0, 4.0 + far)
            line = board.bisect(vertex, a, b, "bisector")
            self.assertAlmostEqual(float(plane.turn_at(vertex, a, line.point_at(10.0))), 45.0)
            self.assertEqual([step.verb for step in board.steps[3:]], ["arc", "arc", "arc", "crossings"])
            self.assertIn("Straightedge through V and crossing 1", sentence(board.steps[-1]))


class Names(unittest.TestCase):
    def test_points_of_other_solutions(self) -> None:
        self.assertEqual(lettered("T1_3"), "T₁(3)")
        self.assertEqual(lettered("C_2"), "C(2)")
        self.assertEqual(lettered("b/2"), "(b)")

    def test_names_in_running_text_are_lowered(self) -> None:
        self.assertEqual(lowered("the side P3P4, from O1 to T12"), "the side P₃P₄, from O₁ to T₁₂")
        self.assertEqual(lowered("A4 is a paper, 12 a count, B a point"), "A₄ is a paper, 12 a count, B a point")
        self.assertEqual(lowered("BM-04 and x1"), "BM-04 and x1")

    def test_short_words_take_an_article_too(self) -> None:
        self.assertEqual(with_article("ray"), "the ray")
        self.assertEqual(with_article("edge 1"), "edge 1")
        self.assertEqual(with_article("XY"), "XY")

    def test_many_edges_are_not_all_named(self) -> None:
        for count, text in ((20, "Line in P₁P₂, P₂P₃, P₃P₄ … P₁₉P₂₀."), (3, "Line in P₁P₂ and P₂P₃.")):
            board = Board(PLAIN)
            board.line_in(*pairwise([board.point(f"P{k}", float(k), float(k % 3)) for k in range(1, count + 1)]))
            self.assertEqual(sentence(board.steps[-1]), text)
        self.assertEqual(listed(["1", "2", "3", "4", "5", "6"]), "1, 2 … 6")

    def test_a_whole_circle_is_not_an_arc_to_where_it_began(self) -> None:
        problem = catalogue.problem("triangles/circumscribed-circle")
        from wisecompass.drafting.solve import draw

        texts = [sentence(step) for step in draw(problem, problem.read({}), problem.methods[0]).steps]
        self.assertTrue(any("line in the circle about O through A" in text for text in texts), texts)

    def test_letters_side_by_side_keep_apart(self) -> None:
        """4 and 5 must not be read as 45."""
        dots = [Dot(x=50.0 + 3.2 * k, y=50.0, name=str(4 + k)) for k in range(4)]
        places = find_places(list(dots), (0, 0, 200, 200))
        boxes = [
            (dot.x + box[0], dot.y + box[1], dot.x + box[2], dot.y + box[3])
            for dot, (box, _) in zip(dots, (places["", dot.name] for dot in dots), strict=True)
        ]
        for i, a in enumerate(boxes):
            for b in boxes[:i]:
                level = a[1] < b[3] and b[1] < a[3]
                self.assertFalse(level and a[0] - 0.85 < b[2] and b[0] - 0.85 < a[2], (a, b))


class Signs(unittest.TestCase):
    def test_several_are_decided_together(self) -> None:
        def values(arithmetic: object) -> tuple[object, ...]:
            number = arithmetic.number  # type: ignore[attr-defined]
            return number(2) - 3, number(0), number(Fraction(1, 10**40)), 7

        self.assertEqual(decide_signs(values), (-1, 0, 1, 1))  # type: ignore[arg-type]

    def test_roots_are_decided_in_balls_until_they_are_sure(self) -> None:
        def values(arithmetic: object) -> tuple[object, ...]:
            number = arithmetic.number  # type: ignore[attr-defined]
            two = sqrt(number(2))
            return two * two - 2, two - number(Fraction(14142135623730950488016887242096980785697, 10**40))

        self.assertEqual(decide_signs(values), (0, -1))  # type: ignore[arg-type]
        self.assertEqual(decide_signs(values, rational=False), (0, -1))  # type: ignore[arg-type]

    def test_whole_numbers_need_no_arithmetic(self) -> None:
        self.assertEqual(decide_sign(lambda _: -4), -1)  # type: ignore[arg-type, return-value]

    def test_the_middle_of_a_ball_is_exact(self) -> None:
        with precision(200):
            third = BALL.number(Fraction(1, 3))
            self.assertLess(abs(middle(third) - Fraction(1, 3)), Fraction(1, 2**198))  # type: ignore[arg-type]
            self.assertEqual(middle(BALL.number(-5)), -5)  # type: ignore[arg-type]


class Offers(unittest.TestCase):
    def test_are_rounded_to_the_safe_side(self) -> None:
        self.assertEqual((at_least(Fraction(1, 3)), at_most(Fraction(1, 3))), ("0.334", "0.333"))
        self.assertEqual((at_least(Fraction(5)), at_most(Fraction(5))), ("5", "5"))
        self.assertEqual(at_least(Fraction(5), above=True), "5.001")
        self.assertEqual(at_least(12.5, 1), "12.5")
        self.assertEqual(at_most(Fraction(-1, 3)), "-0.334")


if __name__ == "__main__":
    unittest.main()
