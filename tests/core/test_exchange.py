"""Files that leave the program: true scale, real curves, layers by pen, and readable by other programs."""

from __future__ import annotations

import csv as csv_module
import io
import json
import math
import re
import unittest
import xml.etree.ElementTree as ElementTree
from fractions import Fraction
from functools import cache

import ezdxf
from pypdf import PdfReader

from wisecompass import catalogue
from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Conventions, LineNames, Projection
from wisecompass.drafting.pens import STROKES, Pen
from wisecompass.drafting.solve import certify, draw
from wisecompass.exchange.csv import csv
from wisecompass.exchange.dxf import dxf
from wisecompass.exchange.pdf import pdf
from wisecompass.exchange.report import in_words, report
from wisecompass.exchange.svg import svg
from wisecompass.folio.page import Page, compose
from wisecompass.folio.paper import SIZES, Paper
from wisecompass.folio.title_block import Title

MM = 72 / 25.4
"""Points a millimetre."""


def page_for(
    problem_id: str,
    paper: Paper | None = None,
    scale: Fraction | None = None,
    method: str | None = None,
    names: LineNames = LineNames.SHEET,
    **raw: str,
) -> Page:
    problem = catalogue.problem(problem_id)
    drawing = draw(problem, problem.read(raw), problem.method(method))
    title, conventions = Title(work="Bramlow Mill", sheet="test", number="BM-99"), Conventions(line_names=names)
    return compose(drawing, paper or Paper(), title, conventions, scale)


@cache
def every_page() -> list[Page]:
    return [page_for(problem_id) for problem_id in catalogue.ids()]


class Pdf(unittest.TestCase):
    def lines(self, data: bytes) -> list[tuple[float, float, float, float]]:
        """All straight lines of the first page in mm, read from its content stream."""
        content = PdfReader(io.BytesIO(data)).pages[0].get_contents()
        assert content is not None
        text = content.get_data().decode("latin-1")
        scale = re.search(r"([\d.]+) 0 0 ([\d.]+) 0 0 cm", text[text.index("cm") + 2 :]) or re.search(
            r"([\d.]+) 0 0 ([\d.]+) 0 0 cm", text
        )
        assert scale is not None
        factor = float(scale[1]) / MM
        number = r"(-?[\d.]+)"
        found = re.findall(rf"{number} {number} m {number} {number} l S", text)
        return [tuple(float(v) * factor for v in row) for row in found]  # type: ignore[misc]

    def test_a_hundred_millimetres_are_a_hundred_millimetres(self) -> None:
        page = page_for("polygons/regular-from-side", Paper("A2"), Fraction(1), side="100", sides="4")
        lengths = [math.hypot(x2 - x1, y2 - y1) for x1, y1, x2, y2 in self.lines(pdf([page], "t"))]
        sides = [length for length in lengths if abs(length - 100) < 0.005]
        self.assertGreaterEqual(len(sides), 4)

    def test_a_printed_pattern_measures_what_the_sheet_is_cut_to(self) -> None:
        """A sleeve and a hopper at 1:1: every edge of their outlines is on the paper, as long as the body's own."""
        sleeve = page_for("developments/prism", Paper("A2"), Fraction(1), turned="7", cut_angle="31")
        hopper = page_for("developments/rectangle-to-rectangle", Paper("A1"), Fraction(1), offset_y="6")
        at, front = [math.radians(7 - 90 - 30 + 60 * k) for k in range(6)], (92 - 36) / 2 - 6
        slope, heights = math.tan(math.radians(31)), []
        for way in at:  # a hexagon of side 22 lies in a circle of radius 22
            heights.append(52 + 22 * math.cos(way) * slope)
        rims = [math.hypot(22, p - q) for p, q in zip(heights, [*heights[1:], heights[0]], strict=True)]
        corner = math.hypot((118 - 44) / 2 + 10, front, 86)
        for page, wanted in (
            (sleeve, [*rims, heights[0], heights[0], 22.0]),
            (hopper, [118.0, 92.0, 44.0, 36.0, corner, corner]),
        ):
            lengths = [math.hypot(x2 - x1, y2 - y1) for x1, y1, x2, y2 in self.lines(pdf([page], "t"))]
            for size in wanted:
                self.assertLess(min(abs(length - size) for length in lengths), 0.005, size)

    def test_scale_holds_on_every_paper_both_ways_up(self) -> None:
        for size, (short, long) in SIZES.items():
            for landscape in (True, False):
                page = page_for("tangency/arc-two-lines", Paper(size, landscape), Fraction(1, 2))
                reader = PdfReader(io.BytesIO(pdf([page], "t")))
                box = reader.pages[0].mediabox
                expected = (long, short) if landscape else (short, long)
                self.assertAlmostEqual(float(box.width) / MM, expected[0], delta=0.01)
                self.assertAlmostEqual(float(box.height) / MM, expected[1], delta=0.01)

    def test_half_scale_halves(self) -> None:
        page = page_for("polygons/regular-from-side", Paper("A2"), Fraction(1, 2), side="100", sides="4")
        lengths = [math.hypot(x2 - x1, y2 - y1) for x1, y1, x2, y2 in self.lines(pdf([page], "t"))]
        self.assertGreaterEqual(sum(abs(length - 50) < 0.005 for length in lengths), 4)

    def test_lettering_is_text_in_the_drafting_face(self) -> None:
        reader = PdfReader(io.BytesIO(pdf(every_page(), "Bramlow Mill")))
        self.assertEqual(len(reader.pages), len(catalogue.ids()))
        self.assertEqual(reader.metadata.title if reader.metadata else "", "Bramlow Mill")
        text = reader.pages[0].extract_text()
        self.assertIn("Bramlow Mill", text)
        self.assertIn("BM-99", text)
        fonts = str(reader.pages[0]["/Resources"]["/Font"].get_object())  # type: ignore[index]
        self.assertTrue(fonts)

    def test_the_same_page_gives_the_same_bytes(self) -> None:
        page = page_for("pictorial/box")
        same = [re.sub(rb"/(?:CreationDate|ModDate) \([^)]*\)|<[0-9a-f]{32}>", b"", pdf([page], "t")) for _ in range(2)]
        self.assertEqual(*same)


class Svg(unittest.TestCase):
    space = "{http://www.w3.org/2000/svg}"

    def tree(self, page: Page) -> ElementTree.Element:
        return ElementTree.fromstring(svg(page))

    def test_one_unit_is_one_millimetre(self) -> None:
        page = page_for("polygons/regular-from-side", Paper("A3"), Fraction(1), side="100", sides="4")
        root = self.tree(page)
        self.assertEqual((root.get("width"), root.get("viewBox")), ("420mm", "0 0 420 297"))
        sides = [e for e in root.iter(f"{self.space}line") if e.get("class") == "outline"]
        lengths = [
            math.hypot(float(e.get("x2", 0)) - float(e.get("x1", 0)), float(e.get("y2", 0)) - float(e.get("y1", 0)))
            for e in sides
        ]
        self.assertEqual([round(length, 3) for length in lengths], [100.0] * 4)

    def test_arcs_and_ellipses_are_real(self) -> None:
        blend = svg(page_for("tangency/arc-two-lines"))
        self.assertRegex(blend, r'<path d="M[^"]*A[^"]*" class="outline"')
        ellipse = self.tree(page_for("conics/ellipse", Paper("A3"), Fraction(1)))
        (drawn,) = ellipse.iter(f"{self.space}ellipse")
        self.assertEqual((drawn.get("rx"), drawn.get("ry")), ("84", "52"))

    def test_an_arc_ends_where_its_edges_begin(self) -> None:
        root = self.tree(page_for("tangency/arc-two-lines"))
        (arc,) = [e for e in root.iter(f"{self.space}path") if e.get("class") == "outline"]
        start_x, start_y, end_x, end_y = (
            float(v) for v in re.findall(r"[M ](-?[\d.]+) (-?[\d.]+)A.* (-?[\d.]+) (-?[\d.]+)$", arc.get("d", ""))[0]
        )
        ends = set()
        for e in root.iter(f"{self.space}line"):
            if e.get("class") == "outline":
                ends |= {(round(float(e.get(f"x{i}", 0)), 2), round(float(e.get(f"y{i}", 0)), 2)) for i in (1, 2)}
        self.assertIn((round(start_x, 2), round(start_y, 2)), ends)
        self.assertIn((round(end_x, 2), round(end_y, 2)), ends)

    def test_special_signs_are_escaped(self) -> None:
        problem = catalogue.problem("pictorial/box")
        drawing = draw(problem, problem.read({}), problem.methods[0])
        page = compose(drawing, Paper(), Title("Saw & <Mill>", "a", "b"), Conventions())
        self.assertIn("Saw &amp; &lt;Mill&gt;", svg(page))
        ElementTree.fromstring(svg(page))

    def test_every_problem_is_well_formed(self) -> None:
        for page in every_page():
            self.assertEqual(self.tree(page).tag, f"{self.space}svg")


class Dxf(unittest.TestCase):
    def document(self, page: Page) -> ezdxf.document.Drawing:  # type: ignore[name-defined]
        return ezdxf.read(io.StringIO(dxf(page)))  # type: ignore[attr-defined]

    def test_auditor_finds_nothing(self) -> None:
        for page in every_page():
            audit = self.document(page).audit()
            self.assertEqual((list(audit.errors), list(audit.fixes)), ([], []))

    def test_true_size_whatever_the_drawing_scale(self) -> None:
        for scale in (Fraction(1), Fraction(1, 5), Fraction(2)):
            page = page_for("tangency/arc-two-lines", Paper("A3"), scale)
            (arc,) = self.document(page).modelspace().query('ARC[layer=="outline"]')
            self.assertAlmostEqual(arc.dxf.radius, 18.5, places=9)
            self.assertAlmostEqual((arc.dxf.end_angle - arc.dxf.start_angle) % 360, 108, places=7)

    def test_real_entities_on_layers_of_their_pens(self) -> None:
        space = self.document(page_for("conics/ellipse", Paper("A3"))).modelspace()
        (ellipse,) = space.query("ELLIPSE")
        self.assertAlmostEqual(ellipse.dxf.major_axis.magnitude, 84)
        self.assertAlmostEqual(ellipse.dxf.ratio, 52 / 84)
        self.assertEqual(ellipse.dxf.layer, "outline")
        circles = sorted(round(c.dxf.radius, 6) for c in space.query('CIRCLE[layer=="construction"]'))
        self.assertEqual(circles, [52.0, 84.0])
        self.assertGreaterEqual(len(space.query("POINT")), 12)

    def test_a_circle_as_an_ellipse_leaves_as_a_circle(self) -> None:
        space = self.document(page_for("conics/ellipse", major="60", minor="60")).modelspace()
        self.assertEqual(len(space.query("ELLIPSE")), 0)
        self.assertEqual([round(c.dxf.radius, 6) for c in space.query('CIRCLE[layer=="outline"]')], [30.0])

    def test_cut_and_fold_lines_of_a_pattern_for_the_cutter(self) -> None:
        space = self.document(page_for("developments/rectangle-to-rectangle")).modelspace()
        self.assertEqual(len(space.query('LINE[layer=="cut"]')), 10)
        self.assertEqual(len(space.query('LINE[layer=="fold"]')), 3)
        lapped = self.document(page_for("developments/rectangle-to-rectangle", lap="8")).modelspace()
        self.assertEqual(len(lapped.query('LINE[layer=="cut"]')), 9 * 3 + 1)

    def test_layers_have_line_types_and_widths(self) -> None:
        document = self.document(page_for("pictorial/box"))
        for pen in Pen:
            layer = document.layers.get(pen.value)
            self.assertEqual(layer.dxf.linetype == "CONTINUOUS", not STROKES[pen].dashes)
            self.assertGreater(layer.dxf.lineweight, 0)
        self.assertEqual(document.units, 4)


class CsvAndReport(unittest.TestCase):
    def setUp(self) -> None:
        self.problem = catalogue.problem("tangency/arc-two-lines")
        self.typed = self.problem.read({})
        self.certificate = certify(self.problem, self.typed, self.problem.methods[0], closed_forms=True)

    def test_csv_has_findings_and_points(self) -> None:
        rows = list(csv_module.reader(io.StringIO(csv(self.certificate))))
        self.assertEqual(rows[0], ["kind", "name", "x", "y", "z", "value", "unit", "bound", "closed form"])
        self.assertEqual({len(row) for row in rows}, {9})
        findings = {row[1]: float(row[5]) for row in rows if row[0] == "finding"}
        self.assertAlmostEqual(findings["setback"], 18.5 / math.tan(math.radians(36)))
        points = {row[1]: (float(row[2]), float(row[3])) for row in rows if row[0] == "point"}
        self.assertAlmostEqual(points["C"][1], 18.5)

    def test_report_has_the_contract_of_its_readers(self) -> None:
        data = json.loads(json.dumps(report(self.problem, self.problem.methods[0], self.typed, self.certificate)))
        self.assertEqual(data["problem"], "tangency/arc-two-lines")
        self.assertEqual(data["method"], "swung arcs")
        self.assertEqual(data["exactness"], "exact")
        self.assertEqual(data["givens"], {"angle": 72.0, "radius": 18.5})
        self.assertEqual(data["solutions"], 1)
        setback = data["findings"]["setback"]
        self.assertEqual(setback["unit"], "mm")
        self.assertTrue(setback["proved"])
        self.assertLess(setback["bound"], 1e-14)
        self.assertLess(Fraction(setback["ball"][1]), Fraction(10) ** -30)
        self.assertEqual(setback["closed_form"], "√((6845 + 2738√5) / 20)")
        step = data["steps"][7]
        self.assertEqual({"n", "instrument", "setting", "unit", "text", "makes", "acts", "why"}, set(step))
        self.assertEqual((step["instrument"], step["setting"], step["unit"]), ("compass", 18.5, "mm"))
        self.assertTrue(all(check["holds"] for check in data["checks"]))
        self.assertEqual(data["deviation"]["worst"], 0.0)
        self.assertTrue(data["cautions"])

    def test_words_for_a_reader(self) -> None:
        text = in_words(self.problem, self.problem.methods[0], self.typed, self.certificate)
        self.assertIn("Two straight edges meet at 72°", text)
        self.assertIn("25.463066", text)
        self.assertIn("holds: both tangent points", text)


class OnPaper(unittest.TestCase):
    def test_every_figure_stays_inside_its_frame(self) -> None:
        """Every problem on small and large paper, both ways; on the sizes between every sixth."""
        for size in SIZES:
            for landscape in (True, False):
                names = LineNames.SHEET if size == "A4" and landscape else LineNames.SENTENCES
                for problem_id in catalogue.ids()[:: 1 if size in (min(SIZES), max(SIZES)) else 6]:
                    page = page_for(problem_id, Paper(size, landscape), names=names)
                    left, low, right, high = marks.bounds(list(page.marks))
                    with self.subTest(problem=problem_id, paper=size, landscape=landscape):
                        self.assertTrue(left > 5 and low > 5 and right < page.width - 5 and high < page.height - 5)

    def test_a_long_sheet_name_stays_in_its_cell(self) -> None:
        from wisecompass.folio.paper import text_width

        problem = catalogue.problem("pictorial/box")
        drawing = draw(problem, problem.read({}), problem.methods[0])
        name = "5 Tinsmith, hopper between the upper and the lower floor, second version"
        page = compose(drawing, Paper(), Title(sheet=name), Conventions())
        text = next(m for m in page.furniture if isinstance(m, marks.Text) and m.text.startswith("5 Tinsmith, hopper"))
        edges = [m.x1 for m in page.furniture if isinstance(m, marks.Segment) and m.pen is Pen.DIMENSION and m.x1 > text.x]
        self.assertLess(text.x + text_width(text.text, text.height), min(edges))

    def test_letters_do_not_cover_each_other(self) -> None:
        from wisecompass.folio.labels import text_box

        for problem in map(catalogue.problem, catalogue.ids()):
            for method, size in ((method, size) for method in problem.methods for size in ("A4", "A3")):
                typed = problem.served_by(method, problem.read({}))
                page = compose(draw(problem, typed, method), Paper(size), Title(), Conventions())
                texts = [m for m in page.marks if isinstance(m, marks.Text) and not m.angle]
                boxes = [(m.text, text_box(m)) for m in texts]
                clashes = [
                    (one, other)
                    for i, (one, a) in enumerate(boxes)
                    for other, b in boxes[:i]
                    if a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]
                ]
                self.assertEqual(clashes, [], (problem.id, method.name, size))

    def test_the_projection_symbol_shows_the_end_view_on_its_proper_side(self) -> None:
        """In first angle the view from the left stands to the right of the cone, in third to the left of it; the
        narrow end, which that view shows in front, is the left one."""
        for projection, to_the_right in ((Projection.FIRST, True), (Projection.THIRD, False)):
            problem = catalogue.problem("pictorial/box")
            drawing = draw(problem, problem.read({}), problem.methods[0])
            page = compose(drawing, Paper(), Title(), Conventions(projection))
            circles = [m for m in page.furniture if isinstance(m, marks.Arc)]
            self.assertEqual(len(circles), 2)
            x, y = circles[0].cx, circles[0].cy
            upright = [
                m for m in page.furniture
                if isinstance(m, marks.Segment) and m.pen is Pen.GIVEN and m.x1 == m.x2 and abs(m.x1 - x) < 20
            ]  # fmt: skip
            ends = {m.x1: abs(m.y2 - m.y1) for m in upright if min(m.y1, m.y2) < y < max(m.y1, m.y2)}
            self.assertEqual(len(ends), 2)
            self.assertEqual(x > max(ends), to_the_right)
            self.assertLess(ends[min(ends)], ends[max(ends)])

    def test_huge_and_tiny_figures_find_a_scale(self) -> None:
        for radius, least in (("0.02", 25), ("0.5", 40), ("900000", 40)):
            page = page_for("tangency/arc-two-lines", radius=radius)
            left, _, right, _ = marks.bounds(list(page.marks))
            self.assertGreater(right - left, least)
            self.assertLess(right - left, 297)

    def test_dimension_text_says_true_lengths_at_any_scale(self) -> None:
        for scale in (Fraction(1, 5), Fraction(1), Fraction(2)):
            page = page_for("pictorial/box", Paper("A2"), scale)
            letters = {m.text for m in page.marks if isinstance(m, marks.Text)}
            self.assertLessEqual({"64", "36", "48"}, letters)

    def test_a_picture_that_shortens_its_edges_is_dimensioned_in_true_lengths(self) -> None:
        problem = catalogue.problem("pictorial/box")
        drawing = draw(problem, problem.read({"scale": "isometric"}), problem.methods[0])
        texts = {m.text for m in drawing.marks if isinstance(m, marks.LinearDimension)}
        self.assertEqual(texts, {"64", "36", "48"})


if __name__ == "__main__":
    unittest.main()
