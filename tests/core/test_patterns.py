"""Patterns of sheet: every size against an independent derivation by coordinates, sums and sampled curves, over random
givens; the pattern folded up again; laps."""

from __future__ import annotations

import functools
import math
import os
import random
import unittest
from collections.abc import Callable, Sequence
from itertools import pairwise
from typing import Any
from unittest import mock

import numpy as np
from numpy.typing import NDArray
from scipy.integrate import quad
from scipy.optimize import minimize_scalar
from scipy.spatial import ConvexHull

from tests.core.random_givens import feasible
from wisecompass import catalogue
from wisecompass.arithmetic import BALL, PLAIN
from wisecompass.catalogue.developments import pattern
from wisecompass.catalogue.developments.rectangle_to_rectangle import SEAMS
from wisecompass.drafting.errors import BadGiven, Infeasible, WiseCompassError
from wisecompass.drafting.givens import Typed, plain_values
from wisecompass.drafting.motion import Folding
from wisecompass.drafting.problem import Exactness, Method, Problem, Truth
from wisecompass.drafting.solve import construct, draw
from wisecompass.geometry import panels
from wisecompass.geometry.least_box import least_box
from wisecompass.geometry.plane import Point

Array = NDArray[np.float64]
Values = dict[str, Any]

ROUNDS = int(os.environ.get("WISE_COMPASS_PATTERNS", "14"))
LAPPED = max(4, ROUNDS // 3)
MANY = 2400
"""Steps of a sampled curve."""


def length_of(points: Array) -> float:
    return float(np.linalg.norm(np.diff(points, axis=0), axis=1).sum())


def closed(points: Array) -> Array:
    return np.vstack([points, points[:1]])


def area_of(loop: Array) -> float:
    """Area of a flat loop in space, by the vector sum of its triangles."""
    middle = loop.mean(axis=0)
    return float(np.linalg.norm(sum(np.cross(p - middle, q - middle) for p, q in pairwise(closed(loop)))) / 2)


def ring(radius: float, ways: Array, height: float = 0.0) -> Array:
    """Points of a level circle about the axis; in degrees anticlockwise from the right; x to the right, y back."""
    w = np.radians(ways)
    return np.stack([radius * np.cos(w), radius * np.sin(w), np.full(len(w), height)], axis=1)


def order_of(v: Values, count: int) -> list[int]:
    """Lines from the seam round to the seam; with the inside up the other way round."""
    way = -1 if v["inside"] == "up" else 1
    return [(int(v["seam"]) - 1 + way * k) % count for k in range(count + 1)]


def laid(truth: Truth, count: int) -> tuple[Array, Array]:
    """Low and high ends in the flat, from seam to seam, as they come in the pattern."""
    flat = [(p.x, p.y) for name, p in truth.points.items() if "/flat" in name and not name.endswith("/1")]  # type: ignore[union-attr]
    rows = np.array(flat[: 2 * (count + 1)], dtype=float)
    return rows[0::2], rows[1::2]


def numbered(truth: Truth, order: Sequence[int], prefix: str) -> Array:
    """The points of one rim in the flat by their numbers, from seam to seam."""
    names = [f"{prefix}{at + 1}/flat{' end' if k and at == order[0] else ''}" for k, at in enumerate(order)]
    return np.array([(truth.points[name].x, truth.points[name].y) for name in names], dtype=float)  # type: ignore[union-attr]


@functools.cache
def tried(problem_id: str) -> list[Typed]:
    """Random givens of a pattern."""
    problem, rng = catalogue.problem(problem_id), random.Random(problem_id)
    return [feasible(problem, rng.choice(problem.methods), rng) for _ in range(ROUNDS)]


class Sizes(unittest.TestCase):
    """Of every pattern: findings over random givens, and the flat where it is exact."""

    def each(self, problem_id: str, model: Callable[[Values, Truth], Values], near: float = 2e-5, rounds: int = 100) -> None:
        problem = catalogue.problem(problem_id)
        for typed in tried(problem_id)[: min(rounds, ROUNDS)]:
            values, truth = plain_values(typed), problem.find_truth(typed, PLAIN)
            for name, expected in model(values, truth).items():
                found = truth.findings[name]
                if expected is None:
                    self.assertIsNone(found, (name, values))
                    continue
                off = np.max(np.abs(np.asarray(found, dtype=float) - np.asarray(expected, dtype=float)))
                size = 1 + np.max(np.abs(np.asarray(expected, dtype=float)))
                self.assertLess(off, near * size, (name, found, expected, values))

    def assert_flat(self, flat: Array, body: Array, v: Values) -> None:
        """A row of the flat is as long, point after point, as on the body."""
        np.testing.assert_allclose(
            np.linalg.norm(np.diff(flat, axis=0), axis=1),
            np.linalg.norm(np.diff(body, axis=0), axis=1),
            rtol=1e-7,
            atol=1e-7,
            err_msg=str(v),
        )

    # ------------------------------------------------------------------------------------------ solids with flat sides
    def _flat_solid(self, v: Values, truth: Truth, low: Array, top: Array) -> Values:
        """Findings of a solid between two rims, and its flat: quadrilaterals of the same sides and diagonals."""
        n = len(low)
        order = order_of(v, n)
        lows, highs = low[order], top[order]
        faces = [np.array([lows[k], lows[k + 1], highs[k + 1], highs[k]]) for k in range(n)]
        lateral = sum(area_of(face) for face in faces)
        edges = np.linalg.norm(highs - lows, axis=1)
        pointed = np.ptp(top, axis=0).max() < 1e-9
        outline = length_of(lows) + length_of(highs) + 2 * edges[0]
        area = lateral
        if v["ends"] != "none":
            area += area_of(low)
            outline += length_of(lows) - 2 * np.linalg.norm(lows[1] - lows[0])
        if v["ends"] == "both" and not pointed:
            area += area_of(top)
            outline += length_of(highs)
        flat_low, flat_high = (
            laid(truth, n) if not pointed and "O/flat" not in truth.points else self._radial(truth, n, pointed)
        )
        self.assert_flat(flat_low, lows, v)
        self.assert_flat(flat_high, highs, v)
        self.assert_flat(np.array([flat_low, flat_high]).transpose(1, 0, 2).reshape(-1, 2)[1:-1], _zigzag(lows, highs), v)
        for k in range(n):  # all in one turning sense, none flipped
            u, w = flat_low[k + 1] - flat_low[k], flat_high[k] - flat_low[k]
            self.assertGreater(u[0] * w[1] - u[1] * w[0], 0, v)
        return {
            "lateral_area": lateral,
            "area": area,
            "perimeter": outline,
            "seam_length": edges[0],
            "edge_lengths": edges[:-1],
        }

    def _radial(self, truth: Truth, n: int, pointed: bool) -> tuple[Array, Array]:
        flat = [(name, (p.x, p.y)) for name, p in truth.points.items() if "/flat" in name]  # type: ignore[union-attr]
        apex = np.array(flat[0][1], dtype=float)
        rest = np.array([p for _, p in flat[1:]], dtype=float)
        if pointed:
            return rest[: n + 1], np.tile(apex, (n + 1, 1))
        return rest[: 2 * n + 2 : 2], rest[1 : 2 * n + 2 : 2]

    def _cut(self, v: Values, low: Array, top: Array) -> Array:
        """Where the plane meets every edge, or its own end."""
        if v["cut"] != "cut":
            return top
        slope = math.tan(math.radians(v["cut_angle"]))
        over = [slope * p[:, 0] + v["cut_height"] - p[:, 2] for p in (low, top)]
        share = over[0] / (over[0] - over[1])
        return low + (top - low) * share[:, None]

    def test_prism(self) -> None:
        def model(v: Values, truth: Truth) -> Values:
            n = int(v["sides"])
            near = v["side"] / (2 * math.tan(math.pi / n)) + v["thickness"] / 2
            ways = v["turned"] - 90 - 180 / n + 360 / n * np.arange(n)
            low, top = (ring(near / math.cos(math.pi / n), ways, z) for z in (0.0, v["height"]))
            top = self._cut(v, low, top)
            found = self._flat_solid(v, truth, low, top)
            edges = top[:, 2]
            return found | {
                "longest_edge": edges.max(),
                "shortest_edge": edges.min(),
                "girth": length_of(closed(low)),
            }

        self.each("developments/prism", model)

    def test_pyramid(self) -> None:
        def model(v: Values, truth: Truth) -> Values:
            n = int(v["sides"])
            near, high = v["side"] / (2 * math.tan(math.pi / n)), v["height"]
            lean = math.atan2(high, near)
            near, high = near + v["thickness"] / 2 / math.sin(lean), high + v["thickness"] / 2 / math.cos(lean)
            ways = v["turned"] - 90 - 180 / n + 360 / n * np.arange(n)
            low = ring(near / math.cos(math.pi / n), ways)
            top = np.tile([0.0, 0.0, high], (n, 1))
            slant = float(np.linalg.norm(top[0] - low[0]))
            side = float(np.linalg.norm(low[1] - low[0]))
            angle = math.degrees(math.acos(1 - side * side / (2 * slant * slant))) * n
            return self._flat_solid(v, truth, low, self._cut(v, low, top)) | {"slant_edge": slant, "sector_angle": angle}

        self.each("developments/pyramid", model)

    # ------------------------------------------------------------------------------------------------- round solids
    def _round_solid(self, v: Values, radius: float, high: float, pointed: bool) -> Values:
        """A cylinder or cone over a circle, by many narrow strips."""
        n = int(v["divisions"])

        def rims(ways: Array) -> tuple[Array, Array]:
            low = ring(radius, ways)
            top = np.tile([0.0, 0.0, high], (len(ways), 1)) if pointed else ring(radius, ways, high)
            return low, self._cut(v, low, top)

        low, top = rims(np.linspace(0.0, 360.0, MANY + 1))
        parts = np.linalg.norm(
            np.cross(low[1:] - top[:-1], top[1:] - low[:-1]), axis=1
        )  # twice the area of a strip, by its diagonals
        lateral = parts.sum() / 2
        girth, rim = 2 * math.pi * radius, length_of(top)
        base, end = math.pi * radius**2, area_of(top[:-1])
        area = lateral + {"none": 0.0, "base": base, "both": base + end}[v["ends"]]
        outline = girth + rim + {"none": 0.0, "base": girth, "both": girth + rim}[v["ends"]]
        order = order_of(v, n)
        low, top = rims(360 / n * np.arange(n))
        lengths = np.linalg.norm(top - low, axis=1)
        return {
            "girth": girth,
            "longest": lengths[0],
            "shortest": lengths[n // 2],
            "lateral_area": lateral,
            "area": area,
            "perimeter": outline + 2 * lengths[order[0]],
            "seam_length": lengths[order[0]],
            "generator_lengths": lengths[order[:-1]],
        }

    def test_cylinder(self) -> None:
        def model(v: Values, truth: Truth) -> Values:
            found = self._round_solid(v, (v["diameter"] + v["thickness"]) / 2, v["height"], pointed=False)
            lows, highs = laid(truth, int(v["divisions"]))
            lengths = [*found["generator_lengths"], found["seam_length"]]
            np.testing.assert_allclose(lows[:, 0], np.linspace(0, found["girth"], len(lows)), rtol=1e-12, atol=1e-9)
            np.testing.assert_allclose(highs[:, 1] - lows[:, 1], lengths, rtol=1e-9, atol=1e-9)
            np.testing.assert_allclose(highs[:, 0], lows[:, 0])
            return found

        self.each("developments/cylinder", model)

    def test_cone(self) -> None:
        def model(v: Values, truth: Truth) -> Values:
            radius, high = v["diameter"] / 2, v["height"]
            lean = math.atan2(high, radius)
            radius, high = radius + v["thickness"] / 2 / math.sin(lean), high + v["thickness"] / 2 / math.cos(lean)
            slant = math.hypot(radius, high)
            found = self._round_solid(v, radius, high, pointed=True)
            n = int(v["divisions"])
            lows, highs = self._radial(truth, n, v["cut"] != "cut")
            apex = np.array([truth.points["O/flat"].x, truth.points["O/flat"].y], dtype=float)  # type: ignore[union-attr]
            ways = np.unwrap(np.arctan2(*(lows - apex).T[::-1]))
            np.testing.assert_allclose(np.diff(ways), 2 * math.pi * radius / slant / n, rtol=1e-9)
            lengths = np.array([*found["generator_lengths"], found["seam_length"]])
            np.testing.assert_allclose(np.linalg.norm(lows - apex, axis=1), slant)
            np.testing.assert_allclose(np.linalg.norm(highs - apex, axis=1), slant - lengths, rtol=1e-9, atol=1e-9)
            return found | {"slant_length": slant, "sector_angle": 360 * radius / slant}

        self.each("developments/cone", model)

    # ---------------------------------------------------------------------------------------- from rim to rim by triangles
    def test_oblique_cone(self) -> None:
        def model(v: Values, truth: Truth) -> Values:
            radius, n, high = (v["diameter"] + v["thickness"]) / 2, int(v["divisions"]), v["height"]
            apex = np.array([v["offset"], 0.0, high])
            left = v["top_height"] / high if v["top_height"] else 1.0
            fine = ring(radius, np.linspace(0.0, 360.0, MANY * 2 + 1))
            area = float(np.linalg.norm(np.cross(fine[1:] - apex, fine[:-1] - apex), axis=1).sum()) / 2
            lateral = area * (1 - (1 - left) ** 2)
            girth, order = 2 * math.pi * radius, order_of(v, n)
            rims = [ring(radius, 360 / n * np.arange(n))[k] for k in order]
            lengths = np.array([np.linalg.norm(p - apex) for p in rims]) * left
            ends = {"none": 0.0, "base": 1.0, "both": 1 + (1 - left) ** 2}[v["ends"]]
            rim_ends = {"none": 0.0, "base": 1.0, "both": 2 - left}[v["ends"]]
            gap = max(_off_facet(ring(radius, np.linspace(360 / n * k, 360 / n * (k + 1), 41)), apex) for k in range(n))
            return {
                "girth": girth,
                "longest": lengths.max() if n % 4 == 0 else max(_ends_of_axis(v, radius)) * left,
                "shortest": min(_ends_of_axis(v, radius)) * left,
                "lateral_area": lateral,
                "area": lateral + math.pi * radius**2 * ends,
                "perimeter": girth * (2 - left) + lengths[0] * 2 + girth * rim_ends,
                "seam_length": lengths[0],
                "generator_lengths": lengths[:-1],
                "worst_gap": gap,
            }

        self.each("developments/oblique-cone", model)

    def test_rectangle_to_rectangle(self) -> None:
        def model(v: Values, truth: Truth) -> Values:
            t, high = v["thickness"], v["height"]
            low, top = (np.array([v["bottom_length"], v["bottom_width"]]), np.array([v["top_length"], v["top_width"]]))
            middle = np.array([v["offset_x"], -v["offset_y"]])
            rows = []
            for share in (0.0, 1.0):  # every wall stands half the thickness farther out, square to itself
                reach = []
                for axis, sign in ((1, -1), (0, 1), (1, 1), (0, -1)):  # in front, at the right, behind, at the left
                    run = (low[axis] - top[axis]) / 2 - sign * middle[axis]
                    out = sign * middle[axis] * share + (low[axis] * (1 - share) + top[axis] * share) / 2
                    reach.append(out + t / 2 * math.hypot(run, high) / high)
                front, right, back, left = reach
                rows.append(np.array([[-left, -front], [right, -front], [right, back], [-left, back]]))
            body = [np.column_stack([row, np.full(4, z)]) for row, z in zip(rows, (0.0, high), strict=True)]
            faces = [
                area_of(np.array([body[0][k], body[0][(k + 1) % 4], body[1][(k + 1) % 4], body[1][k]])) for k in range(4)
            ]
            start, way = int(v["seam"][-1]) - 1, -1 if v["inside"] == "up" else 1
            if v["seam"].startswith("corner"):
                order, lines = [(start + way * k) % 4 for k in range(4)], []
            else:
                order = [((start + 1 if way > 0 else start) + way * k) % 4 for k in range(4)]
                lines = [np.array([(row[start] + row[(start + 1) % 4]) / 2 for row in body])]
            lines += [np.array([row[k] for row in body]) for k in order]
            edges = [float(np.linalg.norm(line[1] - line[0])) for line in lines]
            rims = [length_of(closed(row)) for row in body]
            hinge = order if v["seam"].startswith("corner") else order[:2]
            held = float(np.linalg.norm(body[0][hinge[0]] - body[0][hinge[1]]))
            area, outline = sum(faces), sum(rims) + 2 * edges[0]
            if v["ends"] != "none":
                area, outline = area + area_of(body[0]), outline + rims[0] - 2 * held
            if v["ends"] == "both":
                area, outline = area + area_of(body[1]), outline + rims[1]
            found = {
                "lateral_area": sum(faces),
                "area": area,
                "perimeter": outline,
                "seam_length": edges[0],
                "edge_lengths": edges,
            }
            for k in range(4):
                after = (k + 1) % 4
                found[f"edge_{k + 1}"] = np.linalg.norm(body[1][k] - body[0][k])
                found[f"diagonal_{k + 1}"] = np.linalg.norm(body[1][k] - body[0][after])
                found[f"face_area_{k + 1}"] = faces[k]
            return found

        self.each("developments/rectangle-to-rectangle", model)

    def test_square_to_round(self) -> None:
        def model(v: Values, truth: Truth) -> Values:
            t, n = v["thickness"], int(v["divisions"])
            long, wide, radius = v["length"] + t, v["width"] + t, (v["diameter"] + t) / 2
            corners = np.array([[-1, -1, 0], [1, -1, 0], [1, 1, 0], [-1, 1, 0]]) * [long / 2, wide / 2, 0.0]
            middle = np.array([v["offset_x"], -v["offset_y"], v["height"]])
            lateral, gap, lines, flats = 0.0, 0.0, set(), []
            for c, begin in enumerate((180, 270, 0, 90)):
                fine = ring(radius, np.linspace(begin, begin + 90, MANY + 1)) + middle
                lateral += float(np.linalg.norm(np.cross(fine[1:] - corners[c], fine[:-1] - corners[c]), axis=1).sum()) / 2
                after, point = corners[(c + 1) % 4], fine[-1]
                lateral += area_of(np.array([corners[c], after, point]))
                flats.append(sorted(np.linalg.norm([after - corners[c], point - corners[c], point - after], axis=1)))
                for k in range(n // 4):
                    ways = np.linspace(begin + 360 / n * k, begin + 360 / n * (k + 1), 41)
                    gap = max(gap, _off_facet(ring(radius, ways) + middle, corners[c]))
                for k in range(n // 4 + 1):
                    lines.add((c, round(begin / (360 / n)) % n + k))
            sizes = {
                (c, k % n): float(np.linalg.norm(ring(radius, np.array([360 / n * k]))[0] + middle - corners[c]))
                for c, k in lines
            }
            at = (int(v["seam"]) - 1) % n
            outline = 2 * (long + wide) + 2 * math.pi * radius
            here = ring(radius, np.array([360 / n * at]))[0] + middle
            several = [size for (c, k), size in sizes.items() if k == at]
            on_side = at % (n // 4) == 0
            if on_side:
                side = [c for (c, k) in sizes if k == at]
                seam = float(np.linalg.norm(here - corners[side].mean(axis=0)))
            else:
                (seam,) = several
            all_lines = [*sizes.values(), *([seam] if on_side else [])]
            extra = {"none": 0.0, "base": long * wide, "both": long * wide + math.pi * radius**2}[v["ends"]]
            more = {"none": 0.0, "base": 2 * (long + wide), "both": 2 * (long + wide) + 2 * math.pi * radius}[v["ends"]]
            for k, sides in enumerate(flats, 1):
                np.testing.assert_allclose(sorted(truth.findings[f"flat_sides_{k}"]), sides)  # type: ignore[type-var, arg-type]
            np.testing.assert_allclose(sorted(truth.findings["generator_lengths"]), sorted(all_lines))  # type: ignore[type-var, arg-type]
            return {
                "longest": max(all_lines),
                "shortest": min(all_lines),
                "lateral_area": lateral,
                "area": lateral + extra,
                "perimeter": outline + 2 * seam + more,
                "seam_length": seam,
                "worst_gap": gap,
            }

        self.each("developments/square-to-round", model)

    def test_a_hood_as_flat_as_a_plate_is_still_proved(self) -> None:
        """The surface is nearly creased where it runs along the rim: its integrals must not lose themselves."""
        flat = {"length": "103.437", "width": "128.9", "diameter": "188.217", "offset_x": "11", "offset_y": "12.643"}
        problem = catalogue.problem("developments/square-to-round")
        for height in ("0.001", "0.2", "1.22"):
            found = problem.find_truth(problem.read(flat | {"height": height, "divisions": "4"}), BALL)
            self.assertLess(float(found.findings["lateral_area"].rad()), 1e-15)  # type: ignore[union-attr]
        problem = catalogue.problem("developments/oblique-cone")
        found = problem.find_truth(problem.read({"height": "0.01", "offset": "60"}), BALL)
        self.assertLess(float(found.findings["lateral_area"].rad()), 1e-15)  # type: ignore[union-attr]

    def test_round_to_round(self) -> None:
        def rim(v: Values, ways: Array) -> Array:
            turn = math.radians(v["tilt"])
            flat = ring((v["top_diameter"] + v["thickness"]) / 2, ways)
            out = flat[:, 0]
            return np.stack([v["offset"] + out * math.cos(turn), flat[:, 1], v["height"] + out * math.sin(turn)], axis=1)

        def model(v: Values, truth: Truth) -> Values:
            n, order = int(v["divisions"]), order_of(v, int(v["divisions"]))
            below = v["bottom_diameter"] + v["thickness"]
            ways = 360 / n * np.arange(n)
            low, top = ring(below / 2, ways)[order], rim(v, ways)[order]
            lengths = np.linalg.norm(top - low, axis=1)
            lateral = sum(
                area_of(np.array([low[k], low[k + 1], top[k]])) + area_of(np.array([low[k + 1], top[k + 1], top[k]]))
                for k in range(n)
            )
            flat_low, flat_high = numbered(truth, order, ""), numbered(truth, order, "P")
            self.assert_flat(flat_low, low, v)
            self.assert_flat(flat_high, top, v)
            self.assert_flat(np.array([flat_low, flat_high]).transpose(1, 0, 2).reshape(-1, 2)[1:-1], _zigzag(low, top), v)
            across = [below, v["top_diameter"] + v["thickness"]]
            ends = across[: {"none": 0, "base": 1, "both": 2}[v["ends"]]]
            return {
                "longest": lengths.max(),
                "shortest": lengths.min(),
                "lateral_area": lateral,
                "area": lateral + sum(math.pi / 4 * d * d for d in ends),
                "perimeter": length_of(low) + length_of(top) + 2 * lengths[0] + sum(math.pi * d for d in ends),
                "seam_length": lengths[0],
                "generator_lengths": lengths[:-1],
            }

        self.each("developments/round-to-round", model)

        def gap(v: Values, truth: Truth) -> Values:
            n = int(v["divisions"])
            fine, ways = np.linspace(0.0, 360.0, 1441)[:-1], 360 / n * np.arange(n + 1)
            below = (v["bottom_diameter"] + v["thickness"]) / 2
            whole = ConvexHull(np.vstack([ring(below, fine), rim(v, fine)]))
            of_upper = (whole.simplices >= len(fine)).sum(axis=1)
            hull = whole.equations[(of_upper > 0) & (of_upper < 3)]  # without both ends
            low, top = ring(below, ways), rim(v, ways)
            weights = [(i / 4, j / 4, 1 - (i + j) / 4) for i in range(5) for j in range(5 - i)]
            loops = [(low[k], low[k + 1], top[k]) for k in range(n)] + [(low[k + 1], top[k + 1], top[k]) for k in range(n)]
            spots = np.vstack([np.array(weights) @ np.array(loop) for loop in loops])
            return {"worst_gap": (-(spots @ hull[:, :3].T + hull[:, 3])).min(axis=1).max()}

        self.each("developments/round-to-round", gap, near=4e-4, rounds=5)

    # --------------------------------------------------------------------------------------------------------- pipes
    def test_elbow(self) -> None:
        def model(v: Values, truth: Truth) -> Values:
            across, throat = v["diameter"] + v["thickness"], v["throat_radius"] - v["thickness"] / 2
            joints, n = int(v["pieces"]) - 1, int(v["divisions"])
            mitre = v["bend_angle"] / (2 * joints)
            rise = math.tan(math.radians(mitre))

            def half(ways: Array) -> Array:
                return (throat + across / 2 + across / 2 * np.cos(np.radians(ways))) * rise

            fine = np.linspace(0.0, 360.0, MANY + 1)
            ellipse = np.stack([across / 2 * np.cos(np.radians(fine)), across / 2 * np.sin(np.radians(fine)), half(fine)], 1)
            order = order_of(v, n)
            lengths = half(360 / n * np.array(order))
            blank = joints * (half(np.array([0.0])) + half(np.array([180.0])))[0]
            girth = math.pi * across
            rows = np.array([(p.x, p.y) for name, p in truth.points.items() if name[0] == "A" and "/flat" in name], float)  # type: ignore[union-attr]
            np.testing.assert_allclose(rows[:, 0], np.linspace(0, girth, n + 1), atol=1e-9)
            np.testing.assert_allclose(rows[:, 1], lengths, atol=1e-9)
            return {
                "mitre_angle": mitre,
                "back_length": 2 * (throat + across) * rise,
                "throat_length": 2 * throat * rise,
                "blank_length": blank,
                "girth": girth,
                "lateral_area": girth * blank,
                "area": girth * blank,
                "perimeter": 2 * (girth + blank) + joints * length_of(ellipse),
                "seam_length": lengths[0],
                "generator_lengths": lengths[:-1],
            }

        self.each("developments/elbow", model)

    def test_branch(self) -> None:
        def model(v: Values, truth: Truth) -> Values:
            big, r = (v["main_diameter"] + v["thickness"]) / 2, (v["branch_diameter"] + v["thickness"]) / 2
            turn, n = math.radians(v["angle"]), int(v["divisions"])
            axis, up = np.array([math.sin(turn), 0.0, math.cos(turn)]), np.array([-math.cos(turn), 0.0, math.sin(turn)])
            start = np.array([0.0, v["offset"], 0.0])  # x to the right, y to the front, z up the main pipe

            def ends(ways: Array) -> tuple[Array, Array]:
                w = np.radians(ways)[:, None]
                foot = start + r * (np.cos(w) * np.array([0.0, 1.0, 0.0]) + np.sin(w) * up)
                x = np.sqrt(np.maximum(big**2 - foot[:, 1] ** 2, 0.0))
                reach = (x - foot[:, 0]) / axis[0]
                return foot + reach[:, None] * axis, v["branch_length"] - reach

            order = order_of(v, n)
            _, lengths = ends(360 / n * np.arange(n))
            fine, left = ends(np.linspace(0.0, 360.0, 40 * MANY + 1))
            girth, rim = 2 * math.pi * r, length_of(fine)
            area = float((left[1:] + left[:-1]).sum()) / 2 * girth / (40 * MANY)
            sides = np.degrees(np.arcsin(np.clip((v["offset"] + np.array([r, -r])) / big, -1, 1)))
            lows, highs = laid(truth, n)
            np.testing.assert_allclose(lows[:, 0], np.linspace(0, girth, n + 1), atol=1e-9)
            np.testing.assert_allclose(highs[:, 1] - lows[:, 1], lengths[order], rtol=1e-7, atol=1e-7)
            hole = np.array([(truth.points[f"H{k + 1}"].x, truth.points[f"H{k + 1}"].y) for k in range(n)], dtype=float)  # type: ignore[union-attr]
            at, _ = ends(360 / n * np.arange(n))
            np.testing.assert_allclose(hole[:, 0], big * np.arctan2(at[:, 1], at[:, 0]), rtol=1e-6, atol=1e-6)
            np.testing.assert_allclose(hole[:, 1], at[:, 2], rtol=1e-7, atol=1e-7)
            return {
                "girth": girth,
                "longest": lengths.max(),
                "shortest": lengths.min(),
                "seam_length": lengths[order[0]],
                "generator_lengths": lengths[order[:-1]],
                "hole_width": math.radians(sides[0] - sides[1]) * big,
                "hole_length": np.ptp(fine[:, 2]),
                "lateral_area": area,
                "area": area,
                "perimeter": girth + 2 * lengths[order[0]] + rim,
            }

        self.each("developments/branch", model)

    # ------------------------------------------------------------------------------------------ what cannot be unrolled
    def test_hemisphere(self) -> None:
        def model(v: Values, truth: Truth) -> Values:
            radius, parts = (v["diameter"] + v["thickness"]) / 2, int(v["parts"])
            found: Values = {"lateral_area": 2 * math.pi * radius**2}
            if v["by"] == "gores":
                up = np.linspace(0.0, math.pi / 2, MANY + 1)
                edge = np.stack([math.pi * radius / parts * np.cos(up), radius * up], axis=1)
                bent = np.array([radius, math.pi * radius / parts])
                for k in range(int(v["divisions"])):
                    way = math.radians(90 / v["divisions"] * k)
                    right = truth.points[f"R{k}"]
                    spot = (math.pi * radius / parts * math.cos(way), radius * way)
                    np.testing.assert_allclose((right.x, right.y), spot, atol=1e-9)  # type: ignore[union-attr]
                return found | {
                    "gore_length": math.pi * radius / 2,
                    "gore_width": 2 * math.pi * radius / parts,
                    "slant_lengths": None,
                    "area": 2 * math.pi * radius**2,
                    "perimeter": parts * (2 * length_of(edge) + 2 * math.pi * radius / parts),
                    "worst_gap": np.linalg.norm(bent) - radius,
                }
            ways = np.linspace(0.0, math.pi / 2, parts + 1)
            rims = np.stack([radius * np.cos(ways), radius * np.sin(ways)], axis=1)
            slants = np.linalg.norm(np.diff(rims, axis=0), axis=1)
            sums = rims[1:, 0] + rims[:-1, 0]
            shares = (rims[:-1, 0] - rims[1:, 0]) / slants
            middle = (rims[0] + rims[1]) / 2
            return found | {
                "gore_length": None,
                "slant_lengths": slants,
                "sector_angles": 360 * shares,
                "area": math.pi * float((sums * slants).sum()),
                "perimeter": float((2 * math.pi * sums + 2 * slants).sum()),
                "worst_gap": radius - np.linalg.norm(middle),
            }

        self.each("developments/hemisphere", model)

    def test_tray(self) -> None:
        def model(v: Values, truth: Truth) -> Values:
            long, wide = v["length"] + v["thickness"], v["width"] + v["thickness"]
            high, out = v["height"], v["flange"]
            loop = [(0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide)]
            notched = []
            for (ax, ay), (bx, by) in pairwise([*loop, loop[0]]):
                away = np.array([by - ay, ax - bx]) / math.hypot(bx - ax, by - ay) * (high + out)
                notched += [np.array([ax, ay]), np.array([ax, ay]) + away, np.array([bx, by]) + away]
            outline = np.array(notched)
            x, y = outline.T
            area = abs(float((x * np.roll(y, -1) - y * np.roll(x, -1)).sum())) / 2
            flat = np.array([(p.x, p.y) for name, p in truth.points.items() if "/flat" in name], dtype=float)  # type: ignore[union-attr]
            spots = np.ptp(flat, axis=0)
            spans = np.ptp(outline, axis=0)
            np.testing.assert_allclose(spots, spans, atol=1e-9)
            return {
                "blank_length": spans[0],
                "blank_width": spans[1],
                "lateral_area": 2 * (long + wide) * high,
                "area": area,
                "perimeter": length_of(closed(np.pad(outline, ((0, 0), (0, 1))))),
            }

        self.each("developments/tray", model)

    def test_twisted_strip(self) -> None:
        def model(v: Values, truth: Truth) -> Values:
            far, near, lead = v["outer_diameter"] / 2, v["inner_diameter"] / 2, v["lead"]

            def turn(r: float) -> float:
                return math.hypot(2 * math.pi * r, lead)

            wide, outer, inner = far - near, turn(far), turn(near)
            ring_out = wide * outer / (outer - inner)

            def longer(r: float) -> float:
                return inner + (outer - inner) * (r - near) / wide - turn(r)

            most = minimize_scalar(lambda r: -longer(r), bounds=(near, far), method="bounded", options={"xatol": 1e-10})
            return {
                "blank_outer": 2 * ring_out,
                "blank_inner": 2 * (ring_out - wide),
                "blank_angle": math.degrees(outer / ring_out),
                "outer_length": outer,
                "inner_length": inner,
                "lateral_area": quad(turn, near, far)[0] * v["turns"],
                "area": (outer + inner) / 2 * wide * v["turns"],
                "perimeter": outer + inner + 2 * wide,
                "worst_gap": longer(most.x),
            }

        self.each("developments/twisted-strip", model)


class FoldedUp(unittest.TestCase):
    """The pattern bent at its hinges by the bends of the body."""

    def test_every_exact_pattern_comes_back_to_its_body_whatever_the_seam(self) -> None:
        tried_ones = 0
        for problem, method in exact_patterns():
            rng = random.Random(f"{problem.id}/seams")
            for _ in range(3):
                typed = feasible(problem, method, rng)
                for one in all_seams(problem, typed):
                    found = construct(problem, one, method, PLAIN).findings
                    if "refold_gap" in found:
                        self.assertLess(float(found["refold_gap"]), 1e-9, (problem.id, plain_values(one)))  # type: ignore[arg-type]
                        tried_ones += 1
        self.assertGreater(tried_ones, 200)

    def test_it_is_proved(self) -> None:
        for problem, method in exact_patterns():
            rng = random.Random(f"{problem.id}/balls")
            for _ in range(3):
                found = construct(problem, feasible(problem, method, rng), method, BALL).findings
                if "refold_gap" in found:
                    gap: Any = found["refold_gap"]
                    self.assertLess(float(gap.mid()) + float(gap.rad()), 1e-12, problem.id)

    def test_a_panel_mirrored_or_flipped_is_found(self) -> None:
        wrong = 0
        for each in foldings():
            net, flat, body = each.net, each.flat, each.body
            self.assertLess(panels.refold_gap(net, flat, body), 1e-9)
            mirrored = {name: Point(-p.x, p.y) for name, p in flat.items()}
            self.assertGreater(panels.refold_gap(net, mirrored, body), 0.1)
            for panel in (panel for panel in net if panel.holder >= 0):
                a, c = (np.array([flat[name].x, flat[name].y]) for name in panel.hinge)
                along = (c - a) / np.linalg.norm(c - a)
                flipped = dict(flat)
                for name in set(panel.corners) - set(panel.hinge):
                    off = np.array([flat[name].x, flat[name].y]) - a
                    spot = a + 2 * along * (off @ along) - off
                    flipped[name] = Point(spot[0], spot[1])
                self.assertGreater(panels.refold_gap(net, flipped, body), 1e-3, panel)
                wrong += 1
        self.assertGreater(wrong, 100)

    def test_generators_numbered_one_on_are_found(self) -> None:
        for problem_id in ("cylinder", "cone", "prism", "pyramid", "oblique-cone", "round-to-round"):
            problem = catalogue.problem(f"developments/{problem_id}")
            drawing = draw(problem, problem.read({}), problem.methods[0])
            folding = next(motion.folding for motion in drawing.motions if motion.folding is not None)
            names = [name for name in folding.body if "/flat" in name]
            rows: dict[str, list[str]] = {}
            for name in names:
                rows.setdefault(name[0] if name[0] == "P" else "low", []).append(name)
            shifted = dict(folding.flat)
            for row in rows.values():
                for name, after in zip(row, [*row[1:], row[0]], strict=True):
                    shifted[name] = folding.flat[after]
            self.assertGreater(panels.refold_gap(folding.net, shifted, folding.body), 0.5, problem_id)

    def test_the_slider_begins_flat_and_ends_at_the_body(self) -> None:
        seen = 0
        several = [(each, {}) for each in patterns()]
        several.append((catalogue.problem("developments/hemisphere"), {"by": "zones"}))
        for problem, raw in several:
            typed = problem.read(raw)
            method = next(each for each in problem.methods if problem.serves(each, typed) is None)
            for folding in (motion.folding for motion in draw(problem, typed, method).motions):
                if folding is None:
                    continue
                seen += 1
                begins = [k for k, panel in enumerate(folding.net) if panel.holder < 0]
                body = {tuple(round(float(c), 6) + 0.0 for c in (p.x, p.front, p.above)) for p in folding.body.values()}
                for first, last in pairwise([*begins, len(folding.net)]):
                    spread = self.spread(folding.faces(0.0)[first:last])
                    self.assertLess(spread[2], 1e-6 * spread[0], problem.id)
                    self.assertGreater(self.spread(folding.faces(0.5)[first:last])[2], 1e-3 * spread[0], problem.id)
                for face in folding.faces(1.0):
                    for p in face:
                        self.assertIn(tuple(round(c, 6) + 0.0 for c in p), body, problem.id)
        self.assertEqual(seen, 13)

    def spread(self, faces: list[Any]) -> Array:
        """How far the corners of some faces spread along three directions."""
        places = np.array([p for face in faces for p in face])
        found: Array = np.linalg.svd(places - places.mean(axis=0))[1]
        return found


class Refused(unittest.TestCase):
    """What cannot be laid out is said in one sentence with what can."""

    def test_each_with_a_way_out(self) -> None:
        for problem_id, words, raw in (
            ("cylinder", "passes over the top", {"cut_angle": "45", "cut_height": "62"}),  # it just reaches it
            ("cylinder", "leaves the sides at the base", {"cut_height": "10"}),
            ("cone", "leaves the sides at the base", {"cut_height": "20", "cut_angle": "50"}),
            ("pyramid", "passes over the top", {"cut_height": "72"}),
            ("cylinder", "are not even", {"divisions": "13"}),
            ("square-to-round", "cannot be shared by four corners", {"divisions": "10"}),
            ("prism", "no edge 7 for the seam", {"seam": "7"}),
            ("elbow", "no generator 13 for the seam", {"seam": "13"}),
            ("prism", "too wide for the side", {"lap": "12"}),
            ("cone", "too wide for a division of the cut", {"lap": "5"}),
            ("cylinder", "thicker than the radius", {"thickness": "25"}),
            ("round-to-round", "thicker than the radius", {"thickness": "23"}),
            ("prism", "thicker than half", {"thickness": "12"}),
            ("round-to-round", "reaches down to the lower one", {"tilt": "60", "height": "12"}),
            ("oblique-cone", "passes over the apex", {"top_height": "66"}),
        ):
            problem = catalogue.problem(f"developments/{problem_id}")
            with self.subTest(problem=problem_id, raw=raw):
                with self.assertRaises(Infeasible) as caught:
                    problem.read(raw)
                self.assertIn(words, str(caught.exception))
                self.assertTrue(caught.exception.offer)
                problem.read(raw | caught.exception.offer)
        with self.assertRaises(BadGiven):
            catalogue.problem("developments/elbow").read({"pieces": "1"})

    def test_laps_on_the_seam_alone_need_no_room_elsewhere(self) -> None:
        catalogue.problem("developments/cone").read({"lap": "8", "lap_on": "the seam", "cut": "left whole"})


class Laps(unittest.TestCase):
    """Laps hang outside, and none covers another or the sheet."""

    def test_no_lap_covers_another_or_the_pattern(self) -> None:
        several = 0
        for problem in patterns():
            if "lap" not in problem.read({}):
                continue
            rng = random.Random(f"{problem.id}/laps")
            for _ in range(LAPPED):
                method = rng.choice(problem.methods)
                typed = feasible(problem, method, rng)
                with recorded() as (drawn, outlines):
                    draw(problem, problem.served_by(method, typed), method)
                for strips_of in drawn:
                    for k, one in enumerate(strips_of):
                        if math.dist(one[0], one[1]) < 1e-6:
                            continue  # there is no room for any
                        others = (*strips_of[:k], *strips_of[k + 1 :], *outlines)
                        covered = [spot for spot in inside_of(one) if any(is_inside(other, spot) for other in others)]
                        self.assertEqual(len(covered), 0, (problem.id, plain_values(typed), one))
                        several += 1
        self.assertGreater(several, 200)


class Said(unittest.TestCase):
    """What is said of a pattern besides its lengths."""

    def said(self, problem_id: str, **raw: str) -> str:
        problem = catalogue.problem(f"developments/{problem_id}")
        drawing = draw(problem, problem.read(raw), problem.methods[0])
        return " ".join(words for step in drawing.steps for words in step.cautions)

    def test_the_least_box_is_the_least_of_all_turns(self) -> None:
        rng = np.random.default_rng(5)
        for _ in range(30):
            spots = rng.normal(size=(rng.integers(3, 40), 2)) * rng.uniform(1, 100, 2)
            long, wide = least_box([(float(x), float(y)) for x, y in spots])
            turns = np.radians(np.linspace(0.0, 180.0, 3601))
            ways = np.stack([np.cos(turns), np.sin(turns)])
            areas = np.ptp(spots @ ways, axis=0) * np.ptp(spots @ np.stack([-ways[1], ways[0]]), axis=0)
            self.assertLessEqual(long * wide, areas.min() * (1 + 1e-9))
            self.assertGreater(long * wide, areas.min() * 0.98)

    def test_the_sheet_that_is_named_counts_the_laps(self) -> None:
        self.assertIn("a sheet of 132 mm × 63.7 mm", self.said("prism"))
        self.assertIn("a sheet of 132 mm × 84 mm", self.said("prism", cut="left whole"))
        self.assertIn("a sheet of 137 mm × 94 mm", self.said("prism", cut="left whole", lap="5"))

    def test_laps_hang_where_they_are_wanted(self) -> None:
        problem = catalogue.problem("developments/prism")
        for where, count in (
            ("all edges", 13),
            ("the seam", 1),
            ("both rims", 12),
            ("the lower rim", 6),
            ("the upper rim", 6),
        ):
            drawing = draw(problem, problem.read({"lap": "4", "lap_on": where}), problem.methods[0])
            edges = [act.on for step in drawing.steps for act in step.acts if act.do == "lap"]
            self.assertEqual(len(edges), count, where)
            on_upper = sum(all(str(name)[0] in "123456(" for name in on) for on in edges)
            self.assertEqual(on_upper >= 5, where not in ("the seam", "the lower rim"), (where, edges))

    def test_halves_are_alike_only_where_they_are(self) -> None:
        words = "Both halves are alike"
        for problem_id in ("cylinder", "cone", "oblique-cone", "square-to-round", "round-to-round"):
            self.assertIn(words, self.said(problem_id), problem_id)
            self.assertNotIn(words, self.said(problem_id, seam="2"), problem_id)
        self.assertIn(words, self.said("cylinder", seam="7"))
        self.assertNotIn(words, self.said("square-to-round", offset_y="4"))
        self.assertNotIn(words, self.said("round-to-round", tilt="20"))  # the diagonals of its bent facets all go one way
        self.assertNotIn(words, self.said("rectangle-to-rectangle"))
        self.assertIn(words, self.said("rectangle-to-rectangle", seam="side_2"))

    def test_a_shorter_seam_is_named_with_what_it_saves(self) -> None:
        self.assertIn("The seam at generator 7 would be 32.4 mm shorter", self.said("cylinder"))
        self.assertNotIn("shorter", self.said("cylinder", seam="7"))


def patterns() -> list[Problem]:
    return [catalogue.problem(each) for each in catalogue.ids() if each.startswith("developments/")]


def exact_patterns() -> list[tuple[Problem, Method]]:
    return [(p, m) for p in patterns() for m in p.methods if m.exactness is not Exactness.APPROXIMATE]


def all_seams(problem: Problem, typed: Typed) -> list[Typed]:
    """The same givens with the seam on every line that it may lie on."""
    texts = {name: value if isinstance(value, str) else value.text for name, value in typed.items()}
    several = SEAMS if problem.id == "developments/rectangle-to-rectangle" else tuple(map(str, range(1, 49)))
    found: list[Typed] = []
    for seam in several if "seam" in typed else ():
        try:
            found.append(problem.read(texts | {"seam": seam}, offers=False))
        except WiseCompassError:  # there are no more, or its lap is too wide for this one
            continue
    return found or [typed]


def foldings() -> list[Folding]:
    """The patterns of the defaults, with their nets."""
    drawings = [draw(problem, problem.read({}), problem.methods[0]) for problem in patterns()]
    return [motion.folding for each in drawings for motion in each.motions if motion.folding is not None]


class recorded:  # noqa: N801 (reads like a word)
    """The laps and outlines that are drawn while it lasts: of every piece its laps, and all outlines."""

    def __enter__(self) -> tuple[list[list[Any]], list[list[tuple[float, float]]]]:
        self.laps: list[list[Any]] = []
        self.outlines: list[list[tuple[float, float]]] = []
        lay, finish = pattern.laps, pattern._draw_laps

        def laps(*given: Any) -> Any:
            found = lay(*given)
            self.laps.append(found)
            return found

        def outlined(b: Any, g: Any, strip: Any) -> None:
            loops = [strip.outline, *(loop for end, loop in strip.ends.items() if not end)]  # the upper end lies apart
            self.outlines += [[(float(p.x), float(p.y)) for p in loop] for loop in loops]
            finish(b, g, strip)

        self.patches = [mock.patch.object(pattern, "laps", laps), mock.patch.object(pattern, "_draw_laps", outlined)]
        for patch in self.patches:
            patch.start()
        return self.laps, self.outlines

    def __exit__(self, *_: object) -> None:
        for patch in self.patches:
            patch.stop()


def inside_of(quad: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """Places well inside a four-sided figure."""
    corners = np.array(quad)
    shares = (0.02, 0.25, 0.5, 0.75, 0.98)
    return [
        tuple((corners[0] * (1 - u) + corners[3] * u) * (1 - w) + (corners[1] * (1 - u) + corners[2] * u) * w)
        for u in shares
        for w in shares
    ]


def is_inside(loop: Sequence[tuple[float, float]], spot: tuple[float, float]) -> bool:
    """Whether a place lies within a loop, by how often a ray to the right crosses it."""
    x, y = spot
    crossed = False
    for (x1, y1), (x2, y2) in zip(loop, [*loop[1:], loop[0]], strict=True):
        if (y1 > y) != (y2 > y) and x < x1 + (y - y1) * (x2 - x1) / (y2 - y1):
            crossed = not crossed
    return crossed


def _zigzag(lows: Array, highs: Array) -> Array:
    """High, next low, next high, and so on: every other step is a diagonal."""
    return np.array([lows, highs]).transpose(1, 0, 2).reshape(-1, 3)[1:-1]


def _off_facet(arc: Array, apex: Array) -> float:
    """How far an arc stands off the facet on its chord, at most."""
    way = np.cross(arc[0] - apex, arc[-1] - apex)
    return float(np.abs((arc - apex) @ way).max() / np.linalg.norm(way))


def _ends_of_axis(v: Values, radius: float) -> Sequence[float]:
    return [math.hypot(v["offset"] - x, v["height"]) for x in (radius, -radius)]


if __name__ == "__main__":
    unittest.main()
