"""Single solids: sizes, positions and sight against independent derivations by matrices and convex hulls."""

from __future__ import annotations

import itertools
import math
import random
import unittest
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.spatial import ConvexHull

from tests.core.random_givens import feasible
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.catalogue.solids.edges import Sight, edges_seen
from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.errors import Infeasible, WiseCompassError
from wisecompass.drafting.givens import bind, plain_values
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.recorder import Detail
from wisecompass.drafting.solve import construct, draw
from wisecompass.folio.dimensions import CLOSEST, HATCHED, expanded
from wisecompass.folio.page import compose
from wisecompass.folio.paper import Paper
from wisecompass.folio.title_block import Title

Array = NDArray[np.float64]

VIEWS = "solids/views"
EYES = {Sight.FRONT: (0.0, 1.0, 0.0), Sight.TOP: (0.0, 0.0, 1.0), Sight.LEFT: (-1.0, 0.0, 0.0)}
"""From where each view is seen, as (x, front, above)."""


def ring(count: int, radius: float, first: float, height: float) -> Array:
    ways = np.radians(first + 360 * np.arange(count) / count)
    return np.stack([radius * np.cos(ways), -radius * np.sin(ways), np.full(count, height)], axis=1)


class Model:
    """A solid as it lies, by its own derivation: the tilt is found by letting it down on what it rests on."""

    def __init__(self, values: dict[str, Any], rim: int = 720) -> None:
        kind, sides = values["kind"], int(values["sides"])
        round_one = kind in ("cylinder", "cone", "cone-frustum")
        count = rim if round_one else sides
        share = 2 if round_one else 2 * math.sin(math.pi / sides)
        top = {"prism": values["base"], "cylinder": values["base"], "pyramid": 0.0, "cone": 0.0}.get(kind, values["top"])
        rests = values["rests_on"]
        first = 0.0 if round_one or rests == "corner" else (values["turned"] - 90 if rests == "base" else 0.0) - 180 / sides
        height = values["height"]
        base = ring(count, values["base"] / share, first, 0.0)
        end = ring(count, top / share, first, height) if top else np.array([[0.0, 0.0, height]])
        points = np.concatenate([base, end, [[0, 0, 0], [0, 0, height]]])
        self.middle, self.top, self.corners, self.height = len(points) - 2, len(points) - 1, count, height
        if rests != "base":
            if rests in ("edge", "corner"):
                turn = math.radians(90 - values["axis_to_hp"])
            else:  # down on the side over the first edge: rolled until the other end's first edge is level with it
                low, high = (
                    0.5 * (ring_[0] + ring_[1 if not round_one else 0])
                    for ring_ in (base, end if top else np.vstack([end, end]))
                )
                turn = math.pi - math.atan2(high[2] - low[2], low[0] - high[0])
            c, s = math.cos(turn), math.sin(turn)
            points = points @ np.array([[c, 0, s], [0, 1, 0], [-s, 0, c]]).T
            points[:, 2] -= points[:, 2].min()
            lying = math.hypot(*(points[self.top] - points[self.middle])[:2])
            sine = math.sin(math.radians(values["axis_to_vp"]))
            swing = (
                math.radians(values["axis_to_vp"])
                if values["counted"] == "apparent"
                else math.asin(min(1.0, sine * height / lying))
            )
            c, s = math.cos(swing), math.sin(swing)
            points = (points - [points[self.middle][0], 0, 0]) @ np.array([[c, -s, 0], [s, c, 0], [0, 0, 1]]).T
        self.points = points
        self.solid = points[:-2]


def random_values(rng: random.Random) -> tuple[Any, dict[str, Any]]:
    problem = catalogue.problem(VIEWS)
    typed = feasible(problem, problem.methods[0], rng)
    return typed, plain_values(typed)


class Truths(unittest.TestCase):
    def test_sizes_and_places_against_matrices_and_hulls(self) -> None:
        rng, kinds = random.Random(8), set()
        problem = catalogue.problem(VIEWS)
        for _ in range(70):
            typed, values = random_values(rng)
            model = Model(values)
            found = problem.find_truth(typed, PLAIN).findings
            hull, near = ConvexHull(model.solid), 4e-5 if values["kind"][0] == "c" else 1e-7
            kinds.add((values["kind"], values["rests_on"]))
            spans = np.ptp(model.solid, axis=0)
            axis = model.points[model.top] - model.points[model.middle]
            expected = {
                "volume": hull.volume,
                "surface_area": hull.area,
                "width": spans[0],
                "depth": spans[1],
                "highest": spans[2],
                "axis_plan_length": math.hypot(axis[0], axis[1]),
                "axis_elevation_length": math.hypot(axis[0], axis[2]),
                "axis_inclination_vp": math.degrees(math.atan2(axis[1], math.hypot(axis[0], axis[2]))),
            }
            for name, value in expected.items():
                with self.subTest(name=name, values=values):
                    scale = max(abs(value), float(np.abs(model.solid).max()) ** (3 if name == "volume" else 1))
                    self.assertLess(abs(float(found[name]) - value), near * scale)  # type: ignore[arg-type]
        self.assertGreater(len(kinds), 15)

    def test_corners_lie_where_the_solid_is_let_down(self) -> None:
        rng = random.Random(9)
        problem = catalogue.problem(VIEWS)
        for _ in range(60):
            typed, values = random_values(rng)
            model = Model(values, 8)
            points = problem.find_truth(typed, PLAIN).points
            shift = np.array([0.0, float(points["K"].front), 0.0]) - [0, model.points[model.middle][1], 0]  # type: ignore[union-attr]
            letters = "ABCDEFGHIJ"[: model.corners]
            others = "MNPQRSTUVW"[: model.corners] if "M" in points else "O"
            for letter, place in zip(letters + others, model.solid, strict=True):
                p = points[letter]
                there = np.array([float(p.x), float(p.front), float(p.above)])  # type: ignore[union-attr]
                self.assertLess(
                    np.abs(there - place - shift).max(), 1e-7 * (1 + np.abs(model.solid).max()), (letter, values)
                )


class Seen(unittest.TestCase):
    def test_an_edge_is_seen_where_nothing_of_the_solid_lies_before_its_middle(self) -> None:
        """A step towards the eye from the middle of an edge leads out of the hull, or into it."""
        rng, decided = random.Random(10), {True: 0, False: 0}
        problem = catalogue.problem(VIEWS)
        while sum(decided.values()) < 1000:
            typed, values = random_values(rng)
            if values["kind"][0] == "c":
                continue
            model = Model(values)
            n, g = model.corners, bind(problem.givens, typed, PLAIN)
            names = dict(
                zip([*"ABCDEFGHIJ"[:n], *("O" if len(model.solid) == n + 1 else "MNPQRSTUVW"[:n])], model.solid, strict=True)
            )
            hull = ConvexHull(model.solid)
            size = float(np.ptp(model.solid, axis=0).max())
            everything = edges_seen(g)[1 if values["rests_on"] == "base" else 3]
            for sight, eye in EYES.items():
                for (a, b), seen in everything[sight].items():
                    ahead = (names[a] + names[b]) / 2 + 1e-4 * size * np.array(eye)
                    depth = float((hull.equations[:, :3] @ ahead + hull.equations[:, 3]).max()) / size
                    if abs(depth) < 1e-7:
                        continue  # along a face
                    self.assertEqual(seen, depth > 0, (values, sight, a, b))
                    decided[seen] += 1
        self.assertGreater(min(decided.values()), 200)

    def test_contour_generators_lie_on_the_hull_of_the_view(self) -> None:
        """What is lined in straight of a round solid runs along the convex outline of its projection."""
        rng, lines = random.Random(11), 0
        problem = catalogue.problem(VIEWS)
        while lines < 40:
            typed, values = random_values(rng)
            if values["kind"][0] != "c":
                continue
            board = construct(problem, typed, problem.methods[0], PLAIN, detail=Detail.WHOLE)
            model = Model(values, 2880)
            size = float(np.abs(model.solid).max())
            x0 = float(board.plane_point("k").x)
            front = float(board.solid_point("K").front) - model.points[model.middle][1]
            hull = ConvexHull(model.solid[:, [0, 1]])
            for first, second in (("i1", "j1"), ("i2", "j2")):
                if first not in board.points:
                    continue
                ends = [board.plane_point(name) for name in (first, second if second in board.points else "o")]
                for share in (0.1, 0.5, 0.9):
                    x, y = (float(getattr(ends[0], c)) * (1 - share) + float(getattr(ends[1], c)) * share for c in "xy")
                    away = float((hull.equations[:, :2] @ np.array([x - x0, -y - front]) + hull.equations[:, 2]).max())
                    self.assertLess(abs(away), 2e-5 * size, (values, first))
                lines += 1


class Drawn(unittest.TestCase):
    def test_every_kind_is_lined_in_with_seen_and_hidden_lines(self) -> None:
        problem = catalogue.problem(VIEWS)
        for kind in ("prism", "pyramid", "frustum", "cylinder", "cone", "cone-frustum"):
            typed = problem.read({"kind": kind, "base": "46", "top": "24", "axis_to_hp": "40"})
            for method in problem.methods:
                drawing = draw(problem, typed, method)
                pens = [mark.pen for mark in drawing.marks if not isinstance(mark, marks.Dot)]
                self.assertGreater(pens.count(Pen.OUTLINE), 5, (kind, method.name))
                self.assertGreater(pens.count(Pen.HIDDEN), 0, (kind, method.name))

    def test_its_sentence_has_only_the_numbers_that_count(self) -> None:
        problem = catalogue.problem(VIEWS)
        said = problem.spoken(problem.read({"kind": "cone", "base": "50", "rests_on": "generator"}))
        self.assertIn("A cone 50 mm across", said)
        for word in ("sides", "turned", "to HP"):
            self.assertNotIn(word, said)

    def test_what_cannot_lie_so_is_refused_with_what_works(self) -> None:
        problem = catalogue.problem(VIEWS)
        for raw, words in (
            ({"kind": "cone", "rests_on": "face"}, "cannot rest on its face"),
            ({"rests_on": "generator"}, "cannot rest on its generator"),
            ({"axis_to_hp": "61", "axis_to_vp": "30"}, "may not pass 90°"),
            ({"axis_to_hp": "95"}, "90"),
            ({"kind": "frustum", "base": "20", "top": "60", "height": "20", "axis_to_hp": "20"}, "below HP"),
        ):
            with self.assertRaises(WiseCompassError) as refused:
                problem.read(raw)
            self.assertIn(words, str(refused.exception))
            offer = getattr(refused.exception, "offer", None)
            self.assertTrue(offer, raw)
            problem.read({**raw, **offer})


SECTION = "solids/section"


def cutting(values: dict[str, Any]) -> tuple[Array, Array]:
    """The direction out of what is left, and a place of the plane: x, front, above."""
    slope = math.radians(values["plane_angle"])
    if values["plane"] == "square to HP":
        normal = np.array([math.sin(slope), math.cos(slope), 0.0])
        return normal, normal * values["plane_front"]
    return np.array([-math.sin(slope), 0.0, math.cos(slope)]), np.array([0.0, 0.0, values["plane_height"]])


def cut_model(values: dict[str, Any], rim: int) -> tuple[Array, Array, Array]:
    """A standing solid's corners, those of what is left under the plane, and those of the section, by halving edges of the
    hull."""
    model = Model({**values, "rests_on": "base", "counted": "true", "axis_to_hp": 0.0, "axis_to_vp": 0.0}, rim)
    normal, start = cutting(values)
    over = (model.solid - start) @ normal
    n = model.corners
    base, end = np.arange(n), (np.arange(n, 2 * n) if len(model.solid) == 2 * n else np.full(n, n))
    edges = [*zip(base, end, strict=True), *zip(base, np.roll(base, -1), strict=True)]
    edges += list(zip(end, np.roll(end, -1), strict=True)) if end[0] != end[-1] else []
    cuts = [
        model.solid[a] + (model.solid[b] - model.solid[a]) * over[a] / (over[a] - over[b])
        for a, b in edges
        if over[a] * over[b] < 0
    ]
    section = np.array([*cuts, *model.solid[np.abs(over) < 1e-9]])
    return model.solid, np.concatenate([model.solid[over < 0], section]), section


class Sections(unittest.TestCase):
    def check(self, kinds: tuple[str, ...], near: float, rounds: int, rim: int, on_the_smaller: bool = False) -> set[str]:
        rng, problem, words = random.Random(21), catalogue.problem(SECTION), set()
        tried = 0
        while tried < rounds:
            typed = feasible(problem, problem.methods[0], rng)
            values = plain_values(typed)
            if values["kind"] not in kinds or (on_the_smaller and values["base"] >= values["top"]):
                continue
            tried += 1
            found = problem.find_truth(typed, PLAIN).findings
            whole, left, section = cut_model(values, rim)
            upright, normal = values["plane"] == "square to HP", cutting(values)[0]
            second = np.cross(
                normal, first := np.array([normal[1], -normal[0], 0.0]) if upright else np.array([0.0, 1.0, 0.0])
            )
            flat = ConvexHull(np.stack([section @ first, section @ second], axis=1))
            below = ConvexHull(left)
            kept, gone = ("behind", "before") if upright else ("below", "above")
            expected = {
                "section_area": flat.volume,
                f"volume_{kept}": below.volume,
                f"volume_{gone}": ConvexHull(whole).volume - below.volume,
                f"surface_{kept}": below.area - flat.volume,
                "section_perimeter": flat.area,
            }
            size = float(np.abs(whole).max())
            for name, value in expected.items():
                power = 3 if name.startswith("volume") else 1 if name.endswith("perimeter") else 2
                with self.subTest(name=name, values=values):
                    self.assertLess(abs(float(found[name]) - value), near * size**power)  # type: ignore[arg-type]
            words.add(str(found["section_kind"]))
            if rim < 100:
                corners = len(flat.vertices)
                said = {3: "triangle", 4: "quadrilateral", 5: "pentagon", 6: "hexagon", 7: "heptagon", 8: "octagon"}
                self.assertEqual(found["section_kind"], said.get(corners, found["section_kind"]))
        return words

    def test_what_a_plane_cuts_out_of_flat_solids(self) -> None:
        words = self.check(("prism", "pyramid", "frustum"), 1e-8, 40, 3)
        self.assertGreater(len(words), 4)

    def test_the_side_view_shows_the_corners_that_are_left(self) -> None:
        problem, rng = catalogue.problem(SECTION), random.Random(3)
        for _ in range(12):
            typed = feasible(problem, problem.methods[0], rng)
            values = plain_values(typed)
            board = construct(problem, typed, problem.methods[0], PLAIN)
            normal, start = cutting(values)
            room = float(board.solid_point("K").front)
            for letter in "ABCDEFGHIJMNPQRSTUVWO":
                if letter in board.points:
                    at = board.solid_point(letter)
                    over = (np.array([float(at.x), float(at.front) - room, float(at.above)]) - start) @ normal
                    self.assertEqual(f"{letter.lower()}″" in board.points, over < 1e-9, (letter, values))

    def test_what_a_plane_cuts_out_of_round_solids(self) -> None:
        words = self.check(("cylinder", "cone", "cone-frustum"), 2e-4, 20, 1440)
        self.assertLessEqual({"ellipse", "hyperbola"}, words)

    def test_what_planes_cut_out_of_a_frustum_on_its_smaller_end(self) -> None:
        words = self.check(("cone-frustum",), 2e-4, 30, 1440, on_the_smaller=True)
        self.assertLessEqual({"ellipse", "hyperbola", "hyperbola cut by the base"}, words)

    def test_a_frustum_is_cut_as_its_mirror_image_is(self) -> None:
        """Turned upside down before a plane that is turned with it, with what is above and below exchanged."""
        problem, rng = catalogue.problem(SECTION), random.Random(12)
        for _ in range(40):
            wide, height, angle = rng.uniform(30, 90), rng.uniform(20, 90), rng.choice((rng.uniform(1, 89), 89.0, 75.0))
            narrow, up = wide * rng.uniform(0.1, 0.9), height * rng.uniform(0.1, 0.9)
            raw = {"kind": "cone-frustum", "base": str(narrow), "top": str(wide), "height": str(height)}
            raw |= {"plane_angle": str(angle), "plane_height": str(up)}
            turned = {**raw, "base": str(wide), "top": str(narrow), "plane_height": str(height - up)}
            one, other = (problem.find_truth(problem.read(each), PLAIN).findings for each in (raw, turned))
            swap = {"volume_below": "volume_above", "volume_above": "volume_below"}
            whole = math.pi * (wide**2 + narrow**2) / 4 + math.pi * (wide + narrow) / 2 * math.hypot(
                height, (wide - narrow) / 2
            )
            for name, value in one.items():
                if isinstance(value, float):
                    opposite: Any = other[swap.get(name, name)]
                    expected = whole - opposite if name == "surface_below" else opposite
                    self.assertAlmostEqual(value, expected, delta=1e-7 * (1 + abs(expected)), msg=f"{name} {raw}")
            drawn = construct(problem, problem.read(raw), problem.methods[0], PLAIN)
            self.assertEqual(drawn.findings["section_kind"], one["section_kind"])

    def test_a_cone_frustum_may_stand_on_its_smaller_end(self) -> None:
        """Its outline in the side view narrows downwards, the base is dashed from above; a cylinder is refused."""
        problem = catalogue.problem(SECTION)
        raw = {"kind": "cone-frustum", "base": "24", "top": "48", "plane_height": "40", "plane_angle": "30"}
        board = construct(problem, problem.read(raw), problem.methods[0], PLAIN)
        rims = [m for m in board.finished_marks() if isinstance(m, marks.Arc) and m.name.startswith("rim about")]
        self.assertEqual([mark.pen for mark in rims], [Pen.HIDDEN])
        for foot, head in (("C", "7"), ("G", "3")):  # the same side of the axis, and farther from it above
            low, high = (float(board.points[f"{name.lower()}″"].x) for name in (foot, head))
            middle = float(board.points["a″"].x)
            self.assertGreater((low - middle) * (high - middle), 0.0)
            self.assertGreater(abs(high - middle), abs(low - middle))
        with self.assertRaises(Infeasible) as refused:
            problem.read({**raw, "top": "24"})
        problem.read({**raw, "top": "24", **refused.exception.offer})

    def test_a_plane_that_runs_with_a_generator_cuts_a_parabola(self) -> None:
        problem = catalogue.problem(SECTION)
        for height in ("40", "63.5"):
            raw = {"kind": "cone", "base": f"2*{height}", "height": height, "plane_angle": "45", "plane_height": "20"}
            for angle, word in (("45", "parabola"), ("44.999", "ellipse cut by the base"), ("45.001", "hyperbola")):
                found = problem.find_truth(problem.read({**raw, "plane_angle": angle}), PLAIN).findings
                self.assertEqual(found["section_kind"], word)
        level = problem.find_truth(problem.read({"kind": "cone", "base": "60", "plane_angle": "0"}), PLAIN).findings
        self.assertEqual(level["section_kind"], "circle")

    def test_an_upright_plane_cuts_a_hyperbola_whose_points_all_have_one_sum(self) -> None:
        """Of both foci every point of a hyperbola has one difference of distances; the foci told by what is found."""
        problem, rng = catalogue.problem(SECTION), random.Random(9)
        for _ in range(30):
            base, height, share = rng.uniform(40, 120), rng.uniform(30, 150), rng.choice((-1, 1)) * rng.uniform(0.1, 0.9)
            raw = {"kind": "cone", "base": f"{base:.3f}", "height": f"{height:.3f}", "plane": "square to HP"}
            raw |= {"plane_angle": f"{rng.uniform(0, 90):.2f}", "plane_front": f"{share * base / 2:.3f}"}
            values = {name: float(value) for name, value in raw.items() if name not in ("kind", "plane")}
            found = problem.find_truth(problem.read(raw), PLAIN).findings
            radius, away, high = values["base"] / 2, abs(values["plane_front"]), values["height"]
            vertex = high * (1 - away / radius)
            near, far = vertex - float(found["focus_distance"]), 2 * high - vertex + float(found["focus_distance"])  # type: ignore[arg-type]
            for level in np.linspace(0, vertex, 7):
                half = math.sqrt(max((radius * (1 - level / high)) ** 2 - away**2, 0.0))
                difference = math.hypot(half, far - level) - math.hypot(half, near - level)
                self.assertAlmostEqual(difference, 2 * (high - vertex), delta=1e-8 * base)
            self.assertAlmostEqual(float(found["eccentricity"]), (far - near) / (2 * (high - vertex)), delta=1e-9)  # type: ignore[arg-type]

    def test_eccentricity_and_focus_by_the_spheres_that_touch_cone_and_plane(self) -> None:
        """The plane touches the sphere in the cone at the curve's focus (Dandelin); found by the sphere's middle."""
        problem, rng = catalogue.problem(SECTION), random.Random(5)
        for _ in range(30):
            base, height = rng.uniform(40, 120), rng.uniform(30, 150)
            angle, up = rng.uniform(5, 85), rng.uniform(0.2, 0.6)
            raw = {"kind": "cone", "base": f"{base:.3f}", "height": f"{height:.3f}"}
            raw |= {"plane_angle": f"{angle:.3f}", "plane_height": f"{up * height:.3f}"}
            values = {name: float(value) for name, value in raw.items() if name != "kind"}
            found = problem.find_truth(problem.read(raw), PLAIN).findings
            half, slope = math.atan2(values["base"] / 2, values["height"]), math.radians(values["plane_angle"])
            # the sphere about (0, z) over the plane: its radius is (h - z) sin(half) and (z - c) cos(slope)
            z = (values["height"] * math.sin(half) + values["plane_height"] * math.cos(slope)) / (
                math.sin(half) + math.cos(slope)
            )
            foot = (z - values["plane_height"]) * math.sin(slope)  # along the plane, up from the axis
            radius = values["base"] / 2 * (1 - values["plane_height"] / values["height"])
            vertex = radius / (math.cos(slope) + math.sin(slope) * math.tan(half))
            self.assertAlmostEqual(float(found["focus_distance"]), vertex - foot, delta=1e-9 * base)  # type: ignore[arg-type]
            self.assertAlmostEqual(float(found["eccentricity"]), math.sin(slope) / math.cos(half), delta=1e-9)  # type: ignore[arg-type]

    def test_sections_are_hatched_and_what_is_taken_away_is_thin(self) -> None:
        problem = catalogue.problem(SECTION)
        for kind in ("prism", "pyramid", "frustum", "cylinder", "cone", "cone-frustum"):
            typed = problem.read({"kind": kind, "base": "46", "top": "24", "plane_angle": "38"})
            drawing = draw(problem, typed, problem.methods[0])
            self.assertEqual(sum(isinstance(mark, marks.Hatch) for mark in drawing.marks), 2, kind)
            page = compose(drawing, Paper("A4", True), Title(), Conventions())
            self.assertFalse([mark for mark in page.marks if isinstance(mark, marks.Hatch)])

    def test_hatching_lies_within_its_outline_and_is_finer_in_a_small_one(self) -> None:
        for size, apart in ((60.0, HATCHED), (12.0, 12 * math.sqrt(2) / 8), (4.0, CLOSEST)):
            square = marks.Hatch(corners=((0.0, 0.0), (size, 0.0), (size, size), (0.0, size)), pen=Pen.DIMENSION)
            lines = [mark for mark in expanded(square) if isinstance(mark, marks.Segment)]
            for line in lines:
                for v in (line.x1, line.y1, line.x2, line.y2):
                    self.assertTrue(-1e-9 <= v <= size + 1e-9)
                self.assertAlmostEqual(line.x2 - line.x1, line.y2 - line.y1)
            offsets = sorted((line.y1 - line.x1) / math.sqrt(2) for line in lines)
            for one, after in itertools.pairwise(offsets):
                self.assertAlmostEqual(after - one, apart)

    def test_a_plane_that_misses_is_refused(self) -> None:
        problem = catalogue.problem(SECTION)
        with self.assertRaises(WiseCompassError) as refused:
            problem.read({"plane_height": "80"})
        self.assertIn("misses", str(refused.exception))


class PipesThatMeet(unittest.TestCase):
    def test_every_point_lies_on_both_pipes_and_the_extremes_are_those_of_the_whole_curve(self) -> None:
        rng, problem, cases = random.Random(31), catalogue.problem("solids/pipes-meeting"), set()
        for _ in range(60):
            typed = feasible(problem, problem.methods[0], rng)
            values = plain_values(typed)
            big, small, away = (float(values[n]) for n in ("main_diameter", "branch_diameter", "offset"))  # type: ignore[arg-type]
            big, small = big / 2, small / 2
            turn = math.radians(float(values["angle"]))  # type: ignore[arg-type]
            axis = np.array([math.sin(turn), 0.0, math.cos(turn)])
            truth = problem.find_truth(typed, PLAIN)
            for name, p in truth.points.items():
                place = np.array([float(p.x), float(p.front) - 1.5 * big, float(p.above)])  # type: ignore[union-attr]
                self.assertAlmostEqual(math.hypot(place[0], place[1]), big, delta=1e-9 * big)
                beside = place - [0.0, away, 0.0]
                self.assertAlmostEqual(float(np.linalg.norm(beside - axis * (beside @ axis))), small, delta=1e-9 * big)
                self.assertTrue(place[0] * (1 if name.startswith("P") else -1) >= -1e-9 * big)
            around = np.linspace(0.0, math.tau, 100_001)  # round the main pipe, not the branch
            x, y = big * np.sin(around), big * np.cos(around)
            wide = small**2 - (y - away) ** 2
            met = wide >= 0 if values["reach"] == "through" else (wide >= 0) & (x >= 0)
            z = np.concatenate([(x[met] * math.cos(turn) + way * np.sqrt(wide[met])) / math.sin(turn) for way in (1, -1)])
            for name, value in (("highest", z.max()), ("lowest", z.min())):
                self.assertAlmostEqual(float(truth.findings[name]), float(value), delta=8e-6 * big / math.sin(turn))  # type: ignore[arg-type]
            self.assertAlmostEqual(float(truth.findings["hole_width"]), float(np.ptp(y[met])), delta=1e-4 * big)  # type: ignore[arg-type]
            ring = np.flatnonzero(np.diff(np.concatenate([met[-1:], met]).astype(int)) == 1)
            curves = max(1, len(ring)) if values["reach"] == "through" else 1
            cases.add((values["reach"], truth.findings["curves"]))
            if abs(away + small - big) > 1e-3 * big:
                self.assertEqual(truth.findings["curves"], curves, values)
        self.assertGreaterEqual(len(cases), 3)

    def test_points_found_by_spheres_lie_on_both_pipes(self) -> None:
        problem, rng, points = catalogue.problem("solids/pipes-meeting"), random.Random(4), 0
        method = problem.method("cutting spheres")
        for _ in range(25):
            typed = feasible(problem, method, rng)
            values = plain_values(typed)
            big, small = float(values["main_diameter"]) / 2, float(values["branch_diameter"]) / 2  # type: ignore[arg-type]
            turn = math.radians(float(values["angle"]))  # type: ignore[arg-type]
            board = construct(problem, typed, method, PLAIN)
            crossing, middle = board.plane_point("o′"), board.plane_point("m")
            for letter in ("r", "s"):
                for k in range(1, 12):
                    if f"{letter}{k}′" in board.points:
                        up, low = board.plane_point(f"{letter}{k}′"), board.plane_point(f"{letter}{k}")
                        x, y, z = float(up.x), float(middle.y) - float(low.y), float(up.y) - float(crossing.y)
                        self.assertAlmostEqual(math.hypot(x, y), big, delta=1e-6 * big)
                        across = x * math.cos(turn) - z * math.sin(turn)
                        self.assertAlmostEqual(math.hypot(across, y), small, delta=1e-6 * big)
                        points += 1
        self.assertGreater(points, 40)

    def test_equal_pipes_whose_axes_meet_cross_in_plane_curves(self) -> None:
        problem = catalogue.problem("solids/pipes-meeting")
        raw = {"main_diameter": "50", "branch_diameter": "50", "offset": "0", "reach": "through", "angle": "70"}
        truth = problem.find_truth(problem.read(raw), PLAIN)
        self.assertIs(truth.findings["plane_curve"], True)
        for names in (("P1", "P3", "P5", "Q9"), ("P9", "P11", "Q1", "Q5")):
            a, b, c, d = (np.array([float(getattr(truth.points[n], k)) for k in ("x", "front", "above")]) for n in names)
            self.assertAlmostEqual(float(np.linalg.det(np.stack([b - a, c - a, d - a]))), 0.0, delta=1e-8)
        raw["branch_diameter"] = "49.9"
        self.assertIs(problem.find_truth(problem.read(raw), PLAIN).findings["plane_curve"], False)

    def test_pipes_that_miss_are_refused(self) -> None:
        problem = catalogue.problem("solids/pipes-meeting")
        for raw, words in (
            ({"offset": "48", "reach": "through"}, "miss each other"),
            ({"offset": "20"}, "let it run through"),
            ({"branch_diameter": "60"}, "wider than the main pipe"),
        ):
            with self.assertRaises(WiseCompassError) as refused:
                problem.read(raw)
            self.assertIn(words, str(refused.exception))


class ConesAndPipes(unittest.TestCase):
    def test_every_point_lies_on_both_and_the_extremes_are_those_of_the_whole_curve(self) -> None:
        rng, problem, counts = random.Random(41), catalogue.problem("solids/cone-and-pipe"), set()
        for _ in range(60):
            typed = feasible(problem, problem.methods[0], rng)
            values = {name: float(value) for name, value in plain_values(typed).items()}  # type: ignore[arg-type]
            wide, tall, small = values["base_diameter"] / 2, values["height"], values["pipe_diameter"] / 2
            up, away = values["pipe_height"], values["offset"]
            truth = problem.find_truth(typed, PLAIN)
            for p in truth.points.values():
                x, y, z = float(p.x), float(p.front) - (1.5 * wide + away), float(p.above)  # type: ignore[union-attr]
                self.assertAlmostEqual(math.hypot(x, y), wide * (1 - z / tall), delta=1e-9 * (wide + tall))
                self.assertAlmostEqual(math.hypot(y - away, z - up), small, delta=1e-9 * (wide + tall))
            z = np.linspace(up - small, up + small, 200_001)  # level by level, not round the pipe
            reach = wide * (1 - z / tall)
            half = np.sqrt(np.maximum(0.0, small**2 - (z - up) ** 2))
            met = (np.abs(away + half) <= reach) | (np.abs(away - half) <= reach)
            found = truth.findings
            self.assertAlmostEqual(float(found["highest"]), float(z[met].max()), delta=1e-4 * small + 1e-9)  # type: ignore[arg-type]
            self.assertAlmostEqual(float(found["lowest"]), float(z[met].min()), delta=1e-4 * small + 1e-9)  # type: ignore[arg-type]
            nearest = float(reach[met].min())
            self.assertAlmostEqual(float(found["nearest_axis"]), nearest, delta=1e-4 * (small + wide))  # type: ignore[arg-type]
            wholly = bool((np.abs(away + half) <= reach).all())
            self.assertEqual(found["curves"], 2 if wholly else 1, values)
            counts.add(found["curves"])
        self.assertEqual(counts, {1, 2})

    def test_what_does_not_meet_is_refused(self) -> None:
        problem = catalogue.problem("solids/cone-and-pipe")
        for raw, words in (
            ({"offset": "60"}, "misses the cone"),
            ({"pipe_height": "10"}, "below the base"),
            ({"pipe_height": "70"}, "over the apex"),
        ):
            with self.assertRaises(WiseCompassError) as refused:
                problem.read(raw)
            self.assertIn(words, str(refused.exception))
            problem.read({**raw, **refused.exception.offer})


if __name__ == "__main__":
    unittest.main()
