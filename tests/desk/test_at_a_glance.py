"""What the sheet shows between a key and the drawing of it, and that nothing typed is lost in between."""

from __future__ import annotations

import unittest
from collections.abc import Iterator
from dataclasses import replace
from io import BytesIO
from typing import Any
from unittest.mock import patch

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from tests.core.random_bodies import parts
from tests.core.test_bodies import mesh
from tests.desk.test_helper import WithHelper
from wisecompass.arithmetic import ball
from wisecompass.catalogue import problem
from wisecompass.desk.parts_list import PartsList
from wisecompass.drafting.marks import Segment
from wisecompass.drafting.parts_text import lines_of
from wisecompass.drafting.pens import Pen
from wisecompass.drafting.solve import certify
from wisecompass.drafting.wanted import LetGo, heed, while_wanted
from wisecompass.folio import register, store
from wisecompass.folio.document import Figure
from wisecompass.folio.page import Page
from wisecompass.service import Request, Service, Task, Unpacker, prepared_for

TWELVE = (
    "box 120 80 12 at 0 0 0; box 30 40 50 at 10 20 12; box 20 20 60 at 15 30 0; box 40 30 35 at 50 10 12; "
    "wedge 25 30 20 at 50 45 12 rising right; box 12 50 40 at 95 15 12; less box 14 14 40 at 60 18 20; "
    "less box 60 8 10 at 0 36 40; wedge 20 20 25 at 75 45 12 rising back; box 25 12 20 at 60 66 12; "
    "less box 10 10 12 at 100 0 0; box 18 10 30 at 20 62 12"
)


class Typing(WithHelper):
    """A body of twelve parts, the number of one of which is typed."""

    problem_id = "solids/crates"

    def setUp(self) -> None:
        super().setUp()
        self.session.set_problem(self.problem_id)
        self.session.set_given("parts", TWELVE)
        self.until("the first proof", lambda: self.session.proving and self.is_at_rest)
        self.session.work.history.part()
        self.glances: list[int] = []
        self.session.glanced.connect(lambda: self.glances.append(1))

    @property
    def is_at_rest(self) -> bool:
        assert self.helper is not None
        session = self.session
        return session.certificate is not None and not session.letters_wait and not self.helper.busy

    def nudge(self, key: Qt.Key = Qt.Key.Key_Up) -> None:
        field = self.window.brief.fields["parts"]
        assert isinstance(field, PartsList)
        row = field.rows[3]
        row.setFocus()
        row.setCursorPosition(len("box 4"))
        QTest.keyClick(row, key)

    def fourth(self) -> str:
        return lines_of(self.session.figure.givens["parts"])[3]

    def lined_in(self) -> list[tuple[float, ...]]:
        page = self.session.glancing.page or self.session.page
        assert page is not None
        pens = (Pen.OUTLINE, Pen.HIDDEN)
        return [
            (mark.x1, mark.y1, mark.x2, mark.y2) for mark in page.marks if isinstance(mark, Segment) and mark.pen in pens
        ]

    def follow(self) -> None:
        standing = self.session._work.folio
        before = self.lined_in()
        self.nudge()
        self.assertEqual(len(self.glances), 1)
        self.assertIs(self.session._work.folio, standing)
        shown = self.lined_in()
        self.assertNotEqual(shown, before)
        paints = self.window.sheet.paints
        self.until("a paint", lambda: self.window.sheet.paints > paints, 5)
        self.until("the drawing", lambda: self.session.glancing.page is None, 5)
        self.assertEqual(self.fourth(), "box 41 30 35 at 50 10 12")
        self.assertEqual(lines_of(self.session.given_text("parts"))[3], "box 41 30 35 at 50 10 12")
        drawn = self.lined_in()
        under = [any(_between(piece[:2], line) and _between(piece[2:], line) for line in drawn) for piece in shown]
        self.assertGreater(sum(under), 0.95 * len(shown))  # the others have just come apart, or behind something


class Glances(Typing):
    def test_the_sheet_follows_before_the_folio(self) -> None:
        self.follow()

    def test_what_is_reckoned_first_is_told_again_in_the_pause(self) -> None:
        """The steps of what is drawn while somebody types have no acts; those that come with the letters have."""
        self.nudge()
        self.until("rest", lambda: self.session.glancing.page is None and self.is_at_rest)
        self.window.brief.counts.setText("as it was without acts")
        self.session.relettered.emit()
        self.assertIn("Reckon first: ", self.window.brief.counts.text())

    def test_the_brief_on_the_sheet_says_what_is_typed(self) -> None:
        self.nudge()
        page = self.session.glancing.page
        assert page is not None
        said = " ".join(getattr(mark, "text", "") for mark in page.brief)
        self.assertIn("box 41 30 35", said)

    def test_keys_in_a_row_are_one_change(self) -> None:
        self.session.glancing.took = 1.0  # the pause is long then, and no busy machine ends it
        for _ in range(5):
            self.nudge()
        self.assertEqual(len(self.glances), 5)
        self.assertEqual(self.fourth(), "box 45 30 35 at 50 10 12")  # asked for it, the folio takes it at once
        self.assertIsNone(self.session.glancing.page)
        self.session.undo()
        self.assertEqual(self.fourth(), "box 40 30 35 at 50 10 12")

    def test_the_cursor_stays_where_a_key_cannot_be_shown_at_a_glance(self) -> None:
        """What was shown at a glance is drawn first then, and the brief follows that: the line says what is typed now."""
        field = self.window.brief.fields["parts"]
        assert isinstance(field, PartsList)
        row = field.rows[3]
        row.setFocus()
        row.setCursorPosition(len("box 4"))
        with patch("wisecompass.desk.session.FOLLOW_WITHIN", 0.0):  # nothing waits for a pause
            for n, can in enumerate((True, False, True, False, False), 1):
                with patch.object(self.session.glancing, "takes", self.session.glancing.takes if can else lambda *_: False):
                    QTest.keyClick(row, Qt.Key.Key_Up)
                self.assertEqual((row.text(), row.cursorPosition()), (f"box {40 + n} 30 35 at 50 10 12", len("box 40")))

    def test_undo_turning_and_saving_take_what_is_typed_first(self) -> None:
        self.nudge()
        self.session.undo()
        self.assertEqual(self.fourth(), "box 40 30 35 at 50 10 12")
        self.session.redo()
        self.assertEqual(self.fourth(), "box 41 30 35 at 50 10 12")
        self.until("rest", lambda: self.is_at_rest)
        self.nudge()
        place = self.session.place
        self.session.turn_to(0, 0)
        self.session.turn_to(*place)
        self.assertEqual(self.fourth(), "box 42 30 35 at 50 10 12")
        self.until("rest", lambda: self.is_at_rest)
        self.nudge()
        path = self.folder / "kept.folio.json"
        self.session.work.save(path)
        self.assertIn("box 43 30 35 at 50 10 12", path.read_text())

    def test_what_was_asked_ahead_and_let_go_is_asked_again(self) -> None:
        self.session.glancing.took = 1.0  # the whole waits for the proof then, however busy the machine is
        with patch("wisecompass.desk.glancing.PROOF_WITHIN", 60.0):
            self.nudge()
            self.until("a question ahead", lambda: self.session.errands._ahead is not None, 20)
        self.session.undo()
        self.session.redo()
        self.assertEqual(self.fourth(), "box 41 30 35 at 50 10 12")
        self.until("its proof", lambda: self.session.certificate is not None, 30)

    def test_the_proof_is_said_before_the_whole_is_drawn(self) -> None:
        """The ledger says what is proved of what the sheet shows at a glance, and nothing is drawn for that."""
        told: list[tuple[bool, float, str]] = []

        def hear() -> None:
            assert self.session.certificate is not None
            volume = next(answer.value for answer in self.session.certificate.answers if answer.name == "volume")
            copied = next(row.copy for row in self.window.ledger.table.rows if row.left == "volume")
            told.append((self.session.glancing.page is not None, float(str(volume)), copied))

        self.session.glancing.took = 1.0  # so long does the whole take to draw that it waits
        self.session.proved_ahead.connect(hear)
        with patch("wisecompass.desk.glancing.PROOF_WITHIN", 60.0):
            self.nudge()
            self.assertIsNone(self.session.certificate)
            with self.session.looking():  # whatever else the desk does meanwhile does not take it
                self.until("the proof", lambda: told, 20)
            self.session._take_timer.start(0)
        at_a_glance, volume, copied = told[0]
        self.assertTrue(at_a_glance, "it is still shown at a glance")
        self.assertEqual(float(copied), volume)
        inside = mesh(parts(TWELVE.replace("box 40 30 35", "box 41 30 35"))).volume()
        self.assertAlmostEqual(volume, inside, 3)
        self.until("the drawing", lambda: self.session.glancing.page is None, 10)
        self.assertEqual(self.fourth(), "box 41 30 35 at 50 10 12")
        self.until("the same proof", lambda: self.session.certificate is not None, 10)

    def test_who_turns_away_between_drawing_and_laying_out_sees_the_other_figure(self) -> None:
        seen: list[tuple[str, str]] = []

        def look() -> None:
            drawing = self.session.drawing
            assert drawing is not None
            seen.append((drawing.problem.id, self.session.figure.problem))

        self.nudge()
        self.session._take_typed()
        self.assertIsNotNone(self.session._to_lay_out, "drawn, and not laid out")
        self.session.drawn.connect(look)
        self.session.turn_to(0, 0)
        self.app.processEvents()
        self.assertTrue(seen)
        for drawn, in_hand in seen:
            self.assertEqual(drawn, in_hand)

    def test_another_number_takes_the_first_one(self) -> None:
        self.nudge()
        self.session.set_given("views", "six")
        self.assertEqual(self.fourth(), "box 41 30 35 at 50 10 12")
        self.assertEqual(self.session.figure.givens["views"], "six")

    def test_what_is_no_body_is_refused_and_the_last_one_stands(self) -> None:
        self.nudge()
        text = "; ".join([*lines_of(TWELVE)[:3], "box 42 30", *lines_of(TWELVE)[4:]])
        self.session.set_given("parts", text)
        self.assertIsNone(self.session.glancing.page)
        self.assertIsNotNone(self.session.trouble)
        self.assertEqual(self.fourth(), "box 41 30 35 at 50 10 12")

    def test_a_condition_refuses_it_after_the_glance(self) -> None:
        lines = lines_of(TWELVE)
        text = "; ".join([*lines[:3], "box 40 30 0.001 at 50 10 12", *lines[4:]])
        self.session.set_given("parts", text)
        self.until("the refusal", lambda: self.session.trouble is not None, 10)
        self.assertEqual(self.fourth(), "box 40 30 35 at 50 10 12")

    def test_at_a_step_the_drawing_is_waited_for(self) -> None:
        self.session.go_to(3)
        self.nudge()
        self.assertEqual(self.glances, [])
        self.assertEqual(self.fourth(), "box 41 30 35 at 50 10 12")


class Pictures(Typing):
    problem_id = "pictorial/crates"

    def test_the_picture_follows_before_the_folio(self) -> None:
        self.follow()
        self.until("rest", lambda: self.is_at_rest)
        self.assertEqual(self.session.step, self.session.last_step + 1, "the whole sheet stands, in as many steps as it has")

    def test_another_number_takes_the_first_one(self) -> None:
        self.nudge()
        self.session.set_given("projection", "oblique-cabinet")
        self.assertEqual(self.fourth(), "box 41 30 35 at 50 10 12")
        self.assertIsNone(self.session.trouble)
        self.assertEqual(self.session.figure.givens["projection"], "oblique-cabinet")


class BesideOthers(WithHelper):
    """A body that shares its sheet: its caption says what is typed, at a glance and while letters are waited for."""

    folio = store.sample()

    def test_the_caption_says_what_is_typed(self) -> None:
        self.session.set_problem("solids/crates")
        self.assertGreater(len(self.session.sheet.figures), 1)
        assert self.helper is not None
        self.until("the first proof", lambda: self.session.certificate is not None and not self.session.letters_wait)
        field = self.window.brief.fields["parts"]
        assert isinstance(field, PartsList)
        row = field.rows[1]
        row.setFocus()
        row.setCursorPosition(len("box 3"))
        for k in (1, 2, 3):
            QTest.keyClick(row, Qt.Key.Key_Up)
            self.assertIn(f"box {36 + k} 36 26", self.said(self.session.glancing.page or self.session.page))
        self.assertIsNotNone(self.session.glancing.page)
        self.until("the drawing", lambda: self.session.glancing.page is None, 5)
        self.assertIn("box 39 36 26", self.said(self.session.page))

    def said(self, page: Page | None) -> str:
        assert page is not None
        return " ".join(getattr(mark, "text", "") for mark in page.brief)


class KeyAfterKey(Service):
    """Every proof is followed by a question about another figure."""

    def say(self, request: Request, kind: str, body: Any, last: bool = False) -> None:
        super().say(request, kind, body, last)
        if kind == "proof":
            n = request.number + 1
            self._newest = min(n, 1500)
            self._waiting.put(Request(n, "figure", n) if n <= 1500 else None)


class TypingOn(unittest.TestCase):
    def test_however_long_somebody_types_no_proof_stands_on_another(self) -> None:
        answers = BytesIO()
        service = KeyAfterKey(BytesIO(), answers)
        service._newest = 1
        service._waiting.put(Request(1, "figure", 1))
        with patch("wisecompass.service.about_figure", lambda n: iter([("proof", n)])):
            while (request := service._waiting.get()) is not None:
                service._answer(request)
        kinds = [reply.kind for reply in Unpacker().feed(answers.getvalue())]
        self.assertEqual(kinds, ["proof", "done"] * 1500)


class LettingGo(unittest.TestCase):
    def test_what_nobody_wants_is_let_go_between_two_steps(self) -> None:
        """A question that comes while a figure is being proved ends that, and is answered."""
        found = problem("tangency/arc-two-lines")
        typed, steps = found.read({}), [0]
        answers = BytesIO()
        service = Service(BytesIO(), answers)
        service._newest = 1

        def proved(n: int) -> Iterator[tuple[str, int]]:
            def count() -> None:
                steps[0] += 1
                if steps[0] == 3:  # the next key comes
                    service._newest = 2
                heed()

            with patch("wisecompass.drafting.recorder.heed", count):
                certify(found, typed, found.methods[0])
            yield "proof", n

        with patch("wisecompass.service.about_figure", proved):
            for n in (1, 2):
                service._answer(Request(n, "figure", n))
                if n == 1:
                    self.assertEqual(steps[0], 3, "no step more")
        told = [(reply.number, reply.kind) for reply in Unpacker().feed(answers.getvalue())]
        self.assertEqual(told, [(1, "done"), (2, "proof"), (2, "done")])
        self.assertEqual(ball.bits(), ball.WORKING_BITS)

    def test_other_questions_are_answered_whatever_is_typed(self) -> None:
        with while_wanted(lambda: False):
            self.assertRaises(LetGo, heed)
            with while_wanted():
                heed()


class Mistakes(unittest.TestCase):
    def test_are_drawn_while_nobody_asks_for_anything(self) -> None:
        figure = Figure("triangles/three-sides", "two arcs")
        folio, place = register.add_figure(store.empty(), figure, 0)
        service = Service(BytesIO(), BytesIO())
        drawn = []
        for waits in (True, False):
            task = Task.of(folio, place, replace(figure, givens={"base": "81" if waits else "82"}))
            if waits:
                service._waiting.put(None)
            else:
                service._waiting.get()
            service._answer(Request(1, "measurable", (task,)))
            drawn.append(not prepared_for(task).search.go_on())
        self.assertEqual(drawn, [False, True])


class EveryGlance(unittest.TestCase):
    def test_the_problems_of_bodies_have_one(self) -> None:
        for name in ("solids/crates", "pictorial/crates"):
            self.assertIsNotNone(problem(name).glance)


def _between(spot: tuple[float, ...], line: tuple[float, ...]) -> bool:
    """Whether a spot lies on a piece, within a hundredth of a mm of paper."""
    (x, y), (x1, y1, x2, y2) = spot, line
    dx, dy = x2 - x1, y2 - y1
    share = min(max(((x - x1) * dx + (y - y1) * dy) / (dx * dx + dy * dy), 0.0), 1.0)
    return abs(x1 + share * dx - x) < 0.01 and abs(y1 + share * dy - y) < 0.01


if __name__ == "__main__":
    unittest.main()
