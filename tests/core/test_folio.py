"""Folios: what is written comes back, what cannot be trusted is refused, and nothing is lost."""

from __future__ import annotations

import json
import os
import stat
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from typing import ClassVar

from wisecompass import catalogue
from wisecompass.drafting.conventions import Numbering, Vocabulary
from wisecompass.drafting.errors import BadDocument, BadGiven
from wisecompass.drafting.marks import Text
from wisecompass.folio import register, store
from wisecompass.folio.document import Figure, Folio, LogEntry, Settings, Sheet
from wisecompass.folio.print import leaves_of, page_of, read_scale, sheet_page, stems_of
from wisecompass.folio.register import replace_figure


class InFolder(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = tempfile.TemporaryDirectory()
        self.addCleanup(self.folder.cleanup)
        self.path = Path(self.folder.name) / "work.folio.json"

    def write(self, **changes: object) -> None:
        data = json.loads(store.dumps(store.sample())) | changes
        self.path.write_text(json.dumps(data), encoding="utf-8")


class Saving(InFolder):
    def test_what_is_saved_comes_back(self) -> None:
        folio = store.sample()
        folio = replace(folio, logbook=(LogEntry("2026-01-02T03:04:05+00:00", "wrote BM-02.pdf"),))
        store.save(folio, self.path)
        self.assertEqual(store.load(self.path), folio)

    def test_others_may_read_what_they_could_read_before(self) -> None:
        store.save(store.sample(), self.path)
        mask = os.umask(0)
        os.umask(mask)
        self.assertEqual(stat.S_IMODE(self.path.stat().st_mode), 0o666 & ~mask)
        self.path.chmod(0o640)
        store.save(store.sample(), self.path)
        self.assertEqual(stat.S_IMODE(self.path.stat().st_mode), 0o640)

    def test_one_backup_is_kept(self) -> None:
        first = store.sample()
        second, third = replace(first, work="second"), replace(first, work="third")
        for folio in (first, second, third):
            store.save(folio, self.path)
        backup = self.path.with_name(self.path.name + ".backup")
        self.assertEqual(store.load(self.path).work, "third")
        self.assertEqual(json.loads(backup.read_text())["work"], "second")
        self.assertEqual(sorted(p.name for p in self.path.parent.iterdir()), [self.path.name, backup.name])

    def test_a_place_that_cannot_be_written_is_named_and_nothing_is_lost(self) -> None:
        with self.assertRaisesRegex(BadDocument, "cannot be written"):
            store.save(store.sample(), Path(self.folder.name) / "no" / "such" / "x.folio.json")
        store.save(store.sample(), self.path)
        before = self.path.read_bytes()
        original = os.replace
        os.replace = self._no_space  # type: ignore[assignment]
        try:
            with self.assertRaisesRegex(BadDocument, "No space.*untouched"):
                store.save(replace(store.sample(), work="other"), self.path)
        finally:
            os.replace = original
        self.assertEqual(self.path.read_bytes(), before)
        self.assertEqual([p.name for p in self.path.parent.iterdir() if p.name.startswith(".")], [])

    @staticmethod
    def _no_space(*_: object) -> None:
        raise OSError(28, "No space left on device")

    def test_typed_numbers_stay_as_typed(self) -> None:
        figure = Figure("tangency/arc-two-lines", "swung arcs", {"angle": "145/2", "radius": "1 1/2 in"})
        store.save(Folio("w", (Sheet("s", "1", (figure,)),)), self.path)
        again = store.load(self.path).sheets[0].figures[0]
        self.assertEqual(again.givens, {"angle": "145/2", "radius": "1 1/2 in"})


class Loading(InFolder):
    def refuses(self, words: str) -> None:
        before = self.path.read_bytes() if self.path.exists() else b""
        with self.assertRaisesRegex(BadDocument, words):
            store.load(self.path)
        if before:
            self.assertEqual(self.path.read_bytes(), before)

    def test_missing_and_unreadable_files(self) -> None:
        self.refuses("cannot be read: No such file")
        self.path.mkdir()
        with self.assertRaisesRegex(BadDocument, "cannot be read"):
            store.load(self.path)

    @unittest.skipIf(os.geteuid() == 0, "root reads everything")
    def test_a_file_without_leave_to_read(self) -> None:
        self.write()
        self.path.chmod(stat.S_IWUSR)
        self.refuses("Permission denied")

    def test_broken_text_names_line_and_column(self) -> None:
        self.path.write_text('{"format": "wise-compass folio",\n "version": }')
        self.refuses("line 2, column 13")

    def test_other_json_is_not_a_folio(self) -> None:
        for text in ("[]", "3", '{"format": "other"}', "null"):
            self.path.write_text(text)
            self.refuses("not a folio")

    def test_bytes_that_are_no_text(self) -> None:
        self.path.write_bytes(b'{"format": "\xff"}')
        self.refuses("not UTF-8.*byte 12")

    def test_a_newer_version_is_left_alone(self) -> None:
        self.write(version=9)
        self.refuses("newer Wise Compass .version 9; this one reads version 4")

    def test_an_enormous_file_is_not_even_parsed(self) -> None:
        with self.path.open("wb") as handle:
            handle.truncate(store.LARGEST_FILE + 1)
        self.refuses("too large for a folio: more than 16.7772 MB")

    def test_too_deep_nesting(self) -> None:
        self.path.write_text("[" * 200_000 + "]" * 200_000)
        self.refuses("nested too deeply")

    def test_wrong_shapes_name_their_place(self) -> None:
        self.write(sheets=[{"name": "a", "number": "1", "figures": [{"problem": 3, "method": "x"}]}])
        self.refuses("sheets, item 1, figures, item 1, problem")
        self.write(colour="red")
        self.refuses("colour")
        self.write(sheets=[{"name": "a", "number": "1", "figures": [], "paper": "B5"}])
        self.refuses("sheets, item 1, paper")

    FIGURE: ClassVar = {"problem": "tangency/arc-two-lines", "method": "swung arcs", "givens": {"angle": "200"}}

    def test_figures_that_cannot_be_drawn_are_kept_and_name_their_place(self) -> None:
        for change, words in (({}, "angle between the edges 200°"), ({"problem": "x/y"}, "there is no problem “x/y”")):
            self.write(sheets=[{"name": "a", "number": "1", "figures": [self.FIGURE | change]}])
            folio = store.load(self.path)
            self.assertEqual(store.checked(json.loads(store.dumps(folio)), "again"), folio)
            with self.assertRaisesRegex(BadDocument, words):
                page_of(folio, (0, 0))
            page, said = sheet_page(folio, 0)
            self.assertRegex(" ".join(said), f"1, .*{words}")
            self.assertTrue(any(isinstance(mark, Text) and "cannot be drawn" in mark.text for mark in page.brief))

    def test_a_method_or_a_given_that_its_problem_has_not_names_its_place(self) -> None:
        for change, words in (({"method": "swords"}, "no method"), ({"givens": {"girth": "3"}}, "no given")):
            self.write(sheets=[{"name": "a", "number": "1", "figures": [self.FIGURE | change]}])
            self.refuses(f"sheet 1, figure 1: .*{words}")


class Sample(unittest.TestCase):
    def test_ships_a_sheet_for_each_problem_and_passes_its_own_checks(self) -> None:
        folio = store.load(store.SAMPLE)
        self.assertEqual(folio, store.sample())
        shown = {figure.problem for sheet in folio.sheets for figure in sheet.figures}
        families = {problem_id.split("/")[0] for problem_id in shown}
        self.assertLessEqual({"polygons", "tangency", "conics", "space", "developments", "pictorial"}, families)
        self.assertLessEqual(shown, set(catalogue.ids()))
        self.assertEqual(folio.work, "Bramlow Mill")

    def test_every_sheet_has_a_page(self) -> None:
        folio = store.sample()
        for s in leaves_of(folio):
            page, said = sheet_page(folio, s)
            self.assertTrue(page.marks)
            self.assertEqual(said, [])
        stems = stems_of(folio)
        self.assertEqual(len(set(stems.values())), len(folio.sheets))

    def test_schema_describes_the_sample(self) -> None:
        schema = store.schema()
        self.assertEqual(schema["title"], "Folio")
        self.assertLessEqual({"work", "sheets"}, set(schema["required"]))

    def test_the_schema_file_is_the_schema(self) -> None:
        shipped = json.loads((store.SAMPLE.parent / "folio.schema.json").read_text())
        self.assertEqual(shipped, store.schema())


class Scales(unittest.TestCase):
    def test_ratios(self) -> None:
        self.assertIsNone(read_scale("fit"))
        self.assertEqual(read_scale("1:2"), read_scale(" 2 : 4 "))
        self.assertEqual(float(read_scale("2.5:1") or 0), 2.5)
        for bad in ("", "2", "1:0", "a:b", "-1:2"):
            with self.assertRaises(BadGiven):
                read_scale(bad)

    def test_a_fixed_scale_is_kept(self) -> None:
        folio = store.sample()
        s, f = register.place_of(folio, "sill blend")
        figure = folio.sheets[s].figures[f]
        page = page_of(replace_figure(folio, (s, f), replace(figure, scale="1:1")), (s, f))
        self.assertEqual(page.scale, 1)

    def test_conventions_reach_the_page(self) -> None:
        from wisecompass.drafting.conventions import Naming, Projection

        folio = store.sample()
        place = next((s, 0) for s, sheet in enumerate(folio.sheets) if sheet.figures[0].problem.startswith("space"))
        third = replace(folio, conventions=Settings(Projection.THIRD, Naming.INDICES))
        first_page, third_page = (page_of(f, place) for f in (folio, third))
        letters = [{m.text for m in page.marks if isinstance(m, Text)} for page in (first_page, third_page)]
        self.assertLessEqual({"a′", "a", "b′", "b"}, letters[0])
        self.assertLessEqual({"A", "A₁", "B", "B₁"}, letters[1])
        self.assertNotEqual(first_page.furniture, third_page.furniture)


class LaterAdditions(InFolder):
    def test_a_folio_from_before_views_could_be_dragged_opens(self) -> None:
        data = json.loads(store.SAMPLE.read_text())
        for sheet in data["sheets"]:
            for figure in sheet["figures"]:
                figure.pop("places", None)
        data["conventions"] = {"projection": "third", "naming": "indices", "units": "in"}
        self.path.write_text(json.dumps(data))
        folio = store.load(self.path)
        self.assertEqual(folio.sheets[0].figures[0].places, {})
        self.assertEqual(folio.conventions.as_conventions().first_number, 0)

    def test_places_and_schools_come_back(self) -> None:
        sample = store.sample()
        sheet = next(s for s in sample.sheets if s.figures[0].problem.startswith("space"))
        figure = replace(sheet.figures[0], places={"1": -24.5})
        settings = replace(sample.conventions, numbering=Numbering.FROM_1, vocabulary=Vocabulary.PLANS)
        folio = replace(sample, sheets=(replace(sheet, figures=(figure,)),), conventions=settings)
        store.save(folio, self.path)
        self.assertEqual(store.load(self.path), folio)

    def test_places_must_be_numbers(self) -> None:
        data = json.loads(store.SAMPLE.read_text())
        data["sheets"][0]["figures"][0]["places"] = {"1": "far"}
        self.path.write_text(json.dumps(data))
        with self.assertRaisesRegex(BadDocument, "places"):
            store.load(self.path)


if __name__ == "__main__":
    unittest.main()
