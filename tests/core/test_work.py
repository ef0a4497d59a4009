"""Work in hand: its history, its file and its draft."""

from __future__ import annotations

import json
import os
import random
import signal
import tempfile
import time
import unittest
from dataclasses import replace
from pathlib import Path

from wisecompass import catalogue
from wisecompass.drafting.conventions import Units
from wisecompass.drafting.errors import BadDocument, WiseCompassError
from wisecompass.folio import register, store
from wisecompass.folio.document import Folio, LogEntry
from wisecompass.folio.drafts import Drafts
from wisecompass.folio.history import History
from wisecompass.folio.print import stems_of
from wisecompass.folio.work import Work

KILLS = int(os.environ.get("WISE_COMPASS_KILLS", "40"))


def named(folio: Folio, work: str) -> Folio:
    return replace(folio, work=work)


class Ways(unittest.TestCase):
    def test_back_and_forth_returns_the_very_same_folios(self) -> None:
        folio = store.sample()
        history = History(folio, (0, 0))
        states = [folio]
        for n in range(40):
            folio = named(folio, str(n))
            history.push(folio, (n % 8, 0), f"change {n}")
            states.append(folio)
        for state in reversed(states[:-1]):
            self.assertIs(history.undo()[0], state)
        self.assertFalse(history.can_undo)
        for state in states[1:]:
            self.assertIs(history.redo()[0], state)
        self.assertFalse(history.can_redo)

    def test_changes_of_one_thing_melt_and_others_do_not(self) -> None:
        folio = store.sample()
        history = History(folio, (0, 0))
        for text in "abc":
            history.push(named(folio, text), (0, 0), text, melt="work")
        self.assertIs(history.undo()[0], folio)
        history.redo()
        history.push(named(folio, "d"), (1, 0), "d", melt="work")
        self.assertEqual(history.undo()[0].work, "c")

    def test_a_logged_line_survives_undo(self) -> None:
        work = Work.on(store.sample())
        work.history.push(named(work.folio, "x"), (0, 0), "x")
        work.log(LogEntry("2026-01-01T00:00:00+00:00", "wrote a.pdf"))
        work.history.undo()
        self.assertEqual(work.folio.logbook[-1].what, "wrote a.pdf")
        self.assertFalse(work.changed, "a logged line alone is no change")

    def test_what_was_undone_is_gone_after_a_change(self) -> None:
        history = History(store.sample(), (0, 0))
        history.push(named(store.sample(), "a"), (0, 0), "a")
        history.undo()
        history.push(named(store.sample(), "b"), (0, 0), "b")
        self.assertFalse(history.can_redo)


class DraftsKept(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.drafts = Drafts(self.folder / "drafts")
        self.path = self.folder / "mine.folio.json"

    def changed(self, path: Path | None = None) -> Work:
        work = Work.on(store.sample(), path)
        work.history.push(named(work.folio, "changed"), (0, 0), "x")
        return work

    def test_a_draft_knows_its_file_and_counts_as_changed(self) -> None:
        known = store.save(store.sample(), self.path)
        work = Work.opened(self.path)
        work.history.push(named(work.folio, "changed"), (0, 0), "x")
        work.keep(self.drafts)
        self.assertEqual(self.drafts.left(), [], "it has an owner")
        work.leave()
        ((path, kept),) = self.drafts.left()
        self.assertEqual((kept.folio, kept.file, kept.known), (named(store.sample(), "changed"), self.path, known))
        taken = self.drafts.take_up(path)
        assert taken is not None
        again = Work.taken_up(*taken)
        self.assertTrue(again.changed)
        self.assertEqual(again.path, self.path)
        again.leave()
        self.assertEqual(len(self.drafts.left()), 1, "looking at it does not throw it away")

    def test_it_goes_with_a_save_and_not_before(self) -> None:
        work = self.changed()
        work.keep(self.drafts)
        other = Work.on(store.sample())
        other.keep(self.drafts)
        other.leave()
        work.keep(self.drafts)
        work.save(self.path)
        work.leave()
        self.assertEqual(self.drafts.left(), [])
        self.assertEqual(store.load(self.path).work, "changed")

    def test_two_windows_on_one_file_have_two_drafts(self) -> None:
        store.save(store.sample(), self.path)
        works = [Work.opened(self.path) for _ in range(2)]
        for n, work in enumerate(works):
            work.history.push(named(work.folio, f"window {n}"), (0, 0), "x")
            work.keep(self.drafts)
            work.leave()
        self.assertEqual({kept.folio.work for _, kept in self.drafts.left()}, {"window 0", "window 1"})

    def test_the_second_window_does_not_write_over_the_first(self) -> None:
        store.save(store.sample(), self.path)
        first, second = Work.opened(self.path), Work.opened(self.path)
        for work, name in ((first, "one"), (second, "two")):
            work.history.push(named(work.folio, name), (0, 0), name)
        first.save(self.path)
        with self.assertRaises(store.ChangedMeanwhile):
            second.save(self.path)
        self.assertTrue(second.changed)
        second.save(self.path, over=True)
        self.assertEqual(store.load(self.path).work, "two")

    def test_a_draft_is_taken_up_once(self) -> None:
        work = self.changed()
        work.keep(self.drafts)
        work.leave()
        ((path, _),) = self.drafts.left()
        self.assertIsNotNone(self.drafts.take_up(path))
        self.assertIsNone(self.drafts.take_up(path))
        self.drafts.discard(path)
        self.assertTrue(path.exists(), "nobody throws away what another window works on")

    def test_a_draft_that_cannot_be_read_is_left_where_it_is(self) -> None:
        self.drafts.folder.mkdir()
        broken = self.drafts.folder / "1-x.draft.json"
        broken.write_text("{")
        self.assertEqual(self.drafts.left(), [])
        self.assertTrue(broken.exists())

    def test_kills_at_random_moments_of_typing(self) -> None:
        """A process types and keeps drafts; killed at any moment it leaves a draft no older than what it kept last."""
        rng = random.Random(5)
        for kill in range(KILLS):
            told, tell = os.pipe()
            child = os.fork()
            if child == 0:
                try:
                    work, n = Work.on(store.sample()), 0
                    while True:
                        n += 1
                        work.history.push(named(work.folio, str(n)), (0, 0), "x", melt="work")
                        work.keep(self.drafts)
                        os.write(tell, n.to_bytes(4, "big"))
                finally:
                    os._exit(0)
            time.sleep(rng.uniform(0.02, 0.08))
            os.kill(child, signal.SIGKILL)
            os.waitpid(child, 0)
            os.close(tell)
            with os.fdopen(told, "rb") as pipe:
                last = int.from_bytes(pipe.read()[-4:], "big")
            left = self.drafts.left()
            if last:
                self.assertEqual(len(left), 1, kill)
                self.assertIn(int(left[0][1].folio.work), (last, last + 1), kill)
            for path, _ in left:
                self.drafts.discard(path)


class Register(unittest.TestCase):
    """Sheets and figures added, named, moved, copied and thrown away."""

    def test_the_same_problem_many_times_with_names_of_their_own(self) -> None:
        folio = store.empty("Barn")
        for _ in range(3):
            folio, _ = register.add_figure(folio, register.fresh_figure("conics/ellipse", Units.MM), 0)
        self.assertEqual(
            register.figure_names(folio), ["ellipse on its axes", "ellipse on its axes 2", "ellipse on its axes 3"]
        )

    def test_nothing_of_the_sample_is_in_a_new_folio(self) -> None:
        text = store.dumps(store.empty())
        for word in ("Bramlow", "BM-", "mill"):
            self.assertNotIn(word, text)

    def test_names_and_numbers_are_refused_where_they_are_taken(self) -> None:
        folio = store.sample()
        with self.assertRaisesRegex(BadDocument, "another figure"):
            register.rename_figure(folio, (0, 0), "octagon")
        twice = register.renumber_sheet(folio, 0, "BM-02")
        self.assertRegex(register.same_number(twice, 0), "two sheets have the number BM-02.*free is BM-30")
        self.assertEqual(register.same_number(folio, 0), "")
        self.assertEqual(len(set(stems_of(twice).values())), len(twice.sheets), "a file for each")
        for text in ("", "  ", "\n", "x" * 61):
            with self.assertRaises(BadDocument):
                register.rename_figure(folio, (0, 0), text)
        self.assertEqual(register.rename_figure(folio, (0, 0), "a\tb\x07").sheets[0].figures[0].name, "a b")

    def test_numbers_go_on_where_they_are_free(self) -> None:
        self.assertEqual(register.next_number("BM-04", ["BM-04", "BM-05"]), "BM-06")
        self.assertEqual(register.next_number("9", ["9"]), "10")
        self.assertEqual(register.next_number("", []), "1")
        self.assertEqual(register.next_number("A", ["A"]), "A 2")

    def test_any_walk_through_the_register_keeps_every_figure_and_every_name(self) -> None:
        rng = random.Random(8)
        folio, place = store.sample(), (0, 0)
        ids = catalogue.ids()
        for _ in range(400):
            before = sorted(register.figure_names(folio))
            s = place[0]
            act = rng.choice(("add", "sheet", "copy", "copy sheet", "move", "nudge", "move sheet", "delete", "delete sheet"))
            has = bool(folio.sheets[s].figures)
            if act == "add":
                figure = register.fresh_figure(rng.choice(ids), Units.MM)
                folio, place = register.add_figure(folio, figure, s)
            elif act == "sheet":
                folio, place = register.add_sheet(folio, s)
            elif act == "copy" and has:
                folio, place = register.duplicate_figure(folio, place)
            elif act == "copy sheet" and len(folio.sheets) < 12:
                folio, place = register.duplicate_sheet(folio, s)
            elif act == "move" and has:
                folio, place = register.move_figure(folio, place, (rng.randrange(len(folio.sheets)), rng.randrange(6)))
                self.assertEqual(sorted(register.figure_names(folio)), before)
            elif act == "nudge" and has:
                folio, place = register.nudge_figure(folio, place, rng.choice((1, -1)))
                self.assertEqual(sorted(register.figure_names(folio)), before)
            elif act == "move sheet":
                folio, place = register.move_sheet(folio, s, rng.randrange(len(folio.sheets)))
                self.assertEqual(sorted(register.figure_names(folio)), before)
            elif act == "delete" and has:
                folio, place = register.delete_figure(folio, place)
                self.assertEqual(len(register.figure_names(folio)), len(before) - 1)
            elif act == "delete sheet":
                folio, place = register.delete_sheet(folio, s)
            names = register.figure_names(folio)
            self.assertEqual(len(set(names)), len(names), act)
            self.assertTrue(folio.sheets)
            self.assertLess(place[0], len(folio.sheets))
            self.assertLess(place[1], max(1, len(folio.sheets[place[0]].figures)))
        self.assertEqual(store.checked(json.loads(store.dumps(folio)), "walk"), folio)


class OlderVersions(unittest.TestCase):
    def test_version_1_is_read_and_gets_names(self) -> None:
        figure = {
            "problem": "conics/ellipse",
            "method": "trammel",
            "givens": {},
            "solution": 1,
            "scale": "fit",
            "places": {},
        }
        sheet = {"name": "Arch", "number": "", "figures": [figure, figure], "paper": "A4", "landscape": True}
        data = {"format": "wise-compass folio", "version": 1, "work": "Old", "sheets": [sheet]}
        folio = store.checked(data, "old")
        self.assertEqual(folio.version, 4)
        self.assertEqual(register.figure_names(folio), ["ellipse on its axes", "ellipse on its axes 2"])
        self.assertEqual([(sheet.name, len(sheet.figures)) for sheet in folio.sheets], [("Arch", 1)] * 2, "a page each")

    def test_what_cannot_be_is_refused_when_it_is_read(self) -> None:
        figure = {"problem": "conics/ellipse", "method": "trammel"}
        for change, words in (
            ({"scale": "bogus"}, "neither"),
            ({"scale": "1000000:1"}, "beyond 1:10000 and 1000:1"),
            ({"method": "x" * 5000}, "at most 400 characters"),
            ({"method": "x" * 300}, "no method"),
        ):
            sheet = {"name": "a", "number": "b", "figures": [{**figure, **change}]}
            with self.assertRaisesRegex(WiseCompassError, words) as caught:
                store.checked({"format": "wise-compass folio", "version": 2, "work": "w", "sheets": [sheet]}, "f")
            self.assertLess(len(str(caught.exception)), 420)

    def test_control_characters_in_names_are_taken_for_spaces(self) -> None:
        sheet = {"name": "a\u0007b\nc", "number": "\u202e1", "figures": []}
        folio = store.checked({"format": "wise-compass folio", "version": 2, "work": "w\tx", "sheets": [sheet]}, "f")
        self.assertEqual((folio.work, folio.sheets[0].name, folio.sheets[0].number), ("w x", "a b c", "1"))


if __name__ == "__main__":
    unittest.main()
