"""Bodies made of parts: against closed forms, against a mesh boolean, and sight against stepping along rays."""

from __future__ import annotations

import math
import os
import random
import unittest
from collections.abc import Sequence
from unittest import mock

import numpy as np
from manifold3d import Manifold
from numpy.typing import NDArray

from tests.core import random_bodies
from tests.core.random_bodies import parts, text
from wisecompass.arithmetic import BALL
from wisecompass.catalogue import problem
from wisecompass.catalogue.solids.crate_plan import in_floats, plan_of
from wisecompass.drafting.answers import ball_of
from wisecompass.drafting.crating import FRONT, LEFT, TOP
from wisecompass.drafting.givens import bind
from wisecompass.geometry.edges import Body, body_of
from wisecompass.geometry.images import Central, Sight
from wisecompass.geometry.measure import Measured
from wisecompass.geometry.parts import Part, corners, surfaces
from wisecompass.geometry.pieces import pieces
from wisecompass.geometry.sight import Run, runs
from wisecompass.geometry.straight_edges import Walls

Array = NDArray[np.float64]

BODIES = int(os.environ.get("WISE_COMPASS_ROUNDS", "50")) // 2
"""Random bodies of each sort."""

SEGMENTS = 720
"""Sides of a round part's mesh."""

FLAT, ROUND = ("box", "wedge", "prism"), random_bodies.KINDS

ISOMETRIC = Sight(
    (math.sqrt(1 / 2), math.sqrt(1 / 2), 0.0),
    (-math.sqrt(1 / 6), math.sqrt(1 / 6), math.sqrt(2 / 3)),
    (math.sqrt(1 / 3), -math.sqrt(1 / 3), math.sqrt(1 / 3)),
)


def measured(written: str) -> tuple[float, float]:
    """Volume and surface of a body."""
    several = parts(written)
    found = Measured(body_of(several), several)
    return float(found.volume()), float(found.area())


def solid(part: Part, grown: float) -> Manifold:
    """The mesh of a part, grown by so much all round."""
    x, y, z = (float(c) for c in part.at)
    if part.kind == "box":
        return Manifold.cube([float(s) + 2 * grown for s in part.sizes]).translate([x - grown, y - grown, z - grown])
    if part.is_round:
        end = 0.0 if part.kind == "cone" else float(part.sizes[0]) / 2 + grown
        mesh = Manifold.cylinder(float(part.length) + 2 * grown, float(part.sizes[0]) / 2 + grown, end, SEGMENTS)
        mesh = mesh.translate([0.0, 0.0, -grown])
        turn = {0: [0.0, 90.0, 0.0], 1: [-90.0, 0.0, 0.0], 2: [0.0, 0.0, 0.0]}[part.axis]
        return mesh.rotate(turn).translate([x, y, z])
    spots = np.array(corners(part), dtype=float) if part.kind == "prism" else wedge_corners(part)
    middle = spots.mean(axis=0)
    return Manifold.hull_points(middle + (spots - middle) * (1 + grown / 10))


def wedge_corners(part: Part) -> Array:
    dx, dy, dz = (float(s) for s in part.sizes)
    foot = [(0, 0), (dx, 0), (0, dy), (dx, dy)]
    high = {"left": (0, 2), "right": (1, 3), "front": (0, 1), "back": (2, 3)}[part.way]
    spots = [(x, y, 0.0) for x, y in foot] + [(*foot[k], dz) for k in high]
    return np.array(spots) + np.array([float(c) for c in part.at])


def mesh(several: Sequence[Part], grown: int = -1, by: float = 1e-9) -> Manifold:
    found = Manifold()
    for n, part in enumerate(several):
        one = solid(part, by if n == grown else 0.0)
        found = found - one if part.taken else found + one
    return found


class Measures(unittest.TestCase):
    def test_single_parts_have_the_volumes_and_surfaces_of_their_formulas(self) -> None:
        r, h, s, n = 9.0, 25.0, 11.0, 7
        apothem = s / (2 * math.tan(math.pi / n))
        known = {
            "box 4 5 6 at 1 2 3": (120.0, 148.0),
            "wedge 6 5 8 at -3 0 2 rising back": (120.0, 6 * 8 + 5 * 8 + 6 * 5 + 6 * math.hypot(5, 8)),
            f"cylinder {2 * r} {h} at 1 2 3 along right": (math.pi * r * r * h, 2 * math.pi * r * (r + h)),
            f"cone {2 * r} {h} at 1 2 3 along back": (
                math.pi * r * r * h / 3,
                math.pi * r * (r + math.hypot(r, h)),
            ),
            f"prism {n} {s} {h} at 4 0 0 along up": (n * s * apothem / 2 * h, n * s * (apothem + h)),
        }
        for written, (volume, area) in known.items():
            with self.subTest(written):
                found = measured(written)
                self.assertAlmostEqual(found[0], volume, delta=1e-9 * volume)
                self.assertAlmostEqual(found[1], area, delta=1e-9 * area)

    def test_crossed_cylinders_share_what_archimedes_says(self) -> None:
        """Two equal cylinders that cross squarely share 16 r³ / 3; the hole of one in the other is as much less."""
        r, h = 6.0, 40.0
        both = f"cylinder {2 * r} {h} at 0 0 0 along up; cylinder {2 * r} {h} at 0 {-h / 2} {h / 2} along back"
        whole, shared = 2 * math.pi * r * r * h, 16 * r**3 / 3
        self.assertAlmostEqual(measured(both)[0], whole - shared, delta=1e-8 * whole)
        less = both.replace("; cyl", "; less cyl")
        self.assertAlmostEqual(measured(less)[0], whole / 2 - shared, delta=1e-8 * whole)

    def test_balls_hold_the_volume_of_a_bored_block(self) -> None:
        crates = problem("solids/crates")
        typed = crates.read({"parts": "box 30 20 20 at 0 0 0; less cylinder 10 20 at 15 0 10 along back"})
        exact = bind(crates.givens, typed, BALL).parts
        found = ball_of(Measured(body_of(in_floats(exact)), exact).volume())
        volume = 30 * 20 * 20 - math.pi * 25 * 20
        self.assertLess(found.radius, 1e-20)
        self.assertAlmostEqual(float(found.middle), volume, delta=1e-9)

    def test_flat_bodies_agree_with_a_mesh_boolean(self) -> None:
        self.compare(FLAT, 1e-6)

    def test_round_bodies_agree_with_a_mesh_boolean(self) -> None:
        self.compare(ROUND, 4e-4)

    def compare(self, kinds: Sequence[str], share: float) -> None:
        rng = random.Random(f"bodies of {kinds}")
        apart = 0
        for _ in range(BODIES):
            written = text(rng, kinds, 6)
            several = parts(written)
            volume, area = measured(written)
            meshes = [mesh(several), mesh(several, rng.randrange(len(several)))]
            if abs(meshes[0].volume() - meshes[1].volume()) > 1e-3 or any(m.status().value for m in meshes):
                continue  # the mesh does not know itself
            with self.subTest(written):
                apart += 1
                self.assertAlmostEqual(volume, meshes[0].volume(), delta=share * max(1000.0, volume))
                self.assertAlmostEqual(area, meshes[0].surface_area(), delta=10 * share * max(1000.0, area))
        self.assertGreater(apart, 0.8 * BODIES)

    def test_bodies_reach_as_far_as_their_meshes(self) -> None:
        """Also to the apex of a cone, where no edge ends."""
        rng = random.Random("reaches")
        known = ["box 60 44 10 at 0 0 0; cone 40 52 at 30 22 10 along up", "cone 9 20 at 0 0 0 along right"]
        for written in [*known, *(text(rng, ROUND) for _ in range(BODIES))]:
            several = parts(written)
            box = mesh(several).bounding_box()
            for axis, ends in enumerate(plan_of(several).reach):
                for end, there in zip(ends, (box[axis], box[axis + 3]), strict=True):
                    self.assertAlmostEqual(end, there, delta=2e-3, msg=written)

    def test_what_is_told_at_once_is_what_is_told_one_by_one(self) -> None:
        """Edges among flat parts and sight past them: in arrays, and each by itself."""
        rng = random.Random("at once")
        central = Central((1.0, 0.0, 0.0), (0.0, 0.0, 1.0), (0.0, -1.0, 0.0), (10.3, -80.7, 50.1), 60.0)
        for k in range(BODIES):
            written = text(rng, ROUND if k % 4 == 0 else FLAT, 7)
            told = []
            for flat in (Walls.flat, property(lambda walls: np.zeros(len(walls.model.walls), dtype=bool))):
                with mock.patch.object(Walls, "flat", flat):
                    body = body_of(parts(written))
                    edges = [(edge.ends, edge.surfaces, edge.sides, edge.smooth) for edge in body.edges]
                    seen = [
                        [(*np.round(run.places(2), 6).ravel().tolist(), run.seen) for run in runs(body, sight)]
                        for sight in (FRONT.sight, ISOMETRIC, central)
                    ]
                    told.append((edges, seen))
            self.assertEqual(told[0], told[1], written)


class Pieces(unittest.TestCase):
    def test_bodies_fall_into_as_many_pieces_as_their_meshes(self) -> None:
        rng, several_pieces = random.Random("pieces"), 0
        for k in range(BODIES):
            written = text(rng, ROUND if k % 4 == 1 else FLAT, 6)
            if k % 3 == 0:  # cut right through
                written += f"; less box 200 200 {rng.choice((1, 2))} at -100 -100 {rng.randint(2, 12)}.37"
            several = parts(written)
            meshes = [mesh(several), *(mesh(several, n, by) for n in range(len(several)) for by in (1e-6, -1e-6))]
            counts = {len([m for m in each.decompose() if m.volume() > 1e-6]) for each in meshes}
            if len(counts) > 1:
                continue  # pieces that touch in an edge or corner
            body = body_of(several)
            if body.edges:
                with self.subTest(written):
                    several_pieces += counts != {1}
                    self.assertEqual({pieces(body)}, counts)
        self.assertGreater(several_pieces, BODIES // 8)

    def test_what_hangs_together_unseen_and_what_only_seems_to(self) -> None:
        for written, count in (
            ("box 40 40 10 at 0 0 0; less cylinder 12 10 at 20 20 0 along up", 1),
            ("box 40 10 10 at 0 0 0; less box 5 10 10 at 20 0 0", 2),
            ("box 40 40 40 at 0 0 0; less box 10 10 10 at 15 15 15", 1),
            ("box 40 40 40 at 0 0 0; less box 30 30 30 at 5 5 5; box 10 10 10 at 15 15 15", 2),
            ("cylinder 40 60 at 0 0 0 along up; less cylinder 30 60 at 0 0 0 along up", 1),
        ):
            with self.subTest(written):
                self.assertEqual(pieces(body_of(parts(written))), count)


class Edges(unittest.TestCase):
    def test_flush_faces_have_no_line_between_them(self) -> None:
        body = body_of(parts("box 20 10 10 at 0 0 0; box 20 10 10 at 20 0 0"))
        self.assertEqual((len(body.edges), len(body.corners)), (12, 8))

    def test_a_rounded_end_goes_on_smoothly(self) -> None:
        body = body_of(parts("box 20 10 6 at 0 0 0; cylinder 10 6 at 20 5 0 along up"))
        lines = [edge for edge in body.edges if edge.smooth]
        self.assertEqual(len(lines), 2)
        self.assertTrue(all(edge.curve.is_straight for edge in lines))

    def test_every_edge_of_a_flat_body_has_two_faces_and_its_corners_three_edges(self) -> None:
        rng = random.Random("edges and faces")
        for _ in range(BODIES):
            written = text(rng, FLAT, 5)
            body = body_of(parts(written))
            met = [end for edge in body.edges for end in edge.ends]
            doubled = {end for edge in body.edges for end in edge.ends if len(edge.sides) == 4}  # it touches itself there
            with self.subTest(written):
                self.assertTrue(all(len(edge.sides) in (2, 4) for edge in body.edges))
                self.assertTrue(all(met.count(k) >= 3 for k in set(met) - doubled))

    def test_a_curve_goes_on_where_a_plane_passes_that_is_no_face_there(self) -> None:
        """No corner has but two edges that are one curve with the same faces beside it; of these bodies some had one."""
        rng = random.Random("goes on")
        written = [random_bodies.text(random.Random(seed), most=6) for seed in (70095, 70208, 70224)]
        written += [random_bodies.text(rng, most=6) for _ in range(2 * BODIES)]
        for each in written:
            body = body_of(parts(each))
            for corner in range(len(body.corners)):
                met = [edge for edge in body.edges if corner in edge.ends]
                if len(met) == 2 and met[0].curve is met[1].curve and not met[0].curve.is_straight:
                    beside = [(set(edge.sides), edge.smooth) for edge in met]
                    with self.subTest(written=each, corner=corner):
                        self.assertNotEqual(*beside)

    def test_every_face_is_walked_round(self) -> None:
        """All sides of a face put end to end come back to where they began."""
        rng = random.Random("closed faces")
        for _ in range(BODIES):
            written = text(rng, ROUND, 5)
            body = body_of(parts(written))
            total: dict[int, Array] = {}
            for edge in body.edges:
                first, last = edge.curve.at(np.array([edge.low, edge.high]))
                for side in edge.sides:
                    total[side.surface] = total.get(side.surface, np.zeros(3)) + (last - first) * (1 if side.left else -1)
            with self.subTest(written):
                self.assertTrue(all(float(np.abs(gap).max()) < 1e-5 for gap in total.values()))


def stood_off(rng: random.Random, body: Body) -> Central:
    """A view from a station before the body and above it, turned anyhow."""
    low, high, size = body.model.lows.min(axis=0), body.model.highs.max(axis=0), body.model.size
    turn = rng.uniform(-1.2, 1.2)
    eye = np.array([math.sin(turn), -math.cos(turn), 0.0])
    station = (low + high) / 2 + eye * size * rng.uniform(1.4, 4) + np.array([0.0, 0.0, size * rng.uniform(0.2, 1.5)])
    right = (math.cos(turn), math.sin(turn), 0.0)
    x, y, z = station.tolist()
    return Central(right, (0.0, 0.0, 1.0), tuple(eye.tolist()), (x, y, z), size)


class Seen(unittest.TestCase):
    """A piece is seen if, stepping from just beside it towards the eye, one side meets nothing of the body."""

    def member(self, several: Sequence[Part], places: Array) -> NDArray[np.bool_]:
        found = np.zeros(len(places), dtype=bool)
        for part in several:
            rows = np.array([s.coefficients() for s in surfaces(part)], dtype=float)
            inside = ((places * places) @ rows[:, :3].T + places @ rows[:, 3:6].T + rows[:, 6] < 0).all(axis=1)
            found = np.where(inside, not part.taken, found)
        return found

    def stepped(self, several: Sequence[Part], run: Run, sight: Sight, size: float, aside: float) -> bool | None:
        """Whether a side is free; None where it depends on how near one looks."""
        middle = (run.low + run.high) / 2
        place = run.edge.curve.at(np.array(middle))
        way = sight.drift(place, run.edge.curve.tangent(middle))
        if float(np.hypot(*way)) < 1e-6:
            return None
        across = np.array([-way[1], way[0]]) / np.hypot(*way)
        beside = across[0] * np.array(sight.right) + across[1] * np.array(sight.up)
        free = []
        for near in (aside, aside / 8):
            here = False
            for start in (place + near * beside, place - near * beside):
                eye, reach = sight.towards(start.tolist())
                steps = np.geomspace(near * 60, min(reach, size * 2), 2500)[:, None] * np.array(eye)
                here = here or not self.member(several, start + steps).any()
            free.append(here)
        return free[0] if free[0] == free[1] else None

    def compare(self, kinds: Sequence[str], agree: float) -> None:
        rng = random.Random(f"seen {kinds}")
        told, same = 0, 0
        for _ in range(max(8, BODIES // 4)):
            several = parts(text(rng, kinds, 5))
            body = body_of(several)
            for sight in (FRONT.sight, TOP.sight, LEFT.sight, ISOMETRIC, stood_off(rng, body)):
                for run in runs(body, sight):
                    seen = self.stepped(several, run, sight, body.model.size, body.model.size * 2e-4)
                    if seen is not None:
                        told += 1
                        same += seen == run.seen
        self.assertGreater(told, 300)
        self.assertGreaterEqual(same / told, agree)

    def test_flat_bodies(self) -> None:
        self.compare(FLAT, 0.997)

    def test_round_bodies(self) -> None:
        self.compare(ROUND, 0.99)

    def test_what_lies_under_a_seen_line_is_left_out(self) -> None:
        body = body_of(parts("box 30 20 10 at 0 0 0; box 10 20 10 at 10 0 10"))
        self.assertFalse([run for run in runs(body, FRONT.sight) if not run.seen])
        self.assertEqual(len(runs(body_of(parts("box 30 20 10 at 0 0 0")), TOP.sight)), 4)


if __name__ == "__main__":
    unittest.main()
