"""Patterns on stock: never one over another, never over an edge, nothing forgotten; use in percent."""

from __future__ import annotations

import io
import math
import random
import unittest

from pypdf import PdfReader
from shapely import Polygon, affinity, box

from wisecompass.drafting.errors import BadGiven
from wisecompass.drafting.pens import Pen
from wisecompass.exchange.dxf import dxf
from wisecompass.exchange.gcode import job
from wisecompass.exchange.gcode_reading import drawn
from wisecompass.exchange.machine import SIMULATED
from wisecompass.exchange.nesting import (
    Nest,
    Order,
    Part,
    Stock,
    copied,
    nest,
    parts_of,
    read_stock,
    sheet_page,
    strokes_on,
)
from wisecompass.exchange.pdf import pdf
from wisecompass.exchange.strokes import ordered
from wisecompass.folio import store

FOLIO = store.sample()


def placed(found: Nest) -> list[list[tuple[str, Polygon]]]:
    """Outlines where they lie, computed here from turn and shift."""
    return [
        [
            (
                each.part.name,
                affinity.translate(
                    affinity.rotate(each.part.outline, each.where.angle, origin=(0, 0)), each.where.dx, each.where.dy
                ),
            )
            for each in sheet.laid
        ]
        for sheet in found.sheets
    ]


class Laid(unittest.TestCase):
    def hold(self, found: Nest, order: Order, parts: list[Part]) -> None:
        """Nothing overlaps or is nearer than the kerf, nothing passes the edge, and every part is somewhere once."""
        for sheet, outlines in zip(found.sheets, placed(found), strict=True):
            room = box(order.edge, order.edge, sheet.stock.length - order.edge, sheet.stock.width - order.edge).buffer(1e-4)
            area = 0.0
            for n, (name, outline) in enumerate(outlines):
                self.assertTrue(room.covers(outline), name)
                area += outline.area
                for other, another in outlines[n + 1 :]:
                    self.assertGreaterEqual(outline.distance(another), order.kerf - 1e-4, (name, other))
            self.assertAlmostEqual(sheet.use, area / (sheet.stock.length * sheet.stock.width), delta=1e-4)
        count = sum(len(sheet.laid) for sheet in found.sheets) + len(found.left)
        self.assertEqual(count, len(parts))

    def test_the_sample_folio(self) -> None:
        """All its patterns, grain free and fixed, on one kind of stock and on two."""
        parts, said = parts_of(FOLIO)
        self.assertEqual(said, [])
        self.assertEqual(sum(part.name == "dome" for part in parts), 12)
        for order in (
            Order(read_stock("1000x600"), kerf=3.0, seconds=1),
            Order(read_stock("1*520x420, 700x500"), grain=True, seconds=1),
        ):
            found = nest(parts, order)
            self.hold(found, order, parts)
            self.assertFalse(found.left)
            if order.grain:
                turns = {round(each.where.angle) % 180 for sheet in found.sheets for each in sheet.laid}
                self.assertEqual(turns, {0})

    def test_random_shapes(self) -> None:
        """Random polygons, thin and thick, with holes between them to crawl into."""
        chance = random.Random(11)
        for _ in range(4):
            parts = []
            for n in range(chance.randrange(5, 14)):
                count = chance.randrange(3, 9)
                turns = sorted(chance.uniform(0, 360) for _ in range(count))
                corners = [
                    (r * math.cos(math.radians(t)), r * math.sin(math.radians(t)))
                    for t, r in ((t, chance.uniform(15, 90)) for t in turns)
                ]
                shape = Polygon(corners).buffer(0)
                if isinstance(shape, Polygon) and shape.area > 50:
                    parts.append(Part(f"p{n}", shape, ()))
            order = Order((Stock(400, 300),), kerf=chance.choice((0.0, 1.0, 4.0)), edge=chance.choice((0, 8)), seconds=1)
            found = nest(parts, order)
            self.hold(found, order, parts)
            self.assertFalse(found.left)

    def test_what_does_not_fit_is_said(self) -> None:
        parts, _ = parts_of(FOLIO)
        order = Order(read_stock("1*200x150"), seconds=1)
        found = nest(parts, order)
        self.hold(found, order, parts)
        self.assertTrue(any("hopper (149 × 313 mm) does not fit the 190 × 140 mm inside the edges" in s for s in found.said))
        self.assertTrue(any("all of that stock is used up" in s for s in found.said))
        self.assertEqual(len(found.said), len(found.left))

    def test_a_part_that_fits_only_with_the_grain_free(self) -> None:
        long = Part("slat", box(0, 0, 20, 185), ())
        self.assertTrue(nest([long], Order((Stock(200, 60),), grain=True, seconds=1)).left)
        self.assertFalse(nest([long], Order((Stock(200, 60),), seconds=1)).left)

    def test_what_only_just_fits_whatever_the_kerf(self) -> None:
        """The kerf lies between patterns, not between them and the edge: what fits alone is laid, and two beside it."""
        for high in (189.8, 189.0, 180.0):
            for kerf in (0.0, 4.0, 20.0, 100.0):
                parts = [Part("a", box(0, 0, 30, high), ()), Part("b", box(0, 0, 20, high), ())]
                order = Order((Stock(400, 200),), kerf=kerf, grain=True, seconds=1)
                found = nest(parts, order)
                self.hold(found, order, parts)
                self.assertEqual((len(found.sheets), len(found.left)), (1, 0), (high, kerf))


class HandedOver(unittest.TestCase):
    """A nested sheet as picture, drawing and program."""

    def test_cut_last_and_as_long_as_the_parts(self) -> None:
        parts, _ = parts_of(FOLIO)
        order = Order(read_stock("1000x600"), seconds=1)
        (sheet,) = nest(parts, order).sheets
        strokes = ordered(strokes_on(sheet, dashed=True), (Pen.FOLD, Pen.CUT))
        back, _ = drawn(job(strokes, SIMULATED).text, SIMULATED)
        cut = sum(stroke.length for stroke in back if stroke.pen is Pen.CUT)
        wanted = sum(stroke.length for part in parts for stroke in part.strokes if stroke.pen is Pen.CUT)
        self.assertAlmostEqual(cut, wanted, delta=0.1)
        pens = [stroke.pen for stroke in back]
        self.assertGreater(pens.index(Pen.CUT), len(pens) - 1 - pens[::-1].index(Pen.FOLD))
        page = sheet_page(sheet, 1, 1, order, "Bramlow Mill")
        (leaf,) = PdfReader(io.BytesIO(pdf([page], "nested"))).pages
        self.assertAlmostEqual(float(leaf.mediabox.width) * 25.4 / 72, 1010, delta=0.01)
        self.assertIn(f"used {100 * sheet.use:.1f} %", leaf.extract_text())
        self.assertIn("hopper", leaf.extract_text())
        self.assertIn("CUT", dxf(page).upper())


class Asked(unittest.TestCase):
    def test_stock(self) -> None:
        self.assertEqual(read_stock("2*1250x600, 2000x1000"), (Stock(1250, 600, 2), Stock(2000, 1000)))
        self.assertEqual(read_stock("1000,5x600"), (Stock(1000.5, 600),))
        self.assertEqual(len(read_stock("1000,5x600,900x600;800x500")), 3)
        for said in ("", "12", "2000x", "5x5", "0*100x100", "-3x4"):
            with self.assertRaises(BadGiven):
                read_stock(said)

    def test_copies(self) -> None:
        parts, _ = parts_of(FOLIO)
        self.assertEqual(len(copied(parts, {"dome": 2, "hopper": 3})), len(parts) - 12 + 2 - 1 + 3)
        with self.assertRaisesRegex(BadGiven, "no pattern is called “dom”"):
            copied(parts, {"dom": 1})

    def test_refused(self) -> None:
        parts, _ = parts_of(FOLIO)
        for order, words in ((Order(kerf=-1), "kerf -1 mm"), (Order(edge=900), "edge 900 mm")):
            with self.assertRaisesRegex(BadGiven, words):
                nest(parts, order)
        with self.assertRaisesRegex(BadGiven, "nothing is cut"):
            nest([], Order())
