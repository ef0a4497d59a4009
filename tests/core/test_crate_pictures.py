"""Bodies of parts in five pictures: corners against a body that is turned in space and looked at along rays, and what
cannot be pictured."""

from __future__ import annotations

import cmath
import math
import os
import random
import unittest
from collections.abc import Sequence
from itertools import product
from typing import Any

import numpy as np

from tests.core import random_bodies
from tests.core.redrawing import acts_of, given_numbers
from tests.core.test_pictures import MOST_STEPS, seen
from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.catalogue.pictorial.projections import PROJECTIONS
from wisecompass.catalogue.solids.crate_plan import in_floats, plan_of
from wisecompass.drafting import marks
from wisecompass.drafting.blind import Hand
from wisecompass.drafting.errors import Infeasible
from wisecompass.drafting.givens import Typed, bind
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import certify, construct, draw, steps_told
from wisecompass.folio.dimensions import expanded, stacked
from wisecompass.folio.paper import text_width
from wisecompass.geometry.parts import bounds
from wisecompass.geometry.surfaces import across
from wisecompass.judgement.hands import OnPaper, probe

BODIES = max(6, int(os.environ.get("WISE_COMPASS_ROUNDS", "50")) // 8)
PICTURES, VIEWS = catalogue.problem("pictorial/crates"), catalogue.problem("solids/crates")
WAY = PICTURES.methods[0]
PEDESTAL = VIEWS.given_list[0].default
FLAT = ("box", "wedge", "prism")


def looked_at(values: dict[str, Any], place: Sequence[float], length: float) -> tuple[float, float]:
    """Where a place (from the low corner: along the front, back, up) is seen, from the image of the corner that the picture
    begins from."""
    x, y, z = place
    if values["projection"] == "isometric":
        u, v = seen(np.array([[length - x, y, z]]), values["scale"])[0]
        return float(u), float(v)
    if values["projection"].startswith("oblique"):
        share = 0.5 if values["projection"].endswith("cabinet") else 1.0
        slant = math.radians(values["receding_angle"])
        side = 1 if values["recedes"] == "up right" else -1
        return x + side * share * y * math.cos(slant), z + share * y * math.sin(slant)
    turn = math.radians(values["turned"]) if values["projection"] == "two-point" else 0.0
    aside = 0.0 if turn else values["eye_right"]
    # the body stands in a room whose picture plane is y = 0; the eye stands before it
    room = np.array([x * math.cos(turn) - y * math.sin(turn), x * math.sin(turn) + y * math.cos(turn), z])
    eye = np.array([aside, -values["eye_distance"], values["eye_height"]])
    ray = room - eye
    at = eye + ray * (-eye[1] / ray[1])
    return float(at[0]), float(at[2])


def picturable(rng: random.Random, projection: str, kinds: tuple[str, ...] = FLAT, **more: str) -> Typed:
    """A random body that the picture can show."""
    while True:
        raw = {"parts": random_bodies.text(rng, kinds, 5), "projection": projection, **more}
        raw |= {"receding_angle": str(rng.randint(10, 80)), "turned": str(rng.randint(1, 89))}
        raw |= {"eye_distance": str(rng.randint(60, 400)), "eye_height": str(rng.randint(1, 200))}
        raw |= {"eye_right": str(rng.randint(-100, 150)), "recedes": rng.choice(("up right", "up left"))}
        raw |= {"scale": rng.choice(("natural", "isometric"))}
        try:
            typed = PICTURES.read(raw)
            PICTURES.require_method(WAY, typed)
            construct(PICTURES, typed, WAY, PLAIN)
        except Infeasible:
            continue
        return typed


def words(typed: Typed) -> dict[str, Any]:
    g = bind(PICTURES.givens, typed, PLAIN)
    return {item.name: getattr(g, item.name) for item in PICTURES.given_list}


class Corners(unittest.TestCase):
    def test_every_corner_is_where_a_ray_meets_the_picture(self) -> None:
        rng = random.Random("pictures")
        for projection in PROJECTIONS:
            told = 0
            for k in range(BODIES):
                typed = picturable(rng, projection, hidden_edges="dashed" if k % 2 else "left out")
                told += self.look(typed)
            self.assertGreater(told, 4 * BODIES, projection)

    def test_faces_that_are_seen_from_their_edges(self) -> None:
        """The eye in the plane of a side, of the base's own too, and at the height of a top."""
        rng = random.Random("edges on")
        for right in ("0", "20", "40", "60"):
            for high in ("15", "30", "70"):
                typed = PICTURES.read(
                    {
                        "parts": "box 60 40 30 at 0 0 0; less box 20 40 15 at 20 0 15",
                        "projection": "one-point",
                        "eye_right": right,
                        "eye_height": high,
                        "eye_distance": str(rng.randint(200, 400)),
                        "hidden_edges": rng.choice(("dashed", "left out")),
                    }
                )
                ends_on = (right, high) in {*product(("0", "60"), ("30",)), *product(("20", "40"), ("15", "30"))}
                with self.subTest(right=right, high=high):
                    if not ends_on:
                        self.assertGreater(self.look(typed), 4)
                        self.assertTrue(all(check.holds for check in certify(PICTURES, typed, WAY).checks))
                        continue
                    with self.assertRaisesRegex(Infeasible, "leads straight to an eye .* from .* it is a line") as refused:
                        construct(PICTURES, typed, WAY, PLAIN)
                    raw = {name: value if isinstance(value, str) else value.text for name, value in typed.items()}
                    self.assertGreater(self.look(PICTURES.read({**raw, **refused.exception.offer})), 4)

    def look(self, typed: Typed) -> int:
        """Compare the named corners of a picture with rays from the eye; how many there are."""
        values = words(typed)
        board = construct(PICTURES, typed, WAY, PLAIN)
        plan = plan_of(in_floats(values["parts"]))
        added = [part for part in in_floats(values["parts"]) if not part.taken]
        ends = [p.at[0] if p.kind == "prism" and p.axis != 0 else float(bounds(p)[1][0]) for p in added]
        told = 0
        for name, corner in plan.named.items():
            if name in board.points:
                told += 1
                point = board.points[name]
                x, y = looked_at(values, plan.place(corner), max(ends) - plan.low[0])
                self.assertAlmostEqual(float(point.x), x, delta=1e-7 * plan.body.model.size, msg=typed["parts"])  # type: ignore[arg-type]
                self.assertAlmostEqual(float(point.y), y, delta=1e-7 * plan.body.model.size)  # type: ignore[union-attr]
        return told

    def test_a_picture_is_certain_and_both_routes_meet(self) -> None:
        rng = random.Random("certain pictures")
        for projection in PROJECTIONS:
            for _ in range(3):
                certificate = certify(PICTURES, picturable(rng, projection), WAY)
                self.assertEqual(certificate.deviation.worst, 0.0)
                self.assertTrue(all(check.holds for check in certificate.checks))

    def test_views_and_pictures_of_one_list_have_one_volume_and_one_list_of_corners(self) -> None:
        for parts in (PEDESTAL, "box 60 40 20 at 0 0 0; prism 6 9 20 at 30 20 20 along up"):
            views = VIEWS.find_truth(VIEWS.read({"parts": parts}), PLAIN)
            for projection in PROJECTIONS:
                picture = PICTURES.find_truth(PICTURES.read({"parts": parts, "projection": projection}), PLAIN)
                self.assertAlmostEqual(float(views.findings["volume"]), float(picture.findings["volume"]), delta=1e-6)  # type: ignore[arg-type]
                self.assertEqual(set(views.points), set(picture.points))

    def test_lengths_of_the_whole_are_those_of_its_corners(self) -> None:
        for projection in PROJECTIONS:
            raw = {"parts": "box 50 30 20 at 0 0 0", "projection": projection}
            typed = PICTURES.read(raw)
            told, values = PICTURES.find_truth(typed, PLAIN).findings, words(typed)
            base = (50.0, 0.0, 0.0) if projection == "isometric" else (0.0, 0.0, 0.0)
            for name, axis, size in (("length_drawn", 0, 50.0), ("depth_drawn", 1, 30.0), ("height_drawn", 2, 20.0)):
                ends = [list(base), list(base)]
                ends[0][axis], ends[1][axis] = 0.0, size
                spots = [looked_at(values, end, 50.0) for end in ends]
                self.assertAlmostEqual(float(told[name]), math.dist(*spots), delta=1e-9)  # type: ignore[arg-type]

    def test_a_picture_begins_from_its_nearest_lower_corner(self) -> None:
        """There is a corner of the body at its beginning; in isometric it is the lowest, all others lie to both sides."""
        for projection in PROJECTIONS:
            points = PICTURES.find_truth(PICTURES.read({"parts": PEDESTAL, "projection": projection}), PLAIN).points
            spots = [(float(p.x), float(p.y)) for p in points.values()]  # type: ignore[union-attr]
            self.assertTrue(any(math.hypot(*spot) < 1e-9 for spot in spots), projection)
            if projection == "isometric":
                self.assertAlmostEqual(min(y for _, y in spots), 0.0, delta=1e-9)
                self.assertLess(min(x for x, _ in spots), -60.0)
                self.assertGreater(max(x for x, _ in spots), 30.0)


class Rounds(unittest.TestCase):
    def test_a_bore_that_faces_the_picture_is_a_circle_in_it(self) -> None:
        for projection, radius in (("oblique-cavalier", 11.0), ("one-point", 11.0)):
            drawing = draw(PICTURES, PICTURES.read({"parts": PEDESTAL, "projection": projection}), WAY)
            whole = [m for m in drawing.marks if isinstance(m, marks.Arc) and m.pen is Pen.OUTLINE and abs(m.sweep) == 360]
            self.assertAlmostEqual(max(m.radius for m in whole), radius, delta=1e-9)

    def test_contours_of_cylinders_touch_their_rims(self) -> None:
        """The straight outlines of an upright cylinder are as far apart as its rim is wide."""
        drawing = draw(PICTURES, PICTURES.read({"parts": "cylinder 40 60 at 0 0 0 along up"}), WAY)
        uprights = [m for m in drawing.marks if isinstance(m, marks.Segment) and m.pen is Pen.OUTLINE]
        self.assertEqual(len(uprights), 2)
        xs = sorted(m.x1 for m in uprights)
        self.assertAlmostEqual(xs[1] - xs[0], 40 * math.sqrt(1.5), delta=1e-6)

    def test_cylinders_and_cones_are_exact_in_every_picture_that_can_have_them(self) -> None:
        """Contours are read off flat rims: their ends lie on the true rims, and every corner where a ray puts it."""
        rng = random.Random("round pictures")
        for projection in PROJECTIONS:
            told = 0
            for _ in range(max(4, BODIES // 3)):
                hidden = rng.choice(("dashed", "left out"))
                typed = picturable(rng, projection, ("box", "wedge", "cylinder", "cone"), hidden_edges=hidden)
                certificate = certify(PICTURES, typed, WAY)
                self.assertLess(certificate.deviation.worst, 1e-9, typed["parts"])
                told += any(part.is_round for part in words(typed)["parts"])
            self.assertGreater(told, 1, projection)

    def test_contours_of_cones_touch_their_rims_in_every_picture(self) -> None:
        """From an apex the outline of a cone is as wide as any line of its mantle is seen to swing."""
        for projection, axis in product(PROJECTIONS, ("up", "right")):
            parts = f"cone 40 70 at 30 25 22 along {axis}"
            typed = PICTURES.read({"parts": parts, "projection": projection, "eye_height": "150", "eye_right": "-60"})
            values = words(typed)
            drawing = draw(PICTURES, typed, WAY)
            part = values["parts"][0]
            low = [float(c) for c in bounds(part)[0]]
            length = float(bounds(part)[1][0]) - low[0]

            def spot(turn: float, share: float, part: Any = part, low: Any = low, length: float = length) -> complex:
                u, v = across(part.axis)
                place = [float(c) for c in part.at]
                place[part.axis] += 70 * share
                place[u], place[v] = (
                    place[u] + 20 * (1 - share) * math.cos(turn),
                    place[v] + 20 * (1 - share) * math.sin(turn),
                )
                return complex(*looked_at(values, [c - start for c, start in zip(place, low, strict=True)], length))  # noqa: B023

            apex = spot(0.0, 1.0)
            ways = [cmath.phase(spot(math.radians(k / 10), 0.0) - apex) for k in range(3600)]
            outlines = [
                (complex(m.x1, m.y1), complex(m.x2, m.y2))
                for m in drawing.marks
                if isinstance(m, marks.Segment) and m.pen is Pen.OUTLINE
            ]
            self.assertEqual(len(outlines), 2, (projection, axis))
            middle = cmath.phase(sum(cmath.rect(1.0, way) for way in ways))
            swing = [cmath.phase(cmath.rect(1.0, way - middle)) for way in ways]
            found = []
            for ends in outlines:
                rim = max(ends, key=lambda end: abs(end - apex))
                found.append(cmath.phase(cmath.rect(1.0, cmath.phase(rim - apex) - middle)))
            self.assertAlmostEqual(min(found), min(swing), delta=1e-5)
            self.assertAlmostEqual(max(found), max(swing), delta=1e-5)


class FromTheViews(unittest.TestCase):
    """What no number of the parts gives is taken from the views that stand beside the picture."""

    CUT = "box 60 44 10 at 0 0 0; cone 40 52 at 30 22 10 along up; less wedge 60 44 40 at 0 0 22 rising right"

    def points(self, typed: Typed) -> list[complex]:
        """The points of the curves as a blind hand has drawn them, from the corner that the picture begins from."""
        board = construct(PICTURES, typed, WAY, PLAIN)
        hand = Hand(given_numbers(typed), 1)
        hand.draw(acts_of(board))
        steps = [step for step in board.steps if step.verb == "fair curve"]
        return [hand.points[str(name)] - hand.points["A"] for step in steps for act in step.acts for name in act.on]

    def test_a_cut_cone_is_plotted_by_its_ellipse(self) -> None:
        for projection in PROJECTIONS:
            typed = PICTURES.read({"parts": self.CUT, "projection": projection, "eye_height": "130"})
            values = words(typed)
            curve = []
            for k in range(20_000):  # along every generator to the slope, to the level below it, and to the rim
                c, s = math.cos(math.tau * k / 20_000), math.sin(math.tau * k / 20_000)
                share = (62 - 22 - 30 * 40 / 60) / (52 + c * 20 * 40 / 60)  # of the generator, from the apex
                curve.append(complex(*looked_at(values, (30 + 20 * share * c, 22 + 20 * share * s, 62 - 52 * share), 60)))
                for radius, level in ((20 * 40 / 52, 22), (20, 10)):
                    curve.append(complex(*looked_at(values, (30 + radius * c, 22 + radius * s, level), 60)))
            sampled = np.array(curve)
            found = self.points(typed)
            self.assertGreater(len(found), 11, projection)
            for point in found:
                self.assertLess(float(np.abs(sampled - point).min()), 5e-3, projection)

    def test_pipes_that_cross_are_plotted(self) -> None:
        """Each point of their curve is one generator of the one and one of the other: on both cylinders."""
        parts = "cylinder 30 60 at 0 0 0 along up; cylinder 20 60 at -30 3 30 along right"
        found = self.points(PICTURES.read({"parts": parts, "projection": "isometric"}))
        curve = []
        for k in range(40_000):
            c, s = math.cos(math.tau * k / 40_000), math.sin(math.tau * k / 40_000)
            y, z = 3 + 10 * c, 30 + 10 * s
            for x in (math.sqrt(225 - y * y), -math.sqrt(225 - y * y)):
                curve.append(complex(*seen(np.array([[30 - x, y + 15, z]]), "natural")[0]))
            for level in (0, 60):
                curve.append(complex(*seen(np.array([[30 - 15 * c, 15 + 15 * s, level]]), "natural")[0]))
            for x in (-30, 30):
                curve.append(complex(*seen(np.array([[30 - x, y + 15, z]]), "natural")[0]))
        sampled = np.array(curve)
        self.assertGreater(len(found), 20)
        for point in found:
            self.assertLess(float(np.abs(sampled - point).min()), 5e-3)

    def test_cones_that_cross_are_plotted(self) -> None:
        """Every generator of the one is followed to where it goes through the other, and to both rims."""
        parts = "cone 44 60 at 0 0 0 along up; cone 26 60 at -28 2 16 along right"
        found = self.points(PICTURES.read({"parts": parts, "projection": "isometric"}))
        curve = []
        for k in range(20_000):
            c, s = math.cos(math.tau * k / 20_000), math.sin(math.tau * k / 20_000)
            way = np.array([-1.0, c * 13 / 60, s * 13 / 60])  # from the apex at 32, 2, 16; the other's at 0, 0, 60
            share = (22 / 60) ** 2
            a = way[0] ** 2 + way[1] ** 2 - share * way[2] ** 2
            half = 32 * way[0] + 2 * way[1] - share * (16 - 60) * way[2]
            rest = 32**2 + 2**2 - share * 44**2
            places = [np.array([32.0, 2, 16]) + 60 * way, np.array([22 * c, 22 * s, 0])]
            if half * half >= a * rest:
                roots = [(-half + sign * math.sqrt(half * half - a * rest)) / a for sign in (1, -1)]
                places += [np.array([32.0, 2, 16]) + t * way for t in roots if 0 <= t <= 60]
            for x, y, z in places:
                curve.append(complex(*seen(np.array([[32 - x, y + 22, z]]), "natural")[0]))
        sampled = np.array(curve)
        self.assertGreater(len(found), 20)
        for point in found:
            self.assertLess(float(np.abs(sampled - point).min()), 1e-2)

    def test_hands_that_draw_first_stray_once(self) -> None:
        """What is to be taken from the views is found out before any hand begins."""
        parts = self.CUT.replace("52", "51")  # drawn nowhere else
        sheet = OnPaper(PICTURES, PICTURES.read({"parts": parts}), WAY)
        first, again = (len(probe(sheet).draws) for _ in range(2))
        self.assertEqual(first, again)

    def test_what_leads_nowhere_in_the_picture_comes_from_the_views(self) -> None:
        """Pieces so short that they look straight, curves whose ends nothing leads to, lengths that are not on the isometric
        scale: bodies of which one such thing had the whole picture refused."""
        for seed in (70002, 70095, 70099, 70123, 70170, 70199, 70205, 70208, 70214, 70242):
            rng = random.Random(seed)
            raw = {"parts": random_bodies.text(rng, random_bodies.KINDS, 6), "projection": rng.choice(PROJECTIONS)}
            raw |= {"hidden_edges": rng.choice(["left out", "dashed"]), "scale": rng.choice(["natural", "isometric"])}
            typed = PICTURES.read(raw)
            with self.subTest(seed=seed):
                self.assertTrue(construct(PICTURES, typed, WAY, PLAIN).steps)

    def test_few_bodies_are_refused_and_of_flat_ones_none(self) -> None:
        rng = random.Random("few refused")
        for kinds, most in ((FLAT, 0), (random_bodies.KINDS, max(1, BODIES // 20))):
            refused = []
            for _ in range(2 * BODIES):
                raw = {"parts": random_bodies.text(rng, kinds, 4), "projection": rng.choice(PROJECTIONS)}
                try:
                    typed = PICTURES.read(raw)
                except Infeasible:
                    continue
                try:
                    PICTURES.require_method(WAY, typed)
                    construct(PICTURES, typed, WAY, PLAIN)
                except Infeasible:
                    refused.append(raw)
            self.assertLessEqual(len(refused), most, refused)


class Far(unittest.TestCase):
    def test_an_eye_in_the_body_is_refused_with_one_before_it(self) -> None:
        raw = {"parts": "prism 6 60 40 at 0 0 0 along up", "eye_distance": "40"}
        for projection in ("one-point", "two-point"):
            with self.assertRaises(Infeasible) as refused:
                PICTURES.read({**raw, "projection": projection})
            typed = PICTURES.read({**raw, "projection": projection, **refused.exception.offer})
            self.assertTrue(draw(PICTURES, typed, WAY).marks)
        PICTURES.read({**raw, "projection": "isometric"})

    def test_vanishing_points_ten_metres_away_are_broken_off_with_their_distance(self) -> None:
        drawing = draw(PICTURES, PICTURES.read({"projection": "two-point", "turned": "1", "eye_distance": "200"}), WAY)
        said = [mark.text for mark in drawing.marks if isinstance(mark, marks.Break)]
        self.assertTrue(any(text.startswith("VR 114") for text in said), said)

    def test_the_words_of_lines_that_are_broken_off_do_not_lie_on_each_other(self) -> None:
        signs = [
            marks.Break(x=x, y=0.0, angle=angle, text=f"e{k} 197.97 from K1")
            for k, (x, angle) in enumerate(
                ((0.0, -90.0), (6.0, -80.0), (12.0, -100.0), (0.0, 90.0), (5.0, 90.0), (40.0, 0.0))
            )
        ]
        boxes = []
        for sign in stacked(signs, 1.0):
            (words,) = (piece for piece in expanded(sign) if isinstance(piece, marks.Text))
            wide = text_width(words.text, words.height)
            left = words.x - {"left": 0.0, "centre": wide / 2, "right": wide}[words.anchor]
            boxes.append((left, words.y, left + wide, words.y + words.height))
        for k, one in enumerate(boxes):
            for other in boxes[:k]:
                lies_on = one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]
                self.assertFalse(lies_on, (one, other))

    def test_twelve_flat_parts_take_at_most_forty_steps(self) -> None:
        rng = random.Random("steps of pictures")
        for projection in PROJECTIONS:
            parts = "; ".join(random_bodies.text(rng, ("box",), 2) for _ in range(6)).replace("less ", "")
            typed = PICTURES.read({"parts": parts, "projection": projection, "hidden_edges": "dashed"})
            self.assertLessEqual(len(steps_told(PICTURES, typed, WAY)), MOST_STEPS, projection)
