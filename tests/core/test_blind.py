"""The record suffices: a hand that has the acts and the givens and nothing else redraws every sheet."""

from __future__ import annotations

import ast
import copy
import os
import random
import unittest
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from tests.core.random_givens import feasible
from tests.core.redrawing import acts_of, fixed_letters, given_numbers, letters_of, redraw, sheet, shifts
from wisecompass import catalogue
from wisecompass.drafting import blind
from wisecompass.drafting.blind import Hand, Stuck
from wisecompass.drafting.conventions import Beginning, Conventions, Counting, Naming, Numbering, Projection, Vocabulary
from wisecompass.drafting.problem import Method, Problem

FEW = 6
ROUNDS = int(os.environ.get("WISE_COMPASS_BLIND", FEW))
"""Random givens a method. With more than few the test says by family how far the hand strayed at worst."""

SCHOOLS = (
    Conventions(),
    Conventions(projection=Projection.THIRD, naming=Naming.INDICES, numbering=Numbering.FROM_1),
    Conventions(counting=Counting.CLOCKWISE, beginning=Beginning.TOP),
    Conventions(projection=Projection.THIRD, vocabulary=Vocabulary.PLANS),
    Conventions(naming=Naming.INDICES, counting=Counting.CLOCKWISE, numbering=Numbering.FROM_1),
)

EDGES_ON = "box 60 40 30 at 0 0 0; less box 20 40 15 at 20 0 15"
"""A body with faces that an eye beside it sees from their edges."""

BRANCHES: dict[str, tuple[dict[str, str], ...]] = {
    "solids/pipes-meeting": (
        {"main_diameter": "54.2", "branch_diameter": "54.2", "angle": "44.7", "offset": "0", "reach": "through"},
        {"main_diameter": "60", "branch_diameter": "60", "angle": "90", "offset": "0"},
        {"offset": "10"},
    ),
    "solids/section": tuple(
        {"plane": "square to HP", "kind": kind, "plane_angle": angle, "plane_front": front, "base": base, "top": "13"}
        for kind, base in (("prism", "24"), ("frustum", "24"), ("cylinder", "48"), ("cone", "48"), ("cone-frustum", "48"))
        for angle, front in (("0", "0"), ("0", "-7"), ("32", "5"), ("90", "8"))
    )
    + tuple(
        {"kind": "cone-frustum", "base": "24", "top": "48", "plane_angle": angle, "plane_height": height}
        for angle, height in (("30", "40"), ("55", "50"), ("60", "9"), ("0", "31"))
    ),
    "solids/crates": tuple(
        {"parts": f"box 60 44 10 at 0 0 0; cone 40 52 at 30 22 10 along up; {more}", "views": views}
        for more, views in (
            ("less box 30 60 70 at 37.3 -5 10", "six"),
            ("less wedge 60 44 40 at 0 0 22 rising right", "front-top-side"),
            ("less cylinder 12 60 at 24 -5 22 along back", "six"),
            ("cylinder 14 50 at 30 22 24 along right", "front-top-side"),
            ("less prism 5 14 60 at 44 22 5 along up", "front-top-side"),
        )
    ),
    "pictorial/crates": tuple(
        {"parts": EDGES_ON, "projection": "one-point", "eye_right": right, "eye_height": high, "eye_distance": "300"}
        for right, high in (("0", "70"), ("60", "50"), ("20", "70"), ("0", "15"), ("32", "30"))
    )
    + tuple(
        {"parts": f"box 60 44 10 at 0 0 0; cone 40 52 at 30 22 10 along {way}; {more}", "projection": projection}
        for way, more, projection in (
            ("up", "less wedge 60 44 40 at 0 0 22 rising right", "isometric"),
            ("up", "less cylinder 12 60 at 24 -5 22 along back", "oblique-cabinet"),
            ("right", "less box 30 60 70 at 50 -5 20", "two-point"),
            ("up", "cylinder 14 50 at 30 22 24 along right", "one-point"),
            ("back", "less prism 5 14 60 at 34 22 5 along up", "oblique-cavalier"),
        )
    ),
    "pictorial/box": ({"paper": "dot grid"}, {"scale": "isometric"}),
    "pictorial/polygon-block": tuple(
        {"face": face, "thickness": thickness, "bore": "42", "bore_by": bore_by, "start": start, "hidden_edges": "dashed"}
        for face, start in (("left", "Y"), ("right", "crow's foot"), ("top", "crow's foot"))
        for thickness in ("12", "21", "26", "40")
        for bore_by in ("four centres", "ordinates")
    ),
    "pictorial/cylinder": tuple({"axis": axis, "hidden_edges": "dashed"} for axis in ("up", "left", "right")),
    "pictorial/cone": tuple({"height": height, "hidden_edges": "dashed"} for height in ("20", "25", "29", "63")),
    "solids/cone-and-pipe": (
        {"offset": "12"},
        {"offset": "20", "pipe_diameter": "30"},
        {"pipe_height": "50", "pipe_diameter": "20"},
    ),
    "lines/compass-angle": ({"angle": "7.5"}, {"angle": "60"}, {"angle": "120"}, {"angle": "172.5"}),
    "lines/root-length": ({"radicand": "1"}, {"radicand": "2"}, {"radicand": "50"}, {"radicand": "0.5"}),
    "tangency/arc-two-lines": ({"angle": "90"}, {"angle": "178"}),
    "tangency/lines-outside-two-circles": (
        {"radius_1": "20", "radius_2": "20", "distance": "70"},
        {"radius_1": "15", "radius_2": "40", "distance": "25"},
    ),
    "tangency/lines-across-two-circles": ({"radius_1": "20", "radius_2": "30", "distance": "50"},),
    "tangency/arc-line-circle": ({"line_distance": "0", "circle_radius": "30", "radius": "12"},),
    "tangency/arc-point-circle": ({"circle_radius": "20", "distance": "60", "radius": "20", "contact": "outside"},),
    "tangency/arc-two-circles": ({"radius_1": "20", "radius_2": "20", "distance": "80", "radius": "20"},),
    "tangency/three-circles": (
        {"radius_1": "20", "radius_2": "20", "radius_3": "20", "centre_2": "60, 0", "centre_3": "30, 52"},
        {"radius_1": "20", "radius_2": "10", "radius_3": "15", "centre_2": "60, 0", "centre_3": "120, 0"},
    ),
    "conics/ellipse": ({"major": "80", "minor": "80"}, {"orientation": "vertical"}, {"major": "90", "minor": "88"}),
    "conics/ellipse-tangent-normal": tuple({"position": str(t)} for t in (0, 90, 180, 270, 200)),
    "conics/ellipse-conjugate": ({"angle": "90"}, {"first": "80", "second": "80", "angle": "90"}, {"angle": "150"}),
    "conics/parabola-rectangle": ({"chosen": "0"}, {"chosen": "-0.5"}, {"chosen": "1"}),
    "conics/focus-directrix": (
        {"eccentricity": "1"},
        {"eccentricity": "0.5", "chosen": "8"},
        {"eccentricity": "0.5", "chosen": "48"},
        {"eccentricity": "0.9"},
    ),
    "loci/archimedean-spiral": ({"inner_diameter": "0"}, {"direction": "clockwise", "start_angle": "200"}),
    "loci/archimedean-tangent-normal": ({"inner_diameter": "0"}, {"direction": "clockwise"}),
    "loci/logarithmic-spiral": ({"ratio": "0.9"}, {"direction": "clockwise"}),
    "loci/cycloid": ({"turned": "180"}, {"direction": "left"}, {"turned": "90"}),
    "loci/epicycloid": ({"turned": "180"}, {"direction": "clockwise", "middle": "0"}),
    "loci/hypocycloid": ({"base_diameter": "40", "rolling_diameter": "60"}, {"turned": "180"}),
    "loci/helix": ({"hand": "left"}, {"chosen": "18"}, {"start_angle": "90"}),
    "loci/conical-helix": ({"hand": "left"}, {"chosen": "13"}),
    "space/line-from-ends": (
        {"apart": "0", "b_front": "30", "b_above": "50"},
        {"apart": "40", "b_front": "12", "b_above": "40", "a_front": "12"},
        {"apart": "0", "a_front": "10", "b_front": "10", "a_above": "5", "b_above": "45"},
    ),
    "space/line-inclined-to-both": (
        {"inclination_hp": "30", "inclination_vp": "60"},
        {"inclination_hp": "90", "inclination_vp": "0"},
        {"inclination_hp": "0", "inclination_vp": "25"},
    ),
    "space/lamina": ({"A": "10, 12, 16", "B": "45, 40, 16", "C": "102, 15, 24"},),
    "developments/rectangle-to-rectangle": (
        {"thickness": "4", "inside": "up"},
        {"lap": "8", "ends": "both"},
        {"seam": "side_1", "ends": "both", "inside": "up"},
        {"seam": "side_4", "offset_x": "0"},
    ),
    "developments/prism": (
        {"ends": "both", "lap": "4", "seam": "3"},
        {"lap": "4", "lap_on": "the seam"},
        {"lap": "4", "lap_on": "both rims"},
        {"inside": "up", "thickness": "2", "turned": "12", "ends": "both"},
        {"cut": "left whole", "ends": "both"},
        {"cut_angle": "0", "ends": "both"},
    ),
    "developments/cylinder": (
        {"ends": "both", "lap": "3", "seam": "4"},
        {"lap": "4", "lap_on": "the lower rim"},
        {"lap": "4", "lap_on": "the upper rim"},
        {"inside": "up", "thickness": "2", "divisions": "8"},
        {"cut": "left whole", "ends": "both"},
        {"cut_angle": "0", "ends": "both"},
    ),
    "developments/pyramid": (
        {"ends": "both", "lap": "2", "seam": "3"},
        {"inside": "up", "thickness": "2", "turned": "12", "ends": "both"},
        {"cut": "left whole", "ends": "both"},
        {"sides": "4", "turned": "45"},
    ),
    "developments/cone": (
        {"ends": "both", "seam": "4", "cut_height": "40", "cut_angle": "20"},
        {"inside": "up", "thickness": "2", "divisions": "8", "cut_height": "36"},
        {"cut": "left whole", "ends": "both"},
        {"cut_angle": "0", "ends": "both"},
    ),
    "developments/oblique-cone": (
        {"top_height": "30", "ends": "both", "lap": "2"},
        {"inside": "up", "thickness": "2", "seam": "4"},
        {"offset": "-31", "divisions": "8"},
    ),
    "developments/square-to-round": (
        {"ends": "both", "lap": "3", "seam": "2"},
        {"inside": "up", "thickness": "2", "offset_x": "12", "offset_y": "-9"},
        {"length": "120", "seam": "4", "divisions": "8"},
    ),
    "developments/round-to-round": (
        {"tilt": "25", "ends": "both", "lap": "2"},
        {"tilt": "-20", "inside": "up", "thickness": "2", "seam": "5"},
        {"offset": "0", "divisions": "8"},
    ),
    "developments/elbow": ({"pieces": "2", "lap": "3"}, {"inside": "up", "thickness": "2", "seam": "4"}, {"pieces": "7"}),
    "developments/branch": (
        {"offset": "6", "seam": "3", "lap": "2"},
        {"angle": "90", "inside": "up", "thickness": "2"},
        {"branch_diameter": "58"},
        {"offset": "10"},
    ),
    "developments/hemisphere": ({"by": "zones", "lap": "2"}, {"parts": "12", "thickness": "2", "inside": "up"}),
    "developments/tray": ({"lap": "4", "inside": "down"}, {"flange": "0", "thickness": "2"}),
}
"""Givens that lead where random ones seldom do: limits that are just met, half turns, arcs that touch, shared corners."""


def every_method() -> Iterator[tuple[Problem, Method]]:
    for problem in map(catalogue.problem, catalogue.ids()):
        for method in problem.methods:
            yield problem, method


class BlindHand(unittest.TestCase):
    def test_every_sheet_is_redrawn_over_random_givens_in_every_school(self) -> None:
        letters = 0
        table: dict[str, list[tuple[int, float, str]]] = {}
        for problem, method in every_method():
            rng = random.Random(f"{problem.id}/{method.name}/blind")
            for k in range(ROUNDS):
                typed, school = feasible(problem, method, rng), SCHOOLS[k % len(SCHOOLS)]
                given = {name: getattr(value, "text", value) for name, value in typed.items()}
                with self.subTest(problem=problem.id, method=method.name, givens=given, school=k % len(SCHOOLS)):
                    marked, worst = redraw(problem, method, typed, school)
                    letters += marked
                    table.setdefault(problem.family, []).append((marked, worst, f"{problem.id}, {method.name}"))
        self.assertGreater(letters, 2000 * ROUNDS)
        for family, rows in table.items() if ROUNDS > FEW else ():
            far, where = max((worst, where) for _, worst, where in rows)
            letters = sum(row[0] for row in rows)
            print(f"{family}: {len(rows)} sheets, {letters} letters, at worst {far:.1e} of its size: {where}")

    def test_every_branch_is_redrawn(self) -> None:
        for problem_id, every in BRANCHES.items():
            problem = catalogue.problem(problem_id)
            for raw in every:
                typed = problem.read(raw)
                for method in problem.methods:
                    if problem.serves(method, typed) is None:
                        for school in SCHOOLS[:2]:
                            with self.subTest(problem=problem_id, method=method.name, givens=raw):
                                redraw(problem, method, typed, school)

    def test_every_solution_is_redrawn(self) -> None:
        several = 0
        for problem, method in every_method():
            typed = problem.served_by(method, problem.read({}))
            for solution in range(2, sheet(problem, method, typed, None).solutions + 1):
                several += 1
                with self.subTest(problem=problem.id, method=method.name, solution=solution):
                    redraw(problem, method, typed, None, solution)
        self.assertGreater(several, 10)

    def test_divisions_unfolded_land_on_the_same_letters(self) -> None:
        unfolded = 0
        for problem, method in every_method():
            typed = problem.served_by(method, problem.read({}))
            for school in SCHOOLS[:3]:
                told = sheet(problem, method, typed, school)
                if not any(act.do in ("divide", "divide round") for act in told.record.acts):
                    continue
                unfolded += 1
                with self.subTest(problem=problem.id, method=method.name, school=SCHOOLS.index(school)):
                    full = sheet(problem, method, typed, school, in_full=True)
                    self.assertFalse([act.do for act in full.record.acts if act.do.startswith("divide")])
                    letters = letters_of(full)
                    for name, place in letters_of(told).items():
                        if not name.startswith("crossing "):
                            self.assertAlmostEqual(abs(letters[name] - place), 0, places=8, msg=name)
                    redraw(problem, method, typed, school, in_full=True)
        self.assertGreater(unfolded, 60)

    def test_every_setting_says_where_it_comes_from(self) -> None:
        for problem, method in every_method():
            for act in acts_of(sheet(problem, method, problem.served_by(method, problem.read({})), None)):
                for setting in (act.get(key) for key in ("setting", "right", "up", "front", "above", "first", "second")):
                    if setting is not None:
                        self.assertNotEqual(setting["from"], "unsaid", (problem.id, method.name, act))

    def test_the_hand_knows_neither_board_nor_catalogue(self) -> None:
        tree = ast.parse(Path(blind.__file__).read_text(encoding="utf-8"))
        modules = {node.module for node in ast.walk(tree) if isinstance(node, ast.ImportFrom)}
        modules |= {name.name for node in ast.walk(tree) if isinstance(node, ast.Import) for name in node.names}
        self.assertFalse([name for name in modules if name and name.startswith(("wisecompass", "numpy", "scipy"))])


class SpoiledRecords(unittest.TestCase):
    """One place of a record altered: something must be noticed."""

    def spoiled(self, acts: list[dict[str, Any]]) -> Iterator[tuple[str, list[dict[str, Any]]]]:
        for k, act in enumerate(acts):
            for what in ("side", "way", "turn", "sum", "span"):
                changed = _spoil(act, what)
                if changed is not None:
                    yield what, [*acts[:k], changed, *acts[k + 1 :]]

    def test_a_spoiled_record_is_noticed(self) -> None:
        noticed: dict[str, list[bool]] = {}
        for problem, method in every_method():
            typed = problem.served_by(method, problem.read({}))
            board = sheet(problem, method, typed, None)
            letters, numbers = letters_of(board), given_numbers(typed)
            fixed = fixed_letters(board, problem, typed)
            every = list(self.spoiled(acts_of(board)))
            for what, acts in random.Random(problem.id).sample(every, min(len(every), 12)):
                hand = Hand(numbers)
                try:
                    hand.draw(acts)
                    seen = shifts(letters, hand, set(letters) & set(hand.points), 1e-7) > hand.placed
                except Stuck:
                    seen = True
                noticed.setdefault(what, []).append(seen)
            unlettered = problem.id.startswith("lines/") or problem.id.endswith("/crates")  # whose corners bear no letters
            self.assertTrue(fixed or unlettered, problem.id)
        for what, found in noticed.items():
            with self.subTest(what=what, of=len(found)):
                self.assertGreater(sum(found) / len(found), 0.9)

    def test_a_name_made_twice_and_one_never_made_stop_the_hand(self) -> None:
        place = {"n": 1, "do": "place", "makes": ["A"]}
        for bad in (
            place,
            {"n": 2, "do": "join", "on": ["A", "B"], "makes": ["AB"]},
            {"n": 2, "do": "arc", "on": ["A"], "makes": ["arc"], "setting": {"from": "unsaid"}},
            {"n": 2, "do": "whittle", "makes": ["B"]},
        ):
            with self.assertRaises(Stuck):
                Hand({}).draw([place, bad])


def _spoil(act: dict[str, Any], what: str) -> dict[str, Any] | None:
    """The act with one thing in it altered; None where it has no such thing."""
    changed = copy.deepcopy(act)
    if what == "side" and "which" in act and act["do"] != "fold":
        opposite = {
            "upper": "lower", "left": "right", "left of": "right of", "along": "back along",
            "nearest to": "farthest from", "inside": "outside",
        }  # fmt: skip
        both = {**opposite, **{b: a for a, b in opposite.items()}, "other than": "nearest to"}
        changed["which"]["side"] = both[act["which"]["side"]]
    elif what == "way" and act.get("way") in ("along", "back") and act["do"] in ("lay off", "step along"):
        changed["way"] = "back" if act["way"] == "along" else "along"
    elif what == "turn" and "turn" in act:
        changed["turn"] = "clockwise" if act["turn"] == "anticlockwise" else "anticlockwise"
    elif what == "sum" and act.get("setting", {}).get("from") in ("given", "turn", "reckoned"):
        changed["setting"]["sum"] = f"({act['setting']['sum']}) * 101 / 100"
    elif what == "span" and act.get("setting", {}).get("from") == "span":
        changed["setting"]["times"] = "11/10"
    else:
        return None
    return changed if changed != act else None
