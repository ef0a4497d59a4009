"""Several figures on a sheet: the planner, what was dragged, captions, contents; and what is left out of a construction."""

from __future__ import annotations

import io
import itertools
import json
import random
import unittest
from dataclasses import replace
from typing import Any

from pypdf import PdfReader

from tests.core.random_givens import feasible
from tests.core.redrawing import redraw, sheet
from wisecompass import catalogue
from wisecompass.catalogue import index
from wisecompass.drafting.conventions import Conventions
from wisecompass.drafting.marks import Arc, Area, Box, Dot, Text, bounds
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.recorder import ASKED
from wisecompass.drafting.solve import Drawing, certify, draw
from wisecompass.exchange.export import made
from wisecompass.exchange.leaves import sheet_pages
from wisecompass.folio import register, store
from wisecompass.folio.document import Figure, Folio, Sheet
from wisecompass.folio.fit import advice_beside_others, beginnings
from wisecompass.folio.going_on import in_the_way
from wisecompass.folio.page import Page, final
from wisecompass.folio.paper import EDGE, FILING_EDGE
from wisecompass.folio.print import conventions_of, drawn, inside, page_of, plan_of, sheet_page, with_rooms
from wisecompass.folio.sheet_plan import largest_free

EVERY = [figure for sheet_ in store.sample().sheets for figure in sheet_.figures]


def folio_of(*figures: Figure, paper: str = "A3", one_scale: bool = False) -> Folio:
    size: Any = paper
    held = Sheet("Together", "T-1", tuple(replace(figure, room=None) for figure in figures), size, True, "", one_scale)
    return register.with_names(Folio("Barn", (held,)))


def some(rng: random.Random, count: int) -> list[Figure]:
    """Figures of the sample that hang on no other."""
    free = [figure for figure in EVERY if not any("." in text and text[0].isalpha() for text in figure.givens.values())]
    return rng.sample(free, count)


def apart(one: Box, other: Box) -> bool:
    return one[2] <= other[0] + 1e-6 or other[2] <= one[0] + 1e-6 or one[3] <= other[1] + 1e-6 or other[3] <= one[1] + 1e-6


def lines(page: Page) -> Box:
    """What the lines of a figure cover, but for the arrows outside short dimensions."""
    seen = (mark for mark in page.marks if not isinstance(mark, Text | Area) and mark.pen is not Pen.DIMENSION)
    return bounds([mark for mark in seen if not isinstance(mark, Dot) or mark.shown])


def _is_free(taken: list[tuple[int, int, int, int]], x: int, y: int) -> bool:
    """Whether no box reaches into a square of 20 mm."""
    return not any(left < x + 20 and right > x and low < y + 20 and high > y for left, low, right, high in taken)


class Planner(unittest.TestCase):
    def test_parts_lie_apart_inside_the_frame_in_their_order_and_hold_their_figures(self) -> None:
        rng = random.Random(2)
        for count in (2, 3, 4, 5, 8):
            folio = folio_of(*some(rng, count), paper="A1")
            plan = plan_of(folio, 0)
            boxes = [cell.box for cell in plan.cells if cell is not None]
            self.assertEqual(len(boxes), count)
            left, low, right, high = folio.sheets[0].as_paper().frame
            for box in boxes:
                self.assertTrue(left <= box[0] < box[2] <= right and low <= box[1] < box[3] <= high, box)
            for one, other in itertools.combinations(boxes, 2):
                self.assertTrue(apart(one, other), (one, other))
            for f, box in enumerate(boxes):
                page = page_of(folio, (0, f), plan)
                a, b, c, d = lines(page)
                name = folio.sheets[0].figures[f].name
                self.assertTrue(box[0] <= a and box[1] <= b and c <= box[2] and d <= box[3], (name, box, (a, b, c, d)))
                self.assertIn(name, page.brief[0].text)  # type: ignore[attr-defined]
                self.assertEqual(page.scale, plan.scales[f], name)

    def test_figures_are_as_large_as_the_others_allow(self) -> None:
        """No figure could have the next scale of ISO 5455 as long as all others keep theirs, in any rows or columns."""
        from wisecompass.folio.page import Caption, said_of
        from wisecompass.folio.scales import SCALES
        from wisecompass.folio.sheet_plan import Wanted, _best

        rng = random.Random(5)
        for count in (2, 3, 4):
            folio = folio_of(*some(rng, count))
            plan = plan_of(folio, 0)
            box = [cell.box for cell in plan.cells if cell is not None]
            room = (min(b[0] for b in box), min(b[1] for b in box), max(b[2] for b in box), max(b[3] for b in box))
            size = folio.sheets[0].as_paper().lettering
            conventions = folio.conventions.as_conventions()
            figures = [drawn(folio, figure) for figure in folio.sheets[0].figures]
            wanted = [
                Wanted.of(each, Caption(figure.name, said_of(each, conventions)), None, size)
                for each, figure in zip(figures, folio.sheets[0].figures, strict=True)
            ]
            for f, scale in enumerate(plan.scales):
                larger = [each for each in SCALES if each > scale]
                tried = [*plan.scales[:f], larger[-1], *plan.scales[f + 1 :]]
                sizes = [one.shapes(at) for one, at in zip(wanted, tried, strict=True)]
                self.assertIsNone(
                    _best(sizes, (room[2] - room[0], room[3] - room[1])), (folio.sheets[0].figures[f].name, scale)
                )

    def test_one_scale_for_all_or_each_its_own(self) -> None:
        figures = [Figure("triangles/three-sides", "two arcs", {"base": b}, name=b) for b in ("71", "35.5")]
        figures[1] = replace(figures[1], givens={"base": "20", "left": "15", "right": "12"})
        own, shared = (folio_of(*figures, one_scale=wanted) for wanted in (False, True))
        self.assertEqual(len(set(plan_of(own, 0).scales)), 2)
        self.assertEqual(len(set(plan_of(shared, 0).scales)), 1)
        for folio, told in ((own, True), (shared, False)):
            page, _ = sheet_page(folio, 0)
            captions = [mark.text for mark in page.brief if isinstance(mark, Text)]
            self.assertEqual(any(":1" in text for text in captions), told)
        fixed = folio_of(figures[0], replace(figures[1], scale="1:2"), one_scale=True)
        self.assertEqual(float(plan_of(fixed, 0).scales[1]), 0.5)

    def test_one_scale_on_a_crowded_sheet(self) -> None:
        sizes = ("71 58 43", "20 15 12", "6 5 4")
        briefs = [dict(zip(("base", "left", "right"), sizes[n % 3].split(), strict=True)) for n in range(14)]
        figures = [Figure("triangles/three-sides", "two arcs", brief, name=f"no {n}") for n, brief in enumerate(briefs)]
        for wanted in (False, True):
            folio = folio_of(*figures, one_scale=wanted)
            plan = plan_of(folio, 0)
            scales = {page_of(folio, (0, f), plan).scale for f in range(len(figures))}
            self.assertEqual(len(scales) == 1, wanted, scales)

    def test_what_was_dragged_stays_and_never_leaves_the_frame(self) -> None:
        rng = random.Random(9)
        folio = with_rooms(folio_of(*some(rng, 3)), 0)
        before = plan_of(folio, 0)
        paper = folio.sheets[0].as_paper()
        for _ in range(40):
            figure = folio.sheets[0].figures[1]
            assert figure.room is not None
            away = (figure.room[0] + rng.uniform(-500, 500), figure.room[1] + rng.uniform(-500, 500), *figure.room[2:])
            folio = register.replace_figure(folio, (0, 1), replace(figure, room=inside(paper, away)))
            plan = plan_of(folio, 0)
            cell = plan.cells[1]
            assert cell is not None
            left, low, right, high = paper.frame
            self.assertTrue(left <= cell.box[0] and low <= cell.box[1] and cell.box[2] <= right and cell.box[3] <= high)
            self.assertEqual([plan.cells[0], plan.cells[2]], [before.cells[0], before.cells[2]])
        smaller = replace(folio, sheets=(replace(folio.sheets[0], paper="A4"),))
        for cell in plan_of(smaller, 0).cells:
            assert cell is not None
            self.assertLessEqual(cell.box[2], 297 - EDGE + 1e-6)
        again = store.checked(json.loads(store.dumps(folio)), "again")
        self.assertEqual(plan_of(again, 0), plan_of(folio, 0))

    def test_a_new_figure_goes_where_most_is_free(self) -> None:
        folio = with_rooms(folio_of(*some(random.Random(3), 2)), 0)
        first, second = folio.sheets[0].figures
        left_half = [replace(first, room=(0.0, 0.0, 120.0, 120.0)), replace(second, room=(0.0, 130.0, 120.0, 120.0))]
        folio = folio_of(first)
        folio = replace(
            folio, sheets=(replace(folio.sheets[0], figures=(*left_half, replace(first, room=None, name="new"))),)
        )
        cells = [cell.box for cell in plan_of(folio, 0).cells if cell is not None]
        self.assertTrue(apart(cells[2], cells[0]) and apart(cells[2], cells[1]))
        self.assertGreater(cells[2][2] - cells[2][0], 200.0)

    def test_the_largest_free_part_is_the_largest(self) -> None:
        rng = random.Random(7)
        for _ in range(30):
            taken = []
            for _ in range(rng.randint(1, 4)):
                x, y = rng.randrange(0, 300, 20), rng.randrange(0, 200, 20)
                taken.append((x, y, x + rng.randrange(40, 160, 20), y + rng.randrange(40, 160, 20)))
            found = largest_free((0.0, 0.0, 400.0, 280.0), taken)
            free = [[_is_free(taken, x, y) for x in range(0, 400, 20)] for y in range(0, 280, 20)]
            best = 0
            for r0, c0 in itertools.product(range(14), range(20)):
                for r1 in range(r0 + 2, 15):
                    c1 = c0
                    while c1 < 20 and all(free[r][c1] for r in range(r0, r1)):
                        c1 += 1
                    if c1 - c0 >= 2:
                        best = max(best, (r1 - r0) * (c1 - c0) * 400)
            if best:
                self.assertAlmostEqual((found[2] - found[0]) * (found[3] - found[1]), best)

    def test_two_hundred_figures_stand_on_one_sheet(self) -> None:
        square = Figure("polygons/square-from-side", "four equal arcs")
        folio = folio_of(*[replace(square, name=f"pad {n}") for n in range(200)], paper="A0")
        boxes = [cell.box for cell in plan_of(folio, 0).cells if cell is not None]
        self.assertEqual(len(boxes), 200)
        self.assertTrue(all(apart(one, other) for one, other in itertools.combinations(boxes[::7], 2)))
        self.assertIn("200 figures", advice_beside_others(folio, (0, 3)))

    def test_what_does_not_fit_is_said_with_what_would_help(self) -> None:
        big = Figure("polygons/square-from-side", "four equal arcs", {"side": "250"}, name="hall")
        small = Figure("polygons/square-from-side", "four equal arcs", {"side": "40"}, name="pad")
        said = advice_beside_others(folio_of(big, small, paper="A4"), (0, 0))
        self.assertRegex(said, r"^At 1:5 beside the others on A4; A\d takes it at 1:1\. “hall” takes most room")
        paper = said.split("; ")[1][:2]
        self.assertEqual(advice_beside_others(folio_of(big, small, paper=paper), (0, 0)), "")
        fixed = folio_of(replace(big, scale="1:1"), small, paper="A4")
        self.assertRegex(advice_beside_others(fixed, (0, 0)), "^At 1:1 it runs over its part of A4")
        over = with_rooms(folio_of(big, small), 0)
        room = over.sheets[0].figures[1].room
        over = register.replace_figure(over, (0, 0), replace(over.sheets[0].figures[0], room=room))
        self.assertIn("lies over that of “pad”", advice_beside_others(over, (0, 0)))


class OnPaper(unittest.TestCase):
    def test_the_sheets_name_heads_it_and_each_brief_stands_beside_its_figure(self) -> None:
        folio = folio_of(*some(random.Random(11), 3))
        page, said = sheet_page(folio, 0)
        self.assertEqual(said, [])
        texts = [mark for mark in final(page) if isinstance(mark, Text)]
        highest = max(texts, key=lambda mark: mark.y)
        self.assertEqual(highest.text, "Together")
        words = " ".join(mark.text for mark in page.brief if isinstance(mark, Text))
        for figure in folio.sheets[0].figures:
            problem = catalogue.problem(figure.problem)
            self.assertIn(problem.spoken(drawn(folio, figure).typed), words)

    def test_where_it_begins_is_where_its_first_letter_lies(self) -> None:
        folio = folio_of(*some(random.Random(13), 2))
        for f, figure in enumerate(folio.sheets[0].figures):
            page, drawing = page_of(folio, (0, f)), drawn(folio, figure)
            first = beginnings(drawing, page)[0]
            name = first.split(": ")[-1].split(" lies")[0]
            x, y = (float(word) for word in first.split(" lies ")[1].replace(" from the left border, ", " ").split()[:2])
            dots = [mark for mark in page.marks if isinstance(mark, Dot) and mark.name == name]
            self.assertTrue(any(abs(d.x - FILING_EDGE - x) <= 0.5 and abs(d.y - EDGE - y) <= 0.5 for d in dots), first)

    def test_a_pdf_has_a_bookmark_for_each_sheet_and_figure(self) -> None:
        sample = store.sample()
        folio = replace(sample, sheets=(sample.sheets[3], sample.sheets[6], sample.sheets[24]))
        outline = PdfReader(io.BytesIO(made("folio-pdf", folio, (0, 0)))).outline
        titles = [entry.title if not isinstance(entry, list) else [each.title for each in entry] for entry in outline]
        wanted: list[object] = []
        for held in folio.sheets:
            wanted.append(f"{held.number} {held.name}")
            if len(held.figures) > 1:
                wanted.append([figure.name for figure in held.figures])
        self.assertEqual(titles, wanted)

    def test_pages_made_side_by_side_are_those_made_one_by_one(self) -> None:
        sample = store.sample()
        folio = replace(sample, sheets=sample.sheets[3:10])
        for s, (page, _) in enumerate(sheet_pages(folio, range(7))):
            alone, _ = sheet_page(folio, s)
            texts = [
                [(m.text, round(m.x, 9), round(m.y, 9)) for m in p.brief + p.marks if isinstance(m, Text)]
                for p in (page, alone)
            ]
            self.assertEqual(*texts)


class Wishes(unittest.TestCase):
    def test_what_is_left_out_leaves_a_construction_that_can_be_followed(self) -> None:
        """For random givens and every wish of every method: nothing is told or drawn of it, and a blind hand redraws the
        rest from the record alone."""
        rng = random.Random(21)
        tried = 0
        for problem_id in catalogue.ids():
            problem = catalogue.problem(problem_id)
            for method in problem.methods:
                typed = feasible(problem, method, rng)
                usual = draw(problem, typed, method, Conventions())
                for wish in usual.wishes:
                    whole = usual
                    school = Conventions(left_out=frozenset([wish]))
                    fewer = draw(problem, typed, method, school)
                    if wish.startswith(ASKED):
                        whole, fewer = fewer, whole
                    with self.subTest(problem=problem_id, method=method.name, wish=wish):
                        redraw(problem, method, typed, Conventions() if wish.startswith(ASKED) else school)
                        self.assertLess(len(fewer.steps), len(whole.steps))
                        self.assertLess(len(fewer.marks), len(whole.marks))
                        self.assertIn(wish, fewer.wishes)
                        redraw(problem, method, typed, school)
                        letters = {mark.name for mark in fewer.marks if isinstance(mark, Dot)}
                        self.assertLess(letters, {mark.name for mark in whole.marks if isinstance(mark, Dot)} | {""})
                        proof = certify(problem, typed, method, school)
                        self.assertTrue(all(check.holds for check in proof.checks))
                        self.assertEqual(sheet(problem, method, typed, school).solutions, whole.solutions)
                        tried += 1
        self.assertGreater(tried, 35)

    def test_whole_circles_where_they_are_wanted(self) -> None:
        problem = catalogue.problem("lines/perpendicular-bisector")
        for wanted in (False, True):
            drawing = draw(problem, problem.read({}), problem.methods[0], Conventions(whole_circles=wanted))
            arcs = [mark for mark in drawing.marks if isinstance(mark, Arc) and mark.pen is Pen.CONSTRUCTION]
            self.assertTrue(arcs)
            self.assertEqual(all(abs(arc.sweep) >= 360 for arc in arcs), wanted)


class GoingOn(unittest.TestCase):
    """An ellipse, its tangent and the circle that touches it on one drawing."""

    def setUp(self) -> None:
        arch = Figure("conics/ellipse", "concentric circles", {"major": "150", "minor": "90"}, name="arch")
        folio, place = register.add_figure(folio_of(), arch, 0)
        folio, place = register.go_on(folio, place, "conics/ellipse-tangent-normal")
        bare = replace(folio.sheets[0].figures[1], left_out=("centre of curvature",))
        folio, place = register.go_on(register.replace_figure(folio, place, bare), (0, 0), "conics/ellipse-touching-circle")
        self.assertEqual(place, (0, 2), "at the end of the drawing")
        self.folio = folio

    def drawings(self) -> list[Drawing]:
        return [drawn(self.folio, figure) for figure in self.folio.sheets[0].figures]

    def test_one_drawing_on_a_crowded_sheet_too(self) -> None:
        first, *others = self.folio.sheets[0].figures
        more = [
            Figure("triangles/three-sides", "two arcs", {"base": "20", "left": "15", "right": f"{12 + n}"}, name=f"no {n}")
            for n in range(12)
        ]
        crowded = replace(self.folio.sheets[0], figures=(first, *others, *more))
        cells = plan_of(replace(self.folio, sheets=(crowded,)), 0).cells
        self.assertEqual([cell is not None and cell.silent for cell in cells[:4]], [True, True, False, False])

    def test_steps_go_on_counting_and_nothing_is_drawn_twice(self) -> None:
        one, two, three = self.drawings()
        self.assertEqual(two.steps[: len(one.steps)], one.steps)
        self.assertEqual(three.steps[: len(two.steps)], two.steps)
        self.assertGreater(len(three.steps), len(two.steps) + 3)
        self.assertEqual([step.n for step in three.steps], list(range(1, len(three.steps) + 1)))
        letters: dict[str, tuple[float, float]] = {}
        for mark in three.marks:
            if isinstance(mark, Dot) and mark.shown and mark.name:
                self.assertNotIn(mark.name, letters, "one letter, one point")
                letters[mark.name] = (mark.x, mark.y)
        self.assertLess({"A", "B", "D", "E", "P", "Q", "C", "F1", "m"}, letters.keys())
        for step in three.steps[len(two.steps) :]:
            self.assertTrue(step.acts or step.text, "each is told from its own record")

    def test_it_lies_in_one_part_of_the_sheet_under_one_caption(self) -> None:
        plan = plan_of(self.folio, 0)
        boxes = {cell.box for cell in plan.cells if cell is not None}
        self.assertEqual(len(boxes), 1)
        page, said = sheet_page(self.folio, 0)
        self.assertEqual(said, [])
        words = " ".join(mark.text for mark in page.brief if isinstance(mark, Text))
        self.assertEqual(words.count("Then:"), 2)
        self.assertNotIn("lies over", advice_beside_others(self.folio, (0, 1)))
        self.assertEqual(words.count("Draw an ellipse"), 1)
        names = [mark.text for mark in page.marks if isinstance(mark, Text)]
        self.assertEqual(names.count("A"), 1)

    def test_what_it_goes_on_with_is_followed(self) -> None:
        wide = replace(self.folio.sheets[0].figures[0], givens={"major": "170", "minor": "90"})
        self.folio = register.replace_figure(self.folio, (0, 0), wide)
        for drawing in self.drawings():
            spot = next(mark for mark in drawing.marks if isinstance(mark, Dot) and mark.name == "B")
            self.assertAlmostEqual(spot.x, 85.0)
        self.folio = register.rename_figure(self.folio, (0, 0), "great arch")
        self.assertEqual(self.folio.sheets[0].figures[1].goes_on, "great arch")
        self.assertTrue(all(drawing.goes_on for drawing in self.drawings()[1:]))

    def test_where_a_letter_is_another_point_it_stands_by_itself(self) -> None:
        full = replace(self.folio.sheets[0].figures[1], left_out=())
        self.folio = register.replace_figure(self.folio, (0, 1), full)
        self.assertEqual([drawing.goes_on for drawing in self.drawings()], [False, True, False])
        one, two, three = self.drawings()
        self.assertEqual(in_the_way(two, three), ["C"], "the centre of curvature, and that of the circle")
        boxes = {cell.box for cell in plan_of(self.folio, 0).cells if cell is not None}
        self.assertEqual(len(boxes), 2)
        self.assertTrue(one.steps)

    def test_no_circles_and_no_forks(self) -> None:
        first, second, third = self.folio.sheets[0].figures
        odd = replace(self.folio.sheets[0], figures=(replace(first, goes_on=third.name), second, third))
        self.folio = replace(self.folio, sheets=(odd,))
        self.assertFalse(any(drawing.goes_on for drawing in self.drawings()))
        fork = replace(self.folio.sheets[0], figures=(first, second, replace(third, goes_on="arch")))
        self.folio = replace(self.folio, sheets=(fork,))
        self.assertEqual([drawing.goes_on for drawing in self.drawings()], [False, True, False])

    def test_only_what_has_its_measures_in_common_is_offered(self) -> None:
        self.assertEqual(
            register.continuations("conics/ellipse"),
            ["conics/ellipse-tangent-normal", "conics/ellipse-tangent-from-point", "conics/ellipse-touching-circle"],
        )
        for problem_id in catalogue.ids():
            for each in register.continuations(problem_id):
                arch = Figure(problem_id, catalogue.problem(problem_id).methods[0].name, name="first")
                folio, place = register.add_figure(folio_of(), arch, 0)
                folio, place = register.go_on(folio, place, each)
                made = folio.sheets[0].figures[1]
                self.assertGreater(sum(text.startswith("first.") for text in made.givens.values()), 1, (problem_id, each))


class Turned(unittest.TestCase):
    def test_a_turned_figure_is_the_same_figure_turned_and_says_so(self) -> None:
        rng = random.Random(8)
        for figure in some(rng, 6):
            turn = rng.choice((20.0, 90.0, -37.5, 180.0))
            plain, turned = (folio_of(replace(figure, turn=each)) for each in (0.0, turn))
            pages = [page_of(folio, (0, 0)) for folio in (plain, turned)]
            for block, at in pages[1].placements.items():
                self.assertAlmostEqual((at.angle - pages[0].placements[block].angle - turn) % 360, 0.0)
            left, low, right, high = turned.sheets[0].as_paper().frame
            a, b, c, d = lines(pages[1])
            self.assertTrue(left <= a and low <= b and c <= right and d <= high, figure.name)
            said = " ".join(mark.text for mark in pages[1].brief if isinstance(mark, Text))
            self.assertIn(f"{abs(turn):g}° {'anti' if turn > 0 else ''}clockwise of level", said)
            first, second = (certify_of(folio) for folio in (plain, turned))
            self.assertEqual(first, second, "its answers are what they were")


def certify_of(folio: Folio) -> list[tuple[str, object]]:
    figure = folio.sheets[0].figures[0]
    problem = catalogue.problem(figure.problem)
    school = conventions_of(folio, figure)
    proof = certify(problem, drawn(folio, figure).typed, problem.method(figure.method), school, figure.solution)
    return [(answer.name, answer.value) for answer in proof.answers]


class Index(unittest.TestCase):
    def test_it_says_what_the_catalogue_says(self) -> None:
        self.assertEqual(list(index.entries()), catalogue.ids())
        for problem_id in catalogue.ids():
            entry = index.described(catalogue.problem(problem_id))
            self.assertEqual(index.entries()[problem_id], entry, "run scripts/make_index.py")
            for name, words in entry["findings"].items():
                self.assertNotIn("_", words, name)
                self.assertRegex(words, "[a-z]{3}", name)
            self.assertEqual(len(set(entry["findings"].values())), len(entry["findings"]), problem_id)

    def test_it_is_read_without_loading_a_problem(self) -> None:
        import subprocess
        import sys

        code = (
            "from wisecompass.catalogue import index; import sys; index.title('loci/helix'); index.search_text('loci/helix')"
        )
        code += "; print(*[m for m in sys.modules if m.startswith('wisecompass.catalogue.')])"
        out = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout.split()
        self.assertEqual(out, ["wisecompass.catalogue.index"])


if __name__ == "__main__":
    unittest.main()
