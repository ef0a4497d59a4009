"""Mistakes planted in the engine of views must be found: by a check that fails, or by the distance from the truth."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from typing import Any
from unittest import mock

from wisecompass import catalogue
from wisecompass.drafting.views import Views
from wisecompass.geometry.plane import Line, Point

HAIR = "0.000000001"
"""A billionth of a millimetre."""


class PlantedMistakes(unittest.TestCase):
    def found(self, problem_id: str, method: str | None = None) -> bool:
        """Whether what every problem is held against notices: a check, a point or a finding."""
        from tests.core.test_every_problem import EveryMethod

        problem = catalogue.problem(problem_id)
        try:
            EveryMethod()._agrees(problem, problem.method(method), problem.read({}))
        except AssertionError:
            return True
        return False

    def found_in_transfer(self, mistake: Callable[[Views, Point, Any], Point], problem_id: str) -> bool:
        """The same with every transferred point put wrong."""
        right = Views.transfer

        def wrong(self: Views, name: str, beside: Any, read: Any, into: Any, why: str = "") -> Point:
            image = mistake(self, right(self, name, beside, read, into, why), into)
            into[0].images[name] = image
            return image

        with mock.patch.object(Views, "transfer", wrong):
            return self.found(problem_id)

    def test_without_a_mistake_nothing_is_found(self) -> None:
        for problem_id in ("space/lamina", "space/skew-lines", "space/point-to-plane", "space/dihedral-angle"):
            self.assertFalse(self.found(problem_id))

    def test_one_transfer_a_billionth_off_bends_an_edge_view(self) -> None:
        def first_only(views: Views, image: Point, into: Any) -> Point:
            if image.name == "a₁":
                return Point(image.x, image.y + views.board.number(HAIR), image.name)
            return image

        for problem_id in ("space/lamina", "space/skew-lines"):
            self.assertTrue(self.found_in_transfer(first_only, problem_id), problem_id)

    def test_distances_laid_off_to_the_wrong_side_are_found(self) -> None:
        """Every view mirrored in its fold line is as true as before; one point mirrored is not."""

        def mirrored(views: Views, image: Point, into: Any) -> Point:
            fold: Line = into[1]
            if not image.name.startswith("b"):
                return image
            size = fold.dx * fold.dx + fold.dy * fold.dy
            away = (fold.dx * (image.y - fold.at.y) - fold.dy * (image.x - fold.at.x)) / size
            return Point(image.x + fold.dy * away * 2, image.y - fold.dx * away * 2, image.name)

        for problem_id in ("space/skew-lines", "space/dihedral-angle"):
            self.assertTrue(self.found_in_transfer(mirrored, problem_id), problem_id)

    def test_heights_taken_from_the_wrong_view_are_found(self) -> None:
        """The auxiliary view off the top view is given distances from VP instead of heights."""
        right = Views.transfer

        def wrong(self: Views, name: str, beside: Any, read: Any, into: Any, why: str = "") -> Point:
            if read[0] is self.front_view:
                datum = Line(self.top_view.images["A"], -self.wall.dx, -self.wall.dy, "wrong datum")
                read = (self.top_view, datum)
            return right(self, name, beside, read, into, why)

        with mock.patch.object(Views, "transfer", wrong):
            for problem_id in ("space/lamina", "space/skew-lines", "space/dihedral-angle"):
                self.assertTrue(self.found(problem_id), problem_id)
            self.assertTrue(self.found("space/line-from-ends", "auxiliary view"))

    def test_a_projector_that_is_not_upright_is_found(self) -> None:
        right = Views.project

        def slanting(self: Views, name: str, start: Any, to: Any, onto: Line, why: str = "") -> Point:
            image = right(self, name, start, to, onto, why)
            along = Line(image, onto.dx, onto.dy).point_at(self.board.number(HAIR), image.name)
            to.images[name] = along
            return along

        with mock.patch.object(Views, "project", slanting):
            for name in ("line-meets-plane", "dihedral-angle", "lamina", "hyperbolic-paraboloid"):
                self.assertTrue(self.found(f"space/{name}"), name)


if __name__ == "__main__":
    unittest.main()
