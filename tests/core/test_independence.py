"""Truth and method share conditions and givens, and nothing that computes without something else noticing.

Every function of the catalogue that a truth and a method of one problem both call is given faults, one after the other: what
it returns is a little larger, or has the other sign, or is another choice. A fault that changes anything must be noticed, by
method against truth, by a check of the figure, or by an independent derivation in another test that is named here.
"""

from __future__ import annotations

import dataclasses
import functools
import random
import re
import sys
import types
import unittest
from collections.abc import Callable, Iterator
from typing import Any
from unittest import mock

from tests.core import (
    test_crate_pictures,
    test_curvature,
    test_every_problem,
    test_patterns,
    test_pictures,
    test_pipe_length,
    test_solids,
    test_special_places,
    test_truths_added,
    test_truths_conics,
    test_truths_loci,
    test_truths_space,
    test_truths_tangency,
    test_truths_triangles,
)
from tests.core.random_givens import feasible
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN, ball
from wisecompass.drafting import givens
from wisecompass.drafting.givens import Typed
from wisecompass.drafting.problem import Method, Problem
from wisecompass.drafting.solve import construct
from wisecompass.geometry.plane import Point
from wisecompass.geometry.space import Point3

HOME = "wisecompass.catalogue."
TRIES = 12
"""Givens that each fault is tried with at most: the defaults, and random ones."""

ELSEWHERE: dict[str, tuple[type[unittest.TestCase], str]] = {
    "conics.focus_directrix._below_one": (
        test_truths_conics.OpenCurves,
        "test_eccentricity_just_under_at_and_just_over_one",
    ),
    "conics.focus_directrix._chosen": (test_curvature.CentreOfCurvature, "test_of_the_conic_of_focus_and_directrix"),
    "pictorial.crate_flats.base_of": (
        test_crate_pictures.Corners,
        "test_a_picture_begins_from_its_nearest_lower_corner",
    ),
    "solids.crate_plan.far_end": (test_crate_pictures.Corners, "test_a_picture_begins_from_its_nearest_lower_corner"),
    "pictorial.polygon_block._far_rim_seen": (
        test_pictures.Blocks,
        "test_the_far_rim_shows_as_rays_through_the_bore_say",
    ),
    "solids.cuts.Cut.is_upright": (test_solids.Sections, "test_what_a_plane_cuts_out_of_flat_solids"),
    "solids.cuts.Cut.told": (test_solids.Sections, "test_what_a_plane_cuts_out_of_flat_solids"),
    "solids.pipes.over": (test_pipe_length.CurveLength, "test_random_pipes"),
    "loci.logarithmic_spiral._chosen": (test_curvature.CentreOfCurvature, "test_of_spirals"),
    "conics.hyperbola_foci._chosen": (test_curvature.CentreOfCurvature, "test_of_hyperbolas"),
    "conics.on_ellipse.undirected": (
        test_truths_conics.AtAPoint,
        "test_tangent_and_normal_by_a_small_step_along_the_ellipse",
    ),
    "loci.involute_polygon._arc": (
        test_curvature.CentreOfCurvature,
        "test_of_an_involute_of_a_polygon_is_the_corner_just_left",
    ),
    "loci.logarithmic_spiral._steps": (test_truths_added.Counts, "test_steps_of_a_logarithmic_spiral"),
    "loci.spiral.way": (test_truths_loci.Spirals, "test_radius_grows_evenly_either_way_round"),
    "loci.trochoid._kind": (test_truths_loci.Rolling, "test_kinds_of_trochoids"),
    "loci.winding.begun": (test_truths_added.Counts, "test_where_the_turn_of_a_helix_begins"),
    "polygons.from_traverse._walked": (test_truths_added.Counts, "test_corners_of_a_walk"),
    "polygons.from_traverse.crosses_itself": (
        test_special_places.Ends,
        "test_a_walk_has_no_area_below_zero_and_says_where_it_crosses_itself",
    ),
    "loci.archimedean_spiral._length_to": (test_truths_loci.Spirals, "test_its_length_by_many_small_steps"),
    "loci.conical_helix._length": (test_truths_loci.Winding, "test_a_helix_on_a_cone_keeps_to_its_side"),
    "tangency.eight_circles.ThreeCircles.centres": (test_truths_tangency.ThreeCircles, "test_layouts_whose_count_is_known"),
    "tangency.three_circles._contacts": (test_truths_tangency.ThreeCircles, "test_layouts_whose_count_is_known"),
    "tangency.three_circles._finding": (test_truths_tangency.ThreeCircles, "test_between_and_around_three_that_touch"),
    "triangles.base_altitude_apex_angle._tops": (
        test_truths_triangles.Ambiguous,
        "test_an_apex_at_the_top_of_its_arc_is_one_triangle",
    ),
    "triangles.two_sides_angle_opposite._reach": (
        test_truths_triangles.Ambiguous,
        "test_an_arc_that_just_touches_gives_one_right_triangle",
    ),
    "triangles.two_sides_angle_opposite._solutions": (
        test_truths_triangles.Ambiguous,
        "test_as_many_triangles_as_the_arc_meets_the_ray",
    ),
    "space.line_meets_plane._inside": (test_truths_space.Planes, "test_where_a_line_meets_a_plane_by_a_linear_system"),
    "space.point.quadrant": (test_truths_space.Lines, "test_quadrants"),
    "space.two_faces.Common.extended": (test_truths_space.TwoFaces, "test_each_shortcut_is_used"),
    "solids.level_pipe.edge": (
        test_solids.ConesAndPipes,
        "test_every_point_lies_on_both_and_the_extremes_are_those_of_the_whole_curve",
    ),
    "solids.level_pipe.is_through": (
        test_solids.ConesAndPipes,
        "test_every_point_lies_on_both_and_the_extremes_are_those_of_the_whole_curve",
    ),
    "solids.pipes.Pipes.through": (
        test_solids.PipesThatMeet,
        "test_every_point_lies_on_both_pipes_and_the_extremes_are_those_of_the_whole_curve",
    ),
    "solids.pipes_meeting._is_plane": (
        test_solids.PipesThatMeet,
        "test_equal_pipes_whose_axes_meet_cross_in_plane_curves",
    ),
    "solids.body.Solid.is_round": (test_solids.Truths, "test_sizes_and_places_against_matrices_and_hulls"),
    "solids.cuts.plan": (test_solids.Sections, "test_the_side_view_shows_the_corners_that_are_left"),
    "solids.section._polygon": (test_solids.Sections, "test_what_a_plane_cuts_out_of_flat_solids"),
    "solids.cut_conics.name_of": (test_solids.Sections, "test_what_a_plane_cuts_out_of_round_solids"),
    "space.two_faces.sides_of": (test_truths_space.TwoFaces, "test_each_shortcut_is_used"),
}
"""Faults in these are noticed by an independent derivation."""


def elsewhere(name: str, users: list[tuple[Problem, Method]]) -> Iterator[tuple[type[unittest.TestCase], str]]:
    """The independent derivations that notice a fault in a function: those named above, and of every pattern that uses it
    the one of its sizes."""
    if name in ELSEWHERE:
        yield ELSEWHERE[name]
    for problem_id in dict.fromkeys(problem.id for problem, _ in users):
        test = f"test_{problem_id.partition('/')[2].replace('-', '_')}"
        if problem_id.startswith("developments/") and hasattr(test_patterns.Sizes, test):
            yield test_patterns.Sizes, test


ANY_WILL_DO = {
    "space.hyperbolic_paraboloid._axis_front": "how far before VP the figure is set",
    "solids.level_pipe.ConeAndPipe.room": "how far before VP the cone is set",
    "solids.pipes.Pipes.room": "how far before VP the main pipe is set",
    "solids.body.Solid.room": "how far before VP the solid is set",
    "developments.branch.Body.room": "how far before VP the main pipe is set",
    "developments.branch.Body.foot": "how high over HP the axes cross",
    "developments.oblique_cone.ObliqueCone.room": "how far before VP the cone is set",
    "developments.round_to_round.RoundToRound.room": "how far before VP the boot is set",
    "developments.square_to_round.SquareToRound.room": "how far before VP the hood is set",
    "developments.branch.Body.names": "what its points are called",
    "developments.elbow.Elbow.names": "what its points are called",
    "developments.round_cut.Round.end_letters": "what its points are called",
    "developments.tray._flange": "what its points are called",
    "developments.tray._rim": "what its points are called",
    "tangency.touching.solution_name": "what a second solution is called",
    "space.two_faces.line_direction turned": "its length counts; its way only chooses between cuts that all serve",
}
"""What is free to be chosen otherwise, and why."""


# ------------------------------------------------------------------------------------------------------------ helpers
def helpers() -> dict[types.CodeType, str]:
    """All functions of the catalogue by their code, as ``tangency.touching.apart``."""
    found = {}
    for name, module in list(sys.modules.items()):
        if not name.startswith(HOME):
            continue
        for key, thing in vars(module).items():
            if getattr(thing, "__module__", "") != name:
                continue
            if isinstance(thing, types.FunctionType):
                found[thing.__code__] = f"{name.removeprefix(HOME)}.{key}"
            elif isinstance(thing, type):
                for inner, value in vars(thing).items():
                    function = value.fget if isinstance(value, property) else value
                    if isinstance(function, types.FunctionType) and function.__code__.co_filename == module.__file__:
                        found[function.__code__] = f"{name.removeprefix(HOME)}.{key}.{inner}"
    return found


def called(act: Callable[[], Any], known: dict[types.CodeType, str]) -> set[str]:
    seen = set()

    def watch(frame: types.FrameType, event: str, _: Any) -> None:
        if event == "call" and frame.f_code in known:
            seen.add(known[frame.f_code])

    sys.setprofile(watch)
    try:
        act()
    finally:
        sys.setprofile(None)
    return seen


@functools.cache
def shared() -> dict[str, list[tuple[Problem, Method]]]:
    """The functions that truth and method both call, with the methods that do."""
    problems = [catalogue.problem(each) for each in catalogue.ids()]
    known = helpers()
    found: dict[str, list[tuple[Problem, Method]]] = {}
    for problem in problems:
        for method in problem.methods:
            typed = problem.served_by(method, problem.read({}))
            of_truth = called(functools.partial(problem.find_truth, typed, PLAIN), known)
            of_method = called(functools.partial(construct, problem, typed, method, PLAIN), known)
            for name in of_truth & of_method:
                found.setdefault(name, []).append((problem, method))
    return found


# ------------------------------------------------------------------------------------------------------------- faults
def larger(value: Any) -> Any:
    """A value that is wrong by about a hundredth; of several the first."""
    return _altered(value, lambda number: number * 1.01 + 0.01)


def turned(value: Any) -> Any:
    """A value of the other sign; of several the first."""
    return _altered(value, lambda number: -number)


def _altered(value: Any, change: Callable[[Any], Any]) -> Any:
    match value:
        case None:
            return None
        case bool():
            return not value
        case str():
            opposite = {"inside": "outside", "outside": "inside"}
            swapped = re.sub("inside|outside", lambda found: opposite[found.group()], value)
            return swapped if swapped != value else f"not {value}"
        case int():
            return -value if change(1) < 0 and value else value + 1
        case Point():
            return dataclasses.replace(value, x=change(value.x))
        case Point3():
            return Point3(change(value.x), value.front, value.above, value.name)
        case tuple() | list():
            return type(value)([_altered(value[0], change), *value[1:]]) if value else value
        case dict():
            first = next(iter(value), None)
            return {key: _altered(each, change) if key == first else each for key, each in value.items()}
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        name = dataclasses.fields(value)[0].name
        return dataclasses.replace(value, **{name: _altered(getattr(value, name), change)})
    try:
        return change(value)
    except TypeError:
        return value


def planted(name: str, fault: Callable[[Any], Any]) -> list[Any]:
    """Patches that plant a fault wherever the function is known by its name."""
    module, owner, key, original = _found(name)
    function = original.fget if isinstance(original, property) else original

    def wrong(*arguments: Any, **more: Any) -> Any:
        return fault(function(*arguments, **more))

    new: Any = property(wrong) if isinstance(original, property) else wrong
    patches = [mock.patch.object(owner, key, new)]
    for other_name, other in list(sys.modules.items()):
        if other_name.startswith(HOME) and other is not module:
            patches += [mock.patch.object(other, each, new) for each, thing in vars(other).items() if thing is original]
    return patches


def _found(name: str) -> tuple[Any, Any, str, Any]:
    parts = (HOME + name).split(".")
    cut = next(cut for cut in range(len(parts) - 1, 0, -1) if ".".join(parts[:cut]) in sys.modules)
    module = owner = sys.modules[".".join(parts[:cut])]
    if len(parts) - cut == 2:
        owner = getattr(module, parts[cut])
    return module, owner, parts[-1], vars(owner)[parts[-1]]


class under:  # noqa: N801 (reads like a word)
    """Run the body under patches."""

    def __init__(self, patches: list[Any]) -> None:
        self.patches = patches

    def __enter__(self) -> None:
        for patch in self.patches:
            patch.start()

    def __exit__(self, *_: object) -> None:
        for patch in reversed(self.patches):
            patch.stop()


# -------------------------------------------------------------------------------------------------------------- tests
@functools.cache
def one_try(problem_id: str, method_name: str, k: int) -> Typed:
    """The defaults of a method, and further on random givens."""
    problem = catalogue.problem(problem_id)
    method = problem.method(method_name)
    if k == 0:
        return problem.served_by(method, problem.read({}))
    return feasible(problem, method, random.Random(f"{problem_id}/{method_name}/{k}"), offered=1.0)


def outcome(problem: Problem, method: Method, typed: Typed) -> str:
    """All that a truth and a method tell, in floats."""
    truth, board = problem.find_truth(typed, PLAIN), construct(problem, typed, method, PLAIN)
    told = repr((truth.points, truth.findings, truth.solutions, board.points, board.findings))
    return re.sub(r"-(?=0\.0\b)", "", told)


@functools.cache
def rightly(problem_id: str, method_name: str) -> str:
    """The outcome of the defaults without any fault."""
    problem = catalogue.problem(problem_id)
    return outcome(problem, problem.method(method_name), one_try(problem_id, method_name, 0))


class Shared(unittest.TestCase):
    def setUp(self) -> None:
        patient = mock.patch.object(ball, "MOST_PLACES", 1500)  # a fault makes integrals that no patience finishes
        forgetful = mock.patch.object(givens, "known_again", lambda _: None)  # what was decided without a fault says nothing
        for each in (patient, forgetful):
            each.start()
            self.addCleanup(each.stop)

    def test_a_fault_in_what_truth_and_method_share_is_noticed(self) -> None:
        planted_faults = 0
        for name, users in sorted(shared().items()):
            for fault in (larger, turned):
                if name in ANY_WILL_DO or f"{name} {fault.__name__}" in ANY_WILL_DO:
                    continue
                patches = planted(name, fault)
                if not self._matters(patches, users):
                    continue
                planted_faults += 1
                with self.subTest(helper=name, fault=fault.__name__):
                    self.assertTrue(self._noticed(name, patches, users))
        self.assertGreater(planted_faults, 100)

    def _matters(self, patches: list[Any], users: list[tuple[Problem, Method]]) -> bool:
        """Whether anything comes out otherwise. A fault that stops the work is noticed by whoever does it."""
        for problem, method in users[:2]:
            typed = one_try(problem.id, method.name, 0)
            right = rightly(problem.id, method.name)
            try:
                with under(patches):
                    wrong = outcome(problem, method, typed)
            except Exception:
                return False
            if wrong != right:
                return True
        return False

    def _noticed(self, name: str, patches: list[Any], users: list[tuple[Problem, Method]]) -> bool:
        agreement = test_every_problem.EveryMethod()
        few = mock.patch.object(test_patterns, "ROUNDS", 3)
        with under(patches), few:
            for kind, test in elsewhere(name, users):
                result = unittest.TestResult()
                kind(test).run(result)
                if result.failures or result.errors:
                    return True
        for k in range(TRIES):
            for problem, method in users:
                typed = one_try(problem.id, method.name, k)
                try:
                    with under(patches):
                        agreement._agrees(problem, method, typed)
                except Exception:
                    return True
        return False


if __name__ == "__main__":
    unittest.main()
