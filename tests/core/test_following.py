"""Views of a body followed while a number changes, against the views of the body that has that number."""

from __future__ import annotations

import random
import unittest
from dataclasses import replace

import numpy as np

from tests.core.random_bodies import KINDS, parts, text
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.catalogue.pictorial.projections import PROJECTIONS
from wisecompass.catalogue.solids.crate_plan import plan_of
from wisecompass.drafting.conventions import Conventions, Projection
from wisecompass.drafting.crating import FRONT, LEFT, TOP
from wisecompass.drafting.givens import bind
from wisecompass.drafting.marks import Curve, Mark, Segment
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import draw
from wisecompass.geometry.following import Followed, again
from wisecompass.geometry.images import Central, Sight
from wisecompass.geometry.parts import Part
from wisecompass.geometry.sight import Run, runs

SLANTING = Sight((0.8, 0.6, 0.0), (-0.36, 0.48, 0.8), (0.48, -0.64, 0.6))
CENTRAL = Central(SLANTING.right, SLANTING.up, SLANTING.eye, (220.0, -310.0, 290.0), 300.0)
SIGHTS = (FRONT.sight, TOP.sight, LEFT.sight, SLANTING, CENTRAL)


def nudged(several: tuple[Part, ...], rng: random.Random) -> tuple[Part, ...]:
    """One number of one part as a key would change it."""
    k, by = rng.randrange(len(several)), rng.choice((-0.1, 0.1, 0.5))
    part = several[k]
    name = rng.choice(("at", "sizes"))
    numbers = list(getattr(part, name))
    i = rng.randrange(len(numbers))
    numbers[i] = max(numbers[i] + by, 0.2) if name == "sizes" else numbers[i] + by
    return (*several[:k], replace(part, **{name: tuple(numbers)}), *several[k + 1 :])


def structure(found: list[Run]) -> list[tuple[object, ...]]:
    """What a view is made of, without where it lies."""
    return [(run.edge.surfaces, run.seen, run.contour, run.edge.curve.is_straight) for run in found]


class Following(unittest.TestCase):
    def test_what_stays_what_it_is_is_found_where_it_is(self) -> None:
        """Where the view of the changed body has the same pieces of the same surfaces, their ends are right; but for a few
        at which two things lay one behind the other by chance, and do no more."""
        misses, curved = [], 0
        for seed in range(32):
            rng = random.Random(seed)
            before = parts(text(rng, KINDS, 5))
            after = nudged(before, rng)
            old, new = plan_of(before).body, plan_of(after).body
            changed = again(old.model, after)
            assert changed is not None
            if old.model.same != new.model.same:
                continue  # faces that were one, or have become one
            for sight in SIGHTS:
                pieces, wanted = runs(old, sight), runs(new, sight)
                if structure(pieces) != structure(wanted):
                    continue
                found = Followed(old, sight, pieces).places(changed, sight)
                for piece, places, run in zip(pieces, found, wanted, strict=True):
                    if run.closes:
                        continue
                    self.assertIsNotNone(places, (seed, sight, piece.edge.surfaces))
                    assert places is not None
                    miss = np.abs(sight.image(places[[0, -1]]) - sight.image(run.places(1))).max()
                    misses.append(float(miss) / old.model.size)
                    curved += not run.edge.curve.is_straight
        self.assertGreater(len(misses), 800)
        self.assertLess(sum(miss > 1e-5 for miss in misses), 0.01 * len(misses))
        self.assertLess(max(misses), 0.01)
        self.assertGreater(curved, 50)

    def test_a_curve_lies_on_both_its_surfaces(self) -> None:
        before = parts(
            "box 60 40 20 at 0 0 0; cylinder 24 30 at 30 20 0 along up; less cylinder 16 40 at 30 0 22 along back"
        )
        after = (before[0], replace(before[1], sizes=(25.5, 30.0)), before[2])
        body = plan_of(before).body
        changed = again(body.model, after)
        assert changed is not None
        pieces = runs(body, SLANTING)
        for piece, places in zip(pieces, Followed(body, SLANTING, pieces).places(changed, SLANTING), strict=True):
            if piece.edge.curve.is_straight or piece.contour:
                continue
            assert places is not None
            rows = changed.rows[list(piece.edge.surfaces)]
            heights = (places * places) @ rows[:, :3].T + places @ rows[:, 3:6].T + rows[:, 6]
            self.assertLess(float(np.abs(heights).max()), 1e-6)

    def test_what_has_gone_is_left_out(self) -> None:
        before = parts("box 60 40 20 at 0 0 0; box 20 10 12 at 10 10 16")
        body = plan_of(before).body
        pieces = runs(body, FRONT.sight)
        sunk = (before[0], replace(before[1], at=(10.0, 10.0, 7.0)))
        changed = again(body.model, sunk)
        assert changed is not None
        found = Followed(body, FRONT.sight, pieces).places(changed, FRONT.sight)
        self.assertTrue(any(places is None for places in found))

    def test_other_parts_are_not_followed(self) -> None:
        before = parts("box 60 40 20 at 0 0 0; box 20 10 8 at 10 10 20")
        model = plan_of(before).body.model
        for other in (
            before[:1],
            (*before, before[1]),
            (before[0], replace(before[1], taken=True)),
            (before[0], replace(before[1], kind="wedge", way="right")),
        ):
            self.assertIsNone(again(model, other))

    def test_of_faces_that_part_the_one_that_moves_is_followed(self) -> None:
        before = parts("box 60 40 20 at 0 0 0; box 20 10 8 at 10 10 20")
        body = plan_of(before).body
        pieces = runs(body, FRONT.sight)
        higher = (replace(before[0], sizes=(60.0, 40.0, 21.0)), before[1])
        changed = again(body.model, higher)
        assert changed is not None
        found = Followed(body, FRONT.sight, pieces).places(changed, FRONT.sight)
        levels = {round(float(places[0, 2]), 6) for places in found if places is not None}
        self.assertIn(21.0, levels)
        self.assertNotIn(20.0, levels)


def lined_in(marks: list[Mark]) -> list[tuple[Pen, list[tuple[float, float]]]]:
    """Straight pieces that are lined in, each with its ends."""
    found = []
    for mark in marks:
        if isinstance(mark, Segment) and mark.pen in (Pen.OUTLINE, Pen.HIDDEN):
            found.append((mark.pen, sorted([(mark.x1, mark.y1), (mark.x2, mark.y2)])))
    return found


class AtAGlance(unittest.TestCase):
    """What the sheet shows while somebody types against the drawing that follows."""

    STEP = (
        "box 72 36 12 at 0 0 0; box 36 36 26 at 18 0 12; less cylinder 22 36 at 36 0 26 along back; "
        "cylinder 10 20 at 9 18 12"
    )

    def same(
        self, problem_id: str, before: str, after: str, projection: Projection = Projection.FIRST, **words: str
    ) -> None:
        problem, conventions = catalogue.problem(problem_id), Conventions(projection=projection)
        typed, then = (problem.read({"parts": text, **words}) for text in (before, after))
        assert problem.glance is not None
        shown = problem.glance(bind(problem.givens, typed, PLAIN), conventions).marks(bind(problem.givens, then, PLAIN))
        assert shown is not None
        drawn = draw(problem, then, problem.methods[0], conventions).marks
        strokes = lined_in(drawn)
        for pen, ((x1, y1), (x2, y2)) in lined_in(shown):
            near = [
                stroke
                for stroke in strokes
                if stroke[0] is pen and _beside((x1, y1), *stroke[1]) < 1e-4 and _beside((x2, y2), *stroke[1]) < 1e-4
            ]
            self.assertTrue(near, (problem_id, words, pen, x1, y1, x2, y2))
        self.assertTrue(any(isinstance(mark, Curve) for mark in shown))

    def test_views_in_both_angles(self) -> None:
        after = self.STEP.replace("36 36 26", "37.5 36 26").replace("72 36 12", "74 36 12")
        for projection in Projection:
            for views in ("front-top-side", "six"):
                self.same("solids/crates", self.STEP, after, projection, views=views)

    def test_an_eye_in_the_body_or_behind_some_of_it_sees_nothing(self) -> None:
        problem = catalogue.problem("pictorial/crates")
        words = {"parts": self.STEP, "projection": "two-point"}
        typed = problem.read(words)
        assert problem.glance is not None
        glance = problem.glance(bind(problem.givens, typed, PLAIN), Conventions())
        seen = {}
        for distance in ("0.5", "1", "3", "20", "209", "5000"):
            given = problem.read_numbers({**words, "turned": "80", "eye_distance": distance})
            shown = glance.marks(bind(problem.givens, given, PLAIN))
            seen[distance] = shown is not None
            ends = [(mark.x1, mark.y1, mark.x2, mark.y2) for mark in shown or () if isinstance(mark, Segment)]
            self.assertTrue(np.isfinite(ends).all())
            self.assertLess(float(np.abs(ends).max(initial=0.0)), 1e5)
        self.assertTrue(seen["5000"])

    def test_pictures(self) -> None:
        before = self.STEP.replace("10 20", "10 19")
        for projection in PROJECTIONS:
            for scale in ("natural", "isometric") if projection == "isometric" else ("natural",):
                words = {"projection": projection, "scale": scale, "hidden_edges": "dashed"}
                self.same("pictorial/crates", before, self.STEP, **words)


def _beside(spot: tuple[float, float], a: tuple[float, float], b: tuple[float, float]) -> float:
    """How far a spot is from the piece between two others."""
    way, to = np.subtract(b, a), np.subtract(spot, a)
    share = min(max(float(to @ way) / float(way @ way), 0.0), 1.0)
    return float(np.hypot(*(to - share * way)))


if __name__ == "__main__":
    unittest.main()
