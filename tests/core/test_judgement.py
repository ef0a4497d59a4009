"""What a method is worth, and what an ordinary hand makes of it."""

from __future__ import annotations

import unittest

from wisecompass import catalogue
from wisecompass.judgement.hands import OnPaper
from wisecompass.judgement.worth import judge, judged, worth, worths


class Worths(unittest.TestCase):
    def words(self, problem_id: str, method: str, **raw: str) -> str:
        problem = catalogue.problem(problem_id)
        return worth(problem, problem.read(raw), problem.method(method)).words

    def test_follow_the_numbers_at_hand(self) -> None:
        rule = "four-six centre line"
        self.assertEqual(self.words("polygons/regular-from-side", rule, sides="6"), "closes exactly here")
        self.assertIn("mm short", self.words("polygons/regular-from-side", rule, sides="5"))
        self.assertIn("mm long", self.words("polygons/regular-from-side", rule, sides="9"))
        self.assertEqual(self.words("conics/ellipse", "four centres", minor="168"), "a true circle here")
        self.assertEqual(self.words("conics/ellipse", "four centres"), "worst gap 1.05 mm, 72.51 along from the centre")

    def test_points_are_counted(self) -> None:
        for divisions in ("8", "12", "16", "24"):
            words = self.words("conics/ellipse", "concentric circles", divisions=divisions)
            self.assertEqual(words, f"{divisions} exact points")

    def test_a_method_that_does_not_serve_says_for_what_it_does(self) -> None:
        problem = catalogue.problem("polygons/regular-from-side")
        found = {w.method.name: w for w in worths(problem, problem.read({}))}
        self.assertFalse(found["golden pentagon"].serves)
        self.assertEqual(found["golden pentagon"].words, "only for 5 sides")
        self.assertTrue(found["central angle"].serves)


class Best(unittest.TestCase):
    def test_the_trammel_and_the_foci_space_their_points_as_evenly_as_the_circles(self) -> None:
        """Points at even steps along the axis would leave the sharp ends bare: two and a half times the gap."""
        problem = catalogue.problem("conics/ellipse")
        ranked = judged(problem, problem.read({"divisions": "12"}))
        faired = {one.method.name: one.faired for one in ranked}
        for name in ("trammel", "foci arcs"):
            self.assertLess(abs(faired[name] - faired["concentric circles"]), 0.1 * faired["concentric circles"])
        for one in ranked:
            self.assertGreaterEqual(one.miss or 0.0, one.faired)

    def test_misses_grow_with_the_figure_only_where_angles_are_set(self) -> None:
        """A protractor's half degree reaches farther on a larger figure; a compass strays alike on any."""
        problem = catalogue.problem("polygons/square-from-side")
        small, large = (judged(problem, problem.read({"side": side})) for side in ("40", "160"))
        for one in small:
            other = next(w for w in large if w.method.name == one.method.name)
            self.assertLess((other.miss or 0) / (one.miss or 1), 2.5)
        problem = catalogue.problem("triangles/circumradius-two-angles")
        small, large = (judged(problem, problem.read({"circumradius": radius})) for radius in ("20", "200"))
        self.assertGreater((large[0].miss or 0) / (small[0].miss or 1), 3)

    def test_of_methods_alike_the_one_of_fewer_steps_comes_first(self) -> None:
        problem = catalogue.problem("lines/square-at-end")
        ranked = judged(problem, problem.read({}))
        least = min(one.miss or 0 for one in ranked)
        alike = [one.steps for one in ranked if (one.miss or 0) <= 1.12 * least]
        self.assertEqual(alike, sorted(alike))


class OnThePaper(unittest.TestCase):
    """A hand strays on the paper: a small thing drawn large is drawn more exactly."""

    def test_a_miss_shrinks_as_the_scale_grows(self) -> None:
        problem = catalogue.problem("tangency/arc-two-lines")
        typed = problem.read({"radius": "0.75"})
        method = problem.method("perpendicular offsets")
        large, full = (judge(OnPaper(problem, typed, method, scale)).miss for scale in (50.0, 1.0))
        assert large is not None
        assert full is not None
        self.assertLess(large, 0.05)
        self.assertGreater(full, 10 * large)

    def test_a_figure_and_its_model_are_missed_alike_on_paper(self) -> None:
        """Ten times as large at a tenth of the scale is the same drawing."""
        problem = catalogue.problem("conics/ellipse")
        for method in problem.methods[:2]:
            small = judge(OnPaper(problem, problem.read({"major": "160", "minor": "100"}), method, 1.0)).miss
            large = judge(OnPaper(problem, problem.read({"major": "1600", "minor": "1000"}), method, 0.1)).miss
            assert small is not None
            assert large is not None
            self.assertAlmostEqual(large / small, 10, delta=0.5)

    def test_the_service_judges_at_the_scale_of_the_sheet(self) -> None:
        from wisecompass.folio import register, store
        from wisecompass.folio.document import Figure
        from wisecompass.service import Task, about_figure

        misses = []
        for scale in ("10:1", "1:1"):
            figure = Figure("tangency/arc-two-lines", "swung arcs", {"radius": "3"}, scale=scale)
            folio, place = register.add_figure(store.empty(), figure, 0)
            judged = [body for kind, body in about_figure(Task.of(folio, place)) if kind == "worth"]
            misses.append(next(one.miss for one in judged if one.method == "swung arcs"))
        self.assertGreater(misses[1], 5 * misses[0])


if __name__ == "__main__":
    unittest.main()
