"""The little signs in the index: each tells its own problem."""

from __future__ import annotations

from tests.desk.base import DeskTest
from wisecompass import catalogue
from wisecompass.desk.index import SIGN, sign_of
from wisecompass.drafting.solve import draw


class Signs(DeskTest):
    def test_no_two_problems_have_the_same_sign(self) -> None:
        seen: dict[bytes, str] = {}
        for problem in map(catalogue.problem, catalogue.ids()):
            drawing = draw(problem, problem.read({}), problem.methods[0])
            image = sign_of(drawing.marks, self.window.theme).toImage()
            self.assertEqual((image.width(), image.height()), (SIGN, SIGN))
            bits = bytes(image.constBits())
            self.assertNotIn(bits, seen, f"{problem.id} looks like {seen.get(bits)}")
            seen[bits] = problem.id

    def test_a_sign_fills_its_square(self) -> None:
        for problem in map(catalogue.problem, catalogue.ids()):
            drawing = draw(problem, problem.read({}), problem.methods[0])
            image = sign_of(drawing.marks, self.window.theme).toImage()
            inked = [(x, y) for x in range(SIGN) for y in range(SIGN) if image.pixelColor(x, y).alpha() > 40]
            xs, ys = [x for x, _ in inked], [y for _, y in inked]
            self.assertGreater(max(max(xs) - min(xs), max(ys) - min(ys)), SIGN * 0.7, problem.id)
