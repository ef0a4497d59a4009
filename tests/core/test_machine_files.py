"""Strokes and programs for machines: lengths against the proof, what is drawn against the marks, order, profiles."""

from __future__ import annotations

import json
import math
import random
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path

from shapely import LineString, Point, Polygon, STRtree

from wisecompass import catalogue
from wisecompass.arithmetic import PLAIN
from wisecompass.drafting import marks
from wisecompass.drafting.errors import BadDocument, BadGiven, WiseCompassError
from wisecompass.drafting.marks import Arc, Ellipse, Mark, Segment, Text, sampled
from wisecompass.drafting.pens import STROKES, Pen
from wisecompass.drafting.problem import Problem
from wisecompass.drafting.solve import certify, draw
from wisecompass.exchange.gcode import job
from wisecompass.exchange.gcode_picture import picture
from wisecompass.exchange.gcode_reading import NotUnderstood, drawn
from wisecompass.exchange.machine import NAMED, SIMULATED, Profile, named_profile, profile_json, read_profile
from wisecompass.exchange.strokes import (
    FAIRED,
    PEN_ORDER,
    Stroke,
    Way,
    arcs_along,
    joined,
    length_by_pen,
    not_written,
    ordered,
    pens_named,
    strokes_of,
    travel,
)
from wisecompass.folio import store
from wisecompass.folio.page import final
from wisecompass.folio.print import sheet_page

LARGE = replace(SIMULATED, width=1e5, height=1e5, shift_x=4e4, shift_y=4e4)
"""A machine that reaches everywhere."""


def cut_marks(problem: Problem, method_name: str) -> list[Mark]:
    drawing = draw(problem, problem.read({}), problem.method(method_name))
    return [mark for mark in drawing.marks if mark.pen is Pen.CUT and mark.block == "pattern"]


class Lengths(unittest.TestCase):
    """What a cutter cuts is as long as the proof says."""

    def test_cut_as_long_as_the_perimeter(self) -> None:
        """Of every pattern that is exact, the program's cut, read back, is the proved perimeter within what its decimals
        round; of gores so many are cut."""
        held = 0
        for problem_id in catalogue.ids():
            problem = catalogue.problem(problem_id)
            if "perimeter" not in problem.findings or not problem_id.startswith("developments/"):
                continue
            method = problem.methods[0]
            answers = {a.name: a for a in certify(problem, problem.read({}), method).answers}
            (ball,) = answers["perimeter"].balls
            wanted = float(ball.value)
            program = job(ordered(strokes_of(cut_marks(problem, method.name)), (Pen.CUT,)), LARGE)
            back, _ = drawn(program.text, LARGE)
            length = sum(stroke.length for stroke in back)
            if method.pieces:
                length *= float(problem.read({})[method.pieces].evaluate(PLAIN))
            faceted = "triangulation" in method.name and problem_id != "developments/rectangle-to-rectangle"
            with self.subTest(problem_id):
                self.assertAlmostEqual(length, wanted, delta=0.006 * wanted if faceted else 0.02)
                held += 1
        self.assertGreaterEqual(held, 12)

    def test_ellipses_against_their_perimeter(self) -> None:
        for a, b in ((40, 25), (90, 8), (12, 12)):
            h = ((a - b) / (a + b)) ** 2
            around = math.pi * (a + b) * (1 + h / 4 + h**2 / 64 + h**3 / 256 + 25 * h**4 / 16384 + 49 * h**5 / 65536)
            mark = Ellipse(cx=3, cy=4, semi_major=a, semi_minor=b, angle=31, pen=Pen.CUT)
            (stroke,) = strokes_of([mark])
            self.assertTrue(stroke.closed)
            self.assertAlmostEqual(stroke.length, around, delta=0.01 if b > 10 else 0.6)


class Faired(unittest.TestCase):
    """Arcs for curves."""

    def test_random_pieces(self) -> None:
        """Of random cubics every place lies on an arc within the tolerance, arcs follow one another and are tangent where
        the curve is smooth, and there are few of them."""
        chance = random.Random(7)
        for _ in range(300):
            x = [chance.uniform(0, 80) for _ in range(8)]
            piece = ((x[0], x[1]), (x[2], x[3]), (x[4], x[5]), (x[6], x[7]))
            ways = list(arcs_along(piece))
            self.assertLess(len(ways), 600)
            for one, other in zip(ways, ways[1:], strict=False):
                self.assertLess(math.dist(one.end, other.start), 1e-6)
            line = LineString([p for way in ways for p in (way.start, *way.points(1e-4))])
            for k in range(41):
                t = k / 40
                place = [
                    (1 - t) ** 3 * p + 3 * t * (1 - t) ** 2 * q + 3 * t * t * (1 - t) * r + t**3 * s
                    for p, q, r, s in zip(*piece, strict=True)
                ]
                self.assertLess(line.distance(Point(place)), 2 * FAIRED)

    def test_a_circle_of_pieces_comes_back_as_arcs_of_its_radius(self) -> None:
        pull = 4 / 3 * math.tan(math.pi / 16) * 30
        for k in range(8):
            t, u = math.pi / 4 * k, math.pi / 4 * (k + 1)
            p, s = (30 * math.cos(t), 30 * math.sin(t)), (30 * math.cos(u), 30 * math.sin(u))
            q = p[0] - pull * math.sin(t), p[1] + pull * math.cos(t)
            r = s[0] + pull * math.sin(u), s[1] - pull * math.cos(u)
            ways = list(arcs_along((p, q, r, s)))
            self.assertEqual(len(ways), 2)
            for way in ways:
                self.assertAlmostEqual(way.radius, 30, delta=0.01)
                self.assertLess(math.hypot(*(way.centre or (99, 99))), 0.02)


class Marks(unittest.TestCase):
    """Marks become strokes of the same shape."""

    def test_every_sheet_of_the_sample(self) -> None:
        """Every mark that is drawn whole is near a stroke of its pen, and every stroke near a mark."""
        folio = store.sample()
        for s in (1, 6, 12, 18, 24):
            page, _ = sheet_page(folio, s)
            shown = [m for m in final(page) if not isinstance(m, Text | marks.Gap | marks.Dot | marks.Area)]
            strokes = strokes_of(shown, dashed=False)
            lines = [LineString(stroke.points(0.002)) for stroke in strokes]
            tree = STRtree(lines)
            for mark in shown:
                for place in sampled(mark, 24):
                    near = lines[int(tree.nearest(Point(place)))]
                    self.assertLess(near.distance(Point(place)), 0.3 if isinstance(mark, marks.Curve) else 0.02)

    def test_white_under_values_interrupts(self) -> None:
        """Lines and arcs are interrupted exactly at the edges of white, and only those laid down before."""
        gap = marks.Gap(x=50, y=0, width=10, height=4, angle=30)
        line = Segment(x1=0, y1=0, x2=100, y2=0)
        (left, right) = strokes_of([line, gap])
        half = min(5 / math.cos(math.radians(30)), 2 / math.sin(math.radians(30)))
        self.assertAlmostEqual(left.length, 50 - half, delta=1e-6)
        self.assertAlmostEqual(right.length, 50 - half, delta=1e-6)
        self.assertEqual(len(strokes_of([gap, line])), 1)
        circle = Arc(cx=0, cy=0, radius=50)
        upright = marks.Gap(x=50, y=0, width=10, height=4)
        left_over = sum(stroke.length for stroke in strokes_of([circle, upright]))
        self.assertAlmostEqual(left_over, 100 * math.pi - 50 * 2 * math.asin(2 / 50), delta=1e-6)

    def test_dashes(self) -> None:
        """A broken line begins and ends with ink, is as long as it is, and its dashes are near those of its pen."""
        for pen in (Pen.HIDDEN, Pen.CENTRE, Pen.FOLD):
            pattern = STROKES[pen].dashes
            for mark in (
                Segment(x1=0, y1=0, x2=93.7, y2=20, pen=pen),
                Arc(cx=0, cy=0, radius=31, pen=pen, start=5, sweep=200),
            ):
                dashes = strokes_of([mark])
                (whole,) = strokes_of([mark], dashed=False)
                self.assertGreater(len(dashes), 5)
                self.assertLess(math.dist(dashes[0].start, whole.start), 1e-9)
                self.assertLess(math.dist(dashes[-1].end, whole.end), 1e-6)
                self.assertAlmostEqual(dashes[0].length, pattern[0], delta=0.25 * pattern[0])
                inked = sum(d.length for d in dashes) / whole.length
                self.assertAlmostEqual(inked, sum(pattern[::2]) / sum(pattern), delta=0.08)

    def test_what_is_drawn_twice_is_drawn_once(self) -> None:
        one, back = Segment(x1=0, y1=0, x2=9, y2=3), Segment(x1=9, y1=3, x2=0, y2=0)
        self.assertEqual(len(strokes_of([one, back, one])), 1)
        self.assertEqual(len(strokes_of([one, replace(one, pen=Pen.OUTLINE)])), 2)

    def test_lettering_by_single_strokes(self) -> None:
        """Letters are as wide as those of the face, stand on their line and have no stroke outside; signs it lacks do not
        stop it."""
        from wisecompass.exchange.lettering import outline

        for said in ("Bramlow Mill 3.5 × 18°", "Ø24 a′ b₁ ½ R18.5"):
            strokes = strokes_of([Text(x=10, y=20, text=said, height=3.5)])
            xs = [x for stroke in strokes for x, _ in stroke.points()]
            ys = [y for stroke in strokes for _, y in stroke.points()]
            _, width = outline(said, 3.5)
            self.assertGreater(min(xs), 10)
            self.assertLess(max(xs), 10 + width)
            self.assertGreater(max(xs), 10 + 0.93 * width)
            self.assertGreater(min(ys), 18.4)
            self.assertLess(max(ys), 25.5)
        strokes_of([Text(x=0, y=0, text="图 ∮", height=3)])
        self.assertEqual(not_written([Text(x=0, y=0, text="Mühle 3", height=3)]), "")
        self.assertIn("图", not_written([Text(x=0, y=0, text="图 3", height=3)]))
        self.assertTrue(strokes_of([Text(x=0, y=0, text=".", height=3)]))

    def test_every_sign_of_the_sample_can_be_plotted(self) -> None:
        from wisecompass.exchange.strokes import can_write

        folio = store.sample()
        for s in range(0, len(folio.sheets), 4):
            for mark in final(sheet_page(folio, s)[0]):
                if isinstance(mark, Text):
                    self.assertTrue(all(map(can_write, mark.text)), mark.text)


class Order(unittest.TestCase):
    """Few lifts, little travel, inner before outer, cut last."""

    def test_pens_in_order_and_cut_last(self) -> None:
        page, _ = sheet_page(store.sample(), 12)
        strokes = ordered(strokes_of(final(page)), PEN_ORDER)
        pens = list(dict.fromkeys(stroke.pen for stroke in strokes))
        self.assertEqual(pens[-2:], [Pen.FOLD, Pen.CUT])
        self.assertEqual(pens, [pen for pen in PEN_ORDER if pen in pens])
        self.assertEqual(ordered(strokes, (Pen.CUT, Pen.FOLD))[0].pen, Pen.CUT)

    def test_nothing_is_lost_and_travel_is_shorter(self) -> None:
        folio = store.sample()
        for s in (1, 7, 15):
            page, _ = sheet_page(folio, s)
            before = strokes_of(final(page))
            after = ordered(before, PEN_ORDER)
            lengths = length_by_pen(before)
            for pen, length in length_by_pen(after).items():
                self.assertAlmostEqual(length, lengths[pen], delta=1e-6)
            self.assertLess(travel(after), 0.75 * travel(before))
            self.assertLessEqual(len(after), len(before))

    def test_inner_contours_before_outer(self) -> None:
        """Random nests of contours, shuffled: whatever lies inside another is cut before it."""
        chance = random.Random(3)
        for _ in range(20):
            circles = []
            for k in range(4):
                x = 120.0 * k
                radius = 50.0
                for _ in range(chance.randrange(1, 4)):
                    circles.append(Arc(cx=x + chance.uniform(-1, 1), cy=0, radius=radius, pen=Pen.CUT))
                    radius *= 0.6
            chance.shuffle(circles)
            drawn_order = ordered(strokes_of(circles), (Pen.CUT,))
            shapes = [Polygon(stroke.points()) for stroke in drawn_order]
            for k, shape in enumerate(shapes):
                self.assertFalse(any(shape.contains(later) for later in shapes[k + 1 :]))

    def test_a_rectangle_of_loose_edges_is_one_stroke(self) -> None:
        chance = random.Random(5)
        corners = [(0, 0), (50, 0), (50, 30), (0, 30)]
        edges = [
            (a, b) if chance.random() < 0.5 else (b, a) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)
        ]
        chance.shuffle(edges)
        loose = [Stroke(Pen.CUT, (Way(a, b),)) for a, b in edges]
        (one,) = joined(loose)
        self.assertTrue(one.closed)
        self.assertAlmostEqual(one.length, 160)

    def test_named_pens(self) -> None:
        self.assertEqual(pens_named(["cut", "fold", "cut"], BadDocument), (Pen.CUT, Pen.FOLD))
        self.assertEqual(pens_named([], BadDocument), PEN_ORDER)
        with self.assertRaises(BadDocument):
            pens_named(["crayon"], BadDocument)


class Programs(unittest.TestCase):
    """What is written is read back as what was meant, in every dialect."""

    def test_every_dialect(self) -> None:
        """Stroke by stroke, the program read back draws what it was made of, by the same pen."""
        page, _ = sheet_page(store.sample(), 7)
        strokes = ordered(strokes_of(final(page)), PEN_ORDER)
        profiles = [replace(each, width=900, height=900, shift_x=11, shift_y=7) for each in NAMED.values()]
        profiles.append(replace(LARGE, pen="M", up=("M5", "G4 P0.1"), down=("M3 S90",), remarks="( )", decimals=2))
        for profile in profiles:
            program = job(strokes, profile, "Bramlow (Mill)")
            back, air = drawn(program.text, profile)
            self.assertEqual(len(back), len(strokes), profile.name)
            for one, other in zip(strokes, back, strict=True):
                self.assertIs(one.pen, other.pen)
                self.assertLess(math.dist(one.end, other.end), 0.02)
                self.assertAlmostEqual(one.length, other.length, delta=0.05 + 0.002 * one.length)
                middle = other.ways[len(other.ways) // 2].at(0.5)
                self.assertLess(LineString(one.points(0.002)).distance(Point(middle)), 0.05)
            self.assertAlmostEqual(air, travel(strokes, (0, 0)), delta=30)
            self.assertEqual(len(program.lines), len(program.stroke_of))

    def test_true_arcs(self) -> None:
        """A circle is told by G2 or G3, never by chords; a machine without arcs gets chords within its limit."""
        circle = strokes_of([Arc(cx=60, cy=60, radius=40, pen=Pen.CUT)])
        lines = [line for line in job(circle, SIMULATED).lines if line.startswith(("G1 X", "G2", "G3"))]
        self.assertTrue(lines and all(line.startswith("G3") for line in lines if not line.startswith("G21")))
        chords = replace(SIMULATED, arcs=False, chord=0.05)
        back, _ = drawn(job(circle, chords).text, chords)
        for way in back[0].ways:
            self.assertGreater(math.dist(way.at(0.5), (60, 60)), 40 - 0.052)

    def test_other_peoples_programs(self) -> None:
        """Relative moves, arcs by radius, words without spaces, remarks of both kinds."""
        text = (
            "%\n(pen cut)\nG21G91\nG0X10Y10\nG1Z-3F100 ; down\nG1X20F500\nG2X10Y-10R10\nG3X-10Y-10I0J-10\nG0Z3\nM30\nrubbish"
        )
        (stroke,), air = drawn(text, SIMULATED)
        self.assertIs(stroke.pen, Pen.CUT)
        self.assertAlmostEqual(stroke.length, 20 + 5 * math.pi + 5 * math.pi, delta=1e-6)
        self.assertAlmostEqual(air, math.hypot(10, 10))
        self.assertLess(math.dist(stroke.end, (30, -10)), 1e-9)

    def test_what_is_no_program(self) -> None:
        for text, words in (
            ("G1 X3\nhello", "line 2"),
            ("G83 Z3", "G83 is not read"),
            ("G1 A3", "axis A"),
            ("G2 X10 I50 J3", "an arc whose ends"),
            ("G1 X1!9", "no word"),
            ("G1 X99999999", "ten million"),
        ):
            with self.assertRaisesRegex(NotUnderstood, words):
                drawn(text, SIMULATED)

    def test_read_back_as_a_picture(self) -> None:
        strokes = strokes_of([Arc(cx=60, cy=60, radius=40, pen=Pen.CUT), Segment(x1=0, y1=0, x2=9, y2=9, pen=Pen.FOLD)])
        page = picture(job(strokes, SIMULATED).text, SIMULATED)
        self.assertTrue({Pen.CUT, Pen.FOLD, Pen.PROJECTOR} <= {mark.pen for mark in page.marks})
        with self.assertRaisesRegex(BadGiven, "never down"):
            picture("G0 X3 Y3", SIMULATED)

    def test_past_its_reach(self) -> None:
        small = replace(SIMULATED, width=100, height=50)
        with self.assertRaisesRegex(BadGiven, "reaches from 20.0 to 100.0 mm high, and simulated plotter from 0.0 to 50.0"):
            job(strokes_of([Arc(cx=60, cy=60, radius=40)]), small)
        with self.assertRaisesRegex(BadGiven, "nothing is drawn"):
            job([], small)


class Layers(unittest.TestCase):
    """SVG and DXF with pens as layers, arcs as arcs."""

    def test_as_long_on_every_layer(self) -> None:
        import io
        import re
        import xml.etree.ElementTree as ElementTree

        import ezdxf

        from wisecompass.exchange.pen_layers import dxf_layers, svg_layers

        marks_drawn = [
            Segment(x1=1, y1=2, x2=60, y2=40, pen=Pen.FOLD),
            Arc(cx=60, cy=60, radius=40, pen=Pen.CUT),
            Arc(cx=30, cy=60, radius=20, start=20, sweep=-200, pen=Pen.CUT),
        ]
        strokes = ordered(strokes_of(marks_drawn, dashed=False), (Pen.FOLD, Pen.CUT))
        root = ElementTree.fromstring(svg_layers(strokes, 120, 120, "a & b"))
        groups = {group.get("id"): group for group in root if group.tag.endswith("}g")}
        self.assertEqual(list(groups), ["fold", "cut"])
        paths = [path.get("d") or "" for path in groups["cut"]]
        self.assertEqual(sorted(len(re.findall("A", path)) for path in paths), [2, 2])
        self.assertEqual(sum(path.endswith("Z") for path in paths), 1)
        document = ezdxf.read(io.StringIO(dxf_layers(strokes)))
        found = {(entity.dxf.layer, entity.dxftype()) for entity in document.modelspace()}
        self.assertEqual(found, {("fold", "LINE"), ("cut", "CIRCLE"), ("cut", "ARC")})


class Profiles(unittest.TestCase):
    def read(self, data: object) -> Profile:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "mine.json"
            path.write_text(data if isinstance(data, str) else json.dumps(data), "utf-8")
            return read_profile(path)

    def test_every_profile_round_trips(self) -> None:
        for name, profile in NAMED.items():
            self.assertEqual(self.read(profile_json(profile)), profile)
            self.assertIs(named_profile(name), profile)

    def test_what_is_left_out_is_usual(self) -> None:
        self.assertEqual(self.read({"name": "mine", "pen": "M"}), replace(SIMULATED, name="mine", pen="M"))

    def test_refused(self) -> None:
        for data, words in (
            ({"sped": 3}, "“sped” is not known in a profile; it has name, units"),
            ({"units": "ell"}, "units: "),
            ({"draw_speed": -3}, "the nearest that works is 1"),
            ({"up_z": 0}, "never be lifted"),
            ({"pen": "M", "up": ["M5"], "down": ["M5"]}, "lines that differ"),
            ({"speeds": {"crayon": 3}}, "no pen is called “crayon”"),
            ({"decimals": "three"}, "decimals: "),
            ([1], "is no profile"),
            ("{", "line 1"),
        ):
            with self.assertRaisesRegex(WiseCompassError, words):
                self.read(data)
        with self.assertRaisesRegex(BadDocument, "no profile is called"):
            named_profile("lathe")
