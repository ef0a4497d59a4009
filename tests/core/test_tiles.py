"""Full size over the pages of a printer: the pages are read back as they are printed, put together by the letters on their
seams alone, and held against the drawing."""

from __future__ import annotations

import io
import math
import os
import random
import unittest
from collections import defaultdict
from dataclasses import dataclass, field

import numpy as np
from pypdf import PdfReader
from pypdf.generic import ContentStream
from shapely import LineString, Point, STRtree, box, get_parts

from wisecompass.drafting.errors import BadGiven
from wisecompass.exchange.pdf import pdf
from wisecompass.exchange.svg import svg
from wisecompass.folio import register, store
from wisecompass.folio.page import Page
from wisecompass.folio.print import sheet_page
from wisecompass.folio.tiles import PROOF, Tiles, full_size, printer, seam_name, tiled

MM = 72 / 25.4

FOLIO = store.sample()


@dataclass
class Printed:
    """A page as it comes out of a printer: lines outside and inside its window, and texts with their places; mm."""

    size: tuple[float, float]
    around: list[LineString] = field(default_factory=list)
    drawn: list[LineString] = field(default_factory=list)
    texts: list[tuple[str, float, float]] = field(default_factory=list)


def printed(data: bytes, shrink: tuple[float, float] = (1.0, 1.0)) -> list[Printed]:
    """All pages of a document, by a printer that prints everything ``shrink`` times as wide and as high."""
    return [_page(page, np.array([shrink[0] / MM, shrink[1] / MM])) for page in PdfReader(io.BytesIO(data)).pages]


def _page(page: object, share: np.ndarray) -> Printed:
    found = Printed(tuple(float(v) / MM for v in page.mediabox[2:]))  # type: ignore[attr-defined]
    matrix, kept, path, window = np.eye(3), [], [], None
    at = np.zeros(2)
    for operands, operator in ContentStream(page.get_contents(), page.pdf).operations:  # type: ignore[attr-defined]
        values = [float(v) for v in operands] if operator in (b"cm", b"m", b"l", b"c", b"re") else []
        places = [(matrix @ [x, y, 1])[:2] * share for x, y in zip(values[::2], values[1::2], strict=True)]
        if operator == b"cm":
            a, b, c, d, e, f = values
            matrix = matrix @ np.array([[a, c, e], [b, d, f], [0, 0, 1]])
        elif operator == b"q":
            kept.append(matrix)
        elif operator == b"Q":
            matrix = kept.pop()
        elif operator == b"m":
            path.append([places[0]])
        elif operator == b"l":
            path[-1].append(places[0])
        elif operator == b"c":
            p, q, r = places
            path[-1] += [(1 - t) ** 3 * at + 3 * t * (1 - t) ** 2 * p + 3 * t * t * (1 - t) * q + t**3 * r for t in T]
        elif operator == b"re":
            x, y, w, h = values
            corners = [(matrix @ [*p, 1])[:2] * share for p in ((x, y), (x + w, y), (x + w, y + h), (x, y + h))]
            path.append([*corners, corners[0]])
        elif operator == b"n" and path:  # the clip
            window = box(*np.min(path[-1], axis=0), *np.max(path[-1], axis=0))
            path = []
        elif operator == b"S":
            for run in path:
                if len(run) > 1:
                    line = LineString(run)
                    (found.around if window is None else found.drawn).append(line if window is None else line & window)
            path = []
        elif operator in (b"f", b"f*", b"B"):
            path = []
        if operator in (b"m", b"l", b"c"):
            at = places[-1]

    def hear(text: str, cm: list[float], tm: list[float], _font: object, _size: float) -> None:
        place = np.array([[cm[0], cm[2], cm[4]], [cm[1], cm[3], cm[5]], [0, 0, 1]]) @ [tm[4], tm[5], 1]
        if text.strip():
            found.texts.append((text.strip(), *(place[:2] * share)))

    page.extract_text(visitor_text=hear)  # type: ignore[attr-defined]
    found.drawn = [part for line in found.drawn for part in get_parts(line) if not part.is_empty]
    return found


T = [k / 12 for k in range(1, 13)]


def together(pages: list[Printed], letters: set[str]) -> tuple[list[tuple[float, float]], float]:
    """How far each page is moved so that the letters of the seams fall on one another, and how far apart they still are."""
    where: list[dict[str, list[tuple[float, float]]]] = []
    for page in pages:
        mine = defaultdict(list)
        for text, x, y in page.texts:
            if text in letters:
                mine[text].append((x, y))
        where.append({name: sorted(places) for name, places in mine.items() if len(places) == 4})
    moves: dict[int, tuple[float, float]] = {0: (0.0, 0.0)}
    worst, waiting = 0.0, [0]
    while waiting:
        k = waiting.pop()
        for n in range(len(pages)):
            for name in where[k].keys() & where[n].keys() if n != k else ():
                apart = np.array(where[k][name]) - np.array(where[n][name])
                move = tuple(np.array(moves[k]) + apart.mean(axis=0))
                worst = max(worst, float(np.abs(apart - apart.mean(axis=0)).max()))
                if n in moves:
                    worst = max(worst, math.dist(moves[n], move))
                else:
                    moves[n] = move
                    waiting.append(n)
    return [moves[k] for k in range(len(pages))], worst


def seams(tiles: Tiles) -> set[str]:
    return {f"join {seam_name(n)}" for n in range(2 * (tiles.rows + 1) * (tiles.columns + 1))}


class PutTogether(unittest.TestCase):
    """Pages put together by their signs give the drawing."""

    def hold(self, whole: Page, tiles: Tiles, data: bytes, shrink: tuple[float, float]) -> float:
        """How far the pages put together are from the drawing, mm."""
        pages = printed(data, shrink)[0 if tiles.overview is None else 1 :]
        self.assertEqual(len(pages), len(tiles.tiles))
        moves, worst = together(pages, seams(tiles))
        self.assertLess(worst, 0.05)
        (dx, dy), first = moves[0], tiles.tiles[0]
        mine = []
        for page, (mx, my) in zip(pages, moves, strict=True):
            for line in page.drawn:
                shifted = [(x + mx - dx - first.dx, y + my - dy - first.dy) for x, y in line.coords]
                mine += [Point(place) for place in shifted] if len(shifted) == 1 else [LineString(shifted)]
        (alone,) = printed(pdf([whole], ""))
        true = [*alone.around, *alone.drawn]
        return max(_farthest(true, mine), _farthest(mine, true))

    def test_every_pattern_and_every_paper(self) -> None:
        """Patterns of the sample on papers of several sizes, lying or upright as they come out, within 0.05 mm."""
        chance = random.Random(19)
        few = ("hopper", "square to round", "branch", "boot", "drip tray", "newel helix")
        every = tuple(figure.name for sheet in FOLIO.sheets for figure in sheet.figures)
        for name in every if os.environ.get("WISE_COMPASS_TILES") else few:
            page, extent = full_size(FOLIO, register.place_of(FOLIO, name))
            size = f"{chance.randrange(100, 240)}x{chance.randrange(110, 300)}"
            tiles = tiled(page, printer(size, overlap=chance.choice((6, 10, 15))), name, extent)
            with self.subTest(name, size=size, pages=tiles.words):
                self.assertLess(self.hold(page, tiles, pdf(tiles.pages, name), (1.0, 1.0)), 0.05)

    def test_a_printer_that_prints_short(self) -> None:
        """What its proof lines measure, typed in, makes it good, each way by itself."""
        page, extent = full_size(FOLIO, register.place_of(FOLIO, "hopper"))
        tiles = tiled(page, printer("A4", measured=(98.7, 100.9)), "hopper", extent)
        data = pdf(tiles.pages, "hopper")
        self.assertLess(self.hold(page, tiles, data, (0.987, 1.009)), 0.05)
        for sheet in printed(data, (0.987, 1.009))[1:]:
            self.assertAlmostEqual(sheet.size[0] * sheet.size[1], 210 * 297, delta=0.1)
        straight = pdf(tiled(page, printer("A4"), "hopper", extent).pages, "hopper")
        self.assertGreater(self.hold(page, tiles, straight, (0.987, 1.009)), 0.5)  # the check can fail

    def test_a_whole_sheet(self) -> None:
        """A sheet with its border and title block over smaller pages."""
        page, _ = sheet_page(FOLIO, 12)
        tiles = tiled(page, printer("A5"), "sheet")
        self.assertLess(self.hold(page, tiles, pdf(tiles.pages, ""), (1.0, 1.0)), 0.05)


def _farthest(these: list[object], those: list[object]) -> float:
    """How far the farthest place of some lines is from others."""
    tree = STRtree(those)
    worst = 0.0
    for line in these:
        for k in range(9):
            place = line.interpolate(k / 8, normalized=True) if line.length else line  # type: ignore[attr-defined]
            near = those[int(tree.nearest(place))]
            worst = max(worst, near.distance(place))  # type: ignore[attr-defined]
    return worst


class Signs(unittest.TestCase):
    """Marks that fit one way, and proof lines."""

    def test_no_two_seams_are_alike(self) -> None:
        """A page turned about, or laid at another's seam, does not fit: letters differ, and so do the ways between signs."""
        page, extent = full_size(FOLIO, register.place_of(FOLIO, "square to round"))
        tiles = tiled(page, printer("120x150"), "", extent)
        pages = printed(pdf([tile.page for tile in tiles.tiles], ""))
        owners = defaultdict(list)
        for k, sheet in enumerate(pages):
            for text, x, y in sheet.texts:
                if text in seams(tiles):
                    owners[text].append((k, round(x, 2), round(y, 2)))
        self.assertGreater(len(owners), 6)
        ways = {}
        for name, places in owners.items():
            self.assertEqual(len({k for k, _, _ in places}), 2, name)
            k = places[0][0]
            mine = sorted((x, y) for n, x, y in places if n == k)
            ways[name] = (round(mine[-1][0] - mine[0][0], 1), round(mine[-1][1] - mine[0][1], 1))
        self.assertEqual(len(set(ways.values())), len(ways))

    def test_proof_lines_on_every_page(self) -> None:
        """Every page has a line of 100 mm each way, told as such; a small paper a shorter one, told as what it is."""
        page, extent = full_size(FOLIO, register.place_of(FOLIO, "hopper"))
        for size, length in (("A4", 100), ("A3", 100), ("90x90", 20)):
            tiles = tiled(page, printer(size), "", extent)
            for sheet in printed(pdf([tile.page for tile in tiles.tiles], "")):
                lines = [line.bounds for line in sheet.around]
                across = [b for b in lines if abs(b[2] - b[0] - length) < 1e-3 and b[3] - b[1] < 1e-6]
                high = 50 if size == "90x90" else length
                upright = [b for b in lines if abs(b[3] - b[1] - high) < 1e-3 and b[2] - b[0] < 1e-6]
                self.assertTrue(across and upright, size)
                told = sorted(text for text, _, _ in sheet.texts if text.startswith("proof line"))
                self.assertEqual(told, sorted(f"proof line {each} mm" for each in (length, high)))
        self.assertEqual(PROOF, 100)

    def test_numbers_and_what_is_left_out(self) -> None:
        """Pages are numbered in the order of reading; where nothing is drawn there is none."""
        page, extent = full_size(FOLIO, register.place_of(FOLIO, "square to round"))
        tiles = tiled(page, printer("75x75"), "", extent)
        self.assertTrue(tiles.blank)
        for n, sheet in enumerate(printed(pdf([tile.page for tile in tiles.tiles], "")), 1):
            self.assertTrue(any(f"page {n} of {len(tiles.tiles)}" in text for text, _, _ in sheet.texts))
        self.assertEqual([(t.row, t.column) for t in tiles.tiles], sorted((t.row, t.column) for t in tiles.tiles))

    def test_svg_shows_through_the_window_only(self) -> None:
        page, extent = full_size(FOLIO, register.place_of(FOLIO, "hopper"))
        tile = tiled(page, printer("A4"), "", extent).tiles[0].page
        self.assertIn('clip-path="url(#window)"', svg(tile))


class Refused(unittest.TestCase):
    """Each with its value, its limit and what works."""

    def test_printers(self) -> None:
        for words, ask in (
            ("is none of A4", lambda: printer("B7")),
            ("not from 40 to 2000", lambda: printer("10x5000")),
            ("too small for an overlap of 30 mm", lambda: printer("70x70", overlap=30)),
            ("not from 4 to 60", lambda: printer(overlap=1)),
            ("not from 0 to 50", lambda: printer(margin=-1)),
            ("no printer's error", lambda: printer(measured=[70])),
        ):
            with self.assertRaisesRegex(BadGiven, words) as caught:
                ask()
            self.assertIsNotNone(caught.exception.nearest)

    def test_the_least_overlap_that_is_named_works(self) -> None:
        with self.assertRaises(BadGiven) as caught:
            printer("60x60", overlap=40)
        printer("60x60", overlap=float(caught.exception.nearest or "nan"))

    def test_nothing_at_the_foot_of_a_small_page_runs_off_it(self) -> None:
        """On the smallest papers that are taken, lines and words stay on the page."""
        page, extent = full_size(FOLIO, register.place_of(FOLIO, "octagon"))
        for size in ("46x46", "60x60", "75x90", "100x70"):
            tiles = tiled(page, printer(size, overlap=4), "A long name of a piece of work", extent)
            for sheet in printed(pdf([tile.page for tile in tiles.tiles], "")):
                wide, high = sheet.size
                for line in sheet.around:
                    left, low, right, top = line.bounds
                    self.assertGreater(min(left, low), -0.01, size)
                    self.assertTrue(right < wide + 0.01 and top < high + 4, size)

    def test_too_many_pages(self) -> None:
        page, _ = sheet_page(FOLIO, 12)
        with self.assertRaisesRegex(BadGiven, "up to 400"):
            tiled(page, printer("60x60", overlap=15), "", (0, 0, 4000, 4000))

    def test_a_figure_without_pattern(self) -> None:
        with self.assertRaisesRegex(BadGiven, "has no pattern"):
            full_size(FOLIO, register.place_of(FOLIO, "octagon"), pattern=True)
