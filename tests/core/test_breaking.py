"""Lines broken off on their way to far points, and their sign on paper."""

from __future__ import annotations

import math
import random
import unittest

from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting import breaking, marks
from wisecompass.drafting.board import Board
from wisecompass.drafting.breaking import Spot
from wisecompass.drafting.marks import Break, Dot, Mark, Placement, Segment, placed
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.recorder import Detail
from wisecompass.drafting.solve import draw
from wisecompass.folio.dimensions import break_reach, expanded
from wisecompass.folio.layout import block_extents
from wisecompass.geometry.plane import Point

BOX = (0.0, 0.0, 10.0, 6.0)


class Clipping(unittest.TestCase):
    def test_shares_inside_a_box_by_dense_sampling(self) -> None:
        rng = random.Random(1)
        for _ in range(300):
            start, end = ((rng.uniform(-8, 18), rng.uniform(-8, 14)) for _ in range(2))
            inside = [
                k / 2000
                for k in range(2001)
                if breaking.within(BOX, *(a + (b - a) * k / 2000 for a, b in zip(start, end, strict=True)))
            ]
            found = breaking.shares_inside(BOX, start, end)
            if found is None:
                self.assertLess(len(inside), 2)
            else:
                self.assertAlmostEqual(found[0], inside[0] if inside else found[0], delta=6e-4)
                self.assertAlmostEqual(found[1], inside[-1] if inside else found[1], delta=6e-4)

    def test_lines_along_a_side_and_points(self) -> None:
        self.assertEqual(breaking.shares_inside(BOX, (-5, 3), (15, 3)), (0.25, 0.75))
        self.assertIsNone(breaking.shares_inside(BOX, (-5, 9), (15, 9)))
        self.assertIsNone(breaking.shares_inside(BOX, (20, 3), (20, 3)))

    def test_limits_leave_room_in_proportion(self) -> None:
        left, low, right, high = breaking.limits([(0, 0), (3, 4)]) or BOX
        self.assertAlmostEqual(right - 3, breaking.ROOM * 5)
        self.assertAlmostEqual(-low, breaking.ROOM * 5)
        self.assertAlmostEqual(high - left, 4 + 2 * breaking.ROOM * 5)
        self.assertIsNone(breaking.limits([]))


class BrokenLines(unittest.TestCase):
    def line(self, x2: float, y2: float) -> Segment:
        return Segment(x1=1, y1=1, x2=x2, y2=y2, pen=Pen.PROJECTOR, step=3, block="b", name="n")

    def test_what_stays_inside_is_left_alone(self) -> None:
        whole = self.line(9, 5)
        self.assertEqual(breaking.broken(whole, BOX, [], []), [whole])

    def test_the_break_stands_at_the_edge_and_names_the_far_point(self) -> None:
        far = Spot(1, 41, "S")
        cut, sign = breaking.broken(self.line(1, 41), BOX, [Spot(1, 1, "P"), Spot(1, 4, "Q")], [far])
        assert isinstance(cut, Segment)
        assert isinstance(sign, Break)
        self.assertEqual((cut.x2, cut.y2, cut.step, cut.name), (1, 6, 3, "n"))
        self.assertEqual((sign.x, sign.y, round(sign.angle), sign.text), (1, 6, 90, "S 37 from Q"))

    def test_both_ends_and_nothing_at_all(self) -> None:
        through = Segment(x1=-50, y1=3, x2=60, y2=3)
        pieces = breaking.broken(through, BOX, [], [Spot(-50, 3, "A"), Spot(60, 3, "B")])
        self.assertEqual([m.text for m in pieces if isinstance(m, Break)], ["A", "B"])
        self.assertEqual(breaking.broken(Segment(x1=0, y1=9, x2=10, y2=9), BOX, [], []), [])

    def test_each_far_point_is_said_once_by_the_last_line(self) -> None:
        signs: list[Mark] = [
            Break(x=x, y=1.0, angle=0.0, text=text) for x, text in ((1.0, "S 5 from P"), (2.0, "S 6 from Q"))
        ]
        self.assertEqual([m.text for m in breaking.said_once(signs)], ["", "S 6 from Q"])  # type: ignore[attr-defined]
        twice: list[Mark] = [
            Break(x=1.0, y=1.0, angle=0.0, text="S 5 from P", pen=pen) for pen in (Pen.PROJECTOR, Pen.OUTLINE)
        ]
        self.assertEqual([m.pen for m in breaking.said_once(twice)], [Pen.OUTLINE])


class OnTheBoard(unittest.TestCase):
    def drawn(self, away: float) -> list[Mark]:
        """Two crossing lines of which the crossing lies ``away`` to the right."""
        b = Board(PLAIN)
        one, two = b.point("A", 0.0, 0.0), b.point("B", 0.0, 10.0)
        b.point("C", 20.0, 10.0)
        first, second = b.level_line(one, "first"), b.line(two, Point(away / 1000, 9.99, "on"), "second")
        with b.may_be_far():
            b.meet(first, second, name="S")
        return b.finished_marks()

    def test_a_near_crossing_is_marked_and_a_far_one_is_not(self) -> None:
        for away, seen in ((25.0, True), (4000.0, False)):
            found = self.drawn(away)
            self.assertEqual(any(isinstance(m, Dot) and m.name == "S" for m in found), seen, away)
            self.assertEqual(any(isinstance(m, Break) for m in found), not seen)

    def test_the_far_point_keeps_its_place_in_the_findings(self) -> None:
        b = Board(PLAIN)
        a = b.point("A", 0.0, 0.0)
        line = b.level_line(a, "line")
        with b.may_be_far():
            far = b.carried(line, 9000.0, "S")
        self.assertEqual((far.x, b.plane_point("S").x), (9000.0, 9000.0))


class OnPaper(unittest.TestCase):
    def test_the_sign_is_a_zigzag_with_its_words_beyond_readable_from_below(self) -> None:
        for angle in (0, 37, 90, 180, 233, 270):
            sign = Break(x=50, y=50, angle=angle, text="S1 12 from P2", pen=Pen.OUTLINE, step=2)
            pieces = expanded(sign)
            (words,) = (m for m in pieces if isinstance(m, marks.Text))
            self.assertEqual((words.text, words.angle, words.step), ("S₁ 12 from P₂", 0.0, 2))
            beyond = (words.x - 50) * math.cos(math.radians(angle)) + (words.y - 50) * math.sin(math.radians(angle))
            self.assertGreater(beyond, 2)
            zigzag = [m for m in pieces if isinstance(m, Segment)]
            self.assertEqual((zigzag[0].x1, zigzag[0].y1), (50, 50))
            for one, two in zip(zigzag, zigzag[1:], strict=False):
                self.assertAlmostEqual(math.dist((one.x2, one.y2), (two.x1, two.y1)), 0)
            self.assertTrue(all(m.pen is Pen.OUTLINE for m in zigzag))

    def test_room_is_found_for_the_words(self) -> None:
        sign = Break(x=10, y=0, angle=0, text="S 123.45 from P5", block="")
        line = Segment(x1=0, y1=0, x2=10, y2=0)
        box = block_extents([line, sign], {})[""].at(1.0, 1.0)
        self.assertGreater(box[2], 10 + max(dx for dx, _ in break_reach(sign)))
        self.assertGreater(block_extents([line], {})[""].at(1.0, 1.0)[2], 10)

    def test_it_turns_with_its_block(self) -> None:
        turned = placed(Break(x=1, y=0, angle=10, text="S"), Placement(2.0, 5.0, 0.0, 90.0))
        assert isinstance(turned, Break)
        self.assertAlmostEqual(turned.x, 5)
        self.assertAlmostEqual(turned.y, 2)
        self.assertEqual(turned.angle, 100)


class Details(unittest.TestCase):
    """Of a figure of very many steps a keystroke draws less; what it finds is the same."""

    def test_less_detail_leaves_marks_out_and_changes_none_that_stay(self) -> None:
        for problem_id in ("loci/cycloid", "loci/helix", "space/dihedral-angle", "conics/focus-directrix"):
            problem = catalogue.problem(problem_id)
            typed, method = problem.read({}), problem.methods[0]
            whole = draw(problem, typed, method)
            points, result = (draw(problem, typed, method, detail=d, folding=whole.steps) for d in list(Detail)[1::-1])
            self.assertEqual(whole.findings, points.findings)
            self.assertEqual(whole.findings, result.findings)
            self.assertEqual(len(whole.steps), len(result.steps))
            self.assertTrue(len(whole.marks) > len(points.marks) > len(result.marks) > 0, problem_id)
            places = [{(m.name, m.x, m.y) for m in d.marks if isinstance(m, Dot)} for d in (whole, points)]
            self.assertLessEqual(places[1], places[0])
            lines = draw(problem, typed, method, detail=Detail.LINES, folding=whole.steps)
            self.assertEqual(len(lines.marks), len(whole.marks))
            self.assertEqual(lines.findings, whole.findings)
            self.assertFalse([m for m in result.marks if isinstance(m, Dot)])
            outlines = [m.name for m in whole.marks if m.pen is Pen.OUTLINE]
            self.assertEqual([m.name for m in result.marks if m.pen is Pen.OUTLINE], outlines)


if __name__ == "__main__":
    unittest.main()
