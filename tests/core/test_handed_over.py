"""Exported files as other programs read them, held against the geometry."""

from __future__ import annotations

import io
import math
import random
import re
import unittest
import xml.etree.ElementTree as ElementTree
from fractions import Fraction

import ezdxf
from ezdxf import bbox
from pypdf import PdfReader
from pypdf.generic import ContentStream

from wisecompass import catalogue
from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.marks import Mark
from wisecompass.drafting.pens import STROKES, Pen
from wisecompass.drafting.solve import draw
from wisecompass.exchange.dxf import dxf
from wisecompass.exchange.pdf import pdf
from wisecompass.exchange.svg import svg
from wisecompass.folio import store
from wisecompass.folio.page import NO_LETTERING, Page, compose, final, layered
from wisecompass.folio.paper import Paper, text_width
from wisecompass.folio.title_block import Title

SVG = "{http://www.w3.org/2000/svg}"


def page_with(*drawn: Mark) -> Page:
    return Page(297.0, 210.0, list(drawn), (), [], [], Fraction(1), {}, {}, [], {})


def page_of(problem_id: str, scale: Fraction | None = None, paper: str = "A3", **raw: str) -> Page:
    problem = catalogue.problem(problem_id)
    drawing = draw(problem, problem.read(raw), problem.methods[0])
    return compose(drawing, Paper(paper), Title(work="Barn"), Conventions(), scale)


def _dense(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """A polyline a tenth of a millimetre at a time."""
    spots = []
    for (x1, y1), (x2, y2) in zip(points, points[1:], strict=False):
        count = max(1, int(math.dist((x1, y1), (x2, y2)) / 0.1))
        spots += [(x1 + (x2 - x1) * k / count, y1 + (y2 - y1) * k / count) for k in range(count + 1)]
    return spots


def _in_box(spot: tuple[float, float], x: float, y: float, angle: float, width: float, height: float) -> bool:
    c, s = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    dx, dy = spot[0] - x, spot[1] - y
    return abs(dx * c + dy * s) <= width / 2 and abs(dy * c - dx * s) <= height / 2


def arcs(seed: int) -> list[marks.Arc]:
    rng = random.Random(seed)
    return [
        marks.Arc(
            cx=rng.uniform(50, 200),
            cy=rng.uniform(50, 150),
            radius=rng.choice((3.0, 20.0, 183.0, 900.0)) * rng.uniform(0.8, 1.2),
            start=rng.uniform(0, 360),
            sweep=rng.uniform(-350, 350),
            pen=Pen.OUTLINE,
        )
        for _ in range(40)
    ]


class Arcs(unittest.TestCase):
    """An arc is four numbers and a sense; each way of writing it down can get it wrong."""

    def test_pdf_keeps_within_a_thousandth_at_any_radius(self) -> None:
        for arc in arcs(1):
            here, curves = _path(pdf([page_with(arc)], "t"))
            self.assertAlmostEqual(math.dist(here, arc.end(0.0)), 0, 3)
            for x in curves:
                spots = [here, (x[0], x[1]), (x[2], x[3]), (x[4], x[5])]
                for t in (0.25, 0.5, 0.75, 1.0):
                    shares = ((1 - t) ** 3, 3 * (1 - t) ** 2 * t, 3 * (1 - t) * t * t, t**3)
                    place = [sum(w * spot[axis] for w, spot in zip(shares, spots, strict=True)) for axis in (0, 1)]
                    self.assertLess(abs(math.dist(place, (arc.cx, arc.cy)) - arc.radius), 1e-3)
                here = spots[3]
            self.assertAlmostEqual(math.dist(here, arc.end(1.0)), 0, 2)

    def test_svg_flags(self) -> None:
        """The middle of the arc that the flags choose is the middle of the arc."""
        for arc in arcs(2):
            root = ElementTree.fromstring(svg(page_with(arc)))
            path = root.findall(f"{SVG}path")[-1].get("d") or ""
            numbers = list(map(float, re.findall(r"-?[\d.]+", path)))
            x1, y1, r, _, _, large, sweep, x2, y2 = numbers
            middle = _middle_of_svg_arc((x1, y1), (x2, y2), r, large == 1, sweep == 1)
            x, y = arc.end(0.5)
            self.assertLess(math.dist(middle, (x, 210 - y)), 0.02, arc)

    def test_dxf(self) -> None:
        for arc in arcs(3):
            document = ezdxf.read(io.StringIO(dxf(page_with(arc))))  # type: ignore[attr-defined]
            (entity,) = document.modelspace().query("ARC")
            start, end = entity.start_point, entity.end_point
            ends = {(round(p.x, 6), round(p.y, 6)) for p in (start, end)}
            wanted = {(round(x, 6), round(y, 6)) for x, y in (arc.end(0.0), arc.end(1.0))}
            self.assertEqual(ends, wanted)
            span = (entity.dxf.end_angle - entity.dxf.start_angle) % 360
            self.assertAlmostEqual(span, abs(arc.sweep) % 360, 6)
            middle = math.radians(entity.dxf.start_angle + span / 2)
            at = (arc.cx + arc.radius * math.cos(middle), arc.cy + arc.radius * math.sin(middle))
            self.assertLess(math.dist(at, arc.end(0.5)), 1e-6)


def _path(data: bytes) -> tuple[tuple[float, float], list[list[float]]]:
    """Where the last path of a page begins, and the numbers of its curves."""
    reader = PdfReader(io.BytesIO(data))
    start, curves = (0.0, 0.0), []
    for numbers, operator in ContentStream(reader.pages[0].get_contents(), reader).operations:
        if operator == b"m":
            start, curves = (float(numbers[0]), float(numbers[1])), []
        elif operator == b"c":
            curves.append([float(each) for each in numbers])
    return start, curves


def _middle_of_svg_arc(
    a: tuple[float, float], b: tuple[float, float], r: float, large: bool, sweep: bool
) -> tuple[float, float]:
    """SVG 1.1, F.6.5, for a circle: in coordinates with y downwards."""
    dx, dy = (a[0] - b[0]) / 2, (a[1] - b[1]) / 2
    half = math.hypot(dx, dy)
    away = math.sqrt(max(0.0, r * r / (half * half) - 1)) * (-1 if large == sweep else 1)
    cx, cy = (a[0] + b[0]) / 2 + away * dy, (a[1] + b[1]) / 2 - away * dx
    start, end = math.atan2(a[1] - cy, a[0] - cx), math.atan2(b[1] - cy, b[0] - cx)
    span = (end - start) % (2 * math.pi) if sweep else -((start - end) % (2 * math.pi))
    return cx + r * math.cos(start + span / 2), cy + r * math.sin(start + span / 2)


class Ellipses(unittest.TestCase):
    def test_turned_ellipses_read_back(self) -> None:
        rng = random.Random(4)
        for _ in range(20):
            a = rng.uniform(20, 60)
            one = marks.Ellipse(
                cx=150.0,
                cy=100.0,
                semi_major=a,
                semi_minor=a * rng.uniform(0.2, 0.9),
                angle=rng.uniform(-80, 170),
                pen=Pen.OUTLINE,
            )
            document = ezdxf.read(io.StringIO(dxf(page_with(one))))  # type: ignore[attr-defined]
            (entity,) = document.modelspace().query("ELLIPSE")
            axis = entity.dxf.major_axis
            self.assertAlmostEqual(math.degrees(math.atan2(axis.y, axis.x)) % 180, one.angle % 180, 6)
            self.assertAlmostEqual(entity.dxf.ratio * axis.magnitude, one.semi_minor, 6)
            element = ElementTree.fromstring(svg(page_with(one))).findall(f"{SVG}ellipse")[-1]
            self.assertAlmostEqual(float(element.get("rx", "0")), one.semi_major, 4)
            self.assertAlmostEqual(float(element.get("ry", "0")), one.semi_minor, 4)
            turn = float(re.findall(r"rotate\((-?[\d.]+)", element.get("transform", ""))[0])
            self.assertAlmostEqual(-turn % 180, one.angle % 180, 4)


class Dxf(unittest.TestCase):
    def read(self, page: Page, title: str = "") -> ezdxf.document.Drawing:  # type: ignore[name-defined]
        return ezdxf.read(io.StringIO(dxf(page, title)))  # type: ignore[attr-defined]

    def test_line_weights_types_and_colours_of_the_pens(self) -> None:
        document = self.read(page_of("conics/ellipse"))
        colours = set()
        for pen in Pen:
            layer = document.layers.get(pen.value)
            self.assertEqual(layer.dxf.lineweight, round(100 * STROKES[pen].width), pen)
            self.assertEqual(layer.dxf.linetype == pen.value, bool(STROKES[pen].dashes))
            colours.add(layer.color)
        self.assertEqual(len(colours), len(list(Pen)))

    def test_dashes_follow_the_drawing_scale(self) -> None:
        for scale in (Fraction(1), Fraction(1, 5), Fraction(2)):
            document = self.read(page_of("conics/ellipse", scale))
            self.assertAlmostEqual(document.header["$LTSCALE"], float(1 / scale))

    def test_extents_title_and_dimensions(self) -> None:
        page = page_of("tangency/arc-two-lines", Fraction(1, 2))
        document = self.read(page, "Barn · blend")
        self.assertEqual(document.header.custom_vars.get("Title"), "Barn · blend")
        box = bbox.extents(document.modelspace().query("LINE ARC CIRCLE"))
        low, high = document.header["$EXTMIN"], document.header["$EXTMAX"]
        self.assertLessEqual((low[0], low[1]), (box.extmin.x + 1e-6, box.extmin.y + 1e-6))
        self.assertGreaterEqual((high[0], high[1]), (box.extmax.x - 1e-6, box.extmax.y - 1e-6))
        texts = {entity.dxf.text for entity in document.modelspace().query("DIMENSION")}
        self.assertLessEqual({"R18.5", "25.46", "72°"}, texts)
        lengths = [
            entity.get_measurement() for entity in document.modelspace().query("DIMENSION") if entity.dxf.text == "25.46"
        ]
        self.assertAlmostEqual(lengths[0], 18.5 / math.tan(math.radians(36)), 6)

    def test_nothing_is_drawn_twice_by_one_pen(self) -> None:
        for problem_id in ("developments/rectangle-to-rectangle", "space/hyperbolic-paraboloid", "pictorial/box"):
            seen: dict[tuple[object, ...], int] = {}
            for line in self.read(page_of(problem_id)).modelspace().query("LINE"):
                ends = sorted((round(p.x, 4), round(p.y, 4)) for p in (line.dxf.start, line.dxf.end))
                key = (line.dxf.layer, *ends)
                seen[key] = seen.get(key, 0) + 1
            self.assertEqual([key for key, count in seen.items() if count > 1], [], problem_id)

    def test_an_ellipse_is_an_ellipse_wherever_there_is_one(self) -> None:
        for problem_id in (
            "conics/ellipse",
            "conics/ellipse-conjugate",
            "conics/ellipse-axis-point",
            "conics/focus-directrix",
        ):
            page = page_of(problem_id, **({"eccentricity": "0.7"} if "focus" in problem_id else {}))
            kinds = {entity.dxftype() for entity in self.read(page).modelspace() if entity.dxf.layer == "outline"}
            self.assertIn("ELLIPSE", kinds, problem_id)
            self.assertNotIn("SPLINE", kinds, problem_id)


class Pdf(unittest.TestCase):
    def test_metadata_is_honest_and_every_face_is_embedded(self) -> None:
        reader = PdfReader(io.BytesIO(pdf([page_of("conics/ellipse")], "Arch", "A. Drafter")))
        assert reader.metadata is not None
        self.assertEqual((reader.metadata.title, reader.metadata.author), ("Arch", "A. Drafter"))
        import datetime

        assert reader.metadata.creation_date is not None
        self.assertEqual(reader.metadata.creation_date.year, datetime.datetime.now().year)
        for page in reader.pages:
            for font in page["/Resources"]["/Font"].values():  # type: ignore[index]
                face = font.get_object()
                descendants = face.get("/DescendantFonts")
                holder = descendants[0].get_object() if descendants else face
                self.assertIn("/FontFile2", holder["/FontDescriptor"].get_object(), face.get("/BaseFont"))

    def test_nobody_is_no_author(self) -> None:
        reader = PdfReader(io.BytesIO(pdf([page_of("conics/ellipse")], "Arch")))
        assert reader.metadata is not None
        self.assertNotIn("anonymous", reader.metadata.author or "")

    def test_line_weights(self) -> None:
        for pen in (Pen.OUTLINE, Pen.CONSTRUCTION, Pen.HIDDEN):
            line = marks.Segment(x1=50.0, y1=50.0, x2=90.0, y2=50.0, pen=pen)
            text = PdfReader(io.BytesIO(pdf([page_with(line)], "t"))).pages[0].get_contents().get_data().decode()  # type: ignore[union-attr]
            widths = [float(width) for width in re.findall(r"([\d.]+) w\b", text)]
            self.assertEqual(widths[-1], STROKES[pen].width)


class Svg(unittest.TestCase):
    def test_it_has_a_title_and_outlined_letters_on_request(self) -> None:
        page = page_of("tangency/arc-two-lines")
        plain, outlined = svg(page, "Barn & blend"), svg(page, "Barn & blend", outlines=True)
        self.assertEqual(ElementTree.fromstring(plain).findtext(f"{SVG}title"), "Barn & blend")
        self.assertTrue(ElementTree.fromstring(plain).findall(f"{SVG}text"))
        root = ElementTree.fromstring(outlined)
        self.assertEqual(root.findall(f"{SVG}text"), [])
        self.assertNotIn("font-face", outlined)
        said = [path.get("aria-label") for path in root.findall(f"{SVG}path") if path.get("class") == "lettering"]
        wanted = [mark.text for mark in final(page) if isinstance(mark, marks.Text)]
        self.assertEqual(said, wanted)

    def test_line_weights(self) -> None:
        for pen in Pen:
            line = marks.Segment(x1=5.0, y1=5.0, x2=9.0, y2=5.0, pen=pen)
            element = ElementTree.fromstring(svg(page_with(line))).findall(f"{SVG}line")[-1]
            self.assertEqual(float(element.get("stroke-width", "0")), STROKES[pen].width)


class Sheets(unittest.TestCase):
    def test_pens_are_of_iso_128(self) -> None:
        series = {0.13, 0.18, 0.25, 0.35, 0.5, 0.7, 1.0}
        for pen, stroke in STROKES.items():
            self.assertIn(stroke.width, series, pen)
        self.assertEqual(STROKES[Pen.OUTLINE].width / STROKES[Pen.HIDDEN].width, 2)

    def test_the_frame_leaves_the_filing_edge_and_has_centring_marks(self) -> None:
        for size in ("A4", "A3", "A1"):
            page = page_of("conics/ellipse", paper=size)
            border = [m for m in page.furniture if isinstance(m, marks.Segment) and m.pen is Pen.BORDER]
            self.assertEqual(len(border), 8)
            frame = [m for m in border if 0 not in (m.x1, m.y1) and m.x2 != page.width and m.y2 != page.height]
            self.assertEqual(min(min(m.x1, m.x2) for m in frame), 20)
            self.assertEqual(max(max(m.x1, m.x2) for m in frame), page.width - 10)
            centred = [m for m in border if m not in frame]
            for mark in centred:
                self.assertTrue(mark.x1 == mark.x2 == page.width / 2 or mark.y1 == mark.y2 == page.height / 2)

    def test_the_title_block_leaves_out_what_is_empty(self) -> None:
        problem = catalogue.problem("conics/ellipse")
        drawing = draw(problem, problem.read({}), problem.methods[0])

        def texts(title: Title) -> set[str]:
            page = compose(drawing, Paper(), title, Conventions())
            return {m.text for m in page.furniture if isinstance(m, marks.Text)}

        bare = texts(Title(work="Barn", sheet="Arch", number="7"))
        self.assertFalse(bare & {"owner", "drawn by", "date", "revision", "leaf"})
        full = texts(Title("Barn", "Arch", "7", "2 / 9", "Mill", "A", "B", "2026-11-25", "Detail", "C"))
        self.assertLessEqual({"owner", "Mill", "drawn by", "A", "date", "2026-11-25", "revision", "C", "2 / 9"}, full)

    def test_outlines_are_laid_over_projectors_and_letters_over_all(self) -> None:
        page = page_of("space/line-inclined-to-both")
        pens = [mark.pen for mark in layered(page.marks) if not isinstance(mark, marks.Dot | marks.Gap)]
        self.assertLess(
            max(i for i, p in enumerate(pens) if p is Pen.PROJECTOR or p is Pen.CONSTRUCTION), pens.index(Pen.OUTLINE)
        )
        self.assertGreater(pens.index(Pen.LETTERING), max(i for i, p in enumerate(pens) if p is Pen.OUTLINE))

    def test_no_line_strikes_the_value_of_a_dimension(self) -> None:
        """Every line is followed a tenth of a millimetre at a time: where it runs under a value, white lies over it."""
        values, struck = 0, 0
        for problem in map(catalogue.problem, catalogue.ids()):
            page = page_of(problem.id, paper="A4")
            laid = final(page)
            gaps = [(n, mark) for n, mark in enumerate(laid) if isinstance(mark, marks.Gap)]
            lines = [
                (n, mark, _dense(marks.sampled(mark, 96)))
                for n, mark in enumerate(laid)
                if isinstance(mark, marks.Segment | marks.Arc | marks.Ellipse | marks.Curve)
            ]
            for text in (page.marks[n] for n in page.pieces):
                if not isinstance(text, marks.Text):
                    continue
                values += 1
                turn, width = math.radians(text.angle), text_width(text.text, text.height)
                x, y = text.x - math.sin(turn) * text.height / 2, text.y + math.cos(turn) * text.height / 2
                for n, mark, spots in lines:
                    under = [spot for spot in spots if _in_box(spot, x, y, text.angle, width, text.height)]
                    struck += bool(under)
                    for spot in under:
                        white = any(m > n and _in_box(spot, g.x, g.y, g.angle, g.width, g.height) for m, g in gaps)
                        self.assertTrue(white, (problem.id, text.text, mark))
        self.assertGreater(values, 100)
        self.assertGreater(struck, 10)

    def test_white_under_values_reaches_every_file(self) -> None:
        gap = marks.Gap(x=40, y=50, width=12, height=4, angle=30, pen=Pen.LETTERING)
        line = marks.Segment(x1=0, y1=50, x2=90, y2=50)
        page = page_with(line, gap)
        polygon = ElementTree.fromstring(svg(page)).findall(f"{SVG}polygon")[-1]
        self.assertEqual(polygon.get("fill"), "white")
        spots = [tuple(map(float, pair.split(","))) for pair in (polygon.get("points") or "").split()]
        self.assertAlmostEqual(math.dist(spots[0], spots[1]), 12, 3)
        self.assertAlmostEqual(math.degrees(math.atan2(spots[0][1] - spots[1][1], spots[1][0] - spots[0][0])), 30, 2)
        reader = PdfReader(io.BytesIO(pdf([page], "t")))
        fills = [op for _, op in ContentStream(reader.pages[0].get_contents(), reader).operations if op in (b"f", b"f*")]
        self.assertTrue(fills)

    def test_no_value_is_parted_from_its_unit(self) -> None:
        for problem in map(catalogue.problem, catalogue.ids()):
            drawing = draw(problem, problem.read({}), problem.methods[0])
            for size, lying in (("A4", True), ("A4", False)):
                page = compose(drawing, Paper(size, lying), Title(), Conventions(), lettering=NO_LETTERING)
                for line in page.brief:
                    self.assertNotRegex(getattr(line, "text", ""), r"^(?:mm|cm|in|°)\b", problem.id)

    def test_the_figure_one_is_no_letter(self) -> None:
        from fontTools.pens.boundsPen import BoundsPen
        from fontTools.ttLib import TTFont

        from wisecompass.folio.paper import DRAFTING_FONT

        face = TTFont(DRAFTING_FONT)
        glyphs, names = face.getGlyphSet(), face.getBestCmap()
        widths = {}
        for sign in "1Il":
            pen = BoundsPen(glyphs)
            glyphs[names[ord(sign)]].draw(pen)
            widths[sign] = pen.bounds[2] - pen.bounds[0]
        self.assertGreater(widths["1"], 1.6 * widths["I"])

    def test_what_runs_over_the_frame_is_said(self) -> None:
        from wisecompass.folio.page import overflow

        self.assertIn("runs over the frame", overflow(page_of("conics/ellipse", Fraction(10))))
        for place in range(4):
            self.assertEqual(overflow(page_of(catalogue.ids()[place * 9])), "")

    def test_sheets_of_one_number_and_of_any_script_have_files_of_their_own(self) -> None:
        from dataclasses import replace

        from wisecompass.folio.print import stems_of

        folio = store.sample()
        for number in ("", "7", "схема/7", "図"):
            same = replace(
                folio, sheets=tuple(replace(sheet, number=number, name=number or "x") for sheet in folio.sheets[:3])
            )
            stems = list(stems_of(same).values())
            self.assertEqual(len({stem.casefold() for stem in stems}), len(stems))
            self.assertFalse([stem for stem in stems if "/" in stem or not stem])


class Solutions(unittest.TestCase):
    def test_a_file_holds_the_solution_that_was_chosen(self) -> None:
        """The certificate is asked for with the figure's own solution, and one that is not there is refused."""
        from unittest import mock

        from wisecompass.drafting.errors import WiseCompassError
        from wisecompass.exchange import export
        from wisecompass.folio import register
        from wisecompass.folio.document import Figure

        for solution in (1, 2):
            figure = Figure("space/line-inclined-to-both", "rotation about the end", solution=solution)
            folio, place = register.add_figure(store.empty(), figure, 0)
            with mock.patch.object(export, "certify", wraps=export.certify) as certify:
                self.assertTrue(export.made("csv", folio, place))
            self.assertEqual(certify.call_args.args[4], solution)
        folio, place = register.add_figure(store.empty(), Figure("conics/ellipse", "trammel", solution=3), 0)
        for kind in ("csv", "svg", "pdf", "dxf"):
            with self.assertRaisesRegex(WiseCompassError, "solution 3 is not there"):
                export.made(kind, folio, place)


if __name__ == "__main__":
    unittest.main()
