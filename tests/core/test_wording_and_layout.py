"""How steps, names and numbers are worded, and how blocks find their places on paper."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace
from fractions import Fraction
from random import Random

from wisecompass import catalogue
from wisecompass.drafting import marks
from wisecompass.drafting.conventions import Conventions, Units
from wisecompass.drafting.marks import Box, Mark
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import draw
from wisecompass.drafting.wording import lettered, listed, measured, number_text, spoken, with_article
from wisecompass.folio import labels
from wisecompass.folio.cells import Cells
from wisecompass.folio.dimensions import expanded, free_share
from wisecompass.folio.layout import arrange
from wisecompass.folio.page import compose
from wisecompass.folio.paper import Paper, text_width
from wisecompass.folio.scales import SCALES, WITH_BETWEEN, scale_text
from wisecompass.folio.title_block import Title


class Words(unittest.TestCase):
    def test_numbers_have_no_idle_zeros_and_a_true_minus(self) -> None:
        for value, text in ((18.5, "18.5"), (7.0, "7"), (-2.5, "−2.5"), (-0.001, "0"), (3.14159, "3.14"), (1e9, "1e+09")):
            self.assertEqual(number_text(value), text)

    def test_names_as_they_are_lettered(self) -> None:
        for name, text in (
            ("T1", "T₁"),
            ("P12", "P₁₂"),
            ("b1′", "b₁′"),
            ("a′", "a′"),
            ("12", "12"),
            ("P1–K", "P₁–K"),
            ("P1P2", "P₁P₂"),
            ("A/flat", "A₀"),
            ("A/flat end", "(A₀)"),
            ("b/2", "(b)"),
            ("edge 1", "edge 1"),
        ):
            self.assertEqual(lettered(name), text)
        self.assertEqual(spoken("arc about E1"), "arc about E₁")

    def test_articles_only_where_speech_wants_them(self) -> None:
        self.assertEqual(with_article("centre line"), "the centre line")
        self.assertEqual(with_article("arc about T1"), "the arc about T₁")
        self.assertEqual(with_article("edge 1"), "edge 1")
        self.assertEqual(with_article("T1"), "T₁")
        self.assertEqual(with_article("the fold line"), "the fold line")

    def test_lists(self) -> None:
        self.assertEqual(listed([]), "")
        self.assertEqual(listed(["A"]), "A")
        self.assertEqual(listed(["A", "B", "C"]), "A, B and C")
        self.assertEqual(listed([str(n) for n in range(12)]), "0, 1 … 11")

    def test_units(self) -> None:
        self.assertEqual(measured(25.4, "mm"), "25.4 mm")
        self.assertEqual(measured(25.4, "mm", Units.INCH), "1 in")
        self.assertEqual(measured(25.4**2, "mm²", Units.INCH), "1 in²")
        self.assertEqual(measured(185.0, "mm", Units.CM), "18.5 cm")
        self.assertEqual(measured(72.0, "°", Units.INCH), "72°")
        self.assertEqual(measured(0.5, "", Units.INCH), "0.5")


class Scales(unittest.TestCase):
    def test_written_as_drafters_write_them(self) -> None:
        for value, text in (
            (Fraction(1), "1:1"),
            (Fraction(5, 2), "2.5:1"),
            (Fraction(2, 5), "1:2.5"),
            (Fraction(1, 20), "1:20"),
        ):
            self.assertEqual(scale_text(value), text)

    def test_they_are_those_of_iso_5455(self) -> None:
        usual = {Fraction(step) * 10**power for power in range(3) for step in (1, 2, 5)} | {Fraction(1000)}
        self.assertEqual({s for s in SCALES if s >= 1}, usual)
        self.assertLessEqual({1 / s for s in usual}, set(SCALES))
        self.assertEqual(list(SCALES), sorted(SCALES, reverse=True))
        self.assertTrue({Fraction(5, 2), Fraction(2, 3)} <= set(WITH_BETWEEN))
        for scale in SCALES:
            digits = str(max(scale, 1 / scale))
            self.assertIn(digits.rstrip("0"), ("1", "2", "5"))

    def test_lettering_grows_with_the_sheet_up_to_a_limit(self) -> None:
        sizes = [Paper(size).lettering for size in ("A4", "A3", "A2", "A1", "A0")]
        self.assertEqual(sizes, sorted(sizes))
        self.assertEqual((sizes[0], Paper("Letter").lettering), (1.0, 1.0))
        self.assertAlmostEqual(sizes[1], 2**0.5, places=2)
        self.assertEqual(sizes[4], 2.5)


class Arranging(unittest.TestCase):
    room: Box = (10.0, 10.0, 290.0, 200.0)

    def block(self, name: str, width: float, height: float) -> list[Mark]:
        corners = ((0, 0, width, 0), (width, 0, width, height), (width, height, 0, height), (0, height, 0, 0))
        return [marks.Segment(x1=a, y1=b, x2=c, y2=d, block=name) for a, b, c, d in corners]

    def boxes(self, figure: list[Mark], **options: object) -> dict[str, Box]:
        laid = arrange(figure, {}, self.room, **options)  # type: ignore[arg-type]
        self.scale = laid.scale
        return {
            name: marks.bounds([marks.placed(m, place) for m in figure if m.block == name])
            for name, place in laid.placements.items()
        }

    def test_the_largest_scale_that_fits_is_taken(self) -> None:
        self.boxes(self.block("", 100, 60))
        self.assertEqual(self.scale, 2)
        self.boxes(self.block("", 260, 170))
        self.assertEqual(self.scale, 1)
        self.boxes(self.block("", 270, 170))
        self.assertEqual(self.scale, Fraction(1, 2))
        self.boxes(self.block("", 270, 170), scales=WITH_BETWEEN)
        self.assertEqual(self.scale, Fraction(2, 3))

    def test_blocks_lie_in_the_room_and_apart(self) -> None:
        figure = (
            self.block("", 80, 120)
            + self.block("pattern", 150, 70)
            + self.block("lengths", 60, 40)
            + self.block("p", 30, 30)
        )
        boxes = list(self.boxes(figure).values())
        for i, a in enumerate(boxes):
            self.assertTrue(a[0] > 10 and a[1] > 10 and a[2] < 290 and a[3] < 200)
            for b in boxes[:i]:
                self.assertTrue(a[2] <= b[0] or b[2] <= a[0] or a[3] <= b[1] or b[3] <= a[1])

    def test_many_blocks_and_a_fixed_scale(self) -> None:
        figure = [mark for n in range(7) for mark in self.block(str(n), 40, 20)]
        self.assertEqual(len(self.boxes(figure)), 7)
        self.boxes(figure, fixed=Fraction(1, 10))
        self.assertEqual(self.scale, Fraction(1, 10))

    def test_a_dimension_takes_room_of_its_own(self) -> None:
        plain = self.block("", 266, 100)
        self.boxes(plain)
        without = self.scale
        beside = marks.LinearDimension(x1=266, y1=0, x2=266, y2=100, text="100", offset=-12)
        self.boxes([*plain, beside])
        self.assertLess(self.scale, without)


class Lettering(unittest.TestCase):
    room: Box = (0.0, 0.0, 200.0, 200.0)

    def lettered(self, page: list[Mark]) -> list[Mark]:
        return labels.lettered_at(labels.to_letter(page), labels.find_places(page, self.room))

    def letters(self, page: list[Mark]) -> list[marks.Text]:
        return [m for m in self.lettered(page) if isinstance(m, marks.Text)]

    def box(self, text: marks.Text) -> Box:
        return (text.x, text.y, text.x + text_width(text.text, text.height), text.y + text.height)

    def test_a_letter_keeps_off_the_lines_through_its_point(self) -> None:
        cross: list[Mark] = [
            marks.Segment(x1=50, y1=100, x2=150, y2=100, pen=Pen.OUTLINE),
            marks.Segment(x1=100, y1=50, x2=100, y2=150, pen=Pen.OUTLINE),
            marks.Dot(x=100, y=100, name="O"),
        ]
        (letter,) = self.letters(cross)
        left, low, right, high = self.box(letter)
        self.assertTrue(right < 100 or left > 100)
        self.assertTrue(high < 100 or low > 100)

    def test_a_crowd_gets_leaders_and_no_letter_covers_another(self) -> None:
        dots: list[Mark] = [marks.Dot(x=100 + 1.5 * (n % 3), y=100 + 1.5 * (n // 3), name=f"P{n}") for n in range(9)]
        found = self.lettered(dots)
        self.assertTrue([m for m in found if isinstance(m, marks.Segment)], "leaders")
        boxes = [self.box(m) for m in found if isinstance(m, marks.Text)]
        for i, a in enumerate(boxes):
            for b in boxes[:i]:
                self.assertFalse(a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3])

    def test_letters_stay_on_the_sheet_and_each_place_is_lettered_once(self) -> None:
        corner: list[Mark] = [marks.Dot(x=199.5, y=199.5, name="Z"), marks.Dot(x=199.5, y=199.5, name="Z")]
        (letter,) = self.letters(corner)
        left, low, right, high = self.box(letter)
        self.assertTrue(left > 0 and low > 0 and right < 200 and high < 200)
        hidden: list[Mark] = [marks.Dot(x=1, y=1, name="H", shown=False), marks.Dot(x=2, y=2)]
        self.assertEqual(self.letters(hidden), [])


class Dimensions(unittest.TestCase):
    def texts(self, mark: Mark) -> list[marks.Text]:
        return [m for m in expanded(mark) if isinstance(m, marks.Text)]

    def test_text_reads_from_below_or_from_the_right(self) -> None:
        for x2, y2, angle in (
            (50, 0, 0),
            (-50, 0, 0),
            (0, 50, 90),
            (0, -50, 90),
            (50, 50, 45),
            (-50, -50, 45),
            (-50, 50, -45),
        ):
            (text,) = self.texts(marks.LinearDimension(x1=0, y1=0, x2=x2, y2=y2, text="50"))
            self.assertAlmostEqual(text.angle, angle)

    def test_the_line_stands_on_the_side_asked_for(self) -> None:
        for offset, above in ((9.0, True), (-9.0, False)):
            (text,) = self.texts(marks.LinearDimension(x1=0, y1=0, x2=50, y2=0, text="50", offset=offset))
            self.assertEqual(text.y > 0, above)

    def test_a_small_radius_is_lettered_outside(self) -> None:
        (inside,) = self.texts(marks.RadiusDimension(cx=0, cy=0, x=40, y=0, text="R40"))
        (outside,) = self.texts(marks.RadiusDimension(cx=0, cy=0, x=4, y=0, text="R4"))
        self.assertLess(inside.x, 40)
        self.assertGreater(outside.x, 4)

    def test_the_text_of_a_dimension_slides_off_what_crosses_it(self) -> None:
        """Against a text of the same size set at places close together along the line."""
        chance = Random(11)
        slid = 0
        for _ in range(60):
            angle, length = chance.uniform(0, 2 * math.pi), chance.uniform(40, 120)
            x2, y2 = length * math.cos(angle), length * math.sin(angle)
            dimension = marks.LinearDimension(x1=0, y1=0, x2=x2, y2=y2, text="84.5", offset=chance.choice((-9, 9)))
            across: list[Mark] = []
            for _ in range(4):
                at, turn = chance.uniform(0, 1), chance.uniform(0, 2 * math.pi)
                x, y, u, v = x2 * at, y2 * at, 30 * math.cos(turn), 30 * math.sin(turn)
                across.append(marks.Segment(x1=x - u, y1=y - v, x2=x + u, y2=y + v, pen=Pen.OUTLINE))
            share = free_share(dimension, Cells([*across, *expanded(dimension)]))
            before, after = (self.crossing(dimension, at, across) for at in (0.5, share))
            self.assertLessEqual(after, before)
            slid += share != 0.5
            if before == 0:
                self.assertEqual(share, 0.5)
        self.assertGreater(slid, 10)

    def crossing(self, dimension: marks.LinearDimension, share: float, across: list[Mark]) -> int:
        """How many lines come into the rectangle of the text, found by places close together along them."""
        (text,) = [m for m in expanded(replace(dimension, text_at=share)) if isinstance(m, marks.Text)]
        turn = complex(math.cos(math.radians(text.angle)), math.sin(math.radians(text.angle)))
        count = 0
        for line in across:
            assert isinstance(line, marks.Segment)
            ends = [(complex(x, y) - complex(text.x, text.y)) / turn for x, y in ((line.x1, line.y1), (line.x2, line.y2))]
            spots = (ends[0] + (ends[1] - ends[0]) * k / 3000 for k in range(3001))
            half = text_width(text.text, text.height) / 2 + 0.35
            count += any(abs(spot.real) < half and -0.35 < spot.imag < text.height + 0.35 for spot in spots)
        return count

    def test_a_dimension_leaves_letters_their_room(self) -> None:
        dimension = marks.LinearDimension(x1=0, y1=0, x2=90, y2=0, text="90", offset=-9)
        dots = [marks.Dot(x=45.0, y=-5.0, name="M")]
        lines = Cells(expanded(dimension))
        self.assertEqual(free_share(dimension, lines), 0.5)
        self.assertNotEqual(free_share(dimension, lines, dots), 0.5)

    def test_nothing_is_drawn_of_nothing(self) -> None:
        self.assertEqual(expanded(marks.LinearDimension(x1=1, y1=1, x2=1, y2=1, text="0")), [])
        self.assertEqual(expanded(marks.RadiusDimension(cx=1, cy=1, x=1, y=1, text="R0")), [])
        self.assertEqual(expanded(marks.AngleDimension(x=1, y=1, start=0, sweep=0, text="0°")), [])


class ManyPoints(unittest.TestCase):
    def dots(self, count: int) -> list[Mark]:
        return [marks.Dot(x=2.0 * k, y=50.0 + 20 * (k % 3), name=f"P{k}") for k in range(count)]

    def test_of_very_many_points_some_are_lettered_as_on_a_scale(self) -> None:
        room = (-50.0, -50.0, 900.0, 300.0)
        self.assertEqual(len(labels.find_places(self.dots(60), room)), 60)
        names = sorted((name for _, name in labels.find_places(self.dots(180), room)), key=lambda name: int(name[1:]))
        self.assertEqual(names[:4], ["P0", "P3", "P6", "P9"])
        self.assertEqual(len(names), 60)

    def test_letters_keep_off_each_other(self) -> None:
        places = labels.find_places(self.dots(30), (-50.0, -50.0, 900.0, 300.0))
        self.assertEqual(len(places), 30)
        at = {dot.name: (dot.x, dot.y) for dot in self.dots(30) if isinstance(dot, marks.Dot)}
        boxes = [
            (at[name][0] + left, at[name][1] + low, at[name][0] + right, at[name][1] + high)
            for (_, name), ((left, low, right, high), _) in places.items()
        ]
        for n, one in enumerate(boxes):
            for other in boxes[:n]:
                apart = one[0] >= other[2] or other[0] >= one[2] or one[1] >= other[3] or other[1] >= one[3]
                self.assertTrue(apart, (one, other))

    def test_while_somebody_types_letters_go_with_their_points_and_new_points_wait(self) -> None:
        problem = catalogue.problem("polygons/regular-from-side")
        pages = []
        for sides in ("5", "8"):
            drawing = draw(problem, problem.read({"sides": sides}), problem.methods[0])
            kept = pages[0] if pages else None
            pages.append(compose(drawing, Paper(), Title(), Conventions(), Fraction(1), kept))
        texts = [{m.text for m in page.marks if isinstance(m, marks.Text) and m.text.startswith("P")} for page in pages]
        self.assertEqual(texts, [{f"P{n}" for n in "₁₂₃₄₅"}] * 2)
        self.assertEqual(pages[0].lettering.places, pages[1].lettering.places)
        drawing = draw(problem, problem.read({"sides": "8"}), problem.methods[0])
        self.assertEqual(
            sum(name.startswith("P") for _, name in compose(drawing, Paper(), Title(), Conventions()).lettering.places), 8
        )

    def test_points_without_a_number_always_are(self) -> None:
        others: list[Mark] = [marks.Dot(x=10.0, y=200.0, name="O"), marks.Dot(x=30.0, y=200.0, name="F")]
        places = labels.find_places([*self.dots(300), *others], (-50.0, -50.0, 900.0, 300.0))
        self.assertLessEqual({"O", "F"}, {name for _, name in places})

    def test_a_letter_is_harmed_by_the_lines_that_enter_its_box_and_by_no_others(self) -> None:
        """Against places close together along each line, over random lines and boxes."""
        chance = Random(5)
        entered = 0
        for _ in range(400):
            x1, y1, x2, y2 = (chance.uniform(0, 60) for _ in range(4))
            left, low = chance.uniform(0, 50), chance.uniform(0, 50)
            box = (left, low, left + chance.uniform(2, 9), low + chance.uniform(2, 6))
            lines = Cells([marks.Segment(x1=x1, y1=y1, x2=x2, y2=y2, pen=Pen.OUTLINE)])
            lines.clear = 0.0
            harm = lines.harm(box)
            places = [(x1 + (x2 - x1) * k / 2000, y1 + (y2 - y1) * k / 2000) for k in range(2001)]
            inside = [(min(x - box[0], box[2] - x, y - box[1], box[3] - y)) for x, y in places]
            if abs(max(inside)) > 0.05:  # one that just touches a corner may be taken either way
                self.assertEqual(harm > 0, max(inside) > 0, (x1, y1, x2, y2, box))
                entered += harm > 0
        self.assertGreater(entered, 20)


if __name__ == "__main__":
    unittest.main()
